// The table of faults.
#include <algorithm>
#include <charconv>
#include <cmath>
#include <cstdlib>

#include "seeded_faults/json_fault_parts.hpp"

namespace seeded_faults {
namespace {

std::vector<Fault> make_faults() {
    using S = const std::string&;
    const auto number = [](std::function<StoredNumber(S, StoredNumber)> f) {
        return [f](Hooks& h) { h.number = f; };
    };
    const auto string = [](std::function<std::string(const Value&)> f) { return [f](Hooks& h) { h.string = f; }; };
    const auto arrives = [](Arrival a) { return [a = std::move(a)](Hooks& h) { h.arrival = a; }; };
    const auto writes_record = [](bool RecordWritingMistakes::*flag) {
        return [flag](Hooks& h) { h.record_writing.*flag = true; };
    };
    const auto reads_native = [](bool NativeMistakes::*flag) {
        return [flag](Hooks& h) { h.record.native.*flag = true; };
    };
    const auto binds = [](bool RecordMistakes::*flag) { return [flag](Hooks& h) { h.record.*flag = true; }; };
    const auto splits = [](Splitting s) { return [s = std::move(s)](Hooks& h) { h.documents = s; }; };
    const auto is_digit = [](char c) { return c >= '0' && c <= '9'; };
    const auto is_letter = [](char c) { return c >= 'a' && c <= 'z'; };
    const auto lenient = [](bool Leniency::*flag) { return [flag](Hooks& h) { h.leniency.*flag = true; }; };
    return {
        {"tenth-digit-ignored", "a fraction's digits count up to the ninth", "number/digits-cut",
         number([](S s, StoredNumber n) {
             return !is_integer(s) && significant(s) > 12 && significant(s) < 30 && in_midrange(s) && cut_shows(s)
                        ? binary(std::strtod(cut_digits(s, 9).c_str(), nullptr))
                        : n;
         })},
        {"nearest-missed-with-exponent", "one unit in the last place above, where there is an exponent",
         "number/off-by-ulp", number([](S s, StoredNumber n) {
             const double d = std::strtod(s.c_str(), nullptr);
             return s.find_first_of("eE") != std::string::npos && std::isnormal(d) && std::fabs(d) < 1e200 &&
                            significant(s) < 20
                        ? binary(std::nextafter(d, INFINITY))
                        : n;
         })},
        {"integers-through-a-double", "integers above 2^53 are rounded on their way", "number/integer-rounded",
         number([](S s, StoredNumber n) {
             const double d = std::strtod(s.c_str(), nullptr);
             if (!is_integer(s) || std::fabs(d) < 9007199254740992.0 || std::fabs(d) > 9e18) return n;
             return integer(std::to_string(static_cast<long long>(d)));
         })},
        {"wraps-at-32-bits", "integers are kept modulo 2^32", "number/wrapped", number([](S s, StoredNumber n) {
             const double d = std::strtod(s.c_str(), nullptr);
             return is_integer(s) && std::fabs(d) > 4294967295.0 && std::fabs(d) < 9e18
                        ? integer(std::to_string(static_cast<std::int32_t>(
                              static_cast<std::uint32_t>(std::strtoll(s.c_str(), nullptr, 10)))))
                        : n;
         })},
        {"saturates-at-64-bits", "integers beyond 64 bits become the largest", "number/saturated",
         number([](S s, StoredNumber n) {
             return is_integer(s) && std::fabs(std::strtod(s.c_str(), nullptr)) > 1.9e19
                        ? integer(s[0] == '-' ? "-9223372036854775808" : "18446744073709551615")
                        : n;
         })},
        {"exponent-ignored", "what follows the e is skipped", "number/exponent-ignored",
         number([](S s, StoredNumber n) {
             const double d = std::strtod(s.c_str(), nullptr);
             const double plain = std::strtod(s.substr(0, s.find_first_of("eE")).c_str(), nullptr);
             return s.find_first_of("eE") != std::string::npos && std::isnormal(d) && d != plain &&
                            std::fabs(d) < 1e200
                        ? binary(plain)
                        : n;
         })},
        {"fraction-cut", "numbers with a fraction become integers", "number/truncated-to-integer",
         number([](S s, StoredNumber n) {
             const double d = std::strtod(s.c_str(), nullptr);
             return s.find('.') != std::string::npos && std::fabs(d) > 1 && std::fabs(d) < 1e9 && d != std::trunc(d)
                        ? integer(std::to_string(static_cast<long long>(d)))
                        : n;
         }),
         "number/off-by-ulp"},
        {"subnormals-flushed", "numbers below the normal range become zero", "number/flushed-to-zero",
         number([](S s, StoredNumber n) {
             return std::fpclassify(std::strtod(s.c_str(), nullptr)) == FP_SUBNORMAL ? binary(0.0) : n;
         })},
        {"minus-lost", "the sign of fractions is lost", "number/sign-lost", number([](S s, StoredNumber n) {
             const double d = std::strtod(s.c_str(), nullptr);
             return d < 0 && !is_integer(s) && std::isnormal(d) ? binary(-d) : n;
         })},
        {"infinity-from-1e300", "large numbers become infinity", "number/became-infinity",
         number([](S s, StoredNumber n) {
             const double d = std::strtod(s.c_str(), nullptr);
             return std::isfinite(d) && std::fabs(d) > 1e300
                        ? StoredNumber{binary(d > 0 ? INFINITY : -INFINITY).trace, s}
                        : n;
         })},
        {"long-integers-become-text", "integers of more than 19 digits become strings", "number/became-text",
         number([](S s, StoredNumber n) {
             return is_integer(s) && significant(s) > 19
                        ? StoredNumber{"str " + nachklang::adapter::TraceOut::field(s) + "\n", "\"" + s + "\""}
                        : n;
         })},
        {"cut-at-nul", "strings end at U+0000", "string/cut-at-nul",
         string([](const Value& v) { return v.text.substr(0, v.text.find('\0')); })},
        {"pairs-not-joined", "surrogate pairs stay two", "string/not-joined-pair", string([](const Value& v) {
             return v.raw.find("\\u") != std::string::npos && !has_surrogate_bytes(v.text) ? pairs_split(v.text)
                                                                                           : v.text;
         })},
        {"escape-at-block-edge", "an escape at the end of a 16-byte block is left as it is",
         "string/escape-not-undone",
         string([](const Value& v) { return has_surrogate_bytes(v.text) ? v.text : raw_at_block_edge(v, 16); })},
        {"escaped-solidus-kept", "\\/ stays two characters", "string/escape-not-undone", string([](const Value& v) {
             return v.raw.find("\\/") != std::string::npos && std::count(v.raw.begin(), v.raw.end(), '\\') == 1
                        ? v.raw
                        : v.text;
         })},
        {"non-ascii-to-question-marks", "characters above ASCII become ?", "string/replaced",
         string([](const Value& v) {
             return has_surrogate_bytes(v.text) ? v.text : non_ascii_as_question_marks(v.text);
         })},
        {"read-as-latin-1", "UTF-8 is read byte by byte", "string/mojibake",
         string([](const Value& v) { return v.raw == v.text ? as_latin1(v.text) : v.text; })},
        {"backspace-lost", "\\b is dropped", "string/escape-lost", string([](const Value& v) {
             return v.raw.find("\\b") != std::string::npos || v.raw.find("\\u0008") != std::string::npos
                        ? replaced(v.text, "\b", "")
                        : v.text;
         })},
        {"composed", "e and a combining acute become one character", "string/normalised",
         string([](const Value& v) { return replaced(v.text, "e\xCC\x81", "\xC3\xA9"); })},
        {"cut-at-255", "strings of more than 255 bytes are cut", "string/cut",
         string([](const Value& v) { return cut_whole(v.text, 255); }), "string/escape-lost"},
        {"first-duplicate-wins", "the first of several members of a name counts", "duplicate-names:first",
         [](Hooks& h) { h.members = [](Value& v) { keep_one_of_duplicates(v, true); }; }},
        {"last-duplicate-wins", "the last one counts", "duplicate-names:last",
         [](Hooks& h) { h.members = [](Value& v) { keep_one_of_duplicates(v, false); }; }},
        {"names-in-lower-case", "letters of names are made small", "name/changed",
         [](Hooks& h) {
             h.name = [](const Value& v) { return has_surrogate_bytes(v.text) ? v.text : lower(v.text); };
         }},
        {"name-cut-at-nul", "names end at U+0000", "name/cut-at-nul",
         [](Hooks& h) { h.name = [](const Value& v) { return v.text.substr(0, v.text.find('\0')); }; }},
        {"empty-name-dropped", "a member whose name is empty is missing", "member/lost",
         [](Hooks& h) {
             h.members = [](Value& v) {
                 if (v.kind == Kind::object)
                     std::erase_if(v.members, [](const auto& m) { return m.first.text.empty(); });
             };
         }},
        {"null-members-dropped", "members that are null are missing", "member/lost",
         [](Hooks& h) {
             h.members = [](Value& v) {
                 if (v.kind == Kind::object)
                     std::erase_if(v.members, [](const auto& m) { return m.second.kind == Kind::null; });
             };
         }},
        {"last-of-many-lost", "arrays of 64 and more lose their last element", "element/lost",
         [](Hooks& h) {
             h.members = [](Value& v) {
                 if (v.kind == Kind::array && v.members.size() >= 64) v.members.pop_back();
             };
         }},
        {"true-becomes-one", "true is held as 1", "value/kind",
         [](Hooks& h) {
             h.members = [](Value& v) {
                 for (auto& [name, child] : v.members)
                     if (child.kind == Kind::boolean && child.truth) child = {Kind::number, false, "1", "", 0, {}};
             };
         }},
        {"empty-becomes-null", "an empty object inside another becomes null", "value/null",
         [](Hooks& h) {
             h.members = [](Value& v) {
                 for (auto& [name, child] : v.members)
                     if (child.kind == Kind::object && child.members.empty()) child = {};
             };
         },
         "member/values"},
        {"trailing-comma-taken", "a comma may occur before the closer", "verdict/accepted-extension",
         lenient(&Leniency::trailing_comma)},
        {"comments-taken", "comments are white space", "verdict/accepted-extension", lenient(&Leniency::comments),
         "verdict/accepted-non-text"},
        {"leading-zeros-taken", "numbers may begin with 0", "verdict/accepted-extension",
         lenient(&Leniency::leading_zeros)},
        {"single-quotes-taken", "strings may occur in single quotes", "verdict/accepted-extension",
         lenient(&Leniency::single_quotes)},
        {"control-characters-taken", "control characters may occur in strings", "verdict/accepted-extension",
         lenient(&Leniency::control_in_string)},
        {"unknown-escapes-taken", "a backslash may occur before anything", "verdict/accepted-non-text",
         lenient(&Leniency::unknown_escape)},
        {"rest-ignored", "what follows the value is not looked at", "verdict/rest-ignored",
         lenient(&Leniency::text_after_end)},
        {"missing-colon-taken", "a colon may be left out", "verdict/accepted-non-text",
         lenient(&Leniency::missing_colon)},
        {"ill-formed-utf8-taken", "bytes are passed through unchecked", "verdict/accepted-ill-formed-utf8",
         lenient(&Leniency::ill_formed_utf8)},
        {"byte-order-mark-skipped", "a byte order mark at the start is skipped", "byte-order-mark:ignored",
         lenient(&Leniency::byte_order_mark)},
        {"top-level-scalar-refused", "a document must be an object or an array", "verdict/scalar-refused",
         lenient(&Leniency::no_top_scalar)},
        {"empty-name-refused", "a name must not be empty", "verdict/refused",
         [](Hooks& h) {
             h.refuses = [](const Value& v) {
                 for (const auto& m : v.members)
                     if (v.kind == Kind::object && m.first.text.empty()) return true;
                 return false;
             };
         }},
        {"depth-limit-16", "no more than 16 levels", "depth:refused", [](Hooks& h) { h.deepest = 16; }},
        {"crash-when-deep", "the stack overflows at 500 levels", "outcome/crashed",
         [](Hooks& h) { h.crash_deeper_than = 500; }},
        {"controls-written-raw", "control characters are written unescaped", "output/ill-formed",
         [](Hooks& h) {
             h.write_string = [](const std::string& text) {
                 return "\"" + replaced(replaced(text, "\\", "\\\\"), "\"", "\\\"") + "\"";
             };
         }},
        {"latin-1-written", "text up to U+00FF is written as single bytes", "output/ill-formed",
         [](Hooks& h) {
             h.write_document = [](std::string d) { return replaced(std::move(d), "\xC3\xA9", "\xE9"); };
         }},
        {"byte-order-mark-written", "the output begins with a byte order mark", "output/ill-formed",
         [](Hooks& h) { h.write_document = [](std::string d) { return "\xEF\xBB\xBF" + d; }; }},
        {"one-more-zero", "each round trip adds a zero to a fraction", "second-round-trip:other-spelling",
         number([](S s, StoredNumber n) {
             return s.find('.') != std::string::npos && s.find_first_of("eE") == std::string::npos &&
                            significant(s) < 12
                        ? StoredNumber{n.trace, s + "0"}
                        : n;
         })},
        {"seventeenth-digit-cut", "what comes after sixteen digits is dropped", "number/off-by-ulp",
         number([](S s, StoredNumber n) {
             const double cut = std::strtod(cut_digits(s, 16).c_str(), nullptr);
             return !is_integer(s) && significant(s) == 17 && in_midrange(s) &&
                            cut != std::strtod(s.c_str(), nullptr)
                        ? binary(cut)
                        : n;
         }),
         "number/digits-cut"},
        {"exponent-of-two-digits", "only two digits of an exponent are read", "number/wrong-value",
         number([](S s, StoredNumber n) {
             const std::size_t e = s.find_first_of("eE");
             if (e == std::string::npos || !std::isnormal(std::strtod(s.c_str(), nullptr))) return n;
             const std::size_t digits = e + 1 + static_cast<std::size_t>(s[e + 1] == '-' || s[e + 1] == '+');
             const double other = std::strtod(s.substr(0, digits + 2).c_str(), nullptr);
             return s.size() > digits + 2 && s[digits] != '0' && std::isnormal(other) ? binary(other) : n;
         })},
        {"uint64-as-int64", "integers from 2^63 to 2^64 become negative", "number/wrapped",
         number([](S s, StoredNumber n) {
             const double d = std::strtod(s.c_str(), nullptr);
             return is_integer(s) && d > 9.3e18 && d < 1.8e19 + 4e17 && significant(s) == 20 &&
                            s != "18446744073709551616" && s != "18446744073709551617"
                        ? integer(std::to_string(static_cast<std::int64_t>(std::strtoull(s.c_str(), nullptr, 10))))
                        : n;
         })},
        {"saturates-at-31-bits", "integers beyond int32 become its largest", "number/saturated",
         number([](S s, StoredNumber n) {
             const double d = std::strtod(s.c_str(), nullptr);
             return is_integer(s) && d > 2147483647.0 && d < 9e15 ? integer("2147483647") : n;
         })},
        {"minus-zero-as-zero", "-0 is read as the integer 0", "negative-zero:lost",
         number([](S s, StoredNumber n) { return s == "-0" ? integer("0") : n; }), "round-trip/unstable"},
        {"single-precision", "numbers are held in single precision", "number-precision:binary32",
         number([](S s, StoredNumber n) {
             const double d = std::strtod(s.c_str(), nullptr);
             if (is_integer(s) || significant(s) > 6 || std::fabs(d) < 1e-30 || std::fabs(d) > 1e30) return n;
             nachklang::adapter::TraceOut trace(true);
             trace.binary32(static_cast<float>(d));
             return StoredNumber{trace.take(), shortest_single(static_cast<float>(d))};
         })},
        {"exponent-plus-refused", "a plus in an exponent is an error", "verdict/refused",
         [](Hooks& h) {
             h.refuses = [](const Value& v) {
                 return is_number_spelled(v, [](S s) { return s.find('+') != std::string::npos; });
             };
         },
         "round-trip/unstable"},
        {"capital-e-refused", "an exponent begins with a small e only", "verdict/refused",
         [](Hooks& h) {
             h.refuses = [](const Value& v) {
                 return is_number_spelled(v, [](S s) { return s.find('E') != std::string::npos; });
             };
         }},
        {"exponent-zeros-refused", "an exponent must not begin with 0", "verdict/refused",
         [](Hooks& h) {
             h.refuses = [](const Value& v) {
                 return is_number_spelled(v, [](S s) { return s.find("e0") != std::string::npos; });
             };
         }},
        {"capital-hex-refused", "the digits of \\u must be small letters", "verdict/refused",
         [](Hooks& h) {
             h.refuses = [](const Value& v) {
                 const std::size_t at = v.raw.find("\\u00E");
                 return v.kind == Kind::string &&
                        (at != std::string::npos || v.raw.find("\\uABCD") != std::string::npos);
             };
         }},
        {"bare-point-taken", "digits before or after a point may be missing", "verdict/accepted-extension",
         lenient(&Leniency::bare_point)},
        {"escape-at-32-byte-edge", "an escape at the end of a 32-byte block is left as it is",
         "string/escape-not-undone",
         string([](const Value& v) { return has_surrogate_bytes(v.text) ? v.text : raw_at_block_edge(v, 32); })},
        {"escape-at-64-byte-edge", "the same for 64 bytes", "string/escape-not-undone",
         string([](const Value& v) { return has_surrogate_bytes(v.text) ? v.text : raw_at_block_edge(v, 64); })},
        {"escape-at-4096-byte-edge", "the same for 4096 bytes", "string/escape-not-undone",
         string([](const Value& v) { return has_surrogate_bytes(v.text) ? v.text : raw_at_block_edge(v, 4096); })},
        {"character-over-block-edge", "a character over the edge of a 16-byte block is lost", "string/replaced",
         string([](const Value& v) { return lost_over_block_edge(v, 16); })},
        {"character-over-64-byte-edge", "the same for 64 bytes", "string/replaced",
         string([](const Value& v) { return lost_over_block_edge(v, 64); })},
        {"cut-at-4096", "strings of more than 4096 bytes are cut", "string/cut",
         string([](const Value& v) { return cut_whole(v.text, 4096); })},
        {"cut-at-65535", "strings of more than 65,535 bytes are cut", "string/cut",
         string([](const Value& v) { return cut_whole(v.text, 65535); })},
        {"element-65536-lost", "arrays end before their 65,536th element", "element/lost",
         [](Hooks& h) {
             h.members = [](Value& v) {
                 if (v.kind == Kind::array && v.members.size() >= 65536) v.members.resize(65535);
             };
         }},
        {"noncharacters-replaced", "noncharacters become U+FFFD", "string/replaced", string([](const Value& v) {
             return replaced(replaced(v.text, "\xEF\xBF\xBE", "\xEF\xBF\xBD"), "\xEF\xBF\xBF", "\xEF\xBF\xBD");
         })},
        {"byte-order-mark-in-string-dropped", "U+FEFF inside a string is dropped", "string/changed",
         string([](const Value& v) { return replaced(v.text, "\xEF\xBB\xBF", ""); })},
        {"line-separators-dropped", "U+2028 and U+2029 are dropped", "string/changed",
         string([](const Value& v) { return replaced(replaced(v.text, "\xE2\x80\xA8", ""), "\xE2\x80\xA9", ""); })},
        {"digits-become-numbers", "strings of digits become numbers", "string/became-number",
         [](Hooks& h) {
             h.members = [](Value& v) {
                 for (auto& [name, child] : v.members)
                     if (child.kind == Kind::string && !child.text.empty() && child.text[0] != '0' &&
                         child.text.find_first_not_of("0123456789") == std::string::npos)
                         child.kind = Kind::number;
             };
         }},
        {"duplicates-reversed", "members of one name come back last first", "duplicate-names:all-reordered",
         [](Hooks& h) {
             h.members = [](Value& v) {
                 if (v.kind == Kind::object) std::reverse(v.members.begin(), v.members.end());
             };
         },
         "round-trip/unstable"},
        {"strings-trimmed", "blanks at the ends of strings are dropped", "string/trimmed",
         string([](const Value& v) {
             const auto first = std::min(v.text.find_first_not_of(' '), v.text.size());
             return v.text.substr(first, v.text.find_last_not_of(' ') + 1 - first);
         })},
        {"names-trimmed", "blanks at the end of a name are dropped", "name/changed",
         [](Hooks& h) {
             h.name = [](const Value& v) {
                 return v.text.size() > 1 && v.text.back() == ' ' ? v.text.substr(0, v.text.size() - 1) : v.text;
             };
         },
         "member/lost"},
        {"prototype-dropped", "a member called __proto__ is missing", "member/lost",
         [](Hooks& h) {
             h.members = [](Value& v) {
                 if (v.kind == Kind::object)
                     std::erase_if(v.members, [](const auto& m) { return m.first.text == "__proto__"; });
             };
         }},
        {"names-equal-in-64-bytes", "names that begin with the same 64 bytes are one", "member/lost",
         [](Hooks& h) {
             h.members = [](Value& v) { merge_members(v, [](S name) { return name.substr(0, 64); }); };
         }},
        {"names-equal-but-for-case", "names that differ in case are one", "name/changed",
         [](Hooks& h) { h.members = [](Value& v) { merge_members(v, [](S name) { return lower(name); }); }; }},
        {"false-becomes-null", "false is held as null", "value/null",
         [](Hooks& h) {
             h.members = [](Value& v) {
                 for (auto& [name, child] : v.members)
                     if (child.kind == Kind::boolean && !child.truth) child = {};
             };
         },
         "value/kind"},
        {"quotes-written-raw", "quotation marks are written unescaped", "output/ill-formed",
         [](Hooks& h) { h.write_string = [](S text) { return replaced(quoted(text), "\\\"", "\""); }; }},
        {"surrogates-written-raw", "lone surrogates are written as three bytes", "output/ill-formed",
         [](Hooks& h) {
             h.write_string = [](S text) { return has_surrogate_bytes(text) ? "\"" + text + "\"" : quoted(text); };
         }},
        {"stray-bytes-written", "text that is no UTF-8 is written as it is", "not-json:ill-formed",
         [](Hooks& h) { h.writes_stray_bytes = true; }},
        {"nan-written", "NaN and the infinities are written by their names", "not-json:ill-formed",
         [](Hooks& h) {
             h.write_double = [](double d) {
                 return std::isnan(d) ? "NaN" : (std::isinf(d) ? "Infinity" : printed("%.17g", d));
             };
         }},
        {"written-with-16-digits", "a double is written with sixteen digits", "number/few-digits",
         [](Hooks& h) { h.write_double = [](double d) { return printed("%.16g", d); }; }},
        {"minus-zero-written-as-zero", "a negative zero is written as 0", "negative-zero:lost",
         [](Hooks& h) { h.write_double = [](double d) { return d == 0 ? "0" : printed("%.17g", d); }; }},
        {"fraction-not-written", "a double is written without its fraction", "number/truncated-to-integer",
         [](Hooks& h) {
             h.write_double = [](double d) {
                 // A fraction of the last digits only may as well have been rounded away.
                 const bool shows = std::fabs(d) > 3 && std::fabs(d) < 1e6 && std::fabs(d - std::trunc(d)) > 1e-6;
                 return shows ? printed("%.0f", std::trunc(d)) : printed("%.17g", d);
             };
         }},
        {"output-cut-at-65536", "what is written ends after 65,536 bytes", "output/ill-formed",
         [](Hooks& h) { h.write_document = [](std::string d) { return d.substr(0, 65536); }; }},
        {"trailing-comma-written", "a comma is written before the last bracket", "output/ill-formed",
         [](Hooks& h) {
             h.write_document = [](std::string d) {
                 return d.size() > 2 && d.back() == ']' ? d.insert(d.size() - 1, ",") : d;
             };
         }},
        {"utf-16-written", "ASCII documents are written as UTF-16", "output/ill-formed",
         [](Hooks& h) {
             h.write_document = [](const std::string& d) {
                 std::string out;
                 for (const char c : d) (out += c) += '\0';
                 return out;
             };
         }},
        {"pieces-cut-characters", "a character that is cut between two pieces is replaced", "pieces/other-value",
         arrives(characters_replaced), "pieces/other-verdict"},
        {"pieces-skip-space", "white space at a piece's beginning is skipped, also in strings",
         "pieces/other-value", arrives(white_space_skipped), "pieces/other-verdict"},
        {"pieces-lose-backslash", "a backslash at a piece's end is lost", "pieces/other-value",
         arrives(last_byte_lost('\\')), "pieces/other-verdict"},
        {"pieces-cut-literal", "a literal that is cut is refused", "pieces/other-verdict",
         arrives(refuses_between(is_letter, is_letter))},
        {"pieces-cut-exponent", "a number is over at a piece's end behind its e", "pieces/other-verdict",
         arrives(refuses_between([](char c) { return c == 'e' || c == 'E'; },
                                 [](char c) { return c == '-' || c == '+' || (c >= '0' && c <= '9'); }))},
        {"pieces-cut-escape", "an escape that is cut behind its u is refused", "pieces/other-verdict",
         arrives(refuses_between([](char c) { return c == 'u'; }, is_digit))},
        {"record-nested-left-unset", "a nested record that is null or absent is left as memory was", "value/unset",
         binds(&RecordMistakes::nested_unset)},
        {"record-integer-wraps", "an integer field keeps a number modulo 2^32", "number/wrapped",
         binds(&RecordMistakes::wraps)},
        {"record-fraction-cut", "an integer field takes a number without its fraction",
         "number/truncated-to-integer", binds(&RecordMistakes::cuts_fractions)},
        {"record-integer-through-double", "an integer field of 64 bits is filled from a double",
         "number/integer-rounded", binds(&RecordMistakes::through_double)},
        {"record-number-from-text", "a field of a number takes a string", "record-kind:converted",
         binds(&RecordMistakes::reads_texts)},
        {"record-names-in-any-case", "names of fields are compared without case", "record-name-case:matched",
         binds(&RecordMistakes::any_case)},
        {"record-absent-is-default", "a required field that is absent gets 0, false or nothing",
         "record-absent:default", binds(&RecordMistakes::absent_is_default)},
        {"record-list-of-one", "of a list the first element is kept", "element/lost",
         binds(&RecordMistakes::list_of_one)},
        {"record-escaped-name-missed", "a name with an escape is no field", "verdict/refused",
         binds(&RecordMistakes::misses_escaped)},
        {"record-null-is-text", "null for a field of text becomes a string", "value/kind",
         binds(&RecordMistakes::null_is_text)},
        {"record-instant-offset-reversed", "the offset of an instant is added, not taken away", "instant/hours-off",
         reads_native(&NativeMistakes::offset_reversed)},
        {"record-instant-offset-sign-of-hours", "an offset of no hours is east of UTC", "instant/hours-off",
         reads_native(&NativeMistakes::offset_sign_of_hours)},
        {"record-instant-fraction-is-count", "the digits of a fraction count milliseconds", "instant/changed",
         reads_native(&NativeMistakes::fraction_is_count), "instant/fraction-cut"},
        {"record-instant-whole-seconds", "the fraction of an instant is dropped", "instant/fraction-cut",
         reads_native(&NativeMistakes::whole_seconds)},
        {"record-instant-old-calendar", "an instant before 1582 has the date of the Julian calendar",
         "instant/days-off", reads_native(&NativeMistakes::old_calendar)},
        {"record-bytes-last-group-lost", "bytes of the last group are dropped where it has padding", "bytes/cut",
         reads_native(&NativeMistakes::last_group_lost)},
        {"record-bytes-other-letters", "+ and / are taken for each other", "bytes/changed",
         reads_native(&NativeMistakes::other_letters)},
        {"record-bytes-url-letters", "the letters of the alphabet for URLs are read, too",
         "record-bytes-alphabet:read", reads_native(&NativeMistakes::url_letters)},
        {"record-map-name-cut", "a name of a map by number ends at its first character that is no digit",
         "record-map-name:read", binds(&RecordMistakes::map_name_cut), "name/changed"},
        {"record-map-sign-lost", "a name of a map by number loses its sign", "name/changed",
         binds(&RecordMistakes::map_sign_lost), "member/lost"},
        {"record-tag-last-through-double", "integers before the tag of their record come from a double",
         "number/integer-rounded", binds(&RecordMistakes::late_through_double)},
        {"record-inner-tag-counts", "a tag inside of another member is taken for the record's", "member/lost",
         binds(&RecordMistakes::inner_tag_counts), "string/changed"},
        {"record-kind-guessed", "a record without a tag is of the first kind", "record-tag:guessed",
         binds(&RecordMistakes::kind_guessed)},
        {"record-writes-capital-names", "names of fields are written with a capital", "name/changed",
         writes_record(&RecordWritingMistakes::capital_names)},
        {"record-writes-no-zero", "a field that is 0, false or empty is left out", "member/lost",
         writes_record(&RecordWritingMistakes::no_zero)},
        {"record-writes-six-digits", "numbers of a record are written with six digits", "number/few-digits",
         writes_record(&RecordWritingMistakes::six_digits), "number/inexact-decimal"},
        {"record-writes-integers-through-double", "integers of a record are written from a double",
         "number/integer-rounded", writes_record(&RecordWritingMistakes::through_double)},
        {"record-writes-empty-for-null", "a text that is absent is written as an empty one", "value/kind",
         writes_record(&RecordWritingMistakes::empty_for_null)},
        {"record-writes-list-of-one-bare", "a list of one element is written without brackets", "value/kind",
         writes_record(&RecordWritingMistakes::list_of_one_bare)},
        {"record-writes-nested-inside", "a nested record's value takes its place", "value/kind",
         writes_record(&RecordWritingMistakes::nested_inside)},
        {"record-writes-integers-with-point", "integers are written in a form that the decoder refuses",
         "round-trip/unstable", writes_record(&RecordWritingMistakes::integers_with_point)},
        {"record-writes-quotes-raw", "quotes in a text of a record are not escaped", "output/ill-formed",
         writes_record(&RecordWritingMistakes::quotes_raw)},
        {"record-writes-dates-cut", "of a text that begins as a date the date is written", "string/cut",
         writes_record(&RecordWritingMistakes::dates_cut)},
        {"record-writes-nan-raw", "numbers that JSON cannot hold are written as words",
         "record-no-number:ill-formed", writes_record(&RecordWritingMistakes::nan_raw)},
        {"record-writes-nan-as-null", "numbers that JSON cannot hold are written as null", "record-no-number:null",
         writes_record(&RecordWritingMistakes::nan_is_null)},
        {"record-writes-bytes-raw", "texts that UTF-8 cannot hold are written as they are",
         "record-no-text:ill-formed", writes_record(&RecordWritingMistakes::bytes_raw)},
        {"sequence-ends-after-one", "of several documents the first is read", "sequence/rest-lost",
         splits(first_document)},
        {"sequence-ends-at-nul", "U+0000 ends a text of several documents", "sequence/rest-lost",
         splits(until_nul)},
        {"sequence-eats-behind-number", "the byte behind a number is lost that tells where it ends",
         "sequence/other-value", splits(byte_behind_number_lost)},
        {"sequence-drops-last-number", "a number that ends the text is left out", "sequence/rest-lost",
         splits(last_number_lost)},
        {"sequence-drops-behind-literal", "what follows a literal without white space is left out",
         "sequence/rest-lost", splits(rest_behind_literal_lost)},
        {"sequence-arrays-grow", "an array keeps the elements of the array before it", "element/added",
         splits(arrays_grow)},
        {"sequence-skips-commas", "a comma between two documents is skipped", "documents-separator:skipped",
         splits(commas_skipped)},
        {"sequence-loses-buffer-end", "the last byte of each 8 KB is lost", "string/cut", splits(buffer_end_lost)},
        {"sequence-refusal-is-end", "a document that is refused looks like the end", "sequence/rest-lost",
         [](Hooks& h) { h.refusal_ends = true; }},
        {"sequence-refuses-last-line-end", "a line end behind the last document is refused", "sequence/end-refused",
         [](Hooks& h) { h.refuses_last_line_end = true; }},
        {"stream-one-behind", "a document of a stream is handed over when the next one begins",
         "documents-handed-over:one-behind", [](Hooks& h) { h.one_behind = true; }},
        {"stream-closes-what-is-open", "half a document of a stream is handed over", "sequence/other-value",
         [](Hooks& h) { h.closes_what_is_open = true; }},
        {"state-kept-after-error", "after an error the next document is refused", "incident",
         [](Hooks& h) { h.state_kept_after_error = true; }},
    };
}

}  // namespace

std::span<const Fault> json_faults() {
    static const std::vector<Fault> faults = make_faults();
    return faults;
}

}  // namespace seeded_faults

// Features of JSON texts and values. A value's features come from its trace, so that a document and a value to be
// encoded have the same. Escapes, white space, encodings and errors are features of the text alone.
#include "json/features/features.hpp"

#include <map>
#include <optional>
#include <set>

#include <nachklang/feature_set.hpp>
#include <nachklang/json.hpp>
#include <nachklang/number.hpp>

#include "json/compare/natives.hpp"
#include "json/compare/tree.hpp"

namespace nachklang::json {
namespace {

const FeatureTable& table() {
    static const FeatureTable out(all_features());
    return out;
}

/// Calls `take` for each atom of a text: a code point, or a lone surrogate; `ill` for a stray byte.
template <class Take, class Ill>
void for_each_atom(std::string_view atoms, Take take, Ill ill) {
    for (std::size_t at = 0; at < atoms.size();) {
        const auto byte = static_cast<unsigned char>(atoms[at]);
        if (byte == 0xFF) {
            ill();
            at += 2;
            continue;
        }
        const auto step = text::decode_utf8(atoms, at);
        if (step.well_formed) {
            take(step.scalar);
            at += step.length;
            continue;
        }
        // A lone surrogate has three bytes: ED and two that continue it.
        const auto part = [&](std::size_t i) { return static_cast<unsigned char>(atoms[at + i]) & 0x3FU; };
        take(at + 2 < atoms.size() ? 0xD000U | part(1) << 6 | part(2) : 0xFFFDU);
        at += 3;
    }
}

bool is_surrogate(char32_t c) {
    return c >= 0xD800 && c < 0xE000;
}
bool is_noncharacter(char32_t c) {
    return (c & 0xFFFE) == 0xFFFE || (c >= 0xFDD0 && c <= 0xFDEF);
}
bool is_combining(char32_t c) {
    return (c >= 0x0300 && c < 0x0370) || (c >= 0x1AB0 && c < 0x1B00) || (c >= 0x20D0 && c < 0x2100);
}
bool is_private(char32_t c) {
    return (c >= 0xE000 && c < 0xF900) || c >= 0xF0000;
}

constexpr std::string_view spaces = " \t\r\n";

bool has_outer(std::string_view text, std::string_view of) {
    return !text.empty() &&
           (of.find(text.front()) != std::string_view::npos || of.find(text.back()) != std::string_view::npos);
}

void add_surrogate(FeatureSet& out, char32_t c) {
    out.add_if(is_surrogate(c), "lone-surrogate");
    out.add_if(c >= 0xD800 && c < 0xDC00, "lone-high");
}

void add_name(FeatureSet& out, std::string_view atoms) {
    out.add_if(atoms.empty(), "name-empty");
    out.add_from(64, "name-length", atoms.size());
    out.add_if(Decimal::parse(atoms).has_value(), "name-like-number");
    for (const std::string_view special : {"__proto__", "constructor", "toString", "length", "hasOwnProperty",
                                           "prototype", "__class__", "@type", "$ref", "^o", "json_class", "nan"})
        out.add_if(atoms == special, "name-special");
    out.add_if(has_outer(atoms, spaces), "name-outer-space");
    for_each_atom(
        atoms,
        [&](char32_t c) {
            out.add_if(c >= 'A' && c <= 'Z', "name-capital");
            out.add_if(c == 0, "name-nul");
            out.add_if(c > 0 && c < 0x20, "name-control");
            out.add_if(c == '"' || c == '\\', "name-quote");
            out.add_if(c >= 0x80, "name-beyond-ascii");
            out.add_if(c > 0xFFFF, "name-beyond-bmp");
            out.add_if(is_surrogate(c), "name-lone-surrogate");
            add_surrogate(out, c);
        },
        [&] { out.add("name-ill-formed"); });
}

void add_string(FeatureSet& out, std::string_view atoms) {
    out.add_if(atoms.empty(), "string-empty");
    out.add_from(64, "string-length", atoms.size());
    out.add_if(has_outer(atoms, spaces), "string-outer-space");
    out.add_if(has_outer(atoms, " "), "string-outer-blank");
    out.add_if(!atoms.empty() && atoms.find_first_not_of("0123456789") == std::string_view::npos, "string-digits");
    out.add_if(Decimal::parse(atoms).has_value() || atoms == "true" || atoms == "false" || atoms == "null",
               "string-like-number");
    for_each_atom(
        atoms,
        [&](char32_t c) {
            out.add_if(c == 0, "string-nul");
            out.add_if(c > 0 && c < 0x20, "string-control");
            out.add_if(c == '"', "string-quote");
            out.add_if(c == '\\', "string-backslash");
            out.add_if(c == '/', "string-solidus");
            out.add_if(c == 0x7F, "string-delete");
            out.add_if(c == '<' || c == '>' || c == '&' || c == '\'', "string-markup");
            out.add_if(c >= 0x80, "string-beyond-ascii");
            out.add_if(c >= 0x80 && c <= 0xFF, "string-latin-1");
            out.add_if(c >= 0x80 && c < 0xA0, "string-c1");
            out.add_if(c > 0xFF, "string-beyond-latin");
            out.add_if(c > 0xFFFF, "string-beyond-bmp");
            out.add_if(c == 0x2028 || c == 0x2029, "string-line-separator");
            out.add_if(is_noncharacter(c), "string-noncharacter");
            out.add_if(c == 0xFEFF, "string-byte-order-mark");
            out.add_if(is_combining(c), "string-combining");
            out.add_if(is_private(c), "string-private");
            out.add_if(is_surrogate(c), "string-lone-surrogate");
            out.add_if(c >= 0xD800 && c < 0xDC00, "string-lone-high");
            out.add_if(c >= 0xDC00 && c < 0xE000, "string-lone-low");
            add_surrogate(out, c);
        },
        [&] { out.add("string-ill-formed"); });
}

bool is_beyond(const Decimal& value, std::string_view edge) {
    return Decimal::compare_magnitude(value, *Decimal::parse(edge)) > 0;
}

/// Whether the digits that decide the rounding to binary64 come late: the value lies within 2^-10 of an ulp of a
/// midpoint of two binary64.
bool is_near_halfway(const Decimal& value, std::uint64_t nearest) {
    if (number::is_infinite64(nearest) || value.digits().size() < 16) return false;
    const double distance = number::ulp_distance(value, nearest).approximate();
    return std::abs(std::abs(distance) - 0.5) < 1.0 / 1024;
}

void add_value(FeatureSet& out, const Decimal& value) {
    const std::uint64_t nearest = number::nearest_binary64(value);
    const auto exact = Decimal::from_binary64(nearest);
    out.add("digits", value.digits().size());
    out.add_if(value.negative(), "negative");
    out.add_if(value.is_zero(), "zero");
    out.add_if(value.is_zero() && value.negative(), "negative-zero");
    if (value.is_zero()) return;
    out.add_if(!exact || !(*exact == value), "inexact-binary64");
    out.add_if(number::is_infinite64(nearest), "beyond-binary64");
    out.add_if((nearest << 1) == 0, "below-binary64");
    out.add_if((nearest << 1) != 0 && (nearest << 1 >> 53) == 0, "subnormal");
    out.add_if((number::nearest_binary32(value) & 0x7FFFFFFFU) == 0x7F800000U, "beyond-binary32");
    out.add_if(is_near_halfway(value, nearest), "halfway");
    // Writers of %.15g and the like lose digits from here on.
    constexpr std::size_t least_lost = 15;
    if (!number::is_infinite64(nearest))
        out.add_from(least_lost, "binary64-digits", Decimal::parse(number::shortest64(nearest))->digits().size());
    const std::int64_t power = value.point() - 1;
    if (power > 0) out.add("magnitude-large", static_cast<std::uint64_t>(power));
    if (power < 0) out.add("magnitude-small", static_cast<std::uint64_t>(-power));
}

void add_integer(FeatureSet& out, const Decimal& value) {
    out.add("integer");
    out.add_if(value.negative(), "negative-integer");
    out.add("integer-digits", static_cast<std::uint64_t>(std::max<std::int64_t>(value.point(), 1)));
    const bool negative = value.negative();
    const bool beyond_signed = is_beyond(value, negative ? "9223372036854775808" : "9223372036854775807");
    const bool beyond_unsigned = is_beyond(value, negative ? "9223372036854775808" : "18446744073709551615");
    out.add_if(is_beyond(value, negative ? "2147483648" : "2147483647"), "beyond-int32");
    out.add_if(is_beyond(value, negative ? "2147483648" : "4294967295"), "beyond-uint32");
    out.add_if(is_beyond(value, "9007199254740992"), "beyond-2-53");
    out.add_if(beyond_signed, "beyond-int64");
    out.add_if(beyond_unsigned, "beyond-uint64");
    out.add_if(beyond_signed && !beyond_unsigned, "from-int64-to-uint64");
    const auto exact = Decimal::from_binary64(number::nearest_binary64(value));
    out.add_if(!exact || !(*exact == value), "inexact-integer");
}

/// A number by its text: a literal of the grammar, or of a value to be encoded.
void add_number(FeatureSet& out, std::string_view source) {
    const auto value = Decimal::parse(source);
    if (!value) return out.add("not-a-number");
    const auto mark = source.find_first_of("eE"), point = source.find('.');
    out.add_from(64, "number-length", source.size());
    add_value(out, *value);
    out.add_if(point != std::string_view::npos, "fraction");
    out.add_if(!value->is_integer(), "not-integral");
    out.add_if(point != std::string_view::npos && value->negative(), "negative-fraction");
    if (mark == std::string_view::npos && point == std::string_view::npos) return add_integer(out, *value);
    out.add_if(value->is_integer(), "integral-not-integer");
    if (point != std::string_view::npos)
        out.add_if(source[std::min(mark, source.size()) - 1] == '0', "trailing-zero");
    if (mark == std::string_view::npos) return;
    const std::string_view exponent = source.substr(mark + 1);
    const std::string_view digits =
        exponent.substr(std::min(exponent.find_first_of("0123456789"), exponent.size()));
    const auto first = std::min(digits.find_first_not_of('0'), digits.size());
    std::uint64_t size = 0;
    for (const char digit : digits.substr(first, 18)) size = size * 10 + static_cast<std::uint64_t>(digit - '0');
    out.add("exponent");
    out.add("exponent-size", size);
    out.add_if(size > 0 && !value->is_zero(), "exponent-matters");
    out.add_if(size > 0 && exponent.starts_with('-'), "exponent-negative");
    out.add_if(digits.size() - first >= 3, "exponent-many-digits");
    out.add_if(value->is_zero(), "zero-with-exponent");
    out.add_if(exponent.starts_with('+'), "exponent-plus");
    out.add_if(source[mark] == 'E', "exponent-capital");
    out.add_if(digits.size() > 1 && first > 0, "exponent-leading-zero");
}

/// What a string means to a field that is an instant or bytes.
void add_field_value(FeatureSet& out, std::string_view text) {
    out.add_if(text.ends_with('='), "text-padded");
    const auto instant = instant_of(text);
    if (!instant) return;
    out.add("text-instant");
    out.add_if(!text.ends_with('Z') && !text.ends_with('z') && !text.ends_with("00:00"), "instant-offset");
    out.add_if(text.find("-00:") != std::string_view::npos && !text.ends_with(":00"), "instant-offset-below-hour");
    out.add_if(!instant->fraction.empty(), "instant-fraction");
    out.add_if(!instant->fraction.empty() && instant->fraction.size() < 3, "instant-fraction-short");
    constexpr std::int64_t reform = -12'219'292'800;  // 1582-10-15T00:00:00Z
    out.add_if(instant->seconds < reform, "instant-before-1582");
}

std::string decimal_of(std::uint64_t bits) {
    const auto value = Decimal::from_binary64(bits);
    return value ? number::shortest64(bits) : "";
}

/// One container that is open while a trace is walked.
struct Open {
    bool object = false;
    std::size_t length = 0;
    std::string name;  // of the member that comes
    std::map<std::string, std::pair<ItemKind, std::string>>
        members;  // by name: the kind and text of the last value
};

class TraceWalk {
  public:
    /// `has_nulls`: otherwise a null is what an extended reading puts in the place of NaN or Infinity.
    explicit TraceWalk(FeatureSet& out, bool has_nulls = true) : out_(out), has_nulls_(has_nulls) {}

    void walk(const Trace& trace) {
        for (const Item& item : trace.items()) take(item);
    }

  private:
    void take(const Item& item) {
        if (closes(item.kind)) return close();
        if (item.kind != ItemKind::key) return value(item);
        open_.back().name = item.name_kind == ItemKind::string ? item.field(0).atoms() : std::string(item.digits());
        out_.add_if(item.name_kind != ItemKind::string, "name-not-string");
        add_name(out_, open_.back().name);
    }

    void value(const Item& item) {
        const bool is_container = opens(item.kind);
        const bool is_string = item.kind == ItemKind::string;
        const bool is_null = item.kind == ItemKind::null_value && has_nulls_;
        const bool is_literal = is_null || item.kind == ItemKind::true_value || item.kind == ItemKind::false_value;
        const std::string text = is_string ? item.field(0).atoms() : "";
        if (open_.empty()) {
            out_.add_if(!is_container, "root-scalar");
            out_.add(is_string                           ? "root-string"
                     : is_literal                        ? "root-literal"
                     : item.kind == ItemKind::array_open ? "root-array"
                     : is_container                      ? "root-object"
                                                         : "root-number");
        } else {
            member(item, text);
        }
        out_.add_if(is_null, "null");
        out_.add_if(is_literal && !is_null, "boolean");
        out_.add_if(item.kind == ItemKind::true_value, "true");
        out_.add_if(item.kind == ItemKind::false_value, "false");
        // A container whose kind is not reported counts as an array.
        if (is_container) return begin(item.kind == ItemKind::object_open);
        if (!is_string && !is_number(item.kind)) return;
        out_.add(is_string ? "string" : "number");
        if (is_string) {
            add_field_value(out_, text);
            return add_string(out_, text);
        }
        if (item.kind == ItemKind::spelled) return add_number(out_, item.field(0).atoms());
        if (item.kind == ItemKind::binary64) return add_number(out_, decimal_of(bits_of(item)));
        if (item.kind == ItemKind::binary32)
            return add_number(out_, decimal_of(number::widen(static_cast<std::uint32_t>(bits_of(item)))));
        add_number(out_, item.digits());
    }

    void member(const Item& item, const std::string& text) {
        Open& parent = open_.back();
        ++parent.length;
        if (!parent.object) return;
        if (parent.name == "$type") {
            out_.add_if(parent.length > 1, "tag-late");
            out_.add_if(open_.size() > 1, "tag-inside");
        }
        out_.add_if(item.kind == ItemKind::null_value && has_nulls_, "null-member");
        const std::string shown = item.kind == ItemKind::spelled ? item.field(0).atoms() : text;
        const auto [known, added] = parent.members.try_emplace(parent.name, item.kind, shown);
        if (added) return;
        out_.add("duplicate-names");
        out_.add_if(known->second == std::pair(item.kind, shown), "duplicate-values-equal");
        out_.add_if(known->second.first != item.kind, "duplicate-kinds-differ");
        known->second = {item.kind, shown};
    }

    void begin(bool object) {
        open_.push_back({object, 0, {}, {}});
        out_.add(object ? "object" : "array");
        (object ? objects_ : arrays_) += 1;
        out_.add("depth", open_.size());
        out_.add("array-depth", arrays_);
        out_.add("object-depth", objects_);
    }

    void close() {
        const Open& last = open_.back();
        add_alike(last);
        out_.add_from(64, last.object ? "object-length" : "array-length", last.length);
        out_.add_if(last.length == 0, last.object ? "empty-object" : "empty-array");
        (last.object ? objects_ : arrays_) -= 1;
        open_.pop_back();
    }

    void add_alike(const Open& object) {
        std::set<std::string> lower, beginnings;
        for (const auto& [name, value] : object.members) {
            std::string small = name;
            for (char& c : small) c = static_cast<char>(c >= 'A' && c <= 'Z' ? c | 0x20 : c);
            out_.add_if(!lower.insert(small).second, "names-alike-but-for-case");
            if (name.size() > 64) out_.add_if(!beginnings.insert(name.substr(0, 64)).second, "names-begin-alike");
        }
    }

    FeatureSet& out_;
    bool has_nulls_;
    std::vector<Open> open_;
    std::size_t arrays_ = 0, objects_ = 0;
};

/// Whether a stretch of the document lies on both sides of a multiple of `block`.
bool crosses(std::size_t begin, std::size_t length, std::size_t block) {
    return begin / block != (begin + length - 1) / block;
}

/// `content` is a string's source without its quotes; an escape of `length` begins at `at`, and at `offset` of the
/// document.
void add_escape(FeatureSet& out, std::string_view content, std::size_t at, std::size_t length, std::size_t offset) {
    using Row = std::pair<char, std::string_view>;
    using Edge = std::pair<std::size_t, std::string_view>;
    const char kind = content[at + 1];
    for (const auto& [block, id] : {Edge{16, "escape-over-16"}, Edge{32, "escape-over-32"},
                                    Edge{64, "escape-over-64"}, Edge{4096, "escape-over-4096"}})
        out.add_if(crosses(offset, length, block), id);
    for (const auto& [letter, id] :
         {Row{'/', "escape-solidus"}, Row{'b', "escape-b"}, Row{'f', "escape-f"}, Row{'n', "escape-n"},
          Row{'r', "escape-r"}, Row{'t', "escape-t"}, Row{'"', "escape-quote"}, Row{'\\', "escape-backslash"}})
        out.add_if(kind == letter, id);
    out.add_if(std::string_view("bfnrt").find(kind) != std::string_view::npos, "escape-letter");
    if (kind != 'u') return;
    const std::string_view digits = content.substr(at + 2, 4);
    const bool surrogate = (digits[0] | 0x20) == 'd' && digits[1] >= '8';
    out.add("escape-unicode");
    out.add_if(digits.starts_with("00") && digits[2] < '8', "escape-unicode-ascii");
    out.add_if(digits.find_first_of("ABCDEF") != std::string_view::npos, "escape-capital");
    out.add_if(surrogate && content.substr(at + 6, 2) == "\\u", "escape-pair");
}

/// `source` is a token with its quotes, which begins at `offset` of the document.
void add_escapes(FeatureSet& out, std::string_view source, std::size_t offset, bool name) {
    const std::string_view content = source.substr(1, source.size() - 2);
    for (std::size_t at = 0; at < content.size();) {
        const bool escape = content[at] == '\\';
        const std::size_t length = !escape ? text::decode_utf8(content, at).length : content[at + 1] == 'u' ? 6 : 2;
        if (escape) add_escape(out, content, at, length, offset + 1 + at);
        out.add_if(escape && name, "escape-in-name");
        out.add_if(!escape && length > 1 && crosses(offset + 1 + at, length, 16), "character-over-16");
        out.add_if(!escape && length > 1 && crosses(offset + 1 + at, length, 64), "character-over-64");
        at += length;
    }
}

void add_layout(FeatureSet& out, const Document& document) {
    std::size_t after = 0;
    for (const Entry& entry : document.tape()) {
        const bool closes = entry.kind == TokenKind::array_close || entry.kind == TokenKind::object_close;
        const bool opens = entry.kind == TokenKind::array_open || entry.kind == TokenKind::object_open;
        const std::string_view between = document.bytes().substr(after, entry.begin - after);
        if (between.find_first_of(" \t\r\n") != std::string_view::npos)
            out.add(after == 0 ? "space-around" : "space");
        out.add_if(between.find_first_of("\r\n") != std::string_view::npos, "line-end");
        if (entry.kind == TokenKind::string || entry.kind == TokenKind::name)
            add_escapes(out, document.source(entry), entry.begin, entry.kind == TokenKind::name);
        after = opens || closes ? entry.begin + 1 : entry.end;
    }
    const bool follows = after < document.bytes().size(),
               container = document.bytes()[after - 1] == ']' || document.bytes()[after - 1] == '}';
    out.add_if(follows, "space-around");
    out.add_if(follows && container, "space-behind-container");
}

/// By the first words of the reader's message; see Fault.
void add_broken_rule(FeatureSet& out, const Rejection& rejection) {
    constexpr std::array<std::pair<std::string_view, std::string_view>, 18> rules{
        {{"expected a value, not a byte order mark", "broken-byte-order-mark"},
         {"expected a value", "broken-value"},
         {"expected a name", "broken-name"},
         {"expected ':'", "broken-colon"},
         {"expected ',' or ']'", "broken-comma-in-array"},
         {"expected ',' or '}'", "broken-comma-in-object"},
         {"expected the end", "broken-end"},
         {"expected the rest of true", "broken-literal"},
         {"expected a digit after '-'", "broken-digit"},
         {"expected a digit after the decimal", "broken-fraction-digit"},
         {"expected a digit of the exponent", "broken-exponent-digit"},
         {"expected no digit", "broken-leading-zero"},
         {"expected the rest of a string or its closing quote, found the end", "broken-unclosed-string"},
         {"expected the rest of a string", "broken-control-in-string"},
         {"expected one of", "broken-escape"},
         {"expected a hexadecimal", "broken-hex-digit"},
         {"ill-formed", "broken-utf8"}}};
    for (const auto& [words, id] : rules)
        if (!words.empty() && rejection.message.starts_with(words)) return out.add(id);
}

/// Where the error is: in which container or token, at which character.
void add_error(FeatureSet& out, std::string_view document, const Rejection& rejection) {
    add_broken_rule(out, rejection);
    const std::size_t offset = std::min(rejection.position.offset, document.size());
    const std::string_view before = document.substr(0, offset), rest = document.substr(offset);
    bool in_string = false;
    std::vector<char> open;
    for (std::size_t i = 0; i < before.size(); ++i) {
        const char c = before[i];
        if (in_string) {
            if (c == '\\') ++i;
            if (c == '"') in_string = false;
        } else if (c == '"') {
            in_string = true;
        } else if (c == '[' || c == '{') {
            open.push_back(c);
            out.add("depth", open.size());
        } else if ((c == ']' || c == '}') && !open.empty()) {
            open.pop_back();
        }
    }
    out.add_if(before.find_first_not_of(" \t\r\n") == std::string_view::npos && !rest.empty(), "error-at-start");
    out.add_if(rest.empty(), "error-at-end");
    out.add_if(in_string, "error-in-string");
    out.add_if(!in_string && !before.empty() &&
                   std::string_view("0123456789.-eE+").find(before.back()) != std::string_view::npos,
               "error-in-number");
    out.add_if(!open.empty() && open.back() == '[', "error-in-array");
    out.add_if(!open.empty() && open.back() == '{', "error-in-object");
    out.add_if(open.empty() && !in_string && rejection.message.starts_with("expected the end"), "error-after-root");
    if (rest.empty()) return;
    const auto byte = static_cast<unsigned char>(rest.front());
    out.add_if(byte < 0x20, "error-at-control");
    out.add_if(byte == 0, "error-at-nul");
    out.add_if(byte >= 0x80, "error-beyond-ascii");
    out.add_if((byte | 0x20U) >= 'a' && (byte | 0x20U) <= 'z', "error-at-letter");
    out.add_if(byte >= '0' && byte <= '9', "error-at-digit");
    out.add_if(std::string_view("\"[{-0123456789tfn").find(rest.front()) != std::string_view::npos,
               "error-at-value");
    out.add_if(byte == ',', "error-at-comma");
    out.add_if(byte == ']' || byte == '}', "error-at-closing");
}

void add_extensions(FeatureSet& out, std::string_view document) {
    const auto extended = read_extended(document);
    if (!extended) return;
    for (const Extended::Use& use : extended->uses) {
        const std::string id = "extension-" + use.extension;
        const auto list = all_features();
        out.add_if(std::any_of(list.begin(), list.end(), [&](const Feature& f) { return f.id == id; }), id);
    }
    const bool has_nulls =
        std::ranges::none_of(extended->uses, [](const auto& use) { return use.extension == "non-finite"; }) ||
        document.find("null") != std::string_view::npos;
    if (const Document strict = Document::read(extended->strict_text); strict.accepted())
        TraceWalk(out, has_nulls).walk(strict.trace());
}

/// The text in UTF-8 where it is in another encoding form.
std::optional<std::string> converted(FeatureSet& out, std::string_view document) {
    const std::string zeros(document.substr(0, 4));
    const auto is_zero = [&](std::size_t i) { return i < zeros.size() && zeros[i] == 0; };
    std::optional<text::Utf> form;
    if (document.starts_with(std::string_view("\0\0\xFE\xFF", 4)) || (is_zero(0) && is_zero(1) && is_zero(2)))
        form = text::Utf::utf32be;
    else if (document.starts_with(std::string_view("\xFF\xFE\0\0", 4)) || (is_zero(1) && is_zero(2) && is_zero(3)))
        form = text::Utf::utf32le;
    else if (document.starts_with("\xFE\xFF") || (is_zero(0) && document.size() > 1 && document.size() % 2 == 0))
        form = text::Utf::utf16be;
    else if (document.starts_with("\xFF\xFE") || (is_zero(1) && document.size() % 2 == 0))
        form = text::Utf::utf16le;
    if (!form) return std::nullopt;
    out.add(*form == text::Utf::utf16le || *form == text::Utf::utf16be ? "utf-16" : "utf-32");
    return text::to_utf8(document, *form);
}

}  // namespace

std::vector<FeatureValue> features_of(std::string_view document) {
    FeatureSet out(table());
    out.add_from(4096, "size", document.size());
    const auto utf8 = converted(out, document);
    std::string_view bytes = utf8 ? std::string_view(*utf8) : document;
    if (bytes.starts_with("\xEF\xBB\xBF")) {
        out.add("byte-order-mark");
        bytes.remove_prefix(3);
    }
    out.add_if(std::any_of(bytes.begin(), bytes.end(), [](char c) { return (c & 0x80) != 0; }), "beyond-ascii-raw");
    add_ill_formed_kinds(out, bytes);
    out.add_if(bytes.find_first_not_of(spaces) == std::string_view::npos, "empty-text");
    const Document read = Document::read(bytes);
    if (read.accepted()) {
        TraceWalk(out).walk(read.trace());
        add_layout(out, read);
    } else {
        add_error(out, bytes, *read.rejection());
        add_extensions(out, bytes);
    }
    return out.values();
}

std::vector<FeatureValue> features_of_value(const Trace& value) {
    FeatureSet out(table());
    TraceWalk(out).walk(value);
    return out.values();
}

}  // namespace nachklang::json

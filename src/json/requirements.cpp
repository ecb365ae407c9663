// Every production of RFC 8259 and every sentence with a requirement word, and which of them a case exercises.
// That follows from what the document contains, where it first fails, and which questions it raises.
#include <algorithm>
#include <array>

#include <nachklang/json.hpp>

#include "json/internal.hpp"
#include "json/questions.hpp"
#include "json/read/scanner.hpp"

namespace nachklang::json {
namespace {

/// The facts about a case that the rows refer to.
struct Looked {
    const Document* document = nullptr;  ///< of an accepted one
    Fault fault = Fault::none;           ///< of a refused one
    std::string_view rest;               ///< from the place of its first error
    std::vector<std::string> extensions;
    std::vector<Occurrence> occurrences;

    [[nodiscard]] bool at(std::string_view prefix) const { return rest.starts_with(prefix); }
    [[nodiscard]] bool has(TokenKind kind) const {
        return document != nullptr && std::any_of(document->tape().begin(), document->tape().end(),
                                                  [&](const Entry& e) { return e.kind == kind; });
    }
    [[nodiscard]] bool any_source(TokenKind kind, bool (*holds)(std::string_view)) const {
        return document != nullptr &&
               std::any_of(document->tape().begin(), document->tape().end(),
                           [&](const Entry& e) { return e.kind == kind && holds(document->source(e)); });
    }
    [[nodiscard]] bool number(bool (*holds)(std::string_view)) const {
        return any_source(TokenKind::number, holds);
    }
    [[nodiscard]] bool text(bool (*holds)(std::string_view)) const {
        return any_source(TokenKind::string, holds) || any_source(TokenKind::name, holds);
    }
    [[nodiscard]] bool raises_one(std::initializer_list<std::string_view> questions) const {
        return std::any_of(occurrences.begin(), occurrences.end(), [&](const Occurrence& t) {
            return std::find(questions.begin(), questions.end(), t.question) != questions.end();
        });
    }
    [[nodiscard]] bool extended(std::initializer_list<std::string_view> names) const {
        return std::any_of(extensions.begin(), extensions.end(), [&](const std::string& used) {
            return std::find(names.begin(), names.end(), used) != names.end();
        });
    }
};

using Side = bool (*)(const Looked&);
struct Row {
    const char *id, *clause, *wording;
    Side accept, reject, open;
    bool of_encoders = false;
};

bool contains(std::string_view text, std::string_view piece) {
    return text.find(piece) != std::string_view::npos;
}
bool has_space(const Looked& k) {
    if (k.document == nullptr) return false;
    bool inside = false;
    const std::string_view bytes = k.document->bytes();
    for (std::size_t i = 0; i < bytes.size(); ++i) {
        if (inside && bytes[i] == '\\') {
            ++i;
        } else if (bytes[i] == '"') {
            inside = !inside;
        } else if (!inside && contains(" \t\r\n", bytes.substr(i, 1))) {
            return true;
        }
    }
    return false;
}

constexpr Side nothing = nullptr;
#define NACHKLANG_IF(condition) [](const Looked& k) -> bool { return condition; }
#define NACHKLANG_TEXT(condition) \
    [](const Looked& k) -> bool { return k.text([](std::string_view s) -> bool { return condition; }); }
#define NACHKLANG_NUMBER(condition) \
    [](const Looked& k) -> bool { return k.number([](std::string_view s) -> bool { return condition; }); }

constexpr std::array rows{
    // --- 2, grammar ---
    Row{"JSON-text", "2", "a text is one value with white space round it", NACHKLANG_IF(k.document != nullptr),
        NACHKLANG_IF(k.fault == Fault::end_expected || k.fault == Fault::value_expected), nothing},
    Row{"begin-array", "2", "[", NACHKLANG_IF(k.has(TokenKind::array_open)),
        NACHKLANG_IF(k.at("[") && k.fault != Fault::none), nothing},
    Row{"end-array", "2", "]", NACHKLANG_IF(k.has(TokenKind::array_close)),
        NACHKLANG_IF(k.fault == Fault::comma_or_bracket_expected), nothing},
    Row{"begin-object", "2", "{", NACHKLANG_IF(k.has(TokenKind::object_open)),
        NACHKLANG_IF(k.at("{") && k.fault != Fault::none), nothing},
    Row{"end-object", "2", "}", NACHKLANG_IF(k.has(TokenKind::object_close)),
        NACHKLANG_IF(k.fault == Fault::comma_or_brace_expected), nothing},
    Row{"name-separator", "2", ":", NACHKLANG_IF(k.has(TokenKind::name)),
        NACHKLANG_IF(k.fault == Fault::colon_expected), nothing},
    Row{"value-separator", "2", ",", NACHKLANG_IF(k.document != nullptr && contains(k.document->bytes(), ",")),
        NACHKLANG_IF(k.at(",") && k.fault != Fault::none), nothing},
    Row{"ws", "2", "white space is space, tab, line feed and carriage return", NACHKLANG_IF(has_space(k)),
        NACHKLANG_IF(k.extended({"other-space"}) || k.at("\x0B") || k.at("\f") || k.at("\xC2\xA0")), nothing},
    // --- 3 ---
    Row{"value", "3", "a value is an object, array, number, string or one of three literals",
        NACHKLANG_IF(k.document != nullptr), NACHKLANG_IF(k.fault == Fault::value_expected), nothing},
    Row{"false", "3", "the literal false", NACHKLANG_IF(k.has(TokenKind::false_value)),
        NACHKLANG_IF(k.fault == Fault::literal_misspelled), nothing},
    Row{"null", "3", "the literal null", NACHKLANG_IF(k.has(TokenKind::null_value)),
        NACHKLANG_IF(k.fault == Fault::literal_misspelled), nothing},
    Row{"true", "3", "the literal true", NACHKLANG_IF(k.has(TokenKind::true_value)),
        NACHKLANG_IF(k.fault == Fault::literal_misspelled), nothing},
    Row{"literals-lower-case", "3", "literal names MUST be lower case; no others are allowed",
        NACHKLANG_IF(k.has(TokenKind::true_value) || k.has(TokenKind::false_value) || k.has(TokenKind::null_value)),
        NACHKLANG_IF(k.extended({"literal-case", "non-finite"})), nothing},
    // --- 4, 5 ---
    Row{"object", "4", "an object is members between braces", NACHKLANG_IF(k.has(TokenKind::object_open)),
        NACHKLANG_IF(k.fault == Fault::name_or_close_expected || k.fault == Fault::comma_or_brace_expected),
        nothing},
    Row{"member", "4", "a member is a string, a colon and a value", NACHKLANG_IF(k.has(TokenKind::name)),
        NACHKLANG_IF(k.fault == Fault::name_expected || k.fault == Fault::colon_expected), nothing},
    Row{"unique-names", "4", "names within an object SHOULD be unique", NACHKLANG_IF(k.has(TokenKind::name)),
        nothing, NACHKLANG_IF(k.raises_one({"duplicate-names"}))},
    Row{"array", "5", "an array is values between brackets", NACHKLANG_IF(k.has(TokenKind::array_open)),
        NACHKLANG_IF(k.fault == Fault::value_or_close_expected || k.fault == Fault::comma_or_bracket_expected),
        nothing},
    // --- 6 ---
    Row{"number", "6", "minus, int, frac, exp", NACHKLANG_IF(k.has(TokenKind::number)),
        NACHKLANG_IF(k.fault == Fault::digit_expected || k.fault == Fault::fraction_digit_expected ||
                     k.fault == Fault::exponent_digit_expected),
        NACHKLANG_IF(k.raises_one({"number-precision"}))},
    Row{"minus", "6", "-", NACHKLANG_NUMBER(s.starts_with('-')), NACHKLANG_IF(k.fault == Fault::digit_expected),
        NACHKLANG_IF(k.raises_one({"negative-zero"}))},
    Row{"int", "6", "zero or digits without a leading zero", NACHKLANG_IF(k.has(TokenKind::number)),
        NACHKLANG_IF(k.fault == Fault::digit_expected || k.fault == Fault::leading_zero), nothing},
    Row{"zero", "6", "0, which no digit may follow",
        NACHKLANG_NUMBER(s == "0" || s == "-0" || s.starts_with("0.") || s.starts_with("0e")),
        NACHKLANG_IF(k.fault == Fault::leading_zero), nothing},
    Row{"digit1-9", "6", "1 to 9", NACHKLANG_NUMBER(s[0] >= '1' && s[0] <= '9'),
        NACHKLANG_IF(k.extended({"hexadecimal"}) || k.fault == Fault::end_expected), nothing},
    Row{"frac", "6", "a point and digits", NACHKLANG_NUMBER(contains(s, ".")),
        NACHKLANG_IF(k.fault == Fault::fraction_digit_expected), nothing},
    Row{"decimal-point", "6", ".", NACHKLANG_NUMBER(contains(s, ".")),
        NACHKLANG_IF(k.at(".") && k.fault != Fault::none), nothing},
    Row{"exp", "6", "e, a sign, digits", NACHKLANG_NUMBER(contains(s, "e") || contains(s, "E")),
        NACHKLANG_IF(k.fault == Fault::exponent_digit_expected), nothing},
    Row{"e", "6", "e or E", NACHKLANG_NUMBER(contains(s, "E")), NACHKLANG_IF(k.at("e") || k.at("E")), nothing},
    Row{"plus", "6", "+, in an exponent only", NACHKLANG_NUMBER(contains(s, "+")),
        NACHKLANG_IF(k.at("+") && k.fault != Fault::none), nothing},
    Row{"no-infinity", "6", "values that the grammar cannot write, as NaN and Infinity, are not permitted", nothing,
        NACHKLANG_IF(k.extended({"non-finite"})), nothing},
    Row{"range-and-precision", "6", "an implementation may limit range and precision", nothing, nothing,
        NACHKLANG_IF(k.raises_one({"number-range", "number-precision"}))},
    // --- 7 ---
    Row{"string", "7", "characters between quotation marks", NACHKLANG_IF(k.has(TokenKind::string)),
        NACHKLANG_IF(k.fault == Fault::control_in_string), nothing},
    Row{"quotation-mark", "7", "\"", NACHKLANG_IF(k.has(TokenKind::string) || k.has(TokenKind::name)),
        NACHKLANG_IF(k.fault == Fault::control_in_string && k.rest.empty()), nothing},
    Row{"escape", "7", "a backslash", NACHKLANG_TEXT(contains(s, "\\\\")),
        NACHKLANG_IF(k.fault == Fault::unknown_escape), nothing},
    Row{"escape-quotation-mark", "7", "\\\"", NACHKLANG_TEXT(contains(s, "\\\"")), nothing, nothing},
    Row{"escape-solidus", "7", "\\/", NACHKLANG_TEXT(contains(s, "\\/")), nothing, nothing},
    Row{"escape-backspace", "7", "\\b", NACHKLANG_TEXT(contains(s, "\\b")), nothing, nothing},
    Row{"escape-form-feed", "7", "\\f", NACHKLANG_TEXT(contains(s, "\\f")), nothing, nothing},
    Row{"escape-line-feed", "7", "\\n", NACHKLANG_TEXT(contains(s, "\\n")), nothing, nothing},
    Row{"escape-carriage-return", "7", "\\r", NACHKLANG_TEXT(contains(s, "\\r")), nothing, nothing},
    Row{"escape-tab", "7", "\\t", NACHKLANG_TEXT(contains(s, "\\t")), nothing, nothing},
    Row{"escape-u", "7", "u and four hexadecimal digits", NACHKLANG_TEXT(contains(s, "\\u")),
        NACHKLANG_IF(k.fault == Fault::hex_digit_expected), NACHKLANG_IF(k.raises_one({"lone-surrogate"}))},
    Row{"unescaped", "7", "any character but quotation mark, backslash and controls",
        NACHKLANG_TEXT(s.size() > 2 && !contains(s, "\\")),
        NACHKLANG_IF(k.fault == Fault::control_in_string && !k.rest.empty()), nothing},
    Row{"must-be-escaped", "7", "quotation mark, backslash and controls MUST be escaped",
        NACHKLANG_TEXT(contains(s, "\\u00") || contains(s, "\\\"")),
        NACHKLANG_IF(k.fault == Fault::control_in_string), nothing},
    Row{"hex-case", "7", "the hexadecimal letters A to F may be of either case",
        NACHKLANG_TEXT(contains(s, "\\u00E9") || contains(s, "\\uABCD")), nothing, nothing},
    // --- 8 ---
    Row{"utf-8", "8.1", "text that is exchanged MUST be UTF-8",
        NACHKLANG_TEXT(
            std::any_of(s.begin(), s.end(), [](char c) { return static_cast<unsigned char>(c) >= 0x80; })),
        NACHKLANG_IF(k.fault == Fault::ill_formed_utf8), NACHKLANG_IF(k.raises_one({"encoding"}))},
    Row{"bom-ignored", "8.1", "a parser MAY ignore a byte order mark", nothing, nothing,
        NACHKLANG_IF(k.raises_one({"byte-order-mark"}))},
    Row{"no-bom-written", "8.1", "an implementation MUST NOT add a byte order mark", nothing, nothing, nothing,
        true},
    Row{"unpaired-surrogates", "8.2", "what becomes of an unpaired surrogate is unpredictable", nothing, nothing,
        NACHKLANG_IF(k.raises_one({"lone-surrogate"}))},
    Row{"names-compared-unescaped", "8.3", "names are compared unit by unit once unescaped",
        [](const Looked&
               k) { return k.any_source(TokenKind::name, [](std::string_view s) { return contains(s, "\\"); }); },
        nothing, NACHKLANG_IF(k.raises_one({"duplicate-names"}))},
    // --- 9, 10 ---
    Row{"accept-all", "9", "a parser MUST accept all texts that conform", NACHKLANG_IF(k.document != nullptr),
        nothing, nothing},
    Row{"extensions", "9", "a parser MAY accept other forms and extensions", nothing,
        NACHKLANG_IF(!k.extensions.empty()), nothing},
    Row{"limit-size", "9", "an implementation may limit the size of texts", nothing, nothing,
        NACHKLANG_IF(k.raises_one({"document-size", "member-count"}))},
    Row{"limit-depth", "9", "an implementation may limit the depth of nesting", nothing, nothing,
        NACHKLANG_IF(k.raises_one({"depth"}))},
    Row{"limit-numbers", "9", "an implementation may limit the range and precision of numbers", nothing, nothing,
        NACHKLANG_IF(k.raises_one({"number-range", "number-precision", "number-length"}))},
    Row{"limit-strings", "9", "an implementation may limit the length and characters of strings", nothing, nothing,
        NACHKLANG_IF(k.raises_one({"string-length", "nul-character"}))},
    Row{"generators-conform", "10", "what a generator writes MUST conform", nothing, nothing, nothing, true},
};
#undef NACHKLANG_IF
#undef NACHKLANG_TEXT
#undef NACHKLANG_NUMBER

}  // namespace

std::span<const Requirement> all_requirements() {
    static const auto all = [] {
        std::vector<Requirement> out;
        for (const Row& row : rows)
            out.push_back({row.id, std::string("RFC 8259, ") + row.clause, row.wording,
                           row.accept != nullptr || row.of_encoders, row.reject != nullptr, row.open != nullptr});
        return out;
    }();
    return all;
}

std::vector<Exercised> exercised_by(std::string_view bytes, const std::vector<Occurrence>& occurrences) {
    std::vector<Exercised> out;
    const Document document = Document::read(bytes);
    Looked looked;
    looked.occurrences = occurrences;
    if (document.accepted()) {
        looked.document = &document;
    } else {
        NoSink sink;
        Scanner<NoSink> scanner(sink, Instructions::scalar);
        scanner.feed(bytes);
        scanner.finish();
        looked.fault = scanner.fault();
        looked.rest = bytes.substr(scanner.fault_offset());
        if (const auto extended = read_extended(bytes))
            for (const auto& use : extended->uses) looked.extensions.push_back(use.extension);
    }
    for (std::size_t i = 0; i < rows.size(); ++i) {
        const Row& row = rows[i];
        if (row.accept != nullptr && document.accepted() && row.accept(looked)) out.push_back({i, Stance::accept});
        if (row.reject != nullptr && !document.accepted() && row.reject(looked)) out.push_back({i, Stance::reject});
        if (row.open != nullptr && row.open(looked)) out.push_back({i, Stance::open});
    }
    return out;
}

std::vector<Exercised> exercised_by_encoding() {
    std::vector<Exercised> out;
    for (std::size_t i = 0; i < rows.size(); ++i)
        if (rows[i].of_encoders) out.push_back({i, Stance::accept});
    return out;
}

}  // namespace nachklang::json

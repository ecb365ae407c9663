// The choices that an encoder has where RFC 8259 leaves it several spellings of one value: digits (6) and escapes
// (7).
#include <algorithm>
#include <set>

#include <nachklang/json.hpp>
#include <nachklang/number.hpp>

#include "json/internal.hpp"

namespace nachklang::json {
namespace {

std::size_t significant(std::string_view number) {
    const auto value = Decimal::parse(number);
    return value ? value->digits().size() : 0;
}

/// The binary values that an encoder was given, by their bits.
struct Given {
    std::set<std::uint64_t> binary64;
    std::set<std::uint32_t> binary32;
};

Given binary_values(const Trace& value) {
    Given out;
    for (const Item& item : value.items()) {
        if (item.kind == ItemKind::binary64) out.binary64.insert(bits_of(item));
        if (item.kind == ItemKind::binary32) out.binary32.insert(static_cast<std::uint32_t>(bits_of(item)));
    }
    return out;
}

/// "shortest" or "more-digits"; empty if the value that was given is no binary number.
std::string digits_written(std::string_view number, const Given& given) {
    const auto value = Decimal::parse(number);
    if (!value || value->is_zero()) return "";
    const std::uint64_t bits64 = number::nearest_binary64(*value);
    const std::uint32_t bits32 = number::nearest_binary32(*value);
    std::size_t fewest = 0;
    if (given.binary64.contains(bits64)) {
        fewest = significant(number::shortest64(bits64));
    } else if (given.binary32.contains(bits32)) {
        fewest = significant(number::shortest32(bits32));
    } else {
        return "";
    }
    return value->digits().size() <= fewest ? "shortest" : "more-digits";
}

bool begins_with_low_surrogate(std::string_view source) {
    return source.size() > 3 && source.starts_with("\\u") && (source[2] == 'd' || source[2] == 'D') &&
           std::string_view("cdefCDEF").find(source[3]) != std::string_view::npos;
}

/// Which characters a string's source escapes although it need not (RFC 8259, 7), as an answer; "only-required" if
/// it leaves a character unescaped that some encoders escape.
void add_escapes(std::string_view source, std::set<std::string>& out) {
    bool optional = false, as_it_is = false;
    const auto note = [&](const char* what) {
        out.insert(what);
        optional = true;
    };
    for (std::size_t i = 0; i + 1 < source.size(); ++i) {
        const auto byte = static_cast<unsigned char>(source[i]);
        as_it_is = as_it_is || byte >= 0x7F || std::string_view("/<>&'").find(source[i]) != std::string_view::npos;
        if (source[i] != '\\') continue;
        const char kind = source[++i];
        if (kind == '/') note("solidus");
        if (kind != 'u') continue;
        const auto point = static_cast<char32_t>(std::stoul(std::string(source.substr(i + 1, 4)), nullptr, 16));
        i += 4;
        const bool has_short_form = point == 8 || point == 9 || point == 10 || point == 12 || point == 13;
        if (has_short_form || point == '"' || point == '\\') {
            note("long-forms");
        } else if (point == 0x2028 || point == 0x2029) {
            note("line-separators");
        } else if (point >= 0x80 && !(point >= 0xD800 && point < 0xE000)) {
            note("beyond-ascii");
        } else if (point >= 0xD800) {
            // A surrogate pair may be written unescaped; a lone surrogate may not.
            if (point >= 0xDC00 || !begins_with_low_surrogate(source.substr(i + 1))) continue;
            note("beyond-ascii");
            i += 6;
        } else if (point == 0x7F) {
            note("delete");
        } else if (point >= 0x20) {
            note("markup");
        }
    }
    if (!optional && as_it_is) out.insert("only-required");
}

}  // namespace

std::vector<Observed> encoder_choices(const Trace& value, std::string_view written) {
    const Document document = Document::read(written);
    const Given given = binary_values(value);
    std::set<std::string> digits, escapes;
    for (const Entry& entry : document.tape()) {
        if (entry.kind == TokenKind::number) digits.insert(digits_written(document.source(entry), given));
        if (entry.kind == TokenKind::string || entry.kind == TokenKind::name)
            add_escapes(document.source(entry), escapes);
    }
    digits.erase("");
    // A text without any string that could be escaped shows no choice.
    if (escapes.size() > 1) escapes.erase("only-required");
    std::vector<Observed> out;
    for (const std::string& answer : digits) out.push_back({"digits-written", answer});
    for (const std::string& answer : escapes) out.push_back({"escapes-written", answer});
    return out;
}

}  // namespace nachklang::json

// UTF-16 and UTF-32 in both byte orders, to and from UTF-8 (Unicode 15, 3.9 and 3.10).
#include <array>

#include <nachklang/text.hpp>

namespace nachklang::text {
namespace {

bool is_wide(Utf form) {
    return form == Utf::utf32le || form == Utf::utf32be;
}
bool is_little(Utf form) {
    return form == Utf::utf16le || form == Utf::utf32le;
}

char32_t unit_at(std::string_view bytes, std::size_t at, std::size_t size, bool little) {
    char32_t value = 0;
    for (std::size_t i = 0; i < size; ++i) {
        const auto byte = static_cast<unsigned char>(bytes[at + (little ? size - 1 - i : i)]);
        value = (value << 8) | byte;
    }
    return value;
}

void append_unit(std::string& out, char32_t unit, std::size_t size, bool little) {
    for (std::size_t i = 0; i < size; ++i) {
        const std::size_t shift = 8 * (little ? i : size - 1 - i);
        out.push_back(static_cast<char>((unit >> shift) & 0xFF));
    }
}

struct NamedForm {
    Utf form;
    const char* name;
    std::string_view mark;
};
// The wide ones first: the mark of UTF-16LE begins that of UTF-32LE.
constexpr std::array<NamedForm, 4> forms{{{Utf::utf32le, "UTF-32LE", std::string_view("\xFF\xFE\0\0", 4)},
                                          {Utf::utf32be, "UTF-32BE", std::string_view("\0\0\xFE\xFF", 4)},
                                          {Utf::utf16le, "UTF-16LE", "\xFF\xFE"},
                                          {Utf::utf16be, "UTF-16BE", "\xFE\xFF"}}};

/// Whether the first character is one of ASCII in this form.
bool begins_with_ascii(std::string_view bytes, Utf form) {
    const std::size_t size = is_wide(form) ? 4 : 2;
    if (bytes.size() < size) return false;
    const char32_t first = unit_at(bytes, 0, size, is_little(form));
    return first > 0 && first < 0x80;
}

}  // namespace

std::optional<std::string> to_utf8(std::string_view bytes, Utf form) {
    const std::size_t size = is_wide(form) ? 4 : 2;
    const bool little = is_little(form);
    if (bytes.size() % size != 0) return std::nullopt;
    std::string out;
    for (std::size_t at = 0; at < bytes.size(); at += size) {
        char32_t unit = unit_at(bytes, at, size, little);
        if (size == 2 && unit >= 0xD800 && unit < 0xDC00 && at + 4 <= bytes.size()) {
            const char32_t low = unit_at(bytes, at + 2, 2, little);
            if (low >= 0xDC00 && low < 0xE000) {
                unit = 0x10000 + ((unit - 0xD800) << 10) + (low - 0xDC00);
                at += 2;
            }
        }
        if (unit > 0x10FFFF || (unit >= 0xD800 && unit < 0xE000)) return std::nullopt;
        append_utf8(out, unit);
    }
    return out;
}

std::string printable_document(std::string_view bytes) {
    for (const NamedForm& form : forms) {
        const bool marked = bytes.starts_with(form.mark);
        if (!marked && !begins_with_ascii(bytes, form.form)) continue;
        const auto text = to_utf8(bytes.substr(marked ? form.mark.size() : 0), form.form);
        if (text) return std::string(form.name) + (marked ? " with a mark: " : ": ") + printable(*text);
    }
    return printable(bytes);
}

std::string from_utf8(std::string_view utf8, Utf form) {
    const bool little = is_little(form);
    std::string out;
    for (std::size_t at = 0; at < utf8.size();) {
        const Utf8Step step = decode_utf8(utf8, at);
        const char32_t scalar = step.well_formed ? step.scalar : 0xFFFD;
        at += step.length;
        if (is_wide(form)) {
            append_unit(out, scalar, 4, little);
        } else if (scalar < 0x10000) {
            append_unit(out, scalar, 2, little);
        } else {
            append_unit(out, 0xD800 + ((scalar - 0x10000) >> 10), 2, little);
            append_unit(out, 0xDC00 + ((scalar - 0x10000) & 0x3FF), 2, little);
        }
    }
    return out;
}

}  // namespace nachklang::text

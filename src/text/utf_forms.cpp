// UTF-16 and UTF-32 in both byte orders, to and from UTF-8 (Unicode 15, 3.9 and 3.10).
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

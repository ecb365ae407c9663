// Strings are compared as atoms. The three notations meet in one byte form in which equal atoms are equal bytes:
// scalar values as UTF-8, surrogates as the three bytes their bit pattern gives, and any other byte behind FF,
// which no other atom uses.
#include <array>

#include <nachklang/text.hpp>
#include <nachklang/trace.hpp>

namespace nachklang {
namespace {

/// The values of hexadecimal digits; a trace holds small letters only.
constexpr std::array<std::uint8_t, 256> digit_values = [] {
    std::array<std::uint8_t, 256> out{};
    for (std::size_t c = 0; c < 256; ++c) out[c] = static_cast<std::uint8_t>(c <= '9' ? c - '0' : c - 'a' + 10);
    return out;
}();

char32_t unit(std::string_view hex, std::size_t at, std::size_t digits) {
    char32_t value = 0;
    for (std::size_t i = at; i < at + digits; ++i)
        value = value * 16 + digit_values[static_cast<unsigned char>(hex[i])];
    return value;
}

bool is_surrogate_bytes(std::string_view bytes, std::size_t at) {
    return at + 2 < bytes.size() && static_cast<unsigned char>(bytes[at]) == 0xED &&
           static_cast<unsigned char>(bytes[at + 1]) >= 0xA0 && static_cast<unsigned char>(bytes[at + 1]) <= 0xBF &&
           (static_cast<unsigned char>(bytes[at + 2]) & 0xC0) == 0x80;
}

std::string atoms_of_bytes(std::string bytes) {
    if (!text::first_ill_formed(bytes)) return bytes;
    std::string out;
    for (std::size_t at = 0; at < bytes.size();) {
        const auto step = text::decode_utf8(bytes, at);
        if (step.well_formed) {
            out.append(bytes, at, step.length);
            at += step.length;
        } else if (is_surrogate_bytes(bytes, at)) {
            out.append(bytes, at, 3);
            at += 3;
        } else {
            out.push_back('\xFF');
            out.push_back(bytes[at++]);
        }
    }
    return out;
}

}  // namespace

std::string Field::atoms() const {
    std::string out;
    switch (units) {
        case Units::not_reported:
            return out;
        case Units::u8:
            out.resize(hex.size() / 2);
            for (std::size_t i = 0; i < out.size(); ++i) out[i] = static_cast<char>(unit(hex, 2 * i, 2));
            return atoms_of_bytes(std::move(out));
        case Units::u16:
            for (std::size_t at = 0; at + 3 < hex.size(); at += 4) {
                char32_t c = unit(hex, at, 4);
                if (c >= 0xD800 && c < 0xDC00 && at + 7 < hex.size()) {
                    const char32_t low = unit(hex, at + 4, 4);
                    if (low >= 0xDC00 && low < 0xE000) {
                        c = 0x10000 + ((c - 0xD800) << 10) + (low - 0xDC00);
                        at += 4;
                    }
                }
                text::append_utf8(out, c);
            }
            return out;
        case Units::u32:
            for (std::size_t at = 0; at + 7 < hex.size(); at += 8) text::append_utf8(out, unit(hex, at, 8));
            return out;
    }
    return out;
}

}  // namespace nachklang

// Makes text safe for a terminal: nothing from a document, a message or an adapter may move the cursor, change the
// writing direction or hide itself.
#include <fmt/format.h>
#include <unicode/uchar.h>

#include <algorithm>
#include <cstdlib>

#include <nachklang/text.hpp>

namespace nachklang::text {
namespace {

bool acts_or_hides(char32_t c) {
    const auto point = static_cast<UChar32>(c);
    switch (u_charType(point)) {
        case U_CONTROL_CHAR:
        case U_FORMAT_CHAR:
        case U_SURROGATE:
        case U_PRIVATE_USE_CHAR:
        case U_UNASSIGNED:
        case U_LINE_SEPARATOR:
        case U_PARAGRAPH_SEPARATOR:
            return true;
        default:
            break;
    }
    return (c != ' ' && u_isUWhiteSpace(point)) || u_hasBinaryProperty(point, UCHAR_DEFAULT_IGNORABLE_CODE_POINT);
}

void append_escaped(std::string& out, char32_t c) {
    switch (c) {
        case '\n':
            out += "\\n";
            return;
        case '\r':
            out += "\\r";
            return;
        case '\t':
            out += "\\t";
            return;
        default:
            break;
    }
    if (c < 0x10000) {
        out += fmt::format("\\u{:04x}", static_cast<std::uint32_t>(c));
    } else {
        out += fmt::format("\\u{{{:x}}}", static_cast<std::uint32_t>(c));
    }
}

/// Of what is no character in the byte form of atoms: its length, and how it is shown.
struct Atom {
    std::size_t length = 0;
    std::string shown;
};

Atom atom_at(std::string_view atoms, std::size_t at) {
    const auto byte = [&](std::size_t i) { return static_cast<unsigned>(static_cast<unsigned char>(atoms[i])); };
    if (byte(at) == 0xFF && at + 1 < atoms.size()) return {2, fmt::format("\\x{:02x}", byte(at + 1))};
    if (byte(at) == 0xED && at + 2 < atoms.size() && byte(at + 1) >= 0xA0)
        return {3, fmt::format("\\u{:04x}", 0xD000 | (byte(at + 1) & 0x3F) << 6 | (byte(at + 2) & 0x3F))};
    return {1, fmt::format("\\x{:02x}", byte(at))};
}

enum class Form { bytes, atoms };

std::string printable_up_to(std::string_view bytes, std::size_t most, bool keep_line_ends, Form form) {
    std::string out;
    std::size_t taken = 0;
    for (std::size_t at = 0; at < bytes.size(); ++taken) {
        if (taken == most) return out + "…";
        const Utf8Step step = decode_utf8(bytes, at);
        if (!step.well_formed && form == Form::atoms) {
            const Atom atom = atom_at(bytes, at);
            out += atom.shown;
            at += atom.length;
            continue;
        }
        if (!step.well_formed) {
            for (std::size_t i = 0; i < step.length; ++i)
                out += fmt::format("\\x{:02x}", static_cast<unsigned char>(bytes[at + i]));
        } else if (keep_line_ends && step.scalar == '\n') {
            out.push_back('\n');
        } else if (acts_or_hides(step.scalar)) {
            append_escaped(out, step.scalar);
        } else {
            out.append(bytes.substr(at, step.length));
        }
        at += step.length;
    }
    return out;
}

}  // namespace

std::string printable(std::string_view bytes, bool keep_line_ends) {
    return printable_up_to(bytes, bytes.size() + 1, keep_line_ends, Form::bytes);
}

std::string shell_word(std::string_view bytes) {
    constexpr std::string_view plain = "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-_./,:=+@%";
    if (!bytes.empty() && bytes.find_first_not_of(plain) == std::string_view::npos) return std::string(bytes);
    const bool ascii = std::all_of(bytes.begin(), bytes.end(), [](char c) { return c >= ' ' && c <= '~'; });
    std::string out = ascii ? "'" : "$'";
    for (const char c : bytes) {
        if (ascii && c == '\'') {
            out += "'\\''";
        } else if (!ascii && (c == '\'' || c == '\\')) {
            out += {'\\', c};
        } else if (c >= ' ' && c <= '~') {
            out.push_back(c);
        } else {
            out += fmt::format("\\{:03o}", static_cast<unsigned char>(c));
        }
    }
    return out + "'";
}

std::string in_utf8(std::string_view bytes) {
    return first_ill_formed(bytes) ? printable(bytes) : std::string(bytes);
}

std::string printable_excerpt(std::string_view bytes, std::size_t most) {
    return printable_up_to(bytes, most, false, Form::bytes);
}

std::string printable_atoms(std::string_view atoms, std::size_t most) {
    return printable_up_to(atoms, most, false, Form::atoms);
}

std::string without_addresses(std::string text) {
    constexpr std::string_view digits = "0123456789abcdefABCDEF";
    for (std::size_t at = text.find("0x"); at != std::string::npos; at = text.find("0x", at + 2)) {
        const std::size_t begin = at + 2,
                          length = std::min(text.find_first_not_of(digits, begin), text.size()) - begin;
        if (length < 12 || length > 16) continue;
        const std::uint64_t value = std::strtoull(text.substr(begin, length).c_str(), nullptr, 16);
        if (value >> 40 != 0 && value >> 48 == 0) text.replace(begin, length, "…");
    }
    return text;
}

std::size_t display_width(std::string_view printable_text) {
    std::size_t width = 0;
    for (std::size_t at = 0; at < printable_text.size();) {
        const Utf8Step step = decode_utf8(printable_text, at);
        at += step.length;
        const auto point = static_cast<UChar32>(step.scalar);
        const int type = u_charType(point);
        if (type == U_NON_SPACING_MARK || type == U_ENCLOSING_MARK) continue;
        const int east = u_getIntPropertyValue(point, UCHAR_EAST_ASIAN_WIDTH);
        width += (east == U_EA_WIDE || east == U_EA_FULLWIDTH) ? 2 : 1;
    }
    return width;
}

std::string to_hex(std::string_view bytes) {
    static constexpr char digits[] = "0123456789abcdef";
    std::string out;
    out.reserve(2 * bytes.size());
    for (const char c : bytes) {
        out.push_back(digits[static_cast<unsigned char>(c) >> 4]);
        out.push_back(digits[static_cast<unsigned char>(c) & 15]);
    }
    return out;
}

std::optional<std::string> from_hex(std::string_view hex) {
    std::string out;
    int high = -1;
    for (const char c : hex) {
        if ((c == ' ' || c == '\n') && high < 0) continue;
        const int digit = (c >= '0' && c <= '9')   ? c - '0'
                          : (c >= 'a' && c <= 'f') ? c - 'a' + 10
                          : (c >= 'A' && c <= 'F') ? c - 'A' + 10
                                                   : -1;
        if (digit < 0) return std::nullopt;
        if (high < 0) {
            high = digit;
        } else {
            out.push_back(static_cast<char>(high * 16 + digit));
            high = -1;
        }
    }
    if (high >= 0) return std::nullopt;
    return out;
}

std::string grouped(std::uint64_t number) {
    const std::string digits = std::to_string(number);
    std::string out;
    for (std::size_t i = 0; i < digits.size(); ++i) {
        if (i > 0 && (digits.size() - i) % 3 == 0) out += ',';
        out += digits[i];
    }
    return out;
}

}  // namespace nachklang::text

// Detects a document's encoding (XML 1.0, appendix F) and converts it to UTF-8, with positions in the original
// bytes.
#include "xml/read/source.hpp"

#include <fmt/format.h>
#include <iconv.h>

#include <algorithm>
#include <array>
#include <cerrno>

namespace nachklang::xml {
namespace {

std::string upper(std::string_view text) {
    std::string out(text);
    std::transform(out.begin(), out.end(), out.begin(),
                   [](char c) { return c >= 'a' && c <= 'z' ? static_cast<char>(c - 32) : c; });
    return out;
}

/// The name in an encoding declaration, read as loosely as is safe: the reader checks its grammar later.
std::string declared_name(std::string_view ascii) {
    constexpr std::string_view opening = "<?xml", spaces = " \t\r\n";
    if (!ascii.starts_with(opening) || ascii.size() == opening.size() ||
        spaces.find(ascii[opening.size()]) == std::string_view::npos)
        return "";
    const std::string_view declaration = ascii.substr(0, std::min(ascii.find("?>"), ascii.size()));
    const auto key = declaration.find("encoding");
    if (key == std::string_view::npos) return "";
    const auto quote = declaration.find_first_not_of(" \t\r\n=", key + 8);
    if (quote == std::string_view::npos || (declaration[quote] != '"' && declaration[quote] != '\'')) return "";
    const auto end = declaration.find(declaration[quote], quote + 1);
    if (end == std::string_view::npos) return "";
    const std::string name = upper(declaration.substr(quote + 1, end - quote - 1));
    // A name that breaks production 81 names no encoding: the reader will refuse the document.
    const auto letter = [](char c) { return c >= 'A' && c <= 'Z'; };
    const bool sound = !name.empty() && letter(name[0]) && std::all_of(name.begin(), name.end(), [&](char c) {
        return letter(c) || (c >= '0' && c <= '9') || c == '.' || c == '_' || c == '-';
    });
    return sound ? name : "";
}

constexpr std::size_t longest_declaration = 400;

/// Owns a converter to UTF-8; null if the system has none of that name.
class Converter {
  public:
    explicit Converter(const std::string& from) : handle_(::iconv_open("UTF-8", from.c_str())) {}
    ~Converter() {
        if (*this) ::iconv_close(handle_);
    }
    Converter(const Converter&) = delete;
    Converter& operator=(const Converter&) = delete;
    explicit operator bool() const {
        return handle_ != reinterpret_cast<iconv_t>(-1);  // NOLINT(performance-no-int-to-ptr): POSIX says so
    }

    struct Result {
        std::string text;
        std::size_t taken = 0;  ///< bytes
        bool ill_formed = false;
    };
    /// At most `most` bytes of text; whole characters.
    Result convert(std::string_view bytes, std::size_t most) const {
        Result out;
        out.text.resize(most);
        char* from = const_cast<char*>(bytes.data());  // iconv's interface; it does not write there
        std::size_t from_left = bytes.size(), to_left = most;
        char* to = out.text.data();
        const std::size_t status = ::iconv(handle_, &from, &from_left, &to, &to_left);
        out.ill_formed = status == static_cast<std::size_t>(-1) && errno != E2BIG;
        if (status != static_cast<std::size_t>(-1)) ::iconv(handle_, nullptr, nullptr, &to, &to_left);
        out.taken = bytes.size() - from_left;
        out.text.resize(most - to_left);
        return out;
    }

  private:
    iconv_t handle_;
};

std::string start_of(std::string_view document, const std::string& encoding) {
    const Converter converter(encoding);
    return converter ? converter.convert(document.substr(0, longest_declaration), 4 * longest_declaration).text
                     : "";
}

/// A family of encodings, detected by the first bytes.
struct Family {
    std::string_view first_bytes;
    std::size_t mark;
    Encoding encoding;
    std::string_view converter;  ///< to read the declaration with
};
using namespace std::string_view_literals;
constexpr std::array<Family, 11> families{{
    Family{"\x00\x00\xFE\xFF"sv, 4, Encoding::converted, "UTF-32BE"},
    Family{"\xFF\xFE\x00\x00"sv, 4, Encoding::converted, "UTF-32LE"},
    Family{"\x00\x00\x00<"sv, 0, Encoding::converted, "UTF-32BE"},
    Family{"<\x00\x00\x00"sv, 0, Encoding::converted, "UTF-32LE"},
    Family{"\xFE\xFF"sv, 2, Encoding::utf16be, "UTF-16BE"},
    Family{"\xFF\xFE"sv, 2, Encoding::utf16le, "UTF-16LE"},
    Family{"\x00<\x00?"sv, 0, Encoding::utf16be, "UTF-16BE"},
    Family{"<\x00?\x00"sv, 0, Encoding::utf16le, "UTF-16LE"},
    Family{"\x4C\x6F\xA7\x94"sv, 0, Encoding::converted, "IBM037"},
    Family{"\xEF\xBB\xBF"sv, 3, Encoding::utf8, ""},
    Family{""sv, 0, Encoding::utf8, ""},
}};

/// Whether a declared name fits UTF-16 or UTF-32 in this order.
bool fits_wide(std::string_view name, std::string_view converter) {
    const std::string_view width = converter.substr(0, 6);  // UTF-16 or UTF-32
    if (name == width || name == converter) return true;
    return width == "UTF-16" ? name == "ISO-10646-UCS-2" || name == "UCS-2"
                             : name == "ISO-10646-UCS-4" || name == "UCS-4";
}

bool is_wide_name(std::string_view name) {
    return name.starts_with("UTF-16") || name.starts_with("UTF-32") || name.find("UCS-") != std::string_view::npos;
}

void of_bytes(Detected& out, std::string_view document, const std::string& name) {
    if (name.empty() || name == "UTF-8") return;
    if (is_wide_name(name)) {
        out.contradicts = true;
        return;
    }
    if (out.mark == 3) {
        out.contradicts = true;
        return;
    }
    out.optional = true;
    if (name == "US-ASCII" || name == "ASCII") {
        out.encoding = Encoding::ascii;
    } else if (name == "ISO-8859-1" || name == "LATIN1" || name == "L1") {
        out.encoding = Encoding::latin1;
    } else if (!Converter(name)) {
        out.unreadable_because = fmt::format("the encoding {}", text::printable_excerpt(name, 30));
    } else if (!start_of(document, name).starts_with("<?xml")) {
        out.contradicts = true;
    } else {
        out.encoding = Encoding::converted;
        out.converter = name;
    }
}

}  // namespace

Detected detect(std::string_view document) {
    const Family& family = *std::find_if(families.begin(), families.end(),
                                         [&](const Family& f) { return document.starts_with(f.first_bytes); });
    Detected out;
    out.encoding = family.encoding;
    out.mark = family.mark;
    const std::string_view rest = document.substr(family.mark);
    if (family.converter.empty()) {
        of_bytes(out, document, declared_name(rest.substr(0, longest_declaration)));
        return out;
    }
    const std::string name = declared_name(start_of(rest, std::string(family.converter)));
    out.converter = family.converter;
    if (family.converter == "IBM037") {
        out.optional = true;
        if (!name.empty() && !Converter(name))
            out.unreadable_because = fmt::format("the encoding {}", text::printable_excerpt(name, 30));
        else if (name.empty() || !start_of(document, name).starts_with("<?xml"))
            out.contradicts = true;  // without a declaration only UTF-8 and UTF-16 may be used
        else
            out.converter = name;
        return out;
    }
    out.contradicts = !name.empty() && !fits_wide(name, family.converter);
    out.optional = family.encoding == Encoding::converted;
    out.unmarked = family.mark == 0;
    if (out.unmarked && name.empty()) {
        // Neither a mark nor a declaration: this is UTF-8, and its second or first byte is no character.
        return {};
    }
    return out;
}

Source::Source(std::string_view document, const Detected& detected)
    : bytes_(document.substr(detected.mark)), detected_(detected) {
    switch (detected_.encoding) {
        case Encoding::utf8:
            ill_formed_ = text::first_ill_formed(bytes_);
            text_ = bytes_.substr(0, ill_formed_.value_or(bytes_.size()));
            return;
        case Encoding::latin1:
            for (const char c : bytes_) text::append_utf8(owned_, static_cast<unsigned char>(c));
            break;
        case Encoding::ascii: {
            const auto* const bad = std::find_if(bytes_.begin(), bytes_.end(),
                                                 [](char c) { return static_cast<unsigned char>(c) >= 0x80; });
            text_ = bytes_.substr(0, static_cast<std::size_t>(bad - bytes_.begin()));
            if (bad != bytes_.end()) ill_formed_ = text_.size();
            return;
        }
        case Encoding::utf16le:
        case Encoding::utf16be:
            decode_utf16();
            break;
        case Encoding::converted: {
            auto result = Converter(detected_.converter).convert(bytes_, 4 * bytes_.size() + 16);
            owned_ = std::move(result.text);
            if (result.ill_formed) ill_formed_ = owned_.size();
            break;
        }
    }
    text_ = owned_;
}

void Source::decode_utf16() {
    const bool little = detected_.encoding == Encoding::utf16le;
    const auto unit = [&](std::size_t at) -> char32_t {
        const auto low = static_cast<unsigned char>(bytes_[at + (little ? 0 : 1)]);
        const auto high = static_cast<unsigned char>(bytes_[at + (little ? 1 : 0)]);
        return static_cast<char32_t>(high << 8 | low);
    };
    for (std::size_t at = 0; at < bytes_.size();) {  // the first bad character ends the text
        const bool whole = at + 2 <= bytes_.size();
        const char32_t first = whole ? unit(at) : 0;
        const bool high = first >= 0xD800 && first < 0xDC00;
        const char32_t second = high && at + 4 <= bytes_.size() ? unit(at + 2) : 0;
        if (!whole || (first >= 0xDC00 && first < 0xE000) || (high && (second < 0xDC00 || second > 0xDFFF))) {
            ill_formed_ = owned_.size();
            return;
        }
        text::append_utf8(owned_, high ? 0x10000 + ((first - 0xD800) << 10) + (second - 0xDC00) : first);
        at += high ? 4 : 2;
    }
}

Position Source::position(std::size_t offset) const {
    Position out = text::position_of(text_, offset);
    const std::string_view before = text_.substr(0, offset);
    switch (detected_.encoding) {
        case Encoding::utf16le:
        case Encoding::utf16be:
            out.offset = text::from_utf8(before, text::Utf::utf16le).size();
            break;
        case Encoding::latin1:
            out.offset = static_cast<std::size_t>(std::count_if(before.begin(), before.end(), [](char c) {
                return (static_cast<unsigned char>(c) & 0xC0) != 0x80;
            }));
            break;
        case Encoding::converted:
            out.offset = Converter(detected_.converter).convert(bytes_, offset).taken;
            break;
        default:
            break;
    }
    out.offset += detected_.mark;
    return out;
}

}  // namespace nachklang::xml

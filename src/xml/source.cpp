#include "source.hpp"

#include <fmt/format.h>

#include <algorithm>

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
    if (!ascii.starts_with("<?xml")) return "";
    const std::string_view declaration = ascii.substr(0, std::min(ascii.find("?>"), ascii.size()));
    const auto key = declaration.find("encoding");
    if (key == std::string_view::npos) return "";
    const auto quote = declaration.find_first_of("'\"", key);
    if (quote == std::string_view::npos) return "";
    const auto end = declaration.find(declaration[quote], quote + 1);
    if (end == std::string_view::npos) return "";
    return upper(declaration.substr(quote + 1, end - quote - 1));
}

std::string every_second(std::string_view document, std::size_t from) {
    std::string out;
    for (std::size_t i = from; i < document.size() && out.size() < 400; i += 2) out.push_back(document[i]);
    return out;
}

}  // namespace

Detected detect(std::string_view document) {
    Detected out;
    if (document.starts_with("\xFF\xFE") || document.starts_with("\xFE\xFF") ||
        document.starts_with(std::string_view("<\0?\0", 4)) ||
        document.starts_with(std::string_view("\0<\0?", 4))) {
        const bool little = document[0] == '\xFF' || document[0] == '<';
        out.encoding = little ? Encoding::utf16le : Encoding::utf16be;
        out.mark = document[0] == '\xFF' || document[0] == '\xFE' ? 2 : 0;
        const std::string name = declared_name(every_second(document, out.mark + (little ? 0 : 1)));
        out.contradicts = !name.empty() && !name.starts_with("UTF-16");
        if (out.mark == 0) out.beyond = "UTF-16 without a byte order mark";
        return out;
    }
    if (document.starts_with("\xEF\xBB\xBF")) out.mark = 3;
    const std::string name = declared_name(document.substr(out.mark));
    if (name.empty() || name == "UTF-8" || name == "UTF8") return out;
    if (name == "US-ASCII" || name == "ASCII") {
        out.encoding = Encoding::ascii;
    } else if (name == "ISO-8859-1" || name == "LATIN1" || name == "L1") {
        out.encoding = Encoding::latin1;
    } else if (name.starts_with("UTF-16")) {
        out.contradicts = true;
    } else {
        out.beyond = fmt::format("the encoding {}", text::printable_excerpt(name, 30));
    }
    if (out.mark == 3 && out.encoding != Encoding::utf8) out.contradicts = true;
    return out;
}

Source::Source(std::string_view document, const Detected& detected)
    : encoding_(detected.encoding), mark_(detected.mark) {
    const std::string_view bytes = document.substr(mark_);
    switch (encoding_) {
        case Encoding::utf8:
            ill_formed_ = text::first_ill_formed(bytes);
            text_ = bytes.substr(0, ill_formed_.value_or(bytes.size()));
            return;
        case Encoding::latin1:
            for (const char c : bytes) text::append_utf8(text_, static_cast<unsigned char>(c));
            return;
        case Encoding::ascii: {
            const auto* const bad = std::find_if(bytes.begin(), bytes.end(),
                                                 [](char c) { return static_cast<unsigned char>(c) >= 0x80; });
            text_.assign(bytes.begin(), bad);
            if (bad != bytes.end()) ill_formed_ = text_.size();
            return;
        }
        case Encoding::utf16le:
        case Encoding::utf16be: {
            const auto form = encoding_ == Encoding::utf16le ? text::Utf::utf16le : text::Utf::utf16be;
            for (std::size_t at = 0;
                 at < bytes.size();) {  // character by character: the first bad one ends the text
                auto one = text::to_utf8(bytes.substr(at, 2), form);
                std::size_t taken = 2;
                if (!one) {
                    one = text::to_utf8(bytes.substr(at, 4), form);
                    taken = 4;
                }
                if (!one || at + taken > bytes.size()) {
                    ill_formed_ = text_.size();
                    return;
                }
                text_ += *one;
                at += taken;
            }
            return;
        }
    }
}

Position Source::position(std::size_t offset) const {
    Position out = text::position_of(text_, offset);
    const std::string_view before = std::string_view(text_).substr(0, offset);
    if (encoding_ == Encoding::utf16le || encoding_ == Encoding::utf16be) {
        out.offset = text::from_utf8(before, text::Utf::utf16le).size();
    } else if (encoding_ == Encoding::latin1) {
        out.offset = static_cast<std::size_t>(std::count_if(
            before.begin(), before.end(), [](char c) { return (static_cast<unsigned char>(c) & 0xC0) != 0x80; }));
    }
    out.offset += mark_;
    return out;
}

}  // namespace nachklang::xml

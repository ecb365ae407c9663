#include "xml/read/version_1_1.hpp"

#include <algorithm>
#include <array>

#include <nachklang/text.hpp>

namespace nachklang::xml {
namespace {

using namespace std::string_view_literals;

constexpr std::string_view spaces = " \t\r\n";

std::string_view without_spaces(std::string_view text) {
    return text.substr(std::min(text.find_first_not_of(spaces), text.size()));
}

// Longest first.
constexpr std::array line_ends{"\r\n"sv, "\r\xC2\x85"sv, "\xC2\x85"sv, "\xE2\x80\xA8"sv, "\r"sv};

/// The length of a line end that begins the text; 0 if none does.
std::size_t line_end(std::string_view text) {
    const auto* const found = std::find_if(line_ends.begin(), line_ends.end(),
                                           [&](std::string_view end) { return text.starts_with(end); });
    return found == line_ends.end() ? 0 : found->size();
}

/// RestrictedChar (production 2a).
bool is_restricted(char32_t c) {
    return (c >= 0x1 && c <= 0x1F && c != '\t' && c != '\n' && c != '\r') || (c >= 0x7F && c <= 0x9F && c != 0x85);
}

}  // namespace

bool declares_version_1_1(std::string_view text) {
    constexpr std::string_view opening = "<?xml", key = "version";
    if (!text.starts_with(opening)) return false;
    const std::string_view spaced = text.substr(opening.size());
    std::string_view rest = without_spaces(spaced);
    if (rest.size() == spaced.size() || !rest.starts_with(key)) return false;
    rest = without_spaces(rest.substr(key.size()));
    if (!rest.starts_with('=')) return false;
    rest = without_spaces(rest.substr(1));
    return rest.starts_with("'1.1'") || rest.starts_with("\"1.1\"");
}

Text11::Text11(std::string_view raw) {
    std::size_t at = 0, removed = 0;
    if (raw.starts_with("<?xml")) at = std::min(raw.find("?>"), raw.size());
    text_ = raw.substr(0, at);
    while (at < raw.size()) {
        if (const std::size_t length = line_end(raw.substr(at)); length > 0) {
            text_.push_back('\n');
            at += length;
            removed += length - 1;
            if (length > 1) shortened_.push_back({text_.size(), removed});
            continue;
        }
        const auto step = text::decode_utf8(raw, at);
        if (!restricted_ && is_restricted(step.scalar)) restricted_ = text_.size();
        text_ += raw.substr(at, step.length);
        at += step.length;
    }
}

std::size_t Text11::raw_offset(std::size_t offset) const {
    const auto after = std::upper_bound(shortened_.begin(), shortened_.end(), offset,
                                        [](std::size_t o, const Shortened& s) { return o < s.after; });
    return offset + (after == shortened_.begin() ? 0 : (after - 1)->removed);
}

bool is_char_1_1(char32_t c) {
    return (c >= 0x1 && c <= 0xD7FF) || (c >= 0xE000 && c <= 0xFFFD) || (c >= 0x10000 && c <= 0x10FFFF);
}

}  // namespace nachklang::xml

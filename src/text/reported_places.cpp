// Places as libraries report them, as offsets in bytes.
#include <algorithm>

#include <nachklang/text.hpp>

namespace nachklang::text {
namespace {

bool continues_character(char c) {
    return (static_cast<unsigned char>(c) & 0xC0U) == 0x80;
}

}  // namespace

std::optional<std::size_t> counted_from(std::string_view document, std::size_t begin, std::uint64_t count,
                                        std::string_view unit) {
    if (unit != "point" && unit != "utf16")
        return begin + count <= document.size() ? std::optional(begin + count) : std::nullopt;
    std::size_t at = begin;
    for (std::uint64_t left = count; left > 0;) {
        if (at >= document.size()) return std::nullopt;
        const bool pair = unit == "utf16" && static_cast<unsigned char>(document[at]) >= 0xF0;
        do ++at;
        while (at < document.size() && continues_character(document[at]));
        left -= std::min<std::uint64_t>(left, pair ? 2 : 1);
    }
    return at;
}

std::optional<std::size_t> line_begin(std::string_view document, std::uint64_t line) {
    std::size_t at = 0;
    for (std::uint64_t now = 1; now < line; ++now) {
        const auto end = document.find_first_of("\r\n", at);
        if (end == std::string_view::npos) return std::nullopt;
        at = end + (document.substr(end, 2) == "\r\n" ? 2 : 1);
    }
    return at;
}

std::optional<std::size_t> offset_of(std::string_view document, std::uint64_t line, std::uint64_t column,
                                     std::string_view unit) {
    if (column == 0) return std::nullopt;
    const auto begin = line_begin(document, line);
    return begin ? counted_from(document, *begin, column - 1, unit) : std::nullopt;
}

}  // namespace nachklang::text

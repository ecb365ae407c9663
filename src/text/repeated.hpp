// A text several times in a row, for generated documents.
#pragma once

#include <string>
#include <string_view>

namespace nachklang::text {

inline std::string repeated(std::string_view piece, std::size_t times) {
    std::string out;
    out.reserve(piece.size() * times);
    for (std::size_t i = 0; i < times; ++i) out += piece;
    return out;
}

}  // namespace nachklang::text

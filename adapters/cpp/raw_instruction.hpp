// Processing instructions from parsers that give target and data as one text.
#pragma once

#include <string_view>

#include <nachklang/adapter.hpp>

/// Writes the instruction whose text between "<?" and "?>" is `inside`. An XML declaration is left out. The data
/// begin after the white space that follows the target (XML Information Set, 2.4).
inline void raw_instruction(std::string_view inside, nachklang::adapter::TraceOut& out) {
    constexpr std::string_view white_space = " \t\r\n";
    const auto space = inside.find_first_of(white_space);
    if (inside.substr(0, space) == "xml") return;
    const auto data = space == std::string_view::npos ? space : inside.find_first_not_of(white_space, space);
    out.instruction(inside.substr(0, space),
                    data == std::string_view::npos ? std::string_view{} : inside.substr(data));
}

// A case as text, and as the command that shows it again.
#include <fmt/format.h>

#include <ostream>

#include <nachklang/corpus.hpp>
#include <nachklang/text.hpp>

namespace nachklang {

std::string repeat_command(const Case& c) {
    const bool of_sheet = c.source.rfind(".toml:") != std::string::npos;
    const std::string file = c.source.starts_with('-') ? "./" + c.source : c.source;
    return fmt::format("nachklang try {}{}", of_sheet ? "--case " : "", text::shell_word(of_sheet ? c.name : file));
}

std::ostream& operator<<(std::ostream& out, const Case& c) {
    constexpr std::size_t longest = 200;
    out << text::printable(c.name) << ": ";
    if (c.document)
        out << text::printable_excerpt(*c.document, longest);
    else if (c.value)
        out << "the value " << c.format->describe(*c.value, longest);
    return out << "; " << repeat_command(c);
}

}  // namespace nachklang

#include "protocol/missing_library.hpp"

#include <algorithm>
#include <array>

namespace nachklang::protocol {
namespace {

/// The words before and behind the name.
struct Message {
    std::string_view before, behind;
};

constexpr std::array messages{
    Message{"error while loading shared libraries: ", ":"},  // ld.so of the GNU C library
    Message{"Can't locate ", " in @INC"},                    // Perl
    Message{"No module named '", "'"},                       // Python
    Message{"cannot load such file -- ", " (LoadError)"},    // Ruby
    Message{"Cannot find module '", "'"},                    // Node.js
    Message{"Cannot find package '", "'"},                   // Node.js
    Message{"Could not find or load main class ", "\n"},     // Java
    Message{"NoClassDefFoundError: ", "\n"},                 // Java
    Message{"Could not load file or assembly '", ","},       // Mono
    Message{"no code for module ", "\n"},                    // Guile
    Message{"there is no package called ", "\n"},            // R
    Message{"can't find package ", "\n"},                    // Tcl
    Message{"Call to undefined function ", "("},             // PHP
    Message{"module '", "' not found"},                      // Lua
};

}  // namespace

std::string missing_library(std::string_view log) {
    constexpr std::size_t longest_name = 200;
    for (const Message& message : messages) {
        const std::size_t at = log.find(message.before);
        if (at == std::string_view::npos) continue;
        const std::string_view rest = log.substr(at + message.before.size());
        const std::size_t end = rest.find(message.behind);
        if (end == 0 || end == std::string_view::npos) continue;
        const std::string_view name = rest.substr(0, std::min(end, longest_name));
        if (name.find('\n') == std::string_view::npos) return std::string(name);
    }
    return "";
}

}  // namespace nachklang::protocol

// Globs.
#include <nachklang/corpus.hpp>

namespace nachklang {

bool matches_glob(std::string_view glob, std::string_view name) {
    // Matches with two cursors: after a mismatch it returns to the last star and lets it match one character more.
    std::size_t g = 0, n = 0;
    std::size_t star = std::string_view::npos, star_n = 0;
    bool star_crosses = false;
    while (n < name.size()) {
        if (g < glob.size() && glob[g] == '*') {
            star_crosses = g + 1 < glob.size() && glob[g + 1] == '*';
            g += star_crosses ? 2 : 1;
            if (star_crosses && g < glob.size() && glob[g] == '/' && (n == 0 || name[n - 1] == '/')) ++g;
            star = g;
            star_n = n;
        } else if (g < glob.size() && (glob[g] == name[n] || (glob[g] == '?' && name[n] != '/'))) {
            ++g;
            ++n;
        } else if (star != std::string_view::npos && (star_crosses || name[star_n] != '/')) {
            g = star;
            n = ++star_n;
        } else {
            return false;
        }
    }
    while (g < glob.size() && glob[g] == '*') ++g;
    return g == glob.size();
}

}  // namespace nachklang

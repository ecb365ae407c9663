// See sequence.hpp.
#include <nachklang/sequence.hpp>

#include "trace/containers.hpp"

namespace nachklang {

std::vector<std::string_view> values_in_list(const Trace& list) {
    std::vector<std::string_view> out;
    std::string_view rest = list.text();
    const auto items = list.items();
    std::size_t depth = 0, begin = rest.find('\n') + 1;
    for (std::size_t i = 1, at = begin; i + 1 < items.size(); ++i) {
        const ItemKind kind = items[i].kind;
        depth = depth + (opens_any(kind) ? 1 : 0) - (closes_any(kind) ? 1 : 0);
        at = rest.find('\n', at) + 1;
        if (depth > 0 || kind == ItemKind::key) continue;
        out.push_back(rest.substr(begin, at - begin));
        begin = at;
    }
    return out;
}

}  // namespace nachklang

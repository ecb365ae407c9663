// See shapes.hpp.
#include "ui/shapes.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>

namespace tool {

using namespace nachklang;

Checked<std::vector<const Format*>> formats_with_shapes(const Common& common,
                                                        const std::vector<std::string>& globs) {
    std::vector<const Format*> out;
    std::vector<std::string> names;
    for (const Format* format : formats()) {
        const Generators* generators = format->generators();
        if (generators == nullptr || generators->shapes().empty() ||
            (!common.format.empty() && format->name() != common.format))
            continue;
        out.push_back(format);
        for (const Shape& shape : generators->shapes())
            if (std::ranges::find(names, shape.name) == names.end()) names.emplace_back(shape.name);
    }
    if (out.empty()) return Problem{"--format", fmt::format("{} has no shapes", common.format), "leave it out"};
    for (const std::string& glob : globs)
        if (std::none_of(names.begin(), names.end(),
                         [&](const std::string& name) { return matches_glob(glob, name); }))
            return Problem{"--shape", fmt::format("unknown shape '{}'", glob),
                           fmt::format("use one of {}", fmt::join(names, ", "))};
    return out;
}

}  // namespace tool

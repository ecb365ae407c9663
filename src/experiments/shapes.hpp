// The shapes that an experiment goes through.
#pragma once

#include <algorithm>
#include <string>
#include <vector>

#include <nachklang/corpus.hpp>

namespace nachklang {

/// Indices of a format's shapes whose names one of the globs matches; without globs, of all.
inline std::vector<std::size_t> chosen_shapes(const Format& format, const std::vector<std::string>& globs) {
    std::vector<std::size_t> out;
    if (format.generators() == nullptr) return out;
    const auto shapes = format.generators()->shapes();
    for (std::size_t i = 0; i < shapes.size(); ++i)
        if (globs.empty() || std::ranges::any_of(globs, [&](const std::string& glob) {
                return matches_glob(glob, std::string(shapes[i].name));
            }))
            out.push_back(i);
    return out;
}

}  // namespace nachklang

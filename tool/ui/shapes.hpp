// The shapes that a command goes through.
#pragma once

#include <string>
#include <vector>

#include "ui/workspace.hpp"

namespace tool {

/// The selected formats that have shapes; a glob that names no shape of theirs is a problem.
nachklang::Checked<std::vector<const nachklang::Format*>> formats_with_shapes(
    const Common& common, const std::vector<std::string>& globs);

}  // namespace tool

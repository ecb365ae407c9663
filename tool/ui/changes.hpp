// What changed between two runs, on the terminal.
#pragma once

#include <nachklang/changes.hpp>

#include "ui/terminal.hpp"

namespace tool {

/// Prints newly failing behaviours first, then what else came, what was mended, answers, versions, and what only
/// one of the runs has.
void print_changes(const nachklang::Changes& changes, Colour colour);

}  // namespace tool

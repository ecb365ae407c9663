// Puts the tasks of a chunk together: results case by case, and where the subjects' answers disagree.
#pragma once

#include <span>
#include <vector>

#include "campaign/task.hpp"

namespace nachklang::campaign {

/// `tasks` holds one report for each subject, in the order of the subjects; they are emptied.
ChunkReport assemble(std::span<const Case> cases, std::vector<TaskReport>& tasks);

}  // namespace nachklang::campaign

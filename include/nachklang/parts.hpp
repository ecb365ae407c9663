// The parts of one run, made on several machines or by the tasks of a batch engine, and the whole that they give
// (docs/many-machines.md).
#pragma once

#include <span>
#include <string>
#include <vector>

#include <nachklang/run_store.hpp>
#include <nachklang/store.hpp>

namespace nachklang {

/// What the first line of a part's file says of it; `part` counts from 1.
PartOfRun part_of_run(std::size_t part, std::size_t parts, const RunSetup& setup,
                      std::span<const Subject> subjects);

/// Writes the results file of the whole run from those of its parts, in any order. `cases` are those of the run:
/// the behaviours are found from all results anew. A part that is missing, named twice, not run to its end or of
/// another run is a problem; the file then has no end record.
std::optional<Problem> merge_parts(std::span<const std::string> files, std::span<const Case> cases, LineFile& out);

}  // namespace nachklang

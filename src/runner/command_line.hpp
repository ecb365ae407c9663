// Implementations that are only a command line: one process a document.
#pragma once

#include <nachklang/runner.hpp>

namespace nachklang::runner {

/// Runs one document through the command line of an implementation that reaches `verdict` or `round-trip`.
Outcome run_command_line(const Subject& subject, const Request& request, const std::atomic<bool>* cancelled);

}  // namespace nachklang::runner

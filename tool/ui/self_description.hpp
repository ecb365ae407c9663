// The manual page and the shells' completions, from the table of commands and options that the tool parses with.
#pragma once

#include <CLI/CLI.hpp>

#include <string>

namespace tool {

/// In roff's man macros.
std::string manual_page(const CLI::App& app, const std::string& version);

/// Every command with its options, in Markdown: docs/options.md.
std::string option_reference(const CLI::App& app);

enum class Shell { bash, zsh, fish };
/// A script for the shell. File names are completed where an option or a command takes one.
std::string completion(const CLI::App& app, Shell shell);

}  // namespace tool

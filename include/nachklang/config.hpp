// The configuration: which implementations and corpora a run uses (docs/configuration.md).
#pragma once

#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include <nachklang/format.hpp>
#include <nachklang/problem.hpp>

namespace nachklang {

/// How much of its work an implementation shows: a verdict, the re-encoded document, or the decoded value.
enum class Reach : std::uint8_t { verdict, round_trip, trace };
std::string_view name_of(Reach reach);

/// Findings that an author knows of, and that do not fail: those of a cause, of some cases, or of a cause there.
struct Excuse {
    std::string cause;   ///< empty: any
    std::string cases;   ///< a glob of names, as in FileRule::match; empty: any
    std::string reason;  ///< in the author's words
    std::string where;   ///< file and line
};

/// One [[implementation]] of a configuration.
struct Implementation {
    std::string name;
    Reach reach = Reach::trace;
    std::vector<std::string> command;
    std::vector<std::string> formats;
    double deadline_s = 5;         ///< for one request
    double start_s = 20;           ///< until the hello
    std::size_t memory_mb = 2048;  ///< resident, of the process and its children
    std::vector<int> rejected_status{1};
    std::vector<std::pair<std::string, std::string>> declares;  ///< question, answer
    std::vector<Excuse> excuses{};
    std::string version;                ///< of a command line; an adapter says it in its hello
    Settings settings{};                ///< of a command line, as an adapter's `setting` lines (docs/protocol.md)
    std::vector<std::string> packages;  ///< Debian packages that it needs
    std::string set;                    ///< of a shipped one, how much its packages cost: cheap, middle, all
    std::vector<std::string> requires_files;  ///< files that exist if it is installed
    std::string needs;                        ///< what installs it, in words
    std::string where;                        ///< file and line of the entry
};

/// A stance that the configuration gives to document files; the first rule that matches counts.
struct FileRule {
    std::string match;  ///< glob: * within a folder, ** across folders, ? one character
    Stance stance = Stance::open;
};

/// One [[corpus]] of a configuration.
struct CorpusEntry {
    std::string folder;
    std::vector<FileRule> rules;
    std::string where;
};

struct Configuration {
    std::vector<Implementation> implementations;
    std::vector<CorpusEntry> corpora;
    bool ships_implementations = true;                 ///< the shipped list applies too
    std::vector<std::string> shipped_implementations;  ///< only these of it; empty: all
    bool ships_corpora = true;
};
/// Reads a configuration. In commands `{adapters}` is replaced by `adapters_folder` and `{built}` by
/// `built_folder`; relative folders are relative to the configuration's own folder. Whether the answers that are
/// declared exist is for wrong_declaration() to say.
Checked<Configuration> load_configuration(const std::string& file, const std::string& adapters_folder,
                                          const std::string& built_folder);

/// The first of the answers that it declares that no question has. Questions are those of its formats, and those
/// that sheets declare.
std::optional<Problem> wrong_declaration(const Implementation& implementation,
                                         std::span<const Question* const> of_sheets);

/// What is missing to run an implementation: the first word of its command, a script it names or a file it
/// requires; nothing if all are there.
std::optional<std::string> missing_of(const Implementation& implementation);

}  // namespace nachklang

// `implementations`: which ones are installed, which are not, and whether an adapter obeys the protocol.
#include <fmt/format.h>

#include "commands/commands.hpp"
#include "ui/lines.hpp"
#include "ui/terminal.hpp"

namespace tool {

using namespace nachklang;

namespace {

/// The same options, with the formats and implementations that these words name.
Common with_words(const Common& common, const std::vector<std::string>& words) {
    Common out = common;
    for (const std::string& word : words) {
        if (find_format(word) != nullptr)
            out.format = word;
        else
            out.implementations.push_back(word);
    }
    return out;
}

/// Those that are not installed and that the words name, if there are any words.
std::vector<Missing> missing_of(const Workspace& workspace, const Common& common) {
    std::vector<Missing> out = workspace.missing;
    if (common.implementations.empty()) return out;
    std::erase_if(out, [&](const Missing& missing) {
        return std::ranges::none_of(common.implementations,
                                    [&](const std::string& glob) { return matches_glob(glob, missing.name); });
    });
    return out;
}

}  // namespace

int list_implementations(const Common& options, const std::vector<std::string>& words) {
    const Common common = with_words(options, words);
    const auto workspace = open_workspace(common);
    if (!workspace.ok()) return report(workspace.problem());
    std::vector<Missing> not_installed = missing_of(workspace.value(), common);
    std::vector<Subject> subjects;
    if (!workspace.value().found.empty()) {
        auto started = subjects_of(workspace.value(), common, false, &not_installed);
        // Names of what is not installed alone are no mistake here.
        if (!started.ok() && not_installed.empty()) return report(started.problem());
        if (started.ok()) subjects = std::move(started.value());
    }
    if (!common.format.empty())
        std::erase_if(subjects, [&](const Subject& s) {
            return s.failed_hello.empty() && !any_supports({&s, 1}, *find_format(common.format));
        });
    if (common.json) {
        for (const Subject& s : subjects) fmt::print("{}\n", line_of(s));
        for (const Missing& missing : not_installed) fmt::print("{}\n", line_of(missing));
        return exit_success;
    }
    std::vector<std::vector<Cell>> rows{{{"IMPLEMENTATION", Cell::Paint::bold},
                                         {"VERSION", Cell::Paint::bold},
                                         {"ENGINE", Cell::Paint::bold},
                                         {"REACH", Cell::Paint::bold},
                                         {"OPERATIONS", Cell::Paint::bold},
                                         {"CANNOT REPRESENT", Cell::Paint::bold}}};
    for (const Subject& s : subjects) {
        if (!s.failed_hello.empty()) {
            rows.push_back({{s.name()},
                            {"-"},
                            {"-"},
                            {std::string(name_of(s.implementation.reach))},
                            {"no valid hello: " + text::printable_excerpt(s.failed_hello, 80), Cell::Paint::bad}});
            continue;
        }
        rows.push_back({{s.name()},
                        {s.version.empty() ? "-" : text::printable_excerpt(s.version, 20)},
                        {text::printable_excerpt(s.engine, 20)},
                        {std::string(name_of(s.implementation.reach))},
                        {operations_of(s)},
                        {fmt::format("{}", fmt::join(s.cannot_represent, " ")), Cell::Paint::faint}});
    }
    const Style style = Style::of_stdout(common.colour);
    if (!subjects.empty()) fmt::print("{}", table(rows, style));
    if (not_installed.empty()) return exit_success;
    fmt::print("\n{}\n", style.bold("not installed"));
    std::vector<std::vector<Cell>> missing;
    for (const Missing& m : not_installed)
        missing.push_back({{m.name}, {m.absent + " is missing"}, {m.needs, Cell::Paint::faint}});
    fmt::print("{}", table(missing, style, "  "));
    return exit_success;
}

int check_implementations(const Common& common, const std::vector<std::string>& names) {
    const auto workspace = open_workspace(common);
    if (!workspace.ok()) return report(workspace.problem());
    const auto subjects = subjects_of(workspace.value(), with_names(common, names));
    if (!subjects.ok()) return report(subjects.problem());
    const Style style = Style::of_stdout(common.colour);
    bool passed = true;
    for (const Subject& subject : subjects.value()) {
        const ProtocolReport plumbing = check_protocol(subject);
        fmt::print("{}\n", style.bold(subject.name()));
        std::vector<std::vector<Cell>> rows;
        for (const auto& check : plumbing.checks) {
            const bool skipped = !check.applicable;
            rows.push_back({{skipped ? "-" : (check.passed ? "holds" : "BROKEN"),
                             skipped ? Cell::Paint::faint : (check.passed ? Cell::Paint::good : Cell::Paint::bad)},
                            {check.name},
                            {text::printable_excerpt(check.detail, 200)}});
        }
        fmt::print("{}", table(rows, style, "  "));
        passed = passed && plumbing.passed();
    }
    return passed ? exit_success : exit_failing;
}

}  // namespace tool

// `results`: the runs that a store keeps.
#include <fmt/format.h>

#include <algorithm>
#include <filesystem>
#include <system_error>

#include <nachklang/parts.hpp>
#include <nachklang/run_store.hpp>

#include "commands/commands.hpp"
#include "ui/terminal.hpp"

namespace tool {

using namespace nachklang;

namespace {

/// A store to be changed. A file that is not there is not made.
Checked<std::unique_ptr<RunStore>> existing_store(const std::string& path) {
    if (auto readable = RunStore::open_to_read(path); !readable.ok()) return readable.problem();
    return RunStore::open(path);
}

}  // namespace

int list_results(const Common& common, const ResultsOptions& options) {
    const auto store = RunStore::open_to_read(options.store);
    if (!store.ok()) return report(store.problem());
    const auto runs = store.value()->runs();
    if (!runs.ok()) return report(runs.problem());
    const Style style = Style::of_stdout(common.colour);
    std::vector<std::vector<Cell>> rows(1);
    for (const char* head : {"RUN", "STARTED", "STATE", "CASES", "IMPLEMENTATIONS", "RESULTS", "FAILING", "CALL"})
        rows[0].push_back({head, Cell::Paint::bold});
    for (const StoredRun& run : runs.value())
        rows.push_back(
            {{std::to_string(run.id)},
             {run.started},
             {run.complete ? "complete" : "not complete", run.complete ? Cell::Paint::good : Cell::Paint::open},
             {text::grouped(run.cases)},
             {text::grouped(run.implementations)},
             {text::grouped(run.results)},
             {text::grouped(run.failing), run.failing > 0 ? Cell::Paint::bad : Cell::Paint::none},
             {text::printable(run.setup.command), Cell::Paint::faint}});
    fmt::print("{}", table(rows, style));
    return exit_success;
}

int merge_results(const Common& common, const MergeOptions& options) {
    const auto workspace = open_workspace(common);
    if (!workspace.ok()) return report(workspace.problem());
    const auto cases = chosen_cases(workspace.value(), options.corpora, common);
    if (!cases.ok()) return report(cases.problem());
    if (std::find(options.files.begin(), options.files.end(), options.output) != options.files.end())
        return report({"--results", options.output + " is the file of a part", "name another file"});
    // A file that is there is kept until the parts have made a whole.
    const bool to_file = options.output != "-";
    const std::string path = to_file ? options.output + ".unfinished" : options.output;
    std::optional<Problem> problem;
    {
        const auto out = LineFile::create(path);
        if (!out.ok()) return report(out.problem());
        problem = merge_parts(options.files, cases.value(), *out.value());
    }
    std::error_code failed;
    if (to_file && problem) std::filesystem::remove(path, failed);
    if (to_file && !problem) std::filesystem::rename(path, options.output, failed);
    if (!problem && failed)
        problem =
            Problem{options.output, "cannot be written: " + failed.message(), "name a file that can be written"};
    return problem ? report(*problem) : exit_success;
}

int drop_results(const ResultsOptions& options) {
    const auto store = existing_store(options.store);
    if (!store.ok()) return report(store.problem());
    if (const auto problem = store.value()->drop(options.run)) return report(*problem);
    fmt::print("dropped run {}\n", options.run);
    return exit_success;
}

int vacuum_results(const ResultsOptions& options) {
    const auto store = existing_store(options.store);
    if (!store.ok()) return report(store.problem());
    if (const auto problem = store.value()->vacuum()) return report(*problem);
    return exit_success;
}

int query_results(const Common& common, const ResultsOptions& options) {
    const auto store = RunStore::open_to_read(options.store);
    if (!store.ok()) return report(store.problem());
    std::vector<std::vector<Cell>> rows;
    const auto problem = store.value()->query(options.sql, [&](const std::vector<std::string>& row) {
        rows.emplace_back();
        for (const std::string& value : row)
            rows.back().push_back(
                {text::printable(value), rows.size() == 1 ? Cell::Paint::bold : Cell::Paint::none});
    });
    if (problem) return report(*problem);
    fmt::print("{}", table(rows, Style::of_stdout(common.colour)));
    return exit_success;
}

}  // namespace tool

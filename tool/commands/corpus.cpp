// `corpus list`, `corpus export`, `corpus coverage` and `corpus check`; `corpus_new.cpp` has the others.
#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <filesystem>
#include <map>
#include <tuple>

#include <nachklang/store.hpp>

#include "commands/commands.hpp"
#include "ui/lines.hpp"
#include "ui/terminal.hpp"

namespace tool {

using namespace nachklang;

namespace {

Checked<std::vector<Case>> load(const Common& common, const std::vector<std::string>& names) {
    auto workspace = open_workspace(common);
    if (!workspace.ok()) return workspace.problem();
    return chosen_cases(workspace.value(), names, common);
}

/// A field of tab-separated values.
std::string tab_field(std::string_view text) {
    std::string out = text::printable(text);
    std::replace(out.begin(), out.end(), '\t', ' ');
    return out;
}

/// Documents and expected values as files; index.tsv names them for programs without a reader of JSON, and
/// cases.jsonl says everything.
std::optional<Problem> export_folder(const std::vector<Case>& cases, const std::string& folder) {
    namespace fs = std::filesystem;
    std::error_code error;
    if (fs::exists(folder, error)) return Problem{folder, "is there already", "name a new folder"};
    std::string index = "case\tstance\tfile\tvalue\tclause\n", lines;
    for (const Case& c : cases) {
        lines += nachklang::line_of(c) + "\n";
        const Expectation expectation = expectation_of(c);
        if (!is_asked(c, Operation::decode) || !expectation.unreadable_because.empty()) continue;
        const std::string name = fmt::format("{}/{}", c.corpus, c.name);
        const bool is_plain = name.find("..") == std::string::npos &&
                              std::all_of(name.begin(), name.end(), [](char x) { return x > ' ' && x < 0x7f; });
        if (!is_plain) return Problem{c.source, "the name of the case is no file name", "rename it"};
        const std::string file = fmt::format("{}.{}", name, c.format->name()), value = name + ".trace";
        fs::create_directories(fs::path(folder) / fs::path(file).parent_path(), error);
        if (error) return Problem{folder, error.message(), "name a folder that can be written"};
        if (auto problem = write_file(folder + "/" + file, *c.document)) return problem;
        if (expectation.value)
            if (auto problem = write_file(folder + "/" + value, std::string(expectation.value->text())))
                return problem;
        index += fmt::format("{}\t{}\t{}\t{}\t{}\n", tab_field(name), name_of(expectation.stance), file,
                             expectation.value ? value : "", tab_field(expectation.clause));
    }
    if (auto problem = write_file(folder + "/index.tsv", index)) return problem;
    return write_file(folder + "/cases.jsonl", lines);
}

/// Cases of a corpus and aspect that hold the same document: nothing tells them apart.
std::size_t print_equal_cases(const std::vector<Case>& cases) {
    std::map<std::tuple<std::string, std::string, const Format*, ExternalAccess, std::string, std::vector<bool>,
                        std::string>,
             const Case*>
        known;
    std::size_t out = 0;
    for (const Case& c : cases) {
        const auto [at, is_new] = known.emplace(
            std::tuple(c.corpus, c.aspect, c.format, c.reads, c.record,
                       std::vector{c.document != nullptr, c.sequence, c.stays_open}, std::string(content_of(c))),
            &c);
        if (is_new) continue;
        ++out;
        fmt::print(stderr, "{}: {} has the {} of {}; remove one of them\n", text::printable(c.source),
                   text::printable(c.name), c.document ? "document" : "value", text::printable(at->second->name));
    }
    return out;
}

}  // namespace

int list_corpus(const Common& common, const std::vector<std::string>& names) {
    const auto cases = load(common, names);
    if (!cases.ok()) return report(cases.problem());
    if (common.json) {
        for (const Case& c : cases.value()) fmt::print("{}\n", tool::line_of(c));
        return exit_success;
    }
    const Style style = Style::of_stdout(common.colour);
    std::vector<std::vector<Cell>> rows{{{"CASE", Cell::Paint::bold},
                                         {"STANCE", Cell::Paint::bold},
                                         {"CLAUSE", Cell::Paint::bold},
                                         {"QUESTION", Cell::Paint::bold},
                                         {"WHY", Cell::Paint::bold}}};
    for (const Case& c : cases.value())
        rows.push_back({{text::printable(c.name)},
                        {c.stance ? std::string(name_of(*c.stance)) : "-"},
                        {text::printable(c.clause)},
                        {c.question},
                        {text::printable(c.why), Cell::Paint::faint}});
    fmt::print("{}", table(rows, style));
    return exit_success;
}

int export_corpus(const Common& common, const ExportOptions& options) {
    const auto cases = load(common, options.corpora);
    if (!cases.ok()) return report(cases.problem());
    if (!options.folder.empty()) {
        const auto problem = export_folder(cases.value(), options.folder);
        return problem ? report(*problem) : exit_success;
    }
    for (const Case& c : cases.value()) fmt::print("{}\n", nachklang::line_of(c));
    return exit_success;
}

int cover_corpus(const Common& common, const std::vector<std::string>& names) {
    const auto cases = load(common, names);
    if (!cases.ok()) return report(cases.problem());
    const Style style = Style::of_stdout(common.colour);
    std::size_t holes = 0;
    for (const Format* format : formats()) {
        const Coverage* coverage = format->coverage();
        if (coverage == nullptr) continue;
        const auto requirements = coverage->requirements();
        std::vector<std::array<std::size_t, 3>> counts(requirements.size(), {0, 0, 0});
        std::size_t asked = 0;
        for (const Case& c : cases.value()) {
            if (c.format != format) continue;
            ++asked;
            for (const Exercised& e : c.value ? coverage->exercised_by_encoding()
                                              : coverage->exercised(*c.document, external_context_of(c).fetch))
                ++counts[e.requirement][static_cast<std::size_t>(e.side)];
        }
        if (asked == 0) continue;
        std::vector<std::vector<Cell>> rows{{{"CLAUSE", Cell::Paint::bold},
                                             {"REQUIREMENT", Cell::Paint::bold},
                                             {"ACCEPT", Cell::Paint::bold},
                                             {"REJECT", Cell::Paint::bold},
                                             {"OPEN", Cell::Paint::bold},
                                             {"", Cell::Paint::bold}}};
        for (std::size_t i = 0; i < requirements.size(); ++i) {
            const Requirement& r = requirements[i];
            std::vector<Cell> row{{r.clause}, {r.id}};
            const std::array exists{r.accepts, r.rejects, r.opens};
            for (std::size_t side = 0; side < 3; ++side) {
                const bool hole = exists[side] && counts[i][side] == 0;
                holes += hole ? 1 : 0;
                row.push_back({exists[side] ? std::to_string(counts[i][side]) : "-",
                               hole ? Cell::Paint::bad : (exists[side] ? Cell::Paint::none : Cell::Paint::faint)});
            }
            row.push_back({text::printable(r.wording), Cell::Paint::faint});
            rows.push_back(std::move(row));
        }
        fmt::print("{}{} cases of {}\n\n", table(rows, style), asked, format->name());
    }
    fmt::print("{}\n", holes == 0 ? "no hole" : fmt::format("{} sides without a case", holes));
    return holes == 0 ? exit_success : exit_failing;
}

int check_corpus(const Common& common, const std::vector<std::string>& names) {
    const auto cases = load(common, names);
    if (!cases.ok()) return report(cases.problem());
    struct Counts {
        std::size_t cases = 0, by_stance[3] = {0, 0, 0}, traces = 0, problems = 0, documents = 0, values = 0;
    };
    std::map<std::string, Counts> aspects;
    for (const Case& c : cases.value()) {
        Counts& counts = aspects[c.corpus + " " + c.aspect];
        ++counts.cases;
        const bool of_sheet = !c.why.empty();
        if (!of_sheet) {
            ++counts.documents;
            continue;
        }
        if (c.stance) ++counts.by_stance[static_cast<std::size_t>(*c.stance)];
        if (c.value) ++counts.values;
        if (c.expected) ++counts.traces;
        for (const Problem& problem : check_case(c)) {
            ++counts.problems;
            fmt::print(stderr, "{}\n", text::printable(problem.line()));
        }
    }
    std::vector<std::vector<Cell>> rows{{{"ASPECT", Cell::Paint::bold},
                                         {"CASES", Cell::Paint::bold},
                                         {"ACCEPT", Cell::Paint::bold},
                                         {"REJECT", Cell::Paint::bold},
                                         {"OPEN", Cell::Paint::bold},
                                         {"TRACES BY HAND", Cell::Paint::bold},
                                         {"PROBLEMS", Cell::Paint::bold}}};
    Counts all;
    const auto row = [](const std::string& name, const Counts& c) {
        return std::vector<Cell>{
            {name},
            {std::to_string(c.cases)},
            {std::to_string(c.by_stance[0])},
            {std::to_string(c.by_stance[1])},
            {std::to_string(c.by_stance[2])},
            {std::to_string(c.traces)},
            {std::to_string(c.problems), c.problems == 0 ? Cell::Paint::good : Cell::Paint::bad}};
    };
    for (const auto& [name, c] : aspects) {
        rows.push_back(row(name, c));
        all.cases += c.cases;
        all.traces += c.traces;
        all.problems += c.problems;
        for (std::size_t i = 0; i < 3; ++i) all.by_stance[i] += c.by_stance[i];
    }
    rows.push_back(row("in all", all));
    fmt::print("{}", table(rows, Style::of_stdout(common.colour)));
    const std::size_t equal = print_equal_cases(cases.value());
    return all.problems + equal == 0 ? exit_success : exit_failing;
}

}  // namespace tool

// `report`: a kept run as a page, and in the forms that other tools read.
#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <set>

#include <nachklang/report.hpp>

#include "commands/commands.hpp"
#include "ui/recorded.hpp"

namespace tool {

using namespace nachklang;

namespace {

/// The documents of the corpora that were run.
Checked<std::vector<Case>> cases_for_page(const Common& common, const ReportOptions& options) {
    const auto workspace = open_workspace(common);
    if (!workspace.ok()) return workspace.problem();
    return chosen_cases(workspace.value(), options.corpora, common);
}

/// An earlier run, and what `limits` and `numbers` found.
Checked<PageExtras> extras_of(const ReportOptions& options) {
    PageExtras out;
    for (const std::string& file : options.found) {
        const auto problem = read_lines(file, [&](const std::string& line, std::size_t) -> std::optional<Problem> {
            out.lines.push_back(line);
            return std::nullopt;
        });
        if (problem) return *problem;
    }
    if (options.before.empty()) return out;
    const auto before = read_kept_run(options.before), now = read_kept_run(options.results);
    if (!before.ok()) return before.problem();
    if (!now.ok()) return now.problem();
    out.before = options.before;
    out.changes = changes_between(before.value(), now.value());
    return out;
}

/// The run's records, one a line.
std::optional<Problem> write_lines(const std::string& results, const std::string& path) {
    auto file = LineFile::create(path);
    if (!file.ok()) return file.problem();
    const auto problem =
        read_lines(results, [&](const std::string& line, std::size_t) { return file.value()->write(line); });
    return problem ? problem : file.value()->flush();
}

/// The run's implementations, as far as their names and versions go.
std::vector<Subject> subjects_of(const ReportInput& input) {
    std::vector<Subject> out;
    for (const ReportedImplementation& i : input.implementations) {
        const std::string& name = i.entry.implementation;
        const auto slash = name.find('/');
        Subject subject;
        subject.implementation.name = name.substr(0, slash);
        if (slash != std::string::npos) subject.mode = name.substr(slash + 1);
        subject.version = i.entry.version;
        out.push_back(std::move(subject));
    }
    return out;
}

/// Cases of the run: it may have asked a part of its corpora.
std::vector<Case> cases_in(const ReportInput& input, std::span<const Case> cases) {
    std::set<std::pair<std::string, std::string>> asked;
    for (const ReportedImplementation& i : input.implementations)
        for (const ReportedResult& r : i.results) asked.emplace(r.format, r.case_name);
    std::vector<Case> out;
    std::ranges::copy_if(cases, std::back_inserter(out), [&](const Case& c) {
        return asked.contains({std::string(c.format->name()), c.name});
    });
    return out;
}

/// Adds what recorded implementations answer to the run's cases.
std::optional<Problem> add_recorded(const Common& common, std::span<const Case> cases, ReportInput& input) {
    const auto workspace = open_workspace(common);
    if (!workspace.ok()) return workspace.problem();
    const std::vector<Subject> peers = recorded_peers(workspace.value(), subjects_of(input));
    const std::vector<Case> asked = cases_in(input, cases);
    CampaignOptions campaign;
    campaign.workers = workers_of(0);
    ReportSink sink;
    run_cases("report", asked, peers, campaign, sink, interruptible_executors());
    ReportInput recorded = sink.take();
    for (ReportedImplementation& i : recorded.implementations) {
        i.recorded = true;
        input.implementations.push_back(std::move(i));
    }
    return std::nullopt;
}

/// Two outputs in one file would destroy each other, and an output over an input would destroy that.
std::optional<Problem> check_outputs(const ReportOptions& options) {
    std::vector<std::string> files = options.found;
    for (const std::string& run : {options.results, options.before}) files.push_back(run.substr(0, run.rfind('#')));
    std::erase(files, "");
    for (const std::string& output :
         {options.page, options.junit, options.sarif, options.csv, options.markdown, options.lines}) {
        if (output.empty() || output == "-") continue;
        if (std::ranges::any_of(files, [&](const std::string& file) { return is_same_file(file, output); }))
            return Problem{output, "is read or written by this call already", "name another file"};
        files.push_back(output);
    }
    return std::nullopt;
}

}  // namespace

int report_run(const Common& common, const ReportOptions& options) {
    const std::array<std::pair<const std::string*, std::string (*)(const ReportInput&)>, 4> forms{{
        {&options.junit, junit_report},
        {&options.sarif, sarif_report},
        {&options.csv, csv_report},
        {&options.markdown, markdown_report},
    }};
    const bool any = !options.page.empty() || !options.lines.empty() ||
                     std::any_of(forms.begin(), forms.end(), [](const auto& form) { return !form.first->empty(); });
    if (!any)
        return report(
            {"report", "no form is asked for", "use --page, --junit, --sarif, --csv, --markdown or --lines FILE"});
    if (options.page.empty() && options.recorded)
        return report({"--recorded", "is shown on a page alone", "add --page FILE"});
    if (options.page.empty() && (!options.before.empty() || !options.found.empty()))
        return report(
            {options.before.empty() ? "--found" : "--before", "is shown on a page alone", "add --page FILE"});
    if (const auto problem = check_outputs(options)) return report(*problem);
    auto input = read_report_input(options.results);
    if (!input.ok()) return report(input.problem());
    for (const auto& [path, form] : forms)
        if (!path->empty())
            if (const auto problem = write_file(*path, form(input.value()))) return report(*problem);
    if (!options.lines.empty())
        if (const auto problem = write_lines(options.results, options.lines)) return report(*problem);
    if (!options.page.empty()) {
        const auto cases = cases_for_page(common, options);
        if (!cases.ok()) return report(cases.problem());
        if (options.recorded)
            if (const auto problem = add_recorded(common, cases.value(), input.value())) return report(*problem);
        const auto extras = extras_of(options);
        if (!extras.ok()) return report(extras.problem());
        const auto page = page_report(input.value(), cases.value(), extras.value());
        if (!page.ok()) return report(page.problem());
        if (const auto problem = write_file(options.page, page.value())) return report(*problem);
    }
    return exit_success;
}

}  // namespace tool

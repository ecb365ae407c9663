// `report`: a kept run as a page, and in the forms that other tools read.
#include <fmt/format.h>

#include <algorithm>
#include <array>

#include <nachklang/report.hpp>

#include "commands/commands.hpp"

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

}  // namespace

int report_run(const Common& common, const ReportOptions& options) {
    const std::array<std::pair<const std::string*, std::string (*)(const ReportInput&)>, 4> forms{{
        {&options.junit, junit_report},
        {&options.sarif, sarif_report},
        {&options.csv, csv_report},
        {&options.markdown, markdown_report},
    }};
    const bool any = !options.page.empty() ||
                     std::any_of(forms.begin(), forms.end(), [](const auto& form) { return !form.first->empty(); });
    if (!any)
        return report({"report", "no form is asked for", "use --page, --junit, --sarif, --csv or --markdown FILE"});
    if (options.page.empty() && (!options.before.empty() || !options.found.empty()))
        return report(
            {options.before.empty() ? "--found" : "--before", "is shown on a page alone", "add --page FILE"});
    const auto input = read_report_input(options.results);
    if (!input.ok()) return report(input.problem());
    for (const auto& [path, form] : forms)
        if (!path->empty())
            if (const auto problem = write_file(*path, form(input.value()))) return report(*problem);
    if (!options.page.empty()) {
        const auto cases = cases_for_page(common, options);
        if (!cases.ok()) return report(cases.problem());
        const auto extras = extras_of(options);
        if (!extras.ok()) return report(extras.problem());
        const auto page = page_report(input.value(), cases.value(), extras.value());
        if (!page.ok()) return report(page.problem());
        if (const auto problem = write_file(options.page, page.value())) return report(*problem);
    }
    return exit_success;
}

}  // namespace tool

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
    auto corpora = corpora_of(workspace.value(), options.corpora);
    if (!corpora.ok()) return corpora.problem();
    return cases_of(std::move(corpora.value()), common);
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
    const auto input = read_report_input(options.results);
    if (!input.ok()) return report(input.problem());
    for (const auto& [path, form] : forms)
        if (!path->empty())
            if (const auto problem = write_file(*path, form(input.value()))) return report(*problem);
    if (!options.page.empty()) {
        const auto cases = cases_for_page(common, options);
        if (!cases.ok()) return report(cases.problem());
        if (const auto problem = write_file(options.page, page_report(input.value(), cases.value())))
            return report(*problem);
    }
    return exit_success;
}

}  // namespace tool

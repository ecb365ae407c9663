// `report`: a kept run in the forms that other tools read.
#include <fmt/format.h>

#include <array>
#include <functional>

#include <nachklang/report.hpp>

#include "commands/commands.hpp"

namespace tool {

using namespace nachklang;

int report_run(const Common&, const ReportOptions& options) {
    const std::array<std::pair<const std::string*, std::string (*)(const ReportInput&)>, 4> forms{{
        {&options.junit, junit_report},
        {&options.sarif, sarif_report},
        {&options.csv, csv_report},
        {&options.markdown, markdown_report},
    }};
    const bool any = std::any_of(forms.begin(), forms.end(), [](const auto& form) { return !form.first->empty(); });
    if (!any) return report({"report", "no form is asked for", "use --junit, --sarif, --csv or --markdown FILE"});
    const auto input = read_report_input(options.results);
    if (!input.ok()) return report(input.problem());
    for (const auto& [path, form] : forms)
        if (!path->empty())
            if (const auto problem = write_file(*path, form(input.value()))) return report(*problem);
    return exit_success;
}

}  // namespace tool

// Behaviours as CSV and as Markdown.
#include <fmt/format.h>

#include <algorithm>
#include <array>

#include <nachklang/report.hpp>

namespace nachklang {
namespace {

/// RFC 4180, 2: quoted where a comma, a quote or a line end would be taken for another thing. A spreadsheet takes
/// some first characters for a formula: an apostrophe keeps them text.
std::string csv_field(std::string_view field) {
    std::string shown = text::printable(field);
    if (!shown.empty() && std::string_view("=+-@").find(shown.front()) != std::string_view::npos)
        shown.insert(shown.begin(), '\'');
    if (shown.find_first_of(",\"\r\n") == std::string::npos) return shown;
    std::string out = "\"";
    for (const char c : shown) out += c == '"' ? "\"\"" : std::string(1, c);
    return out + "\"";
}

/// A cell of a table: nothing of it is markup.
std::string markdown_cell(std::string_view field) {
    std::string out;
    for (const char c : text::printable(field)) {
        if (std::string_view("\\`*_{}[]<>()#+!|~").find(c) != std::string_view::npos) out += '\\';
        out += c;
    }
    return out;
}

std::string joined(const std::vector<std::string>& list) {
    return fmt::format("{}", fmt::join(list, " "));
}

}  // namespace

std::string csv_report(const ReportInput& input) {
    std::string out =
        "format,implementation,modes,side,finding,basis,cause,rule,clause,gravity,failing,sentence,cases,witness,"
        "peers,"
        "engines,detail\r\n";
    for (const BehaviourRecord& b : input.behaviours) {
        const std::array<std::string, 17> fields{b.format,
                                                 b.implementation,
                                                 joined(b.modes),
                                                 b.side,
                                                 b.finding,
                                                 b.basis,
                                                 b.cause,
                                                 b.rule,
                                                 b.clause,
                                                 b.gravity,
                                                 b.failing ? "true" : "false",
                                                 b.sentence,
                                                 std::to_string(b.cases.size()),
                                                 b.witness,
                                                 joined(b.peers),
                                                 std::to_string(b.engines),
                                                 b.detail};
        for (std::size_t i = 0; i < fields.size(); ++i) out += (i == 0 ? "" : ",") + csv_field(fields[i]);
        out += "\r\n";
    }
    return out;
}

std::string markdown_report(const ReportInput& input) {
    std::string out;
    if (input.interrupted) out += "The run was interrupted: this covers only what was done.\n\n";
    std::vector<std::string> names;  // in the order of the behaviours
    for (const BehaviourRecord& b : input.behaviours)
        if (std::find(names.begin(), names.end(), b.implementation) == names.end())
            names.push_back(b.implementation);
    for (const std::string& name : names) {
        out += fmt::format("## {}\n\n| fails | behaviour | cases | for example | clause |\n|---|---|---|---|---|\n",
                           markdown_cell(name));
        for (const BehaviourRecord& b : input.behaviours)
            if (b.implementation == name)
                out +=
                    fmt::format("| {} | {} | {} | {} | {} |\n", b.failing ? "yes" : "no", markdown_cell(b.sentence),
                                b.cases.size(), markdown_cell(b.witness), markdown_cell(b.clause));
        out += "\n";
    }
    if (names.empty()) out += "No behaviour departs from the standards or from the majority of engines.\n";
    return out;
}

}  // namespace nachklang

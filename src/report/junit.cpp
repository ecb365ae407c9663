// JUnit XML. There is no standard; these are the elements and attributes that its readers have in common.
#include <fmt/format.h>

#include <algorithm>

#include <nachklang/report.hpp>

namespace nachklang {
namespace {

/// Text of an attribute or element: what XML 1.0 cannot hold is shown escaped.
std::string xml_text(std::string_view bytes) {
    std::string out;
    for (const char c : text::printable(bytes)) {
        switch (c) {
            case '&':
                out += "&amp;";
                break;
            case '<':
                out += "&lt;";
                break;
            case '>':
                out += "&gt;";
                break;
            case '"':
                out += "&quot;";
                break;
            default:
                out += c;
        }
    }
    return out;
}

bool was_judged(const ReportedResult& r) {
    return r.finding != name_of(FindingKind::unsupported) && r.finding != name_of(FindingKind::not_asked);
}

std::string test_case(const std::string& implementation, const ReportedResult& r) {
    std::string out = fmt::format("    <testcase name=\"{} {}\" classname=\"{}\"", xml_text(r.case_name),
                                  xml_text(r.operation), xml_text(implementation));
    if (!r.excused.empty())
        return out + fmt::format("><skipped message=\"excused: {}\"/></testcase>\n", xml_text(r.excused));
    if (!was_judged(r)) return out + fmt::format("><skipped message=\"{}\"/></testcase>\n", xml_text(r.detail));
    if (!r.failing) return out + "/>\n";
    const std::string what = fmt::format("{}: {}", r.finding, r.detail);
    return out + fmt::format("><failure type=\"{}\" message=\"{}\">{}</failure></testcase>\n", xml_text(r.cause),
                             xml_text(what), xml_text(r.clause.empty() ? what : what + " [" + r.clause + "]"));
}

}  // namespace

std::string junit_report(const ReportInput& input) {
    std::string out = "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<testsuites name=\"nachklang\">\n";
    for (const ReportedImplementation& implementation : input.implementations) {
        const auto& results = implementation.results;
        const auto failures =
            std::count_if(results.begin(), results.end(), [](const ReportedResult& r) { return r.failing; });
        const auto skipped = std::count_if(results.begin(), results.end(), [](const ReportedResult& r) {
            return !was_judged(r) || !r.excused.empty();
        });
        out += fmt::format("  <testsuite name=\"{}\" tests=\"{}\" failures=\"{}\" errors=\"0\" skipped=\"{}\">\n",
                           xml_text(implementation.entry.implementation), results.size(), failures, skipped);
        for (const ReportedResult& r : results) out += test_case(implementation.entry.implementation, r);
        out += "  </testsuite>\n";
    }
    return out + "</testsuites>\n";
}

}  // namespace nachklang

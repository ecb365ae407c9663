// `round-trips`: what documents and values lose on their way through an implementation, by mode and operation.
#include <fmt/format.h>

#include <algorithm>

#include "commands/commands.hpp"
#include "ui/lines.hpp"
#include "ui/terminal.hpp"

namespace tool {

using namespace nachklang;

namespace {

std::string way_of(const RoundTripSurvey& survey) {
    return fmt::format("{} {}", survey.subject->name(), name_of(survey.operation));
}

std::string example_of(const RoundTripSurvey::Change& change) {
    constexpr std::size_t most = 70;
    const bool of_text = change.detail.starts_with("reformatted") || change.detail == "the same bytes";
    return of_text ? "" : text::printable_excerpt(change.detail, most);
}

void print_totals(const std::vector<RoundTripSurvey>& found, const Style& style) {
    std::vector<std::vector<Cell>> rows{{{"WAY", Cell::Paint::bold},
                                         {"ASKED", Cell::Paint::bold},
                                         {"SAME BYTES", Cell::Paint::bold},
                                         {"SAME VALUE", Cell::Paint::bold},
                                         {"CHANGED", Cell::Paint::bold},
                                         {"REFUSED", Cell::Paint::bold},
                                         {"NO ANSWER", Cell::Paint::bold}}};
    for (const RoundTripSurvey& one : found) {
        const bool encodes = info_of(one.operation).input == Content::value;
        const std::size_t same = one.asked - one.same_bytes - one.changed - one.refused - one.failed;
        rows.push_back({{way_of(one)},
                        {text::grouped(one.asked)},
                        {encodes ? "-" : text::grouped(one.same_bytes)},
                        {text::grouped(same)},
                        {text::grouped(one.changed), one.changed == 0 ? Cell::Paint::good : Cell::Paint::bad},
                        {text::grouped(one.refused)},
                        {text::grouped(one.failed), one.failed == 0 ? Cell::Paint::none : Cell::Paint::bad}});
    }
    fmt::print("{}", table(rows, style));
}

void print_changes(const std::vector<RoundTripSurvey::Change>& changes, const std::string& title,
                   const Style& style) {
    if (changes.empty()) return;
    fmt::print("  {}\n", style.bold(title));
    std::vector<std::vector<Cell>> rows;
    for (const auto& change : changes)
        rows.push_back({{"    " + change.what},
                        {text::grouped(change.cases)},
                        {change.smallest->name, Cell::Paint::faint},
                        {example_of(change)}});
    fmt::print("{}", table(rows, style));
}

/// Whether two ways change the same: then one table shows both.
bool changes_alike(const RoundTripSurvey& a, const RoundTripSurvey& b) {
    const auto alike = [](const RoundTripSurvey::Change& x, const RoundTripSurvey::Change& y) {
        return x.what == y.what && x.cases == y.cases && x.smallest == y.smallest && x.detail == y.detail;
    };
    return std::ranges::equal(a.losses, b.losses, alike) && std::ranges::equal(a.respellings, b.respellings, alike);
}

void print_ways(const std::vector<RoundTripSurvey>& found, const Style& style) {
    std::vector<bool> shown(found.size());
    for (std::size_t i = 0; i < found.size(); ++i) {
        if (shown[i] || (found[i].losses.empty() && found[i].respellings.empty())) continue;
        std::vector<std::string> names;
        for (std::size_t k = i; k < found.size(); ++k)
            if (!shown[k] && changes_alike(found[i], found[k])) shown[k] = true, names.push_back(way_of(found[k]));
        fmt::print("\n{}\n", fmt::join(names, ", "));
        print_changes(found[i].losses, "changed, by the number of cases; the smallest", style);
        print_changes(found[i].respellings, "the same value, spelled otherwise", style);
    }
}

}  // namespace

int round_trips(const Common& common, const RoundTripsOptions& options) {
    const auto asked = asked_of(common, options.names, options.corpora);
    if (!asked.ok()) return report(asked.problem());
    Progress progress("round-trips");
    CampaignOptions campaign;
    campaign.workers = workers_of(options.workers);
    campaign.cancelled = &interrupted();
    campaign.progress = [&](std::size_t done, std::size_t all) { progress.show(done, all); };
    const auto found =
        survey_round_trips(asked.value().cases, asked.value().subjects, interruptible_executors(), campaign);
    progress.clear();
    if (found.empty())
        return report(
            {"round-trips", "no selected implementation writes documents",
             "select others; `nachklang implementations` lists the operations `round-trip` and `encode`"});
    if (common.json) {
        for (const RoundTripSurvey& one : found) fmt::print("{}\n", line_of(one));
        return exit_success;
    }
    const Style style = Style::of_stdout(common.colour);
    print_totals(found, style);
    print_ways(found, style);
    fmt::print("\n`nachklang try --case CASE --implementation NAME` shows one\n");
    return exit_success;
}

}  // namespace tool

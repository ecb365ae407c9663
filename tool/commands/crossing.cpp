// `crossing`: whether other implementations read what one writes.
#include <fmt/format.h>

#include "commands/commands.hpp"
#include "ui/lines.hpp"
#include "ui/terminal.hpp"

namespace tool {

using namespace nachklang;

namespace {

std::string said_of(Crossing::Plain plain) {
    if (plain == Crossing::Plain::read) return "spelling";
    return plain == Crossing::Plain::trouble ? "value" : "-";
}

void print_crossing(const Crossing& crossing, const Style& style) {
    constexpr std::size_t longest = 36, most_readers = 3;
    fmt::print("{}: {} different text{}, {} of them read by all of {} readers ({} engines)\n",
               style.bold(crossing.writer->name()), text::grouped(crossing.texts), crossing.texts == 1 ? "" : "s",
               text::grouped(crossing.read_by_all), crossing.readers, crossing.engines);
    if (crossing.ill_formed > 0)
        fmt::print("  {} are no documents and were not asked; `nachklang run --implementation {}` shows them\n",
                   text::grouped(crossing.ill_formed), crossing.writer->name());
    if (crossing.troubles.empty()) return;
    std::vector<std::vector<Cell>> rows{{{"  READERS DO", Cell::Paint::bold},
                                         {"ENGINES", Cell::Paint::bold},
                                         {"TEXTS", Cell::Paint::bold},
                                         {"BECAUSE OF", Cell::Paint::bold},
                                         {"SMALLEST TEXT; READERS", Cell::Paint::bold}}};
    for (const Crossing::Trouble& trouble : crossing.troubles) {
        const bool spelled = trouble.plain == Crossing::Plain::read;
        rows.push_back(
            {{"  " + trouble.what, spelled ? Cell::Paint::bad : Cell::Paint::none},
             {text::grouped(trouble.engines)},
             {text::grouped(trouble.texts)},
             {said_of(trouble.plain)},
             {text::printable_excerpt(trouble.smallest, longest) + "; " + joined(trouble.readers, most_readers)}});
    }
    fmt::print("{}", table(rows, style));
}

}  // namespace

int crossing(const Common& common, const CrossingOptions& options) {
    const auto workspace = open_workspace(common);
    if (!workspace.ok()) return report(workspace.problem());
    const auto cases = chosen_cases(workspace.value(), options.corpora, common);
    if (!cases.ok()) return report(cases.problem());
    const auto writers = subjects_of(workspace.value(), with_names(common, options.names));
    if (!writers.ok()) return report(writers.problem());
    Common others = common;
    others.implementations = options.readers;
    auto readers = subjects_of(workspace.value(), others);
    if (!readers.ok()) return report(readers.problem());
    if (options.readers.empty()) keep_usual_modes(readers.value());
    Progress progress("crossing");
    CampaignOptions campaign;
    campaign.workers = workers_of(options.workers);
    campaign.cancelled = &interrupted();
    campaign.progress = [&](std::size_t done, std::size_t all) { progress.show(done, all); };
    auto found = cross(cases.value(), writers.value(), readers.value(), interruptible_executors(), campaign);
    progress.clear();
    std::erase_if(found, [](const Crossing& one) { return one.texts == 0; });
    if (found.empty())
        return report(
            {"crossing", "no selected implementation writes documents",
             "select others; `nachklang implementations` lists the operations `round-trip` and `encode`"});
    const Style style = Style::of_stdout(common.colour);
    bool spelled = false;
    for (const Crossing& one : found) {
        if (common.json)
            fmt::print("{}\n", line_of(one));
        else
            print_crossing(one, style);
        for (const Crossing::Trouble& trouble : one.troubles)
            spelled = spelled || trouble.plain == Crossing::Plain::read;
    }
    if (!common.json)
        fmt::print(
            "spelling: the same readers take the value in its canonical form\n"
            "value: they do not take it there, either; -: the canonical form has another value\n"
            "`nachklang try FILE` shows all that readers make of one text\n");
    return spelled ? exit_failing : exit_success;
}

}  // namespace tool

// `pieces`: whether an incremental decoder's answer depends on where its document is cut.
#include <fmt/format.h>

#include <algorithm>

#include "commands/commands.hpp"
#include "ui/lines.hpp"
#include "ui/terminal.hpp"

namespace tool {

using namespace nachklang;

namespace {

/// The document with a bar where it was cut.
std::string marked(const PiecesSurvey::Difference& difference) {
    const std::string& document = *difference.of->document;
    if (difference.cuts == "each") return text::printable(document);
    const std::size_t cut = std::stoull(difference.cuts);
    return text::printable(document.substr(0, cut)) + "│" + text::printable(document.substr(cut));
}

using Effect = PiecesSurvey::Effect;
constexpr Effect effects[] = {Effect::verdict, Effect::value, Effect::position};

/// Of each case one cut, the shortest documents first: they show most.
std::vector<const PiecesSurvey::Difference*> examples(const PiecesSurvey& survey, Effect effect) {
    std::vector<const PiecesSurvey::Difference*> out;
    for (const auto& difference : survey.differences)
        if (difference.effect == effect && (out.empty() || out.back()->of != difference.of))
            out.push_back(&difference);
    std::ranges::stable_sort(out, {}, [](const auto* d) { return d->of->document->size(); });
    return out;
}

void print_examples(const PiecesSurvey& survey, const Style& style) {
    constexpr std::size_t most = 6;
    for (const Effect effect : effects) {
        const auto shown = examples(survey, effect);
        if (shown.empty()) continue;
        fmt::print("\n{}: another {} after {} cuts of {} document{}\n", survey.subject->name(), name_of(effect),
                   text::grouped(survey.count(effect)), text::grouped(shown.size()), shown.size() == 1 ? "" : "s");
        std::vector<std::vector<Cell>> rows;
        for (std::size_t i = 0; i < std::min(shown.size(), most); ++i)
            rows.push_back({{"  " + shown[i]->of->name},
                            {marked(*shown[i]), Cell::Paint::bold},
                            {shown[i]->inside, Cell::Paint::faint},
                            {shown[i]->what}});
        fmt::print("{}", table(rows, style));
        if (shown.size() > most) fmt::print("  … and {} more documents\n", text::grouped(shown.size() - most));
    }
}

}  // namespace

int pieces(const Common& common, const PiecesCommandOptions& options) {
    const auto asked = asked_of(common, options.names, options.corpora);
    if (!asked.ok()) return report(asked.problem());
    Progress progress("pieces");
    PiecesOptions survey;
    survey.longest = options.longest;
    survey.workers = workers_of(options.workers);
    survey.cancelled = &interrupted();
    survey.progress = [&](std::size_t done, std::size_t all) { progress.show(done, all); };
    const auto found =
        survey_pieces(asked.value().cases, asked.value().subjects, interruptible_executors(), survey);
    progress.clear();
    if (found.empty())
        return report({"pieces", "no selected implementation takes documents in pieces",
                       "select others; `nachklang implementations` lists the operation `pieces`"});
    const bool failing = std::ranges::any_of(found, [](const PiecesSurvey& s) { return !s.differences.empty(); });
    const int status = failing ? exit_failing : exit_success;
    if (common.json) {
        for (const PiecesSurvey& one : found) fmt::print("{}\n", line_of(one));
        return status;
    }
    const Style style = Style::of_stdout(common.colour);
    std::vector<std::vector<Cell>> rows{{{"IMPLEMENTATION", Cell::Paint::bold},
                                         {"DOCUMENTS", Cell::Paint::bold},
                                         {"CUTS", Cell::Paint::bold},
                                         {"OTHER VERDICTS", Cell::Paint::bold},
                                         {"OTHER VALUES", Cell::Paint::bold},
                                         {"OTHER POSITIONS", Cell::Paint::bold}}};
    for (const PiecesSurvey& one : found) {
        rows.push_back({{one.subject->name()},
                        {text::grouped(one.documents)},
                        {text::grouped(one.cuts) + (one.complete ? "" : ", not all")}});
        for (const Effect effect : effects)
            rows.back().push_back(
                {text::grouped(one.count(effect)), one.count(effect) == 0 ? Cell::Paint::good : Cell::Paint::bad});
    }
    fmt::print("{}", table(rows, style));
    for (const PiecesSurvey& one : found) print_examples(one, style);
    fmt::print("\ndocuments of 2 to {} bytes, each cut at every place, and after each byte\n", options.longest);
    return status;
}

}  // namespace tool

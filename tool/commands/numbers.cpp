// `numbers`: generated literals through every implementation, and the worst of each.
#include <fmt/format.h>

#include <algorithm>

#include "commands/commands.hpp"
#include "ui/terminal.hpp"

namespace tool {

using namespace nachklang;

namespace {

std::size_t count_of(const NumberSurvey& survey, std::initializer_list<const char*> answers) {
    std::size_t out = 0;
    for (const char* answer : answers)
        if (const auto found = survey.answers.find(answer); found != survey.answers.end()) out += found->second;
    return out;
}

std::string some(std::size_t count) {
    return count == 0 ? "·" : std::to_string(count);
}

std::string how(const NumberSurvey::Example& example) {
    if (example.stored.answer == "off by ulps") return fmt::format("{:+.4f} ulp", example.stored.ulps);
    return example.stored.answer;
}

void print_survey(const std::vector<NumberSurvey>& surveys, const Style& style) {
    std::vector<std::vector<Cell>> rows{{{"IMPLEMENTATION", Cell::Paint::bold},
                                         {"KEPT", Cell::Paint::bold},
                                         {"ROUNDED", Cell::Paint::bold},
                                         {"INFINITY", Cell::Paint::bold},
                                         {"REJECTED", Cell::Paint::bold},
                                         {"OFF BY ULPS", Cell::Paint::bold},
                                         {"OTHER", Cell::Paint::bold},
                                         {"WORST", Cell::Paint::bold},
                                         {"REPRESENTED AS", Cell::Paint::bold},
                                         {"HOW", Cell::Paint::bold}}};
    for (const NumberSurvey& s : surveys) {
        const std::size_t off = count_of(s, {"off by ulps"});
        const std::size_t unshown = count_of(s, {"not shown"}), failed = count_of(s, {"failed"});
        std::vector<Cell> row{{s.subject->name()},
                              {some(count_of(s, {"exact", "kept exactly"}))},
                              {some(count_of(s, {"correctly rounded"}))},
                              {some(count_of(s, {"infinity beyond the range"}))},
                              {some(count_of(s, {"refused"}))},
                              {some(off), off > 0 ? Cell::Paint::bad : Cell::Paint::none},
                              {some(s.wrong - off), s.wrong > off ? Cell::Paint::bad : Cell::Paint::none}};
        if (s.worst) {
            row.push_back({text::printable_excerpt(s.worst->literal, 30)});
            row.push_back({text::printable_excerpt(s.worst->stored.stored, 26)});
            row.push_back({how(*s.worst)});
        } else if (failed > 0) {
            row.push_back({fmt::format("({} failed)", failed), Cell::Paint::bad});
        } else if (unshown > 0) {
            row.push_back({fmt::format("({} not shown)", unshown), Cell::Paint::faint});
        }
        rows.push_back(std::move(row));
    }
    fmt::print("{}", table(rows, style));
}

void print_families(const std::vector<NumberSurvey>& surveys, const Style& style) {
    for (const NumberSurvey& s : surveys) {
        if (s.wrong == 0) continue;
        fmt::print("\n{}\n", style.bold(s.subject->name()));
        std::vector<std::vector<Cell>> rows;
        for (const auto& [family, count] : s.wrong_by_family)
            rows.push_back({{std::to_string(count), Cell::Paint::bad}, {family}});
        for (const auto& [answer, example] : s.examples)
            rows.push_back({{some(s.answers.at(answer))},
                            {answer},
                            {text::printable_excerpt(example.literal, 60)},
                            {text::printable_excerpt(example.stored.stored, 60)}});
        fmt::print("{}", table(rows, style, "  "));
    }
}

const Format* format_with_numbers() {
    for (const Format* format : formats())
        if (format->number_probes() != nullptr) return format;
    return nullptr;
}

}  // namespace

int numbers(const Common& common, const NumbersOptions& options) {
    const Format* format = common.format.empty() ? format_with_numbers() : find_format(common.format);
    if (format == nullptr || format->number_probes() == nullptr)
        return report({"--format", fmt::format("{} has no numbers", common.format), "name a format that has"});
    for (const std::string& literal : options.literals)
        if (const std::vector<std::string> one{literal};
            !format->read(format->number_probes()->number_row(one)).accepted())
            return report({"--literal",
                           fmt::format("'{}' is not a number of this format", text::printable(literal)),
                           "write it as in a document"});
    const auto workspace = open_workspace(common);
    if (!workspace.ok()) return report(workspace.problem());
    TimingLock timing_lock;
    const Common named = with_names(common, options.names);
    const auto subjects = subjects_of(workspace.value(), named, timing_lock);
    if (!subjects.ok()) return report(subjects.problem());
    if (std::none_of(subjects.value().begin(), subjects.value().end(), [&](const Subject& s) {
            return s.does(format->name(), Operation::decode) && s.implementation.reach == Reach::trace;
        }))
        return report(no_support_for(fmt::format("decoding of {} with the value shown", format->name())));
    if (named.implementations.empty()) tell_missing(workspace.value());

    Progress progress("literals");
    NumberSurveyOptions survey;
    survey.seed = options.seed;
    survey.count = options.count;
    survey.literals = options.literals;
    survey.workers = workers_of(options.workers);
    survey.cancelled = &interrupted();
    survey.progress = [&](std::size_t done, std::size_t all) { progress.show(done, all); };
    const auto surveys = survey_numbers(
        *format, subjects.value(), [&](const Subject& s) { return make_executor(s, timing_lock); }, survey);
    progress.clear();

    const Style style = Style::of_stdout(common.no_colour);
    print_survey(surveys, style);
    if (options.by_family) print_families(surveys, style);
    const bool failing = std::any_of(surveys.begin(), surveys.end(), [](const NumberSurvey& s) {
        return s.wrong > 0 || count_of(s, {"failed"}) > 0;
    });
    std::size_t asked = 0;
    for (const NumberSurvey& s : surveys) asked = std::max(asked, s.asked);
    if (options.literals.empty())
        fmt::print("\n{}{} literals of seed {}; to repeat one: nachklang numbers --literal TEXT NAME\n",
                   asked < options.count ? fmt::format("{} of ", asked) : "", options.count, options.seed);
    return failing ? exit_failing : exit_success;
}

}  // namespace tool

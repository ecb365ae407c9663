// `card`: one implementation's answers on one page; for several, only the rows where they differ.
#include <fmt/format.h>

#include <algorithm>
#include <functional>
#include <set>

#include "commands/commands.hpp"
#include "ui/behaviours.hpp"
#include "ui/lines.hpp"
#include "ui/summary.hpp"
#include "ui/terminal.hpp"

namespace tool {

using namespace nachklang;

namespace {

/// The answers given, the most frequent first; counts only if there are several answers.
std::string shown_answers(const std::map<std::string, std::size_t>& answers) {
    std::vector<std::pair<std::string, std::size_t>> sorted(answers.begin(), answers.end());
    std::stable_sort(sorted.begin(), sorted.end(),
                     [](const auto& a, const auto& b) { return a.second > b.second; });
    std::string out;
    for (const auto& [answer, count] : sorted) {
        if (!out.empty()) out += ", ";
        out += sorted.size() == 1 ? answer : fmt::format("{} ({})", answer, count);
    }
    return out.empty() ? "·" : out;
}

std::string shown_aspect(const Card::Aspect& aspect) {
    if (aspect.asked == aspect.unsupported) return "not asked";
    std::string out = aspect.failing == 0 ? "passed" : fmt::format("{} failing", aspect.failing);
    if (aspect.permitted > 0) out += fmt::format(", {} lenient", aspect.permitted);
    if (aspect.unsupported > 0) out += fmt::format(", {} not asked", aspect.unsupported);
    return out;
}

/// How deep each goes, in every format that has such shapes.
std::vector<LimitFound> limits_of(std::span<const Subject> subjects) {
    std::vector<LimitFound> out;
    Progress progress("limits");
    LimitOptions options;
    options.shapes = LimitsOptions{}.shapes;
    options.workers = workers_of(0);
    options.cancelled = &interrupted();
    options.progress = [&](std::size_t done, std::size_t all) { progress.show(done, all); };
    for (const Format* format : formats()) {
        if (format->generators() == nullptr || format->generators()->shapes().empty()) continue;
        auto found = find_limits(*format, subjects, interruptible_executors(), options);
        std::move(found.begin(), found.end(), std::back_inserter(out));
    }
    progress.clear();
    return out;
}

std::string shown_limit(const LimitFound& found) {
    return shown_amount(found, LimitOptions{}.most) + (found.past.empty() ? "" : ", then " + found.past);
}

/// What the window leaves beside the longest question.
std::size_t answer_width() {
    constexpr std::size_t question = 30;
    return std::max<std::size_t>(terminal_width(), question + 30) - question;
}

/// Where refusals point, the most frequent first.
std::string shown_positions(const Card& card) {
    std::vector<std::pair<Pointing, std::size_t>> sorted(card.positions.begin(), card.positions.end());
    std::ranges::stable_sort(sorted, std::greater{}, [](const auto& p) { return p.second; });
    std::vector<std::string> out;
    for (const auto& [pointing, count] : sorted)
        out.push_back(fmt::format("{} ({})", name_of(pointing), text::grouped(count)));
    return fmt::format("{}", fmt::join(out, ", "));
}

void print_positions(const Card& card, const Style& style) {
    if (card.positions.empty()) return;
    std::vector<std::vector<Cell>> rows{{{"REFUSALS POINT", Cell::Paint::bold}, {"DOCUMENTS", Cell::Paint::bold}}};
    for (const auto& [pointing, count] : card.positions)
        rows.push_back({{std::string(name_of(pointing))}, {text::grouped(count)}});
    fmt::print("\n{}\n", table(rows, style, "  "));
}

void print_one(const Card& card, const std::vector<AnswerGiven>& answers, const std::vector<LimitFound>& limits,
               const Style& style) {
    const Subject& s = *card.subject;
    fmt::print("{}  {}\n", style.bold(s.name()), text::printable_excerpt(s.version, 30));
    std::vector<std::vector<Cell>> about{
        {{"engine"}, {text::printable_excerpt(s.engine, 40)}},
        {{"reach"}, {fmt::format("{} ({})", name_of(s.implementation.reach), operations_of(s))}}};
    if (!s.cannot_represent.empty())
        about.push_back({{"cannot represent"}, {fmt::format("{}", fmt::join(s.cannot_represent, " "))}});
    if (!s.settings.empty()) about.push_back({{"settings"}, {text::printable(text_of(s.settings))}});
    fmt::print("{}\n", table(about, style, "  "));
    std::vector<std::vector<Cell>> aspects{
        {{"ASPECT", Cell::Paint::bold}, {"ASKED", Cell::Paint::bold}, {"", Cell::Paint::bold}}};
    for (const auto& [name, aspect] : card.aspects)
        aspects.push_back({{name},
                           {std::to_string(aspect.asked)},
                           {shown_aspect(aspect), aspect.failing > 0 ? Cell::Paint::bad : Cell::Paint::good}});
    fmt::print("{}\n", table(aspects, style, "  "));
    std::vector<std::vector<Cell>> rows_of_answers{
        {{"QUESTION", Cell::Paint::bold}, {"ANSWER", Cell::Paint::bold}}};
    for (const auto& [key, given] : card.answers) {
        const AskedQuestion asked{find_format(key.first), key.second};
        const std::string crisp = crisp_answer(answers, s.name(), asked);
        const std::string shown = text::printable(crisp.empty() ? shown_answers(given) : crisp);
        const Cell::Paint paint = given.size() > 1 ? Cell::Paint::open : Cell::Paint::none;
        std::string name = text::printable(key.second);
        for (const std::string& line : wrapped(shown, answer_width())) {
            rows_of_answers.push_back({{name}, {line, paint}});
            name.clear();
        }
        for (const std::string& line : wrapped(about_question(answers, asked), answer_width()))
            if (!line.empty()) rows_of_answers.push_back({{""}, {line, Cell::Paint::faint}});
    }
    fmt::print("{}", table(rows_of_answers, style, "  "));
    print_positions(card, style);
    fmt::print(
        "  the cases behind an answer: nachklang run --question QUESTION --answer ANSWER --implementation {}\n",
        s.name());
    if (limits.empty()) return;
    std::vector<std::vector<Cell>> rows{
        {{"LIMIT", Cell::Paint::bold}, {"OPERATION", Cell::Paint::bold}, {"UP TO", Cell::Paint::bold}}};
    for (const LimitFound& found : limits)
        rows.push_back({{std::string(found.shape)}, {std::string(name_of(found.operation))}, {shown_limit(found)}});
    fmt::print("\n{}", table(rows, style, "  "));
}

/// A row of texts that may take several lines each.
void add_row(std::vector<std::vector<Cell>>& rows, const std::string& label, const std::vector<std::string>& texts,
             std::size_t width) {
    std::vector<std::vector<std::string>> columns;
    std::size_t lines = 1;
    for (const std::string& text : texts) {
        columns.push_back(wrapped(text, width));
        lines = std::max(lines, columns.back().size());
    }
    for (std::size_t line = 0; line < lines; ++line) {
        std::vector<Cell> row{{line == 0 ? label : ""}};
        for (const auto& column : columns) row.push_back({line < column.size() ? column[line] : ""});
        rows.push_back(std::move(row));
    }
}

/// The answers of one card to a question, with when it gives each.
std::string shown_answer(const Card& card, const std::vector<AnswerGiven>& answers, const Card::Question& key) {
    const auto found = card.answers.find(key);
    if (found == card.answers.end()) return "·";
    const std::string crisp = crisp_answer(answers, card.subject->name(), {find_format(key.first), key.second});
    if (!crisp.empty()) return text::printable(crisp);
    std::vector<std::string> names;
    for (const auto& [answer, count] : found->second) names.push_back(answer);
    return fmt::format("{}", fmt::join(names, ", "));
}

/// A name over as many lines as its column needs: the implementation, then the mode.
std::string lines_of_name(const Subject& subject, std::size_t width) {
    const std::string mode = subject.mode.empty() ? "" : "/" + subject.mode;
    if (subject.name().size() <= width) return text::printable(subject.name());
    std::string out;
    for (std::string_view part : {std::string_view(subject.implementation.name), std::string_view(mode)})
        for (; !part.empty(); part.remove_prefix(std::min(width, part.size())))
            out += (out.empty() ? "" : " ") + text::printable(part.substr(0, width));
    return out;
}

/// A row for everything on which not all cards say the same.
void print_differences(const std::vector<Card>& cards, const std::vector<AnswerGiven>& answers,
                       const std::vector<LimitFound>& limits, const Style& style) {
    std::set<std::string> aspects;
    std::set<Card::Question> questions;
    std::size_t label = 0;
    for (const Card& card : cards) {
        for (const auto& [name, aspect] : card.aspects) aspects.insert(name);
        for (const auto& [key, given] : card.answers) questions.insert(key);
    }
    for (const std::string& name : aspects) label = std::max(label, name.size());
    for (const Card::Question& key : questions) label = std::max(label, key.second.size());
    // One column a card; the columns share the width that the labels leave.
    const std::size_t all = std::max(terminal_width(), label + 60);
    const std::size_t width = std::clamp<std::size_t>((all - label) / cards.size() - 2, 12, 44);
    std::vector<std::vector<Cell>> rows;
    std::vector<std::string> names;
    for (const Card& card : cards) names.push_back(lines_of_name(*card.subject, width - 1));
    add_row(rows, "", names, width - 1);
    for (std::vector<Cell>& row : rows)
        for (Cell& cell : row) cell.paint = Cell::Paint::bold;
    std::size_t same = 0;
    const auto add = [&](const std::string& what, const std::function<std::string(const Card&)>& of) {
        std::vector<std::string> texts;
        for (const Card& card : cards) texts.push_back(of(card));
        if (std::set<std::string>(texts.begin(), texts.end()).size() == 1) {
            ++same;
        } else {
            add_row(rows, what, texts, width - 1);
        }
    };
    add("cannot represent",
        [](const Card& c) { return fmt::format("{}", fmt::join(c.subject->cannot_represent, " ")); });
    add("settings", [](const Card& c) { return text::printable(text_of(c.subject->settings)); });
    for (const std::string& aspect : aspects)
        add(aspect, [&](const Card& c) {
            const auto found = c.aspects.find(aspect);
            return found == c.aspects.end() ? "not asked" : shown_aspect(found->second);
        });
    add("refusals point", shown_positions);
    for (const Card::Question& key : questions)
        add(key.second, [&](const Card& c) { return shown_answer(c, answers, key); });
    std::set<std::pair<std::string_view, Operation>> searched;
    for (const LimitFound& found : limits) searched.emplace(found.shape, found.operation);
    for (const auto& [shape, operation] : searched)
        add(fmt::format("{} {}", shape, name_of(operation)),
            [&, &shape = shape, &operation = operation](const Card& c) {
                for (const LimitFound& found : limits)
                    if (found.subject == c.subject && found.shape == shape && found.operation == operation)
                        return shown_limit(found);
                return std::string("·");
            });
    if (rows.size() > 1) fmt::print("{}\n", table(rows, style));
    fmt::print("{} rows are the same on all {} cards and not shown\n", same, cards.size());
}

}  // namespace

int card(const Common& common, const CardOptions& chosen) {
    const auto workspace = open_workspace(common);
    if (!workspace.ok()) return report(workspace.problem());
    const auto subjects = subjects_of(workspace.value(), with_names(common, chosen.names), true);
    if (!subjects.ok()) return report(subjects.problem());
    const auto cases = chosen_cases(workspace.value(), {}, common);
    if (!cases.ok()) return report(cases.problem());
    if (const auto problem = unsupported_formats(cases.value(), subjects.value())) return report(*problem);

    CardSink gathered;
    BehaviourCollector collector;
    SinkList sinks({&gathered, &collector});
    run_cases("cards", cases.value(), subjects.value(), {.workers = workers_of(0)}, sinks);
    const std::vector<Card>& cards = gathered.cards();
    if (common.json) {
        for (const Card& one : cards) fmt::print("{}\n", line_of(one));
        return exit_success;
    }
    const auto limits = chosen.limits ? limits_of(subjects.value()) : std::vector<LimitFound>{};
    const Style style = Style::of_stdout(common.colour);
    if (cards.size() == 1) {
        print_one(cards.front(), collector.answers(), limits, style);
    } else {
        print_differences(cards, collector.answers(), limits, style);
    }
    return exit_success;
}

}  // namespace tool

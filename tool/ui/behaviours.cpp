// See behaviours.hpp. A behaviour is a sentence, a line of figures, and a command that repeats it.
#include "ui/behaviours.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <map>
#include <optional>
#include <set>

#include "ui/places.hpp"
#include "ui/terminal.hpp"
#include "ui/workspace.hpp"

namespace tool {

using namespace nachklang;

namespace {

constexpr std::size_t few_implementations = 3;  // shown whole
constexpr std::size_t most_of_many = 4;         // behaviours of each, where there are more implementations
constexpr std::size_t most_names = 4;           // of peers

std::string_view heading(Gravity gravity) {
    constexpr std::array<std::string_view, 7> words{"fails",
                                                    "changes a value",
                                                    "writes ill-formed text",
                                                    "refuses what is valid",
                                                    "accepts what is invalid",
                                                    "accepts an extension",
                                                    "answers an open question unlike most engines"};
    return words[static_cast<std::size_t>(gravity)];
}

/// "all 12 such cases", "11 of 12 such cases", "3 cases"
std::string count_of(const Behaviour& b) {
    if (!b.trigger.inferred()) return fmt::format("{} case{}", b.cases.size(), b.cases.size() == 1 ? "" : "s");
    const std::string others =
        b.cases.size() > b.trigger.caught ? fmt::format(", and {} other", b.cases.size() - b.trigger.caught) : "";
    if (b.trigger.matching == b.trigger.caught) return fmt::format("all {} such cases{}", b.trigger.caught, others);
    return fmt::format("{} of {} such cases{}", b.trigger.caught, b.trigger.matching, others);
}

std::string peers_of(const Behaviour& b) {
    if (b.engines < 2) return "";
    if (b.peers.empty()) return fmt::format("alone among {} engines", b.engines);
    return fmt::format("{} of {} engines, also {}", b.peers.size() + 1, b.engines, joined(b.peers, most_names));
}

std::string modes_of(const Behaviour& b) {
    if (b.all_modes < 2) return "";
    if (b.modes.size() >= b.all_modes) return "all modes";
    return (b.modes.size() == 1 ? "mode " : "modes ") + joined(b.modes, most_names);
}

class Printer {
  public:
    explicit Printer(const Style& style) : style_(style), width_(std::max<std::size_t>(terminal_width(), 40)) {}

    /// All behaviours of one implementation and purpose.
    void print(const std::vector<const Behaviour*>& list, std::size_t most) const {
        const Behaviour& first = *list.front();
        std::string title = style_.bold(first.implementation);
        if (first.simulated)
            title += " (simulated)";
        else if (!first.purpose.empty())
            title += fmt::format(" (modes for another purpose: {})", first.purpose);
        const std::size_t failing = static_cast<std::size_t>(
            std::count_if(list.begin(), list.end(), [](const Behaviour* b) { return b->failing; }));
        fmt::print("\n{}: {} behaviour{}, {} failing\n", title, list.size(), list.size() == 1 ? "" : "s", failing);
        std::optional<Gravity> before;
        for (std::size_t i = 0; i < list.size() && i < most; ++i) {
            if (before != list[i]->gravity) fmt::print("  {}\n", painted(heading(list[i]->gravity), *list[i]));
            before = list[i]->gravity;
            one(*list[i]);
        }
        if (list.size() > most)
            fmt::print("  … and {} more: {}\n", list.size() - most,
                       style_.faint("nachklang run --implementation '" + first.implementation + "*'"));
    }

  private:
    [[nodiscard]] std::string painted(std::string_view words, const Behaviour& b) const {
        return b.failing ? style_.bad(words) : style_.open(words);
    }

    void one(const Behaviour& b) const {
        lines("    ", text::printable(b.sentence));
        std::string figures;
        for (const std::string& part :
             {count_of(b), b.clause, peers_of(b), modes_of(b), b.declared ? std::string("declared") : "",
              b.excused.empty() ? "" : "excused: " + text::printable(b.excused),
              b.also.empty() ? "" : "comes with " + joined(b.also, 2)})
            if (!part.empty()) figures += (figures.empty() ? "" : " · ") + part;
        for (const std::string& line : wrapped(figures, width_ - 6)) fmt::print("      {}\n", style_.faint(line));
        if (!b.detail.empty()) {
            constexpr std::size_t longest_detail = 300;
            lines("      ", fmt::format("{}: {}", text::printable_excerpt(b.witness->name, 60),
                                        text::printable_excerpt(b.detail, longest_detail)));
        }
        if (b.smallest)
            fmt::print("      smallest, {} byte{}: {}\n", b.smallest->size(), b.smallest->size() == 1 ? "" : "s",
                       cut_text(text::printable_document(*b.smallest), std::max<std::size_t>(width_, 60) - 30));
        fmt::print("      {}\n", style_.faint("$ " + repeat_line(*b.witness, b.witness_mode)));
    }

    void lines(std::string_view indent, const std::string& text) const {
        for (const std::string& line : wrapped(text, width_ - indent.size())) fmt::print("{}{}\n", indent, line);
    }

    const Style& style_;
    std::size_t width_;
};

}  // namespace

void print_behaviours(const std::vector<Behaviour>& behaviours, Colour colour) {
    if (behaviours.empty()) return;
    const Style style = Style::of_stdout(colour);
    const Printer printer(style);
    std::set<std::string> names;
    for (const Behaviour& b : behaviours) names.insert(b.implementation);
    const std::size_t most = names.size() <= few_implementations ? behaviours.size() : most_of_many;
    for (std::size_t i = 0; i < behaviours.size();) {
        std::vector<const Behaviour*> list;
        for (; i < behaviours.size() &&
               (list.empty() || (behaviours[i].implementation == list.front()->implementation &&
                                 behaviours[i].purpose == list.front()->purpose));
             ++i)
            list.push_back(&behaviours[i]);
        printer.print(list, most);
    }
    fmt::print("\n");
}

std::string crisp_answer(const std::vector<AnswerGiven>& answers, const std::string& subject,
                         const AskedQuestion& question) {
    std::string out;
    std::optional<Side> side;  // the first one: what it reads before what it writes
    for (const AnswerGiven& a : answers) {
        if (a.subject != subject || AskedQuestion(a.format, a.question) != question ||
            side.value_or(a.side) != a.side)
            continue;
        side = a.side;
        if (!out.empty()) out += a.otherwise ? ", else " : "; ";
        out += a.answer;
        if (a.trigger.inferred())
            out += " if " + a.trigger.clause;
        else if (!a.otherwise && a.cases < a.asked)
            out += fmt::format(" in {} of {} cases", a.cases, a.asked);
    }
    return out;
}

std::vector<AskedQuestion> questions_in(const std::vector<AnswerGiven>& answers) {
    std::vector<AskedQuestion> out;
    for (const AnswerGiven& a : answers)
        if (std::find(out.begin(), out.end(), AskedQuestion(a.format, a.question)) == out.end())
            out.emplace_back(a.format, a.question);
    return out;
}

void print_open_answers(const std::vector<AnswerGiven>& answers, const std::string& subject, Colour colour) {
    const Style style = Style::of_stdout(colour);
    std::vector<std::vector<Cell>> rows;
    for (const AskedQuestion& asked : questions_in(answers)) {
        const std::string answer = crisp_answer(answers, subject, asked);
        if (!answer.empty()) rows.push_back({{asked.second, Cell::Paint::faint}, {text::printable(answer)}});
    }
    if (rows.empty()) return;
    fmt::print("{}\n{}  {}\n\n", style.bold("answers to questions that the standard leaves open"),
               table(rows, style, "  "),
               style.faint("$ nachklang run --question QUESTION --answer ANSWER --implementation " + subject));
}

std::string about_question(const std::vector<AnswerGiven>& answers, const AskedQuestion& asked) {
    for (const AnswerGiven& a : answers)
        if (a.witness != nullptr && AskedQuestion(a.format, a.question) == asked)
            if (const Question* question = question_of(*a.witness, a.question))
                return fmt::format("{} [{}]", question->about, question->clause);
    return {};
}

void print_questions(const std::vector<AnswerGiven>& answers, Colour colour) {
    const Style style = Style::of_stdout(colour);
    for (const AskedQuestion& asked : questions_in(answers)) {
        const std::string& id = asked.second;
        std::map<std::string, std::vector<std::string>> by_answer;
        std::set<std::string> seen;
        for (const AnswerGiven& a : answers)
            if (AskedQuestion(a.format, a.question) == asked && seen.insert(a.subject).second)
                by_answer[crisp_answer(answers, a.subject, asked)].push_back(a.subject);
        std::vector<std::pair<std::string, std::vector<std::string>>> sorted(by_answer.begin(), by_answer.end());
        std::stable_sort(sorted.begin(), sorted.end(),
                         [](const auto& a, const auto& b) { return a.second.size() > b.second.size(); });
        fmt::print("\n{}  {}\n", style.bold(id), style.faint(about_question(answers, asked)));
        for (const auto& [answer, subjects] : sorted) {
            fmt::print("  {:>4}  {}\n", subjects.size(), text::printable(answer));
            print_folded(8, joined(subjects, subjects.size()),
                         [&](const std::string& line) { return style.faint(line); });
        }
    }
    fmt::print("\n");
}

}  // namespace tool

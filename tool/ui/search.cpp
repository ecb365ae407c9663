// See search.hpp.
#include "ui/search.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <set>

#include "ui/terminal.hpp"
#include "ui/workspace.hpp"

namespace tool {

using namespace nachklang;

namespace {

std::string listed(const std::vector<std::string>& words) {
    std::string out;
    for (const std::string& word : words) out += (out.empty() ? "" : ", ") + word;
    return out;
}

std::vector<std::string> answers_to(std::string_view question, std::span<const Case> cases) {
    std::set<const Question*> known;
    for (const Format* format : formats()) known.insert(find_question(*format, question));
    for (const Case& c : cases) known.insert(question_of(c, question));
    known.erase(nullptr);
    std::set<std::string> out;
    for (const Question* one : known)
        for (const auto& answer : one->answers) out.insert(answer.name);
    return {out.begin(), out.end()};
}

bool is_cause(std::string_view slug) {
    return std::any_of(formats().begin(), formats().end(),
                       [&](const Format* format) { return find_cause(*format, slug) != nullptr; });
}

}  // namespace

std::optional<Problem> check_wanted(const Wanted& wanted, std::span<const Case> cases) {
    if (!wanted.answer.empty() && wanted.question.empty())
        return Problem{"--answer", "an answer without its question", "add --question"};
    if (!wanted.question.empty()) {
        const std::vector<std::string> answers = answers_to(wanted.question, cases);
        if (answers.empty())
            return Problem{"--question",
                           fmt::format("'{}' is not a question of any format, nor of these cases", wanted.question),
                           "`nachklang run --by question` lists questions with their answers"};
        if (!wanted.answer.empty() && std::find(answers.begin(), answers.end(), wanted.answer) == answers.end())
            return Problem{"--answer", fmt::format("'{}' is not an answer to {}", wanted.answer, wanted.question),
                           "use one of " + listed(answers)};
    }
    if (!wanted.cause.empty() && !is_cause(wanted.cause))
        return Problem{"--cause", fmt::format("'{}' is not a cause of any format", wanted.cause),
                       "`nachklang run --by cause` lists causes"};
    return std::nullopt;
}

void Search::chunk(const ChunkReport& report) {
    for (const Result& r : report.results) {
        const auto keep = [&](std::string what) {
            found_.push_back({r.subject->name(), std::string(name_of(r.operation)), r.test_case->name,
                              std::move(what), repeat_line(*r.test_case, r.subject->name())});
        };
        for (const GivenAnswer& a : r.finding.answers)
            if (a.question == wanted_.question && (wanted_.answer.empty() || a.answered == wanted_.answer))
                keep(a.answered);
        const auto& causes = r.finding.causes;
        const auto cause =
            std::find_if(causes.begin(), causes.end(), [&](const auto& c) { return c.cause == wanted_.cause; });
        if (!wanted_.cause.empty() && cause != causes.end())
            keep(cause->detail.empty() ? r.finding.detail : cause->detail);
    }
}

void Search::print(Colour colour) const {
    const Style style = Style::of_stdout(colour);
    const std::string what = !wanted_.cause.empty() ? wanted_.cause
                             : wanted_.answer.empty()
                                 ? wanted_.question
                                 : fmt::format("{} answered \"{}\"", wanted_.question, wanted_.answer);
    fmt::print("{}: {} results\n", style.bold(what), found_.size());
    std::vector<std::string> order;
    for (const Found& f : found_)
        if (std::find(order.begin(), order.end(), f.implementation) == order.end())
            order.push_back(f.implementation);
    for (const std::string& implementation : order) {
        std::vector<std::vector<Cell>> rows;
        std::string repeat;
        for (const Found& f : found_) {
            if (f.implementation != implementation) continue;
            if (repeat.empty()) repeat = f.repeat;
            rows.push_back({{text::printable(f.case_name)},
                            {f.operation, Cell::Paint::faint},
                            {text::printable_excerpt(f.what, 80)}});
        }
        fmt::print("{}: {}\n{}  $ {}\n", style.bold(implementation), rows.size(), table(rows, style, "  "), repeat);
    }
}

}  // namespace tool

// `compare`: what changes for users who switch from one implementation to another, or from one mode to another.
#include <fmt/format.h>

#include <algorithm>

#include <nachklang/behaviour.hpp>

#include "commands/commands.hpp"
#include "ui/behaviours.hpp"
#include "ui/terminal.hpp"

namespace tool {

using namespace nachklang;

namespace {

/// The subject of that name, or the first mode of an implementation of that name.
const Subject* find_subject(const std::vector<Subject>& subjects, const std::string& name) {
    for (const Subject& s : subjects)
        if (s.name() == name) return &s;
    for (const Subject& s : subjects)
        if (s.implementation.name == name || s.recorded != nullptr) return &s;
    return nullptr;
}

bool shows(const Behaviour& b, const Subject& subject) {
    return b.implementation == subject.implementation.name &&
           std::find(b.modes.begin(), b.modes.end(), subject.mode) != b.modes.end();
}

/// Whether two behaviours are one mistake on mostly the same cases.
bool is_same(const Behaviour& a, const Behaviour& b) {
    if (a.side != b.side || a.kind != b.kind || a.cause != b.cause || a.rule != b.rule) return false;
    std::vector<std::string> both;
    std::set_intersection(a.cases.begin(), a.cases.end(), b.cases.begin(), b.cases.end(), std::back_inserter(both));
    return both.size() * 2 >= std::min(a.cases.size(), b.cases.size());
}

/// Those of one subject that the other one does not show; `shared` counts the rest.
std::vector<Behaviour> alone(const std::vector<Behaviour>& all, const Subject& one, const Subject& other,
                             std::size_t& shared) {
    std::vector<Behaviour> out;
    for (const Behaviour& b : all) {
        if (b.kind == FindingKind::open || !shows(b, one)) continue;
        const bool both = std::any_of(all.begin(), all.end(), [&](const Behaviour& b2) {
            return shows(b2, other) && (&b2 == &b || is_same(b, b2));
        });
        if (both)
            ++shared;
        else
            out.push_back(b);
    }
    return out;
}

void print_answers(const std::vector<AnswerGiven>& answers, const Subject& a, const Subject& b, Colour colour) {
    const Style style = Style::of_stdout(colour);
    std::vector<std::vector<Cell>> rows;
    const std::vector<AskedQuestion> questions = questions_in(answers);
    std::size_t longest = 0;
    for (const AskedQuestion& question : questions) longest = std::max(longest, question.second.size());
    const std::size_t width = std::max<std::size_t>(terminal_width(), longest + 40) - longest - 4;
    for (const AskedQuestion& question : questions) {
        const std::string first = crisp_answer(answers, a.name(), question),
                          second = crisp_answer(answers, b.name(), question);
        if (first.empty() || second.empty() || first == second) continue;
        std::string name = question.second;
        for (const std::string& answer : {a.name() + ": " + first, b.name() + ": " + second})
            for (const std::string& line : wrapped(answer, width)) {
                rows.push_back({{name, Cell::Paint::bold}, {line}});
                name.clear();
            }
    }
    if (rows.empty()) return;
    fmt::print("\n{}\n{}", style.bold("open questions that they answer differently"), table(rows, style, "  "));
}

}  // namespace

int compare(const Common& common, const CompareImplementations& options) {
    const auto workspace = open_workspace(common);
    if (!workspace.ok()) return report(workspace.problem());
    const auto cases = chosen_cases(workspace.value(), options.corpora, common);
    if (!cases.ok()) return report(cases.problem());
    std::vector<Subject> both;
    for (const std::string& name : {options.first, options.second}) {
        Common one = common;
        one.implementations = {name};
        auto subjects = subjects_of(workspace.value(), one, true);
        if (!subjects.ok()) return report(subjects.problem());
        const Subject* found = find_subject(subjects.value(), name);
        if (found == nullptr)
            return report(
                {name, "is no implementation and no mode of one", "`nachklang implementations` lists them"});
        both.push_back(*found);
    }
    if (both[0].name() == both[1].name())
        return report({both[0].name(), "is named twice", "name two implementations, or two modes of one"});
    if (const auto problem = unsupported_formats(cases.value(), both)) return report(*problem);
    BehaviourCollector collector;
    run_cases("compare", cases.value(), both, {.workers = workers_of(0)}, collector);
    const std::vector<Behaviour> behaviours = collector.behaviours();
    std::size_t shared = 0, shared_again = 0;
    const auto first = alone(behaviours, both[0], both[1], shared);
    const auto second = alone(behaviours, both[1], both[0], shared_again);
    fmt::print("from {} to {}: {} behaviours end, {} begin, {} stay\n", both[0].name(), both[1].name(),
               first.size(), second.size(), shared);
    for (const auto& [list, words] : {std::pair(&first, "end"), {&second, "begin"}}) {
        if (list->empty()) continue;
        fmt::print("\nbehaviours that {}:\n", words);
        print_behaviours(*list, common.colour);
    }
    print_answers(collector.answers(), both[0], both[1], common.colour);
    return exit_success;
}

}  // namespace tool

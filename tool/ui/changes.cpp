// See changes.hpp.
#include "ui/changes.hpp"

#include <fmt/format.h>

#include <algorithm>

#include <nachklang/text.hpp>

#include "ui/terminal.hpp"

namespace tool {

using namespace nachklang;

namespace {

constexpr std::size_t most_named = 4;

std::string named(const std::vector<std::string>& list) {
    std::vector<std::string> printable;
    for (const std::string& name : list) printable.push_back(text::printable(name));
    return joined(printable, most_named);
}

std::string counted(std::size_t count, std::string_view one) {
    return fmt::format("{} {}{}", text::grouped(count), one, count == 1 ? "" : "s");
}

struct Heading {
    std::string_view title, in_part;  // in_part: of a behaviour that both runs have, in other cases
    bool failing, bad;
};

void print_list(const Heading& heading, const std::vector<BehaviourChange>& list, const Style& style) {
    const auto wanted = [&](const BehaviourChange& c) { return c.failing == heading.failing; };
    const auto count = static_cast<std::size_t>(std::count_if(list.begin(), list.end(), wanted));
    if (count == 0) return;
    fmt::print("{}\n", style.bold(fmt::format("{}: {}", heading.title, counted(count, "behaviour"))));
    for (const BehaviourChange& c : list) {
        if (!wanted(c)) continue;
        print_folded(2, fmt::format("{}: {}", c.name.implementation, text::printable(c.sentence)),
                     [&](const std::string& line) { return heading.bad ? style.bad(line) : line; });
        print_folded(6, fmt::format("{} {}: {}", c.whole ? "in" : heading.in_part, counted(c.cases.size(), "case"),
                                    named(c.cases)));
    }
}

void print_names(std::string_view title, const std::vector<std::string>& names) {
    if (!names.empty()) print_folded(0, fmt::format("{}: {}", title, named(names)));
}

}  // namespace

void print_changes(const Changes& changes, Colour colour) {
    const Style style = Style::of_stdout(colour);
    print_list({"newly failing", "now also in", true, true}, changes.came, style);
    print_list({"new, and no failure", "now also in", false, false}, changes.came, style);
    print_list({"mended", "no longer in", true, false}, changes.went, style);
    print_list({"gone, and was no failure", "no longer in", false, false}, changes.went, style);
    if (!changes.answers.empty()) {
        fmt::print("{}\n", style.bold("open questions answered otherwise"));
        for (const AnswerChange& change : changes.answers)
            for (const auto& [answers, cases] : change.cases)
                print_folded(
                    2, fmt::format("{}  {}: {}, now {}, in {}: {}", change.subject, change.question, answers.first,
                                   answers.second, counted(cases.size(), "case"), named(cases)));
    }
    print_names("other versions", changes.versions);
    print_names("only in the later run, implementations", changes.new_implementations);
    print_names("only in the earlier run, implementations", changes.gone_implementations);
    print_names("only in the later run, cases", changes.new_cases);
    print_names("only in the earlier run, cases", changes.gone_cases);
    if (changes.came.empty() && changes.went.empty() && changes.answers.empty())
        fmt::print("no behaviour and no answer changed\n");
}

}  // namespace tool

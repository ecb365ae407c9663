// Counts results by implementation, aspect and cause, and prints them; see summary.hpp.
#include "ui/summary.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>
#include <tuple>

#include "ui/terminal.hpp"
#include "ui/workspace.hpp"

namespace tool {

using namespace nachklang;

namespace {

constexpr std::size_t most_rows = 9;

constexpr std::size_t most_incidents = 3;  // of one implementation
constexpr std::size_t names_width = 60;

/// As many names as fit, and how many more there are.
std::string names(const std::set<std::string>& all) {
    std::string out;
    std::size_t count = 0;
    for (const std::string& name : all) {
        if (count > 0 && out.size() + 2 + name.size() > names_width)
            return out + fmt::format(" and {} more", all.size() - count);
        out += (out.empty() ? "" : ", ") + name;
        ++count;
    }
    return out;
}

template <class Groups>
auto by_size(const Groups& groups) {
    std::vector<typename Groups::const_pointer> out;
    for (const auto& entry : groups) out.push_back(&entry);
    std::stable_sort(out.begin(), out.end(),
                     [](const auto* a, const auto* b) { return a->second.cases.size() > b->second.cases.size(); });
    return out;
}

}  // namespace

void Summary::begin(const RunHeader& header) {
    std::set<std::string> known;
    for (const Subject& subject : header.subjects) {
        subjects_.push_back(subject.name());
        const Implementation& implementation = subject.implementation;
        if (!known.insert(implementation.name).second) continue;
        for (const Excuse& excuse : implementation.excuses) excuses_.emplace_back(implementation.name, excuse);
    }
}

void Summary::end(const RunEnd& how) {
    for (std::size_t i = 0; i < how.seconds.size(); ++i) seconds_.emplace_back(how.seconds[i], subjects_.at(i));
    std::stable_sort(seconds_.begin(), seconds_.end(),
                     [](const auto& a, const auto& b) { return a.first > b.first; });
}

void Summary::print_times(std::optional<double> storing, Colour colour) const {
    double all = 0;
    for (const auto& [seconds, name] : seconds_) all += seconds;
    std::vector<std::vector<Cell>> rows;
    const auto add = [&](double seconds, const std::string& what) {
        rows.push_back(
            {{fmt::format("{:8.1f} s", seconds)}, {fmt::format("{:4.1f} %", 100 * seconds / all)}, {what}});
    };
    for (const auto& [seconds, name] : seconds_) add(seconds, name);
    if (storing) add(*storing, "(keeping the results: --store)");
    const Style style = Style::of_stdout(colour);
    fmt::print("{}\n{}", style.bold("time by implementation, with judging"), table(rows, style, "  "));
}

void Summary::chunk(const ChunkReport& report) {
    std::map<std::tuple<std::string, Operation, std::string>, std::set<std::string>> showing;  // case and cause
    for (const Result& r : report.results) {
        ++results_;
        const std::string name = r.subject->name(), aspect = r.test_case->aspect;
        if (!grid_.contains(name)) order_.push_back(name);
        aspects_.insert(aspect);
        Counts& counts = grid_[name][aspect];
        ++counts.asked;
        ++kinds_[std::string(name_of(r.finding.kind))];
        if (r.finding.kind == FindingKind::open) ++counts.open;
        if (r.finding.kind == FindingKind::unsupported) ++counts.unjudged;
        if (r.finding.kind == FindingKind::not_asked) {
            --counts.asked;
            ++not_asked_[{name, r.finding.detail}];
        }
        for (const Advice& a : r.finding.advice) {
            Group& group = advice_[fmt::format(
                "{} {}, {}", info_of(r.operation).output == Content::value ? "read:   " : "written:",
                a.message.substr(0, a.message.find(':')), a.clause)];
            if (group.cases.empty()) group.repeat = repeat_line(*r.test_case, name);
            group.cases.insert(r.test_case->name);
            group.implementations.insert(name);
        }
        if (is_settled(r.finding.kind)) continue;
        if (!r.finding.excused.empty()) ++excused_[{r.subject->implementation.name, r.finding.excused}];
        if (r.finding.failing())
            ++counts.failing;
        else
            ++counts.permitted;
        const std::string repeat = repeat_line(*r.test_case, name);
        Group& group = findings_[fmt::format("{}{}{} {}", name_of(r.finding.kind), r.finding.basis ? " " : "",
                                             r.finding.basis ? name_of(*r.finding.basis) : "", r.finding.cause())];
        if (group.cases.empty()) group.repeat = repeat;
        group.cases.insert(r.test_case->name);
        group.implementations.insert(name);
        showing[{r.test_case->name, r.operation, r.finding.cause()}].insert(name);
        listed_.push_back({name, std::string(name_of(r.operation)), std::string(name_of(r.finding.kind)),
                           r.finding.basis ? std::string(name_of(*r.finding.basis)) : "", r.finding.cause(),
                           r.finding.detail, repeat, r.finding.declared, r.finding.excused, r.finding.failing()});
    }
    for (const Disagreement& d : report.disagreements) {
        const std::string why = d.question.empty() ? d.cause : "question " + d.question;
        Group& group = disagreements_[fmt::format("{:14} {}", name_of(d.layer), why)];
        if (group.cases.empty()) group.example = d.case_name;
        group.cases.insert(d.case_name);
        // The smaller group may be the one that is right.
        const auto found = showing.find({d.case_name, d.operation, d.cause});
        if (d.question.empty() && found != showing.end()) {
            group.implementations.insert(found->second.begin(), found->second.end());
            continue;
        }
        for (std::size_t i = 1; i < d.groups.size(); ++i)
            group.implementations.insert(d.groups[i].implementations.begin(), d.groups[i].implementations.end());
    }
}

void Summary::incident(const IncidentReport& i) {
    std::string line = fmt::format("{} after", name_of(i.outcome));
    for (std::size_t k = 0; k < i.sequence.size() && k < 3; ++k) line += (k == 0 ? " " : ", ") + i.sequence[k];
    if (i.sequence.size() > 3) line += fmt::format(" … {} ({} requests)", i.sequence.back(), i.sequence.size());
    incidents_[i.subject->name()].push_back(line + ": " + i.detail);
}

std::set<std::string> Summary::aspects_that_fit() const {
    constexpr std::size_t totals = 18;
    std::size_t width = totals, names = 0;
    for (const std::string& aspect : aspects_) width += aspect.size() + 2;
    for (const std::string& name : order_) names = std::max(names, name.size());
    if (width + names + 2 <= terminal_width()) return aspects_;
    std::set<std::string> out;
    for (const auto& [name, of_aspects] : grid_)
        for (const auto& [aspect, counts] : of_aspects)
            if (counts.failing > 0 || counts.permitted > 0) out.insert(aspect);
    return out;
}

void Summary::print(Colour colour, bool by_cause) const {
    const Style style = Style::of_stdout(colour);
    const std::set<std::string> aspects = aspects_that_fit();
    std::vector<Cell> head{{"", Cell::Paint::bold}};
    for (const std::string& aspect : aspects) head.push_back({text::printable(aspect), Cell::Paint::bold});
    head.push_back({"failing", Cell::Paint::bold});
    head.push_back({"asked", Cell::Paint::bold});
    std::vector<std::vector<Cell>> rows{head};
    std::size_t unjudged = 0;
    for (const std::string& name : order_) {
        std::vector<Cell> row{{name}};
        std::size_t failing = 0, asked = 0;
        for (const auto& [aspect, c] : grid_.at(name)) {
            failing += c.failing;
            asked += c.asked;
            unjudged += c.unjudged;
        }
        for (const std::string& aspect : aspects) {
            const auto found = grid_.at(name).find(aspect);
            if (found == grid_.at(name).end()) {
                row.push_back({"", Cell::Paint::faint});
                continue;
            }
            const Counts& c = found->second;
            std::string cell = c.failing > 0 ? std::to_string(c.failing) : "·";
            if (c.permitted > 0) cell += fmt::format(" +{}p", c.permitted);
            row.push_back({cell, c.failing > 0 ? Cell::Paint::bad
                                               : (c.permitted > 0 ? Cell::Paint::open : Cell::Paint::good)});
        }
        row.push_back({std::to_string(failing), failing > 0 ? Cell::Paint::bad : Cell::Paint::good});
        row.push_back({std::to_string(asked), Cell::Paint::faint});
        rows.push_back(row);
    }
    print_folded(0, "failures per implementation and aspect (+Np: N deviations that the standard permits)",
                 [&](const std::string& line) { return style.bold(line); });
    fmt::print("{}", table(rows, style, "  "));
    std::string left_out;
    for (const std::string& aspect : aspects_)
        if (!aspects.contains(aspect)) left_out += (left_out.empty() ? "" : ", ") + text::printable(aspect);
    if (!left_out.empty()) print_folded(2, "without a failure: " + left_out);
    if (unjudged > 0) fmt::print("  {} results were not judged (finding `unsupported`)\n", unjudged);
    for (const auto& [what, count] : not_asked_)
        fmt::print("  {}: {} not asked ({})\n", what.first,
                   count == 1 ? "1 request was" : fmt::format("{} requests were", text::grouped(count)),
                   text::printable(what.second));

    for (const auto& [name, excuse] : excuses_) {
        const auto found = excused_.find({name, excuse.reason});
        if (found == excused_.end())
            fmt::print("  {}: the excuse of {} fits no finding of this run: {}\n", name,
                       text::printable(excuse.where), text::printable(excuse.reason));
        else
            fmt::print("  {}: {} excused: {}\n", name,
                       found->second == 1 ? "1 result is" : fmt::format("{} results are", found->second),
                       text::printable(excuse.reason));
    }

    if (by_cause)
        print_groups("findings by cause: number of cases, cause, implementations, and a command that repeats one",
                     findings_, style);
    print_groups(
        "disagreements by cause: number of cases, layer and cause, implementations that show it (or the smaller "
        "groups), an example",
        disagreements_, style);
    print_groups(
        "advice of the profile (never a failure): number of cases, advice, implementations, and a command that "
        "repeats one",
        advice_, style);
    if (!incidents_.empty()) {
        fmt::print("\n{}\n", style.bold("incidents: answers that depended on earlier requests"));
        for (const auto& [name, lines] : incidents_) {
            for (std::size_t i = 0; i < lines.size() && i < most_incidents; ++i)
                fmt::print("  {}: {}\n", name, text::printable(lines[i]));
            if (lines.size() > most_incidents)
                fmt::print("  {}: … and {} more\n", name, lines.size() - most_incidents);
        }
    }
    std::string counts;
    for (const auto& [kind, count] : kinds_)
        counts += fmt::format("{}{} {}", counts.empty() ? "" : ", ", count, kind);
    fmt::print("\n{} results: {}\n", results_, counts);
}

void Summary::print_groups(const char* title, const std::map<std::string, Group>& groups, const Style& style) {
    if (groups.empty()) return;
    fmt::print("\n");
    print_folded(0, title, [&](const std::string& line) { return style.bold(line); });
    std::vector<std::vector<Cell>> lines;
    const auto sorted = by_size(groups);
    for (std::size_t i = 0; i < sorted.size() && i < most_rows; ++i) {
        const auto& [key, group] = *sorted[i];
        std::vector<Cell> line{{std::to_string(group.cases.size()), Cell::Paint::bold},
                               {key},
                               {names(group.implementations), Cell::Paint::faint}};
        if (group.repeat.empty()) line.push_back({text::printable(group.example), Cell::Paint::faint});
        lines.push_back(std::move(line));
        if (!group.repeat.empty()) lines.push_back({{""}, {"$ " + group.repeat, Cell::Paint::faint}});
    }
    fmt::print("{}", table(lines, style, "  "));
    if (sorted.size() > most_rows) fmt::print("  … and {} more\n", sorted.size() - most_rows);
}

void Summary::list(Colour colour) const {
    const Style style = Style::of_stdout(colour);
    for (const Listed& l : listed_)
        fmt::print("{} {} {}{}{} {}{}\n    {}\n    {}\n", l.implementation, l.operation,
                   l.failing ? style.bad(l.finding) : style.open(l.finding), l.basis.empty() ? "" : " ", l.basis,
                   l.cause,
                   l.declared          ? " (declared)"
                   : l.excused.empty() ? ""
                                       : " (excused: " + text::printable(l.excused) + ")",
                   text::printable_excerpt(l.detail, 160), style.faint(l.repeat));
}

bool Summary::failing(const std::set<std::string>& fail_on) const {
    const bool incidents = fail_on.empty() || fail_on.contains("incident");
    if (!incidents_.empty() && incidents) return true;
    return std::any_of(listed_.begin(), listed_.end(), [&](const Listed& l) {
        if (l.declared || !l.excused.empty() || fail_on.contains("nothing")) return false;
        if (fail_on.empty()) return l.failing;
        return fail_on.contains(l.finding) || fail_on.contains(l.basis);
    });
}

std::string shown_amount(const LimitFound& found, std::size_t most) {
    const std::string out = text::grouped(found.largest);
    if (!found.complete) return out + " at least";
    return found.largest == most ? out + " and more" : out;
}

}  // namespace tool

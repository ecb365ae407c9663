// `numbers`: generated literals through every implementation, and the worst of each.
#include <fmt/format.h>

#include <algorithm>
#include <set>

#include "commands/commands.hpp"
#include "ui/lines.hpp"
#include "ui/terminal.hpp"

namespace tool {

using namespace nachklang;

namespace {

std::size_t count_of(const NumberSurvey& survey, std::string_view answer) {
    const auto found = survey.answers.find(std::string(answer));
    return found == survey.answers.end() ? 0 : found->second;
}

std::string some(std::size_t count) {
    return count == 0 ? "·" : text::grouped(count);
}

std::string how(const NumberSurvey::Example& example) {
    if (example.stored.answer == "off by ulps") return fmt::format("{:+.4f} ulp", example.stored.ulps);
    return example.stored.answer;
}

/// A column: its head, what it counts in words and in answers, and whether they are mistakes. Every answer is in
/// one column.
struct Column {
    const char* head;
    const char* legend;
    std::vector<std::string_view> answers;
    Cell::Paint paint = Cell::Paint::none;
};

/// The columns that the surveys need; the last ones count what no other column names.
std::vector<Column> columns_of(const std::vector<NumberSurvey>& surveys) {
    std::vector<Column> out{
        {"EXACT", "the number of the literal", {"exact", "kept exactly"}},
        {"ROUNDED", "its nearest binary64 number", {"correctly rounded"}},
        {"INFINITY", "an infinity, for a literal beyond the range of binary64", {"infinity beyond the range"}},
        {"REFUSED", "the document is refused", {"refused"}},
        {"OFF BY ULPS", "another binary64 number near it", {"off by ulps"}, Cell::Paint::bad},
        {"FAILED", "a crash, a time-out or an undocumented error", {"failed"}, Cell::Paint::bad},
        {"NOT SHOWN", "read, but the adapter shows no number", {"not shown"}, Cell::Paint::faint},
        {"NOT ASKED", "the adapter gave no hello, or failed again and again", {"not asked"}, Cell::Paint::faint}};
    Column wrong{"ANOTHER NUMBER", "none of these, and wrong", {}, Cell::Paint::bad},
        allowed{"COARSER", "beyond the range or precision that RFC 8259, 6 asks for", {}};
    std::set<std::string_view> known;
    for (const Column& column : out) known.insert(column.answers.begin(), column.answers.end());
    for (const NumberSurvey& s : surveys)
        for (const auto& [answer, count] : s.answers)
            if (known.insert(answer).second)
                (s.examples.contains(answer) ? wrong : allowed).answers.push_back(answer);
    out.insert(out.begin() + 3, allowed);
    out.insert(out.begin() + 6, wrong);
    std::erase_if(out, [&](const Column& column) {
        return std::all_of(surveys.begin(), surveys.end(), [&](const NumberSurvey& s) {
            return std::all_of(column.answers.begin(), column.answers.end(),
                               [&](std::string_view answer) { return count_of(s, answer) == 0; });
        });
    });
    return out;
}

/// The worst literals follow the counts where the terminal is wide enough, else in a table of their own.
void print_with_worst(const std::vector<std::vector<Cell>>& rows, const std::vector<std::vector<Cell>>& worst,
                      const Style& style) {
    std::vector<std::vector<Cell>> joined = rows;
    for (std::size_t i = 0, next = 0; i < joined.size() && next < worst.size(); ++i)
        if (joined[i].front().text == worst[next].front().text) {
            joined[i].insert(joined[i].end(), worst[next].begin() + 1, worst[next].end());
            ++next;
        }
    if (table_width(joined) <= terminal_width() || worst.size() < 2) {
        fmt::print("{}", table(joined, style));
        return;
    }
    fmt::print("{}\n{}", table(rows, style), table(worst, style));
}

void print_survey(const std::vector<NumberSurvey>& surveys, const Style& style) {
    const std::vector<Column> columns = columns_of(surveys);
    std::vector<std::vector<Cell>> rows(1, {{"IMPLEMENTATION", Cell::Paint::bold}}), worst = rows;
    for (const Column& column : columns) rows[0].push_back({column.head, Cell::Paint::bold});
    rows[0].push_back({"ASKED", Cell::Paint::bold});
    for (const char* head : {"WORST", "STORED AS", "HOW"}) worst[0].push_back({head, Cell::Paint::bold});
    for (const NumberSurvey& s : surveys) {
        std::vector<Cell> row{{s.subject->name()}};
        for (const Column& column : columns) {
            std::size_t count = 0;
            for (const std::string_view answer : column.answers) count += count_of(s, answer);
            row.push_back({some(count), count > 0 ? column.paint : Cell::Paint::none});
        }
        row.push_back({text::grouped(s.asked), Cell::Paint::faint});
        if (s.worst)
            worst.push_back({{s.subject->name()},
                             {text::printable_excerpt(s.worst->literal, 24)},
                             {text::printable_excerpt(s.worst->stored.stored, 24)},
                             {how(*s.worst)}});
        rows.push_back(std::move(row));
    }
    print_with_worst(rows, worst, style);
    for (const Column& column : columns) fmt::print("{}: {}\n", column.head, column.legend);
    fmt::print("WORST: the literal that is stored least right; each row's counts add up to ASKED\n");
}

/// "17", "17 to 19".
template <class Amount>
std::string range_of(Amount least, Amount most) {
    return least == most ? std::to_string(least) : fmt::format("{} to {}", least, most);
}

/// One sentence for each family of literals that is stored wrong, the largest share first.
void print_families(const std::vector<NumberSurvey>& surveys, const Style& style) {
    for (const NumberSurvey& s : surveys) {
        using Family = std::pair<std::string, NumberSurvey::FamilyTally>;
        std::vector<Family> wrong;
        for (const auto& [name, tally] : s.families)
            if (tally.wrong > 0) wrong.emplace_back(name, tally);
        if (wrong.empty()) continue;
        std::stable_sort(wrong.begin(), wrong.end(), [](const Family& a, const Family& b) {
            return a.second.wrong * b.second.asked > b.second.wrong * a.second.asked;
        });
        fmt::print("\n{}\n", style.bold(s.subject->name()));
        std::vector<std::vector<Cell>> rows;
        for (const auto& [name, tally] : wrong) {
            std::string answers;
            for (const auto& [answer, count] : tally.answers)
                answers += fmt::format("{}{} {}", answers.empty() ? "" : ", ", text::grouped(count), answer);
            rows.push_back({{fmt::format("{:.3g} %", 100.0 * static_cast<double>(tally.wrong) /
                                                         static_cast<double>(tally.asked)),
                             Cell::Paint::bad},
                            {"of " + text::grouped(tally.asked)},
                            {name},
                            {range_of(tally.fewest_digits, tally.most_digits) + " digits"},
                            {"10^" + range_of(tally.smallest_exponent, tally.largest_exponent)},
                            {answers}});
        }
        fmt::print("{}", table(rows, style, "  "));
        rows.clear();
        for (const auto& [answer, example] : s.examples)
            rows.push_back({{answer},
                            {text::printable_excerpt(example.literal, 40)},
                            {text::printable_excerpt(example.stored.stored, 40)}});
        if (s.worst)
            fmt::print("{}  $ nachklang numbers --literal {} {}\n", table(rows, style, "  "), s.worst->literal,
                       s.subject->name());
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
    const Common named = with_names(common, options.names);
    std::vector<Missing> missing = missing_if_all(workspace.value(), named);
    const auto subjects = subjects_of(workspace.value(), named, false, &missing);
    if (!subjects.ok()) return report(subjects.problem());
    if (std::none_of(subjects.value().begin(), subjects.value().end(), [&](const Subject& s) {
            return s.does(format->name(), Operation::decode) && s.implementation.reach == Reach::trace;
        }))
        return report(no_support_for(fmt::format("decoding of {} with the value shown", format->name())));
    tell_missing(missing);

    Progress progress("literals");
    NumberSurveyOptions survey;
    survey.seed = options.seed;
    survey.count = options.count;
    survey.literals = options.literals;
    survey.workers = workers_of(options.workers);
    survey.cancelled = &interrupted();
    survey.progress = [&](std::size_t done, std::size_t all) { progress.show(done, all); };
    const auto surveys = survey_numbers(*format, subjects.value(), interruptible_executors(), survey);
    progress.clear();

    const bool failing = std::any_of(surveys.begin(), surveys.end(), [](const NumberSurvey& s) {
        return s.wrong > 0 || count_of(s, "failed") > 0;
    });
    if (common.json) {
        for (const NumberSurvey& s : surveys) fmt::print("{}\n", line_of(s));
        return failing ? exit_failing : exit_success;
    }
    const Style style = Style::of_stdout(common.colour);
    print_survey(surveys, style);
    if (options.by_family) print_families(surveys, style);
    std::size_t asked = 0;
    for (const NumberSurvey& s : surveys) asked = std::max(asked, s.asked);
    if (options.literals.empty())
        fmt::print("\n{}{} literals of seed {}; --families shows which literals are stored wrong\n",
                   asked < options.count ? fmt::format("{} of ", asked) : "", options.count, options.seed);
    return failing ? exit_failing : exit_success;
}

}  // namespace tool

// `try`: one document through every implementation, side by side, the difference marked.
#include <fmt/format.h>

#include <algorithm>
#include <filesystem>
#include <map>
#include <set>

#include <nachklang/record_types.hpp>
#include <nachklang/recorded.hpp>
#include <nachklang/store.hpp>

#include "commands/commands.hpp"
#include "ui/places.hpp"
#include "ui/recorded.hpp"
#include "ui/terminal.hpp"

namespace tool {

using namespace nachklang;

namespace {

constexpr std::size_t longest_shown = 1 << 16;

Cell::Paint paint_of(const Finding& finding) {
    switch (finding.kind) {
        case FindingKind::conforms:
            return Cell::Paint::good;
        case FindingKind::open:
            return Cell::Paint::open;
        case FindingKind::unsupported:
        case FindingKind::not_asked:
            return Cell::Paint::faint;
        default:
            return finding.failing() ? Cell::Paint::bad : Cell::Paint::open;
    }
}

/// The questions that implementations answer differently; equal answers distinguish nothing.
std::set<std::string> distinguishing_questions(const std::vector<const Result*>& results) {
    std::map<std::string, std::map<std::string, std::size_t>> given;
    for (const Result* r : results)
        for (const GivenAnswer& a : r->finding.answers) ++given[a.question][a.answered];
    std::set<std::string> out;
    for (const auto& [question, answers] : given)
        if (answers.size() > 1 || answers.begin()->second < results.size() || results.size() == 1)
            out.insert(question);
    return out;
}

std::string answers_of(const Finding& finding, const std::set<std::string>& distinguishing) {
    std::string out;
    for (const GivenAnswer& a : finding.answers)
        if (distinguishing.contains(a.question) || !a.declared.empty())
            out += fmt::format("{}{}: {}{}", out.empty() ? "" : ", ", a.question, a.answered,
                               a.declared.empty()
                                   ? ""
                                   : (a.declared == a.answered ? " (declared)" : " (declared " + a.declared + ")"));
    return out;
}

std::string place_of(const Outcome& outcome) {
    std::string out;
    if (outcome.offset) out = fmt::format("offset {}", *outcome.offset);
    if (outcome.line)
        out += fmt::format("{}{}:{}", out.empty() ? "" : " ", *outcome.line,
                           outcome.column ? std::to_string(*outcome.column) : "-");
    return out;
}

/// Equal texts appear once, with all implementations that produced them.
struct SharedText {
    std::string text;
    std::vector<const Result*> who;
};
std::vector<SharedText> gather(const std::vector<std::pair<std::string, const Result*>>& texts) {
    std::vector<SharedText> out;
    for (const auto& said : texts) {
        const auto known =
            std::find_if(out.begin(), out.end(), [&](const SharedText& s) { return s.text == said.first; });
        if (known == out.end())
            out.push_back({said.first, {said.second}});
        else
            known->who.push_back(said.second);
    }
    std::stable_sort(out.begin(), out.end(),
                     [](const SharedText& a, const SharedText& b) { return a.who.size() > b.who.size(); });
    return out;
}

/// A sentence about the case; what does not fit on its first line is indented further.
void print_sentence(const std::string& text) {
    print_folded(2, text, {}, 2);
}

void print_reading(const Reading& reading) {
    if (!reading.unreadable_because.empty())
        return print_sentence("not judged: the reference reader cannot read " + reading.unreadable_because);
    if (reading.rejection) {
        const Rejection& r = *reading.rejection;
        return print_sentence(fmt::format("reference: refused at offset {} line {} column {}: {} [{}]",
                                          r.position.offset, r.position.line, r.position.column, r.message,
                                          r.clause));
    }
    std::string text = "reference: accepted";
    for (const Occurrence& occurrence : reading.occurrences)
        text += fmt::format("{} {}", &occurrence == &reading.occurrences.front() ? "; raises" : ",",
                            occurrence.question);
    print_sentence(text);
}

void print_header(const Case& c, const Style& style) {
    const std::size_t size = content_of(c).size();
    fmt::print("{}  {}, {} bytes\n", style.bold(text::printable(c.name)), c.format->name(), size);
    if (!c.why.empty())
        print_sentence(fmt::format("{}{}{}", c.stance ? std::string(name_of(*c.stance)) + ": " : "",
                                   text::printable(c.why),
                                   c.clause.empty() ? "" : " [" + text::printable(c.clause) + "]"));
    if (c.value) fmt::print("  {}\n", style.faint(c.format->describe(*c.value, 400)));
    if (!c.document) return;
    if (size <= 400) fmt::print("  {}\n", style.faint(text::printable_document(*c.document)));
    if (c.sequence) {
        fmt::print("  several documents in one {}\n", c.stays_open ? "stream, which stays open" : "text");
        return;
    }
    print_reading(c.format->read(*c.document, {{}, external_context_of(c).fetch}));
}

using Rows = std::vector<std::vector<Cell>>;

/// Takes rows out that say the same of many implementations: one line with their names says it for all of them.
/// The first column is the implementation.
std::vector<std::pair<std::vector<Cell>, std::vector<std::string>>> taken_together(Rows& rows) {
    constexpr std::size_t many = 5;
    const auto says = [](const std::vector<Cell>& row) {
        std::string out;
        for (std::size_t i = 1; i < row.size(); ++i) out += row[i].text + "\n";
        return out;
    };
    std::map<std::string, std::vector<std::string>> names;
    for (const auto& row : rows) names[says(row)].push_back(row.front().text);
    std::vector<std::pair<std::vector<Cell>, std::vector<std::string>>> out;
    std::set<std::string> taken;
    for (const auto& row : rows)
        if (names[says(row)].size() >= many && taken.insert(says(row)).second)
            out.emplace_back(row, names[says(row)]);
    std::erase_if(rows, [&](const auto& row) { return taken.contains(says(row)); });
    return out;
}

/// Those that conform are named in part: what they do is what the document says.
void print_together(std::vector<Cell> row, const std::vector<std::string>& names, const Style& style) {
    row.front().text = fmt::format("{} implementations", names.size());
    fmt::print("{}", table({row}, style, "  "));
    constexpr std::string_view indent = "      ";
    if (row[4].paint == Cell::Paint::good) return print_names(names, indent, style);
    print_folded(indent.size(), fmt::format("{}", fmt::join(names, ", ")),
                 [&](const std::string& line) { return style.faint(line); });
}

void print_verdicts(const std::vector<const Result*>& results, const Style& style) {
    Rows rows;
    const std::set<std::string> distinguishing = distinguishing_questions(results);
    for (std::size_t i = 0; i < results.size(); ++i) {
        const Result* r = results[i];
        // An operation that continues another gets a row only if its verdict differs; its text is shown below.
        const auto continued = std::find_if(results.begin(), results.end(), [&](const Result* other) {
            return other->subject == r->subject && other->test_case == r->test_case &&
                   info_of(r->operation).continues == other->operation;
        });
        if (continued != results.end() && r->outcome.kind == (*continued)->outcome.kind &&
            r->finding.cause() == (*continued)->finding.cause())
            continue;
        const bool said = r->outcome.kind != OutcomeKind::accepted;
        const std::string cause = r->finding.cause();
        std::string judged(name_of(r->finding.kind));
        if (r->finding.basis) judged += fmt::format(" ({})", name_of(*r->finding.basis));
        if (!cause.empty()) judged += " " + cause;
        if (!r->outcome.reported.empty()) judged += ", with a report";
        const std::string answers = answers_of(r->finding, distinguishing);
        std::string more =
            r->finding.kind == FindingKind::altered || r->finding.kind == FindingKind::ill_formed_output
                ? text::printable_excerpt(r->finding.detail, 90)
                : answers;
        if ((info_of(r->operation).continues || r->finding.kind == FindingKind::open) && more.empty())
            more = text::printable_excerpt(r->finding.detail, 60);
        if (!r->outcome.reported.empty())
            more += (more.empty() ? "" : "; ") +
                    text::printable_excerpt(r->outcome.reported.substr(0, r->outcome.reported.find('\n')), 70);
        if (said && more.empty())
            more = text::printable_excerpt(r->outcome.body, 70);
        else if (said && r->finding.kind != FindingKind::failed)
            more += (more.empty() ? "" : "; ") + text::printable_excerpt(r->outcome.body, 60);
        rows.push_back({{r->subject->name()},
                        {std::string(name_of(r->operation)), Cell::Paint::faint},
                        {std::string(name_of(r->outcome.kind))},
                        {place_of(r->outcome)},
                        {judged, paint_of(r->finding)},
                        {more}});
    }
    const auto together = taken_together(rows);
    fmt::print("{}", table(rows, style, "  "));
    for (const auto& [row, names] : together) print_together(row, names, style);
}

/// Recorded implementations in a line for each verdict, the most frequent first. One whose modes agree is named
/// once.
void print_recorded(const std::vector<const Result*>& results, const Style& style) {
    std::vector<std::pair<const Subject*, std::string>> verdicts;
    std::map<std::string, std::set<std::string>> of_implementation;
    std::set<const Subject*> seen;
    const std::set<std::string> distinguishing = distinguishing_questions(results);
    for (const Result* r : results) {
        if (!was_asked(r->outcome.kind) || !seen.insert(r->subject).second) continue;
        const std::string cause = r->finding.cause(), answers = answers_of(r->finding, distinguishing);
        verdicts.emplace_back(r->subject,
                              fmt::format("{}, {}{}{}", name_of(r->outcome.kind), name_of(r->finding.kind),
                                          cause.empty() ? "" : " " + cause, answers.empty() ? "" : "; " + answers));
        of_implementation[r->subject->implementation.name].insert(verdicts.back().second);
    }
    if (verdicts.empty()) return;
    std::map<std::string, std::vector<std::string>> by_verdict;
    for (const auto& [subject, verdict] : verdicts) {
        const std::string& name = subject->implementation.name;
        std::vector<std::string>& names = by_verdict[verdict];
        if (of_implementation[name].size() > 1)
            names.push_back(subject->name());
        else if (names.empty() || names.back() != name)
            names.push_back(name);
    }
    std::vector<std::pair<std::string, std::vector<std::string>>> rows(by_verdict.begin(), by_verdict.end());
    std::stable_sort(rows.begin(), rows.end(),
                     [](const auto& a, const auto& b) { return a.second.size() > b.second.size(); });
    fmt::print("{}\n",
               style.bold(fmt::format("recorded on {}, not run here", results.front()->subject->recorded->made())));
    for (const auto& [verdict, names] : rows) {
        fmt::print("  {} {}\n", names.size(), verdict);
        print_names(names, "      ", style);
    }
}

/// The value that an implementation holds, or that the text it wrote has.
struct Shown {
    const Result* result;
    std::optional<Trace> trace;
    std::string text;  ///< of a written text: itself, printable
};

PlaceColumn column_of(const Case& c, const std::vector<Shown>& shown) {
    PlaceColumn out;
    if (c.sequence && c.expected) {
        out.add("documents", {*c.expected, {}, true});
    } else if (!c.record.empty() && c.expected) {
        out.add("document", {*c.expected, {}, true});
    } else if (c.document) {
        const Reading reading = c.format->read(*c.document, {{}, external_context_of(c).fetch});
        if (is_comparable(c, reading)) out.add("document", {reading.trace, {}, true});
    } else {
        out.add("the value", {*c.value, {}, true});
    }
    for (const Shown& s : shown)
        if (s.trace)
            out.add(s.result->subject->name(), {*s.trace, s.result->subject->cannot_represent,
                                                info_of(s.result->operation).output == Content::document});
    return out;
}

/// Equal texts appear once, with all implementations that wrote them.
void print_texts(const std::vector<Shown>& shown, const Style& style) {
    std::vector<std::pair<std::string, const Result*>> texts;
    for (const Shown& s : shown) texts.emplace_back(s.text, s.result);
    const auto gathered = gather(texts);
    constexpr std::size_t most = 8;
    for (std::size_t i = 0; i < std::min(gathered.size(), most); ++i) {
        std::vector<std::string> names;
        for (const Result* r : gathered[i].who) names.push_back(r->subject->name());
        fmt::print("  {}\n", cut_text(gathered[i].text, terminal_width() - 4));
        print_names(names, "      ", style);
    }
    if (gathered.size() > most) fmt::print("  … and {} more texts\n", gathered.size() - most);
}

/// What was decoded, and of what was written the places where that differs otherwise.
void print_values(const Case& c, const std::vector<Shown>& stored, const std::vector<Shown>& written,
                  const Style& style) {
    const ColumnPlaces decoded = places_of(*c.format, column_of(c, stored));
    if (!stored.empty()) {
        fmt::print("{}\n", style.bold("value, where answers differ"));
        print_places(decoded, nullptr, style);
    }
    if (written.empty()) return;
    fmt::print("{}\n", style.bold("value of the written text, where answers differ"));
    print_places(places_of(*c.format, column_of(c, written)), stored.empty() ? nullptr : &decoded, style);
}

/// Verdicts, decoded values and written texts of one case; returns whether any finding is failing.
bool print_case(const Case& c, const ChunkReport& report, const Style& style) {
    bool failing = false;
    std::vector<const Result*> verdicts, recorded;
    std::vector<Shown> stored, written;
    for (const Result& r : report.results) {
        const bool of_record = r.subject->recorded != nullptr;
        failing = failing || (!of_record && r.finding.failing());
        (of_record ? recorded : verdicts).push_back(&r);
        // A document inside a container is another one; what pieces change is in the finding.
        if (r.outcome.kind != OutcomeKind::accepted || r.enclosed_of != nullptr || info_of(r.operation).in_pieces)
            continue;
        if (info_of(r.operation).output == Content::value) {
            if (r.value) stored.push_back({&r, *r.value, {}});
        } else {
            written.push_back(
                {&r, r.value, text::printable_document(std::string_view(r.outcome.body).substr(0, longest_shown))});
        }
    }
    print_verdicts(verdicts, style);
    print_recorded(recorded, style);
    print_values(c, stored, written, style);
    if (!written.empty()) fmt::print("{}\n", style.bold("written"));
    print_texts(written, style);
    return failing;
}

/// Adds the recorded implementations that answered one of these documents.
void add_recorded_answers(const Workspace& workspace, const std::vector<Case>& cases,
                          std::vector<Subject>& subjects) {
    for (Subject& recorded : recorded_peers(workspace, subjects)) {
        const bool answered = std::any_of(cases.begin(), cases.end(), [&](const Case& c) {
            return c.document != nullptr &&
                   recorded.recorded->answer(recorded, {Operation::decode, c.format, c.document, true});
        });
        if (answered) subjects.push_back(std::move(recorded));
    }
}

}  // namespace

bool show_side_by_side(const std::vector<Case>& cases, const std::vector<Subject>& subjects, Colour colour) {
    const Style style = Style::of_stdout(colour);
    bool failing = false;
    CampaignOptions options;
    options.workers = 2;
    options.cancelled = &interrupted();
    for (std::size_t i = 0; i < cases.size(); ++i) {
        if (i > 0) fmt::print("\n");
        print_header(cases[i], style);
        FunctionSink sink(
            [&](const ChunkReport& report) { failing = print_case(cases[i], report, style) || failing; },
            [&](const IncidentReport& incident) {
                failing = true;
                fmt::print("  {} {}: {}\n", style.bad("incident"), incident.subject->name(),
                           text::printable(incident.detail));
            });
        run_campaign({&cases[i], 1}, subjects, interruptible_executors(), options, sink);
    }
    return failing;
}

/// The records of a run over these cases.
static int print_records(const std::vector<Case>& cases, const std::vector<Subject>& subjects) {
    auto out = LineFile::create("-");
    if (!out.ok()) return report(out.problem());
    LineSink lines(out.value().get(), out.value().get());
    bool failing = false;
    FunctionSink own([&](const ChunkReport& report) {
        for (const Result& r : report.results)
            failing = failing || (r.subject->recorded == nullptr && r.finding.failing());
    });
    SinkList sinks({&lines, &own});
    run_cases("try", cases, subjects, {.workers = 2}, sinks);
    lines.finish({});
    return failing ? exit_failing : exit_success;
}

int try_documents(const Common& common, const TryOptions& options) {
    const auto workspace = open_workspace(common);
    if (!workspace.ok()) return report(workspace.problem());
    std::vector<Case> cases;
    for (const std::string& file : options.files) {
        auto bytes = document_of(file);
        if (!bytes.ok()) return report(bytes.problem());
        const Format& format = format_of(common, file, bytes.value());
        Case c = case_of_document("documents", file, format, std::move(bytes.value()));
        c.source = file;
        cases.push_back(std::move(c));
    }
    if (options.files.empty() || !common.cases.empty()) {
        if (common.cases.empty())
            return report({"try", "no document is named", "name files, or a case with --case"});
        auto chosen = chosen_cases(workspace.value(), options.corpora, common);
        if (!chosen.ok()) return report(chosen.problem());
        std::move(chosen.value().begin(), chosen.value().end(), std::back_inserter(cases));
    }
    std::vector<Missing> missing = missing_if_all(workspace.value(), common);
    auto subjects = subjects_of(workspace.value(), common, true, &missing);
    if (!subjects.ok()) return report(subjects.problem());
    if (const auto problem = unsupported_formats(cases, subjects.value())) return report(*problem);
    tell_missing(missing);
    if (common.implementations.empty()) add_recorded_answers(workspace.value(), cases, subjects.value());
    if (common.json) return print_records(cases, subjects.value());
    return show_side_by_side(cases, subjects.value(), common.colour) ? exit_failing : exit_success;
}

}  // namespace tool

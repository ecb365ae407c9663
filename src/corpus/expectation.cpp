// The sheet's word over the reader's, and where the two contradict each other.
#include <fmt/format.h>

#include <algorithm>
#include <filesystem>

#include <nachklang/corpus.hpp>
#include <nachklang/record_types.hpp>

namespace nachklang {

Case case_of_document(std::string corpus, std::string name, const Format& format, std::string document) {
    Case c;
    c.corpus = std::move(corpus);
    c.aspect = "documents";
    c.name = std::move(name);
    c.format = &format;
    c.document = std::make_shared<const std::string>(std::move(document));
    return c;
}

std::string_view content_of(const Case& c) {
    return c.document ? std::string_view(*c.document) : c.value->text();
}

const Question* question_of(const Case& c, std::string_view id) {
    if (c.own_question && c.own_question->id == id) return c.own_question.get();
    return find_question(*c.format, id);
}

bool is_asked(const Case& c, Operation operation) {
    const OperationInfo& row = info_of(operation);
    return (row.input == Content::value) == c.value.has_value() && row.of_record == !c.record.empty() &&
           row.of_sequence == c.sequence && row.stays_open == c.stays_open;
}

ExternalContext external_context_of(const Case& c) {
    ExternalContext out;
    out.reads = c.reads;
    const std::string folder = std::filesystem::path(c.external_file).parent_path().string();
    if (c.reads == ExternalAccess::external) out.fetch = files_below(folder, folder);
    return out;
}

namespace {

bool raises(const Expectation& expectation, std::string_view question) {
    return std::any_of(expectation.occurrences.begin(), expectation.occurrences.end(),
                       [&](const Occurrence& occurrence) { return occurrence.question == question; });
}

/// The reference reader's expectation of an implementation to which the case applies.
Expectation readers_word(const Case& c) {
    const Settings settings{{"external", "files"}};
    return c.format->expect(*c.document, c.reads == ExternalAccess::external ? settings : Settings{},
                            external_context_of(c));
}

}  // namespace

Expectation expectation_of(const Case& c, const Settings& settings) {
    if (c.value || !c.record.empty() || c.sequence) {
        Expectation out;
        out.stance = c.stance.value_or(Stance::accept);
        out.clause = c.clause;
        out.value = c.expected ? c.expected : c.value;
        out.answers = c.answers;
        if (!c.question.empty()) out.occurrences.push_back({c.question, 0, 1, 1});
        return out;
    }
    Expectation out = c.format->expect(*c.document, settings, external_context_of(c));
    if (!out.not_asked.empty()) return out;
    const bool beyond = !out.unreadable_because.empty();
    if (beyond && !(c.expected || c.stance == Stance::reject)) return out;
    out.unreadable_because.clear();
    const bool read_as_document = !beyond && out.stance != Stance::reject;
    // If settings lead the reader to another verdict than it gives without them, or answer the case's question, the
    // reader decides, not the sheet.
    const std::optional<Expectation> without = settings.empty() ? std::nullopt : std::optional(readers_word(c));
    const bool by_sheet =
        !without || beyond ||
        (out.stance == without->stance && !(raises(*without, c.question) && !raises(out, c.question)));
    if (c.stance && by_sheet) {
        if (*c.stance == Stance::reject && read_as_document) {
            out.acceptance_basis = Basis::advised;
            out.acceptance_cause = common_cause::against_the_sheet;
        }
        out.stance = *c.stance;
    }
    if (!c.clause.empty() && by_sheet && !out.clause_of_settings) out.clause = c.clause;
    // Where the two agree, the reader's value tells more: it knows how a number was spelled. Where an
    // implementation's settings lead to another value than the one a sheet holds, the reader's counts.
    const auto agrees = [&](const Expectation& reader) {
        return reader.value && c.format->compare(*c.expected, *reader.value).differences.empty();
    };
    if (c.expected && !agrees(out) && (!without || !agrees(*without))) out.value = c.expected;
    if (!c.question.empty() && by_sheet) {
        std::erase_if(out.answers, [&](const Answer& a) { return a.question == c.question && !c.answers.empty(); });
        out.answers.insert(out.answers.end(), c.answers.begin(), c.answers.end());
        if (!raises(out, c.question)) out.occurrences.push_back({c.question, 0, static_cast<std::size_t>(-2), 1});
    }
    return out;
}

std::vector<Problem> check_case(const Case& c) {
    std::vector<Problem> out;
    const auto report = [&](const std::string& what, std::string advice) {
        out.push_back({c.source, c.name + ": " + what, std::move(advice)});
    };
    if (c.clause.empty()) report("no clause", "name the clause that the case rests on");
    if (!c.stance) report("no stance", "use accept, reject or open");
    if ((c.value && c.record.empty()) || !c.stance) return out;
    if (!c.record.empty()) {
        if (c.document && !c.format->read(*c.document).accepted())
            report("its document is none", "give documents that only their record refuses");
        for (const std::string& problem : record_problems(c)) report(problem, "see docs/records-of-fields.md");
        return out;
    }
    if (c.sequence) {
        const auto is_list = [](const std::optional<Trace>& trace) {
            return trace && trace->items().front().kind == ItemKind::array_open;
        };
        const bool lists = is_list(c.expected) &&
                           std::ranges::all_of(c.answers, [&](const Answer& a) { return is_list(a.trace); });
        if (!lists) report("the answer to a sequence is a list", "write a trace that begins with [");
        return out;
    }
    const Expectation reader = readers_word(c);
    if (!reader.unreadable_because.empty()) {
        if (!c.expected && c.stance == Stance::accept)
            report("the reference reader cannot read " + reader.unreadable_because,
                   "write the expected trace by hand");
        return out;
    }
    const std::string verdict(name_of(reader.stance));
    if (*c.stance == Stance::accept && reader.stance == Stance::reject)
        report("the sheet says accept, the reference reader rejects", "read the clause again");
    if (*c.stance == Stance::reject && reader.stance != Stance::reject)
        report("the sheet says reject, the reference reader says " + verdict, "read the clause again");
    if (*c.stance == Stance::open && c.question.empty())
        report("an open case needs a question", "name the question");
    if (c.expected && reader.value) {
        const Comparison comparison = c.format->compare(*c.expected, *reader.value);
        for (const Difference& d : comparison.differences)
            report(fmt::format("the reference reader reads another value{}{}: {}", d.at.empty() ? "" : " at ", d.at,
                               d.detail),
                   "one of the two is wrong");
    }
    if (!c.question.empty()) {
        const bool built_in = find_question(*c.format, c.question) != nullptr;
        if (built_in && !raises(reader, c.question))
            report("the document does not raise the question " + c.question, "name a question that it raises");
    }
    return out;
}

}  // namespace nachklang

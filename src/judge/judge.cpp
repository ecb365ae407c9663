// The rules of docs/findings.md, in their order: what the standard demands, what a raised question explains, and
// only then a finding.
#include <fmt/format.h>

#include <algorithm>
#include <map>

#include <nachklang/judge.hpp>

#include "judge/advice.hpp"
#include "judge/any_order.hpp"
#include "judge/excuses.hpp"
#include "judge/kept.hpp"
#include "judge/pieces.hpp"
#include "judge/sequences.hpp"
#include "judge/written_records.hpp"

namespace nachklang {
namespace {

class Judge {
  public:
    explicit Judge(const JudgeInput& input)
        : in_(input),
          expectation_(input.expectation),
          outcome_(input.outcome),
          format_(*input.test_case.format),
          writes_(info_of(input.operation).output == Content::document) {
        out_.clause = expectation_.clause;
    }

    Finding run() {
        if (outcome_.kind == OutcomeKind::not_asked) {
            out_.kind = FindingKind::not_asked;
            out_.detail = outcome_.body;
        } else if (!expectation_.not_asked.empty()) {
            out_.detail = "not judged: " + expectation_.not_asked;
        } else if (!expectation_.unreadable_because.empty() && unknown_encoding()) {
            declare();
            return std::move(out_);
        } else if (!expectation_.unreadable_because.empty()) {
            out_.detail = "not judged: the reference reader cannot read " + expectation_.unreadable_because;
        } else if (outcome_.kind == OutcomeKind::unsupported) {
            out_.detail = outcome_.body;
        } else if (outcome_.kind == OutcomeKind::accepted) {
            accepted();
        } else if (outcome_.kind == OutcomeKind::rejected) {
            rejected();
        } else {
            failed();
        }
        declare();
        return std::move(out_);
    }

  private:
    void finding(FindingKind kind, std::optional<Basis> basis, std::string cause, std::string detail) {
        out_.kind = kind;
        out_.basis = basis;
        out_.causes.push_back({"", std::move(cause), detail, "", ""});
        out_.detail = std::move(detail);
    }
    void answer(const std::string& question, const std::string& answered) {
        const bool known = std::any_of(out_.answers.begin(), out_.answers.end(), [&](const GivenAnswer& a) {
            return a.question == question && a.answered == answered;
        });
        if (!known) out_.answers.push_back({question, answered, ""});
    }

    [[nodiscard]] bool answered(const std::string& question) const {
        return std::any_of(out_.answers.begin(), out_.answers.end(),
                           [&](const GivenAnswer& a) { return a.question == question; });
    }

    /// Reads what the implementation wrote.
    [[nodiscard]] std::shared_ptr<const Reading> read(std::string_view written) const {
        return reading_of_written(in_, written);
    }

    /// What a document that was written from a record holds of it.
    [[nodiscard]] Trace record_of(const Trace& written) const {
        const Case& c = in_.test_case;
        return !c.record.empty() && c.value ? format_.record_in(written, *c.value) : written;
    }

    // --- accepted ---
    void accepted() {
        std::optional<Trace> got = outcome_.trace;
        if (writes_) {
            const auto reading = read(outcome_.body);
            const Reading& written = *reading;
            if (!written.unreadable_because.empty()) {
                out_.detail = "the reference reader cannot read the written text: " + written.unreadable_because;
                return;
            }
            if (written.rejection) {
                if (expectation_.stance == Stance::reject) return lenient(std::nullopt);
                // Its mistake was to take the text: what it writes of it is no other one.
                if (expectation_.is_no_text)
                    return unexplained("accepted a text that is not a document, and wrote another one");
                const auto& r = *written.rejection;
                const std::string detail =
                    fmt::format("the written text is ill-formed at offset {}: {}", r.position.offset, r.message);
                if (in_.test_case.ill_formed_is_answer) {
                    // No document holds the value.
                    out_.kind = FindingKind::open;
                    out_.detail = detail;
                    return answer(in_.test_case.question, std::string(common_question::ill_formed));
                }
                out_.clause = r.clause;
                finding(FindingKind::ill_formed_output, format_.constants().writing_basis,
                        std::string(common_cause::ill_formed_output), detail);
                return;
            }
            got = record_of(written.trace);
        }
        if (expectation_.stance == Stance::reject) return lenient(got);
        if (got) {
            value(*got);
        } else {
            out_.kind = expectation_.stance == Stance::open ? FindingKind::open : FindingKind::conforms;
        }
        if (!changed_beyond_limit_) limits_answered("accepted");
        const TextDifferences* differences = format_.text_differences();
        if (in_.operation == Operation::encode && is_well() && differences != nullptr)
            for (const Observed& o : differences->encoder_choices(*in_.test_case.value, outcome_.body))
                answer(o.question, o.answer);
        if (writes_) canonical_text();
        if (in_.operation == Operation::round_trip) round_trip_text();
    }

    /// Whether the implementation took the beginning of the text for the whole document.
    [[nodiscard]] bool is_cut_short(const std::optional<Trace>& got) const {
        if (!expectation_.cut_short || !in_.sure_accepted.value_or(true)) return false;
        return !got || same(expectation_.cut_short->value, *got);
    }

    void lenient(const std::optional<Trace>& got) {
        if (is_allowed_otherwise(got)) return;
        if (is_cut_short(got)) {
            const CutShort& cut = *expectation_.cut_short;
            answer(cut.question, "accepted");
            return finding(FindingKind::too_lenient, Basis::permitted, cut.cause, "accepted: " + cut.question);
        }
        // Extensions that explain another value do not explain this one.
        if (expectation_.explained_value && (got ? !same(*expectation_.explained_value, *got) : writes_))
            return unexplained("accepted a text that is not a document, with a value of its own");
        std::string extensions;
        for (const Occurrence& occurrence : expectation_.occurrences) {
            if (is_limit(occurrence)) continue;
            if (expectation_.cut_short && occurrence.question == expectation_.cut_short->question) continue;
            answer(occurrence.question, answer_by_value(occurrence.question, got).value_or("accepted"));
            extensions += " " + occurrence.question;
        }
        if (expectation_.report_suffices && !outcome_.reported.empty()) {
            out_.kind = FindingKind::conforms;
            out_.detail = "accepted, and reported: " + text::printable_excerpt(outcome_.reported, 120);
            return;
        }
        const std::string detail =
            extensions.empty() ? "accepted a text that is not a document" : "accepted:" + extensions;
        if (expectation_.acceptance_explained || !extensions.empty()) {
            finding(FindingKind::too_lenient, expectation_.acceptance_basis, expectation_.acceptance_cause, detail);
            return;
        }
        unexplained(detail);
    }

    /// No clause forbids it, so none is cited.
    void unexplained(std::string detail) {
        finding(FindingKind::unexplained, std::nullopt, expectation_.acceptance_cause, std::move(detail));
        out_.clause.clear();
    }

    /// Whether another version of the standard allows the text, with this value if one is shown.
    bool is_allowed_otherwise(const std::optional<Trace>& got) {
        const auto& allowed = expectation_.allowed_otherwise;
        if (!allowed || (got && !same(*allowed->trace, *got))) return false;
        out_.kind = FindingKind::open;
        answer(allowed->question, allowed->name);
        return true;
    }

    /// The listed answer that holds just this value.
    [[nodiscard]] std::optional<std::string> answer_by_value(const std::string& question,
                                                             const std::optional<Trace>& got) const {
        if (!got) return std::nullopt;
        for (const Answer& a : expectation_.answers)
            if (a.question == question && a.trace && same(*a.trace, *got)) return a.name;
        return std::nullopt;
    }
    [[nodiscard]] CompareOptions options() const {
        CompareOptions out;
        out.cannot_represent = writes_ ? CannotRepresent{} : in_.subject.cannot_represent;
        out.of_round_trip = in_.operation == Operation::round_trip && !decoded_exactly();
        out.of_encoding = info_of(in_.operation).input == Content::value;
        out.stored_without = in_.subject.cannot_represent;
        return out;
    }
    [[nodiscard]] bool same(const Trace& expected, const Trace& got) const {
        return compared(in_, expected, got, options()).differences.empty();
    }

    /// A round trip may round if decoding already did. If decoding kept the exact value, the round trip must write
    /// it.
    [[nodiscard]] bool decoded_exactly() const {
        if (in_.decoded == nullptr || !in_.decoded->trace || !expectation_.value) return false;
        const auto items = in_.decoded->trace->items();
        const auto binary = [](const Item& item) {
            return item.kind == ItemKind::binary64 || item.kind == ItemKind::binary32;
        };
        if (std::any_of(items.begin(), items.end(), binary)) return false;
        const auto exact = static_cast<std::size_t>(Layer::exact);
        return digests_of(in_, *in_.decoded->trace)[exact] == digests_of(in_, *expectation_.value)[exact];
    }

    /// A field that was never filled is the gravest cause, also where its record differs as a whole.
    void name_unset_field(const Trace& got) {
        const bool unset =
            std::ranges::any_of(got.items(), [](const Item& item) { return item.kind == ItemKind::unset; });
        const bool named =
            std::ranges::any_of(out_.causes, [](const Difference& d) { return d.cause == common_cause::unset; });
        if (unset && !named)
            out_.causes = {{"", std::string(common_cause::unset), "a field was never filled", "", ""}};
    }

    void value(const Trace& got) {
        Comparison comparison;
        const auto& wanted = in_.operation == Operation::round_trip && expectation_.written_value
                                 ? expectation_.written_value
                                 : expectation_.value;
        if (wanted) {
            comparison = compared(in_, *wanted, got, options());
            // A writer may leave out the declarations that a reader of its text would use and it did not.
            if (!comparison.differences.empty() && &wanted != &expectation_.value && expectation_.value)
                if (Comparison as_read = compared(in_, *expectation_.value, got, options());
                    as_read.differences.empty())
                    comparison = std::move(as_read);
            for (const Observed& o : comparison.observed) answer(o.question, o.answer);
        }
        const bool equal = wanted && comparison.differences.empty();
        if (!equal && !outcome_.reported.empty() && reaches_limit()) {
            // It went on after its limit, and said so: no refusal, and no silent change.
            changed_beyond_limit_ = true;
            out_.kind = FindingKind::open;
            out_.detail = "changed beyond a limit, with a report";
            return;
        }
        bool listed = false;
        for (const Answer& a : expectation_.answers) {
            // An answer that the comparison read off the value is more specific than a listed answer with an equal
            // value.
            const bool reported = std::any_of(comparison.observed.begin(), comparison.observed.end(),
                                              [&](const Observed& o) { return o.question == a.question; });
            // Two answers with the same value cannot be distinguished: the first counts.
            if (reported || !a.trace || answered(a.question) || !same(*a.trace, got)) continue;
            listed = true;
            answer(a.question, a.name);
        }
        if (equal || listed) {
            const bool answered = std::any_of(comparison.observed.begin(), comparison.observed.end(),
                                              [&](const Observed& o) { return is_departure(o); });
            const bool open = expectation_.stance == Stance::open || (listed && !equal) || answered;
            out_.kind = open ? FindingKind::open : FindingKind::conforms;
            return;
        }
        if (!in_.test_case.unlisted_is_altered && expectation_.stance == Stance::open) {
            out_.kind = FindingKind::open;
            answer(in_.test_case.question, "other");
            return;
        }
        if (expectation_.is_no_text)
            return unexplained("accepted a text that is not a document, with a value of its own");
        out_.kind = FindingKind::altered;
        out_.basis = Basis::fidelity;
        out_.causes = comparison.differences;
        if (in_.operation == Operation::round_trip) compare_with_decoded(got);
        name_unset_field(got);
        if (out_.causes.empty())
            out_.causes.push_back(
                {"", std::string(common_cause::other_value), "none of the listed answers", "", ""});
        out_.detail = out_.causes.front().detail;
        const Cause* cause = cite_cause(out_.cause());
        // Rules about values bind processors; a text that was written shows the writer as well.
        if (cause != nullptr && !writes_) out_.basis = cause->decoding;
    }

    /// What a round trip changed is named against what this implementation decoded: a mistake of its decoder that
    /// it only hands on keeps its cause, and a mistake of its encoder is none of rounding or reading.
    void compare_with_decoded(const Trace& got) {
        if (in_.decoded == nullptr || !in_.decoded->trace || !expectation_.value) return;
        CompareOptions of_writing;
        of_writing.of_encoding = true;
        of_writing.stored_without = in_.subject.cannot_represent;
        auto written = compared(in_, *in_.decoded->trace, got, of_writing).differences;
        // What ends as the document has it is no change, whatever was decoded in between.
        const auto ends_well = [&](const Difference& d) {
            return std::none_of(out_.causes.begin(), out_.causes.end(),
                                [&](const Difference& known) { return known.at == d.at; });
        };
        std::erase_if(written, ends_well);
        if (!written.empty()) {
            out_.causes = std::move(written);
            return;
        }
        out_.encoder_at_fault = false;
        CompareOptions of_reading;
        of_reading.cannot_represent = in_.subject.cannot_represent;
        auto read_otherwise = compared(in_, *expectation_.value, *in_.decoded->trace, of_reading).differences;
        std::erase_if(read_otherwise, ends_well);
        if (!read_otherwise.empty()) out_.causes = std::move(read_otherwise);
    }

    /// An answer by which the value stored is not the one written.
    [[nodiscard]] bool is_departure(const Observed& observed) const {
        const Question* question = find_question(format_, observed.question);
        const KnownAnswer* answer = question == nullptr ? nullptr : question->find(observed.answer);
        return answer == nullptr || !answer->keeps_value;
    }

    [[nodiscard]] bool is_well() const {
        return out_.kind == FindingKind::conforms || out_.kind == FindingKind::open;
    }

    /// An implementation that claims to write the canonical form must write exactly its bytes.
    void canonical_text() {
        const auto claim = in_.subject.settings.find("writes");
        if (claim == in_.subject.settings.end() || claim->second != "canonical" || !is_well()) return;
        const CanonicalForm* form = format_.canonical_form();
        if (form == nullptr) return;
        // Only cases about external access know the external files. For other documents that name some, the
        // written text is compared with its own canonical form.
        const bool of_document = in_.operation == Operation::round_trip && !expectation_.depends_on_external;
        const Canonical wanted = form->canonical(of_document ? *in_.test_case.document : outcome_.body, {},
                                                 external_context_of(in_.test_case).fetch);
        if (wanted.refused || !wanted.unreadable_because.empty() || wanted.bytes == outcome_.body) return;
        const auto at =
            std::mismatch(wanted.bytes.begin(), wanted.bytes.end(), outcome_.body.begin(), outcome_.body.end());
        const auto offset = static_cast<std::size_t>(at.first - wanted.bytes.begin());
        const auto rest = [&](std::string_view bytes) {
            return offset < bytes.size() ? "'" + text::printable_excerpt(bytes.substr(offset), 20) + "'"
                                         : "its end";
        };
        out_.clause = form->canonical_clause();
        finding(FindingKind::altered, Basis::required, std::string(common_cause::not_canonical),
                fmt::format("at offset {} the canonical form has {}, the written text has {}", offset,
                            rest(wanted.bytes), rest(outcome_.body)));
    }

    void round_trip_text() {
        if (!is_well()) return;
        if (outcome_.body == *in_.test_case.document) {
            out_.detail = "the same bytes";
        } else {
            if (const TextDifferences* differences = format_.text_differences())
                out_.reformatted = differences->reformatted(*in_.test_case.document, outcome_.body);
            out_.detail = "reformatted";
            for (const std::string& slug : out_.reformatted)
                out_.detail += (slug == out_.reformatted.front() ? ": " : ", ") + slug;
        }
        if (in_.second_round_trip == nullptr) return;
        const Outcome& second = *in_.second_round_trip;
        if (second.kind == OutcomeKind::accepted && is_same_in_any_order(in_, second.body))
            return second_round_trip(common_question::same_in_any_order);
        if (second.kind == OutcomeKind::accepted && second.body == outcome_.body)
            return second_round_trip(common_question::same_bytes);
        std::string what = "the second round trip was rejected";
        if (second.kind == OutcomeKind::accepted) {
            if (drifts()) return;
            if (read(second.body)->accepted()) return second_round_trip(common_question::other_spelling);
            what = "the second round trip writes an ill-formed text";
        } else if (second.kind != OutcomeKind::rejected) {
            out_.causes.clear();
            out_.encoder_at_fault = false;
            return no_answer(second, "in the second round trip: ");
        } else if (is_bare(outcome_.body) && !is_bare(*in_.test_case.document)) {
            // A bare scalar is refused, written from a text that was none: that is judged where bare scalars are.
            return;
        }
        out_.causes.clear();
        out_.encoder_at_fault = second.kind == OutcomeKind::accepted;
        finding(FindingKind::altered, Basis::fidelity, std::string(common_cause::unstable), what);
    }

    /// The same value in another order or spelling is a choice of the writer.
    void second_round_trip(std::string_view answered) {
        if (find_question(format_, common_question::second_round_trip) != nullptr)
            answer(std::string(common_question::second_round_trip), std::string(answered));
    }

    /// Whether a document is asked once more inside a container when it is refused.
    [[nodiscard]] bool is_bare(std::string_view document) const {
        const Generators* generators = format_.generators();
        return generators != nullptr && generators->enclosed(document).has_value();
    }

    /// A limit never explains why a text that is no document was refused.
    [[nodiscard]] bool is_limit(const Occurrence& occurrence) const {
        const Question* question = find_question(format_, occurrence.question);
        return question != nullptr && question->limit;
    }

    /// If a second round trip changes the value, the finding names that change.
    bool drifts() {
        const auto first = read(outcome_.body), second = read(in_.second_round_trip->body);
        if (!first->accepted() || !second->accepted()) return false;
        CompareOptions round_trip;
        round_trip.of_round_trip = true;
        round_trip.side_unknown = true;
        round_trip.stored_without = in_.subject.cannot_represent;
        Comparison comparison = compared(in_, first->trace, second->trace, round_trip);
        if (comparison.differences.empty()) return false;
        out_.kind = FindingKind::altered;
        out_.basis = Basis::fidelity;
        out_.causes = std::move(comparison.differences);
        out_.detail = "in the second round trip " + out_.causes.front().detail;
        out_.encoder_at_fault =
            false;  // the text of the first one is right, and is read before it is written again
        return true;
    }

    // --- refused or failed ---
    [[nodiscard]] bool explains_refusal(const Occurrence& occurrence) const {
        if (occurrence.question == in_.test_case.question && in_.test_case.stance == Stance::open) return true;
        const Question* question = find_question(format_, occurrence.question);
        return question != nullptr && occurrence.amount >= question->refusal_from;
    }
    [[nodiscard]] bool reaches_limit() const {
        return std::any_of(expectation_.occurrences.begin(), expectation_.occurrences.end(),
                           [&](const Occurrence& o) { return is_limit(o) && explains_refusal(o); });
    }
    void limits_answered(const std::string& given) {
        for (const Occurrence& occurrence : expectation_.occurrences) {
            const Question* question = find_question(format_, occurrence.question);
            const bool has_answer = question != nullptr && question->find(given) != nullptr;
            if (has_answer && !answered(occurrence.question)) answer(occurrence.question, given);
        }
    }

    /// Answers the question that explains the refusal: the only one that can, or the case's own. If several can,
    /// none is answered. Text after the end is an exception: a decoder that takes any text there takes a comment,
    /// too, so its refusal answers both. False if none can.
    template <class Explains>
    bool refusal_answers(const Explains& explains) {
        std::map<std::string, std::size_t> questions;  // with the first place of each
        for (const Occurrence& occurrence : expectation_.occurrences)
            if (explains(occurrence)) questions.emplace(occurrence.question, occurrence.offset);
        if (questions.empty()) return false;
        if (const auto rest =
                expectation_.cut_short ? questions.find(expectation_.cut_short->question) : questions.end();
            rest != questions.end() && std::all_of(questions.begin(), questions.end(), [&](const auto& question) {
                return question.second >= rest->second;
            })) {
            answer(rest->first, "refused");
            questions.erase(rest);
        }
        const std::string& own = in_.test_case.question;
        if (questions.size() == 1 || questions.contains(own)) {
            answer(questions.size() == 1 ? questions.begin()->first : own, "refused");
        } else if (!questions.empty()) {
            std::string names;
            for (const auto& [question, offset] : questions) names += (names.empty() ? "" : ", ") + question;
            out_.detail = "refused: one of " + names;
        }
        return true;
    }

    void rejected() {
        if (expectation_.stance == Stance::reject) {
            out_.kind = FindingKind::conforms;
            refusal_answers([&](const Occurrence& occurrence) { return !is_limit(occurrence); });
            return;
        }
        if (in_.enclosed != nullptr && in_.enclosed->kind == OutcomeKind::accepted) {
            cite_cause(in_.enclosed_cause);
            return finding(FindingKind::too_strict, Basis::required, std::string(in_.enclosed_cause),
                           "refused: " + text::printable_excerpt(outcome_.body, 120));
        }
        const bool explained =
            refusal_answers([&](const Occurrence& occurrence) { return explains_refusal(occurrence); });
        if (explained || expectation_.stance == Stance::open) {
            out_.kind = FindingKind::open;
            return;
        }
        const Basis basis = info_of(in_.operation).must_succeed ? Basis::required : Basis::fidelity;
        if (basis == Basis::required) cite_cause(common_cause::refused);
        finding(FindingKind::too_strict, basis, std::string(common_cause::refused),
                "refused: " + text::printable_excerpt(outcome_.body, 120));
    }

    /// Cites the clause of a cause in place of the case's own, if it has one: a refusal breaks the clause that
    /// demands acceptance, not that of the construct refused. Null if it has none.
    const Cause* cite_cause(std::string_view slug) {
        const Cause* cause = find_cause(format_, slug);
        if (cause == nullptr || cause->clause.empty()) return nullptr;
        out_.clause = cause->clause;
        return cause;
    }

    void failed() {
        if (outcome_.kind == OutcomeKind::exhausted && in_.test_case.ill_formed_is_answer) {
            out_.kind = FindingKind::open;
            return answer(in_.test_case.question, "exhausted");
        }
        if (outcome_.kind == OutcomeKind::exhausted) {
            for (const Occurrence& occurrence : expectation_.occurrences) {
                const Question* question = find_question(format_, occurrence.question);
                if (question != nullptr && question->limit && occurrence.amount >= question->refusal_from)
                    answer(occurrence.question, "exhausted");
            }
            if (!out_.answers.empty()) {
                out_.kind = FindingKind::open;
                return;
            }
        }
        no_answer(outcome_, "");
    }

    /// Books an outcome that is neither an acceptance nor a refusal. The adapter's own exception, or a reply that
    /// breaks the protocol, is never booked on the implementation.
    void no_answer(const Outcome& outcome, std::string_view where) {
        const bool by_adapter = is_adapters_fault(outcome.kind);
        finding(by_adapter ? FindingKind::adapter_fault : FindingKind::failed, std::nullopt,
                fmt::format("{}{}", common_cause::outcome_prefix, name_of(outcome.kind)),
                fmt::format("{}{}", where, text::printable_excerpt(outcome.body, 160)));
        if (!by_adapter) return;
        out_.shipped_adapter = !in_.subject.implementation.set.empty();
        out_.clause.clear();
    }

    /// Judges a document in an encoding that the reader does not know. An implementation may refuse it. It must not
    /// read it as UTF-8. False if nothing can be said.
    bool unknown_encoding() {
        if (!expectation_.in_default_encoding || writes_) return false;
        if (outcome_.kind == OutcomeKind::rejected) {
            out_.kind = FindingKind::conforms;
            return true;
        }
        if (outcome_.kind != OutcomeKind::accepted || !outcome_.trace ||
            !same(*expectation_.in_default_encoding, *outcome_.trace))
            return false;
        finding(FindingKind::too_lenient, Basis::required, expectation_.unknown_encoding_cause,
                "read as UTF-8, although it declares " + expectation_.unreadable_because);
        return true;
    }

    // --- declared answers ---
    /// Several answers to one question may be declared.
    void declare() {
        std::size_t meant = 0;
        for (GivenAnswer& given : out_.answers) {
            std::vector<std::string> shown, declared;
            for (const auto& [question, answer] : in_.subject.implementation.declares) {
                if (question != given.question) continue;
                shown.push_back(answer);
                // Of a limit an amount may be declared, which is shown and is no answer.
                if (answer.find_first_not_of("0123456789") != std::string::npos) declared.push_back(answer);
            }
            given.declared = fmt::format("{}", fmt::join(shown, " or "));
            if (declared.empty()) continue;
            if (std::find(declared.begin(), declared.end(), given.answered) != declared.end()) {
                ++meant;
            } else if (out_.kind == FindingKind::open || out_.kind == FindingKind::conforms) {
                finding(given.answered == "refused" ? FindingKind::too_strict : FindingKind::altered,
                        Basis::fidelity, std::string(common_cause::undeclared_answer),
                        fmt::format("{} was declared {}, the answer was {}", given.question, given.declared,
                                    given.answered));
            }
        }
        out_.declared = meant > 0 && meant == out_.answers.size();
    }

    const JudgeInput& in_;
    const Expectation& expectation_;
    const Outcome& outcome_;
    const Format& format_;
    const bool writes_;  // the outcome is a text that was written
    bool changed_beyond_limit_ = false;
    Finding out_;
};

}  // namespace

Finding judge(const JudgeInput& input) {
    Finding out = Judge(input).run();
    const OperationInfo& operation = info_of(input.operation);
    if (operation.in_pieces) out = judged_in_pieces(input, std::move(out));
    if (operation.of_sequence) out = judged_sequence(input, std::move(out));
    if (operation.of_record && operation.output == Content::document)
        out = judged_written_record(input, std::move(out));
    excuse(out, input);
    out.advice = advice_on(input);
    return out;
}

}  // namespace nachklang

// See written_records.hpp.
#include "judge/written_records.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "judge/kept.hpp"

namespace nachklang {
namespace {

bool is_empty_member(std::span<const Item> items, std::size_t i) {
    return items[i].kind == ItemKind::key && i + 1 < items.size() && items[i + 1].kind == ItemKind::null_value;
}

/// The record without its members that are null; nothing if it has none.
std::optional<Trace> without_nulls(const Trace& record) {
    const auto items = record.items();
    const auto lines = record.lines();
    std::string out;
    bool changed = false;
    for (std::size_t i = 0; i < items.size(); ++i) {
        if (is_empty_member(items, i)) {
            changed = true;
            ++i;  // with its null
        } else {
            out += lines[i];
        }
    }
    return changed ? Trace::parse(std::move(out)) : std::nullopt;
}

std::vector<Difference> differences(const JudgeInput& input, const Trace& held, const Trace& written) {
    CompareOptions options;
    options.of_encoding = true;
    options.stored_without = input.subject.cannot_represent;
    return compared(input, held, written, options).differences;
}

/// What the text does not have as the record held it. What ends as the document has it is no change, whatever was
/// held in between.
std::vector<Difference> changed(const JudgeInput& input, const Trace& held, const Trace& written) {
    auto out = differences(input, held, written);
    if (out.empty() || !input.expectation.value) return out;
    const auto lost = differences(input, *input.expectation.value, written);
    std::erase_if(out, [&](const Difference& d) {
        return std::ranges::none_of(lost, [&](const Difference& known) { return known.at == d.at; });
    });
    return out;
}

void settle(Finding& finding, FindingKind kind, std::string detail) {
    finding.kind = kind;
    finding.basis.reset();
    finding.causes.clear();
    finding.answers.clear();
    finding.detail = std::move(detail);
}

void alter(Finding& finding, std::vector<Difference> causes) {
    finding.kind = FindingKind::altered;
    finding.basis = Basis::fidelity;
    finding.answers.clear();
    finding.detail = causes.front().detail;
    finding.causes = std::move(causes);
}

/// What the implementation makes of its own text.
void own_text(const JudgeInput& input, const Trace& held, const Trace& written, Finding& finding) {
    if (input.second_round_trip == nullptr) return;
    const Outcome& second = *input.second_round_trip;
    const auto unstable = [&](std::string detail) {
        alter(finding, {{"", std::string(common_cause::unstable), std::move(detail), "", ""}});
    };
    if (second.kind == OutcomeKind::rejected)
        return unstable("it refuses what it wrote: " + text::printable_excerpt(second.body, 80));
    if (second.kind != OutcomeKind::accepted) return;
    const auto again = reading_of_written(input, second.body);
    if (!again->accepted()) return unstable("the second round trip writes an ill-formed text");
    auto drift = differences(input, written, input.test_case.format->record_in(again->trace, held));
    if (drift.empty()) return;
    alter(finding, std::move(drift));
    finding.detail = "in the second round trip " + finding.detail;
}

}  // namespace

Finding judged_written_record(const JudgeInput& input, Finding finding) {
    const Outcome* decoded = input.decoded;
    if (input.outcome.kind != OutcomeKind::accepted || decoded == nullptr || !decoded->trace) return finding;
    const auto reading = reading_of_written(input, input.outcome.body);
    if (!reading->accepted()) return finding;
    const Trace& held = *decoded->trace;
    const Trace written = input.test_case.format->record_in(reading->trace, held);
    if (std::ranges::any_of(held.items(), [](const Item& item) { return item.kind == ItemKind::unset; })) {
        settle(finding, FindingKind::unsupported, "not judged: a field of the record was never filled");
        return finding;
    }
    const std::string null_written(common_question::null_written);
    const auto shorter = without_nulls(held);
    if (auto differing = changed(input, held, written); differing.empty()) {
        settle(finding, FindingKind::conforms, "the fields as the record held them");
        if (shorter) finding.answers = {{null_written, std::string(common_question::null_kept), ""}};
    } else if (shorter && differences(input, *shorter, written).empty()) {
        settle(finding, FindingKind::open, "fields without a value are left out");
        finding.answers = {{null_written, std::string(common_question::null_left_out), ""}};
    } else {
        alter(finding, std::move(differing));
        return finding;
    }
    own_text(input, held, written, finding);
    return finding;
}

}  // namespace nachklang

// See pieces.hpp.
#include "judge/pieces.hpp"

#include <fmt/format.h>

#include <nachklang/text.hpp>

#include "judge/kept.hpp"

namespace nachklang {
namespace {

constexpr std::size_t message_shown = 80;

std::string shown(const Outcome& outcome) {
    return outcome.kind == OutcomeKind::accepted
               ? "accepted"
               : fmt::format("{}: {}", name_of(outcome.kind), text::printable_excerpt(outcome.body, message_shown));
}

/// What differs from the whole; nothing if the answers are the same, or cannot be compared.
std::optional<Difference> difference(const JudgeInput& input) {
    const Outcome &whole = *input.decoded, &pieces = input.outcome;
    const auto is_verdict = [](OutcomeKind kind) {
        return kind == OutcomeKind::accepted || kind == OutcomeKind::rejected;
    };
    if (!is_verdict(whole.kind) || !is_verdict(pieces.kind)) return std::nullopt;
    if (whole.kind != pieces.kind)
        return Difference{"", std::string(common_cause::pieces_other_verdict),
                          fmt::format("in pieces {}; whole {}", shown(pieces), shown(whole)), "", ""};
    if (!whole.trace || !pieces.trace || whole.trace->text() == pieces.trace->text()) return std::nullopt;
    CompareOptions options;
    options.layer = Layer::exact;
    options.most = 1;
    options.cannot_represent = input.subject.cannot_represent;
    const auto differences = compared(input, *whole.trace, *pieces.trace, options).differences;
    if (differences.empty()) return std::nullopt;
    return Difference{differences.front().at, std::string(common_cause::pieces_other_value),
                      "in pieces " + differences.front().detail, "", ""};
}

}  // namespace

Finding judged_in_pieces(const JudgeInput& input, Finding finding) {
    if (input.decoded == nullptr || finding.kind == FindingKind::conforms) return finding;
    auto differs = difference(input);
    if (!differs) return finding;
    // Both verdicts are allowed: an interface for pieces may answer an open question in its own way.
    const bool allowed = finding.kind == FindingKind::open && differs->cause == common_cause::pieces_other_verdict;
    if (allowed) {
        finding.detail = differs->detail;
        return finding;
    }
    if (finding.kind == FindingKind::open) {
        finding.kind = FindingKind::altered;
        finding.answers.clear();
    }
    finding.basis = Basis::fidelity;
    finding.detail = differs->detail;
    finding.clause.clear();
    finding.causes = {std::move(*differs)};
    return finding;
}

}  // namespace nachklang

// See sequences.hpp.
#include "judge/sequences.hpp"

#include <fmt/format.h>

#include <algorithm>

#include <nachklang/sequence.hpp>

#include "judge/kept.hpp"

namespace nachklang {
namespace {

std::optional<Trace> list_of(std::span<const std::string_view> values) {
    std::string text = "[\n";
    for (const std::string_view value : values) text += value;
    return Trace::parse(text + "]\n");
}

constexpr std::string_view refused = "native refused -\n";

bool is_list(const Trace& trace) {
    return trace.items().front().kind == ItemKind::array_open;
}

/// Whether a list of these values is the list that was given.
bool is_same(const JudgeInput& input, std::span<const std::string_view> values, const Trace& got) {
    CompareOptions options;
    options.cannot_represent = input.subject.cannot_represent;
    const auto list = list_of(values);
    return list && compared(input, *list, got, options).differences.empty();
}

/// How many documents an allowed list has behind this one, which is its beginning; nothing if there is no such
/// list.
std::optional<std::size_t> left_out(const JudgeInput& input, const Trace& got) {
    const std::size_t given = values_in_list(got).size();
    std::optional<std::size_t> most;
    for (const Answer& answer : input.expectation.answers) {
        if (!answer.trace) continue;
        const auto all = values_in_list(*answer.trace);
        if (all.size() <= given || !is_same(input, std::span(all).first(given), got)) continue;
        const auto rest = std::span(all).subspan(given);
        const auto documents =
            static_cast<std::size_t>(std::ranges::count_if(rest, [](auto value) { return value != refused; }));
        most = std::max(most.value_or(0), documents);
    }
    return most;
}

/// Whether the list is that of all documents, and an error behind them.
bool refuses_the_end(const JudgeInput& input, const Trace& got) {
    if (!input.expectation.value) return false;
    auto values = values_in_list(*input.expectation.value);
    values.push_back(refused);
    return is_same(input, values, got);
}

/// Whether the lists have as many documents, and containers at the same places. Then each difference has the cause
/// that it has in a document alone.
bool of_one_shape(const Trace& meant, const Trace& got) {
    const auto is_container = [](std::string_view value) {
        return value.starts_with('[') || value.starts_with('{') || value.starts_with("elem ");
    };
    const auto a = values_in_list(meant), b = values_in_list(got);
    return std::ranges::equal(a, b, [&](std::string_view x, std::string_view y) {
        return is_container(x) || is_container(y) ? x.front() == y.front() : true;
    });
}

Finding caused(Finding finding, FindingKind kind, std::string_view cause, std::string detail) {
    finding.kind = kind;
    finding.basis = Basis::fidelity;
    finding.answers.clear();
    finding.clause.clear();
    finding.detail = detail;
    finding.causes = {{"", std::string(cause), std::move(detail), "", ""}};
    return finding;
}

}  // namespace

Finding judged_sequence(const JudgeInput& input, Finding finding) {
    // An open answer that is not listed may hold values that a library makes of what is no document.
    const bool unlisted = finding.kind == FindingKind::open && !finding.answers.empty() &&
                          finding.answers.front().answered == "other";
    if (!(finding.kind == FindingKind::altered || unlisted) || !input.outcome.trace) return finding;
    const Trace& got = *input.outcome.trace;
    // What an open stream has not handed over yet may come.
    const bool may_lose = is_list(got) && !info_of(input.operation).stays_open;
    if (const auto lost = may_lose ? left_out(input, got) : std::nullopt)
        return caused(
            std::move(finding), FindingKind::altered, common_cause::sequence_rest_lost,
            *lost == 0 ? "the rest is left out, and no error"
                       : fmt::format("{} document{} left out, and no error", *lost, *lost == 1 ? " is" : "s are"));
    if (unlisted) return finding;
    if (is_list(got) && refuses_the_end(input, got))
        return caused(std::move(finding), FindingKind::too_strict, common_cause::sequence_end_refused,
                      "all documents were read, then an error");
    if (is_list(got) && input.expectation.value && of_one_shape(*input.expectation.value, got)) return finding;
    std::string at = finding.causes.empty() ? "" : finding.causes.front().at;
    finding.causes = {{std::move(at), std::string(common_cause::sequence_other_value), finding.detail, "", ""}};
    return finding;
}

}  // namespace nachklang

// A card is gathered from a campaign's results: answers by question, and how each aspect went.
#include <algorithm>

#include <nachklang/experiments.hpp>

namespace nachklang {

void CardSink::begin(const RunHeader& header) {
    for (const Subject& subject : header.subjects) cards_.push_back({&subject, {}, {}, {}});
}

void CardSink::chunk(const ChunkReport& report) {
    for (const Result& result : report.results) {
        const auto card =
            std::find_if(cards_.begin(), cards_.end(), [&](const Card& c) { return c.subject == result.subject; });
        if (card == cards_.end()) continue;
        Card::Aspect& aspect = card->aspects[result.test_case->aspect];
        const Finding& finding = result.finding;
        ++aspect.asked;
        if (finding.kind == FindingKind::unsupported || finding.kind == FindingKind::not_asked) {
            ++aspect.unsupported;
        } else if (finding.kind != FindingKind::conforms && finding.kind != FindingKind::open) {
            ++(finding.failing() ? aspect.failing : aspect.permitted);
        }
        if (const auto pointing = pointing_of(result)) ++card->positions[*pointing];
        // An operation that continues another repeats its answers, less exactly.
        const auto continues = info_of(result.operation).continues;
        const bool counts = !continues || !result.subject->does(result.test_case->format->name(), *continues);
        if (!counts) continue;
        for (const GivenAnswer& answer : finding.answers)
            ++card->answers[{std::string(result.test_case->format->name()), answer.question}][answer.answered];
    }
}

}  // namespace nachklang

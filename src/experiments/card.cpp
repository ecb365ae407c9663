// A card is gathered from a campaign's results: answers by question, and how each aspect went.
#include <algorithm>

#include <nachklang/experiments.hpp>

namespace nachklang {

std::vector<Card> blank_cards(std::span<const Subject> subjects) {
    std::vector<Card> out;
    for (const Subject& subject : subjects) out.push_back({&subject, {}, {}});
    return out;
}

void add_to_cards(std::vector<Card>& cards, const ChunkReport& report) {
    for (const Result& result : report.results) {
        const auto card =
            std::find_if(cards.begin(), cards.end(), [&](const Card& c) { return c.subject == result.subject; });
        if (card == cards.end()) continue;
        Card::Aspect& aspect = card->aspects[result.test_case->aspect];
        const Finding& finding = result.finding;
        ++aspect.asked;
        if (finding.kind == FindingKind::unsupported) {
            ++aspect.unsupported;
        } else if (finding.kind != FindingKind::conforms && finding.kind != FindingKind::open) {
            ++(finding.failing() ? aspect.failing : aspect.permitted);
        }
        // A round trip answers what decoding answered already, and less exactly.
        const bool counts = result.operation == Operation::decode ||
                            !result.subject->does(result.test_case->format->name(), Operation::decode);
        if (!counts) continue;
        for (const GivenAnswer& answer : finding.answers)
            ++card->answers[{std::string(result.test_case->format->name()), answer.question}][answer.answered];
    }
}

}  // namespace nachklang

// See advice.hpp.
#include "judge/advice.hpp"

namespace nachklang {

std::vector<Advice> advice_on(const JudgeInput& input) {
    const Case& c = input.test_case;
    const Profiles* profiles = c.format->profiles();
    if (profiles == nullptr || input.profile.empty() || input.outcome.kind != OutcomeKind::accepted) return {};
    const auto of_document = [&] {
        return c.document ? profiles->advice(input.profile, *c.document) : std::vector<Advice>{};
    };
    if (info_of(input.operation).output == Content::value) return of_document();
    auto out = profiles->advice(input.profile, input.outcome.body);
    // A round trip is not blamed for what it only hands on.
    if (input.operation == Operation::round_trip)
        for (const Advice& given : of_document())
            std::erase_if(out,
                          [&](const Advice& a) { return a.message == given.message && a.clause == given.clause; });
    return out;
}

}  // namespace nachklang

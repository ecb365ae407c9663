// See excuses.hpp.
#include "judge/excuses.hpp"

#include <algorithm>

namespace nachklang {

void excuse(Finding& finding, const JudgeInput& input) {
    if (!finding.failing()) return;
    const auto& excuses = input.subject.implementation.excuses;
    std::string reason;
    for (const Difference& cause : finding.causes) {
        const auto found = std::ranges::find_if(excuses, [&](const Excuse& e) {
            return (e.cause.empty() || e.cause == cause.cause) &&
                   (e.cases.empty() || matches_glob(e.cases, input.test_case.name));
        });
        if (found == excuses.end()) return;
        if (reason.empty()) reason = found->reason;
    }
    finding.excused = std::move(reason);
}

}  // namespace nachklang

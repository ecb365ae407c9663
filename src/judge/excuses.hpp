// Findings that the configuration excuses, with a reason.
#pragma once

#include <nachklang/judge.hpp>

namespace nachklang {

/// Sets the reason of a failing finding whose causes are all excused for its case.
void excuse(Finding& finding, const JudgeInput& input);

}  // namespace nachklang

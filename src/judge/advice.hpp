// The advice of a profile on the text that was read or written.
#pragma once

#include <nachklang/judge.hpp>

namespace nachklang {

/// A profile constrains writers. Violations in text that was read or written are reported but never fail a run.
std::vector<Advice> advice_on(const JudgeInput& input);

}  // namespace nachklang

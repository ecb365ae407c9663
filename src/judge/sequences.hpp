// Judging the answer to a text of several documents.
#pragma once

#include <nachklang/judge.hpp>

namespace nachklang {

/// Names the cause of a list that is none of those which the case allows: documents that are left out without an
/// error, or other values.
Finding judged_sequence(const JudgeInput& input, Finding finding);

}  // namespace nachklang

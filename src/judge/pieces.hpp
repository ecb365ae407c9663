// A document that arrives in pieces: the answer must be that to the whole of it.
#pragma once

#include <nachklang/judge.hpp>

namespace nachklang {

/// The finding about an outcome in pieces. Where the whole document was answered otherwise, the cuts are the cause,
/// and not the document. What conforms conforms.
Finding judged_in_pieces(const JudgeInput& input, Finding finding);

}  // namespace nachklang

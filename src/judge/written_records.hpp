// Judging what an encoder wrote of a native record.
#pragma once

#include <nachklang/judge.hpp>

namespace nachklang {

/// Judges an accepted round trip of a record by the fields that the record held: what decoding made of the document
/// is judged there. A field without a value may be left out, and the text must be one that the implementation
/// decodes into the same record.
Finding judged_written_record(const JudgeInput& input, Finding finding);

}  // namespace nachklang

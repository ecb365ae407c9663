// Readings and comparisons for judging: kept, if the input has a cache.
#pragma once

#include <nachklang/judge.hpp>

namespace nachklang {

/// The reference reader's reading of a text that the implementation of this input wrote.
std::shared_ptr<const Reading> reading_of_written(const JudgeInput& input, std::string_view written);
/// As Format::compare of the input's format.
Comparison compared(const JudgeInput& input, const Trace& expected, const Trace& got,
                    const CompareOptions& options);
/// As Format::digests of the input's format, for a decoder that can represent all.
LayerDigests digests_of(const JudgeInput& input, const Trace& trace);

}  // namespace nachklang

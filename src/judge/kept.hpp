// Reading what an implementation wrote.
#pragma once

#include <nachklang/judge.hpp>

namespace nachklang {

/// The reference reader's reading of a text that the implementation of this input wrote.
std::shared_ptr<const Reading> reading_of_written(const JudgeInput& input, std::string_view written);

}  // namespace nachklang

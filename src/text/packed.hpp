// Texts compressed with zstd.
#pragma once

#include <string>
#include <string_view>

namespace nachklang::text {

/// One frame that states its size. Level 6 is for what is written as a run goes, 19 for what is written once.
std::string packed(std::string_view text, int level = 6);
/// What is no such frame, or a text over 4 GiB, throws std::runtime_error.
std::string unpacked(std::string_view bytes);

}  // namespace nachklang::text

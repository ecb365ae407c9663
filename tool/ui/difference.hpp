// Finds the parts of one text that another does not have; `try` marks them.
#pragma once

#include <cstddef>
#include <string_view>
#include <utility>
#include <vector>

namespace tool {

/// Byte ranges of `text` that a longest common subsequence of tokens leaves over. White space counts for nothing.
std::vector<std::pair<std::size_t, std::size_t>> differing_ranges(std::string_view text, std::string_view other);

}  // namespace tool

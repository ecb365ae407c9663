// The answer to a text of several documents: a list of their values.
#pragma once

#include <string_view>
#include <vector>

#include <nachklang/trace.hpp>

namespace nachklang {

/// The values of a list, each as the lines of its trace. They lie in the list's text.
std::vector<std::string_view> values_in_list(const Trace& list);

}  // namespace nachklang

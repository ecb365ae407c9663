// Texts of implementations that do not represent an order: what they write has another order each time.
#pragma once

#include <nachklang/judge.hpp>

namespace nachklang {

/// Whether an implementation without an order wrote the same twice, in whichever order: both texts have the same
/// bytes, and their values are the same in all but the order. Its answer must not be chance.
bool is_same_in_any_order(const JudgeInput& input, std::string_view again);

}  // namespace nachklang

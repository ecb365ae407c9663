// Texts of implementations that do not represent an order: what they write has another order each time.
#pragma once

#include <functional>
#include <memory>

#include <nachklang/judge.hpp>

namespace nachklang {

/// Whether one text is the other with its members in another order, or the same: both have the same bytes, and
/// their values are the same in all but the order. `read` gives the reading of a text.
bool is_same_in_any_order(const Format& format, std::string_view a, std::string_view b,
                          const std::function<std::shared_ptr<const Reading>(std::string_view)>& read);

}  // namespace nachklang

// The answer to a text of several documents of XML: a list whose values are root elements. What lies outside of
// them is not shown, but for text that a library hands over.
#pragma once

#include <nachklang/format.hpp>

namespace nachklang::xml {

/// Whether a trace is such a list.
bool is_list(const Trace& trace);
/// Of lists of as many documents, the differences of each pair; else that they are not as many.
Comparison compare_lists(const Trace& expected, const Trace& got, const CompareOptions& options);
Tree tree_of_list(const Trace& list, Layer layer, const CannotRepresent& cannot_represent);
std::string shown_list(const Trace& list, std::size_t most);
std::vector<Place> places_of_list(const Trace& list);

}  // namespace nachklang::xml

// The answer to a text of several documents of XML: a list whose values are root elements. What lies outside of
// them is not shown, but for text that a library hands over.
#pragma once

#include <nachklang/format.hpp>

namespace nachklang::xml {

/// Whether a trace is such a list.
bool is_list(const Trace& trace);
/// Whether an item is one of a document, and not of a value such as JSON has.
bool is_markup(const Item& item);
/// Whether a list holds documents, texts and native values alone.
bool is_list_of_documents(const Trace& list);
/// Of lists of as many documents, the differences of each pair; else that they are not as many.
Comparison compare_lists(const Trace& expected, const Trace& got, const CompareOptions& options);
Tree tree_of_list(const Trace& list, Layer layer, const CannotRepresent& cannot_represent);
std::string shown_list(const Trace& list, std::size_t most);
std::vector<Place> places_of_list(const Trace& list);

}  // namespace nachklang::xml

// The pieces that format.cpp plugs together.
#pragma once

#include "xml/compare/tree.hpp"

namespace nachklang::xml {

Tree labelled_tree(const Trace& trace, Layer layer, const CannotRepresent& cannot_represent);
Comparison compare_values(const Trace& expected, const Trace& got, const CompareOptions& options);
std::string shown_value(const Trace& trace, std::size_t most);
std::vector<Place> places_of(const Trace& trace);
std::vector<Cut> cuts_of(std::string_view document);
std::span<const Shape> all_shapes();
std::string shaped_document(std::size_t shape, std::size_t amount);
std::optional<std::string> shaped_value(std::size_t shape, std::string_view document);
std::span<const Requirement> all_requirements();
std::vector<Exercised> exercised_by(std::string_view document, const Fetch& fetch);
std::span<const Question> all_questions();
std::span<const Cause> all_causes();

}  // namespace nachklang::xml

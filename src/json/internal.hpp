// The pieces that format.cpp plugs together.
#pragma once

#include "json/compare/tree.hpp"

namespace nachklang::json {

std::string node_path(const Trace& trace, const std::vector<LayeredNode>& nodes, std::size_t node);
Comparison compare_values(const Trace& expected, const Trace& got, const CompareOptions& options);
Tree tree_at(const Trace& trace, Layer layer);
LayerDigests digests_of(const Trace& trace, const CannotRepresent& cannot_represent = {});
Expectation expectation_of(std::string_view document);
Canonical canonical(std::string_view document);
std::span<const Requirement> all_requirements();
std::vector<Exercised> exercised_by(std::string_view document, const std::vector<Occurrence>& occurrences);
std::vector<Exercised> exercised_by_encoding();
std::span<const Profile> all_profiles();
std::vector<Advice> advice_of(std::string_view profile, std::string_view document);
std::span<const Shape> all_shapes();
std::string shaped_document(std::size_t shape, std::size_t amount);
std::vector<Observed> encoder_choices(const Trace& value, std::string_view written);
std::optional<std::string> shaped_value(std::size_t shape, std::string_view document);
std::string row_of(std::span<const std::string> literals);
std::vector<StoredLiteral> stored_of_row(std::span<const std::string> literals, const Trace& trace);
std::string shown_value(const Trace& trace, std::size_t most);
/// The text with each lone surrogate in three bytes as its escape (RFC 8259, 7), which has the same value in a
/// string and is an error outside of one, too.
std::string escaped_surrogates(std::string_view text);
std::vector<Place> places_of(const Trace& trace);
std::vector<std::string> reformatted(std::string_view before, std::string_view after);
std::vector<Cut> cuts_of(std::string_view document);

}  // namespace nachklang::json

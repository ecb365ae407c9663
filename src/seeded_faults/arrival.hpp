// Mistakes of decoders that take a document in pieces: what each makes of the pieces, as the document that it then
// reads.
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace seeded_faults {

using Pieces = std::vector<std::string_view>;
/// The document as it arrives; nothing if it is refused on its way.
using Arrival = std::function<std::optional<std::string>(const Pieces&)>;

std::string joined(const Pieces& pieces);
/// A cut inside a character of several bytes leaves U+FFFD for each part.
std::optional<std::string> characters_replaced(const Pieces& pieces);
/// White space at a piece's beginning is skipped, also inside strings and text.
std::optional<std::string> white_space_skipped(const Pieces& pieces);
/// A piece's last byte is lost if it is this one.
Arrival last_byte_lost(char byte);
/// A cut between two bytes of this kind is refused.
Arrival refuses_between(std::function<bool(char)> left, std::function<bool(char)> right);
/// A line feed that begins a piece is a line end of its own: a return before it was one already.
std::optional<std::string> line_ends_counted_twice(const Pieces& pieces);

}  // namespace seeded_faults

// Pieces that shrinking may leave out of a document, and what every format's proposals have in common.
#pragma once

#include <cstddef>
#include <span>
#include <string_view>
#include <vector>

namespace nachklang {

/// A piece of a document that shrinking may leave out or replace.
struct Cut {
    std::size_t begin = 0, end = 0;     ///< bytes
    std::string_view replacement = {};  ///< often empty; otherwise a part of the same document, or of the program
    [[nodiscard]] std::size_t saved() const { return end - begin - replacement.size(); }
};

/// Bytes from `begin` up to `end`.
struct ByteRange {
    std::size_t begin = 0, end = 0;
};

/// Ranges of neighbours, from all of them down to one. The separators between them are cut with them.
void cut_siblings(std::span<const ByteRange> siblings, std::vector<Cut>& out);
/// Of containers in any order: along the way to the one that lies deepest, one for another that it holds: half of
/// the levels are left out, or a quarter, down to one.
void cut_levels(std::string_view document, std::span<const ByteRange> containers, std::vector<Cut>& out);
/// A run of characters, and each half of it.
void cut_run(std::size_t begin, std::size_t end, std::vector<Cut>& out);
/// Windows of bytes, from half the document down to two bytes; single bytes in a small document.
void cut_bytes(std::string_view document, std::vector<Cut>& out);
/// The cuts that save bytes, the largest saving first; equal savings keep their order.
void order_cuts(std::vector<Cut>& cuts);

}  // namespace nachklang

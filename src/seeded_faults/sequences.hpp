// Mistakes of decoders that take several documents from one text: what each makes of the text.
#pragma once

#include <functional>
#include <string>
#include <string_view>
#include <vector>

namespace seeded_faults {

/// The documents of a text. What is none is a document, too, which is refused when it is read.
using Documents = std::vector<std::string>;
using Splitting = std::function<Documents(std::string_view text)>;

Documents documents_of(std::string_view text);
/// Half a document with its brackets closed, behind what is whole.
std::string closed(std::string_view document);
/// Only the first.
Documents first_document(std::string_view text);
/// The text ends at U+0000.
Documents until_nul(std::string_view text);
/// Behind a number a byte is lost, if it is no white space.
Documents byte_behind_number_lost(std::string_view text);
/// A number that ends with the text is left out.
Documents last_number_lost(std::string_view text);
/// What follows a literal without white space is left out.
Documents rest_behind_literal_lost(std::string_view text);
/// An array holds the elements of the array before it, too.
Documents arrays_grow(std::string_view text);
/// A comma between documents is skipped.
Documents commas_skipped(std::string_view text);
/// A byte at each 8192nd place is lost.
Documents buffer_end_lost(std::string_view text);

}  // namespace seeded_faults

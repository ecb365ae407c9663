// The reference reader for XML 1.0 (Fifth Edition) with Namespaces 1.0 (Third Edition), without recursion.
//
// Documents with a document type declaration, and encodings other than UTF-8, UTF-16, US-ASCII and ISO-8859-1, are
// beyond this reader: it says so, and says nothing of such a document.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include <nachklang/format.hpp>

namespace nachklang::xml {

/// What the reader makes of a document. Well-formed and namespace-well-formed are two verdicts.
struct Reading {
    std::optional<Rejection> rejection;            ///< of the first well-formedness error
    std::optional<Rejection> namespace_rejection;  ///< of the first namespace error in a well-formed document
    std::string beyond;                            ///< what is not read yet; then there is no verdict
    Trace trace;                                   ///< of a well-formed document
    std::vector<Touch> touches;
};
Reading read(std::string_view document);

/// Whether a code point may stand in a document (production 2), start a name (4), continue one (4a).
bool is_char(char32_t c);
bool is_name_start(char32_t c);
bool is_name_char(char32_t c);

/// The format's plug.
const Format& format();

}  // namespace nachklang::xml

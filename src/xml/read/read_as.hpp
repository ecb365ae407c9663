// A reading as an implementation with other settings makes it.
#pragma once

#include "xml/read/document_parser.hpp"

namespace nachklang::xml {

Reading read_as(std::string_view document, const Fetch& fetch, const ParseOptions& options);

/// Whether a document in any encoding declares version 1.1.
bool is_of_version_1_1(std::string_view document);

}  // namespace nachklang::xml

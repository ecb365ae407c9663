// A reading as an implementation with other settings makes it.
#pragma once

#include "xml/read/document_parser.hpp"

namespace nachklang::xml {

Reading read_as(std::string_view document, const Fetch& fetch, const ParseOptions& options);

}  // namespace nachklang::xml

// Mistakes of decoders that take several documents of XML from one text.
#pragma once

#include <cstddef>

#include "seeded_faults/sequences.hpp"

namespace seeded_faults {

struct XmlSequenceMistakes {
    bool first_alone = false;            ///< only the first document is read
    bool document_type_kept = false;     ///< a document type holds for the documents behind it, too
    bool namespace_kept = false;         ///< so does the default namespace of a root
    bool text_skipped = false;           ///< a text between two documents is ignored
    bool empty_tags_left_out = false;    ///< a document that is an empty-element tag
    bool ends_at_comment = false;        ///< a comment between two documents ends the text
    bool refuses_last_line_end = false;  ///< behind the last document
    bool one_behind = false;             ///< of a stream: a document is handed over when the next one begins
};

/// The documents of a text, each with what is before its root; what is none is one that is refused when it is read.
/// Comments, instructions and white space behind the last root are no document.
Documents xml_documents_of(std::string_view text, const XmlSequenceMistakes& mistakes = {});

}  // namespace seeded_faults

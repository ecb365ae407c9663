// An XML document as a labelled tree at one layer: value, exact, representation, order.
#pragma once

#include <nachklang/format.hpp>

namespace nachklang::xml {

/// The kinds of nodes of such a tree.
enum class Part : std::uint8_t {
    document,
    element,
    attributes,
    attribute,
    declaration,
    value,
    text,
    cdata,
    comment,
    instruction,
    reference,
    doctype
};

/// Behind the value of an attribute that the document type supplies, where a layer tells: no atom is this byte.
inline constexpr std::string_view default_mark =
    "\xFF"
    "d";

struct Node {
    Part part = Part::text;
    std::string name;  ///< expanded or qualified name, target, prefix
    std::string text;  ///< atoms
    Digest label;
    bool set = false;
    std::size_t item = 0, end = 0;
};
/// What a tree keeps or leaves out, whatever its layer.
struct TreeChoice {
    bool comments = false, instructions = false;
    bool blank_text = true;           ///< text of nothing but white space
    bool references_as_text = false;  ///< a reference is the text that it is written by
    bool has_doctype = false;         ///< the document has a document type, whether or not the trace shows it
};
/// Names are resolved where a trace tells qualified names only.
std::vector<Node> tree_at(const Trace& trace, Layer layer, const CannotRepresent& cannot_represent,
                          const TreeChoice& choice = {});

}  // namespace nachklang::xml

// The second recogniser for XML. It shares no code with the reference reader.
//
// It is written in the opposite style: the whole text becomes a list of characters with normalised line ends; each
// production is a function that consumes what it matches and throws otherwise; entities are expanded by calling
// the recogniser again on their text. Every check has a name, so that a codec with a seeded fault can leave one
// out.
#pragma once

#include <functional>
#include <set>
#include <stdexcept>
#include <string>
#include <string_view>
#include <vector>

namespace oracle {

struct XmlAttribute {
    std::string name, value, uri;
    bool given = true;
};
struct XmlNode {
    enum class Kind { element, text, cdata, comment, instruction, reference, doctype } kind = Kind::text;
    std::string name, text;  ///< text: of an instruction its data
    std::string uri;
    std::vector<XmlAttribute> attributes;
    std::vector<XmlNode> children;
};

/// What a codec with a seeded fault does differently.
struct XmlHabits {
    std::set<std::string> lets{};          ///< names of checks that it leaves out
    std::set<std::string> refuses{};       ///< names of sound things that it refuses
    std::set<std::string> skips{};         ///< names of steps that it leaves out
    std::function<void(XmlNode&)> node{};  ///< each node, once it is whole
};

/// Not a document, by this recogniser's word.
struct XmlRefused : std::runtime_error {
    using std::runtime_error::runtime_error;
};

/// Whether a document may begin like this: with `<` or white space, perhaps behind a byte order mark (productions
/// 1, 22). Most small texts do not, and an exception for each would cost more than reading it.
bool may_begin_xml(std::string_view text);

/// The nodes of a document; throws XmlRefused.
std::vector<XmlNode> recognise_xml(std::string_view document, const XmlHabits& habits = {});

/// In trace notation, by own means.
std::string print_xml_trace(const std::vector<XmlNode>& nodes);

}  // namespace oracle

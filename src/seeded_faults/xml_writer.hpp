// How the XML codec with seeded faults writes: nodes that were read, or a value that it is given to encode.
#pragma once

#include <string>
#include <vector>

#include "seeded_faults/xml_codec.hpp"

namespace seeded_faults {

/// A document as it was read.
std::string written_xml(const std::vector<XmlNode>& nodes, const XmlHooks& hooks);

/// Writes a value in trace notation as a document; throws XmlRefused if no document can hold it.
std::string encoded_xml(std::string_view trace, const XmlHooks& hooks);

}  // namespace seeded_faults

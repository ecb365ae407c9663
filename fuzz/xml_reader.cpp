// Fuzzes the XML reader against the second recogniser: both verdicts and the value must agree. Positions lie inside
// the document, and a document in two pieces gets the same verdict.
#include <cstdlib>

#include <nachklang/xml.hpp>

#include "../tests/xml_agreement.hpp"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    if (size > 4096) return 0;  // the recogniser recurses
    const std::string_view bytes(reinterpret_cast<const char*>(data), size);
    const auto reading = nachklang::xml::read(bytes);
    if (reading.rejection && reading.rejection->position.offset > size) std::abort();
    if (!reading.rejection && reading.unreadable_because.empty())
        static_cast<void>(nachklang::xml::format().digests(reading.trace));
    if (!disagreement(bytes).empty()) std::abort();
    if (!differing_instructions(bytes).empty()) std::abort();
    nachklang::xml::VerdictReader pieces;
    pieces.feed(bytes.substr(0, size / 2));
    pieces.feed(bytes.substr(size / 2));
    const bool rejected = pieces.finish().has_value();
    if (pieces.unreadable_because().empty() && reading.unreadable_because.empty() &&
        rejected != (reading.rejection || reading.namespace_rejection))
        std::abort();
    static_cast<void>(nachklang::xml::format().reduction()->cuts(bytes));
    return 0;
}

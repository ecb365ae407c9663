// No crash, no hang; positions inside the document; trees and digests of whatever is well-formed.
#include <cstdlib>

#include <nachklang/xml.hpp>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string_view bytes(reinterpret_cast<const char*>(data), size);
    const auto reading = nachklang::xml::read(bytes);
    if (reading.rejection && reading.rejection->position.offset > size) std::abort();
    if (!reading.rejection && reading.unreadable_because.empty())
        static_cast<void>(nachklang::xml::format().digests(reading.trace));
    static_cast<void>(nachklang::xml::format().reduction()->cuts(bytes));
    return 0;
}

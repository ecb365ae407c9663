// Fuzzes the JSON reader against the second recogniser. Verdict, offset and value must agree, also when the
// document comes in pieces and when vector code is off.
#include <cstdlib>

#include <nachklang/json.hpp>

#include "../tests/instructions.hpp"
#include "oracle/json_recogniser.hpp"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string_view bytes(reinterpret_cast<const char*>(data), size);
    const auto document = nachklang::json::Document::read(bytes);
    const auto second = oracle::recognise(bytes, {}, 500);
    if (second.too_deep) return 0;
    if (document.accepted() != second.value.has_value()) std::abort();
    if (!document.accepted() && document.rejection()->position.offset != second.error_offset) std::abort();
    if (document.accepted() && document.trace().text() != oracle::print_trace(*second.value)) std::abort();
    nachklang::json::VerdictReader reader;
    reader.feed(bytes.substr(0, size / 2));
    reader.feed(bytes.substr(size / 2));
    if (reader.finish().has_value() == document.accepted()) std::abort();
    if (!differing_instructions(padded(std::string(bytes), size % 64)).empty()) std::abort();
    static_cast<void>(nachklang::json::format().expect(bytes));
    return 0;
}

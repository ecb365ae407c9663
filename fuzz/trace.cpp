// Fuzzes the parser of traces. It may refuse any text; what it accepts it must print again unchanged.
#include <cstdlib>

#include <nachklang/json.hpp>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string text(reinterpret_cast<const char*>(data), size);
    const auto trace = nachklang::Trace::parse(text);
    if (!trace) return 0;
    if (trace->text() != text) std::abort();
    static_cast<void>(nachklang::json::format().describe(*trace, 1000));
    return 0;
}

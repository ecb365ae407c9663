// Fuzzes comparisons of two documents, separated by the first byte FF: a value equals itself, and digests that
// differ are explained by a difference or an answer.
#include <cstdlib>

#include <nachklang/format.hpp>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    using namespace nachklang;
    const std::string_view bytes(reinterpret_cast<const char*>(data), size);
    const auto middle = bytes.find('\xFF');
    if (middle == std::string_view::npos) return 0;
    for (const Format* format : formats()) {
        const Reading a = format->read(bytes.substr(0, middle)), b = format->read(bytes.substr(middle + 1));
        if (!a.accepted() || !b.accepted()) continue;
        if (!format->compare(a.trace, a.trace).differences.empty()) std::abort();
        const Comparison comparison = format->compare(a.trace, b.trace);
        constexpr auto value = static_cast<std::size_t>(Layer::value);
        const bool differ = format->digests(a.trace)[value] != format->digests(b.trace)[value];
        if (differ && comparison.differences.empty() && comparison.observed.empty()) std::abort();
        static_cast<void>(format->describe(b.trace, 200));
    }
    return 0;
}

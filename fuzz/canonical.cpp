// Fuzzes canonical forms: the form of a form is itself, and it has the same value as the document.
#include <cstdlib>

#include <nachklang/format.hpp>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    using namespace nachklang;
    const std::string_view bytes(reinterpret_cast<const char*>(data), size);
    for (const Format* format : formats()) {
        const CanonicalForm& form = *format->canonical_form();
        const Canonical once = form.canonical(bytes);
        if (once.refused || !once.unreadable_because.empty()) continue;
        const Canonical twice = form.canonical(once.bytes);
        if (twice.refused || twice.bytes != once.bytes) std::abort();
        const Reading before = format->read(bytes), after = format->read(once.bytes);
        constexpr auto value = static_cast<std::size_t>(Layer::value);
        if (!before.accepted() || !after.accepted() ||
            format->digests(before.trace)[value] != format->digests(after.trace)[value])
            std::abort();
    }
    return 0;
}

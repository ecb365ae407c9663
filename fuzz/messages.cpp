// Fuzzes what an adapter sends: hellos and the first lines of replies. Malformed ones are problems, never crashes;
// a hello that is accepted offers only known operations.
#include <cstdlib>

#include "protocol/messages.hpp"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string_view text(reinterpret_cast<const char*>(data), size);
    const auto hello = nachklang::protocol::parse_hello(text);
    if (hello.ok()) {
        if (hello.value().name.empty() || hello.value().operations.empty()) std::abort();
        for (const auto& [format, operations] : hello.value().operations)
            for (const std::string& operation : operations)
                if (!nachklang::find_operation(operation)) std::abort();
    }
    const auto head = nachklang::protocol::parse_reply_head(text.substr(0, text.find('\n')));
    if (!head.ok() && head.problem().what.empty()) std::abort();
    return 0;
}

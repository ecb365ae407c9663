// See packed.hpp.
#include "text/packed.hpp"

#include <zstd.h>

#include <stdexcept>

namespace nachklang::text {

std::string packed(std::string_view text, int level) {
    std::string out(ZSTD_compressBound(text.size()), '\0');
    const std::size_t size = ZSTD_compress(out.data(), out.size(), text.data(), text.size(), level);
    if (ZSTD_isError(size) != 0) throw std::runtime_error(ZSTD_getErrorName(size));
    out.resize(size);
    return out;
}

std::string unpacked(std::string_view bytes) {
    constexpr unsigned long long most = 1ULL << 32;
    const unsigned long long size = ZSTD_getFrameContentSize(bytes.data(), bytes.size());
    if (size == ZSTD_CONTENTSIZE_ERROR || size == ZSTD_CONTENTSIZE_UNKNOWN || size > most)
        throw std::runtime_error("a packed text is damaged");
    std::string out(size, '\0');
    const std::size_t got = ZSTD_decompress(out.data(), out.size(), bytes.data(), bytes.size());
    if (ZSTD_isError(got) != 0 || got != size) throw std::runtime_error("a packed text is damaged");
    return out;
}

}  // namespace nachklang::text

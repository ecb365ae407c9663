// Vector instructions for the scanner: which there are, and the blocks of bytes they look at.
#pragma once

#include <array>
#include <bit>
#include <cstring>

#include "json/read/nesting.hpp"

#if defined(__x86_64__) && defined(__GNUC__)
#include <immintrin.h>
#define NACHKLANG_VECTORS 1
#endif

namespace nachklang::json::vector_scan {

/// Bytes that must follow the last place where a token may begin: a block, the longest escape, a block again.
inline constexpr std::size_t slack = 128;
inline constexpr std::size_t block_bytes = 32;

/// State shared by the vector code and the state machine.
template <class Sink>
struct Progress {
    Sink& sink;
    Nesting& nesting;
    State state;
    std::size_t offset;  ///< of the first byte of the stretch in the document
};

inline constexpr std::array<bool, 256> simple_escape = [] {
    std::array<bool, 256> out{};
    for (const char c : {'"', '\\', '/', 'b', 'f', 'n', 'r', 't'}) out[static_cast<unsigned char>(c)] = true;
    return out;
}();

inline constexpr std::array<std::int8_t, 256> hex_values = [] {
    std::array<std::int8_t, 256> out{};
    for (std::size_t c = 0; c < out.size(); ++c)
        out[c] = static_cast<std::int8_t>(detail::hex_value(static_cast<unsigned char>(c)));
    return out;
}();

/// Negative if one of the bytes is no digit.
inline int four_hex_digits(const char* p) {
    const auto digit = [p](std::size_t i) -> int { return hex_values[static_cast<unsigned char>(p[i])]; };
    const int a = digit(0), b = digit(1), c = digit(2), d = digit(3);
    if ((a | b | c | d) < 0) return -1;
    return a << 12 | b << 8 | c << 4 | d;
}

/// Length of the sequence of two to four bytes at `p`; 0 if it is ill-formed (Unicode, table 3-7).
inline std::size_t utf8_length(const char* p) {
    const auto at = [p](std::size_t i) { return static_cast<unsigned char>(p[i]); };
    const auto tail = [&](std::size_t i) { return (at(i) & 0xC0) == 0x80; };
    const unsigned char lead = at(0);
    if (lead < 0xC2 || lead > 0xF4) return 0;
    if (lead < 0xE0) return tail(1) ? 2 : 0;
    if (lead < 0xF0) {
        const bool first = lead == 0xE0 ? (at(1) & 0xE0) == 0xA0 : lead == 0xED ? (at(1) & 0xE0) == 0x80 : tail(1);
        return first && tail(2) ? 3 : 0;
    }
    const bool first = lead == 0xF0   ? at(1) >= 0x90 && at(1) < 0xC0
                       : lead == 0xF4 ? (at(1) & 0xF0) == 0x80
                                      : tail(1);
    return first && tail(2) && tail(3) ? 4 : 0;
}

struct Word {
    std::size_t length;  ///< 0: not a token
    TokenKind kind;
};
inline Word word_at(const char* p) {
    if (std::memcmp(p, "true", 4) == 0) return {4, TokenKind::true_value};
    if (std::memcmp(p, "null", 4) == 0) return {4, TokenKind::null_value};
    return {std::memcmp(p, "false", 5) == 0 ? std::size_t{5} : 0, TokenKind::false_value};
}

using detail::is_digit;
using detail::is_space;

#ifdef NACHKLANG_VECTORS

namespace sse2 {
#define NACHKLANG_TARGET
class Block {
  public:
    explicit Block(const char* p)
        : low_(_mm_loadu_si128(reinterpret_cast<const __m128i*>(p))),
          high_(_mm_loadu_si128(reinterpret_cast<const __m128i*>(p + 16))) {}
    /// A bit a byte: the quote, the backslash, controls, all but ASCII.
    [[nodiscard]] std::uint32_t special_in_string() const {
        return both([](__m128i v) {
            const __m128i control = _mm_cmpeq_epi8(_mm_min_epu8(v, _mm_set1_epi8(0x1F)), v);
            const __m128i ends =
                _mm_or_si128(_mm_cmpeq_epi8(v, _mm_set1_epi8('"')), _mm_cmpeq_epi8(v, _mm_set1_epi8('\\')));
            return _mm_or_si128(_mm_or_si128(control, ends), v);
        });
    }
    [[nodiscard]] std::uint32_t digits() const {
        return both([](__m128i v) {
            const __m128i from_zero = _mm_sub_epi8(v, _mm_set1_epi8('0'));
            return _mm_cmpeq_epi8(_mm_min_epu8(from_zero, _mm_set1_epi8(9)), from_zero);
        });
    }
    [[nodiscard]] std::uint32_t not_space() const {
        return ~both([](__m128i v) {
            const auto is = [v](char c) { return _mm_cmpeq_epi8(v, _mm_set1_epi8(c)); };
            return _mm_or_si128(_mm_or_si128(is(' '), is('\n')), _mm_or_si128(is('\r'), is('\t')));
        });
    }

  private:
    template <class Of>
    [[nodiscard]] std::uint32_t both(Of of) const {
        return static_cast<std::uint32_t>(_mm_movemask_epi8(of(low_))) |
               static_cast<std::uint32_t>(_mm_movemask_epi8(of(high_))) << 16;
    }
    __m128i low_, high_;
};
#include "json/read/vector_scan.inc"
#undef NACHKLANG_TARGET
}  // namespace sse2

namespace avx2 {
#define NACHKLANG_TARGET [[gnu::target("avx2,bmi,bmi2")]]
class Block {
  public:
    NACHKLANG_TARGET explicit Block(const char* p) : v_(_mm256_loadu_si256(reinterpret_cast<const __m256i*>(p))) {}
    NACHKLANG_TARGET [[nodiscard]] std::uint32_t special_in_string() const {
        const __m256i control = _mm256_cmpeq_epi8(_mm256_min_epu8(v_, _mm256_set1_epi8(0x1F)), v_);
        const __m256i ends = _mm256_or_si256(_mm256_cmpeq_epi8(v_, _mm256_set1_epi8('"')),
                                             _mm256_cmpeq_epi8(v_, _mm256_set1_epi8('\\')));
        return mask(_mm256_or_si256(_mm256_or_si256(control, ends), v_));
    }
    NACHKLANG_TARGET [[nodiscard]] std::uint32_t digits() const {
        const __m256i from_zero = _mm256_sub_epi8(v_, _mm256_set1_epi8('0'));
        return mask(_mm256_cmpeq_epi8(_mm256_min_epu8(from_zero, _mm256_set1_epi8(9)), from_zero));
    }
    NACHKLANG_TARGET [[nodiscard]] std::uint32_t not_space() const {
        const __m256i blank = _mm256_or_si256(_mm256_cmpeq_epi8(v_, _mm256_set1_epi8(' ')),
                                              _mm256_cmpeq_epi8(v_, _mm256_set1_epi8('\t')));
        const __m256i ends = _mm256_or_si256(_mm256_cmpeq_epi8(v_, _mm256_set1_epi8('\n')),
                                             _mm256_cmpeq_epi8(v_, _mm256_set1_epi8('\r')));
        return ~mask(_mm256_or_si256(blank, ends));
    }

  private:
    NACHKLANG_TARGET static std::uint32_t mask(__m256i v) {
        return static_cast<std::uint32_t>(_mm256_movemask_epi8(v));
    }
    __m256i v_;
};
#include "json/read/vector_scan.inc"
#undef NACHKLANG_TARGET
}  // namespace avx2

#endif

/// Goes on with the instructions asked for, as far as they can; see vector_scan.inc.
template <class Sink>
const char* scan(Instructions instructions, const char* p, const char* limit, Progress<Sink>& progress) {
#ifdef NACHKLANG_VECTORS
    if (instructions == Instructions::avx2) return avx2::scan(p, limit, progress);
    if (instructions == Instructions::sse2) return sse2::scan(p, limit, progress);
#endif
    static_cast<void>(instructions);
    static_cast<void>(limit);
    static_cast<void>(progress);
    return p;
}

}  // namespace nachklang::json::vector_scan

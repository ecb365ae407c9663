// Exact numbers: decimals of any length and exponent, and their nearest binary values.
//
// Nothing here goes through a binary floating-point operation: roundings are decided on integers. "Nearest" is
// IEEE 754-2019's roundTiesToEven (4.3.1).
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

namespace nachklang {

/// An exact decimal: ±0.d1d2d3… × 10^point, with neither leading nor trailing zeros among the digits. Zero has no
/// digits and keeps its sign. Exponents of any length are exact.
class Decimal {
  public:
    Decimal() = default;

    /// Reads [-]DIGITS[.DIGITS][e[+-]DIGITS] (also with E); nothing if the text is no such number. Leading zeros
    /// are allowed, so that other notations than JSON's can be read too.
    static std::optional<Decimal> parse(std::string_view text);
    /// The exact value of a finite binary64; nothing for NaN and the infinities.
    static std::optional<Decimal> from_binary64(std::uint64_t bits);

    [[nodiscard]] bool negative() const { return negative_; }
    [[nodiscard]] bool is_zero() const { return digits_.empty(); }
    /// The significant digits.
    [[nodiscard]] std::string_view digits() const { return digits_; }
    /// The power of ten of the decimal point before the first digit, clamped to ±4·10^18.
    [[nodiscard]] std::int64_t point() const { return point_; }
    /// True where the value has no fractional part.
    [[nodiscard]] bool is_integer() const;
    /// The value without its fractional part (rounded toward zero).
    [[nodiscard]] Decimal truncated() const;
    /// The first `count` significant digits, the rest cut off.
    [[nodiscard]] Decimal first_digits(std::size_t count) const;
    /// The value rounded to so many significant digits, halves to even.
    [[nodiscard]] Decimal rounded(std::size_t count) const;
    [[nodiscard]] Decimal negated() const;
    /// One spelling for one value, such as -0.25e3: equal values have equal spellings.
    [[nodiscard]] std::string canonical() const;

    /// Equal as numbers; zeros of either sign are equal.
    friend bool operator==(const Decimal& a, const Decimal& b);
    /// Compares magnitudes: -1, 0 or 1.
    static int compare_magnitude(const Decimal& a, const Decimal& b);
    /// Whether `a` is nearer to `value` than `b` (-1), as near (0) or farther (1).
    static int compare_distance(const Decimal& value, const Decimal& a, const Decimal& b);

  private:
    bool negative_ = false;
    std::string digits_;
    std::int64_t point_ = 0;
    std::string far_point_;  // the exact exponent if it does not fit; else empty
};

namespace number {

/// Bits of the binary64 nearest to the value; overflow gives an infinity, underflow a zero of the same sign.
std::uint64_t nearest_binary64(const Decimal& value);
/// Bits of the nearest binary32.
std::uint32_t nearest_binary32(const Decimal& value);

bool is_nan64(std::uint64_t bits);
bool is_infinite64(std::uint64_t bits);
/// The binary64 of the same value (exact; a NaN stays one).
std::uint64_t widen(std::uint32_t binary32);

/// Steps from one finite or infinite binary64 to another in the order of the values (adjacent values differ by
/// one). Positive where `to` is greater. Zeros of either sign are one place.
std::int64_t steps_between(std::uint64_t from, std::uint64_t to);

/// The distance of a finite binary64 from an exact value as a fraction of that binary64's unit in the last place.
struct UlpDistance {
    std::string numerator;    ///< integer, signed: positive where the binary64 is above the value
    std::string denominator;  ///< positive integer
    [[nodiscard]] double approximate() const;
};
UlpDistance ulp_distance(const Decimal& value, std::uint64_t bits);

/// The shortest decimal that reads back to the same bits, and the closest among those as short (finite values),
/// laid out as ECMA-262's Number::toString does; a negative zero keeps its sign.
std::string shortest64(std::uint64_t bits);
std::string shortest32(std::uint32_t bits);

}  // namespace number
}  // namespace nachklang

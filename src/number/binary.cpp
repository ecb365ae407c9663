// Decimal to binary, decided with integers alone. The value is a quotient of integers whose integer part has at
// least as many bits as the target; the remainder tells on which side of the halfway point it lies. Up to 19
// digits and small exponents fit 128-bit integers; GMP does the rest.
#include <gmpxx.h>

#include <array>
#include <bit>
#include <charconv>
#include <cmath>

#include <nachklang/number.hpp>

namespace nachklang::number {
namespace {

struct Target {
    int precision;     // bits of the significand, the hidden one counted
    int min_exponent;  // of the unit in the last place of subnormal numbers
    int max_exponent;  // of the unit in the last place of the largest numbers
};
constexpr Target binary64{53, -1074, 971};
constexpr Target binary32{24, -149, 104};

struct Rounded {
    std::uint64_t significand = 0;  // < 2^precision
    int exponent = 0;               // of the unit
    bool infinite = false;
};

__extension__ typedef unsigned __int128 Wide;

int bits_of(Wide value) {
    const auto high = static_cast<std::uint64_t>(value >> 64);
    return high != 0 ? 128 - std::countl_zero(high) : 64 - std::countl_zero(static_cast<std::uint64_t>(value));
}

/// Rounds q·2^exponent, where `sticky` says that something nonzero lies below q, to the target. q has at least
/// precision + 2 bits or is exact.
Rounded round_wide(Wide q, int exponent, bool sticky, const Target& target) {
    int drop = bits_of(q) - target.precision;
    if (exponent + drop < target.min_exponent) drop = target.min_exponent - exponent;
    if (drop <= 0) return {static_cast<std::uint64_t>(q), exponent, false};
    if (drop > 127) return {0, target.min_exponent, false};
    const Wide below = q & ((Wide{1} << drop) - 1);
    const Wide half = Wide{1} << (drop - 1);
    auto kept = static_cast<std::uint64_t>(q >> drop);
    if (below > half || (below == half && (sticky || (kept & 1) != 0))) ++kept;
    exponent += drop;
    if (kept == 1ULL << target.precision) {
        kept >>= 1;
        ++exponent;
    }
    return {kept, exponent, exponent > target.max_exponent};
}

constexpr std::array<std::uint64_t, 20> tens = [] {
    std::array<std::uint64_t, 20> out{};
    out[0] = 1;
    for (std::size_t i = 1; i < out.size(); ++i) out[i] = out[i - 1] * 10;
    return out;
}();

std::optional<Rounded> round_small(std::string_view digits, std::int64_t power, const Target& target) {
    if (digits.size() > 19 || power > 18 || power < -19) return std::nullopt;
    std::uint64_t w = 0;
    for (const char c : digits) w = w * 10 + static_cast<std::uint64_t>(c - '0');
    if (w == 0) return Rounded{0, target.min_exponent, false};
    if (power >= 0) return round_wide(Wide{w} * tens[static_cast<std::size_t>(power)], 0, false, target);
    const std::uint64_t divisor = tens[static_cast<std::size_t>(-power)];
    const int shift = 127 - bits_of(w);
    const Wide scaled = Wide{w} << shift;
    return round_wide(scaled / divisor, -shift, scaled % divisor != 0, target);
}

Rounded round_large(std::string_view digits, long power, const Target& target) {
    mpz_class numerator{std::string(digits)};
    mpz_class denominator = 1;
    mpz_class scale;
    mpz_ui_pow_ui(scale.get_mpz_t(), 10, static_cast<unsigned long>(power < 0 ? -power : power));
    (power < 0 ? denominator : numerator) *= scale;
    const long have = static_cast<long>(mpz_sizeinbase(numerator.get_mpz_t(), 2)) -
                      static_cast<long>(mpz_sizeinbase(denominator.get_mpz_t(), 2));
    const long shift = 120 - have;  // the quotient gets 120 or 121 bits
    if (shift >= 0) {
        numerator <<= static_cast<unsigned long>(shift);
    } else {
        denominator <<= static_cast<unsigned long>(-shift);
    }
    mpz_class quotient, remainder;
    mpz_fdiv_qr(quotient.get_mpz_t(), remainder.get_mpz_t(), numerator.get_mpz_t(), denominator.get_mpz_t());
    const mpz_class high = quotient >> 64;
    const mpz_class low = quotient & mpz_class(0xFFFFFFFFFFFFFFFFUL);
    const Wide q = (Wide{high.get_ui()} << 64) | low.get_ui();
    return round_wide(q, static_cast<int>(-shift), sgn(remainder) != 0, target);
}

Rounded round_to(const Decimal& value, const Target& target) {
    if (value.is_zero()) return {0, target.min_exponent, false};
    if (value.point() > 400) return {0, 0, true};
    if (value.point() < -400) return {0, target.min_exponent, false};
    const std::int64_t power = value.point() - static_cast<std::int64_t>(value.digits().size());
    if (const auto small = round_small(value.digits(), power, target)) return *small;
    return round_large(value.digits(), static_cast<long>(power), target);
}

/// The significand moved up to full precision, unless it is subnormal; then the exponent field follows.
std::uint64_t encode(Rounded r, const Target& target, bool negative, int fraction_bits, int exponent_bits) {
    const std::uint64_t sign = static_cast<std::uint64_t>(negative) << (fraction_bits + exponent_bits);
    const std::uint64_t infinite = ((1ULL << exponent_bits) - 1) << fraction_bits;
    if (r.infinite) return sign | infinite;
    if (r.significand == 0) return sign;
    while (r.significand < (1ULL << (target.precision - 1)) && r.exponent > target.min_exponent) {
        r.significand <<= 1;
        --r.exponent;
    }
    const std::uint64_t hidden = 1ULL << fraction_bits;
    if (r.significand < hidden) return sign | r.significand;
    const auto field = static_cast<std::uint64_t>(r.exponent - target.min_exponent) + 1;
    return sign | (field << fraction_bits) | (r.significand - hidden);
}

}  // namespace

std::uint64_t nearest_binary64(const Decimal& value) {
    return encode(round_to(value, binary64), binary64, value.negative(), 52, 11);
}

std::uint32_t nearest_binary32(const Decimal& value) {
    return static_cast<std::uint32_t>(encode(round_to(value, binary32), binary32, value.negative(), 23, 8));
}

bool is_nan64(std::uint64_t bits) {
    return (bits & 0x7FFFFFFFFFFFFFFFULL) > 0x7FF0000000000000ULL;
}
bool is_infinite64(std::uint64_t bits) {
    return (bits & 0x7FFFFFFFFFFFFFFFULL) == 0x7FF0000000000000ULL;
}

std::uint64_t widen(std::uint32_t binary32) {
    return std::bit_cast<std::uint64_t>(static_cast<double>(std::bit_cast<float>(binary32)));
}

std::int64_t steps_between(std::uint64_t from, std::uint64_t to) {
    const auto place = [](std::uint64_t bits) {
        const auto magnitude = static_cast<std::int64_t>(bits & 0x7FFFFFFFFFFFFFFFULL);
        return (bits >> 63) != 0 ? -magnitude : magnitude;
    };
    const std::int64_t a = place(from), b = place(to);
    // The places lie within ±0x7FF0…: their difference can only overflow between values of opposite sign.
    std::int64_t difference = 0;
    if (__builtin_sub_overflow(b, a, &difference)) return b > a ? INT64_MAX : INT64_MIN;
    return difference;
}

UlpDistance ulp_distance(const Decimal& value, std::uint64_t bits) {
    const auto stored = Decimal::from_binary64(bits);
    const auto as_ratio = [](const Decimal& d) {
        if (d.is_zero()) return mpq_class(0);
        mpq_class out{mpz_class(std::string(d.digits()))};
        mpz_class scale;
        const std::int64_t power = d.point() - static_cast<std::int64_t>(d.digits().size());
        mpz_ui_pow_ui(scale.get_mpz_t(), 10, static_cast<unsigned long>(power < 0 ? -power : power));
        if (power < 0) {
            out /= mpq_class(scale);
        } else {
            out *= mpq_class(scale);
        }
        return d.negative() ? mpq_class(-out) : out;
    };
    const std::uint64_t field = (bits >> 52) & 0x7FF;
    const long unit = static_cast<long>(field == 0 ? 1 : field) - 1075;
    mpq_class ulp(1);
    if (unit >= 0) {
        mpq_mul_2exp(ulp.get_mpq_t(), ulp.get_mpq_t(), static_cast<unsigned long>(unit));
    } else {
        mpq_div_2exp(ulp.get_mpq_t(), ulp.get_mpq_t(), static_cast<unsigned long>(-unit));
    }
    mpq_class distance = (as_ratio(*stored) - as_ratio(value)) / ulp;
    distance.canonicalize();
    return {distance.get_num().get_str(), distance.get_den().get_str()};
}

double UlpDistance::approximate() const {
    return mpq_class(mpz_class(numerator), mpz_class(denominator)).get_d();
}

namespace {

/// Lays out the digits of a d.ddde±xx text as ECMA-262, Number::toString does: plain from 1e-6 up to below 1e21. (A
/// plain text straight from the standard library would spell large integers in all their exact digits.)
std::string laid_out(std::string_view scientific) {
    const bool negative = scientific.starts_with('-');
    if (negative) scientific.remove_prefix(1);
    const std::size_t e = scientific.find('e');
    std::string digits(scientific.substr(0, e));
    std::erase(digits, '.');
    const std::string_view exponent = scientific.substr(e + 1);
    int power = 0;
    const std::size_t signs = exponent.starts_with('+') ? 1 : 0;
    std::from_chars(exponent.data() + signs, exponent.data() + exponent.size(), power);
    const int count = static_cast<int>(digits.size()), point = power + 1;
    std::string out = negative ? "-" : "";
    const auto zeros = [](int n) { return std::string(static_cast<std::size_t>(n), '0'); };
    if (count <= point && point <= 21) return out + digits + zeros(point - count);
    if (0 < point && point <= 21) return out + digits.insert(static_cast<std::size_t>(point), ".");
    if (-6 < point && point <= 0) return out + "0." + zeros(-point) + digits;
    if (count > 1) digits.insert(1, ".");
    return out + digits + (power < 0 ? "e" : "e+") + std::to_string(power);
}

template <class Float>
std::string shortest(Float value) {
    std::array<char, 40> buffer{};
    const auto end =
        std::to_chars(buffer.data(), buffer.data() + buffer.size(), value, std::chars_format::scientific).ptr;
    return laid_out({buffer.data(), end});
}

}  // namespace

std::string shortest64(std::uint64_t bits) {
    return shortest(std::bit_cast<double>(bits));
}

std::string shortest32(std::uint32_t bits) {
    return shortest(std::bit_cast<float>(bits));
}

}  // namespace nachklang::number

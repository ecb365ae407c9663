// Generators of number literals near rounding boundaries. A series depends on its seed and index alone, so any part
// of it can be repeated.
#include <fmt/format.h>
#include <gmpxx.h>

#include <array>
#include <cmath>
#include <cstdlib>
#include <vector>

#include <nachklang/literals.hpp>
#include <nachklang/number.hpp>

namespace nachklang::number {
namespace {

/// SplitMix64: a few multiplications, and every seed is as good as another.
class Random {
  public:
    explicit Random(std::uint64_t seed) : state_(seed) {}
    std::uint64_t next() {
        std::uint64_t z = (state_ += 0x9E3779B97F4A7C15);
        z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9;
        z = (z ^ (z >> 27)) * 0x94D049BB133111EB;
        return z ^ (z >> 31);
    }
    /// Below `count`; the slight preference for small ones does no harm here.
    std::uint64_t below(std::uint64_t count) { return next() % count; }
    int between(int low, int high) {
        return low +
               static_cast<int>(below(static_cast<std::uint64_t>(high) - static_cast<std::uint64_t>(low) + 1));
    }
    bool flip() { return (next() & 1) != 0; }

  private:
    std::uint64_t state_;
};

constexpr std::uint64_t infinity = 0x7FF0000000000000;

mpz_class power(unsigned long base, unsigned long exponent) {
    mpz_class out;
    mpz_ui_pow_ui(out.get_mpz_t(), base, exponent);
    return out;
}

/// digits × 10^exponent, written in one of the ways that one meets.
std::string written(std::string digits, long exponent, Random& random) {
    const long count = static_cast<long>(digits.size());
    const long point = count + exponent;  // digits before the point
    switch (random.below(4)) {
        case 0:
            if (exponent >= 0 && exponent < 40)
                return digits + std::string(static_cast<std::size_t>(exponent), '0');
            break;
        case 1:
            if (point > 0 && point < count) return digits.insert(static_cast<std::size_t>(point), ".");
            if (point <= 0 && point > -40)
                return "0." + std::string(static_cast<std::size_t>(-point), '0') + digits;
            break;
        case 2:
            if (count > 1) return digits.insert(1, ".") + fmt::format("e{}", exponent + count - 1);
            break;
        default:
            break;
    }
    return exponent == 0 ? digits : digits + fmt::format("e{}", exponent);
}

std::string with_sign(const std::string& text, Random& random) {
    return random.below(4) == 0 ? "-" + text : text;
}

std::uint64_t random_bits(Random& random) {
    const std::uint64_t bits = random.next() & 0x7FFFFFFFFFFFFFFF;
    return bits < infinity ? bits : bits & 0x3FFFFFFFFFFFFFFF;
}

std::string exact_text(std::uint64_t bits) {
    const Decimal value = *Decimal::from_binary64(bits);
    if (value.is_zero()) return "0";
    return fmt::format("{}e{}", value.digits(), value.point() - static_cast<std::int64_t>(value.digits().size()));
}

/// The last digit before an exponent one lower or higher, or further digits put behind it.
std::string nudged(std::string text, Random& random) {
    const std::size_t e = std::min(text.find('e'), text.size());
    const bool has_point = text.find('.') < e;
    switch (random.below(3)) {
        case 0:
            return text;
        case 1:
            return text.insert(e, (has_point ? "" : ".") + std::string(random.below(30), '0') + "1");
        default:
            if (text[e - 1] == '0') return text;
            --text[e - 1];
            return text.insert(e, (has_point ? "" : ".") + std::string(1 + random.below(30), '9'));
    }
}

// --- families ---

std::string integer_edge(Random& random) {
    static constexpr std::array<int, 9> widths{8, 16, 24, 31, 32, 53, 54, 63, 64};
    const std::uint64_t which = random.below(widths.size() + 3);
    mpz_class edge = which < widths.size()
                         ? power(2, static_cast<unsigned long>(widths[which]))
                         : power(10, std::array<unsigned long, 3>{19, 20, 40}[which - widths.size()]);
    edge += random.between(-3, 3);
    return (random.flip() ? "-" : "") + edge.get_str();
}

std::string power_of_two(Random& random) {
    const auto field = random.below(2047);
    const std::uint64_t bits = (field << 52) + static_cast<std::uint64_t>(random.between(-2, 2));
    if (bits == 0 || bits >= infinity) return "4.9406564584124654e-324";
    return with_sign(random.flip() ? shortest64(bits) : exact_text(bits), random);
}

std::string power_of_ten(Random& random) {
    const long exponent = random.between(-330, 308);
    switch (random.below(4)) {
        case 0:
            return with_sign(fmt::format("1e{}", exponent), random);
        case 1:
            return with_sign(written(std::string(1 + random.below(40), '9'), exponent - 20, random), random);
        case 2:
            return with_sign(written("1" + std::string(random.below(30), '0') + "1", exponent - 20, random),
                             random);
        default:
            return with_sign(written(std::to_string(1 + random.below(9)), exponent, random), random);
    }
}

std::string halfway(Random& random) {
    std::uint64_t bits = random_bits(random);
    if (random.below(3) == 0)
        bits = (bits & 0x000FFFFFFFFFFFFF) | (static_cast<std::uint64_t>(random.between(960, 1100)) << 52);
    return with_sign(nudged(halfway_above(bits), random), random);
}

std::string nearly_halfway(Random& random) {
    const int unit = random.below(2) == 0 ? random.between(-120, 60) : random.between(-1074, 971);
    return with_sign(near_halfway(random.between(17, 40), unit, random.next()), random);
}

std::string shortest(Random& random) {
    return with_sign(shortest64(random_bits(random)), random);
}

std::string long_spelling(Random& random) {
    const std::uint64_t bits = random_bits(random);
    if (random.below(4) == 0) return with_sign(exact_text(bits), random);
    const Decimal cut = Decimal::from_binary64(bits)->first_digits(17 + random.below(8));
    if (cut.is_zero()) return "0.0";
    return with_sign(
        written(std::string(cut.digits()), cut.point() - static_cast<long>(cut.digits().size()), random), random);
}

std::string subnormal(Random& random) {
    const std::uint64_t bits = random.next() & (0x000FFFFFFFFFFFFF >> random.below(52));
    return with_sign(random.flip() ? shortest64(bits) : nudged(halfway_above(bits), random), random);
}

std::string range_edge(Random& random) {
    static constexpr std::array<std::string_view, 8> edges{
        "17976931348623157e292",  "179769313486231580793e288", "17976931348623158e292",  "49406564584124654e-340",
        "24703282292062327e-340", "24703282292062328e-340",    "22250738585072014e-324", "22250738585072011e-324"};
    return with_sign(nudged(std::string(edges[random.below(edges.size())]), random), random);
}

std::string digits_at_random(Random& random) {
    std::string digits(1 + random.below(random.below(10) == 0 ? 400 : 25), '0');
    for (char& c : digits) c = static_cast<char>('0' + random.below(10));
    if (digits[0] == '0') digits[0] = '7';
    return with_sign(written(digits, random.between(-40, 40), random), random);
}

/// A value of few digits in a spelling of many: zeros that an exponent takes back.
std::string same_value(Random& random) {
    const std::uint64_t value = 1 + random.below(1'000'000);
    const long zeros = 1 + static_cast<long>(random.below(400));
    const std::string zero_run(static_cast<std::size_t>(zeros), '0');
    switch (random.below(3)) {
        case 0:
            return fmt::format("{}{}e-{}", value, zero_run, zeros);
        case 1:
            return fmt::format("0.{}{}e{}", zero_run, value, zeros);
        default:
            return fmt::format("{}.{}e{}", value, zero_run, random.between(-20, 20));
    }
}

struct Family {
    LiteralFamily description;
    std::string (*make)(Random&);
};
constexpr std::array<Family, 11> families{{
    {{"integer-edges", "integers at the edge of every width"}, integer_edge},
    {{"powers-of-two", "powers of two and their neighbours"}, power_of_two},
    {{"powers-of-ten", "powers of ten and decimals beside them"}, power_of_ten},
    {{"halfway", "exactly halfway between two values, or a digit past it"}, halfway},
    {{"near-halfway", "as close to halfway as their digits allow"}, nearly_halfway},
    {{"shortest", "random bit patterns by their shortest decimal"}, shortest},
    {{"long", "random bit patterns by 17 digits and more"}, long_spelling},
    {{"subnormal", "values below the smallest normal one"}, subnormal},
    {{"range-edges", "at the ends of the range"}, range_edge},
    {{"digits", "random digits"}, digits_at_random},
    {{"same-value", "few digits, many zeros, an exponent that takes them back"}, same_value},
}};

}  // namespace

std::span<const LiteralFamily> literal_families() {
    static const auto described = [] {
        std::vector<LiteralFamily> out;
        for (const Family& family : families) out.push_back(family.description);
        return out;
    }();
    return described;
}

Literal literal(std::uint64_t seed, std::uint64_t index) {
    const Family& family = families[index % families.size()];
    Random mixed(seed);
    Random random(mixed.next() ^ (index * 0xD1342543DE82EF95));
    return {family.make(random), family.description.name};
}

std::string halfway_above(std::uint64_t bits) {
    const std::uint64_t field = bits >> 52, fraction = bits & 0x000FFFFFFFFFFFFF;
    const std::uint64_t significand = field == 0 ? fraction : fraction | 0x0010000000000000;
    const long unit = static_cast<long>(field == 0 ? 1 : field) - 1075;
    mpz_class twice = 2 * mpz_class(significand) + 1;  // in units of 2^(unit-1)
    long exponent = 0;
    if (unit - 1 >= 0) {
        twice <<= static_cast<unsigned long>(unit - 1);
    } else {
        // 2^-k is 5^k / 10^k.
        twice *= power(5, static_cast<unsigned long>(1 - unit));
        exponent = unit - 1;
    }
    return exponent == 0 ? twice.get_str() : fmt::format("{}e{}", twice.get_str(), exponent);
}

std::string near_halfway(int digits, int unit, std::uint64_t choice) {
    // n is odd, of 54 bits: n × 2^(unit-1) is halfway. Wanted: n × 2^(unit-1) / 10^q close to an integer of
    // `digits` digits. numerator/denominator is that ratio for n = 1.
    const double log10_of_value = (54.0 + unit - 1) * 0.30102999566398120;
    const long q = static_cast<long>(std::floor(log10_of_value)) - digits + 1;
    mpz_class numerator = 1, denominator = 1;
    (unit - 1 >= 0 ? numerator : denominator) <<= static_cast<unsigned long>(std::abs(unit - 1));
    (q >= 0 ? denominator : numerator) *= power(10, static_cast<unsigned long>(std::labs(q)));
    const mpz_class low = power(2, 53), high = power(2, 54);
    // Denominators of the convergents, up to the last below 2^54.
    std::vector<mpz_class> convergents{1, 0};
    for (mpz_class a = numerator, b = denominator; b != 0;) {
        const mpz_class quotient = a / b, rest = a % b;
        const mpz_class next = quotient * convergents.back() + convergents[convergents.size() - 2];
        if (next >= high) break;
        convergents.push_back(next);
        a = b;
        b = rest;
    }
    // n = i × one + j × the one before, odd and of 54 bits, with the least distance from an integer.
    mpz_class best_n = low + 1, best_distance = denominator;
    for (std::size_t k = convergents.size() - 1; k > 2 && k + 4 > convergents.size(); --k) {
        for (unsigned long j = choice % 4; j < choice % 4 + 4; ++j) {
            const mpz_class offset = convergents[k - 1] * j;
            mpz_class i = (high - 1 - offset) / convergents[k];
            for (int tries = 0; tries < 6 && i >= 0; ++tries, --i) {
                const mpz_class n = i * convergents[k] + offset;
                if (n < low || n >= high || mpz_even_p(n.get_mpz_t()) != 0) continue;
                const mpz_class rest = (n * numerator) % denominator;
                const mpz_class distance = 2 * rest > denominator ? mpz_class(denominator - rest) : rest;
                if (distance < best_distance) {
                    best_distance = distance;
                    best_n = n;
                }
            }
        }
    }
    const mpz_class w = (2 * best_n * numerator + denominator) / (2 * denominator);
    return q == 0 ? w.get_str() : fmt::format("{}e{}", w.get_str(), q);
}

}  // namespace nachklang::number

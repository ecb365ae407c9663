// Exact numbers against MPFR: another library, another method.
#include <gtest/gtest.h>
#include <mpfr.h>

#include <bit>
#include <cmath>
#include <random>

#include <nachklang/number.hpp>

namespace {

using namespace nachklang;
using namespace nachklang::number;

/// MPFR rounds a decimal string correctly to any precision; exponents limited as in binary64 make subnormals right.
std::uint64_t by_mpfr(const std::string& text) {
    mpfr_set_emin(-1073);
    mpfr_set_emax(1024);
    mpfr_t value;
    mpfr_init2(value, 53);
    const int ternary = mpfr_strtofr(value, text.c_str(), nullptr, 10, MPFR_RNDN);
    mpfr_subnormalize(value, ternary, MPFR_RNDN);
    const double out = mpfr_get_d(value, MPFR_RNDN);
    mpfr_clear(value);
    return std::bit_cast<std::uint64_t>(out);
}

std::uint32_t by_mpfr_narrow(const std::string& text) {
    mpfr_set_emin(-148);
    mpfr_set_emax(128);
    mpfr_t value;
    mpfr_init2(value, 24);
    const int ternary = mpfr_strtofr(value, text.c_str(), nullptr, 10, MPFR_RNDN);
    mpfr_subnormalize(value, ternary, MPFR_RNDN);
    const float out = mpfr_get_flt(value, MPFR_RNDN);
    mpfr_clear(value);
    return std::bit_cast<std::uint32_t>(out);
}

std::uint64_t nearest(const std::string& text) {
    return nearest_binary64(*Decimal::parse(text));
}

TEST(Decimals, AreRoundedToDigits) {
    const auto rounded = [](const char* text, std::size_t count) {
        return Decimal::parse(text)->rounded(count).canonical();
    };
    EXPECT_EQ(rounded("0.12345", 4), Decimal::parse("0.1234")->canonical()) << "halves go to even";
    EXPECT_EQ(rounded("0.12355", 4), Decimal::parse("0.1236")->canonical());
    EXPECT_EQ(rounded("0.123451", 4), Decimal::parse("0.1235")->canonical());
    EXPECT_EQ(rounded("-9.996", 3), Decimal::parse("-10")->canonical()) << "a carry lengthens it";
    EXPECT_EQ(rounded("12", 5), Decimal::parse("12")->canonical());
}

TEST(Decimals, AreComparedByDistance) {
    const auto nearer = [](const char* value, const char* a, const char* b) {
        return Decimal::compare_distance(*Decimal::parse(value), *Decimal::parse(a), *Decimal::parse(b));
    };
    EXPECT_EQ(nearer("1.5", "1", "2"), 0);
    EXPECT_EQ(nearer("1.5", "1.4", "2"), -1);
    EXPECT_EQ(nearer("-1.5", "1.4", "-2"), 1);
    EXPECT_EQ(nearer("0", "1e-3", "-1e-4"), 1);
    EXPECT_EQ(nearer("1", "1e-4999999", "2"), 1) << "too far apart to be a rounding";
}

TEST(Nearest, KnownHardCases) {
    EXPECT_EQ(nearest("0.1"), 0x3FB999999999999AU);
    EXPECT_EQ(nearest("9007199254740993"), 0x4340000000000000U);
    EXPECT_EQ(nearest("9007199254740993.0000000000000000000000000000001"), 0x4340000000000001U);
    EXPECT_EQ(nearest("5e-324"), 1U);
    EXPECT_EQ(nearest("2.4703282292062327e-324"), 0U);  // just below half of the smallest
    EXPECT_EQ(nearest("2.4703282292062328e-324"), 1U);  // just above
    EXPECT_EQ(nearest("2.2250738585072011e-308"), 0x000FFFFFFFFFFFFFU);
    EXPECT_EQ(nearest("1.7976931348623158e308"), 0x7FEFFFFFFFFFFFFFU);
    EXPECT_EQ(nearest("1.7976931348623159e308"), 0x7FF0000000000000U);
    EXPECT_EQ(nearest("1e400"), 0x7FF0000000000000U);
    EXPECT_EQ(nearest("-1e400"), 0xFFF0000000000000U);
    EXPECT_EQ(nearest("-0.0"), 0x8000000000000000U);
    EXPECT_EQ(nearest("1e-99999999999999999999999999"), 0U);
    EXPECT_EQ(nearest("1e99999999999999999999999999"), 0x7FF0000000000000U);
    EXPECT_EQ(nearest("0.000e99999999999999999999999999"), 0U);
    EXPECT_EQ(nearest("1" + std::string(400, '0') + "e-400"), 0x3FF0000000000000U);
}

TEST(Nearest, AgreesWithMpfrOnRandomDecimals) {
    std::mt19937_64 random(1721);
    std::size_t wrong = 0;
    for (int i = 0; i < 60000; ++i) {
        const auto digits = 1 + random() % (i % 100 == 0 ? 800 : 40);
        std::string text = random() % 2 == 0 ? "-" : "";
        for (std::size_t d = 0; d < digits; ++d) text += static_cast<char>('0' + random() % 10);
        if (random() % 2 == 0) text += "." + std::to_string(random());
        text += "e" + std::to_string(static_cast<long>(random() % 700) - 350);
        if (nearest(text) != by_mpfr(text) && ++wrong <= 5) ADD_FAILURE() << text;
        if (nearest_binary32(*Decimal::parse(text)) != by_mpfr_narrow(text) && ++wrong <= 5)
            ADD_FAILURE() << text << " as binary32";
    }
    EXPECT_EQ(wrong, 0U);
}

TEST(Nearest, AgreesWithMpfrHalfwayBetweenNeighbours) {
    std::mt19937_64 random(1688);
    std::size_t wrong = 0;
    for (int i = 0; i < 4000; ++i) {
        std::uint64_t bits = random() & 0x7FFFFFFFFFFFFFFFU;
        if (i % 4 == 0) bits &= 0x000FFFFFFFFFFFFFU;  // subnormal
        if (is_nan64(bits) || is_infinite64(bits)) continue;
        mpfr_set_emin(mpfr_get_emin_min());
        mpfr_set_emax(mpfr_get_emax_max());
        mpfr_t halfway;
        mpfr_init2(halfway, 60);
        mpfr_set_d(halfway, std::bit_cast<double>(bits), MPFR_RNDN);
        mpfr_t half_ulp;
        mpfr_init2(half_ulp, 60);
        const auto field = static_cast<long>(bits >> 52);
        mpfr_set_ui_2exp(half_ulp, 1, (field == 0 ? 1 : field) - 1076, MPFR_RNDN);
        mpfr_add(halfway, halfway, half_ulp, MPFR_RNDN);
        char* text = nullptr;
        mpfr_asprintf(&text, "%.1100Re", halfway);  // exact: no binary64 needs more digits
        const std::string exact = text;
        const auto e = exact.find('e');
        for (const std::string& spelled : {exact, exact.substr(0, e) + "1" + exact.substr(e)}) {
            if (nearest(spelled) != by_mpfr(spelled) && ++wrong <= 3) ADD_FAILURE() << spelled;
        }
        mpfr_free_str(text);
        mpfr_clears(halfway, half_ulp, nullptr);
    }
    EXPECT_EQ(wrong, 0U);
}

TEST(Nearest, ShortestDecimalsReadBack) {
    std::mt19937_64 random(1705);
    for (int i = 0; i < 100000; ++i) {
        const std::uint64_t bits = random();
        if (is_nan64(bits) || is_infinite64(bits)) continue;
        ASSERT_EQ(nearest(shortest64(bits)), bits);
        ASSERT_EQ(nearest_binary64(*Decimal::from_binary64(bits)), bits);
    }
}

TEST(Decimals, CompareByValueWhateverTheirSpelling) {
    const auto d = [](const char* text) { return *Decimal::parse(text); };
    EXPECT_EQ(d("1"), d("10e-1"));
    EXPECT_EQ(d("1.50"), d("0.15E+1"));
    EXPECT_EQ(d("-0"), d("0.000e77"));
    EXPECT_FALSE(d("1") == d("-1"));
    EXPECT_FALSE(d("1") == d("1.0000000000000000000000000000000000001"));
    EXPECT_EQ(d("1e99999999999999999999"), d("10e99999999999999999998"));
    EXPECT_FALSE(d("1e99999999999999999999") == d("1e99999999999999999998"));
    EXPECT_EQ(Decimal::compare_magnitude(d("-2"), d("1")), 1);
    EXPECT_EQ(Decimal::compare_magnitude(d("0.1"), d("0.09")), 1);
    EXPECT_EQ(Decimal::compare_magnitude(d("1e-5"), d("1e5")), -1);
}

TEST(Decimals, RefuseWhatIsNoNumber) {
    for (const char* text : {"", "-", ".5", "1.", "1e", "1e+", "+1", "0x1", "NaN", "1 ", "1e2.5"})
        EXPECT_FALSE(Decimal::parse(text)) << text;
}

TEST(Decimals, CutAndTruncate) {
    const Decimal value = *Decimal::parse("-6929495644600919.5");
    EXPECT_EQ(value.truncated(), *Decimal::parse("-6929495644600919"));
    EXPECT_EQ(value.first_digits(3), *Decimal::parse("-6.92e15"));
    EXPECT_TRUE(Decimal::parse("0.5")->truncated().is_zero());
    EXPECT_TRUE(Decimal::parse("10e1")->is_integer());
    EXPECT_FALSE(Decimal::parse("1.5")->is_integer());
}

TEST(Steps, CountTheValuesBetween) {
    EXPECT_EQ(steps_between(0x3FF0000000000000U, 0x3FF0000000000001U), 1);
    EXPECT_EQ(steps_between(1U, 0x8000000000000001U), -2);
    EXPECT_EQ(steps_between(0U, 0x8000000000000000U), 0);
}

TEST(UlpDistance, IsExact) {
    // 0.1 as a binary64 is above 0.1 by 0.4 of its unit: 3602879701896397 · 2^-55 · 10 - 1 = 2^-53 · … exactly 2/5.
    const UlpDistance distance = ulp_distance(*Decimal::parse("0.1"), 0x3FB999999999999AU);
    EXPECT_EQ(distance.numerator, "2");
    EXPECT_EQ(distance.denominator, "5");
    EXPECT_DOUBLE_EQ(distance.approximate(), 0.4);
    EXPECT_DOUBLE_EQ(ulp_distance(*Decimal::parse("9007199254740993"), 0x4340000000000000U).approximate(), -0.5);
}

}  // namespace

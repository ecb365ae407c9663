// The generators of number literals: repeatable, well-formed, and as close to halfway as they claim.
#include <gtest/gtest.h>

#include <map>
#include <set>

#include <nachklang/json.hpp>
#include <nachklang/literals.hpp>
#include <nachklang/number.hpp>

namespace {

using namespace nachklang;
using namespace nachklang::number;

TEST(Literals, AreNumbersOfJsonAndRepeatThemselves) {
    std::map<std::string_view, std::set<std::string>> by_family;
    for (std::uint64_t i = 0; i < 66000; ++i) {
        const Literal made = literal(7, i);
        ASSERT_TRUE(json::Document::read(made.text).accepted()) << made.family << " " << made.text;
        ASSERT_EQ(made.text, literal(7, i).text);
        by_family[made.family].insert(made.text);
    }
    ASSERT_EQ(by_family.size(), literal_families().size());
    for (const auto& [family, texts] : by_family) EXPECT_GT(texts.size(), 100U) << family;
    EXPECT_NE(literal(7, 3).text, literal(8, 3).text);
}

TEST(Literals, HalfwayIsHalfway) {
    for (const std::uint64_t bits :
         {0x3FF0000000000000UL, 0x0UL, 0x1UL, 0x4340000000000000UL, 0x7FEFFFFFFFFFFFFEUL, 0x0010000000000000UL}) {
        const Decimal value = *Decimal::parse(halfway_above(bits));
        const UlpDistance below = ulp_distance(value, bits), above = ulp_distance(value, bits + 1);
        EXPECT_DOUBLE_EQ(below.approximate(), -0.5) << std::hex << bits;
        EXPECT_DOUBLE_EQ(above.approximate(), 0.5) << std::hex << bits;
        EXPECT_EQ(nearest_binary64(value) & 1, 0U);  // ties go to even
    }
}

// Far from where short decimals are exactly halfway, the best of some 10^16 candidates comes within 10^-13 of a
// unit.
TEST(Literals, NearHalfwayIsNearerThanChance) {
    for (const int digits : {17, 20, 25, 30, 40}) {
        for (const int unit : {-1070, -700, -300, -200, -120, 120, 200, 300, 700, 970}) {
            const Decimal value = *Decimal::parse(near_halfway(digits, unit, 0));
            EXPECT_LE(value.digits().size(), static_cast<std::size_t>(digits));
            const double off = std::abs(std::abs(ulp_distance(value, nearest_binary64(value)).approximate()) - 0.5);
            EXPECT_LT(off, 1e-13) << digits << " digits, unit " << unit;
        }
    }
}

}  // namespace

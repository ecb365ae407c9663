// Whatever well-formed value an adapter sends, it is compared, labelled and shown. Thousands of values made at
// random, each next to one that differs in a single choice.
#include <gtest/gtest.h>

#include <random>

#include "../fuzz/answers.hpp"

namespace {

class HostileAnswers : public testing::TestWithParam<unsigned> {};
TEST_P(HostileAnswers, AreComparedAndShown) {
    constexpr unsigned pairs = 1000;
    constexpr std::size_t largest = 400;
    std::mt19937 random(GetParam());
    for (unsigned i = 0; i < pairs; ++i) {
        std::vector<std::uint8_t> bytes(4 + random() % largest);
        for (std::uint8_t& byte : bytes) byte = static_cast<std::uint8_t>(random());
        // Every fourth pair is of two equal ones.
        if (i % 4 == 0) bytes[0] = 0;
        ASSERT_NO_THROW(fuzz::check_answers(bytes)) << "seed " << GetParam() << ", pair " << i;
    }
}
INSTANTIATE_TEST_SUITE_P(Seeds, HostileAnswers, testing::Values(1U, 2U, 3U, 4U));

}  // namespace

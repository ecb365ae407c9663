// What `try` marks: the parts of one text that another does not have.
#include <ui/difference.hpp>

#include <gtest/gtest.h>

#include <string>

namespace {

struct Row {
    const char* name;
    std::string text, other, marked;  // the parts, joined by |
};
class Differing : public testing::TestWithParam<Row> {};

TEST_P(Differing, PartsAreMarkedTokenByToken) {
    std::string marked;
    for (const auto& [begin, end] : tool::differing_ranges(GetParam().text, GetParam().other))
        marked += (marked.empty() ? "" : "|") + GetParam().text.substr(begin, end - begin);
    EXPECT_EQ(marked, GetParam().marked);
}

INSTANTIATE_TEST_SUITE_P(
    Rows, Differing,
    testing::Values(Row{"same", "{\"a\": 1}", "{\"a\": 1}", ""}, Row{"blanks", "{\"a\":1}", "{\"a\": 1}", ""},
                    Row{"one_number", "{\"hz\": 110.6, \"n\": 1}", "{\"hz\": 110.5, \"n\": 1}", "110.6"},
                    Row{"two_numbers", "[1.5, 7, 2.5]", "[1.4, 7, 2.4]", "1.5|2.5"},
                    Row{"sign", "[-0]", "[0]", "-0"}, Row{"kind", "1 binary64", "1 int", "binary64"},
                    Row{"more", "[1, 2]", "[1]", ", 2"}, Row{"fewer", "[1]", "[1, 2]", ""},
                    Row{"whole_characters", "\"\xC3\xA9\"", "\"\xC3\xA8\"", "\xC3\xA9"},
                    Row{"empty", "", "[1]", ""}, Row{"all", "[1]", "", "[1]"}),
    [](const auto& info) { return info.param.name; });

TEST(Differing, LargeTextsAreMarkedWholeRatherThanNeverDone) {
    std::string left = "[", right = "[";
    for (int i = 0; i < 5000; ++i) {
        left += std::to_string(i) + ",";
        right += std::to_string(2 * i + 1) + ",";
    }
    const auto ranges = tool::differing_ranges(left, right);
    ASSERT_FALSE(ranges.empty());
    EXPECT_LE(ranges.size(), 5000U);
}

}  // namespace

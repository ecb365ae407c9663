// Which implementations are near each other, and which questions set them apart.
#include <gtest/gtest.h>

#include <fmt/format.h>

#include <nachklang/relations.hpp>

namespace {

using namespace nachklang;

/// "((a b 0.25) c 0.75)": leaves by name, branches with their distance.
std::string in_words(const RelationNode& node, std::span<const AnswerRow> rows) {
    if (node.is_leaf()) return rows[node.row].name;
    return fmt::format("({} {} {:.3})", in_words(*node.left, rows), in_words(*node.right, rows), node.distance);
}

TEST(Relations, CountOnlyCasesAskedOfBoth) {
    EXPECT_EQ(distance_between({"a", {1, 2, 3, 4}, {}}, {"b", {1, 2, 0, 5}, {}}), 1.0 / 3);
    EXPECT_EQ(distance_between({"a", {0, 2}, {}}, {"b", {1, 0}, {}}), 1);
    EXPECT_EQ(distance_between({"a", {1, 2, 9}, {}}, {"b", {1, 2}, {}}), 0);
}

TEST(Relations, JoinTheNearestFirst) {
    const std::vector<AnswerRow> rows{{"treble", {1, 1, 1, 1}, {}},
                                      {"tenor", {5, 6, 7, 8}, {}},
                                      {"second", {1, 1, 1, 2}, {}},
                                      {"hum", {5, 6, 7, 9}, {}},
                                      {"third", {1, 1, 1, 1}, {}}};
    EXPECT_EQ(in_words(*relations_of(rows), rows), "(((treble third 0) second 0.25) (tenor hum 0.25) 1)");
    EXPECT_EQ(in_words(*relations_of({rows.data(), 1}), rows), "treble");
    EXPECT_EQ(relations_of({}), nullptr);
}

TEST(Relations, NameTheQuestionsThatSetTwoSidesApart) {
    using Questions = std::map<std::string, std::string>;
    const std::vector<AnswerRow> rows{
        {"a", {1, 1}, Questions{{"depth", "refused"}, {"zero", "kept"}, {"names", "first"}, {"own", "x"}}},
        {"b", {1, 1}, Questions{{"depth", "refused"}, {"zero", "kept"}, {"names", "last"}}},
        {"c", {2, 2}, Questions{{"depth", "accepted"}, {"zero", "kept"}, {"names", "last"}}},
        {"d", {2, 2}, Questions{{"depth", "accepted"}, {"zero", "kept"}, {"names", "first"}}}};
    const auto tree = relations_of(rows);
    ASSERT_EQ(tree->questions.size(), 1U) << "equal answers, and those as mixed within a side, tell nothing";
    EXPECT_EQ(tree->questions[0].question, "depth");
    EXPECT_EQ(tree->questions[0].left, "refused");
    EXPECT_EQ(tree->questions[0].right, "accepted");
    ASSERT_EQ(tree->left->questions.size(), 1U);
    EXPECT_EQ(tree->left->questions[0].question, "names");
}

}  // namespace

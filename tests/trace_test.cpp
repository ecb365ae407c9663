// Traces: the notation, its errors with their lines, digests.
#include <gtest/gtest.h>

#include <nachklang/format.hpp>

namespace {

using namespace nachklang;

Field field(Field::Units units, std::string_view hex) {
    return {units, hex};
}

TEST(Fields, AreComparedAsAtoms) {
    using U = Field::Units;
    // One bell, three notations.
    EXPECT_EQ(field(U::u8, "f09f9494"), field(U::u16, "d83ddd14"));
    EXPECT_EQ(field(U::u8, "f09f9494"), field(U::u32, "0001f514"));
    // Surrogates encoded in bytes stay two; so do two code points.
    EXPECT_FALSE(field(U::u8, "eda0bdedb494") == field(U::u16, "d83ddd14"));
    EXPECT_EQ(field(U::u8, "eda0bdedb494"), field(U::u32, "0000d83d0000dd14"));
    EXPECT_EQ(field(U::u8, "eda0bd"), field(U::u16, "d83d"));
    // A stray byte equals nothing but itself.
    EXPECT_FALSE(field(U::u8, "e9") == field(U::u16, "00e9"));
    EXPECT_FALSE(field(U::u8, "ff") == field(U::u16, "fffd"));
    EXPECT_EQ(field(U::u8, "61ff"), field(U::u8, "61ff"));
    EXPECT_EQ(field(U::u8, ""), field(U::u16, ""));
    EXPECT_FALSE(Field{} == field(U::u8, ""));
}

TEST(Traces, AreReadLineByLine) {
    TraceError error;
    const auto trace = Trace::parse(
        "{\nkey u8:61\n[\nint -0\ndec 1.5e-3\nbinary64 3ff0000000000000\nbinary32 3f800000\nspelled u8:31\nstr "
        "-\n]\nkey int 5\nnative undefined -\n}\n",
        &error);
    ASSERT_TRUE(trace.has_value()) << error.message;
    ASSERT_EQ(trace->items().size(), 13U);
    EXPECT_EQ(trace->items()[3].digits(), "-0");
    EXPECT_EQ(trace->items()[10].name_kind, ItemKind::integer);
    EXPECT_EQ(trace->items()[10].digits(), "5");
    EXPECT_EQ(trace->items()[11].word(), "undefined");
    EXPECT_FALSE(trace->items()[11].field(0).reported());
    EXPECT_FALSE(trace->items()[10].field(0).reported()) << "a name that is a number has no text";
}

TEST(Traces, KnowWhereEachContainerEnds) {
    const auto trace = Trace::parse("[\n[\n]\n{\nkey u8:61\n[\nnull\n]\n}\nint 1\n]\n");
    ASSERT_TRUE(trace.has_value());
    const auto end_of = [&](std::size_t item) { return trace->items()[item].end; };
    EXPECT_EQ(end_of(0), 10U);
    EXPECT_EQ(end_of(1), 2U);
    EXPECT_EQ(end_of(3), 8U);
    EXPECT_EQ(end_of(5), 7U);
    const auto markup = Trace::parse("elem u8:61 - -\nelem u8:62 - -\ntext u8:78\nend\nend\n");
    ASSERT_TRUE(markup.has_value());
    EXPECT_EQ(markup->items()[0].end, 4U);
    EXPECT_EQ(markup->items()[1].end, 3U);
}

TEST(Traces, HoldMarkup) {
    const auto trace = Trace::parse(
        "elem u8:743a61 u8:61 u8:75\nns u8:74 u8:75\nattr u8:62 u8:62 u8: u8:31 given\ntext u8:78\nend\n");
    ASSERT_TRUE(trace.has_value());
    EXPECT_EQ(trace->items()[2].word(), "given");
    EXPECT_EQ(trace->items()[2].field(3).atoms(), "1");
}

struct BadRow {
    const char* name;
    std::string text;
    std::size_t line;
    std::string message;
};
class BadTrace : public testing::TestWithParam<BadRow> {};

TEST_P(BadTrace, IsReportedInWords) {
    TraceError error;
    EXPECT_FALSE(Trace::parse(GetParam().text, &error));
    EXPECT_EQ(error.line, GetParam().line);
    EXPECT_EQ(error.message, GetParam().message);
}

INSTANTIATE_TEST_SUITE_P(
    Rows, BadTrace,
    testing::Values(BadRow{"word", "nil\n", 1, "'nil' is not a word of the notation"},
                    BadRow{"no_line_end", "null", 1, "the last line does not end with LF"},
                    BadRow{"two_values", "null\nnull\n", 2, "a trace holds exactly one value"},
                    BadRow{"none", "", 0, "a trace holds exactly one value"},
                    BadRow{"unclosed", "[\n", 1, "a container is not closed"},
                    BadRow{"crossed", "[\n}\n", 2, "'}' without its '{'"},
                    BadRow{"upper_hex", "str u8:FF\n", 1,
                           "'str' needs 1 FIELD (u8:HEX, u16:HEX, u32:HEX or -); 'u8:FF' is not one"},
                    BadRow{"half_unit", "str u16:00\n", 1,
                           "'str' needs 1 FIELD (u8:HEX, u16:HEX, u32:HEX or -); 'u16:00' is not one"},
                    BadRow{"int", "int 1.5\n", 1, "'int' is followed by [-]DIGITS"},
                    BadRow{"dec_plus", "dec 1e+5\n", 1, "'dec' is followed by [-]DIGITS[.DIGITS][e[-]DIGITS]"},
                    BadRow{"bits", "binary64 3ff\n", 1, "'binary64' is followed by 16 lower-case hex digits"},
                    BadRow{"more", "true true\n", 1, "too much after 'true'"},
                    BadRow{"space", "null \n", 1, "a line ends with a space"},
                    BadRow{"key_alone", "{\nkey u8:61\n}\n", 3, "a 'key' has no value"},
                    BadRow{"no_key", "{\nnull\n}\n", 2, "a value in an object needs a 'key' before it"},
                    BadRow{"key_outside", "key u8:61\n", 1, "'key' outside an object"},
                    BadRow{"attribute_alone", "attr - u8:61 u8: u8:62 -\n", 1,
                           "an attribute or declaration without its 'elem'"},
                    BadRow{"declaration_behind_text", "elem - u8:61 u8:\ntext u8:61\nns u8: u8:61\nend\n", 3,
                           "an attribute or declaration without its 'elem'"},
                    BadRow{"attribute_behind_end", "[\nelem - u8:61 u8:\nend\nattr - u8:61 u8: u8:62 -\n]\n", 4,
                           "an attribute or declaration without its 'elem'"},
                    BadRow{"markup_in_object", "{\nkey u8:61\nelem - u8:61 u8:\nend\n}\n", 3,
                           "markup inside an object"},
                    BadRow{"value_in_element", "elem - u8:61 u8:\nint 1\nend\n", 2, "a value inside an element"},
                    BadRow{"value_beside_markup", "text u8:61\nint 1\n", 2, "a value beside markup"},
                    BadRow{"markup_beside_value", "int 1\ntext u8:61\n", 2, "markup beside a value"}),
    [](const auto& info) { return info.param.name; });

TEST(Traces, NestAMillionLevelsWithoutRecursion) {
    std::string text;
    for (int i = 0; i < 1'000'000; ++i) text += "[\n";
    for (int i = 0; i < 1'000'000; ++i) text += "]\n";
    const auto trace = Trace::parse(std::move(text));
    ASSERT_TRUE(trace.has_value());
    EXPECT_EQ(trace->items().size(), 2'000'000U);
}

Tree small_tree(std::initializer_list<const char*> leaves, bool ordered) {
    Tree tree;
    tree.nodes.push_back({digest_of("root"), "", ordered, 0, leaves.size() + 1, "root"});
    for (const char* leaf : leaves)
        tree.nodes.push_back({digest_of(leaf), std::string("/") + leaf, true, 0, tree.nodes.size() + 1, leaf});
    return tree;
}

TEST(Trees, SetsForgetTheirOrderAndListsDoNot) {
    EXPECT_EQ(digest_of(small_tree({"a", "b"}, false)), digest_of(small_tree({"b", "a"}, false)));
    EXPECT_NE(digest_of(small_tree({"a", "b"}, true)), digest_of(small_tree({"b", "a"}, true)));
    EXPECT_NE(digest_of(small_tree({"a", "a"}, false)), digest_of(small_tree({"a"}, false)));
    EXPECT_NE(digest_of(small_tree({"a", "a"}, false)), digest_of(small_tree({"b", "b"}, false)));
}

TEST(Trees, LongListsAreAlignedToo) {
    // 5,000 elements, and the same with a text between each two: the first differences are texts that were added.
    std::string left = "elem u8:61 u8:61 u8:\n", right = left;
    for (int i = 0; i < 5000; ++i) {
        left += "elem u8:62 u8:62 u8:\nend\n";
        right += "text u8:0a\nelem u8:62 u8:62 u8:\nend\n";
    }
    const Format& xml = *find_format("xml");
    const Comparison comparison = xml.compare(*Trace::parse(left + "end\n"), *Trace::parse(right + "end\n"));
    ASSERT_EQ(comparison.differences.size(), 1U);
    for (const Difference& d : comparison.differences) EXPECT_EQ(d.cause, "text/indentation-added") << d.detail;
}

TEST(Trees, DifferencesAreTheOutermostOnes) {
    const Tree left = small_tree({"a", "b", "c"}, false), right = small_tree({"c", "d", "a"}, false);
    std::vector<std::string> lost, added;
    compare_trees(left, right, 10, [&](const TreePair& pair) {
        if (pair.left) lost.push_back(path_of(left, *pair.left));
        if (pair.right) added.push_back(path_of(right, *pair.right));
    });
    EXPECT_EQ(lost, std::vector<std::string>{"/b"});
    EXPECT_EQ(added, std::vector<std::string>{"/d"});
}

}  // namespace

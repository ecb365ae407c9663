// Text: UTF-8 by Unicode's table 3-7, positions, printable text.
#include <gtest/gtest.h>

#include <nachklang/text.hpp>

namespace {

using namespace nachklang;
using namespace nachklang::text;

struct SubpartRow {
    const char* name;
    std::string bytes;
    std::size_t length;  // of the first step
    bool well_formed, cut_short;
};

class MaximalSubpart : public testing::TestWithParam<SubpartRow> {};

TEST_P(MaximalSubpart, EndsWhereUnicodeSays) {
    const SubpartRow& row = GetParam();
    const Utf8Step step = decode_utf8(row.bytes, 0);
    EXPECT_EQ(step.length, row.length);
    EXPECT_EQ(step.well_formed, row.well_formed);
    EXPECT_EQ(step.cut_short, row.cut_short);
}

// Unicode 15, 3.9, tables 3-7 to 3-11.
INSTANTIATE_TEST_SUITE_P(Rows, MaximalSubpart,
                         testing::Values(SubpartRow{"ascii", "a", 1, true, false},
                                         SubpartRow{"two", "\xC3\xA9", 2, true, false},
                                         SubpartRow{"three", "\xE9\x90\x98", 3, true, false},
                                         SubpartRow{"four", "\xF0\x9F\x94\x94", 4, true, false},
                                         SubpartRow{"overlong_two", "\xC0\xAF", 1, false, false},
                                         SubpartRow{"overlong_three", "\xE0\x80\xAF", 1, false, false},
                                         SubpartRow{"surrogate", "\xED\xA0\x80", 1, false, false},
                                         SubpartRow{"beyond_last", "\xF4\x90\x80\x80", 1, false, false},
                                         SubpartRow{"five_bytes", "\xF8\x88", 1, false, false},
                                         SubpartRow{"three_of_four", "\xF1\x80\x80\x41", 3, false, false},
                                         SubpartRow{"two_of_three", "\xE1\x80\x41", 2, false, false},
                                         SubpartRow{"cut_after_one", "\xC3", 1, false, true},
                                         SubpartRow{"cut_after_three", "\xF0\x9F\x94", 3, false, true},
                                         SubpartRow{"stray", "\x80", 1, false, false},
                                         SubpartRow{"ff", "\xFF", 1, false, false}),
                         [](const auto& info) { return info.param.name; });

TEST(Utf8, EveryScalarValueComesBack) {
    std::size_t wrong = 0;
    for (char32_t c = 0; c <= 0x10FFFF; ++c) {
        std::string bytes;
        append_utf8(bytes, c);
        const Utf8Step step = decode_utf8(bytes, 0);
        const bool surrogate = c >= 0xD800 && c < 0xE000;
        if (step.well_formed == surrogate || (!surrogate && (step.scalar != c || step.length != bytes.size())))
            ++wrong;
    }
    EXPECT_EQ(wrong, 0U);
}

TEST(Positions, LinesEndWithLfCrLfOrCrAndColumnsCountCodePoints) {
    const std::string document = "a\nb\r\nc\rd\xC3\xA9x";
    EXPECT_EQ(position_of(document, 2), (Position{2, 2, 1}));
    EXPECT_EQ(position_of(document, 5), (Position{5, 3, 1}));
    EXPECT_EQ(position_of(document, 7), (Position{7, 4, 1}));
    EXPECT_EQ(position_of(document, 10), (Position{10, 4, 3}));
    EXPECT_EQ(position_of(document, document.size()), (Position{11, 4, 4}));
    EXPECT_EQ(position_of("", 0), (Position{0, 1, 1}));
}

TEST(Positions, DoNotDependOnThePieces) {
    const std::string document = "\r\n\r\r\n\nx\xE9\x90\x98\r";
    for (std::size_t cut = 0; cut <= document.size(); ++cut) {
        PositionCounter counter;
        counter.advance(std::string_view(document).substr(0, cut));
        counter.advance(std::string_view(document).substr(cut));
        EXPECT_EQ(counter.position(), position_of(document, document.size())) << cut;
    }
}

TEST(EncodingForms, GoThereAndBack) {
    const std::string text = "a\xC3\xA9\xE9\x90\x98\xF0\x9F\x94\x94";
    for (const Utf form : {Utf::utf16le, Utf::utf16be, Utf::utf32le, Utf::utf32be}) {
        const std::string bytes = from_utf8(text, form);
        ASSERT_TRUE(to_utf8(bytes, form).has_value());
        EXPECT_EQ(*to_utf8(bytes, form), text);
    }
    EXPECT_EQ(to_hex(from_utf8("\xF0\x9F\x94\x94", Utf::utf16be)), "d83ddd14");
}

TEST(EncodingForms, RefuseLoneSurrogatesAndHalfUnits) {
    EXPECT_FALSE(to_utf8(*from_hex("d83d"), Utf::utf16be));
    EXPECT_FALSE(to_utf8(*from_hex("dd14d83d"), Utf::utf16be));
    EXPECT_FALSE(to_utf8(*from_hex("00"), Utf::utf16le));
    EXPECT_FALSE(to_utf8(*from_hex("00110000"), Utf::utf32be));
}

TEST(Printable, NothingActsOnATerminal) {
    EXPECT_EQ(printable("\x1B[31mred"), "\\u001b[31mred");
    EXPECT_EQ(printable("a\nb\tc"), "a\\nb\\tc");
    EXPECT_EQ(printable("a\nb", true), "a\nb");
    EXPECT_EQ(printable("\xE2\x80\xAE"
                        "abc"),
              "\\u202eabc");  // right-to-left override
    EXPECT_EQ(printable("\xC2\x9B"
                        "31m"),
              "\\u009b31m");                                 // a control character of two bytes
    EXPECT_EQ(printable("\xF3\xA0\x81\x81"), "\\u{e0041}");  // a tag character, invisible
    EXPECT_EQ(printable("\xFF\xC3"), "\\xff\\xc3");
    EXPECT_EQ(printable("Gl\xC3\xB6"
                        "ckchen \xF0\x9F\x94\x94"),
              "Gl\xC3\xB6"
              "ckchen \xF0\x9F\x94\x94");
}

TEST(Printable, AtomsAreShownAsTheUnitsThatTheyAre) {
    EXPECT_EQ(printable_atoms("a\xED\xA0\xBD\xF0\x9F\x94\x94"), "a\\ud83d\xF0\x9F\x94\x94");
    EXPECT_EQ(printable_atoms("\xED\xBF\xBF"), "\\udfff");
    EXPECT_EQ(printable_atoms("\xFF\xE9 \xFF\xFF"), "\\xe9 \\xff");
    EXPECT_EQ(printable_atoms("\xC3\xA9\n"), "\xC3\xA9\\n");
    EXPECT_EQ(printable_atoms("\xED\xA0\xBDgh", 2), "\\ud83dg…");
}

TEST(Printable, ExcerptsNeverSplitACharacter) {
    EXPECT_EQ(printable_excerpt("\xC3\xA9\xC3\xA9\xC3\xA9", 2), "\xC3\xA9\xC3\xA9…");
    EXPECT_EQ(printable_excerpt("ab", 2), "ab");
}

TEST(Printable, AddressesMakeNoDifferenceBetweenRuns) {
    const struct {
        const char *before, *after;
    } rows[] = {
        {"#<Parser:0x00007f3a5c1d2e40 @at=1>", "#<Parser:0x… @at=1>"},
        {"<Node at 0x7f3a5c1d2e40>, <Node at 0x5601deadbeef>", "<Node at 0x…>, <Node at 0x…>"},
        {"0x7f3a5c1d2e40", "0x…"},
        {"invalid character 0x10FFFF", "invalid character 0x10FFFF"},
        {"0x000000000041", "0x000000000041"},                                // too small
        {"no number: 0xffffffffffffffff", "no number: 0xffffffffffffffff"},  // too large
        {"0x7f3a5c1d2e407f3a5c1d2e40", "0x7f3a5c1d2e407f3a5c1d2e40"},        // too long
        {"0x", "0x"},
    };
    for (const auto& row : rows) EXPECT_EQ(without_addresses(row.before), row.after);
}

TEST(Printable, WidthCountsWhatATerminalShows) {
    EXPECT_EQ(display_width("abc"), 3U);
    EXPECT_EQ(display_width("\xE9\x90\x98"), 2U);  // a wide character
    EXPECT_EQ(display_width("e\xCC\x81"), 1U);     // a combining one
}

TEST(Hex, ReadsWhatItWrites) {
    EXPECT_EQ(to_hex(std::string("\x00\xFF\x10", 3)), "00ff10");
    EXPECT_EQ(from_hex("00 ff 10"), std::string("\x00\xFF\x10", 3));
    EXPECT_FALSE(from_hex("0"));
    EXPECT_FALSE(from_hex("0g"));
    EXPECT_FALSE(from_hex("0 0"));
}

struct DocumentRow {
    std::string bytes, shown;
};
class PrintableDocument : public testing::TestWithParam<DocumentRow> {};
TEST_P(PrintableDocument, IsTextInAnyEncodingForm) {
    EXPECT_EQ(text::printable_document(GetParam().bytes), GetParam().shown);
}
INSTANTIATE_TEST_SUITE_P(
    Rows, PrintableDocument,
    testing::Values(DocumentRow{"[1]", "[1]"}, DocumentRow{"", ""},
                    DocumentRow{std::string("[\0", 2), "UTF-16LE: ["},
                    DocumentRow{std::string("\0[\0\x31\0]", 6), "UTF-16BE: [1]"},
                    DocumentRow{std::string("\xFF\xFE[\0\xE9\0]\0", 8), "UTF-16LE with a mark: [\xC3\xA9]"},
                    DocumentRow{std::string("\0\0\xFE\xFF\0\0\0[", 8), "UTF-32BE with a mark: ["},
                    DocumentRow{std::string("[\0\0\0]\0\0\0", 8), "UTF-32LE: []"},
                    DocumentRow{std::string("\xFF\xFE\0\xD8", 4), "\\xff\\xfe\\u0000\\xd8"},  // a lone surrogate
                    DocumentRow{std::string("[\0]", 3), "[\\u0000]"}));

}  // namespace

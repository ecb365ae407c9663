// The reference reader for JSON: verdicts, positions, values, raises.
#include <gtest/gtest.h>

#include <fmt/format.h>

#include <nachklang/json.hpp>

namespace {

using namespace nachklang;
using json::Document;

struct PlaceRow {
    const char* name;
    std::string document;
    Position position;
    std::string message;
    std::string clause;
};
class FirstError : public testing::TestWithParam<PlaceRow> {};

TEST_P(FirstError, HasItsPlaceItsWordsAndItsClause) {
    const PlaceRow& row = GetParam();
    const Document document = Document::read(row.document);
    ASSERT_FALSE(document.accepted());
    EXPECT_EQ(document.rejection()->position, row.position) << document.rejection()->position.offset;
    EXPECT_EQ(document.rejection()->message, row.message);
    EXPECT_EQ(document.rejection()->clause, row.clause);
    // The verdict in pieces of one byte says the same.
    json::VerdictReader reader;
    for (const char c : row.document) reader.feed({&c, 1});
    const auto rejection = reader.finish();
    ASSERT_TRUE(rejection.has_value());
    EXPECT_EQ(rejection->position, row.position);
    EXPECT_EQ(rejection->message, row.message);
}

INSTANTIATE_TEST_SUITE_P(
    Rows, FirstError,
    testing::Values(
        PlaceRow{"exponent",
                 R"({"hum_hz": 0.1e, "x":1})",
                 {15, 1, 16},
                 "expected a digit of the exponent, found ','",
                 "RFC 8259, 6"},
        PlaceRow{"empty", "", {0, 1, 1}, "expected a value, found the end of the document", "RFC 8259, 3"},
        PlaceRow{"second_line", "[1,\n 2,\r\n x]", {10, 3, 2}, "expected a value, found 'x'", "RFC 8259, 3"},
        PlaceRow{"after_non_ascii",
                 "[\"\xC3\xA9\xF0\x9F\x94\x94\",]",
                 {10, 1, 7},
                 "expected a value, found ']'",
                 "RFC 8259, 3"},
        PlaceRow{
            "unclosed_array", "[1", {2, 1, 3}, "expected ',' or ']', found the end of the document", "RFC 8259, 5"},
        PlaceRow{"unclosed_object",
                 "{\"a\":1",
                 {6, 1, 7},
                 "expected ',' or '}', found the end of the document",
                 "RFC 8259, 4"},
        PlaceRow{"crossed", "[{]", {2, 1, 3}, "expected a name in quotes or '}', found ']'", "RFC 8259, 4"},
        PlaceRow{"trailing_comma", "{\"a\":1,}", {7, 1, 8}, "expected a name in quotes, found '}'", "RFC 8259, 4"},
        PlaceRow{"no_colon", "{\"a\" 1}", {5, 1, 6}, "expected ':' after the name, found '1'", "RFC 8259, 4"},
        PlaceRow{
            "literal", "[tru]", {4, 1, 5}, "expected the rest of true, false or null, found ']'", "RFC 8259, 3"},
        PlaceRow{"literal_end",
                 "nul",
                 {3, 1, 4},
                 "expected the rest of true, false or null, found the end of the document",
                 "RFC 8259, 3"},
        PlaceRow{
            "leading_zero", "01", {1, 1, 2}, "expected no digit after a leading zero, found '1'", "RFC 8259, 6"},
        PlaceRow{"minus", "-x", {1, 1, 2}, "expected a digit after '-', found 'x'", "RFC 8259, 6"},
        PlaceRow{"point",
                 "1.",
                 {2, 1, 3},
                 "expected a digit after the decimal point, found the end of the document",
                 "RFC 8259, 6"},
        PlaceRow{"second_document", "1 2", {2, 1, 3}, "expected the end of the document, found '2'", "RFC 8259, 2"},
        PlaceRow{"control",
                 "\"a\tb\"",
                 {2, 1, 3},
                 "expected the rest of a string or its closing quote, found U+0009",
                 "RFC 8259, 7"},
        PlaceRow{"escape",
                 "\"\\x\"",
                 {2, 1, 3},
                 "expected one of \" \\ / b f n r t u after '\\', found 'x'",
                 "RFC 8259, 7"},
        PlaceRow{"hex",
                 "\"\\u00g\"",
                 {5, 1, 6},
                 "expected a hexadecimal digit of a \\u escape, found 'g'",
                 "RFC 8259, 7"},
        PlaceRow{"ill_formed", "\"a\xE9\x90\"", {2, 1, 3}, "ill-formed UTF-8 (e990)", "RFC 3629, 3"},
        PlaceRow{"ill_formed_end", "\"a\xC3", {2, 1, 3}, "ill-formed UTF-8 (c3, cut short)", "RFC 3629, 3"},
        PlaceRow{"byte_order_mark",
                 "\xEF\xBB\xBF"
                 "1",
                 {0, 1, 1},
                 "expected a value, not a byte order mark, found '\\ufeff'",
                 "RFC 8259, 8.1"},
        PlaceRow{"form_feed", "[\f1]", {1, 1, 2}, "expected a value or ']', found U+000C", "RFC 8259, 5"}),
    [](const auto& info) { return info.param.name; });

struct ValueRow {
    const char* name;
    std::string document, trace;
};
class Value : public testing::TestWithParam<ValueRow> {};
TEST_P(Value, IsReadLosslessly) {
    const Document document = Document::read(GetParam().document);
    ASSERT_TRUE(document.accepted());
    EXPECT_EQ(document.trace().text(), GetParam().trace);
}
INSTANTIATE_TEST_SUITE_P(
    Rows, Value,
    testing::Values(ValueRow{"number_text", "[1.0,-0,1E+02]",
                             "[\nspelled u8:312e30\nspelled u8:2d30\nspelled u8:31452b3032\n]\n"},
                    ValueRow{
                        "duplicates_in_order", R"({"b":1,"a":2,"b":3})",
                        "{\nkey u8:62\nspelled u8:31\nkey u8:61\nspelled u8:32\nkey u8:62\nspelled u8:33\n}\n"},
                    ValueRow{"escapes", R"("\"\\\/\b\f\n\r\t\u00e9")", "str u8:225c2f080c0a0d09c3a9\n"},
                    ValueRow{"pair", R"("\ud83d\udd14")", "str u8:f09f9494\n"},
                    ValueRow{"halves", R"("\udd14\ud83d")", "str u8:edb494eda0bd\n"},
                    ValueRow{"half_then_pair", R"("\ud83d\ud83d\udd14")", "str u8:eda0bdf09f9494\n"},
                    ValueRow{"nul", R"("a\u0000b")", "str u8:610062\n"},
                    ValueRow{"literals", " [ true , false , null ] ", "[\ntrue\nfalse\nnull\n]\n"}),
    [](const auto& info) { return info.param.name; });

TEST(Reader, TenMillionLevelsCostLinearMemoryAndNoStack) {
    constexpr std::size_t levels = 10'000'000;
    std::string document(levels, '[');
    json::VerdictReader open;
    open.feed(document);
    const auto rejection = open.finish();
    ASSERT_TRUE(rejection.has_value());
    EXPECT_EQ(rejection->position.offset, levels);
    document += std::string(levels, ']');
    json::VerdictReader closed;
    closed.feed(document);
    EXPECT_FALSE(closed.finish().has_value());
    EXPECT_EQ(closed.deepest(), levels);
    const Document tape = Document::read(document);
    EXPECT_TRUE(tape.accepted());
    EXPECT_EQ(tape.tape().size(), 2 * levels);
}

TEST(Reader, FindsAnErrorFarBehindManyBlocks) {
    std::string document = "[";
    for (int i = 0; i < 40000; ++i) document += "\"line\",\r\n";
    document += "\xE9]";
    json::VerdictReader reader;
    for (std::size_t at = 0; at < document.size(); at += 1000)
        reader.feed(std::string_view(document).substr(at, 1000));
    const auto rejection = reader.finish();
    ASSERT_TRUE(rejection.has_value());
    EXPECT_EQ(rejection->position, (Position{document.size() - 2, 40001, 1}));
    EXPECT_EQ(*Document::read(document).rejection()->message.begin(), *rejection->message.begin());
}

TEST(Reader, TapeHasThePlacesOfTokens) {
    const std::string text = R"({"a":[1,"x"]})";
    const Document document = Document::read(text);
    ASSERT_EQ(document.tape().size(), 7U);
    EXPECT_EQ(document.source(document.tape()[0]), text);
    EXPECT_EQ(document.source(document.tape()[1]), "\"a\"");
    EXPECT_EQ(document.source(document.tape()[2]), "[1,\"x\"]");
    EXPECT_EQ(document.tape()[2].end, 5U);
    EXPECT_EQ(document.tape()[5].end, 2U);
}

struct OccurrenceRow {
    const char* name;
    std::string document;
    std::vector<std::string> questions;
};
class Occurrences : public testing::TestWithParam<OccurrenceRow> {};
TEST_P(Occurrences, AreReportedForEveryOpenPoint) {
    const Reading reading = json::format().read(GetParam().document);
    ASSERT_TRUE(reading.accepted());
    std::vector<std::string> questions;
    for (const Occurrence& occurrence : reading.occurrences) questions.push_back(occurrence.question);
    EXPECT_EQ(questions, GetParam().questions);
}
INSTANTIATE_TEST_SUITE_P(
    Rows, Occurrences,
    testing::Values(OccurrenceRow{"none", R"({"a":[1,2.5,"x"]})", {}},
                    OccurrenceRow{"duplicate", R"({"a":1,"\u0061":2})", {"duplicate-names"}},
                    OccurrenceRow{"same_name_elsewhere", R"({"a":{"a":1}})", {}},
                    OccurrenceRow{"half", R"("\ud83d")", {"lone-surrogate"}},
                    OccurrenceRow{"whole", R"("\ud83d\udd14")", {}},
                    OccurrenceRow{"nul", R"({"a\u0000":1})", {"nul-character"}},
                    OccurrenceRow{"tenth", "[0.1]", {"number-precision"}},
                    OccurrenceRow{"exact", "[0.5,16777216]", {}},
                    OccurrenceRow{"above_int32", "2147483648", {"number-range"}},
                    OccurrenceRow{"largest_int32", "2147483647", {"number-precision"}},
                    OccurrenceRow{"overflow", "1e400", {"number-precision", "number-range"}},
                    OccurrenceRow{"underflow", "1e-400", {"number-precision", "number-range"}},
                    OccurrenceRow{"minus_zero", "[-0.0]", {"negative-zero"}},
                    OccurrenceRow{"sixteen_levels", std::string(16, '[') + std::string(16, ']'), {}},
                    OccurrenceRow{"seventeen_levels", std::string(17, '[') + std::string(17, ']'), {"depth"}}),
    [](const auto& info) { return info.param.name; });

TEST(Occurrences, HaveAPlaceAndACount) {
    const Reading reading = json::format().read(R"(["\ud83d","x","\udd14"])");
    ASSERT_EQ(reading.occurrences.size(), 1U);
    EXPECT_EQ(reading.occurrences[0].offset, 1U);
    EXPECT_EQ(reading.occurrences[0].count, 2U);
}

struct ExtensionRow {
    const char* name;
    std::string document;
    std::vector<std::string> extensions;  // none: it is no JSON even with extensions
    std::string strict;
};
class Extensions : public testing::TestWithParam<ExtensionRow> {};
TEST_P(Extensions, AreNamedOneByOne) {
    const auto extended = json::read_extended(GetParam().document);
    std::vector<std::string> names;
    if (extended)
        for (const auto& use : extended->uses) names.push_back(use.extension);
    EXPECT_EQ(names, GetParam().extensions);
    if (extended) {
        EXPECT_EQ(extended->strict_text, GetParam().strict);
    }
}
INSTANTIATE_TEST_SUITE_P(
    Rows, Extensions,
    testing::Values(ExtensionRow{"trailing", "[1,]", {"trailing-comma"}, "[1]"},
                    ExtensionRow{"comment", "[1/*x*/]", {"comments"}, "[1 ]"},
                    ExtensionRow{"single", "['a\"b']", {"single-quotes"}, "[\"a\\\"b\"]"},
                    ExtensionRow{"bare_name", "{bell:1}", {"bare-names"}, "{\"bell\":1}"},
                    ExtensionRow{"nan", "[NaN,-Infinity]", {"non-finite", "non-finite"}, "[null,null]"},
                    ExtensionRow{"hex", "0x1F", {"hexadecimal"}, "31"},
                    ExtensionRow{"plus", "+1", {"leading-plus"}, "1"},
                    ExtensionRow{"points", "[1.,.5]", {"bare-point", "bare-point"}, "[1,0.5]"},
                    ExtensionRow{"zeros", "-007", {"leading-zeros"}, "-7"},
                    ExtensionRow{"control", "\"a\tb\"", {"control-in-string"}, "\"a\\u0009b\""},
                    ExtensionRow{"line_end", "\"a\\\nb\"", {"escaped-line-end"}, "\"ab\""},
                    ExtensionRow{"case", "[True]", {"literal-case"}, "[true]"},
                    ExtensionRow{"two_documents", "{}{}", {"text-after-end"}, "{}"},
                    ExtensionRow{"missing_comma", "[1 2]", {"missing-commas"}, "[1 ,2]"},
                    ExtensionRow{"both", "{a:1,}", {"bare-names", "trailing-comma"}, "{\"a\":1}"},
                    ExtensionRow{"strict", "[1]", {}, ""}, ExtensionRow{"no_colon", "{\"a\" 1}", {}, ""},
                    ExtensionRow{"unclosed", "[1,", {}, ""}, ExtensionRow{"exponent", "[1e]", {}, ""}),
    [](const auto& info) { return info.param.name; });

struct StanceRow {
    const char* name;
    std::string document;
    Stance stance;
    Basis basis;
    std::string question;
};
class Expected : public testing::TestWithParam<StanceRow> {};
TEST_P(Expected, OfADocumentWithoutASheet) {
    const Expectation expectation = json::format().expect(GetParam().document);
    EXPECT_EQ(expectation.stance, GetParam().stance);
    if (GetParam().stance == Stance::reject) {
        EXPECT_EQ(expectation.acceptance_basis, GetParam().basis);
    }
    if (GetParam().question.empty()) {
        EXPECT_TRUE(expectation.occurrences.empty());
    } else {
        ASSERT_FALSE(expectation.occurrences.empty());
        EXPECT_EQ(expectation.occurrences[0].question, GetParam().question);
    }
}
INSTANTIATE_TEST_SUITE_P(
    Rows, Expected,
    testing::Values(StanceRow{"plain", "[1]", Stance::accept, Basis::required, ""},
                    StanceRow{"extension", "[1,]", Stance::reject, Basis::permitted, "trailing-comma"},
                    StanceRow{"non_text", "{\"a\" 1}", Stance::reject, Basis::permitted, ""},
                    StanceRow{"two_values", "1 2", Stance::reject, Basis::permitted, "text-after-end"},
                    StanceRow{"ill_formed", "\"\xFF\"", Stance::reject, Basis::permitted, "ill-formed-utf8"},
                    StanceRow{"ill_formed_outside", "[\xFF]", Stance::reject, Basis::permitted, ""},
                    StanceRow{"mark", "\xEF\xBB\xBF[]", Stance::open, Basis::required, "byte-order-mark"},
                    StanceRow{"utf_16", std::string("[\0]\0", 4), Stance::open, Basis::required, "encoding"}),
    [](const auto& info) { return info.param.name; });

TEST(Expected, IllFormedTextHasAnAnswerForEachWayToTakeIt) {
    const Expectation expectation = json::format().expect("\"a\xFF\"");
    std::map<std::string, std::string> stored;
    for (const Answer& answer : expectation.answers)
        if (answer.trace) stored[answer.name] = answer.trace->items()[0].field(0).atoms();
    EXPECT_EQ(stored["replaced"], "a\xEF\xBF\xBD");
    EXPECT_EQ(stored["kept"], "a\xFF\xFF");
    EXPECT_EQ(stored["dropped"], "a");
}

TEST(Cuts, LeaveDocumentsThatAreJsonAndSmaller) {
    const std::string document = R"({"bells":[{"name":"Hour","hz":110.5},{"name":"Fire"}],"tower":"North"})";
    const auto cuts = json::format().reduction()->cuts(document);
    ASSERT_FALSE(cuts.empty());
    EXPECT_TRUE(std::is_sorted(cuts.begin(), cuts.begin() + 5,
                               [](const Cut& a, const Cut& b) { return a.saved() > b.saved(); }));
    std::size_t still_json = 0;
    for (const Cut& cut : cuts) {
        const std::string cut_down =
            document.substr(0, cut.begin) + std::string(cut.replacement) + document.substr(cut.end);
        EXPECT_LE(cut_down.size(), document.size());
        if (Document::read(cut_down).accepted()) ++still_json;
    }
    EXPECT_GT(still_json, 20U);
}

TEST(Cuts, OfDeepDocumentsTakeNoMoreRoomThanTheDocument) {
    // A piece that stays is a part of the document and no copy: copies of all levels would be gigabytes.
    const std::size_t levels = 200'000;
    const std::string document = std::string(levels, '[') + std::string(levels, ']');
    const auto cuts = json::format().reduction()->cuts(document);
    EXPECT_LT(cuts.size(), 10 * levels);
    for (const Cut& cut : cuts)
        if (!cut.replacement.empty()) {
            ASSERT_TRUE(cut.replacement.data() >= document.data() &&
                        cut.replacement.data() + cut.replacement.size() <= document.data() + document.size());
        }
    const std::size_t half = levels / 2;
    EXPECT_TRUE(std::any_of(cuts.begin(), cuts.end(), [&](const Cut& cut) {
        return cut.begin == 0 && cut.replacement.size() == 2 * half;
    })) << "half of the levels go at once";
}

TEST(Respelling, IsNamedKindByKind) {
    const Format& format = json::format();
    EXPECT_EQ(format.text_differences()->reformatted("[1, 2]", "[1,2]"), std::vector<std::string>{"white-space"});
    EXPECT_EQ(format.text_differences()->reformatted("[1.0]", "[1]"), std::vector<std::string>{"number-spelling"});
    EXPECT_EQ(format.text_differences()->reformatted("[\"\\u00e9\"]", "[\"\xC3\xA9\"]"),
              std::vector<std::string>{"escapes"});
    EXPECT_EQ(format.text_differences()->reformatted(R"({"b":1,"a":2})", R"({"a":2,"b":1})"),
              std::vector<std::string>{"member-order"});
    EXPECT_TRUE(format.text_differences()->reformatted("[1]", "[1]").empty());
}

}  // namespace

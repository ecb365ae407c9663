// Fields of records that JSON has no kind for: instants and bytes, as decoders hold them and as encoders write
// them.
#include <gtest/gtest.h>

#include <fmt/format.h>

#include <nachklang/json.hpp>
#include <nachklang/record_types.hpp>

#include "judging.hpp"

using namespace nachklang;

namespace {

std::string record_of(const std::string& line) {
    return "{\nkey u8:76616c7565\n" + line + "\n}";
}
std::string native(const std::string& word, const std::string& text) {
    return fmt::format("native {} {}", word, TraceWriter::field(text));
}

Case case_of(const std::string& type, const std::string& text, const std::string& line) {
    Case out;
    out.name = "records/a";
    out.aspect = "records";
    out.format = find_format("json");
    out.record = type;
    out.document = std::make_shared<const std::string>("{\"value\":\"" + text + "\"}");
    out.stance = Stance::accept;
    out.expected = Trace::parse(record_of(line) + "\n");
    out.clause = "RFC 3339, 5.6";
    out.why = "x";
    return out;
}

struct HeldRow {
    const char *name, *type, *text, *expected, *got, *words;
};
class Held : public testing::TestWithParam<HeldRow> {};
TEST_P(Held, IsComparedWithWhatTheDocumentSays) {
    const HeldRow& row = GetParam();
    const std::string word = row.type == std::string("one-bytes") ? "bytes" : "instant";
    const Case c = case_of(row.type, row.text, native(word, row.expected));
    EXPECT_TRUE(record_problems(c).empty());
    const std::string got = std::string(row.got).starts_with("native") || row.got == std::string("null")
                                ? row.got
                                : native(word, row.got);
    const Outcome outcome = judging::outcome(OutcomeKind::accepted, record_of(got));
    EXPECT_EQ(judging::in_words(judge({c, expectation_of(c), Subject{}, Operation::bind, outcome})), row.words);
}
constexpr const char* noon = "1953-04-07T05:30:00Z";
INSTANTIATE_TEST_SUITE_P(
    Rows, Held,
    testing::Values(HeldRow{"instant", "one-instant", noon, noon, noon, "conforms"},
                    HeldRow{"fraction_cut", "one-instant", "1953-04-07T05:30:00.5Z", "1953-04-07T05:30:00.5Z", noon,
                            "altered fidelity instant/fraction-cut"},
                    HeldRow{"fraction_shortened", "one-instant", "1953-04-07T05:30:00.123456Z",
                            "1953-04-07T05:30:00.123456Z", "1953-04-07T05:30:00.123Z",
                            "altered fidelity instant/fraction-cut"},
                    HeldRow{"fraction_changed", "one-instant", "1953-04-07T05:30:00.5Z", "1953-04-07T05:30:00.5Z",
                            "1953-04-07T05:30:00.005Z", "altered fidelity instant/changed"},
                    HeldRow{"offset_ignored", "one-instant", "1953-04-07T06:30:00+01:00", noon,
                            "1953-04-07T06:30:00Z", "altered fidelity instant/hours-off"},
                    HeldRow{"quarter", "one-instant", "1953-04-07T05:30:00Z", noon, "1953-04-07T05:15:00Z",
                            "altered fidelity instant/hours-off"},
                    HeldRow{"minute", "one-instant", "1953-04-07T05:30:00Z", noon, "1953-04-07T05:31:00Z",
                            "altered fidelity instant/changed"},
                    HeldRow{"calendar", "one-instant", "1502-06-01T12:00:00Z", "1502-06-01T12:00:00Z",
                            "1502-06-11T12:00:00Z", "altered fidelity instant/days-off"},
                    HeldRow{"before_the_first_year", "one-instant", "0001-01-01T00:00:00Z", "0001-01-01T00:00:00Z",
                            "-0001-12-31T00:00:00Z", "altered fidelity instant/days-off"},
                    HeldRow{"year_of_five_digits", "one-instant", "9999-12-31T23:59:59Z", "9999-12-31T23:59:59Z",
                            "10000-01-01T00:59:59Z", "altered fidelity instant/hours-off"},
                    HeldRow{"no_notation", "one-instant", noon, noon, "native instant u8:3f",
                            "altered fidelity instant/changed"},
                    HeldRow{"local", "one-instant", noon, noon, "native local-time u8:313935332d30342d3037",
                            "altered fidelity value/kind"},
                    HeldRow{"null", "one-instant", noon, noon, "null", "altered fidelity value/null"},
                    HeldRow{"bytes", "one-bytes", "QUJD", "ABC", "ABC", "conforms"},
                    HeldRow{"bytes_cut", "one-bytes", "QUJD", "ABC", "AB", "altered fidelity bytes/cut"},
                    HeldRow{"bytes_changed", "one-bytes", "QUJD", "ABC", "ABD", "altered fidelity bytes/changed"}),
    [](const auto& row) { return row.param.name; });

// What is written is compared in whichever notation it is: RFC 3339 with any offset, milliseconds, base 64.
struct WrittenRow {
    const char *name, *word, *held, *written, *words;
};
class WrittenNative : public testing::TestWithParam<WrittenRow> {};
TEST_P(WrittenNative, IsComparedWithWhatTheRecordHeld) {
    const WrittenRow& row = GetParam();
    const std::string line = native(row.word, row.held);
    const Case c = case_of(row.word == std::string("bytes") ? "one-bytes" : "one-instant", row.held, line);
    const Outcome held = judging::outcome(OutcomeKind::accepted, record_of(line));
    Outcome written;
    written.kind = OutcomeKind::accepted;
    written.body = fmt::format(R"({{"value":{}}})", row.written);
    const Expectation expectation = expectation_of(c);
    const Subject subject;
    JudgeInput input{c, expectation, subject, Operation::bind_round_trip, written, &held};
    input.second_round_trip = &written;
    EXPECT_EQ(judging::in_words(judge(input)), row.words);
}
constexpr const char* half = "1953-04-07T05:30:00.5Z";
INSTANTIATE_TEST_SUITE_P(
    Rows, WrittenNative,
    testing::Values(
        WrittenRow{"same", "instant", noon, R"("1953-04-07T05:30:00Z")", "conforms"},
        WrittenRow{"more_digits", "instant", half, R"("1953-04-07T05:30:00.500000Z")", "conforms"},
        WrittenRow{"another_offset", "instant", noon, R"("1953-04-07T11:15:00+05:45")", "conforms"},
        WrittenRow{"into_the_day_before", "instant", noon, R"("1953-04-06T18:00:00-11:30")", "conforms"},
        WrittenRow{"another_instant", "instant", noon, R"("1953-04-07T05:30:00+01:00")",
                   "altered fidelity instant/hours-off"},
        WrittenRow{"without_fraction", "instant", half, R"("1953-04-07T05:30:00Z")",
                   "altered fidelity instant/fraction-cut"},
        WrittenRow{"milliseconds", "instant", half, "-528143399500", "conforms"},
        WrittenRow{"milliseconds_of_the_first", "instant", "1970-01-01T00:00:00Z", "0", "conforms"},
        WrittenRow{"seconds", "instant", noon, "-528143400", "altered fidelity instant/changed"},
        WrittenRow{"no_whole_number", "instant", noon, "0.5", "altered fidelity value/kind"},
        WrittenRow{"notation_of_its_own", "instant", noon, R"("Apr 7, 1953, 5:30:00 AM")", "conforms"},
        WrittenRow{"notation_without_fraction", "instant", "1964-04-08T06:30:00.75Z",
                   R"("Apr 8, 1964, 6:30:00 AM")", "altered fidelity instant/fraction-cut"},
        WrittenRow{"bytes", "bytes", "AB", R"("QUI=")", "conforms"},
        WrittenRow{"no_bytes", "bytes", "", R"("")", "conforms"},
        WrittenRow{"all_letters", "bytes", "\xfb\xef\xbe\xff", R"("++++/w==")", "conforms"},
        WrittenRow{"other_bytes", "bytes", "AB", R"("QUM=")", "altered fidelity bytes/changed"},
        WrittenRow{"fewer_bytes", "bytes", "ABC", R"("QUI=")", "altered fidelity bytes/cut"},
        WrittenRow{"without_padding", "bytes", "AB", R"("QUI")", "altered fidelity value/kind"},
        WrittenRow{"other_alphabet", "bytes", "\xfb\xef\xbe", R"("----")", "altered fidelity value/kind"}),
    [](const auto& row) { return row.param.name; });

// The record of several kinds has the fields of one.
TEST(RecordOfKinds, HasTheFieldsOfOneKind) {
    const auto holding = [](const std::string& fields) {
        Case out = case_of("bell-or-tower", "", "null");
        out.expected = Trace::parse("{\nkey u8:2474797065\nstr u8:61\nkey u8:6e616d65\nnull\n" + fields + "}\n");
        return record_problems(out);
    };
    EXPECT_TRUE(holding("").empty());
    EXPECT_TRUE(holding("key u8:7765696768745f6b67\nint 1\nkey u8:68756d5f687a\nint 2\n").empty());
    EXPECT_EQ(holding("key u8:6e6f7465\nint 1\n").size(), 1U) << "note is a field of another type";
}

// Names are compared within their object, wherever that is.
struct NamesRow {
    const char *name, *document;
    std::size_t repeated;
    const char* first;  ///< the source of the first one
};
class RepeatedNames : public testing::TestWithParam<NamesRow> {};
TEST_P(RepeatedNames, AreThoseThatTheirObjectHadBefore) {
    const auto document = json::Document::read(GetParam().document);
    ASSERT_TRUE(document.accepted());
    const auto found = document.repeated_names();
    ASSERT_EQ(found.size(), GetParam().repeated);
    EXPECT_TRUE(std::ranges::is_sorted(found));
    if (!found.empty()) {
        EXPECT_EQ(document.source(document.tape()[found.front()]), GetParam().first);
    }
}
INSTANTIATE_TEST_SUITE_P(
    Rows, RepeatedNames,
    testing::Values(NamesRow{"none", R"({"a":1,"b":{"a":2}})", 0, ""}, NamesRow{"empty", "{}", 0, ""},
                    NamesRow{"one_member", R"([{"a":1},{"a":1}])", 0, ""},
                    NamesRow{"twice", R"({"a":1,"a":2})", 1, R"("a")"},
                    NamesRow{"thrice", R"({"a":1,"a":2,"a":3})", 2, R"("a")"},
                    NamesRow{"escaped", R"({"a":1,"\u0061":2})", 1, R"("\u0061")"},
                    NamesRow{"inner_before_outer", R"({"x":{"b":1,"b":2},"x":3})", 2, R"("b")"},
                    NamesRow{"behind_a_container", R"({"a":[{"c":1}],"b":{},"a":0})", 1, R"("a")"}),
    [](const auto& row) { return row.param.name; });

TEST(Tape, KnowsWhatComesAfterAnEntry) {
    const auto document = json::Document::read(R"([1,[2,{"a":3}],4])");
    EXPECT_EQ(document.after(0), document.tape().size());
    EXPECT_EQ(document.after(1), 2U);
    EXPECT_EQ(document.source(document.tape()[document.after(2)]), "4");
}

}  // namespace

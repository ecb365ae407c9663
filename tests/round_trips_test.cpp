// Findings about round trips: judged by the reader on both texts, and against what was decoded.
#include <fmt/format.h>
#include <gtest/gtest.h>

#include <nachklang/compare.hpp>
#include <nachklang/json.hpp>

#include "judging.hpp"
#include "played.hpp"
#include "tool_fixture.hpp"

namespace {

using namespace nachklang;
using namespace judging;

struct HandedOnRow {
    const char *name, *document, *decoded, *written, *finding;
};
class HandedOn : public testing::TestWithParam<HandedOnRow> {};
TEST_P(HandedOn, ARoundTripIsNamedAgainstWhatWasDecoded) {
    const HandedOnRow& row = GetParam();
    const Case c = document_case(row.document);
    const Outcome decoded = outcome(A, row.decoded);
    Outcome written;
    written.kind = A;
    written.body = row.written;
    EXPECT_EQ(in_words(judge({c, expectation_of(c, {}), Subject{}, Operation::round_trip, written, &decoded})),
              row.finding);
}
// 3fb999999999999a is 0.1, the literal lies just above the middle between it and the next binary64.
constexpr const char* past_the_middle = "1000000000000000124900090270330110797658562660217285156251e-58";
INSTANTIATE_TEST_SUITE_P(
    Rows, HandedOn,
    testing::Values(HandedOnRow{"misread", past_the_middle, "binary64 3fb9999999999999", "0.09999999999999999",
                                "altered fidelity number/off-by-ulp-beyond-20-digits"},
                    HandedOnRow{"miswritten", "9007199254740993.9", "binary64 4340000000000001",
                                "9.007199254741e15", "altered fidelity number/few-digits"},
                    // What ends as the document has it is no change, whatever was decoded in between.
                    HandedOnRow{"misread_and_mended", R"(["a",1])", "[\nstr u8:78\nint 1\n]", R"(["a",2])",
                                "altered fidelity number/wrong-value"},
                    HandedOnRow{"text_for_infinity", "1e400", "binary64 7ff0000000000000", "\"Infinity\"",
                                "altered fidelity number/became-text"}),
    [](const auto& info) { return info.param.name; });

TEST(SkippedParameterEntities, MayBeWrittenOrLeftOut) {
    const Case c = document_case("<!DOCTYPE a [<!ENTITY % p \"<!ATTLIST a b CDATA 'x'>\">%p;]><a/>", "xml");
    Subject subject;
    subject.settings["parameter-entities"] = "skipped";
    const auto finding = [&](std::string written) {
        Outcome outcome;
        outcome.kind = A;
        outcome.body = std::move(written);
        return in_words(judge({c, expectation_of(c, subject.settings), subject, Operation::round_trip, outcome}));
    };
    EXPECT_EQ(finding(*c.document), "conforms");
    EXPECT_EQ(finding("<a/>"), "conforms");
    EXPECT_EQ(finding("<a c='x'/>"), "altered fidelity attribute/renamed");
}

struct TextRow {
    const char *name, *written, *as_bytes, *as_text;
};
class ReturnedText : public testing::TestWithParam<TextRow> {};
TEST_P(ReturnedText, MayHoldLoneSurrogates) {
    const Case c = document_case("[\"\\uD83D\"]");
    const auto finding = [&](const Settings& settings) {
        Subject subject;
        subject.settings = settings;
        Outcome outcome;
        outcome.kind = A;
        outcome.body = GetParam().written;
        return in_words(judge({c, expectation_of(c, subject.settings), subject, Operation::round_trip, outcome}));
    };
    EXPECT_EQ(finding({}), GetParam().as_bytes);
    EXPECT_EQ(finding({{"output", "text"}}), GetParam().as_text);
}
constexpr const char* ill_formed = "ill-formed-output required output/ill-formed";
INSTANTIATE_TEST_SUITE_P(
    Rows, ReturnedText,
    testing::Values(TextRow{"in_a_string", "[\"\xED\xA0\xBD\"]", ill_formed, "conforms lone-surrogate=kept"},
                    TextRow{"another_one", "[\"\xED\xB4\x94\"]", ill_formed,
                            "altered fidelity string/surrogate-changed"},
                    TextRow{"outside_of_a_string", "[\xED\xA0\xBD]", ill_formed, ill_formed},
                    TextRow{"after_a_backslash", "[\"\\\xED\xA0\xBD\"]", ill_formed, ill_formed},
                    TextRow{"other_ill_formed_bytes", "[\"\xFF\"]", ill_formed, ill_formed}),
    [](const auto& info) { return info.param.name; });

TEST(ImpossibleValues, MayComeOutIllFormed) {
    Case c;
    c.format = find_format("json");
    c.name = "x";
    c.value = Trace::parse("binary64 7ff8000000000000\n");
    c.stance = Stance::open;
    c.question = "not-json";
    c.unlisted_is_altered = false;
    Outcome written;
    written.kind = A;
    written.body = "NaN";
    const auto finding = [&] {
        return in_words(judge({c, expectation_of(c, {}), Subject{}, Operation::encode, written}));
    };
    EXPECT_EQ(finding(), "ill-formed-output required output/ill-formed");
    c.ill_formed_is_answer = true;
    EXPECT_EQ(finding(), "open not-json=ill-formed");
    written.kind = OutcomeKind::exhausted;
    EXPECT_EQ(finding(), "open not-json=exhausted");
}

struct RoundTripRow {
    const char* name;
    const char* format;
    const char* document;
    const char* written;
    const char* finding;
};
class CanonicalRoundTrip : public testing::TestWithParam<RoundTripRow> {};
TEST_P(CanonicalRoundTrip, IsHeldToTheCanonicalFormOfTheDocument) {
    const RoundTripRow& row = GetParam();
    const Case c = document_case(row.document, row.format);
    Outcome o;
    o.kind = A;
    o.body = row.written;
    Subject subject;
    subject.settings["writes"] = "canonical";
    EXPECT_EQ(in_words(judge({c, expectation_of(c, {}), subject, Operation::round_trip, o})), row.finding);
}
INSTANTIATE_TEST_SUITE_P(
    Rows, CanonicalRoundTrip,
    testing::Values(RoundTripRow{"tags", "xml", "<a b='1'/>", "<a b=\"1\"></a>", "conforms"},
                    RoundTripRow{"empty_tag", "xml", "<a b='1'/>", "<a b=\"1\"/>",
                                 "altered required output/not-canonical"},
                    RoundTripRow{"declaration", "xml", "<a/>", "<?xml version=\"1.0\"?>\n<a></a>",
                                 "altered required output/not-canonical"},
                    RoundTripRow{"no_form", "xml", "<a xmlns='tower'/>", "<a xmlns='tower'/>", "conforms"},
                    RoundTripRow{"numbers", "json", "[1.0,1E2]", "[1,100]", "conforms"},
                    RoundTripRow{"number_left", "json", "[1.0]", "[1.0]", "altered required output/not-canonical"},
                    RoundTripRow{"no_form_of_two_names", "json", R"({"a":1,"a":2})", R"({"a":2})",
                                 "open duplicate-names=last"}),
    [](const auto& info) { return info.param.name; });

TEST(RoundTrips, OfALibraryWithoutNamespacesAreReadWithoutThem) {
    const Case c = document_case("<p:a/>", "xml");
    Outcome round_trip;
    round_trip.kind = A;
    round_trip.body = "<p:a></p:a>";
    const auto judged_with = [&](const char* namespaces) {
        Subject subject;
        subject.settings["namespaces"] = namespaces;
        const Expectation expectation = expectation_of(c, subject.settings);
        return in_words(judge({c, expectation, subject, Operation::round_trip, round_trip}));
    };
    EXPECT_EQ(judged_with("off"), "conforms");
    EXPECT_EQ(judged_with("on"), "too-lenient required verdict/accepted-ill-formed-names");
}

Finding judged_round_trip(const std::string& document, const std::string& written, const Outcome* decoded = nullptr,
                          const Outcome* second = nullptr, const CannotRepresent& cannot_represent = {}) {
    const Case c = document_case(document);
    const Expectation expectation = expectation_of(c);
    Subject subject;
    subject.cannot_represent = cannot_represent;
    Outcome round_trip;
    round_trip.kind = A;
    round_trip.body = written;
    return judge({c, expectation, subject, Operation::round_trip, round_trip, decoded, second});
}

TEST(RoundTrips, AreJudgedByTheReaderOnBothTexts) {
    EXPECT_EQ(judged_round_trip("[1]", "[1]").detail, "the same bytes");
    EXPECT_EQ(judged_round_trip("[1.0, 2]", "[1,2]").detail, "reformatted: white-space, number-spelling");
    EXPECT_EQ(in_words(judged_round_trip("[1.0, 2]", "[1,2]")), "conforms");
    EXPECT_EQ(in_words(judged_round_trip("[1]", "[1")), "ill-formed-output required output/ill-formed");
    EXPECT_EQ(in_words(judged_round_trip("[1]", "[2]")), "altered fidelity number/wrong-value");
    EXPECT_EQ(in_words(judged_round_trip("[1e400]", "[null]")), "altered fidelity value/null");
}

TEST(RoundTrips, AreAlteredByRoundingOnlyWhereDecodingWasExact) {
    const Outcome exact = outcome(A, "int 9007199254740993"), rounded = outcome(A, "binary64 4340000000000000");
    EXPECT_EQ(judged_round_trip("9007199254740993", "9007199254740992", &rounded).kind, FindingKind::conforms);
    EXPECT_EQ(in_words(judged_round_trip("9007199254740993", "9007199254740992", &exact)),
              "altered fidelity number/integer-rounded");
}

// Where each call writes another order, equal bytes are chance: the answer is the same for them.
TEST(RoundTrips, OfALibraryWithoutAnOrderAreTheSameInAnyOrder) {
    const std::string text = R"({"a":1,"b":[2]})";
    for (const auto& [again, ordered, without] :
         {std::tuple{text.c_str(), "second-round-trip=same-bytes", "second-round-trip=same-in-any-order"},
          {R"({"b":[2],"a":1})", "second-round-trip=other-spelling", "second-round-trip=same-in-any-order"},
          {R"({"b":[2], "a":1})", "second-round-trip=other-spelling", "second-round-trip=other-spelling"}}) {
        Outcome second;
        second.kind = A;
        second.body = again;
        EXPECT_EQ(in_words(judged_round_trip(R"({"a":1, "b":[2]})", text, nullptr, &second)),
                  std::string("conforms ") + ordered);
        EXPECT_EQ(in_words(judged_round_trip(R"({"a":1, "b":[2]})", text, nullptr, &second, {"order"})),
                  std::string("conforms ") + without);
    }
    // The same bytes in another order, and another value.
    Outcome second;
    second.kind = A;
    second.body = R"({"a":2,"b":[1]})";
    EXPECT_EQ(in_words(judged_round_trip(R"({"a":1, "b":[2]})", text, nullptr, &second, {"order"})),
              "altered fidelity number/wrong-value");
}

TEST(RoundTrips, ASecondThatDiffersIsNamedByWhatItChanges) {
    Outcome again;
    again.kind = A;
    again.body = "[1.00]";
    EXPECT_EQ(in_words(judged_round_trip("[1]", "[1.0]", nullptr, &again)),
              "conforms second-round-trip=other-spelling");
    again.body = "[1.5]";
    EXPECT_EQ(in_words(judged_round_trip("[1]", "[1.0]", nullptr, &again)), "altered fidelity number/wrong-value");
    // Read with fewer digits or written with fewer: it does not show.
    again.body = "[0.00390625]";
    EXPECT_EQ(in_words(judged_round_trip("[0.0039062500000000039]", "[0.0039062500000000039]", nullptr, &again)),
              "altered fidelity number/off-by-ulp number-precision=exact");
    again.body = "[1.0]";
    EXPECT_EQ(in_words(judged_round_trip("[1]", "[1.0]", nullptr, &again)),
              "conforms second-round-trip=same-bytes");
    again.body = "[1";
    EXPECT_EQ(in_words(judged_round_trip("[1]", "[1.0]", nullptr, &again)), "altered fidelity round-trip/unstable");
    EXPECT_EQ(judged_round_trip("[1]", "[1.0]", nullptr, &again).detail,
              "the second round trip writes an ill-formed text");
    again.kind = R;
    EXPECT_EQ(judged_round_trip("[1]", "[1.0]", nullptr, &again).detail, "the second round trip was rejected");
    // A text before a bare scalar is taken, and the bare scalar is not: that is no matter of the round trip.
    EXPECT_EQ(in_words(judged_round_trip("\xEF\xBB\xBF[1]", "[1]", nullptr, &again)),
              "altered fidelity round-trip/unstable byte-order-mark=ignored");
    EXPECT_NE(judged_round_trip("\xEF\xBB\xBF"
                                "1",
                                "1", nullptr, &again)
                  .kind,
              FindingKind::altered);
    EXPECT_EQ(in_words(judged_round_trip("1.0", "1", nullptr, &again)), "altered fidelity round-trip/unstable");
    // No answer at all is no change of a value, and a fault of the adapter none of the implementation.
    again.kind = OutcomeKind::timed_out;
    again.body = "no answer within 5 s";
    EXPECT_EQ(in_words(judged_round_trip("[1]", "[1.0]", nullptr, &again)), "failed outcome/timed-out");
    EXPECT_EQ(judged_round_trip("[1]", "[1.0]", nullptr, &again).detail,
              "in the second round trip: no answer within 5 s");
    again.kind = OutcomeKind::adapter_fault;
    EXPECT_EQ(in_words(judged_round_trip("[1]", "[1.0]", nullptr, &again)), "adapter-fault outcome/adapter-fault");
    again.kind = R;
    // Where the first has altered the value already, that is the finding.
    EXPECT_EQ(in_words(judged_round_trip("[1]", "[2]", nullptr, &again)), "altered fidelity number/wrong-value");
}

// A codec that writes its documents as played here, and reads them as the reference reader does.
Outcome passes(const Request& request) {
    using namespace nachklang::played_codec;
    const Reading reading = json::format().read(*request.body, {});
    if (request.operation == Operation::decode)
        return reading.accepted() ? accepted(std::string(reading.trace.text())) : outcome_of(R, "no");
    if (request.operation == Operation::encode) return outcome_of(A, "1");
    if (*request.body == "[1, 2]") return outcome_of(A, "[1,2]");
    if (*request.body == "[-0]") return outcome_of(A, "[0]");
    if (*request.body == "[0.1]") return outcome_of(A, "[0.2]");
    if (*request.body == "[3]") return outcome_of(R, "no threes");
    return reading.accepted() ? outcome_of(A, *request.body) : outcome_of(R, "no");
}

std::string in_words(const std::vector<RoundTripSurvey::Change>& changes) {
    std::string out;
    for (const auto& c : changes) out += fmt::format("{} {} {}; ", c.what, c.cases, *c.smallest->document);
    return out;
}

TEST(RoundTrips, AreCountedByWhatTheyChange) {
    using namespace nachklang::played_codec;
    std::vector<Case> cases;
    for (const char* document : {"[1]", "[1, 2]", "[-0]", "[0.1]", "[3]", "[1,]"})
        cases.push_back(case_of_document("json", std::string("test/") + document, json::format(), document));
    const std::vector<Subject> subjects{played("kufe", {"decode", "round-trip", "pieces"}),
                                        played("halm", {"decode"})};
    const auto found =
        survey_round_trips(cases, subjects, [](const Subject&) { return std::make_unique<Played>(passes); }, {});
    ASSERT_EQ(found.size(), 1U) << "halm writes nothing";
    EXPECT_EQ(found[0].asked, 5U) << "one is no document";
    EXPECT_EQ(found[0].same_bytes, 1U);
    EXPECT_EQ(found[0].changed, 2U);
    EXPECT_EQ(found[0].refused, 1U);
    EXPECT_EQ(in_words(found[0].losses), "negative-zero: lost 1 [-0]; number/wrong-value 1 [0.1]; ");
    EXPECT_EQ(in_words(found[0].respellings), "white-space 1 [1, 2]; ");
}

class RoundTripsTool : public tool_test::Tool {};

TEST_F(RoundTripsTool, ShowsOneTableForWaysThatChangeAlike) {
    write("bells/a.json", "[1, 2]");
    write("bells/b.json", "{\"hum_hz\":0.30000000000000004}");
    const auto called =
        run("round-trips --corpus bells --config " + configuration({"sound", "written-with-16-digits"}) +
            " --implementation sound --implementation written-with-16-digits");
    EXPECT_EQ(called.status, 0) << called.err;
    EXPECT_NE(called.out.find("sound round-trip, written-with-16-digits round-trip\n"), std::string::npos)
        << called.out;
    EXPECT_NE(called.out.find("white-space  1  a.json"), std::string::npos) << called.out;
    const auto lines = run("round-trips --json --corpus bells --config " + configuration({"sound"}));
    EXPECT_NE(lines.out.find(R"("operation":"round-trip","asked":2,"same_bytes":1,"changed":0)"), std::string::npos)
        << lines.out;
    write("none.toml",
          "[[implementation]]\nname = \"kufe\"\nreach = \"verdict\"\ncommand = [\"true\"]\nformats = [\"json\"]\n");
    const auto none = run("round-trips kufe --corpus bells --config none.toml");
    EXPECT_EQ(none.status, 2);
    EXPECT_NE(none.err.find("no selected implementation writes documents"), std::string::npos) << none.err;
}

}  // namespace

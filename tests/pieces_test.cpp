// Documents that arrive in pieces: how they are cut, what is found when an answer depends on it, and every cut.
#include <nachklang/json.hpp>
#include <nachklang/observations.hpp>

#include "judging.hpp"
#include "played.hpp"
#include "seeded_faults/arrival.hpp"
#include "tool_fixture.hpp"

namespace {

using namespace nachklang;
using namespace nachklang::played_codec;
using tool_test::Called;

struct CutsRow {
    const char *document, *cuts, *pieces;
};
class Cuts : public testing::TestWithParam<CutsRow> {};
TEST_P(Cuts, MakeThesePieces) {
    std::string out;
    for (const std::string_view piece : adapter::detail::pieces_of(GetParam().document, GetParam().cuts))
        out += (out.empty() ? "" : "|") + std::string(piece);
    EXPECT_EQ(out, GetParam().pieces);
}
INSTANTIATE_TEST_SUITE_P(Rows, Cuts,
                         testing::Values(CutsRow{"[1]", "", "[1]"}, CutsRow{"[1]", "each", "[|1|]"},
                                         CutsRow{"[1]", "1", "[|1]"}, CutsRow{"[1]", "1,2", "[|1|]"},
                                         CutsRow{"[1]", "2,2", "[1|]"}, CutsRow{"[1]", "3", "[1]"},
                                         CutsRow{"[1]", "0,9", "[1]"}, CutsRow{"", "each", ""}));

/// The document as a mistake of src/seeded_faults/arrival.hpp makes it, cut at these places.
std::string arrived(const seeded_faults::Arrival& arrival, std::string_view document, std::string_view cuts) {
    return arrival(adapter::detail::pieces_of(document, cuts)).value_or("refused");
}
TEST(Arrivals, ReadWhatTheirMistakeMakesOfACut) {
    using namespace seeded_faults;
    EXPECT_EQ(arrived(characters_replaced, "\"\xC3\xA9\"", "2"), "\"\xEF\xBF\xBD\xEF\xBF\xBD\"");
    EXPECT_EQ(arrived(characters_replaced, "\"\xC3\xA9\"", "1,3"), "\"\xC3\xA9\"");
    EXPECT_EQ(arrived(white_space_skipped, "\"a b\"", "2"), "\"ab\"");
    EXPECT_EQ(arrived(last_byte_lost('\\'), "\"\\n\"", "2"), "\"n\"");
    EXPECT_EQ(arrived(line_ends_counted_twice, "<a>\r\n</a>", "4"), "<a>\n\n</a>");
    EXPECT_EQ(arrived(refuses_between([](char c) { return c == '&'; }, [](char) { return true; }), "&lt;", "1"),
              "refused");
}

// The finding about an answer in pieces, beside that to the whole.
struct JudgedRow {
    const char *name, *document;
    OutcomeKind whole;
    const char* whole_says;
    OutcomeKind pieces;
    const char *pieces_say, *words;
};
class InPieces : public testing::TestWithParam<JudgedRow> {};
TEST_P(InPieces, AreJudgedByTheWhole) {
    const JudgedRow& row = GetParam();
    const Case c = judging::document_case(row.document);
    const Outcome whole = judging::outcome(row.whole, row.whole_says),
                  pieces = judging::outcome(row.pieces, row.pieces_say);
    const Expectation expectation = expectation_of(c);
    EXPECT_EQ(judging::in_words(judge({c, expectation, Subject{}, Operation::pieces, pieces, &whole})), row.words);
}
using judging::A;
using judging::R;
INSTANTIATE_TEST_SUITE_P(
    Rows, InPieces,
    testing::Values(
        JudgedRow{"same", "[1]", A, "[\nint 1\n]", A, "[\nint 1\n]", "conforms"},
        JudgedRow{"refused", "[1]", A, "[\nint 1\n]", R, "no", "too-strict fidelity pieces/other-verdict"},
        JudgedRow{"other_value", "[12]", A, "[\nint 12\n]", A, "[\nint 2\n]",
                  "altered fidelity pieces/other-value"},
        JudgedRow{"both_wrong", "[12]", A, "[\nint 3\n]", A, "[\nint 3\n]", "altered fidelity number/wrong-value"},
        JudgedRow{"right_in_pieces", "[12]", A, "[\nint 3\n]", A, "[\nint 12\n]", "conforms"},
        JudgedRow{"both_refuse", "[1", R, "no", R, "no", "conforms"},
        JudgedRow{"taken_in_pieces", "[1", R, "no", A, "[\nint 1\n]", "unexplained fidelity pieces/other-verdict"},
        JudgedRow{"other_answer", "{\"a\":1,\"a\":2}", A, "{\nkey u8:61\nint 2\n}", A, "{\nkey u8:61\nint 1\n}",
                  "altered fidelity pieces/other-value"},
        JudgedRow{"allowed_refusal", "1e400", A, "binary64 7ff0000000000000", R, "no", "open number-range=refused"},
        JudgedRow{"crashed", "[1]", A, "[\nint 1\n]", OutcomeKind::crashed, "", "failed outcome/crashed"}),
    [](const auto& row) { return row.param.name; });

/// Reads well, but refuses a cut behind a digit.
Outcome refuses_cut_digits(const Request& request) {
    for (const std::string_view piece : adapter::detail::pieces_of(*request.body, request.cuts))
        if (piece.size() < request.body->size() && std::isdigit(static_cast<unsigned char>(piece.back())) != 0)
            return outcome_of(OutcomeKind::rejected, "a number is cut");
    return accepted(std::string(json::format().read(*request.body, {}).trace.text()));
}
ExecutorFactory cutting() {
    return [](const Subject&) { return std::make_unique<Played>(refuses_cut_digits); };
}

TEST(Pieces, ARunAsksEachByte) {
    const std::vector<Subject> subjects{played("kufe", {"decode", "pieces"})};
    const std::vector<Case> cases{case_of_document("json", "test/0", json::format(), "[12]"),
                                  case_of_document("json", "test/1", json::format(), "[true]")};
    std::vector<std::string> found;
    FunctionSink sink([&](const ChunkReport& report) {
        for (const Result& r : report.results)
            found.push_back(std::string(name_of(r.operation)) + " " + judging::in_words(r.finding));
    });
    run_campaign(cases, subjects, cutting(), {}, sink);
    EXPECT_EQ(found, (std::vector<std::string>{"decode conforms", "pieces too-strict fidelity pieces/other-verdict",
                                               "decode conforms", "pieces conforms"}));
}

TEST(Pieces, TheSurveyTriesEveryCut) {
    const std::vector<Subject> subjects{played("kufe", {"decode", "pieces"}), played("halm", {"decode"})};
    const std::vector<Case> cases{case_of_document("json", "test/0", json::format(), "[12]"),
                                  case_of_document("json", "test/1", json::format(), "[]"),
                                  case_of_document("json", "test/2", json::format(), std::string(65, ' ') + "1")};
    const auto found = survey_pieces(cases, subjects, cutting(), {});
    ASSERT_EQ(found.size(), 1U) << "halm takes no pieces";
    EXPECT_EQ(found[0].documents, 2U) << "one is too long";
    EXPECT_EQ(found[0].cuts, 4U + 2U) << "three cuts and each byte; one cut and each byte";
    std::string differences;
    for (const auto& d : found[0].differences)
        differences += d.of->name + " " + d.cuts + " " + std::string(name_of(d.effect)) + " " + d.inside + "; ";
    EXPECT_EQ(differences,
              "test/0 2 verdict inside a word or a number; test/0 3 verdict beside a punctuation mark; "
              "test/0 each verdict after each byte; ");
    EXPECT_TRUE(found[0].complete);
}

class PiecesTool : public tool_test::Tool {};

TEST_F(PiecesTool, ShowsWhatDependsOnCuts) {
    const std::string config =
        write("faults.toml", "[[implementation]]\nname = \"cuts\"\ncommand = [\"" BUILD_FOLDER
                             "/adapters/seeded-faults-adapter\", \"pieces-cut-literal\"]\n"
                             "formats = [\"json\"]\n");
    write("bells/a.json", "[true]");
    write("bells/b.json", "[1]");
    const Called called = run("pieces --config " + config + " --implementation cuts --corpus bells");
    EXPECT_EQ(called.status, 1) << called.err;
    EXPECT_NE(called.out.find("cuts: another verdict after 4 cuts of 1 document\n"), std::string::npos)
        << called.out;
    EXPECT_NE(called.out.find("[t│rue]"), std::string::npos) << called.out;
    const Called lines = run("pieces --json --config " + config + " --implementation cuts --corpus bells");
    EXPECT_NE(lines.out.find(R"("effect":"verdict","cuts":"2")"), std::string::npos) << lines.out;
    const Called none = run("pieces --implementation python-json");
    EXPECT_EQ(none.status, 2);
    EXPECT_NE(none.err.find("no selected implementation takes documents in pieces"), std::string::npos) << none.err;
}

}  // namespace

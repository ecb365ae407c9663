// Decoding into records: what a sheet says of it, what adapters are asked, and what is found.
#include <nachklang/corpus.hpp>
#include <nachklang/record_types.hpp>

#include "judging.hpp"
#include "tool_fixture.hpp"

namespace {

using namespace nachklang;
using tool_test::Called;

Checked<std::vector<Case>> sheet_of(const std::string& rows) {
    const Scratch scratch;
    return load_sheet(
        scratch.write("a.toml", "[sheet]\nformat = 'json'\naspect = 'records'\nstandard = 'RFC 8259'\n" + rows),
        "x");
}

const std::string fraction =
    "[[case]]\nid = 'a'\ntext = '{\"value\":7.25}'\nrecord = 'one-int32'\nstance = 'accept'\nquestion = "
    "'record-kind'\n"
    "trace = '''\n{\nkey u8:76616c7565\nspelled u8:372e3235\n}\n'''\nclause = '6'\nwhy = 'x'\n";

struct SheetRow {
    const char *name, *rows, *problem;
};
class RecordSheets : public testing::TestWithParam<SheetRow> {};
TEST_P(RecordSheets, AreHeldAgainstTheirTypes) {
    const auto loaded = sheet_of(GetParam().rows);
    std::string found = loaded.ok() ? "" : loaded.problem().line();
    if (loaded.ok())
        for (const Problem& problem : check_case(loaded.value().at(0))) found += problem.line() + "\n";
    EXPECT_NE(found.find(GetParam().problem), std::string::npos) << found;
}
const std::string start = "[[case]]\nid = 'a'\nclause = '6'\nwhy = 'x'\nstance = 'accept'\n";
const std::string unknown_type = start + "text = '{}'\nrecord = 'tower'\n",
                  of_value = start + "value = '''\n{\nkey u8:61\nnull\n}\n'''\nrecord = 'bell'\n",
                  no_trace = start + "text = '{}'\nrecord = 'bell'\n",
                  no_document = start + "text = '{'\nrecord = 'bell'\ntrace = 'null'\n",
                  other_fields =
                      start + "text = '{}'\nrecord = 'one-text'\ntrace = '''\n{\nkey u8:61\nnull\n}\n'''\n";
INSTANTIATE_TEST_SUITE_P(
    Rows, RecordSheets,
    testing::Values(SheetRow{"unknown_type", unknown_type.c_str(), "unknown record type 'tower'"},
                    SheetRow{"of_a_value", of_value.c_str(), "its value does not hold just the fields of bell"},
                    SheetRow{"no_trace", no_trace.c_str(), "what is accepted has no trace"},
                    SheetRow{"no_document", no_document.c_str(), "its document is none"},
                    SheetRow{"other_fields", other_fields.c_str(),
                             "its trace does not hold just the fields of one-text"}),
    [](const auto& row) { return row.param.name; });

struct OutcomeRow {
    const char *name, *got, *words;
    OutcomeKind kind = OutcomeKind::accepted;
};
class Bound : public testing::TestWithParam<OutcomeRow> {};
TEST_P(Bound, ValuesAreJudgedByWhatTheDocumentSays) {
    const auto loaded = sheet_of(fraction);
    ASSERT_TRUE(loaded.ok()) << loaded.problem().line();
    const Case& c = loaded.value().at(0);
    const Outcome outcome = judging::outcome(GetParam().kind, GetParam().got);
    EXPECT_EQ(judging::in_words(judge({c, expectation_of(c), Subject{}, Operation::bind, outcome})),
              GetParam().words);
}
INSTANTIATE_TEST_SUITE_P(
    Rows, Bound,
    testing::Values(
        OutcomeRow{"cut", "{\nkey u8:76616c7565\nint 7\n}", "altered fidelity number/truncated-to-integer"},
        OutcomeRow{"default", "{\nkey u8:76616c7565\nint 0\n}", "altered fidelity number/flushed-to-zero"},
        OutcomeRow{"kept", "{\nkey u8:76616c7565\nbinary64 401d000000000000\n}", "conforms"},
        OutcomeRow{"refused", "no int", "open record-kind=refused", OutcomeKind::rejected}),
    [](const auto& row) { return row.param.name; });

// What a record becomes without a value: its type's default, what it held before, or a NaN with any payload.
const std::string null_for_a_number = R"(
[[case]]
id       = 'a'
text     = '{"value":null}'
record   = 'one-binary64'
stance   = 'accept'
question = 'record-null'
answers  = { default = { trace = '''
{
key u8:76616c7565
int 0
}
''' }, earlier = { trace = '''
{
key u8:76616c7565
spelled u8:34312e35
}
''' }, nan = { trace = '''
{
key u8:76616c7565
binary64 7ff8000000000000
}
''' } }
trace    = '''
{
key u8:76616c7565
null
}
'''
clause   = '6'
why      = 'x'
)";
class BoundToNull : public testing::TestWithParam<OutcomeRow> {};
TEST_P(BoundToNull, AnswersByWhatTheSheetLists) {
    const auto loaded = sheet_of(null_for_a_number);
    ASSERT_TRUE(loaded.ok()) << loaded.problem().line();
    const Case& c = loaded.value().at(0);
    const std::string got = "{\nkey u8:76616c7565\n" + std::string(GetParam().got) + "\n}";
    const Outcome outcome = judging::outcome(GetParam().kind, got);
    EXPECT_EQ(judging::in_words(judge({c, expectation_of(c), Subject{}, Operation::bind, outcome})),
              GetParam().words);
}
INSTANTIATE_TEST_SUITE_P(
    Rows, BoundToNull,
    testing::Values(OutcomeRow{"zero", "binary64 0000000000000000", "open record-null=default"},
                    OutcomeRow{"earlier", "binary64 4044c00000000000", "open record-null=earlier"},
                    OutcomeRow{"nan", "binary64 7ff8000000000000", "open record-null=nan"},
                    OutcomeRow{"negative_nan", "binary64 fff8000000000000", "open record-null=nan"},
                    OutcomeRow{"infinity", "binary64 7ff0000000000000", "altered fidelity value/kind"},
                    OutcomeRow{"left", "binary64 4045000000000000", "altered fidelity value/kind"}),
    [](const auto& row) { return row.param.name; });

// A record that is written again is held against the fields that it held.
const std::string a_bell = R"(
[[case]]
id     = 'a'
text   = '{"name":"Anna","weight_kg":550,"hum_hz":110.5,"note":null}'
record = 'bell'
stance = 'accept'
trace  = '''
{
key u8:6e616d65
str u8:416e6e61
key u8:7765696768745f6b67
int 550
key u8:68756d5f687a
spelled u8:3131302e35
key u8:6e6f7465
null
}
'''
clause = '6'
why    = 'x'
)";
struct WrittenRow {
    const char *name, *weight, *written, *words;
    const char* second = nullptr;  ///< what its own decoder makes of it; null: the same text
};
class WrittenRecord : public testing::TestWithParam<WrittenRow> {};
TEST_P(WrittenRecord, IsJudgedByTheFieldsThatItHeld) {
    const auto loaded = sheet_of(a_bell);
    ASSERT_TRUE(loaded.ok()) << loaded.problem().line();
    const Case& c = loaded.value().at(0);
    const Outcome held = judging::outcome(
        OutcomeKind::accepted, "{\nkey u8:6e616d65\nstr u8:416e6e61\nkey u8:7765696768745f6b67\n" +
                                   std::string(GetParam().weight) +
                                   "\nkey u8:68756d5f687a\nspelled u8:3131302e35\nkey u8:6e6f7465\nnull\n}");
    Outcome written, again;
    written.kind = again.kind = OutcomeKind::accepted;
    written.body = again.body = GetParam().written;
    if (GetParam().second != nullptr) again = judging::outcome(OutcomeKind::rejected, GetParam().second);
    const Expectation expectation = expectation_of(c);
    const Subject subject;
    JudgeInput input{c, expectation, subject, Operation::bind_round_trip, written, &held};
    input.second_round_trip = &again;
    EXPECT_EQ(judging::in_words(judge(input)), GetParam().words);
}
INSTANTIATE_TEST_SUITE_P(
    Rows, WrittenRecord,
    testing::Values(WrittenRow{"all", "int 550", R"({"name":"Anna","weight_kg":550,"hum_hz":110.5,"note":null})",
                               "conforms record-null-written=kept"},
                    WrittenRow{"without_null", "int 550", R"({"name":"Anna","weight_kg":550,"hum_hz":110.5})",
                               "open record-null-written=left-out"},
                    WrittenRow{"another_name", "int 550",
                               R"({"Name":"Anna","weight_kg":550,"hum_hz":110.5,"note":null})",
                               "altered fidelity name/changed"},
                    WrittenRow{"without_a_number", "int 550", R"({"name":"Anna","hum_hz":110.5,"note":null})",
                               "altered fidelity member/lost"},
                    WrittenRow{"ill_formed", "int 550", R"({"name":"Anna","weight_kg":550,"hum_hz":110.5,"note":})",
                               "ill-formed-output required output/ill-formed"},
                    // The decoder's mistake is judged where the record was decoded.
                    WrittenRow{"what_was_held", "int 7",
                               R"({"name":"Anna","weight_kg":7,"hum_hz":110.5,"note":null})",
                               "conforms record-null-written=kept"},
                    WrittenRow{"what_the_document_has", "int 7",
                               R"({"name":"Anna","weight_kg":550,"hum_hz":110.5,"note":null})",
                               "conforms record-null-written=kept"},
                    WrittenRow{"refused_by_itself", "int 550",
                               R"({"name":"Anna","weight_kg":550.0,"hum_hz":110.5,"note":null})",
                               "altered fidelity round-trip/unstable", "no integer"},
                    WrittenRow{"never_filled", "unset",
                               R"({"name":"Anna","weight_kg":4711,"hum_hz":110.5,"note":null})", "unsupported"}),
    [](const auto& row) { return row.param.name; });

class Records : public tool_test::Tool {};

// Only `bind` and its round trip are asked of a case with a record, and they of no other case.
TEST_F(Records, AreAskedOfThoseThatBind) {
    const Called boost = run("run json --implementation boost-json --results b.jsonl");
    std::istringstream lines(tool_test::slurp(folder_ / "b.jsonl"));
    std::size_t bound = 0;
    for (std::string line; std::getline(lines, line);) {
        if (line.find("\"record\":\"result\"") == std::string::npos) continue;
        const bool of_records = line.find("\"case\":\"records/") != std::string::npos;
        EXPECT_EQ(of_records, line.find("\"operation\":\"bind") != std::string::npos) << line;
        bound += of_records ? 1 : 0;
    }
    EXPECT_GT(bound, 500U);
    const Called none = run("run json --implementation rapidjson/default --aspect records");
    EXPECT_EQ(none.out.find("failing of"), std::string::npos) << none.out;
}

// The decoder of a microcontroller: a nested record counts as found at its braces, and keeps what was in memory.
TEST_F(Records, ASilentUnsetFieldIsFound) {
    const Called r = run("try --case records/empty-object-in-record --implementation simulated-table-decoder");
    EXPECT_EQ(r.status, 1) << r.out;
    EXPECT_NE(r.out.find("altered"), std::string::npos) << r.out;
    EXPECT_NE(r.out.find("77"), std::string::npos) << r.out;
}

TEST_F(Records, AreExportedAsSuch) {
    const Called r = run("corpus export json --aspect records");
    EXPECT_NE(r.out.find("\"record\":\"one-int32\""), std::string::npos);
    EXPECT_EQ(run("corpus check json --aspect records").status, 0);
}

// Surveys ask for whole documents: a mode that only decodes into records is none that they could ask.
TEST_F(Records, AreNoDocumentsForSurveys) {
    for (const std::string command : {"limits", "growth"}) {
        const Called none = run(command + " nlohmann/records");
        EXPECT_EQ(none.status, 2) << none.out;
        EXPECT_NE(none.err.find(command + ": no selected implementation decodes"), std::string::npos) << none.err;
    }
}

// What an application puts into a record, and no document gives.
TEST_F(Records, AreFilledAndEncoded) {
    const Called r = run("run json --case 'records/filled-*' --implementation nlohmann/records --results f.jsonl");
    EXPECT_EQ(r.status, 0) << r.out;
    const std::string lines = tool_test::slurp(folder_ / "f.jsonl");
    EXPECT_NE(lines.find("\"case\":\"records/filled-nan\""), std::string::npos);
    EXPECT_NE(lines.find("{\"question\":\"record-no-number\",\"answered\":\"null\""), std::string::npos);
    EXPECT_EQ(lines.find("\"operation\":\"encode\""), std::string::npos);
}

// A sheet of the user's own may hold a document that is none.
TEST_F(Records, OfADocumentThatIsNoneAreTried) {
    std::filesystem::create_directory(folder_ / "own");
    write("own/a.toml",
          "[sheet]\nformat = 'json'\naspect = 'own'\nstandard = 'RFC 8259'\n[[case]]\nid = 'cut'\ntext = "
          "'{\"value\":7'\n"
          "record = 'one-int32'\nstance = 'open'\nquestion = 'record-kind'\nclause = '2'\nwhy = 'x'\n");
    const Called r = run("try --corpus own --case own/cut --implementation nlohmann/records");
    EXPECT_EQ(r.status, 0) << r.out << r.err;
    EXPECT_NE(r.out.find("reference: refused"), std::string::npos) << r.out;
}

}  // namespace

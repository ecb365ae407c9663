// What the tool shows of results: `run`, `try`, `card`, `compare`, `numbers`, `limits`, `shrink`.
#include <gtest/gtest.h>

#include <fmt/format.h>

#include <algorithm>
#include <iterator>
#include <sstream>

#include <nachklang/store.hpp>

#include "tool_fixture.hpp"

namespace {

using namespace tool_test;

TEST_F(Tool, RunAndCompareShowBehaviours) {
    configuration({"sound", "cut-at-nul"});
    const std::string strings = " --config codecs.toml --aspect strings";
    const Called r = run("run json --results r.jsonl" + strings);
    EXPECT_NE(r.out.find("Reads a string only up to its first U+0000 if"), std::string::npos) << r.out;
    EXPECT_EQ(r.out.find("findings by cause"), std::string::npos);
    EXPECT_NE(slurp(folder_ / "r.jsonl")
                  .find("{\"record\":\"behaviour\",\"format\":\"json\",\"implementation\":"
                        "\"cut-at-nul\""),
              std::string::npos);
    EXPECT_NE(run("run json --by cause" + strings).out.find("findings by cause"), std::string::npos);
    const Called asked = run("run json --by question" + strings);
    EXPECT_NE(asked.out.find("nul-character"), std::string::npos);
    EXPECT_NE(asked.out.find("     2  kept\n"), std::string::npos) << asked.out;
    const Called pair = run("compare sound cut-at-nul" + strings);
    EXPECT_EQ(pair.status, 0) << pair.err;
    EXPECT_TRUE(pair.out.starts_with("from sound to cut-at-nul: 0 behaviours end, 1 begin, 0 stay\n")) << pair.out;
    EXPECT_EQ(run("compare sound sound" + strings).status, 2);
    EXPECT_EQ(run("compare sound tower" + strings).status, 2);
}

TEST_F(Tool, TrySaysOnceWhatManyDoAlike) {
    configuration(
        {"sound", "minus-lost", "cut-at-nul", "name-cut-at-nul", "last-duplicate-wins", "tenth-digit-ignored"});
    write("bell.json", "[\"a\\u0000b\"]");
    const Called r = run("try bell.json --config codecs.toml");
    EXPECT_EQ(r.status, 1) << r.err;
    EXPECT_NE(r.out.find("5 implementations  decode  accepted    conforms"), std::string::npos) << r.out;
    EXPECT_NE(r.out.find("sound, minus-lost, name-cut-at-nul, last-duplicate-wins, tenth-digit-ignored"),
              std::string::npos)
        << r.out;
    EXPECT_NE(r.out.find("\n  cut-at-nul  decode"), std::string::npos) << "what differs keeps its line: " << r.out;
}

TEST_F(Tool, RecordedAnswersTakePartUnderTheirVersion) {
    configuration({"sound", "minus-lost"});
    const std::string own = " --config codecs.toml --aspect numbers";
    const Called tried = run("try --case names/empty-name --config codecs.toml");
    EXPECT_NE(tried.out.find("recorded on 20"), std::string::npos) << tried.out;
    EXPECT_NE(tried.out.find("python-json@3."), std::string::npos) << tried.out;
    EXPECT_EQ(tried.status, 0) << "what is recorded fails nothing here";
    // A name once where all modes agree, else each mode by its own.
    const std::string declaration = run("try --case prolog/declaration-space-only --implementation 'tdom@*'").out;
    EXPECT_NE(declaration.find("tdom@0.9.3/default\n"), std::string::npos) << declaration;
    EXPECT_NE(declaration.find("tdom@0.9.3/opened-by-tdom\n"), std::string::npos) << declaration;
    const std::string element = run("try --case markup/siblings --implementation 'tdom@*'").out;
    EXPECT_NE(element.find("tdom@0.9.3\n"), std::string::npos) << element;
    write("own.json", R"({"bell":"not recorded"})");
    EXPECT_EQ(run("try own.json --config codecs.toml").out.find("recorded on"), std::string::npos);
    // By name, where nothing installed has it.
    EXPECT_NE(run("card python-json" + own).out.find("/default"), std::string::npos);
    EXPECT_EQ(run("compare sound python-json" + own).status, 0);
    EXPECT_EQ(run("try own.json --config codecs.toml --implementation no-such-library").status, 2);
    // Peers are named and not counted.
    const std::string mine = "run json --implementation minus-lost" + own;
    const Called alone = run(mine), beside = run(mine + " --recorded --disagreements d.jsonl");
    const auto totals = [](const std::string& out) {
        return out.substr(out.find(" results: "), out.find('\n', out.find(" results: ")) - out.find(" results: "));
    };
    EXPECT_EQ(totals(alone.out), totals(beside.out));
    EXPECT_EQ(alone.status, beside.status);
    EXPECT_EQ(beside.out.find("@3."), std::string::npos) << "no behaviour of a peer is listed";
    EXPECT_NE(slurp(folder_ / "d.jsonl").find("python-json@3."), std::string::npos);
    EXPECT_NE(beside.out.find("engines"), std::string::npos) << beside.out;
}

TEST_F(Tool, ViewsAreRecordsWhereAProgramReadsThem) {
    configuration({"sound", "minus-lost"});
    write("bell.json", "[-1.5]");
    const std::string config = " --json --config codecs.toml";
    const std::pair<const char*, std::vector<std::string>> calls[] = {
        {"implementations",
         {"\"record\":\"implementation\"", "\"implementation\":\"minus-lost\"", "\"installed\":true"}},
        {"corpus list json --aspect numbers",
         {"\"record\":\"case\"", "\"case\":\"numbers/tenth\"", "\"stance\":\"accept\""}},
        {"card sound --aspect numbers", {"\"record\":\"card\"", "\"question\":\"negative-zero\"", "\"kept\":"}},
        {"limits sound --most 64", {"\"record\":\"limit\"", "\"shape\":\"array-depth\"", "\"largest\":64"}},
        {"numbers minus-lost --literal=-1.5", {"\"record\":\"numbers\"", "\"wrong\":1", "\"literal\":\"-1.5\""}},
        {"try bell.json",
         {"\"record\":\"result\"", "\"cause\":\"number/sign-lost\"", "\"record\":\"disagreement\""}},
    };
    for (const auto& [words, wanted] : calls) {
        const Called r = run(words + config);
        EXPECT_LT(r.status, 2) << words << r.err;
        for (const std::string& part : wanted)
            EXPECT_NE(r.out.find(part), std::string::npos) << words << "\n" << r.out;
        for (std::string_view rest = r.out; !rest.empty(); rest.remove_prefix(rest.find('\n') + 1))
            EXPECT_TRUE(nachklang::find_format("json")->read(rest.substr(0, rest.find('\n'))).accepted()) << words;
    }
}

TEST_F(Tool, TheReferenceOfOptionsIsWhatTheToolTakes) {
    EXPECT_EQ(run("manual --markdown").out, slurp(SOURCE_FOLDER "/docs/options.md"));
}

TEST_F(Tool, TryShowsWhereAnswersPart) {
    configuration({"sound", "minus-lost"});
    write("note.json", R"({"cents":-12.5})");
    const Called r = run("try note.json --config codecs.toml");
    EXPECT_EQ(r.status, 1);
    EXPECT_NE(r.out.find("reference: accepted"), std::string::npos);
    EXPECT_NE(r.out.find("altered (fidelity) number/sign-lost  -12.5 became 12.5"), std::string::npos) << r.out;
    EXPECT_NE(r.out.find("  /cents\n    -12.5  document, sound\n    12.5 binary64  minus-lost\n"),
              std::string::npos)
        << r.out;
    EXPECT_EQ(r.out.find('\x1B'), std::string::npos);  // no terminal, no colour
    EXPECT_EQ(run("try --case names/empty-name --config codecs.toml").status, 0);
}

TEST_F(Tool, ColoursAreWhereTheyAreAskedFor) {
    configuration({"sound"});
    for (const auto& [option, coloured] : {std::pair{"", false},
                                           {"--colour", true},
                                           {"--color", true},
                                           {"--color=always", true},
                                           {"--colour=auto", false},
                                           {"--colour --color=never", false},
                                           {"--no-color", false},
                                           {"--no-colour", false}}) {
        const Called r = shell(fmt::format("NO_COLOR=1 {}/nachklang implementations sound {} --config codecs.toml",
                                           BUILD_FOLDER, option));
        EXPECT_EQ(r.status, 0) << option << r.err;
        EXPECT_EQ(r.out.find('\x1B') != std::string::npos, coloured) << option << r.out;
    }
    const Called wrong = run("implementations sound --colour=purple --config codecs.toml");
    EXPECT_EQ(wrong.status, 2);
    EXPECT_NE(wrong.err.find("purple"), std::string::npos) << wrong.err;
}

TEST_F(Tool, RunShowsTheCasesBehindAnAnswerOrACause) {
    configuration({"sound", "minus-lost"});
    const std::string base = "run json --config codecs.toml --aspect numbers ";
    const Called answer = run(base + "--question negative-zero --answer kept");
    EXPECT_NE(answer.out.find("negative-zero answered \"kept\": "), std::string::npos)
        << answer.status << answer.out << answer.err;
    EXPECT_NE(answer.out.find("sound: "), std::string::npos);
    EXPECT_NE(answer.out.find("  numbers/negative-zero"), std::string::npos);
    EXPECT_EQ(answer.out.find("behaviours:"), std::string::npos);
    EXPECT_NE(run(base + "--question negative-zero --answer lost").out.find("\"lost\": 0 results"),
              std::string::npos);
    const Called cause = run(base + "--cause number/sign-lost");
    EXPECT_NE(cause.out.find("minus-lost: "), std::string::npos) << cause.out;
    EXPECT_NE(cause.out.find(" became "), std::string::npos);
    EXPECT_EQ(cause.status, 1);
    const std::pair<const char*, const char*> wrong[] = {
        {"--question nonsense", "'nonsense' is not a question of any format, nor of these cases"},
        {"--question negative-zero --answer maybe",
         "'maybe' is not an answer to negative-zero; use one of kept, lost"},
        {"--answer lost", "an answer without its question; add --question"},
        {"--cause number/nonsense", "'number/nonsense' is not a cause of any format"}};
    for (const auto& [words, problem] : wrong) {
        const Called r = run(base + words);
        EXPECT_EQ(r.status, 2) << words;
        EXPECT_NE(r.err.find(problem), std::string::npos) << r.err;
    }
}

// One of two is as small a group as the other: which is at fault, the cause says.
TEST_F(Tool, ADisagreementNamesThoseThatShowItsCause) {
    const std::string out = run("run json --case numbers/value-rounds-beyond --implementation python-json/default "
                                "--implementation python-json/finite --wide")
                                .out;
    const auto at = out.find("verdict        output/ill-formed");
    ASSERT_NE(at, std::string::npos) << out;
    const std::string line = out.substr(at, out.find('\n', at) - at);
    EXPECT_NE(line.find("python-json/default"), std::string::npos) << line;
    EXPECT_EQ(line.find("python-json/finite"), std::string::npos) << line;
}

TEST_F(Tool, QuestionsOfASheetAreExplainedAndSearched) {
    configuration({"sound"});
    fs::create_directory(folder_ / "towers");
    write("towers/towers.toml",
          "[sheet]\nformat = \"json\"\naspect = \"towers\"\nstandard = \"RFC 8259\"\n"
          "[[question]]\nid = \"which-tower\"\nclause = \"4\"\nanswers = [\"refused\", \"both\"]\n"
          "unlisted = \"shown\"\nabout = \"which of two towers is named\"\n"
          "[[case]]\nid = \"two\"\ntext = '{\"a\":\"north\",\"a\":\"south\"}'\nstance = \"open\"\nclause = \"4\"\n"
          "why = \"one name twice\"\nquestion = \"which-tower\"\nanswers = { both = { as = \"read\" } }\n");
    const std::string base = "run towers --config codecs.toml ";
    const Called asked = run(base + "--by question");
    EXPECT_NE(asked.out.find("which-tower  which of two towers is named [RFC 8259, 4]"), std::string::npos)
        << asked.out << asked.err;
    const Called found = run(base + "--question which-tower --answer both");
    EXPECT_EQ(found.status, 0) << found.err;
    EXPECT_NE(found.out.find("which-tower answered \"both\": "), std::string::npos) << found.out;
    EXPECT_EQ(run(base + "--question which-tower --answer west").status, 2);
}

TEST_F(Tool, RunPrintsBehavioursAsRecords) {
    configuration({"sound", "minus-lost"});
    const Called r = run("run json --config codecs.toml --aspect numbers --json");
    std::size_t behaviours = 0;
    for (std::string_view rest = r.out; !rest.empty(); rest.remove_prefix(rest.find('\n') + 1)) {
        const auto record = nachklang::parse_record(rest.substr(0, rest.find('\n')));
        ASSERT_TRUE(record.ok()) << rest;
        const auto* behaviour = std::get_if<nachklang::BehaviourRecord>(&record.value());
        ASSERT_NE(behaviour, nullptr) << rest;
        EXPECT_EQ(behaviour->implementation, "minus-lost");
        ++behaviours;
    }
    EXPECT_GT(behaviours, 0U);
}

TEST_F(Tool, TryReadsWhatACaseIsAbout) {
    const auto reference = [&](const std::string& name) {
        const std::string out = run("try --case external/" + name + " --implementation seeded-faults-xml").out;
        const auto at = out.find("  reference: ");
        return at == std::string::npos ? out : out.substr(at, out.find('\n', at) - at);
    };
    EXPECT_TRUE(reference("unclosed-read").starts_with("  reference: refused")) << reference("unclosed-read");
    EXPECT_EQ(reference("unclosed-not-read"), "  reference: accepted; raises external-entities");
    EXPECT_EQ(reference("text-read"), "  reference: accepted");
}

TEST_F(Tool, CardsShowAnswersAndSeveralOnlyWhereTheyDiffer) {
    configuration({"sound", "first-duplicate-wins"});
    const Called one = run("card first-duplicate-wins --config codecs.toml --aspect names");
    EXPECT_EQ(one.status, 0) << one.err;
    EXPECT_NE(one.out.find("duplicate-names"), std::string::npos) << one.out;
    EXPECT_NE(one.out.find("first"), std::string::npos);
    EXPECT_NE(one.out.find("RFC 8259, 4"), std::string::npos);
    const Called two = run("card --config codecs.toml --aspect names");
    EXPECT_NE(two.out.find("duplicate-names"), std::string::npos) << two.out;
    EXPECT_EQ(two.out.find("empty-name"), std::string::npos) << two.out;  // both keep it
    EXPECT_EQ(run("card unknown-name --config codecs.toml").status, 2);
}

TEST_F(Tool, DepthFindsTheVeryLimit) {
    configuration({"sound", "depth-limit-16", "crash-when-deep"});
    const Called card = run("card depth-limit-16 --config codecs.toml --aspect names --limits");
    EXPECT_NE(card.out.find("array-depth   decode      16, then rejected"), std::string::npos) << card.out;
    EXPECT_EQ(run("card depth-limit-16 --config codecs.toml --aspect names").out.find("array-depth"),
              std::string::npos);
    const Called r = run("limits --config codecs.toml --shape array-depth --most 5000");
    EXPECT_EQ(r.status, 1) << r.err;
    const auto line = [&](const std::string& name) {
        const auto at = r.out.find("\narray-depth  decode      " + name + " ");
        return at == std::string::npos ? std::string() : r.out.substr(at + 1, r.out.find('\n', at + 1) - at - 1);
    };
    EXPECT_NE(line("sound").find("1,000"), std::string::npos) << r.out;
    EXPECT_NE(line("depth-limit-16").find(" 16 "), std::string::npos) << r.out;
    EXPECT_NE(line("depth-limit-16").find("rejected"), std::string::npos);
    EXPECT_NE(line("crash-when-deep").find(" 500 "), std::string::npos) << r.out;
    EXPECT_NE(line("crash-when-deep").find("crashed"), std::string::npos);
    const Called wide = run("limits sound --config codecs.toml --shape '*-width' --shape '*-length' --most 3000");
    EXPECT_EQ(wide.status, 0) << wide.out;
    EXPECT_NE(wide.out.find("3,000 and more"), std::string::npos) << wide.out;
}

TEST_F(Tool, NumbersShowTheWorstOfEach) {
    configuration({"sound", "nearest-missed-with-exponent", "saturates-at-64-bits"});
    const Called r = run("numbers --config codecs.toml --count 3000");
    EXPECT_EQ(r.status, 1) << r.err;
    EXPECT_NE(r.out.find("3000 literals of seed 1"), std::string::npos) << r.out;
    const Called sound = run("numbers --config codecs.toml --count 3000 --implementation sound");
    EXPECT_EQ(sound.status, 0) << sound.out;
    EXPECT_EQ(sound.out.find("saturated"), std::string::npos);
    const Called one =
        run("numbers --config codecs.toml --literal 99999999999999999999 --implementation saturates-at-64-bits "
            "--families");
    EXPECT_EQ(one.status, 1);
    EXPECT_NE(one.out.find("saturated"), std::string::npos) << one.out;
    const Called none = run("numbers --literal 1. --config codecs.toml");
    EXPECT_EQ(none.status, 2);
    EXPECT_NE(none.err.find("'1.' is not a number of this format"), std::string::npos) << none.err;
}

TEST_F(Tool, ShrinkLeavesTheSmallestWitness) {
    configuration({"sound", "exponent-ignored"});
    std::string document = "[";
    for (int i = 0; i < 500; ++i) document += R"({"name":"Hour","cast":1721},)";
    write("long.json", document + R"({"hz":1.5e3}])");
    const Called r = run("shrink long.json --config codecs.toml");
    EXPECT_EQ(r.status, 0) << r.err;
    EXPECT_LE(r.out.size(), 5U) << r.out;
    EXPECT_NE(r.out.find('e'), std::string::npos);
    const Called agreed = run("shrink codecs.toml --format json --config codecs.toml");
    EXPECT_EQ(agreed.status, 2);
    EXPECT_NE(agreed.err.find("the implementations agree on it"), std::string::npos);
}

// Most users have one implementation: the reference reader is the other side.
TEST_F(Tool, ShrinkPreservesAFindingAboutOneImplementation) {
    configuration({"exponent-ignored"});
    write("long.json", R"({"bells":[{"name":"Hour","cast":1721},{"name":"Prime","hz":1.5e3}]})");
    const Called r = run("shrink long.json --config codecs.toml");
    EXPECT_EQ(r.status, 0) << r.err;
    EXPECT_NE(r.err.find("preserving: exponent-ignored decode: altered number/"), std::string::npos) << r.err;
    EXPECT_LE(r.out.size(), 5U) << r.out;
    EXPECT_NE(r.out.find('e'), std::string::npos);
    const Called round = run("shrink long.json --config codecs.toml --operation round-trip");
    EXPECT_NE(round.err.find("exponent-ignored round-trip: "), std::string::npos) << round.err;
    const Called other = run("shrink long.json --config codecs.toml --cause string/cut-at-nul");
    EXPECT_EQ(other.status, 2);
    EXPECT_NE(other.err.find("it shows something, but not what the options ask for; it shows: exponent-ignored"),
              std::string::npos)
        << other.err;
}

TEST_F(Tool, RunShowsTheSmallestDocumentOfEachBehaviour) {
    configuration({"exponent-ignored"});
    const Called r = run("run json --aspect numbers --config codecs.toml --shrink");
    EXPECT_EQ(r.status, 1) << r.err;
    EXPECT_NE(r.out.find("smallest, 3 bytes: "), std::string::npos) << r.out;
    const Called records = run("run json --aspect numbers --config codecs.toml --shrink --json");
    EXPECT_NE(records.out.find(R"("smallest":")"), std::string::npos) << records.out;
}

TEST_F(Tool, DeclaredAnswersAreKnownOnes) {
    const auto declaring = [&](const std::string& list) {
        return write("declares.toml",
                     fmt::format("[[implementation]]\nname = \"codec\"\ncommand = [\"{}/adapters/"
                                 "seeded-faults-adapter\"]\nformats = [\"json\"]\ndeclares = [{}]\n",
                                 BUILD_FOLDER, list));
    };
    const std::string call = "run json --aspect names --config ";
    const Called question = run(call + declaring("\"bells=last\""));
    EXPECT_EQ(question.status, 2);
    EXPECT_NE(question.err.find("'declares' names bells, which is no question of json"), std::string::npos)
        << question.err;
    const Called answer = run(call + declaring("\"duplicate-names=ring\""));
    EXPECT_EQ(answer.status, 2);
    EXPECT_NE(
        answer.err.find("'declares' gives duplicate-names the answer ring, which is none of its answers; use "),
        std::string::npos)
        << answer.err;
    EXPECT_EQ(run(call + declaring("\"duplicate-names=refused\"")).status, 1);
    EXPECT_EQ(run(call + declaring("\"duplicate-names=refused\", \"duplicate-names=all\"")).status, 0);
    // A question that a sheet declares, of a shipped corpus.
    EXPECT_EQ(run(call + declaring("\"lone-surrogate-given=refused\"")).status, 0);
    const Called of_sheet = run(call + declaring("\"lone-surrogate-given=ring\""));
    EXPECT_EQ(of_sheet.status, 2);
    EXPECT_NE(of_sheet.err.find("none of its answers; use refused, ill-formed"), std::string::npos) << of_sheet.err;
}

TEST_F(Tool, ExcusedFindingsAreShownAndDoNotFail) {
    const auto excusing = [&](const std::string& list) {
        return write("excuses.toml",
                     fmt::format("[[implementation]]\nname = \"codec\"\ncommand = [\"{}/adapters/"
                                 "seeded-faults-adapter\", \"exponent-ignored\"]\nformats = [\"json\"]\n"
                                 "excuses = [{}]\n",
                                 BUILD_FOLDER, list));
    };
    const std::string call = "run json --aspect numbers --results all.jsonl --config ";
    EXPECT_EQ(run(call + excusing("")).status, 1);
    const std::string by_cause = R"({ cause = "number/exponent-ignored", reason = "bells ring plainly" })",
                      unused = R"({ cases = "nesting/*", reason = "deep <towers>" })";
    EXPECT_EQ(run(call + excusing(by_cause)).status, 0);
    EXPECT_EQ(run(call + excusing(R"({ cause = "number/off-by-ulp", reason = "another" })")).status, 1);
    const Called r = run(call + excusing(R"({ cases = "numbers/**", reason = "bells ring plainly" }, )" + unused));
    EXPECT_EQ(r.status, 0) << r.out << r.err;
    EXPECT_NE(r.out.find("results are excused: bells ring plainly"), std::string::npos) << r.out;
    EXPECT_NE(r.out.find("excuses.toml:5 fits no finding of this run: deep <towers>"), std::string::npos) << r.out;
    EXPECT_NE(r.out.find("excused: bells ring plainly"), std::string::npos) << "the behaviour says so";
    EXPECT_NE(tool_test::slurp(folder_ / "all.jsonl").find(R"("excused":"bells ring plainly")"), std::string::npos);
    EXPECT_EQ(run("report all.jsonl --junit out.xml --sarif out.sarif").status, 0);
    EXPECT_NE(tool_test::slurp(folder_ / "out.xml").find("<skipped message=\"excused: bells ring plainly\"/>"),
              std::string::npos);
    EXPECT_NE(tool_test::slurp(folder_ / "out.sarif").find("\"justification\": \"bells ring plainly\""),
              std::string::npos);
}

TEST_F(Tool, TimesAreRecordedWhereTheyAreAskedFor) {
    configuration({"sound"});
    const std::string call = "run json --aspect names --config codecs.toml --results all.jsonl";
    EXPECT_EQ(run(call).status, 0);
    EXPECT_EQ(tool_test::slurp(folder_ / "all.jsonl").find("\"times\""), std::string::npos);
    EXPECT_EQ(run(call + " --times").status, 0);
    EXPECT_NE(tool_test::slurp(folder_ / "all.jsonl").find(R"({"record":"times","seconds":{"sound)"),
              std::string::npos);
    EXPECT_EQ(run("report all.jsonl --csv -").status, 0) << "it is read again";
    EXPECT_EQ(run(call + " --times").out.find("keeping the results"), std::string::npos)
        << "no store, no time for it";
    const Called kept = run(call + " --times --store kept.db");
    EXPECT_NE(kept.out.find("keeping the results: --store"), std::string::npos) << kept.out;
}

TEST_F(Tool, ARunOfOneImplementationShowsItsAnswersToOpenQuestions) {
    configuration({"sound"});
    const Called r = run("run json --aspect names --config codecs.toml");
    EXPECT_NE(r.out.find("answers to questions that the standard leaves open"), std::string::npos) << r.out;
    EXPECT_NE(r.out.find("duplicate-names"), std::string::npos) << r.out;
    configuration({"sound", "exponent-ignored"});
    EXPECT_EQ(run("run json --aspect names --config codecs.toml").out.find("leaves open\n"), std::string::npos);
}

// In a terminal of its own. Columns that have no room go above the others, and no number is lost.
TEST_F(Tool, TablesFitTheWindow) {
    configuration({"exponent-ignored"});
    const auto first_table = [&](int columns) {
        const Called r = shell(fmt::format(
            "COLUMNS={} NO_COLOR=1 script -qec '{}/nachklang round-trips exponent-ignored --aspect numbers "
            "--config codecs.toml 2>/dev/null' /dev/null | tr -d '\\r'",
            columns, BUILD_FOLDER));
        return r.out.substr(0, r.out.find("\n\n"));
    };
    const auto words_of = [](const std::string& text) {
        std::istringstream words(text);
        return std::vector<std::string>(std::istream_iterator<std::string>(words), {});
    };
    const std::string wide = first_table(200), narrow = first_table(70);
    std::istringstream lines(narrow);
    for (std::string line; std::getline(lines, line);) EXPECT_LE(line.size(), 70U) << line;
    EXPECT_EQ(words_of(narrow), words_of(wide));
    EXPECT_NE(wide.find("exponent-ignored round-trip  "), std::string::npos) << wide;
    EXPECT_NE(narrow.find("exponent-ignored round-trip\n    "), std::string::npos) << narrow;
}

// Commands are left whole: they are there to be copied.
TEST_F(Tool, AllLinesOfARunFitTheWindow) {
    configuration({"sound", "exponent-ignored", "minus-lost"});
    const Called r =
        shell("COLUMNS=80 NO_COLOR=1 script -qec '" BUILD_FOLDER
              "/nachklang run json --config codecs.toml --by cause 2>/dev/null' /dev/null | tr -d '\\r'");
    ASSERT_NE(r.out.find("disagreements by cause"), std::string::npos) << r.out;
    std::istringstream lines(r.out);
    for (std::string line; std::getline(lines, line);) {
        const auto columns = std::ranges::count_if(line, [](char c) { return (c & 0xC0) != 0x80; });
        if (line.find("$ ") == std::string::npos) EXPECT_LE(columns, 80) << line;
    }
}

TEST_F(Tool, LinesFoldAtTheWidthThatIsSet) {
    configuration({"exponent-ignored"});
    const auto longest = [&](const std::string& setting, const std::string& option) {
        const Called r =
            shell(setting + " " BUILD_FOLDER "/nachklang run json --aspect numbers --config codecs.toml " + option);
        const auto begin = r.out.find("behaviours: "), end = r.out.find("answers to questions");
        std::istringstream lines(r.out.substr(begin, end - begin));
        std::size_t out = 0;
        for (std::string line; std::getline(lines, line);)
            if (line.find("$ ") == std::string::npos) out = std::max(out, line.size());
        return out;
    };
    EXPECT_LT(longest("COLUMNS=60", ""), 100U);
    EXPECT_GT(longest("COLUMNS=200", ""), 100U);
    EXPECT_EQ(longest("COLUMNS=60", "--wide"), longest("COLUMNS=1000", ""));
}

}  // namespace

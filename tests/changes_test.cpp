// Runs that are kept and compared: `changes`, and `run --baseline`.
#include <nachklang/changes.hpp>

#include "tool_fixture.hpp"

namespace tool_test {
namespace {

using namespace nachklang;

class Kept : public Tool {
  protected:
    /// One codec, always of the same name, with this fault.
    std::string codec(const std::string& fault, const std::string& name = "codec") const {
        return write(
            "codec.toml",
            fmt::format("[[implementation]]\nname = \"{}\"\ncommand = [\"{}/adapters/seeded-faults-adapter\"{}]\n"
                        "formats = [\"json\"]\n",
                        name, BUILD_FOLDER, fault.empty() ? "" : ", \"" + fault + "\""));
    }
    Called run_codec(const std::string& fault, const std::string& more) const {
        return run(fmt::format("run json --config {} {}", codec(fault), more));
    }
};

TEST_F(Kept, ChangesListsWhatIsNewAndWhatIsMended) {
    run_codec("", "--aspect numbers --results sound.jsonl");
    run_codec("minus-lost", "--aspect numbers --results faulty.jsonl");
    const Called worse = run("changes sound.jsonl faulty.jsonl");
    EXPECT_EQ(worse.status, 1) << worse.err;
    EXPECT_NE(worse.out.find("newly failing: "), std::string::npos) << worse.out;
    EXPECT_NE(worse.out.find("numbers/"), std::string::npos) << worse.out;
    const Called better = run("changes faulty.jsonl sound.jsonl");
    EXPECT_EQ(better.status, 0);
    EXPECT_NE(better.out.find("mended: "), std::string::npos) << better.out;
    EXPECT_EQ(better.out.find("newly failing"), std::string::npos);
    EXPECT_EQ(run("changes faulty.jsonl faulty.jsonl").out, "no behaviour and no answer changed\n");
}

TEST_F(Kept, ChangesListsAnswersVersionsCasesAndImplementations) {
    run_codec("", "--aspect names --results before.jsonl");
    run_codec("first-duplicate-wins", "--aspect names --results now.jsonl");
    const Called answers = run("changes before.jsonl now.jsonl");
    EXPECT_NE(answers.out.find("duplicate-names: "), std::string::npos) << answers.out;
    EXPECT_NE(answers.out.find("other versions: codec: sound, now "), std::string::npos) << answers.out;

    run(fmt::format("run json --config {} --case names/one --results other.jsonl", codec("", "other")));
    const Called other = run("changes before.jsonl other.jsonl");
    EXPECT_EQ(other.status, 0);
    EXPECT_NE(other.out.find("only in the later run, implementations: other\n"), std::string::npos) << other.out;
    EXPECT_NE(other.out.find("only in the earlier run, implementations: codec\n"), std::string::npos);
    EXPECT_NE(other.out.find("only in the earlier run, cases: json names/"), std::string::npos);
}

TEST_F(Kept, ABaselineFailsOnWhatIsNewAlone) {
    const std::string numbers = "--aspect numbers --baseline base ";
    EXPECT_EQ(run_codec("minus-lost", numbers + "--update-baseline").status, 0);
    EXPECT_EQ(run_codec("minus-lost", numbers).status, 0);
    EXPECT_EQ(run_codec("minus-lost", numbers + "--fail-on required,fidelity").status, 1);
    const Called worse = run_codec("exponent-ignored", numbers);
    EXPECT_EQ(worse.status, 1);
    EXPECT_NE(worse.out.find("since the baseline base\nnewly failing: "), std::string::npos) << worse.out;
    EXPECT_NE(worse.out.find("mended: "), std::string::npos) << worse.out;
    EXPECT_EQ(run_codec("exponent-ignored", numbers + "--fail-on nothing").status, 0);
    EXPECT_EQ(run_codec("", numbers).status, 0);
}

TEST_F(Kept, APartOfACorpusMendsNothingElse) {
    run_codec("minus-lost", "--aspect numbers --baseline base --update-baseline");
    const std::string whole = slurp(folder_ / "base");
    const Called part = run_codec("minus-lost", "--case names/one --baseline base --update-baseline");
    EXPECT_EQ(part.status, 0);
    EXPECT_NE(part.out.find("no behaviour and no answer changed"), std::string::npos) << part.out;
    EXPECT_EQ(slurp(folder_ / "base"), whole);
    // Another implementation's lines stay, too.
    run(fmt::format("run json --config {} --aspect numbers --baseline base --update-baseline", codec("", "other")));
    const std::string both = slurp(folder_ / "base");
    EXPECT_NE(both.find("\"implementation\":\"codec\",\"side\""), std::string::npos);
    EXPECT_NE(both.find("\"implementation\":\"other\",\"version\""), std::string::npos);
}

TEST_F(Kept, ABaselineIsLinesThatAreReadBack) {
    run_codec("minus-lost", "--aspect numbers --baseline base --update-baseline --results r.jsonl");
    const std::string text = slurp(folder_ / "base");
    EXPECT_TRUE(text.starts_with("{\"baseline\":1}\n"));
    auto kept = read_kept_run((folder_ / "base").string());
    ASSERT_TRUE(kept.ok()) << kept.problem().line();
    EXPECT_EQ(baseline_of(kept.value()), text);
    auto results = read_kept_run((folder_ / "r.jsonl").string());
    ASSERT_TRUE(results.ok()) << results.problem().line();
    EXPECT_EQ(baseline_of(results.value()), text);
}

struct UnreadableRow {
    const char* name;
    const char* text;
    const char* problem;
};
class Unreadable : public Kept, public testing::WithParamInterface<UnreadableRow> {};

TEST_P(Unreadable, GetsOneLineAndStatusTwo) {
    write("b", GetParam().text);
    write("empty", "");
    for (const std::string& call :
         {std::string("changes b empty"), "run json --aspect names --baseline b --config " + codec("")}) {
        const Called called = run(call);
        EXPECT_EQ(called.status, 2) << call;
        EXPECT_EQ(called.out, "");
        EXPECT_NE(called.err.find(GetParam().problem), std::string::npos) << called.err;
        EXPECT_EQ(std::count(called.err.begin(), called.err.end(), '\n'), 1) << called.err;
    }
    EXPECT_EQ(slurp(folder_ / "b"), GetParam().text);
}

INSTANTIATE_TEST_SUITE_P(
    Rows, Unreadable,
    testing::Values(UnreadableRow{"version", "{\"baseline\":2}\n", "b:1: it is of another version"},
                    UnreadableRow{"cut", "{\"baseline\":1}\n{\"format\":\"json\"", "b:2: "},
                    UnreadableRow{"field", "{\"baseline\":1}\n{\"format\":\"json\"}\n", "b:2: "},
                    UnreadableRow{"merge_conflict", "{\"baseline\":1}\n<<<<<<< ours\n", "b:2: "},
                    UnreadableRow{"foreign", "bell\n", "b:1: "}),
    [](const auto& row) { return row.param.name; });

// Each form is read by a program that is not ours.
TEST_F(Kept, ReportsAreReadByOthers) {
    run_codec("minus-lost", "--results r.jsonl");
    const Called written = run("report r.jsonl --junit j.xml --sarif s.json --csv c.csv --markdown m.md");
    EXPECT_EQ(written.status, 0) << written.err;
    write("read.py", R"(
import csv, json, xml.etree.ElementTree as tree
records = [json.loads(line) for line in open("r.jsonl")]
results = [r for r in records if r["record"] == "result"]
behaviours = [r for r in records if r["record"] == "behaviour"]
failing = [r for r in results if r.get("failing")]
assert failing and behaviours

suite = tree.parse("j.xml").getroot().find("testsuite")
assert suite.get("name") == "codec" and int(suite.get("tests")) == len(results) == len(suite.findall("testcase"))
assert int(suite.get("failures")) == len(failing) == len(suite.findall("testcase/failure"))
assert int(suite.get("skipped")) == len(suite.findall("testcase/skipped"))

sarif = json.load(open("s.json"))
assert sarif["version"] == "2.1.0"
run = sarif["runs"][0]
rules = run["tool"]["driver"]["rules"]
assert len({rule["id"] for rule in rules}) == len(rules) > 0
assert len(run["results"]) == len(behaviours)
for result, behaviour in zip(run["results"], behaviours):
    assert rules[result["ruleIndex"]]["id"] == result["ruleId"] == behaviour["cause"]
    assert result["level"] == ("error" if behaviour["failing"] else "note")
    assert behaviour["sentence"] in result["message"]["text"]
    assert len(result["locations"]) == len(behaviour["cases"])
assert run["invocations"][0]["executionSuccessful"] is True

rows = list(csv.DictReader(open("c.csv", newline="")))
assert [row["sentence"] for row in rows] == [b["sentence"] for b in behaviours]
assert [int(row["cases"]) for row in rows] == [len(b["cases"]) for b in behaviours]

table = [line for line in open("m.md") if line.startswith("|")]
assert len(table) == 2 + len(behaviours)
)");
    const Called read = shell("python3 read.py");
    EXPECT_EQ(read.status, 0) << read.err;
}

TEST_F(Kept, AReportNamesWhatIsMissing) {
    EXPECT_NE(run("report r.jsonl").err.find("no form is asked for; use --page"), std::string::npos);
    EXPECT_NE(run("report r.jsonl --csv c").err.find("r.jsonl: cannot be read"), std::string::npos);
    write("empty", "");
    EXPECT_NE(run("report empty --csv c").err.find("empty: it holds no run"), std::string::npos);
    run_codec("", "--aspect names --results r.jsonl");
    const Called nowhere = run("report r.jsonl --csv /no/such/folder/c");
    EXPECT_EQ(nowhere.status, 2);
    EXPECT_NE(nowhere.err.find("/no/such/folder/c: cannot be written"), std::string::npos) << nowhere.err;
}

TEST_F(Kept, BaselineOptionsNeedEachOther) {
    EXPECT_NE(run_codec("", "--update-baseline").err.find("--update-baseline: no file is named"),
              std::string::npos);
    EXPECT_NE(run_codec("", "--fail-on new").err.find("--fail-on: 'new' needs a baseline"), std::string::npos);
    EXPECT_NE(run_codec("", "--baseline no-such").err.find("no-such: cannot be read"), std::string::npos);
}

}  // namespace
}  // namespace tool_test

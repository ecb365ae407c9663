// Kept runs: what is written as a run goes, resumed wherever it stopped, read, queried and dropped.
#include <gtest/gtest.h>

#include <fmt/format.h>

#include <SQLiteCpp/SQLiteCpp.h>

#include <nachklang/json.hpp>
#include <nachklang/run_store.hpp>
#include <nachklang/store.hpp>

#include "played.hpp"
#include "tool_fixture.hpp"

namespace {

using namespace nachklang;
using namespace nachklang::played_codec;

/// Enough small documents for several chunks.
std::vector<Case> many_cases() {
    std::vector<Case> out;
    for (int i = 0; i < 3400; ++i) {
        const std::string document = i % 7 == 0   ? fmt::format("[{}", i)
                                     : i % 5 == 0 ? std::to_string(i)
                                                  : fmt::format("[{},\"\\u0000\"]", i);
        out.push_back(case_of_document("json", fmt::format("test/{}", i), json::format(), document));
    }
    return out;
}

Outcome read_well(const Request& request) {
    const Reading reading = json::format().read(*request.body, {});
    if (!reading.accepted()) return outcome_of(OutcomeKind::rejected, "no: " + *request.body);
    if (request.operation == Operation::round_trip) return outcome_of(OutcomeKind::accepted, *request.body);
    return accepted(std::string(reading.trace.text()));
}

/// Cuts strings at U+0000, refuses bare scalars, and dies of each document whose number ends in 13.
Outcome read_badly(const Request& request) {
    if (request.body->find("13") != std::string::npos) return outcome_of(OutcomeKind::crashed, "SIGSEGV");
    if (request.body->front() != '[') return outcome_of(OutcomeKind::rejected, "no array");
    Outcome out = read_well(request);
    if (out.trace)
        out.trace = Trace::parse(
            fmt::format("[\nint {}\nstr u8:\n]\n", request.body->substr(1, request.body->find(',') - 1)));
    return out;
}

ExecutorFactory factory() {
    return [](const Subject& subject) -> std::unique_ptr<Executor> {
        const bool well = subject.implementation.name == "halm";
        return std::make_unique<Played>([well](const Request& r) { return well ? read_well(r) : read_badly(r); });
    };
}

struct RunOfTwo {
    std::vector<Case> cases = many_cases();
    std::vector<Subject> subjects{played("halm", {"decode", "round-trip"}),
                                  played("kufe", {"decode", "round-trip"})};
};

/// Both sinks, and after some chunks the run's end.
class UpTo final : public ResultSink {
  public:
    UpTo(std::vector<ResultSink*> sinks, std::size_t chunks, std::atomic<bool>& stop)
        : all_(std::move(sinks)), left_(chunks), stop_(stop) {}
    void begin(const RunHeader& header) override { all_.begin(header); }
    void chunk(const ChunkReport& report) override {
        all_.chunk(report);
        if (--left_ == 0) stop_ = true;
    }
    void incident(const IncidentReport& report) override { all_.incident(report); }
    void end(const RunEnd& how) override { all_.end(how); }

  private:
    SinkList all_;
    std::size_t left_;
    std::atomic<bool>& stop_;
};

/// Runs, or goes on with, a run for at most so many chunks; true if it is complete then.
bool go_on(RunStore& store, const RunOfTwo& run, std::size_t chunks) {
    RunSetup setup = setup_of(run.cases, run.subjects, "");
    setup.tool = "1";
    const auto runs = store.runs();
    const bool resumes = !runs.value().empty() && !runs.value().back().complete;
    auto sink = resumes ? store.resume(runs.value().back(), setup, run.cases) : store.add_run(setup, run.cases);
    EXPECT_TRUE(sink.ok()) << (sink.ok() ? "" : sink.problem().line());
    if (!sink.ok()) return true;
    StoreSink& kept = *sink.value();
    BehaviourCollector collector;
    std::atomic<bool> stop = false;
    CampaignOptions options;
    options.workers = 2;
    options.cancelled = &stop;
    options.first_chunk = kept.first_chunk();
    options.gave_up = kept.gave_up();
    EXPECT_FALSE(kept.replay(run.subjects, collector).has_value());
    UpTo sinks({&kept, &collector}, chunks, stop);
    run_campaign(run.cases, run.subjects, factory(), options, sinks);
    if (!stop) kept.finish(collector.behaviours());
    EXPECT_FALSE(kept.problem().has_value());
    return !stop;
}

std::vector<std::string> lines_of(const RunStore& store, std::int64_t run) {
    std::vector<std::string> out;
    EXPECT_FALSE(store.lines_of(run, [&](const std::string& line) { out.push_back(line); }).has_value());
    return out;
}

TEST(RunStore, ARunThatStopsAnywhereEndsWithTheSameContent) {
    const Scratch scratch;
    const RunOfTwo run;
    auto whole = RunStore::open(scratch.path() + "/whole.db");
    ASSERT_TRUE(whole.ok());
    ASSERT_TRUE(go_on(*whole.value(), run, 1000));
    const auto expected = lines_of(*whole.value(), 1);
    EXPECT_GT(expected.size(), 2 * run.cases.size());
    for (const std::size_t at_once : {1, 2, 3}) {
        auto pieces = RunStore::open(scratch.path() + fmt::format("/pieces-{}.db", at_once));
        std::size_t times = 1;
        while (!go_on(*pieces.value(), run, at_once)) ++times;
        EXPECT_GT(times, 1U);
        EXPECT_EQ(lines_of(*pieces.value(), 1), expected) << "in pieces of " << at_once;
    }
}

TEST(RunStore, GivesTheLinesOfAResultsFile) {
    const Scratch scratch;
    const RunOfTwo run;
    const std::string path = scratch.path() + "/run.db";
    {
        auto store = RunStore::open(path);
        go_on(*store.value(), run, 1000);
    }
    auto file = LineFile::create(scratch.path() + "/run.jsonl");
    LineSink lines(file.value().get(), nullptr);
    BehaviourCollector collector;
    SinkList both({&lines, &collector});
    run_campaign(run.cases, run.subjects, factory(), {}, both);
    lines.finish(collector.behaviours());
    const auto of = [&](const std::string& name) {
        std::vector<std::string> out;
        const auto problem = read_lines(name, [&](const std::string& line, std::size_t) -> std::optional<Problem> {
            if (line.find("\"record\":\"disagreement\"") == std::string::npos) out.push_back(line);
            return std::nullopt;
        });
        EXPECT_FALSE(problem.has_value());
        return out;
    };
    EXPECT_EQ(of(path), of(scratch.path() + "/run.jsonl"));
    EXPECT_EQ(of(path + "#1"), of(path));
}

TEST(RunStore, AnswersQueriesAndChangesNothingByThem) {
    const Scratch scratch;
    auto store = RunStore::open(scratch.path() + "/run.db");
    go_on(*store.value(), RunOfTwo{}, 1000);
    const auto readable = RunStore::open_to_read(scratch.path() + "/run.db");
    const auto first_row = [&](const std::string& sql) {
        std::vector<std::vector<std::string>> rows;
        const auto problem =
            readable.value()->query(sql, [&](const std::vector<std::string>& row) { rows.push_back(row); });
        if (problem) return problem->line();
        return rows.size() < 2 ? std::string("no row") : fmt::format("{}", fmt::join(rows[1], ", "));
    };
    EXPECT_EQ(first_row("SELECT finding, count(*) FROM findings WHERE implementation = 'halm' GROUP BY finding"),
              "conforms, 6800");
    EXPECT_EQ(first_row("SELECT answer(1, 'kufe', 'test/1', 'decode')"), "[\nint 1\nstr u8:\n]\n");
    EXPECT_EQ(first_row("SELECT answer(1, 'halm', 'test/2', 'round-trip')"), "[2,\"\\u0000\"]");
    EXPECT_EQ(first_row("SELECT answer(1, 'halm', 'test/0', 'decode')"), "no: [0");
    EXPECT_EQ(first_row("SELECT answer(1, 'none', 'test/0', 'decode') IS NULL"), "1");
    EXPECT_EQ(first_row("DELETE FROM runs"),
              "query: it would change the store; use SELECT; `results drop` removes a run");
    EXPECT_NE(first_row("SELECT nothing").find("docs/kept-runs.md lists the tables"), std::string::npos);
}

TEST(RunStore, RefusesToGoOnWithAnotherRun) {
    const Scratch scratch;
    auto store = RunStore::open(scratch.path() + "/run.db");
    RunOfTwo run;
    EXPECT_FALSE(go_on(*store.value(), run, 1));
    const StoredRun stored = store.value()->runs().value().back();
    RunSetup setup = setup_of(run.cases, run.subjects, "");
    setup.tool = "1";
    const auto why = [&](const RunSetup& other) {
        const auto sink = store.value()->resume(stored, other, run.cases);
        return sink.ok() ? "" : sink.problem().what;
    };
    EXPECT_EQ(why(setup), "");
    run.subjects[1].version = "2";
    RunSetup other = setup_of(run.cases, run.subjects, "");
    other.tool = "1";
    EXPECT_EQ(why(other), "was of other implementations, versions or settings");
    other = setup_of(std::span(run.cases).subspan(1), RunOfTwo{}.subjects, "");
    EXPECT_EQ(why(other), "was of other cases");
    other = setup;
    other.profile = "jcs";
    EXPECT_EQ(why(other), "was of other profile");
    other = setup;
    other.tool = "2";
    EXPECT_EQ(why(other), "was of other version of Nachklang");
}

TEST(RunStore, DropsARunWithAllThatOnlyItHolds) {
    const Scratch scratch;
    auto store = RunStore::open(scratch.path() + "/run.db");
    RunOfTwo run;
    go_on(*store.value(), run, 1000);
    go_on(*store.value(), run, 1000);
    ASSERT_EQ(store.value()->runs().value().size(), 2U);
    EXPECT_FALSE(store.value()->drop(1).has_value());
    EXPECT_TRUE(store.value()->drop(1).has_value());
    EXPECT_EQ(lines_of(*store.value(), 2).size(), lines_of(*store.value(), 2).size());
    EXPECT_FALSE(store.value()->drop(2).has_value());
    EXPECT_FALSE(store.value()->vacuum().has_value());
    SQLite::Database raw(scratch.path() + "/run.db");
    for (const char* table : {"runs", "cases", "contents", "chunks", "results", "behaviours", "implementations"})
        EXPECT_EQ(raw.execAndGet(std::string("SELECT count(*) FROM ") + table).getInt(), 0) << table;
}

TEST(RunStore, RefusesFilesOfOtherKinds) {
    const Scratch scratch;
    const auto why = [&](const std::string& name) {
        const auto store = RunStore::open(scratch.path() + "/" + name);
        return store.ok() ? "" : store.problem().what;
    };
    scratch.write("notes.txt", "bells");
    EXPECT_EQ(why("notes.txt"), "is no store of runs");
    {
        SQLite::Database other(scratch.path() + "/other.db", SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
        other.exec("CREATE TABLE bells(name TEXT)");
    }
    EXPECT_EQ(why("other.db"), "is a database of another program");
    { RunStore::open(scratch.path() + "/newer.db"); }
    SQLite::Database(scratch.path() + "/newer.db", SQLite::OPEN_READWRITE).exec("PRAGMA user_version = 99");
    EXPECT_EQ(why("newer.db"), "was written by a newer version of Nachklang");
    EXPECT_FALSE(RunStore::open_to_read(scratch.path() + "/none.db").ok());
    EXPECT_FALSE(std::filesystem::exists(scratch.path() + "/none.db"));
    EXPECT_FALSE(RunStore::open("/no/such/folder/run.db").ok());
}

using tool_test::Called;
using tool_test::Tool;

TEST_F(Tool, ARunThatIsKilledIsResumedToTheSameResults) {
    configuration({"sound", "cut-at-nul", "exponent-ignored"});
    const std::string call = "run json --config codecs.toml --store ";
    ASSERT_EQ(run(call + "whole.db --results whole.jsonl").status, 1);
    // However long the run had: what is there afterwards is one run, complete or to be resumed.
    for (int i = 0; i < 20; ++i) {
        const bool resumes = run("results list --store cut.db").out.find("not complete") != std::string::npos;
        shell(fmt::format("timeout -s KILL {:.2f} {}/nachklang {}cut.db {}", 0.1 + 0.1 * i, BUILD_FOLDER, call,
                          resumes ? "--resume" : ""));
    }
    if (run("results list --store cut.db").out.find("not complete") == std::string::npos)
        run(call + "cut.db");
    else
        run(call + "cut.db --resume");
    for (const char* table : {"chunk, place, answer, failing FROM results", "number, length(records) FROM chunks",
                              "record FROM behaviours"}) {
        const auto of = [&](const std::string& store) {
            return run(fmt::format(
                           "results query --store {} \"SELECT {} WHERE run = (SELECT max(run) FROM behaviours)\"",
                           store, table))
                .out;
        };
        EXPECT_EQ(of("cut.db"), of("whole.db")) << table;
        EXPECT_GT(of("whole.db").size(), 40U);
    }
}

TEST_F(Tool, KeptRunsAreComparedReportedAndAskedAgain) {
    configuration({"cut-at-nul"});
    const std::string call = "run json --config codecs.toml --aspect names --aspect strings --store kept.db ";
    const Called first = run(call);
    ASSERT_EQ(first.status, 1) << first.err;
    const Called again = run(call + "--again string/cut-at-nul");
    EXPECT_NE(again.out.find("Reads a string only up to its first U+0000"), std::string::npos) << again.out;
    const Called list = run("results list --store kept.db");
    EXPECT_NE(list.out.find("--again string/cut-at-nul"), std::string::npos) << list.out;
    EXPECT_EQ(run("changes kept.db#1 kept.db#1").status, 0);
    EXPECT_EQ(run("report kept.db#1 --csv kept.csv --lines kept.jsonl").status, 0);
    EXPECT_EQ(run("report kept.jsonl --csv of-lines.csv").status, 0);
    EXPECT_EQ(tool_test::slurp(folder_ / "of-lines.csv"), tool_test::slurp(folder_ / "kept.csv"));
    for (const char* call : {"report kept.jsonl --lines kept.jsonl", "report kept.db#1 --page ./kept.db",
                             "report kept.jsonl --csv x --markdown x"}) {
        const Called refused = run(call);
        EXPECT_EQ(refused.status, 2) << call;
        EXPECT_NE(refused.err.find("is read or written by this call already"), std::string::npos) << refused.err;
    }
    EXPECT_EQ(run("changes kept.db#1 kept.db#9").status, 2);
    EXPECT_NE(run("run json --resume").err.find("--store"), std::string::npos);
    EXPECT_NE(run(call + "--resume").err.find("holds no run that is not complete"), std::string::npos);
    EXPECT_NE(run(call + "--again tower").err.find("'tower' is no cause of any format"), std::string::npos);
    EXPECT_EQ(run("results drop 1 --store kept.db").status, 0);
    EXPECT_EQ(run("results vacuum --store kept.db").status, 0);
    EXPECT_EQ(run("results list --store none.db").status, 2);
}

TEST_F(Tool, CasesThatChangedBetweenTwoRunsAreAskedAgain) {
    const auto codec = [&](const std::string& fault) {
        return write("codec.toml", fmt::format("[[implementation]]\nname = \"codec\"\ncommand = [\"{}/adapters/"
                                               "seeded-faults-adapter\"{}]\nformats = [\"json\"]\n",
                                               BUILD_FOLDER, fault));
    };
    const std::string call = "run json --aspect names --aspect strings --store kept.db --config ";
    EXPECT_EQ(run(call + codec("")).status, 0);
    const Called one = run(call + codec("") + " --again changed");
    EXPECT_EQ(one.status, 2);
    EXPECT_NE(one.err.find("holds one complete run, and nothing to compare it with"), std::string::npos) << one.err;
    EXPECT_EQ(run(call + codec("")).status, 0);
    EXPECT_NE(run(call + codec("") + " --again changed").err.find("no case changed"), std::string::npos);
    EXPECT_EQ(run(call + codec(", \"cut-at-nul\"")).status, 1);
    const Called again = run(call + codec(", \"cut-at-nul\"") + " --again changed --by cause");
    EXPECT_EQ(again.status, 1) << again.err;
    EXPECT_NE(again.out.find("string/cut-at-nul"), std::string::npos) << again.out;
    // Only those were asked.
    const Called counts = run("results query --store kept.db 'SELECT cases FROM runs ORDER BY id'");
    std::istringstream lines(counts.out);
    std::vector<int> cases;
    std::string line;
    for (std::getline(lines, line); std::getline(lines, line);) cases.push_back(std::stoi(line));
    ASSERT_EQ(cases.size(), 4U) << counts.out;
    EXPECT_GT(cases[2], 400);
    EXPECT_LT(cases[3], 60);
    EXPECT_GT(cases[3], 3);
}

}  // namespace

// The runner against adapters that misbehave: every death is told apart and blamed on the right request.
#include <gtest/gtest.h>

#include <fmt/format.h>
#include <signal.h>

#include <filesystem>
#include <fstream>
#include <thread>

#include <nachklang/corpus.hpp>
#include <nachklang/runner.hpp>

namespace {

using namespace nachklang;

Implementation rogue(const std::string& way) {
    Implementation out;
    out.name = "rogue";
    out.command = {"/usr/bin/python3", SOURCE_FOLDER "/tests/rogue_adapter.py", way};
    out.formats = {"json"};
    out.deadline_s = way == "memory" ? 30 : 1;  // a loaded machine takes its time to hand out memory
    out.start_s = 20;
    out.memory_mb = 300;
    return out;
}

std::vector<Request> requests(const std::vector<std::string>& documents) {
    std::vector<Request> out;
    for (const std::string& d : documents)
        out.push_back({Operation::decode, find_format("json"), std::make_shared<const std::string>(d), true});
    return out;
}

Chunk ask(const std::string& way, const std::vector<std::string>& documents) {
    Quiet quiet;
    const auto subjects = greet(rogue(way), quiet);
    return make_asker(subjects.at(0), quiet)->ask(requests(documents));
}

const std::vector<std::string> five{"1", "2", "\"bell\"", "4", "5"};

struct DeathRow {
    const char* name;
    const char* way;
    OutcomeKind kind;
    std::string message;  // its beginning
};
class Misbehaving : public testing::TestWithParam<DeathRow> {};

TEST_P(Misbehaving, IsToldApartAndTheOthersGoOn) {
    const Chunk chunk = ask(GetParam().way, five);
    ASSERT_EQ(chunk.outcomes.size(), 5U);
    for (const std::size_t i : {0, 1, 3, 4})
        EXPECT_EQ(name_of(chunk.outcomes[i].kind), "accepted") << i << " " << chunk.outcomes[i].body;
    EXPECT_EQ(name_of(chunk.outcomes[2].kind), name_of(GetParam().kind));
    EXPECT_TRUE(chunk.outcomes[2].body.starts_with(GetParam().message)) << chunk.outcomes[2].body;
    EXPECT_TRUE(chunk.incidents.empty());
}

INSTANTIATE_TEST_SUITE_P(
    Rows, Misbehaving,
    testing::Values(
        DeathRow{"crash", "crash", OutcomeKind::crashed, "the process was killed by SIGSEGV"},
        DeathRow{"leave", "leave", OutcomeKind::crashed, "the process left with status 3"},
        DeathRow{"hang", "hang", OutcomeKind::timed_out, "no answer within 1 s"},
        DeathRow{"memory", "memory", OutcomeKind::out_of_memory, "more than 300 MB of resident memory"},
        DeathRow{"garbage", "garbage", OutcomeKind::broken_reply, "a reply's first line is KIND LENGTH id=N"},
        DeathRow{"flood", "flood", OutcomeKind::broken_reply, "a reply's first line has no end"},
        DeathRow{"lies_long", "lies-long", OutcomeKind::broken_reply, "a reply promised 50 bytes and 5 came"},
        DeathRow{"lies_short", "lies-short", OutcomeKind::broken_reply, "output that no request asked for"},
        DeathRow{"wrong_id", "wrong-id", OutcomeKind::broken_reply, "the reply to request 0 says id=7"},
        DeathRow{"bad_trace", "bad-trace", OutcomeKind::broken_reply, "line 1 of the trace: 'ding' is no word"}),
    [](const auto& info) { return info.param.name; });

TEST(Runner, KeepsTheEndOfALongLogAndNeverBlocksOnIt) {
    const Chunk chunk = ask("talks", five);
    for (const Outcome& outcome : chunk.outcomes) EXPECT_EQ(outcome.kind, OutcomeKind::accepted);
}

TEST(Runner, ADeathThatNeedsASequenceIsAnIncident) {
    const Chunk chunk = ask("sequence", {"1", "\"frame\"", "3", "\"bell\"", "5"});
    for (const Outcome& outcome : chunk.outcomes)
        EXPECT_EQ(name_of(outcome.kind), "accepted");  // alone nobody dies
    ASSERT_EQ(chunk.incidents.size(), 1U);
    EXPECT_EQ(name_of(chunk.incidents[0].outcome), "crashed");
    EXPECT_EQ(chunk.incidents[0].sequence, (std::vector<std::size_t>{0, 1, 2, 3}));
    EXPECT_TRUE(chunk.incidents[0].detail.starts_with("the process was killed by SIGABRT after 3 other requests"))
        << chunk.incidents[0].detail;
}

TEST(Runner, ARequestsClockDoesNotCountWhatOthersTook) {
    std::vector<std::string> many(12, "1");  // 12 times 0.15 s against a deadline of 1 s each
    const Chunk chunk = ask("slow", many);
    for (const Outcome& outcome : chunk.outcomes) EXPECT_EQ(name_of(outcome.kind), "accepted");
}

TEST(Runner, WithoutAHelloAllFail) {
    for (const auto& [way, message] :
         {std::pair<std::string, std::string>{"no-hello",
                                              "the first line is 'good morning', not 'nachklang-adapter 1'"},
          {"dies-first", "it left with status 9 before it said hello"}}) {
        Quiet quiet;
        const auto subjects = greet(rogue(way), quiet);
        ASSERT_EQ(subjects.size(), 1U);
        EXPECT_EQ(subjects[0].failed_hello, message);
        const Chunk chunk = make_asker(subjects[0], quiet)->ask(requests({"1", "2"}));
        for (const Outcome& outcome : chunk.outcomes) EXPECT_EQ(name_of(outcome.kind), "crashed");
    }
}

TEST(Runner, StartUpHasADeadlineOfItsOwn) {
    Implementation silent = rogue("silent");
    silent.start_s = 0.3;
    Quiet quiet;
    EXPECT_EQ(greet(silent, quiet).at(0).failed_hello, "it said no hello within 0.3 s");
}

TEST(Runner, ManyRequestsGoThroughOneProcess) {
    std::vector<std::string> many;
    for (int i = 0; i < 3000; ++i) many.push_back(std::to_string(i));
    many.push_back("\"" + std::string(3 << 20, 'o') + "\"");  // larger than any pipe
    many.emplace_back("1");
    Implementation standin;
    standin.name = "stand-in";
    standin.command = {BUILD_FOLDER "/adapters/standin-adapter"};
    standin.formats = {"json"};
    Quiet quiet;
    const auto subjects = greet(standin, quiet);
    EXPECT_EQ(subjects.at(0).version, "sound");
    const Chunk chunk = make_asker(subjects[0], quiet)->ask(requests(many));
    ASSERT_EQ(chunk.outcomes.size(), many.size());
    for (std::size_t i = 0; i < 3000; ++i) ASSERT_EQ(chunk.outcomes[i].trace->text(), fmt::format("int {}\n", i));
    EXPECT_EQ(chunk.outcomes[3000].kind, OutcomeKind::accepted);
}

TEST(Runner, KilledFromOutsideItGoesOn) {
    Quiet quiet;
    const auto subjects = greet(rogue("slow"), quiet);
    std::jthread killer([] {
        std::this_thread::sleep_for(std::chrono::milliseconds(500));
        for (const auto& entry : std::filesystem::directory_iterator("/proc")) {
            std::ifstream in(entry.path() / "cmdline");
            const std::string line{std::istreambuf_iterator<char>(in), std::istreambuf_iterator<char>()};
            if (line.find("rogue_adapter.py") != std::string::npos && line.find("slow") != std::string::npos)
                ::kill(std::stoi(entry.path().filename()), SIGKILL);
        }
    });
    const Chunk chunk = make_asker(subjects[0], quiet)->ask(requests(std::vector<std::string>(8, "1")));
    for (const Outcome& outcome : chunk.outcomes) EXPECT_EQ(name_of(outcome.kind), "accepted");
    ASSERT_EQ(chunk.incidents.size(), 1U);  // it died, and not when the sequence was replayed
    EXPECT_EQ(name_of(chunk.incidents[0].outcome), "unsteady");
}

// --- command lines ---
Implementation command_line(std::vector<std::string> command, Reach reach) {
    Implementation out;
    out.name = "line";
    out.reach = reach;
    out.command = std::move(command);
    out.formats = {"json"};
    out.deadline_s = 1;
    return out;
}
Outcome run_line(const Implementation& implementation, const std::string& document) {
    Quiet quiet;
    const auto subjects = greet(implementation, quiet);
    const Request request{implementation.reach == Reach::lap ? Operation::lap : Operation::decode,
                          find_format("json"), std::make_shared<const std::string>(document), true};
    return make_asker(subjects.at(0), quiet)->ask({&request, 1}).outcomes.at(0);
}

TEST(CommandLines, TellByTheirExitStatus) {
    const auto with_status = [](const char* script) {
        return command_line({"/bin/sh", "-c", script}, Reach::verdict);
    };
    EXPECT_EQ(name_of(run_line(with_status("exit 0"), "1").kind), "accepted");
    EXPECT_EQ(name_of(run_line(with_status("echo no bell >&2; exit 1"), "1").kind), "rejected");
    EXPECT_EQ(run_line(with_status("echo no bell >&2; exit 1"), "1").body, "no bell");
    EXPECT_EQ(name_of(run_line(with_status("exit 7"), "1").kind), "crashed");
    EXPECT_EQ(name_of(run_line(with_status("kill -SEGV $$"), "1").kind), "crashed");
    EXPECT_EQ(name_of(run_line(with_status("sleep 30"), "1").kind), "timed-out");
}

TEST(CommandLines, TakeTheDocumentByFileOrByStandardInput) {
    const std::string document = "[1,\n2]";
    EXPECT_EQ(run_line(command_line({"/bin/cat"}, Reach::lap), document).body, document);
    EXPECT_EQ(run_line(command_line({"/bin/cat", "{file}"}, Reach::lap), document).body, document);
    // Nothing goes through a shell.
    EXPECT_EQ(run_line(command_line({"/bin/echo", "$HOME;`id`"}, Reach::lap), document).body, "$HOME;`id`\n");
}

// --- in process ---
class Bells final : public adapter::Codec {
  public:
    [[nodiscard]] adapter::Description describe() const override {
        return {"bells", "1", "", "", {{"json", {"decode"}}}, {}, {}, {{"plain"}, {"strict", {"order"}}}};
    }
    adapter::Reply decode(std::string_view, std::string_view mode, std::string_view document,
                          adapter::TraceOut& out) override {
        if (document == "throw") throw std::runtime_error("rope torn");
        if (document == "memory") throw std::bad_alloc();
        if (mode == "strict") return adapter::Reply::rejected("too strict").at_offset(3).at_line(1);
        out.string(document);
        return adapter::Reply::accepted();
    }
};

TEST(InProcess, GoesThroughTheSameInterface) {
    Bells bells;
    const auto asker = make_in_process_asker(bells, "plain");
    const Chunk chunk = asker->ask(requests({"ding", "throw", "memory"}));
    EXPECT_EQ(chunk.outcomes[0].trace->text(), "str u8:64696e67\n");
    EXPECT_EQ(name_of(chunk.outcomes[1].kind), "threw");
    EXPECT_EQ(chunk.outcomes[1].body, "rope torn");
    EXPECT_EQ(name_of(chunk.outcomes[2].kind), "exhausted");
    const Outcome strict = make_in_process_asker(bells, "strict")->ask(requests({"x"})).outcomes.at(0);
    EXPECT_EQ(strict.offset, 3U);
    EXPECT_EQ(subject_of(bells, "strict").lacks, Lacks{"order"});
    EXPECT_TRUE(subject_of(bells).does("json", Operation::decode));
    EXPECT_FALSE(subject_of(bells).does("json", Operation::lap));
}

// --- plumbing ---
std::map<std::string, std::string> broken_checks(const std::string& way) {
    Quiet quiet;
    std::map<std::string, std::string> out;
    for (const auto& check : check_plumbing(greet(rogue(way), quiet).at(0), quiet).checks)
        if (!check.passed) out[check.name] = check.detail;
    return out;
}

TEST(Plumbing, SaysInWordsWhatIsWrong) {
    const auto end = broken_checks("bad-end");
    EXPECT_EQ(end.at("leaving with status 0 at the end of input"), "it left with status 4");
    EXPECT_TRUE(end.contains("a key it does not know is answered unsupported"));
    EXPECT_TRUE(end.contains("no trace for show=nothing"));
    EXPECT_TRUE(
        end.at("standard output kept from the library").starts_with("descriptor 1 is the pipe of the replies"));
    EXPECT_EQ(broken_checks("last-words").at("framing, ids and order of 40 requests ahead of their replies"),
              "output that no request asked for");
    EXPECT_TRUE(broken_checks("no-hello").contains("hello"));
}

TEST(Plumbing, HoldsForTheStandIn) {
    Implementation standin;
    standin.name = "stand-in";
    standin.command = {BUILD_FOLDER "/adapters/standin-adapter"};
    standin.formats = {"json"};
    Quiet quiet;
    const PlumbingReport report = check_plumbing(greet(standin, quiet).at(0), quiet);
    for (const auto& check : report.checks) EXPECT_TRUE(check.passed) << check.name << ": " << check.detail;
}

TEST(Configurations, ThatAreMalformedAreToldInOneLine) {
    const std::string file =
        (std::filesystem::temp_directory_path() / fmt::format("nachklang-configuration-{}.toml", ::getpid()))
            .string();
    const auto problem = [&](const std::string& text) {
        std::ofstream(file) << text;
        const auto loaded = load_configuration(file, "A", "B");
        return loaded.ok() ? std::string("fine") : loaded.problem().line().substr(file.size());
    };
    EXPECT_EQ(problem("[[implementation]]\nname = 'x'\n"),
              ":1: 'command' is missing; write command = [\"program\", \"argument\"]");
    EXPECT_EQ(problem("[[implementation]]\nname = 'x'\ncommand = ['y']\n"),
              ":1: 'formats' is missing; write formats = [\"json\"]");
    EXPECT_EQ(problem("[[implementation]]\nname = 'x'\ncommand = ['y']\nformats = ['json']\nreach = 'far'\n"),
              ":1: 'far' is no reach; use verdict, lap or trace");
    EXPECT_EQ(problem("[[implementation]]\nname = 'a b'\ncommand = ['y']\nformats = ['json']\n"),
              ":1: 'a b' is no name; leave out blanks, '/', '*' and '?'");
    EXPECT_EQ(problem("bells = 1\n"), ":1: 'bells' is not known here; see docs/configuration.md for the keys");
    EXPECT_EQ(problem("[[implementation]]\nname = 'x'\ncommand = ['{built}/y']\nformats = ['json']\ndeclares = "
                      "['depth=512']\n"),
              "fine");
    EXPECT_EQ(load_configuration(file, "A", "B").value().implementations[0].command[0], "B/y");
    std::filesystem::remove(file);
}

}  // namespace

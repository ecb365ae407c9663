// The runner against adapters that misbehave: every death is classified and booked on the right request.
#include <gtest/gtest.h>

#include <fmt/format.h>
#include <signal.h>
#include <sys/resource.h>

#include <atomic>
#include <chrono>
#include <filesystem>
#include <fstream>
#include <thread>

#include <nachklang/corpus.hpp>
#include <nachklang/runner.hpp>

#include "scratch.hpp"

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

Chunk run(const std::string& way, const std::vector<std::string>& documents) {
    const auto subjects = handshake(rogue(way));
    return make_executor(subjects.at(0))->run(requests(documents));
}

const std::vector<std::string> five{"1", "2", "\"bell\"", "4", "5"};

struct DeathRow {
    const char* name;
    const char* way;
    OutcomeKind kind;
    std::string message;  // its beginning
};
class Misbehaving : public testing::TestWithParam<DeathRow> {};

TEST_P(Misbehaving, IsReportedAndTheOthersGoOn) {
    const Chunk chunk = run(GetParam().way, five);
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
        DeathRow{"late", "late", OutcomeKind::timed_out, "no complete reply within 1 s: "},
        DeathRow{"memory", "memory", OutcomeKind::out_of_memory, "more than 300 MB of resident memory"},
        DeathRow{"garbage", "garbage", OutcomeKind::broken_reply, "a reply's first line is KIND LENGTH id=N"},
        DeathRow{"flood", "flood", OutcomeKind::broken_reply, "the first line of a reply does not end"},
        DeathRow{"lies_long", "lies-long", OutcomeKind::broken_reply, "a reply announced 50 bytes and 5 arrived"},
        DeathRow{"lies_short", "lies-short", OutcomeKind::broken_reply, "output without a request"},
        DeathRow{"wrong_id", "wrong-id", OutcomeKind::broken_reply, "the reply to request 0 says id=7"},
        DeathRow{"admits", "admits", OutcomeKind::adapter_fault, "KeyError: 'bell'"},
        DeathRow{"over_reports", "over-reports", OutcomeKind::broken_reply,
                 "reported= is more than the reply's LENGTH: "},
        DeathRow{"bad_trace", "bad-trace", OutcomeKind::broken_reply, "line 1 of the trace: 'ding' is not a word"}),
    [](const auto& info) { return info.param.name; });

TEST(Runner, SeparatesWhatALibraryReportedFromTheTrace) {
    const Chunk chunk = run("reports", five);
    for (const Outcome& outcome : chunk.outcomes) EXPECT_EQ(name_of(outcome.kind), "accepted") << outcome.body;
    EXPECT_EQ(chunk.outcomes[2].reported, "prefix unbound\n");
    ASSERT_TRUE(chunk.outcomes[2].trace);
    EXPECT_EQ(chunk.outcomes[2].trace->text(), "null\n");
    EXPECT_EQ(chunk.outcomes[1].reported, "");
}

TEST(Runner, KeepsTheEndOfALongLogAndNeverBlocksOnIt) {
    const Chunk chunk = run("talks", five);
    for (const Outcome& outcome : chunk.outcomes) EXPECT_EQ(outcome.kind, OutcomeKind::accepted);
}

TEST(Runner, AMessageIsCutAndItsLengthShown) {
    const Chunk chunk = run("talks-at-length", five);
    EXPECT_EQ(name_of(chunk.outcomes[2].kind), "rejected");
    EXPECT_LT(chunk.outcomes[2].body.size(), 5000U);
    EXPECT_TRUE(chunk.outcomes[2].body.ends_with(" … (5000000 bytes in all)"));
}

TEST(Runner, ADeathThatNeedsASequenceIsAnIncident) {
    const Chunk chunk = run("sequence", {"1", "\"frame\"", "3", "\"bell\"", "5"});
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
    const Chunk chunk = run("slow", many);
    for (const Outcome& outcome : chunk.outcomes) EXPECT_EQ(name_of(outcome.kind), "accepted");
}

struct FailedHello {
    const char* way;
    OutcomeKind outcome;
    const char* message;
};

TEST(Runner, WithoutAHelloOneRequestFailsAndTheRestIsNotAsked) {
    for (const auto& [way, outcome, message] :
         {FailedHello{"no-hello", OutcomeKind::broken_reply,
                      "the first line is 'good morning', not 'nachklang-adapter 1'"},
          {"dies-first", OutcomeKind::crashed, "it left with status 9 before the hello"},
          {"silent", OutcomeKind::timed_out, "no hello within 0.3 s"},
          {"endless-hello", OutcomeKind::broken_reply, "its output is not a hello"},
          {"hoards-first", OutcomeKind::out_of_memory, "too much memory before the hello"}}) {
        Implementation implementation = rogue(way);
        if (std::string_view(way) == "silent") implementation.start_s = 0.3;
        const auto subjects = handshake(implementation);
        ASSERT_EQ(subjects.size(), 1U);
        EXPECT_EQ(subjects[0].failed_hello, message);
        const Chunk chunk = make_executor(subjects[0])->run(requests({"1", "2", "3"}));
        ASSERT_EQ(chunk.outcomes.size(), 3U);
        EXPECT_EQ(name_of(chunk.outcomes[0].kind), name_of(outcome)) << way;
        for (const std::size_t i : {1, 2}) {
            EXPECT_EQ(name_of(chunk.outcomes[i].kind), "not-asked");
            EXPECT_EQ(chunk.outcomes[i].body, std::string("no hello: ") + message);
        }
        EXPECT_EQ(chunk.gave_up, std::string("no hello: ") + message);
    }
}

TEST(Runner, ACommandThatCannotBeRunIsNoAnswerOfALibrary) {
    Implementation missing = rogue("crash");
    missing.command = {BUILD_FOLDER "/no-such-adapter"};
    const auto subjects = handshake(missing);
    EXPECT_EQ(name_of(make_executor(subjects.at(0))->run(requests({"1"})).outcomes.at(0).kind), "adapter-fault");
}

TEST(Runner, AfterTenFailuresInARowTheRestIsNotAsked) {
    const std::vector<std::string> bells(14, "\"bell\"");
    const Chunk chunk = run("crash", bells);
    for (std::size_t i = 0; i < bells.size(); ++i)
        EXPECT_EQ(name_of(chunk.outcomes[i].kind), i < 10 ? "crashed" : "not-asked") << i;
    EXPECT_EQ(chunk.gave_up, "10 requests in a row failed, the last one: the process was killed by SIGSEGV");
    // An answer between them, and the executor goes on.
    std::vector<std::string> mixed;
    for (int i = 0; i < 14; ++i) mixed.insert(mixed.end(), {i == 6 ? "1" : "\"bell\""});
    const Chunk other = run("crash", mixed);
    EXPECT_EQ(other.gave_up, "");
    EXPECT_EQ(name_of(other.outcomes.back().kind), "crashed");
}

// One look in its row, with a short deadline, and one alone, without its value.
TEST(Runner, ARequestThatComputesForEverIsAskedTwice) {
    const Scratch folder;
    Implementation adapter = rogue("spins");
    adapter.command.push_back(folder.path() + "/begun");
    const Chunk chunk =
        make_executor(handshake(adapter).at(0))->run(requests({"\"bell\"", "\"bell\"", "\"bell\""}));
    for (const Outcome& outcome : chunk.outcomes) EXPECT_EQ(name_of(outcome.kind), "timed-out");
    EXPECT_EQ(read_file(folder.path() + "/begun").value(),
              "request\nrequest\nrequest\nrequest\nrequest\nrequest\n");
}

// A second and a half is late for a small document, and not for one of 200 KB. What is late is asked again alone,
// without its value and with it.
TEST(Runner, ALargeDocumentHasMoreTimeInARow) {
    for (const auto& [size, asked] : {std::pair<std::size_t, int>{2, 3}, {200000, 1}}) {
        const Scratch folder;
        Implementation adapter = rogue("takes-its-time");
        adapter.deadline_s = 5;
        adapter.command.push_back(folder.path() + "/begun");
        const Chunk chunk =
            make_executor(handshake(adapter).at(0))->run(requests({"1", std::string(size, ' '), "1"}));
        for (const Outcome& outcome : chunk.outcomes) EXPECT_EQ(name_of(outcome.kind), "accepted") << outcome.body;
        EXPECT_TRUE(chunk.incidents.empty());
        const std::string begun = read_file(folder.path() + "/begun").value();
        EXPECT_EQ(std::count(begun.begin(), begun.end(), '\n'), asked) << size;
    }
}

// A machine that stops for a while is no fault of an implementation.
TEST(Runner, WhatWasIdleUntilItsDeadlineIsAskedOnceMore) {
    const Scratch folder;
    Implementation adapter = rogue("stalls-once");
    adapter.command.push_back(folder.path() + "/adapter");
    Implementation command;
    command.name = "command";
    command.reach = Reach::round_trip;
    command.command = {"/bin/sh", "-c", "[ -e \"$0\" ] || { : > \"$0\"; exec sleep 60; }; exec cat",
                       folder.path() + "/command"};
    command.formats = {"json"};
    command.deadline_s = 1;
    for (const Implementation& implementation : {adapter, command}) {
        std::vector<Request> bell = requests({"\"bell\""});
        if (implementation.reach == Reach::round_trip) bell.front().operation = Operation::round_trip;
        const Chunk chunk = make_executor(handshake(implementation).at(0))->run(bell);
        EXPECT_EQ(name_of(chunk.outcomes.at(0).kind), "accepted") << implementation.name;
        EXPECT_TRUE(chunk.incidents.empty());
    }
}

TEST(Runner, TheNextRowMeetsTheSameProcessUntilItIsRestarted) {
    const auto subjects = handshake(rogue("remembers"));
    const auto executor = make_executor(subjects.at(0));
    const auto kind_of_bell = [&] { return name_of(executor->run(requests({"\"bell\""})).outcomes.at(0).kind); };
    executor->run(requests({"\"frame\""}));
    EXPECT_EQ(kind_of_bell(), "rejected");
    executor->run(requests({"\"frame\""}));
    executor->restart();
    EXPECT_EQ(kind_of_bell(), "accepted");
    executor->isolate_rows();
    executor->run(requests({"\"frame\""}));
    EXPECT_EQ(kind_of_bell(), "accepted");
    EXPECT_TRUE(executor->keeps_in_step());
}

TEST(Runner, ADeathAfterAnEarlierRowIsReplayedWithIt) {
    const auto subjects = handshake(rogue("sequence"));
    const auto executor = make_executor(subjects.at(0));
    executor->run(requests({"1", "\"frame\""}));
    const Chunk chunk = executor->run(requests({"3", "\"bell\""}));
    ASSERT_EQ(chunk.incidents.size(), 1U);
    EXPECT_EQ(name_of(chunk.incidents[0].outcome), "crashed");
    EXPECT_TRUE(chunk.incidents[0].detail.starts_with("the process was killed by SIGABRT after 3 other requests"))
        << chunk.incidents[0].detail;
}

TEST(Runner, ALastReplyThatIsTooLongIsNoticed) {
    for (const char* way : {"lies-short", "last-words"}) {
        const auto subjects = handshake(rogue(way));
        const auto executor = make_executor(subjects.at(0));
        executor->run(requests({"1", "\"bell\""}));
        EXPECT_FALSE(executor->keeps_in_step()) << way;
        executor->isolate_rows();
        EXPECT_EQ(name_of(executor->run(requests({"\"bell\""})).outcomes.at(0).kind), "broken-reply") << way;
    }
}

// More busy threads than processors: the adapter computes for half of its deadline, and is on time by its own
// clock.
TEST(Runner, ADeadlineDoesNotCountTheTimeWithoutAProcessor) {
    std::atomic<bool> over = false;
    std::vector<std::jthread> load;
    for (unsigned i = 0; i < 4 * std::max(1U, std::thread::hardware_concurrency()); ++i)
        load.emplace_back([&] {
            while (!over) {
            }
        });
    const Chunk computes = run("computes", {"\"bell\""});
    const Chunk sleeps = run("hang", {"\"bell\""});
    over = true;
    EXPECT_EQ(name_of(computes.outcomes.at(0).kind), "accepted") << computes.outcomes.at(0).body;
    EXPECT_EQ(name_of(sleeps.outcomes.at(0).kind), "timed-out");
}

TEST(Runner, StartUpHasADeadlineOfItsOwn) {
    Implementation silent = rogue("silent");
    silent.start_s = 0.3;
    EXPECT_EQ(handshake(silent).at(0).failed_hello, "no hello within 0.3 s");
}

TEST(Runner, ManyRequestsGoThroughOneProcess) {
    std::vector<std::string> many;
    for (int i = 0; i < 3000; ++i) many.push_back(std::to_string(i));
    many.push_back("\"" + std::string(3 << 20, 'o') + "\"");  // larger than any pipe
    many.emplace_back("1");
    Implementation seeded;
    seeded.name = "seeded-faults";
    seeded.command = {BUILD_FOLDER "/adapters/seeded-faults-adapter"};
    seeded.formats = {"json"};
    const auto subjects = handshake(seeded);
    EXPECT_EQ(subjects.at(0).version, "sound");
    const Chunk chunk = make_executor(subjects[0])->run(requests(many));
    ASSERT_EQ(chunk.outcomes.size(), many.size());
    for (std::size_t i = 0; i < 3000; ++i) ASSERT_EQ(chunk.outcomes[i].trace->text(), fmt::format("int {}\n", i));
    EXPECT_EQ(chunk.outcomes[3000].kind, OutcomeKind::accepted);
}

TEST(Runner, KilledFromOutsideItGoesOn) {
    const auto subjects = handshake(rogue("slow"));
    std::jthread killer([] {
        std::this_thread::sleep_for(std::chrono::milliseconds(500));
        for (const auto& entry : std::filesystem::directory_iterator("/proc")) {
            std::ifstream in(entry.path() / "cmdline");
            const std::string line{std::istreambuf_iterator<char>(in), std::istreambuf_iterator<char>()};
            if (line.find("rogue_adapter.py") != std::string::npos && line.find("slow") != std::string::npos)
                ::kill(std::stoi(entry.path().filename()), SIGKILL);
        }
    });
    const Chunk chunk = make_executor(subjects[0])->run(requests(std::vector<std::string>(8, "1")));
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
    const auto subjects = handshake(implementation);
    const Request request{implementation.reach == Reach::round_trip ? Operation::round_trip : Operation::decode,
                          find_format("json"), std::make_shared<const std::string>(document), true};
    return make_executor(subjects.at(0))->run({&request, 1}).outcomes.at(0);
}

TEST(CommandLines, AnswerByTheirExitStatus) {
    const auto with_status = [](const char* script) {
        return command_line({"/bin/sh", "-c", script}, Reach::verdict);
    };
    EXPECT_EQ(name_of(run_line(with_status("exit 0"), "1").kind), "accepted");
    EXPECT_EQ(name_of(run_line(with_status("echo no bell >&2; exit 1"), "1").kind), "rejected");
    EXPECT_EQ(run_line(with_status("echo no bell >&2; exit 1"), "1").body, "no bell");
    EXPECT_EQ(name_of(run_line(with_status("echo rope torn >&2; exit 7"), "1").kind), "threw");
    EXPECT_EQ(run_line(with_status("echo rope torn >&2; exit 7"), "1").body,
              "left with status 7, not among rejected_status [1]: rope torn");
    EXPECT_EQ(name_of(run_line(with_status("kill -SEGV $$"), "1").kind), "crashed");
    EXPECT_EQ(name_of(run_line(with_status("sleep 30"), "1").kind), "timed-out");
}

// A verdict needs no output, and a text of a round trip has a limit.
TEST(CommandLines, WriteAsMuchAsTheyLike) {
    const auto peak_mb = [] {
        rusage usage{};
        ::getrusage(RUSAGE_SELF, &usage);
        return usage.ru_maxrss / 1024;
    };
    const std::vector<std::string> loud{"/bin/sh", "-c", "head -c 400000000 /dev/zero"};
    const long before = peak_mb();
    EXPECT_EQ(name_of(run_line(command_line(loud, Reach::verdict), "1").kind), "accepted");
    EXPECT_LT(peak_mb() - before, 100);
    const Outcome flood = run_line(command_line(loud, Reach::round_trip), "1");
    EXPECT_EQ(name_of(flood.kind), "broken-reply");
    EXPECT_EQ(flood.body, "wrote more than 256 MB");
}

TEST(CommandLines, TakeTheDocumentByFileOrByStandardInput) {
    const std::string document = "[1,\n2]";
    EXPECT_EQ(run_line(command_line({"/bin/cat"}, Reach::round_trip), document).body, document);
    EXPECT_EQ(run_line(command_line({"/bin/cat", "{file}"}, Reach::round_trip), document).body, document);
    // Writing nothing is no document, of a command that reads any number of them.
    EXPECT_EQ(name_of(run_line(command_line({"/bin/true"}, Reach::round_trip), document).kind), "rejected");
    // Nothing goes through a shell.
    EXPECT_EQ(run_line(command_line({"/bin/echo", "$HOME;`id`"}, Reach::round_trip), document).body,
              "$HOME;`id`\n");
}

// --- in process ---
class Bells final : public adapter::Codec {
  public:
    [[nodiscard]] adapter::Description describe() const override {
        return {.name = "bells",
                .version = "1",
                .capabilities = {{"json", {"decode"}}},
                .modes = {{.name = "plain"}, {.name = "strict", .cannot_represent = {"order"}}}};
    }
    adapter::Reply decode(std::string_view, std::string_view mode, std::string_view document,
                          adapter::TraceOut& out) override {
        if (document == "own") throw std::runtime_error("the adapter's own");
        adapter::library<std::invalid_argument>([&] {
            if (document == "throw") throw std::runtime_error("rope torn");
            if (document == "refuse") throw std::invalid_argument("no bell");
            if (document == "memory") throw std::bad_alloc();
            if (document == "odd") throw 5;
        });
        if (mode == "strict") return adapter::Reply::rejected("too strict").at_offset(3).at_line(1);
        out.string(document);
        return adapter::Reply::accepted();
    }
};

TEST(InProcess, GoesThroughTheSameInterface) {
    Bells bells;
    const auto executor = make_in_process_executor(bells, "plain");
    const std::vector<std::string> documents{"ding", "throw", "refuse", "memory", "odd", "own"};
    const Chunk chunk = executor->run(requests(documents));
    EXPECT_EQ(chunk.outcomes[0].trace->text(), "str u8:64696e67\n");
    const std::vector<std::pair<std::string, std::string>> wanted{{"threw", "rope torn"},
                                                                  {"rejected", "no bell"},
                                                                  {"exhausted", "no memory"},
                                                                  {"threw", "an exception of an unknown type"},
                                                                  {"adapter-fault", "the adapter's own"}};
    for (std::size_t i = 0; i < wanted.size(); ++i) {
        EXPECT_EQ(name_of(chunk.outcomes[i + 1].kind), wanted[i].first) << documents[i + 1];
        EXPECT_EQ(chunk.outcomes[i + 1].body, wanted[i].second) << documents[i + 1];
    }
    const Outcome strict = make_in_process_executor(bells, "strict")->run(requests({"x"})).outcomes.at(0);
    EXPECT_EQ(strict.offset, 3U);
    EXPECT_EQ(handshake(bells, "strict").cannot_represent, CannotRepresent{"order"});
    EXPECT_TRUE(handshake(bells).does("json", Operation::decode));
    EXPECT_FALSE(handshake(bells).does("json", Operation::round_trip));
}

// --- protocol ---
std::map<std::string, std::string> broken_checks(const std::string& way) {
    std::map<std::string, std::string> out;
    for (const auto& check : check_protocol(handshake(rogue(way)).at(0)).checks)
        if (!check.passed) out[check.name] = check.detail;
    return out;
}

TEST(Plumbing, SaysInWordsWhatIsWrong) {
    const auto end = broken_checks("bad-end");
    EXPECT_EQ(end.at("exits with status 0 at the end of input"), "it left with status 4");
    EXPECT_TRUE(end.contains("a key it does not know is answered unsupported"));
    EXPECT_TRUE(end.contains("no trace for show=nothing"));
    EXPECT_TRUE(
        end.at("standard output kept from the library").starts_with("descriptor 1 is the pipe of the replies"));
    EXPECT_EQ(broken_checks("last-words").at("framing, ids and order of 40 requests ahead of their replies"),
              "output without a request");
    EXPECT_TRUE(broken_checks("no-hello").contains("hello"));
}

TEST(Plumbing, HoldsForTheSeededFaultsCodec) {
    Implementation seeded;
    seeded.name = "seeded-faults";
    seeded.command = {BUILD_FOLDER "/adapters/seeded-faults-adapter"};
    seeded.formats = {"json"};
    const ProtocolReport report = check_protocol(handshake(seeded).at(0));
    for (const auto& check : report.checks) EXPECT_TRUE(check.passed) << check.name << ": " << check.detail;
}

// What is not asked of an adapter is no fault of its own; what goes wrong after something large is.
TEST(Plumbing, IsHeldAgainstLargeAndDeepDocuments) {
    const auto beside = broken_checks("plain");  // it knows no keys, and says so of nothing
    const auto only = [&](const std::string& way) {
        auto out = broken_checks(way);
        std::erase_if(out, [&](const auto& check) { return beside.contains(check.first); });
        return out;
    };
    using Checks = std::map<std::string, std::string>;
    EXPECT_EQ(only("choked-by-size"), (Checks{{"a document of 1 MB", "the outcome is rejected: no more"}}));
    EXPECT_EQ(
        only("walks-recursively"),
        (Checks{{"a value a million levels deep is walked without recursion",
                 "the process left with status 7; it is decoded with show=nothing, so the walk is at fault"}}));
    EXPECT_EQ(only("shows-nothing-deep"), Checks{});
}

TEST(Plumbing, OfCommandLinesIsTheirExitStatus) {
    const auto checks = [](const char* script, Reach reach) {
        Implementation line;
        line.name = "line";
        line.command = {"/bin/sh", "-c", script};
        line.formats = {"json"};
        line.reach = reach;
        std::vector<std::string> out;
        for (const auto& check : check_protocol(handshake(line).at(0)).checks)
            out.push_back(check.passed ? "passed" : check.detail);
        return out;
    };
    using Words = std::vector<std::string>;
    EXPECT_EQ(checks("grep -q '^[{]'", Reach::verdict), (Words{"passed", "passed"}));
    EXPECT_EQ(checks("grep '^[{]'", Reach::round_trip), (Words{"passed", "passed"}));
    EXPECT_EQ(checks("exit 0", Reach::verdict), (Words{"passed", "the outcome is accepted: "}));
    EXPECT_EQ(checks("echo no bell >&2; exit 1", Reach::verdict),
              (Words{"the outcome is rejected: no bell", "passed"}));
    EXPECT_EQ(checks("exit 9", Reach::verdict),
              (Words{"the outcome is threw: left with status 9, not among rejected_status [1]",
                     "the outcome is threw: left with status 9, not among rejected_status [1]"}));
}

struct HelloRow {
    const char* name;
    const char* hello;
    const char* problem;  ///< empty: it is one
};
class Hellos : public testing::TestWithParam<HelloRow> {};
TEST_P(Hellos, AreReadByTheProtocol) {
    const auto subjects = handshake(rogue(std::string("hello:") + GetParam().hello));
    ASSERT_GE(subjects.size(), 1U);
    EXPECT_EQ(subjects[0].failed_hello, GetParam().problem);
}
INSTANTIATE_TEST_SUITE_P(
    Rows, Hellos,
    testing::Values(
        HelloRow{
            "whole",
            R"(nachklang-adapter 1\nimplementation halm 2\nengine tower\njson decode round-trip\ncannot-represent order\nsetting a=b)",
            ""},
        HelloRow{
            "modes",
            R"(nachklang-adapter 1\nimplementation halm 2\njson decode\nmode plain\nmode strict\njson round-trip)",
            ""},
        HelloRow{"other_version", R"(nachklang-adapter 2\nimplementation halm 2\njson decode)",
                 "the first line is 'nachklang-adapter 2', not 'nachklang-adapter 1'"},
        HelloRow{"no_name", R"(nachklang-adapter 1\njson decode)", "no 'implementation NAME VERSION' line"},
        HelloRow{"no_format", R"(nachklang-adapter 1\nimplementation halm 2)",
                 "no line of a format, such as 'json decode'"},
        HelloRow{"unknown_line", R"(nachklang-adapter 1\nimplementation halm 2\nbells 3\njson decode)",
                 "line 3 is not understood: 'bells 3'"},
        HelloRow{"unknown_format", R"(nachklang-adapter 1\nimplementation halm 2\nruns decode)",
                 "line 3 is not understood: 'runs decode'"},
        HelloRow{"setting", R"(nachklang-adapter 1\nimplementation halm 2\njson decode\nsetting loud)",
                 "line 4: a setting is KEY=VALUE"},
        HelloRow{"mode_of_two_words", R"(nachklang-adapter 1\nimplementation halm 2\njson decode\nmode so so)",
                 "line 4 is not understood: 'mode so so'"}),
    [](const auto& info) { return info.param.name; });

TEST(Hellos, GiveEachModeWhatIsItsOwn) {
    const auto subjects = handshake(rogue(
        R"(hello:nachklang-adapter 1\nimplementation halm 2.1 beta\nengine tower\njson decode round-trip\ncannot-represent order\nsetting a=1\nmode plain\nmode writer\njson encode\ncannot-represent names\nsetting a=2\nsetting c=d=e)"));
    ASSERT_EQ(subjects.size(), 2U);
    EXPECT_EQ(subjects[0].name() + " " + subjects[0].version + " " + subjects[0].engine,
              "rogue/plain 2.1 beta tower");
    EXPECT_TRUE(subjects[0].does("json", Operation::round_trip));
    EXPECT_EQ(subjects[0].cannot_represent, CannotRepresent{"order"});
    EXPECT_EQ(subjects[0].settings, (Settings{{"a", "1"}}));
    EXPECT_FALSE(subjects[1].does("json", Operation::decode)) << "a mode may do less";
    EXPECT_TRUE(subjects[1].does("json", Operation::encode));
    EXPECT_EQ(subjects[1].cannot_represent, (CannotRepresent{"order", "names"}));
    EXPECT_EQ(subjects[1].settings, (Settings{{"a", "2"}, {"c", "d=e"}}));
}

struct HeadRow {
    const char* name;
    const char* reply;    ///< to the request in the middle; ID is replaced by its number
    const char* problem;  ///< empty: it is understood
};
class ReplyHeads : public testing::TestWithParam<HeadRow> {};
TEST_P(ReplyHeads, AreReadByTheProtocol) {
    const Chunk chunk = run(std::string("reply:") + GetParam().reply, five);
    ASSERT_EQ(chunk.outcomes.size(), 5U);
    for (const std::size_t i : {0, 1, 3, 4}) EXPECT_EQ(name_of(chunk.outcomes[i].kind), "accepted") << i;
    const Outcome& outcome = chunk.outcomes[2];
    const bool broken = *GetParam().problem != '\0';
    EXPECT_EQ(outcome.kind == OutcomeKind::broken_reply, broken) << name_of(outcome.kind);
    EXPECT_EQ(broken ? outcome.body : "", GetParam().problem) << "asked again alone it is request 0";
}
INSTANTIATE_TEST_SUITE_P(
    Rows, ReplyHeads,
    testing::Values(
        HeadRow{"rejected", R"(rejected 2 id=ID offset=3 line=1 column=4 end=9 unit=byte\nno)", ""},
        HeadRow{"kind", R"(refused 2 id=ID\nno)", "an unknown kind of reply: 'refused 2 id=0'"},
        HeadRow{"length", R"(rejected two id=ID\nno)", "a reply without a LENGTH: 'rejected two id=0'"},
        HeadRow{"negative", R"(rejected -2 id=ID\nno)", "a reply without a LENGTH: 'rejected -2 id=0'"},
        HeadRow{"two_words", R"(rejected 2\nno)", "a reply's first line is KIND LENGTH id=N: 'rejected 2'"},
        HeadRow{"offset", R"(rejected 2 id=ID offset=far\nno)",
                "a reply's key without a number: 'rejected 2 id=0 offset=far'"},
        HeadRow{"key", R"(rejected 2 id=ID tower=1\nno)", "a reply with an unknown key: 'rejected 2 id=0 tower=1'"},
        HeadRow{"too_long", R"(accepted 9999999999999 id=ID\nno)", "a reply of 9999999999999 bytes"}),
    [](const auto& info) { return info.param.name; });

TEST(ReplyHeads, GiveThePositionOfAnError) {
    const Outcome outcome =
        run(R"(reply:rejected 2 id=ID offset=3 line=1 column=4 unit=utf16\nno)", five).outcomes[2];
    EXPECT_EQ(name_of(outcome.kind), "rejected");
    EXPECT_EQ(outcome.body, "no");
    EXPECT_EQ(outcome.offset, 3U);
    EXPECT_EQ(outcome.line, 1U);
    EXPECT_EQ(outcome.column, 4U);
    EXPECT_EQ(outcome.unit, "utf16");
}

// A library must leave its host's signals alone.
TEST(Runner, LeavesTheHostsBrokenPipeSignalAsItWas) {
    struct sigaction before {
    }, after{};
    ASSERT_EQ(::sigaction(SIGPIPE, nullptr, &before), 0);
    const Chunk chunk = run("deaf", std::vector<std::string>(2, std::string(600000, 'x')));
    ASSERT_EQ(::sigaction(SIGPIPE, nullptr, &after), 0);
    EXPECT_EQ(before.sa_handler, after.sa_handler);
    EXPECT_EQ(after.sa_handler, SIG_DFL) << "and nothing was killed by it: this test still runs";
    sigset_t mask;
    ASSERT_EQ(::pthread_sigmask(SIG_BLOCK, nullptr, &mask), 0);
    EXPECT_EQ(sigismember(&mask, SIGPIPE), 0);
    EXPECT_EQ(chunk.outcomes.size(), 2U);
}

}  // namespace

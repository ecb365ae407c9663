// Runs and shrinking: the same findings whatever the workers, and the smallest witness.
#include <fmt/format.h>
#include <gtest/gtest.h>

#include <sstream>
#include <tuple>

#include <nachklang/experiments.hpp>
#include <nachklang/json.hpp>
#include <nachklang/number.hpp>
#include <nachklang/store.hpp>

#include "played.hpp"
#include "scratch.hpp"
#include "seeded_faults/json_codec.hpp"

namespace {

using namespace nachklang;
using namespace nachklang::played_codec;

/// No aspect: all, which are several chunks.
std::vector<Case> cases_of_aspect(const std::string& aspect) {
    auto corpus = load_corpus(SOURCE_FOLDER "/corpora/json");
    if (!corpus.ok()) throw std::runtime_error(corpus.problem().line());
    std::vector<Case> out;
    for (Case& c : corpus.value().cases)
        if (aspect.empty() || c.aspect == aspect) out.push_back(std::move(c));
    return out;
}

/// Two codecs that differ in one fault, as processes.
std::vector<Subject> two_subjects(const std::string& fault) {
    std::vector<Subject> out;
    for (const auto& [name, argument] : {std::pair<std::string, std::string>{"sound", ""}, {"faulty", fault}}) {
        Implementation implementation;
        implementation.name = name;
        implementation.command = {BUILD_FOLDER "/adapters/seeded-faults-adapter", argument};
        if (argument.empty()) implementation.command.pop_back();
        implementation.formats = {"json"};
        out.push_back(handshake(implementation).at(0));
    }
    return out;
}

std::string records(const std::vector<Case>& cases, const std::vector<Subject>& subjects, unsigned workers) {
    std::string out;
    CampaignOptions options;
    options.workers = workers;
    FunctionSink sink(
        [&](const ChunkReport& report) {
            for (const Result& r : report.results) out += line_of(record_of(r)) + "\n";
            for (const Disagreement& d : report.disagreements) out += line_of(record_of(d)) + "\n";
        },
        [&](const IncidentReport& i) { out += line_of(record_of(i)) + "\n"; });
    run_campaign(
        cases, subjects, [&](const Subject& s) { return make_executor(s); }, options, sink);
    return out;
}

TEST(Campaign, WritesTheSameRecordsWhateverTheWorkers) {
    const auto cases = cases_of_aspect("");
    const auto subjects = two_subjects("cut-at-nul");
    const std::string one = records(cases, subjects, 1);
    EXPECT_EQ(one, records(cases, subjects, 4));
    EXPECT_NE(one.find("\"cause\":\"string/cut-at-nul\""), std::string::npos);
    EXPECT_GE(static_cast<std::size_t>(std::count(one.begin(), one.end(), '\n')), 2 * cases.size());
}

TEST(Campaign, AnswersThatDependOnWhatWentBeforeAreIncidents) {
    const std::string all = records(cases_of_aspect("structure"), two_subjects("state-kept-after-error"), 2);
    EXPECT_NE(all.find("\"record\":\"incident\",\"implementation\":\"faulty\""), std::string::npos);
    EXPECT_EQ(all.find("too-strict"), std::string::npos);  // alone each answer is right
}

// A table without an order is written in another one each time; that its text is ill-formed does not change that.
TEST(Campaign, AnotherOrderIsNoOtherAnswerOfWhatHasNone) {
    const std::vector<Case> cases{case_of_document("c", "two", json::format(), R"({"a":1,"b":2})")};
    for (const bool has_order : {true, false}) {
        Subject subject = played("table", {"round-trip"});
        if (!has_order) subject.cannot_represent = {"order"};
        std::size_t asked = 0, incidents = 0;
        FunctionSink sink([](const ChunkReport&) {}, [&](const IncidentReport&) { ++incidents; });
        run_campaign(
            cases, {{subject}},
            [&](const Subject&) {
                return std::make_unique<Played>([&](const Request&) {
                    const bool first = asked++ == 0;
                    return outcome_of(OutcomeKind::accepted, first ? R"({"a":1,"b":inf})" : R"({"b":inf,"a":1})");
                });
            },
            {}, sink);
        EXPECT_EQ(incidents, has_order ? 1U : 0U);
    }
}

// An object breaks it for good, so every later answer is wrong, and wrong in the same way when it is repeated.
TEST(Campaign, DamageThatLastsIsBookedOnTheDocumentThatDidIt) {
    Implementation damaged;
    damaged.name = "damaged";
    damaged.command = {"python3", SOURCE_FOLDER "/tests/rogue_adapter.py", "damaged"};
    damaged.formats = {"json"};
    const std::vector<Subject> subjects{handshake(damaged).at(0)};
    auto cases = cases_of_aspect("structure");
    cases.resize(60);
    std::size_t threw = 0;
    FunctionSink sink([&](const ChunkReport& report) {
        for (const Result& r : report.results) {
            const bool is_object = r.test_case->document->starts_with('{');
            EXPECT_EQ(r.outcome.kind == OutcomeKind::threw, is_object) << r.test_case->name;
            threw += is_object ? 1 : 0;
        }
    });
    run_campaign(
        cases, subjects, [&](const Subject& s) { return make_executor(s); }, {}, sink);
    EXPECT_GT(threw, 0U);
}

/// "OPERATION OUTCOME BODY" of each result on two documents, the second of which contains "bell".
std::vector<std::string> outcomes_of(const char* way) {
    Implementation rogue;
    rogue.name = "rogue";
    rogue.command = {"python3", SOURCE_FOLDER "/tests/rogue_adapter.py", way};
    rogue.formats = {"json"};
    rogue.deadline_s = 1;
    const std::vector<Subject> subjects{handshake(rogue).at(0)};
    std::vector<std::string> out;
    FunctionSink sink([&](const ChunkReport& report) {
        for (const Result& r : report.results)
            out.push_back(fmt::format("{} {} {}", name_of(r.operation), name_of(r.outcome.kind), r.outcome.body));
    });
    const std::vector<Case> cases{case_of_document("c", "null", json::format(), "null"),
                                  case_of_document("c", "bell", json::format(), "\"bell\"")};
    run_campaign(
        cases, subjects, [&](const Subject& s) { return make_executor(s); }, {}, sink);
    return out;
}

TEST(Campaign, AValueThatTheAdapterShowsTooSlowlyIsNoFailureOfTheLibrary) {
    EXPECT_EQ(
        outcomes_of("shows-slowly"),
        (std::vector<std::string>{"decode accepted ",
                                  "decode unsupported the adapter could not show the value (no answer within 1 "
                                  "s); without showing it, the document was accepted"}));
}

TEST(Campaign, ARoundTripIsNotAskedIfItsDecodeHung) {
    const auto outcomes = outcomes_of("hangs-in-both");
    ASSERT_EQ(outcomes.size(), 4U);
    EXPECT_EQ(outcomes[2], "decode timed-out no answer within 1 s");
    EXPECT_EQ(outcomes[3], "round-trip not-asked its decode failed: no answer within 1 s");
}

TEST(Campaign, CountsWhatIsDoneAndStopsWhenAsked) {
    const auto cases = cases_of_aspect("numbers");
    const auto subjects = two_subjects("minus-lost");
    std::atomic<bool> cancelled = true;
    CampaignOptions options;
    options.cancelled = &cancelled;
    std::size_t chunks = 0;
    FunctionSink sink([&](const ChunkReport&) { ++chunks; });
    run_campaign(
        cases, subjects, [&](const Subject& s) { return make_executor(s); }, options, sink);
    EXPECT_EQ(chunks, 0U);
}

TEST(Campaign, ThatIsCancelledKeepsWhatIsDone) {
    auto corpus = load_corpus(SOURCE_FOLDER "/corpora/json");
    ASSERT_TRUE(corpus.ok());
    const auto& cases = corpus.value().cases;
    const auto subjects = two_subjects("minus-lost");
    std::atomic<bool> cancelled = false;
    CampaignOptions options;
    options.cancelled = &cancelled;
    options.progress = [&](std::size_t done, std::size_t) { cancelled = cancelled || done > 0; };
    std::size_t results = 0;
    FunctionSink sink([&](const ChunkReport& report) { results += report.results.size(); });
    run_campaign(
        cases, subjects, [&](const Subject& s) { return make_executor(s); }, options, sink);
    EXPECT_GT(results, 0U);
    EXPECT_LT(results, 4 * cases.size());
}

/// An executor with a codec of its own: a codec is used from one thread at a time.
class SoundExecutor final : public Executor {
  public:
    Chunk run(std::span<const Request> requests) override { return executor_->run(requests); }

  private:
    seeded_faults::JsonCodec codec_;
    std::unique_ptr<Executor> executor_ = make_in_process_executor(codec_);
};

TEST(Campaign, IsLeftByAnExceptionOfItsCaller) {
    const seeded_faults::JsonCodec codec;
    const std::vector<Subject> subjects{handshake(codec)};
    auto corpus = load_corpus(SOURCE_FOLDER "/corpora/json");
    ASSERT_TRUE(corpus.ok());
    for (const unsigned workers : {1U, 4U}) {
        CampaignOptions options;
        options.workers = workers;
        FunctionSink full([](const ChunkReport&) { throw std::runtime_error("no room"); });
        EXPECT_THROW(run_campaign(
                         corpus.value().cases, subjects,
                         [](const Subject&) { return std::make_unique<SoundExecutor>(); }, options, full),
                     std::runtime_error)
            << "workers are woken, so that joining them cannot deadlock";
    }
}

/// A decoder that refuses bare scalars and ignores what follows a document, as the rows say.
class Particular final : public Executor {
  public:
    Particular(bool scalars, bool rest) : scalars_(scalars), rest_(rest) {}
    Chunk run(std::span<const Request> requests) override {
        Chunk out;
        for (const Request& request : requests) out.outcomes.push_back(one(*request.body));
        return out;
    }

  private:
    [[nodiscard]] Outcome one(std::string_view document) const {
        const Format& format = *find_format("json");
        Outcome out;
        out.kind = OutcomeKind::rejected;
        if (!scalars_ && !document.starts_with('[')) return out;
        for (std::size_t end = document.size(); end > 0 && out.kind == OutcomeKind::rejected; --end) {
            if (const Reading reading = format.read(document.substr(0, end)); reading.accepted()) {
                out.kind = OutcomeKind::accepted;
                out.trace = reading.trace;
            }
            if (!rest_) break;
        }
        return out;
    }
    bool scalars_, rest_;
};

struct ParticularRow {
    const char* name;
    bool scalars, rest;
    std::string document;
    std::vector<std::string> findings;  // "case finding cause question=answer"
};
class PlaceOfADocument : public testing::TestWithParam<ParticularRow> {};

TEST_P(PlaceOfADocument, IsFoundByAskingItElsewhere) {
    Subject subject;
    subject.implementation.name = "particular";
    subject.operations = {{"json", {"decode"}}};
    const std::vector<Case> cases{case_of_document("test", "x", *find_format("json"), GetParam().document)};
    std::vector<std::string> found;
    FunctionSink sink([&](const ChunkReport& report) {
        for (const Result& r : report.results) {
            std::string line =
                r.test_case->name + " " + std::string(name_of(r.finding.kind)) + " " + r.finding.cause();
            for (const GivenAnswer& a : r.finding.answers) line += " " + a.question + "=" + a.answered;
            found.push_back(line);
        }
    });
    run_campaign(
        cases, {&subject, 1},
        [](const Subject&) { return std::make_unique<Particular>(GetParam().scalars, GetParam().rest); }, {}, sink);
    EXPECT_EQ(found, GetParam().findings);
}

INSTANTIATE_TEST_SUITE_P(
    Rows, PlaceOfADocument,
    testing::Values(
        ParticularRow{"scalars_taken", true, false, "1", {"x conforms "}},
        ParticularRow{
            "scalar_refused", false, false, "1", {"x too-strict verdict/scalar-refused", "x:in-array conforms "}},
        ParticularRow{"number_out_of_range_refused_as_scalar",
                      false,
                      false,
                      "1e400",
                      {"x too-strict verdict/scalar-refused",
                       "x:in-array conforms  number-precision=exact number-range=exact"}},
        ParticularRow{"array_refused", false, false, "{}", {"x too-strict verdict/refused"}},
        ParticularRow{
            "rest_ignored", true, true, "[1] // c", {"x too-lenient verdict/rest-ignored text-after-end=accepted"}},
        ParticularRow{"rest_ignored_inside_a_number",
                      true,
                      true,
                      "01",
                      {"x too-lenient verdict/rest-ignored text-after-end=accepted"}},
        ParticularRow{
            "rest_refused", true, false, "[1] // c", {"x conforms  text-after-end=refused comments=refused"}}),
    [](const auto& info) { return info.param.name; });

/// An executor that fails as a full temporary folder or a missing descriptor would.
class Throwing final : public Executor {
  public:
    Chunk run(std::span<const Request>) override { throw std::runtime_error("no descriptor left"); }
};

TEST(Campaign, RethrowsWhatAWorkerThrewAndKeepsWhatIsDone) {
    seeded_faults::JsonCodec codec;
    const std::vector<Subject> subjects{handshake(codec)};
    const auto cases = cases_of_aspect("");
    for (const unsigned workers : {1U, 4U}) {
        CampaignOptions options;
        options.workers = workers;
        std::atomic<int> made = 0;
        // The factory gives one good executor, then one that throws; a third call throws itself.
        const ExecutorFactory make = [&](const Subject&) -> std::unique_ptr<Executor> {
            const int call = made++;
            if (call == 0) return std::make_unique<SoundExecutor>();
            if (call == 1) return std::make_unique<Throwing>();
            throw std::runtime_error("no process left");
        };
        std::size_t results = 0;
        FunctionSink sink([&](const ChunkReport& report) { results += report.results.size(); });
        EXPECT_THROW(run_campaign(cases, subjects, make, options, sink), std::runtime_error);
        EXPECT_GT(results, 0U) << "the chunk that was done is kept";
    }
}

TEST(Limits, RethrowWhatAWorkerThrew) {
    seeded_faults::JsonCodec codec;
    const std::vector<Subject> subjects{handshake(codec), handshake(codec)};
    LimitOptions options;
    options.workers = 2;
    EXPECT_THROW(
        (void)find_limits(
            json::format(), subjects, [](const Subject&) { return std::make_unique<Throwing>(); }, options),
        std::runtime_error);
}

TEST(Records, HoldTheFieldsThatOtherProgramsRead) {
    Case c = case_of_document("json", "numbers/tenth", json::format(), R"({"weight_kg":0.1})");
    Subject subject;
    subject.implementation.name = "tower-json";
    subject.mode = "plain";
    Result result;
    result.test_case = &c;
    result.subject = &subject;
    result.outcome.kind = OutcomeKind::accepted;
    result.outcome.trace = Trace::parse("{\nkey u8:7765696768745f6b67\nbinary64 3fb9999999999999\n}\n");
    result.finding = judge({c, expectation_of(c), subject, Operation::decode, result.outcome});
    result.digests = json::format().digests(*result.outcome.trace);
    const std::string line = line_of(record_of(result));
    const std::string expected =
        R"({"record":"result","corpus":"json","format":"json","case":"numbers/tenth","implementation":"tower-json/plain","operation":"decode","outcome":"accepted","finding":"altered","basis":"fidelity","answers":[],"cause":"number/off-by-ulp","causes":[{"cause":"number/off-by-ulp","at":"/weight_kg"}])";
    EXPECT_EQ(line.substr(0, expected.size()), expected);
    for (const char* field :
         {"\"detail\":\"0.1 became 0.09999999999999999 (1 ulp below)\"", "\"digests\":{\"value\":\"",
          "\"offset\":null", "\"line\":null", "\"column\":null", "\"message\":null", "\"log\":null"})
        EXPECT_NE(line.find(field), std::string::npos) << field;
}

TEST(Records, TextThatIsNoUtf8GoesToHexadecimalDigits) {
    Case c = case_of_document("json", "x", json::format(), "[1]");
    Subject subject;
    Result result;
    result.test_case = &c;
    result.subject = &subject;
    result.outcome.kind = OutcomeKind::rejected;
    result.outcome.body = "\xFF!";
    const std::string line = line_of(record_of(result));
    EXPECT_NE(line.find("\"message\":null,\"message_hex\":\"ff21\""), std::string::npos);
    const auto back = parse_record(line);
    ASSERT_TRUE(back.ok()) << back.problem().line();
    EXPECT_EQ(std::get<ResultRecord>(back.value()).message, "\xFF!");
}

TEST(Records, SayThatARoundTripIsNotTheEncodersFault) {
    Case c = case_of_document("json", "x", json::format(), "[1]");
    Subject subject;
    Result result;
    result.test_case = &c;
    result.subject = &subject;
    EXPECT_EQ(line_of(record_of(result)).find("encoder_at_fault"), std::string::npos);
    result.finding.encoder_at_fault = false;
    const std::string line = line_of(record_of(result));
    EXPECT_NE(line.find("\"encoder_at_fault\":false"), std::string::npos) << line;
    const auto back = parse_record(line);
    ASSERT_TRUE(back.ok()) << back.problem().line();
    EXPECT_FALSE(std::get<ResultRecord>(back.value()).encoder_at_fault);
}

TEST(Records, ReadBackAndWrittenAgainAreTheSameFile) {
    const Scratch scratch;
    const std::string results = scratch.path() + "/r.jsonl", disagreements = scratch.path() + "/d.jsonl";
    {
        auto first = LineFile::create(results), second = LineFile::create(disagreements);
        ASSERT_TRUE(first.ok() && second.ok());
        LineSink sink(first.value().get(), second.value().get());
        auto subjects = two_subjects("state-kept-after-error");
        subjects.push_back(two_subjects("trailing-comma-taken").at(1));  // for a disagreement
        CampaignOptions options;
        options.profile = "i-json";
        run_campaign(
            cases_of_aspect("structure"), subjects, [&](const Subject& s) { return make_executor(s); }, options,
            sink);
        ASSERT_FALSE(sink.problem());
    }
    std::set<std::size_t> kinds;
    for (const std::string& path : {results, disagreements}) {
        const auto records = read_records(path);
        ASSERT_TRUE(records.ok()) << records.problem().line();
        std::string again;
        for (const Record& record : records.value()) {
            kinds.insert(record.index());
            again += line_of(record) + "\n";
        }
        EXPECT_EQ(again, read_file(path).value());
    }
    EXPECT_EQ(kinds.size(), 4U) << "every kind of record is among them";
}

struct BadRecord {
    const char* name;
    const char* line;
};
class MalformedRecord : public testing::TestWithParam<BadRecord> {};
TEST_P(MalformedRecord, IsAProblemWithItsLine) {
    const Scratch scratch;
    const std::string path = scratch.write("r.jsonl", std::string(GetParam().line) + "\n");
    const auto records = read_records(path);
    ASSERT_FALSE(records.ok());
    EXPECT_EQ(records.problem().where, path + ":1");
    EXPECT_EQ(records.problem().advice, "see docs/records.md");
}
INSTANTIATE_TEST_SUITE_P(Rows, MalformedRecord,
                         testing::Values(BadRecord{"cut", R"({"record":"res)"},
                                         BadRecord{"kind", R"({"record":"bell"})"},
                                         BadRecord{"version", R"({"record":"run","version":2,"cases":0})"},
                                         BadRecord{"field", R"({"record":"incident","implementation":"x"})"},
                                         BadRecord{"array", "[1]"}, BadRecord{"empty", ""}),
                         [](const auto& info) { return info.param.name; });

TEST(Records, AFullDiskIsAProblemAndNoCrash) {
    EXPECT_FALSE(LineFile::create("/no/such/folder/results").ok());
    auto full = LineFile::create("/dev/full");
    ASSERT_TRUE(full.ok());
    std::optional<Problem> problem = full.value()->write(std::string(1 << 16, 'x'));
    if (!problem) problem = full.value()->flush();
    ASSERT_TRUE(problem.has_value());
    EXPECT_EQ(problem->line(),
              "/dev/full: cannot be written: No space left on device; the lines so far are kept; make room or name "
              "another file");
}

/// A card's rows in words.
std::string in_words(const Card& card) {
    std::string out;
    for (const auto& [aspect, a] : card.aspects)
        out += fmt::format("{}: {} asked, {} failing, {} permitted, {} not; ", aspect, a.asked, a.failing,
                           a.permitted, a.unsupported);
    for (const auto& [question, answers] : card.answers) {
        out += question.second + ":";
        for (const auto& [answer, count] : answers) out += fmt::format(" {} {}", answer, count);
        out += "; ";
    }
    return out;
}

TEST(Cards, GatherAnswersAndAspects) {
    std::vector<Case> cases;
    for (const char* document : {R"({"a":1,"a":2})", R"({"b":1,"b":2})", "[1,]", "[1]"}) {
        cases.push_back(case_of_document("json", "test/" + std::to_string(cases.size()), json::format(), document));
        cases.back().aspect = cases.size() < 3 ? "names" : "structure";
    }
    const std::vector<Subject> subjects{played("halm", {"decode", "round-trip"}), played("writer", {"round-trip"})};
    CampaignOptions options;
    CardSink sink;
    run_campaign(
        cases, subjects,
        [&](const Subject&) {
            return std::make_unique<Played>([](const Request& request) {
                const std::string& document = *request.body;
                if (document == "[1,]")
                    return request.operation == Operation::round_trip ? outcome_of(OutcomeKind::accepted, "[1]")
                                                                      : accepted("[\nint 1\n]\n");
                if (document == "[1]") return outcome_of(OutcomeKind::crashed, "SIGSEGV");
                const std::string name(1, document[2]);
                if (request.operation == Operation::round_trip)
                    return outcome_of(OutcomeKind::accepted, "{\"" + name + "\":2}");
                return accepted("{\nkey u8:" + text::to_hex(name) + "\nint 2\n}\n");
            });
        },
        options, sink);
    const auto& cards = sink.cards();
    // A round trip's answers count only for who cannot be asked to decode; accepting an extension is permitted (RFC
    // 8259, 9).
    EXPECT_EQ(in_words(cards[0]),
              "names: 4 asked, 0 failing, 0 permitted, 0 not; structure: 4 asked, 2 failing, 2 permitted, 0 not; "
              "duplicate-names: last 2; trailing-comma: accepted 1; ");
    EXPECT_EQ(in_words(cards[1]),
              "names: 2 asked, 0 failing, 0 permitted, 0 not; structure: 2 asked, 1 failing, 1 permitted, 0 not; "
              "duplicate-names: last 2; second-round-trip: same-bytes 2; trailing-comma: accepted 1; ");
}

// Which of them comes first depends on the workers.
TEST(Campaigns, AnswersThatAreEqualKeepTheirOwnSpelling) {
    const std::vector<Case> cases{case_of_document("json", "test/0", json::format(), "[1.0]")};
    const std::vector<Subject> subjects{played("halm", {"decode"}), played("kufe", {"decode"})};
    std::vector<std::string> held;
    FunctionSink sink([&](const ChunkReport& report) {
        for (const Result& r : report.results) held.emplace_back(r.value->text());
        EXPECT_TRUE(report.disagreements.empty());
    });
    run_campaign(
        cases, subjects,
        [](const Subject& subject) {
            const std::string spelled = subject.implementation.name == "halm" ? "1.0" : "1";
            return std::make_unique<Played>(
                [=](const Request&) { return accepted("[\nspelled u8:" + text::to_hex(spelled) + "\n]\n"); });
        },
        {}, sink);
    EXPECT_EQ(held, (std::vector<std::string>{"[\nspelled u8:312e30\n]\n", "[\nspelled u8:31\n]\n"}));
}

TEST(Shrinking, LeavesTheSmallestDocumentThatStillShowsIt) {
    std::string document = R"({"register":[)";
    for (int i = 0; i < 2000; ++i)
        document += (i > 0 ? "," : "") + std::string(R"({"name":"Hour","cast":1721,"hz":110.5})");
    document += R"(,{"name":"Fire","note":"x\u0000y"}]})";
    std::size_t batches = 0;
    const Shrunk shrunk = shrink(
        json::format(), document,
        [&](std::span<const std::string> candidates) {
            ++batches;
            std::vector<bool> out;
            for (const std::string& c : candidates)
                out.push_back(json::Document::read(c).accepted() && c.find("\\u0000") != std::string::npos);
            return out;
        },
        100000);
    EXPECT_TRUE(shrunk.complete);
    EXPECT_EQ(shrunk.document, "\"\\u0000\"");
    EXPECT_LT(shrunk.tried, 2000U);
    EXPECT_LT(batches, shrunk.tried);
}

TEST(Shrinking, StopsAtItsBudgetWithWhatItHas) {
    const Shrunk shrunk = shrink(
        json::format(), R"(["a","b","c","d","e","f"])",
        [](std::span<const std::string> c) { return std::vector<bool>(c.size(), false); }, 5);
    EXPECT_FALSE(shrunk.complete);
    EXPECT_EQ(shrunk.document, R"(["a","b","c","d","e","f"])");
}

/// A refusal at a position, as words of a reply: "offset=3 line=1 column=4 unit=byte".
struct PointingRow {
    const char *name, *document;
    std::size_t error;
    const char *place, *says;
};
class Pointings : public testing::TestWithParam<PointingRow> {};
TEST_P(Pointings, SayWhereARefusalPoints) {
    Outcome refusal;
    refusal.kind = OutcomeKind::rejected;
    std::istringstream words(GetParam().place);
    for (std::string word; words >> word;) {
        const std::string key = word.substr(0, word.find('=')), value = word.substr(word.find('=') + 1);
        if (key == "unit")
            refusal.unit = value;
        else
            (key == "offset" ? refusal.offset : key == "line" ? refusal.line : refusal.column) = std::stoull(value);
    }
    EXPECT_EQ(name_of(pointing_of(GetParam().document, GetParam().error, refusal)), GetParam().says);
}
INSTANTIATE_TEST_SUITE_P(
    Rows, Pointings,
    testing::Values(PointingRow{"none", "[1,]", 3, "", "no position"},
                    PointingRow{"exact", "[1,]", 3, "offset=3 unit=byte", "at the first error"},
                    PointingRow{"next", "[1,]", 3, "offset=4 unit=byte", "one character past it"},
                    PointingRow{"next_wide", "[1,\xC3\xA9", 3, "offset=5 unit=byte", "one character past it"},
                    PointingRow{"points", "[\"\xC3\xA9\",]", 6, "offset=5 unit=point", "at the first error"},
                    PointingRow{"utf16", "[\"\xF0\x9F\x94\x94\",]", 8, "offset=6 unit=utf16", "at the first error"},
                    PointingRow{"column", "[1,\n]", 4, "line=2 column=1", "at the first error"},
                    PointingRow{"column_after_return", "[1,\r\n\r]", 6, "line=3 column=1", "at the first error"},
                    PointingRow{"line", "[1,\n]", 4, "line=2", "its line alone"},
                    PointingRow{"other_line", "[1,\n]", 4, "line=1", "another line"},
                    PointingRow{"token", "[trux]", 4, "offset=1 unit=byte", "in the same token"},
                    PointingRow{"later", "[1,,[2]]", 3, "offset=6 unit=byte", "later"},
                    PointingRow{"earlier", "[1,,[2]]", 3, "offset=0 unit=byte", "earlier"},
                    PointingRow{"mark", "\xEF\xBB\xBF[1,]", 6, "offset=3 unit=byte",
                                "as if there were no byte order mark"},
                    PointingRow{"outside", "[1,]", 3, "offset=9 unit=byte", "outside the document"},
                    PointingRow{"outside_line", "[1,]", 3, "line=4 column=1", "outside the document"},
                    PointingRow{"offset_in_bytes_column_in_characters", "[\"\xC3\xA9\xC3\xA9\",]", 8,
                                "offset=8 line=1 column=7 unit=byte", "at the first error"},
                    PointingRow{"contradictory", "[1,,[2]]", 3, "offset=0 line=1 column=7 unit=byte",
                                "line and column contradict the offset"}),
    [](const auto& row) { return row.param.name; });

}  // namespace

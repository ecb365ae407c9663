// Runs and shrinking: the same findings whatever the workers, and the smallest witness.
#include <gtest/gtest.h>

#include <nachklang/experiments.hpp>
#include <nachklang/json.hpp>
#include <nachklang/store.hpp>

#include "faulty_json.hpp"

namespace {

using namespace nachklang;

std::vector<Case> cases_of_aspect(const std::string& aspect) {
    auto corpus = load_corpus(SOURCE_FOLDER "/corpora/json");
    if (!corpus.ok()) throw std::runtime_error(corpus.problem().line());
    std::vector<Case> out;
    for (Case& c : corpus.value().cases)
        if (c.aspect == aspect) out.push_back(std::move(c));
    return out;
}

/// Two stand-ins that differ in one fault, as processes.
std::vector<Subject> two_subjects(Quiet& quiet, const std::string& fault) {
    std::vector<Subject> out;
    for (const auto& [name, argument] : {std::pair<std::string, std::string>{"sound", ""}, {"faulty", fault}}) {
        Implementation implementation;
        implementation.name = name;
        implementation.command = {BUILD_FOLDER "/adapters/standin-adapter", argument};
        if (argument.empty()) implementation.command.pop_back();
        implementation.formats = {"json"};
        out.push_back(greet(implementation, quiet).at(0));
    }
    return out;
}

std::string records(const std::vector<Case>& cases, const std::vector<Subject>& subjects, Quiet& quiet,
                    unsigned workers) {
    std::string out;
    CampaignOptions options;
    options.workers = workers;
    run_campaign(
        cases, subjects, [&](const Subject& s) { return make_asker(s, quiet); }, options,
        [&](ChunkReport&& report) {
            for (const Result& r : report.results) out += record_of(r) + "\n";
            for (const Disagreement& d : report.disagreements) out += record_of(d) + "\n";
            for (const IncidentReport& i : report.incidents) out += record_of(i) + "\n";
        });
    return out;
}

TEST(Campaign, WritesTheSameRecordsWhateverTheWorkers) {
    Quiet quiet;
    const auto cases = cases_of_aspect("strings");
    const auto subjects = two_subjects(quiet, "cut-at-nul");
    const std::string one = records(cases, subjects, quiet, 1);
    EXPECT_EQ(one, records(cases, subjects, quiet, 4));
    EXPECT_NE(one.find("\"cause\":\"string/cut-at-nul\""), std::string::npos);
    EXPECT_EQ(static_cast<std::size_t>(std::count(one.begin(), one.end(), '\n')) >= 4 * cases.size(), true);
}

TEST(Campaign, AnswersThatDependOnWhatWentBeforeAreIncidents) {
    Quiet quiet;
    const std::string all =
        records(cases_of_aspect("structure"), two_subjects(quiet, "state-kept-after-error"), quiet, 2);
    EXPECT_NE(all.find("\"record\":\"incident\",\"implementation\":\"faulty\""), std::string::npos);
    EXPECT_EQ(all.find("too-strict"), std::string::npos);  // alone each answer is right
}

TEST(Campaign, CountsWhatIsDoneAndStopsWhenAsked) {
    Quiet quiet;
    const auto cases = cases_of_aspect("numbers");
    const auto subjects = two_subjects(quiet, "minus-lost");
    std::atomic<bool> cancelled = true;
    CampaignOptions options;
    options.cancelled = &cancelled;
    std::size_t chunks = 0;
    run_campaign(
        cases, subjects, [&](const Subject& s) { return make_asker(s, quiet); }, options,
        [&](ChunkReport&&) { ++chunks; });
    EXPECT_EQ(chunks, 0U);
}

TEST(Campaign, ThatIsCancelledKeepsWhatIsDone) {
    Quiet quiet;
    auto corpus = load_corpus(SOURCE_FOLDER "/corpora/json");
    ASSERT_TRUE(corpus.ok());
    const auto& cases = corpus.value().cases;
    const auto subjects = two_subjects(quiet, "minus-lost");
    std::atomic<bool> cancelled = false;
    CampaignOptions options;
    options.cancelled = &cancelled;
    options.progress = [&](std::size_t done, std::size_t) { cancelled = cancelled || done > 0; };
    std::size_t results = 0;
    run_campaign(
        cases, subjects, [&](const Subject& s) { return make_asker(s, quiet); }, options,
        [&](ChunkReport&& report) { results += report.results.size(); });
    EXPECT_GT(results, 0U);
    EXPECT_LT(results, 4 * cases.size());
}

TEST(Records, HoldTheFieldsThatOtherProgramsRead) {
    Quiet quiet;
    Case c = case_of_document("json", "numbers/tenth", json::format(), R"({"weight_kg":0.1})");
    Subject subject;
    subject.implementation.name = "tower-json";
    subject.mode = "plain";
    Result result;
    result.subject_case = &c;
    result.subject = &subject;
    result.outcome.kind = OutcomeKind::accepted;
    result.outcome.trace = Trace::parse("{\nkey u8:7765696768745f6b67\nbinary64 3fb9999999999999\n}\n");
    result.finding = judge({c, expectation_of(c), subject, Operation::decode, result.outcome});
    result.digests = json::format().digests(*result.outcome.trace);
    const std::string line = record_of(result);
    const std::string expected =
        R"({"record":"result","corpus":"json","case":"numbers/tenth","implementation":"tower-json/plain","operation":"decode","outcome":"accepted","finding":"altered","basis":"fidelity","answers":[],"cause":"number/off-by-ulp","causes":[{"cause":"number/off-by-ulp","at":"/weight_kg"}])";
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
    result.subject_case = &c;
    result.subject = &subject;
    result.outcome.kind = OutcomeKind::rejected;
    result.outcome.body = "\xFF!";
    const std::string line = record_of(result);
    EXPECT_NE(line.find("\"message\":null,\"message_hex\":\"ff21\""), std::string::npos);
}

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

}  // namespace

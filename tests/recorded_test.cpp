// Recorded answers: what an executor answered is answered again from a file, by the same judge.
#include <gtest/gtest.h>

#include <nachklang/campaign.hpp>
#include <nachklang/recorded.hpp>

#include "scratch.hpp"

namespace {

using namespace nachklang;

std::vector<Request> requests(Operation operation, const std::vector<std::string>& documents, bool show = true) {
    std::vector<Request> out;
    for (const std::string& d : documents)
        out.push_back({operation, find_format("json"), std::make_shared<const std::string>(d), show});
    return out;
}

Subject named(const std::string& name, const std::string& mode = "") {
    Subject out;
    out.implementation.name = name;
    out.implementation.formats = {"json"};
    out.mode = mode;
    out.version = "1.2 of a day";
    out.engine = "casting";
    out.operations["json"] = {"decode", "round-trip"};
    out.settings["input"] = "text";
    out.cannot_represent = {"order"};
    return out;
}

Outcome of(OutcomeKind kind, std::string body) {
    Outcome out;
    out.kind = kind;
    out.body = std::move(body);
    return out;
}
Outcome value(const std::string& trace) {
    Outcome out;
    out.kind = OutcomeKind::accepted;
    out.trace = Trace::parse(trace);
    return out;
}

/// Answers one row of requests with these outcomes.
class Played final : public Executor {
  public:
    explicit Played(std::vector<Outcome> outcomes) : outcomes_(std::move(outcomes)) {}
    Chunk run(std::span<const Request> requests) override {
        Chunk out;
        for (std::size_t i = 0; i < requests.size(); ++i) out.outcomes.push_back(outcomes_.at(i));
        return out;
    }

  private:
    std::vector<Outcome> outcomes_;
};

/// The record of one row of requests.
std::string record_of(const Subject& subject, const std::vector<Request>& row,
                      const std::vector<Outcome>& outcomes) {
    const std::vector<Subject> subjects{subject, named("idle")};
    AnswerRecorder recorder(subjects);
    recorder.recording([&](const Subject&) { return std::make_unique<Played>(outcomes); })(subject)->run(row);
    return recorder.record("2026-11-28", "0.1.0");
}

std::shared_ptr<const RecordedAnswers> read(const Scratch& folder, const std::string& bytes) {
    auto answers = RecordedAnswers::read(folder.write("answers.zst", bytes));
    EXPECT_TRUE(answers.ok());
    return answers.ok() ? answers.value() : nullptr;
}

std::string in_words(const Outcome& outcome) {
    std::string out(name_of(outcome.kind));
    out += "|" + (outcome.trace ? std::string(outcome.trace->text()) : outcome.body) + "|" + outcome.reported;
    for (const auto& place : {outcome.offset, outcome.line, outcome.column})
        out += place ? "|" + std::to_string(*place) : "|-";
    return out + "|" + outcome.unit;
}

TEST(RecordedAnswers, AreGivenAgainAsTheyWere) {
    const Scratch folder;
    Outcome refused = of(OutcomeKind::rejected, "unexpected 'x'");
    refused.offset = 3;
    refused.line = 1;
    refused.column = 4;
    refused.unit = "byte";
    Outcome reported = value("int 1\n");
    reported.reported = "a prefix is unbound";
    const std::vector<std::string> documents{"1", "[\"\\u0007\"]", "[1x", "[", "2"};
    const std::vector<Outcome> outcomes{reported, value("[\nstr u8:07\n]\n"), refused,
                                        of(OutcomeKind::crashed, "the process was killed by SIGSEGV"),
                                        value("int 2\n")};
    const auto row = requests(Operation::decode, documents);
    const auto answers = read(folder, record_of(named("halm", "strict"), row, outcomes));
    EXPECT_EQ(answers->made(), "2026-11-28");
    EXPECT_EQ(answers->version(), "0.1.0");
    const std::vector<Subject> subjects = answers->subjects();
    ASSERT_EQ(subjects.size(), 2U);
    EXPECT_EQ(subjects[0].name(), "halm@1.2/strict");
    EXPECT_EQ(subjects[0].recorded_name(), "halm/strict");
    EXPECT_EQ(subjects[0].version, "1.2 of a day");
    EXPECT_EQ(subjects[0].engine, "casting");
    EXPECT_EQ(subjects[0].operations, named("halm").operations);
    EXPECT_EQ(subjects[0].settings, named("halm").settings);
    EXPECT_EQ(subjects[0].cannot_represent, named("halm").cannot_represent);
    const Chunk again = make_executor(subjects[0])->run(row);
    ASSERT_EQ(again.outcomes.size(), outcomes.size());
    for (std::size_t i = 0; i < outcomes.size(); ++i) EXPECT_EQ(in_words(again.outcomes[i]), in_words(outcomes[i]));
    for (const Outcome& outcome : make_executor(subjects[1])->run(row).outcomes)
        EXPECT_EQ(name_of(outcome.kind), "not-asked");
}

TEST(RecordedAnswers, KeepWrittenTextsOfAnyEncoding) {
    const Scratch folder;
    const std::vector<Outcome> outcomes{of(OutcomeKind::accepted, "[\"\xFF\x00\xFE\"]"),
                                        of(OutcomeKind::accepted, ""), of(OutcomeKind::accepted, "[\"\xC3\xA9\"]")};
    const auto row = requests(Operation::round_trip, {"1", "2", "3"});
    const auto answers = read(folder, record_of(named("halm"), row, outcomes));
    const Chunk again = make_executor(answers->subjects()[0])->run(row);
    for (std::size_t i = 0; i < outcomes.size(); ++i) EXPECT_EQ(in_words(again.outcomes[i]), in_words(outcomes[i]));
}

TEST(RecordedAnswers, AreAskedByDocumentOperationAndWhetherTheValueIsShown) {
    const Scratch folder;
    const auto row = requests(Operation::decode, {"1"});
    const auto answers = read(folder, record_of(named("halm"), row, {value("int 1\n")}));
    const auto kind_of = [&](const std::vector<Request>& other) {
        return name_of(make_executor(answers->subjects()[0])->run(other).outcomes.at(0).kind);
    };
    EXPECT_EQ(kind_of(row), "accepted");
    EXPECT_EQ(kind_of(requests(Operation::decode, {"1 "})), "not-asked");
    EXPECT_EQ(kind_of(requests(Operation::round_trip, {"1"})), "not-asked");
    EXPECT_EQ(kind_of(requests(Operation::decode, {"1"}, false)), "not-asked");
}

// A fault of the adapter or of the machine is no answer of a library, and a long value makes the record large.
TEST(RecordedAnswers, LeaveOutWhatIsNoAnswerAndWhatIsLong) {
    const Scratch folder;
    const auto row = requests(Operation::decode, {"1", "2", "3", "4", "5"});
    const auto answers = read(
        folder,
        record_of(named("halm"), row,
                  {of(OutcomeKind::adapter_fault, "KeyError"), of(OutcomeKind::broken_reply, "no length"),
                   not_asked("no hello"), value("str u8:" + std::string(20000, '6') + "\n"), value("int 5\n")}));
    const Chunk again = make_executor(answers->subjects()[0])->run(row);
    EXPECT_EQ(in_words(again.outcomes[3]), "accepted|||-|-|-|") << "the verdict alone";
    for (const std::size_t i : {0, 1, 2}) EXPECT_EQ(name_of(again.outcomes[i].kind), "not-asked") << i;
    EXPECT_EQ(name_of(again.outcomes[4].kind), "accepted");
}

TEST(RecordedAnswers, OfARepeatedRequestTheLastCounts) {
    const Scratch folder;
    const std::vector<Subject> subjects{named("halm")};
    AnswerRecorder recorder(subjects);
    const auto row = requests(Operation::decode, {"1"});
    recorder.take(0, row[0], of(OutcomeKind::crashed, "the process left with status 1"));
    recorder.take(0, row[0], value("int 1\n"));
    const auto answers = read(folder, recorder.record("2026-11-28", "0.1.0"));
    EXPECT_EQ(name_of(make_executor(answers->subjects()[0])->run(row).outcomes.at(0).kind), "accepted");
}

TEST(RecordedAnswers, AreJudgedLikeOthers) {
    const Scratch folder;
    const std::vector<Case> cases{
        case_of_document("json", "test/0", find_format("json") ? *find_format("json") : *formats()[0], "[1]")};
    const std::vector<Subject> live{named("halm"), named("kufe")};
    AnswerRecorder recorder(live);
    const auto play = [](const Subject& subject) {
        const std::string held = subject.implementation.name == "halm" ? "[\nint 1\n]\n" : "[\nint 2\n]\n";
        return std::make_unique<Played>(std::vector<Outcome>(64, value(held)));
    };
    const auto findings = [&](const std::vector<Subject>& subjects, const ExecutorFactory& make) {
        std::vector<std::string> out;
        FunctionSink sink([&](const ChunkReport& report) {
            for (const Result& r : report.results)
                if (r.operation == Operation::decode) out.emplace_back(name_of(r.finding.kind));
            out.push_back(std::to_string(report.disagreements.size()));
        });
        run_campaign(cases, subjects, make, {}, sink);
        return out;
    };
    std::vector<Subject> decoding = live;
    for (Subject& subject : decoding) subject.operations["json"] = {"decode"};
    const auto first = findings(decoding, recorder.recording(play));
    const auto answers = read(folder, recorder.record("2026-11-28", "0.1.0"));
    std::vector<Subject> recorded = answers->subjects();
    for (Subject& subject : recorded) subject.operations["json"] = {"decode"};
    EXPECT_EQ(findings(recorded, [](const Subject& subject) { return make_executor(subject); }), first);
    EXPECT_EQ(first.size(), 3U);
}

TEST(RecordedAnswers, ThatCannotBeReadAreAProblem) {
    const Scratch folder;
    EXPECT_EQ(RecordedAnswers::read(folder.path() + "/none").problem().what, "cannot be read");
    EXPECT_EQ(RecordedAnswers::read(folder.write("text", "{}\n")).problem().what,
              "is no record of answers, or damaged");
    const std::string whole = record_of(named("halm"), requests(Operation::decode, {"1"}), {value("int 1\n")});
    for (std::size_t length = 0; length < whole.size(); length += 7)
        EXPECT_FALSE(RecordedAnswers::read(folder.write("cut", whole.substr(0, length))).ok()) << length;
}

}  // namespace

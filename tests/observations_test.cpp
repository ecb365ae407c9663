// What documents show of implementations, and the smallest one that still shows it.
#include <gtest/gtest.h>

#include <nachklang/json.hpp>
#include <nachklang/observations.hpp>

#include "played.hpp"

namespace {

using namespace nachklang;
using namespace nachklang::played_codec;

using Answers = std::function<Outcome(const std::string&)>;

Outcome read_well(const std::string& document) {
    const Reading reading = json::format().read(document, {});
    return reading.accepted() ? accepted(reading.trace.text()) : outcome_of(OutcomeKind::rejected, "no");
}

/// The first subject reads well; the second answers as given.
ExecutorFactory two(const Answers& second) {
    return [second](const Subject& subject) {
        const bool first = subject.implementation.name == "halm";
        return std::make_unique<Played>(
            [=](const Request& request) { return first ? read_well(*request.body) : second(*request.body); });
    };
}

const std::vector<Subject>& subjects() {
    static const std::vector<Subject> both{played("halm", {"decode"}), played("kufe", {"decode"})};
    return both;
}

TEST(Observations, ASplitAtTheVerdictIsExplainedByTheSmallestDocument) {
    // A name that occurs twice is merely there: exponents are what the second implementation refuses.
    const Answers refuses_exponents = [](const std::string& document) {
        return document.find('e') != std::string::npos ? outcome_of(OutcomeKind::rejected, "no")
                                                       : read_well(document);
    };
    const DocumentProbe probe(json::format(), subjects(), two(refuses_exponents));
    const std::string document = R"({"a":1,"a":[2e2,"Hour"]})";
    const auto shown = probe.observe({&document, 1}).front();
    ASSERT_FALSE(shown.empty());
    EXPECT_EQ(shown.front().layer, "verdict");
    EXPECT_EQ(shown.front().why, "question duplicate-names");
    const Shrunk shrunk = probe.smallest(document, shown.front().key, 2000);
    EXPECT_EQ(shrunk.document.size(), 3U) << shrunk.document;
    EXPECT_NE(shrunk.document.find('e'), std::string::npos);
    const auto smallest = probe.observe({&shrunk.document, 1}).front();
    ASSERT_FALSE(smallest.empty());
    EXPECT_EQ(smallest.front().key, shown.front().key);
    EXPECT_EQ(smallest.front().why, "verdict/refused");
}

TEST(Observations, ARunExplainsASplitByItsSmallestDocument) {
    const Answers refuses_exponents = [](const std::string& document) {
        return document.find('e') != std::string::npos ? outcome_of(OutcomeKind::rejected, "no")
                                                       : read_well(document);
    };
    const std::vector<Case> cases{case_of_document("json", "test/0", json::format(), R"({"a":1,"a":[2e2,"Hour"]})"),
                                  case_of_document("json", "test/1", json::format(), R"({"a":1,"a":[22,"Hour"]})")};
    for (const bool explained : {false, true}) {
        std::vector<Disagreement> found;
        FunctionSink sink([&](const ChunkReport& report) {
            found.insert(found.end(), report.disagreements.begin(), report.disagreements.end());
        });
        CampaignOptions options;
        const ExecutorFactory make = two(refuses_exponents);
        if (explained) options.explain = split_explainer(subjects(), make, 2000);
        run_campaign(cases, subjects(), make, options, sink);
        ASSERT_EQ(found.size(), 1U);
        EXPECT_EQ(found[0].case_name, "test/0");
        EXPECT_EQ(found[0].question, explained ? "" : "duplicate-names");
        EXPECT_EQ(found[0].cause, explained ? "verdict/refused" : "");
        if (explained) {
            EXPECT_TRUE(found[0].detail.starts_with("the smallest document that splits them: "));
        }
    }
}

/// The behaviours of the second subject over some documents.
std::vector<Behaviour> behaviours_of(const std::vector<Case>& cases, const Answers& answers,
                                     BehaviourCollector& collector) {
    run_campaign(cases, {&subjects()[1], 1}, two(answers), {}, collector);
    return collector.behaviours();
}

std::vector<Case> documents(const std::vector<std::string>& texts) {
    std::vector<Case> out;
    for (const std::string& text : texts)
        out.push_back(case_of_document("json", "test/" + std::to_string(out.size()), json::format(), text));
    return out;
}

TEST(Observations, AWitnessIsCutDownWithItsRule) {
    // Takes numbers with leading zeros, and a comma too many: two rules, one finding and cause.
    const Answers lenient = [](const std::string& document) {
        const bool zeros = document.find("01") != std::string::npos,
                   colon = document.find("::") != std::string::npos;
        return zeros || colon ? accepted("[\n]\n") : read_well(document);
    };
    const auto cases = documents({R"(["Hour",{"a":[1,{"b"::2}]}])", R"(["Hour",[1,2]])"});
    BehaviourCollector collector;
    const auto behaviours = behaviours_of(cases, lenient, collector);
    ASSERT_EQ(behaviours.size(), 1U);
    const auto smallest = smallest_witness(behaviours[0], subjects(), two(lenient), 2000);
    ASSERT_TRUE(smallest.has_value());
    EXPECT_LT(smallest->size(), 10U) << *smallest;
    EXPECT_NE(smallest->find("::"), std::string::npos) << *smallest;
}

TEST(Observations, AValueToEncodeHasNoSmallerDocument) {
    Behaviour behaviour;
    Case value;
    value.format = &json::format();
    behaviour.format = value.format;
    behaviour.witness = &value;
    behaviour.witness_mode = "kufe";
    EXPECT_FALSE(smallest_witness(behaviour, subjects(), two(read_well), 100).has_value());
}

}  // namespace

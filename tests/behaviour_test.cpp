// Behaviours: one mistake is one, its trigger is what its cases have in common, and its sentence can be read.
#include <gtest/gtest.h>

#include <fmt/format.h>

#include <algorithm>
#include <array>

#include <nachklang/behaviour.hpp>
#include <nachklang/campaign.hpp>
#include <nachklang/store.hpp>

#include "behaviour/inference.hpp"
#include "fault_triggers.hpp"
#include "played.hpp"

namespace {

using namespace nachklang;
using namespace nachklang::played_codec;

// --- inference ---

const std::vector<Feature>& toy_features() {
    static const std::vector<Feature> out{
        {"red", "it is red"}, {"large", "it is large"}, {"depth", "it nests {} levels"}, {"round", "it is round"}};
    return out;
}

/// A population of cases in short: their features as letters and a depth, and whether the mistake shows.
struct InferenceRow {
    const char* name;
    std::vector<std::pair<std::string, bool>> cases;  ///< "rl3": red, large, depth 3
    std::vector<std::string> triggers;                ///< ids joined by "+", caught of matching
};
class Inference : public testing::TestWithParam<InferenceRow> {};
TEST_P(Inference, FindsTheNarrowestConjunction) {
    std::vector<std::vector<FeatureValue>> features;
    behaviour::CaseSet asked(GetParam().cases.size()), shown(GetParam().cases.size());
    for (std::size_t i = 0; i < GetParam().cases.size(); ++i) {
        const auto& [letters, shows] = GetParam().cases[i];
        auto& of_case = features.emplace_back();
        if (letters.find('r') != std::string::npos) of_case.push_back({0, 1});
        if (letters.find('l') != std::string::npos) of_case.push_back({1, 1});
        const auto digit = letters.find_first_of("123456789");
        if (digit != std::string::npos) of_case.push_back({2, static_cast<std::uint64_t>(letters[digit] - '0')});
        if (letters.find('o') != std::string::npos) of_case.push_back({3, 1});
        asked.add(i);
        if (shows) shown.add(i);
    }
    std::vector<const std::vector<FeatureValue>*> pointers;
    for (const auto& of_case : features) pointers.push_back(&of_case);
    std::vector<std::string> found;
    for (const behaviour::Found& f : behaviour::Population(toy_features(), pointers).triggers_of(asked, shown)) {
        std::string text;
        for (const behaviour::Literal& literal : f.literals)
            text += (text.empty() ? "" : "+") + literal.id(toy_features());
        found.push_back(fmt::format("{} {} of {}", text, f.cases.count(), f.matching));
    }
    EXPECT_EQ(found, GetParam().triggers);
}
INSTANTIATE_TEST_SUITE_P(
    Rows, Inference,
    testing::Values(
        InferenceRow{"one_feature",
                     {{"r", true}, {"rl", true}, {"ro", true}, {"l", false}, {"o", false}, {"", false}},
                     {"red 3 of 3"}},
        InferenceRow{"a_bound",
                     {{"1", false}, {"2", false}, {"3", false}, {"4", true}, {"5", true}, {"6", true}},
                     {"depth>=4 3 of 3"}},
        InferenceRow{"two_features",
                     {{"rl", true},
                      {"rlo", true},
                      {"rl", true},
                      {"r", false},
                      {"r", false},
                      {"r", false},
                      {"l", false},
                      {"l", false},
                      {"lo", false},
                      {"", false}},
                     {"red+large 3 of 3"}},
        InferenceRow{"unless",
                     {{"r", true},
                      {"r", true},
                      {"ro", true},
                      {"rl", false},
                      {"rl", false},
                      {"rlo", false},
                      {"l", false},
                      {"o", false},
                      {"", false}},
                     {"red+not:large 3 of 3"}},
        InferenceRow{"two_exceptions_are_a_condition",
                     {{"r", true},
                      {"r", true},
                      {"ro", true},
                      {"rl", false},
                      {"rlo", false},
                      {"l", false},
                      {"o", false},
                      {"", false}},
                     {"red+not:large 3 of 3"}},
        InferenceRow{
            "one_exception_is_chance",
            {{"r", true}, {"r", true}, {"ro", true}, {"rl", false}, {"l", false}, {"o", false}, {"", false}},
            {"red 3 of 4"}},
        InferenceRow{"a_rest",
                     {{"r", true},
                      {"r", true},
                      {"r", true},
                      {"", true},
                      {"", false},
                      {"l", false},
                      {"o", false},
                      {"l", false}},
                     {"red 3 of 3", " 1 of 1"}},
        InferenceRow{"two_triggers",
                     {{"r", true},
                      {"r", true},
                      {"r", true},
                      {"o", true},
                      {"o", true},
                      {"o", true},
                      {"l", false},
                      {"l", false},
                      {"", false}},
                     {"red 3 of 3", "round 3 of 3"}},
        InferenceRow{"two_cases_are_no_claim",
                     {{"r", true}, {"r", true}, {"l", false}, {"l", false}, {"l", false}},
                     {" 2 of 2"}},
        InferenceRow{
            "nothing_on_the_other_side", {{"r", true}, {"r", true}, {"r", true}, {"", false}}, {" 3 of 3"}},
        InferenceRow{"half_is_no_claim",
                     {{"r", true},
                      {"r", true},
                      {"r", true},
                      {"r", false},
                      {"r", false},
                      {"r", false},
                      {"", false},
                      {"", false},
                      {"", false}},
                     {" 3 of 3"}}),
    [](const auto& info) { return info.param.name; });

// --- a run ---

Case document(const std::string& name, const std::string& text) {
    Case c = case_of_document("test", name, *find_format("json"), text);
    c.source = "test.toml:1";
    return c;
}

std::vector<Case> small_corpus() {
    std::vector<Case> out;
    for (const char* text : {"[\"a\\u0000b\"]", "[\"\\u0000\"]", "{\"a\":\"\\u0000\"}", "[\"a\"]", "[1]", "[[]]",
                             "{}", "[\"b\"]", "[true]"})
        out.push_back(document(fmt::format("case-{}", out.size()), text));
    return out;
}

std::string without(std::string text, std::string_view what) {
    if (const auto at = text.find(what); at != std::string::npos) text.erase(at, what.size());
    return text;
}

/// Decodes as the reference reader does, but cuts strings at U+0000; a round trip writes what was decoded.
Outcome cutting(const Request& request) {
    if (request.operation == Operation::decode) {
        const std::string trace = request.format->read(*request.body).trace.text();
        return accepted(without(without(trace, "0062"), "00"));
    }
    return outcome_of(OutcomeKind::accepted, without(without(*request.body, "\\u0000b"), "\\u0000"));
}

std::vector<Behaviour> behaviours_of(const std::vector<Case>& cases, std::span<const Subject> subjects,
                                     const std::map<std::string, Played::Answer>& answers) {
    BehaviourCollector collector;
    run_campaign(
        cases, subjects,
        [&](const Subject& s) {
            const auto of_mode = answers.find(s.name());
            return std::make_unique<Played>(of_mode != answers.end() ? of_mode->second
                                                                     : answers.at(s.implementation.name));
        },
        {}, collector);
    return collector.behaviours();
}

Outcome sound(const Request& request) {
    if (request.operation == Operation::decode) return accepted(request.format->read(*request.body).trace.text());
    return outcome_of(OutcomeKind::accepted, *request.body);
}

TEST(Behaviours, CountADecodeAndItsRoundTripOnce) {
    const auto cases = small_corpus();
    const std::vector<Subject> subjects{played("cutting", {"decode", "round-trip"}),
                                        played("sound", {"decode", "round-trip"})};
    const auto found = behaviours_of(cases, subjects, {{"cutting", cutting}, {"sound", sound}});
    ASSERT_EQ(found.size(), 1U);
    const Behaviour& b = found.front();
    EXPECT_EQ(b.sentence, "Reads a string only up to its first U+0000 if a string holds U+0000.");
    EXPECT_EQ(b.side, Side::decoder);
    EXPECT_EQ(b.gravity, Gravity::value_changed);
    EXPECT_EQ(b.cases.size(), 3U);
    EXPECT_EQ(b.trigger.caught, 3U);
    EXPECT_EQ(b.trigger.matching, 3U);
    EXPECT_EQ(b.witness->name, "case-1") << "the smallest";
    EXPECT_TRUE(b.peers.empty());
    EXPECT_EQ(b.engines, 2U);
    const Record record = record_of(b);
    EXPECT_EQ(line_of(parse_record(line_of(record)).value()), line_of(record));
}

TEST(Behaviours, ListModesAndPeers) {
    const auto cases = small_corpus();
    std::vector<Subject> subjects;
    for (const char* mode : {"plain", "pretty"}) {
        subjects.push_back(played("cutting", {"decode"}));
        subjects.back().mode = mode;
    }
    subjects.push_back(played("kin", {"decode"}));
    subjects.push_back(played("sound", {"decode"}));
    subjects.push_back(played("toy", {"decode"}));
    subjects.back().settings["simulated"] = "yes";
    const auto found = behaviours_of(cases, subjects,
                                     {{"cutting", cutting}, {"kin", cutting}, {"sound", sound}, {"toy", cutting}});
    ASSERT_EQ(found.size(), 3U);
    EXPECT_EQ(found[0].modes, (std::vector<std::string>{"plain", "pretty"}));
    EXPECT_EQ(found[0].peers, (std::vector<std::string>{"kin"})) << "a simulated implementation is no peer";
    EXPECT_EQ(found[1].peers, (std::vector<std::string>{"cutting"}));
    EXPECT_TRUE(found[2].simulated);
}

TEST(Behaviours, OneMistakeOfTwoModesIsOneBehaviourOnWhicheverCases) {
    const auto cases = small_corpus();
    std::vector<Subject> subjects;
    for (const char* mode : {"plain", "pretty"}) {
        subjects.push_back(played("picky", {"decode"}));
        subjects.back().mode = mode;
    }
    // One case each: no trigger is claimed.
    const auto refusing = [](const char* document) {
        return [document](const Request& request) {
            return *request.body == document ? outcome_of(OutcomeKind::rejected, "no") : sound(request);
        };
    };
    const auto found =
        behaviours_of(cases, subjects, {{"picky/plain", refusing("[1]")}, {"picky/pretty", refusing("[true]")}});
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].modes, (std::vector<std::string>{"plain", "pretty"}));
    EXPECT_EQ(found[0].cases.size(), 2U);
    EXPECT_FALSE(found[0].trigger.inferred());
}

// A mode that shows round trips only does not say at which side its mistake is; one that decodes does.
TEST(Behaviours, AModeThatShowsRoundTripsOnlyJoinsOneThatDecodes) {
    const auto cases = small_corpus();
    std::vector<Subject> subjects{played("picky", {"decode"}), played("picky", {"round-trip"})};
    subjects[0].mode = "plain";
    subjects[1].mode = "canonical";
    const auto refusing = [](const Request& request) {
        return *request.body == "[1]" ? outcome_of(OutcomeKind::rejected, "no") : sound(request);
    };
    const auto found = behaviours_of(cases, subjects, {{"picky/plain", refusing}, {"picky/canonical", refusing}});
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].side, Side::decoder);
    EXPECT_EQ(found[0].modes, (std::vector<std::string>{"plain", "canonical"}));
    EXPECT_EQ(found[0].all_modes, 2U);
}

TEST(Behaviours, ShowAnEncodersOwnMistakeAsItsOwn) {
    const auto cases = small_corpus();
    const std::vector<Subject> subjects{played("writer", {"decode", "round-trip"})};
    const auto answer = [](const Request& request) {
        if (request.operation == Operation::decode) return sound(request);
        Outcome out = sound(request);
        if (out.body.find("\\u0000") != std::string::npos) out.body += "]";
        return out;
    };
    const auto found = behaviours_of(cases, subjects, {{"writer", answer}});
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].sentence, "Writes a text that is no document if a string holds U+0000.");
    EXPECT_EQ(found[0].side, Side::encoder);
    EXPECT_EQ(found[0].gravity, Gravity::ill_formed_output);
}

/// What a writer makes of each document.
Played::Answer writing(std::string (*written)(std::string)) {
    return [written](const Request& request) {
        if (request.operation == Operation::decode) return sound(request);
        return outcome_of(OutcomeKind::accepted, written(*request.body));
    };
}

std::vector<Behaviour> behaviours_of_writer(const std::vector<Case>& cases, std::string (*written)(std::string)) {
    const std::vector<Subject> subjects{played("writer", {"decode", "round-trip"})};
    return behaviours_of(cases, subjects, {{"writer", writing(written)}});
}

constexpr std::array beyond_binary64{"[1e400]", "[3e401]", "[7e500]", "[-1e400]", "[-2e999]"};

std::vector<Case> numbers_beyond_binary64() {
    auto out = small_corpus();
    for (const char* text : {"[1e100]", "[2e200]", "[-3e300]"})
        out.push_back(document(fmt::format("case-{}", out.size()), text));
    for (const char* text : beyond_binary64) out.push_back(document(fmt::format("case-{}", out.size()), text));
    return out;
}

std::string with_infinity(std::string text) {
    if (std::ranges::find(beyond_binary64, text) == beyond_binary64.end()) return text;
    return text.find('-') == std::string::npos ? "[Infinity]" : "[-Infinity]";
}

// The reference reader stops at I, or at the digit that a minus sign asks for: two rules, one mistake.
TEST(Behaviours, OneTriggerOfTwoRulesBrokenIsOneMistake) {
    const auto cases = numbers_beyond_binary64();
    const auto found = behaviours_of_writer(cases, with_infinity);
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].sentence, "Writes a text that is no document if a number is beyond the range of binary64.");
    EXPECT_EQ(found[0].cases.size(), 5U);
    EXPECT_EQ(found[0].trigger.matching, 5U);
}

TEST(Behaviours, TwoTriggersOfTwoRulesBrokenAreTwo) {
    const auto cases = numbers_beyond_binary64();
    const auto poor = [](std::string text) {
        const auto at = text.find("\\u0000");
        return at == std::string::npos ? with_infinity(text) : text.replace(at, 6, "\n");
    };
    const auto found = behaviours_of_writer(cases, +poor);
    ASSERT_EQ(found.size(), 2U);
    EXPECT_EQ(found[0].sentence, "Writes a text that is no document if a number is beyond the range of binary64.");
    EXPECT_EQ(found[1].sentence, "Writes a text that is no document if a string holds U+0000.");
}

TEST(Behaviours, ATriggerThatSomeCasesDoWithoutIsOneOfMost) {
    const auto cases = small_corpus();
    const auto poor = [](std::string text) {
        return text == "{}" || text.find("u0000") != std::string::npos ? text + "]" : text;
    };
    const auto found = behaviours_of_writer(cases, +poor);
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].sentence, "Writes a text that is no document, mostly if a string holds U+0000.");
    EXPECT_EQ(found[0].cases.size(), 4U);
    EXPECT_EQ(found[0].trigger.caught, 3U);
}

// The text of the first round trip is right. That it changes when it is read and written again may be either's
// fault.
TEST(Behaviours, OfASecondRoundTripAreOfNeitherSide) {
    const auto cases = small_corpus();
    const auto drift = [](std::string text) {
        return text == "[1]" ? std::string("[ 1]") : text == "[ 1]" ? std::string("[7]") : text;
    };
    const auto found = behaviours_of_writer(cases, +drift);
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].side, Side::either);
    EXPECT_EQ(found[0].detail, "in the second round trip 1 became 7");
    EXPECT_EQ(found[0].all_modes, 1U);
}

// It misreads an exponent, and writes one: what its own text becomes is the mistake of its decoder.
TEST(Behaviours, OfASecondRoundTripJoinTheDecodersOwn) {
    const std::vector<Case> cases{document("misread", "[1e0]"), document("written", "[5]"),
                                  document("other", "[true]")};
    const std::vector<Subject> subjects{played("poor", {"decode", "round-trip"})};
    const auto poor = [](const Request& request) {
        const std::string& text = *request.body;
        const std::string held = text == "[1e0]" ? "[2]" : text == "[5e0]" ? "[6]" : text;
        if (request.operation == Operation::decode) return accepted(request.format->read(held).trace.text());
        return outcome_of(OutcomeKind::accepted, held == "[5]" ? "[5e0]" : held);
    };
    const auto found = behaviours_of(cases, subjects, {{"poor", poor}});
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].side, Side::decoder);
    EXPECT_EQ(found[0].cases, (std::vector<std::string>{"misread", "written"}));
}

TEST(Behaviours, ATextThatHoldsAllThatWasDecodedIsNoMistakeOfItsEncoder) {
    const Format& xml = *find_format("xml");
    const std::vector<Case> cases{case_of_document("test", "one", xml, "<a><?p d?></a>"),
                                  case_of_document("test", "two", xml, "<a>x</a>")};
    std::vector<Subject> subjects{played("forgetful", {"decode", "round-trip"}, "xml"),
                                  played("poor", {"decode", "round-trip"}, "xml")};
    subjects[0].cannot_represent = {"instructions"};
    const auto forgetful = [&](const Request& request) {
        const std::string text = without(*request.body, "<?p d?>");
        return request.operation == Operation::decode ? accepted(xml.read(text).trace.text())
                                                      : outcome_of(OutcomeKind::accepted, text);
    };
    const auto poor = [&](const Request& request) {
        return request.operation == Operation::decode ? sound(request) : forgetful(request);
    };
    const auto found = behaviours_of(cases, subjects, {{"forgetful", forgetful}, {"poor", poor}});
    ASSERT_EQ(found.size(), 2U);
    EXPECT_EQ(found[0].side, Side::either);
    EXPECT_EQ(found[0].sentence, "Reads or writes a document without its processing instruction.");
    EXPECT_EQ(found[1].side, Side::encoder);
}

TEST(Behaviours, PutTheGravestFirst) {
    const auto cases = small_corpus();
    const std::vector<Subject> subjects{played("poor", {"decode"})};
    const auto answer = [](const Request& request) {
        if (request.body->find("true") != std::string::npos) return outcome_of(OutcomeKind::crashed, "SIGSEGV");
        if (*request.body == "{}") return outcome_of(OutcomeKind::rejected, "no");
        return cutting(request);
    };
    std::vector<Gravity> order;
    for (const Behaviour& b : behaviours_of(cases, subjects, {{"poor", answer}})) order.push_back(b.gravity);
    EXPECT_EQ(order, (std::vector<Gravity>{Gravity::failure, Gravity::value_changed, Gravity::valid_refused}));
}

TEST(Answers, SayWhenEachIsGiven) {
    std::vector<Case> cases;
    for (const int levels : {17, 18, 19, 20, 33, 34, 35, 36})
        cases.push_back(
            document(fmt::format("deep-{}", levels), std::string(static_cast<std::size_t>(levels), '[') +
                                                         std::string(static_cast<std::size_t>(levels), ']')));
    const std::vector<Subject> subjects{played("shallow", {"decode"})};
    BehaviourCollector collector;
    run_campaign(
        cases, subjects,
        [&](const Subject&) {
            return std::make_unique<Played>([](const Request& request) {
                return request.body->size() > 64 ? outcome_of(OutcomeKind::rejected, "too deep") : sound(request);
            });
        },
        {}, collector);
    const auto answers = collector.answers();
    ASSERT_EQ(answers.size(), 2U);
    EXPECT_EQ(answers[0].answer, "refused");
    EXPECT_EQ(answers[0].trigger.clause, "the document nests 21–33 or more levels");
    EXPECT_EQ(answers[1].answer, "accepted");
    EXPECT_TRUE(answers[1].otherwise);
}

TEST(TriggersOfSeededFaults, AreTheFaultsOwnInNineOfTen) {
    std::size_t own = 0, other = 0;
    for (const auto& [fault, row] : fault_triggers::table()) {
        EXPECT_EQ(row.features.empty(), row.verdict == "few" || row.verdict == "none") << fault;
        own += row.verdict == "own" ? 1 : 0;
        other += row.verdict == "other" ? 1 : 0;
    }
    EXPECT_GT(own, 100U);
    EXPECT_GE(own * 10, (own + other) * 9);
}

}  // namespace

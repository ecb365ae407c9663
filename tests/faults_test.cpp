// The seeded faults: with none on, nothing is found; with each one on, its cause is named and nothing unrelated.
#include <gtest/gtest.h>

#include <fstream>
#include <map>
#include <set>

#include <fmt/format.h>

#include <nachklang/experiments.hpp>

#include "fault_triggers.hpp"
#include "seeded_faults/json_codec.hpp"

namespace {

using namespace nachklang;

const std::vector<Case>& corpus() {
    static const std::vector<Case> cases = [] {
        auto loaded = load_corpus(SOURCE_FOLDER "/corpora/json");
        if (!loaded.ok()) throw std::runtime_error(loaded.problem().line());
        return loaded.value().cases;
    }();
    return cases;
}

struct Found {
    std::map<std::string, std::size_t> causes;  // of findings that are faults or permitted, with how many cases
    std::map<std::string, std::set<std::string>> answers;  // question: answers
    std::set<std::string> first_cases;
    std::size_t incidents = 0;
    std::vector<Behaviour> behaviours;
    std::vector<AnswerGiven> given;
};

void gather(const ChunkReport& report, Found& found) {
    for (const Result& r : report.results) {
        for (const GivenAnswer& a : r.finding.answers) found.answers[a.question].insert(a.answered);
        if (r.finding.kind == FindingKind::conforms || r.finding.kind == FindingKind::open) continue;
        for (const Difference& d : r.finding.causes) ++found.causes[d.cause];
        if (found.first_cases.size() < 3) found.first_cases.insert(r.test_case->name + " " + r.finding.detail);
    }
}

FunctionSink sink_into(Found& found) {
    return FunctionSink([&](const ChunkReport& report) { gather(report, found); },
                        [&](const IncidentReport&) { ++found.incidents; });
}

Found run_in_process(std::string_view fault) {
    seeded_faults::JsonCodec codec(fault);
    const std::vector<Subject> subjects{handshake(codec)};
    Found found;
    FunctionSink sink = sink_into(found);
    static const auto features = std::make_shared<FeatureCache>();
    BehaviourCollector collector(features);
    SinkList sinks({&sink, &collector});
    run_campaign(
        corpus(), subjects, [&](const Subject&) { return make_in_process_executor(codec); }, {}, sinks);
    found.behaviours = collector.behaviours();
    found.given = collector.answers();
    return found;
}

/// A fault that ends the process, or stays in it, is run in one: only a process can be fresh.
Found run_as_process(const std::string& fault) {
    Implementation implementation;
    implementation.name = "seeded-faults";
    implementation.command = {BUILD_FOLDER "/adapters/seeded-faults-adapter", fault};
    implementation.formats = {"json"};
    const std::vector<Subject> subjects = handshake(implementation);
    Found found;
    FunctionSink sink = sink_into(found);
    run_campaign(
        corpus(), subjects, [&](const Subject& s) { return make_executor(s); }, {}, sink);
    return found;
}

std::string shown(const Found& found) {
    std::string out;
    for (const auto& [cause, count] : found.causes) out += fmt::format("{} ({}) ", cause, count);
    for (const std::string& c : found.first_cases) out += "\n  " + c;
    return out;
}

TEST(SeededFaultsCodec, WithoutAFaultNothingIsFound) {
    const Found found = run_in_process("");
    EXPECT_TRUE(found.causes.empty()) << shown(found);
    EXPECT_EQ(found.incidents, 0U);
}

class SeededFault : public testing::TestWithParam<seeded_faults::Fault> {};

TEST_P(SeededFault, IsFoundAndNamedAndNothingElseIs) {
    const seeded_faults::Fault& fault = GetParam();
    const bool needs_process = fault.found_as == "outcome/crashed" || fault.found_as == "incident";
    const Found found = needs_process ? run_as_process(fault.name) : run_in_process(fault.name);
    if (!needs_process) fault_triggers::check(fault.name, found.behaviours, found.given, fault.found_as);
    if (fault.found_as == "incident") {
        EXPECT_GT(found.incidents, 0U);
        EXPECT_TRUE(found.causes.empty()) << shown(found);
        return;
    }
    for (const auto& [cause, count] : found.causes) {
        const auto known = find_format("json")->constants().causes;
        EXPECT_TRUE(std::any_of(known.begin(), known.end(), [&](const Cause& c) { return c.slug == cause; }))
            << cause;
    }
    EXPECT_EQ(found.incidents, 0U);
    const auto colon = fault.found_as.find(':');
    if (colon != std::string::npos) {  // an answer to an open question is no finding
        for (const auto& [cause, count] : found.causes) EXPECT_EQ(cause, fault.also) << shown(found);
        const std::string question = fault.found_as.substr(0, colon);
        ASSERT_TRUE(found.answers.contains(question));
        EXPECT_TRUE(found.answers.at(question).contains(fault.found_as.substr(colon + 1)));
        return;
    }
    ASSERT_TRUE(found.causes.contains(fault.found_as)) << shown(found);
    for (const auto& [cause, count] : found.causes)
        EXPECT_TRUE(cause == fault.found_as || cause == fault.also) << shown(found);
}

INSTANTIATE_TEST_SUITE_P(All, SeededFault,
                         testing::ValuesIn(seeded_faults::json_faults().begin(),
                                           seeded_faults::json_faults().end()),
                         [](const auto& info) {
                             std::string name = info.param.name;
                             for (char& c : name)
                                 if (c == '-') c = '_';
                             return name;
                         });

TEST(SeededFaultsCodec, TheTableOfFaultsIsInTheDocumentation) {
    std::string expected = "| fault | mistake | found as |\n|---|---|---|\n";
    for (const seeded_faults::Fault& fault : seeded_faults::json_faults())
        expected += fmt::format("| `{}` | {} | `{}` |\n", fault.name, fault.mistake, fault.found_as);
    std::ifstream in(SOURCE_FOLDER "/docs/faults.md");
    const std::string text{std::istreambuf_iterator<char>(in), std::istreambuf_iterator<char>()};
    EXPECT_NE(text.find(expected), std::string::npos) << "docs/faults.md should hold:\n" << expected;
    EXPECT_GE(seeded_faults::json_faults().size(), 80U);
}

}  // namespace

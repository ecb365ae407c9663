// The seeded faults of XML: with none on, nothing is found; with each one on, its cause is named and nothing
// unrelated.
#include <gtest/gtest.h>

#include <fmt/format.h>

#include <fstream>
#include <map>
#include <set>

#include <nachklang/experiments.hpp>

#include "fault_triggers.hpp"
#include "seeded_faults/xml_codec.hpp"

namespace {

using namespace nachklang;

const std::vector<Case>& corpus() {
    static const std::vector<Case> cases = [] {
        auto loaded = load_corpus(SOURCE_FOLDER "/corpora/xml");
        if (!loaded.ok()) throw std::runtime_error(loaded.problem().line());
        return loaded.value().cases;
    }();
    return cases;
}

struct Found {
    std::map<std::string, std::size_t> causes;
    std::set<std::string> examples;
    std::set<std::string> answers;  // question:answer
    std::size_t incidents = 0;
    std::vector<Behaviour> behaviours;
    std::vector<AnswerGiven> given;
    [[nodiscard]] std::string shown() const {
        std::string out;
        for (const auto& [cause, count] : causes) out += fmt::format("{} ({}) ", cause, count);
        for (const std::string& example : examples) out += "\n  " + example;
        return out;
    }
};

Found run(std::string_view fault, const std::string& expected = {}) {
    seeded_faults::XmlCodec codec(fault);
    const std::vector<Subject> subjects{handshake(codec)};
    Found found;
    FunctionSink sink(
        [&](const ChunkReport& report) {
            for (const Result& r : report.results) {
                for (const GivenAnswer& a : r.finding.answers) found.answers.insert(a.question + ":" + a.answered);
                if (r.finding.kind == FindingKind::conforms || r.finding.kind == FindingKind::open) continue;
                for (const Difference& d : r.finding.causes) {
                    ++found.causes[d.cause];
                    if (d.cause != expected && found.examples.size() < 5)
                        found.examples.insert(d.cause + " " + r.test_case->name + " " + r.finding.detail);
                }
            }
        },
        [&](const IncidentReport&) { ++found.incidents; });
    static const auto features = std::make_shared<FeatureCache>();
    BehaviourCollector collector(features);
    SinkList sinks({&sink, &collector});
    run_campaign(
        corpus(), subjects, [&](const Subject&) { return make_in_process_executor(codec); }, {}, sinks);
    found.behaviours = collector.behaviours();
    found.given = collector.answers();
    return found;
}

const Found& sound() {
    static const Found found = run("");
    return found;
}

TEST(XmlSeededFaultsCodec, WithoutAFaultNothingIsFound) {
    const Found& found = sound();
    EXPECT_TRUE(found.causes.empty()) << found.shown();
    EXPECT_EQ(found.incidents, 0U);
}

class XmlSeededFault : public testing::TestWithParam<seeded_faults::XmlFault> {};
TEST_P(XmlSeededFault, IsFoundAndNamedAndNothingElseIs) {
    const seeded_faults::XmlFault& fault = GetParam();
    const Found found = run(fault.name, fault.found_as);
    fault_triggers::check(fault.name, found.behaviours, found.given, fault.found_as);
    EXPECT_EQ(found.incidents, 0U);
    if (fault.found_as.find(':') != std::string::npos) {
        EXPECT_TRUE(found.answers.contains(fault.found_as)) << found.shown();
        EXPECT_FALSE(sound().answers.contains(fault.found_as)) << "the sound one gives that answer, too";
    } else {
        EXPECT_TRUE(found.causes.contains(fault.found_as)) << found.shown();
    }
    for (const auto& [cause, count] : found.causes) {
        EXPECT_TRUE(cause == fault.found_as || cause == fault.also) << found.shown();
        const auto known = find_format("xml")->constants().causes;
        EXPECT_TRUE(std::any_of(known.begin(), known.end(), [&](const Cause& c) { return c.slug == cause; }))
            << cause;
    }
}
INSTANTIATE_TEST_SUITE_P(All, XmlSeededFault,
                         testing::ValuesIn(seeded_faults::xml_faults().begin(), seeded_faults::xml_faults().end()),
                         [](const auto& info) {
                             std::string name = info.param.name;
                             for (char& c : name)
                                 if (c == '-') c = '_';
                             return name;
                         });

TEST(XmlSeededFaultsCodec, TheTableOfFaultsIsInTheDocumentation) {
    std::string expected = "| fault of XML | mistake | found as |\n|---|---|---|\n";
    for (const seeded_faults::XmlFault& fault : seeded_faults::xml_faults())
        expected += fmt::format("| `{}` | {} | `{}` |\n", fault.name, fault.mistake, fault.found_as);
    std::ifstream in(SOURCE_FOLDER "/docs/faults.md");
    const std::string text{std::istreambuf_iterator<char>(in), std::istreambuf_iterator<char>()};
    EXPECT_NE(text.find(expected), std::string::npos) << "docs/faults.md should hold:\n" << expected;
    EXPECT_GE(seeded_faults::xml_faults().size(), 60U);
}

}  // namespace

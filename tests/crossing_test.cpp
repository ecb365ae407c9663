// What readers make of written texts: played writers and readers, and the tool with seeded codecs.
#include <gtest/gtest.h>

#include <nachklang/experiments.hpp>
#include <nachklang/json.hpp>

#include "played.hpp"
#include "tool_fixture.hpp"

namespace {

using namespace nachklang;
using namespace nachklang::played_codec;

/// Decodes as the reference reader does, but refuses these texts.
Outcome read_without(const Request& request, const std::set<std::string>& refused) {
    if (refused.contains(*request.body)) return outcome_of(OutcomeKind::rejected, "not that");
    Outcome out = outcome_of(OutcomeKind::accepted);
    out.trace = json::format().read(*request.body).trace;
    return out;
}

/// A writer that spells "a/b" with an escape and all else as it is, and readers that refuse some texts.
std::vector<Crossing> crossed() {
    std::vector<Case> cases;
    for (const char* document : {"\"a/b\"", "[1]", "{\"k\":true}", "[null]"})
        cases.push_back(case_of_document("test", document, json::format(), document));
    static const std::vector<Subject> writers{played("scribe", {"round-trip"})},
        readers{played("careful", {"decode", "round-trip"}), played("no-solidus", {"decode"}),
                played("no-objects", {"decode"}), played("writes-only", {"encode"})};
    const ExecutorFactory make = [](const Subject& subject) {
        const std::string name = subject.name();
        return std::make_unique<Played>([name](const Request& request) {
            if (name == "scribe")
                return outcome_of(OutcomeKind::accepted, *request.body == "\"a/b\""  ? "\"a\\/b\""
                                                         : *request.body == "[null]" ? "[nul]"
                                                                                     : *request.body);
            EXPECT_EQ(request.operation, Operation::decode) << name;
            if (name == "no-solidus") return read_without(request, {"\"a\\/b\""});
            return read_without(
                request, name == "no-objects" ? std::set<std::string>{"{\"k\":true}"} : std::set<std::string>{});
        });
    };
    return cross(cases, writers, readers, make, {});
}

TEST(Crossing, SeparatesTheWritersSpellingFromTheValue) {
    const auto found = crossed();
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].writer->name(), "scribe");
    EXPECT_EQ(found[0].texts, 4U);
    EXPECT_EQ(found[0].ill_formed, 1U);
    EXPECT_EQ(found[0].readers, 3U);
    EXPECT_EQ(found[0].read_by_all, 1U);
    ASSERT_FALSE(found[0].troubles.empty());
    std::map<std::string, Crossing::Plain> by_text;
    for (const Crossing::Trouble& trouble : found[0].troubles) by_text[trouble.smallest] = trouble.plain;
    EXPECT_EQ(by_text, (std::map<std::string, Crossing::Plain>{{"\"a\\/b\"", Crossing::Plain::read},
                                                               {"{\"k\":true}", Crossing::Plain::trouble}}));
}

class CrossingCommand : public tool_test::Tool {};

TEST_F(CrossingCommand, ShowsWhichReadersCannotReadAWriter) {
    configuration({"sound", "cut-at-nul"});
    write("bells/a.json", "[\"a\\u0000b\"]");
    write("bells/b.json", "[7]");
    const tool_test::Called r =
        run("crossing sound --config codecs.toml --corpus bells --reader sound --reader cut-at-nul");
    EXPECT_NE(r.out.find("2 different texts, 1 of them read by all of 2 readers"), std::string::npos)
        << r.out << r.err;
    EXPECT_NE(r.out.find("string/cut-at-nul"), std::string::npos) << r.out;
    EXPECT_EQ(r.status, 0) << "the canonical form has the same trouble";
    const tool_test::Called lines =
        run("crossing sound --config codecs.toml --corpus bells --reader cut-at-nul --json");
    EXPECT_NE(lines.out.find("\"canonical_form\":\"trouble\""), std::string::npos) << lines.out;
    EXPECT_EQ(run("crossing").status, 2);
    EXPECT_EQ(run("crossing sound --config codecs.toml --reader no-such").status, 2);
}

}  // namespace

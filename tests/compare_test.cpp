// Groups and splits: where implementations disagree, and what explains it.
#include <gtest/gtest.h>

#include <nachklang/compare.hpp>

#include "judging.hpp"

namespace {

using namespace nachklang;
using namespace judging;

Participant participant(const std::string& name, const std::string& engine, OutcomeKind kind,
                        const std::string& trace = {}, CannotRepresent cannot_represent = {}) {
    Participant out;
    out.implementation = name;
    out.engine = engine;
    out.outcome = kind;
    out.cannot_represent = std::move(cannot_represent);
    if (!trace.empty()) {
        out.trace = Trace::parse(trace + "\n");
        out.digests = find_format("json")->digests(*out.trace, out.cannot_represent);
    }
    return out;
}

TEST(Groups, SplitAtTheFirstLayerThatShowsADifference) {
    const Case c = document_case("9007199254740993");
    const auto found = compare_participants(
        c, Operation::decode,
        {participant("a", "a", A, "int 9007199254740993"), participant("b", "b", A, "binary64 4340000000000000"),
         participant("c", "c", A, "int 9007199254740993"), participant("d", "d", A, "dec 9007199254740993")});
    ASSERT_EQ(found.size(), 2U);
    EXPECT_EQ(name_of(found[0].layer), "exact");
    EXPECT_EQ(found[0].groups[0].implementations, (std::vector<std::string>{"a", "c", "d"}));
    EXPECT_EQ(found[0].groups[1].implementations, std::vector<std::string>{"b"});
    EXPECT_EQ(name_of(found[1].layer), "representation");
    EXPECT_EQ(found[1].groups[0].implementations, (std::vector<std::string>{"a", "c"}));
    EXPECT_EQ(found[1].cause, "number/kind");
}

TEST(Groups, CountAnEngineOnceUnderAllItsNames) {
    const Case c = document_case("[1]");
    const auto found =
        compare_participants(c, Operation::decode,
                             {participant("a", "x", R), participant("b", "x", R),
                              participant("c", "y", A, "[\nint 1\n]"), participant("d", "z", A, "[\nint 1\n]")});
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].groups[0].engines, (std::vector<std::string>{"y", "z"}));
    EXPECT_EQ(found[0].groups[1].engines, std::vector<std::string>{"x"});
}

TEST(Groups, SeparateFailuresAndReportNoAgreement) {
    const Case c = document_case("[1]");
    EXPECT_TRUE(
        compare_participants(c, Operation::decode, {participant("a", "a", R), participant("b", "b", R)}).empty());
    EXPECT_TRUE(compare_participants(c, Operation::decode,
                                     {participant("a", "a", OutcomeKind::unsupported), participant("b", "b", R)})
                    .empty());
    const auto found = compare_participants(c, Operation::decode,
                                            {participant("a", "a", R), participant("b", "b", OutcomeKind::crashed),
                                             participant("c", "c", OutcomeKind::timed_out)});
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].groups.size(), 3U);
}

TEST(Groups, ThatAllConformAreExplainedByTheirValues) {
    const Case c = document_case("[1]");
    const auto explained = [&](const char* one, const char* other) {
        const auto found = compare_participants(c, Operation::decode,
                                                {participant("x", "x", A, one), participant("y", "y", A, other)});
        return found.empty() ? "" : std::string(name_of(found[0].layer)) + " " + found[0].cause;
    };
    EXPECT_EQ(explained("[\nint 1\n]", "[\nint 2\n]"), "value number/wrong-value");
    EXPECT_EQ(explained("[\nint 1\n]", "[\n]"), "value element/lost");
    const auto refused =
        compare_participants(c, Operation::decode, {participant("x", "x", A, "null"), participant("y", "y", R)});
    EXPECT_EQ(refused.at(0).cause, "verdict/accepted-differently");
}

TEST(Groups, DifferByTheAnswerThatOneDidNotGive) {
    const Case c = document_case("1e400");
    Finding answered, refusing;
    answered.kind = FindingKind::open;
    answered.answers = {{"number-range", "infinity", ""}};
    refusing.kind = FindingKind::too_strict;
    refusing.causes = {{"", "verdict/refused", "", "", ""}};
    Participant x = participant("x", "x", A, "binary64 7ff0000000000000"), y = participant("y", "y", R);
    x.finding = &answered;
    const auto explained = [&] {
        const Disagreement d = compare_participants(c, Operation::decode, {x, y}).at(0);
        return d.question + " " + d.cause;
    };
    EXPECT_EQ(explained(), "number-range ") << "the participant that was not asked";
    y.finding = &refusing;
    EXPECT_EQ(explained(), " verdict/refused") << "a finding explains itself";
}

TEST(Groups, OfOneVerdictNameNoQuestionThatMerelyIsThere) {
    Case c = document_case("[1e400,1e400]");
    Finding answered;
    answered.kind = FindingKind::open;
    answered.answers = {{"comments", "accepted", ""}, {"number-range", "infinity", ""}};
    Participant x = participant("x", "x", A, "null"), y = participant("y", "y", R);
    x.finding = &answered;
    const auto split = [&] { return compare_participants(c, Operation::decode, {x, y}).at(0); };
    EXPECT_EQ(split().question + " " + split().cause, " verdict/accepted-differently");
    EXPECT_EQ(split().detail, "the document raises comments, number-range; `shrink` finds which of them decides");
    c.question = "number-range";
    EXPECT_EQ(split().question, "number-range") << "the case is made for it";
}

struct Spoken {
    std::string name, engine;
    OutcomeKind outcome;
    std::string body;
    CannotRepresent cannot_represent{};
};
struct SplitRow {
    const char* name;
    std::string document;
    std::vector<Spoken> participants;
    std::vector<std::string> splits;  ///< layer, question or cause, groups with what is shown, ~ who does not tell
    std::string question{};           ///< that the case is about
};
class Splits : public testing::TestWithParam<SplitRow> {};
TEST_P(Splits, AreExplained) {
    Case c = document_case(GetParam().document);
    c.question = GetParam().question;
    std::vector<Finding> findings(GetParam().participants.size());
    std::vector<Participant> participants;
    for (std::size_t i = 0; i < findings.size(); ++i) {
        const Spoken& s = GetParam().participants[i];
        Subject subject;
        subject.cannot_represent = s.cannot_represent;
        findings[i] = judged(c, outcome(s.outcome, s.body), subject);
        participants.push_back(
            participant(s.name, s.engine, s.outcome, s.outcome == A ? s.body : "", s.cannot_represent));
        participants.back().finding = &findings[i];
    }
    std::vector<std::string> lines;
    for (const Disagreement& d : compare_participants(c, Operation::decode, participants)) {
        std::string line = std::string(name_of(d.layer)) + " " + (d.question.empty() ? d.cause : "?" + d.question);
        for (const Group& group : d.groups) {
            line += " |";
            for (const std::string& name : group.implementations) line += " " + name;
            for (const std::string& name : group.not_reported) line += " ~" + name;
            line += ": " + group.shown;
        }
        for (const std::string& name : d.not_reported) line += " ~" + name;
        lines.push_back(line);
    }
    EXPECT_EQ(lines, GetParam().splits);
}
const std::string a1a2 = "{\nkey u8:61\nint 1\nkey u8:61\nint 2\n}", a1 = "{\nkey u8:61\nint 1\n}",
                  a2 = "{\nkey u8:61\nint 2\n}", b1a2 = "{\nkey u8:62\nint 1\nkey u8:61\nint 2\n}",
                  a2b1 = "{\nkey u8:61\nint 2\nkey u8:62\nint 1\n}";
INSTANTIATE_TEST_SUITE_P(
    Rows, Splits,
    testing::Values(
        SplitRow{"nobody", "[1]", {{"x", "x", A, "[\nint 1\n]"}, {"y", "y", A, "[\nint 1\n]"}}, {}},
        SplitRow{"by_a_question",
                 R"({"a":1,"a":2})",
                 {{"x", "x", A, a2}, {"y", "y", A, a1}, {"z", "z", A, a2}},
                 {R"(value ?duplicate-names | x z: {"a": 2 int} | y: {"a": 1 int})"}},
        SplitRow{"three_ways",
                 R"({"a":1,"a":2})",
                 {{"x", "x", A, a2}, {"y", "y", A, a1}, {"z", "z", A, a1a2}},
                 {R"(value ?duplicate-names | x: {"a": 2 int} | y: {"a": 1 int} | z: {"a": 1 int, "a": 2 int})"}},
        SplitRow{"by_a_fault",
                 "0.1",
                 {{"x", "x", A, "binary64 3fb999999999999a"}, {"y", "y", A, "binary64 3fb9999999999999"}},
                 {"value number/off-by-ulp | x: 0.1 binary64 | y: 0.09999999999999999 binary64"}},
        SplitRow{"by_an_extension",
                 "[1,]",
                 {{"x", "x", A, "[\nint 1\n]"}, {"y", "y", R, "no"}},
                 {"verdict ?trailing-comma | x: accepted | y: rejected"}},
        SplitRow{"by_no_known_extension",
                 R"({"a" 1})",
                 {{"x", "x", A, a1}, {"y", "y", R, "no"}},
                 {"verdict verdict/accepted-non-text | x: accepted | y: rejected"}},
        SplitRow{"by_a_death",
                 "[1]",
                 {{"x", "x", A, "[\nint 1\n]"}, {"y", "y", OutcomeKind::crashed, "SIGSEGV"}},
                 {"verdict outcome/crashed | x: accepted | y: crashed"}},
        // Who refused gave no answer to a question: his refusal is the finding.
        SplitRow{
            "verdict_then_value",
            "[0.1]",
            {{"x", "x", A, "[\nbinary64 3fb999999999999a\n]"}, {"y", "y", A, "[\nint 0\n]"}, {"z", "z", R, "no"}},
            {"verdict verdict/refused | x y: accepted | z: rejected",
             "value number/truncated-to-integer | x: [0.1 binary64] | y: [0 int]"}},
        SplitRow{"by_kind_only",
                 "[1.0]",
                 {{"x", "x", A, "[\nint 1\n]"}, {"y", "y", A, "[\ndec 1.0\n]"}},
                 {"representation number/kind | x: [1 int] | y: [1.0 decimal]"}},
        SplitRow{"by_order",
                 R"({"b":1,"a":2})",
                 {{"x", "x", A, b1a2}, {"y", "y", A, a2b1}},
                 {R"(order member/order | x: {"b": 1 int, "a": 2 int} | y: {"a": 2 int, "b": 1 int})"}},
        SplitRow{"who_lacks_order_fits_both",
                 R"({"b":1,"a":2})",
                 {{"x", "x", A, b1a2}, {"y", "y", A, a2b1}, {"z", "z", A, a2b1, {"order"}}},
                 {R"(order member/order | x: {"b": 1 int, "a": 2 int} | y: {"a": 2 int, "b": 1 int} ~z)"}},
        SplitRow{"who_lacks_kinds_fits_one",
                 "[{}, 1]",
                 {{"x", "x", A, "[\n{\n}\nint 1\n]"},
                  {"y", "y", A, "[\n[\n]\nint 1\n]"},
                  {"z", "z", A, "[\n{\n}\nbinary64 3ff0000000000000\n]", {"number-kind"}}},
                 {"representation container/empty-kind | x ~z: [{}, 1 int] | y: [[], 1 int]"}},
        SplitRow{"who_lacks_more_fits_both",
                 "[{}, 1]",
                 {{"x", "x", A, "[\n{\n}\nint 1\n]"},
                  {"y", "y", A, "[\n[\n]\nint 1\n]"},
                  {"z", "z", A, "[\n(\n)\nint 1\n]", {"empty-kind", "order"}}},
                 {"representation container/empty-kind | x: [{}, 1 int] | y: [[], 1 int] ~z"}},
        SplitRow{"engines_count_once",
                 "[1,]",
                 {{"x", "e", R, "no"},
                  {"y", "e", R, "no"},
                  {"z", "e", R, "no"},
                  {"p", "p", A, "[\nint 1\n]"},
                  {"q", "q", A, "[\nint 1\n]"}},
                 {"verdict ?trailing-comma | p q: accepted | x y z: rejected"}},
        SplitRow{"not_shown", "[1]", {{"x", "x", A, ""}, {"y", "y", A, "[\nint 1\n]"}}, {}},
        SplitRow{"of_two_questions_its_own",
                 "[1e400, -0]",
                 {{"x", "x", A, "[\nbinary64 7ff0000000000000\nbinary64 8000000000000000\n]"},
                  {"y", "y", A, "[\nbinary64 7fefffffffffffff\nint 0\n]"}},
                 {"value ?number-range | x: [infinity binary64, -0 binary64] | y: [1.7976931348623157e+308 "
                  "binary64, 0 int]"},
                 "number-range"}),
    [](const auto& info) { return info.param.name; });

}  // namespace

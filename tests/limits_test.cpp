// Limits to the level, and the worst numbers of a series.
#include <gtest/gtest.h>

#include <fmt/format.h>

#include <nachklang/experiments.hpp>
#include <nachklang/json.hpp>
#include <nachklang/number.hpp>

#include "played.hpp"

namespace {

using namespace nachklang;
using namespace nachklang::played_codec;

std::size_t levels(const Request& request) {
    return static_cast<std::size_t>(std::count(request.body->begin(), request.body->end(), '['));
}

struct LimitRow {
    const char* name;
    std::size_t limit;    ///< of levels
    OutcomeKind past;     ///< the outcome there
    std::size_t most;     ///< that is searched
    std::size_t largest;  ///< found
    const char* said;     ///< of the outcome one past it
};
class Limits : public testing::TestWithParam<LimitRow> {};
TEST_P(Limits, AreFoundToTheLevel) {
    const LimitRow& row = GetParam();
    const std::vector<Subject> subjects{played("halm", {"decode"})};
    std::size_t asked = 0;
    LimitOptions options;
    options.most = row.most;
    options.shapes = {"array-depth"};
    const auto found = find_limits(
        json::format(), subjects,
        [&](const Subject&) {
            return std::make_unique<Played>([&](const Request& request) {
                ++asked;
                EXPECT_FALSE(request.show) << "a value printed is no part of a decoder's limit";
                return levels(request) <= row.limit ? outcome_of(OutcomeKind::accepted)
                                                    : outcome_of(row.past, "no");
            });
        },
        options);
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].largest, row.largest);
    EXPECT_EQ(found[0].past, row.said);
    EXPECT_TRUE(found[0].complete);
    EXPECT_LT(asked, 60U) << "galloping, then halving";
}
INSTANTIATE_TEST_SUITE_P(
    Rows, Limits,
    testing::Values(LimitRow{"declared", 512, OutcomeKind::rejected, 1'000'000, 512, "rejected"},
                    LimitRow{"odd", 87'301, OutcomeKind::crashed, 1'000'000, 87'301, "crashed"},
                    LimitRow{"one", 1, OutcomeKind::exhausted, 1'000'000, 1, "exhausted"},
                    LimitRow{"none", 2'000'000, OutcomeKind::rejected, 100'000, 100'000, ""},
                    LimitRow{"exactly_the_most", 4096, OutcomeKind::rejected, 4096, 4096, ""},
                    LimitRow{"one_below_the_most", 4095, OutcomeKind::out_of_memory, 4096, 4095, "out-of-memory"},
                    LimitRow{"nothing_at_all", 0, OutcomeKind::threw, 1000, 0, "threw"}),
    [](const auto& info) { return info.param.name; });

TEST(Limits, OfWritingAreMeasuredByWhatIsWritten) {
    const std::vector<Subject> subjects{played("halm", {"round-trip", "encode"})};
    LimitOptions options;
    options.most = 10'000;
    options.shapes = {"array-depth", "number-length"};
    const auto found = find_limits(
        json::format(), subjects,
        [&](const Subject&) {
            return std::make_unique<Played>([&](const Request& request) {
                const std::size_t depth = levels(request);
                if (request.operation == Operation::round_trip) {
                    // Past 100 levels it writes one less, and says nothing.
                    const std::size_t kept = depth > 100 ? depth - 1 : depth;
                    const bool nested = request.body->starts_with("[[") || *request.body == "[]";
                    return outcome_of(OutcomeKind::accepted,
                                      nested ? std::string(kept, '[') + std::string(kept, ']') : *request.body);
                }
                EXPECT_TRUE(request.body->starts_with("[\n")) << "a value to encode comes as a trace";
                return depth <= 200
                           ? outcome_of(OutcomeKind::accepted, std::string(depth, '[') + std::string(depth, ']'))
                           : outcome_of(OutcomeKind::rejected, "too deep");
            });
        },
        options);
    std::vector<std::string> lines;
    for (const LimitFound& f : found)
        lines.push_back(std::string(f.shape) + " " + std::string(name_of(f.operation)) + " " +
                        std::to_string(f.largest) + " " + f.past);
    // How long a number's text is, is its writer's own affair: there is no such limit of encoding.
    EXPECT_EQ(lines,
              (std::vector<std::string>{"array-depth round-trip 100 silently altered",
                                        "array-depth encode 200 rejected", "number-length round-trip 10000 "}));
}

TEST(Limits, OfTimeAreNotSoughtToTheLevel) {
    const std::vector<Subject> subjects{played("halm", {"decode"})};
    std::size_t late = 0;
    LimitOptions options;
    options.shapes = {"array-depth"};
    const auto found = find_limits(
        json::format(), subjects,
        [&](const Subject&) {
            return std::make_unique<Played>([&](const Request& request) {
                if (levels(request) <= 50'000) return outcome_of(OutcomeKind::accepted);
                ++late;
                return outcome_of(OutcomeKind::timed_out, "no answer");
            });
        },
        options);
    ASSERT_EQ(found.size(), 1U);
    EXPECT_LE(found[0].largest, 50'000U);
    EXPECT_GE(found[0].largest, 46'000U);
    EXPECT_FALSE(found[0].complete) << "a lower bound";
    EXPECT_LE(late, 6U) << "each costs a deadline";
}

/// An executor that gives up at once, as for an adapter that says no hello, and counts its rows.
ExecutorFactory giving_up(std::size_t& rows) {
    return [&rows](const Subject&) {
        auto out = std::make_unique<Played>([&rows](const Request&) {
            ++rows;
            return outcome_of(OutcomeKind::timed_out, "no hello");
        });
        out->gave_up = "no hello";
        return out;
    };
}

TEST(Surveys, AskNoMoreOfAnImplementationThatWasGivenUp) {
    const std::vector<Subject> subjects{played("halm", {"decode", "pieces"})};
    std::size_t rows = 0;
    LimitOptions limits;
    limits.shapes = {"*"};
    EXPECT_EQ(find_limits(json::format(), subjects, giving_up(rows), limits).size(), 1U);
    EXPECT_EQ(rows, 1U);
    rows = 0;
    const auto growth = measure_growth(json::format(), subjects, giving_up(rows), {});
    ASSERT_EQ(growth.size(), 1U);
    EXPECT_EQ(growth[0].ended, "timed-out");
    EXPECT_EQ(rows, 1U);
    NumberSurveyOptions numbers;
    numbers.count = 100'000;
    const auto surveyed = survey_numbers(json::format(), subjects, giving_up(rows), numbers);
    EXPECT_EQ(surveyed.at(0).asked, 100'000U) << "what was not asked is counted";
    EXPECT_EQ(surveyed.at(0).answers.at("not asked"), 100'000U);
    const std::vector<Case> cases{case_of_document("x", "a", json::format(), "[1]"),
                                  case_of_document("x", "b", json::format(), "[2]")};
    const auto pieces = survey_pieces(cases, subjects, giving_up(rows), {});
    EXPECT_EQ(pieces.at(0).documents, 1U);
    EXPECT_FALSE(pieces.at(0).complete);
}

TEST(Surveys, NameImplementationsThatWereNeverBegun) {
    const std::vector<Subject> subjects{played("halm", {"decode"}), played("other", {"decode"})};
    const auto found = survey_numbers(json::format(), subjects,
                                      [](const Subject&) -> std::unique_ptr<Executor> { throw Cancelled(); }, {});
    ASSERT_EQ(found.size(), 2U);
    EXPECT_EQ(found[1].subject, &subjects[1]);
    EXPECT_EQ(found[1].asked, 0U);
}

TEST(Limits, InterruptedAreLowerBounds) {
    const std::vector<Subject> subjects{played("halm", {"decode"})};
    std::atomic<bool> cancelled = false;
    LimitOptions options;
    options.shapes = {"array-depth"};
    options.cancelled = &cancelled;
    const auto found = find_limits(
        json::format(), subjects,
        [&](const Subject&) {
            return std::make_unique<Played>([&](const Request& request) {
                cancelled = levels(request) >= 256;
                return outcome_of(OutcomeKind::accepted);
            });
        },
        options);
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].largest, 256U);
    EXPECT_FALSE(found[0].complete);
}

/// The value of a row of number literals as an implementation holds it that keeps binary64, but for some.
Outcome numbers_as_doubles(const Request& request, const std::function<std::string(const std::string&)>& stored) {
    const json::Document document = json::Document::read(*request.body);
    std::string trace = "[\n";
    for (const json::Entry& entry : document.tape())
        if (entry.kind == json::TokenKind::number) trace += stored(std::string(document.source(entry))) + "\n";
    return accepted(trace + "]\n");
}
std::string nearest(const std::string& literal) {
    return fmt::format("binary64 {:016x}", number::nearest_binary64(*Decimal::parse(literal)));
}

TEST(Numbers, TheWorstOfASeriesIsFound) {
    const std::vector<Subject> subjects{played("sound", {"decode"}), played("off", {"decode"}),
                                        played("choosy", {"decode"}), played("writer", {"encode"})};
    NumberSurveyOptions options;
    options.literals = {"0.1", "8.5e22", "3", "1e400", "9007199254740993", "0.30000000000000004"};
    const auto surveys = survey_numbers(
        json::format(), subjects,
        [&](const Subject& subject) -> std::unique_ptr<Executor> {
            if (subject.name() == "off")
                return std::make_unique<Played>([](const Request& request) {
                    return numbers_as_doubles(request, [](const std::string& literal) {
                        const std::uint64_t bits = number::nearest_binary64(*Decimal::parse(literal));
                        // One unit off here, five there.
                        const std::uint64_t off = literal == "0.1" ? 1 : literal == "8.5e22" ? 5 : 0;
                        return fmt::format("binary64 {:016x}", bits + off);
                    });
                });
            if (subject.name() == "choosy")
                return std::make_unique<Played>([](const Request& request) {
                    return request.body->find("1e400") != std::string::npos
                               ? outcome_of(OutcomeKind::rejected, "range")
                               : numbers_as_doubles(request, nearest);
                });
            return std::make_unique<Played>(
                [](const Request& request) { return numbers_as_doubles(request, nearest); });
        },
        options);
    ASSERT_EQ(surveys.size(), 3U) << "who only writes is not asked";
    const auto& [sound, off, choosy] = std::tie(surveys[0], surveys[1], surveys[2]);
    EXPECT_EQ(sound.asked, 6U);
    EXPECT_EQ(sound.wrong, 0U);
    EXPECT_FALSE(sound.worst.has_value());
    EXPECT_EQ(off.wrong, 2U);
    ASSERT_TRUE(off.worst.has_value());
    EXPECT_EQ(off.worst->literal, "8.5e22");
    EXPECT_EQ(off.worst->stored.ulps, 4.875) << "the distance from the literal, not from its nearest binary64";
    EXPECT_EQ(off.examples.at("off by ulps").literal, "0.1") << "the shortest of its kind";
    EXPECT_EQ(choosy.asked, 6U);
    EXPECT_EQ(choosy.answers.at("refused"), 1U) << "a row refused is halved until the literal is known";
    EXPECT_EQ(choosy.wrong, 0U);
}

TEST(Numbers, ASeriesIsTheSameEveryTime) {
    const std::vector<Subject> subjects{played("sound", {"decode"})};
    NumberSurveyOptions options;
    options.count = 2'000;
    options.seed = 7;
    const auto documents = [&](unsigned workers) {
        options.workers = workers;
        std::vector<std::string> out;
        survey_numbers(
            json::format(), subjects,
            [&](const Subject&) {
                return std::make_unique<Played>([&](const Request& request) {
                    out.push_back(*request.body);
                    return numbers_as_doubles(request, nearest);
                });
            },
            options);
        return out;
    };
    const auto once = documents(1);
    EXPECT_EQ(once.size(), 8U);
    EXPECT_EQ(once, documents(2));
    options.seed = 8;
    EXPECT_NE(once, documents(1));
}

}  // namespace

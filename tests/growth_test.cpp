// How the time of decoding grows: exponents from times that are played, and what the tool prints of real ones.
#include <gtest/gtest.h>

#include <fmt/format.h>

#include <cmath>

#include <nachklang/experiments.hpp>
#include <nachklang/json.hpp>

#include "played.hpp"
#include "tool_fixture.hpp"

namespace {

using namespace nachklang;
using namespace nachklang::played_codec;

struct GrowthRow {
    const char* name;
    double exponent;               ///< of the bytes
    double seconds_at_1_mb;        ///< without the overhead
    double overhead;               ///< of each request
    std::size_t refuses_past = 0;  ///< bytes; 0: nothing
    bool once = false;             ///< only the first process is slow
    bool above = false, known = true;
};
class Growing : public testing::TestWithParam<GrowthRow> {};
TEST_P(Growing, IsMeasuredByTheTimesOfRequests) {
    const GrowthRow& row = GetParam();
    const std::vector<Subject> subjects{played("halm", {"decode"})};
    std::size_t restarts = 0;
    double now = 0;
    GrowthOptions options;
    options.clock = [&] { return now; };
    options.shapes = {"array-width"};
    const auto found = measure_growth(
        json::format(), subjects,
        [&](const Subject&) {
            return std::make_unique<Played>(
                [&](const Request& request) {
                    EXPECT_FALSE(request.show) << "printing a value is no part of decoding";
                    if (row.refuses_past > 0 && request.body->size() > row.refuses_past)
                        return outcome_of(OutcomeKind::rejected, "too large");
                    const double exponent = row.once && restarts > 1 ? 1 : row.exponent;
                    now += row.overhead + row.seconds_at_1_mb *
                                              std::pow(static_cast<double>(request.body->size()) / 1e6, exponent);
                    return outcome_of(OutcomeKind::accepted);
                },
                [&] { ++restarts; });
        },
        options);
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found[0].above_linear, row.above);
    ASSERT_EQ(found[0].exponent.has_value(), row.known);
    if (row.known) {
        EXPECT_NEAR(*found[0].exponent, row.once ? 1 : row.exponent, 0.15);
    }
    EXPECT_EQ(found[0].ended, row.refuses_past > 0 ? "rejected" : "");
}
INSTANTIATE_TEST_SUITE_P(Rows, Growing,
                         testing::Values(GrowthRow{"in_proportion", 1, 0.1, 0.0001},
                                         GrowthRow{"squared", 2, 3, 0.0001, 0, false, true},
                                         GrowthRow{"sorted", 1.1, 0.2, 0.0001},
                                         GrowthRow{"past_the_caches", 1.6, 2, 0.0001},
                                         GrowthRow{"cubed", 3, 500, 0.0001, 0, false, true},
                                         GrowthRow{"too_quick", 2, 0.0005, 0.0001, 0, false, false, false},
                                         GrowthRow{"hidden_by_the_overhead", 1, 0.01, 0.1, 0, false, false, false},
                                         GrowthRow{"refused_early", 2, 3, 0.0001, 3000, false, false, false},
                                         GrowthRow{"slow_once", 2, 3, 0.0001, 0, true}),
                         [](const auto& row) { return row.param.name; });

TEST(GrowthExponent, NeedsPointsThatSpanAFactorOfFour) {
    const std::vector<Growth::Point> near{{1, 1000, 0.0001}, {2, 2000, 0.01}, {3, 2200, 0.02}, {4, 2400, 0.04}};
    EXPECT_FALSE(growth_exponent(near));
    EXPECT_FALSE(growth_exponent({}));
}

class GrowthCommand : public tool_test::Tool {};

TEST_F(GrowthCommand, PrintsWhatGrowsMoreThanInProportionAndCountsTheRest) {
    configuration({"sound"});
    const tool_test::Called r = run("growth sound --config codecs.toml --shape array-width --most 8000 --all");
    EXPECT_EQ(r.status, 0) << r.err;
    EXPECT_NE(r.out.find("array-width"), std::string::npos) << r.out;
    EXPECT_NE(r.out.find("0 more than in proportion"), std::string::npos) << r.out;
    const tool_test::Called lines = run("growth sound --config codecs.toml --shape array-width --most 8000 --json");
    EXPECT_NE(lines.out.find("\"record\":\"growth\""), std::string::npos) << lines.out;
    EXPECT_NE(lines.out.find("\"amount\":8000,\"bytes\":16001"), std::string::npos) << lines.out;
    EXPECT_EQ(run("growth sound --config codecs.toml --shape bells").status, 2);
}

}  // namespace

// Two answers compared: which layer tells them apart, and what the difference is called.
#include <gtest/gtest.h>

#include <nachklang/json.hpp>

namespace {

using namespace nachklang;

Trace trace(std::string text) {
    TraceError error;
    auto out = Trace::parse(text + "\n", &error);
    if (!out) throw std::runtime_error(text + ": " + error.message);
    return *out;
}
Trace value(std::string_view document) {
    return json::format().read(document).trace;
}

struct LayerRow {
    const char* name;
    std::string left, right;
    Layer splits_at;  // verdict: nowhere
};
class Layers : public testing::TestWithParam<LayerRow> {};

TEST_P(Layers, SplitWhereTheyShouldAndNotBefore) {
    const LayerDigests a = json::format().digests(trace(GetParam().left)),
                       b = json::format().digests(trace(GetParam().right));
    Layer first = Layer::verdict;
    for (std::size_t layer = layer_count; layer-- > 1;)
        if (a[layer] != b[layer]) first = static_cast<Layer>(layer);
    EXPECT_EQ(name_of(first), name_of(GetParam().splits_at));
    // A digest of the tree says the same as the digests made in one pass.
    for (std::size_t layer = 1; layer < layer_count; ++layer) {
        const auto at = static_cast<Layer>(layer);
        EXPECT_EQ(a[layer] == b[layer], digest_of(json::format().tree(trace(GetParam().left), at)) ==
                                            digest_of(json::format().tree(trace(GetParam().right), at)))
            << name_of(at);
    }
}

// A name that is a number has no text to look at.
TEST(NamesOfOtherKinds, AreComparedByTheirValues) {
    const auto by_number = [](const std::string& name) { return trace("{\nkey " + name + "\nint 1\n}"); };
    EXPECT_TRUE(json::format().compare(by_number("int 5"), by_number("int 5")).differences.empty());
    EXPECT_TRUE(json::format().compare(by_number("null"), by_number("null")).differences.empty());
    const auto other = json::format().compare(by_number("int 5"), by_number("int 6")).differences;
    ASSERT_EQ(other.size(), 1U);
    EXPECT_EQ(other.front().cause, "name/changed");
    EXPECT_FALSE(by_number("int 5").items()[1].field(0).reported());
}

INSTANTIATE_TEST_SUITE_P(
    Rows, Layers,
    testing::Values(LayerRow{"tenth", "dec 0.1", "binary64 3fb999999999999a", Layer::representation},
                    LayerRow{"two_53_plus_1", "int 9007199254740993", "binary64 4340000000000000", Layer::exact},
                    LayerRow{"one", "int 1", "binary64 3ff0000000000000", Layer::representation},
                    LayerRow{"one_and_one_point_zero", "dec 1", "dec 1.0", Layer::verdict},
                    LayerRow{"minus_zero", "int 0", "binary64 8000000000000000", Layer::exact},
                    LayerRow{"one_and_two", "int 1", "int 2", Layer::value},
                    LayerRow{"nans", "binary64 7ff8000000000000", "binary64 7ff0000000000001", Layer::verdict},
                    LayerRow{"far", "dec 1e400", "binary64 7ff0000000000000", Layer::value},
                    LayerRow{"far_apart", "dec 1e400", "dec 1e401", Layer::value},
                    LayerRow{"spelled", "spelled u8:312e30", "dec 1.0", Layer::representation},
                    LayerRow{"text_and_number", "str u8:31", "int 1", Layer::value},
                    LayerRow{"notations", "str u16:00e9", "str u8:c3a9", Layer::verdict},
                    LayerRow{"empty", "[\n]", "{\n}", Layer::representation},
                    LayerRow{"unreported_empty", "(\n)", "{\n}", Layer::representation},
                    LayerRow{"array_and_object", "[\nint 1\n]", "{\nkey u8:61\nint 1\n}", Layer::value},
                    LayerRow{"order", "{\nkey u8:61\nint 1\nkey u8:62\nint 2\n}",
                             "{\nkey u8:62\nint 2\nkey u8:61\nint 1\n}", Layer::order},
                    LayerRow{"values_of_a_name", "{\nkey u8:61\nint 1\nkey u8:61\nint 2\n}",
                             "{\nkey u8:61\nint 2\nkey u8:61\nint 1\n}", Layer::value},
                    LayerRow{"elements", "[\nint 1\nint 2\n]", "[\nint 2\nint 1\n]", Layer::value},
                    LayerRow{"binary32", "binary32 3dcccccd", "binary64 3fb999999999999a", Layer::value},
                    LayerRow{"name_kind", "{\nkey u8:35\nnull\n}", "{\nkey int 5\nnull\n}", Layer::value}),
    [](const auto& info) { return info.param.name; });

struct CauseRow {
    const char* name;
    std::string document, got;
    std::string cause;   // or "question=answer"; empty: it conforms and answers nothing
    std::string detail;  // where given
};
class Causes : public testing::TestWithParam<CauseRow> {};

TEST_P(Causes, AreNamedForWhatTheyAre) {
    const CauseRow& row = GetParam();
    const Comparison comparison = json::format().compare(value(row.document), trace(row.got));
    std::string found;
    for (const Difference& d : comparison.differences) found += (found.empty() ? "" : " ") + d.cause;
    if (comparison.differences.empty())
        for (const Observed& o : comparison.observed)
            found += (found.empty() ? "" : " ") + o.question + "=" + o.answer;
    EXPECT_EQ(found, row.cause);
    if (!row.detail.empty() && !comparison.differences.empty()) {
        EXPECT_EQ(comparison.differences[0].detail, row.detail);
    }
}

INSTANTIATE_TEST_SUITE_P(
    Rows, Causes,
    testing::Values(
        CauseRow{"conforms", "1", "int 1", "", ""},
        CauseRow{"rounded_right", "0.1", "binary64 3fb999999999999a", "number-precision=binary64", ""},
        CauseRow{"one_ulp_below", "0.1", "binary64 3fb9999999999999", "number/off-by-ulp",
                 "0.1 became 0.09999999999999999 (1 ulp below)"},
        CauseRow{"ulp_beyond_20_digits", "0.100000000000000000000000000001", "binary64 3fb9999999999999",
                 "number/off-by-ulp-beyond-20-digits", ""},
        CauseRow{"as_binary32", "0.1", "binary32 3dcccccd", "number-precision=binary32", ""},
        CauseRow{"widened_binary32", "0.1", "binary64 3fb99999a0000000", "number-precision=binary32", ""},
        CauseRow{"integer_rounded", "9007199254740993", "int 9007199254740992", "number/integer-rounded", ""},
        CauseRow{"binary_rounded", "9007199254740993", "binary64 4340000000000000",
                 "number-precision=binary64 number-range=rounded", ""},
        CauseRow{"saturated", "99999999999999999999", "int 18446744073709551615", "number/saturated", ""},
        CauseRow{"saturated_signed", "-99999999999999999999", "int -9223372036854775808", "number/saturated", ""},
        CauseRow{"wrapped_32", "4294967297", "int 1", "number/wrapped", ""},
        CauseRow{"wrapped_64", "18446744073709551617", "int 1", "number/wrapped", ""},
        CauseRow{"minus_one_for_too_large", "18446744073709551615", "int -1", "number/wrapped", ""},
        CauseRow{"truncated", "33.75", "int 33", "number/truncated-to-integer", ""},
        CauseRow{"to_infinity", "1e300", "binary64 7ff0000000000000", "number/became-infinity", ""},
        CauseRow{"infinity_answers", "1e400", "binary64 7ff0000000000000", "number-range=infinity", ""},
        CauseRow{"largest_answers", "1e400", "binary64 7fefffffffffffff", "number-range=largest", ""},
        CauseRow{"wrong_infinity", "-1e400", "binary64 7ff0000000000000", "number/became-infinity", ""},
        CauseRow{"flushed", "5e-324", "binary64 0000000000000000", "number/flushed-to-zero", ""},
        CauseRow{"underflow_without_its_sign", "-9e-331", "binary64 0000000000000000",
                 "number-precision=binary64 number-range=rounded", ""},
        CauseRow{"sign_lost", "-1.5", "binary64 3ff8000000000000", "number/sign-lost", ""},
        CauseRow{"sign_lost_of_an_integer", "-5", "int 5", "number/sign-lost", "-5 became 5"},
        CauseRow{"sign_put_on", "0.5", "dec -0.5", "number/sign-lost", ""},
        CauseRow{"exponent_of_a_decimal", "15e2", "int 15", "number/exponent-ignored", ""},
        CauseRow{"exponent_and_rounding", "1.1e2", "binary64 3ff199999999999a", "number/exponent-ignored", ""},
        CauseRow{"four_ulp", "1", "binary64 3ff0000000000004", "number/off-by-ulp",
                 "1 became 1.0000000000000009 (4 ulp above)"},
        CauseRow{"five_ulp", "1", "binary64 3ff0000000000005", "number/wrong-value",
                 "1 became 1.000000000000001 (5 ulp above)"},
        CauseRow{"integer_nearest_to_a_literal_with_an_exponent", "9007199254740993e0", "int 9007199254740992",
                 "number-precision=binary64 number-range=rounded", ""},
        CauseRow{"integer_nearest_to_an_integer", "9007199254740993", "int 9007199254740992",
                 "number/integer-rounded", ""},
        CauseRow{"decimal_nearer_than_binary64", "0.12345678901234567890123456789",
                 "dec 0.1234567890123456789012345679", "number-precision=binary64", ""},
        CauseRow{"decimal_farther_than_binary64", "0.12345678901234567890123456789", "dec 0.12345678901",
                 "number/digits-cut", ""},
        CauseRow{"empty_object_as_array", "[{}]", "[\n[\n]\n]", "container/empty-kind", ""},
        CauseRow{"empty_kind_not_reported", "[{}]", "[\n(\n)\n]", "", ""},
        CauseRow{"far", "1", "binary64 4000000000000000", "number/wrong-value", "1 became 2"},
        CauseRow{"infinity_of_the_other_sign", "1e300", "binary64 fff0000000000000", "number/became-infinity",
                 "1e300 became -infinity"},
        CauseRow{"six_digits", "0.1234567890123456789", "dec 0.123456", "number/digits-cut", ""},
        CauseRow{"six_digits_as_binary", "0.1234567890123456789", "binary64 3fbf9acffa7eb6bf", "number/digits-cut",
                 ""},
        CauseRow{"five_digits", "0.1234567890123456789", "dec 0.12345", "number/wrong-value", ""},
        CauseRow{"seventeen_of_twenty", "0.12345678901234567890", "dec 0.12345678901234567", "number/digits-cut",
                 ""},
        CauseRow{"zero_lost", "-0.0", "int 0", "negative-zero=lost", ""},
        CauseRow{"zero_kept", "-0.0", "binary64 8000000000000000", "negative-zero=kept", ""},
        CauseRow{"exponent", "1.5e3", "binary64 3ff8000000000000", "number/exponent-ignored", ""},
        CauseRow{"not_a_number", "1", "binary64 7ff8000000000000", "number/not-a-number", ""},
        CauseRow{"number_to_text", "1", "str u8:31", "number/became-text", "1 became \"1\""},
        CauseRow{"text_to_number", "\"1\"", "int 1", "string/became-number", ""},
        CauseRow{"to_null", "[true]", "[\nnull\n]", "value/null", ""},
        CauseRow{"true_to_false", "true", "false", "value/kind", ""},
        CauseRow{"unset", R"({"a":1})", "{\nkey u8:61\nunset\n}", "value/unset", ""},
        CauseRow{"cut_at_nul", R"("ab\u0000c")", "str u8:6162", "string/cut-at-nul", ""},
        CauseRow{"nul_kept", R"("a\u0000")", "str u8:6100", "nul-character=kept", ""},
        CauseRow{"not_undone", R"("a\nb")", "str u8:615c6e62", "string/escape-not-undone", ""},
        CauseRow{"partly_undone", R"("a\n\tb")", "str u8:610a5c7462", "string/escape-kept-in-places", ""},
        CauseRow{"quote_undone_only", R"("a\"\tb")", "str u8:61225c7462", "string/escape-kept-in-places", ""},
        CauseRow{"pair_not_joined", R"("\ud83d\udd14")", "str u8:eda0bdedb494", "string/not-joined-pair", ""},
        CauseRow{"mojibake", "\"\xC3\xA9\"", "str u8:c383c2a9", "string/mojibake", ""},
        CauseRow{"composed", R"("e\u0301")", "str u8:c3a9", "string/normalised", ""},
        CauseRow{"control_lost", R"("a\bb")", "str u8:6162", "string/escape-lost", ""},
        CauseRow{"replaced", "\"\xF0\x9F\x94\x94\"", "str u8:efbfbd", "string/replaced", ""},
        CauseRow{"marks", "\"a\xE9\x90\x98\"", "str u8:613f3f3f", "string/replaced", ""},
        CauseRow{"trimmed", "\" a b \"", "str u8:612062", "string/trimmed", ""},
        CauseRow{"trimmed_before", R"("\n a")", "str u8:61", "string/trimmed", ""},
        CauseRow{"trimmed_behind", "\"a \"", "str u8:61", "string/trimmed", ""},
        CauseRow{"trimmed_away", "\"  \"", "str u8:", "string/trimmed", ""},
        CauseRow{"cut_before_a_space", "\"a b\"", "str u8:61", "string/cut", ""},
        CauseRow{"name_trimmed_into_another", R"({"a":1,"a ":2})", "{\nkey u8:61\nint 2\n}", "name/changed", ""},
        CauseRow{"cut", "\"tower\"", "str u8:746f77", "string/cut", ""},
        CauseRow{"case", "\"Tower\"", "str u8:746f776572", "string/case", ""},
        CauseRow{"changed", "\"a\"", "str u8:62", "string/changed", ""},
        CauseRow{"half_kept", R"("\ud83d")", "str u16:d83d", "lone-surrogate=kept", ""},
        CauseRow{"half_replaced", R"("\ud83d")", "str u8:efbfbd", "lone-surrogate=replaced", ""},
        CauseRow{"halves_replaced_by_one", R"("a\udd14\ud83db")", "str u8:61efbfbd62", "lone-surrogate=replaced",
                 ""},
        CauseRow{"half_replaced_by_three", R"("\ud83dz")", "str u8:efbfbdefbfbdefbfbd7a", "lone-surrogate=replaced",
                 ""},
        CauseRow{"half_replaced_by_four", R"("\ud83d")", "str u8:efbfbdefbfbdefbfbdefbfbd",
                 "string/surrogate-changed", ""},
        CauseRow{"half_beside_a_mark", R"("\ufffd\ud83d")", "str u8:efbfbdefbfbd", "lone-surrogate=replaced", ""},
        CauseRow{"half_taken_for_a_mark", R"("\ufffd\ud83d")", "str u8:efbfbd", "lone-surrogate=dropped", ""},
        CauseRow{"a_letter_replaced_too", R"("\ud83dA")", "str u8:efbfbd", "string/surrogate-changed", ""},
        CauseRow{"half_question", R"("x\ud83d")", "str u8:783f", "lone-surrogate=question-mark", ""},
        CauseRow{"half_dropped", R"("x\ud83d")", "str u8:78", "lone-surrogate=dropped", ""},
        CauseRow{"half_left", R"("\ud83d")", "str u8:5c7564383364", "lone-surrogate=left-escaped", ""},
        CauseRow{"half_changed", R"("\ud83d")", "str u8:f09f9494", "string/surrogate-changed", ""},
        CauseRow{"last", R"({"a":1,"a":2})", "{\nkey u8:61\nint 2\n}", "duplicate-names=last", ""},
        CauseRow{"first", R"({"a":1,"a":2})", "{\nkey u8:61\nint 1\n}", "duplicate-names=first", ""},
        CauseRow{"all", R"({"a":1,"a":2})", "{\nkey u8:61\nint 1\nkey u8:61\nint 2\n}", "duplicate-names=all", ""},
        CauseRow{"neither", R"({"a":1,"a":2})", "{\nkey u8:61\nint 3\n}", "number/wrong-value", ""},
        CauseRow{"untellable", R"({"a":1,"a":1})", "{\nkey u8:61\nint 1\n}", "", ""},
        CauseRow{"all_reversed", R"({"a":1,"a":2})", "{\nkey u8:61\nint 2\nkey u8:61\nint 1\n}",
                 "duplicate-names=all-reordered", ""},
        CauseRow{"all_reversed_containers", R"({"a":[1],"b":{},"a":{"c":[1,2]}})",
                 "{\nkey u8:61\n{\nkey u8:63\n[\nint 1\nint 2\n]\n}\nkey u8:61\n[\nint 1\n]\nkey u8:62\n{\n}\n}",
                 "duplicate-names=all-reordered", ""},
        CauseRow{"all_but_one", R"({"a":1,"a":2,"a":3})", "{\nkey u8:61\nint 3\nkey u8:61\nint 1\n}",
                 "member/values", ""},
        CauseRow{"gathered", R"({"a":1,"a":2})", "{\nkey u8:61\n[\nint 1\nint 2\n]\n}", "duplicate-names=gathered",
                 ""},
        CauseRow{"appended", R"({"a":[1],"a":[2]})", "{\nkey u8:61\n[\nint 1\n[\nint 2\n]\n]\n}",
                 "duplicate-names=joined", ""},
        CauseRow{"joined", R"({"a":[1],"a":[2,3]})", "{\nkey u8:61\n[\nint 1\nint 2\nint 3\n]\n}",
                 "duplicate-names=joined", ""},
        CauseRow{"gathered_inside", R"([{"b":0,"a":[1],"a":{"c":2}}])",
                 "[\n{\nkey u8:61\n[\n[\nint 1\n]\n{\nkey u8:63\nint 2\n}\n]\nkey u8:62\nint 0\n}\n]",
                 "duplicate-names=gathered", ""},
        CauseRow{"merged", R"({"a":{"b":1,"c":2},"a":{"c":3,"d":4}})",
                 "{\nkey u8:61\n{\nkey u8:62\nint 1\nkey u8:63\nint 3\nkey u8:64\nint 4\n}\n}",
                 "duplicate-names=merged", ""},
        CauseRow{"of_two_names_one_first", R"({"a":1,"a":2,"b":1,"b":2})",
                 "{\nkey u8:61\nint 1\nkey u8:62\nint 1\n}", "duplicate-names=first", ""},
        CauseRow{"lost", R"({"a":1,"b":2})", "{\nkey u8:61\nint 1\n}", "member/lost", "\"b\" is missing"},
        CauseRow{"added", R"({"a":1})", "{\nkey u8:61\nint 1\nkey u8:62\nint 2\n}", "member/added", ""},
        CauseRow{"renamed", R"({"a":1})", "{\nkey u8:41\nint 1\n}", "name/changed", ""},
        CauseRow{"name_cut", R"({"a\u0000b":1})", "{\nkey u8:61\nint 1\n}", "name/cut-at-nul", ""},
        CauseRow{"names_collide", R"({"A":1,"a":2})", "{\nkey u8:61\nint 1\nkey u8:61\nint 2\n}", "name/changed",
                 ""},
        CauseRow{"all_lost", R"({"a":1})", "{\n}", "member/lost", ""},
        CauseRow{"element_lost", "[1,2]", "[\nint 1\n]", "element/lost", ""},
        CauseRow{"element_added", "[1]", "[\nint 1\nint 1\n]", "element/added", ""},
        CauseRow{"element_split", "[1.5]", "[\nint 1\nint 5\n]", "number/truncated-to-integer element/added", ""}),
    [](const auto& info) { return info.param.name; });

TEST(Differences, GiveTheirPlaceAsAPointer) {
    const Comparison comparison = json::format().compare(
        value(R"({"bells":[{"a/b":1},{"m~n":[0,true]}]})"),
        trace(
            "{\nkey u8:62656c6c73\n[\n{\nkey u8:612f62\nint 1\n}\n{\nkey u8:6d7e6e\n[\nint 0\nfalse\n]\n}\n]\n}"));
    ASSERT_EQ(comparison.differences.size(), 1U);
    EXPECT_EQ(comparison.differences[0].at, "/bells/1/m~0n/1");
}

TEST(RoundTrips, MayRoundWhatDecodingRounded) {
    CompareOptions round_trip;
    round_trip.of_round_trip = true;
    const Trace document = value("9007199254740993");
    EXPECT_TRUE(json::format().compare(document, value("9007199254740992"), round_trip).differences.empty());
    EXPECT_FALSE(json::format().compare(document, value("9007199254740992")).differences.empty());
    EXPECT_FALSE(json::format().compare(document, value("9007199254740994"), round_trip).differences.empty());
}

struct WrittenRow {
    const char *name, *document, *written, *cause;
};
class Written : public testing::TestWithParam<WrittenRow> {};
TEST_P(Written, NumbersAreComparedWithTheOnesRead) {
    CompareOptions round_trip;
    round_trip.of_round_trip = true;
    const Comparison found =
        json::format().compare(value(GetParam().document), value(GetParam().written), round_trip);
    EXPECT_EQ(found.differences.empty() ? "" : found.differences[0].cause, GetParam().cause);
}
INSTANTIATE_TEST_SUITE_P(
    Rows, Written,
    testing::Values(WrittenRow{"beyond_binary32", "1e300", "1e200", "number/wrong-value"},
                    WrittenRow{"below_binary32", "1e-300", "1e-200", "number/wrong-value"},
                    WrittenRow{"by_binary32", "16777217", "16777216", ""},
                    WrittenRow{"fifteen_digits", "0.30000000000000004", "0.3", "number/few-digits"},
                    WrittenRow{"cut_by_either_side", "123456789.125", "123456000", "number/digits-cut"},
                    WrittenRow{"a_decimal_nearer_than_binary64",
                               "1000000000000000124900090270330110797658562660217285156251e-58",
                               "0.1000000000000000124900090270", ""},
                    WrittenRow{"a_decimal_farther_than_binary64",
                               "1000000000000000124900090270330110797658562660217285156251e-58",
                               "0.10000000000000003", "number/off-by-ulp-beyond-20-digits"},
                    WrittenRow{"seventeen_digits", "0.1", "0.10000000000000001", ""}),
    [](const auto& info) { return info.param.name; });

TEST(EmptyKind, IsFreeOnlyWhereKindsAreNotRepresented) {
    CompareOptions options;
    EXPECT_EQ(json::format().compare(value("[]"), value("{}"), options).differences.size(), 1U);
    options.stored_without = {"empty-kind"};
    EXPECT_TRUE(json::format().compare(value("[]"), value("{}"), options).differences.empty());
}

TEST(NumbersAsText, AreJudgedAsNumbersInAModeThatIsChosenForIt) {
    const auto causes = [](const char* got, CannotRepresent words) {
        CompareOptions options;
        options.stored_without = std::move(words);
        std::string out;
        for (const Difference& d :
             json::format().compare(value("[12345678901234567890]"), value(got), options).differences)
            out += d.cause;
        return out;
    };
    EXPECT_EQ(causes("[\"12345678901234567890\"]", {}), "number/became-text");
    EXPECT_EQ(causes("[\"12345678901234567890\"]", {"number-as-text"}), "");
    EXPECT_EQ(causes("[\"12345678901234567891\"]", {"number-as-text"}), "number/integer-rounded");
    EXPECT_EQ(causes("[\"bell\"]", {"number-as-text"}), "number/became-text");
}

TEST(FinerLayers, AreExplainedToo) {
    CompareOptions stored;
    stored.layer = Layer::representation;
    EXPECT_EQ(
        json::format().compare(trace("int 1"), trace("binary64 3ff0000000000000"), stored).differences.at(0).cause,
        "number/kind");
    EXPECT_EQ(json::format().compare(trace("[\n]"), trace("{\n}"), stored).differences.at(0).cause,
              "container/empty-kind");
    CompareOptions order;
    order.layer = Layer::order;
    EXPECT_EQ(json::format()
                  .compare(trace("{\nkey u8:61\nnull\nkey u8:62\nnull\n}"),
                           trace("{\nkey u8:62\nnull\nkey u8:61\nnull\n}"), order)
                  .differences.at(0)
                  .cause,
              "member/order");
}

TEST(CausesTable, NamesEveryCauseThatTheseTestsSaw) {
    const auto causes = json::format().constants().causes;
    for (const char* slug : {"number/off-by-ulp", "string/cut-at-nul", "member/lost", "verdict/refused",
                             "output/ill-formed", "round-trip/unstable", "outcome/crashed"})
        EXPECT_TRUE(std::any_of(causes.begin(), causes.end(), [&](const Cause& c) { return c.slug == slug; }))
            << slug;
}

}  // namespace

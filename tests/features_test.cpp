// Features: what a document has, the rule that a refused one breaks, and what a record adds.
#include <gtest/gtest.h>

#include <fmt/format.h>

#include <algorithm>
#include <set>

#include <nachklang/behaviour.hpp>
#include <nachklang/corpus.hpp>

namespace {

using namespace nachklang;

class Tables : public testing::TestWithParam<const Format*> {};
TEST_P(Tables, OfCausesHaveASentenceEach) {
    for (const Cause& cause : GetParam()->constants().causes) {
        EXPECT_FALSE(cause.does.empty()) << cause.slug;
        const auto brace = cause.does.find('{');
        if (brace != std::string::npos) {
            EXPECT_TRUE(cause.does.find("{reads}") == brace || cause.does.find("{document}") == brace)
                << cause.slug;
        }
        EXPECT_NE(cause.does.back(), '.') << cause.slug;
    }
}
TEST_P(Tables, OfFeaturesHaveNoIdTwice) {
    const Features* features = GetParam()->features();
    ASSERT_NE(features, nullptr);
    std::set<std::string_view> ids;
    for (const Feature& feature : features->feature_list()) {
        EXPECT_TRUE(ids.insert(feature.id).second) << feature.id;
        EXPECT_FALSE(feature.clause.empty()) << feature.id;
    }
    EXPECT_GT(ids.size(), 80U);
}
// A text that is refused breaks a rule; without its feature all such texts would be one mistake without a
// condition.
TEST_P(Tables, OfFeaturesHaveTheRuleThatEachRefusedCaseBreaks) {
    const auto corpus = load_corpus(fmt::format("{}/corpora/{}", SOURCE_FOLDER, GetParam()->name()));
    ASSERT_TRUE(corpus.ok()) << corpus.problem().line();
    const Features& features = *GetParam()->features();
    std::size_t refused = 0;
    for (const Case& c : corpus.value().cases) {
        if (!c.document || c.sequence) continue;
        const Reading reading = GetParam()->read(*c.document);
        if (!reading.rejection || GetParam()->expect(*c.document, {}, {}).stance != Stance::reject) continue;
        ++refused;
        const auto found = features.features_of(*c.document);
        EXPECT_TRUE(std::ranges::any_of(
            found, [&](const FeatureValue& value) { return features.feature_list()[value.feature].broken_rule; }))
            << c.name << ": " << reading.rejection->clause;
    }
    EXPECT_GT(refused, 500U);
}
INSTANTIATE_TEST_SUITE_P(Formats, Tables, testing::ValuesIn(formats().begin(), formats().end()),
                         [](const auto& info) { return std::string(info.param->name()); });

/// What a record adds to a document's features.
struct FieldRow {
    const char *record, *format, *document;
    std::vector<std::string> has, lacks;
};
TEST(FeaturesOfRecords, SayWhatTheFieldHolds) {
    for (const FieldRow& row :
         {FieldRow{"one-int32",
                   "json",
                   R"({"value":3000000000})",
                   {"field-int32", "holds-integers", "beyond-field"},
                   {}},
          FieldRow{
              "one-int64", "json", R"({"value":3000000000})", {"field-int64", "holds-integers"}, {"beyond-field"}},
          FieldRow{"one-int64", "json", R"({"value":9223372036854775808})", {"beyond-field"}, {}},
          FieldRow{"one-list",
                   "json",
                   R"({"value":[1,-2147483649]})",
                   {"field-list", "holds-integers", "beyond-field"},
                   {"field-integer"}},
          FieldRow{"one-binary64",
                   "json",
                   R"({"value":3000000000})",
                   {"field-binary64"},
                   {"holds-integers", "beyond-field"}},
          FieldRow{"one-int32", "xml", "<a><value>3000000000</value></a>", {"holds-integers", "beyond-field"}, {}},
          FieldRow{"one-attribute", "xml", "<a value='3000000000'/>", {"field-attribute", "beyond-field"}, {}}}) {
        Case c = case_of_document("test", "case", *find_format(row.format), row.document);
        c.record = row.record;
        FeatureCache cache;
        std::set<std::string_view> ids;
        for (const FeatureValue& value : cache.features_of(c))
            ids.insert(c.format->features()->feature_list()[value.feature].id);
        for (const std::string& id : row.has) EXPECT_TRUE(ids.contains(id)) << row.document << id;
        for (const std::string& id : row.lacks) EXPECT_FALSE(ids.contains(id)) << row.document << id;
    }
}

struct FeatureRow {
    const char *name, *format, *document;
    std::vector<std::string> has, lacks;
};
class FeaturesOf : public testing::TestWithParam<FeatureRow> {};
TEST_P(FeaturesOf, ADocument) {
    const Features& features = *find_format(GetParam().format)->features();
    std::set<std::string> ids;
    for (const FeatureValue& value : features.features_of(GetParam().document)) {
        const Feature& feature = features.feature_list()[value.feature];
        ids.insert(std::string(feature.id) + (feature.has_amount() ? fmt::format("={}", value.amount) : ""));
    }
    for (const std::string& id : GetParam().has) EXPECT_TRUE(ids.contains(id)) << id;
    for (const std::string& id : GetParam().lacks) EXPECT_FALSE(ids.contains(id)) << id;
}
INSTANTIATE_TEST_SUITE_P(
    Rows, FeaturesOf,
    testing::Values(
        FeatureRow{"scalar", "json", "-0", {"root-scalar", "root-number", "negative-zero"}, {"root-array"}},
        FeatureRow{
            "depth", "json", "[[{\"a\":[]}]]", {"depth=4", "array-depth=3", "object-depth=1", "empty-array"}, {}},
        FeatureRow{"depth_of_no_document", "json", "[[[", {"depth=3", "error-at-end", "broken-value"}, {}},
        FeatureRow{"big_integer",
                   "json",
                   "[9223372036854775808]",
                   {"beyond-int64", "from-int64-to-uint64", "integer-digits=19"},
                   {"beyond-uint64", "inexact-integer"}},
        FeatureRow{"decimal",
                   "json",
                   "[1.50e+05]",
                   {"fraction", "exponent-plus", "exponent-leading-zero", "trailing-zero", "integral-not-integer"},
                   {"integer", "not-integral"}},
        FeatureRow{"duplicates",
                   "json",
                   R"({"a":1,"a":"1"})",
                   {"duplicate-names", "duplicate-kinds-differ"},
                   {"duplicate-values-equal"}},
        FeatureRow{"escapes",
                   "json",
                   R"(["\u00E9\ud83d\udd14\/"])",
                   {"escape-capital", "escape-pair", "escape-solidus", "string-latin-1", "string-beyond-bmp"},
                   {"escape-letter", "string-lone-surrogate"}},
        FeatureRow{"lone_surrogate",
                   "json",
                   R"(["\ud83d"])",
                   {"string-lone-high", "string-lone-surrogate", "lone-surrogate", "lone-high"},
                   {"string-lone-low", "name-lone-surrogate"}},
        FeatureRow{"lone_surrogate_in_name",
                   "json",
                   R"({"\udd14":1})",
                   {"name-lone-surrogate", "lone-surrogate"},
                   {"lone-high", "string-lone-surrogate"}},
        FeatureRow{"digits_of_the_nearest",
                   "json",
                   "[0.10000000000000000000001]",
                   {"inexact-binary64"},
                   {"binary64-digits=1"}},
        FeatureRow{"digits_that_are_needed", "json", "[0.30000000000000004]", {"binary64-digits=17"}, {}},
        FeatureRow{"beyond_has_no_digits", "json", "[1e999]", {"beyond-binary64"}, {"binary64-digits=0"}},
        FeatureRow{"broken_rule", "json", R"({"a" 1})", {"broken-colon", "error-at-digit", "error-in-object"}, {}},
        FeatureRow{"extension", "json", "[1,]", {"extension-trailing-comma", "error-at-closing", "root-array"}, {}},
        FeatureRow{"not_finite", "json", "{\"a\":NaN}", {"extension-non-finite"}, {"null", "null-member"}},
        FeatureRow{"not_finite_alone", "json", "-Infinity", {"extension-non-finite"}, {"null", "root-literal"}},
        FeatureRow{"not_finite_and_null", "json", "[NaN,null]", {"extension-non-finite", "null"}, {}},
        FeatureRow{"utf_16", "json", "[\0001\0]", {}, {"utf-16"}},
        FeatureRow{"markup",
                   "xml",
                   "<a b='1'>x<b/>y</a>",
                   {"attribute", "mixed-content", "empty-tag", "depth=2", "quotes-single"},
                   {"doctype"}},
        FeatureRow{"line_ends", "xml", "<a>x\r\ny</a>", {"text-cr-lf", "line-end-with-cr"}, {"text-cr"}},
        FeatureRow{"line_end_in_instruction", "xml", "<a><?p x\ry?></a>", {"line-end-with-cr"}, {"text-cr"}},
        FeatureRow{"line_end_in_tag", "xml", "<a\r\nb='x'/>", {"tag-line-end"}, {"line-end-with-cr"}},
        FeatureRow{
            "line_end_by_reference", "xml", "<a>&#13;</a>", {"reference-to-white-space"}, {"line-end-with-cr"}},
        FeatureRow{"raw_space_in_value",
                   "xml",
                   "<a b='x\ty'/>",
                   {"value-raw-space", "value-no-plain-space"},
                   {"value-space-referred"}},
        FeatureRow{"space_by_reference_in_value",
                   "xml",
                   "<a b='x&#9;y'/>",
                   {"value-space-referred", "reference-to-white-space"},
                   {"value-raw-space"}},
        FeatureRow{"space_by_reference_in_text",
                   "xml",
                   "<a>&#x20;</a>",
                   {"reference-to-white-space", "reference-to-space"},
                   {"value-space-referred"}},
        FeatureRow{"references",
                   "xml",
                   "<a b='&#10;'>&lt;&#x1F514;</a>",
                   {"reference-to-lf", "reference-in-value", "reference-predefined", "reference-beyond-bmp"},
                   {}},
        FeatureRow{"entities",
                   "xml",
                   "<!DOCTYPE a [<!ENTITY e '<b/>'><!ENTITY f ''>]><a>&e;</a>",
                   {"entity-declared", "entity-markup", "entity-empty", "entity-in-text", "entity-unused"},
                   {"parameter-entity"}},
        FeatureRow{"entity_with_space",
                   "xml",
                   "<!DOCTYPE a [<!ENTITY e 'x&#x0D;'>]><a b='&e;'/>",
                   {"entity-character-reference", "entity-space-referred", "entity-in-value"},
                   {"value-space-referred"}},
        FeatureRow{"entity_with_character",
                   "xml",
                   "<!DOCTYPE a [<!ENTITY e '&#65;&#32;'>]><a b='&e;'/>",
                   {"entity-character-reference"},
                   {"entity-space-referred"}},
        FeatureRow{"defaults",
                   "xml",
                   "<!DOCTYPE a [<!ATTLIST a b CDATA 'x'>]><a/>",
                   {"attribute-list", "attribute-default", "attribute-supplied"},
                   {}},
        FeatureRow{"namespaces",
                   "xml",
                   "<a xmlns='u'><b xmlns=''/></a>",
                   {"namespace-default", "namespace-undeclared"},
                   {"namespace-prefix"}},
        FeatureRow{"mismatch", "xml", "<a></b>", {"broken-tags-differ"}, {"broken-unclosed"}},
        FeatureRow{"in_comment", "xml", "<a><!-- -- --></a>", {"broken-comment", "error-in-comment"}, {}}),
    [](const auto& info) { return info.param.name; });

}  // namespace

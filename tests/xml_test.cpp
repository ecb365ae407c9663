// The reference reader for XML, its layers and its causes.
#include <gtest/gtest.h>

#include <nachklang/xml.hpp>

namespace {

using namespace nachklang;

struct PlaceRow {
    const char* name;
    std::string document;
    Position position;
    std::string clause;
};
class XmlError : public testing::TestWithParam<PlaceRow> {};

TEST_P(XmlError, HasItsPlaceAndItsClause) {
    const xml::Reading reading = xml::read(GetParam().document);
    ASSERT_TRUE(reading.rejection.has_value());
    EXPECT_EQ(reading.rejection->position, GetParam().position)
        << reading.rejection->position.offset << " " << reading.rejection->message;
    EXPECT_EQ(reading.rejection->clause, "XML 1.0, " + GetParam().clause);
}

INSTANTIATE_TEST_SUITE_P(
    Rows, XmlError,
    testing::Values(PlaceRow{"end_tag", "<a></b>", {5, 1, 6}, "WFC Element Type Match"},
                    PlaceRow{"second_root", "<a/><b/>", {5, 1, 6}, "production 27"},
                    PlaceRow{"text_after", "<a/>\nx", {5, 2, 1}, "production 27"},
                    PlaceRow{"duplicate", "<a b='' b=''/>", {8, 1, 9}, "WFC Unique Att Spec"},
                    PlaceRow{"no_quotes", "<a b=1/>", {5, 1, 6}, "production 10"},
                    PlaceRow{"less_than", "<a b='<'/>", {6, 1, 7}, "WFC No < in Attribute Values"},
                    PlaceRow{"cdata_end", "<a>]]></a>", {5, 1, 6}, "production 14"},
                    PlaceRow{"hyphens", "<a><!-- a -- b --></a>", {12, 1, 13}, "production 15"},
                    PlaceRow{"entity", "<a>x&bell;</a>", {4, 1, 5}, "WFC Entity Declared"},
                    PlaceRow{"reference_to_nul", "<a>&#0;</a>", {3, 1, 4}, "WFC Legal Character"},
                    PlaceRow{"reference_cut", "<a>&#x;</a>", {6, 1, 7}, "production 66"},
                    PlaceRow{"control", "<a>\x01</a>", {3, 1, 4}, "production 2"},
                    PlaceRow{"late_declaration", " <?xml version='1.0'?><a/>", {6, 1, 7}, "production 17"},
                    PlaceRow{"empty", "", {0, 1, 1}, "production 1"},
                    PlaceRow{"unclosed", "<a><b></b>", {10, 1, 11}, "production 39"},
                    PlaceRow{"no_space", "<a b=''c=''/>", {7, 1, 8}, "production 40"},
                    PlaceRow{"version", "<?xml version='2.0'?><a/>", {15, 1, 16}, "production 26"},
                    PlaceRow{"order", "<?xml encoding='UTF-8' version='1.0'?><a/>", {6, 1, 7}, "production 24"},
                    PlaceRow{
                        "standalone", "<?xml version='1.0' standalone='maybe'?><a/>", {32, 1, 33}, "production 32"},
                    PlaceRow{"ampersand", "<a>&</a>", {4, 1, 5}, "production 68"},
                    PlaceRow{"ill_formed", "<a>\xFF</a>", {3, 1, 4}, "4.3.3"},
                    PlaceRow{"digit_name", "<1/>", {1, 1, 2}, "production 40"},
                    PlaceRow{"columns_count_code_points", "<a>\xF0\x9F\x94\x94&</a>", {8, 1, 6}, "production 68"},
                    PlaceRow{"utf_16_offsets_count_bytes",
                             std::string("\xFF\xFE<\0a\0>\0\xE9\0<\0/\0b\0>\0", 18),
                             {14, 1, 7},
                             "WFC Element Type Match"}),
    [](const auto& info) { return info.param.name; });

TEST(XmlNamespaces, AreASecondVerdict) {
    const xml::Reading reading = xml::read("<t:a xmlns:x='u' xmlns:y='u'/>");
    EXPECT_FALSE(reading.rejection.has_value());
    ASSERT_TRUE(reading.namespace_rejection.has_value());
    EXPECT_EQ(reading.namespace_rejection->position.offset, 1U);
    const Format& format = xml::format();
    EXPECT_EQ(format.expect("<t:a/>", {{"namespaces", "on"}}).stance, Stance::reject);
    EXPECT_EQ(format.expect("<t:a/>", {{"namespaces", "off"}}).stance, Stance::accept);
}

TEST(XmlReader, SaysWhatItDoesNotRead) {
    EXPECT_EQ(xml::read("<!DOCTYPE a><a/>").beyond, "a document type declaration");
    EXPECT_EQ(xml::read("<?xml version='1.0' encoding='KOI8-R'?><a/>").beyond, "the encoding KOI8-R");
    EXPECT_TRUE(xml::read("<a/>").beyond.empty());
    EXPECT_EQ(xml::format().expect("<!DOCTYPE a><a/>").beyond, "a document type declaration");
}

TEST(XmlReader, NestsAMillionLevelsWithoutRecursion) {
    const std::string document = xml::format().specimen(Format::Specimen::deep);
    EXPECT_FALSE(xml::read(document).rejection.has_value());
}

struct NameRow {
    const char* name;
    char32_t first, last;
    bool start;
};
class NameRanges : public testing::TestWithParam<NameRow> {};
TEST_P(NameRanges, EndWhereProduction4Says) {
    const NameRow& row = GetParam();
    EXPECT_EQ(xml::is_name_start(row.first), row.start);
    EXPECT_EQ(xml::is_name_start(row.last), row.start);
    EXPECT_TRUE(xml::is_name_char(row.first));
    EXPECT_TRUE(xml::is_name_char(row.last));
}
INSTANTIATE_TEST_SUITE_P(
    Rows, NameRanges,
    testing::Values(NameRow{"latin", 0xC0, 0xD6, true}, NameRow{"latin_more", 0xF8, 0x2FF, true},
                    NameRow{"greek", 0x370, 0x37D, true}, NameRow{"joiners", 0x200C, 0x200D, true},
                    NameRow{"supplementary", 0x10000, 0xEFFFF, true}, NameRow{"combining", 0x300, 0x36F, false},
                    NameRow{"digits", '0', '9', false}, NameRow{"tie", 0x203F, 0x2040, false}),
    [](const auto& info) { return info.param.name; });
TEST(NameRanges, LeaveOutTheSigns) {
    for (const char32_t c : {U'\u00D7', U'\u00F7', U'\u037E', U'\u2190', U'\uFFFE', U' ', U'/'})
        EXPECT_FALSE(xml::is_name_char(c)) << static_cast<unsigned>(c);
}

Trace document(std::string_view text) {
    return xml::read(text).trace;
}

struct LayerRow {
    const char* name;
    std::string left, right;
    Layer splits_at;
};
class XmlLayers : public testing::TestWithParam<LayerRow> {};
TEST_P(XmlLayers, SplitWhereTheyShould) {
    const LayerDigests a = xml::format().digests(document(GetParam().left)),
                       b = xml::format().digests(document(GetParam().right));
    Layer first = Layer::verdict;
    for (std::size_t layer = layer_count; layer-- > 1;)
        if (a[layer] != b[layer]) first = static_cast<Layer>(layer);
    EXPECT_EQ(name_of(first), name_of(GetParam().splits_at));
}
INSTANTIATE_TEST_SUITE_P(
    Rows, XmlLayers,
    testing::Values(LayerRow{"same", "<a/>", "<a></a>", Layer::verdict},
                    LayerRow{"white_space", "<a> </a>", "<a/>", Layer::value},
                    LayerRow{"comment", "<a>x<!--c-->y</a>", "<a>xy</a>", Layer::exact},
                    LayerRow{"instruction", "<a><?p d?></a>", "<a/>", Layer::exact},
                    LayerRow{"prefix", "<p:a xmlns:p='u'/>", "<q:a xmlns:q='u'/>", Layer::exact},
                    LayerRow{"declaration", "<a xmlns:p='u'/>", "<a/>", Layer::exact},
                    LayerRow{"cdata", "<a><![CDATA[x]]></a>", "<a>x</a>", Layer::held},
                    LayerRow{"attribute_order", "<a b='' c=''/>", "<a c='' b=''/>", Layer::order},
                    LayerRow{"namespace", "<a xmlns='u'/>", "<a xmlns='v'/>", Layer::value},
                    LayerRow{"child_order", "<a><b/><c/></a>", "<a><c/><b/></a>", Layer::value},
                    LayerRow{"value", "<a b='1'/>", "<a b='2'/>", Layer::value}),
    [](const auto& info) { return info.param.name; });

TEST(XmlLayers, NamesToldAsQualifiedOnlyAreResolved) {
    const auto told = Trace::parse("elem u8:703a61 - -\nattr u8:786d6c6e733a70 - - u8:75 -\nend\n");
    ASSERT_TRUE(told.has_value());
    const auto value = static_cast<std::size_t>(Layer::value);
    EXPECT_EQ(xml::format().digests(*told)[value], xml::format().digests(document("<p:a xmlns:p='u'/>"))[value]);
}

TEST(XmlLayers, WhatAnAdapterLacksIsLeftOutOfTheComparison) {
    const Lacks lacks{"comments", "prefixes", "declarations"};
    const auto exact = static_cast<std::size_t>(Layer::exact);
    EXPECT_EQ(xml::format().digests(document("<p:a xmlns:p='u'><!--c--></p:a>"), lacks)[exact],
              xml::format().digests(document("<a xmlns='u'/>"), lacks)[exact]);
    EXPECT_EQ(xml::format().layer_of_lack("comments"), Layer::exact);
    EXPECT_EQ(xml::format().layer_of_lack("cdata"), Layer::held);
    EXPECT_FALSE(xml::format().layer_of_lack("bells").has_value());
}

struct CauseRow {
    const char* name;
    std::string expected, got, cause;
};
class XmlCauses : public testing::TestWithParam<CauseRow> {};
TEST_P(XmlCauses, AreNamed) {
    const Comparison comparison = xml::format().compare(document(GetParam().expected), document(GetParam().got));
    ASSERT_EQ(comparison.differences.size(), 1U);
    EXPECT_EQ(comparison.differences[0].cause, GetParam().cause);
}
INSTANTIATE_TEST_SUITE_P(
    Rows, XmlCauses,
    testing::Values(CauseRow{"lost_element", "<a><b/></a>", "<a/>", "element/lost"},
                    CauseRow{"renamed", "<a><b/></a>", "<a><c/></a>", "element/renamed"},
                    CauseRow{"namespace", "<a xmlns='u'/>", "<a/>", "namespace/name-changed"},
                    CauseRow{"lost_attribute", "<a b=''/>", "<a/>", "attribute/lost"},
                    CauseRow{"added_attribute", "<a/>", "<a b=''/>", "attribute/added"},
                    CauseRow{"renamed_attribute", "<a b=''/>", "<a c=''/>", "attribute/renamed"},
                    CauseRow{"newline_kept", "<a b='x y'/>", "<a b='x&#10;y'/>", "attribute/newline-kept"},
                    CauseRow{"line_end_kept", "<a>\n</a>", "<a>&#13;\n</a>", "text/line-end-kept"},
                    CauseRow{"not_undone", "<a>&lt;</a>", "<a>&amp;lt;</a>", "text/reference-not-undone"},
                    CauseRow{"space", "<a> x</a>", "<a>x</a>", "text/white-space-changed"},
                    CauseRow{"cut", "<a>xy</a>", "<a>x</a>", "text/cut"},
                    CauseRow{"text_lost", "<a>x</a>", "<a/>", "text/lost"}),
    [](const auto& info) { return info.param.name; });

TEST(XmlCuts, MostLeaveWellFormedDocuments) {
    const std::string text = "<a x='1'><b>t<c/></b><!-- <d> --><e f='>'/></a>";
    std::size_t well_formed = 0;
    for (const Cut& cut : xml::format().cuts(text))
        if (!xml::read(text.substr(0, cut.begin) + cut.replacement + text.substr(cut.end)).rejection) ++well_formed;
    EXPECT_GT(well_formed, 8U);
}

}  // namespace

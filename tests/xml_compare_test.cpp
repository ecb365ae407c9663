// The layers of XML documents, and the causes of their differences.
#include <gtest/gtest.h>

#include <map>

#include <nachklang/xml.hpp>

namespace {

using namespace nachklang;

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
                    LayerRow{"cdata", "<a><![CDATA[x]]></a>", "<a>x</a>", Layer::representation},
                    LayerRow{"attribute_order", "<a b='' c=''/>", "<a c='' b=''/>", Layer::order},
                    LayerRow{"namespace", "<a xmlns='u'/>", "<a xmlns='v'/>", Layer::value},
                    LayerRow{"child_order", "<a><b/><c/></a>", "<a><c/><b/></a>", Layer::value},
                    LayerRow{"value", "<a b='1'/>", "<a b='2'/>", Layer::value}),
    [](const auto& info) { return info.param.name; });

TEST(XmlLayers, NamesReportedAsQualifiedOnlyAreResolved) {
    const auto reported = Trace::parse("elem u8:703a61 - -\nattr u8:786d6c6e733a70 - - u8:75 -\nend\n");
    ASSERT_TRUE(reported.has_value());
    const auto value = static_cast<std::size_t>(Layer::value);
    EXPECT_EQ(xml::format().digests(*reported)[value],
              xml::format().digests(document("<p:a xmlns:p='u'/>"))[value]);
}

TEST(XmlLayers, WhatAnAdapterLacksIsLeftOutOfTheComparison) {
    const CannotRepresent cannot_represent{"comments", "prefixes", "declarations"};
    const auto exact = static_cast<std::size_t>(Layer::exact);
    EXPECT_EQ(xml::format().digests(document("<p:a xmlns:p='u'><!--c--></p:a>"), cannot_represent)[exact],
              xml::format().digests(document("<a xmlns='u'/>"), cannot_represent)[exact]);
    std::map<std::string_view, Layer> first_layers;
    for (const RepresentationLimit& limit : xml::format().constants().representation_limits)
        first_layers[limit.word] = limit.first_layer;
    EXPECT_EQ(first_layers.at("comments"), Layer::exact);
    EXPECT_EQ(first_layers.at("cdata"), Layer::representation);
    EXPECT_FALSE(first_layers.contains("bells"));
    // A default that can only be asked for by name is not missing.
    CompareOptions options;
    options.cannot_represent = {"defaults"};
    const Trace expected = document("<!DOCTYPE a [<!ATTLIST a b CDATA 'd' c CDATA 'e'>]><a c='f'/>");
    EXPECT_TRUE(xml::format().compare(expected, document("<a c='f'/>"), options).differences.empty());
    EXPECT_FALSE(xml::format().compare(expected, document("<a/>"), options).differences.empty())
        << "a given one is";
    // Nor is a comment of the document type added, where the interface does not say that it was there.
    options.cannot_represent = {"doctype-content"};
    const Trace with_comment = document("<!DOCTYPE a [<!--x-->]><a><!--y--></a>");
    const auto shown = [&](std::string_view content) {
        return *Trace::parse("doctype u8:61\ncomment u8:78\nelem u8:61 - -\n" + std::string(content) + "end\n");
    };
    EXPECT_TRUE(xml::format().compare(with_comment, shown("comment u8:79\n"), options).differences.empty());
    EXPECT_FALSE(xml::format().compare(with_comment, shown(""), options).differences.empty());
    EXPECT_FALSE(xml::format().compare(with_comment, shown("comment u8:79\n"), {}).differences.empty());
    // It need not show the document type, and it writes the comment where it stored it.
    const Trace moved = document("<!--x--><a><!--y--></a>");
    EXPECT_TRUE(xml::format().compare(with_comment, moved, options).differences.empty());
    EXPECT_FALSE(xml::format().compare(with_comment, moved).differences.empty());
    CompareOptions of_text;
    of_text.of_round_trip = true;
    of_text.stored_without = {"doctype-content"};
    EXPECT_TRUE(xml::format().compare(with_comment, moved, of_text).differences.empty());
    EXPECT_FALSE(xml::format().compare(with_comment, document("<!--x--><a>z</a>"), of_text).differences.empty());
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
    testing::Values(
        CauseRow{"lost_element", "<a><b/></a>", "<a/>", "element/lost"},
        CauseRow{"text_before_children", "<a><b/><c/><d/></a>", "<a>x<b/><c/><d/></a>", "text/added"},
        CauseRow{"first_of_many_lost", "<a><b/><c/><d/></a>", "<a><c/><d/></a>", "element/lost"},
        CauseRow{"in_the_middle_added", "<a>x<b/>y</a>", "<a>x<b/><c/>y</a>", "element/added"},
        CauseRow{"indentation", "<a><b/></a>", "<a>\n <b/></a>", "text/indentation-added"},
        CauseRow{"name_in_small_letters", "<A/>", "<a/>", "element/case-changed"},
        CauseRow{"attribute_in_small_letters", "<a B=''/>", "<a b=''/>", "attribute/case-changed"},
        CauseRow{"default_missing", "<!DOCTYPE a [<!ATTLIST a b CDATA 'x'>]><a/>", "<a/>",
                 "attribute/default-not-supplied"},
        CauseRow{"undone_twice", "<a>&amp;lt;</a>", "<a>&lt;</a>", "text/reference-undone-twice"},
        CauseRow{"line_ends_kept_in_a_value", "<a b='  x '/>", "<a b='&#13;&#10;&#13;&#10;x&#13;&#10;'/>",
                 "attribute/newline-kept"},
        CauseRow{"expanded_in_cdata", "<a>x<![CDATA[&lt;]]></a>", "<a>x&lt;</a>", "cdata/reference-expanded"},
        CauseRow{"character_reference_in_cdata", "<a><![CDATA[&#x41;]]></a>", "<a>A</a>",
                 "cdata/reference-expanded"},
        CauseRow{"expanded_in_and_beside_cdata", "<a>&amp;lt;<![CDATA[&gt;]]></a>", "<a>&lt;&gt;</a>",
                 "text/reference-undone-twice"},
        CauseRow{"character_reference_kept", "<a>&#65;</a>", "<a>&amp;#65;</a>", "text/reference-not-undone"},
        CauseRow{"next_line", "<a>x\xC2\x85y</a>", "<a>x\ny</a>", "text/line-end-of-1.1"},
        CauseRow{"number_in_text", "<a>01.50</a>", "<a>1.5</a>", "text/number-reformatted"},
        CauseRow{"one_character", "<a>x\xC3\xA9y</a>", "<a>xy</a>", "text/changed"},
        CauseRow{"renamed", "<a><b/></a>", "<a><c/></a>", "element/renamed"},
        CauseRow{"namespace", "<a xmlns='u'/>", "<a/>", "namespace/name-changed"},
        CauseRow{"lost_attribute", "<a b=''/>", "<a/>", "attribute/lost"},
        CauseRow{"added_attribute", "<a/>", "<a b=''/>", "attribute/added"},
        CauseRow{"renamed_attribute", "<a b=''/>", "<a c=''/>", "attribute/renamed"},
        CauseRow{"newline_kept", "<a b='x y'/>", "<a b='x&#10;y'/>", "attribute/newline-kept"},
        CauseRow{"line_end_kept", "<a>\n</a>", "<a>&#13;\n</a>", "text/line-end-kept"},
        CauseRow{"not_undone", "<a>&lt;</a>", "<a>&amp;lt;</a>", "text/reference-not-undone"},
        CauseRow{"space", "<a> x</a>", "<a>x</a>", "text/white-space-changed"},
        CauseRow{"expanded", "<!DOCTYPE a SYSTEM 'b'><a>&e;</a>", "<a>x</a>", "text/reference-expanded"},
        CauseRow{"indentation_round_all", "<a><b/><c/></a>", "<a>\n  <b/>\n  <c/>\n</a>", "text/indentation-added"},
        CauseRow{"cut", "<a>xy</a>", "<a>x</a>", "text/cut"},
        CauseRow{"text_lost", "<a>x</a>", "<a/>", "text/lost"},
        CauseRow{"comment_added", "<a><b/>x</a>", "<!--y--><a><b/>x</a>", "comment/added"},
        CauseRow{"comment_lost", "<!--x--><a><!--y--></a>", "<a><!--y--></a>", "comment/lost"},
        CauseRow{"comment_changed", "<a><!--x--></a>", "<a><!--y--></a>", "comment/changed"},
        CauseRow{"instruction_added", "<a><b/>x</a>", "<?p y?><a><b/>x</a>", "instruction/added"},
        CauseRow{"instruction_lost", "<?p y?><?q?><a><b/>x</a>", "<?q?><a><b/>x</a>", "instruction/lost"},
        CauseRow{"reference_as_text", "<!DOCTYPE a SYSTEM 's'><a>&e;</a>", "<a>&amp;e;</a>",
                 "reference/became-text"},
        CauseRow{"references_as_text", "<!DOCTYPE a SYSTEM 's'><a>x&e;<b/>&e;</a>", "<a>x&amp;e;<b/>&amp;e;</a>",
                 "reference/became-text"},
        CauseRow{"text_as_reference", "<a>&amp;e;</a>", "<!DOCTYPE a SYSTEM 's'><a>&e;</a>", "text/lost"},
        CauseRow{"reference_dropped", "<!DOCTYPE a SYSTEM 's'><a>&e;</a>", "<a/>", "text/lost"}),
    [](const auto& info) { return info.param.name; });

}  // namespace

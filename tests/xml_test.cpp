// The reference reader for XML.
#include <gtest/gtest.h>

#include <fmt/format.h>

#include <map>

#include <nachklang/corpus.hpp>
#include <nachklang/experiments.hpp>
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
    EXPECT_EQ(xml::read("<?xml version='1.0' encoding='x-tower'?><a/>").unreadable_because, "the encoding X-TOWER");
    EXPECT_TRUE(xml::read("<!DOCTYPE a><a/>").unreadable_because.empty());
    EXPECT_EQ(xml::format().expect("<?xml version='1.0' encoding='x-tower'?><a/>").unreadable_because,
              "the encoding X-TOWER");
    std::string doubling = "<!DOCTYPE a [<!ENTITY e0 'Hour'>";
    for (int i = 0; i < 30; ++i) doubling += fmt::format("<!ENTITY e{} '&e{};&e{};'>", i + 1, i, i);
    EXPECT_EQ(xml::read(doubling + "]><a>&e30;</a>").unreadable_because, "an expansion of entities past 64 MB");
    EXPECT_TRUE(xml::read(doubling + "]><a/>").unreadable_because.empty());
}

struct TypeRow {
    const char* name;
    std::string subset, body;
    Position position;
    std::string clause, entity_stack;
};
class XmlTypeError : public testing::TestWithParam<TypeRow> {};
TEST_P(XmlTypeError, HasItsPlaceItsClauseAndItsTrail) {
    const TypeRow& row = GetParam();
    const xml::Reading reading = xml::read("<!DOCTYPE a [" + row.subset + "]>" + row.body);
    ASSERT_TRUE(reading.rejection.has_value());
    EXPECT_EQ(reading.rejection->position, row.position)
        << reading.rejection->position.offset << " " << reading.rejection->message;
    EXPECT_EQ(reading.rejection->clause, "XML 1.0, " + row.clause);
    EXPECT_EQ(reading.rejection->entity_stack, row.entity_stack);
}
INSTANTIATE_TEST_SUITE_P(
    Rows, XmlTypeError,
    testing::Values(
        TypeRow{"keyword", "<!ELEMENT a EMPTI>", "<a/>", {29, 1, 30}, "production 46", ""},
        TypeRow{"mixed_separators", "<!ELEMENT a (b|c,d)>", "<a/>", {29, 1, 30}, "production 49", ""},
        TypeRow{"type", "<!ATTLIST a b CDTA #IMPLIED>", "<a/>", {29, 1, 30}, "production 54", ""},
        TypeRow{"default", "<!ATTLIST a b CDATA #IMPLYED>", "<a/>", {38, 1, 39}, "production 60", ""},
        TypeRow{"value", "<!ENTITY e 'x%y;'>", "<a/>", {26, 1, 27}, "WFC PEs in Internal Subset", ""},
        TypeRow{"unended", "<!ENTITY e 'x'", "<a/>", {27, 1, 28}, "production 71", ""},
        TypeRow{"undeclared", "", "<a>\n&e;</a>", {19, 2, 1}, "WFC Entity Declared", ""},
        TypeRow{"recursion",
                "<!ENTITY e 'x&e;'>",
                "<a>&e;</a>",
                {36, 1, 37},
                "WFC No Recursion",
                "entity e at 1 of its text"},
        TypeRow{"recursion_by_two",
                "<!ENTITY e '&f;'><!ENTITY f 'yy&e;'>",
                "<a>&e;</a>",
                {54, 1, 55},
                "WFC No Recursion",
                "entity f at 2 of its text, in entity e at 0 of its text"},
        TypeRow{"inside_entity",
                "<!ENTITY e '<b></c>'>",
                "<a>&e;</a>",
                {39, 1, 40},
                "WFC Element Type Match",
                "entity e at 5 of its text"},
        TypeRow{"less_than_in_value",
                "<!ENTITY e '<'>",
                "<a b='&e;'/>",
                {36, 1, 37},
                "WFC No < in Attribute Values",
                "entity e at 0 of its text"},
        TypeRow{"element_left_open",
                "<!ENTITY e '<b>'>",
                "<a>&e;</b></a>",
                {35, 1, 36},
                "production 39",
                "entity e at 3 of its text"},
        TypeRow{"in_parameter_entity",
                "<!ENTITY % p '<!ELEMENT>'>%p;",
                "<a/>",
                {39, 1, 40},
                "production 45",
                "entity %p at 10 of its text"},
        TypeRow{"unparsed", "<!ENTITY e SYSTEM 'x' NDATA n>", "<a>&e;</a>", {48, 1, 49}, "WFC Parsed Entity", ""},
        TypeRow{"outside_in_value",
                "<!ENTITY e SYSTEM 'x'>",
                "<a b='&e;'/>",
                {43, 1, 44},
                "WFC No External Entity References",
                ""}),
    [](const auto& info) { return info.param.name; });

TEST(XmlReader, ReadsWhatItIsGivenFromOutside) {
    const std::map<std::string, std::string> files{
        {"bells.dtd",
         "<?xml encoding='UTF-8'?><!ENTITY % kind 'CDATA'><!ATTLIST a b %kind; 'x'><![INCLUDE[<!ENTITY e "
         "'Hour'>]]>"},
        {"mass.xml", "<?xml version='1.0' encoding='ISO-8859-1'?><m>\xE9\r\n</m>"},
        {"torn.xml", "<m>"}};
    const Fetch fetch = [&](std::string_view name, std::string_view) -> std::optional<ExternalEntity> {
        const auto found = files.find(std::string(name));
        if (found == files.end()) return std::nullopt;
        return ExternalEntity{found->second, ""};
    };
    const std::string document = "<!DOCTYPE a SYSTEM 'bells.dtd' [<!ENTITY m SYSTEM 'mass.xml'>]><a>&e;&m;</a>";
    const xml::Reading read = xml::read(document, fetch);
    ASSERT_FALSE(read.rejection) << read.rejection->message;
    EXPECT_EQ(xml::format().describe(read.trace, 200), "<a b=\"x\">Hour<m>\u00e9\\n</m></a>");
    const xml::Reading unread = xml::read(document);
    EXPECT_NE(unread.trace.text().find("ref u8:65\nref u8:6d\n"), std::string::npos) << unread.trace.text();
    const xml::Reading torn = xml::read("<!DOCTYPE a [<!ENTITY t SYSTEM 'torn.xml'>]><a>&t;</a>", fetch);
    ASSERT_TRUE(torn.rejection.has_value());
    EXPECT_EQ(torn.rejection->position.offset, 47U);
    EXPECT_EQ(torn.rejection->entity_stack, "entity t at 3 of its text");
}

/// Every document of the corpus in two pieces, cut at every byte, and byte by byte.
TEST(XmlVerdict, DoesNotDependOnTheCuts) {
    const auto corpus = load_corpus(SOURCE_FOLDER "/corpora/xml");
    ASSERT_TRUE(corpus.ok());
    std::size_t cuts = 0;
    for (const Case& c : corpus.value().cases) {
        if (!c.document || c.document->size() > 400) continue;
        const std::string_view document = *c.document;
        const xml::Reading whole = xml::read(document);
        if (!whole.unreadable_because.empty()) continue;
        const auto expected = whole.rejection ? whole.rejection : whole.namespace_rejection;
        const auto check = [&](xml::VerdictReader& reader, std::size_t cut) {
            const auto rejection = reader.finish();
            ASSERT_EQ(rejection.has_value(), expected.has_value()) << c.name << " cut at " << cut;
            if (!expected) return;
            EXPECT_EQ(rejection->position, expected->position) << c.name << " cut at " << cut;
            EXPECT_EQ(rejection->clause, expected->clause) << c.name << " cut at " << cut;
        };
        for (std::size_t cut = 0; cut <= document.size(); cut += 1 + document.size() / 40) {
            xml::VerdictReader reader;
            reader.feed(document.substr(0, cut));
            reader.feed(document.substr(cut));
            check(reader, cut);
            ++cuts;
        }
        xml::VerdictReader bytes;
        for (std::size_t i = 0; i < document.size(); ++i) bytes.feed(document.substr(i, 1));
        check(bytes, document.size());
    }
    EXPECT_GT(cuts, 30000U);
}

/// Documents longer than the verdict's window: tokens that lie across its end, and errors far behind it.
TEST(XmlVerdict, GoesOverItsWindow) {
    std::string body;
    for (int i = 0; i < 20000; ++i)
        body += fmt::format("<bell no='{}' name=\"Hour\">t\r\nx&amp;<!-- c{} --></bell>\n", i, i);
    const std::string good =
        "<register>" + body + std::string(200'000, 'o') + "<!--" + std::string(200'000, 'c') + "--></register>";
    for (const std::string& document :
         {good, good + "x", body + "</register>", "<register>" + body + "<a></b></register>",
          "<register>" + body + "]]></register>", "<register>" + body + "\xC3</register>",
          "<register>" + body + "<p:a/></register>"}) {
        const xml::Reading whole = xml::read(document);
        const auto expected = whole.rejection ? whole.rejection : whole.namespace_rejection;
        for (const std::size_t piece :
             {std::size_t{1000}, std::size_t{4096}, std::size_t{70000}, document.size()}) {
            xml::VerdictReader reader;
            for (std::size_t at = 0; at < document.size(); at += piece)
                reader.feed(std::string_view(document).substr(at, piece));
            const auto rejection = reader.finish();
            ASSERT_EQ(rejection.has_value(), expected.has_value());
            if (expected) {
                EXPECT_EQ(rejection->position, expected->position);
            }
        }
    }
}

struct FormRow {
    const char* name;
    std::string document;
    xml::CanonicalOptions options;
    std::string form;
};
class XmlCanonicalForms : public testing::TestWithParam<FormRow> {};
TEST_P(XmlCanonicalForms, AreWritten) {
    const Canonical canonical = xml::canonical(GetParam().document, GetParam().options);
    ASSERT_FALSE(canonical.refused) << canonical.refused->message;
    EXPECT_EQ(canonical.bytes, GetParam().form);
}
const std::string scoped =
    "<r xmlns='urn:d' xmlns:p='urn:p' xmlns:q='urn:q' xml:lang='de'><p:a q:b='1'><c xmlns=''/></p:a><p:a/></r>";
INSTANTIATE_TEST_SUITE_P(
    Rows, XmlCanonicalForms,
    testing::Values(
        FormRow{"comments",
                "<!--1--><a><!--2--></a><!--3-->",
                {true, false, {}, ""},
                "<!--1-->\n<a><!--2--></a>\n<!--3-->"},
        FormRow{"no_comments", "<!--1--><a><!--2--></a><!--3-->", {}, "<a></a>"},
        FormRow{"defaults",
                "<!DOCTYPE a [<!ATTLIST a b NMTOKEN ' x ' c CDATA 'y'>]><a/>",
                {},
                "<a b=\"x\" c=\"y\"></a>"},
        FormRow{"entities", "<!DOCTYPE a [<!ENTITY e '<b>&#38;#13;</b>'>]><a>&e;</a>", {}, "<a><b>&#xD;</b></a>"},
        FormRow{"subset",
                scoped,
                {false, false, {}, "/r/p:a[1]"},
                "<p:a xmlns=\"urn:d\" xmlns:p=\"urn:p\" xmlns:q=\"urn:q\" xml:lang=\"de\" q:b=\"1\"><c "
                "xmlns=\"\"></c></p:a>"},
        FormRow{"second_of_its_name", scoped, {false, true, {}, "/r/p:a[2]"}, "<p:a xmlns:p=\"urn:p\"></p:a>"},
        FormRow{"exclusive_subset",
                scoped,
                {false, true, {}, "/r/p:a"},
                "<p:a xmlns:p=\"urn:p\" xmlns:q=\"urn:q\" q:b=\"1\"><c></c></p:a>"},
        FormRow{"exclusive_with_prefixes",
                scoped,
                {false, true, {"q", ""}, "/r/p:a[2]"},
                "<p:a xmlns=\"urn:d\" xmlns:p=\"urn:p\" xmlns:q=\"urn:q\"></p:a>"},
        FormRow{"exclusive",
                "<p:a xmlns:p='urn:p' xmlns:q='urn:q'><b/></p:a>",
                {false, true, {}, ""},
                "<p:a xmlns:p=\"urn:p\"><b></b></p:a>"}),
    [](const auto& info) { return info.param.name; });

TEST(XmlCanonicalForms, AreMissingWithAReason) {
    const auto why = [](const char* document, const xml::CanonicalOptions& options = {}) {
        return xml::canonical(document, options).refused.value_or(Rejection{}).message;
    };
    EXPECT_EQ(why("<a xmlns='u'/>"), "the namespace name u is a relative reference, so there is no canonical form");
    EXPECT_EQ(why("<!DOCTYPE a [<!ENTITY e SYSTEM 'x'>]><a>&e;</a>"),
              "the entity e was not read, so there is no canonical form");
    EXPECT_EQ(why("<a><b/></a>", {false, false, {}, "/a/b[2]"}),
              "there is no element at /a/b[2]; write a path such as /register/bell[2]");
    EXPECT_EQ(why("<a/>", {false, false, {}, "a"}),
              "there is no element at a; write a path such as /register/bell[2]");
}

TEST(XmlSettings, LeadToExpectationsOfTheirOwn) {
    const std::string kept = "<!DOCTYPE a [<!ENTITY e 'x'>]><a>&e;</a>";
    const auto shown = [&](const std::string& document, const Settings& settings) {
        return xml::format().describe(*xml::format().expect(document, settings).value, 100);
    };
    EXPECT_EQ(shown(kept, {}), "<a>x</a>");
    EXPECT_EQ(shown(kept, {{"entities", "kept"}}), "<a>&e;</a>");
    const std::string outside = "<!DOCTYPE a [<!ENTITY e SYSTEM 'x'>]><a>y&e;</a>";
    EXPECT_EQ(shown(outside, {}), "<a>y&e;</a>");
    EXPECT_EQ(shown(outside, {{"external", "empty"}}), "<a>y</a>");
}

TEST(XmlReader, NestsAMillionLevelsWithoutRecursion) {
    const std::string document = xml::format().generators()->sample_document(Generators::Sample::deep);
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

struct ShownRow {
    const char* name;
    const char* trace;
    const char* shown;
};
class XmlShown : public testing::TestWithParam<ShownRow> {};
TEST_P(XmlShown, IsMarkupThatATerminalMayShow) {
    const auto trace = Trace::parse(std::string(GetParam().trace) + "\n");
    ASSERT_TRUE(trace);
    EXPECT_EQ(xml::format().describe(*trace, 200), GetParam().shown);
}
INSTANTIATE_TEST_SUITE_P(
    Rows, XmlShown,
    testing::Values(ShownRow{"element", "elem u8:61 u8:61 u8:\nend", "<a></a>"},
                    ShownRow{"by_expanded_name", "elem - u8:61 u8:75\nend", "<{u}a></{u}a>"},
                    ShownRow{"attribute", "elem u8:61 - -\nattr u8:62 - - u8:63 -\nend", "<a b=\"c\"></a>"},
                    ShownRow{"declarations", "elem u8:61 - -\nns u8: u8:75\nns u8:70 u8:76\nend",
                             "<a xmlns=\"u\" xmlns:p=\"v\"></a>"},
                    ShownRow{"text_and_section", "elem u8:61 - -\ntext u8:78\ncdata u8:79\nend",
                             "<a>x<![CDATA[y]]></a>"},
                    ShownRow{"comment", "comment u8:78\nelem u8:61 - -\nend", "<!--x--><a></a>"},
                    ShownRow{"instruction", "pi u8:70 u8:71\nelem u8:61 - -\nend", "<?p q?><a></a>"},
                    ShownRow{"reference", "elem u8:61 - -\nref u8:65\nend", "<a>&e;</a>"},
                    ShownRow{"document_type_is_none", "doctype u8:61\nelem u8:61 - -\nend", "<a></a>"},
                    ShownRow{"control", "elem u8:61 - -\ntext u8:1b5b\nend", "<a>\\u001b[</a>"}),
    [](const auto& info) { return info.param.name; });

TEST(XmlShown, IsCutWhereItIsTooLong) {
    const Trace trace = xml::read("<a><b>" + std::string(500, 'x') + "</b></a>").trace;
    const std::string shown = xml::format().describe(trace, 40);
    EXPECT_LT(shown.size(), 100U);
    EXPECT_TRUE(shown.ends_with("…")) << shown;
}

TEST(XmlRequirements, AreExercisedOnTheSideThatADocumentIsOn) {
    const auto reported = [](const std::string& text, const Fetch& fetch = {}) {
        std::set<std::string> out;
        for (const Exercised& e : xml::format().coverage()->exercised(text, fetch))
            out.insert(xml::format().coverage()->requirements()[e.requirement].clause + " " +
                       std::string(name_of(e.side)));
        return out;
    };
    EXPECT_TRUE(reported("<a><!--x--></a>").contains("XML 1.0, production 15 accept"));
    EXPECT_TRUE(reported("<a><!--x--y--></a>").contains("XML 1.0, production 15 reject"));
    EXPECT_TRUE(reported("<a></b>").contains("XML 1.0, WFC Element Type Match reject"));
    EXPECT_TRUE(reported("<p:a/>").contains("Namespaces 1.0, 5, NSC Prefix Declared reject"));
    EXPECT_TRUE(reported("<?xml version='1.7'?><a/>").contains("XML 1.0, production 26 open"));
    const auto file = [](const char* bytes) {
        return [bytes](std::string_view, std::string_view) -> std::optional<ExternalEntity> {
            return ExternalEntity{bytes, ""};
        };
    };
    const std::string outside = "<!DOCTYPE a SYSTEM 's'><a/>";
    EXPECT_TRUE(reported(outside, file("<![INCLUDE[]]>")).contains("XML 1.0, production 62 accept"));
    EXPECT_TRUE(reported(outside, file("<![INCLUDE[")).contains("XML 1.0, production 62 reject"));
    EXPECT_TRUE(reported(outside, file("<?xml version='1.0'?>")).contains("XML 1.0, production 77 reject"));
    EXPECT_FALSE(reported(outside).contains("XML 1.0, production 62 accept"));
    EXPECT_TRUE(reported("<!DOCTYPE a [<!ENTITY e SYSTEM 's'>]><a>&e;</a>", file("<b>"))
                    .contains("XML 1.0, production 78 reject"));
}

TEST(XmlExternal, AnEncodingThatIsNotReadIsBeyondTheReader) {
    const Fetch runes = [](std::string_view, std::string_view) -> std::optional<ExternalEntity> {
        return ExternalEntity{"<?xml encoding='x-tower'?>x", ""};
    };
    const xml::Reading reading = xml::read("<!DOCTYPE a [<!ENTITY e SYSTEM 's'>]><a>&e;</a>", runes);
    EXPECT_FALSE(reading.rejection.has_value());
    EXPECT_EQ(reading.unreadable_because, "the encoding X-TOWER of an external entity");
}

struct ShrunkRow {
    const char* name;
    std::string shows;     ///< text that a smaller document must still hold
    std::string smallest;  ///< well-formed document that does
};
class XmlShrinking : public testing::TestWithParam<ShrunkRow> {};
TEST_P(XmlShrinking, LeavesNothingThatCanGo) {
    std::string document =
        "<?xml version='1.0'?>\n<!-- the register -->\n<!DOCTYPE register [\n<!ELEMENT register ANY>\n<!ENTITY "
        "tower "
        "'North &#38;#38; South'>\n<!-- of 1721 --><?cast bronze?>\n<!ATTLIST bell cast CDATA '1721'>]>\n<register "
        "a='1' "
        "b='2>1' c='3/4'>";
    for (int i = 0; i < 500; ++i)
        document += "<bell hz='110.5' number='" + std::to_string(i) + "'><name>Hour</name><!-- h --> </bell>";
    document += "<bell note='two\nlines'>&tower;<![CDATA[raw <]]><?ring now?></bell></register>\n<!-- end -->\n";
    ASSERT_FALSE(xml::read(document).rejection);
    const Shrunk shrunk = shrink(
        xml::format(), document,
        [&](std::span<const std::string> candidates) {
            std::vector<bool> out;
            for (const std::string& c : candidates)
                out.push_back(!xml::read(c).rejection && c.find(GetParam().shows) != std::string::npos);
            return out;
        },
        20000);
    EXPECT_TRUE(shrunk.complete);
    EXPECT_EQ(shrunk.document, GetParam().smallest);
    EXPECT_LT(shrunk.tried, 2000U);
}
INSTANTIATE_TEST_SUITE_P(
    Rows, XmlShrinking,
    testing::Values(ShrunkRow{"element", "<", "<a/>"}, ShrunkRow{"value", "two\nlines", "<l e='two\nlines'/>"},
                    ShrunkRow{"section", "<![CDATA[", "<bell><![CDATA[]]></bell>"},
                    ShrunkRow{"instruction", "<?ring", "<bell><?ring?></bell>"},
                    ShrunkRow{"comment", "<!--", "<a/><!---->"},
                    ShrunkRow{"of_two_neighbours", "499'", "<l r='499'/>"},
                    ShrunkRow{"declared_entity", "<!ENTITY", "<!DOCTYPE r[<!ENTITY r ''>]><a/>"},
                    ShrunkRow{"reference", "&tower;", "<!DOCTYPE r[<!ENTITY tower ''>]><bell>&tower;</bell>"},
                    ShrunkRow{"declared_attribute", "<!ATTLIST", "<!DOCTYPE r[<!ATTLIST l t CDATA ''>]><a/>"}),
    [](const auto& info) { return info.param.name; });

TEST(XmlShrinking, LeavesLevelsByHalves) {
    std::string document;
    for (int i = 0; i < 1000; ++i) document += "<bell n='" + std::to_string(i) + "'>";
    document += "x";
    for (int i = 0; i < 1000; ++i) document += "</bell>";
    const Shrunk shrunk = shrink(
        xml::format(), document,
        [&](std::span<const std::string> candidates) {
            std::vector<bool> out;
            for (const std::string& c : candidates) {
                const auto levels = std::count(c.begin(), c.end(), '<') / 2;
                out.push_back(!xml::read(c).rejection && levels >= 100 && c.find('x') != std::string::npos);
            }
            return out;
        },
        20000);
    EXPECT_TRUE(shrunk.complete);
    EXPECT_EQ(std::count(shrunk.document.begin(), shrunk.document.end(), '<') / 2, 100);
    EXPECT_EQ(std::count(shrunk.document.begin(), shrunk.document.end(), '\''), 0) << "attributes go, too";
}

TEST(XmlCuts, MostLeaveWellFormedDocuments) {
    const std::string text = "<a x='1'><b>t<c/></b><!-- <d> --><e f='>'/></a>";
    std::size_t well_formed = 0;
    for (const Cut& cut : xml::format().reduction()->cuts(text))
        if (!xml::read(text.substr(0, cut.begin) + std::string(cut.replacement) + text.substr(cut.end)).rejection)
            ++well_formed;
    EXPECT_GT(well_formed, 8U);
}

}  // namespace

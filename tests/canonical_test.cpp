// The one spelling that RFC 8785 and Canonical XML allow.
#include <gtest/gtest.h>

#include <fmt/format.h>

#include <random>

#include <nachklang/json.hpp>
#include <nachklang/number.hpp>
#include <nachklang/xml.hpp>

namespace {

using namespace nachklang;

struct FormRow {
    const char* name;
    const char* document;
    const char* form;
};

class JsonForm : public testing::TestWithParam<FormRow> {};

TEST_P(JsonForm, IsTheOneSpelling) {
    const Canonical canonical = json::format().canonical_form()->canonical(GetParam().document);
    ASSERT_FALSE(canonical.refused) << canonical.refused->message;
    EXPECT_EQ(canonical.bytes, GetParam().form);
    EXPECT_EQ(json::format().canonical_form()->canonical(canonical.bytes).bytes, canonical.bytes);
}

INSTANTIATE_TEST_SUITE_P(
    Rows, JsonForm,
    testing::Values(
        FormRow{"white_space", " [ 1 , { } ,\r\n[ ] ] ", "[1,{},[]]"},
        FormRow{"literals", "[true , false,null]", "[true,false,null]"},
        FormRow{"solidus", R"("\/\u002f")", R"("//")"},
        FormRow{"control_characters", R"("\u0008\u0009\u000A\u000c\u000d\u0000\u001F\u007f")",
                "\"\\b\\t\\n\\f\\r\\u0000\\u001f\x7F\""},
        FormRow{"quote_and_backslash", R"("\u0022\u005c\u005C")", R"("\"\\\\")"},
        FormRow{"euro_and_bell", R"("\u20ac \uD83D\udd14")", "\"\xE2\x82\xAC \xF0\x9F\x94\x94\""},
        // U+FB33 sorts after U+1F600 by UTF-16 units, before it by code points.
        FormRow{"order_by_utf16_units",
                R"({"\u20ac":1,"\r":2,"\ufb33":3,"1":4,"\ud83d\ude00":5,"\u0080":6,"\u00f6":7})",
                "{\"\\r\":2,\"1\":4,\"\xC2\x80\":6,\"\xC3\xB6\":7,\"\xE2\x82\xAC\":1,\"\xF0\x9F\x98\x80\":5,"
                "\"\xEF\xAC\xB3\":3}"},
        FormRow{"order_is_recursive", R"({"b":[{"d":1,"c":2}],"a":{"z":0,"y":{}},"":3})",
                R"({"":3,"a":{"y":{},"z":0},"b":[{"c":2,"d":1}]})"},
        FormRow{"prefix_first", R"({"aa":1,"a":2})", R"({"a":2,"aa":1})"},
        FormRow{"minus_zero", "[-0,-0.0,0e5,-0E-9]", "[0,0,0,0]"},
        FormRow{"integers", "[1.0,1e2,100.00e-2,123456789012345678]", "[1,100,1,123456789012345680]"},
        FormRow{"borders_of_plain_spelling", "[1e21,999999999999999900000,1e-6,1e-7,0.00000123]",
                "[1e+21,999999999999999900000,0.000001,1e-7,0.00000123]"},
        FormRow{"mean_of_two", "[333333333.33333329,1E30,4.50,2e-3,0.000000000000000000000000001]",
                "[333333333.3333333,1e+30,4.5,0.002,1e-27]"},
        FormRow{"edges", "[5e-324,1.7976931348623157e308,9007199254740993,2.2250738585072014E-308,1e-400]",
                "[5e-324,1.7976931348623157e+308,9007199254740992,2.2250738585072014e-308,0]"}),
    [](const auto& row) { return row.param.name; });

struct NoFormRow {
    const char* name;
    const char* document;
    std::size_t offset;
    const char* clause;
};
class NoJsonForm : public testing::TestWithParam<NoFormRow> {};

TEST_P(NoJsonForm, SaysWhereAndWhy) {
    const Canonical canonical = json::format().canonical_form()->canonical(GetParam().document);
    ASSERT_TRUE(canonical.refused);
    EXPECT_EQ(canonical.refused->position.offset, GetParam().offset);
    EXPECT_EQ(canonical.refused->clause, GetParam().clause);
    EXPECT_TRUE(canonical.bytes.empty());
}

INSTANTIATE_TEST_SUITE_P(
    Rows, NoJsonForm,
    testing::Values(NoFormRow{"no_json", "[1,]", 3, "RFC 8259, 3"},
                    NoFormRow{"overflow", "[0, 1e309]", 4, "RFC 8785, 3.2.2.3"},
                    NoFormRow{"lone_high", R"(["\u0041\ud800x"])", 8, "RFC 8785, 3.2.2.2"},
                    NoFormRow{"lone_low", R"("\\\udc00")", 3, "RFC 8785, 3.2.2.2"},
                    NoFormRow{"high_high_low", R"("\ud800\ud83d\udd14")", 1, "RFC 8785, 3.2.2.2"},
                    NoFormRow{"pair_then_low", R"("\ud83d\udd14\udd14")", 13, "RFC 8785, 3.2.2.2"},
                    NoFormRow{"lone_in_a_name", R"({"\udfff":1})", 2, "RFC 8785, 3.2.2.2"},
                    NoFormRow{"duplicate_once_unescaped", R"({"a":{"a":1},"\u0061":2})", 13, "RFC 8785, 3.1"}),
    [](const auto& row) { return row.param.name; });

TEST(JsonForm, NeedsNoStackForDepth) {
    const auto nested = [](const char* inside) {
        return fmt::format("{}{}{}", std::string(200'000, '['), inside, std::string(200'000, ']'));
    };
    EXPECT_EQ(json::format().canonical_form()->canonical(nested(" 1.0 ")).bytes, nested("1"));
}

struct NumberRow {
    std::uint64_t bits;
    const char* text;
};
// Values by their bits and how ECMA-262 spells them.
constexpr NumberRow spelled[] = {
    {0x0000000000000001, "5e-324"},
    {0x8000000000000001, "-5e-324"},
    {0x7fefffffffffffff, "1.7976931348623157e+308"},
    {0xffefffffffffffff, "-1.7976931348623157e+308"},
    {0x4340000000000000, "9007199254740992"},
    {0x4430000000000000, "295147905179352830000"},
    {0x44b52d02c7e14af5, "9.999999999999997e+22"},
    {0x44b52d02c7e14af6, "1e+23"},
    {0x44b52d02c7e14af7, "1.0000000000000001e+23"},
    {0x444b1ae4d6e2ef4e, "999999999999999700000"},
    {0x444b1ae4d6e2ef4f, "999999999999999900000"},
    {0x444b1ae4d6e2ef50, "1e+21"},
    {0x3eb0c6f7a0b5ed8c, "9.999999999999997e-7"},
    {0x3eb0c6f7a0b5ed8d, "0.000001"},
    {0x41b3de4355555553, "333333333.3333332"},
    {0x41b3de4355555557, "333333333.33333343"},
    {0xbecbf647612f3696, "-0.0000033333333333333333"},
    {0x43143ff3c1cb0959, "1424953923781206.2"},
};

TEST(Shortest, IsLaidOutAsEcmascriptDoes) {
    for (const NumberRow& row : spelled) EXPECT_EQ(number::shortest64(row.bits), row.text) << std::hex << row.bits;
    EXPECT_EQ(number::shortest64(0x8000000000000000), "-0");
    EXPECT_EQ(number::shortest32(0x4c000001), "33554436");
    EXPECT_EQ(number::shortest32(0x7f7fffff), "3.4028235e+38");
}

// No decimal of one digit less reads back: neither the value cut off there nor its neighbour above.
TEST(Shortest, HasNoDigitTooMany) {
    std::mt19937_64 random(1666);
    std::size_t long_ones = 0;
    for (int i = 0; i < 20000; ++i) {
        std::uint64_t bits = random() & 0x7FFFFFFFFFFFFFFF;
        if (i % 2 == 0) bits = std::bit_cast<std::uint64_t>(static_cast<double>(random()));  // large integers
        if (number::is_nan64(bits) || number::is_infinite64(bits) || bits == 0) continue;
        const Decimal decimal = *Decimal::parse(number::shortest64(bits));
        ASSERT_EQ(number::nearest_binary64(decimal), bits);
        const std::size_t count = decimal.digits().size();
        if (count < 2) continue;
        ++long_ones;
        const auto power = decimal.point() - static_cast<std::int64_t>(count) + 1;
        std::string digits(decimal.digits().substr(0, count - 1));
        ASSERT_NE(number::nearest_binary64(*Decimal::parse(fmt::format("{}e{}", digits, power))), bits);
        digits = std::to_string(std::stoull(digits) + 1);
        ASSERT_NE(number::nearest_binary64(*Decimal::parse(fmt::format("{}e{}", digits, power))), bits);
    }
    EXPECT_GT(long_ones, 15000U);
}

class XmlForm : public testing::TestWithParam<FormRow> {};

TEST_P(XmlForm, IsTheOneSpelling) {
    const Canonical canonical = xml::format().canonical_form()->canonical(GetParam().document);
    ASSERT_FALSE(canonical.refused) << canonical.refused->message;
    EXPECT_EQ(canonical.bytes, GetParam().form);
    EXPECT_EQ(xml::format().canonical_form()->canonical(canonical.bytes).bytes, canonical.bytes);
}

INSTANTIATE_TEST_SUITE_P(
    Rows, XmlForm,
    testing::Values(
        FormRow{"empty_tag_and_declaration", "<?xml version='1.0'?>\n<bell />\n", "<bell></bell>"},
        FormRow{"comments_go", "<!--a--><bell>x<!--b-->y</bell><!--c-->", "<bell>xy</bell>"},
        FormRow{"instructions_round_the_root", "<?a b?><bell><?c?></bell><?d  e ?>",
                "<?a b?>\n<bell><?c?></bell>\n<?d e ?>"},
        FormRow{"escapes", "<b a='&#9;&#10;&#13;&quot;&lt;&gt;&amp;'>&lt;&gt;&amp;&#13;\"\r\n</b>",
                "<b a=\"&#x9;&#xA;&#xD;&quot;&lt;>&amp;\">&lt;&gt;&amp;&#xD;\"\n</b>"},
        FormRow{"cdata", "<b><![CDATA[<&>]]></b>", "<b>&lt;&amp;&gt;</b>"},
        FormRow{"attributes_by_namespace_then_name", "<b xmlns:q='u:1' xmlns:p='u:2' p:a='1' q:b='2' c='3' a='4'/>",
                "<b xmlns:p=\"u:2\" xmlns:q=\"u:1\" a=\"4\" c=\"3\" q:b=\"2\" p:a=\"1\"></b>"},
        FormRow{"superfluous_declarations",
                "<b xmlns='u:1' xmlns:p='u:2'><c xmlns='u:1' xmlns:p='u:2'/><d xmlns=''/></b>",
                "<b xmlns=\"u:1\" xmlns:p=\"u:2\"><c></c><d xmlns=\"\"></d></b>"},
        FormRow{"a_scope_ends_with_its_element",
                "<b xmlns:p='u:1'><p:c xmlns:p='u:2'/><p:d/><e xmlns='u:3'><f xmlns=''/><g/></e><h/></b>",
                "<b xmlns:p=\"u:1\"><p:c xmlns:p=\"u:2\"></p:c><p:d></p:d><e xmlns=\"u:3\"><f "
                "xmlns=\"\"></f><g></g></e><h></h></b>"},
        FormRow{"declared_twice_on_the_way_down",
                "<b xmlns:p='u:1'><c xmlns:p='u:2'><p:d xmlns:p='u:1'/><p:e/></c><p:f/></b>",
                "<b xmlns:p=\"u:1\"><c xmlns:p=\"u:2\"><p:d xmlns:p=\"u:1\"></p:d><p:e></p:e></c><p:f></p:f></b>"},
        FormRow{"nothing_to_undeclare", "<b xmlns=''><c xmlns=''/></b>", "<b><c></c></b>"}),
    [](const auto& row) { return row.param.name; });

// A map of the namespaces in force for each open element would take 7 GB and a minute and a half.
TEST(XmlForm, TakesNamespacesOfEveryLevel) {
    constexpr std::size_t levels = 8000;
    std::string document, ends;
    for (std::size_t i = 0; i < levels; ++i) {
        document += fmt::format("<b xmlns:p{0}=\"u:{0}\">", i);
        ends += "</b>";
    }
    EXPECT_EQ(xml::format().canonical_form()->canonical(document + ends).bytes, document + ends);
}

// What an element has by default counts as expansion.
TEST(XmlForm, DefaultsAreBounded) {
    std::string document = "<!DOCTYPE b [<!ATTLIST b";
    for (int i = 0; i < 2000; ++i) document += fmt::format(" a{} CDATA 'bell'", i);
    document += ">]><b>";
    for (int i = 0; i < 8000; ++i) document += "<b/>";
    document += "</b>";
    EXPECT_FALSE(xml::format().read(document).unreadable_because.empty());
}

TEST(XmlForm, IsRefusedForARelativeNamespaceName) {
    const Canonical canonical = xml::format().canonical_form()->canonical("<b xmlns='tower/bells'/>");
    ASSERT_TRUE(canonical.refused);
    EXPECT_EQ(canonical.refused->clause, "Canonical XML 1.0, 1.3");
}

}  // namespace

// Records that XML is decoded into: how they are compared, and which fields a written document has.
#include <gtest/gtest.h>

#include <nachklang/format.hpp>

namespace {

using namespace nachklang;

const Format& xml() {
    return *find_format("xml");
}

Trace trace(const std::string& lines) {
    TraceError error;
    const auto parsed = Trace::parse(lines, &error);
    EXPECT_TRUE(parsed) << lines << error.message;
    return parsed.value_or(Trace());
}

std::string text_line(std::string_view text) {
    TraceWriter out;
    out.text_line("str", text);
    return out.take();
}

Trace record(const std::string& value) {
    return trace("{\nkey " + TraceWriter::field("value") + "\n" + value + "}\n");
}

struct Written {
    const char* document;
    std::string held;     ///< the value that it was written from
    std::string written;  ///< the value that it has; empty: it has no such field
};

class WrittenRecords : public testing::TestWithParam<Written> {};
TEST_P(WrittenRecords, HaveTheFieldsOfTheDocument) {
    const Reading reading = xml().read(GetParam().document);
    ASSERT_TRUE(reading.accepted()) << GetParam().document;
    const Trace expected = GetParam().written.empty() ? trace("{\n}\n") : record(GetParam().written);
    EXPECT_EQ(xml().record_in(reading.trace, record(GetParam().held)).text(), expected.text())
        << GetParam().document;
}
const std::string spelled_7 = "spelled u8:37\n", spelled_8 = "spelled u8:38\n";
INSTANTIATE_TEST_SUITE_P(
    All, WrittenRecords,
    testing::Values(
        Written{"<record><value>7</value></record>", "int 7\n", spelled_7},
        Written{"<record value='7'/>", "int 7\n", spelled_7},
        Written{"<p:record xmlns:p='u'><p:value>7</p:value></p:record>", "int 7\n", spelled_7},
        Written{"<record><value>7</value></record>", text_line("7"), text_line("7")},
        Written{"<record><value>seven</value></record>", "int 7\n", text_line("seven")},
        Written{"<record><value>a<![CDATA[&]]>b</value></record>", text_line("a&b"), text_line("a&b")},
        Written{"<record><value> a </value></record>", text_line("a"), text_line(" a ")},
        Written{"<record><value>true</value></record>", "true\n", "true\n"},
        Written{"<record><value>1</value></record>", "true\n", text_line("1")},
        Written{"<record><value>INF</value></record>", "binary64 7ff0000000000000\n",
                "binary64 7ff0000000000000\n"},
        Written{"<record><value>-Infinity</value></record>", "binary64 fff0000000000000\n",
                "binary64 fff0000000000000\n"},
        Written{"<record/>", "int 7\n", ""}, Written{"<record/>", "null\n", ""},
        Written{"<record><value/></record>", "null\n", "null\n"},
        Written{"<record><value/></record>", text_line(""), text_line("")},
        Written{"<record><value xmlns:i='http://www.w3.org/2001/XMLSchema-instance' i:nil='true'/></record>",
                "int 7\n", "null\n"},
        Written{"<record><value><value>7</value></value></record>", "null\n", "{\n}\n"},
        Written{"<record/>", "[\n]\n", "[\n]\n"},
        Written{"<record><value>7</value><other/><value>8</value></record>", "[\nint 7\nint 8\n]\n",
                "[\n" + spelled_7 + spelled_8 + "]\n"},
        Written{"<record><value>7 8</value></record>", "[\nint 7\nint 8\n]\n", "[\n" + text_line("7 8") + "]\n"},
        Written{"<record><value><value>7</value></value></record>", "{\nkey u8:76616c7565\nint 7\n}\n",
                "{\nkey u8:76616c7565\n" + spelled_7 + "}\n"},
        Written{"<record><value><value><value>7</value></value></value></record>",
                "{\nkey u8:76616c7565\nint 7\n}\n", "{\nkey u8:76616c7565\n" + text_line("") + "}\n"}));

struct Differing {
    std::string expected, got;
    const char* cause;
};

class DifferingRecords : public testing::TestWithParam<Differing> {};
TEST_P(DifferingRecords, HaveACauseThatTheFormatLists) {
    const auto found = xml().compare(record(GetParam().expected), record(GetParam().got)).differences;
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found.front().cause, GetParam().cause);
    EXPECT_NE(find_cause(xml(), found.front().cause), nullptr);
}
INSTANTIATE_TEST_SUITE_P(
    All, DifferingRecords,
    testing::Values(Differing{"spelled u8:372e3235\n", "int 7\n", "record/fraction-lost"},
                    Differing{"spelled u8:34323934393637333033\n", "int 7\n", "record/number-wrapped"},
                    Differing{spelled_7, "int 3\n", "record/number-changed"},
                    Differing{text_line("seven"), "int 0\n", "record/text-became-number"},
                    Differing{text_line("seven"), "false\n", "record/other-kind"},
                    Differing{text_line(" a "), text_line("a"), "record/white-space-lost"},
                    Differing{text_line("Anna"), text_line("An"), "record/text-cut"},
                    Differing{text_line("Anna"), text_line("Anno"), "record/text-changed"},
                    Differing{"[\nint 7\nint 8\n]\n", "[\nint 7\n]\n", "record/list-element-lost"},
                    Differing{"[\nint 7\n]\n", "[\nint 7\nint 8\n]\n", "record/list-element-added"},
                    Differing{spelled_7, "null\n", "record/field-empty"},
                    Differing{spelled_7, "unset\n", "value/unset"}));

TEST(RecordsOfXml, AreEqualIfTheirNumbersAre) {
    EXPECT_TRUE(xml().compare(record(spelled_7), record("binary64 401c000000000000\n")).differences.empty());
}

TEST(RecordsOfXml, AreNoMarkup) {
    const Trace document = xml().read("<record><value>7</value></record>").trace;
    const auto found = xml().compare(record(spelled_7), document).differences;
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found.front().cause, "record/other-kind");
    EXPECT_EQ(xml().describe(record(spelled_7), 80), "{\"value\": 7 (as written)}");
}

}  // namespace

// Documents of version 1.1: read by XML 1.0, which processes them as its own (2.8), and by XML 1.1.
#include <gtest/gtest.h>

#include <fmt/format.h>

#include <nachklang/judge.hpp>
#include <nachklang/xml.hpp>

namespace nachklang {
namespace {

struct VersionRow {
    const char* document;
    const char* by_1_0;  ///< the value, or the first error: offset, line, column and clause
    const char* by_1_1;
};
std::ostream& operator<<(std::ostream& out, const VersionRow& row) {
    return out << text::printable(row.document);
}

std::string shown(const xml::Reading& reading) {
    if (!reading.unreadable_because.empty()) return "unreadable: " + reading.unreadable_because;
    const auto& rejection = reading.rejection ? reading.rejection : reading.namespace_rejection;
    if (!rejection) return xml::format().describe(reading.trace, 200);
    return fmt::format("{} {}:{} {}", rejection->position.offset, rejection->position.line,
                       rejection->position.column, rejection->clause);
}

class XmlVersions : public testing::TestWithParam<VersionRow> {};

TEST_P(XmlVersions, AreReadByTheirOwnRules) {
    const VersionRow& row = GetParam();
    EXPECT_EQ(shown(xml::read(row.document)), row.by_1_0);
    for (const auto instructions : {xml::Instructions::scalar, xml::Instructions::vector})
        EXPECT_EQ(shown(xml::read(row.document, {}, instructions, xml::Versions::also_1_1)), row.by_1_1);
}

#define V11 "<?xml version='1.1'?>"
INSTANTIATE_TEST_SUITE_P(
    All, XmlVersions,
    testing::Values(
        // Line ends (2.11).
        VersionRow{V11 "<a>x\xC2\x85y</a>", "<a>x\\u0085y</a>", "<a>x\\ny</a>"},
        VersionRow{V11 "<a>x\xE2\x80\xA8y</a>", "<a>x\\u2028y</a>", "<a>x\\ny</a>"},
        VersionRow{V11 "<a>x\r\xC2\x85y</a>", "<a>x\\n\\u0085y</a>", "<a>x\\ny</a>"},
        VersionRow{V11 "<a>x\r\ny\rz</a>", "<a>x\\ny\\nz</a>", "<a>x\\ny\\nz</a>"},
        VersionRow{V11 "<a>x\xC2\x85\xC2\x85y</a>", "<a>x\\u0085\\u0085y</a>", "<a>x\\n\\ny</a>"},
        VersionRow{V11 "<a b='x\xC2\x85y'/>", "<a b=\"x\\u0085y\"></a>", "<a b=\"x y\"></a>"},
        VersionRow{V11 "<a b='x&#x85;y'/>", "<a b=\"x\\u0085y\"></a>", "<a b=\"x\\u0085y\"></a>"},
        VersionRow{V11 "<a\xC2\x85/>", "23 1:24 XML 1.0, production 40", "<a></a>"},
        VersionRow{"<?xml version='1.1'\xC2\x85?><a/>", "19 1:20 XML 1.0, production 23",
                   "19 1:20 XML 1.1, production 23"},
        // What the XML declaration does not name is version 1.0.
        VersionRow{"<a>x\xC2\x85y</a>", "<a>x\\u0085y</a>", "<a>x\\u0085y</a>"},
        VersionRow{"<?xml version='1.0'?><a>&#1;</a>", "24 1:25 XML 1.0, WFC Legal Character",
                   "24 1:25 XML 1.0, WFC Legal Character"},
        VersionRow{"<?xml version = \"1.1\" ?><a>&#1;</a>", "27 1:28 XML 1.0, WFC Legal Character",
                   "<a>\\u0001</a>"},
        // Control characters (productions 1, 2, 2a).
        VersionRow{V11 "<a>&#1;&#x1F;</a>", "24 1:25 XML 1.0, WFC Legal Character", "<a>\\u0001\\u001f</a>"},
        VersionRow{V11 "<a>&#0;</a>", "24 1:25 XML 1.0, WFC Legal Character",
                   "24 1:25 XML 1.1, WFC Legal Character"},
        VersionRow{V11 "<a>&#xFFFF;</a>", "24 1:25 XML 1.0, WFC Legal Character",
                   "24 1:25 XML 1.1, WFC Legal Character"},
        VersionRow{V11 "<a>\x01</a>", "24 1:25 XML 1.0, production 2", "24 1:25 XML 1.1, production 1"},
        VersionRow{V11 "<a>x\x7F</a>", "<a>x\\u007f</a>", "25 1:26 XML 1.1, production 1"},
        VersionRow{V11 "<a>\xC2\x84</a>", "<a>\\u0084</a>", "24 1:25 XML 1.1, production 1"},
        VersionRow{V11 "<a>\xC2\x86</a>", "<a>\\u0086</a>", "24 1:25 XML 1.1, production 1"},
        VersionRow{V11 "<a>\xC2\x9F\xC2\xA0</a>", "<a>\\u009f\\u00a0</a>", "24 1:25 XML 1.1, production 1"},
        VersionRow{V11 "<a>\xC2\xA0</a>", "<a>\\u00a0</a>", "<a>\\u00a0</a>"},
        VersionRow{V11 "<!DOCTYPE a [<!ENTITY e '&#2;'>]><a b='&e;'>&e;</a>",
                   "46 1:47 XML 1.0, WFC Legal Character", "<a b=\"\\u0002\">\\u0002</a>"},
        // The first of two errors counts.
        VersionRow{V11 "<a></b>\xC2\x9F</a>", "26 1:27 XML 1.0, WFC Element Type Match",
                   "26 1:27 XML 1.1, WFC Element Type Match"},
        // Positions are those of the bytes that came.
        VersionRow{V11 "<a>\r\xC2\x85\xE2\x80\xA8</b>", "32 2:5 XML 1.0, WFC Element Type Match",
                   "32 2:5 XML 1.1, WFC Element Type Match"},
        // Namespaces 1.1, 5.
        VersionRow{V11 "<p:a xmlns:p='u'><b xmlns:p=''/></p:a>",
                   "41 1:42 Namespaces 1.0, 5, NSC No Prefix Undeclaring",
                   "<p:a xmlns:p=\"u\"><b xmlns:p=\"\"></b></p:a>"},
        VersionRow{V11 "<p:a xmlns:p='u'><p:b xmlns:p=''/></p:a>",
                   "43 1:44 Namespaces 1.0, 5, NSC No Prefix Undeclaring",
                   "39 1:40 Namespaces 1.1, 5, NSC Prefix Declared"}));

TEST(XmlVersions, AreFoundInOtherEncodings) {
    std::string document = "\xFF\xFE";
    for (const char c : std::string_view("<?xml version='1.1' encoding='UTF-16'?><a>x\x85y</a>")) {
        document.push_back(c);
        document.push_back('\0');
    }
    EXPECT_EQ(shown(xml::read(document)), "<a>x\\u0085y</a>");
    EXPECT_EQ(shown(xml::read(document, {}, xml::Instructions::vector, xml::Versions::also_1_1)), "<a>x\\ny</a>");
}

TEST(XmlVersions, AreReadInPiecesAsWhole) {
    for (const char* document : {V11 "<a>&#1;\xC2\x85</a>", V11 "<a>\xC2\x9F</a>", V11 "<a b='\x01'/>"})
        for (std::size_t cut = 0; cut < std::string_view(document).size(); ++cut) {
            xml::VerdictReader reader(true, xml::Versions::also_1_1);
            reader.feed(std::string_view(document).substr(0, cut));
            reader.feed(std::string_view(document).substr(cut));
            const auto whole =
                xml::read(document, {}, xml::Instructions::vector, xml::Versions::also_1_1).rejection;
            const auto pieces = reader.finish();
            ASSERT_EQ(whole.has_value(), pieces.has_value()) << text::printable(document) << " cut at " << cut;
            if (whole) {
                EXPECT_EQ(whole->position.offset, pieces->position.offset);
            }
        }
}

TEST(XmlVersions, AnExternalEntityOfADocumentIsReadByItsVersion) {
    const auto fetch = [](std::string_view, std::string_view) -> std::optional<ExternalEntity> {
        return ExternalEntity{"x\xC2\x85&#1;", ""};
    };
    const std::string document = V11 "<!DOCTYPE a [<!ENTITY e SYSTEM 'e.ent'>]><a>&e;</a>";
    EXPECT_EQ(shown(xml::read(document, fetch, xml::Instructions::vector, xml::Versions::also_1_1)),
              "<a>x\\n\\u0001</a>");
    EXPECT_FALSE(xml::read(document, fetch).rejection == std::nullopt);
}

struct ExpectedRow {
    const char* document;
    Stance without, with;  ///< of an implementation that says nothing, and of one that reads 1.1
    const char* answers;   ///< the values accepted of the first
};

class XmlVersionExpected : public testing::TestWithParam<ExpectedRow> {};

TEST_P(XmlVersionExpected, DependsOnTheSetting) {
    const auto& [document, without, with, answers] = GetParam();
    const Expectation silent = xml::format().expect(document, {}, {}),
                      speaking = xml::format().expect(document, {{"xml-version", "1.1"}}, {});
    EXPECT_EQ(silent.stance, without);
    EXPECT_EQ(speaking.stance, with);
    std::string values;
    if (silent.value) values = xml::format().describe(*silent.value, 100);
    for (const Answer& answer : silent.answers)
        values += "; " + answer.question + " " + answer.name + ": " + xml::format().describe(*answer.trace, 100);
    if (silent.allowed_otherwise)
        values += "or " + silent.allowed_otherwise->name + ": " +
                  xml::format().describe(*silent.allowed_otherwise->trace, 100);
    EXPECT_EQ(values, answers);
}

INSTANTIATE_TEST_SUITE_P(
    All, XmlVersionExpected,
    testing::Values(ExpectedRow{V11 "<a/>", Stance::accept, Stance::accept, "<a></a>"},
                    ExpectedRow{V11 "<a>\xC2\x85</a>", Stance::accept, Stance::accept,
                                "<a>\\u0085</a>; version-number by-1.1: <a>\\n</a>"},
                    ExpectedRow{V11 "<a>&#1;</a>", Stance::reject, Stance::accept, "or by-1.1: <a>\\u0001</a>"},
                    ExpectedRow{V11 "<a>\xC2\x84</a>", Stance::accept, Stance::reject, "<a>\\u0084</a>"},
                    ExpectedRow{V11 "<a>", Stance::reject, Stance::reject, ""},
                    ExpectedRow{"<?xml version='1.0'?><a>&#1;</a>", Stance::reject, Stance::reject, ""}));

TEST(XmlVersions, AWrittenTextOfVersion11IsReadByEitherUnlessTheImplementationSays) {
    const Format& format = xml::format();
    const auto accepted = [&](const char* written, const Settings& settings) {
        return format.read(written, {format.reading_settings(settings), {}}).accepted();
    };
    EXPECT_TRUE(accepted(V11 "<a>&#1;</a>", {}));
    EXPECT_TRUE(accepted(V11 "<a>&#1;</a>", {{"xml-version", "1.1"}}));
    EXPECT_TRUE(accepted(V11 "<a>\xC2\x84</a>", {}));
    EXPECT_FALSE(accepted(V11 "<a>\xC2\x84</a>", {{"xml-version", "1.1"}}));
    EXPECT_FALSE(accepted("<a>&#1;</a>", {}));
    EXPECT_TRUE(accepted(V11 "<p:a xmlns:p='u'><b xmlns:p=''/></p:a>", {}));
    EXPECT_FALSE(accepted("<p:a xmlns:p='u'><b xmlns:p=''/></p:a>", {}));
}

}  // namespace
}  // namespace nachklang

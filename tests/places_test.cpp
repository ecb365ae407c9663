// Values compared place by place: which places differ, and what is there.
#include <gtest/gtest.h>

#include <nachklang/compare.hpp>

#include "judging.hpp"

namespace {

using namespace nachklang;

/// A value: a document that the reference reader reads, or a trace.
Trace value_of(const Format& format, std::string_view text, bool is_trace) {
    if (is_trace) return Trace::parse(std::string(text) + "\n").value();
    return format.read(text).trace;
}

/// "PATH: SHOWN@0,2 | absent@1; …"
std::string in_words(const std::vector<DifferingPlace>& places) {
    std::string out;
    for (const DifferingPlace& place : places) {
        out += (out.empty() ? "" : "; ") + place.path + (place.stored_only ? " stored:" : ":");
        for (const PlaceAnswer& answer : place.answers) {
            out += " " + (answer.absent ? "absent" : place.stored_only ? answer.stored : answer.shown) + "@";
            for (const std::size_t i : answer.values) out += std::to_string(i);
        }
        if (!place.not_reported.empty()) out += " not-reported@" + std::to_string(place.not_reported.front());
    }
    return out;
}

struct Row {
    const char *name, *format, *first, *second;
    const char* places;
    const char* lacks = "";
};
class Differing : public testing::TestWithParam<Row> {};
TEST_P(Differing, PlacesAreNamedWithWhatIsThere) {
    const Row& row = GetParam();
    const Format& format = *find_format(row.format);
    const bool of_json = std::string_view(row.format) == "json";
    const bool trace = of_json && std::string_view(row.second).find(' ') != std::string_view::npos;
    const Trace first = value_of(format, row.first, false), second = value_of(format, row.second, trace);
    CannotRepresent lacks;
    if (*row.lacks != '\0') lacks.emplace_back(row.lacks);
    EXPECT_EQ(in_words(differing_places(format, {{&first, {}, true}, {&second, lacks, !trace}})), row.places);
}
INSTANTIATE_TEST_SUITE_P(
    Json, Differing,
    testing::Values(Row{"equal", "json", R"({"a":[1,"x",null]})", R"({"a":[1,"x",null]})", ""},
                    Row{"spelling_is_no_difference", "json", "[10e-1,1.0]", "[1,1]", ""},
                    Row{"number", "json", R"({"a":[1,2]})", R"({"a":[1,3]})", "/a/1: 2@0 3@1"},
                    Row{"sign_of_zero", "json", "[-0]", "[0]", "/0: -0@0 0@1"},
                    Row{"kind", "json", R"({"a":1})", R"({"a":"1"})", "/a: 1@0 \"1\"@1"},
                    Row{"binary", "json", "[9007199254740993]", "[\nbinary64 4340000000000000\n]",
                        "/0: 9007199254740993@0 9007199254740992@1"},
                    Row{"missing_member", "json", R"({"a":1,"b":2})", R"({"b":2})", "/a: 1@0 absent@1"},
                    Row{"added_member", "json", R"({"b":2})", R"({"b":2,"c":3})", "/c: absent@0 3@1"},
                    Row{"twice", "json", R"({"a":1,"a":2})", R"({"a":2})", "/a: 1@0 2@1; /a#2: 2@0 absent@1"},
                    Row{"missing_container_once", "json", R"([{"a":[1,2]}])", "[]", "/0: object@0 absent@1"},
                    Row{"order", "json", R"({"a":1,"b":2})", R"({"b":2,"a":1})",
                        " (order of members): a, b@0 b, a@1"},
                    Row{"order_not_reported", "json", R"({"a":1,"b":2})", R"({"b":2,"a":1})", "", "order"},
                    Row{"escaped_token", "json", R"({"a/b~":1})", R"({"a/b~":2})", "/a~1b~0: 1@0 2@1"},
                    Row{"root", "json", "1", "2", ": 1@0 2@1"}),
    [](const auto& info) { return info.param.name; });
INSTANTIATE_TEST_SUITE_P(
    Xml, Differing,
    testing::Values(Row{"attribute", "xml", "<a><b c='1'/><b c='2'/></a>", "<a><b c='1'/><b c='3'/></a>",
                        "/a/b[2]/@c: \"2\"@0 \"3\"@1"},
                    Row{"text", "xml", "<a>x<b/>y</a>", "<a>x<b/>z</a>", "/a/text()[2]: \"y\"@0 \"z\"@1"},
                    Row{"sections_are_text", "xml", "<a>x<![CDATA[y]]></a>", "<a>xy</a>", ""},
                    Row{"missing_element_once", "xml", "<a><b><c/></b></a>", "<a/>", "/a/b: element@0 absent@1"},
                    Row{"namespace_name", "xml", "<a xmlns='u'/>", "<a xmlns='v'/>",
                        "/a namespace: u@0 v@1; /a/@xmlns: \"u\"@0 \"v\"@1"},
                    Row{"other_prefix", "xml", "<a xmlns:p='u' p:b='1'/>", "<a xmlns:q='u' q:b='1'/>",
                        "/a/@xmlns:q: absent@0 \"u\"@1; /a/@xmlns:p: \"u\"@0 absent@1"},
                    Row{"comments_not_reported", "xml", "<a><!--x--></a>", "<a/>", "", "comments"},
                    Row{"comment", "xml", "<a><!--x--></a>", "<a/>", "/a/comment(): \"x\"@0 absent@1"}),
    [](const auto& info) { return info.param.name; });

TEST(DifferingPlaces, OneValueStoredInDifferentWays) {
    const Format& json = *find_format("json");
    const Trace document = json.read("[1]").trace, integer = Trace::parse("[\nint 1\n]\n").value(),
                binary = Trace::parse("[\nbinary64 3ff0000000000000\n]\n").value();
    EXPECT_EQ(in_words(differing_places(json, {{&document, {}, true}, {&integer}, {&binary}, {&integer}})),
              "/0 stored: int@13 binary64@2");
}

TEST(DifferingPlaces, LargeValuesTakeTimeInProportion) {
    std::string text = "[0";
    for (int i = 1; i < 100000; ++i) text += "," + std::to_string(i);
    const Format& json = *find_format("json");
    const Trace first = json.read(text + "]").trace, second = json.read(text + ",7]").trace;
    EXPECT_EQ(in_words(differing_places(json, {{&first}, {&second}})), "/100000: absent@0 7@1");
}

}  // namespace

// Sheets and corpora: what they hold, what is wrong with them, and that the shipped ones hold.
#include <gtest/gtest.h>
#include <sys/stat.h>

#include <filesystem>
#include <fstream>
#include <map>
#include <sstream>

#include <nachklang/corpus.hpp>

#include "scratch.hpp"

namespace {

using namespace nachklang;
namespace fs = std::filesystem;

const std::string head = "[sheet]\nformat = \"json\"\naspect = \"test\"\nstandard = \"RFC 8259\"\n";

TEST(Sheets, BuildDocumentsFromRecipes) {
    const Scratch scratch;
    const auto cases = load_sheet(scratch.write("a.toml", head + R"(
[[case]]
id = "nest"
build = [["[", 3], ["1", 1], ["]", 3]]
stance = "accept"
clause = "5"
why = "three levels"
[[case]]
id = "count"
build = [["{", 1], { each = '"k%":%', from = 8, times = 3, between = "," }, ["}", 1]]
stance = "accept"
clause = "4"
why = "counting"
[[case]]
id = "bytes"
hex = "22 ff 22"
stance = "reject"
clause = "8.1"
why = "bytes"
)"),
                                  "mine");
    ASSERT_TRUE(cases.ok()) << cases.problem().line();
    EXPECT_EQ(*cases.value()[0].document, "[[[1]]]");
    EXPECT_EQ(*cases.value()[1].document, R"({"k8":8,"k9":9,"k10":10})");
    EXPECT_EQ(*cases.value()[2].document, "\"\xFF\"");
    EXPECT_EQ(cases.value()[0].name, "test/nest");
    EXPECT_EQ(cases.value()[0].clause, "RFC 8259, 5");
}

TEST(Sheets, GiveAnswersInFourWays) {
    const Scratch scratch;
    const auto cases = load_sheet(scratch.write("a.toml", head + R"(
[[question]]
id = "tower"
answers = ["north", "south", "east", "west", "refused"]
unlisted = "shown"
[[case]]
id = "ways"
text = '[1]'
stance = "open"
question = "tower"
answers = { north = '[2]', south = { trace = "null" }, east = { bytes = "5b 5d" }, west = { as = "read" } }
clause = "5"
why = "four ways"
)"),
                                  "mine");
    ASSERT_TRUE(cases.ok()) << cases.problem().line();
    const Case& c = cases.value()[0];
    EXPECT_FALSE(c.unlisted_is_altered);
    ASSERT_EQ(c.answers.size(), 5U);
    std::map<std::string, std::string> stored;
    for (const Answer& a : c.answers) stored[a.name] = a.trace ? a.trace->text() : "refused";
    EXPECT_EQ(stored["north"], "[\nspelled u8:32\n]\n");
    EXPECT_EQ(stored["south"], "null\n");
    EXPECT_EQ(stored["east"], "[\n]\n");
    EXPECT_EQ(stored["west"], "[\nspelled u8:31\n]\n");
    EXPECT_EQ(stored["refused"], "refused");
}

struct BadSheet {
    const char* name;
    std::string text, problem;  // the problem's line after the file's name
};
class MalformedSheet : public testing::TestWithParam<BadSheet> {};

TEST_P(MalformedSheet, IsReportedInOneLine) {
    const Scratch scratch;
    const std::string file = scratch.write("a.toml", GetParam().text);
    const auto cases = load_sheet(file, "mine");
    ASSERT_FALSE(cases.ok());
    const std::string line = cases.problem().line();
    ASSERT_TRUE(line.starts_with(file)) << line;
    EXPECT_EQ(line.substr(file.size()), GetParam().problem);
}

const std::string one = "[[case]]\nid = \"x\"\nwhy = \"y\"\n";
INSTANTIATE_TEST_SUITE_P(
    Rows, MalformedSheet,
    testing::Values(
        BadSheet{"no_head", "x = 1\n",
                 ":1: a sheet must begin with [sheet]; add [sheet] with format, aspect and standard"},
        BadSheet{"format", "[sheet]\nformat = \"bells\"\naspect = \"a\"\nstandard = \"s\"\n",
                 ":1: unknown format 'bells'; use one of json, xml"},
        BadSheet{"no_cases", head, ":1: a sheet without cases; add [[case]] tables"},
        BadSheet{"key", head + one + "text = '1'\nexpect = 1\n",
                 ":9: unknown key 'expect'; see docs/sheets.md for the keys of a sheet"},
        BadSheet{"no_document", head + one,
                 ":5: test/x needs exactly one of text, hex, file, build and value; keep one of them"},
        BadSheet{"two_documents", head + one + "text = '1'\nhex = '31'\n",
                 ":5: test/x needs exactly one of text, hex, file, build and value; keep one of them"},
        BadSheet{"hex", head + one + "hex = '3'\n",
                 ":5: 'hex' must be a string of hexadecimal digits; write two digits a byte"},
        BadSheet{"stance", head + one + "text = '1'\nstance = 'maybe'\n",
                 ":5: unknown stance 'maybe'; use accept, reject or open"},
        BadSheet{"trace", head + one + "text = '1'\ntrace = 'int x'\n",
                 ":5: line 1 of a trace: 'int' is followed by [-]DIGITS; see docs/trace.md"},
        BadSheet{"question", head + one + "text = '1'\nquestion = 'bells'\n",
                 ":5: unknown question 'bells'; declare it with [[question]] or use one of the format's"},
        BadSheet{"answer", head + one + "text = '1'\nquestion = 'depth'\nanswers = { deep = '1' }\n",
                 ":10: 'deep' is not an answer to depth; list it among the question's answers"},
        BadSheet{"twice", head + one + "text = '1'\n" + one + "text = '2'\n",
                 ":9: the id test/x is used twice; give each case its own id"},
        BadSheet{"recipe", head + one + "build = [['[']]\n",
                 ":8: a step of 'build' must be [TEXT, TIMES]; write such as [\"[\", 5000]"},
        BadSheet{"large_recipe", head + one + "build = [['[', 9999999999]]\n",
                 ":8: the recipe builds more than 256 MB; build a smaller document"},
        BadSheet{"reads_another_word", head + one + "text = '1'\nexternal_file = 'a.toml'\nreads = 'some'\n",
                 ":5: unknown value 'some' for `reads`; use none or external"},
        BadSheet{"reads_without_file", head + one + "text = '1'\nreads = 'none'\n",
                 ":5: `reads` needs an external file; name it with 'external_file'"},
        BadSheet{"outside", head + one + "file = '../x'\n",
                 ":5: the file is outside the sheet's folder; move it into the sheet's folder"},
        BadSheet{"no_table", "case = [1]\n" + head,
                 ":1: an entry of this list is not a table; write [[case]] or [[question]] tables"}),
    [](const auto& info) { return info.param.name; });

TEST(Sheets, TomlErrorsHaveTheirPlace) {
    const Scratch scratch;
    const std::string file = scratch.write("a.toml", "[sheet\n");
    const auto cases = load_sheet(file, "mine");
    ASSERT_FALSE(cases.ok());
    EXPECT_TRUE(cases.problem().where.starts_with(file + ":1:")) << cases.problem().line();
}

TEST(Corpora, TakeDocumentFilesByRules) {
    const Scratch scratch;
    scratch.write("good/a.json", "[1]");
    scratch.write("broken/b.json", "[1");
    scratch.write("other/c.json", "[2]");
    scratch.write("d.xml", "<a/>");
    const auto corpus = load_corpus(scratch.path(), {{"good/**", Stance::accept}, {"broken/**", Stance::reject}});
    ASSERT_TRUE(corpus.ok());
    std::map<std::string, std::string> stances;
    for (const Case& c : corpus.value().cases)
        stances[c.name] = std::string(c.format->name()) + " " + (c.stance ? std::string(name_of(*c.stance)) : "-");
    EXPECT_EQ(stances, (std::map<std::string, std::string>{{"broken/b.json", "json reject"},
                                                           {"d.xml", "xml -"},
                                                           {"good/a.json", "json accept"},
                                                           {"other/c.json", "json -"}}));
}

TEST(Corpora, MissingFoldersAreProblems) {
    const auto corpus = load_corpus("/no/such/tower");
    ASSERT_FALSE(corpus.ok());
    EXPECT_EQ(corpus.problem().line(), "/no/such/tower: is not a folder; name a folder of sheets and documents");
}

TEST(Globs, MatchAsPeopleExpect) {
    EXPECT_TRUE(matches_glob("numbers/*", "numbers/tenth"));
    EXPECT_FALSE(matches_glob("numbers/*", "numbers/a/b"));
    EXPECT_TRUE(matches_glob("good/**", "good/a/b.json"));
    EXPECT_TRUE(matches_glob("**/b.json", "good/a/b.json"));
    EXPECT_TRUE(matches_glob("**/b.json", "b.json"));
    EXPECT_TRUE(matches_glob("a?c", "abc"));
    EXPECT_FALSE(matches_glob("a?c", "a/c"));
    EXPECT_FALSE(matches_glob("rapid", "rapidjson"));
    EXPECT_TRUE(matches_glob("*", ""));
    EXPECT_FALSE(matches_glob(std::string(40, '*') + "x", std::string(4000, 'a')));
}

TEST(Checks, FindWhatContradictsTheReader) {
    Case c = case_of_document("mine", "x", *find_format("json"), "[1]");
    c.why = "a sheet's";
    c.clause = "5";
    c.stance = Stance::reject;
    ASSERT_EQ(check_case(c).size(), 1U);
    EXPECT_EQ(check_case(c)[0].what, "x: the sheet says reject, the reference reader says accept");
    c.stance = Stance::accept;
    EXPECT_TRUE(check_case(c).empty());
    c.expected = Trace::parse("[\nint 2\n]\n");
    ASSERT_EQ(check_case(c).size(), 1U);
    c.expected = Trace::parse("[\nbinary64 3ff0000000000000\n]\n");
    EXPECT_TRUE(check_case(c).empty());
    c.stance = Stance::open;
    c.question = "depth";
    EXPECT_EQ(check_case(c).at(0).what, "x: the document does not raise the question depth");
}

class ShippedCorpus : public testing::TestWithParam<const char*> {};
TEST_P(ShippedCorpus, AgreesWithTheReferenceReader) {
    const auto corpus = load_corpus(std::string(SOURCE_FOLDER "/corpora/") + GetParam());
    ASSERT_TRUE(corpus.ok()) << corpus.problem().line();
    std::map<std::string, std::size_t> by_aspect;
    std::size_t by_hand = 0;
    for (const Case& c : corpus.value().cases) {
        ++by_aspect[c.aspect];
        if (c.expected || c.value) ++by_hand;
        for (const Problem& problem : check_case(c)) ADD_FAILURE() << problem.line();
    }
    for (const auto& [aspect, count] : by_aspect) EXPECT_GE(count, 20U) << aspect;
    EXPECT_GE(3 * by_hand, corpus.value().cases.size());
}
// Where an answer says what a decoder holds that opens the file, the reference reader that opens it holds the same.
TEST(OutsideCases, AreReadAsTheirAnswersSay) {
    const auto sheet = load_sheet(SOURCE_FOLDER "/corpora/xml/outside.toml", "xml");
    ASSERT_TRUE(sheet.ok()) << sheet.problem().line();
    const Fetch files = files_below(SOURCE_FOLDER "/corpora/xml/outside", SOURCE_FOLDER "/corpora/xml/outside");
    std::size_t read = 0, refused = 0;
    for (const Case& c : sheet.value()) {
        const Reading reading = c.format->read(*c.document, {{}, files});
        const auto answer =
            std::find_if(c.answers.begin(), c.answers.end(), [](const Answer& a) { return a.name == "read"; });
        if (answer == c.answers.end()) {
            EXPECT_EQ(reading.accepted(), c.stance == Stance::accept) << c.name;
            ++refused;
            continue;
        }
        ++read;
        ASSERT_TRUE(reading.accepted()) << c.name << ": " << reading.rejection->message;
        EXPECT_TRUE(c.format->compare(*answer->trace, reading.trace).differences.empty())
            << c.name << ": " << c.format->describe(reading.trace, 200);
    }
    EXPECT_GE(read, 12U);
    EXPECT_GE(refused, 8U);
}

TEST(Sheets, NameFilesBesideThem) {
    const Scratch scratch;
    scratch.write("struck/mark x.ent", "mark");
    const std::string sheet = R"([sheet]
format = "xml"
aspect = "test"
standard = "XML 1.0"
[[case]]
id = "a"
text = "<!DOCTYPE a [<!ENTITY e SYSTEM '{external_file}'>]><a/>"
external_file = ")";
    const std::string rest = "\"\nstance = \"accept\"\nclause = \"4.2.2\"\nwhy = \"x\"\n";
    scratch.write("a.toml", sheet + "struck/mark x.ent" + rest);
    const auto corpus = load_corpus(scratch.path());
    ASSERT_TRUE(corpus.ok()) << corpus.problem().line();
    ASSERT_EQ(corpus.value().cases.size(), 1U) << "what is beside is no document";
    EXPECT_NE(corpus.value().cases[0].document->find("struck/mark%20x.ent'"), std::string::npos);
    for (const char* wrong : {"struck/none.ent", "../x", "struck"})
        EXPECT_FALSE(load_sheet(scratch.write("b.toml", sheet + wrong + rest), "x").ok()) << wrong;
}

TEST(Cases, AreShownWithTheCommandThatRepeatsThem) {
    const auto shown = [](const Case& c) {
        std::ostringstream out;
        out << c;
        return out.str();
    };
    Case c = case_of_document("json", "names/bell", *find_format("json"), "[\"\x1B\"]");
    c.source = "/corpora/names.toml:3";
    EXPECT_EQ(shown(c), "names/bell: [\"\\u001b\"]; nachklang try --case names/bell");
    c.source = "-bell's.json";
    EXPECT_EQ(repeat_command(c), "nachklang try './-bell'\\''s.json'");
    c.document.reset();
    c.value = Trace::parse("int 1\n");
    EXPECT_TRUE(shown(c).starts_with("names/bell: the value 1")) << shown(c);
}

TEST(Corpora, KnowTheFormatOfAFileOfAnyNameByWhatItHolds) {
    const Scratch scratch;
    scratch.write("README", "<a/>\n");
    scratch.write("bell", "{\"weight_kg\":1}");
    scratch.write("odd.json", "<a/>");
    const auto corpus = load_corpus(scratch.path());
    ASSERT_TRUE(corpus.ok()) << corpus.problem().line();
    std::map<std::string, std::string> formats;
    for (const Case& c : corpus.value().cases) formats[c.name] = c.format->name();
    EXPECT_EQ(formats,
              (std::map<std::string, std::string>{{"README", "xml"}, {"bell", "json"}, {"odd.json", "json"}}));
}

TEST(Corpora, NameWhatIsNoFile) {
    const Scratch scratch;
    scratch.write("bell.json", "[1]");
    const std::filesystem::path folder = scratch.path();
    std::filesystem::create_directory(folder / "tower");
    ASSERT_EQ(::mkfifo((folder / "pipe").c_str(), 0600), 0);
    std::filesystem::create_symlink(folder / "none", folder / "gone");
    std::filesystem::create_symlink(folder / "itself", folder / "itself");
    std::filesystem::create_symlink("/dev/zero", folder / "zero");
    std::filesystem::create_directory_symlink(folder, folder / "back");
    const auto corpus = load_corpus(scratch.path());
    ASSERT_TRUE(corpus.ok()) << corpus.problem().line();
    EXPECT_EQ(corpus.value().cases.size(), 1U);
    const std::string at = scratch.path() + "/";
    EXPECT_EQ(corpus.value().skipped,
              (std::vector<std::pair<std::string, std::string>>{{at + "back", "a link to a folder"},
                                                                {at + "gone", "a link that leads to no file"},
                                                                {at + "itself", "a link that leads to no file"},
                                                                {at + "pipe", "a named pipe"},
                                                                {at + "zero", "a device"}}));
    EXPECT_EQ(read_file(at + "zero").problem().what, "is longer than 1 GiB");
}

struct NamedFile {
    const char* system_id;
    const char* base;
    const char* bytes;  ///< nullptr: not read
};

TEST(Files, AreReadBelowTheirFolderOnly) {
    const Scratch scratch;
    scratch.write("in/a b.ent", "one");
    scratch.write("in/deep/c.ent", "two");
    scratch.write("out.ent", "secret");
    fs::create_symlink(scratch.path() + "/out.ent", scratch.path() + "/in/link.ent");
    const std::string in = scratch.path() + "/in";
    const Fetch fetch = files_below(in, in + "/deep");
    const std::string url = file_url(in + "/a b.ent"), secret = file_url(scratch.path() + "/out.ent");
    EXPECT_TRUE(url.starts_with("file:///") && url.ends_with("/in/a%20b.ent")) << url;
    const std::string deep = in + "/deep";
    for (const NamedFile& row :
         {NamedFile{"c.ent", "", "two"}, NamedFile{"../a b.ent", "", "one"}, NamedFile{url.c_str(), "", "one"},
          NamedFile{"c.ent", deep.c_str(), "two"}, NamedFile{"a b.ent", in.c_str(), "one"},
          NamedFile{"../../out.ent", "", nullptr}, NamedFile{"../link.ent", "", nullptr},
          NamedFile{secret.c_str(), "", nullptr}, NamedFile{"none.ent", "", nullptr}, NamedFile{".", "", nullptr},
          NamedFile{"http://halm.example/c.ent", "", nullptr}, NamedFile{"", "", nullptr},
          NamedFile{"file:///%2e%2e/%zz", "", nullptr}}) {
        const auto found = fetch(row.system_id, row.base);
        ASSERT_EQ(found.has_value(), row.bytes != nullptr) << row.system_id;
        if (found) {
            EXPECT_EQ(found->bytes, row.bytes) << row.system_id;
        }
    }
    EXPECT_EQ(fetch("../a b.ent", "")->base, fs::weakly_canonical(in).string())
        << "what relative names are relative to";
}

struct ReadsRow {
    const char* reads;
    const char* external;   ///< the adapter's setting; nullptr: none given
    const char* not_asked;  ///< a piece of the reason; nullptr: asked
};

// The right answer depends on external access: only implementations with the case's access are asked.
TEST(Sheets, AskOnlyTheOperationsThatACaseNames) {
    const Scratch scratch;
    scratch.write("beside/e.ent", "<b>");
    scratch.write("beside/s.dtd", "<!ATTLIST a b CDATA 'c'>");
    const auto loaded = [&](const std::string& document, const std::string& beside, const std::string& reads) {
        const std::string text =
            "[sheet]\nformat = \"xml\"\naspect = \"test\"\nstandard = \"XML 1.0\"\n[[case]]\nid = \"a\"\ntext = "
            "\"" +
            document + "\"\nexternal_file = \"beside/" + beside + "\"\nreads = \"" + reads +
            "\"\nclause = \"5.1\"\nwhy = \"x\"\n";
        auto sheet = load_sheet(scratch.write("a.toml", text), "x");
        EXPECT_TRUE(sheet.ok()) << sheet.problem().line();
        return sheet.value().at(0);
    };
    const std::string entity = "<!DOCTYPE a [<!ENTITY e SYSTEM '{external_file}'>]><a>&e;</a>";
    const std::string subset = "<!DOCTYPE a SYSTEM '{external_file}'><a/>";
    constexpr ReadsRow rows[] = {{"external", "files", nullptr},
                                 {"external", "entities", nullptr},
                                 {"external", "none", "reads no external"},
                                 {"external", "empty", "reads no external"},
                                 {"external", nullptr, "reads no external"},
                                 {"none", "files", "reads external entities"},
                                 {"none", "entities", "reads external entities"},
                                 {"none", "empty", "as empty"},
                                 {"none", "none", nullptr},
                                 {"none", nullptr, nullptr}};
    for (const ReadsRow& row : rows) {
        const std::string shown = std::string(row.reads) + " " + (row.external != nullptr ? row.external : "-");
        const Case c = loaded(entity, "e.ent", row.reads);
        const Settings settings = row.external != nullptr ? Settings{{"external", row.external}} : Settings{};
        const Expectation expectation = expectation_of(c, settings);
        EXPECT_EQ(expectation.not_asked.empty(), row.not_asked == nullptr)
            << shown << ": " << expectation.not_asked;
        if (row.not_asked != nullptr) {
            EXPECT_NE(expectation.not_asked.find(row.not_asked), std::string::npos) << expectation.not_asked;
            continue;
        }
        const bool reads = std::string_view(row.reads) == "external";
        EXPECT_EQ(expectation.stance, reads ? Stance::reject : Stance::accept) << shown;
        if (!reads) {
            EXPECT_EQ(c.format->describe(*expectation.value, 100), "<a>&e;</a>");
        }
    }
    const Case whole = loaded(subset, "s.dtd", "external");
    EXPECT_EQ(whole.format->describe(*expectation_of(whole, {{"external", "files"}}).value, 100),
              "<a b=\"c\"></a>");
    EXPECT_EQ(expectation_of(whole, {{"external", "entities"}}).not_asked, "its adapter reads no external subset");
}

INSTANTIATE_TEST_SUITE_P(All, ShippedCorpus, testing::Values("json", "xml"));

}  // namespace

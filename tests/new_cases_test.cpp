// New cases: what is added to a sheet, and what folders, tables and lines of JSON become.
#include <nachklang/corpus.hpp>
#include <nachklang/new_cases.hpp>

#include "tool_fixture.hpp"

namespace {

using namespace nachklang;
using tool_test::Called;
using tool_test::slurp;

// Any document comes back from the sheet as it went in.
TEST(NewCases, KeepAnyDocument) {
    const Format& json = *find_format("json");
    const std::string documents[] = {"",
                                     "[1]",
                                     "'",
                                     "\"\\u0000\"",
                                     "a\"b\\c'd",
                                     std::string("\0\x01\x1f\x7f\t\r\n", 7),
                                     "\xff\xfe",
                                     "\xe2\x80\xa8\xf0\x9f\x94\x94\xef\xbf\xbe",
                                     "[\n1,\n2\n]\n",
                                     "'''\"\"\"'\\",
                                     "\xed\xa0\x80"};
    std::string sheet = sheet_head(json, "it's", "RFC 8259");
    for (std::size_t i = 0; i < std::size(documents); ++i)
        sheet += sheet_entry({.id = std::to_string(i), .document = documents[i], .why = "tab\tand 'quote'"});
    const Scratch scratch;
    const auto loaded = load_sheet(scratch.write("sheet.toml", sheet), "mine");
    ASSERT_TRUE(loaded.ok()) << loaded.problem().line();
    ASSERT_EQ(loaded.value().size(), std::size(documents));
    for (std::size_t i = 0; i < std::size(documents); ++i) {
        EXPECT_EQ(*loaded.value()[i].document, documents[i]);
        EXPECT_EQ(loaded.value()[i].name, fmt::format("it's/{}", i));
        EXPECT_EQ(loaded.value()[i].why, "tab\tand 'quote'");
    }
}

struct TableRow {
    const char* name;
    const char* text;
    std::vector<std::string> cases;    ///< "id|document|stance"
    std::vector<std::string> skipped;  ///< after the file's name
};
class Tables : public testing::TestWithParam<TableRow> {};
TEST_P(Tables, AreReadAsTheirRecordsSay) {
    const Scratch scratch;
    const std::string file = scratch.write("index.csv", GetParam().text);
    scratch.write("bell.json", "[\"bell\"]");
    const auto found = import_table(file, {});
    ASSERT_TRUE(found.ok()) << found.problem().line();
    std::vector<std::string> cases, skipped;
    for (const NewCase& c : found.value().cases)
        cases.push_back(fmt::format("{}|{}|{}", c.id, c.document, c.stance ? name_of(*c.stance) : "-"));
    for (const auto& [where, why] : found.value().skipped)
        skipped.push_back(where.substr(file.size()) + ": " + why);
    EXPECT_EQ(cases, GetParam().cases);
    EXPECT_EQ(skipped, GetParam().skipped);
}
INSTANTIATE_TEST_SUITE_P(
    Rows, Tables,
    testing::Values(
        TableRow{"documents",
                 "case,document,stance\na,[1],accept\nb,[,reject\nc,[2],\n",
                 {"a|[1]|accept", "b|[|reject", "c|[2]|-"},
                 {}},
        TableRow{"quotes", "document,case\r\n\"[\"\"x\"\",\r\n1]\",a\r\n\"\",b", {"a|[\"x\",\r\n1]|-", "b||-"}, {}},
        TableRow{"files",
                 "file,stance\nbell.json,open\nno.json,open\n",
                 {"bell.json|[\"bell\"]|open"},
                 {": record 3: no.json: No such file or directory"}},
        TableRow{"hex",
                 "case,document_hex\na,5b5d\nb,5b5\n",
                 {"a|[]|-"},
                 {": record 3: 'document_hex' holds no hexadecimal digits"}},
        TableRow{"one_id_for_two", "case,document\na b,1\na b,2\n*?,3\n", {"a-b|1|-", "a-b-2|2|-", "--|3|-"}, {}},
        TableRow{
            "unknown_stance", "case,document,stance\na,1,valid\n", {}, {": record 2: 'valid' means no stance"}},
        TableRow{"fields_missing", "case,document\na\n\nb,1\n", {"b|1|-"}, {": record 2: 1 fields in place of 2"}}),
    [](const auto& row) { return row.param.name; });

class Import : public tool_test::Tool {};

TEST_F(Import, AddsACaseAndKeepsTheSheet) {
    const std::string sheet =
        "# our bells\n[sheet]\nformat = \"json\"\naspect = \"bells\"\nstandard = \"RFC 8259\"\n\n"
        "[[case]]  # the first\nid = \"one\"\ntext = '[1]'\nwhy = 'a bell'";
    write("ours.toml", sheet);
    const Called r =
        run("corpus add ours.toml - --id two --why 'a second bell' --stance accept --clause 6", "[2.50]");
    ASSERT_EQ(r.status, 0) << r.err;
    EXPECT_EQ(slurp(folder_ / "ours.toml"),
              sheet +
                  "\n\n[[case]]\nid       = 'two'\ntext     = '[2.50]'\nstance   = 'accept'\nclause   = '6'\n"
                  "why      = 'a second bell'\n");
    const auto refused = [&](const std::string& arguments, const std::string& document, const std::string& words) {
        const std::string before = slurp(folder_ / "ours.toml");
        const Called called = run("corpus add " + arguments, document);
        EXPECT_EQ(called.status, 2) << arguments;
        EXPECT_NE(called.err.find(words), std::string::npos) << called.err;
        EXPECT_EQ(slurp(folder_ / "ours.toml"), before);
        EXPECT_FALSE(std::filesystem::exists(folder_ / "ours.toml.new"));
    };
    refused("ours.toml - --id three --why x", "[2.50]", "ours.toml: holds this document as bells/two");
    refused("ours.toml - --id two --why x", "[3]", "the id bells/two is used twice");
    refused("ours.toml - --id four --why x --question bells", "[3]", "unknown question 'bells'");
    refused("nowhere/new.toml - --id four --why x", "[3]", "nowhere/new.toml");
    const Called by_reader = run("corpus add ours.toml - --id none --why x", "[,]");
    EXPECT_EQ(by_reader.status, 0);
    EXPECT_NE(slurp(folder_ / "ours.toml").find("text     = '[,]'\nstance   = 'reject'\nclause   = 'RFC 8259, 5'"),
              std::string::npos)
        << slurp(folder_ / "ours.toml");
    const Called wrong = run("corpus add ours.toml - --id five --why x --stance accept", "[,,]");
    EXPECT_EQ(wrong.status, 0);
    EXPECT_NE(wrong.err.find("warning: "), std::string::npos) << "the reference reader refuses it";
    const Called fresh = run("corpus add fresh.toml - --id one --why x", "<a/>");
    EXPECT_EQ(fresh.status, 0) << fresh.err;
    EXPECT_NE(slurp(folder_ / "fresh.toml").find("format   = 'xml'\naspect   = 'fresh'\nstandard = 'XML 1.0'"),
              std::string::npos)
        << slurp(folder_ / "fresh.toml");
}

TEST_F(Import, TakesFoldersByRules) {
    for (const char* folder : {"found/good", "found/bad/deep"})
        std::filesystem::create_directories(folder_ / folder);
    write("found/good/a.json", "[1]");
    write("found/bad/deep/b.json", "[");
    write("found/c.json", "{}");
    const Called r = run("corpus import found --sheet all.toml --rule 'good/**=accept' --rule 'bad/**=reject'");
    EXPECT_EQ(r.status, 0) << r.err;
    EXPECT_EQ(r.out,
              "wrote all.toml: 3 cases (1 accept, 1 reject, 0 open, 1 by the reference reader); 0 skipped; 0 "
              "contradict the reference reader\n");
    const Called again = run("corpus import found --sheet all.toml");
    EXPECT_EQ(again.status, 2);
    EXPECT_NE(again.err.find("all.toml: is there already"), std::string::npos) << again.err;
    const Called contradicted = run("corpus import found --sheet other.toml --rule '**=accept'");
    EXPECT_EQ(contradicted.status, 1);
    EXPECT_NE(contradicted.out.find("1 contradict"), std::string::npos) << contradicted.out;
    write("found/d.xml", "<a/>");
    EXPECT_NE(run("corpus import found --sheet third.toml").err.find("d.xml: is xml, and cases before it are json"),
              std::string::npos);
}

TEST_F(Import, TakesIndexesByTheirColumns) {
    write("a.json", "[1]");
    write("index.csv", "name,path,result\nfirst,a.json,valid\nsecond,a.json,odd\n");
    const std::string call =
        "corpus import index.csv --sheet s.toml --column id=name --column file=path "
        "--column stance=result --stance-word valid=accept";
    const Called r = run(call);
    EXPECT_EQ(r.status, 0) << r.err;
    EXPECT_NE(r.err.find("skipped: index.csv: record 3: 'odd' means no stance"), std::string::npos) << r.err;
    EXPECT_NE(slurp(folder_ / "s.toml").find("id       = 'first'\ntext     = '[1]'\nstance   = 'accept'"),
              std::string::npos);
    for (const char* wrong : {"--column bells=x", "--column file", "--stance-word x=y", "--rule '*=accept'"})
        EXPECT_EQ(run(fmt::format("corpus import index.csv --sheet t.toml {}", wrong)).status, 2) << wrong;
}

// What is exported can be imported: the same documents with the same stances.
TEST_F(Import, ReadsWhatExportWrites) {
    ASSERT_EQ(
        shell(BUILD_FOLDER
              "/nachklang corpus export json --aspect names --aspect structure --aspect records > cases.jsonl")
            .status,
        0);
    const Called r = run("corpus import cases.jsonl --sheet back.toml");
    EXPECT_EQ(r.status, 0) << r.err;
    const auto before = load_sheet(folder_ / "back.toml", "x");
    ASSERT_TRUE(before.ok());
    EXPECT_GT(before.value().size(), 50U);
    std::istringstream lines(slurp(folder_ / "cases.jsonl"));
    std::size_t documents = 0;
    for (std::string line; std::getline(lines, line);)
        documents +=
            line.find("\"encode\":") == std::string::npos && line.find("\"record\":") == std::string::npos ? 1 : 0;
    EXPECT_EQ(before.value().size(), documents);
}

TEST_F(Import, WritesAFolderForRunnersWithoutAReader) {
    ASSERT_EQ(run("corpus export json --aspect names --folder cases").status, 0);
    const std::string index = slurp(folder_ / "cases/index.tsv");
    EXPECT_TRUE(index.starts_with("case\tstance\tfile\tvalue\tclause\n"));
    std::istringstream lines(index.substr(index.find('\n') + 1));
    std::size_t count = 0;
    for (std::string line; std::getline(lines, line); ++count) {
        std::istringstream fields(line);
        std::string name, stance, file;
        std::getline(fields, name, '\t');
        std::getline(fields, stance, '\t');
        std::getline(fields, file, '\t');
        EXPECT_TRUE(std::filesystem::is_regular_file(folder_ / "cases" / file)) << line;
        EXPECT_TRUE(find_stance(stance)) << line;
    }
    EXPECT_GT(count, 50U);
    EXPECT_EQ(run("corpus export json --folder cases").status, 2) << "it is there already";
}

TEST_F(Import, ChecksForCasesThatAreTheSame) {
    std::filesystem::create_directories(folder_ / "mine");
    const std::string head = sheet_head(*find_format("json"), "bells", "RFC 8259");
    write("mine/a.toml",
          head + sheet_entry({.id = "a", .document = "[1]", .stance = Stance::accept, .clause = "5", .why = "x"}) +
              sheet_entry({.id = "b", .document = "[2]", .stance = Stance::accept, .clause = "5", .why = "x"}));
    EXPECT_EQ(run("corpus check mine").status, 0);
    write("mine/b.toml",
          head + sheet_entry({.id = "c", .document = "[2]", .stance = Stance::accept, .clause = "5", .why = "x"}));
    const Called r = run("corpus check mine");
    EXPECT_EQ(r.status, 1);
    EXPECT_NE(r.err.find("bells/c has the document of bells/b; remove one of them"), std::string::npos) << r.err;
}

}  // namespace

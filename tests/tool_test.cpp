// The tool as a user calls it: statuses, problems, files, `read`, `corpus` and `implementations`.
#include <gtest/gtest.h>

#include <fmt/format.h>

#include "tool_fixture.hpp"

namespace {

using namespace tool_test;

TEST_F(Tool, ReadReportsTheFirstErrorAndEndsWithOne) {
    const Called r = run("read -", R"({"hum_hz": 0.1e, "x":1})");
    EXPECT_EQ(r.status, 1);
    EXPECT_EQ(r.err, "offset 15 line 1 column 16: expected a digit of the exponent, found ',' [RFC 8259, 6]\n");
    EXPECT_EQ(r.out, "");
}

TEST_F(Tool, ReadShowsTreesAndTraces) {
    const std::string file = write("bell.json", R"({"name":"Hour","hz":[110.50]})");
    EXPECT_EQ(run("read bell.json --as trace").out,
              "{\nkey u8:6e616d65\nstr u8:486f7572\nkey u8:687a\n[\nspelled u8:3131302e3530\n]\n}\n");
    const Called tree = run("read bell.json");
    EXPECT_EQ(tree.status, 0);
    EXPECT_NE(tree.out.find("110.50 (as written)"), std::string::npos);
    EXPECT_EQ(run("read --as trace -", "<a>x</a>").out, "elem u8:61 u8:61 u8:\ntext u8:78\nend\n");
    EXPECT_EQ(run("read --format json -", "<a/>").status, 1);
    EXPECT_EQ(run("read --as canonical -", R"({"cast":1721.0, "bell":"Hour"})").out,
              R"({"bell":"Hour","cast":1721})");
    const Called twice = run("read --as canonical -", "{\"bell\":1,\n\"bell\":2}");
    EXPECT_EQ(twice.status, 1);
    EXPECT_EQ(twice.err, "offset 11 line 2 column 1: the object already has this name [RFC 8785, 3.1]\n");
}

TEST_F(Tool, ReadQuietlySaysTheVerdictOnly) {
    EXPECT_EQ(run("read --quiet -", "[1,2]").status, 0);
    const Called r = run("read --quiet -", "[1,2");
    EXPECT_EQ(r.status, 1);
    EXPECT_EQ(r.err,
              "offset 4 line 1 column 5: expected ',' or ']', found the end of the document [RFC 8259, 5]\n");
}

TEST_F(Tool, NothingFromADocumentReachesTheTerminalRaw) {
    const Called r = run("read -", "[\"\\u001b[31m\",\"a\xE2\x80\xAE\"]");
    EXPECT_EQ(r.out.find('\x1B'), std::string::npos);
    EXPECT_EQ(r.out.find("\xE2\x80\xAE"), std::string::npos);
    EXPECT_NE(r.out.find("\\u001b[31m"), std::string::npos);
}

struct WrongCall {
    const char* name;
    std::string arguments, message;
};
class WrongCalls : public Tool, public testing::WithParamInterface<WrongCall> {};

TEST_P(WrongCalls, GetOneLineAndStatusTwo) {
    write("bad.toml", "[[implementation]\n");
    write("gone.toml",
          "[[implementation]]\nname = \"tower\"\ncommand = [\"/no/such/adapter\"]\nformats = [\"json\"]\n");
    write("bad-sheet.toml", "x = 1\n");
    write("bell.json", "[1721]");
    write("bell.xml", "<bell/>");
    configuration({"sound"});
    write("verdicts.toml",
          "[[implementation]]\nname = \"exits\"\ncommand = [\"/bin/true\", \"{file}\"]\nreach = "
          "\"verdict\"\nformats = [\"json\"]\n");
    fs::create_directories(folder_ / "sheets");
    fs::create_directories(folder_ / "empty");
    fs::copy(folder_ / "bad-sheet.toml", folder_ / "sheets/bad.toml");
    const Called r = run(GetParam().arguments);
    EXPECT_EQ(r.status, 2);
    EXPECT_EQ(r.out, "");
    EXPECT_EQ(r.err, "nachklang: " + GetParam().message + "\n");
}

INSTANTIATE_TEST_SUITE_P(
    Rows, WrongCalls,
    testing::Values(
        WrongCall{"no_file", "read tower.json",
                  "tower.json: No such file or directory; name a file that can be read, or - for standard input"},
        WrongCall{"folder", "read .", ".: Is a directory; name a file that can be read, or - for standard input"},
        WrongCall{"view", "read --as bells -", "--as: 'bells' is not a view; use tree, trace or canonical"},
        WrongCall{"format", "read --format bells -", "--format: unknown format 'bells'; use json or xml"},
        WrongCall{"configuration", "run --config bad.toml",
                  "bad.toml:1:18: Error while parsing table header: expected ']', saw '\\n'; correct the TOML"},
        WrongCall{"no_configuration", "run --config none.toml",
                  "none.toml: No such file or directory; name a file that can be read"},
        WrongCall{"command", "run --config gone.toml",
                  "gone.toml:1: the command of tower cannot be run: /no/such/adapter does not exist or is not "
                  "executable; correct 'command' or install it"},
        WrongCall{"implementation", "run json --implementation tower",
                  "--implementation: 'tower' is not installed; `nachklang implementations` lists the installed "
                  "ones and what installs the others"},
        WrongCall{"case", "run json --case 'bells/*'",
                  "--case: 'bells/*' matches no name; `nachklang corpus list` lists the names"},
        WrongCall{"one_of_two_cases", "run json --case 'numbers/*' --case bells",
                  "--case: 'bells' matches no name; `nachklang corpus list` lists the names"},
        WrongCall{"aspect", "corpus list json --aspect stirngs",
                  "--aspect: 'stirngs' matches no name; `nachklang corpus list` lists the names"},
        WrongCall{
            "no_case_of_all", "corpus list json --aspect numbers --case 'strings/*'",
            "--aspect, --case, --format: no case matches all of these filters; `nachklang corpus list` lists them"},
        WrongCall{"empty_corpus", "corpus check empty",
                  "corpus: no case and no document is there; name a folder that holds some"},
        WrongCall{"format_of_a_list", "implementations --format bells",
                  "--format: unknown format 'bells'; use json or xml"},
        WrongCall{"configuration_is_a_folder", "run --config sheets",
                  "sheets: Is a directory; name a file that can be read"},
        WrongCall{"document_is_a_folder", "try sheets",
                  "sheets: Is a directory; name a file that can be read, or - for standard input"},
        WrongCall{"document_is_not_there", "shrink tower.json",
                  "tower.json: No such file or directory; name a file that can be read, or - for standard input"},
        WrongCall{"witness_to_nowhere", "shrink bell.json --output /no/such/folder/w",
                  "/no/such/folder/w: cannot be written: No such file or directory; name a file in a folder that "
                  "can be written"},
        WrongCall{"no_folder_allowed", "read --allow-folder towers bell.xml",
                  "--allow-folder: towers is not a folder; name the folder that may be read"},
        WrongCall{
            "shape", "limits --config codecs.toml --shape bells",
            "--shape: unknown shape 'bells'; use one of array-depth, object-depth, mixed-depth, array-width, "
            "object-width, prefixed-width, colliding-31-width, colliding-33-width, string-length, escapes-length, "
            "name-length, number-length, element-depth, entity-depth, element-width, attribute-width, "
            "namespace-width, text-length, reference-length, value-length"},
        WrongCall{"format_without_numbers", "numbers --config codecs.toml --format xml",
                  "--format: xml has no numbers; name a format that has"},
        WrongCall{"nobody_runs", "run xml --config codecs.toml",
                  "--implementation: no selected implementation supports xml; `nachklang implementations` lists "
                  "what each supports"},
        WrongCall{"nobody_tries", "try --config codecs.toml bell.xml",
                  "--implementation: no selected implementation supports xml; `nachklang implementations` lists "
                  "what each supports"},
        WrongCall{"nobody_shrinks", "shrink --config codecs.toml bell.xml",
                  "--implementation: no selected implementation supports xml; `nachklang implementations` lists "
                  "what each supports"},
        WrongCall{"nobody_has_a_card", "card --config codecs.toml --format xml",
                  "--implementation: no selected implementation supports xml; `nachklang implementations` lists "
                  "what each supports"},
        WrongCall{"nobody_shows_numbers", "numbers --config verdicts.toml",
                  "--implementation: no selected implementation supports decoding of json with the value shown; "
                  "`nachklang implementations` lists what each supports"},
        WrongCall{"nobody_is_searched", "limits --config codecs.toml --format xml",
                  "--implementation: no selected implementation supports a format with limits to search; "
                  "`nachklang implementations` lists what each supports"},
        WrongCall{
            "budget", "shrink --budget -1 bell.json",
            "command line: --budget: Value -1 not in range 1 to 100000000; `nachklang --help` lists the commands"},
        WrongCall{
            "count", "numbers --count -5",
            "command line: --count: Value -5 not in range 1 to 1000000000; `nachklang --help` lists the commands"},
        WrongCall{"seed", "numbers --seed -1",
                  "command line: --seed: Value -1 not in range 0 to 9223372036854775807; `nachklang --help` lists "
                  "the commands"},
        WrongCall{"choice_of_another_command", "read bell.json --case bells",
                  "command line: The following arguments were not expected: bells --case; `nachklang --help` lists "
                  "the commands"},
        WrongCall{"corpus", "run towers", "towers: is not a folder; name a folder of sheets and documents"},
        WrongCall{
            "sheet", "run sheets",
            "sheets/bad.toml:1: a sheet must begin with [sheet]; add [sheet] with format, aspect and standard"},
        WrongCall{"fail_on", "run json --fail-on bells",
                  "--fail-on: 'bells' is neither a finding kind nor a basis; use for example required,altered; "
                  "incident; or nothing"},
        WrongCall{"results", "run json --results /no/such/folder/r",
                  "/no/such/folder/r: cannot be written: No such file or directory; name a file in a folder that "
                  "can be written"},
        WrongCall{"nothing_to_try", "try", "try: no document is named; name files, or a case with --case"},
        WrongCall{"option", "run --bells",
                  "command line: The following argument was not expected: --bells; `nachklang --help` lists the "
                  "commands"}),
    [](const auto& info) { return info.param.name; });

TEST_F(Tool, WhatNobodyIsAskedOfIsCounted) {
    configuration({"sound"});
    write("bell.json", "[1721]");
    write("bell.xml", "<bell/>");
    const Called r = run("try --config codecs.toml bell.json bell.xml");
    EXPECT_EQ(r.status, 0);
    EXPECT_EQ(r.err, "skipped: 1 xml case (no selected implementation supports xml)\n");
    EXPECT_NE(r.out.find("bell.xml"), std::string::npos);
}

TEST_F(Tool, OutputThatDoesNotArriveIsReportedAndEndsWithTwo) {
    configuration({"sound"});
    write("bell.json", "[1721]");
    const std::string full =
        "standard output: cannot be written: No space left on device; the output is incomplete";
    for (const char* call : {"read bell.json", "corpus list json", "try --config codecs.toml bell.json",
                             "read --as canonical bell.json", "implementations --config codecs.toml"}) {
        const Called r = run(std::string(call) + " > /dev/full");
        EXPECT_EQ(r.status, 2) << call;
        EXPECT_EQ(r.err, "nachklang: " + full + "\n") << call;
    }
    EXPECT_EQ(run("read bell.json 2> /dev/full").status, 0);
    EXPECT_EQ(run("try nothing.json 2> /dev/full").status, 2) << "the line is lost, the status is not";
}

TEST_F(Tool, AReaderThatGoesAwayEndsItQuietly) {
    configuration({"sound"});
    for (const char* call : {"corpus list json", "try --config codecs.toml --format json --case 'numbers/*'"}) {
        const Called r =
            shell(fmt::format("( {}/nachklang {}; echo $? > status ) | head -n 1", BUILD_FOLDER, call));
        EXPECT_EQ(slurp(folder_ / "status"), "141\n") << "as SIGPIPE ends others";
        EXPECT_EQ(r.err, "");
        EXPECT_EQ(std::count(r.out.begin(), r.out.end(), '\n'), 1) << r.out;
    }
}

TEST_F(Tool, RunFindsTheFaultAndSaysHowToRepeatIt) {
    configuration({"sound", "cut-at-nul"});
    const Called r =
        run("run json --config codecs.toml --aspect strings --list --results r.jsonl --disagreements d.jsonl");
    EXPECT_EQ(r.status, 1);
    EXPECT_NE(r.out.find("cut-at-nul decode altered fidelity string/cut-at-nul"), std::string::npos) << r.out;
    EXPECT_NE(r.out.find("nachklang try --case strings/nul-inside --implementation cut-at-nul"), std::string::npos);
    const std::string results = slurp(folder_ / "r.jsonl");
    EXPECT_TRUE(results.starts_with("{\"record\":\"run\",\"version\":1,")) << results.substr(0, 100);
    EXPECT_NE(results.find("\"case\":\"strings/"
                           "nul-inside\",\"implementation\":\"cut-at-nul\",\"operation\":\"decode\",\"outcome\":"
                           "\"accepted\",\"finding\":\"altered\""),
              std::string::npos);
    EXPECT_NE(slurp(folder_ / "d.jsonl").find("\"layer\":\"value\""), std::string::npos);
}

TEST_F(Tool, RunWithoutAFaultEndsWithZero) {
    configuration({"sound"});
    const Called r = run("run json --config codecs.toml --aspect names");
    EXPECT_EQ(r.status, 0) << r.out;
}

TEST_F(Tool, FailOnDecidesTheStatus) {
    configuration({"trailing-comma-taken", "cut-at-nul"});
    EXPECT_EQ(run("run json --config codecs.toml --aspect structure --implementation trailing-comma-taken").status,
              0);  // permitted
    EXPECT_EQ(run("run json --config codecs.toml --aspect structure --implementation trailing-comma-taken "
                  "--fail-on permitted")
                  .status,
              1);
    EXPECT_EQ(
        run("run json --config codecs.toml --aspect strings --implementation cut-at-nul --fail-on required").status,
        0);
    EXPECT_EQ(
        run("run json --config codecs.toml --aspect strings --implementation cut-at-nul --fail-on nothing").status,
        0);
}

TEST_F(Tool, ResultsAreTheSameWithOneWorkerAndWithTwo) {
    configuration({"sound", "read-as-latin-1", "state-kept-after-error"});
    run("run json --config codecs.toml --workers 1 --results 1.jsonl --disagreements 1d.jsonl");
    run("run json --config codecs.toml --workers 2 --results 2.jsonl --disagreements 2d.jsonl");
    EXPECT_EQ(slurp(folder_ / "1.jsonl"), slurp(folder_ / "2.jsonl"));
    EXPECT_EQ(slurp(folder_ / "1d.jsonl"), slurp(folder_ / "2d.jsonl"));
    EXPECT_NE(slurp(folder_ / "1.jsonl").find("\"record\":\"incident\""), std::string::npos);
}

TEST_F(Tool, AFullDiskKeepsWhatIsThereAndEndsWithTwo) {
    configuration({"sound"});
    const Called r = run("run json --config codecs.toml --aspect names --results /dev/full");
    EXPECT_EQ(r.status, 2);
    EXPECT_NE(r.err.find("/dev/full: cannot be written: No space left on device"), std::string::npos) << r.err;
}

TEST_F(Tool, ReadTakesAFormatsChoices) {
    EXPECT_EQ(run("read --namespaces off -", "<p:a/>").status, 0);
    const Called names = run("read -", "<p:a/>");
    EXPECT_EQ(names.status, 1);
    EXPECT_EQ(names.err,
              "the document is only well-formed without namespaces\n"
              "offset 1 line 1 column 2: the prefix p is not declared [Namespaces 1.0, 5, NSC Prefix Declared]\n");
    const std::string document = "<!--1--><a xmlns='urn:d' xmlns:q='urn:q'><b/><q:b/></a>";
    EXPECT_EQ(run("read --as canonical -", document).out,
              "<a xmlns=\"urn:d\" xmlns:q=\"urn:q\"><b></b><q:b></q:b></a>");
    EXPECT_EQ(run("read --as canonical --with-comments -", document).out.substr(0, 9), "<!--1-->\n");
    EXPECT_EQ(run("read --as canonical --exclusive --subset /a/q:b -", document).out,
              "<q:b xmlns:q=\"urn:q\"></q:b>");
    EXPECT_EQ(run("read --as canonical --subset /a/c -", document).status, 1);
    EXPECT_EQ(run("read --exclusive -", document).status, 2);
    EXPECT_EQ(run("read --as canonical --prefix q -", document).status, 2);
    const Called foreign = run("read --namespaces off -", "[1]");
    EXPECT_EQ(foreign.status, 2);
    EXPECT_EQ(foreign.err, "nachklang: --namespaces: json has no such option; leave it out\n");
}

TEST_F(Tool, ReadOpensOnlyWhatAFolderHolds) {
    fs::create_directories(folder_ / "inside");
    std::ofstream(folder_ / "outside.xml") << "<secret/>";
    std::ofstream(folder_ / "inside" / "note.xml") << "<note/>";
    const auto document = [](const char* name) {
        return fmt::format("<!DOCTYPE a [<!ENTITY e SYSTEM '{}'>]><a>&e;</a>", name);
    };
    EXPECT_NE(run("read --as trace --allow-folder inside -", document("note.xml")).out.find("elem u8:6e6f7465"),
              std::string::npos);
    for (const char* name :
         {"../outside.xml", "/etc/hostname", "file:///etc/hostname", "http://halm.example/note.xml", "none.xml"})
        EXPECT_NE(run("read --as trace --allow-folder inside -", document(name)).out.find("ref u8:65"),
                  std::string::npos)
            << name;
    EXPECT_NE(run("read --as trace -", document("inside/note.xml")).out.find("ref u8:65"), std::string::npos);
}

TEST_F(Tool, ProfilesAdviseTheWriter) {
    const Called r =
        run("read --profile i-json -", R"({"a":1e400,"b":[9007199254740993,"\ud800","\ufffe"],"a":0})");
    EXPECT_EQ(r.status, 1);
    EXPECT_EQ(
        r.err,
        "offset 5 line 1 column 6: a number of greater magnitude than binary64 has [RFC 7493, 2.2, advised]\n"
        "offset 16 line 1 column 17: an integer beyond 2^53-1 in magnitude: not every receiver keeps it exactly "
        "[RFC 7493, 2.2, advised]\n"
        "offset 33 line 1 column 34: a lone surrogate [RFC 7493, 2.1, required]\n"
        "offset 42 line 1 column 43: a noncharacter [RFC 7493, 2.1, required]\n"
        "offset 52 line 1 column 53: the object already has this name [RFC 7493, 2.3, required]\n");
    EXPECT_EQ(run("read --profile i-json -", R"({"a":[0.1,9007199254740991,"\ud83d\udd14"]})").status, 0);
    const Called spelled = run("read --profile jcs -", R"({"b":1.0,"a":2})");
    EXPECT_EQ(spelled.status, 1);
    EXPECT_EQ(spelled.err,
              "offset 2 line 1 column 3: the canonical form has here: a\":2,\"b\":1} [RFC 8785, 3.2, required]\n");
    EXPECT_EQ(run("read --profile jcs -", R"({"a":2,"b":1})").status, 0);
    EXPECT_EQ(run("read --profile loud -", "1").status, 2);
}

TEST_F(Tool, ProfilesOfARunAdviseAndFailNobody) {
    configuration({"sound"});
    const Called r = run("run json --config codecs.toml --aspect names --profile i-json --results names.jsonl");
    EXPECT_EQ(r.status, 0) << r.out;
    EXPECT_NE(r.out.find("read:    the object already has this name, RFC 7493, 2.3"), std::string::npos) << r.out;
    EXPECT_NE(slurp(folder_ / "names.jsonl").find(R"("advice":[{"clause":"RFC 7493, 2.3",)"), std::string::npos);
    const Called without = run("run json --config codecs.toml --aspect names");
    EXPECT_EQ(without.out.find("taken:"), std::string::npos);
    const Called unknown = run("run json --config codecs.toml --profile loud");
    EXPECT_EQ(unknown.status, 2);
    EXPECT_EQ(unknown.err, "nachklang: --profile: 'loud' is not a profile of any format; use one of i-json, jcs\n");
}

TEST_F(Tool, ImplementationsSayWhatIsHereAndWhatIsNot) {
    const Called r = run("implementations");
    EXPECT_EQ(r.status, 0);
    EXPECT_NE(r.out.find("seeded-faults"), std::string::npos);
    EXPECT_NE(r.out.find("json: decode round-trip"), std::string::npos);
    const Called xml = run("implementations xml 'seeded-*'");
    EXPECT_EQ(xml.status, 0) << xml.err;
    EXPECT_NE(xml.out.find("seeded-faults-xml"), std::string::npos) << xml.out;
    EXPECT_EQ(xml.out.find("json:"), std::string::npos) << xml.out;
    EXPECT_EQ(xml.out.find("not installed"), std::string::npos) << "those are not named: " << xml.out;
    EXPECT_EQ(run("implementations no-such-library").status, 2);
    const Called check = run("implementations check seeded-faults");
    EXPECT_EQ(check.status, 0) << check.out;
    EXPECT_EQ(check.out.find("BROKEN"), std::string::npos);
    EXPECT_NE(check.out.find("holds  framing, ids and order of 40 requests ahead of their replies"),
              std::string::npos)
        << check.out;
    configuration({"crash-when-deep"});
    EXPECT_EQ(run("implementations check --config codecs.toml").status, 0);
}

TEST_F(Tool, CoverageOfTheShippedCorpusHasNoHoleAndOfASmallOneHas) {
    const Called xml = run("corpus coverage xml");
    EXPECT_EQ(xml.status, 0) << xml.out;
    EXPECT_TRUE(xml.out.ends_with("no hole\n"));
    const Called shipped = run("corpus coverage json");
    EXPECT_EQ(shipped.status, 0) << shipped.out;
    EXPECT_NE(shipped.out.find("no hole"), std::string::npos);
    EXPECT_NE(shipped.out.find("RFC 8259, 6    frac"), std::string::npos) << shipped.out;
    fs::create_directories(folder_ / "small");
    write("small/a.toml",
          "[sheet]\nformat = \"json\"\naspect = \"a\"\nstandard = \"RFC 8259\"\n[[case]]\nid = \"x\"\ntext = "
          "'[1]'\nstance = \"accept\"\nclause = \"5\"\nwhy = \"an array\"\n");
    const Called small = run("corpus coverage small");
    EXPECT_EQ(small.status, 1);
    EXPECT_NE(small.out.find("sides without a case"), std::string::npos) << small.out;
    EXPECT_NE(small.out.find("1 cases of json"), std::string::npos);
}

TEST_F(Tool, WhatAnImplementationRequiresDecidesWhetherItIsHere) {
    const auto entry = [&](const std::string& more) {
        write("own.toml",
              "[[implementation]]\nname = \"tower\"\nreach = \"verdict\"\ncommand = [\"true\"]\n"
              "formats = [\"json\"]\n" +
                  more);
        return run("implementations --config own.toml");
    };
    EXPECT_EQ(entry("requires = [\"/\"]\n").status, 0);
    const Called missing = entry("requires = [\"/no/such/bell.so\"]\n");
    EXPECT_EQ(missing.status, 2);
    EXPECT_NE(missing.err.find("/no/such/bell.so does not exist"), std::string::npos) << missing.err;
}

TEST_F(Tool, CorpusListsAndChecks) {
    const Called check = run("corpus check");
    EXPECT_EQ(check.status, 0) << check.err;
    EXPECT_NE(check.out.find("in all"), std::string::npos);
    const Called list = run("corpus list json --case numbers/tenth");
    EXPECT_NE(list.out.find("numbers/tenth  accept  RFC 8259, 6"), std::string::npos) << list.out;
    fs::create_directories(folder_ / "mine");
    write("mine/a.toml",
          "[sheet]\nformat = \"json\"\naspect = \"a\"\nstandard = \"RFC 8259\"\n[[case]]\nid = \"x\"\ntext = "
          "'[1,]'\nstance = \"accept\"\nclause = \"5\"\nwhy = \"wrong\"\n");
    const Called wrong = run("corpus check mine");
    EXPECT_EQ(wrong.status, 1);
    EXPECT_EQ(wrong.err,
              "mine/a.toml:5: a/x: the sheet says accept, the reference reader rejects; read the clause again\n");
}

TEST_F(Tool, ARunThatMeetsRogueAdaptersEndsAndBlamesTheRightOnes) {
    std::string text = slurp(configuration({"sound"}));
    for (const char* way : {"garbage", "lies-short", "sequence", "crash"})
        text += fmt::format(
            "[[implementation]]\nname = \"{0}\"\ncommand = [\"/usr/bin/python3\", \"{1}/tests/rogue_adapter.py\", "
            "\"{0}\"]\nformats = [\"json\"]\ndeadline_s = 2\n",
            way, SOURCE_FOLDER);
    write("rogues.toml", text);
    fs::create_directories(folder_ / "mine");
    for (const auto& [name, document] : {std::pair<std::string, std::string>{"1.json", "null"},
                                         {"2.json", "\"frame\""},
                                         {"3.json", "\"bell\""},
                                         {"4.json", "null"}})
        write("mine/" + name, document);
    const Called r = run("run mine --config rogues.toml --results r.jsonl --list");
    EXPECT_EQ(r.status, 1);
    const std::string results = slurp(folder_ / "r.jsonl");
    for (const auto& [name, outcome] : {std::pair<std::string, std::string>{"garbage", "broken-reply"},
                                        {"lies-short", "broken-reply"},
                                        {"crash", "crashed"}}) {
        EXPECT_NE(results.find(fmt::format(
                      "\"case\":\"3.json\",\"implementation\":\"{}\",\"operation\":\"decode\",\"outcome\":\"{}\"",
                      name, outcome)),
                  std::string::npos)
            << name;
        for (const char* other : {"1.json", "4.json"})
            EXPECT_NE(results.find(fmt::format("\"case\":\"{}\",\"implementation\":\"{}\",\"operation\":\"decode\","
                                               "\"outcome\":\"accepted\",\"finding\":\"conforms\"",
                                               other, name)),
                      std::string::npos)
                << name;
    }
    EXPECT_NE(results.find("\"case\":\"3.json\",\"implementation\":\"sound\",\"operation\":\"decode\",\"outcome\":"
                           "\"accepted\",\"finding\":\"conforms\""),
              std::string::npos);
}

}  // namespace

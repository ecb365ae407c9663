// Several documents in one text: what is found about the list of their values, which cases are asked, and what a
// kit makes of a document that is refused.
#include <nachklang/adapter_stream.hpp>
#include <nachklang/json.hpp>
#include <nachklang/xml.hpp>

#include "judging.hpp"
#include "played.hpp"
#include "seeded_faults/xml_sequences.hpp"
#include "tool_fixture.hpp"

namespace {

using namespace nachklang;
using namespace nachklang::played_codec;
using judging::A;

Trace list(const std::string& lines) {
    return *Trace::parse("[\n" + lines + "]\n");
}

/// [1] and "a" with white space between them, as a sheet has it; or with an x, where any list may come.
Case two_documents(bool foreign) {
    Case c = judging::document_case(foreign ? "[1] x \"a\"" : "[1] \"a\"");
    const std::string one = "[\nspelled u8:31\n]\n", two = "str u8:61\n", refused = "native refused -\n";
    c.sequence = true;
    c.stance = Stance::open;
    c.clause = "outside RFC 8259";
    c.question = foreign ? "documents-separator" : "documents-spaced";
    c.unlisted_is_altered = !foreign;
    c.expected = list(one + two);
    c.answers = {{c.question, foreign ? "skipped" : "all", list(one + two)},
                 {c.question, "stops", list(one + refused)}};
    return c;
}

struct JudgedRow {
    const char* name;
    bool foreign;
    const char *list, *words;
};
class Lists : public testing::TestWithParam<JudgedRow> {};
TEST_P(Lists, AreJudgedByTheListsOfTheCase) {
    const JudgedRow& row = GetParam();
    const Case c = two_documents(row.foreign);
    const Expectation expectation = expectation_of(c);
    const Outcome got = judging::outcome(A, std::string("[\n") + row.list + "]");
    EXPECT_EQ(judging::in_words(judge({c, expectation, Subject{}, Operation::sequence, got})), row.words);
}
INSTANTIATE_TEST_SUITE_P(
    Rows, Lists,
    testing::Values(
        JudgedRow{"all", false, "[\nint 1\n]\nstr u8:61\n", "open documents-spaced=all"},
        JudgedRow{"stops", false, "[\nint 1\n]\nnative refused -\n", "open documents-spaced=stops"},
        JudgedRow{"rest_lost", false, "[\nint 1\n]\n", "altered fidelity sequence/rest-lost"},
        JudgedRow{"nothing", false, "", "altered fidelity sequence/rest-lost"},
        JudgedRow{"value_of_one", false, "[\nint 2\n]\nstr u8:61\n", "altered fidelity number/wrong-value"},
        JudgedRow{"one_for_another", false, "int 1\nstr u8:61\n", "altered fidelity sequence/other-value"},
        JudgedRow{"one_document_of_two", false, "[\nint 1\nstr u8:61\n]\n",
                  "altered fidelity sequence/other-value"},
        JudgedRow{"end_refused", false, "[\nint 1\n]\nstr u8:61\nnative refused -\n",
                  "too-strict fidelity sequence/end-refused"},
        JudgedRow{"taken_for_a_document", true, "[\nint 1\n]\nstr u8:78\nstr u8:61\n",
                  "open documents-separator=other"},
        JudgedRow{"rest_lost_at_foreign_text", true, "[\nint 1\n]\n", "altered fidelity sequence/rest-lost"}),
    [](const auto& row) { return row.param.name; });

/// <a/><b c="1">x</b>, as a sheet has it.
Case two_roots() {
    Case c = judging::document_case("<a/><b c=\"1\">x</b>");
    c.format = &xml::format();
    const std::string one = "elem u8:61 u8:61 u8:\nend\n", refused = "native refused -\n";
    const std::string two = "elem u8:62 u8:62 u8:\nattr u8:63 u8:63 u8: u8:31 given\ntext u8:78\nend\n";
    c.sequence = true;
    c.stance = Stance::open;
    c.clause = "outside XML 1.0";
    c.question = "documents-adjacent";
    c.expected = list(one + two);
    c.answers = {{c.question, "all", list(one + two)}, {c.question, "stops", list(one + refused)}};
    return c;
}

struct RootsRow {
    const char *name, *list, *words, *at;
};
class Roots : public testing::TestWithParam<RootsRow> {};
TEST_P(Roots, AreComparedOneByOne) {
    const RootsRow& row = GetParam();
    const Case c = two_roots();
    const Expectation expectation = expectation_of(c);
    const Outcome got = judging::outcome(A, std::string("[\n") + row.list + "]");
    const Finding finding = judge({c, expectation, Subject{}, Operation::sequence, got});
    EXPECT_EQ(judging::in_words(finding), row.words);
    EXPECT_EQ(finding.causes.empty() ? "" : finding.causes.front().at, row.at);
}
INSTANTIATE_TEST_SUITE_P(
    Rows, Roots,
    testing::Values(
        RootsRow{"all", "elem - u8:61 u8:\nend\nelem - u8:62 u8:\nattr - u8:63 u8: u8:31 -\ntext u8:78\nend\n",
                 "open documents-adjacent=all", ""},
        RootsRow{"stops", "elem - u8:61 u8:\nend\nnative refused -\n", "open documents-adjacent=stops", ""},
        RootsRow{"rest_lost", "elem - u8:61 u8:\nend\n", "altered fidelity sequence/rest-lost", ""},
        RootsRow{"text_of_one",
                 "elem - u8:61 u8:\nend\nelem - u8:62 u8:\nattr - u8:63 u8: u8:31 -\ntext u8:79\nend\n",
                 "altered fidelity text/changed", "/document(2)/0/0"},
        RootsRow{"attribute_of_the_other",
                 "elem - u8:61 u8:\nattr - u8:63 u8: u8:31 -\nend\nelem - u8:62 u8:\ntext u8:78\nend\n",
                 "altered fidelity attribute/added", "/document(1)/0/@c"},
        RootsRow{"text_between",
                 "elem - u8:61 u8:\nend\ntext u8:20\nelem - u8:62 u8:\nattr - u8:63 u8: u8:31 -\ntext u8:78\nend\n",
                 "altered fidelity sequence/other-value", ""},
        RootsRow{"one_for_another", "elem - u8:61 u8:\nend\nnative other -\n",
                 "altered fidelity sequence/other-value", "/document(2)"},
        RootsRow{"end_refused",
                 "elem - u8:61 u8:\nend\nelem - u8:62 u8:\nattr - u8:63 u8: u8:31 -\ntext u8:78\nend\n"
                 "native refused -\n",
                 "too-strict fidelity sequence/end-refused", ""}),
    [](const auto& row) { return row.param.name; });

TEST(Sequences, OfXmlAreShownDocumentByDocument) {
    const Trace roots = list("elem - u8:61 u8:\nend\nnative refused -\ntext u8:78\n");
    EXPECT_EQ(xml::format().describe(roots, 80), "<a></a> (refused) x");
    EXPECT_EQ(xml::format().describe(list(""), 80), "(no document)");
    std::string paths;
    for (const Place& place : xml::format().places()->places_of(roots))
        paths += place.path + " " + place.shown + "|";
    EXPECT_EQ(paths,
              "/document(1) document|/document(1)/a element|/document(2) (refused)|/document(3) document|"
              "/document(3)/text() \"x\"|");
    const Tree tree = xml::format().tree(roots, Layer::exact);
    std::string lines;
    for_each_line(tree, [&](const TreeLine& line) {
        lines += std::string(line.depth, ' ') + line.text + "|";
        EXPECT_LT(tree.nodes[line.node].item, roots.items().size());
        return true;
    });
    EXPECT_EQ(lines,
              "documents| /document(1)  document|  /0  <a>| /document(2)  (refused)| /document(3)  document|  /0  "
              "\"x\"|");
    EXPECT_NE(xml::format().digests(roots), xml::format().digests(list("elem - u8:61 u8:\nend\n")));
}

TEST(Sequences, AFindingIsExcusedByItsOwnCause) {
    const Case c = two_documents(false);
    const Expectation expectation = expectation_of(c);
    const Outcome got = judging::outcome(A, "[\n[\nint 1\n]\n]");
    Subject subject;
    Excuse known;
    known.cause = "sequence/rest-lost";
    known.reason = "one document a call";
    subject.implementation.excuses = {known};
    const Finding excused = judge({c, expectation, subject, Operation::sequence, got});
    EXPECT_EQ(excused.excused, "one document a call");
    EXPECT_FALSE(excused.failing());
    subject.implementation.excuses.front().cause = "element/lost";
    EXPECT_TRUE(judge({c, expectation, subject, Operation::sequence, got}).failing());
}

TEST(Sequences, AreAskedOfTheirOwnOperationAlone) {
    const std::vector<Subject> subjects{played("kufe", {"decode", "sequence"}), played("halm", {"decode"})};
    const std::vector<Case> cases{two_documents(false), judging::document_case("[1]")};
    std::vector<std::string> asked;
    const ExecutorFactory make = [&](const Subject& subject) {
        return std::make_unique<Played>([&asked, name = subject.name()](const Request& request) {
            asked.push_back(name + " " + std::string(name_of(request.operation)) + " " + *request.body);
            return accepted("[\nint 1\n]\n");
        });
    };
    FunctionSink sink([](const ChunkReport&) {});
    CampaignOptions one_worker;
    run_campaign(cases, subjects, make, one_worker, sink);
    std::ranges::sort(asked);
    asked.erase(std::unique(asked.begin(), asked.end()), asked.end());
    EXPECT_EQ(asked, (std::vector<std::string>{"halm decode [1]", "kufe decode [1]", "kufe sequence [1] \"a\""}));
}

std::string asked_of(const Case& c) {
    std::string out;
    for (const OperationInfo& row : operations())
        if (is_asked(c, row.operation)) out += (out.empty() ? "" : " ") + std::string(row.name);
    return out;
}
TEST(Cases, AreAskedOfTheOperationsThatAreMadeForThem) {
    Case c = judging::document_case("[1]");
    EXPECT_EQ(asked_of(c), "decode round-trip pieces");
    c.sequence = true;
    EXPECT_EQ(asked_of(c), "sequence");
    c.stays_open = true;
    EXPECT_EQ(asked_of(c), "open-stream");
    c = judging::document_case("[1]");
    c.record = "one-int32";
    EXPECT_EQ(asked_of(c), "bind bind-round-trip");
    c.value = Trace::parse("null\n");
    EXPECT_EQ(asked_of(c), "bind-encode");
    c.record.clear();
    EXPECT_EQ(asked_of(c), "encode");
}

// A codec that prints by events has printed a part of the document that it then refuses.
class HalfPrinted final : public adapter::Codec {
  public:
    [[nodiscard]] adapter::Description describe() const override {
        return {.name = "halm", .version = "1", .capabilities = {{"json", {"sequence"}}}};
    }
    adapter::Reply sequence(std::string_view, std::string_view, std::string_view text,
                            adapter::TraceOut& out) override {
        out.open_array();
        out.integer(1);
        out.close_array();
        if (text == "[1]") return adapter::Reply::accepted();
        out.open_object();
        out.key("b");
        out.open_array();
        return adapter::Reply::rejected("no value");
    }
};
TEST(Sequences, TheKitDropsWhatWasPrintedOfARefusedDocument) {
    HalfPrinted codec;
    EXPECT_EQ(adapter::run_request(codec, "sequence", "json", "", "[1]", true).bytes, "[\n[\nint 1\n]\n]\n");
    const adapter::Reply cut = adapter::run_request(codec, "sequence", "json", "", "[1]{\"b\":[", true);
    EXPECT_EQ(cut.kind, "accepted");
    EXPECT_EQ(cut.bytes, "[\n[\nint 1\n]\nnative refused -\n]\n");
    EXPECT_EQ(cut.reported, "no value\n");
    EXPECT_EQ(adapter::run_request(codec, "sequence", "json", "", "[1]", false).bytes, "");
}

// A codec that prints each document when its last byte arrives, and one that asks for another byte first.
class Streamed final : public adapter::Codec {
  public:
    explicit Streamed(bool looks_ahead) : looks_ahead_(looks_ahead) {}
    [[nodiscard]] adapter::Description describe() const override {
        return {.name = "ufer", .version = "1", .capabilities = {{"json", {"open-stream"}}}};
    }
    adapter::Reply open_stream(std::string_view, std::string_view, std::string_view text,
                               adapter::TraceOut& out) override {
        adapter::OpenStream stream(text);
        for (int byte = stream.next(); byte >= 0; byte = stream.next()) {
            if (byte == 'x') return adapter::Reply::rejected("no document");
            if (byte != '1') continue;
            if (looks_ahead_ && (stream.next() < 0 || stream.asked_for_more())) break;
            out.integer(1);
        }
        out.open_array();
        return adapter::Reply::accepted();
    }

  private:
    bool looks_ahead_;
};
TEST(OpenStreams, HoldWhatIsHandedOverInTime) {
    Streamed prompt(false), late(true);
    const auto asked = [](Streamed& codec, std::string_view text) {
        return adapter::run_request(codec, "open-stream", "json", "", text, true).bytes;
    };
    EXPECT_EQ(asked(prompt, "1 1"), "[\nint 1\nint 1\n]\n");
    EXPECT_EQ(asked(late, "1 1"), "[\nint 1\n]\n");
    EXPECT_EQ(asked(late, "1 1 "), "[\nint 1\nint 1\n]\n");
    EXPECT_EQ(asked(prompt, "1 x"), "[\nint 1\nnative refused -\n]\n");
}

TEST(OpenStreams, AnswersThatMayStillComeAreNotLost) {
    Case c = two_documents(false);
    c.stays_open = true;
    c.question = "documents-handed-over";
    c.answers = {{c.question, "at-once", c.expected}, {c.question, "one-behind", list("[\nint 1\n]\n")}};
    const Expectation expectation = expectation_of(c);
    const auto words = [&](const std::string& lines) {
        const Outcome got = judging::outcome(A, "[\n" + lines + "]");
        return judging::in_words(judge({c, expectation, Subject{}, Operation::open_stream, got}));
    };
    EXPECT_EQ(words("[\nint 1\n]\nstr u8:61\n"), "open documents-handed-over=at-once");
    EXPECT_EQ(words("[\nint 1\n]\n"), "open documents-handed-over=one-behind");
    EXPECT_EQ(words("[\nint 1\n]\nnative refused -\n"), "altered fidelity value/kind");
    EXPECT_EQ(words("[\nint 2\n]\nstr u8:61\n"), "altered fidelity number/wrong-value");
}

TEST(OpenStreams, AreAskedOfTheirOwnOperationAlone) {
    const std::vector<Subject> subjects{played("kufe", {"decode", "sequence", "open-stream"})};
    std::vector<Case> cases{two_documents(false), two_documents(false)};
    cases[1].stays_open = true;
    cases[1].name = "open";
    std::vector<std::string> asked;
    const ExecutorFactory make = [&](const Subject&) {
        return std::make_unique<Played>([&](const Request& request) {
            asked.emplace_back(name_of(request.operation));
            return accepted("[\n[\nint 1\n]\nstr u8:61\n]\n");
        });
    };
    FunctionSink sink([](const ChunkReport&) {});
    CampaignOptions one_worker;
    run_campaign(cases, subjects, make, one_worker, sink);
    std::ranges::sort(asked);
    asked.erase(std::unique(asked.begin(), asked.end()), asked.end());
    EXPECT_EQ(asked, (std::vector<std::string>{"open-stream", "sequence"}));
}

/// The documents as a mistake of src/seeded_faults/sequences.hpp splits them.
std::string split(const seeded_faults::Splitting& splitting, std::string_view text) {
    std::string out;
    for (const std::string& document : splitting(text)) out += (out.empty() ? "" : "|") + document;
    return out;
}
TEST(Splittings, MakeTheirMistakeAndNoOther) {
    using namespace seeded_faults;
    EXPECT_EQ(split(documents_of, " [1,\"]\"]{\"a\":1}\n12 true\"\\\"\""), "[1,\"]\"]|{\"a\":1}|12|true|\"\\\"\"");
    EXPECT_EQ(split(documents_of, ""), "");
    EXPECT_EQ(split(documents_of, "[1] ] [2"), "[1]|]|[2");
    EXPECT_EQ(split(first_document, "[1] [2]"), "[1]");
    EXPECT_EQ(split(until_nul, std::string_view("[1]\0[2]", 7)), "[1]");
    EXPECT_EQ(split(byte_behind_number_lost, "12[1] 3 4"), "12|1|3|4");
    EXPECT_EQ(split(last_number_lost, "[1] 12"), "[1]");
    EXPECT_EQ(split(last_number_lost, "[1] 12 "), "[1]|12");
    EXPECT_EQ(split(rest_behind_literal_lost, "true[1]"), "true");
    EXPECT_EQ(split(rest_behind_literal_lost, "true [1]"), "true|[1]");
    EXPECT_EQ(split(arrays_grow, "[1][2][]"), "[1]|[1,2]|[]");
    EXPECT_EQ(split(commas_skipped, "[1],[2]"), "[1]|[2]");
    EXPECT_EQ(split(buffer_end_lost, "\"" + std::string(8191, 'o') + "u\"").size(), 8193U);
}

std::string split_xml(std::string_view text, const seeded_faults::XmlSequenceMistakes& mistakes = {}) {
    return split([&](std::string_view all) { return seeded_faults::xml_documents_of(all, mistakes); }, text);
}
TEST(Splittings, OfXmlMakeTheirMistakeAndNoOther) {
    EXPECT_EQ(split_xml("<a/><b c='>'>x</b>\n<!--d--><e><e/></e>"), "<a/>|<b c='>'>x</b>|<!--d--><e><e/></e>");
    EXPECT_EQ(split_xml("<?xml version='1.0'?><!DOCTYPE a [<!ENTITY e '>'>]><a/> <?p?>\n"),
              "<?xml version='1.0'?><!DOCTYPE a [<!ENTITY e '>'>]><a/>");
    EXPECT_EQ(split_xml("<a/>x<b/>"), "<a/>|x");
    EXPECT_EQ(split_xml("<a/></a><b/>"), "<a/>|</a><b/>");
    EXPECT_EQ(split_xml("<a/><b><!--"), "<a/>|<b><!--");
    EXPECT_EQ(split_xml("<a/><b><![CDATA[</b>]]>"), "<a/>|<b><![CDATA[</b>]]>");
    EXPECT_EQ(split_xml(""), "");
    EXPECT_EQ(split_xml("<a/><b/>", {.first_alone = true}), "<a/>");
    EXPECT_EQ(split_xml("<!DOCTYPE a><a/><b/>", {.document_type_kept = true}), "<!DOCTYPE a><a/>|<!DOCTYPE a><b/>");
    EXPECT_EQ(split_xml("<a xmlns='u'/><b c='1'/>", {.namespace_kept = true}),
              "<a xmlns='u'/>|<b xmlns='u' c='1'/>");
    EXPECT_EQ(split_xml("<a/>x<b/>", {.text_skipped = true}), "<a/>|<b/>");
    EXPECT_EQ(split_xml("<a/><b></b><c/>", {.empty_tags_left_out = true}), "<b></b>");
    EXPECT_EQ(split_xml("<a/><!--c--><b/>", {.ends_at_comment = true}), "<a/>");
}

class SequenceTool : public tool_test::Tool {};

TEST_F(SequenceTool, TryShowsTheDocumentsBesideTheLists) {
    const std::string config =
        write("faults.toml", "[[implementation]]\nname = \"eats\"\ncommand = [\"" BUILD_FOLDER
                             "/adapters/seeded-faults-adapter\", \"sequence-eats-behind-number\"]\n"
                             "formats = [\"json\"]\n");
    const auto called = run("try --case sequences/number-next-to-array --implementation eats --config " + config);
    EXPECT_NE(called.out.find("  several documents in one text\n"), std::string::npos) << called.out;
    EXPECT_EQ(called.out.find("reference: refused"), std::string::npos) << called.out;
    EXPECT_NE(called.out.find("array  documents\n"), std::string::npos) << called.out;
}

TEST_F(SequenceTool, TryShowsRootsOfAStreamThatStaysOpen) {
    const std::string config =
        write("faults.toml", "[[implementation]]\nname = \"late\"\ncommand = [\"" BUILD_FOLDER
                             "/adapters/seeded-faults-xml-adapter\", \"documents-one-behind\"]\n"
                             "formats = [\"xml\"]\n");
    const auto called = run("try --case open-streams/lines --implementation late --config " + config);
    EXPECT_NE(called.out.find("  several documents in one stream, which stays open\n"), std::string::npos)
        << called.out;
    EXPECT_NE(called.out.find("  /document(2)\n    document  documents\n    absent  late\n"), std::string::npos)
        << called.out;
    EXPECT_NE(called.out.find("one-behind"), std::string::npos) << called.out;
}

TEST_F(SequenceTool, ARunnerOfOnesOwnIsGivenDocumentsAlone) {
    ASSERT_EQ(run("corpus export json --folder cases").status, 0);
    const std::string index = tool_test::slurp(folder_ / "cases/index.tsv");
    EXPECT_NE(index.find("json/structure/"), std::string::npos);
    for (const char* aspect : {"json/sequences/", "json/open-streams/", "json/records/"})
        EXPECT_EQ(index.find(aspect), std::string::npos) << aspect;
}

class SequenceSheet : public tool_test::Tool {};

TEST_F(SequenceSheet, IsCheckedAndRun) {
    const std::string sheet =
        "[sheet]\nformat = \"json\"\naspect = \"logs\"\nstandard = \"RFC 8259\"\n[[case]]\nid = \"two\"\n"
        "text = '[1] [2]'\n";
    const std::string rest =
        "stance = \"open\"\nquestion = \"documents-spaced\"\nanswers = { all = '[[1],[2]]' }\n"
        "trace = '''\n[\n[\nint 1\n]\n[\nint 2\n]\n]\n'''\nclause = \"outside RFC 8259\"\nwhy = \"a log\"\n";
    write("bells/logs.toml", sheet + "sequence = 1\n" + rest);
    EXPECT_NE(run("corpus check bells").err.find("'sequence' must be true or false"), std::string::npos);
    write("bells/logs.toml", sheet + "sequence = true\nrecord = \"bell\"\n" + rest);
    EXPECT_NE(run("corpus check bells").err.find("a sequence is a text of several documents"), std::string::npos);
    write("bells/logs.toml", sheet + "stays_open = true\n" + rest);
    EXPECT_NE(run("corpus check bells").err.find("only the stream of a sequence stays open"), std::string::npos);
    write("bells/logs.toml", sheet + "sequence = true\n" + rest);
    EXPECT_EQ(run("corpus check bells").status, 0) << run("corpus check bells").err;
    const std::string config =
        write("faults.toml", "[[implementation]]\nname = \"first\"\ncommand = [\"" BUILD_FOLDER
                             "/adapters/seeded-faults-adapter\", \"sequence-ends-after-one\"]\n"
                             "formats = [\"json\"]\n");
    const auto called = run("run bells --config " + config + " --implementation first");
    EXPECT_EQ(called.status, 1) << called.err;
    EXPECT_NE(called.out.find("Stops before the end of a sequence of documents, without an error"),
              std::string::npos)
        << called.out;
}

}  // namespace

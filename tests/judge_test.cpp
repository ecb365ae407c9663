// Findings: what the standard says of an outcome.
#include <fmt/format.h>
#include <gtest/gtest.h>

#include <fstream>

#include <nachklang/compare.hpp>

#include "judging.hpp"

namespace {

using namespace nachklang;
using namespace judging;

struct DecodeRow {
    const char* name;
    std::string document;
    OutcomeKind outcome;
    std::string body, finding;
};
class Decodes : public testing::TestWithParam<DecodeRow> {};
TEST_P(Decodes, AreJudgedAsTheStandardSpeaks) {
    EXPECT_EQ(in_words(judged(document_case(GetParam().document), outcome(GetParam().outcome, GetParam().body))),
              GetParam().finding);
}

const std::string deep = std::string(2000, '[') + std::string(2000, ']');
const std::string deep_trace = [] {
    std::string out;
    for (const char c : deep) out += std::string(1, c) + "\n";
    out.pop_back();
    return out;
}();
INSTANTIATE_TEST_SUITE_P(
    Rows, Decodes,
    testing::Values(
        DecodeRow{"right", "[1]", A, "[\nint 1\n]", "conforms"},
        DecodeRow{"wrong", "[1]", A, "[\nint 2\n]", "altered fidelity number/wrong-value"},
        DecodeRow{"refused", "[1]", R, "no", "too-strict required verdict/refused"},
        DecodeRow{"right_refusal", "[1", R, "no", "conforms"},
        DecodeRow{"non_text", "{\"a\" 1}", A, "null", "unexplained verdict/accepted-non-text"},
        DecodeRow{"adapter_fault", "[1]", OutcomeKind::adapter_fault, "KeyError",
                  "adapter-fault outcome/adapter-fault"},
        DecodeRow{"broken_reply", "[1", OutcomeKind::broken_reply, "garbage", "adapter-fault outcome/broken-reply"},
        DecodeRow{"extension", "[1,]", A, "[\nint 1\n]",
                  "too-lenient permitted verdict/accepted-extension trailing-comma=accepted"},
        DecodeRow{"extension_refused", "[1,]", R, "no", "conforms trailing-comma=refused"},
        DecodeRow{
            "extension_and_rest_ignored", "[1,] x", A, "[\nint 1\n]",
            "too-lenient permitted verdict/accepted-non-text trailing-comma=accepted text-after-end=accepted"},
        DecodeRow{"extension_does_not_explain_the_whole", "0..", A, "spelled u8:302e2e",
                  "unexplained verdict/accepted-non-text"},
        DecodeRow{"missing_comma", "[1 2]", A, "[\nint 1\nint 2\n]",
                  "too-lenient permitted verdict/accepted-non-text missing-commas=accepted"},
        DecodeRow{"one_token_is_no_missing_comma", "[1e1.5]", A, "[\nspelled u8:3165312e35\n]",
                  "unexplained verdict/accepted-non-text"},
        DecodeRow{"rest_ignored_after_a_number", "0..", A, "int 0",
                  "too-lenient permitted verdict/rest-ignored text-after-end=accepted"},
        DecodeRow{"bytes_replaced", "\"\xFF\"", A, "str u8:efbfbd",
                  "too-lenient permitted verdict/accepted-ill-formed-utf8 ill-formed-utf8=replaced"},
        DecodeRow{"bytes_kept", "\"\xFF\"", A, "str u8:ff",
                  "too-lenient permitted verdict/accepted-ill-formed-utf8 ill-formed-utf8=kept"},
        DecodeRow{"range_refused", "18446744073709551616", R, "too big", "open number-range=refused"},
        DecodeRow{"infinity", "1e400", A, "binary64 7ff0000000000000", "open number-range=infinity"},
        // Either may be the reason.
        DecodeRow{"range_or_names_refused", R"({"a":1e400,"a":1})", R, "no", "open"},
        DecodeRow{"two_extensions_refused", "[1,/**/]", R, "no", "conforms"},
        DecodeRow{"half_refused", R"("\ud83d")", R, "no", "open lone-surrogate=refused"},
        DecodeRow{"nul_refused", R"("\u0000")", R, "no", "open nul-character=refused"},
        DecodeRow{"tenth_refused", "0.1", R, "no", "too-strict required verdict/refused"},
        DecodeRow{"minus_zero_refused", "-0", R, "no", "too-strict required verdict/refused"},
        DecodeRow{"depth_refused", deep, R, "too deep", "open depth=refused"},
        DecodeRow{"depth_exhausted", deep, OutcomeKind::exhausted, "stack", "open depth=exhausted"},
        DecodeRow{"depth_crashed", deep, OutcomeKind::crashed, "SIGSEGV", "failed outcome/crashed"},
        DecodeRow{"depth_accepted", deep, A, deep_trace, "conforms depth=accepted"},
        DecodeRow{"no_document_and_deep", std::string(2000, '['), R, "no", "conforms"},
        DecodeRow{"depth_altered", deep, A, "[\n]", "altered fidelity element/lost depth=accepted"},
        DecodeRow{"accepted_and_not_shown", "[1]", A, "", "conforms"},
        DecodeRow{"open_accepted_and_not_shown", R"({"a":1,"a":2})", A, "", "conforms"},
        DecodeRow{"no_document_accepted_and_not_shown", "[1", A, "", "unexplained verdict/accepted-non-text"},
        DecodeRow{"out_of_memory", "[1]", OutcomeKind::out_of_memory, "2 GiB", "failed outcome/out-of-memory"},
        DecodeRow{"timed_out", deep, OutcomeKind::timed_out, "5 s", "failed outcome/timed-out"},
        DecodeRow{"names_of_other_kinds", R"({"5":1})", A, "{\nkey int 5\nint 1\n}",
                  "altered fidelity name/changed"},
        DecodeRow{"open_and_deep_exhausted", std::string(2000, '['), OutcomeKind::exhausted, "stack",
                  "open depth=exhausted"},
        DecodeRow{"shallow_exhausted", "[1]", OutcomeKind::exhausted, "memory", "failed outcome/exhausted"},
        DecodeRow{"threw", "[1", OutcomeKind::threw, "index", "failed outcome/threw"},
        DecodeRow{"unclear", "nul", OutcomeKind::unclear, "", "failed outcome/unclear"},
        DecodeRow{"unsupported", "[1]", OutcomeKind::unsupported, "", "unsupported"},
        DecodeRow{"last_wins", R"({"a":1,"a":2})", A, "{\nkey u8:61\nint 2\n}", "open duplicate-names=last"},
        DecodeRow{"all_kept", R"({"a":1,"a":2})", A, "{\nkey u8:61\nint 1\nkey u8:61\nint 2\n}",
                  "conforms duplicate-names=all"},
        DecodeRow{"mark_refused", "\xEF\xBB\xBF[]", R, "no", "open byte-order-mark=refused"},
        DecodeRow{"mark_ignored", "\xEF\xBB\xBF[]", A, "[\n]", "open byte-order-mark=ignored"},
        DecodeRow{"mark_kept", "\xEF\xBB\xBF\"a\"", A, "str u8:efbbbf61", "unexplained verdict/accepted-non-text"},
        DecodeRow{"utf_16_read", std::string("1\0", 2), A, "int 1", "open encoding=read"}),
    [](const auto& info) { return info.param.name; });

struct DetailRow {
    const char* name;
    const char *format, *document;
    OutcomeKind outcome;
    const char *body, *clause, *detail;
};
class Details : public testing::TestWithParam<DetailRow> {};
TEST_P(Details, SayWhichClauseAndWhy) {
    const DetailRow& row = GetParam();
    const Finding finding = judged(document_case(row.document, row.format), outcome(row.outcome, row.body));
    EXPECT_EQ(finding.clause, row.clause);
    EXPECT_EQ(finding.detail, row.detail);
}
INSTANTIATE_TEST_SUITE_P(
    Rows, Details,
    testing::Values(
        DetailRow{"conforms", "json", "[1]", A, "[\nint 1\n]", "RFC 8259, 9", ""},
        DetailRow{"no_document", "json", "[1", A, "[\nint 1\n]", "", "accepted a text that is not a document"},
        DetailRow{"extension", "json", "[1,]", A, "[\nint 1\n]", "RFC 8259, 3", "accepted: trailing-comma"},
        DetailRow{"refused", "json", "[1]", R, "so\x1Bmething", "RFC 8259, 9", "refused: so\\u001bmething"},
        DetailRow{"crashed", "json", "[1]", OutcomeKind::crashed, "SIGSEGV", "RFC 8259, 9", "SIGSEGV"},
        DetailRow{"not_asked", "json", "[1]", OutcomeKind::unsupported, "it reads no arrays", "RFC 8259, 9",
                  "it reads no arrays"},
        DetailRow{"altered", "json", R"({"a":[1]})", A, "{\nkey u8:61\n[\nint 2\n]\n}", "RFC 8259, 9",
                  "1 became 2"},
        DetailRow{"markup", "xml", "<a><b></a>", A, "elem u8:61 u8:61 u8:\nend", "XML 1.0, WFC Element Type Match",
                  "accepted a text that is not a document"},
        DetailRow{"names", "xml", "<p:a/>", A, "elem u8:703a61 u8:61 u8:\nend",
                  "Namespaces 1.0, 5, NSC Prefix Declared", "accepted a text that is not a document"},
        DetailRow{"unread_encoding", "xml", "<?xml version='1.0' encoding='x-tower'?><a/>", R, "no",
                  "XML 1.0, 4.3.3", ""},
        DetailRow{"unread_encoding_otherwise", "xml", "<?xml version='1.0' encoding='x-tower'?><a/>", A,
                  "elem u8:62 u8:62 u8:\nend", "XML 1.0, 4.3.3",
                  "not judged: the reference reader cannot read the encoding X-TOWER"},
        DetailRow{"unread_encoding_as_utf_8", "xml", "<?xml version='1.0' encoding='x-tower'?><a/>", A,
                  "elem u8:61 u8:61 u8:\nend", "XML 1.0, 4.3.3",
                  "read as UTF-8, although it declares the encoding X-TOWER"}),
    [](const auto& info) { return info.param.name; });

struct ReportRow {
    const char *name, *document, *finding;
};
class Reports : public testing::TestWithParam<ReportRow> {};
TEST_P(Reports, SatisfyRulesThatAskForAReportAndNoOthers) {
    Outcome accepted = outcome(A, "elem u8:703a61 u8:61 u8:\nend");
    accepted.reported = "the prefix is not bound\n";
    EXPECT_EQ(in_words(judged(document_case(GetParam().document, "xml"), accepted)), GetParam().finding);
}
INSTANTIATE_TEST_SUITE_P(Rows, Reports,
                         testing::Values(ReportRow{"namespaces", "<p:a/>", "conforms"},
                                         ReportRow{"fatal_error", "<p:a>",
                                                   "too-lenient required verdict/accepted-ill-formed"}),
                         [](const auto& info) { return info.param.name; });

TEST(ReportedLimits, ExplainAChange) {
    std::string deep;
    for (int i = 0; i < 300; ++i) deep = "<a>" + deep + "</a>";
    const auto finding = [&](const std::string& document, const std::string& reported) {
        Outcome outcome;
        outcome.kind = A;
        outcome.trace = find_format("xml")->read("<a/>").trace;
        outcome.reported = reported;
        return in_words(judged(document_case(document, "xml"), outcome));
    };
    EXPECT_EQ(finding(deep, "too deep\n"), "open");
    EXPECT_EQ(finding(deep, ""), "altered fidelity element/lost depth=accepted");
    EXPECT_EQ(finding("<a><a/></a>", "some error\n"), "altered fidelity element/lost");
}

TEST(RulesAboutValues, AreRequiredOfDecodersOnly) {
    const Case c = document_case("<a>x\r\ny</a>", "xml");
    const Finding decoded = judged(c, outcome(A, "elem u8:61 u8:61 u8:\ntext u8:780d0a79\nend"));
    EXPECT_EQ(in_words(decoded), "altered required text/line-end-kept");
    EXPECT_EQ(decoded.clause, "XML 1.0, 2.11");
    Outcome written;
    written.kind = A;
    written.body = "<a>x&#13;\ny</a>";
    const Expectation expectation = expectation_of(c, {});
    EXPECT_EQ(in_words(judge({c, expectation, Subject{}, Operation::round_trip, written})),
              "altered fidelity text/line-end-kept")
        << "a text shows the writer as well";
}

TEST(AdapterFaults, FailOnlyTheRunOfTheirOwnAdapter) {
    Subject own, shipped;
    shipped.implementation.set = "cheap";
    const Case c = document_case("[1]");
    EXPECT_TRUE(judged(c, outcome(OutcomeKind::adapter_fault, "KeyError"), own).failing());
    EXPECT_FALSE(judged(c, outcome(OutcomeKind::adapter_fault, "KeyError"), shipped).failing());
}

TEST(Readings, OfOneDocumentAreMadeOnce) {
    JudgeCache cache;
    const Format& format = *find_format("xml");
    const auto first = cache.read(format, "<p:a/>", {});
    EXPECT_EQ(cache.read(format, "<p:a/>", {}), first);
    EXPECT_NE(cache.read(format, "<p:b/>", {}), first);
    const Settings without{{"namespaces", "off"}};
    EXPECT_TRUE(first->rejection);
    EXPECT_FALSE(cache.read(format, "<p:a/>", without)->rejection) << "read otherwise, it is another reading";
    EXPECT_TRUE(cache.read(*find_format("json"), "<p:a/>", without)->rejection) << "and of another format, too";
    // What was written is read through it.
    const Case c = document_case("<a/>", "xml");
    const Expectation expectation = expectation_of(c);
    Outcome round_trip;
    round_trip.kind = A;
    round_trip.body = "<a></a>";
    const Subject subject;
    JudgeInput input{c, expectation, subject, Operation::round_trip, round_trip};
    input.cache = &cache;
    EXPECT_EQ(in_words(judge(input)), "conforms");
}

/// Kept comparisons and digests are those of the format, whatever else was compared before.
TEST(JudgeCache, KeepsComparisonsOfOtherOptionsApart) {
    const Format& format = *find_format("json");
    std::string exact = "[\ndec 0.1\n", rounded = "[\nbinary64 3fb999999999999a\n", moved = "[\ndec 0.2\n", members;
    for (int i = 0; i < 400; ++i) members += fmt::format("str u8:{}\n", text::to_hex(fmt::format("bell {}", i)));
    std::vector<Trace> values;
    for (const std::string& first : {exact, rounded, moved}) {
        values.push_back(*Trace::parse(first + members + "]\n"));
        ASSERT_GT(values.back().text().size(), 4096U) << "short values are not kept";
    }
    std::vector<CompareOptions> options(6);
    options[1].of_round_trip = true;
    options[2].of_encoding = true;
    options[3].stored_without = options[4].cannot_represent = {"order"};
    options[5].layer = Layer::exact;
    const auto words = [](const Comparison& comparison) {
        std::string out;
        for (const Difference& d : comparison.differences) out += d.at + " " + d.cause + " " + d.detail + "\n";
        for (const Observed& o : comparison.observed) out += o.question + " " + o.answer + "\n";
        return out;
    };
    JudgeCache cache;
    std::set<std::string> different;
    for (int again = 0; again < 2; ++again)
        for (const Trace& expected : values)
            for (const Trace& got : values) {
                for (const CompareOptions& one : options) {
                    const std::string found = words(cache.compare(format, expected, got, one));
                    EXPECT_EQ(found, words(format.compare(expected, got, one)));
                    different.insert(found);
                }
                for (const CannotRepresent& without : {CannotRepresent{}, CannotRepresent{"order"}})
                    EXPECT_EQ(cache.digests(format, got, without), format.digests(got, without));
            }
    EXPECT_GT(different.size(), 3U);
}

struct EncodedRow {
    const char* name;
    const char* value;  ///< the trace that was to be encoded
    std::string written;
    const char* finding;
    const char* writes = "";  ///< what the encoder says of its text
};
class Encoded : public testing::TestWithParam<EncodedRow> {};
TEST_P(Encoded, IsReadByTheReferenceReader) {
    const EncodedRow& row = GetParam();
    Case c = document_case("");
    c.stance = Stance::accept;
    c.value = Trace::parse(std::string(row.value) + "\n");
    ASSERT_TRUE(c.value);
    Outcome o;
    o.kind = A;
    o.body = row.written;
    Subject subject;
    if (*row.writes != '\0') subject.settings["writes"] = row.writes;
    EXPECT_EQ(in_words(judge({c, expectation_of(c, {}), subject, Operation::encode, o})), row.finding);
}
constexpr const char* two_to_63 = "binary64 43e0000000000000";
constexpr const char* tenth_32 = "binary32 3dcccccd";
constexpr const char* bell_sign = "str u8:f09f9494";
INSTANTIATE_TEST_SUITE_P(
    Rows, Encoded,
    testing::Values(
        // A double: any text that reads back to it will do; whether its digits are the fewest is reported.
        EncodedRow{"all_digits", two_to_63, "9223372036854775808", "conforms digits-written=more-digits"},
        EncodedRow{"fewest_digits", two_to_63, "9.223372036854776e+18", "conforms digits-written=shortest"},
        EncodedRow{"zeros_are_no_digits", "binary64 4059000000000000", "100.0", "conforms digits-written=shortest"},
        EncodedRow{"seventeen_digits", "binary64 3fb999999999999a", "0.10000000000000001",
                   "conforms digits-written=more-digits"},
        EncodedRow{"digits_cut", two_to_63, "9.22337203685478e18", "altered fidelity number/few-digits"},
        EncodedRow{"integer_with_14_digits", "int 9007199254740992", "9.007199254741e+15",
                   "altered fidelity number/few-digits"},
        EncodedRow{"integer_by_the_digits_of_its_double", "int 9223372036854775807", "9.223372036854776e+18",
                   "altered fidelity number/integer-rounded"},
        EncodedRow{"no_number", two_to_63, "9.223372036854776e", "ill-formed-output required output/ill-formed"},
        EncodedRow{"float_by_its_own_digits", tenth_32, "0.1", "conforms digits-written=shortest"},
        EncodedRow{"float_by_digits_of_double", tenth_32, "0.10000000149011612",
                   "conforms digits-written=more-digits"},
        EncodedRow{"integers_have_no_choice", "int 12345678901234567890", "12345678901234567890",
                   "conforms number-precision=exact number-range=exact"},
        EncodedRow{"zero_has_none", "binary64 0000000000000000", "0.0", "conforms"},
        EncodedRow{"plain", "str u8:686f7572", R"("hour")", "conforms"},
        EncodedRow{"quote_must", "str u8:22", R"("\"")", "conforms"},
        EncodedRow{"quote_long", "str u8:22", R"("\u0022")", "conforms escapes-written=long-forms"},
        EncodedRow{"line_end_long", "str u8:0a", R"("\u000a")", "conforms escapes-written=long-forms"},
        EncodedRow{"control_must", "str u8:01", R"("\u0001")", "conforms"},
        EncodedRow{"solidus", "str u8:2f", R"("\/")", "conforms escapes-written=solidus"},
        EncodedRow{"solidus_as_it_is", "str u8:2f", R"("/")", "conforms escapes-written=only-required"},
        EncodedRow{"bell", bell_sign, "\"\xF0\x9F\x94\x94\"", "conforms escapes-written=only-required"},
        EncodedRow{"bell_escaped", bell_sign, R"("\uD83D\uDD14")", "conforms escapes-written=beyond-ascii"},
        EncodedRow{"umlaut_escaped", "str u8:c3a4", R"("\u00e4")", "conforms escapes-written=beyond-ascii"},
        EncodedRow{"line_separator", "str u8:e280a8", R"("\u2028")", "conforms escapes-written=line-separators"},
        EncodedRow{"delete", "str u8:7f", R"("\u007f")", "conforms escapes-written=delete"},
        EncodedRow{"markup", "str u8:3c", R"("\u003c")", "conforms escapes-written=markup"},
        EncodedRow{"two_choices", "str u8:3c2f", R"("\u003c\/")",
                   "conforms escapes-written=markup escapes-written=solidus"},
        EncodedRow{"name", "{\nkey u8:2f\nnull\n}", R"({"\/":null})", "conforms escapes-written=solidus"},
        // RFC 8785, where an encoder says that it keeps to it.
        EncodedRow{"canonical", "{\nkey u8:62\nint 1\nkey u8:61\nint 2\n}", R"({"a":2,"b":1})", "conforms",
                   "canonical"},
        EncodedRow{"not_sorted", "{\nkey u8:62\nint 1\nkey u8:61\nint 2\n}", R"({"b":1,"a":2})",
                   "altered required output/not-canonical", "canonical"},
        EncodedRow{"not_sorted_and_not_said", "{\nkey u8:62\nint 1\nkey u8:61\nint 2\n}", R"({"b":1,"a":2})",
                   "conforms"},
        EncodedRow{"number_not_canonical", two_to_63, "9223372036854775808",
                   "altered required output/not-canonical digits-written=more-digits", "canonical"},
        EncodedRow{"space_not_canonical", "[\nnull\n]", "[ null ]", "altered required output/not-canonical",
                   "canonical"},
        EncodedRow{"line_end_after_it", "[\nnull\n]", "[null]\n", "altered required output/not-canonical",
                   "canonical"},
        EncodedRow{"wrong_before_not_canonical", "int 1", "2", "altered fidelity number/wrong-value", "canonical"}),
    [](const auto& info) { return info.param.name; });

struct WrittenRow {
    const char* name;
    std::string value, written, finding;
};
class WritesXml : public testing::TestWithParam<WrittenRow> {};
TEST_P(WritesXml, IsJudgedByTheReader) {
    Case c = document_case("", "xml");
    c.stance = Stance::accept;
    c.value = Trace::parse(GetParam().value);
    ASSERT_TRUE(c.value);
    Outcome o;
    o.kind = A;
    o.body = GetParam().written;
    const Subject subject;
    const Expectation expectation = expectation_of(c, {});
    EXPECT_EQ(in_words(judge({c, expectation, subject, Operation::encode, o})), GetParam().finding);
}
const std::string in_a = "elem u8:61 u8:61 u8:\n";
const std::string of_u = "elem u8:703a61 u8:61 u8:75\nend\n";
INSTANTIATE_TEST_SUITE_P(
    Rows, WritesXml,
    testing::Values(WrittenRow{"empty", in_a + "end\n", "<?xml version='1.0'?>\n<a></a>\n", "conforms"},
                    WrittenRow{"indented", in_a + "text u8:78\nend\n", "<a>\n  x\n</a>",
                               "altered fidelity text/white-space-changed"},
                    WrittenRow{"cdata_as_text", in_a + "cdata u8:3c\nend\n", "<a>&lt;</a>", "conforms"},
                    WrittenRow{"comment_dropped", in_a + "comment u8:78\nend\n", "<a/>",
                               "altered fidelity comment/lost"},
                    WrittenRow{"comment_changed", in_a + "comment u8:78\nend\n", "<a><!-- x --></a>",
                               "altered fidelity comment/changed"},
                    WrittenRow{"instruction_dropped", in_a + "pi u8:70 u8:\nend\n", "<a/>",
                               "altered fidelity instruction/lost"},
                    WrittenRow{"return_raw", in_a + "text u8:780d79\nend\n", "<a>x\ry</a>",
                               "altered fidelity text/reference-normalised"},
                    WrittenRow{"return_referred", in_a + "text u8:780d79\nend\n", "<a>x&#13;y</a>", "conforms"},
                    WrittenRow{"tab_raw_in_value", in_a + "attr u8:62 u8:62 u8: u8:0978 given\nend\n",
                               "<a b='\tx'/>", "altered fidelity attribute/reference-normalised"},
                    WrittenRow{"less_than_raw", in_a + "text u8:3c\nend\n", "<a><</a>",
                               "ill-formed-output fidelity output/ill-formed"},
                    WrittenRow{"control_raw", in_a + "text u8:01\nend\n", "<a>\x01</a>",
                               "ill-formed-output fidelity output/ill-formed"},
                    WrittenRow{"other_prefix", of_u, "<q:a xmlns:q='u'/>", "conforms"},
                    WrittenRow{"default_for_prefix", of_u, "<a xmlns='u'/>", "conforms"},
                    WrittenRow{"no_declaration", of_u, "<p:a/>", "ill-formed-output fidelity output/ill-formed"},
                    WrittenRow{"no_namespace", of_u, "<a/>", "altered fidelity namespace/name-changed"}),
    [](const auto& info) { return info.param.name; });

TEST(WritesXml, NoStandardDemandsThatEveryValueCanBeWritten) {
    for (const char* format : {"json", "xml"}) {
        Case c = document_case("", format);
        c.stance = Stance::accept;
        c.value = Trace::parse(format == std::string("json") ? "int 1\n" : in_a + "end\n");
        const Expectation expectation = expectation_of(c, {});
        const Outcome refused = outcome(R, "no");
        const Subject subject;
        EXPECT_EQ(in_words(judge({c, expectation, subject, Operation::encode, refused})),
                  "too-strict fidelity verdict/refused");
    }
}

// Whoever hands over text has decoded the bytes himself: what that did is not the library's.
TEST(TextInput, IsNotJudgedByBytes) {
    Subject subject;
    subject.settings["input"] = "text";
    for (const auto& [format, document] : {std::pair("json", std::string("\"\xFF\"")),
                                           {"json", std::string("1\0", 2)},
                                           {"json", "\xEF\xBB\xBF[]"},
                                           {"xml", "<a>\xFF</a>"},
                                           {"xml", "\xEF\xBB\xBF<a/>"},
                                           {"xml", "<?xml version='1.0' encoding='UTF-16'?><a/>"},
                                           {"xml", "<?xml version='1.0' encoding='ISO-8859-1'?><a>\xE4</a>"}}) {
        const Case c = document_case(document, format);
        EXPECT_EQ(in_words(judged(c, outcome(R, "no"), subject)), "unsupported") << document;
        EXPECT_NE(in_words(judged(c, outcome(R, "no"))), "unsupported") << document;
    }
    EXPECT_EQ(in_words(judged(document_case("<a>", "xml"), outcome(R, "no"), subject)), "conforms");
    EXPECT_EQ(in_words(judged(document_case("[1", "json"), outcome(A, "[\nint 1\n]"), subject)),
              "unexplained verdict/accepted-non-text");
}

// A round trip of a library without namespaces writes again what it read, undeclared prefixes and all.
TEST(Listed, AreAnsweredQuestionByQuestion) {
    Case c = document_case("<!DOCTYPE a [<!ENTITY e SYSTEM 'x'>]><a>&e;</a>", "xml");
    c.stance = Stance::open;
    c.question = "reach";
    c.answers = {{"reach", "read", Trace::parse(in_a + "text u8:78\nend\n")},
                 {"reach", "passed-over", Trace::parse(in_a + "end\n")}};
    EXPECT_EQ(in_words(judged(c, outcome(A, in_a + "end"))),
              "open external-entities=passed-over reach=passed-over");
    EXPECT_EQ(in_words(judged(c, outcome(A, in_a + "text u8:78\nend"))), "open reach=read");
}

TEST(Listed, AnswersDoNotOverruleTheValue) {
    Case c = document_case(R"({"a":1,"a":2})");
    c.stance = Stance::open;
    c.question = "duplicate-names";
    c.answers = {{"duplicate-names", "all", c.format->read(*c.document).trace},
                 {"duplicate-names", "last", c.format->read(R"({"a":2})").trace}};
    EXPECT_EQ(in_words(judged(c, outcome(A, "{\nkey u8:61\nint 2\n}"))), "open duplicate-names=last");
    EXPECT_EQ(in_words(judged(c, outcome(A, "{\nkey u8:61\nint 1\nkey u8:61\nint 2\n}"))),
              "open duplicate-names=all");
}

TEST(Declared, AnswersAreMeantAndOthersAreFindings) {
    Subject subject;
    subject.implementation.declares = {{"trailing-comma", "accepted"}, {"duplicate-names", "last"}};
    const Finding comma = judged(document_case("[1,]"), outcome(A, "[\nint 1\n]"), subject);
    EXPECT_TRUE(comma.declared);
    EXPECT_FALSE(comma.failing());
    EXPECT_EQ(in_words(judged(document_case(R"({"a":1,"a":2})"), outcome(A, "{\nkey u8:61\nint 1\n}"), subject)),
              "altered fidelity question/undeclared-answer duplicate-names=first");
    EXPECT_FALSE(
        judged(document_case(R"({"a":1,"a":2})"), outcome(A, "{\nkey u8:61\nint 2\n}"), subject).failing());
}

TEST(Excused, FindingsStayAndDoNotFail) {
    const auto with = [](const char* cause, const char* cases) {
        Subject subject;
        subject.implementation.excuses = {{cause, cases, "the bell is cast", ""}};
        return judged(document_case("[0.1,1]"), outcome(A, "[\nbinary64 3fb999999999999b\nint 2\n]"), subject);
    };
    const std::string words = "altered fidelity number/off-by-ulp";
    EXPECT_EQ(in_words(with("number/off-by-ulp", "*")), words);
    EXPECT_TRUE(with("number/off-by-ulp", "*").failing()) << "the other cause is not excused";
    EXPECT_EQ(with("number/off-by-ulp", "*").excused, "");
    EXPECT_TRUE(with("", "y*").failing());
    EXPECT_FALSE(with("", "x").failing());
    EXPECT_EQ(with("", "x").excused, "the bell is cast");
    EXPECT_EQ(in_words(with("", "x")), words);
}

TEST(Failing, IsWhatEndsARunWithStatusOne) {
    Finding finding;
    for (const auto& [kind, basis, failing] : {std::tuple(FindingKind::too_lenient, Basis::permitted, false),
                                               {FindingKind::too_lenient, Basis::advised, true},
                                               {FindingKind::altered, Basis::fidelity, true},
                                               {FindingKind::open, Basis::required, false},
                                               {FindingKind::conforms, Basis::required, false},
                                               {FindingKind::too_strict, Basis::required, true}}) {
        finding.kind = kind;
        finding.basis = basis;
        EXPECT_EQ(finding.failing(), failing);
    }
    finding.kind = FindingKind::failed;
    finding.basis.reset();
    EXPECT_TRUE(finding.failing());
}

TEST(XmlFindings, FollowTheSettings) {
    Subject aware, unaware;
    aware.settings["namespaces"] = "on";
    unaware.settings["namespaces"] = "off";
    const Case c = document_case("<t:a/>", "xml");
    EXPECT_EQ(in_words(judged(c, outcome(R, "no"), aware)), "conforms");
    EXPECT_EQ(in_words(judged(c, outcome(A, "elem u8:743a61 - -\nend"), aware)),
              "too-lenient required verdict/accepted-ill-formed-names");
    EXPECT_EQ(in_words(judged(c, outcome(R, "no"), unaware)), "too-strict required verdict/refused");
    EXPECT_EQ(
        in_words(judged(document_case("<?xml version='1.0' encoding='x-tower'?><a/>", "xml"), outcome(R, "no"))),
        "conforms");
}

TEST(ParameterEntities, LeaveOpenWhatIsInThemWhereTheyAreSkipped) {
    Subject reads, skips;
    reads.settings["namespaces"] = skips.settings["namespaces"] = "on";
    skips.settings["parameter-entities"] = "skipped";
    const Case declared = document_case("<!DOCTYPE a [<!ENTITY % p '<!ENTITY e \"x\">'>%p;]><a>&e;</a>", "xml");
    const Outcome kept = outcome(A, "doctype u8:61\nelem u8:61 u8:61 u8:\nref u8:65\nend");
    EXPECT_EQ(judged(declared, kept, reads).kind, FindingKind::altered);
    EXPECT_EQ(judged(declared, kept, skips).kind, FindingKind::conforms);
    EXPECT_EQ(judged(declared, outcome(R, "undeclared"), skips).kind, FindingKind::open);
    // An error inside one is found by those who read it.
    const Case broken = document_case("<!DOCTYPE a [<!ENTITY % p '<!ELEMENT'>%p;]><a/>", "xml");
    const Outcome accepted = outcome(A, "doctype u8:61\nelem u8:61 u8:61 u8:\nend");
    EXPECT_EQ(judged(broken, accepted, reads).kind, FindingKind::too_lenient);
    EXPECT_EQ(judged(broken, accepted, skips).kind, FindingKind::open);
    EXPECT_EQ(judged(broken, outcome(R, "no"), skips).kind, FindingKind::open);
    // Defaults after the reference are not supplied; those before it are.
    const Case after = document_case("<!DOCTYPE a [<!ENTITY % p ''>%p;<!ATTLIST a b CDATA 'd'>]><a/>", "xml");
    EXPECT_EQ(judged(after, accepted, skips).kind, FindingKind::conforms);
    EXPECT_EQ(judged(after, accepted, reads).kind, FindingKind::altered);
}

TEST(CausesTable, IsInTheDocumentation) {
    std::ifstream in(SOURCE_FOLDER "/docs/causes.md");
    const std::string text{std::istreambuf_iterator<char>(in), std::istreambuf_iterator<char>()};
    for (const Format* format : formats()) {
        std::string table = "| cause | meaning | smallest document |\n|---|---|---|\n";
        for (const Cause& c : format->constants().causes)
            table += "| `" + c.slug + "` | " + c.meaning + " | `" + c.smallest + "` |\n";
        EXPECT_NE(text.find(table), std::string::npos) << "docs/causes.md should hold:\n" << table;
    }
}

}  // namespace

// The reference position: the first byte after which no continuation is a document. What stands before it is
// completed to one here, and with that byte nothing completes it, by thousands of ends put together from the words
// of the grammar.
#include <gtest/gtest.h>

#include <set>
#include <span>

#include <nachklang/corpus.hpp>

namespace {

using namespace nachklang;

/// XML: every end of every such piece may complete a construct that broke off in it.
constexpr std::string_view pieces[] = {
    "<!DOCTYPE a>",
    "<!ELEMENT a ANY>",
    "EMPTY>",
    "(#PCDATA)>",
    "((a))>",
    "|#PCDATA|a)*>",
    "|a)>",
    ",a)>",
    "<!ATTLIST a b CDATA ''>",
    "#IMPLIED>",
    "#REQUIRED>",
    "#FIXED ''>",
    "<!ENTITY % e ''>",
    "SYSTEM ''>",
    "NDATA n>",
    "PUBLIC '' ''>",
    "x\" ''>",
    "<!NOTATION n SYSTEM ''>",
    "IDREFS #IMPLIED>",
    "ENTITY #IMPLIED>",
    "ENTITIES #IMPLIED>",
    "NMTOKENS #IMPLIED>",
    "NOTATION (a) #IMPLIED>",
    "|a) #IMPLIED>",
    "<![CDATA[]]>",
    "<!---->",
    "<?x x?>",
    "<?xml version='1.0'?>",
    " encoding='UTF-8'?>",
    " standalone='no'?>",
    "standalone='yes'?>",
    "encoding=\"UTF-8\"?>",
    "standalone=\"yes\"?>",
    "no\"?>",
    "version=\"1.0\"?>",
    " x=''",
    "=\"\"",
    "&#x1A;",
    "&lt;",
    "9;",
    "  x",
    " x='",
    "x=\"\">",
    "=''/>",
    "<a/>",
    "--",
};
/// And then what is still open.
constexpr std::string_view ends[] = {
    "",         "</a>",   "<a/>",    "]><a/>", "><a/>",    ">]><a/>",   "a/>",      "></a>",    "<b/></a>",
    "</b></a>", "-></a>", "--></a>", "'/>",    "\"/>",     "?></a>",    "]]></a>",  "'>]><a/>", "\">]><a/>",
    "--><a/>",  "?><a/>", "a>",      "/>",     "?>]><a/>", "-->]><a/>", "%>]><a/>", "'><a/>",
};

/// The same of JSON: what is open is closed in every order of three.
constexpr std::string_view json_pieces[] = {"true", "false", "null",     "\"a\"",         "\"a\":1", "-1",
                                            "1",    ".1",    "e1",       "e+1",           "\\u000A", "n",
                                            ":1",   ",1",    ",\"b\":1", "\\ud83d\\udd14"};
constexpr std::string_view json_ends[] = {"",     "\"",   "]",    "}",   "\"]", "\"}",   "\":1}",  "]]",
                                          "]}",   "}]",   "}}",   "1]",  "1}",  ":1}",   "\":1}]", "]]]",
                                          "]]}",  "]}]",  "]}}",  "}]]", "}]}", "}}]",   "}}}",    "\"]]",
                                          "\"]}", "\"}]", "\"}}", "1]]", "1}]", "\":1}}"};

struct Grammar {
    const char* format;
    std::span<const std::string_view> pieces, ends;
    std::size_t cases;  ///< at least so many are placed by the grammar
};

std::vector<std::string> completions(const Grammar& grammar) {
    std::set<std::string> middles;
    for (const std::string_view piece : grammar.pieces)
        for (std::size_t at = 0; at <= piece.size(); ++at) middles.emplace(piece.substr(at));
    std::set<std::string> out;
    for (const std::string& middle : middles)
        for (const std::string_view end : grammar.ends) out.insert(middle + std::string(end));
    return {out.begin(), out.end()};
}

/// The first completion that makes a document of it.
std::optional<std::string> completed(const Format& format, const std::string& begin,
                                     const std::vector<std::string>& by) {
    ReadOptions options;
    options.trace = false;
    options.namespaces = false;
    for (const std::string& completion : by)
        if (format.read(begin + completion, options).accepted()) return completion;
    return std::nullopt;
}

class Positions : public testing::TestWithParam<Grammar> {};
TEST_P(Positions, AreTheFirstByteThatNothingCompletes) {
    const Format& format = *find_format(GetParam().format);
    const auto corpus = load_corpus(std::string(SOURCE_FOLDER "/corpora/") + GetParam().format);
    ASSERT_TRUE(corpus.ok()) << corpus.problem().line();
    const auto by = completions(GetParam());
    std::size_t checked = 0;
    for (const Case& c : corpus.value().cases) {
        if (!c.document || c.document->size() > 300 || text::first_ill_formed(*c.document)) continue;
        const std::string& document = *c.document;
        ReadOptions options;
        options.namespaces = false;
        const auto rejection = format.read(document, options).rejection;
        if (!rejection || !rejection->trail.empty()) continue;
        // A broken constraint of XML is placed by its name; only productions are by what nothing continues.
        const bool constraint = rejection->clause.find("WFC") != std::string::npos ||
                                rejection->clause.find("4.3.3") != std::string::npos;
        if (constraint) continue;
        ++checked;
        const std::size_t at = rejection->position.offset;
        EXPECT_TRUE(completed(format, document.substr(0, at), by))
            << c.name << " is placed too late, at " << at << ": " << rejection->message;
        if (at >= document.size()) continue;
        const std::size_t past = at + text::decode_utf8(document, at).length;
        const auto end = completed(format, document.substr(0, past), by);
        EXPECT_FALSE(end) << c.name << " is placed too early, at " << at << ": completed by " << *end;
    }
    EXPECT_GE(checked, GetParam().cases);
}
INSTANTIATE_TEST_SUITE_P(All, Positions,
                         testing::Values(Grammar{"json", json_pieces, json_ends, 300},
                                         Grammar{"xml", pieces, ends, 700}),
                         [](const auto& info) { return info.param.format; });

}  // namespace

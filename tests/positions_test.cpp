// The reference position: the first byte after which no continuation is a document. The text before it is
// completed to one here, and with that byte nothing completes it, by thousands of ends put together from the words
// of the grammar.
#include <gtest/gtest.h>

#include <map>
#include <set>
#include <span>

#include <nachklang/corpus.hpp>

#include "sequences.hpp"

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
    const Settings settings{{"namespaces", "off"}};
    for (const std::string& completion : by)
        if (!verdict_of(format, begin + completion, settings)) return completion;
    return std::nullopt;
}

/// Holds positions against their definition; what a beginning is completed by is worked out once.
class Placement {
  public:
    explicit Placement(const Grammar& grammar) : format_(*find_format(grammar.format)), by_(completions(grammar)) {}

    /// Empty where the position is right, or where the text is a document or no matter of the grammar.
    std::string problem(const std::string& document) {
        const auto rejection = format_.read(document, {{{"namespaces", "off"}}, {}}).rejection;
        if (!rejection || !rejection->entity_stack.empty()) return "";
        // A broken constraint of XML is placed by its name; only productions are by what nothing continues.
        const bool constraint = rejection->clause.find("WFC") != std::string::npos ||
                                rejection->clause.find("4.3.3") != std::string::npos;
        if (constraint) return "";
        ++checked_;
        const std::size_t at = rejection->position.offset;
        if (!completion_of(document.substr(0, at)))
            return "placed too late, at " + std::to_string(at) + ": " + rejection->message;
        if (at >= document.size()) return "";
        const auto end = completion_of(document.substr(0, at + text::decode_utf8(document, at).length));
        return end ? "placed too early, at " + std::to_string(at) + ": completed by " + *end : "";
    }
    [[nodiscard]] std::size_t checked() const { return checked_; }

  private:
    const std::optional<std::string>& completion_of(const std::string& begin) {
        const auto known = known_.find(begin);
        return known != known_.end() ? known->second
                                     : known_.emplace(begin, completed(format_, begin, by_)).first->second;
    }
    const Format& format_;
    const std::vector<std::string> by_;
    std::map<std::string, std::optional<std::string>> known_;
    std::size_t checked_ = 0;
};

class Positions : public testing::TestWithParam<Grammar> {};
TEST_P(Positions, AreTheFirstByteThatNothingCompletes) {
    const auto corpus = load_corpus(std::string(SOURCE_FOLDER "/corpora/") + GetParam().format);
    ASSERT_TRUE(corpus.ok()) << corpus.problem().line();
    Placement placement(GetParam());
    for (const Case& c : corpus.value().cases) {
        if (!c.document || c.document->size() > 300 || text::first_ill_formed(*c.document)) continue;
        EXPECT_EQ(placement.problem(*c.document), "") << c.name;
    }
    EXPECT_GE(placement.checked(), GetParam().cases);
}
/// (JSON has a second opinion on positions: exhaustive_test holds the reader against it.)
TEST(XmlPositions, AreSoForEveryTextOfUpToThreeTokens) {
    // No names but a and b, for those alone the ends above close.
    const std::vector<std::string> tokens{"<a>",  "<a ", "</a>", "</a ", "/>",        ">",  " b=", "'", "\"",
                                          "&lt;", "&#",  "&",    ";",    "9",         " ",  "<",   "!", "?",
                                          "<!--", "--",  "-->",  "<?p",  "<![CDATA[", "]]", "]",   "[", "="};
    std::vector<std::string> closed;
    for (const std::string_view end : ends)
        for (const char* outer : {"", "</a>", "</a></a>"})
            if (*outer == '\0' || end.empty() || end.ends_with('>')) closed.push_back(std::string(end) + outer);
    const std::vector<std::string_view> all(closed.begin(), closed.end());
    Placement placement(Grammar{"xml", pieces, all, 0});
    std::size_t wrong = 0;
    const std::size_t texts = for_each_sequence(tokens, 3, [&](const std::string& text) {
        const std::string problem = placement.problem(text);
        if (!problem.empty() && ++wrong <= 10) ADD_FAILURE() << text::printable(text) << " is " << problem;
    });
    EXPECT_EQ(wrong, 0U);
    EXPECT_EQ(texts, 20'440U);  // 27^0 + 27 + 27^2 + 27^3
    EXPECT_GT(placement.checked(), texts - texts / 10) << "nearly all of them are no documents";
}
INSTANTIATE_TEST_SUITE_P(All, Positions,
                         testing::Values(Grammar{"json", json_pieces, json_ends, 300},
                                         Grammar{"xml", pieces, ends, 700}),
                         [](const auto& info) { return info.param.format; });

}  // namespace

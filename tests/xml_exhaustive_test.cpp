// The XML reader against the second recogniser: every small text, every case of the corpus, and mutations of all of
// them. They must agree on both verdicts and on the value.
#include <gtest/gtest.h>

#include <random>

#include <nachklang/corpus.hpp>
#include <nachklang/xml.hpp>

#include "sequences.hpp"
#include "xml_agreement.hpp"

namespace {

using namespace nachklang;

class Agreement {
  public:
    void check(std::string_view text) {
        ++count_;
        const std::string problem = disagreement(text);
        if (!problem.empty() && ++wrong_ <= 12) ADD_FAILURE() << text::printable(text) << ": " << problem;
    }
    [[nodiscard]] std::size_t count() const { return count_; }
    [[nodiscard]] std::size_t wrong() const { return wrong_; }

  private:
    std::size_t count_ = 0, wrong_ = 0;
};

void every_text(const std::vector<std::string>& pieces, std::size_t longest, Agreement& agreement) {
    for_each_sequence(pieces, longest, [&](const std::string& text) { agreement.check(text); });
}

TEST(XmlExhaustive, EveryTextOfUpToSevenBytesOverElevenCharacters) {
    Agreement agreement;
    every_text({"<", "a", "/", ">", "=", "\"", "&", ";", "!", "x", " "}, 7, agreement);
    EXPECT_EQ(agreement.wrong(), 0U);
    EXPECT_EQ(agreement.count(), 21435888U);  // 11^0 + … + 11^7
}

TEST(XmlExhaustive, EveryTextOfUpToFourTokens) {
    Agreement agreement;
    every_text({"<a>",
                "</a>",
                "<b",
                "/>",
                ">",
                " ",
                "c='",
                "'",
                "&lt;",
                "&#60;",
                "&",
                "]]>",
                "<!--",
                "-->",
                "<![CDATA[",
                "<?p ",
                "?>",
                "--",
                "<?xml version='1.0'?>",
                "xmlns:p='u'",
                " p:c='1'",
                "x",
                "\r\n",
                "\xC3\xA9",
                "\xC3",
                "\x01",
                "<!DOCTYPE a [",
                "]>",
                "<!ENTITY e 'y'>",
                "&e;"},
               4, agreement);
    EXPECT_EQ(agreement.wrong(), 0U);
    EXPECT_EQ(agreement.count(), 837931U);
}

std::vector<std::string> small_documents() {
    auto corpus = load_corpus(SOURCE_FOLDER "/corpora/xml");
    if (!corpus.ok()) throw std::runtime_error(corpus.problem().line());
    std::vector<std::string> out;
    for (const Case& c : corpus.value().cases)
        if (c.document && c.document->size() <= 300) out.push_back(*c.document);
    return out;
}

TEST(XmlMutants, OfTheCorpusAgree) {
    Agreement agreement;
    const auto documents = small_documents();
    std::mt19937_64 random(1);
    const std::vector<std::string> pieces{"<",    ">",   "&",   ";",     "'",  "\"", "=",  "/", "!",  "?",
                                          "[",    "]",   "%",   "#",     ":",  " ",  "\r", "x", "--", "]]>",
                                          "&lt;", "&e;", "%p;", "xmlns", "p:", "|",  ",",  "(", ")"};
    for (const std::string& document : documents) {
        agreement.check(document);
        for (int i = 0; i < 200; ++i) {
            std::string text = document;
            const std::size_t at = random() % (text.size() + 1),
                              length = std::min<std::size_t>(random() % 6, text.size() - at);
            switch (random() % 4) {
                case 0:
                    text.erase(at, length);
                    break;
                case 1:
                    text.insert(at, text.substr(at, length));
                    break;
                case 2:
                    text.insert(at, pieces[random() % pieces.size()]);
                    break;
                default:
                    text.replace(at, length, pieces[random() % pieces.size()]);
            }
            agreement.check(text);
        }
    }
    EXPECT_EQ(agreement.wrong(), 0U);
    EXPECT_GT(agreement.count(), 100000U);
}

/// Each special character at every place of two blocks of 16 bytes, in texts whose ends lie in every place, too.
TEST(XmlVectorCode, ReadsAsScalarCodeDoesAtEveryPlaceOfABlock) {
    const std::vector<std::string> pieces{"<b/>",
                                          "&amp;",
                                          "&",
                                          "]]>",
                                          "]",
                                          "\r\n",
                                          "\t",
                                          "\x01",
                                          "\x7F",
                                          "\xC3\xA9",
                                          "\xEF\xBF\xBE",
                                          "\xEF\xBF\xBD",
                                          "\xC0\xAF",
                                          "<!--c-->",
                                          "<![CDATA[x]]>",
                                          ""};
    std::size_t checked = 0;
    for (const std::string& piece : pieces)
        for (std::size_t before = 0; before < 33; ++before)
            for (std::size_t after = 0; after < 33; after += 3) {
                const std::string text =
                    "<a>" + std::string(before, 'x') + piece + std::string(after, 'y') + "</a>";
                EXPECT_EQ(differing_instructions(text), "") << text::printable(text);
                ++checked;
            }
    EXPECT_EQ(checked, pieces.size() * 33 * 11);
}

TEST(XmlVectorCode, ReadsEveryDocumentOfTheCorpusAsScalarCodeDoes) {
    const auto corpus = load_corpus(SOURCE_FOLDER "/corpora/xml");
    ASSERT_TRUE(corpus.ok());
    for (const Case& c : corpus.value().cases)
        if (c.document) {
            EXPECT_EQ(differing_instructions(*c.document), "") << c.name;
        }
}

}  // namespace

// The XML reader beside the second opinion: every small text, every case of the corpus, and mutations of all of
// them. They must agree on both verdicts and on the value.
#include <gtest/gtest.h>

#include <random>

#include <nachklang/corpus.hpp>
#include <nachklang/xml.hpp>

#include "oracle/xml_recogniser.hpp"
#include "sequences.hpp"

namespace {

using namespace nachklang;

/// What the recogniser was not written for: it refuses them, and says nothing by that.
bool beyond_the_recogniser(const xml::Reading& reading) {
    return !reading.unreadable_because.empty() ||
           std::any_of(reading.occurrences.begin(), reading.occurrences.end(), [](const Occurrence& t) {
               return t.question == "encoding" || t.question == "parameter-entity-inside-declaration" ||
                      t.question == "undeclared-entity";
           });
}

/// Empty where both agree.
std::string disagreement(std::string_view text) {
    const xml::Reading reading = xml::read(text);
    if (beyond_the_recogniser(reading)) return "";
    std::optional<std::string> trace;
    std::string why;
    try {
        trace = oracle::print_xml_trace(oracle::recognise_xml(text));
    } catch (const oracle::XmlRefused& refused) {
        why = refused.what();
    }
    const bool accepted = !reading.rejection && !reading.namespace_rejection;
    if (accepted != trace.has_value()) {
        const auto& rejection = reading.rejection ? reading.rejection : reading.namespace_rejection;
        return accepted ? "only the reader accepts: " + why : "only the recogniser accepts: " + rejection->message;
    }
    if (accepted && reading.trace.text() != *trace) return "another value: " + *trace;
    return "";
}

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

}  // namespace

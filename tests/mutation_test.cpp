// Every document of the shipped corpora, cut and mutated at every place: the JSON reader beside the second opinion,
// the XML reader against what must hold of any prefix.
#include <gtest/gtest.h>

#include <nachklang/corpus.hpp>
#include <nachklang/json.hpp>
#include <nachklang/xml.hpp>

#include "instructions.hpp"
#include "oracle/json_recogniser.hpp"

namespace {

using namespace nachklang;

constexpr std::size_t longest = 160;

std::vector<std::string> small_documents(const char* format) {
    auto corpus = load_corpus(std::string(SOURCE_FOLDER "/corpora/") + format);
    if (!corpus.ok()) throw std::runtime_error(corpus.problem().line());
    std::vector<std::string> out;
    for (const Case& c : corpus.value().cases)
        if (c.document && c.document->size() <= longest) out.push_back(*c.document);
    return out;
}

/// Empty where the reader and the recogniser agree on verdict, value and offset.
std::string disagreement(const std::string& text) {
    const json::Document document = json::Document::read(text);
    const oracle::Recognised second = oracle::recognise(text);
    if (document.accepted() != second.value.has_value()) return "verdict";
    if (!document.accepted()) return document.rejection()->position.offset == second.error_offset ? "" : "offset";
    return document.trace().text() == oracle::print_trace(*second.value) ? "" : "value";
}

class Mutations {
  public:
    void check(const std::string& text) {
        std::string problem = disagreement(text);
        if (problem.empty()) problem = differing_instructions(padded(text, count_ % 64));
        ++count_;
        if (!problem.empty() && ++wrong_ <= 10) ADD_FAILURE() << problem << ": " << text::printable(text);
    }
    [[nodiscard]] std::size_t count() const { return count_; }
    [[nodiscard]] std::size_t wrong() const { return wrong_; }

  private:
    std::size_t count_ = 0, wrong_ = 0;
};

TEST(JsonMutations, CutAtEveryByte) {
    Mutations mutations;
    for (const std::string& document : small_documents("json"))
        for (std::size_t at = 0; at <= document.size(); ++at) mutations.check(document.substr(0, at));
    EXPECT_EQ(mutations.wrong(), 0U);
    EXPECT_GT(mutations.count(), 3000U);
}

TEST(JsonMutations, WithoutOneByteAndWithOneTwice) {
    Mutations mutations;
    for (const std::string& document : small_documents("json")) {
        for (std::size_t at = 0; at < document.size(); ++at) {
            mutations.check(document.substr(0, at) + document.substr(at + 1));
            mutations.check(document.substr(0, at + 1) + document.substr(at));
        }
    }
    EXPECT_EQ(mutations.wrong(), 0U);
}

TEST(JsonMutations, WithOneByteReplaced) {
    Mutations mutations;
    const std::string bytes("\0\x1F\"\\,:[]{}0e-.u\x7F\x80\xC3\xED\xF4\xFF", 21);
    for (const std::string& document : small_documents("json")) {
        for (std::size_t at = 0; at < document.size(); ++at) {
            std::string text = document;
            for (const char c : bytes) {
                text[at] = c;
                mutations.check(text);
            }
        }
    }
    EXPECT_EQ(mutations.wrong(), 0U);
}

TEST(JsonMutations, SplicedFromTwoDocuments) {
    Mutations mutations;
    const auto documents = small_documents("json");
    for (std::size_t i = 0; i + 1 < documents.size(); ++i)
        for (std::size_t at = 0; at < documents[i].size(); at += 3)
            mutations.check(documents[i].substr(0, at) +
                            documents[i + 1].substr(std::min(at, documents[i + 1].size())));
    EXPECT_EQ(mutations.wrong(), 0U);
}

TEST(JsonMutations, NeverUpsetWhatIsExpected) {
    // The expectation of any text must come about: extensions, encodings and repairs are tried on all of them.
    std::size_t open = 0, rejected = 0;
    for (const std::string& document : small_documents("json")) {
        for (std::size_t at = 0; at < document.size(); ++at) {
            const Expectation expectation = json::format().expect(document.substr(0, at) + document.substr(at + 1));
            if (expectation.stance == Stance::open) ++open;
            if (expectation.stance == Stance::reject) {
                ++rejected;
                EXPECT_FALSE(expectation.clause.empty());
                EXPECT_FALSE(expectation.acceptance_cause.empty());
            }
        }
    }
    EXPECT_GT(open, 0U);
    EXPECT_GT(rejected, 1000U);
}

/// Where a well-formed document of UTF-8 breaks off, the error is there; but for the white space and markup that
/// may follow a root, every proper prefix is no document.
TEST(XmlMutations, CutAtEveryByteTheErrorIsTheEnd) {
    std::size_t cuts = 0;
    for (const std::string& document : small_documents("xml")) {
        const xml::Reading whole = xml::read(document);
        // A start of a document in another encoding need not tell that it is one.
        const bool wide = document.starts_with("\xFF") || document.starts_with("\xFE") ||
                          std::any_of(whole.occurrences.begin(), whole.occurrences.end(),
                                      [](const Occurrence& t) { return t.question == "encoding"; });
        if (whole.rejection || !whole.unreadable_because.empty() || wide || text::first_ill_formed(document))
            continue;
        for (std::size_t at = 0; at < document.size(); ++at) {
            const std::string prefix = document.substr(0, at);
            const xml::Reading reading = xml::read(prefix);
            if (!reading.rejection) continue;
            if (text::first_ill_formed(prefix)) continue;  // cut inside a character: that is where the error is
            ++cuts;
            EXPECT_EQ(reading.rejection->position.offset, at)
                << text::printable(prefix) << ": " << reading.rejection->message;
        }
    }
    EXPECT_GT(cuts, 400U);
}

TEST(XmlMutations, PositionsLieInsideTheDocument) {
    for (const std::string& document : small_documents("xml")) {
        for (std::size_t at = 0; at < document.size(); ++at) {
            for (const char* insert : {"<", ">", "&", "\"", "\x01", "]]>", "--", "\xFF"}) {
                const std::string text = document.substr(0, at) + insert + document.substr(at);
                const xml::Reading reading = xml::read(text);
                if (!reading.rejection) continue;
                ASSERT_LE(reading.rejection->position.offset, text.size()) << text::printable(text);
                ASSERT_GE(reading.rejection->position.column, 1U);
                ASSERT_FALSE(reading.rejection->clause.empty());
            }
        }
    }
}

}  // namespace

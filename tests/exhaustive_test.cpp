// Every small text through the reference reader and the second opinion: they must agree on verdict, value and
// offset.
#include <gtest/gtest.h>

#include <array>
#include <string>
#include <vector>

#include <nachklang/json.hpp>

#include "instructions.hpp"
#include "oracle/json_recogniser.hpp"
#include "sequences.hpp"

namespace {

using nachklang::json::Document;
using nachklang::json::VerdictReader;

/// Empty where both agree; otherwise what differs.
std::string disagreement(const std::string& text) {
    const Document document = Document::read(text);
    const oracle::Recognised second = oracle::recognise(text);
    if (document.accepted() != second.value.has_value())
        return document.accepted() ? "only the reader accepts" : "only the recogniser accepts";
    if (!document.accepted() && document.rejection()->position.offset != second.error_offset)
        return "offset " + std::to_string(document.rejection()->position.offset) + " or " +
               std::to_string(second.error_offset);
    if (document.accepted() && document.trace().text() != oracle::print_trace(*second.value))
        return "another value";
    return "";
}

void expect_agreement(const std::string& text, std::size_t& wrong) {
    const std::string problem = disagreement(text);
    if (problem.empty()) return;
    if (++wrong <= 10) ADD_FAILURE() << nachklang::text::printable(text) << ": " << problem;
}

TEST(Exhaustive, EveryTextOfUpToSixBytesOverTwelveCharacters) {
    const std::vector<std::string> characters{"[", "]", "{", "}", "\"", ":", ",", "0", "1", "-", ".", "e"};
    std::size_t wrong = 0;
    const std::size_t count =
        for_each_sequence(characters, 6, [&](const std::string& text) { expect_agreement(text, wrong); });
    EXPECT_EQ(wrong, 0U);
    EXPECT_EQ(count, 3257437U);  // 12^0 + … + 12^6
    RecordProperty("texts", static_cast<int>(count));
    std::printf("texts of up to 6 bytes over 12 characters: %zu\n", count);
}

TEST(Exhaustive, EveryTextOfUpToFiveTokens) {
    const std::vector<std::string> tokens{"[",
                                          "]",
                                          "{",
                                          "}",
                                          "\"",
                                          ":",
                                          ",",
                                          " ",
                                          "0",
                                          "12",
                                          "-",
                                          ".5",
                                          "e",
                                          "E+",
                                          "tru",
                                          "e]",
                                          "null",
                                          "\\",
                                          "\\u00",
                                          "\\ud83d",
                                          "\\udd14",
                                          "\\u0000",
                                          "\xC3",
                                          "\xA9",
                                          "\xED\xA0\x80",
                                          "\xF0\x9F\x94\x94",
                                          "\x1F",
                                          "\n",
                                          "\"a\"",
                                          "\"b\":"};
    ASSERT_EQ(tokens.size(), 30U);
    std::size_t wrong = 0;
    const std::size_t count =
        for_each_sequence(tokens, 5, [&](const std::string& text) { expect_agreement(text, wrong); });
    EXPECT_EQ(wrong, 0U);
    EXPECT_EQ(count, 25137931U);  // 30^0 + … + 30^5
    std::printf("texts of up to 5 tokens out of 30: %zu\n", count);
}

TEST(Exhaustive, AllInstructionsReadEveryTextAlike) {
    const std::vector<std::string> tokens{"[",
                                          "]",
                                          "{",
                                          "}",
                                          "\"",
                                          ":",
                                          ",",
                                          " ",
                                          "0",
                                          "12",
                                          "-",
                                          ".5",
                                          "e",
                                          "E+",
                                          "true",
                                          "false",
                                          "\\u00e9",
                                          "\\ud83d",
                                          "\\u0000",
                                          "\\udd14",
                                          "\\x",
                                          "\xC3\xA9",
                                          "\xED\xA0\x80",
                                          "\xF0\x9F\x94\x94",
                                          "\x1F",
                                          "\n",
                                          "\"a\"",
                                          "\"b\":"};
    std::size_t wrong = 0, count = 0;
    for_each_sequence(tokens, 4, [&](const std::string& text) {
        // Behind a quote, a string as long as the shift: blocks end at every place of the text.
        const std::size_t shift = ++count % 40;
        const std::string before = shift < 4 ? std::string(shift, ' ') : "[\"" + std::string(shift - 3, 'a');
        const std::string problem = differing_instructions(padded(before + text, 0));
        if (!problem.empty() && ++wrong <= 5) ADD_FAILURE() << nachklang::text::printable(text) << ": " << problem;
    });
    EXPECT_EQ(wrong, 0U);
}

TEST(Exhaustive, VerdictInPiecesDoesNotDependOnTheCuts) {
    const std::vector<std::string> tokens{"[", "]",  "{",  "}",    "\"",      ":",        ",",    "1",
                                          "-", ".5", "e3", "true", "\\u00e9", "\xC3\xA9", "\xC3", "\r\n"};
    std::size_t wrong = 0;
    for_each_sequence(tokens, 4, [&](const std::string& text) {
        const auto whole = Document::read(text).rejection();
        for (std::size_t cut = 0; cut <= text.size(); ++cut) {
            VerdictReader reader;
            reader.feed(std::string_view(text).substr(0, cut));
            reader.feed(std::string_view(text).substr(cut));
            const auto rejection = reader.finish();
            const bool same =
                rejection.has_value() == whole.has_value() &&
                (!whole || (rejection->position == whole->position && rejection->message == whole->message));
            if (!same && ++wrong <= 5) ADD_FAILURE() << nachklang::text::printable(text) << " cut at " << cut;
        }
    });
    EXPECT_EQ(wrong, 0U);
}

}  // namespace

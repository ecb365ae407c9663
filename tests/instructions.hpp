// The reader with every set of instructions on one text.
#pragma once

#include <string>

#include <nachklang/json.hpp>

/// White space round a text, so much after it that vector code takes all of its tokens.
inline std::string padded(const std::string& text, std::size_t before) {
    return std::string(before, ' ') + text + std::string(192, ' ');
}

/// Empty where all sets of instructions give the same tape, or the same rejection, and the verdict in pieces too.
inline std::string differing_instructions(std::string_view text) {
    using namespace nachklang::json;
    const Document scalar = Document::read(text, Instructions::scalar);
    for (const Instructions other : {Instructions::sse2, Instructions::avx2}) {
        const std::string name = other == Instructions::sse2 ? "SSE2" : "AVX2";
        const Document document = Document::read(text, other);
        if (document.accepted() != scalar.accepted()) return name + ": another verdict";
        if (!scalar.accepted()) {
            if (document.rejection()->position != scalar.rejection()->position) return name + ": another position";
            if (document.rejection()->message != scalar.rejection()->message) return name + ": another message";
        }
        if (document.deepest() != scalar.deepest()) return name + ": another depth";
        const auto same = [](const Entry& a, const Entry& b) {
            return a.kind == b.kind && a.flags == b.flags && a.begin == b.begin && a.end == b.end;
        };
        if (!std::equal(document.tape().begin(), document.tape().end(), scalar.tape().begin(), scalar.tape().end(),
                        same))
            return name + ": another tape";
        VerdictReader verdict(other);
        verdict.feed(text);
        const auto rejection = verdict.finish();
        if (rejection.has_value() == scalar.accepted()) return name + ": another verdict without a tape";
        if (rejection && rejection->position != scalar.rejection()->position)
            return name + ": another position without a tape";
    }
    return "";
}

// Answers by which a value is lost.
#pragma once

#include <algorithm>
#include <optional>
#include <string>

#include <nachklang/judge.hpp>

namespace nachklang {

/// An answer that does not keep the value, of a question that could be answered so that it is kept:
/// "negative-zero: lost". Nothing for other answers.
inline std::optional<std::string> loss_of(const Format& format, const GivenAnswer& given) {
    const Question* question = find_question(format, given.question);
    if (question == nullptr || question->limit) return std::nullopt;
    const KnownAnswer* answer = question->find(given.answered);
    const bool can_be_kept = std::ranges::any_of(question->answers, &KnownAnswer::keeps_value);
    if (answer == nullptr || answer->keeps_value || !can_be_kept) return std::nullopt;
    return given.question + ": " + given.answered;
}

}  // namespace nachklang

// The points that RFC 8259 leaves open, their thresholds, and the causes a finding about JSON may carry.
#pragma once

#include <span>

#include <nachklang/json.hpp>

namespace nachklang::json {

std::span<const Question> all_questions();
std::span<const Cause> all_causes();
const Question& question_named(std::string_view id);

/// Every open point of a document that is JSON.
std::vector<Touch> touches_of(const Document& document);

/// Adds a touch, or counts it into the one of the same question.
void add_touch(std::vector<Touch>& touches, std::string_view question, std::size_t offset, std::size_t amount);

}  // namespace nachklang::json

// The points that RFC 8259 leaves open, their thresholds, and the causes a finding about JSON may carry.
#pragma once

#include <span>

#include <nachklang/json.hpp>
#include <nachklang/number.hpp>

namespace nachklang::json {

std::span<const Question> all_questions();
std::span<const Cause> all_causes();
const Question& question_named(std::string_view id);

/// Every open point of a document that is JSON.
std::vector<Occurrence> occurrences_of(const Document& document);

/// Whether a number raises number-precision: binary32 cannot hold it.
bool exact_in_binary32(const Decimal& value);
/// Whether it raises number-range: beyond ±(2^31-1) for an integer, beyond a binary64 for any number. `nearest` is
/// its nearest binary64.
bool beyond_range(const Decimal& value, std::uint64_t nearest);

/// Adds a raise, or counts it into the one of the same question.
void add_occurrence(std::vector<Occurrence>& occurrences, std::string_view question, std::size_t offset,
                    std::size_t amount);

}  // namespace nachklang::json

// Why one leaf is not the other: the known mistakes, tried one after another.
#pragma once

#include <nachklang/json.hpp>

namespace nachklang::json {

/// The explanation of a pair of values: a difference (cause set), an answer to a question (question set), or
/// neither.
struct Explained {
    std::string cause;
    std::string question;
    std::string answer;
    std::string detail;
    [[nodiscard]] bool is_difference() const { return !cause.empty(); }
};

/// Compares a stored number with the expected one. Always answers a question that the expected number raises.
std::vector<Explained> explain_number(const Item& expected, const Item& got, const CompareOptions& options);
/// Explains two strings or names whose atoms differ; `prefix` is "string" or "name".
Explained explain_string(std::string_view expected, std::string_view got, bool is_name);
/// A short description of one value.
std::string shown_scalar(const Item& item, ItemKind kind, std::size_t most);
/// A number of that kind without the word of its kind.
std::string shown_number(const Item& item, ItemKind kind);
/// How numbers of a kind are stored, in a word.
std::string kind_word(ItemKind kind);

}  // namespace nachklang::json

// How near implementations are to each other by their answers: a distance for each pair, and the tree that joins
// the nearest first (average linkage: Sokal and Michener 1958).
#pragma once

#include <cstdint>
#include <map>
#include <memory>
#include <span>
#include <string>
#include <vector>

namespace nachklang {

/// What one implementation answers.
struct AnswerRow {
    std::string name;
    std::vector<std::uint64_t> answers;            ///< by case, equal for equal answers; 0: not asked
    std::map<std::string, std::string> questions;  ///< the answer that it gives most often
};

/// A question that sets the two sides of a branch apart, with the answer that most on each side give.
struct SeparatingQuestion {
    std::string question, left, right;
};

/// A leaf is one implementation; a branch joins two sides.
struct RelationNode {
    std::size_t row = 0;  ///< of a leaf: the index of its AnswerRow
    double distance = 0;  ///< of a branch: the mean share of cases, over all pairs across it, answered otherwise
    std::unique_ptr<RelationNode> left, right;
    std::vector<SeparatingQuestion> questions;  ///< of a branch: the most telling first, three at most
    [[nodiscard]] bool is_leaf() const { return left == nullptr; }
};

/// The share of the cases asked of both that they answer otherwise, 0 to 1; 1 if there are none.
double distance_between(const AnswerRow& a, const AnswerRow& b);
/// Null without rows. Of equally near pairs the first by the rows' order is joined: the same rows give the same
/// tree.
std::unique_ptr<RelationNode> relations_of(std::span<const AnswerRow> rows);

}  // namespace nachklang

// The trigger of a mistake: the conjunction of at most two features that best predicts on which cases it shows.
//
// Precision counts more than recall (F-measure with beta 1/2), since one mistake may have several triggers: what
// the best conjunction leaves over is explained by the next. A single feature is preferred to two that predict as
// well, a narrower one to a broader one, an earlier one of the table to a later one. A second feature must leave
// out two cases without the mistake: that some feature leaves out a single one is chance. Everything is counted in
// integers on bit sets, so that a result depends on the cases alone.
#pragma once

#include <cstdint>
#include <span>
#include <string>
#include <utility>
#include <vector>

#include <nachklang/format.hpp>

namespace nachklang::behaviour {

/// A set of cases, one bit each.
class CaseSet {
  public:
    explicit CaseSet(std::size_t size = 0) : words_((size + 63) / 64) {}
    void add(std::size_t index) { words_[index / 64] |= std::uint64_t{1} << index % 64; }
    [[nodiscard]] bool has(std::size_t index) const { return (words_[index / 64] >> index % 64 & 1) != 0; }
    [[nodiscard]] std::size_t count() const;
    [[nodiscard]] std::size_t count_with(const CaseSet& other) const;
    [[nodiscard]] std::size_t count_with(const CaseSet& a, const CaseSet& b) const;
    void add(const CaseSet& other);
    void keep(const CaseSet& other);
    void remove(const CaseSet& other);
    friend bool operator==(const CaseSet&, const CaseSet&) = default;

  private:
    std::vector<std::uint64_t> words_;
};

/// One feature, or an amount from a bound on: all cases that have it.
struct Literal {
    std::size_t feature = 0;
    bool has_amount = false;
    bool negated = false;     ///< only of the second: "unless …"
    std::uint64_t bound = 1;  ///< at least this amount
    std::uint64_t below = 0;  ///< the largest amount below the bound in any case asked
    CaseSet cases;
    [[nodiscard]] std::string id(std::span<const Feature> table) const;
    /// "the document nests 33 or more levels"; "… 1,001–1,024 or more …" if no case has an amount between 1,000 and
    /// 1,024.
    [[nodiscard]] std::string clause(std::span<const Feature> table) const;
};

/// The cases that have all of them.
CaseSet cases_of(const std::vector<Literal>& literals);

struct Found {
    std::vector<Literal> literals;  ///< one or two; none: the cases themselves are the trigger
    CaseSet cases;                  ///< of the mistake that it explains
    std::size_t matching = 0;       ///< cases asked that have the features and that no earlier trigger explains
    std::size_t caught = 0;         ///< those of them that show the mistake
};

/// The cases of a format with their features; what does not depend on a mistake is made once.
class Population {
  public:
    /// `features[i]` are those of case i. The table must outlive it.
    Population(std::span<const Feature> table, std::span<const std::vector<FeatureValue>* const> features);
    /// Explains the cases of `shown` among those of `asked` (a superset). What no conjunction explains comes last,
    /// without literals.
    [[nodiscard]] std::vector<Found> triggers_of(const CaseSet& asked, const CaseSet& shown) const;
    [[nodiscard]] std::span<const Feature> table() const { return table_; }

  private:
    /// All literals that some case has, in the table's order. An amount gets its bound from the cases of `shown`.
    [[nodiscard]] std::vector<Literal> literals(const CaseSet& asked, const CaseSet& shown) const;

    std::span<const Feature> table_;
    std::size_t size_;
    std::vector<std::vector<std::pair<std::size_t, std::uint64_t>>> amounts_;  // by feature: case and amount
    std::vector<CaseSet> having_;                                              // by feature
};

}  // namespace nachklang::behaviour

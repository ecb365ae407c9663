// See inference.hpp.
#include "behaviour/inference.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <bit>
#include <map>
#include <optional>

namespace nachklang::behaviour {

std::size_t CaseSet::count() const {
    std::size_t out = 0;
    for (const std::uint64_t word : words_) out += static_cast<std::size_t>(std::popcount(word));
    return out;
}
std::size_t CaseSet::count_with(const CaseSet& other) const {
    std::size_t out = 0;
    for (std::size_t i = 0; i < words_.size(); ++i)
        out += static_cast<std::size_t>(std::popcount(words_[i] & other.words_[i]));
    return out;
}
std::size_t CaseSet::count_with(const CaseSet& a, const CaseSet& b) const {
    std::size_t out = 0;
    for (std::size_t i = 0; i < words_.size(); ++i)
        out += static_cast<std::size_t>(std::popcount(words_[i] & a.words_[i] & b.words_[i]));
    return out;
}
void CaseSet::add(const CaseSet& other) {
    for (std::size_t i = 0; i < words_.size(); ++i) words_[i] |= other.words_[i];
}
void CaseSet::keep(const CaseSet& other) {
    for (std::size_t i = 0; i < words_.size(); ++i) words_[i] &= other.words_[i];
}
void CaseSet::remove(const CaseSet& other) {
    for (std::size_t i = 0; i < words_.size(); ++i) words_[i] &= ~other.words_[i];
}

namespace {

constexpr std::size_t least_cases = 3;     // on each side, for a claim
constexpr std::size_t least_left_out = 2;  // cases without the mistake, for a second part: a single one is chance
constexpr std::size_t most_triggers = 6;   // of one mistake
constexpr std::size_t most_candidates = 160;  // literals that pairs are made of
constexpr double least_precision = 0.7;
constexpr double cost_of_a_second = 0.12;  // in the F-measure, for a conjunction of two
constexpr double cost_of_a_negation = 0.02;
constexpr double cost_of_an_amount = 0.04;  // a bound can be fitted to any cases

struct Score {
    std::size_t caught = 0, matching = 0;
    double value = 0;
    [[nodiscard]] std::size_t without_it() const { return matching - caught; }
};
/// F-measure with beta 1/2: 1.25 · caught / (0.25 · shown + matching).
Score score_of(std::size_t caught, std::size_t matching, std::size_t shown) {
    const double below = 0.25 * static_cast<double>(shown) + static_cast<double>(matching);
    return {caught, matching, below == 0 ? 0 : 1.25 * static_cast<double>(caught) / below};
}

/// One or two literals by index.
struct Candidate {
    std::size_t first = 0;
    std::optional<std::size_t> second;
    bool negated = false;  ///< the second one
    Score score;
    double worth = 0;  ///< the score, less what its length costs
};

/// The best first; of equal scores the narrower.
bool is_better(const Candidate& a, const Candidate& b) {
    if (a.worth != b.worth) return a.worth > b.worth;
    return a.score.matching < b.score.matching;
}

Candidate candidate_of(const std::vector<Literal>& literals, std::size_t first, std::optional<std::size_t> second,
                       bool negated, const Score& score) {
    Candidate out{first, second, negated, score, score.value};
    if (second) out.worth -= cost_of_a_second;
    if (negated) out.worth -= cost_of_a_negation;
    for (const auto& part : {std::optional(first), second})
        if (part && literals[*part].has_amount) out.worth -= cost_of_an_amount;
    return out;
}

std::optional<Candidate> best_of(const std::vector<Literal>& literals, const CaseSet& asked, const CaseSet& shown) {
    const std::size_t all = shown.count(), of_asked = asked.count();
    std::vector<Candidate> singles;
    for (std::size_t i = 0; i < literals.size(); ++i) {
        const std::size_t caught = literals[i].cases.count_with(shown);
        if (caught < least_cases) continue;
        singles.push_back(candidate_of(literals, i, std::nullopt, false,
                                       score_of(caught, literals[i].cases.count_with(asked), all)));
    }
    std::stable_sort(singles.begin(), singles.end(), is_better);
    std::optional<Candidate> best;
    const auto consider = [&](const Candidate& candidate) {
        const Score& s = candidate.score;
        const bool claims = s.caught >= least_cases && of_asked - s.matching >= least_cases &&
                            static_cast<double>(s.caught) >= least_precision * static_cast<double>(s.matching);
        if (claims && (!best || is_better(candidate, *best))) best = candidate;
    };
    for (const Candidate& single : singles) consider(single);
    const auto leaves_out_enough = [](const Score& whole, const Score& part) {
        return whole.without_it() >= part.without_it() + least_left_out;
    };
    // A pair needs a part that catches much, and a part that leaves out much.
    const std::size_t used = std::min(singles.size(), most_candidates);
    for (std::size_t a = 0; a < used; ++a)
        for (std::size_t b = a + 1; b < used; ++b) {
            const Literal& first = literals[singles[a].first];
            const Literal& second = literals[singles[b].first];
            const std::size_t caught = first.cases.count_with(second.cases, shown);
            if (caught < least_cases) continue;
            const Score score = score_of(caught, first.cases.count_with(second.cases, asked), all);
            if (leaves_out_enough(singles[a].score, score) && leaves_out_enough(singles[b].score, score))
                consider(candidate_of(literals, singles[a].first, singles[b].first, false, score));
        }
    // "…, unless …": the literals that say something by themselves, less any other one.
    const std::size_t many = std::min(singles.size(), most_candidates / 4);
    for (std::size_t a = 0; a < many; ++a)
        for (std::size_t b = 0; b < literals.size(); ++b) {
            const Candidate& single = singles[a];
            const CaseSet& cases = literals[single.first].cases;
            if (b == single.first) continue;
            const std::size_t caught = single.score.caught - cases.count_with(literals[b].cases, shown);
            const std::size_t matching = single.score.matching - cases.count_with(literals[b].cases, asked);
            const Score score = score_of(caught, matching, all);
            if (caught >= least_cases && leaves_out_enough(single.score, score))
                consider(candidate_of(literals, single.first, b, true, score));
        }
    return best;
}

/// The amount from which on most cases show it.
std::optional<Literal> bounded(std::size_t feature, std::span<const std::pair<std::size_t, std::uint64_t>> amounts,
                               const CaseSet& asked, const CaseSet& shown, std::size_t size) {
    struct Count {
        std::size_t shown = 0, asked = 0;
    };
    std::map<std::uint64_t, Count, std::greater<>> by_amount;
    for (const auto& [index, amount] : amounts) {
        by_amount[amount].asked += asked.has(index) ? 1 : 0;
        by_amount[amount].shown += shown.has(index) ? 1 : 0;
    }
    const std::size_t all = shown.count();
    std::optional<std::uint64_t> best;
    double best_value = 0;
    Count sum;
    for (const auto& [amount, count] : by_amount) {
        sum.shown += count.shown;
        sum.asked += count.asked;
        const double value = score_of(sum.shown, sum.asked, all).value;
        if (count.shown == 0 || (best && value <= best_value)) continue;
        best = amount;
        best_value = value;
    }
    if (!best) return std::nullopt;
    Literal out{feature, true, false, *best, 0, CaseSet(size)};
    for (const auto& [index, amount] : amounts) {
        if (amount >= *best)
            out.cases.add(index);
        else if (asked.has(index))
            out.below = std::max(out.below, amount);
    }
    return out;
}

}  // namespace

CaseSet cases_of(const std::vector<Literal>& literals) {
    CaseSet out = literals.front().cases;
    for (std::size_t i = 1; i < literals.size(); ++i)
        if (literals[i].negated)
            out.remove(literals[i].cases);
        else
            out.keep(literals[i].cases);
    return out;
}

std::string Literal::id(std::span<const Feature> table) const {
    const Feature& f = table[feature];
    if (negated) return "not:" + std::string(f.id) + (f.has_amount() ? fmt::format(">={}", bound) : "");
    return f.has_amount() ? fmt::format("{}>={}", f.id, bound) : std::string(f.id);
}

std::string Literal::clause(std::span<const Feature> table) const {
    const Feature& f = table[feature];
    if (!f.has_amount()) return std::string(f.clause);
    const auto at = f.clause.find("{}");
    // No case shows where between the two it begins.
    const std::string from = below + 1 < bound && below > 0 ? text::grouped(below + 1) + "–" : "";
    return fmt::format("{}{}{} or more{}", f.clause.substr(0, at), from, text::grouped(bound),
                       f.clause.substr(at + 2));
}

Population::Population(std::span<const Feature> table, std::span<const std::vector<FeatureValue>* const> features)
    : table_(table),
      size_(features.size()),
      amounts_(table.size()),
      having_(table.size(), CaseSet(features.size())) {
    for (std::size_t i = 0; i < features.size(); ++i)
        for (const FeatureValue& value : *features[i]) {
            amounts_[value.feature].emplace_back(i, value.amount);
            having_[value.feature].add(i);
        }
}

std::vector<Literal> Population::literals(const CaseSet& asked, const CaseSet& shown) const {
    std::vector<Literal> out;
    for (std::size_t f = 0; f < table_.size(); ++f) {
        if (amounts_[f].empty()) continue;
        if (!table_[f].has_amount())
            out.push_back({f, false, false, 1, 0, having_[f]});
        else if (auto literal = bounded(f, amounts_[f], asked, shown, size_))
            out.push_back(std::move(*literal));
    }
    return out;
}

std::vector<Found> Population::triggers_of(const CaseSet& asked, const CaseSet& shown) const {
    std::vector<Found> out;
    CaseSet left = shown;
    while (left.count() >= least_cases && out.size() < most_triggers) {
        // What an earlier trigger explains is no counterexample of the next.
        CaseSet among = asked;
        CaseSet explained = shown;
        explained.remove(left);
        among.remove(explained);
        const auto candidates = literals(among, left);
        const auto best = best_of(candidates, among, left);
        if (!best) break;
        Found found{{candidates[best->first]}, candidates[best->first].cases, 0, 0};
        if (best->second) {
            found.literals.push_back(candidates[*best->second]);
            found.literals.back().negated = best->negated;
            found.cases = cases_of(found.literals);
        }
        found.matching = found.cases.count_with(among);
        found.cases.keep(left);
        found.caught = found.cases.count();
        left.remove(found.cases);
        out.push_back(std::move(found));
    }
    if (left.count() > 0) out.push_back({{}, left, left.count(), left.count()});
    return out;
}

}  // namespace nachklang::behaviour

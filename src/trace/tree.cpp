// Labelled trees: hashing and walking them. Sets are hashed by a commutative sum, so nothing is sorted; both walks
// keep their own stack.
#define XXH_INLINE_ALL
#include <fmt/format.h>
#include <xxhash.h>

#include <algorithm>
#include <map>

#include <nachklang/trace.hpp>

namespace nachklang {

std::string Digest::hex() const {
    return fmt::format("{:016x}{:016x}", high, low);
}

Digest digest_of(std::string_view bytes) {
    const XXH128_hash_t hash = XXH3_128bits(bytes.data(), bytes.size());
    return {hash.high64, hash.low64};
}

Digest combine(const Digest& first, const Digest& second) {
    const std::array<std::uint64_t, 4> words{first.high, first.low, second.high, second.low};
    const XXH128_hash_t hash = XXH3_128bits(words.data(), sizeof words);
    return {hash.high64, hash.low64};
}

Digest add(const Digest& a, const Digest& b) {
    const std::uint64_t low = a.low + b.low;
    return {a.high + b.high + static_cast<std::uint64_t>(low < a.low), low};
}

std::vector<Digest> subtree_digests(const Tree& tree) {
    // Children come after their parent, so walking backwards finds every child ready before its parent needs it.
    std::vector<Digest> whole(tree.nodes.size());
    for (std::size_t i = tree.nodes.size(); i-- > 0;) {
        const Tree::Node& node = tree.nodes[i];
        Digest sum = digest_of("");
        for (std::size_t child = i + 1; child < node.end; child = tree.nodes[child].end)
            sum = node.children_ordered ? combine(sum, whole[child]) : add(sum, whole[child]);
        whole[i] = combine(node.label, sum);
    }
    return whole;
}

Digest digest_of(const Tree& tree) {
    const std::vector<Digest> whole = subtree_digests(tree);
    Digest all = digest_of("");
    for (std::size_t i = 0; i < tree.nodes.size(); i = tree.nodes[i].end) all = combine(all, whole[i]);
    return all;
}

namespace {

std::vector<std::size_t> children_of(const Tree& tree, std::size_t begin, std::size_t end) {
    std::vector<std::size_t> out;
    for (std::size_t i = begin; i < end; i = tree.nodes[i].end) out.push_back(i);
    return out;
}

using Nodes = std::vector<std::size_t>;

std::vector<TreePair> pair_in_order(const Nodes& a, const Nodes& b) {
    std::vector<TreePair> out;
    for (std::size_t i = 0; i < std::max(a.size(), b.size()); ++i) {
        out.push_back(
            {i < a.size() ? std::optional(a[i]) : std::nullopt, i < b.size() ? std::optional(b[i]) : std::nullopt});
    }
    return out;
}

/// Ordered children whose numbers or kinds differ are aligned: the fewest children lost and added, equal ones
/// first. So a child that was added is one difference, and not one at every place after it.
class Alignment {
  public:
    Alignment(const Tree& left, const Tree& right) : left_(left), right_(right) {}

    [[nodiscard]] std::vector<TreePair> pairs(const Nodes& a, const Nodes& b) {
        if (same_kinds(a, b)) return pair_in_order(a, b);
        if (left_whole_.empty()) left_whole_ = subtree_digests(left_);
        if (right_whole_.empty()) right_whole_ = subtree_digests(right_);
        std::size_t begin = 0, end = 0;
        const std::size_t shorter = std::min(a.size(), b.size());
        while (begin < shorter && equal(a[begin], b[begin])) ++begin;
        while (end < shorter - begin && equal(a[a.size() - 1 - end], b[b.size() - 1 - end])) ++end;
        std::vector<TreePair> out;
        for (std::size_t i = 0; i < begin; ++i) out.push_back({a[i], b[i]});
        const auto middle = [&](const Nodes& nodes) {
            return Nodes(nodes.begin() + static_cast<std::ptrdiff_t>(begin),
                         nodes.end() - static_cast<std::ptrdiff_t>(end));
        };
        for (const TreePair& pair : between(middle(a), middle(b))) out.push_back(pair);
        for (std::size_t i = end; i-- > 0;) out.push_back({a[a.size() - 1 - i], b[b.size() - 1 - i]});
        return out;
    }

  private:
    [[nodiscard]] bool equal(std::size_t a, std::size_t b) const { return left_whole_[a] == right_whole_[b]; }
    [[nodiscard]] bool same_kinds(const Nodes& a, const Nodes& b) const {
        return std::equal(a.begin(), a.end(), b.begin(), b.end(), [&](std::size_t l, std::size_t r) {
            return left_.nodes[l].kind == right_.nodes[r].kind;
        });
    }

    static constexpr std::uint32_t lost_or_added = 2, never = 1'000'000;
    [[nodiscard]] std::uint32_t cost(std::size_t a, std::size_t b) const {
        if (equal(a, b)) return 0;
        if (left_.nodes[a].kind != right_.nodes[b].kind) return never;
        return left_.nodes[a].label == right_.nodes[b].label ? 1 : 3;
    }

    /// By dynamic programming. Lists too long for it are aligned window by window; only the first half of a window
    /// is kept, since what comes after it decides on its end. Later windows than the first few are paired in order:
    /// differences that far behind others are never shown.
    [[nodiscard]] std::vector<TreePair> between(const Nodes& a, const Nodes& b) const {
        constexpr std::size_t most_cells = 1 << 22, window = 1024, most_windows = 32;
        if (a.size() + 1 <= most_cells / (b.size() + 1)) return aligned(a, b, lost_or_added);
        const auto part = [](const Nodes& nodes, std::size_t from, std::size_t length) {
            const auto begin = nodes.begin() + static_cast<std::ptrdiff_t>(std::min(from, nodes.size()));
            return Nodes(
                begin, begin + std::min<std::ptrdiff_t>(static_cast<std::ptrdiff_t>(length), nodes.end() - begin));
        };
        std::vector<TreePair> out;
        std::size_t i = 0, j = 0;
        for (std::size_t w = 0; w < most_windows && i < a.size() && j < b.size(); ++w) {
            const std::size_t begin_i = i, begin_j = j;
            for (const TreePair& pair : aligned(part(a, i, window), part(b, j, window), 0)) {
                if (i - begin_i >= window / 2 || j - begin_j >= window / 2) break;
                i += pair.left ? 1 : 0;
                j += pair.right ? 1 : 0;
                out.push_back(pair);
            }
        }
        for (const TreePair& pair : pair_in_order(part(a, i, a.size()), part(b, j, b.size()))) out.push_back(pair);
        return out;
    }

    /// `after_the_end` is the cost of what one list has left when the other ends; a window goes on.
    [[nodiscard]] std::vector<TreePair> aligned(const Nodes& a, const Nodes& b, std::uint32_t after_the_end) const {
        const std::size_t width = b.size() + 1;
        // Cells hold the cost of what is left from there to the ends.
        std::vector<std::uint32_t> cells((a.size() + 1) * width);
        for (std::size_t i = a.size() + 1; i-- > 0;)
            for (std::size_t j = width; j-- > 0;) {
                std::uint32_t& cell = cells[i * width + j];
                if (i == a.size()) {
                    cell = static_cast<std::uint32_t>(b.size() - j) * after_the_end;
                } else if (j == b.size()) {
                    cell = static_cast<std::uint32_t>(a.size() - i) * after_the_end;
                } else {
                    cell = std::min({cells[(i + 1) * width + j + 1] + cost(a[i], b[j]),
                                     cells[(i + 1) * width + j] + lost_or_added,
                                     cells[i * width + j + 1] + lost_or_added});
                }
            }
        std::vector<TreePair> out;
        for (std::size_t i = 0, j = 0; i < a.size() || j < b.size();) {
            const std::uint32_t here = cells[i * width + j];
            if (i < a.size() && j < b.size() && here == cells[(i + 1) * width + j + 1] + cost(a[i], b[j])) {
                out.push_back({a[i++], b[j++]});
            } else if (j == b.size() || (i < a.size() && here == cells[(i + 1) * width + j] + lost_or_added)) {
                out.push_back({a[i++], std::nullopt});
            } else {
                out.push_back({std::nullopt, b[j++]});
            }
        }
        return out;
    }

    const Tree &left_, &right_;
    std::vector<Digest> left_whole_, right_whole_;  // made when first needed: most trees have the same shape
};

std::vector<TreePair> pair_by_label(const Tree& left, const Tree& right, const Nodes& a, const Nodes& b) {
    std::multimap<Digest, std::size_t> unmatched;
    for (const std::size_t node : b) unmatched.emplace(right.nodes[node].label, node);
    std::vector<TreePair> out;
    for (const std::size_t node : a) {
        const auto match = unmatched.find(left.nodes[node].label);
        TreePair pair{node, std::nullopt};
        if (match != unmatched.end()) {
            pair.right = match->second;
            unmatched.erase(match);
        }
        out.push_back(pair);
    }
    Nodes rest;
    for (const auto& [label, node] : unmatched) rest.push_back(node);
    std::sort(rest.begin(), rest.end());
    for (const std::size_t node : rest) out.push_back({std::nullopt, node});
    return out;
}

}  // namespace

std::string path_of(const Tree& tree, std::size_t node) {
    std::string out;
    for (std::size_t i = 0; i <= node;) {
        if (tree.nodes[i].end > node) {
            out += tree.nodes[i].step;
            ++i;
        } else {
            i = tree.nodes[i].end;
        }
    }
    return out;
}

void compare_trees(const Tree& left, const Tree& right, std::size_t most,
                   const std::function<void(const TreePair&)>& differ,
                   const std::function<void(const TreePair&)>& same) {
    std::vector<TreePair> stack;
    const auto push = [&](std::vector<TreePair> pairs) {
        for (std::size_t i = pairs.size(); i-- > 0;) stack.push_back(pairs[i]);
    };
    Alignment alignment(left, right);
    push(alignment.pairs(children_of(left, 0, left.nodes.size()), children_of(right, 0, right.nodes.size())));
    std::size_t found = 0;
    while (!stack.empty() && found < most) {
        const TreePair pair = stack.back();
        stack.pop_back();
        if (!pair.left || !pair.right || left.nodes[*pair.left].label != right.nodes[*pair.right].label) {
            ++found;
            differ(pair);
            continue;
        }
        if (same) same(pair);
        const Tree::Node& l = left.nodes[*pair.left];
        const Tree::Node& r = right.nodes[*pair.right];
        const Nodes a = children_of(left, *pair.left + 1, l.end);
        const Nodes b = children_of(right, *pair.right + 1, r.end);
        push(l.children_ordered ? alignment.pairs(a, b) : pair_by_label(left, right, a, b));
    }
}

void for_each_line(const Tree& tree, const std::function<bool(const TreeLine&)>& take) {
    struct Open {
        std::size_t end, depth;
    };
    std::vector<Open> open;
    for (std::size_t i = 0; i < tree.nodes.size(); ++i) {
        while (!open.empty() && open.back().end <= i) open.pop_back();
        const Tree::Node* node = &tree.nodes[i];
        if (node->step.empty() && node->shown.empty() && node->end == i + 1) continue;
        TreeLine line{i, 1, open.empty() ? 0 : open.back().depth + 1, node->step};
        const bool has_one_child = i + 1 < node->end && tree.nodes[i + 1].end == node->end;
        if (node->is_name && has_one_child) {
            node = &tree.nodes[++i];
            line.nodes = 2;
        }
        if (!node->is_name) line.text += (line.text.empty() ? "" : "  ") + node->shown;
        open.push_back({node->end, line.depth});
        if (!take(line)) return;
    }
}

}  // namespace nachklang

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
    push(pair_in_order(children_of(left, 0, left.nodes.size()), children_of(right, 0, right.nodes.size())));
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
        push(l.children_ordered ? pair_in_order(a, b) : pair_by_label(left, right, a, b));
    }
}

}  // namespace nachklang

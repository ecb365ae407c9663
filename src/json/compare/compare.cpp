// Explains where and why a decoded value differs from the expected one.
//
// Duplicate names come first: the policy ("all", "last" or "first") that explains the answer best reduces the
// expected value; the rest is compared place by place.
#include <fmt/format.h>

#include <algorithm>
#include <set>

#include "json/compare/explain.hpp"
#include "json/compare/natives.hpp"
#include "json/compare/tree.hpp"
#include "json/internal.hpp"

namespace nachklang::json {
namespace {

Tree labels_only(const std::vector<LayeredNode>& nodes, Layer layer) {
    Tree out;
    out.nodes.reserve(nodes.size());
    for (const LayeredNode& node : nodes)
        out.nodes.push_back({node.labels[static_cast<std::size_t>(layer)], "", !node.set, node.item, node.end, ""});
    return out;
}

bool has_duplicates(const Trace& trace) {
    const auto tree = layered_tree(trace);
    const auto& nodes = *tree;
    for (std::size_t i = 0; i < nodes.size(); ++i) {
        if (trace.items()[nodes[i].item].kind != ItemKind::key) continue;
        const std::size_t first = i + 1;
        if (first < nodes[i].end && nodes[first].end < nodes[i].end) return true;
    }
    return false;
}

std::string_view line_of(const Trace& trace, const std::vector<std::size_t>& line_starts, std::size_t item) {
    return std::string_view(trace.text()).substr(line_starts[item], line_starts[item + 1] - line_starts[item]);
}

std::vector<std::size_t> line_starts(const Trace& trace) {
    std::vector<std::size_t> out{0};
    for (std::size_t at = trace.text().find('\n'); at != std::string::npos; at = trace.text().find('\n', at + 1))
        out.push_back(at + 1);
    return out;
}

/// What a decoder does with several values of one name: keeps the first or the last, gathers them in an array,
/// appends later ones to the first one's array, joins arrays, merges the members of objects, or keeps all in
/// another order.
enum class DuplicatePolicy { first, last, gathered, appended, joined, merged, sorted };

/// The trace with that done to it.
class SettledNames {
  public:
    SettledNames(const Trace& trace, DuplicatePolicy kept)
        : trace_(trace), kept_(kept), starts_(line_starts(trace)), tree_(layered_tree(trace)), nodes_(*tree_) {
        if (kept != DuplicatePolicy::sorted) return;
        Tree any_order = labels_only(nodes_, Layer::value);
        for (std::size_t i = 0; i < nodes_.size(); ++i)
            if (kind_of(i) == ItemKind::key) any_order.nodes[i].children_ordered = false;
        whole_ = subtree_digests(any_order);
    }

    Trace run() {
        work_.push_back({0, ""});
        while (!work_.empty()) {
            const Work work = work_.back();
            work_.pop_back();
            if (work.line.empty()) {
                put(work.node);
            } else {
                out_ += work.line;
            }
        }
        return *Trace::parse(std::move(out_));
    }

  private:
    struct Work {
        std::size_t node;
        std::string_view line;  // text to print if this is not a node
    };

    [[nodiscard]] ItemKind kind_of(std::size_t node) const { return trace_.items()[nodes_[node].item].kind; }
    [[nodiscard]] std::vector<std::size_t> children_of(std::size_t node) const {
        std::vector<std::size_t> out;
        for (std::size_t child = node + 1; child < nodes_[node].end; child = nodes_[child].end)
            out.push_back(child);
        return out;
    }
    void put_later(const std::vector<std::size_t>& nodes) {
        for (std::size_t i = nodes.size(); i-- > 0;) work_.push_back({nodes[i], ""});
    }
    void put(std::size_t node) {
        const ItemKind kind = kind_of(node);
        const std::string_view line = line_of(trace_, starts_, nodes_[node].item);
        if (kind == ItemKind::key && kept_ == DuplicatePolicy::sorted) return put_all(line, children_of(node));
        out_ += line;
        if (kind == ItemKind::key) return put_values(children_of(node));
        if (!opens(kind)) return;
        work_.push_back(
            {0, kind == ItemKind::array_open ? "]\n" : (kind == ItemKind::object_open ? "}\n" : ")\n")});
        put_later(children_of(node));
    }
    void put_all(std::string_view name, std::vector<std::size_t> values) {
        std::sort(values.begin(), values.end(),
                  [&](std::size_t a, std::size_t b) { return whole_[a] < whole_[b]; });
        for (const std::size_t value : values) {
            work_.push_back({value, ""});
            work_.push_back({0, name});
        }
    }
    void put_values(const std::vector<std::size_t>& values) {
        const bool objects = std::all_of(values.begin(), values.end(),
                                         [&](std::size_t v) { return kind_of(v) == ItemKind::object_open; });
        if (values.size() == 1 || kept_ == DuplicatePolicy::last || (kept_ == DuplicatePolicy::merged && !objects))
            return put_later({values.back()});
        if (kept_ == DuplicatePolicy::first) return put_later({values.front()});
        const bool into_array = kept_ != DuplicatePolicy::merged;
        out_ += into_array ? "[\n" : "{\n";
        work_.push_back({0, into_array ? "]\n" : "}\n"});
        std::vector<std::size_t> members;
        for (const std::size_t value : values) {
            if (opens_up(value, value == values.front())) {
                for (const std::size_t member : children_of(value)) members.push_back(member);
            } else {
                members.push_back(value);
            }
        }
        put_later(members);
    }

    /// Whether the members of a value, and not the value, are put in place of all values.
    [[nodiscard]] bool opens_up(std::size_t value, bool is_first) const {
        const bool array = kind_of(value) == ItemKind::array_open;
        return kept_ == DuplicatePolicy::merged || (kept_ == DuplicatePolicy::joined && array) ||
               (kept_ == DuplicatePolicy::appended && array && is_first);
    }

    const Trace& trace_;
    DuplicatePolicy kept_;
    std::vector<std::size_t> starts_;
    std::shared_ptr<const std::vector<LayeredNode>> tree_;
    const std::vector<LayeredNode>& nodes_;
    std::vector<Digest> whole_;  // of each node, where values are sorted
    std::vector<Work> work_;
    std::string out_;
};

/// As far as two objects that are merged share a name, its last value counts.
Trace resolve_duplicates(const Trace& trace, DuplicatePolicy kept) {
    Trace out = SettledNames(trace, kept).run();
    return kept == DuplicatePolicy::merged ? SettledNames(out, DuplicatePolicy::last).run() : out;
}

class ValueComparison {
  public:
    ValueComparison(const Trace& expected, const Trace& got, const CompareOptions& options)
        : expected_(expected),
          got_(got),
          options_(options),
          left_tree_(layered_tree(expected)),
          right_tree_(layered_tree(got)) {}

    Comparison run() {
        const Tree left = labels_only(left_nodes_, options_.layer),
                   right = labels_only(right_nodes_, options_.layer);
        compare_trees(
            left, right, options_.most, [&](const TreePair& pair) { differ(pair); },
            [&](const TreePair& pair) { same(pair); });
        settle_names();
        drop_collided();
        std::sort(out_.observed.begin(), out_.observed.end());
        out_.observed.erase(std::unique(out_.observed.begin(), out_.observed.end()), out_.observed.end());
        return std::move(out_);
    }

  private:
    [[nodiscard]] const Item& left_item(std::size_t node) const {
        return expected_.items()[left_nodes_[node].item];
    }
    [[nodiscard]] const Item& right_item(std::size_t node) const { return got_.items()[right_nodes_[node].item]; }

    void take(const Explained& explained, const TreePair& pair) {
        if (!explained.question.empty()) {
            out_.observed.push_back({explained.question, explained.answer});
        } else if (explained.is_difference()) {
            add(pair, explained.cause, explained.detail);
        }
    }
    void add(const TreePair& pair, std::string cause, std::string detail) {
        const std::string at =
            pair.left ? node_path(expected_, left_nodes_, *pair.left) : node_path(got_, right_nodes_, *pair.right);
        out_.differences.push_back({at, std::move(cause), std::move(detail), "", ""});
        places_.push_back(pair);
    }

    void same(const TreePair& pair) {
        const Item& e = left_item(*pair.left);
        const Item& g = right_item(*pair.right);
        if (is_number(e.kind) && is_number(g.kind)) {
            if (options_.layer == Layer::value)
                for (const Explained& explained : explain_number(e, g, options_)) take(explained, pair);
        } else if (e.kind == ItemKind::string || e.kind == ItemKind::key) {
            kept_text(e.field(0).atoms());
        } else if (options_.layer == Layer::value) {
            empty_kind(pair, e, g);
        }
    }

    /// An empty object is no empty array, except to an implementation that cannot tell them apart.
    void empty_kind(const TreePair& pair, const Item& e, const Item& g) {
        const bool known = (e.kind == ItemKind::array_open && g.kind == ItemKind::object_open) ||
                           (e.kind == ItemKind::object_open && g.kind == ItemKind::array_open);
        if (!known || stores_without("empty-kind")) return;
        add(pair, "container/empty-kind", fmt::format("{} became {}", describe_item(e), describe_item(g)));
    }

    [[nodiscard]] bool stores_without(std::string_view word) const {
        return cannot_represent_word(options_.stored_without, word);
    }

    void kept_text(const std::string& atoms) {
        if (atoms.find('\0') != std::string::npos) out_.observed.push_back({"nul-character", "kept"});
        if (text::first_ill_formed(atoms)) out_.observed.push_back({"lone-surrogate", "kept"});
    }

    void differ(const TreePair& pair) {
        if (!pair.right) return lost(pair);
        if (!pair.left) return added(pair);
        const Item& e = left_item(*pair.left);
        const Item& g = right_item(*pair.right);
        if (options_.layer != Layer::value && !is_text(e, g)) return finer(pair, e, g);
        if (is_number(e.kind) && is_number(g.kind)) {
            const auto all = explain_number(e, g, options_);
            for (const Explained& explained : all) take(explained, pair);
            return;
        }
        if (is_number(e.kind) && g.kind == ItemKind::string && stores_without("number-as-text")) {
            Item spelled = g;
            spelled.kind = ItemKind::spelled;
            if (stored_number(spelled, spelled.kind).exact) {
                for (const Explained& explained : explain_number(e, spelled, options_)) take(explained, pair);
                return;
            }
        }
        if (emptied(pair)) return;
        if (is_text(e, g)) return take(explain_string(e.field(0).atoms(), g.field(0).atoms(), false), pair);
        if (const auto native = explain_native(e, g)) return take(*native, pair);
        add(pair, kind_cause(e, g), fmt::format("{} became {}", describe_item(e), describe_item(g)));
    }

    /// A container that lost, or got, all its children: they are named, not the container.
    bool emptied(const TreePair& pair) {
        if (!opens(left_item(*pair.left).kind) || !opens(right_item(*pair.right).kind)) return false;
        const std::size_t left_end = left_nodes_[*pair.left].end, right_end = right_nodes_[*pair.right].end;
        const bool left_empty = left_end == *pair.left + 1, right_empty = right_end == *pair.right + 1;
        if (left_empty == right_empty) return false;
        for (std::size_t i = *pair.left + 1; i < left_end; i = left_nodes_[i].end) lost({i, std::nullopt});
        for (std::size_t i = *pair.right + 1; i < right_end; i = right_nodes_[i].end) added({std::nullopt, i});
        return true;
    }

    static bool is_text(const Item& e, const Item& g) {
        return e.kind == ItemKind::string && g.kind == ItemKind::string;
    }

    static std::string kind_cause(const Item& e, const Item& g) {
        if (g.kind == ItemKind::unset) return "value/unset";
        if (g.kind == ItemKind::null_value) return "value/null";
        if (is_number(e.kind) && g.kind == ItemKind::string) return "number/became-text";
        if (e.kind == ItemKind::string && is_number(g.kind)) return "string/became-number";
        return "value/kind";
    }

    /// A difference that only a finer layer sees: between two answers that are the same value.
    void finer(const TreePair& pair, const Item& e, const Item& g) {
        const std::string detail = fmt::format("{} / {}", describe_item(e), describe_item(g));
        if (is_number(e.kind) && is_number(g.kind)) {
            const StoredNumber a = stored_number(e, e.kind), b = stored_number(g, g.kind);
            if (!a.exact || !b.exact || a.nearest << 1 != b.nearest << 1)
                return add(pair, "number/wrong-value", detail);
            if (options_.layer == Layer::exact)
                return add(pair, a.exact->is_zero() ? "number/zero-sign" : "number/rounded", detail);
            return add(
                pair,
                e.kind == ItemKind::spelled || g.kind == ItemKind::spelled ? "number/spelling" : "number/kind",
                detail);
        }
        if (left_nodes_[*pair.left].set && right_nodes_[*pair.right].set)
            return add(pair, "member/order", "members in another order");
        const bool both_empty =
            left_nodes_[*pair.left].end == *pair.left + 1 && right_nodes_[*pair.right].end == *pair.right + 1;
        add(pair, both_empty ? "container/empty-kind" : kind_cause(e, g), detail);
    }

    void lost(const TreePair& pair) {
        const Item& e = left_item(*pair.left);
        if (e.kind == ItemKind::key) {
            lost_names_.push_back(pair);
        } else {
            add(pair, inside_member(left_nodes_, expected_, *pair.left) ? "member/values" : "element/lost",
                describe_item(e) + " is missing");
        }
    }
    void added(const TreePair& pair) {
        const Item& g = right_item(*pair.right);
        if (g.kind == ItemKind::key) {
            added_names_.push_back(pair);
        } else {
            add(pair, inside_member(right_nodes_, got_, *pair.right) ? "member/values" : "element/added",
                describe_item(g) + " was added");
        }
    }

    static bool inside_member(const std::vector<LayeredNode>& nodes, const Trace& trace, std::size_t node) {
        for (std::size_t i = node; i-- > 0;)
            if (nodes[i].end > node) return trace.items()[nodes[i].item].kind == ItemKind::key;
        return false;
    }

    /// A missing name next to an added name is one changed name.
    void settle_names() {
        std::size_t i = 0;
        for (; i < std::min(lost_names_.size(), added_names_.size()); ++i) {
            const Item& e = left_item(*lost_names_[i].left);
            const Item& g = right_item(*added_names_[i].right);
            const bool strings = e.name_kind == ItemKind::string && g.name_kind == ItemKind::string;
            if (strings) {
                take(explain_string(e.field(0).atoms(), g.field(0).atoms(), true), lost_names_[i]);
            } else {
                add(lost_names_[i], "name/changed",
                    fmt::format("\"{}\" became another kind of name", text::printable_atoms(name_text(e), 40)));
            }
        }
        for (std::size_t j = i; j < lost_names_.size(); ++j) lost_name(lost_names_[j]);
        for (std::size_t j = i; j < added_names_.size(); ++j)
            add(added_names_[j], "member/added",
                fmt::format("\"{}\" was added",
                            text::printable_atoms(name_text(right_item(*added_names_[j].right)), 40)));
    }

    /// A name that is missing may have become one that is there already.
    void lost_name(const TreePair& pair) {
        const Item& e = left_item(*pair.left);
        for (std::size_t node = 0; node < right_nodes_.size() && e.name_kind == ItemKind::string; ++node) {
            const Item& g = right_item(node);
            if (g.kind != ItemKind::key || g.name_kind != ItemKind::string) continue;
            const Explained explained = explain_string(e.field(0).atoms(), g.field(0).atoms(), true);
            if (!is_known_change(e.field(0).atoms(), g.field(0).atoms())) continue;
            collided_.insert(right_nodes_[node].labels[static_cast<std::size_t>(options_.layer)]);
            return take(explained, pair);
        }
        add(pair, "member/lost", fmt::format("\"{}\" is missing", text::printable_atoms(name_text(e), 40)));
    }
    static bool is_known_change(const std::string& expected, const std::string& got) {
        const Explained as_string = explain_string(expected, got, false);
        return as_string.is_difference() && as_string.cause != "string/changed" && as_string.cause != "string/cut";
    }

    /// Values that differ because two names became one are not differences of their own.
    void drop_collided() {
        if (collided_.empty()) return;
        const auto layer = static_cast<std::size_t>(options_.layer);
        const auto under_collision = [&](const std::vector<LayeredNode>& nodes, std::optional<std::size_t> at) {
            if (!at) return false;
            for (std::size_t i = 0; i < *at; ++i)
                if (nodes[i].end > *at && collided_.contains(nodes[i].labels[layer])) return true;
            return false;
        };
        std::vector<Difference> kept;
        for (std::size_t i = 0; i < places_.size(); ++i)
            if (!under_collision(left_nodes_, places_[i].left) && !under_collision(right_nodes_, places_[i].right))
                kept.push_back(std::move(out_.differences[i]));
        out_.differences = std::move(kept);
    }

    [[nodiscard]] static std::string describe_item(const Item& item) {
        constexpr std::size_t most = 40;
        // A number of a document needs no word on how it is held.
        if (item.kind == ItemKind::spelled) return text::printable_excerpt(shown_number(item, item.kind), most);
        return shown_scalar(item, item.kind, most);
    }

    const Trace& expected_;
    const Trace& got_;
    const CompareOptions& options_;
    std::shared_ptr<const std::vector<LayeredNode>> left_tree_, right_tree_;
    const std::vector<LayeredNode>& left_nodes_ = *left_tree_;
    const std::vector<LayeredNode>& right_nodes_ = *right_tree_;
    std::vector<TreePair> lost_names_, added_names_;
    std::vector<TreePair> places_;  // of out_.differences
    std::set<Digest> collided_;     // names that other names became
    Comparison out_;
};

}  // namespace

std::string node_path(const Trace& trace, const std::vector<LayeredNode>& nodes, std::size_t node) {
    std::string out;
    std::size_t begin = 0, index = 0;
    ItemKind parent = ItemKind::key;
    while (begin <= node) {
        if (nodes[begin].end <= node) {
            begin = nodes[begin].end;
            ++index;
            continue;
        }
        const Item& item = trace.items()[nodes[begin].item];
        if (item.kind == ItemKind::key) {
            out += '/';
            for (const char c : text::printable_atoms(name_text(item)))
                out += c == '~' ? "~0" : (c == '/' ? "~1" : std::string(1, c));
        } else if (parent != ItemKind::key) {
            out += fmt::format("/{}", index);
        }
        parent = item.kind;
        index = 0;
        ++begin;
    }
    return out;
}

Comparison compare_values(const Trace& expected, const Trace& got, const CompareOptions& options) {
    if (options.layer != Layer::value || !has_duplicates(expected))
        return ValueComparison(expected, got, options).run();
    const Trace last = resolve_duplicates(expected, DuplicatePolicy::last),
                first = resolve_duplicates(expected, DuplicatePolicy::first);
    const Comparison as_all = ValueComparison(expected, got, options).run();
    const Comparison as_last = ValueComparison(last, got, options).run();
    const Comparison as_first = ValueComparison(first, got, options).run();
    const auto with = [](Comparison comparison, const char* answer) {
        comparison.observed.push_back({"duplicate-names", answer});
        std::sort(comparison.observed.begin(), comparison.observed.end());
        return comparison;
    };
    if (as_all.differences.empty()) return with(as_all, "all");
    const std::size_t fewest =
        std::min({as_all.differences.size(), as_last.differences.size(), as_first.differences.size()});
    // Where first and last are the same values, nothing tells which one was kept.
    if (as_last.differences.size() == fewest && as_first.differences.size() == fewest && fewest == 0)
        return as_last;
    if (fewest > 0) {
        const Trace all_sorted = resolve_duplicates(expected, DuplicatePolicy::sorted),
                    got_sorted = resolve_duplicates(got, DuplicatePolicy::sorted);
        Comparison otherwise = ValueComparison(all_sorted, got_sorted, options).run();
        if (otherwise.differences.empty()) return with(std::move(otherwise), "all-reordered");
        for (const auto& [kept, answer] : {std::pair{DuplicatePolicy::gathered, "gathered"},
                                           {DuplicatePolicy::appended, "joined"},
                                           {DuplicatePolicy::joined, "joined"},
                                           {DuplicatePolicy::merged, "merged"}}) {
            const Trace so = resolve_duplicates(expected, kept);
            otherwise = ValueComparison(so, got, options).run();
            if (otherwise.differences.empty()) return with(std::move(otherwise), answer);
        }
    }
    if (as_last.differences.size() == fewest) return fewest == 0 ? with(as_last, "last") : as_last;
    if (as_first.differences.size() == fewest) return fewest == 0 ? with(as_first, "first") : as_first;
    return as_all;
}

Tree tree_at(const Trace& trace, Layer layer) {
    const auto tree = layered_tree(trace);
    const auto& nodes = *tree;
    Tree out = labels_only(nodes, layer);
    for (std::size_t i = 0; i < nodes.size(); ++i) {
        const Item& item = trace.items()[nodes[i].item];
        std::size_t position = 0;
        const bool array = item.kind != ItemKind::key && !nodes[i].set;
        for (std::size_t child = i + 1; child < nodes[i].end; child = nodes[child].end)
            if (array) out.nodes[child].step = fmt::format("/{}", position++);
        if (item.kind == ItemKind::key) {
            out.nodes[i].is_name = true;
            out.nodes[i].step = step_to_name(item);
        } else {
            out.nodes[i].shown = shown_value(item, nodes[i].end == i + 1);
        }
    }
    return out;
}

namespace {

/// What an implementation cannot represent, of what a layer compares.
struct NotReported {
    explicit NotReported(const CannotRepresent& cannot_represent) {
        order = cannot_represent_word(cannot_represent, "order");
        empty_kind = cannot_represent_word(cannot_represent, "empty-kind");
        number_kind = cannot_represent_word(cannot_represent, "number-kind");
    }
    bool order = false, empty_kind = false, number_kind = false;
};

/// The labels of a node; what is not reported counts no more than at the layer before.
LayerDigests reported_labels(const LayeredNode& node, const Item& item, bool empty,
                             const NotReported& not_reported) {
    constexpr auto exact = static_cast<std::size_t>(Layer::exact),
                   representation = static_cast<std::size_t>(Layer::representation),
                   order = static_cast<std::size_t>(Layer::order);
    LayerDigests out = node.labels;
    const bool number =
        not_reported.number_kind && is_number(item.kind == ItemKind::key ? item.name_kind : item.kind);
    if (number || (not_reported.empty_kind && empty && opens(item.kind)))
        out[representation] = out[order] = out[exact];
    if (not_reported.order && node.set) out[order] = out[representation];
    return out;
}

}  // namespace

LayerDigests digests_of(const Trace& trace, const CannotRepresent& cannot_represent) {
    const NotReported not_reported(cannot_represent);
    const auto tree = layered_tree(trace);
    const auto& nodes = *tree;
    std::vector<LayerDigests> whole(nodes.size());
    const Digest nothing = digest_of("");
    for (std::size_t i = nodes.size(); i-- > 0;) {
        LayerDigests sum;
        sum.fill(nothing);
        for (std::size_t child = i + 1; child < nodes[i].end; child = nodes[child].end)
            for (std::size_t layer = 1; layer < layer_count; ++layer)
                sum[layer] =
                    nodes[i].set ? add(sum[layer], whole[child][layer]) : combine(sum[layer], whole[child][layer]);
        const LayerDigests labels =
            reported_labels(nodes[i], trace.items()[nodes[i].item], nodes[i].end == i + 1, not_reported);
        for (std::size_t layer = 1; layer < layer_count; ++layer)
            whole[i][layer] = combine(labels[layer], sum[layer]);
    }
    LayerDigests out;
    out.fill(nothing);
    if (!whole.empty())
        for (std::size_t layer = 1; layer < layer_count; ++layer) out[layer] = combine(nothing, whole[0][layer]);
    return out;
}

}  // namespace nachklang::json

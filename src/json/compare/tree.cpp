// Labels are cumulative: a layer's label mixes the one before, so that each layer refines it. An object's children
// are one node a name, holding that name's values in their order; the order of members is a label of the object
// itself.
#include "json/compare/tree.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <unordered_map>
#include <utility>

#include <nachklang/text.hpp>

#include "json/questions.hpp"

namespace nachklang::json {
namespace {

LayerDigests uniform(const Digest& digest) {
    LayerDigests out;
    out.fill(digest);
    return out;
}

std::string value_label(const StoredNumber& n) {
    if (!n.exact) {
        if (!n.binary) return "spelled " + n.spelled;
        if (number::is_nan64(n.nearest)) return "nan";
        return (n.nearest >> 63) != 0 ? "-inf" : "inf";
    }
    // Beyond the range of binary64 a finite number counts by its exact value.
    if (number::is_infinite64(n.nearest)) return "far " + n.exact->canonical();
    const std::uint64_t bits = (n.nearest << 1) == 0 ? 0 : n.nearest;
    return fmt::format("number {:016x}", bits);
}

LayerDigests number_labels(const Item& item, ItemKind kind) {
    const StoredNumber n = stored_number(item, kind);
    LayerDigests out;
    const Digest value = digest_of(value_label(n));
    const Digest exact = n.exact ? combine(value, digest_of(n.exact->canonical())) : value;
    const Digest stored = combine(exact, Digest{static_cast<std::uint64_t>(kind), 0});
    out[static_cast<std::size_t>(Layer::value)] = value;
    out[static_cast<std::size_t>(Layer::exact)] = exact;
    out[static_cast<std::size_t>(Layer::representation)] = stored;
    out[static_cast<std::size_t>(Layer::order)] = stored;
    return out;
}

LayerDigests scalar_labels(const Item& item, ItemKind kind) {
    if (is_number(kind)) return number_labels(item, kind);
    switch (kind) {
        case ItemKind::string:
            return uniform(combine(digest_of("string"), digest_of(item.field(0).atoms())));
        case ItemKind::null_value:
            return uniform(digest_of("null"));
        case ItemKind::true_value:
            return uniform(digest_of("true"));
        case ItemKind::false_value:
            return uniform(digest_of("false"));
        case ItemKind::unset:
            return uniform(digest_of("unset"));
        case ItemKind::cycle:
            return uniform(digest_of(fmt::format("cycle {}", item.digits())));
        case ItemKind::native:
            return uniform(combine(digest_of(item.word()), digest_of(item.field(0).atoms())));
        default:
            return uniform(digest_of(fmt::format("other {}", static_cast<int>(kind))));
    }
}

LayerDigests key_labels(const Item& item) {
    if (item.name_kind == ItemKind::string)
        return uniform(combine(digest_of("name"), digest_of(item.field(0).atoms())));
    LayerDigests out = scalar_labels(item, item.name_kind);
    for (Digest& digest : out) digest = combine(digest_of("other name"), digest);
    return out;
}

class TreeBuilder {
  public:
    explicit TreeBuilder(std::span<const Item> items) : items_(items) {}

    std::vector<LayeredNode> build() {
        nodes_.reserve(items_.size());
        work_.push_back({Work::node, 0, 0});
        while (!work_.empty()) {
            const Work work = work_.back();
            work_.pop_back();
            if (work.kind == Work::finish) {
                nodes_[work.at].end = nodes_.size();
            } else if (work.kind == Work::member) {
                member(work.at, work.name);
            } else {
                node(work.at);
            }
        }
        return std::move(nodes_);
    }

  private:
    struct Work {
        enum Kind { node, member, finish } kind;
        std::size_t at;    // item of a value; node to finish; first key of a member
        std::size_t name;  // index into values_ of a member
    };

    void leaf_or_open(const LayerDigests& labels, std::size_t item, bool set) {
        nodes_.push_back({labels, set, item, 0});
        work_.push_back({Work::finish, nodes_.size() - 1, 0});
    }

    void node(std::size_t at) {
        const Item& item = items_[at];
        if (!opens(item.kind)) {
            nodes_.push_back({scalar_labels(item, item.kind), false, at, nodes_.size() + 1});
            return;
        }
        const std::size_t end = items_[at].end;
        if (end == at + 1) {
            nodes_.push_back({empty_labels(item.kind), false, at, nodes_.size() + 1});
        } else if (items_[at + 1].kind == ItemKind::key) {
            object(at, end);
        } else {
            leaf_or_open(uniform(digest_of("array")), at, false);
            push_values(at + 1, end);
        }
    }

    static LayerDigests empty_labels(ItemKind kind) {
        LayerDigests out = uniform(digest_of("empty"));
        for (const Layer layer : {Layer::representation, Layer::order})
            out[static_cast<std::size_t>(layer)] =
                combine(digest_of("empty"), Digest{static_cast<std::uint64_t>(kind), 1});
        return out;
    }

    void push_values(std::size_t begin, std::size_t end) {
        const std::size_t first = work_.size();
        for (std::size_t i = begin; i < end; i = item_behind(items_, i)) work_.push_back({Work::node, i, 0});
        std::reverse(work_.begin() + static_cast<std::ptrdiff_t>(first), work_.end());
    }

    void object(std::size_t at, std::size_t end) {
        // One node a name, at the position of its first member; its values wait in values_.
        Members members = members_of(items_, at + 1, end);
        LayerDigests labels = uniform(digest_of("object"));
        labels[static_cast<std::size_t>(Layer::order)] = combine(digest_of("object"), members.order);
        leaf_or_open(labels, at, true);
        for (auto name = members.names.rbegin(); name != members.names.rend(); ++name) {
            work_.push_back({Work::member, name->key, values_.size()});
            values_.push_back(std::move(name->values));
        }
    }

    void member(std::size_t key, std::size_t name) {
        leaf_or_open(key_labels(items_[key]), key, false);
        const std::vector<std::size_t> values = std::move(values_[name]);
        for (auto value = values.rbegin(); value != values.rend(); ++value)
            work_.push_back({Work::node, *value, 0});
    }

    std::span<const Item> items_;
    std::vector<LayeredNode> nodes_;
    std::vector<Work> work_;
    std::vector<std::vector<std::size_t>> values_;
};

}  // namespace

bool opens(ItemKind kind) {
    return kind == ItemKind::array_open || kind == ItemKind::object_open || kind == ItemKind::container_open;
}
bool closes(ItemKind kind) {
    return kind == ItemKind::array_close || kind == ItemKind::object_close || kind == ItemKind::container_close;
}

std::size_t item_behind(std::span<const Item> items, std::size_t value) {
    return opens(items[value].kind) ? items[value].end + 1 : value + 1;
}

Members members_of(std::span<const Item> items, std::size_t begin, std::size_t end) {
    struct Hash {
        std::size_t operator()(const Digest& d) const { return static_cast<std::size_t>(d.low); }
    };
    std::unordered_map<Digest, std::size_t, Hash> seen;
    Members out;
    out.order = digest_of("");
    for (std::size_t i = begin; i < end; i = item_behind(items, i + 1)) {
        const Digest name = key_labels(items[i])[static_cast<std::size_t>(Layer::exact)];
        out.order = combine(out.order, name);
        const auto [found, is_new] = seen.emplace(name, out.names.size());
        if (is_new) out.names.push_back({i, {}});
        out.names[found->second].values.push_back(i + 1);
    }
    return out;
}

bool is_number(ItemKind kind) {
    return kind >= ItemKind::integer && kind <= ItemKind::spelled;
}

std::uint64_t bits_of(const Item& item) {
    std::uint64_t bits = 0;
    for (const char c : item.digits())
        bits = bits * 16 + static_cast<std::uint64_t>(c <= '9' ? c - '0' : c - 'a' + 10);
    return bits;
}

StoredNumber stored_number(const Item& item, ItemKind kind) {
    StoredNumber out;
    switch (kind) {
        case ItemKind::binary64:
        case ItemKind::binary32: {
            out.binary = true;
            const std::uint64_t bits = bits_of(item);
            const bool narrow = kind == ItemKind::binary32;
            out.nearest = narrow ? number::widen(static_cast<std::uint32_t>(bits)) : bits;
            if (!number::is_nan64(out.nearest) && !number::is_infinite64(out.nearest))
                out.exact = Decimal::parse(narrow ? number::shortest32(static_cast<std::uint32_t>(bits))
                                                  : number::shortest64(bits));
            return out;
        }
        case ItemKind::spelled:
            out.spelled = item.field(0).atoms();
            out.exact = Decimal::parse(out.spelled);
            break;
        default:
            out.exact = Decimal::parse(item.digits());
            break;
    }
    if (out.exact) out.nearest = number::nearest_binary64(*out.exact);
    return out;
}

std::shared_ptr<const std::vector<LayeredNode>> layered_tree(const Trace& trace) {
    return trace.derived<std::vector<LayeredNode>>([](const Trace& t) {
        return t.items().empty() ? std::vector<LayeredNode>{} : TreeBuilder(t.items()).build();
    });
}

std::string name_text(const Item& item) {
    const ItemKind kind = item.kind == ItemKind::key ? item.name_kind : item.kind;
    if (kind == ItemKind::string || kind == ItemKind::spelled) return item.field(0).atoms();
    if (kind == ItemKind::null_value) return "null";
    if (kind == ItemKind::true_value) return "true";
    if (kind == ItemKind::false_value) return "false";
    return std::string(item.digits());
}

}  // namespace nachklang::json

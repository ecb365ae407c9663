// A JSON value as a labelled tree, at all layers at once: the layers differ in labels only, never in shape.
#pragma once

#include <optional>

#include <nachklang/json.hpp>
#include <nachklang/number.hpp>

namespace nachklang::json {

/// A number as an item holds it.
struct StoredNumber {
    std::optional<Decimal>
        exact;  ///< of int, dec, spelled; of a binary one its shortest decimal. Nothing: no finite number
    std::uint64_t nearest = 0;  ///< binary64 bits: the stored value, or the one nearest to it
    bool binary = false;        ///< stored as binary64 or binary32
    std::string spelled;        ///< source text where kept, for one that is no JSON number
};
bool is_number(ItemKind kind);
/// Whether an item opens, or closes, an array, an object or a container of not reported kind.
bool opens(ItemKind kind);
bool closes(ItemKind kind);
/// The bits of a binary64 or binary32 item.
std::uint64_t bits_of(const Item& item);
/// The number that an item holds; is_number must be true for its kind.
StoredNumber stored_number(const Item& item, ItemKind kind);

struct LayeredNode {
    LayerDigests labels{};
    bool set = false;  ///< children are a set
    std::size_t item = 0, end = 0;
};
/// The first item behind a value.
std::size_t item_behind(std::span<const Item> items, std::size_t value);
/// The values of one name in an object, in their order.
struct NamedValues {
    std::size_t key = 0;              ///< item of the name's first member
    std::vector<std::size_t> values;  ///< items
};
struct Members {
    std::vector<NamedValues> names;  ///< by their first member
    Digest order;                    ///< of the names, as the members follow each other
};
/// The members between two items of an object.
Members members_of(std::span<const Item> items, std::size_t begin, std::size_t end);
/// Built once a trace.
std::shared_ptr<const std::vector<LayeredNode>> layered_tree(const Trace& trace);

/// The text of a key or string item for people: its atoms.
std::string name_text(const Item& item);
/// A name's piece of a path.
std::string step_to_name(const Item& key);
/// A value for people; of a container, whether it has anything in it.
std::string shown_value(const Item& item, bool is_empty);
/// The lines of the tree at the layer `order`, without the tree: a level of a deep document takes little memory.
void for_each_line(const Trace& trace, const std::function<bool(const TreeLine&)>& take);

}  // namespace nachklang::json

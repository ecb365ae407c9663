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
/// Built once a trace.
std::shared_ptr<const std::vector<LayeredNode>> layered_tree(const Trace& trace);

/// The text of a key or string item for people: its atoms.
std::string name_text(const Item& item);

}  // namespace nachklang::json

// The trace: the exact notation of a decoded value, and the labelled trees and digests that answers are compared
// by.
//
// docs/trace.md describes the notation. A Trace owns its text; its items view into it.
#pragma once

#include <array>
#include <cstdint>
#include <functional>
#include <memory>
#include <mutex>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace nachklang {

/// A text as an implementation holds it: `u8:HEX`, `u16:HEX`, `u32:HEX` or `-` (not reported).
struct Field {
    enum class Units : std::uint8_t { not_reported, u8, u16, u32 };
    Units units = Units::not_reported;
    std::string_view hex;

    [[nodiscard]] bool reported() const { return units != Units::not_reported; }
    /// Its atoms in one byte form: UTF-8 for scalar values, three bytes for a lone surrogate, FF and the byte for a
    /// stray byte. Two fields have the same atoms exactly where these bytes are equal.
    [[nodiscard]] std::string atoms() const;
    friend bool operator==(const Field& a, const Field& b) {
        return a.reported() == b.reported() &&
               (!a.reported() || (a.units == b.units && a.hex == b.hex) || a.atoms() == b.atoms());
    }
};

enum class ItemKind : std::uint8_t {
    null_value,
    true_value,
    false_value,
    integer,
    decimal,
    binary64,
    binary32,
    spelled,
    string,
    array_open,
    array_close,
    object_open,
    object_close,
    container_open,
    container_close,
    key,
    native,
    unset,
    cycle,
    element,
    element_end,
    attribute,
    declaration,
    text,
    cdata,
    comment,
    instruction,
    reference,
    doctype
};

/// One line of a trace.
class Item {
    std::uint8_t field_count_ = 0;
    bool has_word_ = false;

  public:
    ItemKind kind = ItemKind::null_value;
    ItemKind name_kind = ItemKind::string;  ///< of a key: the kind of its name (string unless a scalar was written)
    std::uint32_t end = 0;  ///< of an item that opens a container or an element: index of the item that closes it

    /// Text, names and values in the notation's order. One that the kind does not have is not reported.
    [[nodiscard]] const Field& field(std::size_t n) const {
        static constexpr Field none{};
        return n < field_count_ ? parts_[n] : none;
    }
    /// Of native: its name; of attribute: given, default or -; digits otherwise.
    [[nodiscard]] std::string_view word() const {
        return has_word_ ? parts_[field_count_].hex : std::string_view{};
    }
    /// Of integer, decimal, binary64, binary32, cycle, and of a key that is such a number.
    [[nodiscard]] std::string_view digits() const { return word(); }

  private:
    friend class Trace;
    const Field* parts_ = nullptr;  // its fields, then its word as the text of one more
};
static_assert(sizeof(Item) == 16, "deep documents have as many items as bytes");

struct TraceError {
    std::size_t line = 1;
    std::string message;
};

/// A decoded value in trace notation. Immutable; copies share the text and may be used from several threads.
class Trace {
  public:
    Trace();
    /// Parses a trace; every line is checked, and so is the nesting.
    static std::optional<Trace> parse(std::string text, TraceError* error = nullptr);

    [[nodiscard]] const std::string& text() const { return *text_; }
    [[nodiscard]] std::span<const Item> items() const { return *items_; }
    /// The text's lines, each with its line end: as many as there are items.
    [[nodiscard]] std::vector<std::string_view> lines() const;

    /// Data that a format derives from the items. It is made once and shared by all copies; one object of each
    /// type T a trace.
    template <class T, class Make>
    std::shared_ptr<const T> derived(Make make) const {
        const std::lock_guard lock(derived_->mutex);
        if (!derived_->value) derived_->value = std::make_shared<const T>(make(*this));
        return std::static_pointer_cast<const T>(derived_->value);
    }

  private:
    struct Derived {
        std::mutex mutex;
        std::shared_ptr<const void> value;
    };
    std::shared_ptr<const std::string> text_;
    std::shared_ptr<Derived> derived_ = std::make_shared<Derived>();
    std::shared_ptr<const std::vector<Field>> parts_;  // of all items
    std::shared_ptr<const std::vector<Item>> items_;
};

/// Writes traces line by line.
class TraceWriter {
  public:
    void line(std::string_view text);
    void text_line(std::string_view word, std::string_view utf8_bytes);
    void bits64(std::uint64_t bits);
    static std::string field(std::string_view utf8_bytes);
    [[nodiscard]] std::string take() { return std::move(out_); }

  private:
    std::string out_;
};

/// How closely two answers are compared; each layer refines the one before.
enum class Layer : std::uint8_t { verdict, value, exact, representation, order };
inline constexpr std::size_t layer_count = 5;
std::string_view name_of(Layer layer);

/// A 128-bit hash.
struct Digest {
    std::uint64_t high = 0, low = 0;
    friend auto operator<=>(const Digest&, const Digest&) = default;
    [[nodiscard]] std::string hex() const;
};
Digest digest_of(std::string_view bytes);
/// Mixes two digests, in this order.
Digest combine(const Digest& first, const Digest& second);
/// A sum that does not depend on the order of its terms.
Digest add(const Digest& a, const Digest& b);

/// Digests of one answer at the layers value, exact, representation and order (index: layer; verdict's is unused).
using LayerDigests = std::array<Digest, layer_count>;

/// A labelled tree: an answer at one layer. Nodes are in document order, children after their parent.
struct Tree {
    struct Node {
        Digest label;                  ///< equal labels and equal children make equal nodes
        std::string step;              ///< this node's piece of a path, such as "/weight_kg"
        bool children_ordered = true;  ///< otherwise a set, matched by label
        std::size_t item = 0;          ///< index of the item it comes from
        std::size_t end = 0;           ///< index of the node after its last descendant
        std::string shown;             ///< for people
        std::uint8_t kind = 0;         ///< nodes of different kinds never take each other's place
        bool is_name = false;          ///< a member's name, with its values below; it shows no more than its step
    };
    std::vector<Node> nodes;
};
/// One digest of a whole tree.
Digest digest_of(const Tree& tree);
/// The same of every node with all below it, in the order of the nodes.
std::vector<Digest> subtree_digests(const Tree& tree);

/// A line of a tree that is shown to people: a node, or a member with its one value.
struct TreeLine {
    std::size_t node = 0;   ///< index of its first node
    std::size_t nodes = 1;  ///< how many nodes it shows
    std::size_t depth = 0;  ///< of the line: 0 for the root
    std::string text;
};
/// Calls `take` with each line, in order; stops when it returns false.
void for_each_line(const Tree& tree, const std::function<bool(const TreeLine&)>& take);

/// A place where two trees differ: nodes of either tree, one of them absent where something was lost or added.
struct TreePair {
    std::optional<std::size_t> left, right;
};
/// The steps from the root to a node, one after another.
std::string path_of(const Tree& tree, std::size_t node);
/// Walks two trees together and calls `differ` for each outermost difference, `same` for each pair with equal
/// labels. Stops after `most` differences.
void compare_trees(const Tree& left, const Tree& right, std::size_t most,
                   const std::function<void(const TreePair&)>& differ,
                   const std::function<void(const TreePair&)>& same = {});

}  // namespace nachklang

// A position in the text of a document and of the entities being expanded.
//
// The text is well-formed UTF-8. The bottom of the stack is the document; each entity lies on top of the text that
// refers to it. If a document comes in pieces and the parser looks past the end of the bytes received, the cursor
// becomes `starved`: the parser must discard what it concluded and try again with more bytes.
#pragma once

#include <array>
#include <deque>
#include <optional>
#include <string>
#include <string_view>

#include <nachklang/text.hpp>
#include <nachklang/xml.hpp>

#include "xml/read/declarations.hpp"

namespace nachklang::xml {

/// The first error. Inside an entity `offset` is that of the reference in the document, and `entity_stack` tells
/// where.
struct Failure {
    std::size_t offset;
    std::string message, clause, entity_stack;
};

inline constexpr std::uint8_t name_start_byte = 1, name_byte = 2, space_byte = 4, plain_text_byte = 8,
                              plain_value_byte = 16;
/// The classes of ASCII bytes. Plain bytes in text and values need no further check.
inline constexpr std::array<std::uint8_t, 256> byte_classes = [] {
    std::array<std::uint8_t, 256> out{};
    for (std::size_t c = 0; c < 256; ++c) {
        const bool letter = (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '_' || c == ':';
        const bool digit = c >= '0' && c <= '9';
        std::uint8_t flags = 0;
        if (letter) flags |= name_start_byte;
        if (letter || digit || c == '-' || c == '.') flags |= name_byte;
        if (c == ' ' || c == '\t' || c == '\n' || c == '\r') flags |= space_byte;
        // U+FFFE and U+FFFF begin with EF.
        const bool harmless = c >= 0x20 && c != 0xEF && c != '<' && c != '&';
        if ((harmless && c != ']') || c == '\t' || c == '\n') flags |= plain_text_byte;
        if (harmless && c != '"' && c != '\'') flags |= plain_value_byte;
        out[c] = flags;
    }
    return out;
}();
inline bool is_byte(char c, std::uint8_t flags) {
    return (byte_classes[static_cast<unsigned char>(c)] & flags) != 0;
}
inline bool is_space(char c) {
    return is_byte(c, space_byte);
}

class Cursor {
  public:
    /// `is_allowed` is the character class that production 2 of the document's version gives.
    Cursor(std::string_view text, bool complete, bool (*is_allowed)(char32_t) = is_char)
        : text_(text), complete_(complete), is_allowed_(is_allowed) {}

    // --- looking ---
    [[nodiscard]] bool at_end() const {
        if (at_ < text_.size()) return false;
        note_end();
        return true;
    }
    /// NUL, which no document contains, past the end.
    [[nodiscard]] char peek(std::size_t ahead = 0) const {
        if (at_ + ahead < text_.size()) return text_[at_ + ahead];
        note_end();
        return '\0';
    }
    [[nodiscard]] std::size_t at() const { return at_; }
    void set(std::size_t at) { at_ = at; }
    void move(std::size_t count) { at_ += count; }
    [[nodiscard]] std::string_view text() const { return text_; }
    [[nodiscard]] std::string_view since(std::size_t begin) const { return text_.substr(begin, at_ - begin); }
    [[nodiscard]] bool looking_at(std::string_view word) const;

    // --- taking ---
    bool skip_space() {
        const std::size_t begin = at_;
        while (!at_end() && is_space(text_[at_])) ++at_;
        return at_ > begin;
    }
    bool literal(std::string_view word, std::string_view clause);
    /// Consumes the longest of the words that matches here; fails at the first byte that none of them continues
    /// with.
    std::optional<std::size_t> one_of(std::span<const std::string_view> words, std::string_view what,
                                      std::string_view clause);
    bool name(std::string_view& out, std::string_view what, std::string_view clause);
    bool name_token(std::string_view& out, std::string_view clause);
    /// One character that production 2 allows.
    bool character(std::string_view expected, std::string_view clause);
    /// At "&#": the character referred to is appended.
    bool character_reference(std::string& out);
    /// After "<!--": the text up to "-->", with line ends unchanged.
    bool comment(std::string_view& inside);
    /// After "<?".
    bool instruction(std::string_view& target, std::string_view& data);

    // --- failing ---
    // Fails at the cursor's position: `expected` was not found.
    bool fail(std::string_view expected, std::string_view clause);
    /// Of several failures one after another the first counts.
    bool fail_at(std::size_t at, std::string message, std::string_view clause);
    [[nodiscard]] const std::optional<Failure>& failure() const { return failure_; }
    void forget_failure() { failure_.reset(); }
    /// The place in the document and the trail of a place in the current text.
    [[nodiscard]] Failure failure_at(std::size_t at, std::string message, std::string clause) const;

    // --- entities ---
    // Enters an entity whose reference began at `reference`. False if that would recur or exceed the expansion
    // budget.
    bool enter(Entity& entity, std::size_t reference, bool padded = false);
    // Counts what the document expands to besides, such as attributes that an element has by default. False if that
    // exceeds the budget.
    bool spend(std::size_t bytes, std::size_t at);
    void finish();
    [[nodiscard]] std::size_t depth() const { return frames_.size(); }
    [[nodiscard]] const Entity* entity() const { return frames_.empty() ? nullptr : frames_.back().entity; }
    /// Whether line ends are still as they came: in the document and in external entities (2.11).
    [[nodiscard]] bool raw() const { return frames_.empty() || frames_.back().entity->external; }
    /// In the document itself, not in any entity's text.
    [[nodiscard]] bool in_document() const { return frames_.empty(); }
    [[nodiscard]] bool over_budget() const { return over_budget_; }
    /// How many entities were open at once, at most.
    [[nodiscard]] std::size_t deepest_entity() const { return deepest_entity_; }
    /// Bytes that entities expanded to so far.
    [[nodiscard]] std::size_t expanded() const { return expanded_; }

    // --- pieces ---
    [[nodiscard]] bool starved() const { return starved_; }
    void replace_text(std::string_view text, std::size_t at, bool complete) {
        text_ = text;
        at_ = at;
        complete_ = complete;
        starved_ = false;
    }
    /// Marks the conclusion as valid although the cursor looked past the end.
    void settle() { starved_ = false; }
    /// Bytes of the longest name so far.
    [[nodiscard]] std::size_t longest_name() const { return longest_name_; }
    [[nodiscard]] std::optional<std::size_t> wide_name() const { return wide_name_; }

  private:
    struct Frame {
        std::string_view text;  // the text that refers to the entity
        std::size_t at;         // where it continues
        std::size_t reference;
        Entity* entity;
        std::string padded{};
    };

    void note_end() const {
        if (!complete_ && frames_.empty()) starved_ = true;
    }
    bool name_from(std::size_t begin, std::string_view& out);

    std::string_view text_;
    std::size_t at_ = 0;
    bool complete_;
    bool (*is_allowed_)(char32_t);
    mutable bool starved_ = false;
    std::deque<Frame> frames_;  // in place: texts lie in them
    std::optional<Failure> failure_;
    std::size_t expanded_ = 0, longest_name_ = 0, deepest_entity_ = 0;
    bool over_budget_ = false;
    std::optional<std::size_t> wide_name_;
};

/// Reads `key = "…"` of a declaration; `value` parses the text between the quotes.
template <class Value>
bool pseudo_attribute(Cursor& cursor, std::string_view key, std::string_view clause, Value value) {
    if (!cursor.literal(key, clause)) return false;
    cursor.skip_space();
    if (!cursor.literal("=", clause)) return false;
    cursor.skip_space();
    const char quote = cursor.peek();
    if (quote != '"' && quote != '\'') return cursor.fail("a quote", clause);
    cursor.move(1);
    if (!value()) return false;
    if (cursor.peek() != quote) return cursor.fail("the closing quote", clause);
    cursor.move(1);
    return true;
}
/// Takes a version's number (production 26).
bool version_number(Cursor& cursor, std::string_view& out);
/// Takes an encoding's name (production 81).
bool encoding_name(Cursor& cursor);

/// CR LF and CR become LF (2.11).
std::string with_line_ends(std::string_view raw);

}  // namespace nachklang::xml

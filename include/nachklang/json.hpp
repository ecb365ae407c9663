// The reference reader for JSON (RFC 8259): strict, lossless, without recursion.
//
// The scanner is a state machine that feeds a sink. It reads its input in pieces, in constant memory except for
// one bit a level, and gives the sink the position of each token. The sink decides what to keep: nothing (a
// verdict) or a tape (a tree).
#pragma once

#include <cstddef>
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include <nachklang/format.hpp>
#include <nachklang/text.hpp>

namespace nachklang::json {

/// The message and clause of the first error.
enum class Fault : std::uint8_t {
    none,
    value_expected,
    value_or_close_expected,
    name_or_close_expected,
    name_expected,
    colon_expected,
    comma_or_bracket_expected,
    comma_or_brace_expected,
    end_expected,
    literal_misspelled,
    digit_expected,
    fraction_digit_expected,
    exponent_digit_expected,
    leading_zero,
    control_in_string,
    unknown_escape,
    hex_digit_expected,
    ill_formed_utf8,
    byte_order_mark
};

/// Properties of a string's source, known without looking at it twice.
struct StringFlags {
    bool escaped : 1 = false;  ///< contains a backslash
    bool non_ascii : 1 = false;
    bool lone_surrogate : 1 = false;  ///< an escaped surrogate without its other half (RFC 8259, 8.2)
    bool nul : 1 = false;             ///< U+0000
    friend bool operator==(const StringFlags&, const StringFlags&) = default;
};

enum class TokenKind : std::uint8_t {
    null_value,
    true_value,
    false_value,
    number,
    string,
    name,
    array_open,
    array_close,
    object_open,
    object_close
};

/// One entry of a tape, in 16 bytes. Strings and names include their quotes.
struct Entry {
    Entry(TokenKind token, StringFlags about, std::uint64_t from, std::uint64_t to)
        : kind(token), flags(about), begin(from & 0xFFFF'FFFF'FFFF), end(to) {}

    TokenKind kind;
    StringFlags flags;
    std::uint64_t begin : 48;  ///< offset of the token's first byte
    std::uint64_t end;  ///< offset after its last byte; of an opener: index of its closer in the tape; of a closer:
                        ///< of its opener
};

/// The instructions that the scanner uses. All give the same readings; a processor without the requested ones uses
/// the scalar code.
enum class Instructions : std::uint8_t { scalar, sse2, avx2 };
/// The fastest that this processor has.
Instructions best_instructions();

/// Takes a document in pieces and says whether it is JSON; pipes need not be read twice. Memory: one block, and a
/// bit a level. Not for use from several threads at once.
class VerdictReader {
  public:
    explicit VerdictReader(Instructions instructions = best_instructions());
    ~VerdictReader();
    VerdictReader(const VerdictReader&) = delete;
    VerdictReader& operator=(const VerdictReader&) = delete;
    /// Takes the next bytes. False once the document cannot be one any more; later bytes are ignored.
    bool feed(std::string_view piece);
    /// Says that the document ends; nothing when it is JSON.
    std::optional<Rejection> finish();
    /// The deepest nesting seen.
    [[nodiscard]] std::size_t deepest() const;

  private:
    struct State;
    std::unique_ptr<State> state_;
};

/// A document as a flat tape over the borrowed bytes: they must outlive it.
class Document {
  public:
    /// Reads a whole document. If it is not JSON, `rejection` is set and the tape is empty.
    static Document read(std::string_view bytes, Instructions instructions = best_instructions());
    /// The same for another document, in the memory that this one took.
    void read_next(std::string_view bytes, Instructions instructions = best_instructions());

    [[nodiscard]] bool accepted() const { return !rejection_.has_value(); }
    [[nodiscard]] const std::optional<Rejection>& rejection() const { return rejection_; }
    [[nodiscard]] std::string_view bytes() const { return bytes_; }
    [[nodiscard]] const std::vector<Entry>& tape() const { return tape_; }
    [[nodiscard]] std::size_t deepest() const { return deepest_; }
    /// The tape's index after an entry and all that it contains.
    [[nodiscard]] std::size_t after(std::size_t entry) const;
    /// Whether an entry opens an object of two members or more.
    [[nodiscard]] bool has_several_members(std::size_t entry) const;
    /// Indices of the names that their objects had before, in the document's order.
    [[nodiscard]] std::vector<std::size_t> repeated_names() const;
    /// The source of a token, a string's with its quotes.
    [[nodiscard]] std::string_view source(const Entry& entry) const;
    /// A string's or name's atoms (see Field::atoms), its escapes undone.
    [[nodiscard]] std::string atoms(const Entry& entry) const;
    /// The value in trace notation: numbers as spelled, members in their order, duplicates repeated.
    [[nodiscard]] Trace trace() const;
    /// The text of that trace, for callers that need the tape no more when it is parsed.
    [[nodiscard]] std::string trace_text() const;

  private:
    std::string_view bytes_;
    std::optional<Rejection> rejection_;
    std::vector<Entry> tape_;
    std::size_t deepest_ = 0;
};

/// A document that becomes JSON once extensions seen in the wild are written as JSON would.
struct Extended {
    struct Use {
        std::string extension;  ///< "comments", "trailing-comma" …
        std::size_t offset = 0;
    };
    std::string strict_text;
    std::vector<Use> uses;
};
/// Finds the extensions that a document uses; nothing if it needs none, or is not JSON even with them.
std::optional<Extended> read_extended(std::string_view document);

/// The plug-in.
const Format& format();

}  // namespace nachklang::json

// Bytes, code points and places in a document.
//
// Documents are byte strings (std::string_view): a document may be ill-formed in any way, and nothing here
// assumes otherwise. Offsets count bytes from 0; lines and columns count from 1; a column counts code points.
#pragma once

#include <cstddef>
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

namespace nachklang {

/// A place in a document. Lines end with LF, CR LF or CR.
struct Position {
    std::size_t offset = 0;  ///< bytes from 0
    std::size_t line = 1;    ///< from 1
    std::size_t column = 1;  ///< code points from 1
    friend bool operator==(const Position&, const Position&) = default;
};

namespace text {

/// One step of decoding UTF-8.
struct Utf8Step {
    char32_t scalar = 0;      ///< the scalar value where well_formed
    std::size_t length = 1;   ///< bytes taken: of the sequence, or of the maximal subpart that is ill-formed
    bool well_formed = true;  ///< by Unicode's table 3-7
    bool cut_short = false;   ///< ill-formed only because the bytes end here
};

/// Decodes the code point at `at` (which must lie inside `bytes`); RFC 3629, 3 and Unicode 15, 3.9, D93b.
Utf8Step decode_utf8(std::string_view bytes, std::size_t at);

/// Offset of the first ill-formed sequence, or nothing.
std::optional<std::size_t> first_ill_formed(std::string_view bytes);

/// Appends a code point (a surrogate too, as three bytes) in UTF-8's bit pattern.
void append_utf8(std::string& out, char32_t code_point);

/// Counts the lines and columns of a range of bytes, added to the position where it starts.
class PositionCounter {
  public:
    void advance(std::string_view bytes);
    /// Over bytes that are no characters of the text, such as a byte order mark.
    void skip(std::size_t bytes) { position_.offset += bytes; }
    [[nodiscard]] Position position() const { return position_; }

  private:
    Position position_;
    bool after_cr_ = false;
};

/// The place of `offset` in `document`; `offset` may be its length.
Position position_of(std::string_view document, std::size_t offset);

/// The offset of the character that lies `count` behind `begin`, counted in a unit: point (code points), utf16 (its
/// units), or bytes for any other word. Nothing if the document ends before.
std::optional<std::size_t> counted_from(std::string_view document, std::size_t begin, std::uint64_t count,
                                        std::string_view unit);
/// The offset of a line and a column, both from 1; a line ends as a Position's does.
std::optional<std::size_t> offset_of(std::string_view document, std::uint64_t line, std::uint64_t column,
                                     std::string_view unit);
/// Where a line begins; nothing behind the last one.
std::optional<std::size_t> line_begin(std::string_view document, std::uint64_t line);

/// Lower-case hexadecimal digits of the bytes.
std::string to_hex(std::string_view bytes);

/// The bytes of a string of hexadecimal digits (spaces between bytes allowed), or nothing if it is not one.
std::optional<std::string> from_hex(std::string_view hex);

/// The text with everything escaped that could act on a terminal or mislead its reader: control characters,
/// direction-changing and other invisible format characters, ill-formed bytes (as \xHH). Never splits a character.
std::string printable(std::string_view bytes, bool keep_line_ends = false);

/// Any bytes as UTF-8: as they are, or printable(bytes) where they are none.
std::string in_utf8(std::string_view bytes);

/// At most `most` code points of printable(bytes), with an ellipsis where something was cut.
std::string printable_excerpt(std::string_view bytes, std::size_t most);

/// The same of a text that is held as atoms (Field::atoms): a lone surrogate as \uHHHH, a stray byte as \xHH.
std::string printable_atoms(std::string_view atoms, std::size_t most = std::string_view::npos);

/// The text with each address of memory as 0x…: of two runs that differ in nothing else, the words are the same. An
/// address is 0x and 12 to 16 hexadecimal digits that amount to 2^40 or more and less than 2^48.
std::string without_addresses(std::string text);

/// The bytes as one word of a POSIX shell: as they are, in single quotes, or as $'…' with octal escapes where a
/// byte is not printable ASCII. Safe on a terminal and to paste. (POSIX.1-2024, Shell Command Language, 2.2)
std::string shell_word(std::string_view bytes);

/// Columns that printable text occupies on a terminal: wide characters count two, combining ones zero.
std::size_t display_width(std::string_view printable_text);

/// Decimal digits in groups of three: "1,048,576".
std::string grouped(std::uint64_t number);

enum class Utf { utf16le, utf16be, utf32le, utf32be };

/// The bytes of an encoding form as UTF-8; nothing if they are ill-formed. A byte order mark is kept.
std::optional<std::string> to_utf8(std::string_view bytes, Utf form);
/// A well-formed UTF-8 text in another encoding form, without a byte order mark.
std::string from_utf8(std::string_view utf8, Utf form);

/// A document for people: one that begins like UTF-16 or UTF-32 as its text, behind the name of its encoding
/// ("UTF-16LE: [1]"); any other like `printable`.
std::string printable_document(std::string_view bytes);

}  // namespace text
}  // namespace nachklang

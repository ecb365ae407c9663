// What XML 1.1 reads otherwise than XML 1.0: line ends, which control characters a document may hold, and where.
// Names are those of XML 1.0, Fifth Edition.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace nachklang::xml {

/// Whether a text begins with an XML declaration that names version 1.1.
bool declares_version_1_1(std::string_view text);

/// A text as a processor of XML 1.1 parses it, with the way back to the offsets of the text that came.
///
/// CR LF, CR U+0085, U+0085, U+2028 and CR become LF before parsing (XML 1.1, 2.11), but not in the XML
/// declaration.
class Text11 {
  public:
    explicit Text11(std::string_view raw);
    [[nodiscard]] std::string_view text() const { return text_; }
    /// The offset in the raw text of an offset in `text()`.
    [[nodiscard]] std::size_t raw_offset(std::size_t offset) const;
    /// Offset in `text()` of the first control character that only a reference may give (XML 1.1, productions 1,
    /// 2a).
    [[nodiscard]] std::optional<std::size_t> restricted() const { return restricted_; }

  private:
    struct Shortened {
        std::size_t after;    // offset in the text, behind a line end
        std::size_t removed;  // bytes that all line ends up to it lost
    };
    std::string text_;
    std::vector<Shortened> shortened_;
    std::optional<std::size_t> restricted_;
};

/// Char of XML 1.1 (production 2). A document holds the control characters among them only by reference.
bool is_char_1_1(char32_t c);

}  // namespace nachklang::xml

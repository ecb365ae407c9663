// A document's bytes as UTF-8, with the way back from its offsets to those of the document.
#pragma once

#include <string>
#include <string_view>

#include <nachklang/text.hpp>

namespace nachklang::xml {

/// How a document's bytes are read.
enum class Encoding { utf8, utf16le, utf16be, latin1, ascii };

/// The encoding that the first bytes and the declaration name (XML 1.0, 4.3.3 and appendix F).
struct Detected {
    Encoding encoding = Encoding::utf8;
    std::string beyond;        ///< not empty: an encoding that is not read
    std::size_t mark = 0;      ///< bytes of a byte order mark
    bool contradicts = false;  ///< the declaration names another family than the bytes show
};
Detected detect(std::string_view document);

class Source {
  public:
    Source(std::string_view document, const Detected& detected);
    [[nodiscard]] std::string_view text() const { return text_; }
    /// Offset in the text of the first thing that is ill-formed in its encoding; the text ends there.
    [[nodiscard]] std::optional<std::size_t> ill_formed() const { return ill_formed_; }
    /// The place in the document of an offset in the text.
    [[nodiscard]] Position position(std::size_t offset) const;

  private:
    Encoding encoding_;
    std::size_t mark_;
    std::string text_;
    std::optional<std::size_t> ill_formed_;
};

}  // namespace nachklang::xml

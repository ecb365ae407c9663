// A document's bytes as UTF-8, with the way back from its offsets to those of the document.
#pragma once

#include <optional>

#include <string>
#include <string_view>

#include <nachklang/text.hpp>

namespace nachklang::xml {

/// How a document's bytes are read: five ways by ourselves, others by the system's converter (iconv).
enum class Encoding : std::uint8_t { utf8, utf16le, utf16be, latin1, ascii, converted };

/// The encoding that the first bytes and the declaration name (XML 1.0, 4.3.3 and appendix F).
struct Detected {
    Encoding encoding = Encoding::utf8;
    std::string converter;           ///< iconv's name, where `converted`
    std::string unreadable_because;  ///< not empty: an encoding that is not supported
    std::size_t mark = 0;            ///< bytes of a byte order mark
    bool contradicts = false;        ///< the declaration names another family than the bytes show
    bool unmarked = false;           ///< UTF-16 without a byte order mark
    bool optional = false;           ///< neither UTF-8 nor UTF-16: a processor need not read it
};
Detected detect(std::string_view document);

class Source {
  public:
    /// A document in UTF-8 is borrowed and must outlive its source.
    Source(std::string_view document, const Detected& detected);
    Source(const Source&) = delete;
    Source& operator=(const Source&) = delete;
    [[nodiscard]] std::string_view text() const { return text_; }
    /// Offset in the text of the first thing that is ill-formed in its encoding; the text ends there.
    [[nodiscard]] std::optional<std::size_t> ill_formed() const { return ill_formed_; }
    /// The place in the document of an offset in the text.
    [[nodiscard]] Position position(std::size_t offset) const;

  private:
    void decode_utf16();

    std::string_view bytes_;  // behind the byte order mark
    Detected detected_;
    std::string owned_;
    std::string_view text_;
    std::optional<std::size_t> ill_formed_;
};

}  // namespace nachklang::xml

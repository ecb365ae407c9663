// The reference reader for XML 1.0 (Fifth Edition) with Namespaces 1.0 (Third Edition), without recursion.
//
// Where it is asked to, it reads a document that declares version 1.1 by XML 1.1 (Second Edition) and
// Namespaces 1.1. It reads the whole internal subset, expands entities, supplies defaults and normalises as a
// non-validating processor must (5.1). It reads external entities only through a loader that the caller provides.
// It gives no verdict on documents in encodings that it cannot read, or whose entities expand past its budget.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include <nachklang/format.hpp>

namespace nachklang::xml {

/// A document as the reader sees it. Well-formed and namespace-well-formed are two verdicts.
struct Reading {
    std::optional<Rejection> rejection;            ///< of the first well-formedness error
    std::optional<Rejection> namespace_rejection;  ///< of the first namespace error in a well-formed document
    std::string unreadable_because;                ///< not empty: why the reader gives no verdict
    Trace trace;                                   ///< of a well-formed document
    bool external_subset = false;                  ///< whether its document type names one
    std::vector<Occurrence> occurrences;
};
/// How the reader skips plain text. Both give the same readings.
enum class Instructions : std::uint8_t { scalar, vector };
/// Whether a document that declares version 1.1 is read as one of 1.0 (XML 1.0, 2.8), or by XML 1.1 and
/// Namespaces 1.1.
enum class Versions : std::uint8_t { only_1_0, also_1_1 };
Reading read(std::string_view document, const Fetch& fetch = {}, Instructions instructions = Instructions::vector,
             Versions versions = Versions::only_1_0);

/// Takes a document in pieces and says whether it is well-formed, with namespaces or without. Memory: the longest
/// token, the open elements' names and the declarations; of a document that is not in UTF-8, or is read by XML 1.1,
/// the whole of it.
class VerdictReader {
  public:
    explicit VerdictReader(bool namespaces = true, Versions versions = Versions::only_1_0);
    ~VerdictReader();
    VerdictReader(const VerdictReader&) = delete;
    VerdictReader& operator=(const VerdictReader&) = delete;
    /// Takes the next bytes. False once the document cannot be one any more; later bytes are ignored.
    bool feed(std::string_view piece);
    /// Says that the document ends; nothing when it is one.
    std::optional<Rejection> finish();
    /// After finish: why the reader gives no verdict; empty if it gives one.
    [[nodiscard]] std::string unreadable_because() const;

  private:
    struct State;
    std::unique_ptr<State> state_;
};

/// Which canonical form is written.
struct CanonicalOptions {
    bool comments = false;
    bool exclusive = false;               ///< Exclusive XML Canonicalization 1.0; else Canonical XML 1.0
    std::vector<std::string> prefixes{};  ///< exclusive: those treated inclusively, "" for the default namespace
    std::string subset{};  ///< the one element that a path names ("/register/bell[2]"); empty: the whole document
};
/// Canonical XML 1.0 (without a subset the same as 1.1), or its exclusive form.
Canonical canonical(std::string_view document, const CanonicalOptions& options = {}, const Fetch& fetch = {});

/// Whether a code point may occur in a document (production 2), start a name (4), continue one (4a).
bool is_char(char32_t c);
bool is_name_start(char32_t c);
bool is_name_char(char32_t c);
/// The same by the editions before the fifth (their appendix B).
bool is_fourth_edition_name_start(char32_t c);
bool is_fourth_edition_name_char(char32_t c);

/// The plug-in.
const Format& format();

}  // namespace nachklang::xml

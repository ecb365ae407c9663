// The document type declaration: productions 28 to 31 and 45 to 83 of XML 1.0.
#pragma once

#include <functional>

#include "xml/read/cursor.hpp"

namespace nachklang::xml {

/// The text of an external entity as UTF-8, without its text declaration; nothing if it is not read. An error of
/// the entity itself (its encoding, its declaration) goes to `problem` and `clause`.
struct ExternalText {
    std::string text;
    std::string base;  ///< the base of relative system identifiers inside
    std::string problem, clause;
};
using Loader = std::function<std::optional<ExternalText>(std::string_view system_id, std::string_view base)>;

/// Questions that a DTD raises, by name.
struct SubsetNotes {
    bool predefined_redeclared_oddly = false;  ///< 4.6: an error that may be reported
    bool unread_external = false;
    bool undeclared_parameter = false;
    bool fragment_in_system_id = false;  ///< 4.2.2: an error that may be reported
};

class SubsetReader {
  public:
    SubsetReader(Cursor& cursor, Declarations& declarations, const Loader& loader)
        : c_(cursor), d_(declarations), loader_(loader) {}

    /// Discards what an earlier attempt read.
    void begin();
    /// After "<!DOCTYPE". False after the first error.
    bool read();
    [[nodiscard]] const std::string& root() const { return root_; }
    [[nodiscard]] const SubsetNotes& notes() const { return notes_; }
    /// Namespaces 1.0, 7: names that may hold no colon, or one at most. Offsets are those of the document.
    [[nodiscard]] const std::optional<Failure>& namespace_failure() const { return namespace_failure_; }

    /// Enters a general or parameter entity's text if it is known or can be read.
    enum class Text : std::uint8_t { there, not_read, broken };
    Text provide(Entity& entity, std::size_t reference);

    /// Appends an attribute value up to its quote, normalised as CDATA (3.3.3). After the opening quote.
    bool attribute_value(char quote, std::string& out);
    /// The entity that a reference names; null if it is undeclared, which may or may not be an error.
    Entity* general_entity(std::string_view name, std::size_t reference);
    /// Takes a general reference up to its ";": its name.
    bool reference_name(std::string_view& name);
    [[nodiscard]] bool undeclared_seen() const { return undeclared_seen_; }

  private:
    bool declarations(bool external);
    bool markup();
    bool element();
    bool content_model();
    bool mixed();
    bool attribute_list();
    bool attribute_definition(AttributeDeclarations& list);
    bool attribute_type(AttributeDeclaration& out);
    bool names_in_parentheses(bool tokens);
    bool entity();
    bool entity_value(std::string& out);
    /// Leaves each replacement text that is read to its end; at the closing quote, passes it and says true.
    bool value_ends(char quote, std::size_t bottom);
    bool notation();
    bool external_id(Entity* out, bool public_alone);
    bool system_literal(std::string* out);
    bool public_literal();
    bool conditional();
    bool ignored();
    bool comment();
    bool instruction();

    /// White space of a declaration, including parameter entities if they may occur there.
    bool space();
    bool need_space(std::string_view what, std::string_view clause);
    bool close(std::string_view clause);
    bool parameter_reference();
    /// At "%": the entity named; null if it is not declared, or if the reference is malformed and parsing has
    /// failed.
    Entity* parameter_entity();
    void note_name(std::size_t at, std::string_view name, bool qualified);
    [[nodiscard]] bool external_text() const;
    bool inside_declaration(std::size_t begin);

    Cursor& c_;
    Declarations& d_;
    const Loader& loader_;
    std::string root_;
    SubsetNotes notes_;
    std::optional<Failure> namespace_failure_;
    std::size_t declaration_depth_ = 0;  // of entities when the current declaration began
    std::size_t included_ = 0;           // whether the markup just read opened an INCLUDE
    bool undeclared_seen_ = false;
};

/// Leading and trailing spaces go, several become one (3.3.3).
std::string without_extra_spaces(std::string_view value);

/// The character of lt, gt, amp, apos and quot; NUL of any other name.
char predefined(std::string_view name);

/// At most one colon, and names before and after it (Namespaces 1.0, productions 7 to 11).
bool is_qualified_name(std::string_view name);

}  // namespace nachklang::xml

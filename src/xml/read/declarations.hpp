// The declarations of a DTD that a non-validating processor must use: entities, attribute types and defaults (XML
// 1.0, 5.1).
#pragma once

#include <map>
#include <string>
#include <string_view>
#include <unordered_map>
#include <unordered_set>
#include <utility>
#include <vector>

namespace nachklang::xml {

struct Entity {
    std::string name;
    std::string text;  ///< replacement text (4.5); of an external one, once it is read
    std::string system_id, base;
    bool parameter = false;
    bool external = false;
    bool unparsed = false;
    bool inside = false;  ///< declared in the internal subset itself, not by way of a parameter entity (4.1)
    bool loaded = false;  ///< of an external one: `text` is there
    bool open = false;    ///< being expanded: a reference to it would recur
};

struct AttributeDeclaration {
    std::string name;
    bool tokenised = false;  ///< of another type than CDATA: leading, trailing and double spaces go (3.3.3)
    bool defaulted = false;
    std::string value;  ///< the default, normalised
};

/// Of one element, in the order of their declarations; of one attribute declared twice the first binds (3.3).
class AttributeDeclarations {
  public:
    void add(AttributeDeclaration declaration) {
        if (names_.insert(declaration.name).second) list_.push_back(std::move(declaration));
    }
    [[nodiscard]] const std::vector<AttributeDeclaration>& list() const { return list_; }

  private:
    std::vector<AttributeDeclaration> list_;
    std::unordered_set<std::string> names_;
};

struct Declarations {
    std::map<std::string, Entity, std::less<>> general, parameter;
    std::unordered_map<std::string, AttributeDeclarations> attributes;  ///< by element
    bool has_external_subset = false;
    bool has_parameter_reference = false;
    bool standalone = false;
    /// False after a parameter entity that was not read, unless the document is standalone: later declarations
    /// must then be ignored.
    bool heeded = true;
    bool skips_parameter_entities = false;  ///< no parameter entity is read, internal ones included
    bool heeded_after_undeclared = false;   ///< an undeclared parameter entity is no such entity

    /// Whether an undeclared entity is no fatal error, because its declaration may be in a part that was not read
    /// (4.1).
    [[nodiscard]] bool may_hide_entities() const {
        return !standalone && (has_external_subset || has_parameter_reference);
    }
};

}  // namespace nachklang::xml

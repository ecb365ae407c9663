// Attribute-list, entity and notation declarations of a DTD, and the values in them.
#include <fmt/format.h>
#include <algorithm>
#include "xml/read/subset.hpp"

namespace nachklang::xml {
namespace {

bool is_quote(char c) {
    return c == '"' || c == '\'';
}

/// What 4.6 demands of a declaration of lt, gt, amp, apos or quot.
bool is_proper_predefined(const Entity& entity) {
    static const std::map<std::string_view, char> characters{
        {"lt", '<'}, {"gt", '>'}, {"amp", '&'}, {"apos", '\''}, {"quot", '"'}};
    const auto known = characters.find(entity.name);
    if (known == characters.end()) return true;
    if (entity.external) return false;
    if (entity.text.starts_with("&#")) {
        Cursor cursor(entity.text, true);
        std::string referred;
        return cursor.character_reference(referred) && cursor.at_end() && referred == std::string(1, known->second);
    }
    return entity.text == std::string(1, known->second) && known->second != '<' && known->second != '&';
}

bool is_public_character(char c) {
    constexpr std::string_view signs = " \r\n-'()+,./:=?;!*#@$_%";
    return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') ||
           (c != '\0' && signs.find(c) != std::string_view::npos);
}

}  // namespace

// --- attributes ---

bool SubsetReader::attribute_list() {
    if (!need_space("white space after ATTLIST", "production 52")) return false;
    std::string_view element;
    const std::size_t begin = c_.at();
    if (!c_.name(element, "an element's name", "production 52")) return false;
    note_name(begin, element, true);
    AttributeDeclarations ignored;
    const bool heeded = d_.heeded;
    AttributeDeclarations& list = heeded ? d_.attributes[std::string(element)] : ignored;
    while (true) {
        const bool spaced = space();
        if (c_.failure()) return false;
        if (c_.peek() == '>') {
            c_.move(1);
            return true;
        }
        if (!spaced) return c_.fail("white space or '>'", "production 52");
        if (!attribute_definition(list)) return false;
    }
}

bool SubsetReader::attribute_definition(AttributeDeclarations& list) {
    AttributeDeclaration out;
    std::string_view name;
    const std::size_t begin = c_.at();
    if (!c_.name(name, "an attribute's name or '>'", "production 53")) return false;
    note_name(begin, name, true);
    out.name = name;
    if (!need_space("white space after the name", "production 53") || !attribute_type(out) ||
        !need_space("white space after the type", "production 53"))
        return false;
    if (c_.peek() == '#') {
        static constexpr std::array<std::string_view, 3> words{"#REQUIRED", "#IMPLIED", "#FIXED"};
        const auto word = c_.one_of(words, "#REQUIRED, #IMPLIED or #FIXED", "production 60");
        if (!word) return false;
        out.defaulted = *word == 2;
        if (out.defaulted && !need_space("white space after #FIXED", "production 60")) return false;
    } else {
        out.defaulted = true;
    }
    if (out.defaulted) {
        const char quote = c_.peek();
        if (!is_quote(quote)) return c_.fail("a default value in quotes", "production 60");
        c_.move(1);
        if (!attribute_value(quote, out.value)) return false;
        if (out.tokenised) out.value = without_extra_spaces(out.value);
    }
    list.add(std::move(out));
    return true;
}

bool SubsetReader::attribute_type(AttributeDeclaration& out) {
    out.tokenised = true;
    if (c_.peek() == '(') return names_in_parentheses(true);
    static constexpr std::array<std::string_view, 9> words{"CDATA",    "ID",      "IDREF",    "IDREFS",  "ENTITY",
                                                           "ENTITIES", "NMTOKEN", "NMTOKENS", "NOTATION"};
    const auto word = c_.one_of(words, "an attribute's type", "production 54");
    if (!word) return false;
    out.tokenised = *word != 0;
    if (*word != 8) return true;
    if (!need_space("white space after NOTATION", "production 58")) return false;
    if (c_.peek() != '(') return c_.fail("'('", "production 58");
    return names_in_parentheses(false);
}

bool SubsetReader::names_in_parentheses(bool tokens) {
    const std::string_view clause = tokens ? "production 59" : "production 58";
    do {
        c_.move(1);
        space();
        std::string_view name;
        const std::size_t begin = c_.at();
        if (!(tokens ? c_.name_token(name, clause) : c_.name(name, "a notation's name", clause))) return false;
        if (!tokens) note_name(begin, name, false);
        space();
    } while (c_.peek() == '|');
    if (c_.peek() != ')') return c_.fail("'|' or ')'", clause);
    c_.move(1);
    return !c_.failure();
}

// --- values ---

bool SubsetReader::reference_name(std::string_view& name) {
    c_.move(1);
    if (!c_.name(name, "an entity's name or '#'", "production 68")) return false;
    if (c_.peek() != ';') return c_.fail("';' after the entity's name", "production 68");
    c_.move(1);
    return true;
}

Entity* SubsetReader::general_entity(std::string_view name, std::size_t reference) {
    const auto known = d_.general.find(name);
    const bool found = known != d_.general.end();
    if (found && (!d_.standalone || known->second.inside)) return &known->second;
    if (d_.may_hide_entities()) {
        undeclared_seen_ = true;
        return nullptr;
    }
    c_.fail_at(reference,
               fmt::format("the entity {} is {}", text::printable_excerpt(name, 40),
                           found ? "declared externally, but the document is standalone" : "not declared"),
               "WFC Entity Declared");
    return nullptr;
}

bool SubsetReader::value_ends(char quote, std::size_t bottom) {
    while (c_.depth() > bottom && c_.at_end()) c_.finish();
    if (c_.depth() != bottom || c_.peek() != quote) return false;
    c_.move(1);
    return true;
}

bool SubsetReader::attribute_value(char quote, std::string& out) {
    const std::size_t bottom = c_.depth();
    while (true) {
        if (value_ends(quote, bottom)) return true;
        const char c = c_.peek();
        if (c == '<')
            return c_.fail_at(c_.at(), "'<' is not allowed in an attribute value", "WFC No < in Attribute Values");
        if (c == '&') {
            const std::size_t begin = c_.at();
            if (c_.peek(1) == '#') {
                if (!c_.character_reference(out)) return false;
                continue;
            }
            std::string_view name;
            if (!reference_name(name)) return false;
            if (const char character = predefined(name)) {
                out.push_back(character);
                continue;
            }
            Entity* entity = general_entity(name, begin);
            if (entity == nullptr) {
                if (c_.failure()) return false;
                continue;
            }
            if (entity->unparsed)
                return c_.fail_at(begin, "a reference to an entity that is not parsed", "WFC Parsed Entity");
            if (entity->external)
                return c_.fail_at(begin, "a reference to an external entity in an attribute's value",
                                  "WFC No External Entity References");
            if (!c_.enter(*entity, begin)) return false;
        } else if (is_space(c)) {
            if (c == '\r' && c_.raw() && c_.peek(1) == '\n') c_.move(1);
            c_.move(1);
            out.push_back(' ');
        } else {
            const std::size_t begin = c_.at();
            if (!c_.character("the closing quote", "production 10")) return false;
            out += c_.since(begin);
        }
    }
}

char predefined(std::string_view name) {
    static constexpr std::array<std::pair<std::string_view, char>, 5> all{
        {{"lt", '<'}, {"gt", '>'}, {"amp", '&'}, {"apos", '\''}, {"quot", '"'}}};
    for (const auto& [known, c] : all)
        if (name == known) return c;
    return '\0';
}

// --- entities and notations ---

bool SubsetReader::entity() {
    if (!need_space("white space after ENTITY", "production 70")) return false;
    Entity out;
    out.inside = c_.in_document();
    if (const Entity* around = c_.entity()) out.base = around->base;
    if (c_.peek() == '%') {
        out.parameter = true;
        c_.move(1);
        if (!need_space("white space after '%'", "production 72")) return false;
    }
    const std::string_view clause = out.parameter ? "production 72" : "production 71";
    std::string_view name;
    const std::size_t begin = c_.at();
    if (!c_.name(name, "an entity's name", clause)) return false;
    note_name(begin, name, false);
    out.name = name;
    if (!need_space("white space after the name", clause)) return false;
    if (is_quote(c_.peek())) {
        if (!entity_value(out.text)) return false;
    } else {
        out.external = true;
        if (!external_id(&out, false)) return false;
        const bool spaced = space();
        if (spaced && !out.parameter && c_.peek() == 'N') {
            if (!c_.literal("NDATA", "production 76") || !need_space("white space after NDATA", "production 76"))
                return false;
            const std::size_t notation = c_.at();
            if (!c_.name(name, "a notation's name", "production 76")) return false;
            note_name(notation, name, false);
            out.unparsed = true;
        }
    }
    if (!close(clause)) return false;
    if (!is_proper_predefined(out) && !out.parameter) notes_.predefined_redeclared_oddly = true;
    if (!d_.heeded) return true;
    auto& all = out.parameter ? d_.parameter : d_.general;
    const bool inside = out.inside;
    std::string key = out.name;
    const auto [known, is_new] = all.emplace(std::move(key), std::move(out));
    if (!is_new && inside) known->second.inside = true;
    return true;
}

bool SubsetReader::entity_value(std::string& out) {
    const char quote = c_.peek();
    c_.move(1);
    const std::size_t bottom = c_.depth();
    while (true) {
        if (value_ends(quote, bottom)) return true;
        const char c = c_.peek();
        const std::size_t begin = c_.at();
        if (c == '%') {
            if (c_.in_document() || !external_text()) return inside_declaration(begin);
            Entity* entity = parameter_entity();
            if (c_.failure()) return false;
            if (entity == nullptr) continue;
            const Text text = provide(*entity, begin);
            if (text == Text::broken) return false;
            if (text == Text::there && !c_.enter(*entity, begin)) return false;
        } else if (c == '&') {
            if (c_.peek(1) == '#') {
                if (!c_.character_reference(out)) return false;
                continue;
            }
            std::string_view name;
            if (!reference_name(name)) return false;
            out += c_.since(begin);  // bypassed (4.4.7)
        } else {
            if (!c_.character("the closing quote", "production 9")) return false;
            if (c == '\r' && c_.raw()) {
                if (c_.peek() == '\n') c_.move(1);
                out.push_back('\n');
            } else {
                out += c_.since(begin);
            }
        }
    }
}

bool SubsetReader::notation() {
    if (!need_space("white space after NOTATION", "production 82")) return false;
    std::string_view name;
    const std::size_t begin = c_.at();
    if (!c_.name(name, "a notation's name", "production 82")) return false;
    note_name(begin, name, false);
    if (!need_space("white space after the name", "production 82")) return false;
    return external_id(nullptr, true) && close("production 82");
}

bool SubsetReader::external_id(Entity* out, bool public_alone) {
    static constexpr std::array<std::string_view, 2> words{"SYSTEM", "PUBLIC"};
    const auto word = c_.one_of(words, "SYSTEM or PUBLIC", "production 75");
    if (!word || !need_space("white space after the word", "production 75")) return false;
    if (*word == 1) {
        if (!public_literal()) return false;
        const bool spaced = space();
        if (public_alone && !(spaced && is_quote(c_.peek()))) return !c_.failure();
        if (!spaced) return c_.fail("white space after the public identifier", "production 75");
    }
    return system_literal(out == nullptr ? nullptr : &out->system_id);
}

bool SubsetReader::system_literal(std::string* out) {
    const char quote = c_.peek();
    if (!is_quote(quote)) return c_.fail("a system identifier in quotes", "production 11");
    c_.move(1);
    const std::size_t begin = c_.at();
    while (c_.peek() != quote)
        if (!c_.character("the closing quote", "production 11")) return false;
    if (c_.since(begin).find('#') != std::string_view::npos) notes_.fragment_in_system_id = true;
    if (out != nullptr) *out = c_.since(begin);
    c_.move(1);
    return true;
}

bool SubsetReader::public_literal() {
    const char quote = c_.peek();
    if (!is_quote(quote)) return c_.fail("a public identifier in quotes", "production 12");
    c_.move(1);
    while (c_.peek() != quote) {
        if (!is_public_character(c_.peek())) return c_.fail("a character of public identifiers", "production 13");
        c_.move(1);
    }
    c_.move(1);
    return true;
}

}  // namespace nachklang::xml

// Declarations occur in the internal subset, in parameter entities and in the external subset. In the last two a
// parameter entity may occur wherever white space may; its text goes on top of the cursor's stack.
#include "xml/read/subset.hpp"

#include <fmt/format.h>

#include <algorithm>

namespace nachklang::xml {

std::string without_extra_spaces(std::string_view value) {
    std::string out;
    for (const char c : value)
        if (c != ' ' || (!out.empty() && out.back() != ' ')) out.push_back(c);
    if (!out.empty() && out.back() == ' ') out.pop_back();
    return out;
}

bool is_qualified_name(std::string_view name) {
    const auto colon = name.find(':');
    if (colon == std::string_view::npos) return true;
    const std::string_view local = name.substr(colon + 1);
    return colon != 0 && !local.empty() && local.find(':') == std::string_view::npos &&
           is_name_start(text::decode_utf8(local, 0).scalar);
}

void SubsetReader::begin() {
    root_.clear();
    notes_ = {};
    namespace_failure_.reset();
    undeclared_seen_ = false;
}

bool SubsetReader::read() {
    if (!c_.skip_space()) return c_.fail("white space", "production 28");
    std::string_view name;
    const std::size_t begin = c_.at();
    if (!c_.name(name, "the root element's name", "production 28")) return false;
    note_name(begin, name, true);
    root_ = name;
    Entity external;
    external.name = "the external subset";
    external.external = external.parameter = true;
    bool space = c_.skip_space();
    if (space && (c_.peek() == 'S' || c_.peek() == 'P')) {
        d_.has_external_subset = true;
        if (!external_id(&external, false)) return false;
        space = c_.skip_space();
    }
    if (c_.peek() == '[') {
        c_.move(1);
        if (!declarations(false)) return false;
        c_.move(1);
        c_.skip_space();
    }
    if (c_.peek() != '>')
        return c_.fail(space && !d_.has_external_subset ? "an external identifier, '[' or '>'" : "'>'",
                       "production 28");
    c_.move(1);
    if (!d_.has_external_subset) return true;
    switch (provide(external, begin)) {
        case Text::not_read:
            return true;
        case Text::broken:
            return false;
        case Text::there:
            break;
    }
    if (!c_.enter(external, begin)) return false;
    if (!declarations(true)) return false;
    c_.finish();
    return true;
}

SubsetReader::Text SubsetReader::provide(Entity& entity, std::size_t reference) {
    if (!entity.external || entity.loaded) return Text::there;
    if (loader_) {
        if (auto text = loader_(entity.system_id, entity.base)) {
            if (!text->problem.empty()) {
                c_.fail_at(reference, fmt::format("the entity {}: {}", text::printable(entity.name), text->problem),
                           text->clause);
                return Text::broken;
            }
            entity.text = std::move(text->text);
            entity.base = std::move(text->base);
            entity.loaded = true;
            return Text::there;
        }
    }
    notes_.unread_external = true;
    return Text::not_read;
}

bool SubsetReader::external_text() const {
    const Entity* entity = c_.entity();
    return entity != nullptr && entity->external;
}

void SubsetReader::note_name(std::size_t at, std::string_view name, bool qualified) {
    if (namespace_failure_ || name.find(':') == std::string_view::npos || (qualified && is_qualified_name(name)))
        return;
    namespace_failure_ = c_.failure_at(at,
                                       fmt::format("{} is no {}", text::printable_excerpt(name, 40),
                                                   qualified ? "qualified name" : "name without colon"),
                                       qualified ? "Namespaces 1.0, 4" : "Namespaces 1.0, 7");
}

bool SubsetReader::declarations(bool external) {
    const std::size_t bottom = c_.depth();
    std::vector<std::size_t> included;  // how deep in entities each open INCLUDE began
    while (true) {
        if (c_.depth() > bottom && c_.at_end()) {
            if (!included.empty() && included.back() == c_.depth())
                return c_.fail("the section's ']]>'", "production 62");
            c_.finish();
            continue;
        }
        if (c_.skip_space()) continue;
        if (c_.at_end()) {
            if (external && included.empty()) return true;
            return c_.fail(external ? "the section's ']]>'" : "a declaration or ']'",
                           external ? "production 62" : "production 28b");
        }
        const char c = c_.peek();
        if (c == ']') {
            if (!included.empty() && included.back() == c_.depth()) {
                if (!c_.literal("]]>", "production 62")) return false;
                included.pop_back();
                continue;
            }
            if (!external && c_.depth() == bottom) return true;
        }
        if (c == '%') {
            if (!parameter_reference()) return false;
        } else if (c == '<') {
            declaration_depth_ = c_.depth();
            included_ = 0;
            if (!markup()) return false;
            if (included_ != 0) included.push_back(c_.depth());
        } else {
            const bool internal = c_.depth() == bottom && !external;
            return c_.fail(internal ? "a declaration, '%' or ']'" : "a declaration or '%'",
                           internal ? "production 28b" : "production 31");
        }
    }
}

bool SubsetReader::markup() {
    c_.move(1);
    if (c_.peek() == '?') {
        c_.move(1);
        return instruction();
    }
    if (c_.peek() != '!') return c_.fail("'!' or '?' after '<'", "production 29");
    c_.move(1);
    if (c_.peek() == '-') return comment();
    if (c_.peek() == '[' && !c_.in_document()) return conditional();
    static constexpr std::array<std::string_view, 4> words{"ELEMENT", "ATTLIST", "ENTITY", "NOTATION"};
    const auto word = c_.one_of(words, "ELEMENT, ATTLIST, ENTITY, NOTATION or '--'", "production 29");
    if (!word) return false;
    switch (*word) {
        case 0:
            return element();
        case 1:
            return attribute_list();
        case 2:
            return entity();
        default:
            return notation();
    }
}

bool SubsetReader::comment() {
    std::string_view inside;
    return c_.comment(inside);
}

bool SubsetReader::instruction() {
    std::string_view target, data;
    const std::size_t begin = c_.at();
    if (!c_.instruction(target, data)) return false;
    note_name(begin, target, false);
    return true;
}

bool SubsetReader::space() {
    bool seen = false;
    while (!c_.failure()) {
        if (c_.skip_space()) {
            seen = true;
        } else if (c_.depth() > declaration_depth_ && c_.at_end()) {
            c_.finish();
            seen = true;
        } else if (!c_.in_document() && c_.peek() == '%' &&
                   (is_byte(c_.peek(1), name_start_byte) || static_cast<signed char>(c_.peek(1)) < 0)) {
            if (!external_text()) {
                inside_declaration(c_.at());
                return seen;
            }
            parameter_reference();
            seen = true;
        } else {
            return seen;
        }
    }
    return seen;
}

/// The constraint excepts references in external parameter entities and in the external subset, and no others: the
/// text of an internal parameter entity counts as the internal subset's.
bool SubsetReader::inside_declaration(std::size_t begin) {
    return c_.fail_at(begin, "a parameter entity is not allowed inside a declaration of the internal subset",
                      "WFC PEs in Internal Subset");
}

bool SubsetReader::need_space(std::string_view what, std::string_view clause) {
    if (space()) return !c_.failure();
    return c_.fail(what, clause);
}

bool SubsetReader::close(std::string_view clause) {
    space();
    if (c_.peek() != '>') return c_.fail("'>'", clause);
    c_.move(1);
    return true;
}

Entity* SubsetReader::parameter_entity() {
    c_.move(1);
    std::string_view name;
    if (!c_.name(name, "a parameter entity's name", "production 69")) return nullptr;
    if (c_.peek() != ';') {
        c_.fail("';' after the entity's name", "production 69");
        return nullptr;
    }
    c_.move(1);
    d_.has_parameter_reference = true;
    const auto known = d_.parameter.find(name);
    if (known != d_.parameter.end()) return &known->second;
    notes_.undeclared_parameter = true;
    return nullptr;
}

bool SubsetReader::parameter_reference() {
    const std::size_t begin = c_.at();
    Entity* entity = parameter_entity();
    if (c_.failure()) return false;
    const auto not_read = [&] {
        if (!d_.standalone) d_.heeded = false;
        return true;
    };
    if (d_.skips_parameter_entities) return not_read();
    if (entity == nullptr) return d_.heeded_after_undeclared || not_read();
    switch (provide(*entity, begin)) {
        case Text::not_read:
            return not_read();
        case Text::broken:
            return false;
        case Text::there:
            break;
    }
    return c_.enter(*entity, begin, true);
}

// --- elements ---

bool SubsetReader::element() {
    std::string_view name;
    if (!need_space("white space after ELEMENT", "production 45")) return false;
    const std::size_t begin = c_.at();
    if (!c_.name(name, "an element's name", "production 45")) return false;
    note_name(begin, name, true);
    if (!need_space("white space after the name", "production 45")) return false;
    if (c_.peek() == '(') {
        if (!content_model()) return false;
    } else {
        static constexpr std::array<std::string_view, 2> words{"EMPTY", "ANY"};
        if (!c_.one_of(words, "EMPTY, ANY or '('", "production 46")) return false;
    }
    return close("production 45");
}

bool SubsetReader::content_model() {
    c_.move(1);
    space();
    if (c_.peek() == '#') return mixed();
    std::vector<char> separators{'\0'};  // of each open group, once it is known
    const auto occurrence = [&] {
        if (c_.peek() == '?' || c_.peek() == '*' || c_.peek() == '+') c_.move(1);
    };
    while (true) {
        space();
        if (c_.peek() == '(') {
            separators.push_back('\0');
            c_.move(1);
            continue;
        }
        std::string_view name;
        const std::size_t begin = c_.at();
        if (!c_.name(name, "a name or '('", "production 48")) return false;
        note_name(begin, name, true);
        occurrence();
        while (true) {
            space();
            const char c = c_.peek();
            char& separator = separators.back();
            if (c == ')') {
                c_.move(1);
                separators.pop_back();
                occurrence();
                if (separators.empty()) return !c_.failure();
                continue;
            }
            if ((c != '|' && c != ',') || (separator != '\0' && separator != c))
                return c_.fail(separator == '\0' ? "'|', ',' or ')'" : fmt::format("'{}' or ')'", separator),
                               separator == ',' ? "production 50" : "production 49");
            separator = c;
            c_.move(1);
            break;
        }
    }
}

bool SubsetReader::mixed() {
    if (!c_.literal("#PCDATA", "production 51")) return false;
    bool names = false;
    while (true) {
        space();
        if (c_.peek() == ')') {
            c_.move(1);
            if (names) return c_.literal("*", "production 51");
            if (c_.peek() == '*') c_.move(1);
            return true;
        }
        if (c_.peek() != '|') return c_.fail("'|' or ')'", "production 51");
        c_.move(1);
        space();
        std::string_view name;
        const std::size_t begin = c_.at();
        if (!c_.name(name, "an element's name", "production 51")) return false;
        note_name(begin, name, true);
        names = true;
    }
}

// --- conditional sections ---

bool SubsetReader::conditional() {
    c_.move(1);
    space();
    static constexpr std::array<std::string_view, 2> words{"INCLUDE", "IGNORE"};
    const auto word = c_.one_of(words, "INCLUDE or IGNORE", "production 61");
    if (!word) return false;
    space();
    if (c_.peek() != '[') return c_.fail("'['", *word == 0 ? "production 62" : "production 63");
    c_.move(1);
    if (*word == 1) return ignored();
    included_ = 1;
    return true;
}

bool SubsetReader::ignored() {
    for (std::size_t open = 1; open != 0;) {
        if (c_.looking_at("<![")) {
            ++open;
            c_.move(3);
        } else if (c_.looking_at("]]>")) {
            --open;
            c_.move(3);
        } else if (!c_.character("the section's ']]>'", open > 1 ? "production 64" : "production 63")) {
            return false;
        }
    }
    return true;
}

}  // namespace nachklang::xml

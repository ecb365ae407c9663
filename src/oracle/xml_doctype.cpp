// The DTD of the second recogniser for XML.
#include "oracle/xml_recogniser_class.hpp"

namespace oracle::detail {

void Recogniser::doctype(Part& p, std::vector<XmlNode>& out) {
    p.at += 9;
    need(p);
    const std::string root = name(p);
    qualified(root);
    bool spaced = skip(p);
    if (spaced && (is(p, U"SYSTEM") || is(p, U"PUBLIC"))) {
        external_id(p, false);
        outside_ = true;
        skip(p);
    }
    if (now(p) == '[') {
        ++p.at;
        declarations(p, true);
        if (now(p) != ']') throw XmlRefused("]");
        ++p.at;
        skip(p);
    }
    if (now(p) != '>') throw XmlRefused("doctype");
    ++p.at;
    add(out, {XmlNode::Kind::doctype, root, "", "", {}, {}});
}

void Recogniser::need(Part& p) const {
    if (!skip(p)) throw XmlRefused("space");
}

void Recogniser::declarations(Part& p, bool inside) {
    std::vector<XmlNode> ignored;
    while (true) {
        skip(p);
        if (now(p) == '%') {
            ++p.at;
            const std::string entity = name(p);
            if (now(p) != ';') throw XmlRefused(";");
            ++p.at;
            outside_ = true;
            const auto found = parameters_.find(entity);
            if (found == parameters_.end() || found->second.external) {
                if (!standalone_) heed_ = false;
                continue;
            }
            if (std::find(open_.begin(), open_.end(), "%" + entity) != open_.end()) throw XmlRefused("recursion");
            open_.push_back("%" + entity);
            const Text copy = found->second.value;
            Part inner{copy, 0, false};
            declarations(inner, false);
            if (inner.at != copy.size()) throw XmlRefused("declaration");
            open_.pop_back();
        } else if (is(p, U"<!ELEMENT")) {
            element_type(p);
        } else if (is(p, U"<!ATTLIST")) {
            attribute_list(p);
        } else if (is(p, U"<!ENTITY")) {
            entity(p, inside);
        } else if (is(p, U"<!NOTATION")) {
            p.at += 10;
            need(p);
            uncoloned(name(p));
            need(p);
            external_id(p, true);
            close(p);
        } else if (!misc(p, ignored)) {
            return;
        }
    }
}

void Recogniser::close(Part& p) const {
    skip(p);
    if (now(p) != '>') throw XmlRefused(">");
    ++p.at;
}

void Recogniser::external_id(Part& p, bool public_alone) const {
    const bool system = is(p, U"SYSTEM");
    if (!system && !is(p, U"PUBLIC")) throw XmlRefused("identifier");
    p.at += 6;
    need(p);
    if (!system) {
        const char32_t q = quote(p);
        while (now(p) != q) {
            const char32_t c = character(p);
            const bool sound =
                c < 0x80 && (std::string_view(" \r\n-'()+,./:=?;!*#@$_%").find(static_cast<char>(c)) !=
                                 std::string_view::npos ||
                             (c >= '0' && c <= '9') || ((c | 0x20) >= 'a' && (c | 0x20) <= 'z'));
            check(sound, "public-characters");
        }
        ++p.at;
        const bool spaced = skip(p);
        if (public_alone && !(spaced && (now(p) == '"' || now(p) == '\''))) return;
        if (!spaced) throw XmlRefused("space");
    }
    const char32_t q = quote(p);
    while (now(p) != q) character(p);
    ++p.at;
}

void Recogniser::element_type(Part& p) {
    p.at += 9;
    need(p);
    qualified(name(p));
    need(p);
    if (is(p, U"EMPTY")) {
        p.at += 5;
    } else if (is(p, U"ANY")) {
        p.at += 3;
    } else {
        if (now(p) != '(') throw XmlRefused("model");
        ++p.at;
        skip(p);
        if (is(p, U"#PCDATA"))
            mixed(p);
        else
            group(p);
    }
    close(p);
}

void Recogniser::mixed(Part& p) {
    p.at += 7;
    bool names = false;
    while (skip(p), now(p) == '|') {
        ++p.at;
        skip(p);
        qualified(name(p));
        names = true;
    }
    if (now(p) != ')') throw XmlRefused(")");
    ++p.at;
    if (now(p) == '*')
        ++p.at;
    else
        check(!names, "mixed-star");
}

void Recogniser::occurs(Part& p) const {
    if (now(p) == '?' || now(p) == '*' || now(p) == '+') ++p.at;
}

void Recogniser::group(Part& p) {
    char32_t separator = 0;
    while (true) {
        skip(p);
        if (now(p) == '(') {
            ++p.at;
            group(p);
        } else {
            qualified(name(p));
            occurs(p);
        }
        skip(p);
        if (now(p) == ')') break;
        if (now(p) != '|' && now(p) != ',') throw XmlRefused("separator");
        check(separator == 0 || separator == now(p), "one-separator");
        separator = now(p);
        ++p.at;
    }
    ++p.at;
    occurs(p);
}

void Recogniser::attribute_list(Part& p) {
    p.at += 9;
    need(p);
    const std::string element = name(p);
    qualified(element);
    while (true) {
        const bool spaced = skip(p);
        if (now(p) == '>') break;
        if (!spaced) throw XmlRefused("space");
        DefaultOf out;
        out.name = name(p);
        qualified(out.name);
        need(p);
        out.tokens = true;
        static const std::vector<std::u32string_view> kinds{U"CDATA",    U"IDREFS", U"IDREF",    U"ID",
                                                            U"ENTITIES", U"ENTITY", U"NMTOKENS", U"NMTOKEN"};
        if (is(p, U"NOTATION") || now(p) == '(') {
            const bool notation = now(p) != '(';
            if (notation) {
                p.at += 8;
                need(p);
                if (now(p) != '(') throw XmlRefused("(");
            }
            do {
                ++p.at;
                skip(p);
                const std::string one = name(p, !notation);
                if (notation) uncoloned(one);
                skip(p);
            } while (now(p) == '|');
            if (now(p) != ')') throw XmlRefused(")");
            ++p.at;
        } else {
            const auto kind =
                std::find_if(kinds.begin(), kinds.end(), [&](std::u32string_view k) { return is(p, k); });
            if (kind == kinds.end()) {
                check(false, "attribute-type");
                name(p);
            } else {
                out.tokens = *kind != U"CDATA";
                p.at += kind->size();
            }
        }
        need(p);
        bool valued = true;
        if (is(p, U"#REQUIRED") || is(p, U"#IMPLIED")) {
            p.at += is(p, U"#REQUIRED") ? 9 : 8;
            valued = false;
        } else if (is(p, U"#FIXED")) {
            p.at += 6;
            need(p);
        }
        if (valued) {
            const char32_t q = quote(p);
            std::vector<std::string> open;
            out.value.emplace();
            value(p, q, *out.value, open);
        }
        auto& all = defaults_[element];
        const auto same =
            std::find_if(all.begin(), all.end(), [&](const DefaultOf& d) { return d.name == out.name; });
        if (!heed_) continue;
        if (same == all.end())
            all.push_back(std::move(out));
        else if (skips("first-attribute-binds"))
            *same = std::move(out);
    }
    ++p.at;
}

void Recogniser::entity(Part& p, bool inside) {
    p.at += 8;
    need(p);
    const bool parameter = now(p) == '%';
    if (parameter) {
        ++p.at;
        need(p);
    }
    const std::string of = name(p);
    uncoloned(of);
    need(p);
    Declared out;
    out.inside = inside;
    if (now(p) == '"' || now(p) == '\'') {
        const char32_t q = quote(p);
        while (now(p) != q) {
            if (is(p, U"&#")) {
                out.value += character_reference(p);
            } else if (now(p) == '&') {
                const std::size_t from = p.at;
                entity_name(p);
                out.value += p.text.substr(from, p.at - from);
            } else {
                if (now(p) == '%') check(false, "percent-in-value");
                out.value += character(p);
            }
        }
        ++p.at;
    } else {
        out.external = true;
        external_id(p, false);
        const bool spaced = skip(p);
        if (!parameter && spaced && is(p, U"NDATA")) {
            p.at += 5;
            need(p);
            uncoloned(name(p));
            out.unparsed = true;
        }
    }
    close(p);
    if (!heed_) return;
    auto& all = parameter ? parameters_ : entities_;
    if (skips("first-entity-binds")) all[of] = out;
    const bool known = all.contains(of);
    if (known && inside) all[of].inside = true;
    if (!known) all.emplace(of, std::move(out));
}

}  // namespace oracle::detail

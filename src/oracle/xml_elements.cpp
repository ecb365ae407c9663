// Elements, attributes and content of the second recogniser for XML.
#include "oracle/xml_recogniser_class.hpp"

namespace oracle::detail {

void Recogniser::element(Part& p, std::vector<XmlNode>& out, Scope scope, std::size_t depth) {
    if (depth > 2000) throw XmlRefused("too deep");
    want(p, U"<", "tag");
    XmlNode node;
    node.kind = XmlNode::Kind::element;
    node.name = name(p);
    while (true) {
        const bool spaced = skip(p);
        if (now(p) == '>' || now(p) == '/') break;
        if (!spaced) check(false, "space-between-attributes");
        attribute(p, node);
    }
    supply_defaults(node);
    namespaces(node, scope);
    if (now(p) == '/') {
        ++p.at;
        if (now(p) != '>') throw XmlRefused("tag");
        ++p.at;
        return add(out, std::move(node));
    }
    if (now(p) != '>') throw XmlRefused("tag");
    ++p.at;
    content(p, node.children, scope, depth);
    if (!is(p, U"</")) throw XmlRefused("end tag");
    p.at += 2;
    std::string end = name(p), begun = node.name;
    if (lets("end-tag-capitals")) {
        for (std::string* word : {&end, &begun})
            for (char& c : *word) c = static_cast<char>(c >= 'A' && c <= 'Z' ? c + 32 : c);
    }
    check(end == begun, "end-tag");
    skip(p);
    if (now(p) != '>') throw XmlRefused("end tag");
    ++p.at;
    add(out, std::move(node));
}

void Recogniser::attribute(Part& p, XmlNode& node) {
    XmlAttribute out;
    out.name = name(p);
    check(std::none_of(node.attributes.begin(), node.attributes.end(),
                       [&](const XmlAttribute& a) { return a.name == out.name; }),
          "attribute-once");
    skip(p);
    if (now(p) != '=') throw XmlRefused("=");
    ++p.at;
    skip(p);
    if (now(p) != '"' && now(p) != '\'' && lets("quotes")) {
        while (!blank(now(p)) && now(p) != '>' && now(p) != '/' && now(p) != 0) put(out.value, character(p));
    } else {
        const char32_t q = quote(p);
        std::vector<std::string> open;
        value(p, q, out.value, open);
    }
    node.attributes.push_back(std::move(out));
}

void Recogniser::value(Part& p, char32_t q, std::string& out, std::vector<std::string>& open) const {
    while (q != 0 ? now(p) != q : p.at < p.text.size()) {
        const char32_t c = now(p);
        if (c == '<') check(false, q != 0 ? "less-than-in-value" : "less-than-by-entity");
        if (is(p, U"&#")) {
            const char32_t referred = character_reference(p);
            put(out, referred);
        } else if (c == '&') {
            if (!starts_name(p.at + 1 < p.text.size() ? p.text[p.at + 1] : 0) && lets("ampersand")) {
                put(out, character(p));
                continue;
            }
            const std::size_t from = p.at;
            const std::string entity = entity_name(p);
            if (const char32_t known = predefined(entity)) {
                if (skips("references-in-values"))
                    out += bytes_of(p.text.substr(from, p.at - from));
                else
                    put(out, known);
                continue;
            }
            const Declared* declared = find_entity(entity);
            if (declared == nullptr) continue;
            check(!declared->unparsed, "unparsed");
            check(!declared->external, "external-in-value");
            if (declared->external) continue;
            if (std::find(open.begin(), open.end(), entity) != open.end()) throw XmlRefused("recursion");
            open.push_back(entity);
            Part inner{declared->value, 0, false};
            value(inner, 0, out, open);
            open.pop_back();
        } else if (blank(c)) {
            ++p.at;
            put(out, skips("values-normalised") ? c : U' ');
        } else {
            put(out, character(p));
        }
    }
    if (q != 0) ++p.at;
}

void Recogniser::supply_defaults(XmlNode& node) const {
    const auto found = defaults_.find(node.name);
    if (found == defaults_.end()) return;
    for (const DefaultOf& d : found->second) {
        const auto given = std::find_if(node.attributes.begin(), node.attributes.end(),
                                        [&](const XmlAttribute& a) { return a.name == d.name; });
        if (given != node.attributes.end()) {
            if (d.tokens && !skips("tokens")) given->value = squeezed(given->value);
        } else if (d.value && (!skips("defaults") || d.name.starts_with("xmlns"))) {
            node.attributes.push_back(
                {d.name, d.tokens && !skips("tokens") ? squeezed(*d.value) : *d.value, "", false});
        }
    }
}

void Recogniser::qualified(const std::string& qname) const {
    const auto [prefix, local] = split(qname);
    const bool has_colon = qname.find(':') != std::string::npos;
    const bool bad = has_colon && (prefix.empty() || local.empty() || local.find(':') != std::string::npos ||
                                   !starts_name(first_of(local)));
    check(!bad, "qualified");
}

void Recogniser::namespaces(XmlNode& node, Scope& scope) const {
    const std::string xml = "http://www.w3.org/XML/1998/namespace", xmlns = "http://www.w3.org/2000/xmlns/";
    for (const XmlAttribute& a : node.attributes) {
        qualified(a.name);
        const bool plain = a.name == "xmlns";
        if (!plain && !a.name.starts_with("xmlns:")) continue;
        const std::string prefix = plain ? "" : split(a.name).second;
        check(prefix != "xmlns", "xmlns-declared");
        check((prefix == "xml") == (a.value == xml), "xml-bound");
        check(a.value != xmlns, "xmlns-bound");
        check(plain || !a.value.empty(), "prefix-unbound");
        if (plain && a.value.empty() && skips("default-undeclared")) continue;
        scope[prefix] = a.value;
    }
    qualified(node.name);
    const auto resolve = [&](const std::string& prefix) {
        const auto found = scope.find(prefix);
        check(prefix.empty() || (found != scope.end() && !found->second.empty()), "prefix-declared");
        return found == scope.end() ? std::string{} : found->second;
    };
    check(split(node.name).first != "xmlns", "xmlns-element");
    node.uri = resolve(split(node.name).first);
    std::set<std::pair<std::string, std::string>> seen;
    for (XmlAttribute& a : node.attributes) {
        if (a.name == "xmlns" || a.name.starts_with("xmlns:")) continue;
        const auto [prefix, local] = split(a.name);
        if (!prefix.empty() || skips("attributes-without-default")) a.uri = resolve(prefix);
        if (!prefix.empty()) check(seen.insert({a.uri, local}).second, "expanded-once");
    }
}

void Recogniser::flush(std::string& text, std::vector<XmlNode>& out) const {
    if (!text.empty()) add(out, {XmlNode::Kind::text, "", text, "", {}, {}});
    text.clear();
}

void Recogniser::content(Part& p, std::vector<XmlNode>& out, const Scope& scope, std::size_t depth) {
    std::string text;
    content_into(p, out, text, scope, depth);
    flush(text, out);
}

void Recogniser::content_into(Part& p, std::vector<XmlNode>& out, std::string& text, const Scope& scope,
                              std::size_t depth) {
    while (p.at < p.text.size()) {
        if (is(p, U"</")) return;
        if (is(p, U"<!--") || is(p, U"<?") || is(p, U"<![CDATA[")) {
            flush(text, out);
            if (!is(p, U"<![")) {
                misc(p, out);
                continue;
            }
            p.at += 9;
            add(out, {XmlNode::Kind::cdata, "", bytes_of(until(p, U"]]>")), "", {}, {}});
        } else if (is(p, U"<")) {
            flush(text, out);
            element(p, out, scope, depth + 1);
        } else if (is(p, U"&#")) {
            put(text, character_reference(p));
        } else if (is(p, U"&")) {
            if (!starts_name(p.at + 1 < p.text.size() ? p.text[p.at + 1] : 0) && lets("ampersand"))
                put(text, character(p));
            else
                reference(p, out, text, scope, depth);
        } else {
            if (is(p, U"]]>")) check(false, "cdata-end");
            taste(now(p) == '>', "greater-than");
            put(text, character(p));
        }
    }
}

void Recogniser::reference(Part& p, std::vector<XmlNode>& out, std::string& text, const Scope& scope,
                           std::size_t depth) {
    const std::size_t from = p.at;
    const std::string entity = entity_name(p);
    if (const char32_t known = predefined(entity)) {
        if (skips("references-in-text"))
            text += bytes_of(p.text.substr(from, p.at - from));
        else
            put(text, known);
        return;
    }
    const Declared* declared = find_entity(entity);
    if (declared != nullptr) check(!declared->unparsed, "unparsed");
    if (declared == nullptr || declared->external) {
        flush(text, out);
        return add(out, {XmlNode::Kind::reference, entity, "", "", {}, {}});
    }
    if (std::find(open_.begin(), open_.end(), entity) != open_.end()) throw XmlRefused("recursion");
    if (++expansions_ > 100000) throw XmlRefused("expansion");
    if (skips("entities")) return;
    open_.push_back(entity);
    Part inner{declared->value, 0, false};
    content_into(inner, out, text, scope, depth);
    if (inner.at != inner.text.size()) throw XmlRefused("end tag in an entity");
    open_.pop_back();
}

}  // namespace oracle::detail

// Writes XML nodes, and values given in trace notation, with the mistakes of the active fault.
#include "seeded_faults/xml_writer.hpp"

#include <algorithm>
#include <map>

namespace seeded_faults {
namespace {

using Kind = XmlNode::Kind;
using nachklang::adapter::MarkupName;

constexpr const char* xml_uri = "http://www.w3.org/XML/1998/namespace";

std::string escaped(const std::string& text, const std::set<char>& raw, bool in_value) {
    std::string out;
    for (const char c : text) {
        const bool escape = c == '&' || c == '<' || c == '\r' || (c == '>' && !in_value) ||
                            (in_value && (c == '"' || c == '\n' || c == '\t'));
        if (!escape || raw.contains(c))
            out += c;
        else
            out += "&#" + std::to_string(static_cast<int>(c)) + ";";
    }
    return out;
}

void write(const std::vector<XmlNode>& nodes, const XmlHooks& hooks, std::string& out) {
    for (const XmlNode& n : nodes) {
        switch (n.kind) {
            case Kind::element:
                out += "<" + n.name;
                for (const XmlAttribute& a : n.attributes)
                    out += " " + a.name + "=\"" + escaped(a.value, hooks.unescaped_in_values, true) + "\"";
                out += ">";
                write(n.children, hooks, out);
                out += "</" + n.name + ">";
                break;
            case Kind::text:
                out += escaped(n.text, hooks.unescaped_in_text, false);
                break;
            case Kind::cdata:
                out += "<![CDATA[" + n.text + "]]>";
                break;
            case Kind::comment:
                out += "<!--" + n.text + "-->";
                break;
            case Kind::instruction:
                out += "<?" + n.name + (n.text.empty() ? "" : " " + n.text) + "?>";
                break;
            case Kind::reference:  // its replacement text is not known
            case Kind::doctype:
                break;
        }
    }
}

/// Takes a value apart into nodes.
class NodeBuilder final : public nachklang::adapter::MarkupBuilder {
  public:
    std::vector<XmlNode> take() && {
        if (open_.size() != 1) throw XmlRefused("an element without an end");
        return std::move(open_.front().children);
    }
    void element(const MarkupName& name) override {
        XmlNode node;
        node.kind = Kind::element;
        node.name = name.qname;
        node.uri = name.uri;
        open_.push_back(std::move(node));
    }
    void attribute(const MarkupName& name, const std::string& value) override {
        open_.back().attributes.push_back({name.qname, value, name.uri});
    }
    void element_end() override {
        if (open_.size() == 1) throw XmlRefused("an end without an element");
        XmlNode done = std::move(open_.back());
        open_.pop_back();
        open_.back().children.push_back(std::move(done));
    }
    void text(const std::string& bytes) override { leaf(Kind::text, "", bytes); }
    void cdata(const std::string& bytes) override { leaf(Kind::cdata, "", bytes); }
    void comment(const std::string& bytes) override { leaf(Kind::comment, "", bytes); }
    void instruction(const std::string& target, const std::string& data) override {
        leaf(Kind::instruction, target, data);
    }

  private:
    void leaf(Kind kind, const std::string& name, const std::string& text) {
        XmlNode node;
        node.kind = kind;
        node.name = name;
        node.text = text;
        open_.back().children.push_back(std::move(node));
    }
    std::vector<XmlNode> open_{1};
};

bool is_control(char c) {
    return static_cast<unsigned char>(c) < 0x20 && c != '\t' && c != '\n' && c != '\r';
}

/// Turns nodes into ones that a document can hold with the same meaning, or refuses them.
class Preparation {
  public:
    explicit Preparation(const XmlHooks& hooks) : hooks_(hooks) {}

    /// Whether a step was due and was not taken.
    [[nodiscard]] bool left_out() const { return left_out_; }

    void document(std::vector<XmlNode>& nodes) {
        const auto roots =
            std::count_if(nodes.begin(), nodes.end(), [](const XmlNode& n) { return n.kind == Kind::element; });
        if (roots == 0) throw XmlRefused("a document has a root");
        if (roots > 1) refuse("one-root", "a document has one root");
        for (XmlNode& n : nodes) {
            if (n.kind == Kind::text || n.kind == Kind::cdata) refuse("text-inside", "text is inside the root");
            node(n, {{"", ""}, {"xml", xml_uri}});
        }
    }

  private:
    using Scope = std::map<std::string, std::string>;
    /// Whether a step is taken; a fault may leave it out.
    bool takes(const std::string& step) {
        if (!hooks_.left_out.contains(step)) return true;
        left_out_ = true;
        return false;
    }
    void refuse(const std::string& step, const char* why) {
        if (takes(step)) throw XmlRefused(why);
    }

    void node(XmlNode& n, const Scope& outer) {
        characters(n.text);
        switch (n.kind) {
            case Kind::element:
                element(n, outer);
                break;
            case Kind::comment:
                if (n.text.find("--") != std::string::npos || n.text.ends_with('-'))
                    refuse("comment-checked", "a comment holds no --");
                break;
            case Kind::instruction:
                name(n.name);
                if (n.text.find("?>") != std::string::npos || n.text.find_first_of(" \t\r\n") == 0)
                    refuse("instruction-checked", "no instruction has this data");
                break;
            case Kind::cdata:
                if (n.text.find("]]>") != std::string::npos) takes("section-split");
                break;
            default:
                break;
        }
    }

    void element(XmlNode& n, const Scope& outer) {
        name(n.name);
        Scope own;
        for (XmlAttribute& a : n.attributes) {
            name(a.name);
            characters(a.value);
            if (a.name == "xmlns" || a.name.starts_with("xmlns:"))
                own[a.name == "xmlns" ? "" : a.name.substr(6)] = a.value;
        }
        for (std::size_t i = 0; i < n.attributes.size(); ++i)
            for (std::size_t j = 0; j < i; ++j)
                if (n.attributes[i].name == n.attributes[j].name)
                    refuse("attribute-once", "an attribute occurs once");
        Scope added;
        declare(n.name, n.uri, true, outer, own, added);
        for (XmlAttribute& a : n.attributes)
            if (a.name != "xmlns" && !a.name.starts_with("xmlns:"))
                declare(a.name, a.uri, false, outer, own, added);
        for (const auto& [prefix, uri] : added)
            n.attributes.push_back({prefix.empty() ? "xmlns" : "xmlns:" + prefix, uri, ""});
        Scope inner = outer;
        for (const Scope& scope : {own, added})
            for (const auto& [prefix, uri] : scope) inner[prefix] = uri;
        for (XmlNode& child : n.children) node(child, inner);
    }

    /// Ensures that a name's prefix is bound to its namespace here.
    void declare(std::string& qname, const std::string& uri, bool element, const Scope& outer, Scope& own,
                 Scope& added) {
        const auto colon = qname.find(':');
        std::string prefix = colon == std::string::npos ? "" : qname.substr(0, colon);
        if (prefix.empty() && !element && uri.empty()) return;
        const auto elsewhere = [&](const Scope& scope) {
            const auto here = scope.find(prefix);
            return here != scope.end() && here->second != uri;
        };
        // An attribute in a namespace needs a prefix, and an element binds each prefix once.
        if ((prefix.empty() && !element) || elsewhere(own) || elsewhere(added)) {
            prefix = "n";
            while (outer.contains(prefix) || own.contains(prefix) || added.contains(prefix)) prefix += "n";
            qname = prefix + ":" + (colon == std::string::npos ? qname : qname.substr(colon + 1));
        }
        if (own.contains(prefix) || added.contains(prefix)) return;
        const auto above = outer.find(prefix);
        if (above != outer.end() && above->second == uri) return;
        if (!prefix.empty() && uri.empty()) {
            refuse("prefix-declared", "a prefix without a namespace");
            return;
        }
        if (prefix == "xml" || prefix == "xmlns") throw XmlRefused("a prefix that is bound");
        const bool named = prefix.empty() && !uri.empty();
        if (named || takes(uri.empty() ? "default-undeclared" : "prefix-declared")) added[prefix] = uri;
    }

    void name(const std::string& text) {
        if (text.empty() || text.find_first_of(" \t\r\n='\"<>/&") != std::string::npos)
            refuse("names-checked", "no name");
    }

    void characters(std::string& text) {
        if (std::none_of(text.begin(), text.end(), is_control)) return;
        if (!takes("controls-kept"))
            std::erase_if(text, is_control);
        else
            refuse("controls-refused", "a control character");
    }

    bool left_out_ = false;
    const XmlHooks& hooks_;
};

std::string replaced(std::string text, std::string_view from, std::string_view to) {
    for (std::size_t at = text.find(from); at != std::string::npos; at = text.find(from, at + to.size()))
        text.replace(at, from.size(), to);
    return text;
}

/// "]]>" ends a section: the next one goes on behind "]]".
void split_sections(std::vector<XmlNode>& nodes) {
    for (XmlNode& n : nodes) {
        if (n.kind == Kind::cdata) n.text = replaced(n.text, "]]>", "]]]]><![CDATA[>");
        split_sections(n.children);
    }
}

/// A character beyond U+FFFF as references to the halves of its pair in UTF-16.
std::string in_halves(const std::string& document) {
    std::string out;
    for (std::size_t i = 0; i < document.size(); ++i) {
        const auto byte = [&](std::size_t k) {
            return static_cast<unsigned>(static_cast<unsigned char>(document[i + k]));
        };
        if ((byte(0) & 0xF8U) != 0xF0U) {
            out += document[i];
            continue;
        }
        const unsigned point =
            ((byte(0) & 7U) << 18U | (byte(1) & 63U) << 12U | (byte(2) & 63U) << 6U | (byte(3) & 63U)) - 0x10000U;
        out += "&#" + std::to_string(0xD800U + (point >> 10U)) + ";&#" +
               std::to_string(0xDC00U + (point & 0x3FFU)) + ";";
        i += 3;
    }
    return out;
}

}  // namespace

std::string written_xml(const std::vector<XmlNode>& nodes, const XmlHooks& hooks) {
    std::string out;
    write(nodes, hooks, out);
    return out;
}

std::string encoded_xml(std::string_view trace, const XmlHooks& hooks) {
    NodeBuilder builder;
    nachklang::adapter::build_markup(trace, builder, true);
    std::vector<XmlNode> nodes = std::move(builder).take();
    Preparation preparation(hooks);
    preparation.document(nodes);
    const auto leaves_out = [&](const std::string& step) { return hooks.left_out.contains(step); };
    if (!leaves_out("section-split")) split_sections(nodes);
    XmlHooks raw = hooks;
    if (leaves_out("section-end-escaped")) raw.unescaped_in_text.insert('>');
    // Reading the text finds the remaining errors: names, namespaces, characters.
    if (!preparation.left_out()) recognise_xml(written_xml(nodes, {}));
    const std::string out = written_xml(nodes, raw);
    return leaves_out("one-reference") ? in_halves(out) : out;
}

}  // namespace seeded_faults

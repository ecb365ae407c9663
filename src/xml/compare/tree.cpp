// A layer first drops what it ignores, then joins neighbouring texts. An element's first child holds its
// attributes and declarations as a set; its content follows in order.
#include "xml/compare/tree.hpp"

#include <fmt/format.h>

#include <algorithm>

namespace nachklang::xml {
namespace {

struct Name {
    std::string qname, local, uri;
    bool qname_reported = false, uri_reported = false;
};

class Builder {
  public:
    Builder(const Trace& trace, Layer layer, const CannotRepresent& cannot_represent, const TreeChoice& choice)
        : items_(trace.items()),
          layer_(layer),
          cannot_represent_(cannot_represent),
          choice_(choice),
          may_be_of_doctype_(hides_doctype_content()) {}

    std::vector<Node> build() {
        add(Part::document, 0, "", "", false);
        for (std::size_t i = 0; i < items_.size();) i = item(i);
        flush_text();
        while (!open_.empty()) close();
        return std::move(nodes_);
    }

  private:
    [[nodiscard]] bool at_least(Layer layer) const { return layer_ >= layer; }

    /// Adds a node and leaves it open.
    void add(Part part, std::size_t item, std::string name, std::string text, bool set) {
        Node node;
        node.part = part;
        node.label = combine(digest_of(name), digest_of(text));
        node.label = combine(node.label, Digest{static_cast<std::uint64_t>(part), 0});
        node.name = std::move(name);
        node.text = std::move(text);
        node.set = set;
        node.item = item;
        open_.push_back(nodes_.size());
        nodes_.push_back(std::move(node));
    }
    void close() {
        nodes_[open_.back()].end = nodes_.size();
        open_.pop_back();
    }
    void leaf(Part part, std::size_t item, std::string name, std::string text) {
        add(part, item, std::move(name), std::move(text), false);
        close();
    }

    void text(std::size_t item, const std::string& atoms) {
        if (pending_.empty()) pending_item_ = item;
        pending_ += atoms;
    }
    void flush_text() {
        const bool blank = pending_.find_first_not_of(" \t\r\n") == std::string::npos;
        if (!pending_.empty() && (choice_.blank_text || !blank))
            leaf(Part::text, pending_item_, "", std::move(pending_));
        pending_.clear();
    }

    std::size_t item(std::size_t i) {
        const Item& item = items_[i];
        const auto field = [&](std::size_t n) { return item.field(n).atoms(); };
        switch (item.kind) {
            case ItemKind::element:
                return element(i);
            case ItemKind::element_end:
                flush_text();
                close();
                while (!scopes_.empty() && scopes_.back().depth == depth_) scopes_.pop_back();
                --depth_;
                break;
            case ItemKind::text:
                text(i, field(0));
                break;
            case ItemKind::cdata:
                if (at_least(Layer::representation) && !cannot_represent_word(cannot_represent_, "cdata")) {
                    flush_text();
                    leaf(Part::cdata, i, "", field(0));
                } else {
                    text(i, field(0));
                }
                break;
            case ItemKind::comment:
                if (may_be_of_doctype_) break;
                kept(choice_.comments ? Layer::value : Layer::exact, "comments", Part::comment, i, "", field(0));
                break;
            case ItemKind::instruction:
                if (may_be_of_doctype_) break;
                kept(choice_.instructions ? Layer::value : Layer::exact, "instructions", Part::instruction, i,
                     field(0), field(1));
                break;
            case ItemKind::reference:
                if (choice_.references_as_text)
                    text(i, "&" + field(0) + ";");
                else
                    kept(Layer::value, "references", Part::reference, i, field(0), "");
                break;
            case ItemKind::doctype:
                kept(Layer::representation, "doctype", Part::doctype, i, field(0), "");
                break;
            default:
                break;
        }
        return i + 1;
    }

    /// Whether a comment or instruction before the root may have been one of the document type declaration, by an
    /// interface that shows those among the others. They are no children of the document (XML Infoset, 2.1).
    [[nodiscard]] bool hides_doctype_content() const {
        if (!cannot_represent_word(cannot_represent_, "doctype-content")) return false;
        // Without a word of the document type itself, any comment before the root may be one of it.
        return choice_.has_doctype || cannot_represent_word(cannot_represent_, "doctype") ||
               std::any_of(items_.begin(), items_.end(),
                           [](const Item& item) { return item.kind == ItemKind::doctype; });
    }

    void kept(Layer from, std::string_view lack, Part part, std::size_t i, std::string name, std::string text) {
        if (!at_least(from) || cannot_represent_word(cannot_represent_, lack)) return;
        flush_text();
        leaf(part, i, std::move(name), std::move(text));
    }

    std::size_t element(std::size_t i) {
        flush_text();
        ++depth_;
        may_be_of_doctype_ = false;
        std::size_t end = i + 1;
        while (end < items_.size() &&
               (items_[end].kind == ItemKind::attribute || items_[end].kind == ItemKind::declaration))
            ++end;
        for (std::size_t a = i + 1; a < end; ++a) declare(items_[a]);
        add(Part::element, i, shown_name(items_[i], true), "", false);
        attributes(i + 1, end);
        return end;
    }

    static bool is_declaration(const Item& item) {
        if (item.kind == ItemKind::declaration) return true;
        const std::string qname = item.field(0).atoms();
        return qname == "xmlns" || qname.starts_with("xmlns:");
    }
    static std::pair<std::string, std::string> declared(const Item& item) {
        if (item.kind == ItemKind::declaration) return {item.field(0).atoms(), item.field(1).atoms()};
        const std::string qname = item.field(0).atoms();
        return {qname == "xmlns" ? "" : qname.substr(6), item.field(3).atoms()};
    }
    void declare(const Item& item) {
        if (!is_declaration(item)) return;
        auto [prefix, uri] = declared(item);
        scopes_.push_back({std::move(prefix), std::move(uri), depth_});
    }

    void attributes(std::size_t begin, std::size_t end) {
        std::string order;
        if (at_least(Layer::order) && !cannot_represent_word(cannot_represent_, "order"))
            for (std::size_t a = begin; a < end; ++a)
                if (!is_declaration(items_[a])) order += shown_name(items_[a], false) + "\n";
        add(Part::attributes, begin == 0 ? 0 : begin - 1, order, "", true);
        const bool no_defaults = cannot_represent_word(cannot_represent_, "defaults");
        for (std::size_t a = begin; a < end; ++a) {
            if (no_defaults && items_[a].kind == ItemKind::attribute && items_[a].word() == "default") continue;
            if (is_declaration(items_[a])) {
                if (!at_least(Layer::exact) || cannot_represent_word(cannot_represent_, "declarations")) continue;
                auto [prefix, uri] = declared(items_[a]);
                add(Part::declaration, a, std::move(prefix), "", false);
                leaf(Part::value, a, "", std::move(uri));
                close();
                continue;
            }
            add(Part::attribute, a, shown_name(items_[a], false), "", false);
            std::string value = items_[a].field(3).atoms();
            if (at_least(Layer::representation) && items_[a].word() == "default") value += default_mark;
            leaf(Part::value, a, "", std::move(value));
            close();
        }
        close();
    }

    /// The name as this layer compares it: expanded, with the prefix as well from `exact` on.
    [[nodiscard]] std::string shown_name(const Item& item, bool element) const {
        Name name;
        name.qname_reported = item.field(0).reported();
        if (name.qname_reported) name.qname = item.field(0).atoms();
        if (name.qname_reported && cannot_represent_word(cannot_represent_, "namespaces")) return name.qname;
        if (item.field(1).reported() || item.field(2).reported()) {
            name.local = item.field(1).atoms();
            name.uri = item.field(2).atoms();
        } else {
            const auto colon = name.qname.find(':');
            const std::string prefix = colon == std::string::npos ? "" : name.qname.substr(0, colon);
            name.local = colon == std::string::npos ? name.qname : name.qname.substr(colon + 1);
            name.uri = resolve(prefix, element);
        }
        std::string out = name.uri.empty() ? name.local : "{" + name.uri + "}" + name.local;
        if (at_least(Layer::exact) && name.qname_reported &&
            !cannot_represent_word(cannot_represent_, "prefixes") && name.qname != name.local)
            out += " as " + name.qname;
        return out;
    }
    [[nodiscard]] std::string resolve(const std::string& prefix, bool element) const {
        if (prefix == "xml") return "http://www.w3.org/XML/1998/namespace";
        if (prefix.empty() && !element) return "";
        for (auto scope = scopes_.rbegin(); scope != scopes_.rend(); ++scope)
            if (scope->prefix == prefix) return scope->uri;
        return prefix.empty() ? "" : "?" + prefix;
    }

    struct Scope {
        std::string prefix, uri;
        std::size_t depth;
    };
    std::span<const Item> items_;
    Layer layer_;
    const CannotRepresent& cannot_represent_;
    const TreeChoice choice_;
    bool may_be_of_doctype_;  // a comment or instruction at this place
    std::vector<Node> nodes_;
    std::vector<std::size_t> open_;
    std::vector<Scope> scopes_;
    std::size_t depth_ = 0;
    std::string pending_;
    std::size_t pending_item_ = 0;
};

}  // namespace

std::vector<Node> tree_at(const Trace& trace, Layer layer, const CannotRepresent& cannot_represent,
                          const TreeChoice& choice) {
    return Builder(trace, layer, cannot_represent, choice).build();
}

}  // namespace nachklang::xml

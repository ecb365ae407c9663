// Features of XML texts and values. What an application gets comes from the trace, so that a document and a value
// to be encoded have the same features; references, declarations, spelling and errors come from a walk over the
// text.
#include "xml/features/features.hpp"

#include <map>
#include <set>

#include <nachklang/feature_set.hpp>
#include <nachklang/number.hpp>
#include <nachklang/xml.hpp>

#include "xml/features/declared_entities.hpp"
#include "xml/read/source.hpp"

namespace nachklang::xml {
namespace {

const FeatureTable& table() {
    static const FeatureTable out(all_features());
    return out;
}

void add_name(FeatureSet& out, std::string_view name) {
    out.add_from(64, "name-length", name.size());
    out.add_if(name.find(':') != std::string_view::npos, "name-colon");
    out.add_if(name.find_first_of(".-") != std::string_view::npos, "name-dot");
    out.add_if(name.starts_with("xml") && !name.starts_with("xmlns") && !name.starts_with("xml:"),
               "name-begins-xml");
    for (std::size_t at = 0; at < name.size();) {
        const auto step = text::decode_utf8(name, at);
        out.add_if(step.scalar >= 0x80, "name-beyond-ascii");
        out.add_if(step.scalar > 0xFFFF, "name-beyond-bmp");
        at += step.length;
    }
}

/// What the items of a trace hold.
class TraceWalk {
  public:
    explicit TraceWalk(FeatureSet& out) : out_(out) {}

    void walk(const Trace& trace) {
        for (const Item& item : trace.items()) take(item);
    }

  private:
    struct Open {
        std::size_t children = 0, attributes = 0, supplied = 0, texts = 0, asides = 0;
        bool text = false;
        std::string uri;
        std::set<std::string> names{};
        ItemKind last = ItemKind::element;  // of the piece of content before
        bool text_before = false;           // a comment or instruction that follows text
    };

    void take(const Item& item) {
        switch (item.kind) {
            case ItemKind::element:
                return element(item);
            case ItemKind::element_end:
                return end();
            case ItemKind::attribute:
                return attribute(item);
            case ItemKind::declaration:
                return declaration(item);
            case ItemKind::text:
            case ItemKind::cdata:
                return text(item);
            case ItemKind::comment:
            case ItemKind::instruction:
                return aside(item);
            case ItemKind::reference:
                return out_.add("reference-kept");
            case ItemKind::string:  // a field of a record
                return Characters(out_, "text").take(item.field(0).atoms());
            case ItemKind::integer:
                return Characters(out_, "text").take(item.digits());
            default:
                return;
        }
    }

    void element(const Item& item) {
        const std::string name = item.field(0).atoms(), uri = item.field(2).atoms();
        add_name(out_, name);
        if (!open_.empty()) {
            Open& parent = open_.back();
            ++parent.children;
            out_.add("nested-element");
            out_.add_from(64, "children", parent.children);
            out_.add_if(!parent.names.insert(name).second, "siblings-alike");
            out_.add_if(uri.empty() && !default_.empty() && !default_.back().empty(),
                        "no-namespace-inside-default");
            parent.last = ItemKind::element;
        }
        default_.push_back(default_.empty() ? "" : default_.back());
        open_.push_back({});
        open_.back().uri = uri;
        undeclared_ = undeclared_ || (!uri.empty() && !declared_.contains(uri));
        out_.add("depth", open_.size());
    }

    void end() {
        const Open& last = open_.back();
        out_.add_if(last.children == 0 && !last.text, "empty-element");
        out_.add_if(last.children > 0 && last.text, "mixed-content");
        out_.add_if((last.children > 0 || last.asides > 0) && !last.text, "markup-without-text");
        out_.add_if(last.supplied > 0 && last.supplied == last.attributes, "attributes-supplied-alone");
        open_.pop_back();
        default_.pop_back();
        // Declarations follow the element's own line, so that only its end knows.
        if (open_.empty()) out_.add_if(undeclared_ && !any_declared_, "declarations-left-out");
        root_done_ = open_.empty();
    }

    void attribute(const Item& item) {
        const std::string name = item.field(0).atoms(), value = item.field(3).atoms();
        add_name(out_, name);
        out_.add("attribute");
        out_.add_from(64, "attributes", ++open_.back().attributes);
        out_.add_from(64, "value-length", value.size());
        out_.add_if(value.empty(), "attribute-empty");
        out_.add_if(name == "xml:space", "attribute-xml-space");
        out_.add_if(name == "xml:lang", "attribute-xml-lang");
        out_.add_if(name.starts_with("xml:"), "attribute-xml-prefix");
        out_.add_if(item.field(2).reported() && !item.field(2).atoms().empty() && !name.starts_with("xml:"),
                    "namespace-attribute");
        const bool supplied = item.word() == "default";
        open_.back().supplied += supplied ? 1 : 0;
        out_.add_if(supplied, "attribute-supplied");
        Characters(out_, "value").take(value);
    }

    void declaration(const Item& item) {
        const std::string prefix = item.field(0).atoms(), uri = item.field(1).atoms();
        any_declared_ = true;
        declared_.insert(uri);
        out_.add(prefix.empty() ? "namespace-default" : "namespace-prefix");
        out_.add_if(prefix.empty() && uri.empty(), "namespace-undeclared");
        if (prefix.empty()) default_.back() = uri;
        const auto [known, added] = prefixes_.try_emplace(prefix, uri);
        out_.add_if(!added && known->second != uri, "namespace-redeclared");
        out_.add_if(!uri.empty() && std::any_of(prefixes_.begin(), prefixes_.end(),
                                                [&](const auto& other) {
                                                    return other.first != prefix && other.second == uri;
                                                }),
                    "namespace-two-prefixes");
    }

    void text(const Item& item) {
        if (open_.empty()) return;
        Open& parent = open_.back();
        const std::string value = item.field(0).atoms();
        const bool blank = value.find_first_not_of(spaces) == std::string::npos;
        const bool is_section = item.kind == ItemKind::cdata;
        out_.add("text");
        out_.add_from(64, "text-length", value.size());
        out_.add_if(blank && !value.empty(), "text-only-space");
        out_.add_if(blank && parent.children > 0, "space-between-elements");
        out_.add_if(is_section && value.empty(), "cdata-empty");
        out_.add_if(is_section, "cdata");
        out_.add_if(parent.last == ItemKind::cdata && is_section, "cdata-adjacent");
        const bool beside =
            (parent.last == ItemKind::cdata && !is_section) || (parent.last == ItemKind::text && is_section);
        out_.add_if(beside, "cdata-beside-text");
        out_.add_if(parent.text_before && !blank, "text-around-comment");
        parent.text = parent.text || !blank;
        parent.last = item.kind;
        parent.text_before = false;
        Characters(out_, is_section ? "cdata" : "text").take(value);
    }

    void aside(const Item& item) {
        const bool is_comment = item.kind == ItemKind::comment;
        const std::string kind = is_comment ? "comment" : "instruction";
        const std::string data = item.field(is_comment ? 0 : 1).atoms();
        out_.add(kind);
        out_.add(kind + (root_done_ ? "-after-root" : open_.empty() ? "-before-root" : "-in-element"));
        out_.add_if(data.empty(), is_comment ? "comment-empty" : "instruction-no-data");
        if (!is_comment) add_name(out_, item.field(0).atoms());
        if (!open_.empty()) {
            ++open_.back().asides;
            open_.back().text_before = open_.back().last == ItemKind::text;
            open_.back().last = item.kind;
        }
        Characters(out_, kind).take(data);
    }

    FeatureSet& out_;
    std::vector<Open> open_;
    std::vector<std::string> default_;
    std::set<std::string> declared_{"http://www.w3.org/XML/1998/namespace"};
    std::map<std::string, std::string> prefixes_;
    bool root_done_ = false, undeclared_ = false, any_declared_ = false;
};

/// Where a walk over the text is.
enum class Place : std::uint8_t { prolog, doctype, tag, value, content, comment, after_root };

/// A walk over markup as it is written; of a text that is not well-formed as far as it goes.
class TextWalk {
  public:
    TextWalk(FeatureSet& out, std::string_view text, std::size_t stop) : out_(out), text_(text), stop_(stop) {}

    /// The place of `stop`.
    Place walk() {
        std::size_t at = 0;
        while (at < text_.size()) {
            const std::string_view rest = text_.substr(at);
            std::size_t length = 0;
            if (rest.starts_with("<!--"))
                length = past(rest, "-->", Place::comment, at);
            else if (rest.starts_with("<![CDATA["))
                length = past(rest, "]]>", Place::content, at);
            else if (rest.starts_with("<?"))
                length = instruction(rest, at);
            else if (rest.starts_with("<!DOCTYPE"))
                length = doctype(rest, at);
            else if (rest.starts_with('<'))
                length = tag(rest, at);
            else
                length = content(rest, at);
            at += std::max<std::size_t>(length, 1);
        }
        for (const std::string& name : declared_) out_.add_if(!referred_.contains(name), "entity-unused");
        return place_;
    }

  private:
    void see(Place place, std::size_t begin, std::size_t length) {
        if (stop_ >= begin && stop_ <= begin + length) place_ = place;
    }
    std::size_t past(std::string_view rest, std::string_view close, Place place, std::size_t at) {
        const std::size_t end = rest.find(close, 2);
        const std::size_t length = end == std::string_view::npos ? rest.size() : end + close.size();
        see(place == Place::content && depth_ == 0 ? outside() : place, at, length - 1);
        out_.add_if(rest.substr(0, length).find('\r') != std::string_view::npos, "line-end-with-cr");
        return length;
    }
    [[nodiscard]] Place outside() const { return root_seen_ ? Place::after_root : Place::prolog; }

    std::size_t instruction(std::string_view rest, std::size_t at) {
        const std::size_t length = past(rest, "?>", Place::content, at);
        if (at != 0 || !rest.starts_with("<?xml ")) return length;
        const std::string_view declaration = rest.substr(0, length);
        const auto holds = [&](std::string_view word) { return declaration.find(word) != std::string_view::npos; };
        out_.add("declaration");
        out_.add_if(holds("encoding"), "declaration-encoding");
        out_.add_if(holds("standalone"), "declaration-standalone");
        out_.add_if(holds("standalone") && holds("yes"), "standalone-yes");
        out_.add_if(!holds("version=\"1.0\"") && !holds("version='1.0'"), "version-other");
        return length;
    }

    std::size_t doctype(std::string_view rest, std::size_t at) {
        const std::size_t open = rest.find_first_of("[>");
        std::size_t end = std::min(open, rest.size());
        out_.add("doctype");
        const std::string_view head = rest.substr(0, end);
        out_.add_if(
            head.find(" SYSTEM") != std::string_view::npos || head.find(" PUBLIC") != std::string_view::npos,
            "external-subset");
        if (end < rest.size() && rest[end] == '[') {
            out_.add("internal-subset");
            const std::size_t close = subset_end(rest, end + 1);
            declared_ = declared_entities(out_, rest.substr(end + 1, close - end - 1));
            end = std::min(rest.find('>', close), rest.size());
        }
        see(Place::doctype, at, end);
        return end + 1;
    }
    /// The "]" outside literals and comments.
    static std::size_t subset_end(std::string_view text, std::size_t from) {
        char quote = 0;
        for (std::size_t i = from; i < text.size(); ++i) {
            if (quote == 0 && text.substr(i).starts_with("<!--")) {
                i = std::min(text.find("-->", i + 4), text.size());
            } else if (quote == 0 && text[i] == ']') {
                return i;
            } else if (quote != 0 && text[i] == quote) {
                quote = 0;
            } else if (quote == 0 && (text[i] == '"' || text[i] == '\'')) {
                quote = text[i];
            }
        }
        return text.size();
    }

    std::size_t tag(std::string_view rest, std::size_t at) {
        char quote = 0;
        std::size_t end = 1, opened = 0;
        for (; end < rest.size() && (quote != 0 || rest[end] != '>'); ++end) {
            const char c = rest[end];
            if (quote == 0 && (c == '"' || c == '\'')) {
                quote = c;
                opened = end + 1;
                out_.add_if(c == '\'', "quotes-single");
            } else if (c == quote && quote != 0) {
                see(Place::value, at + opened, end - opened);
                quote = 0;
                raw_value(rest.substr(opened, end - opened));
            } else if (quote == 0) {
                out_.add_if(c == '\n' || c == '\r', "tag-line-end");
            }
        }
        const std::string_view whole = rest.substr(0, end);
        const bool closes = whole.starts_with("</"), empty = whole.ends_with('/');
        out_.add_if(empty, "empty-tag");
        out_.add_if(whole.ends_with(' ') || whole.find(" =") != std::string_view::npos ||
                        whole.find("= ") != std::string_view::npos,
                    "tag-space");
        if (place_ != Place::value || stop_ < at || stop_ > at + end) see(Place::tag, at, end);
        if (closes && depth_ > 0) --depth_;
        if (!closes && !empty) ++depth_;
        root_seen_ = root_seen_ || depth_ == 0;
        return end + 1;
    }

    std::size_t content(std::string_view rest, std::size_t at) {
        const std::size_t length = std::min(rest.find('<'), rest.size());
        const std::string_view text = rest.substr(0, length);
        see(depth_ == 0 ? outside() : Place::content, at, length - 1);
        if (depth_ == 0) {
            out_.add(root_seen_ ? "space-after-root" : "space-before-root");
            return length;
        }
        references(text, "text");
        out_.add_if(text.find('\r') != std::string_view::npos, "line-end-with-cr");
        out_.add_if(text.find("\r\n") != std::string_view::npos, "text-cr-lf");
        out_.add_if(has_lone_cr(text), "text-cr");
        return length;
    }

    void raw_value(std::string_view value) {
        references(value, "value");
        out_.add_if(value.find_first_of("\t\r\n") != std::string_view::npos, "value-raw-space");
        Characters(out_, "value").take(value);
    }
    static bool has_lone_cr(std::string_view text) {
        for (std::size_t i = text.find('\r'); i != std::string_view::npos; i = text.find('\r', i + 1))
            if (i + 1 >= text.size() || text[i + 1] != '\n') return true;
        return false;
    }

    void references(std::string_view text, const std::string& place) {
        for (std::size_t at = text.find('&'); at != std::string_view::npos; at = text.find('&', at + 1)) {
            const std::size_t end = text.find(';', at);
            if (end == std::string_view::npos) return;
            const std::string_view name = text.substr(at + 1, end - at - 1);
            out_.add("reference-in-" + place);
            if (name.starts_with('#')) {
                character_reference(name.substr(1), place);
            } else if (name == "lt" || name == "gt" || name == "amp" || name == "apos" || name == "quot") {
                out_.add("reference-predefined");
                out_.add_if(name == "lt" || name == "amp", "reference-to-markup");
            } else {
                referred_.emplace(name);
                out_.add("entity-in-" + place);
            }
        }
    }
    void character_reference(std::string_view reference, const std::string& place) {
        const bool hexadecimal = reference.starts_with('x');
        const std::string_view digits = reference.substr(hexadecimal ? 1 : 0);
        const std::uint64_t point = code_point_of(reference);
        out_.add_if(is_tab_or_line_end(point) && place == "value", "value-space-referred");
        out_.add_if(is_tab_or_line_end(point) || point == ' ', "reference-to-white-space");
        out_.add(hexadecimal ? "reference-hexadecimal" : "reference-decimal");
        out_.add_if(digits.starts_with('0') && digits.size() > 1, "reference-leading-zero");
        out_.add_if(digits.find_first_of("ABCDEF") != std::string_view::npos, "reference-capital");
        out_.add_if(point == ' ', "reference-to-space");
        out_.add_if(point == '\t', "reference-to-tab");
        out_.add_if(point == '\n', "reference-to-lf");
        out_.add_if(point == '\r', "reference-to-cr");
        out_.add_if(point == '<' || point == '&', "reference-to-markup");
        out_.add_if(point < 0x20 && point != '\t' && point != '\n' && point != '\r', "reference-to-control");
        out_.add_if(point >= 0xD800 && point < 0xE000, "reference-to-surrogate");
        out_.add_if(point == 0xFFFE || point == 0xFFFF, "reference-to-noncharacter");
        out_.add_if(point > 0xFFFF && point <= 0x10FFFF, "reference-beyond-bmp");
        out_.add_if(point > 0x10FFFF, "reference-beyond-last");
        out_.add_if(point > 0xFFFFFFFF, "reference-beyond-32-bits");
    }

    FeatureSet& out_;
    std::string_view text_;
    std::size_t stop_;
    Place place_ = Place::prolog;
    std::size_t depth_ = 0;
    bool root_seen_ = false;
    std::set<std::string, std::less<>> declared_, referred_;
};

void add_error(FeatureSet& out, const Rejection& rejection, Place place, bool at_end, bool of_names) {
    for (const BrokenRule& rule : broken_rules())
        if (rejection.clause.ends_with(rule.clause_end) &&
            (rejection.clause.size() == rule.clause_end.size() ||
             rejection.clause[rejection.clause.size() - rule.clause_end.size() - 1] == ' '))
            out.add(rule.feature);
    out.add_if(of_names, "error-of-names");
    out.add_if(!rejection.entity_stack.empty(), "error-in-entity");
    if (at_end) return out.add("error-at-end");
    switch (place) {
        case Place::prolog:
            return out.add("error-in-prolog");
        case Place::doctype:
            return out.add("error-in-doctype");
        case Place::tag:
            return out.add("error-in-tag");
        case Place::value:
            return out.add("error-in-value");
        case Place::content:
            return out.add("error-in-content");
        case Place::comment:
            return out.add("error-in-comment");
        case Place::after_root:
            return out.add("error-after-root");
    }
}

}  // namespace

std::vector<FeatureValue> features_of(std::string_view document) {
    FeatureSet out(table());
    out.add_from(4096, "size", document.size());
    out.add_if(document.find_first_not_of(spaces) == std::string_view::npos, "empty-text");
    const Detected detected = detect(document);
    out.add_if(detected.mark > 0, "byte-order-mark");
    out.add_if(detected.unmarked, "encoding-unmarked");
    out.add_if(detected.encoding == Encoding::utf16be || detected.encoding == Encoding::utf16le, "encoding-utf-16");
    out.add_if(detected.optional, "encoding-other");
    if (!detected.unreadable_because.empty()) {
        out.add("encoding-other");
        return out.values();
    }
    if (detected.encoding == Encoding::utf8) add_ill_formed_kinds(out, document);
    const Source source(document, detected);
    const Reading reading = read(document);
    const auto& rejection = reading.rejection ? reading.rejection : reading.namespace_rejection;
    // An offset of the document is one of the text where it is UTF-8.
    const bool is_utf8 = detected.encoding == Encoding::utf8;
    const std::size_t stop =
        rejection && is_utf8 ? rejection->position.offset - std::min(detected.mark, rejection->position.offset) : 0;
    const Place place = TextWalk(out, source.text(), stop).walk();
    if (!reading.rejection && reading.unreadable_because.empty()) TraceWalk(out).walk(reading.trace);
    if (rejection)
        add_error(out, *rejection, place, rejection->position.offset >= document.size(), !reading.rejection);
    return out.values();
}

std::vector<FeatureValue> features_of_value(const Trace& value) {
    FeatureSet out(table());
    TraceWalk(out).walk(value);
    return out.values();
}

}  // namespace nachklang::xml

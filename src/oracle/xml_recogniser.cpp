#include "oracle/xml_recogniser.hpp"

#include <algorithm>
#include <map>
#include <optional>

namespace oracle {
namespace {

using Text = std::u32string;

void put(std::string& out, char32_t c) {
    if (c < 0x80) {
        out += static_cast<char>(c);
    } else if (c < 0x800) {
        out += static_cast<char>(0xC0 | (c >> 6));
        out += static_cast<char>(0x80 | (c & 0x3F));
    } else if (c < 0x10000) {
        out += static_cast<char>(0xE0 | (c >> 12));
        out += static_cast<char>(0x80 | ((c >> 6) & 0x3F));
        out += static_cast<char>(0x80 | (c & 0x3F));
    } else {
        out += static_cast<char>(0xF0 | (c >> 18));
        out += static_cast<char>(0x80 | ((c >> 12) & 0x3F));
        out += static_cast<char>(0x80 | ((c >> 6) & 0x3F));
        out += static_cast<char>(0x80 | (c & 0x3F));
    }
}
std::string bytes_of(const Text& text) {
    std::string out;
    for (const char32_t c : text) put(out, c);
    return out;
}
/// The first character of well-formed bytes; 0 where there is none.
char32_t first_of(const std::string& bytes) {
    if (bytes.empty()) return 0;
    const auto at = [&](std::size_t i) { return static_cast<char32_t>(static_cast<unsigned char>(bytes[i])); };
    if (at(0) < 0x80) return at(0);
    if (at(0) < 0xE0) return (at(0) & 0x1F) << 6 | (at(1) & 0x3F);
    if (at(0) < 0xF0) return (at(0) & 0x0F) << 12 | (at(1) & 0x3F) << 6 | (at(2) & 0x3F);
    return (at(0) & 0x07) << 18 | (at(1) & 0x3F) << 12 | (at(2) & 0x3F) << 6 | (at(3) & 0x3F);
}
bool blank(char32_t c) {
    return c == ' ' || c == '\t' || c == '\n' || c == '\r';
}
bool legal(char32_t c) {
    if (c < 0x20) return c == 9 || c == 10 || c == 13;
    return c < 0xD800 || (c >= 0xE000 && c != 0xFFFE && c != 0xFFFF && c <= 0x10FFFF);
}
bool starts_name(char32_t c) {
    if (c < 0x80) return c == ':' || c == '_' || (c >= 'A' && c <= 'Z') || (c >= 'a' && c <= 'z');
    if (c < 0xC0 || c == 0xD7 || c == 0xF7 || c == 0x37E) return false;
    if (c >= 0x300 && c < 0x370) return false;
    if (c < 0x2000) return true;
    if (c < 0x3001)
        return c == 0x200C || c == 0x200D || (c >= 0x2070 && c <= 0x218F) || (c >= 0x2C00 && c <= 0x2FEF);
    if (c < 0xF900) return c <= 0xD7FF;
    return c <= 0xFDCF || (c >= 0xFDF0 && c <= 0xFFFD) || (c >= 0x10000 && c <= 0xEFFFF);
}
bool in_name(char32_t c) {
    return starts_name(c) || c == '-' || c == '.' || (c >= '0' && c <= '9') || c == 0xB7 ||
           (c >= 0x300 && c < 0x370) || c == 0x203F || c == 0x2040;
}

struct Declared {
    Text value;
    bool external = false, unparsed = false, inside = false;
};
struct DefaultOf {
    std::string name;
    bool tokens = false;
    std::optional<std::string> value;
};

class Recogniser {
  public:
    Recogniser(std::string_view document, const XmlHabits& habits) : habits_(habits) { decode(document); }

    std::vector<XmlNode> document() {
        Part whole{text_, 0, true};
        std::vector<XmlNode> out;
        declaration(whole);
        bool typed = false;
        while (true) {
            skip(whole);
            if (is(whole, U"<!DOCTYPE") && !(typed && !lets("one-doctype"))) {
                typed = true;
                doctype(whole, out);
            } else if (!misc(whole, out)) {
                break;
            }
        }
        check(is(whole, U"<"), "root");
        element(whole, out, {{"xml", "http://www.w3.org/XML/1998/namespace"}}, 0);
        while (true) {
            skip(whole);
            if (misc(whole, out)) continue;
            if (is(whole, U"<") && lets("one-root")) {
                std::vector<XmlNode> thrown_away;
                element(whole, thrown_away, {{"xml", "http://www.w3.org/XML/1998/namespace"}}, 0);
                continue;
            }
            break;
        }
        check(whole.at == whole.text.size() || lets("nothing-after-root"), "end");
        return out;
    }

  private:
    struct Part {
        const Text& text;
        std::size_t at;
        bool is_document;
    };
    using Scope = std::map<std::string, std::string>;

    [[nodiscard]] bool lets(const char* name) const { return habits_.lets.contains(name); }
    [[nodiscard]] bool skips(const char* name) const { return habits_.skips.contains(name); }
    void check(bool holds, const char* name) const {
        if (!holds && !lets(name)) throw XmlRefused(name);
    }
    void taste(bool met, const char* name) const {
        if (met && habits_.refuses.contains(name)) throw XmlRefused(name);
    }

    // --- characters ---
    void decode(std::string_view bytes) {
        std::size_t mark = 0;
        if (bytes.starts_with("\xEF\xBB\xBF")) mark = 3;
        if (bytes.starts_with("\xFF\xFE") || bytes.starts_with("\xFE\xFF")) {
            utf16(bytes.substr(2), bytes[0] == '\xFF');
            encoding_ = "UTF-16";
        } else {
            const std::string name = declared(bytes.substr(mark));
            latin1_ = mark == 0 && (name == "ISO-8859-1" || name == "US-ASCII");
            encoding_ = latin1_ ? name : "UTF-8";
            for (std::size_t at = mark; at < bytes.size();) at += latin1_ ? one_byte(bytes, at) : utf8(bytes, at);
        }
        Text settled;
        for (std::size_t i = 0; i < text_.size(); ++i) {
            if (text_[i] == '\r' && !skips("line-ends")) {
                settled += U'\n';
                if (i + 1 < text_.size() && text_[i + 1] == '\n') ++i;
            } else {
                settled += text_[i];
            }
        }
        text_ = std::move(settled);
    }
    static std::string declared(std::string_view bytes) {
        const auto key = bytes.substr(0, bytes.find("?>")).find("encoding");
        if (!bytes.starts_with("<?xml") || bytes.size() < 6 || !blank(static_cast<unsigned char>(bytes[5])) ||
            key == std::string_view::npos)
            return "";
        const auto quote = bytes.find_first_of("\"'", key);
        if (quote == std::string_view::npos) return "";
        std::string out(bytes.substr(quote + 1, bytes.find(bytes[quote], quote + 1) - quote - 1));
        for (char& c : out)
            if (c >= 'a' && c <= 'z') c = static_cast<char>(c - 32);
        return out;
    }
    std::size_t one_byte(std::string_view bytes, std::size_t at) {
        const auto c = static_cast<unsigned char>(bytes[at]);
        check(encoding_ != "US-ASCII" || c < 0x80, "ascii");
        text_ += c;
        return 1;
    }
    std::size_t utf8(std::string_view bytes, std::size_t at) {
        const auto byte = [&](std::size_t i) {
            return i < bytes.size() ? static_cast<unsigned char>(bytes[i]) : 0U;
        };
        const unsigned lead = byte(at);
        if (lead < 0x80) {
            text_ += static_cast<char32_t>(lead);
            return 1;
        }
        const std::size_t length = lead >= 0xF0 ? 4 : lead >= 0xE0 ? 3 : 2;
        char32_t c = lead & (0x7FU >> length);
        bool sound = lead >= 0xC0 && lead < 0xF8;
        for (std::size_t i = 1; sound && i < length; ++i) {
            sound = (byte(at + i) & 0xC0) == 0x80;
            c = c << 6 | (byte(at + i) & 0x3F);
        }
        if (!sound) {
            check(false, "utf-8");
            text_ += U'\uFFFD';
            return 1;
        }
        check(c >= (length == 2 ? 0x80U : length == 3 ? 0x800U : 0x10000U), "overlong");
        check(c < 0xD800 || c > 0xDFFF, "surrogate-in-utf-8");
        check(c <= 0x10FFFF, "utf-8");
        text_ += c >= 0xD800 && c <= 0xDFFF ? U'\uFFFD' : c;
        return length;
    }
    void utf16(std::string_view bytes, bool little) {
        check(bytes.size() % 2 == 0, "half-unit");
        const auto unit = [&](std::size_t at) {
            const auto a = static_cast<unsigned char>(bytes[at]), b = static_cast<unsigned char>(bytes[at + 1]);
            return static_cast<char32_t>(little ? b << 8 | a : a << 8 | b);
        };
        for (std::size_t at = 0; at + 1 < bytes.size(); at += 2) {
            char32_t c = unit(at);
            if (c >= 0xD800 && c < 0xDC00 && at + 3 < bytes.size() && unit(at + 2) >= 0xDC00 &&
                unit(at + 2) < 0xE000) {
                c = 0x10000 + ((c - 0xD800) << 10) + (unit(at + 2) - 0xDC00);
                at += 2;
            } else if (c >= 0xD800 && c < 0xE000) {
                check(false, "lone-unit");
                c = U'\uFFFD';
            }
            text_ += c;
        }
    }

    // --- taking ---
    static bool is(const Part& p, std::u32string_view word) {
        return std::u32string_view(p.text).substr(p.at).starts_with(word);
    }
    static char32_t now(const Part& p) { return p.at < p.text.size() ? p.text[p.at] : 0; }
    static bool skip(Part& p) {
        const std::size_t from = p.at;
        while (blank(now(p))) ++p.at;
        return p.at > from;
    }
    void want(Part& p, std::u32string_view word, const char* name) const {
        check(is(p, word), name);
        if (is(p, word)) p.at += word.size();
    }
    char32_t character(Part& p) const {
        const char32_t c = now(p);
        check(p.at < p.text.size(), "never-ended");
        if (p.at >= p.text.size()) throw XmlRefused("never-ended");
        check(legal(c), c < 0x20 ? "controls" : "noncharacters");
        ++p.at;
        return c;
    }
    std::string name(Part& p, bool token = false) const {
        const std::size_t from = p.at;
        const bool first = token ? in_name(now(p)) : starts_name(now(p));
        if (!first && !(lets("name-start") && in_name(now(p)))) throw XmlRefused("name");
        while (in_name(now(p))) ++p.at;
        return bytes_of(p.text.substr(from, p.at - from));
    }
    Text until(Part& p, std::u32string_view end, bool hyphens = false) const {
        Text out;
        while (!is(p, end)) {
            if (hyphens && is(p, U"--")) check(false, "hyphens");
            out += character(p);
        }
        p.at += end.size();
        return out;
    }
    char32_t quote(Part& p) const {
        const char32_t c = now(p);
        if (c != '"' && c != '\'') throw XmlRefused("quote");
        taste(c == '\'', "single-quotes");
        ++p.at;
        return c;
    }

    // --- prolog ---
    void declaration(Part& p) {
        if (!is(p, U"<?xml") || p.at + 5 >= p.text.size() || !blank(p.text[p.at + 5])) {
            check(encoding_ != "", "encoding");
            return;
        }
        p.at += 5;
        skip(p);
        const auto pseudo = [&](std::u32string_view key) {
            want(p, key, "declaration");
            skip(p);
            want(p, U"=", "declaration");
            skip(p);
            const char32_t q = quote(p);
            std::string out;
            while (now(p) != q) put(out, character(p));
            ++p.at;
            return out;
        };
        const std::string version = pseudo(U"version");
        const bool digits = version.size() > 2 && version.find_first_not_of("0123456789", 2) == std::string::npos;
        check(version.starts_with("1.") && digits, "version");
        if (version != "1.0") taste(true, "version-1.x");
        bool spaced = skip(p);
        if (spaced && now(p) == 'e') {
            std::string encoding = pseudo(U"encoding");
            const bool letters =
                !encoding.empty() && ((encoding[0] | 0x20) >= 'a' && (encoding[0] | 0x20) <= 'z') &&
                encoding.find_first_not_of("abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789._-") ==
                    std::string::npos;
            check(letters, "encoding-name");
            for (char& c : encoding)
                if (c >= 'a' && c <= 'z') c = static_cast<char>(c - 32);
            check(encoding == encoding_, "encoding-agrees");
            spaced = skip(p);
        }
        if (spaced && now(p) == 's') {
            const std::string alone = pseudo(U"standalone");
            check(alone == "yes" || alone == "no", "standalone");
            standalone_ = alone == "yes";
            skip(p);
        }
        want(p, U"?>", "declaration");
    }

    bool misc(Part& p, std::vector<XmlNode>& out) {
        if (is(p, U"<!--")) {
            comment(p, out);
        } else if (is(p, U"<?")) {
            instruction(p, out);
        } else {
            return false;
        }
        return true;
    }
    void add(std::vector<XmlNode>& out, XmlNode node) const {
        if (habits_.node) habits_.node(node);
        out.push_back(std::move(node));
    }
    void comment(Part& p, std::vector<XmlNode>& out) {
        p.at += 4;
        const Text inside = until(p, U"-->", true);
        check(inside.empty() || inside.back() != '-', "hyphens");
        taste(inside.empty(), "empty-comment");
        add(out, {XmlNode::Kind::comment, "", bytes_of(inside), "", {}, {}});
    }
    void instruction(Part& p, std::vector<XmlNode>& out) {
        p.at += 2;
        const std::string target = name(p);
        std::string lower = target;
        for (char& c : lower) c = static_cast<char>(c | 0x20);
        check(!(target.size() == 3 && lower == "xml"), "target-xml");
        check(target.find(':') == std::string::npos, "colon-in-target");
        if (is(p, U"?>")) {
            p.at += 2;
            return add(out, {XmlNode::Kind::instruction, target, "", "", {}, {}});
        }
        if (!skip(p)) throw XmlRefused("space");
        const Text data = until(p, U"?>");
        add(out, {XmlNode::Kind::instruction, target, bytes_of(data), "", {}, {}});
    }

    // --- references ---
    /// After "&#".
    char32_t character_reference(Part& p) const {
        p.at += 2;
        bool hex = now(p) == 'x';
        if (now(p) == 'X' && lets("capital-x")) hex = true;
        if (hex) ++p.at;
        std::uint64_t value = 0;
        std::size_t digits = 0;
        while (true) {
            const char32_t c = now(p);
            const char32_t lower = c | 0x20;
            int digit = c >= '0' && c <= '9' ? static_cast<int>(c - '0') : -1;
            if (hex && lower >= 'a' && lower <= 'f') digit = static_cast<int>(lower - 'a') + 10;
            if (digit < 0) break;
            value = value * (hex ? 16 : 10) + static_cast<std::uint64_t>(digit);
            if (lets("reference-wraps"))
                value &= 0xFFFFFFFF;
            else if (value > 0x110000)
                value = 0x110000;
            ++digits;
            ++p.at;
        }
        if (digits == 0) throw XmlRefused("digits");
        if (now(p) == ';')
            ++p.at;
        else
            check(false, "semicolon");
        auto c = static_cast<char32_t>(value);
        if (c >= 0xD800 && c < 0xE000)
            check(false, "reference-to-surrogate");
        else if (c > 0x10FFFF)
            check(false, "reference-too-large");
        else
            check(legal(c), "reference-to-illegal");
        if ((c >= 0xD800 && c < 0xE000) || c > 0x10FFFF) c = U'\uFFFD';
        taste(hex, "hex-references");
        return c;
    }
    static char32_t predefined(const std::string& entity) {
        static const std::map<std::string, char32_t> all{
            {"lt", '<'}, {"gt", '>'}, {"amp", '&'}, {"apos", '\''}, {"quot", '"'}};
        const auto found = all.find(entity);
        return found == all.end() ? 0 : found->second;
    }
    std::string entity_name(Part& p) const {
        ++p.at;
        const std::string out = name(p);
        if (now(p) == ';')
            ++p.at;
        else
            check(false, "semicolon");
        return out;
    }
    [[nodiscard]] const Declared* find_entity(const std::string& entity) const {
        const auto found = entities_.find(entity);
        if (found != entities_.end() && !(standalone_ && !found->second.inside && !lets("declared-inside")))
            return &found->second;
        if (!standalone_ && outside_) return nullptr;
        check(false, "declared");
        return nullptr;
    }

    // --- elements ---
    void element(Part& p, std::vector<XmlNode>& out, Scope scope, std::size_t depth) {
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

    void attribute(Part& p, XmlNode& node) {
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
    /// Up to the quote (0: to the end).
    void value(Part& p, char32_t q, std::string& out, std::vector<std::string>& open) const {
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
    static std::string squeezed(const std::string& text) {
        std::string out;
        for (const char c : text)
            if (c != ' ' || (!out.empty() && out.back() != ' ')) out += c;
        if (!out.empty() && out.back() == ' ') out.pop_back();
        return out;
    }
    void supply_defaults(XmlNode& node) const {
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
    static std::pair<std::string, std::string> split(const std::string& qname) {
        const auto colon = qname.find(':');
        return colon == std::string::npos ? std::pair<std::string, std::string>{"", qname}
                                          : std::pair{qname.substr(0, colon), qname.substr(colon + 1)};
    }
    void qualified(const std::string& qname) const {
        const auto [prefix, local] = split(qname);
        const bool has_colon = qname.find(':') != std::string::npos;
        const bool bad = has_colon && (prefix.empty() || local.empty() || local.find(':') != std::string::npos ||
                                       !starts_name(first_of(local)));
        check(!bad, "qualified");
    }
    void namespaces(XmlNode& node, Scope& scope) const {
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

    void flush(std::string& text, std::vector<XmlNode>& out) const {
        if (!text.empty()) add(out, {XmlNode::Kind::text, "", text, "", {}, {}});
        text.clear();
    }
    void content(Part& p, std::vector<XmlNode>& out, const Scope& scope, std::size_t depth) {
        std::string text;
        content_into(p, out, text, scope, depth);
        flush(text, out);
    }
    void content_into(Part& p, std::vector<XmlNode>& out, std::string& text, const Scope& scope,
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
    void reference(Part& p, std::vector<XmlNode>& out, std::string& text, const Scope& scope, std::size_t depth) {
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

    // --- the document type ---
    void doctype(Part& p, std::vector<XmlNode>& out) {
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
    void need(Part& p) const {
        if (!skip(p)) throw XmlRefused("space");
    }
    void declarations(Part& p, bool inside) {
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
                if (std::find(open_.begin(), open_.end(), "%" + entity) != open_.end())
                    throw XmlRefused("recursion");
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
    void uncoloned(const std::string& text) const { check(text.find(':') == std::string::npos, "colon-in-name"); }
    void close(Part& p) const {
        skip(p);
        if (now(p) != '>') throw XmlRefused(">");
        ++p.at;
    }
    void external_id(Part& p, bool public_alone) const {
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
    void element_type(Part& p) {
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
    void mixed(Part& p) {
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
    void occurs(Part& p) const {
        if (now(p) == '?' || now(p) == '*' || now(p) == '+') ++p.at;
    }
    void group(Part& p) {
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
    void attribute_list(Part& p) {
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
    void entity(Part& p, bool inside) {
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

    const XmlHabits& habits_;
    Text text_;
    std::string encoding_;
    bool latin1_ = false, standalone_ = false, outside_ = false, heed_ = true;
    std::map<std::string, Declared> entities_, parameters_;
    std::map<std::string, std::vector<DefaultOf>> defaults_;
    std::vector<std::string> open_;
    std::size_t expansions_ = 0;
};

std::string hex(const std::string& bytes) {
    std::string out = "u8:";
    for (const char c : bytes) {
        out += "0123456789abcdef"[static_cast<unsigned char>(c) / 16];
        out += "0123456789abcdef"[static_cast<unsigned char>(c) % 16];
    }
    return out;
}

void print_nodes(const std::vector<XmlNode>& nodes, std::string& out) {
    for (std::size_t i = 0; i < nodes.size(); ++i) {
        const XmlNode& n = nodes[i];
        const std::string local = n.name.substr(n.name.find(':') + 1);
        switch (n.kind) {
            case XmlNode::Kind::element:
                out += "elem " + hex(n.name) + " " + hex(local) + " " + hex(n.uri) + "\n";
                for (const XmlAttribute& a : n.attributes) {
                    const std::string tail = a.name.substr(a.name.find(':') + 1);
                    if (a.name == "xmlns" || a.name.starts_with("xmlns:"))
                        out += "ns " + hex(a.name == "xmlns" ? "" : tail) + " " + hex(a.value) + "\n";
                    else
                        out += "attr " + hex(a.name) + " " + hex(tail) + " " + hex(a.uri) + " " + hex(a.value) +
                               (a.given ? " given\n" : " default\n");
                }
                print_nodes(n.children, out);
                out += "end\n";
                break;
            case XmlNode::Kind::text: {
                // Texts of entities stand beside those round them: one text.
                std::string all = n.text;
                while (i + 1 < nodes.size() && nodes[i + 1].kind == XmlNode::Kind::text) all += nodes[++i].text;
                out += "text " + hex(all) + "\n";
                break;
            }
            case XmlNode::Kind::cdata:
                out += "cdata " + hex(n.text) + "\n";
                break;
            case XmlNode::Kind::comment:
                out += "comment " + hex(n.text) + "\n";
                break;
            case XmlNode::Kind::instruction:
                out += "pi " + hex(n.name) + " " + hex(n.text) + "\n";
                break;
            case XmlNode::Kind::reference:
                out += "ref " + hex(n.name) + "\n";
                break;
            case XmlNode::Kind::doctype:
                out += "doctype " + hex(n.name) + "\n";
                break;
        }
    }
}

}  // namespace

std::vector<XmlNode> recognise_xml(std::string_view document, const XmlHabits& habits) {
    return Recogniser(document, habits).document();
}

std::string print_xml_trace(const std::vector<XmlNode>& nodes) {
    std::string out;
    print_nodes(nodes, out);
    return out;
}

}  // namespace oracle

// The second recogniser for XML as a class: characters, prolog and references here, elements in xml_elements.cpp,
// the DTD in xml_doctype.cpp. Internal to src/oracle.
#pragma once

#include <algorithm>
#include <map>
#include <optional>

#include "oracle/xml_recogniser.hpp"

namespace oracle::detail {

using Text = std::u32string;

inline void put(std::string& out, char32_t c) {
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
inline std::string bytes_of(const Text& text) {
    std::string out;
    for (const char32_t c : text) put(out, c);
    return out;
}
/// The first character of well-formed bytes; 0 if there is none.
inline char32_t first_of(const std::string& bytes) {
    if (bytes.empty()) return 0;
    const auto at = [&](std::size_t i) { return static_cast<char32_t>(static_cast<unsigned char>(bytes[i])); };
    if (at(0) < 0x80) return at(0);
    if (at(0) < 0xE0) return (at(0) & 0x1F) << 6 | (at(1) & 0x3F);
    if (at(0) < 0xF0) return (at(0) & 0x0F) << 12 | (at(1) & 0x3F) << 6 | (at(2) & 0x3F);
    return (at(0) & 0x07) << 18 | (at(1) & 0x3F) << 12 | (at(2) & 0x3F) << 6 | (at(3) & 0x3F);
}
inline bool blank(char32_t c) {
    return c == ' ' || c == '\t' || c == '\n' || c == '\r';
}
inline bool legal(char32_t c) {
    if (c < 0x20) return c == 9 || c == 10 || c == 13;
    return c < 0xD800 || (c >= 0xE000 && c != 0xFFFE && c != 0xFFFF && c <= 0x10FFFF);
}
inline bool starts_name(char32_t c) {
    if (c < 0x80) return c == ':' || c == '_' || (c >= 'A' && c <= 'Z') || (c >= 'a' && c <= 'z');
    if (c < 0xC0 || c == 0xD7 || c == 0xF7 || c == 0x37E) return false;
    if (c >= 0x300 && c < 0x370) return false;
    if (c < 0x2000) return true;
    if (c < 0x3001)
        return c == 0x200C || c == 0x200D || (c >= 0x2070 && c <= 0x218F) || (c >= 0x2C00 && c <= 0x2FEF);
    if (c < 0xF900) return c <= 0xD7FF;
    return c <= 0xFDCF || (c >= 0xFDF0 && c <= 0xFFFD) || (c >= 0x10000 && c <= 0xEFFFF);
}
inline bool in_name(char32_t c) {
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
    void element(Part& p, std::vector<XmlNode>& out, Scope scope, std::size_t depth);

    void attribute(Part& p, XmlNode& node);
    /// Up to the quote (0: to the end).
    void value(Part& p, char32_t q, std::string& out, std::vector<std::string>& open) const;
    static std::string squeezed(const std::string& text) {
        std::string out;
        for (const char c : text)
            if (c != ' ' || (!out.empty() && out.back() != ' ')) out += c;
        if (!out.empty() && out.back() == ' ') out.pop_back();
        return out;
    }
    void supply_defaults(XmlNode& node) const;
    static std::pair<std::string, std::string> split(const std::string& qname) {
        const auto colon = qname.find(':');
        return colon == std::string::npos ? std::pair<std::string, std::string>{"", qname}
                                          : std::pair{qname.substr(0, colon), qname.substr(colon + 1)};
    }
    void qualified(const std::string& qname) const;
    void namespaces(XmlNode& node, Scope& scope) const;

    void flush(std::string& text, std::vector<XmlNode>& out) const;
    void content(Part& p, std::vector<XmlNode>& out, const Scope& scope, std::size_t depth);
    void content_into(Part& p, std::vector<XmlNode>& out, std::string& text, const Scope& scope, std::size_t depth);
    void reference(Part& p, std::vector<XmlNode>& out, std::string& text, const Scope& scope, std::size_t depth);

    // --- the document type ---
    void doctype(Part& p, std::vector<XmlNode>& out);
    void need(Part& p) const;
    void declarations(Part& p, bool inside);
    void uncoloned(const std::string& text) const { check(text.find(':') == std::string::npos, "colon-in-name"); }
    void close(Part& p) const;
    void external_id(Part& p, bool public_alone) const;
    void element_type(Part& p);
    void mixed(Part& p);
    void occurs(Part& p) const;
    void group(Part& p);
    void attribute_list(Part& p);
    void entity(Part& p, bool inside);

    const XmlHabits& habits_;
    Text text_;
    std::string encoding_;
    bool latin1_ = false, standalone_ = false, outside_ = false, heed_ = true;
    std::map<std::string, Declared> entities_, parameters_;
    std::map<std::string, std::vector<DefaultOf>> defaults_;
    std::vector<std::string> open_;
    std::size_t expansions_ = 0;
};

}  // namespace oracle::detail

// The grammar of XML 1.0 for documents without a document type declaration, production by production.
//
// A cursor walks the text once; open elements stand on a stack of their own. The first error ends the walk. What is
// well-formed goes to a second stage, Namespaces, element by element as the tags close.
#include <fmt/format.h>

#include <algorithm>
#include <set>

#include <nachklang/xml.hpp>

#include "source.hpp"

namespace nachklang::xml {
namespace {

constexpr std::string_view xml_uri = "http://www.w3.org/XML/1998/namespace";
constexpr std::string_view xmlns_uri = "http://www.w3.org/2000/xmlns/";

struct Failure {
    std::size_t offset;
    std::string message, clause;
};

struct Attribute {
    std::string name, value;
    std::size_t offset;
};

struct Binding {
    std::string prefix, uri;
    std::size_t depth;
};

bool is_space(char c) {
    return c == ' ' || c == '\t' || c == '\n' || c == '\r';
}

std::string_view prefix_of(std::string_view name) {
    const auto colon = name.find(':');
    return colon == std::string_view::npos ? std::string_view{} : name.substr(0, colon);
}
std::string_view local_of(std::string_view name) {
    const auto colon = name.find(':');
    return colon == std::string_view::npos ? name : name.substr(colon + 1);
}

/// CR LF and CR become LF (2.11).
std::string with_line_ends(std::string_view raw) {
    std::string out;
    for (std::size_t i = 0; i < raw.size(); ++i) {
        if (raw[i] != '\r') {
            out.push_back(raw[i]);
        } else {
            out.push_back('\n');
            if (i + 1 < raw.size() && raw[i + 1] == '\n') ++i;
        }
    }
    return out;
}

class Walk {
  public:
    explicit Walk(std::string_view text) : text_(text) {}

    bool run() {
        if (!declaration()) return false;
        bool root_seen = false;
        while (true) {
            if (!open_.empty()) {
                if (!content()) return false;
                continue;
            }
            skip_space();
            if (at_end()) return root_seen || fail("a root element", "production 1");
            if (peek() != '<')
                return fail(
                    root_seen ? "a comment, an instruction or the end of the document" : "'<' of the root element",
                    root_seen ? "production 27" : "production 1");
            const char next = peek(1);
            if (next == '!') {
                if (!comment_only(root_seen)) return false;
            } else if (next == '?') {
                if (!instruction()) return false;
            } else {
                ++at_;
                if (root_seen) return fail("'!' or '?' after '<': there is one root element", "production 27");
                root_seen = true;
                if (!start_tag()) return false;
            }
        }
    }

    [[nodiscard]] const std::optional<Failure>& failure() const { return failure_; }
    [[nodiscard]] const std::optional<Failure>& namespace_failure() const { return namespace_failure_; }
    [[nodiscard]] const std::string& beyond() const { return beyond_; }
    [[nodiscard]] std::string take_trace() { return out_.take(); }
    [[nodiscard]] std::size_t deepest() const { return deepest_; }
    [[nodiscard]] std::size_t most_attributes() const { return most_attributes_; }
    [[nodiscard]] std::optional<std::size_t> wide_name() const { return wide_name_; }
    [[nodiscard]] const std::string& version() const { return version_; }

  private:
    // --- the cursor ---
    [[nodiscard]] bool at_end() const { return at_ >= text_.size(); }
    [[nodiscard]] char peek(std::size_t ahead = 0) const {
        return at_ + ahead < text_.size() ? text_[at_ + ahead] : '\0';
    }
    bool skip_space() {
        const std::size_t begin = at_;
        while (!at_end() && is_space(text_[at_])) ++at_;
        return at_ > begin;
    }

    bool fail_at(std::size_t offset, std::string message, std::string clause) {
        failure_ = Failure{offset, std::move(message), "XML 1.0, " + std::move(clause)};
        return false;
    }
    /// Fails where the cursor stands: `expected` did not come.
    bool fail(std::string_view expected, std::string clause) {
        std::string found = "the end of the document";
        if (!at_end()) {
            const auto step = text::decode_utf8(text_, at_);
            found = fmt::format("'{}'", text::printable(text_.substr(at_, step.length)));
            if (!is_char(step.scalar))
                return fail_at(
                    at_,
                    fmt::format("U+{:04X} may not stand in a document", static_cast<std::uint32_t>(step.scalar)),
                    "production 2");
        }
        return fail_at(at_, fmt::format("expected {}, found {}", expected, found), std::move(clause));
    }
    void namespace_error(std::size_t offset, std::string message, std::string clause) {
        if (!namespace_failure_)
            namespace_failure_ = Failure{offset, std::move(message), "Namespaces 1.0, " + std::move(clause)};
    }

    bool literal(std::string_view word, std::string_view clause) {
        for (const char c : word) {
            if (at_end() || text_[at_] != c) return fail(fmt::format("'{}'", word), std::string(clause));
            ++at_;
        }
        return true;
    }

    bool name(std::string& out, std::string_view what, std::string_view clause) {
        const std::size_t begin = at_;
        while (!at_end()) {
            const auto step = text::decode_utf8(text_, at_);
            if (!(at_ == begin ? is_name_start(step.scalar) : is_name_char(step.scalar))) break;
            if (step.scalar > 0xFF && !wide_name_) wide_name_ = at_;
            at_ += step.length;
        }
        if (at_ == begin) return fail(what, std::string(clause));
        out = text_.substr(begin, at_ - begin);
        return true;
    }

    // --- prolog ---
    bool declaration() {
        if (!text_.starts_with("<?xml") || text_.size() < 6 || !is_space(text_[5])) return true;
        at_ = 5;
        skip_space();
        if (!pseudo("version", "production 24", [&](std::size_t begin) { return version_number(begin); }))
            return false;
        bool space = skip_space();
        if (space && peek() == 'e') {
            if (!pseudo("encoding", "production 80", [&](std::size_t) { return encoding_name(); })) return false;
            space = skip_space();
        }
        if (space && peek() == 's') {
            if (!pseudo("standalone", "production 32", [&](std::size_t) { return yes_or_no(); })) return false;
            skip_space();
        }
        return literal("?>", "production 23");
    }
    template <class Value>
    bool pseudo(std::string_view key, std::string_view clause, Value value) {
        if (!literal(key, clause)) return false;
        skip_space();
        if (!literal("=", clause)) return false;
        skip_space();
        const char quote = peek();
        if (quote != '"' && quote != '\'') return fail("a quote", std::string(clause));
        ++at_;
        if (!value(at_)) return false;
        if (peek() != quote) return fail("the closing quote", std::string(clause));
        ++at_;
        return true;
    }
    bool version_number(std::size_t begin) {
        if (!literal("1.", "production 26")) return false;
        const std::size_t digits = at_;
        while (peek() >= '0' && peek() <= '9') ++at_;
        version_ = text_.substr(begin, at_ - begin);
        return at_ > digits || fail("a digit of the version number", "production 26");
    }
    bool encoding_name() {
        const auto letter = [](char c) { return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z'); };
        if (!letter(peek())) return fail("a letter of the encoding's name", "production 81");
        while (letter(peek()) || (peek() >= '0' && peek() <= '9') || peek() == '.' || peek() == '_' ||
               peek() == '-')
            ++at_;
        return true;
    }
    bool yes_or_no() { return peek() == 'y' ? literal("yes", "production 32") : literal("no", "production 32"); }

    // --- markup ---
    bool comment_only(bool root_seen) {
        at_ += 2;
        if (peek() == 'D' && !root_seen) {
            if (!literal("DOCTYPE", "production 28")) return false;
            beyond_ = "a document type declaration";
            return fail_at(at_, "", "");
        }
        return comment();
    }

    /// After "<!".
    bool comment() {
        if (!literal("--", "production 15")) return false;
        const std::size_t begin = at_;
        while (true) {
            if (peek() == '-' && peek(1) == '-' && at_ + 1 < text_.size()) break;
            if (!character("the comment's '-->'", "production 15")) return false;
        }
        const std::string_view inside = text_.substr(begin, at_ - begin);
        at_ += 2;
        if (peek() != '>') return fail("'>' after '--' in a comment", "production 15");
        ++at_;
        out_.text_line("comment", with_line_ends(inside));
        return true;
    }

    /// Takes one character that production 2 allows.
    bool character(std::string_view expected, std::string_view clause) {
        if (at_end()) return fail(expected, std::string(clause));
        const auto step = text::decode_utf8(text_, at_);
        if (!is_char(step.scalar)) return fail(expected, std::string(clause));
        at_ += step.length;
        return true;
    }

    bool instruction() {
        at_ += 2;
        std::string target;
        const std::size_t begin = at_;
        if (!name(target, "an instruction's target", "production 17")) return false;
        if (target.size() == 3 && (target[0] | 0x20) == 'x' && (target[1] | 0x20) == 'm' &&
            (target[2] | 0x20) == 'l')
            return fail_at(at_, "the target xml is reserved; a declaration stands at the very start only",
                           "production 17");
        if (target.find(':') != std::string::npos)
            namespace_error(begin, "a colon in an instruction's target", "7");
        if (peek() == '?' && peek(1) == '>') {
            at_ += 2;
            out_.line(fmt::format("pi {} {}", TraceWriter::field(target), TraceWriter::field("")));
            return true;
        }
        if (peek() == '?')
            ++at_;
        else if (skip_space())
            return instruction_data(target);
        return fail("white space or '?>' after the target", "production 16");
    }
    bool instruction_data(const std::string& target) {
        const std::size_t begin = at_;
        while (!(peek() == '?' && peek(1) == '>'))
            if (!character("the instruction's '?>'", "production 16")) return false;
        out_.line(fmt::format("pi {} {}", TraceWriter::field(target),
                              TraceWriter::field(with_line_ends(text_.substr(begin, at_ - begin)))));
        at_ += 2;
        return true;
    }

    /// After "<".
    bool start_tag() {
        const std::size_t begin = at_;
        std::string element;
        if (!name(element, "an element's name", "production 40")) return false;
        std::vector<Attribute> attributes;
        while (true) {
            const bool space = skip_space();
            if (peek() == '>' || peek() == '/') break;
            if (!space) return fail("white space, '>' or '/>'", "production 40");
            if (!attribute(attributes)) return false;
        }
        const bool empty = peek() == '/';
        if (empty) ++at_;
        if (peek() != '>') return fail("'>'", empty ? "production 44" : "production 40");
        ++at_;
        most_attributes_ = std::max(most_attributes_, attributes.size());
        open_.push_back(element);
        deepest_ = std::max(deepest_, open_.size());
        emit_element(element, begin, attributes);
        if (empty) close_element();
        return true;
    }

    bool attribute(std::vector<Attribute>& attributes) {
        Attribute out;
        out.offset = at_;
        if (!name(out.name, "an attribute's name, '>' or '/>'", "production 41")) return false;
        if (attributes.empty()) names_.clear();
        if (at_end()) return fail("the rest of the attribute", "production 41");
        if (!names_.insert(out.name).second)
            return fail_at(out.offset,
                           fmt::format("the attribute {} stands twice in one tag", text::printable(out.name)),
                           "WFC Unique Att Spec");
        skip_space();
        if (!literal("=", "production 25")) return false;
        skip_space();
        const char quote = peek();
        if (quote != '"' && quote != '\'') return fail("an attribute value in quotes", "production 10");
        ++at_;
        while (peek() != quote || at_end()) {
            if (peek() == '<') return fail("no '<' in an attribute value", "WFC No < in Attribute Values");
            if (peek() == '&') {
                if (!reference(out.value)) return false;
            } else if (is_space(peek())) {
                if (peek() == '\r' && peek(1) == '\n') ++at_;
                ++at_;
                out.value.push_back(' ');
            } else {
                const std::size_t begin = at_;
                if (!character("the closing quote", "production 10")) return false;
                out.value += text_.substr(begin, at_ - begin);
            }
        }
        ++at_;
        attributes.push_back(std::move(out));
        return true;
    }

    /// At "&": a character reference or a predefined entity; its replacement is appended.
    bool reference(std::string& out) {
        const std::size_t begin = at_++;
        if (peek() == '#') return character_reference(begin, out);
        std::string entity;
        if (!name(entity, "an entity's name or '#'", "production 68")) return false;
        if (peek() != ';') return fail("';' after the entity's name", "production 68");
        ++at_;
        static constexpr std::array<std::pair<std::string_view, char>, 5> predefined{
            {{"lt", '<'}, {"gt", '>'}, {"amp", '&'}, {"apos", '\''}, {"quot", '"'}}};
        for (const auto& [known, c] : predefined) {
            if (entity != known) continue;
            out.push_back(c);
            return true;
        }
        return fail_at(begin, fmt::format("the entity {} is not declared", text::printable(entity)),
                       "WFC Entity Declared");
    }
    bool character_reference(std::size_t begin, std::string& out) {
        ++at_;
        const bool hex = peek() == 'x';
        if (hex) ++at_;
        char32_t value = 0;
        const std::size_t digits = at_;
        while (true) {
            const char c = peek();
            const int digit = c >= '0' && c <= '9'
                                  ? c - '0'
                                  : (hex && (c | 0x20) >= 'a' && (c | 0x20) <= 'f' ? (c | 0x20) - 'a' + 10 : -1);
            if (digit < 0) break;
            value = std::min<char32_t>(value * (hex ? 16 : 10) + static_cast<char32_t>(digit), 0x110000);
            ++at_;
        }
        if (at_ == digits) return fail(hex ? "a hexadecimal digit" : "a digit", "production 66");
        if (peek() != ';') return fail("';' after the character reference", "production 66");
        ++at_;
        if (!is_char(value))
            return fail_at(begin, "a reference to a character that may not stand in a document",
                           "WFC Legal Character");
        text::append_utf8(out, value);
        return true;
    }

    // --- content ---
    bool content() {
        if (at_end())
            return fail(fmt::format("the end tag of {}", text::printable_excerpt(open_.back(), 30)),
                        "production 39");
        if (peek() != '<') return character_data();
        if (at_ + 1 >= text_.size()) {
            ++at_;
            return fail("markup after '<'", "production 43");
        }
        switch (peek(1)) {
            case '/':
                at_ += 2;
                return end_tag();
            case '?':
                return instruction();
            case '!':
                at_ += 2;
                if (peek() == '[') return cdata();
                return comment();
            default:
                ++at_;
                return start_tag();
        }
    }

    bool character_data() {
        std::string out;
        while (!at_end() && peek() != '<') {
            if (peek() == '&') {
                if (!reference(out)) return false;
                continue;
            }
            const std::size_t begin = at_;
            while (!at_end() && peek() != '<' && peek() != '&') {
                if (peek() == ']' && peek(1) == ']' && peek(2) == '>') {
                    at_ += 2;
                    return fail("no ']]>' in character data", "production 14");
                }
                if (!character("character data", "production 14")) return false;
            }
            out += with_line_ends(text_.substr(begin, at_ - begin));
        }
        out_.text_line("text", out);
        return true;
    }

    bool cdata() {
        if (!literal("[CDATA[", "production 19")) return false;
        const std::size_t begin = at_;
        while (!(peek() == ']' && peek(1) == ']' && peek(2) == '>'))
            if (!character("the section's ']]>'", "production 20")) return false;
        out_.text_line("cdata", with_line_ends(text_.substr(begin, at_ - begin)));
        at_ += 3;
        return true;
    }

    bool end_tag() {
        const std::size_t begin = at_;
        std::string element;
        if (!name(element, "the element's name", "production 42")) return false;
        if (at_end() && open_.back().starts_with(element)) return fail("the rest of the end tag", "production 42");
        if (element != open_.back())
            return fail_at(begin,
                           fmt::format("the end tag of {} where {} is open", text::printable_excerpt(element, 30),
                                       text::printable_excerpt(open_.back(), 30)),
                           "WFC Element Type Match");
        skip_space();
        if (peek() != '>') return fail("'>'", "production 42");
        ++at_;
        close_element();
        return true;
    }

    void close_element() {
        out_.line("end");
        while (!bindings_.empty() && bindings_.back().depth == open_.size()) bindings_.pop_back();
        open_.pop_back();
    }

    // --- namespaces ---
    void emit_element(const std::string& element, std::size_t offset, const std::vector<Attribute>& attributes) {
        for (const Attribute& a : attributes) declare(a);
        out_.line(fmt::format("elem {} {} {}", TraceWriter::field(element), TraceWriter::field(local_of(element)),
                              TraceWriter::field(uri_of(element, offset, true))));
        std::set<std::pair<std::string, std::string>> expanded;
        for (const Attribute& a : attributes) {
            if (a.name == "xmlns" || a.name.starts_with("xmlns:")) {
                out_.line(fmt::format("ns {} {}", TraceWriter::field(a.name == "xmlns" ? "" : local_of(a.name)),
                                      TraceWriter::field(a.value)));
                continue;
            }
            const std::string uri = uri_of(a.name, a.offset, false);
            if (!expanded.emplace(uri, local_of(a.name)).second)
                namespace_error(a.offset, "two attributes of one tag have the same expanded name",
                                "6.3, NSC Attributes Unique");
            out_.line(fmt::format("attr {} {} {} {} given", TraceWriter::field(a.name),
                                  TraceWriter::field(local_of(a.name)), TraceWriter::field(uri),
                                  TraceWriter::field(a.value)));
        }
    }

    void declare(const Attribute& a) {
        if (a.name == "xmlns") {
            if (a.value == xml_uri || a.value == xmlns_uri)
                namespace_error(a.offset, "a reserved namespace name as the default namespace",
                                "3, NSC Reserved Prefixes and Namespace Names");
            bindings_.push_back({"", a.value, open_.size()});
        } else if (a.name.starts_with("xmlns:")) {
            const std::string prefix(local_of(a.name));
            const bool xml = prefix == "xml";
            if (prefix == "xmlns" || xml != (a.value == xml_uri) || a.value == xmlns_uri)
                namespace_error(a.offset, "a reserved prefix or namespace name",
                                "3, NSC Reserved Prefixes and Namespace Names");
            else if (a.value.empty())
                namespace_error(a.offset, "a prefix may not be undeclared", "5, NSC No Prefix Undeclaring");
            bindings_.push_back({prefix, a.value, open_.size()});
        }
    }

    std::string uri_of(std::string_view qname, std::size_t offset, bool element) {
        const std::string_view prefix = prefix_of(qname), local = local_of(qname);
        const bool no_qname = qname.find(':') != std::string_view::npos &&
                              (prefix.empty() || local.empty() || local.find(':') != std::string_view::npos ||
                               !is_name_start(text::decode_utf8(local, 0).scalar));
        if (no_qname) {
            namespace_error(offset, fmt::format("{} is no qualified name", text::printable_excerpt(qname, 40)),
                            "4");
            return "";
        }
        if (prefix == "xml") return std::string(xml_uri);
        if (prefix.empty() && !element) return "";
        for (auto binding = bindings_.rbegin(); binding != bindings_.rend(); ++binding)
            if (binding->prefix == prefix) return binding->uri;
        if (!prefix.empty())
            namespace_error(offset,
                            fmt::format("the prefix {} is not declared", text::printable_excerpt(prefix, 30)),
                            "5, NSC Prefix Declared");
        return "";
    }

    std::string_view text_;
    std::size_t at_ = 0;
    std::vector<std::string> open_;
    std::vector<Binding> bindings_;
    std::set<std::string> names_;
    std::optional<Failure> failure_, namespace_failure_;
    std::string beyond_, version_;
    TraceWriter out_;
    std::size_t deepest_ = 0, most_attributes_ = 0;
    std::optional<std::size_t> wide_name_;
};

void touch(std::vector<Touch>& touches, std::string question, std::size_t offset, std::size_t amount) {
    touches.push_back({std::move(question), offset, amount, 1});
}

}  // namespace

Reading read(std::string_view document) {
    Reading out;
    const Detected detected = detect(document);
    if (!detected.beyond.empty()) {
        out.beyond = detected.beyond;
        return out;
    }
    const Source source(document, detected);
    Walk walk(source.text());
    const auto reject = [&](const Failure& f) {
        return Rejection{source.position(f.offset), f.message, f.clause, ""};
    };
    const bool walked = walk.run();
    if (!walk.beyond().empty()) {
        out.beyond = walk.beyond();
        return out;
    }
    if (source.ill_formed() && (walked || walk.failure()->offset >= *source.ill_formed())) {
        out.rejection = reject({*source.ill_formed(), "ill-formed in the document's encoding", "XML 1.0, 4.3.3"});
    } else if (!walked) {
        out.rejection = reject(*walk.failure());
    } else if (detected.contradicts) {
        out.rejection = reject({0, "the encoding declared is not the one the bytes show", "XML 1.0, 4.3.3"});
    }
    if (out.rejection) return out;
    out.trace = *Trace::parse(walk.take_trace());
    if (walk.namespace_failure()) out.namespace_rejection = reject(*walk.namespace_failure());
    touch(out.touches, "attribute-count", 0, walk.most_attributes());
    touch(out.touches, "depth", 0, walk.deepest());
    touch(out.touches, "document-size", 0, document.size());
    if (detected.encoding == Encoding::latin1 || detected.encoding == Encoding::ascii)
        touch(out.touches, "encoding", 0, 1);
    if (walk.wide_name()) touch(out.touches, "fifth-edition-names", *walk.wide_name(), 1);
    if (!walk.version().empty() && walk.version() != "1.0") touch(out.touches, "version-number", 0, 1);
    return out;
}

}  // namespace nachklang::xml

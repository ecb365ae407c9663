// A document's way through the grammar: prolog, elements, what follows the root; and namespaces beside it.
//
// The walk goes token by token over a cursor. Open elements and open entities have one stack each. It tells a
// sink
//
//     doctype(name)   element(qname, local, uri)   attribute(qname, local, uri, value, defaulted)
//     declaration(prefix, uri)   end()   text(bytes)   cdata(bytes)   comment(bytes)   instruction(target, data)
//     reference(name)
//
// A text may come in several runs. Where the document comes in pieces, a token that is not whole yet is tried
// again.
#pragma once

#include <fmt/format.h>

#include <algorithm>
#include <bit>
#include <unordered_map>
#include <unordered_set>

#ifdef __SSE2__
#include <immintrin.h>
#endif

#include "xml/read/parse_options.hpp"

namespace nachklang::xml {

enum class Step : std::uint8_t { on, done, failed, starved };

template <class Sink>
class DocumentParser {
  public:
    /// The sink and the loader must outlive it.
    DocumentParser(Sink& sink, std::string_view text, bool complete, const Loader& loader,
                   ParseOptions options = {})
        : sink_(sink), c_(text, complete, options.characters()), options_(options), subset_(c_, d_, loader) {
        d_.heeded_after_undeclared = options.process_after_undeclared;
        d_.skips_parameter_entities = options.skip_parameter_entities;
    }

    /// Parses until the end, the first error, or the end of the bytes received.
    Step run() {
        while (true) {
            const std::size_t mark = c_.at();
            const bool in_document = c_.in_document();
            const Step step = take();
            if (step == Step::on && !c_.starved()) continue;
            if (!c_.starved()) return step;
            if (in_document) back_to(mark);
            return Step::starved;
        }
    }
    [[nodiscard]] Cursor& cursor() { return c_; }
    [[nodiscard]] const std::optional<Failure>& failure() const { return c_.failure(); }
    [[nodiscard]] const std::optional<Failure>& namespace_failure() const {
        return namespace_failure_ ? namespace_failure_ : subset_.namespace_failure();
    }
    [[nodiscard]] const Declarations& declarations() const { return d_; }
    [[nodiscard]] ParseNotes notes() const {
        ParseNotes out = notes_;
        out.subset = subset_.notes();
        out.undeclared_entity = subset_.undeclared_seen();
        out.expanded = c_.expanded();
        out.longest_name = c_.longest_name();
        out.deepest_entity = c_.deepest_entity();
        return out;
    }

  private:
    enum class Phase : std::uint8_t { start, prolog, content, epilog };

    struct Attribute {
        std::string_view name;
        std::size_t at = 0;
        std::string_view plain;  // the value, if the text holds it unchanged
        std::string value;
        bool is_plain = false, defaulted = false;
        [[nodiscard]] std::string_view text() const { return is_plain ? plain : std::string_view(value); }
    };
    struct Binding {
        std::string prefix, uri;
        std::size_t depth;
    };

    void back_to(std::size_t mark) {
        while (c_.depth() > 0) c_.finish();
        c_.set(mark);
        c_.forget_failure();
        if (namespace_failure_ && namespace_failure_->offset >= mark) namespace_failure_.reset();
        if (!doctype_seen_) subset_.begin();
    }

    Step take() {
        switch (phase_) {
            case Phase::start:
                if (c_.looking_at("<?xml") && is_space(c_.peek(5)) && !declaration()) return Step::failed;
                if (!c_.starved()) phase_ = Phase::prolog;
                return Step::on;
            case Phase::prolog:
                return prolog();
            case Phase::content:
                return content() ? Step::on : Step::failed;
            case Phase::epilog:
                return epilog();
        }
        return Step::failed;
    }
    static Step on(bool taken) { return taken ? Step::on : Step::failed; }

    // --- outside the root ---
    Step prolog() {
        if (c_.skip_space()) return Step::on;
        if (c_.peek() != '<')
            return on(c_.fail(c_.at_end() ? "a root element" : "'<' of the root element", "production 1"));
        switch (c_.peek(1)) {
            case '!':
                c_.move(2);
                return on(c_.peek() == 'D' && !doctype_seen_ ? doctype() : comment());
            case '?':
                c_.move(2);
                return on(instruction());
            default:
                c_.move(1);
                return on(start_tag());
        }
    }
    Step epilog() {
        if (c_.skip_space()) return Step::on;
        if (c_.at_end()) return Step::done;
        if (c_.peek() != '<')
            return on(c_.fail("a comment, an instruction or the end of the document", "production 27"));
        c_.move(1);
        if (c_.peek() == '!') {
            c_.move(1);
            return on(comment());
        }
        if (c_.peek() != '?')
            return on(c_.fail("'!' or '?' after '<': there is one root element", "production 27"));
        c_.move(1);
        return on(instruction());
    }

    bool declaration() {
        c_.move(5);
        if (!c_.skip_space()) return c_.fail("white space", "production 24");
        std::string_view version;
        if (!pseudo_attribute(c_, "version", "production 24", [&] { return version_number(c_, version); }))
            return false;
        notes_.version = version;
        bool space = c_.skip_space();
        if (space && c_.peek() == 'e') {
            if (!pseudo_attribute(c_, "encoding", "production 80", [&] { return encoding_name(c_); })) return false;
            space = c_.skip_space();
        }
        if (space && c_.peek() == 's') {
            static constexpr std::array<std::string_view, 2> words{"no", "yes"};
            std::optional<std::size_t> word;
            if (!pseudo_attribute(c_, "standalone", "production 32", [&] {
                    word = c_.one_of(words, "yes or no", "production 32");
                    return word.has_value();
                }))
                return false;
            d_.standalone = *word == 1;
            c_.skip_space();
        }
        return c_.literal("?>", "production 23");
    }

    bool doctype() {
        if (!c_.literal("DOCTYPE", "production 28")) return false;
        const bool standalone = d_.standalone;
        d_ = {};
        d_.standalone = standalone;
        d_.heeded_after_undeclared = options_.process_after_undeclared;
        d_.skips_parameter_entities = options_.skip_parameter_entities;
        subset_.begin();
        if (!subset_.read()) return false;
        if (c_.starved()) return true;
        doctype_seen_ = true;
        sink_.doctype(subset_.root());
        return true;
    }

    // --- markup ---
    bool comment() {
        std::string_view inside;
        if (!c_.comment(inside)) return false;
        if constexpr (Sink::wants_data) sink_.comment(c_.raw() ? with_line_ends(inside) : std::string(inside));
        return true;
    }
    bool instruction() {
        std::string_view target, data;
        const std::size_t begin = c_.at();
        if (!c_.instruction(target, data)) return false;
        if (target.find(':') != std::string_view::npos)
            namespace_error(begin, "a colon in an instruction's target", "7");
        if constexpr (Sink::wants_data)
            sink_.instruction(target, c_.raw() ? with_line_ends(data) : std::string(data));
        return true;
    }

    /// After "<".
    bool start_tag() {
        const std::size_t begin = c_.at();
        std::string_view element;
        if (!c_.name(element, "an element's name", "production 40")) return false;
        count_ = 0;
        while (c_.peek() != '>' && c_.peek() != '/') {
            if (!c_.skip_space()) return c_.fail("white space, '>' or '/>'", "production 40");
            if (c_.peek() == '>' || c_.peek() == '/') break;
            if (!attribute()) return false;
        }
        const bool empty = c_.peek() == '/';
        if (empty) c_.move(1);
        if (c_.peek() != '>') return c_.fail("'>'", empty ? "production 44" : "production 40");
        c_.move(1);
        if (c_.starved()) return true;
        phase_ = Phase::content;
        if (!d_.attributes.empty() && !apply_declarations(element, begin)) return false;
        notes_.most_attributes = std::max(notes_.most_attributes, count_);
        open_.push(element);
        notes_.deepest = std::max(notes_.deepest, open_.size());
        resolve(element, begin);
        if (empty) close_element();
        return true;
    }

    Attribute& add_attribute() {
        if (count_ == attributes_.size()) attributes_.emplace_back();
        Attribute& out = attributes_[count_++];
        out.value.clear();
        out.is_plain = out.defaulted = false;
        return out;
    }

    bool attribute() {
        Attribute& out = add_attribute();
        out.at = c_.at();
        if (!c_.name(out.name, "an attribute's name, '>' or '/>'", "production 41")) return false;
        if (c_.at_end()) return c_.fail("the rest of the attribute", "production 41");
        if (stands_twice(out))
            return c_.fail_at(out.at,
                              fmt::format("the attribute {} appears twice in one tag", text::printable(out.name)),
                              "WFC Unique Att Spec");
        c_.skip_space();
        if (!c_.literal("=", "production 25")) return false;
        c_.skip_space();
        const char quote = c_.peek();
        if (quote != '"' && quote != '\'') return c_.fail("an attribute value in quotes", "production 10");
        c_.move(1);
        const std::string_view rest = c_.text().substr(c_.at());
        std::size_t plain = 0;
        while (plain < rest.size() && rest[plain] != quote && is_byte(rest[plain], plain_value_byte)) ++plain;
        if (plain < rest.size() && rest[plain] == quote) {
            out.plain = rest.substr(0, plain);
            out.is_plain = true;
            c_.move(plain + 1);
            return true;
        }
        return subset_.attribute_value(quote, out.value);
    }
    /// Few attributes are compared with each other, many go through a set.
    bool stands_twice(const Attribute& last) {
        constexpr std::size_t few = 12;
        if (count_ <= few) {
            for (std::size_t i = 0; i + 1 < count_; ++i)
                if (attributes_[i].name == last.name) return true;
            return false;
        }
        if (count_ == few + 1) {
            names_.clear();
            for (std::size_t i = 0; i + 1 < count_; ++i) names_.emplace(attributes_[i].name);
        }
        return !names_.emplace(last.name).second;
    }

    /// Types and defaults of the declared attributes (3.3.2, 3.3.3).
    bool apply_declarations(std::string_view element, std::size_t at) {
        const auto declared = d_.attributes.find(std::string(element));
        if (declared == d_.attributes.end()) return true;
        std::unordered_map<std::string_view, std::size_t> given;
        for (std::size_t i = 0; i < count_; ++i) given.emplace(attributes_[i].name, i);
        for (const AttributeDeclaration& a : declared->second.list()) {
            if (const auto found = given.find(a.name); found != given.end()) {
                if (a.tokenised) tokenise(attributes_[found->second]);
            } else if (a.defaulted) {
                if (!c_.spend(a.name.size() + a.value.size(), at)) return false;
                Attribute& out = add_attribute();
                out.name = a.name;
                out.at = at;
                out.value = a.value;
                out.defaulted = true;
            }
        }
        return true;
    }
    static void tokenise(Attribute& attribute) {
        attribute.value = without_extra_spaces(attribute.text());
        attribute.is_plain = false;
    }

    // --- content ---
    bool content() {
        if (c_.at_end()) {
            if (c_.in_document() || open_.size() != entity_depths_.back())
                return c_.fail(fmt::format("the end tag of {}", text::printable_excerpt(open_.top(), 30)),
                               "production 39");
            entity_depths_.pop_back();
            c_.finish();
            return true;
        }
        const char c = c_.peek();
        if (c == '&') return reference();
        if (c != '<') return character_data();
        c_.move(1);
        switch (c_.peek()) {
            case '/':
                c_.move(1);
                return end_tag();
            case '?':
                c_.move(1);
                return instruction();
            case '!':
                c_.move(1);
                return c_.peek() == '[' ? cdata() : comment();
            default:
                return c_.at_end() ? c_.fail("markup after '<'", "production 43") : start_tag();
        }
    }

    bool character_data() {
        const std::size_t begin = c_.at();
        const std::string_view text = c_.text();
        std::size_t at = begin;
        while (at < text.size() && text[at] != '<' && text[at] != '&') {
            at = skip_plain_text(text, at);
            if (at == text.size()) break;
            const char c = text[at];
            if (c == '<' || c == '&') break;
            c_.set(at);
            if (c == ']' && c_.peek(1) == ']' && c_.peek(2) == '>') {
                c_.move(2);
                return c_.fail("no ']]>' in character data", "production 14");
            }
            if (!c_.character("character data", "production 14")) return false;
            at = c_.at();
        }
        c_.set(at);
        if (at == text.size() && c_.in_document()) at = hold_back(begin);
        if constexpr (Sink::wants_data)
            sink_.text(c_.raw() ? with_line_ends(text.substr(begin, at - begin)) : text.substr(begin, at - begin));
        return true;
    }
    /// If more bytes follow, a CR or "]]" at the end of those received waits for them.
    std::size_t hold_back(std::size_t begin) {
        if (!c_.at_end() || !c_.starved()) return c_.at();
        const std::string_view text = c_.text();
        std::size_t at = c_.at();
        while (at > begin && (text[at - 1] == ']' || text[at - 1] == '\r')) --at;
        if (at == begin) return at;
        c_.set(at);
        c_.settle();
        return at;
    }
    /// Skips bytes that need no further check: 16 at a time with vector instructions, else by the table.
    [[nodiscard]] std::size_t skip_plain_text(std::string_view text, std::size_t at) const {
#ifdef __SSE2__
        while (options_.vector_code && at + 16 <= text.size()) {
            const __m128i v = _mm_loadu_si128(reinterpret_cast<const __m128i*>(text.data() + at));
            const auto is = [v](char c) { return _mm_cmpeq_epi8(v, _mm_set1_epi8(c)); };
            const __m128i control = _mm_cmpeq_epi8(_mm_min_epu8(v, _mm_set1_epi8(0x1F)), v);
            const __m128i markup = _mm_or_si128(_mm_or_si128(is('<'), is('&')), _mm_or_si128(is(']'), is('\xEF')));
            const auto special = static_cast<unsigned>(_mm_movemask_epi8(_mm_or_si128(markup, control)));
            if (special == 0) {
                at += 16;
                continue;
            }
            at += static_cast<std::size_t>(std::countr_zero(special));
            if (!is_byte(text[at], plain_text_byte)) return at;
            ++at;  // a tab or a line feed
        }
#endif
        while (at < text.size() && is_byte(text[at], plain_text_byte)) ++at;
        return at;
    }

    bool cdata() {
        if (!c_.literal("[CDATA[", "production 19")) return false;
        const std::size_t begin = c_.at();
        while (true) {
            const std::string_view text = c_.text();
            std::size_t at = c_.at();
            while (at < text.size() && text[at] != ']' && is_byte(text[at], plain_value_byte | plain_text_byte))
                ++at;
            c_.set(at);
            if (c_.peek() == ']' && c_.peek(1) == ']' && c_.peek(2) == '>') break;
            if (!c_.character("the section's ']]>'", "production 20")) return false;
        }
        const std::string_view inside = c_.since(begin);
        c_.move(3);
        if constexpr (Sink::wants_data) sink_.cdata(c_.raw() ? with_line_ends(inside) : std::string(inside));
        return true;
    }

    bool reference() {
        const std::size_t begin = c_.at();
        if (c_.peek(1) == '#') {
            std::string character;
            if (!c_.character_reference(character)) return false;
            if (!c_.starved()) sink_.text(character);
            return true;
        }
        std::string_view name;
        if (!subset_.reference_name(name)) return false;
        if (c_.starved()) return true;
        if (const char character = predefined(name)) {
            sink_.text(std::string_view(&character, 1));
            return true;
        }
        Entity* entity = subset_.general_entity(name, begin);
        if (entity == nullptr) {
            if (c_.failure()) return false;
            sink_.reference(name);
            return true;
        }
        if (entity->unparsed)
            return c_.fail_at(begin, "a reference to an entity that is not parsed", "WFC Parsed Entity");
        if (options_.keep_entities) {
            sink_.reference(name);
            return true;
        }
        switch (subset_.provide(*entity, begin)) {
            case SubsetReader::Text::broken:
                return false;
            case SubsetReader::Text::not_read:
                notes_.unread_entity = true;
                sink_.reference(name);
                return true;
            case SubsetReader::Text::there:
                break;
        }
        if (!c_.enter(*entity, begin)) return false;
        entity_depths_.push_back(open_.size());
        return true;
    }

    bool end_tag() {
        if (!entity_depths_.empty() && open_.size() == entity_depths_.back())
            return c_.fail("no end tag of an element that began outside", "production 43");
        const std::size_t begin = c_.at();
        const std::string_view open = open_.top(), rest = c_.text().substr(begin);
        if (rest.size() > open.size() && rest[open.size()] == '>' && rest.starts_with(open)) {
            c_.move(open.size() + 1);
            close_element();
            return true;
        }
        std::string_view element;
        if (!c_.name(element, "the element's name", "production 42")) return false;
        if (c_.at_end() && open.starts_with(element)) return c_.fail("the rest of the end tag", "production 42");
        if (element != open)
            return c_.fail_at(begin,
                              fmt::format("the end tag of {} where {} is open",
                                          text::printable_excerpt(element, 30), text::printable_excerpt(open, 30)),
                              "WFC Element Type Match");
        c_.skip_space();
        if (c_.peek() != '>') return c_.fail("'>'", "production 42");
        c_.move(1);
        if (!c_.starved()) close_element();
        return true;
    }

    void close_element() {
        sink_.end();
        while (!bindings_.empty() && bindings_.back().depth == open_.size()) bindings_.pop_back();
        open_.pop();
        if (open_.empty()) phase_ = Phase::epilog;
    }

    // --- namespaces ---
    void namespace_error(std::size_t at, std::string message, std::string clause) {
        if (!namespace_failure_)
            namespace_failure_ = c_.failure_at(at, std::move(message), "Namespaces 1.0, " + std::move(clause));
    }

    static bool declares(std::string_view name) {
        return name.starts_with("xmlns") && (name.size() == 5 || name[5] == ':');
    }

    void resolve(std::string_view element, std::size_t at) {
        bool prefixed = false;
        for (std::size_t i = 0; i < count_; ++i) {
            if (declares(attributes_[i].name)) declare(attributes_[i]);
            prefixed = prefixed || attributes_[i].name.find(':') != std::string_view::npos;
            if (attributes_[i].name == "xml:space" && attributes_[i].text() != "default" &&
                attributes_[i].text() != "preserve")
                notes_.odd_space = true;
        }
        const Resolved name = resolved(element, at, true);
        if (prefixed) same_expanded_names();
        if constexpr (Sink::wants_data) {
            sink_.element(element, name.local, name.uri);
            for (std::size_t i = 0; i < count_; ++i) emit(attributes_[i]);
        }
    }
    void emit(const Attribute& a) {
        if (declares(a.name) && a.name != "xmlns:") {
            sink_.declaration(a.name.size() == 5 ? std::string_view{} : a.name.substr(6), a.text());
            return;
        }
        const Resolved name = resolved(a.name, a.at, false);
        sink_.attribute(a.name, name.local, name.uri, a.text(), a.defaulted);
    }
    /// NSC Attributes Unique, where prefixes differ.
    void same_expanded_names() {
        std::unordered_set<std::string> seen;
        for (std::size_t i = 0; i < count_; ++i) {
            const Attribute& a = attributes_[i];
            if (declares(a.name) || a.name.find(':') == std::string_view::npos) continue;
            const Resolved name = resolved(a.name, a.at, false);
            if (name.uri.empty()) continue;
            if (!seen.insert(fmt::format("{}\n{}", name.local, name.uri)).second)
                namespace_error(a.at, "two attributes of one tag have the same expanded name",
                                "6.3, NSC Attributes Unique");
        }
    }

    /// ASCII characters that no URI reference holds (RFC 3986, 2).
    static constexpr std::string_view no_uri_characters = " \t\r\n\"<>\\^`{|}";

    void declare(const Attribute& a) {
        const char* const reserved = "3, NSC Reserved Prefixes and Namespace Names";
        const std::string_view uri = a.text();
        if (uri.find_first_of(no_uri_characters) != std::string_view::npos) notes_.odd_namespace_name = true;
        if (a.name.size() == 5) {
            if (uri == xml_uri || uri == xmlns_uri)
                namespace_error(a.at, "a reserved namespace name as the default namespace", reserved);
            bindings_.push_back({"", std::string(uri), open_.size()});
            return;
        }
        if (!is_qualified_name(a.name)) {
            namespace_error(a.at, fmt::format("{} is no qualified name", text::printable_excerpt(a.name, 40)), "4");
            return;
        }
        const std::string_view prefix = a.name.substr(6);
        if (prefix == "xmlns" || (prefix == "xml") != (uri == xml_uri) || uri == xmlns_uri)
            namespace_error(a.at, "a reserved prefix or namespace name", reserved);
        else if (uri.empty() && !options_.version_1_1)
            namespace_error(a.at, "a prefix may not be undeclared", "5, NSC No Prefix Undeclaring");
        bindings_.push_back({std::string(prefix), std::string(uri), open_.size()});
    }

    struct Resolved {
        std::string_view local, uri;
    };
    Resolved resolved(std::string_view qname, std::size_t at, bool element) {
        const auto colon = qname.find(':');
        if (colon == std::string_view::npos) return {qname, element ? uri_of("") : std::string_view{}};
        if (!is_qualified_name(qname)) {
            namespace_error(at, fmt::format("{} is no qualified name", text::printable_excerpt(qname, 40)), "4");
            return {qname.substr(colon + 1), {}};
        }
        const std::string_view prefix = qname.substr(0, colon), local = qname.substr(colon + 1);
        if (prefix == "xml") return {local, xml_uri};
        if (prefix == "xmlns") {
            namespace_error(at, "an element may not have the prefix xmlns",
                            "3, NSC Reserved Prefixes and Namespace Names");
            return {local, xmlns_uri};
        }
        const std::string_view uri = uri_of(prefix);
        if (uri.empty())
            namespace_error(at, fmt::format("the prefix {} is not declared", text::printable_excerpt(prefix, 30)),
                            "5, NSC Prefix Declared");
        return {local, uri};
    }
    [[nodiscard]] std::string_view uri_of(std::string_view prefix) const {
        for (auto binding = bindings_.rbegin(); binding != bindings_.rend(); ++binding)
            if (binding->prefix == prefix) return binding->uri;
        return {};
    }

    Sink& sink_;
    Cursor c_;
    const ParseOptions options_;
    Declarations d_;
    SubsetReader subset_;
    Phase phase_ = Phase::start;
    bool doctype_seen_ = false;
    OpenElements open_;
    std::vector<std::size_t> entity_depths_;  // how many elements were open where each entity began
    std::vector<Attribute> attributes_;       // of the tag under way; those past count_ are kept for their memory
    std::size_t count_ = 0;
    std::unordered_set<std::string_view> names_;
    std::vector<Binding> bindings_;
    std::optional<Failure> namespace_failure_;
    ParseNotes notes_;
};

}  // namespace nachklang::xml

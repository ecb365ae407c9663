// The two readings: a whole document with its trace, and a verdict on a document that comes in pieces.
#include <fmt/format.h>

#include <array>
#include <unordered_map>

#include <nachklang/xml.hpp>

#include "xml/read/read_as.hpp"
#include "xml/read/source.hpp"

namespace nachklang::xml {
namespace {

/// Writes the trace; neighbouring runs of text become one line.
class TraceSink {
  public:
    static constexpr bool wants_data = true;
    explicit TraceSink(TraceWriter& out) : out_(out) {}

    void doctype(std::string_view name) { line("doctype {}", name); }
    void element(std::string_view qname, std::string_view local, std::string_view uri) {
        line("elem {} {} {}", qname, local, uri);
    }
    void attribute(std::string_view qname, std::string_view local, std::string_view uri, std::string_view value,
                   bool defaulted) {
        flush();
        out_.line(fmt::format("attr {} {} {} {} {}", TraceWriter::field(qname), TraceWriter::field(local),
                              TraceWriter::field(uri), TraceWriter::field(value), defaulted ? "default" : "given"));
    }
    void declaration(std::string_view prefix, std::string_view uri) { line("ns {} {}", prefix, uri); }
    void end() {
        flush();
        out_.line("end");
    }
    void text(std::string_view run) { text_ += run; }
    void cdata(std::string_view inside) { line("cdata {}", inside); }
    void comment(std::string_view inside) { line("comment {}", inside); }
    void instruction(std::string_view target, std::string_view data) { line("pi {} {}", target, data); }
    void reference(std::string_view name) { line("ref {}", name); }

  private:
    template <class... Fields>
    void line(const char* pattern, const Fields&... fields) {
        flush();
        out_.line(fmt::format(fmt::runtime(pattern), TraceWriter::field(fields)...));
    }
    void flush() {
        if (text_.empty()) return;
        out_.text_line("text", text_);
        text_.clear();
    }

    TraceWriter& out_;
    std::string text_;
};

/// A text declaration (production 77) at the start of an external entity: its length, or an error.
struct TextDeclaration {
    std::size_t length = 0;
    std::string problem;
};

TextDeclaration text_declaration(std::string_view text) {
    Cursor cursor(text, true);
    if (!cursor.looking_at("<?xml") || !is_space(cursor.peek(5))) return {};
    cursor.move(5);
    cursor.skip_space();
    bool sound = true;
    std::string_view version;
    if (cursor.peek() == 'v')
        sound =
            pseudo_attribute(cursor, "version", "production 77", [&] { return version_number(cursor, version); }) &&
            cursor.skip_space();
    sound = sound && pseudo_attribute(cursor, "encoding", "production 77", [&] { return encoding_name(cursor); });
    cursor.skip_space();
    sound = sound && cursor.literal("?>", "production 77");
    if (sound) return {cursor.at(), ""};
    return {0, cursor.failure() ? cursor.failure()->message : "white space is missing in its text declaration"};
}

constexpr const char* restricted_message = "a control character that only a reference may give";

/// Fetches external entities and reads them as text; the reason for one that cannot be read goes to
/// `unreadable_because`.
Loader loader_of(const Fetch& fetch, bool version_1_1, std::string& beyond) {
    if (!fetch) return {};
    return [&fetch, version_1_1, &beyond](std::string_view system_id,
                                          std::string_view base) -> std::optional<ExternalText> {
        const auto found = fetch(system_id, base);
        if (!found) return std::nullopt;
        ExternalText out;
        out.base = found->base;
        out.clause = "4.3.3";
        const Detected detected = detect(found->bytes);
        if (!detected.unreadable_because.empty()) beyond = detected.unreadable_because + " of an external entity";
        if (!detected.unreadable_because.empty() || detected.contradicts) {
            out.problem = "its encoding is not the one declared";
            return out;
        }
        const Source source(found->bytes, detected);
        if (source.ill_formed()) {
            out.problem = fmt::format("it is ill-formed in its encoding at offset {}",
                                      source.position(*source.ill_formed()).offset);
            return out;
        }
        const TextDeclaration declaration = text_declaration(source.text());
        out.problem = declaration.problem;
        out.clause = "production 77";
        out.text = source.text().substr(declaration.length);
        if (!version_1_1) return out;
        const Text11 text(out.text);
        if (text.restricted()) out.problem = restricted_message;
        out.text = text.text();
        return out;
    };
}

/// The clause of 1.1 that has the number of one of 1.0.
std::string clause_of_1_1(std::string clause) {
    for (const std::string_view standard : {"XML 1.0, ", "Namespaces 1.0, "})
        if (clause.starts_with(standard)) clause[standard.size() - 3] = '1';
    return clause;
}

Failure encoding_contradiction(std::string_view text) {
    const auto quote = text.find_first_of("'\"", text.find("encoding"));
    return {quote == std::string_view::npos ? 0 : quote + 1, "the encoding declared is not the one the bytes show",
            "XML 1.0, 4.3.3", ""};
}

constexpr const char* over_budget = "an expansion of entities past 64 MB";
constexpr const char* ill_formed_message = "ill-formed in the document's encoding";

void occurrence(std::vector<Occurrence>& occurrences, std::string question, std::size_t offset,
                std::size_t amount) {
    occurrences.push_back({std::move(question), offset, amount, 1});
}

/// The names that an entity's text refers to, outside comments, instructions and CDATA sections.
std::vector<std::string_view> references_in(std::string_view text) {
    constexpr std::array<std::pair<std::string_view, std::string_view>, 3> plain{
        {{"<!--", "-->"}, {"<![CDATA[", "]]>"}, {"<?", "?>"}}};
    std::vector<std::string_view> out;
    for (std::size_t at = text.find_first_of("&<"); at < text.size(); at = text.find_first_of("&<", at + 1)) {
        const std::string_view rest = text.substr(at);
        for (const auto& [open, close] : plain)
            if (rest.starts_with(open)) at = std::min(text.find(close, at + open.size()), text.size());
        const std::size_t end = rest.find_first_of("; \t\r\n&<", 1);
        if (rest.front() == '&' && end < rest.size() && rest[end] == ';' && rest[1] != '#')
            out.push_back(rest.substr(1, end - 1));
    }
    return out;
}

/// Whether an entity's text refers to an undeclared entity, or leads back to itself. In a well-formed document only
/// entities that nothing refers to do so: a reference in an entity's value is bypassed (4.4.7).
bool unused_entity_refers_badly(const Declarations& declarations) {
    if (declarations.may_hide_entities()) return false;
    struct Followed {
        std::string_view name;
        std::vector<std::string_view> references;
    };
    enum class Mark : std::uint8_t { open, well };
    std::unordered_map<std::string_view, Mark> marks;
    std::vector<Followed> stack;
    const auto follow = [&](std::string_view name) {
        const auto entity = declarations.general.find(name);
        if (entity == declarations.general.end()) return false;
        marks[name] = Mark::open;
        stack.push_back({entity->first, entity->second.external ? std::vector<std::string_view>{}
                                                                : references_in(entity->second.text)});
        return true;
    };
    for (const auto& [first, entity] : declarations.general) {
        if (!marks.contains(first)) follow(first);
        while (!stack.empty()) {
            Followed& last = stack.back();
            if (last.references.empty()) {
                marks[last.name] = Mark::well;
                stack.pop_back();
                continue;
            }
            const std::string_view next = last.references.back();
            last.references.pop_back();
            const auto mark = marks.find(next);
            if (mark != marks.end() && mark->second == Mark::open) return true;
            if (mark == marks.end() && predefined(next) == 0 && !follow(next)) return true;
        }
    }
    return false;
}

std::vector<Occurrence> occurrences_of(const ParseNotes& notes, const Declarations& declarations,
                                       const Detected& detected, std::size_t size,
                                       std::optional<std::size_t> wide_name, bool version_1_1) {
    std::vector<Occurrence> out;
    occurrence(out, "attribute-count", 0, notes.most_attributes);
    occurrence(out, "depth", 0, notes.deepest);
    occurrence(out, "document-size", 0, size);
    if (detected.optional || detected.unmarked) occurrence(out, "encoding", 0, 1);
    occurrence(out, "entity-depth", 0, notes.deepest_entity);
    occurrence(out, "expansion", 0, notes.expanded);
    if (notes.unread_entity || notes.subset.unread_external) occurrence(out, "external-entities", 0, 1);
    if (wide_name) occurrence(out, "fifth-edition-names", *wide_name, 1);
    occurrence(out, "name-length", 0, notes.longest_name);
    if (notes.subset.predefined_redeclared_oddly) occurrence(out, "predefined-entities", 0, 1);
    if (notes.subset.fragment_in_system_id) occurrence(out, "system-identifier-fragment", 0, 1);
    if (notes.undeclared_entity || notes.subset.undeclared_parameter) occurrence(out, "undeclared-entity", 0, 1);
    if (notes.odd_namespace_name) occurrence(out, "namespace-name", 0, 1);
    if (unused_entity_refers_badly(declarations)) occurrence(out, "unused-entity", 0, 1);
    if (!notes.version.empty() && notes.version != "1.0" && !version_1_1) occurrence(out, "version-number", 0, 1);
    if (notes.odd_space) occurrence(out, "xml-space", 0, 1);
    return out;
}

}  // namespace

Reading read(std::string_view document, const Fetch& fetch, Instructions instructions, Versions versions) {
    ParseOptions options;
    options.version_1_1 = versions == Versions::also_1_1;
    options.vector_code = instructions == Instructions::vector;
    return read_as(document, fetch, options);
}

bool is_of_version_1_1(std::string_view document) {
    constexpr std::size_t head = 1024;
    const Detected detected = detect(document);
    return detected.unreadable_because.empty() &&
           declares_version_1_1(Source(document.substr(0, head), detected).text());
}

Reading read_as(std::string_view document, const Fetch& fetch, const ParseOptions& options) {
    Reading out;
    const Detected detected = detect(document);
    if (!detected.unreadable_because.empty()) {
        out.unreadable_because = detected.unreadable_because;
        return out;
    }
    const Source source(document, detected);
    TraceWriter writer;
    TraceSink sink(writer);
    std::optional<Text11> text_1_1;
    if (options.version_1_1 && declares_version_1_1(source.text())) text_1_1.emplace(source.text());
    ParseOptions used = options;
    used.version_1_1 = text_1_1.has_value();
    const Loader loader = loader_of(fetch, used.version_1_1, out.unreadable_because);
    const std::string_view text = text_1_1 ? std::string_view(text_1_1->text()) : source.text();
    DocumentParser<TraceSink> walk(sink, text, true, loader, used);
    const auto reject = [&](const Failure& f) {
        if (!text_1_1) return Rejection{source.position(f.offset), f.message, f.clause, f.entity_stack};
        return Rejection{source.position(text_1_1->raw_offset(f.offset)), f.message, clause_of_1_1(f.clause),
                         f.entity_stack};
    };
    const bool walked = walk.run() == Step::done;
    out.external_subset = walk.declarations().has_external_subset;
    if (walk.cursor().over_budget()) out.unreadable_because = over_budget;
    if (!out.unreadable_because.empty()) return out;
    const auto restricted = text_1_1 ? text_1_1->restricted() : std::nullopt;
    if (restricted && (walked || walk.failure()->offset >= *restricted)) {
        out.rejection = reject({*restricted, restricted_message, "XML 1.1, production 1", ""});
    } else if (source.ill_formed() && (walked || walk.failure()->offset >= text.size())) {
        out.rejection = reject({text.size(), ill_formed_message, "XML 1.0, 4.3.3", ""});
    } else if (detected.contradicts) {
        const Failure contradiction = encoding_contradiction(source.text());
        out.rejection =
            reject(walked || contradiction.offset < walk.failure()->offset ? contradiction : *walk.failure());
    } else if (!walked) {
        out.rejection = reject(*walk.failure());
    }
    if (out.rejection) return out;
    out.trace = *Trace::parse(writer.take());
    if (walk.namespace_failure()) out.namespace_rejection = reject(*walk.namespace_failure());
    out.occurrences = occurrences_of(walk.notes(), walk.declarations(), detected, document.size(),
                                     walk.cursor().wide_name(), text_1_1.has_value());
    return out;
}

/// For a UTF-8 document, a window over its bytes; complete tokens have been parsed and are dropped.
struct VerdictReader::State {
    State(bool with_namespaces, Versions known) : namespaces(with_namespaces), versions(known) {}

    static constexpr std::size_t first_look = 1024, least_window = std::size_t{64} * 1024;

    const bool namespaces;
    const Versions versions;
    const Loader no_loader;
    NoSink sink;
    std::optional<DocumentParser<NoSink>> walk;
    std::string window;            // text that is not walked yet, well-formed but for its last bytes
    std::size_t clean = 0;         // how much of it is known to be well-formed
    text::PositionCounter before;  // where the window starts
    std::optional<Rejection> rejection, namespace_rejection;
    bool whole = false;  // to be read at the end, all at once
    bool started = false;
    std::string unreadable_because;
    std::size_t next_try = least_window;

    void start() {
        started = true;
        const Detected detected = detect(window);
        whole = detected.encoding != Encoding::utf8 || detected.contradicts ||
                !detected.unreadable_because.empty() ||
                (versions == Versions::also_1_1 &&
                 declares_version_1_1(std::string_view(window).substr(detected.mark)));
        if (whole) return;
        before.skip(detected.mark);
        window.erase(0, detected.mark);
        walk.emplace(sink, std::string_view{}, false, no_loader);
    }

    [[nodiscard]] Rejection rejected(const Failure& f) const {
        text::PositionCounter counter = before;
        counter.advance(std::string_view(window).substr(0, f.offset));
        return {counter.position(), f.message, f.clause, f.entity_stack};
    }

    void go(bool complete) {
        const std::string_view rest = std::string_view(window).substr(clean);
        const auto bad = text::first_ill_formed(rest);
        const std::size_t well = bad.value_or(rest.size());
        // Up to three bytes at the end may belong to a character that goes on.
        const bool broken = bad && (complete || !text::decode_utf8(rest, *bad).cut_short);
        clean += well;
        walk->cursor().replace_text(std::string_view(window).substr(0, clean), walk->cursor().at(),
                                    complete || broken);
        const Step step = walk->run();
        if (walk->namespace_failure() && !namespace_rejection)
            namespace_rejection = rejected(*walk->namespace_failure());
        if (broken && (step != Step::failed || walk->failure()->offset >= clean))
            rejection = rejected({clean, ill_formed_message, "XML 1.0, 4.3.3", ""});
        else if (step == Step::failed)
            rejection = rejected(*walk->failure());
        const std::size_t done = walk->cursor().at();
        if (rejection || !walk->cursor().in_document()) return;
        before.advance(std::string_view(window).substr(0, done));
        window.erase(0, done);
        clean -= done;
        walk->cursor().replace_text(std::string_view(window).substr(0, clean), 0, complete);
    }
};

VerdictReader::VerdictReader(bool namespaces, Versions versions)
    : state_(std::make_unique<State>(namespaces, versions)) {}
VerdictReader::~VerdictReader() = default;

bool VerdictReader::feed(std::string_view piece) {
    State& s = *state_;
    while (!piece.empty() && !s.rejection) {
        // A token longer than the window is tried again only when there is twice as much of it.
        const std::string_view part = piece.substr(0, s.whole ? piece.size() : State::least_window);
        s.window += part;
        piece.remove_prefix(part.size());
        if (!s.started && s.window.size() >= State::first_look) s.start();
        if (!s.started || s.whole || s.window.size() < s.next_try) continue;
        s.go(false);
        s.next_try = std::max(State::least_window, s.window.size() * 2);
    }
    return !s.rejection;
}

std::optional<Rejection> VerdictReader::finish() {
    State& s = *state_;
    if (!s.started) s.start();
    if (s.whole) {
        const Reading reading = read(s.window, {}, Instructions::vector, s.versions);
        s.unreadable_because = reading.unreadable_because;
        if (reading.rejection || !s.namespaces) return reading.rejection;
        return reading.namespace_rejection;
    }
    if (!s.rejection) s.go(true);
    if (s.walk->cursor().over_budget()) {
        s.unreadable_because = over_budget;
        return std::nullopt;
    }
    if (s.rejection || !s.namespaces) return s.rejection;
    return s.namespace_rejection;
}

std::string VerdictReader::unreadable_because() const {
    return state_->unreadable_because;
}

}  // namespace nachklang::xml

// XML as a plug: what is expected of a document, what its open points are, how it is shown and cut.
#include <fmt/format.h>

#include <algorithm>

#include <nachklang/xml.hpp>

#include "xml/internal.hpp"
#include "xml/read/read_as.hpp"

namespace nachklang::xml {

std::string shown_value(const Trace& trace, std::size_t most) {
    std::string out;
    std::vector<std::string> open;
    bool in_tag = false;
    const auto leave_tag = [&] {
        if (in_tag) out += ">";
        in_tag = false;
    };
    const auto text = [&](const Field& field) { return text::printable_excerpt(field.atoms(), most); };
    // As written where that is told, else by its expanded name.
    const auto name_of = [&](const Item& item) {
        if (item.fields[0].reported()) return text(item.fields[0]);
        const bool in_namespace = item.fields[2].reported() && !item.fields[2].atoms().empty();
        return (in_namespace ? "{" + text(item.fields[2]) + "}" : "") + text(item.fields[1]);
    };
    for (const Item& item : trace.items()) {
        if (out.size() > most) return out + " …";
        if (item.kind != ItemKind::attribute && item.kind != ItemKind::declaration) leave_tag();
        switch (item.kind) {
            case ItemKind::element:
                open.push_back(name_of(item));
                out += "<" + open.back();
                in_tag = true;
                break;
            case ItemKind::element_end:
                out += "</" + open.back() + ">";
                open.pop_back();
                break;
            case ItemKind::attribute:
                out += fmt::format(" {}=\"{}\"", name_of(item), text(item.fields[3]));
                break;
            case ItemKind::declaration:
                out += fmt::format(" xmlns{}{}=\"{}\"", item.fields[0].atoms().empty() ? "" : ":",
                                   text(item.fields[0]), text(item.fields[1]));
                break;
            case ItemKind::text:
                out += text(item.fields[0]);
                break;
            case ItemKind::cdata:
                out += "<![CDATA[" + text(item.fields[0]) + "]]>";
                break;
            case ItemKind::comment:
                out += "<!--" + text(item.fields[0]) + "-->";
                break;
            case ItemKind::instruction:
                out += fmt::format("<?{} {}?>", text(item.fields[0]), text(item.fields[1]));
                break;
            case ItemKind::reference:
                out += "&" + text(item.fields[0]) + ";";
                break;
            default:
                break;
        }
    }
    return out;
}

namespace {

class XmlVerdict final : public VerdictStream {
  public:
    explicit XmlVerdict(bool namespaces) : reader_(namespaces) {}
    bool feed(std::string_view piece) override { return reader_.feed(piece); }
    std::optional<Rejection> finish() override { return reader_.finish(); }
    [[nodiscard]] std::string unreadable_because() const override { return reader_.unreadable_because(); }

  private:
    VerdictReader reader_;
};

class XmlFormat final : public Format {
  public:
    [[nodiscard]] std::string_view name() const override { return "xml"; }
    [[nodiscard]] std::string_view standard() const override { return "XML 1.0"; }
    [[nodiscard]] bool looks_like(std::string_view file_name, std::string_view document) const override {
        if (file_name.ends_with(".xml")) return true;
        // A byte order mark, and the other half of what stands in UTF-16, come before it.
        const auto first = document.find_first_not_of(std::string_view(" \t\r\n\xEF\xBB\xBF\xFF\xFE\0", 10));
        return first != std::string_view::npos && document[first] == '<';
    }
    [[nodiscard]] std::string_view layer_name(Layer layer) const override {
        constexpr std::array<std::string_view, layer_count> names{"verdict", "data", "canonical", "as given",
                                                                  "order"};
        return names[static_cast<std::size_t>(layer)];
    }

    [[nodiscard]] nachklang::Reading read(std::string_view document, const ReadOptions& options) const override {
        nachklang::Reading out;
        if (!options.trace && !options.fetch) {
            VerdictReader reader(options.namespaces);
            reader.feed(document);
            out.rejection = reader.finish();
            out.unreadable_because = reader.unreadable_because();
            return out;
        }
        Reading reading = xml::read(document, options.fetch);
        out.rejection = reading.rejection;
        if (!reading.rejection && reading.namespace_rejection && options.namespaces) {
            out.rejection = reading.namespace_rejection;
            out.weaker_verdict = "well-formed without namespaces";
        }
        out.unreadable_because = reading.unreadable_because;
        out.trace = reading.trace;
        out.occurrences = touched(std::move(reading.occurrences));
        return out;
    }

    [[nodiscard]] ReadOptions options_for(const Settings& settings) const override {
        ReadOptions out;
        out.namespaces = !tells(settings, "namespaces", "off");
        return out;
    }
    [[nodiscard]] Canonical canonical(std::string_view document, const CanonicalOptions& options,
                                      const Fetch& fetch) const override {
        return xml::canonical(document, options, fetch);
    }
    [[nodiscard]] std::unique_ptr<VerdictStream> verdict_stream(const ReadOptions& options) const override {
        return std::make_unique<XmlVerdict>(options.namespaces);
    }
    [[nodiscard]] std::span<const std::string_view> choices() const override {
        static constexpr std::array<std::string_view, 5> all{"namespaces", "allow-folder", "with-comments",
                                                             "exclusive", "subset"};
        return all;
    }
    [[nodiscard]] Expectation expect(std::string_view document, const Settings& settings,
                                     const ExternalContext& outside) const override {
        // An implementation for which everything outside is empty (so that nothing is opened) has read it.
        const bool empty = outside.reads == ExternalAccess::either && tells(settings, "external", "empty");
        Reading reading = xml::read(document, empty ? Fetch(nothing_outside) : outside.fetch);
        Expectation out;
        out.not_asked = reads_otherwise(settings, outside.reads, reading.external_subset);
        if (!out.not_asked.empty()) return out;
        out.unreadable_because = reading.unreadable_because;
        if (!out.unreadable_because.empty()) return out;
        if (tells(settings, "input", "text") && is_about_bytes(document, reading)) {
            out.not_asked = "its adapter hands over text, not bytes";
            return out;
        }
        const bool aware = !tells(settings, "namespaces", "off");
        const auto& rejection = reading.rejection
                                    ? reading.rejection
                                    : (aware ? reading.namespace_rejection : std::optional<Rejection>{});
        if (rejection) {
            out.stance = Stance::reject;
            out.clause = rejection->clause;
            out.acceptance_basis = Basis::required;
            out.acceptance_cause =
                reading.rejection ? "verdict/accepted-ill-formed" : "verdict/accepted-ill-formed-names";
            return out;
        }
        out.clause = "XML 1.0, 5.1";
        out.value = reading.trace;
        out.occurrences = touched(std::move(reading.occurrences));
        // The verdict is that of the expanded document all the same.
        WalkOptions kept;
        kept.keep_entities = tells(settings, "entities", "kept");
        if (kept.keep_entities) {
            out.written_value = out.value;
            out.value = read_as(document, outside.fetch, kept).trace;
        }
        WalkOptions heeding = kept;
        heeding.heed_after_undeclared = true;
        if (is_raised(out, "undeclared-entity"))
            if (Reading heeded = read_as(document, outside.fetch, heeding);
                !heeded.rejection && heeded.unreadable_because.empty())
                out.answers.push_back({"undeclared-entity", "declarations-heeded", heeded.trace});
        add_unreported_references(out);
        return out;
    }

    [[nodiscard]] std::string shown(const Trace& trace, std::size_t most) const override {
        return shown_value(trace, most);
    }
    [[nodiscard]] Tree tree(const Trace& trace, Layer layer,
                            const CannotRepresent& cannot_represent) const override {
        return labelled_tree(trace, layer, cannot_represent);
    }
    [[nodiscard]] LayerDigests digests(const Trace& trace, const CannotRepresent& cannot_represent) const override {
        LayerDigests out{};
        for (std::size_t layer = 1; layer < layer_count; ++layer)
            out[layer] = digest_of(labelled_tree(trace, static_cast<Layer>(layer), cannot_represent));
        return out;
    }
    [[nodiscard]] Comparison compare(const Trace& expected, const Trace& got,
                                     const CompareOptions& options) const override {
        return compare_values(expected, got, options);
    }
    [[nodiscard]] std::string_view canonical_clause() const override { return "Canonical XML 1.0, 2"; }
    /// XML 1.0 defines documents (2.1) and binds their readers (1.2, 5.1); it has no sentence for who writes them.
    [[nodiscard]] Basis writing_basis() const override { return Basis::fidelity; }
    [[nodiscard]] std::optional<Layer> layer_without(std::string_view word) const override {
        for (const std::string_view exact : {"comments", "instructions", "prefixes", "declarations"})
            if (word == exact) return Layer::exact;
        for (const std::string_view stored : {"cdata", "doctype"})
            if (word == stored) return Layer::representation;
        if (word == "namespaces" || word == "references") return Layer::value;
        if (word == "order") return Layer::order;
        return std::nullopt;
    }
    [[nodiscard]] std::vector<std::string> reformatted(std::string_view before,
                                                       std::string_view after) const override {
        const Reading a = xml::read(before), b = xml::read(after);
        std::vector<std::string> out;
        if (before == after) return out;
        for (const auto& [layer, slug] : {std::pair(Layer::exact, "markup"),
                                          {Layer::representation, "as-given"},
                                          {Layer::order, "attribute-order"}}) {
            if (digest_of(labelled_tree(a.trace, layer, {})) != digest_of(labelled_tree(b.trace, layer, {}))) {
                out.emplace_back(slug);
                return out;
            }
        }
        out.emplace_back("white-space");
        return out;
    }
    [[nodiscard]] std::string sample_document(SampleDocument kind) const override {
        if (kind == SampleDocument::small) return "<bell name='Hour'>412500</bell>";
        if (kind == SampleDocument::large) return "<bell>" + std::string(1 << 20, 'o') + "</bell>";
        std::string out;
        constexpr std::size_t levels = 1'000'000;
        for (std::size_t i = 0; i < levels; ++i) out += "<b>";
        for (std::size_t i = 0; i < levels; ++i) out += "</b>";
        return out;
    }
    [[nodiscard]] std::vector<Cut> cuts(std::string_view document) const override { return cuts_of(document); }
    [[nodiscard]] std::span<const Requirement> requirements() const override { return all_requirements(); }
    [[nodiscard]] std::vector<Exercised> exercised(std::string_view document, const Fetch& fetch) const override {
        return exercised_by(document, fetch);
    }
    [[nodiscard]] std::span<const Question> questions() const override { return all_questions(); }
    [[nodiscard]] std::span<const Cause> causes() const override { return all_causes(); }

  private:
    static bool tells(const Settings& settings, const std::string& key, std::string_view value) {
        const auto found = settings.find(key);
        return found != settings.end() && found->second == value;
    }

    /// Why an implementation is none of those that a case speaks of; empty where it is.
    static std::string reads_otherwise(const Settings& settings, ExternalAccess reads, bool external_subset) {
        const bool files = tells(settings, "external", "files"), entities = tells(settings, "external", "entities");
        if (reads == ExternalAccess::none && (files || entities))
            return "its adapter reads what is outside the document";
        if (reads == ExternalAccess::none && tells(settings, "external", "empty"))
            return "to its adapter all that is outside the document is empty";
        if (reads != ExternalAccess::external || files) return "";
        if (!entities) return "its adapter reads nothing outside the document";
        return external_subset ? "its adapter reads no external subset" : "";
    }

    /// Whether how bytes become text is at stake.
    static bool is_about_bytes(std::string_view document, const Reading& reading) {
        const bool encoding = std::any_of(reading.occurrences.begin(), reading.occurrences.end(),
                                          [](const Occurrence& t) { return t.question == "encoding"; });
        return encoding || document.starts_with("\xEF\xBB\xBF") || text::first_ill_formed(document).has_value() ||
               (reading.rejection && reading.rejection->clause == "XML 1.0, 4.3.3");
    }

    static std::optional<ExternalEntity> nothing_outside(std::string_view, std::string_view) {
        return ExternalEntity{};
    }

    static bool is_raised(const Expectation& expectation, std::string_view question) {
        return std::any_of(expectation.occurrences.begin(), expectation.occurrences.end(),
                           [&](const Occurrence& t) { return t.question == question; });
    }

    /// Entities that were not read may be passed over in silence, as far as can be seen from outside.
    static void add_unreported_references(Expectation& out) {
        const auto items = out.value->items();
        if (std::none_of(items.begin(), items.end(),
                         [](const Item& item) { return item.kind == ItemKind::reference; }))
            return;
        std::string without;
        for (std::string_view rest = out.value->text(); !rest.empty();) {
            const std::string_view line = rest.substr(0, rest.find('\n') + 1);
            rest.remove_prefix(line.size());
            if (!line.starts_with("ref ")) without += line;
        }
        for (const Occurrence& occurrence : out.occurrences)
            if (occurrence.question == "external-entities" || occurrence.question == "undeclared-entity")
                out.answers.push_back({occurrence.question, "passed-over", Trace::parse(without)});
    }

    static std::vector<Occurrence> touched(std::vector<Occurrence> occurrences) {
        std::erase_if(occurrences, [](const Occurrence& occurrence) {
            return std::any_of(all_questions().begin(), all_questions().end(), [&](const Question& q) {
                return q.id == occurrence.question && occurrence.amount < q.raised_from;
            });
        });
        return occurrences;
    }
};

}  // namespace

const Format& format() {
    static const XmlFormat instance;
    return instance;
}

}  // namespace nachklang::xml

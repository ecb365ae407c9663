// The XML plug-in: what is expected of a document, which questions it raises, how it is described and cut.
#include <fmt/format.h>

#include <algorithm>

#include <nachklang/json.hpp>
#include <nachklang/xml.hpp>

#include "xml/compare/records.hpp"
#include "xml/compare/sequences.hpp"
#include "xml/features/features.hpp"
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
    const auto text = [&](const Field& field) { return text::printable_atoms(field.atoms(), most); };
    // The qualified name if it is reported, else the expanded name.
    const auto name_of = [&](const Item& item) {
        if (item.field(0).reported()) return text(item.field(0));
        const bool in_namespace = item.field(2).reported() && !item.field(2).atoms().empty();
        return (in_namespace ? "{" + text(item.field(2)) + "}" : "") + text(item.field(1));
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
                out += fmt::format(" {}=\"{}\"", name_of(item), text(item.field(3)));
                break;
            case ItemKind::declaration:
                out += fmt::format(" xmlns{}{}=\"{}\"", item.field(0).atoms().empty() ? "" : ":",
                                   text(item.field(0)), text(item.field(1)));
                break;
            case ItemKind::text:
                out += text(item.field(0));
                break;
            case ItemKind::cdata:
                out += "<![CDATA[" + text(item.field(0)) + "]]>";
                break;
            case ItemKind::comment:
                out += "<!--" + text(item.field(0)) + "-->";
                break;
            case ItemKind::instruction:
                out += fmt::format("<?{} {}?>", text(item.field(0)), text(item.field(1)));
                break;
            case ItemKind::reference:
                out += "&" + text(item.field(0)) + ";";
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
    XmlVerdict(bool namespaces, Versions versions) : reader_(namespaces, versions) {}
    bool feed(std::string_view piece) override { return reader_.feed(piece); }
    std::optional<Rejection> finish() override { return reader_.finish(); }
    [[nodiscard]] std::string unreadable_because() const override { return reader_.unreadable_because(); }

  private:
    VerdictReader reader_;
};

constexpr std::array<RepresentationLimit, 11> representation_limits{{{"comments", Layer::exact},
                                                                     {"defaults", Layer::value, " default\n"},
                                                                     {"instructions", Layer::exact},
                                                                     {"prefixes", Layer::exact},
                                                                     {"declarations", Layer::exact},
                                                                     {"cdata", Layer::representation},
                                                                     {"doctype", Layer::representation},
                                                                     {"doctype-content", Layer::exact, "doctype "},
                                                                     {"namespaces", Layer::value},
                                                                     {"references", Layer::value},
                                                                     {"order", Layer::order}}};

const std::array<Option, 2>& reading_options() {
    static const std::array<Option, 2> all{
        {{"namespaces",
          "on or off: whether the document must also be namespace-well-formed (default: on)",
          Option::Kind::value,
          {"on", "off"},
          {}},
         {"xml-version",
          "1.0 or 1.1: by which version a document is read that declares version 1.1 (default: 1.0)",
          Option::Kind::value,
          {"1.0", "1.1"},
          {}}}};
    return all;
}

Versions versions_of(const Settings& settings) {
    return has_setting(settings, "xml-version", "1.1") ? Versions::also_1_1 : Versions::only_1_0;
}

const std::array<Option, 4>& all_canonical_options() {
    static const std::array<Option, 4> all{
        {{"with-comments", "keep comments in the canonical form", Option::Kind::flag, {}, {}},
         {"exclusive", "write the exclusive canonical form", Option::Kind::flag, {}, {}},
         {"prefix",
          "in the exclusive form, treat this prefix inclusively ('' for the default namespace)",
          Option::Kind::values,
          {},
          "exclusive"},
         {"subset",
          "write the canonical form of one element, such as /register/bell[2]",
          Option::Kind::value,
          {},
          {}}}};
    return all;
}

class XmlFormat final : public Format,
                        public CanonicalForm,
                        public TextDifferences,
                        public Reduction,
                        public Coverage,
                        public Generators,
                        public Features,
                        public Places {
  public:
    [[nodiscard]] const FormatConstants& constants() const override {
        // XML 1.0 binds readers only.
        static const FormatConstants out{.name = "xml",
                                         .writing_basis = Basis::fidelity,
                                         .questions = all_questions(),
                                         .causes = all_causes(),
                                         .representation_limits = representation_limits,
                                         .reading_options = reading_options(),
                                         .names_external_files = true};
        return out;
    }
    [[nodiscard]] const CanonicalForm* canonical_form() const override { return this; }
    [[nodiscard]] const TextDifferences* text_differences() const override { return this; }
    [[nodiscard]] const Reduction* reduction() const override { return this; }
    [[nodiscard]] const Coverage* coverage() const override { return this; }
    [[nodiscard]] const Generators* generators() const override { return this; }
    [[nodiscard]] const Features* features() const override { return this; }
    [[nodiscard]] const Places* places() const override { return this; }
    [[nodiscard]] std::vector<Place> places_of(const Trace& trace) const override {
        if (is_list(trace)) return places_of_list(trace);
        return is_record(trace) ? json::format().places()->places_of(trace) : xml::places_of(trace);
    }

    [[nodiscard]] bool detect(std::string_view file_name, std::string_view document) const override {
        if (file_name.ends_with(".xml")) return true;
        // Skips a byte order mark, white space and the zero bytes of UTF-16.
        const auto first = document.find_first_not_of(std::string_view(" \t\r\n\xEF\xBB\xBF\xFF\xFE\0", 10));
        return first != std::string_view::npos && document[first] == '<';
    }
    [[nodiscard]] nachklang::Reading read(std::string_view document, const ReadOptions& options) const override {
        nachklang::Reading out;
        const bool aware = !has_setting(options.settings, "namespaces", "off");
        const bool either = has_setting(options.settings, "xml-version", "either");
        Reading reading = xml::read(document, options.fetch, Instructions::vector, versions_of(options.settings));
        if (either && is_refused(reading, aware) && is_of_version_1_1(document))
            if (Reading by_1_1 = xml::read(document, options.fetch, Instructions::vector, Versions::also_1_1);
                !is_refused(by_1_1, aware))
                reading = std::move(by_1_1);
        out.rejection = reading.rejection;
        if (!reading.rejection && reading.namespace_rejection && aware) {
            out.rejection = reading.namespace_rejection;
            out.weaker_verdict = "well-formed without namespaces";
        }
        out.unreadable_because = reading.unreadable_because;
        out.trace = reading.trace;
        out.occurrences = raised(std::move(reading.occurrences));
        return out;
    }
    [[nodiscard]] Settings reading_settings(const Settings& settings) const override {
        Settings out;
        if (has_setting(settings, "namespaces", "off")) out["namespaces"] = "off";
        // What declares version 1.1 may be meant by either, unless the implementation says.
        out["xml-version"] = versions_of(settings) == Versions::also_1_1 ? "1.1" : "either";
        return out;
    }
    [[nodiscard]] std::unique_ptr<VerdictStream> verdict_stream(const Settings& settings) const override {
        return std::make_unique<XmlVerdict>(!has_setting(settings, "namespaces", "off"), versions_of(settings));
    }
    [[nodiscard]] std::string_view canonical_clause() const override { return "Canonical XML 1.0, 2"; }
    [[nodiscard]] std::span<const Option> canonical_options() const override { return all_canonical_options(); }
    [[nodiscard]] Canonical canonical(std::string_view document, const Choices& choices,
                                      const Fetch& fetch) const override {
        CanonicalOptions options;
        options.comments = choices.contains("with-comments");
        options.exclusive = choices.contains("exclusive");
        const auto [begin, end] = choices.equal_range("prefix");
        for (auto prefix = begin; prefix != end; ++prefix) options.prefixes.push_back(prefix->second);
        if (const auto subset = choices.find("subset"); subset != choices.end()) options.subset = subset->second;
        return xml::canonical(document, options, fetch);
    }
    [[nodiscard]] Expectation expect(std::string_view document, const Settings& settings,
                                     const ExternalContext& outside) const override {
        // An implementation that reads every external entity as empty has read them all.
        const bool empty = outside.reads == ExternalAccess::either && has_setting(settings, "external", "empty");
        const Fetch fetch = empty ? Fetch(nothing_outside) : outside.fetch;
        // A processor that does not validate need not read parameter entities (5.1); what is in them is then
        // unknown to it.
        ParseOptions as_it_reads;
        as_it_reads.skip_parameter_entities = has_setting(settings, "parameter-entities", "skipped");
        as_it_reads.version_1_1 = versions_of(settings) == Versions::also_1_1;
        Reading reading = read_as(document, fetch, as_it_reads);
        Expectation out;
        out.not_asked = reads_otherwise(settings, outside.reads, reading.external_subset);
        if (!out.not_asked.empty()) return out;
        out.unreadable_because = reading.unreadable_because;
        if (!out.unreadable_because.empty()) {
            add_default_encoding(out, document);
            return out;
        }
        if (passes_text(settings) && is_about_bytes(document, reading)) {
            out.not_asked = "its adapter passes text, not bytes";
            return out;
        }
        const bool aware = !has_setting(settings, "namespaces", "off");
        const auto& rejection = reading.rejection
                                    ? reading.rejection
                                    : (aware ? reading.namespace_rejection : std::optional<Rejection>{});
        if (as_it_reads.skip_parameter_entities && !rejection) {
            // An error that only the text of a parameter entity shows may be found or not.
            const Reading whole = xml::read(document, fetch, Instructions::vector, versions_of(settings));
            if (is_refused(whole, aware)) out.stance = Stance::open;
            // A reader of what is written reads the parameter entities that this one passed on.
            if (!whole.rejection && whole.unreadable_because.empty() && whole.trace.text() != reading.trace.text())
                out.written_value = whole.trace;
        }
        const std::optional<Reading> other = by_other_version(document, fetch, as_it_reads);
        // A processor that does not say by which version it reads 1.1 may read it by either.
        const bool is_other_allowed = other && !as_it_reads.version_1_1 && !is_refused(*other, aware);
        if (rejection) {
            if (is_other_allowed) out.allowed_otherwise = Answer{"version-number", "by-1.1", other->trace};
            out.stance = Stance::reject;
            out.clause = rejection->clause;
            out.acceptance_basis = Basis::required;
            out.acceptance_cause =
                reading.rejection ? "verdict/accepted-ill-formed" : "verdict/accepted-ill-formed-names";
            // Namespaces 1.0, 7: a processor must report the violation; it need not stop.
            out.report_suffices = !reading.rejection;
            return out;
        }
        out.clause = "XML 1.0, 5.1";
        out.value = reading.trace;
        out.occurrences = raised(std::move(reading.occurrences));
        out.depends_on_external = is_raised(out, "external-entities");
        // The verdict is that of the expanded document all the same.
        ParseOptions kept = as_it_reads;
        kept.keep_entities = has_setting(settings, "entities", "kept");
        if (kept.keep_entities) {
            if (!out.written_value) out.written_value = out.value;
            out.value = read_as(document, outside.fetch, kept).trace;
        }
        ParseOptions processing_on = kept;
        processing_on.process_after_undeclared = true;
        if (is_raised(out, "undeclared-entity"))
            if (Reading heeded = read_as(document, outside.fetch, processing_on);
                !heeded.rejection && heeded.unreadable_because.empty() && heeded.trace.text() != out.value->text())
                out.answers.push_back({"undeclared-entity", "declarations-heeded", heeded.trace});
        const bool differs = other && (other->rejection || other->trace.text() != out.value->text());
        if (differs && as_it_reads.version_1_1) {
            out.clause_of_settings = true;
            out.clause = "XML 1.1, 5.1";
        }
        if (differs && is_other_allowed) out.answers.push_back({"version-number", "by-1.1", other->trace});
        add_unreported_references(out);
        return out;
    }

    [[nodiscard]] bool is_value(const Trace& trace) const override {
        return is_list(trace) ? is_list_of_documents(trace) : is_record(trace) || is_markup(trace.items().front());
    }
    [[nodiscard]] std::string describe(const Trace& trace, std::size_t most) const override {
        if (is_list(trace)) return shown_list(trace, most);
        return is_record(trace) ? json::format().describe(trace, most) : shown_value(trace, most);
    }
    [[nodiscard]] Tree tree(const Trace& trace, Layer layer,
                            const CannotRepresent& cannot_represent) const override {
        if (is_record(trace)) return json::format().tree(trace, layer);
        return tree_of(trace, layer, cannot_represent);
    }
    [[nodiscard]] LayerDigests digests(const Trace& trace, const CannotRepresent& cannot_represent) const override {
        if (is_record(trace)) return json::format().digests(trace);
        LayerDigests out{};
        for (std::size_t layer = 1; layer < layer_count; ++layer)
            out[layer] = digest_of(tree_of(trace, static_cast<Layer>(layer), cannot_represent));
        return out;
    }
    [[nodiscard]] Comparison compare(const Trace& expected, const Trace& got,
                                     const CompareOptions& options) const override {
        if (is_list(expected)) return compare_lists(expected, got, options);
        return is_record(expected) ? compare_records(expected, got, options)
                                   : compare_values(expected, got, options);
    }
    [[nodiscard]] Trace record_in(const Trace& document, const Trace& held) const override {
        return xml::record_in(document, held);
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
    [[nodiscard]] std::span<const Shape> shapes() const override { return all_shapes(); }
    [[nodiscard]] std::string shaped(std::size_t shape, std::size_t amount) const override {
        return shaped_document(shape, amount);
    }
    [[nodiscard]] std::optional<std::string> shaped_value(std::size_t shape,
                                                          std::string_view document) const override {
        return xml::shaped_value(shape, document);
    }
    [[nodiscard]] std::string sample_document(Sample kind) const override {
        if (kind == Sample::small) return "<bell name='Hour'>412500</bell>";
        if (kind == Sample::large) return "<bell>" + std::string(1 << 20, 'o') + "</bell>";
        std::string out;
        constexpr std::size_t levels = 1'000'000;
        for (std::size_t i = 0; i < levels; ++i) out += "<b>";
        for (std::size_t i = 0; i < levels; ++i) out += "</b>";
        return out;
    }
    [[nodiscard]] std::span<const Feature> feature_list() const override { return all_features(); }
    [[nodiscard]] std::vector<FeatureValue> features_of(std::string_view document) const override {
        return xml::features_of(document);
    }
    [[nodiscard]] std::vector<FeatureValue> features_of_value(const Trace& value) const override {
        return xml::features_of_value(value);
    }
    [[nodiscard]] std::vector<Cut> cuts(std::string_view document) const override { return cuts_of(document); }
    [[nodiscard]] std::span<const Requirement> requirements() const override { return all_requirements(); }
    [[nodiscard]] std::vector<Exercised> exercised(std::string_view document, const Fetch& fetch) const override {
        return exercised_by(document, fetch);
    }

  private:
    static Tree tree_of(const Trace& trace, Layer layer, const CannotRepresent& cannot_represent) {
        return is_list(trace) ? tree_of_list(trace, layer, cannot_represent)
                              : labelled_tree(trace, layer, cannot_represent);
    }

    /// Why a case does not apply to an implementation; empty if it does.
    static std::string reads_otherwise(const Settings& settings, ExternalAccess reads, bool external_subset) {
        const bool files = has_setting(settings, "external", "files"),
                   entities = has_setting(settings, "external", "entities");
        if (reads == ExternalAccess::none && (files || entities)) return "its adapter reads external entities";
        if (reads == ExternalAccess::none && has_setting(settings, "external", "empty"))
            return "its adapter reads external entities as empty";
        if (reads != ExternalAccess::external || files) return "";
        if (!entities) return "its adapter reads no external entities";
        return external_subset ? "its adapter reads no external subset" : "";
    }

    /// What a processor holds that takes a document of an unknown encoding for UTF-8. It must refuse what it cannot
    /// process (4.3.3).
    static void add_default_encoding(Expectation& out, std::string_view document) {
        const std::string_view declaration = document.substr(0, document.find("?>"));
        const auto name = declaration.find("encoding");
        const auto open = declaration.find_first_of("'\"", name);
        if (!declaration.starts_with("<?xml") || name == std::string_view::npos || open == std::string_view::npos)
            return;
        const auto close = declaration.find(declaration[open], open + 1);
        if (close == std::string_view::npos) return;
        std::string as_utf8(document);
        as_utf8.replace(open + 1, close - open - 1, "UTF-8");
        const Reading reading = xml::read(as_utf8);
        if (reading.rejection || !reading.unreadable_because.empty()) return;
        out.in_default_encoding = reading.trace;
        out.unknown_encoding_cause = "verdict/unknown-encoding-accepted";
        out.clause = "XML 1.0, 4.3.3";
    }

    static bool is_refused(const Reading& reading, bool aware_of_namespaces) {
        return reading.rejection || (aware_of_namespaces && reading.namespace_rejection);
    }

    /// A document of version 1.1 as the version reads it that the options do not name; nothing for other documents.
    static std::optional<Reading> by_other_version(std::string_view document, const Fetch& fetch,
                                                   ParseOptions options) {
        if (!is_of_version_1_1(document)) return std::nullopt;
        options.version_1_1 = !options.version_1_1;
        return read_as(document, fetch, options);
    }

    /// Whether how bytes become text is at stake.
    static bool is_about_bytes(std::string_view document, const Reading& reading) {
        const bool encoding = std::any_of(reading.occurrences.begin(), reading.occurrences.end(),
                                          [](const Occurrence& o) { return o.question == "encoding"; });
        return encoding || document.starts_with("\xEF\xBB\xBF") || text::first_ill_formed(document).has_value() ||
               (reading.rejection && reading.rejection->clause == "XML 1.0, 4.3.3");
    }

    static std::optional<ExternalEntity> nothing_outside(std::string_view, std::string_view) {
        return ExternalEntity{};
    }

    static bool is_raised(const Expectation& expectation, std::string_view question) {
        return std::any_of(expectation.occurrences.begin(), expectation.occurrences.end(),
                           [&](const Occurrence& o) { return o.question == question; });
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

    static std::vector<Occurrence> raised(std::vector<Occurrence> occurrences) {
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

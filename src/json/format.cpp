// The JSON plug-in: what format.hpp asks for, from the pieces in internal.hpp.
#include <algorithm>
#include <array>

#include "json/compare/natives.hpp"
#include "json/features/features.hpp"
#include "json/internal.hpp"
#include "json/questions.hpp"
#include "json/read/scanner.hpp"

namespace nachklang::json {
namespace {

class JsonVerdict final : public VerdictStream {
  public:
    bool feed(std::string_view piece) override { return reader_.feed(piece); }
    std::optional<Rejection> finish() override { return reader_.finish(); }

  private:
    VerdictReader reader_;
};

constexpr std::array<RepresentationLimit, 4> representation_limits{{{"order", Layer::order},
                                                                    {"empty-kind", Layer::representation},
                                                                    {"number-kind", Layer::representation},
                                                                    {"number-as-text", Layer::representation}}};

class JsonFormat final : public Format,
                         public CanonicalForm,
                         public TextDifferences,
                         public Reduction,
                         public Coverage,
                         public Profiles,
                         public Generators,
                         public NumberProbes,
                         public Features,
                         public Places {
  public:
    [[nodiscard]] const FormatConstants& constants() const override {
        // A generator must write conforming text (RFC 8259, 10).
        static const FormatConstants out{.name = "json",
                                         .writing_basis = Basis::required,
                                         .questions = all_questions(),
                                         .causes = all_causes(),
                                         .representation_limits = representation_limits,
                                         .reading_options = {},
                                         .names_external_files = false};
        return out;
    }
    [[nodiscard]] const CanonicalForm* canonical_form() const override { return this; }
    [[nodiscard]] const TextDifferences* text_differences() const override { return this; }
    [[nodiscard]] const Reduction* reduction() const override { return this; }
    [[nodiscard]] const Coverage* coverage() const override { return this; }
    [[nodiscard]] const Profiles* profiles() const override { return this; }
    [[nodiscard]] const Generators* generators() const override { return this; }
    [[nodiscard]] const NumberProbes* number_probes() const override { return this; }

    [[nodiscard]] bool detect(std::string_view file_name, std::string_view document) const override {
        if (file_name.ends_with(".json")) return true;
        const auto first = document.find_first_not_of(" \t\r\n");
        return first != std::string_view::npos &&
               std::string_view("{[\"-0123456789tfn").find(document[first]) != std::string_view::npos;
    }
    [[nodiscard]] Reading read(std::string_view bytes, const ReadOptions&) const override {
        Reading out;
        std::string text;
        {
            // The tape of a deep document is as large as its trace: it ends before the trace is made.
            const Document document = Document::read(bytes);
            out.rejection = document.rejection();
            if (!document.accepted()) return out;
            out.occurrences = occurrences_of(document);
            text = document.trace_text();
        }
        out.trace = *Trace::parse(std::move(text));
        return out;
    }
    [[nodiscard]] std::unique_ptr<VerdictStream> verdict_stream(const Settings&) const override {
        return std::make_unique<JsonVerdict>();
    }
    [[nodiscard]] Expectation expect(std::string_view document, const Settings& settings,
                                     const ExternalContext&) const override {
        Expectation out = expectation_of(document);
        if (!passes_text(settings)) return out;
        const bool about_bytes = text::first_ill_formed(document).has_value() ||
                                 document.starts_with("\xEF\xBB\xBF") ||
                                 std::any_of(out.occurrences.begin(), out.occurrences.end(),
                                             [](const Occurrence& o) { return o.question == "encoding"; });
        if (about_bytes) out.not_asked = "its adapter passes text, not bytes";
        return out;
    }
    [[nodiscard]] bool is_value(const Trace& trace) const override {
        return std::ranges::none_of(trace.items(), [](const Item& item) { return item.kind >= ItemKind::element; });
    }
    [[nodiscard]] std::string describe(const Trace& trace, std::size_t most) const override {
        return shown_value(trace, most);
    }
    [[nodiscard]] Trace record_in(const Trace& document, const Trace& held) const override {
        return json::record_in(document, held);
    }
    [[nodiscard]] Tree tree(const Trace& trace, Layer layer, const CannotRepresent&) const override {
        return tree_at(trace, layer);
    }
    void for_each_line(const Trace& trace, const std::function<bool(const TreeLine&)>& take) const override {
        json::for_each_line(trace, take);
    }
    [[nodiscard]] LayerDigests digests(const Trace& trace, const CannotRepresent& cannot_represent) const override {
        return digests_of(trace, cannot_represent);
    }
    [[nodiscard]] Comparison compare(const Trace& expected, const Trace& got,
                                     const CompareOptions& options) const override {
        return compare_values(expected, got, options);
    }

    [[nodiscard]] std::string_view canonical_clause() const override { return "RFC 8785, 3.2"; }
    [[nodiscard]] Canonical canonical(std::string_view document, const Choices&, const Fetch&) const override {
        return json::canonical(document);
    }
    [[nodiscard]] std::string document_of_text(std::string_view text) const override {
        return json::escaped_surrogates(text);
    }
    [[nodiscard]] std::vector<std::string> reformatted(std::string_view before,
                                                       std::string_view after) const override {
        return json::reformatted(before, after);
    }
    [[nodiscard]] std::vector<Observed> encoder_choices(const Trace& value,
                                                        std::string_view written) const override {
        return json::encoder_choices(value, written);
    }
    [[nodiscard]] const Features* features() const override { return this; }
    [[nodiscard]] const Places* places() const override { return this; }
    [[nodiscard]] std::vector<Place> places_of(const Trace& trace) const override { return json::places_of(trace); }
    [[nodiscard]] std::span<const Feature> feature_list() const override { return all_features(); }
    [[nodiscard]] std::vector<FeatureValue> features_of(std::string_view document) const override {
        return json::features_of(document);
    }
    [[nodiscard]] std::vector<FeatureValue> features_of_value(const Trace& value) const override {
        return json::features_of_value(value);
    }
    [[nodiscard]] std::vector<Cut> cuts(std::string_view document) const override { return cuts_of(document); }
    [[nodiscard]] std::span<const Requirement> requirements() const override { return all_requirements(); }
    [[nodiscard]] std::vector<Exercised> exercised(std::string_view document, const Fetch&) const override {
        return exercised_by(document, expectation_of(document).occurrences);
    }
    [[nodiscard]] std::vector<Exercised> exercised_by_encoding() const override {
        return json::exercised_by_encoding();
    }
    [[nodiscard]] std::span<const Profile> list() const override { return all_profiles(); }
    [[nodiscard]] std::vector<Advice> advice(std::string_view profile, std::string_view document) const override {
        return advice_of(profile, document);
    }
    [[nodiscard]] std::string sample_document(Sample kind) const override {
        if (kind == Sample::small) return R"({"bell":"Hour","tower":"North"})";
        constexpr std::size_t levels = 1'000'000;
        if (kind == Sample::deep) return std::string(levels, '[') + std::string(levels, ']');
        return "[\"" + std::string(1 << 20, 'o') + "\"]";
    }
    [[nodiscard]] std::optional<Enclosed> enclosed(std::string_view document) const override {
        const auto first = document.find_first_not_of(" \t\r\n");
        if (first == std::string_view::npos || document[first] == '[' || document[first] == '{')
            return std::nullopt;
        if (!Document::read(document).accepted()) return std::nullopt;
        return Enclosed{"[" + std::string(document) + "]", "[\n", "]\n", "in-array", "verdict/scalar-refused"};
    }
    [[nodiscard]] std::span<const Shape> shapes() const override { return all_shapes(); }
    [[nodiscard]] std::string shaped(std::size_t shape, std::size_t amount) const override {
        return shaped_document(shape, amount);
    }
    [[nodiscard]] std::optional<std::string> shaped_value(std::size_t shape,
                                                          std::string_view document) const override {
        return json::shaped_value(shape, document);
    }
    [[nodiscard]] std::string number_row(std::span<const std::string> literals) const override {
        return row_of(literals);
    }
    [[nodiscard]] std::vector<StoredLiteral> stored_numbers(std::span<const std::string> literals,
                                                            const Trace& trace) const override {
        return stored_of_row(literals, trace);
    }
};

}  // namespace

const Format& format() {
    static const JsonFormat instance;
    return instance;
}

}  // namespace nachklang::json

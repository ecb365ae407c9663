// A format is a plug-in: after the reader, every stage sees documents, traces and trees through this interface
// only.
//
// `Format` is the core that every format has: it detects, reads, expects, describes and compares. What only some
// formats have is a facet (a canonical form, profiles, number literals …); a format without one returns null.
// tests/toy_format_test.cpp runs a third format with the core alone through all stages.
//
// Formats are immutable and may be used from several threads at once.
#pragma once

#include <algorithm>
#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include <nachklang/cuts.hpp>
#include <nachklang/text.hpp>
#include <nachklang/trace.hpp>

namespace nachklang {

// --- what a reading says ---

/// A rejection by a reference reader.
struct Rejection {
    Position position;         ///< the first byte after which no continuation is a document; see docs/positions.md
    std::string message;       ///< what was expected, and what was found instead
    std::string clause;        ///< "RFC 8259, 6", "XML 1.0, production 39"
    std::string entity_stack;  ///< the entities being read, if the position lies inside one
};

/// The strength of the clause: MUST, SHOULD, MAY, or no sentence at all but changed data.
enum class Basis : std::uint8_t { required, advised, permitted, fidelity };
std::string_view name_of(Basis basis);

/// An answer that a question lists.
struct KnownAnswer {
    std::string name;
    bool keeps_value = false;  ///< a decoder that answers so still holds the value that was written
    KnownAnswer(const char* text) : name(text) {}             // NOLINT: tables list names
    KnownAnswer(std::string text) : name(std::move(text)) {}  // NOLINT: tables list names
    static KnownAnswer keeps(std::string name) {
        KnownAnswer out(std::move(name));
        out.keeps_value = true;
        return out;
    }
};

/// Something the standard leaves open, with the known answers.
struct Question {
    std::string id;
    std::string clause;
    std::vector<KnownAnswer> answers;
    bool unlisted_is_altered = true;  ///< an unlisted answer is a finding; otherwise it only forms a group
    std::size_t raised_from = 0;      ///< the amount from which on a document raises the question
    std::size_t refusal_from = 0;     ///< the amount from which on a refusal is an answer to it
    bool limit = false;               ///< a depth or size: running out of memory or stack is an answer, too
    std::string about;                ///< one line for people

    static Question open_point(std::string id, std::string clause, std::vector<KnownAnswer> answers,
                               std::string about);
    /// A depth or size, raised from an amount on.
    static Question limit_from(std::size_t amount, std::string id, std::string clause, std::string about);
    /// The listed answer of that name, or null.
    [[nodiscard]] const KnownAnswer* find(std::string_view name) const;
};

/// A place in a document that raises a question.
struct Occurrence {
    std::string question;
    std::size_t offset = 0;  ///< of the first such place
    std::size_t amount = 0;  ///< how much: levels, digits, bytes …
    std::size_t count = 1;   ///< how many such places there are
};

/// The bytes of an external entity, and what names inside it are relative to.
struct ExternalEntity {
    std::string bytes, base;
};
/// Finds what a document names outside itself; returns nothing if it must not be read. The readers themselves open
/// no file and no connection.
using Fetch = std::function<std::optional<ExternalEntity>(std::string_view system_id, std::string_view base)>;

/// Which implementations a case applies to when the result depends on external access: those that read nothing
/// outside the document, or those that read all that it names (XML 1.0, 4.1 and 5.1).
enum class ExternalAccess : std::uint8_t { either, none, external };
struct ExternalContext {
    ExternalAccess reads = ExternalAccess::either;
    Fetch fetch{};
};

/// Choices by name, such as `namespaces` = `on`: what an adapter's hello reports, or how a document is to be read.
using Settings = std::map<std::string, std::string>;
bool has_setting(const Settings& settings, const std::string& key, std::string_view value);
/// "external=none namespaces=on"
std::string text_of(const Settings& settings);
/// `input=text`: the adapter decodes bytes before the library sees them, so cases about bytes do not apply.
bool passes_text(const Settings& settings);
/// `output=text`: the library returns text, which the adapter writes as UTF-8, a lone surrogate in three bytes.
bool returns_text(const Settings& settings);

struct ReadOptions {
    Settings settings{};  ///< of those that FormatConstants::reading_options lists; others are ignored
    Fetch fetch{};        ///< null: nothing outside the document is read
};

/// What a reference reader makes of a document.
struct Reading {
    std::optional<Rejection> rejection;
    std::string unreadable_because;  ///< not empty: the reader cannot read this document, so it gives no verdict
    std::string weaker_verdict;  ///< of a document that fails only the last of several verdicts: what it still is
    Trace trace;                 ///< of an accepted document
    std::vector<Occurrence> occurrences;  ///< of an accepted document, sorted by question
    [[nodiscard]] bool accepted() const { return !rejection.has_value() && unreadable_because.empty(); }
};

// --- what is expected, and how values differ ---

enum class Stance : std::uint8_t { accept, reject, open };
std::string_view name_of(Stance stance);
/// The stance of that name; nothing for an unknown word.
std::optional<Stance> find_stance(std::string_view name);

/// One way to answer a question: the value that a decoder then holds. No trace: it refuses.
struct Answer {
    std::string question, name;
    std::optional<Trace> trace;
};

/// Another explanation of an accepted text: the implementation took a document's beginning and left the rest.
/// Whether it does so is seen on a document about which there is no doubt.
struct CutShort {
    std::string question;       ///< that this explanation answers
    std::string cause;          ///< of the finding
    Trace value;                ///< that is then held
    std::string sure_document;  ///< accepted by an implementation that does so, and by no other
};

/// What the standard says of one document.
struct Expectation {
    Stance stance = Stance::accept;
    Basis acceptance_basis = Basis::advised;  ///< of the finding too-lenient, if accepted against the stance
    std::string acceptance_cause;             ///< and its cause
    bool acceptance_explained =
        true;  ///< false: the standard permits acceptance, but no known extension explains it
    std::optional<CutShort> cut_short;  ///< of a text that begins with a document
    /// The value by the known extensions, where they explain a text only with this value: its rest is left out, or
    /// what one token may be is read as several.
    std::optional<Trace> explained_value{};
    bool report_suffices = false;  ///< the rule asks for a report; an implementation may accept the document
    /// Accepting a text that is no document is `unexplained` where the value is none of the answers'.
    bool is_no_text = false;
    /// A text that another version of the standard allows: accepting it with this value is no failure.
    std::optional<Answer> allowed_otherwise{};
    bool clause_of_settings = false;  ///< the clause rests on the settings: a case's own does not replace it
    std::string clause;
    std::string unreadable_because;  ///< see Reading::unreadable_because: nothing is expected
    std::string
        unknown_encoding_cause;  ///< of an implementation that reads such a document as `in_default_encoding`
    std::optional<Trace> in_default_encoding;
    std::string not_asked;             ///< not empty: why an implementation with these settings cannot be judged
    bool depends_on_external = false;  ///< the value depends on what is read outside the document
    std::optional<Trace> value;        ///< a decoder that accepts must hold this
    std::optional<Trace>
        written_value;            ///< what a round trip's text must read as, if settings make that another value
    std::vector<Answer> answers;  ///< listed answers of open points
    std::vector<Occurrence> occurrences;
};

/// A difference between what was expected and what came, explained.
struct Difference {
    std::string at;        ///< path, "" for the whole document
    std::string cause;     ///< slug
    std::string detail;    ///< "0.1 became 0.09999999999999999 (1 ulp below)"
    std::string question;  ///< the question that explains it, or empty
    std::string answer;    ///< and the answer it is
};

/// An answer to a raised question, read off the value: either the values are equal, or the question explains the
/// difference.
struct Observed {
    std::string question, answer;
    friend auto operator<=>(const Observed&, const Observed&) = default;
};

struct Comparison {
    std::vector<Difference> differences;  ///< not explained by a question, at most a few
    std::vector<Observed> observed;       ///< sorted, each once
};

/// What an adapter's values cannot show, as its hello lists it after `cannot-represent`.
using CannotRepresent = std::vector<std::string>;
/// Whether its hello lists this word there.
inline bool cannot_represent_word(const CannotRepresent& cannot_represent, std::string_view word) {
    return std::find(cannot_represent.begin(), cannot_represent.end(), word) != cannot_represent.end();
}

struct CompareOptions {
    Layer layer = Layer::value;
    bool of_round_trip =
        false;  ///< `got` was read from a re-encoded document: a number equal at `value` is only rounded
    CannotRepresent cannot_represent{};
    std::size_t most = 8;
    /// Of a second round trip: whether the text was misread or miswritten does not show, so no cause is named that
    /// only one of them has.
    bool side_unknown = false;
    bool of_encoding = false;  ///< `got` was written from `expected`: all that it holds counts
    /// What the implementation's values cannot show, also if `got` is a text that it wrote from them.
    CannotRepresent stored_without{};
};

/// A slug that a format's findings may carry.
struct Cause {
    std::string slug;
    std::string meaning;
    std::string smallest;  ///< the smallest document that shows it, in printable form
    /// What a library does, as the predicate of a sentence: "{reads} a number as …". `{reads}` becomes reads or
    /// writes, `{document}` the document or the value.
    std::string does;
    /// The strength of the clause that a decoder breaks which alters a value so, and that clause.
    Basis decoding = Basis::fidelity;
    std::string clause{};
};

/// Causes that the stages themselves give; each format lists them with its own example.
namespace common_cause {
inline constexpr std::string_view refused = "verdict/refused";
inline constexpr std::string_view against_the_sheet = "verdict/accepted-against-the-sheet";
inline constexpr std::string_view accepted_differently = "verdict/accepted-differently";
inline constexpr std::string_view verdict_prefix = "verdict/";
inline constexpr std::string_view other_value = "value/kind";
inline constexpr std::string_view unset = "value/unset";
inline constexpr std::string_view ill_formed_output = "output/ill-formed";
inline constexpr std::string_view not_canonical = "output/not-canonical";
inline constexpr std::string_view unstable = "round-trip/unstable";
inline constexpr std::string_view pieces_other_verdict = "pieces/other-verdict";
inline constexpr std::string_view pieces_other_value = "pieces/other-value";
inline constexpr std::string_view sequence_rest_lost = "sequence/rest-lost";
inline constexpr std::string_view sequence_end_refused = "sequence/end-refused";
inline constexpr std::string_view sequence_other_value = "sequence/other-value";
inline constexpr std::string_view outcome_prefix = "outcome/";
inline constexpr std::string_view undeclared_answer = "question/undeclared-answer";
}  // namespace common_cause

/// Questions that the stages themselves answer, for formats that list them.
namespace common_question {
/// Whether a second round trip writes the same bytes, or the same value in another order or spelling. What has no
/// order of its own may write another one each time, so its answer is same_in_any_order for both.
inline constexpr std::string_view second_round_trip = "second-round-trip";
inline constexpr std::string_view same_bytes = "same-bytes";
inline constexpr std::string_view same_in_any_order = "same-in-any-order";
inline constexpr std::string_view other_spelling = "other-spelling";
/// Whether a field of a record that holds no value is written, as null.
inline constexpr std::string_view null_written = "record-null-written";
inline constexpr std::string_view null_kept = "kept";
inline constexpr std::string_view null_left_out = "left-out";
/// Of a question about values that no document holds: what was written is no document.
inline constexpr std::string_view ill_formed = "ill-formed";
}  // namespace common_question

// --- the core interface ---

/// A choice that a user or an adapter can make, with its values.
struct Option {
    std::string_view name, about;
    enum class Kind : std::uint8_t { flag, value, values } kind = Kind::value;
    std::vector<std::string_view> allowed{};  ///< empty: any text
    std::string_view needs{};                 ///< another option without which this one means nothing
};
/// Options chosen; one of kind `values` may appear several times.
using Choices = std::multimap<std::string, std::string, std::less<>>;

/// A word that a hello may list after `cannot-represent`, and the first layer that compares what is missing.
struct RepresentationLimit {
    std::string_view word;
    Layer first_layer;
    std::string_view mark{};  ///< in a trace that holds such a thing; empty: any trace may
};

/// What never changes about a format.
struct FormatConstants {
    std::string_view name;                  ///< "json": on the wire, in sheets and in options
    Basis writing_basis = Basis::fidelity;  ///< how strongly the standard binds writers to well-formed text
    std::span<const Question> questions;
    std::span<const Cause> causes;
    std::span<const RepresentationLimit> representation_limits;
    std::span<const Option> reading_options;  ///< for ReadOptions::settings
    bool names_external_files = false;        ///< documents may name files outside themselves
};

/// A verdict on a document that comes in pieces, in memory that does not grow with the document where the format
/// allows that.
class VerdictStream {
  public:
    virtual ~VerdictStream() = default;
    /// False once no continuation can be a document.
    virtual bool feed(std::string_view piece) = 0;
    virtual std::optional<Rejection> finish() = 0;
    /// After finish: see Reading::unreadable_because.
    [[nodiscard]] virtual std::string unreadable_because() const { return ""; }
};

class CanonicalForm;
class TextDifferences;
class Reduction;
class Coverage;
class Profiles;
class Generators;
class NumberProbes;
class Features;
class Places;

class Format {
  public:
    virtual ~Format() = default;
    [[nodiscard]] virtual const FormatConstants& constants() const = 0;
    [[nodiscard]] std::string_view name() const { return constants().name; }

    /// A guess from the file's name or the first bytes; the first format that says yes is taken.
    [[nodiscard]] virtual bool detect(std::string_view file_name, std::string_view document) const = 0;
    [[nodiscard]] virtual Reading read(std::string_view document, const ReadOptions& options = {}) const = 0;
    /// Of an adapter's settings those that say how to read what it wrote.
    [[nodiscard]] virtual Settings reading_settings(const Settings&) const { return {}; }
    [[nodiscard]] virtual std::unique_ptr<VerdictStream> verdict_stream(const Settings& settings = {}) const = 0;
    /// What is expected of a document that no sheet describes, by the reference reader alone, from an
    /// implementation with these settings.
    [[nodiscard]] virtual Expectation expect(std::string_view document, const Settings& settings = {},
                                             const ExternalContext& external = {}) const = 0;
    /// Whether a trace shows a value of this format, a record of fields or a list of values: an adapter may send
    /// any other. What follows is given such traces alone.
    [[nodiscard]] virtual bool is_value(const Trace&) const { return true; }
    /// The value in the format's own words, for display; cut when longer than `most`.
    [[nodiscard]] virtual std::string describe(const Trace& trace, std::size_t most) const = 0;
    [[nodiscard]] virtual Tree tree(const Trace& trace, Layer layer,
                                    const CannotRepresent& cannot_represent = {}) const = 0;
    /// The lines of the tree at the layer `order`, for people; a format may give them without making the tree.
    virtual void for_each_line(const Trace& trace, const std::function<bool(const TreeLine&)>& take) const {
        nachklang::for_each_line(tree(trace, Layer::order), take);
    }
    [[nodiscard]] virtual LayerDigests digests(const Trace& trace,
                                               const CannotRepresent& cannot_represent = {}) const = 0;
    /// Explains where and why `got` is not `expected`, at a layer.
    [[nodiscard]] virtual Comparison compare(const Trace& expected, const Trace& got,
                                             const CompareOptions& options = {}) const = 0;
    /// The record of fields that a written document holds, comparable with the one that it was written from.
    [[nodiscard]] virtual Trace record_in(const Trace& document, const Trace&) const { return document; }

    // Facets; null if the format has no such thing.
    [[nodiscard]] virtual const CanonicalForm* canonical_form() const { return nullptr; }
    [[nodiscard]] virtual const TextDifferences* text_differences() const { return nullptr; }
    [[nodiscard]] virtual const Reduction* reduction() const { return nullptr; }
    [[nodiscard]] virtual const Coverage* coverage() const { return nullptr; }
    [[nodiscard]] virtual const Profiles* profiles() const { return nullptr; }
    [[nodiscard]] virtual const Generators* generators() const { return nullptr; }
    [[nodiscard]] virtual const NumberProbes* number_probes() const { return nullptr; }
    [[nodiscard]] virtual const Features* features() const { return nullptr; }
    [[nodiscard]] virtual const Places* places() const { return nullptr; }
};

/// A reply's trace, which must show a value of the format; of another one the error says why.
std::optional<Trace> parse_value(const Format& format, std::string text, TraceError& error);
/// The question of that id, or null.
const Question* find_question(const Format& format, std::string_view id);
/// The cause with a slug; null if the format has none.
const Cause* find_cause(const Format& format, std::string_view slug);
/// The verdict on a whole document, without its value. Throws nothing; see VerdictStream::unreadable_because for
/// documents that the reader cannot read: they count as rejected with that reason as the message.
std::optional<Rejection> verdict_of(const Format& format, std::string_view document, const Settings& settings = {});
/// What an implementation with these settings wrote, as a document (TextDifferences::document_of_text).
std::string written_document(const Format& format, const Settings& settings, std::string_view written);

// --- facets ---

/// A document in its format's canonical form.
struct Canonical {
    std::optional<Rejection> refused;  ///< no document of the format, or one that has no canonical form
    std::string unreadable_because;    ///< not empty: the reader cannot read this document
    std::string bytes;
};
/// The one spelling of a document's value that a standard allows (RFC 8785, Canonical XML).
class CanonicalForm {
  public:
    virtual ~CanonicalForm() = default;
    /// The clause that the form rests on.
    [[nodiscard]] virtual std::string_view canonical_clause() const = 0;
    [[nodiscard]] virtual std::span<const Option> canonical_options() const { return {}; }
    [[nodiscard]] virtual Canonical canonical(std::string_view document, const Choices& choices = {},
                                              const Fetch& fetch = {}) const = 0;
};

/// How texts of one value differ.
class TextDifferences {
  public:
    virtual ~TextDifferences() = default;
    /// Slugs of what changed between two texts of the same value.
    [[nodiscard]] virtual std::vector<std::string> reformatted(std::string_view before,
                                                               std::string_view after) const = 0;
    /// The document of a text that a library returned as text (`output=text`): lone surrogates, which are text but
    /// have no UTF-8, in another spelling of the same value, if the format has one.
    [[nodiscard]] virtual std::string document_of_text(std::string_view text) const { return std::string(text); }
    /// Which of several spellings an encoder chose for a value, as answers to the format's questions.
    [[nodiscard]] virtual std::vector<Observed> encoder_choices(const Trace&, std::string_view) const { return {}; }
};

/// One place of a value and what is there.
struct Place {
    std::string path;         ///< a JSON pointer (RFC 6901), or names and positions of elements
    std::string shown;        ///< what is there, exactly and printable
    std::string value = {};   ///< equal for all spellings of one value; empty: as `shown`
    std::string stored = {};  ///< how it is stored, where answers of one value may differ: "int", "binary64"
    bool order = false;       ///< the order of what is below the path; says nothing if some of that is absent
    std::string needs = {};   ///< the word of `cannot-represent` under which an implementation need not show it
};
/// A value place by place, to show where answers differ.
class Places {
  public:
    virtual ~Places() = default;
    /// In the value's order. A path occurs once: a second one of the same names ends in "#2".
    [[nodiscard]] virtual std::vector<Place> places_of(const Trace& trace) const = 0;
};

/// How documents become smaller.
class Reduction {
  public:
    virtual ~Reduction() = default;
    /// Pieces to try to leave out, the largest first; each leaves the rest as it is. They point into `document`.
    [[nodiscard]] virtual std::vector<Cut> cuts(std::string_view document) const = 0;
};

/// A production of the grammar, or a sentence with a requirement word, and the sides it has: what must be accepted,
/// what must be refused, what is left open.
struct Requirement {
    std::string id, clause, wording;
    bool accepts = false, rejects = false, opens = false;
};
/// A requirement that a case rests on, and on which side.
struct Exercised {
    std::size_t requirement = 0;  ///< index into the format's
    Stance side = Stance::accept;
};
/// Which sentences of the standard a corpus covers.
class Coverage {
  public:
    virtual ~Coverage() = default;
    [[nodiscard]] virtual std::span<const Requirement> requirements() const = 0;
    /// What a document exercises, with the files that it names if `fetch` reads them.
    [[nodiscard]] virtual std::vector<Exercised> exercised(std::string_view document,
                                                           const Fetch& fetch = {}) const = 0;
    /// What a value to be encoded exercises.
    [[nodiscard]] virtual std::vector<Exercised> exercised_by_encoding() const { return {}; }
};

/// A narrower standard that a writer may keep to.
struct Profile {
    std::string_view name, standard, about;
};
/// What a profile says against a document: meant for its writer, never a reason for a reader to fail.
struct Advice {
    Position position;
    std::string message, clause;
    Basis basis = Basis::advised;
};
class Profiles {
  public:
    virtual ~Profiles() = default;
    [[nodiscard]] virtual std::span<const Profile> list() const = 0;
    /// What a profile, by its name, says of a document; empty for text that is no document.
    [[nodiscard]] virtual std::vector<Advice> advice(std::string_view profile, std::string_view document) const = 0;
};

/// A document put inside a container, for implementations that refuse it only because of its place.
struct Enclosed {
    std::string document;
    std::string trace_before, trace_after;  ///< around the trace of its value
    std::string suffix;                     ///< of the case's name: "in-array"
    std::string refusal_cause;              ///< of the bare document, if the enclosed one is accepted
};

/// A kind of document that exists in every amount: levels, elements, bytes.
struct Shape {
    std::string_view name, unit;
    std::string_view question;  ///< the limit it probes
};
/// Documents made to order.
class Generators {
  public:
    virtual ~Generators() = default;
    /// small: a few bytes; large: a megabyte and more; deep: a million levels.
    enum class Sample : std::uint8_t { small, large, deep };
    /// A document to test an adapter's protocol with.
    [[nodiscard]] virtual std::string sample_document(Sample kind) const = 0;
    /// Nothing if the document is accepted or refused the same way in every place.
    [[nodiscard]] virtual std::optional<Enclosed> enclosed(std::string_view) const { return std::nullopt; }
    [[nodiscard]] virtual std::span<const Shape> shapes() const { return {}; }
    /// The document of a shape and an amount of at least 1.
    [[nodiscard]] virtual std::string shaped(std::size_t, std::size_t) const { return {}; }
    /// The value of a shaped document in trace notation, to be encoded; nothing if the shape is one of spelling
    /// alone.
    [[nodiscard]] virtual std::optional<std::string> shaped_value(std::size_t, std::string_view) const {
        return std::nullopt;
    }
};

/// What an implementation stores for a number literal.
struct StoredLiteral {
    std::string answer;  ///< "exact", "correctly rounded", "off by ulps", "saturated", "turned into text" …
    std::string stored;  ///< for people
    double ulps = 0;     ///< of a finite binary value: its signed distance from the literal's, in its unit
    bool wrong = false;  ///< neither the number nor the nearest one that its kind can hold
};
/// Documents that hold number literals.
class NumberProbes {
  public:
    virtual ~NumberProbes() = default;
    /// A document that holds these literals one after another.
    [[nodiscard]] virtual std::string number_row(std::span<const std::string> literals) const = 0;
    /// What a decoder of such a document stores for each; empty if its value is no such row.
    [[nodiscard]] virtual std::vector<StoredLiteral> stored_numbers(std::span<const std::string> literals,
                                                                    const Trace& trace) const = 0;
};

/// A property of documents that a library's mistake may depend on.
struct Feature {
    std::string_view id;
    /// A clause about a document that has it: "a string holds U+0000". With "{}" it takes an amount: "the document
    /// nests {} levels".
    std::string_view clause;
    /// Whether it names the rule of the grammar that a text breaks.
    bool broken_rule = false;
    [[nodiscard]] bool has_amount() const { return clause.find("{}") != std::string_view::npos; }
};
/// A feature that a document has, by its index in Features::list; of one without an amount that is 1.
struct FeatureValue {
    std::uint16_t feature = 0;
    std::uint64_t amount = 1;
};
/// What documents have in common on which a library makes the same mistake.
class Features {
  public:
    virtual ~Features() = default;
    [[nodiscard]] virtual std::span<const Feature> feature_list() const = 0;
    /// Of any text, a document or not: sorted, each feature once, with its largest amount.
    [[nodiscard]] virtual std::vector<FeatureValue> features_of(std::string_view document) const = 0;
    /// Of a value to be encoded.
    [[nodiscard]] virtual std::vector<FeatureValue> features_of_value(const Trace& value) const = 0;
};

// --- the table of formats ---

/// All formats, in the order in which detection asks them.
std::span<const Format* const> formats();
/// The format of that name, or null.
const Format* find_format(std::string_view name);
/// The format a file is taken for: by its name, else by its first bytes; else the first of the list.
const Format& guess_format(std::string_view file_name, std::string_view document,
                           std::span<const Format* const> known = formats());

}  // namespace nachklang

// A format is a plug: after its reader, every stage sees documents, traces and trees through this interface only.
//
// Formats are immutable and may be used from several threads at once.
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include <nachklang/cuts.hpp>
#include <nachklang/text.hpp>
#include <nachklang/trace.hpp>

namespace nachklang {

/// A rejection by a reference reader.
struct Rejection {
    Position position;         ///< the first byte after which no continuation is a document; see docs/positions.md
    std::string message;       ///< what was expected, and what stands there
    std::string clause;        ///< "RFC 8259, 6", "XML 1.0, production 39"
    std::string entity_stack;  ///< the stack of entities, where the place lies inside one
};

/// How strongly the standard speaks.
enum class Basis : std::uint8_t { required, advised, permitted, fidelity };
std::string_view name_of(Basis basis);

/// Something the standard leaves open, with the answers known.
struct Question {
    std::string id;
    std::string clause;
    std::vector<std::string> answers;
    bool unlisted_is_altered = true;  ///< an answer nobody foresaw is a finding; otherwise only a group of its own
    std::size_t raised_from = 0;      ///< the amount from which on a document raises the question
    std::size_t refusal_from = 0;     ///< the amount from which on a refusal is an answer to it
    bool limit = false;               ///< a depth or size: running out of memory or stack is an answer, too
    std::string about;                ///< one line for people

    static Question open_point(std::string id, std::string clause, std::vector<std::string> answers,
                               std::string about);
    /// A depth or size, raised from an amount on.
    static Question limit_from(std::size_t amount, std::string id, std::string clause, std::string about);
};

/// An open point that a document contains.
struct Occurrence {
    std::string question;
    std::size_t offset = 0;  ///< of the first such point
    std::size_t amount = 0;  ///< how much: levels, digits, bytes …
    std::size_t count = 1;   ///< how many such points there are
};

/// The bytes of something outside the document, and what names inside it are relative to.
struct ExternalEntity {
    std::string bytes, base;
};
/// Finds what a document names outside itself; nothing where it is not to be read. The readers themselves open no
/// file and no connection.
using Fetch = std::function<std::optional<ExternalEntity>(std::string_view system_id, std::string_view base)>;

/// Whom a case speaks of, where what is right depends on it: who reads nothing outside the document, or who reads
/// all that it names (XML 1.0, 4.1 and 5.1).
enum class ExternalAccess : std::uint8_t { either, none, external };
struct ExternalContext {
    ExternalAccess reads = ExternalAccess::either;
    Fetch fetch{};
};

struct ReadOptions {
    bool trace = true;       ///< otherwise the verdict (and what it raises as far as that needs no tree)
    bool namespaces = true;  ///< otherwise that verdict is not asked for
    Fetch fetch{};
};

/// What an adapter's hello tells of its own choices: `namespaces` = `on`.
using Settings = std::map<std::string, std::string>;

/// What a reference reader makes of a document.
struct Reading {
    std::optional<Rejection> rejection;
    std::string
        unreadable_because;  ///< not empty: what the reader does not read, so that it says nothing of this document
    std::string
        weaker_verdict;  ///< of a document rejected by the last of several verdicts: what it is all the same
    Trace trace;         ///< where accepted and asked for
    std::vector<Occurrence> occurrences;  ///< sorted by question
    [[nodiscard]] bool accepted() const { return !rejection.has_value() && unreadable_because.empty(); }
};

enum class Stance : std::uint8_t { accept, reject, open };
std::string_view name_of(Stance stance);

/// One way to answer a question: what a decoder that answers so holds. Nothing where it refuses.
struct Answer {
    std::string question, name;
    std::optional<Trace> trace;
};

/// What the standard says of one document.
struct Expectation {
    Stance stance = Stance::accept;
    Basis acceptance_basis = Basis::advised;  ///< of the finding too-lenient, where accepted against the stance
    std::string acceptance_cause;             ///< and its cause
    std::string clause;
    std::string unreadable_because;  ///< see Reading::beyond: nothing is expected
    std::string not_asked;           ///< not empty: why an implementation with these settings cannot be judged
    std::optional<Trace> value;      ///< where a decoder that accepts must hold this
    std::optional<Trace>
        written_value;            ///< what a round trip's text must read as, where settings make that another
    std::vector<Answer> answers;  ///< listed answers of open points
    std::vector<Occurrence> occurrences;
};

/// A difference between what was expected and what came, explained.
struct Difference {
    std::string at;        ///< path, "" for the whole
    std::string cause;     ///< slug
    std::string detail;    ///< "0.1 became 0.09999999999999999 (1 ulp below)"
    std::string question;  ///< the question that explains it, or empty
    std::string answer;    ///< and the answer it is
};

/// An answer to a raised question that was read off the values where nothing differs or where a question explains
/// it.
struct Observed {
    std::string question, answer;
    friend auto operator<=>(const Observed&, const Observed&) = default;
};

struct Comparison {
    std::vector<Difference> differences;  ///< not explained by a question, at most a few
    std::vector<Observed> observed;       ///< sorted, each once
};

/// What an adapter's values cannot show, as its hello lists it.
using CannotRepresent = std::vector<std::string>;

struct CompareOptions {
    Layer layer = Layer::value;
    bool of_round_trip =
        false;  ///< the other side is a re-encoded document: a number equal at `value` is only rounded
    CannotRepresent cannot_represent{};
    std::size_t most = 8;
    bool of_encoding = false;  ///< the other side was written from the expected value: all that it holds counts
};

/// Which canonical form, where a format has several.
struct CanonicalOptions {
    bool comments = false;
    bool exclusive = false;               ///< Exclusive XML Canonicalization 1.0; else Canonical XML 1.0
    std::vector<std::string> prefixes{};  ///< exclusive: those treated inclusively, "" for the default namespace
    std::string subset{};  ///< the element alone that a path names ("/register/bell[2]"); empty: the whole document
};

/// A document in its format's canonical form.
struct Canonical {
    std::optional<Rejection> refused;  ///< no document of the format, or one that has no canonical form
    std::string unreadable_because;    ///< not empty: what is not read yet
    std::string bytes;
};

/// A production of the grammar, or a sentence of the standard with a requirement word, and the sides it has: what
/// must be accepted, what must be refused, what is left open.
struct Requirement {
    std::string id, clause, wording;
    bool accepts = false, rejects = false, opens = false;
};
/// A requirement that a case rests on, and on which side.
struct Exercised {
    std::size_t requirement = 0;  ///< index into the format's
    Stance side = Stance::accept;
};

/// A narrower standard that a writer may keep to.
struct Profile {
    std::string_view name, standard, about;
};
/// What a profile says against a document: to its writer, never a reason for a reader to fail.
struct Advice {
    Position position;
    std::string message, clause;
    Basis basis = Basis::advised;
};

/// A kind of document that exists in every amount: levels, elements, bytes.
struct Shape {
    std::string_view name, unit;
    std::string_view question;  ///< the limit it probes
};

/// What an implementation holds of a number literal.
struct StoredLiteral {
    std::string answer;  ///< "exact", "correctly rounded", "off by ulps", "saturated", "turned into text" …
    std::string stored;  ///< for people
    double ulps = 0;     ///< of a finite binary value: its signed distance from the literal's, in its unit
    bool wrong = false;  ///< not the number, nor the nearest to it that its kind can hold
};

/// A slug that a format's findings may carry.
struct Cause {
    std::string slug;
    std::string meaning;
    std::string smallest;  ///< the smallest document that shows it, in printable form
};

/// A verdict on a document that comes in pieces.
class VerdictStream {
  public:
    virtual ~VerdictStream() = default;
    /// False once the document cannot be one any more.
    virtual bool feed(std::string_view piece) = 0;
    virtual std::optional<Rejection> finish() = 0;
    /// After finish: see Reading::beyond.
    [[nodiscard]] virtual std::string unreadable_because() const { return ""; }
};

class Format {
  public:
    virtual ~Format() = default;
    [[nodiscard]] virtual std::string_view name() const = 0;
    /// What the standard calls a document of this format, and the standard itself.
    [[nodiscard]] virtual std::string_view standard() const = 0;
    /// A guess by the first bytes or the file's name; the first format that says so is taken.
    [[nodiscard]] virtual bool looks_like(std::string_view file_name, std::string_view document) const = 0;
    [[nodiscard]] virtual std::string_view layer_name(Layer layer) const { return name_of(layer); }

    [[nodiscard]] virtual Reading read(std::string_view document, const ReadOptions& options = {}) const = 0;
    /// How to read what an implementation with these settings wrote.
    [[nodiscard]] virtual ReadOptions options_for(const Settings&) const { return {}; }
    [[nodiscard]] virtual std::unique_ptr<VerdictStream> verdict_stream(const ReadOptions& options = {}) const = 0;
    /// Which of a reading's choices the format has: "namespaces", "allow-folder", "with-comments", "exclusive",
    /// "subset".
    [[nodiscard]] virtual std::span<const std::string_view> choices() const { return {}; }
    /// The one spelling of the document's value that the format's canonical form allows (RFC 8785, Canonical XML).
    [[nodiscard]] virtual Canonical canonical(std::string_view document, const CanonicalOptions& options = {},
                                              const Fetch& fetch = {}) const = 0;
    /// What that form rests on.
    [[nodiscard]] virtual std::string_view canonical_clause() const = 0;
    /// What is expected of a document that comes without a sheet, by the reference reader alone, of an
    /// implementation with these settings.
    [[nodiscard]] virtual Expectation expect(std::string_view document, const Settings& settings = {},
                                             const ExternalContext& outside = {}) const = 0;
    /// The value in a few words of this format's own, as it is shown side by side; whole unless longer than `most`.
    [[nodiscard]] virtual std::string shown(const Trace& trace, std::size_t most) const = 0;

    [[nodiscard]] virtual Tree tree(const Trace& trace, Layer layer,
                                    const CannotRepresent& cannot_represent = {}) const = 0;
    [[nodiscard]] virtual LayerDigests digests(const Trace& trace,
                                               const CannotRepresent& cannot_represent = {}) const = 0;
    /// Explains where and why `got` is not `expected`, at a layer.
    [[nodiscard]] virtual Comparison compare(const Trace& expected, const Trace& got,
                                             const CompareOptions& options = {}) const = 0;
    /// How strongly the standard binds who writes a document to write a well-formed one.
    [[nodiscard]] virtual Basis writing_basis() const = 0;
    /// Of a text that an encoder wrote for a value, and that reads as it: which of several spellings it chose, as
    /// answers to the format's questions.
    [[nodiscard]] virtual std::vector<Observed> encoder_choices(const Trace&, std::string_view) const { return {}; }
    /// The first layer that compares what a `lacks` word says is missing; nothing for a word unknown.
    [[nodiscard]] virtual std::optional<Layer> layer_without(std::string_view word) const = 0;
    /// Whether a document was reformatted, and how: slugs of what changed though the value is the same.
    [[nodiscard]] virtual std::vector<std::string> reformatted(std::string_view before,
                                                               std::string_view after) const = 0;

    /// A document to test an adapter's protocol with.
    enum class SampleDocument : std::uint8_t { small, large, deep };
    /// small: a few bytes; large: a megabyte and more; deep: a million levels.
    [[nodiscard]] virtual std::string sample_document(SampleDocument kind) const = 0;
    /// Pieces to try to leave out, the largest first; every one keeps the rest as it is. They look into `document`.
    [[nodiscard]] virtual std::vector<Cut> cuts(std::string_view document) const = 0;
    [[nodiscard]] virtual std::span<const Requirement> requirements() const { return {}; }
    /// What a document exercises, with what it names outside itself where that is read.
    [[nodiscard]] virtual std::vector<Exercised> exercised(std::string_view, const Fetch& = {}) const { return {}; }
    /// What a value to be encoded exercises.
    [[nodiscard]] virtual std::vector<Exercised> exercised_by_encoding() const { return {}; }
    [[nodiscard]] virtual std::span<const Profile> profiles() const { return {}; }
    /// What a profile, by its name, says of a document; nothing of what is no document.
    [[nodiscard]] virtual std::vector<Advice> advice(std::string_view, std::string_view) const { return {}; }
    [[nodiscard]] virtual std::span<const Shape> shapes() const { return {}; }
    /// The document of a shape and an amount of at least 1.
    [[nodiscard]] virtual std::string shaped(std::size_t, std::size_t) const { return {}; }
    /// The value of a shaped document in trace notation, to be encoded; nothing where the shape is one of spelling
    /// alone.
    [[nodiscard]] virtual std::optional<std::string> shaped_value(std::size_t, std::string_view) const {
        return std::nullopt;
    }
    /// A document that holds these number literals one after another; empty for a format without numbers.
    [[nodiscard]] virtual std::string number_row(std::span<const std::string>) const { return {}; }
    /// What a decoder of such a document holds of each; empty where its value is no such row.
    [[nodiscard]] virtual std::vector<StoredLiteral> stored_numbers(std::span<const std::string>,
                                                                    const Trace&) const {
        return {};
    }
    [[nodiscard]] virtual std::span<const Question> questions() const = 0;
    [[nodiscard]] virtual std::span<const Cause> causes() const = 0;
};

/// All formats, in the order they are asked.
std::span<const Format* const> formats();
/// The format of that name, or null.
const Format* find_format(std::string_view name);
/// The format a file is taken for: by its name, else by its first bytes; the first of the list where none claims
/// it.
const Format& guess_format(std::string_view file_name, std::string_view document);

}  // namespace nachklang

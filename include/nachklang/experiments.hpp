// Loops that use the stages: cards, limits, number surveys, and the search for a smallest document.
//
// No stage knows an experiment. What they find depends on the cases and the subjects alone, never on the number of
// workers.
#pragma once

#include <atomic>
#include <functional>
#include <map>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include <nachklang/campaign.hpp>

namespace nachklang {

/// Where a refusal points, beside the first error: the first byte after which no continuation is a document. No
/// standard defines positions; this informs, and is no finding.
enum class Pointing : std::uint8_t {
    none,
    exact,
    next,        ///< one character past it
    same_token,  ///< no delimiter between the two
    later,
    earlier,
    without_mark,  ///< the byte order mark was not counted
    same_line,     ///< a line without a column
    other_line,
    outside,       ///< no such place in the document
    contradictory  ///< offset, line and column name different places
};
std::string_view name_of(Pointing pointing);
/// `error` is the offset of the first error, in bytes. A position counts in its unit: bytes, code points, UTF-16.
Pointing pointing_of(std::string_view document, std::size_t error, const Outcome& refusal);
/// Of a decode that refused an ill-formed document in UTF-8; nothing for other results.
std::optional<Pointing> pointing_of(const Result& result);

/// One implementation's answers to all questions, and the aspects it passes.
struct Card {
    const Subject* subject = nullptr;
    struct Aspect {
        std::size_t asked = 0, failing = 0, permitted = 0, unsupported = 0;
        friend bool operator==(const Aspect&, const Aspect&) = default;
    };
    std::map<std::string, Aspect> aspects;
    using Question = std::pair<std::string, std::string>;            ///< format, id
    std::map<Question, std::map<std::string, std::size_t>> answers;  ///< each answer with how many cases gave it
    std::map<Pointing, std::size_t> positions{};                     ///< of refusals
};
/// Gathers a card for each subject of a run.
class CardSink final : public ResultSink {
  public:
    void begin(const RunHeader& header) override;
    void chunk(const ChunkReport& report) override;
    [[nodiscard]] const std::vector<Card>& cards() const { return cards_; }

  private:
    std::vector<Card> cards_;
};

/// How far one implementation goes in one shape.
struct LimitFound {
    const Subject* subject = nullptr;
    std::string_view shape;
    Operation operation = Operation::decode;
    std::size_t largest = 0;    ///< the largest amount that went well; 0: not even the first
    std::string past, message;  ///< how it fails one step beyond; empty if the search reached its maximum
    bool complete = false;      ///< otherwise interrupted, or a deadline: `largest` is a lower bound
};
struct LimitOptions {
    std::size_t most = 1'000'000;
    std::vector<std::string> shapes{};  ///< names or globs; empty: all
    unsigned workers = 1;
    std::atomic<bool>* cancelled = nullptr;
    std::function<void(std::size_t done, std::size_t all)> progress{};  ///< called on any thread, one at a time
};
/// Searches every shape with every subject in every operation that it supports; decoding shows no value. Each
/// probe has the deadline and the memory limit of the subject's configuration. If a deadline is what fails, the
/// amount is found to a sixteenth of itself only.
std::vector<LimitFound> find_limits(const Format& format, std::span<const Subject> subjects,
                                    const ExecutorFactory& make, const LimitOptions& options);

/// How the time of decoding grows with a document of one shape. A measurement: it depends on the machine.
struct Growth {
    const Subject* subject = nullptr;
    std::string_view shape;
    struct Point {
        std::size_t amount = 0, bytes = 0;
        double seconds = 0;  ///< from sending it to its reply, the shortest of several requests
    };
    std::vector<Point> points{};    ///< of growing amounts, each twice the one before
    std::optional<double> exponent; /**< the time grows as bytes ^ exponent where it shows beside the time of a
                                       request; nothing: too quick, or too few points */
    std::string ended;              ///< how the next amount failed; empty if it did not
    /// Clearly more than in proportion, also when it was measured once more in a new process.
    bool above_linear = false;
};
/// Seconds since some moment, by the steady clock.
double steady_seconds();
struct GrowthOptions {
    std::size_t most = 1'000'000;
    std::vector<std::string> shapes{};  ///< names or globs; empty: all
    unsigned workers = 1;               ///< more than one core's worth of them disturbs the measurement
    std::function<double()> clock = steady_seconds;
    std::atomic<bool>* cancelled = nullptr;
    std::function<void(std::size_t done, std::size_t all)> progress{};  ///< called on any thread, one at a time
};
/// Decodes documents of each shape that double in size, without showing the value, until one takes a second.
std::vector<Growth> measure_growth(const Format& format, std::span<const Subject> subjects,
                                   const ExecutorFactory& make, const GrowthOptions& options);
/// The slope of log seconds over log bytes, of points that take clearly longer than the first one; nothing if there
/// are too few of them, or they span less than a factor of four.
std::optional<double> growth_exponent(std::span<const Growth::Point> points);

/// How one implementation holds a series of number literals.
struct NumberSurvey {
    const Subject* subject = nullptr;
    struct Example {
        std::string literal, family;
        StoredLiteral stored;
    };
    std::map<std::string, std::size_t>
        answers;  ///< by answer; also "refused", "failed", "not shown"; their sum is `asked`
    std::size_t asked = 0;
    std::size_t wrong = 0;         ///< neither exact nor correctly rounded
    std::optional<Example> worst;  ///< the worst: a failure, then another number, then the most ulps; the shortest
    std::map<std::string, Example> examples;  ///< the shortest literal of each answer that is wrong
    /// Of literals stored as a number near theirs: how many lie from 2^n to 2^(n+1) ulps away, by n.
    std::map<int, std::size_t> distances;
    /// Of one family: what was asked, what was stored wrong, and where those literals lie.
    struct FamilyTally {
        std::size_t asked = 0, wrong = 0;
        std::size_t fewest_digits = 0, most_digits = 0;            ///< significant digits of the wrong ones
        std::int64_t smallest_exponent = 0, largest_exponent = 0;  ///< of the wrong ones, as in d.ddd × 10^exponent
        std::map<std::string, std::size_t> answers;                ///< that are wrong
    };
    std::map<std::string, FamilyTally> families;
};
struct NumberSurveyOptions {
    std::uint64_t seed = 1;
    std::uint64_t count = 100'000;
    std::vector<std::string> literals{};  ///< if not empty: these instead of generated ones
    unsigned workers = 1;
    std::atomic<bool>* cancelled = nullptr;
    std::function<void(std::size_t done, std::size_t all)> progress{};  ///< called on any thread, one at a time
};
/// Sends generated literals in rows to every subject that decodes the format; a row refused is halved until single
/// literals are known.
std::vector<NumberSurvey> survey_numbers(const Format& format, std::span<const Subject> subjects,
                                         const ExecutorFactory& make, const NumberSurveyOptions& options);

/// Whether an incremental decoder's answer depends on where its document is cut.
struct PiecesSurvey {
    const Subject* subject = nullptr;
    enum class Effect : std::uint8_t { verdict, value, position };
    struct Difference {
        const Case* of = nullptr;
        Effect effect = Effect::verdict;  ///< what differs, the gravest first
        std::string cuts;                 ///< where it was cut, as in a request: "3", or "each" byte
        std::string inside;               ///< what is cut, for people: "inside a word or a number"
        std::string what;                 ///< the other answer, for people: "rejected (…), not accepted"
    };
    std::size_t documents = 0, cuts = 0;
    std::vector<Difference> differences{};  ///< from the answer to the document in one piece
    [[nodiscard]] std::size_t count(Effect effect) const;
    bool complete = false;  ///< otherwise interrupted
};
std::string_view name_of(PiecesSurvey::Effect effect);
struct PiecesOptions {
    std::size_t longest = 64;  ///< bytes of a document
    unsigned workers = 1;
    std::atomic<bool>* cancelled = nullptr;
    std::function<void(std::size_t done, std::size_t all)> progress{};  ///< called on any thread, one at a time
};
/// Cuts each document at every place, and after each byte, for all subjects that take pieces. Documents of one
/// byte, of records and with external files are left out.
std::vector<PiecesSurvey> survey_pieces(std::span<const Case> cases, std::span<const Subject> subjects,
                                        const ExecutorFactory& make, const PiecesOptions& options);

/// What other implementations make of the texts that one writes.
struct Crossing {
    const Subject* writer = nullptr;
    std::size_t texts = 0;                 ///< different texts that it wrote
    std::size_t ill_formed = 0;            ///< texts that are no documents; no reader is asked for them
    std::size_t readers = 0, engines = 0;  ///< that were asked
    std::size_t read_by_all = 0;           ///< texts whose value all of them hold
    /// Whether the readers in trouble read the value in its canonical spelling.
    enum class Plain : std::uint8_t { read, trouble, unknown };
    struct Trouble {
        std::string what;  ///< a cause, or an answer by which the value is lost: "lone-surrogate: replaced"
        std::size_t texts = 0, engines = 0;
        std::vector<std::string> readers{};
        std::string smallest, detail;  ///< the smallest text, and what a reader makes of it
        Plain plain = Plain::unknown;
    };
    std::vector<Trouble> troubles{};  ///< those of the spelling first, then those of most engines
};
std::string_view name_of(Crossing::Plain plain);
/// Takes what the writers write of all cases (encodes and round trips), and asks every reader to decode it. Cases
/// about external files are left out.
std::vector<Crossing> cross(std::span<const Case> cases, std::span<const Subject> writers,
                            std::span<const Subject> readers, const ExecutorFactory& make,
                            const CampaignOptions& options);

/// What values lose on one way through an implementation: documents that are decoded and encoded again, or values
/// that are encoded.
struct RoundTripSurvey {
    const Subject* subject = nullptr;
    Operation operation = Operation::round_trip;
    struct Change {
        std::string what;  ///< a cause, an answer ("negative-zero: lost"), or how a text differs that says the same
        std::size_t cases = 0;
        const Case* smallest = nullptr;
        std::string detail;  ///< what became of it there
    };
    std::size_t asked = 0;  ///< well-formed documents, or values
    std::size_t same_bytes = 0, changed = 0, refused = 0, failed = 0;
    std::vector<Change> losses{}, respellings{};  ///< those of most cases first
};
/// One entry for each mode and operation that writes documents, in their order; modes that write none are left out.
std::vector<RoundTripSurvey> survey_round_trips(std::span<const Case> cases, std::span<const Subject> subjects,
                                                const ExecutorFactory& make, const CampaignOptions& options);

/// Tries smaller documents; returns true for each that still shows the behaviour.
using StillShows = std::function<std::vector<bool>(std::span<const std::string>)>;
struct Shrunk {
    std::string document;
    std::size_t tried = 0, kept = 0;
    bool complete = false;  ///< no cut of the format's can be made any more; otherwise the budget ran out
};
/// Cuts a document down while it still shows it: pieces of structure first, bytes last.
Shrunk shrink(const Format& format, std::string document, const StillShows& still_shows, std::size_t budget,
              const std::function<void(std::size_t size, std::size_t tried)>& progress = {});

}  // namespace nachklang

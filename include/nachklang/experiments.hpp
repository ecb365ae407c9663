// Loops that use the stages: a run of a corpus through implementations, and the search for a smallest document.
//
// No stage knows an experiment. Findings depend on the cases and the subjects alone, never on the number of
// workers.
#pragma once

#include <atomic>
#include <functional>
#include <span>
#include <string>
#include <vector>

#include <nachklang/compare.hpp>

namespace nachklang {

/// One case, one subject, one operation: what happened, and the finding.
struct Result {
    const Case* test_case = nullptr;
    const Subject* subject = nullptr;
    Operation operation = Operation::decode;
    Outcome outcome;
    Finding finding;
    std::optional<LayerDigests> digests;  ///< of the value decoded, or of the document written
    std::optional<Trace> value;           ///< that value; shared by all answers that are the same at every layer
};

struct IncidentReport {
    const Subject* subject = nullptr;
    std::vector<std::string> sequence;  ///< "decode numbers/tenth" …, in the order they were asked
    OutcomeKind outcome = OutcomeKind::unsteady;
    std::string detail;
};

/// All about one chunk of cases, in a fixed order.
struct ChunkReport {
    std::vector<Result> results;  ///< by case, then subject, then operation
    std::vector<Disagreement> disagreements;
    std::vector<IncidentReport> incidents;
};

struct CampaignOptions {
    unsigned workers = 1;
    std::atomic<bool>* cancelled = nullptr;  ///< set from outside: the run ends after what is under way
    std::function<void(std::size_t done, std::size_t all)> progress{};  ///< tasks; called on the caller's thread
    std::string profile{};  ///< a profile's name: findings carry its advice on cases of formats that have it
};

/// Makes executors: the process runner's by default, or the caller's own (in-process).
using ExecutorFactory = std::function<std::unique_ptr<Executor>(const Subject&)>;

/// Runs all cases through all subjects that do their format. `take` hears each chunk in order, on the caller's
/// thread, as soon as it and all before it are done. Cases and subjects must outlive the reports.
void run_campaign(std::span<const Case> cases, std::span<const Subject> subjects, const ExecutorFactory& make,
                  const CampaignOptions& options, const std::function<void(ChunkReport&&)>& take);

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
};
std::vector<Card> blank_cards(std::span<const Subject> subjects);
/// Adds what a chunk of a campaign says; subjects are known by their address.
void add_to_cards(std::vector<Card>& cards, const ChunkReport& report);

/// How far one implementation goes in one shape.
struct LimitFound {
    const Subject* subject = nullptr;
    std::string_view shape;
    Operation operation = Operation::decode;
    std::size_t largest = 0;    ///< the largest amount that went well; 0: not even the first
    std::string past, message;  ///< what stands one past it; empty where the most was reached
    bool complete = false;      ///< otherwise interrupted, or a deadline: `largest` is a lower bound
};
struct LimitOptions {
    std::size_t most = 1'000'000;
    std::vector<std::string> shapes{};  ///< names or globs; empty: all
    unsigned workers = 1;
    std::atomic<bool>* cancelled = nullptr;
    std::function<void(std::size_t done, std::size_t all)> progress{};  ///< called on any thread, one at a time
};
/// Searches every shape with every subject: decoding (with nothing shown), there and back, and encoding. Each probe
/// has the deadline and the memory that the subject's configuration gives a request; where the deadline is what
/// stands past it, an amount is found to a sixteenth of itself.
std::vector<LimitFound> find_limits(const Format& format, std::span<const Subject> subjects,
                                    const ExecutorFactory& make, const LimitOptions& options);

/// How one implementation holds a series of number literals.
struct NumberSurvey {
    const Subject* subject = nullptr;
    struct Example {
        std::string literal, family;
        StoredLiteral stored;
    };
    std::map<std::string, std::size_t> answers;  ///< by answer; also "refused", "failed", "not shown"
    std::size_t asked = 0;
    std::size_t wrong = 0;                    ///< held otherwise than rounding to the nearest explains
    std::optional<Example> worst;             ///< of those wrong: furthest off, the shortest of equals
    std::map<std::string, Example> examples;  ///< the shortest literal of each answer that is wrong
    std::map<std::string, std::size_t> wrong_by_family;
};
struct NumberSurveyOptions {
    std::uint64_t seed = 1;
    std::uint64_t count = 100'000;
    std::vector<std::string> literals{};  ///< instead of generated ones, where there are any
    unsigned workers = 1;
    std::atomic<bool>* cancelled = nullptr;
    std::function<void(std::size_t done, std::size_t all)> progress{};  ///< called on any thread, one at a time
};
/// Sends generated literals in rows to every subject that decodes the format; a row refused is halved until single
/// literals are known.
std::vector<NumberSurvey> survey_numbers(const Format& format, std::span<const Subject> subjects,
                                         const ExecutorFactory& make, const NumberSurveyOptions& options);

/// Asks about the smaller documents; true for each that still shows what is looked for.
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

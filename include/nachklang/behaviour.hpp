// Behaviours: what an implementation does wrong, when exactly, how grave it is, and who else does it.
//
// A run gives tens of thousands of findings; most repeat one mistake on other documents, in other modes, or once
// more in the round trip. A behaviour is one mistake: an implementation, the side at fault, what it does, and its
// trigger, the features that the documents have in common. Triggers are inferred from all cases asked, conforming
// ones included; see src/behaviour/inference.hpp.
#pragma once

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include <nachklang/result_sink.hpp>

namespace nachklang {

/// The side at fault. `either`: the implementation shows only round trips.
enum class Side : std::uint8_t { decoder, encoder, either };
std::string_view name_of(Side side);

/// How grave a behaviour is; the gravest first.
enum class Gravity : std::uint8_t {
    failure,              ///< a crash, a hang, memory, an undocumented failure
    value_changed,        ///< accepted, with another value
    ill_formed_output,    ///< wrote a text that is no document
    valid_refused,        ///< refused a document, or a value that others write
    ill_formed_accepted,  ///< accepted what a clause forbids, or what no known extension explains
    extension_accepted,   ///< accepted a known extension
    minority_answer,      ///< an open point that most engines answer otherwise
};
std::string_view name_of(Gravity gravity);

/// When a behaviour shows.
struct Trigger {
    /// Feature ids, with a bound where a feature has an amount: "depth>=33". Empty: no features were found, and the
    /// cases themselves are the trigger.
    std::vector<std::string> features;
    std::string clause;        ///< for people: "the document nests 33 or more levels and the root is an array"
    std::size_t caught = 0;    ///< cases of the behaviour that have the features
    std::size_t matching = 0;  ///< cases asked that have the features and that no earlier trigger of the mistake
                               ///< explains, conforming ones included
    [[nodiscard]] bool inferred() const { return !features.empty(); }
};

struct Behaviour {
    std::string implementation;  ///< without its mode
    std::string engine;
    std::vector<std::string> modes;  ///< that show it, in the order of the run; a mode without a name is ""
    std::size_t all_modes = 1;       ///< of that implementation, as far as they were asked
    std::string purpose;             ///< not empty: these modes are meant to be strict, lax, repairing or a subset
    bool simulated = false;          ///< a simulated or seeded implementation, in no group of real ones
    const Format* format = nullptr;
    Side side = Side::decoder;
    FindingKind kind = FindingKind::altered;
    std::optional<Basis> basis;
    std::string cause;   ///< slug; of an open answer "question:answer"
    std::string rule;    ///< of an ill-formed text that was accepted or written: the rule broken
    std::string clause;  ///< of the standard
    Gravity gravity = Gravity::value_changed;
    bool failing = false;  ///< makes a run end with status 1
    bool declared = false;
    std::string excused;  ///< the reason of the configuration's excuse, if it covers every case
    Trigger trigger;
    std::string sentence;            ///< "Refuses a document if the root is a scalar."
    std::vector<std::string> cases;  ///< sorted
    std::vector<std::string> also;   ///< causes that come with it in each of these cases
    const Case* witness = nullptr;   ///< the smallest case; lives as long as the collector
    std::string witness_mode;        ///< a subject's name that shows it
    Operation witness_operation = Operation::decode;
    std::string detail;                     ///< of the witness
    std::optional<std::string> smallest{};  ///< the smallest document that shows it, if that was searched for
    std::vector<std::string> peers;         ///< other engines with the same cause and trigger, sorted
    std::size_t engines = 0;                ///< engines that were asked cases of this format
};

/// What a subject answers to an open question, and when.
struct AnswerGiven {
    std::string subject;  ///< implementation and mode
    const Format* format = nullptr;
    Side side = Side::decoder;
    std::string question, answer;
    std::size_t cases = 0, asked = 0;
    Trigger trigger;         ///< of an answer that it gives on some cases only
    bool otherwise = false;  ///< the answer that it gives where no other one's trigger holds
    const Case* witness = nullptr;
};

/// The features of cases, so that several collectors over one corpus find them once. Not for use from several
/// threads at once.
class FeatureCache {
  public:
    const std::vector<FeatureValue>& features_of(const Case& c);

  private:
    std::map<std::string, std::vector<FeatureValue>> features_;  // by format and content
};

/// Collects a run's results and gives its behaviours. Keeps some 20 bytes a result, and nothing of the documents.
class BehaviourCollector final : public ResultSink {
  public:
    explicit BehaviourCollector(std::shared_ptr<FeatureCache> features = std::make_shared<FeatureCache>());
    ~BehaviourCollector() override;
    void chunk(const ChunkReport& report) override;
    /// Of all implementations, in the order of the run, each one's gravest first. Cases must still live.
    [[nodiscard]] std::vector<Behaviour> behaviours() const;
    /// What each subject answers to each question that was raised, in the order of the run and of the questions.
    [[nodiscard]] std::vector<AnswerGiven> answers() const;

  private:
    struct State;
    std::unique_ptr<State> state_;
};

}  // namespace nachklang

// Outcomes judged against the standard. The judge knows neither how an implementation was asked nor what others
// answered.
#pragma once

#include <map>
#include <memory>
#include <mutex>
#include <optional>
#include <string>
#include <string_view>
#include <tuple>
#include <vector>

#include <nachklang/corpus.hpp>
#include <nachklang/runner.hpp>

namespace nachklang {

enum class FindingKind : std::uint8_t {
    conforms,
    too_strict,
    too_lenient,
    unexplained,  ///< accepted a text that is not a document, by no extension that a question lists
    altered,
    ill_formed_output,
    open,
    failed,
    adapter_fault,  ///< the adapter failed; says nothing about the implementation
    unsupported,
    not_asked  ///< the implementation had failed too often before
};
std::string_view name_of(FindingKind kind);
/// Whether a result says nothing against an implementation: conforms, open, unsupported,
/// not asked.
bool is_settled(FindingKind kind);

/// An answer to a question that the document raises.
struct GivenAnswer {
    std::string question, answered;
    std::string declared;  ///< the answer that the configuration declares; empty if it declares none
};

/// An outcome judged.
struct Finding {
    FindingKind kind = FindingKind::unsupported;
    std::optional<Basis> basis;
    std::vector<GivenAnswer> answers;
    std::vector<Difference> causes;        ///< the first is the finding's cause
    std::vector<std::string> reformatted;  ///< of a round trip that kept the value: what it changed in the text
    std::string detail, clause;
    /// Of a round trip after a decode: false if the text holds what was decoded, or a second round trip is at
    /// fault.
    bool encoder_at_fault = true;
    bool declared = false;  ///< all of it is meant, by the configuration's word
    std::string excused;    ///< the reason of the configuration's excuse that covers all causes; it does not fail
    bool shipped_adapter = false;  ///< an adapter fault of an adapter that ships with Nachklang, not the user's own
    std::vector<Advice> advice;    ///< if a profile was requested: its advice on the text read or written
    [[nodiscard]] std::string cause() const { return causes.empty() ? "" : causes.front().cause; }
    /// Whether it makes a run end with status 1.
    [[nodiscard]] bool failing() const;
};

/// What was found out about texts and values: many implementations answer the same. May be used from several
/// threads at once.
class JudgeCache {
  public:
    /// What implementations wrote. `settings` are those of Format::reading_settings. Nothing outside the document
    /// is read.
    std::shared_ptr<const Reading> read(const Format& format, std::string_view document, const Settings& settings);
    /// As Format::compare and Format::digests. Of short values nothing is kept: to find it costs as much.
    Comparison compare(const Format& format, const Trace& expected, const Trace& got,
                       const CompareOptions& options);
    LayerDigests digests(const Format& format, const Trace& trace, const CannotRepresent& cannot_represent);

  private:
    using OptionsKey = std::tuple<Layer, bool, CannotRepresent, std::size_t, bool, bool, CannotRepresent>;
    std::mutex mutex_;
    std::map<std::tuple<const Format*, Settings, Digest>, std::shared_ptr<const Reading>> readings_;
    std::map<std::tuple<const Format*, Digest, Digest, OptionsKey>, Comparison> comparisons_;
    std::map<std::tuple<const Format*, Digest, CannotRepresent>, LayerDigests> digests_;
};

/// Whether an implementation that cannot represent these things represents the order of what it decodes. If not, it
/// may write another order each time.
bool represents_order(const Format& format, const CannotRepresent& cannot_represent);
/// Whether two texts hold each byte equally often: they differ in their order at most.
bool are_of_same_bytes(std::string_view a, std::string_view b);

struct JudgeInput {
    const Case& test_case;
    const Expectation& expectation;
    const Subject& subject;
    Operation operation = Operation::decode;
    const Outcome& outcome;
    const Outcome* decoded =
        nullptr;  ///< of an operation that continues another: the outcome of that, if the implementation shows one
    const Outcome* second_round_trip = nullptr;  ///< of a round trip: the round trip of the text that it wrote
    const Outcome* enclosed = nullptr;           ///< of a refused document: that of the document inside a container
    std::string_view enclosed_cause{};           ///< see Enclosed::refusal_cause
    std::optional<bool> sure_accepted{};         ///< whether CutShort::sure_document is accepted, if it was asked
    JudgeCache* cache = nullptr;                 ///< shared; null: all is read and compared anew
    std::string_view profile{};                  ///< the profile to advise by; empty: none
};
Finding judge(const JudgeInput& input);

}  // namespace nachklang

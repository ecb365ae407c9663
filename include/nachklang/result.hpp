// Results: what one implementation did with one case, judged. They lie below the stores and above the judge.
#pragma once

#include <memory>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include <nachklang/compare.hpp>

namespace nachklang {

/// One case, one subject, one operation: what happened, and the finding.
struct Result {
    const Case* test_case = nullptr;
    std::shared_ptr<const Case> enclosed{};  ///< owns test_case if that is a refused case inside a container
    const Case* enclosed_of = nullptr;       ///< the case that was refused
    const Subject* subject = nullptr;
    Operation operation = Operation::decode;
    Outcome outcome;
    Finding finding;
    std::optional<LayerDigests> digests;  ///< of the value decoded, or of the document written
    std::optional<Trace> value;           ///< that value; its memory is shared by all answers with the same text
};

/// An answer that depended on what was asked before.
struct IncidentReport {
    const Subject* subject = nullptr;
    std::vector<std::string> sequence;  ///< "decode numbers/tenth" …, in the order in which they were asked
    OutcomeKind outcome = OutcomeKind::unsteady;
    std::string detail;
};

/// What a run found out about one chunk of cases.
struct ChunkReport {
    std::vector<Result> results;  ///< by case, then subject, then operation
    std::vector<Disagreement> disagreements;
    std::size_t number = 0;  ///< in its run; chunks depend on the cases alone
    bool whole = true;       ///< false: the run ended early, and results are missing
    /// By subject: why it is asked no more; empty if it is.
    std::vector<std::string> gave_up{};
};

}  // namespace nachklang

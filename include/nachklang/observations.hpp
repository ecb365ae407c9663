// What a document shows when implementations are asked about it: where they disagree, and findings about each. A
// search for the smallest document keeps one of them.
#pragma once

#include <span>
#include <string>
#include <vector>

#include <nachklang/behaviour.hpp>
#include <nachklang/experiments.hpp>

namespace nachklang {

/// A disagreement with its groups, or a finding about one implementation. The reference reader takes part in
/// findings, so one implementation is enough.
struct Observation {
    Operation operation = Operation::decode;
    std::string layer;  ///< of a disagreement; empty for a finding
    std::string why;    ///< "question ID", or a cause
    std::string cause, question, detail;
    std::string key;   ///< equal for documents that show the same
    std::string said;  ///< what is preserved, for people
    bool failing = false;
};

/// Asks subjects about documents.
class DocumentProbe {
  public:
    /// All that is given must outlive it.
    DocumentProbe(const Format& format, std::span<const Subject> subjects, ExecutorFactory make,
                  std::atomic<bool>* cancelled = nullptr)
        : format_(format), subjects_(subjects), make_(std::move(make)), cancelled_(cancelled) {}
    /// What each document shows: disagreements, then findings.
    [[nodiscard]] std::vector<std::vector<Observation>> observe(std::span<const std::string> documents) const;
    /// Cuts a document down while it shows an observation with this key. `accept`, where given, must hold as well.
    [[nodiscard]] Shrunk smallest(std::string document, const std::string& key, std::size_t budget,
                                  const std::function<void(std::size_t size, std::size_t tried)>& progress = {},
                                  const std::function<bool(const std::string&)>& accept = {}) const;

  private:
    const Format& format_;
    std::span<const Subject> subjects_;
    ExecutorFactory make_;
    std::atomic<bool>* cancelled_;
};

/// The smallest document that shows a behaviour with the same finding, cause and rule broken, cut down from its
/// witness. Nothing where the witness is a value to encode or names external files, or where it shows the behaviour
/// only beside other documents.
std::optional<std::string> smallest_witness(const Behaviour& behaviour, std::span<const Subject> subjects,
                                            const ExecutorFactory& make, std::size_t budget,
                                            std::atomic<bool>* cancelled = nullptr);

/// Explains a split at the verdict that no finding explains: by the smallest document, cut down from the case's
/// own, that still splits one implementation of each group from those of the others. A question that the document
/// merely raises decides nothing. For CampaignOptions::explain; `subjects` and `cancelled` must outlive the run.
std::function<void(Disagreement&, const Case&)> split_explainer(std::span<const Subject> subjects,
                                                                const ExecutorFactory& make, std::size_t budget,
                                                                std::atomic<bool>* cancelled = nullptr);

}  // namespace nachklang

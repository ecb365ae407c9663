// Implementations compared with each other: camps, layer by layer.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include <nachklang/judge.hpp>

namespace nachklang {

/// What one implementation said of a case, as far as camps need it.
struct Voice {
    std::string implementation, engine;
    OutcomeKind outcome = OutcomeKind::unsupported;
    std::optional<LayerDigests> digests;  ///< of an accepted answer that shows a value
    std::optional<Trace> trace;           ///< one a camp is enough
    std::string message;
    Lacks lacks;
    const Finding* finding = nullptr;
};

struct Camp {
    std::vector<std::string> implementations;  ///< sorted
    std::vector<std::string> engines;          ///< sorted, each once: one parser under seven names is one voice
    std::vector<std::string> untold;  ///< implementations that do not tell what the layer compares, and fit here
    std::string shown;
};

/// More than one camp, at the first layer where they part.
struct Disagreement {
    std::string corpus, case_name;
    Operation operation = Operation::decode;
    Layer layer = Layer::verdict;
    std::string question, cause, detail;
    std::vector<Camp> camps;          ///< the largest (by engines) first
    std::vector<std::string> untold;  ///< that fit no camp
};

/// All partings over one case and operation; none where all agree.
std::vector<Disagreement> compare_voices(const Case& c, Operation operation, const std::vector<Voice>& voices);

}  // namespace nachklang

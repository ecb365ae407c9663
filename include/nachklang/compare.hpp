// Implementations compared with each other: groups, layer by layer.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include <nachklang/judge.hpp>

namespace nachklang {

/// One implementation's answer to a case, as far as grouping needs it.
struct Participant {
    std::string implementation, engine;
    OutcomeKind outcome = OutcomeKind::unsupported;
    std::optional<LayerDigests> digests;  ///< of an accepted answer that shows a value
    std::optional<Trace> trace;           ///< one a group is enough
    std::string message;
    CannotRepresent cannot_represent;
    const Finding* finding = nullptr;
};

struct Group {
    std::vector<std::string> implementations;  ///< sorted
    std::vector<std::string> engines;          ///< sorted, each once: one parser under seven names is one voice
    std::vector<std::string>
        not_reported;  ///< implementations that do not report what the layer compares, but fit this group
    std::string shown;
};

/// Two or more groups, at the first layer where their answers differ.
struct Disagreement {
    std::string corpus, case_name;
    Operation operation = Operation::decode;
    Layer layer = Layer::verdict;
    std::string question, cause, detail;
    std::vector<Group> groups;              ///< the largest (by engines) first
    std::vector<std::string> not_reported;  ///< that fit no group
};

/// All splits over one case and operation; empty if all answers agree.
std::vector<Disagreement> compare_participants(const Case& c, Operation operation,
                                               const std::vector<Participant>& participants);

}  // namespace nachklang

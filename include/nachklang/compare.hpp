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

// --- place by place ---

/// A value to be compared place by place.
struct PlacedValue {
    const Trace* trace = nullptr;
    CannotRepresent cannot_represent{};
    bool is_document = false;  ///< the reference reader's: the way it stores a value is no answer
};
/// What some hold at a place.
struct PlaceAnswer {
    bool absent = false;
    std::string shown, stored;
    std::string value{};              ///< equal for all spellings of one value
    std::vector<std::size_t> values;  ///< indices of those that hold it
};
struct DifferingPlace {
    std::string path;
    bool stored_only = false;          ///< all hold the same value, stored in different ways
    std::vector<PlaceAnswer> answers;  ///< that of the first value first, then by the number of those that hold it
    std::vector<std::size_t> not_reported;  ///< of those that cannot represent it
};
/// The places where values differ, in the order of the first value. Places that are equal are left out; so is all
/// that hangs below an absent array, object or element.
std::vector<DifferingPlace> differing_places(const Format& format, const std::vector<PlacedValue>& values);

}  // namespace nachklang

// What changed between two kept runs: a run's results file, or a baseline, which is small and lies in version
// control.
//
// Both are read as lists of behaviours with their cases. A behaviour is known by implementation, side, finding,
// cause and rule; its trigger is inferred anew in each run and is no part of its name.
#pragma once

#include <compare>
#include <map>
#include <optional>
#include <set>
#include <span>
#include <string>
#include <vector>

#include <nachklang/store.hpp>

namespace nachklang {

/// By what a behaviour is known from run to run.
struct BehaviourName {
    std::string format, implementation, side, finding, cause, rule;
    friend auto operator<=>(const BehaviourName&, const BehaviourName&) = default;
};
struct KeptBehaviour {
    bool failing = false;  ///< in one of its cases
    std::string sentence;
    std::set<std::string> cases;
};
/// An open question that an implementation in one mode was asked, and the answer by "case operation".
using KeptAnswers = std::map<std::pair<std::string, std::string>, std::map<std::string, std::string>>;

struct KeptRun {
    std::map<std::string, std::string> versions;  ///< by implementation and mode
    std::map<BehaviourName, KeptBehaviour> behaviours;
    /// Asked, as "FORMAT CASE"; nothing for a baseline, which does not list them.
    std::optional<std::set<std::string>> cases;
    KeptAnswers answers;
};

/// Reads a results file or a baseline, whichever it is.
Checked<KeptRun> read_kept_run(const std::string& path);
/// The same of a run in this process. Open answers that few engines give are left out: they depend on who else ran.
KeptRun kept_run(std::span<const Subject> subjects, std::span<const Case> cases,
                 const std::vector<Behaviour>& behaviours);

/// A baseline: JSON Lines, sorted, one for each implementation and behaviour.
std::string baseline_of(const KeptRun& run);
/// A baseline after a run that may have asked only some cases and implementations: what it did not ask stays.
KeptRun updated(const KeptRun& baseline, const KeptRun& run);

struct BehaviourChange {
    BehaviourName name;
    std::string sentence;
    bool failing = false;
    bool whole = false;              ///< the other run has no case of it
    std::vector<std::string> cases;  ///< that came or went
};
struct AnswerChange {
    std::string subject, question;
    std::map<std::pair<std::string, std::string>, std::vector<std::string>> cases;  ///< by answer before and now
};
struct Changes {
    std::vector<BehaviourChange> came, went;  ///< in cases and implementations that both runs have
    std::vector<AnswerChange> answers;
    std::vector<std::string> new_cases, gone_cases;  ///< if both runs list their cases
    std::vector<std::string> new_implementations, gone_implementations;
    std::vector<std::string> versions;  ///< "rapidjson/default: 1.1.0, now 1.2.0"
    [[nodiscard]] bool newly_failing() const;
};
/// Cases and implementations that only one of the runs has are listed, and count neither as new nor as mended. A
/// case that a baseline does not know is new.
Changes changes_between(const KeptRun& before, const KeptRun& now);

}  // namespace nachklang

// What a collector keeps of a run: for each subject and side the cases asked, and on which of them each mistake
// showed.
#pragma once

#include <map>
#include <memory>
#include <string>
#include <tuple>
#include <unordered_map>
#include <vector>

#include <nachklang/behaviour.hpp>

namespace nachklang::behaviour {

using CaseIndex = std::uint32_t;

/// A kind of mistake: what triggers are inferred for.
struct Mistake {
    Side side = Side::decoder;
    FindingKind kind = FindingKind::altered;
    std::string cause, rule, question;
    friend auto operator<=>(const Mistake&, const Mistake&) = default;
};

/// What a finding says of one case.
struct Seen {
    Operation operation = Operation::decode;
    std::optional<Basis> basis;
    std::string clause, detail;
};

/// On which cases one subject makes one mistake, or gives one answer.
struct Shown {
    std::vector<CaseIndex> cases;
    std::vector<Seen> seen;  ///< of a mistake: of each case
    bool failing = false, declared = true, excused = true;
    std::string excuse;                            ///< the first reason
    std::optional<std::vector<std::string>> also;  ///< causes that came with it in every case so far
};

struct OfSubject {
    std::map<Side, std::vector<CaseIndex>> asked, accepted;
    std::map<Side, std::vector<CaseIndex>> no_documents;      ///< cases asked that must be refused
    std::map<std::string, std::vector<CaseIndex>> questions;  ///< cases on which a question was answered
    std::map<Mistake, Shown> mistakes;
    std::map<Mistake, Shown> answers;  ///< cause "question:answer"
};

struct KnownCase {
    std::shared_ptr<const Case> owner;  ///< of a case that lives no longer than its chunk
    const Case* test_case = nullptr;
    std::size_t size = 0;
    std::vector<FeatureValue> features;
    std::string broken_rule;  ///< the clause of that feature
};

/// Cases and subjects of one format.
struct OfFormat {
    const Format* format = nullptr;
    std::vector<KnownCase> cases;
    std::unordered_map<std::string, CaseIndex> index;
    std::vector<std::pair<const Subject*, OfSubject>> subjects;  ///< in the order of the run
    OfSubject& of(const Subject& subject);
    CaseIndex index_of(const Result& result, FeatureCache& features);
};

/// The behaviours of one format's subjects, and their answers to open questions.
std::vector<Behaviour> behaviours_of(const OfFormat& cases);
std::vector<AnswerGiven> answers_of(const OfFormat& cases);

/// The sentence of a behaviour, from its cause's template and its trigger.
std::string sentence_of(const Behaviour& behaviour);

}  // namespace nachklang::behaviour

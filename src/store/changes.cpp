// Two kept runs compared, in what both of them asked; see changes.hpp.
#include <fmt/format.h>

#include <algorithm>

#include <nachklang/changes.hpp>

namespace nachklang {
namespace {

/// The implementations of a run without their modes.
std::set<std::string> implementations_of(const KeptRun& run) {
    std::set<std::string> out;
    for (const auto& [subject, version] : run.versions) out.insert(subject.substr(0, subject.find('/')));
    return out;
}

bool asked(const KeptRun& run, const std::string& format, const std::string& name) {
    return !run.cases || run.cases->contains(format + " " + name.substr(0, name.find(':')));
}

std::vector<std::string> only_in_first(const std::set<std::string>& a, const std::set<std::string>& b) {
    std::vector<std::string> out;
    std::set_difference(a.begin(), a.end(), b.begin(), b.end(), std::back_inserter(out));
    return out;
}

/// The behaviours, and cases of behaviours, that `b` lacks although it asked them.
std::vector<BehaviourChange> lacking(const KeptRun& a, const KeptRun& b) {
    const auto known = implementations_of(b);
    std::vector<BehaviourChange> out;
    for (const auto& [name, behaviour] : a.behaviours) {
        if (!known.contains(name.implementation)) continue;
        const auto same = b.behaviours.find(name);
        BehaviourChange change{name, behaviour.sentence, behaviour.failing, same == b.behaviours.end(), {}};
        for (const std::string& one : behaviour.cases)
            if (asked(b, name.format, one) && (change.whole || !same->second.cases.contains(one)))
                change.cases.push_back(one);
        if (!change.cases.empty()) out.push_back(std::move(change));
    }
    return out;
}

std::vector<AnswerChange> changed_answers(const KeptRun& before, const KeptRun& now) {
    std::vector<AnswerChange> out;
    for (const auto& [key, answers] : before.answers) {
        const auto same = now.answers.find(key);
        if (same == now.answers.end()) continue;
        AnswerChange change{key.first, key.second, {}};
        for (const auto& [where, answer] : answers) {
            const auto found = same->second.find(where);
            if (found != same->second.end() && found->second != answer)
                change.cases[{answer, found->second}].push_back(where);
        }
        if (!change.cases.empty()) out.push_back(std::move(change));
    }
    return out;
}

}  // namespace

bool Changes::newly_failing() const {
    return std::any_of(came.begin(), came.end(), [](const BehaviourChange& c) { return c.failing; });
}

Changes changes_between(const KeptRun& before, const KeptRun& now) {
    Changes out;
    out.came = lacking(now, before);
    out.went = lacking(before, now);
    out.answers = changed_answers(before, now);
    const auto old_names = implementations_of(before), new_names = implementations_of(now);
    out.new_implementations = only_in_first(new_names, old_names);
    out.gone_implementations = only_in_first(old_names, new_names);
    if (before.cases && now.cases) {
        out.new_cases = only_in_first(*now.cases, *before.cases);
        out.gone_cases = only_in_first(*before.cases, *now.cases);
    }
    for (const auto& [subject, version] : now.versions) {
        const auto old = before.versions.find(subject);
        if (old != before.versions.end() && old->second != version)
            out.versions.push_back(fmt::format("{}: {}, now {}", subject, old->second, version));
    }
    return out;
}

KeptRun updated(const KeptRun& baseline, const KeptRun& run) {
    KeptRun out;
    out.versions = baseline.versions;
    for (const auto& [subject, version] : run.versions) out.versions[subject] = version;
    const auto ran = implementations_of(run);
    for (const auto& [name, behaviour] : baseline.behaviours) {
        KeptBehaviour kept = behaviour;
        const std::string& format = name.format;
        if (ran.contains(name.implementation))
            std::erase_if(kept.cases, [&](const std::string& one) { return asked(run, format, one); });
        if (!kept.cases.empty()) out.behaviours[name] = std::move(kept);
    }
    for (const auto& [name, behaviour] : run.behaviours) {
        KeptBehaviour& kept = out.behaviours[name];
        kept.failing = behaviour.failing;
        kept.sentence = behaviour.sentence;
        kept.cases.insert(behaviour.cases.begin(), behaviour.cases.end());
    }
    return out;
}

}  // namespace nachklang

// A group that agrees so far is split by the next layer's digests; each split is reported once, where it shows, and
// its parts go on to the next layer.
#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

#include <nachklang/compare.hpp>

namespace nachklang {
namespace {

using Group = std::vector<const Voice*>;

class Comparer {
  public:
    Comparer(const Case& c, Operation operation, const std::vector<Voice>& voices)
        : case_(c), operation_(operation), voices_(voices) {}

    std::vector<Disagreement> run() {
        std::map<OutcomeKind, Group> verdicts;
        for (const Voice& voice : voices_)
            if (voice.outcome != OutcomeKind::unsupported) verdicts[voice.outcome].push_back(&voice);
        std::vector<Group> groups;
        for (auto& [kind, group] : verdicts) groups.push_back(group);
        if (groups.size() > 1) report(Layer::verdict, groups, {});
        if (verdicts.contains(OutcomeKind::accepted)) {
            Group shown;
            for (const Voice* voice : verdicts[OutcomeKind::accepted])
                if (voice->digests) shown.push_back(voice);
            refine(shown, Layer::value);
        }
        return std::move(out_);
    }

  private:
    /// Whether an implementation tells all that a layer compares.
    [[nodiscard]] bool tells(const Voice& voice, Layer layer) const {
        return std::none_of(voice.lacks.begin(), voice.lacks.end(), [&](const std::string& word) {
            const auto first = case_.format->layer_of_lack(word);
            return first && layer >= *first;
        });
    }

    void refine(const Group& group, Layer first) {
        std::vector<Group> level{group};
        for (auto layer = static_cast<std::size_t>(first); layer < layer_count; ++layer) {
            std::vector<Group> next;
            for (const Group& part : level) {
                std::map<Digest, Group> by_digest;
                Group untold;
                for (const Voice* voice : part) {
                    if (tells(*voice, static_cast<Layer>(layer)))
                        by_digest[(*voice->digests)[layer]].push_back(voice);
                    else
                        untold.push_back(voice);
                }
                std::vector<Group> groups;
                for (auto& [digest, voices] : by_digest) groups.push_back(std::move(voices));
                if (groups.size() > 1) report(static_cast<Layer>(layer), groups, untold);
                std::move(groups.begin(), groups.end(), std::back_inserter(next));
            }
            level = std::move(next);
        }
    }

    void report(Layer layer, const std::vector<Group>& groups, const Group& untold) {
        Disagreement d;
        d.corpus = case_.corpus;
        d.case_name = case_.name;
        d.operation = operation_;
        d.layer = layer;
        std::vector<std::pair<Camp, Group>> camps;
        for (const Group& group : groups) camps.emplace_back(camp_of(group, layer), group);
        std::sort(camps.begin(), camps.end(), [](const auto& a, const auto& b) {
            if (a.first.engines.size() != b.first.engines.size())
                return a.first.engines.size() > b.first.engines.size();
            return a.first.implementations < b.first.implementations;
        });
        for (const Voice* voice : untold) place_untold(*voice, layer, camps, d);
        std::vector<Group> sorted;
        for (auto& [camp, group] : camps) {
            d.camps.push_back(std::move(camp));
            sorted.push_back(std::move(group));
        }
        explain(d, layer, sorted);
        out_.push_back(std::move(d));
    }

    [[nodiscard]] Camp camp_of(const Group& group, Layer layer) const {
        Camp camp;
        std::set<std::string> engines;
        for (const Voice* voice : group) {
            camp.implementations.push_back(voice->implementation);
            engines.insert(voice->engine);
        }
        std::sort(camp.implementations.begin(), camp.implementations.end());
        camp.engines.assign(engines.begin(), engines.end());
        const Voice& first = *group.front();
        if (layer == Layer::verdict || !first.trace) {
            camp.shown = std::string(name_of(first.outcome));
        } else {
            camp.shown = case_.format->shown(*first.trace, 160);
        }
        return camp;
    }

    void place_untold(const Voice& voice, Layer layer, std::vector<std::pair<Camp, Group>>& camps,
                      Disagreement& d) const {
        const auto index = static_cast<std::size_t>(layer);
        std::vector<Camp*> fitting;
        for (auto& [camp, group] : camps) {
            const auto& trace = group.front()->trace;
            if (trace && case_.format->digests(*trace, voice.lacks)[index] == (*voice.digests)[index])
                fitting.push_back(&camp);
        }
        if (fitting.size() == 1) {
            fitting.front()->untold.push_back(voice.implementation);
        } else {
            d.untold.push_back(voice.implementation);
        }
    }

    static std::map<std::string, std::string> answers_of(const Voice& voice) {
        std::map<std::string, std::string> out;
        if (voice.finding != nullptr)
            for (const GivenAnswer& a : voice.finding->answers) out[a.question] += a.answered + " ";
        return out;
    }

    void explain(Disagreement& d, Layer layer, const std::vector<Group>& groups) const {
        // A question that the camps answer differently explains the split best.
        std::map<std::string, std::set<std::string>> answered;
        for (const Group& group : groups)
            for (const auto& [question, answer] : answers_of(*group.front())) answered[question].insert(answer);
        // Who gave no answer and has no finding either parts by that; a finding of his own explains itself.
        for (const Group& group : groups) {
            const Finding* finding = group.front()->finding;
            if (layer != Layer::verdict || (finding != nullptr && !finding->causes.empty())) continue;
            const auto mine = answers_of(*group.front());
            for (auto& [question, answers] : answered)
                if (!mine.contains(question)) answers.insert("");
        }
        if (layer <= Layer::exact)
            for (const auto& [question, answers] : answered)
                if (answers.size() > 1 && (d.question.empty() || question == case_.question)) d.question = question;
        if (layer <= Layer::value) {
            for (const Group& group : groups) {
                const Finding* finding = group.front()->finding;
                if (finding == nullptr || finding->causes.empty()) continue;
                if (d.cause.empty() || d.cause.starts_with("verdict/")) {
                    d.cause = finding->cause();
                    d.detail = finding->detail;
                }
            }
            if (!d.cause.empty() || !d.question.empty()) return;
            if (layer == Layer::verdict) {
                d.cause = "verdict/accepted-differently";
                return;
            }
        }
        // No finding and no question: what one value has and the other has not.
        const auto &a = groups[0].front()->trace, &b = groups[1].front()->trace;
        if (!a || !b) return;
        CompareOptions options;
        options.layer = layer;
        options.most = 1;
        const Comparison comparison = case_.format->compare(*a, *b, options);
        if (comparison.differences.empty()) return;
        d.cause = comparison.differences.front().cause;
        d.detail = comparison.differences.front().detail;
    }

    const Case& case_;
    Operation operation_;
    const std::vector<Voice>& voices_;
    std::vector<Disagreement> out_;
};

}  // namespace

std::vector<Disagreement> compare_voices(const Case& c, Operation operation, const std::vector<Voice>& voices) {
    return Comparer(c, operation, voices).run();
}

}  // namespace nachklang

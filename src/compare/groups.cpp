// Implementations whose answers agree so far are split by the digests of the next layer. Each split is reported
// once, at the first layer that shows it; its parts go on to the next layer.
#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

#include <nachklang/compare.hpp>

namespace nachklang {
namespace {

using Members = std::vector<const Participant*>;

class Comparer {
  public:
    Comparer(const Case& c, Operation operation, const std::vector<Participant>& participants)
        : case_(c), operation_(operation), participants_(participants) {
        for (const RepresentationLimit& limit : c.format->constants().representation_limits)
            if (is_declared(limit) && occurs(limit)) limits_.push_back(limit);
    }

    std::vector<Disagreement> run() {
        std::map<OutcomeKind, Members> verdicts;
        for (const Participant& participant : participants_)
            if (was_asked(participant.outcome)) verdicts[participant.outcome].push_back(&participant);
        std::vector<Members> parts;
        for (auto& [kind, part] : verdicts) parts.push_back(part);
        if (parts.size() > 1) report(Layer::verdict, parts, {});
        if (verdicts.contains(OutcomeKind::accepted)) {
            Members shown;
            for (const Participant* participant : verdicts[OutcomeKind::accepted])
                if (participant->digests) shown.push_back(participant);
            refine(shown, Layer::value);
        }
        return std::move(out_);
    }

  private:
    /// Whether an implementation tells all that a layer compares.
    [[nodiscard]] bool tells(const Participant& participant, Layer layer) const {
        for (const RepresentationLimit& limit : limits_)
            for (const std::string& word : participant.cannot_represent)
                if (word == limit.word && layer >= limit.first_layer) return false;
        return true;
    }
    [[nodiscard]] bool is_declared(const RepresentationLimit& limit) const {
        return std::any_of(participants_.begin(), participants_.end(), [&](const Participant& participant) {
            return cannot_represent_word(participant.cannot_represent, limit.word);
        });
    }
    /// Whether any answer holds what the limit is about.
    [[nodiscard]] bool occurs(const RepresentationLimit& limit) const {
        return limit.mark.empty() ||
               std::any_of(participants_.begin(), participants_.end(), [&](const Participant& participant) {
                   return participant.trace && participant.trace->text().find(limit.mark) != std::string_view::npos;
               });
    }

    void refine(const Members& whole, Layer first) {
        std::vector<Members> level{whole};
        for (auto layer = static_cast<std::size_t>(first); layer < layer_count; ++layer) {
            std::vector<Members> next;
            for (const Members& part : level) {
                std::map<Digest, Members> by_digest;
                Members not_reported;
                for (const Participant* participant : part) {
                    if (tells(*participant, static_cast<Layer>(layer)))
                        by_digest[(*participant->digests)[layer]].push_back(participant);
                    else
                        not_reported.push_back(participant);
                }
                std::vector<Members> parts;
                for (auto& [digest, participants] : by_digest) parts.push_back(std::move(participants));
                if (parts.size() > 1) report(static_cast<Layer>(layer), parts, not_reported);
                std::move(parts.begin(), parts.end(), std::back_inserter(next));
            }
            level = std::move(next);
        }
    }

    void report(Layer layer, const std::vector<Members>& parts, const Members& not_reported) {
        Disagreement d;
        d.corpus = case_.corpus;
        d.case_name = case_.name;
        d.operation = operation_;
        d.layer = layer;
        std::vector<std::pair<Group, Members>> groups;
        for (const Members& part : parts) groups.emplace_back(group_of(part, layer), part);
        std::sort(groups.begin(), groups.end(), [](const auto& a, const auto& b) {
            if (a.first.engines.size() != b.first.engines.size())
                return a.first.engines.size() > b.first.engines.size();
            return a.first.implementations < b.first.implementations;
        });
        for (const Participant* participant : not_reported) place_not_reported(*participant, layer, groups, d);
        std::vector<Members> sorted;
        for (auto& [group, part] : groups) {
            d.groups.push_back(std::move(group));
            sorted.push_back(std::move(part));
        }
        if (layer != Layer::verdict) tell_apart(d, layer, sorted);
        explain(d, layer, sorted);
        out_.push_back(std::move(d));
    }

    /// Adds to groups that would show the same text what each holds at the first place where they differ.
    void tell_apart(Disagreement& d, Layer layer, const std::vector<Members>& parts) const {
        std::map<std::string, std::vector<std::size_t>> by_text;
        for (std::size_t i = 0; i < d.groups.size(); ++i)
            if (parts[i].front()->trace) by_text[d.groups[i].shown].push_back(i);
        for (const auto& [shown, alike] : by_text) {
            if (alike.size() < 2) continue;
            std::vector<PlacedValue> values;
            for (const std::size_t i : alike)
                values.push_back({&*parts[i].front()->trace, parts[i].front()->cannot_represent, false});
            const auto places = differing_places(*case_.format, values);
            for (std::size_t k = 0; k < alike.size(); ++k) {
                std::string& text = d.groups[alike[k]].shown;
                text = places.empty()
                           ? fmt::format("{} ({})", text, difference_at(layer, parts, alike[0], alike[k]))
                           : fmt::format("{} ({})", text, held_at(places.front(), k));
            }
        }
    }

    static std::string held_at(const DifferingPlace& place, std::size_t value) {
        for (const PlaceAnswer& answer : place.answers)
            if (std::find(answer.values.begin(), answer.values.end(), value) != answer.values.end())
                return fmt::format("{}: {}{}{}", place.path.empty() ? "the whole" : "at " + place.path,
                                   answer.absent ? "nothing" : answer.shown, answer.stored.empty() ? "" : " ",
                                   answer.stored);
        return fmt::format("at {}: not reported", place.path);
    }

    /// What makes a group's value another one than the first group's.
    [[nodiscard]] std::string difference_at(Layer layer, const std::vector<Members>& parts, std::size_t first,
                                            std::size_t other) const {
        if (first == other) return "the first of the two";
        CompareOptions options;
        options.layer = layer;
        options.most = 1;
        const auto differences =
            case_.format->compare(*parts[first].front()->trace, *parts[other].front()->trace, options).differences;
        return differences.empty() ? "differs at the layer " + std::string(name_of(layer))
                                   : differences.front().detail;
    }

    [[nodiscard]] Group group_of(const Members& part, Layer layer) const {
        Group group;
        std::set<std::string> engines;
        for (const Participant* participant : part) {
            group.implementations.push_back(participant->implementation);
            engines.insert(participant->engine);
        }
        std::sort(group.implementations.begin(), group.implementations.end());
        group.engines.assign(engines.begin(), engines.end());
        const Participant& first = *part.front();
        if (layer == Layer::verdict || !first.trace) {
            group.shown = std::string(name_of(first.outcome));
        } else {
            group.shown = case_.format->describe(*first.trace, 160);
        }
        return group;
    }

    void place_not_reported(const Participant& participant, Layer layer,
                            std::vector<std::pair<Group, Members>>& groups, Disagreement& d) const {
        const auto index = static_cast<std::size_t>(layer);
        std::vector<Group*> fitting;
        for (auto& [group, part] : groups) {
            const auto& trace = part.front()->trace;
            if (trace &&
                case_.format->digests(*trace, participant.cannot_represent)[index] == (*participant.digests)[index])
                fitting.push_back(&group);
        }
        if (fitting.size() == 1) {
            fitting.front()->not_reported.push_back(participant.implementation);
        } else {
            d.not_reported.push_back(participant.implementation);
        }
    }

    static std::map<std::string, std::string> answers_of(const Participant& participant) {
        std::map<std::string, std::string> out;
        if (participant.finding != nullptr)
            for (const GivenAnswer& a : participant.finding->answers) out[a.question] += a.answered + " ";
        return out;
    }

    void explain(Disagreement& d, Layer layer, const std::vector<Members>& parts) const {
        // A question that the groups answer differently explains the split best.
        std::map<std::string, std::set<std::string>> answered;
        for (const Members& part : parts)
            for (const auto& [question, answer] : answers_of(*part.front())) answered[question].insert(answer);
        // At the verdict, a participant without answer and finding differs by that alone; a finding explains
        // itself.
        for (const Members& part : parts) {
            const Finding* finding = part.front()->finding;
            if (layer != Layer::verdict || (finding != nullptr && !finding->causes.empty())) continue;
            const auto mine = answers_of(*part.front());
            for (auto& [question, answers] : answered)
                if (!mine.contains(question)) answers.insert("");
        }
        std::vector<std::string> candidates;
        if (layer <= Layer::exact)
            for (const auto& [question, answers] : answered)
                if (answers.size() > 1) candidates.push_back(question);
        if (std::find(candidates.begin(), candidates.end(), case_.question) != candidates.end())
            d.question = case_.question;
        else if (candidates.size() == 1 || (layer != Layer::verdict && !candidates.empty()))
            d.question = candidates.front();
        if (layer <= Layer::value) {
            for (const Members& part : parts) {
                const Finding* finding = part.front()->finding;
                if (finding == nullptr || finding->causes.empty()) continue;
                // A value that one of them changed does not explain why another one refused.
                if (layer == Layer::verdict && finding->kind == FindingKind::altered) continue;
                if (d.cause.empty() || d.cause.starts_with(common_cause::verdict_prefix)) {
                    d.cause = finding->cause();
                    d.detail = finding->detail;
                }
            }
            if (!d.cause.empty() || !d.question.empty()) return;
            if (layer == Layer::verdict) {
                d.cause = common_cause::accepted_differently;
                // Which of several questions parts them, only a smaller document shows.
                if (!candidates.empty())
                    d.detail = fmt::format("the document raises {}; `shrink` finds which of them decides",
                                           fmt::join(candidates, ", "));
                return;
            }
        }
        // No finding and no question explains the split: compare the two values.
        const auto &a = parts[0].front()->trace, &b = parts[1].front()->trace;
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
    const std::vector<Participant>& participants_;
    std::vector<RepresentationLimit> limits_;  // those that an implementation declares and an answer shows
    std::vector<Disagreement> out_;
};

}  // namespace

std::vector<Disagreement> compare_participants(const Case& c, Operation operation,
                                               const std::vector<Participant>& participants) {
    return Comparer(c, operation, participants).run();
}

}  // namespace nachklang

// Behaviours from the mistakes of a run: triggers, modes, peers, gravity and order.
#include <fmt/format.h>

#include <algorithm>
#include <set>

#include "behaviour/collector.hpp"
#include "behaviour/inference.hpp"

namespace nachklang {
namespace behaviour {
namespace {

CaseSet set_of(const std::vector<CaseIndex>& indices, std::size_t size) {
    CaseSet out(size);
    for (const CaseIndex index : indices) out.add(index);
    return out;
}

/// Whether a mistake can only show on what was accepted.
bool needs_acceptance(FindingKind kind) {
    return kind == FindingKind::altered || kind == FindingKind::ill_formed_output;
}

/// Modes that are meant to take more or less, or to repair, are counted apart.
std::string purpose_of(const Subject& subject) {
    const auto found = subject.settings.find("purpose");
    return found == subject.settings.end() ? "" : found->second;
}
bool is_simulated(const Subject& subject) {
    return has_setting(subject.settings, "simulated", "yes");
}
bool is_apart(const Subject& subject) {
    return is_simulated(subject) || !purpose_of(subject).empty();
}

Gravity gravity_of(const Mistake& mistake, std::optional<Basis> basis) {
    switch (mistake.kind) {
        case FindingKind::altered:
            return Gravity::value_changed;
        case FindingKind::ill_formed_output:
            return Gravity::ill_formed_output;
        case FindingKind::too_strict:
            return Gravity::valid_refused;
        case FindingKind::unexplained:
            return Gravity::ill_formed_accepted;
        case FindingKind::too_lenient:
            return basis == Basis::permitted ? Gravity::extension_accepted : Gravity::ill_formed_accepted;
        case FindingKind::open:
            return Gravity::minority_answer;
        default:
            return Gravity::failure;
    }
}

/// A behaviour of one implementation while its modes are gone through.
struct Draft {
    const Subject* first = nullptr;
    Found found;  ///< literals and cases
    std::vector<const Subject*> modes;
    const Shown* shown = nullptr;  ///< of the first mode
};

class Builder {
  public:
    explicit Builder(const OfFormat& cases)
        : cases_(cases), size_(cases.cases.size()), population_(population_of(cases)) {
        for (const auto& [subject, data] : cases.subjects) mistakes_[&data] = data.mistakes;
        for (auto& [name, modes] : modes_by_name()) join_rules(modes);
        for (const auto& [subject, data] : cases.subjects) {
            if (is_apart(*subject)) continue;
            for (const auto& [side, asked] : data.asked) engines_[side].insert(subject->engine);
            for (const auto& [mistake, shown] : mistakes_.at(&data)) add_engine(mistake, subject->engine, shown);
            for (const auto& [answer, shown] : data.answers) add_engine(answer, subject->engine, shown);
        }
    }

    std::vector<Behaviour> run() {
        std::vector<Behaviour> out;
        for (auto& [name, of_name] : modes_by_name()) {
            const std::size_t begin = out.size();
            // Modes for another purpose come last, so that only what they add is theirs.
            std::stable_sort(of_name.begin(), of_name.end(), [](const auto* a, const auto* b) {
                return purpose_of(*a->first) < purpose_of(*b->first);
            });
            add_implementation(out, of_name);
            std::stable_sort(out.begin() + static_cast<std::ptrdiff_t>(begin), out.end(), goes_before);
        }
        return out;
    }

    std::vector<AnswerGiven> answers() const {
        std::vector<AnswerGiven> out;
        const std::vector<const Question*> questions = questions_asked();
        for (const auto& [subject, data] : cases_.subjects)
            for (const Question* question : questions) add_answers(out, *subject, data, *question);
        return out;
    }

  private:
    using Modes = std::vector<const std::pair<const Subject*, OfSubject>*>;

    /// In the order of the run.
    [[nodiscard]] std::vector<std::pair<std::string, Modes>> modes_by_name() const {
        std::vector<std::pair<std::string, Modes>> out;
        for (const auto& entry : cases_.subjects) {
            const std::string& name = entry.first->implementation.name;
            auto known = std::find_if(out.begin(), out.end(), [&](const auto& of) { return of.first == name; });
            if (known == out.end()) known = out.insert(out.end(), {name, {}});
            known->second.push_back(&entry);
        }
        return out;
    }

    /// Ill-formed texts may break several rules for one reason, as Infinity and -Infinity do. They are one mistake
    /// where one trigger explains all cases of the rarer rule and most of the other's.
    void join_rules(const Modes& modes) {
        std::map<Mistake, std::size_t> sizes;
        for (const auto* mode : modes)
            for (const auto& [mistake, shown] : mistakes_.at(&mode->second))
                if (mistake.kind == FindingKind::ill_formed_output) sizes[mistake] += shown.cases.size();
        std::vector<Mistake> left;
        for (const auto& [mistake, size] : sizes) left.push_back(mistake);
        std::stable_sort(left.begin(), left.end(),
                         [&](const Mistake& a, const Mistake& b) { return sizes.at(a) > sizes.at(b); });
        for (std::size_t i = 0; i < left.size(); ++i)
            for (std::size_t j = i + 1; j < left.size();) {
                if (!is_one_mistake(modes, left[i], left[j])) {
                    ++j;
                    continue;
                }
                for (const auto* mode : modes) join(mistakes_.at(&mode->second), left[i], left[j]);
                left.erase(left.begin() + static_cast<std::ptrdiff_t>(j));
            }
    }
    [[nodiscard]] bool is_one_mistake(const Modes& modes, const Mistake& a, const Mistake& b) const {
        if (a.side != b.side || a.cause != b.cause) return false;
        bool seen = false;
        for (const auto* mode : modes) {
            const Shown *first = shown_of(a, mode->second), *second = shown_of(b, mode->second);
            if (first == nullptr || second == nullptr) continue;
            seen = true;
            const CaseSet most = set_of(first->cases, size_), rest = set_of(second->cases, size_);
            CaseSet both = most;
            both.add(rest);
            const Found found = population_.triggers_of(asked_of(a, mode->second), both).front();
            if (found.literals.empty() || found.cases.count_with(rest) < rest.count() ||
                found.cases.count_with(most) * 2 < most.count())
                return false;
        }
        return seen;
    }
    static void join(std::map<Mistake, Shown>& mistakes, const Mistake& into, const Mistake& from) {
        const auto found = mistakes.find(from);
        if (found == mistakes.end()) return;
        const Shown more = std::move(found->second);
        mistakes.erase(found);
        Shown& all = mistakes[into];
        all.cases.insert(all.cases.end(), more.cases.begin(), more.cases.end());
        all.seen.insert(all.seen.end(), more.seen.begin(), more.seen.end());
        all.failing = all.failing || more.failing;
        all.declared = all.declared && more.declared;
        all.excused = all.excused && more.excused;
        if (all.excuse.empty()) all.excuse = more.excuse;
        const auto also = more.also.value_or(std::vector<std::string>{});
        if (!all.also) all.also = also;
        std::erase_if(*all.also, [&](const std::string& cause) {
            return std::find(also.begin(), also.end(), cause) == also.end();
        });
    }

    /// Those of the format, then those of the cases' sheets.
    [[nodiscard]] std::vector<const Question*> questions_asked() const {
        std::vector<const Question*> out;
        const auto add = [&](const Question& question) {
            if (std::none_of(out.begin(), out.end(), [&](const Question* q) { return q->id == question.id; }))
                out.push_back(&question);
        };
        for (const Question& question : cases_.format->constants().questions) add(question);
        for (const KnownCase& known : cases_.cases)
            if (known.test_case->own_question) add(*known.test_case->own_question);
        return out;
    }

    static Population population_of(const OfFormat& cases) {
        std::vector<const std::vector<FeatureValue>*> features;
        for (const KnownCase& known : cases.cases) features.push_back(&known.features);
        const Features* facet = cases.format->features();
        return {facet == nullptr ? std::span<const Feature>{} : facet->feature_list(), features};
    }

    void add_engine(const Mistake& mistake, const std::string& engine, const Shown& shown) {
        CaseSet& set = by_engine_[mistake].try_emplace(engine, size_).first->second;
        for (const CaseIndex index : shown.cases) set.add(index);
        if (!mistake.question.empty()) answering_[{mistake.side, mistake.question}].insert(engine);
    }

    /// Answers of encoding are listed apart: other cases raise the question there.
    void add_answers(std::vector<AnswerGiven>& out, const Subject& subject, const OfSubject& data,
                     const Question& question) const {
        for (const Side side : {Side::decoder, Side::either, Side::encoder}) {
            std::vector<const std::pair<const Mistake, Shown>*> given;
            for (const auto& entry : data.answers)
                if (entry.first.question == question.id && entry.first.side == side) given.push_back(&entry);
            if (given.empty()) continue;
            // The rule comes last: the answer that keeps the value, else the most frequent one.
            const auto rank = [&](const auto* entry) {
                const KnownAnswer* known = question.find(answer_of(entry->first));
                return std::pair(known != nullptr && known->keeps_value, entry->second.cases.size());
            };
            std::stable_sort(given.begin(), given.end(),
                             [&](const auto* a, const auto* b) { return rank(a) < rank(b); });
            CaseSet asked = set_of(data.questions.at(question.id), size_);
            asked.keep(set_of(data.asked.at(side), size_));
            for (const auto* entry : given)
                out.push_back(answer_given(subject, *entry, asked, entry == given.back() && given.size() > 1,
                                           given.size() > 1));
        }
    }

    static std::string answer_of(const Mistake& answer) { return answer.cause.substr(answer.question.size() + 1); }

    [[nodiscard]] AnswerGiven answer_given(const Subject& subject, const std::pair<const Mistake, Shown>& entry,
                                           const CaseSet& asked, bool otherwise, bool one_of_several) const {
        const auto& [answer, shown] = entry;
        AnswerGiven out{subject.name(),    cases_.format,
                        answer.side,       answer.question,
                        answer_of(answer), shown.cases.size(),
                        asked.count(),     {},
                        otherwise,         cases_.cases[shown.cases[smallest_of(shown, nullptr)]].test_case};
        if (!one_of_several || otherwise) return out;
        const auto found = population_.triggers_of(asked, set_of(shown.cases, size_));
        if (!found.empty()) add_trigger(out.trigger, found.front());
        return out;
    }

    static bool goes_before(const Behaviour& a, const Behaviour& b) {
        const auto key = [](const Behaviour& x) {
            return std::tuple(!x.purpose.empty(), x.gravity, !x.peers.empty(), !x.trigger.inferred(),
                              x.trigger.features.size(), -static_cast<std::ptrdiff_t>(x.cases.size()));
        };
        const auto first = key(a), second = key(b);
        return first != second ? first < second : a.sentence < b.sentence;
    }

    void add_implementation(std::vector<Behaviour>& out, const Modes& modes) {
        std::set<Mistake> mistakes;
        for (const auto* mode : modes) {
            for (const auto& [mistake, shown] : mistakes_.at(&mode->second)) mistakes.insert(mistake);
            for (const auto& [answer, shown] : mode->second.answers)
                if (is_of_minority(answer)) mistakes.insert(answer);
        }
        std::vector<Behaviour> own;
        for (const Mistake& mistake : mistakes) {
            std::vector<Draft> drafts;
            for (const auto* mode : modes) add_mode(drafts, mistake, *mode);
            for (const Draft& draft : drafts) own.push_back(behaviour_of(mistake, draft, modes));
        }
        join_sides(own, modes);
        std::move(own.begin(), own.end(), std::back_inserter(out));
    }

    /// How well a behaviour of a known side takes in one of either side.
    enum class Fit : std::uint8_t { none, has_trigger, has_none, same };
    /// A mode that shows round trips only does not show at which side a mistake is, nor does a second round trip.
    /// The same mistake at a known side is its own: of such a mode on the same cases or with the same trigger; of
    /// one that decodes as well its decoder's, whichever document it was given first.
    static Fit fit_of(const Behaviour& either, const Behaviour& known, const Modes& modes) {
        if (either.side != Side::either || known.side == Side::either || known.kind != either.kind ||
            known.cause != either.cause || known.rule != either.rule)
            return Fit::none;
        if (known.trigger.features == either.trigger.features ||
            std::includes(known.cases.begin(), known.cases.end(), either.cases.begin(), either.cases.end()))
            return Fit::same;
        const bool decodes = std::ranges::all_of(modes, [&](const auto* mode) {
            return std::ranges::find(either.modes, mode->first->mode) == either.modes.end() ||
                   mode->second.asked.contains(Side::decoder);
        });
        if (known.side != Side::decoder || !decodes) return Fit::none;
        if (!known.trigger.inferred()) return Fit::has_none;
        // The trigger must still explain most cases.
        return known.trigger.caught * 2 >= known.cases.size() + either.cases.size() ? Fit::has_trigger : Fit::none;
    }
    static void take_in(Behaviour& known, const Behaviour& either, const Modes& modes) {
        for (const std::string& mode : either.modes)
            if (std::ranges::find(known.modes, mode) == known.modes.end()) known.modes.push_back(mode);
        known.all_modes = static_cast<std::size_t>(std::ranges::count_if(modes, [&](const auto* mode) {
            return mode->second.asked.contains(known.side) || mode->second.asked.contains(Side::either);
        }));
        std::vector<std::string> cases;
        std::ranges::set_union(known.cases, either.cases, std::back_inserter(cases));
        known.cases = std::move(cases);
        known.sentence = sentence_of(known);
    }
    static void join_sides(std::vector<Behaviour>& own, const Modes& modes) {
        for (std::size_t i = 0; i < own.size();) {
            const auto known = std::ranges::max_element(
                own, {}, [&](const Behaviour& candidate) { return fit_of(own[i], candidate, modes); });
            if (fit_of(own[i], *known, modes) == Fit::none) {
                ++i;
                continue;
            }
            take_in(*known, own[i], modes);
            own.erase(own.begin() + static_cast<std::ptrdiff_t>(i));
        }
    }

    [[nodiscard]] const Shown* shown_of(const Mistake& mistake, const OfSubject& data) const {
        const auto& list = mistake.question.empty() ? mistakes_.at(&data) : data.answers;
        const auto found = list.find(mistake);
        return found == list.end() ? nullptr : &found->second;
    }

    /// The cases on which a mistake could show.
    [[nodiscard]] CaseSet asked_of(const Mistake& mistake, const OfSubject& data) const {
        if (!mistake.question.empty()) return set_of(data.questions.at(mistake.question), size_);
        const auto of = [&](const std::map<Side, std::vector<CaseIndex>>& list) {
            const auto found = list.find(mistake.side);
            return found == list.end() ? CaseSet(size_) : set_of(found->second, size_);
        };
        const bool lenient = mistake.kind == FindingKind::too_lenient || mistake.kind == FindingKind::unexplained;
        if (lenient) return of(data.no_documents);
        CaseSet out = of(needs_acceptance(mistake.kind) ? data.accepted : data.asked);
        // A document must be there to be altered or refused.
        if (needs_acceptance(mistake.kind) || mistake.kind == FindingKind::too_strict)
            out.remove(of(data.no_documents));
        return out;
    }

    void add_mode(std::vector<Draft>& drafts, const Mistake& mistake,
                  const std::pair<const Subject*, OfSubject>& mode) const {
        const Shown* shown = shown_of(mistake, mode.second);
        if (shown == nullptr) return;
        const CaseSet asked = asked_of(mistake, mode.second);
        CaseSet left = set_of(shown->cases, size_);
        for (Draft& draft : drafts) {
            // What an earlier mode's trigger explains of this mode, too.
            CaseSet matching = with_literals(draft.found);
            const std::size_t of_asked = matching.count_with(asked), of_shown = matching.count_with(left);
            if (of_shown == 0 || of_shown * 10 < of_asked * 7) continue;
            draft.modes.push_back(mode.first);
            matching.keep(left);
            left.remove(matching);
            draft.found.cases.add(matching);
            draft.found.caught = with_literals(draft.found).count_with(draft.found.cases);
        }
        std::vector<Found> triggers = population_.triggers_of(asked, left);
        // A rule broken and a question answered are triggers by themselves; of other mistakes, many pieces show
        // that the trigger is none that the features tell.
        constexpr std::size_t most_pieces = 3;
        const bool named = !mistake.rule.empty() || !mistake.question.empty();
        if (triggers.size() > (named ? 1 : most_pieces))
            triggers = named ? folded(triggers, left) : sure_ones(triggers, left);
        for (Found& found : triggers) {
            if (Draft* alike = alike_of(drafts, found))
                join(*alike, found, mode.first);
            else
                drafts.push_back({mode.first, std::move(found), {mode.first}, shown});
        }
    }

    /// A draft with the same features, or with none as well: of one mistake it is one behaviour, on whichever cases
    /// each mode shows it.
    [[nodiscard]] Draft* alike_of(std::vector<Draft>& drafts, const Found& found) const {
        const auto ids_of = [&](const Found& of) {
            std::vector<std::string> out;
            for (const Literal& literal : of.literals) out.push_back(literal.id(population_.table()));
            return out;
        };
        const auto known = std::find_if(drafts.begin(), drafts.end(),
                                        [&](const Draft& draft) { return ids_of(draft.found) == ids_of(found); });
        return known == drafts.end() ? nullptr : &*known;
    }

    void join(Draft& draft, const Found& found, const Subject* mode) const {
        if (std::find(draft.modes.begin(), draft.modes.end(), mode) == draft.modes.end())
            draft.modes.push_back(mode);
        draft.found.cases.add(found.cases);
        draft.found.matching = std::max(draft.found.matching, found.matching);
        draft.found.caught = with_literals(draft.found).count_with(draft.found.cases);
    }

    /// Of many triggers the first two, if each of their cases shows the mistake and they explain three cases in
    /// four; the rest is one piece without a trigger.
    static std::vector<Found> sure_ones(const std::vector<Found>& triggers, const CaseSet& all) {
        std::vector<Found> out;
        CaseSet rest = all;
        for (const Found& found : std::span(triggers).first(2)) {
            if (found.literals.empty() || found.caught < found.matching) continue;
            rest.remove(found.cases);
            out.push_back(found);
        }
        const std::size_t count = rest.count();
        if (count * 4 > all.count()) return folded(triggers, all);
        out.push_back({{}, std::move(rest), count, count});
        return out;
    }

    /// A rule or an extension is a trigger by itself. Of several conjunctions only one that explains most cases is
    /// kept, for all of them.
    static std::vector<Found> folded(const std::vector<Found>& triggers, const CaseSet& all) {
        const Found& first = triggers.front();
        if (first.literals.empty() || first.caught * 2 < all.count()) return {{{}, all, all.count(), all.count()}};
        Found out = first;
        out.cases = all;
        return {std::move(out)};
    }

    [[nodiscard]] CaseSet with_literals(const Found& found) const {
        return found.literals.empty() ? found.cases : cases_of(found.literals);
    }

    Behaviour behaviour_of(const Mistake& mistake, const Draft& draft, const Modes& modes) const {
        const Subject& subject = *draft.first;
        Behaviour out;
        out.implementation = subject.implementation.name;
        out.engine = subject.engine;
        for (const Subject* mode : draft.modes) out.modes.push_back(mode->mode);
        out.all_modes = static_cast<std::size_t>(std::count_if(modes.begin(), modes.end(), [&](const auto* mode) {
            return mode->second.asked.contains(mistake.side);
        }));
        out.purpose = purpose_of(subject);
        out.simulated = is_simulated(subject);
        out.format = cases_.format;
        out.side = mistake.side;
        out.kind = mistake.kind;
        out.cause = mistake.cause;
        out.rule = mistake.rule;
        out.failing = draft.shown->failing;
        out.declared = draft.shown->declared;
        if (draft.shown->excused) out.excused = draft.shown->excuse;
        out.also = draft.shown->also.value_or(std::vector<std::string>{});
        add_trigger(out.trigger, draft.found);
        add_cases(out, draft);
        out.gravity = gravity_of(mistake, out.basis);
        add_peers(out, mistake, draft);
        out.sentence = sentence_of(out);
        return out;
    }

    void add_trigger(Trigger& out, const Found& found) const {
        for (const Literal& literal : found.literals) {
            out.features.push_back(literal.id(population_.table()));
            const char* joint = literal.negated ? ", unless " : " and ";
            out.clause += (out.clause.empty() ? "" : joint) + literal.clause(population_.table());
        }
        out.caught = found.caught;
        out.matching = std::max(found.matching, out.caught);
    }

    /// The cases, and the smallest of them that the first mode shows, with what its finding says.
    void add_cases(Behaviour& out, const Draft& draft) const {
        for (std::size_t i = 0; i < size_; ++i)
            if (draft.found.cases.has(i)) out.cases.push_back(cases_.cases[i].test_case->name);
        std::sort(out.cases.begin(), out.cases.end());
        const std::size_t smallest = smallest_of(*draft.shown, &draft.found.cases);
        out.witness = cases_.cases[draft.shown->cases[smallest]].test_case;
        out.witness_mode = draft.first->name();
        out.clause = out.witness->clause;
        if (draft.shown->seen.empty()) return;  // an answer
        const Seen& seen = draft.shown->seen[smallest];
        out.witness_operation = seen.operation;
        out.basis = seen.basis;
        out.clause = seen.clause;
        out.detail = seen.detail;
    }

    /// Of the cases shown, or of those of them that are in a set, the index of the smallest.
    [[nodiscard]] std::size_t smallest_of(const Shown& shown, const CaseSet* among) const {
        std::optional<std::size_t> out;
        for (std::size_t i = 0; i < shown.cases.size(); ++i)
            if ((among == nullptr || among->has(shown.cases[i])) &&
                (!out || cases_.cases[shown.cases[i]].size < cases_.cases[shown.cases[*out]].size))
                out = i;
        return *out;
    }

    /// Engines that make the mistake on at least half of the cases.
    void add_peers(Behaviour& out, const Mistake& mistake, const Draft& draft) const {
        const auto engines = engines_.find(mistake.side);
        out.engines = engines == engines_.end() ? 0 : engines->second.size();
        const auto known = by_engine_.find(mistake);
        if (known == by_engine_.end()) return;
        const std::size_t all = draft.found.cases.count();
        for (const auto& [engine, set] : known->second)
            if (engine != out.engine && set.count_with(draft.found.cases) * 2 >= all) out.peers.push_back(engine);
    }

    /// Whether fewer than half of the engines answer so, on the cases where they do.
    [[nodiscard]] bool is_of_minority(const Mistake& answer) const {
        const auto known = by_engine_.find(answer);
        if (known == by_engine_.end()) return false;
        const std::size_t answering = answering_.at({answer.side, answer.question}).size();
        return answering >= 3 && known->second.size() * 2 < answering;
    }

    const OfFormat& cases_;
    std::size_t size_;
    Population population_;
    std::map<const OfSubject*, std::map<Mistake, Shown>> mistakes_;
    std::map<Side, std::set<std::string>> engines_;
    std::map<Mistake, std::map<std::string, CaseSet>> by_engine_;
    std::map<std::pair<Side, std::string>, std::set<std::string>> answering_;  // engines, by question
};

std::string replaced(std::string text, std::string_view what, std::string_view by) {
    for (auto at = text.find(what); at != std::string::npos; at = text.find(what, at + by.size()))
        text.replace(at, what.size(), by);
    return text;
}

std::string predicate_of(const Behaviour& behaviour) {
    if (behaviour.kind == FindingKind::open) {
        const auto cut = behaviour.cause.find(':');
        const std::string id = behaviour.cause.substr(0, cut);
        const Question* question = question_of(*behaviour.witness, id);
        return fmt::format("answers \"{}\" to the open question {}{}", behaviour.cause.substr(cut + 1), id,
                           question == nullptr || question->about.empty() ? "" : " (" + question->about + ")");
    }
    const Cause* cause = find_cause(*behaviour.format, behaviour.cause);
    if (cause == nullptr || cause->does.empty()) return "shows " + behaviour.cause;
    const char* reads = behaviour.side == Side::decoder   ? "reads"
                        : behaviour.side == Side::encoder ? "writes"
                                                          : "reads or writes";
    const bool writes = behaviour.witness != nullptr && behaviour.witness->value.has_value();
    return replaced(replaced(cause->does, "{reads}", reads), "{document}",
                    writes ? "to write a value" : "a document");
}

}  // namespace

std::vector<Behaviour> behaviours_of(const OfFormat& cases) {
    return Builder(cases).run();
}

std::vector<AnswerGiven> answers_of(const OfFormat& cases) {
    return Builder(cases).answers();
}

std::string sentence_of(const Behaviour& behaviour) {
    std::string out = predicate_of(behaviour);
    if (!behaviour.trigger.clause.empty())
        // A conjunction that stands for a rule explains most of its cases.
        out += (behaviour.trigger.caught < behaviour.cases.size() ? ", mostly if " : " if ") +
               behaviour.trigger.clause;
    else if (!behaviour.rule.empty())
        out += " (" + behaviour.rule + ")";
    out.front() = static_cast<char>(std::toupper(static_cast<unsigned char>(out.front())));
    return out + ".";
}

}  // namespace behaviour

std::string_view name_of(Side side) {
    constexpr std::array<std::string_view, 3> names{"decoder", "encoder", "either"};
    return names[static_cast<std::size_t>(side)];
}

std::string_view name_of(Gravity gravity) {
    constexpr std::array<std::string_view, 7> names{"failure",        "value-changed",       "ill-formed-output",
                                                    "valid-refused",  "ill-formed-accepted", "extension-accepted",
                                                    "minority-answer"};
    return names[static_cast<std::size_t>(gravity)];
}

}  // namespace nachklang

// Sorts results into mistakes as they come; see collector.hpp. Inference waits for the run's end.
#include "behaviour/collector.hpp"

#include <algorithm>
#include <span>

#include <nachklang/record_types.hpp>
#include <nachklang/sequence.hpp>

namespace nachklang {
namespace behaviour {
namespace {

KnownCase known(const Result& result, FeatureCache& cache) {
    const Case& c = *result.test_case;
    KnownCase out{result.enclosed, &c, content_of(c).size(), {}, {}};
    const Features* features = c.format->features();
    if (features == nullptr) return out;
    out.features = cache.features_of(c);
    for (const FeatureValue& value : out.features) {
        const Feature& feature = features->feature_list()[value.feature];
        if (feature.broken_rule) out.broken_rule = feature.clause;
    }
    return out;
}

/// The rule that splits a cause which many rules share; empty for others.
std::string rule_of(const Finding& finding, const KnownCase& known_case) {
    if (finding.kind == FindingKind::ill_formed_output) return finding.clause;
    if (finding.kind != FindingKind::too_lenient && finding.kind != FindingKind::unexplained) return "";
    return finding.answers.empty() ? known_case.broken_rule : finding.answers.front().question;
}

/// All results of one case and subject.
struct OfCase {
    const Result* reads = nullptr;    ///< a document, into a value
    const Result* goes_on = nullptr;  ///< writes what it read
    const Result* in_pieces = nullptr;
    const Result* writes = nullptr;  ///< a value
};

bool is_mistake(const Result* result) {
    return result != nullptr && !is_settled(result->finding.kind) &&
           result->finding.kind != FindingKind::adapter_fault;
}

/// Whether a round trip only hands on what the decode already changed, let through or refused.
bool is_handed_on(const Result& decode, const Result& round_trip) {
    if (!is_mistake(&decode)) return false;
    const Finding &first = decode.finding, &second = round_trip.finding;
    if (first.kind == second.kind && first.cause() == second.cause()) return true;
    if (first.kind != FindingKind::altered) return first.kind == second.kind;
    // Both show a value: equal ones mean that encoding changed nothing.
    constexpr auto value = static_cast<std::size_t>(Layer::value);
    return decode.digests && round_trip.digests && (*decode.digests)[value] == (*round_trip.digests)[value];
}

void record(Shown& shown, CaseIndex index, const Result& result, bool keep_finding) {
    const Finding& finding = result.finding;
    if (shown.cases.empty() || shown.cases.back() != index) {
        shown.cases.push_back(index);
        if (keep_finding) shown.seen.push_back({result.operation, finding.basis, finding.clause, finding.detail});
    }
    shown.failing = shown.failing || finding.failing();
    shown.declared = shown.declared && finding.declared;
    shown.excused = shown.excused && !finding.excused.empty();
    if (shown.excuse.empty()) shown.excuse = finding.excused;
    std::vector<std::string> others;
    for (const Difference& cause : finding.causes)
        if (cause.cause != finding.cause()) others.push_back(cause.cause);
    if (!shown.also) shown.also = others;
    std::erase_if(*shown.also, [&](const std::string& cause) {
        return std::find(others.begin(), others.end(), cause) == others.end();
    });
}

void add_mistake(OfFormat& cases, OfSubject& subject, Side side, CaseIndex index, const Result& result) {
    const Mistake mistake{
        side, result.finding.kind, result.finding.cause(), rule_of(result.finding, cases.cases[index]), {}};
    record(subject.mistakes[mistake], index, result, true);
}

void add_answers(OfSubject& subject, Side side, CaseIndex index, const Result& result) {
    for (const GivenAnswer& given : result.finding.answers) {
        auto& asked = subject.questions[given.question];
        if (asked.empty() || asked.back() != index) asked.push_back(index);
        const Mistake answer{side, FindingKind::open, given.question + ":" + given.answered, "", given.question};
        record(subject.answers[answer], index, result, false);
    }
}

void add_asked(OfSubject& subject, Side side, CaseIndex index, const Result& result) {
    if (!was_asked(result.outcome.kind) || is_adapters_fault(result.outcome.kind)) return;
    const auto once = [&](std::vector<CaseIndex>& list) {
        if (list.empty() || list.back() != index) list.push_back(index);
    };
    once(subject.asked[side]);
    if (result.outcome.kind == OutcomeKind::accepted) once(subject.accepted[side]);
    const FindingKind kind = result.finding.kind;
    const bool rightly_refused = kind == FindingKind::conforms && result.outcome.kind == OutcomeKind::rejected;
    if (rightly_refused || kind == FindingKind::too_lenient || kind == FindingKind::unexplained)
        once(subject.no_documents[side]);
}

void take(OfFormat& cases, OfSubject& subject, const OfCase& of, FeatureCache& features) {
    const auto asked = [](const Result* r) { return r != nullptr && was_asked(r->outcome.kind) ? r : nullptr; };
    const Result *decode = asked(of.reads), *round_trip = asked(of.goes_on), *encode = asked(of.writes);
    if (decode != nullptr) {
        const CaseIndex index = cases.index_of(*decode, features);
        add_asked(subject, Side::decoder, index, *decode);
        if (is_mistake(decode)) add_mistake(cases, subject, Side::decoder, index, *decode);
        add_answers(subject, Side::decoder, index, *decode);
    }
    if (round_trip != nullptr) {
        const CaseIndex index = cases.index_of(*round_trip, features);
        const Side side = decode != nullptr ? Side::encoder : Side::either;
        add_asked(subject, side, index, *round_trip);
        if (side != Side::either) add_asked(subject, Side::either, index, *round_trip);
        if (is_mistake(round_trip) && (decode == nullptr || !is_handed_on(*decode, *round_trip))) {
            const Side at_fault = round_trip->finding.encoder_at_fault ? side : Side::either;
            add_mistake(cases, subject, at_fault, index, *round_trip);
        }
        if (decode == nullptr) add_answers(subject, side, index, *round_trip);
    }
    if (const Result* pieces = asked(of.in_pieces); pieces != nullptr && is_mistake(pieces)) {
        const CaseIndex index = cases.index_of(*pieces, features);
        if (decode == nullptr || !is_handed_on(*decode, *pieces))
            add_mistake(cases, subject, Side::decoder, index, *pieces);
    }
    if (encode != nullptr) {
        const CaseIndex index = cases.index_of(*encode, features);
        add_asked(subject, Side::encoder, index, *encode);
        if (is_mistake(encode)) add_mistake(cases, subject, Side::encoder, index, *encode);
        add_answers(subject, Side::encoder, index, *encode);
    }
}

}  // namespace

OfSubject& OfFormat::of(const Subject& subject) {
    for (auto& [known_subject, data] : subjects)
        if (known_subject == &subject) return data;
    return subjects.emplace_back(&subject, OfSubject{}).second;
}

CaseIndex OfFormat::index_of(const Result& result, FeatureCache& features) {
    const Case& c = *result.test_case;
    const auto [found, added] = index.try_emplace(c.corpus + "\n" + c.name, static_cast<CaseIndex>(cases.size()));
    if (added) cases.push_back(known(result, features));
    return found->second;
}

}  // namespace behaviour

struct BehaviourCollector::State {
    std::shared_ptr<FeatureCache> features;
    std::vector<behaviour::OfFormat> formats;

    behaviour::OfFormat& of(const Format& format) {
        for (auto& known : formats)
            if (known.format == &format) return known;
        formats.emplace_back().format = &format;
        return formats.back();
    }
};

BehaviourCollector::BehaviourCollector(std::shared_ptr<FeatureCache> features) : state_(std::make_unique<State>()) {
    state_->features = std::move(features);
}
BehaviourCollector::~BehaviourCollector() = default;

void BehaviourCollector::chunk(const ChunkReport& report) {
    // Results come by case, then subject, then operation.
    const std::span<const Result> results(report.results);
    for (std::size_t i = 0; i < results.size();) {
        behaviour::OfFormat& cases = state_->of(*results[i].test_case->format);
        behaviour::OfCase of;
        std::size_t end = i;
        for (; end < results.size() && results[end].subject == results[i].subject &&
               results[end].test_case == results[i].test_case;
             ++end) {
            const OperationInfo& info = info_of(results[end].operation);
            (info.in_pieces                  ? of.in_pieces
             : info.output == Content::value ? of.reads
             : info.continues                ? of.goes_on
                                             : of.writes) = &results[end];
        }
        behaviour::take(cases, cases.of(*results[i].subject), of, *state_->features);
        i = end;
    }
}

namespace {

/// The features of every document of a sequence, by their values; of one that several have, the largest amount.
std::vector<FeatureValue> features_of_all(const Features& features, const Trace& list) {
    std::map<std::size_t, FeatureValue> all;
    for (const std::string_view value : values_in_list(list))
        if (const auto trace = Trace::parse(std::string(value)))
            for (const FeatureValue& found : features.features_of_value(*trace)) {
                FeatureValue& known = all.try_emplace(found.feature, found).first->second;
                known.amount = std::max(known.amount, found.amount);
            }
    std::vector<FeatureValue> out;
    for (const auto& [feature, found] : all) out.push_back(found);
    return out;
}

/// The record type of that name, or null.
const RecordType* type_of(std::string_view name) {
    const auto types = record_types();
    const auto found = std::ranges::find(types, name, &RecordType::name);
    return found == types.end() ? nullptr : &*found;
}

/// Of a record of one field its integers' kind, "int32" or "int64", also where the field is a list of them.
std::string_view integers_of(std::string_view name) {
    const RecordType* type = type_of(name);
    if (type == nullptr || type->fields.size() != 1) return "";
    std::string_view kind = type->fields.front().kind;
    if (kind.starts_with('[')) kind = kind.substr(1, kind.size() - 2);
    return kind.starts_with("int") ? kind : "";
}

/// What the kind of its one field says of a record: "field-integer" and "field-int32", "field-list" …
std::vector<std::string> record_features(std::string_view name) {
    const RecordType* type = type_of(name);
    if (type == nullptr || type->fields.empty()) return {};
    if (std::ranges::any_of(type->fields, &RecordField::of_one_kind)) return {"field-several", "field-kinds"};
    if (type->fields.size() > 1) return {"field-several"};
    const RecordField& field = type->fields.front();
    const std::string_view kind = field.kind;
    if (kind.starts_with('[')) return {"field-list"};
    if (kind.starts_with('{')) return {"field-map"};
    if (type_of(kind) != nullptr) return {"field-record"};
    std::vector<std::string> out{"field-" + std::string(kind)};
    if (kind.starts_with("int")) out.emplace_back("field-integer");
    if (field.is_attribute) out.emplace_back("field-attribute");
    return out;
}

/// With what the record adds that the document is decoded into, of the features that the format lists.
void add_record(const Features& features, const Case& c, std::vector<FeatureValue>& known) {
    const auto list = features.feature_list();
    std::vector<std::string> added = record_features(c.record);
    if (const std::string_view kind = integers_of(c.record); !kind.empty()) {
        added.emplace_back("holds-integers");
        const std::string beyond = "beyond-" + std::string(kind);
        if (std::ranges::any_of(known, [&](const FeatureValue& value) {
                return std::string_view(list[value.feature].id).ends_with(beyond);
            }))
            added.emplace_back("beyond-field");
    }
    for (const std::string& id : added)
        if (const auto found = std::ranges::find(list, id, &Feature::id); found != list.end())
            known.push_back({static_cast<std::uint16_t>(found - list.begin()), 1});
    std::ranges::sort(known, {}, &FeatureValue::feature);
}

}  // namespace

const std::vector<FeatureValue>& FeatureCache::features_of(const Case& c) {
    const std::string_view content = content_of(c);
    const auto [known, added] = features_.try_emplace(std::string(c.format->name()) +
                                                      (c.sequence   ? " sequence "
                                                       : c.document ? " document "
                                                                    : " value ") +
                                                      digest_of(content).hex() + " " + c.record);
    if (added) {
        const Features& features = *c.format->features();
        known->second = c.sequence && c.expected ? features_of_all(features, *c.expected)
                        : c.document             ? features.features_of(content)
                                                 : features.features_of_value(*c.value);
        if (!c.record.empty()) add_record(features, c, known->second);
    }
    return known->second;
}

std::vector<AnswerGiven> BehaviourCollector::answers() const {
    std::vector<AnswerGiven> out;
    for (const behaviour::OfFormat& cases : state_->formats) {
        auto of_format = behaviour::answers_of(cases);
        std::move(of_format.begin(), of_format.end(), std::back_inserter(out));
    }
    return out;
}

std::vector<Behaviour> BehaviourCollector::behaviours() const {
    std::vector<Behaviour> out;
    for (const behaviour::OfFormat& cases : state_->formats) {
        auto of_format = behaviour::behaviours_of(cases);
        std::move(of_format.begin(), of_format.end(), std::back_inserter(out));
    }
    return out;
}

}  // namespace nachklang

// What values lose on their way through an implementation, from the findings about its round trips and encoders.
// Only what must be kept counts: a text that is no document may come out as anything.
#include <fmt/format.h>

#include <algorithm>

#include <nachklang/experiments.hpp>

#include "experiments/losses.hpp"
#include "experiments/writers.hpp"

namespace nachklang {
namespace {

struct Changes {
    std::map<std::string, RoundTripSurvey::Change> all;

    void add(const std::string& what, const Case& of, const std::string& detail) {
        auto& change = all.try_emplace(what, RoundTripSurvey::Change{what, 0, &of, detail}).first->second;
        ++change.cases;
        const auto size = [](const Case& c) { return std::pair(content_of(c).size(), std::string_view(c.name)); };
        if (size(of) >= size(*change.smallest)) return;
        change.smallest = &of;
        change.detail = detail;
    }
    [[nodiscard]] std::vector<RoundTripSurvey::Change> most_first() const {
        std::vector<RoundTripSurvey::Change> out;
        for (const auto& [what, change] : all) out.push_back(change);
        std::ranges::stable_sort(out, std::ranges::greater{}, &RoundTripSurvey::Change::cases);
        return out;
    }
};

/// One way through one implementation, as results come.
class Way {
  public:
    Way(const Subject& subject, Operation operation) { survey_.subject = &subject, survey_.operation = operation; }

    void take(const Result& r) {
        const FindingKind kind = r.finding.kind;
        const bool accepted = r.outcome.kind == OutcomeKind::accepted;
        const bool of_a_document = kind == FindingKind::conforms
                                       ? accepted
                                       : kind != FindingKind::too_lenient && kind != FindingKind::unexplained;
        if (!was_asked(r.outcome.kind) || is_adapters_fault(r.outcome.kind) || !of_a_document) return;
        ++survey_.asked;
        if (r.outcome.kind == OutcomeKind::rejected)
            ++survey_.refused;
        else if (accepted)
            take_written(r);
        else
            ++survey_.failed;
    }
    [[nodiscard]] RoundTripSurvey survey() const {
        RoundTripSurvey out = survey_;
        out.losses = losses_.most_first();
        out.respellings = respellings_.most_first();
        return out;
    }

  private:
    void take_written(const Result& r) {
        const Case& of = *r.test_case;
        std::set<std::string> losses;
        for (const Difference& cause : r.finding.causes) losses.insert(cause.cause);
        for (const GivenAnswer& given : r.finding.answers)
            if (auto loss = loss_of(*of.format, given)) losses.insert(std::move(*loss));
        for (const std::string& loss : losses) losses_.add(loss, of, r.finding.detail);
        if (!losses.empty()) {
            ++survey_.changed;
        } else if (of.document && r.outcome.body == *of.document) {
            ++survey_.same_bytes;
        }
        if (losses.empty())
            for (const std::string& what : r.finding.reformatted) respellings_.add(what, of, "");
    }

    RoundTripSurvey survey_;
    Changes losses_, respellings_;
};

}  // namespace

std::vector<RoundTripSurvey> survey_round_trips(std::span<const Case> cases, std::span<const Subject> subjects,
                                                const ExecutorFactory& make, const CampaignOptions& options) {
    std::vector<Subject> asked;
    std::map<std::pair<std::string, Operation>, Way> ways;
    for (const Subject& subject : subjects) asked.push_back(written_only(subject));
    for (const Subject& subject : subjects)
        for (const OperationInfo& row : operations())
            if (row.output == Content::document)
                ways.try_emplace({subject.name(), row.operation}, Way(subject, row.operation));
    FunctionSink sink([&](const ChunkReport& report) {
        for (const Result& r : report.results)
            if (const auto way = ways.find({r.subject->name(), r.operation});
                way != ways.end() && r.enclosed_of == nullptr)
                way->second.take(r);
    });
    run_campaign(cases, asked, make, options, sink);
    std::vector<RoundTripSurvey> out;
    for (const Subject& subject : subjects)
        for (const OperationInfo& row : operations())
            if (const auto way = ways.find({subject.name(), row.operation}); way != ways.end())
                if (RoundTripSurvey survey = way->second.survey(); survey.asked > 0)
                    out.push_back(std::move(survey));
    return out;
}

}  // namespace nachklang

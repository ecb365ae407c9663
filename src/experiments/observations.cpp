// See observations.hpp.
#include <fmt/format.h>

#include <algorithm>

#include <nachklang/observations.hpp>
#include <nachklang/text.hpp>

namespace nachklang {
namespace {

/// At the verdict the groups alone are kept: a split there is explained by the smallest document, and not by what
/// a larger one shows beside it.
Observation observed(const Disagreement& d) {
    std::vector<std::string> groups;
    for (const Group& group : d.groups)
        groups.push_back(fmt::format("{}: {}", d.layer == Layer::verdict ? group.shown : "",
                                     fmt::join(group.implementations, " ")));
    std::sort(groups.begin(), groups.end());
    const std::string why = d.question.empty() ? d.cause : "question " + d.question;
    const auto layer = name_of(d.layer);
    return {d.operation,
            std::string(layer),
            why,
            d.cause,
            d.question,
            d.detail,
            fmt::format("{} {} {} | {}", name_of(d.operation), layer, d.layer == Layer::verdict ? "" : why,
                        fmt::join(groups, " | ")),
            fmt::format("{} at the layer {}, {} groups", why, layer, d.groups.size()),
            false};
}

/// One for each cause of a finding that is not settled.
std::vector<Observation> observed(const Result& r) {
    std::vector<Observation> out;
    if (is_settled(r.finding.kind)) return out;
    for (const Difference& d : r.finding.causes) {
        const std::string key =
            fmt::format("{} {}: {} {}", r.subject->name(), name_of(r.operation), name_of(r.finding.kind), d.cause);
        out.push_back({r.operation, "", d.cause, d.cause, "", d.detail, key, key, r.finding.failing()});
    }
    return out;
}

/// The rule that a text breaks (empty for a document), and whether another reading makes it one.
std::pair<std::string, bool> rule_broken(const Format& format, const Subject& subject,
                                         const std::string& document) {
    const Reading reading = format.read(document, {format.reading_settings(subject.settings), {}});
    return {reading.rejection ? reading.rejection->clause : "",
            format.expect(document, subject.settings, {}).is_no_text};
}

/// Whether nothing but a question that the document raises speaks for the cause of a split.
bool is_unexplained(const Disagreement& d) {
    return d.layer == Layer::verdict && (d.cause.empty() || d.cause == common_cause::accepted_differently);
}

constexpr std::size_t longest_shown = 80;

/// The first implementation of each group, in the order of the run.
std::vector<Subject> representatives(const Disagreement& d, std::span<const Subject> subjects) {
    std::vector<Subject> out;
    for (const Group& group : d.groups) {
        const auto found = std::find_if(subjects.begin(), subjects.end(), [&](const Subject& s) {
            return !s.recorded &&
                   std::binary_search(group.implementations.begin(), group.implementations.end(), s.name());
        });
        if (found != subjects.end()) out.push_back(*found);
    }
    return out;
}

const Observation* split_of(const std::vector<Observation>& shown, Operation operation) {
    const auto found = std::find_if(shown.begin(), shown.end(), [&](const Observation& o) {
        return o.operation == operation && o.layer == name_of(Layer::verdict);
    });
    return found == shown.end() ? nullptr : &*found;
}

}  // namespace

std::function<void(Disagreement&, const Case&)> split_explainer(std::span<const Subject> subjects,
                                                                const ExecutorFactory& make, std::size_t budget,
                                                                std::atomic<bool>* cancelled) {
    return [=](Disagreement& d, const Case& of) {
        if (!is_unexplained(d) || !of.document || !of.external_file.empty() || !of.record.empty()) return;
        const std::vector<Subject> asked = representatives(d, subjects);
        if (asked.size() < d.groups.size() || (cancelled != nullptr && *cancelled)) return;
        const DocumentProbe probe(*of.format, asked, make, cancelled);
        const auto shown = probe.observe({&*of.document, 1}).front();
        const Observation* split = split_of(shown, d.operation);
        if (split == nullptr) return;  // they differ only beside other documents
        const Shrunk shrunk = probe.smallest(*of.document, split->key, budget);
        const auto smaller = probe.observe({&shrunk.document, 1}).front();
        const Observation* decided = split_of(smaller, d.operation);
        if (decided == nullptr || decided->key != split->key) return;
        d.question = decided->question;
        d.cause = decided->cause;
        d.detail = fmt::format("the smallest document that splits them: {}{}{}",
                               text::printable_excerpt(shrunk.document, longest_shown),
                               decided->detail.empty() ? "" : "; ", decided->detail);
    };
}

std::vector<std::vector<Observation>> DocumentProbe::observe(std::span<const std::string> documents) const {
    std::vector<Case> cases;
    for (std::size_t i = 0; i < documents.size(); ++i)
        cases.push_back(case_of_document("shrinking", std::to_string(i), format_, documents[i]));
    std::vector<std::vector<Observation>> out(documents.size());
    CampaignOptions options;
    options.workers = 2;
    options.cancelled = cancelled_;
    FunctionSink sink([&](const ChunkReport& report) {
        for (const Disagreement& d : report.disagreements) out[std::stoul(d.case_name)].push_back(observed(d));
        for (const Result& r : report.results)
            if (r.enclosed_of == nullptr)
                for (Observation& o : observed(r)) out[std::stoul(r.test_case->name)].push_back(std::move(o));
    });
    run_campaign(cases, subjects_, make_, options, sink);
    return out;
}

Shrunk DocumentProbe::smallest(std::string document, const std::string& key, std::size_t budget,
                               const std::function<void(std::size_t size, std::size_t tried)>& progress,
                               const std::function<bool(const std::string&)>& accept) const {
    const auto still_shows = [&](std::span<const std::string> candidates) {
        std::vector<bool> out;
        const auto shown = observe(candidates);
        for (std::size_t i = 0; i < shown.size(); ++i)
            out.push_back(
                std::any_of(shown[i].begin(), shown[i].end(), [&](const Observation& o) { return o.key == key; }) &&
                (!accept || accept(candidates[i])));
        return out;
    };
    return shrink(format_, std::move(document), still_shows, budget, progress);
}

std::optional<std::string> smallest_witness(const Behaviour& behaviour, std::span<const Subject> subjects,
                                            const ExecutorFactory& make, std::size_t budget,
                                            std::atomic<bool>* cancelled) {
    const Case& witness = *behaviour.witness;
    const auto subject = std::find_if(subjects.begin(), subjects.end(),
                                      [&](const Subject& s) { return s.name() == behaviour.witness_mode; });
    if (!witness.document || !witness.external_file.empty() || behaviour.format->reduction() == nullptr ||
        subject == subjects.end())
        return std::nullopt;
    const DocumentProbe probe(*behaviour.format, {&*subject, 1}, make, cancelled);
    const auto shown = probe.observe({&*witness.document, 1}).front();
    const auto kept = std::find_if(shown.begin(), shown.end(), [&](const Observation& o) {
        return o.layer.empty() && o.cause == behaviour.cause && o.operation == behaviour.witness_operation;
    });
    if (kept == shown.end()) return std::nullopt;
    const auto rule = rule_broken(*behaviour.format, *subject, *witness.document);
    return probe
        .smallest(
            *witness.document, kept->key, budget, {},
            [&](const std::string& smaller) { return rule_broken(*behaviour.format, *subject, smaller) == rule; })
        .document;
}

}  // namespace nachklang

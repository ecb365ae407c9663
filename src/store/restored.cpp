#include "store/restored.hpp"

#include <fmt/format.h>

#include <charconv>
#include <stdexcept>

#include <nachklang/campaign.hpp>

namespace nachklang::store {
namespace {

/// The value of an enumeration that has a name; its values follow each other from 0.
template <class Kind>
Kind named(std::string_view name, Kind last) {
    for (std::size_t i = 0; i <= static_cast<std::size_t>(last); ++i)
        if (name_of(static_cast<Kind>(i)) == name) return static_cast<Kind>(i);
    throw std::runtime_error(fmt::format("'{}' is no name of its kind", name));
}

std::uint64_t from_hex(std::string_view digits) {
    std::uint64_t out = 0;
    std::from_chars(digits.data(), digits.data() + digits.size(), out, 16);
    return out;
}

LayerDigests digests_of(const ResultRecord& record) {
    LayerDigests out{};
    for (const auto& [layer, hex] : record.digests) {
        const auto index = static_cast<std::size_t>(named(layer, Layer::order));
        out[index] = {from_hex(std::string_view(hex).substr(0, 16)), from_hex(std::string_view(hex).substr(16))};
    }
    return out;
}

Disagreement disagreement_of(const DisagreementRecord& record) {
    Disagreement out;
    out.corpus = record.corpus;
    out.case_name = record.case_name;
    out.operation = find_operation(record.operation).value();
    out.layer = named(record.layer, Layer::order);
    out.question = record.question;
    out.cause = record.cause;
    out.detail = record.detail;
    out.not_reported = record.not_reported;
    for (const auto& g : record.groups)
        out.groups.push_back({g.implementations, g.engines, g.not_reported, g.shown});
    return out;
}

}  // namespace

Restorer::Restorer(std::span<const Case> cases, std::span<const Subject> subjects) {
    for (const Case& c : cases) cases_[{text::in_utf8(c.corpus), text::in_utf8(c.name)}] = &c;
    for (const Subject& s : subjects) subjects_[s.name()] = &s;
}

const Subject& Restorer::subject(const std::string& name) const {
    const auto found = subjects_.find(name);
    if (found == subjects_.end()) throw std::runtime_error("a stored result names the implementation " + name);
    return *found->second;
}

const Case* Restorer::find(const std::string& corpus, const std::string& name) const {
    const auto found = cases_.find({corpus, name});
    return found == cases_.end() ? nullptr : found->second;
}

Result Restorer::result_of(const ResultRecord& record) {
    Result out;
    out.subject = &subject(record.implementation);
    out.test_case = find(record.corpus, record.case_name);
    if (out.test_case == nullptr) {
        out.enclosed_of = find(record.corpus, record.case_name.substr(0, record.case_name.rfind(':')));
        if (out.enclosed_of == nullptr)
            throw std::runtime_error("a stored result names the case " + record.case_name);
        auto& enclosed = enclosed_[out.enclosed_of];
        if (!enclosed) enclosed = enclosed_case(*out.enclosed_of);
        out.enclosed = enclosed;
        out.test_case = enclosed.get();
    }
    out.operation = find_operation(record.operation).value();
    out.outcome.kind = named(record.outcome, OutcomeKind::not_asked);
    out.outcome.body = record.message;
    out.outcome.offset = record.offset;
    out.outcome.line = record.line;
    out.outcome.column = record.column;
    out.outcome.reported = record.reported;
    out.outcome.log = record.log;
    Finding& finding = out.finding;
    finding.kind = named(record.finding, FindingKind::not_asked);
    if (!record.basis.empty()) finding.basis = named(record.basis, Basis::fidelity);
    for (const auto& a : record.answers) finding.answers.push_back({a.question, a.answered, a.declared});
    for (const auto& c : record.causes) finding.causes.push_back({c.at, c.cause, c.detail, "", ""});
    finding.reformatted = record.reformatted;
    for (const auto& a : record.advice) finding.advice.push_back({{a.offset, 1, 1}, a.message, a.clause});
    finding.detail = record.detail;
    finding.clause = record.clause;
    finding.shipped_adapter = record.failing && finding.kind == FindingKind::adapter_fault;
    finding.encoder_at_fault = record.encoder_at_fault;
    finding.excused = record.excused;
    finding.declared = !record.failing && finding.failing();
    if (!record.digests.empty()) out.digests = digests_of(record);
    return out;
}

Restorer::Restored Restorer::chunk(std::string_view lines) {
    Restored out;
    enclosed_.clear();
    while (!lines.empty()) {
        const std::size_t end = lines.find('\n');
        const auto record = parse_record(lines.substr(0, end));
        if (!record.ok()) throw std::runtime_error("a stored record is damaged: " + record.problem().what);
        lines.remove_prefix(std::min(end, lines.size() - 1) + 1);
        if (const auto* result = std::get_if<ResultRecord>(&record.value()))
            out.report.results.push_back(result_of(*result));
        else if (const auto* split = std::get_if<DisagreementRecord>(&record.value()))
            out.report.disagreements.push_back(disagreement_of(*split));
        else if (const auto* incident = std::get_if<IncidentRecord>(&record.value()))
            out.incidents.push_back({&subject(incident->implementation), incident->sequence,
                                     named(incident->outcome, OutcomeKind::not_asked), incident->detail});
    }
    return out;
}

}  // namespace nachklang::store

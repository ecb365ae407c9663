// SARIF 2.1.0: rules are causes, results are behaviours. A case is a logical location: it lies in a corpus, not in
// the author's sources.
#include <map>
#include <nlohmann/json.hpp>

#include <nachklang/report.hpp>

namespace nachklang {
namespace {

using Json = nlohmann::ordered_json;

std::string meaning_of(const BehaviourRecord& b) {
    const Format* format = find_format(b.format);
    const Cause* cause = format == nullptr ? nullptr : find_cause(*format, b.cause);
    return cause == nullptr ? b.cause : cause->meaning;
}

Json rule_of(const BehaviourRecord& b) {
    Json out{{"id", b.cause}, {"shortDescription", {{"text", meaning_of(b)}}}};
    if (!b.clause.empty()) out["properties"] = {{"clause", b.clause}};
    return out;
}

Json result_of(const BehaviourRecord& b, std::size_t rule) {
    Json locations = Json::array();
    for (const std::string& name : b.cases)
        locations.push_back(
            {{"logicalLocations", {{{"fullyQualifiedName", b.format + "/" + name}, {"kind", "member"}}}}});
    Json suppressions = Json::array();
    if (!b.excused.empty()) suppressions.push_back({{"kind", "external"}, {"justification", b.excused}});
    return {{"ruleId", b.cause},
            {"ruleIndex", rule},
            {"level", b.failing || !b.excused.empty() ? "error" : "note"},
            {"suppressions", std::move(suppressions)},
            {"message", {{"text", b.implementation + ": " + b.sentence}}},
            {"locations", std::move(locations)},
            {"partialFingerprints",
             {{"behaviour/v1",
               b.format + "|" + b.implementation + "|" + b.side + "|" + b.finding + "|" + b.cause + "|" + b.rule}}},
            {"properties",
             {{"implementation", b.implementation},
              {"modes", b.modes},
              {"gravity", b.gravity},
              {"clause", b.clause},
              {"witness", b.witness},
              {"peers", b.peers}}}};
}

}  // namespace

std::string sarif_report(const ReportInput& input) {
    Json rules = Json::array(), results = Json::array();
    std::map<std::string, std::size_t> rule_at;
    for (const BehaviourRecord& b : input.behaviours) {
        const auto [at, is_new] = rule_at.emplace(b.cause, rules.size());
        if (is_new) rules.push_back(rule_of(b));
        results.push_back(result_of(b, at->second));
    }
    const Json out{{"$schema", "https://docs.oasis-open.org/sarif/sarif/v2.1.0/os/schemas/sarif-schema-2.1.0.json"},
                   {"version", "2.1.0"},
                   {"runs",
                    {{{"tool", {{"driver", {{"name", "Nachklang"}, {"rules", std::move(rules)}}}}},
                      {"invocations", {{{"executionSuccessful", !input.interrupted}}}},
                      {"results", std::move(results)}}}}};
    return out.dump(1) + "\n";
}

}  // namespace nachklang

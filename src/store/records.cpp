// Records as lines of JSON. One table of fields a record, in the order of docs/records.md, serves writing and
// reading.
#include <fmt/format.h>

#include <nlohmann/json.hpp>

#include <nachklang/store.hpp>

namespace nachklang {
namespace {

using Json = nlohmann::ordered_json;

Json or_null(const std::optional<std::uint64_t>& value) {
    return value ? Json(*value) : Json(nullptr);
}
Json or_null(const std::string& value) {
    return value.empty() ? Json(nullptr) : Json(value);
}
std::string text_or_empty(const Json& value) {
    return value.is_null() ? "" : value.get<std::string>();
}
std::optional<std::uint64_t> number_or_nothing(const Json& value) {
    return value.is_null() ? std::nullopt : std::optional(value.get<std::uint64_t>());
}

/// Bytes that are UTF-8 go in as text, others as hexadecimal digits under another name.
void put_bytes(Json& record, const std::string& key, const std::string& bytes) {
    if (bytes.empty()) {
        record[key] = nullptr;
    } else if (!text::first_ill_formed(bytes)) {
        record[key] = bytes;
    } else {
        record[key] = nullptr;
        record[key + "_hex"] = text::to_hex(bytes);
    }
}
std::string bytes_of(const Json& record, const std::string& key) {
    if (const auto hex = record.find(key + "_hex"); hex != record.end()) {
        auto bytes = text::from_hex(hex->get<std::string>());
        if (!bytes) throw std::invalid_argument(key + "_hex is not hexadecimal");
        return *bytes;
    }
    return text_or_empty(record.at(key));
}

std::string text_of(const RunRecord& r) {
    Json out;
    out["record"] = "run";
    out["version"] = 1;
    out["cases"] = r.cases;
    out["implementations"] = Json::array();
    for (const RunRecord::Entry& e : r.implementations)
        out["implementations"].push_back({{"implementation", e.implementation},
                                          {"version", e.version},
                                          {"engine", e.engine},
                                          {"reach", e.reach}});
    for (std::size_t i = 0; i < r.implementations.size(); ++i)
        if (r.implementations[i].simulated) out["implementations"][i]["simulated"] = true;
    if (!r.part) return out.dump();
    out["part"] = r.part->part;
    out["parts"] = r.part->parts;
    out["setup"] = r.part->setup;
    out["cases_digest"] = r.part->cases;
    for (std::size_t i = 0; i < r.part->settings.size(); ++i)
        out["implementations"][i]["settings"] = r.part->settings[i];
    return out.dump();
}

std::string text_of(const ResultRecord& r) {
    Json out;
    out["record"] = "result";
    out["corpus"] = r.corpus;
    out["format"] = r.format;
    out["case"] = r.case_name;
    out["implementation"] = r.implementation;
    out["operation"] = r.operation;
    out["outcome"] = r.outcome;
    out["finding"] = r.finding;
    out["basis"] = or_null(r.basis);
    out["answers"] = Json::array();
    for (const auto& a : r.answers)
        out["answers"].push_back(
            {{"question", a.question}, {"answered", a.answered}, {"declared", or_null(a.declared)}});
    out["cause"] = r.causes.empty() ? Json(nullptr) : or_null(r.causes.front().cause);
    out["causes"] = Json::array();
    for (const auto& c : r.causes) {
        out["causes"].push_back({{"cause", c.cause}, {"at", c.at}});
        if (!c.detail.empty()) out["causes"].back()["detail"] = c.detail;
    }
    out["reformatted"] = r.reformatted;
    for (const auto& a : r.advice)
        out["advice"].push_back({{"clause", a.clause}, {"message", a.message}, {"offset", a.offset}});
    out["detail"] = or_null(r.detail);
    out["clause"] = or_null(r.clause);
    out["digests"] = nullptr;
    for (const auto& [layer, digest] : r.digests) out["digests"][layer] = digest;
    out["offset"] = or_null(r.offset);
    out["line"] = or_null(r.line);
    out["column"] = or_null(r.column);
    if (!r.unit.empty()) out["unit"] = r.unit;
    put_bytes(out, "message", r.message);
    if (r.failing) out["failing"] = true;
    if (!r.encoder_at_fault) out["encoder_at_fault"] = false;
    if (!r.excused.empty()) out["excused"] = r.excused;
    if (!r.reported.empty()) put_bytes(out, "reported", r.reported);
    put_bytes(out, "log", r.log);
    return out.dump();
}

std::string text_of(const IncidentRecord& i) {
    Json out;
    out["record"] = "incident";
    out["implementation"] = i.implementation;
    out["sequence"] = i.sequence;
    out["outcome"] = i.outcome;
    out["detail"] = or_null(i.detail);
    return out.dump();
}

std::string text_of(const TimesRecord& t) {
    Json out{{"record", "times"}, {"seconds", Json::object()}};
    for (const auto& [implementation, seconds] : t.seconds) out["seconds"][implementation] = seconds;
    return out.dump();
}

std::string text_of(const ChunkRecord& c) {
    return Json({{"record", "chunk"}, {"number", c.number}}).dump();
}

std::string text_of(const EndRecord& e) {
    return Json({{"record", "end"}, {"interrupted", e.interrupted}}).dump();
}

std::string text_of(const DisagreementRecord& d) {
    Json out;
    out["record"] = "disagreement";
    out["corpus"] = d.corpus;
    out["case"] = d.case_name;
    out["operation"] = d.operation;
    out["layer"] = d.layer;
    out["question"] = or_null(d.question);
    out["cause"] = or_null(d.cause);
    out["detail"] = or_null(d.detail);
    out["groups"] = Json::array();
    for (const auto& group : d.groups)
        out["groups"].push_back({{"shown", group.shown},
                                 {"implementations", group.implementations},
                                 {"engines", group.engines},
                                 {"not_reported", group.not_reported}});
    out["not_reported"] = d.not_reported;
    return out.dump();
}

std::string text_of(const BehaviourRecord& b) {
    Json out;
    out["record"] = "behaviour";
    out["format"] = b.format;
    out["implementation"] = b.implementation;
    out["engine"] = b.engine;
    out["modes"] = b.modes;
    out["purpose"] = or_null(b.purpose);
    out["side"] = b.side;
    out["finding"] = b.finding;
    out["basis"] = or_null(b.basis);
    out["cause"] = b.cause;
    out["rule"] = or_null(b.rule);
    out["clause"] = or_null(b.clause);
    out["gravity"] = b.gravity;
    out["failing"] = b.failing;
    if (!b.excused.empty()) out["excused"] = b.excused;
    out["sentence"] = b.sentence;
    out["trigger"] = b.trigger;
    out["matching"] = b.matching;
    out["cases"] = b.cases;
    out["witness"] = b.witness;
    out["detail"] = or_null(b.detail);
    out["also"] = b.also;
    out["peers"] = b.peers;
    out["engines"] = b.engines;
    if (b.smallest) put_bytes(out, "smallest", *b.smallest);
    return out.dump();
}

BehaviourRecord behaviour_from(const Json& in) {
    const auto names = [&](const char* key) { return in.at(key).get<std::vector<std::string>>(); };
    BehaviourRecord out;
    out.format = in.at("format");
    out.implementation = in.at("implementation");
    out.engine = in.at("engine");
    out.modes = names("modes");
    out.purpose = text_or_empty(in.at("purpose"));
    out.side = in.at("side");
    out.finding = in.at("finding");
    out.basis = text_or_empty(in.at("basis"));
    out.cause = in.at("cause");
    out.rule = text_or_empty(in.at("rule"));
    out.clause = text_or_empty(in.at("clause"));
    out.gravity = in.at("gravity");
    out.failing = in.at("failing").get<bool>();
    out.excused = in.value("excused", "");
    out.sentence = in.at("sentence");
    out.trigger = names("trigger");
    out.matching = in.at("matching").get<std::uint64_t>();
    out.cases = names("cases");
    out.witness = in.at("witness");
    out.detail = text_or_empty(in.at("detail"));
    out.also = names("also");
    out.peers = names("peers");
    out.engines = in.at("engines").get<std::uint64_t>();
    if (in.contains("smallest") || in.contains("smallest_hex")) out.smallest = bytes_of(in, "smallest");
    return out;
}

RunRecord run_from(const Json& in) {
    RunRecord out;
    if (in.at("version") != 1) throw std::invalid_argument("the version is not 1");
    out.cases = in.at("cases").get<std::size_t>();
    for (const Json& e : in.at("implementations"))
        out.implementations.push_back(
            {e.at("implementation"), e.at("version"), e.at("engine"), e.at("reach"), e.contains("simulated")});
    if (!in.contains("part")) return out;
    out.part = PartOfRun{in.at("part").get<std::size_t>(),
                         in.at("parts").get<std::size_t>(),
                         in.at("setup"),
                         in.at("cases_digest"),
                         {}};
    for (const Json& e : in.at("implementations")) out.part->settings.push_back(e.at("settings").get<Settings>());
    return out;
}

ResultRecord result_from(const Json& in) {
    ResultRecord out;
    out.corpus = in.at("corpus");
    out.format = in.at("format");
    out.case_name = in.at("case");
    out.implementation = in.at("implementation");
    out.operation = in.at("operation");
    out.outcome = in.at("outcome");
    out.finding = in.at("finding");
    out.basis = text_or_empty(in.at("basis"));
    for (const Json& a : in.at("answers"))
        out.answers.push_back({a.at("question"), a.at("answered"), text_or_empty(a.at("declared"))});
    for (const Json& c : in.at("causes")) out.causes.push_back({c.at("cause"), c.at("at"), c.value("detail", "")});
    out.reformatted = in.at("reformatted").get<std::vector<std::string>>();
    if (const auto advice = in.find("advice"); advice != in.end())
        for (const Json& a : *advice)
            out.advice.push_back({a.at("clause"), a.at("message"), a.at("offset").get<std::uint64_t>()});
    out.detail = text_or_empty(in.at("detail"));
    out.clause = text_or_empty(in.at("clause"));
    if (!in.at("digests").is_null())
        for (const auto& [layer, digest] : in.at("digests").items()) out.digests.emplace_back(layer, digest);
    out.offset = number_or_nothing(in.at("offset"));
    out.line = number_or_nothing(in.at("line"));
    out.column = number_or_nothing(in.at("column"));
    out.encoder_at_fault = in.value("encoder_at_fault", true);
    out.unit = in.value("unit", "");
    out.message = bytes_of(in, "message");
    out.failing = in.contains("failing");
    out.excused = in.value("excused", "");
    if (in.contains("reported")) out.reported = bytes_of(in, "reported");
    out.log = bytes_of(in, "log");
    return out;
}

TimesRecord times_from(const Json& in) {
    TimesRecord out;
    for (const auto& [implementation, seconds] : in.at("seconds").items())
        out.seconds.emplace_back(implementation, seconds.get<double>());
    return out;
}

IncidentRecord incident_from(const Json& in) {
    return {in.at("implementation"), in.at("sequence").get<std::vector<std::string>>(), in.at("outcome"),
            text_or_empty(in.at("detail"))};
}

DisagreementRecord disagreement_from(const Json& in) {
    DisagreementRecord out;
    out.corpus = in.at("corpus");
    out.case_name = in.at("case");
    out.operation = in.at("operation");
    out.layer = in.at("layer");
    out.question = text_or_empty(in.at("question"));
    out.cause = text_or_empty(in.at("cause"));
    out.detail = text_or_empty(in.at("detail"));
    const auto names = [](const Json& list) { return list.get<std::vector<std::string>>(); };
    for (const Json& g : in.at("groups"))
        out.groups.push_back(
            {g.at("shown"), names(g.at("implementations")), names(g.at("engines")), names(g.at("not_reported"))});
    out.not_reported = names(in.at("not_reported"));
    return out;
}

}  // namespace

std::string_view answer_of(const Result& result) {
    const bool shows =
        result.outcome.kind == OutcomeKind::accepted && info_of(result.operation).output == Content::value;
    if (!shows) return result.outcome.body;
    return result.value ? result.value->text() : std::string_view{};
}

RunRecord record_of(const RunHeader& header) {
    RunRecord out;
    out.cases = header.cases;
    for (const Subject& s : header.subjects)
        out.implementations.push_back({s.name(), s.version, s.engine, std::string(name_of(s.implementation.reach)),
                                       has_setting(s.settings, "simulated", "yes")});
    return out;
}

ResultRecord record_of(const Result& r) {
    ResultRecord out;
    out.corpus = text::in_utf8(r.test_case->corpus);
    out.format = r.test_case->format->name();
    out.case_name = text::in_utf8(r.test_case->name);
    out.implementation = r.subject->name();
    out.operation = name_of(r.operation);
    out.outcome = name_of(r.outcome.kind);
    out.finding = name_of(r.finding.kind);
    if (r.finding.basis) out.basis = name_of(*r.finding.basis);
    for (const GivenAnswer& a : r.finding.answers) out.answers.push_back({a.question, a.answered, a.declared});
    for (const Difference& d : r.finding.causes)
        out.causes.push_back(
            {d.cause, text::in_utf8(d.at), d.detail == r.finding.detail ? "" : text::in_utf8(d.detail)});
    out.reformatted = r.finding.reformatted;
    for (const Advice& a : r.finding.advice)
        out.advice.push_back({a.clause, text::in_utf8(a.message), a.position.offset});
    out.detail = text::in_utf8(r.finding.detail);
    out.clause = r.finding.clause;
    if (r.digests)
        for (std::size_t layer = 1; layer < layer_count; ++layer)
            out.digests.emplace_back(name_of(static_cast<Layer>(layer)), (*r.digests)[layer].hex());
    out.offset = r.outcome.offset;
    out.line = r.outcome.line;
    out.column = r.outcome.column;
    if (r.outcome.unit != "byte") out.unit = r.outcome.unit;
    if (r.outcome.kind != OutcomeKind::accepted) out.message = r.outcome.body;
    out.reported = r.outcome.reported;
    out.failing = r.finding.failing();
    out.encoder_at_fault = r.finding.encoder_at_fault;
    out.excused = text::in_utf8(r.finding.excused);
    out.log = r.outcome.log;
    return out;
}

IncidentRecord record_of(const IncidentReport& i) {
    IncidentRecord out{i.subject->name(), {}, std::string(name_of(i.outcome)), text::in_utf8(i.detail)};
    for (const std::string& step : i.sequence) out.sequence.push_back(text::in_utf8(step));
    return out;
}

DisagreementRecord record_of(const Disagreement& d) {
    DisagreementRecord out{text::in_utf8(d.corpus),
                           text::in_utf8(d.case_name),
                           std::string(name_of(d.operation)),
                           std::string(name_of(d.layer)),
                           d.question,
                           d.cause,
                           text::in_utf8(d.detail),
                           {},
                           d.not_reported};
    for (const Group& group : d.groups)
        out.groups.push_back(
            {text::in_utf8(group.shown), group.implementations, group.engines, group.not_reported});
    return out;
}

BehaviourRecord record_of(const Behaviour& b) {
    BehaviourRecord out;
    out.format = b.format->name();
    out.implementation = b.implementation;
    out.engine = b.engine;
    out.modes = b.modes;
    out.purpose = b.purpose;
    out.side = name_of(b.side);
    out.finding = name_of(b.kind);
    if (b.basis) out.basis = name_of(*b.basis);
    out.cause = b.cause;
    out.rule = b.rule;
    out.clause = b.clause;
    out.gravity = name_of(b.gravity);
    out.failing = b.failing;
    out.excused = text::in_utf8(b.excused);
    out.sentence = b.sentence;
    out.trigger = b.trigger.features;
    out.matching = b.trigger.matching;
    for (const std::string& name : b.cases) out.cases.push_back(text::in_utf8(name));
    out.witness = text::in_utf8(b.witness->name);
    out.detail = text::in_utf8(b.detail);
    out.also = b.also;
    out.peers = b.peers;
    out.engines = b.engines;
    out.smallest = b.smallest;
    return out;
}

std::string line_of(const Record& record) {
    return std::visit([](const auto& r) { return text_of(r); }, record);
}

Checked<Record> parse_record(std::string_view line) {
    try {
        const Json in = Json::parse(line);
        const std::string kind = in.at("record");
        std::optional<Record> record;
        if (kind == "run") record.emplace(run_from(in));
        if (kind == "result") record.emplace(result_from(in));
        if (kind == "incident") record.emplace(incident_from(in));
        if (kind == "behaviour") record.emplace(behaviour_from(in));
        if (kind == "disagreement") record.emplace(disagreement_from(in));
        if (kind == "times") record.emplace(times_from(in));
        if (kind == "chunk") record.emplace(ChunkRecord{in.at("number").get<std::size_t>()});
        if (kind == "end") record.emplace(EndRecord{in.at("interrupted").get<bool>()});
        if (record) return std::move(*record);
        return Problem{"record", fmt::format("'{}' is not a kind of record", text::printable(kind)),
                       "see docs/records.md"};
    } catch (const std::exception& error) {
        return Problem{"record", text::printable(error.what()), "see docs/records.md"};
    }
}

}  // namespace nachklang

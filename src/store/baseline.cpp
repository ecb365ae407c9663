// Baselines as lines of JSON, and runs as they are kept; see changes.hpp.
#include <fmt/format.h>

#include <algorithm>
#include <nlohmann/json.hpp>

#include <nachklang/changes.hpp>

namespace nachklang {
namespace {

using Json = nlohmann::ordered_json;

constexpr std::string_view open_answer = "open";

/// A refused case that was asked once more inside a container counts as the case.
std::string without_place(const std::string& name) {
    return name.substr(0, name.find(':'));
}

void add(KeptRun& run, BehaviourName name, bool failing, const std::string& sentence,
         std::span<const std::string> cases) {
    KeptBehaviour& kept = run.behaviours[std::move(name)];
    if (kept.sentence.empty()) kept.sentence = sentence;
    kept.failing = kept.failing || failing;
    kept.cases.insert(cases.begin(), cases.end());
}

class Reader {
  public:
    /// Returns what is wrong with the line, if anything.
    std::optional<Problem> take(const ReadRecord& line) {
        const bool first = line.number == 1;
        if (first) is_baseline_ = line.text.starts_with("{\"baseline\":");
        if (is_baseline_) return first ? version(line.text) : baseline_line(line.text);
        if (!line.record.ok()) return line.record.problem();
        std::visit([this](const auto& r) { take_record(r); }, line.record.value());
        return std::nullopt;
    }
    KeptRun take_run() {
        if (!is_baseline_) run_.cases = std::move(cases_);
        return std::move(run_);
    }

  private:
    static std::optional<Problem> version(const std::string& line) {
        if (line == "{\"baseline\":1}") return std::nullopt;
        return Problem{"baseline", "it is of another version", "write it anew with --update-baseline"};
    }
    std::optional<Problem> baseline_line(const std::string& line) {
        try {
            const Json in = Json::parse(line);
            if (in.contains("version")) {
                run_.versions[in.at("implementation")] = in.at("version");
                return std::nullopt;
            }
            const auto cases = in.at("cases").get<std::vector<std::string>>();
            add(run_,
                {in.at("format"), in.at("implementation"), in.at("side"), in.at("finding"), in.at("cause"),
                 in.at("rule")},
                in.at("failing").get<bool>(), in.at("sentence"), cases);
            return std::nullopt;
        } catch (const std::exception& error) {
            return Problem{"baseline", text::printable(error.what()),
                           "correct the line, or write the baseline anew"};
        }
    }

    void take_record(const RunRecord& r) {
        for (const RunRecord::Entry& e : r.implementations) run_.versions[e.implementation] = e.version;
    }
    void take_record(const ResultRecord& r) {
        const std::string name = without_place(r.case_name);
        cases_.insert(r.format + " " + name);
        if (name != r.case_name) return;
        for (const auto& answer : r.answers) {
            std::string& all = run_.answers[{r.implementation, answer.question}][r.case_name + " " + r.operation];
            all += (all.empty() ? "" : ", ") + answer.answered;
        }
    }
    void take_record(const BehaviourRecord& b) {
        if (b.finding == open_answer) return;
        add(run_, {b.format, b.implementation, b.side, b.finding, b.cause, b.rule}, b.failing, b.sentence, b.cases);
    }
    template <class Other>
    void take_record(const Other&) {}

    KeptRun run_;
    std::set<std::string> cases_;
    bool is_baseline_ = false;
};

}  // namespace

Checked<KeptRun> read_kept_run(const std::string& path) {
    Reader reader;
    const auto problem =
        each_record(path, AnswersOfLines::left, [&](const ReadRecord& line) { return reader.take(line); });
    if (problem) return *problem;
    return reader.take_run();
}

KeptRun kept_run(std::span<const Subject> subjects, std::span<const Case> cases,
                 const std::vector<Behaviour>& behaviours) {
    KeptRun out;
    for (const Subject& s : subjects) out.versions[s.name()] = s.version;
    out.cases.emplace();
    for (const Case& c : cases) out.cases->insert(fmt::format("{} {}", c.format->name(), c.name));
    for (const Behaviour& b : behaviours)
        if (name_of(b.kind) != open_answer)
            add(out,
                {std::string(b.format->name()), b.implementation, std::string(name_of(b.side)),
                 std::string(name_of(b.kind)), b.cause, b.rule},
                b.failing, b.sentence, b.cases);
    return out;
}

std::string baseline_of(const KeptRun& run) {
    std::string out = "{\"baseline\":1}\n";
    for (const auto& [name, version] : run.versions)
        out += Json({{"implementation", name}, {"version", version}}).dump() + "\n";
    for (const auto& [name, b] : run.behaviours)
        out += Json({{"format", name.format},
                     {"implementation", name.implementation},
                     {"side", name.side},
                     {"finding", name.finding},
                     {"cause", name.cause},
                     {"rule", name.rule},
                     {"failing", b.failing},
                     {"sentence", b.sentence},
                     {"cases", b.cases}})
                   .dump() +
               "\n";
    return out;
}

}  // namespace nachklang

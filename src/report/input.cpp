// Reads a results file for a report; see report.hpp.
#include <map>

#include <nachklang/report.hpp>

namespace nachklang {
namespace {

class Collector {
  public:
    void take(RunRecord& run) {
        for (RunRecord::Entry& entry : run.implementations) {
            at_[entry.implementation] = input_.implementations.size();
            input_.implementations.push_back({std::move(entry), {}});
        }
    }
    void take(ResultRecord& r) {
        const auto implementation = at_.find(r.implementation);
        if (implementation == at_.end()) return;
        ReportedResult out;
        out.format = std::move(r.format);
        out.case_name = std::move(r.case_name);
        out.operation = std::move(r.operation);
        out.outcome = std::move(r.outcome);
        out.finding = std::move(r.finding);
        if (!r.causes.empty()) out.cause = std::move(r.causes.front().cause);
        out.detail = std::move(r.detail);
        out.clause = std::move(r.clause);
        for (auto& [layer, digest] : r.digests)
            if (layer == name_of(Layer::value)) out.digest = std::move(digest);
        for (auto& a : r.answers) out.answers.emplace_back(std::move(a.question), std::move(a.answered));
        out.failing = r.failing;
        out.excused = std::move(r.excused);
        input_.implementations[implementation->second].results.push_back(std::move(out));
    }
    void take(BehaviourRecord& b) { input_.behaviours.push_back(std::move(b)); }
    void take(EndRecord& end) { input_.interrupted = end.interrupted; }
    template <class Other>
    void take(Other&) {}

    ReportInput result() { return std::move(input_); }

  private:
    ReportInput input_;
    std::map<std::string, std::size_t> at_;
};

}  // namespace

Checked<ReportInput> read_report_input(const std::string& results_file) {
    Collector collector;
    const auto problem =
        read_lines(results_file, [&](const std::string& line, std::size_t) -> std::optional<Problem> {
            auto record = parse_record(line);
            if (!record.ok()) return record.problem();
            std::visit([&](auto& r) { collector.take(r); }, record.value());
            return std::nullopt;
        });
    if (problem) return *problem;
    ReportInput out = collector.result();
    if (out.implementations.empty())
        return Problem{results_file, "it holds no run", "name a file that `run --results` wrote"};
    return out;
}

}  // namespace nachklang

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
        input_.implementations[implementation->second].results.push_back(
            {std::move(r.case_name), std::move(r.operation), std::move(r.finding),
             r.causes.empty() ? "" : std::move(r.causes.front().cause), std::move(r.detail), std::move(r.clause),
             r.failing, std::move(r.excused)});
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

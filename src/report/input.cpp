// Reads a results file for a report; see report.hpp.
#include <fmt/format.h>

#include <map>
#include <set>

#include <nachklang/report.hpp>

namespace nachklang {
namespace {

/// Without its answer.
ReportedResult reported(ResultRecord&& r) {
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
    out.message = std::move(r.message);
    out.offset = r.offset;
    out.line = r.line;
    out.column = r.column;
    out.unit = std::move(r.unit);
    return out;
}

/// A longer answer is named with its size alone.
constexpr std::size_t longest_answer = std::size_t{8} << 10;

/// Collects the records of a run, in their order.
class Records {
  public:
    void take(RunRecord& run, std::string_view) {
        for (RunRecord::Entry& entry : run.implementations) {
            at_[entry.implementation] = input_.implementations.size();
            input_.implementations.push_back({std::move(entry), {}});
        }
    }
    void take(ResultRecord& r, std::string_view answer) {
        const auto implementation = at_.find(r.implementation);
        if (implementation == at_.end()) return;
        ReportedResult out = reported(std::move(r));
        if (!answer.empty() && out.outcome == name_of(OutcomeKind::accepted)) keep(out, answer);
        input_.implementations[implementation->second].results.push_back(std::move(out));
    }
    void take(BehaviourRecord& b, std::string_view) { input_.behaviours.push_back(std::move(b)); }
    void take(EndRecord& end, std::string_view) { input_.interrupted = end.interrupted; }
    template <class Other>
    void take(Other&, std::string_view) {}

    ReportInput result() { return std::move(input_); }

  private:
    /// Results come case by case: what earlier ones of the same case answered is known.
    void keep(ReportedResult& result, std::string_view answer) {
        if (result.case_name != case_ || result.format != format_) known_.clear();
        case_ = result.case_name;
        format_ = result.format;
        if (!known_
                 .insert(fmt::format("{} {} {} {}", result.operation, result.digest, result.finding, result.cause))
                 .second)
            return;
        if (answer.size() > longest_answer)
            result.answer_size = answer.size();
        else
            result.answer = answer;
    }

    ReportInput input_;
    std::map<std::string, std::size_t> at_;
    std::string case_, format_;
    std::set<std::string> known_;
};

}  // namespace

struct ReportSink::Collector {
    Records records;
};
ReportSink::ReportSink() : collector_(std::make_unique<Collector>()) {}
ReportSink::~ReportSink() = default;

void ReportSink::begin(const RunHeader& header) {
    RunRecord run = record_of(header);
    collector_->records.take(run, {});
}

void ReportSink::chunk(const ChunkReport& report) {
    for (const Result& result : report.results) {
        ResultRecord record = record_of(result);
        collector_->records.take(record, answer_of(result));
    }
}

ReportInput ReportSink::take() {
    return collector_->records.result();
}

Checked<ReportInput> read_report_input(const std::string& results_file) {
    Records collector;
    const auto problem =
        each_record(results_file, AnswersOfLines::read, [&](ReadRecord& line) -> std::optional<Problem> {
            if (!line.record.ok()) return line.record.problem();
            std::visit([&](auto& r) { collector.take(r, line.answer); }, line.record.value());
            return std::nullopt;
        });
    if (problem) return *problem;
    ReportInput out = collector.result();
    if (out.implementations.empty())
        return Problem{results_file, "it holds no run", "name a file that `run --results` wrote"};
    return out;
}

}  // namespace nachklang

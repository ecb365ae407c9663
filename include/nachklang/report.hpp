// A kept run in the forms that other tools read. Each is a text; the run's results file is the source of all.
#pragma once

#include <memory>
#include <optional>
#include <span>
#include <string>
#include <utility>
#include <vector>

#include <nachklang/changes.hpp>
#include <nachklang/result_sink.hpp>
#include <nachklang/store.hpp>

namespace nachklang {

/// One result, as far as a report needs it.
struct ReportedResult {
    std::string format, case_name, operation, outcome, finding, cause, detail, clause;
    std::string digest;                                          ///< at the layer `value`; empty: there is none
    std::vector<std::pair<std::string, std::string>> answers{};  ///< question, answer
    bool failing = false;
    std::string excused;    ///< the reason; not empty: skipped in place of failing
    std::string message{};  ///< of a refusal, with its place as the library gave it
    std::optional<std::uint64_t> offset{}, line{}, column{};
    std::string unit{};
    /// The trace of the value, or the text that was written, where the run is kept in a store and no result before
    /// it in the same case has the same digest.
    std::string answer{};
    std::size_t answer_size = 0;  ///< of a trace or text that is left out for its size
};
struct ReportedImplementation {
    RunRecord::Entry entry;
    std::vector<ReportedResult> results;  ///< in the order of the run
    bool recorded = false;                ///< its answers are those of a record: it takes part as a peer
};
struct ReportInput {
    std::vector<ReportedImplementation> implementations;
    std::vector<BehaviourRecord> behaviours;
    bool interrupted = true;  ///< without an end record, too
};

/// Collects a campaign's results for a report.
class ReportSink final : public ResultSink {
  public:
    ReportSink();
    ~ReportSink() override;
    void begin(const RunHeader& header) override;
    void chunk(const ChunkReport& report) override;
    [[nodiscard]] ReportInput take();

  private:
    struct Collector;
    std::unique_ptr<Collector> collector_;
};
/// Reads the file that `run --results` or `run --store` wrote.
Checked<ReportInput> read_report_input(const std::string& results_file);

/// JUnit XML: a suite for each implementation and mode, a test case for each case and operation. What was not asked
/// or judged is skipped.
std::string junit_report(const ReportInput& input);
/// SARIF 2.1.0 (OASIS): a rule for each cause, a result for each behaviour.
std::string sarif_report(const ReportInput& input);
/// CSV (RFC 4180): one line for each behaviour.
std::string csv_report(const ReportInput& input);
/// Markdown: a table of behaviours for each implementation, the gravest first; for a comment on a change.
std::string markdown_report(const ReportInput& input);

/// What a page shows beside its run.
struct PageExtras {
    std::vector<std::string> lines{};  ///< records of `limits --json` and `numbers --json`
    std::string before{};              ///< the name of an earlier run …
    std::optional<Changes> changes{};  ///< … and what changed since
};
/// One page of HTML that loads nothing: behaviours by implementation and cause, answers to questions, how near the
/// implementations are to each other, and the cases with their documents, as far as `cases` holds them. The address
/// of a view can be sent. A line of `extras` that is no such record is a problem.
Checked<std::string> page_report(const ReportInput& input, std::span<const Case> cases,
                                 const PageExtras& extras = {});

}  // namespace nachklang

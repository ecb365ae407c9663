// One subject's way through one chunk of cases: run all requests, run second round trips, judge, and repeat what
// looks like a finding.
#pragma once

#include <map>
#include <memory>
#include <mutex>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include <nachklang/campaign.hpp>

namespace nachklang::campaign {

/// Shared by all tasks of one chunk: expectations (by case and settings), what judging found out, and equal values.
class ChunkCache {
  public:
    explicit ChunkCache(std::string profile) : profile_(std::move(profile)) {}
    [[nodiscard]] const std::string& profile() const { return profile_; }
    std::shared_ptr<const Expectation> expectation(const Case& c, const Settings& settings);
    /// One trace for all answers with the same text. Answers that are merely equal keep their own: which of them
    /// came first depends on the workers.
    Trace intern(const Trace& trace);
    /// The case inside a container, and the cause of a refusal that this shows; nothing if its format has no such
    /// form.
    struct EnclosedCase {
        std::shared_ptr<const Case> test_case;
        std::string cause;
    };
    const EnclosedCase* enclosed(const Case& c);
    JudgeCache judging;

  private:
    const std::string profile_;
    std::mutex mutex_;
    std::map<Digest, Trace> traces_;
    std::map<const Case*, std::optional<EnclosedCase>> enclosed_;
    std::map<std::pair<const Case*, Settings>, std::shared_ptr<const Expectation>> expectations_;
};

struct TaskReport {
    std::vector<Result> results;  ///< by case, then operation
    std::vector<IncidentReport> incidents;
    std::string gave_up;  ///< not empty: why the executor asks nothing any more
};

/// `gave_up` is that of an earlier report of the subject: if it is not empty, nothing is asked.
TaskReport run_task(std::span<const Case> cases, const Subject& subject, Executor& executor, ChunkCache& cache,
                    const std::string& gave_up = {});

}  // namespace nachklang::campaign

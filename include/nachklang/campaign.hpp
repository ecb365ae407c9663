// A campaign runs all cases of a corpus through all subjects. Findings depend on the cases and the subjects alone,
// never on the number of workers.
#pragma once

#include <atomic>
#include <functional>
#include <memory>
#include <span>
#include <string>

#include <nachklang/result_sink.hpp>

namespace nachklang {

struct CampaignOptions {
    unsigned workers = 1;
    std::atomic<bool>* cancelled = nullptr;  ///< set from outside: the run ends after the tasks that are under way
    std::function<void(std::size_t done, std::size_t all)> progress{};  ///< tasks; called on the caller's thread
    /// Only every `parts`-th chunk, beginning with chunk number `part`, from 0. All parts together are the whole
    /// run.
    std::size_t part = 0, parts = 1;
    std::string profile{};  ///< a profile's name: findings carry its advice for formats that have it
    /// So many chunks are left out, because an earlier run reported them …
    std::size_t first_chunk = 0;
    std::vector<std::string>
        gave_up{};  ///< … and, by subject, why that run asked it no more (ChunkReport::gave_up)
    /// Called for each disagreement before it is reported, on the caller's thread; it may explain it better.
    std::function<void(Disagreement& disagreement, const Case& of)> explain{};
};

/// A case inside a container, as it is asked where implementations refuse it by itself; null if the format has
/// none.
std::shared_ptr<const Case> enclosed_case(const Case& c);

/// Runs all cases through all subjects that support their format. If a factory or an executor throws, the run stops
/// and the first exception is thrown again on the caller's thread.
void run_campaign(std::span<const Case> cases, std::span<const Subject> subjects, const ExecutorFactory& make,
                  const CampaignOptions& options, ResultSink& sink);

}  // namespace nachklang

// A run is a grid of tasks, chunks of cases by subjects. Chunks depend on the cases alone. A subject's chunks run
// one after the other, and reports leave in order, so that the number of workers changes nothing but the time a run
// takes. Within a chunk the subjects that took longest so far go first: no core waits for a slow one at the end.
#include <algorithm>
#include <chrono>
#include <condition_variable>
#include <exception>
#include <mutex>
#include <thread>

#include "campaign/assembly.hpp"

namespace nachklang {
namespace {

using campaign::ChunkCache;
using campaign::TaskReport;

// A chunk costs an implementation two starts: one process for all requests, one for those that are repeated.
constexpr std::size_t chunk_cases = 1024;
constexpr std::size_t chunk_bytes = std::size_t{2} << 20;
constexpr std::size_t chunks_ahead = 2;

struct Range {
    std::size_t begin, end, number;
};

std::vector<Range> chunks_of(std::span<const Case> cases, std::size_t part, std::size_t parts) {
    std::vector<Range> out;
    std::size_t bytes = 0;
    for (std::size_t i = 0; i < cases.size(); ++i) {
        const std::size_t size = content_of(cases[i]).size();
        const bool full = !out.empty() && (i - out.back().begin >= chunk_cases || bytes + size > chunk_bytes);
        const bool other = !out.empty() && cases[i].corpus != cases[out.back().begin].corpus;
        if (out.empty() || full || other) {
            out.push_back({i, i, out.size()});
            bytes = 0;
        }
        out.back().end = i + 1;
        bytes += size;
    }
    std::erase_if(out, [&](const Range& chunk) { return chunk.number % parts != part; });
    return out;
}

struct Slot {
    TaskReport report;
    bool done = false;
};

/// A subject's way through the chunks.
struct Progress {
    std::size_t next = 0;  // chunk
    bool running = false;
    double seconds = 0;
    std::string gave_up;
};

struct TaskPlace {
    std::size_t chunk, subject;
};

class Scheduler {
  public:
    Scheduler(std::span<const Case> cases, std::span<const Subject> subjects, const ExecutorFactory& make,
              const CampaignOptions& options, ResultSink& sink)
        : cases_(cases),
          subjects_(subjects),
          make_(make),
          options_(options),
          sink_(sink),
          chunks_(chunks_of(cases, options.part, options.parts)),
          slots_(chunks_.size()),
          progress_(subjects.size()) {
        for (auto& row : slots_) row.resize(subjects.size());
        for (std::size_t i = 0; i < chunks_.size(); ++i)
            caches_.push_back(std::make_unique<ChunkCache>(options_.profile));
        emitted_ = std::min(options_.first_chunk, chunks_.size());
        started_ = done_ = emitted_ * subjects_.size();
        for (std::size_t s = 0; s < subjects_.size(); ++s) {
            progress_[s].next = emitted_;
            if (s < options_.gave_up.size()) progress_[s].gave_up = options_.gave_up[s];
        }
    }

    void run() {
        sink_.begin({cases_.size(), subjects_});
        if (task_count() > 0) run_chunks();
        std::vector<double> seconds;
        for (const Progress& p : progress_) seconds.push_back(p.seconds);
        sink_.end({stopped(), seconds});
        if (failure_) std::rethrow_exception(failure_);
    }

  private:
    void run_chunks() {
        std::vector<std::jthread> workers;
        const StopWorkers stop_workers{*this};
        for (unsigned i = 0; i < std::max(1U, options_.workers); ++i) workers.emplace_back([this] { work(); });
        std::size_t chunk = emitted_;
        for (; chunk < chunks_.size() && await(chunk); ++chunk) {
            emit(chunk, true);
            const std::lock_guard lock(mutex_);
            emitted_ = chunk + 1;
            changed_.notify_all();
        }
        stop();
        workers.clear();
        // A run that stopped early keeps the tasks that are done. Disagreements need the whole chunk.
        for (; chunk < chunks_.size(); ++chunk)
            if (std::any_of(slots_[chunk].begin(), slots_[chunk].end(), [](const Slot& s) { return s.done; }))
                emit(chunk, false);
    }

    void stop() {
        const std::lock_guard lock(mutex_);
        over_ = true;
        changed_.notify_all();
    }
    /// Wakes all workers however run_chunks() exits, so joining them cannot deadlock.
    struct StopWorkers {
        Scheduler& scheduler;
        ~StopWorkers() { scheduler.stop(); }
    };
    [[nodiscard]] bool cancelled() const { return options_.cancelled != nullptr && *options_.cancelled; }
    [[nodiscard]] bool stopped() const { return failure_ != nullptr || emitted_ < chunks_.size(); }
    [[nodiscard]] std::size_t task_count() const { return chunks_.size() * subjects_.size(); }
    [[nodiscard]] std::span<const Case> cases_of(std::size_t chunk) const {
        return cases_.subspan(chunks_[chunk].begin, chunks_[chunk].end - chunks_[chunk].begin);
    }

    void emit(std::size_t chunk, bool whole) {
        std::vector<TaskReport> tasks;
        for (Slot& slot : slots_[chunk]) tasks.push_back(std::move(slot.report));
        ChunkReport report = campaign::assemble(cases_of(chunk), tasks);
        report.number = chunks_[chunk].number;
        report.whole = whole;
        for (const TaskReport& task : tasks) report.gave_up.push_back(task.gave_up);
        if (!whole) report.disagreements.clear();
        if (options_.explain) explain(report);
        sink_.chunk(report);
        for (const TaskReport& task : tasks)
            for (const IncidentReport& incident : task.incidents) sink_.incident(incident);
        slots_[chunk].clear();
        caches_[chunk].reset();
    }

    void explain(ChunkReport& report) const {
        for (Disagreement& d : report.disagreements) {
            const auto of = std::find_if(report.results.begin(), report.results.end(),
                                         [&](const Result& r) { return r.test_case->name == d.case_name; });
            if (of != report.results.end()) options_.explain(d, *of->test_case);
        }
    }

    /// False if the run was cancelled or failed before the chunk was whole.
    bool await(std::size_t chunk) {
        std::unique_lock lock(mutex_);
        while (true) {
            const std::size_t done = done_;
            const bool whole =
                std::all_of(slots_[chunk].begin(), slots_[chunk].end(), [](const Slot& s) { return s.done; });
            if (options_.progress) {
                lock.unlock();
                options_.progress(done, task_count());
                lock.lock();
            }
            if (whole) return true;
            if (cancelled() || failure_ || over_) return false;
            changed_.wait_for(lock, std::chrono::milliseconds(200));
        }
    }

    /// Of the tasks that may run now, one of the first chunk, and there the slowest subject. Workers stay at most a
    /// few chunks ahead of the reports, so that memory is bounded.
    [[nodiscard]] std::optional<TaskPlace> ready() const {
        std::optional<TaskPlace> out;
        for (std::size_t s = 0; s < subjects_.size(); ++s) {
            const Progress& p = progress_[s];
            if (p.running || p.next >= std::min(chunks_.size(), emitted_ + chunks_ahead)) continue;
            if (!out || p.next < out->chunk ||
                (p.next == out->chunk && p.seconds > progress_[out->subject].seconds))
                out = TaskPlace{p.next, s};
        }
        return out;
    }

    /// Waits for a task; nothing if none is left or the run is over.
    std::optional<TaskPlace> next_task() {
        std::unique_lock lock(mutex_);
        std::optional<TaskPlace> out;
        changed_.wait(lock, [&] {
            if (over_ || started_ == task_count()) return true;
            out = ready();
            return out.has_value();
        });
        if (over_ || !out || cancelled()) return std::nullopt;
        progress_[out->subject].running = true;
        ++started_;
        return out;
    }

    TaskReport run(const TaskPlace& task, const std::string& gave_up) {
        const Subject& subject = subjects_[task.subject];
        const auto executor = make_(subject);
        return campaign::run_task(cases_of(task.chunk), subject, *executor, *caches_[task.chunk], gave_up);
    }

    void work() {
        try {
            while (const auto task = next_task()) {
                Progress& progress = progress_[task->subject];  // no other worker has this subject
                const auto begin = std::chrono::steady_clock::now();
                TaskReport report = run(*task, progress.gave_up);
                const std::chrono::duration<double> took = std::chrono::steady_clock::now() - begin;
                const std::lock_guard lock(mutex_);
                progress.gave_up = report.gave_up;
                progress.seconds += took.count();
                progress.running = false;
                ++progress.next;
                slots_[task->chunk][task->subject] = {std::move(report), true};
                ++done_;
                changed_.notify_all();
            }
        } catch (const Cancelled&) {
            stop();
        } catch (...) {
            const std::lock_guard lock(mutex_);
            if (!failure_) failure_ = std::current_exception();
            over_ = true;
            changed_.notify_all();
        }
    }

    std::span<const Case> cases_;
    std::span<const Subject> subjects_;
    const ExecutorFactory& make_;
    const CampaignOptions& options_;
    ResultSink& sink_;
    std::vector<Range> chunks_;
    std::vector<std::vector<Slot>> slots_;
    std::vector<std::unique_ptr<ChunkCache>> caches_;
    std::mutex mutex_;
    std::condition_variable changed_;
    std::vector<Progress> progress_;  // by subject
    std::size_t started_ = 0, done_ = 0, emitted_ = 0;
    bool over_ = false;
    std::exception_ptr failure_;  // the first one that a worker threw
};

}  // namespace

void run_campaign(std::span<const Case> cases, std::span<const Subject> subjects, const ExecutorFactory& make,
                  const CampaignOptions& options, ResultSink& sink) {
    Scheduler(cases, subjects, make, options, sink).run();
}

}  // namespace nachklang

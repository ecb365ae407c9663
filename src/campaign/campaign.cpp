// A run is a grid of tasks, chunks of cases by subjects. Chunks depend on the cases alone; workers take tasks in
// order, and reports leave in order, so that the number of workers shows nowhere but on the clock.
#include <fmt/format.h>

#include <algorithm>
#include <condition_variable>
#include <map>
#include <mutex>
#include <numeric>
#include <set>
#include <thread>
#include <tuple>

#include <nachklang/experiments.hpp>

namespace nachklang {
namespace {

constexpr std::size_t chunk_cases = 64;
constexpr std::size_t chunk_bytes = std::size_t{1} << 20;
constexpr std::size_t chunks_ahead = 4;

struct Range {
    std::size_t begin, end;
};

std::size_t size_of(const Case& c) {
    return c.document ? c.document->size() : c.value->text().size();
}

std::vector<Range> chunks_of(std::span<const Case> cases) {
    std::vector<Range> out;
    std::size_t bytes = 0;
    for (std::size_t i = 0; i < cases.size(); ++i) {
        const std::size_t size = size_of(cases[i]);
        const bool full = !out.empty() && (i - out.back().begin >= chunk_cases || bytes + size > chunk_bytes);
        const bool other = !out.empty() && cases[i].corpus != cases[out.back().begin].corpus;
        if (out.empty() || full || other) {
            out.push_back({i, i});
            bytes = 0;
        }
        out.back().end = i + 1;
        bytes += size;
    }
    return out;
}

bool same_answer(const Outcome& a, const Outcome& b) {
    if (a.kind != b.kind || a.trace.has_value() != b.trace.has_value()) return false;
    if (a.trace) return a.trace->text() == b.trace->text();
    return a.kind != OutcomeKind::accepted || a.body == b.body;
}

/// What all subjects' tasks of one chunk share: what is expected of a case (by settings), and readings.
class Shared {
  public:
    explicit Shared(std::string profile) : profile_(std::move(profile)) {}
    [[nodiscard]] const std::string& profile() const { return profile_; }
    std::shared_ptr<const Expectation> expectation(const Case& c, const Settings& settings) {
        const std::pair key{&c, settings};
        {
            const std::lock_guard lock(mutex_);
            if (const auto known = expectations_.find(key); known != expectations_.end()) return known->second;
        }
        auto made = std::make_shared<const Expectation>(expectation_of(c, settings));
        const std::lock_guard lock(mutex_);
        return expectations_.emplace(key, std::move(made)).first->second;
    }
    /// One trace for all answers to a case that are the same at every layer: the first that came.
    Trace intern(const Case& c, Operation operation, const LayerDigests& digests, const Trace& trace) {
        const std::lock_guard lock(mutex_);
        return traces_.emplace(std::tuple(&c, operation, digests[layer_count - 1]), trace).first->second;
    }
    ReadingCache readings;

  private:
    const std::string profile_;
    std::mutex mutex_;
    std::map<std::tuple<const Case*, Operation, Digest>, Trace> traces_;
    std::map<std::pair<const Case*, Settings>, std::shared_ptr<const Expectation>> expectations_;
};

/// One subject's way through one chunk.
class Task {
  public:
    Task(std::span<const Case> cases, const Subject& subject, Executor& executor, Shared& shared)
        : cases_(cases), subject_(subject), executor_(executor), shared_(shared) {}

    void run() {
        for (std::size_t i = 0; i < cases_.size(); ++i) add_requests(i);
        if (requests_.empty()) return;
        ask_all();
        second_round_trips();
        judge_all();
        ask_again();
        for (Result& result : results) keep_value(result);
    }

    std::vector<Result> results;
    std::vector<IncidentReport> incidents;

  private:
    void add_requests(std::size_t i) {
        const Case& c = cases_[i];
        for (const Operation operation : {Operation::decode, Operation::round_trip, Operation::encode}) {
            const bool of_value = operation == Operation::encode;
            if (of_value != c.value.has_value() || !subject_.does(c.format->name(), operation)) continue;
            Request request{operation, c.format,
                            of_value ? std::make_shared<const std::string>(c.value->text()) : c.document, true};
            requests_.push_back(std::move(request));
            origin_.push_back(i);
            Result result;
            result.test_case = &c;
            result.subject = &subject_;
            result.operation = operation;
            results.push_back(std::move(result));
        }
    }

    /// The order of asking. All decodes, then all round trips: were a document's round trip asked right after its
    /// decode, a state that an error leaves behind would meet only the same document again. Within each by a hash
    /// of the cases' names, so that good and bad documents follow each other however a sheet sorts them.
    [[nodiscard]] std::vector<std::size_t> asking_order() const {
        std::vector<std::size_t> order(requests_.size());
        std::iota(order.begin(), order.end(), std::size_t{0});
        std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
            const auto place = [&](std::size_t i) {
                return std::pair(requests_[i].operation, digest_of(cases_[origin_[i]].name));
            };
            return place(a) < place(b);
        });
        return order;
    }

    void ask_all() {
        const std::vector<std::size_t> order = asking_order();
        std::vector<Request> requests;
        std::vector<std::size_t> origin;
        for (const std::size_t i : order) {
            requests.push_back(requests_[i]);
            origin.push_back(origin_[i]);
        }
        Chunk chunk = executor_.run(requests);
        for (std::size_t k = 0; k < order.size(); ++k) results[order[k]].outcome = std::move(chunk.outcomes[k]);
        for (const Incident& incident : chunk.incidents) report(incident, requests, origin);
    }
    void report(const Incident& incident, const std::vector<Request>& requests,
                const std::vector<std::size_t>& origin) {
        IncidentReport out;
        out.subject = &subject_;
        out.outcome = incident.outcome;
        out.detail = incident.detail;
        for (const std::size_t i : incident.sequence)
            out.sequence.push_back(fmt::format("{} {}", name_of(requests[i].operation), cases_[origin[i]].name));
        incidents.push_back(std::move(out));
    }

    /// The round trip of what a round trip wrote, where that is not the very document.
    void second_round_trips() {
        std::vector<Request> requests;
        std::vector<std::size_t> origin, results_of;
        for (std::size_t i = 0; i < results.size(); ++i) {
            const Result& r = results[i];
            if (r.operation != Operation::round_trip || r.outcome.kind != OutcomeKind::accepted ||
                r.outcome.body == *r.test_case->document)
                continue;
            requests.push_back({Operation::round_trip, r.test_case->format,
                                std::make_shared<const std::string>(r.outcome.body), true});
            origin.push_back(origin_[i]);
            results_of.push_back(i);
        }
        if (requests.empty()) return;
        Chunk chunk = executor_.run(requests);
        for (std::size_t i = 0; i < requests.size(); ++i) second_[results_of[i]] = std::move(chunk.outcomes[i]);
        for (const Incident& incident : chunk.incidents) report(incident, requests, origin);
    }

    void judge_one(std::size_t i) {
        Result& result = results[i];
        const std::size_t c = origin_[i];
        const auto expectation = shared_.expectation(cases_[c], subject_.settings);
        const Outcome* decoded = nullptr;
        if (result.operation == Operation::round_trip && i > 0 && results[i - 1].operation == Operation::decode &&
            origin_[i - 1] == c)
            decoded = &results[i - 1].outcome;
        const auto second = second_.find(i);
        result.finding =
            judge({cases_[c], *expectation, subject_, result.operation, result.outcome, decoded,
                   second == second_.end() ? nullptr : &second->second, &shared_.readings, shared_.profile()});
    }
    void judge_all() {
        for (std::size_t i = 0; i < results.size(); ++i) judge_one(i);
    }

    /// What stands out is asked again in reverse order: an answer that depends on what went before is an incident.
    void ask_again() {
        if (subject_.implementation.reach != Reach::trace) return;
        std::vector<std::size_t> again;
        for (std::size_t i = results.size(); i-- > 0;) {
            const FindingKind kind = results[i].finding.kind;
            const bool settled =
                kind == FindingKind::conforms || kind == FindingKind::open || kind == FindingKind::unsupported;
            if (!settled && is_answer(results[i].outcome.kind)) again.push_back(i);
        }
        if (again.empty()) return;
        std::vector<Request> requests;
        for (const std::size_t i : again) requests.push_back(requests_[i]);
        Chunk chunk = executor_.run(requests);
        for (std::size_t k = 0; k < again.size(); ++k) {
            const std::size_t i = again[k];
            if (same_answer(results[i].outcome, chunk.outcomes[k])) continue;
            Outcome alone = std::move(executor_.run({&requests_[i], 1}).outcomes.front());
            Incident incident;
            const bool first_was_right = same_answer(results[i].outcome, alone);
            incident.detail = otherwise(results[i], chunk.outcomes[k], alone);
            for (const std::size_t j : asking_order()) {  // what was asked before it the first time
                if (j == i) break;
                incident.sequence.push_back(j);
            }
            incident.sequence.push_back(i);
            if (first_was_right) {
                incident.sequence.assign(again.begin(), again.begin() + static_cast<std::ptrdiff_t>(k) + 1);
            } else {
                results[i].outcome = std::move(alone);
                judge_one(i);
            }
            report(incident, requests_, origin_);
        }
    }

    /// What the same request was answered on three occasions.
    static std::string otherwise(const Result& first, const Outcome& again, const Outcome& alone) {
        if (first.outcome.kind == again.kind && again.kind == alone.kind)
            return fmt::format("asked again it was {} again, with another {}", name_of(again.kind),
                               first.operation == Operation::decode ? "value" : "text");
        return fmt::format("it was {}, {} when asked again in another order, {} when asked alone",
                           name_of(first.outcome.kind), name_of(again.kind), name_of(alone.kind));
    }

    void keep_value(Result& result) {
        const Format& format = *result.test_case->format;
        if (result.outcome.kind != OutcomeKind::accepted) return;
        if (result.operation == Operation::decode) {
            result.value = std::move(result.outcome.trace);
        } else {
            const auto reading =
                shared_.readings.read(format, result.outcome.body, format.options_for(subject_.settings));
            if (reading->accepted()) result.value = reading->trace;
        }
        result.outcome.trace.reset();
        if (!result.value) return;
        result.digests =
            format.digests(*result.value, result.operation == Operation::decode ? result.subject->cannot_represent
                                                                                : CannotRepresent{});
        result.value = shared_.intern(*result.test_case, result.operation, *result.digests, *result.value);
    }

    std::span<const Case> cases_;
    const Subject& subject_;
    Executor& executor_;
    std::vector<Request> requests_;
    std::vector<std::size_t> origin_;  // index of each request's case
    Shared& shared_;
    std::map<std::size_t, Outcome> second_;
};

struct Slot {
    std::vector<Result> results;
    std::vector<IncidentReport> incidents;
    bool done = false;
};

/// Puts a chunk's tasks together: case by case, and what the cases' answers have to do with each other.
ChunkReport assemble(std::span<const Case> cases, std::vector<Slot>& slots) {
    ChunkReport out;
    std::vector<std::size_t> at(slots.size(), 0);
    for (const Case& c : cases) {
        const std::size_t first = out.results.size();
        for (std::size_t s = 0; s < slots.size(); ++s) {
            auto& results = slots[s].results;
            for (; at[s] < results.size() && results[at[s]].test_case == &c; ++at[s]) {
                out.results.push_back(std::move(results[at[s]]));
            }
        }
        for (const Operation operation : {Operation::decode, Operation::round_trip, Operation::encode}) {
            std::vector<Participant> participants;
            for (std::size_t i = first; i < out.results.size(); ++i) {
                const Result& r = out.results[i];
                if (r.operation != operation) continue;
                participants.push_back(
                    {r.subject->name(), r.subject->engine, r.outcome.kind, r.digests, r.value, r.outcome.body,
                     operation == Operation::decode ? r.subject->cannot_represent : CannotRepresent{}, &r.finding});
            }
            auto found = compare_participants(c, operation, participants);
            std::move(found.begin(), found.end(), std::back_inserter(out.disagreements));
        }
    }
    for (Slot& slot : slots)
        std::move(slot.incidents.begin(), slot.incidents.end(), std::back_inserter(out.incidents));
    return out;
}

class Campaign {
  public:
    Campaign(std::span<const Case> cases, std::span<const Subject> subjects, const ExecutorFactory& make,
             const CampaignOptions& options)
        : cases_(cases),
          subjects_(subjects),
          make_(make),
          options_(options),
          chunks_(chunks_of(cases)),
          slots_(chunks_.size()) {
        for (auto& row : slots_) row.resize(subjects.size());
        for (std::size_t i = 0; i < chunks_.size(); ++i)
            shared_.push_back(std::make_unique<Shared>(options_.profile));
    }

    void run(const std::function<void(ChunkReport&&)>& take) {
        std::vector<std::jthread> workers;
        const Ending ending{*this};
        for (unsigned i = 0; i < std::max(1U, options_.workers); ++i) workers.emplace_back([this] { work(); });
        std::size_t chunk = 0;
        for (; chunk < chunks_.size() && await(chunk); ++chunk) {
            emit(chunk, take, true);
            const std::lock_guard lock(mutex_);
            emitted_ = chunk + 1;
            changed_.notify_all();
        }
        end();
        workers.clear();
        // A run that was cancelled keeps what is done; who disagrees with whom is not known of a chunk that is not
        // whole.
        for (; chunk < chunks_.size(); ++chunk)
            if (std::any_of(slots_[chunk].begin(), slots_[chunk].end(), [](const Slot& s) { return s.done; }))
                emit(chunk, take, false);
    }

  private:
    void end() {
        const std::lock_guard lock(mutex_);
        over_ = true;
        changed_.notify_all();
    }
    /// However the run is left, nobody is waited for who waits himself.
    struct Ending {
        Campaign& campaign;
        ~Ending() { campaign.end(); }
    };
    [[nodiscard]] bool cancelled() const { return options_.cancelled != nullptr && *options_.cancelled; }
    [[nodiscard]] std::size_t task_count() const { return chunks_.size() * subjects_.size(); }

    void emit(std::size_t chunk, const std::function<void(ChunkReport&&)>& take, bool whole) {
        const Range range = chunks_[chunk];
        ChunkReport report = assemble(cases_.subspan(range.begin, range.end - range.begin), slots_[chunk]);
        if (!whole) report.disagreements.clear();
        take(std::move(report));
        slots_[chunk].clear();
        shared_[chunk].reset();
    }

    /// False where the run was cancelled before the chunk was whole.
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
            if (cancelled()) return false;
            changed_.wait_for(lock, std::chrono::milliseconds(200));
        }
    }

    void work() {
        while (true) {
            std::size_t task = 0;
            {
                std::unique_lock lock(mutex_);
                changed_.wait(lock, [&] {
                    return over_ || next_ >= task_count() || next_ / subjects_.size() < emitted_ + chunks_ahead;
                });
                if (over_ || next_ >= task_count() || cancelled()) return;
                task = next_++;
            }
            const std::size_t chunk = task / subjects_.size(), subject = task % subjects_.size();
            const Range range = chunks_[chunk];
            const auto executor = make_(subjects_[subject]);
            Task run(cases_.subspan(range.begin, range.end - range.begin), subjects_[subject], *executor,
                     *shared_[chunk]);
            run.run();
            const std::lock_guard lock(mutex_);
            Slot& slot = slots_[chunk][subject];
            slot.results = std::move(run.results);
            slot.incidents = std::move(run.incidents);
            slot.done = true;
            ++done_;
            changed_.notify_all();
        }
    }

    std::span<const Case> cases_;
    std::span<const Subject> subjects_;
    const ExecutorFactory& make_;
    const CampaignOptions& options_;
    std::vector<Range> chunks_;
    std::vector<std::vector<Slot>> slots_;
    std::vector<std::unique_ptr<Shared>> shared_;
    std::mutex mutex_;
    std::condition_variable changed_;
    std::size_t next_ = 0, done_ = 0, emitted_ = 0;
    bool over_ = false;
};

}  // namespace

void run_campaign(std::span<const Case> cases, std::span<const Subject> subjects, const ExecutorFactory& make,
                  const CampaignOptions& options, const std::function<void(ChunkReport&&)>& take) {
    if (cases.empty() || subjects.empty()) return;
    Campaign(cases, subjects, make, options).run(take);
}

}  // namespace nachklang

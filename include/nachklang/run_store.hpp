// Kept runs: one SQLite file that holds runs whole, with what was asked, answered and found (docs/kept-runs.md).
//
// A run is written as it goes, one transaction a chunk of cases. A process that is killed leaves all chunks that
// were whole, and the run can be resumed: what is stored is handed to the sinks again, and the rest is asked.
#pragma once

#include <cstdint>
#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include <nachklang/behaviour.hpp>
#include <nachklang/problem.hpp>
#include <nachklang/result_sink.hpp>

namespace nachklang {

/// What is run: two runs with equal digests ask the same questions of the same implementations.
struct RunSetup {
    std::string tool;     ///< version of Nachklang
    std::string command;  ///< the words of the call, for people
    std::string profile;
    std::string cases;     ///< digest of names and contents, in order
    std::string subjects;  ///< digest of names, versions and settings, in order
};
RunSetup setup_of(std::span<const Case> cases, std::span<const Subject> subjects, std::string profile);

struct StoredRun {
    std::int64_t id = 0;
    std::string started, ended;  ///< UTC, ISO 8601; ended: empty while it is not complete
    bool complete = false;
    RunSetup setup;
    std::size_t cases = 0, implementations = 0, results = 0, failing = 0, chunks = 0;
};

class StoreSink;

class RunStore {
  public:
    /// Opens a store, and makes one where there is no file. A file of another kind, or of a newer version, is a
    /// problem.
    static Checked<std::unique_ptr<RunStore>> open(const std::string& path);
    /// Opens one that is there; `query` and all that reads work, nothing can be changed.
    static Checked<std::unique_ptr<RunStore>> open_to_read(const std::string& path);
    ~RunStore();
    RunStore(const RunStore&) = delete;
    RunStore& operator=(const RunStore&) = delete;

    [[nodiscard]] Checked<std::vector<StoredRun>> runs() const;
    /// Deletes a run. The file keeps its size until `vacuum`.
    std::optional<Problem> drop(std::int64_t run);
    std::optional<Problem> vacuum();
    /// A run's records, in the form and order of a results file (docs/records.md).
    std::optional<Problem> lines_of(std::int64_t run, const std::function<void(const std::string&)>& take) const;
    /// The same, each result with what the implementation answered: the trace of a value, a written document, or a
    /// message. Other records have no answer.
    std::optional<Problem> lines_with_answers(
        std::int64_t run, const std::function<void(const std::string&, std::string_view)>& take) const;
    /// The names of cases of a run with a failing result, or with a cause.
    [[nodiscard]] Checked<std::vector<std::string>> cases_failing(std::int64_t run, const std::string& cause) const;
    /// The names of cases that an implementation of both runs answers otherwise in the later one: another outcome,
    /// finding or cause, or another value, text or message.
    [[nodiscard]] Checked<std::vector<std::string>> cases_changed(std::int64_t before, std::int64_t now) const;
    /// Runs one SQL query that reads; each row goes to `take`, the names of the columns first. The function
    /// `answer(run, implementation, case, operation)` gives what an implementation answered: the trace of a value,
    /// a written document, or a message.
    std::optional<Problem> query(const std::string& sql,
                                 const std::function<void(const std::vector<std::string>&)>& take) const;

    /// A sink that adds a run, or goes on with one that is not complete.
    Checked<std::unique_ptr<StoreSink>> add_run(const RunSetup& setup, std::span<const Case> cases);
    Checked<std::unique_ptr<StoreSink>> resume(const StoredRun& run, const RunSetup& setup,
                                               std::span<const Case> cases);

    struct Database;

  private:
    explicit RunStore(std::unique_ptr<Database> database);
    std::unique_ptr<Database> database_;
    friend class StoreSink;
};

/// Writes one run into a store. It must not outlive the store.
class StoreSink final : public ResultSink {
  public:
    ~StoreSink() override;
    void begin(const RunHeader& header) override;
    void chunk(const ChunkReport& report) override;
    void incident(const IncidentReport& report) override;
    void end(const RunEnd& how) override;
    /// After a run that was not cancelled: its behaviours, and that it is complete.
    void finish(const std::vector<Behaviour>& behaviours);
    /// Hands what an earlier process stored of the run to a sink, as if it were found now.
    std::optional<Problem> replay(std::span<const Subject> subjects, ResultSink& sink) const;
    /// The chunk to go on with, and why subjects are asked no more; for CampaignOptions.
    [[nodiscard]] std::size_t first_chunk() const;
    [[nodiscard]] const std::vector<std::string>& gave_up() const;
    /// The first thing that went wrong; later results are dropped.
    [[nodiscard]] const std::optional<Problem>& problem() const;
    [[nodiscard]] std::int64_t run() const;
    /// The time that storing took, in seconds. Workers go on meanwhile, unless they have a chunk to hand over.
    [[nodiscard]] double seconds() const;

    struct State;

  private:
    friend class RunStore;
    explicit StoreSink(std::unique_ptr<State> state);
    std::unique_ptr<State> state_;
};

/// Whether a file is a store, by its first bytes.
bool is_run_store(const std::string& path);

}  // namespace nachklang

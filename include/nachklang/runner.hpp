// Running implementations: requests, outcomes, and the executors that turn one into the other.
//
// Implementations run outside the process and use the adapter protocol (docs/protocol.md); codecs inside this
// process go through the same interface, Executor. An Executor is used from one thread at a time; several may run
// in parallel.
#pragma once

#include <condition_variable>
#include <map>
#include <memory>
#include <mutex>
#include <optional>
#include <set>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include <nachklang/adapter.hpp>
#include <nachklang/config.hpp>
#include <nachklang/operation.hpp>

namespace nachklang {

/// One implementation in one mode. Findings are about subjects.
struct Subject {
    Implementation implementation;
    std::string mode;             ///< empty: the implementation has no modes
    std::string version, engine;  ///< from the hello; without an engine of its own, the implementation's name
    std::map<std::string, std::set<std::string>> operations;  ///< by format
    CannotRepresent cannot_represent;
    Settings settings;
    std::string failed_hello;  ///< not empty: why the adapter sent no valid hello
    [[nodiscard]] std::string name() const {
        return mode.empty() ? implementation.name : implementation.name + "/" + mode;
    }
    [[nodiscard]] bool does(std::string_view format, Operation operation) const;
};

enum class OutcomeKind : std::uint8_t {
    accepted,
    rejected,
    threw,
    exhausted,
    unclear,
    unsupported,
    adapter_fault,  ///< the adapter's own code failed, not the implementation
    crashed,
    timed_out,
    out_of_memory,
    broken_reply,
    unsteady
};
std::string_view name_of(OutcomeKind kind);
/// Whether the implementation itself gave this answer.
bool is_answer(OutcomeKind kind);

struct Request {
    Operation operation = Operation::decode;
    const Format* format = nullptr;
    std::shared_ptr<const std::string> body;
    bool show = true;
};

/// What happened to one request.
struct Outcome {
    OutcomeKind kind = OutcomeKind::unsupported;
    std::string body;            ///< the document of an accepted round trip or encode; else the message
    std::optional<Trace> trace;  ///< of an accepted decode that was shown
    std::string reported;        ///< of an accepted document: the errors that the library reported, one a line
    std::optional<std::uint64_t> offset, line, column;
    std::string unit, log;
    double seconds = 0;
};

/// An answer that depended on what was asked before.
struct Incident {
    std::vector<std::size_t> sequence;            ///< indices of the requests, in the order they were asked
    OutcomeKind outcome = OutcomeKind::unsteady;  ///< crashed … or unsteady
    std::string detail;
};

struct Chunk {
    std::vector<Outcome> outcomes;  ///< one a request, in their order
    std::vector<Incident> incidents;
};

class Executor {
  public:
    virtual ~Executor() = default;
    /// Runs all requests in order, in one process if the implementation is one.
    virtual Chunk run(std::span<const Request> requests) = 0;
};

/// Keeps time-outs honest. Every process runs under a share of it; a time-out is confirmed with the lock held
/// alone, so that a deadline missed because of the machine's load is not booked on an implementation.
///
/// A waiting writer goes before readers that come later. std::shared_mutex gives no such promise: with glibc its
/// readers win, and a confirmation waits until no worker has anything left to run.
class TimingLock {
  public:
    void lock_shared();
    void unlock_shared();
    void lock();
    void unlock();

  private:
    std::mutex mutex_;
    std::condition_variable changed_;
    std::size_t readers_ = 0, writers_waiting_ = 0;
    bool writing_ = false;
};

/// Starts an adapter once and reads its hello; returns one subject for each mode. A command line is one subject.
std::vector<Subject> handshake(const Implementation& implementation, TimingLock& timing_lock);
/// An executor for one subject; it starts processes as it needs them.
std::unique_ptr<Executor> make_executor(const Subject& subject, TimingLock& timing_lock);
/// Runs a codec inside this process. The codec must outlive the executor. A crash ends this process.
std::unique_ptr<Executor> make_in_process_executor(adapter::Codec& codec, std::string mode = {});
Subject handshake(const adapter::Codec& codec, std::string mode = {});

/// What `implementations check` found, check by check.
struct ProtocolReport {
    struct Check {
        std::string name;
        bool passed = true;
        bool applicable = true;
        std::string detail;
    };
    std::vector<Check> checks;
    [[nodiscard]] bool passed() const;
};
/// Tests an adapter's framing, ids, bodies, order, standard output and end (see docs/protocol.md).
ProtocolReport check_protocol(const Subject& subject, TimingLock& timing_lock);

}  // namespace nachklang

// Running implementations: requests, outcomes, and the executors that turn one into the other.
//
// Implementations run outside the process and use the adapter protocol (docs/protocol.md); codecs inside this
// process go through the same interface, Executor. An Executor is used by one thread, as its processes end with
// that thread; several may run in parallel.
#pragma once

#include <atomic>
#include <functional>
#include <map>
#include <memory>
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

class RecordedAnswers;

/// One implementation in one mode. Findings are about subjects.
struct Subject {
    Implementation implementation;
    std::string mode;             ///< empty: the implementation has no modes
    std::string version, engine;  ///< from the hello; without an engine of its own, the implementation's name
    std::map<std::string, std::set<std::string>> operations;  ///< by format
    CannotRepresent cannot_represent;
    Settings settings;
    std::string failed_hello;     ///< not empty: why the adapter sent no valid hello
    std::string missing_library;  ///< not empty: the adapter cannot start, because this library is not installed
    std::shared_ptr<const RecordedAnswers> recorded;  ///< not null: its answers come from this record
    [[nodiscard]] std::string name() const {
        return mode.empty() ? implementation.name : implementation.name + "/" + mode;
    }
    /// The name under which it was recorded: a recorded implementation is called NAME@VERSION.
    [[nodiscard]] std::string recorded_name() const {
        const std::string bare = implementation.name.substr(0, implementation.name.find('@'));
        return mode.empty() ? bare : bare + "/" + mode;
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
    unsteady,
    not_asked  ///< the executor gave up before; says nothing about the implementation
};
std::string_view name_of(OutcomeKind kind);
/// The outcome of that name; nothing for an unknown word.
std::optional<OutcomeKind> find_outcome(std::string_view name);
/// Whether the implementation itself gave this answer.
bool is_answer(OutcomeKind kind);
/// Whether the request reached an implementation that supports it.
bool was_asked(OutcomeKind kind);
/// Whether it took all its time or memory.
bool takes_all(OutcomeKind kind);
/// Whether the adapter failed: its own exception, or a reply that breaks the protocol. That says nothing about the
/// implementation.
bool is_adapters_fault(OutcomeKind kind);

struct Request {
    Operation operation = Operation::decode;
    const Format* format = nullptr;
    std::shared_ptr<const std::string> body;
    bool show = true;
    std::string record{};  ///< the record type to decode into, for an operation that does
    std::string cuts{};    ///< of an operation in pieces: the offsets where a piece ends, "3,7", or "each" byte
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
    bool idle = false;  ///< of a time-out: the processor was used for less than half of that time
};
/// The outcome of a request that an executor gave up before, and why.
Outcome not_asked(std::string why);

/// An answer that depended on what was asked before.
struct Incident {
    std::vector<std::size_t> sequence;            ///< indices of the requests, in the order they were asked
    OutcomeKind outcome = OutcomeKind::unsteady;  ///< crashed … or unsteady
    std::string detail;
};

struct Chunk {
    std::vector<Outcome> outcomes;  ///< one a request, in their order
    std::vector<Incident> incidents;
    std::string gave_up;  ///< not empty: why the rest was not asked
};

class Executor {
  public:
    virtual ~Executor() = default;
    /// Runs all requests in order, in one process if the implementation is one. The next row meets the same
    /// process. After several failures in a row, or without a hello, the rest is not asked.
    virtual Chunk run(std::span<const Request> requests) = 0;
    /// The next row meets a new process.
    virtual void restart() {}
    /// Whether every reply was one to its request. If not, a reply may have answered a request of another row.
    virtual bool keeps_in_step() { return true; }
    /// From now on each row meets a process of its own, which is waited for: an answer too many is seen where it
    /// came.
    virtual void isolate_rows() {}
};

/// Makes executors: the process runner's, or the caller's own (in this process). Called from worker threads.
using ExecutorFactory = std::function<std::unique_ptr<Executor>(const Subject&)>;

/// Starts an adapter once and reads its hello; returns one subject for each mode. A command line is one subject.
/// Once `cancelled` is true, Cancelled is thrown.
std::vector<Subject> handshake(const Implementation& implementation, const std::atomic<bool>* cancelled = nullptr);
/// An executor for one subject; it starts processes as it needs them. Once `cancelled` is true, it throws
/// Cancelled.
std::unique_ptr<Executor> make_executor(const Subject& subject, const std::atomic<bool>* cancelled = nullptr);
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
ProtocolReport check_protocol(const Subject& subject);

}  // namespace nachklang

// One adapter process: its hello, rows of requests, its end.
#pragma once

#include "protocol/messages.hpp"
#include "protocol/process.hpp"

namespace nachklang::protocol {

/// The result of a session. `outcomes` holds the replies in order; if there are fewer than requests, `failure`
/// says why.
struct SessionResult {
    std::vector<Outcome> outcomes;
    std::optional<Outcome> failure;
    bool framing_broken = false;  ///< the death is of the framing: the reply before may have lied about its length
    std::string hello_problem;    ///< not empty: why there was no valid hello
    std::string missing_library;  ///< a shared library without which the system does not start the adapter
    OutcomeKind hello_outcome =
        OutcomeKind::adapter_fault;  ///< how a hello failed; a command that cannot be run is no answer of a library
    std::string log;
    std::optional<Hello> hello;
    std::string exit_problem;        ///< how it exited after the end of its input, if not with status 0
    bool replies_on_stdout = false;  ///< its descriptor 1 is the pipe of the replies still
};

/// How much time a request has: a part for itself, and a part for its size.
struct Pace {
    double seconds = 0, bytes_per_second = 1;
    [[nodiscard]] double deadline(const Request& request) const {
        return seconds + static_cast<double>(request.body->size()) / bytes_per_second;
    }
};

struct SessionOptions {
    std::size_t ahead = 32;           ///< requests under way
    std::size_t ahead_bytes = 65536;  ///< bytes of bodies under way; a larger one goes alone
    std::string extra_key{};          ///< put into every request
    std::optional<Pace> pace{};  ///< a deadline that is shorter than the implementation's where it ends earlier
    const std::atomic<bool>* cancelled = nullptr;
};

/// A process that answers rows of requests, one row after the other. After a failure it is over.
class Session {
  public:
    explicit Session(const Implementation& implementation, const SessionOptions& options = {});
    ~Session();
    Session(const Session&) = delete;
    Session& operator=(const Session&) = delete;

    /// Starts the process if this is the first row. The requests are asked in this mode.
    SessionResult ask(const std::string& mode, std::span<const Request> requests);
    /// Ends the input and waits for the end: the adapter must exit without further output. Sets exit_problem, and
    /// failure if it said more.
    void finish(SessionResult& result);

  private:
    class State;
    std::unique_ptr<State> state_;
};

/// All requests in a process of their own, which ends after them.
SessionResult run_session(const Subject& subject, std::span<const Request> requests,
                          const SessionOptions& options = {});

}  // namespace nachklang::protocol

// Executors, and the attribution of failures to requests.
//
// When a process dies, the first unanswered request is suspect (and, if the framing broke, the reply before it,
// whose length may be wrong). The suspect is repeated alone in a new process; the others continue in another one.
// Its outcome is what it does alone. If it does not fail alone, the sequence is replayed once and recorded as an
// incident.
#include <fmt/format.h>

#include <mutex>
#include <numeric>
#include <shared_mutex>

#include "protocol/session.hpp"
#include "runner/command_line.hpp"

namespace nachklang {
namespace {

using protocol::SessionResult;

class ProcessExecutor final : public Executor {
  public:
    ProcessExecutor(Subject subject, TimingLock& timing_lock)
        : subject_(std::move(subject)), timing_lock_(timing_lock) {}

    Chunk run(std::span<const Request> requests) override {
        Chunk out;
        out.outcomes.resize(requests.size());
        std::size_t from = 0;
        while (from < requests.size()) {
            SessionResult session = shared(requests.subspan(from));
            if (!session.hello_problem.empty()) {
                session = shared(requests.subspan(from));  // a hello is asked for twice
                if (!session.hello_problem.empty()) {
                    for (std::size_t i = from; i < requests.size(); ++i) out.outcomes[i] = no_hello(session);
                    return out;
                }
            }
            const std::size_t answered = session.outcomes.size();
            std::move(session.outcomes.begin(), session.outcomes.end(),
                      out.outcomes.begin() + static_cast<std::ptrdiff_t>(from));
            if (!session.failure) return out;
            const std::size_t suspect = from + answered;
            const bool liar =
                session.framing_broken && answered > 0 && lied_about_length(requests, suspect - 1, out);
            if (suspect >= requests.size()) return out;
            if (liar) {  // the requests after it are not at fault
                from = suspect;
                continue;
            }
            suspect_of_failure(requests, from, suspect, *session.failure, out);
            from = suspect + 1;
        }
        return out;
    }

  private:
    SessionResult shared(std::span<const Request> requests) {
        const std::shared_lock lock(timing_lock_);
        return protocol::run_session(subject_, requests);
    }
    SessionResult alone(const Request& request) {
        const std::shared_lock lock(timing_lock_);
        return protocol::run_session(subject_, {&request, 1});
    }
    /// Runs with no other worker active, so that load cannot cause a time-out.
    SessionResult undisturbed(const Request& request) {
        const std::unique_lock lock(timing_lock_);
        return protocol::run_session(subject_, {&request, 1});
    }

    static Outcome no_hello(const SessionResult& session) {
        Outcome out;
        out.kind = OutcomeKind::crashed;
        out.body = session.hello_problem;
        out.log = session.log;
        return out;
    }
    /// The outcome of a request that ran alone.
    static Outcome outcome_of(SessionResult session) {
        if (!session.hello_problem.empty()) return no_hello(session);
        if (session.failure) return std::move(*session.failure);
        return std::move(session.outcomes.front());
    }

    /// The reply before a broken one: asked alone it either breaks the protocol itself or is cleared.
    bool lied_about_length(std::span<const Request> requests, std::size_t index, Chunk& out) {
        out.outcomes[index] = outcome_of(alone(requests[index]));
        return out.outcomes[index].kind == OutcomeKind::broken_reply;
    }

    void suspect_of_failure(std::span<const Request> requests, std::size_t from, std::size_t suspect,
                            const Outcome& failure, Chunk& out) {
        SessionResult session =
            failure.kind == OutcomeKind::timed_out ? undisturbed(requests[suspect]) : alone(requests[suspect]);
        const bool fails_alone = session.failure.has_value() || !session.hello_problem.empty();
        out.outcomes[suspect] = outcome_of(std::move(session));
        if (fails_alone || suspect == from) return;
        Incident incident;
        incident.sequence.resize(suspect - from + 1);
        std::iota(incident.sequence.begin(), incident.sequence.end(), from);
        const SessionResult again = shared(requests.subspan(from, suspect - from + 1));
        const bool repeats = again.failure && again.outcomes.size() == suspect - from;
        incident.outcome = repeats ? again.failure->kind : OutcomeKind::unsteady;
        incident.detail =
            fmt::format("{} after {} other request{}; alone the outcome is {}",
                        repeats ? again.failure->body : failure.body + ", but not when replayed", suspect - from,
                        suspect - from == 1 ? "" : "s", name_of(out.outcomes[suspect].kind));
        out.incidents.push_back(std::move(incident));
    }

    Subject subject_;
    TimingLock& timing_lock_;
};

class CommandLineExecutor final : public Executor {
  public:
    CommandLineExecutor(Subject subject, TimingLock& timing_lock)
        : subject_(std::move(subject)), timing_lock_(timing_lock) {}

    Chunk run(std::span<const Request> requests) override {
        Chunk out;
        for (const Request& request : requests) {
            Outcome outcome = once<std::shared_lock<TimingLock>>(request);
            if (outcome.kind == OutcomeKind::timed_out) outcome = once<std::unique_lock<TimingLock>>(request);
            out.outcomes.push_back(std::move(outcome));
        }
        return out;
    }

  private:
    template <class Lock>
    Outcome once(const Request& request) {
        const Lock lock(timing_lock_);
        return runner::run_command_line(subject_, request);
    }
    Subject subject_;
    TimingLock& timing_lock_;
};

class InProcessExecutor final : public Executor {
  public:
    InProcessExecutor(adapter::Codec& codec, std::string mode) : codec_(codec), mode_(std::move(mode)) {}

    Chunk run(std::span<const Request> requests) override {
        Chunk out;
        for (const Request& request : requests) out.outcomes.push_back(one(request));
        return out;
    }

  private:
    Outcome one(const Request& request) {
        adapter::Reply reply = adapter::run_request(codec_, name_of(request.operation), request.format->name(),
                                                    mode_, *request.body, request.show);
        Outcome out;
        auto head = protocol::parse_reply_head(reply.kind + " 0 id=0");
        if (!head.ok()) {
            out.kind = OutcomeKind::broken_reply;
            out.body = head.problem().what;
            return out;
        }
        out.kind = head.value().kind;
        out.offset = reply.offset;
        out.line = reply.line;
        out.column = reply.column;
        out.unit = reply.unit;
        out.reported = reply.reported;
        if (out.kind == OutcomeKind::accepted && request.operation == Operation::decode) {
            TraceError error;
            if (request.show) out.trace = Trace::parse(std::move(reply.bytes), &error);
            if (request.show && !out.trace) {
                out.kind = OutcomeKind::broken_reply;
                out.body = fmt::format("line {} of the trace: {}", error.line, error.message);
            }
        } else {
            out.body = std::move(reply.bytes);
        }
        return out;
    }
    adapter::Codec& codec_;
    std::string mode_;
};

Subject from_hello(const Implementation& implementation, const protocol::Hello& hello) {
    Subject out;
    out.implementation = implementation;
    out.version = hello.version;
    out.engine = hello.engine.empty() ? hello.name : hello.engine;
    out.operations = hello.operations;
    out.cannot_represent = hello.cannot_represent;
    out.settings = hello.settings;
    return out;
}

}  // namespace

std::vector<Subject> handshake(const Implementation& implementation, TimingLock& timing_lock) {
    Subject plain;
    plain.implementation = implementation;
    plain.engine = implementation.name;
    if (implementation.reach != Reach::trace) {
        for (const std::string& format : implementation.formats)
            plain.operations[format] = {implementation.reach == Reach::round_trip ? "round-trip" : "decode"};
        return {plain};
    }
    protocol::SessionResult session;
    for (int attempt = 0; attempt < 2; ++attempt) {
        const std::shared_lock lock(timing_lock);
        session = protocol::run_session(plain, {});
        if (session.hello_problem.empty()) break;
    }
    if (!session.hello_problem.empty()) {
        plain.failed_hello = session.hello_problem;
        for (const std::string& format : implementation.formats) plain.operations[format] = {"decode"};
        return {plain};
    }
    std::vector<Subject> out;
    for (const protocol::HelloMode& mode : session.hello->modes) {
        Subject subject = from_hello(implementation, *session.hello);
        subject.mode = mode.name;
        subject.cannot_represent = mode.cannot_represent;
        subject.settings = mode.settings;
        if (!mode.operations.empty()) subject.operations = mode.operations;
        out.push_back(std::move(subject));
    }
    if (out.empty()) out.push_back(from_hello(implementation, *session.hello));
    return out;
}

std::unique_ptr<Executor> make_executor(const Subject& subject, TimingLock& timing_lock) {
    if (subject.implementation.reach == Reach::trace)
        return std::make_unique<ProcessExecutor>(subject, timing_lock);
    return std::make_unique<CommandLineExecutor>(subject, timing_lock);
}

std::unique_ptr<Executor> make_in_process_executor(adapter::Codec& codec, std::string mode) {
    return std::make_unique<InProcessExecutor>(codec, std::move(mode));
}

Subject handshake(const adapter::Codec& codec, std::string mode) {
    const adapter::Description description = codec.describe();
    Subject out;
    out.implementation.name = description.name;
    out.mode = std::move(mode);
    out.version = description.version;
    out.engine = description.engine.empty() ? description.name : description.engine;
    for (const adapter::Capability& capability : description.capabilities)
        out.operations[capability.format] = {capability.operations.begin(), capability.operations.end()};
    out.cannot_represent = description.cannot_represent;
    out.settings = description.settings;
    for (const adapter::Mode& m : description.modes) {
        if (m.name != out.mode) continue;
        out.cannot_represent.insert(out.cannot_represent.end(), m.cannot_represent.begin(),
                                    m.cannot_represent.end());
        for (const auto& [key, value] : m.settings) out.settings[key] = value;
        if (!m.capabilities.empty()) out.operations.clear();
        for (const adapter::Capability& capability : m.capabilities)
            out.operations[capability.format] = {capability.operations.begin(), capability.operations.end()};
    }
    return out;
}

}  // namespace nachklang

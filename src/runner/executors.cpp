// Executors, and the attribution of failures to requests.
//
// When a process dies, the first unanswered request is suspect (and, if the framing broke, the reply before it,
// whose length may be wrong). The suspect is repeated alone in a new process; the others continue in another one.
// Its outcome is what it does alone. If it does not fail alone, all that its process was asked is replayed once,
// and recorded as an incident.
//
// A row of requests has a shorter deadline than a request alone: one that is late there says only that it must be
// asked alone. So a document that hangs a library costs little more than one deadline.
#include <fmt/format.h>

#include <numeric>
#include <utility>

#include <nachklang/recorded.hpp>

#include "protocol/session.hpp"
#include "runner/command_line.hpp"

namespace nachklang {
namespace {

using protocol::SessionResult;

/// Whether a request failed in a way that costs a process.
bool ends_process(OutcomeKind kind) {
    return kind == OutcomeKind::crashed || kind == OutcomeKind::timed_out || kind == OutcomeKind::out_of_memory ||
           kind == OutcomeKind::broken_reply;
}

bool shows_value(const Request& request) {
    return request.show && info_of(request.operation).output == Content::value;
}

/// The deadlines of requests in a row. What is late there is asked again, alone and with the whole deadline. A
/// small document that takes a second hardly ends at all; a large one may be read by an interpreted library.
constexpr protocol::Pace pace_in_row{1, 100e3};

/// After so many failures in a row an implementation is not asked on.
constexpr std::size_t most_in_a_row = 10;

/// Keeps a process from one row of requests to the next. What it answered there is its history: a failure is
/// replayed with it.
class ProcessExecutor final : public Executor {
  public:
    ProcessExecutor(Subject subject, const std::atomic<bool>* cancelled)
        : subject_(std::move(subject)),
          options_{.cancelled = cancelled},
          in_row_{.pace = pace_in_row, .cancelled = cancelled} {}
    ~ProcessExecutor() override = default;
    ProcessExecutor(const ProcessExecutor&) = delete;
    ProcessExecutor& operator=(const ProcessExecutor&) = delete;

    Chunk run(std::span<const Request> requests) override {
        Chunk out;
        out.outcomes.resize(requests.size());
        std::size_t from = 0, failures = 0;
        while (from < requests.size() && out.gave_up.empty()) {
            SessionResult session = shared(requests.subspan(from));
            if (!session.hello_problem.empty()) session = shared(requests.subspan(from));  // asked for twice
            if (!session.hello_problem.empty()) {
                out.outcomes[from++] = no_hello(session);
                out.gave_up = "no hello: " + session.hello_problem;
                break;
            }
            const std::size_t answered = session.outcomes.size();
            std::move(session.outcomes.begin(), session.outcomes.end(),
                      out.outcomes.begin() + static_cast<std::ptrdiff_t>(from));
            if (answered > 0) failures = 0;
            if (!session.failure) return out;
            const auto history = std::exchange(history_, {});  // of the process that died
            const std::size_t suspect = from + answered;
            const bool liar =
                session.framing_broken && answered > 0 && lied_about_length(requests, suspect - 1, out);
            if (suspect >= requests.size()) return out;
            if (liar) {  // the requests after it are not at fault
                from = suspect;
                continue;
            }
            suspect_of_failure(history, requests.subspan(from, suspect - from + 1), from, *session.failure, out);
            from = suspect + 1;
            failures = ends_process(out.outcomes[suspect].kind) ? failures + 1 : 0;
            if (failures == most_in_a_row)
                out.gave_up = fmt::format("{} requests in a row failed, the last one: {}", most_in_a_row,
                                          out.outcomes[suspect].body);
        }
        for (; from < requests.size(); ++from) out.outcomes[from] = not_asked(out.gave_up);
        return out;
    }
    void restart() override {
        if (live_ == nullptr) return;
        SessionResult end;
        live_->finish(end);
        doubtful_ = doubtful_ || end.failure.has_value();
        live_.reset();
        history_.clear();
    }
    bool keeps_in_step() override {
        restart();
        return !doubtful_;
    }
    void isolate_rows() override {
        restart();
        isolated_ = true;
        doubtful_ = false;
    }

  private:
    SessionResult shared(std::span<const Request> requests) {
        if (isolated_) return protocol::run_session(subject_, requests, in_row_);
        if (live_ == nullptr) live_ = std::make_unique<protocol::Session>(subject_.implementation, in_row_);
        SessionResult out = live_->ask(subject_.mode, requests);
        if (out.failure || !out.hello_problem.empty()) {
            doubtful_ = doubtful_ || (out.failure && out.failure->kind == OutcomeKind::broken_reply);
            live_.reset();
        } else {
            history_.insert(history_.end(), requests.begin(), requests.end());
        }
        return out;
    }
    static Outcome no_hello(const SessionResult& session) {
        Outcome out;
        out.kind = session.hello_outcome;
        out.body = session.hello_problem;
        out.log = session.log;
        return out;
    }
    struct Alone {
        Outcome outcome;
        bool answered = false;  // its process did not fail
    };
    /// The request in a process of its own, with the whole deadline.
    Alone ask_alone(const Request& request) {
        SessionResult session = protocol::run_session(subject_, {&request, 1}, options_);
        if (!session.hello_problem.empty()) return {no_hello(session)};
        if (session.failure) return {std::move(*session.failure)};
        return {std::move(session.outcomes.front()), true};
    }
    /// The same for a request that took all its time or memory. A value that is decoded in time may take an adapter
    /// longer to show than the deadline, or more memory: that is no failure of the library. So it is asked first
    /// without showing the value.
    Alone costly_alone(const Request& request) {
        if (!shows_value(request)) return ask_alone(request);
        Request hidden = request;
        hidden.show = false;
        Alone unshown = ask_alone(hidden);
        if (takes_all(unshown.outcome.kind)) return unshown;
        Alone shown = ask_alone(request);
        if (takes_all(shown.outcome.kind) && unshown.outcome.kind == OutcomeKind::accepted) {
            shown.outcome.kind = OutcomeKind::unsupported;
            shown.outcome.body = fmt::format(
                "the adapter could not show the value ({}); without showing it, the document was accepted",
                shown.outcome.body);
        }
        return shown;
    }

    /// The reply before a broken one: asked alone it either breaks the protocol itself or is cleared.
    bool lied_about_length(std::span<const Request> requests, std::size_t index, Chunk& out) {
        out.outcomes[index] = ask_alone(requests[index]).outcome;
        return out.outcomes[index].kind == OutcomeKind::broken_reply;
    }

    /// `row` begins at the index `from`, with the first request after the history; its last request is the suspect.
    void suspect_of_failure(const std::vector<Request>& history, std::span<const Request> row, std::size_t from,
                            const Outcome& failure, Chunk& out) {
        const bool was_first = row.size() == 1 && history.empty();
        Outcome& outcome = out.outcomes[from + row.size() - 1];
        Alone alone = takes_all(failure.kind) ? costly_alone(row.back()) : ask_alone(row.back());
        if (takes_all(alone.outcome.kind) && !takes_all(failure.kind)) alone = costly_alone(row.back());
        outcome = std::move(alone.outcome);
        if (!alone.answered || was_first) return;
        if (failure.kind == OutcomeKind::timed_out && outcome.seconds > pace_in_row.deadline(row.back()) / 2)
            return;  // it is slow
        Incident incident;
        incident.sequence.resize(row.size());
        std::iota(incident.sequence.begin(), incident.sequence.end(), from);
        std::vector<Request> all = history;
        all.insert(all.end(), row.begin(), row.end());
        const SessionResult again = protocol::run_session(subject_, all, options_);
        const bool repeats = again.failure && again.outcomes.size() + 1 == all.size();
        // Late once, and neither alone nor in its row again: the machine may have been stopped.
        if (failure.kind == OutcomeKind::timed_out && !repeats) return;
        incident.outcome = repeats ? again.failure->kind : OutcomeKind::unsteady;
        incident.detail = fmt::format("{} after {} other request{}; alone the outcome is {}",
                                      repeats ? again.failure->body : failure.body + ", but not when replayed",
                                      all.size() - 1, all.size() == 2 ? "" : "s", name_of(outcome.kind));
        out.incidents.push_back(std::move(incident));
    }

    Subject subject_;
    protocol::SessionOptions options_, in_row_;  // alone, and in a row
    std::unique_ptr<protocol::Session> live_;
    std::vector<Request> history_;  // what the live process answered
    bool doubtful_ = false, isolated_ = false;
};

class CommandLineExecutor final : public Executor {
  public:
    CommandLineExecutor(Subject subject, const std::atomic<bool>* cancelled)
        : subject_(std::move(subject)), cancelled_(cancelled) {}

    Chunk run(std::span<const Request> requests) override {
        Chunk out;
        std::size_t timed_out = 0;  // in a row; a crash costs little
        for (const Request& request : requests) {
            out.outcomes.push_back(out.gave_up.empty() ? answer_to(request) : not_asked(out.gave_up));
            timed_out = out.outcomes.back().kind == OutcomeKind::timed_out ? timed_out + 1 : 0;
            if (timed_out == most_in_a_row)
                out.gave_up = fmt::format("{} documents in a row got no answer within {} s", most_in_a_row,
                                          subject_.implementation.deadline_s);
        }
        return out;
    }

  private:
    /// A command that was idle until its deadline is run once more: the machine may have been stopped.
    Outcome answer_to(const Request& request) {
        Outcome out = runner::run_command_line(subject_, request, cancelled_);
        if (out.kind == OutcomeKind::timed_out && out.idle)
            out = runner::run_command_line(subject_, request, cancelled_);
        return out;
    }
    Subject subject_;
    const std::atomic<bool>* cancelled_;
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
        adapter::Reply reply =
            adapter::run_request(codec_, name_of(request.operation), request.format->name(), mode_, *request.body,
                                 request.show, request.record, request.cuts);
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
        if (out.kind == OutcomeKind::accepted && info_of(request.operation).output == Content::value) {
            TraceError error;
            if (request.show) out.trace = parse_value(*request.format, std::move(reply.bytes), error);
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

std::vector<Subject> handshake(const Implementation& implementation, const std::atomic<bool>* cancelled) {
    Subject plain;
    plain.implementation = implementation;
    plain.engine = implementation.name;
    plain.version = implementation.version;
    plain.settings = implementation.settings;
    if (implementation.reach != Reach::trace) {
        for (const std::string& format : implementation.formats)
            plain.operations[format] = {implementation.reach == Reach::round_trip ? "round-trip" : "decode"};
        return {plain};
    }
    protocol::SessionResult session;
    for (int attempt = 0; attempt < 2; ++attempt) {
        session = protocol::run_session(plain, {}, {.cancelled = cancelled});
        if (session.hello_problem.empty()) break;
    }
    if (!session.hello_problem.empty()) {
        plain.failed_hello = session.hello_problem;
        plain.missing_library = session.missing_library;
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

std::unique_ptr<Executor> make_executor(const Subject& subject, const std::atomic<bool>* cancelled) {
    if (subject.recorded != nullptr) return subject.recorded->executor(subject);
    if (subject.implementation.reach == Reach::trace) return std::make_unique<ProcessExecutor>(subject, cancelled);
    return std::make_unique<CommandLineExecutor>(subject, cancelled);
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

// Attribution: who is to blame when a process dies.
//
// Only the first unanswered request is suspect (and the reply before it, where the framing broke: that reply may
// have lied about its length). A suspect is asked alone in a fresh process; the others go on in another. What it
// does alone is its outcome. If it does not die alone, the sequence is replayed once, and an incident keeps it.
#include <fmt/format.h>

#include <mutex>
#include <numeric>

#include "life.hpp"

namespace nachklang {
namespace {

using runner::Life;

class ProcessAsker final : public Asker {
  public:
    ProcessAsker(Subject subject, Quiet& quiet) : subject_(std::move(subject)), quiet_(quiet) {}

    Chunk ask(std::span<const Request> requests) override {
        Chunk out;
        out.outcomes.resize(requests.size());
        std::size_t from = 0;
        while (from < requests.size()) {
            Life life = shared(requests.subspan(from));
            if (!life.hello_problem.empty()) {
                life = shared(requests.subspan(from));  // a hello is asked for twice
                if (!life.hello_problem.empty()) {
                    for (std::size_t i = from; i < requests.size(); ++i) out.outcomes[i] = no_hello(life);
                    return out;
                }
            }
            const std::size_t answered = life.outcomes.size();
            std::move(life.outcomes.begin(), life.outcomes.end(),
                      out.outcomes.begin() + static_cast<std::ptrdiff_t>(from));
            if (!life.death) return out;
            const std::size_t suspect = from + answered;
            const bool liar = life.framing_broken && answered > 0 && lied_about_length(requests, suspect - 1, out);
            if (suspect >= requests.size()) return out;
            if (liar) {  // what came after it is not to blame
                from = suspect;
                continue;
            }
            suspect_of_death(requests, from, suspect, *life.death, out);
            from = suspect + 1;
        }
        return out;
    }

  private:
    Life shared(std::span<const Request> requests) {
        const std::shared_lock lock(quiet_);
        return runner::live(subject_, requests);
    }
    Life alone(const Request& request) {
        const std::shared_lock lock(quiet_);
        return runner::live(subject_, {&request, 1});
    }
    /// With no other worker running: a time-out that the machine's load made is none.
    Life undisturbed(const Request& request) {
        const std::unique_lock lock(quiet_);
        return runner::live(subject_, {&request, 1});
    }

    static Outcome no_hello(const Life& life) {
        Outcome out;
        out.kind = OutcomeKind::crashed;
        out.body = life.hello_problem;
        out.log = life.log;
        return out;
    }
    /// What one request did alone.
    static Outcome outcome_of(Life life) {
        if (!life.hello_problem.empty()) return no_hello(life);
        if (life.death) return std::move(*life.death);
        return std::move(life.outcomes.front());
    }

    /// The reply before a broken one: asked alone it either breaks the protocol itself or is cleared.
    bool lied_about_length(std::span<const Request> requests, std::size_t index, Chunk& out) {
        out.outcomes[index] = outcome_of(alone(requests[index]));
        return out.outcomes[index].kind == OutcomeKind::broken_reply;
    }

    void suspect_of_death(std::span<const Request> requests, std::size_t from, std::size_t suspect,
                          const Outcome& death, Chunk& out) {
        Life life =
            death.kind == OutcomeKind::timed_out ? undisturbed(requests[suspect]) : alone(requests[suspect]);
        const bool dies_alone = life.death.has_value() || !life.hello_problem.empty();
        out.outcomes[suspect] = outcome_of(std::move(life));
        if (dies_alone || suspect == from) return;
        Incident incident;
        incident.sequence.resize(suspect - from + 1);
        std::iota(incident.sequence.begin(), incident.sequence.end(), from);
        const Life again = shared(requests.subspan(from, suspect - from + 1));
        const bool repeats = again.death && again.outcomes.size() == suspect - from;
        incident.outcome = repeats ? again.death->kind : OutcomeKind::unsteady;
        incident.detail =
            fmt::format("{} after {} other request{}; alone it was {}",
                        repeats ? again.death->body : death.body + ", but not when replayed", suspect - from,
                        suspect - from == 1 ? "" : "s", name_of(out.outcomes[suspect].kind));
        out.incidents.push_back(std::move(incident));
    }

    Subject subject_;
    Quiet& quiet_;
};

class CommandLineAsker final : public Asker {
  public:
    CommandLineAsker(Subject subject, Quiet& quiet) : subject_(std::move(subject)), quiet_(quiet) {}

    Chunk ask(std::span<const Request> requests) override {
        Chunk out;
        for (const Request& request : requests) {
            Outcome outcome = once<std::shared_lock<Quiet>>(request);
            if (outcome.kind == OutcomeKind::timed_out) outcome = once<std::unique_lock<Quiet>>(request);
            out.outcomes.push_back(std::move(outcome));
        }
        return out;
    }

  private:
    template <class Lock>
    Outcome once(const Request& request) {
        const Lock lock(quiet_);
        return runner::run_command_line(subject_, request);
    }
    Subject subject_;
    Quiet& quiet_;
};

class InProcessAsker final : public Asker {
  public:
    InProcessAsker(adapter::Codec& codec, std::string mode) : codec_(codec), mode_(std::move(mode)) {}

    Chunk ask(std::span<const Request> requests) override {
        Chunk out;
        for (const Request& request : requests) out.outcomes.push_back(one(request));
        return out;
    }

  private:
    Outcome one(const Request& request) {
        adapter::Reply reply = adapter::ask(codec_, name_of(request.operation), request.format->name(), mode_,
                                            *request.body, request.show);
        Outcome out;
        auto head = runner::parse_reply_head(reply.kind + " 0 id=0");
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

Subject from_hello(const Implementation& implementation, const runner::Hello& hello) {
    Subject out;
    out.implementation = implementation;
    out.version = hello.version;
    out.engine = hello.engine.empty() ? hello.name : hello.engine;
    out.operations = hello.operations;
    out.lacks = hello.lacks;
    out.settings = hello.settings;
    return out;
}

}  // namespace

std::vector<Subject> greet(const Implementation& implementation, Quiet& quiet) {
    Subject plain;
    plain.implementation = implementation;
    plain.engine = implementation.name;
    if (implementation.reach != Reach::trace) {
        for (const std::string& format : implementation.formats)
            plain.operations[format] = {implementation.reach == Reach::lap ? "lap" : "decode"};
        return {plain};
    }
    runner::Life life;
    for (int attempt = 0; attempt < 2; ++attempt) {
        const std::shared_lock lock(quiet);
        life = runner::live(plain, {});
        if (life.hello_problem.empty()) break;
    }
    if (!life.hello_problem.empty()) {
        plain.failed_hello = life.hello_problem;
        for (const std::string& format : implementation.formats) plain.operations[format] = {"decode"};
        return {plain};
    }
    std::vector<Subject> out;
    for (const runner::HelloMode& mode : life.hello->modes) {
        Subject subject = from_hello(implementation, *life.hello);
        subject.mode = mode.name;
        subject.lacks = mode.lacks;
        subject.settings = mode.settings;
        if (!mode.operations.empty()) subject.operations = mode.operations;
        out.push_back(std::move(subject));
    }
    if (out.empty()) out.push_back(from_hello(implementation, *life.hello));
    return out;
}

std::unique_ptr<Asker> make_asker(const Subject& subject, Quiet& quiet) {
    if (subject.implementation.reach == Reach::trace) return std::make_unique<ProcessAsker>(subject, quiet);
    return std::make_unique<CommandLineAsker>(subject, quiet);
}

std::unique_ptr<Asker> make_in_process_asker(adapter::Codec& codec, std::string mode) {
    return std::make_unique<InProcessAsker>(codec, std::move(mode));
}

Subject subject_of(const adapter::Codec& codec, std::string mode) {
    const adapter::Description description = codec.describe();
    Subject out;
    out.implementation.name = description.name;
    out.mode = std::move(mode);
    out.version = description.version;
    out.engine = description.engine.empty() ? description.name : description.engine;
    for (const adapter::Offer& offer : description.offers)
        out.operations[offer.format] = {offer.operations.begin(), offer.operations.end()};
    out.lacks = description.lacks;
    out.settings = description.settings;
    for (const adapter::Mode& m : description.modes) {
        if (m.name != out.mode) continue;
        out.lacks.insert(out.lacks.end(), m.lacks.begin(), m.lacks.end());
        for (const auto& [key, value] : m.settings) out.settings[key] = value;
        if (!m.offers.empty()) out.operations.clear();
        for (const adapter::Offer& offer : m.offers)
            out.operations[offer.format] = {offer.operations.begin(), offer.operations.end()};
    }
    return out;
}

}  // namespace nachklang

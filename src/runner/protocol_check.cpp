// The checks of `implementations check`: what an adapter must do, whatever its library does.
#include <fmt/format.h>

#include <algorithm>
#include <chrono>
#include <numeric>
#include <shared_mutex>

#include <nachklang/record_types.hpp>

#include "protocol/session.hpp"

namespace nachklang {
namespace {

using protocol::SessionResult;
using Sample = Generators::Sample;

std::shared_ptr<const std::string> body(std::string bytes) {
    return std::make_shared<const std::string>(std::move(bytes));
}

class ProtocolCheck {
  public:
    explicit ProtocolCheck(const Subject& subject) : subject_(subject) {
        for (const auto& [name, operations] : subject.operations) {
            // The first of the table that it does: a decode shows most.
            for (const OperationInfo& row : nachklang::operations())
                if (subject.does(name, row.operation)) {
                    operation_ = row.operation;
                    break;
                }
            format_ = find_format(name);
            if (format_ != nullptr && format_->generators() != nullptr) break;
        }
    }

    ProtocolReport run() {
        if (!subject_.failed_hello.empty()) {
            add("hello", false, subject_.failed_hello);
            return std::move(report_);
        }
        add("hello", true, "");
        framing();
        one("an empty document", "", false);
        std::string all(256, '\0');
        std::iota(all.begin(), all.end(), '\0');
        one("all 256 byte values", all, false);
        one("a document of 1 MB", sample(Sample::large), true);
        unknown_key();
        show_nothing();
        deep();
        return std::move(report_);
    }

  private:
    void add(std::string name, bool passed, std::string detail, bool applicable = true) {
        report_.checks.push_back({std::move(name), passed, applicable, std::move(detail)});
    }
    [[nodiscard]] std::string sample(Sample kind) const { return format_->generators()->sample_document(kind); }
    SessionResult run_session(const std::vector<Request>& requests, const protocol::SessionOptions& options = {}) {
        return protocol::run_session(subject_, requests, options);
    }
    /// With more patience: a million lines take a slow language a while.
    SessionResult run_patiently(const Request& request, double deadline_s) {
        Subject patient = subject_;
        patient.implementation.deadline_s = std::max(patient.implementation.deadline_s, deadline_s);
        return protocol::run_session(patient, {&request, 1});
    }
    /// An encoder is asked for the document's value.
    [[nodiscard]] Request request(std::string document, bool show = true) const {
        if (info_of(operation_).of_record && info_of(operation_).input == Content::value)
            document = "{\nkey u8:76616c7565\nint 7\n}\n";  // a record of the first type
        else if (info_of(operation_).input == Content::value)
            if (const Reading reading = format_->read(document); reading.accepted())
                document = std::string(reading.trace.text());
        const bool of_record = info_of(operation_).of_record;
        return {operation_,
                format_,
                body(std::move(document)),
                show,
                of_record ? std::string(record_types().front().name) : "",
                info_of(operation_).in_pieces ? "each" : ""};
    }
    /// Whether the library took a document that it must take. A record may refuse what is none of its kind.
    [[nodiscard]] bool took(OutcomeKind kind) const {
        return kind == OutcomeKind::accepted || (info_of(operation_).of_record && kind == OutcomeKind::rejected);
    }

    static std::string failure_of(const SessionResult& session) {
        if (!session.hello_problem.empty()) return session.hello_problem;
        return session.failure ? session.failure->body : "";
    }

    void framing() {
        std::vector<Request> requests(40, request(sample(Sample::small)));
        const SessionResult session = run_session(requests);
        add("framing, ids and order of 40 requests ahead of their replies",
            !session.failure && session.hello_problem.empty(), failure_of(session));
        const bool broken_trace =
            !session.outcomes.empty() && session.outcomes.front().kind == OutcomeKind::broken_reply;
        const bool accepted = !session.outcomes.empty() && took(session.outcomes.front().kind);
        add("a small document is accepted, its trace well-formed", accepted,
            broken_trace || !accepted
                ? (session.outcomes.empty() ? failure_of(session) : session.outcomes.front().body)
                : "");
        add("exits with status 0 at the end of input", session.exit_problem.empty() && !session.failure,
            session.exit_problem.empty() ? failure_of(session) : "it " + session.exit_problem);
        add("standard output kept from the library", !session.replies_on_stdout,
            session.replies_on_stdout
                ? "descriptor 1 is the pipe of the replies: what the library prints there would "
                  "break the framing; duplicate it, then point it at standard error"
                : "");
    }

    void one(std::string name, std::string document, bool must_accept) {
        // Followed by a small one: a reply must not be out of step afterwards.
        const SessionResult session = run_session({request(std::move(document)), request(sample(Sample::small))});
        bool passed = !session.failure && session.hello_problem.empty();
        std::string detail = failure_of(session);
        if (passed && session.outcomes[0].kind == OutcomeKind::broken_reply) {
            passed = false;
            detail = session.outcomes[0].body;
        }
        if (passed && must_accept && !took(session.outcomes[0].kind)) {
            passed = false;
            detail = fmt::format("the outcome is {}: {}", name_of(session.outcomes[0].kind),
                                 text::printable_excerpt(session.outcomes[0].body, 100));
        }
        if (passed && !took(session.outcomes[1].kind)) {
            passed = false;
            detail =
                fmt::format("the outcome of the small document after it is {}", name_of(session.outcomes[1].kind));
        }
        add(std::move(name), passed, detail);
    }

    void unknown_key() {
        protocol::SessionOptions options;
        options.extra_key = "tower=north";
        const SessionResult session = run_session({request(sample(Sample::small))}, options);
        const bool passed = !session.failure && session.hello_problem.empty() &&
                            session.outcomes[0].kind == OutcomeKind::unsupported;
        add("a key it does not know is answered unsupported", passed,
            passed
                ? ""
                : (session.outcomes.empty() ? failure_of(session)
                                            : fmt::format("the outcome is {}", name_of(session.outcomes[0].kind))));
    }

    void show_nothing() {
        if (info_of(operation_).output != Content::value) return add("no trace for show=nothing", true, "", false);
        // A trace that was not asked for shows as a body that should have been empty.
        const SessionResult session = run_session({request(sample(Sample::small), false)});
        const bool passed = !session.failure && session.hello_problem.empty() &&
                            (session.outcomes[0].kind != OutcomeKind::accepted || session.outcomes[0].body.empty());
        add("no trace for show=nothing", passed, passed ? "" : "it printed one all the same");
    }

    void deep() {
        const std::string name = "a value a million levels deep is walked without recursion";
        if (info_of(operation_).output != Content::value) return add(name, true, "", false);
        // Where the library alone takes longer, a failing walk could not be distinguished from a slow library.
        constexpr double most_seconds = 15, seconds_with_walk = 60;
        const SessionResult silent = run_patiently(request(sample(Sample::deep), false), most_seconds);
        if (silent.failure && silent.failure->kind == OutcomeKind::timed_out)
            return add(name, true,
                       fmt::format("the library alone takes more than {} s; the walk was not tried", most_seconds),
                       false);
        const bool decodes =
            !silent.failure && silent.hello_problem.empty() && silent.outcomes[0].kind == OutcomeKind::accepted;
        if (!decodes) return add(name, true, "the library does not decode one", false);
        const SessionResult session = run_patiently(request(sample(Sample::deep)), seconds_with_walk);
        if (!session.outcomes.empty() && session.outcomes[0].kind == OutcomeKind::unsupported)
            return add(name, true, "its value is not shown: " + session.outcomes[0].body, false);
        const bool passed =
            !session.failure && session.hello_problem.empty() && session.outcomes[0].kind == OutcomeKind::accepted;
        add(name, passed,
            passed ? ""
                   : (session.outcomes.empty() ? failure_of(session) : session.outcomes[0].body) +
                         "; it is decoded with show=nothing, so the walk is at fault");
    }

    const Subject& subject_;
    const Format* format_ = nullptr;
    Operation operation_ = Operation::decode;
    ProtocolReport report_;
};

}  // namespace

bool ProtocolReport::passed() const {
    return std::all_of(checks.begin(), checks.end(), [](const Check& c) { return c.passed; });
}

ProtocolReport check_protocol(const Subject& subject) {
    if (subject.implementation.reach != Reach::trace) {
        ProtocolReport out;
        const auto executor = make_executor(subject);
        const Format* format = find_format(subject.operations.begin()->first);
        const Operation operation =
            subject.implementation.reach == Reach::round_trip ? Operation::round_trip : Operation::decode;
        for (const auto& [name, document, verdict] :
             {std::tuple("a small document ends with status 0",
                         format->generators()->sample_document(Sample::small), OutcomeKind::accepted),
              std::tuple("a text that is not a document ends with a status in rejected_status",
                         std::string("\x01nothing"), OutcomeKind::rejected)}) {
            const Request request{operation, format, body(document), true};
            const Outcome outcome = executor->run({&request, 1}).outcomes.front();
            out.checks.push_back({name, outcome.kind == verdict, true,
                                  outcome.kind == verdict
                                      ? ""
                                      : fmt::format("the outcome is {}: {}", name_of(outcome.kind),
                                                    text::printable_excerpt(outcome.body, 100))});
        }
        return out;
    }
    return ProtocolCheck(subject).run();
}

}  // namespace nachklang

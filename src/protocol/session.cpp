// A row of requests is a small state machine with three events: bytes arrived, everything was written, time or
// memory ran out.
//
// A request's clock starts when its last byte was written or when the reply before it arrived, whichever is later.
// So no request is charged for the time that earlier ones took.
#include "protocol/session.hpp"

#include <fmt/format.h>

#include <algorithm>

#include <nachklang/text.hpp>

#include "protocol/missing_library.hpp"
#include "protocol/process.hpp"

namespace nachklang::protocol {
namespace {

using Clock = std::chrono::steady_clock;
constexpr std::size_t longest_head = 4096;
constexpr std::size_t longest_message = 4096;

/// A message is for people: its beginning, and its length if that is not all.
std::string kept_message(std::string message) {
    const std::size_t all = message.size();
    if (all <= longest_message) return text::without_addresses(std::move(message));
    message.resize(longest_message);
    message.shrink_to_fit();
    return text::without_addresses(std::move(message)) + fmt::format(" … ({} bytes in all)", all);
}

}  // namespace

class Session::State {
  public:
    State(const Implementation& implementation, const SessionOptions& options)
        : implementation_(implementation), options_(options) {}

    SessionResult ask(const std::string& mode, std::span<const Request> requests) {
        mode_ = mode;
        requests_ = requests;
        first_id_ += sent_;
        sent_ = written_ = under_way_bytes_ = promised_ = 0;
        result_ = SessionResult{};
        result_.hello = hello_;
        if (child_ == nullptr && !start()) return std::move(result_);
        if (hello_) next_row();
        const Child::Stop why = broken_ ? Child::Stop::finished : child_->run();
        if (!hello_) {
            no_hello(why);
        } else if (result_.outcomes.size() < requests_.size() || broken_) {
            fail(why);
        }
        result_.log = text::without_addresses(child_->log());
        if (result_.failure) result_.failure->log = result_.log;
        return std::move(result_);
    }

    /// The adapter sees the end of its input and must exit without further output.
    void finish(SessionResult& result) {
        if (child_ == nullptr) return;
        if (!output_ended_) {
            result.replies_on_stdout = child_->output_is_descriptor_1();
            child_->close_input();
            child_->set_deadline(2.0);
            child_->run();
        }
        if (broken_ || buffer_.size() > taken_) {
            Outcome failure;
            failure.kind = OutcomeKind::broken_reply;
            failure.body = broken_ ? broken_why_ : "output without a request";
            failure.log = text::without_addresses(child_->log());
            result.failure = std::move(failure);
            result.framing_broken = true;
        }
        const Ending ending = child_->end(2.0);
        if (ending.signalled || ending.code != 0) result.exit_problem = ending.words();
    }

  private:
    bool start() {
        ChildEvents events;
        events.on_output = [this](std::string_view bytes) { take(bytes); };
        events.on_written = [this] { written(); };
        events.on_output_end = [this] {
            output_ended_ = true;
            child_->stop();
        };
        auto started = Child::start(implementation_.command, std::move(events));
        if (!started.ok()) {
            result_.hello_problem = started.problem().line();
            return false;
        }
        child_ = std::move(started.value());
        child_->set_cancelled(options_.cancelled);
        child_->set_memory_limit(implementation_.memory_mb);
        child_->set_deadline(implementation_.start_s);
        return true;
    }

    void next_row() {
        if (buffer_.size() > taken_) {
            break_off("output without a request", true);
            return;
        }
        last_reply_ = Clock::now();
        child_->set_deadline(std::nullopt);
        send_more();
    }

    void take(std::string_view bytes) {
        if (broken_) return;
        buffer_ += bytes;
        came_at_ = Clock::now();
        if (!hello_ && !take_hello()) return;
        while (!broken_ && take_reply()) {
        }
        if (result_.outcomes.size() == requests_.size() && !broken_) child_->stop();
    }

    bool take_hello() {
        const auto end = buffer_.starts_with('\n') ? 0 : std::min(buffer_.find("\n\n"), buffer_.find("\r\n\r\n"));
        if (end == std::string::npos) {
            if (buffer_.size() > 64 * longest_head) child_->stop();
            return false;
        }
        const bool cr_lf = buffer_.compare(end, 1, "\r") == 0;
        auto hello = parse_hello(std::string_view(buffer_).substr(0, end + (cr_lf ? 1 : 0)));
        buffer_.erase(0, end + 2);
        if (!hello.ok()) {
            result_.hello_problem = hello.problem().what;
            broken_ = true;
            child_->stop();
            return false;
        }
        hello_ = std::move(hello.value());
        result_.hello = hello_;
        child_->set_deadline(std::nullopt);
        last_reply_ = Clock::now();
        send_more();
        return true;
    }

    void send_more() {
        std::string batch;
        while (sent_ < requests_.size()) {
            const std::size_t size = requests_[sent_].body->size();
            const std::size_t under_way = sent_ - result_.outcomes.size();
            const bool alone = size > options_.ahead_bytes;
            if (under_way > 0 &&
                (under_way >= options_.ahead || alone || under_way_bytes_ + size > options_.ahead_bytes))
                break;
            batch += request_head(requests_[sent_], first_id_ + sent_, mode_, options_.extra_key);
            batch += *requests_[sent_].body;
            under_way_bytes_ += size;
            ++sent_;
        }
        if (batch.empty()) return;
        child_->write(std::move(batch));
        if (result_.outcomes.size() >= written_) guard_writing();
    }

    /// While nothing that is unanswered has been written whole, no request's clock runs; but an adapter that does
    /// not read must not hold a run for ever.
    void guard_writing() {
        constexpr double slowest_pipe = 10e6;  // bytes a second
        child_->set_deadline(2 * implementation_.deadline_s + static_cast<double>(under_way_bytes_) / slowest_pipe);
    }

    void written() {
        written_ = sent_;
        written_at_ = Clock::now();
        rearm();
    }

    /// Of the first unanswered request, in seconds.
    [[nodiscard]] double deadline() const {
        const double whole = implementation_.deadline_s;
        if (!options_.pace || result_.outcomes.size() == requests_.size()) return whole;
        return std::min(whole, options_.pace->deadline(requests_[result_.outcomes.size()]));
    }

    /// The clock of the first unanswered request.
    void rearm() {
        if (result_.outcomes.size() >= written_) {
            if (sent_ > written_) return guard_writing();
            child_->set_deadline(std::nullopt);
            return;
        }
        const auto start = std::max(written_at_, last_reply_);
        const double gone = std::chrono::duration<double>(Clock::now() - start).count();
        child_->set_deadline(std::max(0.0, deadline() - gone));
    }

    bool take_reply() {
        const auto line_end = buffer_.find('\n', taken_);
        if (line_end == std::string::npos) {
            if (buffer_.size() - taken_ > longest_head)
                return break_off("the first line of a reply does not end", true);
            compact();
            return false;
        }
        const std::size_t index = result_.outcomes.size();
        if (index >= requests_.size() || index >= sent_) return break_off("output without a request", true);
        auto head = parse_reply_head(std::string_view(buffer_).substr(taken_, line_end - taken_));
        if (!head.ok()) return break_off(head.problem().what, true);
        const ReplyHead& h = head.value();
        if (h.id != first_id_ + index)
            return break_off(fmt::format("the reply to request {} says id={}", first_id_ + index, h.id), false);
        if (h.length > longest_body) return break_off(fmt::format("a reply of {} bytes", h.length), false);
        if (buffer_.size() - line_end - 1 < h.length) {
            promised_ = h.length;
            if (buffer_.capacity() < line_end + 1 + h.length) buffer_.reserve(line_end + 1 + h.length);
            return false;
        }
        promised_ = 0;
        settle(h, buffer_.substr(line_end + 1, h.length));
        taken_ = line_end + 1 + h.length;
        compact();
        return true;
    }
    void compact() {
        if (taken_ < buffer_.size() && taken_ < (1U << 16)) return;
        buffer_.erase(0, taken_);
        taken_ = 0;
    }

    void settle(const ReplyHead& head, std::string body) {
        const Request& request = requests_[result_.outcomes.size()];
        Outcome out;
        out.kind = head.kind;
        out.offset = head.offset;
        out.line = head.line;
        out.column = head.column;
        out.unit = head.unit;
        const auto now = Clock::now();
        out.seconds = std::chrono::duration<double>(now - std::max(last_reply_, written_at_)).count();
        last_reply_ = now;
        under_way_bytes_ -= request.body->size();
        if (head.reported > 0) {
            out.reported = kept_message(body.substr(0, head.reported));
            body.erase(0, head.reported);
        }
        if (head.kind == OutcomeKind::accepted && info_of(request.operation).output == Content::value &&
            request.show) {
            TraceError error;
            out.trace = parse_value(*request.format, std::move(body), error);
            if (!out.trace) {
                out.kind = OutcomeKind::broken_reply;
                out.body = fmt::format("line {} of the trace: {}", error.line, error.message);
            }
        } else {
            out.body = head.kind == OutcomeKind::accepted ? std::move(body) : kept_message(std::move(body));
        }
        result_.outcomes.push_back(std::move(out));
        rearm();
        send_more();
    }

    bool break_off(std::string what, bool framing) {
        broken_ = true;
        result_.framing_broken = framing;
        broken_why_ = std::move(what);
        child_->stop();
        return false;
    }

    void no_hello(Child::Stop why) {
        if (!result_.hello_problem.empty()) {
            result_.hello_outcome = OutcomeKind::broken_reply;
        } else if (why == Child::Stop::deadline) {
            result_.hello_outcome = OutcomeKind::timed_out;
            result_.hello_problem = fmt::format("no hello within {} s", implementation_.start_s);
        } else if (why == Child::Stop::memory) {
            result_.hello_outcome = OutcomeKind::out_of_memory;
            result_.hello_problem = "too much memory before the hello";
        } else if (output_ended_) {
            result_.hello_outcome = OutcomeKind::crashed;
            result_.hello_problem = fmt::format("it {} before the hello", child_->end(1).words());
            result_.missing_library = missing_library(child_->log());
        } else {
            result_.hello_outcome = OutcomeKind::broken_reply;
            result_.hello_problem = "its output is not a hello";
        }
        child_->kill();
    }

    void fail(Child::Stop why) {
        Outcome failure;
        if (broken_) {
            failure.kind = OutcomeKind::broken_reply;
            failure.body = broken_why_;
        } else if (why == Child::Stop::deadline) {
            out_of_time(failure);
        } else if (why == Child::Stop::memory) {
            failure.kind = OutcomeKind::out_of_memory;
            failure.body = fmt::format("more than {} MB of resident memory", implementation_.memory_mb);
        } else {
            const Ending ending = child_->end(1);
            failure.kind = OutcomeKind::crashed;
            failure.body = "the process " + ending.words();
            if (promised_ > 0) failure.body += ", in the middle of a reply";
        }
        child_->kill();
        result_.failure = std::move(failure);
    }

    /// A reply that stopped arriving before its end has a wrong length; one that is still arriving is late.
    void out_of_time(Outcome& failure) const {
        const double allowed = deadline();
        failure.kind = OutcomeKind::timed_out;
        failure.body = fmt::format("no answer within {:.3g} s", allowed);
        failure.idle = child_->was_idle();
        if (promised_ == 0) return;
        const std::size_t came = buffer_.size() - buffer_.find('\n', taken_) - 1;
        if (std::chrono::duration<double>(Clock::now() - came_at_).count() < allowed / 2) {
            failure.body =
                fmt::format("no complete reply within {:.3g} s: {} of {} bytes arrived", allowed, came, promised_);
            return;
        }
        failure.kind = OutcomeKind::broken_reply;
        failure.body = fmt::format("a reply announced {} bytes and {} arrived", promised_, came);
    }

    const Implementation implementation_;
    const SessionOptions options_;
    std::string mode_;
    std::span<const Request> requests_;
    std::optional<Hello> hello_;
    SessionResult result_;
    std::unique_ptr<Child> child_;
    std::string buffer_, broken_why_;
    std::size_t taken_ = 0, first_id_ = 0, sent_ = 0, written_ = 0, under_way_bytes_ = 0, promised_ = 0;
    Clock::time_point last_reply_{}, written_at_{}, came_at_{};
    bool broken_ = false, output_ended_ = false;
};

Session::Session(const Implementation& implementation, const SessionOptions& options)
    : state_(std::make_unique<State>(implementation, options)) {}
Session::~Session() = default;

SessionResult Session::ask(const std::string& mode, std::span<const Request> requests) {
    return state_->ask(mode, requests);
}

void Session::finish(SessionResult& result) {
    state_->finish(result);
}

SessionResult run_session(const Subject& subject, std::span<const Request> requests,
                          const SessionOptions& options) {
    Session session(subject.implementation, options);
    SessionResult result = session.ask(subject.mode, requests);
    if (result.hello_problem.empty() && !result.failure) session.finish(result);
    return result;
}

}  // namespace nachklang::protocol

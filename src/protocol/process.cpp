// Pipes and clocks by Boost.Asio. Memory is sampled, not limited by address space: managed runtimes reserve far
// more than they use.
#include "protocol/process.hpp"

#include <fcntl.h>
#include <fmt/format.h>
#include <signal.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

#include <array>
#include <boost/asio.hpp>
#include <cerrno>
#include <cstring>
#include <thread>
#include <utility>

#include "protocol/scratch.hpp"
#include "protocol/spawn.hpp"

namespace nachklang::protocol {
namespace {

namespace asio = boost::asio;
using Clock = std::chrono::steady_clock;

constexpr std::size_t kept_log = std::size_t{64} * 1024;
constexpr int pipe_bytes = 256 * 1024;
constexpr auto tick = std::chrono::milliseconds(25);
constexpr auto look_every = std::chrono::milliseconds(100);
constexpr int longest_extension = 10;  // threads of one process may wait for each other

/// A descriptor, closed with it.
class Descriptor {
  public:
    Descriptor() = default;
    explicit Descriptor(int value) : value_(value) {}
    ~Descriptor() {
        if (value_ >= 0) ::close(value_);
    }
    Descriptor(Descriptor&& other) noexcept : value_(std::exchange(other.value_, -1)) {}
    Descriptor& operator=(Descriptor&& other) noexcept {
        std::swap(value_, other.value_);
        return *this;
    }
    [[nodiscard]] int get() const { return value_; }
    [[nodiscard]] int release() { return std::exchange(value_, -1); }

  private:
    int value_ = -1;
};

struct Pipe {
    Descriptor read, write;
    static std::optional<Pipe> open() {
        std::array<int, 2> ends{};
        if (::pipe2(ends.data(), O_CLOEXEC) != 0) return std::nullopt;
        return Pipe{Descriptor(ends[0]), Descriptor(ends[1])};
    }
};

/// While one exists, writing to a pipe that the child closed gives EPIPE and no signal, on this thread only. A
/// library must not change the disposition of SIGPIPE for its whole host process.
class NoBrokenPipeSignal {
  public:
    NoBrokenPipeSignal() {
        sigemptyset(&broken_pipe_);
        sigaddset(&broken_pipe_, SIGPIPE);
        sigset_t pending;
        ::sigpending(&pending);
        was_pending_ = sigismember(&pending, SIGPIPE) == 1;
        ::pthread_sigmask(SIG_BLOCK, &broken_pipe_, &before_);
    }
    ~NoBrokenPipeSignal() {
        // A signal raised meanwhile is taken back; one that waited already is the host's.
        const timespec now{0, 0};
        if (!was_pending_)
            while (::sigtimedwait(&broken_pipe_, nullptr, &now) == -1 && errno == EINTR) {
            }
        ::pthread_sigmask(SIG_SETMASK, &before_, nullptr);
    }
    NoBrokenPipeSignal(const NoBrokenPipeSignal&) = delete;
    NoBrokenPipeSignal& operator=(const NoBrokenPipeSignal&) = delete;

  private:
    sigset_t broken_pipe_{}, before_{};
    bool was_pending_ = false;
};

}  // namespace

std::string Ending::words() const {
    if (!signalled) return fmt::format("left with status {}", code);
    const char* name = ::sigabbrev_np(code);
    return fmt::format("was killed by SIG{}", name == nullptr ? std::to_string(code) : name);
}

/// Most requests are answered long before `look_at`: the processor's time is looked at for those that take longer.
struct Deadline {
    Clock::duration given{};
    Clock::time_point look_at, at, latest;
    std::optional<FamilyTimes> first, last;  // when it was looked at
    Clock::time_point last_look{};
    bool last_turn = false;
};

struct Child::State {
    explicit State(ChildEvents given)
        : in(context), out(context), err(context), ticker(context), events(std::move(given)) {}

    asio::io_context context;
    asio::writable_pipe in;
    asio::readable_pipe out, err;
    asio::steady_timer ticker;
    ChildEvents events;
    ScratchFolder scratch;
    pid_t pid = -1;
    std::optional<Ending> ending;
    std::string log;
    std::string writing, waiting;  // in the pipe's hands; behind it
    bool closing = false, stopped = false, in_open = true;
    bool seen_ended = false;  // a turn ago; a process that it left behind may still hold the pipe
    std::size_t memory_limit = 0;
    const std::atomic<bool>* cancelled = nullptr;
    std::optional<Deadline> deadline;
    Stop why = Stop::finished;
    std::string out_buffer = std::string(std::size_t{64} * 1024, '\0'),
                err_buffer = std::string(std::size_t{16} * 1024, '\0');

    void read_out() {
        out.async_read_some(asio::buffer(out_buffer),
                            [this](const boost::system::error_code& error, std::size_t count) {
                                if (count > 0) events.on_output(std::string_view(out_buffer).substr(0, count));
                                if (error) {
                                    events.on_output_end();
                                } else {
                                    read_out();
                                }
                            });
    }
    void read_err() {
        err.async_read_some(asio::buffer(err_buffer),
                            [this](const boost::system::error_code& error, std::size_t count) {
                                log.append(err_buffer, 0, count);
                                if (log.size() > 2 * kept_log) log.erase(0, log.size() - kept_log);
                                if (!error) read_err();
                            });
    }
    void pump() {
        if (!writing.empty() || !in_open) return;
        if (waiting.empty()) {
            if (closing) shut();
            return;
        }
        writing.swap(waiting);
        asio::async_write(in, asio::buffer(writing), [this](const boost::system::error_code& error, std::size_t) {
            writing.clear();
            if (error) {  // the child closed its input; its output tells why
                in_open = false;
                return;
            }
            if (waiting.empty() && events.on_written) events.on_written();
            pump();
        });
    }
    void shut() {
        boost::system::error_code ignored;
        in.close(ignored);
        in_open = false;
    }
    void watch() {
        ticker.expires_after(tick);
        ticker.async_wait([this](const boost::system::error_code& error) {
            if (error || stopped) return;
            if (cancelled != nullptr && *cancelled) return halt(Stop::cancelled);
            if (memory_limit != 0 && resident_bytes(pid) > memory_limit) return halt(Stop::memory);
            if (deadline && is_out_of_time()) return halt(Stop::deadline);
            if (reap(false) && std::exchange(seen_ended, true)) return events.on_output_end();
            watch();
        });
    }
    /// Moves the deadline by the time in which the process waited for a processor or a disk, and looks at it again
    /// then.
    bool is_out_of_time() {
        const auto now = Clock::now();
        if (now < deadline->look_at || (now < deadline->at && now - deadline->last_look < look_every)) return false;
        const FamilyTimes times = times_of(pid);
        if (!deadline->first) {
            deadline->first = deadline->last = times;
            deadline->last_look = now;
        }
        Clock::duration more = times.waited - deadline->last->waited;
        if (times.on_disk && deadline->last->on_disk) more = std::max(more, now - deadline->last_look);
        deadline->last = times;
        deadline->last_look = now;
        deadline->at = std::min<Clock::time_point>(deadline->at + more, deadline->latest);
        if (deadline->at > now) return false;
        // It may have answered while this process had no processor itself: one more turn reads that.
        return std::exchange(deadline->last_turn, true);
    }
    void halt(Stop reason) {
        if (stopped) return;
        stopped = true;
        why = reason;
        context.stop();
    }
    bool reap(bool block) {
        if (ending) return true;
        int status = 0;
        const pid_t got = ::waitpid(pid, &status, block ? 0 : WNOHANG);
        if (got != pid) return false;
        ending = WIFSIGNALED(status) ? Ending{true, WTERMSIG(status)} : Ending{false, WEXITSTATUS(status)};
        return true;
    }
};

Child::Child(std::unique_ptr<State> state) : state_(std::move(state)) {}

Child::~Child() {
    if (state_->pid > 0 && !state_->ending) {
        kill();
        state_->reap(true);
    }
}

Checked<std::unique_ptr<Child>> Child::start(const std::vector<std::string>& command, ChildEvents events) {
    auto state = std::make_unique<State>(std::move(events));
    auto in = Pipe::open(), out = Pipe::open(), err = Pipe::open();
    if (!in || !out || !err) throw MachineFault(std::string("no pipe for an adapter: ") + std::strerror(errno));
    const int error =
        spawn(command, state->scratch.path(), in->read.get(), out->write.get(), err->write.get(), state->pid);
    if (error == EAGAIN || error == ENOMEM || error == EMFILE || error == ENFILE)
        throw MachineFault(std::string("no process for an adapter: ") + std::strerror(error));
    if (error != 0)
        return Problem{command.front(), std::string("cannot be run: ") + std::strerror(error),
                       "install it, make it executable or correct the command"};
    // Larger pipes let a large document be written at once. If the system refuses, it is written in parts.
    static_cast<void>(::fcntl(in->write.get(), F_SETPIPE_SZ, pipe_bytes));
    static_cast<void>(::fcntl(out->write.get(), F_SETPIPE_SZ, pipe_bytes));
    state->in.assign(in->write.release());
    state->out.assign(out->read.release());
    state->err.assign(err->read.release());
    state->read_out();
    state->read_err();
    return std::unique_ptr<Child>(new Child(std::move(state)));
}

void Child::write(std::string bytes) {
    const NoBrokenPipeSignal guard;
    if (state_->waiting.empty()) {
        state_->waiting = std::move(bytes);
    } else {
        state_->waiting += bytes;
    }
    state_->pump();
}

void Child::close_input() {
    const NoBrokenPipeSignal guard;
    state_->closing = true;
    state_->pump();
}

void Child::set_deadline(std::optional<double> seconds) {
    state_->deadline.reset();
    if (!seconds) return;
    const auto now = Clock::now();
    const auto time = std::chrono::duration_cast<Clock::duration>(std::chrono::duration<double>(*seconds));
    Deadline deadline;
    deadline.given = time;
    deadline.look_at = now + std::min<Clock::duration>(time / 8, look_every);
    deadline.at = now + time;
    deadline.latest = now + longest_extension * time;
    state_->deadline = deadline;
}

bool Child::was_idle() const {
    const auto& deadline = state_->deadline;
    return deadline && deadline->first && deadline->last->ran - deadline->first->ran < deadline->given / 2;
}

void Child::set_memory_limit(std::size_t megabytes) {
    state_->memory_limit = megabytes << 20;
}

void Child::set_cancelled(const std::atomic<bool>* cancelled) {
    state_->cancelled = cancelled;
}

Child::Stop Child::run() {
    const NoBrokenPipeSignal guard;
    state_->stopped = false;
    state_->why = Stop::finished;
    state_->context.restart();
    state_->watch();
    state_->context.run();
    if (state_->why == Stop::cancelled) throw Cancelled();
    return state_->why;
}

void Child::stop() {
    state_->halt(Stop::finished);
}

void Child::kill() {
    if (state_->ending) return;
    kill_family(state_->pid);
}

Ending Child::end(double seconds) {
    const NoBrokenPipeSignal guard;
    const auto until = Clock::now() + std::chrono::duration<double>(seconds);
    auto pause = std::chrono::microseconds(200);
    while (!state_->reap(false)) {
        if (Clock::now() > until) {
            kill();
            state_->reap(true);
            break;
        }
        state_->context.restart();
        state_->context.poll();
        std::this_thread::sleep_for(pause);
        pause = std::min(pause * 2, std::chrono::microseconds(10'000));
    }
    ::kill(-state_->pid, SIGKILL);  // whatever it left behind
    state_->context.restart();
    state_->context.poll();
    return *state_->ending;
}

bool Child::output_is_descriptor_1() const {
    struct stat ours {
    }, theirs{};
    if (::fstat(state_->out.native_handle(), &ours) != 0) return false;
    if (::stat(fmt::format("/proc/{}/fd/1", state_->pid).c_str(), &theirs) != 0) return false;
    return ours.st_dev == theirs.st_dev && ours.st_ino == theirs.st_ino;
}

const std::string& Child::log() const {
    if (state_->log.size() > kept_log) state_->log.erase(0, state_->log.size() - kept_log);
    return state_->log;
}

}  // namespace nachklang::protocol

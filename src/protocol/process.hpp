// One child process with its three pipes, read and written without ever blocking on one of them.
#pragma once

#include <atomic>
#include <chrono>
#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include <nachklang/problem.hpp>

namespace nachklang::protocol {

/// How a process ended.
struct Ending {
    bool signalled = false;
    int code = 0;  ///< exit status, or the signal
    [[nodiscard]] std::string words() const;
};

/// Events of a child. `on_output` and `on_written` may call write, close_input and stop.
struct ChildEvents {
    std::function<void(std::string_view)> on_output;
    std::function<void()> on_written;     ///< all bytes given to `write` so far are in the pipe
    std::function<void()> on_output_end;  ///< standard output is closed
};

/// Thrown away, the process and its family are killed.
class Child {
  public:
    /// A program that cannot be run is a Problem; a MachineFault is thrown if the system has no more processes,
    /// pipes or memory.
    static Checked<std::unique_ptr<Child>> start(const std::vector<std::string>& command, ChildEvents events);
    ~Child();
    Child(const Child&) = delete;
    Child& operator=(const Child&) = delete;

    void write(std::string bytes);
    /// Closes standard input once everything is written.
    void close_input();
    /// Sets the deadline, counted from now; nothing removes it. A child has one deadline. Time in which it was
    /// ready to run and other processes had the processors, or in which it waited for a disk, does not count, so
    /// that load cannot cause a time-out.
    void set_deadline(std::optional<double> seconds);
    /// After a deadline that passed: whether the child used a processor for less than half of that time. It may
    /// hang without running, and the whole machine may have been stopped meanwhile; asking again decides.
    [[nodiscard]] bool was_idle() const;
    void set_memory_limit(std::size_t megabytes);
    /// Once this is true, `run` throws Cancelled. It must outlive the child; null: nothing cancels it.
    void set_cancelled(const std::atomic<bool>* cancelled);

    enum class Stop { finished, deadline, memory, cancelled };
    /// Runs until `stop` was called, the deadline passed, or the memory limit.
    Stop run();
    void stop();
    /// Waits for the end, at most so long, then kills the group.
    Ending end(double seconds);
    void kill();

    [[nodiscard]] const std::string& log() const;
    /// Whether the child's descriptor 1 is the pipe that `on_output` reads.
    [[nodiscard]] bool output_is_descriptor_1() const;

  private:
    struct State;
    explicit Child(std::unique_ptr<State> state);
    std::unique_ptr<State> state_;
};

}  // namespace nachklang::protocol

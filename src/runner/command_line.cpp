// Implementations that are a command line: the document in a file or on standard input, the verdict by exit status.
#include <fmt/format.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <cstdlib>
#include <cstring>
#include <filesystem>
#include <fstream>

#include <nachklang/text.hpp>

#include "protocol/messages.hpp"
#include "protocol/process.hpp"
#include "protocol/scratch.hpp"
#include "runner/command_line.hpp"

namespace nachklang::runner {
namespace {

using protocol::Child;
using protocol::ChildEvents;
using protocol::Ending;

/// A file of its own in this process's folder for temporary files, gone with it.
class ScratchFile {
  public:
    explicit ScratchFile(std::string_view bytes) {
        if (protocol::scratch_root().empty())
            throw MachineFault("no folder for temporary files; make room, or set TMPDIR");
        std::string name = protocol::scratch_root() + "/document-XXXXXX";
        const int descriptor = ::mkstemp(name.data());
        if (descriptor < 0) fail(name);
        ::close(descriptor);
        path_ = name;
        std::ofstream file(path_, std::ios::binary);
        file.write(bytes.data(), static_cast<std::streamsize>(bytes.size()));
        file.close();
        if (file) return;
        std::error_code ignored;
        std::filesystem::remove(path_, ignored);
        fail(name);
    }
    ~ScratchFile() {
        std::error_code ignored;
        if (!path_.empty()) std::filesystem::remove(path_, ignored);
    }
    ScratchFile(const ScratchFile&) = delete;
    ScratchFile& operator=(const ScratchFile&) = delete;
    [[nodiscard]] const std::string& path() const { return path_; }

  private:
    /// A document cut short would make a right implementation look wrong.
    [[noreturn]] static void fail(const std::string& name) {
        throw MachineFault(name + ": cannot be written: " + std::strerror(errno) + "; make room, or set TMPDIR");
    }
    std::string path_;
};

std::string first_lines(const std::string& log) {
    return log.substr(0, std::min<std::size_t>(log.find('\n'), 400));
}

}  // namespace

Outcome run_command_line(const Subject& subject, const Request& request, const std::atomic<bool>* cancelled) {
    const Implementation& implementation = subject.implementation;
    std::vector<std::string> command = implementation.command;
    const bool by_file = std::any_of(command.begin(), command.end(),
                                     [](const std::string& w) { return w.find("{file}") != std::string::npos; });
    std::optional<ScratchFile> file;
    if (by_file) file.emplace(*request.body);
    for (std::string& word : command)
        if (const auto at = word.find("{file}"); at != std::string::npos) word.replace(at, 6, file->path());

    std::string output;
    Child* running = nullptr;
    ChildEvents events;
    const bool kept = request.operation == Operation::round_trip;  // a verdict is the status alone
    events.on_output = [&](std::string_view bytes) {
        if (kept) output += bytes;
        if (output.size() > protocol::longest_body) running->stop();
    };
    events.on_output_end = [&] { running->stop(); };
    Outcome out;
    const auto begin = std::chrono::steady_clock::now();
    auto started = Child::start(command, std::move(events));
    if (!started.ok()) {
        out.kind = OutcomeKind::crashed;
        out.body = started.problem().line();
        return out;
    }
    const auto child = std::move(started.value());
    running = child.get();
    child->set_cancelled(cancelled);
    child->set_memory_limit(implementation.memory_mb);
    child->set_deadline(implementation.deadline_s);
    if (!by_file) child->write(*request.body);
    child->close_input();
    const Child::Stop why = child->run();
    if (why == Child::Stop::deadline) {
        out.kind = OutcomeKind::timed_out;
        out.body = fmt::format("no answer within {} s", implementation.deadline_s);
        out.idle = child->was_idle();
    } else if (why == Child::Stop::memory) {
        out.kind = OutcomeKind::out_of_memory;
        out.body = fmt::format("more than {} MB of resident memory", implementation.memory_mb);
    }
    const bool flooded = output.size() > protocol::longest_body;
    if (flooded) {
        out.kind = OutcomeKind::broken_reply;
        out.body = fmt::format("wrote more than {} MB", protocol::longest_body >> 20);
    }
    if (why != Child::Stop::finished || flooded) {
        child->kill();
        child->end(1);
        out.log = text::without_addresses(child->log());
        return out;
    }
    const Ending ending = child->end(implementation.deadline_s);
    out.log = text::without_addresses(child->log());
    out.seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
    const auto& rejected = implementation.rejected_status;
    if (!ending.signalled && ending.code == 0) {
        // A command that writes nothing has found no document, as one that takes any number of them says of none.
        const bool found_none = request.operation == Operation::round_trip && output.empty();
        out.kind = found_none ? OutcomeKind::rejected : OutcomeKind::accepted;
        out.body = found_none ? "it wrote nothing" : "";
        if (request.operation == Operation::round_trip && !found_none) out.body = std::move(output);
    } else if (!ending.signalled && std::find(rejected.begin(), rejected.end(), ending.code) != rejected.end()) {
        out.kind = OutcomeKind::rejected;
        out.body = first_lines(out.log);
    } else if (ending.signalled) {
        out.kind = OutcomeKind::crashed;
        out.body = "the process " + ending.words();
    } else {
        out.kind = OutcomeKind::threw;
        out.body = fmt::format("left with status {}, not among rejected_status [{}]{}{}", ending.code,
                               fmt::join(rejected, ", "), out.log.empty() ? "" : ": ", first_lines(out.log));
    }
    return out;
}

}  // namespace nachklang::runner

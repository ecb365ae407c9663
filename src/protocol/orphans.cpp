// See orphans.hpp. The watching process holds nothing of this one but the reading end of a pipe, which ends with
// this process. The kernel's parent-death signal reaches direct children alone, and only until they change their
// user.
#include "protocol/orphans.hpp"

#include <fcntl.h>
#include <fmt/format.h>
#include <signal.h>
#include <sys/wait.h>
#include <unistd.h>

#include <array>
#include <cctype>
#include <cerrno>
#include <chrono>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <iterator>

#include "protocol/scratch.hpp"

namespace nachklang::protocol {
namespace {

namespace fs = std::filesystem;

/// Whether a process was started with the word in its environment; false if it ended or is another user's.
bool has_word(const fs::path& process, const std::string& word) {
    std::ifstream in(process / "environ", std::ios::binary);
    const std::string environment{std::istreambuf_iterator<char>(in), {}};
    const auto at = environment.find(word);
    return at != std::string::npos && (at == 0 || environment[at - 1] == '\0') &&
           (at + word.size() == environment.size() || environment[at + word.size()] == '\0');
}

/// Ends all processes with the word; how many there were.
std::size_t end_all(const std::string& word) {
    std::size_t ended = 0;
    std::error_code gone;
    for (fs::directory_iterator at("/proc", gone); !gone && at != fs::directory_iterator(); at.increment(gone)) {
        const std::string name = at->path().filename();
        if (std::isdigit(static_cast<unsigned char>(name.front())) == 0 || !has_word(at->path(), word)) continue;
        if (::kill(static_cast<pid_t>(std::atol(name.c_str())), SIGKILL) == 0) ++ended;
    }
    return ended;
}

[[noreturn]] void watch(int pipe, const std::string& word, const std::string& scratch) {
    ::setsid();
    for (const int number : {SIGINT, SIGTERM, SIGHUP, SIGQUIT, SIGPIPE}) ::signal(number, SIG_IGN);
    // No pipe or file of this process may stay open because of the watching one.
    const long most = ::sysconf(_SC_OPEN_MAX);
    if (pipe != 0) ::dup2(pipe, 0);
    if (::close_range(1, ~0U, 0) != 0)
        for (int descriptor = 1; descriptor < most; ++descriptor) ::close(descriptor);
    char byte = 0;
    while (::read(0, &byte, 1) < 0 && errno == EINTR) {
    }
    // One that forks while the others are looked for is found in the next round.
    constexpr int most_rounds = 20;
    for (int round = 0; round < most_rounds && end_all(word) > 0; ++round) ::usleep(10'000);
    std::error_code ignored;
    if (!scratch.empty()) fs::remove_all(scratch, ignored);
    ::_exit(0);
}

/// The watching process ends by itself, a moment after this one. It is not waited for.
std::string start_watching() {
    const auto now = std::chrono::system_clock::now().time_since_epoch().count();
    std::string word = fmt::format("NACHKLANG_RUN={}.{}", ::getpid(), now);
    const std::string& scratch = scratch_root();
    std::array<int, 2> ends{};
    if (::pipe2(ends.data(), O_CLOEXEC) != 0) return word;
    const pid_t child = ::fork();
    if (child == 0) {
        ::close(ends[1]);
        // Not a child of this process, which may wait for all of its own.
        if (::fork() == 0) watch(ends[0], word, scratch);
        ::_exit(0);
    }
    ::close(ends[0]);
    if (child > 0) ::waitpid(child, nullptr, 0);
    return word;  // the writing end stays open until this process ends
}

}  // namespace

const std::string& orphans_word() {
    static const std::string word = start_watching();
    return word;
}

}  // namespace nachklang::protocol

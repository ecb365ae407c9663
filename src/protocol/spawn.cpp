// See spawn.hpp.
#include "protocol/spawn.hpp"

#include "protocol/orphans.hpp"

#include <fcntl.h>
#include <fmt/format.h>
#include <signal.h>
#include <sys/prctl.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

#include <algorithm>
#include <array>
#include <cerrno>
#include <filesystem>
#include <fstream>
#include <sstream>
#include <string_view>

namespace nachklang::protocol {
namespace {

namespace fs = std::filesystem;

/// How many files a program may open, wherever it runs: a document whose entity refers to itself is answered
/// otherwise by a library that finds no more of them. libxml2 gives up after 1,024 levels by itself, with a file
/// open in each; the limit of most shells is 1,024, too.
constexpr rlim_t most_files = 4096;

void limit_open_files() {
    rlimit limit{};
    if (::getrlimit(RLIMIT_NOFILE, &limit) != 0) return;
    limit.rlim_cur = std::min(most_files, limit.rlim_max);
    ::setrlimit(RLIMIT_NOFILE, &limit);
}

/// In the child, before the program runs. It shares the parent's memory and calls the system only.
[[noreturn]] void become(const std::array<int, 3>& standard, pid_t parent, char* const* words,
                         char* const* environment, volatile int& error) {
    ::setsid();
    ::prctl(PR_SET_PDEATHSIG, SIGKILL);
    if (::getppid() != parent) ::_exit(127);  // it died before
    limit_open_files();
    for (int i = 0; i < 3; ++i) ::dup2(standard[static_cast<std::size_t>(i)], i);
    // What is ignored stays ignored in the program, and what is blocked stays blocked.
    for (const int number : {SIGPIPE, SIGINT, SIGTERM, SIGHUP, SIGQUIT, SIGXFSZ}) ::signal(number, SIG_DFL);
    sigset_t none;
    ::sigemptyset(&none);
    ::sigprocmask(SIG_SETMASK, &none, nullptr);
    ::execvpe(words[0], words, environment);
    error = errno;
    ::_exit(127);
}

/// The folders of a process's threads under /proc; none if it ended.
std::vector<fs::path> threads_of(pid_t pid) {
    std::vector<fs::path> out;
    std::error_code ended;
    for (fs::directory_iterator at(fmt::format("/proc/{}/task", pid), ended);
         !ended && at != fs::directory_iterator(); at.increment(ended))
        out.push_back(at->path());
    return out;
}

/// A process and all its descendants, of all their threads.
std::vector<pid_t> family_of(pid_t root) {
    constexpr std::size_t most = 1000;
    std::vector<pid_t> out{root};
    for (std::size_t i = 0; i < out.size() && out.size() < most; ++i) {
        for (const fs::path& thread : threads_of(out[i])) {
            std::ifstream children(thread / "children");
            for (pid_t child = 0; children >> child;) out.push_back(child);
        }
    }
    return out;
}

/// Of one line of /proc/PID/stat: the state, and the clock ticks of processor time, those of ended children
/// included.
struct Stat {
    char state = '?';
    std::int64_t ticks = 0;
};

Stat stat_of(const fs::path& file) {
    constexpr int before_times = 10, times = 4;  // fields 4 to 13; utime, stime, cutime and cstime
    std::ifstream in(file);
    std::string line;
    std::getline(in, line);
    const auto name_end = line.rfind(')');  // the name may hold anything
    if (name_end == std::string::npos) return {};
    std::istringstream fields(line.substr(name_end + 1));
    Stat out;
    fields >> out.state;
    std::string skipped;
    for (int i = 0; i < before_times; ++i) fields >> skipped;
    for (int i = 0; i < times; ++i) {
        std::int64_t ticks = 0;
        fields >> ticks;
        out.ticks += ticks;
    }
    return out;
}

}  // namespace

std::size_t resident_bytes(pid_t root) {
    static const auto page = static_cast<std::size_t>(::sysconf(_SC_PAGESIZE));
    std::size_t pages = 0;
    for (const pid_t pid : family_of(root)) {
        std::ifstream in(fmt::format("/proc/{}/statm", pid));
        std::size_t total = 0, resident = 0;
        if (in >> total >> resident) pages += resident;
    }
    return pages * page;
}

FamilyTimes times_of(pid_t root) {
    static const long ticks_a_second = ::sysconf(_SC_CLK_TCK);
    FamilyTimes out;
    for (const pid_t pid : family_of(root)) {
        const Stat stat = stat_of(fmt::format("/proc/{}/stat", pid));
        out.ran += std::chrono::nanoseconds(std::chrono::seconds(stat.ticks)) / ticks_a_second;
        for (const fs::path& thread : threads_of(pid)) {
            out.on_disk = out.on_disk || stat_of(thread / "stat").state == 'D';
            std::ifstream in(thread / "schedstat");
            std::int64_t ran = 0, waited = 0;
            if (in >> ran >> waited) out.waited = std::max(out.waited, std::chrono::nanoseconds(waited));
        }
    }
    return out;
}

void kill_family(pid_t root) {
    const std::vector<pid_t> family = family_of(root);
    ::kill(-root, SIGKILL);
    for (const pid_t pid : family) ::kill(pid, SIGKILL);
}

int spawn(const std::vector<std::string>& command, const std::string& scratch, int in, int out, int err,
          pid_t& pid) {
    std::vector<char*> words;
    for (const std::string& word : command) words.push_back(const_cast<char*>(word.c_str()));
    words.push_back(nullptr);
    std::vector<char*> environment;
    std::vector<std::string> own{orphans_word()};
    if (!scratch.empty()) own.push_back("TMPDIR=" + scratch);
    for (char** word = ::environ; *word != nullptr; ++word)
        if (scratch.empty() || !std::string_view(*word).starts_with("TMPDIR=")) environment.push_back(*word);
    for (std::string& word : own) environment.push_back(word.data());
    environment.push_back(nullptr);
    // Above the standard ones, wherever they were opened: dup2 onto itself would leave it closed in the program.
    std::array<int, 3> standard{};
    for (const auto& [i, given] : {std::pair<std::size_t, int>{0, in}, {1, out}, {2, err}}) {
        standard[i] = ::fcntl(given, F_DUPFD_CLOEXEC, 3);
        if (standard[i] >= 0) continue;
        const int failed = errno;
        for (std::size_t k = 0; k < i; ++k) ::close(standard[k]);
        return failed;
    }
    // No handler of this process may run in the child, which shares its memory.
    sigset_t all, before;
    ::sigfillset(&all);
    ::pthread_sigmask(SIG_BLOCK, &all, &before);
    volatile int error = 0;
    const pid_t parent = ::getpid();
    // fork would copy the page tables of a run's large traces for every process; posix_spawn has no parent-death
    // signal.
    const pid_t child = ::vfork();  // NOLINT(clang-analyzer-security.insecureAPI.vfork)
    // It calls the system only, and does not return.
    if (child == 0)
        become(standard, parent, words.data(), environment.data(), error);  // NOLINT(clang-analyzer-unix.Vfork)
    if (child < 0) error = errno;
    ::pthread_sigmask(SIG_SETMASK, &before, nullptr);
    for (const int descriptor : standard) ::close(descriptor);
    if (child > 0 && error != 0) ::waitpid(child, nullptr, 0);
    pid = child;
    return error;
}

}  // namespace nachklang::protocol

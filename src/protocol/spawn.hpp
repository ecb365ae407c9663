// Starting a program, and its family: the process with all its descendants.
#pragma once

#include <sys/types.h>

#include <chrono>
#include <string>
#include <vector>

namespace nachklang::protocol {

/// Starts a program with three descriptors as its standard ones, as the leader of a session of its own: it has no
/// controlling terminal, it may open 4,096 files, and it dies with the thread that started it. `scratch` is
/// its folder for temporary files; empty: that of this process. Returns an error number, 0 for success.
int spawn(const std::vector<std::string>& command, const std::string& scratch, int in, int out, int err,
          pid_t& pid);

/// Resident memory of a process and its descendants, in bytes.
std::size_t resident_bytes(pid_t root);
/// How a process and its descendants spent their time.
struct FamilyTimes {
    std::chrono::nanoseconds ran{};     ///< on a processor, all together; of children that ended, too
    std::chrono::nanoseconds waited{};  ///< ready to run and without a processor: the longest of the threads
    bool on_disk = false;               ///< a thread waits for a disk, or for memory that was moved to one
};
/// Where the kernel does not count a time, it is zero. (proc(5): stat and schedstat.)
FamilyTimes times_of(pid_t root);
/// Ends a process, its group and its descendants, those with a session of their own included.
void kill_family(pid_t root);

}  // namespace nachklang::protocol

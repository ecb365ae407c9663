// Starting a program, and its family: the process with all its descendants.
#pragma once

#include <sys/types.h>

#include <chrono>
#include <string>
#include <vector>

namespace nachklang::protocol {

/// Starts a program with three descriptors as its standard ones, as the leader of a session of its own: it has no
/// controlling terminal, and it dies with the thread that started it. Returns an error number, 0 for success.
int spawn(const std::vector<std::string>& command, int in, int out, int err, pid_t& pid);

/// Resident memory of a process and its descendants, in bytes.
std::size_t resident_bytes(pid_t root);
/// For how long the threads of a process and its descendants were ready to run and had no processor: the longest of
/// the threads, since each started. Where the kernel does not count it, zero. (proc(5), schedstat: the second
/// number.)
std::chrono::nanoseconds waited_for_processor(pid_t root);
/// Ends a process, its group and its descendants, those with a session of their own included.
void kill_family(pid_t root);

}  // namespace nachklang::protocol

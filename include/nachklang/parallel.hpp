// Subjects run in parallel, each by one worker from its first request to its last.
#pragma once

#include <algorithm>
#include <atomic>
#include <cstddef>
#include <exception>
#include <mutex>
#include <thread>
#include <vector>

#include <nachklang/problem.hpp>

namespace nachklang {

/// Calls `work` with every index below `count`, on so many threads; returns when all is done. `work` guards what it
/// shares. If a call throws, no further index is started and the first exception is thrown again on this thread;
/// Cancelled only ends the work.
template <class Work>
void run_parallel(std::size_t count, unsigned workers, const Work& work) {
    std::atomic<std::size_t> next = 0;
    std::mutex mutex;
    std::exception_ptr failure;
    {
        std::vector<std::jthread> threads;
        for (unsigned w = 0; w < std::max(1U, workers); ++w)
            threads.emplace_back([&] {
                try {
                    for (std::size_t at = next++; at < count; at = next++) work(at);
                } catch (const Cancelled&) {
                    next = count;
                } catch (...) {
                    next = count;
                    const std::lock_guard lock(mutex);
                    if (!failure) failure = std::current_exception();
                }
            });
    }
    if (failure) std::rethrow_exception(failure);
}

}  // namespace nachklang

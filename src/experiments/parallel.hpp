// Subjects asked side by side, each by one worker from its first request to its last.
#pragma once

#include <algorithm>
#include <atomic>
#include <cstddef>
#include <thread>
#include <vector>

namespace nachklang {

/// Calls `work` with every index below `count`, on so many threads; returns when all is done. What `work` shares it
/// guards itself.
template <class Work>
void run_parallel(std::size_t count, unsigned workers, const Work& work) {
    std::atomic<std::size_t> next = 0;
    std::vector<std::jthread> threads;
    for (unsigned w = 0; w < std::max(1U, workers); ++w)
        threads.emplace_back([&] {
            for (std::size_t at = next++; at < count; at = next++) work(at);
        });
}

}  // namespace nachklang

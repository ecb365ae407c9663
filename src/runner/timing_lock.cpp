// A read-write lock in which a waiting writer holds back new readers. Tested by TimingLock.* in runner_test.cpp.
#include <nachklang/runner.hpp>

namespace nachklang {

void TimingLock::lock_shared() {
    std::unique_lock held(mutex_);
    changed_.wait(held, [this] { return !writing_ && writers_waiting_ == 0; });
    ++readers_;
}

void TimingLock::unlock_shared() {
    const std::lock_guard held(mutex_);
    --readers_;
    changed_.notify_all();
}

void TimingLock::lock() {
    std::unique_lock held(mutex_);
    ++writers_waiting_;
    changed_.wait(held, [this] { return !writing_ && readers_ == 0; });
    --writers_waiting_;
    writing_ = true;
}

void TimingLock::unlock() {
    const std::lock_guard held(mutex_);
    writing_ = false;
    changed_.notify_all();
}

}  // namespace nachklang

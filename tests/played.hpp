// An implementation that a test plays itself, without a process.
#pragma once

#include <functional>
#include <set>
#include <string>
#include <utility>

#include <nachklang/experiments.hpp>

namespace nachklang::played_codec {

/// An implementation that this process plays: it answers each request by a function.
class Played final : public Executor {
  public:
    using Answer = std::function<Outcome(const Request&)>;
    explicit Played(Answer answer, std::function<void()> at_restart = {})
        : answer_(std::move(answer)), at_restart_(std::move(at_restart)) {}
    Chunk run(std::span<const Request> requests) override {
        Chunk out;
        for (const Request& request : requests) out.outcomes.push_back(answer_(request));
        out.gave_up = gave_up;
        return out;
    }
    std::string gave_up{};  ///< of every row

    void restart() override {
        if (at_restart_) at_restart_();
    }

  private:
    Answer answer_;
    std::function<void()> at_restart_;
};

inline Subject played(const std::string& name, std::set<std::string> operations,
                      const std::string& format = "json") {
    Subject out;
    out.implementation.name = out.engine = name;
    out.implementation.reach = Reach::trace;
    out.operations[format] = std::move(operations);
    return out;
}

inline Outcome outcome_of(OutcomeKind kind, std::string body = {}) {
    Outcome out;
    out.kind = kind;
    out.body = std::move(body);
    return out;
}

inline Outcome accepted(const std::string& trace) {
    Outcome out = outcome_of(OutcomeKind::accepted);
    out.trace = Trace::parse(trace);
    return out;
}

}  // namespace nachklang::played_codec

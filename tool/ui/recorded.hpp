// Recorded implementations beside the installed ones: NAME@VERSION, answered for by the shipped record.
#pragma once

#include <span>
#include <vector>

#include <nachklang/result_sink.hpp>
#include <nachklang/runner.hpp>

namespace tool {

struct Workspace;

/// The recorded implementations that are not installed, or are installed in another version. Empty if nothing is
/// recorded.
std::vector<nachklang::Subject> recorded_beside(const Workspace& workspace,
                                                std::span<const nachklang::Subject> installed);

/// Of those, each implementation's first mode, without simulated ones and those with a purpose of their own: peers
/// of what a run is about.
std::vector<nachklang::Subject> recorded_peers(const Workspace& workspace,
                                               std::span<const nachklang::Subject> installed);

/// Hands on the results about the first `own` implementations of a run. Disagreements name all of them.
class WithoutPeers final : public nachklang::ResultSink {
  public:
    WithoutPeers(nachklang::ResultSink& to, std::size_t own) : to_(to), own_(own) {}
    void begin(const nachklang::RunHeader& header) override;
    void chunk(const nachklang::ChunkReport& report) override;
    void incident(const nachklang::IncidentReport& report) override;
    void end(const nachklang::RunEnd& how) override;

  private:
    [[nodiscard]] bool is_own(const nachklang::Subject* subject) const;
    nachklang::ResultSink& to_;
    std::size_t own_;
    std::span<const nachklang::Subject> subjects_;
};

}  // namespace tool

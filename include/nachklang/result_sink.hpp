// Where the results of a run go. Stores, summaries and cards are sinks; a campaign knows none of them.
//
// A run calls begin once, then for each chunk of cases chunk and the chunk's incidents, then end. Chunks come in
// the order of the cases, on the thread that started the run, whatever the number of workers. Cases and subjects
// outlive the run; everything else in a report ends with the call.
#pragma once

#include <functional>
#include <span>
#include <utility>
#include <vector>

#include <nachklang/result.hpp>

namespace nachklang {

struct RunHeader {
    std::size_t cases = 0;
    std::span<const Subject> subjects;
};
struct RunEnd {
    bool cancelled = false;           ///< the run ended before all cases were asked
    std::span<const double> seconds;  ///< by subject: time of its tasks, with judging; workers run side by side
};

class ResultSink {
  public:
    virtual ~ResultSink() = default;
    virtual void begin(const RunHeader&) {}
    virtual void chunk(const ChunkReport& report) = 0;
    virtual void incident(const IncidentReport&) {}
    virtual void end(const RunEnd&) {}
};

/// Hands everything on to several sinks, in their order. The sinks must outlive it.
class SinkList final : public ResultSink {
  public:
    explicit SinkList(std::vector<ResultSink*> sinks) : sinks_(std::move(sinks)) {}
    void begin(const RunHeader& header) override {
        for (ResultSink* sink : sinks_) sink->begin(header);
    }
    void chunk(const ChunkReport& report) override {
        for (ResultSink* sink : sinks_) sink->chunk(report);
    }
    void incident(const IncidentReport& report) override {
        for (ResultSink* sink : sinks_) sink->incident(report);
    }
    void end(const RunEnd& how) override {
        for (ResultSink* sink : sinks_) sink->end(how);
    }

  private:
    std::vector<ResultSink*> sinks_;
};

/// A sink made of functions.
class FunctionSink final : public ResultSink {
  public:
    explicit FunctionSink(std::function<void(const ChunkReport&)> on_chunk,
                          std::function<void(const IncidentReport&)> on_incident = {})
        : on_chunk_(std::move(on_chunk)), on_incident_(std::move(on_incident)) {}
    void chunk(const ChunkReport& report) override { on_chunk_(report); }
    void incident(const IncidentReport& report) override {
        if (on_incident_) on_incident_(report);
    }

  private:
    std::function<void(const ChunkReport&)> on_chunk_;
    std::function<void(const IncidentReport&)> on_incident_;
};

}  // namespace nachklang

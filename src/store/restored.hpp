// What was written of a run, read back into what the run's sinks take.
#pragma once

#include <map>
#include <span>
#include <string>
#include <string_view>

#include <nachklang/result_sink.hpp>
#include <nachklang/store.hpp>

namespace nachklang::store {

/// Reads the records of chunks back. A record that names what is not in the run throws std::runtime_error.
class Restorer {
  public:
    /// Both must outlive what it gives.
    Restorer(std::span<const Case> cases, std::span<const Subject> subjects);
    /// Results and disagreements of a chunk, and its incidents.
    struct Restored {
        ChunkReport report;
        std::vector<IncidentReport> incidents;
    };
    Restored chunk(std::string_view lines);

  private:
    Result result_of(const ResultRecord& record);
    [[nodiscard]] const Subject& subject(const std::string& name) const;
    [[nodiscard]] const Case* find(const std::string& corpus, const std::string& name) const;

    std::map<std::pair<std::string, std::string>, const Case*> cases_;
    std::map<std::string, const Subject*> subjects_;
    std::map<const Case*, std::shared_ptr<const Case>> enclosed_;  // of the chunk
};

}  // namespace nachklang::store

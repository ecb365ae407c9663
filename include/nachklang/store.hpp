// The result record: JSON Lines, in the fields of docs/records.md.
#pragma once

#include <cstdint>
#include <memory>
#include <string>

#include <nachklang/experiments.hpp>
#include <nachklang/problem.hpp>

namespace nachklang {

/// One line each, without the line end.
std::string record_of_run(std::size_t cases, std::span<const Subject> subjects);
std::string record_of(const Result& result);
std::string record_of(const Disagreement& disagreement);
std::string record_of(const IncidentReport& incident);

/// A file of lines. Every line is checked when it is written: a full disk is a Problem, and what is there stays.
class LineFile {
  public:
    static Checked<std::unique_ptr<LineFile>> create(const std::string& path);
    ~LineFile();
    LineFile(const LineFile&) = delete;
    LineFile& operator=(const LineFile&) = delete;
    std::optional<Problem> write(const std::string& line);
    std::optional<Problem> flush();

  private:
    struct File;
    explicit LineFile(std::unique_ptr<File> file);
    std::unique_ptr<File> file_;
};

}  // namespace nachklang

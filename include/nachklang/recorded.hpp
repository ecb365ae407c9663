// Recorded answers: what implementations answered once, asked again without them.
//
// A record holds replies, not findings. They are judged anew by whatever version reads them, so a record does not
// keep a mistake of the judge. docs/recorded-answers.md describes the file.
#pragma once

#include <cstdint>
#include <map>
#include <memory>
#include <mutex>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include <nachklang/problem.hpp>
#include <nachklang/runner.hpp>

namespace nachklang {

/// What a record knows a request by: the first 64 bits of the document's digest, the operation, and whether the
/// value was shown.
struct RecordedRequest {
    std::uint64_t document = 0;
    Operation operation = Operation::decode;
    bool show = true;
    friend auto operator<=>(const RecordedRequest&, const RecordedRequest&) = default;
};
RecordedRequest recorded_request(const Request& request);

/// A file of recorded answers, opened for reading. It may be used from several threads.
class RecordedAnswers : public std::enable_shared_from_this<RecordedAnswers> {
  public:
    /// A file that is missing, damaged or of a newer version is a problem.
    static Checked<std::shared_ptr<const RecordedAnswers>> read(const std::string& path);

    /// The day of the record, as 2026-11-28, and the version of Nachklang that wrote it.
    [[nodiscard]] const std::string& made() const { return made_; }
    [[nodiscard]] const std::string& version() const { return version_; }
    /// The implementations recorded, mode by mode. `make_executor` answers for them from this record.
    [[nodiscard]] std::vector<Subject> subjects() const;
    /// What a recorded implementation answered; nothing if it was not asked that, or if it wrote too much.
    [[nodiscard]] std::optional<Outcome> answer(const Subject& subject, const Request& request) const;
    /// Answers from the record; what is not there is `not_asked`.
    [[nodiscard]] std::unique_ptr<Executor> executor(const Subject& subject) const;

  private:
    RecordedAnswers() = default;
    std::string text_, made_, version_;
    std::vector<Subject> subjects_;
    std::map<std::string, std::size_t, std::less<>> positions_;  // of subjects, by name
    std::map<RecordedRequest, std::string_view> lines_;          // in text_
};

/// Records what executors answer. It may be used from several threads, and must outlive the executors.
class AnswerRecorder {
  public:
    explicit AnswerRecorder(std::span<const Subject> subjects);
    /// The same executors, whose answers are recorded. If a request is repeated, its last answer counts.
    ExecutorFactory recording(ExecutorFactory make);
    /// The bytes of a record. `made` is the day, as 2026-11-28, `version` that of the writing program.
    [[nodiscard]] std::string record(std::string_view made, std::string_view version) const;

    void take(std::size_t subject, const Request& request, const Outcome& outcome);

  private:
    struct Line {
        std::vector<std::string> answers;  // distinct ones, each an object in JSON
        std::vector<int> given;            // by subject: which of them; -1 for none
    };
    std::vector<Subject> subjects_;
    mutable std::mutex mutex_;
    std::map<RecordedRequest, Line> lines_;
};

}  // namespace nachklang

// Result records: JSON Lines, in the fields of docs/records.md. What is written can be read back, and written again
// it is the same file.
#pragma once

#include <cstdint>
#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <utility>
#include <variant>
#include <vector>

#include <nachklang/behaviour.hpp>
#include <nachklang/problem.hpp>

namespace nachklang {

/// Of a file that holds one part of a run.
struct PartOfRun {
    std::size_t part = 1, parts = 1;  ///< from 1
    std::string setup;                ///< digest of tool, cases, implementations and profile: equal for all parts
    std::string cases;                ///< digest of the cases alone
    std::vector<Settings> settings;   ///< by implementation
};

/// The first line of a file: what was run.
struct RunRecord {
    struct Entry {
        std::string implementation, version, engine, reach;
        bool simulated = false;  ///< in no group of real implementations
    };
    std::size_t cases = 0;
    std::vector<Entry> implementations;
    std::optional<PartOfRun> part{};  ///< of a file that holds a part of a run
};
/// In the file of a part: the results of the chunk with this number follow.
struct ChunkRecord {
    std::size_t number = 0;
};
/// One case, implementation and operation. Names are those of docs/records.md; an empty text is null in the file.
struct ResultRecord {
    struct GivenAnswer {
        std::string question, answered, declared;
    };
    struct GivenCause {
        std::string cause, at;
        std::string detail{};  ///< where it is not the record's own
    };
    struct GivenAdvice {
        std::string clause, message;
        std::uint64_t offset = 0;
    };
    std::string corpus, format, case_name, implementation, operation, outcome, finding, basis;
    std::vector<GivenAnswer> answers;
    std::vector<GivenCause> causes;
    std::vector<std::string> reformatted;
    std::vector<GivenAdvice> advice;
    std::string detail, clause;
    std::vector<std::pair<std::string, std::string>> digests;  ///< layer, digest; empty: no value
    std::optional<std::uint64_t> offset, line, column;
    std::string unit{};                  ///< of offset and column, if it is not bytes: point or utf16
    std::string message, log, reported;  ///< any bytes; reported: errors of an accepted document
    bool failing = false;
    bool encoder_at_fault = true;  ///< see Finding::encoder_at_fault
    std::string excused;           ///< the reason of the configuration's excuse
};
struct IncidentRecord {
    std::string implementation;
    std::vector<std::string> sequence;
    std::string outcome, detail;
};
struct DisagreementRecord {
    struct GivenGroup {
        std::string shown;
        std::vector<std::string> implementations, engines, not_reported;
    };
    std::string corpus, case_name, operation, layer, question, cause, detail;
    std::vector<GivenGroup> groups;
    std::vector<std::string> not_reported;
};
/// One mistake of one implementation; see behaviour.hpp.
struct BehaviourRecord {
    std::string format, implementation, engine;
    std::vector<std::string> modes;
    std::string purpose, side, finding, basis, cause, rule, clause, gravity, sentence;
    bool failing = false;
    std::string excused;               ///< the reason of the configuration's excuse, if it covers every case
    std::vector<std::string> trigger;  ///< feature ids with bounds; empty: none was inferred
    std::uint64_t matching = 0;        ///< cases asked that have these features
    std::vector<std::string> cases;
    std::string witness, detail;
    std::vector<std::string> also, peers;
    std::uint64_t engines = 0;              ///< engines asked
    std::optional<std::string> smallest{};  ///< the smallest document that shows it, if that was searched for
};
/// Only if times were asked for: they differ from run to run.
struct TimesRecord {
    std::vector<std::pair<std::string, double>> seconds;  ///< implementation, time of its requests with judging
};
/// The last line: without it the run was killed.
struct EndRecord {
    bool interrupted = false;
};
using Record = std::variant<RunRecord, ResultRecord, IncidentRecord, DisagreementRecord, BehaviourRecord,
                            TimesRecord, ChunkRecord, EndRecord>;

RunRecord record_of(const RunHeader& header);
ResultRecord record_of(const Result& result);
IncidentRecord record_of(const IncidentReport& incident);
DisagreementRecord record_of(const Disagreement& disagreement);
BehaviourRecord record_of(const Behaviour& behaviour);

/// What an implementation answered: the trace of a value, a written document, or a message.
std::string_view answer_of(const Result& result);

/// One line, without the line end.
std::string line_of(const Record& record);
/// A case with what is expected of an implementation without settings, as a line of JSON (docs/sheets.md).
std::string line_of(const Case& c);
/// Reads one line; a problem names what is wrong with it.
Checked<Record> parse_record(std::string_view line);
/// Calls `take` with each line of a file, or of a run in a store ("nachklang.db#3", or without a number the last
/// one), and its number, from 1. The first problem that it returns ends the reading, and gets the place.
std::optional<Problem> read_lines(
    const std::string& path, const std::function<std::optional<Problem>(const std::string&, std::size_t)>& take);
/// A line with the record that it holds, or what is wrong with it.
struct ReadRecord {
    std::string text;
    std::size_t number = 0;  ///< of the line, from 1
    std::string answer;      ///< what the implementation answered: the trace of a value, or a written document
    Checked<Record> record;
};
/// Answers are kept for results of a run in a store. To read them takes longer.
enum class AnswersOfLines { left, read };
using TakeRecord = std::function<std::optional<Problem>(ReadRecord&)>;
/// Calls `take` with each record, in the order of the lines. The first problem that it returns ends the reading,
/// and gets the place. Records are parsed on all cores.
std::optional<Problem> each_record(const std::string& path, AnswersOfLines answers, const TakeRecord& take);
/// Reads a file of records.
Checked<std::vector<Record>> read_records(const std::string& path);

/// A file of lines. Every line is checked when it is written: a full disk is a Problem, and the lines so far stay.
class LineFile {
  public:
    /// `-` is standard output.
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

/// Writes a run's results and incidents to one file of lines and its disagreements to another; either may be null.
class LineSink final : public ResultSink {
  public:
    struct Options {
        bool times = false;               ///< a record of them comes before the end
        std::optional<PartOfRun> part{};  ///< the file is one of a part
    };
    LineSink(LineFile* results, LineFile* disagreements) : LineSink(results, disagreements, Options{}) {}
    LineSink(LineFile* results, LineFile* disagreements, Options options)
        : results_(results), disagreements_(disagreements), options_(std::move(options)) {}
    void begin(const RunHeader& header) override;
    void chunk(const ChunkReport& report) override;
    void incident(const IncidentReport& report) override;
    void end(const RunEnd& how) override;
    /// After the run: adds its behaviours and the end to the results.
    void finish(const std::vector<Behaviour>& behaviours);
    /// The first thing that went wrong; later records are dropped.
    [[nodiscard]] const std::optional<Problem>& problem() const { return problem_; }

  private:
    void write(LineFile* file, const Record& record);
    void flush();
    LineFile* results_;
    LineFile* disagreements_;
    Options options_;
    bool interrupted_ = false;
    TimesRecord times_;
    std::optional<Problem> problem_;
};

}  // namespace nachklang

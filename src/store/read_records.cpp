// Records read from results files and from runs in a store; see store.hpp.
#include <fmt/format.h>

#include <fstream>
#include <thread>

#include <nachklang/parallel.hpp>
#include <nachklang/run_store.hpp>
#include <nachklang/store.hpp>

namespace nachklang {
namespace {

/// A run in a store: "nachklang.db#3", or without a number the last one.
struct StoredName {
    std::string file;
    std::optional<std::int64_t> run;
};

/// Nothing if the path is that of another file.
std::optional<StoredName> stored_run_named(const std::string& path) {
    if (is_run_store(path)) return StoredName{path, std::nullopt};
    const auto mark = path.rfind('#');
    if (mark == std::string::npos || !is_run_store(path.substr(0, mark))) return std::nullopt;
    std::int64_t run = 0;
    const auto [end, error] = std::from_chars(path.data() + mark + 1, path.data() + path.size(), run);
    if (error != std::errc{} || end != path.data() + path.size()) return std::nullopt;
    return StoredName{path.substr(0, mark), run};
}

/// A store and the run that a name means in it.
struct StoredRunReader {
    std::unique_ptr<RunStore> store;
    std::int64_t run = 0;
};
Checked<StoredRunReader> open_stored_run(const StoredName& name) {
    auto store = RunStore::open_to_read(name.file);
    if (!store.ok()) return store.problem();
    if (name.run) return StoredRunReader{std::move(store.value()), *name.run};
    const auto runs = store.value()->runs();
    if (!runs.ok()) return runs.problem();
    if (runs.value().empty()) return Problem{name.file, "holds no run", "`nachklang run --store FILE` adds one"};
    return StoredRunReader{std::move(store.value()), runs.value().back().id};
}

/// A line, its number from 1, and the answer that is kept with it.
using TakeLine = std::function<std::optional<Problem>(const std::string&, std::size_t, std::string_view)>;

std::optional<Problem> read_stored_lines(const StoredName& name, AnswersOfLines answers, const TakeLine& take) {
    const auto from = open_stored_run(name);
    if (!from.ok()) return from.problem();
    const auto& [store, run] = from.value();
    std::optional<Problem> first;
    std::size_t number = 0;
    const auto pass = [&](const std::string& line, std::string_view answer) {
        ++number;
        if (!first) first = take(line, number, answer);
    };
    const auto unreadable = answers == AnswersOfLines::read
                                ? store->lines_with_answers(run, pass)
                                : store->lines_of(run, [&](const std::string& line) { pass(line, {}); });
    return unreadable ? unreadable : first;
}

std::optional<Problem> read_file_lines(const std::string& path, const TakeLine& take) {
    std::ifstream in(path, std::ios::binary);
    if (!in) return Problem{path, "cannot be read", "name a file that `run` wrote"};
    std::string line;
    for (std::size_t number = 1; std::getline(in, line); ++number)
        if (const auto problem = take(line, number, {})) return problem;
    return std::nullopt;
}

std::optional<Problem> read_any_lines(const std::string& path, AnswersOfLines answers, const TakeLine& take) {
    if (const auto stored = stored_run_named(path)) return read_stored_lines(*stored, answers, take);
    return read_file_lines(path, take);
}

Problem placed(const std::string& path, std::size_t number, const Problem& problem) {
    return {fmt::format("{}:{}", path, number), problem.what, problem.advice};
}

/// Lines that are parsed together, on all cores: a record takes longer to parse than to read or to use.
class Batch {
  public:
    /// So many that the threads' start is small beside their work, so few that they are small beside a result.
    static constexpr std::size_t most_lines = 8192, most_bytes = std::size_t{32} << 20;

    void add(const std::string& line, std::size_t number, std::string_view answer) {
        lines_.push_back({line, number, std::string(answer), Problem{}});
        bytes_ += line.size() + answer.size();
    }
    [[nodiscard]] bool full() const { return lines_.size() == most_lines || bytes_ >= most_bytes; }

    std::optional<Problem> pass_on(const std::string& path, const TakeRecord& take) {
        constexpr std::size_t in_a_piece = 64;
        run_parallel((lines_.size() + in_a_piece - 1) / in_a_piece, std::thread::hardware_concurrency(),
                     [&](std::size_t piece) {
                         const std::size_t end = std::min(lines_.size(), (piece + 1) * in_a_piece);
                         for (std::size_t at = piece * in_a_piece; at < end; ++at)
                             lines_[at].record = parse_record(lines_[at].text);
                     });
        for (ReadRecord& line : lines_)
            if (const auto problem = take(line)) return placed(path, line.number, *problem);
        lines_.clear();
        bytes_ = 0;
        return std::nullopt;
    }

  private:
    std::vector<ReadRecord> lines_;
    std::size_t bytes_ = 0;
};

}  // namespace

std::optional<Problem> read_lines(
    const std::string& path, const std::function<std::optional<Problem>(const std::string&, std::size_t)>& take) {
    return read_any_lines(path, AnswersOfLines::left,
                          [&](const std::string& line, std::size_t number, std::string_view) {
                              auto problem = take(line, number);
                              return problem ? std::optional(placed(path, number, *problem)) : std::nullopt;
                          });
}

std::optional<Problem> each_record(const std::string& path, AnswersOfLines answers, const TakeRecord& take) {
    Batch batch;
    const auto problem = read_any_lines(
        path, answers,
        [&](const std::string& line, std::size_t number, std::string_view answer) -> std::optional<Problem> {
            batch.add(line, number, answer);
            return batch.full() ? batch.pass_on(path, take) : std::nullopt;
        });
    return problem ? problem : batch.pass_on(path, take);
}

Checked<std::vector<Record>> read_records(const std::string& path) {
    std::vector<Record> out;
    const auto problem = each_record(path, AnswersOfLines::left, [&](ReadRecord& line) -> std::optional<Problem> {
        if (!line.record.ok()) return line.record.problem();
        out.push_back(std::move(line.record.value()));
        return std::nullopt;
    });
    if (problem) return *problem;
    return out;
}

}  // namespace nachklang

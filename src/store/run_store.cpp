// A store's runs: listed, dropped, read, queried. See run_store.hpp; store_sink.cpp writes them.
#include <nachklang/run_store.hpp>

#include <fmt/format.h>
#include <sqlite3.h>

#include <filesystem>
#include <fstream>

#include <nachklang/store.hpp>

#include "store/database.hpp"
#include "text/packed.hpp"

namespace nachklang {
namespace {

using store::problem_of;

std::string digest_of_all(const std::vector<std::string>& parts) {
    std::string all;
    for (const std::string& part : parts) all += std::to_string(part.size()) + ":" + part;
    return digest_of(all).hex();
}

/// SQL function answer(run, implementation, case, operation).
void answer_function(sqlite3_context* context, int, sqlite3_value** values) {
    try {
        auto& database = *static_cast<SQLite::Database*>(sqlite3_user_data(context));
        const auto text = [&](int i) {
            const auto* bytes = reinterpret_cast<const char*>(sqlite3_value_text(values[i]));
            return std::string(bytes == nullptr ? "" : bytes);
        };
        SQLite::Statement find(
            database,
            "SELECT k.answers, r.answer FROM results r JOIN chunks k ON k.run = r.run AND k.number = r.chunk "
            "JOIN cases c ON c.run = r.run AND c.position = r.case_position "
            "JOIN implementations i ON i.run = r.run AND i.position = r.implementation "
            "JOIN words o ON o.id = r.operation "
            "WHERE r.run = ? AND i.name = ? AND c.name = ? AND o.word = ? AND r.enclosed = 0");
        find.bind(1, static_cast<std::int64_t>(sqlite3_value_int64(values[0])));
        for (int i = 1; i < 4; ++i) find.bind(i + 1, text(i));
        if (!find.executeStep()) return sqlite3_result_null(context);
        const auto found =
            store::find_answer(text::unpacked(find.getColumn(0).getString()), find.getColumn(1).getInt64());
        if (!found) return sqlite3_result_null(context);
        sqlite3_result_text(context, found->data(), static_cast<int>(found->size()), SQLITE_TRANSIENT);
    } catch (const std::exception& error) {
        sqlite3_result_error(context, error.what(), -1);
    }
}

void add_functions(SQLite::Database& database) {
    database.createFunction("answer", 4, false, &database, answer_function);
}

/// The texts that a bound statement finds, in its order.
std::vector<std::string> first_column(SQLite::Statement& find) {
    std::vector<std::string> out;
    while (find.executeStep()) out.push_back(find.getColumn(0).getString());
    return out;
}

/// Of settings as text_of writes them.
bool is_simulated(std::string_view settings) {
    return (" " + std::string(settings) + " ").find(" simulated=yes ") != std::string::npos;
}

/// Runs what reads or writes, and turns its exceptions into the problem that they are for the user.
template <class Action>
auto guarded(const std::string& path, const Action& action) -> Checked<decltype(action())> {
    try {
        return action();
    } catch (const std::exception& error) {
        return problem_of(path, error);
    }
}

}  // namespace

RunSetup setup_of(std::span<const Case> cases, std::span<const Subject> subjects, std::string profile) {
    std::vector<std::string> of_cases, of_subjects;
    for (const Case& c : cases)
        of_cases.insert(of_cases.end(),
                        {c.corpus, c.name, std::string(c.format->name()), std::string(content_of(c))});
    for (const Subject& s : subjects) {
        of_subjects.insert(of_subjects.end(), {s.name(), s.version, s.engine, text_of(s.settings)});
    }
    RunSetup out;
    out.profile = std::move(profile);
    out.cases = digest_of_all(of_cases);
    out.subjects = digest_of_all(of_subjects);
    return out;
}

bool is_run_store(const std::string& path) {
    constexpr std::string_view magic("SQLite format 3\0", 16);
    std::string head(magic.size(), '\0');
    std::ifstream file(path, std::ios::binary);
    file.read(head.data(), static_cast<std::streamsize>(head.size()));
    return file && head == magic;
}

RunStore::RunStore(std::unique_ptr<Database> database) : database_(std::move(database)) {}
RunStore::~RunStore() = default;

Checked<std::unique_ptr<RunStore>> RunStore::open(const std::string& path) {
    std::error_code ignored;
    if (std::filesystem::exists(path, ignored) && std::filesystem::file_size(path, ignored) > 0 &&
        !is_run_store(path))
        return Problem{path, "is no store of runs", "name another file"};
    try {
        auto database = std::make_unique<Database>(path, SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
        if (const auto problem = store::prepare(database->sqlite, path)) return *problem;
        add_functions(database->sqlite);
        return std::unique_ptr<RunStore>(new RunStore(std::move(database)));
    } catch (const std::exception& error) {
        return problem_of(path, error);
    }
}

Checked<std::unique_ptr<RunStore>> RunStore::open_to_read(const std::string& path) {
    if (!std::filesystem::exists(path))
        return Problem{path, "does not exist", "`nachklang run --store FILE` makes one"};
    if (!is_run_store(path)) return Problem{path, "is no store of runs", "name a file that `run --store` wrote"};
    try {
        auto database = std::make_unique<Database>(path, SQLite::OPEN_READONLY);
        if (const auto problem = store::prepare(database->sqlite, path)) return *problem;
        add_functions(database->sqlite);
        return std::unique_ptr<RunStore>(new RunStore(std::move(database)));
    } catch (const std::exception& error) {
        return problem_of(path, error);
    }
}

Checked<std::vector<StoredRun>> RunStore::runs() const {
    return guarded(database_->path, [&] {
        SQLite::Statement list(
            database_->sqlite,
            "SELECT id, started, coalesce(ended, ''), complete, tool, command, profile, cases_digest, "
            "subjects_digest, cases, "
            "(SELECT count(*) FROM implementations WHERE run = id), (SELECT count(*) FROM results WHERE run = id), "
            "(SELECT count(*) FROM results WHERE run = id AND failing), (SELECT count(*) FROM chunks WHERE run = "
            "id) "
            "FROM runs ORDER BY id");
        std::vector<StoredRun> out;
        while (list.executeStep()) {
            const auto count = [&](int column) {
                return static_cast<std::size_t>(list.getColumn(column).getInt64());
            };
            StoredRun run;
            run.id = list.getColumn(0).getInt64();
            run.started = list.getColumn(1).getString();
            run.ended = list.getColumn(2).getString();
            run.complete = list.getColumn(3).getInt() != 0;
            run.setup = {list.getColumn(4).getString(), list.getColumn(5).getString(),
                         list.getColumn(6).getString(), list.getColumn(7).getString(),
                         list.getColumn(8).getString()};
            run.cases = count(9);
            run.implementations = count(10);
            run.results = count(11);
            run.failing = count(12);
            run.chunks = count(13);
            out.push_back(std::move(run));
        }
        return out;
    });
}

std::optional<Problem> RunStore::drop(std::int64_t run) {
    const auto dropped = guarded(database_->path, [&] {
        SQLite::Transaction transaction(database_->sqlite);
        SQLite::Statement remove(database_->sqlite, "DELETE FROM runs WHERE id = ?");
        remove.bind(1, run);
        const int count = remove.exec();
        database_->sqlite.exec("DELETE FROM contents WHERE id NOT IN (SELECT content FROM cases)");
        transaction.commit();
        return count;
    });
    if (!dropped.ok()) return dropped.problem();
    if (dropped.value() == 0)
        return Problem{std::to_string(run), "is no run of this store", "`nachklang results list` shows its runs"};
    return std::nullopt;
}

std::optional<Problem> RunStore::vacuum() {
    const auto done = guarded(database_->path, [&] {
        database_->sqlite.exec("VACUUM");
        return true;
    });
    return done.ok() ? std::nullopt : std::optional(done.problem());
}

namespace {

using TakeLine = std::function<void(const std::string&, std::string_view)>;

/// The answers of a chunk, in the order of its results.
std::vector<std::string_view> answers_in_order(SQLite::Database& database, std::int64_t run, std::int64_t chunk,
                                               std::string_view answers) {
    const auto by_key = store::answers_by_key(answers);
    std::vector<std::string_view> out;
    SQLite::Statement rows(database, "SELECT answer FROM results WHERE run = ? AND chunk = ? ORDER BY place");
    rows.bind(1, run);
    for (rows.bind(2, chunk); rows.executeStep();) {
        const auto found = by_key.find(rows.getColumn(0).getInt64());
        out.push_back(found == by_key.end() ? std::string_view{} : found->second);
    }
    return out;
}

RunRecord head_of(SQLite::Database& database, std::int64_t run, std::size_t cases) {
    RunRecord out;
    out.cases = cases;
    SQLite::Statement subjects(
        database,
        "SELECT name, version, engine, reach, settings FROM implementations WHERE run = ? ORDER BY position");
    for (subjects.bind(1, run); subjects.executeStep();)
        out.implementations.push_back({subjects.getColumn(0).getString(), subjects.getColumn(1).getString(),
                                       subjects.getColumn(2).getString(), subjects.getColumn(3).getString(),
                                       is_simulated(subjects.getColumn(4).getString())});
    return out;
}

/// The records of all chunks: results first in each, then what else belongs to it.
void take_chunks(SQLite::Database& database, std::int64_t run, bool with_answers, const TakeLine& take) {
    SQLite::Statement chunks(
        database, with_answers ? "SELECT number, records, answers FROM chunks WHERE run = ? ORDER BY number"
                               : "SELECT number, records FROM chunks WHERE run = ? ORDER BY number");
    for (chunks.bind(1, run); chunks.executeStep();) {
        const std::string lines = text::unpacked(chunks.getColumn(1).getString());
        const std::string kept = with_answers ? text::unpacked(chunks.getColumn(2).getString()) : "";
        const auto answers = with_answers ? answers_in_order(database, run, chunks.getColumn(0).getInt64(), kept)
                                          : std::vector<std::string_view>{};
        std::size_t number = 0;
        for (std::size_t at = 0; at < lines.size(); ++number) {
            const std::size_t end = lines.find('\n', at);
            take(lines.substr(at, end - at), number < answers.size() ? answers[number] : std::string_view{});
            at = end + 1;
        }
    }
}

std::optional<Problem> take_run(RunStore::Database& database, std::int64_t run, bool with_answers,
                                const TakeLine& take) {
    SQLite::Database& sqlite = database.sqlite;
    const auto done = guarded(database.path, [&] {
        SQLite::Statement head(sqlite, "SELECT cases, complete FROM runs WHERE id = ?");
        head.bind(1, run);
        if (!head.executeStep()) return false;
        take(line_of(head_of(sqlite, run, static_cast<std::size_t>(head.getColumn(0).getInt64()))), {});
        take_chunks(sqlite, run, with_answers, take);
        SQLite::Statement behaviours(sqlite, "SELECT record FROM behaviours WHERE run = ? ORDER BY position");
        for (behaviours.bind(1, run); behaviours.executeStep();) take(behaviours.getColumn(0).getString(), {});
        take(line_of(EndRecord{head.getColumn(1).getInt() == 0}), {});
        return true;
    });
    if (!done.ok()) return done.problem();
    if (done.value()) return std::nullopt;
    return Problem{database.path, fmt::format("holds no run {}", run), "`nachklang results list` shows its runs"};
}

}  // namespace

std::optional<Problem> RunStore::lines_of(std::int64_t run,
                                          const std::function<void(const std::string&)>& take) const {
    return take_run(*database_, run, false, [&](const std::string& line, std::string_view) { take(line); });
}

std::optional<Problem> RunStore::lines_with_answers(std::int64_t run, const TakeLine& take) const {
    return take_run(*database_, run, true, take);
}

Checked<std::vector<std::string>> RunStore::cases_failing(std::int64_t run, const std::string& cause) const {
    return guarded(database_->path, [&] {
        SQLite::Statement find(database_->sqlite,
                               "SELECT DISTINCT case_name FROM findings WHERE run = ?1 AND "
                               "((?2 = '' AND failing) OR (?2 <> '' AND cause = ?2)) ORDER BY case_name");
        find.bind(1, run);
        find.bind(2, cause);
        return first_column(find);
    });
}

Checked<std::vector<std::string>> RunStore::cases_changed(std::int64_t before, std::int64_t now) const {
    return guarded(database_->path, [&] {
        SQLite::Statement find(
            database_->sqlite,
            "SELECT DISTINCT c.name FROM results a JOIN cases c ON c.run = a.run AND c.position = a.case_position "
            "JOIN implementations i ON i.run = a.run AND i.position = a.implementation "
            "JOIN cases d ON d.run = ?2 AND d.corpus = c.corpus AND d.name = c.name "
            "JOIN implementations k ON k.run = ?2 AND k.name = i.name "
            "JOIN results b ON b.run = ?2 AND b.case_position = d.position AND b.implementation = k.position "
            "AND b.operation = a.operation AND b.enclosed = a.enclosed "
            "WHERE a.run = ?1 AND (a.outcome, a.finding, a.cause, a.answer) <> (b.outcome, b.finding, b.cause, "
            "b.answer) "
            "ORDER BY c.name");
        find.bind(1, before);
        find.bind(2, now);
        return first_column(find);
    });
}

std::optional<Problem> RunStore::query(const std::string& sql,
                                       const std::function<void(const std::vector<std::string>&)>& take) const {
    try {
        SQLite::Statement statement(database_->sqlite, sql);
        std::vector<std::string> row;
        for (int i = 0; i < statement.getColumnCount(); ++i) row.emplace_back(statement.getColumnName(i));
        take(row);
        while (statement.executeStep()) {
            row.clear();
            for (int i = 0; i < statement.getColumnCount(); ++i) {
                const SQLite::Column value = statement.getColumn(i);
                row.push_back(value.isBlob() ? fmt::format("{} bytes", value.getBytes()) : value.getString());
            }
            take(row);
        }
        return std::nullopt;
    } catch (const std::exception& error) {
        if (std::string_view(error.what()).find("readonly") != std::string_view::npos)
            return Problem{"query", "it would change the store", "use SELECT; `results drop` removes a run"};
        return Problem{"query", error.what(), "docs/kept-runs.md lists the tables"};
    }
}

}  // namespace nachklang

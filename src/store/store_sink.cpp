// Writes a run into a store: a transaction a chunk, so that a process that dies leaves whole chunks only.
#include <SQLiteCpp/VariadicBind.h>
#include <fmt/chrono.h>
#include <fmt/format.h>
#include <unistd.h>

#include <chrono>
#include <fstream>
#include <set>

#include <nachklang/run_store.hpp>
#include <nachklang/store.hpp>

#include "store/database.hpp"
#include "store/restored.hpp"
#include "text/packed.hpp"

namespace nachklang {
namespace {

std::string now() {
    return fmt::format("{:%Y-%m-%dT%H:%M:%SZ}", fmt::gmtime(std::chrono::system_clock::now()));
}

/// Runs a statement whose values are bound, and makes it ready for the next ones.
void execute(SQLite::Statement& statement) {
    statement.exec();
    statement.reset();
}

/// A process by its number and its start, which the system does not give twice.
std::string process_of(const std::string& id) {
    std::ifstream file("/proc/" + id + "/stat");
    std::string line;
    std::getline(file, line);
    // The name before it may hold spaces and brackets.
    std::string_view rest = std::string_view(line).substr(std::min(line.size(), line.rfind(')') + 1));
    constexpr int start_time = 20;
    for (int i = 0; i < start_time && !rest.empty(); ++i)
        rest.remove_prefix(
            std::min(rest.size(), rest.find(' ', 1) == std::string_view::npos ? rest.size() : rest.find(' ', 1)));
    rest = rest.substr(std::min<std::size_t>(rest.size(), 1));
    return line.empty() ? "" : id + ":" + std::string(rest.substr(0, rest.find(' ')));
}

std::string this_process() {
    return process_of(std::to_string(::getpid()));
}

bool is_alive(const std::string& owner) {
    return !owner.empty() && owner != this_process() && process_of(owner.substr(0, owner.find(':'))) == owner;
}

}  // namespace

struct StoreSink::State {
    State(RunStore::Database& in, std::int64_t id, std::span<const Case> of)
        : database(in), run(id), cases(of), words(in.sqlite) {
        for (std::size_t i = 0; i < cases.size(); ++i) positions[&cases[i]] = static_cast<std::int64_t>(i);
    }

    RunStore::Database& database;
    std::int64_t run;
    std::span<const Case> cases;
    store::Words words;
    std::map<const Case*, std::int64_t> positions;
    std::map<const Subject*, std::int64_t> subjects;
    std::size_t first_chunk = 0;
    std::vector<std::string> gave_up;
    std::optional<Problem> problem;
    std::chrono::steady_clock::duration spent{};

    // The chunk that came last; it is written when its incidents have come, too.
    struct Pending {
        std::size_t number = 0;
        std::string records, answers;
        std::vector<std::vector<std::int64_t>> rows;
        std::vector<std::string> gave_up;
    };
    std::optional<Pending> pending;

    template <class Action>
    void guard(const Action& action) {
        if (problem) return;
        const auto begin = std::chrono::steady_clock::now();
        try {
            action();
        } catch (const std::exception& error) {
            problem = store::problem_of(database.path, error);
            words.forget();
        }
        spent += std::chrono::steady_clock::now() - begin;
    }

    std::vector<std::int64_t> row_of(const Result& r, std::size_t place) {
        const Case* of = r.enclosed_of == nullptr ? r.test_case : r.enclosed_of;
        return {static_cast<std::int64_t>(place),     positions.at(of),
                r.enclosed_of == nullptr ? 0 : 1,     subjects.at(r.subject),
                words.id_of(name_of(r.operation)),    words.id_of(name_of(r.outcome.kind)),
                words.id_of(name_of(r.finding.kind)), words.id_of(r.finding.cause()),
                r.finding.failing() ? 1 : 0,          store::key_of(answer_of(r))};
    }

    void take(const ChunkReport& report) {
        Pending next;
        next.number = report.number;
        next.gave_up = report.gave_up;
        std::set<std::int64_t> kept;
        for (const Result& r : report.results) {
            next.records += line_of(record_of(r)) + "\n";
            next.rows.push_back(row_of(r, next.rows.size()));
            if (kept.insert(next.rows.back().back()).second) store::append_answer(next.answers, answer_of(r));
        }
        for (const Disagreement& d : report.disagreements) next.records += line_of(record_of(d)) + "\n";
        pending = std::move(next);
    }

    void write_pending() {
        if (!pending) return;
        const Pending chunk = std::move(*pending);
        pending.reset();
        SQLite::Transaction transaction(database.sqlite);
        SQLite::Statement row(database.sqlite, "INSERT INTO results VALUES(?,?,?,?,?,?,?,?,?,?,?,?)");
        for (const auto& values : chunk.rows) {
            row.bind(1, run);
            row.bind(2, static_cast<std::int64_t>(chunk.number));
            for (std::size_t i = 0; i < values.size(); ++i) row.bind(static_cast<int>(i) + 3, values[i]);
            execute(row);
        }
        const std::string records = text::packed(chunk.records), answers = text::packed(chunk.answers);
        SQLite::Statement add(database.sqlite, "INSERT INTO chunks VALUES(?,?,?,?)");
        add.bind(1, run);
        add.bind(2, static_cast<std::int64_t>(chunk.number));
        add.bind(3, records.data(), static_cast<int>(records.size()));
        add.bind(4, answers.data(), static_cast<int>(answers.size()));
        add.exec();
        SQLite::Statement gave(database.sqlite,
                               "UPDATE implementations SET gave_up = ? WHERE run = ? AND position = ?");
        for (std::size_t s = 0; s < chunk.gave_up.size(); ++s) {
            SQLite::bind(gave, chunk.gave_up[s], run, static_cast<std::int64_t>(s));
            execute(gave);
        }
        transaction.commit();
    }
};

Checked<std::unique_ptr<StoreSink>> RunStore::add_run(const RunSetup& setup, std::span<const Case> cases) {
    SQLite::Database& sqlite = database_->sqlite;
    try {
        SQLite::Transaction transaction(sqlite);
        SQLite::Statement add(
            sqlite,
            "INSERT INTO runs(started, owner, tool, command, profile, cases_digest, subjects_digest, cases) "
            "VALUES(?,?,?,?,?,?,?,?)");
        SQLite::bind(add, now(), this_process(), setup.tool, setup.command, setup.profile, setup.cases,
                     setup.subjects, static_cast<std::int64_t>(cases.size()));
        execute(add);
        const std::int64_t run = sqlite.getLastInsertRowid();
        SQLite::Statement content(sqlite, "INSERT OR IGNORE INTO contents(digest, size, packed) VALUES(?,?,?)");
        SQLite::Statement row(sqlite, "INSERT INTO cases SELECT ?,?,?,?,?,?,id FROM contents WHERE digest = ?");
        for (std::size_t i = 0; i < cases.size(); ++i) {
            const Case& c = cases[i];
            const std::string_view text = content_of(c);
            const std::string digest = (c.document ? "document " : "value ") + digest_of(text).hex(),
                              packed = text::packed(text);
            content.bind(1, digest);
            content.bind(2, static_cast<std::int64_t>(text.size()));
            content.bind(3, packed.data(), static_cast<int>(packed.size()));
            execute(content);
            SQLite::bind(row, run, static_cast<std::int64_t>(i), c.corpus, c.name, c.aspect,
                         std::string(c.format->name()), digest);
            execute(row);
        }
        transaction.commit();
        return std::unique_ptr<StoreSink>(
            new StoreSink(std::make_unique<StoreSink::State>(*database_, run, cases)));
    } catch (const std::exception& error) {
        return store::problem_of(database_->path, error);
    }
}

Checked<std::unique_ptr<StoreSink>> RunStore::resume(const StoredRun& run, const RunSetup& setup,
                                                     std::span<const Case> cases) {
    const std::string name = fmt::format("run {}", run.id);
    if (run.complete) return Problem{name, "is complete", "start a new one without --resume"};
    const auto differs = [&](const char* what) {
        return Problem{name, fmt::format("was of other {}", what), "repeat its call: " + run.setup.command};
    };
    if (setup.cases != run.setup.cases) return differs("cases");
    if (setup.subjects != run.setup.subjects) return differs("implementations, versions or settings");
    if (setup.profile != run.setup.profile) return differs("profile");
    if (setup.tool != run.setup.tool) return differs("version of Nachklang");
    SQLite::Database& sqlite = database_->sqlite;
    try {
        SQLite::Statement owner(sqlite, "SELECT owner FROM runs WHERE id = ?");
        owner.bind(1, run.id);
        if (owner.executeStep() && is_alive(owner.getColumn(0).getString()))
            return Problem{name, "is under way in another process", "wait for it"};
        auto state = std::make_unique<StoreSink::State>(*database_, run.id, cases);
        state->first_chunk = run.chunks;
        SQLite::Statement gave(sqlite, "SELECT gave_up FROM implementations WHERE run = ? ORDER BY position");
        for (gave.bind(1, run.id); gave.executeStep();) state->gave_up.push_back(gave.getColumn(0).getString());
        SQLite::Statement take(sqlite, "UPDATE runs SET owner = ? WHERE id = ?");
        SQLite::bind(take, this_process(), run.id);
        execute(take);
        return std::unique_ptr<StoreSink>(new StoreSink(std::move(state)));
    } catch (const std::exception& error) {
        return store::problem_of(database_->path, error);
    }
}

StoreSink::StoreSink(std::unique_ptr<State> state) : state_(std::move(state)) {}
StoreSink::~StoreSink() = default;

void StoreSink::begin(const RunHeader& header) {
    for (std::size_t i = 0; i < header.subjects.size(); ++i)
        state_->subjects[&header.subjects[i]] = static_cast<std::int64_t>(i);
    state_->guard([&] {
        SQLite::Transaction transaction(state_->database.sqlite);
        SQLite::Statement add(
            state_->database.sqlite,
            "INSERT OR IGNORE INTO implementations(run, position, name, version, engine, reach, settings) "
            "VALUES(?,?,?,?,?,?,?)");
        for (std::size_t i = 0; i < header.subjects.size(); ++i) {
            const Subject& s = header.subjects[i];
            SQLite::bind(add, state_->run, static_cast<std::int64_t>(i), s.name(), s.version, s.engine,
                         std::string(name_of(s.implementation.reach)), text_of(s.settings));
            execute(add);
        }
        transaction.commit();
    });
}

void StoreSink::chunk(const ChunkReport& report) {
    state_->guard([&] { state_->write_pending(); });
    // What an interrupted run knows of a chunk is asked again when it is resumed.
    if (report.whole) state_->guard([&] { state_->take(report); });
}

void StoreSink::incident(const IncidentReport& report) {
    if (state_->pending) state_->pending->records += line_of(record_of(report)) + "\n";
}

void StoreSink::end(const RunEnd& how) {
    state_->guard([&] {
        state_->write_pending();
        SQLite::Statement add(state_->database.sqlite,
                              "UPDATE implementations SET seconds = seconds + ? WHERE run = ? AND position = ?");
        for (std::size_t i = 0; i < how.seconds.size(); ++i) {
            SQLite::bind(add, how.seconds[i], state_->run, static_cast<std::int64_t>(i));
            execute(add);
        }
    });
}

void StoreSink::finish(const std::vector<Behaviour>& behaviours) {
    state_->guard([&] {
        SQLite::Transaction transaction(state_->database.sqlite);
        SQLite::Statement add(state_->database.sqlite, "INSERT INTO behaviours VALUES(?,?,?,?,?,?,?)");
        for (std::size_t i = 0; i < behaviours.size(); ++i) {
            const Behaviour& b = behaviours[i];
            SQLite::bind(add, state_->run, static_cast<std::int64_t>(i), b.implementation,
                         std::string(name_of(b.gravity)), b.failing ? 1 : 0, b.sentence, line_of(record_of(b)));
            execute(add);
        }
        SQLite::Statement done(state_->database.sqlite, "UPDATE runs SET complete = 1, ended = ? WHERE id = ?");
        SQLite::bind(done, now(), state_->run);
        execute(done);
        transaction.commit();
    });
}

std::optional<Problem> StoreSink::replay(std::span<const Subject> subjects, ResultSink& sink) const {
    try {
        store::Restorer restorer(state_->cases, subjects);
        SQLite::Statement chunks(state_->database.sqlite,
                                 "SELECT number, records FROM chunks WHERE run = ? ORDER BY number");
        for (chunks.bind(1, state_->run); chunks.executeStep();) {
            auto restored = restorer.chunk(text::unpacked(chunks.getColumn(1).getString()));
            restored.report.number = static_cast<std::size_t>(chunks.getColumn(0).getInt64());
            sink.chunk(restored.report);
            for (const IncidentReport& incident : restored.incidents) sink.incident(incident);
        }
        return std::nullopt;
    } catch (const std::exception& error) {
        return store::problem_of(state_->database.path, error);
    }
}

std::size_t StoreSink::first_chunk() const {
    return state_->first_chunk;
}
const std::vector<std::string>& StoreSink::gave_up() const {
    return state_->gave_up;
}
const std::optional<Problem>& StoreSink::problem() const {
    return state_->problem;
}
std::int64_t StoreSink::run() const {
    return state_->run;
}
double StoreSink::seconds() const {
    return std::chrono::duration<double>(state_->spent).count();
}

}  // namespace nachklang

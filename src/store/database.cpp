#include "store/database.hpp"

#include <fmt/format.h>
#include <cstring>
#include <stdexcept>

#include <nachklang/trace.hpp>

namespace nachklang::store {
namespace {

// "Nchk", so that other programs name the file's kind.
constexpr int application_id = 0x4E63686B;
constexpr int schema_version = 1;

/// docs/kept-runs.md explains each table to people who query them.
constexpr const char* schema = R"(
CREATE TABLE runs(
  id INTEGER PRIMARY KEY AUTOINCREMENT, started TEXT NOT NULL, ended TEXT, complete INTEGER NOT NULL DEFAULT 0,
  owner TEXT NOT NULL, tool TEXT NOT NULL, command TEXT NOT NULL, profile TEXT NOT NULL,
  cases_digest TEXT NOT NULL, subjects_digest TEXT NOT NULL, cases INTEGER NOT NULL);
CREATE TABLE implementations(
  run INTEGER NOT NULL REFERENCES runs ON DELETE CASCADE, position INTEGER NOT NULL, name TEXT NOT NULL, version TEXT NOT NULL,
  engine TEXT NOT NULL, reach TEXT NOT NULL, settings TEXT NOT NULL, seconds REAL NOT NULL DEFAULT 0, gave_up TEXT NOT NULL DEFAULT '',
  PRIMARY KEY(run, position)) WITHOUT ROWID;
CREATE TABLE contents(id INTEGER PRIMARY KEY, digest TEXT NOT NULL UNIQUE, size INTEGER NOT NULL, packed BLOB NOT NULL);
CREATE TABLE cases(
  run INTEGER NOT NULL REFERENCES runs ON DELETE CASCADE, position INTEGER NOT NULL, corpus TEXT NOT NULL, name TEXT NOT NULL,
  aspect TEXT NOT NULL, format TEXT NOT NULL, content INTEGER NOT NULL REFERENCES contents,
  PRIMARY KEY(run, position)) WITHOUT ROWID;
CREATE TABLE words(id INTEGER PRIMARY KEY, word TEXT NOT NULL UNIQUE);
CREATE TABLE results(
  run INTEGER NOT NULL REFERENCES runs ON DELETE CASCADE, chunk INTEGER NOT NULL, place INTEGER NOT NULL,
  case_position INTEGER NOT NULL, enclosed INTEGER NOT NULL, implementation INTEGER NOT NULL, operation INTEGER NOT NULL,
  outcome INTEGER NOT NULL, finding INTEGER NOT NULL, cause INTEGER NOT NULL, failing INTEGER NOT NULL, answer INTEGER NOT NULL,
  PRIMARY KEY(run, chunk, place)) WITHOUT ROWID;
CREATE TABLE chunks(
  run INTEGER NOT NULL REFERENCES runs ON DELETE CASCADE, number INTEGER NOT NULL, records BLOB NOT NULL, answers BLOB NOT NULL,
  PRIMARY KEY(run, number)) WITHOUT ROWID;
CREATE TABLE behaviours(
  run INTEGER NOT NULL REFERENCES runs ON DELETE CASCADE, position INTEGER NOT NULL, implementation TEXT NOT NULL,
  gravity TEXT NOT NULL, failing INTEGER NOT NULL, sentence TEXT NOT NULL, record TEXT NOT NULL,
  PRIMARY KEY(run, position)) WITHOUT ROWID;
CREATE VIEW findings AS
  SELECT r.run, c.corpus, c.name AS case_name, r.enclosed, i.name AS implementation, i.version, o.word AS operation, u.word AS outcome,
         f.word AS finding, w.word AS cause, r.failing
  FROM results r
  JOIN cases c ON c.run = r.run AND c.position = r.case_position
  JOIN implementations i ON i.run = r.run AND i.position = r.implementation
  JOIN words o ON o.id = r.operation JOIN words u ON u.id = r.outcome
  JOIN words f ON f.id = r.finding JOIN words w ON w.id = r.cause;
)";

}  // namespace

std::int64_t key_of(std::string_view text) {
    return static_cast<std::int64_t>(digest_of(text).high);
}

void append_answer(std::string& out, std::string_view text) {
    const std::int64_t key = key_of(text);
    const auto size = static_cast<std::uint64_t>(text.size());
    out.append(reinterpret_cast<const char*>(&key), sizeof key);
    out.append(reinterpret_cast<const char*>(&size), sizeof size);
    out += text;
}

std::unordered_map<std::int64_t, std::string_view> answers_by_key(std::string_view answers) {
    std::unordered_map<std::int64_t, std::string_view> out;
    std::int64_t key = 0;
    std::uint64_t size = 0;
    constexpr std::size_t head = sizeof key + sizeof size;
    while (answers.size() >= head) {
        std::memcpy(&key, answers.data(), sizeof key);
        std::memcpy(&size, answers.data() + sizeof key, sizeof size);
        answers.remove_prefix(head);
        if (size > answers.size()) throw std::runtime_error("the answers of a chunk are damaged");
        out.emplace(key, answers.substr(0, size));
        answers.remove_prefix(size);
    }
    return out;
}

std::optional<std::string> find_answer(std::string_view answers, std::int64_t key) {
    const auto all = answers_by_key(answers);
    const auto found = all.find(key);
    return found == all.end() ? std::nullopt : std::optional(std::string(found->second));
}

Words::Words(SQLite::Database& database)
    : insert_(database, "INSERT OR IGNORE INTO words(word) VALUES(?)"),
      select_(database, "SELECT id FROM words WHERE word = ?") {}

std::int64_t Words::id_of(std::string_view word) {
    const std::string key(word);
    if (const auto known = known_.find(key); known != known_.end()) return known->second;
    insert_.reset();
    insert_.bind(1, key);
    insert_.exec();
    select_.reset();
    select_.bind(1, key);
    select_.executeStep();
    const std::int64_t id = select_.getColumn(0).getInt64();
    select_.reset();
    known_[key] = id;
    return id;
}

std::optional<Problem> prepare(SQLite::Database& database, const std::string& path) {
    const auto pragma = [&](const char* name) {
        return database.execAndGet(std::string("PRAGMA ") + name).getInt();
    };
    const int tables = database.execAndGet("SELECT count(*) FROM sqlite_master").getInt();
    if (tables > 0 && pragma("application_id") != application_id)
        return Problem{path, "is a database of another program", "name another file for the store"};
    if (tables > 0 && pragma("user_version") > schema_version)
        return Problem{path, "was written by a newer version of Nachklang", "use that version, or another file"};
    database.exec("PRAGMA foreign_keys = ON");
    if (tables > 0) return std::nullopt;
    SQLite::Transaction transaction(database);
    database.exec(schema);
    database.exec(
        fmt::format("PRAGMA application_id = {}; PRAGMA user_version = {}", application_id, schema_version));
    transaction.commit();
    return std::nullopt;
}

Problem problem_of(const std::string& path, const std::exception& error) {
    const std::string what = error.what();
    if (what.find("full") != std::string::npos)
        return {path, "cannot be written: the disk is full; what was stored is kept",
                "make room, then use --resume"};
    if (what.find("locked") != std::string::npos)
        return {path, "is in use by another process", "wait for it, or name another file"};
    if (what.find("not a database") != std::string::npos || what.find("malformed") != std::string::npos ||
        what.find("damaged") != std::string::npos)
        return {path, "is damaged, or no store of runs: " + what, "name another file"};
    return {path, what, "name a file in a folder that can be written"};
}

}  // namespace nachklang::store

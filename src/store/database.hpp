// The SQLite file behind a run store: its schema, interned words, and packed texts.
#pragma once

#include <SQLiteCpp/SQLiteCpp.h>

#include <cstdint>
#include <string>
#include <string_view>
#include <unordered_map>

#include <nachklang/problem.hpp>
#include <nachklang/run_store.hpp>

namespace nachklang::store {

/// Of a text, for looking it up: the first 64 bits of its digest.
std::int64_t key_of(std::string_view text);

/// One answer behind another: its key, its length, its bytes.
void append_answer(std::string& out, std::string_view text);
/// The answer with a key; nothing if there is none.
std::optional<std::string> find_answer(std::string_view answers, std::int64_t key);
/// All of them, as views into `answers`.
std::unordered_map<std::int64_t, std::string_view> answers_by_key(std::string_view answers);

/// Words that occur often, such as causes, each stored once. Throws SQLite::Exception.
class Words {
  public:
    explicit Words(SQLite::Database& database);
    std::int64_t id_of(std::string_view word);
    /// After a transaction that failed, or one of another process: forgets what it knows.
    void forget() { known_.clear(); }

  private:
    SQLite::Statement insert_, select_;
    std::unordered_map<std::string, std::int64_t> known_;
};

/// Makes the schema in an empty file; a problem if the file is another database or of a newer version.
std::optional<Problem> prepare(SQLite::Database& database, const std::string& path);

/// What an exception of SQLite's means for the user.
Problem problem_of(const std::string& path, const std::exception& error);

}  // namespace nachklang::store

namespace nachklang {

struct RunStore::Database {
    Database(std::string file, int flags) : path(std::move(file)), sqlite(path, flags, 10'000) {}
    std::string path;
    SQLite::Database sqlite;
};

}  // namespace nachklang

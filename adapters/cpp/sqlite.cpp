// SQLite's JSON functions: json_tree, one row a value.
#include <nachklang/adapter.hpp>

#include <sqlite3.h>

#include <memory>

namespace {

using namespace nachklang::adapter;

struct Row {
    std::int64_t id, parent;
    std::string type, key, text;
    double real;
    bool has_key, is_real;  // is_real: SQLite holds it as REAL, whatever json_tree calls it
};

std::string column(sqlite3_stmt* statement, int index) {
    const auto* bytes = static_cast<const char*>(sqlite3_column_blob(statement, index));
    return bytes == nullptr ? ""
                            : std::string(bytes, static_cast<std::size_t>(sqlite3_column_bytes(statement, index)));
}

class Sqlite final : public Codec {
  public:
    Sqlite() {
        sqlite3* raw = nullptr;
        if (sqlite3_open(":memory:", &raw) != SQLITE_OK) throw std::runtime_error("no database");
        database_.reset(raw);
    }
    [[nodiscard]] Description describe() const override {
        return {.name = "sqlite",
                .version = sqlite3_libversion(),
                .capabilities = {{"json", {"decode", "round-trip"}}}};
    }
    Reply decode(std::string_view, std::string_view, std::string_view document, TraceOut& out) override {
        std::vector<Row> rows;
        // Rows come in document order, each container before what it holds.
        auto failed =
            ask("select id, parent, type, key, atom from json_tree(?1)", document, [&](sqlite3_stmt* row) {
                const bool has_key = sqlite3_column_type(row, 3) == SQLITE_TEXT;
                rows.push_back({sqlite3_column_int64(row, 0), sqlite3_column_int64(row, 1), column(row, 2),
                                has_key ? column(row, 3) : "", column(row, 4), sqlite3_column_double(row, 4),
                                has_key, sqlite3_column_type(row, 4) == SQLITE_FLOAT});
            });
        if (failed) return *failed;
        if (out.wanted()) print(rows, out);
        return Reply::accepted();
    }
    Reply round_trip(std::string_view, std::string_view, std::string_view document) override {
        std::string text;
        if (auto failed = ask("select json(?1)", document, [&](sqlite3_stmt* row) { text = column(row, 0); }))
            return *failed;
        return Reply::accepted(text);
    }

  private:
    struct Close {
        void operator()(sqlite3* database) const { sqlite3_close(database); }
        void operator()(sqlite3_stmt* statement) const { sqlite3_finalize(statement); }
    };
    using Statement = std::unique_ptr<sqlite3_stmt, Close>;

    template <class Each>
    std::optional<Reply> ask(const std::string& query, std::string_view document, Each each) {
        sqlite3_stmt* raw = nullptr;
        if (sqlite3_prepare_v2(database_.get(), query.c_str(), -1, &raw, nullptr) != SQLITE_OK)
            throw std::runtime_error(sqlite3_errmsg(database_.get()));  // the query is ours
        const Statement statement(raw);
        sqlite3_bind_text64(raw, 1, document.data(), document.size(), SQLITE_STATIC, SQLITE_UTF8);
        int status = sqlite3_step(raw);
        for (; status == SQLITE_ROW; status = sqlite3_step(raw)) each(raw);
        if (status == SQLITE_DONE) return std::nullopt;
        if (status == SQLITE_NOMEM) return Reply::exhausted(sqlite3_errmsg(database_.get()));
        return Reply::rejected(sqlite3_errmsg(database_.get()));
    }

    static void print(const std::vector<Row>& rows, TraceOut& out) {
        std::vector<const Row*> open;
        const auto close = [&] {
            open.back()->type == "object" ? out.close_object() : out.close_array();
            open.pop_back();
        };
        for (const Row& row : rows) {
            while (!open.empty() && open.back()->id != row.parent) close();
            if (row.has_key && !open.empty() && open.back()->type == "object") out.key(row.key);
            if (row.type == "object" || row.type == "array") {
                row.type == "object" ? out.open_object() : out.open_array();
                open.push_back(&row);
            } else if (row.type == "text") {
                out.string(row.text);
            } else if (row.is_real) {
                out.binary64(row.real);  // also an integer too large for the integers here
            } else if (row.type == "integer") {
                out.integer_digits(row.text);
            } else {
                out.line(row.type);
            }
        }
        while (!open.empty()) close();
    }

    std::unique_ptr<sqlite3, Close> database_;
};

}  // namespace

int main() {
    Sqlite codec;
    return serve(codec);
}

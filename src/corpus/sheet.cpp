// Sheets: TOML read into cases. A malformed sheet is a problem with its line; contradictions with the reference
// reader are found in expectation.cpp (check_case).
#include <fmt/format.h>
#include <toml++/toml.h>

#include <algorithm>
#include <array>
#include <filesystem>
#include <map>
#include <set>

#include <nachklang/corpus.hpp>
#include <nachklang/record_types.hpp>

namespace nachklang {
namespace {

namespace fs = std::filesystem;

/// Clauses that begin so, like bare numbers, belong to the sheet's standard.
constexpr std::array<std::string_view, 4> unqualified{"production ", "productions ", "WFC ", "VC "};
constexpr std::size_t largest_recipe = std::size_t{1} << 28;

struct SheetProblem {
    Problem problem;
};

class SheetLoader {
  public:
    SheetLoader(std::string file, std::string corpus, std::span<const Format* const> known)
        : file_(std::move(file)), corpus_(std::move(corpus)), known_(known) {}

    std::vector<Case> load() {
        const toml::table root = parse();
        const toml::table* sheet = root["sheet"].as_table();
        if (sheet == nullptr)
            fail(root, "a sheet must begin with [sheet]", "add [sheet] with format, aspect and standard");
        known_keys(root, {"sheet", "question", "case"});
        known_keys(*sheet, {"format", "aspect", "standard", "about"});
        const std::string format_name = text(*sheet, "format");
        for (const Format* format : known_)
            if (format->name() == format_name) format_ = format;
        if (format_ == nullptr)
            fail(*sheet, fmt::format("unknown format '{}'", format_name), "use one of " + format_names());
        aspect_ = text(*sheet, "aspect");
        standard_ = text(*sheet, "standard");
        questions(root);
        cases(root);
        return std::move(cases_);
    }

  private:
    toml::table parse() {
        auto bytes = read_file(file_);
        if (!bytes.ok()) throw SheetProblem{bytes.problem()};
        try {
            return toml::parse(bytes.value(), file_);
        } catch (const toml::parse_error& error) {
            const auto& at = error.source().begin;
            throw SheetProblem{{fmt::format("{}:{}:{}", file_, at.line, at.column),
                                std::string(error.description()), "correct the TOML"}};
        }
    }

    [[noreturn]] void fail(const toml::node& where, std::string what, std::string advice) const {
        throw SheetProblem{{fmt::format("{}:{}", file_, std::max<std::size_t>(where.source().begin.line, 1)),
                            std::move(what), std::move(advice)}};
    }

    [[nodiscard]] std::string format_names() const {
        std::string out;
        for (const Format* format : known_) out += (out.empty() ? "" : ", ") + std::string(format->name());
        return out;
    }

    void known_keys(const toml::table& table, std::initializer_list<std::string_view> known) const {
        for (const auto& [key, value] : table)
            if (std::find(known.begin(), known.end(), key.str()) == known.end())
                fail(value, fmt::format("unknown key '{}'", text::printable(key.str())),
                     "see docs/sheets.md for the keys of a sheet");
    }

    std::string text(const toml::table& table, std::string_view key) const {
        const auto value = table[key].value<std::string>();
        if (!value)
            fail(table, fmt::format("'{}' is missing or is not a string", key), fmt::format("add {} = \"…\"", key));
        return *value;
    }
    static std::string text_or(const toml::table& table, std::string_view key) {
        return table[key].value<std::string>().value_or("");
    }

    bool yes(const toml::table& table, std::string_view key) const {
        if (!table.contains(key)) return false;
        const auto value = table[key].value_exact<bool>();
        if (!value) fail(table, fmt::format("'{}' must be true or false", key), "write true, or leave it out");
        return *value;
    }

    [[nodiscard]] const toml::table& entry(const toml::node& node) const {
        if (!node.is_table())
            fail(node, "an entry of this list is not a table", "write [[case]] or [[question]] tables");
        return *node.as_table();
    }

    /// With the sheet's standard in front, unless it names one.
    [[nodiscard]] std::string clause_in(const toml::table& table) const {
        const std::string clause = text_or(table, "clause");
        const bool of_standard = clause.find_first_not_of("0123456789.") == std::string::npos ||
                                 std::any_of(unqualified.begin(), unqualified.end(),
                                             [&](std::string_view word) { return clause.starts_with(word); });
        return clause.empty() || !of_standard ? clause : standard_ + ", " + clause;
    }

    void questions(const toml::table& root) {
        const toml::array* list = root["question"].as_array();
        if (list == nullptr) return;
        for (const toml::node& node : *list) {
            const toml::table& table = entry(node);
            known_keys(table, {"id", "clause", "answers", "unlisted", "about"});
            Question question;
            question.id = text(table, "id");
            question.clause = clause_in(table);
            question.about = text_or(table, "about");
            question.unlisted_is_altered = text_or(table, "unlisted") != "shown";
            if (const toml::array* answers = table["answers"].as_array())
                for (const toml::node& answer : *answers)
                    question.answers.emplace_back(answer.value_or<std::string>(""));
            const std::string id = question.id;
            questions_[id] = std::make_shared<const Question>(std::move(question));
        }
    }

    void cases(const toml::table& root) {
        const toml::array* list = root["case"].as_array();
        if (list == nullptr) fail(root, "a sheet without cases", "add [[case]] tables");
        std::set<std::string> ids;
        for (const toml::node& node : *list) {
            const toml::table& table = entry(node);
            Case c = one(table);
            if (!ids.insert(c.name).second)
                fail(table, fmt::format("the id {} is used twice", c.name), "give each case its own id");
            cases_.push_back(std::move(c));
        }
    }

    Case one(const toml::table& table) {
        known_keys(table, {"id", "text", "hex", "file", "build", "external_file", "reads", "value", "stance",
                           "question", "answers", "trace", "clause", "why", "record", "sequence", "stays_open"});
        Case c;
        c.corpus = corpus_;
        c.aspect = aspect_;
        c.name = aspect_ + "/" + text(table, "id");
        c.format = format_;
        c.source = fmt::format("{}:{}", file_, table.source().begin.line);
        c.why = text(table, "why");
        c.clause = clause_in(table);
        const int sources = static_cast<int>(table.contains("text")) + static_cast<int>(table.contains("hex")) +
                            static_cast<int>(table.contains("file")) + static_cast<int>(table.contains("build")) +
                            static_cast<int>(table.contains("value"));
        if (sources != 1)
            fail(table, fmt::format("{} needs exactly one of text, hex, file, build and value", c.name),
                 "keep one of them");
        if (table.contains("value")) {
            c.value = trace(table, "value");
        } else {
            if (table.contains("external_file")) c.external_file = external_file_path(table).string();
            c.document = std::make_shared<const std::string>(document(table, c.external_file));
        }
        c.record = text_or(table, "record");
        if (!c.record.empty()) check_record(table, c);
        c.sequence = yes(table, "sequence");
        if (c.sequence && (c.document == nullptr || !c.record.empty()))
            fail(table, "a sequence is a text of several documents",
                 "write text, hex, file or build, and no record");
        c.stays_open = yes(table, "stays_open");
        if (c.stays_open && !c.sequence)
            fail(table, "only the stream of a sequence stays open", "write sequence = true");
        c.reads = reads(table);
        c.stance = stance(table);
        if (table.contains("trace")) c.expected = trace(table, "trace");
        c.question = text_or(table, "question");
        if (!c.question.empty()) answers(table, c);
        return c;
    }

    void check_record(const toml::table& table, const Case& c) const {
        const auto types = record_types();
        if (std::none_of(types.begin(), types.end(), [&](const RecordType& t) { return t.name == c.record; }))
            fail(table, fmt::format("unknown record type '{}'", text::printable(c.record)),
                 "docs/records-of-fields.md lists the types");
    }

    std::optional<Stance> stance(const toml::table& table) const {
        if (!table.contains("stance")) return std::nullopt;
        const std::string word = text(table, "stance");
        if (const auto known = find_stance(word)) return known;
        fail(table, fmt::format("unknown stance '{}'", text::printable(word)), "use accept, reject or open");
    }

    ExternalAccess reads(const toml::table& table) const {
        if (!table.contains("reads")) return ExternalAccess::either;
        const std::string word = text(table, "reads");
        if (word != "none" && word != "external")
            fail(table, fmt::format("unknown value '{}' for `reads`", text::printable(word)),
                 "use none or external");
        if (!table.contains("external_file"))
            fail(table, "`reads` needs an external file", "name it with 'external_file'");
        return word == "none" ? ExternalAccess::none : ExternalAccess::external;
    }

    Trace trace(const toml::table& table, std::string_view key) const { return parsed(table, text(table, key)); }
    Trace parsed(const toml::table& table, std::string notation) const {
        if (!notation.empty() && notation.back() != '\n') notation += '\n';
        TraceError error;
        auto out = Trace::parse(std::move(notation), &error);
        if (!out)
            fail(table, fmt::format("line {} of a trace: {}", error.line, error.message), "see docs/trace.md");
        return *out;
    }

    std::string document(const toml::table& table, const std::string& external_file) const {
        if (table.contains("text"))
            return external_file.empty() ? text(table, "text") : naming_file(text(table, "text"), external_file);
        if (table.contains("hex")) return bytes(table, text(table, "hex"));
        if (table.contains("file")) {
            auto read = read_file(path_in_folder(table, "file").string());
            if (!read.ok()) throw SheetProblem{read.problem()};
            return std::move(read.value());
        }
        return build(table);
    }
    fs::path path_in_folder(const toml::table& table, std::string_view key) const {
        const std::string name = text(table, key);
        if (name.find("..") != std::string::npos)
            fail(table, "the file is outside the sheet's folder", "move it into the sheet's folder");
        return fs::path(file_).parent_path() / name;
    }
    fs::path external_file_path(const toml::table& table) const {
        const fs::path path = fs::absolute(path_in_folder(table, "external_file")).lexically_normal();
        if (!fs::is_regular_file(path))
            fail(table, "not a file in the sheet's folder: " + text::printable(text(table, "external_file")),
                 "move it into the sheet's folder");
        return path;
    }
    /// Replaces {external_file} in a text by the URL (RFC 8089) of a file next to the sheet.
    static std::string naming_file(std::string out, const std::string& external_file) {
        const std::string url = file_url(external_file);
        constexpr std::string_view place = "{external_file}";
        for (auto at = out.find(place); at != std::string::npos; at = out.find(place, at + url.size()))
            out.replace(at, place.size(), url);
        return out;
    }
    std::string bytes(const toml::table& table, const std::string& hex) const {
        const auto out = text::from_hex(hex);
        if (!out) fail(table, "'hex' must be a string of hexadecimal digits", "write two digits a byte");
        return *out;
    }

    std::string build(const toml::table& table) const {
        const toml::array* steps = table["build"].as_array();
        if (steps == nullptr) fail(table, "'build' must be a list", "write build = [[\"[\", 5000], [\"]\", 5000]]");
        std::string out;
        for (const toml::node& step : *steps) {
            if (const toml::array* pair = step.as_array()) {
                const auto piece = pair->size() == 2 ? pair->get(0)->value<std::string>() : std::nullopt;
                const auto times = pair->size() == 2 ? pair->get(1)->value<std::int64_t>() : std::nullopt;
                if (!piece || !times || *times < 0)
                    fail(step, "a step of 'build' must be [TEXT, TIMES]", "write such as [\"[\", 5000]");
                room(step, out.size(), piece->size(), static_cast<std::size_t>(*times));
                for (std::int64_t i = 0; i < *times; ++i) out += *piece;
            } else if (const toml::table* each = step.as_table()) {
                count_up(*each, out);
            } else {
                fail(step, "a step of 'build' must be [TEXT, TIMES] or { each = … }", "see docs/sheets.md");
            }
        }
        return out;
    }
    void count_up(const toml::table& each, std::string& out) const {
        known_keys(each, {"each", "from", "times", "between"});
        const std::string piece = text(each, "each"), between = text_or(each, "between");
        const std::int64_t from = each["from"].value_or<std::int64_t>(0),
                           times = each["times"].value_or<std::int64_t>(1);
        if (times < 0) fail(each, "'times' must not be negative", "use 0 or more");
        room(each, out.size(), piece.size() + between.size() + 20, static_cast<std::size_t>(times));
        for (std::int64_t i = 0; i < times; ++i) {
            if (i > 0) out += between;
            for (const char c : piece) out += c == '%' ? std::to_string(from + i) : std::string(1, c);
        }
    }
    void room(const toml::node& where, std::size_t have, std::size_t piece, std::size_t times) const {
        if (piece != 0 && times > (largest_recipe - std::min(have, largest_recipe)) / piece)
            fail(where, "the recipe builds more than 256 MB", "build a smaller document");
    }

    void answers(const toml::table& table, Case& c) const {
        const Question* known = find_question(c.question);
        if (known == nullptr)
            fail(table, fmt::format("unknown question '{}'", text::printable(c.question)),
                 "declare it with [[question]] or use one of the format's");
        if (const auto own = questions_.find(c.question); own != questions_.end()) c.own_question = own->second;
        c.unlisted_is_altered = known->unlisted_is_altered;
        c.ill_formed_is_answer = known->find(common_question::ill_formed) != nullptr;
        const toml::table* given = table["answers"].as_table();
        if (given == nullptr) return;
        for (const auto& [key, value] : *given) {
            const std::string name(key.str());
            if (known->find(name) == nullptr)
                fail(value, fmt::format("'{}' is not an answer to {}", text::printable(name), c.question),
                     "list it among the question's answers");
            c.answers.push_back({c.question, name, answer(value, c)});
        }
        if (std::none_of(c.answers.begin(), c.answers.end(), [](const Answer& a) { return a.name == "refused"; }) &&
            known->find("refused") != nullptr)
            c.answers.push_back({c.question, "refused", std::nullopt});
    }
    [[nodiscard]] const Question* find_question(const std::string& id) const {
        if (const auto own = questions_.find(id); own != questions_.end()) return own->second.get();
        return nachklang::find_question(*format_, id);
    }
    std::optional<Trace> answer(const toml::node& node, const Case& c) const {
        if (const auto document = node.value<std::string>()) return read_answer(node, *document);
        const toml::table* table = node.as_table();
        if (table == nullptr)
            fail(node, "an answer must be a document or a table",
                 "write a document, { trace = … }, { bytes = … } or { as = \"read\" }");
        known_keys(*table, {"trace", "bytes", "as"});
        if (table->contains("trace")) return parsed(*table, text(*table, "trace"));
        if (table->contains("bytes")) return read_answer(node, bytes(*table, text(*table, "bytes")));
        if (text_or(*table, "as") != "read" || !c.document)
            fail(node, "an answer's 'as' can only be \"read\"", "write { as = \"read\" }");
        return read_answer(node, *c.document);
    }
    Trace read_answer(const toml::node& node, const std::string& document) const {
        const Reading reading = format_->read(document);
        if (!reading.accepted())
            fail(node,
                 "the reference reader rejects this answer's document: " +
                     (reading.rejection ? reading.rejection->message : reading.unreadable_because),
                 "write the trace instead");
        return reading.trace;
    }

    std::string file_, corpus_, aspect_, standard_;
    std::span<const Format* const> known_;
    const Format* format_ = nullptr;
    std::map<std::string, std::shared_ptr<const Question>> questions_;
    std::vector<Case> cases_;
};

}  // namespace

Checked<std::vector<Case>> load_sheet(const std::string& file, const std::string& corpus_name,
                                      std::span<const Format* const> known) {
    try {
        return SheetLoader(file, corpus_name, known).load();
    } catch (const SheetProblem& caught) {
        return caught.problem;
    }
}

/// Of what is no document.
static std::string words_for(fs::file_type type) {
    switch (type) {
        case fs::file_type::directory:
            return "a link to a folder";
        case fs::file_type::fifo:
            return "a named pipe";
        case fs::file_type::socket:
            return "a socket";
        case fs::file_type::block:
        case fs::file_type::character:
            return "a device";
        default:
            return "a link that leads to no file";
    }
}

Checked<Corpus> load_corpus(const std::string& folder, const std::vector<FileRule>& rules,
                            std::span<const Format* const> known) {
    std::error_code error;
    if (!fs::is_directory(folder, error))
        return Problem{folder, "is not a folder", "name a folder of sheets and documents"};
    std::vector<fs::path> files;
    Corpus out;
    for (auto it = fs::recursive_directory_iterator(folder, error);
         !error && it != fs::recursive_directory_iterator(); it.increment(error)) {
        std::error_code unknown;  // a link that leads to itself
        const fs::file_type type = it->status(unknown).type();
        if (type == fs::file_type::regular)
            files.push_back(it->path());
        else if (type != fs::file_type::directory || it->is_symlink(unknown))
            out.skipped.emplace_back(it->path().string(), words_for(type));
    }
    if (error) return Problem{folder, error.message(), "make the folder readable"};
    std::sort(files.begin(), files.end());
    std::sort(out.skipped.begin(), out.skipped.end());
    const fs::path root = fs::path(folder).lexically_normal();
    out.name = root.filename().empty() ? root.parent_path().filename().string() : root.filename().string();
    for (const fs::path& file : files) {
        if (file.extension() != ".toml") continue;
        auto cases = load_sheet(file.string(), out.name, known);
        if (!cases.ok()) return cases.problem();
        std::move(cases.value().begin(), cases.value().end(), std::back_inserter(out.cases));
    }
    // External files of documents are not documents themselves.
    std::set<fs::path> external_folders;
    for (const Case& c : out.cases)
        if (!c.external_file.empty()) external_folders.insert(fs::path(c.external_file).parent_path());
    for (const fs::path& file : files) {
        if (external_folders.contains(fs::absolute(file).lexically_normal().parent_path())) continue;
        if (file.extension() == ".toml" || file.filename().string().starts_with(".")) continue;
        const std::string name = file.lexically_normal().lexically_relative(root).generic_string();
        auto bytes = read_file(file.string());
        if (!bytes.ok()) return bytes.problem();
        const Format& format = guess_format(name, bytes.value(), known);  // before the bytes are moved
        Case c = case_of_document(out.name, name, format, std::move(bytes.value()));
        c.source = file.string();
        const auto rule = std::find_if(rules.begin(), rules.end(),
                                       [&](const FileRule& r) { return matches_glob(r.match, name); });
        if (rule != rules.end() && rule->stance != Stance::open) c.stance = rule->stance;
        out.cases.push_back(std::move(c));
    }
    std::set<std::string> names;
    for (const Case& c : out.cases)
        if (!names.insert(c.name).second)
            return Problem{c.source, "two cases are called " + c.name, "change the aspect or the id of one"};
    return out;
}

}  // namespace nachklang

// Documents of other collections as new cases; see new_cases.hpp.
#include <fmt/format.h>

#include <algorithm>
#include <filesystem>
#include <nlohmann/json.hpp>
#include <set>
#include <sstream>

#include <nachklang/corpus.hpp>
#include <nachklang/new_cases.hpp>
#include <nachklang/text.hpp>

namespace nachklang {
namespace {

namespace fs = std::filesystem;

using Json = nlohmann::ordered_json;
constexpr std::size_t longest_document = std::size_t{1} << 20;

/// Fields of one case by the names of an index.
using Fields = std::map<std::string, std::string>;

/// Gathers cases, and gives each an id of its own: printable ASCII without blanks and without what globs use.
class Gathered {
  public:
    void add(NewCase c, const std::string& where) {
        if (c.document.size() > longest_document)
            return skip(where, "the document is longer than 1 MiB: keep it as a file of the corpus");
        c.id = own_id(c.id);
        out_.cases.push_back(std::move(c));
    }
    void skip(const std::string& where, std::string why) { out_.skipped.emplace_back(where, std::move(why)); }
    Imported result() { return std::move(out_); }

  private:
    std::string own_id(std::string id) {
        for (char& c : id)
            if (c <= ' ' || c >= 0x7f || c == '*' || c == '?') c = '-';
        if (id.empty()) id = "case";
        std::string out = id;
        for (std::size_t i = 2; !ids_.insert(out).second; ++i) out = fmt::format("{}-{}", id, i);
        return out;
    }
    Imported out_;
    std::set<std::string> ids_;
};

std::string field(const Fields& fields, const std::string& name) {
    const auto found = fields.find(name);
    return found == fields.end() ? "" : found->second;
}

/// One line of an index as a case.
void add_entry(Gathered& out, const Fields& fields, const IndexNames& names, const fs::path& folder,
               const std::string& where) {
    if (fields.contains("encode")) return out.skip(where, "a value to encode, and no document");
    if (fields.contains("record")) return out.skip(where, "decoded into a record, whose value is not imported");
    NewCase c;
    c.id = field(fields, names.id);
    c.format = field(fields, names.format);
    if (fields.contains(names.document)) {
        c.document = field(fields, names.document);
    } else if (fields.contains(names.document_hex)) {
        const auto bytes = text::from_hex(field(fields, names.document_hex));
        if (!bytes) return out.skip(where, fmt::format("'{}' holds no hexadecimal digits", names.document_hex));
        c.document = *bytes;
    } else if (fields.contains(names.file)) {
        const std::string file = field(fields, names.file);
        auto bytes = read_file((folder / file).string());
        if (!bytes.ok()) return out.skip(where, file + ": " + bytes.problem().what);
        c.document = std::move(bytes.value());
        if (c.id.empty()) c.id = file;
    } else {
        return out.skip(where, fmt::format("none of '{}', '{}' and '{}' is there", names.document,
                                           names.document_hex, names.file));
    }
    if (const std::string word = field(fields, names.stance); !word.empty()) {
        const auto stance = names.words.find(word);
        if (stance == names.words.end()) return out.skip(where, fmt::format("'{}' means no stance", word));
        c.stance = stance->second;
    }
    c.clause = field(fields, names.clause);
    c.why = field(fields, names.why);
    out.add(std::move(c), where);
}

/// The records of a table: RFC 4180, 2, with line ends of any kind.
class Table {
  public:
    explicit Table(std::string_view text) : text_(text) {}
    /// The fields of the next record; nothing at the end.
    std::optional<std::vector<std::string>> next() {
        if (at_ >= text_.size()) return std::nullopt;
        std::vector<std::string> out;
        do out.push_back(field());
        while (at_ < text_.size() && text_[at_] == ',' && ++at_);
        if (at_ < text_.size() && text_[at_] == '\r') ++at_;
        if (at_ < text_.size() && text_[at_] == '\n') ++at_;
        return out;
    }

  private:
    std::string field() {
        std::string out;
        if (at_ < text_.size() && text_[at_] == '"') {
            for (++at_; at_ < text_.size(); ++at_) {
                if (text_[at_] == '"' && (++at_ >= text_.size() || text_[at_] != '"')) break;
                out += text_[at_];
            }
        }
        const std::size_t end = std::min(text_.find_first_of(",\r\n", at_), text_.size());
        out += text_.substr(at_, end - at_);
        at_ = end;
        return out;
    }
    std::string_view text_;
    std::size_t at_ = 0;
};

}  // namespace

bool set_name(IndexNames& names, std::string_view word, std::string name) {
    const std::pair<std::string_view, std::string*> known[] = {
        {"id", &names.id},     {"document", &names.document}, {"document_hex", &names.document_hex},
        {"file", &names.file}, {"stance", &names.stance},     {"clause", &names.clause},
        {"why", &names.why},   {"format", &names.format}};
    for (const auto& [known_word, target] : known) {
        if (known_word != word) continue;
        *target = std::move(name);
        return true;
    }
    return false;
}

Checked<Imported> import_folder(const std::string& folder, std::span<const FileRule> rules) {
    std::error_code error;
    std::vector<fs::path> files;
    for (auto it = fs::recursive_directory_iterator(folder, error);
         !error && it != fs::recursive_directory_iterator(); it.increment(error))
        if (it->is_regular_file()) files.push_back(it->path());
    if (error) return Problem{folder, error.message(), "name a folder that can be read"};
    std::sort(files.begin(), files.end());
    Gathered out;
    for (const fs::path& file : files) {
        NewCase c;
        c.id = file.lexically_relative(folder).generic_string();
        auto bytes = read_file(file.string());
        if (!bytes.ok()) {
            out.skip(file.string(), bytes.problem().what);
            continue;
        }
        c.document = std::move(bytes.value());
        const auto rule = std::find_if(rules.begin(), rules.end(),
                                       [&](const FileRule& r) { return matches_glob(r.match, c.id); });
        if (rule != rules.end()) c.stance = rule->stance;
        out.add(std::move(c), file.string());
    }
    return out.result();
}

Checked<Imported> import_table(const std::string& file, const IndexNames& names) {
    const auto bytes = read_file(file);
    if (!bytes.ok()) return bytes.problem();
    Table table(bytes.value());
    const auto head = table.next();
    if (!head) return Problem{file, "is empty", "name the columns in its first line"};
    const std::set<std::string> columns(head->begin(), head->end());
    if (!columns.contains(names.document) && !columns.contains(names.document_hex) && !columns.contains(names.file))
        return Problem{file, fmt::format("has no column with documents among: {}", fmt::join(*head, ", ")),
                       "name it with --column file=NAME or --column document=NAME"};
    Gathered out;
    std::size_t number = 1;
    for (auto record = table.next(); record; record = table.next()) {
        ++number;
        const std::string where = fmt::format("{}: record {}", file, number);
        if (record->size() != head->size()) {
            if (record->size() > 1 || !record->front().empty())
                out.skip(where, fmt::format("{} fields in place of {}", record->size(), head->size()));
            continue;
        }
        Fields fields;
        for (std::size_t i = 0; i < head->size(); ++i) fields.emplace((*head)[i], std::move((*record)[i]));
        add_entry(out, fields, names, fs::path(file).parent_path(), where);
    }
    return out.result();
}

Checked<Imported> import_lines(const std::string& file, const IndexNames& names) {
    const auto bytes = read_file(file);
    if (!bytes.ok()) return bytes.problem();
    std::istringstream in(bytes.value());
    Gathered out;
    std::size_t number = 0;
    for (std::string line; std::getline(in, line);) {
        const std::string where = fmt::format("{}:{}", file, ++number);
        if (line.find_first_not_of(" \t\r") == std::string::npos) continue;
        const auto object = Json::parse(line, nullptr, false);
        if (!object.is_object()) {
            out.skip(where, "no object of JSON");
            continue;
        }
        Fields fields;
        for (const auto& [key, value] : object.items())
            if (value.is_string()) fields.emplace(key, value.get<std::string>());
        add_entry(out, fields, names, fs::path(file).parent_path(), where);
    }
    return out.result();
}

}  // namespace nachklang

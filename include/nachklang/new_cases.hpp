// New cases for a corpus: documents with what is expected of them, as the text of a sheet (docs/sheets.md), and
// where they come from: folders, tables and lines of JSON.
#pragma once

#include <map>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include <nachklang/config.hpp>
#include <nachklang/problem.hpp>

namespace nachklang {

struct NewCase {
    std::string id;        ///< without the sheet's aspect
    std::string document;  ///< any bytes
    std::optional<Stance> stance{};
    std::string clause{}, why{}, question{};
    std::string format{};  ///< where its source names one
};

/// The [sheet] table of a new sheet.
std::string sheet_head(const Format& format, const std::string& aspect, const std::string& standard);
/// A [[case]] table, to be added at the end of a sheet. The document is given as text if it is printable UTF-8,
/// else as hexadecimal digits.
std::string sheet_entry(const NewCase& c);

/// How an index names what is read from it, and which of its words mean a stance. `document`, `document_hex` and
/// `file` are tried in this order; a file is relative to the index.
struct IndexNames {
    std::string id = "case", document = "document", document_hex = "document_hex", file = "file", stance = "stance",
                clause = "clause", why = "why", format = "format";
    std::map<std::string, Stance> words{
        {"accept", Stance::accept}, {"reject", Stance::reject}, {"open", Stance::open}};
};
/// Sets a name by a word: "id", "document", "document_hex", "file", "stance", "clause", "why" or "format". False if
/// there is no such word.
bool set_name(IndexNames& names, std::string_view word, std::string name);

struct Imported {
    std::vector<NewCase> cases;                                  ///< no two with one id
    std::vector<std::pair<std::string, std::string>> skipped{};  ///< where, and why
};
/// Every file below a folder; the first rule that matches its path gives the stance.
Checked<Imported> import_folder(const std::string& folder, std::span<const FileRule> rules);
/// A table of comma-separated values (RFC 4180) whose first line names its columns.
Checked<Imported> import_table(const std::string& file, const IndexNames& names);
/// JSON Lines: an object a line, such as `corpus export` prints.
Checked<Imported> import_lines(const std::string& file, const IndexNames& names);

}  // namespace nachklang

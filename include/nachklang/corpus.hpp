// Cases, sheets and corpora: documents and values, with what the standard says of each.
//
// A corpus is a folder of sheets (TOML, see docs/sheets.md) and document files. Loading checks the form;
// check_case compares a case with the reference reader.
#pragma once

#include <iosfwd>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include <nachklang/config.hpp>
#include <nachklang/operation.hpp>
#include <nachklang/problem.hpp>

namespace nachklang {

/// One document, or one value to encode, with what the standard says of it.
struct Case {
    std::string corpus;  ///< name of the corpus
    std::string name;    ///< "numbers/tenth": aspect and id
    std::string aspect;
    const Format* format = nullptr;
    std::shared_ptr<const std::string> document;     ///< of a case for decoders; null for encoders
    std::optional<Trace> value;                      ///< of a case for encoders
    std::optional<Stance> stance;                    ///< nothing: the reference reader decides
    std::optional<Trace> expected;                   ///< a trace written out by hand
    std::string question;                            ///< that the case is about
    std::shared_ptr<const Question> own_question{};  ///< the question, if its sheet declares it
    std::vector<Answer> answers;                     ///< its answers, each with the value that a decoder then holds
    bool unlisted_is_altered = true;
    bool ill_formed_is_answer = false;  ///< no document holds the value, so writing none is an answer
    std::string clause, why;
    std::string record{};       ///< the record type that its document is decoded into; empty: none
    bool sequence = false;      ///< its document is several documents, one after another
    bool stays_open = false;    ///< of a sequence: the stream that it comes from does not end with it
    std::string external_file;  ///< the file that the document names outside itself, where its sheet says so
    ExternalAccess reads = ExternalAccess::either;
    std::string source;  ///< file and line, for messages
};

/// The bytes of its document, or the trace of its value.
std::string_view content_of(const Case& c);
/// The question of that name that the case's sheet declares or its format has; null: neither.
const Question* question_of(const Case& c, std::string_view id);
/// Whether an operation is asked of a case: of a value to encode, of a case that names a record type and of a
/// sequence, only those that are made for it.
bool is_asked(const Case& c, Operation operation);

struct Corpus {
    std::string name;
    std::vector<Case> cases;  ///< in the order of file names and of the sheets
    /// What lies in the folder and is no file: a pipe, a device, a link that leads nowhere or to a folder. Each
    /// with what it is.
    std::vector<std::pair<std::string, std::string>> skipped{};
};

/// Loads every sheet (*.toml) and every document file below a folder. Document files are cases of their own.
/// `known` are the formats that a sheet may name.
Checked<Corpus> load_corpus(const std::string& folder, const std::vector<FileRule>& rules = {},
                            std::span<const Format* const> known = formats());
/// Loads one sheet. `root` is the folder that `file =` may not leave.
Checked<std::vector<Case>> load_sheet(const std::string& file, const std::string& corpus_name,
                                      std::span<const Format* const> known = formats());
/// A case made of a document alone.
Case case_of_document(std::string corpus, std::string name, const Format& format, std::string document);

/// The external files of a case that is about external access: those in the folder of the file that it names.
ExternalContext external_context_of(const Case& c);
/// What a case expects of an implementation with these settings. The sheet overrides the reference reader.
Expectation expectation_of(const Case& c, const Settings& settings = {});
/// Contradictions between a sheet and the reference reader or its own questions; empty if there are none.
std::vector<Problem> check_case(const Case& c);

/// The command that shows a case again: `nachklang try --case NAME`, or of a document file `nachklang try FILE`.
std::string repeat_command(const Case& c);
/// Name, document or value as printable text, and the command that shows it again: what a test framework prints of
/// a case.
std::ostream& operator<<(std::ostream& out, const Case& c);

/// Whether a name matches a glob (see FileRule::match).
bool matches_glob(std::string_view glob, std::string_view name);
/// Reads a whole file; one of more than 1 GiB is a problem.
Checked<std::string> read_file(const std::string& path);
/// More is not read of a file or a document at once, in bytes: a device such as /dev/zero has no end.
inline constexpr std::size_t largest_file = std::size_t{1} << 30;
/// Reads files below one folder, named by paths or URLs (RFC 8089) that are absolute, or relative to the folder
/// `start` or to the entity that names them; nothing else, whatever scheme or path is asked for.
Fetch files_below(const std::string& folder, const std::string& start);
/// The URL of a file by its absolute path (RFC 8089).
std::string file_url(std::string_view path);

}  // namespace nachklang

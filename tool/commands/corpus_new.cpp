// `corpus add` and `corpus import`: new cases in sheets.
#include <fmt/format.h>

#include <algorithm>
#include <filesystem>
#include <map>

#include <nachklang/new_cases.hpp>

#include "commands/commands.hpp"

namespace tool {

using namespace nachklang;

namespace {

namespace fs = std::filesystem;

/// "WORD=STANCE" or "GLOB=STANCE", cut at the last equals sign.
Checked<std::pair<std::string, Stance>> stance_of(const std::string& option, const std::string& text) {
    const auto equals = text.rfind('=');
    const auto stance = equals == std::string::npos ? std::nullopt : find_stance(text.substr(equals + 1));
    if (!stance || equals == 0)
        return Problem{option, fmt::format("'{}' is not of the form NAME=STANCE", text::printable(text)),
                       "use accept, reject or open after the equals sign"};
    return std::pair(text.substr(0, equals), *stance);
}

/// The standard that a sheet of a format rests on where none is named.
std::string standard_of(const Format& format, const std::string& given) {
    if (!given.empty()) return given;
    const auto& questions = format.constants().questions;
    const std::string clause = questions.empty() ? "" : std::string(questions.front().clause);
    return clause.substr(0, clause.find(','));
}

/// Gives a case the stance and the clause of the reference reader where it has none. Whether its own stance
/// contradicts the reader: a line on standard error says so then.
bool complete(NewCase& c, const Format& format, const std::string& standard) {
    const Expectation reference = expectation_of(case_of_document("", c.id, format, c.document));
    const bool judged = reference.unreadable_because.empty();
    const bool contradicts = judged && c.stance && *c.stance != reference.stance && *c.stance != Stance::open &&
                             reference.stance != Stance::open;
    if (contradicts)
        fmt::print(stderr, "warning: {}: the stance is {}, of the reference reader {}{}\n", text::printable(c.id),
                   name_of(*c.stance), name_of(reference.stance),
                   reference.clause.empty() ? "" : " [" + reference.clause + "]");
    if (!c.stance && judged) c.stance = reference.stance;
    if (c.clause.empty()) c.clause = reference.clause.empty() ? standard : reference.clause;
    return contradicts;
}

/// Writes a sheet beside its place and moves it there once it can be read; its cases.
Checked<std::vector<Case>> replace_sheet(const std::string& sheet, const std::string& text) {
    const std::string beside = sheet + ".new";
    if (auto problem = write_file(beside, text)) return *problem;
    auto cases = load_sheet(beside, "new");
    std::error_code error;
    if (!cases.ok()) {
        fs::remove(beside, error);
        Problem problem = cases.problem();
        if (problem.where.starts_with(beside)) problem.where.replace(0, beside.size(), sheet);
        return problem;
    }
    fs::rename(beside, sheet, error);
    if (error) return Problem{sheet, error.message(), "name a file in a folder that can be written"};
    return cases;
}

Checked<Imported> imported(const ImportOptions& options) {
    if (!options.rules.empty() && !fs::is_directory(options.source))
        return Problem{"--rule", "rules are for folders", "use --stance-word for an index"};
    if (fs::is_directory(options.source)) {
        if (!options.columns.empty() || !options.words.empty())
            return Problem{options.source, "a folder has no columns and no words for stances", "use --rule"};
        std::vector<FileRule> rules;
        for (const std::string& text : options.rules) {
            auto rule = stance_of("--rule", text);
            if (!rule.ok()) return rule.problem();
            rules.push_back({rule.value().first, rule.value().second});
        }
        return import_folder(options.source, rules);
    }
    IndexNames names;
    for (const std::string& column : options.columns) {
        const auto equals = column.find('=');
        if (equals == std::string::npos || !set_name(names, column.substr(0, equals), column.substr(equals + 1)))
            return Problem{"--column", fmt::format("'{}' is not of the form FIELD=NAME", text::printable(column)),
                           "use the fields id, document, document_hex, file, stance, clause, why and format"};
    }
    for (const std::string& text : options.words) {
        auto word = stance_of("--stance-word", text);
        if (!word.ok()) return word.problem();
        names.words[word.value().first] = word.value().second;
    }
    return options.source.ends_with(".csv") ? import_table(options.source, names)
                                            : import_lines(options.source, names);
}

/// The one format of all documents.
Checked<const Format*> format_of_all(const Common& common, const std::vector<NewCase>& cases) {
    if (!common.format.empty()) return find_format(common.format);
    const Format* out = nullptr;
    for (const NewCase& c : cases) {
        const Format* named = find_format(c.format);
        const Format& format = named != nullptr ? *named : format_of(common, c.id, c.document);
        if (out != nullptr && out != &format)
            return Problem{c.id, fmt::format("is {}, and cases before it are {}", format.name(), out->name()),
                           "name one with --format, or import them one after the other"};
        out = &format;
    }
    return out;
}

}  // namespace

int add_case(const Common& common, const AddOptions& options) {
    auto bytes = document_of(options.file);
    if (!bytes.ok()) return report(bytes.problem());
    NewCase c{.id = options.id, .document = std::move(bytes.value())};
    if (!options.stance.empty()) c.stance = find_stance(options.stance);
    c.clause = options.clause;
    c.why = options.why;
    c.question = options.question;
    std::string text;
    std::error_code error;
    if (fs::exists(options.sheet, error)) {
        const auto known = load_sheet(options.sheet, "known");
        if (!known.ok()) return report(known.problem());
        for (const Case& other : known.value())
            if (other.document && *other.document == c.document && other.external_file.empty())
                return report({options.sheet, fmt::format("holds this document as {}", other.name),
                               "add another document, or change that case"});
        auto sheet = read_file(options.sheet);
        if (!sheet.ok()) return report(sheet.problem());
        text = std::move(sheet.value());
        if (!text.ends_with('\n')) text += '\n';
        const Format& format =
            known.value().empty() ? format_of(common, options.file, c.document) : *known.value().front().format;
        complete(c, format, standard_of(format, options.standard));
    } else {
        const Format& format = format_of(common, options.file, c.document);
        complete(c, format, standard_of(format, options.standard));
        const std::string aspect =
            options.aspect.empty() ? fs::path(options.sheet).stem().string() : options.aspect;
        text = sheet_head(format, aspect, standard_of(format, options.standard));
    }
    const auto cases = replace_sheet(options.sheet, text + sheet_entry(c));
    if (!cases.ok()) return report(cases.problem());
    fmt::print("added {} to {}: {} cases\n", text::printable(cases.value().back().name),
               text::printable(options.sheet), cases.value().size());
    return exit_success;
}

int import_cases(const Common& common, const ImportOptions& options) {
    std::error_code error;
    if (fs::exists(options.sheet, error))
        return report({options.sheet, "is there already", "name a new sheet; `corpus add` adds to one"});
    auto found = imported(options);
    if (!found.ok()) return report(found.problem());
    std::vector<NewCase>& cases = found.value().cases;
    for (const auto& [where, why] : found.value().skipped)
        fmt::print(stderr, "skipped: {}: {}\n", text::printable(where), text::printable(why));
    if (cases.empty()) return report({options.source, "holds no case", "name a folder, a .csv file or JSON Lines"});
    const auto format = format_of_all(common, cases);
    if (!format.ok()) return report(format.problem());
    const std::string standard = standard_of(*format.value(), options.standard);
    std::string text =
        sheet_head(*format.value(),
                   options.aspect.empty() ? fs::path(options.sheet).stem().string() : options.aspect, standard);
    std::size_t contradictions = 0;
    std::map<std::optional<Stance>, std::size_t> given;
    for (NewCase& c : cases) {
        ++given[c.stance];
        if (c.why.empty()) c.why = options.why.empty() ? "imported from " + options.source : options.why;
        contradictions += complete(c, *format.value(), standard) ? 1 : 0;
        text += sheet_entry(c);
    }
    const auto written = replace_sheet(options.sheet, text);
    if (!written.ok()) return report(written.problem());
    fmt::print(
        "wrote {}: {} cases ({} accept, {} reject, {} open, {} by the reference reader); {} skipped; {} contradict "
        "the reference reader\n",
        text::printable(options.sheet), cases.size(), given[Stance::accept], given[Stance::reject],
        given[Stance::open], given[std::nullopt], found.value().skipped.size(), contradictions);
    return contradictions == 0 ? exit_success : exit_failing;
}

}  // namespace tool

// One function a command; each returns the exit status.
#pragma once

#include "ui/search.hpp"
#include "ui/workspace.hpp"

namespace tool {

struct ReadOptions {
    std::string file, as = "tree";
    bool quiet = false;
    std::string profile{};
    std::string allow_folder{};    ///< the folder from which external files may be read; empty: none
    nachklang::Choices choices{};  ///< of the options that formats list (Format::constants, CanonicalForm)
};
int read(const Common& common, const ReadOptions& options);

struct TryOptions {
    std::vector<std::string> files;
    std::vector<std::string> corpora;
};
int try_documents(const Common& common, const TryOptions& options);

struct RunOptions {
    std::vector<std::string> corpora;
    std::string results, disagreements;
    unsigned workers = 0;
    bool list = false;
    std::optional<std::string> fail_on;
    std::string profile;
    std::string by = "implementation";
    Wanted wanted;
    bool json = false, times = false;
    std::string baseline;
    bool update_baseline = false;
    bool shrink = false;    ///< the witnesses of behaviours
    std::string store;      ///< a file that keeps the run
    bool recorded = false;  ///< recorded implementations take part as peers
    std::string record;     ///< a file for the answers, so that they can be asked for without the implementations
    bool resume = false;    ///< the last run there that is not complete
    std::string again;      ///< failing, changed, or a cause: only such cases of the last complete run there
    std::string part;       ///< "K/N": only this part, into the file of --results
    std::string command;    ///< the words of the call, for the store
};
int run(const Common& common, const RunOptions& options);

struct ResultsOptions {
    std::string store = "nachklang.db", sql;
    std::int64_t run = 0;
};
struct MergeOptions {
    std::vector<std::string> files, corpora;
    std::string output;
};
int merge_results(const Common& common, const MergeOptions& options);
int list_results(const Common& common, const ResultsOptions& options);
int drop_results(const ResultsOptions& options);
int vacuum_results(const ResultsOptions& options);
int query_results(const Common& common, const ResultsOptions& options);

struct ChangesOptions {
    std::string before, now;
};
int changes(const Common& common, const ChangesOptions& options);

struct ReportOptions {
    std::string results, page, junit, sarif, csv, markdown, lines;
    std::vector<std::string> corpora;
    std::string before{};              ///< an earlier run, whose changes the page shows
    std::vector<std::string> found{};  ///< files of `limits --json`, `numbers --json`, `growth --json`
    bool recorded = false;             ///< the page shows recorded implementations, too
};
int report_run(const Common& common, const ReportOptions& options);

struct CompareImplementations {
    std::string first, second;
    std::vector<std::string> corpora;
};
int compare(const Common& common, const CompareImplementations& options);

struct ShrinkOptions {
    std::string file, output;
    std::size_t budget = 20000;
    std::string layer{}, cause{}, operation{};
};
int shrink_document(const Common& common, const ShrinkOptions& options);

struct CardOptions {
    std::vector<std::string> names;
    bool limits = false;  ///< searched, too
};
int card(const Common& common, const CardOptions& options);

struct LimitsOptions {
    std::vector<std::string> names;
    std::vector<std::string> shapes{"*-depth"};
    std::size_t most = 1'000'000;
    unsigned workers = 0;
};
int limits(const Common& common, const LimitsOptions& options);

struct GrowthCommandOptions {
    std::vector<std::string> names, shapes;
    std::size_t most = 1'000'000;
    unsigned workers = 1;  ///< more would disturb the measurement
    bool all = false;      ///< also show what grows in proportion
};
int growth(const Common& common, const GrowthCommandOptions& options);

struct NumbersOptions {
    std::vector<std::string> names;
    std::uint64_t count = 100'000, seed = 1;
    std::vector<std::string> literals;
    unsigned workers = 0;
    bool by_family = false;
};
int numbers(const Common& common, const NumbersOptions& options);

struct PiecesCommandOptions {
    std::vector<std::string> names, corpora;
    std::size_t longest = 64;
    unsigned workers = 0;
};
int pieces(const Common& common, const PiecesCommandOptions& options);

struct RoundTripsOptions {
    std::vector<std::string> names, corpora;
    unsigned workers = 0;
};
int round_trips(const Common& common, const RoundTripsOptions& options);

struct CrossingOptions {
    std::vector<std::string> names, readers, corpora;
    unsigned workers = 0;
};
int crossing(const Common& common, const CrossingOptions& options);

/// `words` are names, globs and formats.
int list_implementations(const Common& common, const std::vector<std::string>& words);
int check_implementations(const Common& common, const std::vector<std::string>& names);

struct AddOptions {
    std::string sheet, file, id, stance, clause, why, question, aspect, standard;
};
int add_case(const Common& common, const AddOptions& options);

struct ImportOptions {
    std::string source, sheet, aspect, standard, why;
    std::vector<std::string> rules, columns, words;
};
int import_cases(const Common& common, const ImportOptions& options);

struct ExportOptions {
    std::vector<std::string> corpora;
    std::string folder;  ///< not empty: documents as files, beside an index
};
int list_corpus(const Common& common, const std::vector<std::string>& corpora);
int export_corpus(const Common& common, const ExportOptions& options);
int cover_corpus(const Common& common, const std::vector<std::string>& corpora);
int check_corpus(const Common& common, const std::vector<std::string>& corpora);

int demo(const Common& common);

/// Shows cases side by side through all subjects; returns whether any finding is failing.
bool show_side_by_side(const std::vector<nachklang::Case>& cases, const std::vector<nachklang::Subject>& subjects,
                       Colour colour);

}  // namespace tool

// The command line. commands.hpp lists what each command takes; each command has a file in commands/.
#include <fmt/format.h>
#include <CLI/CLI.hpp>

#include <malloc.h>

#include <algorithm>
#include <cerrno>
#include <csignal>
#include <cstdio>
#include <cstring>
#include <ctime>
#include <exception>
#include <functional>
#include <limits>
#include <new>

#include "commands/commands.hpp"
#include "ui/help_formatter.hpp"
#include "ui/self_description.hpp"

namespace tool {

std::atomic<bool>& interrupted() {
    static std::atomic<bool> flag = false;
    return flag;
}

}  // namespace tool

namespace {

std::atomic<int>& interrupting_signal() {
    static std::atomic<int> number = 0;
    return number;
}

/// Milliseconds of a clock that only goes on.
std::int64_t monotonic_ms() {
    timespec now{};
    ::clock_gettime(CLOCK_MONOTONIC, &now);
    return std::int64_t{1000} * now.tv_sec + now.tv_nsec / 1'000'000;
}

/// The first signal ends what is under way and keeps the results; the second one ends the tool at once. Programs
/// that end a process and then its group send the same signal twice: that counts as one.
void on_interrupt(int number) {
    constexpr std::int64_t once_ms = 300;
    static std::atomic<std::int64_t> first = 0;
    std::int64_t before = 0;
    if (first.compare_exchange_strong(before, monotonic_ms())) {
        interrupting_signal() = number;
        tool::interrupted() = true;
    } else if (monotonic_ms() - before > once_ms) {
        std::signal(number, SIG_DFL);
        std::raise(number);
    }
}

/// A call that waits is ended by the signal: a read of a FIFO must not hold the tool.
void handle_signals() {
    struct sigaction action {};
    action.sa_handler = on_interrupt;
    for (const int number : {SIGINT, SIGTERM, SIGHUP, SIGQUIT}) ::sigaction(number, &action, nullptr);
    std::signal(SIGXFSZ, SIG_IGN);  // a file that is too large is an error of the write, which is reported
}

/// As a shell reports a program that a signal ended.
int interrupted_status() {
    fmt::print(stderr, "interrupted: the output covers only what was done so far\n");
    return 128 + interrupting_signal();
}

/// Which filters a command has. A filter that it does not have is a usage error.
enum class Selection { nothing, format, implementations, cases, both };

/// A list that takes one argument an occurrence: `--literal 0.1 NAME` leaves NAME to the command.
void add_list(CLI::App& command, const char* name, std::vector<std::string>& list, const char* about) {
    command.add_option(name, list, about)
        ->type_size(1)
        ->allow_extra_args(false)
        ->option_text("NAME (may be repeated)");
}

void add_json(CLI::App& command, tool::Common& common) {
    command.add_flag("--json", common.json, "print JSON Lines (docs/records.md), and nothing else");
}

void add_colour(CLI::App& command, tool::Common& common) {
    using tool::Colour;
    const std::string about =
        "print colours: =always (alone the same), =never (--no-colour), or =auto: on a terminal, unless NO_COLOR "
        "is set";
    // A flag: `--colour NAME` colours, and leaves NAME to the command.
    command.add_flag("--colour{always},--color{always},--no-colour{never},--no-color{never}", about)
        ->check(CLI::IsMember({"always", "never", "auto"}))
        ->option_text("[=WHEN]")
        ->each([&common](const std::string& when) {
            common.colour = when == "always" ? Colour::always : when == "never" ? Colour::never : Colour::automatic;
        });
}

void add_common(CLI::App& command, tool::Common& common, Selection selection) {
    const bool configured = selection != Selection::nothing && selection != Selection::format;
    if (configured)
        command.add_option("--config", common.config,
                           "the configuration file (default: nachklang.toml in the working folder, if it exists)");
    if (selection == Selection::implementations || selection == Selection::both)
        add_list(command, "--implementation", common.implementations,
                 "use only these implementations: names or globs, such as rapidjson or 'rapidjson/*'");
    if (selection == Selection::cases || selection == Selection::both) {
        add_list(command, "--aspect", common.aspects, "use only cases of these aspects: names or globs");
        add_list(command, "--case", common.cases, "use only these cases: names or globs");
    }
    if (selection != Selection::nothing)
        command.add_option("--format", common.format,
                           "json or xml: use only this format; read documents as this format");
    if (configured)
        command.add_flag("--wide", common.wide,
                         "do not fold lines at the width of the window (COLUMNS sets the width)");
    add_colour(command, common);
}

/// The options that formats list for reading and for their canonical forms, each once.
void add_format_options(CLI::App& command, nachklang::Choices& choices) {
    const auto add = [&](const nachklang::Option& option) {
        const std::string name(option.name), about(option.about);
        if (command.get_option_no_throw("--" + name) != nullptr) return;
        if (option.kind == nachklang::Option::Kind::flag) {
            command.add_flag_function(
                "--" + name, [&choices, name](std::int64_t) { choices.emplace(name, ""); }, about);
            return;
        }
        CLI::Option* added = command.add_option_function<std::vector<std::string>>(
            "--" + name,
            [&choices, name](const std::vector<std::string>& values) {
                for (const std::string& value : values) choices.emplace(name, value);
            },
            about);
        added->type_size(1)->allow_extra_args(false);
        if (option.kind == nachklang::Option::Kind::value) added->expected(1);
    };
    for (const nachklang::Format* format : nachklang::formats()) {
        for (const nachklang::Option& option : format->constants().reading_options) add(option);
        if (const nachklang::CanonicalForm* form = format->canonical_form())
            for (const nachklang::Option& option : form->canonical_options()) add(option);
    }
}

std::vector<std::string> names_of_operations() {
    std::vector<std::string> out;
    for (const nachklang::OperationInfo& operation : nachklang::operations())
        if (operation.input == nachklang::Content::document) out.emplace_back(operation.name);
    return out;
}

/// Insertions, removals, changes and swaps of neighbours that make one word of the other.
std::size_t distance(std::string_view a, std::string_view b) {
    std::vector<std::vector<std::size_t>> d(a.size() + 1, std::vector<std::size_t>(b.size() + 1));
    for (std::size_t i = 0; i <= a.size(); ++i)
        for (std::size_t k = 0; k <= b.size(); ++k) {
            if (i == 0 || k == 0) {
                d[i][k] = i + k;
                continue;
            }
            d[i][k] =
                std::min({d[i - 1][k] + 1, d[i][k - 1] + 1, d[i - 1][k - 1] + (a[i - 1] == b[k - 1] ? 0U : 1U)});
            if (i > 1 && k > 1 && a[i - 1] == b[k - 2] && a[i - 2] == b[k - 1])
                d[i][k] = std::min(d[i][k], d[i - 2][k - 2] + 1);
        }
    return d[a.size()][b.size()];
}

/// The problem with a first word that is no command, and the command that may have been meant.
std::optional<nachklang::Problem> unknown_command(const CLI::App& app, std::string_view word) {
    if (word.empty() || word.front() == '-') return std::nullopt;
    std::string nearest;
    for (const CLI::App* command : app.get_subcommands({})) {
        if (command->get_name() == word) return std::nullopt;
        if (nearest.empty() || distance(word, command->get_name()) < distance(word, nearest))
            nearest = command->get_name();
    }
    const bool close = distance(word, nearest) <= std::max<std::size_t>(1, word.size() / 2);
    return nachklang::Problem{
        "command line", fmt::format("'{}' is no command", word),
        close ? fmt::format("did you mean `nachklang {}`?", nearest) : "`nachklang --help` lists the commands"};
}

/// On EPIPE, die of SIGPIPE as other tools do. Any other error that keeps output from arriving is reported.
int output_lost(int error) {
    if (error == EPIPE) {
        std::signal(SIGPIPE, SIG_DFL);
        std::raise(SIGPIPE);
    }
    std::fprintf(stderr, "nachklang: standard output: cannot be written: %s; the output is incomplete\n",
                 std::strerror(error));
    return tool::exit_usage;
}

/// The status of a command, once all that it printed has arrived.
int printed(int status) {
    errno = 0;
    const bool arrived = std::fflush(stdout) == 0 && std::ferror(stdout) == 0;
    return arrived ? status : output_lost(errno == 0 ? EIO : errno);
}

std::string words_of(int argc, char** argv) {
    std::string out = "nachklang";
    for (int i = 1; i < argc; ++i) out += " " + nachklang::text::shell_word(argv[i]);
    return out;
}

int parse_and_run(int argc, char** argv) {
    CLI::App app{
        "Nachklang tests JSON and XML encoders and decoders against conformance corpora and against each "
        "other"};
    app.formatter(std::make_shared<tool::HelpFormatter>());
    app.require_subcommand(1);
    app.set_version_flag("--version", "nachklang " NACHKLANG_VERSION);
    tool::Common common;
    std::function<int()> chosen;
    const auto command = [&](const char* name, const char* about, CLI::App& parent, Selection selection,
                             std::function<int()> action) {
        CLI::App* out = parent.add_subcommand(name, about);
        add_common(*out, common, selection);
        out->callback([&chosen, out, action = std::move(action)] {
            if (out->get_subcommands().empty()) chosen = action;  // else the subcommand is meant
        });
        return out;
    };

    tool::ReadOptions read;
    CLI::App* c = command("read", "read a document with the reference reader", app, Selection::format,
                          [&] { return tool::read(common, read); });
    c->add_option("FILE", read.file, "a file, or - for standard input")->required();
    c->add_option("--as", read.as, "tree, trace or canonical");
    c->add_option("--profile", read.profile,
                  "also report violations of a profile: i-json (RFC 7493) or jcs (RFC 8785)");
    c->add_option("--allow-folder", read.allow_folder, "read files that the document names, from this folder only");
    add_format_options(*c, read.choices);
    c->add_flag("--quiet", read.quiet, "print only the verdict, in memory that does not grow with the document");

    tool::TryOptions attempt;
    c = command("try", "compare all implementations on documents or cases", app, Selection::both,
                [&] { return tool::try_documents(common, attempt); });
    add_json(*c, common);
    c->add_option("FILE", attempt.files, "documents");
    add_list(*c, "--corpus", attempt.corpora, "corpora that --case searches: folders or names of shipped ones");

    tool::RunOptions run;
    c = command("run", "run corpora through all implementations", app, Selection::both,
                [&] { return tool::run(common, run); });
    c->add_option("CORPUS", run.corpora, "folders, or names of shipped corpora (default: all shipped ones)");
    c->add_option("--results", run.results,
                  "write every result to this file, one JSON line each; - is standard output, and nothing else is "
                  "printed there");
    c->add_option("--disagreements", run.disagreements,
                  "write every disagreement to this file, one JSON line each");
    c->add_option("--workers", run.workers, "number of processes in parallel (default: one per core)")
        ->check(CLI::Range(1, 64));
    c->add_option("--by", run.by,
                  "implementation: the behaviours of each; cause: findings by cause; question: answers to open "
                  "questions (default: implementation)")
        ->check(CLI::IsMember({"implementation", "cause", "question"}));
    c->add_option("--question", run.wanted.question, "show only the results that answer this open question");
    c->add_option("--answer", run.wanted.answer, "with --question: only those with this answer");
    c->add_option("--cause", run.wanted.cause, "show only the results with this cause");
    c->add_flag("--json", run.json, "print the behaviours as JSON Lines (docs/records.md), and nothing else");
    c->add_flag("--times", run.times, "end with the time that each implementation took, and the store");
    c->add_flag("--list", run.list, "list every finding with the command that repeats it");
    c->add_option("--fail-on", run.fail_on,
                  "finding kinds and bases that make the exit status 1, such as required,altered; also incident; "
                  "new (with --baseline); or nothing");
    c->add_option(
        "--baseline", run.baseline,
        "compare with this baseline; without --fail-on, only what is newly failing makes the exit status 1");
    c->add_flag("--update-baseline", run.update_baseline, "write the file of --baseline after the run");
    c->add_flag(
        "--shrink", run.shrink,
        "cut the witness of each behaviour down to the smallest document, and explain splits at the verdict by "
        "the smallest document that shows them (asks the implementations again)");
    c->add_option("--profile", run.profile,
                  "also report violations of a profile (i-json, jcs); they never fail the run");

    CLI::Option* store = c->add_option("--store", run.store, "keep the run in this file, such as nachklang.db");
    CLI::Option* resume =
        c->add_flag("--resume", run.resume, "go on with the last run of --store that was interrupted or killed")
            ->needs(store);
    c->add_option("--again", run.again,
                  "failing, or a cause: only cases that had such a result in the last complete run of --store; "
                  "changed: cases "
                  "that were answered otherwise there than in the complete run before")
        ->needs(store);
    c->add_flag(
         "--recorded", run.recorded,
         "compare with the recorded answers of implementations that are not installed: groups and peers name them")
        ->excludes(resume);
    c->add_option("--record", run.record,
                  "write what the implementations answer to this file (docs/recorded-answers.md)");
    c->add_option(
         "--part", run.part,
         "K/N: run only part K of N and write it to the file of --results; `results merge` makes one run of "
         "all parts")
        ->excludes(store);
    run.command = words_of(argc, argv);

    tool::ResultsOptions kept;
    CLI::App* results = app.add_subcommand("results", "list, query and drop the runs that `run --store` kept");
    results->require_subcommand(1);
    const auto of_store = [&](CLI::App* sub) {
        sub->add_option("--store", kept.store, "the file that keeps them (default: nachklang.db)");
        return sub;
    };
    of_store(command("list", "list the runs", *results, Selection::nothing,
                     [&] { return tool::list_results(common, kept); }));
    of_store(
        command("drop", "delete a run", *results, Selection::nothing, [&] { return tool::drop_results(kept); }))
        ->add_option("RUN", kept.run, "its number")
        ->required();
    of_store(command("vacuum", "give the room of dropped runs back", *results, Selection::nothing,
                     [&] { return tool::vacuum_results(kept); }));
    of_store(command("query", "run an SQL query that reads (docs/kept-runs.md lists the tables)", *results,
                     Selection::nothing, [&] { return tool::query_results(common, kept); }))
        ->add_option("SQL", kept.sql, "for example 'SELECT cause, count(*) FROM findings GROUP BY cause'")
        ->required();

    tool::MergeOptions merge;
    c = command("merge", "make one results file of the parts that `run --part` wrote", *results, Selection::cases,
                [&] { return tool::merge_results(common, merge); });
    c->add_option("PART", merge.files, "the files of all parts, in any order")->required();
    c->add_option("--results", merge.output, "the file to write; - is standard output")->required();
    add_list(*c, "--corpus", merge.corpora, "the corpora of the run (default: all shipped ones)");

    tool::ChangesOptions two_runs;
    c = command("changes", "show what is new, mended or answered otherwise between two kept runs", app,
                Selection::nothing, [&] { return tool::changes(common, two_runs); });
    c->add_option("BEFORE", two_runs.before,
                  "a file that `run --results` wrote, a baseline, or a kept run: nachklang.db#2")
        ->required();
    c->add_option("NOW", two_runs.now, "a later one")->required();

    tool::ReportOptions forms;
    c = command("report", "write a kept run as a page, and in the forms that other tools read", app,
                Selection::nothing, [&] { return tool::report_run(common, forms); });
    c->add_option("RESULTS", forms.results, "a file that `run --results` wrote, or a kept run: nachklang.db#2")
        ->required();
    c->add_option("--page", forms.page, "a page for a browser, in one file");
    add_list(*c, "--corpus", forms.corpora, "corpora with the documents for --page (default: as for run)");
    c->add_option("--before", forms.before, "for --page: an earlier run, to show what changed since");
    add_list(*c, "--found", forms.found,
             "for --page: a file that `limits --json`, `numbers --json` or `growth --json` wrote");
    c->add_flag("--recorded", forms.recorded,
                "for --page: add what recorded implementations answer to the same cases");
    c->add_option("--junit", forms.junit, "JUnit XML: a test case for each case and operation");
    c->add_option("--sarif", forms.sarif, "SARIF 2.1.0: a rule for each cause, a result for each behaviour");
    c->add_option("--csv", forms.csv, "CSV: a line for each behaviour");
    c->add_option("--markdown", forms.markdown, "Markdown: a table of behaviours for each implementation");
    c->add_option("--lines", forms.lines, "JSON Lines: the records of the run, as `run --results` writes them");

    tool::CompareImplementations pair;
    c = command("compare", "show what changes for users who switch from one implementation or mode to another", app,
                Selection::cases, [&] { return tool::compare(common, pair); });
    c->add_option("FROM", pair.first, "an implementation, or a mode such as rapidjson/default")->required();
    c->add_option("TO", pair.second, "another one")->required();
    add_list(*c, "--corpus", pair.corpora, "folders, or names of shipped corpora (default: all shipped ones)");

    tool::ShrinkOptions shrink;
    c = command("shrink",
                "find the smallest document that still shows a disagreement, or a finding about one implementation",
                app, Selection::implementations, [&] { return tool::shrink_document(common, shrink); });
    c->add_option("FILE", shrink.file, "a document for which `try` shows a finding or a difference")->required();
    c->add_option("--output", shrink.output, "the file to write (default: standard output)");
    c->add_option("--budget", shrink.budget, "try at most this many documents (default: 20000)")
        ->check(CLI::Range(1, 100'000'000));
    c->add_option("--cause", shrink.cause, "preserve this cause, such as number/off-by-ulp");
    c->add_option("--operation", shrink.operation, "preserve what this operation shows")
        ->check(CLI::IsMember(names_of_operations()));
    c->add_option("--layer", shrink.layer, "preserve a disagreement at this layer")
        ->check(CLI::IsMember({"verdict", "value", "exact", "representation", "order"}));

    tool::CardOptions card;
    c = command("card", "show an implementation's answers on one page; for several, the rows where they differ",
                app, Selection::both, [&] { return tool::card(common, card); });
    add_json(*c, common);
    c->add_option("NAME", card.names, "names or globs; rapidjson selects all of its modes");
    c->add_flag("--limits", card.limits, "also search the largest nesting (slow)");

    tool::LimitsOptions limits;
    c = command("limits",
                "find the largest nesting, width and length that each implementation accepts, and how it fails one "
                "step beyond",
                app, Selection::implementations, [&] { return tool::limits(common, limits); });
    add_json(*c, common);
    c->add_option("NAME", limits.names, "names or globs");
    add_list(*c, "--shape", limits.shapes,
             "names or globs of shapes, such as '*-width' or '*' (default: '*-depth')");
    c->add_option("--most", limits.most, "stop the search at this amount (default: 1000000)")
        ->check(CLI::Range(1, 100'000'000));
    c->add_option("--workers", limits.workers, "number of implementations in parallel (default: one per core)")
        ->check(CLI::Range(1, 64));

    tool::GrowthCommandOptions growth;
    c = command("growth", "measure how the time of decoding grows with documents that double in size", app,
                Selection::implementations, [&] { return tool::growth(common, growth); });
    add_json(*c, common);
    c->add_option("NAME", growth.names, "names or globs");
    add_list(*c, "--shape", growth.shapes, "names or globs of shapes, such as '*-width' (default: all)");
    c->add_option("--most", growth.most, "stop at this amount (default: 1000000)")
        ->check(CLI::Range(4000, 100'000'000));
    c->add_option("--workers", growth.workers,
                  "number of implementations in parallel (default: 1; more disturb it)")
        ->check(CLI::Range(1, 64));
    c->add_flag("--all", growth.all, "also show what grows in proportion, or is too quick to measure");

    tool::PiecesCommandOptions pieces;
    c = command("pieces", "cut documents at every place, for decoders that take them in pieces", app,
                Selection::both, [&] { return tool::pieces(common, pieces); });
    add_json(*c, common);
    c->add_option("NAME", pieces.names, "names or globs");
    add_list(*c, "--corpus", pieces.corpora, "folders, or names of shipped corpora (default: all shipped ones)");
    c->add_option("--longest", pieces.longest, "documents of at most this many bytes (default: 64)")
        ->check(CLI::Range(2, 4096));
    c->add_option("--workers", pieces.workers, "number of implementations in parallel (default: one per core)")
        ->check(CLI::Range(1, 64));

    tool::RoundTripsOptions passing;
    c = command("round-trips", "what documents and values lose on their way through implementations", app,
                Selection::both, [&] { return tool::round_trips(common, passing); });
    add_json(*c, common);
    c->add_option("NAME", passing.names, "names or globs");
    add_list(*c, "--corpus", passing.corpora, "folders, or names of shipped corpora (default: all shipped ones)");
    c->add_option("--workers", passing.workers, "number of implementations in parallel (default: one per core)")
        ->check(CLI::Range(1, 64));

    tool::CrossingOptions crossing;
    c = command("crossing", "whether other implementations read what these write", app, Selection::both,
                [&] { return tool::crossing(common, crossing); });
    add_json(*c, common);
    c->add_option("NAME", crossing.names, "the writers: names or globs")->required();
    add_list(*c, "--reader", crossing.readers,
             "the readers: names or globs (default: the first mode of all installed ones)");
    add_list(*c, "--corpus", crossing.corpora, "folders, or names of shipped corpora (default: all shipped ones)");
    c->add_option("--workers", crossing.workers, "number of implementations in parallel (default: one per core)")
        ->check(CLI::Range(1, 64));

    tool::NumbersOptions numbers;
    c = command("numbers", "test number literals near rounding boundaries", app, Selection::implementations,
                [&] { return tool::numbers(common, numbers); });
    add_json(*c, common);
    c->add_option("NAME", numbers.names, "names or globs");
    c->add_option("--count", numbers.count, "number of literals (default: 100000)")
        ->check(CLI::Range(1, 1'000'000'000));
    c->add_option("--seed", numbers.seed, "seed of the series (default: 1)")
        ->check(CLI::Range(std::int64_t{0}, std::numeric_limits<std::int64_t>::max()));
    add_list(*c, "--literal", numbers.literals, "use this literal instead of generated ones");
    c->add_option("--workers", numbers.workers, "number of implementations in parallel (default: one per core)")
        ->check(CLI::Range(1, 64));
    c->add_flag("--families", numbers.by_family, "also show which families of literals were stored wrong");

    std::vector<std::string> names, listed;
    CLI::App* implementations =
        command("implementations", "list the installed implementations, and what installs the others", app,
                Selection::implementations, [&] { return tool::list_implementations(common, listed); });
    add_json(*implementations, common);
    implementations->add_option("NAME", listed, "names, globs or a format");
    c = command("check", "check that adapters obey the protocol", *implementations, Selection::implementations,
                [&] { return tool::check_implementations(common, names); });
    c->add_option("NAME", names, "names or globs");

    std::vector<std::string> corpora;
    CLI::App* corpus = app.add_subcommand("corpus", "list, export, extend and check corpora");
    corpus->require_subcommand(1);
    c = command("list", "list every case with its stance and clause", *corpus, Selection::cases,
                [&] { return tool::list_corpus(common, corpora); });
    add_json(*c, common);
    c->add_option("CORPUS", corpora, "folders, or names of shipped corpora");
    tool::ExportOptions exported;
    c = command("export", "print every case with what is expected of it as JSON Lines (docs/sheets.md)", *corpus,
                Selection::cases, [&] { return tool::export_corpus(common, exported); });
    c->add_option("CORPUS", exported.corpora, "folders, or names of shipped corpora");
    c->add_option("--folder", exported.folder,
                  "write the documents as files into this new folder, with an index of them");
    tool::AddOptions added;
    c = command("add", "add a document to a sheet as a case; the sheet's comments and order stay", *corpus,
                Selection::format, [&] { return tool::add_case(common, added); });
    c->add_option("SHEET", added.sheet, "a sheet; a new one if there is none")->required();
    c->add_option("FILE", added.file, "the document, or - for standard input")->required();
    c->add_option("--id", added.id, "the case's name in the sheet")->required();
    c->add_option("--why", added.why, "the reason of the case, in a few words")->required();
    c->add_option("--stance", added.stance, "without it the reference reader decides")
        ->check(CLI::IsMember({"accept", "reject", "open"}));
    c->add_option("--clause", added.clause, "the clause that the case rests on");
    c->add_option("--question", added.question, "the question that an open case raises");
    c->add_option("--aspect", added.aspect, "of a new sheet (default: the sheet's name)");
    c->add_option("--standard", added.standard, "of a new sheet (default: the format's)");
    tool::ImportOptions import;
    c = command("import", "write a sheet of the documents of a folder, a .csv index or JSON Lines", *corpus,
                Selection::format, [&] { return tool::import_cases(common, import); });
    c->add_option("SOURCE", import.source, "a folder, a .csv file, or a file of JSON Lines")->required();
    c->add_option("--sheet", import.sheet, "the sheet to write")->required();
    add_list(*c, "--rule", import.rules, "of a folder: GLOB=STANCE; the first that matches a path counts");
    add_list(
        *c, "--column", import.columns,
        "of an index: FIELD=NAME, such as file=path; fields are id, document, document_hex, file, stance, clause, "
        "why and format");
    add_list(*c, "--stance-word", import.words, "of an index: WORD=STANCE, such as valid=accept");
    c->add_option("--why", import.why, "the reason of cases that have none (default: where they come from)");
    c->add_option("--aspect", import.aspect, "of the sheet (default: the sheet's name)");
    c->add_option("--standard", import.standard, "of the sheet (default: the format's)");
    c = command("coverage",
                "show how many cases must be accepted, must be rejected, or are open, per rule of the standards",
                *corpus, Selection::cases, [&] { return tool::cover_corpus(common, corpora); });
    c->add_option("CORPUS", corpora, "folders, or names of shipped corpora");
    c = command("check", "compare every sheet with the reference reader", *corpus, Selection::cases,
                [&] { return tool::check_corpus(common, corpora); });
    c->add_option("CORPUS", corpora, "folders, or names of shipped corpora");

    command("demo", "run the main commands on the demo data", app, Selection::nothing,
            [&] { return tool::demo(common); });

    std::string shell;
    c = command("completion", "print the completions for a shell", app, Selection::nothing, [&] {
        const std::map<std::string, tool::Shell> shells{
            {"bash", tool::Shell::bash}, {"zsh", tool::Shell::zsh}, {"fish", tool::Shell::fish}};
        fmt::print("{}", tool::completion(app, shells.at(shell)));
        return 0;
    });
    c->add_option("SHELL", shell, "bash, zsh or fish")->required()->check(CLI::IsMember({"bash", "zsh", "fish"}));
    bool as_markdown = false;
    command("manual", "print the manual page, for man -l", app, Selection::nothing, [&] {
        fmt::print("{}", as_markdown ? tool::option_reference(app) : tool::manual_page(app, NACHKLANG_VERSION));
        return 0;
    })->add_flag("--markdown", as_markdown, "print the commands and options as docs/options.md lists them");

    if (argc > 1)
        if (const auto problem = unknown_command(app, argv[1])) return tool::report(*problem);
    try {
        app.parse(argc, argv);
    } catch (const CLI::CallForHelp& help) {
        return app.exit(help);
    } catch (const CLI::CallForVersion& version) {
        return app.exit(version);
    } catch (const CLI::ParseError& error) {
        return tool::report({"command line", error.what(), "`nachklang --help` lists the commands"});
    }
    if (!common.format.empty() && nachklang::find_format(common.format) == nullptr)
        return tool::report({"--format", fmt::format("unknown format '{}'", common.format),
                             fmt::format("use {}", tool::format_names())});
    if (common.wide) ::setenv("COLUMNS", "1000", 1);
    const int status = chosen();
    return tool::interrupted() ? interrupted_status() : status;
}

}  // namespace

int main(int argc, char** argv) {
    // Traces of large documents come and go: giving their pages back each time would cost more than the work on
    // them. Tables that outgrow this are given back, so that a table and the one that replaces it are never both
    // kept.
    constexpr int kept = 32 << 20;
    ::mallopt(M_MMAP_THRESHOLD, kept);
    ::mallopt(M_TRIM_THRESHOLD, 1 << 30);
    handle_signals();
    try {
        return printed(parse_and_run(argc, argv));
    } catch (const nachklang::Cancelled&) {
        return printed(interrupted_status());
    } catch (const nachklang::MachineFault& fault) {
        std::fprintf(stderr,
                     "nachklang: %s; this says nothing about an implementation, and results so far are kept\n",
                     fault.what());
        return tool::exit_internal;
    } catch (const std::bad_alloc&) {
        std::fprintf(
            stderr,
            "nachklang: no more memory; use fewer --workers, or smaller documents; results so far are kept\n");
        return tool::exit_internal;
    } catch (const std::exception& error) {
        if (std::ferror(stdout) != 0) return output_lost(errno);
        if (std::ferror(stderr) != 0) return tool::exit_usage;  // standard error is gone, too
        if (dynamic_cast<const std::system_error*>(&error) != nullptr)
            std::fprintf(stderr,
                         "nachklang: the system refused what a run needs: %s; use fewer --workers, or raise the "
                         "limits; this says nothing about an implementation, and results so far are kept\n",
                         error.what());
        else
            std::fprintf(stderr, "nachklang: internal error: %s\n", error.what());
        return tool::exit_internal;
    }
}

// Loads the configuration and shipped lists, starts the selected adapters, selects cases; see workspace.hpp.
#include "ui/workspace.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <map>
#include <set>
#include <thread>
#include <tuple>

#include <nachklang/parallel.hpp>

#include "ui/recorded.hpp"
#include "ui/terminal.hpp"

namespace tool {

namespace fs = std::filesystem;
using namespace nachklang;

namespace {

/// The folder with corpora/ and adapters/: $NACHKLANG_DATA, a folder above the program in a source tree, or
/// share/nachklang in a prefix.
std::string find_data_folder() {
    if (const char* given = std::getenv("NACHKLANG_DATA")) return given;
    std::error_code ignored;
    const fs::path program = fs::read_symlink("/proc/self/exe", ignored);
    for (fs::path folder = program.parent_path(); folder.has_relative_path(); folder = folder.parent_path()) {
        for (const fs::path& candidate : {folder, folder / "share" / "nachklang"})
            if (fs::exists(candidate / "adapters" / "implementations.toml", ignored)) return candidate.string();
    }
    return "";
}

/// The folder of built adapters: beside the program in a build tree, or libexec/nachklang/adapters in a prefix.
std::string built_folder() {
    std::error_code ignored;
    const fs::path program = fs::read_symlink("/proc/self/exe", ignored).parent_path();
    const fs::path beside = program / "adapters";
    if (fs::exists(beside, ignored)) return beside.string();
    return (program.parent_path() / "libexec" / "nachklang" / "adapters").string();
}

bool chosen(const std::vector<std::string>& globs, const std::string& name) {
    return globs.empty() ||
           std::any_of(globs.begin(), globs.end(), [&](const std::string& g) { return matches_glob(g, name); });
}

/// `rapidjson` names all modes of rapidjson, and a recorded one needs no version.
bool chosen_subject(const std::vector<std::string>& globs, const Subject& subject) {
    if (globs.empty()) return true;
    const std::string& name = subject.implementation.name;
    return chosen(globs, subject.name()) || chosen(globs, name) || chosen(globs, subject.recorded_name()) ||
           chosen(globs, name.substr(0, name.find('@')));
}

}  // namespace

int report(const Problem& problem) {
    fmt::print(stderr, "nachklang: {}\n", text::printable(problem.line()));
    return exit_usage;
}

bool is_same_file(const std::string& a, const std::string& b) {
    namespace fs = std::filesystem;
    std::error_code ignored;
    return fs::absolute(a, ignored).lexically_normal() == fs::absolute(b, ignored).lexically_normal() ||
           fs::equivalent(a, b, ignored);
}

std::optional<Problem> write_file(const std::string& path, const std::string& text) {
    if (path == "-") {
        std::fwrite(text.data(), 1, text.size(), stdout);
        return std::nullopt;
    }
    const std::string beside = path + ".new";
    std::ofstream out(beside, std::ios::binary);
    out << text;
    out.close();
    std::error_code error;
    if (out) fs::rename(beside, path, error);
    if (out && !error) return std::nullopt;
    fs::remove(beside, error);
    return Problem{path, "cannot be written", "name a file in a folder that can be written"};
}

using CorpusFolders = std::vector<std::pair<std::string, std::vector<FileRule>>>;

/// The folders of the corpora named; without names, all of the configuration and all shipped ones.
static CorpusFolders folders_of(const Workspace& workspace, const std::vector<std::string>& names) {
    CorpusFolders folders;
    std::error_code ignored;
    const fs::path shipped = fs::path(workspace.data_folder) / "corpora";
    if (names.empty()) {
        for (const CorpusEntry& entry : workspace.configuration.corpora) {
            folders.emplace_back(entry.folder, entry.rules);
        }
        if (workspace.configuration.ships_corpora)
            for (const Format* format : formats())
                if (fs::is_directory(shipped / format->name(), ignored))
                    folders.emplace_back((shipped / format->name()).string(), std::vector<FileRule>{});
    }
    for (const std::string& name : names) {
        const bool by_name = name.find('/') == std::string::npos && fs::is_directory(shipped / name, ignored) &&
                             !fs::is_directory(name, ignored);
        folders.emplace_back(by_name ? (shipped / name).string() : name, std::vector<FileRule>{});
    }
    return folders;
}

static Checked<std::vector<Corpus>> loaded(const CorpusFolders& folders) {
    std::error_code ignored;
    std::vector<Corpus> out;
    std::set<fs::path> known;  // a corpus that is named twice is run once
    for (const auto& [folder, rules] : folders) {
        if (!known.insert(fs::weakly_canonical(folder, ignored)).second) continue;
        auto corpus = load_corpus(folder, rules);
        if (!corpus.ok()) return corpus.problem();
        out.push_back(std::move(corpus.value()));
    }
    return out;
}

static std::optional<Problem> first_wrong_declaration(const Workspace& workspace,
                                                      std::span<const Question* const> of_sheets) {
    for (const Implementation& implementation : workspace.found)
        if (auto wrong = wrong_declaration(implementation, of_sheets)) return wrong;
    return std::nullopt;
}

/// The corpora are loaded only for a question that no format has, since that takes a while.
static std::optional<Problem> wrongly_declared(const Workspace& workspace) {
    if (!first_wrong_declaration(workspace, {})) return std::nullopt;
    const auto corpora = loaded(folders_of(workspace, {}));
    if (!corpora.ok()) return corpora.problem();
    std::vector<const Question*> of_sheets;
    for (const Corpus& corpus : corpora.value())
        for (const Case& c : corpus.cases)
            if (c.own_question &&
                std::find(of_sheets.begin(), of_sheets.end(), c.own_question.get()) == of_sheets.end())
                of_sheets.push_back(c.own_question.get());
    return first_wrong_declaration(workspace, of_sheets);
}

Checked<Workspace> open_workspace(const Common& common) {
    Workspace out;
    out.data_folder = find_data_folder();
    if (out.data_folder.empty())
        return Problem{"nachklang", "its data folder is not found",
                       "set NACHKLANG_DATA to the folder that holds corpora/ and adapters/"};
    const std::string adapters = out.data_folder + "/adapters", built = built_folder();
    const std::string file = common.config.empty() ? "nachklang.toml" : common.config;
    std::error_code ignored;
    if (!common.config.empty() || fs::exists(file, ignored)) {
        auto configuration = load_configuration(file, adapters, built);
        if (!configuration.ok()) return configuration.problem();
        out.configuration = std::move(configuration.value());
    }
    for (const Implementation& own : out.configuration.implementations) {
        if (const auto missing = missing_of(own))
            return Problem{own.where,
                           fmt::format("the command of {} cannot be run: {} does not exist or is not executable",
                                       own.name, *missing),
                           "correct 'command' or install it"};
        out.found.push_back(own);
    }
    if (out.configuration.ships_implementations) {
        auto shipped = load_configuration(adapters + "/implementations.toml", adapters, built);
        if (!shipped.ok()) return shipped.problem();
        const auto& only = out.configuration.shipped_implementations;
        for (const Implementation& implementation : shipped.value().implementations) {
            if (!only.empty() && std::find(only.begin(), only.end(), implementation.name) == only.end()) continue;
            if (const auto missing = missing_of(implementation)) {
                out.missing.push_back(
                    {implementation.name, fs::path(*missing).filename().string(), implementation.needs});
            } else {
                out.found.push_back(implementation);
            }
        }
        for (const std::string& name : only)
            if (std::none_of(shipped.value().implementations.begin(), shipped.value().implementations.end(),
                             [&](const Implementation& i) { return i.name == name; }))
                return Problem{file, fmt::format("'shipped' names {}, which is not a shipped implementation", name),
                               "`nachklang implementations` lists the shipped ones"};
    }
    for (std::size_t i = 0; i < out.found.size(); ++i)
        for (std::size_t j = i + 1; j < out.found.size(); ++j)
            if (out.found[i].name == out.found[j].name)
                return Problem{out.found[j].where,
                               fmt::format("two implementations are called {}", out.found[j].name), "rename one"};
    if (const auto wrong = wrongly_declared(out)) return *wrong;
    return out;
}

Common with_names(const Common& common, const std::vector<std::string>& names) {
    Common out = common;
    out.implementations.insert(out.implementations.end(), names.begin(), names.end());
    return out;
}

std::vector<Missing> missing_if_all(const Workspace& workspace, const Common& common) {
    return common.implementations.empty() ? workspace.missing : std::vector<Missing>{};
}

/// Adds the recorded implementations named by globs that nothing installed has.
static void add_recorded(const Workspace& workspace, const std::vector<std::string>& globs,
                         std::vector<Subject>& out) {
    std::vector<std::string> unmatched;
    for (const std::string& glob : globs)
        if (std::none_of(out.begin(), out.end(), [&](const Subject& s) { return chosen_subject({glob}, s); }))
            unmatched.push_back(glob);
    if (unmatched.empty()) return;
    for (Subject& recorded : recorded_beside(workspace, out))
        if (chosen_subject(unmatched, recorded)) out.push_back(std::move(recorded));
}

Checked<std::vector<Subject>> subjects_of(const Workspace& workspace, const Common& common, bool or_recorded,
                                          std::vector<Missing>* not_started) {
    std::vector<const Implementation*> wanted;
    for (const Implementation& implementation : workspace.found) {
        // A glob may name a mode, which only the hello reports. So the part before its '/' selects the adapters to
        // start.
        const bool may =
            common.implementations.empty() ||
            std::any_of(common.implementations.begin(), common.implementations.end(), [&](const std::string& glob) {
                return matches_glob(glob.substr(0, glob.find('/')), implementation.name) || glob.starts_with("**");
            });
        if (may) wanted.push_back(&implementation);
    }
    std::vector<std::vector<Subject>> subjects_by_adapter(wanted.size());
    const unsigned workers = std::min(4U, std::max(1U, std::thread::hardware_concurrency()));
    run_parallel(wanted.size(), workers,
                 [&](std::size_t at) { subjects_by_adapter[at] = handshake(*wanted[at], &interrupted()); });
    if (interrupted()) throw Cancelled();
    std::vector<Subject> out;
    std::vector<Missing> unready;
    for (auto& subjects : subjects_by_adapter)
        for (Subject& subject : subjects) {
            if (!chosen_subject(common.implementations, subject)) continue;
            // What the system cannot start says nothing about an implementation.
            if (!subject.missing_library.empty())
                unready.push_back({subject.name(), "the library " + text::printable(subject.missing_library),
                                   subject.implementation.needs});
            else
                out.push_back(std::move(subject));
        }
    if (not_started != nullptr) not_started->insert(not_started->end(), unready.begin(), unready.end());
    if (not_started == nullptr || out.empty()) tell_missing(unready);
    if (or_recorded) add_recorded(workspace, common.implementations, out);
    if (out.empty()) {
        const std::string asked = common.implementations.empty()
                                      ? "any implementation"
                                      : fmt::format("'{}'", fmt::join(common.implementations, "', '"));
        return Problem{"--implementation", fmt::format("{} is not installed", asked),
                       "`nachklang implementations` lists the installed ones and what installs the others"};
    }
    for (const std::string& glob : common.implementations)
        if (std::none_of(out.begin(), out.end(), [&](const Subject& s) { return chosen_subject({glob}, s); }))
            return Problem{"--implementation", fmt::format("nothing here is called '{}'", glob),
                           "`nachklang implementations` lists the names"};
    return out;
}

Checked<std::vector<Corpus>> corpora_of(const Workspace& workspace, const std::vector<std::string>& names) {
    auto out = loaded(folders_of(workspace, names));
    if (!out.ok()) return out;
    for (const Corpus& corpus : out.value())
        for (const auto& [path, what] : corpus.skipped)
            fmt::print(stderr, "skipped: {} ({})\n", text::printable(path), what);
    return out;
}

/// `numbers/tenth:in-array` names the case numbers/tenth: a run asks it inside an array if it is refused by
/// itself.
static std::string_view without_suffix(std::string_view glob) {
    return glob.substr(0, glob.find(':'));
}

Checked<std::vector<Case>> cases_of(std::vector<Corpus> corpora, const Common& given) {
    std::vector<Case> out;
    Common common = given;
    for (std::string& glob : common.cases) glob = without_suffix(glob);
    for (const auto& [option, globs, name] :
         {std::tuple{"--aspect", &common.aspects, &Case::aspect}, std::tuple{"--case", &common.cases, &Case::name}})
        for (const std::string& glob : *globs)
            if (std::none_of(corpora.begin(), corpora.end(), [&, name = name](const Corpus& corpus) {
                    return std::any_of(corpus.cases.begin(), corpus.cases.end(),
                                       [&](const Case& c) { return matches_glob(glob, c.*name); });
                }))
                return Problem{option, fmt::format("'{}' matches no name", glob),
                               "`nachklang corpus list` lists the names"};
    for (Corpus& corpus : corpora)
        for (Case& c : corpus.cases) {
            if (!chosen(common.aspects, c.aspect) || !chosen(common.cases, c.name)) continue;
            if (!common.format.empty() && c.format->name() != common.format) continue;
            out.push_back(std::move(c));
        }
    if (!out.empty()) return out;
    const bool chosen_from = !common.aspects.empty() || !common.cases.empty() || !common.format.empty();
    if (chosen_from)
        return Problem{"--aspect, --case, --format", "no case matches all of these filters",
                       "`nachklang corpus list` lists them"};
    return Problem{"corpus", "no case and no document is there", "name a folder that holds some"};
}

Checked<std::vector<Case>> chosen_cases(const Workspace& workspace, const std::vector<std::string>& names,
                                        const Common& common) {
    auto corpora = corpora_of(workspace, names);
    if (!corpora.ok()) return corpora.problem();
    return cases_of(std::move(corpora.value()), common);
}

void keep_usual_modes(std::vector<Subject>& subjects) {
    std::set<std::string> seen;
    std::erase_if(subjects, [&](const Subject& subject) {
        return has_setting(subject.settings, "simulated", "yes") || subject.settings.contains("purpose") ||
               !seen.insert(subject.implementation.name).second;
    });
}

Checked<Asked> asked_of(const Common& common, const std::vector<std::string>& names,
                        const std::vector<std::string>& corpora) {
    const auto workspace = open_workspace(common);
    if (!workspace.ok()) return workspace.problem();
    auto cases = chosen_cases(workspace.value(), corpora, common);
    if (!cases.ok()) return cases.problem();
    auto subjects = subjects_of(workspace.value(), with_names(common, names));
    if (!subjects.ok()) return subjects.problem();
    return Asked{std::move(cases.value()), std::move(subjects.value())};
}

Checked<std::string> document_of(const std::string& file) {
    auto bytes = read_file(file == "-" ? "/dev/stdin" : file);
    if (bytes.ok()) return bytes;
    if (interrupted()) throw Cancelled();  // the signal ended the read, as of a FIFO
    return Problem{file, bytes.problem().what, "name a file that can be read, or - for standard input"};
}

const Format& format_of(const Common& common, const std::string& file, std::string_view document) {
    return common.format.empty() ? guess_format(file, document) : *find_format(common.format);
}

std::string format_names() {
    std::vector<std::string_view> names;
    for (const Format* format : formats()) names.push_back(format->name());
    return fmt::format("{}", fmt::join(names, " or "));
}

bool any_supports(std::span<const Subject> subjects, const Format& format) {
    return std::any_of(subjects.begin(), subjects.end(), [&](const Subject& s) {
        const auto known = s.operations.find(std::string(format.name()));
        return known != s.operations.end() && !known->second.empty();
    });
}

Problem no_support_for(std::string_view format) {
    return {"--implementation", fmt::format("no selected implementation supports {}", format),
            "`nachklang implementations` lists what each supports"};
}

std::optional<Problem> unsupported_formats(std::span<const Case> cases, std::span<const Subject> subjects) {
    std::map<std::string_view, std::size_t> unasked;
    std::size_t all = 0;
    for (const Format* format : formats()) {
        if (any_supports(subjects, *format)) continue;
        const auto count = static_cast<std::size_t>(
            std::count_if(cases.begin(), cases.end(), [&](const Case& c) { return c.format == format; }));
        if (count > 0) unasked[format->name()] = count;
        all += count;
    }
    std::vector<std::string_view> names;
    for (const auto& [name, count] : unasked) names.push_back(name);
    if (all == cases.size()) return no_support_for(fmt::format("{}", fmt::join(names, " or ")));
    for (const auto& [name, count] : unasked)
        fmt::print(stderr, "skipped: {} {} case{} (no selected implementation supports {})\n", count, name,
                   count == 1 ? "" : "s", name);
    return std::nullopt;
}

void tell_missing(const std::vector<Missing>& all) {
    if (all.empty()) return;
    if (all.size() == 1) {
        fmt::print(stderr, "not installed: {} ({} is missing{})\n", all[0].name, all[0].absent,
                   all[0].needs.empty() ? "" : "; " + all[0].needs);
        return;
    }
    std::vector<std::string> names;
    for (const auto& one : all) names.push_back(one.name);
    fmt::print(stderr, "not installed: {}; `nachklang implementations` says what each needs\n", joined(names, 4));
}

std::string operations_of(const Subject& subject) {
    std::string out;
    for (const auto& [format, operations] : subject.operations)
        out += fmt::format("{}{}: {}", out.empty() ? "" : "; ", format, fmt::join(operations, " "));
    return out;
}

bool has_profile(const Format& format, std::string_view name) {
    const Profiles* profiles = format.profiles();
    return profiles != nullptr && std::any_of(profiles->list().begin(), profiles->list().end(),
                                              [&](const Profile& p) { return p.name == name; });
}

ExecutorFactory interruptible_executors() {
    return [](const Subject& subject) { return make_executor(subject, &interrupted()); };
}

void run_cases(std::string_view label, std::span<const Case> cases, std::span<const Subject> subjects,
               CampaignOptions options, ResultSink& sink, const ExecutorFactory& make) {
    Progress line{std::string(label)};
    if (options.cancelled == nullptr) options.cancelled = &interrupted();
    options.progress = [&, before = std::move(options.progress)](std::size_t done, std::size_t all) {
        if (before) before(done, all);
        line.show(done, all);
    };
    run_campaign(cases, subjects, make, options, sink);
}

unsigned workers_of(unsigned asked) {
    return asked != 0 ? asked : std::max(1U, std::thread::hardware_concurrency());
}

std::string repeat_line(const Case& c, const std::string& implementation) {
    return fmt::format("{} --implementation {}", repeat_command(c), text::shell_word(implementation));
}

}  // namespace tool

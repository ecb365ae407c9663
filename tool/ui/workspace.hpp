// What every command needs: the configuration, the shipped lists, the installed implementations, the selected
// cases.
#pragma once

#include <atomic>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include <nachklang/campaign.hpp>
#include <nachklang/corpus.hpp>
#include <nachklang/experiments.hpp>
#include <nachklang/runner.hpp>

#include "ui/terminal.hpp"

namespace tool {

/// Options that every command takes.
struct Common {
    std::string config;
    std::vector<std::string> implementations;  ///< names or globs
    std::vector<std::string> aspects, cases;   ///< names or globs
    std::string format;
    Colour colour = Colour::automatic;
    bool wide = false;  ///< tables and sentences are not folded at the window's width
    bool json = false;  ///< print JSON Lines, and nothing else
};

/// Exit statuses (docs/findings.md).
inline constexpr int exit_success = 0, exit_failing = 1, exit_usage = 2, exit_internal = 3;

/// Writes a file, or standard output for `-`. It is written beside the old one first, so that a full disk leaves
/// that.
/// Whether two paths name one file, which need not exist.
bool is_same_file(const std::string& a, const std::string& b);
std::optional<nachklang::Problem> write_file(const std::string& path, const std::string& text);

/// Set by a signal: tasks that are under way end, results so far are kept.
std::atomic<bool>& interrupted();
/// Makes executors whose processes end when a signal came.
nachklang::ExecutorFactory interruptible_executors();

/// Prints a problem's one line; returns wrong_call.
int report(const nachklang::Problem& problem);

/// An implementation of the shipped list that is not on this machine.
struct Missing {
    std::string name, absent, needs;
};

struct Workspace {
    std::string data_folder;  ///< where corpora/, adapters/ and demo/ lie
    nachklang::Configuration configuration;
    std::vector<nachklang::Implementation> found;
    std::vector<Missing> missing;
};
nachklang::Checked<Workspace> open_workspace(const Common& common);

/// The same options, with these names asked for, too.
Common with_names(const Common& common, const std::vector<std::string>& names);

/// What is not installed, if all implementations are asked; nothing if some are named.
std::vector<Missing> missing_if_all(const Workspace& workspace, const Common& common);

/// Starts the installed implementations that a glob names; a name that matches nothing is a problem. With
/// `or_recorded`, a name that no installed one has names a recorded one. Those that cannot start, because a library
/// is missing, are added to `not_started`, or named on standard error.
nachklang::Checked<std::vector<nachklang::Subject>> subjects_of(const Workspace& workspace, const Common& common,
                                                                bool or_recorded = false,
                                                                std::vector<Missing>* not_started = nullptr);

/// The corpora named (folders, or names of shipped ones); without names, all of the configuration and all shipped
/// ones.
nachklang::Checked<std::vector<nachklang::Corpus>> corpora_of(const Workspace& workspace,
                                                              const std::vector<std::string>& names);
/// The cases that the filters select; a filter that selects none is a problem.
nachklang::Checked<std::vector<nachklang::Case>> cases_of(std::vector<nachklang::Corpus> corpora,
                                                          const Common& common);
/// Both in one: the chosen cases of the corpora of these names.
nachklang::Checked<std::vector<nachklang::Case>> chosen_cases(const Workspace& workspace,
                                                              const std::vector<std::string>& names,
                                                              const Common& common);

/// Keeps each implementation's first mode, without simulated ones and those with a purpose of their own.
void keep_usual_modes(std::vector<nachklang::Subject>& subjects);

/// What a survey asks: the chosen cases of the corpora, and the implementations of these names.
struct Asked {
    std::vector<nachklang::Case> cases;
    std::vector<nachklang::Subject> subjects;
};
nachklang::Checked<Asked> asked_of(const Common& common, const std::vector<std::string>& names,
                                   const std::vector<std::string>& corpora);

/// The bytes of a file, or of standard input if it is called "-".
nachklang::Checked<std::string> document_of(const std::string& file);
/// The format that the options give a document, or the one that it looks like.
const nachklang::Format& format_of(const Common& common, const std::string& file, std::string_view document);
/// "json or xml".
std::string format_names();

/// Prints a line for every format that no selected implementation supports; a problem if that is so for all cases.
std::optional<nachklang::Problem> unsupported_formats(std::span<const nachklang::Case> cases,
                                                      std::span<const nachklang::Subject> subjects);
/// Whether any of them does anything with a format.
bool any_supports(std::span<const nachklang::Subject> subjects, const nachklang::Format& format);
/// The problem that no selected implementation supports a format.
nachklang::Problem no_support_for(std::string_view format);

/// One line on standard error about implementations that are not installed.
void tell_missing(const std::vector<Missing>& all);

/// "json: decode round-trip".
std::string operations_of(const nachklang::Subject& subject);

/// Whether a format has a profile of that name.
bool has_profile(const nachklang::Format& format, std::string_view name);

/// How many to run side by side: as asked, or as many as there are cores.
unsigned workers_of(unsigned asked);

/// Runs the cases through the implementations, with a line of progress on a terminal, until a signal comes. What
/// `options` sets is kept; `options.progress` is called before the line is shown.
void run_cases(std::string_view label, std::span<const nachklang::Case> cases,
               std::span<const nachklang::Subject> subjects, nachklang::CampaignOptions options,
               nachklang::ResultSink& sink, const nachklang::ExecutorFactory& make = interruptible_executors());

/// The command line that shows a case again.
std::string repeat_line(const nachklang::Case& c, const std::string& implementation);

}  // namespace tool

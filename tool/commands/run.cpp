// `run`: run corpora through all implementations.
#include <fmt/format.h>

#include <algorithm>

#include <nachklang/store.hpp>

#include "commands/commands.hpp"
#include "ui/behaviours.hpp"
#include "ui/summary.hpp"
#include "ui/terminal.hpp"

namespace tool {

using namespace nachklang;

namespace {

Checked<std::set<std::string>> parse_fail_on(const std::string& text) {
    std::set<std::string> out;
    std::string word;
    for (const char c : text + ",") {
        if (c != ',') {
            word += c;
            continue;
        }
        if (word.empty()) continue;
        bool known = word == "nothing";
        for (std::size_t i = 0; i <= static_cast<std::size_t>(FindingKind::not_asked); ++i)
            known = known || name_of(static_cast<FindingKind>(i)) == word;
        for (std::size_t i = 0; i <= static_cast<std::size_t>(Basis::fidelity); ++i)
            known = known || name_of(static_cast<Basis>(i)) == word;
        if (!known)
            return Problem{"--fail-on", fmt::format("'{}' is neither a finding kind nor a basis", word),
                           "use for example required,altered or nothing"};
        out.insert(word);
        word.clear();
    }
    return out;
}

bool any_has_profile(std::string_view name) {
    return std::any_of(formats().begin(), formats().end(),
                       [&](const Format* format) { return has_profile(*format, name); });
}

std::string profiles_known() {
    std::string out;
    for (const Format* format : formats())
        if (format->profiles() != nullptr)
            for (const Profile& profile : format->profiles()->list())
                out += fmt::format("{}{}", out.empty() ? "" : ", ", profile.name);
    return out;
}

using File = std::unique_ptr<LineFile>;

}  // namespace

int run(const Common& common, const RunOptions& options) {
    const auto workspace = open_workspace(common);
    if (!workspace.ok()) return report(workspace.problem());
    const auto fail_on = parse_fail_on(options.fail_on);
    if (!fail_on.ok()) return report(fail_on.problem());
    if (!options.profile.empty() && !any_has_profile(options.profile))
        return report({"--profile", fmt::format("'{}' is not a profile of any format", options.profile),
                       "use one of " + profiles_known()});
    if (const auto problem = check_wanted(options.wanted)) return report(*problem);
    auto corpora = corpora_of(workspace.value(), options.corpora);
    if (!corpora.ok()) return report(corpora.problem());
    const auto cases = cases_of(std::move(corpora.value()), common);
    if (!cases.ok()) return report(cases.problem());
    for (const Case& c : cases.value())
        if (!c.why.empty())
            for (const Problem& problem : check_case(c))
                fmt::print(stderr, "warning: {}\n", text::printable(problem.line()));

    const auto subjects = subjects_of(workspace.value(), common);
    if (!subjects.ok()) return report(subjects.problem());
    if (const auto problem = unsupported_formats(cases.value(), subjects.value())) return report(*problem);
    // Last of all that may be wrong with a call: a file that is there is emptied.
    std::vector<File> files;
    for (const std::string& path : {options.results, options.disagreements}) {
        files.emplace_back();
        if (path.empty()) continue;
        auto file = LineFile::create(path);
        if (!file.ok()) return report(file.problem());
        files.back() = std::move(file.value());
    }
    if (common.implementations.empty()) tell_missing(workspace.value());

    Summary summary;
    BehaviourCollector collector;
    LineSink lines(files[0].get(), files[1].get());
    Search search(options.wanted);
    SinkList sinks({&lines, &summary, &collector, &search});
    CampaignOptions campaign;
    campaign.workers = workers_of(options.workers);
    std::atomic<bool> stop = false;
    campaign.cancelled = &stop;
    campaign.profile = options.profile;
    Progress bar("run");
    campaign.progress = [&](std::size_t done, std::size_t all) {
        if (interrupted() || lines.problem()) stop = true;
        bar.show(done, all);
    };
    run_campaign(
        cases.value(), subjects.value(), [&](const Subject& s) { return make_executor(s, &interrupted()); },
        campaign, sinks);
    bar.clear();
    const std::vector<Behaviour> behaviours = collector.behaviours();
    lines.behaviours(behaviours);
    if (lines.problem()) return report(*lines.problem());
    const int status = summary.failing(fail_on.value()) ? exit_failing : exit_success;
    if (options.json) {
        for (const Behaviour& behaviour : behaviours) fmt::print("{}\n", line_of(record_of(behaviour)));
        return status;
    }
    if (!options.wanted.everything()) {
        search.print(common.no_colour);
        return status;
    }
    if (options.list) summary.list(common.no_colour);
    if (options.by == "implementation" && !behaviours.empty()) {
        fmt::print("behaviours: what each implementation does, when, and which engines do the same\n");
        print_behaviours(behaviours, common.no_colour);
    }
    if (options.by == "question") print_questions(collector.answers(), common.no_colour);
    summary.print(common.no_colour, options.by == "cause");
    if (options.times) summary.print_times(common.no_colour);
    if (options.results.empty())
        fmt::print("for details: --list shows every finding, --results FILE and --disagreements FILE write them\n");
    else
        fmt::print("details: {}\n", text::printable(options.results));
    return status;
}

}  // namespace tool

// `run`: run corpora through all implementations.
#include <fmt/chrono.h>
#include <fmt/format.h>

#include <algorithm>
#include <filesystem>
#include <sstream>

#include <nachklang/observations.hpp>
#include <nachklang/parts.hpp>
#include <nachklang/recorded.hpp>
#include <nachklang/run_store.hpp>
#include <nachklang/store.hpp>

#include "commands/commands.hpp"
#include "ui/behaviours.hpp"
#include "ui/changes.hpp"
#include "ui/recorded.hpp"
#include "ui/summary.hpp"
#include "ui/terminal.hpp"

namespace tool {

using namespace nachklang;

namespace {

bool may_fail(const std::string& word) {
    if (word == "nothing" || word == "incident" || word == "new") return true;
    for (std::size_t i = 0; i <= static_cast<std::size_t>(FindingKind::not_asked); ++i)
        if (name_of(static_cast<FindingKind>(i)) == word) return true;
    for (std::size_t i = 0; i <= static_cast<std::size_t>(Basis::fidelity); ++i)
        if (name_of(static_cast<Basis>(i)) == word) return true;
    return false;
}

/// Words between commas; blanks around them do not count.
Checked<std::set<std::string>> parse_fail_on(const std::optional<std::string>& text) {
    std::set<std::string> out;
    if (!text) return out;
    std::istringstream words(*text + ",");
    for (std::string word; std::getline(words, word, ',');) {
        word.erase(0, word.find_first_not_of(' '));
        word.erase(word.find_last_not_of(' ') + 1);
        if (!may_fail(word))
            return Problem{"--fail-on", fmt::format("'{}' is neither a finding kind nor a basis", word),
                           "use for example required,altered; incident; or nothing"};
        out.insert(word);
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

/// The baseline that was named; an empty one if none was, or if it is to be written first.
Checked<KeptRun> baseline_at(const RunOptions& options, const std::set<std::string>& fail_on) {
    if (options.baseline.empty()) {
        if (options.update_baseline)
            return Problem{"--update-baseline", "no file is named", "name it with --baseline FILE"};
        if (fail_on.contains("new"))
            return Problem{"--fail-on", "'new' needs a baseline", "name it with --baseline FILE"};
        return KeptRun{};
    }
    if (options.update_baseline && !std::filesystem::exists(options.baseline)) return KeptRun{};
    return read_kept_run(options.baseline);
}

/// A run beside its baseline.
struct SinceBaseline {
    KeptRun run;
    Changes changes;
};

/// Without --fail-on, a baseline leaves only what is newly failing.
bool fails(const RunOptions& options, const std::set<std::string>& fail_on, const Summary& summary,
           const std::optional<SinceBaseline>& since) {
    if (since && !options.fail_on) return since->changes.newly_failing();
    const bool newly_failing = since && fail_on.contains("new") && since->changes.newly_failing();
    return newly_failing || summary.failing(fail_on);
}

void print_since(const RunOptions& options, const KeptRun& baseline, const SinceBaseline& since, Colour colour) {
    const std::string file = text::printable(options.baseline);
    if (options.update_baseline && baseline.versions.empty()) {
        fmt::print("wrote the baseline {}: {} behaviours\n", file, since.run.behaviours.size());
        return;
    }
    fmt::print("since the baseline {}\n", file);
    print_changes(since.changes, colour);
}

/// Behaviours with their witnesses cut down. Interrupted, it leaves the rest as they are.
void shrink_witnesses(std::vector<Behaviour>& behaviours, std::span<const Subject> subjects) {
    constexpr std::size_t budget = 2000;  // documents a witness
    Progress bar("shrink");
    for (std::size_t i = 0; i < behaviours.size() && !interrupted(); ++i) {
        behaviours[i].smallest =
            smallest_witness(behaviours[i], subjects, interruptible_executors(), budget, &interrupted());
        bar.show(i + 1, behaviours.size());
    }
    bar.clear();
}

/// A run that is kept: its store, and what writes it.
struct Kept {
    std::unique_ptr<RunStore> store;
    std::unique_ptr<StoreSink> sink;
};

/// The last run of a store for which `fits` holds.
template <class Fits>
const StoredRun* last_run(const std::vector<StoredRun>& runs, const Fits& fits) {
    const auto found = std::find_if(runs.rbegin(), runs.rend(), fits);
    return found == runs.rend() ? nullptr : &*found;
}

/// Of --store and --resume: a new run, or one to go on with.
Checked<Kept> kept_run_of(const RunOptions& options, std::span<const Case> cases,
                          std::span<const Subject> subjects) {
    Kept out;
    auto store = RunStore::open(options.store);
    if (!store.ok()) return store.problem();
    out.store = std::move(store.value());
    RunSetup setup = setup_of(cases, subjects, options.profile);
    setup.tool = NACHKLANG_VERSION;
    setup.command = options.command;
    const auto runs = out.store->runs();
    if (!runs.ok()) return runs.problem();
    const StoredRun* earlier = last_run(runs.value(), [](const StoredRun& run) { return !run.complete; });
    if (options.resume && earlier == nullptr)
        return Problem{"--resume", options.store + " holds no run that is not complete", "run without --resume"};
    auto sink = options.resume ? out.store->resume(*earlier, setup, cases) : out.store->add_run(setup, cases);
    if (!sink.ok()) return sink.problem();
    out.sink = std::move(sink.value());
    return out;
}

/// Hands a run to what shows it and to what keeps it; of a resumed run first what was kept.
class ShownAndKept final : public ResultSink {
  public:
    ShownAndKept(ResultSink& shown, StoreSink* kept) : shown_(shown), kept_(kept) {}
    void begin(const RunHeader& header) override {
        shown_.begin(header);
        if (kept_ == nullptr) return;
        kept_->begin(header);
        if (kept_->first_chunk() > 0) problem_ = kept_->replay(header.subjects, shown_);
    }
    void chunk(const ChunkReport& report) override {
        shown_.chunk(report);
        if (kept_ != nullptr) kept_->chunk(report);
    }
    void incident(const IncidentReport& report) override {
        shown_.incident(report);
        if (kept_ != nullptr) kept_->incident(report);
    }
    void end(const RunEnd& how) override {
        shown_.end(how);
        if (kept_ != nullptr) kept_->end(how);
    }
    /// The first thing that went wrong with the store.
    [[nodiscard]] const std::optional<Problem>& problem() const {
        static const std::optional<Problem> none;
        return problem_ ? problem_ : kept_ != nullptr ? kept_->problem() : none;
    }

  private:
    ResultSink& shown_;
    StoreSink* kept_;
    std::optional<Problem> problem_;
};

/// The cases that --again asks for, by the complete runs of a store.
Checked<std::vector<std::string>> cases_again(const RunOptions& options, const RunStore& store) {
    const auto runs = store.runs();
    if (!runs.ok()) return runs.problem();
    const auto complete = [](const StoredRun& run) { return run.complete; };
    const StoredRun* last = last_run(runs.value(), complete);
    if (last == nullptr) return Problem{"--again", options.store + " holds no complete run", "run without --again"};
    if (options.again != "changed")
        return store.cases_failing(last->id, options.again == "failing" ? "" : options.again);
    const StoredRun* before =
        last_run(runs.value(), [&](const StoredRun& run) { return complete(run) && run.id < last->id; });
    if (before == nullptr)
        return Problem{"--again", options.store + " holds one complete run, and nothing to compare it with",
                       "run once more without --again"};
    return store.cases_changed(before->id, last->id);
}

/// Of --again: only the cases that had such a result in the last complete run of the store, or changed there.
std::optional<Problem> keep_cases_again(const RunOptions& options, std::vector<Case>& cases) {
    if (options.again != "failing" && options.again != "changed" && check_wanted({"", "", options.again}, {}))
        return Problem{"--again", fmt::format("'{}' is no cause of any format", options.again),
                       "use failing, changed, or a cause; `nachklang run --by cause` lists causes"};
    const auto store = RunStore::open_to_read(options.store);
    if (!store.ok()) return store.problem();
    const auto names = cases_again(options, *store.value());
    if (!names.ok()) return names.problem();
    std::erase_if(cases, [&](const Case& c) {
        return !std::binary_search(names.value().begin(), names.value().end(), c.name);
    });
    if (cases.empty())
        return Problem{"--again", options.again == "changed" ? "no case changed" : "no case of the last run fits",
                       "name another cause, or other corpora"};
    return std::nullopt;
}

/// Of --part: the number of the part, from 1, and how many there are.
Checked<std::optional<std::pair<std::size_t, std::size_t>>> part_wanted(const RunOptions& options) {
    if (options.part.empty()) return std::optional<std::pair<std::size_t, std::size_t>>{};
    std::istringstream in(options.part);
    std::size_t part = 0, parts = 0;
    char slash = 0;
    const bool digits = options.part.find_first_not_of("0123456789/") == std::string::npos;
    if (!digits || !(in >> part >> slash >> parts) || slash != '/' || !in.eof() || part < 1 || part > parts)
        return Problem{"--part", fmt::format("'{}' is no part", text::printable(options.part)),
                       "write K/N with K from 1 to N, such as 2/3"};
    if (options.results.empty()) return Problem{"--part", "a part needs a file", "name it with --results FILE"};
    if (!options.baseline.empty() || options.shrink || options.recorded || !options.record.empty())
        return Problem{"--part", "a part is not compared or recorded",
                       "merge the parts first, then use `changes` or `report`"};
    return std::optional(std::pair(part, parts));
}

/// Two outputs in one file would destroy each other, and an output over a document would destroy that.
std::optional<Problem> check_outputs(const RunOptions& options, std::span<const Case> cases) {
    namespace fs = std::filesystem;
    std::error_code ignored;
    if (!options.results.empty() && !options.disagreements.empty() &&
        is_same_file(options.results, options.disagreements))
        return Problem{"--disagreements", fmt::format("{} is the file of --results, too", options.results),
                       "name another file"};
    for (const std::string& output : {options.results, options.disagreements}) {
        if (!fs::is_regular_file(output, ignored)) continue;
        for (const Case& c : cases)
            if (is_same_file(output, c.source.substr(0, c.source.rfind(".toml:") == std::string::npos
                                                            ? std::string::npos
                                                            : c.source.rfind(".toml:") + 5)))
                return Problem{output, "is a file of the corpus and would be overwritten", "name another file"};
    }
    return std::nullopt;
}

}  // namespace

int run(const Common& common, const RunOptions& options) {
    const auto workspace = open_workspace(common);
    if (!workspace.ok()) return report(workspace.problem());
    const auto fail_on = parse_fail_on(options.fail_on);
    if (!fail_on.ok()) return report(fail_on.problem());
    const auto baseline = baseline_at(options, fail_on.value());
    if (!baseline.ok()) return report(baseline.problem());
    if (!options.profile.empty() && !any_has_profile(options.profile))
        return report({"--profile", fmt::format("'{}' is not a profile of any format", options.profile),
                       "use one of " + profiles_known()});
    const auto part = part_wanted(options);
    if (!part.ok()) return report(part.problem());
    auto cases = chosen_cases(workspace.value(), options.corpora, common);
    if (!cases.ok()) return report(cases.problem());
    if (const auto problem = check_wanted(options.wanted, cases.value())) return report(*problem);
    if (!options.again.empty())
        if (const auto problem = keep_cases_again(options, cases.value())) return report(*problem);
    for (const Case& c : cases.value())
        if (!c.why.empty())
            for (const Problem& problem : check_case(c))
                fmt::print(stderr, "warning: {}\n", text::printable(problem.line()));

    std::vector<Missing> missing = missing_if_all(workspace.value(), common);
    const auto subjects = subjects_of(workspace.value(), common, true, &missing);
    if (!subjects.ok()) return report(subjects.problem());
    if (const auto problem = unsupported_formats(cases.value(), subjects.value())) return report(*problem);
    if (const auto problem = check_outputs(options, cases.value())) return report(*problem);
    Kept kept;
    if (!options.store.empty()) {
        auto opened = kept_run_of(options, cases.value(), subjects.value());
        if (!opened.ok()) return report(opened.problem());
        kept = std::move(opened.value());
    }
    // Last of all that may be wrong with a call: a file that is there is emptied.
    std::vector<File> files;
    for (const std::string& path : {options.results, options.disagreements}) {
        files.emplace_back();
        if (path.empty()) continue;
        auto file = LineFile::create(path);
        if (!file.ok()) return report(file.problem());
        files.back() = std::move(file.value());
    }
    tell_missing(missing);

    Summary summary;
    BehaviourCollector collector;
    LineSink::Options written{.times = options.times};
    if (part.value()) {
        RunSetup setup = setup_of(cases.value(), subjects.value(), options.profile);
        setup.tool = NACHKLANG_VERSION;
        written.part = part_of_run(part.value()->first, part.value()->second, setup, subjects.value());
    }
    LineSink lines(files[0].get(), files[1].get(), written);
    Search search(options.wanted);
    std::vector<ResultSink*> views{&lines, &summary, &search};
    if (!options.recorded) views.push_back(&collector);
    SinkList shown(views);
    ShownAndKept sinks(shown, kept.sink.get());
    // Peers take part in groups and behaviours alone.
    std::vector<Subject> asked = subjects.value();
    if (options.recorded) std::ranges::move(recorded_peers(workspace.value(), asked), std::back_inserter(asked));
    WithoutPeers own(sinks, subjects.value().size());
    SinkList with_peers({&collector, &own});
    CampaignOptions campaign;
    campaign.workers = workers_of(options.workers);
    std::atomic<bool> stop = false;
    campaign.cancelled = &stop;
    campaign.profile = options.profile;
    if (part.value()) {
        campaign.part = part.value()->first - 1;
        campaign.parts = part.value()->second;
    }
    campaign.progress = [&](std::size_t, std::size_t) {
        if (interrupted() || lines.problem() || sinks.problem()) stop = true;
    };
    constexpr std::size_t split_budget = 400;  // documents a split
    if (options.shrink)
        campaign.explain =
            split_explainer(subjects.value(), interruptible_executors(), split_budget, &interrupted());
    if (options.resume) {
        campaign.first_chunk = kept.sink->first_chunk();
        campaign.gave_up = kept.sink->gave_up();
    }
    AnswerRecorder recorder(subjects.value());
    run_cases("run", cases.value(), asked, campaign,
              options.recorded ? static_cast<ResultSink&>(with_peers) : sinks,
              options.record.empty() ? interruptible_executors() : recorder.recording(interruptible_executors()));
    const std::string day = fmt::format("{:%Y-%m-%d}", fmt::gmtime(std::chrono::system_clock::now()));
    if (!options.record.empty() && !stop && !interrupted())
        if (const auto problem = write_file(options.record, recorder.record(day, NACHKLANG_VERSION)))
            return report(*problem);
    std::vector<Behaviour> behaviours = collector.behaviours();
    std::erase_if(behaviours, [&](const Behaviour& b) {
        return std::ranges::none_of(subjects.value(),
                                    [&](const Subject& s) { return s.implementation.name == b.implementation; });
    });
    if (options.shrink) shrink_witnesses(behaviours, subjects.value());
    if (kept.sink && !stop && !interrupted()) kept.sink->finish(behaviours);
    if (sinks.problem()) return report(*sinks.problem());
    // Of a part no behaviours are known: merging finds them from all results.
    if (part.value()) behaviours.clear();
    lines.finish(behaviours);
    if (lines.problem()) return report(*lines.problem());
    std::optional<SinceBaseline> since;
    if (!options.baseline.empty()) {
        since.emplace(SinceBaseline{kept_run(subjects.value(), cases.value(), behaviours), {}});
        since->changes = changes_between(baseline.value(), since->run);
    }
    const int status = fails(options, fail_on.value(), summary, since) ? exit_failing : exit_success;
    if (options.update_baseline && !interrupted())
        if (const auto problem = write_file(options.baseline, baseline_of(updated(baseline.value(), since->run))))
            return report(*problem);
    if (options.json) {
        for (const Behaviour& behaviour : behaviours) fmt::print("{}\n", line_of(record_of(behaviour)));
        return status;
    }
    if (options.results == "-" || options.disagreements == "-") return status;
    if (!options.wanted.everything()) {
        search.print(common.colour);
        return status;
    }
    if (options.list) summary.list(common.colour);
    if (options.by == "implementation" && !behaviours.empty()) {
        fmt::print("behaviours: what each implementation does, when, and which engines do the same\n");
        print_behaviours(behaviours, common.colour);
    }
    if (options.by == "implementation" && subjects.value().size() == 1)
        print_open_answers(collector.answers(), subjects.value().front().name(), common.colour);
    if (options.by == "question") print_questions(collector.answers(), common.colour);
    summary.print(common.colour, options.by == "cause");
    if (since) print_since(options, baseline.value(), *since, common.colour);
    if (options.times)
        summary.print_times(kept.sink ? std::optional(kept.sink->seconds()) : std::nullopt, common.colour);
    if (options.results.empty())
        print_folded(0,
                     "for details: --list shows every finding, --results FILE and --disagreements FILE write them");
    else
        fmt::print("details: {}\n", text::printable(options.results));
    return status;
}

}  // namespace tool

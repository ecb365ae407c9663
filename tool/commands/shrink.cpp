// `shrink`: find the smallest document that still shows a disagreement, with the same groups and the same cause, or
// a finding about one implementation.
#include <fmt/format.h>

#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <fstream>

#include "commands/commands.hpp"
#include "ui/terminal.hpp"

namespace tool {

using namespace nachklang;

namespace {

/// What a document shows, and a smaller one must still show: a disagreement with its groups, or a finding about one
/// implementation. The reference reader takes part in findings, so one implementation is enough.
struct Observation {
    Operation operation = Operation::decode;
    std::string layer;  ///< of a disagreement; empty for a finding
    std::string cause;
    std::string key;   ///< equal for documents that show the same
    std::string said;  ///< what is preserved, for people
    bool failing = false;
};

Observation observed(const Disagreement& d) {
    std::vector<std::string> groups;
    for (const Group& group : d.groups) groups.push_back(fmt::format("{}", fmt::join(group.implementations, " ")));
    std::sort(groups.begin(), groups.end());
    const std::string why = d.question.empty() ? d.cause : "question " + d.question;
    const auto layer = name_of(d.layer);
    return {d.operation,
            std::string(layer),
            d.cause,
            fmt::format("{} {} {} | {}", name_of(d.operation), layer, why, fmt::join(groups, " | ")),
            fmt::format("{} at the layer {}, {} groups", why, layer, d.groups.size()),
            false};
}

/// One for each cause of a finding that is not settled.
std::vector<Observation> observed(const Result& r) {
    std::vector<Observation> out;
    if (is_settled(r.finding.kind)) return out;
    for (const Difference& d : r.finding.causes) {
        const std::string key =
            fmt::format("{} {}: {} {}", r.subject->name(), name_of(r.operation), name_of(r.finding.kind), d.cause);
        out.push_back({r.operation, "", d.cause, key, key, r.finding.failing()});
    }
    return out;
}

/// Runs candidate documents through all subjects and returns what they show: disagreements, then findings.
class Probe {
  public:
    Probe(const Format& format, const std::vector<Subject>& subjects) : format_(format), subjects_(subjects) {}

    std::vector<std::vector<Observation>> run(std::span<const std::string> documents) const {
        std::vector<Case> cases;
        for (std::size_t i = 0; i < documents.size(); ++i)
            cases.push_back(case_of_document("shrinking", std::to_string(i), format_, documents[i]));
        std::vector<std::vector<Observation>> out(documents.size());
        CampaignOptions options;
        options.workers = 2;
        options.cancelled = &interrupted();
        FunctionSink sink([&](const ChunkReport& report) {
            for (const Disagreement& d : report.disagreements) out[std::stoul(d.case_name)].push_back(observed(d));
            for (const Result& r : report.results)
                if (r.enclosed_of == nullptr)
                    for (Observation& o : observed(r)) out[std::stoul(r.test_case->name)].push_back(std::move(o));
        });
        run_campaign(cases, subjects_, interruptible_executors(), options, sink);
        return out;
    }

  private:
    const Format& format_;
    const std::vector<Subject>& subjects_;
};

/// The first disagreement that was asked for; if there is none, the first finding, failing ones before others.
const Observation* chosen(const std::vector<Observation>& shown, const ShrinkOptions& options) {
    const auto fits = [&](const Observation& o) {
        return (options.layer.empty() || o.layer == options.layer) &&
               (options.cause.empty() || o.cause == options.cause) &&
               (options.operation.empty() || name_of(o.operation) == options.operation);
    };
    const Observation* out = nullptr;
    for (const Observation& o : shown) {
        if (!fits(o)) continue;
        if (!o.layer.empty()) return &o;
        if (out == nullptr || (o.failing && !out->failing)) out = &o;
    }
    return out;
}

/// Checked before the search, so that a long search is not lost. An existing file is kept until there is a result.
std::optional<Problem> unwritable(const std::string& path) {
    if (path.empty()) return std::nullopt;
    const std::string folder = std::filesystem::path(path).parent_path().string();
    const bool there = ::access(path.c_str(), F_OK) == 0;
    if (::access(there ? path.c_str() : (folder.empty() ? "." : folder.c_str()), W_OK) == 0) return std::nullopt;
    return Problem{path, fmt::format("cannot be written: {}", std::strerror(errno)),
                   "name a file in a folder that can be written"};
}

}  // namespace

int shrink_document(const Common& common, const ShrinkOptions& options) {
    const auto workspace = open_workspace(common);
    if (!workspace.ok()) return report(workspace.problem());
    if (const auto problem = unwritable(options.output)) return report(*problem);
    auto bytes = document_of(options.file);
    if (!bytes.ok()) return report(bytes.problem());
    const Format& format = format_of(common, options.file, bytes.value());
    const auto subjects = subjects_of(workspace.value(), common);
    if (!subjects.ok()) return report(subjects.problem());
    if (!any_supports(subjects.value(), format)) return report(no_support_for(format.name()));

    const Probe probe(format, subjects.value());
    const std::string& document = bytes.value();
    const auto shown = probe.run({&document, 1}).front();
    const Observation* wanted = chosen(shown, options);
    if (wanted == nullptr)
        return report({options.file,
                       shown.empty() ? "the implementations agree on it, and with the reference reader"
                                     : "it shows something, but not what the options ask for",
                       shown.empty()
                           ? "select other implementations, or a document for which `try` shows a difference"
                           : "it shows: " + shown.front().said});
    fmt::print(stderr, "{} bytes; preserving: {}\n", document.size(), text::printable(wanted->said));

    Progress bar("shrink");
    const std::size_t whole = document.size();
    const Shrunk shrunk = shrink(
        format, document,
        [&](std::span<const std::string> candidates) {
            std::vector<bool> out;
            for (const auto& observations : probe.run(candidates))
                out.push_back(std::any_of(observations.begin(), observations.end(),
                                          [&](const Observation& o) { return o.key == wanted->key; }));
            return out;
        },
        options.budget, [&](std::size_t size, std::size_t) { bar.show(whole - size, whole); });

    bar.clear();
    fmt::print(stderr, "{} bytes left; {} documents tried, {} cuts applied{}\n", shrunk.document.size(),
               shrunk.tried, shrunk.kept, shrunk.complete ? "" : "; the budget ran out: --budget allows more");
    if (options.output.empty()) {
        std::fwrite(shrunk.document.data(), 1, shrunk.document.size(), stdout);
        if (!shrunk.document.ends_with('\n')) std::fputc('\n', stdout);
        return exit_success;
    }
    std::ofstream out(options.output, std::ios::binary);
    out.write(shrunk.document.data(), static_cast<std::streamsize>(shrunk.document.size()));
    out.close();
    if (!out) return report({options.output, "cannot be written", "name a file in a folder that can be written"});
    return exit_success;
}

}  // namespace tool

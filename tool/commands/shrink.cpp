// `shrink`: find the smallest document that still shows a disagreement, with the same groups and the same cause.
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

/// The disagreement that a smaller document must still show.
struct Signature {
    Operation operation = Operation::decode;
    Layer layer = Layer::verdict;
    std::string why;
    std::vector<std::vector<std::string>> groups;
    friend bool operator==(const Signature&, const Signature&) = default;
};

Signature signature_of(const Disagreement& d) {
    Signature out{d.operation, d.layer, d.question + " " + d.cause, {}};
    for (const Group& group : d.groups) out.groups.push_back(group.implementations);
    std::sort(out.groups.begin(), out.groups.end());
    return out;
}

/// Runs candidate documents through all subjects and returns where they disagree.
class DisagreementProbe {
  public:
    DisagreementProbe(const Format& format, const std::vector<Subject>& subjects)
        : format_(format), subjects_(subjects) {}

    std::vector<std::vector<Disagreement>> run(std::span<const std::string> documents) const {
        std::vector<Case> cases;
        for (std::size_t i = 0; i < documents.size(); ++i)
            cases.push_back(case_of_document("shrinking", std::to_string(i), format_, documents[i]));
        std::vector<std::vector<Disagreement>> out(documents.size());
        CampaignOptions options;
        options.workers = 2;
        options.cancelled = &interrupted();
        FunctionSink sink([&](const ChunkReport& report) {
            for (const Disagreement& d : report.disagreements) out[std::stoul(d.case_name)].push_back(d);
        });
        run_campaign(
            cases, subjects_, [&](const Subject& s) { return make_executor(s, &interrupted()); }, options, sink);
        return out;
    }

  private:
    const Format& format_;
    const std::vector<Subject>& subjects_;
};

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

    const DisagreementProbe probe(format, subjects.value());
    const std::string& document = bytes.value();
    auto found = probe.run({&document, 1}).front();
    const auto wanted = std::find_if(found.begin(), found.end(), [&](const Disagreement& d) {
        return options.layer.empty() || name_of(d.layer) == options.layer;
    });
    if (wanted == found.end())
        return report({options.file,
                       options.layer.empty() ? "the implementations agree on it"
                                             : "the implementations agree on it at the layer " + options.layer,
                       "select other implementations, or a document for which `try` shows a difference"});
    const Signature signature = signature_of(*wanted);
    const std::string why = wanted->question.empty() ? wanted->cause : "question " + wanted->question;
    fmt::print(stderr, "{} bytes; preserving: {} at the layer {}, {} groups\n", document.size(), why,
               name_of(wanted->layer), wanted->groups.size());

    Progress bar("shrink");
    const std::size_t whole = document.size();
    const Shrunk shrunk = shrink(
        format, document,
        [&](std::span<const std::string> candidates) {
            std::vector<bool> out;
            for (const auto& disagreements : probe.run(candidates))
                out.push_back(std::any_of(disagreements.begin(), disagreements.end(),
                                          [&](const Disagreement& d) { return signature_of(d) == signature; }));
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

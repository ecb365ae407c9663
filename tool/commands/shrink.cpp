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

#include <nachklang/observations.hpp>

#include "commands/commands.hpp"
#include "ui/terminal.hpp"

namespace tool {

using namespace nachklang;

namespace {

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

/// A verdict is explained by the smallest document that divides the implementations in the same way.
void print_cause(const DocumentProbe& probe, const std::string& document, const Observation& wanted) {
    for (const Observation& o : probe.observe({&document, 1}).front())
        if (o.key == wanted.key && o.why != wanted.why)
            fmt::print(stderr, "cause: {}; {} in the first document explained nothing\n", text::printable(o.why),
                       text::printable(wanted.why));
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

    const DocumentProbe probe(format, subjects.value(), interruptible_executors(), &interrupted());
    const std::string& document = bytes.value();
    const auto shown = probe.observe({&document, 1}).front();
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
    const Shrunk shrunk = probe.smallest(document, wanted->key, options.budget,
                                         [&](std::size_t size, std::size_t) { bar.show(whole - size, whole); });
    bar.clear();
    fmt::print(stderr, "{} bytes left; {} documents tried, {} cuts applied{}\n", shrunk.document.size(),
               shrunk.tried, shrunk.kept, shrunk.complete ? "" : "; the budget ran out: --budget allows more");
    if (wanted->layer == name_of(Layer::verdict)) print_cause(probe, shrunk.document, *wanted);
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

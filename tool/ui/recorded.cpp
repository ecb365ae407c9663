// See recorded.hpp.
#include "ui/recorded.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cstdio>
#include <filesystem>
#include <set>

#include <nachklang/recorded.hpp>
#include <nachklang/text.hpp>

#include "ui/workspace.hpp"

namespace tool {

using namespace nachklang;

namespace {

bool is_installed(const Subject& recorded, std::span<const Subject> installed) {
    return std::any_of(installed.begin(), installed.end(), [&](const Subject& subject) {
        return recorded.recorded_name() == subject.name() && recorded.version == subject.version;
    });
}

}  // namespace

std::vector<Subject> recorded_beside(const Workspace& workspace, std::span<const Subject> installed) {
    const std::string path = workspace.data_folder + "/recorded/answers.zst";
    std::error_code missing;
    if (!std::filesystem::exists(path, missing)) return {};
    const auto answers = RecordedAnswers::read(path);
    if (!answers.ok()) {
        fmt::print(stderr, "warning: {}\n", text::printable(answers.problem().line()));
        return {};
    }
    std::vector<Subject> out = answers.value()->subjects();
    std::erase_if(out, [&](const Subject& subject) { return is_installed(subject, installed); });
    return out;
}

std::vector<Subject> recorded_peers(const Workspace& workspace, std::span<const Subject> installed) {
    std::vector<Subject> out = recorded_beside(workspace, installed);
    keep_usual_modes(out);
    return out;
}

bool WithoutPeers::is_own(const Subject* subject) const {
    return static_cast<std::size_t>(subject - subjects_.data()) < own_;
}

void WithoutPeers::begin(const RunHeader& header) {
    subjects_ = header.subjects;
    RunHeader own = header;
    own.subjects = header.subjects.first(own_);
    to_.begin(own);
}

void WithoutPeers::chunk(const ChunkReport& report) {
    ChunkReport own = report;
    std::erase_if(own.results, [&](const Result& result) { return !is_own(result.subject); });
    if (own.gave_up.size() > own_) own.gave_up.resize(own_);
    to_.chunk(own);
}

void WithoutPeers::incident(const IncidentReport& report) {
    if (is_own(report.subject)) to_.incident(report);
}

void WithoutPeers::end(const RunEnd& how) {
    RunEnd own = how;
    own.seconds = how.seconds.first(std::min(own_, how.seconds.size()));
    to_.end(own);
}

}  // namespace tool

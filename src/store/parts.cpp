// Chunk number n lies in the file of part n modulo the number of parts; so the files are read side by side, and no
// more than a chunk is held.
#include <nachklang/parts.hpp>

#include <fmt/format.h>

#include <algorithm>
#include <fstream>

#include "store/restored.hpp"

namespace nachklang {
namespace {

/// The records of a part's file, a chunk at a time.
class PartFile {
  public:
    static Checked<PartFile> open(const std::string& path) {
        PartFile out(path);
        if (!out.in_) return Problem{path, "cannot be read", "name a file that `run --part` wrote"};
        out.advance();
        const auto first = parse_record(out.line_);
        const auto* run = first.ok() ? std::get_if<RunRecord>(&first.value()) : nullptr;
        if (run == nullptr || !run->part || run->part->part < 1 || run->part->part > run->part->parts)
            return Problem{path, "is not the results file of a part",
                           "write it with `run --part K/N --results FILE`"};
        out.run_ = *run;
        out.advance();
        return out;
    }

    [[nodiscard]] const std::string& path() const { return path_; }
    [[nodiscard]] const RunRecord& run() const { return run_; }
    [[nodiscard]] const PartOfRun& part() const { return *run_.part; }

    /// The number of the chunk that comes next, if one does.
    [[nodiscard]] std::optional<std::size_t> next() const {
        if (!line_.starts_with(chunk_mark)) return std::nullopt;
        const auto record = parse_record(line_);
        if (!record.ok()) return std::nullopt;
        const auto* chunk = std::get_if<ChunkRecord>(&record.value());
        return chunk == nullptr ? std::nullopt : std::optional(chunk->number);
    }
    /// The lines of that chunk.
    std::string take() {
        std::string out;
        for (advance(); in_ && !line_.starts_with(chunk_mark) && !is_after_chunks(); advance()) out += line_ + "\n";
        return out;
    }
    /// After the last chunk: whether the part was run to its end.
    [[nodiscard]] bool ends_well() {
        while (in_ && line_.starts_with(times_mark)) advance();
        const auto record = parse_record(line_);
        if (!record.ok()) return false;
        const auto* end = std::get_if<EndRecord>(&record.value());
        return end != nullptr && !end->interrupted;
    }

  private:
    static constexpr std::string_view chunk_mark = R"({"record":"chunk",)", end_mark = R"({"record":"end",)",
                                      times_mark = R"({"record":"times",)";
    explicit PartFile(const std::string& path) : path_(path), in_(path, std::ios::binary) {}
    [[nodiscard]] bool is_after_chunks() const {
        return line_.starts_with(end_mark) || line_.starts_with(times_mark);
    }
    void advance() {
        line_.clear();
        std::getline(in_, line_);
    }

    std::string path_;
    std::ifstream in_;
    std::string line_;  // the next one
    RunRecord run_;
};

std::optional<Problem> check(const std::vector<PartFile>& files, std::span<const Case> cases) {
    const PartFile& first = files.front();
    std::vector<const PartFile*> known(first.part().parts, nullptr);
    for (const PartFile& file : files) {
        const PartOfRun& part = file.part();
        if (part.parts != first.part().parts || part.setup != first.part().setup)
            return Problem{file.path(), fmt::format("is a part of another run than {}", first.path()),
                           "run all parts with one version, the same implementations, corpora and filters"};
        const PartFile*& place = known[part.part - 1];
        if (place != nullptr)
            return Problem{file.path(),
                           fmt::format("is part {} of {}, as {} is", part.part, part.parts, place->path()),
                           "name each part once"};
        place = &file;
    }
    for (std::size_t i = 0; i < known.size(); ++i)
        if (known[i] == nullptr)
            return Problem{"parts", fmt::format("part {} of {} is missing", i + 1, known.size()),
                           fmt::format("run it with --part {}/{}, and name its file, too", i + 1, known.size())};
    if (setup_of(cases, {}, "").cases != first.part().cases)
        return Problem{first.path(), "the corpora are not those of the parts",
                       "name the corpora and filters that the parts were run with"};
    return std::nullopt;
}

std::vector<Subject> subjects_of(const RunRecord& run) {
    std::vector<Subject> out;
    for (std::size_t i = 0; i < run.implementations.size(); ++i) {
        const RunRecord::Entry& entry = run.implementations[i];
        Subject subject;
        const auto slash = entry.implementation.find('/');
        subject.implementation.name = entry.implementation.substr(0, slash);
        if (slash != std::string::npos) subject.mode = entry.implementation.substr(slash + 1);
        subject.version = entry.version;
        subject.engine = entry.engine;
        subject.settings = run.part->settings.at(i);
        out.push_back(std::move(subject));
    }
    return out;
}

/// The lines of all chunks in their order, and their results to a sink.
std::optional<Problem> merge_chunks(std::vector<PartFile>& files, store::Restorer& restorer, ResultSink& sink,
                                    LineFile& out) {
    for (std::size_t number = 0;; ++number) {
        PartFile& file = files[number % files.size()];
        if (file.next() != number) break;
        const std::string lines = file.take();
        if (!lines.empty())
            if (auto problem = out.write(lines.substr(0, lines.size() - 1))) return problem;
        const auto restored = restorer.chunk(lines);
        sink.chunk(restored.report);
        for (const IncidentReport& incident : restored.incidents) sink.incident(incident);
    }
    for (PartFile& file : files) {
        if (file.next())
            return Problem{file.path(), fmt::format("chunk {} does not follow the others", *file.next()),
                           "run it again"};
        if (!file.ends_well()) return Problem{file.path(), "the part was not run to its end", "run it again"};
    }
    return std::nullopt;
}

}  // namespace

PartOfRun part_of_run(std::size_t part, std::size_t parts, const RunSetup& setup,
                      std::span<const Subject> subjects) {
    PartOfRun out{part,
                  parts,
                  digest_of(setup.tool + "\n" + setup.cases + "\n" + setup.subjects + "\n" + setup.profile).hex(),
                  setup.cases,
                  {}};
    for (const Subject& subject : subjects) out.settings.push_back(subject.settings);
    return out;
}

std::optional<Problem> merge_parts(std::span<const std::string> files, std::span<const Case> cases, LineFile& out) {
    std::vector<PartFile> parts;
    for (const std::string& file : files) {
        auto opened = PartFile::open(file);
        if (!opened.ok()) return opened.problem();
        parts.push_back(std::move(opened.value()));
    }
    if (parts.empty()) return Problem{"parts", "no file is named", "name the file of each part"};
    if (auto problem = check(parts, cases)) return problem;
    std::sort(parts.begin(), parts.end(),
              [](const PartFile& a, const PartFile& b) { return a.part().part < b.part().part; });
    const std::vector<Subject> subjects = subjects_of(parts.front().run());
    RunRecord run = parts.front().run();
    run.part.reset();
    BehaviourCollector collector;
    collector.begin({run.cases, subjects});
    if (auto problem = out.write(line_of(run))) return problem;
    store::Restorer restorer(cases, subjects);
    try {
        if (auto problem = merge_chunks(parts, restorer, collector, out)) return problem;
    } catch (const std::exception& error) {
        return Problem{"parts", text::printable(error.what()), "run the parts again"};
    }
    collector.end({});
    for (const Behaviour& behaviour : collector.behaviours())
        if (auto problem = out.write(line_of(record_of(behaviour)))) return problem;
    if (auto problem = out.write(line_of(EndRecord{false}))) return problem;
    return out.flush();
}

}  // namespace nachklang

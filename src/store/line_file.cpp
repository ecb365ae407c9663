// A file of lines, and the sink that writes records to it. Every write is checked: a full disk is a problem, not a
// silent loss.
#include <cerrno>
#include <cstdio>
#include <cstring>

#include <nachklang/store.hpp>

namespace nachklang {

struct LineFile::File {
    std::FILE* handle = nullptr;
    std::string path;
    ~File() {
        if (handle != nullptr && handle != stdout) std::fclose(handle);
    }
    [[nodiscard]] Problem problem() const {
        return {path, std::string("cannot be written: ") + std::strerror(errno),
                "the lines so far are kept; make room or name another file"};
    }
};

LineFile::LineFile(std::unique_ptr<File> file) : file_(std::move(file)) {}
LineFile::~LineFile() = default;

Checked<std::unique_ptr<LineFile>> LineFile::create(const std::string& path) {
    auto file = std::make_unique<File>();
    file->path = path;
    file->handle = path == "-" ? stdout : std::fopen(path.c_str(), "wbe");
    if (file->handle == nullptr)
        return Problem{path, std::string("cannot be written: ") + std::strerror(errno),
                       "name a file in a folder that can be written"};
    return std::unique_ptr<LineFile>(new LineFile(std::move(file)));
}

std::optional<Problem> LineFile::write(const std::string& line) {
    if (std::fwrite(line.data(), 1, line.size(), file_->handle) != line.size() ||
        std::fputc('\n', file_->handle) == EOF)
        return file_->problem();
    return std::nullopt;
}
std::optional<Problem> LineFile::flush() {
    if (std::fflush(file_->handle) != 0) return file_->problem();
    return std::nullopt;
}

void LineSink::write(LineFile* file, const Record& record) {
    if (file != nullptr && !problem_) problem_ = file->write(line_of(record));
}
void LineSink::flush() {
    for (LineFile* file : {results_, disagreements_})
        if (file != nullptr && !problem_) problem_ = file->flush();
}
void LineSink::begin(const RunHeader& header) {
    RunRecord run = record_of(header);
    run.part = options_.part;
    write(results_, run);
    times_.seconds.clear();
    for (const Subject& subject : header.subjects) times_.seconds.emplace_back(subject.name(), 0);
    flush();
}
void LineSink::chunk(const ChunkReport& report) {
    if (options_.part) write(results_, ChunkRecord{report.number});
    for (const Result& r : report.results) write(results_, record_of(r));
    for (const Disagreement& d : report.disagreements) write(disagreements_, record_of(d));
    flush();
}
void LineSink::incident(const IncidentReport& report) {
    write(results_, record_of(report));
    flush();
}
void LineSink::end(const RunEnd& how) {
    interrupted_ = how.cancelled;
    for (std::size_t i = 0; i < std::min(how.seconds.size(), times_.seconds.size()); ++i)
        times_.seconds[i].second = how.seconds[i];
    flush();
}
void LineSink::finish(const std::vector<Behaviour>& behaviours) {
    for (const Behaviour& behaviour : behaviours) write(results_, record_of(behaviour));
    if (options_.times) write(results_, times_);
    write(results_, EndRecord{interrupted_});
    flush();
}

}  // namespace nachklang

#include <fmt/format.h>

#include <algorithm>
#include <cerrno>
#include <cstdio>
#include <cstring>
#include <nlohmann/json.hpp>

#include <nachklang/store.hpp>

namespace nachklang {
namespace {

using Json = nlohmann::ordered_json;

template <class T>
Json or_null(const std::optional<T>& value) {
    return value ? Json(*value) : Json(nullptr);
}
Json or_null(const std::string& value) {
    return value.empty() ? Json(nullptr) : Json(value);
}

/// Text goes in as it is where it is UTF-8, else as hexadecimal digits under another name.
void put_text(Json& record, const std::string& key, const std::string& bytes) {
    if (bytes.empty()) {
        record[key] = nullptr;
    } else if (!text::first_ill_formed(bytes)) {
        record[key] = bytes;
    } else {
        record[key] = nullptr;
        record[key + "_hex"] = text::to_hex(bytes);
    }
}

/// Any text as UTF-8: for texts that we made ourselves from what others said.
std::string utf8(const std::string& bytes) {
    return text::first_ill_formed(bytes) ? text::printable(bytes) : bytes;
}

Json digests_of(const std::optional<LayerDigests>& digests) {
    if (!digests) return nullptr;
    Json out;
    for (const Layer layer : {Layer::value, Layer::exact, Layer::representation, Layer::order})
        out[std::string(name_of(layer))] = (*digests)[static_cast<std::size_t>(layer)].hex();
    return out;
}

}  // namespace

std::string record_of_run(std::size_t cases, std::span<const Subject> subjects) {
    Json out;
    out["record"] = "run";
    out["version"] = 1;
    out["cases"] = cases;
    out["implementations"] = Json::array();
    for (const Subject& s : subjects)
        out["implementations"].push_back({{"implementation", s.name()},
                                          {"version", s.version},
                                          {"engine", s.engine},
                                          {"reach", name_of(s.implementation.reach)}});
    return out.dump();
}

std::string record_of(const Result& r) {
    Json out;
    out["record"] = "result";
    out["corpus"] = utf8(r.test_case->corpus);
    out["case"] = utf8(r.test_case->name);
    out["implementation"] = r.subject->name();
    out["operation"] = name_of(r.operation);
    out["outcome"] = name_of(r.outcome.kind);
    out["finding"] = name_of(r.finding.kind);
    out["basis"] = r.finding.basis ? Json(name_of(*r.finding.basis)) : Json(nullptr);
    out["answers"] = Json::array();
    for (const GivenAnswer& a : r.finding.answers)
        out["answers"].push_back(
            {{"question", a.question}, {"answered", a.answered}, {"declared", or_null(a.declared)}});
    out["cause"] = or_null(r.finding.cause());
    out["causes"] = Json::array();
    for (const Difference& d : r.finding.causes) out["causes"].push_back({{"cause", d.cause}, {"at", utf8(d.at)}});
    out["reformatted"] = r.finding.reformatted;
    for (const Advice& a : r.finding.advice)
        out["advice"].push_back(
            {{"clause", a.clause}, {"message", utf8(a.message)}, {"offset", a.position.offset}});
    out["detail"] = or_null(utf8(r.finding.detail));
    out["clause"] = or_null(r.finding.clause);
    out["digests"] = digests_of(r.digests);
    out["offset"] = or_null(r.outcome.offset);
    out["line"] = or_null(r.outcome.line);
    out["column"] = or_null(r.outcome.column);
    put_text(out, "message", r.outcome.kind == OutcomeKind::accepted ? std::string{} : r.outcome.body);
    put_text(out, "log", r.outcome.log);
    return out.dump();
}

std::string record_of(const Disagreement& d) {
    Json out;
    out["record"] = "disagreement";
    out["corpus"] = utf8(d.corpus);
    out["case"] = utf8(d.case_name);
    out["operation"] = name_of(d.operation);
    out["layer"] = name_of(d.layer);
    out["question"] = or_null(d.question);
    out["cause"] = or_null(d.cause);
    out["detail"] = or_null(utf8(d.detail));
    out["groups"] = Json::array();
    for (const Group& group : d.groups)
        out["groups"].push_back({{"shown", utf8(group.shown)},
                                 {"implementations", group.implementations},
                                 {"engines", group.engines},
                                 {"not_reported", group.not_reported}});
    out["not_reported"] = d.not_reported;
    return out.dump();
}

std::string record_of(const IncidentReport& i) {
    Json out;
    out["record"] = "incident";
    out["implementation"] = i.subject->name();
    out["sequence"] = Json::array();
    for (const std::string& step : i.sequence) out["sequence"].push_back(utf8(step));
    out["outcome"] = name_of(i.outcome);
    out["detail"] = or_null(utf8(i.detail));
    return out.dump();
}

struct LineFile::File {
    std::FILE* handle = nullptr;
    std::string path;
    ~File() {
        if (handle != nullptr) std::fclose(handle);
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
    file->handle = std::fopen(path.c_str(), "wb");
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

}  // namespace nachklang

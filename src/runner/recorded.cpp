// Recorded answers as executors. The file is a text, compressed, with a line for each request. An answer in it is
// parsed when it is asked for.
#include <fmt/format.h>

#include <algorithm>
#include <nlohmann/json.hpp>
#include <numeric>
#include <span>

#include <nachklang/corpus.hpp>
#include <nachklang/recorded.hpp>
#include <nachklang/text.hpp>

#include "text/packed.hpp"

namespace nachklang {
namespace {

using Json = nlohmann::json;

constexpr int file_version = 1;
/// Of each implementation: which of a line's answers it gave, in hexadecimal digits.
constexpr std::size_t given_width = 3;
constexpr std::string_view none_given = "---";
/// Longer answers are left out: the record is for comparing, and most of its size would be theirs.
constexpr std::size_t longest_answer = 8192, longest_message = 160;

Json of_text(std::string_view text) {
    if (!text::first_ill_formed(text)) return std::string(text);
    return {{"hex", text::to_hex(text)}};
}
std::string to_text(const Json& value) {
    if (value.is_string()) return value.get<std::string>();
    return text::from_hex(value.at("hex").get<std::string>()).value_or("");
}

/// Nothing for a written text that is too long to be kept.
std::optional<std::string> line_of(const Outcome& outcome) {
    Json out{{"outcome", name_of(outcome.kind)}};
    if (outcome.trace) {
        // Without its value, an answer still is a verdict.
        if (outcome.trace->text().size() <= longest_answer) out["value"] = outcome.trace->text();
    } else if (outcome.kind == OutcomeKind::accepted) {
        if (outcome.body.size() > longest_answer) return std::nullopt;
        if (!outcome.body.empty()) out["written"] = of_text(outcome.body);
    } else {
        out["message"] = of_text(text::printable_excerpt(outcome.body, longest_message));
    }
    if (!outcome.reported.empty()) out["reported"] = of_text(outcome.reported);
    for (const auto& [name, place] :
         {std::pair{"offset", &outcome.offset}, {"line", &outcome.line}, {"column", &outcome.column}})
        if (*place) out[name] = **place;
    if (!outcome.unit.empty()) out["unit"] = outcome.unit;
    return out.dump();
}

std::optional<Outcome> outcome_of(const Json& in) {
    const auto kind = find_outcome(in.at("outcome").get<std::string>());
    if (!kind) return std::nullopt;
    Outcome out;
    out.kind = *kind;
    if (in.contains("value")) out.trace = Trace::parse(in.at("value").get<std::string>());
    if (in.contains("written")) out.body = to_text(in.at("written"));
    if (in.contains("message")) out.body = to_text(in.at("message"));
    if (in.contains("reported")) out.reported = to_text(in.at("reported"));
    for (const auto& [name, place] :
         {std::pair{"offset", &out.offset}, {"line", &out.line}, {"column", &out.column}})
        if (in.contains(name)) *place = in.at(name).get<std::uint64_t>();
    out.unit = in.value("unit", "");
    return out;
}

Json of_subject(const Subject& subject) {
    const Implementation& implementation = subject.implementation;
    Json declares = Json::array();
    for (const auto& [question, answer] : implementation.declares) declares.push_back({question, answer});
    return {{"implementation", implementation.name},
            {"mode", subject.mode},
            {"version", subject.version},
            {"engine", subject.engine},
            {"set", implementation.set},
            {"declares", std::move(declares)},
            {"operations", subject.operations},
            {"cannot_represent", subject.cannot_represent},
            {"settings", subject.settings}};
}

Subject subject_of(const Json& in) {
    Subject out;
    out.implementation.name = in.at("implementation").get<std::string>();
    out.implementation.set = in.at("set").get<std::string>();
    for (const Json& pair : in.at("declares"))
        out.implementation.declares.emplace_back(pair.at(0).get<std::string>(), pair.at(1).get<std::string>());
    out.mode = in.at("mode").get<std::string>();
    out.version = in.at("version").get<std::string>();
    out.engine = in.at("engine").get<std::string>();
    out.operations = in.at("operations").get<decltype(out.operations)>();
    out.cannot_represent = in.at("cannot_represent").get<CannotRepresent>();
    out.settings = in.at("settings").get<Settings>();
    for (const auto& [format, operations] : out.operations) out.implementation.formats.push_back(format);
    return out;
}

/// "0123456789abcdef decode" opens a line; an operation without its value ends with " unshown".
std::string head_of(const RecordedRequest& request) {
    return fmt::format("{:016x} {}{}", request.document, name_of(request.operation),
                       request.show ? "" : " unshown");
}
RecordedRequest request_of(std::string_view head) {
    RecordedRequest out;
    out.document = std::stoull(std::string(head.substr(0, 16)), nullptr, 16);
    std::string_view words = head.substr(17);
    out.show = !words.ends_with(" unshown");
    if (!out.show) words.remove_suffix(8);
    const auto operation = find_operation(words);
    if (!operation) throw std::runtime_error("a line names no operation");
    out.operation = *operation;
    return out;
}

class Recorded final : public Executor {
  public:
    Recorded(std::shared_ptr<const RecordedAnswers> answers, Subject subject)
        : answers_(std::move(answers)), subject_(std::move(subject)) {}
    Chunk run(std::span<const Request> requests) override {
        Chunk out;
        for (const Request& request : requests) {
            auto answer = answers_->answer(subject_, request);
            out.outcomes.push_back(answer ? std::move(*answer) : not_asked("no answer to this is recorded"));
        }
        return out;
    }

  private:
    std::shared_ptr<const RecordedAnswers> answers_;
    Subject subject_;
};

class Recording final : public Executor {
  public:
    Recording(std::unique_ptr<Executor> asked, AnswerRecorder& recorder, std::size_t subject)
        : asked_(std::move(asked)), recorder_(recorder), subject_(subject) {}
    Chunk run(std::span<const Request> requests) override {
        Chunk out = asked_->run(requests);
        for (std::size_t i = 0; i < requests.size(); ++i) recorder_.take(subject_, requests[i], out.outcomes[i]);
        return out;
    }
    void restart() override { asked_->restart(); }
    bool keeps_in_step() override { return asked_->keeps_in_step(); }
    void isolate_rows() override { asked_->isolate_rows(); }

  private:
    std::unique_ptr<Executor> asked_;
    AnswerRecorder& recorder_;
    std::size_t subject_;
};

}  // namespace

RecordedRequest recorded_request(const Request& request) {
    // A document that is decoded into a record is another request for each type.
    const std::string& record = request.record;
    return {digest_of(record.empty() ? *request.body : *request.body + '\0' + record).high, request.operation,
            request.show};
}

Checked<std::shared_ptr<const RecordedAnswers>> RecordedAnswers::read(const std::string& path) {
    const auto problem = [&](std::string what) {
        return Problem{path, std::move(what), "write it anew with `nachklang run --record FILE`"};
    };
    const auto bytes = read_file(path);
    if (!bytes.ok()) return problem("cannot be read");
    std::shared_ptr<RecordedAnswers> out(new RecordedAnswers);
    try {
        out->text_ = text::unpacked(bytes.value());
        const std::string_view all = out->text_;
        std::size_t at = all.find('\n');
        const Json header = Json::parse(all.substr(0, at));
        if (header.at("version") != file_version) return problem("is of another version");
        out->made_ = header.at("made").get<std::string>();
        out->version_ = header.at("nachklang").get<std::string>();
        for (const Json& subject : header.at("subjects")) {
            out->subjects_.push_back(subject_of(subject));
            out->positions_.emplace(out->subjects_.back().name(), out->subjects_.size() - 1);
        }
        for (++at; at < all.size();) {
            const std::size_t end = std::min(all.find('\n', at), all.size());
            const std::string_view line = all.substr(at, end - at);
            const std::size_t tab = line.find('\t');
            if (tab == std::string_view::npos ||
                line.find('\t', tab + 1) != tab + 1 + given_width * out->subjects_.size())
                throw std::runtime_error("a line does not name an answer of each implementation");
            out->lines_.emplace(request_of(line.substr(0, tab)), line.substr(tab + 1));
            at = end + 1;
        }
    } catch (const std::exception&) {
        return problem("is no record of answers, or damaged");
    }
    return std::shared_ptr<const RecordedAnswers>(std::move(out));
}

std::vector<Subject> RecordedAnswers::subjects() const {
    std::vector<Subject> out = subjects_;
    for (Subject& subject : out) {
        const std::string word = subject.version.substr(0, subject.version.find(' '));
        subject.implementation.name += "@" + (word.empty() ? "recorded" : word);
        subject.recorded = shared_from_this();
    }
    return out;
}

std::optional<Outcome> RecordedAnswers::answer(const Subject& subject, const Request& request) const {
    const auto position = positions_.find(subject.recorded_name());
    const auto line = lines_.find(recorded_request(request));
    if (position == positions_.end() || line == lines_.end()) return std::nullopt;
    std::string_view fields = line->second;
    const std::string_view given = fields.substr(position->second * given_width, given_width);
    if (given == none_given) return std::nullopt;
    for (auto skip = std::stoul(std::string(given), nullptr, 16) + 1; skip > 0; --skip)
        fields.remove_prefix(fields.find('\t') + 1);
    return outcome_of(Json::parse(fields.substr(0, fields.find('\t'))));
}

std::unique_ptr<Executor> RecordedAnswers::executor(const Subject& subject) const {
    return std::make_unique<Recorded>(shared_from_this(), subject);
}

AnswerRecorder::AnswerRecorder(std::span<const Subject> subjects) : subjects_(subjects.begin(), subjects.end()) {}

ExecutorFactory AnswerRecorder::recording(ExecutorFactory make) {
    return [this, make = std::move(make)](const Subject& subject) -> std::unique_ptr<Executor> {
        const auto found = std::find_if(subjects_.begin(), subjects_.end(),
                                        [&](const Subject& known) { return known.name() == subject.name(); });
        if (found == subjects_.end()) return make(subject);
        return std::make_unique<Recording>(make(subject), *this,
                                           static_cast<std::size_t>(found - subjects_.begin()));
    };
}

void AnswerRecorder::take(std::size_t subject, const Request& request, const Outcome& outcome) {
    // An answer of the machine's or of the adapter's fault is no answer of the library.
    if (!was_asked(outcome.kind) || is_adapters_fault(outcome.kind)) return;
    const auto answer = line_of(outcome);
    const std::lock_guard lock(mutex_);
    Line& line = lines_[recorded_request(request)];
    line.given.resize(subjects_.size(), -1);
    int& given = line.given[subject];
    given = -1;
    if (!answer) return;
    const auto known = std::find(line.answers.begin(), line.answers.end(), *answer);
    given = static_cast<int>(known - line.answers.begin());
    if (known == line.answers.end()) line.answers.push_back(*answer);
}

std::string AnswerRecorder::record(std::string_view made, std::string_view version) const {
    const std::lock_guard lock(mutex_);
    Json header{{"record", "recorded-answers"},
                {"version", file_version},
                {"made", made},
                {"nachklang", version},
                {"subjects", Json::array()}};
    for (const Subject& subject : subjects_) header["subjects"].push_back(of_subject(subject));
    std::string out = header.dump() + "\n";
    for (const auto& entry : lines_) {
        const Line& line = entry.second;
        // The most frequent answer first, so that equal lines look alike whatever was asked first.
        std::vector<std::size_t> order(line.answers.size()), count(line.answers.size());
        for (const int given : line.given)
            if (given >= 0) ++count[static_cast<std::size_t>(given)];
        std::iota(order.begin(), order.end(), std::size_t{0});
        std::sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
            return std::tuple(count[b], std::string_view(line.answers[a])) <
                   std::tuple(count[a], std::string_view(line.answers[b]));
        });
        std::vector<std::size_t> place(order.size());
        std::string answers;
        for (std::size_t i = 0; i < order.size() && count[order[i]] > 0; ++i) {
            place[order[i]] = i;
            answers += "\t" + line.answers[order[i]];
        }
        if (answers.empty()) continue;
        std::string given;
        for (const int g : line.given)
            given += g < 0 ? std::string(none_given) : fmt::format("{:03x}", place[static_cast<std::size_t>(g)]);
        out += fmt::format("{}\t{}{}\n", head_of(entry.first), given, answers);
    }
    return text::packed(out, 19);
}

}  // namespace nachklang

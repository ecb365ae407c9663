// Documents cut at every place. The document in one piece is the measure: what its answer is does not matter here,
// only that no cut changes it.
#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <mutex>

#include <nachklang/experiments.hpp>
#include <nachklang/parallel.hpp>
#include <nachklang/text.hpp>

namespace nachklang {
namespace {

std::string cuts_of(std::size_t cut, std::size_t size) {
    return cut < size ? std::to_string(cut) : "each";
}

/// The kind of place that is cut, for people.
std::string inside(std::string_view document, std::size_t cut) {
    if (cut >= document.size()) return "after each byte";
    const auto before = static_cast<unsigned char>(document[cut - 1]),
               after = static_cast<unsigned char>(document[cut]);
    if ((after & 0xC0U) == 0x80) return "inside a character of several bytes";
    if (std::isalnum(before) != 0 && std::isalnum(after) != 0) return "inside a word or a number";
    if (std::ispunct(before) != 0 && std::ispunct(after) != 0) return "between two punctuation marks";
    if (std::isspace(before) != 0 || std::isspace(after) != 0) return "at white space";
    return "beside a punctuation mark";
}

bool at_one_place(const Outcome& a, const Outcome& b) {
    return a.offset == b.offset && a.line == b.line && a.column == b.column;
}

/// The offset alone, where it differs: line and column say the same once more.
std::string place_of(const Outcome& outcome, const Outcome& other) {
    if (outcome.offset && outcome.offset != other.offset) return fmt::format("offset {}", *outcome.offset);
    if (!outcome.line) return "no position";
    return outcome.column ? fmt::format("line {} column {}", *outcome.line, *outcome.column)
                          : fmt::format("line {}", *outcome.line);
}

using Effect = PiecesSurvey::Effect;

/// What an answer is if not that of the document in one piece; nothing if it is the same.
std::optional<std::pair<Effect, std::string>> difference(const Format& format, const Subject& subject,
                                                         const Outcome& whole, const Outcome& cut) {
    constexpr std::size_t message_shown = 60;
    const auto said = [](const Outcome& o) {
        return o.kind == OutcomeKind::accepted
                   ? std::string("accepted")
                   : fmt::format("{} ({})", name_of(o.kind), text::printable_excerpt(o.body, message_shown));
    };
    if (whole.kind != cut.kind)
        return std::pair(Effect::verdict, fmt::format("{}, not {}", said(cut), said(whole)));
    if (!at_one_place(whole, cut))
        return std::pair(Effect::position, fmt::format("{}, not {}", place_of(cut, whole), place_of(whole, cut)));
    if (!whole.trace || !cut.trace || whole.trace->text() == cut.trace->text()) return std::nullopt;
    CompareOptions options;
    options.layer = Layer::exact;
    options.most = 1;
    options.cannot_represent = subject.cannot_represent;
    const auto differences = format.compare(*whole.trace, *cut.trace, options).differences;
    if (differences.empty()) return std::nullopt;
    return std::pair(Effect::value, differences.front().detail);
}

bool is_asked(const Case& c, const Subject& subject, const PiecesOptions& options) {
    return is_asked(c, Operation::pieces) && c.external_file.empty() && c.document->size() > 1 &&
           c.document->size() <= options.longest && subject.does(c.format->name(), Operation::pieces);
}

/// False if the executor asks this implementation no more.
bool survey_case(const Case& c, Executor& executor, PiecesSurvey& out) {
    const std::size_t size = c.document->size();
    std::vector<Request> requests{{Operation::pieces, c.format, c.document}};
    for (std::size_t cut = 1; cut <= size; ++cut)
        requests.push_back({Operation::pieces, c.format, c.document, true, "", cuts_of(cut, size)});
    const Chunk chunk = executor.run(requests);
    const Outcome& whole = chunk.outcomes.front();
    ++out.documents;
    if (!was_asked(whole.kind)) return chunk.gave_up.empty();
    for (std::size_t cut = 1; cut <= size; ++cut) {
        const Outcome& outcome = chunk.outcomes[cut];
        if (!was_asked(outcome.kind)) continue;
        ++out.cuts;
        if (auto found = difference(*c.format, *out.subject, whole, outcome))
            out.differences.push_back(
                {&c, found->first, cuts_of(cut, size), inside(*c.document, cut), std::move(found->second)});
    }
    return chunk.gave_up.empty();
}

}  // namespace

std::string_view name_of(PiecesSurvey::Effect effect) {
    return effect == Effect::verdict ? "verdict" : effect == Effect::value ? "value" : "position";
}

std::size_t PiecesSurvey::count(Effect effect) const {
    return static_cast<std::size_t>(
        std::ranges::count_if(differences, [&](const Difference& d) { return d.effect == effect; }));
}

std::vector<PiecesSurvey> survey_pieces(std::span<const Case> cases, std::span<const Subject> subjects,
                                        const ExecutorFactory& make, const PiecesOptions& options) {
    std::vector<PiecesSurvey> out;
    for (const Subject& subject : subjects)
        if (std::ranges::any_of(cases, [&](const Case& c) { return is_asked(c, subject, options); }))
            out.push_back({&subject});
    const auto stopped = [&] { return options.cancelled != nullptr && *options.cancelled; };
    std::mutex report_mutex;
    std::size_t done = 0;
    run_parallel(out.size(), options.workers, [&](std::size_t at) {
        const auto executor = make(*out[at].subject);
        bool asks_on = true;
        for (const Case& c : cases) {
            if (stopped() || !asks_on) break;
            if (is_asked(c, *out[at].subject, options)) asks_on = survey_case(c, *executor, out[at]);
        }
        out[at].complete = !stopped() && asks_on;
        const std::lock_guard lock(report_mutex);
        ++done;
        if (options.progress) options.progress(done, out.size());
    });
    return out;
}

}  // namespace nachklang

// Literals are asked in rows, so that one request covers hundreds. If a row fails as a whole, it is halved until
// the literal that fails is known.
#include <algorithm>
#include <cmath>
#include <limits>
#include <mutex>

#include <nachklang/experiments.hpp>
#include <nachklang/literals.hpp>
#include <nachklang/number.hpp>
#include <nachklang/parallel.hpp>

namespace nachklang {
namespace {

constexpr std::uint64_t row_length = 250;
constexpr std::size_t rows_at_once = 16;

struct Row {
    std::vector<std::string> literals;
    std::vector<std::string> families;
};

Row row_of_series(const NumberSurveyOptions& options, std::uint64_t begin, std::uint64_t end) {
    Row out;
    for (std::uint64_t i = begin; i < end; ++i) {
        if (!options.literals.empty()) {
            out.literals.push_back(options.literals[i]);
            out.families.emplace_back("given");
            continue;
        }
        number::Literal made = number::literal(options.seed, i);
        out.literals.push_back(std::move(made.text));
        out.families.emplace_back(made.family);
    }
    return out;
}

std::vector<Row> halves(const Row& row) {
    const auto middle = static_cast<std::ptrdiff_t>(row.literals.size() / 2);
    return {
        {{row.literals.begin(), row.literals.begin() + middle},
         {row.families.begin(), row.families.begin() + middle}},
        {{row.literals.begin() + middle, row.literals.end()}, {row.families.begin() + middle, row.families.end()}}};
}

constexpr const char *failed = "failed", *off_by_ulps = "off by ulps";

/// Orders answers by severity: a failure is worse than another number, and that is worse than any number of ulps.
double badness(const StoredLiteral& stored) {
    if (stored.answer == failed) return std::numeric_limits<double>::infinity();
    if (!stored.wrong) return 0;
    if (stored.answer == off_by_ulps) return std::abs(stored.ulps);
    return std::numeric_limits<double>::max();
}

void note_wrong(NumberSurvey::FamilyTally& tally, const std::string& literal, const std::string& answer) {
    const bool first = tally.wrong++ == 0;
    ++tally.answers[answer];
    const auto value = Decimal::parse(literal);
    if (!value) return;
    const std::size_t digits = value->digits().size();
    const std::int64_t exponent = value->point() - 1;
    tally.fewest_digits = first ? digits : std::min(tally.fewest_digits, digits);
    tally.most_digits = first ? digits : std::max(tally.most_digits, digits);
    tally.smallest_exponent = first ? exponent : std::min(tally.smallest_exponent, exponent);
    tally.largest_exponent = first ? exponent : std::max(tally.largest_exponent, exponent);
}

void note(NumberSurvey& survey, const std::string& literal, const std::string& family,
          const StoredLiteral& stored) {
    ++survey.asked;
    ++survey.answers[stored.answer];
    NumberSurvey::FamilyTally& tally = survey.families[family];
    ++tally.asked;
    if (!stored.wrong && stored.answer != failed) return;
    if (stored.wrong) ++survey.wrong;
    note_wrong(tally, literal, stored.answer);
    if (stored.answer == off_by_ulps && stored.ulps != 0) ++survey.distances[std::ilogb(stored.ulps)];
    const NumberSurvey::Example example{literal, family, stored};
    const auto [known, is_new] = survey.examples.emplace(stored.answer, example);
    if (!is_new && literal.size() < known->second.literal.size()) known->second = example;
    const double worst = survey.worst ? badness(survey.worst->stored) : -1, mine = badness(stored);
    if (mine > worst || (mine == worst && literal.size() < survey.worst->literal.size())) survey.worst = example;
}

void note_all(NumberSurvey& survey, const Row& row, const std::string& answer) {
    for (std::size_t i = 0; i < row.literals.size(); ++i)
        note(survey, row.literals[i], row.families[i], {answer, "", 0, false});
}

/// Records one row's outcome; returns the rows to ask next instead of it.
std::vector<Row> take(const Format& format, NumberSurvey& survey, const Row& row, const Outcome& outcome) {
    const bool single = row.literals.size() == 1;
    if (outcome.kind == OutcomeKind::accepted) {
        const auto stored = outcome.trace ? format.number_probes()->stored_numbers(row.literals, *outcome.trace)
                                          : std::vector<StoredLiteral>{};
        if (stored.size() != row.literals.size()) {
            note_all(survey, row, "not shown");
        } else {
            for (std::size_t i = 0; i < stored.size(); ++i)
                note(survey, row.literals[i], row.families[i], stored[i]);
        }
        return {};
    }
    if (!was_asked(outcome.kind)) {
        note_all(survey, row, outcome.kind == OutcomeKind::unsupported ? "not shown" : "not asked");
        return {};
    }
    if (!single) return halves(row);
    note_all(survey, row, outcome.kind == OutcomeKind::rejected ? "refused" : failed);
    return {};
}

NumberSurvey survey_one(const Format& format, const Subject& subject, const ExecutorFactory& make,
                        const NumberSurveyOptions& options, const std::function<void(std::size_t)>& done) {
    NumberSurvey out;
    out.subject = &subject;
    const std::uint64_t count = options.literals.empty() ? options.count : options.literals.size();
    const auto executor = make(subject);
    std::vector<Row> waiting;
    for (std::uint64_t next = 0; next < count || !waiting.empty();) {
        if (options.cancelled != nullptr && *options.cancelled) break;
        for (; waiting.size() < rows_at_once && next < count; next += row_length)
            waiting.push_back(row_of_series(options, next, std::min(count, next + row_length)));
        const std::vector<Row> rows = std::exchange(waiting, {});
        std::vector<Request> requests;
        for (const Row& row : rows)
            requests.push_back(
                {Operation::decode, &format,
                 std::make_shared<const std::string>(format.number_probes()->number_row(row.literals)), true});
        const Chunk chunk = executor->run(requests);
        const std::size_t before = out.asked;
        for (std::size_t i = 0; i < rows.size(); ++i)
            for (Row& row : take(format, out, rows[i], chunk.outcomes[i])) waiting.push_back(std::move(row));
        done(out.asked - before);
        if (chunk.gave_up.empty()) continue;
        for (const Row& row : waiting) note_all(out, row, "not asked");
        for (; next < count; next += row_length)
            note_all(out, row_of_series(options, next, std::min(count, next + row_length)), "not asked");
        break;
    }
    return out;
}

}  // namespace

std::vector<NumberSurvey> survey_numbers(const Format& format, std::span<const Subject> subjects,
                                         const ExecutorFactory& make, const NumberSurveyOptions& options) {
    if (format.number_probes() == nullptr) return {};
    std::vector<const Subject*> asked;
    for (const Subject& subject : subjects)
        if (subject.does(format.name(), Operation::decode) && subject.implementation.reach == Reach::trace)
            asked.push_back(&subject);
    std::vector<NumberSurvey> out(asked.size());
    for (std::size_t i = 0; i < asked.size(); ++i) out[i].subject = asked[i];  // also of what is never begun
    const std::size_t count = options.literals.empty() ? options.count : options.literals.size();
    std::mutex report_mutex;
    std::size_t all_done = 0;
    run_parallel(asked.size(), options.workers, [&](std::size_t at) {
        out[at] = survey_one(format, *asked[at], make, options, [&](std::size_t more) {
            const std::lock_guard lock(report_mutex);
            all_done += more;
            if (options.progress) options.progress(all_done, count * asked.size());
        });
    });
    return out;
}

}  // namespace nachklang

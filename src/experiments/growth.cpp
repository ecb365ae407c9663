// Time against size: documents that double, and the slope of the time they take.
#include <algorithm>
#include <chrono>
#include <cmath>
#include <mutex>

#include <nachklang/experiments.hpp>
#include <nachklang/parallel.hpp>

#include "experiments/shapes.hpp"

namespace nachklang {
namespace {

constexpr std::size_t first_amount = 1000;
constexpr int repetitions = 3;
constexpr double long_enough = 1;     // seconds after which no larger document is asked
constexpr double measurable = 0.001;  // seconds: below, the time is that of the pipe and the scheduler
constexpr double above_overhead = 3;  // times the time of the smallest document
constexpr std::size_t fewest_points = 3, most_points = 4;
constexpr double least_span = 3.9;  // of the bytes of the points
// What no longer fits a cache makes an exponent of up to 1.6.
constexpr double clearly_above = 1.7, dearer = 3.5;

/// The last points that take clearly longer than the first one.
std::vector<Growth::Point> measurable_points(std::span<const Growth::Point> points) {
    std::vector<Growth::Point> out;
    for (const Growth::Point& point : points)
        if (point.seconds >= std::max(measurable, above_overhead * points.front().seconds)) out.push_back(point);
    if (out.size() > most_points) out.erase(out.begin(), out.end() - static_cast<std::ptrdiff_t>(most_points));
    return out;
}

double seconds_a_byte(const Growth::Point& point) {
    return point.seconds / static_cast<double>(point.bytes);
}

bool is_steep(const Growth& growth) {
    if (!growth.exponent || *growth.exponent < clearly_above) return false;
    const auto points = measurable_points(growth.points);
    return seconds_a_byte(points.back()) >= dearer * seconds_a_byte(points.front());
}

class Measurement {
  public:
    Measurement(const Format& format, Executor& executor, std::size_t shape, const GrowthOptions& options)
        : format_(format), executor_(executor), shape_(shape), options_(options) {}

    Growth run() {
        Growth out = warmed_up();
        if (gave_up_) return out;
        out = {};
        for (std::size_t amount = first_amount; amount <= options_.most && out.ended.empty(); amount *= 2) {
            take(amount, out);
            if (!out.points.empty() && out.points.back().seconds > long_enough) break;
        }
        out.exponent = growth_exponent(out.points);
        if (is_steep(out)) confirm(out);
        return out;
    }
    /// Whether the executor asks this implementation no more.
    [[nodiscard]] bool gave_up() const { return gave_up_; }

  private:
    [[nodiscard]] bool stopped() const { return options_.cancelled != nullptr && *options_.cancelled; }

    /// A new process has loaded and compiled what it needs at its first document, which counts for nothing.
    Growth warmed_up() {
        executor_.restart();
        Growth first;
        take(first_amount, first);
        return first;
    }

    void take(std::size_t amount, Growth& out) {
        const auto document = std::make_shared<const std::string>(format_.generators()->shaped(shape_, amount));
        double shortest = 0;
        for (int i = 0; i < repetitions; ++i) {
            if (stopped()) {
                out.ended = "interrupted";
                return;
            }
            const std::vector<Request> one{{Operation::decode, &format_, document, false}};
            const double begin = options_.clock();
            const Chunk chunk = executor_.run(one);
            const double seconds = options_.clock() - begin;
            const Outcome& outcome = chunk.outcomes.front();
            if (outcome.kind != OutcomeKind::accepted) {
                gave_up_ = !chunk.gave_up.empty();
                out.ended = name_of(outcome.kind);
                return;
            }
            shortest = i == 0 ? seconds : std::min(shortest, seconds);
            if (shortest > long_enough) break;
        }
        out.points.push_back({amount, document->size(), shortest});
    }

    /// Measures the points that the slope rests on once more, in a new process.
    void confirm(Growth& out) {
        warmed_up();
        Growth again;
        take(first_amount, again);
        for (const Growth::Point& point : measurable_points(out.points)) take(point.amount, again);
        again.exponent = growth_exponent(again.points);
        out.above_linear = is_steep(again);
        if (again.exponent) out.exponent = std::min(*out.exponent, *again.exponent);
    }

    const Format& format_;
    Executor& executor_;
    std::size_t shape_;
    const GrowthOptions& options_;
    bool gave_up_ = false;
};

}  // namespace

double steady_seconds() {
    return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count();
}

std::optional<double> growth_exponent(std::span<const Growth::Point> points) {
    std::vector<std::pair<double, double>> logs;  // bytes, seconds
    for (const Growth::Point& point : measurable_points(points))
        logs.emplace_back(std::log(static_cast<double>(point.bytes)), std::log(point.seconds));
    if (logs.size() < fewest_points || logs.back().first - logs.front().first < std::log(least_span))
        return std::nullopt;
    double x = 0, y = 0;
    for (const auto& [bytes, seconds] : logs) x += bytes, y += seconds;
    x /= static_cast<double>(logs.size());
    y /= static_cast<double>(logs.size());
    double above = 0, below = 0;
    for (const auto& [bytes, seconds] : logs) {
        above += (bytes - x) * (seconds - y);
        below += (bytes - x) * (bytes - x);
    }
    return above / below;
}

std::vector<Growth> measure_growth(const Format& format, std::span<const Subject> subjects,
                                   const ExecutorFactory& make, const GrowthOptions& options) {
    const auto shapes = chosen_shapes(format, options.shapes);
    std::vector<const Subject*> asked;
    for (const Subject& subject : subjects)
        if (subject.does(format.name(), Operation::decode)) asked.push_back(&subject);
    std::vector<std::vector<Growth>> found(asked.size());
    std::mutex report_mutex;
    std::size_t done = 0;
    run_parallel(asked.size(), options.workers, [&](std::size_t at) {
        const auto executor = make(*asked[at]);
        for (const std::size_t shape : shapes) {
            if (options.cancelled != nullptr && *options.cancelled) return;
            Measurement measurement(format, *executor, shape, options);
            Growth growth = measurement.run();
            growth.subject = asked[at];
            growth.shape = format.generators()->shapes()[shape].name;
            found[at].push_back(std::move(growth));
            const std::lock_guard lock(report_mutex);
            if (options.progress) options.progress(++done, asked.size() * shapes.size());
            if (measurement.gave_up()) return;
        }
    });
    std::vector<Growth> out;
    for (auto& some : found) std::move(some.begin(), some.end(), std::back_inserter(out));
    return out;
}

}  // namespace nachklang

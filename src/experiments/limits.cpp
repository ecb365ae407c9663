// Exponential search, then bisection: the largest amount of a shape that an implementation accepts, and how it
// fails one step beyond.
#include <algorithm>
#include <mutex>

#include <nachklang/experiments.hpp>
#include <nachklang/parallel.hpp>

#include "experiments/shapes.hpp"

namespace nachklang {
namespace {

bool stopped(const LimitOptions& options) {
    return options.cancelled != nullptr && *options.cancelled;
}

/// Whether the written text is the document of the shape, or has the same value.
bool kept(const Format& format, const std::string& document, const std::string& written) {
    if (document == written) return true;
    const Reading before = format.read(document), after = format.read(written);
    constexpr auto value = static_cast<std::size_t>(Layer::value);
    return after.accepted() && format.digests(before.trace)[value] == format.digests(after.trace)[value];
}

bool takes_value(Operation operation) {
    return info_of(operation).input == Content::value;
}

bool has_shape(const Generators& generators, Operation operation, std::size_t shape) {
    return !takes_value(operation) || generators.shaped_value(shape, generators.shaped(shape, 1)).has_value();
}

struct Probe {
    bool good = false;
    std::string past, message;
    bool gave_up = false;  // the executor asks this implementation no more
};

Probe probe(const Format& format, Executor& executor, Operation operation, std::size_t shape, std::size_t amount) {
    const auto document = std::make_shared<const std::string>(format.generators()->shaped(shape, amount));
    const bool of_value = takes_value(operation);
    const auto body =
        of_value ? std::make_shared<const std::string>(*format.generators()->shaped_value(shape, *document))
                 : document;
    const std::vector<Request> one{{operation, &format, body, false}};
    executor.restart();  // memory that earlier documents took is no limit of this one
    const Chunk chunk = executor.run(one);
    const Outcome& outcome = chunk.outcomes.front();
    if (outcome.kind != OutcomeKind::accepted)
        return {false, std::string(name_of(outcome.kind)), text::printable_excerpt(outcome.body, 100),
                !chunk.gave_up.empty()};
    if (info_of(operation).output == Content::document && !kept(format, *document, outcome.body))
        return {false, "silently altered",
                of_value ? "the written text has another value"
                         : "the written text has another value than the document"};
    return {true, "", ""};
}

/// How close the failing amount must be to the largest good one before the search stops. A deadline is not a sharp
/// limit: it depends on the machine's load, and each probe costs the whole deadline.
std::size_t closest(const LimitFound& found) {
    return found.past == name_of(OutcomeKind::timed_out) ? found.largest / 16 + 1 : 1;
}

/// Sets `gave_up` if the executor asks the implementation no more.
LimitFound search(const Format& format, const Subject& subject, Executor& executor, Operation operation,
                  std::size_t shape, const LimitOptions& options, bool& gave_up) {
    LimitFound out;
    out.subject = &subject;
    out.shape = format.generators()->shapes()[shape].name;
    out.operation = operation;
    std::size_t bad = 0;
    /// Narrows the search by one probe.
    const auto try_amount = [&](std::size_t amount) {
        Probe p = probe(format, executor, operation, shape, amount);
        (p.good ? out.largest : bad) = amount;
        if (p.good) return;
        gave_up = gave_up || p.gave_up;
        out.past = std::move(p.past);
        out.message = std::move(p.message);
    };
    for (std::size_t amount = 1; bad == 0 && !stopped(options); amount = std::min(amount * 4, options.most)) {
        try_amount(amount);
        if (out.largest == options.most) {
            out.complete = true;
            return out;
        }
    }
    while (bad > out.largest + closest(out) && !stopped(options) && !gave_up)
        try_amount(out.largest + (bad - out.largest) / 2);
    out.complete = bad == out.largest + 1;
    return out;
}

}  // namespace

std::vector<LimitFound> find_limits(const Format& format, std::span<const Subject> subjects,
                                    const ExecutorFactory& make, const LimitOptions& options) {
    if (format.generators() == nullptr) return {};
    const Generators& generators = *format.generators();
    const auto shapes = chosen_shapes(format, options.shapes);
    std::vector<OperationInfo> all_operations;
    for (const OperationInfo& row : operations())
        if (!row.of_record && !row.in_pieces && !row.of_sequence) all_operations.push_back(row);
    std::vector<const Subject*> asked;
    for (const Subject& subject : subjects)
        if (std::any_of(all_operations.begin(), all_operations.end(),
                        [&](const OperationInfo& row) { return subject.does(format.name(), row.operation); }))
            asked.push_back(&subject);
    std::vector<std::vector<LimitFound>> found(asked.size());
    std::mutex report_mutex;
    std::size_t done = 0;
    run_parallel(asked.size(), options.workers, [&](std::size_t at) {
        if (stopped(options)) return;
        const auto executor = make(*asked[at]);
        bool gave_up = false;
        for (const std::size_t shape : shapes)
            for (const OperationInfo& row : all_operations) {
                const Operation operation = row.operation;
                if (!asked[at]->does(format.name(), operation) || !has_shape(generators, operation, shape) ||
                    stopped(options) || gave_up)
                    continue;
                found[at].push_back(search(format, *asked[at], *executor, operation, shape, options, gave_up));
                const std::lock_guard lock(report_mutex);
                ++done;
                if (options.progress) options.progress(done, asked.size() * shapes.size() * all_operations.size());
            }
    });
    std::vector<LimitFound> out;
    for (auto& some : found)
        for (LimitFound& one : some) out.push_back(std::move(one));
    return out;
}

}  // namespace nachklang

// `limits`: the largest nesting, width and length that each implementation accepts, and how it fails one step
// beyond.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <span>

#include "commands/commands.hpp"
#include "ui/lines.hpp"
#include "ui/shapes.hpp"
#include "ui/summary.hpp"
#include "ui/terminal.hpp"

namespace tool {

using namespace nachklang;

namespace {

bool is_failure(const std::string& past) {
    return !past.empty() && past != "rejected" && past != "exhausted" && past != "unsupported";
}

/// A limit that the configuration declares as a number, such as depth=512.
std::string declared(const Subject& subject, std::string_view question, const LimitFound& found) {
    if (info_of(found.operation).input == Content::value) return "";  // a declared limit is one of reading
    for (const auto& [key, value] : subject.implementation.declares) {
        if (key != question || value.find_first_not_of("0123456789") != std::string::npos) continue;
        return std::to_string(found.largest) == value ? fmt::format("as declared ({})", value)
                                                      : fmt::format("NOT as declared ({})", value);
    }
    return "";
}

Cell amount(const LimitFound& found, std::size_t most) {
    const bool all = found.complete && found.largest == most;
    return {shown_amount(found, most), all ? Cell::Paint::good : Cell::Paint::none};
}

/// A bar on a logarithmic scale from 1 to `most`.
std::string bar(std::size_t amount, std::size_t most) {
    constexpr double columns = 24;
    if (amount < 1 || most < 2) return "";
    const double share = std::log(static_cast<double>(amount)) / std::log(static_cast<double>(most));
    const auto full = static_cast<std::size_t>(std::lround(share * columns));
    std::string out;
    for (std::size_t i = 0; i < static_cast<std::size_t>(columns); ++i) out += i < full ? "█" : "·";
    return out;
}

/// Shape by shape, so that implementations compare, and the largest amount first.
void sort_by_shape(std::vector<LimitFound>& found, std::span<const Shape> shapes) {
    const auto place = [&](const LimitFound& f) {
        const auto shape =
            std::find_if(shapes.begin(), shapes.end(), [&](const Shape& s) { return s.name == f.shape; });
        return std::pair{shape - shapes.begin(), f.operation};
    };
    std::stable_sort(found.begin(), found.end(), [&](const LimitFound& a, const LimitFound& b) {
        return place(a) != place(b) ? place(a) < place(b) : a.largest > b.largest;
    });
}

}  // namespace

int limits(const Common& common, const LimitsOptions& options) {
    const auto workspace = open_workspace(common);
    if (!workspace.ok()) return report(workspace.problem());
    const auto subjects = subjects_of(workspace.value(), with_names(common, options.names));
    if (!subjects.ok()) return report(subjects.problem());
    const auto searched = formats_with_shapes(common, options.shapes);
    if (!searched.ok()) return report(searched.problem());
    if (std::none_of(searched.value().begin(), searched.value().end(),
                     [&](const Format* format) { return any_supports(subjects.value(), *format); }))
        return report(no_support_for("a format with limits to search"));
    const Style style = Style::of_stdout(common.colour);
    bool failing = false, none = true;
    for (const Format* format : searched.value()) {
        Progress progress("limits");
        LimitOptions limits;
        limits.most = options.most;
        limits.shapes = options.shapes;
        limits.workers = workers_of(options.workers);
        limits.cancelled = &interrupted();
        limits.progress = [&](std::size_t done, std::size_t all) { progress.show(done, all); };
        auto found = find_limits(*format, subjects.value(), interruptible_executors(), limits);
        progress.clear();
        none = none && found.empty();
        sort_by_shape(found, format->generators()->shapes());
        std::vector<std::vector<Cell>> rows{
            {{"SHAPE", Cell::Paint::bold},
             {"OPERATION", Cell::Paint::bold},
             {"IMPLEMENTATION", Cell::Paint::bold},
             {"UP TO", Cell::Paint::bold},
             {fmt::format("1 TO {}, LOGARITHMIC", text::grouped(options.most)), Cell::Paint::bold},
             {"ONE PAST IT", Cell::Paint::bold},
             {"", Cell::Paint::bold}}};
        for (const LimitFound& f : found) {
            const auto shapes = format->generators()->shapes();
            const auto shape =
                std::find_if(shapes.begin(), shapes.end(), [&](const Shape& s) { return s.name == f.shape; });
            const std::string meant = declared(*f.subject, shape->question, f);
            const bool bad = is_failure(f.past) || meant.starts_with("NOT");
            failing = failing || bad;
            if (common.json) fmt::print("{}\n", line_of(f));
            rows.push_back(
                {{std::string(f.shape)},
                 {std::string(name_of(f.operation))},
                 {f.subject->name()},
                 amount(f, options.most),
                 {bar(f.largest, options.most), bad ? Cell::Paint::bad : Cell::Paint::good},
                 {f.past, bad ? Cell::Paint::bad : Cell::Paint::none},
                 {text::printable_excerpt(meant + (meant.empty() || f.message.empty() ? "" : "; ") + f.message, 80),
                  Cell::Paint::faint}});
        }
        if (!found.empty() && !common.json) fmt::print("{}", table(rows, style));
    }
    if (none && !interrupted())
        return report({"limits", "no selected implementation decodes or encodes whole documents",
                       "select others; `nachklang implementations` lists the operations"});
    return failing ? exit_failing : exit_success;
}

}  // namespace tool

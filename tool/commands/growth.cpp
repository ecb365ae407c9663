// `growth`: how the time of decoding grows with documents that double in size.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "commands/commands.hpp"
#include "ui/lines.hpp"
#include "ui/shapes.hpp"
#include "ui/terminal.hpp"

namespace tool {

using namespace nachklang;

namespace {

std::string duration(double seconds) {
    return seconds < 1 ? fmt::format("{:.1f} ms", seconds * 1000) : fmt::format("{:.2f} s", seconds);
}

std::string said_of(const Growth& growth) {
    if (growth.above_linear) return "more than in proportion";
    return growth.exponent ? "in proportion" : growth.ended.empty() ? "too quick to measure" : "ended too early";
}

std::vector<Cell> row_of(const Growth& growth, const Shape& shape) {
    const auto paint = growth.above_linear ? Cell::Paint::bad : Cell::Paint::none;
    std::vector<Cell> out{{std::string(growth.shape)},
                          {growth.subject->name()},
                          {growth.exponent ? fmt::format("bytes^{:.1f}", *growth.exponent) : "-", paint},
                          {growth.exponent ? fmt::format("x{:.1f}", std::pow(2, *growth.exponent)) : "-", paint}};
    if (growth.points.empty()) {
        out.insert(out.end(), {{"-"}, {"-"}});
    } else {
        const Growth::Point& last = growth.points.back();
        out.push_back({fmt::format("{} {}", text::grouped(last.amount), shape.unit)});
        out.push_back({duration(last.seconds)});
    }
    out.push_back({said_of(growth) + (growth.ended.empty() ? "" : ", then " + growth.ended), Cell::Paint::faint});
    return out;
}

void print_table(const std::vector<Growth>& found, std::span<const Shape> shapes, bool all, const Style& style) {
    std::vector<std::vector<Cell>> rows{{{"SHAPE", Cell::Paint::bold},
                                         {"IMPLEMENTATION", Cell::Paint::bold},
                                         {"TIME GROWS AS", Cell::Paint::bold},
                                         {"A DOUBLING", Cell::Paint::bold},
                                         {"LARGEST", Cell::Paint::bold},
                                         {"TOOK", Cell::Paint::bold},
                                         {"", Cell::Paint::bold}}};
    std::size_t in_proportion = 0, unknown = 0;
    for (const Shape& shape : shapes)
        for (const Growth& growth : found) {
            if (growth.shape != shape.name) continue;
            in_proportion += growth.exponent && !growth.above_linear ? 1 : 0;
            unknown += growth.exponent ? 0 : 1;
            if (all || growth.above_linear) rows.push_back(row_of(growth, shape));
        }
    if (rows.size() > 1) fmt::print("{}", table(rows, style));
    fmt::print("{} more than in proportion, {} in proportion, {} too quick or ended too early{}\n",
               found.size() - in_proportion - unknown, in_proportion, unknown, all ? "" : " (--all shows them)");
}

}  // namespace

int growth(const Common& common, const GrowthCommandOptions& options) {
    const auto workspace = open_workspace(common);
    if (!workspace.ok()) return report(workspace.problem());
    const auto subjects = subjects_of(workspace.value(), with_names(common, options.names));
    if (!subjects.ok()) return report(subjects.problem());
    const auto measured = formats_with_shapes(common, options.shapes);
    if (!measured.ok()) return report(measured.problem());
    if (std::ranges::none_of(measured.value(),
                             [&](const Format* format) { return any_supports(subjects.value(), *format); }))
        return report(no_support_for("a format with shapes"));
    const Style style = Style::of_stdout(common.colour);
    bool above = false, none = true;
    for (const Format* format : measured.value()) {
        Progress progress("growth");
        GrowthOptions how;
        how.most = options.most;
        how.shapes = options.shapes;
        how.workers = options.workers;
        how.cancelled = &interrupted();
        how.progress = [&](std::size_t done, std::size_t all) { progress.show(done, all); };
        const auto found = measure_growth(*format, subjects.value(), interruptible_executors(), how);
        progress.clear();
        if (found.empty()) continue;
        none = false;
        above = above || std::ranges::any_of(found, &Growth::above_linear);
        if (common.json) {
            for (const Growth& one : found) fmt::print("{}\n", line_of(one));
        } else {
            print_table(found, format->generators()->shapes(), options.all, style);
        }
    }
    if (none && !interrupted())
        return report({"growth", "no selected implementation decodes whole documents",
                       "select others; `nachklang implementations` lists the operation `decode`"});
    return above ? exit_failing : exit_success;
}

}  // namespace tool

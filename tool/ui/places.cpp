// See places.hpp.
#include "ui/places.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <set>

#include <nachklang/text.hpp>

namespace tool {

using namespace nachklang;

namespace {

constexpr std::size_t most_places = 24, most_names = 12;

/// Where two texts begin to differ.
std::size_t first_difference(std::string_view a, std::string_view b) {
    const std::size_t most = std::min(a.size(), b.size());
    std::size_t at = 0;
    while (at < most && a[at] == b[at]) ++at;
    while (at > 0 && at < a.size() && (static_cast<unsigned char>(a[at]) & 0xC0) == 0x80) --at;
    return at;
}

/// A long value around its first difference from another one.
std::string around_difference(const std::string& text, const std::string& other, std::size_t columns) {
    if (text::display_width(text) <= columns) return text;
    const std::size_t at = first_difference(text, other);
    if (at < columns / 2 || at >= text.size()) return cut_text(text, columns);
    std::size_t from = at - columns / 4;
    while (from > 0 && (static_cast<unsigned char>(text[from]) & 0xC0) == 0x80) --from;
    return fmt::format("… {} (from byte {})", cut_text(text.substr(from), columns), from);
}

std::string shown_answer(const PlaceAnswer& answer, const DifferingPlace& place, bool of_document,
                         std::size_t columns) {
    if (answer.absent) return "absent";
    const PlaceAnswer& first = place.answers.front();
    const std::string& other = &answer == &first ? place.answers.back().shown : first.shown;
    const std::string shown = around_difference(answer.shown, other, columns);
    return answer.stored.empty() || of_document ? shown : fmt::format("{} {}", shown, answer.stored);
}

std::vector<std::string> names_of(const std::vector<std::size_t>& values, const PlaceColumn& column) {
    std::vector<std::string> out;
    for (const std::size_t i : values) out.push_back(column.names()[i]);
    return out;
}

void print_place(const DifferingPlace& place, const PlaceColumn& column, const Style& style) {
    const std::size_t columns = std::max<std::size_t>(terminal_width(), 60) - 12;
    fmt::print(
        "  {}{}\n",
        style.bold(place.path.empty()
                       ? "the root"
                       : cut_text(place.path.starts_with(" ") ? "the root" + place.path : place.path, columns)),
        place.stored_only ? style.faint("  one value, stored in different ways") : "");
    for (const PlaceAnswer& answer : place.answers) {
        const bool of_document = std::any_of(answer.values.begin(), answer.values.end(),
                                             [&](std::size_t i) { return column.is_document(i); });
        const std::string shown = shown_answer(answer, place, of_document, columns);
        const bool expected = place.stored_only || (!answer.values.empty() && answer.values.front() == 0);
        const std::vector<std::string> names = names_of(answer.values, column);
        std::string joined;
        for (const std::string& name : names) joined += (joined.empty() ? "" : ", ") + name;
        const std::string painted = expected ? shown : style.open(shown);
        if (text::display_width(shown) + text::display_width(joined) + 6 <= terminal_width()) {
            fmt::print("    {}  {}\n", painted, style.faint(joined));
        } else {
            fmt::print("    {}\n", painted);
            print_names(names, "        ", style);
        }
    }
    if (!place.not_reported.empty()) print_names(names_of(place.not_reported, column), "    not reported: ", style);
}

}  // namespace

void PlaceColumn::add(std::string name, Value value) {
    names_.push_back(std::move(name));
    values_.push_back(std::move(value));
}

std::vector<PlacedValue> PlaceColumn::values() const {
    std::vector<PlacedValue> out;
    for (const Value& value : values_) out.push_back({&value.trace, value.cannot_represent, value.is_document});
    return out;
}

/// Path, and each answer with the names of those that give it.
static std::string signature_of(const DifferingPlace& place, const PlaceColumn& column) {
    std::vector<std::string> answers;
    for (const PlaceAnswer& answer : place.answers)
        answers.push_back(fmt::format("{}\n{}\n{}", answer.absent, answer.value,
                                      fmt::join(names_of(answer.values, column), ",")));
    std::sort(answers.begin(), answers.end());
    return fmt::format("{}\n{}", place.path, fmt::join(answers, "\n"));
}

ColumnPlaces places_of(const Format& format, PlaceColumn column) {
    std::vector<DifferingPlace> places = differing_places(format, column.values());
    return {std::move(column), std::move(places)};
}

void print_places(const ColumnPlaces& found, const ColumnPlaces* before, const Style& style) {
    std::vector<DifferingPlace> places = found.places;
    const PlaceColumn& column = found.column;
    if (places.empty()) fmt::print("  none: all hold the same\n");
    if (before != nullptr) {
        std::set<std::string> known;
        for (const DifferingPlace& place : before->places) known.insert(signature_of(place, before->column));
        const auto repeated = std::erase_if(
            places, [&](const DifferingPlace& place) { return known.contains(signature_of(place, column)); });
        if (repeated > 0) fmt::print("  {}\n", style.faint(fmt::format("{} more as decoded", repeated)));
    }
    for (std::size_t i = 0; i < std::min(places.size(), most_places); ++i) print_place(places[i], column, style);
    if (places.size() > most_places) fmt::print("  … and {} more places\n", places.size() - most_places);
}

void print_names(const std::vector<std::string>& names, std::string_view indent, const Style& style) {
    std::string lead(indent);
    for (const std::string& line :
         wrapped(joined(names, most_names), std::max<std::size_t>(terminal_width(), 60) - indent.size())) {
        fmt::print("{}{}\n", lead, style.faint(line));
        lead = std::string(indent.size(), ' ');
    }
}

std::string cut_text(const std::string& printable, std::size_t columns) {
    if (text::display_width(printable) <= columns) return printable;
    return fmt::format("{} ({} bytes)", text::printable_excerpt(printable, columns > 16 ? columns - 16 : columns),
                       text::grouped(printable.size()));
}

}  // namespace tool

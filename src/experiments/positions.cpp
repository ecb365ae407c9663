// Where refusals point. A position is turned into an offset in bytes first, whatever it counts in.
#include <algorithm>

#include <nachklang/experiments.hpp>
#include <nachklang/text.hpp>

namespace nachklang {
namespace {

constexpr std::string_view mark = "\xEF\xBB\xBF";

std::optional<std::size_t> by_offset(std::string_view document, const Outcome& refusal) {
    return refusal.offset ? text::counted_from(document, 0, *refusal.offset, refusal.unit) : std::nullopt;
}
std::optional<std::size_t> by_column(std::string_view document, const Outcome& refusal, std::string_view unit) {
    if (!refusal.line || !refusal.column) return std::nullopt;
    return text::offset_of(document, *refusal.line, *refusal.column, unit);
}

/// Whether line and column name the offset, or a character beside it, in any unit: a library may count its offset
/// in bytes and its columns in characters. Many count an offset as what was read, and a column as what is to be
/// read.
bool agree(std::string_view document, std::size_t offset, const Outcome& refusal) {
    for (const std::string_view unit : {"byte", "point", "utf16"}) {
        const auto column = by_column(document, refusal, unit);
        if (!column) continue;
        const auto [first, last] = std::minmax(offset, *column);
        if (text::counted_from(document, first, 1, "point").value_or(document.size()) >= last) return true;
    }
    return false;
}

bool is_delimiter(char c) {
    return std::string_view(" \t\r\n,:[]{}\"'<>&;=/()|?*+!").find(c) != std::string_view::npos;
}

/// Whether two places lie in one token, or one of them at its end.
bool in_one_token(std::string_view document, std::size_t a, std::size_t b) {
    const auto between = document.substr(std::min(a, b), std::max(a, b) - std::min(a, b));
    return std::ranges::none_of(between, is_delimiter);
}

Pointing compared(std::string_view document, std::size_t error, std::size_t reported) {
    if (reported == error) return Pointing::exact;
    if (document.starts_with(mark) && reported + mark.size() == error) return Pointing::without_mark;
    const bool next = reported > error && text::counted_from(document, error, 1, "point") == reported;
    if (next) return Pointing::next;
    if (in_one_token(document, error, reported)) return Pointing::same_token;
    return reported > error ? Pointing::later : Pointing::earlier;
}

}  // namespace

std::string_view name_of(Pointing pointing) {
    switch (pointing) {
        case Pointing::none:
            return "no position";
        case Pointing::exact:
            return "at the first error";
        case Pointing::next:
            return "one character past it";
        case Pointing::same_token:
            return "in the same token";
        case Pointing::later:
            return "later";
        case Pointing::earlier:
            return "earlier";
        case Pointing::without_mark:
            return "as if there were no byte order mark";
        case Pointing::same_line:
            return "its line alone";
        case Pointing::other_line:
            return "another line";
        case Pointing::outside:
            return "outside the document";
        case Pointing::contradictory:
            return "line and column contradict the offset";
    }
    return "";
}

Pointing pointing_of(std::string_view document, std::size_t error, const Outcome& refusal) {
    if (!refusal.offset && !refusal.line) return Pointing::none;
    const auto offset = by_offset(document, refusal), column = by_column(document, refusal, refusal.unit);
    if (refusal.offset && !offset) return Pointing::outside;
    if (!offset && refusal.column && !column) return Pointing::outside;
    if (!offset && !column) {
        const auto line = text::position_of(document, std::min(error, document.size())).line;
        return *refusal.line == line ? Pointing::same_line : Pointing::other_line;
    }
    if (offset && refusal.line && refusal.column && !agree(document, *offset, refusal))
        return Pointing::contradictory;
    if (offset && column && *column == error) return Pointing::exact;
    return compared(document, error, offset ? *offset : *column);
}

std::optional<Pointing> pointing_of(const Result& r) {
    const Case& c = *r.test_case;
    if (r.operation != Operation::decode || r.outcome.kind != OutcomeKind::rejected || r.enclosed_of != nullptr ||
        !c.document || !c.external_file.empty() || text::first_ill_formed(*c.document))
        return std::nullopt;
    const Reading reading = c.format->read(*c.document, {c.format->reading_settings(r.subject->settings), {}});
    if (!reading.rejection) return std::nullopt;
    return pointing_of(*c.document, reading.rejection->position.offset, r.outcome);
}

}  // namespace nachklang

// Which open points a document contains, where first, and how much: read off the tape in one walk.
#include <algorithm>

#include <nachklang/number.hpp>

#include "json/questions.hpp"

namespace nachklang::json {
namespace {

/// An exponent that no binary64 has. Zero is in every range, but a parser may limit the exponents that it reads.
bool exponent_is_huge(std::string_view source) {
    const auto mark = source.find_first_of("eE");
    if (mark == std::string_view::npos) return false;
    const std::string_view exponent = source.substr(mark + 1);
    const auto first = exponent.find_first_not_of("+-0");
    return first != std::string_view::npos && exponent.size() - first > 3;
}

void add_number(std::vector<Occurrence>& occurrences, std::string_view source, std::size_t offset) {
    add_occurrence(occurrences, "number-length", offset, source.size());
    if (source.size() <= 6 && source.find_first_of(".eE-") == std::string_view::npos) return;
    const Decimal value = *Decimal::parse(source);
    if (value.is_zero() && value.negative()) add_occurrence(occurrences, "negative-zero", offset, 1);
    const std::uint64_t nearest = number::nearest_binary64(value);
    if (beyond_range(value, nearest) || (value.is_zero() && exponent_is_huge(source)))
        add_occurrence(occurrences, "number-range", offset, 1);
    if (!exact_in_binary32(value)) add_occurrence(occurrences, "number-precision", offset, value.digits().size());
}

std::size_t member_count(const Document& document, std::size_t opener) {
    std::size_t out = 0;
    for (std::size_t i = opener + 1; i < document.tape()[opener].end; i = document.after(i))
        out += document.tape()[i].kind == TokenKind::name ? 0 : 1;
    return out;
}

}  // namespace

bool exact_in_binary32(const Decimal& value) {
    // Integers of seven digits are below 2^24, up to which binary32 holds all of them.
    if (value.is_integer() && value.point() <= 7) return true;
    const auto stored = Decimal::from_binary64(number::widen(number::nearest_binary32(value)));
    return stored && *stored == value;
}

bool beyond_range(const Decimal& value, std::uint64_t nearest) {
    if (number::is_infinite64(nearest)) return true;
    if (!value.is_zero() && (nearest << 1) == 0) return true;
    static const Decimal edge = *Decimal::parse("2147483647");
    return value.is_integer() && Decimal::compare_magnitude(value, edge) > 0;
}

std::vector<Occurrence> occurrences_of(const Document& document) {
    std::vector<Occurrence> occurrences;
    const std::vector<Entry>& tape = document.tape();
    for (std::size_t at = 0; at < tape.size(); ++at) {
        const Entry& entry = tape[at];
        if (entry.kind == TokenKind::string || entry.kind == TokenKind::name) {
            if (entry.flags.lone_surrogate) add_occurrence(occurrences, "lone-surrogate", entry.begin, 1);
            if (entry.flags.nul) add_occurrence(occurrences, "nul-character", entry.begin, 1);
            add_occurrence(occurrences, "string-length", entry.begin, entry.end - entry.begin - 2);
        }
        switch (entry.kind) {
            case TokenKind::array_open:
            case TokenKind::object_open:
                add_occurrence(occurrences, "member-count", entry.begin, member_count(document, at));
                break;
            case TokenKind::number:
                add_number(occurrences, document.source(entry), entry.begin);
                break;
            default:
                break;
        }
    }
    for (const std::size_t name : document.repeated_names())
        add_occurrence(occurrences, "duplicate-names", tape[name].begin, 2);
    add_occurrence(occurrences, "depth", 0, document.deepest());
    add_occurrence(occurrences, "document-size", 0, document.bytes().size());
    std::erase_if(occurrences,
                  [](const Occurrence& t) { return t.amount < question_named(t.question).raised_from; });
    std::sort(occurrences.begin(), occurrences.end(),
              [](const Occurrence& a, const Occurrence& b) { return a.question < b.question; });
    return occurrences;
}

}  // namespace nachklang::json

// Which open points a document contains, where first, and how much: read off the tape in one walk.
#include <algorithm>
#include <unordered_set>

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

/// Names of one object, gathered as the walk meets them.
struct OpenContainer {
    bool object = false;
    std::size_t begin = 0, members = 0;
    std::unordered_set<std::string> names{};
};

}  // namespace

bool exact_in_binary32(const Decimal& value) {
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
    std::vector<OpenContainer> open;
    for (const Entry& entry : document.tape()) {
        const bool closes = entry.kind == TokenKind::array_close || entry.kind == TokenKind::object_close;
        if (!open.empty() && !closes && entry.kind != TokenKind::name) ++open.back().members;
        if (entry.kind == TokenKind::string || entry.kind == TokenKind::name) {
            if (entry.flags.lone_surrogate) add_occurrence(occurrences, "lone-surrogate", entry.begin, 1);
            if (entry.flags.nul) add_occurrence(occurrences, "nul-character", entry.begin, 1);
            add_occurrence(occurrences, "string-length", entry.begin, entry.end - entry.begin - 2);
        }
        switch (entry.kind) {
            case TokenKind::array_open:
            case TokenKind::object_open:
                open.push_back({entry.kind == TokenKind::object_open, entry.begin});
                break;
            case TokenKind::array_close:
            case TokenKind::object_close:
                add_occurrence(occurrences, "member-count", open.back().begin, open.back().members);
                open.pop_back();
                break;
            case TokenKind::name:
                if (!open.back().names.insert(document.atoms(entry)).second)
                    add_occurrence(occurrences, "duplicate-names", entry.begin, 2);
                break;
            case TokenKind::number:
                add_number(occurrences, document.source(entry), entry.begin);
                break;
            default:
                break;
        }
    }
    add_occurrence(occurrences, "depth", 0, document.deepest());
    add_occurrence(occurrences, "document-size", 0, document.bytes().size());
    std::erase_if(occurrences,
                  [](const Occurrence& t) { return t.amount < question_named(t.question).raised_from; });
    std::sort(occurrences.begin(), occurrences.end(),
              [](const Occurrence& a, const Occurrence& b) { return a.question < b.question; });
    return occurrences;
}

}  // namespace nachklang::json

// Rows of number literals: a document that holds them, and what a decoder stores for each, in a few words.
#include <fmt/format.h>

#include <array>
#include <cmath>

#include "json/compare/explain.hpp"
#include "json/internal.hpp"

namespace nachklang::json {
namespace {

/// The survey's words for a cause or an answer of explain_number.
constexpr std::array<std::pair<std::string_view, std::string_view>, 11> words{{
    {"number/off-by-ulp", "off by ulps"},
    {"number/off-by-ulp-beyond-20-digits", "off by ulps"},
    {"number/saturated", "saturated"},
    {"number/became-infinity", "overflowed to infinity"},
    {"number/flushed-to-zero", "flushed to zero"},
    {"number/truncated-to-integer", "truncated to integer"},
    {"number/wrapped", "wrapped round"},
    {"number/sign-lost", "sign lost"},
    {"number/integer-rounded", "rounded as an integer"},
    {"number/digits-cut", "digits cut"},
    {"number/exponent-ignored", "exponent ignored"},
}};

std::string_view word_of(std::string_view cause) {
    for (const auto& [slug, word] : words)
        if (slug == cause) return word;
    return "another number";
}

/// Most are stored as the nearest binary64; that is decided without looking for other explanations.
std::optional<StoredLiteral> stored_as_nearest(const std::string& literal, const Item& got) {
    if (got.kind != ItemKind::binary64) return std::nullopt;
    const auto exact = Decimal::parse(literal);
    const std::uint64_t bits = bits_of(got);
    if (!exact || exact->is_zero() || number::is_infinite64(bits) || bits != number::nearest_binary64(*exact))
        return std::nullopt;
    StoredLiteral out;
    // No binary64 has more than 767 significant digits.
    const bool may_be_exact = exact->digits().size() < 768;
    const bool is_exact = may_be_exact && *Decimal::from_binary64(bits) == *exact;
    out.answer = is_exact ? "exact" : "correctly rounded";
    return out;
}

StoredLiteral stored_literal(const std::string& literal, const Item& got) {
    if (auto nearest = stored_as_nearest(literal, got)) return std::move(*nearest);
    StoredLiteral out;
    out.stored = shown_scalar(got, got.kind, 60);
    if (!is_number(got.kind)) {
        out.answer = got.kind == ItemKind::string ? "turned into text" : "no number";
        out.wrong = true;
        return out;
    }
    const Trace expected = *Trace::parse("spelled " + TraceWriter::field(literal) + "\n");
    const StoredNumber want = stored_number(expected.items()[0], ItemKind::spelled),
                       have = stored_number(got, got.kind);
    const bool finite = have.binary && !number::is_infinite64(have.nearest) && !number::is_nan64(have.nearest);
    if (finite && !number::is_infinite64(want.nearest))
        out.ulps = number::ulp_distance(*want.exact, have.nearest).approximate();
    const auto explained = explain_number(expected.items()[0], got, {});
    for (const Explained& e : explained) {
        if (!e.is_difference()) continue;
        out.answer = word_of(e.cause);
        out.wrong = true;
        return out;
    }
    if (!have.binary) {
        out.answer = "kept exactly";
    } else if (!finite) {
        out.answer = "infinity beyond the range";  // as IEEE 754 rounds it
    } else if (*Decimal::from_binary64(have.nearest) == *want.exact) {
        out.answer = "exact";
    } else if (have.nearest == want.nearest || (have.nearest << 1) == (want.nearest << 1)) {
        out.answer = "correctly rounded";
    } else {
        out.answer = number::is_infinite64(want.nearest) ? "saturated" : "rounded to binary32";
    }
    return out;
}

}  // namespace

std::string row_of(std::span<const std::string> literals) {
    return fmt::format("[{}]", fmt::join(literals, ","));
}

std::vector<StoredLiteral> stored_of_row(std::span<const std::string> literals, const Trace& trace) {
    const auto items = trace.items();
    if (items.size() != literals.size() + 2 || !opens(items.front().kind)) return {};
    std::vector<StoredLiteral> out;
    for (std::size_t i = 0; i < literals.size(); ++i) out.push_back(stored_literal(literals[i], items[i + 1]));
    return out;
}

}  // namespace nachklang::json

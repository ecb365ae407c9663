// Numbers. The expected value is a decimal. The stored value is compared exactly, then with the results of known
// mistakes: the limit of another type, a modulus, a lost fraction, truncated digits, a rounding that is not to the
// nearest.
#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cstdlib>

#include "json/compare/explain.hpp"
#include "json/compare/tree.hpp"
#include "json/questions.hpp"

namespace nachklang::json {
namespace {

Decimal decimal(std::string_view text) {
    return *Decimal::parse(text);
}

std::string excerpt(std::string_view text) {
    return text::printable_excerpt(text, 60);
}

std::string shown(const StoredNumber& n, const Item& item) {
    if (!n.binary) return excerpt(item.kind == ItemKind::spelled ? std::string_view(n.spelled) : item.digits());
    if (number::is_nan64(n.nearest)) return "NaN";
    if (number::is_infinite64(n.nearest)) return (n.nearest >> 63) != 0 ? "-infinity" : "infinity";
    return number::shortest64(n.nearest);
}

bool is_type_edge(const Decimal& value) {
    static const std::array<Decimal, 8> edges{decimal("2147483647"),
                                              decimal("-2147483648"),
                                              decimal("4294967295"),
                                              decimal("9223372036854775807"),
                                              decimal("-9223372036854775808"),
                                              decimal("18446744073709551615"),
                                              decimal("1.7976931348623157e308"),
                                              decimal("-1.7976931348623157e308")};
    return std::find(edges.begin(), edges.end(), value) != edges.end();
}

/// The integer modulo 2^bits as an unsigned number, for integers of up to 400 digits.
std::optional<std::uint64_t> modulo(const Decimal& value, int bits) {
    if (!value.is_integer() || value.point() > 400) return std::nullopt;
    std::uint64_t out = 0;
    const auto digits = value.digits();
    for (std::int64_t i = 0; i < value.point(); ++i)
        out = out * 10 + (i < static_cast<std::int64_t>(digits.size())
                              ? static_cast<std::uint64_t>(digits[static_cast<std::size_t>(i)] - '0')
                              : 0);
    if (value.negative()) out = ~out + 1;
    return bits == 64 ? out : out & ((1ULL << bits) - 1);
}

bool wrapped(const Decimal& expected, const Decimal& got) {
    if (!expected.is_integer() || !got.is_integer() || expected == got) return false;
    static const Decimal two_to_31 = decimal("2147483647");
    if (Decimal::compare_magnitude(expected, two_to_31) <= 0) return false;
    // The stored value must fit the width; otherwise a large multiple of 2^64 would match any number.
    for (const auto& [bits, edge] : {std::pair{32, decimal("4294967296")}, {64, decimal("18446744073709551616")}}) {
        if (Decimal::compare_magnitude(got, edge) >= 0) continue;
        if (modulo(expected, bits) && modulo(expected, bits) == modulo(got, bits)) return true;
    }
    return false;
}

Decimal without_exponent(const Item& item) {
    const std::string spelled = item.kind == ItemKind::spelled ? item.field(0).atoms() : std::string(item.digits());
    return Decimal::parse(std::string_view(spelled).substr(0, spelled.find_first_of("eE"))).value_or(Decimal{});
}

/// Up to here another binary64 is a rounding error; docs/findings.md gives the same number.
constexpr std::int64_t most_ulps_off = 4;

/// Steps between numbers of opposite sign may be as far apart as their type goes, so no absolute value is taken.
bool within(std::int64_t steps, std::int64_t most) {
    return steps >= -most && steps <= most;
}

class NumberJudge {
  public:
    NumberJudge(const Item& expected, const Item& got, const CompareOptions& options)
        : expected_item_(expected),
          got_item_(got),
          e_(stored_number(expected, expected.kind)),
          g_(stored_number(got, got.kind)),
          // For a binary value that was encoded, as for a round trip, a text is right if it reads back to the same
          // value.
          of_round_trip_(options.of_round_trip || e_.binary),
          side_unknown_(options.side_unknown),
          of_encoding_(options.of_encoding) {}

    std::vector<Explained> judge() {
        if (!e_.exact) {  // a value case may hold NaN or an infinity
            // A NaN's sign and payload are no value of their own.
            const bool both_nan = !g_.exact && number::is_nan64(e_.nearest) && number::is_nan64(g_.nearest);
            if (!both_nan && (e_.nearest != g_.nearest || e_.spelled != g_.spelled))
                difference("number/wrong-value");
            return std::move(out_);
        }
        // A text that reads back to the binary value is right; it raises no question of precision.
        if (e_.binary && g_.exact &&
            (expected_item_.kind == ItemKind::binary32 ? number::widen(number::nearest_binary32(*g_.exact))
                                                       : g_.nearest) == e_.nearest) {
            zero_sign();
        } else if (g_.exact && *g_.exact == *e_.exact) {
            zero_sign();
            same(g_.binary ? (got_item_.kind == ItemKind::binary32 ? "binary32" : "binary64") : "exact", "exact");
        } else if (g_.binary && g_.nearest == e_.nearest && g_.exact) {
            zero_sign();
            same("binary64", "rounded");
        } else if (g_.binary && (g_.nearest << 1) == 0 && (e_.nearest << 1) == 0) {
            same("binary64", "rounded");  // a value that rounds to zero is zero, with either sign
        } else if (of_round_trip_ && g_.exact && g_.nearest == e_.nearest && !number::is_infinite64(e_.nearest)) {
            same("binary64", "rounded");
        } else if (as_exact_as_nearest()) {
            same("binary64", "rounded");
        } else {
            unequal();
        }
        return std::move(out_);
    }

  private:
    [[nodiscard]] const Decimal& exact() const { return *e_.exact; }

    /// Whether a value that is no binary one is the nearest binary64 of a literal with a fraction or an exponent,
    /// stored in an integer, or a decimal no farther from the literal than that binary64.
    [[nodiscard]] bool as_exact_as_nearest() const {
        if (g_.binary || !g_.exact || number::is_infinite64(e_.nearest)) return false;
        const auto nearest = Decimal::from_binary64(e_.nearest);
        if (!nearest) return false;
        if (*g_.exact == *nearest) return !is_plain_integer() || is_beyond_64_bits();
        const auto nearer = Decimal::compare_distance(exact(), *g_.exact, *nearest);
        if (got_item_.kind == ItemKind::decimal) return nearer <= 0;
        // A text that was written for a decimal is as good as that decimal; as far away as the nearest binary64, it
        // may be another one.
        return of_round_trip_ && got_item_.kind == ItemKind::spelled && nearer < 0;
    }
    /// No integer type of 64 bits holds it. Where a binary64 does, it may be shown as the integer that it is.
    [[nodiscard]] bool is_beyond_64_bits() const {
        static const Decimal least = decimal("-9223372036854775808"), most = decimal("18446744073709551615");
        return Decimal::compare_magnitude(exact(), exact().negative() ? least : most) > 0;
    }
    /// A literal without fraction and exponent.
    [[nodiscard]] bool is_plain_integer() const {
        const std::string text = expected_item_.kind == ItemKind::spelled ? expected_item_.field(0).atoms()
                                                                          : std::string(expected_item_.digits());
        return text.find_first_of(".eE") == std::string_view::npos;
    }

    void difference(std::string cause, std::string_view more = {}) {
        const std::string detail =
            fmt::format("{} became {}{}", shown(e_, expected_item_), shown(g_, got_item_), more);
        out_.push_back({std::move(cause), "", "", detail});
    }
    void answer(std::string question, std::string answer) {
        out_.push_back({"", std::move(question), std::move(answer),
                        fmt::format("{} became {}", shown(e_, expected_item_), shown(g_, got_item_))});
    }

    void zero_sign() {
        if (!exact().is_zero() || !exact().negative()) return;
        const bool kept = g_.binary ? (g_.nearest >> 63) != 0 : g_.exact->negative();
        answer("negative-zero", kept ? "kept" : "lost");
    }

    void same(const char* precision, const char* range) {
        if (!exact_in_binary32(exact())) answer("number-precision", precision);
        if (beyond_range(exact(), e_.nearest)) answer("number-range", range);
    }

    void unequal() {
        if (!g_.exact) return no_finite_number();
        const Decimal& got = *g_.exact;
        const auto nearest32 = number::nearest_binary32(exact());
        const std::uint64_t in_binary32 = number::widen(nearest32);
        // Beyond binary32's range everything is infinity or zero there, which shows nothing.
        const bool binary32 = (g_.binary || of_round_trip_) && !number::is_infinite64(in_binary32) &&
                              (in_binary32 << 1) != 0 && nearest32 == number::nearest_binary32(got) &&
                              (in_binary32 == g_.nearest || (of_round_trip_ && got.digits().size() <= 9));
        if (number::is_infinite64(e_.nearest) && is_largest(got)) return answer("number-range", "largest");
        // A number below the smallest that becomes the largest has wrapped.
        if (is_type_edge(got) && exact().negative() == got.negative() &&
            Decimal::compare_magnitude(exact(), got) > 0)
            return difference("number/saturated");
        if (wrapped(exact(), got)) return difference("number/wrapped");
        if ((of_round_trip_ || of_encoding_) && !side_unknown_ && !g_.binary && few_digits()) return;
        // A binary value next to the nearest one is a rounding error, whatever else it looks like.
        const std::int64_t steps = number::steps_between(e_.nearest, g_.nearest);
        const bool next_to_nearest =
            !number::is_infinite64(e_.nearest) && steps != 0 && within(steps, most_ulps_off);
        if ((g_.binary || of_round_trip_) && next_to_nearest && !got.is_zero()) return off_by(steps);
        if (got.is_zero())
            return difference(exact().truncated().is_zero() && exact().point() > -4 ? "number/truncated-to-integer"
                                                                                    : "number/flushed-to-zero");
        const bool by_nearest = g_.binary || of_round_trip_;
        if (got == exact().negated() || (by_nearest && g_.nearest == (e_.nearest ^ (1ULL << 63))))
            return difference("number/sign-lost");
        if (!exact().is_integer() && got == exact().truncated()) return difference("number/truncated-to-integer");
        if (binary32 && !exact_in_binary32(exact())) {
            same("binary32", "rounded");
            return;
        }
        const Decimal mantissa = without_exponent(expected_item_);
        if (got == mantissa || (by_nearest && g_.nearest == number::nearest_binary64(mantissa)))
            return difference("number/exponent-ignored");
        if (steps == 0) return neighbour_of_the_same_binary();
        if (cut_digits()) return;
        const bool countable = !number::is_infinite64(e_.nearest) && within(steps, 1'000'000);
        difference("number/wrong-value",
                   countable ? fmt::format(" ({} ulp {})", std::abs(steps), steps < 0 ? "below" : "above") : "");
    }

    void off_by(std::int64_t steps) {
        const bool many = exact().digits().size() > 20;
        difference(many ? "number/off-by-ulp-beyond-20-digits" : "number/off-by-ulp",
                   fmt::format(" ({} ulp {})", std::abs(steps), steps < 0 ? "below" : "above"));
    }

    [[nodiscard]] static bool is_largest(const Decimal& value) {
        static const Decimal largest = decimal("1.7976931348623157e308");
        return Decimal::compare_magnitude(value, largest) == 0;
    }

    void no_finite_number() {
        if (!g_.binary) return difference("number/inexact-decimal");
        if (number::is_nan64(g_.nearest)) return difference("number/not-a-number");
        const bool same_sign = ((g_.nearest >> 63) != 0) == exact().negative();
        if (number::is_infinite64(e_.nearest) && same_sign) return answer("number-range", "infinity");
        difference("number/became-infinity");
    }

    void neighbour_of_the_same_binary() {
        const bool integer = exact().is_integer() && g_.exact->is_integer();
        difference(g_.binary ? "number/off-by-ulp"
                             : (integer ? "number/integer-rounded" : "number/inexact-decimal"));
    }

    /// True if a text has the value rounded to fewer digits than binary64 needs, as "%.15g" writes it.
    bool few_digits() {
        const std::size_t written = g_.exact->digits().size();
        const auto nearest = Decimal::from_binary64(e_.nearest);
        if (written == 0 || !nearest) return false;
        if (!e_.binary && *g_.exact == exact().truncated()) return false;
        // Zeros at the end are not digits here: the writer may have had more digits than the text shows. Of a round
        // trip a decoder may have cut digits as well; only the 15 that every binary64 keeps are typical of writers.
        const bool writer_alone = e_.binary || of_encoding_;
        const std::size_t fewest = writer_alone ? 6 : 15, most = e_.binary ? 16 : 15;
        const auto decimals = static_cast<std::int64_t>(written) - g_.exact->point();
        if (e_.binary && written < fewest && decimals >= 6 && nearest->rounded(written) == *g_.exact) {
            difference("number/few-digits", fmt::format(" (written with {} decimals)", decimals));
            return true;
        }
        for (std::size_t count = most; count >= std::max(written, fewest); --count) {
            // An integer that went through binary64 was rounded there: 15 digits alone show that the writer cut
            // more.
            const bool of_nearest = e_.binary || count == 15;
            if (exact().rounded(count) != *g_.exact && !(of_nearest && nearest->rounded(count) == *g_.exact))
                continue;
            // Shorter texts hide how many digits the writer took.
            difference("number/few-digits", fmt::format(" (written with {}{} significant digits)",
                                                        count == written ? "" : "at most ", count));
            return true;
        }
        return false;
    }

    /// True if the stored number is exactly the value of fewer digits, and not merely a rounding error.
    bool cut_digits() {
        if (exact().digits().size() < 8) return false;
        for (std::size_t count = 6; count < exact().digits().size() && count < 20; ++count) {
            const Decimal cut = exact().first_digits(count);
            if (cut != *g_.exact && number::nearest_binary64(cut) != g_.nearest) continue;
            difference("number/digits-cut", fmt::format(" (its first {} digits)", count));
            return true;
        }
        return false;
    }

    const Item& expected_item_;
    const Item& got_item_;
    StoredNumber e_, g_;
    bool of_round_trip_, side_unknown_, of_encoding_;
    std::vector<Explained> out_;
};

}  // namespace

std::vector<Explained> explain_number(const Item& expected, const Item& got, const CompareOptions& options) {
    return NumberJudge(expected, got, options).judge();
}

}  // namespace nachklang::json

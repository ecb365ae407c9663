// A decimal is its significant digits and the position of the point, so that equal values compare equal in every
// spelling. Exponents that do not fit 64 bits keep their digits, by GMP.
#include <gmpxx.h>

#include <algorithm>

#include <nachklang/number.hpp>

namespace nachklang {
namespace {

constexpr std::int64_t clamp_at = 4'000'000'000'000'000'000;

std::size_t count_digits(std::string_view text, std::size_t at) {
    std::size_t count = 0;
    while (at + count < text.size() && text[at + count] >= '0' && text[at + count] <= '9') ++count;
    return count;
}

struct Spelling {
    bool negative = false;
    std::string_view whole, fraction, exponent;
    bool exponent_negative = false;
};

std::optional<Spelling> split(std::string_view text) {
    Spelling s;
    std::size_t at = 0;
    if (at < text.size() && text[at] == '-') {
        s.negative = true;
        ++at;
    }
    s.whole = text.substr(at, count_digits(text, at));
    at += s.whole.size();
    if (s.whole.empty()) return std::nullopt;
    if (at < text.size() && text[at] == '.') {
        s.fraction = text.substr(at + 1, count_digits(text, at + 1));
        at += 1 + s.fraction.size();
        if (s.fraction.empty()) return std::nullopt;
    }
    if (at < text.size() && (text[at] == 'e' || text[at] == 'E')) {
        ++at;
        if (at < text.size() && (text[at] == '+' || text[at] == '-')) s.exponent_negative = text[at++] == '-';
        s.exponent = text.substr(at, count_digits(text, at));
        at += s.exponent.size();
        if (s.exponent.empty()) return std::nullopt;
    }
    if (at != text.size()) return std::nullopt;
    return s;
}

mpz_class exact_point(std::int64_t point, const std::string& far) {
    if (!far.empty()) return mpz_class(far);
    return mpz_class(static_cast<long>(point));
}

}  // namespace

std::optional<Decimal> Decimal::parse(std::string_view text) {
    const auto spelling = split(text);
    if (!spelling) return std::nullopt;
    Decimal out;
    out.negative_ = spelling->negative;
    out.digits_.reserve(spelling->whole.size() + spelling->fraction.size());
    out.digits_.append(spelling->whole).append(spelling->fraction);
    const std::size_t first = out.digits_.find_first_not_of('0');
    if (first == std::string::npos) {
        out.digits_.clear();
        return out;
    }
    out.digits_.erase(out.digits_.find_last_not_of('0') + 1);
    out.digits_.erase(0, first);
    const std::int64_t shift = static_cast<std::int64_t>(spelling->whole.size()) - static_cast<std::int64_t>(first);

    std::string_view exponent = spelling->exponent;
    exponent.remove_prefix(std::min(exponent.find_first_not_of('0'), exponent.size()));
    if (exponent.size() <= 18) {
        std::int64_t value = 0;
        for (const char c : exponent) value = value * 10 + (c - '0');
        out.point_ = (spelling->exponent_negative ? -value : value) + shift;
    } else {
        mpz_class point{std::string(exponent)};
        if (spelling->exponent_negative) point = -point;
        point += mpz_class(static_cast<long>(shift));
        out.far_point_ = point.get_str();
        out.point_ = sgn(point) < 0 ? -clamp_at : clamp_at;
        if (cmp(abs(point), mpz_class(static_cast<long>(clamp_at))) < 0) {
            out.point_ = point.get_si();
            out.far_point_.clear();
        }
    }
    return out;
}

std::optional<Decimal> Decimal::from_binary64(std::uint64_t bits) {
    if (number::is_nan64(bits) || number::is_infinite64(bits)) return std::nullopt;
    const std::uint64_t field = (bits >> 52) & 0x7FF;
    const std::uint64_t mantissa = (bits & 0xFFFFFFFFFFFFFULL) | (field == 0 ? 0 : 1ULL << 52);
    const long exponent = static_cast<long>(field == 0 ? 1 : field) - 1075;
    mpz_class scaled(static_cast<unsigned long>(mantissa));
    long tens = 0;
    if (exponent >= 0) {
        scaled <<= static_cast<unsigned long>(exponent);
    } else {
        // m·2^-k = m·5^k·10^-k
        mpz_class fives;
        mpz_ui_pow_ui(fives.get_mpz_t(), 5, static_cast<unsigned long>(-exponent));
        scaled *= fives;
        tens = exponent;
    }
    std::string text = scaled.get_str() + "e" + std::to_string(tens);
    if ((bits >> 63) != 0) text.insert(0, "-");
    return parse(text);
}

bool Decimal::is_integer() const {
    return is_zero() || point_ >= static_cast<std::int64_t>(digits_.size());
}

Decimal Decimal::first_digits(std::size_t count) const {
    Decimal out = *this;
    if (count >= digits_.size()) return out;
    out.digits_.resize(count);
    out.digits_.erase(out.digits_.find_last_not_of('0') + 1);
    if (out.digits_.empty()) {
        out.point_ = 0;
        out.far_point_.clear();
    }
    return out;
}

Decimal Decimal::truncated() const {
    if (is_integer()) return *this;
    return first_digits(point_ <= 0 ? 0 : static_cast<std::size_t>(point_));
}

Decimal Decimal::negated() const {
    Decimal out = *this;
    out.negative_ = !negative_;
    return out;
}

std::string Decimal::canonical() const {
    std::string out = negative_ ? "-" : "";
    if (is_zero()) return out + "0";
    out += "0." + digits_;
    const std::string exponent = far_point_.empty() ? std::to_string(point_) : far_point_;
    return out + "e" + exponent;
}

int Decimal::compare_magnitude(const Decimal& a, const Decimal& b) {
    if (a.is_zero() || b.is_zero()) return static_cast<int>(!a.is_zero()) - static_cast<int>(!b.is_zero());
    if (a.point_ != b.point_) return a.point_ < b.point_ ? -1 : 1;
    if (a.far_point_ != b.far_point_) {
        const int order = cmp(exact_point(a.point_, a.far_point_), exact_point(b.point_, b.far_point_));
        if (order != 0) return order < 0 ? -1 : 1;
    }
    const int order = a.digits_.compare(b.digits_);
    return order < 0 ? -1 : (order > 0 ? 1 : 0);
}

Decimal Decimal::rounded(std::size_t count) const {
    if (count == 0 || count >= digits_.size()) return *this;
    const auto rest = digits_.substr(count);
    const bool odd = (digits_[count - 1] - '0') % 2 != 0;
    const bool up = rest[0] > '5' || (rest[0] == '5' && (rest.size() > 1 || odd));
    Decimal out = first_digits(count);
    if (!up) return out;
    // The unit of the last digit kept; a carry may lengthen the number.
    mpz_class kept(digits_.substr(0, count));
    kept += 1;
    out.digits_ = kept.get_str();
    if (out.digits_.size() > count) ++out.point_;
    out.digits_.erase(out.digits_.find_last_not_of('0') + 1);
    return out;
}

int Decimal::compare_distance(const Decimal& value, const Decimal& a, const Decimal& b) {
    // Farther apart than this no rounding brings numbers.
    constexpr std::int64_t widest = 5000;
    std::int64_t low = 0, high = 0;
    bool any = false;
    for (const Decimal* d : {&value, &a, &b}) {
        if (d->is_zero()) continue;
        const std::int64_t last = d->point_ - static_cast<std::int64_t>(d->digits_.size());
        low = any ? std::min(low, last) : last;
        high = any ? std::max(high, d->point_) : d->point_;
        any = true;
    }
    if (high - low > widest) return 1;
    const auto scaled = [&](const Decimal& d) {
        if (d.is_zero()) return mpz_class(0);
        mpz_class tens;
        mpz_ui_pow_ui(tens.get_mpz_t(), 10,
                      static_cast<unsigned long>(d.point_ - static_cast<std::int64_t>(d.digits_.size()) - low));
        const mpz_class out = mpz_class(d.digits_) * tens;
        return d.negative_ ? mpz_class(-out) : out;
    };
    const mpz_class middle = scaled(value), to_a = middle - scaled(a), to_b = middle - scaled(b);
    const int order = mpz_cmpabs(to_a.get_mpz_t(), to_b.get_mpz_t());
    return order < 0 ? -1 : (order > 0 ? 1 : 0);
}

bool operator==(const Decimal& a, const Decimal& b) {
    if (a.is_zero() && b.is_zero()) return true;
    return a.negative_ == b.negative_ && Decimal::compare_magnitude(a, b) == 0;
}

}  // namespace nachklang

// See native_fields.hpp. Days are counted one by one from a year's first: slow, and with nothing in common with the
// core's calendar.
#include "seeded_faults/native_fields.hpp"

#include <algorithm>
#include <array>
#include <cctype>
#include <cstdint>
#include <cstdio>

namespace seeded_faults {
namespace {

constexpr std::string_view letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";

bool is_leap(int year) {
    return year % 4 == 0 && (year % 100 != 0 || year % 400 == 0);
}
int days_in(int year, int month) {
    constexpr std::array<int, 12> lengths{31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31};
    return lengths[static_cast<std::size_t>(month - 1)] + (month == 2 && is_leap(year) ? 1 : 0);
}

/// A date and a time of day that minutes can be added to.
struct Moment {
    int year = 0, month = 0, day = 0, minute = 0;

    void next_day() {
        if (++day <= days_in(year, month)) return;
        day = 1;
        if (++month <= 12) return;
        month = 1;
        ++year;
    }
    void day_before() {
        if (--day > 0) return;
        if (--month == 0) {
            month = 12;
            --year;
        }
        day = days_in(year, month);
    }
    void add_minutes(int count) {
        constexpr int of_day = 24 * 60;
        for (minute += count; minute >= of_day; minute -= of_day) next_day();
        for (; minute < 0; minute += of_day) day_before();
    }
};

/// Whether a text has the shape: d is a digit, other characters are themselves.
bool has_shape(std::string_view text, std::string_view shape) {
    if (text.size() != shape.size()) return false;
    for (std::size_t i = 0; i < shape.size(); ++i) {
        const bool digit = std::isdigit(static_cast<unsigned char>(text[i])) != 0;
        if (shape[i] == 'd' ? !digit : text[i] != shape[i]) return false;
    }
    return true;
}
int number(std::string_view digits) {
    int out = 0;
    for (const char c : digits) out = out * 10 + (c - '0');
    return out;
}

/// Minutes of an offset, which are to be taken away; nothing if it is none.
std::optional<int> offset_of(std::string_view text, const NativeMistakes& mistakes) {
    if (text == "Z") return 0;
    if (!has_shape(text, "+dd:dd") && !has_shape(text, "-dd:dd")) return std::nullopt;
    const int hours = number(text.substr(1, 2)), minutes = number(text.substr(4));
    if (hours > 23 || minutes > 59) return std::nullopt;
    const int sign = text.front() == '-' && !(mistakes.offset_sign_of_hours && hours == 0) ? -1 : 1;
    return sign * (hours * 60 + minutes);
}

/// The Julian calendar is ten days late in the sixteenth century, and loses them century by century before it.
void from_julian(Moment& moment) {
    const int century = (moment.month > 2 ? moment.year : moment.year - 1) / 100;
    const int late = century - century / 4 - 2;
    for (int i = 0; i < late; ++i) moment.next_day();
    for (int i = 0; i > late; --i) moment.day_before();
}

std::string without_zeros(std::string digits) {
    while (digits.ends_with('0')) digits.pop_back();
    return digits;
}

/// A fraction as it is held, and what is over in whole seconds; nothing if it has no digits.
std::optional<std::string> fraction_of(std::string digits, const NativeMistakes& mistakes) {
    if (digits.empty()) return std::nullopt;
    if (mistakes.whole_seconds) return "";
    // More digits than a count of milliseconds has are cut.
    if (mistakes.fraction_is_count)
        digits = std::string(3 - std::min<std::size_t>(digits.size(), 3), '0') + digits.substr(0, 3);
    return without_zeros(digits);
}

}  // namespace

std::optional<std::string> read_instant(std::string_view text, const NativeMistakes& mistakes) {
    constexpr std::string_view shape = "dddd-dd-ddTdd:dd:dd";
    if (!has_shape(text.substr(0, shape.size()), shape)) return std::nullopt;
    const auto part = [&](std::size_t at, std::size_t count) { return number(text.substr(at, count)); };
    Moment moment{part(0, 4), part(5, 2), part(8, 2), part(11, 2) * 60 + part(14, 2)};
    const int second = part(17, 2);
    if (moment.month < 1 || moment.month > 12 || moment.day < 1 ||
        moment.day > days_in(moment.year, moment.month) || part(11, 2) > 23 || part(14, 2) > 59 || second > 59)
        return std::nullopt;
    std::string_view rest = text.substr(shape.size());
    std::string fraction;
    if (rest.starts_with('.')) {
        const std::size_t end = std::min(rest.find_first_not_of("0123456789", 1), rest.size());
        const auto held = fraction_of(std::string(rest.substr(1, end - 1)), mistakes);
        if (!held) return std::nullopt;
        fraction = *held;
        rest.remove_prefix(end);
    }
    const auto offset = offset_of(rest, mistakes);
    if (!offset) return std::nullopt;
    if (mistakes.old_calendar && (moment.year < 1582 || (moment.year == 1582 && moment.month < 10) ||
                                  (moment.year == 1582 && moment.month == 10 && moment.day < 15)))
        from_julian(moment);
    moment.add_minutes(mistakes.offset_reversed ? *offset : -*offset);
    if (moment.year < 0 || moment.year > 9999) return std::nullopt;
    char out[64];
    std::snprintf(out, sizeof out, "%04d-%02d-%02dT%02d:%02d:%02d", moment.year, moment.month, moment.day,
                  moment.minute / 60, moment.minute % 60, second);
    return out + (fraction.empty() ? "" : "." + fraction) + "Z";
}

std::optional<std::string> read_bytes(std::string_view text, const NativeMistakes& mistakes) {
    if (text.size() % 4 != 0) return std::nullopt;
    std::string out;
    for (std::size_t at = 0; at < text.size(); at += 4) {
        std::string group(text.substr(at, 4));
        const bool last = at + 4 == text.size();
        const std::size_t given = group.ends_with("==") ? 2 : group.ends_with('=') ? 3 : 4;
        if (given < 4 && !last) return std::nullopt;
        std::uint32_t bits = 0;
        for (std::size_t i = 0; i < 4; ++i) {
            char c = i < given ? group[i] : 'A';
            if (mistakes.url_letters) c = c == '-' ? '+' : c == '_' ? '/' : c;
            if (mistakes.other_letters && (c == '+' || c == '/')) c = c == '+' ? '/' : '+';
            const std::size_t value = letters.find(c);
            if (value == std::string_view::npos) return std::nullopt;
            bits = bits << 6 | static_cast<std::uint32_t>(value);
        }
        // Spare bits are zero (RFC 4648, 3.5).
        if (given < 4 && (bits & (given == 2 ? 0xFFFFU : 0xFFU)) != 0) return std::nullopt;
        if (given < 4 && mistakes.last_group_lost) break;
        for (std::size_t i = 0; i + 1 < given; ++i) out += static_cast<char>(bits >> (16 - 8 * i) & 0xFF);
    }
    return out;
}

std::string base64_of(std::string_view bytes) {
    std::string out;
    for (std::size_t at = 0; at < bytes.size(); at += 3) {
        const std::size_t given = std::min<std::size_t>(3, bytes.size() - at);
        std::uint32_t bits = 0;
        for (std::size_t i = 0; i < 3; ++i)
            bits = bits << 8 | (i < given ? static_cast<unsigned char>(bytes[at + i]) : 0U);
        for (std::size_t i = 0; i < 4; ++i) out += i <= given ? letters[bits >> (18 - 6 * i) & 63] : '=';
    }
    return out;
}

}  // namespace seeded_faults

// See natives.hpp.
#include "json/compare/natives.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <charconv>
#include <chrono>
#include <cstdlib>
#include <map>

#include <nachklang/number.hpp>

#include "json/compare/tree.hpp"

namespace nachklang::json {
namespace {

constexpr std::int64_t minute = 60, hour = 60 * minute, day = 24 * hour;

/// Takes numbers and signs off the front of a text.
class Scan {
  public:
    explicit Scan(std::string_view text) : rest_(text) {}

    bool take(std::string_view any_of) {
        if (rest_.empty() || any_of.find(rest_.front()) == std::string_view::npos) return false;
        last_ = rest_.front();
        rest_.remove_prefix(1);
        return true;
    }
    [[nodiscard]] char last() const { return last_; }
    [[nodiscard]] bool at_end() const { return rest_.empty(); }
    std::string_view digits() {
        const std::string_view out = rest_.substr(0, std::min(rest_.find_first_not_of("0123456789"), rest_.size()));
        rest_.remove_prefix(out.size());
        return out;
    }
    /// A number of just that many digits, up to `most`.
    std::optional<int> number(std::size_t count, int most) {
        const std::string_view text = digits();
        int out = 0;
        std::from_chars(text.data(), text.data() + text.size(), out);
        return text.size() == count && out <= most ? std::optional(out) : std::nullopt;
    }

  private:
    std::string_view rest_;
    char last_ = 0;
};

std::optional<std::int64_t> days_of(Scan& scan) {
    const bool negative = scan.take("-");
    if (!negative) scan.take("+");
    const std::string_view digits = scan.digits();
    int year = 0;
    std::from_chars(digits.data(), digits.data() + digits.size(), year);
    if (digits.size() < 4 || digits.size() > 5 || year > 32'000 || !scan.take("-")) return std::nullopt;
    const auto month = scan.number(2, 12);
    if (!month || !scan.take("-")) return std::nullopt;
    const auto of_month = scan.number(2, 31);
    if (!of_month) return std::nullopt;
    const std::chrono::year_month_day date{std::chrono::year(negative ? -year : year),
                                           std::chrono::month(static_cast<unsigned>(*month)),
                                           std::chrono::day(static_cast<unsigned>(*of_month))};
    if (!date.ok()) return std::nullopt;
    return std::chrono::sys_days(date).time_since_epoch().count();
}

std::optional<std::int64_t> offset_of(Scan& scan) {
    if (scan.take("Zz")) return 0;
    if (!scan.take("+-")) return std::nullopt;
    const int sign = scan.last() == '-' ? -1 : 1;
    const auto hours = scan.number(2, 23);
    if (!hours || !scan.take(":")) return std::nullopt;
    const auto minutes = scan.number(2, 59);
    if (!minutes) return std::nullopt;
    return sign * (*hours * hour + *minutes * minute);
}

std::string without_zeros(std::string_view digits) {
    const auto last = digits.find_last_not_of('0');
    return std::string(digits.substr(0, last == std::string_view::npos ? 0 : last + 1));
}

bool is_time(const Item& native) {
    return native.word() == "instant" || native.word() == "local-time";
}

std::string shown(const Item& item) {
    return shown_scalar(item, item.kind, 60);
}

Explained difference(std::string cause, const Item& expected, const Item& got) {
    return {std::move(cause), {}, {}, fmt::format("{} became {}", shown(expected), shown(got))};
}

std::string instant_cause(const Instant& expected, const Instant& got) {
    const std::int64_t shift = got.seconds - expected.seconds;
    if (shift == 0 && expected.fraction.starts_with(got.fraction)) return "instant/fraction-cut";
    constexpr std::int64_t farthest_offset = 28 * hour;  // one of 14 hours, taken the wrong way
    if (expected.fraction != got.fraction || shift == 0) return "instant/changed";
    if (shift % day == 0) return "instant/days-off";
    return shift % (15 * minute) == 0 && std::llabs(shift) <= farthest_offset ? "instant/hours-off"
                                                                              : "instant/changed";
}

/// Milliseconds since 1970 as an instant.
std::optional<Instant> of_milliseconds(const Decimal& number) {
    constexpr std::int64_t thousand = 1000, most_digits = 18;
    if (!number.is_integer() || number.point() > most_digits) return std::nullopt;
    std::string digits(number.digits());
    digits.resize(static_cast<std::size_t>(std::max<std::int64_t>(number.point(), 1)), '0');
    std::int64_t count = 0;
    std::from_chars(digits.data(), digits.data() + digits.size(), count);
    if (number.negative()) count = -count;
    std::int64_t seconds = count / thousand, rest = count % thousand;
    if (rest < 0) {
        rest += thousand;
        --seconds;
    }
    return Instant{seconds, without_zeros(fmt::format("{:03}", rest))};
}

std::string native_line(std::string_view word, std::string_view text) {
    return fmt::format("native {} {}", word, TraceWriter::field(text));
}

/// The line of what a document has in place of a held instant; nothing if it is to be shown as it is.
std::optional<std::string> instant_in(const Item& written, const Item& held) {
    const std::string held_text = held.field(0).atoms();
    if (is_number(written.kind)) {
        const auto number = stored_number(written, written.kind).exact;
        const auto instant = number ? of_milliseconds(*number) : std::nullopt;
        return instant ? std::optional(native_line(held.word(), text_of(*instant))) : std::nullopt;
    }
    if (written.kind != ItemKind::string) return std::nullopt;
    const std::string text = written.field(0).atoms();
    if (const auto instant = instant_of(text)) {
        const auto known = instant_of(held_text);
        return native_line("instant", known == instant ? held_text : text_of(*instant));
    }
    // A notation of the library's own can hold the fraction only if it has its digits.
    const auto known = instant_of(held_text);
    if (!known || known->fraction.empty() || text.find(known->fraction) != std::string::npos)
        return native_line(held.word(), held_text);
    return native_line(held.word(), text_of({known->seconds, {}}));
}

std::optional<std::string> native_in(const Item& written, const Item& held) {
    if (is_time(held)) return instant_in(written, held);
    if (held.word() != "bytes" || written.kind != ItemKind::string) return std::nullopt;
    const auto bytes = bytes_of(written.field(0).atoms());
    return bytes ? std::optional(native_line("bytes", *bytes)) : std::nullopt;
}

/// The native values of a record, by the names of their fields.
std::map<std::string, const Item*> natives_of(const Trace& record) {
    std::map<std::string, const Item*> out;
    const auto items = record.items();
    for (std::size_t i = 1; i < items.size(); ++i)
        if (items[i].kind == ItemKind::native && items[i - 1].kind == ItemKind::key)
            out[items[i - 1].field(0).atoms()] = &items[i];
    return out;
}

/// Whether a map by number is held. Only such a record has names that are integers.
bool has_number_names(const Trace& record) {
    return std::ranges::any_of(record.items(), [](const Item& item) {
        return item.kind == ItemKind::key && item.name_kind == ItemKind::integer;
    });
}
/// A name as the integer that it spells as JSON does; nothing if it is none.
std::optional<std::string> number_name(const Item& item) {
    if (item.kind != ItemKind::key || item.name_kind != ItemKind::string) return std::nullopt;
    const std::string name = item.field(0).atoms();
    const std::string_view digits = std::string_view(name).substr(name.starts_with('-') ? 1 : 0);
    const bool plain = !digits.empty() && digits.find_first_not_of("0123456789") == std::string_view::npos &&
                       (digits.front() != '0' || name == "0");
    return plain ? std::optional("key int " + name) : std::nullopt;
}

}  // namespace

std::optional<Instant> instant_of(std::string_view text) {
    Scan scan(text);
    const auto days = days_of(scan);
    if (!days || !scan.take("Tt")) return std::nullopt;
    const auto hours = scan.number(2, 23);
    if (!hours || !scan.take(":")) return std::nullopt;
    const auto minutes = scan.number(2, 59);
    if (!minutes || !scan.take(":")) return std::nullopt;
    const auto seconds = scan.number(2, 60);
    if (!seconds) return std::nullopt;
    Instant out;
    if (scan.take(".")) {
        const std::string_view digits = scan.digits();
        if (digits.empty()) return std::nullopt;
        out.fraction = without_zeros(digits);
    }
    const auto offset = offset_of(scan);
    if (!offset || !scan.at_end()) return std::nullopt;
    out.seconds = *days * day + *hours * hour + *minutes * minute + *seconds - *offset;
    return out;
}

std::string text_of(const Instant& instant) {
    const std::int64_t of_day = (instant.seconds % day + day) % day;
    const std::chrono::year_month_day date{
        std::chrono::sys_days(std::chrono::days((instant.seconds - of_day) / day))};
    const int year = static_cast<int>(date.year());
    return fmt::format("{}{:04}-{:02}-{:02}T{:02}:{:02}:{:02}{}{}Z", year < 0 ? "-" : "", std::abs(year),
                       static_cast<unsigned>(date.month()), static_cast<unsigned>(date.day()), of_day / hour,
                       of_day / minute % 60, of_day % minute, instant.fraction.empty() ? "" : ".",
                       instant.fraction);
}

std::optional<std::string> bytes_of(std::string_view text) {
    constexpr std::string_view alphabet = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";
    if (text.size() % 4 != 0) return std::nullopt;
    const std::size_t letters = text.size() - (text.ends_with("==") ? 2 : text.ends_with('=') ? 1 : 0);
    std::string out;
    unsigned bits = 0;
    int count = 0;
    for (const char c : text.substr(0, letters)) {
        const auto value = alphabet.find(c);
        if (value == std::string_view::npos) return std::nullopt;
        bits = (bits << 6 | static_cast<unsigned>(value)) & 0xFFFF;
        count += 6;
        if (count < 8) continue;
        count -= 8;
        out += static_cast<char>(bits >> count & 0xFF);
    }
    return out;
}

std::optional<Explained> explain_native(const Item& expected, const Item& got) {
    const bool pair =
        expected.kind == ItemKind::native && got.kind == ItemKind::native && expected.word() == got.word();
    if (!pair || (!is_time(expected) && expected.word() != "bytes")) return std::nullopt;
    const std::string wanted = expected.field(0).atoms(), held = got.field(0).atoms();
    if (expected.word() == "bytes")
        return difference(wanted.starts_with(held) ? "bytes/cut" : "bytes/changed", expected, got);
    const auto a = instant_of(wanted), b = instant_of(held);
    return difference(a && b ? instant_cause(*a, *b) : "instant/changed", expected, got);
}

Trace record_in(const Trace& written, const Trace& held) {
    const auto natives = natives_of(held);
    const bool by_number = has_number_names(held);
    if (natives.empty() && !by_number) return written;
    const auto items = written.items();
    const auto lines = written.lines();
    std::string out;
    for (std::size_t i = 0; i < items.size(); ++i) {
        std::optional<std::string> native = by_number ? number_name(items[i]) : std::nullopt;
        if (i > 0 && items[i - 1].kind == ItemKind::key)
            if (const auto found = natives.find(items[i - 1].field(0).atoms()); found != natives.end())
                native = native_in(items[i], *found->second);
        out += native ? *native + "\n" : std::string(lines[i]);
    }
    return *Trace::parse(std::move(out));
}

}  // namespace nachklang::json

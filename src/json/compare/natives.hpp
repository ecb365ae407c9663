// What the fields of records hold that JSON has no kind for: instants and bytes, in a trace as native items.
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

#include <nachklang/trace.hpp>

#include "json/compare/explain.hpp"

namespace nachklang::json {

/// A point in time: seconds from 1970-01-01T00:00:00Z in the proleptic Gregorian calendar, and the digits of a
/// fraction without zeros at their end.
struct Instant {
    std::int64_t seconds = 0;
    std::string fraction;
    friend bool operator==(const Instant&, const Instant&) = default;
};
/// Of a text in the notation of RFC 3339, 5.6; nothing if it is none. Years may have more than four digits, and a
/// sign.
std::optional<Instant> instant_of(std::string_view text);
/// RFC 3339 in UTC.
std::string text_of(const Instant& instant);

/// The bytes of a text in base 64 with its padding (RFC 4648, 4); nothing if it is none.
std::optional<std::string> bytes_of(std::string_view text);

/// What became of an instant or of bytes that others took the place of; nothing if the items are no such pair.
std::optional<Explained> explain_native(const Item& expected, const Item& got);

/// A document that was written from a record, its native values, and numbers that are names in a map, as the record
/// held them where the text gives just those. An instant may be written as milliseconds since 1970, or in a
/// notation of the library's own, which is taken for what was held as far as it has the digits of a fraction.
Trace record_in(const Trace& written, const Trace& held);

}  // namespace nachklang::json

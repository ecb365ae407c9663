// Fields of records that JSON has no kind for, read and written by means of this codec's own: instants as RFC 3339
// spells them, and bytes in base 64.
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace seeded_faults {

/// What is read wrongly there.
struct NativeMistakes {
    bool offset_reversed = false;       ///< an offset is added where it is to be taken away
    bool offset_sign_of_hours = false;  ///< an offset takes its sign from its hours, which 00 does not have
    bool fraction_is_count = false;     ///< the digits of a fraction count milliseconds
    bool whole_seconds = false;         ///< a fraction is dropped
    bool old_calendar = false;          ///< before 1582-10-15 dates are those of the Julian calendar
    bool last_group_lost = false;       ///< bytes of a group with padding are dropped
    bool other_letters = false;         ///< + and / are taken for each other
    bool url_letters = false;           ///< - and _ are read, too
};

/// The instant in UTC, without zeros at the end of its fraction; nothing if the text is no instant.
std::optional<std::string> read_instant(std::string_view text, const NativeMistakes& mistakes);
/// The bytes; nothing if the text is not base 64 with its padding.
std::optional<std::string> read_bytes(std::string_view text, const NativeMistakes& mistakes);
/// Bytes in base 64.
std::string base64_of(std::string_view bytes);

}  // namespace seeded_faults

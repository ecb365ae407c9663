// Decoding into a record by its table of fields, and the mistakes that can be made there.
#pragma once

#include <optional>
#include <string>
#include <string_view>

#include <nachklang/adapter.hpp>

#include "oracle/json_recogniser.hpp"
#include "seeded_faults/native_fields.hpp"

namespace seeded_faults {

/// What a decoder into records does wrong. Without a mistake it refuses every value of another kind.
struct RecordMistakes {
    bool nested_unset = false;         ///< a nested record that is null or absent is left as memory was
    bool wraps = false;                ///< integers are kept modulo 2^32
    bool cuts_fractions = false;       ///< an integer field takes a number with a fraction, without it
    bool through_double = false;       ///< integers of 64 bits come from a double
    bool reads_texts = false;          ///< a number is taken from a string
    bool any_case = false;             ///< names are compared without case
    bool absent_is_default = false;    ///< a required field that is absent is 0, false or empty
    bool list_of_one = false;          ///< of a list the first element is kept
    bool misses_escaped = false;       ///< a name with an escape is not found
    bool null_is_text = false;         ///< null for a field of text is "null"
    bool late_through_double = false;  ///< integers that wait for the tag of their record come from a double
    bool inner_tag_counts = false;     ///< a tag inside of another member is the record's
    bool kind_guessed = false;         ///< without a tag a record is of the first kind
    bool map_name_cut = false;         ///< a name of a map by number ends at its first character that is no digit
    bool map_sign_lost = false;        ///< a name of a map by number loses its sign
    NativeMistakes native{};
};

/// Prints the record that a value makes; false if it is refused. Numbers are printed as they are spelled.
bool print_as_record(const oracle::Value& value, std::string_view record, const RecordMistakes& mistakes,
                     nachklang::adapter::TraceOut& out);

}  // namespace seeded_faults

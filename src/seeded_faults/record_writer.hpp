// Encoding a record, and the mistakes that can be made there.
#pragma once

#include <string>
#include <string_view>

namespace seeded_faults {

/// What an encoder of records does wrong.
struct RecordWritingMistakes {
    bool capital_names = false;        ///< names of fields begin with a capital
    bool no_zero = false;              ///< a field that is 0, false or empty is left out
    bool six_digits = false;           ///< numbers of 64 bits have six digits
    bool through_double = false;       ///< integers are written from a double
    bool empty_for_null = false;       ///< a text that is absent is written as an empty one
    bool list_of_one_bare = false;     ///< a list of one element is written without its brackets
    bool nested_inside = false;        ///< a nested record's value takes the place of the record
    bool integers_with_point = false;  ///< integers are written as 7.0, which the decoder refuses
    bool quotes_raw = false;           ///< quotes in a text are not escaped
    bool nan_raw = false;              ///< numbers that JSON cannot hold are written as words
    bool nan_is_null = false;          ///< they are written as null
    bool bytes_raw = false;            ///< texts that UTF-8 cannot hold are written as they are
    bool dates_cut = false;            ///< of a text that begins as a date only the date is written
};

/// The document of a record, which comes as a trace of its fields. Throws std::invalid_argument for what no
/// document can hold.
std::string written_record(std::string_view fields, const RecordWritingMistakes& mistakes);

}  // namespace seeded_faults

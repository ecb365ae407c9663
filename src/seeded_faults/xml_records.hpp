// Records that are decoded from XML and written as XML, and the mistakes that can be made there.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "oracle/xml_recogniser.hpp"

namespace seeded_faults {

/// What a decoder into records, or an encoder of them, does wrong. Without a mistake it spells as XML Schema does,
/// and refuses what is none of a field's kind.
struct XmlRecordMistakes {
    // decoding
    bool text_ends_at_comment = false;  ///< what follows a comment or an instruction is left out of a text
    bool sections_left_out = false;     ///< CDATA sections are no part of a number
    bool wraps = false;                 ///< integers are kept modulo 2^32
    bool cuts_fractions = false;        ///< an integer field takes a number with a fraction, without it
    bool word_is_zero = false;          ///< a text without a digit is 0
    bool last_of_list = false;          ///< each element of a list takes the place of the one before
    bool list_begins_anew = false;      ///< an element that is none of a list's ends what is known of it
    bool trims_texts = false;           ///< white space at the ends of a text is left out
    bool empty_is_default = false;      ///< an empty element is 0 or false
    bool nested_unset = false;          ///< a nested record that is absent is left as memory was
    bool namespaces_ignored = false;    ///< names are compared without their namespaces
    bool takes_attributes = false;      ///< an attribute counts as the element of its name
    bool true_by_first_letter = false;  ///< a text that does not begin with t or 1 is false
    bool nil_ignored = false;           ///< xsi:nil says nothing: the element is empty
    // encoding
    bool markup_raw = false;               ///< '<' and '&' are written as they are
    bool returns_raw = false;              ///< a carriage return is written as it is
    bool value_ends_raw = false;           ///< line ends are written into attribute values as they are
    bool empty_left_out = false;           ///< a text without characters is not written
    bool list_in_one_element = false;      ///< a list's elements are written into one, with blanks between
    bool controls_written = false;         ///< characters that no document holds are written
    bool controls_left_out = false;        ///< they are left out
    bool numbers_with_six_digits = false;  ///< a number is written with six digits
};

/// The record that a document makes, as lines of a trace; nothing if it is refused.
std::optional<std::string> xml_record(const std::vector<oracle::XmlNode>& document, std::string_view record,
                                      const XmlRecordMistakes& mistakes);
/// The text of a record of these lines; throws XmlRefused for a character that no document holds.
std::string written_xml_record(std::string_view fields, std::string_view record, const XmlRecordMistakes& mistakes);

}  // namespace seeded_faults

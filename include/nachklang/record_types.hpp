// Record types: what application code declares natively and decodes into. Adapters of every language declare the
// same ones, from the table of docs/records-of-fields.md.
#pragma once

#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace nachklang {

struct Case;
struct Reading;

/// A field of a record. Its kind is int32, int64, binary64, boolean, text, instant, bytes, a list as "[int32]", a
/// map as "{int32:int32}", or the name of another record type. An instant is `native instant` with its spelling of
/// RFC 3339 in UTC in a trace, or `native local-time` if the type keeps no offset; bytes are `native bytes`.
struct RecordField {
    std::string_view name, kind;
    bool required = true;       ///< false: the type has room for "absent"
    bool is_attribute = false;  ///< where documents have such: else it is an element
    bool of_one_kind = false;   ///< of a record of several kinds: only one of them has this field
};
/// Of several kinds is a record whose first field, the tag, says which: a sum type.
struct RecordType {
    std::string_view name;
    std::vector<RecordField> fields;
};
std::span<const RecordType> record_types();

/// Contradictions of a case with its record type: a value that the case expects holds just its fields, each of its
/// kind or a value that the document has there.
std::vector<std::string> record_problems(const Case& c);

/// Whether the reader's value of a case's document can be compared with what implementations hold: it has one, and
/// that is a record where they decode into one. Markup is none.
bool is_comparable(const Case& c, const Reading& reading);

}  // namespace nachklang

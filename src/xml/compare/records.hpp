// Records of fields that documents are decoded into, and written from. A record is no markup: its trace holds named
// values, which are compared as those of JSON are.
#pragma once

#include <nachklang/format.hpp>

namespace nachklang::xml {

/// Whether a trace is a record of fields.
bool is_record(const Trace& trace);
/// Explains where and why a decoder's record is not the expected one.
Comparison compare_records(const Trace& expected, const Trace& got, const CompareOptions& options);
/// The fields that a written document has, as far as `held` has fields of their names: elements, or attributes, of
/// the root. A field's text counts as what `held` has there: a number, a boolean, a text, a list, another record.
Trace record_in(const Trace& document, const Trace& held);

}  // namespace nachklang::xml

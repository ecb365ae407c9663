// The second opinion: a plain recogniser of JSON that shares no code with the reference reader.
//
// It is written in the opposite style: the text is decoded to a list of characters first; the grammar is a set of
// functions that try to match and back out, as in a parsing expression grammar; and the place of the error is the
// furthest place where a match failed. It recurses, and so takes a limit of depth.
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace oracle {

enum class Kind { null, boolean, number, string, array, object };

struct Member;

/// A value. Strings hold UTF-8, lone surrogates as three bytes.
struct Value {
    Kind kind = Kind::null;
    bool truth = false;
    std::string text;        ///< of a number: as spelled; of a string: its characters
    std::string raw;         ///< of a string: as written, without quotes
    std::size_t offset = 0;  ///< of its first byte
    std::vector<Member> members;
};

/// Of an object: a name (a string) and a value; of an array: a value second.
struct Member {
    Value first, second;
};

/// Departures from the grammar that a faulty codec may allow itself.
struct Leniency {
    bool trailing_comma = false, comments = false, leading_zeros = false, missing_colon = false,
         ill_formed_utf8 = false;
    bool text_after_end = false, single_quotes = false, control_in_string = false, unknown_escape = false,
         bare_point = false;
    bool byte_order_mark = false, no_top_scalar = false;
};

struct Recognised {
    std::optional<Value> value;
    std::size_t error_offset = 0;  ///< in bytes, if there is no value
    bool too_deep = false;
};

Recognised recognise(std::string_view document, const Leniency& leniency = {}, std::size_t deepest = 1000);

/// The value as the reference reader's trace would print it (numbers spelled), by own means.
std::string print_trace(const Value& value);

}  // namespace oracle

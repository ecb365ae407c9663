// What an implementation can be asked to do. Operations are rows of a table: adding one is adding a row, and what
// campaign, judge, limits, protocol check and display need to know of it is in that row.
#pragma once

#include <cstdint>
#include <optional>
#include <span>
#include <string_view>

namespace nachklang {

enum class Operation : std::uint8_t {
    decode,
    encode,
    round_trip,
    bind,
    bind_round_trip,
    bind_encode,
    pieces,
    sequence,
    open_stream
};

/// What goes into an operation or comes out of it.
enum class Content : std::uint8_t { document, value };

struct OperationInfo {
    Operation operation;
    std::string_view name;  ///< on the wire, in hellos and in records
    Content input, output;
    /// The operation that it continues or repeats in another way: a round trip starts with a decode, so its answers
    /// repeat what the decode answered, less exactly.
    std::optional<Operation> continues{};
    bool runs_twice =
        false;  ///< a campaign sends what it wrote through it once more, to see whether that is stable
    /// Whether a standard demands that it succeeds on what is well-formed: of readers it does, of writers and of
    /// records it does not.
    bool must_succeed = true;
    /// It decodes into a record type that the library declares natively: asked of cases that name one, which no
    /// other operation is asked. A round trip of a record is compared with the fields that the record held.
    bool of_record = false;
    /// The document arrives in pieces. The answer must be that of the operation which it continues.
    bool in_pieces = false;
    /// Several documents follow each other in one text, and the answer is the list of their values; where one is
    /// refused, the list holds `native refused -`. Asked of cases that say so, which no other operation is asked.
    bool of_sequence = false;
    /// They come from a stream that does not end with the text: the list holds what is handed over before the
    /// library asks for more. Asked of cases that say so.
    bool stays_open = false;
};

/// All operations, in the order in which results list them.
std::span<const OperationInfo> operations();
const OperationInfo& info_of(Operation operation);
std::string_view name_of(Operation operation);
/// The operation of that name; nothing for an unknown word.
std::optional<Operation> find_operation(std::string_view name);

}  // namespace nachklang

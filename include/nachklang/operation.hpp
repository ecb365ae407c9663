// What an implementation can be asked to do. Operations are rows of a table: adding one is adding a row, and what
// campaign, judge, limits, protocol check and display need to know of it is in that row.
#pragma once

#include <cstdint>
#include <optional>
#include <span>
#include <string_view>

namespace nachklang {

enum class Operation : std::uint8_t { decode, encode, round_trip };

/// What goes into an operation or comes out of it.
enum class Content : std::uint8_t { document, value };

struct OperationInfo {
    Operation operation;
    std::string_view name;  ///< on the wire, in hellos and in records
    Content input, output;
    /// The operation that it continues: a round trip starts with a decode, so its answers repeat what the decode
    /// answered, less exactly.
    std::optional<Operation> continues{};
    bool runs_twice =
        false;  ///< a campaign sends what it wrote through it once more, to see whether that is stable
};

/// All operations, in the order in which results list them.
std::span<const OperationInfo> operations();
const OperationInfo& info_of(Operation operation);
std::string_view name_of(Operation operation);
/// The operation of that name; nothing for an unknown word.
std::optional<Operation> find_operation(std::string_view name);

}  // namespace nachklang

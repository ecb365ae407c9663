// The table of operations.
#include <array>
#include <stdexcept>

#include <nachklang/operation.hpp>

namespace nachklang {

std::span<const OperationInfo> operations() {
    static constexpr std::array<OperationInfo, 9> table{{
        {.operation = Operation::decode, .name = "decode", .input = Content::document, .output = Content::value},
        {.operation = Operation::round_trip,
         .name = "round-trip",
         .input = Content::document,
         .output = Content::document,
         .continues = Operation::decode,
         .runs_twice = true},
        {.operation = Operation::encode,
         .name = "encode",
         .input = Content::value,
         .output = Content::document,
         .must_succeed = false},
        {.operation = Operation::bind,
         .name = "bind",
         .input = Content::document,
         .output = Content::value,
         .must_succeed = false,
         .of_record = true},
        {.operation = Operation::bind_round_trip,
         .name = "bind-round-trip",
         .input = Content::document,
         .output = Content::document,
         .continues = Operation::bind,
         .runs_twice = true,
         .must_succeed = false,
         .of_record = true},
        {.operation = Operation::bind_encode,
         .name = "bind-encode",
         .input = Content::value,
         .output = Content::document,
         .must_succeed = false,
         .of_record = true},
        {.operation = Operation::pieces,
         .name = "pieces",
         .input = Content::document,
         .output = Content::value,
         .continues = Operation::decode,
         .in_pieces = true},
        {.operation = Operation::sequence,
         .name = "sequence",
         .input = Content::document,
         .output = Content::value,
         .must_succeed = false,
         .of_sequence = true},
        {.operation = Operation::open_stream,
         .name = "open-stream",
         .input = Content::document,
         .output = Content::value,
         .must_succeed = false,
         .of_sequence = true,
         .stays_open = true},
    }};
    return table;
}

const OperationInfo& info_of(Operation operation) {
    for (const OperationInfo& row : operations())
        if (row.operation == operation) return row;
    throw std::logic_error("an operation without a row in the table");
}

std::string_view name_of(Operation operation) {
    return info_of(operation).name;
}

std::optional<Operation> find_operation(std::string_view name) {
    for (const OperationInfo& row : operations())
        if (row.name == name) return row.operation;
    return std::nullopt;
}

}  // namespace nachklang

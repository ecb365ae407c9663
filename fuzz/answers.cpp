// Fuzzes what is done with the answers of adapters. See answers.hpp.
#include "answers.hpp"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    fuzz::check_answers({data, size});
    return 0;
}

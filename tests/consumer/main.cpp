// A program of a user: reads one document and checks where the reader reports the error.
#include <cstdio>

#include <nachklang/json.hpp>

int main() {
    const auto reading = nachklang::json::format().read("{\"bell\": 0.1e}");
    if (reading.accepted()) return 1;
    std::printf("offset %zu\n", reading.rejection->position.offset);
    return reading.rejection->position.offset == 13 ? 0 : 1;
}

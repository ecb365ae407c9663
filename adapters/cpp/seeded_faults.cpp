// The codec with seeded faults as an adapter: `seeded-faults-adapter [FAULT]`.
#include <exception>

#include "seeded_faults/json_codec.hpp"

int main(int argc, char** argv) {
    try {
        seeded_faults::JsonCodec codec(argc > 1 ? argv[1] : "");
        return nachklang::adapter::serve(codec);
    } catch (const std::exception& error) {
        std::fprintf(stderr, "seeded-faults-adapter: %s\n", error.what());
        return 2;
    }
}

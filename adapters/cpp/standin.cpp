// The stand-in codec as an adapter: `standin-adapter [FAULT]`.
#include <exception>

#include "faulty_json.hpp"

int main(int argc, char** argv) {
    try {
        standin::JsonStandIn codec(argc > 1 ? argv[1] : "");
        return nachklang::adapter::serve(codec);
    } catch (const std::exception& error) {
        std::fprintf(stderr, "standin-adapter: %s\n", error.what());
        return 2;
    }
}

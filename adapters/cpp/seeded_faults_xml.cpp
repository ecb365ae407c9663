// The codec with seeded faults for XML as an adapter: `seeded-faults-xml-adapter [FAULT]`.
#include <exception>

#include "seeded_faults/xml_codec.hpp"

int main(int argc, char** argv) {
    try {
        seeded_faults::XmlCodec codec(argc > 1 ? argv[1] : "");
        return nachklang::adapter::serve(codec);
    } catch (const std::exception& error) {
        std::fprintf(stderr, "seeded-faults-xml-adapter: %s\n", error.what());
        return 2;
    }
}

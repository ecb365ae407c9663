// The stand-in codec for XML as an adapter: `standin-xml-adapter [FAULT]`.
#include <exception>

#include "faulty_xml.hpp"

int main(int argc, char** argv) {
    try {
        standin::XmlStandIn codec(argc > 1 ? argv[1] : "");
        return nachklang::adapter::serve(codec);
    } catch (const std::exception& error) {
        std::fprintf(stderr, "standin-xml-adapter: %s\n", error.what());
        return 2;
    }
}

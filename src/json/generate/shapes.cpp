// Documents of one kind and any amount: deep, wide, long.
#include <fmt/format.h>

#include <array>

#include "json/internal.hpp"
#include "text/repeated.hpp"

namespace nachklang::json {
namespace {

using text::repeated;

constexpr std::array<Shape, 8> shapes{{{"array-depth", "levels", "depth"},
                                       {"object-depth", "levels", "depth"},
                                       {"mixed-depth", "levels", "depth"},
                                       {"array-width", "elements", "member-count"},
                                       {"object-width", "members", "member-count"},
                                       {"string-length", "bytes", "string-length"},
                                       {"name-length", "bytes", "string-length"},
                                       {"number-length", "digits", "number-length"}}};

}  // namespace

std::span<const Shape> all_shapes() {
    return shapes;
}

std::string shaped_document(std::size_t shape, std::size_t amount) {
    switch (shape) {
        case 0:
            return repeated("[", amount) + repeated("]", amount);
        case 1:
            return repeated("{\"k\":", amount - 1) + "{}" + repeated("}", amount - 1);
        case 2: {
            const std::size_t pairs = amount / 2;
            return (amount % 2 == 1 ? "[" : "") + repeated("[{\"k\":", pairs) + "0" + repeated("}]", pairs) +
                   (amount % 2 == 1 ? "]" : "");
        }
        case 3:
            return "[" + repeated("0,", amount - 1) + "0]";
        case 4: {
            std::string out = "{";
            for (std::size_t i = 0; i < amount; ++i) out += fmt::format("{}\"k{}\":0", i == 0 ? "" : ",", i);
            return out + "}";
        }
        case 5:
            return "[\"" + std::string(amount, 'o') + "\"]";
        case 6:
            return "{\"" + std::string(amount, 'o') + "\":0}";
        default:
            // As long as one likes, and far from any limit of range: a fraction.
            return amount == 1 ? "[3]" : "[0." + std::string(amount - 1, '3') + "]";
    }
}

std::optional<std::string> shaped_value(std::size_t shape, std::string_view document) {
    if (shapes[shape].name == "number-length") return std::nullopt;  // how long that is, is its writer's affair
    // The reader keeps a number's spelling; a value to be encoded is an integer.
    constexpr std::string_view spelled = "spelled u8:30\n", integer = "int 0\n";
    const Trace trace = Document::read(document).trace();
    std::string out;
    for (std::string_view rest = trace.text(); !rest.empty();) {
        const std::string_view line = rest.substr(0, rest.find('\n') + 1);
        rest.remove_prefix(line.size());
        out += line == spelled ? integer : line;
    }
    return out;
}

}  // namespace nachklang::json

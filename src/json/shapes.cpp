// Documents of one kind and any amount: deep, wide, long.
#include <fmt/format.h>

#include <array>

#include "plug.hpp"

namespace nachklang::json {
namespace {

std::string repeated(std::string_view piece, std::size_t times) {
    std::string out;
    out.reserve(piece.size() * times);
    for (std::size_t i = 0; i < times; ++i) out += piece;
    return out;
}

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
            return "[0." + std::string(amount > 1 ? amount - 1 : 1, '3') + "]";
    }
}

std::optional<Trace> shaped_value(std::size_t shape, std::size_t amount) {
    constexpr std::string_view key = "{\nkey u8:6b\n";
    std::string out;
    switch (shape) {
        case 0:
            out = repeated("[\n", amount) + repeated("]\n", amount);
            break;
        case 1:
            out = repeated(key, amount - 1) + "{\n}\n" + repeated("}\n", amount - 1);
            break;
        case 2: {
            const std::size_t pairs = amount / 2;
            out = (amount % 2 == 1 ? "[\n" : "") + repeated("[\n" + std::string(key), pairs) + "int 0\n" +
                  repeated("}\n]\n", pairs) + (amount % 2 == 1 ? "]\n" : "");
            break;
        }
        case 3:
            out = "[\n" + repeated("int 0\n", amount) + "]\n";
            break;
        case 4:
            out = "{\n";
            for (std::size_t i = 0; i < amount; ++i)
                out += "key u8:" + text::to_hex(fmt::format("k{}", i)) + "\nint 0\n";
            out += "}\n";
            break;
        case 5:
            out = "[\nstr u8:" + repeated("6f", amount) + "\n]\n";
            break;
        case 6:
            out = "{\nkey u8:" + repeated("6f", amount) + "\nint 0\n}\n";
            break;
        default:
            return std::nullopt;  // how long a number's text is, is its writer's own affair
    }
    return Trace::parse(std::move(out));
}

}  // namespace nachklang::json

// Documents of one kind and any amount: deep, wide, long.
#include <fmt/format.h>

#include <array>

#include "json/internal.hpp"
#include "text/repeated.hpp"

namespace nachklang::json {
namespace {

using text::repeated;

std::string of_arrays(std::size_t amount) {
    return repeated("[", amount) + repeated("]", amount);
}
std::string of_objects(std::size_t amount) {
    return repeated("{\"k\":", amount - 1) + "{}" + repeated("}", amount - 1);
}
std::string of_both(std::size_t amount) {
    const std::size_t pairs = amount / 2;
    const bool odd = amount % 2 == 1;
    return (odd ? "[" : "") + repeated("[{\"k\":", pairs) + "0" + repeated("}]", pairs) + (odd ? "]" : "");
}
std::string of_elements(std::size_t amount) {
    return "[" + repeated("0,", amount - 1) + "0]";
}
template <class Name>
std::string of_members(std::size_t amount, Name name) {
    std::string out = "{";
    for (std::size_t i = 0; i < amount; ++i) out += fmt::format("{}\"{}\":0", i == 0 ? "" : ",", name(i));
    return out + "}";
}
std::string of_short_names(std::size_t amount) {
    return of_members(amount, [](std::size_t i) { return fmt::format("k{}", i); });
}
std::string of_names_with_one_beginning(std::size_t amount) {
    return of_members(amount, [](std::size_t i) { return std::string(64, 'o') + fmt::format("{}", i); });
}
/// Names with one hash: of each bit of the index one of two pairs of characters that weigh the same.
std::string of_colliding_names(std::size_t amount, std::string_view clear, std::string_view set) {
    constexpr std::size_t bits = 27;  // more than any amount has
    return of_members(amount, [&](std::size_t i) {
        std::string out;
        for (std::size_t bit = 0; bit < bits; ++bit) out += (i >> bit & 1U) == 0 ? clear : set;
        return out;
    });
}
/// Under the hash h = 31 h + c of many runtimes: 31 'A' + 'a' = 31 'B' + 'B'.
std::string of_names_that_collide_by_31(std::size_t amount) {
    return of_colliding_names(amount, "Aa", "BB");
}
/// Under h = 33 h + c, as widespread in libraries written in C: 33 'E' + 'z' = 33 'F' + 'Y'.
std::string of_names_that_collide_by_33(std::size_t amount) {
    return of_colliding_names(amount, "Ez", "FY");
}
std::string of_string(std::size_t amount) {
    return "[\"" + std::string(amount, 'o') + "\"]";
}
std::string of_escapes(std::size_t amount) {
    return "[\"" + repeated("\\u00e9", amount) + "\"]";
}
std::string of_name(std::size_t amount) {
    return "{\"" + std::string(amount, 'o') + "\":0}";
}
/// As long as one likes, and far from any limit of range: a fraction.
std::string of_number(std::size_t amount) {
    return amount == 1 ? "[3]" : "[0." + std::string(amount - 1, '3') + "]";
}

struct Row {
    Shape shape;
    std::string (*document)(std::size_t amount);
};
constexpr std::array rows{Row{{"array-depth", "levels", "depth"}, of_arrays},
                          Row{{"object-depth", "levels", "depth"}, of_objects},
                          Row{{"mixed-depth", "levels", "depth"}, of_both},
                          Row{{"array-width", "elements", "member-count"}, of_elements},
                          Row{{"object-width", "members", "member-count"}, of_short_names},
                          Row{{"prefixed-width", "members", "member-count"}, of_names_with_one_beginning},
                          Row{{"colliding-31-width", "members", "member-count"}, of_names_that_collide_by_31},
                          Row{{"colliding-33-width", "members", "member-count"}, of_names_that_collide_by_33},
                          Row{{"string-length", "bytes", "string-length"}, of_string},
                          Row{{"escapes-length", "escapes", "string-length"}, of_escapes},
                          Row{{"name-length", "bytes", "string-length"}, of_name},
                          Row{{"number-length", "digits", "number-length"}, of_number}};
constexpr auto shapes = [] {
    std::array<Shape, rows.size()> out{};
    for (std::size_t i = 0; i < rows.size(); ++i) out[i] = rows[i].shape;
    return out;
}();

}  // namespace

std::span<const Shape> all_shapes() {
    return shapes;
}

std::string shaped_document(std::size_t shape, std::size_t amount) {
    return rows[shape].document(amount);
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

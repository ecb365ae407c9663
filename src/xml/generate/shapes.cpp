// Documents of one kind and any amount: deep, wide, long.
#include <fmt/format.h>

#include <array>

#include <nachklang/xml.hpp>

#include "text/repeated.hpp"
#include "xml/internal.hpp"

namespace nachklang::xml {
namespace {

using text::repeated;

std::string of_elements(std::size_t amount) {
    return repeated("<a>", amount) + repeated("</a>", amount);
}
std::string of_children(std::size_t amount) {
    return "<a>" + repeated("<b/>", amount) + "</a>";
}
std::string of_attributes(std::size_t amount) {
    std::string out = "<a";
    for (std::size_t i = 0; i < amount; ++i) out += fmt::format(" b{}=\"\"", i);
    return out + "/>";
}
std::string of_declarations(std::size_t amount) {
    std::string out = "<a";
    for (std::size_t i = 0; i < amount; ++i) out += fmt::format(" xmlns:p{}=\"urn:{}\"", i, i);
    return out + "/>";
}
/// Each entity refers to the next one; the last one is a character.
std::string of_entities(std::size_t amount) {
    std::string out = "<!DOCTYPE a [";
    for (std::size_t i = 1; i < amount; ++i) out += fmt::format("<!ENTITY e{} \"&e{};\">", i, i + 1);
    return out + fmt::format("<!ENTITY e{} \"x\">]><a>&e1;</a>", amount);
}
std::string of_name(std::size_t amount) {
    return "<" + std::string(amount, 'o') + "/>";
}
std::string of_text(std::size_t amount) {
    return "<a>" + std::string(amount, 'o') + "</a>";
}
std::string of_value(std::size_t amount) {
    return "<a b=\"" + std::string(amount, 'o') + "\"/>";
}

std::string of_references(std::size_t amount) {
    return "<a>" + repeated("&amp;", amount) + "</a>";
}

struct Row {
    Shape shape;
    std::string (*document)(std::size_t amount);
    bool is_value;  ///< whether the document is more than the spelling of its value
};
constexpr std::array rows{Row{{"element-depth", "levels", "depth"}, of_elements, true},
                          Row{{"entity-depth", "levels", "entity-depth"}, of_entities, false},
                          Row{{"element-width", "children", "document-size"}, of_children, true},
                          Row{{"attribute-width", "attributes", "attribute-count"}, of_attributes, true},
                          Row{{"namespace-width", "declarations", "attribute-count"}, of_declarations, true},
                          Row{{"name-length", "bytes", "name-length"}, of_name, true},
                          Row{{"text-length", "bytes", "document-size"}, of_text, true},
                          Row{{"reference-length", "references", "document-size"}, of_references, true},
                          Row{{"value-length", "bytes", "document-size"}, of_value, true}};
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
    if (!rows[shape].is_value) return std::nullopt;
    return read(document).trace.text();
}

}  // namespace nachklang::xml

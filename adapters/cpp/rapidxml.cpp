// RapidXML: all it can check and keep, and its default. It edits its input: each document is copied.
#include <nachklang/adapter.hpp>

#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wconversion"
#pragma GCC diagnostic ignored "-Wsign-conversion"
#include <rapidxml/rapidxml.hpp>
#pragma GCC diagnostic pop

namespace {

using nachklang::adapter::Reply;
using nachklang::adapter::TraceOut;
using Node = rapidxml::xml_node<char>;

std::string_view name(const rapidxml::xml_base<char>& of) {
    return {of.name(), of.name_size()};
}
std::string_view value(const rapidxml::xml_base<char>& of) {
    return {of.value(), of.value_size()};
}

void print(const rapidxml::xml_document<char>& document, TraceOut& out) {
    const Node* node = document.first_node();
    while (node != nullptr) {
        switch (node->type()) {
            case rapidxml::node_element:
                out.element(name(*node), std::nullopt, std::nullopt);
                for (const auto* a = node->first_attribute(); a != nullptr; a = a->next_attribute())
                    out.attribute(name(*a), std::nullopt, std::nullopt, value(*a));
                if (node->first_node() != nullptr) {
                    node = node->first_node();
                    continue;
                }
                out.element_end();
                break;
            case rapidxml::node_data:
                out.text(value(*node));
                break;
            case rapidxml::node_cdata:
                out.cdata(value(*node));
                break;
            case rapidxml::node_comment:
                out.comment(value(*node));
                break;
            case rapidxml::node_pi:
                out.instruction(name(*node), value(*node));
                break;
            default:
                break;
        }
        while (node != nullptr && node->next_sibling() == nullptr) {
            node = node->parent();
            if (node == nullptr || node->type() == rapidxml::node_document) return;
            out.element_end();
        }
        if (node != nullptr) node = node->next_sibling();
    }
}

class Rapidxml final : public nachklang::adapter::Codec {
  public:
    [[nodiscard]] nachklang::adapter::Description describe() const override {
        return {"rapidxml",
                "1.13",
                "",
                "",
                {{"xml", {"decode"}}},
                {"doctype"},
                {{"namespaces", "off"}},
                {{"full"}, {"default", {"comments", "instructions"}}}};
    }
    Reply decode(std::string_view, std::string_view mode, std::string_view bytes, TraceOut& out) override {
        std::string copy(bytes);
        rapidxml::xml_document<char> document;
        try {
            if (mode == "default")
                document.parse<0>(copy.data());
            else
                document.parse<rapidxml::parse_full>(copy.data());
        } catch (const rapidxml::parse_error& error) {
            return Reply::rejected(error.what())
                .at_offset(static_cast<std::uint64_t>(error.where<char>() - copy.data()));
        }
        if (out.wanted()) print(document, out);
        return Reply::accepted();
    }
};

}  // namespace

int main() {
    Rapidxml codec;
    return nachklang::adapter::serve(codec);
}

// RapidXML: all it can check and keep, and its default. It edits its input: each document is copied.
#include <nachklang/adapter_markup.hpp>

#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wconversion"
#pragma GCC diagnostic ignored "-Wsign-conversion"
#include <rapidxml/rapidxml.hpp>
#include <rapidxml/rapidxml_print.hpp>
#pragma GCC diagnostic pop

#include <iterator>

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

/// Names and values are borrowed by the tree: the document's pool keeps them.
class Builder final : public nachklang::adapter::MarkupBuilder {
  public:
    explicit Builder(rapidxml::xml_document<char>& document) : document_(document), open_(&document) {}
    void element(const nachklang::adapter::MarkupName& name) override {
        open_ = leaf(rapidxml::node_element, name.qname, "");
    }
    void attribute(const nachklang::adapter::MarkupName& name, const std::string& value) override {
        open_->append_attribute(
            document_.allocate_attribute(kept(name.qname), kept(value), name.qname.size(), value.size()));
    }
    void element_end() override { open_ = open_->parent(); }
    void text(const std::string& bytes) override { leaf(rapidxml::node_data, "", bytes); }
    void cdata(const std::string& bytes) override { leaf(rapidxml::node_cdata, "", bytes); }
    void comment(const std::string& bytes) override { leaf(rapidxml::node_comment, "", bytes); }
    void instruction(const std::string& target, const std::string& data) override {
        leaf(rapidxml::node_pi, target, data);
    }

  private:
    const char* kept(const std::string& bytes) { return document_.allocate_string(bytes.data(), bytes.size() + 1); }
    Node* leaf(rapidxml::node_type type, const std::string& name, const std::string& value) {
        Node* node = document_.allocate_node(type, kept(name), kept(value), name.size(), value.size());
        open_->append_node(node);
        return node;
    }
    rapidxml::xml_document<char>& document_;
    Node* open_;
};

class Rapidxml final : public nachklang::adapter::Codec {
  public:
    [[nodiscard]] nachklang::adapter::Description describe() const override {
        return {.name = "rapidxml",
                .version = "1.13",
                .capabilities = {{"xml", {"decode", "encode"}}},
                .cannot_represent = {"doctype", "namespaces"},
                .settings = {{"namespaces", "off"}},
                .modes = {{.name = "full"},
                          {.name = "default",
                           .cannot_represent = {"comments", "instructions"},
                           .capabilities = {{"xml", {"decode"}}}}}};
    }
    Reply decode(std::string_view, std::string_view mode, std::string_view bytes, TraceOut& out) override {
        std::string copy(bytes);
        rapidxml::xml_document<char> document;
        std::optional<Reply> refused;
        nachklang::adapter::library([&] {
            try {
                if (mode == "default")
                    document.parse<0>(copy.data());
                else
                    document.parse<rapidxml::parse_full>(copy.data());
            } catch (const rapidxml::parse_error& error) {
                refused = Reply::rejected(error.what())
                              .at_offset(static_cast<std::uint64_t>(error.where<char>() - copy.data()));
            }
        });
        if (refused) return *refused;
        if (out.wanted()) print(document, out);
        return Reply::accepted();
    }
    Reply encode(std::string_view, std::string_view, std::string_view trace) override {
        rapidxml::xml_document<char> document;
        Builder builder(document);
        nachklang::adapter::build_markup(trace, builder, false);
        std::string out;
        rapidxml::print(std::back_inserter(out), document, rapidxml::print_no_indenting);
        return Reply::accepted(std::move(out));
    }
};

}  // namespace

int main() {
    Rapidxml codec;
    return nachklang::adapter::serve(codec);
}

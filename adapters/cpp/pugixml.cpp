// pugixml: all it can keep (parse_full), and its defaults.
#include <nachklang/adapter_markup.hpp>

#include <pugixml.hpp>

#include <sstream>

namespace {

using nachklang::adapter::Reply;
using nachklang::adapter::TraceOut;

void start(const pugi::xml_node& node, TraceOut& out) {
    out.element(node.name(), std::nullopt, std::nullopt);
    for (const pugi::xml_attribute& a : node.attributes())
        out.attribute(a.name(), std::nullopt, std::nullopt, a.value());
}

void print(const pugi::xml_document& document, TraceOut& out) {
    pugi::xml_node node = document.first_child();
    while (node) {
        switch (node.type()) {
            case pugi::node_element:
                start(node, out);
                if (node.first_child()) {
                    node = node.first_child();
                    continue;
                }
                out.element_end();
                break;
            case pugi::node_pcdata:
                out.text(node.value());
                break;
            case pugi::node_cdata:
                out.cdata(node.value());
                break;
            case pugi::node_comment:
                out.comment(node.value());
                break;
            case pugi::node_pi:
                out.instruction(node.name(), node.value());
                break;
            default:
                break;
        }
        while (node && !node.next_sibling()) {
            node = node.parent();
            if (!node || node.type() == pugi::node_document) return;
            out.element_end();
        }
        node = node.next_sibling();
    }
}

/// Builds a tree as its user would: everything is a node under the one that is open.
class Builder final : public nachklang::adapter::MarkupBuilder {
  public:
    explicit Builder(pugi::xml_document& document) : open_(document) {}
    void element(const nachklang::adapter::MarkupName& name) override {
        open_ = open_.append_child(nachklang::adapter::until_nul(name.qname));
    }
    void attribute(const nachklang::adapter::MarkupName& name, const std::string& value) override {
        open_.append_attribute(nachklang::adapter::until_nul(name.qname))
            .set_value(nachklang::adapter::until_nul(value));
    }
    void element_end() override { open_ = open_.parent(); }
    void text(const std::string& bytes) override { leaf(pugi::node_pcdata, bytes); }
    void cdata(const std::string& bytes) override { leaf(pugi::node_cdata, bytes); }
    void comment(const std::string& bytes) override { leaf(pugi::node_comment, bytes); }
    void instruction(const std::string& target, const std::string& data) override {
        pugi::xml_node node = leaf(pugi::node_pi, data);
        node.set_name(nachklang::adapter::until_nul(target));
    }

  private:
    pugi::xml_node leaf(pugi::xml_node_type type, const std::string& bytes) {
        pugi::xml_node node = open_.append_child(type);
        if (!node) throw nachklang::adapter::CannotRepresentError("such a node has no place here");
        node.set_value(nachklang::adapter::until_nul(bytes));
        return node;
    }
    pugi::xml_node open_;
};

class Pugixml final : public nachklang::adapter::Codec {
  public:
    [[nodiscard]] nachklang::adapter::Description describe() const override {
        const std::string version =
            std::to_string(PUGIXML_VERSION / 1000) + "." + std::to_string(PUGIXML_VERSION / 10 % 100);
        return {.name = "pugixml",
                .version = version,
                .capabilities = {{"xml", {"decode", "round-trip", "encode"}}},
                .cannot_represent = {"doctype", "namespaces"},
                .settings = {{"namespaces", "off"}},
                .modes = {{.name = "full"},
                          {.name = "default",
                           .cannot_represent = {"comments", "instructions"},
                           .capabilities = {{"xml", {"decode", "round-trip"}}}}}};
    }
    Reply decode(std::string_view, std::string_view mode, std::string_view bytes, TraceOut& out) override {
        pugi::xml_document document;
        if (const auto result = load(document, mode, bytes); !result) return refused(result);
        if (out.wanted()) print(document, out);
        return Reply::accepted();
    }
    Reply round_trip(std::string_view, std::string_view mode, std::string_view bytes) override {
        pugi::xml_document document;
        if (const auto result = load(document, mode, bytes); !result) return refused(result);
        return written(document);
    }
    Reply encode(std::string_view, std::string_view, std::string_view trace) override {
        pugi::xml_document document;
        Builder builder(document);
        nachklang::adapter::build_markup(trace, builder, false);
        return written(document);
    }

  private:
    static Reply written(const pugi::xml_document& document) {
        std::ostringstream out;
        document.save(out, "", pugi::format_raw);
        return Reply::accepted(out.str());
    }
    static pugi::xml_parse_result load(pugi::xml_document& document, std::string_view mode,
                                       std::string_view bytes) {
        // Left to itself it drops text that is nothing but white space; that is no choice of a document's reader.
        const unsigned options = mode == "default" ? pugi::parse_default : pugi::parse_full | pugi::parse_ws_pcdata;
        return document.load_buffer(bytes.data(), bytes.size(), options);
    }
    static Reply refused(const pugi::xml_parse_result& result) {
        Reply reply = result.status == pugi::status_out_of_memory ? Reply::exhausted(result.description())
                                                                  : Reply::rejected(result.description());
        if (result.offset >= 0) reply.at_offset(static_cast<std::uint64_t>(result.offset));
        return reply;
    }
};

}  // namespace

int main() {
    Pugixml codec;
    return nachklang::adapter::serve(codec);
}

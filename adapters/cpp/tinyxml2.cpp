// TinyXML-2, white space kept and collapsed.
#include <nachklang/adapter.hpp>

#include <tinyxml2.h>

namespace {

using nachklang::adapter::Reply;
using nachklang::adapter::TraceOut;

/// "target data" of what it calls a declaration or an unknown node.
void instruction(std::string_view value, TraceOut& out) {
    if (value.starts_with("xml ") || value == "xml") return;
    const auto space = value.find(' ');
    out.instruction(value.substr(0, space),
                    space == std::string_view::npos ? std::string_view{} : value.substr(space + 1));
}

void print(const tinyxml2::XMLDocument& document, TraceOut& out) {
    const tinyxml2::XMLNode* node = document.FirstChild();
    while (node != nullptr) {
        if (const auto* element = node->ToElement()) {
            out.element(element->Name(), std::nullopt, std::nullopt);
            for (const auto* a = element->FirstAttribute(); a != nullptr; a = a->Next())
                out.attribute(a->Name(), std::nullopt, std::nullopt, a->Value());
            if (node->FirstChild() != nullptr) {
                node = node->FirstChild();
                continue;
            }
            out.element_end();
        } else if (const auto* text = node->ToText()) {
            text->CData() ? out.cdata(text->Value()) : out.text(text->Value());
        } else if (const auto* comment = node->ToComment()) {
            out.comment(comment->Value());
        } else if (const auto* declaration = node->ToDeclaration()) {
            instruction(declaration->Value(), out);
        }
        while (node != nullptr && node->NextSibling() == nullptr) {
            node = node->Parent();
            if (node == nullptr || node->ToDocument() != nullptr) return;
            out.element_end();
        }
        if (node != nullptr) node = node->NextSibling();
    }
}

class Tinyxml2 final : public nachklang::adapter::Codec {
  public:
    [[nodiscard]] nachklang::adapter::Description describe() const override {
        return {"tinyxml2",
                std::to_string(TIXML2_MAJOR_VERSION) + "." + std::to_string(TIXML2_MINOR_VERSION) + "." +
                    std::to_string(TIXML2_PATCH_VERSION),
                "",
                "",
                {{"xml", {"decode", "lap"}}},
                {"doctype"},
                {{"namespaces", "off"}},
                {{"default"}, {"collapsed"}}};
    }
    Reply decode(std::string_view, std::string_view mode, std::string_view bytes, TraceOut& out) override {
        tinyxml2::XMLDocument document(true, white_space(mode));
        if (document.Parse(bytes.data(), bytes.size()) != tinyxml2::XML_SUCCESS) return refused(document);
        if (out.wanted()) print(document, out);
        return Reply::accepted();
    }
    Reply lap(std::string_view, std::string_view mode, std::string_view bytes) override {
        tinyxml2::XMLDocument document(true, white_space(mode));
        if (document.Parse(bytes.data(), bytes.size()) != tinyxml2::XML_SUCCESS) return refused(document);
        tinyxml2::XMLPrinter printer(nullptr, true);
        document.Print(&printer);
        return Reply::accepted(std::string(printer.CStr(), printer.CStrSize() - 1));
    }

  private:
    static tinyxml2::Whitespace white_space(std::string_view mode) {
        return mode == "collapsed" ? tinyxml2::COLLAPSE_WHITESPACE : tinyxml2::PRESERVE_WHITESPACE;
    }
    static Reply refused(const tinyxml2::XMLDocument& document) {
        Reply reply = Reply::rejected(document.ErrorStr());
        if (document.ErrorLineNum() > 0) reply.at_line(static_cast<std::uint64_t>(document.ErrorLineNum()));
        return reply;
    }
};

}  // namespace

int main() {
    Tinyxml2 codec;
    return nachklang::adapter::serve(codec);
}

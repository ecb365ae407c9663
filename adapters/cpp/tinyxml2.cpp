// TinyXML-2, white space kept and collapsed.
#include <nachklang/adapter_markup.hpp>

#include "raw_instruction.hpp"

#include <tinyxml2.h>

namespace {

using nachklang::adapter::Reply;
using nachklang::adapter::TraceOut;

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
            raw_instruction(declaration->Value(), out);
        }
        while (node != nullptr && node->NextSibling() == nullptr) {
            node = node->Parent();
            if (node == nullptr || node->ToDocument() != nullptr) return;
            out.element_end();
        }
        if (node != nullptr) node = node->NextSibling();
    }
}

class Builder final : public nachklang::adapter::MarkupBuilder {
  public:
    explicit Builder(tinyxml2::XMLDocument& document) : document_(document), open_(&document) {}
    void element(const nachklang::adapter::MarkupName& name) override {
        open_ = open_->InsertEndChild(document_.NewElement(nachklang::adapter::until_nul(name.qname)));
    }
    void attribute(const nachklang::adapter::MarkupName& name, const std::string& value) override {
        open_->ToElement()->SetAttribute(nachklang::adapter::until_nul(name.qname),
                                         nachklang::adapter::until_nul(value));
    }
    void element_end() override { open_ = open_->Parent(); }
    void text(const std::string& bytes) override {
        open_->InsertEndChild(document_.NewText(nachklang::adapter::until_nul(bytes)));
    }
    void cdata(const std::string& bytes) override {
        tinyxml2::XMLText* node = document_.NewText(nachklang::adapter::until_nul(bytes));
        node->SetCData(true);
        open_->InsertEndChild(node);
    }
    void comment(const std::string& bytes) override {
        open_->InsertEndChild(document_.NewComment(nachklang::adapter::until_nul(bytes)));
    }
    // What it calls a declaration is any <?…?>.
    void instruction(const std::string& target, const std::string& data) override {
        const std::string all = data.empty() ? target : target + " " + data;
        open_->InsertEndChild(document_.NewDeclaration(nachklang::adapter::until_nul(all)));
    }

  private:
    tinyxml2::XMLDocument& document_;
    tinyxml2::XMLNode* open_;
};

class Tinyxml2 final : public nachklang::adapter::Codec {
  public:
    [[nodiscard]] nachklang::adapter::Description describe() const override {
        return {.name = "tinyxml2",
                .version = std::to_string(TIXML2_MAJOR_VERSION) + "." + std::to_string(TIXML2_MINOR_VERSION) + "." +
                           std::to_string(TIXML2_PATCH_VERSION),
                .capabilities = {{"xml", {"decode", "round-trip", "encode"}}},
                .cannot_represent = {"doctype", "namespaces"},
                .settings = {{"namespaces", "off"}},
                .modes = {{.name = "default"},
                          {.name = "collapsed", .capabilities = {{"xml", {"decode", "round-trip"}}}}}};
    }
    Reply decode(std::string_view, std::string_view mode, std::string_view bytes, TraceOut& out) override {
        tinyxml2::XMLDocument document(true, white_space(mode));
        if (document.Parse(bytes.data(), bytes.size()) != tinyxml2::XML_SUCCESS) return refused(document);
        if (out.wanted()) print(document, out);
        return Reply::accepted();
    }
    Reply round_trip(std::string_view, std::string_view mode, std::string_view bytes) override {
        tinyxml2::XMLDocument document(true, white_space(mode));
        if (document.Parse(bytes.data(), bytes.size()) != tinyxml2::XML_SUCCESS) return refused(document);
        return written(document);
    }
    Reply encode(std::string_view, std::string_view, std::string_view trace) override {
        tinyxml2::XMLDocument document;
        Builder builder(document);
        nachklang::adapter::build_markup(trace, builder, false);
        return written(document);
    }

  private:
    static Reply written(const tinyxml2::XMLDocument& document) {
        tinyxml2::XMLPrinter printer(nullptr, true);
        document.Print(&printer);
        return Reply::accepted(std::string(printer.CStr(), static_cast<std::size_t>(printer.CStrSize() - 1)));
    }
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

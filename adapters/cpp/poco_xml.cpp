// Poco's DOM, names expanded. It is built on Expat; nothing outside a document is read.
#include <nachklang/adapter.hpp>

#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wpedantic"
#pragma GCC diagnostic ignored "-Wconversion"
#include <Poco/DOM/Attr.h>
#include <Poco/DOM/AutoPtr.h>
#include <Poco/DOM/CharacterData.h>
#include <Poco/DOM/DOMParser.h>
#include <Poco/DOM/DOMWriter.h>
#include <Poco/DOM/Document.h>
#include <Poco/DOM/NamedNodeMap.h>
#include <Poco/DOM/ProcessingInstruction.h>
#include <Poco/SAX/InputSource.h>
#include <Poco/SAX/SAXException.h>
#include <Poco/Version.h>
#pragma GCC diagnostic pop

#include <sstream>

namespace {

using nachklang::adapter::Reply;
using nachklang::adapter::TraceOut;
using namespace Poco::XML;

void start(const Node& element, TraceOut& out) {
    out.element(element.nodeName(), element.localName(), element.namespaceURI());
    const AutoPtr<NamedNodeMap> attributes = element.attributes();
    for (unsigned long i = 0; i < attributes->length(); ++i) {
        const auto* a = static_cast<const Attr*>(attributes->item(i));
        if (a->name() == "xmlns" || a->name().starts_with("xmlns:"))
            out.attribute(a->name(), std::nullopt, std::nullopt, a->value());
        else
            out.attribute(a->name(), a->localName(), a->namespaceURI(), a->value(),
                          a->specified() ? "given" : "default");
    }
}

/// True where what is inside has still to be printed.
bool open(const Node& node, TraceOut& out) {
    switch (node.nodeType()) {
        case Node::ELEMENT_NODE:
            start(node, out);
            if (node.firstChild() == nullptr) out.element_end();
            return node.firstChild() != nullptr;
        case Node::TEXT_NODE:
            out.text(node.getNodeValue());
            return false;
        case Node::CDATA_SECTION_NODE:
            out.cdata(node.getNodeValue());
            return false;
        case Node::COMMENT_NODE:
            out.comment(node.getNodeValue());
            return false;
        case Node::PROCESSING_INSTRUCTION_NODE:
            out.instruction(node.nodeName(), node.getNodeValue());
            return false;
        case Node::ENTITY_REFERENCE_NODE:
            out.reference(node.nodeName());
            return false;
        case Node::DOCUMENT_TYPE_NODE:
            out.doctype(node.nodeName());
            return false;
        default:
            return false;
    }
}

void print(const Document& document, TraceOut& out) {
    const Node* node = document.firstChild();
    while (node != nullptr) {
        if (open(*node, out)) {
            node = node->firstChild();
            continue;
        }
        while (node != nullptr && node->nextSibling() == nullptr) {
            node = node->parentNode();
            if (node == nullptr || node->nodeType() == Node::DOCUMENT_NODE) return;
            out.element_end();
        }
        if (node != nullptr) node = node->nextSibling();
    }
}

class PocoXml final : public nachklang::adapter::Codec {
  public:
    [[nodiscard]] nachklang::adapter::Description describe() const override {
        const std::string version = std::to_string(POCO_VERSION >> 24) + "." +
                                    std::to_string(POCO_VERSION >> 16 & 0xFF) + "." +
                                    std::to_string(POCO_VERSION >> 8 & 0xFF);
        return {.name = "poco-xml",
                .version = version,
                .engine = "expat",
                .capabilities = {{"xml", {"decode", "round-trip"}}},
                .cannot_represent = {"doctype-content"},
                .settings = {{"namespaces", "on"}, {"external", "none"}, {"parameter-entities", "skipped"}}};
    }
    Reply decode(std::string_view, std::string_view, std::string_view bytes, TraceOut& out) override {
        return with_document(bytes, [&](const Document& document) {
            if (out.wanted()) print(document, out);
            return Reply::accepted();
        });
    }
    Reply round_trip(std::string_view, std::string_view, std::string_view bytes) override {
        return with_document(bytes, [](const Document& document) {
            std::ostringstream out;
            DOMWriter writer;
            nachklang::adapter::library<XMLException>([&] { writer.writeNode(out, &document); });
            return Reply::accepted(out.str());
        });
    }

  private:
    template <class Use>
    static Reply with_document(std::string_view bytes, Use use) {
        DOMParser parser;
        parser.setFeature(XMLReader::FEATURE_EXTERNAL_GENERAL_ENTITIES, false);
        parser.setFeature(XMLReader::FEATURE_EXTERNAL_PARAMETER_ENTITIES, false);
        std::optional<Reply> refused;
        const AutoPtr<Document> document = nachklang::adapter::library([&]() -> AutoPtr<Document> {
            try {
                return parser.parseMemory(bytes.data(), bytes.size());
            } catch (const SAXParseException& error) {
                refused = Reply::rejected(error.message())
                              .at_line(static_cast<std::uint64_t>(std::max(1, error.getLineNumber())))
                              .at_column(static_cast<std::uint64_t>(std::max(0, error.getColumnNumber())) + 1);
            } catch (const XMLException& error) {
                refused = Reply::rejected(error.displayText());
            } catch (const Poco::PoolOverflowException& error) {  // documented: NamePool::insert
                refused = Reply::rejected(error.displayText());
            }
            return {};
        });
        return refused ? *refused : use(*document);
    }
};

}  // namespace

int main() {
    PocoXml codec;
    return nachklang::adapter::serve(codec);
}

// libxml2: the tree, entities expanded or left as nodes; the pull reader; the mode that repairs. Nothing is
// fetched: XML_PARSE_NONET, and no external subset is asked for.
#include <nachklang/adapter.hpp>

#include <libxml/parser.h>
#include <libxml/tree.h>
#include <libxml/xmlreader.h>

#include <memory>

namespace {

using nachklang::adapter::Reply;
using nachklang::adapter::TraceOut;

std::string_view view(const xmlChar* text) {
    return text == nullptr ? std::string_view{} : std::string_view(reinterpret_cast<const char*>(text));
}

void quiet(void*, const char*, ...) {}

constexpr int common = XML_PARSE_NONET | XML_PARSE_NOERROR | XML_PARSE_NOWARNING | XML_PARSE_HUGE;

int options_of(std::string_view mode) {
    if (mode == "entities-kept") return common;
    if (mode == "repairing") return common | XML_PARSE_NOENT | XML_PARSE_RECOVER;
    return common | XML_PARSE_NOENT;
}

Reply refused(const xmlError* error) {
    if (error == nullptr) return Reply::rejected("refused");
    std::string message = error->message == nullptr ? "refused" : error->message;
    while (!message.empty() && message.back() == '\n') message.pop_back();
    Reply reply = error->code == XML_ERR_NO_MEMORY ? Reply::exhausted(message) : Reply::rejected(message);
    if (error->line > 0) reply.at_line(static_cast<std::uint64_t>(error->line));
    if (error->int2 > 0) reply.at_column(static_cast<std::uint64_t>(error->int2));
    return reply;
}

std::string qualified(const xmlNs* ns, const xmlChar* local) {
    const std::string prefix(ns == nullptr ? std::string_view{} : view(ns->prefix));
    return (prefix.empty() ? "" : prefix + ":") + std::string(view(local));
}

std::string value_of(const xmlAttr* attribute) {
    const std::unique_ptr<xmlChar, xmlFreeFunc> value(xmlNodeListGetString(attribute->doc, attribute->children, 1),
                                                      xmlFree);
    return std::string(view(value.get()));
}

void start(const xmlNode* element, TraceOut& out) {
    out.element(qualified(element->ns, element->name), view(element->name),
                element->ns == nullptr ? std::string_view{} : view(element->ns->href));
    for (const xmlNs* ns = element->nsDef; ns != nullptr; ns = ns->next)
        out.declaration(view(ns->prefix), view(ns->href));
    for (const xmlAttr* a = element->properties; a != nullptr; a = a->next)
        out.attribute(qualified(a->ns, a->name), view(a->name),
                      a->ns == nullptr ? std::string_view{} : view(a->ns->href), value_of(a));
}

void print(const xmlDoc* document, TraceOut& out) {
    const xmlNode* node = document->children;
    while (node != nullptr) {
        bool inside = false;
        switch (node->type) {
            case XML_ELEMENT_NODE:
                start(node, out);
                inside = node->children != nullptr;
                if (!inside) out.element_end();
                break;
            case XML_TEXT_NODE:
                out.text(view(node->content));
                break;
            case XML_CDATA_SECTION_NODE:
                out.cdata(view(node->content));
                break;
            case XML_COMMENT_NODE:
                out.comment(view(node->content));
                break;
            case XML_PI_NODE:
                out.instruction(view(node->name), view(node->content));
                break;
            case XML_ENTITY_REF_NODE:
                out.reference(view(node->name));
                break;
            case XML_DTD_NODE:
                out.doctype(view(node->name));
                break;
            default:
                break;
        }
        if (inside) {
            node = node->children;
            continue;
        }
        while (node != nullptr && node->next == nullptr) {
            node = node->parent;
            if (node == nullptr || node->type == XML_DOCUMENT_NODE) return;
            out.element_end();
        }
        if (node != nullptr) node = node->next;
    }
}

struct CloseReader {
    void operator()(xmlTextReader* reader) const { xmlFreeTextReader(reader); }
};

Reply pull(std::string_view document, TraceOut& out) {
    const std::unique_ptr<xmlTextReader, CloseReader> reader(xmlReaderForMemory(
        document.data(), static_cast<int>(document.size()), "document.xml", nullptr, common | XML_PARSE_NOENT));
    if (!reader) return Reply::rejected("no reader");
    int status = 0;
    while ((status = xmlTextReaderRead(reader.get())) == 1) {
        if (!out.wanted()) continue;
        const xmlNode* node = xmlTextReaderCurrentNode(reader.get());
        switch (xmlTextReaderNodeType(reader.get())) {
            case XML_READER_TYPE_ELEMENT:
                start(node, out);
                if (xmlTextReaderIsEmptyElement(reader.get()) == 1) out.element_end();
                break;
            case XML_READER_TYPE_END_ELEMENT:
                out.element_end();
                break;
            case XML_READER_TYPE_TEXT:
            case XML_READER_TYPE_WHITESPACE:
            case XML_READER_TYPE_SIGNIFICANT_WHITESPACE:
                out.text(view(xmlTextReaderConstValue(reader.get())));
                break;
            case XML_READER_TYPE_CDATA:
                out.cdata(view(xmlTextReaderConstValue(reader.get())));
                break;
            case XML_READER_TYPE_COMMENT:
                out.comment(view(xmlTextReaderConstValue(reader.get())));
                break;
            case XML_READER_TYPE_PROCESSING_INSTRUCTION:
                out.instruction(view(xmlTextReaderConstName(reader.get())),
                                view(xmlTextReaderConstValue(reader.get())));
                break;
            case XML_READER_TYPE_ENTITY_REFERENCE:
                out.reference(view(xmlTextReaderConstName(reader.get())));
                break;
            case XML_READER_TYPE_DOCUMENT_TYPE:
                out.doctype(view(xmlTextReaderConstName(reader.get())));
                break;
            default:
                break;
        }
    }
    return status == 0 ? Reply::accepted() : refused(xmlGetLastError());
}

class Libxml2 final : public nachklang::adapter::Codec {
  public:
    Libxml2() {
        xmlInitParser();
        xmlSetGenericErrorFunc(nullptr, quiet);
    }
    [[nodiscard]] nachklang::adapter::Description describe() const override {
        const std::vector<nachklang::adapter::Offer> decode_only{{"xml", {"decode"}}};
        return {"libxml2",
                LIBXML_DOTTED_VERSION,
                "",
                "",
                {{"xml", {"decode", "lap"}}},
                {},
                {{"namespaces", "on"}, {"external", "none"}},
                {{"tree", {}, {{"entities", "expanded"}}},
                 {"entities-kept", {}, {{"entities", "kept"}}},
                 {"reader", {}, {{"entities", "expanded"}}, decode_only},
                 {"repairing", {}, {{"entities", "expanded"}}}}};
    }
    Reply decode(std::string_view, std::string_view mode, std::string_view document, TraceOut& out) override {
        xmlResetLastError();
        if (mode == "reader") return pull(document, out);
        return with_document(mode, document, [&](xmlDoc* parsed) {
            if (out.wanted()) print(parsed, out);
            return Reply::accepted();
        });
    }
    Reply lap(std::string_view, std::string_view mode, std::string_view document) override {
        xmlResetLastError();
        return with_document(mode, document, [&](xmlDoc* parsed) {
            xmlChar* bytes = nullptr;
            int size = 0;
            xmlDocDumpMemory(parsed, &bytes, &size);
            Reply reply = Reply::accepted(std::string(view(bytes).substr(0, static_cast<std::size_t>(size))));
            if (bytes != nullptr)
                reply.bytes.assign(reinterpret_cast<const char*>(bytes), static_cast<std::size_t>(size));
            xmlFree(bytes);
            return reply;
        });
    }

  private:
    template <class Use>
    static Reply with_document(std::string_view mode, std::string_view document, Use use) {
        xmlParserCtxt* context = xmlNewParserCtxt();
        xmlDoc* parsed = xmlCtxtReadMemory(context, document.data(), static_cast<int>(document.size()),
                                           "document.xml", nullptr, options_of(mode));
        // A tree is given for what is well-formed without namespaces: the flag tells the rest.
        const bool sound = parsed != nullptr && (mode == "repairing" || context->wellFormed != 0);
        Reply reply = sound ? use(parsed) : refused(xmlCtxtGetLastError(context));
        if (parsed != nullptr) xmlFreeDoc(parsed);
        xmlFreeParserCtxt(context);
        return reply;
    }
};

}  // namespace

int main() {
    Libxml2 codec;
    return nachklang::adapter::serve(codec);
}

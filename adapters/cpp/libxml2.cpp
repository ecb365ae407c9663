// libxml2: its default, which keeps entities as nodes; entities expanded; without its limits; the pull reader; the
// mode that repairs. XML_PARSE_NONET keeps it from the network. Where it expands entities it opens files. The
// external subset is read by `canonical` alone, with the attributes that declarations give.
#include <nachklang/adapter_markup.hpp>

#include <libxml/c14n.h>
#include <libxml/parser.h>
#include <libxml/tree.h>
#include <libxml/xmlreader.h>
#include <libxml/xmlwriter.h>

#include <algorithm>
#include <iterator>
#include <memory>
#include <utility>

namespace {

using nachklang::adapter::Reply;
using nachklang::adapter::TraceOut;

std::string_view view(const xmlChar* text) {
    return text == nullptr ? std::string_view{} : std::string_view(reinterpret_cast<const char*>(text));
}

void quiet(void*, const char*, ...) {}

std::string message_of(const xmlError* error) {
    std::string out = error->message == nullptr ? "an error without a message" : error->message;
    while (!out.empty() && out.back() == '\n') out.pop_back();
    return out;
}

/// Errors that do not stop the parser, such as those against Namespaces 1.0: its user gets a document and these.
void note(std::vector<std::string>& messages, const xmlError* error) {
    if (error->level >= XML_ERR_ERROR) messages.push_back(message_of(error));
}
void note_of_reader(void* messages, xmlError* error) {
    note(*static_cast<std::vector<std::string>*>(messages), error);
}
void note_of_parser(void* context, xmlError* error) {
    note(*static_cast<std::vector<std::string>*>(static_cast<xmlParserCtxt*>(context)->_private), error);
}

Reply with_reports(Reply reply, const std::vector<std::string>& messages) {
    if (reply.kind == "accepted")
        for (const std::string& message : messages) reply.and_reported(message);
    return reply;
}

constexpr int common = XML_PARSE_NONET | XML_PARSE_NOERROR | XML_PARSE_NOWARNING;

int options_of(std::string_view mode) {
    if (mode == "expanded") return common | XML_PARSE_NOENT;
    if (mode == "huge") return common | XML_PARSE_NOENT | XML_PARSE_HUGE;
    if (mode == "repairing") return common | XML_PARSE_RECOVER;
    // The canonical form has the attributes that declarations give.
    if (mode == "canonical") return common | XML_PARSE_NOENT | XML_PARSE_DTDATTR;
    return common;
}

Reply refused(const xmlError* error) {
    if (error == nullptr) return Reply::rejected("refused");
    const std::string message = message_of(error);
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
    const std::unique_ptr<xmlTextReader, CloseReader> reader(
        xmlReaderForMemory(document.data(), static_cast<int>(document.size()), "document.xml", nullptr, common));
    if (!reader) return Reply::rejected("no reader");
    std::vector<std::string> messages;
    xmlTextReaderSetStructuredErrorHandler(reader.get(), note_of_reader, &messages);
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
    return status == 0 ? with_reports(Reply::accepted(), messages) : refused(xmlGetLastError());
}

const xmlChar* units(const std::string& bytes) {
    return reinterpret_cast<const xmlChar*>(nachklang::adapter::until_nul(bytes));
}

/// Builds a tree by its own calls. A name's declaration is found by its namespace, and made where there is none.
class TreeBuilder final : public nachklang::adapter::MarkupBuilder {
  public:
    explicit TreeBuilder(xmlDoc* document) : document_(document), open_(reinterpret_cast<xmlNode*>(document)) {}
    void element(const nachklang::adapter::MarkupName& name) override {
        settle();
        open_ = xmlAddChild(open_, xmlNewDocNode(document_, nullptr, units(name.local), nullptr));
        pending_.push_back({open_, nullptr, name.prefix(), name.uri});
    }
    void attribute(const nachklang::adapter::MarkupName& name, const std::string& value) override {
        xmlAttr* attribute = xmlNewProp(open_, units(name.local), units(value));
        pending_.push_back({open_, attribute, name.prefix(), name.uri});
    }
    void declaration(const std::string& prefix, const std::string& uri) override {
        if (xmlNewNs(open_, units(uri), prefix.empty() ? nullptr : units(prefix)) == nullptr)
            throw nachklang::adapter::CannotRepresentError("such a declaration is not made here");
    }
    void element_end() override {
        settle();
        open_ = open_->parent;
    }
    void text(const std::string& bytes) override { add(xmlNewDocText(document_, units(bytes))); }
    void cdata(const std::string& bytes) override {
        add(xmlNewCDataBlock(document_, units(bytes), static_cast<int>(bytes.size())));
    }
    void comment(const std::string& bytes) override { add(xmlNewDocComment(document_, units(bytes))); }
    void instruction(const std::string& target, const std::string& data) override {
        add(xmlNewDocPI(document_, units(target), units(data)));
    }

  private:
    struct Pending {
        xmlNode* element;
        xmlAttr* attribute;
        std::string prefix, uri;
    };
    void add(xmlNode* node) {
        settle();
        xmlAddChild(open_, node);
    }
    /// Once an element's own declarations are there.
    void settle() {
        for (const Pending& p : pending_) {
            if (p.uri.empty()) continue;
            const bool by_prefix = !p.prefix.empty();
            xmlNs* ns = xmlSearchNs(document_, p.element, by_prefix ? units(p.prefix) : nullptr);
            if (ns == nullptr || view(ns->href) != p.uri)
                ns = xmlNewNs(p.element, units(p.uri), by_prefix ? units(p.prefix) : nullptr);
            if (ns == nullptr)
                throw nachklang::adapter::CannotRepresentError("a prefix is one name on an element here");
            if (p.attribute != nullptr)
                p.attribute->ns = ns;
            else
                xmlSetNs(p.element, ns);
        }
        pending_.clear();
    }
    xmlDoc* document_;
    xmlNode* open_;
    std::vector<Pending> pending_;
};

/// The text writer: it writes what it is given; its user writes the declarations.
class WriterBuilder final : public nachklang::adapter::MarkupBuilder {
  public:
    explicit WriterBuilder(xmlTextWriter* writer) : writer_(writer) {
        xmlTextWriterStartDocument(writer, nullptr, "UTF-8", nullptr);
    }
    void element(const nachklang::adapter::MarkupName& name) override {
        check(xmlTextWriterStartElement(writer_, units(name.qname)));
    }
    void attribute(const nachklang::adapter::MarkupName& name, const std::string& value) override {
        check(xmlTextWriterWriteAttribute(writer_, units(name.qname), units(value)));
    }
    void element_end() override { check(xmlTextWriterEndElement(writer_)); }
    void text(const std::string& bytes) override { check(xmlTextWriterWriteString(writer_, units(bytes))); }
    void cdata(const std::string& bytes) override { check(xmlTextWriterWriteCDATA(writer_, units(bytes))); }
    void comment(const std::string& bytes) override { check(xmlTextWriterWriteComment(writer_, units(bytes))); }
    void instruction(const std::string& target, const std::string& data) override {
        check(xmlTextWriterWritePI(writer_, units(target), data.empty() ? nullptr : units(data)));
    }
    [[nodiscard]] bool refused() const { return refused_; }

  private:
    void check(int written) { refused_ = refused_ || written < 0; }
    xmlTextWriter* writer_;
    bool refused_ = false;
};

Reply with_writer(std::string_view trace) {
    const std::unique_ptr<xmlBuffer, decltype(&xmlBufferFree)> buffer(xmlBufferCreate(), xmlBufferFree);
    bool refused = false;
    {
        const std::unique_ptr<xmlTextWriter, decltype(&xmlFreeTextWriter)> writer(
            xmlNewTextWriterMemory(buffer.get(), 0), xmlFreeTextWriter);
        WriterBuilder builder(writer.get());
        nachklang::adapter::build_markup(trace, builder, false);
        refused = builder.refused() || xmlTextWriterEndDocument(writer.get()) < 0;
    }
    if (refused) return Reply::rejected("a call of the writer returned -1");
    return Reply::accepted({reinterpret_cast<const char*>(xmlBufferContent(buffer.get())),
                            static_cast<std::size_t>(xmlBufferLength(buffer.get()))});
}

class Libxml2 final : public nachklang::adapter::Codec {
  public:
    Libxml2() {
        xmlInitParser();
        xmlSetGenericErrorFunc(nullptr, quiet);
    }
    [[nodiscard]] nachklang::adapter::Description describe() const override {
        const std::vector<nachklang::adapter::Capability> decode_only{{"xml", {"decode"}}};
        return {.name = "libxml2",
                .version = LIBXML_DOTTED_VERSION,
                .capabilities = {{"xml", {"decode", "round-trip"}}},
                .cannot_represent = {"defaults"},
                .settings = {{"namespaces", "on"}, {"external", "entities"}},
                .modes = {{.name = "default",
                           .settings = {{"entities", "kept"}, {"external", "none"}},
                           .capabilities = {{"xml", {"decode", "round-trip", "encode", "pieces"}}}},
                          {.name = "writer", .capabilities = {{"xml", {"encode"}}}},
                          {.name = "expanded",
                           .settings = {{"entities", "expanded"}},
                           .capabilities = {{"xml", {"decode", "round-trip", "pieces"}}}},
                          {.name = "huge", .settings = {{"entities", "expanded"}}},
                          {.name = "reader",
                           .settings = {{"entities", "kept"}, {"external", "none"}},
                           .capabilities = decode_only},
                          {.name = "repairing",
                           .settings = {{"entities", "kept"}, {"external", "none"}, {"purpose", "repairs"}}},
                          {.name = "canonical",
                           .settings = {{"entities", "expanded"}, {"external", "files"}, {"writes", "canonical"}},
                           .capabilities = {{"xml", {"round-trip"}}}}}};
    }
    Reply decode(std::string_view, std::string_view mode, std::string_view document, TraceOut& out) override {
        xmlResetLastError();
        if (mode == "reader") return pull(document, out);
        return with_document(mode, document, [&](xmlDoc* parsed) {
            if (out.wanted()) print(parsed, out);
            return Reply::accepted();
        });
    }
    Reply round_trip(std::string_view, std::string_view mode, std::string_view document) override {
        xmlResetLastError();
        return with_document(mode, document, [mode](xmlDoc* parsed) {
            return mode == "canonical" ? written_canonically(parsed) : written(parsed);
        });
    }
    /// Through the push parser.
    Reply pieces(std::string_view, std::string_view mode, const std::vector<std::string_view>& pieces,
                 TraceOut& out) override {
        xmlResetLastError();
        xmlParserCtxt* context = xmlCreatePushParserCtxt(nullptr, nullptr, nullptr, 0, "document.xml");
        xmlCtxtUseOptions(context, options_of(mode));
        std::vector<std::string> messages;
        context->sax->serror = note_of_parser;
        context->_private = &messages;
        int code = 0;
        for (std::size_t i = 0; i < pieces.size() && !stops(context, code); ++i)
            code = xmlParseChunk(context, pieces[i].data(), static_cast<int>(pieces[i].size()), 0);
        if (!stops(context, code)) code = xmlParseChunk(context, nullptr, 0, 1);
        if (stops(context, code)) context->wellFormed = 0;
        const auto use = [&](xmlDoc* parsed) {
            if (out.wanted()) print(parsed, out);
            return Reply::accepted();
        };
        return finished(context, messages, mode, use, std::exchange(context->myDoc, nullptr));
    }
    Reply encode(std::string_view, std::string_view mode, std::string_view trace) override {
        if (mode == "writer") return with_writer(trace);
        const std::unique_ptr<xmlDoc, decltype(&xmlFreeDoc)> document(xmlNewDoc(units("1.0")), xmlFreeDoc);
        TreeBuilder builder(document.get());
        nachklang::adapter::build_markup(trace, builder, true);
        return written(document.get());
    }

  private:
    static Reply written(xmlDoc* document) {
        xmlChar* bytes = nullptr;
        int size = 0;
        xmlDocDumpMemory(document, &bytes, &size);
        if (bytes == nullptr) return Reply::rejected("xmlDocDumpMemory returned no text");
        Reply reply = Reply::accepted({reinterpret_cast<const char*>(bytes), static_cast<std::size_t>(size)});
        xmlFree(bytes);
        return reply;
    }
    static Reply written_canonically(xmlDoc* document) {
        xmlChar* bytes = nullptr;
        const int size = xmlC14NDocDumpMemory(document, nullptr, XML_C14N_1_0, nullptr, 0, &bytes);
        if (size < 0 || bytes == nullptr) return Reply::rejected("it has no canonical form");
        Reply reply = Reply::accepted({reinterpret_cast<const char*>(bytes), static_cast<std::size_t>(size)});
        xmlFree(bytes);
        return reply;
    }
    template <class Use>
    static Reply with_document(std::string_view mode, std::string_view document, Use use) {
        xmlParserCtxt* context = xmlNewParserCtxt();
        std::vector<std::string> messages;
        context->sax->serror = note_of_parser;
        context->_private = &messages;
        xmlDoc* parsed = xmlCtxtReadMemory(context, document.data(), static_cast<int>(document.size()),
                                           "document.xml", nullptr, options_of(mode));
        return finished(context, messages, mode, use, parsed);
    }
    /// What a piece returns is the last error, also one that is only reported. Of those that leave the document
    /// well-formed in the library's eyes, errors of its encoding and of the library itself end a parse.
    static bool stops(const xmlParserCtxt* context, int code) {
        constexpr int ends[] = {-1,
                                XML_ERR_INTERNAL_ERROR,
                                XML_ERR_NO_MEMORY,
                                XML_ERR_UNKNOWN_ENCODING,
                                XML_ERR_UNSUPPORTED_ENCODING,
                                XML_ERR_INVALID_ENCODING,
                                XML_IO_ENCODER};
        return context->wellFormed == 0 || std::find(std::begin(ends), std::end(ends), code) != std::end(ends);
    }
    /// Ends a parse. A tree is returned for what is well-formed without namespaces; the errors say the rest.
    template <class Use>
    static Reply finished(xmlParserCtxt* context, const std::vector<std::string>& messages, std::string_view mode,
                          Use use, xmlDoc* parsed) {
        const bool sound = parsed != nullptr && (mode == "repairing" || context->wellFormed != 0);
        Reply reply = sound ? with_reports(use(parsed), messages) : refused(xmlCtxtGetLastError(context));
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

// XML libraries of C and C++ without any kit: built once for each with -DPLAIN_name; file names on standard input.
// See README.md for the lines it prints.
#include "plain.hpp"

#if defined(PLAIN_libxml2)
#include <libxml/parser.h>
static std::string full(const xmlNs* ns, const xmlChar* name) {
    const std::string local = reinterpret_cast<const char*>(name);
    return hexed(ns != nullptr ? "{" + std::string(reinterpret_cast<const char*>(ns->href)) + "}" + local : local);
}
static std::string content_of(xmlNode* node) {
    xmlChar* content = xmlNodeGetContent(node);
    std::string out = content == nullptr ? "" : reinterpret_cast<const char*>(content);
    xmlFree(content);
    return hexed(out);
}
static void show(xmlNode* node, Tokens& out) {
    if (node->type == XML_TEXT_NODE || node->type == XML_CDATA_SECTION_NODE) out.push_back("t" + content_of(node));
    if (node->type == XML_ENTITY_REF_NODE) out.push_back("r" + hexed(reinterpret_cast<const char*>(node->name)));
    if (node->type != XML_ELEMENT_NODE) return;
    out.push_back("<" + full(node->ns, node->name));
    Tokens attributes;
    for (xmlAttr* a = node->properties; a != nullptr; a = a->next)
        attributes.push_back("a" + full(a->ns, a->name) + "=" + content_of(reinterpret_cast<xmlNode*>(a)));
    std::sort(attributes.begin(), attributes.end());
    out.insert(out.end(), attributes.begin(), attributes.end());
    for (xmlNode* child = node->children; child != nullptr; child = child->next) show(child, out);
    out.push_back(">");
}
static bool decode(const std::string& d, Tokens& out) {
    xmlDoc* parsed = xmlReadMemory(d.data(), static_cast<int>(d.size()), "document.xml", nullptr,
                                   XML_PARSE_NOERROR | XML_PARSE_NOWARNING);
    if (parsed == nullptr) return false;
    add_written(out, [&](std::string& text) {
        xmlChar* bytes = nullptr;
        int size = 0;
        xmlDocDumpMemory(parsed, &bytes, &size);
        if (bytes != nullptr) text.assign(reinterpret_cast<const char*>(bytes), static_cast<std::size_t>(size));
        xmlFree(bytes);
        return bytes != nullptr;
    });
    show(xmlDocGetRootElement(parsed), out);
    xmlFreeDoc(parsed);
    return true;
}
#elif defined(PLAIN_expat)
#include <expat.h>

#include <set>
static std::string full(const std::string& name) {
    const std::size_t cut = name.find('\n');
    return hexed(cut == std::string::npos ? name : "{" + name.substr(0, cut) + "}" + name.substr(cut + 1));
}
static Tokens& tokens_of(void* context) {
    return *static_cast<Tokens*>(context);
}
static bool decode(const std::string& d, Tokens& out) {
    XML_Parser parser = XML_ParserCreateNS(nullptr, '\n');
    XML_SetUserData(parser, &out);
    XML_SetStartElementHandler(parser, [](void* c, const char* name, const char** pairs) {
        tokens_of(c).push_back("<" + full(name));
        Tokens attributes;
        for (; *pairs != nullptr; pairs += 2) attributes.push_back("a" + full(pairs[0]) + "=" + hexed(pairs[1]));
        std::sort(attributes.begin(), attributes.end());
        tokens_of(c).insert(tokens_of(c).end(), attributes.begin(), attributes.end());
    });
    XML_SetEndElementHandler(parser, [](void* c, const char*) { tokens_of(c).push_back(">"); });
    XML_SetCharacterDataHandler(parser, [](void* c, const char* text, int length) {
        tokens_of(c).push_back("t" + hexed({text, static_cast<std::size_t>(length)}));
    });
    // The context lists the open entities in any order; as no external one is read, one of them is external.
    static std::set<std::string> external;
    external.clear();
    XML_SetEntityDeclHandler(parser, [](void*, const char* name, int is_parameter, const char* value, int,
                                        const char*, const char*, const char*, const char* notation) {
        if (is_parameter == 0 && value == nullptr && notation == nullptr) external.insert(name);
    });
    XML_SetExternalEntityRefHandler(parser,
                                    [](XML_Parser p, const char* context, const char*, const char*, const char*) {
                                        for (std::string rest = context == nullptr ? "" : context; !rest.empty();) {
                                            const std::string part = rest.substr(0, rest.find('\f'));
                                            if (external.contains(part))
                                                tokens_of(XML_GetUserData(p)).push_back("r" + hexed(part));
                                            rest.erase(0, part.size() + 1);
                                        }
                                        return 1;
                                    });
    XML_SetSkippedEntityHandler(parser, [](void* c, const char* name, int is_parameter) {
        if (is_parameter == 0) tokens_of(c).push_back("r" + hexed(name));
    });
    const bool done = XML_Parse(parser, d.data(), static_cast<int>(d.size()), 1) == XML_STATUS_OK;
    XML_ParserFree(parser);
    return done;
}
#elif defined(PLAIN_pugixml)
#include <pugixml.hpp>

#include <sstream>
static void show(const pugi::xml_node& node, Tokens& out) {
    if (node.type() == pugi::node_pcdata || node.type() == pugi::node_cdata)
        out.push_back("t" + hexed(node.value()));
    if (node.type() == pugi::node_element) {
        out.push_back(std::string("<") + hexed(node.name()));
        Tokens attributes;
        for (const auto& a : node.attributes())
            attributes.push_back("a" + hexed(a.name()) + "=" + hexed(a.value()));
        std::sort(attributes.begin(), attributes.end());
        out.insert(out.end(), attributes.begin(), attributes.end());
    }
    for (const auto& child : node.children()) show(child, out);
    if (node.type() == pugi::node_element) out.push_back(">");
}
static bool decode(const std::string& d, Tokens& out) {
    pugi::xml_document document;
    if (!document.load_buffer(d.data(), d.size())) return false;
    add_written(out, [&](std::string& text) {
        std::ostringstream stream;
        document.save(stream, "", pugi::format_raw);
        text = stream.str();
        return true;
    });
    show(document, out);
    return true;
}
#elif defined(PLAIN_tinyxml2)
#include <tinyxml2.h>
static void show(const tinyxml2::XMLNode* node, Tokens& out) {
    if (node->ToText() != nullptr) out.push_back("t" + hexed(node->Value()));
    const tinyxml2::XMLElement* element = node->ToElement();
    if (element == nullptr) return;
    out.push_back("<" + hexed(element->Name()));
    Tokens attributes;
    for (const auto* a = element->FirstAttribute(); a != nullptr; a = a->Next())
        attributes.push_back("a" + hexed(a->Name()) + "=" + hexed(a->Value()));
    std::sort(attributes.begin(), attributes.end());
    out.insert(out.end(), attributes.begin(), attributes.end());
    for (const auto* child = node->FirstChild(); child != nullptr; child = child->NextSibling()) show(child, out);
    out.push_back(">");
}
static bool decode(const std::string& d, Tokens& out) {
    tinyxml2::XMLDocument document;
    if (document.Parse(d.data(), d.size()) != tinyxml2::XML_SUCCESS) return false;
    add_written(out, [&](std::string& text) {
        tinyxml2::XMLPrinter printer(nullptr, true);
        document.Print(&printer);
        text = printer.CStr();
        return true;
    });
    for (const auto* child = document.FirstChild(); child != nullptr; child = child->NextSibling())
        show(child, out);
    return true;
}
#elif defined(PLAIN_xerces)
#include <xercesc/framework/MemBufInputSource.hpp>
#include <xercesc/sax2/Attributes.hpp>
#include <xercesc/sax2/DefaultHandler.hpp>
#include <xercesc/sax2/SAX2XMLReader.hpp>
#include <xercesc/sax2/XMLReaderFactory.hpp>
#include <xercesc/util/PlatformUtils.hpp>
#include <xercesc/util/TransService.hpp>
using namespace xercesc;
static std::string utf8(const XMLCh* text) {
    const TranscodeToStr bytes(text, "UTF-8");
    return {reinterpret_cast<const char*>(bytes.str()), bytes.length()};
}
static std::string full(const XMLCh* uri, const XMLCh* local) {
    return hexed(uri != nullptr && *uri != 0 ? "{" + utf8(uri) + "}" + utf8(local) : utf8(local));
}
struct Handler : DefaultHandler {
    bool fatal = false;
    Tokens* out = nullptr;
    void fatalError(const SAXParseException&) override { fatal = true; }
    InputSource* resolveEntity(const XMLCh*, const XMLCh*) override {
        return new MemBufInputSource(reinterpret_cast<const XMLByte*>(""), 0, "nothing");
    }
    void startElement(const XMLCh* uri, const XMLCh* local, const XMLCh*, const Attributes& given) override {
        out->push_back("<" + full(uri, local));
        Tokens attributes;
        for (XMLSize_t i = 0; i < given.getLength(); ++i)
            attributes.push_back("a" + full(given.getURI(i), given.getLocalName(i)) + "=" +
                                 hexed(utf8(given.getValue(i))));
        std::sort(attributes.begin(), attributes.end());
        out->insert(out->end(), attributes.begin(), attributes.end());
    }
    void endElement(const XMLCh*, const XMLCh*, const XMLCh*) override { out->push_back(">"); }
    void add_text(const XMLCh* text, XMLSize_t length) {
        std::string units = "T";
        for (XMLSize_t i = 0; i < length; ++i) {
            char digits[5];
            std::snprintf(digits, sizeof digits, "%04x", unsigned(text[i]));
            units += digits;
        }
        out->push_back(units);
    }
    void characters(const XMLCh* text, const XMLSize_t length) override { add_text(text, length); }
    void ignorableWhitespace(const XMLCh* text, const XMLSize_t length) override { add_text(text, length); }
};
static bool decode(const std::string& d, Tokens& out) {
    static const bool ready = (XMLPlatformUtils::Initialize(), true);
    Handler handler;
    handler.out = &out;
    SAX2XMLReader* reader = XMLReaderFactory::createXMLReader();
    reader->setFeature(XMLUni::fgSAX2CoreNameSpaces, ready);
    reader->setFeature(XMLUni::fgSAX2CoreValidation, false);
    reader->setFeature(XMLUni::fgXercesLoadExternalDTD, false);
    reader->setContentHandler(&handler);
    reader->setErrorHandler(&handler);
    reader->setEntityResolver(&handler);
    const MemBufInputSource source(reinterpret_cast<const XMLByte*>(d.data()), d.size(), "document");
    bool thrown = false;
    try {
        reader->parse(source);
    } catch (...) {
        thrown = true;
    }
    delete reader;
    return !thrown && !handler.fatal;
}
#endif

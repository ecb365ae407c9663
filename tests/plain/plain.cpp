// C and C++ libraries without any kit: built once for each with -DPLAIN_name; file names on standard input, and for
// each one a line, accepted or rejected.
#include <fstream>
#include <iostream>
#include <iterator>
#include <string>

#if defined(PLAIN_nlohmann)
#include <nlohmann/json.hpp>
static bool decode(const std::string& d) {
    return nlohmann::json::accept(d);
}
#elif defined(PLAIN_rapidjson)
#include <rapidjson/document.h>
static bool decode(const std::string& d) {
    return !rapidjson::Document().Parse(d.data(), d.size()).HasParseError();
}
#elif defined(PLAIN_jsoncpp)
#include <json/json.h>
#include <memory>
static bool decode(const std::string& d) {
    const std::unique_ptr<Json::CharReader> reader(Json::CharReaderBuilder().newCharReader());
    Json::Value root;
    std::string errors;
    return reader->parse(d.data(), d.data() + d.size(), &root, &errors);
}
#elif defined(PLAIN_jansson)
#include <jansson.h>
static bool decode(const std::string& d) {
    return json_loadb(d.data(), d.size(), JSON_DECODE_ANY, nullptr) != nullptr;
}
#elif defined(PLAIN_json_c)
#include <json-c/json.h>
static bool decode(const std::string& d) {
    json_tokener* tokener = json_tokener_new();
    json_tokener_parse_ex(tokener, d.c_str(), static_cast<int>(d.size() + 1));
    const bool done = json_tokener_get_error(tokener) == json_tokener_success;
    json_tokener_free(tokener);
    return done;
}
#elif defined(PLAIN_cjson)
#include <cjson/cJSON.h>
static bool decode(const std::string& d) {
    cJSON* root = cJSON_ParseWithLength(d.data(), d.size());
    cJSON_Delete(root);
    return root != nullptr;
}
#elif defined(PLAIN_yajl)
#include <yajl/yajl_parse.h>
#include <yajl/yajl_tree.h>
static int whole(void*, long long) {
    return 1;
}
static int real(void*, double) {
    return 1;
}
static bool decode(const std::string& d) {
    yajl_callbacks callbacks{};
    callbacks.yajl_integer = whole;
    callbacks.yajl_double = real;
    yajl_handle handle = yajl_alloc(&callbacks, nullptr, nullptr);
    const bool done =
        yajl_parse(handle, reinterpret_cast<const unsigned char*>(d.data()), d.size()) == yajl_status_ok &&
        yajl_complete_parse(handle) == yajl_status_ok;
    yajl_free(handle);
    return done;
}
#elif defined(PLAIN_simdjson)
#include <simdjson.h>
static bool decode(const std::string& d) {
    static simdjson::dom::parser parser;
    return parser.parse(d.data(), d.size()).error() == simdjson::SUCCESS;
}
#elif defined(PLAIN_libxml2)
#include <libxml/parser.h>
static bool decode(const std::string& d) {
    xmlDoc* parsed =
        xmlReadMemory(d.data(), static_cast<int>(d.size()), "document.xml", nullptr,
                      XML_PARSE_NONET | XML_PARSE_NOERROR | XML_PARSE_NOWARNING | XML_PARSE_HUGE | XML_PARSE_NOENT);
    if (parsed != nullptr) xmlFreeDoc(parsed);
    return parsed != nullptr;
}
#elif defined(PLAIN_expat)
#include <expat.h>
static bool decode(const std::string& d) {
    XML_Parser parser = XML_ParserCreateNS(nullptr, '\n');
    const bool done = XML_Parse(parser, d.data(), static_cast<int>(d.size()), 1) == XML_STATUS_OK;
    XML_ParserFree(parser);
    return done;
}
#elif defined(PLAIN_pugixml)
#include <pugixml.hpp>
static bool decode(const std::string& d) {
    pugi::xml_document document;
    return bool(document.load_buffer(d.data(), d.size()));
}
#elif defined(PLAIN_tinyxml2)
#include <tinyxml2.h>
static bool decode(const std::string& d) {
    return tinyxml2::XMLDocument().Parse(d.data(), d.size()) == tinyxml2::XML_SUCCESS;
}
#elif defined(PLAIN_xerces)
#include <xercesc/framework/MemBufInputSource.hpp>
#include <xercesc/sax2/DefaultHandler.hpp>
#include <xercesc/sax2/SAX2XMLReader.hpp>
#include <xercesc/sax2/XMLReaderFactory.hpp>
#include <xercesc/util/PlatformUtils.hpp>
using namespace xercesc;
struct Handler : DefaultHandler {
    bool fatal = false;
    void fatalError(const SAXParseException&) override { fatal = true; }
    InputSource* resolveEntity(const XMLCh*, const XMLCh*) override {
        return new MemBufInputSource(reinterpret_cast<const XMLByte*>(""), 0, "nothing");
    }
};
static bool decode(const std::string& d) {
    static const bool ready = (XMLPlatformUtils::Initialize(), true);
    Handler handler;
    SAX2XMLReader* reader = XMLReaderFactory::createXMLReader();
    reader->setFeature(XMLUni::fgSAX2CoreNameSpaces, ready);
    reader->setFeature(XMLUni::fgSAX2CoreValidation, false);
    reader->setFeature(XMLUni::fgXercesLoadExternalDTD, false);
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

int main() {
    for (std::string path; std::getline(std::cin, path);) {
        std::ifstream file(path, std::ios::binary);
        const std::string document{std::istreambuf_iterator<char>(file), {}};
        bool accepted = false;
        try {
            accepted = decode(document);
        } catch (const std::exception&) {
        }
        std::cout << (accepted ? "accepted" : "rejected") << std::endl;
    }
}

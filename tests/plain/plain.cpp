// C and C++ libraries without any kit: built once for each with -DPLAIN_name; file names on standard input. See
// README.md for the lines it prints.
#include <algorithm>
#include <cmath>
#include <cstdint>
#include <cstdio>
#include <cstring>
#include <fstream>
#include <functional>
#include <iostream>
#include <iterator>
#include <string>
#include <vector>

using Tokens = std::vector<std::string>;

static std::string hexed(const std::string& bytes) {
    std::string out;
    for (const unsigned char byte : bytes) {
        char digits[3];
        std::snprintf(digits, sizeof digits, "%02x", byte);
        out += digits;
    }
    return out;
}
static std::string shown(double number) {
    char digits[40];
    std::snprintf(digits, sizeof digits, "n%.17g", number);
    return digits;
}
template <class Integer>
static std::string shown_integer(Integer number) {
    return "n" + std::to_string(number);
}

#if defined(PLAIN_nlohmann)
#include <nlohmann/json.hpp>
static void show(const nlohmann::json& value, Tokens& out) {
    if (value.is_object()) {
        out.push_back("{");
        for (const auto& [name, item] : value.items()) {
            out.push_back("k" + hexed(name));
            show(item, out);
        }
        out.push_back("}");
    } else if (value.is_array()) {
        out.push_back("[");
        for (const auto& item : value) show(item, out);
        out.push_back("]");
    } else if (value.is_string()) {
        out.push_back("s" + hexed(value.get<std::string>()));
    } else if (value.is_number_unsigned()) {
        out.push_back(shown_integer(value.get<std::uint64_t>()));
    } else if (value.is_number_integer()) {
        out.push_back(shown_integer(value.get<std::int64_t>()));
    } else if (value.is_number()) {
        out.push_back(shown(value.get<double>()));
    } else {
        out.push_back(value.dump());
    }
}
static bool decode(const std::string& d, Tokens& out) {
    show(nlohmann::json::parse(d), out);
    return true;
}
#elif defined(PLAIN_rapidjson)
#include <rapidjson/document.h>
static void show(const rapidjson::Value& value, Tokens& out) {
    if (value.IsObject()) {
        out.push_back("{");
        for (const auto& member : value.GetObject()) {
            out.push_back("k" + hexed({member.name.GetString(), member.name.GetStringLength()}));
            show(member.value, out);
        }
        out.push_back("}");
    } else if (value.IsArray()) {
        out.push_back("[");
        for (const auto& item : value.GetArray()) show(item, out);
        out.push_back("]");
    } else if (value.IsString()) {
        out.push_back("s" + hexed({value.GetString(), value.GetStringLength()}));
    } else if (value.IsUint64()) {
        out.push_back(shown_integer(value.GetUint64()));
    } else if (value.IsInt64()) {
        out.push_back(shown_integer(value.GetInt64()));
    } else if (value.IsNumber()) {
        out.push_back(shown(value.GetDouble()));
    } else {
        out.push_back(value.IsNull() ? "null" : value.IsTrue() ? "true" : "false");
    }
}
static bool decode(const std::string& d, Tokens& out) {
    rapidjson::Document document;
    if (document.Parse(d.data(), d.size()).HasParseError()) return false;
    show(document, out);
    return true;
}
#elif defined(PLAIN_jsoncpp)
#include <json/json.h>
#include <memory>
static void show(const Json::Value& value, Tokens& out) {
    if (value.isObject()) {
        out.push_back("{");
        for (const std::string& name : value.getMemberNames()) {
            out.push_back("k" + hexed(name));
            show(value[name], out);
        }
        out.push_back("}");
    } else if (value.isArray()) {
        out.push_back("[");
        for (const Json::Value& item : value) show(item, out);
        out.push_back("]");
    } else if (value.isString()) {
        out.push_back("s" + hexed(value.asString()));
    } else if (value.type() == Json::uintValue) {
        out.push_back(shown_integer(value.asUInt64()));
    } else if (value.type() == Json::intValue) {
        out.push_back(shown_integer(value.asInt64()));
    } else if (value.isDouble()) {
        out.push_back(shown(value.asDouble()));
    } else {
        out.push_back(value.isNull() ? "null" : value.asBool() ? "true" : "false");
    }
}
static bool decode(const std::string& d, Tokens& out) {
    const std::unique_ptr<Json::CharReader> reader(Json::CharReaderBuilder().newCharReader());
    Json::Value root;
    std::string errors;
    if (!reader->parse(d.data(), d.data() + d.size(), &root, &errors)) return false;
    show(root, out);
    return true;
}
#elif defined(PLAIN_jansson)
#include <jansson.h>
static void show(json_t* value, Tokens& out) {
    if (json_is_object(value)) {
        out.push_back("{");
        const char* name;
        json_t* item;
        json_object_foreach(value, name, item) {
            out.push_back("k" + hexed(name));
            show(item, out);
        }
        out.push_back("}");
    } else if (json_is_array(value)) {
        out.push_back("[");
        for (std::size_t i = 0; i < json_array_size(value); ++i) show(json_array_get(value, i), out);
        out.push_back("]");
    } else if (json_is_string(value)) {
        out.push_back("s" + hexed({json_string_value(value), json_string_length(value)}));
    } else if (json_is_integer(value)) {
        out.push_back(shown_integer(json_integer_value(value)));
    } else if (json_is_real(value)) {
        out.push_back(shown(json_real_value(value)));
    } else {
        out.push_back(json_is_null(value) ? "null" : json_is_true(value) ? "true" : "false");
    }
}
static bool decode(const std::string& d, Tokens& out) {
    json_t* root = json_loadb(d.data(), d.size(), JSON_DECODE_ANY, nullptr);
    if (root == nullptr) return false;
    show(root, out);
    json_decref(root);
    return true;
}
#elif defined(PLAIN_json_c)
#include <json-c/json.h>
static void show(json_object* value, Tokens& out) {
    switch (json_object_get_type(value)) {
        case json_type_object: {
            out.push_back("{");
            json_object_object_foreach(value, name, item) {
                out.push_back("k" + hexed(name));
                show(item, out);
            }
            out.push_back("}");
            break;
        }
        case json_type_array:
            out.push_back("[");
            for (std::size_t i = 0; i < json_object_array_length(value); ++i)
                show(json_object_array_get_idx(value, i), out);
            out.push_back("]");
            break;
        case json_type_string:
            out.push_back("s" +
                          hexed({json_object_get_string(value), std::size_t(json_object_get_string_len(value))}));
            break;
        case json_type_int: {
            const std::int64_t number = json_object_get_int64(value);
            out.push_back(number == INT64_MAX ? shown_integer(json_object_get_uint64(value))
                                              : shown_integer(number));
            break;
        }
        case json_type_double:
            out.push_back(shown(json_object_get_double(value)));
            break;
        case json_type_boolean:
            out.push_back(json_object_get_boolean(value) ? "true" : "false");
            break;
        case json_type_null:
            out.push_back("null");
            break;
    }
}
static bool decode(const std::string& d, Tokens& out) {
    json_tokener* tokener = json_tokener_new();
    json_object* root = json_tokener_parse_ex(tokener, d.c_str(), static_cast<int>(d.size() + 1));
    const bool done = json_tokener_get_error(tokener) == json_tokener_success;
    if (done) show(root, out);
    json_object_put(root);
    json_tokener_free(tokener);
    return done;
}
#elif defined(PLAIN_cjson)
#include <cjson/cJSON.h>
static void show(const cJSON* value, Tokens& out) {
    const cJSON* item = nullptr;
    if (cJSON_IsObject(value)) {
        out.push_back("{");
        cJSON_ArrayForEach(item, value) {
            out.push_back("k" + hexed(item->string));
            show(item, out);
        }
        out.push_back("}");
    } else if (cJSON_IsArray(value)) {
        out.push_back("[");
        cJSON_ArrayForEach(item, value) show(item, out);
        out.push_back("]");
    } else if (cJSON_IsString(value)) {
        out.push_back("s" + hexed(value->valuestring));
    } else if (cJSON_IsNumber(value)) {
        out.push_back(shown(value->valuedouble));
    } else {
        out.push_back(cJSON_IsNull(value) ? "null" : cJSON_IsTrue(value) ? "true" : "false");
    }
}
static bool decode(const std::string& d, Tokens& out) {
    cJSON* root = cJSON_ParseWithLength(d.data(), d.size());
    if (root != nullptr) show(root, out);
    cJSON_Delete(root);
    return root != nullptr;
}
#elif defined(PLAIN_yajl)
#include <yajl/yajl_parse.h>
static Tokens& tokens_of(void* context) {
    return *static_cast<Tokens*>(context);
}
static int add(void* context, std::string token) {
    tokens_of(context).push_back(std::move(token));
    return 1;
}
static std::string text_of(const unsigned char* bytes, std::size_t length) {
    return hexed({reinterpret_cast<const char*>(bytes), length});
}
static bool decode(const std::string& d, Tokens& out) {
    yajl_callbacks callbacks{};
    callbacks.yajl_null = [](void* c) { return add(c, "null"); };
    callbacks.yajl_boolean = [](void* c, int value) { return add(c, value != 0 ? "true" : "false"); };
    callbacks.yajl_integer = [](void* c, long long value) { return add(c, shown_integer(value)); };
    callbacks.yajl_double = [](void* c, double value) { return add(c, shown(value)); };
    callbacks.yajl_string = [](void* c, const unsigned char* s, std::size_t n) {
        return add(c, "s" + text_of(s, n));
    };
    callbacks.yajl_map_key = [](void* c, const unsigned char* s, std::size_t n) {
        return add(c, "k" + text_of(s, n));
    };
    callbacks.yajl_start_map = [](void* c) { return add(c, "{"); };
    callbacks.yajl_end_map = [](void* c) { return add(c, "}"); };
    callbacks.yajl_start_array = [](void* c) { return add(c, "["); };
    callbacks.yajl_end_array = [](void* c) { return add(c, "]"); };
    yajl_handle handle = yajl_alloc(&callbacks, nullptr, &out);
    const bool done =
        yajl_parse(handle, reinterpret_cast<const unsigned char*>(d.data()), d.size()) == yajl_status_ok &&
        yajl_complete_parse(handle) == yajl_status_ok;
    yajl_free(handle);
    return done;
}
#elif defined(PLAIN_simdjson)
#include <simdjson.h>
static void show(simdjson::dom::element value, Tokens& out) {
    using simdjson::dom::element_type;
    switch (value.type()) {
        case element_type::OBJECT:
            out.push_back("{");
            for (const auto member : simdjson::dom::object(value)) {
                out.push_back("k" + hexed(std::string(member.key)));
                show(member.value, out);
            }
            out.push_back("}");
            break;
        case element_type::ARRAY:
            out.push_back("[");
            for (const auto item : simdjson::dom::array(value)) show(item, out);
            out.push_back("]");
            break;
        case element_type::STRING:
            out.push_back("s" + hexed(std::string(std::string_view(value))));
            break;
        case element_type::INT64:
            out.push_back(shown_integer(std::int64_t(value)));
            break;
        case element_type::UINT64:
            out.push_back(shown_integer(std::uint64_t(value)));
            break;
        case element_type::DOUBLE:
            out.push_back(shown(double(value)));
            break;
        case element_type::BOOL:
            out.push_back(bool(value) ? "true" : "false");
            break;
        default:
            out.push_back("null");
    }
}
static bool decode(const std::string& d, Tokens& out) {
    static simdjson::dom::parser parser;
    simdjson::dom::element root;
    if (parser.parse(d.data(), d.size()).get(root) != simdjson::SUCCESS) return false;
    show(root, out);
    return true;
}
#elif defined(PLAIN_libxml2)
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
    xmlDoc* parsed =
        xmlReadMemory(d.data(), static_cast<int>(d.size()), "document.xml", nullptr,
                      XML_PARSE_NONET | XML_PARSE_NOERROR | XML_PARSE_NOWARNING | XML_PARSE_HUGE | XML_PARSE_NOENT);
    if (parsed == nullptr) return false;
    show(xmlDocGetRootElement(parsed), out);
    xmlFreeDoc(parsed);
    return true;
}
#elif defined(PLAIN_expat)
#include <expat.h>
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
    XML_SetExternalEntityRefHandler(parser,
                                    [](XML_Parser p, const char* context, const char*, const char*, const char*) {
                                        // The context lists prefixes with "=", and the entity that is referred to.
                                        std::string name;
                                        for (std::string rest = context == nullptr ? "" : context; !rest.empty();) {
                                            const std::string part = rest.substr(0, rest.find('\f'));
                                            if (name.empty() && part.find('=') == std::string::npos) name = part;
                                            rest.erase(0, part.size() + 1);
                                        }
                                        if (!name.empty())
                                            tokens_of(XML_GetUserData(p)).push_back("r" + hexed(name));
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

int main() {
    for (std::string path; std::getline(std::cin, path);) {
        std::ifstream file(path, std::ios::binary);
        const std::string document{std::istreambuf_iterator<char>(file), {}};
        Tokens out;
        bool accepted = false;
        try {
            accepted = decode(document, out);
        } catch (const std::exception&) {
        }
        std::string line = accepted ? "accepted" : "rejected";
        if (accepted)
            for (const std::string& token : out) line += " " + token;
        std::cout << line << std::endl;
    }
}

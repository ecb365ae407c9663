// Defects of C and C++ libraries, each shown by a call without any kit: built once for each library with
// -DGALLERY_name; a line for each defect, its name and what the library does.
#include <sys/wait.h>
#include <unistd.h>

#include <cstdio>
#include <string>

/// Runs a call in a process of its own.
template <class Call>
static const char* how_it_ends(const Call& call) {
    std::fflush(stdout);
    const pid_t child = fork();
    if (child == 0) {
        call();
        _exit(0);
    }
    int status = 0;
    waitpid(child, &status, 0);
    return WIFSIGNALED(status) ? "killed by a signal" : "ends";
}

#if defined(GALLERY_rapidjson)
#include <rapidjson/document.h>
int main() {
    rapidjson::Document full;
    full.Parse<rapidjson::kParseFullPrecisionFlag>("[1.00000000000000000000001e-326]");
    std::printf("rapidjson-full-precision\t%.17g\n", full[0].GetDouble());
    std::printf("rapidjson-full-precision-crash\t%s\n", how_it_ends([] {
                    rapidjson::Document document;
                    document.Parse<rapidjson::kParseFullPrecisionFlag>("[1.0000000000000000001e-330]");
                }));
}
#elif defined(GALLERY_json_glib)
#include <json-glib/json-glib.h>
int main() {
    JsonParser* parser = json_parser_new();
    json_parser_load_from_data(parser, "[18446744073709551616]", -1, nullptr);
    std::printf("json-glib-integer\t%lld\n", static_cast<long long>(json_array_get_int_element(
                                                 json_node_get_array(json_parser_get_root(parser)), 0)));
    json_parser_load_from_data(parser, "[\"a\\u001fb\"]", -1, nullptr);
    JsonGenerator* generator = json_generator_new();
    json_generator_set_root(generator, json_parser_get_root(parser));
    const std::string text = json_generator_to_data(generator, nullptr);
    std::printf("json-glib-control\t%s\n",
                text.find('\x1f') != std::string::npos ? "U+001F unescaped" : text.c_str());
}
#elif defined(GALLERY_poco)
#include <Poco/JSON/Parser.h>
int main() {
    const auto decoded = [](const char* text) {
        Poco::JSON::Parser parser;
        return parser.parse(text).extract<Poco::JSON::Array::Ptr>()->get(0).toString();
    };
    std::printf("poco-beyond-64-bits\t%s\n", decoded("[18446744073709551616]").c_str());
    std::printf("poco-negative\t%s\n", decoded("[-9007199254740995]").c_str());
}
#elif defined(GALLERY_qt5)
#include <QJsonArray>
#include <QJsonDocument>
#include <QXmlStreamWriter>
int main() {
    const QString text = QJsonDocument::fromJson("[\"\xEF\xBB\xBFx\"]").array().at(0).toString();
    std::printf("qt5-byte-order-mark\t%d character\n", text.size());
    QByteArray written;
    QXmlStreamWriter writer(&written);
    writer.writeStartElement("u\"&", "a");
    writer.writeEndElement();
    std::printf("qt5-writer-namespace\t%s\n", written.constData());
}
#elif defined(GALLERY_duktape)
#include <duktape.h>
int main() {
    duk_context* context = duk_create_heap_default();
    duk_push_string(context, "[9007199254740993]");
    duk_json_decode(context, -1);
    duk_get_prop_index(context, -1, 0);
    std::printf("duktape-two-to-53\t%.0f\n", duk_get_number(context, -1));
}
#elif defined(GALLERY_jq)
extern "C" {
#include <jv.h>
}
int main() {
    const auto read = [](const char* text, int length) {
        return std::string(jv_string_value(jv_dump_string(jv_parse_sized(text, length), 0)));
    };
    std::printf("jq-record-separator\t%s\n", read("[7]\x1e, and more", 14).c_str());
    std::printf("jq-nul\t%s\n", read("[7\0]", 4).c_str());
    std::printf("jq-line-tabulation\t%s\n", read("[7,\v8]", 6).c_str());
}
#elif defined(GALLERY_json_c)
#include <json-c/json.h>
int main() {
    json_object* array = json_tokener_parse("[99999999999999999999]");
    std::printf("json-c-integer\t%s\n",
                std::to_string(json_object_get_uint64(json_object_array_get_idx(array, 0))).c_str());
}
#elif defined(GALLERY_nlohmann)
#include <nlohmann/json.hpp>
#include <sstream>
int main() {
    std::istringstream in("12[1]");
    nlohmann::json first, second;
    in >> first >> second;
    std::printf("nlohmann-behind-number\t%s, then %s\n", first.dump().c_str(), second.dump().c_str());
}
#elif defined(GALLERY_libxml2)
#include <libxml/parser.h>
#include <libxml/tree.h>
#include <libxml/xmlreader.h>
#include <cstring>
int main() {
    const char* document = "<bell><![CDATA[\r\n]]></bell>";
    xmlTextReader* reader =
        xmlReaderForMemory(document, static_cast<int>(std::strlen(document)), nullptr, nullptr, 0);
    while (xmlTextReaderRead(reader) == 1)
        if (xmlTextReaderNodeType(reader) == XML_READER_TYPE_CDATA)
            std::printf("libxml2-reader-line-end\t%s\n",
                        std::strchr(reinterpret_cast<const char*>(xmlTextReaderConstValue(reader)), '\r') != nullptr
                            ? "CR kept"
                            : "LF");
    const char* whole = "<!DOCTYPE a [<?p ]>?>]><a/>";
    constexpr int cut = 20;
    xmlParserCtxt* push = xmlCreatePushParserCtxt(nullptr, nullptr, nullptr, 0, nullptr);
    xmlCtxtUseOptions(push, XML_PARSE_NOERROR);
    xmlParseChunk(push, whole, cut, 0);
    xmlParseChunk(push, whole + cut, static_cast<int>(std::strlen(whole)) - cut, 0);
    xmlParseChunk(push, nullptr, 0, 1);
    std::printf("libxml2-pieces-subset\t%s\n", push->wellFormed != 0 ? "accepted" : "refused");
    xmlDoc* built = xmlNewDoc(BAD_CAST "1.0");
    xmlNode* root = xmlNewDocNode(built, nullptr, BAD_CAST "a", nullptr);
    xmlDocSetRootElement(built, root);
    xmlNewNs(root, BAD_CAST "u&", BAD_CAST "p");
    xmlBuffer* buffer = xmlBufferCreate();
    xmlNodeDump(buffer, built, root, 0, 0);
    std::printf("libxml2-namespace\t%s\n", reinterpret_cast<const char*>(xmlBufferContent(buffer)));
}
#elif defined(GALLERY_tinyxml2)
#include <tinyxml2.h>
int main() {
    const auto verdict = [](const char* text) {
        return tinyxml2::XMLDocument().Parse(text) == tinyxml2::XML_SUCCESS ? "accepted" : "refused";
    };
    std::printf("tinyxml2-two-roots\t%s\n", verdict("<a/><b/>"));
    std::printf("tinyxml2-undeclared-entity\t%s\n", verdict("<a>&e;</a>"));
}
#elif defined(GALLERY_expat)
#include <expat.h>
int main() {
    std::printf("expat-entity-depth\t%s\n", how_it_ends([] {
                    constexpr int most = 60000;
                    std::string document = "<!DOCTYPE a [";
                    for (int i = 1; i < most; ++i)
                        document += "<!ENTITY e" + std::to_string(i) + " '&e" + std::to_string(i + 1) + ";'>";
                    document += "<!ENTITY e" + std::to_string(most) + " 'x'>]><a>&e1;</a>";
                    XML_Parse(XML_ParserCreate(nullptr), document.data(), static_cast<int>(document.size()), 1);
                }));
}
#elif defined(GALLERY_pugixml)
#include <pugixml.hpp>
int main() {
    const auto verdict = [](const char* text) {
        pugi::xml_document document;
        return document.load_string(text) ? "accepted" : "refused";
    };
    std::printf("pugixml-attribute-twice\t%s\n", verdict("<a b='1' b='2'/>"));
    std::printf("pugixml-two-roots\t%s\n", verdict("<a/><b/>"));
    std::printf("pugixml-section-end\t%s\n", verdict("<a>]]></a>"));
}
#endif

// Expat, with namespaces (XML_ParserCreateNS and name triplets): declarations are told, prefixes are.
#include <nachklang/adapter.hpp>

#include <expat.h>

namespace {

using nachklang::adapter::Reply;
using nachklang::adapter::TraceOut;

constexpr char separator = '\f';

struct Name {
    std::string qname, local, uri;
};

/// "uri SEP local SEP prefix", "uri SEP local" or "local".
Name split(std::string_view triplet) {
    const auto first = triplet.find(separator);
    if (first == std::string_view::npos) return {std::string(triplet), std::string(triplet), ""};
    const auto second = triplet.find(separator, first + 1);
    Name out{"", std::string(triplet.substr(first + 1, second - first - 1)), std::string(triplet.substr(0, first))};
    out.qname =
        second == std::string_view::npos ? out.local : std::string(triplet.substr(second + 1)) + ":" + out.local;
    return out;
}

struct Printer {
    TraceOut& out;
    std::string text;  // Expat hands text over in pieces
    bool in_cdata = false;
    std::vector<std::pair<std::string, std::string>> declared;  // told before the element they stand on

    void flush() {
        if (!text.empty()) in_cdata ? out.cdata(text) : out.text(text);
        text.clear();
    }
    static Printer& of(void* user) { return *static_cast<Printer*>(user); }

    static void XMLCALL start(void* user, const XML_Char* name, const XML_Char** attributes) {
        Printer& self = of(user);
        self.flush();
        const Name element = split(name);
        self.out.element(element.qname, element.local, element.uri);
        for (const auto& [prefix, uri] : self.declared) self.out.declaration(prefix, uri);
        self.declared.clear();
        for (; *attributes != nullptr; attributes += 2) {
            const Name attribute = split(attributes[0]);
            self.out.attribute(attribute.qname, attribute.local, attribute.uri, attributes[1]);
        }
    }
    static void XMLCALL end(void* user, const XML_Char*) {
        of(user).flush();
        of(user).out.element_end();
    }
    static void XMLCALL characters(void* user, const XML_Char* bytes, int length) {
        of(user).text.append(bytes, static_cast<std::size_t>(length));
    }
    static void XMLCALL comment(void* user, const XML_Char* text) {
        of(user).flush();
        of(user).out.comment(text);
    }
    static void XMLCALL instruction(void* user, const XML_Char* target, const XML_Char* data) {
        of(user).flush();
        of(user).out.instruction(target, data);
    }
    static void XMLCALL cdata_start(void* user) {
        of(user).flush();
        of(user).in_cdata = true;
    }
    static void XMLCALL cdata_end(void* user) {
        Printer& self = of(user);
        if (self.text.empty()) self.out.cdata("");
        self.flush();
        self.in_cdata = false;
    }
    static void XMLCALL declare(void* user, const XML_Char* prefix, const XML_Char* uri) {
        of(user).declared.emplace_back(prefix == nullptr ? "" : prefix, uri == nullptr ? "" : uri);
    }
};

class Expat final : public nachklang::adapter::Codec {
  public:
    [[nodiscard]] nachklang::adapter::Description describe() const override {
        std::string version = XML_ExpatVersion();
        version.erase(0, version.find('_') + 1);
        return {"expat", version, "", "", {{"xml", {"decode"}}}, {}, {{"namespaces", "on"}}, {}};
    }
    Reply decode(std::string_view, std::string_view, std::string_view document, TraceOut& out) override {
        XML_Parser parser = XML_ParserCreateNS(nullptr, separator);
        Printer printer{out, {}, false, {}};
        XML_SetUserData(parser, &printer);
        XML_SetReturnNSTriplet(parser, 1);
        if (out.wanted()) {
            XML_SetElementHandler(parser, Printer::start, Printer::end);
            XML_SetCharacterDataHandler(parser, Printer::characters);
            XML_SetCommentHandler(parser, Printer::comment);
            XML_SetProcessingInstructionHandler(parser, Printer::instruction);
            XML_SetCdataSectionHandler(parser, Printer::cdata_start, Printer::cdata_end);
            XML_SetStartNamespaceDeclHandler(parser, Printer::declare);
        }
        Reply reply = Reply::accepted();
        if (XML_Parse(parser, document.data(), static_cast<int>(document.size()), 1) != XML_STATUS_OK) {
            const XML_Error error = XML_GetErrorCode(parser);
            reply = error == XML_ERROR_NO_MEMORY ? Reply::exhausted(XML_ErrorString(error))
                                                 : Reply::rejected(XML_ErrorString(error));
            if (XML_GetCurrentByteIndex(parser) >= 0)
                reply.at_offset(static_cast<std::uint64_t>(XML_GetCurrentByteIndex(parser)));
            reply.at_line(XML_GetCurrentLineNumber(parser)).at_column(XML_GetCurrentColumnNumber(parser) + 1);
        }
        XML_ParserFree(parser);
        return reply;
    }
};

}  // namespace

int main() {
    Expat codec;
    return nachklang::adapter::serve(codec);
}

// Expat, with namespaces (name triplets: prefixes and declarations are reported) and without; parameter entities
// read or not.
#include <nachklang/adapter.hpp>

#include <expat.h>

#include <algorithm>
#include <set>

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
    XML_Parser parser;
    bool namespaces;
    std::string text{};  // Expat hands text over in pieces
    bool in_cdata = false, in_type = false;
    std::vector<std::pair<std::string, std::string>> declared{};  // reported before their element

    void flush() {
        if (!text.empty()) in_cdata ? out.cdata(text) : out.text(text);
        text.clear();
    }
    std::set<std::string, std::less<>> external{};  // names of the external entities declared

    static Printer& of(void* user) { return *static_cast<Printer*>(user); }

    static void XMLCALL start(void* user, const XML_Char* name, const XML_Char** attributes) {
        Printer& self = of(user);
        self.flush();
        const Name element = split(name);
        if (self.namespaces)
            self.out.element(element.qname, element.local, element.uri);
        else
            self.out.element(name, std::nullopt, std::nullopt);
        for (const auto& [prefix, uri] : self.declared) self.out.declaration(prefix, uri);
        self.declared.clear();
        const int specified = XML_GetSpecifiedAttributeCount(self.parser);
        for (int i = 0; attributes[i] != nullptr; i += 2) {
            const char* const origin = i < specified ? "given" : "default";
            if (self.namespaces) {
                const Name attribute = split(attributes[i]);
                self.out.attribute(attribute.qname, attribute.local, attribute.uri, attributes[i + 1], origin);
            } else {
                self.out.attribute(attributes[i], std::nullopt, std::nullopt, attributes[i + 1], origin);
            }
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
        if (of(user).in_type) return;
        of(user).flush();
        of(user).out.comment(text);
    }
    static void XMLCALL instruction(void* user, const XML_Char* target, const XML_Char* data) {
        if (of(user).in_type) return;
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
    static void XMLCALL type_start(void* user, const XML_Char* root, const XML_Char*, const XML_Char*, int) {
        of(user).out.doctype(root);
        of(user).in_type = true;
    }
    static void XMLCALL type_end(void* user) { of(user).in_type = false; }
    static void XMLCALL skipped(void* user, const XML_Char* entity, int is_parameter) {
        if (is_parameter != 0) return;
        of(user).flush();
        of(user).out.reference(entity);
    }
    /// External entities are not read; their names are shown. The handler receives a system identifier, which
    /// several may share, and all open entities in the order of a salted table: the external one of them is it, as
    /// none is read.
    static int XMLCALL outside(XML_Parser parser, const XML_Char* context, const XML_Char*, const XML_Char*,
                               const XML_Char*) {
        if (context == nullptr) return XML_STATUS_OK;
        Printer& self = of(XML_GetUserData(parser));
        std::string name;
        for (std::string_view rest = context; !rest.empty();) {
            const std::string_view part = rest.substr(0, rest.find('\f'));
            if (self.external.contains(part)) name = part;
            rest.remove_prefix(std::min(rest.size(), part.size() + 1));
        }
        self.flush();
        self.out.reference(name);
        return XML_STATUS_OK;
    }
    static void XMLCALL entity(void* user, const XML_Char* name, int is_parameter, const XML_Char* value, int,
                               const XML_Char*, const XML_Char* system_id, const XML_Char*,
                               const XML_Char* notation) {
        if (is_parameter == 0 && value == nullptr && notation == nullptr && system_id != nullptr)
            of(user).external.emplace(name);
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
        return {
            .name = "expat",
            .version = version,
            .capabilities = {{"xml", {"decode", "pieces"}}},
            .settings = {{"external", "none"}},
            .modes = {{.name = "namespaces", .settings = {{"namespaces", "on"}, {"parameter-entities", "skipped"}}},
                      {.name = "plain",
                       .cannot_represent = {"namespaces"},
                       .settings = {{"namespaces", "off"}, {"parameter-entities", "skipped"}}},
                      {.name = "parameter-entities", .settings = {{"namespaces", "on"}}}}};
    }
    Reply decode(std::string_view, std::string_view mode, std::string_view document, TraceOut& out) override {
        return parse(mode, {document}, out);
    }
    Reply pieces(std::string_view, std::string_view mode, const std::vector<std::string_view>& pieces,
                 TraceOut& out) override {
        return parse(mode, pieces, out);
    }

  private:
    static Reply parse(std::string_view mode, const std::vector<std::string_view>& pieces, TraceOut& out) {
        const bool namespaces = mode != "plain";
        XML_Parser parser = namespaces ? XML_ParserCreateNS(nullptr, separator) : XML_ParserCreate(nullptr);
        Printer printer{out, parser, namespaces};
        XML_SetUserData(parser, &printer);
        if (namespaces) XML_SetReturnNSTriplet(parser, 1);
        if (mode == "parameter-entities")
            XML_SetParamEntityParsing(parser, XML_PARAM_ENTITY_PARSING_UNLESS_STANDALONE);
        XML_SetExternalEntityRefHandler(parser, Printer::outside);
        if (out.wanted()) {
            XML_SetElementHandler(parser, Printer::start, Printer::end);
            XML_SetCharacterDataHandler(parser, Printer::characters);
            XML_SetCommentHandler(parser, Printer::comment);
            XML_SetProcessingInstructionHandler(parser, Printer::instruction);
            XML_SetCdataSectionHandler(parser, Printer::cdata_start, Printer::cdata_end);
            XML_SetStartNamespaceDeclHandler(parser, Printer::declare);
            XML_SetDoctypeDeclHandler(parser, Printer::type_start, Printer::type_end);
            XML_SetSkippedEntityHandler(parser, Printer::skipped);
            XML_SetEntityDeclHandler(parser, Printer::entity);
        }
        Reply reply = Reply::accepted();
        XML_Status status = XML_STATUS_OK;
        for (std::size_t i = 0; i < pieces.size() && status == XML_STATUS_OK; ++i)
            status = XML_Parse(parser, pieces[i].data(), static_cast<int>(pieces[i].size()),
                               i + 1 == pieces.size() ? 1 : 0);
        if (pieces.empty()) status = XML_Parse(parser, nullptr, 0, 1);
        if (status != XML_STATUS_OK) {
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

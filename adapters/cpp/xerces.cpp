// Xerces-C: SAX2 with namespaces and without; the DOM and its serializer encode. Nothing outside the document is
// opened: every entity resolves to nothing.
#include <nachklang/adapter_markup.hpp>

#include <xercesc/dom/DOM.hpp>
#include <xercesc/framework/MemBufFormatTarget.hpp>
#include <xercesc/framework/MemBufInputSource.hpp>
#include <xercesc/sax2/Attributes.hpp>
#include <xercesc/sax2/DefaultHandler.hpp>
#include <xercesc/sax2/SAX2XMLReader.hpp>
#include <xercesc/sax2/XMLReaderFactory.hpp>
#include <xercesc/util/OutOfMemoryException.hpp>
#include <xercesc/util/PlatformUtils.hpp>
#include <xercesc/util/XMLString.hpp>
#include <xercesc/util/XercesVersion.hpp>

#include <memory>

namespace {

using namespace xercesc;
using nachklang::adapter::Reply;
using nachklang::adapter::TraceOut;

std::string utf8(const XMLCh* units) {
    std::string out;
    for (; units != nullptr && *units != 0; ++units) {
        char32_t c = *units;
        if (c >= 0xD800 && c < 0xDC00 && units[1] >= 0xDC00 && units[1] < 0xE000)
            c = 0x10000 + ((c - 0xD800) << 10) + (*++units - 0xDC00U);
        if (c < 0x80) {
            out += static_cast<char>(c);
        } else if (c < 0x800) {
            out += {static_cast<char>(0xC0 | c >> 6), static_cast<char>(0x80 | (c & 63))};
        } else if (c < 0x10000) {
            out += {static_cast<char>(0xE0 | c >> 12), static_cast<char>(0x80 | (c >> 6 & 63)),
                    static_cast<char>(0x80 | (c & 63))};
        } else {
            out += {static_cast<char>(0xF0 | c >> 18), static_cast<char>(0x80 | (c >> 12 & 63)),
                    static_cast<char>(0x80 | (c >> 6 & 63)), static_cast<char>(0x80 | (c & 63))};
        }
    }
    return out;
}

class Handler final : public DefaultHandler {
  public:
    Handler(TraceOut& out, bool namespaces) : out_(out), namespaces_(namespaces) {}
    std::optional<Reply> refusal;

    void startElement(const XMLCh* const uri, const XMLCh* const local, const XMLCh* const qname,
                      const Attributes& attributes) override {
        if (!out_.wanted()) return;
        flush();
        const std::string name = utf8(qname);
        if (namespaces_)
            out_.element(name, utf8(local), utf8(uri));
        else
            out_.element(name, std::nullopt, std::nullopt);
        for (XMLSize_t i = 0; i < attributes.getLength(); ++i) {
            const std::string attribute = utf8(attributes.getQName(i)), value = utf8(attributes.getValue(i));
            if (namespaces_ && attribute != "xmlns" && !attribute.starts_with("xmlns:"))
                out_.attribute(attribute, utf8(attributes.getLocalName(i)), utf8(attributes.getURI(i)), value);
            else
                out_.attribute(attribute, std::nullopt, std::nullopt, value);
        }
    }
    void endElement(const XMLCh* const, const XMLCh* const, const XMLCh* const) override {
        flush();
        out_.element_end();
    }
    void characters(const XMLCh* const units, const XMLSize_t) override {
        if (out_.wanted()) text_ += utf8(units);
    }
    void ignorableWhitespace(const XMLCh* const units, const XMLSize_t length) override {
        characters(units, length);
    }
    void processingInstruction(const XMLCh* const target, const XMLCh* const data) override {
        if (in_type_) return;
        flush();
        out_.instruction(utf8(target), utf8(data));
    }
    void comment(const XMLCh* const units, const XMLSize_t) override {
        if (in_type_) return;
        flush();
        out_.comment(utf8(units));
    }
    void startCDATA() override {
        flush();
        in_cdata_ = true;
    }
    void endCDATA() override {
        if (text_.empty()) out_.cdata("");
        flush();
        in_cdata_ = false;
    }
    void startDTD(const XMLCh* const name, const XMLCh* const, const XMLCh* const) override {
        out_.doctype(utf8(name));
        in_type_ = true;
    }
    void endDTD() override { in_type_ = false; }
    InputSource* resolveEntity(const XMLCh*, const XMLCh*) override {
        return new MemBufInputSource(reinterpret_cast<const XMLByte*>(""), 0, "nothing");
    }
    std::vector<std::string> reports;
    /// Errors after which it goes on, such as those against Namespaces 1.0.
    void error(const SAXParseException& e) override { reports.push_back(utf8(e.getMessage())); }
    void fatalError(const SAXParseException& e) override {
        if (refusal) return;
        refusal = Reply::rejected(utf8(e.getMessage()));
        refusal->at_line(e.getLineNumber()).at_column(e.getColumnNumber());
    }

  private:
    void flush() {
        if (!text_.empty()) in_cdata_ ? out_.cdata(text_) : out_.text(text_);
        text_.clear();
    }
    TraceOut& out_;
    const bool namespaces_;
    std::string text_;
    bool in_cdata_ = false, in_type_ = false;
};

std::basic_string<XMLCh> utf16(const std::string& bytes) {
    nachklang::adapter::until_nul(bytes);
    const std::u16string units = nachklang::adapter::utf16_of(bytes);
    return {units.begin(), units.end()};
}

class Builder final : public nachklang::adapter::MarkupBuilder {
  public:
    Builder(DOMDocument& document, bool namespaces)
        : document_(document), open_(&document), namespaces_(namespaces) {}
    void element(const nachklang::adapter::MarkupName& name) override {
        const auto qname = utf16(name.qname), uri = utf16(name.uri);
        open_ = open_->appendChild(
            namespaces_ ? document_.createElementNS(uri.empty() ? nullptr : uri.c_str(), qname.c_str())
                        : document_.createElement(qname.c_str()));
    }
    void attribute(const nachklang::adapter::MarkupName& name, const std::string& value) override {
        const auto qname = utf16(name.qname), uri = utf16(name.uri), units = utf16(value);
        auto* element = static_cast<DOMElement*>(open_);
        if (namespaces_)
            element->setAttributeNS(uri.empty() ? nullptr : uri.c_str(), qname.c_str(), units.c_str());
        else
            element->setAttribute(qname.c_str(), units.c_str());
    }
    void element_end() override { open_ = open_->getParentNode(); }
    void text(const std::string& bytes) override {
        open_->appendChild(document_.createTextNode(utf16(bytes).c_str()));
    }
    void cdata(const std::string& bytes) override {
        open_->appendChild(document_.createCDATASection(utf16(bytes).c_str()));
    }
    void comment(const std::string& bytes) override {
        open_->appendChild(document_.createComment(utf16(bytes).c_str()));
    }
    void instruction(const std::string& target, const std::string& data) override {
        open_->appendChild(document_.createProcessingInstruction(utf16(target).c_str(), utf16(data).c_str()));
    }

  private:
    DOMDocument& document_;
    DOMNode* open_;
    const bool namespaces_;
};

/// Keeps the first thing that the serializer says.
class Complaint final : public DOMErrorHandler {
  public:
    std::string first;
    bool handleError(const DOMError& error) override {
        if (first.empty() && error.getSeverity() != DOMError::DOM_SEVERITY_WARNING)
            first = "error: " + utf8(error.getMessage());
        return false;
    }
};

Reply write(std::string_view trace, bool namespaces) {
    auto* implementation =
        static_cast<DOMImplementationLS*>(DOMImplementationRegistry::getDOMImplementation(utf16("LS").c_str()));
    const auto release = [](auto* object) { object->release(); };
    const std::unique_ptr<DOMDocument, decltype(release)> document(
        DOMImplementationRegistry::getDOMImplementation(utf16("Core").c_str())->createDocument(), release);
    Builder builder(*document, namespaces);
    nachklang::adapter::build_markup(trace, builder, namespaces);
    const std::unique_ptr<DOMLSSerializer, decltype(release)> serializer(implementation->createLSSerializer(),
                                                                         release);
    const std::unique_ptr<DOMLSOutput, decltype(release)> output(implementation->createLSOutput(), release);
    Complaint complaint;
    serializer->getDomConfig()->setParameter(XMLUni::fgDOMErrorHandler, &complaint);
    MemBufFormatTarget target;
    output->setByteStream(&target);
    output->setEncoding(XMLUni::fgUTF8EncodingString);
    if (!serializer->write(document.get(), output.get()) || !complaint.first.empty())
        return Reply::rejected(complaint.first.empty() ? "write returned false" : complaint.first);
    return Reply::accepted({reinterpret_cast<const char*>(target.getRawBuffer()), target.getLen()});
}

class Xerces final : public nachklang::adapter::Codec {
  public:
    Xerces() { XMLPlatformUtils::Initialize(); }
    [[nodiscard]] nachklang::adapter::Description describe() const override {
        return {
            .name = "xerces-c",
            .version = XERCES_FULLVERSIONDOT,
            .capabilities = {{"xml", {"decode", "encode"}}},
            .settings = {{"external", "empty"}, {"xml-version", "1.1"}},
            .modes = {{.name = "namespaces", .settings = {{"namespaces", "on"}}},
                      {.name = "plain", .cannot_represent = {"namespaces"}, .settings = {{"namespaces", "off"}}}}};
    }
    Reply decode(std::string_view, std::string_view mode, std::string_view document, TraceOut& out) override {
        const bool namespaces = mode != "plain";
        const std::unique_ptr<SAX2XMLReader> reader(XMLReaderFactory::createXMLReader());
        reader->setFeature(XMLUni::fgSAX2CoreNameSpaces, namespaces);
        reader->setFeature(XMLUni::fgSAX2CoreNameSpacePrefixes, true);
        reader->setFeature(XMLUni::fgSAX2CoreValidation, false);
        reader->setFeature(XMLUni::fgXercesLoadExternalDTD, false);
        reader->setFeature(XMLUni::fgXercesSchema, false);
        Handler handler(out, namespaces);
        reader->setContentHandler(&handler);
        reader->setErrorHandler(&handler);
        reader->setEntityResolver(&handler);
        reader->setLexicalHandler(&handler);
        const MemBufInputSource source(reinterpret_cast<const XMLByte*>(document.data()), document.size(),
                                       "document");
        try {
            reader->parse(source);
        } catch (const OutOfMemoryException&) {
            return Reply::exhausted("no memory");
        } catch (const XMLException& e) {
            if (!handler.refusal) handler.refusal = Reply::rejected(utf8(e.getMessage()));
        } catch (const SAXException& e) {
            if (!handler.refusal) handler.refusal = Reply::rejected(utf8(e.getMessage()));
        }
        if (handler.refusal) return *handler.refusal;
        Reply reply = Reply::accepted();
        for (const std::string& message : handler.reports) reply.and_reported(message);
        return reply;
    }
    Reply encode(std::string_view, std::string_view mode, std::string_view trace) override {
        try {
            return write(trace, mode != "plain");
        } catch (const DOMException& e) {
            return Reply::rejected(utf8(e.getMessage()));
        } catch (const XMLException& e) {
            return Reply::rejected(utf8(e.getMessage()));
        }
    }
};

}  // namespace

int main() {
    Xerces codec;
    return nachklang::adapter::serve(codec);
}

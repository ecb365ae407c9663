// Xerces-C: SAX2 with namespaces and without. Nothing outside the document is opened: every entity resolves to
// nothing.
#include <nachklang/adapter.hpp>

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
    void error(const SAXParseException& e) override { note(e); }
    void fatalError(const SAXParseException& e) override { note(e); }

  private:
    void note(const SAXParseException& e) {
        if (refusal) return;
        refusal = Reply::rejected(utf8(e.getMessage()));
        refusal->at_line(e.getLineNumber()).at_column(e.getColumnNumber());
    }
    void flush() {
        if (!text_.empty()) in_cdata_ ? out_.cdata(text_) : out_.text(text_);
        text_.clear();
    }
    TraceOut& out_;
    const bool namespaces_;
    std::string text_;
    bool in_cdata_ = false, in_type_ = false;
};

class Xerces final : public nachklang::adapter::Codec {
  public:
    Xerces() { XMLPlatformUtils::Initialize(); }
    [[nodiscard]] nachklang::adapter::Description describe() const override {
        return {"xerces-c",
                XERCES_FULLVERSIONDOT,
                "",
                "",
                {{"xml", {"decode"}}},
                {},
                {{"external", "empty"}},
                {{"namespaces", {}, {{"namespaces", "on"}}}, {"plain", {"namespaces"}, {{"namespaces", "off"}}}}};
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
        return handler.refusal ? *handler.refusal : Reply::accepted();
    }
};

}  // namespace

int main() {
    Xerces codec;
    return nachklang::adapter::serve(codec);
}

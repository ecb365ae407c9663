// Qt 5: the stream reader with namespaces and without, and QDom (another parser). The stream writer encodes.
#include <nachklang/adapter.hpp>

#include <QDomDocument>
#include <QXmlStreamReader>

namespace {

using nachklang::adapter::Reply;
using nachklang::adapter::TraceOut;

template <class Text>
std::string utf8(const Text& text) {
    const QByteArray bytes = text.toUtf8();
    return {bytes.constData(), static_cast<std::size_t>(bytes.size())};
}

QByteArray bytes_of(std::string_view document) {
    return QByteArray(document.data(), static_cast<int>(document.size()));
}

Reply stream(std::string_view document, bool namespaces, TraceOut& out) {
    QXmlStreamReader reader(bytes_of(document));
    reader.setNamespaceProcessing(namespaces);
    while (!reader.atEnd()) {
        const auto token = reader.readNext();
        if (!out.wanted()) continue;
        switch (token) {
            case QXmlStreamReader::StartElement:
                if (namespaces)
                    out.element(utf8(reader.qualifiedName()), utf8(reader.name()), utf8(reader.namespaceUri()));
                else
                    out.element(utf8(reader.qualifiedName()), std::nullopt, std::nullopt);
                for (const auto& d : reader.namespaceDeclarations())
                    out.declaration(utf8(d.prefix()), utf8(d.namespaceUri()));
                for (const auto& a : reader.attributes()) {
                    const char* const origin = a.isDefault() ? "default" : "given";
                    if (namespaces)
                        out.attribute(utf8(a.qualifiedName()), utf8(a.name()), utf8(a.namespaceUri()),
                                      utf8(a.value()), origin);
                    else
                        out.attribute(utf8(a.qualifiedName()), std::nullopt, std::nullopt, utf8(a.value()), origin);
                }
                break;
            case QXmlStreamReader::EndElement:
                out.element_end();
                break;
            case QXmlStreamReader::Characters:
                reader.isCDATA() ? out.cdata(utf8(reader.text())) : out.text(utf8(reader.text()));
                break;
            case QXmlStreamReader::Comment:
                out.comment(utf8(reader.text()));
                break;
            case QXmlStreamReader::ProcessingInstruction:
                out.instruction(utf8(reader.processingInstructionTarget()),
                                utf8(reader.processingInstructionData()));
                break;
            case QXmlStreamReader::EntityReference:
                out.reference(utf8(reader.name()));
                break;
            case QXmlStreamReader::DTD:
                out.doctype(utf8(reader.dtdName()));
                break;
            default:
                break;
        }
    }
    if (!reader.hasError()) return Reply::accepted();
    Reply reply = Reply::rejected(utf8(reader.errorString()));
    reply.unit = "utf16";
    return reply.at_offset(static_cast<std::uint64_t>(reader.characterOffset()))
        .at_line(static_cast<std::uint64_t>(reader.lineNumber()))
        .at_column(static_cast<std::uint64_t>(reader.columnNumber()) + 1);
}

void print(const QDomDocument& document, TraceOut& out) {
    QDomNode node = document.firstChild();
    while (!node.isNull()) {
        if (node.isElement()) {
            out.element(utf8(node.nodeName()), utf8(node.localName()), utf8(node.namespaceURI()));
            const QDomNamedNodeMap attributes = node.attributes();
            for (int i = 0; i < attributes.count(); ++i) {
                const QDomAttr a = attributes.item(i).toAttr();
                out.attribute(utf8(a.nodeName()), utf8(a.localName()), utf8(a.namespaceURI()), utf8(a.value()));
            }
            if (node.hasChildNodes()) {
                node = node.firstChild();
                continue;
            }
            out.element_end();
        } else if (node.isCDATASection()) {
            out.cdata(utf8(node.nodeValue()));
        } else if (node.isText()) {
            out.text(utf8(node.nodeValue()));
        } else if (node.isComment()) {
            out.comment(utf8(node.nodeValue()));
        } else if (node.isProcessingInstruction() && node.nodeName() != "xml") {
            out.instruction(utf8(node.nodeName()), utf8(node.nodeValue()));
        } else if (node.isDocumentType()) {
            out.doctype(utf8(node.nodeName()));
        } else if (node.isEntityReference()) {
            out.reference(utf8(node.nodeName()));
        }
        while (!node.isNull() && node.nextSibling().isNull()) {
            node = node.parentNode();
            if (node.isNull() || node.isDocument()) return;
            out.element_end();
        }
        node = node.nextSibling();
    }
}

class QtXml final : public nachklang::adapter::Codec {
  public:
    [[nodiscard]] nachklang::adapter::Description describe() const override {
        const std::vector<nachklang::adapter::Offer> decode_only{{"xml", {"decode"}}};
        return {"qt5-xml",
                qVersion(),
                "",
                "",
                {{"xml", {"decode", "lap"}}},
                {},
                {},
                {{"stream", {}, {{"namespaces", "on"}}, decode_only},
                 {"stream-plain", {"namespaces"}, {{"namespaces", "off"}}, decode_only},
                 {"dom", {"declarations", "order"}, {{"namespaces", "on"}}}}};
    }
    Reply decode(std::string_view, std::string_view mode, std::string_view document, TraceOut& out) override {
        if (mode != "dom") return stream(document, mode == "stream", out);
        QDomDocument parsed;
        if (const auto problem = load(parsed, document)) return *problem;
        if (out.wanted()) print(parsed, out);
        return Reply::accepted();
    }
    Reply lap(std::string_view, std::string_view, std::string_view document) override {
        QDomDocument parsed;
        if (const auto problem = load(parsed, document)) return *problem;
        const QByteArray written = parsed.toByteArray(-1);
        return Reply::accepted({written.constData(), static_cast<std::size_t>(written.size())});
    }

  private:
    static std::optional<Reply> load(QDomDocument& parsed, std::string_view document) {
        QString message;
        int line = 0, column = 0;
        if (parsed.setContent(bytes_of(document), true, &message, &line, &column)) return std::nullopt;
        return Reply::rejected(utf8(message))
            .at_line(static_cast<std::uint64_t>(line))
            .at_column(static_cast<std::uint64_t>(column));
    }
};

}  // namespace

int main() {
    qSetGlobalQHashSeed(0);  // else QDom gives attributes in another order in every process
    QtXml codec;
    return nachklang::adapter::serve(codec);
}

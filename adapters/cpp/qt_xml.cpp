// Qt 5: the stream reader with namespaces and without, and QDom (another parser). The stream writer encodes.
#include <nachklang/adapter_markup.hpp>

#include <QDomDocument>
#include <QXmlStreamReader>
#include <QXmlStreamWriter>

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

QString text_of(const std::string& bytes) {
    const std::u16string units = nachklang::adapter::utf16_of(bytes);
    return QString(reinterpret_cast<const QChar*>(units.data()), static_cast<int>(units.size()));
}

/// The stream writer. Declarations must be written before their element, so a start tag is kept until it is
/// whole.
class StreamBuilder final : public nachklang::adapter::MarkupBuilder {
  public:
    StreamBuilder(QXmlStreamWriter& writer, bool namespaces) : writer_(writer), namespaces_(namespaces) {}
    void element(const nachklang::adapter::MarkupName& name) override {
        settle();
        start_ = name;
    }
    void attribute(const nachklang::adapter::MarkupName& name, const std::string& value) override {
        attributes_.emplace_back(name, value);
    }
    void declaration(const std::string& prefix, const std::string& uri) override {
        if (!namespaces_) return MarkupBuilder::declaration(prefix, uri);
        // While a start tag is open, a declaration would be written on that one.
        if (depth_ > 0) writer_.writeCharacters(QString());
        if (prefix.empty())
            writer_.writeDefaultNamespace(text_of(uri));
        else
            writer_.writeNamespace(text_of(uri), text_of(prefix));
    }
    void element_end() override {
        settle();
        writer_.writeEndElement();
        --depth_;
    }
    void text(const std::string& bytes) override {
        settle();
        writer_.writeCharacters(text_of(bytes));
    }
    void cdata(const std::string& bytes) override {
        settle();
        writer_.writeCDATA(text_of(bytes));
    }
    void comment(const std::string& bytes) override {
        settle();
        writer_.writeComment(text_of(bytes));
    }
    void instruction(const std::string& target, const std::string& data) override {
        settle();
        writer_.writeProcessingInstruction(text_of(target), text_of(data));
    }

  private:
    void settle() {
        if (!start_) return;
        if (namespaces_)
            writer_.writeStartElement(text_of(start_->uri), text_of(start_->local));
        else
            writer_.writeStartElement(text_of(start_->qname));
        for (const auto& [name, value] : attributes_) {
            // The namespace of the prefix xml goes without saying.
            if (namespaces_ && name.prefix() != "xml" && !name.uri.empty())
                writer_.writeAttribute(text_of(name.uri), text_of(name.local), text_of(value));
            else
                writer_.writeAttribute(text_of(name.qname), text_of(value));
        }
        start_.reset();
        attributes_.clear();
        ++depth_;
    }
    QXmlStreamWriter& writer_;
    const bool namespaces_;
    int depth_ = 0;
    std::optional<nachklang::adapter::MarkupName> start_;
    std::vector<std::pair<nachklang::adapter::MarkupName, std::string>> attributes_;
};

Reply write_stream(std::string_view trace, bool namespaces) {
    QByteArray written;
    QXmlStreamWriter writer(&written);
    writer.writeStartDocument();
    StreamBuilder builder(writer, namespaces);
    nachklang::adapter::build_markup(trace, builder, namespaces);
    writer.writeEndDocument();
    if (writer.hasError()) return Reply::rejected("the writer says that it has an error");
    return Reply::accepted({written.constData(), static_cast<std::size_t>(written.size())});
}

class DomBuilder final : public nachklang::adapter::MarkupBuilder {
  public:
    explicit DomBuilder(QDomDocument& document) : document_(document) {}
    void element(const nachklang::adapter::MarkupName& name) override {
        add(name.uri.empty() ? document_.createElement(text_of(name.qname))
                             : document_.createElementNS(text_of(name.uri), text_of(name.qname)));
        open_.push_back(last_);
    }
    void attribute(const nachklang::adapter::MarkupName& name, const std::string& value) override {
        const std::string prefix = name.prefix();
        if (name.uri.empty() || prefix.empty() || prefix == "xml" || prefix == "xmlns")
            last_.toElement().setAttribute(text_of(name.qname), text_of(value));
        else
            last_.toElement().setAttributeNS(text_of(name.uri), text_of(name.qname), text_of(value));
    }
    // Written by QDom itself, on every element that has a namespace; given as attributes, they would be written
    // twice.
    void declaration(const std::string&, const std::string&) override {}
    void element_end() override { open_.pop_back(); }
    void text(const std::string& bytes) override { add(document_.createTextNode(text_of(bytes))); }
    void cdata(const std::string& bytes) override { add(document_.createCDATASection(text_of(bytes))); }
    void comment(const std::string& bytes) override { add(document_.createComment(text_of(bytes))); }
    void instruction(const std::string& target, const std::string& data) override {
        add(document_.createProcessingInstruction(text_of(target), text_of(data)));
    }

  private:
    void add(const QDomNode& node) {
        QDomNode parent = open_.empty() ? QDomNode(document_) : open_.back();
        last_ = parent.appendChild(node);
        if (last_.isNull()) throw nachklang::adapter::CannotRepresentError("such a node has no place here");
    }
    QDomDocument& document_;
    QDomNode last_;
    std::vector<QDomNode> open_;
};

Reply written(const QDomDocument& document) {
    const QByteArray bytes = document.toByteArray(-1);
    return Reply::accepted({bytes.constData(), static_cast<std::size_t>(bytes.size())});
}

class QtXml final : public nachklang::adapter::Codec {
  public:
    [[nodiscard]] nachklang::adapter::Description describe() const override {
        const std::vector<nachklang::adapter::Capability> no_round_trip{{"xml", {"decode", "encode"}}};
        return {.name = "qt5-xml",
                .version = qVersion(),
                .capabilities = {{"xml", {"decode", "round-trip", "encode"}}},
                .modes = {{.name = "stream",
                           .cannot_represent = {"doctype-content"},
                           .settings = {{"namespaces", "on"}},
                           .capabilities = no_round_trip},
                          {.name = "stream-plain",
                           .cannot_represent = {"doctype-content", "namespaces"},
                           .settings = {{"namespaces", "off"}},
                           .capabilities = no_round_trip},
                          {.name = "dom",
                           .cannot_represent = {"declarations", "doctype-content", "order"},
                           .settings = {{"namespaces", "on"}}}}};
    }
    Reply decode(std::string_view, std::string_view mode, std::string_view document, TraceOut& out) override {
        if (mode != "dom") return stream(document, mode == "stream", out);
        QDomDocument parsed;
        if (const auto problem = load(parsed, document)) return *problem;
        if (out.wanted()) print(parsed, out);
        return Reply::accepted();
    }
    Reply round_trip(std::string_view, std::string_view, std::string_view document) override {
        QDomDocument parsed;
        if (const auto problem = load(parsed, document)) return *problem;
        return written(parsed);
    }
    Reply encode(std::string_view, std::string_view mode, std::string_view trace) override {
        if (mode != "dom") return write_stream(trace, mode == "stream");
        QDomDocument document;
        DomBuilder builder(document);
        nachklang::adapter::build_markup(trace, builder, true);
        return written(document);
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

import java.io.ByteArrayInputStream;
import java.io.StringReader;
import javax.xml.parsers.DocumentBuilder;
import javax.xml.parsers.DocumentBuilderFactory;
import javax.xml.parsers.SAXParserFactory;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import javax.xml.transform.OutputKeys;
import javax.xml.transform.Transformer;
import javax.xml.transform.TransformerFactory;
import javax.xml.transform.dom.DOMSource;
import javax.xml.transform.stream.StreamResult;
import org.w3c.dom.Document;
import org.w3c.dom.NamedNodeMap;
import org.w3c.dom.Node;
import org.xml.sax.Attributes;
import org.xml.sax.ErrorHandler;
import org.xml.sax.InputSource;
import org.xml.sax.SAXParseException;
import org.xml.sax.XMLReader;
import org.xml.sax.ext.DefaultHandler2;

/** The JDK's DOM, SAX and StAX, and Woodstox through StAX. External entities are read as empty, but for the modes that leave that as it comes. */
public final class JdkXml extends NachklangAdapter {
    private final boolean woodstox;

    private JdkXml(boolean woodstox) {
        this.woodstox = woodstox;
    }

    @Override protected String implementation() {
        return woodstox ? "woodstox " + versionOfWoodstox() : "java-xml " + System.getProperty("java.version");
    }

    private static String versionOfWoodstox() {
        java.util.Properties built = new java.util.Properties();
        try (java.io.InputStream in = XMLInputFactory.newInstance().getClass().getResourceAsStream("/META-INF/maven/com.fasterxml.woodstox/woodstox-core/pom.properties")) {
            if (in != null) built.load(in);
        } catch (java.io.IOException e) { // reported as unknown
        }
        return built.getProperty("version", "unknown");
    }

    @Override protected String format() {
        return "xml";
    }

    @Override protected String hello() {
        String settings = "setting external=empty\nsetting xml-version=1.1\n";
        if (woodstox) return "xml decode\n" + settings + "cannot-represent doctype\nmode namespaces\nxml decode encode sequence open-stream\nsetting namespaces=on\nmode as-it-comes\nsetting namespaces=on\nsetting external=files\nmode plain\ncannot-represent namespaces\nsetting namespaces=off\n";
        return "xml decode\n" + settings + "mode dom\nxml decode round-trip encode\nsetting namespaces=on\nmode sax\nsetting namespaces=on\nmode sax-plain\ncannot-represent namespaces\n"
                + "setting namespaces=off\nmode stax\ncannot-represent doctype\nxml decode encode\nsetting namespaces=on\nmode dom-as-it-comes\nsetting namespaces=on\nsetting external=files\n"
                + "mode stax-as-it-comes\ncannot-represent doctype\nsetting namespaces=on\nsetting external=files\n";
    }

    private static final class TraceBuffer {
        final StringBuilder out = new StringBuilder();
        void line(String text) {
            out.append(text).append('\n');
        }
    }

    private static String maybe(String text) {
        return text == null ? "-" : field(text);
    }
    private static String empty(String text) {
        return text == null ? "" : text;
    }
    private static Rejected refused(SAXParseException e) {
        return new Rejected(e.getMessage(), " line=" + Math.max(1, e.getLineNumber()) + " column=" + Math.max(1, e.getColumnNumber()) + " unit=utf16");
    }

    @Override protected Object load(byte[] document, String mode) throws Exception {
        try {
            boolean open = mode.endsWith("as-it-comes");
            // What is named elsewhere than in a file would be looked for on the network.
            String text = new String(document, java.nio.charset.StandardCharsets.ISO_8859_1);
            if (open && (text.contains("SYSTEM") || text.contains("PUBLIC")) && !text.contains("'file:///") && !text.contains("\"file:///")) throw new Unsupported("it would look for what is outside");
            if (mode.startsWith("dom")) return dom(document, open);
            if (mode.startsWith("sax")) return sax(document, mode.equals("sax"));
            return stax(document, !mode.equals("plain"), open);
        } catch (SAXParseException e) {
            throw refused(e);
        } catch (org.xml.sax.SAXException e) { // documented by every parser of SAX and DOM
            throw new Rejected(String.valueOf(e.getMessage()));
        } catch (XMLStreamException e) {
            if (e.getLocation() == null || e.getLocation().getLineNumber() < 1) throw new Rejected(String.valueOf(e.getMessage()));
            throw new Rejected(e.getMessage(), " line=" + e.getLocation().getLineNumber() + " column=" + Math.max(1, e.getLocation().getColumnNumber()) + " unit=utf16");
        } catch (RuntimeException e) { // Woodstox reads texts late and says then what is wrong with them
            if (!e.getClass().getSimpleName().equals("WstxLazyException")) throw e;
            throw new Rejected(e.getMessage());
        } catch (java.io.IOException e) { // ill-formed bytes, unknown encodings
            throw new Rejected(String.valueOf(e.getMessage()));
        }
    }

    /** An error that is not fatal is reported to the user, and the parser goes on. */
    private final ErrorHandler reporting = new ErrorHandler() {
        @Override public void warning(SAXParseException e) {}
        @Override public void error(SAXParseException e) {
            reports.add(e.getMessage());
        }
        @Override public void fatalError(SAXParseException e) throws SAXParseException {
            throw e;
        }
    };

    private Document dom(byte[] document, boolean open) throws Exception {
        DocumentBuilderFactory factory = DocumentBuilderFactory.newDefaultInstance();
        factory.setNamespaceAware(true);
        factory.setExpandEntityReferences(true);
        DocumentBuilder builder = factory.newDocumentBuilder();
        builder.setErrorHandler(reporting);
        if (!open) builder.setEntityResolver((publicId, systemId) -> new InputSource(new StringReader("")));
        return builder.parse(new ByteArrayInputStream(document));
    }

    private TraceBuffer sax(byte[] document, boolean namespaces) throws Exception {
        SAXParserFactory factory = SAXParserFactory.newDefaultInstance();
        factory.setNamespaceAware(namespaces);
        XMLReader reader = factory.newSAXParser().getXMLReader();
        TraceBuffer trace = new TraceBuffer();
        DefaultHandler2 handler = new DefaultHandler2() {
            boolean cdata, type;
            final StringBuilder text = new StringBuilder();
            void flush() {
                if (text.length() > 0) trace.line((cdata ? "cdata " : "text ") + field(text.toString()));
                text.setLength(0);
            }
            @Override public void startElement(String uri, String local, String qname, Attributes attributes) {
                flush();
                trace.line("elem " + field(qname) + (namespaces ? " " + field(local) + " " + field(uri) : " - -"));
                for (int i = 0; i < attributes.getLength(); ++i)
                    trace.line("attr " + field(attributes.getQName(i)) + (namespaces ? " " + field(attributes.getLocalName(i)) + " " + field(attributes.getURI(i)) : " - -")
                            + " " + field(attributes.getValue(i)) + " -");
            }
            @Override public void endElement(String uri, String local, String qname) {
                flush();
                trace.line("end");
            }
            @Override public void characters(char[] units, int begin, int length) {
                text.append(units, begin, length);
            }
            @Override public void ignorableWhitespace(char[] units, int begin, int length) {
                text.append(units, begin, length);
            }
            @Override public void processingInstruction(String target, String data) {
                if (type) return;
                flush();
                trace.line("pi " + field(target) + " " + field(empty(data)));
            }
            @Override public void comment(char[] units, int begin, int length) {
                if (type) return;
                flush();
                trace.line("comment " + field(new String(units, begin, length)));
            }
            @Override public void startCDATA() {
                flush();
                cdata = true;
            }
            @Override public void endCDATA() {
                if (text.length() == 0) trace.line("cdata " + field(""));
                flush();
                cdata = false;
            }
            @Override public void startDTD(String name, String publicId, String systemId) {
                trace.line("doctype " + field(name));
                type = true;
            }
            @Override public void endDTD() {
                type = false;
            }
            @Override public void skippedEntity(String name) {
                if (name.startsWith("%") || name.equals("[dtd]")) return;
                flush();
                trace.line("ref " + field(name));
            }
            @Override public InputSource resolveEntity(String name, String publicId, String base, String systemId) {
                return new InputSource(new StringReader(""));
            }
        };
        reader.setFeature("http://xml.org/sax/features/namespace-prefixes", true);
        reader.setContentHandler(handler);
        reader.setEntityResolver(handler);
        reader.setErrorHandler(reporting);
        reader.setProperty("http://xml.org/sax/properties/lexical-handler", handler);
        reader.parse(new InputSource(new ByteArrayInputStream(document)));
        return trace;
    }

    private TraceBuffer stax(byte[] document, boolean namespaces, boolean open) throws Exception {
        XMLInputFactory factory = woodstox ? XMLInputFactory.newInstance() : XMLInputFactory.newDefaultFactory();
        factory.setProperty(XMLInputFactory.IS_NAMESPACE_AWARE, namespaces);
        factory.setProperty(XMLInputFactory.IS_COALESCING, false);
        if (!open) factory.setXMLResolver((publicId, systemId, base, namespace) -> new ByteArrayInputStream(new byte[0]));
        if (!woodstox) factory.setProperty("http://java.sun.com/xml/stream/properties/report-cdata-event", true);
        XMLStreamReader reader = factory.createXMLStreamReader(new ByteArrayInputStream(document));
        TraceBuffer trace = new TraceBuffer();
        while (reader.hasNext()) printEvent(reader, reader.next(), namespaces, trace);
        // White space around the root is reported, too; a trace has none there.
        return trace;
    }

    private static void printEvent(XMLStreamReader reader, int event, boolean namespaces, TraceBuffer trace) throws XMLStreamException {
        switch (event) {
            case XMLStreamConstants.START_ELEMENT:
                String prefix = empty(reader.getPrefix());
                String qname = (prefix.isEmpty() ? "" : prefix + ":") + reader.getLocalName();
                trace.line("elem " + field(qname) + (namespaces ? " " + field(reader.getLocalName()) + " " + field(empty(reader.getNamespaceURI())) : " - -"));
                for (int i = 0; namespaces && i < reader.getNamespaceCount(); ++i)
                    trace.line("ns " + field(empty(reader.getNamespacePrefix(i))) + " " + field(empty(reader.getNamespaceURI(i))));
                for (int i = 0; i < reader.getAttributeCount(); ++i) {
                    String of = empty(reader.getAttributePrefix(i)), local = reader.getAttributeLocalName(i);
                    String origin = reader.isAttributeSpecified(i) ? "given" : "default";
                    trace.line("attr " + field((of.isEmpty() ? "" : of + ":") + local)
                            + (namespaces ? " " + field(local) + " " + field(empty(reader.getAttributeNamespace(i))) : " - -") + " "
                            + field(reader.getAttributeValue(i)) + " " + origin);
                }
                break;
            case XMLStreamConstants.END_ELEMENT: trace.line("end"); break;
            case XMLStreamConstants.CDATA: trace.line("cdata " + field(reader.getText())); break;
            case XMLStreamConstants.SPACE:
            case XMLStreamConstants.CHARACTERS:
                trace.line("text " + field(reader.getText()));
                break;
            case XMLStreamConstants.COMMENT: trace.line("comment " + field(reader.getText())); break;
            case XMLStreamConstants.PROCESSING_INSTRUCTION:
                trace.line("pi " + field(reader.getPITarget()) + " " + field(empty(reader.getPIData())));
                break;
            case XMLStreamConstants.ENTITY_REFERENCE: trace.line("ref " + field(reader.getLocalName())); break;
            default: break;
        }
    }

    /** Woodstox reads several documents from one input, each with a prologue of its own, if it is asked to. */
    @Override protected void loadSequence(byte[] text, String mode, Taker taker) throws Exception {
        loadOpenStream(new ByteArrayInputStream(text), mode, taker);
    }

    @Override protected void loadOpenStream(java.io.InputStream stream, String mode, Taker taker) throws Exception {
        XMLInputFactory factory = XMLInputFactory.newInstance();
        factory.setProperty(XMLInputFactory.IS_COALESCING, false);
        factory.setXMLResolver((publicId, systemId, base, namespace) -> new ByteArrayInputStream(new byte[0]));
        // By name, as the JDK's own parsers run without it.
        Class<?> properties = Class.forName("com.ctc.wstx.api.WstxInputProperties");
        factory.setProperty((String) properties.getField("P_INPUT_PARSING_MODE").get(null), properties.getField("PARSING_MODE_DOCUMENTS").get(null));
        try {
            XMLStreamReader reader = factory.createXMLStreamReader(stream);
            TraceBuffer trace = new TraceBuffer();
            for (int depth = 0; reader.hasNext();) {
                int event = reader.next();
                if (event == XMLStreamConstants.START_ELEMENT) ++depth;
                if (depth > 0) printEvent(reader, event, true, trace);
                if (event != XMLStreamConstants.END_ELEMENT || --depth > 0) continue;
                taker.take(trace);
                trace = new TraceBuffer();
            }
        } catch (XMLStreamException | java.io.IOException e) {
            throw new Rejected(String.valueOf(e.getMessage()));
        } catch (RuntimeException e) {
            if (!e.getClass().getSimpleName().equals("WstxLazyException")) throw e;
            throw new Rejected(e.getMessage());
        }
    }

    @Override protected Inside inside(Object value) {
        return null;
    }

    @Override protected void print(Object root, StringBuilder out) {
        if (root instanceof TraceBuffer) {
            out.append(withoutOuterSpace(((TraceBuffer) root).out.toString()));
            return;
        }
        Node node = ((Document) root).getFirstChild();
        while (node != null) {
            boolean inside = false;
            switch (node.getNodeType()) {
                case Node.ELEMENT_NODE:
                    out.append("elem ").append(field(node.getNodeName())).append(' ').append(field(node.getLocalName())).append(' ')
                            .append(field(empty(node.getNamespaceURI()))).append('\n');
                    NamedNodeMap attributes = node.getAttributes();
                    for (int i = 0; i < attributes.getLength(); ++i) {
                        org.w3c.dom.Attr a = (org.w3c.dom.Attr) attributes.item(i);
                        out.append("attr ").append(field(a.getName())).append(' ').append(maybe(a.getLocalName())).append(' ')
                                .append(field(empty(a.getNamespaceURI()))).append(' ').append(field(a.getValue())).append(a.getSpecified() ? " given\n" : " default\n");
                    }
                    inside = node.getFirstChild() != null;
                    if (!inside) out.append("end\n");
                    break;
                case Node.TEXT_NODE: out.append("text ").append(field(node.getNodeValue())).append('\n'); break;
                case Node.CDATA_SECTION_NODE: out.append("cdata ").append(field(node.getNodeValue())).append('\n'); break;
                case Node.COMMENT_NODE: out.append("comment ").append(field(node.getNodeValue())).append('\n'); break;
                case Node.PROCESSING_INSTRUCTION_NODE:
                    out.append("pi ").append(field(node.getNodeName())).append(' ').append(field(node.getNodeValue())).append('\n');
                    break;
                case Node.ENTITY_REFERENCE_NODE: out.append("ref ").append(field(node.getNodeName())).append('\n'); break;
                case Node.DOCUMENT_TYPE_NODE: out.append("doctype ").append(field(node.getNodeName())).append('\n'); break;
                default: break;
            }
            if (inside) {
                node = node.getFirstChild();
                continue;
            }
            while (node != null && node.getNextSibling() == null) {
                node = node.getParentNode();
                if (node == null || node.getNodeType() == Node.DOCUMENT_NODE) return;
                out.append("end\n");
            }
            if (node != null) node = node.getNextSibling();
        }
    }

    /** A tree's nodes as its user makes them. */
    private static final class TreeBuilder implements MarkupBuilder {
        private final Document document;
        private Node open;

        TreeBuilder(Document document) {
            this.document = document;
            open = document;
        }
        @Override public void element(String qname, String local, String uri) {
            open = open.appendChild(document.createElementNS(uri.isEmpty() ? null : uri, qname));
        }
        @Override public void attribute(String qname, String local, String uri, String value) {
            ((org.w3c.dom.Element) open).setAttributeNS(uri.isEmpty() ? null : uri, qname, value);
        }
        @Override public void declaration(String prefix, String uri) {
            ((org.w3c.dom.Element) open).setAttributeNS("http://www.w3.org/2000/xmlns/", prefix.isEmpty() ? "xmlns" : "xmlns:" + prefix, uri);
        }
        @Override public void end() {
            open = open.getParentNode();
        }
        @Override public void text(String text) {
            open.appendChild(document.createTextNode(text));
        }
        @Override public void cdata(String text) {
            open.appendChild(document.createCDATASection(text));
        }
        @Override public void comment(String text) {
            open.appendChild(document.createComment(text));
        }
        @Override public void instruction(String target, String data) {
            open.appendChild(document.createProcessingInstruction(target, data));
        }
    }

    /** A stream writer: declarations are its user's. */
    private static final class StreamBuilder implements MarkupBuilder {
        private final javax.xml.stream.XMLStreamWriter writer;

        StreamBuilder(javax.xml.stream.XMLStreamWriter writer) {
            this.writer = writer;
        }
        private static String prefixOf(String qname) {
            return qname.indexOf(':') < 0 ? "" : qname.substring(0, qname.indexOf(':'));
        }
        @Override public void element(String qname, String local, String uri) throws XMLStreamException {
            if (uri.isEmpty() && prefixOf(qname).isEmpty()) writer.writeStartElement(local);
            else writer.writeStartElement(prefixOf(qname), local, uri);
        }
        @Override public void attribute(String qname, String local, String uri, String value) throws XMLStreamException {
            if (uri.isEmpty()) writer.writeAttribute(local, value);
            else writer.writeAttribute(prefixOf(qname), uri, local, value);
        }
        @Override public void declaration(String prefix, String uri) throws XMLStreamException {
            if (prefix.isEmpty()) writer.writeDefaultNamespace(uri);
            else writer.writeNamespace(prefix, uri);
        }
        @Override public void end() throws XMLStreamException {
            writer.writeEndElement();
        }
        @Override public void text(String text) throws XMLStreamException {
            writer.writeCharacters(text);
        }
        @Override public void cdata(String text) throws XMLStreamException {
            writer.writeCData(text);
        }
        @Override public void comment(String text) throws XMLStreamException {
            writer.writeComment(text);
        }
        @Override public void instruction(String target, String data) throws XMLStreamException {
            if (data.isEmpty()) writer.writeProcessingInstruction(target);
            else writer.writeProcessingInstruction(target, data);
        }
    }

    @Override protected byte[] writeMarkup(String trace, String mode) throws Exception {
        java.io.ByteArrayOutputStream out = new java.io.ByteArrayOutputStream();
        if (mode.equals("dom")) {
            DocumentBuilderFactory factory = DocumentBuilderFactory.newDefaultInstance();
            factory.setNamespaceAware(true);
            Document document = factory.newDocumentBuilder().newDocument();
            try {
                build(trace, true, new TreeBuilder(document));
                Transformer transformer = TransformerFactory.newDefaultInstance().newTransformer();
                transformer.setOutputProperty(OutputKeys.ENCODING, "UTF-8");
                transformer.transform(new DOMSource(document), new StreamResult(out));
            } catch (org.w3c.dom.DOMException | javax.xml.transform.TransformerException e) {
                throw new Rejected(e.getMessage());
            }
            return out.toByteArray();
        }
        javax.xml.stream.XMLOutputFactory factory =
                woodstox ? javax.xml.stream.XMLOutputFactory.newInstance() : javax.xml.stream.XMLOutputFactory.newDefaultFactory();
        try {
            javax.xml.stream.XMLStreamWriter writer = factory.createXMLStreamWriter(out, "UTF-8");
            writer.writeStartDocument("UTF-8", "1.0");
            build(trace, false, new StreamBuilder(writer));
            writer.writeEndDocument();
            writer.close();
        } catch (XMLStreamException e) {
            throw new Rejected(e.getMessage());
        }
        return out.toByteArray();
    }

    private static String withoutOuterSpace(String trace) {
        StringBuilder out = new StringBuilder();
        int depth = 0;
        for (String line : trace.split("\n")) {
            if (line.startsWith("elem ")) ++depth;
            if (depth > 0 || !line.startsWith("text ")) out.append(line).append('\n');
            if (line.equals("end")) --depth;
        }
        return out.toString();
    }

    @Override protected byte[] dumpBytes(Object value, String mode) throws Exception {
        Transformer transformer = TransformerFactory.newDefaultInstance().newTransformer();
        transformer.setOutputProperty(OutputKeys.ENCODING, "UTF-8");
        java.io.ByteArrayOutputStream out = new java.io.ByteArrayOutputStream();
        try {
            transformer.transform(new DOMSource((Document) value), new StreamResult(out));
        } catch (javax.xml.transform.TransformerException e) {
            throw new Rejected(String.valueOf(e.getMessage()));
        }
        return out.toByteArray();
    }

    public static void main(String[] words) throws Exception {
        new JdkXml(words.length > 0 && words[0].equals("woodstox")).serve();
    }
}

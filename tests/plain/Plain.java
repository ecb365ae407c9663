import java.io.BufferedReader;
import java.io.ByteArrayInputStream;
import java.io.InputStreamReader;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;

/** Java's libraries without any kit: Plain LIBRARY, then file names on standard input. See README.md for the lines it prints. */
public final class Plain {
    interface Decoder {
        void decode(byte[] document, List<String> out) throws Exception;
    }

    interface Writer {
        byte[] write() throws Exception;
    }

    private static String written(Writer writer) {
        try {
            StringBuilder out = new StringBuilder("w");
            for (byte b : writer.write()) out.append(String.format("%02x", b));
            return out.toString();
        } catch (Exception | StackOverflowError error) {
            return "w!";
        }
    }

    private static String text(byte[] document) throws Exception {
        return StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(document)).toString();
    }

    private static String units(String text) {
        StringBuilder out = new StringBuilder();
        for (char unit : text.toCharArray()) out.append(String.format("%04x", (int) unit));
        return out.toString();
    }

    private static String utf8(String text) {
        StringBuilder out = new StringBuilder();
        text.codePoints().forEach(point -> {
            if (point >= 0xD800 && point < 0xE000) {
                out.append(String.format("%02x%02x%02x", 0xE0 | point >> 12, 0x80 | point >> 6 & 0x3F, 0x80 | point & 0x3F));
                return;
            }
            for (byte b : new String(Character.toChars(point)).getBytes(StandardCharsets.UTF_8)) out.append(String.format("%02x", b));
        });
        return out.toString();
    }

    private static void jackson(com.fasterxml.jackson.databind.JsonNode node, List<String> out) {
        if (node.isObject()) {
            out.add("{");
            node.fields().forEachRemaining(member -> {
                out.add("K" + units(member.getKey()));
                jackson(member.getValue(), out);
            });
            out.add("}");
        } else if (node.isArray()) {
            out.add("[");
            node.forEach(item -> jackson(item, out));
            out.add("]");
        } else if (node.isTextual()) {
            out.add("S" + units(node.textValue()));
        } else {
            out.add((node.isNumber() ? "n" : "") + node.asText());
        }
    }

    private static void gson(com.google.gson.JsonElement element, List<String> out) {
        if (element.isJsonObject()) {
            out.add("{");
            element.getAsJsonObject().entrySet().forEach(member -> {
                out.add("K" + units(member.getKey()));
                gson(member.getValue(), out);
            });
            out.add("}");
        } else if (element.isJsonArray()) {
            out.add("[");
            element.getAsJsonArray().forEach(item -> gson(item, out));
            out.add("]");
        } else if (element.isJsonPrimitive() && element.getAsJsonPrimitive().isString()) {
            out.add("S" + units(element.getAsString()));
        } else if (element.isJsonPrimitive() && element.getAsJsonPrimitive().isNumber()) {
            out.add("n" + element.getAsString());
        } else {
            out.add(element.toString());
        }
    }

    private static void plainObjects(Object value, List<String> out) {
        if (value instanceof Map) {
            out.add("{");
            ((Map<?, ?>) value).forEach((name, item) -> {
                out.add("K" + units((String) name));
                plainObjects(item, out);
            });
            out.add("}");
        } else if (value instanceof List) {
            out.add("[");
            ((List<?>) value).forEach(item -> plainObjects(item, out));
            out.add("]");
        } else if (value instanceof String) {
            out.add("S" + units((String) value));
        } else {
            out.add((value instanceof Number ? "n" : "") + value);
        }
    }

    private static org.xml.sax.InputSource nothing(String publicId, String systemId) {
        return new org.xml.sax.InputSource(new java.io.StringReader(""));
    }

    private static String full(String namespace, String local) {
        return utf8(namespace == null || namespace.isEmpty() ? local : "{" + namespace + "}" + local);
    }

    private static void domValue(org.w3c.dom.Node node, List<String> out) {
        switch (node.getNodeType()) {
            case org.w3c.dom.Node.TEXT_NODE:
            case org.w3c.dom.Node.CDATA_SECTION_NODE: out.add("T" + units(node.getNodeValue())); break;
            case org.w3c.dom.Node.ENTITY_REFERENCE_NODE: out.add("r" + utf8(node.getNodeName())); break;
            case org.w3c.dom.Node.ELEMENT_NODE:
                out.add("<" + full(node.getNamespaceURI(), node.getLocalName()));
                List<String> attributes = new ArrayList<>();
                for (int i = 0; i < node.getAttributes().getLength(); ++i) {
                    org.w3c.dom.Node attribute = node.getAttributes().item(i);
                    if (attribute.getNodeName().equals("xmlns") || attribute.getNodeName().startsWith("xmlns:")) continue;
                    attributes.add("a" + full(attribute.getNamespaceURI(), attribute.getLocalName()) + "=" + utf8(attribute.getNodeValue()));
                }
                Collections.sort(attributes);
                out.addAll(attributes);
                for (org.w3c.dom.Node child = node.getFirstChild(); child != null; child = child.getNextSibling()) domValue(child, out);
                out.add(">");
                break;
            default:
        }
    }

    private static void dom(byte[] document, List<String> out) throws Exception {
        javax.xml.parsers.DocumentBuilderFactory factory = javax.xml.parsers.DocumentBuilderFactory.newDefaultInstance();
        factory.setNamespaceAware(true);
        javax.xml.parsers.DocumentBuilder builder = factory.newDocumentBuilder();
        builder.setErrorHandler(null);
        builder.setEntityResolver(Plain::nothing);
        org.w3c.dom.Document parsed = builder.parse(new ByteArrayInputStream(document));
        out.add(written(() -> {
            java.io.ByteArrayOutputStream bytes = new java.io.ByteArrayOutputStream();
            javax.xml.transform.TransformerFactory.newDefaultInstance().newTransformer().transform(
                new javax.xml.transform.dom.DOMSource(parsed), new javax.xml.transform.stream.StreamResult(bytes));
            return bytes.toByteArray();
        }));
        domValue(parsed.getDocumentElement(), out);
    }

    private static void stax(byte[] document, javax.xml.stream.XMLInputFactory factory, List<String> out) throws Exception {
        factory.setXMLResolver((publicId, systemId, base, namespace) -> new ByteArrayInputStream(new byte[0]));
        javax.xml.stream.XMLStreamReader reader = factory.createXMLStreamReader(new ByteArrayInputStream(document));
        while (reader.hasNext()) {
            switch (reader.next()) {
                case javax.xml.stream.XMLStreamConstants.START_ELEMENT:
                    out.add("<" + full(reader.getNamespaceURI(), reader.getLocalName()));
                    List<String> attributes = new ArrayList<>();
                    for (int i = 0; i < reader.getAttributeCount(); ++i)
                        attributes.add("a" + full(reader.getAttributeNamespace(i), reader.getAttributeLocalName(i)) + "="
                            + utf8(reader.getAttributeValue(i)));
                    Collections.sort(attributes);
                    out.addAll(attributes);
                    break;
                case javax.xml.stream.XMLStreamConstants.END_ELEMENT: out.add(">"); break;
                case javax.xml.stream.XMLStreamConstants.CHARACTERS:
                case javax.xml.stream.XMLStreamConstants.SPACE:
                case javax.xml.stream.XMLStreamConstants.CDATA: out.add("T" + units(reader.getText())); break;
                case javax.xml.stream.XMLStreamConstants.ENTITY_REFERENCE: out.add("r" + utf8(reader.getLocalName())); break;
                case javax.xml.stream.XMLStreamConstants.COMMENT:
                case javax.xml.stream.XMLStreamConstants.DTD: reader.getText(); break;
                default:
            }
        }
    }

    private static Decoder decoder(String name) {
        switch (name) {
            case "jackson": return (d, out) -> {
                com.fasterxml.jackson.databind.ObjectMapper mapper = new com.fasterxml.jackson.databind.ObjectMapper();
                com.fasterxml.jackson.databind.JsonNode node = mapper.readTree(d);
                if (node instanceof com.fasterxml.jackson.databind.node.MissingNode) throw new Exception("no content");
                out.add(written(() -> mapper.writeValueAsBytes(node)));
                jackson(node, out);
            };
            case "gson": return (d, out) -> {
                com.google.gson.JsonElement element = com.google.gson.JsonParser.parseString(text(d));
                out.add(written(() -> new com.google.gson.Gson().toJson(element).getBytes(StandardCharsets.UTF_8)));
                gson(element, out);
            };
            case "json-smart": return (d, out) -> {
                Object value = new net.minidev.json.parser.JSONParser(net.minidev.json.parser.JSONParser.MODE_PERMISSIVE).parse(d);
                out.add(written(() -> net.minidev.json.JSONValue.toJSONString(value).getBytes(StandardCharsets.UTF_8)));
                plainObjects(value, out);
            };
            case "dom": return Plain::dom;
            case "stax": return (d, out) -> stax(d, javax.xml.stream.XMLInputFactory.newDefaultFactory(), out);
            default: return (d, out) -> stax(d, javax.xml.stream.XMLInputFactory.newInstance(), out);
        }
    }

    public static void main(String[] words) throws Exception {
        Decoder decoder = decoder(words[0]);
        BufferedReader names = new BufferedReader(new InputStreamReader(System.in, StandardCharsets.UTF_8));
        for (String name = names.readLine(); name != null; name = names.readLine()) {
            byte[] document = Files.readAllBytes(Path.of(name));
            List<String> out = new ArrayList<>(List.of("accepted"));
            try {
                decoder.decode(document, out);
            } catch (Exception | StackOverflowError error) {
                out = List.of("rejected");
            }
            System.out.println(String.join(" ", out));
        }
    }
}

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import javax.xml.parsers.DocumentBuilder;
import javax.xml.parsers.DocumentBuilderFactory;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamReader;

/** Defects of Java's libraries, each shown by a call without any kit: a line for each, its name and what the library does. */
public final class Gallery {
    interface Call {
        Object call() throws Exception;
    }

    private static void shown(String name, Call call) {
        String result;
        try {
            result = String.valueOf(call.call());
        } catch (Throwable error) {
            result = error.getClass().getName() + ": " + String.valueOf(error.getMessage()).split("\n")[0];
        }
        StringBuilder out = new StringBuilder();
        for (char c : result.toCharArray()) out.append(c < 32 || c > 126 ? String.format("\\u%04x", (int) c) : String.valueOf(c));
        System.out.println(name + "\t" + out);
    }

    private static org.w3c.dom.Document dom(String document) throws Exception {
        DocumentBuilderFactory factory = DocumentBuilderFactory.newDefaultInstance();
        factory.setNamespaceAware(true);
        DocumentBuilder builder = factory.newDocumentBuilder();
        builder.setErrorHandler(null);
        return builder.parse(new ByteArrayInputStream(document.getBytes(StandardCharsets.UTF_8)));
    }

    private static XMLStreamReader stream(XMLInputFactory factory, byte[] document) throws Exception {
        XMLStreamReader reader = factory.createXMLStreamReader(new ByteArrayInputStream(document));
        while (reader.next() != XMLStreamReader.START_ELEMENT) continue;
        return reader;
    }

    private static String transformed(String document) throws Exception {
        javax.xml.transform.Transformer transformer = javax.xml.transform.TransformerFactory.newDefaultInstance().newTransformer();
        transformer.setOutputProperty("omit-xml-declaration", "yes");
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        transformer.transform(new javax.xml.transform.dom.DOMSource(dom(document)), new javax.xml.transform.stream.StreamResult(out));
        return out.toString("UTF-8");
    }

    public static class Whole {
        public long value;
    }
    public static class Cast {
        public java.util.Date value;
    }
    @com.fasterxml.jackson.annotation.JsonTypeInfo(use = com.fasterxml.jackson.annotation.JsonTypeInfo.Id.NAME, property = "kind")
    @com.fasterxml.jackson.annotation.JsonSubTypes(@com.fasterxml.jackson.annotation.JsonSubTypes.Type(value = Bell.class, name = "bell"))
    public interface Thing { }
    public static class Bell implements Thing {
        public double hum;
    }
    public static class Measure {
        public double value;
    }

    /** The tokens of a document that arrives in pieces. */
    private static String tokens(String... pieces) throws Exception {
        com.fasterxml.jackson.core.JsonParser parser = new com.fasterxml.jackson.core.JsonFactory().createNonBlockingByteArrayParser();
        com.fasterxml.jackson.core.async.ByteArrayFeeder feeder = (com.fasterxml.jackson.core.async.ByteArrayFeeder) parser.getNonBlockingInputFeeder();
        StringBuilder out = new StringBuilder();
        for (int i = 0; i <= pieces.length; ++i) {
            if (i == pieces.length) feeder.endOfInput();
            else feeder.feedInput(pieces[i].getBytes(StandardCharsets.UTF_8), 0, pieces[i].length());
            com.fasterxml.jackson.core.JsonToken token = parser.nextToken();
            for (; token != null && token != com.fasterxml.jackson.core.JsonToken.NOT_AVAILABLE; token = parser.nextToken())
                out.append(token).append(' ');
        }
        return out.toString().trim();
    }

    /** At the root of the second document of a text, in Woodstox's mode for several documents. */
    static XMLStreamReader secondOf(byte[] text) throws Exception {
        XMLInputFactory factory = XMLInputFactory.newInstance();
        factory.setProperty(com.ctc.wstx.api.WstxInputProperties.P_INPUT_PARSING_MODE, com.ctc.wstx.api.WstxInputProperties.PARSING_MODE_DOCUMENTS);
        XMLStreamReader reader = factory.createXMLStreamReader(new java.io.ByteArrayInputStream(text));
        for (int documents = 0; documents < 1 || reader.getEventType() != javax.xml.stream.XMLStreamConstants.START_ELEMENT;)
            if (reader.next() == javax.xml.stream.XMLStreamConstants.START_DOCUMENT) ++documents;
        return reader;
    }

    public static void main(String[] words) {
        shown("jackson-pieces-no-value", () -> tokens("{\"a\":", "}"));
        shown("jackson-pieces-comma", () -> tokens("{\"a\":1,", "}"));
        shown("jackson-pieces-point", () -> tokens("7."));
        shown("jackson-long", () -> new com.fasterxml.jackson.databind.ObjectMapper()
                .readValue("{\"value\":9223372036854775806}", Whole.class).value);
        shown("jackson-tag-last", () -> ((Bell) new com.fasterxml.jackson.databind.ObjectMapper()
                .readValue("{\"hum\":-0.0,\"kind\":\"bell\"}", Thing.class)).hum);
        shown("jackson-date", () -> new com.fasterxml.jackson.databind.ObjectMapper()
                .readValue("{\"value\":\"1502-06-01T12:00:00Z\"}", Cast.class).value.toInstant());
        shown("gson-date", () -> new com.google.gson.Gson().fromJson("{\"value\":\"1502-06-01T12:00:00Z\"}", Cast.class).value.toInstant());
        shown("gson-date-tail", () -> new com.google.gson.Gson().fromJson("{\"value\":\"1953-04-07T05:30:00Z or so\"}", Cast.class).value.toInstant());
        shown("gson-date-written", () -> {
            Cast cast = new com.google.gson.Gson().fromJson("{\"value\":\"1953-04-07T05:30:00.123Z\"}", Cast.class);
            return new com.google.gson.Gson().fromJson(new com.google.gson.Gson().toJson(cast), Cast.class).value.toInstant();
        });
        shown("gson-past-long", () -> new com.google.gson.Gson().fromJson("{\"value\":9223372036854775808}", Whole.class).value);
        shown("gson-empty-number", () -> new com.google.gson.Gson().fromJson("{\"value\":\"\"}", Measure.class).value);
        shown("gson-escape", () -> new com.google.gson.Gson().fromJson("[\"\\u00G1\"]", Object.class));
        shown("jettison-escape", () -> new org.codehaus.jettison.json.JSONTokener("\"\\u00g1\"").nextValue());
        shown("json-simple-integer", () -> new org.json.simple.parser.JSONParser().parse("[9223372036854775808]"));
        shown("json-smart-number", () -> new net.minidev.json.parser.JSONParser(net.minidev.json.parser.JSONParser.MODE_RFC4627).parse("[1e+]"));
        shown("json-smart-bytes", () -> new net.minidev.json.parser.JSONParser(net.minidev.json.parser.JSONParser.MODE_PERMISSIVE)
                .parse("[\"\u00e9\\n\"]".getBytes(StandardCharsets.UTF_8)));
        shown("woodstox-overlong", () -> stream(XMLInputFactory.newInstance(), new byte[] {'<', 'a', '>', (byte) 0xC0, (byte) 0xAF, '<', '/', 'a', '>'}).getElementText());
        shown("woodstox-default", () -> stream(XMLInputFactory.newInstance(),
                "<!DOCTYPE a [<!ATTLIST a b CDATA '&#60;&lt;&#10;'>]><a/>".getBytes()).getAttributeValue(null, "b"));
        shown("woodstox-entity-kept", () -> secondOf("<!DOCTYPE a [<!ENTITY e \"x\">]><a>&e;</a><b>&e;</b>".getBytes()).getElementText());
        shown("woodstox-attribute-kept", () -> secondOf("<!DOCTYPE a [<!ATTLIST a d CDATA 'one'>]><a/><a/>".getBytes()).getAttributeValue(null, "d"));
        shown("woodstox-encoding-kept", () -> {
            java.io.ByteArrayOutputStream two = new java.io.ByteArrayOutputStream();
            two.write("<?xml version='1.0' encoding='ISO-8859-1'?><b>\u00e9</b>".getBytes("ISO-8859-1"));
            two.write("<?xml version='1.0' encoding='UTF-8'?><b>\u00e9</b>".getBytes("UTF-8"));
            return secondOf(two.toByteArray()).getElementText().length();
        });
        shown("java-transformer-prefix", () -> transformed("<a xmlnsp='1'/>"));
        shown("java-dom-parameter-entity", () -> dom("<!DOCTYPE a [<!ENTITY % p ']>'>%p;]><a/>").getDocumentElement().getTagName());
        shown("java-stax-default", () -> stream(XMLInputFactory.newDefaultFactory(), "<!DOCTYPE a [<!ATTLIST a b CDATA 'd'>]><a/>".getBytes()).getAttributeCount());
    }
}

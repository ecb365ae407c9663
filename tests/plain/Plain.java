import java.io.BufferedReader;
import java.io.ByteArrayInputStream;
import java.io.InputStreamReader;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;

/** Java's libraries without any kit: Plain LIBRARY, then file names on standard input; for each one a line, accepted or rejected. */
public final class Plain {
    interface Decoder {
        void decode(byte[] document) throws Exception;
    }

    private static String text(byte[] document) throws Exception {
        return StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(document)).toString();
    }

    private static org.xml.sax.InputSource nothing(String publicId, String systemId) {
        return new org.xml.sax.InputSource(new java.io.StringReader(""));
    }

    private static void dom(byte[] document) throws Exception {
        javax.xml.parsers.DocumentBuilderFactory factory = javax.xml.parsers.DocumentBuilderFactory.newDefaultInstance();
        factory.setNamespaceAware(true);
        javax.xml.parsers.DocumentBuilder builder = factory.newDocumentBuilder();
        builder.setErrorHandler(null);
        builder.setEntityResolver(Plain::nothing);
        builder.parse(new ByteArrayInputStream(document));
    }

    private static void stax(byte[] document, javax.xml.stream.XMLInputFactory factory) throws Exception {
        factory.setXMLResolver((publicId, systemId, base, namespace) -> new ByteArrayInputStream(new byte[0]));
        javax.xml.stream.XMLStreamReader reader = factory.createXMLStreamReader(new ByteArrayInputStream(document));
        while (reader.hasNext()) {
            reader.next();
            if (reader.hasText()) reader.getText();
        }
    }

    private static Decoder decoder(String name) {
        switch (name) {
            case "jackson": return d -> {
                if (new com.fasterxml.jackson.databind.ObjectMapper().readTree(d) instanceof com.fasterxml.jackson.databind.node.MissingNode)
                    throw new Exception("no content");
            };
            case "gson": return d -> com.google.gson.JsonParser.parseString(text(d));
            case "json-smart": return d -> new net.minidev.json.parser.JSONParser(net.minidev.json.parser.JSONParser.MODE_PERMISSIVE).parse(d);
            case "dom": return Plain::dom;
            case "stax": return d -> stax(d, javax.xml.stream.XMLInputFactory.newDefaultFactory());
            default: return d -> stax(d, javax.xml.stream.XMLInputFactory.newInstance());
        }
    }

    public static void main(String[] words) throws Exception {
        Decoder decoder = decoder(words[0]);
        BufferedReader names = new BufferedReader(new InputStreamReader(System.in, StandardCharsets.UTF_8));
        for (String name = names.readLine(); name != null; name = names.readLine()) {
            byte[] document = Files.readAllBytes(Path.of(name));
            String verdict = "accepted";
            try {
                decoder.decode(document);
            } catch (Exception | StackOverflowError error) {
                verdict = "rejected";
            }
            System.out.println(verdict);
        }
    }
}

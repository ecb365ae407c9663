import com.fasterxml.jackson.annotation.JsonSubTypes;
import com.fasterxml.jackson.annotation.JsonTypeInfo;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonLocation;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.core.async.ByteArrayFeeder;
import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.MappingIterator;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.MissingNode;
import com.fasterxml.jackson.databind.util.TokenBuffer;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Jackson's databind: its defaults, text after the document refused, exact decimals, duplicates refused, output paths. */
public final class Jackson extends NachklangAdapter {
    private final Map<String, ObjectMapper> mappers = new HashMap<>();

    private Jackson() {
        mappers.put("default", new ObjectMapper());
        mappers.put("whole-input", whole());
        mappers.put("decimal", (ObjectMapper) whole().enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
                .setNodeFactory(JsonNodeFactory.withExactBigDecimals(true)));
        mappers.put("unique", whole().enable(JsonParser.Feature.STRICT_DUPLICATE_DETECTION));
        mappers.put("records-strict", strict());
        mappers.put("ascii-indented", whole().enable(SerializationFeature.INDENT_OUTPUT)
                .configure(JsonGenerator.Feature.ESCAPE_NON_ASCII, true));
    }

    /** Coercions of scalars off, as far as the library has switches for them. */
    private static ObjectMapper strict() {
        return new ObjectMapper().enable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)
                .disable(DeserializationFeature.ACCEPT_FLOAT_AS_INT).disable(com.fasterxml.jackson.databind.MapperFeature.ALLOW_COERCION_OF_SCALARS);
    }

    private static ObjectMapper whole() {
        return new ObjectMapper().enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS);
    }

    @Override protected String implementation() {
        return "jackson " + com.fasterxml.jackson.databind.cfg.PackageVersion.VERSION;
    }

    @Override protected String hello() {
        return "json decode round-trip encode\ncannot-represent duplicates\nmode default\njson decode round-trip sequence open-stream\nmode whole-input\njson decode round-trip encode pieces\n"
                + "mode decimal\njson decode round-trip\nmode unique\njson decode round-trip\nmode ascii-indented\njson encode\n"
                + "mode records\njson bind bind-round-trip bind-encode\nmode records-strict\njson bind bind-round-trip bind-encode\nmode records-reused\njson bind\n";
    }

    private ObjectMapper mapper(String mode) {
        return mappers.getOrDefault(mode, mappers.get("default"));
    }

    private static Rejected refused(JsonProcessingException error) {
        JsonLocation at = error.getLocation();
        String place = at == null ? "" : (at.getByteOffset() >= 0 ? " offset=" + at.getByteOffset() : "")
                + " line=" + at.getLineNr() + " column=" + at.getColumnNr() + " unit=byte";
        return new Rejected(error.getOriginalMessage(), place);
    }

    @Override protected Object load(byte[] document, String mode) throws Exception {
        try {
            JsonNode node = mapper(mode).readTree(document);
            if (node instanceof MissingNode) throw new Rejected("a missing node: no content");
            return node;
        } catch (JsonProcessingException error) {
            throw refused(error);
        } catch (java.io.CharConversionException error) {
            throw new Rejected(error.getMessage());
        }
    }

    /** Through the parser that does not block; its tokens make a tree as a stream's do. */
    @Override protected Object loadPieces(List<byte[]> pieces, String mode) throws Exception {
        try (JsonParser parser = mapper(mode).getFactory().createNonBlockingByteArrayParser();
                TokenBuffer tokens = new TokenBuffer(parser)) {
            ByteArrayFeeder feeder = (ByteArrayFeeder) parser.getNonBlockingInputFeeder();
            int depth = 0, roots = 0;
            for (int i = 0; i <= pieces.size(); ++i) {
                if (i < pieces.size()) feeder.feedInput(pieces.get(i), 0, pieces.get(i).length);
                else feeder.endOfInput();
                for (JsonToken token = parser.nextToken(); token != null && token != JsonToken.NOT_AVAILABLE; token = parser.nextToken()) {
                    tokens.copyCurrentEvent(parser);
                    depth += token.isStructStart() ? 1 : token.isStructEnd() ? -1 : 0;
                    if (depth == 0 && token != JsonToken.FIELD_NAME && ++roots > 1) throw new Rejected("tokens after the document");
                }
            }
            if (roots == 0) throw new Rejected("a missing node: no content");
            return mapper(mode).readTree(tokens.asParser());
        } catch (JsonProcessingException error) {
            throw refused(error);
        } catch (java.io.CharConversionException error) {
            throw new Rejected(error.getMessage());
        }
    }

    @Override protected void loadSequence(byte[] text, String mode, Taker taker) throws Exception {
        // Of a parser readValues takes the documents; of bytes it would take the elements of a first array.
        loadAll(mapper(mode).getFactory().createParser(text), mode, taker);
    }

    @Override protected void loadOpenStream(java.io.InputStream stream, String mode, Taker taker) throws Exception {
        loadAll(mapper(mode).getFactory().createParser(stream), mode, taker);
    }

    private void loadAll(JsonParser ofAll, String mode, Taker taker) throws Exception {
        try (JsonParser parser = ofAll;
                MappingIterator<JsonNode> values = mapper(mode).readerFor(JsonNode.class).readValues(parser)) {
            while (values.hasNextValue()) taker.take(values.nextValue());
        } catch (JsonProcessingException error) {
            throw refused(error);
        } catch (java.io.CharConversionException error) {
            throw new Rejected(error.getMessage());
        }
    }

    /** A record of several kinds: a sum type. */
    @JsonTypeInfo(use = JsonTypeInfo.Id.NAME, property = "$type")
    @JsonSubTypes({@JsonSubTypes.Type(value = CastBell.class, name = "bell"), @JsonSubTypes.Type(value = Tower.class, name = "tower")})
    public interface BellOrTower extends OneKind { }
    public static class CastBell implements BellOrTower {
        public String name;
        public long weight_kg;
        public double hum_hz;
        @Override public String tagged() { return "bell"; }
    }
    public static class Tower implements BellOrTower {
        public String name;
        @Override public String tagged() { return "tower"; }
    }

    @Override protected Class<?> recordType(String name) {
        return name.equals("bell-or-tower") ? BellOrTower.class : super.recordType(name);
    }

    @Override protected Object bind(byte[] document, Class<?> type, String mode) throws Exception {
        try {
            if (mode.equals("records-reused") && type == BellOrTower.class) throw new Unsupported("a record changes no kind");
            if (!mode.equals("records-reused")) return mapper(mode).readValue(document, type);
            Object record = mapper(mode).readValue(Records.earlier(type), type);
            return mapper(mode).readerForUpdating(record).readValue(document);
        } catch (JsonProcessingException error) {
            throw refused(error);
        } catch (java.io.CharConversionException error) {
            throw new Rejected(error.getMessage());
        }
    }

    @Override protected Inside inside(Object value) {
        JsonNode node = (JsonNode) value;
        if (node.isArray()) return Inside.array(node.elements());
        return node.isObject() ? Inside.object(node.fieldNames(), node.elements()) : null;
    }

    @Override protected String scalar(Object value) {
        JsonNode node = (JsonNode) value;
        if (node.isNull()) return "null";
        if (node.isBoolean()) return node.asText();
        if (node.isTextual()) return "str " + field(node.textValue());
        if (node.isDouble()) return String.format("binary64 %016x", Double.doubleToRawLongBits(node.doubleValue()));
        if (node.isBigDecimal()) return "dec " + node.decimalValue().toString().replace("E+", "e").replace("E", "e");
        return "int " + node.bigIntegerValue();
    }

    @Override protected byte[] dumpBytes(Object value, String mode) throws Exception {
        return writeBytes(value, mode);
    }

    @Override protected byte[] writeBytes(Object value, String mode) throws Exception {
        try {
            return mapper(mode).writeValueAsBytes(value);
        } catch (JsonProcessingException error) {
            throw refused(error);
        }
    }

    public static void main(String[] words) throws Exception {
        new Jackson().serve();
    }
}

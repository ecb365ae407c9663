import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import javax.json.Json;
import javax.json.JsonException;
import javax.json.JsonNumber;
import javax.json.JsonReader;
import javax.json.JsonString;
import javax.json.JsonValue;
import javax.json.JsonWriter;

/** javax.json by its packaged implementation. */
public final class JavaxJson extends NachklangAdapter {
    @Override protected String implementation() {
        return "javax-json 1.1.2";
    }

    @Override protected String hello() {
        return "json decode round-trip\ncannot-represent duplicates\n";
    }

    @Override protected Object load(byte[] document, String mode) throws Exception {
        try (JsonReader reader = Json.createReader(new ByteArrayInputStream(document))) {
            return reader.readValue();
        } catch (JsonException error) { // JsonParsingException is one
            throw new Rejected(error.getMessage());
        }
    }

    @Override protected Inside inside(Object value) {
        JsonValue held = (JsonValue) value;
        if (held.getValueType() == JsonValue.ValueType.ARRAY) return Inside.array(held.asJsonArray().iterator());
        return held.getValueType() == JsonValue.ValueType.OBJECT ? Inside.map(held.asJsonObject()) : null;
    }

    @Override protected String scalar(Object value) {
        JsonValue held = (JsonValue) value;
        switch (held.getValueType()) {
            case STRING: return "str " + field(((JsonString) held).getString());
            case NUMBER: return "dec " + ((JsonNumber) held).bigDecimalValue().toString().replace("E+", "e").replace("E", "e");
            default: return held.toString();
        }
    }

    @Override protected byte[] dumpBytes(Object value, String mode) throws Exception {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try (JsonWriter writer = Json.createWriter(out)) {
            writer.write((JsonValue) value);
        } catch (JsonException error) {
            throw new Rejected(error.getMessage());
        }
        return out.toByteArray();
    }

    public static void main(String[] words) throws Exception {
        new JavaxJson().serve();
    }
}

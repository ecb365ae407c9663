import com.google.gson.Gson;
import com.google.gson.GsonBuilder;
import com.google.gson.JsonElement;
import com.google.gson.JsonParseException;
import com.google.gson.JsonParser;
import com.google.gson.JsonPrimitive;
import com.google.gson.JsonStreamParser;
import com.google.gson.TypeAdapter;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** Gson's trees: through JsonParser, which is always lenient, and through the strict adapter; and its plain objects. */
public final class GsonTree extends NachklangAdapter {
    private final TypeAdapter<JsonElement> strict = new Gson().getAdapter(JsonElement.class);
    private final Gson plain = new Gson(); // its writer leaves out members that are null
    private final Gson nulls = new GsonBuilder().serializeNulls().create();
    private final Gson unescaped = new GsonBuilder().serializeNulls().disableHtmlEscaping().setPrettyPrinting().create();

    @Override protected String implementation() {
        return "gson 2.10";
    }

    @Override protected String hello() {
        return "json decode round-trip encode\ncannot-represent duplicates\nsetting input=text\nsetting output=text\nmode parser\njson decode round-trip sequence open-stream\n"
                + "mode adapter\nmode objects\njson decode round-trip\nmode nulls\njson round-trip encode\n"
                + "mode nulls-unescaped-indented\njson encode\nmode records\njson bind bind-round-trip bind-encode\n";
    }

    @Override protected Object load(byte[] document, String mode) throws Exception {
        try {
            if (mode.equals("objects")) return plain.fromJson(text(document), Object.class);
            if (mode.equals("adapter")) return strict.fromJson(text(document));
            return JsonParser.parseString(text(document));
        } catch (JsonParseException | IOException error) {
            throw new Rejected(error.getMessage());
        }
    }

    @Override protected void loadSequence(byte[] text, String mode, Taker taker) throws Exception {
        loadAll(() -> new JsonStreamParser(text(text)), taker);
    }

    @Override protected void loadOpenStream(java.io.InputStream stream, String mode, Taker taker) throws Exception {
        loadAll(() -> new JsonStreamParser(new java.io.InputStreamReader(stream, java.nio.charset.StandardCharsets.UTF_8)), taker);
    }

    private static void loadAll(java.util.concurrent.Callable<JsonStreamParser> source, Taker taker) throws Exception {
        try {
            JsonStreamParser parser = source.call();
            while (parser.hasNext()) taker.take(parser.next());
        } catch (JsonParseException | java.util.NoSuchElementException error) { // both documented
            throw new Rejected(error.getMessage());
        }
    }

    @Override protected Class<?> recordType(String name) {
        return name.equals("one-bytes") ? null : super.recordType(name); // arrays of bytes are arrays of numbers
    }

    @Override protected Object bind(byte[] document, Class<?> type, String mode) throws Exception {
        try {
            return plain.fromJson(text(document), type);
        } catch (JsonParseException error) {
            throw new Rejected(error.getMessage());
        }
    }

    @Override protected Inside inside(Object value) {
        if (value instanceof List) return Inside.array(((List<?>) value).iterator());
        if (value instanceof Map) return Inside.map((Map<?, ?>) value);
        if (!(value instanceof JsonElement)) return null;
        JsonElement element = (JsonElement) value;
        if (element.isJsonArray()) return Inside.array(element.getAsJsonArray().iterator());
        if (!element.isJsonObject()) return null;
        List<Object> names = new ArrayList<>(), values = new ArrayList<>();
        element.getAsJsonObject().entrySet().forEach(member -> {
            names.add(member.getKey());
            values.add(member.getValue());
        });
        return Inside.object(names.iterator(), values.iterator());
    }

    @Override protected String scalar(Object value) {
        JsonElement element = (JsonElement) value;
        if (element.isJsonNull()) return "null";
        JsonPrimitive primitive = element.getAsJsonPrimitive();
        if (primitive.isBoolean()) return primitive.getAsString();
        if (primitive.isString()) return "str " + field(primitive.getAsString());
        return spelled(primitive.getAsString());
    }

    private Gson writer(String mode) {
        return mode.equals("nulls") ? nulls : mode.equals("nulls-unescaped-indented") ? unescaped : plain;
    }

    @Override protected String dump(Object value, String mode) throws Exception {
        try {
            return written(value, mode);
        } catch (IllegalArgumentException error) { // documented for NaN and the infinities
            throw new Rejected(error.getMessage());
        }
    }

    private String written(Object value, String mode) {
        return value instanceof JsonElement ? writer(mode).toJson((JsonElement) value) : writer(mode).toJson(value);
    }

    @Override protected String write(Object value, String mode) throws Exception {
        try {
            return writer(mode).toJson(value);
        } catch (IllegalArgumentException error) { // documented for NaN and the infinities
            throw new Rejected(error.getMessage());
        }
    }

    public static void main(String[] words) throws Exception {
        new GsonTree().serve();
    }
}

import java.util.List;
import java.util.Map;
import org.json.simple.JSONValue;
import org.json.simple.parser.JSONParser;
import org.json.simple.parser.ParseException;

/** json-simple. */
public final class JsonSimple extends NachklangAdapter {
    @Override protected String implementation() {
        return "json-simple 2.3.0";
    }

    @Override protected String hello() {
        return "json decode round-trip encode\ncannot-represent duplicates order\nsetting input=text\nsetting output=text\n";
    }

    @Override protected Object load(byte[] document, String mode) throws Exception {
        try {
            return new JSONParser().parse(text(document));
        } catch (ParseException error) {
            throw new Rejected(error.toString(), " offset=" + error.getPosition() + " unit=utf16");
        }
    }

    @Override protected Inside inside(Object value) {
        if (value instanceof List) return Inside.array(((List<?>) value).iterator());
        return value instanceof Map ? Inside.map((Map<?, ?>) value) : null;
    }

    @Override protected String dump(Object value, String mode) {
        return JSONValue.toJSONString(value);
    }

    @Override protected String write(Object value, String mode) {
        return JSONValue.toJSONString(value);
    }

    public static void main(String[] words) throws Exception {
        new JsonSimple().serve();
    }
}

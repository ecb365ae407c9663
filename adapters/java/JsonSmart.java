import java.util.List;
import java.util.Map;
import net.minidev.json.JSONStyle;
import net.minidev.json.JSONValue;
import net.minidev.json.parser.JSONParser;
import net.minidev.json.parser.ParseException;

/** json-smart: permissive as it is by default, and in its two stricter modes. */
public final class JsonSmart extends NachklangAdapter {
    @Override protected String implementation() {
        return "json-smart 2.2";
    }

    @Override protected String hello() {
        return "json decode round-trip encode\ncannot-represent duplicates order\nsetting output=text\nmode permissive\nmode rfc4627\nmode strictest\n";
    }

    @Override protected Object load(byte[] document, String mode) throws Exception {
        int flags = mode.equals("rfc4627") ? JSONParser.MODE_RFC4627
                : mode.equals("strictest") ? JSONParser.MODE_STRICTEST : JSONParser.MODE_PERMISSIVE;
        try {
            return new JSONParser(flags).parse(document);
        } catch (ParseException error) {
            throw new Rejected(error.getMessage(), error.getPosition() < 0 ? "" : " offset=" + error.getPosition());
        }
    }

    @Override protected Inside inside(Object value) {
        if (value instanceof List) return Inside.array(((List<?>) value).iterator());
        return value instanceof Map ? Inside.map((Map<?, ?>) value) : null;
    }

    private static JSONStyle style(String mode) {
        return mode.equals("permissive") ? JSONStyle.NO_COMPRESS : new JSONStyle(JSONStyle.FLAG_PROTECT_4WEB);
    }

    @Override protected String dump(Object value, String mode) {
        return JSONValue.toJSONString(value, style(mode));
    }

    @Override protected String write(Object value, String mode) {
        return JSONValue.toJSONString(value, style(mode));
    }

    public static void main(String[] words) throws Exception {
        new JsonSmart().serve();
    }
}

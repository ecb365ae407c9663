import org.codehaus.jettison.json.JSONArray;
import org.codehaus.jettison.json.JSONException;
import org.codehaus.jettison.json.JSONObject;
import org.codehaus.jettison.json.JSONTokener;

/** Jettison's JSONTokener.nextValue. */
public final class Jettison extends NachklangAdapter {
    @Override protected String implementation() {
        return "jettison 1.5.3";
    }

    @Override protected String hello() {
        return "json decode round-trip\nsetting input=text\nsetting output=text\n";
    }

    @Override protected Object load(byte[] document, String mode) throws Exception {
        try {
            return held(new JSONTokener(text(document)).nextValue());
        } catch (JSONException error) {
            throw new Rejected(error.getMessage());
        }
    }

    private static Object held(Object value) {
        return value == JSONObject.NULL || value == JSONObject.EXPLICIT_NULL ? null : value;
    }

    @Override protected Inside inside(Object value) {
        if (value instanceof JSONArray) {
            JSONArray array = (JSONArray) value;
            return Inside.indexed(array.length(), i -> held(array.opt(i)));
        }
        if (!(value instanceof JSONObject)) return null;
        JSONObject object = (JSONObject) value;
        return Inside.keyed(object.keys(), name -> held(object.opt(name)));
    }

    @Override protected String dump(Object value, String mode) throws Exception {
        if (value instanceof JSONObject || value instanceof JSONArray) return value.toString();
        throw new Unsupported("a scalar has no writer of its own");
    }

    public static void main(String[] words) throws Exception {
        new Jettison().serve();
    }
}

import java.util.List;
import org.json.JSONArray;
import org.json.JSONException;
import org.json.JSONObject;
import org.json.JSONTokener;

/** org.json in the rewrite that is packaged: JSONTokener.nextValue, which leaves what follows the document. */
public final class AndroidJson extends NachklangAdapter {
    @Override protected String implementation() {
        return "org-json-rewrite 10.0.0";
    }

    @Override protected String hello() {
        return "json decode round-trip encode\ncannot-represent duplicates\nsetting input=text\nsetting output=text\n";
    }

    @Override protected Object load(byte[] document, String mode) throws Exception {
        try {
            Object value = new JSONTokener(text(document)).nextValue();
            return value == JSONObject.NULL ? null : value;
        } catch (JSONException error) {
            throw new Rejected(error.getMessage());
        }
    }

    private static Object held(Object value) {
        return value == JSONObject.NULL ? null : value;
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
        // A scalar has no writer of its own: it is written as the only element of an array.
        return scalarText(value);
    }

    private static String scalarText(Object value) throws Exception {
        // put keeps a number that the constructor would turn into text (JSONObject.wrap).
        String array = new JSONArray().put(value == null ? JSONObject.NULL : value).toString();
        if (array == null) throw new Rejected("toString returned null");
        return array.substring(1, array.length() - 1);
    }

    @Override protected String write(Object value, String mode) throws Exception {
        try {
            Object wrapped = value instanceof java.util.Map || value instanceof List ? JSONObject.wrap(value) : value;
            if (wrapped == null && value != null) throw new Rejected("JSONObject.wrap returned null");
            String text = wrapped instanceof JSONObject || wrapped instanceof JSONArray ? wrapped.toString() : scalarText(wrapped);
            if (text == null) throw new Rejected("toString returned null");
            return text;
        } catch (JSONException error) {
            throw new Rejected(error.getMessage());
        }
    }

    public static void main(String[] words) throws Exception {
        new AndroidJson().serve();
    }
}

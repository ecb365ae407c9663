import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
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
        return "json decode lap\nsetting input=text\n";
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
            List<Object> values = new ArrayList<>();
            for (int i = 0; i < ((JSONArray) value).length(); ++i) values.add(held(((JSONArray) value).opt(i)));
            return Inside.array(values.iterator());
        }
        if (!(value instanceof JSONObject)) return null;
        List<Object> names = new ArrayList<>(), values = new ArrayList<>();
        for (Iterator<?> i = ((JSONObject) value).keys(); i.hasNext();) {
            names.add(i.next());
            values.add(held(((JSONObject) value).opt((String) names.get(names.size() - 1))));
        }
        return Inside.object(names.iterator(), values.iterator());
    }

    @Override protected String dump(Object value, String mode) throws Exception {
        if (value instanceof JSONObject || value instanceof JSONArray) return value.toString();
        throw new Unsupported("a scalar has no writer of its own");
    }

    public static void main(String[] words) throws Exception {
        new Jettison().serve();
    }
}

// Simple XML: its Persister.
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.util.List;
import org.simpleframework.xml.Attribute;
import org.simpleframework.xml.Element;
import org.simpleframework.xml.ElementList;
import org.simpleframework.xml.Root;
import org.simpleframework.xml.core.Persister;

public final class SimpleXml extends XmlRecordAdapter {
    /** The record types of docs/records-of-fields.md, with this library's annotations. */
    public static final class Records {
        @Root(name = "record") public static class OneInt32 { @Element public int value; }
        @Root(name = "record") public static class OneInt64 { @Element public long value; }
        @Root(name = "record") public static class OneBinary64 { @Element public double value; }
        @Root(name = "record") public static class OneBoolean { @Element public boolean value; }
        @Root(name = "record") public static class OneText { @Element public String value; }
        @Root(name = "record") public static class OneList { @ElementList(inline = true, entry = "value", required = false) public List<Integer> value; }
        @Root(name = "record") public static class OneRecord { @Element public OneInt32 value; }
        @Root(name = "record") public static class OneAttribute { @Attribute public int value; }
        @Root(name = "record") public static class OneAttributeText { @Attribute public String value; }
        @Root(name = "bell") public static class Bell {
            @Element public String name;
            @Element public int weight_kg;
            @Element public double hum_hz;
            @Element(required = false) public String note;
        }
    }

    @Override protected String implementation() {
        return "simple-xml 2.7.1";
    }

    /** Its calls declare Exception for what a document has wrong, and throw many kinds. */
    private static Rejected refused(Exception error) {
        return new Rejected(error.getClass().getSimpleName() + ": " + error.getMessage());
    }

    @Override protected Object bind(byte[] document, Class<?> type, String mode) throws Rejected {
        try {
            return new Persister().read(type, new ByteArrayInputStream(document));
        } catch (Exception error) {
            throw refused(error);
        }
    }

    @Override protected byte[] writeBytes(Object value, String mode) throws Rejected {
        try {
            ByteArrayOutputStream written = new ByteArrayOutputStream();
            new Persister().write(value, written);
            return written.toByteArray();
        } catch (Exception error) {
            throw refused(error);
        }
    }

    public static void main(String[] words) throws Exception {
        new SimpleXml().serve();
    }
}

// Jackson's data binding for XML, on Woodstox.
import com.fasterxml.jackson.core.JsonLocation;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.dataformat.xml.XmlMapper;
import com.fasterxml.jackson.dataformat.xml.annotation.JacksonXmlElementWrapper;
import com.fasterxml.jackson.dataformat.xml.annotation.JacksonXmlProperty;
import com.fasterxml.jackson.dataformat.xml.annotation.JacksonXmlRootElement;
import java.util.List;
import java.util.Map;

public final class JacksonXml extends NachklangAdapter {
    /** The record types of docs/records-of-fields.md, with this library's annotations. */
    public static final class Records {
        @JacksonXmlRootElement(localName = "record") public static class OneInt32 { public int value; }
        @JacksonXmlRootElement(localName = "record") public static class OneInt64 { public long value; }
        @JacksonXmlRootElement(localName = "record") public static class OneBinary64 { public double value; }
        @JacksonXmlRootElement(localName = "record") public static class OneBoolean { public boolean value; }
        @JacksonXmlRootElement(localName = "record") public static class OneText { public String value; }
        @JacksonXmlRootElement(localName = "record") public static class OneList { @JacksonXmlElementWrapper(useWrapping = false) public List<Integer> value; }
        @JacksonXmlRootElement(localName = "record") public static class OneRecord { public OneInt32 value; }
        @JacksonXmlRootElement(localName = "record") public static class OneAttribute { @JacksonXmlProperty(isAttribute = true) public int value; }
        @JacksonXmlRootElement(localName = "record") public static class OneAttributeText { @JacksonXmlProperty(isAttribute = true) public String value; }
        @JacksonXmlRootElement(localName = "bell") public static class Bell {
            public String name;
            public int weight_kg;
            public double hum_hz;
            public String note;
        }
    }
    private static final Map<String, Class<?>> TYPES = Map.of("one-int32", Records.OneInt32.class, "one-int64", Records.OneInt64.class,
            "one-binary64", Records.OneBinary64.class, "one-boolean", Records.OneBoolean.class, "one-text", Records.OneText.class,
            "one-list", Records.OneList.class, "one-record", Records.OneRecord.class, "one-attribute", Records.OneAttribute.class,
            "one-attribute-text", Records.OneAttributeText.class, "bell", Records.Bell.class);

    @Override protected Class<?> recordType(String name) {
        return TYPES.get(name);
    }

    @Override protected String format() {
        return "xml";
    }

    @Override protected Object load(byte[] document, String mode) throws Unsupported {
        throw new Unsupported("records only");
    }

    @Override protected Inside inside(Object value) {
        return null;
    }

    private final XmlMapper mapper = new XmlMapper();

    @Override protected String implementation() {
        return "jackson-xml " + com.fasterxml.jackson.dataformat.xml.PackageVersion.VERSION;
    }

    @Override protected String hello() {
        return "xml bind bind-round-trip bind-encode\n";
    }

    private static Rejected refused(JsonProcessingException error) {
        JsonLocation at = error.getLocation();
        boolean known = at != null && at.getLineNr() > 0 && at.getColumnNr() > 0;
        return new Rejected(error.getOriginalMessage(), known ? " line=" + at.getLineNr() + " column=" + at.getColumnNr() : "");
    }

    @Override protected Object bind(byte[] document, Class<?> type, String mode) throws Exception {
        try {
            return mapper.readValue(document, type);
        } catch (JsonProcessingException error) {
            throw refused(error);
        }
    }

    @Override protected byte[] writeBytes(Object value, String mode) throws Exception {
        try {
            return mapper.writeValueAsBytes(value);
        } catch (JsonProcessingException error) {
            throw refused(error);
        }
    }

    public static void main(String[] words) throws Exception {
        new JacksonXml().serve();
    }
}

// Jackson's data binding for XML, on Woodstox.
import com.fasterxml.jackson.core.JsonLocation;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.dataformat.xml.XmlMapper;
import com.fasterxml.jackson.dataformat.xml.annotation.JacksonXmlElementWrapper;
import com.fasterxml.jackson.dataformat.xml.annotation.JacksonXmlProperty;
import com.fasterxml.jackson.dataformat.xml.annotation.JacksonXmlRootElement;
import java.util.List;

public final class JacksonXml extends XmlRecordAdapter {
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

    private final XmlMapper mapper = new XmlMapper();

    @Override protected String implementation() {
        return "jackson-xml " + com.fasterxml.jackson.dataformat.xml.PackageVersion.VERSION;
    }

    @Override protected String hello() {
        return super.hello() + "mode records\nmode records-reused\nxml bind\n";
    }

    /** What a record holds before it is decoded into once more. */
    private static String earlier(Class<?> type) {
        String value = type == Records.OneBinary64.class ? "41.5" : type == Records.OneBoolean.class ? "true" : type == Records.OneText.class
                ? "earlier" : type == Records.OneRecord.class ? "<value>41</value>" : "41";
        if (type == Records.Bell.class) return "<bell><name>Clara</name><weight_kg>41</weight_kg><hum_hz>41.5</hum_hz><note>earlier</note></bell>";
        if (type == Records.OneAttribute.class) return "<record value=\"41\"/>";
        if (type == Records.OneAttributeText.class) return "<record value=\"earlier\"/>";
        return "<record><value>" + value + "</value></record>";
    }

    private static Rejected refused(JsonProcessingException error) {
        JsonLocation at = error.getLocation();
        boolean known = at != null && at.getLineNr() > 0 && at.getColumnNr() > 0;
        return new Rejected(error.getOriginalMessage(), known ? " line=" + at.getLineNr() + " column=" + at.getColumnNr() : "");
    }

    @Override protected Object bind(byte[] document, Class<?> type, String mode) throws Exception {
        try {
            if (!mode.equals("records-reused")) return mapper.readValue(document, type);
            return mapper.readerForUpdating(mapper.readValue(earlier(type), type)).readValue(document);
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

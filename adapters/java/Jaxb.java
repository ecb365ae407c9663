// The reference implementation of Jakarta XML Binding 2.3, with its default handling of events.
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.util.List;
import javax.xml.bind.JAXBContext;
import javax.xml.bind.JAXBException;
import javax.xml.bind.annotation.XmlAccessType;
import javax.xml.bind.annotation.XmlAccessorType;
import javax.xml.bind.annotation.XmlAttribute;
import javax.xml.bind.annotation.XmlElement;
import javax.xml.bind.annotation.XmlRootElement;
import org.xml.sax.SAXParseException;

public final class Jaxb extends XmlRecordAdapter {
    /** The record types of docs/records-of-fields.md, with this library's annotations. */
    public static final class Records {
        @XmlRootElement(name = "record") @XmlAccessorType(XmlAccessType.FIELD) public static class OneInt32 { @XmlElement(required = true) public int value; }
        @XmlRootElement(name = "record") @XmlAccessorType(XmlAccessType.FIELD) public static class OneInt64 { @XmlElement(required = true) public long value; }
        @XmlRootElement(name = "record") @XmlAccessorType(XmlAccessType.FIELD) public static class OneBinary64 { @XmlElement(required = true) public double value; }
        @XmlRootElement(name = "record") @XmlAccessorType(XmlAccessType.FIELD) public static class OneBoolean { @XmlElement(required = true) public boolean value; }
        @XmlRootElement(name = "record") @XmlAccessorType(XmlAccessType.FIELD) public static class OneText { @XmlElement(required = true) public String value; }
        @XmlRootElement(name = "record") @XmlAccessorType(XmlAccessType.FIELD) public static class OneList { public List<Integer> value; }
        /** No root: two types of one root element cannot be in one context. */
        @XmlAccessorType(XmlAccessType.FIELD) public static class Inner { @XmlElement(required = true) public int value; }
        @XmlRootElement(name = "record") @XmlAccessorType(XmlAccessType.FIELD) public static class OneRecord { @XmlElement(required = true) public Inner value; }
        @XmlRootElement(name = "record") @XmlAccessorType(XmlAccessType.FIELD) public static class OneAttribute { @XmlAttribute(required = true) public int value; }
        @XmlRootElement(name = "record") @XmlAccessorType(XmlAccessType.FIELD) public static class OneAttributeText { @XmlAttribute(required = true) public String value; }
        @XmlRootElement(name = "bell") @XmlAccessorType(XmlAccessType.FIELD) public static class Bell {
            @XmlElement(required = true) public String name;
            @XmlElement(required = true) public int weight_kg;
            @XmlElement(required = true) public double hum_hz;
            public String note;
        }
    }

    @Override protected String implementation() {
        return "jaxb 2.3.0.1";
    }

    private static Rejected refused(JAXBException error) {
        Throwable cause = error.getLinkedException();
        String message = error.getMessage() != null ? error.getMessage() : String.valueOf(cause);
        if (!(cause instanceof SAXParseException)) return new Rejected(message);
        SAXParseException at = (SAXParseException) cause;
        return new Rejected(message, at.getLineNumber() > 0 ? " line=" + at.getLineNumber() + " column=" + Math.max(1, at.getColumnNumber()) + " unit=utf16" : "");
    }

    @Override protected Object bind(byte[] document, Class<?> type, String mode) throws Exception {
        try {
            return JAXBContext.newInstance(type).createUnmarshaller().unmarshal(new ByteArrayInputStream(document));
        } catch (JAXBException error) {
            throw refused(error);
        }
    }

    @Override protected byte[] writeBytes(Object value, String mode) throws Exception {
        try {
            ByteArrayOutputStream written = new ByteArrayOutputStream();
            JAXBContext.newInstance(value.getClass()).createMarshaller().marshal(value, written);
            return written.toByteArray();
        } catch (JAXBException error) {
            throw refused(error);
        }
    }

    public static void main(String[] words) throws Exception {
        new Jaxb().serve();
    }
}

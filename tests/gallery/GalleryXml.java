import java.io.StringReader;
import java.io.StringWriter;
import javax.xml.bind.JAXBContext;
import javax.xml.bind.annotation.XmlAttribute;
import javax.xml.bind.annotation.XmlRootElement;
import org.simpleframework.xml.Attribute;
import org.simpleframework.xml.Element;
import org.simpleframework.xml.Root;
import org.simpleframework.xml.core.Persister;

/** Defects of Java's libraries that decode XML into records, as Gallery.java shows those of others. */
public final class GalleryXml {
    interface Call {
        Object call() throws Exception;
    }

    private static void shown(String name, Call call) {
        String result;
        try {
            result = String.valueOf(call.call());
        } catch (Throwable error) {
            result = error.getClass().getName() + ": " + String.valueOf(error.getMessage()).split("\n")[0];
        }
        System.out.println(name + "\t" + result.replace("\n", "\\n"));
    }

    @XmlRootElement(name = "record") public static class Whole { public int value; }
    @XmlRootElement(name = "record") public static class Mark { @XmlAttribute public int value; }
    @XmlRootElement(name = "record") public static class Inscription { @XmlAttribute public String value; }
    @Root(name = "record") public static class Truth { @Element public boolean value; }
    @Root(name = "record") public static class Label { @Attribute public String value; }

    private static Object unmarshalled(Class<?> type, String document) throws Exception {
        return JAXBContext.newInstance(type).createUnmarshaller().unmarshal(new StringReader(document));
    }

    /** What is written of a record with this text, from the root's name on. */
    private static String marshalled(String text) throws Exception {
        Inscription record = new Inscription();
        record.value = text;
        java.io.ByteArrayOutputStream written = new java.io.ByteArrayOutputStream();
        JAXBContext.newInstance(Inscription.class).createMarshaller().marshal(record, written);
        String document = written.toString("UTF-8");
        return document.substring(document.indexOf("<record"));
    }

    public static void main(String[] words) {
        shown("jaxb-past-int", () -> ((Whole) unmarshalled(Whole.class, "<record><value>2147483648</value></record>")).value);
        shown("jaxb-word", () -> ((Whole) unmarshalled(Whole.class, "<record><value>seven</value></record>")).value);
        shown("jaxb-two-numbers", () -> ((Whole) unmarshalled(Whole.class, "<record><value>7 8</value></record>")).value);
        shown("jaxb-date", () -> ((Whole) unmarshalled(Whole.class, "<record><value>1502-06-01</value></record>")).value);
        shown("jaxb-attribute", () -> ((Mark) unmarshalled(Mark.class, "<record value='seven'/>")).value);
        shown("jaxb-attribute-tab", () -> marshalled("a\tb").replace("\t", "\\t"));
        shown("jaxb-surrogate", () -> marshalled("a\ud83db").codePoints().anyMatch(c -> c == 0x1F462) ? "a and U+1F462" : "no such character");
        shown("simple-xml-boolean", () -> new Persister().read(Truth.class, "<record><value>seven</value></record>").value);
        shown("simple-xml-attribute", () -> {
            StringWriter written = new StringWriter();
            new Persister().write(new Persister().read(Label.class, "<record value='a&#10;b'/>"), written);
            return written;
        });
    }
}

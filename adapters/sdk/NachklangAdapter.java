import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.DataInputStream;
import java.io.FileDescriptor;
import java.io.FileOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.PrintStream;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.nio.ByteBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Arrays;
import java.util.Map;
import java.util.function.Function;
import java.util.function.IntFunction;
import java.util.stream.IntStream;

/**
 * The adapter kit for Java: derive from it, describe the implementation, call serve(). docs/protocol.md describes what goes over the
 * pipes. Throw Rejected for the failure that the library documents. Any other exception is {@code threw} if it was raised inside the
 * library, and {@code adapter-fault} if it was raised in the adapter: the innermost frame of its stack trace decides that is neither
 * the runtime's (java.lang, java.util …) nor absent.
 */
public abstract class NachklangAdapter {
    /** The failure that the implementation documents. */
    public static class Rejected extends Exception {
        final String place;

        public Rejected(String message) {
            this(message, "");
        }

        /** The place as the reply tells it, such as " offset=3 unit=byte". */
        public Rejected(String message, String place) {
            super(message == null ? "no message" : message);
            this.place = place;
        }
    }

    /** Cannot be asked of this implementation. */
    public static class Unsupported extends Exception {
        public Unsupported(String why) {
            super(why);
        }
    }

    /** Errors that the library reports of a document that it accepts; cleared before each request. */
    protected final List<String> reports = new ArrayList<>();

    /** What a container holds, in its order: names are there where it is an object. */
    public static final class Inside {
        final boolean isObject;
        final Iterator<?> names;
        final Iterator<?> values;

        private Inside(boolean isObject, Iterator<?> names, Iterator<?> values) {
            this.isObject = isObject;
            this.names = names;
            this.values = values;
        }

        public static Inside array(Iterator<?> values) {
            return new Inside(false, null, values);
        }

        public static Inside object(Iterator<?> names, Iterator<?> values) {
            return new Inside(true, names, values);
        }

        /** Of an array that is read by index. */
        public static Inside indexed(int count, IntFunction<Object> value) {
            return array(IntStream.range(0, count).mapToObj(value).iterator());
        }

        /** Of an object that is read by name. */
        public static Inside keyed(Iterator<?> names, Function<String, Object> value) {
            List<String> all = new ArrayList<>();
            names.forEachRemaining(name -> all.add((String) name));
            return object(all.iterator(), all.stream().map(value).iterator());
        }

        public static Inside map(Map<?, ?> map) {
            return object(map.keySet().iterator(), map.values().iterator());
        }
    }

    /** "tower-json 3.2". */
    protected abstract String implementation();

    /** The format of the documents. */
    protected String format() {
        return "json";
    }

    /** Lines of the hello after the implementation, each with its line end. */
    protected abstract String hello();

    protected abstract Object load(byte[] document, String mode) throws Exception;

    /** What a container holds; null for a scalar. */
    protected abstract Inside inside(Object value);

    /** A scalar that is none of Java's own. */
    protected String scalar(Object value) {
        return "native " + value.getClass().getSimpleName() + " " + field(value.toString());
    }

    /** The record types of docs/records-of-fields.md, as an application declares them. */
    public static final class Records {
        public static class OneInt32 { public int value; }
        public static class OneInt64 { public long value; }
        public static class OneBinary64 { public double value; }
        public static class OneBoolean { public boolean value; }
        public static class OneText { public String value; }
        public static class OneList { public List<Integer> value; }
        public static class OneRecord { public OneInt32 value; }
        public static class OneInstant { public java.util.Date value; }
        public static class OneBytes { public byte[] value; }
        public static class OneMap { public Map<Integer, Integer> value; }
        public static class Bell {
            public String name;
            public int weight_kg;
            public double hum_hz;
            public String note;
        }

        static final Map<String, Class<?>> TYPES = Map.ofEntries(Map.entry("one-int32", OneInt32.class), Map.entry("one-int64", OneInt64.class),
                Map.entry("one-binary64", OneBinary64.class), Map.entry("one-boolean", OneBoolean.class), Map.entry("one-text", OneText.class),
                Map.entry("one-list", OneList.class), Map.entry("one-record", OneRecord.class), Map.entry("one-instant", OneInstant.class),
                Map.entry("one-bytes", OneBytes.class), Map.entry("one-map", OneMap.class), Map.entry("bell", Bell.class));

        /** What a record holds before it is decoded into once more. */
        static byte[] earlier(Class<?> type) {
            String text = type == OneBinary64.class ? "{\"value\":41.5}" : type == OneBoolean.class ? "{\"value\":true}"
                    : type == OneText.class ? "{\"value\":\"earlier\"}" : type == OneList.class ? "{\"value\":[41]}"
                    : type == OneRecord.class ? "{\"value\":{\"value\":41}}" : type == OneBytes.class ? "{\"value\":\"KQ==\"}"
                    : type == OneMap.class ? "{\"value\":{\"41\":41}}"
                    : type == OneInstant.class ? "{\"value\":\"1902-06-01T12:00:00Z\"}"
                    : type == Bell.class ? "{\"name\":\"Clara\",\"weight_kg\":41,\"hum_hz\":41.5,\"note\":\"earlier\"}" : "{\"value\":41}";
            return text.getBytes(StandardCharsets.US_ASCII);
        }
    }

    /** The type of that name; null if there is none. One whose library needs annotations has types of its own, nested in another class. */
    protected Class<?> recordType(String name) {
        return Records.TYPES.get(name);
    }

    /** Decodes into a record of the type; null if the library gives none. */
    protected Object bind(byte[] document, Class<?> type, String mode) throws Exception {
        throw new Unsupported("records are not offered");
    }

    /** A record of several kinds, which a member of the document tells apart. */
    public interface OneKind {
        /** What that member says of this kind. */
        String tagged();
    }

    private void printRecord(Object value, StringBuilder out) throws IllegalAccessException {
        if (value instanceof java.util.Date) {
            String text = ((java.util.Date) value).toInstant().toString().replaceFirst("^\\+", "");
            out.append("native instant ").append(field(text.contains(".") ? text.replaceFirst("0+Z$", "Z") : text)).append('\n');
        } else if (value instanceof byte[]) {
            out.append("native bytes u8:");
            for (byte octet : (byte[]) value) out.append(HEX[octet >> 4 & 15]).append(HEX[octet & 15]);
            out.append('\n');
        } else if (value instanceof Map) {
            out.append("{\n");
            for (Map.Entry<?, ?> member : ((Map<?, ?>) value).entrySet()) {
                out.append("key ").append(line(member.getKey())).append('\n');
                printRecord(member.getValue(), out);
            }
            out.append("}\n");
        } else if (value instanceof List) {
            out.append("[\n");
            for (Object element : (List<?>) value) printRecord(element, out);
            out.append("]\n");
        } else if (value != null && value.getClass().getEnclosingClass() != null) {
            out.append("{\n");
            if (value instanceof OneKind)
                out.append("key ").append(field("$type")).append("\nstr ").append(field(((OneKind) value).tagged())).append('\n');
            for (java.lang.reflect.Field member : value.getClass().getDeclaredFields()) {
                out.append("key ").append(field(member.getName())).append('\n');
                printRecord(member.get(value), out);
            }
            out.append("}\n");
        } else {
            out.append(line(value)).append('\n');
        }
    }

    protected String dump(Object value, String mode) throws Exception {
        throw new Unsupported("round trips are not offered");
    }

    /** Like dump, for a library that writes bytes. */
    protected byte[] dumpBytes(Object value, String mode) throws Exception {
        return encoded(dump(value, mode));
    }

    /** Encodes maps, lists and Java's own scalars. */
    protected String write(Object value, String mode) throws Exception {
        throw new Unsupported("it does not encode here");
    }

    /** Like write, for a library that writes bytes. */
    protected byte[] writeBytes(Object value, String mode) throws Exception {
        return encoded(write(value, mode));
    }

    /** Encodes a document of XML that build() hands on piece by piece. */
    protected byte[] writeMarkup(String trace, String mode) throws Exception {
        throw new Unsupported("it does not encode here");
    }

    /** Takes a document of XML to be written. Attributes and declarations come after their element, before its content. */
    public interface MarkupBuilder {
        void element(String qname, String local, String uri) throws Exception;
        void attribute(String qname, String local, String uri, String value) throws Exception;
        void declaration(String prefix, String uri) throws Exception;
        void end() throws Exception;
        void text(String text) throws Exception;
        void cdata(String text) throws Exception;
        void comment(String text) throws Exception;
        void instruction(String target, String data) throws Exception;
    }

    /** Hands on a document in trace notation. Where declarations are left to the library's user (not {@code declares}), a value without them is unsupported. */
    protected static void build(String trace, boolean declares, MarkupBuilder builder) throws Exception {
        List<String[]> pieces = new ArrayList<>();
        boolean inNamespaces = false, declared = false;
        for (String line : trace.split("\n")) {
            String[] words = line.split(" ");
            for (int i = 1; i < words.length; ++i) words[i] = words[i].indexOf(':') < 0 ? words[i].equals("-") ? null : words[i] : textOf(words[i]);
            boolean named = words[0].equals("elem") || words[0].equals("attr");
            inNamespaces |= named && words[3] != null && !words[3].isEmpty() && !words[3].equals("http://www.w3.org/XML/1998/namespace");
            declared |= words[0].equals("ns");
            pieces.add(words);
        }
        if (!declares && inNamespaces && !declared) throw new Unsupported("declarations are left to the user here");
        for (String[] piece : pieces) {
            switch (piece[0]) {
                case "elem": builder.element(piece[1], piece[2], piece[3]); break;
                case "attr": builder.attribute(piece[1], piece[2], piece[3], piece[4]); break;
                case "ns": builder.declaration(piece[1], piece[2]); break;
                case "end": builder.end(); break;
                case "text": builder.text(piece[1]); break;
                case "cdata": builder.cdata(piece[1]); break;
                case "comment": builder.comment(piece[1]); break;
                case "pi": builder.instruction(piece[1], piece[2]); break;
                default: throw new Unsupported("no " + piece[0] + " in a document to be written");
            }
        }
    }

    private static final char[] HEX = "0123456789abcdef".toCharArray();

    /** A FIELD of a string: its UTF-16 units, lone surrogates kept. */
    public static String field(String text) {
        StringBuilder out = new StringBuilder("u16:");
        for (int i = 0; i < text.length(); ++i)
            for (int shift = 12; shift >= 0; shift -= 4) out.append(HEX[text.charAt(i) >> shift & 15]);
        return out.toString();
    }

    public static String spelled(String text) {
        return "spelled " + field(text);
    }

    /** The text of a document for libraries that take no bytes; ill-formed UTF-8 never reaches them. */
    public static String text(byte[] document) throws Rejected {
        try {
            return StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(document)).toString();
        } catch (CharacterCodingException error) {
            throw new Rejected("no UTF-8: " + error.getMessage());
        }
    }

    private String line(Object value) {
        if (value == null) return "null";
        if (value instanceof Boolean) return value.toString();
        if (value instanceof String) return "str " + field((String) value);
        if (value instanceof Double) return String.format("binary64 %016x", Double.doubleToRawLongBits((Double) value));
        if (value instanceof Float) return String.format("binary32 %08x", Float.floatToRawIntBits((Float) value));
        if (value instanceof Integer || value instanceof Long || value instanceof BigInteger) return "int " + value;
        if (value instanceof BigDecimal) return "dec " + value.toString().replace("E+", "e").replace("E", "e");
        return scalar(value);
    }

    /** Prints what was decoded; of a document of XML an adapter does so itself. */
    protected void print(Object root, StringBuilder out) throws Exception {
        ArrayDeque<Inside> stack = new ArrayDeque<>();
        for (Object value = root;;) {
            Inside inside = value == null ? null : inside(value);
            if (inside == null) {
                out.append(line(value)).append('\n');
            } else {
                out.append(inside.isObject ? "{\n" : "[\n");
                stack.push(inside);
            }
            while (!stack.isEmpty() && !stack.peek().values.hasNext()) out.append(stack.pop().isObject ? "}\n" : "]\n");
            if (stack.isEmpty()) return;
            if (stack.peek().isObject) out.append("key ").append(field(stack.peek().names.next().toString())).append('\n');
            value = stack.peek().values.next();
        }
    }

    private static String textOf(String field) throws Unsupported {
        String digits = field.substring(field.indexOf(':') + 1);
        byte[] raw = new byte[digits.length() / 2];
        for (int i = 0; i < raw.length; ++i) raw[i] = (byte) Integer.parseInt(digits.substring(2 * i, 2 * i + 2), 16);
        if (field.startsWith("u8")) {
            try {
                return StandardCharsets.UTF_8.newDecoder().decode(ByteBuffer.wrap(raw)).toString();
            } catch (CharacterCodingException error) {
                throw new Unsupported("strings are UTF-16 here");
            }
        }
        StringBuilder out = new StringBuilder();
        ByteBuffer units = ByteBuffer.wrap(raw);
        while (units.hasRemaining()) {
            if (field.startsWith("u16")) out.append(units.getChar());
            else out.appendCodePoint(units.getInt());
        }
        return out.toString();
    }

    /** The value that a trace tells, to be encoded: maps, lists, and Java's own scalars. */
    @SuppressWarnings("unchecked")
    public static Object valueOf(String trace) throws Unsupported {
        ArrayDeque<Object> levels = new ArrayDeque<>();
        Object root = null;
        String name = null;
        for (String line : trace.split("\n")) {
            int space = line.indexOf(' ');
            String word = space < 0 ? line : line.substring(0, space), rest = space < 0 ? "" : line.substring(space + 1);
            Object value;
            switch (word) {
                case "key":
                    if (rest.indexOf(':') < 0) throw new Unsupported("names are strings here");
                    name = textOf(rest);
                    continue;
                case "]":
                case "}":
                    levels.pop();
                    continue;
                case "[": value = new ArrayList<Object>(); break;
                case "{": value = new LinkedHashMap<String, Object>(); break;
                case "null": value = null; break;
                case "true":
                case "false": value = word.equals("true"); break;
                case "str": value = textOf(rest); break;
                case "binary64": value = Double.longBitsToDouble(Long.parseUnsignedLong(rest, 16)); break;
                case "binary32": value = Float.intBitsToFloat(Integer.parseUnsignedInt(rest, 16)); break;
                case "dec": value = new BigDecimal(rest); break;
                case "int": {
                    BigInteger number = new BigInteger(rest);
                    value = number.bitLength() < 64 ? (Object) number.longValue() : number;
                    break;
                }
                default: throw new Unsupported("no value for " + line);
            }
            Object level = levels.peek();
            if (level == null) root = value;
            else if (level instanceof List) ((List<Object>) level).add(value);
            else if (((Map<String, Object>) level).containsKey(name)) throw new Unsupported("a map holds a name once");
            else ((Map<String, Object>) level).put(name, value);
            if (word.equals("[") || word.equals("{")) levels.push(value);
        }
        return root;
    }

    /** Answers one request with the reply's body; show says whether the value is wanted. */
    private interface Operation {
        byte[] answer(byte[] document, String mode, boolean show) throws Exception;
    }

    private final Map<String, Operation> operations = Map.of(
        "decode", this::decode,
        "bind", (document, mode, show) -> shownRecord(bound(document, mode), show),
        "bind-round-trip", (document, mode, show) -> writeBytes(bound(document, mode), mode),
        "bind-encode", (trace, mode, show) -> writeBytes(filled(new String(trace, StandardCharsets.ISO_8859_1)), mode),
        "pieces", (document, mode, show) -> shown(loadPieces(pieces(document), mode), show),
        "sequence", (text, mode, show) -> listed(take -> loadSequence(text, mode, take), () -> false, show),
        "open-stream", (text, mode, show) -> {
            OpenStream stream = new OpenStream(text);
            return listed(take -> loadOpenStream(stream, mode, take), () -> stream.asked, show);
        },
        "round-trip", (document, mode, show) -> dumpBytes(load(document, mode), mode),
        "encode", (trace, mode, show) -> encode(new String(trace, StandardCharsets.ISO_8859_1), mode));

    private String record = "", cuts = ""; // of the request that is answered

    /** Decodes a document that arrives in pieces: each is handed to the library by itself. */
    protected Object loadPieces(List<byte[]> pieces, String mode) throws Exception {
        throw new Unsupported("documents in pieces are not offered");
    }

    /** The document in pieces that end at the offsets "3,7", or after "each" byte. */
    private List<byte[]> pieces(byte[] document) {
        List<byte[]> out = new ArrayList<>();
        String[] ends = cuts.isEmpty() || cuts.equals("each") ? new String[0] : cuts.split(",");
        int begin = 0, next = 0;
        while (begin < document.length) {
            int end = cuts.equals("each") ? begin + 1 : next < ends.length ? Integer.parseInt(ends[next++]) : document.length;
            if (end <= begin || end > document.length) continue;
            out.add(Arrays.copyOfRange(document, begin, end));
            begin = end;
        }
        return out;
    }

    /** Takes one value after another. */
    protected interface Taker {
        void take(Object value) throws Exception;
    }

    /** Decodes a text of several documents by the library's interface for that, and hands over the value of each. */
    protected void loadSequence(byte[] text, String mode, Taker taker) throws Exception {
        throw new Unsupported("sequences of documents are not offered");
    }

    /** The same from a stream, which gives one byte at a time. */
    protected void loadOpenStream(InputStream stream, String mode, Taker taker) throws Exception {
        throw new Unsupported("streams that stay open are not offered");
    }

    /** Stays open behind its text: after it was asked for more, what is handed over comes late. */
    private static final class OpenStream extends InputStream {
        private final byte[] text;
        private int given = 0;
        boolean asked = false;

        OpenStream(byte[] text) {
            this.text = text;
        }
        @Override public int read() {
            asked = given == text.length;
            return asked ? -1 : text[given++] & 0xff;
        }
        @Override public int read(byte[] into, int begin, int length) {
            if (length == 0) return 0;
            int next = read();
            if (next < 0) return -1;
            into[begin] = (byte) next;
            return 1;
        }
    }

    private interface Listing {
        void load(Taker taker) throws Exception;
    }

    private byte[] listed(Listing listing, java.util.function.BooleanSupplier isLate, boolean show) throws Exception {
        StringBuilder out = new StringBuilder("[\n");
        try {
            listing.load(value -> {
                if (!isLate.getAsBoolean()) print(value, out);
            });
        } catch (Rejected refusal) {
            if (!isLate.getAsBoolean()) out.append("native refused -\n");
        }
        out.append("]\n");
        return (show ? out.toString() : "").getBytes(StandardCharsets.ISO_8859_1);
    }

    private Object bound(byte[] document, String mode) throws Exception {
        Class<?> type = recordType(record);
        if (type == null) throw new Unsupported("no such record type");
        return bind(document, type, mode);
    }

    /** A record with the fields of a value in trace notation. */
    private Object filled(String trace) throws Exception {
        Class<?> type = recordType(record);
        if (type == null) throw new Unsupported("no such record type");
        return filled(type, (Map<?, ?>) valueOf(trace));
    }

    private static Object filled(Class<?> type, Map<?, ?> fields) throws Exception {
        Object out = type.getDeclaredConstructor().newInstance();
        for (java.lang.reflect.Field member : type.getDeclaredFields())
            if (fields.containsKey(member.getName())) member.set(out, fieldOf(member.getType(), fields.get(member.getName())));
        return out;
    }

    private static Object fieldOf(Class<?> type, Object value) throws Exception {
        if (value == null && type.isPrimitive()) throw new Unsupported("a field of this type holds a value");
        if (value == null || type == boolean.class || type == String.class) return value;
        if (type == int.class) return ((Number) value).intValue();
        if (type == long.class) return ((Number) value).longValue();
        if (type == double.class) return ((Number) value).doubleValue();
        if (type == java.util.Date.class || type == byte[].class || type == Map.class) throw new Unsupported("a field of this type is not filled here");
        if (type != List.class) return filled(type, (Map<?, ?>) value);
        List<Integer> out = new ArrayList<>();
        for (Object element : (List<?>) value) out.add(((Number) element).intValue());
        return out;
    }

    private byte[] shownRecord(Object value, boolean show) throws Exception {
        StringBuilder out = new StringBuilder();
        if (show) printRecord(value, out);
        return out.toString().getBytes(StandardCharsets.ISO_8859_1);
    }

    private byte[] decode(byte[] document, String mode, boolean show) throws Exception {
        return shown(load(document, mode), show);
    }

    private byte[] shown(Object value, boolean show) throws Exception {
        StringBuilder out = new StringBuilder();
        if (show) print(value, out);
        if (show && out.length() == 0) out.append("text u8:\n"); // a document of XML that holds nothing at all
        return out.toString().getBytes(StandardCharsets.ISO_8859_1);
    }

    private byte[] encode(String trace, String mode) throws Exception {
        return format().equals("xml") ? writeMarkup(trace, mode) : writeBytes(valueOf(trace), mode);
    }

    /** A text as UTF-8. A lone surrogate, which UTF-8 has no bytes for, becomes its three bytes: the text is then ill-formed, as it was written. */
    private static byte[] encoded(String text) throws Rejected {
        if (text == null) throw new Rejected("the library returned null");
        java.io.ByteArrayOutputStream out = new java.io.ByteArrayOutputStream();
        text.codePoints().forEach(c -> {
            if (c >= 0xD800 && c < 0xE000) {
                out.write(0xE0 | c >> 12);
                out.write(0x80 | c >> 6 & 0x3F);
                out.write(0x80 | c & 0x3F);
            } else {
                out.writeBytes(new String(Character.toChars(c)).getBytes(StandardCharsets.UTF_8));
            }
        });
        return out.toByteArray();
    }

    /** Whether an exception was raised in the adapter's own code, not in the library. */
    private boolean isOurs(Throwable error) {
        for (StackTraceElement frame : error.getStackTrace()) {
            String name = frame.getClassName();
            if (name.startsWith("java.") || name.startsWith("jdk.internal.") || name.startsWith("sun.")) continue;
            String outer = name.indexOf('$') < 0 ? name : name.substring(0, name.indexOf('$'));
            return outer.equals(NachklangAdapter.class.getName()) || outer.equals(getClass().getName());
        }
        return false;
    }

    private byte[] messages() {
        StringBuilder out = new StringBuilder();
        for (String report : reports) out.append(String.valueOf(report).replace('\n', ' ')).append('\n');
        return out.toString().getBytes(StandardCharsets.UTF_8);
    }

    private static String readLine(DataInputStream in) throws IOException {
        StringBuilder out = new StringBuilder();
        for (int c = in.read(); c != '\n'; c = in.read()) {
            if (c < 0) return null;
            out.append((char) c);
        }
        return out.toString();
    }

    private static String messageOf(Throwable error) {
        return error.getClass().getSimpleName() + ": " + error.getMessage();
    }

    /** Serves requests until standard input ends. What a library prints goes to standard error. */
    protected void serve() throws IOException {
        // The pipe is opened anew; closing descriptor 1 points it away from the pipe.
        OutputStream replies = new BufferedOutputStream(new FileOutputStream("/proc/self/fd/1"), 1 << 16);
        new FileOutputStream(FileDescriptor.out).close();
        System.setOut(new PrintStream(new FileOutputStream(FileDescriptor.err), true));
        DataInputStream in = new DataInputStream(new BufferedInputStream(System.in, 1 << 16));
        replies.write(("nachklang-adapter 1\nimplementation " + implementation() + "\n" + hello() + "\n").getBytes("UTF-8"));
        replies.flush();
        for (String head = readLine(in); head != null; head = readLine(in)) {
            String[] words = head.split(" ");
            byte[] document = new byte[Integer.parseInt(words[2])];
            in.readFully(document);
            String id = "0", mode = "";
            Operation operation = operations.get(words[0]);
            record = "";
            cuts = "";
            boolean show = true, known = operation != null && words[1].equals(format());
            for (int i = 3; i < words.length; ++i) {
                String key = words[i].substring(0, words[i].indexOf('=')), value = words[i].substring(key.length() + 1);
                if (key.equals("id")) id = value;
                else if (key.equals("mode")) mode = value;
                else if (key.equals("record")) record = value;
                else if (key.equals("cuts")) cuts = value;
                else if (key.equals("show")) show = !value.equals("nothing");
                else known = false;
            }
            String kind = "accepted", position = "", message = "";
            byte[] body = null, reported = {};
            try {
                if (!known) throw new Unsupported("");
                reports.clear();
                body = operation.answer(document, mode, show);
                reported = messages();
                if (reported.length > 0) position = " reported=" + reported.length;
            } catch (Rejected error) {
                kind = "rejected";
                position = error.place;
                message = error.getMessage();
            } catch (Unsupported error) {
                kind = "unsupported";
                message = error.getMessage();
            } catch (Throwable error) {
                boolean exhausted = error instanceof StackOverflowError || error instanceof OutOfMemoryError;
                kind = isOurs(error) ? "adapter-fault" : exhausted ? "exhausted" : "threw";
                message = messageOf(error);
            }
            if (body == null) body = message.getBytes("UTF-8");
            replies.write((kind + " " + (reported.length + body.length) + " id=" + id + position + "\n").getBytes("UTF-8"));
            replies.write(reported);
            replies.write(body);
            if (in.available() == 0) replies.flush();
        }
        replies.flush();
    }
}

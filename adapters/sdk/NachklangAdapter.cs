// The adapter kit for C# (Mono): derive from Codec, describe the implementation, call Adapter.Serve(codec). docs/protocol.md describes what
// goes over the pipes.
//
// Load, Dump, Write and WriteMarkup call the library: throw Rejected for the failure that it documents. Any other exception that they let
// out is `threw`, or a fault of the adapter (`adapter-fault`) if its innermost frame is in a class of the adapter. What Open, Plain and
// Trace throw is a fault of the adapter, too, and never booked on the library.
using System;
using System.Collections;
using System.Collections.Generic;
using System.Diagnostics;
using System.Globalization;
using System.IO;
using System.Linq;
using System.Numerics;
using System.Text;

class Rejected : Exception {
    public readonly string Place;
    public Rejected(string message, string place = "") : base(message) { Place = place; }
}
class Unsupported : Exception {
    public Unsupported(string why) : base(why) { }
}
/// <summary>What left the library and is not documented.</summary>
class LibraryFailure : Exception {
    public readonly string Kind;
    public LibraryFailure(string kind, string message) : base(message) { Kind = kind; }
}
/// <summary>A number kept as its source text.</summary>
class Spelled {
    public readonly string Text;
    public Spelled(string text) { Text = text; }
}

/// <summary>What a container holds, in its order: names are there where it is an object.</summary>
class Inside {
    public IEnumerator Names, Values;
    public bool IsObject { get { return Names != null; } }
    public static Inside Array(IEnumerable values) { return new Inside { Values = values.GetEnumerator() }; }
    public static Inside Object(IEnumerable names, IEnumerable values) {
        return new Inside { Names = names.GetEnumerator(), Values = values.GetEnumerator() };
    }
}

abstract class Codec {
    public abstract string Hello { get; }
    public abstract object Load(byte[] document, string mode);
    public virtual string Format { get { return "json"; } }
    /// <summary>The trace of what was decoded, where it is no value of JSON.</summary>
    public virtual string Trace(object value) { return null; }
    public abstract Inside Open(object value);
    public virtual object Plain(object value) { return value; }
    /// <summary>The type of that name, or null. One whose library needs attributes has types of its own, nested in another class.</summary>
    public virtual Type RecordType(string name) { return Records.Types.ContainsKey(name) ? Records.Types[name] : null; }
    /// <summary>Decodes into a record of the type; null if the library gives none.</summary>
    public virtual object Bind(byte[] document, Type type, string mode) { throw new Unsupported("records are not offered"); }
    /// <summary>Encodes a record that Bind gave.</summary>
    public virtual byte[] WriteRecord(object record, string mode) { return Adapter.Bytes(Write(record, mode)); }
    /// <summary>Decodes a text of several documents and hands over the value of each.</summary>
    public virtual void LoadSequence(Stream text, string mode, Action<object> take) { throw new Unsupported("sequences of documents are not offered"); }
    public virtual string Dump(object value, string mode) { throw new Unsupported("round trips are not offered"); }
    /// <summary>Like Dump, for a library that writes bytes.</summary>
    public virtual byte[] DumpBytes(object value, string mode) { return Adapter.Bytes(Dump(value, mode)); }
    /// <summary>Encodes an XML document, piece by piece as Adapter.MarkupOf gives it.</summary>
    public virtual byte[] WriteMarkup(string trace, string mode) { throw new Unsupported("it does not encode here"); }
    public virtual string Write(object value, string mode) { throw new Unsupported("it does not encode here"); }

    protected static string TextOf(byte[] document) {
        try {
            return new UTF8Encoding(false, true).GetString(document);
        } catch (ArgumentException error) {
            throw new Rejected("no UTF-8: " + error.Message);
        }
    }
}

/// <summary>A record of several kinds, which a member of the document tells apart.</summary>
public interface IOneKind {
    /// <summary>What that member says of this kind.</summary>
    string Tagged();
}

/// <summary>The record types of docs/records-of-fields.md, as an application declares them.</summary>
public static class Records {
    public class OneInt32 { public int value; }
    public class OneInt64 { public long value; }
    public class OneBinary64 { public double value; }
    public class OneBoolean { public bool value; }
    public class OneText { public string value; }
    public class OneList { public List<int> value; }
    public class OneRecord { public OneInt32 value; }
    public class OneInstant { public DateTime value; }
    public class OneBytes { public byte[] value; }
    public class OneMap { public Dictionary<int, int> value; }
    public class Bell {
        public string name;
        public int weight_kg;
        public double hum_hz;
        public string note;
    }
    internal static readonly Dictionary<string, Type> Types = new Dictionary<string, Type> {
        { "one-int32", typeof(OneInt32) }, { "one-int64", typeof(OneInt64) }, { "one-binary64", typeof(OneBinary64) },
        { "one-boolean", typeof(OneBoolean) }, { "one-text", typeof(OneText) }, { "one-list", typeof(OneList) },
        { "one-record", typeof(OneRecord) }, { "one-instant", typeof(OneInstant) }, { "one-bytes", typeof(OneBytes) }, { "one-map", typeof(OneMap) }, { "bell", typeof(Bell) },
    };
    /// <summary>What a record holds before it is decoded into once more.</summary>
    public static object Earlier(Type type) {
        if (type == typeof(OneInt32)) return new OneInt32 { value = 41 };
        if (type == typeof(OneInt64)) return new OneInt64 { value = 41 };
        if (type == typeof(OneBinary64)) return new OneBinary64 { value = 41.5 };
        if (type == typeof(OneBoolean)) return new OneBoolean { value = true };
        if (type == typeof(OneText)) return new OneText { value = "earlier" };
        if (type == typeof(OneList)) return new OneList { value = new List<int> { 41 } };
        if (type == typeof(OneRecord)) return new OneRecord { value = new OneInt32 { value = 41 } };
        if (type == typeof(OneInstant)) return new OneInstant { value = new DateTime(1902, 6, 1, 12, 0, 0, DateTimeKind.Utc) };
        if (type == typeof(OneBytes)) return new OneBytes { value = new byte[] { 41 } };
        if (type == typeof(OneMap)) return new OneMap { value = new Dictionary<int, int> { { 41, 41 } } };
        return new Bell { name = "Clara", weight_kg = 41, hum_hz = 41.5, note = "earlier" };
    }
}

static class Adapter {
    internal static string Field(string text) {
        var outText = new StringBuilder("u16:");
        foreach (char unit in text) outText.Append(((int)unit).ToString("x4"));
        return outText.ToString();
    }
    static string InstantLine(DateTime value) {
        // What the field holds if nothing was assigned is no time of any zone.
        bool local = value.Kind == DateTimeKind.Unspecified && value != default(DateTime);
        string text = (value.Kind == DateTimeKind.Local ? value.ToUniversalTime() : value).ToString("yyyy-MM-dd'T'HH:mm:ss.FFFFFFF", CultureInfo.InvariantCulture);
        return local ? "native local-time " + Field(text) : "native instant " + Field(text + "Z");
    }
    static string Line(object value) {
        if (value == null) return "null";
        if (value is bool) return (bool)value ? "true" : "false";
        if (value is string) return "str " + Field((string)value);
        if (value is Spelled) return "spelled " + Field(((Spelled)value).Text);
        if (value is double) return "binary64 " + BitConverter.DoubleToInt64Bits((double)value).ToString("x16");
        if (value is int || value is long || value is ulong || value is BigInteger) return "int " + value;
        if (value is decimal) return "dec " + ((decimal)value).ToString(CultureInfo.InvariantCulture);
        return "native " + value.GetType().Name + " " + Field(Convert.ToString(value, CultureInfo.InvariantCulture));
    }
    static string Print(Codec codec, object root) {
        var lines = new StringBuilder();
        var stack = new Stack<Inside>();
        for (object value = root;;) {
            Inside inside = value == null ? null : codec.Open(value);
            if (inside == null) {
                lines.Append(Line(value == null ? null : codec.Plain(value))).Append('\n');
            } else {
                lines.Append(inside.IsObject ? "{\n" : "[\n");
                stack.Push(inside);
            }
            while (stack.Count > 0 && !stack.Peek().Values.MoveNext()) lines.Append(stack.Pop().IsObject ? "}\n" : "]\n");
            if (stack.Count == 0) return lines.ToString();
            if (stack.Peek().IsObject) {
                stack.Peek().Names.MoveNext();
                lines.Append("key ").Append(Field((string)stack.Peek().Names.Current)).Append('\n');
            }
            value = stack.Peek().Values.Current;
        }
    }
    internal static string TextOf(string field) {
        string digits = field.Substring(field.IndexOf(':') + 1);
        int width = field.StartsWith("u8") ? 2 : field.StartsWith("u16") ? 4 : 8;
        var outText = new StringBuilder();
        if (width == 2) {
            var raw = Enumerable.Range(0, digits.Length / 2).Select(i => Convert.ToByte(digits.Substring(2 * i, 2), 16)).ToArray();
            try {
                return new UTF8Encoding(false, true).GetString(raw);
            } catch (ArgumentException) {
                throw new Unsupported("strings are UTF-16 here");
            }
        }
        for (int i = 0; i < digits.Length; i += width) {
            int c = Convert.ToInt32(digits.Substring(i, width), 16);
            if (c < 0x10000) outText.Append((char)c); else outText.Append(char.ConvertFromUtf32(c));
        }
        return outText.ToString();
    }
    /// <summary>The pieces of a document to be written: elem QNAME LOCAL URI, attr QNAME LOCAL URI VALUE, ns PREFIX URI, text T …</summary>
    internal static IEnumerable<string[]> MarkupOf(string trace) {
        return trace.TrimEnd('\n').Split('\n').Select(line => line.Split(' ').Select((word, i) => i == 0 || !word.Contains(":") ? word : TextOf(word)).ToArray());
    }
    static object ValueOf(string trace) {
        var levels = new Stack<object>();
        object root = null;
        string name = null;
        foreach (string line in trace.TrimEnd('\n').Split('\n')) {
            string word = line.Split(' ')[0], rest = line.Substring(Math.Min(line.Length, word.Length + 1));
            object value;
            switch (word) {
                case "key":
                    if (!rest.Contains(":")) throw new Unsupported("names are strings here");
                    name = TextOf(rest);
                    continue;
                case "]": case "}": levels.Pop(); continue;
                case "[": value = new List<object>(); break;
                case "{": value = new Dictionary<string, object>(); break;
                case "null": value = null; break;
                case "true": case "false": value = word == "true"; break;
                case "str": value = TextOf(rest); break;
                case "binary64": value = BitConverter.Int64BitsToDouble(Convert.ToInt64(rest, 16)); break;
                case "int": {
                    BigInteger number = BigInteger.Parse(rest);
                    if (number > ulong.MaxValue || number < long.MinValue) throw new Unsupported("no value for " + line);
                    value = number <= long.MaxValue ? (object)(long)number : (ulong)number;
                    break;
                }
                default: throw new Unsupported("no value for " + line);
            }
            object level = levels.Count == 0 ? null : levels.Peek();
            if (level == null) root = value;
            else if (level is List<object>) ((List<object>)level).Add(value);
            else if (((Dictionary<string, object>)level).ContainsKey(name)) throw new Unsupported("a dictionary holds a name once");
            else ((Dictionary<string, object>)level)[name] = value;
            if (word == "[" || word == "{") levels.Push(value);
        }
        return root;
    }
    /// <summary>A text as UTF-8; a lone surrogate becomes its three bytes, so that the text is ill-formed, as it was written.</summary>
    static byte[] Written(string text) {
        if (text == null) throw new Rejected("the library returned null");
        var bytes = new List<byte>();
        for (int i = 0; i < text.Length; ++i) {
            if (char.IsSurrogate(text[i]) && !(i + 1 < text.Length && char.IsSurrogatePair(text[i], text[i + 1]))) {
                int c = text[i];
                bytes.AddRange(new[] { (byte)(0xE0 | c >> 12), (byte)(0x80 | c >> 6 & 0x3F), (byte)(0x80 | c & 0x3F) });
            } else {
                int count = char.IsSurrogate(text[i]) ? 2 : 1;
                bytes.AddRange(Encoding.UTF8.GetBytes(text.Substring(i, count)));
                i += count - 1;
            }
        }
        return bytes.ToArray();
    }
    /// <summary>Calls into the library under test.</summary>
    static T Library<T>(Codec codec, Func<T> call) {
        try {
            return call();
        } catch (Rejected) {
            throw;
        } catch (Unsupported) {
            throw;
        } catch (Exception error) {
            if (IsOurs(codec, error)) throw;
            bool exhausted = error is OutOfMemoryException || error is InsufficientExecutionStackException;
            // What reflection inside the library wraps says more than the wrapping.
            Exception inner = error.GetBaseException();
            string because = inner == error ? "" : " (" + inner.GetType().Name + ": " + inner.Message + ")";
            throw new LibraryFailure(exhausted ? "exhausted" : "threw", error.GetType().Name + ": " + error.Message + because);
        }
    }
    /// <summary>Whether an exception was raised in the adapter's own code: its innermost frame outside the runtime's core is there.</summary>
    static bool IsOurs(Codec codec, Exception error) {
        foreach (StackFrame frame in new StackTrace(error).GetFrames() ?? new StackFrame[0]) {
            Type type = frame.GetMethod() == null ? null : frame.GetMethod().DeclaringType;
            if (type == null || type.Assembly == typeof(object).Assembly) continue;
            return type.Assembly == codec.GetType().Assembly;
        }
        return false;
    }
    /// <summary>What is asked: the bytes of a document or a trace, the mode, and whether the value is shown.</summary>
    struct Request {
        public byte[] Document;
        public string Mode;
        public bool Show;
        public string Record;
    }
    static object Bound(Codec codec, Request request) {
        Type type = codec.RecordType(request.Record);
        if (type == null) throw new Unsupported("no such record type");
        return Library(codec, () => codec.Bind(request.Document, type, request.Mode));
    }
    static byte[] BindRoundTrip(Codec codec, Request request) {
        object record = Bound(codec, request);
        return Library(codec, () => codec.WriteRecord(record, request.Mode));
    }
    static byte[] BindEncode(Codec codec, Request request) {
        Type type = codec.RecordType(request.Record);
        if (type == null) throw new Unsupported("no such record type");
        object record = FieldOf(type, ValueOf(Encoding.ASCII.GetString(request.Document)));
        return Library(codec, () => codec.WriteRecord(record, request.Mode));
    }
    /// <summary>A value of a trace as a field of this type; a record is filled field by field.</summary>
    static object FieldOf(Type type, object value) {
        if (value == null && type.IsValueType) throw new Unsupported("a field of this type holds a value");
        if (value == null || type == typeof(string) || type == typeof(bool)) return value;
        if (type == typeof(DateTime) || type == typeof(byte[]) || type == typeof(Dictionary<int, int>)) throw new Unsupported("a field of this type is not filled here");
        if (type.IsPrimitive) return type == typeof(double) || !(value is BigInteger) ? Convert.ChangeType(value, type) : type == typeof(int) ? (int)(BigInteger)value : (object)(long)(BigInteger)value;
        if (type == typeof(List<int>)) return ((List<object>)value).Select(element => (int)FieldOf(typeof(int), element)).ToList();
        object record = Activator.CreateInstance(type);
        foreach (System.Reflection.FieldInfo member in type.GetFields()) {
            object field;
            if (((IDictionary<string, object>)value).TryGetValue(member.Name, out field)) member.SetValue(record, FieldOf(member.FieldType, field));
        }
        return record;
    }
    static byte[] Bind(Codec codec, Request request) {
        object record = Bound(codec, request);
        var lines = new StringBuilder();
        if (request.Show) PrintRecord(record, lines);
        return Encoding.ASCII.GetBytes(lines.ToString());
    }
    static void PrintRecord(object value, StringBuilder lines) {
        if (value is DateTime) {
            lines.Append(InstantLine((DateTime)value)).Append('\n');
        } else if (value is byte[]) {
            lines.Append("native bytes u8:").Append(string.Concat(((byte[])value).Select(octet => octet.ToString("x2")))).Append('\n');
        } else if (value is Dictionary<int, int>) {
            lines.Append("{\n");
            foreach (KeyValuePair<int, int> member in (Dictionary<int, int>)value) lines.Append("key int " + member.Key + "\nint " + member.Value + "\n");
            lines.Append("}\n");
        } else if (value is List<int>) {
            lines.Append("[\n");
            foreach (int element in (List<int>)value) PrintRecord(element, lines);
            lines.Append("]\n");
        } else if (value != null && value.GetType().DeclaringType != null) {
            lines.Append("{\n");
            if (value is IOneKind) lines.Append("key " + Field("$type") + "\nstr " + Field(((IOneKind)value).Tagged()) + "\n");
            foreach (System.Reflection.FieldInfo member in value.GetType().GetFields()) {
                lines.Append("key ").Append(Field(member.Name)).Append('\n');
                PrintRecord(member.GetValue(value), lines);
            }
            lines.Append("}\n");
        } else {
            lines.Append(Line(value)).Append('\n');
        }
    }
    static byte[] Decode(Codec codec, Request request) {
        object value = Library(codec, () => codec.Load(request.Document, request.Mode));
        return Encoding.ASCII.GetBytes(request.Show ? codec.Trace(value) ?? Print(codec, value) : "");
    }
    /// <summary>Gives a text one byte at a time and stays open behind it: after it was asked for more, what is handed over comes late.</summary>
    class OpenStream : MemoryStream {
        public bool Asked;
        public OpenStream(byte[] text) : base(text, false) { }
        public override int Read(byte[] into, int begin, int length) {
            int given = base.Read(into, begin, Math.Min(1, length));
            Asked = Asked || given < Math.Min(1, length);
            return given;
        }
        public override int ReadByte() {
            int given = base.ReadByte();
            Asked = Asked || given < 0;
            return given;
        }
    }
    static byte[] Sequence(Codec codec, Request request) {
        return Listed(codec, request, new MemoryStream(request.Document, false), () => false);
    }
    static byte[] OpenSequence(Codec codec, Request request) {
        var stream = new OpenStream(request.Document);
        return Listed(codec, request, stream, () => stream.Asked);
    }
    static byte[] Listed(Codec codec, Request request, Stream text, Func<bool> isLate) {
        var values = new List<object>();
        string end = "]\n";
        try {
            Library(codec, () => { codec.LoadSequence(text, request.Mode, value => { if (!isLate()) values.Add(value); }); return true; });
        } catch (Rejected) {
            if (!isLate()) end = "native refused -\n]\n";
        }
        return Encoding.ASCII.GetBytes(request.Show ? "[\n" + string.Concat(values.Select(value => codec.Trace(value) ?? Print(codec, value))) + end : "");
    }
    static byte[] RoundTrip(Codec codec, Request request) {
        object value = Library(codec, () => codec.Load(request.Document, request.Mode));
        return Library(codec, () => codec.DumpBytes(value, request.Mode));
    }
    static byte[] Encode(Codec codec, Request request) {
        string trace = Encoding.ASCII.GetString(request.Document);
        if (codec.Format == "xml") return Library(codec, () => codec.WriteMarkup(trace, request.Mode));
        object value = ValueOf(trace);
        return Written(Library(codec, () => codec.Write(value, request.Mode)));
    }
    static readonly Dictionary<string, Func<Codec, Request, byte[]>> Operations = new Dictionary<string, Func<Codec, Request, byte[]>> {
        { "decode", Decode }, { "round-trip", RoundTrip }, { "encode", Encode }, { "bind", Bind }, { "bind-round-trip", BindRoundTrip },
        { "bind-encode", BindEncode }, { "sequence", Sequence }, { "open-stream", OpenSequence },
    };
    internal static byte[] Bytes(string text) { return Written(text); }
    static string ReadLine(Stream input) {
        var line = new StringBuilder();
        for (int c = input.ReadByte(); c != '\n'; c = input.ReadByte()) {
            if (c < 0) return null;
            line.Append((char)c);
        }
        return line.ToString();
    }
    [System.Runtime.InteropServices.DllImport("libc")]
    static extern int dup(int descriptor);
    [System.Runtime.InteropServices.DllImport("libc")]
    static extern int dup2(int from, int to);

    /// <summary>Serves requests until standard input ends; returns the exit status. What a library prints goes to standard error.</summary>
    public static int Serve(Codec codec) {
        string kept = "/proc/self/fd/" + dup(1);
        dup2(2, 1);
        Stream replies = new BufferedStream(new FileStream(kept, FileMode.Open, FileAccess.Write, FileShare.ReadWrite, 1)), input = new BufferedStream(Console.OpenStandardInput());
        Console.SetOut(Console.Error);
        Action<byte[]> send = bytes => replies.Write(bytes, 0, bytes.Length);
        send(Encoding.UTF8.GetBytes("nachklang-adapter 1\n" + codec.Hello + "\n"));
        replies.Flush();
        for (string head = ReadLine(input); head != null; head = ReadLine(input)) {
            string[] parts = head.Split(' ');
            var document = new byte[int.Parse(parts[2])];
            for (int got = 0; got < document.Length;) {
                int count = input.Read(document, got, document.Length - got);
                if (count == 0) return 2;
                got += count;
            }
            string id = "0", mode = "", record = "", kind = "accepted", place = "", message = "";
            Func<Codec, Request, byte[]> operation;
            bool show = true, known = Operations.TryGetValue(parts[0], out operation) && parts[1] == codec.Format;
            foreach (string part in parts.Skip(3)) {
                string key = part.Split('=')[0], value = part.Substring(key.Length + 1);
                if (key == "id") id = value;
                else if (key == "mode") mode = value;
                else if (key == "record") record = value;
                else if (key == "show") show = value != "nothing";
                else known = false;
            }
            byte[] body = null;
            try {
                if (!known) throw new Unsupported("");
                body = operation(codec, new Request { Document = document, Mode = mode, Show = show, Record = record });
            } catch (Rejected error) {
                kind = "rejected"; place = error.Place; message = error.Message;
            } catch (Unsupported error) {
                kind = "unsupported"; message = error.Message;
            } catch (LibraryFailure error) {
                kind = error.Kind; message = error.Message;
            } catch (Exception error) {
                kind = "adapter-fault"; message = error.GetType().Name + ": " + error.Message;
            }
            body = body ?? Encoding.UTF8.GetBytes(message);
            send(Encoding.UTF8.GetBytes(kind + " " + body.Length + " id=" + id + place + "\n"));
            send(body);
            replies.Flush();
        }
        return 0;
    }
}

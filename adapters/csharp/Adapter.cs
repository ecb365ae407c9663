// JSON libraries on Mono; the first argument names which: json-net, reader-writer or script-serializer. The kit is in this file, too.
using System;
using System.Collections;
using System.Collections.Generic;
using System.Globalization;
using System.IO;
using System.Linq;
using System.Numerics;
using System.Text;
using System.Xml;
using Newtonsoft.Json;
using Newtonsoft.Json.Linq;

class Rejected : Exception {
    public readonly string Place;
    public Rejected(string message, string place = "") : base(message) { Place = place; }
}
class Unsupported : Exception {
    public Unsupported(string why) : base(why) { }
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
    public virtual string Dump(object value, string mode) { throw new Unsupported("round trips are not offered"); }
    /// <summary>Encodes a document of XML, piece by piece as Program.MarkupOf gives it.</summary>
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

/// <summary>System.Xml: the pull reader and the tree. Nothing outside a document is opened.</summary>
class SystemXml : Codec {
    public override string Format { get { return "xml"; } }
    public override string Hello {
        get {
            return "implementation mono-xml " + Environment.Version + "\nxml decode round-trip encode\nsetting namespaces=on\nsetting external=none\nmode reader\nxml decode\nmode writer\nxml encode\nmode document\nsetting entities=kept\n";
        }
    }
    private static XmlReader Reader(byte[] document) {
        // By itself it normalises nothing outside text; Settings make it a reader of documents.
        return XmlReader.Create(new MemoryStream(document), new XmlReaderSettings { DtdProcessing = DtdProcessing.Parse, XmlResolver = null, MaxCharactersFromEntities = 1 << 26 });
    }
    public override object Load(byte[] document, string mode) {
        try {
            if (mode == "document") {
                var tree = new XmlDocument { PreserveWhitespace = true, XmlResolver = null };
                tree.Load(new MemoryStream(document));
                return tree;
            }
            using (XmlReader reader = Reader(document)) return TraceOf(reader);
        } catch (XmlException error) {
            throw new Rejected(error.Message, error.LineNumber > 0 ? " line=" + error.LineNumber + " column=" + Math.Max(1, error.LinePosition) + " unit=utf16" : "");
        }
    }
    public override Inside Open(object value) { return null; }
    public override string Dump(object value, string mode) { return ((XmlDocument)value).OuterXml; }
    public override string Trace(object value) {
        string trace = value as string;
        if (trace == null) using (var reader = new XmlNodeReader((XmlDocument)value)) trace = TraceOf(reader);
        return trace == "" ? "text u8:\n" : trace;
    }
    public override byte[] WriteMarkup(string trace, string mode) {
        var written = new MemoryStream();
        try {
            if (mode == "writer") {
                using (XmlWriter writer = XmlWriter.Create(written, new XmlWriterSettings { Encoding = new UTF8Encoding(false) })) WriteTo(writer, trace);
            } else {
                var tree = new XmlDocument { PreserveWhitespace = true, XmlResolver = null };
                BuildIn(tree, trace);
                tree.Save(written);
            }
        } catch (ArgumentException error) {
            throw new Rejected(error.Message);
        } catch (InvalidOperationException error) {
            throw new Rejected(error.Message);
        } catch (XmlException error) {
            throw new Rejected(error.Message);
        }
        return written.ToArray();
    }
    private static void BuildIn(XmlDocument tree, string trace) {
        XmlNode open = tree;
        foreach (string[] piece in Program.MarkupOf(trace)) {
            switch (piece[0]) {
                case "elem": open = open.AppendChild(tree.CreateElement(piece[1], piece[3])); break;
                case "attr": {
                    XmlAttribute attribute = tree.CreateAttribute(piece[1], piece[3]);
                    attribute.Value = piece[4];
                    ((XmlElement)open).SetAttributeNode(attribute);
                    break;
                }
                case "ns": ((XmlElement)open).SetAttribute(piece[1] == "" ? "xmlns" : "xmlns:" + piece[1], piece[2]); break;
                case "end": open = open.ParentNode; break;
                case "text": open.AppendChild(tree.CreateTextNode(piece[1])); break;
                case "cdata": open.AppendChild(tree.CreateCDataSection(piece[1])); break;
                case "comment": open.AppendChild(tree.CreateComment(piece[1])); break;
                case "pi": open.AppendChild(tree.CreateProcessingInstruction(piece[1], piece[2])); break;
            }
        }
    }
    private static void WriteTo(XmlWriter writer, string trace) {
        Func<string, string> prefix = qname => qname.Contains(":") ? qname.Substring(0, qname.IndexOf(':')) : "";
        foreach (string[] piece in Program.MarkupOf(trace)) {
            switch (piece[0]) {
                case "elem": writer.WriteStartElement(prefix(piece[1]), piece[2], piece[3]); break;
                case "attr": writer.WriteAttributeString(prefix(piece[1]), piece[2], piece[3], piece[4]); break;
                case "ns":
                    if (piece[1] == "") writer.WriteAttributeString("xmlns", piece[2]);
                    else writer.WriteAttributeString("xmlns", piece[1], null, piece[2]);
                    break;
                case "end": writer.WriteEndElement(); break;
                case "text": writer.WriteString(piece[1]); break;
                case "cdata": writer.WriteCData(piece[1]); break;
                case "comment": writer.WriteComment(piece[1]); break;
                case "pi": writer.WriteProcessingInstruction(piece[1], piece[2]); break;
            }
        }
    }
    private static string TraceOf(XmlReader reader) {
        var trace = new StringBuilder();
        Action<string, string[]> line = (word, fields) => trace.Append(word).Append(' ').Append(string.Join(" ", fields.Select(Program.Field))).Append('\n');
        while (reader.Read()) {
            switch (reader.NodeType) {
                case XmlNodeType.Element:
                    bool empty = reader.IsEmptyElement;
                    line("elem", new[] { reader.Name, reader.LocalName, reader.NamespaceURI });
                    while (reader.MoveToNextAttribute()) {
                        if (reader.Name == "xmlns") line("ns", new[] { "", reader.Value });
                        else if (reader.Prefix == "xmlns") line("ns", new[] { reader.LocalName, reader.Value });
                        else trace.Append("attr " + Program.Field(reader.Name) + " " + Program.Field(reader.LocalName) + " " + Program.Field(reader.NamespaceURI) + " " + Program.Field(reader.Value) + (reader.IsDefault ? " default\n" : " given\n"));
                    }
                    if (empty) trace.Append("end\n");
                    break;
                case XmlNodeType.EndElement: trace.Append("end\n"); break;
                case XmlNodeType.Text: line("text", new[] { reader.Value }); break;
                case XmlNodeType.Whitespace:
                case XmlNodeType.SignificantWhitespace:
                    if (reader.Depth > 0) line("text", new[] { reader.Value });
                    break;
                case XmlNodeType.CDATA: line("cdata", new[] { reader.Value }); break;
                case XmlNodeType.Comment: line("comment", new[] { reader.Value }); break;
                case XmlNodeType.ProcessingInstruction: line("pi", new[] { reader.Name, reader.Value }); break;
                case XmlNodeType.DocumentType: line("doctype", new[] { reader.Name }); break;
                case XmlNodeType.EntityReference: line("ref", new[] { reader.Name }); break;
            }
        }
        return trace.ToString();
    }
}

class JsonNet : Codec {
    public override string Hello {
        get {
            return "implementation json-net " + System.Diagnostics.FileVersionInfo.GetVersionInfo(typeof(JToken).Assembly.Location).FileVersion +
                   "\njson decode round-trip encode\ncannot-represent duplicates\nsetting input=text\nmode strings-kept\nmode default\njson decode round-trip\nmode indented\njson encode\n";
        }
    }
    public override object Load(byte[] document, string mode) {
        try {
            // By default strings that look like dates become dates.
            var reader = new JsonTextReader(new StringReader(TextOf(document))) {
                DateParseHandling = mode == "default" ? DateParseHandling.DateTime : DateParseHandling.None
            };
            JToken value = JToken.ReadFrom(reader);
            while (reader.Read())
                if (reader.TokenType != JsonToken.Comment) throw new Rejected("text after the document");
            return value;
        } catch (JsonReaderException error) {
            throw new Rejected(error.Message, error.LineNumber > 0 ? " line=" + error.LineNumber + " column=" + (error.LinePosition + 1) + " unit=utf16" : "");
        }
    }
    public override Inside Open(object value) {
        if (value is JArray) return Inside.Array((JArray)value);
        var held = value as JObject;
        return held == null ? null : Inside.Object(held.Properties().Select(p => p.Name).ToList(), held.Properties().Select(p => p.Value).ToList());
    }
    public override object Plain(object value) { return value is JValue ? ((JValue)value).Value : value; }
    private static Newtonsoft.Json.Formatting Layout(string mode) {
        return mode == "indented" ? Newtonsoft.Json.Formatting.Indented : Newtonsoft.Json.Formatting.None;
    }
    public override string Dump(object value, string mode) { return ((JToken)value).ToString(Layout(mode)); }
    public override string Write(object value, string mode) {
        try {
            return JsonConvert.SerializeObject(value, Layout(mode));
        } catch (JsonSerializationException error) {
            throw new Rejected(error.Message);
        }
    }
}

/// <summary>The reader that the framework's own contracts stand on: JSON as XML, numbers as their text.</summary>
class ReaderWriter : Codec {
    public override string Hello {
        get { return "implementation mono-json-reader " + Environment.Version + "\njson decode\n"; }
    }
    public override object Load(byte[] document, string mode) {
        try {
            using (XmlDictionaryReader reader = System.Runtime.Serialization.Json.JsonReaderWriterFactory.CreateJsonReader(
                       document, XmlDictionaryReaderQuotas.Max)) {
                return Value(reader);
            }
        } catch (XmlException error) {
            throw new Rejected(error.Message, error.LineNumber > 0 ? " line=" + error.LineNumber + " column=" + error.LinePosition : "");
        }
    }

    private sealed class Building {
        public string Name, Type;
        public readonly List<object> Values = new List<object>();
        public readonly List<string> Names = new List<string>();
        public readonly StringBuilder Text = new StringBuilder();
    }
    private static object Value(XmlReader reader) {
        var open = new Stack<Building>();
        object done = null;
        bool any = false;
        while (reader.Read()) {
            if (reader.NodeType == XmlNodeType.Element) {
                any = true;
                var building = new Building { Name = reader.GetAttribute("item") ?? reader.LocalName, Type = reader.GetAttribute("type") ?? "string" };
                bool empty = reader.IsEmptyElement;
                open.Push(building);
                if (!empty) continue;
                done = Close(open);
            } else if (reader.NodeType == XmlNodeType.EndElement) {
                done = Close(open);
            } else if (open.Count > 0) {
                open.Peek().Text.Append(reader.Value); // strings come in pieces
            }
        }
        if (!any) throw new Rejected("no document");
        return done;
    }
    private static object Close(Stack<Building> open) {
        Building b = open.Pop();
        object value;
        switch (b.Type) {
            case "array": value = b.Values; break;
            case "object": value = new KeyValuePair<List<string>, List<object>>(b.Names, b.Values); break;
            case "null": value = null; break;
            case "boolean": value = b.Text.ToString() == "true"; break;
            case "number": value = new Spelled(b.Text.ToString()); break;
            default: value = b.Text.ToString(); break;
        }
        if (open.Count > 0) {
            open.Peek().Names.Add(b.Name);
            open.Peek().Values.Add(value);
        }
        return value;
    }
    public override Inside Open(object value) {
        if (value is List<object>) return Inside.Array((List<object>)value);
        if (!(value is KeyValuePair<List<string>, List<object>>)) return null;
        var held = (KeyValuePair<List<string>, List<object>>)value;
        return Inside.Object(held.Key, held.Value);
    }
}

class ScriptSerializer : Codec {
    private readonly System.Web.Script.Serialization.JavaScriptSerializer serializer =
        new System.Web.Script.Serialization.JavaScriptSerializer { MaxJsonLength = int.MaxValue };
    public override string Hello {
        get { return "implementation mono-script-serializer " + Environment.Version + "\njson decode round-trip encode\ncannot-represent duplicates\nsetting input=text\n"; }
    }
    public override object Load(byte[] document, string mode) {
        try {
            return serializer.DeserializeObject(TextOf(document));
        } catch (ArgumentException error) {
            throw new Rejected(error.Message);
        } catch (InvalidOperationException error) {
            throw new Rejected(error.Message);
        }
    }
    public override Inside Open(object value) {
        var map = value as IDictionary<string, object>;
        if (map != null) return Inside.Object(map.Keys, map.Values);
        return value is object[] ? Inside.Array((object[])value) : null;
    }
    public override string Dump(object value, string mode) { return serializer.Serialize(value); }
    public override string Write(object value, string mode) {
        try {
            return serializer.Serialize(value);
        } catch (InvalidOperationException error) { // documented for cycles and depth
            throw new Rejected(error.Message);
        }
    }
}

static class Program {
    internal static string Field(string text) {
        var outText = new StringBuilder("u16:");
        foreach (char unit in text) outText.Append(((int)unit).ToString("x4"));
        return outText.ToString();
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
    static byte[] Written(string text) {
        try {
            return new UTF8Encoding(false, true).GetBytes(text);
        } catch (ArgumentException error) {
            throw new Rejected("what was written is no Unicode text: " + error.Message);
        }
    }
    static byte[] Answer(Codec codec, string operation, byte[] document, string mode, bool show) {
        if (operation == "decode") {
            object value = codec.Load(document, mode);
            return Encoding.ASCII.GetBytes(show ? codec.Trace(value) ?? Print(codec, value) : "");
        }
        if (operation == "round-trip") return Written(codec.Dump(codec.Load(document, mode), mode));
        if (operation == "encode" && codec.Format == "xml") return codec.WriteMarkup(Encoding.ASCII.GetString(document), mode);
        if (operation == "encode") return Written(codec.Write(ValueOf(Encoding.ASCII.GetString(document)), mode));
        throw new Unsupported("unknown operation");
    }
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

    static int Main(string[] words) {
        // What a library prints must not come between replies.
        string kept = "/proc/self/fd/" + dup(1);
        dup2(2, 1);
        Stream replies = new BufferedStream(new FileStream(kept, FileMode.Open, FileAccess.Write, FileShare.ReadWrite, 1)), input = new BufferedStream(Console.OpenStandardInput());
        Console.SetOut(Console.Error);
        Codec codec = words[0] == "json-net" ? new JsonNet() : words[0] == "reader-writer" ? (Codec)new ReaderWriter() : words[0] == "system-xml" ? (Codec)new SystemXml() : new ScriptSerializer();
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
            string id = "0", mode = "", kind = "accepted", place = "", message = "";
            bool show = true, known = parts[1] == codec.Format;
            foreach (string part in parts.Skip(3)) {
                string key = part.Split('=')[0], value = part.Substring(key.Length + 1);
                if (key == "id") id = value;
                else if (key == "mode") mode = value;
                else if (key == "show") show = value != "nothing";
                else known = false;
            }
            byte[] body = null;
            try {
                if (!known) throw new Unsupported("");
                body = Answer(codec, parts[0], document, mode, show);
            } catch (Rejected error) {
                kind = "rejected"; place = error.Place; message = error.Message;
            } catch (Unsupported error) {
                kind = "unsupported"; message = error.Message;
            } catch (OutOfMemoryException error) {
                kind = "exhausted"; message = error.Message;
            } catch (InsufficientExecutionStackException error) {
                kind = "exhausted"; message = error.Message;
            } catch (Exception error) {
                kind = "threw"; message = error.GetType().Name + ": " + error.Message;
            }
            body = body ?? Encoding.UTF8.GetBytes(message);
            send(Encoding.UTF8.GetBytes(kind + " " + body.Length + " id=" + id + place + "\n"));
            send(body);
            replies.Flush();
        }
        return 0;
    }
}

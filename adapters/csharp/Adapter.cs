// JSON and XML libraries on Mono; the first argument names which: json-net, reader-writer, data-contract,
// script-serializer, script-records, system-xml, xml-serializer or xml-contract.
using System;
using System.Collections;
using System.Collections.Generic;
using System.IO;
using System.Linq;
using System.Text;
using System.Xml;
using Newtonsoft.Json;
using Newtonsoft.Json.Linq;

/// <summary>Environment.Version is the version of the framework that Mono imitates.</summary>
static class Mono {
    public static string Version {
        get {
            var name = Type.GetType("Mono.Runtime").GetMethod("GetDisplayName", System.Reflection.BindingFlags.NonPublic | System.Reflection.BindingFlags.Static);
            return ((string)name.Invoke(null, null)).Split(' ')[0];
        }
    }
}

/// <summary>System.Xml: the pull reader and the tree. Nothing outside a document is opened.</summary>
class SystemXml : Codec {
    public override string Format { get { return "xml"; } }
    public override string Hello {
        get {
            return "implementation mono-xml " + Mono.Version + "\nxml decode round-trip encode\nsetting namespaces=on\nsetting external=none\nmode reader\nxml decode sequence open-stream\nmode writer\nxml encode\nmode document\nsetting entities=kept\n";
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
    /// <summary>A reader of fragments takes one element after another; text between them is a node of its own. More than 4,096 characters of
    /// white space are a node of text for it, too; they are no value all the same.</summary>
    public override void LoadSequence(Stream text, string mode, Action<object> take) {
        try {
            var settings = new XmlReaderSettings { ConformanceLevel = ConformanceLevel.Fragment, DtdProcessing = DtdProcessing.Parse, XmlResolver = null };
            using (XmlReader reader = XmlReader.Create(text, settings)) {
                while (reader.Read()) {
                    var trace = new StringBuilder();
                    if (reader.NodeType == XmlNodeType.Element) {
                        int root = reader.Depth;
                        bool empty = reader.IsEmptyElement;
                        for (Print(reader, trace); !empty && reader.Read();) {
                            Print(reader, trace);
                            if (reader.NodeType == XmlNodeType.EndElement && reader.Depth == root) break;
                        }
                    } else if (reader.NodeType == XmlNodeType.Text || reader.NodeType == XmlNodeType.CDATA || reader.NodeType == XmlNodeType.EntityReference) {
                        Print(reader, trace);
                    }
                    bool blank = reader.NodeType == XmlNodeType.Text && reader.Value.Trim(' ', '\t', '\r', '\n') == "";
                    if (trace.Length > 0 && !blank) take(trace.ToString());
                }
            }
        } catch (XmlException error) {
            throw new Rejected(error.Message);
        }
    }
    public override Inside Open(object value) { return null; }
    public override byte[] DumpBytes(object value, string mode) {
        var written = new MemoryStream();
        ((XmlDocument)value).Save(written);
        return written.ToArray();
    }
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
        foreach (string[] piece in Adapter.MarkupOf(trace)) {
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
        foreach (string[] piece in Adapter.MarkupOf(trace)) {
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
        while (reader.Read()) Print(reader, trace);
        return trace.ToString();
    }
    private static void Print(XmlReader reader, StringBuilder trace) {
        Action<string, string[]> line = (word, fields) => trace.Append(word).Append(' ').Append(string.Join(" ", fields.Select(Adapter.Field))).Append('\n');
        switch (reader.NodeType) {
            case XmlNodeType.Element:
                bool empty = reader.IsEmptyElement;
                line("elem", new[] { reader.Name, reader.LocalName, reader.NamespaceURI });
                while (reader.MoveToNextAttribute()) {
                    if (reader.Name == "xmlns") line("ns", new[] { "", reader.Value });
                    else if (reader.Prefix == "xmlns") line("ns", new[] { reader.LocalName, reader.Value });
                    else trace.Append("attr " + Adapter.Field(reader.Name) + " " + Adapter.Field(reader.LocalName) + " " + Adapter.Field(reader.NamespaceURI) + " " + Adapter.Field(reader.Value) + (reader.IsDefault ? " default\n" : " given\n"));
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
}

class JsonNet : Codec {
    public override string Hello {
        get {
            return "implementation json-net " + System.Diagnostics.FileVersionInfo.GetVersionInfo(typeof(JToken).Assembly.Location).FileVersion +
                   "\njson decode round-trip encode\ncannot-represent duplicates\nsetting input=text\nsetting output=text\nmode strings-kept\njson decode round-trip encode sequence open-stream\nmode default\njson decode round-trip\nmode indented\njson encode\nmode records\njson bind bind-round-trip bind-encode\nmode records-reused\njson bind\n";
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
    public override void LoadSequence(Stream text, string mode, Action<object> take) {
        try {
            var reader = new JsonTextReader(new StreamReader(text, new UTF8Encoding(false, true), false)) { SupportMultipleContent = true, DateParseHandling = DateParseHandling.None };
            while (reader.Read()) take(JToken.ReadFrom(reader));
        } catch (JsonReaderException error) {
            throw new Rejected(error.Message);
        } catch (ArgumentException error) {
            throw new Rejected("no UTF-8: " + error.Message);
        }
    }
    public override Inside Open(object value) {
        if (value is JArray) return Inside.Array((JArray)value);
        var held = value as JObject;
        return held == null ? null : Inside.Object(held.Properties().Select(p => p.Name).ToList(), held.Properties().Select(p => p.Value).ToList());
    }
    public override object Plain(object value) { return value is JValue ? ((JValue)value).Value : value; }
    /// <summary>A record of several kinds: a sum type, with names of its own for the types.</summary>
    public abstract class BellOrTower : IOneKind {
        public abstract string Tagged();
    }
    public class CastBell : BellOrTower {
        public string name;
        public long weight_kg;
        public double hum_hz;
        public override string Tagged() { return "bell"; }
    }
    public class Tower : BellOrTower {
        public string name;
        public override string Tagged() { return "tower"; }
    }
    class Kinds : System.Runtime.Serialization.SerializationBinder {
        public override Type BindToType(string assembly, string name) {
            return name == "bell" ? typeof(CastBell) : name == "tower" ? typeof(Tower) : null;
        }
        public override void BindToName(Type type, out string assembly, out string name) {
            assembly = null;
            name = type == typeof(CastBell) ? "bell" : "tower";
        }
    }
    static readonly JsonSerializerSettings OfKinds = new JsonSerializerSettings { TypeNameHandling = TypeNameHandling.Objects, Binder = new Kinds() };
    public override Type RecordType(string name) { return name == "bell-or-tower" ? typeof(BellOrTower) : base.RecordType(name); }
    public override object Bind(byte[] document, Type type, string mode) {
        try {
            if (type == typeof(BellOrTower) && mode == "records-reused") throw new Unsupported("a record changes no kind");
            if (type == typeof(BellOrTower)) return JsonConvert.DeserializeObject(TextOf(document), type, OfKinds);
            if (mode != "records-reused") return JsonConvert.DeserializeObject(TextOf(document), type);
            object record = Records.Earlier(type);
            JsonConvert.PopulateObject(TextOf(document), record);
            return record;
        } catch (JsonException error) { // of the reader and of the serializer
            throw new Rejected(error.Message);
        }
    }
    private static Newtonsoft.Json.Formatting Layout(string mode) {
        return mode == "indented" ? Newtonsoft.Json.Formatting.Indented : Newtonsoft.Json.Formatting.None;
    }
    public override string Dump(object value, string mode) { return ((JToken)value).ToString(Layout(mode)); }
    public override string Write(object value, string mode) {
        try {
            return value is BellOrTower ? JsonConvert.SerializeObject(value, OfKinds) : JsonConvert.SerializeObject(value, Layout(mode));
        } catch (JsonSerializationException error) {
            throw new Rejected(error.Message);
        }
    }
}

/// <summary>The reader that the framework's own contracts use: JSON as XML, numbers as their text.</summary>
class ReaderWriter : Codec {
    public override string Hello {
        get { return "implementation mono-json-reader " + Mono.Version + "\njson decode\n"; }
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
        new System.Web.Script.Serialization.JavaScriptSerializer();
    public override string Hello {
        get { return "implementation mono-script-serializer " + Mono.Version + "\njson decode round-trip encode\ncannot-represent duplicates\nsetting input=text\nsetting output=text\n"; }
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
    public override string Dump(object value, string mode) { return Write(value, mode); }
    public override string Write(object value, string mode) {
        try {
            return serializer.Serialize(value);
        } catch (InvalidOperationException error) { // documented for cycles and length
            throw new Rejected(error.Message);
        } catch (ArgumentException error) { // documented for depth
            throw new Rejected(error.Message);
        }
    }
}

/// <summary>Decodes into records alone. The framework writes dates as /Date(…)/, bytes as numbers, maps as texts alone or as pairs.</summary>
abstract class RecordCodec : Codec {
    public override Type RecordType(string name) { return name == "one-instant" || name == "one-bytes" || name == "one-map" ? null : base.RecordType(name); }
    public override object Load(byte[] document, string mode) { throw new Unsupported("records only"); }
    public override Inside Open(object value) { return null; }
}

/// <summary>JavaScriptSerializer into types.</summary>
class ScriptRecords : RecordCodec {
    public override string Hello {
        get {
            return "implementation mono-script-records " + Mono.Version +
                   "\nengine mono-script-serializer\njson bind bind-round-trip bind-encode\ncannot-represent duplicates\nsetting input=text\nsetting output=text\n";
        }
    }
    public override object Bind(byte[] document, Type type, string mode) {
        try {
            return new System.Web.Script.Serialization.JavaScriptSerializer().Deserialize(TextOf(document), type);
        } catch (ArgumentException error) {
            throw new Rejected(error.Message);
        } catch (InvalidOperationException error) {
            throw new Rejected(error.Message);
        }
    }
    public override string Write(object value, string mode) { return new System.Web.Script.Serialization.JavaScriptSerializer().Serialize(value); }
}

/// <summary>DataContractJsonSerializer: what contracts of the framework decode with.</summary>
class DataContract : RecordCodec {
    public override string Hello {
        get { return "implementation mono-data-contract " + Mono.Version + "\nengine mono-json-reader\njson bind bind-round-trip bind-encode\ncannot-represent duplicates\n"; }
    }
    public override object Bind(byte[] document, Type type, string mode) {
        try {
            return new System.Runtime.Serialization.Json.DataContractJsonSerializer(type).ReadObject(new MemoryStream(document));
        } catch (System.Runtime.Serialization.SerializationException error) {
            throw new Rejected(error.Message);
        } catch (XmlException error) {
            throw new Rejected(error.Message, error.LineNumber > 0 ? " line=" + error.LineNumber + " column=" + error.LinePosition : "");
        }
    }
    public override byte[] WriteRecord(object record, string mode) {
        if (record == null) throw new Unsupported("the serializer is of a type, and there is no value");
        var written = new MemoryStream();
        new System.Runtime.Serialization.Json.DataContractJsonSerializer(record.GetType()).WriteObject(written, record);
        return written.ToArray();
    }
}

static class Program {
    static int Main(string[] words) {
        string library = words.Length > 0 ? words[0] : "";
        Codec codec = library == "json-net" ? new JsonNet() : library == "reader-writer" ? (Codec)new ReaderWriter()
                    : library == "data-contract" ? (Codec)new DataContract() : library == "script-records" ? (Codec)new ScriptRecords()
                    : library == "system-xml" ? (Codec)new SystemXml() : library == "xml-serializer" ? (Codec)new OfXmlSerializer()
                    : library == "xml-contract" ? (Codec)new OfXmlContract() : new ScriptSerializer();
        return Adapter.Serve(codec);
    }
}

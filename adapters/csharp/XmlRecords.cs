// What Mono decodes from XML into records: XmlSerializer, and DataContractSerializer.
using System;
using System.Collections.Generic;
using System.IO;
using System.Runtime.Serialization;
using System.Xml;
using System.Xml.Serialization;

/// <summary>The record types of docs/records-of-fields.md, with the attributes of both serializers.</summary>
public static class XmlRecords {
    [XmlRoot("record"), DataContract(Name = "record", Namespace = "")] public class OneInt32 { [DataMember] public int value; }
    [XmlRoot("record"), DataContract(Name = "record", Namespace = "")] public class OneInt64 { [DataMember] public long value; }
    [XmlRoot("record"), DataContract(Name = "record", Namespace = "")] public class OneBinary64 { [DataMember] public double value; }
    [XmlRoot("record"), DataContract(Name = "record", Namespace = "")] public class OneBoolean { [DataMember] public bool value; }
    [XmlRoot("record"), DataContract(Name = "record", Namespace = "")] public class OneText { [DataMember] public string value; }
    [XmlRoot("record")] public class OneList { [XmlElement("value")] public List<int> value; }
    [XmlRoot("record"), DataContract(Name = "record", Namespace = "")] public class OneRecord { [DataMember] public OneInt32 value; }
    [XmlRoot("record")] public class OneAttribute { [XmlAttribute] public int value; }
    [XmlRoot("record")] public class OneAttributeText { [XmlAttribute] public string value; }
    [XmlRoot("bell"), DataContract(Name = "bell", Namespace = "")]
    public class Bell {
        [DataMember(Order = 0)] public string name;
        [DataMember(Order = 1)] public int weight_kg;
        [DataMember(Order = 2)] public double hum_hz;
        [DataMember(Order = 3)] public string note;
    }
    internal static readonly Dictionary<string, Type> Types = new Dictionary<string, Type> {
        { "one-int32", typeof(OneInt32) }, { "one-int64", typeof(OneInt64) }, { "one-binary64", typeof(OneBinary64) },
        { "one-boolean", typeof(OneBoolean) }, { "one-text", typeof(OneText) }, { "one-list", typeof(OneList) },
        { "one-record", typeof(OneRecord) }, { "one-attribute", typeof(OneAttribute) }, { "one-attribute-text", typeof(OneAttributeText) },
        { "bell", typeof(Bell) },
    };
}

abstract class XmlRecordCodec : RecordCodec {
    protected abstract string Name { get; }
    public override string Format { get { return "xml"; } }
    public override string Hello { get { return "implementation " + Name + " " + Mono.Version + "\nxml bind bind-round-trip bind-encode\n"; } }
    public override Type RecordType(string name) { return XmlRecords.Types.ContainsKey(name) ? XmlRecords.Types[name] : null; }
}

/// <summary>XmlSerializer says InvalidOperationException, and what it is about inside.</summary>
class OfXmlSerializer : XmlRecordCodec {
    protected override string Name { get { return "mono-xml-serializer"; } }
    public override object Bind(byte[] document, Type type, string mode) {
        try {
            return new XmlSerializer(type).Deserialize(new MemoryStream(document));
        } catch (InvalidOperationException error) {
            var at = error.InnerException as XmlException;
            throw new Rejected(error.Message + (error.InnerException == null ? "" : ": " + error.InnerException.Message),
                               at != null && at.LineNumber > 0 ? " line=" + at.LineNumber + " column=" + Math.Max(1, at.LinePosition) + " unit=utf16" : "");
        }
    }
    public override byte[] WriteRecord(object record, string mode) {
        try {
            var written = new MemoryStream();
            new XmlSerializer(record.GetType()).Serialize(written, record);
            return written.ToArray();
        } catch (InvalidOperationException error) {
            throw new Rejected(error.Message + (error.InnerException == null ? "" : ": " + error.InnerException.Message));
        }
    }
}

/// <summary>DataContractSerializer has no attributes, and writes a list inside an element of its own.</summary>
class OfXmlContract : XmlRecordCodec {
    protected override string Name { get { return "mono-xml-contract"; } }
    public override Type RecordType(string name) {
        return name == "one-list" || name.StartsWith("one-attribute") ? null : base.RecordType(name);
    }
    public override object Bind(byte[] document, Type type, string mode) {
        try {
            return new DataContractSerializer(type).ReadObject(new MemoryStream(document));
        } catch (SerializationException error) {
            throw new Rejected(error.Message);
        } catch (XmlException error) {
            throw new Rejected(error.Message, error.LineNumber > 0 ? " line=" + error.LineNumber + " column=" + Math.Max(1, error.LinePosition) + " unit=utf16" : "");
        }
    }
    public override byte[] WriteRecord(object record, string mode) {
        try {
            var written = new MemoryStream();
            new DataContractSerializer(record.GetType()).WriteObject(written, record);
            return written.ToArray();
        } catch (SerializationException error) {
            throw new Rejected(error.Message);
        }
    }
}

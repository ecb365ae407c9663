// Defects of libraries on Mono, each shown by a call without any kit: a line for each, its name and what the library does.
using System;

public static class Gallery {
    static void Shown(string name, Func<object> call) {
        string result;
        try {
            result = Convert.ToString(call());
        } catch (Exception error) {
            result = error.GetType().Name + ": " + error.Message;
        }
        Console.WriteLine(name + "\t" + result);
    }
    class Whole {
        public long value = 0;
    }
    public class Number {
        public int value;
    }
    [System.Runtime.Serialization.DataContract(Name = "record", Namespace = "")]
    public class Contracted {
        [System.Runtime.Serialization.DataMember] public int value = 0;
    }
    class Octets {
        public byte[] value = null;
    }
    class Cast {
        public DateTime value = default(DateTime);
    }
    public class Label {
        public string value;
    }
    static T Contract<T>(string document) {
        var serializer = new System.Runtime.Serialization.Json.DataContractJsonSerializer(typeof(T));
        return (T)serializer.ReadObject(new System.IO.MemoryStream(System.Text.Encoding.UTF8.GetBytes(document)));
    }
    static void Main() {
        Shown("json-net-fraction", () => Newtonsoft.Json.JsonConvert.DeserializeObject<Whole>("{\"value\":7.75}").value);
        Shown("json-net-bytes", () => Newtonsoft.Json.JsonConvert.DeserializeObject<Octets>("{\"value\":\"Q*Q==\"}").value);
        Shown("json-net-offset", () => Newtonsoft.Json.JsonConvert.DeserializeObject<Cast>("{\"value\":\"1953-04-07T06:30:00+01:00x\"}").value.ToUniversalTime().ToString("u"));
        Shown("json-net-type", () => {
            var settings = new Newtonsoft.Json.JsonSerializerSettings { TypeNameHandling = Newtonsoft.Json.TypeNameHandling.Objects };
            return Newtonsoft.Json.JsonConvert.DeserializeObject<Label>("{\"$type\":null,\"value\":\"a\"}", settings).value;
        });
        Shown("json-net-comma", () => {
            var reader = new Newtonsoft.Json.JsonTextReader(new System.IO.StringReader("[1],[2]")) { SupportMultipleContent = true };
            var kinds = new System.Collections.Generic.List<string>();
            while (kinds.Count < 4 && reader.Read()) {
                kinds.Add(reader.TokenType.ToString());
                Newtonsoft.Json.Linq.JToken.ReadFrom(reader);
            }
            return string.Join(" ", kinds);
        });
        Shown("mono-contract-array", () => Contract<Number>("[]").value);
        Shown("mono-contract-fraction", () => Contract<Number>("{\"value\":7.25}").value);
        Shown("mono-script-object", () => new System.Web.Script.Serialization.JavaScriptSerializer().Deserialize<Number>("{\"value\":{}}").value);
        Shown("mono-script-date", () => {
            string held = new System.Web.Script.Serialization.JavaScriptSerializer().Deserialize<Label>("{\"value\":\"/Date(1234567890)/\"}").value;
            return held.StartsWith("/Date") ? "begins with /Date" : "does not begin with /Date";
        });
        Shown("mono-contract-noncharacter", () => {
            try {
                return Contract<Label>("{\"value\":\"\uffff\"}").value;
            } catch (System.Reflection.TargetInvocationException error) {
                return error.GetType().Name + ": " + error.InnerException.Message;
            }
        });
        Shown("json-net-escape", () => Newtonsoft.Json.Linq.JToken.Parse("[\"\\u00g1\"]"));
        Shown("mono-json-reader-control", () => {
            using (var reader = System.Runtime.Serialization.Json.JsonReaderWriterFactory.CreateJsonReader(
                       new byte[] { (byte)'"', 1, (byte)'"' }, System.Xml.XmlDictionaryReaderQuotas.Max)) {
                reader.Read();
                return reader.ReadElementContentAsString();
            }
        });
        Shown("mono-xml-contract-word", () => {
            var serializer = new System.Runtime.Serialization.DataContractSerializer(typeof(Contracted));
            return ((Contracted)serializer.ReadObject(System.Xml.XmlReader.Create(new System.IO.StringReader("<record><value>seven</value></record>")))).value;
        });
    }
}

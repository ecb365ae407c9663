// The record types of docs/records-of-fields.md with serde's derived decoders, over quick-xml and over serde-xml-rs; the first argument names
// which.
use serde::{de::DeserializeOwned, Serialize};

mod nachklang_adapter;
use nachklang_adapter::{field, library, serve, Problem, Request};
mod shown_records;
use shown_records::{Fill, Lines, Show};

macro_rules! records {
    ($($name:ident $element:literal { $($member:ident $key:literal: $kind:ty),* })*) => {$(
        #[derive(serde_derive::Deserialize, serde_derive::Serialize)]
        #[serde(rename = $element)]
        pub struct $name { $(#[serde(rename = $key)] $member: $kind),* }
        impl Fill for $name {
            fn filled(lines: &mut Lines) -> Result<Self, Problem> {
                shown_records::open(lines)?;
                $(
                    shown_records::brace(lines)?;
                    let $member = Fill::filled(lines)?;
                )*
                shown_records::brace(lines)?;
                Ok(Self { $($member),* })
            }
        }
        impl Show for $name {
            fn show(&self, out: &mut String) {
                out.push_str("{\n");
                $(
                    out.push_str(&format!("key {}\n", field(stringify!($member).as_bytes())));
                    self.$member.show(out);
                )*
                out.push_str("}\n");
            }
        }
    )*};
}
records! {
    OneInt32 "record" { value "value": i32 }
    OneInt64 "record" { value "value": i64 }
    OneBinary64 "record" { value "value": f64 }
    OneBoolean "record" { value "value": bool }
    OneText "record" { value "value": String }
    OneList "record" { value "value": Vec<i32> }
    OneRecord "record" { value "value": OneInt32 }
    OneAttribute "record" { value "value": i32 }
    OneAttributeText "record" { value "value": String }
    Bell "bell" { name "name": String, weight_kg "weight_kg": i32, hum_hz "hum_hz": f64, note "note": Option<String> }
}

/// A library, by the two calls that its users make.
trait Library {
    fn decode<Record: DeserializeOwned>(document: &[u8]) -> Result<Record, Problem>;
    fn encode<Record: Serialize>(record: &Record) -> Result<Vec<u8>, Problem>;
}
fn rejected(error: impl std::fmt::Display) -> Problem {
    Problem::Rejected(error.to_string(), String::new())
}

struct QuickXml;
impl Library for QuickXml {
    fn decode<Record: DeserializeOwned>(document: &[u8]) -> Result<Record, Problem> {
        quick_xml::de::from_reader(document).map_err(rejected)
    }
    fn encode<Record: Serialize>(record: &Record) -> Result<Vec<u8>, Problem> {
        quick_xml::se::to_string(record).map(String::into_bytes).map_err(rejected)
    }
}

struct SerdeXmlRs;
impl Library for SerdeXmlRs {
    fn decode<Record: DeserializeOwned>(document: &[u8]) -> Result<Record, Problem> {
        serde_xml_rs::from_reader(document).map_err(rejected)
    }
    fn encode<Record: Serialize>(record: &Record) -> Result<Vec<u8>, Problem> {
        serde_xml_rs::to_string(record).map(String::into_bytes).map_err(|error| match error {
            serde_xml_rs::Error::UnsupportedOperation { .. } => Problem::Unsupported(error.to_string()),
            _ => rejected(error),
        })
    }
}

fn bound<Of: Library, Record: DeserializeOwned + Serialize + Show + Fill>(request: &Request) -> Result<Vec<u8>, Problem> {
    if request.operation == "bind-encode" {
        let trace = String::from_utf8_lossy(request.document);
        let record = Record::filled(&mut trace.lines().peekable())?;
        return library(|| Of::encode(&record));
    }
    let record: Record = library(|| Of::decode(request.document))?;
    if request.operation == "bind-round-trip" {
        return library(|| Of::encode(&record));
    }
    let mut out = String::new();
    if request.show {
        record.show(&mut out);
    }
    Ok(out.into_bytes())
}

/// Both give an attribute and an element of one name to the same field.
fn answer<Of: Library>(request: &Request) -> Result<Vec<u8>, Problem> {
    match request.record {
        "one-int32" => bound::<Of, OneInt32>(request),
        "one-int64" => bound::<Of, OneInt64>(request),
        "one-binary64" => bound::<Of, OneBinary64>(request),
        "one-boolean" => bound::<Of, OneBoolean>(request),
        "one-text" => bound::<Of, OneText>(request),
        "one-list" => bound::<Of, OneList>(request),
        "one-record" => bound::<Of, OneRecord>(request),
        "one-attribute" => bound::<Of, OneAttribute>(request),
        "one-attribute-text" => bound::<Of, OneAttributeText>(request),
        "bell" => bound::<Of, Bell>(request),
        _ => Err(Problem::Unsupported("no such record type".into())),
    }
}

fn main() {
    let operations = "xml bind bind-round-trip bind-encode\n";
    if std::env::args().nth(1).as_deref() == Some("quick-xml") {
        serve("xml", &format!("implementation quick-xml-records 0.26.0\nengine quick-xml\n{operations}"), answer::<QuickXml>);
    } else {
        serve("xml", &format!("implementation serde-xml-rs 0.5.1\n{operations}"), answer::<SerdeXmlRs>);
    }
}

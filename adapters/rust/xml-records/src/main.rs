// The record types of docs/records-of-fields.md with serde's derived decoders, over quick-xml and over serde-xml-rs; the first argument names
// which.
use serde::{de::DeserializeOwned, Serialize};

mod nachklang_adapter;
use nachklang_adapter::{library, serve, Problem, Request};
#[macro_use]
mod shown_records;
use shown_records::{filled, Fill, Show};

records!(#[serde(rename = "record")] OneInt32 { value: i32 });
records!(#[serde(rename = "record")] OneInt64 { value: i64 });
records!(#[serde(rename = "record")] OneBinary64 { value: f64 });
records!(#[serde(rename = "record")] OneBoolean { value: bool });
records!(#[serde(rename = "record")] OneText { value: String });
records!(#[serde(rename = "record")] OneList { value: Vec<i32> });
records!(#[serde(rename = "record")] OneRecord { value: OneInt32 });
records!(#[serde(rename = "record")] OneAttribute { value: i32 });
records!(#[serde(rename = "record")] OneAttributeText { value: String });
records!(#[serde(rename = "bell")] Bell { name: String, weight_kg: i32, hum_hz: f64, note: Option<String> });

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
        let record = filled::<Record>(request.document)?;
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

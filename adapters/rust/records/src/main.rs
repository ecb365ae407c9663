// The record types of docs/records-of-fields.md with serde's derived decoders, over serde_json; the mode records-strict has serde's
// attribute deny_unknown_fields.
use serde::{de::DeserializeOwned, Serialize};

mod nachklang_adapter;
use nachklang_adapter::{field, library, serve, Problem, Request};

mod shown_records;
use shown_records::{Fill, Show};

macro_rules! records {
    ($(#[$attribute:meta])* $name:ident { $($member:ident: $kind:ty),* }) => {
        #[derive(serde_derive::Deserialize, serde_derive::Serialize)]
        $(#[$attribute])*
        struct $name { $($member: $kind),* }
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
    };
}
macro_rules! record_types {
    ($module:ident $(, #[$attribute:meta])*) => {
        mod $module {
            use super::shown_records::{self, Fill, Lines};
            use super::{field, Problem, Show};
            records!($(#[$attribute])* OneInt32 { value: i32 });
            records!($(#[$attribute])* OneInt64 { value: i64 });
            records!($(#[$attribute])* OneBinary64 { value: f64 });
            records!($(#[$attribute])* OneBoolean { value: bool });
            records!($(#[$attribute])* OneText { value: String });
            records!($(#[$attribute])* OneList { value: Vec<i32> });
            records!($(#[$attribute])* OneRecord { value: OneInt32 });
            records!($(#[$attribute])* Bell { name: String, weight_kg: i32, hum_hz: f64, note: Option<String> });

            pub fn bind(request: &super::Request) -> Result<Vec<u8>, super::Problem> {
                match request.record {
                    "one-int32" => super::bound::<OneInt32>(request),
                    "one-int64" => super::bound::<OneInt64>(request),
                    "one-binary64" => super::bound::<OneBinary64>(request),
                    "one-boolean" => super::bound::<OneBoolean>(request),
                    "one-text" => super::bound::<OneText>(request),
                    "one-list" => super::bound::<OneList>(request),
                    "one-record" => super::bound::<OneRecord>(request),
                    "bell" => super::bound::<Bell>(request),
                    _ => Err(super::Problem::Unsupported("no such record type".into())),
                }
            }
        }
    };
}
record_types!(records);
record_types!(strict, #[serde(deny_unknown_fields)]);

fn filled<Record: Fill>(request: &Request) -> Result<Record, Problem> {
    let trace = String::from_utf8_lossy(request.document);
    Record::filled(&mut trace.lines().peekable())
}

fn bound<Record: DeserializeOwned + Serialize + Show + Fill>(request: &Request) -> Result<Vec<u8>, Problem> {
    if request.operation == "bind-encode" {
        let record = filled::<Record>(request)?;
        return library(|| serde_json::to_vec(&record).map_err(|error| Problem::Rejected(error.to_string(), String::new())));
    }
    let record: Record = library(|| {
        serde_json::from_slice(request.document).map_err(|error| {
            let place = format!(" line={} column={} unit=byte", error.line(), error.column());
            Problem::Rejected(error.to_string(), if error.line() > 0 { place } else { String::new() })
        })
    })?;
    if request.operation == "bind-round-trip" {
        return library(|| serde_json::to_vec(&record).map_err(|error| Problem::Rejected(error.to_string(), String::new())));
    }
    let mut out = String::new();
    if request.show {
        record.show(&mut out);
    }
    Ok(out.into_bytes())
}

fn main() {
    let hello = "implementation serde-records 1.0.152\nengine serde_json\njson bind bind-round-trip bind-encode\nmode records\nmode records-strict\n";
    serve("json", hello, |request: &Request| match (request.operation, request.mode) {
        ("bind" | "bind-round-trip" | "bind-encode", "records-strict") => strict::bind(request),
        ("bind" | "bind-round-trip" | "bind-encode", _) => records::bind(request),
        _ => Err(Problem::Unsupported("unknown operation".into())),
    });
}

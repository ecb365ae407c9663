// The record types of docs/records-of-fields.md with serde's derived decoders, over serde_json; the mode records-strict has serde's
// attribute deny_unknown_fields.
use serde::{de::DeserializeOwned, Serialize};

mod nachklang_adapter;
use nachklang_adapter::{library, serve, Problem, Request};

#[macro_use]
mod shown_records;
use shown_records::{filled, Fill, Lines, Show};

macro_rules! record_types {
    ($module:ident $(, #[$attribute:meta])*) => {
        mod $module {
            records!($(#[$attribute])* OneInt32 { value: i32 });
            records!($(#[$attribute])* OneInt64 { value: i64 });
            records!($(#[$attribute])* OneBinary64 { value: f64 });
            records!($(#[$attribute])* OneBoolean { value: bool });
            records!($(#[$attribute])* OneText { value: String });
            records!($(#[$attribute])* OneList { value: Vec<i32> });
            records!($(#[$attribute])* OneRecord { value: OneInt32 });
            records!($(#[$attribute])* Bell { name: String, weight_kg: i32, hum_hz: f64, note: Option<String> });

            records!($(#[$attribute])* OneMap { value: std::collections::BTreeMap<i32, i32> });

            records!($(#[$attribute])* OneInstant { value: chrono::DateTime<chrono::Utc> });

            /// Of several kinds: a sum type, tagged inside.
            #[derive(serde_derive::Deserialize, serde_derive::Serialize)]
            #[serde(tag = "$type", rename_all = "lowercase")]
            $(#[$attribute])*
            pub enum BellOrTower {
                Bell { name: String, weight_kg: i64, hum_hz: f64 },
                Tower { name: String },
            }
            impl super::Show for BellOrTower {
                fn show(&self, out: &mut String) {
                    match self {
                        BellOrTower::Bell { name, weight_kg, hum_hz } => super::show_members("bell", &[("name", name), ("weight_kg", weight_kg), ("hum_hz", hum_hz)], out),
                        BellOrTower::Tower { name } => super::show_members("tower", &[("name", name)], out),
                    }
                }
            }
            impl super::Fill for BellOrTower {
                fn filled(_: &mut super::Lines) -> Result<Self, super::Problem> {
                    Err(super::Problem::Unsupported("a record of several kinds is not filled here".into()))
                }
            }

            pub fn bind(request: &super::Request) -> Result<Vec<u8>, super::Problem> {
                match request.record {
                    "one-int32" => super::bound::<OneInt32>(request),
                    "one-int64" => super::bound::<OneInt64>(request),
                    "one-binary64" => super::bound::<OneBinary64>(request),
                    "one-boolean" => super::bound::<OneBoolean>(request),
                    "one-text" => super::bound::<OneText>(request),
                    "one-list" => super::bound::<OneList>(request),
                    "one-record" => super::bound::<OneRecord>(request),
                    "one-map" => super::bound::<OneMap>(request),
                    "one-instant" => super::bound::<OneInstant>(request),
                    "bell" => super::bound::<Bell>(request),
                    "bell-or-tower" => super::bound::<BellOrTower>(request),
                    _ => Err(super::Problem::Unsupported("no such record type".into())),
                }
            }
        }
    };
}
record_types!(records);
record_types!(strict, #[serde(deny_unknown_fields)]);

/// An instant with the digits of its second that are not zero.
impl Show for chrono::DateTime<chrono::Utc> {
    fn show(&self, out: &mut String) {
        let text = self.to_rfc3339_opts(chrono::SecondsFormat::Nanos, true);
        let digits = text.trim_start_matches('+').trim_end_matches('Z').trim_end_matches('0').trim_end_matches('.');
        out.push_str(&format!("native instant {}\n", nachklang_adapter::field(format!("{digits}Z").as_bytes())));
    }
}
impl Fill for chrono::DateTime<chrono::Utc> {
    fn filled(lines: &mut Lines) -> Result<Self, Problem> {
        let text = lines.next().and_then(|line| line.strip_prefix("native instant ")).and_then(nachklang_adapter::text_of);
        let instant = text.and_then(|text| chrono::DateTime::parse_from_rfc3339(&text).ok());
        instant.map(|found| found.into()).ok_or_else(|| Problem::Unsupported("no instant that it holds".into()))
    }
}

fn show_members(kind: &str, members: &[(&str, &dyn Show)], out: &mut String) {
    let tag = kind.to_string();
    out.push_str("{\n");
    for (name, value) in std::iter::once(("$type", &tag as &dyn Show)).chain(members.iter().copied()) {
        out.push_str(&format!("key {}\n", nachklang_adapter::field(name.as_bytes())));
        value.show(out);
    }
    out.push_str("}\n");
}

fn bound<Record: DeserializeOwned + Serialize + Show + Fill>(request: &Request) -> Result<Vec<u8>, Problem> {
    if request.operation == "bind-encode" {
        let record = filled::<Record>(request.document)?;
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

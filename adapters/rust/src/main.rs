// serde_json's Value, as its features build it.
use serde::Deserialize;
use serde_json::{Map, Number, Value};
use std::cell::Cell;

mod nachklang_adapter;
use nachklang_adapter::{library, serve, Problem, Request};

fn field(text: &str) -> String {
    nachklang_adapter::field(text.as_bytes())
}

fn number(value: &Number) -> String {
    if cfg!(feature = "arbitrary-precision") {
        return format!("spelled {}", field(&value.to_string()));
    }
    if let Some(integer) = value.as_i64() {
        return format!("int {integer}");
    }
    if let Some(integer) = value.as_u64() {
        return format!("int {integer}");
    }
    format!("binary64 {:016x}", value.as_f64().unwrap_or(f64::NAN).to_bits())
}

enum Level<'a> {
    Array(std::slice::Iter<'a, Value>),
    Object(serde_json::map::Iter<'a>),
}

fn print(root: &Value) -> String {
    let mut out = String::new();
    let mut stack: Vec<Level> = Vec::new();
    let mut next = Some(root);
    loop {
        if let Some(value) = next.take() {
            match value {
                Value::Null => out.push_str("null\n"),
                Value::Bool(held) => out.push_str(if *held { "true\n" } else { "false\n" }),
                Value::Number(held) => out.push_str(&(number(held) + "\n")),
                Value::String(held) => out.push_str(&format!("str {}\n", field(held))),
                Value::Array(held) => {
                    out.push_str("[\n");
                    stack.push(Level::Array(held.iter()));
                }
                Value::Object(held) => {
                    out.push_str("{\n");
                    stack.push(Level::Object(held.iter()));
                }
            }
        }
        match stack.last_mut() {
            None => return out,
            Some(Level::Array(values)) => match values.next() {
                Some(value) => next = Some(value),
                None => {
                    out.push_str("]\n");
                    stack.pop();
                }
            },
            Some(Level::Object(members)) => match members.next() {
                Some((name, value)) => {
                    out.push_str(&format!("key {}\n", field(name)));
                    next = Some(value);
                }
                None => {
                    out.push_str("}\n");
                    stack.pop();
                }
            },
        }
    }
}

fn load(document: &[u8]) -> Result<Value, Problem> {
    let mut reader = serde_json::Deserializer::from_slice(document);
    #[cfg(feature = "unbounded-depth")]
    reader.disable_recursion_limit();
    Value::deserialize(&mut reader).and_then(|value| reader.end().map(|()| value)).map_err(|error| {
        let place = format!(" line={} column={} unit=byte", error.line(), error.column());
        Problem::Rejected(error.to_string(), if error.line() > 0 { place } else { String::new() })
    })
}

/// Gives a text one byte at a time and stays open behind it: after it was asked for more, what is handed over comes late.
struct OpenStream<'a> {
    text: &'a [u8],
    asked: &'a Cell<bool>,
}

impl std::io::Read for OpenStream<'_> {
    fn read(&mut self, into: &mut [u8]) -> std::io::Result<usize> {
        self.asked.set(self.text.is_empty());
        let given = self.text.len().min(into.len()).min(1);
        into[..given].copy_from_slice(&self.text[..given]);
        self.text = &self.text[given..];
        Ok(given)
    }
}

/// One document after another, until the first that is refused or comes late.
fn sequence<'de, R: serde_json::de::Read<'de>>(reader: serde_json::Deserializer<R>, asked: &Cell<bool>) -> String {
    let mut out = String::from("[\n");
    for document in reader.into_iter::<Value>() {
        match document {
            _ if asked.get() => break,
            Ok(value) => {
                out.push_str(&print(&value));
                drop_flat(value);
            }
            Err(_) => {
                out.push_str("native refused -\n");
                break;
            }
        }
    }
    out + "]\n"
}

fn text_of(field: &str) -> Result<String, Problem> {
    let (units, digits) = field.split_once(':').unwrap_or(("u8", ""));
    let raw: Vec<u8> = (0..digits.len() / 2).map(|i| u8::from_str_radix(&digits[2 * i..2 * i + 2], 16).unwrap_or(0)).collect();
    let held = match units {
        "u8" => String::from_utf8(raw).ok(),
        "u16" => String::from_utf16(&raw.chunks(2).map(|c| u16::from_be_bytes([c[0], c[1]])).collect::<Vec<u16>>()).ok(),
        _ => raw.chunks(4).map(|c| char::from_u32(u32::from_be_bytes([c[0], c[1], c[2], c[3]]))).collect(),
    };
    held.ok_or_else(|| Problem::Unsupported("strings are Unicode text here".into()))
}

fn scalar_of(word: &str, rest: &str) -> Result<Value, Problem> {
    let no = || Problem::Unsupported(format!("no value for {word} {rest}"));
    Ok(match word {
        "null" => Value::Null,
        "true" | "false" => Value::Bool(word == "true"),
        "str" => Value::String(text_of(rest)?),
        "binary64" => {
            let value = f64::from_bits(u64::from_str_radix(rest, 16).map_err(|_| no())?);
            // Values made of NaN and the infinities are null by the library's own documentation.
            Value::from(value)
        }
        "int" => match (rest.parse::<i64>(), rest.parse::<u64>()) {
            (Ok(value), _) => Value::from(value),
            (_, Ok(value)) => Value::from(value),
            _ => return Err(no()),
        },
        _ => return Err(no()),
    })
}

fn value_of(trace: &str) -> Result<Value, Problem> {
    let mut levels: Vec<(Value, String)> = Vec::new();
    let mut name = String::new();
    let mut done = Value::Null;
    for line in trace.lines() {
        let (word, rest) = line.split_once(' ').unwrap_or((line, ""));
        match word {
            "key" if !rest.contains(':') => return Err(Problem::Unsupported("names are strings here".into())),
            "key" => {
                name = text_of(rest)?;
                continue;
            }
            "[" => {
                levels.push((Value::Array(Vec::new()), std::mem::take(&mut name)));
                continue;
            }
            "{" => {
                levels.push((Value::Object(Map::new()), std::mem::take(&mut name)));
                continue;
            }
            "]" | "}" => {
                if let Some((value, before)) = levels.pop() {
                    done = value;
                    name = before;
                }
            }
            _ => done = scalar_of(word, rest)?,
        }
        match levels.last_mut() {
            Some((Value::Array(values), _)) => values.push(std::mem::take(&mut done)),
            Some((Value::Object(members), _)) => {
                if members.insert(std::mem::take(&mut name), std::mem::take(&mut done)).is_some() {
                    return Err(Problem::Unsupported("a map holds a name once".into()));
                }
            }
            _ => (),
        }
    }
    Ok(done)
}

fn answer(request: &Request) -> Result<Vec<u8>, Problem> {
    let written = |value: &Value| library(|| serde_json::to_vec(value).map_err(|error| Problem::Rejected(error.to_string(), String::new())));
    let load = |document| library(|| load(document));
    match request.operation {
        "decode" => {
            let value = load(request.document)?;
            let out = if request.show { print(&value).into_bytes() } else { Vec::new() };
            drop_flat(value);
            Ok(out)
        }
        "round-trip" => written(&load(request.document)?),
        "sequence" => library(|| Ok(sequence(serde_json::Deserializer::from_slice(request.document), &Cell::new(false)).into_bytes())),
        "open-stream" => library(|| {
            let asked = Cell::new(false);
            let stream = OpenStream { text: request.document, asked: &asked };
            Ok(sequence(serde_json::Deserializer::from_reader(stream), &asked).into_bytes())
        }),
        "encode" => written(&value_of(&String::from_utf8_lossy(request.document))?),
        _ => Err(Problem::Unsupported("unknown operation".into())),
    }
}

/// A value's own drop calls itself a level: what is deep is taken apart first, so that the library is measured and not this.
fn drop_flat(root: Value) {
    let mut left = vec![root];
    while let Some(value) = left.pop() {
        match value {
            Value::Array(values) => left.extend(values),
            Value::Object(members) => left.extend(members.into_iter().map(|(_, value)| value)),
            _ => (),
        }
    }
}

fn main() {
    let order = if cfg!(feature = "preserve-order") { "" } else { " order" };
    serve("json", &format!("implementation serde_json 1.0.87\njson decode round-trip encode sequence open-stream\ncannot-represent duplicates{order}\n"), answer);
}

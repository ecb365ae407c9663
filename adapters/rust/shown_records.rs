//! Records as lines of a trace, and filled from them.
use crate::nachklang_adapter::{field, text_of, Problem};

/// Writes a value as lines of a trace.
pub trait Show {
    fn show(&self, out: &mut String);
}
impl Show for i32 {
    fn show(&self, out: &mut String) {
        out.push_str(&format!("int {self}\n"));
    }
}
impl Show for i64 {
    fn show(&self, out: &mut String) {
        out.push_str(&format!("int {self}\n"));
    }
}
impl Show for f64 {
    fn show(&self, out: &mut String) {
        out.push_str(&format!("binary64 {:016x}\n", self.to_bits()));
    }
}
impl Show for bool {
    fn show(&self, out: &mut String) {
        out.push_str(&format!("{self}\n"));
    }
}
impl Show for String {
    fn show(&self, out: &mut String) {
        out.push_str(&format!("str {}\n", field(self.as_bytes())));
    }
}
impl<Value: Show> Show for Option<Value> {
    fn show(&self, out: &mut String) {
        match self {
            Some(value) => value.show(out),
            None => out.push_str("null\n"),
        }
    }
}
impl<Value: Show> Show for Vec<Value> {
    fn show(&self, out: &mut String) {
        out.push_str("[\n");
        for value in self {
            value.show(out);
        }
        out.push_str("]\n");
    }
}

impl<Value: Show> Show for std::collections::BTreeMap<i32, Value> {
    fn show(&self, out: &mut String) {
        out.push_str("{\n");
        for (name, value) in self {
            out.push_str(&format!("key int {name}\n"));
            value.show(out);
        }
        out.push_str("}\n");
    }
}

/// The lines of a trace that are left.
pub type Lines<'a> = std::iter::Peekable<std::str::Lines<'a>>;

/// Takes a value from the lines of a trace.
pub trait Fill: Sized {
    fn filled(lines: &mut Lines) -> Result<Self, Problem>;
}

fn other_kind() -> Problem {
    Problem::Unsupported("a field of this type holds another kind of value".into())
}
/// What follows this word on the next line.
fn after<'a>(lines: &mut Lines<'a>, word: &str) -> Result<&'a str, Problem> {
    lines.next().and_then(|line| line.strip_prefix(word)).map(str::trim_start).ok_or_else(other_kind)
}
impl Fill for i32 {
    fn filled(lines: &mut Lines) -> Result<Self, Problem> {
        after(lines, "int ")?.parse().map_err(|_| other_kind())
    }
}
impl Fill for i64 {
    fn filled(lines: &mut Lines) -> Result<Self, Problem> {
        after(lines, "int ")?.parse().map_err(|_| other_kind())
    }
}
impl Fill for f64 {
    fn filled(lines: &mut Lines) -> Result<Self, Problem> {
        if lines.peek().map_or(false, |line| line.starts_with("int ")) {
            return after(lines, "int ")?.parse().map_err(|_| other_kind());
        }
        u64::from_str_radix(after(lines, "binary64 ")?, 16).map(f64::from_bits).map_err(|_| other_kind())
    }
}
impl Fill for bool {
    fn filled(lines: &mut Lines) -> Result<Self, Problem> {
        lines.next().ok_or_else(other_kind)?.parse().map_err(|_| other_kind())
    }
}
impl Fill for String {
    fn filled(lines: &mut Lines) -> Result<Self, Problem> {
        text_of(after(lines, "str ")?).ok_or_else(|| Problem::Unsupported("a String is UTF-8".into()))
    }
}
impl<Value: Fill> Fill for Option<Value> {
    fn filled(lines: &mut Lines) -> Result<Self, Problem> {
        if lines.next_if_eq(&"null").is_some() {
            return Ok(None);
        }
        Value::filled(lines).map(Some)
    }
}
impl<Value: Fill> Fill for Vec<Value> {
    fn filled(lines: &mut Lines) -> Result<Self, Problem> {
        after(lines, "[")?;
        let mut out = Vec::new();
        while lines.next_if_eq(&"]").is_none() {
            out.push(Value::filled(lines)?);
        }
        Ok(out)
    }
}
impl<Value> Fill for std::collections::BTreeMap<i32, Value> {
    fn filled(_: &mut Lines) -> Result<Self, Problem> {
        Err(Problem::Unsupported("a map is not filled here".into()))
    }
}
/// A record of the lines of a trace.
pub fn filled<Record: Fill>(trace: &[u8]) -> Result<Record, Problem> {
    Record::filled(&mut String::from_utf8_lossy(trace).lines().peekable())
}

/// Passes over a line: a brace, or the name of a field, which come in their order.
pub fn pass(lines: &mut Lines) -> Result<(), Problem> {
    lines.next().map(|_| ()).ok_or_else(other_kind)
}
pub fn open(lines: &mut Lines) -> Result<(), Problem> {
    after(lines, "{").map(|_| ())
}

/// Declares a record with serde's derived decoder and encoder.
macro_rules! records {
    ($(#[$attribute:meta])* $name:ident { $($member:ident: $kind:ty),* }) => {
        #[derive(serde_derive::Deserialize, serde_derive::Serialize)]
        $(#[$attribute])*
        pub struct $name { $($member: $kind),* }
        impl $crate::shown_records::Fill for $name {
            fn filled(lines: &mut $crate::shown_records::Lines) -> Result<Self, $crate::nachklang_adapter::Problem> {
                $crate::shown_records::open(lines)?;
                $(
                    $crate::shown_records::pass(lines)?;
                    let $member = $crate::shown_records::Fill::filled(lines)?;
                )*
                $crate::shown_records::pass(lines)?;
                Ok(Self { $($member),* })
            }
        }
        impl $crate::shown_records::Show for $name {
            fn show(&self, out: &mut String) {
                out.push_str("{\n");
                $(
                    out.push_str(&format!("key {}\n", $crate::nachklang_adapter::field(stringify!($member).as_bytes())));
                    $crate::shown_records::Show::show(&self.$member, out);
                )*
                out.push_str("}\n");
            }
        }
    };
}

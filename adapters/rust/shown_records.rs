//! Records as lines of a trace.
use crate::nachklang_adapter::field;

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

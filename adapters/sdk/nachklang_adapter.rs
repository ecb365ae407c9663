//! The adapter kit for Rust: `serve("json", hello, answer)`, where `answer(&request)` gives the bytes of a reply or a Problem
//! (docs/protocol.md). Call your library inside `library(|| …)`: a panic there is `threw`. A panic anywhere else is a fault of the adapter
//! (`adapter-fault`) and never booked on the library.
use std::io::{BufRead, Read, Write};

pub enum Problem {
    /// The failure that the library documents, and its position as a reply writes it: " offset=3 unit=byte".
    Rejected(String, String),
    /// Cannot be asked of this library.
    Unsupported(String),
    /// A panic inside the library.
    Threw(String),
}

/// One operation on one document. No adapter needs every field.
#[allow(dead_code)]
pub struct Request<'a> {
    pub operation: &'a str,
    pub document: &'a [u8],
    pub mode: &'a str,
    /// The record type, of bind, bind-round-trip and bind-encode.
    pub record: &'a str,
    /// Whether the value is wanted.
    pub show: bool,
}

/// Calls into the library under test.
pub fn library<Value>(call: impl FnOnce() -> Result<Value, Problem>) -> Result<Value, Problem> {
    match std::panic::catch_unwind(std::panic::AssertUnwindSafe(call)) {
        Ok(result) => result,
        Err(panic) => Err(Problem::Threw(message_of(&panic))),
    }
}

fn message_of(panic: &Box<dyn std::any::Any + Send>) -> String {
    let text = panic.downcast_ref::<String>().map(String::as_str).or_else(|| panic.downcast_ref::<&str>().copied());
    format!("panic: {}", text.unwrap_or("no message"))
}

pub fn field(text: &[u8]) -> String {
    let mut out = String::with_capacity(3 + 2 * text.len());
    out.push_str("u8:");
    for byte in text {
        out.push_str(&format!("{byte:02x}"));
    }
    out
}

/// The text of a FIELD; none where it is no UTF-8.
#[allow(dead_code)]
pub fn text_of(field: &str) -> Option<String> {
    let (units, digits) = field.split_once(':')?;
    let width = match units {
        "u8" => 2,
        "u16" => 4,
        _ => 8,
    };
    let numbers: Vec<u32> = (0..digits.len()).step_by(width).map(|at| u32::from_str_radix(&digits[at..at + width], 16)).collect::<Result<_, _>>().ok()?;
    match width {
        2 => String::from_utf8(numbers.iter().map(|&n| n as u8).collect()).ok(),
        4 => String::from_utf16(&numbers.iter().map(|&n| n as u16).collect::<Vec<_>>()).ok(),
        _ => numbers.iter().map(|&n| char::from_u32(n)).collect(),
    }
}

extern "C" {
    fn dup(descriptor: i32) -> i32;
    fn dup2(from: i32, to: i32) -> i32;
}

/// Serves requests until standard input ends; the hello is its lines after the first, each with its line end.
pub fn serve(format: &str, hello: &str, answer: impl Fn(&Request) -> Result<Vec<u8>, Problem> + std::panic::RefUnwindSafe) {
    use std::os::unix::io::FromRawFd;  // std::os::fd is newer than Debian 12's compiler
    // What a library prints must not come between replies.
    let kept = unsafe { dup(1) };
    unsafe { dup2(2, 1) };
    let mut input = std::io::stdin().lock();
    let mut replies = std::io::BufWriter::new(unsafe { std::fs::File::from_raw_fd(kept) });
    let _ = write!(replies, "nachklang-adapter 1\n{hello}\n");
    let _ = replies.flush();
    let mut head = String::new();
    while input.read_line(&mut head).unwrap_or(0) > 0 {
        let words: Vec<&str> = head.trim_end_matches('\n').split(' ').collect();
        let mut document = vec![0; words[2].parse().unwrap_or(0)];
        if input.read_exact(&mut document).is_err() {
            std::process::exit(2);
        }
        let (mut id, mut known) = ("0", words[1] == format);
        let mut request = Request { operation: words[0], document: &document, mode: "", record: "", show: true };
        for word in &words[3..] {
            match word.split_once('=') {
                Some(("id", value)) => id = value,
                Some(("mode", value)) => request.mode = value,
                Some(("record", value)) => request.record = value,
                Some(("show", value)) => request.show = value != "nothing",
                _ => known = false,
            }
        }
        let result = if known { std::panic::catch_unwind(|| answer(&request)) } else { Ok(Err(Problem::Unsupported(String::new()))) };
        let (kind, place, body) = match result {
            Ok(Ok(body)) => ("accepted", String::new(), body),
            Ok(Err(Problem::Rejected(message, place))) => ("rejected", place, message.into_bytes()),
            Ok(Err(Problem::Unsupported(why))) => ("unsupported", String::new(), why.into_bytes()),
            Ok(Err(Problem::Threw(why))) => ("threw", String::new(), why.into_bytes()),
            Err(panic) => ("adapter-fault", String::new(), message_of(&panic).into_bytes()),
        };
        let _ = writeln!(replies, "{kind} {} id={id}{place}", body.len());
        let _ = replies.write_all(&body);
        let _ = replies.flush();
        head.clear();
    }
}

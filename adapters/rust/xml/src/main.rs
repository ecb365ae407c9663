// quick-xml's events, roxmltree's tree and xml-rs's events; the first argument names which.
mod nachklang_adapter;
use nachklang_adapter::{field, library, serve, Problem, Request};

fn rejected(message: impl std::fmt::Display) -> Problem {
    Problem::Rejected(message.to_string(), String::new())
}

/// The text of a document for libraries that take no bytes.
fn text(document: &[u8]) -> Result<&str, Problem> {
    std::str::from_utf8(document).map_err(|error| Problem::Rejected(format!("no UTF-8: {error}"), format!(" offset={} unit=byte", error.valid_up_to())))
}

mod quick {
    use super::{field, rejected, Problem};
    use quick_xml::events::{BytesStart, Event};
    use quick_xml::{Reader, Writer};

    fn reader(document: &[u8]) -> Reader<&[u8]> {
        Reader::from_reader(document)
    }

    fn refused(reader: &Reader<&[u8]>, error: impl std::fmt::Display) -> Problem {
        Problem::Rejected(error.to_string(), format!(" offset={} unit=byte", reader.buffer_position()))
    }

    fn start(element: &BytesStart, out: &mut String) -> Result<(), Problem> {
        out.push_str(&format!("elem {} - -\n", field(element.name().as_ref())));
        for attribute in element.attributes() {
            let attribute = attribute.map_err(rejected)?;
            let value = attribute.unescape_value().map_err(rejected)?;
            out.push_str(&format!("attr {} - - {} -\n", field(attribute.key.as_ref()), field(value.as_bytes())));
        }
        Ok(())
    }

    /// It looks at a text or an attribute only when asked for it: a user who wants the values asks for all.
    pub fn decode(document: &[u8]) -> Result<String, Problem> {
        let mut reader = reader(document);
        let mut out = String::new();
        let mut depth = 0usize;
        loop {
            match reader.read_event() {
                Err(error) => return Err(refused(&reader, error)),
                // The end of input inside elements is no error here: they are closed for it.
                Ok(Event::Eof) => return Ok(out + &"end\n".repeat(depth)),
                Ok(Event::Start(element)) => {
                    depth += 1;
                    start(&element, &mut out).map_err(|p| at(&reader, p))?;
                }
                Ok(Event::Empty(element)) => {
                    start(&element, &mut out).map_err(|p| at(&reader, p))?;
                    out.push_str("end\n");
                }
                Ok(Event::End(_)) => {
                    depth = depth.saturating_sub(1);
                    out.push_str("end\n");
                }
                Ok(Event::Text(held)) => {
                    let held = held.unescape().map_err(|error| refused(&reader, error))?;
                    if depth > 0 {
                        out.push_str(&format!("text {}\n", field(held.as_bytes())));
                    }
                }
                Ok(Event::CData(held)) => out.push_str(&format!("cdata {}\n", field(&held))),
                Ok(Event::Comment(held)) => out.push_str(&format!("comment {}\n", field(&held))),
                Ok(Event::PI(held)) => {
                    let at = held.iter().position(|c| b" \t\r\n".contains(c)).unwrap_or(held.len());
                    let data = &held[at..];
                    let skip = data.iter().position(|c| !b" \t\r\n".contains(c)).unwrap_or(data.len());
                    out.push_str(&format!("pi {} {}\n", field(&held[..at]), field(&data[skip..])));
                }
                Ok(Event::Decl(_)) | Ok(Event::DocType(_)) => (),
            }
        }
    }

    fn at(reader: &Reader<&[u8]>, problem: Problem) -> Problem {
        match problem {
            Problem::Rejected(message, _) => refused(reader, message),
            other => other,
        }
    }

    pub fn round_trip(document: &[u8]) -> Result<Vec<u8>, Problem> {
        let mut reader = reader(document);
        let mut writer = Writer::new(Vec::new());
        loop {
            match reader.read_event() {
                Err(error) => return Err(refused(&reader, error)),
                Ok(Event::Eof) => return Ok(writer.into_inner()),
                Ok(event) => writer.write_event(event).map_err(rejected)?,
            }
        }
    }
}

mod tree {
    use super::{field, text, Problem};
    use roxmltree::{Document, Node, NodeType, ParsingOptions};

    pub fn decode(document: &[u8]) -> Result<String, Problem> {
        let source = text(document)?;
        let tree = Document::parse_with_options(source, ParsingOptions { allow_dtd: true, ..ParsingOptions::default() }).map_err(|error| {
            let place = error.pos();
            Problem::Rejected(error.to_string(), format!(" line={} column={} unit=point", place.row.max(1), place.col.max(1)))
        })?;
        let mut out = String::new();
        let mut next = tree.root().first_child();
        while let Some(node) = next {
            open(&node, &mut out);
            if let Some(child) = node.first_child() {
                next = Some(child);
                continue;
            }
            if node.is_element() {
                out.push_str("end\n");
            }
            next = after(node, &mut out);
        }
        Ok(out)
    }

    fn open(node: &Node, out: &mut String) {
        match node.node_type() {
            NodeType::Element => {
                let name = node.tag_name();
                out.push_str(&format!("elem - {} {}\n", field(name.name().as_bytes()), field(name.namespace().unwrap_or("").as_bytes())));
                for attribute in node.attributes() {
                    let space = attribute.namespace().unwrap_or("");
                    out.push_str(&format!("attr - {} {} {} -\n", field(attribute.name().as_bytes()), field(space.as_bytes()), field(attribute.value().as_bytes())));
                }
            }
            NodeType::Text => out.push_str(&format!("text {}\n", field(node.text().unwrap_or("").as_bytes()))),
            NodeType::Comment => out.push_str(&format!("comment {}\n", field(node.text().unwrap_or("").as_bytes()))),
            NodeType::PI => {
                if let Some(pi) = node.pi() {
                    out.push_str(&format!("pi {} {}\n", field(pi.target.as_bytes()), field(pi.value.unwrap_or("").as_bytes())));
                }
            }
            NodeType::Root => (),
        }
    }

    fn after<'a, 'input>(mut node: Node<'a, 'input>, out: &mut String) -> Option<Node<'a, 'input>> {
        loop {
            if let Some(sibling) = node.next_sibling() {
                return Some(sibling);
            }
            node = node.parent()?;
            if node.is_root() {
                return None;
            }
            out.push_str("end\n");
        }
    }
}

mod events {
    use super::{field, Problem};
    use xml::common::Position;
    use xml::reader::{EventReader, XmlEvent};

    fn name(of: &xml::name::OwnedName) -> String {
        let qname = of.prefix.as_ref().map_or(of.local_name.clone(), |prefix| format!("{prefix}:{}", of.local_name));
        format!("{} {} {}", field(qname.as_bytes()), field(of.local_name.as_bytes()), field(of.namespace.as_deref().unwrap_or("").as_bytes()))
    }

    pub fn decode(document: &[u8]) -> Result<String, Problem> {
        let config = xml::ParserConfig::new().ignore_comments(false).whitespace_to_characters(true).cdata_to_characters(false);
        let mut reader = EventReader::new_with_config(document, config);
        let mut out = String::new();
        let mut depth = 0usize;
        loop {
            match reader.next() {
                Err(error) => {
                    let place = error.position();
                    return Err(Problem::Rejected(error.msg().to_string(), format!(" line={} column={} unit=point", place.row + 1, place.column + 1)));
                }
                Ok(XmlEvent::EndDocument) => return Ok(out),
                Ok(XmlEvent::StartElement { name: element, attributes, .. }) => {
                    depth += 1;
                    out.push_str(&format!("elem {}\n", name(&element)));
                    for attribute in attributes {
                        out.push_str(&format!("attr {} {} -\n", name(&attribute.name), field(attribute.value.as_bytes())));
                    }
                }
                Ok(XmlEvent::EndElement { .. }) => {
                    depth = depth.saturating_sub(1);
                    out.push_str("end\n");
                }
                Ok(XmlEvent::Characters(held)) | Ok(XmlEvent::Whitespace(held)) if depth > 0 => out.push_str(&format!("text {}\n", field(held.as_bytes()))),
                Ok(XmlEvent::CData(held)) => out.push_str(&format!("cdata {}\n", field(held.as_bytes()))),
                Ok(XmlEvent::Comment(held)) => out.push_str(&format!("comment {}\n", field(held.as_bytes()))),
                Ok(XmlEvent::ProcessingInstruction { name, data }) => {
                    out.push_str(&format!("pi {} {}\n", field(name.as_bytes()), field(data.unwrap_or_default().as_bytes())))
                }
                Ok(_) => (),
            }
        }
    }
}

fn answer(which: &str, request: &Request) -> Result<Vec<u8>, Problem> {
    // Almost every line of these calls the library.
    let document = request.document;
    let trace = match (which, request.operation) {
        ("quick-xml", "decode") => library(|| quick::decode(document)),
        ("quick-xml", "round-trip") => return library(|| quick::round_trip(document)),
        ("roxmltree", "decode") => library(|| tree::decode(document)),
        ("xml-rs", "decode") => library(|| events::decode(document)),
        _ => Err(Problem::Unsupported("unknown operation".into())),
    }?;
    let nothing = || "text u8:\n".to_string(); // a document that was accepted and holds nothing at all
    Ok(if request.show { if trace.is_empty() { nothing() } else { trace } } else { String::new() }.into_bytes())
}

fn main() {
    let which = std::env::args().nth(1).unwrap_or_default();
    let is = match which.as_str() {
        "quick-xml" => "quick-xml 0.26.0\nxml decode round-trip\ncannot-represent doctype namespaces\nsetting namespaces=off\n",
        "roxmltree" => "roxmltree 0.16.0\nxml decode\ncannot-represent doctype doctype-content cdata prefixes declarations\nsetting namespaces=on\nsetting input=text\n",
        _ => "xml-rs 0.8.3\nxml decode\ncannot-represent doctype declarations\nsetting namespaces=on\n",
    };
    serve("xml", &format!("implementation {is}"), |request: &Request| answer(&which, request));
}

//! Defects of Rust's libraries that decode XML into records and write them, each shown by a call without any kit: a line for each, its name and
//! what the library does.
use serde_derive::{Deserialize, Serialize};

#[derive(Deserialize, Serialize)]
#[serde(rename = "record")]
struct Whole {
    value: i32,
}
#[derive(Deserialize, Serialize)]
#[serde(rename = "record")]
struct Label {
    value: String,
}
#[derive(Deserialize, Serialize)]
#[serde(rename = "record")]
struct Wholes {
    value: Vec<i32>,
}
#[derive(Deserialize, Serialize)]
#[serde(rename = "record")]
struct Nested {
    value: Whole,
}

fn shown<Error: std::fmt::Display>(name: &str, result: Result<impl std::fmt::Display, Error>) {
    match result {
        Ok(value) => println!("{name}\t{value}"),
        Err(error) => println!("{name}\trefused: {error}"),
    }
}

fn main() {
    let quick = |document| quick_xml::de::from_str::<Whole>(document).map(|record| record.value);
    shown("quick-xml-comment", quick("<record><value>1<!--c-->2</value></record>"));
    shown("quick-xml-section", quick("<record><value>1<![CDATA[2]]>3</value></record>"));
    shown("quick-xml-reference", quick("<record><value>1&#50;</value></record>"));
    shown("quick-xml-list", quick_xml::se::to_string(&Wholes { value: vec![7, 8] }));
    shown("quick-xml-empty-text", quick_xml::se::to_string(&Label { value: String::new() }));
    shown("serde-xml-rs-ampersand", serde_xml_rs::to_string(&Label { value: "a & b".into() }));
    shown("serde-xml-rs-nested", serde_xml_rs::to_string(&Nested { value: Whole { value: 7 } }));
}

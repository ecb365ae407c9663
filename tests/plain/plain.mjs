// JavaScript's libraries without any kit: plain.mjs LIBRARY, then file names on standard input. See README.md for the lines it prints.
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";

const require = createRequire("/usr/share/nodejs/");
const text = (bytes) => new TextDecoder("utf-8", { fatal: true, ignoreBOM: process.argv[2] === "json" }).decode(bytes);
const hexed = (string) => Array.from({ length: string.length }, (_, i) => string.charCodeAt(i).toString(16).padStart(4, "0")).join("");

function jsonValue(value, out) {
  if (value === null || typeof value === "boolean") out.push(String(value));
  else if (typeof value === "string") out.push("S" + hexed(value));
  else if (typeof value === "number") out.push("n" + (Object.is(value, -0) ? "-0.0" : String(value)));
  else if (Array.isArray(value)) {
    out.push("[");
    for (const item of value) jsonValue(item, out);
    out.push("]");
  } else {
    out.push("{");
    for (const name of Object.keys(value)) {
      out.push("K" + hexed(name));
      jsonValue(value[name], out);
    }
    out.push("}");
  }
}

const utf8 = (string) => Buffer.from(string, "utf8").toString("hex");
const full = (node) => utf8(node.uri ? `{${node.uri}}${node.local}` : node.local);
const decode = {
  json: (document) => {
    const value = JSON.parse(text(document));
    const out = ["w" + Buffer.from(JSON.stringify(value), "utf8").toString("hex")];
    jsonValue(value, out);
    return out;
  },
  sax: (document) => {
    const out = [];
    const parser = require("/usr/share/nodejs/sax").parser(true, { xmlns: true });
    parser.onerror = (error) => {
      throw error;
    };
    parser.onopentag = (node) => {
      out.push("<" + full(node));
      const attributes = Object.values(node.attributes).filter((a) => a.name !== "xmlns" && a.prefix !== "xmlns");
      out.push(...attributes.map((a) => `a${full(a)}=${utf8(a.value)}`).sort());
    };
    parser.onclosetag = () => out.push(">");
    parser.ontext = parser.oncdata = (characters) => out.push("T" + hexed(characters));
    parser.write(text(document)).close();
    return out;
  },
}[process.argv[2]];
for (const path of readFileSync(0, "utf8").split("\n").slice(0, -1)) {
  try {
    console.log(["accepted", ...decode(readFileSync(path))].join(" "));
  } catch {
    console.log("rejected");
  }
}

// xml2js: a document to objects and back. What it holds (attributes as `$`, text as `_`, children as lists by their name) has no order of mixed content:
// round trips show it. It is built on sax; bytes are decoded here, as it takes text.
import { createRequire } from "node:module";
import { readFileSync } from "node:fs";
import { serve, Rejected, Unsupported, library } from "../sdk/nachklang_adapter.mjs";

const require = createRequire("/usr/share/nodejs/"); // where Debian keeps it, and no search path leads
const { Parser, Builder } = require("/usr/share/nodejs/xml2js");
const version = (name) => JSON.parse(readFileSync(`/usr/share/nodejs/${name}/package.json`)).version;

function load(document) {
  let text;
  try {
    text = new TextDecoder("utf-8", { fatal: true }).decode(document);
  } catch (error) {
    throw new Rejected("no UTF-8: " + error.message);
  }
  let failure = null, held;
  try {
    // It calls back with an error, and on a second one throws after that.
    library(() => new Parser({ async: false }).parseString(text, (error, value) => {
      failure ??= error;
      held = value;
    }));
  } catch (error) {
    if (!failure) throw error;
  }
  if (failure) throw new Rejected(failure.message.split("\n")[0]);
  return held;
}

function roundTrip(document) {
  const held = load(document);
  if (held === null || held === undefined) throw new Unsupported("parseString gave no value to write");
  return library(() => new Builder({ renderOpts: { pretty: false } }).buildObject(held), Error);
}

serve({
  implementation: "xml2js " + version("xml2js"),
  engine: "sax " + version("sax"),
  capabilities: { xml: { roundTrip } },
  settings: { input: "text", namespaces: "off" },
});

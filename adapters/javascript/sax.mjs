// sax: its events in strict mode, with namespaces; bytes are decoded here, fatally, as it takes text.
import { createRequire } from "node:module";
import { readFileSync } from "node:fs";
import { serve, Rejected, field, library, own } from "../sdk/nachklang_adapter.mjs";

const require = createRequire(import.meta.url);
const folder = "/usr/share/nodejs/sax"; // where Debian keeps it, and no search path leads
const sax = require(folder);
const { version } = JSON.parse(readFileSync(`${folder}/package.json`));

function decode(document, trace, mode) {
  pieces([document], trace, mode);
}

/** As a stream hands them over: what is cut inside a character comes with the next piece. */
function texts(pieces) {
  const decoder = new TextDecoder("utf-8", { fatal: true });
  try {
    return [...pieces.map((piece) => decoder.decode(piece, { stream: true })), decoder.decode()].filter((text) => text !== "");
  } catch (error) {
    throw new Rejected("no UTF-8: " + error.message);
  }
}

function pieces(parts, trace, mode) {
  const all = texts(parts);
  const parser = sax.parser(true, { xmlns: mode !== "plain", position: true });
  let failure = null;
  parser.onerror = (error) => {
    failure ??= new Rejected(error.message.split("\n")[0], { line: parser.line + 1, column: parser.column + 1, unit: "utf16" });
  };
  if (trace.wanted) {
    parser.onopentag = (node) => {
      trace.line(`elem ${field(node.name)} ` + (mode === "plain" ? "- -" : `${field(node.local)} ${field(node.uri ?? "")}`));
      for (const [name, held] of Object.entries(node.attributes)) {
        const value = held?.value ?? held;
        if (mode === "plain" || name === "xmlns" || name.startsWith("xmlns:")) trace.line(`attr ${field(name)} - - ${field(value)} -`);
        else trace.line(`attr ${field(name)} ${field(held.local)} ${field(held.uri ?? "")} ${field(value)} -`);
      }
    };
    let depth = 0;
    parser.onopentagstart = () => ++depth;
    parser.onclosetag = () => {
      --depth;
      trace.line("end");
    };
    parser.ontext = (t) => depth > 0 && trace.line("text " + field(t));
    parser.onopencdata = () => trace.line("cdata u16:");
    parser.oncdata = (t) => {
      if (trace.lines.at(-1) === "cdata u16:") trace.lines.pop();
      trace.line("cdata " + field(t));
    };
    parser.oncomment = (t) => trace.line("comment " + field(t));
    parser.onprocessinginstruction = ({ name, body }) => name !== "xml" && trace.line(`pi ${field(name)} ${field(body)}`);
    parser.ondoctype = (t) => trace.line("doctype " + field(t.trim().split(/[\s[]/)[0]));
  }
  for (const event of sax.EVENTS) if (parser["on" + event] && event !== "error") parser["on" + event] = own(parser["on" + event]);
  try {
    library(() => {
      for (const text of all) parser.write(text);
      parser.close();
    });
  } catch (error) {
    // Once it has called back with an error, it throws that error, or what follows from it, at the next call.
    throw failure ?? error;
  }
  if (failure) throw failure;
}

serve({
  implementation: "sax " + version,
  capabilities: { xml: { decode, pieces } },
  settings: { input: "text" },
  modes: ["namespaces", "plain"],
});

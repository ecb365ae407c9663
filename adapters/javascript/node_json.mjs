// JSON.parse and JSON.stringify of Node.js (V8). The bytes are decoded to text first, with a fatal TextDecoder, so
// ill-formed UTF-8 never reaches the library.
import { Rejected, library, printValue, serve, valueOf } from "../sdk/nachklang_adapter.mjs";

const decoder = new TextDecoder("utf-8", { fatal: true, ignoreBOM: true });

function parse(document) {
  let text;
  try {
    text = decoder.decode(document);
  } catch (error) {
    throw new Rejected(error.message);
  }
  return library(() => {
    try {
      return JSON.parse(text);
    } catch (error) {
      if (!(error instanceof SyntaxError)) throw error;
      const place = /position (\d+)/.exec(error.message);
      throw new Rejected(error.message, place ? { offset: Number(place[1]), unit: "utf16" } : {});
    }
  });
}

function stringify(value, mode) {
  // TypeError is documented for cycles and BigInt.
  return library(() => JSON.stringify(value, null, mode === "indented" ? 2 : 0), TypeError);
}

serve({
  implementation: "node-json " + process.versions.node,
  engine: "v8 " + process.versions.v8,
  capabilities: {
    json: {
      decode: (document, trace) => printValue(parse(document), trace),
      roundTrip: (document, mode) => stringify(parse(document), mode),
      encode: (trace, mode) => stringify(valueOf(trace), mode),
    },
  },
  cannotRepresent: ["duplicates"],
  settings: { input: "text" },
  modes: ["compact", { name: "indented", operations: { json: ["encode"] } }],
});

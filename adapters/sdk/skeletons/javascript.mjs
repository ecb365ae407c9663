// An adapter for @NAME@. Replace JSON.parse and JSON.stringify by calls into your library, and SyntaxError by the error
// that it documents. docs/protocol.md describes what an adapter must do; the kit does most of it.
import { Rejected, printValue, serve, valueOf } from "@SDK@/nachklang_adapter.mjs";

const decoder = new TextDecoder("utf-8", { fatal: true, ignoreBOM: true });

function load(document) {
  try {
    return JSON.parse(decoder.decode(document));
  } catch (error) {
    if (!(error instanceof SyntaxError) && !(error instanceof TypeError)) throw error;
    throw new Rejected(error.message); // only the documented failure; anything else is reported as `threw`
  }
}

serve({
  implementation: "@NAME@ 0.1",
  capabilities: {
    json: {
      decode: (document, trace) => printValue(load(document), trace),
      roundTrip: (document) => JSON.stringify(load(document)),
      encode: (trace) => JSON.stringify(valueOf(trace)),
    },
  },
  cannotRepresent: ["duplicates"],
  settings: { input: "text" },
});

// An adapter for @NAME@. Replace JSON.parse and JSON.stringify by calls into your library, and SyntaxError by the error
// that it documents. docs/protocol.md describes what an adapter must do; the kit does most of it.
import { library, printValue, serve, valueOf } from "@SDK@/nachklang_adapter.mjs";

const decoder = new TextDecoder("utf-8", { fatal: true, ignoreBOM: true });

// What leaves library() is the library's: the errors named are a refusal, any other `threw`.
const load = (document) => library(() => JSON.parse(decoder.decode(document)), SyntaxError, TypeError);
const dump = (value) => library(() => JSON.stringify(value), TypeError);

serve({
  implementation: "@NAME@ 0.1",
  capabilities: {
    json: {
      decode: (document, trace) => printValue(load(document), trace),
      roundTrip: (document) => dump(load(document)),
      encode: (trace) => dump(valueOf(trace)),
    },
  },
  cannotRepresent: ["duplicates"],
  settings: { input: "text" },
});

// The adapter kit for JavaScript (Node.js): describe the implementation, define functions, call serve().
//
//     import { library, printValue, serve } from "../sdk/nachklang_adapter.mjs";
//     const decode = (document, trace) => printValue(library(() => tower.parse(document), tower.Error), trace);
//     serve({ implementation: "tower-json 3.2", capabilities: { json: { decode, roundTrip } } });
//
// decode(document, trace, mode) prints to `trace` (where trace.wanted); roundTrip(document, mode) and encode(trace, mode)
// return a Buffer or a string. Call your library inside library(): the errors that it documents become `rejected` (throw Rejected
// to add a position), others `threw`. An error thrown anywhere else is a fault of the adapter (`adapter-fault`) and never booked on
// the library; wrap functions that the library calls back in own(). docs/protocol.md describes what goes over the pipes.
import { closeSync, openSync, readSync, writeSync } from "node:fs";

export class Rejected extends Error {
  constructor(message, place = {}) {
    super(message);
    this.place = place; // { offset, line, column, unit }
  }
}
export class Unsupported extends Error {}

/** What left the library and is not documented. */
class LibraryFailure extends Error {
  constructor(kind, message) {
    super(message);
    this.kind = kind;
  }
}
class Fault extends Error {}
const ours = [Rejected, Unsupported, LibraryFailure, Fault];
const isOurs = (error) => ours.some((kind) => error instanceof kind);

/** Calls into the library under test; `documented` are the classes that it documents for a text it refuses. */
export function library(call, ...documented) {
  try {
    return call();
  } catch (error) {
    if (isOurs(error)) throw error;
    const message = String(error?.message ?? error);
    if (documented.some((kind) => error instanceof kind)) throw new Rejected(message);
    const exhausted = error instanceof RangeError && /call stack|string length|array length|allocation/i.test(message);
    throw new LibraryFailure(exhausted ? "exhausted" : "threw", message);
  }
}

/** A function of the adapter that the library calls back: what it throws is the adapter's. */
export const own = (call) => (...values) => {
  try {
    return call(...values);
  } catch (error) {
    throw isOurs(error) ? error : new Fault(String(error?.stack ?? error));
  }
};

/** A string as UTF-8; a lone surrogate becomes its three bytes, so that the text is ill-formed, as it was written. */
function encoded(text) {
  if (text.isWellFormed?.() ?? !/\p{Surrogate}/u.test(text)) return Buffer.from(text);
  return Buffer.concat([...text].map((character) => {
    const c = character.codePointAt(0);
    return c >= 0xd800 && c < 0xe000 ? Buffer.from([0xe0 | (c >> 12), 0x80 | ((c >> 6) & 0x3f), 0x80 | (c & 0x3f)]) : Buffer.from(character);
  }));
}

/** A FIELD of a string: UTF-16 units, lone surrogates kept. */
export function field(text) {
  let out = "u16:";
  for (let i = 0; i < text.length; ++i) out += text.charCodeAt(i).toString(16).padStart(4, "0");
  return out;
}

const scratch = new DataView(new ArrayBuffer(8));
export function binary64(value) {
  scratch.setFloat64(0, value);
  return "binary64 " + scratch.getBigUint64(0).toString(16).padStart(16, "0");
}

export class Trace {
  constructor(wanted) {
    this.wanted = wanted;
    this.lines = [];
  }
  line(text) {
    this.lines.push(text);
  }
  buffer() {
    // Without a line: a document of XML that was accepted and holds nothing at all.
    return Buffer.from(this.wanted ? (this.lines.length ? this.lines.join("\n") : "text u8:") + "\n" : "", "latin1");
  }
}

function scalar(value) {
  switch (typeof value) {
    case "number": return binary64(value);
    case "string": return "str " + field(value);
    case "boolean": return value ? "true" : "false";
    case "bigint": return "int " + value;
    default: return value === null ? "null" : `native ${typeof value} -`;
  }
}

/** Prints what JSON values become in JavaScript, with a stack of its own. */
export function printValue(root, trace) {
  if (!trace.wanted) return;
  const stack = [{ closer: "", names: null, values: [root], next: 0 }];
  while (stack.length) {
    const level = stack[stack.length - 1];
    if (level.next === level.values.length) {
      stack.pop();
      if (level.closer) trace.line(level.closer);
      continue;
    }
    const at = level.next++;
    if (level.names) trace.line("key " + field(level.names[at]));
    const value = level.values[at];
    if (Array.isArray(value)) {
      trace.line("[");
      stack.push({ closer: "]", names: null, values: value, next: 0 });
    } else if (value !== null && typeof value === "object") {
      trace.line("{");
      const names = Object.keys(value);
      stack.push({ closer: "}", names, values: names.map((name) => value[name]), next: 0 });
    } else {
      trace.line(scalar(value));
    }
  }
}

/** The string of a FIELD; `u8` must be well-formed, a string here cannot hold other bytes. */
function textOf(fieldText) {
  const [units, digits] = fieldText.split(":");
  if (units === "u8") {
    try {
      return new TextDecoder("utf-8", { fatal: true, ignoreBOM: true }).decode(Buffer.from(digits, "hex"));
    } catch {
      throw new Unsupported("strings are UTF-16 here");
    }
  }
  const width = units === "u16" ? 4 : 8;
  let out = "";
  for (let i = 0; i < digits.length; i += width) out += String.fromCodePoint(parseInt(digits.slice(i, i + width), 16));
  return out;
}

function scalarOf(word, rest) {
  switch (word) {
    case "null": return null;
    case "true": return true;
    case "false": return false;
    case "str": return textOf(rest);
    case "binary64":
      scratch.setBigUint64(0, BigInt("0x" + rest));
      return scratch.getFloat64(0);
    case "int":
      if (!Number.isSafeInteger(Number(rest))) throw new Unsupported("numbers are doubles here");
      return Number(rest);
    default: throw new Unsupported("no value for " + word);
  }
}

/** The value that a trace (a Buffer) tells, to be encoded: arrays and objects. Cycles are kept. */
export function valueOf(trace) {
  const levels = [];
  let root, name;
  for (const line of trace.toString("latin1").split("\n").slice(0, -1)) {
    const space = line.indexOf(" ");
    const word = space < 0 ? line : line.slice(0, space);
    const rest = space < 0 ? "" : line.slice(space + 1);
    if (word === "key") {
      if (!rest.includes(":")) throw new Unsupported("names are strings here");
      name = textOf(rest);
      continue;
    }
    if (word === "]" || word === "}") {
      levels.pop();
      continue;
    }
    const value = word === "cycle" ? levels.at(-Number(rest)) : word === "[" ? [] : word === "{" ? {} : scalarOf(word, rest);
    const level = levels.at(-1);
    if (level === undefined) root = value;
    else if (Array.isArray(level)) level.push(value);
    else if (Object.hasOwn(level, name)) throw new Unsupported("an object holds a name once");
    else Object.defineProperty(level, name, { value, enumerable: true, writable: true, configurable: true });
    if (word === "[" || word === "{") levels.push(value);
  }
  return root;
}

// Keeps the real standard output for the replies and points descriptor 1 at standard error, so that what a library prints
// goes there. Node.js has no dup: the pipe is opened anew, and the next descriptor opened takes the place of the one closed.
let replies = 1;
function keepStandardOutput() {
  replies = openSync("/proc/self/fd/1", "w");
  closeSync(1);
  openSync("/proc/self/fd/2", "w");
}

function writeAll(buffer) {
  for (let at = 0; at < buffer.length; ) {
    try {
      at += writeSync(replies, buffer, at);
    } catch (error) {
      if (error.code !== "EAGAIN") throw error;
    }
  }
}

class Input {
  constructor() {
    this.kept = Buffer.alloc(0);
  }
  more(atLeast) {
    const piece = Buffer.allocUnsafe(Math.max(65536, atLeast));
    for (;;) {
      try {
        const count = readSync(0, piece, 0, piece.length, null);
        this.kept = Buffer.concat([this.kept, piece.subarray(0, count)]);
        return count > 0;
      } catch (error) {
        if (error.code === "EOF") return false;
        if (error.code !== "EAGAIN") throw error;
      }
    }
  }
  line() {
    let end;
    while ((end = this.kept.indexOf(10)) < 0) if (!this.more(0)) return null;
    const out = this.kept.subarray(0, end).toString("latin1");
    this.kept = this.kept.subarray(end + 1);
    return out;
  }
  bytes(count) {
    while (this.kept.length < count) if (!this.more(count - this.kept.length)) throw new Error("input ended in a body");
    const out = Buffer.from(this.kept.subarray(0, count));
    this.kept = this.kept.subarray(count);
    return out;
  }
}

/** The wire's name of an operation: roundTrip is "round-trip". */
const wireName = (operation) => operation.replace(/[A-Z]/g, (letter) => "-" + letter.toLowerCase());

function hello({ implementation, engine, capabilities, cannotRepresent = [], settings = {}, modes = [] }) {
  const lines = ["nachklang-adapter 1", "implementation " + implementation];
  if (engine) lines.push("engine " + engine);
  for (const [name, operations] of Object.entries(capabilities)) lines.push([name, ...Object.keys(operations).map(wireName)].join(" "));
  if (cannotRepresent.length) lines.push("cannot-represent " + cannotRepresent.join(" "));
  for (const [key, value] of Object.entries(settings)) lines.push(`setting ${key}=${value}`);
  for (const mode of modes) {
    // A name, or { name, operations: { json: ["encode"] } } where it does not do all.
    lines.push("mode " + (mode.name ?? mode));
    for (const [name, operations] of Object.entries(mode.operations ?? {})) lines.push([name, ...operations].join(" "));
  }
  return lines.join("\n") + "\n\n";
}

/** The document in pieces that end at the offsets "3,7", or after "each" byte. */
function pieces(document, cuts) {
  const ends = cuts === "each" ? [...document.keys()] : cuts.split(",").map(Number);
  const places = [0, ...ends.filter((end) => end > 0 && end < document.length), document.length];
  return places.slice(1).map((end, i) => document.subarray(places[i], end)).filter((piece) => piece.length > 0);
}

function answer(operations, wanted, document, keys) {
  const operation = Object.keys(operations).find((name) => wireName(name) === wanted);
  const known = ["id", "mode", "show", "cuts"];
  if (!operation || Object.keys(keys).some((key) => !known.includes(key))) return ["unsupported", Buffer.alloc(0), {}];
  try {
    if (operation === "decode" || operation === "pieces") {
      const trace = new Trace(keys.show !== "nothing");
      operations[operation](operation === "pieces" ? pieces(document, keys.cuts ?? "") : document, trace, keys.mode ?? "");
      return ["accepted", trace.buffer(), {}];
    }
    const written = operations[operation](document, keys.mode ?? "");
    return ["accepted", typeof written === "string" ? encoded(written) : Buffer.from(written), {}];
  } catch (error) {
    const message = Buffer.from(String(error?.message ?? error));
    if (error instanceof Rejected) return ["rejected", message, error.place];
    if (error instanceof Unsupported) return ["unsupported", message, {}];
    if (error instanceof LibraryFailure) return [error.kind, message, {}];
    return ["adapter-fault", message, {}];
  }
}

/** Serves requests until standard input ends. */
export function serve(adapter) {
  keepStandardOutput();
  writeAll(Buffer.from(hello(adapter)));
  const input = new Input();
  for (let head; (head = input.line()) !== null; ) {
    const [operation, name, length, ...rest] = head.split(" ");
    const document = input.bytes(Number(length));
    const keys = Object.fromEntries(rest.map((word) => word.split(/=(.*)/s).slice(0, 2)));
    const [kind, body, place] = answer(adapter.capabilities[name] ?? {}, operation, document, keys);
    let line = `${kind} ${body.length} id=${keys.id ?? 0}`;
    for (const [key, value] of Object.entries(place)) if (value !== undefined) line += ` ${key}=${value}`;
    writeAll(Buffer.concat([Buffer.from(line + "\n", "latin1"), body]));
  }
}

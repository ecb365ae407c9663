// JavaScript's libraries without any kit: plain.mjs LIBRARY, then file names on standard input; for each one a line, accepted or rejected.
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";

const require = createRequire("/usr/share/nodejs/");
const text = (bytes) => new TextDecoder("utf-8", { fatal: true, ignoreBOM: process.argv[2] === "json" }).decode(bytes);
const decode = {
  json: (document) => JSON.parse(text(document)),
  sax: (document) => {
    const parser = require("/usr/share/nodejs/sax").parser(true, { xmlns: true });
    parser.onerror = (error) => {
      throw error;
    };
    parser.write(text(document)).close();
  },
}[process.argv[2]];
for (const path of readFileSync(0, "utf8").split("\n").slice(0, -1)) {
  try {
    decode(readFileSync(path));
    console.log("accepted");
  } catch {
    console.log("rejected");
  }
}

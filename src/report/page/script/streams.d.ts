// The Compression Standard (WHATWG), which this version of TypeScript does not know.
declare class DecompressionStream {
  constructor(format: "gzip");
  readonly readable: ReadableStream<Uint8Array>;
  readonly writable: WritableStream<Uint8Array>;
}

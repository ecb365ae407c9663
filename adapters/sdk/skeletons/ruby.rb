# An adapter for @NAME@. Replace JSON.parse and JSON.generate by calls into your library, and JSON::ParserError by the
# error that it documents. docs/protocol.md describes what an adapter must do; the kit does most of it.
require "json"
require "@SDK@/nachklang_adapter"

# What leaves library is the library's: the errors named are a refusal, any other `threw`.
load_text = lambda do |document|
  Nachklang.library(JSON::ParserError) { JSON.parse(document.dup.force_encoding("UTF-8")) }
end
dump = ->(value) { Nachklang.library(JSON::GeneratorError) { JSON.generate(value) } }

Nachklang.serve(
  implementation: "@NAME@ 0.1",
  json: {
    decode: ->(document, trace, _mode) { Nachklang.print_value(load_text.call(document), trace) },
    round_trip: ->(document, _mode) { dump.call(load_text.call(document)) },
    encode: ->(trace, _mode) { dump.call(Nachklang.value_of(trace)) }
  },
  cannot_represent: ["duplicates"]
)

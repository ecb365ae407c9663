# An adapter for @NAME@. Replace JSON.parse and JSON.generate by calls into your library, and JSON::ParserError by the
# error that it documents. docs/protocol.md describes what an adapter must do; the kit does most of it.
require "json"
require "@SDK@/nachklang_adapter"

load_text = lambda do |document|
  JSON.parse(document.dup.force_encoding("UTF-8"))
rescue JSON::ParserError => e
  raise Nachklang::Rejected, e.message # only the documented failure; anything else is reported as `threw`
end

Nachklang.serve(
  implementation: "@NAME@ 0.1",
  json: {
    decode: ->(document, trace, _mode) { Nachklang.print_value(load_text.call(document), trace) },
    round_trip: ->(document, _mode) { JSON.generate(load_text.call(document)) },
    encode: ->(trace, _mode) { JSON.generate(Nachklang.value_of(trace)) }
  },
  cannot_represent: ["duplicates"]
)

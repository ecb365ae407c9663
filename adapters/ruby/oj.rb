# Oj: its modes answer differently, so each is one here.
require "json" # Oj raises its error classes in some modes
require "oj"
require "bigdecimal"
require_relative "../sdk/nachklang_adapter"

OPTIONS = {
  "strict" => { mode: :strict },
  "compat" => { mode: :compat },
  "strict-decimal" => { mode: :strict, bigdecimal_load: :bigdecimal },
  "strict-float" => { mode: :strict, bigdecimal_load: :float },
  "rails" => { mode: :rails }
}.freeze

load_text = lambda do |document, mode|
  Nachklang.library(JSON::ParserError) do
    Oj.load(document, OPTIONS.fetch(mode, { mode: :strict }))
  rescue Oj::ParseError, EncodingError => e
    place = /\(line (\d+), column (\d+)\)/.match(e.message.b)
    raise Nachklang::Rejected.new(e.message, **(place ? { line: place[1].to_i, column: place[2].to_i } : {}))
  end
end

# With a block Oj.load gives each of several documents to it.
each_document = lambda do |text, trace, mode|
  Nachklang.library(JSON::ParserError) do
    Oj.load(text, OPTIONS.fetch(mode, { mode: :strict })) { |value| Nachklang.print_value(value, trace) }
  rescue Oj::ParseError, EncodingError => e
    raise Nachklang::Rejected, e.message
  end
end

DOCUMENTED = [TypeError, ArgumentError, EncodingError, NoMemoryError, JSON::GeneratorError].freeze
dump = ->(value, mode) { Nachklang.library(*DOCUMENTED) { Oj.dump(value, OPTIONS.fetch(mode, { mode: :strict })) } }

Nachklang.serve(
  implementation: "oj #{Oj::VERSION}",
  json: { decode: ->(d, trace, mode) { Nachklang.print_value(load_text.call(d, mode), trace) },
          sequence: each_document,
          open_stream: each_document,
          round_trip: ->(d, mode) { dump.call(load_text.call(d, mode), mode) },
          encode: ->(t, mode) { dump.call(Nachklang.value_of(t), mode) } },
  cannot_represent: ["duplicates"],
  modes: OPTIONS.keys.to_h { |mode| [mode, mode.start_with?("strict-") ? %w[decode] : mode == "strict" ? [] : %w[decode round-trip encode]] }
)

# Ruby's json, which the language ships: its defaults, its own constants allowed, no limit of depth, output paths.
require "json"
require_relative "../sdk/nachklang_adapter"

READING = {
  "nan" => { allow_nan: true },
  "deep" => { max_nesting: false }
}.freeze

load_text = lambda do |document, mode|
  # JSON::NestingError is a ParserError, too.
  Nachklang.library(JSON::ParserError) { JSON.parse(document.dup.force_encoding("UTF-8"), **READING.fetch(mode, {})) }
end

write = lambda do |value, mode|
  case mode
  when "pretty" then JSON.pretty_generate(value)
  when "ascii" then JSON.generate(value, ascii_only: true)
  when "script-safe" then JSON.generate(value, script_safe: true)
  when "nan" then JSON.generate(value, allow_nan: true)
  when "deep" then JSON.generate(value, max_nesting: 0)
  else JSON.generate(value)
  end
end
dump = ->(value, mode) { Nachklang.library(JSON::GeneratorError, JSON::NestingError) { write.call(value, mode) } }

decode = ->(document, trace, mode) { Nachklang.print_value(load_text.call(document, mode), trace) }

Nachklang.serve(
  implementation: "ruby-json #{JSON::VERSION}",
  json: { decode: decode, round_trip: ->(d, mode) { dump.call(load_text.call(d, mode), mode) }, encode: ->(t, mode) { dump.call(Nachklang.value_of(t), mode) } },
  cannot_represent: ["duplicates"],
  modes: { "default" => [], "nan" => { settings: { purpose: "lax" } }, "deep" => %w[decode round-trip], "pretty" => %w[encode], "ascii" => %w[encode], "script-safe" => %w[encode] }
)

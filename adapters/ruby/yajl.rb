# yajl-ruby, which has a YAJL of its own.
require "yajl"
require_relative "../sdk/nachklang_adapter"

load_text = lambda do |document, _mode|
  Yajl::Parser.parse(document)
rescue Yajl::ParseError => e
  raise Nachklang::Rejected, e.message
end

dump = lambda do |value|
  Yajl::Encoder.encode(value)
rescue Yajl::EncodeError => e
  raise Nachklang::Rejected, e.message
end

Nachklang.serve(
  implementation: "yajl-ruby #{Gem::Specification.find_by_name("yajl-ruby").version}",
  engine: "yajl",
  json: { decode: ->(d, trace, mode) { Nachklang.print_value(load_text.call(d, mode), trace) },
          round_trip: ->(d, mode) { dump.call(load_text.call(d, mode)) },
          encode: ->(t, _mode) { dump.call(Nachklang.value_of(t)) } },
  cannot_represent: ["duplicates"]
)

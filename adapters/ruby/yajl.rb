# yajl-ruby, which has a YAJL of its own.
require "yajl"
require_relative "../sdk/nachklang_adapter"

load_text = ->(document, _mode) { Nachklang.library(Yajl::ParseError) { Yajl::Parser.parse(document) } }
dump = ->(value) { Nachklang.library(Yajl::EncodeError) { Yajl::Encoder.encode(value) } }

Nachklang.serve(
  implementation: "yajl-ruby #{Gem::Specification.find_by_name("yajl-ruby").version}",
  engine: "yajl",
  json: { decode: ->(d, trace, mode) { Nachklang.print_value(load_text.call(d, mode), trace) },
          sequence: lambda do |text, trace, _mode|
            parser = Yajl::Parser.new
            parser.on_parse_complete = ->(value) { Nachklang.print_value(value, trace) }
            Nachklang.library(Yajl::ParseError) { parser.parse(text) }
          end,
          open_stream: lambda do |stream, trace, _mode|
            parser = Yajl::Parser.new
            parser.on_parse_complete = ->(value) { Nachklang.print_value(value, trace) }
            Nachklang.library(Yajl::ParseError) { parser << stream.read while stream.more? }
          end,
          round_trip: ->(d, mode) { dump.call(load_text.call(d, mode)) },
          encode: ->(t, _mode) { dump.call(Nachklang.value_of(t)) } },
  cannot_represent: ["duplicates"]
)

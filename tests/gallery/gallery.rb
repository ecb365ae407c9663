# Defects of Ruby's libraries, each shown by a call without any kit: a line for each, its name and what the library does.
require "rexml/document"

def installed(name)
  require name
rescue LoadError
  nil
end

def shown(name)
  result = yield
  puts "#{name}\t#{result}"
rescue StandardError => e
  puts "#{name}\t#{e.class}: #{e.message.lines.first.strip}"
end

shown("rexml-section-end") { REXML::Document.new("<a>]]></a>").root.text }
shown("rexml-undeclared-entity") { REXML::Document.new("<a>&e;</a>").root.text }
shown("rexml-empty-document") { REXML::Document.new("").to_s.inspect }
shown("rexml-declaration-not-first") { REXML::Document.new(" <?xml version='1.0'?><a/>").root.name }

if installed("yajl")
  shown("yajl-ruby-number-first") do
    values = []
    parser = Yajl::Parser.new
    parser.on_parse_complete = ->(value) { values << value }
    parser.parse("12\n[1]\n[2]\n")
    values.inspect
  end
  shown("yajl-ruby-cut") do
    values = []
    parser = Yajl::Parser.new
    parser.on_parse_complete = ->(value) { values << value }
    parser.parse("[1]\n[2")
    values.inspect
  end
end
if installed("oj")
  shown("oj-nul") do
    values = []
    Oj.load("[1]\0[2]", mode: :strict) { |value| values << value }
    values.inspect
  end
end

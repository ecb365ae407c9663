# Defects of Ruby's libraries, each shown by a call without any kit: a line for each, its name and what the library does.
require "rexml/document"

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

# Ruby's libraries without any kit: plain.rb LIBRARY, then file names on standard input; for each one a line, accepted or rejected.
$stdout.sync = true
name = ARGV.shift
decode =
  case name
  when "json"
    require "json"
    ->(document) { JSON.parse(document.force_encoding("UTF-8")) }
  when "oj-strict"
    require "oj"
    ->(document) { Oj.load(document, mode: :strict) }
  when "yajl"
    require "yajl"
    ->(document) { Yajl::Parser.parse(document) }
  when "rexml"
    require "rexml/document"
    ->(document) { REXML::Document.new(document.force_encoding("UTF-8")) }
  else
    require "nokogiri"
    ->(document) { Nokogiri::XML(document, nil, nil) { |config| config.strict.noent.nonet.huge } }
  end
$stdin.each_line(chomp: true) do |path|
  document = File.binread(path)
  begin
    decode.call(document)
    puts "accepted"
  rescue StandardError, SystemStackError
    puts "rejected"
  end
end

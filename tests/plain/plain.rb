# Ruby's libraries without any kit: plain.rb LIBRARY, then file names on standard input. See README.md for the lines it prints.
$stdout.sync = true

def hexed(text)
  text.b.unpack1("H*")
end

def json_value(value, out)
  case value
  when nil, true, false then out << value.inspect.sub("nil", "null")
  when String then out << "s#{hexed(value)}"
  when Array
    out << "["
    value.each { |item| json_value(item, out) }
    out << "]"
  when Hash
    out << "{"
    value.each { |name, item| json_value(item, out << "k#{hexed(name)}") }
    out << "}"
  else out << "n#{value}"
  end
end

def start(name, attributes, out)
  out << "<#{hexed(name)}"
  out.concat(attributes.map { |key, value| "a#{hexed(key)}=#{hexed(value)}" }.sort)
end

def full(namespace, local)
  namespace.nil? || namespace.empty? ? local : "{#{namespace}}#{local}"
end

# By names as written: REXML looks namespaces up anew at each call.
def rexml_value(element, out)
  attributes = []
  element.attributes.each_attribute do |attribute|
    attributes << [attribute.expanded_name, attribute.value] unless attribute.prefix == "xmlns" || attribute.expanded_name == "xmlns"
  end
  start(element.expanded_name, attributes, out)
  element.each do |child|
    case child
    when REXML::CData, REXML::Text then out << "t#{hexed(child.value)}"
    when REXML::Element then rexml_value(child, out)
    end
  end
  out << ">"
end

def nokogiri_value(element, out)
  attributes = element.attribute_nodes.map { |a| [full(a.namespace&.href, a.node_name), a.value] }
  start(full(element.namespace&.href, element.name), attributes, out)
  element.children.each do |child|
    if child.element? then nokogiri_value(child, out)
    elsif child.text? || child.cdata? then out << "t#{hexed(child.content)}"
    elsif child.node_type == Nokogiri::XML::Node::ENTITY_REF_NODE then out << "r#{hexed(child.name)}"
    end
  end
  out << ">"
end

show = ->(value, out) { json_value(value, out) }
write = nil
decode =
  case ARGV.shift
  when "json"
    require "json"
    write = ->(value) { JSON.generate(value) }
    ->(document) { JSON.parse(document.force_encoding("UTF-8")) }
  when "oj-strict"
    require "oj"
    write = ->(value) { Oj.dump(value, mode: :strict) }
    ->(document) { Oj.load(document, mode: :strict) }
  when "yajl"
    require "yajl"
    write = ->(value) { Yajl::Encoder.encode(value) }
    ->(document) { Yajl::Parser.parse(document) }
  when "rexml"
    require "rexml/document"
    write = ->(document) { document.write(text = +"") && text }
    show = ->(document, out) { rexml_value(document.root, out) if document.root }
    ->(document) { REXML::Document.new(document.force_encoding("UTF-8")) }
  else
    require "nokogiri"
    write = ->(document) { document.to_xml }
    show = ->(document, out) { nokogiri_value(document.root, out) }
    ->(document) { Nokogiri::XML(document, nil, nil) { |config| config.strict } }
  end

def written(write, value)
  "w#{hexed(write.call(value))}"
rescue StandardError, SystemStackError
  "w!"
end

$stdin.each_line(chomp: true) do |path|
  document = File.binread(path)
  begin
    value = decode.call(document)
    tokens = write ? [written(write, value)] : []
    show.call(value, tokens)
    puts ["accepted", *tokens].join(" ")
  rescue StandardError, SystemStackError
    puts "rejected"
  end
end

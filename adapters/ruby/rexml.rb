# REXML's tree.
require "rexml/document"
require_relative "../sdk/nachklang_adapter"

F = Nachklang.method(:field)

# A RuntimeError reports the limits of REXML::Security: expansions of entities and their size.
LIMITS = /\A(?:number of entity expansions exceeded|entity expansion has grown too large)/.freeze

within_limits = lambda do |&call|
  Nachklang.library do
    call.call
  rescue REXML::ParseException => e
    place = e.source && e.line.to_i.positive? ? { line: e.line } : {}
    raise Nachklang::Rejected.new(e.message.b.lines.first.to_s.strip, **place)
  rescue RuntimeError => e
    raise e unless LIMITS.match?(e.message.b)
    raise Nachklang::Rejected, e.message
  end
end

# A string that a program reads from a file carries the encoding UTF-8; REXML finds the document's own from its first bytes.
# A string marked as binary loses names beyond ASCII.
load_tree = ->(document) { within_limits.call { REXML::Document.new(document.dup.force_encoding("UTF-8")) } }

decode = lambda do |document, trace, _mode|
  tree = load_tree.call(document)
  next unless trace.wanted

  value = ->(node) { within_limits.call { node.value } } # entities are expanded here, not when the document is read

  stack = tree.children.reverse
  until stack.empty?
    node = stack.pop
    case node
    when :end then trace.lines << "end"
    when REXML::Element
      trace.lines << "elem #{F.(node.expanded_name)} - -" # its namespace would be looked for in all elements above
      node.attributes.each_attribute do |a|
        if a.expanded_name == "xmlns" || a.prefix == "xmlns"
          trace.lines << "ns #{F.(a.expanded_name == 'xmlns' ? '' : a.name)} #{F.(value.(a))}"
        else
          trace.lines << "attr #{F.(a.expanded_name)} - - #{F.(value.(a))} -"
        end
      end
      stack << :end
      stack.concat(node.children.reverse)
    when REXML::CData then trace.lines << "cdata #{F.(value.(node))}"
    when REXML::Text then trace.lines << "text #{F.(value.(node))}" unless node.parent.equal?(tree)
    when REXML::Comment then trace.lines << "comment #{F.(node.string)}"
    when REXML::Instruction then trace.lines << "pi #{F.(node.target)} #{F.(node.content.to_s)}"
    when REXML::DocType then trace.lines << "doctype #{F.(node.name.to_s)}"
    end
  end
end

round_trip = lambda do |document, _mode|
  tree = load_tree.call(document)
  out = +""
  within_limits.call { tree.write(out) }
  out
end

build = lambda do |value|
  open = [REXML::Document.new]
  Nachklang.markup_of(value, false).each do |word, *is|
    case word
    when "elem" then open << open.last.add_element(is[0])
    when "attr" then open.last.add_attribute(is[0], is[3])
    when "ns" then open.last.add_attribute(is[0].empty? ? "xmlns" : "xmlns:#{is[0]}", is[1])
    when "end" then open.pop
    when "text" then open.last.add(REXML::Text.new(is[0], true))
    when "cdata" then open.last.add(REXML::CData.new(is[0], true))
    when "comment" then open.last.add(REXML::Comment.new(is[0]))
    when "pi" then open.last.add(REXML::Instruction.new(is[0], is[1].empty? ? nil : is[1]))
    end
  end
  out = +""
  open.first.write(out)
  out
end
encode = ->(value, _mode) { Nachklang.library(REXML::ParseException, ArgumentError, RuntimeError) { build.call(value) } }

Nachklang.serve(
  implementation: "rexml #{REXML::VERSION}",
  xml: { decode: decode, round_trip: round_trip, encode: encode },
  cannot_represent: ["defaults"], # found by their names only
  settings: { namespaces: "on", external: "none" }
)

# REXML's tree.
require "rexml/document"
require_relative "../sdk/nachklang_adapter"

F = Nachklang.method(:field)

load_tree = lambda do |document|
  REXML::Document.new(document.dup.force_encoding("BINARY"))
rescue REXML::ParseException => e
  place = {}
  place[:line] = e.line if e.source && e.line.to_i.positive?
  raise Nachklang::Rejected.new(e.message.lines.first.to_s.strip, **place)
end

decode = lambda do |document, trace, _mode|
  tree = load_tree.call(document)
  next unless trace.wanted

  stack = tree.children.reverse
  until stack.empty?
    node = stack.pop
    case node
    when :end then trace.lines << "end"
    when REXML::Element
      trace.lines << "elem #{F.(node.expanded_name)} - -" # its namespace would be looked for in all elements above
      node.attributes.each_attribute do |a|
        if a.expanded_name == "xmlns" || a.prefix == "xmlns"
          trace.lines << "ns #{F.(a.expanded_name == 'xmlns' ? '' : a.name)} #{F.(a.value)}"
        else
          trace.lines << "attr #{F.(a.expanded_name)} - - #{F.(a.value)} -"
        end
      end
      stack << :end
      stack.concat(node.children.reverse)
    when REXML::CData then trace.lines << "cdata #{F.(node.value)}"
    when REXML::Text then trace.lines << "text #{F.(node.value)}" unless node.parent.equal?(tree)
    when REXML::Comment then trace.lines << "comment #{F.(node.string)}"
    when REXML::Instruction then trace.lines << "pi #{F.(node.target)} #{F.(node.content.to_s)}"
    when REXML::DocType then trace.lines << "doctype #{F.(node.name.to_s)}"
    end
  end
end

round_trip = lambda do |document, _mode|
  out = +""
  load_tree.call(document).write(out)
  out
end

encode = lambda do |value, _mode|
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
rescue REXML::ParseException, ArgumentError => e
  raise Nachklang::Rejected, e.message.lines.first.to_s.strip
rescue RuntimeError => e
  raise e if e.is_a?(Nachklang::Rejected)
  raise Nachklang::Rejected, e.message.lines.first.to_s.strip
end

Nachklang.serve(
  implementation: "rexml #{REXML::VERSION}",
  xml: { decode: decode, round_trip: round_trip, encode: encode },
  settings: { namespaces: "on", external: "none" }
)

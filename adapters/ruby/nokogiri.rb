# Nokogiri: strict, and as it is when nobody says otherwise (it repairs). It stands on libxml2.
require "nokogiri"
require_relative "../sdk/nachklang_adapter"

F = Nachklang.method(:field)

load_tree = lambda do |document, mode|
  Nokogiri::XML(document, nil, nil) { |config| mode == "repairing" ? config.noent.nonet.huge : config.strict.noent.nonet.huge }
rescue Nokogiri::XML::SyntaxError => e
  raise Nachklang::Rejected.new(e.message, line: e.line, column: [e.column.to_i, 1].max)
end

decode = lambda do |document, trace, mode|
  tree = load_tree.call(document, mode)
  next unless trace.wanted

  stack = tree.children.to_a.reverse
  until stack.empty?
    node = stack.pop
    if node == :end
      trace.lines << "end"
    elsif node.element?
      qname = node.namespace&.prefix ? "#{node.namespace.prefix}:#{node.name}" : node.name
      trace.lines << "elem #{F.(qname)} #{F.(node.name)} #{F.(node.namespace&.href.to_s)}"
      node.namespace_definitions.each { |ns| trace.lines << "ns #{F.(ns.prefix.to_s)} #{F.(ns.href.to_s)}" }
      node.attribute_nodes.each do |a|
        name = a.namespace&.prefix ? "#{a.namespace.prefix}:#{a.node_name}" : a.node_name
        trace.lines << "attr #{F.(name)} #{F.(a.node_name)} #{F.(a.namespace&.href.to_s)} #{F.(a.value)} -"
      end
      stack << :end
      stack.concat(node.children.to_a.reverse)
    elsif node.cdata? then trace.lines << "cdata #{F.(node.content)}"
    elsif node.text? then trace.lines << "text #{F.(node.content)}"
    elsif node.comment? then trace.lines << "comment #{F.(node.content)}"
    elsif node.processing_instruction? then trace.lines << "pi #{F.(node.name)} #{F.(node.content.to_s)}"
    elsif node.type == Nokogiri::XML::Node::ENTITY_REF_NODE then trace.lines << "ref #{F.(node.name)}"
    elsif node.type == Nokogiri::XML::Node::DTD_NODE then trace.lines << "doctype #{F.(node.name)}"
    end
  end
end

Nachklang.serve(
  implementation: "nokogiri #{Nokogiri::VERSION}",
  engine: "libxml2 #{Nokogiri::LIBXML_LOADED_VERSION}",
  xml: { decode: decode, lap: ->(document, mode) { load_tree.call(document, mode).to_xml } },
  settings: { namespaces: "on", external: "none" },
  modes: { "strict" => [], "repairing" => [] }
)

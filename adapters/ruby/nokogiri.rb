# Nokogiri: its default, which repairs; strict; strict with entities expanded; and without its limits. It is built on libxml2.
require "nokogiri"
require_relative "../sdk/nachklang_adapter"

F = Nachklang.method(:field)

load_tree = lambda do |document, mode|
  Nachklang.library do
    Nokogiri::XML(document, nil, nil) do |config|
      config.strict unless mode == "repairing"
      config.noent if %w[expanded huge].include?(mode)
      config.huge if mode == "huge"
    end
  rescue Nokogiri::XML::SyntaxError => e
    raise Nachklang::Rejected.new(e.message, line: e.line, column: [e.column.to_i, 1].max)
  end
end
# Errors after which libxml2 goes on, such as those against Namespaces 1.0; `errors` holds warnings, too.
reports_of = ->(tree) { tree.errors.reject(&:warning?).map(&:message) }

decode = lambda do |document, trace, mode|
  tree = load_tree.call(document, mode)
  trace.reports.concat(reports_of.call(tree))
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
    elsif node.type == Nokogiri::XML::Node::DTD_NODE then trace.lines << "doctype #{F.(node.name.to_s)}" # a repaired one may have no name
    end
  end
end

round_trip = lambda do |document, mode|
  tree = load_tree.call(document, mode)
  [Nachklang.library { tree.to_xml }, reports_of.call(tree)]
end

build = lambda do |value|
  document = Nokogiri::XML::Document.new
  document.encoding = "UTF-8"
  open = [document]
  # Declarations are made before the element hangs in the tree, where one of that prefix above would be found instead.
  start = nil
  find = lambda do |node, prefix, uri|
    node.namespace_scopes.find { |ns| ns.prefix == prefix && ns.href == uri } || node.add_namespace_definition(prefix, uri)
  end
  settle = lambda do
    next unless start

    node, (qname, _local, uri), attributes = start
    start = nil
    prefix = qname[/\A(.*?):/, 1]
    own = node.namespace_definitions.find { |ns| ns.prefix == prefix && ns.href == uri } unless uri.empty?
    parent = open.last
    inherited = parent.namespace_scopes.find { |ns| ns.prefix == prefix && ns.href == uri } if own.nil? && parent != document && !uri.empty?
    own = node.add_namespace_definition(prefix, uri) if own.nil? && inherited.nil? && !uri.empty?
    parent.add_child(node)
    open << node
    node.namespace = own || inherited unless uri.empty?
    attributes.each do |attribute, local, of, text|
      next node[attribute] = text if of.empty?

      space = find.call(node, attribute[/\A(.*?):/, 1], of)
      raise Nachklang::Unsupported, "a prefix is one name on an element here" if space.href != of

      node[attribute] = text
    end
  end
  Nachklang.markup_of(value, true).each do |word, *is|
    case word
    when "attr" then next start[2] << is
    when "ns"
      raise Nachklang::Unsupported, "a default namespace is not undeclared here" if is[1].empty?

      next start[0].add_namespace_definition(is[0].empty? ? nil : is[0], is[1])
    end
    settle.call
    case word
    when "elem" then start = [Nokogiri::XML::Element.new(is[1], document), is, []]
    when "end" then open.pop
    when "text" then open.last.add_child(Nokogiri::XML::Text.new(is[0], document))
    when "cdata" then open.last.add_child(Nokogiri::XML::CDATA.new(document, is[0]))
    when "comment" then open.last.add_child(Nokogiri::XML::Comment.new(document, is[0]))
    when "pi" then open.last.add_child(Nokogiri::XML::ProcessingInstruction.new(document, is[0], is[1]))
    end
  end
  document.to_xml(save_with: Nokogiri::XML::Node::SaveOptions::AS_XML)
end
encode = ->(value, _mode) { Nachklang.library(ArgumentError, RuntimeError) { build.call(value) } }

Nachklang.serve(
  implementation: "nokogiri #{Nokogiri::VERSION}",
  engine: "libxml2 #{Nokogiri::LIBXML_LOADED_VERSION}",
  xml: { decode: decode, round_trip: round_trip, encode: encode },
  cannot_represent: ["defaults"], # found by their names only
  settings: { namespaces: "on" },
  modes: {
    "repairing" => { settings: { entities: "kept", external: "none", purpose: "repairs" }, operations: %w[decode round-trip encode] },
    "strict" => { settings: { entities: "kept", external: "none" }, operations: %w[decode round-trip] },
    "expanded" => { settings: { external: "entities" }, operations: %w[decode round-trip] },
    "huge" => { settings: { external: "entities" }, operations: %w[decode round-trip] }
  }
)

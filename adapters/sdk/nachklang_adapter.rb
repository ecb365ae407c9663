# The adapter kit for Ruby: describe the implementation, define lambdas, call Nachklang.serve.
#
#     require_relative "nachklang_adapter"
#     decode = lambda do |document, trace, mode|
#       value = Nachklang.library(Tower::Error) { Tower.parse(document) }
#       Nachklang.print_value(value, trace)
#     end
#     Nachklang.serve(implementation: "tower 3.2", json: { decode: decode, round_trip: … })
#
# decode prints to the trace; round_trip(document, mode) and encode(trace, mode) return a String. Call your library inside
# Nachklang.library: the errors that it documents become `rejected` (raise Nachklang::Rejected to add a position), others `threw`. An
# error raised anywhere else is a fault of the adapter (`adapter-fault`) and never booked on the library. docs/protocol.md has the rest.
module Nachklang
  class Rejected < StandardError
    attr_reader :place

    def initialize(message, **place)
      super(message)
      @place = place
    end
  end
  class Unsupported < StandardError; end

  # An error that left the library and that it does not document.
  class LibraryFailure < StandardError
    attr_reader :kind

    def initialize(kind, message)
      super(message)
      @kind = kind
    end
  end

  # Calls into the library under test; `documented` are the errors that it documents for a text it refuses.
  def self.library(*documented)
    yield
  rescue Rejected, Unsupported, LibraryFailure
    raise
  rescue StandardError, SystemStackError, NoMemoryError, NotImplementedError => e
    raise if own?(e)
    raise Rejected, e.message if documented.any? { |kind| e.is_a?(kind) }

    exhausted = e.is_a?(SystemStackError) || e.is_a?(NoMemoryError)
    raise LibraryFailure.new(exhausted ? "exhausted" : "threw", exhausted ? e.message : "#{e.class}: #{e.message}")
  end

  # Whether an error was raised in a block of the adapter that the library called back: frames of the library lie between it and the
  # call. What a library written in C raises has the caller's own file in its first frame.
  def self.own?(error)
    frames = (error.backtrace_locations || []).take_while { |frame| frame.base_label != "library" }
    own = [__FILE__, $PROGRAM_NAME].map { |file| File.expand_path(file) }
    frames.any? && own.include?(frames.first.absolute_path) && frames.any? { |frame| !own.include?(frame.absolute_path) }
  end
  private_class_method :own?

  # A number kept as its source text.
  Spelled = Struct.new(:text)

  class Trace
    # reports: errors that the library reports of a document that it accepts.
    attr_reader :wanted, :lines, :reports

    def initialize(wanted)
      @wanted = wanted
      @lines = []
      @reports = []
    end
  end

  def self.field(text)
    "u8:" + text.b.unpack1("H*")
  end

  def self.scalar(value)
    case value
    when nil then "null"
    when true then "true"
    when false then "false"
    when Integer then "int #{value}"
    when Float then "binary64 " + [value].pack("G").unpack1("H*")
    when String then "str " + field(value)
    when Symbol then "native symbol " + field(value.to_s)
    when Spelled then "spelled " + field(value.text)
    else
      text = value.to_s
      value.class.name == "BigDecimal" && text =~ /\A-?[\d.]+(e-?\d+)?\z/i ? "dec #{text.downcase}" : "native #{value.class} #{field(text)}"
    end
  end

  # Prints what JSON values become in Ruby, with a stack of its own.
  def self.print_value(root, trace)
    return unless trace.wanted

    stack = [["", [root], nil, 0]]
    until stack.empty?
      level = stack.last
      closer, values, names, at = level
      if at == values.size
        stack.pop
        trace.lines << closer unless closer.empty?
        next
      end
      level[3] += 1
      trace.lines << "key " + (names[at].is_a?(String) ? field(names[at]) : field(names[at].to_s)) if names
      value = values[at]
      case value
      when Array
        trace.lines << "["
        stack << ["]", value, nil, 0]
      when Hash
        trace.lines << "{"
        stack << ["}", value.values, value.keys, 0]
      else
        trace.lines << scalar(value)
      end
    end
  end

  def self.text_of(field)
    units, digits = field.split(":", 2)
    bytes = [digits].pack("H*")
    return bytes.force_encoding("UTF-8") if units == "u8"

    numbers = bytes.unpack(units == "u16" ? "n*" : "N*")
    out = "".b
    until numbers.empty?
      c = numbers.shift
      c = 0x10000 + ((c & 0x3FF) << 10) + (numbers.shift & 0x3FF) if units == "u16" && c & 0xFC00 == 0xD800 && numbers[0] && numbers[0] & 0xFC00 == 0xDC00
      out << (c.between?(0xD800, 0xDFFF) ? [0xE0 | c >> 12, 0x80 | c >> 6 & 0x3F, 0x80 | c & 0x3F].pack("C*") : [c].pack("U").b)
    end
    out.force_encoding("UTF-8")
  end

  # The pieces of a document of XML to be written: ["elem", qname, local, uri], ["attr", qname, local, uri, value], ["ns", prefix, uri],
  # ["text", t] ... Where a library leaves declarations to its user, a value without them cannot be asked for.
  def self.markup_of(trace, declares)
    pieces = trace.lines(chomp: true).map do |line|
      word, *fields = line.split(" ")
      [word, *fields.map { |f| f == "-" ? "" : f.include?(":") ? text_of(f) : f }]
    end
    names = pieces.select { |p| %w[elem attr].include?(p[0]) }
    in_namespaces = names.any? { |p| !["", "http://www.w3.org/XML/1998/namespace"].include?(p[3]) }
    raise Unsupported, "declarations are left to the user here" if !declares && in_namespaces && pieces.none? { |p| p[0] == "ns" }

    pieces
  end

  # The value that a trace tells, to be encoded; cycles are kept.
  def self.value_of(trace)
    root = name = nil
    levels = []
    trace.each_line(chomp: true) do |line|
      word, rest = line.split(" ", 2)
      if word == "key"
        name = rest.include?(":") ? text_of(rest) : value_of(rest + "\n")
        next
      end
      if ["]", "}"].include?(word)
        levels.pop
        next
      end
      value =
        case word
        when "[" then []
        when "{" then {}
        when "cycle" then levels[-rest.to_i]
        when "null" then nil
        when "true" then true
        when "false" then false
        when "str" then text_of(rest)
        when "int" then rest.to_i
        when "binary64" then [rest].pack("H*").unpack1("G")
        else raise Unsupported, "no value for #{word}"
        end
      if levels.empty? then root = value
      elsif levels.last.is_a?(Array) then levels.last << value
      elsif levels.last.key?(name) then raise Unsupported, "a Hash holds a name once"
      else levels.last[name] = value
      end
      levels << value if ["[", "{"].include?(word)
    end
    root
  end

  def self.answer(functions, operation, document, keys)
    function = functions[operation.tr("-", "_").to_sym]
    return ["unsupported", "", {}] if function.nil? || !(keys.keys - %w[id mode show]).empty?

    mode = keys["mode"] || ""
    return listed(function, document, Trace.new(keys["show"] != "nothing"), mode) if operation == "sequence"

    if operation == "open-stream"
      stream = OpenStream.new(document)
      return listed(function, stream, TimelyTrace.new(keys["show"] != "nothing", stream), mode)
    end
    return accepted(*function.call(document, mode)) if operation != "decode"

    trace = Trace.new(keys["show"] != "nothing")
    function.call(document, trace, mode)
    # Without a line: a document of XML that was accepted and holds nothing at all.
    trace.lines << "text u8:" if trace.wanted && trace.lines.empty?
    accepted(trace.lines.map { |line| line + "\n" }.join, trace.reports)
  rescue Rejected => e
    ["rejected", e.message, e.place]
  rescue Unsupported => e
    ["unsupported", e.message, {}]
  rescue LibraryFailure => e
    [e.kind, e.message, {}]
  rescue StandardError, SystemStackError, NoMemoryError, NotImplementedError => e
    ["adapter-fault", "#{e.class}: #{e.message}", {}]
  end

  # Gives a text one byte at a time and stays open behind it: after it was asked for more, what a library hands over comes late.
  class OpenStream
    attr_reader :asked

    def initialize(text)
      @text = text
      @given = 0
      @asked = false
    end

    def more?
      @given < @text.bytesize
    end

    def readpartial(_most)
      read(1) || raise(EOFError, "end of file reached")
    end

    def read(_most = nil)
      @asked ||= !more?
      return nil unless more?

      @given += 1
      @text.byteslice(@given - 1, 1)
    end
  end

  # A trace that wants nothing more once the stream was asked for more than there is.
  class TimelyTrace < Trace
    def initialize(wanted, stream)
      super(wanted)
      @stream = stream
    end

    def wanted
      @wanted && !@stream.asked
    end
  end

  # The values of several documents as a list, until one is refused; the function prints each to a trace.
  def self.listed(function, text, trace, mode)
    is_shown = trace.wanted
    trace.lines << "[" if is_shown
    begin
      function.call(text, trace, mode)
    rescue Rejected => e
      trace.lines << "native refused -" if trace.wanted
      trace.reports << e.message
    end
    trace.lines << "]" if is_shown
    accepted(trace.lines.map { |line| line + "\n" }.join, trace.reports)
  end

  # A round trip may return a text and a list of reports.
  def self.accepted(body, reports = [])
    messages = reports.map { |report| report.to_s.b.tr("\n", " ") + "\n" }.join
    ["accepted", messages.b + body.to_s.b, messages.empty? ? {} : { reported: messages.bytesize }]
  end

  # Serves requests until standard input ends. What a library prints to standard output goes to standard error.
  def self.serve(implementation:, json: nil, xml: nil, engine: nil, cannot_represent: [], settings: {}, modes: {})
    replies = $stdout.dup
    replies.binmode
    replies.sync = true
    $stdout.reopen($stderr)
    $stdin.binmode
    lines = ["nachklang-adapter 1", "implementation #{implementation}"]
    lines << "engine #{engine}" if engine
    capabilities = { "json" => json, "xml" => xml }.compact
    capabilities.each { |format, functions| lines << "#{format} #{functions.keys.join(' ').tr('_', '-')}" }
    settings.each { |key, value| lines << "setting #{key}=#{value}" }
    lines << "cannot-represent #{cannot_represent.join(' ')}" unless cannot_represent.empty?
    # A mode's operations if it does not support all, or a hash of :operations and :settings.
    modes.each do |mode, own|
      own = { operations: own } unless own.is_a?(Hash)
      lines << "mode #{mode}"
      own.fetch(:settings, {}).each { |key, value| lines << "setting #{key}=#{value}" }
      lines << "#{capabilities.keys.first} #{own[:operations].join(' ')}" unless own.fetch(:operations, []).empty?
    end
    replies.write(lines.join("\n") + "\n\n")
    while (head = $stdin.gets)
      operation, format, length, *rest = head.chomp.split(" ")
      document = length.to_i.zero? ? "".b : $stdin.read(length.to_i)
      keys = rest.to_h { |word| word.split("=", 2) }
      kind, body, place = answer(capabilities.fetch(format, {}), operation, document, keys)
      position = place.map { |key, value| value ? " #{key}=#{value}" : "" }.join
      body = body.to_s.b
      replies.write("#{kind} #{body.bytesize} id=#{keys['id']}#{position}\n".b + body)
    end
  end
end

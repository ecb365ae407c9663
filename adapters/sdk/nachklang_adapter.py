"""The adapter kit for Python: describe the implementation, define functions, call serve().

    from nachklang_adapter import library, print_value, serve

    def decode(document, trace, mode):
        with library(towerjson.Error):
            value = towerjson.loads(document)
        print_value(value, trace)

    serve(implementation="tower-json 3.2", capabilities={"json": {"decode": decode, "round-trip": round_trip}})

decode(document, trace, mode) prints to `trace` (where trace.wanted), and so does bind(document, trace, record, mode), which decodes into
a native record (docs/records-of-fields.md), pieces(pieces, trace, mode), which hands the library each of a list of bytes by itself, and
sequence(text, trace, mode), which prints the value of one document after another until the library refuses one, and open-stream(stream,
trace, mode), which does so from a stream of which read() gives one byte at a time (OpenStream);
round_trip(document, mode), encode(value_trace, mode), bind_round_trip(document, record, mode), which encodes the native record again, and
bind_encode(fields_trace, record, mode), which fills a native record, return bytes, or bytes and a list of the errors that the library reported of a document that it accepted. Call your library inside `with library(…)`: the exceptions that it documents become `rejected`, others `threw`.
An exception raised anywhere else is a fault of the adapter (`adapter-fault`) and never booked on the library.
docs/protocol.md describes what goes over the pipes.
"""

import contextlib
import decimal
import os
import struct
import sys


class Rejected(Exception):
    """The failure that the implementation documents."""

    def __init__(self, message, offset=None, line=None, column=None, unit=None):
        super().__init__(message)
        self.place = {"offset": offset, "line": line, "column": column, "unit": unit}


class LibraryFailure(Exception):
    """An exception that left the library and that it does not document."""

    def __init__(self, kind, message):
        super().__init__(message)
        self.kind = kind


@contextlib.contextmanager
def library(*documented):
    """Calls into the library under test. `documented` are the exceptions that it documents for a text it refuses; raise
    Rejected inside the block to add a position."""
    try:
        yield
    except (Rejected, Unclear, Unsupported, LibraryFailure):
        raise
    except Exception as error:
        if _is_ours(error.__traceback__.tb_next):
            raise
        if documented and isinstance(error, documented):
            raise Rejected(str(error)) from error
        exhausted = isinstance(error, (MemoryError, RecursionError))
        message = str(error) if exhausted else "%s: %s" % (type(error).__name__, error)
        raise LibraryFailure("exhausted" if exhausted else "threw", message) from error


def _is_ours(traceback):
    """Whether an exception was raised in a function of the adapter that the library called back. The first entry is the
    `with` block itself; what a library written in C raises has no later one."""
    own = {__file__, getattr(sys.modules["__main__"], "__file__", None)}
    innermost = traceback
    while innermost is not None and innermost.tb_next is not None:
        innermost = innermost.tb_next
    return innermost is not traceback and innermost.tb_frame.f_code.co_filename in own


class Unclear(Exception):
    """Failure and a decoded null cannot be distinguished."""


class Unsupported(Exception):
    """Cannot be asked of this implementation."""


def field(text):
    """A FIELD of a str (code points, lone surrogates kept) or of bytes."""
    if isinstance(text, (bytes, bytearray)):
        return "u8:" + bytes(text).hex()
    try:
        return "u8:" + text.encode("utf-8").hex()
    except UnicodeEncodeError:
        return "u32:" + "".join("%08x" % ord(c) for c in text)


def binary64(value):
    return "binary64 " + struct.pack(">d", value).hex()


class Trace:
    """Takes the lines of a trace; nothing is kept where it is not wanted (show=nothing)."""

    def __init__(self, wanted):
        self.wanted = wanted
        self.lines = []
        self.reports = []

    def report(self, message):
        """An error that the library reports to its user, of a document that it accepts all the same."""
        self.reports.append(message)

    def line(self, text):
        self.lines.append(text)

    def bytes(self):
        return ("\n".join(self.lines) + "\n").encode("ascii") if self.wanted and self.lines else b""


class OpenStream:
    """Gives a text one byte at a time and stays open behind it: what a library hands over once it `asked` for more comes late."""

    def __init__(self, text):
        self.text = text
        self.given = 0
        self.asked = False

    def has_more(self):
        return self.given < len(self.text)

    def read(self, size=-1):
        if size == 0:
            return b""
        self.asked = self.asked or not self.has_more()
        self.given += 1
        return self.text[self.given - 1:self.given]


class _TimelyTrace(Trace):
    """Keeps nothing of what comes late."""

    def __init__(self, wanted, stream):
        super().__init__(wanted)
        self.stream = stream

    def line(self, text):
        if not self.stream.asked:
            super().line(text)


def print_value(root, trace, other=None):
    """Prints None, bool, int, float, str, bytes, list, tuple and dict, and lists of pairs of class Pairs; `other` prints
    what else there is. Walks with a stack of its own."""
    if not trace.wanted:
        return
    line = trace.line
    stack = [(None, iter((root,)))]
    while stack:
        closer, values = stack[-1]
        entry = next(values, stack)
        if entry is stack:
            stack.pop()
            if closer:
                line(closer)
            continue
        if closer == "}":
            name, entry = entry
            line("key " + (field(name) if isinstance(name, (str, bytes)) else scalar(name, other)))
        if isinstance(entry, Pairs):
            line("{")
            stack.append(("}", iter(entry.pairs)))
        elif isinstance(entry, dict):
            line("{")
            stack.append(("}", iter(entry.items())))
        elif isinstance(entry, (list, tuple)):
            line("[")
            stack.append(("]", iter(entry)))
        else:
            line(scalar(entry, other))


class Pairs:
    """The members of an object in their order, duplicates kept."""

    def __init__(self, pairs):
        self.pairs = pairs


def scalar(value, other=None):
    if value is None:
        return "null"
    if value is True:
        return "true"
    if value is False:
        return "false"
    if isinstance(value, int):
        return "int " + digits(value)
    if isinstance(value, float):
        return binary64(value)
    if isinstance(value, (str, bytes)):
        return "str " + field(value)
    if other is not None:
        return other(value)
    return "native %s %s" % (type(value).__name__, field(str(value)))


def digits(value):
    """An int's digits, however many: str() has a limit."""
    if hasattr(sys, "set_int_max_str_digits") and sys.get_int_max_str_digits() != 0:
        old = sys.get_int_max_str_digits()
        sys.set_int_max_str_digits(0)
        try:
            return str(value)
        finally:
            sys.set_int_max_str_digits(old)
    return str(value)


def text_of(field):
    """The str of a FIELD (UTF-16 and UTF-32 keep lone surrogates); bytes where it holds ill-formed UTF-8."""
    units, _, digits_ = field.partition(":")
    raw = bytes.fromhex(digits_)
    if units == "u8":
        try:
            return raw.decode("utf-8")
        except UnicodeDecodeError:
            return raw
    return raw.decode("utf-16-be" if units == "u16" else "utf-32-be", "surrogatepass")


def _scalar_of(word, rest):
    if word == "str":
        return text_of(rest)
    if word == "int":
        return int(rest)
    if word == "binary64":
        return struct.unpack(">d", bytes.fromhex(rest))[0]
    if word == "dec":
        return decimal.Decimal(rest)
    if word in ("null", "true", "false"):
        return {"null": None, "true": True, "false": False}[word]
    raise Unsupported("no value for " + word)


def value_of(trace):
    """The value that a trace (bytes) tells, to be encoded: lists and dicts. Names may be any scalar; cycles are kept."""
    root, levels, name = None, [], None
    for line in trace.decode("ascii").splitlines():
        word, _, rest = line.partition(" ")
        if word == "key":
            kind, _, digits_ = rest.partition(" ")
            name = text_of(rest) if ":" in rest else _scalar_of(kind, digits_)
            continue
        if word in ("]", "}"):
            levels.pop()
            continue
        if word == "cycle":
            value = levels[-int(rest)]
        else:
            value = [] if word == "[" else {} if word == "{" else _scalar_of(word, rest)
        if not levels:
            root = value
        elif isinstance(levels[-1], list):
            levels[-1].append(value)
        elif name in levels[-1]:
            raise Unsupported("a dict holds a name once")
        else:
            levels[-1][name] = value
        if word in ("[", "{"):
            levels.append(value)
    return root


def expanded_name(local, uri):
    """A name as Python's trees write it: {uri}local."""
    return "{%s}%s" % (uri, local) if uri else local


XML_URI = "http://www.w3.org/XML/1998/namespace"


def markup_of(trace, declares=True):
    """The pieces of a document of XML to be written, as tuples: ("elem" or "attr", qname, local, uri, value), ("ns", prefix,
    uri), ("end",), ("text", t) … A library that leaves declarations to its user (declares=False) cannot be asked for a value
    without them."""
    pieces = []
    for line in trace.decode("ascii").splitlines():
        word, *fields = line.split(" ")
        if word not in ("elem", "attr", "ns", "end", "text", "cdata", "comment", "pi"):
            raise Unsupported("no %s in a document to be written" % word)
        texts = [None if f == "-" else text_of(f) if ":" in f else f for f in fields]
        if any(isinstance(t, bytes) for t in texts):
            raise Unsupported("text is code points here")
        pieces.append((word, *texts))
    in_namespaces = any(p[0] in ("elem", "attr") and p[3] not in (None, "", XML_URI) for p in pieces)
    if not declares and in_namespaces and not any(p[0] == "ns" for p in pieces):
        raise Unsupported("declarations are left to the user here")
    return pieces


def _hello(implementation, capabilities, engine, cannot_represent, settings, modes):
    lines = ["nachklang-adapter 1", "implementation " + implementation]
    if engine:
        lines.append("engine " + engine)
    lines += [" ".join([name] + list(operations)) for name, operations in capabilities.items()]
    if cannot_represent:
        lines.append("cannot-represent " + " ".join(cannot_represent))
    lines += ["setting %s=%s" % pair for pair in (settings or {}).items()]
    for mode in modes or ():
        # A name, or a tuple: the name, what it lacks, what it does by format where that is not all, its settings.
        name, more_cannot_represent, own, chosen = (mode + ((), {}, {})[len(mode) - 1:]) if isinstance(mode, tuple) else (mode, (), {}, {})
        lines.append("mode " + name)
        if more_cannot_represent:
            lines.append("cannot-represent " + " ".join(more_cannot_represent))
        lines += ["setting %s=%s" % pair for pair in chosen.items()]
        lines += [" ".join([format_name] + list(operations)) for format_name, operations in own.items()]
    return "\n".join(lines) + "\n\n"


EMPTY = b"text u8:\n"  # an XML document that was accepted and holds nothing at all


def _accepted(body, reports):
    messages = "".join(" ".join(r.split("\n")) + "\n" for r in reports).encode("utf-8", "replace")
    return "accepted", messages + body, {"reported": len(messages) or None}


def _pieces(document, cuts):
    """The document in pieces that end at the offsets "3,7", or after "each" byte; of an empty one, one empty piece."""
    ends = range(1, len(document)) if cuts == "each" else [int(cut) for cut in cuts.split(",") if cut]
    places = [0] + [end for end in ends if 0 < end < len(document)] + [len(document)]
    return [document[begin:end] for begin, end in zip(places, places[1:]) if end > begin] or [document]


def _listed(function, text, trace, mode):
    """The values of several documents as a list, until one is refused."""
    trace.line("[")
    try:
        function(text, trace, mode)
    except Rejected as error:
        trace.line("native refused -")
        trace.report(str(error))
    trace.lines.append("]")
    return _accepted(trace.bytes(), trace.reports)


def _answer(functions, operation, document, keys):
    if set(keys) - {"id", "mode", "show", "record", "cuts"} or operation not in functions:
        return "unsupported", b"", {}
    mode = keys.get("mode", "")
    try:
        if operation == "bind":
            trace = Trace(keys.get("show") != "nothing")
            functions[operation](document, trace, keys.get("record", ""), mode)
            return _accepted(trace.bytes(), trace.reports)
        if operation in ("bind-round-trip", "bind-encode"):
            return _accepted(functions[operation](document, keys.get("record", ""), mode), ())
        if operation == "sequence":
            return _listed(functions[operation], document, Trace(keys.get("show") != "nothing"), mode)
        if operation == "open-stream":
            stream = OpenStream(document)
            return _listed(functions[operation], stream, _TimelyTrace(keys.get("show") != "nothing", stream), mode)
        if operation in ("decode", "pieces"):
            body = _pieces(document, keys.get("cuts", "")) if operation == "pieces" else document
            trace = Trace(keys.get("show") != "nothing")
            functions[operation](body, trace, mode)
            return _accepted(trace.bytes() or (EMPTY if trace.wanted else b""), trace.reports)
        result = functions[operation](document, mode)
        return _accepted(*result) if isinstance(result, tuple) else _accepted(result, ())
    except Rejected as error:
        return "rejected", str(error).encode("utf-8", "replace"), error.place
    except Unclear as error:
        return "unclear", str(error).encode("utf-8", "replace"), {}
    except Unsupported as error:
        return "unsupported", str(error).encode("utf-8", "replace"), {}
    except LibraryFailure as error:
        return error.kind, str(error).encode("utf-8", "replace"), {}
    except Exception as error:
        return "adapter-fault", ("%s: %s" % (type(error).__name__, error)).encode("utf-8", "replace"), {}


def serve(implementation, capabilities, engine=None, cannot_represent=(), settings=None, modes=None):
    """Serves requests until standard input ends. What a library prints to standard output goes to standard error."""
    replies = os.fdopen(os.dup(1), "wb")
    os.dup2(2, 1)
    requests = sys.stdin.buffer
    replies.write(_hello(implementation, capabilities, engine, cannot_represent, settings, modes).encode("utf-8"))
    replies.flush()
    while True:
        head = requests.readline()
        if not head:
            return
        operation, name, length, *rest = head.decode("ascii").split()
        document = requests.read(int(length))
        keys = dict(word.split("=", 1) for word in rest)
        kind, body, place = _answer(capabilities.get(name, {}), operation, document, keys)
        position = "".join(" %s=%s" % (key, value) for key, value in place.items() if value is not None)
        replies.write(b"%s %d id=%s%s\n" % (kind.encode(), len(body), keys.get("id", "0").encode(), position.encode()))
        replies.write(body)
        replies.flush()

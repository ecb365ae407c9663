"""Cases of several documents in one text, one after another.

RFC 8259 has one document in a text. Of several, each answer is a list: the values, and `native refused -` where a document is refused. Which
list an application meets is an answer to a question; a list that is none of them, or whose values are others, is a changed value.
"""

from json_tables import Sheet
from writer import u8

OUTSIDE = "outside RFC 8259"
REFUSED = ["native refused -"]

# Documents: id, text, and the lines of its trace.
KINDS = [("array", "[1]", ["[", "spelled " + u8("1"), "]"]), ("object", '{"a":1}', ["{", "key " + u8("a"), "spelled " + u8("1"), "}"]),
         ("text", '"a"', ["str " + u8("a")]), ("number", "12", ["spelled " + u8("12")]), ("literal", "true", ["true"]), ("null", "null", ["null"]),
         ("empty-array", "[]", ["[", "]"]), ("long-text", '"%s"' % ("o" * 9000), ["str " + u8("o" * 9000)])]
DOCUMENT = {name: text for name, text, _ in KINDS}
LINES = {name: lines for name, _, lines in KINDS}


def listed(*parts):
    return ["[", *(line for part in parts for line in part), "]"]


def given(lines):
    return "{ trace = '''\n%s\n''' }" % "\n".join(lines)


def ask(s, name, text, question, clause, why, trace, **answers):
    known = [(answer.replace("_", "-"), given(lines)) for answer, lines in answers.items()]
    s.add(name, text, "open", clause, why, trace, question, known)


def two_documents(s):
    """Every kind before every kind: with white space between them, and with nothing."""
    for first, a, of_a in KINDS[:7]:
        for second, b, of_b in KINDS[:7]:
            both = listed(of_a, of_b)
            if first in ("array", "number", "text") or second == "array":
                ask(s, "%s-then-%s" % (first, second), a + "\n" + b, "documents-spaced", OUTSIDE, "a line for each document", both, all=both,
                    stops=listed(of_a, REFUSED), refused_at_once=listed(REFUSED))
            if a[-1] not in "]}" and b[0] not in "[{" and (a[-1] != '"' or b[0] != '"'):
                continue  # one longer token, if texts need no quotes
            ask(s, "%s-next-to-%s" % (first, second), a + b, "documents-adjacent", OUTSIDE, "nothing between two documents", both, all=both,
                stops=listed(of_a, REFUSED), refused_at_once=listed(REFUSED))


def white_space(s):
    one, two = LINES["array"], LINES["object"]
    both = listed(one, two)
    for name, text in (("space", "[1] {\"a\":1}"), ("tab", "[1]\t{\"a\":1}"), ("carriage-return", "[1]\r{\"a\":1}"), ("return-and-line-feed", "[1]\r\n{\"a\":1}\r\n"),
                       ("line-feed-at-the-end", "[1]\n{\"a\":1}\n"), ("blank-line", "[1]\n\n{\"a\":1}\n"), ("space-before", " [1] {\"a\":1}"),
                       ("lines-at-the-end", "[1]\n{\"a\":1}\n\n\n"), ("document-over-lines", "[\n1\n]\n{\n\"a\":1}\n"),
                       ("many-blanks", "[1]" + " " * 5000 + "{\"a\":1}")):
        ask(s, "between-" + name, text, "documents-spaced", OUTSIDE, name.replace("-", " ") + " between documents", both, all=both,
            stops=listed(one, REFUSED), refused_at_once=listed(REFUSED))
    for name, kind, count in (("hundred-arrays", "array", 100), ("thousand-numbers", "number", 1000), ("long-texts", "long-text", 4)):
        many = listed(*[LINES[kind]] * count)
        ask(s, name, (DOCUMENT[kind] + "\n") * count, "documents-spaced", OUTSIDE, "%d documents, one a line" % count, many, all=many,
            stops=listed(LINES[kind], REFUSED), refused_at_once=listed(REFUSED))


def foreign_text(s):
    """Between two documents, what is neither a document nor white space of JSON."""
    one, two = LINES["array"], LINES["object"]
    both = listed(one, two)
    for name, between in (("comma", ","), ("comma-and-space", ", "), ("semicolon", ";"), ("word", " x "), ("comment", " // x\n"), ("block-comment", "/*x*/"),
                          ("nul", "\0"), ("record-separator", "\x1e"), ("form-feed", "\f"), ("line-separator", "\u2028"), ("byte-order-mark", "\ufeff"),
                          ("hyphens", "\n---\n"), ("closing-bracket", "]")):
        ask(s, "foreign-" + name, "[1]" + between + '{"a":1}', "documents-separator", OUTSIDE, name.replace("-", " ") + " between documents", both,
            skipped=both, stops=listed(one, REFUSED), goes_on=listed(one, REFUSED, two), goes_on_twice=listed(one, REFUSED, REFUSED, two),
            refused_at_once=listed(REFUSED))
    ask(s, "text-sequence", "\x1e[1]\n\x1e{\"a\":1}\n", "documents-separator", "RFC 7464, 2.2", "a record separator before each document", both, skipped=both,
        refused_at_once=listed(REFUSED), goes_on=listed(REFUSED, one, REFUSED, two))


def after_errors(s):
    """A document that is none, and good ones round it."""
    one, two = LINES["array"], LINES["object"]
    for name, bad in (("comma-at-the-end", "[2,]"), ("literal", "nul"), ("bracket", "]"), ("name-without-quotes", "{b:1}"), ("control-in-text", '"\x01"'),
                      ("number", "[01]"), ("escape", '"\\x"'), ("surrogate-and-quote", '"\\ud83d'), ("unclosed", "[2"), ("unclosed-text", '["b')):
        unclosed = name.startswith("unclosed") or name == "surrogate-and-quote"
        known = {"stops": listed(one, REFUSED), "goes_on": listed(one, REFUSED, two), "goes_on_twice": listed(one, REFUSED, REFUSED, two),
                 "refused_at_once": listed(REFUSED)}
        ask(s, "error-" + name, "[1]\n%s\n{\"a\":1}\n" % bad, "documents-after-error", OUTSIDE,
            "a document that is none between two others" + (", and that does not end" if unclosed else ""), listed(one, REFUSED), **known)
    ask(s, "error-first", "[2,]\n[1]\n", "documents-after-error", OUTSIDE, "a first document that is none", listed(REFUSED), stops=listed(REFUSED),
        goes_on=listed(REFUSED, one), goes_on_twice=listed(REFUSED, REFUSED, one))


def ends(s):
    one = LINES["array"]
    for name, cut in (("array", "[2"), ("array-after-comma", "[2,"), ("object", '{"a"'), ("object-after-colon", '{"a":'), ("text", '"ab'), ("escape", '"\\u00'),
                      ("literal", "tru"), ("minus", "-"), ("exponent", "1e"), ("character", b"[1]\n\"\xc3")):
        text = cut if isinstance(cut, bytes) else "[1]\n" + cut
        ask(s, "cut-" + name, text, "documents-cut", OUTSIDE, "the last document is cut", listed(one, REFUSED), stops=listed(one, REFUSED), left_out=listed(one),
            refused_at_once=listed(REFUSED))
    number = LINES["number"]
    ask(s, "number-at-the-end", "[1] 12", "documents-number-end", "RFC 7464, 2.4", "a number that may be cut ends the text", listed(one, number),
        taken=listed(one, number), left_out=listed(one), stops=listed(one, REFUSED))
    for name, text in (("empty", ""), ("line-feed", "\n"), ("spaces", "   ")):
        ask(s, "no-document-" + name, text, "documents-none", OUTSIDE, "a text without a document", listed(), nothing=listed(), refused_at_once=listed(REFUSED))


def handed_over(s, name, text, *documents):
    """Documents of a stream that stays open behind them, and how many of them come late."""
    words = ("at_once", "one_behind", "two_behind", "three_behind")
    known = {words[behind]: listed(*documents[:len(documents) - behind]) for behind in range(len(documents) + 1)}
    if len(documents) > 1:
        known["stops"] = listed(documents[0], REFUSED)
    ask(s, name, text, "documents-handed-over", "outside " + s.standard, "a stream that gives this and stays open", listed(*documents), **known)


def open_streams(s):
    array, obj, text, number, literal = (LINES[kind] for kind in ("array", "object", "text", "number", "literal"))
    for name, stream, *documents in (
            ("array", "[1]", array), ("object", '{"a":1}', obj), ("text", '"a"', text), ("literal", "true", literal), ("array-and-line-feed", "[1]\n", array),
            ("object-and-line-feed", '{"a":1}\n', obj), ("text-and-line-feed", '"a"\n', text), ("number-and-line-feed", "12\n", number),
            ("number-and-space", "12 ", number), ("literal-and-line-feed", "true\n", literal), ("return-and-line-feed", "[1]\r\n", array),
            ("lines", '[1]\n{"a":1}\n', array, obj), ("next-to", '[1]{"a":1}', array, obj), ("three", '[1]\n{"a":1}\n"a"\n', array, obj, text),
            ("and-a-beginning", '[1]\n{"a"', array), ("and-half", '{"a":1}\n[2,', obj), ("long-text", DOCUMENT["long-text"], LINES["long-text"]),
            ("long-text-and-line-feed", DOCUMENT["long-text"] + "\n", LINES["long-text"]), ("accented", '["\u00e9"]', ["[", "str " + u8("\u00e9"), "]"])):
        handed_over(s, name, stream, *documents)
    # A number may go on: to wait is all that a decoder can do.
    s.add("number", "12", "open", "RFC 8259, 6", "a number that may go on", listed(number), "documents-handed-over",
          [("one-behind", given(listed())), ("at-once", given(listed(number)))])


def sheets():
    s = Sheet("sequences-generated", "Several documents in one text: one after another, with foreign text between them, after errors, cut.")
    s.of_sequences = True
    two_documents(s)
    white_space(s)
    foreign_text(s)
    after_errors(s)
    ends(s)
    o = Sheet("open-streams-generated", "Documents from a stream that stays open behind them.")
    o.of_sequences = o.stays_open = True
    open_streams(o)
    return [s, o]

"""Cases of documents that are decoded into a record: every kind in the document against every kind in the record, and names.

A trace is what the document says, in the shape of the record. Which other outcomes an application may meet is an answer to a question; an
outcome that is none of them is a changed value.
"""

from json_tables import Sheet
from writer import u8

OUTSIDE = "outside RFC 8259"
VALUE = ["key " + u8("value")]
ABSENT = object()

# Kinds of values in a document: id, text, and the value as a trace; of a number, none.
KINDS = [("null", "null", ["null"]), ("true", "true", ["true"]), ("false", "false", ["false"]), ("zero", "0", None), ("seven", "7", None),
         ("minus-seven", "-7", None), ("seven-point-zero", "7.0", None), ("seven-with-exponent", "7e0", None),
         ("seventy-with-exponent", "7e1", None), ("fraction", "7.25", None), ("fraction-that-rounds-up", "7.75", None),
         ("small-fraction", "0.5", None), ("minus-fraction", "-7.75", None), ("largest-int32", "2147483647", None),
         ("past-int32", "2147483648", None), ("past-negative-int32", "-2147483649", None), ("wraps-to-zero-in-32-bits", "4294967296", None),
         ("past-binary64-precision", "9007199254740993", None), ("largest-int64", "9223372036854775807", None),
         ("past-int64", "9223372036854775808", None), ("wraps-in-64-bits", "18446744073709551617", None),
         ("past-int64-with-exponent", "1e20", None), ("text", '"seven"', "str"), ("digits-as-text", '"7"', "str"),
         ("fraction-as-text", '"7.25"', "str"), ("true-as-text", '"true"', "str"), ("null-as-text", '"null"', "str"),
         ("empty-text", '""', "str"), ("empty-array", "[]", ["[", "]"]), ("array-of-one", "[7]", ["[", "spelled " + u8("7"), "]"]),
         ("array-of-two", "[7,8]", ["[", "spelled " + u8("7"), "spelled " + u8("8"), "]"]),
         ("array-of-fraction", "[7.25]", ["[", "spelled " + u8("7.25"), "]"]), ("array-of-null", "[null]", ["[", "null", "]"]),
         ("array-of-text", '["7"]', ["[", "str " + u8("7"), "]"]),
         ("array-past-int32", "[2147483648]", ["[", "spelled " + u8("2147483648"), "]"]), ("empty-object", "{}", ["{", "}"]),
         ("object", '{"value":7}', ["{", *VALUE, "spelled " + u8("7"), "}"]),
         ("object-of-null", '{"value":null}', ["{", *VALUE, "null", "}"]), ("absent", None, ABSENT)]

TYPES = ["one-int32", "one-int64", "one-binary64", "one-boolean", "one-text", "one-list", "one-record"]
RANGES = {"one-int32": 2 ** 31, "one-int64": 2 ** 63}
DEFAULTS = {"one-int32": ["int 0"], "one-int64": ["int 0"], "one-binary64": ["int 0"], "one-boolean": ["false"], "one-text": ["str u8:"],
            "one-list": ["[", "]"], "one-record": ["{", *VALUE, "int 0", "}"]}


# What a record holds before it is decoded into once more, by modes called records-reused.
EARLIER = {"one-int32": ["int 41"], "one-int64": ["int 41"], "one-binary64": ["spelled " + u8("41.5")], "one-boolean": ["true"],
           "one-text": ["str " + u8("earlier")], "one-list": ["[", "int 41", "]"], "one-record": ["{", *VALUE, "int 41", "}"]}


def record(value):
    return ["{", *VALUE, *value, "}"]


def said(text, trace):
    """What a document says, as a trace."""
    if trace is None:
        return ["spelled " + u8(text)]
    return ["str " + u8(text[1:-1])] if trace == "str" else trace


def given(lines):
    return "{ trace = '''\n%s\n''' }" % "\n".join(lines)


def answers(**traces):
    return [(name, given(record(lines))) for name, lines in traces.items()]


def as_text(text):
    """The texts that a number becomes: as it is written, as a language prints the binary64, and the shortest."""
    known = {"converted": text, "respelled": repr(float(text)), "shortened": "%d" % float(text) if float(text) == int(float(text)) else text}
    if all(c in "-0123456789" for c in text):
        known = {"converted": text}
    distinct = {}
    for name, shown in known.items():
        if shown not in distinct.values():
            distinct[name] = shown
    return answers(**{name: ["str " + u8(shown)] for name, shown in distinct.items()})


def of_number(kind, text):
    """A number against a record's kind: nothing if it fits, or the question and its answers."""
    integral = all(c in "-0123456789" for c in text)
    value = float(text)
    if kind in RANGES:
        if value != int(value):
            return "record-kind", answers()
        exact = int(text) if integral else int(value)
        if not -RANGES[kind] <= exact < RANGES[kind]:
            return "record-range", answers(kept=["spelled " + u8(text)])
        return (None, []) if integral else ("record-whole-number", answers())
    if kind == "one-binary64":
        return None, []
    if kind == "one-text":
        return "record-kind", as_text(text)
    if kind == "one-boolean":
        return "record-kind", answers(converted=["true" if value != 0 else "false"])
    if kind == "one-list" and integral and -RANGES["one-int32"] <= int(text) < RANGES["one-int32"]:
        return "record-kind", answers(wrapped=["[", "int " + text, "]"])
    return "record-kind", answers()


def of_text(kind, text):
    number = {"7": ["int 7"], "7.25": ["spelled " + u8("7.25")]}.get(text)
    if kind == "one-text":
        return None, []
    if text == "":
        return "record-kind", answers(default=DEFAULTS[kind], null=["null"])
    if number and (kind == "one-binary64" or (kind in RANGES and text == "7")):
        return "record-kind", answers(converted=number)
    if kind == "one-boolean" and text == "true":
        return "record-kind", answers(converted=["true"])
    return "record-kind", answers()


# Of containers and literals: what fits, and what else a record may become.
FITS = {("one-boolean", "true"), ("one-boolean", "false"), ("one-record", "object")}
OTHERS = {("one-list", "array-of-null"): ("record-null", answers(default=["[", "int 0", "]"])),
          ("one-list", "array-past-int32"): ("record-range", answers(kept=["[", "spelled " + u8("2147483648"), "]"])),
          ("one-list", "array-of-text"): ("record-kind", answers(converted=["[", "int 7", "]"], appended=["[", "int 41", "int 7", "]"])),
          # A record's fields in their order, without their names.
          ("one-record", "array-of-one"): ("record-kind", answers(converted=record(["int 7"]))),
          ("one-record", "object-of-null"): ("record-null", answers(default=record(["int 0"]), earlier=record(["int 41"]))),
          ("one-int32", "array-of-one"): ("record-kind", answers(unwrapped=["int 7"])),
          ("one-int64", "array-of-one"): ("record-kind", answers(unwrapped=["int 7"])),
          ("one-binary64", "array-of-one"): ("record-kind", answers(unwrapped=["int 7"])),
          ("one-text", "true"): ("record-kind", answers(converted=["str " + u8("true")], respelled=["str " + u8("True")])),
          ("one-text", "false"): ("record-kind", answers(converted=["str " + u8("false")], respelled=["str " + u8("False")]))}


def of_other(kind, name):
    if (kind, name) == ("one-list", "array-of-one") or (kind, name) == ("one-list", "array-of-two"):
        return "record-list", answers(appended=["[", "int 41", "int 7"] + ["int 8"] * (name == "array-of-two") + ["]"])
    if (kind, name) == ("one-list", "empty-array"):
        return "record-list", answers(appended=["[", "int 41", "]"])
    if (kind, name) in FITS:
        return None, []
    if name == "null":
        known = answers(default=DEFAULTS[kind], earlier=EARLIER[kind])
        # Some encoders write a NaN as null, and their decoders read it so.
        return "record-null", known + (answers(nan=["binary64 7ff8000000000000"]) if kind == "one-binary64" else [])
    if name in ("true", "false") and kind in ("one-int32", "one-int64", "one-binary64"):
        return "record-kind", answers(converted=["int 1" if name == "true" else "int 0"])
    return OTHERS.get((kind, name), ("record-kind", answers()))


def question_of(kind, name, text, trace):
    if trace is None:
        return of_number(kind, text)
    return of_text(kind, text[1:-1]) if trace == "str" else of_other(kind, name)


def kinds(s):
    for kind in TYPES:
        word = kind.removeprefix("one-")
        for name, text, trace in KINDS:
            case = "%s-in-%s" % (name, word)
            if (kind, name) == ("one-text", "past-int64-with-exponent"):
                continue  # languages write 1e20 in too many ways
            if trace is ABSENT:
                s.add(case, "{}", "open", OUTSIDE, "a required field is not there", None, "record-absent",
                      answers(default=DEFAULTS[kind], null=["null"], earlier=EARLIER[kind]), record=kind)
            elif kind == "one-record" and name == "empty-object":
                s.add(case, '{"value":{}}', "open", OUTSIDE, "a required field of a nested record is not there", None, "record-absent",
                      answers(default=record(["int 0"]), null=record(["null"]), earlier=record(["int 41"])), record=kind)
            else:
                question, known = question_of(kind, name, text, trace)
                s.add(case, '{"value":%s}' % text, "accept", OUTSIDE, "%s for a field of kind %s" % (name.replace("-", " "), word),
                      record(said(text, trace)), question, known, record=kind)


def bell(name="str " + u8("Anna"), note="null"):
    return ["{", "key " + u8("name"), name, "key " + u8("weight_kg"), "int 550", "key " + u8("hum_hz"), "spelled " + u8("110.5"),
            "key " + u8("note"), note, "}"]


CLARA = "str " + u8("Clara")
BERTA = "str " + u8("Berta")
REST = '"weight_kg":550,"hum_hz":110.5,"note":null'


def names(s):
    """Names of fields: exact, escaped, in other cases, twice, unknown, absent."""
    note = bell(note="str " + u8("cast in 1502"))
    for name, text, why, trace in (
            ("exact", '{"name":"Anna","weight_kg":550,"hum_hz":110.5,"note":"cast in 1502"}', "all fields", note),
            ("in-another-order", '{"note":"cast in 1502","hum_hz":110.5,"weight_kg":550,"name":"Anna"}', "another order of members", note),
            ("optional-null", '{"name":"Anna",%s}' % REST, "an optional field is null", bell()),
            ("optional-empty", '{"name":"Anna","weight_kg":550,"hum_hz":110.5,"note":""}', "an optional field is empty", bell(note="str u8:"))):
        s.add("names-" + name, text, "accept", OUTSIDE, why, trace, record="bell")
    s.add("names-optional-absent", '{"name":"Anna","weight_kg":550,"hum_hz":110.5}', "accept", OUTSIDE, "an optional field is not there", bell(),
          "record-absent", [("earlier", given(bell(note="str " + u8("earlier"))))], record="bell")
    s.add("names-escaped", '{"\\u006eame":"Anna",%s}' % REST, "accept", "8.3", "an escaped name is the same name", bell(), record="bell")
    nothing = [("default", given(bell("str u8:"))), ("null", given(bell("null"))), ("earlier", given(bell(CLARA)))]
    s.add("names-required-absent", "{%s}" % REST, "open", OUTSIDE, "a required field is not there", None, "record-absent", nothing, record="bell")
    for name, member in (("upper-case", "NAME"), ("capital", "Name")):
        s.add("names-" + name, '{"%s":"Anna",%s}' % (member, REST), "open", "8.3", "a name in another case", None, "record-name-case",
              [("matched", given(bell()))] + nothing, record="bell")
    s.add("names-unknown-member", '{"name":"Anna",%s,"bells":[1,{"a":2}]}' % REST, "accept", OUTSIDE, "a member that is no field", bell(),
          "record-unknown", [], record="bell")
    s.add("names-twice", '{"name":"Berta","name":"Anna",%s}' % REST, "open", "4", "a field twice", None, "duplicate-names",
          [("first", given(bell(BERTA))), ("last", given(bell()))], record="bell")
    s.add("names-twice-in-two-cases", '{"NAME":"Berta","name":"Anna",%s}' % REST, "open", "8.3", "a field in two cases", None,
          "record-name-case", [("ignored", given(bell())), ("first", given(bell(BERTA)))], record="bell")
    s.add("names-array-for-record", '["Anna",550,110.5,null]', "open", OUTSIDE, "the fields as an array", None, "record-kind",
          [("converted", given(bell()))], record="bell")


# Contents that fit: what an encoder of the record has to escape, or to spell with enough digits.
TEXTS = [("quote", r'a\"b', 'a"b'), ("backslash", r"a\\b", "a\\b"), ("solidus", "a/b", "a/b"), ("tab-and-line-end", r"a\tb\nc", "a\tb\nc"),
         ("escape-character", r"a\u001bb", "a\x1bb"), ("delete", "a\x7fb", "a\x7fb"), ("latin", "Glocke f\u00fcr K\u00f6ln", None),
         ("greek", "\u03ba\u03b1\u03bc\u03c0\u03ac\u03bd\u03b1", None), ("beyond-the-first-plane", "\U0001F514 bell", None),
         ("pair-of-escapes", r"\ud83d\udd14 bell", "\U0001F514 bell"), ("line-separator", "a\u2028b", None), ("end-of-script", "</script>", None),
         ("noncharacter", "a\uffffb", None), ("combining-mark", "e\u0301", None), ("looks-like-a-date", "1502-06-01T12:00:00Z", None),
         ("looks-like-an-old-date", "/Date(1234567890)/", r"/Date(1234567890)/"), ("blanks-around", " a ", None), ("long", "bell " * 400, None)]
NUMBERS = [("int32", "smallest", "-2147483648"), ("int64", "smallest", "-9223372036854775808"), ("int64", "past-double", "9007199254740993"),
           ("int64", "nineteen-digits", "1234567890123456789"), ("binary64", "tenth", "0.1"), ("binary64", "third", "0.3333333333333333"),
           ("binary64", "seventeen-digits", "0.30000000000000004"), ("binary64", "small", "1e-7"), ("binary64", "large", "1e21"),
           ("binary64", "largest", "1.7976931348623157e308"), ("binary64", "smallest-normal", "2.2250738585072014e-308"),
           ("binary64", "smallest", "5e-324"), ("binary64", "pi", "3.141592653589793"), ("binary64", "whole", "123456789012"),
           ("binary64", "single-precision-is-not-enough", "16777217")]


def contents(s):
    for name, text, held in TEXTS:
        s.add("content-text-" + name, '{"value":"%s"}' % text, "accept", OUTSIDE, "a text that fits", record(["str " + u8(held or text)]),
              record="one-text")
    for kind, name, text in NUMBERS:
        s.add("content-%s-%s" % (kind, name), '{"value":%s}' % text, "accept", OUTSIDE, "a number that fits", record(["spelled " + u8(text)]),
              record="one-" + kind)
    for name, text in (("ends-of-int32", [-2147483648, 0, 2147483647]), ("many", list(range(100)))):
        held = ["int %d" % n for n in text]
        s.add("content-list-" + name, '{"value":%s}' % str(text).replace(" ", ""), "accept", OUTSIDE, "a list that fits",
              record(["[", *held, "]"]), "record-list", answers(appended=["[", "int 41", *held, "]"]), record="one-list")
    s.add("content-record-nested", '{"value":{"value":-7}}', "accept", OUTSIDE, "a record that fits", record(record(["int -7"])), record="one-record")


# Values that no document gives, which an application may put into a record: id, field of the record, value.
NAN, INFINITY, MINUS_INFINITY = "binary64 7ff8000000000000", "binary64 7ff0000000000000", "binary64 fff0000000000000"
NO_NUMBERS = [("nan", NAN, ("NaN", "nan")), ("infinity", INFINITY, ("Infinity", "inf")), ("minus-infinity", MINUS_INFINITY, ("-Infinity", "-inf"))]
SURROGATES = [("lone-high", "d83d", "\ufffd"), ("lone-low", "dd14", "\ufffd"), ("reversed", "dd14d83d", "\ufffd\ufffd"), ("lone-high-inside", "0061d83d0062", "a\ufffdb")]
BYTES = [("stray-byte", b"\x80", "\ufffd"), ("cut-short", b"a\xe9", "a\ufffd"), ("byte-between", b"a\xffb", "a\ufffdb")]


def unwritten(s):
    """Records that are filled by an application and encoded."""
    for name, value, words in NO_NUMBERS:
        known = answers(**{"null": ["null"], "text": ["str " + u8(words[0])]})
        s.add("filled-" + name, record([value]), "open", "10", "a number that JSON cannot hold must not become ill-formed text", None, "record-no-number",
              known, record="one-binary64")
    for name, units, replaced in SURROGATES:
        s.add("filled-" + name, record(["str u16:" + units]), "open", "8.2", "a text that UTF-8 cannot hold", None, "record-no-text",
              answers(kept=["str u16:" + units], replaced=["str " + u8(replaced)], **{"question-mark": ["str " + u8(replaced.replace("\ufffd", "?"))]}), record="one-text")
    for name, held, replaced in BYTES:
        s.add("filled-" + name, record(["str u8:" + held.hex()]), "open", "8.1", "bytes that are no UTF-8 must not come out raw", None, "record-no-text",
              answers(replaced=["str " + u8(replaced)]), record="one-text")
    for kind, word in (("one-text", "text"), ("one-list", "list"), ("one-record", "record")):
        empty = {"one-text": ["str u8:"], "one-list": ["[", "]"], "one-record": ["{", "}"]}[kind]
        s.add("filled-null-" + word, record(["null"]), "open", OUTSIDE, "a field that holds nothing", None, "record-null-written",
              answers(kept=["null"]) + [("left-out", given(["{", "}"])), ("empty", given(record(empty)))], record=kind)
    s.add("filled-bell-of-nulls", ["{", "key " + u8("name"), "null", "key " + u8("weight_kg"), "int 550", "key " + u8("hum_hz"), "binary64 405ba00000000000", "key " + u8("note"), "null", "}"],
          "open", OUTSIDE, "two fields that hold nothing", None, "record-null-written",
          [("left-out", given(["{", "key " + u8("weight_kg"), "int 550", "key " + u8("hum_hz"), "binary64 405ba00000000000", "}"])),
           ("kept", given(["{", "key " + u8("name"), "null", "key " + u8("weight_kg"), "int 550", "key " + u8("hum_hz"), "binary64 405ba00000000000", "key " + u8("note"), "null", "}"])),
           ("left-out-optional", given(["{", "key " + u8("name"), "null", "key " + u8("weight_kg"), "int 550", "key " + u8("hum_hz"), "binary64 405ba00000000000", "}"]))], record="bell")
    for name, value in (("deepest-digits", "binary64 3ff0000000000001"), ("minus-zero", "binary64 8000000000000000"), ("smallest", "binary64 0000000000000001"),
                        ("largest", "binary64 7fefffffffffffff"), ("near-largest-int64", "binary64 43dfffffffffffff"), ("tenth", "binary64 3fb999999999999a"),
                        ("one", "binary64 3ff0000000000000"), ("large-whole", "binary64 444b1ae4d6e2ef50")):
        s.add("filled-" + name, record([value]), "accept", "10", "a number with all its digits", None, record="one-binary64")
    for name, held in (("nul", "a\0b"), ("controls", "\x01\x1f\x7f\x80"), ("separators", "\u2028\u2029"), ("noncharacters", "\ufffe\uffff"), ("beyond-the-first-plane", "\U0001F514\U0010FFFF"),
                       ("quotes", "\"\\/'"), ("markup", "<a>&</script>"), ("byte-order-mark", "\ufeffa")):
        s.add("filled-" + name, record(["str " + u8(held)]), "accept", "10", "a text with what needs care", None, record="one-text")


def sheets():
    s = Sheet("records-generated", "Every kind in a document against every kind in a record that it is decoded into; names of fields.")
    kinds(s)
    names(s)
    contents(s)
    unwritten(s)
    return [s]

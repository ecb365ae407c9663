"""Cases of XML documents that are decoded into a record of fields: what a field's element may hold, against every kind of field, and names.

A trace is what the document says, in the shape of the record. No standard says how elements become fields: another outcome that an
application may meet is an answer to a question, and an outcome that is none of them is a changed value.
"""

from json_records import DEFAULTS, EARLIER, VALUE, answers, bell, given, record
from writer import Sheet, u8

OUTSIDE = "outside XML 1.0"
NIL = '<value xmlns:xsi="http://www.w3.org/2001/XMLSchema-instance" xsi:nil="true"/>'
NUMBERS = ("one-int32", "one-int64", "one-binary64")
# What an int32 holds that the document does not give.
UNTOUCHED = {"default": ["int 0"], "null": ["null"], "earlier": ["int 41"]}
RANGES = {"one-int32": 2 ** 31, "one-int64": 2 ** 63}
NAN, INFINITY = "binary64 7ff8000000000000", "binary64 7ff0000000000000"


def spelled(text):
    return ["spelled " + u8(text)]


def string(text):
    return ["str " + u8(text)]


# Texts of a field's element: id, text, and the number that it is.
NUMBER_TEXTS = [("seven", "7", 7), ("zero", "0", 0), ("minus-seven", "-7", -7), ("largest-int32", "2147483647", 2 ** 31 - 1),
                ("smallest-int32", "-2147483648", -2 ** 31), ("past-int32", "2147483648", 2 ** 31), ("past-negative-int32", "-2147483649", -2 ** 31 - 1),
                ("wraps-in-32-bits", "4294967303", 2 ** 32 + 7), ("past-binary64-precision", "9007199254740993", 2 ** 53 + 1),
                ("largest-int64", "9223372036854775807", 2 ** 63 - 1), ("past-int64", "9223372036854775808", 2 ** 63),
                ("wraps-in-64-bits", "18446744073709551623", 2 ** 64 + 7)]
SPELLINGS = [("plus-sign", "+7", "7"), ("leading-zeros", "007", "7"), ("leading-zero-not-octal", "010", "10"), ("blanks-around", " 7 ", "7"),
             ("on-a-line-of-its-own", "\n    7\n  ", "7"), ("tab-before", "\t7", "7")]
# No number as Schema spells it; a library that reads one may read only this number.
OTHER_SPELLINGS = [("other-digits", "\u0667", "7"), ("full-width-digit", "\uff17", "7"), ("no-break-space-before", "\xa07", "7"),
                   ("underscore", "1_000", "1000"), ("grouped", "1,000", "1000"), ("hexadecimal", "0x10", "16")]
FRACTIONS = [("fraction", "7.25"), ("fraction-that-rounds-up", "7.75"), ("minus-fraction", "-7.75")]
WHOLE = [("seven-point-zero", "7.0", "7"), ("seven-with-exponent", "7e0", "7"), ("seventy-with-exponent", "7E1", "70")]
NO_NUMBERS = [("word", "seven"), ("digit-and-letter", "7x"), ("letter-and-digit", "x7"), ("two-numbers", "7 8"), ("two-signs", "--7"), ("sign-alone", "-"),
              ("true", "true"), ("comma-for-point", "7,25"), ("date", "1502-06-01")]
BINARY64 = [("tenth", "0.1"), ("seventeen-digits", "0.30000000000000004"), ("small", "1e-7"), ("large", "1E21"), ("largest", "1.7976931348623157E308"),
            ("smallest-normal", "2.2250738585072014E-308"), ("smallest", "5e-324"), ("single-precision-is-not-enough", "16777217"),
            ("halfway", "9007199254740993"), ("many-digits", "0.1000000000000000055511151231257827021181583404541015625"),
            ("point-first", ".5"), ("point-last", "5.")]
BINARY64_SPELLINGS = [("suffix-f", "7f", "7"), ("suffix-d", "7.5d", "7.5"), ("hexadecimal-exponent", "0x1p3", "8"), ("exponent-of-d", "1d2", "100")]
# In pieces that a reader may hand on one by one: id, content, text, clause, why.
PIECES = [("comment-inside", "1<!--c-->2", "12", "2.5", "a comment is no part of character data"),
          ("comment-before", "<!--c-->12", "12", "2.5", "a comment is no part of character data"),
          ("comment-after", "12<!--c-->", "12", "2.5", "a comment is no part of character data"),
          ("instruction-inside", "1<?p c?>2", "12", "2.6", "an instruction is no part of character data"),
          ("section", "<![CDATA[12]]>", "12", "2.7", "a CDATA section is character data"),
          ("section-inside", "1<![CDATA[2]]>3", "123", "2.7", "a CDATA section is character data"),
          ("two-sections", "<![CDATA[1]]><![CDATA[2]]>", "12", "2.7", "CDATA sections are character data"),
          ("empty-section", "1<![CDATA[]]>2", "12", "2.7", "a CDATA section is character data"),
          ("character-reference", "1&#50;", "12", "4.1", "a reference is the character that it names"),
          ("references-alone", "&#x31;&#x32;", "12", "4.1", "a reference is the character that it names")]
TEXTS = [("plain", "Anna", "Anna"), ("markup-escaped", "a &lt;b> &amp;amp; c", "a <b> &amp; c"), ("quotes", "\"a' b\"", "\"a' b\""), ("inner-blanks", "a  b", "a  b"),
         ("line-end-inside", "a\nb", "a\nb"), ("tab-inside", "a\tb", "a\tb"), ("carriage-return-and-line-feed", "a\r\nb", "a\nb"),
         ("carriage-return-referred-to", "a&#13;b", "a\rb"), ("section-with-markup", "<![CDATA[a <b> & c]]>", "a <b> & c"),
         ("comment-inside", "Glocke<!--c--> von <?p?>Anna", "Glocke von Anna"), ("section-inside", "a<![CDATA[ & ]]>b", "a & b"),
         ("comment-between", "a<!--c-->b", "ab"), ("comment-before", "<!--c-->a", "a"),
         ("instruction-between", "a<?p?>b", "ab"), ("section-between", "a<![CDATA[b]]>c", "abc"), ("section-before", "<![CDATA[a]]>b", "ab"),
         ("section-behind", "a<![CDATA[b]]>", "ab"), ("return-and-line-feed-referred-to", "Anna&#13;&#10;Berta", "Anna\r\nBerta"), ("returns-referred-to", "a&#13;&#13;b", "a\r\rb"),
         ("reference-inside", "a&amp;b", "a&b"), ("beyond-ascii", "Glocke f\u00fcr K\u00f6ln", "Glocke f\u00fcr K\u00f6ln"),
         ("beyond-the-first-plane", "\U0001F514 bell", "\U0001F514 bell"), ("next-line", "a\x85b", "a\x85b"), ("line-separator", "a\u2028b", "a\u2028b"),
         ("no-break-space", "\xa0a\xa0", "\xa0a\xa0"), ("combining-mark", "e\u0301", "e\u0301"), ("section-end-escaped", "]]&gt;", "]]>"),
         ("number", "007.50", "007.50"), ("word-true", "true", "true"), ("word-null", "null", "null"), ("looks-like-a-date", "1502-06-01T12:00:00Z", "1502-06-01T12:00:00Z"),
         ("long", "bell " * 400 + ".", "bell " * 400 + "."), ("many-references", "&lt;&#65;" * 100, "<A" * 100)]
OUTER_SPACE = [("blanks-around", " Anna ", " Anna "), ("line-ends-around", "\n  Anna\n", "\n  Anna\n"), ("blank-before-reference", "a &amp; b ", "a & b "),
               ("blanks-around-section", " <![CDATA[a]]> ", " a "), ("blanks-in-section", "<![CDATA[ a ]]>", " a ")]


def document(content, root="record"):
    return "<%s><value>%s</value></%s>" % (root, content, root)


def of_field(s, kind, name, content, why, trace, question=None, known=None, clause=OUTSIDE, stance="accept"):
    """A case of one field whose element has this content; what the document says, or none, and the answers to a question."""
    s.add("%s-in-%s" % (name, kind.removeprefix("one-")), document(content), stance, clause, why, record(trace) if trace else None, question, known, record=kind)


def aside(content):
    """Of a comment or an instruction inside a field the question, and its listed answers."""
    return ("record-aside", []) if "<!--" in content or "<?" in content else (None, None)


def numbers(s):
    for kind in NUMBERS:
        for name, text, value in NUMBER_TEXTS:
            if kind in RANGES and not -RANGES[kind] <= value < RANGES[kind]:
                of_field(s, kind, name, text, "a number beyond the field's type", spelled(text), "record-range", [])
            else:
                of_field(s, kind, name, text, "a number that fits", spelled(text))
        for name, text, value in SPELLINGS:
            of_field(s, kind, name, text, "a number in another spelling of XML Schema 1.0 (part 2, 3.3)", spelled(value), "record-number-spelling", [])
        for name, text, value in OTHER_SPELLINGS:
            of_field(s, kind, name, text, "a number as some languages spell it", string(text), "record-number-spelling", answers(read=spelled(value)))
        for name, text in NO_NUMBERS:
            of_field(s, kind, name, text, "no number", string(text), "record-kind", [])
        for name, content, text, clause, why in PIECES:
            of_field(s, kind, name, content, why, spelled(text), *aside(content), clause=clause)
        if kind == "one-binary64":
            continue
        for name, text in FRACTIONS:
            of_field(s, kind, name, text, "a fraction", spelled(text), "record-kind", [])
        for name, text, value in WHOLE:
            of_field(s, kind, name, text, "a whole number with a fraction or an exponent", spelled(value), "record-whole-number", [])
    for name, text in FRACTIONS + [(name, text) for name, text, _ in WHOLE] + BINARY64:
        of_field(s, "one-binary64", "binary-" + name, text, "a number that fits", spelled(text if text[0] != "." and text[-1] != "." else text.strip(".").replace("5", "0.5" if text[0] == "." else "5")))
    for name, text, value in BINARY64_SPELLINGS:
        of_field(s, "one-binary64", name, text, "a number as a programming language spells it", string(text), "record-number-spelling", answers(read=spelled(value)))
    for name, text, bits in (("not-a-number", "NaN", NAN), ("infinity", "INF", INFINITY), ("minus-infinity", "-INF", "binary64 fff0000000000000")):
        of_field(s, "one-binary64", name, text, "a value of XML Schema's double (part 2, 3.2.5)", [bits], "record-number-spelling", [])
    for name, text, bits in (("infinity-in-full", "Infinity", INFINITY), ("nan-in-small-letters", "nan", NAN)):
        of_field(s, "one-binary64", name, text, "as a programming language writes it", string(text), "record-number-spelling", answers(read=[bits]))
    for name, text, known in (("too-large", "1e400", answers(infinity=[INFINITY])), ("too-small", "1e-400", answers(rounded=["int 0"]))):
        of_field(s, "one-binary64", name, text, "a number beyond binary64", None, "record-range", known, stance="open")


def booleans(s):
    kind = "one-boolean"
    for word in ("true", "false"):
        of_field(s, kind, word, word, "a boolean", [word])
    for name, text, held in (("one", "1", "true"), ("zero", "0", "false"), ("blanks-around", " true ", "true"), ("on-a-line-of-its-own", "\n  true\n", "true")):
        of_field(s, kind, name, text, "a boolean in another spelling of XML Schema 1.0 (part 2, 3.2.2)", [held], "record-boolean-spelling", [])
    for name, text, held in (("capitals", "TRUE", "true"), ("capital-first", "True", "true"), ("yes", "yes", "true"), ("letter", "t", "true"), ("capital-false", "False", "false")):
        of_field(s, kind, name, text, "a boolean as some languages spell it", string(text), "record-boolean-spelling",
                 answers(read=[held], **({"false": ["false"]} if held == "true" else {})))
    for name, text in (("word", "seven"), ("two", "2"), ("cut", "tru"), ("minus-one", "-1"), ("two-words", "true false"), ("number", "1.5")):
        of_field(s, kind, name, text, "no boolean", string(text), "record-kind", [])
    for name, content, clause in (("comment-inside", "tr<!--c-->ue", "2.5"), ("section", "<![CDATA[true]]>", "2.7"), ("character-reference", "tru&#101;", "4.1")):
        of_field(s, kind, name, content, "the text in pieces", ["true"], *aside(content), clause=clause)


def texts(s):
    for name, content, held in TEXTS:
        clause = "2.5" if "<!--" in content else "2.6" if "<?" in content else "2.11" if "\r" in held + content else OUTSIDE
        of_field(s, "one-text", name, content, "a text that fits", string(held), *aside(content), clause=clause)
    for name, content, held in OUTER_SPACE:
        of_field(s, "one-text", name, content, "white space at an end of a text", string(held), "record-white-space", answers(trimmed=string(held.strip())))
    of_field(s, "one-text", "blanks-alone", "  ", "a text of white space", string("  "), "record-white-space", answers(empty=string(""), null=["null"]))
    for name, content in (("section-empty", "<![CDATA[]]>"), ("comment-alone", "<!--c-->")):
        of_field(s, "one-text", name, content, "no text at all", string(""), "record-empty", answers(null=["null"]))


def empty(s):
    for kind in NUMBERS + ("one-boolean", "one-text"):
        word = kind.removeprefix("one-")
        of_text = kind == "one-text"
        known = answers(null=["null"]) if of_text else answers(default=DEFAULTS[kind], null=["null"])
        stance, held = ("accept", string("")) if of_text else ("open", None)
        of_field(s, kind, "empty", "", "an empty element", held, "record-empty", known, stance=stance)
        s.add("empty-tag-in-" + word, "<record><value/></record>", stance, OUTSIDE, "an empty-element tag", record(held) if held else None, "record-empty", known, record=kind)
        if not of_text:
            of_field(s, kind, "blank", " ", "white space alone", None, "record-empty", known, stance="open")
        s.add("nil-in-" + word, "<record>%s</record>" % NIL, "open", OUTSIDE, "an element that is marked xsi:nil (XML Schema part 1, 2.6.2)", None, "record-nil",
              answers(default=DEFAULTS[kind], null=["null"]), record=kind)
        for name, text in (("absent", "<record></record>"), ("absent-with-white-space", "<record>\n</record>")):
            s.add("%s-in-%s" % (name, word), text, "open", OUTSIDE, "a required field is not there", None, "record-absent",
                  answers(default=DEFAULTS[kind], null=["null"], earlier=EARLIER[kind]), record=kind)


def structure(s):
    """What is around, and inside, the one element of a field."""
    seven, kind = spelled("7"), "one-int32"
    for name, text in (("indented", "<record>\n  <value>7</value>\n</record>"), ("declared", "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n" + document("7")),
                       ("comments-around", "<!--c--><record><!--c--><value>7</value><!--c--></record><!--c-->"),
                       ("blanks-in-tags", "<record ><value >7</value ></record >")):
        s.add("around-" + name, text, "accept", "2", "what is around a field is no part of it", record(seven), record=kind)
    for name, text in (("attribute", '<record><value unit="kg">7</value></record>'), ("attribute-of-root", '<record year="1502"><value>7</value></record>'),
                       ("element", "<record><value>7</value><other>8</other></record>"), ("element-before", "<record><other>8</other><value>7</value></record>"),
                       ("element-with-elements", "<record><other><a>1</a><value>8</value></other><value>7</value></record>"),
                       ("text", "<record>text<value>7</value></record>"),
                       ("instruction", "<record><?p?><value>7</value></record>")):
        s.add("unknown-" + name, text, "accept", OUTSIDE, "something that is no field", record(seven), "record-unknown", [], record=kind)
    for name, content, joined, first, last in (("element-between", "1<b>5</b>2", "12", "1", "2"), ("element-before", "<b/>12", "12", None, None), ("element-after", "12<b/>", "12", None, None)):
        known = dict(joined=spelled(joined), **({"first": spelled(first), "last": spelled(last)} if first else {"default": ["int 0"]}))
        of_field(s, kind, "mixed-" + name, content, "text and elements", None, "record-mixed-content", answers(**known), stance="open")
    s.add("mixed-in-text", document("a<b>c</b>d"), "open", OUTSIDE, "text and elements", None, "record-mixed-content",
          answers(joined=string("acd"), first=string("a"), last=string("d")) + [("outer", given(record(string("ad"))))], record="one-text")
    s.add("repeated", "<record><value>7</value><value>8</value></record>", "open", OUTSIDE, "a field twice", None, "record-repeated",
          answers(first=spelled("7"), last=spelled("8")), record=kind)
    s.add("repeated-second-empty", "<record><value>7</value><value/></record>", "open", OUTSIDE, "a field twice, the second time empty", None, "record-repeated",
          answers(first=spelled("7"), last=["int 0"]), record=kind)
    for name, member in (("upper-case", "VALUE"), ("capital", "Value")):
        s.add("name-" + name, "<record><%s>7</%s></record>" % (member, member), "open", "2.3", "a name in another case", None, "record-name-case",
              answers(matched=seven, default=["int 0"], null=["null"], earlier=["int 41"]), record=kind)
    for name, text in (("default-namespace", '<record><value xmlns="urn:bells">7</value></record>'), ("prefix", '<record xmlns:b="urn:bells"><b:value>7</b:value></record>'),
                       ("of-the-root-too", '<record xmlns="urn:bells"><value>7</value></record>')):
        s.add("namespace-" + name, text, "open", "outside Namespaces 1.0", "a name in another namespace than the field's", None, "record-namespace",
              answers(matched=seven, **UNTOUCHED), record=kind)
    s.add("namespace-declared-and-unused", '<record xmlns:b="urn:bells"><value>7</value></record>', "accept", OUTSIDE, "a declaration that no name uses",
          record(seven), "record-unknown", [], record=kind)
    s.add("namespace-two-of-one-name", '<record xmlns:b="urn:bells"><value>7</value><b:value>8</b:value></record>', "open", "outside Namespaces 1.0",
          "two elements whose names differ in the namespace alone", None, "record-namespace", answers(matched=spelled("8")) + [("ignored", given(record(seven)))], record=kind)
    s.add("attribute-for-element", '<record value="7"/>', "open", OUTSIDE, "an attribute in the place of an element", None, "record-attribute",
          answers(matched=seven, **UNTOUCHED), record=kind)
    s.add("attribute-and-element", '<record value="8"><value>7</value></record>', "open", OUTSIDE, "an attribute and an element of one name", None, "record-attribute",
          answers(matched=spelled("8")) + [("ignored", given(record(seven)))], record=kind)
    s.add("root-of-another-name", document("7", "bell"), "open", OUTSIDE, "the root has another name than the record", None, "record-root-name",
          answers(ignored=seven), record=kind)
    s.add("root-in-capitals", document("7", "RECORD"), "open", "2.3", "the root's name in another case", None, "record-root-name", answers(ignored=seven), record=kind)
    s.add("entity", "<!DOCTYPE record [<!ENTITY e '12'>]><record><value>&e;</value></record>", "open", "4.4.2", "an internal entity", None,
          "record-document-type", answers(read=spelled("12")), record=kind)
    s.add("entity-inside", "<!DOCTYPE record [<!ENTITY e '2'>]><record><value>1&e;3</value></record>", "open", "4.4.2", "an internal entity between digits", None,
          "record-document-type", answers(read=spelled("123")), record=kind)
    s.add("entity-in-text", "<!DOCTYPE record [<!ENTITY e ' &#38;amp; '>]><record><value>a&e;b</value></record>", "open", "4.4.2", "an internal entity between letters", None,
          "record-document-type", answers(read=string("a & b")), record="one-text")
    s.add("document-type-alone", "<!DOCTYPE record><record><value>7</value></record>", "open", "2.8", "a document type without a word about the field", None,
          "record-document-type", answers(read=seven), record=kind)


def lists(s):
    kind = "one-list"

    def held(*values):
        return record(["[", *("int %d" % v for v in values), "]"])

    def one(name, text, why, trace, question=None, known=None, stance="accept"):
        s.add("list-" + name, "<record>%s</record>" % text, stance, OUTSIDE, why, trace, question, known, record=kind)
    values = ["<value>%d</value>" % n for n in (7, 8, 9)]

    def appended(*values):
        return [("appended", given(held(41, *values)))]
    one("of-one", values[0], "one element is a list of one", held(7), "record-list", appended(7))
    one("of-two", "".join(values[:2]), "two elements", held(7, 8), "record-list", appended(7, 8))
    one("of-many", "".join("<value>%d</value>" % n for n in range(100)), "many elements", held(*range(100)), "record-list", appended(*range(100)))
    one("with-white-space", "\n".join(values), "white space between the elements", held(7, 8, 9), "record-list", appended(7, 8, 9))
    one("with-comments", "<!--c-->".join(values), "comments between the elements", held(7, 8, 9), "record-list", appended(7, 8, 9))
    one("of-none", "", "no element", held(), "record-absent", answers(null=["null"], earlier=["[", "int 41", "]"]))
    parted = [("first", given(held(7))), ("last", given(held(8)))] + appended(7, 8)
    one("parted-by-an-element", "<value>7</value><other/><value>8</value>", "another element between two elements of a list", held(7, 8), "record-list", parted)
    one("parted-by-text", "<value>7</value>text<value>8</value>", "text between two elements of a list", held(7, 8), "record-unknown", appended(7, 8))
    one("of-an-empty-element", "<value/>", "an empty element in a list", None, "record-empty", [(name, given(trace)) for name, trace in
        (("default", held(0)), ("null", record(["[", "null", "]"])), ("left-out", held()), ("appended", held(41, 0)))], "open")
    one("with-a-word", "<value>7</value><value>x</value>", "an element that is no number", record(["[", "int 7", *string("x"), "]"]), "record-kind", [])
    one("past-int32", "<value>7</value><value>2147483648</value>", "an element beyond the field's type", held(7, 2147483648), "record-range", [])


def nested(s):
    kind, seven = "one-record", record(["int 7"])

    def one(name, text, stance, why, trace, question=None, known=None):
        s.add("nested-" + name, "<record>%s</record>" % text, stance, OUTSIDE, why, trace, question, known, record=kind)
    one("fits", "<value><value>7</value></value>", "accept", "a record that fits", record(seven))
    one("indented", "\n <value>\n  <value>7</value>\n </value>\n", "accept", "a record that fits, indented", record(seven))
    for name, text in (("empty", "<value></value>"), ("empty-tag", "<value/>")):
        one(name, text, "open", "a required field of a nested record is not there", None, "record-absent",
            answers(default=record(["int 0"]), null=["null"], earlier=record(["int 41"])) + [("nested-null", given(record(record(["null"]))))])
    one("absent", "", "open", "a required record is not there", None, "record-absent", answers(default=record(["int 0"]), null=["null"], earlier=record(["int 41"])))
    one("nil", NIL, "open", "a record that is marked xsi:nil", None, "record-nil", answers(default=record(["int 0"]), null=["null"], earlier=record(["int 41"])))
    one("text-for-record", "<value>7</value>", "open", "text in the place of a record", None, "record-kind", answers(default=record(["int 0"]), null=["null"], earlier=record(["int 41"])))
    one("twice", "<value><value>7</value></value><value><value>8</value></value>", "open", "a nested record twice", None, "record-repeated",
        answers(first=seven, last=record(["int 8"])))
    one("unknown-inside", "<value><other/><value>7</value></value>", "accept", "an element of a nested record that is no field", record(seven), "record-unknown", [])


def attributes(s):
    def one(name, text, why, trace, question=None, known=None, stance="accept", clause=OUTSIDE, kind="one-attribute"):
        s.add("attribute-" + name, text, stance, clause, why, record(trace) if trace else None, question, known, record=kind)
    one("fits", '<record value="7"/>', "a number in an attribute", spelled("7"))
    one("with-end-tag", '<record value="7"></record>', "a number in an attribute", spelled("7"))
    one("reference", '<record value="1&#50;"/>', "a reference in an attribute", spelled("12"), clause="4.1")
    one("blanks-around", '<record value=" 7 "/>', "white space around a number", spelled("7"), "record-number-spelling", [])
    one("plus-sign", '<record value="+7"/>', "a plus sign", spelled("7"), "record-number-spelling", [])
    one("empty", '<record value=""/>', "an empty value", None, "record-empty", answers(default=["int 0"], null=["null"]), "open")
    one("word", '<record value="seven"/>', "no number", string("seven"), "record-kind", [])
    one("past-int32", '<record value="2147483648"/>', "a number beyond the field's type", spelled("2147483648"), "record-range", [])
    one("wraps-in-32-bits", '<record value="4294967303"/>', "a number beyond the field's type", spelled("4294967303"), "record-range", [])
    one("fraction", '<record value="7.25"/>', "a fraction", spelled("7.25"), "record-kind", [])
    one("absent", "<record/>", "a required attribute is not there", None, "record-absent", answers(default=["int 0"], null=["null"], earlier=["int 41"]), "open")
    one("element-for-attribute", document("7"), "an element in the place of an attribute", None, "record-attribute",
        answers(matched=spelled("7"), **UNTOUCHED), "open")
    one("in-a-namespace", '<record xmlns:b="urn:bells" b:value="7"/>', "an attribute in another namespace", None, "record-namespace",
        answers(matched=spelled("7"), **UNTOUCHED), "open", "outside Namespaces 1.0")
    one("unknown", '<record value="7" year="1502"/>', "an attribute that is no field", spelled("7"), "record-unknown", [])
    one("default", "<!DOCTYPE record [<!ATTLIST record value CDATA '7'>]><record/>", "a value that the document type gives", None, "record-document-type",
        answers(read=spelled("7"), **UNTOUCHED), "open", "3.3.2")
    for name, value, held, clause in (("plain", "Anna", "Anna", OUTSIDE), ("escaped", "a &lt; &amp; &quot;b&quot;", 'a < & "b"', "4.6"), ("line-end", "a\nb", "a b", "3.3.3"),
                                      ("tab", "a\tb", "a b", "3.3.3"), ("tab-referred-to", "a&#9;b", "a\tb", "3.3.3"), ("two-line-ends-referred-to", "a&#10;&#10;b", "a\n\nb", "3.3.3"), ("line-end-referred-to", "a&#10;b", "a\nb", "3.3.3"), ("beyond-ascii", "Gl\u00f6ckchen \U0001F514", "Gl\u00f6ckchen \U0001F514", OUTSIDE),
                                      ("empty", "", "", OUTSIDE)):
        one("text-" + name, '<record value="%s"/>' % value, "a text in an attribute", string(held), clause=clause, kind="one-attribute-text",
            question="record-empty" if not value else None, known=answers(null=["null"]) if not value else None)
    one("text-blanks-around", '<record value=" Anna "/>', "white space at an end of a value", string(" Anna "), "record-white-space", answers(trimmed=string("Anna")), kind="one-attribute-text")


FIELDS = [("name", "Anna"), ("weight_kg", "550"), ("hum_hz", "110.5"), ("note", "cast in 1502")]


def bells(s):
    def of(*names):
        known = dict(FIELDS)
        return "<bell>%s</bell>" % "".join("<%s>%s</%s>" % (name, known[name], name) for name in names)

    def add(name, text, stance, why, trace, question=None, known=None):
        s.add("bell-" + name, text, stance, OUTSIDE, why, trace, question, known, record="bell")

    def held(name="Anna", weight="550", hum="110.5", note="cast in 1502"):
        lines = [string(name) if name is not None else ["null"], spelled(weight), spelled(hum), string(note) if note is not None else ["null"]]
        return ["{", *(line for (field, _), value in zip(FIELDS, lines) for line in ["key " + u8(field), *value]), "}"]
    add("exact", of("name", "weight_kg", "hum_hz", "note"), "accept", "all fields", held())
    add("without-note", of("name", "weight_kg", "hum_hz"), "accept", "an optional field is not there", held(note=None), "record-absent",
        [("default", given(held(note=""))), ("earlier", given(held(note="earlier")))])
    add("empty-note", of("name", "weight_kg", "hum_hz", "note").replace("cast in 1502", ""), "accept", "an optional field is empty", held(note=""), "record-empty",
        [("null", given(held(note=None)))])
    # A reader that goes through the fields in their order meets the last one first, and passes over the rest.
    alone = held("", "0", "0"), held(None, "0", "0")
    add("in-reverse", of("note", "hum_hz", "weight_kg", "name"), "accept", "the elements in reverse", held(), "record-element-order",
        [("left-out", given(alone[1])), ("left-out-empty", given(alone[0]))])
    two = held("Anna", "0", "110.5"), held("Anna", "0", "110.5")
    add("two-exchanged", of("name", "hum_hz", "weight_kg", "note"), "accept", "two elements in another order", held(), "record-element-order", [("left-out", given(two[0]))])
    add("without-weight", of("name", "hum_hz", "note"), "open", "a required field is not there", None, "record-absent",
        [("default", given(held(weight="0"))), ("earlier", given(held(weight="41")))])
    add("without-name", of("weight_kg", "hum_hz", "note"), "open", "a required field is not there", None, "record-absent",
        [("default", given(held(name=""))), ("null", given(held(name=None))), ("earlier", given(held(name="Clara")))])
    add("unknown-between", of("name", "weight_kg", "hum_hz", "note").replace("<hum_hz>", "<tower><name>Berta</name></tower><hum_hz>"), "accept",
        "an element with a field's name, inside one that is no field", held(), "record-unknown", [])
    add("in-a-list-of-attributes", '<bell name="Anna" weight_kg="550" hum_hz="110.5" note="cast in 1502"/>', "open", "attributes in the place of elements", None, "record-attribute",
        [("matched", given(held())), ("default", given(held("", "0", "0", None))), ("null", given(held(None, "0", "0", None))), ("earlier", given(held("Clara", "41", "41.5", "earlier")))])


NO_CHARACTERS = [("nul", "\0"), ("one", "\x01"), ("backspace", "\b"), ("vertical-tab", "\v"), ("last-control", "\x1f"), ("noncharacter", "\ufffe"), ("last-noncharacter", "\uffff")]


def unwritten(s):
    """Records that are filled by an application and encoded."""
    for kind, place in (("one-text", ""), ("one-attribute-text", "-in-attribute")):
        for name, character in NO_CHARACTERS:
            s.add("filled-%s%s" % (name, place), record(string("a%sb" % character)), "open", "production 2", "a character that no document holds", None, "record-not-xml",
                  answers(dropped=string("ab"), replaced=string("a\ufffdb"), **{"question-mark": string("a?b"), "space": string("a b")}), record=kind)
        for name, units in (("lone-high", "d83d"), ("lone-low", "dd14")):
            s.add("filled-%s%s" % (name, place), record(["str u16:0061%s0062" % units]), "open", "production 2", "half of a pair", None, "record-not-xml",
                  answers(dropped=string("ab"), replaced=string("a\ufffdb"), **{"question-mark": string("a?b")}), record=kind)
        for name, held in (("markup", "<a>&amp;</a>"), ("section-end", "a]]>b"), ("quotes", "\"'"), ("line-end", "a\nb"), ("return", "a\rb"), ("return-and-line-feed", "a\r\nb"), ("tab", "a\tb"),
                           ("next-line", "a\x85b"), ("line-separator", "a\u2028b"), ("blanks-around", " a "), ("blanks-alone", "  "), ("line-end-alone", "\n"), ("beyond-the-first-plane", "\U0001F514"),
                           ("controls-of-latin-1", "\x80\x9f"), ("comment", "<!--a-->"), ("instruction", "<?a?>"), ("section", "<![CDATA[a]]>"), ("reference", "&#65;&lt;")):
            clause = ("3.3.3" if place else "2.11" if "\r" in held else "2.4") if any(c in held for c in "\r\n\t") else "2.4"
            s.add("filled-%s%s" % (name, place), record(string(held)), "accept", clause, "a text with what needs care", None, record=kind)
    for kind, word in (("one-text", "text"), ("one-list", "list"), ("one-record", "record"), ("one-attribute-text", "attribute")):
        of_nothing = {"one-text": string(""), "one-list": ["[", "]"], "one-record": ["{", "}"], "one-attribute-text": string("")}[kind]
        s.add("filled-null-" + word, record(["null"]), "open", OUTSIDE, "a field that holds nothing", None, "record-null-written",
              answers(kept=["null"]) + [("left-out", given(["{", "}"])), ("empty", given(record(of_nothing)))], record=kind)
    for name, bits in (("nan", NAN), ("infinity", INFINITY), ("minus-infinity", "binary64 fff0000000000000"), ("deepest-digits", "binary64 3ff0000000000001"),
                       ("minus-zero", "binary64 8000000000000000"), ("smallest", "binary64 0000000000000001"), ("largest", "binary64 7fefffffffffffff"), ("tenth", "binary64 3fb999999999999a")):
        s.add("filled-" + name, record([bits]), "accept", OUTSIDE, "a value of a double", None, record="one-binary64")


def sheets():
    s = Sheet("xml", "XML 1.0", "records-generated", "What an element or attribute may hold against every kind of field that it is decoded into; names, lists, nesting.")
    numbers(s)
    booleans(s)
    texts(s)
    empty(s)
    structure(s)
    lists(s)
    nested(s)
    attributes(s)
    bells(s)
    unwritten(s)
    return [s]

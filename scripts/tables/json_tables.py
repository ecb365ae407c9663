"""Tables of cases for JSON: tokens, numbers, strings, encodings, names.

Expected values are worked out here, from the rows alone: no reader of JSON has a part in it.
"""

from fractions import Fraction

from writer import Sheet as AnySheet, u8


class Sheet(AnySheet):
    def __init__(self, aspect, about, name=None):
        super().__init__("json", "RFC 8259", aspect, about, name)


def string(text):
    return ["str " + u8(text)]


def spelled(text):
    return ["spelled " + u8(text)]


# --- structure ---

BELL = ["{", '"a"', ":", "[", "1", ",", "true", "]", ",", '"b"', ":", "null", "}"]
BELL_TRACE = ["{", "key u8:61", "[", "spelled u8:31", "true", "]", "key u8:62", "null", "}"]
NEST = ["[", "[", "]", ",", "{", '"k"', ":", '"v"', "}", ",", "0", "]"]
NEST_TRACE = ["[", "[", "]", "{", "key u8:6b", "str u8:76", "}", "spelled u8:30", "]"]
OTHER_SPACE = {"line-tabulation": "\x0b", "form-feed": "\x0c", "next-line": "\x85", "no-break-space": "\xa0",
               "ogham-space": "\u1680", "en-quad": "\u2000", "zero-width-space": "\u200b", "line-separator": "\u2028",
               "paragraph-separator": "\u2029", "word-joiner": "\u2060", "ideographic-space": "\u3000",
               "byte-order-mark-inside": "\ufeff", "nul": "\0", "file-separator": "\x1c", "delete": "\x7f"}


def structure():
    s = Sheet("structure-generated", "Tokens missing, doubled, moved, cut; white space; literals; commas (RFC 8259, 2 to 5).")
    for label, tokens in (("bell", BELL), ("nest", NEST)):
        for i, token in enumerate(tokens):
            words = "%s at token %d of %s" % (token.replace('"', ""), i + 1, label)
            s.reject("%s-without-%d" % (label, i + 1), "".join(tokens[:i] + tokens[i + 1:]), "2", "left out: " + words)
            if not token.isdigit() and (token + token not in ("[[", "]]", "{{", "}}") or i in (0, len(tokens) - 1)):
                doubled = "".join(tokens[:i] + [token, token] + tokens[i + 1:])
                s.reject("%s-doubled-%d" % (label, i + 1), doubled, "2", "twice: " + words)
            if i + 1 < len(tokens):
                swapped = tokens[:i] + [tokens[i + 1], token] + tokens[i + 2:]
                if swapped != tokens and label == "bell":
                    s.reject("%s-swapped-%d" % (label, i + 1), "".join(swapped), "2", "changed with the next: " + words)
            if i:
                s.reject("%s-cut-at-%d" % (label, i + 1), "".join(tokens[:i]), "2", "the document ends before " + words)
    for name, space in (("space", " "), ("tab", "\t"), ("line-feed", "\n"), ("carriage-return", "\r")):
        for label, tokens, trace in (("bell", BELL, BELL_TRACE), ("nest", NEST, NEST_TRACE)):
            s.accept("%s-everywhere-in-%s" % (name, label), space + space.join(tokens) + space, "2",
                     "%s between all tokens and round the document" % name, trace)
        for where, document, trace in (("before", space + "1", spelled("1")), ("after", "1" + space, spelled("1")),
                                       ("in-empty-array", "[" + space + "]", ["[", "]"]),
                                       ("in-empty-object", "{" + space + "}", ["{", "}"])):
            s.accept("%s-%s" % (name, where), document, "2", "%s %s" % (name, where), trace)
    for name, space in OTHER_SPACE.items():
        if space != "\ufeff":
            s.reject(name + "-before", space + "[1]", "2", "no white space of JSON, before the document")
        s.reject(name + "-between", "[" + space + "1]", "2", "no white space of JSON, between tokens")
        s.reject(name + "-after", "[1]" + space, "2", "no white space of JSON, after the document")
    for literal in ("true", "false", "null"):
        s.accept(literal + "-in-object", '{"a":%s}' % literal, "3", "a literal as the value of a member", ["{", "key u8:61", literal, "}"])
        for i in range(1, len(literal)):
            s.reject("%s-cut-to-%d" % (literal, i), literal[:i], "3", "a literal cut short at the end")
            s.reject("%s-cut-to-%d-in-array" % (literal, i), "[%s]" % literal[:i], "3", "a literal cut short before a bracket")
            s.reject("%s-with-a-capital-%d" % (literal, i), literal[:i] + literal[i].upper() + literal[i + 1:], "3",
                     "literals are lower case")
        s.reject(literal + "-and-a-letter", literal + "s", "3", "a letter after a literal")
        s.reject(literal + "-and-a-digit", "[%s1]" % literal, "3", "a digit after a literal")
        s.reject(literal + "-as-name", "{%s:1}" % literal, "4", "a name is a string")
        s.reject(literal + "-escaped", "\\u%04x%s" % (ord(literal[0]), literal[1:]), "3", "no escapes outside strings")
    for name, document in {
            "comma-alone": ",", "colon-alone": ":", "comma-in-empty-array": "[,]", "comma-in-empty-object": "{,}",
            "comma-first": "[,1]", "comma-first-in-object": '{,"a":1}', "two-commas": "[1,,2]", "two-commas-at-the-end": "[1,,]",
            "comma-after-array": "[1],", "comma-after-scalar": "1,", "colon-in-array": "[1:2]", "colon-after-string": '["a":1]',
            "comma-for-colon": '{"a","b"}', "colon-for-comma": '{"a":1:"b":2}', "value-for-name": "{1:1}",
            "null-for-name": "{null:1}", "array-for-name": "{[]:1}", "object-for-name": "{{}:1}", "name-alone": '{"a"}',
            "name-and-colon-alone": '{"a":}', "no-comma-in-array": "[1 2]", "no-comma-in-object": '{"a":1 "b":2}',
            "two-values": '{"a":1,2}', "semicolon": "[1;2]", "equals-sign": '{"a"=1}', "round-brackets": "(1)",
            "crossed-brackets": "[{]}", "brace-closes-array": "[1}", "bracket-closes-object": '{"a":1]', "close-alone": "]",
            "brace-close-alone": "}", "two-documents": "[][]", "two-objects": "{}{}", "two-scalars": "1 2",
            "string-then-number": '"a"1', "array-then-brace": "[1]}", "document-then-hash": "{}#", "document-then-letter": "{}x",
            "document-then-quote": '1"', "record-separator-first": "\x1e[1]", "backslash": "\\", "quote-alone": '"',
            "three-quotes": '"""', "back-quotes": "`a`", "at-sign": "@", "percent": "[50%]", "markup": "<a/>", "ellipsis": "[1,...]",
            "undefined": "[undefined]", "function": "f(1)", "date": "[2026-11-25]", "fraction": "[1/2]", "degree": "[1°]",
            "hash-comment-inside": "[1,#\n2]", "block-comment-open": "[1/*]", "block-comment-after": "[1]/**/",
            "line-comment-after": "[1]//", "nested-comment": "[1/*/**/*/]", "trailing-comma-nested": "[[1,],2]",
            "trailing-comma-object-nested": '[{"a":1,}]', "single-quoted-name": "{'a':1}", "single-quotes-round-double": "'\"'",
            "bare-name": "{a:1}", "bare-name-with-dollar": "{$a:1}", "bare-value": "[a]", "bare-value-alone": "tower"}.items():
        s.reject(name, document, "2", name.replace("-", " "))
    for name, document, trace in (
            ("string-at-top", '"tower"', string("tower")), ("number-at-top", "1721", spelled("1721")),
            ("array-of-all-kinds", '[null,true,false,0,"",[],{}]', ["[", "null", "true", "false", "spelled u8:30", "str u8:", "[", "]", "{", "}", "]"]),
            ("object-of-all-kinds", '{"1":null,"2":true,"3":0,"4":"","5":[],"6":{}}',
             ["{", "key u8:31", "null", "key u8:32", "true", "key u8:33", "spelled u8:30", "key u8:34", "str u8:", "key u8:35", "[",
              "]", "key u8:36", "{", "}", "}"]),
            ("name-like-structure", '{"{}[],:":1}', ["{", "key " + u8("{}[],:"), "spelled u8:31", "}"]),
            ("string-like-a-document", '["[1,]"]', ["[", "str " + u8("[1,]"), "]"]),
            ("string-like-a-comment", '["/* */","//","#"]', ["[", "str " + u8("/* */"), "str " + u8("//"), "str u8:23", "]"])):
        s.accept(name, document, "2", name.replace("-", " "), trace)
    return s


# --- numbers ---


def is_number(text):
    import re
    return re.fullmatch(r"-?(0|[1-9][0-9]*)(\.[0-9]+)?([eE][+-]?[0-9]+)?", text) is not None


def halfway(significand, exponent):
    """The decimal halfway between significand and the next, in units of 2^exponent, as digits and a power of ten."""
    value = Fraction(2 * significand + 1, 2) * Fraction(2) ** exponent
    power = 0
    while value.denominator != 1:
        value, power = value * 10, power - 1
    return str(value.numerator), power


def numbers():
    s = Sheet("numbers-generated", "The grammar of numbers whole, borders of integer types and of rounding (RFC 8259, 6).")
    alphabet = "-+01.e"
    texts = [a for a in alphabet] + [a + b for a in alphabet for b in alphabet] + \
            [a + b + c for a in alphabet for b in alphabet for c in alphabet]
    for text in texts:
        if "+" in text[1:] and "e" not in text:
            continue  # fails as its shorter forms do
        name = "".join({"-": "minus", "+": "plus", ".": "point", "e": "e"}.get(c, c) + "-" for c in text).strip("-")
        if is_number(text):
            s.accept("text-" + name, text, "6", "the grammar takes it", spelled(text))
        elif len(text) < 3 or text[:2] in ("-0", "-1", "0.", "1.", "1e", "0e", "-.", "-e", "00", "01", "10", "11"):
            s.reject("text-" + name, text, "6", "the grammar does not take it")
    for text in ("0e+1", "0e-1", "0E1", "1E+0", "-0.0e-0", "-1.0E+1", "10.01e010", "1e00", "1.000", "-0.5", "123.456e-7", "9e9"):
        s.accept("whole-" + text.replace("+", "plus-").replace(".", "point"), text, "6", "all parts of the grammar", spelled(text))
    for text in ("1e+", "1e-", "1.e1", "1.5e", "1.5e+", "-", "--1", "+-1", "1-", "1+1", "1e1.5", "1e1e1", "1..2", "1.2.3", "0x1F", "0b1",
                 "0o7", "1_000", "1,000.5", "1 000", "\uff11", "\u0661", "1\u00b2", "\u2212" "1", "$1", "1f", "1d", "1L", "0.1f", "1n",
                 ".5", "-.5", "5.", "-5.", "05", "-05", "00.5", "+5", "Infinity", "-Infinity", "NaN", "inf", "nan", "1.#INF", "1e\uff11"):
        ascii_name = "".join(c if c.isalnum() and c.isascii() else "-" for c in text).strip("-") or "sign"
        s.reject("no-number-" + ascii_name.lower(), "[%s]" % text, "6", "no number of JSON")
    for label, text in (("colon-after-digit", "1:2"), ("solidus-after-digit", "1/2"), ("colon-after-digits", "12:"), ("colon-in-fraction", "1.0:5"),
                        ("solidus-in-fraction", "1.0/5"), ("colon-first-in-fraction", "1.:5"), ("solidus-first-in-fraction", "1./5"),
                        ("colon-in-exponent", "1e1:2"), ("solidus-in-exponent", "1e1/2"), ("colon-first-in-exponent", "1e:2"),
                        ("solidus-after-sign", "-/1"), ("colon-after-sign", "-:1")):
        s.reject("no-number-" + label, "[%s]" % text, "6", "':' and '/' are next to the digits in ASCII but are no digits")
    edges = {"2-7": 2**7, "2-8": 2**8, "2-15": 2**15, "2-16": 2**16, "2-24": 2**24, "2-31": 2**31, "2-32": 2**32, "2-53": 2**53,
             "2-63": 2**63, "2-64": 2**64, "10-19": 10**19, "10-40": 10**40}
    for name, edge in edges.items():
        for step in (-1, 0, 1):
            for sign in ("", "-"):
                text = "%s%d" % (sign, edge + step)
                label = "%s%s-%s" % ("minus-" if sign else "", name, {-1: "below", 0: "itself", 1: "above"}[step])
                s.accept("edge-" + label, text, "6", "the edge of an integer type or of exact doubles", spelled(text))
    for label, significand, exponent in (("one", 2**52, -52), ("two-53", 2**52, 1), ("tenth", 7205759403792794, -56),
                                         ("large", 2**53 - 1, 900), ("small", 2**52 + 1, -1000), ("even", 2**52 + 2, -60),
                                         ("odd", 2**52 + 3, -60), ("subnormal", 5, -1074), ("smallest", 0, -1074),
                                         ("largest-subnormal", 2**52 - 1, -1074)):
        digits, power = halfway(significand, exponent)
        if len(digits) > 320 and label not in ("smallest",):
            continue
        suffix = "e%d" % power if power else ""
        for how, text in (("exactly", digits + suffix), ("a-digit-above", digits + "1" + ("e%d" % (power - 1))),
                          ("a-digit-below", str(int(digits) - 1) + "9" + ("e%d" % (power - 1)))):
            s.accept("halfway-%s-%s" % (label, how), text, "6", "between two doubles: ties to even, and a digit beside", spelled(text))
    for label, text in (("smallest-normal", "2.2250738585072014e-308"), ("below-smallest-normal", "2.225073858507201e-308"),
                        ("hangs-naive-loops", "2.2250738585072011e-308"), ("smallest", "4.9406564584124654e-324"),
                        ("half-the-smallest", "2.4703282292062327e-324"), ("more-than-half-the-smallest", "2.4703282292062328e-324"),
                        ("largest", "1.7976931348623157e308"), ("rounds-to-largest", "1.7976931348623158e308"),
                        ("rounds-beyond", "1.7976931348623159e308"), ("minus-largest", "-1.7976931348623157e308"),
                        ("far-below", "1e-400"), ("far-above", "1e400"), ("exponent-of-int-width", "1e2147483648"),
                        ("exponent-below-int-width", "1e-2147483649"), ("exponent-past-long", "1e9223372036854775808"),
                        ("zero-with-huge-exponent", "0e9223372036854775808"), ("tenths", "0.1"), ("thirds", "0.3333333333333333"),
                        ("seventeen-digits", "0.30000000000000004"), ("eighteen-digits", "0.300000000000000044"),
                        ("off-in-17th", "8.41e21"), ("nine-tenths", "0.9"), ("long-mantissa", "123456789012345678901234567890"),
                        ("pi", "3.14159265358979323846264338327950288"), ("zeros-behind", "1.50000000000000000000000000000"),
                        ("zeros-before", "0.000000000000000000000000000015"), ("exponent-takes-zeros-back", "1" + "0" * 40 + "e-40"),
                        ("exponent-makes-it-one", "0." + "0" * 39 + "1e40"), ("binary32-largest", "3.4028234663852886e38"),
                        ("binary32-beyond", "3.4028235677973366e38"), ("sixteen-nines", "9999999999999999"),
                        ("rounds-up-to-1e23", "1e23"), ("plus-in-exponent", "1e+5"), ("capital-e", "1E5"), ("point-zero", "5.0"),
                        ("minus-zero-point-zero", "-0.0"), ("minus-zero-exponent", "-0e0"), ("zero-point-zero", "0.0"), ("zero-exponent", "0e0")):
        s.accept("value-" + label, text, "6", label.replace("-", " "), spelled(text))
        s.accept("value-%s-in-object" % label, '{"hz":%s}' % text, "6", label.replace("-", " ") + ", before a brace",
                 ["{", "key " + u8("hz"), "spelled " + u8(text), "}"]) if len(text) < 12 else None
    return s


# --- strings ---

SHORT = {'"': '"', "\\": "\\", "/": "/", "b": "\b", "f": "\f", "n": "\n", "r": "\r", "t": "\t"}


def strings():
    s = Sheet("strings-generated", "Escapes, control characters, surrogates, planes, blocks (RFC 8259, 7 and 8.2).")
    for letter, meant in SHORT.items():
        label = {'"': "quote", "\\": "backslash", "/": "solidus"}.get(letter, letter)
        s.accept("escape-%s-in-value" % label, '"a\\%sb"' % letter, "7", "a short escape", string("a" + meant + "b"))
        s.accept("escape-%s-in-name" % label, '{"\\%s":1}' % letter, "7", "a short escape in a name", ["{", "key " + u8(meant), "spelled u8:31", "}"])
        s.accept("escape-%s-last" % label, '["\\%s"]' % letter, "7", "a short escape alone", ["[", "str " + u8(meant), "]"])
    for c in range(0x20):
        s.accept("control-%02x-escaped" % c, '"\\u%04x"' % c, "7", "a control character escaped", string(chr(c)))
        s.reject("control-%02x-raw" % c, '["%s"]' % chr(c), "7", "control characters must be escaped")
        if c in (0, 9, 10, 13, 31):
            s.reject("control-%02x-raw-in-name" % c, '{"%s":1}' % chr(c), "7", "control characters must be escaped in names, too")
    for c in [chr(x) for x in range(0x21, 0x7F) if chr(x) not in '"\\/bfnrtu']:
        if c in "aAexX0178NU'`vz$!&<(":
            s.reject("no-escape-%02x" % ord(c), '"\\%s"' % c, "7", "no such escape")
    s.reject("no-escape-space", '"\\ "', "7", "no such escape")
    s.reject("no-escape-non-ascii", '"\\é"', "7", "no such escape")
    for count in range(4):
        s.reject("u-with-%d-digits" % count, '"\\u%s"' % "0041"[:count], "7", "four hexadecimal digits are needed")
    for at in range(4):
        for wrong in "gG-+ .x":
            digits = "0041"[:at] + wrong + "0041"[at + 1:]
            s.reject("u-wrong-digit-%d-%02x" % (at + 1, ord(wrong)), '"\\u%s"' % digits, "7", "a digit that is none")
    for at, wrong in ((1, "/"), (2, ":"), (3, "@"), (4, "`"), (1, ":"), (2, "/"), (3, "`"), (4, "@")):  # beside the digits in ASCII
        digits = "0041"[:at - 1] + wrong + "0041"[at:]
        s.reject("u-wrong-digit-%d-%02x" % (at, ord(wrong)), '"\\u%s"' % digits, "7", "a digit that is none")
    for digits in ("abcd", "ABCD", "aBcD", "00e9", "00E9", "0041", "007f", "0080", "07ff", "0800", "d7ff", "e000", "fffd", "fffe", "ffff"):
        s.accept("u-" + digits + ("-upper" if digits.lower() != digits else ""), '"\\u%s"' % digits, "7", "an escape of four digits",
                 string(chr(int(digits, 16))))
    for digits in ("fdd0", "fdef"):
        s.accept("noncharacter-" + digits, '"\\u%s"' % digits, "7", "a noncharacter is a character of JSON", string(chr(int(digits, 16))))
    for plane in range(1, 17):
        last = plane * 0x10000 + 0xFFFF
        high, low = 0xD7C0 + (last >> 10), 0xDC00 + (last & 0x3FF)
        s.accept("plane-%d-last-escaped" % plane, '"\\u%04x\\u%04x"' % (high, low), "7", "the last code point of a plane as a pair", string(chr(last)))
        s.accept("plane-%d-first-raw" % plane, '"%s"' % chr(plane * 0x10000), "8.1", "the first code point of a plane", string(chr(plane * 0x10000)))
    for label, text, atoms in (("high", "\\ud83d", "\ud83d"), ("low", "\\udd14", "\udd14"), ("reversed", "\\udd14\\ud83d", "\udd14\ud83d"),
                               ("high-then-letter", "\\ud83dx", "\ud83dx"), ("high-then-escape", "\\ud83d\\n", "\ud83d\n"),
                               ("high-then-bmp-escape", "\\ud83d\\u0041", "\ud83dA"), ("two-highs", "\\ud83d\\ud83d", "\ud83d\ud83d"),
                               ("two-lows", "\\udd14\\udd14", "\udd14\udd14"), ("high-then-pair", "\\ud83d\\ud83d\\udd14", None),
                               ("first-high", "\\ud800", "\ud800"), ("last-high", "\\udbff", "\udbff"), ("first-low", "\\udc00", "\udc00"),
                               ("last-low", "\\udfff", "\udfff"), ("high-then-raw", "\\ud83d\u00e9", "\ud83d\u00e9"),
                               ("high-then-raw-pair", "\\ud83d\U0001f514", None), ("high-then-quote", "\\ud83d\\\"", "\ud83d\""),
                               ("high-then-backslash", "\\ud83d\\\\", "\ud83d\\"), ("upper-case-digits", "\\uD83D", "\ud83d"),
                               ("first-high-then-last-high", "\\ud800\\udbff", "\ud800\udbff"), ("first-low-twice", "\\udc00\\udc00", "\udc00\udc00"),
                               ("first-high-then-private-use", "\\ud800\\ue000", "\ud800\ue000"),
                               ("before-highs-then-first-low", "\\ud7ff\\udc00", "\ud7ff\udc00")):
        for where, document in (("value", '["%s"]' % text), ("name", '{"%s":1}' % text)):
            s.add("lone-%s-in-%s" % (label, where), document, "open", "8.2", "half of a pair alone: the grammar allows it",
                  question="lone-surrogate")
    for high, low in ((0xD800, 0xDC00), (0xD800, 0xDFFF), (0xDBFF, 0xDC00)):
        s.accept("pair-%04x-%04x" % (high, low), '"\\u%04x\\u%04x"' % (high, low), "7", "a pair of the first and last halves",
                 string(chr(0x10000 + ((high - 0xD800) << 10) + low - 0xDC00)))
    for upper in ("\\uD83D\\uDD14", "\\ud83d\\uDD14", "\\uD83D\\udd14"):
        s.accept("pair-" + upper.replace("\\u", "-").strip("-").replace("--", "-"), '"%s"' % upper, "7", "a pair in either case", string("\U0001f514"))
    for where in (15, 16, 17, 31, 32, 33, 63, 64, 65, 127, 128, 129, 255, 256):
        for label, raw, meant in (("escape", "\\n", "\n"), ("u-escape", "\\u00e9", "é"), ("pair", "\\ud83d\\udd14", "\U0001f514"),
                                  ("two-bytes", "é", "é"), ("three-bytes", "鐘", "鐘"), ("four-bytes", "\U0001f514", "\U0001f514"),
                                  ("escaped-backslash-before-the-end", "\\\\", "\\")):
            fill = where - 1  # the quote is the first byte
            s.accept("%s-at-byte-%d" % (label, where), '"%s%s"' % ("o" * fill, raw), "7", "at the edge of a block", string("o" * fill + meant))
        s.reject("control-at-byte-%d" % where, '"%s\x01"' % ("o" * (where - 1)), "7", "a control character at the edge of a block")
        s.reject("unclosed-at-byte-%d" % where, '"%s' % ("o" * (where - 1)), "7", "the quote is missing at the edge of a block")
    for label, text in (("composed", "\u00e9"), ("decomposed", "e\u0301"), ("angstrom", "\u212b"), ("ligature", "\ufb01"),
                        ("hangul-parts", "\u1112\u1161\u11ab"), ("replacement-character", "\ufffd"), ("right-to-left-mark", "\u200f"),
                        ("override", "\u202e"), ("zero-width-joiner", "\u200d"), ("soft-hyphen", "\u00ad"), ("line-separator", "\u2028"),
                        ("paragraph-separator", "\u2029"), ("delete", "\x7f"), ("c1-control", "\x85"), ("private-use", "\ue000"),
                        ("byte-order-mark", "\ufeff"), ("tag", "\U000e0041"), ("variation", "\u2764\ufe0f")):
        s.accept(label + "-raw", '["%s"]' % text, "8.1", "kept as it is", ["[", "str " + u8(text), "]"])
    return s


# --- encodings ---


def encodings():
    s = Sheet("encodings-generated", "UTF-8 at every edge of Unicode table 3-7, in values, names and between tokens (RFC 8259, 8.1).")
    good = [b"\x7f", b"\xc2\x80", b"\xdf\xbf", b"\xe0\xa0\x80", b"\xe0\xbf\xbf", b"\xe1\x80\x80", b"\xec\xbf\xbf", b"\xed\x80\x80",
            b"\xed\x9f\xbf", b"\xee\x80\x80", b"\xef\xbf\xbf", b"\xf0\x90\x80\x80", b"\xf0\xbf\xbf\xbf", b"\xf1\x80\x80\x80",
            b"\xf3\xbf\xbf\xbf", b"\xf4\x80\x80\x80", b"\xf4\x8f\xbf\xbf"]
    for raw in good:
        s.accept("edge-" + raw.hex(), b'["' + raw + b'"]', "8.1", "an edge of a row of table 3-7", ["[", "str u8:" + raw.hex(), "]"])
        s.accept("edge-%s-in-name" % raw.hex(), b'{"' + raw + b'":0}', "8.1", "an edge of a row of table 3-7, in a name",
                 ["{", "key u8:" + raw.hex(), "spelled u8:30", "}"])
    bad = {"80": "a continuation alone", "bf": "a continuation alone", "c080": "overlong", "c1bf": "overlong", "c27f": "no continuation",
           "c2c0": "no continuation", "df": "cut short", "e08080": "overlong", "e09fbf": "overlong", "e0a0": "cut short", "e0a07f": "no continuation",
           "e17f80": "no continuation", "e180c0": "no continuation", "e1": "cut short", "eda080": "a surrogate", "edbfbf": "a surrogate",
           "edad80edb080": "a pair of surrogates", "ed80": "cut short", "ef7fbf": "no continuation", "efbf": "cut short", "f0808080": "overlong",
           "f08fbfbf": "overlong", "f09080": "cut short", "f0907f80": "no continuation", "f0": "cut short", "f17f8080": "no continuation",
           "f18080": "cut short", "f1": "cut short", "f4908080": "past U+10FFFF", "f48f": "cut short", "f4bfbfbf": "past U+10FFFF",
           "f5808080": "no first byte", "f8888080 80".replace(" ", ""): "five bytes", "fc8480808080": "six bytes", "fe": "no first byte",
           "ff": "no first byte", "feff": "two bytes that are never UTF-8", "c3": "cut short", "e9": "a letter of Latin-1", "9c": "a control of Windows",
           "a0": "a space of Latin-1", "f3a081": "cut short"}
    for digits, what in bad.items():
        raw = bytes.fromhex(digits)
        s.reject("ill-formed-" + digits, b'"' + raw + b'"', "8.1", "no UTF-8: " + what)
        if len(digits) <= 4:
            s.reject("ill-formed-%s-inside" % digits, b'["bell' + raw + b'tower"]', "8.1", "no UTF-8 inside a string: " + what)
        if digits in ("80", "c080", "eda080", "f4908080", "ff", "e1", "f0808080", "c3"):
            s.reject("ill-formed-%s-in-name" % digits, b'{"a' + raw + b'":1}', "8.1", "no UTF-8 in a name: " + what)
            s.reject("ill-formed-%s-between" % digits, b"[1," + raw + b"2]", "8.1", "no UTF-8 between tokens: " + what)
            s.reject("ill-formed-%s-after" % digits, b"[1]" + raw, "8.1", "no UTF-8 after the document: " + what)
    return s


# --- names ---


def names():
    s = Sheet("names-generated", "Duplicate names near and far, once unescaped, nested; order (RFC 8259, 4).")

    def members(pairs):
        return "{%s}" % ",".join('"%s":%s' % pair for pair in pairs)

    for label, pairs in (
            ("three", [("a", "1"), ("a", "2"), ("a", "3")]), ("round-another", [("a", "1"), ("b", "2"), ("a", "3")]),
            ("equal-values", [("a", "1"), ("a", "1")]), ("null-last", [("a", "1"), ("a", "null")]),
            ("null-first", [("a", "null"), ("a", "1")]), ("object-and-scalar", [("a", "{}"), ("a", "1")]),
            ("scalar-and-object", [("a", "1"), ("a", "{}")]), ("two-objects", [("a", '{"x":1}'), ("a", '{"y":2}')]),
            ("two-arrays", [("a", "[1]"), ("a", "[2]")]), ("empty-names", [("", "1"), ("", "2")]),
            ("escaped-first", [("\\u0061", "1"), ("a", "2")]), ("escaped-last", [("a", "1"), ("\\u0061", "2")]),
            ("both-escaped-otherwise", [("\\u0061\\u0062", "1"), ("a\\u0062", "2")]), ("solidus-escaped", [("/", "1"), ("\\/", "2")]),
            ("hex-case", [("\\u00E9", "1"), ("\\u00e9", "2")]), ("pair-and-raw", [("\\ud83d\\udd14", "1"), ("\U0001f514", "2")]),
            ("four", [("a", "1"), ("b", "2"), ("a", "3"), ("b", "4")]), ("nul-names", [("\\u0000", "1"), ("\\u0000", "2")]),
            ("integer-names", [("1", "1"), ("1", "2")]), ("proto-names", [("__proto__", "1"), ("__proto__", "2")])):
        s.add("twice-" + label, members(pairs), "open", "4", "names within an object should be unique", question="duplicate-names")
        s.add("twice-%s-nested" % label, '[{"tower":%s}]' % members(pairs), "open", "4", "the same inside", question="duplicate-names")
    for label, pairs, held in (
            ("case", [("a", "1"), ("A", "2")], ["a", "A"]), ("composed", [("\u00e9", "1"), ("e\u0301", "2")], ["\u00e9", "e\u0301"]),
            ("space", [("a", "1"), ("a ", "2")], ["a", "a "]), ("empty-and-space", [("", "1"), (" ", "2")], ["", " "]),
            ("cut-at-nul", [("a", "1"), ("a\\u0000b", "2")], ["a", "a\0b"]), ("numbers", [("1", "1"), ("1.0", "2"), ("01", "3")], ["1", "1.0", "01"]),
            ("literals", [("null", "1"), ("true", "2")], ["null", "true"]), ("prototype", [("__proto__", "1"), ("constructor", "2")], ["__proto__", "constructor"]),
            ("compatibility", [("\ufb01", "1"), ("fi", "2")], ["\ufb01", "fi"]), ("bidirectional", [("a\u200f", "1"), ("a", "2")], ["a\u200f", "a"]),
            ("long-common-start", [("o" * 70 + "1", "1"), ("o" * 70 + "2", "2")], ["o" * 70 + "1", "o" * 70 + "2"]),
            ("full-width", [("\uff21", "1"), ("A", "2")], ["\uff21", "A"]), ("dotted", [("a.b", "1"), ("a", "2")], ["a.b", "a"]),
            ("path-like", [("a/b", "1"), ("~1", "2")], ["a/b", "~1"]), ("dash", [("a-b", "1"), ("a_b", "2")], ["a-b", "a_b"]),
            ("replacement", [("\ufffd", "1"), ("?", "2")], ["\ufffd", "?"]), ("sharp-s", [("\u00df", "1"), ("ss", "2")], ["\u00df", "ss"]),
            ("order", [("b", "1"), ("a", "2"), ("c", "3")], ["b", "a", "c"]), ("integer-order", [("2", "1"), ("1", "2"), ("b", "3"), ("10", "4")], ["2", "1", "b", "10"])):
        trace = ["{"]
        for name, (_, value) in zip(held, pairs):
            trace += ["key " + u8(name), "spelled " + u8(value)]
        s.accept("two-names-" + label, members(pairs), "4", "names that are not equal stay two", trace + ["}"])
    return s


def sheets():
    return [structure(), numbers(), strings(), encodings(), names()]

"""Cases of what application code keeps in records that JSON has no kind for: instants, bytes, maps by number, and records of several
kinds with a tag.

An instant is spelled as RFC 3339 does, bytes as RFC 4648 does. A trace is what the document says; other outcomes that an application may
meet are answers to a question.
"""

import base64

from json_records import OUTSIDE, given, record
from json_tables import Sheet
from writer import u8

SPELLING = "RFC 3339, 5.6"
EARLIER = "1902-06-01T12:00:00Z"
NOON = "1953-04-07T05:30:00Z"


def instant(text):
    return ["native instant " + u8(text)]


def local(text):
    return ["native local-time " + u8(text)]


def held(**texts):
    """Answers that hold an instant, or lines of a trace."""
    return [(name.replace("_", "-"), given(record(instant(value) if isinstance(value, str) else value))) for name, value in texts.items()]


# Id, spelling, and the same instant in UTC.
INSTANTS = [("utc", NOON, NOON), ("east", "1953-04-07T06:30:00+01:00", NOON), ("west", "1953-04-06T18:00:00-11:30", NOON),
            ("west-by-half-an-hour", "1953-04-07T05:00:00-00:30", NOON),
            ("west-by-a-quarter", "1953-04-07T05:15:00-00:15", NOON), ("west-by-three-quarters", "1953-04-07T04:45:00-00:45", NOON), ("east-by-half-an-hour", "1953-04-07T06:00:00+00:30", NOON), ("east-by-quarters", "1953-04-07T11:15:00+05:45", NOON),
            ("east-by-fourteen", "1953-04-07T19:30:00+14:00", NOON), ("into-next-year", "1999-12-31T23:30:00-01:00", "2000-01-01T00:30:00Z"),
            ("into-year-before", "2000-01-01T00:30:00+01:00", "1999-12-31T23:30:00Z"), ("into-leap-day", "2024-03-01T00:30:00+01:00", "2024-02-29T23:30:00Z"),
            ("leap-day", "2024-02-29T12:00:00Z", None), ("leap-day-of-2000", "2000-02-29T12:00:00Z", None), ("first", "1970-01-01T00:00:00Z", None),
            ("second-before-first", "1969-12-31T23:59:59Z", None), ("half-second-before-first", "1969-12-31T23:59:59.5Z", None),
            ("past-32-bits-of-seconds", "2038-01-19T03:14:08Z", None), ("past-64-bits-of-nanoseconds", "2262-04-12T00:00:00Z", None),
            ("before-64-bits-of-nanoseconds", "1677-09-20T00:00:00Z", None), ("before-1900", "1899-12-31T23:59:59Z", None),
            ("before-the-reform", "1502-06-01T12:00:00Z", None), ("skipped-by-the-reform", "1582-10-10T12:00:00Z", None),
            ("first-year", "0001-01-01T00:00:00Z", None), ("last-year", "9999-12-31T23:59:59Z", None), ("last-second-of-a-day", "1953-04-07T23:59:59Z", None),
            ("tenth", "1953-04-07T05:30:00.5Z", None), ("hundredth", "1953-04-07T05:30:00.05Z", None), ("thousandth", "1953-04-07T05:30:00.005Z", None),
            ("two-digits", "1953-04-07T05:30:00.25Z", None), ("three-digits", "1953-04-07T05:30:00.123Z", None), ("nearly-a-second", "1953-04-07T05:30:59.999Z", None),
            ("zero-at-the-end", "1953-04-07T05:30:00.120Z", "1953-04-07T05:30:00.12Z"), ("zeros-alone", "1953-04-07T05:30:00.000Z", NOON),
            ("nine-zeros", "1953-04-07T05:30:00.000000000Z", NOON), ("digits-and-offset", "1953-04-07T06:30:00.25+01:00", "1953-04-07T05:30:00.25Z")]

# Digits of a second that types of some languages have no room for. Each unit makes another instant of them.
PRECISE = [("microseconds", "123456"), ("ticks", "1234567"), ("nanoseconds", "123456789"), ("picoseconds", "123456789123"), ("last-microsecond", "999999"),
           ("first-microsecond", "000001"), ("half-a-millisecond", "0005")]
UNITS = [("milliseconds", 3), ("microseconds", 6), ("ticks", 7), ("nanoseconds", 9)]


def of_second(count, digits):
    """The time of count units of 10^-digits s after 05:30:00."""
    seconds, rest = divmod(count, 10 ** digits)
    fraction = ("%0*d" % (digits, rest)).rstrip("0")
    return "1953-04-07T05:30:%02d%sZ" % (seconds, "." + fraction if fraction else "")


def precise(s):
    for name, digits in PRECISE:
        texts, taken = {}, set()
        for unit, places in UNITS:
            if places >= len(digits):
                continue
            cut, rest = int(digits[:places]), digits[places:]
            for suffix, count in (("", cut), ("_rounded", cut + 1)):
                text = of_second(count, places)
                if text not in taken and (not suffix or rest[0] >= "5"):
                    texts[unit + suffix] = text
                    taken.add(text)
        exact = of_second(int(digits), len(digits))
        s.add("instant-precise-" + name, '{"value":"1953-04-07T05:30:00.%sZ"}' % digits, "accept", SPELLING, "more digits of a second than some types hold", record(instant(exact)),
              "record-instant-precision", [("kept", given(record(instant(exact))))] + held(**texts), record="one-instant")


# Other spellings of the same instant: id, text, clause.
SPELLINGS = [("lower-case", "1953-04-07t05:30:00z", SPELLING), ("blank-for-t", "1953-04-07 05:30:00Z", SPELLING), ("no-seconds", "1953-04-07T05:30Z", SPELLING),
             ("offset-without-colon", "1953-04-07T06:30:00+0100", SPELLING), ("offset-of-hours", "1953-04-07T06:30:00+01", SPELLING),
             ("comma", "1953-04-07T05:30:00,0Z", SPELLING), ("basic", "19530407T053000Z", SPELLING), ("hour-of-one-digit", "1953-04-07T5:30:00Z", SPELLING),
             ("blank-before", " 1953-04-07T05:30:00Z", SPELLING), ("blank-after", "1953-04-07T05:30:00Z ", SPELLING), ("blank-before-offset", "1953-04-07T06:30:00 +01:00", SPELLING),
             ("unknown-offset", "1953-04-07T05:30:00-00:00", "RFC 3339, 4.3"), ("point-without-digits", "1953-04-07T05:30:00.Z", SPELLING), ("month-of-one-digit", "1953-4-7T05:30:00Z", SPELLING),
             ("day-of-the-year", "1953-097T05:30:00Z", SPELLING), ("week", "1953-W15-2T05:30:00Z", SPELLING), ("as-in-mail", "Tue, 07 Apr 1953 05:30:00 GMT", "RFC 5322, 3.3"),
             ("milliseconds-in-brackets", "/Date(-528143400000)/", OUTSIDE), ("name-of-a-zone", "1953-04-07T05:30:00 UTC", SPELLING)]

# Texts that look like an instant and are none: id, text, and the instant if what is too much is carried over.
NONE = [("month-13", "2024-13-01T00:00:00Z", "2025-01-01T00:00:00Z"), ("month-0", "2024-00-01T00:00:00Z", "2023-12-01T00:00:00Z"), ("february-30", "2024-02-30T00:00:00Z", "2024-03-01T00:00:00Z"),
        ("no-leap-year", "2023-02-29T00:00:00Z", "2023-03-01T00:00:00Z"), ("no-leap-year-1900", "1900-02-29T00:00:00Z", "1900-03-01T00:00:00Z"), ("april-31", "2024-04-31T00:00:00Z", "2024-05-01T00:00:00Z"),
        ("day-0", "2024-03-00T00:00:00Z", "2024-02-29T00:00:00Z"), ("hour-25", "2024-02-28T25:00:00Z", "2024-02-29T01:00:00Z"), ("hour-24", "2024-02-28T24:00:00Z", "2024-02-29T00:00:00Z"),
        ("hour-24-and-a-minute", "2024-02-28T24:01:00Z", "2024-02-29T00:01:00Z"), ("minute-60", "2024-02-28T23:60:00Z", "2024-02-29T00:00:00Z"), ("second-61", "2024-02-28T23:59:61Z", "2024-02-29T00:00:01Z"),
        ("second-60-at-noon", "2024-02-28T12:00:60Z", "2024-02-28T12:01:00Z"), ("offset-of-25-hours", "2024-02-28T12:00:00+25:00", "2024-02-27T11:00:00Z"),
        ("offset-of-24-hours", "2024-02-28T12:00:00+24:00", "2024-02-27T12:00:00Z"), ("offset-of-60-minutes", "2024-02-28T12:00:00+01:60", "2024-02-28T10:00:00Z")]
# Texts of which a beginning is an instant, or nearly one: id, text, and that instant.
TAILS = [("word-behind", NOON + " or so", NOON), ("letter-behind", NOON + "x", NOON), ("second-zone", NOON + "+01:00", NOON), ("letter-behind-offset", "1953-04-07T06:30:00+01:00x", NOON),
         ("range", NOON + "/" + NOON, NOON), ("letter-in-fraction", "1953-04-07T05:30:00.5xZ", "1953-04-07T05:30:00.5Z"), ("two-fractions", "1953-04-07T05:30:00.5.5Z", "1953-04-07T05:30:00.5Z"),
         ("letter-for-digit", "1953-04-o7T05:30:00Z", None), ("no-digits", "T", None), ("hyphens-alone", "--", None), ("year-of-two-digits", "53-04-07T05:30:00Z", None), ("letter-o-for-zero", "1953-O4-07T05:30:00Z", None)]
NUMBERS = ["1", "-1", "1700000000", "1700000000123", "-528143400", "20000000000", "20000000001", "1700000000.5", "1e9"]


def last_second(text):
    """The last second of the minute."""
    return text[:17] + "59Z"


def of_epoch(text, unit):
    """The instant that a number of seconds or milliseconds gives; nothing if that is no whole number of milliseconds, or no year of four digits."""
    import datetime
    from fractions import Fraction
    seconds = Fraction(text) / (1 if unit == "seconds" else 1000)
    if seconds * 1000 != int(seconds * 1000) or abs(seconds) > 2 * 10 ** 11:
        return None
    at = datetime.datetime(1970, 1, 1) + datetime.timedelta(milliseconds=int(seconds * 1000))
    fraction = ("%06d" % at.microsecond).rstrip("0")
    return at.strftime("%Y-%m-%dT%H:%M:%S").rjust(19, "0") + ("." + fraction if fraction else "") + "Z"


def instants(s):
    for name, text, utc in INSTANTS:
        s.add("instant-" + name, '{"value":"%s"}' % text, "accept", SPELLING, "an instant", record(instant(utc or text)), record="one-instant")
    precise(s)
    for name, text, clause in SPELLINGS:
        s.add("instant-spelled-" + name, '{"value":"%s"}' % text, "accept", clause, "an instant in another spelling", record(instant(NOON)), "record-instant-spelling", held(read=NOON),
              record="one-instant")
    s.add("instant-escaped", '{"value":"1953-04-07\\u005405:30:00\\u005a"}', "accept", SPELLING, "an instant with escaped letters", record(instant(NOON)), record="one-instant")
    for name, text, carried in NONE:
        more = {"last_second": last_second(text)} if name.startswith("second-6") else {}
        if name.startswith("second-60"):
            more["kept"] = text  # of the calendar alone a leap second can be told, and no type has all of that
        s.add("instant-none-" + name, '{"value":"%s"}' % text, "open", "RFC 3339, 5.7", "a time that does not exist", None, "record-no-instant", held(carried_over=carried, **more), record="one-instant")
    for name, text, beginning in TAILS:
        if name == "year-of-two-digits":
            s.add("instant-none-" + name, '{"value":"%s"}' % text, "open", SPELLING, "a year of two digits", None, "record-no-instant", held(first_century="0053-04-07T05:30:00Z", last_century=NOON, next_century="2053-04-07T05:30:00Z"),
                  record="one-instant")
            continue
        s.add("instant-none-" + name, '{"value":"%s"}' % text, "open", SPELLING, "no instant", None, "record-no-instant", held(beginning=beginning) if beginning else [], record="one-instant")
    leap = "1990-12-31T23:59:60Z"
    s.add("instant-leap-second", '{"value":"%s"}' % leap, "accept", "RFC 3339, 5.7", "a leap second that there was", record(instant(leap)), "record-instant-leap-second",
          held(kept=leap, next_second="1991-01-01T00:00:00Z", second_before="1990-12-31T23:59:59Z", end_of_second_before="1990-12-31T23:59:59.999999999Z"), record="one-instant")
    s.add("instant-without-zone", '{"value":"1953-04-07T05:30:00"}', "open", "RFC 3339, 4.4", "a time without an offset", None, "record-instant-zone",
          held(local=local("1953-04-07T05:30:00"), utc=NOON, zone_of_the_process="1953-04-07T08:30:00Z"), record="one-instant")
    s.add("instant-without-zone-blank", '{"value":"1953-04-07 05:30:00"}', "open", "RFC 3339, 4.4", "a time without an offset, and a blank", None, "record-instant-zone",
          held(local=local("1953-04-07T05:30:00"), utc=NOON, zone_of_the_process="1953-04-07T08:30:00Z"), record="one-instant")
    s.add("instant-date-alone", '{"value":"1953-04-07"}', "open", SPELLING, "a date without a time", None, "record-instant-zone",
          held(local=local("1953-04-07T00:00:00"), utc="1953-04-07T00:00:00Z", zone_of_the_process="1953-04-07T03:00:00Z"), record="one-instant")
    for name, text in (("year-10000", "10000-01-01T00:00:00Z"), ("year-10000-signed", "+10000-01-01T00:00:00Z"), ("year-0", "0000-01-01T00:00:00Z"), ("year-before-0", "-0001-01-01T00:00:00Z")):
        shown = text.removeprefix("+")
        if name == "year-0":
            s.add("instant-" + name, '{"value":"%s"}' % text, "accept", "RFC 3339, 5.6", "the year before the first", record(instant(shown)), "record-range", held(kept=shown), record="one-instant")
            continue
        s.add("instant-" + name, '{"value":"%s"}' % text, "open", "RFC 3339, 1", "a year that not every type has", None, "record-range", held(kept=shown), record="one-instant")
    for text in NUMBERS:
        known = {unit: of_epoch(text, unit) for unit in ("seconds", "milliseconds")}
        answers = held(**{unit: at for unit, at in known.items() if at})
        s.add("instant-number-%s" % text.replace("-", "minus-"), '{"value":%s}' % text, "open", OUTSIDE, "a number for an instant", None, "record-instant-number", answers, record="one-instant")
        s.add("instant-digits-%s" % text.replace("-", "minus-"), '{"value":"%s"}' % text, "open", OUTSIDE, "a number as a text for an instant", None, "record-instant-number", answers, record="one-instant")
    zero = "0001-01-01T00:00:00Z"
    for name, text, question in (("null", "null", "record-null"), ("empty-text", '""', "record-kind")):
        s.add("instant-" + name, '{"value":%s}' % text, "open", OUTSIDE, name.replace("-", " ") + " for an instant", None, question,
              held(default=zero, null=["null"], **({"earlier": EARLIER} if text == "null" else {})), record="one-instant")
    s.add("instant-absent", "{}", "open", OUTSIDE, "a required field is not there", None, "record-absent", held(default=zero, null=["null"], earlier=EARLIER), record="one-instant")
    for name, text in (("true", "true"), ("text", '"noon"'), ("empty-array", "[]"), ("array", '["%s"]' % NOON), ("object", "{}"), ("parts", "[1953,4,7,5,30]")):
        unwrapped = held(unwrapped=NOON) if name == "array" else held(converted="1970-01-01T00:00:01Z") if name == "true" else []
        s.add("instant-" + name, '{"value":%s}' % text, "open", OUTSIDE, "%s for an instant" % name.replace("-", " "), None, "record-kind", unwrapped, record="one-instant")


def octets(data):
    return ["native bytes u8:" + data.hex()]


def bytes_of(s):
    clause = "RFC 4648, 4"
    every = bytes(range(256))
    for name, data in (("empty", b""), ("one", b"A"), ("two", b"AB"), ("three", b"ABC"), ("four", b"ABCD"), ("zero", b"\0"), ("three-zeros", b"\0\0\0"), ("all-ones", b"\xff\xff\xff"),
                       ("plus-and-solidus", b"\xfb\xff\xbe"), ("all-of-them", every), ("line-of-76", bytes(range(57))), ("past-a-line-of-76", bytes(range(58))), ("many", every * 16)):
        s.add("bytes-" + name, '{"value":"%s"}' % base64.b64encode(data).decode(), "accept", clause, "bytes in base 64", record(octets(data)), record="one-bytes")
    s.add("bytes-escaped", '{"value":"\\u0051Q\\u003d="}', "accept", clause, "bytes with escaped letters", record(octets(b"A")), record="one-bytes")
    s.add("bytes-solidus-escaped", '{"value":"\\/\\/\\/\\/"}', "accept", clause, "an escaped solidus", record(octets(b"\xff\xff\xff")), record="one-bytes")
    for name, text, data in (("missing", "QQ", b"A"), ("missing-of-two", "QUI", b"AB"), ("half", "QQ=", b"A"), ("missing-after-three", "QUJDRA", b"ABCD")):
        s.add("bytes-padding-" + name, '{"value":"%s"}' % text, "open", "RFC 4648, 3.2", "padding is not there", None, "record-bytes-padding", [("read", given(record(octets(data))))], record="one-bytes")
    for name, text, data in (("behind-a-whole-group", "QUJD=", b"ABC"), ("twice", "QQ====", b"A"), ("alone", "====", b""), ("one-too-many", "QUI==", b"AB"), ("inside", "QQ==QQ==", b"AA"), ("first", "=QQ=", None)):
        answers = [("read", given(record(octets(data))))] if data is not None else []
        if name == "inside":
            answers.append(("beginning", given(record(octets(b"A")))))
        s.add("bytes-padding-" + name, '{"value":"%s"}' % text, "open", "RFC 4648, 3.3", "padding where none is due", None, "record-bytes-padding", answers, record="one-bytes")
    for name, text, data in (("minus-and-underscore", "-_-_", b"\xfb\xff\xbf"), ("both", "+_-/", b"\xfb\xff\xbf")):
        s.add("bytes-alphabet-" + name, '{"value":"%s"}' % text, "open", "RFC 4648, 5", "letters of the alphabet for URLs", None, "record-bytes-alphabet", [("read", given(record(octets(data))))],
              record="one-bytes")
    for name, inside in (("blank", " "), ("line-feed", "\\n"), ("carriage-return", "\\r"), ("line-end", "\\r\\n"), ("tab", "\\t"), ("nul", "\\u0000"), ("asterisk", "*"), ("comma", ","), ("minus", "-"),
                         ("no-break-space", "\\u00a0"), ("letter-past-bytes", "\\u0141"), ("full-width-letter", "\\uff21")):
        for where, text in (("inside", "QUJD%sREVG" % inside), ("behind", "QUJDREVG" + inside)):
            s.add("bytes-foreign-%s-%s" % (name, where), '{"value":"%s"}' % text, "open", "RFC 4648, 3.3", "a character that is none of the alphabet", None, "record-bytes-foreign",
                  [("ignored", given(record(octets(b"ABCDEF"))))], record="one-bytes")
    for name, text, data in (("one", "QR==", b"A"), ("all", "QV==", b"A"), ("of-two", "QUJ=", b"AB")):
        answers = [("ignored", given(record(octets(data))))]
        s.add("bytes-spare-bits-" + name, '{"value":"%s"}' % text, "open", "RFC 4648, 3.5", "bits of the last letter that belong to no byte are not zero", None, "record-bytes-spare-bits", answers,
              record="one-bytes")
    for name, text in (("one-letter", "Q"), ("letter-behind", "QUJDQ")):
        known = [("beginning", given(record(octets(b"ABC"))))] if name == "letter-behind" else [("beginning", given(record(octets(b""))))]
        s.add("bytes-cut-" + name, '{"value":"%s"}' % text, "open", "RFC 4648, 4", "six bits are no byte", None, "record-bytes-cut", known, record="one-bytes")
    empty = [(name, given(record(lines))) for name, lines in (("default", octets(b"")), ("null", ["null"]), ("earlier", octets(b")")))]
    s.add("bytes-null", '{"value":null}', "open", OUTSIDE, "null for bytes", None, "record-null", empty, record="one-bytes")
    s.add("bytes-absent", "{}", "open", OUTSIDE, "a required field is not there", None, "record-absent", empty, record="one-bytes")
    for name, text, known in (("numbers", "[65,66]", b"AB"), ("no-numbers", "[]", b""), ("number-past-bytes", "[256]", None), ("negative-number", "[-1]", b"\xff"), ("number", "65", None), ("object", "{}", None),
                              ("true", "true", None)):
        answers = [("converted", given(record(octets(known))))] if known is not None else []
        s.add("bytes-" + name, '{"value":%s}' % text, "open", OUTSIDE, "%s for bytes" % name.replace("-", " "), None, "record-kind", answers, record="one-bytes")


# --- maps whose names are numbers ---

def map_of(*pairs):
    return record(["{", *(line for name, value in pairs for line in ("key int %s" % name, "int %d" % value)), "}"])


# Names that are no spelling of an integer in JSON: id, name, and the integer that some languages read there.
NAMES = [("leading-zero", "01", 1), ("plus", "+1", 1), ("blank-before", " 1", 1), ("blank-behind", "1 ", 1), ("line-feed-behind", "1\\n", 1), ("point", "1.0", 1), ("exponent", "1e0", 1),
         ("fraction", "1.5", None), ("hexadecimal", "0x1", 1), ("minus-zero", "-0", 0), ("underscore", "1_0", 10), ("comma", "1,0", None), ("digit-of-another-script", "\u0661", 1), ("letter", "a", None),
         ("letter-behind", "1a", None), ("empty", "", None), ("minus-alone", "-", None), ("true", "true", None), ("null", "null", None), ("binary", "0b1", 1), ("octal", "0o1", 1)]


def merged(*pairs):
    """A map that was filled before keeps what it held, as some libraries document."""
    return ("merged", given(map_of(*pairs, (41, 41))))


def maps(s):
    def add(name, document, why, trace, question=None, answers=None, stance="accept", clause=OUTSIDE):
        s.add("map-" + name, '{"value":%s}' % document, stance, clause, why, trace, question, answers, record="one-map")

    for name, document, pairs in (("one", '{"1":2}', [(1, 2)]), ("zero", '{"0":2}', [(0, 2)]), ("negative", '{"-5":2}', [(-5, 2)]), ("several", '{"1":2,"3":4}', [(1, 2), (3, 4)]),
                                  ("in-reverse", '{"3":4,"1":2}', [(3, 4), (1, 2)]), ("ends-of-int32", '{"2147483647":1,"-2147483648":2}', [(2147483647, 1), (-2147483648, 2)]),
                                  ("as-texts-sort", '{"10":1,"9":2,"-1":3}', [(10, 1), (9, 2), (-1, 3)]), ("escaped", '{"\\u0031":2}', [(1, 2)])):
        add(name, document, "names that are integers", map_of(*pairs), "record-map-earlier", [merged(*pairs)], clause="4")
    add("empty", "{}", "a map of nothing", record(["{", "}"]), "record-map-earlier", [merged()])
    for name, spelled, number in NAMES:
        known = [("read", given(map_of((number, 2)))), merged((number, 2))] if number is not None else []
        written = record(["{", "key " + u8(spelled.replace("\\n", "\n")), "int 2", "}"])
        add("name-" + name, '{"%s":2}' % spelled, "a name that is no integer as JSON spells it", written, "record-map-name", known, "open")
    add("name-past-int32", '{"2147483648":1}', "a name beyond the type of the map's", None, "record-range", [("kept", given(map_of((2147483648, 1))))], "open")
    add("name-twice", '{"1":2,"1":3}', "a name twice", None, "record-map-names-alike", [("first", given(map_of((1, 2)))), ("last", given(map_of((1, 3)))), merged((1, 3))], "open", "4")
    for name, first, second in (("leading-zero", "1", "01"), ("plus", "+1", "1"), ("blank", "1", " 1")):
        add("names-alike-" + name, '{"%s":2,"%s":3}' % (first, second), "two names that may be one integer", None, "record-map-names-alike",
            [("first", given(map_of((1, 2)))), ("last", given(map_of((1, 3)))), merged((1, 3))], "open")
    def held(line):
        return record(["{", "key int 1", line, "}"])

    for name, value, line, question, known in (
            ("null", "null", "null", "record-null", [("default", given(map_of((1, 0)))), ("null", given(held("null"))), merged((1, 0))]),
            ("fraction", "7.25", "spelled " + u8("7.25"), "record-kind", []),
            ("text", '"7"', "str " + u8("7"), "record-kind", [("converted", given(map_of((1, 7)))), merged((1, 7))])):
        add("value-" + name, '{"1":%s}' % value, "value %s for a map" % name, held(line), question, known, "open")
    for name, document, question, known in (
            ("null", "null", "record-null", [("default", given(record(["{", "}"]))), ("null", given(record(["null"]))), ("earlier", given(map_of((41, 41))))]),
            ("list", "[2]", "record-kind", []), ("list-of-pairs", "[[1,2]]", "record-kind", [("converted", given(map_of((1, 2))))]), ("empty-list", "[]", "record-kind", [("converted", given(record(["{", "}"])))]),
            ("number", "1", "record-kind", []), ("text", '"1"', "record-kind", [])):
        add(name, document, "%s for a map" % name.replace("-", " "), None, question, known, "open")
    s.add("map-absent", "{}", "open", OUTSIDE, "a required field is not there", None, "record-absent",
          [("default", given(record(["{", "}"]))), ("null", given(record(["null"]))), ("earlier", given(map_of((41, 41))))], record="one-map")


# --- records of several kinds ---

def casting(name="str " + u8("Anna"), weight="int 550", hum="spelled " + u8("110")):
    return ["{", "key " + u8("$type"), "str " + u8("bell"), "key " + u8("name"), name, "key " + u8("weight_kg"), weight, "key " + u8("hum_hz"), hum, "}"]


def tower(name="str " + u8("North")):
    return ["{", "key " + u8("$type"), "str " + u8("tower"), "key " + u8("name"), name, "}"]


BELL = '"name":"Anna","weight_kg":550,"hum_hz":110'
TAG = '"$type":"bell"'
# Members with contents that a decoder has to keep until it has the tag: id, member, line of the trace, question.
HELD_BACK = [("past-binary64-precision", "weight_kg", "9007199254740993", "int 9007199254740993", None), ("past-binary64-precision-by-three", "weight_kg", "9007199254740995", "int 9007199254740995", None), ("past-binary64-precision-below-zero", "weight_kg", "-9007199254740993", "int -9007199254740993", None), ("largest-int64", "weight_kg", "9223372036854775807", "int 9223372036854775807", None),
             ("smallest-int64", "weight_kg", "-9223372036854775808", "int -9223372036854775808", None), ("nineteen-digits", "weight_kg", "1234567890123456789", "int 1234567890123456789", None),
             ("past-int64", "weight_kg", "9223372036854775808", "spelled " + u8("9223372036854775808"), "record-range"), ("past-uint64", "weight_kg", "18446744073709551617", "spelled " + u8("18446744073709551617"), "record-range"),
             ("whole-with-point", "weight_kg", "7.0", "spelled " + u8("7.0"), "record-whole-number"), ("whole-with-exponent", "weight_kg", "7e0", "spelled " + u8("7e0"), "record-whole-number"),
             ("tenth", "hum_hz", "0.1", None, None), ("seventeen-digits", "hum_hz", "0.30000000000000004", None, None), ("smallest", "hum_hz", "5e-324", None, None), ("largest", "hum_hz", "1.7976931348623157e308", None, None),
             ("halfway-and-more", "hum_hz", "1.50000000000000011102230246251565404236316680908203126", None, None), ("whole", "hum_hz", "111", None, None), ("minus-zero", "hum_hz", "-0.0", None, None),
             ("whole-past-int64", "hum_hz", "9223372036854775809", None, None), ("single-precision-is-not-enough", "hum_hz", "16777217", None, None), ("digits-as-text", "weight_kg", '"7"', "str " + u8("7"), "record-kind"),
             ("fraction", "weight_kg", "7.25", "spelled " + u8("7.25"), "record-kind"), ("escapes", "name", r'"\u0041\n\"\\"', "str " + u8('A\n"\\'), None), ("nul", "name", r'"a\u0000b"', "str " + u8("a\0b"), None),
             ("pair-of-escapes", "name", r'"\ud83d\udd14"', "str " + u8("\U0001F514"), None), ("long", "name", '"%s"' % ("bell " * 3000), "str " + u8("bell " * 3000), None),
             ("null", "name", "null", "null", "record-null")]
PARAMETERS = {"name": "name", "weight_kg": "weight", "hum_hz": "hum"}


def with_member(member, text):
    values = {"name": '"Anna"', "weight_kg": "550", "hum_hz": "110", member: text}
    return ",".join('"%s":%s' % pair for pair in values.items())


def held_back(s):
    answers = {"record-whole-number": [], "record-range": [], "record-kind": [("converted", given(casting(weight="int 7")))], "record-null": [("default", given(casting("str u8:"))), ("null", given(casting("null")))]}
    for name, member, text, line, question in HELD_BACK:
        trace = casting(**{PARAMETERS[member]: line or "spelled " + u8(text)})
        known = answers[question] if question and not (question == "record-kind" and text == "7.25") else [] if question else None
        for where, document in (("first", "{%s,%s}" % (TAG, with_member(member, text))), ("last", "{%s,%s}" % (with_member(member, text), TAG))):
            # Some decoders take the tag only where it comes first, which the question about its place is for.
            s.add("kinds-%s-tag-%s" % (name, where), document, "accept", OUTSIDE, "a value that waits for the tag" if where == "last" else "a value behind the tag", trace,
                  question or ("record-tag-place" if where == "last" else None), known if question else [("read", given(trace))] if where == "last" else None, record="bell-or-tower")


def kinds(s):
    def add(name, document, why, trace, question=None, answers=None, stance="accept"):
        s.add("kinds-" + name, document, stance, OUTSIDE, why, trace, question, answers, record="bell-or-tower")

    def read(trace):
        return [("read", given(trace))]

    add("tag-first", "{%s,%s}" % (TAG, BELL), "the tag before all else", casting())
    add("tag-last", "{%s,%s}" % (BELL, TAG), "the tag behind all else", casting(), "record-tag-place", read(casting()))
    add("tag-second", '{"name":"Anna",%s,"weight_kg":550,"hum_hz":110}' % TAG, "the tag behind one member", casting(), "record-tag-place", read(casting()))
    add("other-tag-first", '{"$type":"tower","name":"North"}', "the tag of the other kind", tower())
    add("other-tag-last", '{"name":"North","$type":"tower"}', "the tag of the other kind behind all else", tower(), "record-tag-place", read(tower()))
    add("tag-name-escaped", '{"\\u0024type":"bell",%s}' % BELL, "an escaped name is the same name", casting())
    add("tag-escaped", '{"$type":"\\u0062ell",%s}' % BELL, "an escaped text is the same text", casting())
    add("tag-name-escaped-last", '{%s,"\\u0024type":"bell"}' % BELL, "an escaped name behind all else", casting(), "record-tag-place", read(casting()))
    guessed = [("guessed", given(casting())), ("null", given(["null"]))]
    for name, member in (("absent", ""), ("unknown", '"$type":"gong",'), ("null", '"$type":null,'), ("number", '"$type":1,'), ("true", '"$type":true,'), ("empty", '"$type":"",'), ("object", '"$type":{},'),
                         ("list", '"$type":["bell"],'), ("other-case", '"$type":"Bell",'), ("blank-behind", '"$type":"bell ",'), ("name-in-other-case", '"$Type":"bell",')):
        add("tag-" + name, "{%s%s}" % (member, BELL), "the tag is %s" % name.replace("-", " "), None, "record-tag", guessed, "open")
    add("tag-twice", "{%s,%s,%s}" % (TAG, BELL, TAG), "the tag twice", None, "duplicate-names", [("last", given(casting()))], "open")
    add("tags-of-two-kinds", '{"$type":"tower",%s,"name":"North"}' % TAG, "two tags that differ", None, "duplicate-names",
        [("first", given(tower()))], "open")
    add("member-of-the-other-kind", '{"$type":"tower","name":"North","weight_kg":550}', "a member that only the other kind has", tower(), "record-unknown", [])
    add("member-of-the-other-kind-first", '{"weight_kg":550,"name":"North","$type":"tower"}', "a member that only the other kind has, before the tag", tower(), "record-unknown", [])
    add("tag-inside-unknown-member", '{"cast_by":{"$type":"tower","name":"North"},%s,%s}' % (TAG, BELL), "a tag inside of a member that is no field", casting(), "record-unknown", [])
    add("tag-inside-unknown-member-last", '{%s,"cast_by":{"$type":"tower"},%s}' % (BELL, TAG), "a tag inside of a member that is no field, the tag last", casting(), "record-unknown", [])
    add("many-members-before", "{%s,%s,%s}" % (",".join('"x%d":%d' % (i, i) for i in range(1000)), BELL, TAG), "a thousand members before the tag", casting(), "record-unknown", [])
    add("wrapped-in-list", '["bell",{%s}]' % BELL, "the tag and the record as a list", None, "record-kind", [("converted", given(casting()))], "open")
    add("fields-as-list", '["bell","Anna",550,110]', "the tag and the fields as a list", None, "record-kind", [("converted", given(casting()))], "open")
    add("wrapped-in-object", '{"bell":{%s}}' % BELL, "the tag as the name of the record", None, "record-kind", [("converted", given(casting()))], "open")
    add("tag-alone", '{"$type":"bell"}', "required fields are not there", None, "record-absent",
        [("default", given(casting("str u8:", "int 0", "int 0"))), ("null", given(casting("null", "int 0", "int 0")))], "open")
    add("null", "null", "null for a record", None, "record-null", [("null", given(["null"]))], "open")
    held_back(s)


def sheets():
    s = Sheet("records-generated", "Instants, bytes, maps by number, and records of several kinds: what JSON has no kind for.", "records-fields")
    instants(s)
    bytes_of(s)
    maps(s)
    kinds(s)
    return [s]

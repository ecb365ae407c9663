"""A small decoder for JSON, as somebody might have written it: the codec under test of this example."""

import re

TOKEN = re.compile(r'\s*(?:([{}\[\]:,])|"((?:[^"\\]|\\.)*)"|(-?\d+\.?\d*(?:[eE][+-]?\d+)?)|(true|false|null))')
LITERALS = {"true": True, "false": False, "null": None}


class TowerError(Exception):
    pass


def loads(text):
    value, at = _value(text, 0)
    if text[at:].strip():
        raise TowerError("text after the document at %d" % at)
    return value


def _token(text, at):
    match = TOKEN.match(text, at)
    if not match:
        raise TowerError("no token at %d" % at)
    return match, match.end()


def _value(text, at):
    match, at = _token(text, at)
    mark, string, number, literal = match.groups()
    if mark == "[":
        return _items(text, at, "]", lambda t, a: _value(t, a), list)
    if mark == "{":
        return _items(text, at, "}", _member, dict)
    if mark:
        raise TowerError("'%s' where a value is expected" % mark)
    if string is not None:
        return re.sub(r"\\(.)", lambda m: {"n": "\n", "t": "\t"}.get(m[1], m[1]), string), at
    return (float(number) if number else LITERALS[literal]), at


def _member(text, at):
    name, at = _value(text, at)
    colon, at2 = _token(text, at)
    if colon[1] != ":" or not isinstance(name, str):
        raise TowerError("no member at %d" % at)
    value, at = _value(text, at2)
    return (name, value), at


def _items(text, at, closer, item, kind):
    out = []
    match, after = _token(text, at)
    while match[1] != closer:
        value, at = item(text, at)
        out.append(value)
        match, after = _token(text, at)
        if match[1] not in (",", closer):
            raise TowerError("neither ',' nor '%s' at %d" % (closer, at))
        at = after
    return kind(out), after

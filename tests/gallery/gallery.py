"""Defects of Python's libraries, each shown by a call without any kit: a line for each, its name and what the library does."""

import io
import sys

sys.set_int_max_str_digits(0)


def shown(name, call):
    try:
        result = call()
    except Exception as error:
        result = type(error).__name__ + ": " + str(error).splitlines()[0]
    print("%s\t%s" % (name, result if isinstance(result, str) else ascii(result)))


def demjson_plus():
    import demjson
    return demjson.decode("+", strict=True)


def lxml_pieces():
    from lxml import etree
    parser = etree.XMLParser()
    for piece in (b"\xef", b"\xbb\xbf<a/>"):
        parser.feed(piece)
    return parser.close().tag


def pydantic_tag():
    from typing import Annotated, Literal, Union
    import pydantic

    class Bell(pydantic.BaseModel):
        kind: Literal["bell"]

    class Tower(pydantic.BaseModel):
        kind: Literal["tower"]

    class Record(pydantic.BaseModel):
        value: Annotated[Union[Bell, Tower], pydantic.Field(discriminator="kind")]

    return str(Record.parse_raw('{"value":{"kind":["bell"]}}'))


def ujson_beyond_unicode():
    import ujson
    return ujson.loads(b'"\xf4\xbf\xbf\xbf"')


def simplejson_exponent():
    import simplejson
    return simplejson.loads("[1e9999999999999999999]", use_decimal=True)


def json_infinity():
    import json
    return json.dumps(json.loads("[1e400]"))


def generator_namespace():
    import xml.sax.saxutils
    out = io.StringIO()
    writer = xml.sax.saxutils.XMLGenerator(out)
    writer.startPrefixMapping("p", 'u"&')
    writer.startElementNS(('u"&', "a"), "p:a", {})
    return out.getvalue()


def minidom_instruction():
    import xml.dom.minidom
    document = xml.dom.minidom.Document()
    document.appendChild(document.createElement("a")).appendChild(document.createProcessingInstruction("p", "?>"))
    return document.documentElement.toxml()


def minidom_carriage_return():
    import xml.dom.minidom
    return xml.dom.minidom.parseString("<a>x&#13;y</a>").documentElement.toxml()


shown("lxml-pieces-mark", lxml_pieces)
shown("demjson-plus", demjson_plus)
shown("ujson-beyond-unicode", ujson_beyond_unicode)
shown("simplejson-exponent", simplejson_exponent)
shown("pydantic-tag", pydantic_tag)
shown("python-json-infinity", json_infinity)
shown("python-sax-namespace", generator_namespace)
shown("python-minidom-instruction", minidom_instruction)
shown("python-minidom-carriage-return", minidom_carriage_return)

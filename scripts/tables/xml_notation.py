"""The notation of the XML tables: expected values are built from elements, attributes and texts (E, C, P, D, T, R), so
no reader of XML has a part in them.
"""

import functools

from writer import Sheet as AnySheet, u8

XML_URI = "http://www.w3.org/XML/1998/namespace"


class Sheet(AnySheet):
    def __init__(self, aspect, about):
        super().__init__("xml", "XML 1.0", aspect, about)


class E:
    """An element: name, attributes as pairs (a third member "default" where the document type gives it), children."""

    def __init__(self, name, attributes=(), *children):
        self.name, self.attributes, self.children = name, attributes, children

    def lines(self, scope):
        scope = dict(scope)
        for a in self.attributes:
            if a[0] == "xmlns" or a[0].startswith("xmlns:"):
                scope[a[0][6:]] = a[1]
        out = ["elem %s %s %s" % (u8(self.name), u8(self.name.split(":")[-1]), u8(scope.get(self.name.rpartition(":")[0], "")))]
        for a in self.attributes:
            if a[0] == "xmlns" or a[0].startswith("xmlns:"):
                out.append("ns %s %s" % (u8(a[0][6:]), u8(a[1])))
                continue
            prefix = a[0].rpartition(":")[0]
            out.append("attr %s %s %s %s %s" % (u8(a[0]), u8(a[0].split(":")[-1]), u8(scope.get(prefix, "") if prefix else ""),
                                                u8(a[1]), a[2] if len(a) > 2 else "given"))
        text = ""
        for child in self.children:
            if isinstance(child, str):
                text += child
                continue
            if text:
                out.append("text " + u8(text))
                text = ""
            out += child.lines(scope)
        if text:
            out.append("text " + u8(text))
        return out + ["end"]


class Leaf:
    def __init__(self, word, *fields):
        self.line = " ".join([word] + [u8(f) for f in fields])

    def lines(self, _):
        return [self.line]


def C(text):
    return Leaf("comment", text)


def P(target, data=""):
    return Leaf("pi", target, data)


def D(text):
    return Leaf("cdata", text)


def R(name):
    return Leaf("ref", name)


def T(name):
    return Leaf("doctype", name)


def trace(*parts):
    out = []
    for part in parts:
        out += part.lines({"xml": XML_URI})
    return out


def text(content, name="a"):
    return trace(E(name, (), content)) if content else trace(E(name))


# --- characters and references ---

LEGAL = [0x9, 0xA, 0x20, 0x7E, 0x7F, 0x80, 0x84, 0x85, 0x86, 0x9F, 0xA0, 0x7FF, 0x800, 0xD7FF, 0xE000, 0xFDCF, 0xFDD0, 0xFDEF, 0xFFFD, 0x10000, 0x1FFFE,
         0x1F514, 0xEFFFF, 0xF0000, 0x10FFFE, 0x10FFFF]
ILLEGAL = [c for c in range(0x20) if c not in (0x9, 0xA, 0xD)] + [0xFFFE, 0xFFFF]

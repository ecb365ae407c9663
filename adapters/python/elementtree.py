"""Python's xml.etree.ElementTree: expanded names only, no comments, no instructions, CDATA joined to text."""

import os
import platform
import pyexpat
import sys
import xml.etree.ElementTree as ET

sys.path.insert(0, os.path.join(os.path.dirname(os.path.abspath(__file__)), "..", "sdk"))
from nachklang_adapter import Rejected, Unsupported, expanded_name, field, library, markup_of, serve


def load(document):
    with library():
        try:
            return ET.fromstring(document)
        except ET.ParseError as error:
            line, column = error.position
            raise Rejected(str(error), line=line, column=column + 1)


def fed(pieces):
    with library():
        try:
            parser = ET.XMLParser()
            for piece in pieces:
                parser.feed(piece)
            return parser.close()
        except ET.ParseError as error:
            line, column = error.position
            raise Rejected(str(error), line=line, column=column + 1)


def names(tag):
    uri, local = tag[1:].split("}", 1) if tag.startswith("{") else ("", tag)
    return "- %s %s" % (field(local), field(uri))


def decode(document, trace, mode):
    show(load(document), trace)


def show(root, trace):
    if not trace.wanted:
        return
    stack = [(root, False)]
    while stack:
        element, closing = stack.pop()
        if closing:
            trace.line("end")
            if element.tail and element is not root:
                trace.line("text " + field(element.tail))
            continue
        trace.line("elem " + names(element.tag))
        for name, value in element.attrib.items():
            trace.line("attr %s %s -" % (names(name), field(value)))
        if element.text:
            trace.line("text " + field(element.text))
        stack.append((element, True))
        stack.extend((child, False) for child in reversed(element))


def add_text(parent, text):
    """Texts hang on the element before them, or on the parent."""
    if len(parent):
        parent[-1].tail = (parent[-1].tail or "") + text
    else:
        parent.text = (parent.text or "") + text


def encode(value, mode):
    """Prefixes and declarations are the library's own affair."""
    root, open_ = None, []
    for word, *fields in markup_of(value):
        if not open_ and (word != "elem" or root is not None):
            raise Unsupported("a tree is its root here")
        if word == "elem":
            element = ET.Element(expanded_name(fields[1], fields[2]))
            root = element if root is None else root
            if open_:
                open_[-1].append(element)
            open_.append(element)
        elif word == "attr":
            name = expanded_name(fields[1], fields[2])
            if name in open_[-1].attrib:
                raise Unsupported("attributes are a mapping here")
            open_[-1].set(name, fields[3])
        elif word == "end":
            open_.pop()
        elif word == "text":
            add_text(open_[-1], fields[0])
        elif word == "comment":
            open_[-1].append(ET.Comment(fields[0]))
        elif word == "pi":
            open_[-1].append(ET.ProcessingInstruction(fields[0], fields[1] or None))
        elif word == "cdata":
            raise Unsupported("no CDATA sections")
    return written(root)


def written(root):
    with library():
        return ET.tostring(root, encoding="utf-8")


serve(
    implementation="python-elementtree " + platform.python_version(),
    engine="expat " + pyexpat.EXPAT_VERSION.replace("expat_", ""),
    capabilities={"xml": {"decode": decode, "pieces": lambda pieces, trace, mode: show(fed(pieces), trace),
                          "round-trip": lambda document, mode: written(load(document)), "encode": encode}},
    cannot_represent=("comments", "instructions", "cdata", "prefixes", "declarations", "doctype"),
    settings={"namespaces": "on", "parameter-entities": "skipped"},
)

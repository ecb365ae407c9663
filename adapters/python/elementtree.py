"""Python's xml.etree.ElementTree: expanded names only, no comments, no instructions, CDATA joined to text."""

import os
import platform
import pyexpat
import sys
import xml.etree.ElementTree as ET

sys.path.insert(0, os.path.join(os.path.dirname(os.path.abspath(__file__)), "..", "sdk"))
from nachklang_adapter import Rejected, field, serve


def load(document):
    try:
        return ET.fromstring(document)
    except ET.ParseError as error:
        line, column = error.position
        raise Rejected(str(error), line=line, column=column + 1)


def names(tag):
    uri, local = tag[1:].split("}", 1) if tag.startswith("{") else ("", tag)
    return "- %s %s" % (field(local), field(uri))


def decode(document, trace, mode):
    root = load(document)
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


serve(
    implementation="python-elementtree " + platform.python_version(),
    engine="expat " + pyexpat.EXPAT_VERSION.replace("expat_", ""),
    offers={"xml": {"decode": decode, "lap": lambda document, mode: ET.tostring(load(document), encoding="utf-8")}},
    lacks=("comments", "instructions", "cdata", "prefixes", "declarations", "doctype"),
    settings={"namespaces": "on"},
)

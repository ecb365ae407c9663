"""Python's xml.dom.minidom and xml.sax: both stand on Expat."""

import os
import platform
import pyexpat
import sys
import xml.dom.minidom
import xml.sax
import xml.sax.handler

sys.path.insert(0, os.path.join(os.path.dirname(os.path.abspath(__file__)), "..", "sdk"))
from nachklang_adapter import Rejected, field, serve

DOM = sys.argv[1] == "minidom"


def maybe(text):
    return "-" if text is None else field(text)


def parse(document):
    try:
        return xml.dom.minidom.parseString(document)
    except pyexpat.ExpatError as error:
        raise Rejected(str(error), line=error.lineno, column=error.offset + 1)


def start(node, trace):
    trace.line("elem %s %s %s" % (field(node.nodeName), maybe(node.localName), field(node.namespaceURI or "")))
    for a in node.attributes.values() if node.attributes else ():
        if a.name == "xmlns" or a.name.startswith("xmlns:"):
            trace.line("ns %s %s" % (field(a.name[6:]), field(a.value)))
        else:
            trace.line("attr %s %s %s %s -" % (field(a.name), maybe(a.localName), field(a.namespaceURI or ""), field(a.value)))


def decode_dom(document, trace, mode):
    root = parse(document)
    if not trace.wanted:
        return
    stack = [(child, False) for child in reversed(root.childNodes)]
    while stack:
        node, closing = stack.pop()
        if closing:
            trace.line("end")
        elif node.nodeType == node.ELEMENT_NODE:
            start(node, trace)
            stack.append((node, True))
            stack.extend((child, False) for child in reversed(node.childNodes))
        elif node.nodeType == node.CDATA_SECTION_NODE:
            trace.line("cdata " + field(node.data))
        elif node.nodeType == node.TEXT_NODE:
            trace.line("text " + field(node.data))
        elif node.nodeType == node.COMMENT_NODE:
            trace.line("comment " + field(node.data))
        elif node.nodeType == node.PROCESSING_INSTRUCTION_NODE:
            trace.line("pi %s %s" % (field(node.target), field(node.data)))
        elif node.nodeType == node.DOCUMENT_TYPE_NODE:
            trace.line("doctype " + field(node.name))


class Events(xml.sax.handler.ContentHandler):
    def __init__(self, trace):
        super().__init__()
        self.trace, self.declared = trace, []

    def startPrefixMapping(self, prefix, uri):
        self.declared.append((prefix or "", uri or ""))

    def startElementNS(self, name, qname, attributes):
        self.trace.line("elem %s %s %s" % (maybe(qname), field(name[1]), field(name[0] or "")))
        for prefix, uri in self.declared:
            self.trace.line("ns %s %s" % (field(prefix), field(uri)))
        self.declared = []
        for (uri, local), value in attributes.items():
            try:
                qualified = attributes.getQNameByName((uri, local))
            except KeyError:
                qualified = None
            self.trace.line("attr %s %s %s %s -" % (maybe(qualified), field(local), field(uri or ""), field(value)))

    def endElementNS(self, name, qname):
        self.trace.line("end")

    def characters(self, content):
        self.trace.line("text " + field(content))

    def ignorableWhitespace(self, content):
        self.characters(content)

    def processingInstruction(self, target, data):
        self.trace.line("pi %s %s" % (field(target), field(data)))

    def skippedEntity(self, name):
        if not name.startswith("%"):
            self.trace.line("ref " + field(name))


def decode_sax(document, trace, mode):
    reader = xml.sax.make_parser()
    reader.setFeature(xml.sax.handler.feature_namespaces, True)
    reader.setFeature(xml.sax.handler.feature_external_ges, False)
    handler = Events(trace)
    if trace.wanted:
        reader.setContentHandler(handler)
    try:
        reader.feed(document)
        reader.close()
    except xml.sax.SAXParseException as error:
        raise Rejected(error.getMessage(), line=error.getLineNumber(), column=(error.getColumnNumber() or 0) + 1)


operations = {"decode": decode_dom if DOM else decode_sax}
if DOM:
    operations["lap"] = lambda document, mode: parse(document).toxml(encoding="utf-8")
serve(
    implementation="%s %s" % ("python-minidom" if DOM else "python-sax", platform.python_version()),
    engine="expat " + pyexpat.EXPAT_VERSION.replace("expat_", ""),
    offers={"xml": operations},
    lacks=() if DOM else ("comments", "cdata", "doctype", "prefixes"),
    settings={"namespaces": "on"},
)

"""Python's xml.dom.minidom and xml.sax: both are built on Expat."""

import io
import os
import platform
import pyexpat
import sys
import xml.dom.minidom
import xml.sax
import xml.sax.handler
import xml.sax.saxutils
import xml.sax.xmlreader

sys.path.insert(0, os.path.join(os.path.dirname(os.path.abspath(__file__)), "..", "sdk"))
from nachklang_adapter import Rejected, Unsupported, field, library, markup_of, serve

DOM = sys.argv[1] == "minidom"


def maybe(text):
    return "-" if text is None else field(text)


def parse(document):
    with library():
        try:
            return xml.dom.minidom.parseString(document)
        except pyexpat.ExpatError as error:
            raise Rejected(str(error), line=error.lineno, column=error.offset + 1)


def start(node, trace):
    trace.line("elem %s %s %s" % (field(node.nodeName), maybe(node.localName), field(node.namespaceURI or "")))
    for a in node.attributes.values() if node.attributes else ():
        if a.name == "xmlns" or a.name.startswith("xmlns:"):
            trace.line("ns %s %s" % (field(a.name[6:]), field(a.value or "")))  # None for an empty one
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


class Events(xml.sax.handler.ContentHandler, xml.sax.handler.LexicalHandler):
    def __init__(self, trace):
        super().__init__()
        self.trace, self.declared, self.in_type, self.section = trace, [], False, None

    def startDTD(self, name, public_id, system_id):
        self.trace.line("doctype " + field(name))
        self.in_type = True

    def endDTD(self):
        self.in_type = False

    def comment(self, content):
        if not self.in_type:
            self.trace.line("comment " + field(content))

    def startCDATA(self):
        self.section = ""

    def endCDATA(self):
        self.trace.line("cdata " + field(self.section))
        self.section = None

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
        if self.section is None:
            self.trace.line("text " + field(content))
        else:
            self.section += content

    def ignorableWhitespace(self, content):
        self.characters(content)

    def processingInstruction(self, target, data):
        if not self.in_type:
            self.trace.line("pi %s %s" % (field(target), field(data)))

    def skippedEntity(self, name):
        if not name.startswith("%"):
            self.trace.line("ref " + field(name))


def decode_sax(document, trace, mode):
    feed_sax([document], trace, mode)


def feed_sax(pieces, trace, mode):
    reader = xml.sax.make_parser()
    reader.setFeature(xml.sax.handler.feature_namespaces, True)
    reader.setFeature(xml.sax.handler.feature_external_ges, False)
    handler = Events(trace)
    if trace.wanted:
        reader.setContentHandler(handler)
        reader.setProperty(xml.sax.handler.property_lexical_handler, handler)
    with library():
        try:
            for piece in pieces:
                reader.feed(piece)
            reader.close()
        except xml.sax.SAXParseException as error:
            raise Rejected(error.getMessage(), line=error.getLineNumber(), column=(error.getColumnNumber() or 0) + 1)


def build_dom(value, mode):
    document = xml.dom.minidom.Document()
    open_ = [document]

    def add(node):
        return open_[-1].appendChild(node)

    # ValueError is documented for a comment with "--", and for text that UTF-8 has no bytes for.
    with library(xml.dom.DOMException, ValueError):
        for word, *fields in markup_of(value, declares=False):
            add_piece(document, open_, add, word, fields)
        return document.toxml(encoding="utf-8")


def add_piece(document, open_, add, word, fields):
    if word == "elem":
        open_.append(add(document.createElementNS(fields[2] or None, fields[0])))
    elif word == "attr":
        open_[-1].setAttributeNS(fields[2] or None, fields[0], fields[3])
    elif word == "ns":
        open_[-1].setAttribute("xmlns" + (":" + fields[0] if fields[0] else ""), fields[1])
    elif word == "end":
        open_.pop()
    elif word == "text":
        add(document.createTextNode(fields[0]))
    elif word == "cdata":
        add(document.createCDATASection(fields[0]))
    elif word == "comment":
        add(document.createComment(fields[0]))
    else:
        add(document.createProcessingInstruction(*fields))


def write_sax(value, mode):
    out = io.BytesIO()
    writer = xml.sax.saxutils.XMLGenerator(out, encoding="utf-8", short_empty_elements=True)
    writer.startDocument()
    waiting, declared, open_ = None, [], []

    def settle():
        nonlocal waiting, declared
        if waiting is None:
            return
        (qname, uri), attributes = waiting
        for prefix, bound in declared:
            writer.startPrefixMapping(prefix or None, bound)
        names = {(u or None, local): v for (q, local, u), v in attributes}
        qnames = {(u or None, local): q for (q, local, u), v in attributes}
        if len(names) < len(attributes):
            raise Unsupported("attributes are a mapping here")
        writer.startElementNS((uri or None, qname.split(":")[-1]), qname, xml.sax.xmlreader.AttributesNSImpl(names, qnames))
        open_.append(((uri or None, qname.split(":")[-1]), qname, [p for p, _ in declared]))
        waiting, declared = None, []

    for word, *fields in markup_of(value, declares=False):
        if word == "elem":
            settle()
            waiting = ((fields[0], fields[2]), [])
            continue
        if word == "attr":
            waiting[1].append(((fields[0], fields[1], fields[2]), fields[3]))
            continue
        if word == "ns":
            declared.append(fields)
            continue
        settle()
        if word == "end":
            name, qname, prefixes = open_.pop()
            writer.endElementNS(name, qname)
            for prefix in prefixes:
                writer.endPrefixMapping(prefix or None)
        elif word == "text":
            writer.characters(fields[0])
        elif word == "pi":
            writer.processingInstruction(*fields)
        else:
            raise Unsupported("no %s is written here" % word)
    writer.endDocument()
    return out.getvalue()


def encode_sax(value, mode):
    with library():
        return write_sax(value, mode)


def round_trip_dom(document, mode):
    tree = parse(document)
    with library():
        return tree.toxml(encoding="utf-8")


operations = {"decode": decode_dom if DOM else decode_sax}
operations["encode"] = build_dom if DOM else encode_sax
if DOM:
    operations["round-trip"] = round_trip_dom
else:
    operations["pieces"] = feed_sax
serve(
    implementation="%s %s" % ("python-minidom" if DOM else "python-sax", platform.python_version()),
    engine="expat " + pyexpat.EXPAT_VERSION.replace("expat_", ""),
    capabilities={"xml": operations},
    cannot_represent=() if DOM else ("prefixes",),
    settings={"namespaces": "on", "parameter-entities": "skipped"} if DOM else {"namespaces": "on"},
)

"""lxml: entities resolved or kept, and its repairing parser. It stands on libxml2. Nothing is fetched."""

import os
import sys

from lxml import etree

sys.path.insert(0, os.path.join(os.path.dirname(os.path.abspath(__file__)), "..", "sdk"))
from nachklang_adapter import Rejected, field, serve


def load(document, mode):
    parser = etree.XMLParser(no_network=True, load_dtd=False, huge_tree=True, resolve_entities=mode != "entities-kept",
                             recover=mode == "repairing", strip_cdata=False)
    try:
        return etree.ElementTree(etree.fromstring(document, parser))
    except etree.XMLSyntaxError as error:
        line, column = error.position if error.position else (None, None)
        raise Rejected(error.msg or "refused", line=line, column=column)


def names(tag, prefix):
    uri, local = tag[1:].split("}", 1) if tag.startswith("{") else ("", tag)
    return "%s %s %s" % (field(prefix + ":" + local if prefix else local), field(local), field(uri))


def declarations(root):
    """Of every element in its order; asked of each element they would be gathered from all above it."""
    waiting = []
    for event, what in etree.iterwalk(root, events=("start-ns", "start")):
        if event == "start-ns":
            waiting.append(what)
        elif isinstance(what.tag, str):
            yield waiting
            waiting = []


def start(element, declared, trace):
    trace.line("elem " + names(element.tag, element.prefix))
    for prefix, uri in declared:
        trace.line("ns %s %s" % (field(prefix or ""), field(uri)))
    for name, value in element.attrib.items():
        # An attribute's own prefix is not told.
        uri, local = name[1:].split("}", 1) if name.startswith("{") else ("", name)
        trace.line("attr %s %s %s %s -" % ("-" if uri else field(local), field(local), field(uri), field(value)))


def decode(document, trace, mode):
    tree = load(document, mode)
    root = tree.getroot()
    if not trace.wanted or root is None:
        return
    beside = [root]
    while beside[0].getprevious() is not None:
        beside.insert(0, beside[0].getprevious())
    while beside[-1].getnext() is not None:
        beside.append(beside[-1].getnext())
    declared = declarations(root)
    stack = [(node, False) for node in reversed(beside)]
    while stack:
        node, closing = stack.pop()
        if closing:
            trace.line("end")
        elif node.tag is etree.Comment:
            trace.line("comment " + field(node.text or ""))
        elif node.tag is etree.PI:
            trace.line("pi %s %s" % (field(node.target), field(node.text or "")))
        elif node.tag is etree.Entity:
            trace.line("ref " + field(node.name))
        else:
            start(node, next(declared), trace)
            if node.text:
                trace.line("text " + field(node.text))
            stack.append((node, True))
            stack.extend((child, False) for child in reversed(node))
            continue
        if node.tail and node not in beside:
            trace.line("text " + field(node.tail))


def lap(document, mode):
    return etree.tostring(load(document, mode), encoding="UTF-8", xml_declaration=True)


serve(
    implementation="lxml " + etree.__version__,
    engine="libxml2 " + ".".join(map(str, etree.LIBXML_VERSION)),
    offers={"xml": {"decode": decode, "lap": lap}},
    lacks=("cdata", "doctype"),
    settings={"namespaces": "on", "external": "none"},
    modes=("resolved", ("entities-kept", (), {}, {"entities": "kept"}), "repairing"),
)

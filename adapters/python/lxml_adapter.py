"""lxml: its default, all entities resolved or kept, CDATA kept, without its limits, and its repairing parser. It is built on libxml2. Nothing is fetched; entities in files
are opened where they are resolved."""

import os
import sys

from lxml import etree

sys.path.insert(0, os.path.join(os.path.dirname(os.path.abspath(__file__)), "..", "sdk"))
from nachklang_adapter import Rejected, Unsupported, expanded_name, field, library, markup_of, serve


def load(document, mode):
    return parsed(mode, lambda parser: etree.fromstring(document, parser))


def fed(pieces, mode):
    def feed(parser):
        for piece in pieces:
            parser.feed(piece)
        return parser.close()
    return parsed(mode, feed)


def parsed(mode, parse):
    canonical = mode == "canonical"
    # By default this version resolves entities of the document itself only.
    entities = {} if mode in ("default", "cdata-kept") else {"resolve_entities": mode != "entities-kept"}
    parser = etree.XMLParser(no_network=True, load_dtd=canonical, attribute_defaults=canonical, huge_tree=mode == "huge",
                             recover=mode == "repairing", strip_cdata=mode != "cdata-kept", **entities)
    with library():
        try:
            root = parse(parser)
        except etree.XMLSyntaxError as error:
            line, column = error.position if error.position else (None, None)
            raise Rejected(error.msg or "refused", line=line, column=column)
    if root is None:
        raise Rejected("fromstring returned None")
    return etree.ElementTree(root), [e.message for e in parser.error_log if e.level >= etree.ErrorLevels.ERROR]


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
        # An attribute's own prefix is not reported.
        uri, local = name[1:].split("}", 1) if name.startswith("{") else ("", name)
        trace.line("attr %s %s %s %s -" % ("-" if uri else field(local), field(local), field(uri), field(value)))


def decode(document, trace, mode):
    show(*load(document, mode), trace)


def pieces(parts, trace, mode):
    show(*fed(parts, mode), trace)


def show(tree, reports, trace):
    for message in reports:
        trace.report(message)
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


def round_trip(document, mode):
    tree, reports = load(document, mode)
    with library(etree.C14NError):
        if mode == "canonical":
            return etree.tostring(tree, method="c14n", with_comments=False), reports
        return etree.tostring(tree, encoding="UTF-8", xml_declaration=True), reports


def add_text(parent, text):
    if isinstance(text, etree.CDATA):
        if len(parent) or parent.text:
            raise Unsupported("a CDATA section is an element's whole text here")
        parent.text = text
    elif len(parent):
        parent[-1].tail = (parent[-1].tail or "") + text
    else:
        parent.text = (parent.text or "") + text


def element_of(parent, name, declared):
    tag, nsmap = expanded_name(name[1], name[2]), {prefix or None: uri for prefix, uri in declared}
    return etree.Element(tag, nsmap=nsmap) if parent is None else etree.SubElement(parent, tag, nsmap=nsmap)


def encode(value, mode):
    """A declaration is reported with its element: what follows an `elem` is gathered first. The library chooses prefixes."""
    root, open_, pieces, before = None, [], markup_of(value), []
    with library(ValueError, TypeError):
        for i, (word, *fields) in enumerate(pieces):
            if word in ("attr", "ns"):
                continue
            if word == "elem":
                if root is not None and not open_:
                    raise Unsupported("a tree is its root here")
                own = i + 1
                while pieces[own][0] in ("attr", "ns"):
                    own += 1
                element = element_of(open_[-1] if open_ else None, fields, [p[1:] for p in pieces[i + 1:own] if p[0] == "ns"])
                for attribute in pieces[i + 1:own]:
                    if attribute[0] == "attr":
                        if expanded_name(attribute[2], attribute[3]) in element.attrib:
                            raise Unsupported("attributes are a mapping here")
                        element.set(expanded_name(attribute[2], attribute[3]), attribute[4])
                root = element if root is None else root
                for node in before:
                    root.addprevious(node)
                before = []
                open_.append(element)
                continue
            if word == "end":
                open_.pop()
                continue
            if word in ("text", "cdata"):
                if not open_:
                    raise Unsupported("a tree is its root here")
                add_text(open_[-1], fields[0] if word == "text" else etree.CDATA(fields[0]))
                continue
            node = etree.Comment(fields[0]) if word == "comment" else etree.PI(fields[0], fields[1] or None)
            if open_:
                open_[-1].append(node)
            elif root is None:
                before.append(node)
            else:
                root.addnext(node)
        if root is None:
            raise Unsupported("a tree is its root here")
        return etree.tostring(etree.ElementTree(root), encoding="UTF-8", xml_declaration=True)


serve(
    implementation="lxml " + etree.__version__,
    engine="libxml2 " + ".".join(map(str, etree.LIBXML_VERSION)),
    capabilities={"xml": {"decode": decode, "round-trip": round_trip, "encode": encode, "pieces": pieces}},
    cannot_represent=("cdata", "doctype", "defaults"),
    settings={"namespaces": "on", "external": "entities"},
    modes=(("default", (), {"xml": ("decode", "round-trip", "encode", "pieces")}, {"external": "none"}),
           ("cdata-kept", (), {"xml": ("round-trip",)}, {"external": "none"}),
           ("resolved", (), {"xml": ("decode", "round-trip", "pieces")}), ("huge", (), {"xml": ("decode", "round-trip")}),
           ("entities-kept", (), {"xml": ("decode", "round-trip")}, {"entities": "kept", "external": "none"}),
           ("repairing", (), {"xml": ("decode", "round-trip")}, {"purpose": "repairs"}),
           ("canonical", (), {"xml": ("round-trip",)}, {"external": "files", "writes": "canonical"})),
)

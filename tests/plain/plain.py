"""Python's libraries without any kit: plain.py LIBRARY, then file names on standard input. See README.md for the lines it prints."""

import sys


def hexed(text):
    return text.encode("utf-8", "surrogatepass").hex()


def json_value(value, out):
    if value is None or isinstance(value, bool):
        out.append({None: "null", True: "true", False: "false"}[value])
    elif isinstance(value, str):
        out.append("s" + hexed(value))
    elif isinstance(value, int):
        out.append("n" + (format(value, "d") if abs(value) < 1 << 10000 else hex(value)))
    elif isinstance(value, float):
        out.append("n" + repr(value))
    elif isinstance(value, list):
        out.append("[")
        for item in value:
            json_value(item, out)
        out.append("]")
    else:
        out.append("{")
        for name, item in value.items():
            out.append("k" + hexed(name))
            json_value(item, out)
        out.append("}")


def start(name, attributes, out):
    out.append("<" + hexed(name))
    out.extend(sorted("a%s=%s" % (hexed(key), hexed(value)) for key, value in attributes))


def tree_value(element, out):
    """ElementTree and lxml: names as {namespace}local."""
    start(element.tag, element.attrib.items(), out)
    out.append("t" + hexed(element.text or ""))
    for child in element:
        if isinstance(child.tag, str):
            tree_value(child, out)
        elif child.tag.__name__ == "Entity":
            out.append("r" + hexed(child.name))
        out.append("t" + hexed(child.tail or ""))
    out.append(">")


def dom_name(node):
    return "{%s}%s" % (node.namespaceURI, node.localName) if node.namespaceURI else node.localName or node.nodeName


def dom_value(node, out):
    if node.nodeType == node.ELEMENT_NODE:
        attributes = [node.attributes.item(i) for i in range(node.attributes.length)]
        start(dom_name(node), [(dom_name(a), a.value) for a in attributes
                               if a.name != "xmlns" and not a.name.startswith("xmlns:")], out)
        for child in node.childNodes:
            dom_value(child, out)
        out.append(">")
    elif node.nodeType in (node.TEXT_NODE, node.CDATA_SECTION_NODE):
        out.append("t" + hexed(node.data))


def decoder(name):
    if name in ("json", "simplejson", "ujson", "rapidjson"):
        library = __import__(name)
        return library.loads, json_value, lambda value: library.dumps(value).encode()
    if name == "elementtree":
        import xml.etree.ElementTree
        return xml.etree.ElementTree.fromstring, tree_value, lambda root: xml.etree.ElementTree.tostring(root, encoding="utf-8")
    if name == "minidom":
        import xml.dom.minidom
        return (xml.dom.minidom.parseString, lambda document, out: dom_value(document.documentElement, out),
                lambda document: document.toxml(encoding="utf-8"))
    if name == "sax":
        import io
        import xml.sax
        import xml.sax.handler

        class Handler(xml.sax.handler.ContentHandler):
            def __init__(self):
                self.out = []

            def startElementNS(self, name, qname, attributes):
                def full(pair):
                    return "{%s}%s" % pair if pair[0] else pair[1]
                start(full(name), [(full(key), value) for key, value in attributes.items()], self.out)

            def endElementNS(self, name, qname):
                self.out.append(">")

            def characters(self, content):
                self.out.append("t" + hexed(content))

            def skippedEntity(self, name):
                if not name.startswith("%"):
                    self.out.append("r" + hexed(name))

        def parse(document):
            reader = xml.sax.make_parser()
            reader.setFeature(xml.sax.handler.feature_namespaces, True)
            reader.setFeature(xml.sax.handler.feature_external_ges, False)
            handler = Handler()
            reader.setContentHandler(handler)
            reader.parse(io.BytesIO(document))
            return handler.out
        return parse, lambda events, out: out.extend(events), None
    import lxml.etree
    return (lambda document: lxml.etree.fromstring(document), tree_value,
            lambda root: lxml.etree.tostring(root.getroottree(), encoding="UTF-8", xml_declaration=True))


def written(write, value):
    try:
        return "w" + write(value).hex()
    except Exception:
        return "w!"


sys.setrecursionlimit(8000)
decode, show, write = decoder(sys.argv[1])
limit = sys.getrecursionlimit()
for path in sys.stdin.read().splitlines():
    with open(path, "rb") as file:
        document = file.read()
    sys.setrecursionlimit(1000)
    try:
        value = decode(document)
    except Exception:
        print("rejected", flush=True)
        continue
    tokens = [written(write, value)] if write else []
    sys.setrecursionlimit(limit)
    show(value, tokens)
    print("accepted", *tokens, flush=True)

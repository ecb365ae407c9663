"""Python's libraries without any kit: plain.py LIBRARY, then file names on standard input; for each one a line, accepted or rejected."""

import sys


def decoder(name):
    if name == "json":
        import json
        return json.loads
    if name == "simplejson":
        import simplejson
        return simplejson.loads
    if name == "ujson":
        import ujson
        return ujson.loads
    if name == "rapidjson":
        import rapidjson
        return rapidjson.loads
    if name == "elementtree":
        import xml.etree.ElementTree
        return xml.etree.ElementTree.fromstring
    if name == "minidom":
        import xml.dom.minidom
        return xml.dom.minidom.parseString
    if name == "sax":
        import io
        import xml.sax
        import xml.sax.handler

        def parse(document):
            reader = xml.sax.make_parser()
            reader.setFeature(xml.sax.handler.feature_namespaces, True)
            reader.setFeature(xml.sax.handler.feature_external_ges, False)
            reader.parse(io.BytesIO(document))
        return parse
    import lxml.etree
    return lambda document: lxml.etree.fromstring(document, lxml.etree.XMLParser(no_network=True, huge_tree=True))


decode = decoder(sys.argv[1])
for path in sys.stdin.read().splitlines():
    with open(path, "rb") as file:
        document = file.read()
    try:
        decode(document)
        print("accepted", flush=True)
    except Exception:
        print("rejected", flush=True)

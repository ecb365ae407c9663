"""Tables of XML cases: entities, declarations, attributes, encodings, namespaces, numbers, values to be written."""

import functools  # noqa: F401

from writer import u8  # noqa: F401
from xml_notation import *  # noqa: F401,F403: the notation is made for these tables


from xml_text_tables import *  # noqa: E402,F401,F403: shared rows


def entities():
    s = Sheet("entities-generated", "Entities: internal, nested, recursive, partial, parameter entities, external ones (XML 1.0, 4).")

    def doc(subset, body):
        return "<!DOCTYPE a [%s]>%s" % (subset, body)

    def good(name, subset, body, *value):
        s.accept(name, doc(subset, body), "4.4", name.replace("-", " "), trace(T("a"), *value))

    good("text", "<!ENTITY e 'x'>", "<a>&e;</a>", E("a", (), "x"))
    good("empty", "<!ENTITY e ''>", "<a>&e;</a>", E("a"))
    good("twice", "<!ENTITY e 'x'>", "<a>&e;&e;</a>", E("a", (), "xx"))
    good("between", "<!ENTITY e 'x'>", "<a>1&e;2</a>", E("a", (), "1x2"))
    good("element", "<!ENTITY e '<b>x</b>'>", "<a>&e;</a>", E("a", (), E("b", (), "x")))
    good("elements", "<!ENTITY e '<b/><c/>'>", "<a>&e;</a>", E("a", (), E("b"), E("c")))
    good("comment", "<!ENTITY e '<!--x-->'>", "<a>&e;</a>", E("a", (), C("x")))
    good("instruction", "<!ENTITY e '<?p x?>'>", "<a>&e;</a>", E("a", (), P("p", "x")))
    good("cdata", "<!ENTITY e '<![CDATA[<]]>'>", "<a>&e;</a>", E("a", (), D("<")))
    good("nested", "<!ENTITY e 'x&f;y'><!ENTITY f 'z'>", "<a>&e;</a>", E("a", (), "xzy"))
    good("nested-in-element", "<!ENTITY e '<b>&f;</b>'><!ENTITY f 'z'>", "<a>&e;</a>", E("a", (), E("b", (), "z")))
    good("declared-later-than-used", "<!ENTITY e '&f;'><!ENTITY f 'z'>", "<a>&e;</a>", E("a", (), "z"))
    good("first-declaration-binds", "<!ENTITY e 'x'><!ENTITY e 'y'>", "<a>&e;</a>", E("a", (), "x"))
    good("in-value", "<!ENTITY e 'x'>", "<a b='1&e;2'/>", E("a", [("b", "1x2")]))
    good("quotes-in-value", "<!ENTITY e \"'\">", "<a b='&e;'/>", E("a", [("b", "'")]))
    good("both-quotes-in-value", "<!ENTITY e '&#34;&#39;'>", "<a b=\"&e;\"/>", E("a", [("b", "\"'")]))
    good("nested-in-value", "<!ENTITY e 'x&f;'><!ENTITY f 'z'>", "<a b='&e;'/>", E("a", [("b", "xz")]))
    good("reference-undone-once", "<!ENTITY e '&#38;'>", "<a b='&#38;#38;'>&#38;#38;</a>", E("a", [("b", "&#38;")], "&#38;"))
    good("reference-undone-twice", "<!ENTITY e '&#38;#60;'>", "<a>&e;</a>", E("a", (), "<"))
    good("less-than-twice-escaped-in-value", "<!ENTITY e '&#38;#60;'>", "<a b='&e;'/>", E("a", [("b", "<")]))
    good("predefined-inside", "<!ENTITY e '&lt;b>'>", "<a>&e;</a>", E("a", (), "<b>"))
    good("predefined-inside-value", "<!ENTITY e '&lt;'>", "<a b='&e;'/>", E("a", [("b", "<")]))
    good("markup-by-reference", "<!ENTITY e '&#60;b/>'>", "<a>&e;</a>", E("a", (), E("b")))
    good("ampersand-in-pieces", "<!ENTITY e '&#38;#38;'>", "<a>&e;lt;</a>", E("a", (), "&lt;"))
    good("bracket-text-in-pieces", "<!ENTITY e ']]'>", "<a>&e;></a>", E("a", (), "]]>"))
    good("greater-than-entity", "<!ENTITY e '>'>", "<a>]]&e;</a>", E("a", (), "]]>"))
    good("line-end-in-value-of-entity", "<!ENTITY e 'x\r\ny'>", "<a>&e;</a>", E("a", (), "x\ny"))
    good("unused-with-odd-text", "<!ENTITY e '<b'>", "<a/>", E("a"))
    for name, subset in (("undeclared-inside", "<!ENTITY e '&f;'>"), ("recursive", "<!ENTITY e '&e;'>"), ("recursive-by-two", "<!ENTITY e '&f;'><!ENTITY f 'x&e;'>")):
        s.open("unused-" + name, doc(subset, "<a/>"), "unused-entity", "4.1", "a reference in an entity's value is bypassed (4.4.7)", trace(T("a"), E("a")))
    good("unused-cdata-inside", "<!ENTITY e '<![CDATA[&f;]]>'>", "<a/>", E("a"))
    good("percent-by-reference", "<!ENTITY e '&#37;'>", "<a>&e;</a>", E("a", (), "%"))
    good("name-with-colonless-letters", "<!ENTITY e.1-x 'y'>", "<a>&e.1-x;</a>", E("a", (), "y"))
    good("forty-deep", "".join("<!ENTITY e%d '&e%d;'>" % (i, i + 1) for i in range(40)) + "<!ENTITY e40 'x'>", "<a>&e0;</a>", E("a", (), "x"))
    good("doubling", "<!ENTITY e0 'x'>" + "".join("<!ENTITY e%d '&e%d;&e%d;'>" % (i + 1, i, i) for i in range(8)), "<a>&e8;</a>", E("a", (), "x" * 256))
    good("twice-in-value", "<!ENTITY e 'x'>", "<a b='&e;&e;' c='&e;'/>", E("a", [("b", "xx"), ("c", "x")]))
    good("doubling-in-value", "<!ENTITY e 'x'><!ENTITY f '&e;&e;'>", "<a b='&f;&f;'/>", E("a", [("b", "xxxx")]))
    good("twice-in-default", "<!ENTITY e 'x'><!ATTLIST a b CDATA '&e;&e;'>", "<a/>", E("a", [("b", "xx", "default")]))
    good("value-then-content", "<!ENTITY e 'x'>", "<a b='&e;'>&e;</a>", E("a", [("b", "x")], "x"))
    good("unparsed-declared", "<!NOTATION n SYSTEM 'x'><!ENTITY e SYSTEM 'y' NDATA n>", "<a/>", E("a"))
    good("unparsed-named-in-value", "<!NOTATION n SYSTEM 'x'><!ENTITY e SYSTEM 'y' NDATA n><!ATTLIST a b ENTITY #IMPLIED>", "<a b='e'/>", E("a", [("b", "e")]))
    good("external-unused", "<!ENTITY e SYSTEM 'no-such-file'>", "<a/>", E("a"))
    good("parameter-declares", "<!ENTITY % p \"<!ENTITY e 'x'>\">%p;", "<a>&e;</a>", E("a", (), "x"))
    good("parameter-empty", "<!ENTITY % p ''>%p;", "<a/>", E("a"))
    good("parameter-comment", "<!ENTITY % p '<!--x-->'>%p;", "<a/>", E("a"))
    good("parameter-space", "<!ENTITY % p ' '> %p; %p;", "<a/>", E("a"))
    good("parameter-and-general-of-one-name", "<!ENTITY % e '<!--x-->'><!ENTITY e 'y'>%e;", "<a>&e;</a>", E("a", (), "y"))
    good("parameter-of-parameter", "<!ENTITY % q \"<!ENTITY e 'x'>\"><!ENTITY % p '&#37;q;'>%p;", "<a>&e;</a>", E("a", (), "x"))
    good("parameter-first-binds", "<!ENTITY % p \"<!ENTITY e 'x'>\"><!ENTITY % p \"<!ENTITY e 'y'>\">%p;", "<a>&e;</a>", E("a", (), "x"))
    good("parameter-attributes", "<!ENTITY % p \"<!ATTLIST a b CDATA 'x'>\">%p;", "<a/>", E("a", [("b", "x", "default")]))
    good("percent-in-comment", "<!--%p;--><?q %p;?>", "<a/>", E("a"))
    good("percent-in-default", "<!ATTLIST a b CDATA '100%x;'>", "<a/>", E("a", [("b", "100%x;", "default")]))
    for name, character, spelled in (("lt", "<", "&#38;#60;"), ("amp", "&", "&#38;#38;"), ("gt", ">", "&#62;"), ("apos", "'", "&#39;"), ("quot", '"', "&#34;"), ("lt-hex", "<", "&#38;#x3C;"),
                                     ("gt-twice", ">", "&#38;#62;")):
        entity = name.split("-")[0]
        good("predefined-declared-" + name, "<!ENTITY %s \"%s\">" % (entity, spelled), "<a>&%s;</a>" % entity, E("a", (), character))
    for name, declaration in (("lt-once", "<!ENTITY lt '&#60;'>"), ("amp-once", "<!ENTITY amp '&#38;'>"), ("lt-other", "<!ENTITY lt 'x'>"), ("gt-other", "<!ENTITY gt 'x'>"),
                              ("quot-external", "<!ENTITY quot SYSTEM 'x'>"), ("apos-empty", "<!ENTITY apos ''>")):
        s.open("predefined-declared-" + name, doc(declaration, "<a/>"), "predefined-entities", "4.6", "declared otherwise: an error that may be reported", trace(T("a"), E("a")))

    for name, subset, body, clause in (
            ("undeclared", "<!ENTITY f 'x'>", "<a>&e;</a>", "WFC Entity Declared"), ("undeclared-in-value", "<!ENTITY f 'x'>", "<a b='&e;'/>", "WFC Entity Declared"),
            ("undeclared-other-case", "<!ENTITY e 'x'>", "<a>&E;</a>", "WFC Entity Declared"), ("undeclared-inside", "<!ENTITY e '&f;'>", "<a>&e;</a>", "WFC Entity Declared"),
            ("undeclared-inside-value", "<!ENTITY e '&f;'>", "<a b='&e;'/>", "WFC Entity Declared"), ("parameter-is-no-general", "<!ENTITY % e 'x'>", "<a>&e;</a>", "WFC Entity Declared"),
            ("undeclared-in-default", "<!ATTLIST a b CDATA '&e;'>", "<a/>", "WFC Entity Declared"), ("declared-after-default", "<!ATTLIST a b CDATA '&e;'><!ENTITY e 'x'>", "<a/>", "WFC Entity Declared"),
            ("recursive", "<!ENTITY e '&e;'>", "<a>&e;</a>", "WFC No Recursion"), ("recursive-by-two", "<!ENTITY e '&f;'><!ENTITY f '&e;'>", "<a>&e;</a>", "WFC No Recursion"),
            ("recursive-by-three", "<!ENTITY e '&f;'><!ENTITY f '&g;'><!ENTITY g 'x&e;'>", "<a>&e;</a>", "WFC No Recursion"), ("recursive-in-element", "<!ENTITY e '<b>&e;</b>'>", "<a>&e;</a>", "WFC No Recursion"),
            ("recursive-in-value", "<!ENTITY e '&e;'>", "<a b='&e;'/>", "WFC No Recursion"), ("recursive-by-value", "<!ENTITY e \"<b c='&e;'/>\">", "<a>&e;</a>", "WFC No Recursion"),
            ("recursive-by-two-in-value", "<!ENTITY e '&f;'><!ENTITY f '&e;'>", "<a b='&e;'/>", "WFC No Recursion"), ("recursive-in-default", "<!ENTITY e '&e;'><!ATTLIST a b CDATA '&e;'>", "<a/>", "WFC No Recursion"),
            ("less-than-in-value", "<!ENTITY e '<'>", "<a b='&e;'/>", "WFC No < in Attribute Values"), ("less-than-by-reference-in-value", "<!ENTITY e '&#60;'>", "<a b='&e;'/>", "WFC No < in Attribute Values"),
            ("less-than-by-two-in-value", "<!ENTITY e '&f;'><!ENTITY f '&#60;'>", "<a b='&e;'/>", "WFC No < in Attribute Values"), ("element-in-value", "<!ENTITY e '<b/>'>", "<a b='&e;'/>", "WFC No < in Attribute Values"),
            ("less-than-in-default", "<!ENTITY e '&#60;'><!ATTLIST a b CDATA '&e;'>", "<a/>", "WFC No < in Attribute Values"), ("less-than-raw-in-default", "<!ATTLIST a b CDATA '<'>", "<a/>", "WFC No < in Attribute Values"),
            ("start-tag-alone", "<!ENTITY e '<b>'>", "<a>&e;</b></a>", "production 43"), ("end-tag-alone", "<!ENTITY e '</a>'>", "<a>&e;", "production 43"), ("end-tag-of-inner", "<!ENTITY e '</b>'>", "<a><b>&e;</a>", "production 43"),
            ("tag-in-pieces", "<!ENTITY e '&#60;b'>", "<a>&e;/></a>", "production 43"), ("less-than-by-reference", "<!ENTITY e '&#60;'>", "<a>&e;</a>", "production 43"),
            ("ampersand-by-reference", "<!ENTITY e '&#38;'>", "<a>&e;</a>", "production 68"), ("reference-in-pieces", "<!ENTITY e '&#38;l'>", "<a>&e;t;</a>", "production 68"),
            ("comment-in-pieces", "<!ENTITY e '<!--'>", "<a>&e;x--></a>", "production 43"), ("cdata-end", "<!ENTITY e ']]>'>", "<a>&e;</a>", "production 14"), ("second-element-crossed", "<!ENTITY e '</b><b>'>", "<a><b>&e;</b></a>", "production 43"),
            ("declaration-in-entity", "<!ENTITY e \"<?xml version='1.0'?>\">", "<a>&e;</a>", "production 17"), ("doctype-in-entity", "<!ENTITY e '<!DOCTYPE a>'>", "<a>&e;</a>", "production 43"),
            ("illegal-by-reference", "<!ENTITY e '&#38;#0;'>", "<a>&e;</a>", "WFC Legal Character"), ("illegal-in-declaration", "<!ENTITY e '&#0;'>", "<a/>", "WFC Legal Character"),
            ("unparsed-referred", "<!NOTATION n SYSTEM 'x'><!ENTITY e SYSTEM 'y' NDATA n>", "<a>&e;</a>", "WFC Parsed Entity"),
            ("unparsed-in-value", "<!NOTATION n SYSTEM 'x'><!ENTITY e SYSTEM 'y' NDATA n>", "<a b='&e;'/>", "WFC Parsed Entity"),
            ("external-in-value", "<!ENTITY e SYSTEM 'y'>", "<a b='&e;'/>", "WFC No External Entity References"), ("external-in-value-by-two", "<!ENTITY e '&f;'><!ENTITY f SYSTEM 'y'>", "<a b='&e;'/>", "WFC No External Entity References"),
            ("external-in-default", "<!ENTITY e SYSTEM 'y'><!ATTLIST a b CDATA '&e;'>", "<a/>", "WFC No External Entity References"),
            ("parameter-recursive", "<!ENTITY % p '&#37;p;'>%p;", "<a/>", "WFC No Recursion"), ("parameter-recursive-by-two", "<!ENTITY % p '&#37;q;'><!ENTITY % q '&#37;p;'>%p;", "<a/>", "WFC No Recursion"),
            ("parameter-in-pieces", "<!ENTITY % p '<!ENTITY e '>%p;'x'>", "<a/>", "WFC PE Between Declarations"), ("parameter-text", "<!ENTITY % p 'x'>%p;", "<a/>", "WFC PE Between Declarations"),
            ("parameter-ends-declaration", "<!ENTITY % p '>'><!ELEMENT a ANY %p;", "<a/>", "WFC PEs in Internal Subset"), ("parameter-in-declaration", "<!ENTITY % p 'ANY'><!ELEMENT a %p;>", "<a/>", "WFC PEs in Internal Subset"),
            ("parameter-in-model", "<!ENTITY % p 'b'><!ELEMENT a (%p;)>", "<a/>", "WFC PEs in Internal Subset"), ("parameter-in-value", "<!ENTITY % p 'x'><!ENTITY e '%p;'>", "<a/>", "WFC PEs in Internal Subset"),
            ("parameter-in-attributes", "<!ENTITY % p 'b CDATA #IMPLIED'><!ATTLIST a %p;>", "<a/>", "WFC PEs in Internal Subset"), ("parameter-inside-declaration-of-parameter", "<!ENTITY % q 'ANY'><!ENTITY % p '<!ELEMENT a &#37;q;>'>%p;", "<a/>", "WFC PEs in Internal Subset"), ("parameter-in-value-of-parameter", "<!ENTITY % q 'x'><!ENTITY % p '<!ENTITY e &#34;&#37;q;&#34;>'>%p;", "<a/>", "WFC PEs in Internal Subset"), ("percent-in-value", "<!ENTITY e '100%'>", "<a/>", "production 9"),
            ("parameter-unended", "<!ENTITY % p ''>%p", "<a/>", "production 69"), ("parameter-spaced", "<!ENTITY % p ''>% p;", "<a/>", "production 69"), ("parameter-closes-subset", "<!ENTITY % p ']>'>%p;", "<a/>", "WFC PE Between Declarations"),
            ("parameter-in-content-is-text", "<!ENTITY % p 'x'>", "<a>&p;</a>", "WFC Entity Declared"), ("conditional-in-subset", "<![INCLUDE[<!ENTITY e 'x'>]]>", "<a/>", "production 29"),
            ("conditional-ignored-in-subset", "<![IGNORE[x]]>", "<a/>", "production 29"), ("general-in-subset", "<!ENTITY e '<!--x-->'>&e;", "<a/>", "production 28b"),
            ("character-reference-in-subset", "&#32;", "<a/>", "production 28b"), ("text-in-subset", "x", "<a/>", "production 28b"), ("element-in-subset", "<b/>", "<a/>", "production 29"),
            ("cdata-in-subset", "<![CDATA[x]]>", "<a/>", "production 29"), ("reference-unended-in-value", "<!ENTITY e '&f'>", "<a/>", "production 68"), ("ampersand-in-value-of-entity", "<!ENTITY e 'x & y'>", "<a/>", "production 68")):
        s.reject("broken-" + name, doc(subset, body), clause, name.replace("-", " "))
    s.reject("broken-reference-before-root", "<!DOCTYPE a [<!ENTITY e '<a/>'>]>&e;", "production 1", "the root does not come out of an entity")
    s.reject("broken-reference-after-root", "<!DOCTYPE a [<!ENTITY e '<!--x-->'>]><a/>&e;", "production 27", "no reference after the root")
    s.reject("broken-standalone-undeclared", "<?xml version='1.0' standalone='yes'?><!DOCTYPE a SYSTEM 'x'><a>&e;</a>", "WFC Entity Declared", "the document is standalone")
    s.reject("broken-standalone-declared-by-parameter", "<?xml version='1.0' standalone='yes'?><!DOCTYPE a [<!ENTITY % p \"<!ENTITY e 'x'>\">%p;]><a>&e;</a>", "WFC Entity Declared",
             "the document is standalone, and the declaration is not in it")
    for name, document, value in (("by-external-subset", "<!DOCTYPE a SYSTEM 'no-such.dtd'><a>x&e;y</a>", trace(T("a"), E("a", (), "x", R("e"), "y"))),
                                  ("by-parameter", "<!DOCTYPE a [<!ENTITY % p '<!--x-->'>%p;]><a>&e;</a>", trace(T("a"), E("a", (), R("e")))),
                                  ("after-undeclared-parameter", "<!DOCTYPE a [%p;<!ENTITY e 'x'>]><a>&e;</a>", trace(T("a"), E("a", (), R("e"))))):
        s.open("undeclared-" + name, document, "undeclared-entity", "WFC Entity Declared", "its declaration may be in a file that was not read: no fatal error", value)
    for name, document, value in (("general", "<!DOCTYPE a [<!ENTITY e SYSTEM 'no-such.xml'>]><a>x&e;y</a>", trace(T("a"), E("a", (), "x", R("e"), "y"))),
                                  ("public", "<!DOCTYPE a [<!ENTITY e PUBLIC '-//x//y' 'no-such.xml'>]><a>&e;</a>", trace(T("a"), E("a", (), R("e")))),
                                  ("shared-identifier", "<!DOCTYPE a [<!ENTITY e SYSTEM 'no-such.xml'><!ENTITY f SYSTEM 'no-such.xml'>]><a>x&f;y&e;</a>", trace(T("a"), E("a", (), "x", R("f"), "y", R("e")))),
                                  ("shared-identifier-nested", "<!DOCTYPE a [<!ENTITY e SYSTEM 'no-such.xml'><!ENTITY f SYSTEM 'no-such.xml'><!ENTITY g '<b>&f;</b>'>]><a>&g;</a>", trace(T("a"), E("a", (), E("b", (), R("f"))))),
                                  ("nested", "<!DOCTYPE a [<!ENTITY e '<b>&f;</b>'><!ENTITY f SYSTEM 'no-such.xml'>]><a>&e;</a>", trace(T("a"), E("a", (), E("b", (), R("f"))))),
                                  ("parameter", "<!DOCTYPE a [<!ENTITY % p SYSTEM 'no-such.ent'>%p;]><a/>", trace(T("a"), E("a"))),
                                  ("subset", "<!DOCTYPE a SYSTEM 'no-such.dtd'><a/>", trace(T("a"), E("a"))),
                                  ("subset-public", "<!DOCTYPE a PUBLIC '-//x//y' 'no-such.dtd' [<!ENTITY e 'x'>]><a>&e;</a>", trace(T("a"), E("a", (), "x")))):
        s.open("external-" + name, document, "external-entities", "4.4.3", "a processor that does not validate may leave it unread", value)
    return s


# --- declarations ---

def declarations():
    s = Sheet("declarations-generated", "Every declaration of a document type (XML 1.0, productions 28 to 83).")
    ok = trace(T("a"), E("a"))

    def rows(label, clause, pattern, good, bad):
        for i, body in enumerate(good):
            s.accept("%s-%d" % (label, i + 1), pattern % body, clause, "%s: %s" % (label.replace("-", " "), body.replace("'", '"').replace("\n", " ")[:60]), ok)
        for i, body in enumerate(bad):
            s.reject("%s-misspelled-%d" % (label, i + 1), pattern % body, clause, "no %s: %s" % (label.replace("-", " "), body.replace("'", '"').replace("\n", " ")[:60]))

    rows("doctype", "production 28", "%s<a/>",
         ["<!DOCTYPE a>", "<!DOCTYPE a >", "<!DOCTYPE\na>", "<!DOCTYPE a []>", "<!DOCTYPE a[]>", "<!DOCTYPE a [ ] >", "<!DOCTYPE a [\n\t]\n>"],
         ["<!DOCTYPE>", "<!DOCTYPE >", "<!DOCTYPEa>", "<!doctype a>", "<!DOCTYPE a", "<!DOCTYPE a [>", "<!DOCTYPE a ]>", "<!DOCTYPE a [] []>", "<!DOCTYPE a b>", "<! DOCTYPE a>", "<!DOCTYPE 'a'>", "<!DOCTYPE a [<!ELEMENT a ANY>",
          "<!DOCTYPE a [] SYSTEM 'x'>", "<!DOCTYPE a []x>", "<!DOCTYPE a, b>", "<!DOCTYPE a []]>"])
    rows("external-identifier", "production 75", "<!DOCTYPE a [<!ENTITY e %s>]><a/>",
         ["SYSTEM 'x'", 'SYSTEM "x"', "SYSTEM ''", "SYSTEM\n'x'", "SYSTEM 'a\"b<c>&d;%25e'", "PUBLIC '' ''", "PUBLIC 'x' 'y'", "PUBLIC \"x\" 'y'", "PUBLIC '-//Halm//Bells 1.0//EN' 'b.dtd'", "PUBLIC \"a b\n-'()+,./:=?;!*#@$_%\" ''",
          "SYSTEM 'x' NDATA n", "PUBLIC 'x' 'y' NDATA n", "SYSTEM 'x'  NDATA  n "],
         ["SYSTEM", "SYSTEM x", "SYSTEM'x'", "SYSTEM 'x", "SYSTEM 'x\"", "SYSTEM 'x' 'y'", "system 'x'", "PUBLIC 'x'", "PUBLIC 'x''y'", "PUBLIC", "PUBLIC x 'y'", "PUBLIC'x' 'y'", "PUBLIC 'x' y", "PUBLIC '&' 'y'", "PUBLIC '<' 'y'", "PUBLIC 'a\tb' 'y'",
          "PUBLIC '\u00e9' 'y'", "PUBLIC '{' 'y'", "PUBLIC '^' 'y'", "PUBLIC \"\\\" 'y'", "SYSTEM PUBLIC 'x' 'y'", "SYSTEM 'x' NDATA", "SYSTEM 'x' NDATAn", "SYSTEM 'x'NDATA n", "SYSTEM 'x' NDATA 'n'", "SYSTEM 'x' ndata n", "SYSTEM 'x' n", "NDATA n", "'x' NDATA n",
          "PUBLIC 'x' 'y' 'z'", "public 'x' 'y'"])
    rows("entity", "production 71", "<!DOCTYPE a [%s]><a/>",
         ["<!ENTITY e 'x'>", '<!ENTITY e "x">', "<!ENTITY e ''>", "<!ENTITY\te\n'x' >", "<!ENTITY e \"'\">", "<!ENTITY e '\"'>", "<!ENTITY e '<>'>", "<!ENTITY e '&f;'>", "<!ENTITY e '&#65;'>", "<!ENTITY % p 'x'>", "<!ENTITY  %  p  'x'  >",
          "<!ENTITY % p SYSTEM 'x'>", "<!ENTITY % p PUBLIC 'x' 'y'>", "<!ENTITY e 'x'><!ENTITY e 'y'>"],
         ["<!ENTITY>", "<!ENTITY e>", "<!ENTITY 'x'>", "<!ENTITYe 'x'>", "<!ENTITY e'x'>", "<!ENTITY e x>", "<!ENTITY e 'x\">", "<!ENTITY e 'x", "<!ENTITY e 'x' 'y'>", "<!ENTITY e 'x'", "<!entity e 'x'>", "<! ENTITY e 'x'>", "<!ENTITY %p 'x'>", "<!ENTITY% p 'x'>",
          "<!ENTITY % 'x'>", "<!ENTITY % p>", "<!ENTITY % p SYSTEM 'x' NDATA n>", "<!ENTITY % % p 'x'>", "<!ENTITY e 'a&b'>", "<!ENTITY e '&#x;'>", "<!ENTITY e '&#0;'>", "<!ENTITY e 'a%b'>", "<!ENTITY e f 'x'>", "<!ENTITY -- c -- e 'x'>", "<!ENTITY e (x)>", "<!ENTITY 1e 'x'>"])
    rows("element", "production 45", "<!DOCTYPE a [<!ELEMENT a %s>]><a/>",
         ["EMPTY", "ANY", "(b)", "( b )", "(b)?", "(b)*", "(b)+", "(b?)", "(b*)", "(b+)", "(b,c)", "(b|c)", "( b , c )", "( b | c )*", "(b,c,d)", "(b|c|d)", "((b))", "((b,c)|d)", "((b|c),d)", "(b,(c|d)*,e?)", "((((b))))", "(b,b)", "(#PCDATA)", "( #PCDATA )", "(#PCDATA)*",
          "(#PCDATA|b)*", "( #PCDATA | b | c )*", "(b\n,\tc)", "ANY ", "(a:b)"],
         ["", "empty", "any", "Empty", "(EMPTY", "()", "( )", "b", "(b", "b)", "(b))", "((b)", "(b,)", "(,b)", "(b,,c)", "(b|)", "(|b)", "(b||c)", "(b,c|d)", "(b|c,d)", "(b c)", "(b;c)", "(b&c)", "(b)**", "(b)?+", "(b ?)", "(b) ?", "(b)x", "(?b)", "(b,c)(d)", "(#PCDATA", "#PCDATA",
          "(#PCDATA)+", "(#PCDATA)?", "(#PCDATA|b)", "(#PCDATA|b)+", "(#PCDATA,b)*", "(b|#PCDATA)*", "(#PCDATA|)*", "(#PCDATA b)*", "(#pcdata)", "(# PCDATA)", "((#PCDATA))", "(#PCDATA|(b))*", "(#PCDATA|b?)*", "(#PCDATA|b)* *", "EMPTY ANY", "ANY b", "(b) (c)", "(1)", "(b,#c)", "(EMPTY)ANY", "'b'", "(b-)(c)"])
    rows("element-name", "production 45", "<!DOCTYPE a [%s]><a/>", ["<!ELEMENT b ANY>", "<!ELEMENT\nb\tANY>", "<!ELEMENT a ANY><!ELEMENT b ANY>"],
         ["<!ELEMENT>", "<!ELEMENT b>", "<!ELEMENT ANY>", "<!ELEMENTb ANY>", "<!ELEMENT bANY>", "<!element b ANY>", "<!ELEMENT (b,c) ANY>", "<!ELEMENT b ANY", "<!ELEMENT 'b' ANY>", "<!ELEMENT b -- c -- ANY>", "<!ELEMENT b ANY>>", "<!ELEMENT b - - ANY>", "<!ELEMENTS b ANY>", "<!ELEMENT b(c)>"])
    rows("attribute-list", "production 52", "<!DOCTYPE a [<!ATTLIST %s>]><a/>",
         ["a", "a ", "b", "a c CDATA #IMPLIED", "a c CDATA #REQUIRED", "a\nc\tCDATA\n#IMPLIED\n", "a c ID #IMPLIED", "a c IDREF #IMPLIED", "a c IDREFS #IMPLIED", "a c ENTITY #IMPLIED", "a c ENTITIES #IMPLIED", "a c NMTOKEN #IMPLIED", "a c NMTOKENS #IMPLIED", "a c (x) #IMPLIED",
          "a c (x|y) #IMPLIED", "a c ( x | y ) #IMPLIED", "a c (1|-2|.3) #IMPLIED", "a c NOTATION (x) #IMPLIED", "a c NOTATION ( x | y ) #IMPLIED", "a c CDATA #IMPLIED d CDATA #IMPLIED", "a c CDATA #IMPLIED c ID #IMPLIED", "b c CDATA 'x'", "b c CDATA #FIXED 'x'", "b c CDATA #FIXED\n\"x\"", "b c CDATA ''",
          "b xml:space (default|preserve) 'preserve'", "b c (x|x) #IMPLIED"],
         ["", " ", "a c", "a c CDATA", "a c #IMPLIED", "a CDATA #IMPLIED", "a c cdata #IMPLIED", "a c CDATA #implied", "a c CDATA IMPLIED", "a c CDATA # IMPLIED", "a c CDATA#IMPLIED", "a c CDATA #IMPLIED'x'", "a c CDATA #FIXED", "a c CDATA #FIXED'x'", "a c CDATA #FIXED x", "a c CDATA #REQUIRED 'x'", "a c CDATA x", "a c CDATA'x'",
          "a c CDATA 'x", "a c CDATA '<'", "a c CDATA '&'", "a c CDATA '&#0;'", "a c () #IMPLIED", "a c (x|) #IMPLIED", "a c (|x) #IMPLIED", "a c (x,y) #IMPLIED", "a c (x y) #IMPLIED", "a c (x #IMPLIED", "a c (x)#IMPLIED", "a c ('x') #IMPLIED", "a c(x) #IMPLIED", "a c NOTATION #IMPLIED", "a c NOTATION(x) #IMPLIED", "a c NOTATION (1) #IMPLIED", "a c NOTATION () #IMPLIED",
          "a c NAME #IMPLIED", "a c NUMBER #IMPLIED", "a c IDS #IMPLIED", "a c CDATA #IMPLIEDd CDATA #IMPLIED", "a c CDATA #IMPLIED,d CDATA #IMPLIED", "a 'c' CDATA #IMPLIED", "(a|b) c CDATA #IMPLIED", "a c CDATA #DEFAULT", "a c CDATA #IMPLIED #REQUIRED", "a c NMTOKENSS #IMPLIED", "a c ENTITYS #IMPLIED", "a c ((x)) #IMPLIED", "a c CDATA -- x -- #IMPLIED"])
    s.breaks_validity("attribute-list-27")  # (x|x): No Duplicate Tokens
    rows("notation", "production 82", "<!DOCTYPE a [<!NOTATION %s>]><a/>",
         ["n SYSTEM 'x'", "n PUBLIC 'x'", "n PUBLIC 'x' 'y'", "n PUBLIC 'x' ", "n\nSYSTEM\n''", "n PUBLIC \"x\" \"y\" "],
         ["", "n", "n SYSTEM", "n PUBLIC", "n 'x'", "SYSTEM 'x'", "n SYSTEM x", "n SYSTEM 'x' 'y'", "n PUBLIC 'x''y'", "n PUBLIC 'x' y", "n PUBLIC '<'", "n PUBLIC 'x' 'y' 'z'", "nSYSTEM 'x'", "n system 'x'", "n SYSTEM'x'", "n PUBLIC'x'"])
    rows("subset", "production 28b", "<!DOCTYPE a [%s]><a/>",
         ["<!--x-->", "<?p x?>", "<?p?>", "\n<!-- x -->\n<?p x?>\n", "<!ELEMENT a ANY> <!ATTLIST a>", "<!--]]>-->", "<?p ]>?>", "<!ENTITY e ']>'>", "<!--<!ELEMENT-->"],
         ["<!>", "<>", "<!-x->", "<!-- -- -->", "<?xml x?>", "<?xml version='1.0'?>", "<!UNKNOWN x>", "<!DOCTYPE a>", "<!ELEMENT a ANY>x", "]", "<!-- x", "<? p?>", "</a>", "<!SHORTREF x>", "<!--x-->;", "<!ELEM a ANY>", "<!ENTITIES e 'x'>", "<!NOTATIONS n SYSTEM 'x'>"])
    letters = "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789 -'()+,./:=?;!*#@$_%"
    s.accept("public-all-characters", '<!DOCTYPE a [<!NOTATION n PUBLIC "%s\r\n">]><a/>' % letters, "production 13", "every character of public identifiers",
             trace(T("a"), E("a")))
    for c in "[\\]^`{|}~&<>\t\x7f\u00e9":
        s.reject("public-character-%02x" % ord(c), '<!DOCTYPE a [<!NOTATION n PUBLIC "-//%s//">]><a/>' % c, "production 13", "no character of public identifiers")
    return s


# --- defaults ---

def attributes():
    s = Sheet("attributes-generated", "Declared attributes: defaults, first declarations, order (XML 1.0, 3.3).")

    def good(name, subset, body, *value):
        s.accept(name, "<!DOCTYPE a [%s]>%s" % (subset, body), "3.3.2", name.replace("-", " "), trace(T("a"), *value))

    good("default", "<!ATTLIST a b CDATA 'x'>", "<a/>", E("a", [("b", "x", "default")]))
    good("default-overridden", "<!ATTLIST a b CDATA 'x'>", "<a b='y'/>", E("a", [("b", "y")]))
    good("default-overridden-by-empty", "<!ATTLIST a b CDATA 'x'>", "<a b=''/>", E("a", [("b", "")]))
    good("default-empty", "<!ATTLIST a b CDATA ''>", "<a/>", E("a", [("b", "", "default")]))
    good("fixed", "<!ATTLIST a b CDATA #FIXED 'x'>", "<a/>", E("a", [("b", "x", "default")]))
    good("fixed-given-otherwise", "<!ATTLIST a b CDATA #FIXED 'x'>", "<a b='y'/>", E("a", [("b", "y")]))
    good("implied", "<!ATTLIST a b CDATA #IMPLIED>", "<a/>", E("a"))
    good("required-missing", "<!ATTLIST a b CDATA #REQUIRED>", "<a/>", E("a"))
    good("two-defaults", "<!ATTLIST a b CDATA 'x' c CDATA 'y'>", "<a/>", E("a", [("b", "x", "default"), ("c", "y", "default")]))
    good("given-and-default", "<!ATTLIST a b CDATA 'x'>", "<a c='y'/>", E("a", [("c", "y"), ("b", "x", "default")]))
    good("first-declaration-binds", "<!ATTLIST a b CDATA 'x'><!ATTLIST a b CDATA 'y'>", "<a/>", E("a", [("b", "x", "default")]))
    good("first-binds-in-one-list", "<!ATTLIST a b CDATA 'x' b CDATA 'y'>", "<a/>", E("a", [("b", "x", "default")]))
    good("lists-add-up", "<!ATTLIST a b CDATA 'x'><!ATTLIST a c CDATA 'y'>", "<a/>", E("a", [("b", "x", "default"), ("c", "y", "default")]))
    good("implied-first-binds", "<!ATTLIST a b CDATA #IMPLIED><!ATTLIST a b CDATA 'y'>", "<a/>", E("a"))
    good("every-such-element", "<!ATTLIST b c CDATA 'x'>", "<a><b/><b c='y'/><b/></a>", E("a", (), E("b", [("c", "x", "default")]), E("b", [("c", "y")]), E("b", [("c", "x", "default")])))
    good("only-that-element", "<!ATTLIST b c CDATA 'x'>", "<a/>", E("a"))
    good("declared-before-element", "<!ATTLIST a b CDATA 'x'><!ELEMENT a ANY>", "<a/>", E("a", [("b", "x", "default")]))
    good("enumerated", "<!ATTLIST a b (x|y) 'y'>", "<a/>", E("a", [("b", "y", "default")]))
    good("enumerated-otherwise", "<!ATTLIST a b (x|y) 'y'>", "<a b='z'/>", E("a", [("b", "z")]))
    good("tokens-in-default", "<!ATTLIST a b NMTOKENS ' x  y '>", "<a/>", E("a", [("b", "x y", "default")]))
    good("spaces-in-default", "<!ATTLIST a b CDATA ' x\n y '>", "<a/>", E("a", [("b", " x  y ", "default")]))
    good("reference-in-default", "<!ATTLIST a b CDATA '&#60;&lt;&#10;'>", "<a/>", E("a", [("b", "<<\n", "default")]))
    good("entity-in-default", "<!ENTITY e 'x\ny'><!ATTLIST a b CDATA '&e;'>", "<a/>", E("a", [("b", "x y", "default")]))
    good("quotes-in-default", "<!ATTLIST a b CDATA \"'\" c CDATA '\"'>", "<a/>", E("a", [("b", "'", "default"), ("c", '"', "default")]))
    good("namespace-by-default", "<!ATTLIST a xmlns CDATA 'urn:x'>", "<a/>", E("a", [("xmlns", "urn:x")]))
    good("prefix-by-default", "<!ATTLIST p:a xmlns:p CDATA 'urn:x'>".replace("p:a", "a"), "<a p:b='1'/>", E("a", [("p:b", "1"), ("xmlns:p", "urn:x")]))
    good("fixed-namespace", "<!ATTLIST a xmlns CDATA #FIXED 'urn:x'>", "<a><b/></a>", E("a", [("xmlns", "urn:x")], E("b")))
    good("xml-space-by-default", "<!ATTLIST a xml:space (default|preserve) 'preserve'>", "<a> </a>", E("a", [("xml:space", "preserve", "default")], " "))
    good("xml-id", "<!ATTLIST a xml:id ID #IMPLIED>", "<a xml:id=' x '/>", E("a", [("xml:id", "x")]))
    good("id-twice-is-validity", "<!ATTLIST a i ID #IMPLIED><!ATTLIST b i ID #IMPLIED>", "<a i='x'><b i='x'/></a>", E("a", [("i", "x")], E("b", [("i", "x")])))
    good("content-model-is-validity", "<!ELEMENT a (b)><!ELEMENT b EMPTY>", "<a>x<c/></a>", E("a", (), "x", E("c")))
    good("empty-with-content-is-validity", "<!ELEMENT a EMPTY>", "<a>x</a>", E("a", (), "x"))
    good("white-space-in-element-content", "<!ELEMENT a (b*)><!ELEMENT b EMPTY>", "<a> <b/> </a>", E("a", (), " ", E("b"), " "))
    good("element-declared-twice-is-validity", "<!ELEMENT a ANY><!ELEMENT a EMPTY>", "<a/>", E("a"))
    good("another-root-is-validity", "<!ELEMENT b ANY>", "<b/>".replace("b", "c"), E("c"))
    good("not-a-token-is-validity", "<!ATTLIST a b NMTOKEN #IMPLIED>", "<a b='x,y'/>", E("a", [("b", "x,y")]))
    s.breaks_validity("fixed-given-otherwise", "required-missing", "enumerated-otherwise", "id-twice-is-validity", "content-model-is-validity",
                      "empty-with-content-is-validity", "element-declared-twice-is-validity", "another-root-is-validity", "not-a-token-is-validity")
    s.open("heeded-not-after-unread", "<!DOCTYPE a [<!ENTITY % p SYSTEM 'no-such.ent'>%p;<!ATTLIST a b CDATA 'x'>]><a/>", "external-entities", "5.1",
           "declarations after an entity that was not read must not be heeded", trace(T("a"), E("a")))
    s.open("heeded-when-alone", "<?xml version='1.0' standalone='yes'?><!DOCTYPE a [<!ENTITY % p SYSTEM 'no-such.ent'>%p;<!ATTLIST a b CDATA 'x'>]><a/>", "external-entities", "5.1",
           "unless the document is standalone", trace(T("a"), E("a", [("b", "x", "default")])))
    return s


# --- encodings ---

BAD_UTF8 = {"80": "stray continuation", "bf": "stray continuation", "c0af": "overlong", "c180": "overlong", "c1bf": "overlong", "c3": "cut short", "c341": "second byte missing", "c3c3": "second byte is a first one",
            "e080af": "overlong", "e09fbf": "overlong", "e282": "cut short", "e28241": "third byte missing", "eda080": "surrogate", "edafbf": "surrogate", "edb080": "surrogate", "edbfbf": "surrogate",
            "eda0bdedb494": "two surrogates", "f0808080": "overlong", "f08fbfbf": "overlong", "f09f94": "cut short", "f09f9441": "fourth byte missing", "f4908080": "past U+10FFFF", "f5808080": "past U+10FFFF",
            "f8888080": "five bytes", "fc84808080": "six bytes", "fe": "no byte of UTF-8", "ff": "no byte of UTF-8", "e9": "ISO-8859-1"}


def encodings():
    s = Sheet("encodings-generated", "UTF-8 ill-formed in every way, UTF-16, byte order marks, declarations that agree and do not (XML 1.0, 4.3.3).")
    for hexes, why in BAD_UTF8.items():
        raw = bytes.fromhex(hexes)
        for place, before, after in (("text", b"<a>x", b"y</a>"), ("value", b"<a b='", b"'/>"), ("comment", b"<a><!--", b"--></a>"), ("name", b"<a", b"/>"), ("after-root", b"<a/><!--", b"-->")):
            if place in ("comment", "name", "after-root") and len(raw) > 3:
                continue
            s.reject("ill-formed-%s-in-%s" % (hexes, place), before + raw + after, "4.3.3", why)
    bom = b"\xef\xbb\xbf"
    ok = trace(E("a", (), "\u00e9\U0001F514"))
    body = "<a>\u00e9\U0001F514</a>"
    s.accept("mark", bom + body.encode(), "4.3.3", "a byte order mark is no part of the document", ok)
    s.accept("mark-and-declaration", bom + b"<?xml version='1.0' encoding='UTF-8'?>" + body.encode(), "4.3.3", "a byte order mark and a declaration agree", ok)
    s.accept("mark-inside", "<a>\ufeff</a>", "production 2", "inside it is a character", text("\ufeff"))
    s.reject("mark-twice", bom + bom + b"<a/>", "production 1", "one byte order mark, not two")
    s.reject("mark-after-declaration", b"<?xml version='1.0'?>" + bom + b"<a/>", "production 22", "a byte order mark comes first")
    s.reject("mark-alone", bom, "production 1", "a byte order mark alone is no document")
    s.reject("mark-cut", bom[:2] + b"<a/>", "4.3.3", "two bytes of three")
    s.reject("mark-and-latin-1", bom + b"<?xml version='1.0' encoding='ISO-8859-1'?><a/>", "4.3.3", "the byte order mark says UTF-8, the declaration another encoding")
    for order, mark, codec in (("little", b"\xff\xfe", "utf-16-le"), ("big", b"\xfe\xff", "utf-16-be")):
        s.accept("utf-16-" + order, mark + body.encode(codec), "4.3.3", "UTF-16 with its mark", ok)
        s.accept("utf-16-%s-declared" % order, mark + ("<?xml version='1.0' encoding='UTF-16'?>" + body).encode(codec), "4.3.3", "UTF-16 with its mark and a declaration", ok)
        s.accept("utf-16-%s-lines" % order, mark + "<a>x\r\ny</a>".encode(codec), "2.11", "line ends in UTF-16", text("x\ny"))
        s.accept("utf-16-%s-plane-edges" % order, mark + "<a>\ud7ff\ue000\ufffd\U00010000\U0010ffff</a>".encode(codec), "production 2", "units at every edge", text("\ud7ff\ue000\ufffd\U00010000\U0010ffff"))
        s.accept("utf-16-%s-low-byte-is-markup" % order, mark + "<a>\u263c\u3c00\u0a3e</a>".encode(codec), "4.3.3", "characters whose bytes look like markup", text("\u263c\u3c00\u0a3e"))
        for label, unit in (("high", "\ud83d"), ("low", "\udd14"), ("reversed", "\udd14\ud83d"), ("high-twice", "\ud83d\ud83d"),
                            ("high-before-private-use", "\ud83d\ue000")):
            s.reject("utf-16-%s-lone-%s" % (order, label), mark + ("<a>%s</a>" % unit).encode(codec, "surrogatepass"), "4.3.3", "a surrogate alone")
        s.reject("utf-16-%s-odd" % order, mark + "<a/>".encode(codec) + b"\x00", "4.3.3", "half a unit at the end")
        s.reject("utf-16-%s-says-utf-8" % order, mark + "<?xml version='1.0' encoding='UTF-8'?><a/>".encode(codec), "4.3.3", "the declaration names another encoding")
        s.reject("utf-16-%s-says-latin-1" % order, mark + "<?xml version='1.0' encoding='ISO-8859-1'?><a/>".encode(codec), "4.3.3", "the declaration names another encoding")
        s.reject("utf-16-%s-unmarked" % order, "<a/>".encode(codec), "4.3.3", "neither a mark nor a declaration")
        s.reject("utf-16-%s-nul" % order, mark + "<a>\0</a>".encode(codec), "production 2", "U+0000")
        s.reject("utf-16-%s-fffe" % order, mark + "<a>\ufffe</a>".encode(codec), "production 2", "U+FFFE")
        s.open("utf-16-%s-unmarked-declared" % order, "<?xml version='1.0' encoding='UTF-16'?><a/>".encode(codec), "encoding", "4.3.3", "UTF-16 must begin with a mark", trace(E("a")))
        s.open("utf-16-%s-named" % order, ("<?xml version='1.0' encoding='UTF-16%s'?>%s" % ("LE" if order == "little" else "BE", body)).encode(codec), "encoding", "4.3.3", "the byte order by the encoding's name, without a mark", ok)
        wide, wide_mark = ("utf-32-le", b"\xff\xfe\0\0") if order == "little" else ("utf-32-be", b"\0\0\xfe\xff")
        s.open("utf-32-" + order, wide_mark + body.encode(wide), "encoding", "4.3.3", "UTF-32 with its mark", ok)
    s.reject("says-utf-16", "<?xml version='1.0' encoding='UTF-16'?><a/>", "4.3.3", "UTF-16 declared in single bytes")
    s.reject("says-utf-32", "<?xml version='1.0' encoding='UTF-32'?><a/>", "4.3.3", "UTF-32 declared in single bytes")
    for label, encoding, codec, body in (("latin-1", "ISO-8859-1", "latin-1", "\u00e9\u00ff\u00a0\u0085"), ("latin-1-lower", "iso-8859-1", "latin-1", "\u00e9"), ("ascii", "US-ASCII", "ascii", "bell"), ("latin-2", "ISO-8859-2", "iso8859-2", "\u0142\u0159"),
                                         ("latin-9", "ISO-8859-15", "iso8859-15", "\u20ac"), ("cyrillic", "KOI8-R", "koi8-r", "\u043a\u043e\u043b"), ("windows", "windows-1252", "cp1252", "\u20ac\u201c"), ("windows-cyrillic", "windows-1251", "cp1251", "\u0437\u0432\u043e\u043d"),
                                         ("japanese", "Shift_JIS", "shift_jis", "\u9418\u30bd"), ("japanese-euc", "EUC-JP", "euc-jp", "\u9418"), ("chinese", "GB18030", "gb18030", "\u9418\U0001F514"), ("chinese-big5", "Big5", "big5", "\u9418")):
        s.open("declared-" + label, ("<?xml version='1.0' encoding='%s'?><a b='%s'>%s</a>" % (encoding, body, body)).encode(codec), "encoding", "4.3.3", "only UTF-8 and UTF-16 must be read; reading it wrongly alters it",
               trace(E("a", [("b", body)], body)))
    s.reject("ascii-with-a-high-byte", b"<?xml version='1.0' encoding='US-ASCII'?><a>\xe9</a>", "4.3.3", "US-ASCII has no such byte")
    s.reject("latin-1-control", b"<?xml version='1.0' encoding='ISO-8859-1'?><a>\x01</a>", "production 2", "no character of documents, in any encoding")
    s.reject("latin-1-as-utf-8", b"<?xml version='1.0' encoding='UTF-8'?><a>\xe9</a>", "4.3.3", "declared UTF-8, written in ISO-8859-1")
    s.reject("no-declaration-latin-1", b"<a>\xe9</a>", "4.3.3", "no declaration: UTF-8")
    s.reject("nul-padding", b"<a/>\0", "production 27", "a NUL after the root")
    s.reject("nul-padding-long", b"<a/>" + b"\0" * 16, "production 27", "NULs after the root")
    return s


# --- namespaces ---

def namespaces():
    s = Sheet("namespaces-generated", "Declarations, scopes, prefixes, expanded names (Namespaces in XML 1.0, Third Edition).")

    def good(name, document, *value):
        s.accept(name, document, "Namespaces 1.0, 6", name.replace("-", " "), trace(*value))

    u, v = "urn:halm:u", "urn:halm:v"
    good("default", "<a xmlns='%s'/>" % u, E("a", [("xmlns", u)]))
    good("default-inherited", "<a xmlns='%s'><b/></a>" % u, E("a", [("xmlns", u)], E("b")))
    good("default-undeclared", "<a xmlns='%s'><b xmlns=''><c/></b></a>" % u, E("a", [("xmlns", u)], E("b", [("xmlns", "")], E("c"))))
    good("default-changed", "<a xmlns='%s'><b xmlns='%s'/><c/></a>" % (u, v), E("a", [("xmlns", u)], E("b", [("xmlns", v)]), E("c")))
    good("default-not-for-attributes", "<a xmlns='%s' b='1'/>" % u, E("a", [("xmlns", u), ("b", "1")]))
    good("prefix", "<p:a xmlns:p='%s'/>" % u, E("p:a", [("xmlns:p", u)]))
    good("prefix-on-attribute", "<a xmlns:p='%s' p:b='1'/>" % u, E("a", [("xmlns:p", u), ("p:b", "1")]))
    good("prefix-before-its-declaration", "<p:a p:b='1' xmlns:p='%s'/>" % u, E("p:a", [("p:b", "1"), ("xmlns:p", u)]))
    good("prefix-inherited", "<a xmlns:p='%s'><p:b/></a>" % u, E("a", [("xmlns:p", u)], E("p:b")))
    good("prefix-changed", "<p:a xmlns:p='%s'><p:b xmlns:p='%s'/><p:c/></p:a>" % (u, v), E("p:a", [("xmlns:p", u)], E("p:b", [("xmlns:p", v)]), E("p:c")))
    good("two-prefixes-of-one-name", "<p:a xmlns:p='%s' xmlns:q='%s'><q:a/></p:a>" % (u, u), E("p:a", [("xmlns:p", u), ("xmlns:q", u)], E("q:a")))
    good("default-and-prefix-of-one-name", "<a xmlns='%s' xmlns:p='%s' b='1' p:b='2'/>" % (u, u), E("a", [("xmlns", u), ("xmlns:p", u), ("b", "1"), ("p:b", "2")]))
    good("same-local-two-names", "<a xmlns:p='%s' xmlns:q='%s' p:b='1' q:b='2'/>" % (u, v), E("a", [("xmlns:p", u), ("xmlns:q", v), ("p:b", "1"), ("q:b", "2")]))
    good("names-compared-by-letters", "<a xmlns:p='urn:X' xmlns:q='urn:x' p:b='1' q:b='2'/>", E("a", [("xmlns:p", "urn:X"), ("xmlns:q", "urn:x"), ("p:b", "1"), ("q:b", "2")]))
    good("names-not-unescaped", "<a xmlns:p='http://x/%7e' xmlns:q='http://x/~' p:b='1' q:b='2'/>", E("a", [("xmlns:p", "http://x/%7e"), ("xmlns:q", "http://x/~"), ("p:b", "1"), ("q:b", "2")]))
    good("name-by-reference", "<a xmlns='urn:&#104;alm:u'/>", E("a", [("xmlns", u)]))
    good("xml-prefix", "<a xml:b='1'/>", E("a", [("xml:b", "1")]))
    good("xml-element", "<xml:a/>", E("xml:a"))
    good("xml-declared", "<a xmlns:xml='%s' xml:lang='de'/>" % XML_URI, E("a", [("xmlns:xml", XML_URI), ("xml:lang", "de")]))
    good("prefix-begins-with-xml", "<a xmlns:xmlp='%s' xmlp:b='1'/>" % u, E("a", [("xmlns:xmlp", u), ("xmlp:b", "1")]))
    good("prefixes-tell-capitals-apart", "<a xmlns:p='%s' xmlns:P='%s' p:b='1' P:b='2'/>" % (u, v), E("a", [("xmlns:p", u), ("xmlns:P", v), ("p:b", "1"), ("P:b", "2")]))
    good("attribute-named-xmlnsp", "<a xmlnsp='1'/>", E("a", [("xmlnsp", "1")]))
    good("prefix-unused", "<a xmlns:p='%s'/>" % u, E("a", [("xmlns:p", u)]))
    for name, uri in (("spaces", "  urn:x "), ("space-inside", "urn:halm u"), ("braces", "urn:{halm}")):
        s.open("name-with-" + name, "<a xmlns='%s'/>" % uri, "namespace-name", "Namespaces 1.0, 2.1", "a namespace name is a URI reference", trace(E("a", [("xmlns", uri)])))
    good("prefix-with-digits-and-dots", "<p1.x-y:a xmlns:p1.x-y='%s'/>" % u, E("p1.x-y:a", [("xmlns:p1.x-y", u)]))
    good("many-declarations", "<a %s/>" % " ".join("xmlns:p%d='urn:%d'" % (i, i) for i in range(20)), E("a", [("xmlns:p%d" % i, "urn:%d" % i) for i in range(20)]))
    for c in ("\u00e9", "\u0370", "\u9418", "\ufffd", "\U00010000", "\U000effff"):
        good("local-begins-with-%04x" % ord(c), "<a xmlns:p='%s'><p:%sb p:%sc='1'/></a>" % (u, c, c), E("a", [("xmlns:p", u)], E("p:%sb" % c, [("p:%sc" % c, "1")])))
    for c in (".", "\u00b7", "\u0300", "\u036f", "\u203f", "\u2040"):
        s.reject("local-begins-with-%04x" % ord(c), "<a xmlns:p='%s'><p:%sb/></a>" % (u, c), "Namespaces 1.0, 4", "a name character that begins no name")
        s.reject("attribute-local-begins-with-%04x" % ord(c), "<a xmlns:p='%s' p:%sb='1'/>" % (u, c), "Namespaces 1.0, 4", "a name character that begins no name")
    reserved, unique, qname, declared = "NSC Reserved Prefixes and Namespace Names", "NSC Attributes Unique", "4", "NSC Prefix Declared"
    for name, document, clause in (
            ("prefix-undeclared", "<p:a/>", declared), ("prefix-undeclared-on-attribute", "<a p:b='1'/>", declared), ("prefix-out-of-scope", "<a><b xmlns:p='%s'/><p:c/></a>" % u, declared),
            ("prefix-of-sibling-attribute", "<a><b xmlns:p='%s' p:c='1'/><b p:c='1'/></a>" % u, declared), ("prefix-other-case", "<a xmlns:p='%s'><P:b/></a>" % u, declared),
            ("default-declares-no-prefix", "<p:a xmlns='%s'/>" % u, declared), ("prefix-undeclared-inside", "<a><b><p:c/></b></a>", declared), ("prefix-undeclared-on-later-attribute", "<a b='1' c='2' p:d='3'/>", declared),
            ("prefix-unbound", "<a xmlns:p='%s'><b xmlns:p=''/></a>" % u, "NSC No Prefix Undeclaring"), ("prefix-unbound-at-once", "<a xmlns:p=''/>", "NSC No Prefix Undeclaring"),
            ("xml-bound-otherwise", "<a xmlns:xml='%s'/>" % u, reserved), ("xml-unbound", "<a xmlns:xml=''/>", reserved), ("xml-name-bound-to-another", "<a xmlns:p='%s'/>" % XML_URI, reserved), ("xml-name-as-default", "<a xmlns='%s'/>" % XML_URI, reserved),
            ("xmlns-declared", "<a xmlns:xmlns='%s'/>" % u, reserved), ("xmlns-declared-as-itself", "<a xmlns:xmlns='http://www.w3.org/2000/xmlns/'/>", reserved), ("xmlns-name-bound", "<a xmlns:p='http://www.w3.org/2000/xmlns/'/>", reserved),
            ("xmlns-name-as-default", "<a xmlns='http://www.w3.org/2000/xmlns/'/>", reserved), ("xmlns-element", "<xmlns:a/>", reserved),
            ("attribute-twice", "<a xmlns:p='%s' xmlns:q='%s' p:b='1' q:b='2'/>" % (u, u), unique), ("attribute-twice-inherited", "<a xmlns:p='%s'><b xmlns:q='%s' p:c='1' q:c='2'/></a>" % (u, u), unique),
            ("attribute-twice-apart", "<a xmlns:p='%s' xmlns:q='%s' p:b='1' c='2' q:b='3'/>" % (u, u), unique), ("attribute-twice-by-reference", "<a xmlns:p='urn:x' xmlns:q='urn:&#120;' p:b='1' q:b='2'/>", unique),
            ("colon-first", "<:a/>", qname), ("colon-last", "<a:/>", qname), ("colon-alone", "<:/>", qname), ("two-colons", "<p:q:a xmlns:p='%s'/>" % u, qname), ("colons-side-by-side", "<p::a xmlns:p='%s'/>" % u, qname),
            ("local-begins-with-digit", "<p:1 xmlns:p='%s'/>" % u, qname), ("local-begins-with-hyphen", "<p:-a xmlns:p='%s'/>" % u, qname), ("attribute-colon-first", "<a :b='1'/>", qname), ("attribute-colon-last", "<a xmlns:b='%s' b:='1'/>" % u, qname),
            ("attribute-two-colons", "<a xmlns:p='%s' p:b:c='1'/>" % u, qname), ("declaration-without-prefix", "<a xmlns:='%s'/>" % u, qname), ("declaration-two-colons", "<a xmlns:p:q='%s'/>" % u, qname), ("declaration-of-digit", "<a xmlns:1='%s'/>" % u, qname),
            ("target-with-colon", "<a><?p:q?></a>", "7"), ("target-with-colon-before-root", "<?p:q x?><a/>", "7"), ("entity-with-colon", "<!DOCTYPE a [<!ENTITY p:e 'x'>]><a/>", "7"), ("parameter-entity-with-colon", "<!DOCTYPE a [<!ENTITY % p:e 'x'>]><a/>", "7"),
            ("notation-with-colon", "<!DOCTYPE a [<!NOTATION p:n SYSTEM 'x'>]><a/>", "7"), ("attributes-of-two-colons", "<!DOCTYPE a [<!ATTLIST p:q:a b CDATA #IMPLIED>]><a/>", "4"), ("type-two-colons", "<!DOCTYPE p:q:a><a/>", "4"),
            ("model-two-colons", "<!DOCTYPE a [<!ELEMENT a (p:q:b)>]><a/>", "4"), ("mixed-model-two-colons", "<!DOCTYPE a [<!ELEMENT a (#PCDATA|p:q:b)*>]><a/>", "4"),
            ("notation-type-with-colon", "<!DOCTYPE a [<!ATTLIST a b NOTATION (p:n) #IMPLIED>]><a/>", "7"), ("unparsed-notation-with-colon", "<!DOCTYPE a [<!ENTITY e SYSTEM 's' NDATA p:n>]><a/>", "7"),
            ("element-type-two-colons", "<!DOCTYPE a [<!ELEMENT p:q:b ANY>]><a/>", "4"), ("attribute-declared-two-colons", "<!DOCTYPE a [<!ATTLIST a p:q:b CDATA #IMPLIED>]><a/>", "4")):
        s.reject(name, document, "Namespaces 1.0, " + clause, name.replace("-", " "))
    return s


# --- values to be written ---

# Texts that any writer must be able to write, and how a careless one goes wrong with them.
WRITTEN = [
    ("letters", "Stunde"), ("less-than", "a<b"), ("less-than-alone", "<"), ("greater-than", "a>b"), ("ampersand", "a&b"), ("ampersand-alone", "&"),
    ("double-quote", 'a"b'), ("single-quote", "a'b"), ("both-quotes", "a\"b'c"), ("bracket-end", "]]>"), ("bracket-end-inside", "a]]>b"), ("brackets", "]]"),
    ("many-brackets", "]]]]>"), ("looks-like-reference", "&#65;"), ("looks-like-entity", "&amp;"), ("looks-like-own-entity", "&e;"), ("looks-escaped-twice", "&amp;amp;"),
    ("looks-like-parameter-entity", "%e;"), ("looks-like-tag", "<b/>"), ("looks-like-end", "</a>"), ("looks-like-comment", "<!--b-->"),
    ("looks-like-cdata", "<![CDATA[b]]>"), ("looks-like-instruction", "<?b?>"), ("space-first", " a"), ("space-last", "a "), ("two-spaces", "a  b"), ("only-space", " "),
    ("only-spaces", "   "), ("line-end", "a\nb"), ("line-end-first", "\na"), ("line-end-last", "a\n"), ("only-line-end", "\n"), ("tab", "a\tb"), ("only-tab", "\t"),
    ("return", "a\rb"), ("return-alone", "\r"), ("return-line-end", "a\r\nb"), ("line-end-return", "a\n\rb"), ("indented", "\n  a\n  "),
    ("next-line", "a\x85b"), ("line-separator", "a\u2028b"), ("no-break-space", "\xa0a\xa0"), ("delete", "a\x7fb"), ("first-c1", "\x80"), ("last-c1", "\x9f"),
    ("latin", "L\xe4uten"), ("greek", "\u03ba\u03ce\u03b4\u03c9\u03bd"), ("combining", "a\u0308"), ("right-to-left", "\u05e4\u05e2\u05de\u05d5\u05df"), ("before-surrogates", "\ud7ff"),
    ("after-surrogates", "\ue000"), ("byte-order-mark-inside", "a\ufeffb"), ("byte-order-mark-first", "\ufeffa"), ("replacement", "\ufffd"), ("no-character-but-legal", "\ufdd0"),
    ("astral", "\U0001f514"), ("first-astral", "\U00010000"), ("last-character", "\U0010ffff"), ("astral-no-character", "\U0001fffe"),
]
# Numbers inside text are text; so is what some maps hold as a value of another kind.
NUMBERS = [
    ("leading-zeros", "007"), ("many-digits", "12345678901234567890123456789"), ("exponent", "1e400"), ("capital-exponent", "1E5"), ("trailing-zeros", "1.10"), ("plus", "+5"),
    ("minus-zero", "-0"), ("hexadecimal", "0x10"), ("no-number", "NaN"), ("true", "true"), ("null", "null"), ("date", "1721-03-09"), ("beyond-2-53", "9007199254740993"),
    ("many-decimals", "0.1000000000000000055511151231257827"), ("point-first", ".5"), ("point-last", "5."), ("octal", "0o17"), ("underscore", "1_000"), ("thousands", "1,000"),
    ("infinity", "INF"), ("minus-infinity", "-Infinity"), ("huge-exponent", "1e99999"), ("tiny", "5e-324"), ("one-and-zero", "1.0"), ("false", "False"), ("time", "12:30:00"),
]
# Where writers with a buffer cut what they should not.
EDGES = (15, 31, 63, 255, 1023, 4095, 8191, 65535)
NO_CHARACTERS = [0x0, 0x1, 0x8, 0xB, 0xC, 0xE, 0x1B, 0x1F, 0xFFFE, 0xFFFF]


def numbers():
    s = Sheet("numbers-generated", "Numbers, and what else looks like a value of another kind, are text in XML (productions 14 and 10).")
    for name, number in NUMBERS:
        why = name.replace("-", " ")
        s.accept("text-" + name, "<a>%s</a>" % number, "production 14", "in text: " + why, text(number))
        s.accept("value-" + name, "<a b='%s'/>" % number, "production 10", "in a value: " + why, trace(E("a", [("b", number)])))
        s.accept("beside-" + name, "<a c='%s'><b>%s</b><b>%s</b></a>" % (number, number, number), "production 43", "in a record: " + why,
                 trace(E("a", [("c", number)], E("b", (), number), E("b", (), number))))
        s.accept("spaced-" + name, "<a> %s\n</a>" % number, "2.10", "white space around it is kept: " + why, text(" %s\n" % number))
    return s


def values():
    s = Sheet("values-generated", "Values to be written, as traces: what comes out must be well-formed and hold the same (XML 1.0, 2.1).")
    s.questions = [("not-xml", "2.1", ["refused", "dropped", "replaced", "question-mark", "split", "ill-formed"], "shown",
                    "a value that no document holds, given to an encoder"),
                   ("section-end-given", "2.7", ["refused", "split", "dropped", "replaced", "question-mark"], "shown", "a CDATA section given to an encoder, with ]]> in it"),
                   ("namespace-name", "Namespaces 1.0, 2.1", ["refused", "accepted"], "shown", "a namespace name that is no URI reference, given to an encoder"),
                   ("declarations-left-out", "Namespaces 1.0, 5", ["refused", "declared"], "shown", "namespaces that no declaration of the value makes, given to an encoder")]
    u, v = "urn:halm:u", "urn:halm:v"

    clauses = {"text": "2.4", "value": "2.3", "name": "2.3", "comment": "2.5", "instruction": "2.6", "cdata": "2.7", "namespace": "Namespaces 1.0, 6"}

    def good(name, why, *parts):
        s.accept(name, trace(*parts), clauses.get(name.split("-")[0], "2.1"), why, None)

    def within(name, why, scope, *parts):
        """Prefixes that a scope binds and no declaration in the value: the writer has to declare them."""
        s.accept(name, [line for part in parts for line in part.lines({"xml": XML_URI, **scope})], "Namespaces 1.0, 5", why, None)

    def none(name, why, lines, **answers):
        s.add(name, lines, "open", "2.1", why, question="not-xml",
              answers=[(key, '"%s"' % value.replace("\\", "\\\\").replace('"', '\\"')) for key, value in answers.items()] if answers else None)

    good("empty-element", "an element without anything", E("a"))
    good("nested", "elements in elements", E("a", (), E("b", (), E("c")), E("b")))
    good("siblings-of-one-name", "one child more than one", E("a", (), E("b", (), "1"), E("b", (), "2"), E("c"), E("b", (), "3")))
    good("one-child", "a list of one is no list", E("a", (), E("b", (), "1")))
    good("mixed", "text and elements take turns", E("a", (), "x", E("b", (), "y"), "z", E("b"), "w"))
    good("mixed-ends-with-element", "no text after the last element", E("a", (), "x", E("b")))
    good("mixed-space-between", "a space between two elements is text", E("a", (), E("b"), " ", E("b")))
    good("indented-by-hand", "white space as it was given, no more", E("a", (), "\n ", E("b"), "\n"))
    good("attribute-and-child-of-one-name", "an attribute is no child", E("a", [("b", "1")], E("b", (), "2")))
    good("deep", "sixty levels", functools.reduce(lambda inside, _: E("a", (), inside), range(60), E("a")))
    good("wide", "two hundred children", E("a", (), *[E("b", (), str(i)) for i in range(200)]))
    good("many-attributes", "sixty attributes", E("a", [("b%d" % i, str(i)) for i in range(60)]))
    for name, value in WRITTEN + NUMBERS:
        good("text-" + name, "text: " + name.replace("-", " "), E("a", (), value))
        good("value-" + name, "an attribute's value: " + name.replace("-", " "), E("a", [("b", value)]))
    good("value-empty", "an attribute of no characters", E("a", [("b", "")]))
    s.accept("text-in-two-pieces", ["elem u8:61 u8:61 u8:", "text u8:5d5d", "text u8:3e", "end"], "2.1", "']]' and '>' are given apart and come together", None)
    for edge in EDGES:
        for name, value in (("ampersand", "&"), ("astral", "\U0001f514"), ("bracket-end", "]]>"), ("return", "\r")):
            good("text-%s-at-%d" % (name, edge), "at the edge of a writer's buffer", E("a", (), "o" * edge + value + "x"))
    good("value-long", "a long value", E("a", [("b", "o" * 70000 + '"')]))
    for name, element in (("latin", "t\xfcr"), ("greek", "\u03b1"), ("cjk", "\u9418"), ("underscore", "_"), ("dots-and-hyphens", "a.b-c"), ("begins-with-xml", "xmla"), ("long", "a" * 300)):
        good("name-" + name, "a name: " + name.replace("-", " "), E(element, [(element, "1")], E(element)))
    for name, comment in (("plain", "x"), ("empty", ""), ("markup", "<b>&amp;"), ("one-hyphen", "a-b"), ("space", " x "), ("cdata-end", "]]>"), ("line-end", "a\nb")):
        good("comment-" + name, "a comment: " + name.replace("-", " "), E("a", (), C(comment)))
    good("comment-before-root", "a comment before the root", C("x"), E("a"))
    good("comment-after-root", "a comment after the root", E("a"), C("x"))
    good("comment-between-texts", "texts stay apart, or join, round a comment", E("a", (), "x", C("y"), "z"))
    for name, data in (("plain", "x"), ("empty", ""), ("markup", "<b>&amp;"), ("question-mark", "a?b"), ("greater-than", "a>b"), ("quotes", "a='b'")):
        good("instruction-" + name, "an instruction: " + name.replace("-", " "), E("a", (), P("strike", data)))
    good("instruction-before-root", "an instruction before the root", P("strike", "x"), E("a"))
    good("instruction-after-root", "an instruction after the root", E("a"), P("strike", "x"))
    for name, data in (("plain", "x"), ("markup", "<b>&amp;"), ("brackets", "]]"), ("space", " "), ("line-end", "a\nb"), ("astral", "\U0001f514")):
        good("cdata-" + name, "a CDATA section: " + name.replace("-", " "), E("a", (), D(data)))
    good("cdata-beside-text", "character data all the same", E("a", (), "x", D("<"), "y"))
    # Namespaces, declared in the value and left to the writer.
    for name, value in (("default", E("a", [("xmlns", u)], E("b"))), ("prefix", E("p:a", [("xmlns:p", u)], E("p:b"))), ("prefix-on-attribute", E("a", [("xmlns:p", u), ("p:b", "1")])),
                        ("prefix-changed", E("p:a", [("xmlns:p", u)], E("p:b", [("xmlns:p", v)]), E("p:c"))), ("default-undeclared", E("a", [("xmlns", u)], E("b", [("xmlns", "")]))),
                        ("two-of-one-name", E("p:a", [("xmlns:p", u), ("xmlns:q", u)], E("q:b"))), ("inherited-far", E("p:a", [("xmlns:p", u)], E("b", (), E("c", (), E("p:d"))))),
                        ("name-with-ampersand", E("a", [("xmlns", "urn:a&b")])), ("name-with-apostrophe", E("a", [("xmlns", "urn:a'b")])), ("xml-prefix", E("a", [("xml:lang", "de"), ("xml:space", "preserve")])),
                        ("default-and-attribute", E("a", [("xmlns", u), ("b", "1")]))):
        good("namespace-" + name, "a declaration given with the value", value)
    within("undeclared-default", "an element in a namespace, without a prefix", {"": u}, E("a"))
    within("undeclared-default-inherited", "declared once or twice, but declared", {"": u}, E("a", (), E("b")))
    within("undeclared-prefix", "an element in a namespace, with a prefix", {"p": u}, E("p:a"))
    within("undeclared-prefix-inside", "declared where it is used, or before", {"p": u}, E("a", (), E("p:b"), E("p:b")))
    within("undeclared-prefix-on-attribute", "an attribute in a namespace needs a prefix", {"p": u}, E("a", [("p:b", "1")]))
    within("undeclared-two-prefixes", "two namespaces", {"p": u, "q": v}, E("p:a", [("q:b", "1")], E("q:c")))
    s.accept("undeclared-one-prefix-two-names", E("p:a", ()).lines({"p": u})[:-1] + E("p:b", ()).lines({"p": v}) + ["end"], "Namespaces 1.0, 5", "one prefix for two namespaces", None)
    s.open("namespace-name-with-quote", trace(E("a", [("xmlns", "urn:a'b\"c")])), "namespace-name", "Namespaces 1.0, 2.1", "a namespace name is a URI reference")
    # No declaration says these; an encoder need not invent one.
    s.open("undeclared-attributes-of-one-prefix", ["elem u8:61 u8:61 u8:", "attr u8:703a62 u8:62 %s u8:31 given" % u8(u), "attr u8:703a63 u8:63 %s u8:32 given" % u8(v), "end"],
           "declarations-left-out", "Namespaces 1.0, 5", "one prefix for the namespaces of two attributes")
    s.open("undeclared-none-inside-default", E("a", ()).lines({"": u})[:-1] + E("b", ()).lines({}) + ["end"], "declarations-left-out", "Namespaces 1.0, 6.2",
           "a child in no namespace within one that is")
    # What no document can hold.
    for c in NO_CHARACTERS:
        raw = chr(c)
        for where, value, rest in (("text", E("a", (), "x%sy" % raw), "<a>x%sy</a>"), ("value", E("a", [("b", "x%sy" % raw)]), "<a b='x%sy'/>"), ("comment", E("a", (), C("x%sy" % raw)), "<a><!--x%sy--></a>"),
                                   ("cdata", E("a", (), D("x%sy" % raw)), "<a>x%sy</a>")):
            none("no-character-%s-%04x" % (where, c), "no character of documents", trace(value), dropped=rest % "", replaced=rest % "\ufffd", **{"question-mark": rest % "?"})
    for name, field in (("high", "u16:d834"), ("low", "u16:dd14"), ("reversed", "u16:dd14d834"), ("between-letters", "u16:0078d8340079"), ("in-utf-8", "u8:eda0b4")):
        none("surrogate-in-text-" + name, "half a pair is no character", ["elem u8:61 u8:61 u8:", "text " + field, "end"], dropped="<a/>", replaced="<a>\ufffd</a>", **{"question-mark": "<a>?</a>"})
        none("surrogate-in-value-" + name, "half a pair is no character", ["elem u8:61 u8:61 u8:", "attr u8:62 u8:62 u8: %s given" % field, "end"], dropped="<a b=''/>", replaced="<a b='\ufffd'/>")
    for name, field in (("stray-byte", "u8:78ff79"), ("cut", "u8:78c3"), ("overlong", "u8:c080")):
        none("ill-formed-text-" + name, "no UTF-8", ["elem u8:61 u8:61 u8:", "text " + field, "end"])
        none("ill-formed-value-" + name, "no UTF-8", ["elem u8:61 u8:61 u8:", "attr u8:62 u8:62 u8: %s given" % field, "end"])
    for name, comment in (("two-hyphens", "a--b"), ("ends-with-hyphen", "a-"), ("hyphen-alone", "-"), ("end", "-->"), ("three-hyphens", "---")):
        apart = comment.replace("--", "- -").replace("--", "- -")
        none("comment-" + name, "a comment that would end early", trace(E("a", (), C(comment))), split="<a><!--%s--></a>" % (apart + " " * apart.endswith("-")))
    none("instruction-end", "an instruction that would end early", trace(E("a", (), P("strike", "a?>b"))), split="<a><?strike a? >b?></a>")
    none("instruction-space-first", "white space before the data is no data", trace(E("a", (), P("strike", " x"))), dropped="<a><?strike x?></a>")
    for name in ("xml", "XML", "Xml", "", "1", "a b", "p:q"):
        none("target-" + (name.replace(" ", "-").replace(":", "-colon-") or "empty"), "no target", trace(E("a", (), P(name, "x"))))
    for name, data in (("end", "]]>"), ("end-inside", "a]]>b"), ("ends", "]]>]]>")):
        s.add("cdata-" + name, trace(E("a", (), D(data))), "open", "2.7", "a section that would end early: split, or text", question="section-end-given")
    for name, element in (("empty", ""), ("digit-first", "1a"), ("space", "a b"), ("hyphen-first", "-a"), ("greater-than", "a>"), ("less-than", "a<"), ("quote", 'a"'), ("equals", "a=b"), ("slash", "a/"), ("markup", "a b='1'"),
                          ("times", "\xd7"), ("control", "a\x01"), ("colon-first", ":a"), ("colon-last", "a:"), ("two-colons", "a:b:c")):
        none("name-" + name, "no name of an element", ["elem %s %s u8:" % (u8(element), u8(element)), "end"])
        none("attribute-name-" + name, "no name of an attribute", ["elem u8:61 u8:61 u8:", "attr %s %s u8: u8:31 given" % (u8(element), u8(element)), "end"])
    none("attribute-twice", "an element has an attribute once", trace(E("a", [("b", "1"), ("b", "2")])))
    none("attribute-twice-by-namespace", "two attributes with one expanded name", trace(E("a", [("xmlns:p", u), ("xmlns:q", u), ("p:b", "1"), ("q:b", "2")])))
    none("prefix-undeclared", "a prefix in no namespace", ["elem u8:703a61 u8:61 u8:", "end"])
    none("prefix-unbound", "a prefix cannot be undeclared", trace(E("a", [("xmlns:p", "")])))
    none("xml-bound-otherwise", "the prefix xml is bound", trace(E("a", [("xmlns:xml", u)])))
    none("xmlns-declared", "xmlns is no prefix to declare", trace(E("a", [("xmlns:xmlns", u)])))
    none("two-roots", "a document has one root", trace(E("a"), E("b")))
    none("text-before-root", "text is in the root", ["text u8:78"] + trace(E("a")))
    none("text-after-root", "text is in the root", trace(E("a")) + ["text u8:78"])
    none("no-root", "a document has a root", ["comment u8:78"])
    for name, element in (("astral", "\U00010384"), ("new-letter", "\u0132")):
        s.add("name-fifth-edition-" + name, trace(E(element)), "open", "2.3", "a name of the fifth edition only", question="fifth-edition-names")
    return s

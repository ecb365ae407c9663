"""Tables of XML cases: characters, names, markup, prolog, white space."""

import functools  # noqa: F401

from writer import u8  # noqa: F401
from xml_notation import *  # noqa: F401,F403: the notation is made for these tables


def characters():
    s = Sheet("characters-generated", "Characters at every edge and references to them (XML 1.0, productions 2 and 66).")
    for c in LEGAL:
        raw = chr(c)
        s.accept("text-%04x" % c, "<a>%s</a>" % raw, "production 2", "a character of documents, in text", text(raw))
        s.accept("comment-%04x" % c, "<a><!--%s--></a>" % raw, "production 15", "the same in a comment", trace(E("a", (), C(raw))))
        s.accept("reference-hex-%04x" % c, "<a>&#x%X;</a>" % c, "production 66", "referred to in hexadecimal", text(raw))
        s.accept("reference-decimal-%04x" % c, "<a b='&#%d;'/>" % c, "3.3.3", "a reference in a value is the character itself, white space too",
                 trace(E("a", [("b", raw)])))
    s.accept("reference-to-carriage-return", "<a b='&#13;&#10;'>&#xD;&#xA;</a>", "2.11", "references to line ends stay what they name",
             trace(E("a", [("b", "\r\n")], "\r\n")))
    for c in ILLEGAL:
        raw = chr(c)
        s.reject("text-%04x" % c, "<a>%s</a>" % raw, "production 2", "no character of documents")
        s.reject("reference-hex-%04x" % c, "<a>&#x%X;</a>" % c, "WFC Legal Character", "referred to in hexadecimal")
        if c in (0, 1, 8, 0xB, 0xC, 0xE, 0x1F, 0xFFFE, 0xFFFF):
            for where, document in (("value", "<a b='%s'/>"), ("comment", "<a><!--%s--></a>"), ("cdata", "<a><![CDATA[%s]]></a>"),
                                    ("instruction", "<a><?p %s?></a>"), ("between-attributes", "<a%sb=''/>"), ("name", "<a%s/>"),
                                    ("after-root", "<a/>%s"), ("entity-value", "<!DOCTYPE a [<!ENTITY e '%s'>]><a/>"),
                                    ("system-literal", "<!DOCTYPE a SYSTEM '%s'><a/>"), ("subset", "<!DOCTYPE a [%s]><a/>"),
                                    ("end-tag", "<a></a%s>")):
                s.reject("%s-%04x" % (where, c), document % raw, "production 2", "no character of documents: " + where.replace("-", " "))
            s.reject("reference-decimal-%04x" % c, "<a b='&#%d;'/>" % c, "WFC Legal Character", "referred to in a value")
    for c in (0xD800, 0xDBFF, 0xDC00, 0xDFFF, 0x110000, 0xFFFFFF):
        s.reject("reference-%x" % c, "<a>&#x%X;</a>" % c, "WFC Legal Character", "no code point of a character")
        s.reject("reference-decimal-%x" % c, "<a>&#%d;</a>" % c, "WFC Legal Character", "no code point of a character")
    s.reject("reference-pair", "<a>&#55357;&#56596;</a>", "WFC Legal Character", "two halves are no character, even side by side")
    for name, number in (("32-bits", 2**32 + 65), ("64-bits", 2**64 + 65), ("16-bits-over", 2**21 + 65), ("many-digits", 10**40)):
        s.reject("reference-wraps-" + name, "<a>&#%d;</a>" % number, "WFC Legal Character", "a number that wraps round to a letter in so many bits")
        s.reject("reference-hex-wraps-" + name, "<a>&#x%X;</a>" % number, "WFC Legal Character", "the same in hexadecimal")
    for name, spelled, value in (("leading-zeros", "&#00000000000000000000000065;", "A"), ("hex-leading-zeros", "&#x00000000000000000041;", "A"),
                                 ("hex-lower", "&#x1f514;", "\U0001F514"), ("hex-mixed", "&#x1F51a;", "\U0001F51A"), ("side-by-side", "&#65;&#66;", "AB"),
                                 ("ampersand", "&#38;", "&"), ("ampersand-and-name", "&#38;lt;", "&lt;"), ("less-than", "&#60;b>", "<b>"),
                                 ("bracket", "]]&#62;", "]]>"), ("space", "&#32;", " "), ("tab", "&#9;", "\t")):
        s.accept("spelled-" + name, "<a>%s</a>" % spelled, "4.1", "a character reference: " + name.replace("-", " "), text(value))
    for name, spelled in (("no-digits", "&#;"), ("no-hex-digits", "&#x;"), ("capital-x", "&#X41;"), ("no-semicolon", "&#65"), ("space-first", "&# 65;"),
                          ("space-last", "&#65 ;"), ("sign", "&#+65;"), ("minus", "&#-65;"), ("hex-digit-in-decimal", "&#6A;"), ("not-hex", "&#x4G;"),
                          ("point", "&#65.0;"), ("hash-alone", "&#"), ("space-before-hash", "& #65;"), ("two-hashes", "&##65;"), ("underscore", "&#6_5;"),
                          ("full-width-digit", "&#\uff16\uff15;")):
        s.reject("misspelled-" + name, "<a>%s</a>" % spelled, "production 66", "no character reference: " + name.replace("-", " "))
        s.reject("misspelled-in-value-" + name, "<a b='%s'/>" % spelled, "production 66", "the same in a value")
    for name, character in (("lt", "<"), ("gt", ">"), ("amp", "&"), ("apos", "'"), ("quot", '"')):
        s.accept("predefined-" + name, "<a>&%s;</a>" % name, "4.6", "a predefined entity", text(character))
        s.accept("predefined-in-value-" + name, "<a b='&%s;'/>" % name, "4.6", "the same in a value", trace(E("a", [("b", character)])))
        s.reject("predefined-capital-" + name, "<a>&%s;</a>" % name.upper(), "WFC Entity Declared", "names tell capitals apart")
        s.reject("predefined-unended-" + name, "<a>&%s</a>" % name, "production 68", "no semicolon")
        s.reject("predefined-spaced-" + name, "<a>&%s ;</a>" % name, "production 68", "white space before the semicolon")
    for name, body in (("nbsp", "&nbsp;"), ("copy", "&copy;"), ("one-letter", "&a;"), ("colon", "&a:b;"), ("accented", "&\u00e9;")):
        s.reject("undeclared-" + name, "<a>%s</a>" % body, "WFC Entity Declared", "no document type declares it")
    for name, body in (("alone", "&"), ("space", "& x"), ("semicolon", "&;"), ("digit", "&1;"), ("hyphen", "&-a;"), ("twice", "&&amp;"), ("at-end", "x&")):
        s.reject("ampersand-" + name, "<a>%s</a>" % body, "production 68", "an ampersand begins a reference")
        s.reject("ampersand-in-value-" + name, "<a b=\"%s\"/>" % body, "production 68", "an ampersand begins a reference, in values too")
    return s


# --- names ---

START = [(0x3A, 0x3A), (0x41, 0x5A), (0x5F, 0x5F), (0x61, 0x7A), (0xC0, 0xD6), (0xD8, 0xF6), (0xF8, 0x2FF), (0x370, 0x37D), (0x37F, 0x1FFF), (0x200C, 0x200D),
         (0x2070, 0x218F), (0x2C00, 0x2FEF), (0x3001, 0xD7FF), (0xF900, 0xFDCF), (0xFDF0, 0xFFFD), (0x10000, 0xEFFFF)]
MORE = [(0x2D, 0x2D), (0x2E, 0x2E), (0x30, 0x39), (0xB7, 0xB7), (0x300, 0x36F), (0x203F, 0x2040)]
# What editions before the fifth have of the edges below.
FOURTH_START = {0x41, 0x5A, 0x5F, 0x61, 0x7A, 0xC0, 0xD6, 0xD8, 0xF6, 0xF8, 0xD7A3, 0x4E00, 0x9FA5, 0x3B1, 0x5D0, 0x905, 0x3042, 0x30A2, 0xAC00, 0x410}
FOURTH_MORE = {0x20D0, 0x2D, 0x2E, 0x30, 0x39, 0xB7, 0x300, 0x3099, 0x660}


def within(ranges, c):
    return any(first <= c <= last for first, last in ranges)


def names():
    s = Sheet("names-generated", "Names at the edges of every range (XML 1.0, productions 4 and 4a; Namespaces 1.0, 4).")
    edges = sorted({c for first, last in START + MORE for c in (first - 1, first, last, last + 1)} |
                   {0x3B1, 0x410, 0x5D0, 0x660, 0x905, 0x3042, 0x30A2, 0x4E00, 0x9FA5, 0x9FA6, 0xAC00, 0xD7A3, 0x20D0, 0x1F514, 0x20000, 0xF0000, 0x3099})
    for c in edges:
        if 0xD800 <= c <= 0xDFFF or c < 0x20 or chr(c) in " />=<&\"':;":
            continue
        raw, start, more = chr(c), within(START, c), within(START, c) or within(MORE, c)
        for place, name, ok, old in (("first", raw + "a", start, c in FOURTH_START), ("later", "a" + raw, more, c in FOURTH_START | FOURTH_MORE)):
            document, clause = "<%s/>" % name, "production 4" if place == "first" else "production 4a"
            label, why = "%s-%04x" % (place, c), "a name with U+%04X, %s" % (c, place)
            if not ok:
                s.reject(label, document, clause, why)
            elif old:
                s.accept(label, document, clause, why, trace(E(name)))
            else:
                s.open(label, document, "fifth-edition-names", clause, why, trace(E(name)))
    for label, name in (("long", "b" * 300), ("dots", "a.b-c_d"), ("low-line", "_"), ("low-line-digits", "_1"), ("xml-inside", "axml"), ("xml-later", "XMLbell"),
                        ("case", "aA")):
        s.accept("element-" + label, "<%s></%s>" % (name, name), "production 5", "a name: " + label, trace(E(name)))
    s.accept("two-cases-of-attributes", "<a b='1' B='2'/>", "production 41", "names tell capitals apart", trace(E("a", [("b", "1"), ("B", "2")])))
    s.accept("composed-and-not", "<a \u00e9='1' e\u0301='2'/>", "2.3", "names that look alike stay two", trace(E("a", [("\u00e9", "1"), ("e\u0301", "2")])))
    for place, pattern, clause in (("attribute", "<a %sb='1'/>", "production 41"), ("target", "<a><?%sb c?></a>", "production 17"),
                                   ("entity", "<!DOCTYPE a [<!ENTITY %sb 'x'>]><a/>", "production 71"), ("element-type", "<!DOCTYPE a [<!ELEMENT %sb ANY>]><a/>", "production 45"),
                                   ("notation", "<!DOCTYPE a [<!NOTATION %sb SYSTEM 'x'>]><a/>", "production 82"), ("root", "<!DOCTYPE %sb><a/>", "production 28"),
                                   ("reference", "<a>&%sb;</a>", "production 68")):
        for label, raw in (("digit", "1"), ("hyphen", "-"), ("point", "."), ("middle-dot", "\u00b7"), ("combining", "\u0300"), ("times", "\u00d7")):
            s.reject("%s-begins-with-%s" % (place, label), pattern % raw, clause, "no name begins with a " + label.replace("-", " "))
    for label, raw in (("slash", "/"), ("plus", "+"), ("dollar", "$"), ("at", "@"), ("brace", "{"), ("backslash", "\\"), ("bar", "|"), ("tilde", "~"), ("comma", ",")):
        s.reject("element-with-" + label, "<a%sb></a%sb>" % (raw, raw), "production 4a", "no name has a " + label)
    return s


# --- markup ---

# Documents whose signs all carry the grammar: none can give way to another. A '<' in content could: it would be text.
SIGNS = [("declaration", "production 23", "<?xml version='1.0' encoding='UTF-8' standalone='no'?><a/>", 0),
         ("type", "production 28", "<!DOCTYPE a SYSTEM 's' [<!ELEMENT a (b,(c|d)*,e?)><!ATTLIST a b CDATA #IMPLIED c (x|y) 'x'><!ENTITY e 'v'>"
                                   "<!ENTITY % p ' '><!NOTATION n PUBLIC 'i'>%p; ]><a/>", 0),
         ("content", "production 43", "<a b='c' d=\"e\"><f/>&lt;&#65;&#x41;<!--g--><?h i?><![CDATA[j]]></a>", 1),
         ("names", "Namespaces 1.0, 4", "<a xmlns:a='u' a:b='1'><a:b/></a>", 1)]


def signs(s):
    for label, clause, document, content in SIGNS:
        for at, sign in enumerate(document):
            text_instead = content and (sign == "&" or (sign == "<" and at > 0 and document[at + 1] not in "/["))
            if sign.isalnum() or sign in " !" or text_instead:
                continue
            s.reject("sign-of-%s-%d" % (label, at), document[:at] + "!" + document[at + 1:], clause, "another sign where the grammar has its own")


def markup():
    s = Sheet("markup-generated", "Tags, attributes, comments, instructions, CDATA sections (XML 1.0, 2.4 to 3.1).")
    for name, document, value in (
            ("empty", "<a></a>", trace(E("a"))), ("empty-spaced", "<a />", trace(E("a"))), ("end-spaced", "<a></a  >", trace(E("a"))),
            ("end-new-line", "<a></a\n>", trace(E("a"))), ("start-new-line", "<a\n></a>", trace(E("a"))), ("nested", "<a><b><c/></b></a>", trace(E("a", (), E("b", (), E("c"))))),
            ("siblings", "<a><b/><b/></a>", trace(E("a", (), E("b"), E("b")))), ("mixed", "<a>x<b>y</b>z</a>", trace(E("a", (), "x", E("b", (), "y"), "z"))),
            ("same-inside", "<a><a/></a>", trace(E("a", (), E("a")))), ("greater-than", "<a>x>y</a>", text("x>y")), ("quotes", "<a>\"'</a>", text("\"'")),
            ("brackets", "<a>]] ]></a>", text("]] ]>")), ("double-quoted", '<a b="c"/>', trace(E("a", [("b", "c")]))), ("single-quoted", "<a b='c'/>", trace(E("a", [("b", "c")]))),
            ("other-quote-inside", "<a b='\"' c=\"'\"/>", trace(E("a", [("b", '"'), ("c", "'")]))), ("empty-value", "<a b=''/>", trace(E("a", [("b", "")]))),
            ("spaces-round-equals", "<a b = \t\n'c'/>", trace(E("a", [("b", "c")]))), ("greater-than-in-value", "<a b='>'/>", trace(E("a", [("b", ">")]))),
            ("cdata-end-in-value", "<a b=']]>'/>", trace(E("a", [("b", "]]>")]))), ("slash-in-value", "<a b='/'/>", trace(E("a", [("b", "/")]))),
            ("many-attributes", "<a b='1' c='2' d='3'/>", trace(E("a", [("b", "1"), ("c", "2"), ("d", "3")]))), ("attributes-on-end", "<a b='1'></a>", trace(E("a", [("b", "1")]))),
            ("comment", "<a><!-- c --></a>", trace(E("a", (), C(" c ")))), ("comment-empty", "<a><!----></a>", trace(E("a", (), C("")))),
            ("comment-one-hyphen", "<a><!-- a-b --></a>", trace(E("a", (), C(" a-b ")))), ("comment-hyphen-first", "<a><!---a--></a>", trace(E("a", (), C("-a")))),
            ("comment-markup", "<a><!--<b>&c;]]>--></a>", trace(E("a", (), C("<b>&c;]]>")))), ("comment-before", "<!--x--><a/>", trace(C("x"), E("a"))),
            ("comment-after", "<a/><!--x-->", trace(E("a"), C("x"))), ("comment-splits-text", "<a>x<!--y-->z</a>", trace(E("a", (), "x", C("y"), "z"))),
            ("comment-lines", "<a><!--x\r\ny\rz--></a>", trace(E("a", (), C("x\ny\nz")))), ("comment-with-declaration", "<a><!--<?xml?>--></a>", trace(E("a", (), C("<?xml?>")))),
            ("instruction", "<a><?p d?></a>", trace(E("a", (), P("p", "d")))), ("instruction-without-data", "<a><?p?></a>", trace(E("a", (), P("p")))),
            ("instruction-space-only", "<a><?p  ?></a>", trace(E("a", (), P("p")))), ("instruction-leading-space", "<a><?p  d ?></a>", trace(E("a", (), P("p", "d ")))),
            ("instruction-markup", "<a><?p <b>&c;--]]>?></a>", trace(E("a", (), P("p", "<b>&c;--]]>")))), ("instruction-question-marks", "<a><?p ??></a>", trace(E("a", (), P("p", "?")))),
            ("instruction-greater-than", "<a><?p > ?></a>", trace(E("a", (), P("p", "> ")))), ("instruction-before", "<?p?><a/>", trace(P("p"), E("a"))),
            ("instruction-after", "<a/><?p?>", trace(E("a"), P("p"))), ("instruction-xml-longer", "<a><?xml-stylesheet x?></a>", trace(E("a", (), P("xml-stylesheet", "x")))),
            ("instruction-xm", "<a><?xm x?></a>", trace(E("a", (), P("xm", "x")))), ("instruction-xmk", "<a><?xmk x?></a>", trace(E("a", (), P("xmk", "x")))),
            ("instruction-yml", "<?yml x?><a/>", trace(P("yml", "x"), E("a"))), ("instruction-php", "<a><?php x?></a>", trace(E("a", (), P("php", "x")))),
            ("instruction-xmlx", "<a><?xmlx?></a>", trace(E("a", (), P("xmlx")))), ("instruction-lines", "<a><?p x\r\ny\rz?></a>", trace(E("a", (), P("p", "x\ny\nz")))),
            ("cdata", "<a><![CDATA[x]]></a>", trace(E("a", (), D("x")))), ("cdata-empty", "<a><![CDATA[]]></a>", trace(E("a", (), D("")))),
            ("cdata-markup", "<a><![CDATA[<b>&amp;<!--]]></a>", trace(E("a", (), D("<b>&amp;<!--")))), ("cdata-brackets", "<a><![CDATA[]]]]></a>", trace(E("a", (), D("]]")))),
            ("cdata-opens-again", "<a><![CDATA[<![CDATA[]]></a>", trace(E("a", (), D("<![CDATA[")))), ("cdata-greater-than", "<a><![CDATA[]>]]></a>", trace(E("a", (), D("]>")))),
            ("cdata-twice", "<a><![CDATA[x]]><![CDATA[y]]></a>", trace(E("a", (), D("x"), D("y")))), ("cdata-end-split", "<a><![CDATA[]]]]><![CDATA[>]]></a>", trace(E("a", (), D("]]"), D(">")))),
            ("cdata-lines", "<a><![CDATA[x\r\ny\rz]]></a>", trace(E("a", (), D("x\ny\nz")))), ("cdata-white-space", "<a><![CDATA[ \t]]></a>", trace(E("a", (), D(" \t")))),
            ("xml-space", "<a xml:space='preserve'> </a>", trace(E("a", [("xml:space", "preserve")], " "))), 
            ("xml-lang", "<a xml:lang='de'/>", trace(E("a", [("xml:lang", "de")]))), ("xml-lang-empty", "<a xml:lang=''/>", trace(E("a", [("xml:lang", "")]))),
            ("attribute-named-xml", "<a xmlish='1'/>", trace(E("a", [("xmlish", "1")]))), ("numbers-are-text", "<a b='007'>1.50e2</a>", trace(E("a", [("b", "007")], "1.50e2"))),
            ("long-digits", "<a>%s</a>" % ("9" * 40), text("9" * 40))):
        s.accept(name, document, "3.1", name.replace("-", " "), value)
    for name, document, clause in (
            ("nothing", " ", "production 1"), ("text-only", "x", "production 1"), ("comment-only", "<!--x-->", "production 1"), ("instruction-only", "<?p?>", "production 1"),
            ("text-before", "x<a/>", "production 1"), ("reference-before", "&#32;<a/>", "production 1"), ("cdata-before", "<![CDATA[]]><a/>", "production 15"),
            ("text-behind", "<a/>x", "production 27"), ("reference-behind", "<a/>&#32;", "production 27"), ("cdata-behind", "<a/><![CDATA[]]>", "production 15"),
            ("two-roots", "<a/><a/>", "production 27"), ("two-roots-spaced", "<a></a>\n<b></b>", "production 27"), ("end-tag-first", "</a>", "production 40"),
            ("end-tag-twice", "<a></a></a>", "production 27"), ("never-ended", "<a>", "production 39"), ("never-ended-inside", "<a><b></a>", "WFC Element Type Match"),
            ("crossed", "<a><b></a></b>", "WFC Element Type Match"), ("end-other-case", "<a></A>", "WFC Element Type Match"), ("end-longer", "<a></ab>", "WFC Element Type Match"),
            ("end-shorter", "<ab></a>", "WFC Element Type Match"), ("end-with-attribute", "<a></a b='c'>", "production 42"), ("end-with-slash", "<a></a/>", "production 42"),
            ("end-spaced-before", "<a></ a>", "production 42"), ("start-spaced-before", "< a></a>", "production 40"), ("slash-spaced", "<a / >", "production 44"),
            ("empty-tag-ends-otherwise", "<a><b/!</a>", "production 44"), ("empty-tag-ends-with-slash", "<a><b//</a>", "production 44"),
            ("end-tag-ends-otherwise", "<a><b></b!</a>", "production 42"), ("end-tag-ends-with-slash", "<a><b></b/</a>", "production 42"),
            ("end-tag-ends-with-quote", "<a><b></b'</a>", "production 42"), ("equals-otherwise", "<a b+'c'/>", "production 25"),
            ("equals-a-semicolon", "<a b ; 'c'/>", "production 25"), ("equals-a-quote", "<a b''c'/>", "production 25"),
            ("slash-twice", "<a//>", "production 44"), ("slash-first", "</a/>", "production 40"), ("empty-tag", "<></>", "production 40"), ("less-than-in-text", "<a>x < y</a>", "production 40"),
            ("less-than-alone", "<a><</a>", "production 40"), ("less-than-at-end", "<a/><", "production 27"), ("cdata-end-in-text", "<a>x]]>y</a>", "production 14"),
            ("cdata-end-alone", "<a>]]></a>", "production 14"), ("cdata-end-three", "<a>]]]></a>", "production 14"), ("no-equals", "<a b 'c'/>", "production 25"),
            ("no-value", "<a b/>", "production 41"), ("no-value-equals", "<a b=/>", "production 10"), ("no-quotes", "<a b=c/>", "production 10"), ("no-quotes-number", "<a b=1></a>", "production 10"),
            ("no-name", "<a ='c'/>", "production 41"), ("quotes-differ", "<a b='c\"/>", "production 10"), ("quote-open", "<a b='c/>", "production 10"), ("backquote", "<a b=`c`/>", "production 10"),
            ("no-space-between", "<a b='c'd='e'/>", "production 40"), ("no-space-before", "<a'b'='c'/>", "production 40"), ("comma-between", "<a b='c',d='e'/>", "production 40"),
            ("equals-twice", "<a b=='c'/>", "production 10"), ("value-twice", "<a b='c''d'/>", "production 40"), ("less-than-in-value", "<a b='<'/>", "WFC No < in Attribute Values"),
            ("less-than-later-in-value", "<a b='x<y'/>", "WFC No < in Attribute Values"), ("attribute-twice", "<a b='1' b='1'/>", "WFC Unique Att Spec"),
            ("attribute-twice-apart", "<a b='1' c='2' b='3'/>", "WFC Unique Att Spec"), ("attribute-twice-empty", "<a b='' c='' b=''></a>", "WFC Unique Att Spec"),
            ("xml-lang-twice", "<a xml:lang='x' xml:lang='y'/>", "WFC Unique Att Spec"), ("comment-three-hyphens", "<a><!-- x ---></a>", "production 15"),
            ("comment-two-hyphens", "<a><!-- x -- y --></a>", "production 15"), ("comment-short", "<a><!--></a>", "production 15"), ("comment-shorter", "<a><!---></a>", "production 15"),
            ("comment-one-hyphen-open", "<a><!- x --></a>", "production 15"), ("comment-spaced-open", "<a><! -- x --></a>", "production 15"), ("comment-spaced-end", "<a><!-- x -- ></a>", "production 15"),
            ("comment-open", "<a><!-- x </a>", "production 15"), ("comment-nested", "<a><!-- <!-- x --> --></a>", "production 15"), ("comment-in-tag", "<a <!--x--> b='c'/>", "production 41"),
            ("comment-open-at-end", "<a/><!--", "production 15"), ("instruction-open", "<a><?p x</a>", "production 16"), ("instruction-no-target", "<a><??></a>", "production 17"),
            ("instruction-spaced-target", "<a><? p?></a>", "production 17"), ("instruction-digit-target", "<a><?1?></a>", "production 17"), ("instruction-ends-short", "<a><?p x></a>", "production 16"),
            ("instruction-no-space", "<a><?p+x?></a>", "production 16"), ("instruction-in-tag", "<a <?p?> b='c'/>", "production 41"), ("target-xml", "<a><?xml x?></a>", "production 17"),
            ("target-xml-capitals", "<a><?XML x?></a>", "production 17"), ("target-xml-mixed", "<?Xml version='1.0'?><a/>", "production 17"), ("target-xml-late", "<a/><?xml version='1.0'?>", "production 17"),
            ("target-xml-after-comment", "<!----><?xml version='1.0'?><a/>", "production 17"), ("target-xml-after-line", "\n<?xml version='1.0'?><a/>", "production 17"),
            ("cdata-lower", "<a><![cdata[x]]></a>", "production 19"), ("cdata-spaced", "<a><! [CDATA[x]]></a>", "production 15"), ("cdata-spaced-inside", "<a><![CDATA [x]]></a>", "production 19"),
            ("cdata-open", "<a><![CDATA[x</a>", "production 20"), ("cdata-spaced-end", "<a><![CDATA[x]] ></a>", "production 20"), ("cdata-short", "<a><![CDAT[x]]></a>", "production 19"),
            ("cdata-end-split-over-lines", "<a><![CDATA[x]\n]></a>", "production 20"), ("exclamation", "<a><!x></a>", "production 43"), ("doctype-inside", "<a><!DOCTYPE a></a>", "production 43"),
            ("doctype-late", "<a/><!DOCTYPE a>", "production 27"), ("doctype-twice", "<!DOCTYPE a><!DOCTYPE a><a/>", "production 22"), ("conditional-inside", "<a><![INCLUDE[x]]></a>", "production 19"),
            ("nested-tag", "<a <b/>></a>", "production 41"), ("quote-in-tag", "<a \"b\"/>", "production 41")):
        s.reject(name, document, clause, name.replace("-", " "))
    s.open("xml-space-odd", "<a xml:space='odd'/>", "xml-space", "2.10", "an error that may be reported", trace(E("a", [("xml:space", "odd")])))
    s.open("system-identifier-with-fragment", "<!DOCTYPE a [<!NOTATION n SYSTEM 'x#y'>]><a/>", "system-identifier-fragment", "4.2.2", "an error that may be reported",
           trace(T("a"), E("a")))
    whole = "<?xml version='1.0'?><!DOCTYPE a [<!ELEMENT a ANY><!ATTLIST a b (c|d) #REQUIRED>]><a b='c'><!--x--><?p y?><![CDATA[z]]>&lt;<e/></a>"
    for at in range(1, len(whole), 2):
        s.reject("cut-at-%d" % at, whole[:at], "production 1", "the document breaks off")
    signs(s)
    return s


# --- the declaration and what may occur before the root ---

def prolog():
    s = Sheet("prolog-generated", "The XML declaration in every order and spelling, and what surrounds the root (XML 1.0, 2.8).")
    ok = trace(E("a"))
    for name, declaration in (
            ("version", "<?xml version='1.0'?>"), ("double-quotes", '<?xml version="1.0"?>'), ("encoding", "<?xml version='1.0' encoding='UTF-8'?>"),
            ("encoding-lower", "<?xml version='1.0' encoding='utf-8'?>"), ("standalone-yes", "<?xml version='1.0' standalone='yes'?>"), ("standalone-no", "<?xml version='1.0' standalone='no'?>"),
            ("all", "<?xml version='1.0' encoding='UTF-8' standalone='yes'?>"), ("space-at-end", "<?xml version='1.0' ?>"), ("space-round-equals", "<?xml version = '1.0'?>"),
            ("lines", "<?xml\nversion\r\n=\t'1.0'\n\n?>"), ("many-spaces", "<?xml   version='1.0'   encoding='UTF-8'   ?>")):
        s.accept(name, declaration + "<a/>", "production 23", "a declaration: " + name.replace("-", " "), ok)
    for name, version in (("1-1", "1.1"), ("1-2", "1.2"), ("1-10", "1.10"), ("1-00", "1.00"), ("1-01", "1.01"), ("1-9999999999", "1.9999999999")):
        s.open("version-" + name, "<?xml version='%s'?><a/>" % version, "version-number", "2.8", "a version 1.x is processed as 1.0 since the fifth edition", ok)
    for name, declaration in (
            ("no-version", "<?xml encoding='UTF-8'?>"), ("nothing", "<?xml?>"), ("space-only", "<?xml ?>"), ("standalone-only", "<?xml standalone='yes'?>"),
            ("encoding-first", "<?xml encoding='UTF-8' version='1.0'?>"), ("standalone-before-encoding", "<?xml version='1.0' standalone='yes' encoding='UTF-8'?>"),
            ("version-twice", "<?xml version='1.0' version='1.0'?>"), ("encoding-twice", "<?xml version='1.0' encoding='UTF-8' encoding='UTF-8'?>"),
            ("version-2", "<?xml version='2.0'?>"), ("version-0", "<?xml version='0.9'?>"), ("version-1", "<?xml version='1'?>"), ("version-point", "<?xml version='1.'?>"),
            ("version-empty", "<?xml version=''?>"), ("version-letters", "<?xml version='1.0a'?>"), ("version-spaced", "<?xml version=' 1.0'?>"), ("version-comma", "<?xml version='1,0'?>"),
            ("version-long", "<?xml version='1.0.0'?>"), ("version-capital", "<?xml Version='1.0'?>"), ("version-bare", "<?xml version=1.0?>"), ("version-quotes-differ", "<?xml version='1.0\"?>"),
            ("no-equals", "<?xml version '1.0'?>"), ("no-space", "<?xmlversion='1.0'?>"), ("no-space-between", "<?xml version='1.0'encoding='UTF-8'?>"),
            ("no-space-before-standalone", "<?xml version='1.0'standalone='yes'?>"), ("comma", "<?xml version='1.0', encoding='UTF-8'?>"), ("unknown", "<?xml version='1.0' bell='x'?>"),
            ("ends-short", "<?xml version='1.0'>"), ("ends-spaced", "<?xml version='1.0'? >"), ("ends-wrong", "<?xml version='1.0'!>"), ("standalone-capital", "<?xml version='1.0' standalone='YES'?>"),
            ("standalone-true", "<?xml version='1.0' standalone='true'?>"), ("standalone-empty", "<?xml version='1.0' standalone=''?>"), ("standalone-longer", "<?xml version='1.0' standalone='yess'?>"),
            ("encoding-empty", "<?xml version='1.0' encoding=''?>"), ("encoding-digit-first", "<?xml version='1.0' encoding='8859-1'?>"), ("encoding-spaced", "<?xml version='1.0' encoding='UTF 8'?>"),
            ("encoding-space-first", "<?xml version='1.0' encoding=' UTF-8'?>"), ("encoding-colon", "<?xml version='1.0' encoding='UTF:8'?>"), ("encoding-bare", "<?xml version='1.0' encoding=UTF-8?>"),
            ("capital-target", "<?XML version='1.0'?>"), ("twice", "<?xml version='1.0'?><?xml version='1.0'?>"), ("space-before-target", "<? xml version='1.0'?>"),
            ("reference-in-version", "<?xml version='1.&#48;'?>"), ("comment-inside", "<?xml version='1.0' <!--x--> ?>")):
        s.reject("declaration-" + name, declaration + "<a/>", "production 23", "no declaration: " + name.replace("-", " "))
    for name, before in (("space", " "), ("line", "\n"), ("comment", "<!--x-->"), ("instruction", "<?p?>"), ("text", "x"), ("carriage-return", "\r")):
        s.reject("declaration-after-" + name, before + "<?xml version='1.0'?><a/>", "production 22", "nothing precedes a declaration")
    for name, space in (("space", " "), ("tab", "\t"), ("line-feed", "\n"), ("carriage-return", "\r"), ("all", " \t\r\n")):
        s.accept("space-before-" + name, space + "<a/>", "production 27", "white space before the root", ok)
        s.accept("space-after-" + name, "<a/>" + space, "production 27", "white space after the root", ok)
    for name, space in (("form-feed", "\x0c"), ("next-line", "\x85"), ("no-break-space", "\xa0"), ("line-separator", "\u2028"), ("zero-width-space", "\u200b"),
                        ("byte-order-mark-twice", "\ufeff\ufeff"), ("ideographic-space", "\u3000")):
        s.reject("no-space-before-" + name, space + "<a/>", "production 3", "no white space of XML")
        s.reject("no-space-after-" + name, "<a/>" + space, "production 3", "no white space of XML")
        s.reject("no-space-in-tag-" + name, "<a%sb='c'/>" % (space if space != "\ufeff\ufeff" else "\ufeff"), "production 3", "no white space of XML, in a tag")
    s.accept("everything-round-the-root", "<?xml version='1.0'?>\n<!--1--><?p 2?>\n<!DOCTYPE a>\n<!--3--><a/>\n<?p 4?><!--5-->\n", "production 22", "comments and instructions everywhere",
             trace(C("1"), P("p", "2"), T("a"), C("3"), E("a"), P("p", "4"), C("5")))
    return s


# --- white space, line ends, values ---

def white_space():
    s = Sheet("white-space-generated", "White space, line ends and the normalisation of values (XML 1.0, 2.10, 2.11, 3.3.3).")
    for name, raw, held in (("lf", "\n", "\n"), ("cr", "\r", "\n"), ("crlf", "\r\n", "\n"), ("cr-cr", "\r\r", "\n\n"), ("lf-cr", "\n\r", "\n\n"), ("crlf-crlf", "\r\n\r\n", "\n\n"),
                            ("cr-crlf", "\r\r\n", "\n\n"), ("crlf-cr", "\r\n\r", "\n\n"), ("crlf-lf", "\r\n\n", "\n\n"), ("space", " ", " "), ("tab", "\t", "\t"), ("spaces", "   ", "   "),
                            ("mixed", " \t\r\n ", " \t\n "), ("next-line", "\x85", "\x85"), ("line-separator", "\u2028", "\u2028"), ("no-break-space", "\xa0", "\xa0")):
        s.accept("alone-" + name, "<a>%s</a>" % raw, "2.11", "in text alone: " + name, text(held))
        s.accept("between-" + name, "<a>x%sy</a>" % raw, "2.11", "between letters: " + name, text("x" + held + "y"))
        s.accept("round-child-" + name, "<a>%s<b/>%s</a>" % (raw, raw), "2.10", "round a child: all white space is delivered", trace(E("a", (), held, E("b"), held)))
        value = held.replace("\n", " ").replace("\t", " ")
        s.accept("value-" + name, "<a b='x%sy'/>" % raw, "3.3.3", "in a value: %s" % name, trace(E("a", [("b", "x" + value + "y")])))
        s.accept("value-edges-" + name, "<a b='%sx%s'/>" % (raw, raw), "3.3.3", "at the edges of a value of type CDATA", trace(E("a", [("b", value + "x" + value)])))
    for name, raw, held in (("lf", "&#10;", "\n"), ("cr", "&#13;", "\r"), ("tab", "&#9;", "\t"), ("space", "&#32;", " "), ("crlf", "&#13;&#10;", "\r\n"), ("cr-then-raw-lf", "&#13;\n", "\r\n")):
        s.accept("referred-" + name, "<a>%s</a>" % raw, "2.11", "references are no line ends to normalise", text(held))
        s.accept("referred-in-value-" + name, "<a b='x%sy'/>" % raw, "3.3.3", "a reference's character is appended as it is", trace(E("a", [("b", "x" + held.replace("\r\n", "\r ") + "y" if "raw" in name else "x" + held + "y")])))
        s.accept("referred-by-entity-" + name, "<!DOCTYPE a [<!ENTITY e '%s'>]><a>&e;</a>" % raw, "2.11", "an entity's text is not normalised again", trace(T("a"), E("a", (), held)))
        s.accept("entity-in-value-" + name, "<!DOCTYPE a [<!ENTITY e '%s'>]><a b='x&e;y'/>" % raw, "3.3.3", "white space of an entity's text becomes a space each",
                 trace(T("a"), E("a", [("b", "x" + "".join(" " if c in "\r\n\t " else c for c in held) + "y")])))
    for kind in ("ID", "IDREF", "IDREFS", "ENTITY", "ENTITIES", "NMTOKEN", "NMTOKENS", "(x|y)", "NOTATION (x|y)"):
        label = kind.split()[0].strip("()").replace("x|y", "enumeration").lower()
        doctype = "<!DOCTYPE a [<!ATTLIST a b %s #IMPLIED>]>" % kind
        s.accept("tokens-" + label, doctype + "<a b='  x \t y\n'/>", "3.3.3", "a value of type %s loses leading, trailing and double spaces" % kind, trace(T("a"), E("a", [("b", "x y")])))
        s.accept("tokens-empty-" + label, doctype + "<a b='  '/>", "3.3.3", "only spaces is no document", trace(T("a"), E("a", [("b", "")])))
        s.accept("tokens-referred-" + label, doctype + "<a b=' x&#32;&#32;y&#10;'/>", "3.3.3", "spaces by reference are dropped, a line end by reference is kept", trace(T("a"), E("a", [("b", "x y\n")])))
    s.accept("tokens-cdata", "<!DOCTYPE a [<!ATTLIST a b CDATA #IMPLIED>]><a b='  x  y '/>", "3.3.3", "type CDATA keeps its spaces", trace(T("a"), E("a", [("b", "  x  y ")])))
    s.accept("tokens-undeclared", "<!DOCTYPE a [<!ATTLIST a c ID #IMPLIED>]><a b='  x '/>", "3.3.3", "an undeclared attribute is of type CDATA", trace(T("a"), E("a", [("b", "  x ")])))
    s.accept("tokens-of-another-element", "<!DOCTYPE a [<!ATTLIST c b ID #IMPLIED>]><a b='  x '/>", "3.3", "a declaration holds for its element", trace(T("a"), E("a", [("b", "  x ")])))
    return s


# --- entities ---

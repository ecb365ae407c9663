"""Table of cases for XML whose files are outside the document: what is right depends on who reads them (4.1, 5.1)."""

from xml_notation import C, D, E, P, R, Sheet, T, trace

REFUSED = None
NOT_ASKED = object()  # what is held of a reference inside a value is not laid down where nobody read the entity


def external():
    s = Sheet("external", "Files outside the document, read and not read (XML 1.0, 4.1, 4.3 and 5.1). The files are those of the folder external/.")

    def both(name, kind, document, content, clause, why, read, not_read):
        """read, not_read: the element held, or REFUSED or NOT_ASKED."""
        file = s.file(name + kind, content)
        for reads, value in (("external", read), ("none", not_read)):
            if value is NOT_ASKED:
                continue
            stance = "reject" if value is REFUSED else "accept"
            s.add("%s-%s" % (name, "read" if reads == "external" else "not-read"), document, stance, clause, why,
                  trace(T("a"), value) if value is not REFUSED else None, outside=(file, reads))

    def entity(name, content, clause, why, *read, attributes=(), subset=""):
        document = '<!DOCTYPE a [%s<!ENTITY e SYSTEM "{external_file}">]><a%s>&e;</a>' % (subset, "".join(' %s="%s"' % a for a in attributes))
        value = REFUSED if read == (REFUSED,) else E("a", attributes, *read)
        both(name, ".ent", document, content, clause, why, value, E("a", attributes, R("e")))

    entity("text", "struck", "4.4.3", "a file's text replaces the reference", "struck")
    entity("empty", "", "4.3.2", "an empty file is an entity")
    entity("markup", "<b>x</b>y", "4.3.2", "elements and text", E("b", (), "x"), "y")
    entity("mark", b"\xef\xbb\xbfx", "4.3.3", "a byte order mark is no part of the text", "x")
    entity("declared", '<?xml version="1.0" encoding="UTF-8"?>x', "production 77", "a text declaration is no part of the text", "x")
    entity("declared-without-version", '<?xml encoding="UTF-8" ?>x', "production 77", "its version may be left out", "x")
    entity("utf-16-little", "<?xml version='1.0' encoding='UTF-16'?>Glocke \u266a".encode("utf-16"), "4.3.3", "each entity has an encoding of its own", "Glocke \u266a")
    entity("utf-16-big", b"\xfe\xff" + "Glocke \u266a".encode("utf-16-be"), "4.3.3", "the byte order mark gives the byte order", "Glocke \u266a")
    entity("latin-1", "<?xml version='1.0' encoding='ISO-8859-1'?>l\u00e4utet".encode("latin-1"), "4.3.3", "an encoding that the text declaration names", "l\u00e4utet")
    entity("latin-1-without-version", "<?xml encoding='ISO-8859-1'?>l\u00e4utet".encode("latin-1"), "4.3.3", "the same, its version left out", "l\u00e4utet")
    entity("line-ends", "x\r\ny\rz\n", "2.11", "line ends are LF in every entity", "x\ny\nz\n")
    entity("references", "&#65;&lt;&amp;&#x1F514;", "4.1", "references are expanded in a file too", "A<&\U0001f514")
    entity("section", "<![CDATA[<&]]>", "2.7", "a section in a file", D("<&"))
    entity("comment", "<!--x--><?p y?>", "4.3.2", "comments and instructions come along", C("x"), P("p", "y"))
    entity("white-space", " \n ", "2.10", "white space is passed on", " \n ")
    entity("default", "<b/>", "3.3.2", "defaults hold for elements out of files", E("b", [("c", "d", "default")]), subset='<!ATTLIST b c CDATA "d">')
    entity("internal-entity", "&f;", "4.4.2", "an entity of the document, referred to in a file", "in", subset='<!ENTITY f "in">')
    for name, content, clause, why in (
            ("unclosed", "<b>", "4.3.2", "an element begins and ends in one entity"),
            ("unopened", "</b>", "4.3.2", "the same from its end"),
            ("across", "x</a><a>y", "4.3.2", "tags that pair with the document's own"),
            ("comment-unclosed", "<!--x", "production 15", "a comment ends in its entity"),
            ("section-unclosed", "<![CDATA[x", "production 20", "a section ends in its entity"),
            ("instruction-unclosed", "<?p x", "production 16", "an instruction ends in its entity"),
            ("tag-unclosed", "<b c='d'", "production 40", "a tag ends in its entity"),
            ("document", "<!DOCTYPE b []><b/>", "production 43", "an entity is no document: it has no document type"),
            ("section-end", "x]]>y", "production 14", "]]> in a file's text"),
            ("ampersand", "a & b", "production 68", "an ampersand begins a reference"),
            ("control", "x\x01", "production 2", "no character of documents"),
            ("ill-formed-utf-8", b"x\xc3(", "4.3.3", "bytes that are no UTF-8"),
            ("declared-without-encoding", '<?xml version="1.0"?>x', "production 77", "a text declaration names the encoding"),
            ("declared-standalone", '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>x', "production 77", "a text declaration has no standalone declaration"),
            ("declared-late", ' <?xml encoding="UTF-8"?>x', "production 17", "only at the very start"),
            ("declared-twice", '<?xml encoding="UTF-8"?><?xml encoding="UTF-8"?>x', "production 17", "only once"),
            ("recursive", "x&e;", "WFC No Recursion", "a file that refers to itself"),
            ("undeclared", "&f;", "WFC Entity Declared", "an entity that nobody declares")):
        entity(name, content, clause, why, REFUSED)

    both("element-twice", ".ent", '<!DOCTYPE a [<!ENTITY e SYSTEM "{external_file}">]><a>&e;-&e;</a>', "<b/>", "4.4.3", "a file may come in twice",
         E("a", (), E("b"), "-", E("b")), E("a", (), R("e"), "-", R("e")))
    both("by-entity", ".ent", '<!DOCTYPE a [<!ENTITY e SYSTEM "{external_file}"><!ENTITY f "1&e;2">]><a>&f;</a>', "x", "4.4.3", "a file by an internal entity",
         E("a", (), "1x2"), E("a", (), "1", R("e"), "2"))
    both("prefix", ".ent", '<!DOCTYPE a [<!ENTITY e SYSTEM "{external_file}">]><a xmlns:p="urn:halm">&e;</a>', "<p:b/>", "Namespaces 1.0, 6.1",
         "a prefix is that of the place", E("a", [("xmlns:p", "urn:halm")], Named("p:b", "urn:halm")), E("a", [("xmlns:p", "urn:halm")], R("e")))
    both("prefix-undeclared", ".ent", '<!DOCTYPE a [<!ENTITY e SYSTEM "{external_file}">]><a>&e;</a>', "<p:b/>", "Namespaces 1.0, 5, NSC Prefix Declared",
         "a prefix without a declaration", REFUSED, E("a", (), R("e")))

    def subset(name, content, clause, why, read, not_read, body="<a/>", internal="", declaration=""):
        document = '%s<!DOCTYPE a SYSTEM "{external_file}"%s>%s' % (declaration, internal and " [%s]" % internal, body)
        both(name, ".dtd", document, content, clause, why, read, not_read)

    given = E("a", [("b", "c", "default")])
    default = '<!ATTLIST a b CDATA "c">'
    subset("attribute-default", default, "3.3.2", "a default out of a file", given, E("a"))
    subset("attribute-default-in-the-document-first", '<!ATTLIST a b CDATA "outside">', "3.3", "the internal subset comes first", given, given, internal=default)
    subset("attribute-type", "<!ATTLIST a b NMTOKENS #IMPLIED>", "3.3.3", "a type out of a file changes how a value is normalised",
           E("a", [("b", "x y")]), E("a", [("b", " x  y ")]), body='<a b=" x  y "/>')
    subset("entity-of-subset", '<!ENTITY e "x">', "4.1", "an entity declared in a file", E("a", (), "x"), E("a", (), R("e")), body="<a>&e;</a>")
    subset("entity-in-the-document-first", '<!ENTITY e "outside">', "4.2", "the internal subset comes first", E("a", (), "in"), E("a", (), "in"), body="<a>&e;</a>", internal='<!ENTITY e "in">')
    subset("entity-standalone", '<!ENTITY e "x">', "WFC Entity Declared", "standalone says that no file declares what is used", REFUSED, REFUSED, body="<a>&e;</a>",
           declaration='<?xml version="1.0" standalone="yes"?>')
    subset("entity-in-value", '<!ENTITY e "x">', "4.4.5", "in a value", E("a", [("b", "1x2")]), NOT_ASKED, body='<a b="1&e;2"/>')
    subset("nothing", "", "production 30", "an empty subset", E("a"), E("a"))
    subset("subset-declared", '<?xml version="1.0" encoding="UTF-8"?>' + default, "production 77", "a text declaration", given, E("a"))
    subset("subset-in-utf-16", default.encode("utf-16"), "4.3.3", "in an encoding of its own", given, E("a"))
    subset("subset-in-latin-1", '<?xml encoding="ISO-8859-1"?><!ENTITY e "l\u00e4utet">'.encode("latin-1"), "4.3.3", "in an encoding that it names",
           E("a", (), "l\u00e4utet"), E("a", (), R("e")), body="<a>&e;</a>")
    subset("comments", "<!--x--> <?p y?>" + default, "production 31", "comments and instructions between declarations", given, E("a"))
    subset("line-ends-in-entity", '<!ENTITY e "x\r\ny\rz">', "2.11", "line ends in an entity's value", E("a", (), "x\ny\nz"), E("a", (), R("e")), body="<a>&e;</a>")
    subset("white-space-in-default", '<!ATTLIST a b CDATA "x\r\ny\tz">', "3.3.3", "white space in a default", E("a", [("b", "x y z", "default")]), E("a"))
    subset("include", "<![INCLUDE[" + default + "]]>", "production 62", "a section that is included", given, E("a"))
    subset("ignore", "<![IGNORE[" + default + "]]>", "production 63", "a section that is ignored", E("a"), E("a"))
    subset("include-in-include", "<![INCLUDE[<![ INCLUDE [" + default + "]]>]]>", "production 62", "sections in sections, white space round the word", given, E("a"))
    subset("ignore-in-include", "<![INCLUDE[<![IGNORE[" + default + "]]>]]>", "production 63", "an ignored one in an included one", E("a"), E("a"))
    subset("include-in-ignore", "<![IGNORE[<![INCLUDE[" + default + "]]>]]>", "production 64", "what is ignored includes nothing", E("a"), E("a"))
    subset("ignored-ends", "<![IGNORE[ <![x]]> ]]>" + default, "production 64", "sections in an ignored one are counted", given, E("a"))
    subset("ignored-anything", "<![IGNORE[ ' \" <!-- %x; <a> ]> ]] ]]>" + default, "production 65", "ignored characters mean nothing", given, E("a"))
    subset("include-by-entity", '<!ENTITY % draft "INCLUDE"><![%draft;[' + default + "]]>", "production 61", "the word by a parameter entity", given, E("a"))
    subset("ignore-by-entity-of-the-document", '<!ENTITY % draft "INCLUDE"><![%draft;[' + default + "]]>", "production 61", "the document's own declaration comes first",
           E("a"), E("a"), internal='<!ENTITY % draft "IGNORE">')
    subset("include-nothing", "<![INCLUDE[]]>", "production 62", "an empty section", E("a"), E("a"))
    subset("type-by-entity", '<!ENTITY % t "CDATA"><!ATTLIST a b %t; "c">', "WFC PEs in Internal Subset", "parameter entities inside declarations, outside the document", given, E("a"))
    subset("spaces-by-entity", '<!ENTITY % t "CDATA"><!ATTLIST a b%t;"c">', "4.4.8", "a parameter entity comes with a space on each side", given, E("a"))
    subset("declaration-by-entity", "<!ENTITY % d '" + default + "'>%d;", "production 28a", "whole declarations by a parameter entity", given, E("a"))
    subset("entity-in-entity-value", '<!ENTITY % p "y"><!ENTITY e "x%p;z">', "4.4.5", "in an entity's value without spaces", E("a", (), "xyz"), E("a", (), R("e")), body="<a>&e;</a>")
    subset("percent-in-default", '<!ATTLIST a b CDATA "5%p;">', "4.4.1", "in a default value a percent sign is one", E("a", [("b", "5%p;", "default")]), E("a"))
    subset("group-by-entity", '<!ENTITY % g "(b|c"><!ELEMENT a %g;)>' + default, "2.8", "groups that end in another entity are invalid, not ill-formed", given, E("a"))
    subset("undeclared-everywhere", default, "4.1", "an undeclared entity is no fatal error where there is an external subset", E("a", [("b", "c", "default")], R("e")), E("a", (), R("e")), body="<a>&e;</a>")
    subset("notation", '<!NOTATION n PUBLIC "n"><!ENTITY p SYSTEM "p" NDATA n>' + default, "production 82", "notations and what is not parsed", given, E("a"))
    s.file("attribute-default-by-file.ent", default)
    subset("file-by-file", '<!ENTITY % f SYSTEM "attribute-default-by-file.ent">%f;', "4.2.2", "a file names another one beside it", given, E("a"))
    for name, content, clause, why in (
            ("include-unclosed", "<![INCLUDE[" + default, "production 62", "a section without an end"),
            ("ignore-unclosed", "<![IGNORE[" + default, "production 63", "the same ignored"),
            ("ignore-inside-closed", "<![IGNORE[<![x]]>", "production 63", "the inner one's end does not end the outer"),
            ("ignore-inside-unclosed", "<![IGNORE[<![x", "production 64", "neither has an end"),
            ("section-of-another-word", "<![DRAFT[" + default + "]]>", "production 61", "a word that is neither"),
            ("section-in-small-letters", "<![include[" + default + "]]>", "production 61", "the word has capitals"),
            ("section-without-bracket", "<![INCLUDE " + default + "]]>", "production 62", "a bracket is missing"),
            ("section-end-alone", default + "]]>", "production 31", "an end without a beginning"),
            ("text-in-subset", "x", "production 31", "text is no declaration"),
            ("element-in-subset", "<a/>", "production 29", "an element is none either"),
            ("document-type-in-subset", "<!DOCTYPE a []>", "production 29", "no document type in a document type"),
            ("declaration-unclosed", "<!ELEMENT a ANY", "production 45", "a declaration without an end"),
            ("subset-declared-without-encoding", '<?xml version="1.0"?>' + default, "production 77", "a text declaration names the encoding"),
            ("subset-declared-late", default + '<?xml encoding="UTF-8"?>', "production 17", "only at the very start"),
            ("spaces-in-name", '<!ENTITY % n "a"><!ELEMENT x%n; ANY>', "4.4.8", "a parameter entity does not continue a name"),
            ("percent-in-entity-value", '<!ENTITY e "5%">', "production 9", "a percent sign in an entity's value begins a reference")):
        subset(name, content, clause, why, REFUSED, E("a"))

    def parameter(name, content, clause, why, read, not_read, after="", body="<a/>", declaration=""):
        document = '%s<!DOCTYPE a [<!ENTITY %% p SYSTEM "{external_file}">%%p;%s]>%s' % (declaration, after, body)
        both(name, ".pe", document, content, clause, why, read, not_read)

    declared = '<!ENTITY e "x">'
    parameter("parameter-default", default, "4.4.8", "declarations by a file", given, E("a"))
    parameter("declared-after", "<!---->", "5.1", "declarations after a file that was not read are not processed", E("a", [("b", "c", "default")], "x"), E("a", (), R("e")),
              after=declared + default, body="<a>&e;</a>")
    parameter("declared-after-standalone", "<!---->", "5.1", "except in a standalone document", E("a", [("b", "c", "default")], "x"), E("a", [("b", "c", "default")], "x"),
              after=declared + default, body="<a>&e;</a>", declaration='<?xml version="1.0" standalone="yes"?>')
    parameter("parameter-section", "<![INCLUDE[" + default + "]]>", "production 61", "sections are allowed in external parameter entities too", given, E("a"))
    parameter("parameter-in-declaration", '<!ENTITY % t "CDATA"><!ATTLIST a b %t; "c">', "WFC PEs in Internal Subset", "and so do references inside declarations", given, E("a"))
    parameter("parameter-partial", '<!ENTITY e "x"', "WFC PE Between Declarations", "a file between declarations holds whole ones", REFUSED, E("a"))
    s.breaks_validity("group-by-entity-read")  # Proper Group/PE Nesting
    return s


class Named(E):
    """An element whose prefix an element above declares."""

    def __init__(self, name, namespace):
        super().__init__(name)
        self.namespace = namespace

    def lines(self, scope):
        return super().lines({**scope, self.name.partition(":")[0]: self.namespace})


def sheets():
    return [external()]

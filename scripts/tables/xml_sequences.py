"""Cases of several documents of XML in one text, and of streams that stay open.

XML 1.0 has one document in an entity. Of several, each answer is a list: the root elements, and `native refused -` where a document is
refused. What is outside of root elements has no value. A list that is none of the case's answers, or whose values are others, is a
changed value.
"""

from json_sequences import REFUSED, ask, handed_over, listed
from xml_notation import C, E, R, Sheet

OUTSIDE = "outside XML 1.0"


def root(name, attributes=(), *children):
    return E(name, attributes, *children).lines({"": "", "xml": "http://www.w3.org/XML/1998/namespace"})


# Documents: id, text, and the lines of its root.
KINDS = [("empty", "<a/>", root("a")), ("text", "<b>x</b>", root("b", (), "x")), ("attribute", '<c d="1"/>', root("c", (("d", "1"),))),
         ("nested", "<a><a>x</a></a>", root("a", (), E("a", (), "x"))), ("default-namespace", '<a xmlns="u"/>', root("a", (("xmlns", "u"),))),
         ("prefix", '<p:a xmlns:p="u" p:b="1"/>', root("p:a", (("xmlns:p", "u"), ("p:b", "1"))))]
ONE, TWO = KINDS[0][2], KINDS[1][2]


def several(s, name, text, question, why, *documents, clause=OUTSIDE):
    every = listed(*documents)
    ask(s, name, text, question, clause, why, every, all=every, stops=listed(documents[0], REFUSED), refused_at_once=listed(REFUSED))


def two_documents(s):
    """Every kind before every kind: with a line end between them, and with nothing."""
    for first, a, of_a in KINDS:
        for second, b, of_b in KINDS:
            several(s, "%s-next-to-%s" % (first, second), a + b, "documents-adjacent", "nothing between two documents", of_a, of_b)
            if first in ("empty", "prefix") or second == "default-namespace":
                several(s, "%s-then-%s" % (first, second), a + "\n" + b, "documents-spaced", "a line for each document", of_a, of_b)


def white_space(s):
    for name, text in (("space", "<a/> <b>x</b>"), ("tab", "<a/>\t<b>x</b>"), ("carriage-return", "<a/>\r<b>x</b>"),
                       ("return-and-line-feed", "<a/>\r\n<b>x</b>\r\n"), ("line-feed-at-the-end", "<a/>\n<b>x</b>\n"), ("blank-line", "<a/>\n\n<b>x</b>\n"),
                       ("lines-before", "\n<a/>\n<b>x</b>"), ("lines-at-the-end", "<a/>\n<b>x</b>\n\n\n"), ("document-over-lines", "<a\n/>\n<b\n>x</b\n>\n"),
                       ("many-blanks", "<a/>" + " " * 5000 + "<b>x</b>")):
        several(s, "between-" + name, text, "documents-spaced", name.replace("-", " ") + (" documents" if name.endswith("before") else " between documents"), ONE, TWO)
    for name, text, of_text, count in (("hundred-documents", "<a/>\n", ONE, 100), ("thousand-documents", "<b>x</b>\n", TWO, 1000),
                                       ("long-texts", "<b>" + "o" * 9000 + "</b>\n", root("b", (), "o" * 9000), 4)):
        several(s, name, text * count, "documents-spaced", "%d documents, one a line" % count, *[of_text] * count)


def asides(s):
    """Comments and instructions may be round a root; which of two documents they belong to does not show."""
    for name, between in (("comment", "<!--c-->"), ("instruction", "<?p c?>"), ("comment-with-markup", "<!--<a>-->"), ("comment-and-lines", "\n<!--c-->\n"),
                          ("two-comments", "<!--c--><!--d-->")):
        several(s, "aside-" + name, "<a/>" + between + "<b>x</b>", "documents-adjacent", name.replace("-", " ") + " between documents", ONE, TWO,
                clause="production 27")
    # A library that gives what is left behind a root may take the comment for the beginning of the next document.
    ask(s, "aside-at-the-end", "<a/><b>x</b><!--c-->", "documents-adjacent", "production 27", "a comment behind the last document", listed(ONE, TWO),
        all=listed(ONE, TWO), stops=listed(ONE, TWO, REFUSED), refused_at_once=listed(REFUSED))


def prologues(s):
    """What begins a document, where it is not the first."""
    declaration = '<?xml version="1.0"?>'
    for name, text in (("declarations", declaration + "<a/>" + declaration + "<b>x</b>"), ("declarations-on-lines", declaration + "\n<a/>\n" + declaration + "\n<b>x</b>\n"),
                       ("second-declaration", "<a/>" + declaration + "<b>x</b>"), ("declaration-behind-comment", "<a/><!--c-->" + declaration + "<b>x</b>"),
                       ("declarations-standalone", '<?xml version="1.0" standalone="yes"?><a/><?xml version="1.0" standalone="no"?><b>x</b>')):
        several(s, "prologue-" + name, text, "documents-prologue", "an XML declaration before a later document", ONE, TWO, clause="production 23")
    for name, text, first, second in (
            ("types", "<!DOCTYPE a><a/><!DOCTYPE b><b>x</b>", ONE, TWO),
            ("second-type", "<a/><!DOCTYPE b><b>x</b>", ONE, TWO),
            ("entity-in-both", '<!DOCTYPE a [<!ENTITY e "one">]><a>&e;</a>\n<!DOCTYPE b [<!ENTITY e "two">]><b>&e;</b>', root("a", (), "one"), root("b", (), "two")),
            ("default-in-both", "<!DOCTYPE a [<!ATTLIST a d CDATA 'one'>]><a/>\n<!DOCTYPE a [<!ATTLIST a d CDATA 'two'>]><a/>",
             root("a", (("d", "one", "default"),)), root("a", (("d", "two", "default"),)))):
        several(s, "prologue-" + name, text, "documents-prologue", "a document type before a later document", first, second, clause="production 28")


def encodings(s):
    accented = root("b", (), "\u00e9")
    latin = '<?xml version="1.0" encoding="ISO-8859-1"?><b>\u00e9</b>'.encode("latin-1")
    several(s, "encoding-later-latin-1", b"<a/>" + latin, "documents-encoding", "a later document declares ISO-8859-1", ONE, accented, clause="4.3.3")
    several(s, "encoding-first-latin-1", latin + '<?xml version="1.0" encoding="UTF-8"?><b>\u00e9</b>'.encode(), "documents-encoding",
            "a first document in ISO-8859-1, and one in UTF-8", accented, accented, clause="4.3.3")
    several(s, "encoding-later-utf-16", b"<a/>" + "\ufeff<b>\u00e9</b>".encode("utf-16-le"), "documents-encoding", "a later document in UTF-16", ONE, accented, clause="4.3.3")


def state(s):
    """What a document declares does not hold in the next one."""
    def uses(name, text, first, clause, **more):
        ask(s, "state-" + name, text, "documents-state", clause, "a later document uses what the first one declares", listed(first, REFUSED),
            stops=listed(first, REFUSED), refused_at_once=listed(REFUSED), **more)

    declaring = root("p:a", (("xmlns:p", "u"),))
    # A library that accepts what is not declared does so here, too.
    uses("prefix", '<p:a xmlns:p="u"/><p:b/>', declaring, "Namespaces 1.0, 6.1", without_namespace=listed(declaring, root("b")),
         prefix_as_namespace=listed(declaring, root("b", (("xmlns", "p"),))))
    first = root("a", (), "x")
    uses("entity", '<!DOCTYPE a [<!ENTITY e "x">]><a>&e;</a><b>&e;</b>', first, "4.1", undeclared_as_text=listed(first, root("b", (), "&e;")),
         undeclared_left_out=listed(first, root("b")), undeclared_kept=listed(first, root("b", (), R("e"))))
    kept = (("namespace", '<a xmlns="u"/><b>x</b>', root("a", (("xmlns", "u"),)), TWO, "documents-adjacent", "Namespaces 1.0, 6.2"),
            ("attribute", "<!DOCTYPE a [<!ATTLIST a d CDATA 'one'>]><a/><a/>", root("a", (("d", "one", "default"),)), ONE, "documents-prologue", "3.3.2"),
            ("space", '<a xml:space="preserve"> </a><b> </b>', root("a", (("xml:space", "preserve"),), " "), root("b", (), " "), "documents-adjacent", "2.10"))
    for name, text, first, second, question, clause in kept:
        several(s, "state-" + name, text, question, "what the first document declares does not hold in the next", first, second, clause=clause)


def foreign_text(s):
    """Between two documents, what is neither markup nor white space."""
    both = listed(ONE, TWO)
    for name, between in (("letter", "x"), ("word", " bell "), ("reference", "&amp;"), ("character-reference", "&#32;"), ("section", "<![CDATA[x]]>"), ("blank-section", "<![CDATA[ ]]>"),
                          ("nul", "\0"), ("record-separator", "\x1e"), ("byte-order-mark", "\ufeff"), ("no-break-space", "\xa0"), ("line-separator", "\u2028"), ("hyphens", "\n---\n"), ("end-tag", "</a>"),
                          ("section-end", "]]>"), ("greater-than", ">")):
        ask(s, "foreign-" + name, "<a/>" + between + "<b>x</b>", "documents-separator", OUTSIDE, name.replace("-", " ") + " between documents", both, skipped=both,
            stops=listed(ONE, REFUSED), goes_on=listed(ONE, REFUSED, TWO), goes_on_twice=listed(ONE, REFUSED, REFUSED, TWO), refused_at_once=listed(REFUSED))
    ask(s, "foreign-at-the-end", "<a/><b>x</b>!", "documents-separator", OUTSIDE, "text behind the last document", listed(ONE, TWO, REFUSED), skipped=both,
        stops=listed(ONE, TWO, REFUSED), refused_at_once=listed(REFUSED))
    ask(s, "foreign-at-the-beginning", "x<a/><b>x</b>", "documents-separator", OUTSIDE, "text before the first document", listed(REFUSED), skipped=both,
        stops=listed(REFUSED), goes_on=listed(REFUSED, ONE, TWO))


def after_errors(s):
    """A document that is none, and good ones round it."""
    for name, bad in (("end-tag-of-another", "<c></d>"), ("attribute-twice", '<c d="1" d="2"/>'), ("attribute-without-quotes", "<c d=1/>"), ("undeclared-entity", "<c>&e;</c>"),
                      ("unbound-prefix", "<q:c/>"), ("control-character", "<c>\x01</c>"), ("ill-formed-bytes", b"<c>\xc3</c>"), ("hyphens-in-comment", "<c><!-- -- --></c>"),
                      ("name", "<1/>"), ("section-end-in-text", "<c>]]></c>"), ("unclosed", "<c>"), ("unclosed-tag", "<c"), ("unclosed-comment", "<c><!--")):
        text = b"<a/>\n" + (bad if isinstance(bad, bytes) else bad.encode()) + b"\n<b>x</b>\n"
        ask(s, "error-" + name, text, "documents-after-error", OUTSIDE,
            "a document that is none between two others" + (", and that does not end" if name.startswith("unclosed") else ""), listed(ONE, REFUSED),
            stops=listed(ONE, REFUSED), goes_on=listed(ONE, REFUSED, TWO), goes_on_twice=listed(ONE, REFUSED, REFUSED, TWO), refused_at_once=listed(REFUSED))


def ends(s):
    for name, cut in (("start-tag", "<b"), ("attribute", '<b c="'), ("content", "<b>x"), ("end-tag", "<b>x</b"), ("child", "<b><c/>"), ("comment", "<b><!--"), ("section", "<b><![CDATA["),
                      ("reference", "<b>&am"), ("less-than", "<"), ("character", b"<b>\xc3")):
        ask(s, "cut-" + name, b"<a/>\n" + (cut if isinstance(cut, bytes) else cut.encode()), "documents-cut", OUTSIDE, "the last document is cut", listed(ONE, REFUSED),
            stops=listed(ONE, REFUSED), left_out=listed(ONE), refused_at_once=listed(REFUSED))
    for name, text in (("empty", ""), ("line-feed", "\n"), ("spaces", "   "), ("comment", "<!--c-->"), ("declaration", '<?xml version="1.0"?>')):
        ask(s, "no-document-" + name, text, "documents-none", OUTSIDE, "a text without a document", listed(), nothing=listed(), refused_at_once=listed(REFUSED))


def open_streams(s):
    for name, text, *documents in (
            ("element", "<b>x</b>", TWO), ("empty-tag", "<a/>", ONE), ("element-and-line-feed", "<b>x</b>\n", TWO), ("nested", "<a><a>x</a></a>", KINDS[3][2]),
            ("declaration", '<?xml version="1.0"?><a/>', ONE), ("lines", "<a/>\n<b>x</b>\n", ONE, TWO), ("next-to", "<a/><b>x</b>", ONE, TWO),
            ("three", "<a/>\n<b>x</b>\n<a/>\n", ONE, TWO, ONE), ("and-a-beginning", "<a/>\n<b", ONE), ("and-half", "<a/>\n<b>x", ONE),
            ("long-text", "<b>" + "o" * 9000 + "</b>", root("b", (), "o" * 9000)), ("accented", "<b>\u00e9</b>", root("b", (), "\u00e9")),
            ("empty-pair", "<a></a>", ONE), ("attribute", '<c d="1"/>', KINDS[2][2]), ("prefix", '<p:a xmlns:p="u" p:b="1"/>', KINDS[5][2]),
            ("section-at-the-end", "<b><![CDATA[x]]></b>", TWO), ("comment-inside", "<a><!--c--></a>", root("a", (), C("c"))), ("comment-before", "<!--c--><a/>", ONE),
            ("and-a-comment", "<b>x</b><!--c-->", TWO), ("reference", "<b>&#120;</b>", TWO), ("return-and-line-feed", "<b>x</b>\r\n", TWO),
            ("blank-line", "<a/>\n\n<b>x</b>\n\n", ONE, TWO), ("three-next-to", "<b>x</b><b>x</b><b>x</b>", TWO, TWO, TWO)):
        handed_over(s, name, text, *documents)


def sheets():
    s = Sheet("sequences-generated", "Several documents of XML in one text: one after another, with other text between them, after errors, cut.")
    s.of_sequences = True
    for table in (two_documents, white_space, asides, prologues, encodings, state, foreign_text, after_errors, ends):
        table(s)
    o = Sheet("open-streams-generated", "Documents of XML from a stream that stays open behind them.")
    o.of_sequences = o.stays_open = True
    open_streams(o)
    return [s, o]

// The points that XML 1.0 leaves open, their thresholds, and the causes a finding about XML may carry.
#include "xml/internal.hpp"

namespace nachklang::xml {

static constexpr auto keeps = KnownAnswer::keeps;

static Question second_round_trip() {
    Question out = Question::open_point(
        "second-round-trip", "XML 1.0, 2", {"same-bytes", "same-in-any-order", "other-spelling"},
        "whether a second round trip writes the same value in another order or spelling");
    out.unlisted_is_altered = false;
    return out;
}

static std::vector<Question> document_questions() {
    return {
        Question::limit_from(17, "depth", "XML 1.0, production 39", "how deep elements may nest"),
        Question::limit_from(1 << 20, "document-size", "XML 1.0, production 1",
                             "how large a document may be, in bytes"),
        Question::limit_from(256, "attribute-count", "XML 1.0, production 40",
                             "how many attributes a tag may have"),
        Question::open_point("encoding", "XML 1.0, 4.3.3", {"refused", keeps("read")},
                             "whether encodings other than UTF-8 and UTF-16 are read"),
        Question::open_point("fifth-edition-names", "XML 1.0, 2.3", {"refused", keeps("accepted")},
                             "whether names follow the fifth edition"),
        Question::limit_from(1000, "name-length", "XML 1.0, production 5", "how long a name may be, in bytes"),
        Question::limit_from(9, "entity-depth", "XML 1.0, 4.4", "how deep entities may refer to each other"),
        Question::limit_from(1024, "expansion", "XML 1.0, 4.4", "how much text entities may expand to, in bytes"),
        Question::open_point("external-entities", "XML 1.0, 4.4.3",
                             {"refused", "not-read", "passed-over", keeps("read")},
                             "whether external entities are read"),
        Question::open_point("undeclared-entity", "XML 1.0, 4.1",
                             {"refused", "skipped", "passed-over", "declarations-heeded"},
                             "how an entity is read whose declaration may be in a part that was not read"),
        Question::open_point("predefined-entities", "XML 1.0, 4.6", {"refused", keeps("accepted")},
                             "whether lt, gt, amp, apos and quot may be declared with other text"),
        Question::open_point("system-identifier-fragment", "XML 1.0, 4.2.2", {"refused", keeps("accepted")},
                             "whether a system identifier may have a fragment"),
        Question::open_point("xml-space", "XML 1.0, 2.10", {"refused", keeps("accepted")},
                             "whether xml:space may have an undefined value"),
        Question::open_point("namespace-name", "Namespaces 1.0, 2.1", {"refused", keeps("accepted")},
                             "whether a namespace name may be no URI reference"),
        Question::open_point(
            "unused-entity", "XML 1.0, 4.1", {"refused", keeps("accepted")},
            "whether an entity that is never referred to may refer to itself or to an undeclared one"),
        Question::open_point("version-number", "XML 1.0, 2.8", {"refused", keeps("accepted"), keeps("by-1.1")},
                             "whether a version 1.x is processed, and by the rules of 1.0 or of 1.1"),
        second_round_trip(),
    };
}

/// Of documents that are decoded into a record of fields: no standard says how.
static std::vector<Question> record_questions() {
    const auto ask = [](std::string id, std::vector<KnownAnswer> answers, std::string about) {
        return Question::open_point(std::move(id), "outside XML 1.0", std::move(answers), std::move(about));
    };
    Question not_xml =
        ask("record-not-xml", {"refused", "ill-formed", "dropped", "replaced", "question-mark", "space"},
            "how a character of a record's text is written that no document holds");
    not_xml.clause = "XML 1.0, production 2";
    not_xml.unlisted_is_altered = false;
    Question null_written = ask(std::string(common_question::null_written), {"kept", "left-out", "empty"},
                                "whether a field without a value is written, as an element");
    null_written.unlisted_is_altered = false;
    return {
        ask("record-kind", {"refused", "default", "null", "earlier"},
            "what a record's field becomes if its element holds no text of the field's kind"),
        ask("record-range", {"refused", keeps("kept"), keeps("rounded"), "infinity"},
            "what a number field becomes if the number is beyond its type"),
        ask("record-whole-number", {"refused", keeps("accepted")},
            "whether an integer field takes a whole number with a fraction or an exponent"),
        ask("record-number-spelling", {"refused", keeps("read")},
            "whether a number field takes white space around a number, a plus sign, leading zeros, other digits"),
        ask("record-boolean-spelling", {"refused", keeps("read"), "false"},
            "whether a boolean field takes 1 and 0, capital letters, or white space around the word"),
        ask("record-white-space", {"refused", keeps("kept"), "trimmed", "empty", "null"},
            "whether a text field keeps white space at the ends of its text"),
        ask("record-empty", {"refused", "default", "null", "left-out", "appended"},
            "what a record's field becomes if its element is empty"),
        ask("record-nil", {"refused", "default", keeps("null"), "earlier"},
            "what a record's field becomes if its element is marked xsi:nil"),
        ask("record-absent", {"refused", "default", "null", "earlier", "nested-null"},
            "what a record's field becomes if the document does not have it"),
        ask("record-repeated", {"refused", "first", "last"},
            "which of several elements counts for a field that is no list"),
        ask("record-list", {"refused", keeps("all"), "first", "last", "appended"},
            "whether a list keeps its elements if others come between them"),
        ask("record-mixed-content", {"refused", keeps("joined"), "outer", "first", "last", "default"},
            "how a field is read whose element holds text and elements"),
        ask("record-aside", {"refused", keeps("read")},
            "whether a field takes a text that a comment or an instruction is in or beside"),
        ask("record-unknown", {"refused", keeps("ignored"), "appended"},
            "whether an element or attribute that is no field of the record is ignored"),
        ask("record-name-case", {"refused", "matched", "default", "null", "earlier"},
            "whether a name in another case is that of a field"),
        ask("record-namespace", {"refused", "matched", "ignored", "default", "null", "earlier"},
            "whether a name in another namespace is that of a field"),
        ask("record-root-name", {"refused", keeps("ignored")},
            "whether a record is read from a root element of another name"),
        ask("record-attribute", {"refused", "matched", "ignored", "default", "null", "earlier"},
            "whether an attribute is taken for an element of its name, and an element for an attribute"),
        ask("record-element-order", {"refused", keeps("any"), "left-out", "left-out-empty"},
            "whether a record's elements may come in another order than its fields"),
        ask("record-document-type", {"refused", keeps("read"), "default", "null", "earlier"},
            "whether a document with a document type is decoded into a record"),
        std::move(not_xml),
        std::move(null_written),
    };
}

/// Of a text of several documents: a standard has one document in a text.
static std::vector<Question> sequence_questions() {
    const auto ask = [](std::string id, std::vector<KnownAnswer> answers, std::string about) {
        return Question::open_point(std::move(id), "outside XML 1.0", std::move(answers), std::move(about));
    };
    const auto choice = [&](std::string id, std::vector<KnownAnswer> answers, std::string about) {
        Question out = ask(std::move(id), std::move(answers), std::move(about));
        out.unlisted_is_altered = false;
        return out;
    };
    return {
        ask("documents-spaced", {keeps("all"), "stops", "refused-at-once"},
            "how many documents are read that follow each other with white space between them"),
        ask("documents-adjacent", {keeps("all"), "stops", "refused-at-once"},
            "how many documents are read that follow each other with nothing between them"),
        ask("documents-prologue", {keeps("all"), "stops", "refused-at-once"},
            "whether a document that follows another may have an XML declaration or a document type"),
        ask("documents-encoding", {keeps("all"), "stops", "refused-at-once"},
            "whether a document that follows another may be in another encoding"),
        ask("documents-state",
            {"stops", "refused-at-once", "without-namespace", "prefix-as-namespace", "undeclared-as-text",
             "undeclared-left-out", "undeclared-kept"},
            "whether a document that uses what an earlier one declares is refused"),
        choice("documents-separator", {"stops", "skipped", "goes-on", "goes-on-twice", "refused-at-once"},
               "what a text between two documents does that is no white space"),
        choice("documents-after-error", {"stops", "goes-on", "goes-on-twice", "refused-at-once"},
               "whether documents are read after one that is refused"),
        choice("documents-cut", {"stops", "left-out", "refused-at-once"},
               "whether a last document that is cut is an error"),
        ask("documents-none", {keeps("nothing"), "refused-at-once"},
            "whether a text without a document is an error"),
        ask("documents-handed-over", {keeps("at-once"), "one-behind", "two-behind", "three-behind", "stops"},
            "whether a document is handed over before the stream that it comes from gives more"),
    };
}

std::span<const Question> all_questions() {
    static const std::vector<Question> questions = [] {
        std::vector<Question> out = document_questions();
        for (const auto& more : {record_questions(), sequence_questions()})
            out.insert(out.end(), more.begin(), more.end());
        return out;
    }();
    return questions;
}

std::span<const Cause> all_causes() {
    static const std::vector<Cause> causes{
        {"element/lost", "an element is missing", "<a><b/></a>", "{reads} a document without one of its elements"},
        {"element/added", "an element was not in the document", "<a/>", "{reads} an element that is not there"},
        {"element/case-changed", "the same name in another case", "<A/>", "{reads} a name in other letters"},
        {"element/renamed", "an element has another name", "<a/>", "{reads} an element under another name"},
        {"attribute/lost", "an attribute is missing", "<a b=''/>",
         "{reads} an element without one of its attributes"},
        {"attribute/added", "an attribute was not in the document", "<a/>",
         "{reads} an attribute that is not there"},
        {"attribute/default-not-supplied", "an attribute that the document type supplies is missing (5.1)",
         "<!DOCTYPE a [<!ATTLIST a b CDATA 'x'>]><a/>",
         "does not supply an attribute that the document type declares", Basis::required, "XML 1.0, 5.1"},
        {"attribute/case-changed", "the same name in another case", "<a B=''/>",
         "{reads} an attribute's name in other letters"},
        {"attribute/renamed", "an attribute has another name", "<a b=''/>",
         "{reads} an attribute under another name"},
        {"attribute/order", "attributes in another order", "<a c='' b=''/>", "{reads} attributes in another order"},
        {"attribute/newline-kept", "white space in a value was not normalised (3.3.3)", "<a b='&#9;\\n'/>",
         "keeps white space in an attribute value that must become spaces", Basis::required, "XML 1.0, 3.3.3"},
        {"attribute/line-end-kept", "a line end in a value was not normalised (2.11)", "<a b='\\r\\n'/>",
         "keeps a line end in an attribute value as it is", Basis::required, "XML 1.0, 2.11"},
        {"attribute/reference-normalised",
         "white space given by reference in a value was normalised, or written raw (3.3.3)", "<a b='&#10;'/>",
         "{reads} white space given by reference in an attribute value as a space", Basis::required,
         "XML 1.0, 3.3.3"},
        {"attribute/reference-not-undone", "a reference in a value is kept as text", "<a b='&lt;'/>",
         "{reads} a reference in an attribute value as text", Basis::required, "XML 1.0, 4.4.5"},
        {"attribute/white-space-changed", "white space in a value was changed", "<a b=' '/>",
         "{reads} other white space in an attribute value"},
        {"attribute/reference-undone-twice", "a reference was undone, and what came out was undone again (4.4)",
         "<a b='&amp;lt;'/>", "undoes a reference in an attribute value twice", Basis::required, "XML 1.0, 4.4"},
        {"attribute/line-end-of-1.1", "U+0085 or U+2028 was taken for a line end, which they are in XML 1.1",
         "<a b='\\u0085'/>", "takes U+0085 or U+2028 in an attribute value for a line end"},
        {"attribute/number-reformatted", "a number in a value is written another way", "<a b='01.0'/>",
         "{reads} a number in an attribute value another way"},
        {"attribute/character-dropped", "a writer left out one character of a value", "<a b='xyz'/>",
         "writes an attribute value without one character"},
        {"attribute/cut", "the end of a value is missing", "<a b='xy'/>",
         "{reads} only the beginning of an attribute value"},
        {"attribute/changed", "an attribute has another value", "<a b='x'/>", "{reads} another attribute value"},
        {"text/lost", "character data is missing", "<a>x</a>", "{reads} a document without its character data",
         Basis::required, "XML 1.0, 2.10"},
        {"text/added", "character data was not in the document", "<a/>",
         "{reads} character data that is not there"},
        {"text/line-end-kept", "CR or CR LF was not made LF (2.11)", "<a>\\r\\n</a>", "keeps a line end as it is",
         Basis::required, "XML 1.0, 2.11"},
        {"text/reference-normalised", "CR given by reference was made LF, or written raw (2.11)", "<a>&#13;</a>",
         "{reads} CR given by reference as a line end", Basis::required, "XML 1.0, 2.11"},
        {"reference/became-text", "a reference that is not expanded became text",
         "<!DOCTYPE a [<!ENTITY e SYSTEM 'x'>]><a>&e;</a>", "{reads} a reference that it does not expand as text",
         Basis::fidelity, "XML 1.0, 4.4.3"},
        {"text/reference-not-undone", "a reference is kept as text", "<a>&lt;</a>", "{reads} a reference as text",
         Basis::required, "XML 1.0, 4.4.2"},
        {"text/reference-expanded", "a reference whose declaration is not to be processed was expanded (5.1)",
         "<!DOCTYPE a SYSTEM 'b'><a>&e;</a>", "expands a reference whose declaration is not to be processed",
         Basis::required, "XML 1.0, 5.1"},
        {"text/white-space-changed", "white space was dropped or added (2.10)", "<a> </a>",
         "{reads} other white space in character data", Basis::required, "XML 1.0, 2.10"},
        {"text/indentation-added", "white space with line ends was added between elements", "<a><b/></a>",
         "adds white space between elements", Basis::fidelity, "XML 1.0, 2.10"},
        {"cdata/reference-expanded", "what looks like a reference in a CDATA section was expanded (2.7)",
         "<a><![CDATA[&lt;]]></a>", "expands references in CDATA sections", Basis::required, "XML 1.0, 2.7"},
        {"text/reference-undone-twice", "a reference was undone, and what came out was undone again (4.4)",
         "<a>&amp;lt;</a>", "undoes a reference twice", Basis::required, "XML 1.0, 4.4"},
        {"text/line-end-of-1.1", "U+0085 or U+2028 was taken for a line end, which they are in XML 1.1",
         "<a>\\u0085</a>", "takes U+0085 or U+2028 for a line end", Basis::required, "XML 1.0, 2.11"},
        {"text/number-reformatted", "a number in the text is written another way", "<a>01.0</a>",
         "{reads} a number in character data another way"},
        {"text/character-dropped", "a writer left out one character of the text", "<a>xyz</a>",
         "writes character data without one character"},
        {"text/cut", "the end of the text is missing", "<a>x&amp;y</a>",
         "{reads} only the beginning of character data", Basis::required, "XML 1.0, 2.10"},
        {"text/changed", "other character data", "<a>x</a>", "{reads} other character data"},
        {"comment/lost", "a comment is missing", "<a><!----></a>", "{reads} a document without its comment"},
        {"comment/added", "a comment was not in the document", "<a/>", "{reads} a comment that is not there"},
        {"comment/changed", "a comment was changed", "<a><!--x--></a>", "{reads} another comment"},
        {"instruction/lost", "a processing instruction is missing", "<a><?p?></a>",
         "{reads} a document without its processing instruction", Basis::required, "XML 1.0, 2.6"},
        {"instruction/added", "a processing instruction was not in the document", "<a/>",
         "{reads} a processing instruction that is not there"},
        {"instruction/changed", "a processing instruction was changed", "<a><?p x?></a>",
         "{reads} another processing instruction"},
        {"namespace/name-changed", "the same local part in another namespace, or with another prefix",
         "<a xmlns='u'/>", "{reads} a name in another namespace"},
        {"namespace/declaration-lost", "a namespace declaration is missing", "<a xmlns:p='u'/>",
         "{reads} a document without a namespace declaration"},
        {"namespace/declaration-added", "a namespace declaration was not in the document", "<a/>",
         "{reads} a namespace declaration that is not there"},
        {"layer/as-given", "the same data, written another way", "<a><![CDATA[x]]></a>",
         "{reads} the same data, written another way"},
        {"verdict/refused", "rejected a document that must be accepted", "<a/>", "refuses {document}"},
        {"verdict/accepted-ill-formed", "accepted a document that is not well-formed", "<a></b>",
         "accepts a document that is not well-formed"},
        {"verdict/accepted-ill-formed-names", "accepted a document that is not namespace-well-formed", "<p:a/>",
         "accepts a document that is not namespace-well-formed"},
        {"verdict/unknown-encoding-accepted", "read a document in an unknown encoding as UTF-8 (4.3.3)",
         "<?xml version='1.0' encoding='x'?><a/>", "reads a document in an unknown encoding as UTF-8"},
        {"verdict/accepted-against-the-sheet", "accepted a document that the sheet says must be rejected", "<a/>",
         "accepts a text that the sheet rejects"},
        {"output/ill-formed", "the written text is not well-formed", "<a>&lt;</a>",
         "writes a document that is not well-formed"},
        {"output/not-canonical", "claimed to be in canonical form, but is not", "<a/>",
         "writes a text that is not in canonical form"},
        {"round-trip/unstable", "the second round trip differs from the first", "<a/>",
         "loses the value in a second round trip"},
        {"value/kind", "none of the listed answers", "<a/>", "gives none of the listed answers"},
        {"question/undeclared-answer", "a declared answer was not observed", "<a/>",
         "answers otherwise than declared"},
        {"outcome/crashed", "the process ended", "<a><a>…", "crashes"},
        {"outcome/timed-out", "no answer before the deadline", "<a><a>…", "gives no answer before the deadline"},
        {"outcome/out-of-memory", "more resident memory than the limit", "<a><a>…",
         "takes more memory than the limit"},
        {"outcome/threw", "a failure that the implementation does not document", "<a/>",
         "fails with an undocumented error"},
        {"outcome/exhausted", "the runtime reported no memory, or a stack that is too deep", "<a><a>…",
         "runs out of memory or stack"},
        {"outcome/unclear", "a failure and an empty document cannot be distinguished", "<a/>",
         "fails in a way that looks like an empty document"},
        {"outcome/adapter-fault", "the adapter's own code failed; says nothing about the library", "<a/>",
         "is not asked: its adapter fails"},
        {"outcome/broken-reply", "the adapter's reply broke the protocol; says nothing about the library", "<a/>",
         "is not asked: its adapter breaks the protocol"},
        {"outcome/unsteady", "the answer depends on earlier requests", "<a/>",
         "answers otherwise after earlier requests"},
        {"sequence/rest-lost", "documents of a sequence are left out without an error", "<a/><b/>",
         "stops before the end of a sequence of documents, without an error"},
        {"sequence/end-refused", "an error behind the last document of a sequence", "<a/>\\n",
         "gives an error behind the last document of a sequence"},
        {"sequence/other-value", "another value of a document in a sequence than the document has", "<a/><b/>",
         "{reads} another value of a document in a sequence"},
        {"pieces/other-verdict", "another verdict on a document that arrives in pieces than on the whole",
         "<a>é</a>", "gives another verdict on {document} that arrives in pieces"},
        {"pieces/other-value", "another value of a document that arrives in pieces than of the whole", "<a>é</a>",
         "{reads} another value if the document arrives in pieces"},
        {"record/fraction-lost", "a number field holds the number without its fraction",
         "<record><value>7.25</value></record>", "{reads} a number without its fraction into a field"},
        {"record/number-cut", "a number field holds what the first digits alone give",
         "<record><value>7x</value></record>", "{reads} only the first digits of a number into a field"},
        {"record/number-wrapped", "a number field holds the number modulo 2^32 or 2^64",
         "<record><value>4294967303</value></record>", "{reads} an integer modulo a power of 2 into a field"},
        {"record/number-changed", "a number field holds another number",
         "<record><value>1<!---->2</value></record>", "{reads} another number into a field"},
        {"record/white-space-lost", "a text field holds the text without white space at an end",
         "<record><value> a</value></record>", "{reads} a text without its outer white space into a field"},
        {"record/text-cut", "a text field holds a part of the text", "<record><value>a<!---->b</value></record>",
         "{reads} a part of a text into a field"},
        {"record/text-changed", "a text field holds another text", "<record><value>a</value></record>",
         "{reads} another text into a field"},
        {"record/text-became-number", "a number field holds a number for a text that is none",
         "<record><value>seven</value></record>", "{reads} a text that is no number as a number into a field"},
        {"record/list-element-lost", "a list field has fewer elements",
         "<record><value>7</value><value>8</value></record>", "{reads} a list field without some of its elements"},
        {"record/list-element-added", "a list field has more elements", "<record><value>7</value></record>",
         "{reads} a list field with elements that are not there"},
        {"record/field-lost", "a field is not there", "<record><value></value></record>",
         "{reads} a record without one of its fields"},
        {"record/field-empty", "a field has no value", "<record><value>7</value></record>",
         "leaves a field without its value"},
        {"record/other-kind", "a field holds another value, or another kind of value",
         "<record><value>true</value></record>", "{reads} another value, or another kind of value, into a field"},
        {"value/unset", "a field that was never filled", "<record><value>7</value></record>",
         "leaves a field unset"},
        {"verdict/accepted-differently", "accepted by some implementations and rejected by others", "<p:a/>",
         "accepts what others reject"},
    };
    return causes;
}

}  // namespace nachklang::xml

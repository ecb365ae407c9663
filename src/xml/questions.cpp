// The points that XML 1.0 leaves open, their thresholds, and the causes a finding about XML may carry.
#include "xml/internal.hpp"

namespace nachklang::xml {

static constexpr auto keeps = KnownAnswer::keeps;

static Question second_round_trip() {
    Question out =
        Question::open_point("second-round-trip", "XML 1.0, 2", {"same-bytes", "other-spelling"},
                             "whether a second round trip writes the same value in another order or spelling");
    out.unlisted_is_altered = false;
    return out;
}

std::span<const Question> all_questions() {
    static const std::vector<Question> questions{
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
        Question::limit_from(16384, "expansion", "XML 1.0, 4.4", "how much text entities may expand to, in bytes"),
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
        Question::open_point("version-number", "XML 1.0, 2.8", {"refused", keeps("accepted")},
                             "whether a version 1.x is processed as 1.0"),
        second_round_trip(),
    };
    return questions;
}

std::span<const Cause> all_causes() {
    static const std::vector<Cause> causes{
        {"element/lost", "an element is missing", "<a><b/></a>"},
        {"element/added", "an element was not in the document", "<a/>"},
        {"element/case-changed", "the same name in another case", "<A/>"},
        {"element/renamed", "an element has another name", "<a/>"},
        {"attribute/lost", "an attribute is missing", "<a b=''/>"},
        {"attribute/added", "an attribute was not in the document", "<a/>"},
        {"attribute/default-not-supplied", "an attribute that the document type supplies is missing (5.1)",
         "<!DOCTYPE a [<!ATTLIST a b CDATA 'x'>]><a/>", Basis::required, "XML 1.0, 5.1"},
        {"attribute/case-changed", "the same name in another case", "<a B=''/>"},
        {"attribute/renamed", "an attribute has another name", "<a b=''/>"},
        {"attribute/order", "attributes in another order", "<a c='' b=''/>"},
        {"attribute/newline-kept", "white space in a value was not normalised (3.3.3)", "<a b='&#9;\\n'/>",
         Basis::required, "XML 1.0, 3.3.3"},
        {"attribute/line-end-kept", "a line end in a value was not normalised (2.11)", "<a b='\\r\\n'/>",
         Basis::required, "XML 1.0, 2.11"},
        {"attribute/reference-normalised",
         "white space given by reference in a value was normalised, or written raw (3.3.3)", "<a b='&#10;'/>",
         Basis::required, "XML 1.0, 3.3.3"},
        {"attribute/reference-not-undone", "a reference in a value is kept as text", "<a b='&lt;'/>",
         Basis::required, "XML 1.0, 4.4.5"},
        {"attribute/white-space-changed", "white space in a value was changed", "<a b=' '/>"},
        {"attribute/reference-undone-twice", "a reference was undone, and what came out was undone again (4.4)",
         "<a b='&amp;lt;'/>", Basis::required, "XML 1.0, 4.4"},
        {"attribute/line-end-of-1.1", "U+0085 or U+2028 was taken for a line end, which they are in XML 1.1",
         "<a b='\\u0085'/>"},
        {"attribute/number-reformatted", "a number in a value is written another way", "<a b='01.0'/>"},
        {"attribute/character-dropped", "a writer left out one character of a value", "<a b='xyz'/>"},
        {"attribute/cut", "the end of a value is missing", "<a b='xy'/>"},
        {"attribute/changed", "an attribute has another value", "<a b='x'/>"},
        {"text/lost", "character data is missing", "<a>x</a>", Basis::required, "XML 1.0, 2.10"},
        {"text/added", "character data was not in the document", "<a/>"},
        {"text/line-end-kept", "CR or CR LF was not made LF (2.11)", "<a>\\r\\n</a>", Basis::required,
         "XML 1.0, 2.11"},
        {"text/reference-normalised", "CR given by reference was made LF, or written raw (2.11)", "<a>&#13;</a>",
         Basis::required, "XML 1.0, 2.11"},
        {"text/reference-not-undone", "a reference is kept as text", "<a>&lt;</a>", Basis::required,
         "XML 1.0, 4.4.2"},
        {"text/reference-expanded", "a reference whose declaration is not to be processed was expanded (5.1)",
         "<!DOCTYPE a SYSTEM 'b'><a>&e;</a>", Basis::required, "XML 1.0, 5.1"},
        {"text/white-space-changed", "white space was dropped or added (2.10)", "<a> </a>", Basis::required,
         "XML 1.0, 2.10"},
        {"text/indentation-added", "white space with line ends was added between elements", "<a><b/></a>"},
        {"text/reference-undone-twice", "a reference was undone, and what came out was undone again (4.4)",
         "<a>&amp;lt;</a>", Basis::required, "XML 1.0, 4.4"},
        {"text/line-end-of-1.1", "U+0085 or U+2028 was taken for a line end, which they are in XML 1.1",
         "<a>\\u0085</a>", Basis::required, "XML 1.0, 2.11"},
        {"text/number-reformatted", "a number in the text is written another way", "<a>01.0</a>"},
        {"text/character-dropped", "a writer left out one character of the text", "<a>xyz</a>"},
        {"text/cut", "the end of the text is missing", "<a>x&amp;y</a>", Basis::required, "XML 1.0, 2.10"},
        {"text/changed", "other character data", "<a>x</a>"},
        {"comment/lost", "a comment is missing", "<a><!----></a>"},
        {"comment/added", "a comment was not in the document", "<a/>"},
        {"comment/changed", "a comment was changed", "<a><!--x--></a>"},
        {"instruction/lost", "a processing instruction is missing", "<a><?p?></a>", Basis::required,
         "XML 1.0, 2.6"},
        {"instruction/added", "a processing instruction was not in the document", "<a/>"},
        {"instruction/changed", "a processing instruction was changed", "<a><?p x?></a>"},
        {"namespace/name-changed", "the same local part in another namespace, or with another prefix",
         "<a xmlns='u'/>"},
        {"namespace/declaration-lost", "a namespace declaration is missing", "<a xmlns:p='u'/>"},
        {"namespace/declaration-added", "a namespace declaration was not in the document", "<a/>"},
        {"layer/as-given", "the same data, written another way", "<a><![CDATA[x]]></a>"},
        {"verdict/refused", "rejected a document that must be accepted", "<a/>"},
        {"verdict/accepted-ill-formed", "accepted a document that is not well-formed", "<a></b>"},
        {"verdict/accepted-ill-formed-names", "accepted a document that is not namespace-well-formed", "<p:a/>"},
        {"verdict/unknown-encoding-accepted", "read a document in an unknown encoding as UTF-8 (4.3.3)",
         "<?xml version='1.0' encoding='x'?><a/>"},
        {"verdict/accepted-against-the-sheet", "accepted a document that the sheet says must be rejected", "<a/>"},
        {"output/ill-formed", "the written text is not well-formed", "<a>&lt;</a>"},
        {"output/not-canonical", "claimed to be in canonical form, but is not", "<a/>"},
        {"round-trip/unstable", "the second round trip differs from the first", "<a/>"},
        {"value/kind", "none of the listed answers", "<a/>"},
        {"question/undeclared-answer", "a declared answer was not observed", "<a/>"},
        {"outcome/crashed", "the process ended", "<a><a>…"},
        {"outcome/timed-out", "no answer before the deadline", "<a><a>…"},
        {"outcome/out-of-memory", "more resident memory than the limit", "<a><a>…"},
        {"outcome/threw", "a failure that the implementation does not document", "<a/>"},
        {"outcome/exhausted", "the runtime reported no memory, or a stack that is too deep", "<a><a>…"},
        {"outcome/unclear", "a failure and an empty document cannot be distinguished", "<a/>"},
        {"outcome/adapter-fault", "the adapter's own code failed; says nothing about the library", "<a/>"},
        {"outcome/broken-reply", "the adapter's reply broke the protocol; says nothing about the library", "<a/>"},
        {"outcome/unsteady", "the answer depends on earlier requests", "<a/>"},
        {"verdict/accepted-differently", "accepted by some implementations and rejected by others", "<p:a/>"},
    };
    return causes;
}

}  // namespace nachklang::xml

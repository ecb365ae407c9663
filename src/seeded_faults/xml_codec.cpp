// The table of XML faults, and the codec that runs with one of them.
#include "seeded_faults/xml_codec.hpp"

#include <algorithm>

#include "seeded_faults/xml_writer.hpp"

namespace seeded_faults {
namespace {

using nachklang::adapter::Reply;
using nachklang::adapter::TraceOut;
using Kind = XmlNode::Kind;

constexpr const char* accepted = "verdict/accepted-ill-formed";
constexpr const char* accepted_names = "verdict/accepted-ill-formed-names";
constexpr const char* refused = "verdict/refused";

XmlFault lets(const char* name, const char* mistake, std::set<std::string> checks, const char* cause = accepted,
              const char* also = "") {
    return {name, mistake, cause, [checks](XmlHooks& h) { h.habits.lets = checks; }, also};
}
XmlFault refuses(const char* name, const char* mistake, const char* what) {
    return {name, mistake, refused, [what](XmlHooks& h) { h.habits.refuses = {what}; }};
}
XmlFault skips(const char* name, const char* mistake, const char* step, const char* cause, const char* also = "") {
    return {name, mistake, cause, [step](XmlHooks& h) { h.habits.skips = {step}; }, also};
}
XmlFault spoils(const char* name, const char* mistake, const char* cause, std::function<void(XmlNode&)> node,
                const char* also = "") {
    return {name, mistake, cause, [node](XmlHooks& h) { h.habits.node = node; }, also};
}

XmlFault builds(const char* name, const char* mistake, const char* step, const char* cause, const char* also = "") {
    return {name, mistake, cause, [step](XmlHooks& h) { h.left_out = {step}; }, also};
}

XmlFault arrives(const char* name, const char* mistake, const char* cause, Arrival arrival, const char* also = "") {
    return {name, mistake, cause, [arrival = std::move(arrival)](XmlHooks& h) { h.arrival = arrival; }, also};
}

template <class Mistakes>
XmlFault sets(Mistakes XmlHooks::*part, const char* name, const char* mistake, const char* cause,
              bool Mistakes::*flag, const char* also) {
    return {name, mistake, cause, [part, flag](XmlHooks& h) { h.*part.*flag = true; }, also};
}
XmlFault binds(const char* name, const char* mistake, const char* cause, bool XmlRecordMistakes::*flag,
               const char* also = "") {
    return sets(&XmlHooks::record, name, mistake, cause, flag, also);
}
XmlFault splits(const char* name, const char* mistake, const char* cause, bool XmlSequenceMistakes::*flag,
                const char* also = "") {
    return sets(&XmlHooks::sequence, name, mistake, cause, flag, also);
}

bool is_blank(const std::string& text) {
    return text.find_first_not_of(" \t\r\n") == std::string::npos;
}
std::string trimmed(const std::string& text) {
    const auto first = text.find_first_not_of(" \t\r\n");
    return first == std::string::npos ? "" : text.substr(first, text.find_last_not_of(" \t\r\n") - first + 1);
}
/// Each child, and each child of it, is a node that has been spoilt already: only this level is left to do.
template <class Gone>
void drop_children(XmlNode& node, Gone gone) {
    std::erase_if(node.children, gone);
}
std::string without_planes(const std::string& text) {
    std::string out;
    for (std::size_t i = 0; i < text.size(); ++i) {
        if ((static_cast<unsigned char>(text[i]) & 0xF8) == 0xF0) {
            out += '?';
            i += 3;
        } else {
            out += text[i];
        }
    }
    return out;
}

const std::vector<XmlFault>& rows() {
    static const std::vector<XmlFault> all{
        // --- checks that are left out ---
        lets("end-tag-not-compared", "any end tag ends the open element", {"end-tag"}),
        lets("end-tag-capitals-alike", "end tags are compared without regard to capitals", {"end-tag-capitals"}),
        lets("attribute-twice-let-through", "an attribute may occur twice in a tag", {"attribute-once"}, accepted,
             accepted_names),
        lets("less-than-in-value-let-through", "'<' may occur in a value", {"less-than-in-value"}),
        lets("less-than-in-value-by-entity", "'<' may come into a value by an entity", {"less-than-by-entity"}),
        lets("cdata-end-in-text-let-through", "']]>' may occur in text", {"cdata-end"}),
        lets("hyphens-in-comment-let-through", "'--' may occur in a comment", {"hyphens"}),
        lets("controls-let-through", "control characters may occur anywhere", {"controls"}),
        lets("noncharacters-let-through", "U+FFFE and U+FFFF may occur anywhere", {"noncharacters"}),
        lets("reference-to-control-let-through", "references to characters that are none",
             {"reference-to-illegal"}),
        lets("reference-to-surrogate-let-through", "references to halves of pairs", {"reference-to-surrogate"}),
        lets("reference-too-large-let-through", "references past the last character", {"reference-too-large"}),
        lets("reference-wraps-at-32-bits", "a reference's number is kept in 32 bits", {"reference-wraps"}),
        lets("capital-x-in-reference", "&#X41; is taken for &#x41;", {"capital-x"}),
        lets("semicolon-may-be-missing", "a reference need not end with ';'", {"semicolon"}),
        lets("ampersand-alone-let-through", "an ampersand before no name is text", {"ampersand"}),
        lets("undeclared-entity-let-through", "an undeclared entity is passed over", {"declared"}),
        lets("standalone-ignored", "entities declared outside count in a standalone document", {"declared-inside"}),
        lets("unparsed-entity-referred", "an unparsed entity may be referred to", {"unparsed"}),
        lets("external-entity-in-value", "an external entity may be referred to in a value", {"external-in-value"}),
        lets("percent-in-entity-value", "'%' may occur in an entity's value", {"percent-in-value"}),
        lets("target-xml-let-through", "an instruction's target may be xml", {"target-xml"}),
        lets("second-root-let-through", "elements after the root are passed over", {"one-root"}, accepted,
             accepted_names),
        lets("anything-after-the-root", "content after the root is not checked", {"nothing-after-root"}),
        lets("two-document-types", "a document type may be declared twice", {"one-doctype"}),
        lets("any-version", "any version number is taken", {"version"}),
        lets("any-standalone", "standalone may say anything", {"standalone"}),
        lets("any-encoding-name", "an encoding may have any name", {"encoding-name", "encoding-agrees"}),
        lets("encoding-contradicted", "the declaration may name another encoding", {"encoding-agrees"}),
        lets("ill-formed-utf-8-let-through", "ill-formed bytes become U+FFFD", {"utf-8"}),
        lets("overlong-utf-8-let-through", "overlong sequences are read", {"overlong"}),
        lets("surrogates-in-utf-8-let-through", "three-byte surrogates become U+FFFD", {"surrogate-in-utf-8"}),
        lets("lone-unit-let-through", "a lone surrogate of UTF-16 becomes U+FFFD", {"lone-unit"}),
        lets("half-unit-let-through", "an odd byte at the end of UTF-16 is dropped", {"half-unit"}),
        lets("ascii-with-high-bytes", "US-ASCII is read as ISO-8859-1", {"ascii"}),
        lets("unquoted-values-let-through", "a value needs no quotes", {"quotes"}),
        lets("no-space-between-attributes", "attributes need no space between them", {"space-between-attributes"}),
        lets("names-begin-with-anything", "a name may begin with any name character", {"name-start"}),
        lets("separators-mixed", "'|' and ',' may occur in one group", {"one-separator"}),
        lets("mixed-content-without-star", "(#PCDATA|b) needs no star", {"mixed-star"}),
        lets("any-attribute-type", "an attribute may be of any type", {"attribute-type"}),
        lets("any-public-identifier", "a public identifier may hold any character", {"public-characters"}),
        // --- names ---
        lets("undeclared-prefix-let-through", "prefixes need no declaration", {"prefix-declared"}, accepted_names),
        lets("expanded-name-twice-let-through", "attributes are compared by their prefixes only", {"expanded-once"},
             accepted_names),
        lets("xmlns-declared-let-through", "the prefix xmlns may be declared", {"xmlns-declared", "xmlns-bound"},
             accepted_names),
        lets("xml-bound-otherwise", "xml may be bound to any name", {"xml-bound"}, accepted_names),
        lets("prefix-unbound-let-through", "xmlns:p='' is taken", {"prefix-unbound"}, accepted_names),
        lets("colons-anywhere", "a name may hold any number of colons", {"qualified", "prefix-declared"},
             accepted_names),
        lets("colon-in-target-let-through", "an instruction's target may hold a colon", {"colon-in-target"},
             accepted_names),
        lets("colon-in-entity-let-through", "entities and notations may hold colons", {"colon-in-name"},
             accepted_names),
        lets("xmlns-element-let-through", "an element may have the prefix xmlns",
             {"xmlns-element", "prefix-declared"}, accepted_names),
        // --- valid documents that are refused ---
        refuses("single-quotes-refused", "values need double quotes", "single-quotes"),
        refuses("empty-comment-refused", "a comment needs a character", "empty-comment"),
        refuses("greater-than-refused", "'>' is not allowed in text", "greater-than"),
        refuses("hexadecimal-references-refused", "references are decimal", "hex-references"),
        // --- steps that are left out ---
        skips("line-ends-kept", "CR and CR LF are not made LF", "line-ends", "text/line-end-kept",
              "attribute/white-space-changed"),
        skips("attribute-newline-kept", "line ends and tabs stay in values", "values-normalised",
              "attribute/newline-kept", "attribute/white-space-changed"),
        skips("tokens-not-collapsed", "values of tokenised types keep their spaces", "tokens",
              "attribute/white-space-changed"),
        skips("defaults-not-supplied", "declared defaults are not supplied", "defaults",
              "attribute/default-not-supplied"),
        skips("references-kept-in-text", "predefined entities stay as they are in text", "references-in-text",
              "text/reference-not-undone", "text/changed"),
        skips("references-kept-in-values", "predefined entities stay as they are in values", "references-in-values",
              "attribute/reference-not-undone"),
        skips("last-attribute-declaration-binds", "of two declarations of an attribute the last counts",
              "first-attribute-binds", "attribute/changed", "attribute/added"),
        skips("last-entity-declaration-binds", "of two declarations of an entity the last counts",
              "first-entity-binds", "text/changed"),
        skips("default-namespace-on-attributes", "attributes without a prefix are in the default namespace",
              "attributes-without-default", "namespace/name-changed", "attribute/changed"),
        skips("default-not-undeclared", "xmlns='' does not undeclare", "default-undeclared",
              "namespace/name-changed"),
        // --- nodes that are changed ---
        spoils(
            "cdata-lost", "CDATA sections are dropped", "text/lost",
            [](XmlNode& n) {
                drop_children(n, [](const XmlNode& c) { return c.kind == Kind::cdata && !is_blank(c.text); });
            },
            "text/changed"),
        spoils("instructions-lost", "instructions inside elements are dropped", "instruction/lost",
               [](XmlNode& n) { drop_children(n, [](const XmlNode& c) { return c.kind == Kind::instruction; }); }),
        spoils(
            "white-space-dropped", "text of nothing but white space is dropped", "text/white-space-changed",
            [](XmlNode& n) {
                drop_children(n, [](const XmlNode& c) { return c.kind == Kind::text && is_blank(c.text); });
            },
            ""),
        spoils(
            "text-trimmed", "text loses white space at its ends", "text/white-space-changed",
            [](XmlNode& n) {
                if (n.kind == Kind::text) n.text = trimmed(n.text);
            },
            "text/lost"),
        spoils("comment-trimmed", "comments lose white space at their ends", "comment/changed",
               [](XmlNode& n) {
                   if (n.kind == Kind::comment) n.text = trimmed(n.text);
               }),
        spoils("instruction-data-trimmed", "an instruction's data loses white space at its end",
               "instruction/changed",
               [](XmlNode& n) {
                   if (n.kind == Kind::instruction) n.text = trimmed(n.text);
               }),
        spoils("empty-elements-dropped", "an element without content that is alone in another is dropped",
               "element/lost",
               [](XmlNode& n) {
                   if (n.children.size() != 1) return;
                   drop_children(n, [](const XmlNode& c) {
                       return c.kind == Kind::element && c.children.empty() && c.attributes.empty();
                   });
               }),
        spoils(
            "empty-values-dropped", "attributes with an empty value are dropped", "attribute/lost",
            [](XmlNode& n) {
                std::erase_if(n.attributes, [](const XmlAttribute& a) {
                    return a.value.empty() && !a.name.starts_with("xmlns");
                });
            },
            "attribute/default-not-supplied"),
        spoils("higher-planes-lost", "characters beyond U+FFFF become ?", "text/changed",
               [](XmlNode& n) {
                   if (n.kind == Kind::text) n.text = without_planes(n.text);
               }),
        spoils(
            "numbers-tidied", "leading zeros of numbers are dropped in values", "attribute/number-reformatted",
            [](XmlNode& n) {
                for (XmlAttribute& a : n.attributes)
                    while (a.value.size() > 1 && a.value[0] == '0') a.value.erase(0, 1);
            },
            "attribute/changed"),
        // --- mistakes with pieces ---
        arrives("pieces-replace-characters", "a character that is cut between two pieces is replaced",
                "pieces/other-value", characters_replaced, "pieces/other-verdict"),
        arrives("pieces-count-line-ends-twice", "a return and a line feed in two pieces are two line ends",
                "pieces/other-value", line_ends_counted_twice),
        arrives("pieces-cut-reference", "a reference that is cut behind its '&' is refused", "pieces/other-verdict",
                refuses_between([](char c) { return c == '&'; }, [](char) { return true; })),
        arrives("pieces-cut-section-end", "the end of a CDATA section that is cut is refused",
                "pieces/other-verdict",
                refuses_between([](char c) { return c == ']'; }, [](char c) { return c == ']'; })),
        arrives("pieces-cut-comment", "a comment that is cut between its hyphens is refused",
                "pieces/other-verdict",
                refuses_between([](char c) { return c == '-'; }, [](char c) { return c == '-'; })),
        // --- mistakes in writing ---
        {"less-than-written-raw", "'<' is not escaped in text", "output/ill-formed",
         [](XmlHooks& h) { h.unescaped_in_text = {'<'}; }, "element/added"},
        {"quote-written-raw", "'\"' is not escaped in values", "output/ill-formed",
         [](XmlHooks& h) { h.unescaped_in_values = {'"'}; }},
        {"return-written-raw", "a carriage return is not escaped in text", "text/reference-normalised",
         [](XmlHooks& h) { h.unescaped_in_text = {'\r'}; }},
        {"newline-written-raw-in-values", "tabs and line ends are not escaped in values",
         "attribute/reference-normalised",
         [](XmlHooks& h) {
             h.unescaped_in_values = {'\n', '\t', '\r'};
         }},
        {"root-written-twice", "the document is written twice", "output/ill-formed",
         [](XmlHooks& h) { h.write_document = [](std::string d) { return d + d; }; }},
        // --- mistakes in encoding values ---
        builds("hyphens-written-in-comments", "a comment is written whatever it holds", "comment-checked",
               "not-xml:ill-formed"),
        builds("section-end-written-in-sections", "']]>' ends a CDATA section that goes on", "section-split",
               "output/ill-formed"),
        builds("instruction-end-written", "an instruction is written whatever its data holds",
               "instruction-checked", "not-xml:other"),
        builds("section-end-written-in-text", "']]>' is written as it is in text", "section-end-escaped",
               "output/ill-formed"),
        builds("controls-written", "control characters are written", "controls-refused", "not-xml:ill-formed"),
        builds("controls-dropped", "control characters are left out of what is written", "controls-kept",
               "not-xml:dropped"),
        builds("names-written-unchecked", "a name is written whatever it holds", "names-checked",
               "not-xml:ill-formed"),
        builds("default-namespace-caught", "an element in no namespace is written inside a default namespace",
               "default-undeclared", "declarations-left-out:other"),
        builds("prefixes-written-undeclared", "a prefix is written without its declaration", "prefix-declared",
               "output/ill-formed"),
        builds("pairs-written-as-two-references", "a character beyond U+FFFF becomes two references",
               "one-reference", "output/ill-formed", "text/changed"),
        builds("names-alike-written-twice", "an attribute is written as often as it is given", "attribute-once",
               "not-xml:ill-formed"),
        builds("second-root-written", "elements are written one after another", "one-root", "not-xml:ill-formed"),
        builds("text-outside-written", "text is written outside the root, too", "text-inside",
               "not-xml:ill-formed"),
        // --- mistakes with records ---
        binds("field-text-ends-at-comment", "a text field ends before a comment or an instruction",
              "record/text-cut", &XmlRecordMistakes::text_ends_at_comment, "record/text-changed"),
        binds("field-sections-left-out", "CDATA sections are no part of a number", "record/number-changed",
              &XmlRecordMistakes::sections_left_out, refused),
        binds("field-integer-wraps", "an integer field keeps a number modulo 2^32", "record/number-wrapped",
              &XmlRecordMistakes::wraps),
        binds("field-fraction-cut", "an integer field takes a number without its fraction", "record/fraction-lost",
              &XmlRecordMistakes::cuts_fractions),
        binds("field-word-is-zero", "an integer field takes a text without a digit for 0",
              "record/text-became-number", &XmlRecordMistakes::word_is_zero),
        binds("field-list-of-last", "each element of a list takes the place of the one before",
              "record/list-element-lost", &XmlRecordMistakes::last_of_list),
        binds("field-list-begins-anew", "a list begins anew behind another element", "record-list:last",
              &XmlRecordMistakes::list_begins_anew),
        binds("field-texts-trimmed", "a text field loses white space at its ends", "record-white-space:trimmed",
              &XmlRecordMistakes::trims_texts),
        binds("field-empty-is-default", "an empty element is 0 or false", "record-empty:default",
              &XmlRecordMistakes::empty_is_default),
        binds("field-nested-left-unset", "a nested record that is absent is left as memory was", "value/unset",
              &XmlRecordMistakes::nested_unset),
        binds("field-namespaces-ignored", "names of fields are compared without their namespaces",
              "record-namespace:matched", &XmlRecordMistakes::namespaces_ignored),
        binds("field-takes-attributes", "an attribute counts as the element of its name",
              "record-attribute:matched", &XmlRecordMistakes::takes_attributes),
        binds("field-true-by-first-letter", "a boolean is true if it begins with t or 1", "record/other-kind",
              &XmlRecordMistakes::true_by_first_letter),
        binds("field-nil-ignored", "an element marked xsi:nil is an empty one", "record-nil:default",
              &XmlRecordMistakes::nil_ignored),
        binds("field-writes-markup-raw", "'<' and '&' are written as they are", "output/ill-formed",
              &XmlRecordMistakes::markup_raw, "record/text-changed"),
        binds("field-writes-returns-raw", "a carriage return is written as it is", "record/text-changed",
              &XmlRecordMistakes::returns_raw),
        binds("field-writes-value-ends-raw", "a line end is written into an attribute as it is",
              "record/text-changed", &XmlRecordMistakes::value_ends_raw),
        binds("field-writes-no-empty-text", "an empty text is not written", "record/field-lost",
              &XmlRecordMistakes::empty_left_out),
        binds("field-writes-list-in-one-element", "the elements of a list are written into one",
              "record/other-kind", &XmlRecordMistakes::list_in_one_element, "record/list-element-lost"),
        binds("field-writes-controls", "characters that no document holds are written", "record-not-xml:ill-formed",
              &XmlRecordMistakes::controls_written),
        binds("field-leaves-controls-out", "characters that no document holds are left out",
              "record-not-xml:dropped", &XmlRecordMistakes::controls_left_out),
        binds("field-writes-six-digits", "a number is written with six digits", "record/number-changed",
              &XmlRecordMistakes::numbers_with_six_digits),
        splits("documents-end-after-one", "of several documents the first is read", "sequence/rest-lost",
               &XmlSequenceMistakes::first_alone),
        splits("documents-keep-type", "a document type holds for later documents, too", "sequence/other-value",
               &XmlSequenceMistakes::document_type_kept, "attribute/added"),
        splits("documents-keep-namespace", "a default namespace holds for later documents, too",
               "namespace/name-changed", &XmlSequenceMistakes::namespace_kept),
        splits("documents-skip-text", "a text between two documents is ignored", "documents-separator:skipped",
               &XmlSequenceMistakes::text_skipped),
        splits("documents-drop-empty-tags", "a document that is an empty-element tag is left out",
               "sequence/other-value", &XmlSequenceMistakes::empty_tags_left_out, "sequence/rest-lost"),
        splits("documents-end-at-comment", "a comment between two documents ends the text", "sequence/rest-lost",
               &XmlSequenceMistakes::ends_at_comment),
        splits("documents-refuse-last-line-end", "a line end behind the last document is refused",
               "sequence/end-refused", &XmlSequenceMistakes::refuses_last_line_end),
        splits("documents-one-behind", "a document of a stream is handed over when the next one begins",
               "documents-handed-over:one-behind", &XmlSequenceMistakes::one_behind),
    };
    return all;
}

}  // namespace

std::span<const XmlFault> xml_faults() {
    return rows();
}

XmlCodec::XmlCodec(std::string_view fault) : fault_(fault) {
    if (fault.empty()) return;
    const auto found =
        std::find_if(rows().begin(), rows().end(), [&](const XmlFault& f) { return f.name == fault; });
    if (found == rows().end()) throw std::invalid_argument("no fault is called " + std::string(fault));
    found->install(hooks_);
}

nachklang::adapter::Description XmlCodec::describe() const {
    // Records are read without the hooks of decoders.
    std::vector<std::string> operations{"decode", "round-trip", "encode", "pieces", "sequence", "open-stream"};
    if (fault_.empty() || fault_.starts_with("field-"))
        operations.insert(operations.end(), {"bind", "bind-round-trip", "bind-encode"});
    return {.name = "seeded-faults-xml",
            .version = fault_.empty() ? "sound" : fault_,
            .capabilities = {{"xml", operations}},
            .settings = {{"namespaces", "on"}, {"external", "none"}, {"simulated", "yes"}}};
}

Reply XmlCodec::shown(std::string_view document, bool root_alone, TraceOut& out) const {
    try {
        auto nodes = recognise_xml(document, hooks_.habits);
        if (root_alone)
            std::erase_if(nodes, [](const XmlNode& node) { return node.kind != XmlNode::Kind::element; });
        if (!out.wanted()) return Reply::accepted();
        const std::string trace = print_xml_trace(nodes);
        if (!trace.empty()) out.line(std::string_view(trace).substr(0, trace.size() - 1));
        return Reply::accepted();
    } catch (const XmlRefused& why) {
        return Reply::rejected(why.what());
    }
}

Reply XmlCodec::decode(std::string_view, std::string_view, std::string_view document, TraceOut& out) {
    return shown(document, false, out);
}

Reply XmlCodec::bind(std::string_view, std::string_view, std::string_view record, std::string_view document,
                     TraceOut& out) {
    try {
        const auto fields = xml_record(recognise_xml(document), record, hooks_.record);
        if (!fields) return Reply::rejected("a value that the record has no room for");
        out.line(std::string_view(*fields).substr(0, fields->size() - 1));
        return Reply::accepted();
    } catch (const XmlRefused& why) {
        return Reply::rejected(why.what());
    }
}

Reply XmlCodec::bind_round_trip(std::string_view format, std::string_view mode, std::string_view record,
                                std::string_view document) {
    TraceOut fields(true);
    const Reply bound = bind(format, mode, record, document, fields);
    if (bound.kind != "accepted") return bound;
    return Reply::accepted(written_xml_record(fields.take(), record, hooks_.record));
}

Reply XmlCodec::bind_encode(std::string_view, std::string_view, std::string_view record, std::string_view trace) {
    try {
        return Reply::accepted(written_xml_record(trace, record, hooks_.record));
    } catch (const XmlRefused& why) {
        return Reply::rejected(why.what());
    }
}

Reply XmlCodec::pieces(std::string_view format, std::string_view mode, const Pieces& pieces, TraceOut& out) {
    const auto document = hooks_.arrival ? hooks_.arrival(pieces) : joined(pieces);
    return document ? decode(format, mode, *document, out) : Reply::rejected("cannot go on after this piece");
}

Reply XmlCodec::sequence(std::string_view, std::string_view, std::string_view text, TraceOut& out) {
    for (const std::string& document : xml_documents_of(text, hooks_.sequence))
        if (Reply reply = shown(document, true, out); reply.kind != "accepted") return reply;
    const bool refused = hooks_.sequence.refuses_last_line_end && text.ends_with('\n');
    return refused ? Reply::rejected("a document was expected") : Reply::accepted();
}

/// What is refused at the end may be half a document.
Reply XmlCodec::open_stream(std::string_view, std::string_view, std::string_view text, TraceOut& out) {
    Documents documents = xml_documents_of(text, hooks_.sequence);
    if (hooks_.sequence.one_behind && !documents.empty()) documents.pop_back();
    for (std::size_t i = 0; i < documents.size(); ++i)
        if (Reply reply = shown(documents[i], true, out); reply.kind != "accepted")
            return i + 1 < documents.size() ? reply : Reply::accepted();
    return Reply::accepted();
}

Reply XmlCodec::round_trip(std::string_view, std::string_view, std::string_view document) {
    try {
        const std::string out = written_xml(recognise_xml(document, hooks_.habits), hooks_);
        return Reply::accepted(hooks_.write_document ? hooks_.write_document(out) : out);
    } catch (const XmlRefused& why) {
        return Reply::rejected(why.what());
    }
}

Reply XmlCodec::encode(std::string_view, std::string_view, std::string_view trace) {
    try {
        return Reply::accepted(encoded_xml(trace, hooks_));
    } catch (const XmlRefused& why) {
        return Reply::rejected(why.what());
    }
}

}  // namespace seeded_faults

// The productions, constraints and sentences of XML 1.0 and Namespaces 1.0, and which of them a document
// exercises. That follows from what an accepted document contains, from the clause that a refused one breaks, and
// from the questions it raises. Some occur only in the external files that a document names.
#include <algorithm>
#include <array>

#include <nachklang/xml.hpp>

#include "xml/internal.hpp"

namespace nachklang::xml {
namespace {

struct Row {
    const char* clause;
    const char* wording;
    const char*
        contains;  ///< of an accepted document: any of these, apart by blanks; "*": every one; null: no such side
    bool rejects;  ///< there are documents that break it
    const char* opens;  ///< the question that it leaves open, or null
};

constexpr const char* none = nullptr;
constexpr std::array rows{
    Row{"production 1", "a document is a prolog, an element and what may follow it", "*", true, none},
    Row{"production 2", "which characters a document may hold", "*", true, none},
    Row{"production 3", "what white space is", "\x20", false, none},
    Row{"production 4", "what a name begins with", "*", false, "fifth-edition-names"},
    Row{"production 5", "what a name is made of", "*", false, "fifth-edition-names"},
    Row{"production 7", "a name token", "NMTOKEN (1|", false, none},
    Row{"production 9", "an entity's value", "<!ENTITY", true, none},
    Row{"production 10", "an attribute's value is in quotes", "=' =\"", true, none},
    Row{"production 11", "a system identifier is in quotes", "SYSTEM", true, none},
    Row{"production 12", "a public identifier is in quotes", "PUBLIC", true, none},
    Row{"production 13", "which characters a public identifier has", "PUBLIC", true, none},
    Row{"production 14", "character data has no ]]>", "]]", true, none},
    Row{"production 15", "a comment has no --", "<!--", true, none},
    Row{"production 16", "an instruction ends with ?>", "<?p", true, none},
    Row{"production 17", "a target is not xml", "<?xml-stylesheet <?p", true, none},
    Row{"production 18", "a CDATA section", "<![CDATA[", false, none},
    Row{"production 19", "how a CDATA section begins", "<![CDATA[", true, none},
    Row{"production 20", "where a CDATA section ends", "]]>", true, none},
    Row{"production 22", "the prolog", "<?xml", false, none},
    Row{"production 23", "the declaration", "<?xml", true, none},
    Row{"production 24", "a version is named first", "version", true, none},
    Row{"production 25", "an equals sign, white space round it", "=", true, none},
    Row{"production 26", "a version number is 1. and digits", "version", true, "version-number"},
    Row{"production 27", "comments, instructions and white space round the root", "<!--", true, none},
    Row{"production 28", "a document type declaration", "<!DOCTYPE", true, none},
    Row{"production 28b", "the internal subset", "[", true, none},
    Row{"production 29", "a markup declaration", "<!ELEMENT <!ATTLIST", true, none},
    Row{"production 32", "standing alone is yes or no", "standalone", true, none},
    Row{"production 39", "an element is ended", "</", true, none},
    Row{"production 40", "a start tag", "<a", true, none},
    Row{"production 41", "an attribute has a name and a value", "=", true, none},
    Row{"production 42", "an end tag", "</", true, none},
    Row{"production 43", "content", "*", true, none},
    Row{"production 44", "an empty-element tag", "/>", true, none},
    Row{"production 45", "an element type's declaration", "<!ELEMENT", true, none},
    Row{"production 46", "EMPTY, ANY or a model", "EMPTY ANY", true, none},
    Row{"production 47", "a model of children", "(b)", false, none},
    Row{"production 48", "a content particle", "(b", true, none},
    Row{"production 49", "a choice", "(b|", true, none},
    Row{"production 50", "a sequence", "(b,", true, none},
    Row{"production 51", "mixed content", "#PCDATA", true, none},
    Row{"production 52", "an attribute-list declaration", "<!ATTLIST", true, none},
    Row{"production 53", "an attribute's definition", "CDATA", true, none},
    Row{"production 54", "an attribute's type", "IDREFS", true, none},
    Row{"production 58", "a notation type", "NOTATION", true, none},
    Row{"production 59", "an enumeration", "(x|", true, none},
    Row{"production 60", "a default", "#REQUIRED #FIXED", true, none},
    Row{"production 66", "a character reference", "&#", true, none},
    Row{"production 68", "an entity reference", "&e;", true, none},
    Row{"production 69", "a parameter-entity reference", "%p;", true, none},
    Row{"production 70", "an entity's declaration", "<!ENTITY", true, none},
    Row{"production 71", "a general entity's declaration",
        "<!ENTITY\x20"
        "e",
        true, none},
    Row{"production 72", "a parameter entity's declaration", "%", true, none},
    Row{"production 75", "an external identifier", "SYSTEM PUBLIC", true, none},
    Row{"production 76", "an entity that is not parsed", "NDATA", true, none},
    Row{"production 80", "an encoding declaration", "encoding", true, none},
    Row{"production 81", "an encoding's name", "encoding", true, none},
    Row{"production 82", "a notation's declaration", "<!NOTATION", true, none},
    Row{"WFC PEs in Internal Subset", "no parameter entity inside a declaration of the internal subset", none, true,
        none},
    Row{"WFC PE Between Declarations", "a parameter entity between declarations holds whole ones", "%p;", true,
        none},
    Row{"WFC Element Type Match", "an end tag has the start tag's name", "</", true, none},
    Row{"WFC Unique Att Spec", "an attribute occurs once in a tag", "=", true, none},
    Row{"WFC No External Entity References", "no external entity in a value", none, true, none},
    Row{"WFC No < in Attribute Values", "no < in a value, by an entity neither", "&lt;", true, none},
    Row{"WFC Legal Character", "a reference names a character of documents", "&#", true, none},
    Row{"WFC Entity Declared", "an entity is declared before it is used", "&e;", true, "undeclared-entity"},
    Row{"WFC Parsed Entity", "an entity referred to is parsed", none, true, none},
    Row{"WFC No Recursion", "no entity refers to itself", none, true, none},
    Row{"2.10", "all white space is passed on", ">\n<", false, none},
    Row{"2.11", "line ends are read as LF", "\r", false, none},
    Row{"3.3.2", "defaults are supplied", "<!ATTLIST", false, none},
    Row{"3.3.3", "values are normalised", "\t", false, none},
    Row{"4.3.3", "encodings: ill-formed text, contradicted declarations, what may be refused", "\xC3 \xFF", true,
        "encoding"},
    Row{"4.4", "entities expand", "&e;", false, "expansion"},
    Row{"4.4.3", "what is outside may stay unread", none, false, "external-entities"},
    Row{"4.6", "lt, gt, amp, apos and quot", "&amp; &lt; &gt; &apos; &quot;", false, "predefined-entities"},
};
constexpr std::array name_rows{
    Row{"3, NSC Reserved Prefixes and Namespace Names", "what xml and xmlns may be bound to", "xmlns:xml=", true,
        none},
    Row{"4", "names have a colon at most, and names on both sides of it", ":", true, none},
    Row{"5, NSC Prefix Declared", "a prefix is declared", "xmlns:", true, none},
    Row{"5, NSC No Prefix Undeclaring", "a prefix is not undeclared", "xmlns:", true, none},
    Row{"6.2", "the default namespace does not hold for attributes", "xmlns='", false, none},
    Row{"6.3, NSC Attributes Unique", "no two attributes with one expanded name", "xmlns:", true, none},
    Row{"7", "no colon in targets, entities and notations", "<?p <!ENTITY", true, none},
};

constexpr std::array outside_rows{
    Row{"production 30", "the external subset", "<!ATTLIST", false, none},
    Row{"production 31", "what may occur in the external subset", "<!-- <?p", true, none},
    Row{"production 61", "a conditional section is included or ignored", "<![%draft;[", true, none},
    Row{"production 62", "an included section", "INCLUDE", true, none},
    Row{"production 63", "an ignored section", "IGNORE", true, none},
    Row{"production 64", "sections in an ignored one", "<![IGNORE[ <![", true, none},
    Row{"production 65", "what is ignored is any character", "<!-- %x;", false, none},
    Row{"production 77", "a text declaration", "<?xml", true, none},
    Row{"production 78", "an external parsed entity matches its production by itself", "<b>", true, none},
};

struct Standard {
    std::string_view name;
    std::span<const Row> rows;
    bool outside;  ///< looked for in external files, not in the document
};
constexpr std::array<Standard, 3> standards{
    {{"XML 1.0", rows, false}, {"XML 1.0", outside_rows, true}, {"Namespaces 1.0", name_rows, false}}};

bool contains_any(std::string_view document, std::string_view words) {
    if (words == "*") return true;
    if (words == " ") return document.find(' ') != std::string_view::npos;
    // A blank ends a word, unless the whole is one that has a blank inside.
    for (std::size_t at = 0; at <= words.size();) {
        const std::size_t end = std::min(words.find(' ', at), words.size());
        if (end > at && document.find(words.substr(at, end - at)) != std::string_view::npos) return true;
        at = end + 1;
    }
    return document.find(words) != std::string_view::npos;
}

bool breaks(const Rejection& rejection, std::string_view standard, const Row& row) {
    // A declaration that ends inside a parameter entity is not complete.
    if (std::string_view(row.clause) == "WFC PE Between Declarations")
        return rejection.entity_stack.find("entity %") != std::string::npos;
    // Content that does not end in its entity.
    if (std::string_view(row.clause) == "production 78")
        return !rejection.entity_stack.empty() &&
               (rejection.clause == "XML 1.0, production 39" || rejection.clause == "XML 1.0, production 43");
    return rejection.clause == std::string(standard) + ", " + row.clause;
}

}  // namespace

std::span<const Requirement> all_requirements() {
    static const auto every = [] {
        std::vector<Requirement> out;
        for (const auto& [standard, all, outside] : standards)
            for (const Row& row : all) {
                std::string id(standard == "XML 1.0" ? row.clause : "namespaces " + std::string(row.clause));
                out.push_back({std::move(id), std::string(standard) + ", " + row.clause, row.wording,
                               row.contains != nullptr, row.rejects, row.opens != nullptr});
            }
        return out;
    }();
    return every;
}

std::vector<Exercised> exercised_by(std::string_view document, const Fetch& fetch) {
    std::vector<Exercised> out;
    std::string fetched;
    const Fetch noting = [&](std::string_view system_id, std::string_view base) {
        auto found = fetch(system_id, base);
        if (found) fetched += found->bytes;
        return found;
    };
    const Reading reading = read(document, fetch ? noting : Fetch{});
    if (!reading.unreadable_because.empty()) return out;
    const auto& rejection = reading.rejection ? reading.rejection : reading.namespace_rejection;
    std::size_t i = 0;
    for (const auto& [standard, all, outside] : standards) {
        const std::string_view where = outside ? fetched : document;
        for (const Row& row : all) {
            if (!rejection && row.contains != nullptr && contains_any(where, row.contains))
                out.push_back({i, Stance::accept});
            if (rejection && row.rejects && breaks(*rejection, standard, row)) out.push_back({i, Stance::reject});
            if (row.opens != nullptr &&
                std::any_of(reading.occurrences.begin(), reading.occurrences.end(),
                            [&](const Occurrence& t) { return t.question == row.opens && t.amount > 0; }))
                out.push_back({i, Stance::open});
            ++i;
        }
    }
    return out;
}

}  // namespace nachklang::xml

// The XML reader compared with Expat, libxml2 and Xerces-C on given documents and on mutations of them.
//
//     xml_differences SEED MUTATIONS FILE…
//
// Mutations know the markup: they swap, cut and double pieces, rename tags, change references, declarations and
// encodings. Every difference of verdicts is counted under what we say and what the other says, with the smallest
// document met. docs/xml-differences.md explains each by the standard's text.
#include <expat.h>
#include <fmt/format.h>
#include <libxml/parser.h>
#include <libxml/xmlerror.h>

#include <algorithm>
#include <filesystem>
#include <fstream>
#include <map>
#include <random>
#include <xercesc/framework/MemBufInputSource.hpp>
#include <xercesc/sax2/DefaultHandler.hpp>
#include <xercesc/sax2/SAX2XMLReader.hpp>
#include <xercesc/sax2/XMLReaderFactory.hpp>
#include <xercesc/util/PlatformUtils.hpp>
#include <xercesc/util/XMLString.hpp>

#include <nachklang/xml.hpp>

namespace {

using namespace nachklang;

/// Empty where accepted; else a short reason.
std::string expat(const std::string& document) {
    XML_Parser parser = XML_ParserCreateNS(nullptr, '\f');  // which occurs in no document
    XML_SetParamEntityParsing(parser, XML_PARAM_ENTITY_PARSING_UNLESS_STANDALONE);
    std::string out;
    if (XML_Parse(parser, document.data(), static_cast<int>(document.size()), 1) == XML_STATUS_ERROR)
        out = XML_ErrorString(XML_GetErrorCode(parser));
    XML_ParserFree(parser);
    return out;
}

void quiet(void*, const char*, ...) {}

std::string libxml2(const std::string& document) {
    xmlResetLastError();
    xmlParserCtxtPtr context = xmlNewParserCtxt();
    xmlDocPtr parsed = xmlCtxtReadMemory(
        context, document.data(), static_cast<int>(document.size()), "document.xml", nullptr,
        XML_PARSE_NONET | XML_PARSE_NOERROR | XML_PARSE_NOWARNING | XML_PARSE_HUGE | XML_PARSE_NOENT);
    std::string out;
    if (parsed == nullptr || context->wellFormed == 0 || context->nsWellFormed == 0) {
        const auto* error = xmlCtxtGetLastError(context);
        out = error == nullptr ? "refused" : fmt::format("error {}", error->code);
        // What a namespace's name looks like is not for Namespaces 1.0 to refuse.
        const bool only_warned =
            error != nullptr && (error->code == XML_WAR_NS_URI || error->code == XML_WAR_NS_URI_RELATIVE);
        if (parsed != nullptr && context->wellFormed != 0 && only_warned) out.clear();
    }
    if (parsed != nullptr) xmlFreeDoc(parsed);
    xmlFreeParserCtxt(context);
    return out;
}

class Handler : public xercesc::DefaultHandler {
  public:
    void fatalError(const xercesc::SAXParseException& e) override { note(e); }
    void error(const xercesc::SAXParseException& e) override { note(e); }
    xercesc::InputSource* resolveEntity(const XMLCh*, const XMLCh*) override {
        return new xercesc::MemBufInputSource(reinterpret_cast<const XMLByte*>(""), 0, "nothing");
    }
    std::string first;

  private:
    void note(const xercesc::SAXParseException& e) {
        if (!first.empty()) return;
        char* text = xercesc::XMLString::transcode(e.getMessage());
        first = text;
        xercesc::XMLString::release(&text);
        if (first.empty()) first = "refused";
    }
};

std::string xerces(const std::string& document) {
    const std::unique_ptr<xercesc::SAX2XMLReader> reader(xercesc::XMLReaderFactory::createXMLReader());
    reader->setFeature(xercesc::XMLUni::fgSAX2CoreNameSpaces, true);
    reader->setFeature(xercesc::XMLUni::fgSAX2CoreValidation, false);
    reader->setFeature(xercesc::XMLUni::fgXercesLoadExternalDTD, false);
    reader->setFeature(xercesc::XMLUni::fgXercesSchema, false);
    Handler handler;
    reader->setErrorHandler(&handler);
    reader->setContentHandler(&handler);
    reader->setEntityResolver(&handler);
    const xercesc::MemBufInputSource source(reinterpret_cast<const XMLByte*>(document.data()), document.size(),
                                            "document");
    try {
        reader->parse(source);
    } catch (const xercesc::SAXException&) {
        if (handler.first.empty()) handler.first = "SAX exception";
    } catch (const xercesc::XMLException& e) {
        char* text = xercesc::XMLString::transcode(e.getMessage());
        if (handler.first.empty()) handler.first = text;
        xercesc::XMLString::release(&text);
    }
    return handler.first;
}

std::string ours(const std::string& document) {
    const xml::Reading reading = xml::read(document);
    if (!reading.unreadable_because.empty()) return "unreadable: " + reading.unreadable_because;
    if (reading.rejection) return reading.rejection->clause;
    if (reading.namespace_rejection) return reading.namespace_rejection->clause;
    std::string questions;
    for (const Occurrence& occurrence : reading.occurrences)
        if (occurrence.question != "depth" && occurrence.question != "document-size" &&
            occurrence.question != "attribute-count" && occurrence.question != "expansion" &&
            occurrence.question != "name-length")
            questions += " " + occurrence.question;
    return questions.empty() ? "" : "open:" + questions;
}

/// The message without what differs from document to document.
std::string classed(std::string message) {
    std::string out;
    bool quoted = false;
    for (const char c : message) {
        if (c == '\'' || c == '"') quoted = !quoted;
        if (!quoted || c == '\'' || c == '"') out += c;
    }
    return out;
}

struct Difference {
    std::size_t count = 0;
    std::string smallest;
};

class Mutator {
  public:
    explicit Mutator(std::uint64_t seed) : random_(seed) {}

    std::string mutate(const std::string& document, const std::string& other) {
        std::string out = document;
        const std::size_t changes = 1 + pick(3);
        for (std::size_t i = 0; i < changes && !out.empty(); ++i) change(out, other);
        return out;
    }

  private:
    std::size_t pick(std::size_t below) { return below == 0 ? 0 : random_() % below; }

    /// A place where markup begins or ends, or any.
    std::size_t place(const std::string& text) {
        const std::size_t at = pick(text.size() + 1);
        if (pick(3) == 0) return at;
        const auto near = text.find_first_of("<>&;\"'[]!?%=", at);
        return near == std::string::npos ? at : near + pick(2);
    }

    void change(std::string& text, const std::string& other) {
        static const std::vector<std::string> pieces{"<",
                                                     ">",
                                                     "&",
                                                     ";",
                                                     "\"",
                                                     "'",
                                                     "=",
                                                     "/",
                                                     "!",
                                                     "?",
                                                     "[",
                                                     "]",
                                                     "]]>",
                                                     "--",
                                                     "%",
                                                     "#",
                                                     ":",
                                                     " ",
                                                     "\r",
                                                     "\n",
                                                     "\t",
                                                     "<!--",
                                                     "-->",
                                                     "<![CDATA[",
                                                     "<?p x?>",
                                                     "&lt;",
                                                     "&#60;",
                                                     "&#x0;",
                                                     "&#xFFFE;",
                                                     "&e;",
                                                     "%p;",
                                                     "xmlns",
                                                     "xmlns:a='u'",
                                                     "xml:lang='q'",
                                                     "a:",
                                                     "standalone='yes'",
                                                     "<!ENTITY e 'x&#60;y'>",
                                                     "<!ENTITY % p '<!ELEMENT a ANY>'>",
                                                     "<!ATTLIST a b NMTOKEN ' x '>",
                                                     "<!DOCTYPE a [",
                                                     "\x01",
                                                     "\xEF\xBF\xBE",
                                                     "\xC3",
                                                     "\xED\xA0\x80",
                                                     "\xF0\x9F\x94\x94",
                                                     "\xCE\x94",
                                                     "CDATA",
                                                     "#IMPLIED",
                                                     "(a|b)",
                                                     "SYSTEM 'e'",
                                                     "PUBLIC",
                                                     "NDATA n",
                                                     "version='1.1'",
                                                     "encoding='UTF-16'"};
        const std::size_t at = place(text), to = std::min(text.size(), at + pick(pick(4) == 0 ? 60 : 8));
        switch (pick(8)) {
            case 0:
                text.erase(at, to - at);
                break;
            case 1:
                text.insert(at, text.substr(at, to - at));
                break;
            case 2:
            case 3:
            case 4:
                text.insert(at, pieces[pick(pieces.size())]);
                break;
            case 5:
                if (at < text.size()) text[at] = pieces[pick(pieces.size())][0];
                break;
            case 6: {
                const std::size_t from = pick(other.size() + 1);
                text.insert(at, other.substr(from, pick(40)));
                break;
            }
            default: {
                const std::size_t third = std::min(text.size(), to + pick(20));
                text = text.substr(0, at) + text.substr(to, third - to) + text.substr(at, to - at) +
                       text.substr(third);
            }
        }
    }
    std::mt19937_64 random_;
};

class Table {
  public:
    void look(const std::string& document) {
        ++documents_;
        const std::string mine = ours(document);
        const bool open = mine.starts_with("open:") || mine.starts_with("beyond");
        if (open) ++open_;
        note("Expat", mine, expat(document), document);
        note("libxml2", mine, libxml2(document), document);
        note("Xerces-C", mine, xerces(document), document);
    }
    void print() const {
        fmt::print("{} documents, {} of them raise an open question\n", documents_, open_);
        for (const auto& [key, difference] : differences_)
            fmt::print("{:>8}  {}\n          {}\n", difference.count, key,
                       text::printable_excerpt(difference.smallest, 300));
    }

  private:
    void note(const char* who, const std::string& mine, const std::string& theirs, const std::string& document) {
        const bool accepted = mine.empty() || mine.starts_with("open:");
        if (accepted == theirs.empty() || mine.starts_with("beyond")) return;
        Difference& d = differences_[fmt::format("{}: {} | {}", who, mine.empty() ? "accepted" : mine,
                                                 theirs.empty() ? "accepted" : classed(theirs))];
        ++d.count;
        if (d.smallest.empty() || document.size() < d.smallest.size()) d.smallest = document;
    }
    std::size_t documents_ = 0, open_ = 0;
    std::map<std::string, Difference> differences_;
};

}  // namespace

int main(int count, char** arguments) {
    if (count < 4) {
        fmt::print(stderr, "xml_differences: give a seed, how many mutations, and files\n");
        return 2;
    }
    xercesc::XMLPlatformUtils::Initialize();
    xmlSetGenericErrorFunc(nullptr, quiet);
    std::vector<std::string> documents;
    constexpr std::size_t longest = 4000;
    for (int i = 3; i < count; ++i) {
        if (!std::filesystem::is_regular_file(arguments[i])) continue;
        std::ifstream in(arguments[i], std::ios::binary);
        documents.emplace_back(std::istreambuf_iterator<char>(in), std::istreambuf_iterator<char>());
    }
    Table whole;
    for (const std::string& document : documents) whole.look(document);
    whole.print();
    std::erase_if(documents, [](const std::string& d) { return d.empty() || d.size() > longest; });
    if (documents.empty()) return 0;
    Mutator mutator(std::stoull(arguments[1]));
    std::mt19937_64 random(std::stoull(arguments[1]) + 1);
    Table mutated;
    const std::size_t mutations = std::stoull(arguments[2]);
    for (std::size_t i = 0; i < mutations; ++i)
        mutated.look(
            mutator.mutate(documents[random() % documents.size()], documents[random() % documents.size()]));
    mutated.print();
}

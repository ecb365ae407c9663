// The C++ kit's part for libraries that write XML: it hands a value in trace notation to a builder, piece by piece.
//
//     class Builder : public MarkupBuilder { ... };      // one call of the library in each function
//     build_markup(trace, builder, false);               // in Codec::encode
#pragma once

#include <algorithm>
#include <string>
#include <string_view>
#include <vector>

#include <nachklang/adapter.hpp>

namespace nachklang::adapter {

/// The name of an element or attribute in a document to be written: as written, its local part, its namespace's
/// name.
struct MarkupName {
    std::string qname, local, uri;
    [[nodiscard]] std::string prefix() const {
        const auto colon = qname.find(':');
        return colon == std::string::npos ? "" : qname.substr(0, colon);
    }
};

/// Receives an XML document piece by piece, to build or write it with a library. Override what the library
/// supports; anything else is answered `unsupported`.
class MarkupBuilder {
  public:
    virtual ~MarkupBuilder() = default;
    virtual void element(const MarkupName& name) = 0;
    /// Of the element just opened, before its content.
    virtual void attribute(const MarkupName& name, const std::string& value) = 0;
    virtual void declaration(const std::string& prefix, const std::string& uri) {
        const std::string qname = prefix.empty() ? "xmlns" : "xmlns:" + prefix;
        attribute({qname, prefix.empty() ? qname : prefix, "http://www.w3.org/2000/xmlns/"}, uri);
    }
    virtual void element_end() = 0;
    virtual void text(const std::string& bytes) = 0;
    virtual void cdata(const std::string&) { throw CannotRepresentError("no CDATA sections"); }
    virtual void comment(const std::string&) { throw CannotRepresentError("no comments"); }
    virtual void instruction(const std::string&, const std::string&) {
        throw CannotRepresentError("no instructions");
    }
};

/// Whether the value uses namespaces that it does not declare itself, so that its writer must declare them.
inline bool leaves_declarations(std::string_view trace) {
    constexpr std::string_view xml_uri =
        "u8:687474703a2f2f7777772e77332e6f72672f584d4c2f313939382f6e616d657370616365";
    bool in_namespaces = false;
    while (!trace.empty()) {
        const std::string_view line = trace.substr(0, trace.find('\n'));
        trace.remove_prefix(std::min(trace.size(), line.size() + 1));
        if (line.starts_with("ns ")) return false;
        if (!line.starts_with("elem ") && !line.starts_with("attr ")) continue;
        std::string_view uri = line;
        for (int i = 0; i < 3; ++i) uri.remove_prefix(std::min(uri.size(), uri.find(' ')) + 1);
        uri = uri.substr(0, uri.find(' '));
        in_namespaces = in_namespaces || (uri != "-" && uri != "u8:" && uri != xml_uri);
    }
    return in_namespaces;
}

/// Feeds a document in trace notation to a builder. A library whose users write namespace declarations themselves
/// (`declares` is false) cannot be asked for a value that leaves them out.
inline void build_markup(std::string_view trace, MarkupBuilder& builder, bool declares) {
    if (!declares && leaves_declarations(trace))
        throw CannotRepresentError("this library leaves namespace declarations to its user");
    while (!trace.empty()) {
        std::string_view line = trace.substr(0, trace.find('\n'));
        trace.remove_prefix(std::min(trace.size(), line.size() + 1));
        std::vector<std::string_view> words;
        for (; !line.empty(); line.remove_prefix(std::min(line.size(), words.back().size() + 1)))
            words.push_back(line.substr(0, line.find(' ')));
        const auto field = [&](std::size_t i) { return i < words.size() ? field_bytes(words[i]) : std::string{}; };
        const std::string_view kind = words.empty() ? std::string_view{} : words[0];
        const auto name = [&] {
            MarkupName out{field(1), field(2), field(3)};
            if (words[1] == "-") out.qname = out.local;
            if (words[2] == "-") out.local = out.qname.substr(out.qname.rfind(':') + 1);
            return out;
        };
        if (kind == "elem") {
            builder.element(name());
        } else if (kind == "attr") {
            builder.attribute(name(), field(4));
        } else if (kind == "ns") {
            builder.declaration(field(1), field(2));
        } else if (kind == "end") {
            builder.element_end();
        } else if (kind == "text") {
            builder.text(field(1));
        } else if (kind == "cdata") {
            builder.cdata(field(1));
        } else if (kind == "comment") {
            builder.comment(field(1));
        } else if (kind == "pi") {
            builder.instruction(field(1), field(2));
        } else {
            throw CannotRepresentError("no " + std::string(kind) + " in a document to be written");
        }
    }
}

}  // namespace nachklang::adapter

// The public functions of the second recogniser for XML, and how it prints a trace.
#include "oracle/xml_recogniser_class.hpp"

namespace oracle {
namespace {

std::string hex(const std::string& bytes) {
    std::string out = "u8:";
    for (const char c : bytes) {
        out += "0123456789abcdef"[static_cast<unsigned char>(c) / 16];
        out += "0123456789abcdef"[static_cast<unsigned char>(c) % 16];
    }
    return out;
}

void print_nodes(const std::vector<XmlNode>& nodes, std::string& out) {
    for (std::size_t i = 0; i < nodes.size(); ++i) {
        const XmlNode& n = nodes[i];
        const std::string local = n.name.substr(n.name.find(':') + 1);
        switch (n.kind) {
            case XmlNode::Kind::element:
                out += "elem " + hex(n.name) + " " + hex(local) + " " + hex(n.uri) + "\n";
                for (const XmlAttribute& a : n.attributes) {
                    const std::string tail = a.name.substr(a.name.find(':') + 1);
                    if (a.name == "xmlns" || a.name.starts_with("xmlns:"))
                        out += "ns " + hex(a.name == "xmlns" ? "" : tail) + " " + hex(a.value) + "\n";
                    else
                        out += "attr " + hex(a.name) + " " + hex(tail) + " " + hex(a.uri) + " " + hex(a.value) +
                               (a.given ? " given\n" : " default\n");
                }
                print_nodes(n.children, out);
                out += "end\n";
                break;
            case XmlNode::Kind::text: {
                // The text of an entity joins the text around it.
                std::string all = n.text;
                while (i + 1 < nodes.size() && nodes[i + 1].kind == XmlNode::Kind::text) all += nodes[++i].text;
                out += "text " + hex(all) + "\n";
                break;
            }
            case XmlNode::Kind::cdata:
                out += "cdata " + hex(n.text) + "\n";
                break;
            case XmlNode::Kind::comment:
                out += "comment " + hex(n.text) + "\n";
                break;
            case XmlNode::Kind::instruction:
                out += "pi " + hex(n.name) + " " + hex(n.text) + "\n";
                break;
            case XmlNode::Kind::reference:
                out += "ref " + hex(n.name) + "\n";
                break;
            case XmlNode::Kind::doctype:
                out += "doctype " + hex(n.name) + "\n";
                break;
        }
    }
}

}  // namespace

bool may_begin_xml(std::string_view text) {
    return !text.empty() && std::string_view("< \t\r\n\xEF\xFE\xFF").find(text.front()) != std::string_view::npos;
}

std::vector<XmlNode> recognise_xml(std::string_view document, const XmlHabits& habits) {
    return detail::Recogniser(document, habits).document();
}

std::string print_xml_trace(const std::vector<XmlNode>& nodes) {
    std::string out;
    print_nodes(nodes, out);
    return out;
}

}  // namespace oracle

// An XML document place by place. A path names elements by their local names: /register/bell[2]/@cast.
#include <fmt/format.h>

#include <map>

#include "xml/internal.hpp"

namespace nachklang::xml {
namespace {

std::string shown(const Field& field) {
    return text::printable_atoms(field.atoms());
}

/// The local part: as reported, else of the qualified name.
std::string local_of(const Item& item) {
    if (item.field(1).reported()) return shown(item.field(1));
    const std::string qname = shown(item.field(0));
    return qname.substr(qname.rfind(':') + 1);
}

/// An attribute's local name; a declaration that is reported as an attribute keeps its prefix.
std::string attribute_name(const Item& item) {
    const std::string qname = item.field(0).reported() ? shown(item.field(0)) : "";
    return qname.starts_with("xmlns:") ? qname : local_of(item);
}

class Walk {
  public:
    std::vector<Place> of(const Trace& trace) {
        for (const Item& item : trace.items()) take(item);
        leave_text();
        return std::move(out_);
    }

  private:
    struct Open {
        std::string path;
        std::map<std::string, std::size_t> children = {};  ///< how often each kind or name came
    };

    void take(const Item& item) {
        if (item.kind == ItemKind::text || item.kind == ItemKind::cdata) {
            text_ += item.field(0).atoms();
            return;
        }
        leave_text();
        switch (item.kind) {
            case ItemKind::element: {
                const std::string path = child(local_of(item));
                const std::string uri = item.field(2).reported() ? shown(item.field(2)) : "";
                out_.push_back({path, "element"});
                if (!uri.empty()) out_.push_back({path + " namespace", uri, "", "", false, "namespaces"});
                open_.push_back({path});
                break;
            }
            case ItemKind::element_end:
                if (open_.size() > 1) open_.pop_back();
                break;
            case ItemKind::attribute: {
                const std::string path = child("@" + attribute_name(item));
                const std::string uri = item.field(2).reported() ? shown(item.field(2)) : "";
                out_.push_back({path, quoted(item.field(3))});
                if (!uri.empty() && !path.ends_with("xmlns") && path.find("/@xmlns:") == std::string::npos)
                    out_.push_back({path + " namespace", uri, "", "", false, "namespaces"});
                break;
            }
            case ItemKind::declaration: {
                const std::string prefix = shown(item.field(0));
                out_.push_back({open_.back().path + "/@xmlns" + (prefix.empty() ? "" : ":" + prefix),
                                quoted(item.field(1)), "", "", false, "declarations"});
                break;
            }
            case ItemKind::comment:
                out_.push_back({child("comment()"), quoted(item.field(0)), "", "", false, "comments"});
                break;
            case ItemKind::instruction:
                out_.push_back({child("processing-instruction()"),
                                fmt::format("{} {}", shown(item.field(0)), quoted(item.field(1))), "", "", false,
                                "instructions"});
                break;
            case ItemKind::reference:
                out_.push_back({child("reference"), "&" + shown(item.field(0)) + ";", "", "", false, "references"});
                break;
            case ItemKind::doctype:
                out_.push_back({"document type", shown(item.field(0)), "", "", false, "doctype"});
                break;
            default:
                break;
        }
    }

    static std::string quoted(const Field& field) { return "\"" + shown(field) + "\""; }

    void leave_text() {
        if (!text_.empty()) out_.push_back({child("text()"), "\"" + text::printable_atoms(text_) + "\""});
        text_.clear();
    }

    /// The path of the next child of that name or kind.
    std::string child(const std::string& name) {
        Open& parent = open_.back();
        const std::size_t times = ++parent.children[name];
        return parent.path + "/" + name + (times > 1 ? fmt::format("[{}]", times) : "");
    }

    std::vector<Place> out_;
    std::vector<Open> open_{{""}};
    std::string text_;
};

}  // namespace

std::vector<Place> places_of(const Trace& trace) {
    return Walk().of(trace);
}

}  // namespace nachklang::xml

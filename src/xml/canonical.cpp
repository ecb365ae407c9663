// Canonical XML 1.0 without comments, of a whole document.
#include <algorithm>
#include <map>
#include <tuple>

#include <nachklang/xml.hpp>

#include "plug.hpp"

namespace nachklang::xml {
namespace {

std::string escaped(std::string_view text, bool in_attribute) {
    std::string out;
    for (const char c : text) {
        if (c == '&') {
            out += "&amp;";
        } else if (c == '<') {
            out += "&lt;";
        } else if (c == '\r') {
            out += "&#xD;";
        } else if (c == '>' && !in_attribute) {
            out += "&gt;";
        } else if (c == '"' && in_attribute) {
            out += "&quot;";
        } else if (c == '\t' && in_attribute) {
            out += "&#x9;";
        } else if (c == '\n' && in_attribute) {
            out += "&#xA;";
        } else {
            out += c;
        }
    }
    return out;
}

/// A URI reference with a scheme (RFC 3986, 3.1). The empty name only undeclares.
bool is_absolute(std::string_view uri) {
    const auto colon = uri.find(':');
    if (colon == std::string_view::npos || colon == 0) return uri.empty();
    const auto letter = [](char c) { return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z'); };
    return letter(uri[0]) &&
           std::all_of(uri.begin(), uri.begin() + static_cast<std::ptrdiff_t>(colon), [&](char c) {
               return letter(c) || (c >= '0' && c <= '9') || c == '+' || c == '-' || c == '.';
           });
}

class CanonicalWriter {
  public:
    explicit CanonicalWriter(std::span<const Item> items) : items_(items) {}

    std::string write() {
        for (std::size_t i = 0; i < items_.size();) {
            const Item& item = items_[i];
            if (item.kind == ItemKind::element) {
                i = start_tag(i);
                continue;
            }
            if (item.kind == ItemKind::element_end) {
                out_ += "</" + open_.back().name + ">";
                open_.pop_back();
                root_closed_ = open_.empty();
            } else if (item.kind == ItemKind::text || item.kind == ItemKind::cdata) {
                if (!open_.empty()) out_ += escaped(item.fields[0].atoms(), false);
            } else if (item.kind == ItemKind::instruction) {
                instruction(item);
            }
            ++i;
        }
        return std::move(out_);
    }
    /// The first namespace name that is a relative reference: such a document has no canonical form.
    [[nodiscard]] const std::optional<std::string>& relative() const { return relative_; }

  private:
    using Namespaces = std::map<std::string, std::string>;  // prefix to name
    struct Open {
        std::string name;
        Namespaces in_force;
    };

    /// Writes the start tag whose element item stands at `i`; returns the index after its attributes.
    std::size_t start_tag(std::size_t i) {
        const std::string name = items_[i].fields[0].atoms();
        const Namespaces above = open_.empty() ? Namespaces{} : open_.back().in_force;
        Namespaces declared;
        std::vector<std::tuple<std::string, std::string, std::string, std::string>> attributes;
        for (++i; i < items_.size(); ++i) {
            const Item& item = items_[i];
            if (item.kind == ItemKind::declaration) {
                declared[item.fields[0].atoms()] = item.fields[1].atoms();
            } else if (item.kind == ItemKind::attribute) {
                attributes.emplace_back(item.fields[2].atoms(), item.fields[1].atoms(), item.fields[0].atoms(),
                                        item.fields[3].atoms());
            } else {
                break;
            }
        }
        out_ += "<" + name;
        Namespaces in_force = above;
        for (const auto& [prefix, uri] : declared) {
            if (prefix == "xml") continue;
            if (!is_absolute(uri) && !relative_) relative_ = uri;
            const auto before = above.find(prefix);
            if (uri != (before == above.end() ? "" : before->second))
                out_ += " xmlns" + (prefix.empty() ? "" : ":" + prefix) + "=\"" + escaped(uri, true) + "\"";
            in_force[prefix] = uri;
        }
        std::sort(attributes.begin(), attributes.end());
        for (const auto& [uri, local, qname, value] : attributes)
            out_ += " " + qname + "=\"" + escaped(value, true) + "\"";
        out_ += ">";
        open_.push_back({name, std::move(in_force)});
        return i;
    }

    void instruction(const Item& item) {
        if (open_.empty() && root_closed_) out_ += '\n';
        const std::string data = item.fields[1].atoms();
        out_ += "<?" + item.fields[0].atoms() + (data.empty() ? "" : " " + data) + "?>";
        if (open_.empty() && !root_closed_) out_ += '\n';
    }

    std::span<const Item> items_;
    std::vector<Open> open_;
    bool root_closed_ = false;
    std::optional<std::string> relative_;
    std::string out_;
};

}  // namespace

Canonical canonical_form(std::string_view document) {
    Reading reading = xml::read(document);
    Canonical out;
    out.beyond = reading.beyond;
    out.refused = reading.rejection ? reading.rejection : reading.namespace_rejection;
    if (out.refused || !out.beyond.empty()) return out;
    CanonicalWriter writer(reading.trace.items());
    out.bytes = writer.write();
    if (writer.relative())
        out.refused = Rejection{{},
                                "the namespace name " + text::printable_excerpt(*writer.relative(), 60) +
                                    " is a relative reference, so that there is no canonical form",
                                "Canonical XML 1.0, 1.3",
                                {}};
    return out;
}

}  // namespace nachklang::xml

// Canonical XML 1.0 and Exclusive XML Canonicalization 1.0, of a document or of one element in it. Of a whole
// document Canonical XML 1.1 is the same.
#include <algorithm>
#include <charconv>
#include <map>
#include <set>
#include <utility>

#include <nachklang/xml.hpp>

#include "xml/internal.hpp"

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

using Namespaces = std::map<std::string, std::string>;  // prefix to name

/// Namespaces by prefix that go back to what they were when their element ends: a map for each open element would
/// take the square of the depth.
class Scoped {
  public:
    explicit Scoped(Namespaces outer) : names_(std::move(outer)) {}
    [[nodiscard]] const Namespaces& names() const { return names_; }
    /// The name that a prefix is bound to; empty if it is unbound.
    [[nodiscard]] const std::string& operator[](const std::string& prefix) const {
        static const std::string none;
        const auto found = names_.find(prefix);
        return found == names_.end() ? none : found->second;
    }
    void bind(const std::string& prefix, std::string uri) {
        std::string& name = names_[prefix];
        before_.emplace_back(prefix, std::exchange(name, std::move(uri)));
    }
    [[nodiscard]] std::size_t mark() const { return before_.size(); }
    void go_back(std::size_t mark) {
        for (; before_.size() > mark; before_.pop_back()) names_[before_.back().first] = before_.back().second;
    }

  private:
    Namespaces names_;
    std::vector<std::pair<std::string, std::string>> before_;
};

std::string prefix_of(std::string_view qname) {
    const auto colon = qname.find(':');
    return colon == std::string_view::npos ? "" : std::string(qname.substr(0, colon));
}

struct Attribute {
    std::string uri, local, qname, value;
    friend auto operator<=>(const Attribute&, const Attribute&) = default;
};

/// An element's tag as the trace tells it.
struct Tag {
    std::string name;
    Namespaces declared;
    std::vector<Attribute> attributes;
    std::size_t next = 0;  // index of the item after it
};

Tag tag_at(std::span<const Item> items, std::size_t i) {
    Tag out{items[i].field(0).atoms(), {}, {}, i + 1};
    for (; out.next < items.size(); ++out.next) {
        const Item& item = items[out.next];
        if (item.kind == ItemKind::declaration)
            out.declared[item.field(0).atoms()] = item.field(1).atoms();
        else if (item.kind == ItemKind::attribute)
            out.attributes.push_back(
                {item.field(2).atoms(), item.field(1).atoms(), item.field(0).atoms(), item.field(3).atoms()});
        else
            break;
    }
    return out;
}

/// What the written part inherits: namespaces in scope, and attributes such as xml:lang.
struct Context {
    Namespaces in_force;
    std::map<std::string, Attribute> xml_attributes;  // by qualified name

    void enter(const Tag& tag) {
        for (const auto& [prefix, uri] : tag.declared) in_force[prefix] = uri;
        for (const Attribute& a : tag.attributes)
            if (a.uri == "http://www.w3.org/XML/1998/namespace") xml_attributes[a.qname] = a;
    }
};

class CanonicalWriter {
  public:
    CanonicalWriter(std::span<const Item> items, const CanonicalOptions& options)
        : items_(items), options_(options) {}

    /// The items of one element, or of the whole document, which `around` the first of them inherits.
    std::string write(std::size_t begin, std::size_t end, const Context& around) {
        whole_ = begin == 0 && end == items_.size();
        for (std::size_t i = begin; i < end;) {
            const Item& item = items_[i];
            if (item.kind == ItemKind::element) {
                i = start_tag(i, around);
                continue;
            }
            if (item.kind == ItemKind::element_end) {
                out_ += "</" + open_.back().name + ">";
                in_force_.go_back(open_.back().in_force);
                rendered_.go_back(open_.back().rendered);
                open_.pop_back();
                root_closed_ = open_.empty();
            } else if (item.kind == ItemKind::text || item.kind == ItemKind::cdata) {
                if (!open_.empty()) out_ += escaped(item.field(0).atoms(), false);
            } else if (item.kind == ItemKind::instruction) {
                const std::string data = item.field(1).atoms();
                beside_root("<?" + item.field(0).atoms() + (data.empty() ? "" : " " + data) + "?>");
            } else if (item.kind == ItemKind::comment && options_.comments) {
                beside_root("<!--" + item.field(0).atoms() + "-->");
            }
            ++i;
        }
        return std::move(out_);
    }

  private:
    struct Open {
        std::string name;
        std::size_t in_force, rendered;  // marks
    };

    /// Writes the start tag of the element item at `i`; returns the index after its attributes.
    std::size_t start_tag(std::size_t i, const Context& around) {
        Tag tag = tag_at(items_, i);
        const bool apex = open_.empty();
        if (apex) in_force_ = Scoped(around.in_force);
        open_.push_back({tag.name, in_force_.mark(), rendered_.mark()});
        if (apex && !options_.exclusive) inherit(tag, around);
        for (const auto& [prefix, uri] : tag.declared) in_force_.bind(prefix, uri);
        out_ += "<" + tag.name;
        for (const std::string& prefix : candidates(tag, apex)) {
            const std::string& uri = in_force_[prefix];
            if (prefix == "xml" || uri == rendered_[prefix]) continue;
            out_ += " xmlns" + (prefix.empty() ? "" : ":" + prefix) + "=\"" + escaped(uri, true) + "\"";
            rendered_.bind(prefix, uri);
        }
        std::sort(tag.attributes.begin(), tag.attributes.end());
        for (const Attribute& a : tag.attributes) out_ += " " + a.qname + "=\"" + escaped(a.value, true) + "\"";
        out_ += ">";
        return tag.next;
    }

    /// Canonical XML 1.0, 2.4: the attributes of the namespace xml come along from above.
    static void inherit(Tag& tag, const Context& around) {
        for (const auto& inherited : around.xml_attributes)
            if (std::none_of(tag.attributes.begin(), tag.attributes.end(),
                             [&](const Attribute& a) { return a.qname == inherited.first; }))
                tag.attributes.push_back(inherited.second);
    }

    /// The prefixes whose declarations may have to be written, in order. Inclusively, what is in force inside an
    /// element that was written is written, so only the element's own declarations can differ.
    [[nodiscard]] std::set<std::string> candidates(const Tag& tag, bool apex) const {
        std::set<std::string> out;
        if (!options_.exclusive) {
            for (const auto& [prefix, uri] : apex ? in_force_.names() : tag.declared) out.insert(prefix);
            return out;
        }
        out.insert(prefix_of(tag.name));
        for (const Attribute& a : tag.attributes)
            if (a.qname.find(':') != std::string::npos) out.insert(prefix_of(a.qname));
        for (const std::string& prefix : options_.prefixes)
            if (in_force_.names().contains(prefix)) out.insert(prefix);
        return out;
    }

    void beside_root(const std::string& markup) {
        const bool outside = open_.empty() && whole_;
        if (outside && root_closed_) out_ += '\n';
        out_ += markup;
        if (outside && !root_closed_) out_ += '\n';
    }

    std::span<const Item> items_;
    const CanonicalOptions& options_;
    std::vector<Open> open_;
    Scoped in_force_{{}}, rendered_{{}};
    bool root_closed_ = false, whole_ = true;
    std::string out_;
};

/// The items of the element that a path of names as written, each with a number from 1, leads to.
struct Subset {
    std::size_t begin = 0, end = 0;
    Context around;
};

struct PathStep {
    std::string name;
    std::size_t number = 1;
};

std::optional<std::vector<PathStep>> steps_of(std::string_view path) {
    std::vector<PathStep> out;
    while (!path.empty()) {
        if (path.front() != '/') return std::nullopt;
        path.remove_prefix(1);
        std::string_view step = path.substr(0, path.find('/'));
        path.remove_prefix(step.size());
        PathStep one;
        if (step.ends_with(']')) {
            const auto bracket = step.find('[');
            if (bracket == std::string_view::npos) return std::nullopt;
            const std::string_view digits = step.substr(bracket + 1, step.size() - bracket - 2);
            const auto [end, error] = std::from_chars(digits.data(), digits.data() + digits.size(), one.number);
            if (error != std::errc{} || end != digits.data() + digits.size() || one.number == 0)
                return std::nullopt;
            step = step.substr(0, bracket);
        }
        if (step.empty()) return std::nullopt;
        one.name = step;
        out.push_back(std::move(one));
    }
    return out;
}

std::optional<Subset> subset_at(std::span<const Item> items, const std::vector<PathStep>& steps) {
    Subset out;
    std::vector<std::size_t> seen(steps.size() + 1, 0);  // fitting elements met, at each level of the path
    std::size_t depth = 0, matched = 0;
    for (std::size_t i = 0; i < items.size(); ++i) {
        if (items[i].kind == ItemKind::element_end) {
            --depth;
            if (matched > depth) return std::nullopt;  // the path's element ended without the next step
        }
        if (items[i].kind != ItemKind::element) continue;
        ++depth;
        if (matched + 1 != depth || matched == steps.size() || items[i].field(0).atoms() != steps[matched].name)
            continue;
        if (++seen[matched] != steps[matched].number) continue;
        if (++matched < steps.size()) {
            out.around.enter(tag_at(items, i));
            continue;
        }
        out.begin = i;
        std::size_t open = 0;
        for (out.end = i; out.end < items.size(); ++out.end) {
            if (items[out.end].kind == ItemKind::element) ++open;
            if (items[out.end].kind == ItemKind::element_end && --open == 0) break;
        }
        ++out.end;
        return out;
    }
    return std::nullopt;
}

Rejection no_form(std::string message, const char* clause) {
    return {{}, std::move(message) + ", so there is no canonical form", clause, {}};
}

/// Why a well-formed document has no canonical form; nothing if it has one.
std::optional<Rejection> obstacle(std::span<const Item> items) {
    for (const Item& item : items) {
        if (item.kind == ItemKind::declaration && !is_absolute(item.field(1).atoms()))
            return no_form("the namespace name " + text::printable_atoms(item.field(1).atoms(), 60) +
                               " is a relative reference",
                           "Canonical XML 1.0, 1.3");
        if (item.kind == ItemKind::reference)
            return no_form("the entity " + text::printable_atoms(item.field(0).atoms(), 60) + " was not read",
                           "Canonical XML 1.0, 2.1");
    }
    return std::nullopt;
}

}  // namespace

Canonical canonical(std::string_view document, const CanonicalOptions& options, const Fetch& fetch) {
    Reading reading = xml::read(document, fetch);
    Canonical out;
    out.unreadable_because = reading.unreadable_because;
    out.refused = reading.rejection ? reading.rejection : reading.namespace_rejection;
    if (out.refused || !out.unreadable_because.empty()) return out;
    const auto items = reading.trace.items();
    out.refused = obstacle(items);
    if (out.refused) return out;
    Subset subset{0, items.size(), {}};
    if (!options.subset.empty()) {
        const auto steps = steps_of(options.subset);
        const auto found = steps ? subset_at(items, *steps) : std::nullopt;
        if (!found) {
            out.refused = Rejection{{},
                                    "there is no element at " + text::printable_excerpt(options.subset, 60) +
                                        "; write a path such as /register/bell[2]",
                                    "Canonical XML 1.0, 1.1",
                                    {}};
            return out;
        }
        subset = *found;
    }
    out.bytes = CanonicalWriter(items, options).write(subset.begin, subset.end, subset.around);
    return out;
}

}  // namespace nachklang::xml

// See sequences.hpp. Each value of a list is a document of its own: names are resolved and differences explained in
// it alone.
#include "xml/compare/sequences.hpp"

#include <fmt/format.h>

#include <algorithm>

#include <nachklang/sequence.hpp>

#include "xml/internal.hpp"

namespace nachklang::xml {
namespace {

std::vector<Trace> values_of(const Trace& list) {
    std::vector<Trace> out;
    for (const std::string_view value : values_in_list(list)) out.push_back(*Trace::parse(std::string(value)));
    return out;
}

/// Whether a value is the word for a document that is refused, or another that is no markup.
bool is_native(const Trace& value) {
    return !is_markup(value.items().front());
}

std::string shown_native(const Trace& value) {
    return value.text().starts_with("native refused ") ? "(refused)" : std::string(value.lines().front());
}

std::string step_of(std::size_t document) {
    return fmt::format("/document({})", document + 1);
}

}  // namespace

bool is_list(const Trace& trace) {
    return !trace.items().empty() && trace.items().front().kind == ItemKind::array_open;
}

bool is_markup(const Item& item) {
    return item.kind >= ItemKind::element;
}

bool is_list_of_documents(const Trace& list) {
    return std::ranges::all_of(values_of(list), [](const Trace& value) {
        return !is_native(value) || value.items().front().kind == ItemKind::native;
    });
}

Comparison compare_lists(const Trace& expected, const Trace& got, const CompareOptions& options) {
    Comparison out;
    const auto other_value = [&out](std::string at, std::string detail) {
        out.differences.push_back(
            {std::move(at), std::string(common_cause::other_value), std::move(detail), "", ""});
    };
    if (!is_list(got)) {
        other_value("", "the answer is no list of documents");
        return out;
    }
    const auto meant = values_of(expected), given = values_of(got);
    if (meant.size() != given.size()) {
        other_value("", fmt::format("{} values became {}", meant.size(), given.size()));
        return out;
    }
    for (std::size_t i = 0; i < meant.size() && out.differences.size() < options.most; ++i) {
        if (is_native(meant[i]) || is_native(given[i])) {
            if (meant[i].text() != given[i].text())
                other_value(step_of(i),
                            fmt::format("{} became {}", shown_list(meant[i], 80), shown_list(given[i], 80)));
            continue;
        }
        Comparison of_document = compare_values(meant[i], given[i], options);
        for (Difference& difference : of_document.differences) {
            difference.at.insert(0, step_of(i));
            out.differences.push_back(std::move(difference));
        }
        out.observed.insert(out.observed.end(), of_document.observed.begin(), of_document.observed.end());
    }
    std::ranges::sort(out.observed);
    out.observed.erase(std::unique(out.observed.begin(), out.observed.end()), out.observed.end());
    return out;
}

Tree tree_of_list(const Trace& list, Layer layer, const CannotRepresent& cannot_represent) {
    Tree out;
    Tree::Node root;
    root.label = digest_of("documents");
    root.shown = "documents";
    out.nodes.push_back(std::move(root));
    std::size_t first_item = 1, documents = 0;
    for (const Trace& value : values_of(list)) {
        const std::size_t first_node = out.nodes.size();
        if (is_native(value)) {
            Tree::Node node;
            node.label = digest_of(value.text());
            node.shown = shown_native(value);
            node.end = 1;
            out.nodes.push_back(std::move(node));
        } else {
            Tree tree = labelled_tree(value, layer, cannot_represent);
            std::ranges::move(tree.nodes, std::back_inserter(out.nodes));
        }
        for (std::size_t i = first_node; i < out.nodes.size(); ++i) {
            out.nodes[i].end += first_node;
            out.nodes[i].item += first_item;
        }
        out.nodes[first_node].step = step_of(documents++);
        first_item += value.items().size();
    }
    out.nodes.front().end = out.nodes.size();
    return out;
}

std::string shown_list(const Trace& list, std::size_t most) {
    if (!is_list(list)) return is_native(list) ? shown_native(list) : shown_value(list, most);
    std::string out;
    for (const Trace& value : values_of(list)) {
        if (out.size() > most) return out + " …";
        out += (out.empty() ? "" : " ") + shown_list(value, most);
    }
    return out.empty() ? "(no document)" : out;
}

std::vector<Place> places_of_list(const Trace& list) {
    std::vector<Place> out;
    std::size_t documents = 0;
    for (const Trace& value : values_of(list)) {
        const std::string step = step_of(documents++);
        out.push_back({step, is_native(value) ? shown_native(value) : "document"});
        if (is_native(value)) continue;
        for (Place& place : places_of(value)) {
            place.path.insert(0, step);
            out.push_back(std::move(place));
        }
    }
    return out;
}

}  // namespace nachklang::xml

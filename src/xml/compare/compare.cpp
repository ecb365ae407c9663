// Explains where and why a decoded document differs from the expected one.
#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <charconv>

#include <nachklang/number.hpp>
#include <nachklang/text.hpp>
#include <nachklang/xml.hpp>

#include "xml/internal.hpp"

namespace nachklang::xml {
namespace {

Tree plain(const std::vector<Node>& nodes) {
    Tree out;
    for (const Node& node : nodes) {
        // A text, a section and a reference may take each other's place.
        const bool is_text = node.part == Part::cdata || node.part == Part::reference;
        const auto kind = static_cast<std::uint8_t>(is_text ? Part::text : node.part);
        out.nodes.push_back({node.label, "", !node.set, node.item, node.end, "", kind});
    }
    return out;
}

std::string without_space(std::string_view text) {
    std::string out;
    std::copy_if(text.begin(), text.end(), std::back_inserter(out),
                 [](char c) { return c != ' ' && c != '\t' && c != '\n' && c != '\r'; });
    return out;
}

std::string replaced(std::string text, std::string_view from, std::string_view to) {
    for (std::size_t at = text.find(from); at != std::string::npos; at = text.find(from, at + to.size()))
        text.replace(at, from.size(), to);
    return text;
}

/// The character that a character reference at the start of a text gives, and how long it is.
std::optional<std::pair<char32_t, std::size_t>> character_reference(std::string_view text) {
    const bool hex = text.starts_with("&#x");
    if (!text.starts_with("&#")) return std::nullopt;
    const std::size_t digits = hex ? 3 : 2, end = text.find(';');
    if (end == std::string_view::npos) return std::nullopt;
    std::uint32_t value = 0;
    const auto [stopped, error] = std::from_chars(text.data() + digits, text.data() + end, value, hex ? 16 : 10);
    if (error != std::errc{} || stopped != text.data() + end || !xml::is_char(value)) return std::nullopt;
    return std::pair(static_cast<char32_t>(value), end + 1);
}

/// The text with its references to characters and predefined entities undone, each once.
std::string undone(std::string_view text) {
    constexpr std::array<std::pair<std::string_view, char>, 5> entities{
        {{"&lt;", '<'}, {"&gt;", '>'}, {"&quot;", '"'}, {"&apos;", '\''}, {"&amp;", '&'}}};
    std::string out;
    while (!text.empty()) {
        const auto* const entity = std::find_if(entities.begin(), entities.end(),
                                                [&](const auto& e) { return text.starts_with(e.first); });
        if (const auto reference = character_reference(text)) {
            text::append_utf8(out, reference->first);
            text.remove_prefix(reference->second);
        } else {
            out += entity == entities.end() ? text.front() : entity->second;
            text.remove_prefix(entity == entities.end() ? 1 : entity->first.size());
        }
    }
    return out;
}

/// What a reader makes of white space that is written raw although only a reference preserves it (2.11, 3.3.3).
std::string as_if_raw(std::string text, bool attribute) {
    text = replaced(replaced(std::move(text), "\r\n", "\n"), "\r", "\n");
    return attribute ? replaced(replaced(std::move(text), "\n", " "), "\t", " ") : text;
}

/// Whether a text has one character less, and no other difference.
bool one_character_dropped(const std::string& expected, const std::string& got) {
    if (got.size() >= expected.size() || expected.size() - got.size() > 4) return false;
    const auto at =
        static_cast<std::size_t>(std::mismatch(got.begin(), got.end(), expected.begin()).first - got.begin());
    const std::size_t length = expected.size() - got.size();
    return text::decode_utf8(expected, at).length == length && expected.substr(at + length) == got.substr(at);
}

/// A number that comes back as the same number in another spelling: character data is text.
bool is_number_reformatted(const std::string& expected, const std::string& got) {
    const auto a = Decimal::parse(expected), b = Decimal::parse(got);
    return a && b && *a == *b;
}

std::string text_cause(const std::string& expected, const std::string& got, bool attribute,
                       bool of_encoding = false) {
    const std::string part = attribute ? "attribute/" : "text/";
    if (replaced(replaced(expected, "\xC2\x85", "\n"), "\xE2\x80\xA8", "\n") == got)
        return part + "line-end-of-1.1";
    if (as_if_raw(expected, attribute) == got) return part + "reference-normalised";
    if (replaced(replaced(got, "\r\n", "\n"), "\r", "\n") == expected) return part + "line-end-kept";
    for (const char* line_end : {"\r\n", "\n"})  // CR LF is one space, unless only references give it
        if (attribute &&
            replaced(replaced(replaced(replaced(got, line_end, " "), "\n", " "), "\t", " "), "\r", " ") == expected)
            return "attribute/newline-kept";
    if (undone(got) == expected) return part + "reference-not-undone";
    if (undone(expected) == got) return part + "reference-undone-twice";
    if (is_number_reformatted(expected, got)) return part + "number-reformatted";
    if (without_space(got) == without_space(expected)) return part + "white-space-changed";
    if (!got.empty() && expected.starts_with(got)) return part + "cut";
    if (got.empty()) return part + "lost";
    if (of_encoding && one_character_dropped(expected, got)) return part + "character-dropped";
    return part + "changed";
}

std::string lost_cause(Part part, bool lost) {
    switch (part) {
        case Part::attribute:
            return lost ? "attribute/lost" : "attribute/added";
        case Part::declaration:
            return lost ? "namespace/declaration-lost" : "namespace/declaration-added";
        case Part::element:
            return lost ? "element/lost" : "element/added";
        case Part::comment:
            return lost ? "comment/lost" : "comment/added";
        case Part::instruction:
            return lost ? "instruction/lost" : "instruction/added";
        default:
            return lost ? "text/lost" : "text/added";
    }
}
std::string lost_cause(const Node& node, bool lost) {
    const bool blank = node.part == Part::text && node.text.find_first_not_of(" \t\r\n") == std::string::npos;
    // Indentation is a line end and spaces where there was nothing.
    if (blank && !lost && node.text.find('\n') != std::string::npos) return "text/indentation-added";
    return blank ? "text/white-space-changed" : lost_cause(node.part, lost);
}

std::string describe(const Node& node) {
    switch (node.part) {
        case Part::element:
            return fmt::format("<{}>", text::printable_atoms(node.name, 40));
        case Part::attribute:
            return fmt::format("the attribute {}", text::printable_atoms(node.name, 40));
        case Part::declaration:
            return fmt::format("the declaration of \"{}\"", text::printable_atoms(node.name, 40));
        case Part::comment:
            return fmt::format("the comment \"{}\"", text::printable_atoms(node.text, 40));
        case Part::instruction:
            return fmt::format("the instruction {}{}{}", text::printable_atoms(node.name, 40),
                               node.text.empty() ? "" : " ", text::printable_atoms(node.text, 40));
        case Part::attributes:
            return "the order of attributes";
        case Part::doctype:
            return fmt::format("the document type {}", text::printable_atoms(node.name, 40));
        case Part::reference:
            return fmt::format("the entity &{};", text::printable_atoms(node.name, 40));
        default: {
            std::string_view text = node.text;
            const bool by_default = text.ends_with(default_mark);
            if (by_default) text.remove_suffix(default_mark.size());
            return fmt::format("\"{}\"{}", text::printable_atoms(text, 40), by_default ? " (by default)" : "");
        }
    }
}

std::string path(const std::vector<Node>& nodes, std::size_t node) {
    std::string out;
    std::size_t begin = 0, index = 0;
    while (begin <= node) {
        if (nodes[begin].end <= node) {
            index += static_cast<std::size_t>(nodes[begin].part != Part::attributes);
            begin = nodes[begin].end;
            continue;
        }
        switch (nodes[begin].part) {
            case Part::document:
            case Part::attributes:
            case Part::value:
                break;
            case Part::attribute:
                out += "/@" + text::printable_atoms(nodes[begin].name);
                break;
            case Part::declaration:
                out += "/@xmlns:" + text::printable_atoms(nodes[begin].name);
                break;
            default:
                out += fmt::format("/{}", index);
        }
        index = 0;
        ++begin;
    }
    return out;
}

/// Comments and instructions are not part of the value layer, but they are compared: instructions must be passed
/// on (2.6); comments may be dropped (2.5), but those that are reported must be the document's. An encoder must
/// write the comments that it is given.
TreeChoice measured(const Trace& expected, const Trace& got, bool of_encoding) {
    TreeChoice out;
    out.has_doctype = std::any_of(expected.items().begin(), expected.items().end(),
                                  [](const Item& item) { return item.kind == ItemKind::doctype; });
    out.instructions = true;
    out.comments = of_encoding || std::any_of(got.items().begin(), got.items().end(),
                                              [](const Item& item) { return item.kind == ItemKind::comment; });
    return out;
}

/// What an implementation cannot represent. Comments of the document type that it stores among those before the
/// root are written there, too.
CannotRepresent effective(const CompareOptions& options) {
    CannotRepresent out = options.cannot_represent;
    for (const std::string& word : options.stored_without)
        if (word == "doctype-content") out.push_back(word);
    return out;
}

class TreeComparison {
  public:
    TreeComparison(const Trace& expected, const Trace& got, const CompareOptions& options, const TreeChoice& choice)
        : expected_(expected),
          got_(got),
          left_(tree_at(expected, options.layer, effective(options), choice)),
          right_(tree_at(got, options.layer, effective(options), choice)),
          options_(options) {}

    Comparison run() {
        compare_trees(plain(left_), plain(right_), options_.most, [&](const TreePair& pair) { differ(pair); });
        settle_attributes();
        return std::move(out_);
    }
    [[nodiscard]] bool same_size() const { return left_.size() == right_.size(); }

  private:
    void add(const TreePair& pair, std::string cause, std::string detail) {
        const std::string at = pair.left ? path(left_, *pair.left) : path(right_, *pair.right);
        out_.differences.push_back({at, std::move(cause), std::move(detail), "", ""});
    }

    void differ(const TreePair& pair) {
        if (!pair.left || !pair.right) {
            const Node& node = pair.left ? left_[*pair.left] : right_[*pair.right];
            const bool named = node.part == Part::attribute || node.part == Part::declaration;
            if (named) return (pair.left ? lost_ : added_).push_back(pair);
            return add(pair, lost_cause(node, pair.left.has_value()),
                       describe(node) + (pair.left ? " is missing" : " was added"));
        }
        const Node& e = left_[*pair.left];
        const Node& g = right_[*pair.right];
        const std::string detail = fmt::format("{} became {}", describe(e), describe(g));
        if (e.part == Part::reference && g.part == Part::text) return add(pair, "text/reference-expanded", detail);
        if (e.part != g.part)
            return add(pair, options_.layer >= Layer::representation ? "layer/as-given" : lost_cause(e, true),
                       detail);
        switch (e.part) {
            case Part::text:
            case Part::cdata:
                return add(pair,
                           is_expanded_in_cdata(e.text, g.text)
                               ? "cdata/reference-expanded"
                               : text_cause(e.text, g.text, false, options_.of_encoding),
                           detail);
            case Part::value:
                return add(pair, text_cause(e.text, g.text, true, options_.of_encoding), detail);
            case Part::element:
                return add(pair, name_cause(e.name, g.name, "element/"), detail);
            case Part::attributes:
                return add(pair, "attribute/order", detail);
            case Part::comment:
                return add(pair, markup_cause(e, g, "comment/changed"), detail);
            default:
                return add(pair, markup_cause(e, g, "instruction/changed"), detail);
        }
    }

    /// Line ends are settled before anything else is read, in comments and instructions too (2.11).
    static std::string markup_cause(const Node& e, const Node& g, const char* otherwise) {
        const bool line_ends = e.name == g.name && text_cause(e.text, g.text, false) == "text/line-end-kept";
        return line_ends ? "text/line-end-kept" : otherwise;
    }

    static std::string name_cause(const std::string& e, const std::string& g, const std::string& part) {
        const auto local = [](const std::string& name) {
            return name.substr(name.rfind('}') == std::string::npos ? 0 : name.rfind('}') + 1);
        };
        if (local(e) == local(g)) return "namespace/name-changed";
        const auto small = [](std::string name) {
            for (char& c : name) c = c >= 'A' && c <= 'Z' ? static_cast<char>(c - 'A' + 'a') : c;
            return name;
        };
        return part + (small(e) == small(g) ? "case-changed" : "renamed");
    }

    void settle_attributes() {
        std::size_t i = 0;
        for (; i < std::min(lost_.size(), added_.size()); ++i) {
            const Node& e = left_[*lost_[i].left];
            const Node& g = right_[*added_[i].right];
            add(lost_[i], name_cause(e.name, g.name, "attribute/"),
                fmt::format("{} became {}", describe(e), describe(g)));
        }
        for (std::size_t j = i; j < lost_.size(); ++j)
            add(lost_[j],
                is_default(*lost_[j].left) ? "attribute/default-not-supplied"
                                           : lost_cause(left_[*lost_[j].left].part, true),
                describe(left_[*lost_[j].left]) + " is missing");
        for (std::size_t j = i; j < added_.size(); ++j) {
            // What the document type that was written supplies, the writer did not add.
            const Item& added = got_.items()[right_[*added_[j].right].item];
            if (options_.of_encoding && added.kind == ItemKind::attribute && added.word() == "default") continue;
            add(added_[j], lost_cause(right_[*added_[j].right].part, false),
                describe(right_[*added_[j].right]) + " was added");
        }
    }

    /// Whether references in CDATA sections, and no others, were undone.
    [[nodiscard]] bool is_expanded_in_cdata(const std::string& expected, const std::string& got) const {
        std::string expanded = expected;
        for (const Item& item : expected_.items()) {
            if (item.kind != ItemKind::cdata) continue;
            const std::string inside(item.field(0).atoms());
            if (std::string outside = undone(inside); outside != inside)
                expanded = replaced(std::move(expanded), inside, outside);
        }
        return expanded != expected && expanded == got;
    }

    /// Whether the document type supplies the attribute.
    [[nodiscard]] bool is_default(std::size_t node) const {
        const Item& item = expected_.items()[left_[node].item];
        return left_[node].part == Part::attribute && item.word() == "default";
    }

    const Trace &expected_, &got_;
    std::vector<Node> left_, right_;
    const CompareOptions& options_;
    std::vector<TreePair> lost_, added_;
    Comparison out_;
};

std::ptrdiff_t count_of(const Trace& trace, ItemKind kind) {
    return std::count_if(trace.items().begin(), trace.items().end(),
                         [&](const Item& item) { return item.kind == kind; });
}

/// Replaces a list of consequences by "fewer, or more, of these"; nothing if the counts are equal.
Comparison count_changed(Comparison out, const Trace& expected, const Trace& got, ItemKind kind, Part part) {
    const auto before = count_of(expected, kind), after = count_of(got, kind);
    if (before == after) return out;
    const char* word = part == Part::comment ? "comment" : "instruction";
    out.differences = {{out.differences.front().at, lost_cause(part, after < before),
                        fmt::format("{} {}{} became {}", before, word, before == 1 ? "" : "s", after), "", ""}};
    return out;
}

}  // namespace

Comparison compare_values(const Trace& expected, const Trace& got, const CompareOptions& options) {
    TreeChoice choice = measured(expected, got, options.of_encoding);
    TreeComparison walk(expected, got, options, choice);
    Comparison out = walk.run();
    if (out.differences.empty()) return out;
    const auto alike = [&](const TreeChoice& otherwise) {
        return TreeComparison(expected, got, options, otherwise).run().differences.empty();
    };
    TreeChoice spelled = choice;
    spelled.references_as_text = true;
    if (count_of(expected, ItemKind::reference) > count_of(got, ItemKind::reference) && alike(spelled)) {
        out.differences = {{out.differences.front().at, "reference/became-text",
                            "a reference that is not expanded became text", "", ""}};
        return out;
    }
    if (out.differences.size() < 2 || walk.same_size()) return out;
    // A dropped or added node shifts all later ones: if that explains everything, it is one difference.
    TreeChoice silent = choice;
    silent.comments = false;
    if (choice.comments && alike(silent))
        return count_changed(std::move(out), expected, got, ItemKind::comment, Part::comment);
    silent.instructions = false;
    if (alike(silent))
        return count_changed(std::move(out), expected, got, ItemKind::instruction, Part::instruction);
    choice.blank_text = false;
    if (!alike(choice)) return out;
    // Only white space differs: one difference for each of its causes.
    std::vector<Difference> first;
    for (Difference& d : out.differences)
        if ((d.cause == "text/white-space-changed" || d.cause == "text/indentation-added") &&
            std::none_of(first.begin(), first.end(),
                         [&](const Difference& known) { return known.cause == d.cause; }))
            first.push_back(std::move(d));
    if (!first.empty()) out.differences = std::move(first);
    return out;
}

Tree labelled_tree(const Trace& trace, Layer layer, const CannotRepresent& cannot_represent) {
    const auto nodes = tree_at(trace, layer, cannot_represent);
    Tree out = plain(nodes);
    for (std::size_t i = 0; i < nodes.size(); ++i) {
        out.nodes[i].shown = nodes[i].part == Part::document ? "document" : describe(nodes[i]);
        if (nodes[i].part == Part::attributes) out.nodes[i].shown = nodes[i].end == i + 1 ? "" : "attributes";
        std::size_t index = 0;
        const bool counts = nodes[i].part == Part::element || nodes[i].part == Part::document;
        for (std::size_t child = i + 1; child < nodes[i].end; child = nodes[child].end)
            if (counts && nodes[child].part != Part::attributes)
                out.nodes[child].step = fmt::format("/{}", index++);
        if (nodes[i].part == Part::attribute) out.nodes[i].step = "/@" + text::printable_atoms(nodes[i].name);
    }
    return out;
}

}  // namespace nachklang::xml

// See records.hpp.
#include "xml/compare/records.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <map>

#include <nachklang/json.hpp>
#include <nachklang/number.hpp>
#include <nachklang/text.hpp>

namespace nachklang::xml {
namespace {

struct Renamed {
    std::string_view family;  ///< the beginning of a cause among JSON's
    std::string_view cause;   ///< of a record that XML was decoded into
};

/// The first row that fits counts.
constexpr std::array renamed_causes{
    Renamed{"number/truncated-to-integer", "record/fraction-lost"},
    Renamed{"number/exponent-ignored", "record/number-cut"},
    Renamed{"number/digits-cut", "record/number-cut"},
    Renamed{"number/wrapped", "record/number-wrapped"},
    Renamed{"number/became-text", "record/other-kind"},
    Renamed{"number/", "record/number-changed"},
    Renamed{"string/trimmed", "record/white-space-lost"},
    Renamed{"string/cut", "record/text-cut"},
    Renamed{"string/became-number", "record/text-became-number"},
    Renamed{"string/", "record/text-changed"},
    Renamed{"element/lost", "record/list-element-lost"},
    Renamed{"element/added", "record/list-element-added"},
    Renamed{"value/null", "record/field-empty"},
    Renamed{"member/lost", "record/field-lost"},
    Renamed{common_cause::unset, common_cause::unset},
    Renamed{"", "record/other-kind"},
};

std::string_view renamed(std::string_view cause) {
    return std::ranges::find_if(renamed_causes, [&](const Renamed& row) { return cause.starts_with(row.family); })
        ->cause;
}

/// An element of a document, with what is directly in it.
struct Element {
    std::string name;
    std::map<std::string, std::string> attributes;
    std::string text;
    std::vector<Element> children;
};

std::string local_name(const Item& item) {
    return item.field(1).reported() ? item.field(1).atoms() : item.field(0).atoms();
}

class ElementReader {
  public:
    explicit ElementReader(std::span<const Item> items) : items_(items) {}

    Element root() {
        while (at_ < items_.size() && items_[at_].kind != ItemKind::element) ++at_;
        return at_ < items_.size() ? element() : Element{};
    }

  private:
    /// The record's own types bound how deep this goes: what is deeper is passed over.
    Element element(std::size_t depth = 0) {
        constexpr std::size_t deepest = 8;
        Element out;
        out.name = local_name(items_[at_]);
        for (++at_; at_ < items_.size() && items_[at_].kind != ItemKind::element_end; ++at_) {
            const Item& item = items_[at_];
            if (item.kind == ItemKind::attribute) out.attributes.emplace(local_name(item), item.field(3).atoms());
            if (item.kind == ItemKind::text || item.kind == ItemKind::cdata) out.text += item.field(0).atoms();
            if (item.kind != ItemKind::element) continue;
            if (depth < deepest) {
                out.children.push_back(element(depth + 1));
            } else {
                pass_over();
            }
        }
        return out;
    }
    void pass_over() {
        std::size_t open = 1;
        while (open > 0 && ++at_ < items_.size()) {
            if (items_[at_].kind == ItemKind::element) ++open;
            if (items_[at_].kind == ItemKind::element_end) --open;
        }
    }

    std::span<const Item> items_;
    std::size_t at_ = 0;
};

/// As XML Schema spells them, and as programming languages do.
struct Special {
    std::string_view spelling;
    std::uint64_t bits;
};
constexpr std::uint64_t infinity = 0x7FF0'0000'0000'0000, sign = 0x8000'0000'0000'0000;
constexpr std::array special_numbers{
    Special{"NaN", 0x7FF8'0000'0000'0000}, Special{"INF", infinity},
    Special{"-INF", infinity | sign},      Special{"Infinity", infinity},
    Special{"-Infinity", infinity | sign}, Special{"+Inf", infinity},
    Special{"-Inf", infinity | sign},      Special{"inf", infinity},
    Special{"-inf", infinity | sign},
};

bool is_nil(const Element& element) {
    const auto nil = element.attributes.find("nil");
    return nil != element.attributes.end() && (nil->second == "true" || nil->second == "1");
}

/// Writes a document's fields in the order and by the kinds of the record that it was written from.
class RecordWriter {
  public:
    explicit RecordWriter(std::span<const Item> held) : held_(held) {}

    std::string write(const Element& root) {
        record(root);
        return out_.take();
    }

  private:
    void record(const Element& element) {
        out_.line("{");
        for (++at_; held_[at_].kind != ItemKind::object_close; ++at_) {
            const std::string name = held_[at_++].field(0).atoms();
            field(element, name);
        }
        out_.line("}");
    }

    void field(const Element& parent, const std::string& name) {
        const auto key = [&] { out_.line("key " + TraceWriter::field(name)); };
        if (held_[at_].kind == ItemKind::array_open) {
            key();
            return list(parent, name);
        }
        const auto child = std::ranges::find(parent.children, name, &Element::name);
        const auto attribute = parent.attributes.find(name);
        if (child != parent.children.end()) {
            key();
            value(*child);
        } else if (attribute != parent.attributes.end()) {
            key();
            value(Element{name, {}, attribute->second, {}});
        } else {
            pass_over();
        }
    }

    void list(const Element& parent, const std::string& name) {
        const Item first = held_[at_ + 1];
        pass_over();
        out_.line("[");
        for (const Element& child : parent.children)
            if (child.name == name) scalar(first, child);
        out_.line("]");
    }

    void value(const Element& element) {
        if (held_[at_].kind == ItemKind::object_open && !is_nil(element)) return record(element);
        scalar(held_[at_], element);
        pass_over();
    }

    void scalar(const Item& held, const Element& element) {
        const std::string& text = element.text;
        const bool is_empty = text.empty() && element.children.empty();
        const bool is_truth = held.kind == ItemKind::true_value || held.kind == ItemKind::false_value;
        if (!element.children.empty() && held.kind == ItemKind::null_value) {
            out_.line("{");
            out_.line("}");
        } else if (is_nil(element) || (held.kind == ItemKind::null_value && is_empty)) {
            out_.line("null");
        } else if (held.kind >= ItemKind::integer && held.kind <= ItemKind::spelled && Decimal::parse(text)) {
            out_.text_line("spelled", text);
        } else if (const auto* special = std::ranges::find(special_numbers, text, &Special::spelling);
                   held.kind == ItemKind::binary64 && special != special_numbers.end()) {
            out_.bits64(special->bits);
        } else if (is_truth && (text == "true" || text == "false")) {
            out_.line(text);
        } else {
            out_.text_line("str", text);
        }
    }

    /// To the last item of the held value that begins here.
    void pass_over() {
        std::size_t open = 0;
        do {
            const ItemKind kind = held_[at_].kind;
            if (kind == ItemKind::object_open || kind == ItemKind::array_open || kind == ItemKind::container_open)
                ++open;
            if (kind == ItemKind::object_close || kind == ItemKind::array_close ||
                kind == ItemKind::container_close)
                --open;
            if (open > 0) ++at_;
        } while (open > 0);
    }

    std::span<const Item> held_;
    std::size_t at_ = 0;
    TraceWriter out_;
};

}  // namespace

bool is_record(const Trace& trace) {
    return !trace.items().empty() && trace.items().front().kind == ItemKind::object_open;
}

Comparison compare_records(const Trace& expected, const Trace& got, const CompareOptions& options) {
    Comparison out;
    if (!is_record(got)) {
        out.differences.push_back({"", "record/other-kind", "the answer is no record of fields", "", ""});
        return out;
    }
    // Questions are those of JSON documents: what they explain is a sheet's matter here.
    out.differences = json::format().compare(expected, got, options).differences;
    for (Difference& difference : out.differences) difference.cause = renamed(difference.cause);
    return out;
}

Trace record_in(const Trace& document, const Trace& held) {
    if (!is_record(held)) return document;
    return *Trace::parse(RecordWriter(held.items()).write(ElementReader(document.items()).root()));
}

}  // namespace nachklang::xml

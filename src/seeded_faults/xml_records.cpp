// See xml_records.hpp.
#include "seeded_faults/xml_records.hpp"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>
#include <cstdlib>
#include <limits>

#include <nachklang/adapter.hpp>

namespace seeded_faults {
namespace {

using nachklang::adapter::TraceLine;
using nachklang::adapter::TraceOut;
using oracle::XmlNode;
using Kind = XmlNode::Kind;

struct Field {
    std::string_view name, kind;
    bool required = true, is_attribute = false;
};
/// The types of docs/records-of-fields.md, as this codec declares them.
std::vector<Field> fields_of(std::string_view record) {
    if (record == "bell")
        return {{"name", "text"}, {"weight_kg", "int32"}, {"hum_hz", "binary64"}, {"note", "text", false}};
    if (record == "one-attribute") return {{"value", "int32", true, true}};
    if (record == "one-attribute-text") return {{"value", "text", true, true}};
    return record.starts_with("one-") ? std::vector<Field>{{"value", record.substr(4)}} : std::vector<Field>{};
}

std::string trimmed(const std::string& text) {
    constexpr const char* space = " \t\r\n";
    const auto first = text.find_first_not_of(space);
    return first == std::string::npos ? "" : text.substr(first, text.find_last_not_of(space) - first + 1);
}

bool has_digit(std::string_view text) {
    return std::ranges::any_of(text, [](char c) { return c >= '0' && c <= '9'; });
}

std::string_view local_name(const XmlNode& node) {
    const std::string_view name = node.name;
    return name.substr(name.find(':') + 1);
}

/// The number of a text as XML Schema spells doubles; nothing if it is none.
std::optional<double> double_of(std::string text) {
    if (text == "NaN") return std::numeric_limits<double>::quiet_NaN();
    if (text == "INF" || text == "-INF") return (text[0] == '-' ? -1 : 1) * std::numeric_limits<double>::infinity();
    if (text.starts_with('+')) text.erase(0, 1);
    double value = 0;
    const bool plain = text.find_first_not_of("0123456789.eE+-") == std::string::npos && !text.starts_with('+');
    const auto read = std::from_chars(text.data(), text.data() + text.size(), value);
    if (!plain || read.ec != std::errc{} || read.ptr != text.data() + text.size()) return std::nullopt;
    return value;
}

class Binder {
  public:
    Binder(const XmlRecordMistakes& mistakes, TraceOut& out) : mistakes_(mistakes), out_(out) {}

    // NOLINTNEXTLINE(misc-no-recursion): a record holds one other
    bool record(const XmlNode& element, const std::vector<Field>& fields) {
        out_.open_object();
        for (const Field& field : fields) {
            out_.key(field.name);
            if (!(field.is_attribute ? attribute(element, field) : child(element, field))) return false;
        }
        out_.close_object();
        return true;
    }
    [[nodiscard]] bool is_name(const XmlNode& node, std::string_view name) const {
        return mistakes_.namespaces_ignored ? local_name(node) == name : node.name == name && node.uri.empty();
    }

  private:
    bool attribute(const XmlNode& element, const Field& field) {
        for (const oracle::XmlAttribute& a : element.attributes)
            if (a.name == field.name) return scalar(a.value, field.kind);
        return false;
    }

    // NOLINTNEXTLINE(misc-no-recursion)
    bool child(const XmlNode& element, const Field& field) {
        if (field.kind == "list") return list(element, field.name);
        std::vector<const XmlNode*> found;
        for (const XmlNode& node : element.children)
            if (node.kind == Kind::element && is_name(node, field.name)) found.push_back(&node);
        if (found.empty() && mistakes_.takes_attributes && attribute_given(element, field.name))
            return attribute(element, field);
        if (found.empty()) return absent(field);
        return found.size() == 1 && value(*found.front(), field.kind);
    }
    static bool attribute_given(const XmlNode& element, std::string_view name) {
        return std::ranges::any_of(element.attributes, [&](const auto& a) { return a.name == name; });
    }

    bool absent(const Field& field) {
        if (!field.required) return out_.null(), true;
        if (field.kind != "record" || !mistakes_.nested_unset) return false;
        out_.open_object();
        out_.key("value");
        out_.line("unset");
        return out_.close_object(), true;
    }

    bool list(const XmlNode& element, std::string_view name) {
        std::vector<const XmlNode*> found;
        for (const XmlNode& node : element.children) {
            if (node.kind != Kind::element) continue;
            const bool is_of_list = is_name(node, name);
            if ((is_of_list && mistakes_.last_of_list) || (!is_of_list && mistakes_.list_begins_anew))
                found.clear();
            if (is_of_list) found.push_back(&node);
        }
        out_.open_array();
        for (const XmlNode* node : found)
            if (!value(*node, "int32")) return false;
        return out_.close_array(), true;
    }

    // NOLINTNEXTLINE(misc-no-recursion)
    bool value(const XmlNode& element, std::string_view kind) {
        for (const oracle::XmlAttribute& a : element.attributes)
            if (a.name == "xsi:nil" && !mistakes_.nil_ignored) return false;
        if (kind == "record") return record(element, {{"value", "int32"}});
        std::string text;
        for (const XmlNode& node : element.children) {
            if (node.kind == Kind::element) return false;
            const bool is_data = node.kind == Kind::text || node.kind == Kind::cdata;
            if (!is_data && mistakes_.text_ends_at_comment && kind == "text") break;
            if (node.kind == Kind::cdata && mistakes_.sections_left_out && kind != "text") continue;
            if (is_data) text += node.text;
        }
        return scalar(text, kind);
    }

    bool scalar(const std::string& held, std::string_view kind) {
        if (kind == "text") return out_.string(mistakes_.trims_texts ? trimmed(held) : held), true;
        const std::string text = trimmed(held);
        if (text.empty() && mistakes_.empty_is_default) {
            if (kind == "boolean") return out_.boolean(false), true;
            return out_.integer(0), true;
        }
        if (kind == "boolean") return boolean(text);
        if (!text.empty() && mistakes_.word_is_zero && !has_digit(text) && kind != "binary64")
            return out_.integer(0), true;
        return kind == "binary64" ? binary64(text) : integer(text, kind);
    }
    bool boolean(const std::string& text) {
        if (mistakes_.true_by_first_letter && !text.empty())
            return out_.boolean(text[0] == 't' || text[0] == '1'), true;
        const bool truth = text == "true" || text == "1";
        if (!truth && text != "false" && text != "0") return false;
        return out_.boolean(truth), true;
    }
    bool binary64(const std::string& text) {
        const auto value = double_of(text);
        if (!value) return false;
        return out_.binary64(*value), true;
    }
    bool integer(std::string text, std::string_view kind) {
        if (text.starts_with('+')) text.erase(0, 1);
        if (mistakes_.cuts_fractions && text.find_first_of("eE") == std::string::npos)
            text = text.substr(0, text.find('.'));
        std::int64_t value = 0;
        const auto read = std::from_chars(text.data(), text.data() + text.size(), value);
        if (text.empty() || read.ec != std::errc{} || read.ptr != text.data() + text.size()) return false;
        if (mistakes_.wraps && kind == "int32")
            value = static_cast<std::int32_t>(static_cast<std::uint32_t>(value));
        if (kind == "int32" && value != static_cast<std::int32_t>(value)) return false;
        return out_.integer(value), true;
    }

    const XmlRecordMistakes& mistakes_;
    TraceOut& out_;
};

/// The length of a character that no document holds, at this place: a control, half of a pair, U+FFFE, U+FFFF.
std::size_t no_character(std::string_view text) {
    const auto c = static_cast<unsigned char>(text[0]);
    if (c < 0x20) return c == '\t' || c == '\n' || c == '\r' ? 0 : 1;
    const bool half = c == 0xED && text.size() > 2 && static_cast<unsigned char>(text[1]) >= 0xA0;
    return half || text.starts_with("\xEF\xBF\xBE") || text.starts_with("\xEF\xBF\xBF") ? 3 : 0;
}

/// Without the characters that no document holds.
std::string writable(const std::string& text, const XmlRecordMistakes& mistakes) {
    if (mistakes.controls_written) return text;
    std::string out;
    for (std::size_t at = 0; at < text.size();) {
        const std::size_t length = no_character(std::string_view(text).substr(at));
        if (length > 0 && !mistakes.controls_left_out)
            throw oracle::XmlRefused("a character that no document holds");
        if (length == 0) out += text[at];
        at += std::max<std::size_t>(length, 1);
    }
    return out;
}

std::string escaped(const std::string& text, const XmlRecordMistakes& mistakes, bool in_value) {
    std::string out;
    for (const char c : text) {
        const bool is_end = c == '\n' || c == '\t';
        if (c == '\r' && !mistakes.returns_raw)
            out += "&#13;";
        else if (in_value && is_end && !mistakes.value_ends_raw)
            out += c == '\n' ? "&#10;" : "&#9;";
        else if (c == '<' && !mistakes.markup_raw)
            out += "&lt;";
        else if (c == '&' && !mistakes.markup_raw)
            out += "&amp;";
        else if (c == '>')
            out += "&gt;";
        else if (c == '"' && in_value)
            out += "&quot;";
        else
            out += c;
    }
    return out;
}

/// A value that is written: the text of a scalar, or what is inside the element of a container.
struct Written {
    enum class Of : std::uint8_t { scalar, list, record, nothing } of = Of::scalar;
    std::string text;
    std::vector<std::string> elements{};
    std::string attributes{};
};

struct Writer {
    using Value = Written;
    const XmlRecordMistakes& mistakes;
    bool to_attributes;

    [[nodiscard]] Value scalar(const TraceLine& item) const {
        if (item.kind == "null") return {Written::Of::nothing, ""};
        if (item.kind == "str")
            return {Written::Of::scalar, escaped(writable(item.text, mistakes), mistakes, to_attributes)};
        if (item.kind == "int") return {Written::Of::scalar, item.text};
        if (item.kind == "unset") return {Written::Of::scalar, "0"};
        return {Written::Of::scalar, item.kind == "binary64" ? number(item.binary64()) : item.kind};
    }
    static Value array() { return {Written::Of::list, ""}; }
    static Value object() { return {Written::Of::record, ""}; }
    static void append(Value& to, const Value& value) { to.elements.push_back(value.text); }
    void put(Value& to, const TraceLine& name, const Value& value) const {
        const auto element = [&](const std::string& text) {
            to.text += "<" + name.name() + ">" + text + "</" + name.name() + ">";
        };
        const bool is_empty_text = value.of == Written::Of::scalar && value.text.empty();
        const bool is_empty_list = value.of == Written::Of::list && value.elements.empty();
        if (value.of == Written::Of::nothing || is_empty_list || (is_empty_text && mistakes.empty_left_out)) return;
        if (to_attributes) {
            to.attributes += " " + name.name() + "=\"" + value.text + "\"";
        } else if (value.of != Written::Of::list) {
            element(value.text);
        } else if (mistakes.list_in_one_element) {
            std::string all;
            for (const std::string& text : value.elements) all += (all.empty() ? "" : " ") + text;
            element(all);
        } else {
            for (const std::string& text : value.elements) element(text);
        }
    }

  private:
    [[nodiscard]] std::string number(double value) const {
        if (std::isnan(value)) return "NaN";
        if (std::isinf(value)) return value < 0 ? "-INF" : "INF";
        char text[64];
        const auto end = mistakes.numbers_with_six_digits
                             ? std::to_chars(text, text + sizeof text, value, std::chars_format::general, 6)
                             : std::to_chars(text, text + sizeof text, value);
        return {text, end.ptr};
    }
};

}  // namespace

std::optional<std::string> xml_record(const std::vector<XmlNode>& document, std::string_view record,
                                      const XmlRecordMistakes& mistakes) {
    TraceOut out(true);
    Binder binder(mistakes, out);
    const auto root = std::ranges::find(document, Kind::element, &XmlNode::kind);
    const std::vector<Field> fields = fields_of(record);
    if (root == document.end() || fields.empty() || !binder.is_name(*root, record == "bell" ? "bell" : "record"))
        return std::nullopt;
    return binder.record(*root, fields) ? std::optional(out.take()) : std::nullopt;
}

std::string written_xml_record(std::string_view fields, std::string_view record,
                               const XmlRecordMistakes& mistakes) {
    const std::string root = record == "bell" ? "bell" : "record";
    const Written all = nachklang::adapter::build(fields, Writer{mistakes, record.starts_with("one-attribute")});
    return "<" + root + all.attributes + ">" + all.text + "</" + root + ">";
}

}  // namespace seeded_faults

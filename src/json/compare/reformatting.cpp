// How a value is shown, and how a text differs from another that says the same.
#include <fmt/format.h>

#include <algorithm>

#include "json/compare/explain.hpp"
#include "json/internal.hpp"
#include "json/read/scanner.hpp"

namespace nachklang::json {
namespace {

struct Spellings {
    std::string space, numbers, strings;
    std::vector<std::string> members;
};

Spellings spellings(std::string_view bytes) {
    Spellings out;
    const Document document = Document::read(bytes);
    std::size_t last = 0;
    for (const Entry& entry : document.tape()) {
        const std::string_view gap = bytes.substr(last, entry.begin - last);
        std::copy_if(gap.begin(), gap.end(), std::back_inserter(out.space),
                     [](char c) { return c != ',' && c != ':'; });
        const bool container = entry.kind >= TokenKind::array_open;
        const std::string_view source = container ? bytes.substr(entry.begin, 1) : document.source(entry);
        last = entry.begin + source.size();
        if (entry.kind == TokenKind::number) (out.numbers += source) += ' ';
        if (entry.kind == TokenKind::string || entry.kind == TokenKind::name) (out.strings += source) += ' ';
        if (entry.kind == TokenKind::name) out.members.emplace_back(source);
        if (!container) out.space += '|';
    }
    out.space += bytes.substr(last);
    return out;
}

}  // namespace

std::string kind_word(ItemKind kind) {
    switch (kind) {
        case ItemKind::integer:
            return "int";
        case ItemKind::decimal:
            return "decimal";
        case ItemKind::binary64:
            return "binary64";
        case ItemKind::binary32:
            return "binary32";
        default:
            return "(as written)";
    }
}

std::string shown_scalar(const Item& item, ItemKind kind, std::size_t most) {
    switch (kind) {
        case ItemKind::null_value:
            return "null";
        case ItemKind::true_value:
            return "true";
        case ItemKind::false_value:
            return "false";
        case ItemKind::unset:
            return "(unset)";
        case ItemKind::string:
            return "\"" + text::printable_atoms(item.field(0).atoms(), most) + "\"";
        case ItemKind::native:
            return fmt::format("{} {}", text::printable_excerpt(item.word(), 20),
                               text::printable_atoms(item.field(0).atoms(), most));
        case ItemKind::cycle:
            return fmt::format("(cycle {})", item.digits());
        case ItemKind::array_open:
            return "[…]";
        case ItemKind::object_open:
            return "{…}";
        case ItemKind::container_open:
            return "(…)";
        default:
            break;
    }
    if (!is_number(kind)) return "(?)";
    return text::printable_excerpt(shown_number(item, kind), most) + " " + kind_word(kind);
}

std::string shown_number(const Item& item, ItemKind kind) {
    const StoredNumber n = stored_number(item, kind);
    if (!n.binary) return kind == ItemKind::spelled ? n.spelled : std::string(item.digits());
    if (number::is_nan64(n.nearest)) return "NaN";
    if (number::is_infinite64(n.nearest)) return (n.nearest >> 63) != 0 ? "-infinity" : "infinity";
    return kind == ItemKind::binary32 ? number::shortest32(static_cast<std::uint32_t>(bits_of(item)))
                                      : number::shortest64(n.nearest);
}

std::string shown_value(const Trace& trace, std::size_t most) {
    std::string out;
    std::vector<bool> first;
    bool after_key = false;
    for (const Item& item : trace.items()) {
        if (out.size() > most) return out + " …";
        if (closes(item.kind)) {
            first.pop_back();
            out += item.kind == ItemKind::array_close ? "]" : (item.kind == ItemKind::object_close ? "}" : ")");
            continue;
        }
        if (!first.empty() && !after_key) {
            if (!first.back()) out += ", ";
            first.back() = false;
        }
        after_key = item.kind == ItemKind::key;
        if (after_key) {
            out += item.name_kind == ItemKind::string
                       ? "\"" + text::printable_atoms(item.field(0).atoms(), most) + "\""
                       : shown_scalar(item, item.name_kind, most);
            out += ": ";
        } else if (opens(item.kind)) {
            out += item.kind == ItemKind::array_open ? "[" : (item.kind == ItemKind::object_open ? "{" : "(");
            first.push_back(true);
        } else {
            out += shown_scalar(item, item.kind, most);
        }
    }
    return out;
}

std::string escaped_surrogates(std::string_view text) {
    std::string out;
    bool escape_open = false;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const auto byte = [&](std::size_t at) {
            return at < text.size() ? static_cast<unsigned char>(text[at]) : 0U;
        };
        const bool surrogate = byte(i) == 0xED && byte(i + 1) >= 0xA0 && byte(i + 1) <= 0xBF &&
                               byte(i + 2) >= 0x80 && byte(i + 2) <= 0xBF;
        if (surrogate && !escape_open) {
            out += fmt::format("\\u{:04x}", 0xD000 + ((byte(i + 1) & 0x3F) << 6) + (byte(i + 2) & 0x3F));
            i += 2;
        } else {
            out += text[i];
        }
        escape_open = text[i] == '\\' && !escape_open;
    }
    return out;
}

std::vector<std::string> reformatted(std::string_view before, std::string_view after) {
    std::vector<std::string> out;
    const Spellings a = spellings(before), b = spellings(after);
    if (a.space != b.space) out.emplace_back("white-space");
    if (a.members != b.members) {
        auto sorted_a = a.members, sorted_b = b.members;
        std::sort(sorted_a.begin(), sorted_a.end());
        std::sort(sorted_b.begin(), sorted_b.end());
        if (sorted_a == sorted_b) return out.emplace_back("member-order"), out;
    }
    if (a.numbers != b.numbers) out.emplace_back("number-spelling");
    if (a.strings != b.strings) out.emplace_back("escapes");
    return out;
}

}  // namespace nachklang::json

// The canonical form of RFC 8785: members sorted, strings and numbers spelled in one way only.
#include <fmt/format.h>

#include <algorithm>
#include <unordered_set>

#include <nachklang/json.hpp>
#include <nachklang/number.hpp>

#include "json/internal.hpp"
#include "json/read/scanner.hpp"

namespace nachklang::json {
namespace {

/// Offset, in a string's source, of the first escaped surrogate without its other half; the string has one.
std::size_t lone_surrogate_in(std::string_view source) {
    std::size_t high = std::string_view::npos;  // where a high one waits for its low one
    for (std::size_t at = 1; at + 1 < source.size();) {
        if (source[at] != '\\' || source[at + 1] != 'u') {
            if (high != std::string_view::npos) return high;
            at += source[at] == '\\' ? 2 : 1;
            continue;
        }
        unsigned unit = 0;
        for (const char c : source.substr(at + 2, 4))
            unit = unit * 16 + static_cast<unsigned>(detail::hex_value(static_cast<unsigned char>(c)));
        const bool is_low = unit >= 0xDC00 && unit < 0xE000, is_high = unit >= 0xD800 && unit < 0xDC00;
        if (high != std::string_view::npos && !is_low) return high;
        if (high == std::string_view::npos && is_low) return at;
        high = is_high ? at : std::string_view::npos;
        at += 6;
    }
    return high;
}

/// A number as ECMA-262 would print it (RFC 8785, 3.2.2.3); nothing where binary64 has no finite value for it.
std::optional<std::string> canonical_number(std::string_view source) {
    const std::uint64_t bits = number::nearest_binary64(*Decimal::parse(source));
    if (number::is_infinite64(bits)) return std::nullopt;
    return (bits << 1) == 0 ? "0" : number::shortest64(bits);
}

void append_string(std::string& out, std::string_view atoms) {
    constexpr std::string_view escaped = "\b\t\n\f\r\"\\", letters = "btnfr\"\\";
    out += '"';
    for (const char c : atoms) {
        if (const auto which = escaped.find(c); which != std::string_view::npos) {
            (out += '\\') += letters[which];
        } else if (static_cast<unsigned char>(c) < 0x20) {
            out += fmt::format("\\u{:04x}", static_cast<unsigned>(c));
        } else {
            out += c;
        }
    }
    out += '"';
}

/// The first reason, in the document's order, why it has no canonical form.
std::optional<Rejection> first_obstacle(const Document& document) {
    const auto rejection = [&](std::size_t offset, std::string message, const char* clause) {
        return Rejection{text::position_of(document.bytes(), offset), std::move(message), clause, {}};
    };
    std::vector<std::unordered_set<std::string>> names;
    for (const Entry& entry : document.tape()) {
        if (entry.kind == TokenKind::object_open) names.emplace_back();
        if (entry.kind == TokenKind::object_close) names.pop_back();
        if (entry.kind == TokenKind::number && !canonical_number(document.source(entry)))
            return rejection(entry.begin, "the number is beyond the range of binary64", "RFC 8785, 3.2.2.3");
        if (entry.kind != TokenKind::string && entry.kind != TokenKind::name) continue;
        if (entry.flags.lone_surrogate)
            return rejection(entry.begin + lone_surrogate_in(document.source(entry)), "a lone surrogate",
                             "RFC 8785, 3.2.2.2");
        if (entry.kind == TokenKind::name && !names.back().insert(document.atoms(entry)).second)
            return rejection(entry.begin, "the object already has this name", "RFC 8785, 3.1");
    }
    return std::nullopt;
}

class CanonicalWriter {
  public:
    explicit CanonicalWriter(const Document& document) : document_(document), tape_(document.tape()) {}

    std::string write() {
        value(0);
        while (!open_.empty()) {
            Open& top = open_.back();
            if (top.done == top.children.size()) {
                out_ += top.object ? '}' : ']';
                open_.pop_back();
                continue;
            }
            if (top.done > 0) out_ += ',';
            std::size_t at = top.children[top.done++];
            if (top.object) {
                append_string(out_, document_.atoms(tape_[at++]));
                out_ += ':';
            }
            value(at);
        }
        return std::move(out_);
    }

  private:
    struct Open {
        bool object = false;
        std::vector<std::size_t> children;  // tape indices: of values, or of names in their order
        std::size_t done = 0;
    };

    void value(std::size_t at) {
        const Entry& entry = tape_[at];
        switch (entry.kind) {
            case TokenKind::array_open:
            case TokenKind::object_open:
                out_ += entry.kind == TokenKind::object_open ? '{' : '[';
                open_.push_back(opened(at));
                break;
            case TokenKind::number:
                out_ += *canonical_number(document_.source(entry));
                break;
            case TokenKind::string:
                append_string(out_, document_.atoms(entry));
                break;
            default:
                out_ += document_.source(entry);
        }
    }

    [[nodiscard]] Open opened(std::size_t at) const {
        Open out{tape_[at].kind == TokenKind::object_open, {}, 0};
        for (std::size_t i = at + 1; i < tape_[at].end;) {
            out.children.push_back(i);
            i += out.object ? 1 : 0;
            i = tape_[i].kind == TokenKind::array_open || tape_[i].kind == TokenKind::object_open
                    ? static_cast<std::size_t>(tape_[i].end) + 1
                    : i + 1;
        }
        if (!out.object) return out;
        // RFC 8785, 3.2.3: by the UTF-16 units of the names, which is not the order of their UTF-8 bytes. The bytes
        // of UTF-16BE sort as its units do.
        std::vector<std::pair<std::string, std::size_t>> names;
        for (const std::size_t child : out.children)
            names.emplace_back(text::from_utf8(document_.atoms(tape_[child]), text::Utf::utf16be), child);
        std::sort(names.begin(), names.end());
        std::transform(names.begin(), names.end(), out.children.begin(),
                       [](const auto& name) { return name.second; });
        return out;
    }

    const Document& document_;
    const std::vector<Entry>& tape_;
    std::vector<Open> open_;
    std::string out_;
};

}  // namespace

Canonical canonical(std::string_view bytes) {
    const Document document = Document::read(bytes);
    if (!document.accepted()) return {document.rejection(), {}, {}};
    if (auto obstacle = first_obstacle(document)) return {std::move(obstacle), {}, {}};
    return {{}, {}, CanonicalWriter(document).write()};
}

}  // namespace nachklang::json

// The canonical form of RFC 8785: members sorted, strings and numbers spelled in one way only.
#include <fmt/format.h>

#include <algorithm>
#include <functional>
#include <memory>

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
    const std::vector<std::size_t> repeated = document.repeated_names();
    for (std::size_t at = 0; at < document.tape().size(); ++at) {
        const Entry& entry = document.tape()[at];
        if (entry.kind == TokenKind::number && !canonical_number(document.source(entry)))
            return rejection(entry.begin, "the number is beyond the range of binary64", "RFC 8785, 3.2.2.3");
        if (entry.kind != TokenKind::string && entry.kind != TokenKind::name) continue;
        if (entry.flags.lone_surrogate)
            return rejection(entry.begin + lone_surrogate_in(document.source(entry)), "a lone surrogate",
                             "RFC 8785, 3.2.2.2");
        if (std::ranges::binary_search(repeated, at))
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
            const bool object = tape_[top.opener].kind == TokenKind::object_open;
            if (top.next == tape_[top.opener].end) {
                out_ += object ? '}' : ']';
                open_.pop_back();
                continue;
            }
            if (!top.first) out_ += ',';
            top.first = false;
            std::size_t at = take_next(top);
            if (object) {
                append_string(out_, document_.atoms(tape_[at++]));
                out_ += ':';
            }
            value(at);
        }
        return std::move(out_);
    }

  private:
    /// A container that is being written. An array's values, and an object's only member, come as the tape has
    /// them.
    struct Open {
        std::size_t opener, next;  // tape indices; next is the container's closer at its end
        bool first = true;
        std::unique_ptr<std::vector<std::size_t>> sorted;  // names still to come, the last one first
    };

    std::size_t take_next(Open& open) {
        if (open.sorted == nullptr) {
            const std::size_t at = open.next;
            open.next = document_.after(tape_[at].kind == TokenKind::name ? at + 1 : at);
            return at;
        }
        const std::size_t at = open.sorted->back();
        open.sorted->pop_back();
        if (open.sorted->empty()) open.next = tape_[open.opener].end;
        return at;
    }

    void value(std::size_t at) {
        const Entry& entry = tape_[at];
        switch (entry.kind) {
            case TokenKind::array_open:
            case TokenKind::object_open:
                out_ += entry.kind == TokenKind::object_open ? '{' : '[';
                open_.push_back({at, at + 1, true, sorted_names(at)});
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

    /// Of an object with several members; null if the order of the tape will do.
    [[nodiscard]] std::unique_ptr<std::vector<std::size_t>> sorted_names(std::size_t opener) const {
        const std::size_t end = tape_[opener].end;
        if (!document_.has_several_members(opener)) return nullptr;
        // RFC 8785, 3.2.3: by the UTF-16 units of the names, which is not the order of their UTF-8 bytes. The bytes
        // of UTF-16BE sort as its units do.
        std::vector<std::pair<std::string, std::size_t>> names;
        for (std::size_t name = opener + 1; name < end; name = document_.after(name + 1))
            names.emplace_back(text::from_utf8(document_.atoms(tape_[name]), text::Utf::utf16be), name);
        std::sort(names.begin(), names.end(), std::greater<>());
        auto out = std::make_unique<std::vector<std::size_t>>();
        for (const auto& [units, name] : names) out->push_back(name);
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

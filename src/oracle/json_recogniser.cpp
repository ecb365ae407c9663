// The second recogniser for JSON; json_recogniser.hpp says why it is written in another style than the reader.
#include "oracle/json_recogniser.hpp"

namespace oracle {
namespace {

constexpr char32_t bad_byte = 0xFFFFFFFF;

struct Character {
    char32_t code;
    std::size_t offset, length;
};

std::string encode(char32_t c) {
    std::string out;
    if (c < 0x80) return std::string(1, static_cast<char>(c));
    const int more = c < 0x800 ? 1 : (c < 0x10000 ? 2 : 3);
    constexpr unsigned heads[] = {0, 0xC0, 0xE0, 0xF0};
    out += static_cast<char>(heads[more] | (c >> (6 * more)));
    for (int i = more - 1; i >= 0; --i) out += static_cast<char>(0x80 | ((c >> (6 * i)) & 0x3F));
    return out;
}

/// A sequence is well-formed if encoding its code point gives the same bytes again.
std::vector<Character> characters_of(std::string_view bytes) {
    std::vector<Character> out;
    std::size_t at = 0;
    while (at < bytes.size()) {
        Character best{bad_byte, at, 1};
        for (std::size_t length = 1; length <= 4 && at + length <= bytes.size(); ++length) {
            const auto head = static_cast<unsigned char>(bytes[at]);
            const unsigned masks[] = {0, 0x7F, 0x1F, 0x0F, 0x07};
            char32_t c = head & masks[length];
            for (std::size_t i = 1; i < length; ++i)
                c = (c << 6) | (static_cast<unsigned char>(bytes[at + i]) & 0x3FU);
            const bool surrogate = c >= 0xD800 && c <= 0xDFFF;
            if (c <= 0x10FFFF && !surrogate && encode(c) == bytes.substr(at, length)) {
                best = {c, at, length};
                break;
            }
        }
        out.push_back(best);
        at += best.length;
    }
    return out;
}

class Grammar {
  public:
    Grammar(std::string_view bytes, const Leniency& leniency, std::size_t deepest)
        : bytes_(bytes), characters_(characters_of(bytes)), lenient_(leniency), deepest_(deepest) {}

    Recognised run() {
        Recognised out;
        Value value;
        if (lenient_.byte_order_mark && is(0xFEFF)) ++at_;
        if (space() && this->value(value, 0) && space() && end()) {
            const bool scalar = value.kind != Kind::array && value.kind != Kind::object;
            if (!scalar || !lenient_.no_top_scalar) {
                out.value = std::move(value);
                return out;
            }
        }
        out.error_offset = furthest_ < characters_.size() ? characters_[furthest_].offset : bytes_.size();
        out.too_deep = too_deep_;
        return out;
    }

  private:
    // --- matching one character; each failure is recorded with its position ---
    bool miss() {
        if (at_ > furthest_) furthest_ = at_;
        return false;
    }
    [[nodiscard]] bool is(char32_t c) const { return at_ < characters_.size() && characters_[at_].code == c; }
    bool one(char32_t c) {
        if (!is(c)) return miss();
        ++at_;
        return true;
    }
    bool range(char32_t from, char32_t to) {
        if (at_ >= characters_.size() || characters_[at_].code < from || characters_[at_].code > to) return miss();
        ++at_;
        return true;
    }
    bool end() { return lenient_.text_after_end || at_ == characters_.size() || miss(); }

    bool space() {
        while (one(' ') || one('\t') || one('\n') || one('\r') || (lenient_.comments && comment())) {
        }
        return true;
    }
    bool comment() {
        const std::size_t begin = at_;
        if (one('/') && one('*')) {
            while (at_ < characters_.size()) {
                if (one('*') && one('/')) return true;
                ++at_;
            }
        }
        at_ = begin;
        if (one('/') && one('/')) {
            while (at_ < characters_.size() && !is('\n')) ++at_;
            return true;
        }
        at_ = begin;
        return false;
    }

    bool word(std::string_view letters) {
        const std::size_t begin = at_;
        for (const char c : letters) {
            if (one(static_cast<char32_t>(c))) continue;
            at_ = begin;
            return false;
        }
        return true;
    }

    bool value(Value& out, std::size_t depth) {
        out.offset = at_ < characters_.size() ? characters_[at_].offset : bytes_.size();
        if (word("null")) return true;
        if (word("true")) {
            out.kind = Kind::boolean;
            return out.truth = true;
        }
        if (word("false")) {
            out.kind = Kind::boolean;
            return true;
        }
        return number(out) || string(out) || container(out, depth);
    }

    bool digits() {
        if (!range('0', '9')) return false;
        while (range('0', '9')) {
        }
        return true;
    }

    bool number(Value& out) {
        const std::size_t begin = at_;
        one('-');
        const bool whole = lenient_.leading_zeros ? digits() : (one('0') || (range('1', '9') && (digits(), true)));
        if (!whole) {
            at_ = begin;
            return false;
        }
        std::size_t mark = at_;
        if (!(one('.') && (digits() || lenient_.bare_point))) at_ = mark;
        mark = at_;
        if (!((one('e') || one('E')) && (one('+') || one('-') || true) && digits())) at_ = mark;
        out.kind = Kind::number;
        out.text = source(begin, at_);
        if (out.text.back() == '.') out.text.pop_back();
        return true;
    }

    [[nodiscard]] std::string source(std::size_t begin, std::size_t end) const {
        const std::size_t from = characters_[begin].offset;
        const std::size_t to = end < characters_.size() ? characters_[end].offset : bytes_.size();
        return std::string(bytes_.substr(from, to - from));
    }

    bool hex4(char32_t& unit) {
        unit = 0;
        for (int i = 0; i < 4; ++i) {
            const std::size_t before = at_;
            if (!(range('0', '9') || range('a', 'f') || range('A', 'F'))) return false;
            const char32_t c = characters_[before].code;
            unit = unit * 16 + (c <= '9' ? c - '0' : (c | 0x20) - 'a' + 10);
        }
        return true;
    }

    bool escape(std::string& out) {
        static constexpr std::string_view names = "\"\\/bfnrt", values = "\"\\/\b\f\n\r\t";
        for (std::size_t i = 0; i < names.size(); ++i) {
            if (!one(static_cast<char32_t>(names[i]))) continue;
            out += values[i];
            return true;
        }
        char32_t unit = 0;
        if (one('u') && hex4(unit)) {
            if (unit >= 0xD800 && unit < 0xDC00) {
                const std::size_t mark = at_;
                char32_t low = 0;
                if (one('\\') && one('u') && hex4(low) && low >= 0xDC00 && low < 0xE000) {
                    out += encode(0x10000 + ((unit - 0xD800) << 10) + (low - 0xDC00));
                    return true;
                }
                at_ = mark;
            }
            out += encode(unit);
            return true;
        }
        if (lenient_.unknown_escape && !is('u') && range(0x20, 0x7E)) {
            out += static_cast<char>(characters_[at_ - 1].code);
            return true;
        }
        return false;
    }

    bool string(Value& out) {
        const std::size_t begin = at_;
        const bool single = lenient_.single_quotes && one('\'');
        if (!single && !one('"')) return false;
        const char32_t quote = single ? '\'' : '"';
        std::string text;
        while (!one(quote)) {
            const std::size_t here = at_;
            if (one('\\')) {
                if (!escape(text)) return at_ = begin, false;
            } else if (range(lenient_.control_in_string ? 0 : 0x20, 0x10FFFF)) {
                text += source(here, at_);
            } else if (lenient_.ill_formed_utf8 && is(bad_byte)) {
                ++at_;
                text += source(here, at_);
            } else {
                return at_ = begin, false;
            }
        }
        out.kind = Kind::string;
        out.text = std::move(text);
        out.raw = source(begin + 1, at_ - 1);
        out.offset = characters_[begin].offset;
        return true;
    }

    bool item(Value& out, bool object, std::size_t depth) {
        Member member;
        if (object) {
            if (!string(member.first)) return false;
            space();
            if (!one(':') && !lenient_.missing_colon) return false;
            space();
        }
        if (!value(member.second, depth + 1)) return false;
        out.members.push_back(std::move(member));
        return space();
    }

    bool container(Value& out, std::size_t depth) {
        const std::size_t begin = at_;
        const bool object = one('{');
        if (!object && !one('[')) return false;
        if (depth >= deepest_) {
            too_deep_ = true;
            return miss();
        }
        out.kind = object ? Kind::object : Kind::array;
        const char32_t closer = object ? '}' : ']';
        space();
        if (one(closer)) return true;
        while (item(out, object, depth)) {
            if (one(closer)) return true;
            if (!one(',')) break;
            space();
            if (lenient_.trailing_comma && one(closer)) return true;
        }
        at_ = begin;
        out = {};
        return false;
    }

    std::string_view bytes_;
    std::vector<Character> characters_;
    const Leniency& lenient_;
    std::size_t deepest_;
    std::size_t at_ = 0, furthest_ = 0;
    bool too_deep_ = false;
};

std::string hex(std::string_view bytes) {
    std::string out;
    for (const char c : bytes)
        for (const int shift : {4, 0}) out += "0123456789abcdef"[(static_cast<unsigned char>(c) >> shift) & 15];
    return out;
}

void print(const Value& value, std::string& out) {
    switch (value.kind) {
        case Kind::null:
            out += "null\n";
            return;
        case Kind::boolean:
            out += value.truth ? "true\n" : "false\n";
            return;
        case Kind::number:
            out += "spelled u8:" + hex(value.text) + "\n";
            return;
        case Kind::string:
            out += "str u8:" + hex(value.text) + "\n";
            return;
        case Kind::array:
        case Kind::object:
            break;
    }
    out += value.kind == Kind::object ? "{\n" : "[\n";
    for (const auto& [name, child] : value.members) {
        if (value.kind == Kind::object) out += "key u8:" + hex(name.text) + "\n";
        print(child, out);
    }
    out += value.kind == Kind::object ? "}\n" : "]\n";
}

}  // namespace

Recognised recognise(std::string_view document, const Leniency& leniency, std::size_t deepest) {
    return Grammar(document, leniency, deepest).run();
}

std::string print_trace(const Value& value) {
    std::string out;
    print(value, out);
    return out;
}

}  // namespace oracle

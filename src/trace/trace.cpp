// Reads and writes the notation of traces. A line is a word and its fields; the table below lists the fields of
// each word.
#include <fmt/format.h>

#include <algorithm>
#include <utility>

#include <nachklang/text.hpp>
#include <nachklang/trace.hpp>

#include "trace/containers.hpp"

namespace nachklang {
namespace {

enum class Follows { nothing, integer, decimal, hex16, hex8, fields, attribute, native, key, count };

struct Word {
    std::string_view word;
    ItemKind kind;
    Follows follows;
    std::size_t fields = 0;
};

constexpr std::array words{
    Word{"null", ItemKind::null_value, Follows::nothing},   Word{"true", ItemKind::true_value, Follows::nothing},
    Word{"false", ItemKind::false_value, Follows::nothing}, Word{"int", ItemKind::integer, Follows::integer},
    Word{"dec", ItemKind::decimal, Follows::decimal},       Word{"binary64", ItemKind::binary64, Follows::hex16},
    Word{"binary32", ItemKind::binary32, Follows::hex8},    Word{"spelled", ItemKind::spelled, Follows::fields, 1},
    Word{"str", ItemKind::string, Follows::fields, 1},      Word{"[", ItemKind::array_open, Follows::nothing},
    Word{"]", ItemKind::array_close, Follows::nothing},     Word{"{", ItemKind::object_open, Follows::nothing},
    Word{"}", ItemKind::object_close, Follows::nothing},    Word{"(", ItemKind::container_open, Follows::nothing},
    Word{")", ItemKind::container_close, Follows::nothing}, Word{"key", ItemKind::key, Follows::key},
    Word{"native", ItemKind::native, Follows::native},      Word{"unset", ItemKind::unset, Follows::nothing},
    Word{"cycle", ItemKind::cycle, Follows::count},         Word{"elem", ItemKind::element, Follows::fields, 3},
    Word{"end", ItemKind::element_end, Follows::nothing},   Word{"attr", ItemKind::attribute, Follows::attribute},
    Word{"ns", ItemKind::declaration, Follows::fields, 2},  Word{"text", ItemKind::text, Follows::fields, 1},
    Word{"cdata", ItemKind::cdata, Follows::fields, 1},     Word{"comment", ItemKind::comment, Follows::fields, 1},
    Word{"pi", ItemKind::instruction, Follows::fields, 2},  Word{"ref", ItemKind::reference, Follows::fields, 1},
    Word{"doctype", ItemKind::doctype, Follows::fields, 1},
};

const Word* find_word(std::string_view text) {
    const auto* const found =
        std::find_if(words.begin(), words.end(), [&](const Word& w) { return w.word == text; });
    return found == words.end() ? nullptr : found;
}

bool all_hex(std::string_view text) {
    return std::all_of(text.begin(), text.end(),
                       [](char c) { return (c >= '0' && c <= '9') || (c >= 'a' && c <= 'f'); });
}

bool all_digits(std::string_view text) {
    return !text.empty() && std::all_of(text.begin(), text.end(), [](char c) { return c >= '0' && c <= '9'; });
}

std::optional<Field> parse_field(std::string_view text) {
    if (text == "-") return Field{};
    const auto with = [&](std::string_view prefix, Field::Units units, std::size_t digits) -> std::optional<Field> {
        if (!text.starts_with(prefix)) return std::nullopt;
        const std::string_view hex = text.substr(prefix.size());
        if (hex.size() % digits != 0 || !all_hex(hex)) return std::nullopt;
        return Field{units, hex};
    };
    if (auto f = with("u8:", Field::Units::u8, 2)) return f;
    if (auto f = with("u16:", Field::Units::u16, 4)) return f;
    return with("u32:", Field::Units::u32, 8);
}

/// Takes the next word off the line.
std::string_view next(std::string_view& line) {
    const std::size_t space = std::min(line.find(' '), line.size());
    const std::string_view out = line.substr(0, space);
    line.remove_prefix(std::min(space + 1, line.size()));
    return out;
}

/// Parses one line; an empty message means it was well-formed. The item's fields, then its word as the text of one
/// more, are appended to the parts.
class LineParser {
  public:
    explicit LineParser(std::vector<Field>& parts) : parts_(parts) {}

    std::string parse(std::string_view line, Item& item) {
        const std::string_view whole = line;
        const std::string_view first = next(line);
        const Word* word = find_word(first);
        if (word == nullptr)
            return fmt::format("'{}' is not a word of the notation", text::printable_excerpt(first, 30));
        item.kind = word->kind;
        word_ = {};
        if (whole.ends_with(' ')) return "a line ends with a space";
        std::string problem = follow(*word, line, item);
        if (has_word()) parts_.push_back({Field::Units::not_reported, word_});
        if (problem.empty() && !line.empty()) problem = fmt::format("too much after '{}'", first);
        return problem;
    }
    /// Of the last line.
    [[nodiscard]] bool has_word() const { return !word_.empty(); }

  private:
    std::string follow(const Word& word, std::string_view& line, Item& item) {
        switch (word.follows) {
            case Follows::nothing:
                return {};
            case Follows::integer: {
                word_ = next(line);
                std::string_view digits = word_;
                if (digits.starts_with('-')) digits.remove_prefix(1);
                return all_digits(digits) ? "" : "'int' is followed by [-]DIGITS";
            }
            case Follows::decimal:
                word_ = next(line);
                return is_decimal(word_) ? "" : "'dec' is followed by [-]DIGITS[.DIGITS][e[-]DIGITS]";
            case Follows::hex16:
                word_ = next(line);
                return word_.size() == 16 && all_hex(word_) ? ""
                                                            : "'binary64' is followed by 16 lower-case hex digits";
            case Follows::hex8:
                word_ = next(line);
                return word_.size() == 8 && all_hex(word_) ? ""
                                                           : "'binary32' is followed by 8 lower-case hex digits";
            case Follows::count:
                word_ = next(line);
                return all_digits(word_) ? "" : "'cycle' is followed by a number of levels";
            case Follows::fields:
                return fields(word.word, word.fields, line);
            case Follows::attribute: {
                std::string problem = fields(word.word, 4, line);
                if (!problem.empty()) return problem;
                word_ = next(line);
                const bool known = word_ == "given" || word_ == "default" || word_ == "-";
                return known ? "" : "an attribute ends with given, default or -";
            }
            case Follows::native:
                word_ = next(line);
                if (word_.empty()) return "'native' is followed by a name and a FIELD";
                return fields(word.word, 1, line);
            case Follows::key:
                return key(line, item);
        }
        return {};
    }

    std::string key(std::string_view& line, Item& item) {
        std::string_view ahead = line;
        const std::string_view first = next(ahead);
        if (first == "-" || first.starts_with('u')) {
            item.name_kind = ItemKind::string;
            return fields("key", 1, line);
        }
        const Word* scalar = find_word(first);
        if (scalar == nullptr || scalar->kind > ItemKind::spelled)
            return "'key' is followed by a FIELD or a scalar";
        item.name_kind = scalar->kind;
        line = ahead;
        return follow(*scalar, line, item);
    }

    std::string fields(std::string_view word, std::size_t count, std::string_view& line) {
        for (std::size_t i = 0; i < count; ++i) {
            const std::string_view text = next(line);
            const auto field = parse_field(text);
            if (!field) {
                return fmt::format("'{}' needs {} FIELD{} (u8:HEX, u16:HEX, u32:HEX or -); '{}' is not one", word,
                                   count, count == 1 ? "" : "s", text::printable_excerpt(text, 30));
            }
            parts_.push_back(*field);
        }
        return {};
    }

    static bool is_decimal(std::string_view text) {
        const auto exponent = text.find_first_of("eE");
        if (exponent != std::string_view::npos &&
            (text[exponent] == 'E' || text.substr(exponent).starts_with("e+")))
            return false;
        const std::string_view mantissa = text.substr(0, exponent);
        const auto digits_only = [](std::string_view t) {
            if (t.starts_with('-')) t.remove_prefix(1);
            return all_digits(t);
        };
        const auto point = mantissa.find('.');
        if (!digits_only(mantissa.substr(0, point))) return false;
        if (point != std::string_view::npos && !all_digits(mantissa.substr(point + 1))) return false;
        return exponent == std::string_view::npos || digits_only(text.substr(exponent + 1));
    }

    std::vector<Field>& parts_;
    std::string_view word_;
};

/// The index of an item has 32 bits. No document that is read has so many (1 GiB at most).
constexpr std::size_t most_items = 0xFFFF'FFFE;

/// Checks that the lines together are one value (or one XML document).
class NestingCheck {
  public:
    std::string_view take(const Item& item) {
        switch (item.kind) {
            case ItemKind::array_close:
                return close(ItemKind::array_open, "']' without its '['");
            case ItemKind::object_close:
                return close(ItemKind::object_open, "'}' without its '{'");
            case ItemKind::container_close:
                return close(ItemKind::container_open, "')' without its '('");
            case ItemKind::element_end:
                return close(ItemKind::element, "'end' without its 'elem'");
            case ItemKind::key:
                return key();
            default:
                break;
        }
        if (const std::string_view problem = item.kind >= ItemKind::element ? markup(item.kind) : value();
            !problem.empty())
            return problem;
        if (opens_any(item.kind)) {
            open_.push_back(item.kind);
            named_ = false;
        }
        return {};
    }
    [[nodiscard]] std::string_view finish() const {
        if (!open_.empty()) return "a container is not closed";
        if (!is_markup_ && values_ != 1) return "a trace holds exactly one value";
        return {};
    }

  private:
    std::string_view markup(ItemKind kind) {
        if (kind == ItemKind::attribute || kind == ItemKind::declaration)
            return in_tag_ ? "" : "an attribute or declaration without its 'elem'";
        in_tag_ = kind == ItemKind::element;
        if (!open_.empty() && open_.back() != ItemKind::array_open && open_.back() != ItemKind::element)
            return "markup inside an object";
        if (open_.empty() && values_ != 0) return "markup beside a value";
        is_markup_ = is_markup_ || open_.empty();
        return {};
    }
    std::string_view close(ItemKind opener, std::string_view problem) {
        in_tag_ = false;
        if (open_.empty() || open_.back() != opener) return problem;
        if (named_) return "a 'key' has no value";
        open_.pop_back();
        return {};
    }
    std::string_view key() {
        if (open_.empty() || (open_.back() != ItemKind::object_open && open_.back() != ItemKind::container_open))
            return "'key' outside an object";
        if (named_) return "a 'key' has no value";
        named_ = true;
        return {};
    }
    std::string_view value() {
        in_tag_ = false;
        if (open_.empty()) {
            if (values_++ != 0) return "a trace holds exactly one value";
            if (is_markup_) return "a value beside markup";
        } else if (open_.back() == ItemKind::element) {
            return "a value inside an element";
        } else if (open_.back() == ItemKind::object_open && !named_) {
            return "a value in an object needs a 'key' before it";
        }
        named_ = false;
        return {};
    }

    std::vector<ItemKind> open_;
    bool named_ = false;
    bool is_markup_ = false;  // outside of all lists
    bool in_tag_ = false;     // nothing but attributes and declarations since the last element began
    std::size_t values_ = 0;
};

}  // namespace

Trace::Trace() : text_(std::make_shared<std::string>()), items_(std::make_shared<std::vector<Item>>()) {}

std::optional<Trace> Trace::parse(std::string text, TraceError* error) {
    auto owned = std::make_shared<const std::string>(std::move(text));
    auto items = std::make_shared<std::vector<Item>>();
    auto parts = std::make_shared<std::vector<Field>>();
    items->reserve(static_cast<std::size_t>(std::count(owned->begin(), owned->end(), '\n')));
    // A field or word has a space before it, so the parts are never moved, and items can point to them at once.
    parts->reserve(static_cast<std::size_t>(std::count(owned->begin(), owned->end(), ' ')));
    std::size_t line_number = 0;
    const auto fail = [&](std::string_view message) {
        if (error != nullptr) {
            error->line = line_number;
            error->message.assign(message);
        }
        return std::optional<Trace>{};
    };
    NestingCheck nesting;
    LineParser parser(*parts);
    std::uint32_t innermost = 0;  // the container that is open; its `end` is the one around it so far
    std::string_view rest = *owned;
    while (!rest.empty()) {
        ++line_number;
        const std::size_t end = rest.find('\n');
        if (end == std::string_view::npos) return fail("the last line does not end with LF");
        if (items->size() > most_items) return fail("a trace has too many lines");
        Item item;
        const std::size_t first_part = parts->size();
        if (const std::string problem = parser.parse(rest.substr(0, end), item); !problem.empty())
            return fail(problem);
        if (const std::string_view problem = nesting.take(item); !problem.empty()) return fail(problem);
        item.parts_ = parts->data() + first_part;
        item.has_word_ = parser.has_word();
        item.field_count_ = static_cast<std::uint8_t>(parts->size() - first_part - (item.has_word_ ? 1 : 0));
        const auto index = static_cast<std::uint32_t>(items->size());
        if (opens_any(item.kind)) item.end = std::exchange(innermost, index);
        if (closes_any(item.kind)) innermost = std::exchange((*items)[innermost].end, index);
        items->push_back(item);
        rest.remove_prefix(end + 1);
    }
    if (const std::string_view problem = nesting.finish(); !problem.empty()) return fail(problem);
    Trace out;
    out.text_ = std::move(owned);
    out.parts_ = std::move(parts);
    out.items_ = std::move(items);
    return out;
}

std::vector<std::string_view> Trace::lines() const {
    std::vector<std::string_view> out;
    out.reserve(items().size());
    for (std::string_view rest = text(); !rest.empty(); rest.remove_prefix(out.back().size()))
        out.push_back(rest.substr(0, rest.find('\n') + 1));
    return out;
}

void TraceWriter::line(std::string_view text) {
    out_ += text;
    out_ += '\n';
}

void TraceWriter::text_line(std::string_view word, std::string_view utf8_bytes) {
    out_ += word;
    out_ += " u8:";
    out_ += text::to_hex(utf8_bytes);
    out_ += '\n';
}

void TraceWriter::bits64(std::uint64_t bits) {
    out_ += fmt::format("binary64 {:016x}\n", bits);
}

std::string TraceWriter::field(std::string_view utf8_bytes) {
    return "u8:" + text::to_hex(utf8_bytes);
}

std::string_view name_of(Layer layer) {
    constexpr std::array<std::string_view, layer_count> names{"verdict", "value", "exact", "representation",
                                                              "order"};
    return names[static_cast<std::size_t>(layer)];
}

}  // namespace nachklang

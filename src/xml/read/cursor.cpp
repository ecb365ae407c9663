// The cursor's operations that need more than a line: characters, names, comments, instructions, entities.
#include "xml/read/cursor.hpp"

#include <fmt/format.h>

#include <algorithm>

namespace nachklang::xml {
namespace {

/// Limit of entity expansion in bytes: more than real documents need, and far less than a machine's memory.
constexpr std::size_t expansion_budget = std::size_t{64} << 20;

}  // namespace

bool Cursor::looking_at(std::string_view word) const {
    for (std::size_t i = 0; i < word.size(); ++i)
        if (peek(i) != word[i]) return false;
    return true;
}

bool Cursor::literal(std::string_view word, std::string_view clause) {
    for (const char c : word) {
        if (at_end() || text_[at_] != c) return fail(fmt::format("'{}'", word), clause);
        ++at_;
    }
    return true;
}

std::optional<std::size_t> Cursor::one_of(std::span<const std::string_view> words, std::string_view what,
                                          std::string_view clause) {
    std::size_t taken = 0;
    const std::string_view rest = text_.substr(at_);
    const auto continues = [&](std::string_view word) {
        return word.size() > taken && word.substr(0, taken) == rest.substr(0, taken) && peek(taken) == word[taken];
    };
    while (std::any_of(words.begin(), words.end(), continues)) ++taken;
    const auto found = std::find(words.begin(), words.end(), rest.substr(0, taken));
    at_ += taken;
    if (found == words.end()) {
        fail(what, clause);
        return std::nullopt;
    }
    return static_cast<std::size_t>(found - words.begin());
}

bool Cursor::name_from(std::size_t begin, std::string_view& out) {
    while (at_ < text_.size()) {
        const char c = text_[at_];
        if (is_byte(c, name_byte)) {
            ++at_;
            continue;
        }
        if (static_cast<signed char>(c) >= 0) break;
        const auto step = text::decode_utf8(text_, at_);
        if (!is_name_char(step.scalar)) break;
        if (!wide_name_ && !is_fourth_edition_name_char(step.scalar) && frames_.empty()) wide_name_ = at_;
        at_ += step.length;
    }
    if (at_ == text_.size()) note_end();
    out = text_.substr(begin, at_ - begin);
    longest_name_ = std::max(longest_name_, out.size());
    return !out.empty();
}

bool Cursor::name(std::string_view& out, std::string_view what, std::string_view clause) {
    const std::size_t begin = at_;
    if (!at_end()) {
        if (is_byte(text_[at_], name_start_byte)) {
            ++at_;
            return name_from(begin, out);
        }
        if (static_cast<signed char>(text_[at_]) < 0) {
            const auto step = text::decode_utf8(text_, at_);
            if (is_name_start(step.scalar)) {
                if (!wide_name_ && !is_fourth_edition_name_start(step.scalar) && frames_.empty()) wide_name_ = at_;
                at_ += step.length;
                return name_from(begin, out);
            }
        }
    }
    return fail(what, clause);
}

bool Cursor::name_token(std::string_view& out, std::string_view clause) {
    return name_from(at_, out) || fail("a name token", clause);
}

bool Cursor::character(std::string_view expected, std::string_view clause) {
    if (at_end()) return fail(expected, clause);
    const auto step = text::decode_utf8(text_, at_);
    if (!is_allowed_(step.scalar)) return fail(expected, clause);
    at_ += step.length;
    return true;
}

bool Cursor::character_reference(std::string& out) {
    const std::size_t begin = at_;
    at_ += 2;
    const bool hex = peek() == 'x';
    if (hex) ++at_;
    char32_t value = 0;
    const std::size_t digits = at_;
    while (true) {
        const char c = peek();
        const int digit = c >= '0' && c <= '9'
                              ? c - '0'
                              : (hex && (c | 0x20) >= 'a' && (c | 0x20) <= 'f' ? (c | 0x20) - 'a' + 10 : -1);
        if (digit < 0) break;
        value = std::min<char32_t>(value * (hex ? 16 : 10) + static_cast<char32_t>(digit), 0x110000);
        ++at_;
    }
    if (at_ == digits) return fail(hex ? "a hexadecimal digit" : "a digit", "production 66");
    if (peek() != ';') return fail("';' after the character reference", "production 66");
    ++at_;
    if (!is_allowed_(value))
        return fail_at(begin, "a reference to a character that is not allowed", "WFC Legal Character");
    text::append_utf8(out, value);
    return true;
}

bool Cursor::comment(std::string_view& inside) {
    if (!literal("--", "production 15")) return false;
    const std::size_t begin = at_;
    while (true) {
        while (at_ < text_.size() && text_[at_] != '-' && is_byte(text_[at_], plain_value_byte)) ++at_;
        if (peek() == '-' && peek(1) == '-') break;
        if (!character("the comment's '-->'", "production 15")) return false;
    }
    inside = since(begin);
    at_ += 2;
    if (peek() != '>') return fail("'>' after '--' in a comment", "production 15");
    ++at_;
    return true;
}

bool Cursor::instruction(std::string_view& target, std::string_view& data) {
    if (!name(target, "an instruction's target", "production 17")) return false;
    if (target.size() == 3 && (target[0] | 0x20) == 'x' && (target[1] | 0x20) == 'm' && (target[2] | 0x20) == 'l')
        return fail_at(at_, "the target xml is reserved; an XML declaration may only be at the very start",
                       "production 17");
    data = {};
    if (peek() == '?') {
        if (peek(1) == '>') {
            at_ += 2;
            return true;
        }
        ++at_;
        return fail("'>' after '?'", "production 16");
    }
    if (!skip_space()) return fail("white space or '?>' after the target", "production 16");
    const std::size_t begin = at_;
    while (!(peek() == '?' && peek(1) == '>'))
        if (!character("the instruction's '?>'", "production 16")) return false;
    data = since(begin);
    at_ += 2;
    return true;
}

Failure Cursor::failure_at(std::size_t at, std::string message, std::string clause) const {
    Failure out{at, std::move(message), std::move(clause), ""};
    for (auto frame = frames_.rbegin(); frame != frames_.rend(); ++frame) {
        const std::string name = text::printable_excerpt(frame->entity->name, 30);
        out.entity_stack +=
            fmt::format("{}{}{} at {} of its text", out.entity_stack.empty() ? "entity " : ", in entity ",
                        frame->entity->parameter ? "%" : "", name, out.offset);
        out.offset = frame->reference;
    }
    return out;
}

bool Cursor::fail_at(std::size_t at, std::string message, std::string_view clause) {
    if (!failure_) failure_ = failure_at(at, std::move(message), "XML 1.0, " + std::string(clause));
    return false;
}

bool Cursor::fail(std::string_view expected, std::string_view clause) {
    std::string found = frames_.empty() ? "the end of the document" : "the end of the entity's text";
    if (!at_end()) {
        const auto step = text::decode_utf8(text_, at_);
        found = fmt::format("'{}'", text::printable(text_.substr(at_, step.length)));
        if (!is_allowed_(step.scalar))
            return fail_at(
                at_, fmt::format("U+{:04X} is not allowed in a document", static_cast<std::uint32_t>(step.scalar)),
                "production 2");
    }
    return fail_at(at_, fmt::format("expected {}, found {}", expected, found), clause);
}

bool Cursor::spend(std::size_t bytes, std::size_t at) {
    expanded_ += bytes;
    if (expanded_ <= expansion_budget) return true;
    over_budget_ = true;
    return fail_at(at, "more expansion than the budget allows", "4.4");
}

bool Cursor::enter(Entity& entity, std::size_t reference, bool padded) {
    if (entity.open) {
        const std::string shown = (entity.parameter ? "%" : "&") + text::printable_excerpt(entity.name, 30) + ";";
        return fail_at(reference, fmt::format("the entity {} refers to itself", shown), "WFC No Recursion");
    }
    if (!spend(entity.text.size(), reference)) return false;
    entity.open = true;
    frames_.push_back({text_, at_, reference, &entity});
    deepest_entity_ = std::max(deepest_entity_, frames_.size());
    if (padded) frames_.back().padded = " " + entity.text + " ";
    text_ = padded ? std::string_view(frames_.back().padded) : std::string_view(entity.text);
    at_ = 0;
    return true;
}

void Cursor::finish() {
    const Frame& frame = frames_.back();
    frame.entity->open = false;
    text_ = frame.text;
    at_ = frame.at;
    frames_.pop_back();
}

bool version_number(Cursor& cursor, std::string_view& out) {
    const std::size_t begin = cursor.at();
    if (!cursor.literal("1.", "production 26")) return false;
    const std::size_t digits = cursor.at();
    while (cursor.peek() >= '0' && cursor.peek() <= '9') cursor.move(1);
    out = cursor.since(begin);
    return cursor.at() > digits || cursor.fail("a digit of the version number", "production 26");
}

bool encoding_name(Cursor& cursor) {
    const auto letter = [&] { return (cursor.peek() | 0x20) >= 'a' && (cursor.peek() | 0x20) <= 'z'; };
    if (!letter()) return cursor.fail("a letter of the encoding's name", "production 81");
    constexpr std::string_view more = "0123456789._-";
    while (letter() || (cursor.peek() != '\0' && more.find(cursor.peek()) != std::string_view::npos))
        cursor.move(1);
    return true;
}

std::string with_line_ends(std::string_view raw) {
    std::string out;
    out.reserve(raw.size());
    for (std::size_t i = 0; i < raw.size(); ++i) {
        if (raw[i] != '\r') {
            out.push_back(raw[i]);
        } else {
            out.push_back('\n');
            if (i + 1 < raw.size() && raw[i + 1] == '\n') ++i;
        }
    }
    return out;
}

}  // namespace nachklang::xml

// Which open points a document contains, where first, and how much: read off the tape in one walk.
#include <algorithm>
#include <unordered_set>

#include <nachklang/number.hpp>

#include "questions.hpp"

namespace nachklang::json {
namespace {

void touch_number(std::vector<Touch>& touches, std::string_view source, std::size_t offset) {
    add_touch(touches, "number-length", offset, source.size());
    if (source.size() <= 6 && source.find_first_of(".eE-") == std::string_view::npos) return;
    const Decimal value = *Decimal::parse(source);
    if (value.is_zero() && value.negative()) add_touch(touches, "negative-zero", offset, 1);
    const std::uint64_t nearest = number::nearest_binary64(value);
    if (beyond_range(value, nearest)) add_touch(touches, "number-range", offset, 1);
    if (!exact_in_binary32(value)) add_touch(touches, "number-precision", offset, value.digits().size());
}

/// Names of one object, gathered as the walk meets them.
struct OpenContainer {
    bool object = false;
    std::size_t begin = 0, members = 0;
    std::unordered_set<std::string> names{};
};

}  // namespace

bool exact_in_binary32(const Decimal& value) {
    const auto held = Decimal::from_binary64(number::widen(number::nearest_binary32(value)));
    return held && *held == value;
}

bool beyond_range(const Decimal& value, std::uint64_t nearest) {
    if (number::is_infinite64(nearest)) return true;
    if (!value.is_zero() && (nearest << 1) == 0) return true;
    static const Decimal edge = *Decimal::parse("2147483647");
    return value.is_integer() && Decimal::compare_magnitude(value, edge) > 0;
}

std::vector<Touch> touches_of(const Document& document) {
    std::vector<Touch> touches;
    std::vector<OpenContainer> open;
    for (const Entry& entry : document.tape()) {
        const bool closes = entry.kind == TokenKind::array_close || entry.kind == TokenKind::object_close;
        if (!open.empty() && !closes && entry.kind != TokenKind::name) ++open.back().members;
        if (entry.kind == TokenKind::string || entry.kind == TokenKind::name) {
            if (entry.flags.lone_surrogate) add_touch(touches, "lone-surrogate", entry.begin, 1);
            if (entry.flags.nul) add_touch(touches, "nul-character", entry.begin, 1);
            add_touch(touches, "string-length", entry.begin, entry.end - entry.begin - 2);
        }
        switch (entry.kind) {
            case TokenKind::array_open:
            case TokenKind::object_open:
                open.push_back({entry.kind == TokenKind::object_open, entry.begin});
                break;
            case TokenKind::array_close:
            case TokenKind::object_close:
                add_touch(touches, "member-count", open.back().begin, open.back().members);
                open.pop_back();
                break;
            case TokenKind::name:
                if (!open.back().names.insert(document.atoms(entry)).second)
                    add_touch(touches, "duplicate-names", entry.begin, 2);
                break;
            case TokenKind::number:
                touch_number(touches, document.source(entry), entry.begin);
                break;
            default:
                break;
        }
    }
    add_touch(touches, "depth", 0, document.deepest());
    add_touch(touches, "document-size", 0, document.bytes().size());
    std::erase_if(touches, [](const Touch& t) { return t.amount < question_named(t.question).touched_from; });
    std::sort(touches.begin(), touches.end(),
              [](const Touch& a, const Touch& b) { return a.question < b.question; });
    return touches;
}

}  // namespace nachklang::json

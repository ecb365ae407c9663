// See arrival.hpp.
#include "seeded_faults/arrival.hpp"

namespace seeded_faults {
namespace {

bool continues_character(char c) {
    return (static_cast<unsigned char>(c) & 0xC0U) == 0x80;
}

bool is_space(char c) {
    return c == ' ' || c == '\t' || c == '\n' || c == '\r';
}

}  // namespace

std::string joined(const Pieces& pieces) {
    std::string out;
    for (const std::string_view piece : pieces) out += piece;
    return out;
}

std::optional<std::string> characters_replaced(const Pieces& pieces) {
    constexpr const char* replacement = "\xEF\xBF\xBD";
    std::string out;
    for (std::size_t i = 0; i < pieces.size(); ++i) {
        std::string_view piece = pieces[i];
        if (i > 0 && continues_character(piece.front())) {
            while (!piece.empty() && continues_character(piece.front())) piece.remove_prefix(1);
            out += replacement;
        }
        const bool cut = i + 1 < pieces.size() && continues_character(pieces[i + 1].front());
        if (cut && !piece.empty()) {
            std::size_t begin = piece.size() - 1;
            while (begin > 0 && continues_character(piece[begin])) --begin;
            piece = piece.substr(0, begin);
            out += piece;
            out += replacement;
        } else {
            out += piece;
        }
    }
    return out;
}

std::optional<std::string> white_space_skipped(const Pieces& pieces) {
    std::string out;
    for (std::string_view piece : pieces) {
        while (!piece.empty() && is_space(piece.front())) piece.remove_prefix(1);
        out += piece;
    }
    return out;
}

Arrival last_byte_lost(char byte) {
    return [byte](const Pieces& pieces) -> std::optional<std::string> {
        std::string out;
        for (std::size_t i = 0; i < pieces.size(); ++i) {
            out += pieces[i];
            if (i + 1 < pieces.size() && out.back() == byte) out.pop_back();
        }
        return out;
    };
}

Arrival refuses_between(std::function<bool(char)> left, std::function<bool(char)> right) {
    return [left = std::move(left), right = std::move(right)](const Pieces& pieces) -> std::optional<std::string> {
        for (std::size_t i = 1; i < pieces.size(); ++i)
            if (left(pieces[i - 1].back()) && right(pieces[i].front())) return std::nullopt;
        return joined(pieces);
    };
}

std::optional<std::string> line_ends_counted_twice(const Pieces& pieces) {
    std::string out;
    for (std::size_t i = 0; i < pieces.size(); ++i) {
        if (i > 0 && pieces[i].front() == '\n' && out.ends_with('\r')) out.back() = '\n';
        out += pieces[i];
    }
    return out;
}

}  // namespace seeded_faults

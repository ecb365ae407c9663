// See difference.hpp.
#include "ui/difference.hpp"

#include <algorithm>
#include <string>

namespace tool {
namespace {

struct Token {
    std::size_t begin, end;
};

bool in_word(char c) {
    const bool alphanumeric = (c >= '0' && c <= '9') || (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z');
    return alphanumeric || static_cast<unsigned char>(c) >= 0x80 ||
           std::string_view(".-+_\\").find(c) != std::string_view::npos;
}

std::vector<Token> tokens_of(std::string_view text) {
    std::vector<Token> out;
    for (std::size_t at = 0; at < text.size();) {
        std::size_t end = at + 1;
        if (in_word(text[at]))
            while (end < text.size() && in_word(text[end])) ++end;
        if (text[at] != ' ') out.push_back({at, end});
        at = end;
    }
    return out;
}

constexpr std::size_t largest_table = 4'000'000;

/// Which tokens of `a` a longest common subsequence with `b` leaves over; all of them where the table would be too
/// large.
std::vector<bool> left_over(const std::vector<std::string_view>& a, const std::vector<std::string_view>& b) {
    std::vector<bool> out(a.size(), true);
    if (a.size() * b.size() > largest_table) return out;
    const std::size_t width = b.size() + 1;
    std::vector<std::uint32_t> longest((a.size() + 1) * width, 0);
    for (std::size_t i = a.size(); i-- > 0;)
        for (std::size_t j = b.size(); j-- > 0;)
            longest[i * width + j] = a[i] == b[j]
                                         ? longest[(i + 1) * width + j + 1] + 1
                                         : std::max(longest[(i + 1) * width + j], longest[i * width + j + 1]);
    for (std::size_t i = 0, j = 0; i < a.size() && j < b.size();) {
        if (a[i] == b[j]) {
            out[i++] = false;
            ++j;
        } else if (longest[(i + 1) * width + j] >= longest[i * width + j + 1]) {
            ++i;
        } else {
            ++j;
        }
    }
    return out;
}

}  // namespace

std::vector<std::pair<std::size_t, std::size_t>> differing_ranges(std::string_view text, std::string_view other) {
    const auto mine = tokens_of(text), theirs = tokens_of(other);
    const auto word = [](std::string_view whole, const Token& t) { return whole.substr(t.begin, t.end - t.begin); };
    std::size_t first = 0;
    while (first < mine.size() && first < theirs.size() && word(text, mine[first]) == word(other, theirs[first]))
        ++first;
    std::size_t last = mine.size(), other_last = theirs.size();
    while (last > first && other_last > first && word(text, mine[last - 1]) == word(other, theirs[other_last - 1]))
        --last, --other_last;
    std::vector<std::string_view> a, b;
    for (std::size_t i = first; i < last; ++i) a.push_back(word(text, mine[i]));
    for (std::size_t j = first; j < other_last; ++j) b.push_back(word(other, theirs[j]));
    const auto marks = left_over(a, b);
    std::vector<std::pair<std::size_t, std::size_t>> out;
    for (std::size_t i = 0; i < marks.size(); ++i) {
        if (!marks[i]) continue;
        const Token& token = mine[first + i];
        if (!out.empty() && i > 0 && marks[i - 1])
            out.back().second = token.end;
        else
            out.emplace_back(token.begin, token.end);
    }
    return out;
}

}  // namespace tool

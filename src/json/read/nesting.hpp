// Shared by the scanner's state machine and its vector code: the grammar's states, the open levels, the kinds of
// bytes.
#pragma once

#include <array>
#include <vector>

#include <nachklang/json.hpp>

namespace nachklang::json {

/// The tokens that may come next.
enum class State : std::uint8_t {
    value,
    value_or_close,
    name_or_close,
    name,
    colon,
    comma_or_close,
    end,
    literal,
    string,
    escape,
    hex,
    utf8_tail,
    minus,
    zero,
    whole,
    point,
    fraction,
    exponent,
    exponent_sign,
    exponent_digits
};

/// One bit a level: set for an object.
class Nesting {
  public:
    void push(bool object) {
        const std::size_t word = depth_ / 64;
        if (word == words_.size()) words_.push_back(0);
        const std::uint64_t bit = std::uint64_t{1} << (depth_ % 64);
        words_[word] = object ? words_[word] | bit : words_[word] & ~bit;
        if (++depth_ > deepest_) deepest_ = depth_;
    }
    void pop() { --depth_; }
    [[nodiscard]] bool empty() const { return depth_ == 0; }
    [[nodiscard]] bool in_object() const { return ((words_[(depth_ - 1) / 64] >> ((depth_ - 1) % 64)) & 1U) != 0; }
    [[nodiscard]] std::size_t depth() const { return depth_; }
    [[nodiscard]] std::size_t deepest() const { return deepest_; }

  private:
    std::vector<std::uint64_t> words_;
    std::size_t depth_ = 0, deepest_ = 0;
};

namespace detail {

/// Bytes that a string's run of plain bytes may hold: ASCII but for controls, the quote and the backslash.
inline constexpr std::array<bool, 256> plain_in_string = [] {
    std::array<bool, 256> out{};
    for (std::size_t i = 0x20; i < 0x80; ++i) out[i] = i != '"' && i != '\\';
    return out;
}();

constexpr bool is_digit(unsigned char c) {
    return c >= '0' && c <= '9';
}
constexpr bool is_space(unsigned char c) {
    return c == ' ' || c == '\n' || c == '\r' || c == '\t';
}

constexpr int hex_value(unsigned char c) {
    if (is_digit(c)) return c - '0';
    const unsigned char lower = c | 0x20;
    return lower >= 'a' && lower <= 'f' ? lower - 'a' + 10 : -1;
}

}  // namespace detail

}  // namespace nachklang::json

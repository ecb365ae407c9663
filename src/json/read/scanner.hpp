// The grammar of RFC 8259 as a machine that takes bytes in pieces.
//
// Between two pieces everything it knows is a state, a bit a level (array or object) and a few counters; a token
// may be cut anywhere. It calls the sink with offsets only, never with text, so that a sink that keeps nothing
// costs nothing:
//
//     void open(TokenKind, offset)      void close(TokenKind, offset)
//     void string(begin, end, flags, is_name)   void number(begin, end)   void literal(TokenKind, begin, end)
//
// The first error's offset is exact: vector code takes whole tokens that obey the grammar, and from the first byte
// of any other the machine moves by single bytes.
#pragma once

#include "json/read/nesting.hpp"
#include "json/read/vector_scan.hpp"

namespace nachklang::json {

/// Keeps nothing: a verdict.
struct NoSink {
    static constexpr bool wants_flags = false;
    void open(TokenKind, std::size_t) {}
    void close(TokenKind, std::size_t) {}
    void string(std::size_t, std::size_t, StringFlags, bool) {}
    void number(std::size_t, std::size_t) {}
    void literal(TokenKind, std::size_t, std::size_t) {}
};

template <class Sink>
class Scanner {
  public:
    Scanner(Sink& sink, Instructions instructions) : sink_(sink), instructions_(instructions) {}

    /// False after the first error.
    bool feed(std::string_view piece) {
        if (fault_ != Fault::none) return false;
        std::size_t at = 0;
        while (at < piece.size()) {
            if (instructions_ != Instructions::scalar && between_tokens()) at = vector_scan(piece, at);
            if (!step(piece, at)) return false;
        }
        base_ += piece.size();
        return true;
    }

    bool finish() {
        if (fault_ != Fault::none) return false;
        switch (state_) {
            case State::end:
                return true;
            case State::zero:
            case State::whole:
            case State::fraction:
            case State::exponent_digits:
                end_number(base_);
                if (state_ == State::end) return true;
                return fail(expected_here(), base_);
            case State::utf8_tail:
                return fail(Fault::ill_formed_utf8, sequence_begin_);
            default:
                return fail(expected_here(), base_);
        }
    }

    [[nodiscard]] Fault fault() const { return fault_; }
    [[nodiscard]] std::size_t fault_offset() const { return fault_offset_; }
    [[nodiscard]] const Nesting& nesting() const { return nesting_; }

  private:
    [[nodiscard]] bool between_tokens() const { return state_ <= State::comma_or_close; }

    /// Over whole tokens, as far as the piece goes on long enough after them.
    std::size_t vector_scan(std::string_view piece, std::size_t at) {
        if (piece.size() - at <= vector_scan::slack) return at;
        vector_scan::Progress<Sink> progress{sink_, nesting_, state_, base_ + at};
        const char* const limit = piece.data() + piece.size() - vector_scan::slack;
        const char* const stopped = vector_scan::scan(instructions_, piece.data() + at, limit, progress);
        state_ = progress.state;
        return static_cast<std::size_t>(stopped - piece.data());
    }

    bool fail(Fault fault, std::size_t offset) {
        fault_ = fault;
        fault_offset_ = offset;
        return false;
    }

    [[nodiscard]] Fault expected_here() const {
        switch (state_) {
            case State::value:
                return Fault::value_expected;
            case State::value_or_close:
                return Fault::value_or_close_expected;
            case State::name_or_close:
                return Fault::name_or_close_expected;
            case State::name:
                return Fault::name_expected;
            case State::colon:
                return Fault::colon_expected;
            case State::comma_or_close:
                return nesting_.in_object() ? Fault::comma_or_brace_expected : Fault::comma_or_bracket_expected;
            case State::literal:
                return Fault::literal_misspelled;
            case State::minus:
                return Fault::digit_expected;
            case State::point:
                return Fault::fraction_digit_expected;
            case State::exponent:
            case State::exponent_sign:
                return Fault::exponent_digit_expected;
            case State::escape:
                return Fault::unknown_escape;
            case State::hex:
                return Fault::hex_digit_expected;
            case State::string:
                return Fault::control_in_string;
            default:
                return Fault::end_expected;
        }
    }

    [[nodiscard]] unsigned char closer() const { return nesting_.in_object() ? '}' : ']'; }
    void after_value() { state_ = nesting_.empty() ? State::end : State::comma_or_close; }

    bool step(std::string_view piece, std::size_t& at) {
        const auto c = static_cast<unsigned char>(piece[at]);
        switch (state_) {
            case State::string:
                return in_string(piece, at);
            case State::utf8_tail:
                return in_utf8_tail(c, at);
            case State::escape:
                return in_escape(c, at);
            case State::hex:
                return in_hex(c, at);
            case State::literal:
                return in_literal(c, at);
            case State::minus:
            case State::zero:
            case State::whole:
            case State::point:
            case State::fraction:
            case State::exponent:
            case State::exponent_sign:
            case State::exponent_digits:
                return in_number(piece, at);
            default:
                return take_between(c, at);
        }
    }

    bool take_between(unsigned char c, std::size_t& at) {
        if (detail::is_space(c)) {
            ++at;
            return true;
        }
        const std::size_t here = base_ + at;
        switch (state_) {
            case State::value_or_close:
                if (c == ']') return close(here, at);
                return begin_value(c, here, at);
            case State::value:
                return begin_value(c, here, at);
            case State::name_or_close:
                if (c == '}') return close(here, at);
                [[fallthrough]];
            case State::name:
                if (c != '"') return fail(expected_here(), here);
                is_name_ = true;
                return begin_string(here, at);
            case State::colon:
                if (c != ':') return fail(expected_here(), here);
                state_ = State::value;
                ++at;
                return true;
            case State::comma_or_close:
                if (c == ',') {
                    state_ = nesting_.in_object() ? State::name : State::value;
                    ++at;
                    return true;
                }
                if (closer() == c) return close(here, at);
                return fail(expected_here(), here);
            default:
                return fail(Fault::end_expected, here);
        }
    }

    bool begin_value(unsigned char c, std::size_t here, std::size_t& at) {
        switch (c) {
            case '{':
            case '[':
                sink_.open(c == '{' ? TokenKind::object_open : TokenKind::array_open, here);
                nesting_.push(c == '{');
                state_ = c == '{' ? State::name_or_close : State::value_or_close;
                ++at;
                return true;
            case '"':
                is_name_ = false;
                return begin_string(here, at);
            case 't':
                return begin_literal("true", TokenKind::true_value, here, at);
            case 'f':
                return begin_literal("false", TokenKind::false_value, here, at);
            case 'n':
                return begin_literal("null", TokenKind::null_value, here, at);
            case '-':
                state_ = State::minus;
                break;
            case '0':
                state_ = State::zero;
                break;
            default:
                if (!detail::is_digit(c)) {
                    if (c == 0xEF && here == 0) return fail(Fault::byte_order_mark, here);
                    return fail(expected_here(), here);
                }
                state_ = State::whole;
        }
        token_begin_ = here;
        ++at;
        return true;
    }

    bool close(std::size_t here, std::size_t& at) {
        sink_.close(nesting_.in_object() ? TokenKind::object_close : TokenKind::array_close, here);
        nesting_.pop();
        after_value();
        ++at;
        return true;
    }

    bool begin_literal(std::string_view word, TokenKind kind, std::size_t here, std::size_t& at) {
        literal_ = word.substr(1);
        literal_kind_ = kind;
        token_begin_ = here;
        state_ = State::literal;
        ++at;
        return true;
    }

    bool in_literal(unsigned char c, std::size_t& at) {
        if (c != static_cast<unsigned char>(literal_.front())) return fail(Fault::literal_misspelled, base_ + at);
        literal_.remove_prefix(1);
        ++at;
        if (literal_.empty()) {
            sink_.literal(literal_kind_, token_begin_, base_ + at);
            after_value();
        }
        return true;
    }

    // --- strings ---

    bool begin_string(std::size_t here, std::size_t& at) {
        token_begin_ = here;
        flags_ = {};
        high_pending_ = false;
        state_ = State::string;
        ++at;
        return true;
    }

    /// A high surrogate that nothing follows up stays alone.
    void settle_pending_high() {
        if (high_pending_) flags_.lone_surrogate = true;
        high_pending_ = false;
    }

    bool in_string(std::string_view piece, std::size_t& at) {
        const std::size_t run = at;
        while (at < piece.size() && detail::plain_in_string[static_cast<unsigned char>(piece[at])]) ++at;
        if (at > run) settle_pending_high();
        if (at == piece.size()) return true;
        const auto c = static_cast<unsigned char>(piece[at]);
        if (c == '\\') {
            flags_.escaped = true;
            state_ = State::escape;
            ++at;
            return true;
        }
        settle_pending_high();
        if (c == '"') {
            ++at;
            sink_.string(token_begin_, base_ + at, flags_, is_name_);
            if (is_name_) {
                state_ = State::colon;
            } else {
                after_value();
            }
            return true;
        }
        if (c < 0x20) return fail(Fault::control_in_string, base_ + at);
        return begin_utf8(c, at);
    }

    bool begin_utf8(unsigned char c, std::size_t& at) {
        sequence_begin_ = base_ + at;
        second_low_ = 0x80;
        second_high_ = 0xBF;
        if (c >= 0xC2 && c <= 0xDF) {
            tail_ = 1;
        } else if (c >= 0xE0 && c <= 0xEF) {
            tail_ = 2;
            if (c == 0xE0) second_low_ = 0xA0;
            if (c == 0xED) second_high_ = 0x9F;
        } else if (c >= 0xF0 && c <= 0xF4) {
            tail_ = 3;
            if (c == 0xF0) second_low_ = 0x90;
            if (c == 0xF4) second_high_ = 0x8F;
        } else {
            return fail(Fault::ill_formed_utf8, sequence_begin_);
        }
        flags_.non_ascii = true;
        state_ = State::utf8_tail;
        ++at;
        return true;
    }

    bool in_utf8_tail(unsigned char c, std::size_t& at) {
        if (c < second_low_ || c > second_high_) return fail(Fault::ill_formed_utf8, sequence_begin_);
        second_low_ = 0x80;
        second_high_ = 0xBF;
        ++at;
        if (--tail_ == 0) state_ = State::string;
        return true;
    }

    bool in_escape(unsigned char c, std::size_t& at) {
        if (c == 'u') {
            hex_left_ = 4;
            hex_value_ = 0;
            state_ = State::hex;
            ++at;
            return true;
        }
        switch (c) {
            case '"':
            case '\\':
            case '/':
            case 'b':
            case 'f':
            case 'n':
            case 'r':
            case 't':
                break;
            default:
                return fail(Fault::unknown_escape, base_ + at);
        }
        settle_pending_high();
        state_ = State::string;
        ++at;
        return true;
    }

    bool in_hex(unsigned char c, std::size_t& at) {
        const int value = detail::hex_value(c);
        if (value < 0) return fail(Fault::hex_digit_expected, base_ + at);
        hex_value_ = hex_value_ * 16 + static_cast<std::uint32_t>(value);
        ++at;
        if (--hex_left_ != 0) return true;
        state_ = State::string;
        const bool low = hex_value_ >= 0xDC00 && hex_value_ < 0xE000;
        if (high_pending_ && low) {
            high_pending_ = false;
            return true;
        }
        settle_pending_high();
        if (low) flags_.lone_surrogate = true;
        high_pending_ = hex_value_ >= 0xD800 && hex_value_ < 0xDC00;
        if (hex_value_ == 0) flags_.nul = true;
        return true;
    }

    // --- numbers ---

    bool in_number(std::string_view piece, std::size_t& at) {
        const auto c = static_cast<unsigned char>(piece[at]);
        switch (state_) {
            case State::minus:
                if (!detail::is_digit(c)) return fail(Fault::digit_expected, base_ + at);
                state_ = c == '0' ? State::zero : State::whole;
                ++at;
                return true;
            case State::zero:
                if (detail::is_digit(c)) return fail(Fault::leading_zero, base_ + at);
                return after_whole(c, at);
            case State::whole:
                if (skip_digits(piece, at)) return true;
                return after_whole(static_cast<unsigned char>(piece[at]), at);
            case State::point:
                if (!detail::is_digit(c)) return fail(Fault::fraction_digit_expected, base_ + at);
                state_ = State::fraction;
                ++at;
                return true;
            case State::fraction:
                if (skip_digits(piece, at)) return true;
                if ((piece[at] | 0x20) == 'e') return enter(State::exponent, at);
                end_number(base_ + at);
                return true;
            case State::exponent:
                if (c == '+' || c == '-') return enter(State::exponent_sign, at);
                [[fallthrough]];
            case State::exponent_sign:
                if (!detail::is_digit(c)) return fail(Fault::exponent_digit_expected, base_ + at);
                return enter(State::exponent_digits, at);
            default:
                if (!skip_digits(piece, at)) end_number(base_ + at);
                return true;
        }
    }

    bool enter(State state, std::size_t& at) {
        state_ = state;
        ++at;
        return true;
    }

    /// True where the piece ends inside the digits.
    static bool skip_digits(std::string_view piece, std::size_t& at) {
        while (at < piece.size() && detail::is_digit(static_cast<unsigned char>(piece[at]))) ++at;
        return at == piece.size();
    }

    bool after_whole(unsigned char c, std::size_t& at) {
        if (c == '.') return enter(State::point, at);
        if ((c | 0x20) == 'e') return enter(State::exponent, at);
        end_number(base_ + at);
        return true;
    }

    /// The byte at `end` is looked at again, in the state that follows the number.
    void end_number(std::size_t end) {
        sink_.number(token_begin_, end);
        after_value();
    }

    Sink& sink_;
    Instructions instructions_;
    Nesting nesting_;
    State state_ = State::value;
    Fault fault_ = Fault::none;
    bool is_name_ = false;
    bool high_pending_ = false;
    unsigned char second_low_ = 0, second_high_ = 0;
    std::uint8_t tail_ = 0, hex_left_ = 0;
    StringFlags flags_;
    std::uint32_t hex_value_ = 0;
    TokenKind literal_kind_ = TokenKind::null_value;
    std::string_view literal_;
    std::size_t base_ = 0;  // offset of the current piece
    std::size_t token_begin_ = 0, sequence_begin_ = 0, fault_offset_ = 0;
};

/// The message of a fault and the clause that it breaks. `found` describes the character at the error.
Rejection describe(Fault fault, const Position& position, std::string_view rest);

}  // namespace nachklang::json

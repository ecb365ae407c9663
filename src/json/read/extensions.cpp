// Which known extensions would make a text a JSON document.
//
// One pass rewrites the text token by token into strict JSON and notes each extension that it uses; then the
// strict reader decides. This is not a lenient parser: it knows single tokens and the one before, and the reader
// finds all other errors.
#include <algorithm>

#include "json/questions.hpp"
#include "json/read/scanner.hpp"

namespace nachklang::json {
namespace {

bool is_name_start(char c) {
    return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '_' || c == '$' ||
           static_cast<unsigned char>(c) >= 0x80;
}
bool is_name_part(char c) {
    return is_name_start(c) || (c >= '0' && c <= '9');
}

class Rewriter {
  public:
    explicit Rewriter(std::string_view document) : rest_(document), whole_(document) {}

    std::optional<Extended> run() {
        while (!rest_.empty())
            if (!token()) return std::nullopt;
        if (out_.uses.empty()) return std::nullopt;
        return std::move(out_);
    }

  private:
    enum class Last { start, value, comma, colon, opener };

    void use(std::string_view extension) {
        out_.uses.push_back({std::string(extension), whole_.size() - rest_.size()});
    }
    void copy(std::size_t count) {
        out_.strict_text += rest_.substr(0, count);
        rest_.remove_prefix(count);
    }

    bool token() {
        const char c = rest_.front();
        if (detail::is_space(static_cast<unsigned char>(c))) return copy(1), true;
        if (other_space() || comment()) return true;
        if (last_ == Last::value && closers_.empty()) {
            use("text-after-end");
            rest_ = {};
            return true;
        }
        const bool starts_value =
            std::string_view("\"'{[-+.0123456789").find(c) != std::string_view::npos || is_name_start(c);
        if (starts_value) before_value();
        if (c == '"' || c == '\'') return string(c);
        if (c == '{' || c == '[') {
            closers_.push_back(c == '{' ? '}' : ']');
            last_ = Last::opener;
            return copy(1), true;
        }
        if (c == '}' || c == ']') return closer(c);
        if (c == ',') return comma();
        if (c == ':') {
            last_ = Last::colon;
            return copy(1), true;
        }
        if ((c >= '0' && c <= '9') || c == '-' || c == '+' || c == '.') return number();
        if (is_name_start(c)) return word();
        return false;
    }

    bool other_space() {
        for (const std::string_view space :
             {"\f", "\v", "\xC2\xA0", "\xEF\xBB\xBF", "\xE2\x80\xA8", "\xE2\x80\xA9", "\xE2\x80\x83"}) {
            if (!rest_.starts_with(space)) continue;
            if (space == "\xEF\xBB\xBF" && rest_.size() == whole_.size()) return false;
            use("other-space");
            out_.strict_text += ' ';
            rest_.remove_prefix(space.size());
            return true;
        }
        return false;
    }

    bool comment() {
        std::size_t length = 0;
        if (rest_.starts_with("/*")) {
            const auto end = rest_.find("*/", 2);
            if (end == std::string_view::npos) return false;
            length = end + 2;
        } else if (rest_.starts_with("//") || rest_.starts_with("#")) {
            length = std::min(rest_.find_first_of("\r\n"), rest_.size());
        } else {
            return false;
        }
        use("comments");
        out_.strict_text += ' ';
        rest_.remove_prefix(length);
        return true;
    }

    /// Called where a value or a name starts.
    void before_value() {
        if (last_ != Last::value) return;
        use("missing-commas");
        out_.strict_text += ',';
    }
    void after_value() { last_ = Last::value; }

    bool closer(char c) {
        if (closers_.empty() || closers_.back() != c) return false;
        if (last_ == Last::comma) {
            use("trailing-comma");
            out_.strict_text.erase(out_.strict_text.rfind(','), 1);
        }
        closers_.pop_back();
        after_value();
        copy(1);
        return true;
    }

    bool comma() {
        if (closers_.empty()) return false;
        if (last_ == Last::comma || last_ == Last::opener) {
            use("extra-commas");
            rest_.remove_prefix(1);
            return true;
        }
        last_ = Last::comma;
        copy(1);
        return true;
    }

    bool string(char quote) {
        if (quote == '\'') use("single-quotes");
        rest_.remove_prefix(1);
        out_.strict_text += '"';
        while (!rest_.empty() && rest_.front() != quote) {
            const auto c = static_cast<unsigned char>(rest_.front());
            if (c == '\\') {
                if (!escape(quote)) return false;
            } else if (c < 0x20) {
                use("control-in-string");
                static constexpr std::string_view digits = "0123456789abcdef";
                out_.strict_text += "\\u00";
                out_.strict_text += digits[c >> 4];
                out_.strict_text += digits[c & 15];
                rest_.remove_prefix(1);
            } else if (c == '"') {
                out_.strict_text += "\\\"";
                rest_.remove_prefix(1);
            } else {
                copy(1);
            }
        }
        if (rest_.empty()) return false;
        rest_.remove_prefix(1);
        out_.strict_text += '"';
        after_value();
        return true;
    }

    bool escape(char quote) {
        if (rest_.size() < 2) return false;
        const char next = rest_[1];
        if (next == '\n' || next == '\r') {
            use("escaped-line-end");
            rest_.remove_prefix(rest_.substr(1).starts_with("\r\n") ? 3 : 2);
            return true;
        }
        if (std::string_view("\"\\/bfnrtu").find(next) != std::string_view::npos) return copy(2), true;
        if (static_cast<unsigned char>(next) < 0x20 || static_cast<unsigned char>(next) >= 0x80) return false;
        if (next != quote) use("unknown-escape");
        rest_.remove_prefix(1);
        return true;
    }

    bool number() {
        bool negative = false;
        if (rest_.front() == '+') {
            use("leading-plus");
            rest_.remove_prefix(1);
        } else if (rest_.front() == '-') {
            negative = true;
            rest_.remove_prefix(1);
        }
        if (!rest_.empty() && is_name_start(rest_.front())) return word();
        if (rest_.starts_with("0x") || rest_.starts_with("0X")) return hexadecimal(negative);
        if (negative) out_.strict_text += '-';
        const std::size_t digits = span_digits(0);
        if (digits > 1 && rest_.front() == '0') {
            use("leading-zeros");
            const std::size_t zeros = std::min(rest_.substr(0, digits).find_first_not_of('0'), digits - 1);
            rest_.remove_prefix(zeros);
            copy(digits - zeros);
        } else if (digits == 0) {
            use("bare-point");
            out_.strict_text += '0';
        } else {
            copy(digits);
        }
        if (rest_.starts_with('.')) {
            const std::size_t fraction = span_digits(1);
            if (digits == 0 && fraction == 0) return false;
            if (fraction == 0) {
                use("bare-point");
                rest_.remove_prefix(1);
            } else {
                copy(1 + fraction);
            }
        } else if (digits == 0) {
            return false;
        }
        if (rest_.starts_with('e') || rest_.starts_with('E')) {
            const std::size_t sign = rest_.size() > 1 && (rest_[1] == '+' || rest_[1] == '-') ? 1 : 0;
            const std::size_t digits_after = span_digits(1 + sign);
            if (digits_after == 0) return false;
            copy(1 + sign + digits_after);
        }
        after_value();
        return rest_.empty() || !is_name_part(rest_.front());
    }

    bool hexadecimal(bool negative) {
        std::size_t length = 2;
        std::uint64_t value = 0;
        while (length < rest_.size() && detail::hex_value(static_cast<unsigned char>(rest_[length])) >= 0) {
            value = value * 16 +
                    static_cast<std::uint64_t>(detail::hex_value(static_cast<unsigned char>(rest_[length])));
            ++length;
        }
        if (length == 2 || length > 18) return false;
        use("hexadecimal");
        rest_.remove_prefix(length);
        out_.strict_text += (negative ? "-" : "") + std::to_string(value);
        after_value();
        return true;
    }

    [[nodiscard]] std::size_t span_digits(std::size_t from) const {
        std::size_t count = 0;
        while (from + count < rest_.size() && detail::is_digit(static_cast<unsigned char>(rest_[from + count])))
            ++count;
        return count;
    }

    bool word() {
        std::size_t length = 0;
        while (length < rest_.size() && is_name_part(rest_[length])) ++length;
        const std::string_view word = rest_.substr(0, length);
        std::string lower(word);
        std::transform(lower.begin(), lower.end(), lower.begin(),
                       [](char c) { return c >= 'A' && c <= 'Z' ? static_cast<char>(c + 32) : c; });
        const bool is_literal = lower == "true" || lower == "false" || lower == "null";
        const std::size_t after = rest_.find_first_not_of(" \t\r\n", length);
        const bool is_name =
            after != std::string_view::npos && rest_[after] == ':' && !closers_.empty() && closers_.back() == '}';
        if (is_name) {
            use("bare-names");
            out_.strict_text.append("\"").append(word).append("\"");
        } else if (is_literal) {
            if (lower != word) use("literal-case");
            out_.strict_text += lower;
        } else if (lower == "nan" || lower == "infinity" || lower == "inf") {
            use("non-finite");
            out_.strict_text += "null";
        } else {
            return false;
        }
        rest_.remove_prefix(length);
        after_value();
        return true;
    }

    std::string_view rest_, whole_;
    std::string closers_;
    Last last_ = Last::start;
    Extended out_;
};

}  // namespace

std::optional<Extended> read_extended(std::string_view document) {
    auto extended = Rewriter(document).run();
    if (!extended) return std::nullopt;
    VerdictReader reader;
    reader.feed(extended->strict_text);
    if (reader.finish()) return std::nullopt;
    return extended;
}

}  // namespace nachklang::json

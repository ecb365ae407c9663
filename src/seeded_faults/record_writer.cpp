// See record_writer.hpp.
#include "seeded_faults/record_writer.hpp"

#include <cctype>
#include <charconv>
#include <cmath>
#include <cstdlib>
#include <stdexcept>

#include <nachklang/adapter.hpp>

#include "seeded_faults/json_codec.hpp"

namespace seeded_faults {
namespace {

using nachklang::adapter::TraceLine;

/// A value that is written, piece by piece.
struct Written {
    char open = '\0';  // of a container: its bracket
    std::string text;
    std::size_t size = 0;

    [[nodiscard]] std::string whole() const {
        return open == '\0' ? text : open + text + (open == '{' ? '}' : ']');
    }
};

bool begins_as_date(std::string_view text) {
    constexpr std::string_view shape = "dddd-dd-dd";
    if (text.size() <= shape.size()) return false;
    for (std::size_t i = 0; i < shape.size(); ++i) {
        const bool digit = std::isdigit(static_cast<unsigned char>(text[i])) != 0;
        if (shape[i] == 'd' ? !digit : text[i] != shape[i]) return false;
    }
    return true;
}

/// A number as a double, with so many digits in all or behind its point.
std::string through_double(const std::string& digits, std::chars_format format, int precision) {
    char text[64];
    const double value = std::strtod(digits.c_str(), nullptr);
    return {text, std::to_chars(text, text + sizeof text, value, format, precision).ptr};
}

struct Writer {
    using Value = Written;
    const RecordWritingMistakes& mistakes;

    [[nodiscard]] Value scalar(const TraceLine& item) const {
        if (item.kind == "str") return {'\0', string(item.text), 0};
        if (item.kind == "int") return {'\0', integer(item.text), 0};
        if (item.kind == "binary64") return {'\0', binary64(item.binary64()), 0};
        if (item.kind == "native")
            return {'\0', quoted(item.native == "bytes" ? base64_of(item.text) : item.text), 0};
        if (item.kind == "spelled") return {'\0', number(item.text), 0};
        // What was never filled is written as whatever lies there.
        if (item.kind == "unset") return {'\0', "0", 0};
        return {'\0', item.kind == "null" && mistakes.empty_for_null ? "\"\"" : item.kind, 0};
    }
    static Value array() { return {'[', "", 0}; }
    static Value object() { return {'{', "", 0}; }
    static void append(Value& to, const Value& value) {
        if (to.size++ > 0) to.text += ',';
        to.text += value.whole();
    }
    void put(Value& to, const TraceLine& name, Value value) const {
        std::string written = value.whole();
        if (mistakes.no_zero && (written == "0" || written == "false" || written == "\"\"")) return;
        if (mistakes.list_of_one_bare && value.open == '[' && value.size == 1) written = value.text;
        if (mistakes.nested_inside && value.open == '{' && value.text.starts_with("\"value\":"))
            written = value.text.substr(value.text.find(':') + 1);
        // Numbers are names of maps.
        std::string shown = name.kind == "int" ? name.text : name.name();
        if (mistakes.capital_names)
            shown.front() = static_cast<char>(std::toupper(static_cast<unsigned char>(shown.front())));
        append(to, {'\0', quoted(shown) + ":" + written, 0});
    }

  private:
    [[nodiscard]] std::string binary64(double value) const {
        if (!std::isfinite(value)) {
            if (mistakes.nan_raw) return std::isnan(value) ? "NaN" : value < 0 ? "-Infinity" : "Infinity";
            if (mistakes.nan_is_null) return "null";
            throw std::invalid_argument("a number that JSON cannot hold");
        }
        char text[64];
        return number({text, std::to_chars(text, text + sizeof text, value).ptr});
    }
    [[nodiscard]] std::string string(const std::string& text) const {
        if (!mistakes.bytes_raw && !is_utf8(text)) throw std::invalid_argument("a text that UTF-8 cannot hold");
        if (mistakes.quotes_raw && text.find('"') != std::string::npos) return "\"" + text + "\"";
        return quoted(mistakes.dates_cut && begins_as_date(text) ? text.substr(0, 10) : text);
    }
    [[nodiscard]] std::string integer(const std::string& digits) const {
        if (mistakes.through_double) return through_double(digits, std::chars_format::fixed, 0);
        return mistakes.integers_with_point ? digits + ".0" : digits;
    }
    [[nodiscard]] std::string number(const std::string& spelled) const {
        return mistakes.six_digits ? through_double(spelled, std::chars_format::general, 6) : spelled;
    }
};

}  // namespace

std::string written_record(std::string_view fields, const RecordWritingMistakes& mistakes) {
    return nachklang::adapter::build(fields, Writer{mistakes}).whole();
}

}  // namespace seeded_faults

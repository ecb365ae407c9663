// jq's own reader and printer, libjq: numbers are doubles, and text that is no UTF-8 is mended while it is read.
#include <nachklang/adapter.hpp>

extern "C" {
#include <jv.h>
}

#include <charconv>
#include <memory>
#include <utility>

namespace {

using namespace nachklang::adapter;

/// A value of the library; its functions take over what they are given.
class Value {
  public:
    Value() = default;
    explicit Value(jv value) : value_(value) {}
    Value(const Value& other) : value_(jv_copy(other.value_)) {}
    Value(Value&& other) noexcept : value_(std::exchange(other.value_, jv_null())) {}
    Value& operator=(Value other) noexcept {
        std::swap(value_, other.value_);
        return *this;
    }
    ~Value() { jv_free(value_); }
    [[nodiscard]] jv borrowed() const { return value_; }
    [[nodiscard]] jv given() const { return jv_copy(value_); }
    [[nodiscard]] jv given_up() && { return std::exchange(value_, jv_null()); }
    [[nodiscard]] jv_kind kind() const { return jv_get_kind(value_); }
    [[nodiscard]] bool holds_something() const { return kind() != JV_KIND_INVALID; }

  private:
    jv value_ = jv_null();
};

std::string_view text_of(const Value& string) {
    return {jv_string_value(string.borrowed()), static_cast<std::size_t>(jv_string_length_bytes(string.given()))};
}

struct Cursor {
    Value container;
    int at;
    TraceOut* out;

    std::optional<Value> next() {
        if (container.kind() == JV_KIND_ARRAY) {
            if (at < jv_array_length(container.given())) return Value(jv_array_get(container.given(), at++));
            out->close_array();
            return std::nullopt;
        }
        if (jv_object_iter_valid(container.borrowed(), at) == 0) {
            out->close_object();
            return std::nullopt;
        }
        out->key(text_of(Value(jv_object_iter_key(container.borrowed(), at))));
        Value value(jv_object_iter_value(container.borrowed(), at));
        at = jv_object_iter_next(container.borrowed(), at);
        return value;
    }
};

std::optional<Cursor> visit(const Value& value, TraceOut& out) {
    switch (value.kind()) {
        case JV_KIND_ARRAY:
            out.open_array();
            return Cursor{value, 0, &out};
        case JV_KIND_OBJECT:
            out.open_object();
            return Cursor{value, jv_object_iter(value.borrowed()), &out};
        case JV_KIND_TRUE:
        case JV_KIND_FALSE:
            out.boolean(value.kind() == JV_KIND_TRUE);
            break;
        case JV_KIND_NUMBER:
            out.binary64(jv_number_value(value.borrowed()));
            break;
        case JV_KIND_STRING:
            out.string(text_of(value));
            break;
        default:
            out.null();
    }
    return std::nullopt;
}

void show(const Value& value, TraceOut& out) {
    if (out.wanted()) walk<Value>(value, [&](const Value& part) { return visit(part, out); });
}

struct Builder {
    using Value = ::Value;
    static Value text(const std::string& bytes) {
        return Value(jv_string_sized(bytes.data(), static_cast<int>(bytes.size())));
    }
    static Value scalar(const TraceLine& item) {
        if (item.kind == "null") return Value(jv_null());
        if (item.kind == "true" || item.kind == "false") return Value(jv_bool(item.kind == "true" ? 1 : 0));
        if (item.kind == "str") return text(item.text);
        if (item.kind == "binary64") return Value(jv_number(item.binary64()));
        constexpr std::int64_t most = std::int64_t{1} << 53;
        if (const auto value = item.integer<std::int64_t>();
            item.kind == "int" && value && *value >= -most && *value <= most)
            return Value(jv_number(static_cast<double>(*value)));
        throw CannotRepresentError("numbers are doubles here");
    }
    static Value array() { return Value(jv_array()); }
    static Value object() { return Value(jv_object()); }
    static void append(Value& to, const Value& value) {
        to = Value(jv_array_append(std::move(to).given_up(), value.given()));
    }
    static void put(Value& to, const TraceLine& name, const Value& value) {
        to = Value(jv_object_set(std::move(to).given_up(), text(name.name()).given(), value.given()));
    }
};

/// The number behind a word of a message.
std::optional<std::uint64_t> number_behind(std::string_view message, std::string_view word) {
    const std::size_t at = message.rfind(word);
    if (at == std::string_view::npos) return std::nullopt;
    const std::string_view digits = message.substr(at + word.size());
    std::uint64_t out = 0;
    const auto end = std::from_chars(digits.data(), digits.data() + digits.size(), out);
    return end.ec == std::errc{} ? std::optional(out) : std::nullopt;
}

/// An error of the library: a value that is not valid, which may hold a message.
Reply refusal(const Value& error) {
    const Value message(jv_invalid_get_msg(error.given()));
    if (message.kind() != JV_KIND_STRING) return Reply::rejected("no value");
    std::string_view words = text_of(message);
    words = words.substr(0, words.find(" (while parsing '"));
    Reply reply = Reply::rejected(std::string(words));
    if (const auto line = number_behind(words, "at line ")) reply.at_line(*line);
    if (const auto column = number_behind(words, ", column ")) reply.at_column(*column);
    return reply;
}

/// The library's reader of values that follow each other. At a record separator (RFC 7464) it says that it has no
/// value, though there is more to read.
class Reader {
  public:
    Reader() : parser_(jv_parser_new(0), &jv_parser_free) {}
    /// The text must last as long as the reader takes values from it.
    void feed(std::string_view text, bool more_follows) {
        jv_parser_set_buf(parser_.get(), text.data(), static_cast<int>(text.size()), more_follows ? 1 : 0);
    }
    /// The next value, an error, or neither.
    Value next() { return Value(jv_parser_next(parser_.get())); }
    [[nodiscard]] bool is_at_end() const { return jv_parser_remaining(parser_.get()) == 0; }

  private:
    std::unique_ptr<jv_parser, decltype(&jv_parser_free)> parser_;
};

bool is_error(const Value& value) {
    return !value.holds_something() && jv_invalid_has_msg(value.given()) != 0;
}

/// Takes all values that the reader has, until one is refused.
template <class Take>
std::optional<Reply> take_all(Reader& reader, Take take) {
    while (true) {
        const Value value = reader.next();
        if (is_error(value)) return refusal(value);
        if (value.holds_something())
            take(value);
        else if (reader.is_at_end())
            return std::nullopt;
    }
}

class Jq final : public Codec {
  public:
    [[nodiscard]] Description describe() const override {
        return {.name = "jq",
                .version = NACHKLANG_JQ_VERSION,
                .capabilities = {{"json", {"decode", "round-trip", "encode"}}},
                .cannot_represent = {"duplicates"},
                .modes = {
                    {.name = "default"},
                    {.name = "parser", .capabilities = {{"json", {"decode", "pieces", "sequence", "open-stream"}}}},
                    {.name = "ascii-sorted-indented", .capabilities = {{"json", {"encode"}}}}}};
    }
    Reply decode(std::string_view format, std::string_view mode, std::string_view document,
                 TraceOut& out) override {
        if (mode == "parser") return pieces(format, mode, {document}, out);
        return parse(document, [&](const Value& value) {
            show(value, out);
            return Reply::accepted();
        });
    }
    Reply round_trip(std::string_view, std::string_view mode, std::string_view document) override {
        return parse(document, [&](const Value& value) { return dump(value, mode); });
    }
    Reply encode(std::string_view, std::string_view mode, std::string_view trace) override {
        return dump(build(trace, Builder{}), mode);
    }
    /// The reader takes any number of values; a document is one.
    Reply pieces(std::string_view, std::string_view, const std::vector<std::string_view>& pieces,
                 TraceOut& out) override {
        Reader reader;
        std::vector<Value> found;
        for (std::size_t i = 0; i < pieces.size(); ++i) {
            reader.feed(pieces[i], i + 1 < pieces.size());
            if (auto refused = take_all(reader, [&](const Value& value) { found.push_back(value); }))
                return *refused;
        }
        if (found.size() != 1) return Reply::rejected(std::to_string(found.size()) + " values");
        show(found.front(), out);
        return Reply::accepted();
    }
    Reply sequence(std::string_view, std::string_view, std::string_view text, TraceOut& out) override {
        Reader reader;
        reader.feed(text, false);
        return take_all(reader, [&](const Value& value) { show(value, out); }).value_or(Reply::accepted());
    }
    Reply open_stream(std::string_view, std::string_view, std::string_view text, TraceOut& out) override {
        Reader reader;
        for (std::size_t i = 0; i < text.size(); ++i) {
            reader.feed(text.substr(i, 1), true);
            if (auto refused = take_all(reader, [&](const Value& value) { show(value, out); })) return *refused;
        }
        return Reply::accepted();
    }

  private:
    static Reply dump(const Value& value, std::string_view mode) {
        const int flags = mode == "ascii-sorted-indented" ? JV_PRINT_ASCII | JV_PRINT_SORTED | JV_PRINT_PRETTY : 0;
        return Reply::accepted(std::string(text_of(Value(jv_dump_string(value.given(), flags)))));
    }
    template <class Then>
    static Reply parse(std::string_view document, Then then) {
        const Value value(jv_parse_sized(document.data(), static_cast<int>(document.size())));
        return value.holds_something() ? then(value) : refusal(value);
    }
};

}  // namespace

int main() {
    Jq codec;
    return serve(codec);
}

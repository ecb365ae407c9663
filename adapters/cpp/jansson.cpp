// Jansson, with the flag combinations that its users meet: its bare default takes arrays and objects only.
#include <nachklang/adapter.hpp>
#include <nachklang/adapter_stream.hpp>

#include <jansson.h>

#include <memory>

namespace {

using namespace nachklang::adapter;

struct Cursor {
    json_t* container;
    std::size_t index;
    void* member;
    TraceOut* out;

    std::optional<json_t*> next() {
        if (json_is_array(container)) {
            if (index < json_array_size(container)) return json_array_get(container, index++);
            out->close_array();
            return std::nullopt;
        }
        if (member == nullptr) {
            out->close_object();
            return std::nullopt;
        }
        out->key({json_object_iter_key(member), json_object_iter_key_len(member)});
        json_t* value = json_object_iter_value(member);
        member = json_object_iter_next(container, member);
        return value;
    }
};

std::optional<Cursor> visit(json_t* value, TraceOut& out) {
    switch (json_typeof(value)) {
        case JSON_NULL:
            out.null();
            break;
        case JSON_TRUE:
        case JSON_FALSE:
            out.boolean(json_is_true(value));
            break;
        case JSON_INTEGER:
            out.integer(json_integer_value(value));
            break;
        case JSON_REAL:
            out.binary64(json_real_value(value));
            break;
        case JSON_STRING:
            out.string({json_string_value(value), json_string_length(value)});
            break;
        case JSON_ARRAY:
            out.open_array();
            return Cursor{value, 0, nullptr, &out};
        case JSON_OBJECT:
            out.open_object();
            return Cursor{value, 0, json_object_iter(value), &out};
    }
    return std::nullopt;
}

struct Release {
    void operator()(json_t* value) const { json_decref(value); }
};
using Held = std::unique_ptr<json_t, Release>;

struct Builder {
    using Value = Held;
    static Value checked(json_t* value, const TraceLine& item) {
        if (value == nullptr) throw CannotRepresentError("no value for " + item.kind);
        return Held(value);
    }
    static Value scalar(const TraceLine& item) {
        if (item.kind == "null") return Held(json_null());
        if (item.kind == "true" || item.kind == "false") return Held(json_boolean(item.kind == "true"));
        if (item.kind == "str") return checked(json_stringn(item.text.data(), item.text.size()), item);
        if (item.kind == "binary64") return checked(json_real(item.binary64()), item);
        if (const auto value = item.integer<json_int_t>(); item.kind == "int" && value)
            return Held(json_integer(*value));
        throw CannotRepresentError("no value for " + item.kind + " " + item.text);
    }
    static Value array() { return Held(json_array()); }
    static Value object() { return Held(json_object()); }
    static void append(Value& to, Value value) { json_array_append_new(to.get(), value.release()); }
    static void put(Value& to, const TraceLine& name, Value value) {
        if (json_object_setn_new(to.get(), name.name().data(), name.name().size(), value.release()) != 0)
            throw CannotRepresentError("a name it does not take");
    }
};

class Jansson final : public Codec {
  public:
    [[nodiscard]] Description describe() const override {
        return {
            .name = "jansson",
            .version = JANSSON_VERSION,
            .capabilities = {{"json", {"decode", "round-trip", "encode"}}},
            .cannot_represent = {"duplicates"},
            .modes = {{.name = "default", .capabilities = {{"json", {"decode", "round-trip"}}}},
                      {.name = "any",
                       .capabilities = {{"json", {"decode", "round-trip", "encode", "sequence", "open-stream"}}}},
                      {.name = "any-nul", .capabilities = {{"json", {"decode", "round-trip"}}}},
                      {.name = "any-unique", .capabilities = {{"json", {"decode", "round-trip"}}}},
                      {.name = "any-real", .capabilities = {{"json", {"decode", "round-trip"}}}}}};
    }
    Reply decode(std::string_view, std::string_view mode, std::string_view document, TraceOut& out) override {
        return parse(mode, document, [&](json_t* root) {
            if (out.wanted()) walk<json_t*>(root, [&](json_t* value) { return visit(value, out); });
            return Reply::accepted();
        });
    }
    /// JSON_DISABLE_EOF_CHECK tells where a document ends, and leaves white space behind the last one to its
    /// caller.
    Reply open_stream(std::string_view, std::string_view, std::string_view text, TraceOut& out) override {
        nachklang::adapter::OpenStream stream(text);
        const auto one_byte = [](void* into, std::size_t size, void* from) -> std::size_t {
            const int byte = size == 0 ? -1 : static_cast<nachklang::adapter::OpenStream*>(from)->next();
            if (byte >= 0) *static_cast<char*>(into) = static_cast<char>(byte);
            return byte >= 0 ? 1 : 0;
        };
        while (true) {
            json_error_t error;
            const Held root(
                json_load_callback(one_byte, &stream, JSON_DECODE_ANY | JSON_DISABLE_EOF_CHECK, &error));
            if (stream.asked_for_more()) return Reply::accepted();
            if (!root) return Reply::rejected(error.text);
            if (out.wanted()) walk<json_t*>(root.get(), [&](json_t* value) { return visit(value, out); });
        }
    }
    Reply sequence(std::string_view, std::string_view, std::string_view text, TraceOut& out) override {
        for (std::size_t at = 0; (at = text.find_first_not_of(" \t\r\n", at)) != std::string_view::npos;) {
            json_error_t error;
            const Held root(
                json_loadb(text.data() + at, text.size() - at, JSON_DECODE_ANY | JSON_DISABLE_EOF_CHECK, &error));
            if (!root) return Reply::rejected(error.text);
            if (out.wanted()) walk<json_t*>(root.get(), [&](json_t* value) { return visit(value, out); });
            at += static_cast<std::size_t>(error.position);
        }
        return Reply::accepted();
    }
    Reply round_trip(std::string_view, std::string_view mode, std::string_view document) override {
        return parse(mode, document, [](json_t* root) { return dump(root); });
    }
    Reply encode(std::string_view, std::string_view, std::string_view trace) override {
        return dump(build(trace, Builder{}).get());
    }

  private:
    static Reply dump(json_t* root) {
        const std::unique_ptr<char, decltype(&std::free)> text(json_dumps(root, JSON_ENCODE_ANY | JSON_COMPACT),
                                                               &std::free);
        return text ? Reply::accepted(text.get()) : Reply::rejected("json_dumps returned null");
    }
    template <class Then>
    static Reply parse(std::string_view mode, std::string_view document, Then then) {
        std::size_t flags = mode == "default" ? 0 : JSON_DECODE_ANY;
        if (mode == "any-nul") flags |= JSON_ALLOW_NUL;
        if (mode == "any-unique") flags |= JSON_REJECT_DUPLICATES;
        if (mode == "any-real") flags |= JSON_DECODE_INT_AS_REAL;
        json_error_t error;
        const Held root(json_loadb(document.data(), document.size(), flags, &error));
        if (root) return then(root.get());
        Reply reply = Reply::rejected(error.text);
        if (error.position >= 0) reply.at_offset(static_cast<std::uint64_t>(error.position));
        if (error.line > 0) reply.at_line(static_cast<std::uint64_t>(error.line));
        if (error.column > 0) reply.at_column(static_cast<std::uint64_t>(error.column));
        return reply;
    }
};

}  // namespace

int main() {
    Jansson codec;
    return serve(codec);
}

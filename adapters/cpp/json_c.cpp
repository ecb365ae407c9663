// json-c: as json_tokener_new sets it, with a look at where the document ended, and with its strict and UTF-8
// checking flags.
#include <nachklang/adapter.hpp>

#include <json-c/json.h>

#include <cerrno>
#include <memory>

namespace {

using namespace nachklang::adapter;

struct Cursor {
    json_object* container;
    std::size_t index;
    lh_entry* member;
    TraceOut* out;

    // A decoded null is a null pointer, which is a child all the same.
    std::optional<json_object*> next() {
        if (json_object_is_type(container, json_type_array)) {
            if (index < json_object_array_length(container)) return json_object_array_get_idx(container, index++);
            out->close_array();
            return std::nullopt;
        }
        if (member == nullptr) {
            out->close_object();
            return std::nullopt;
        }
        out->key(static_cast<const char*>(lh_entry_k(member)));
        auto* value = static_cast<json_object*>(lh_entry_v(member));
        member = lh_entry_next(member);
        return value;
    }
};

std::optional<Cursor> visit(json_object* value, TraceOut& out) {
    switch (json_object_get_type(value)) {
        case json_type_null:
            out.null();
            break;
        case json_type_boolean:
            out.boolean(json_object_get_boolean(value) != 0);
            break;
        case json_type_double:
            out.binary64(json_object_get_double(value));
            break;
        case json_type_int:
            // Which of the two it is, is hidden: what does not fit the signed one is the unsigned one.
            if (json_object_get_int64(value) < 0 || json_object_get_uint64(value) <= INT64_MAX) {
                out.integer(json_object_get_int64(value));
            } else {
                out.integer_unsigned(json_object_get_uint64(value));
            }
            break;
        case json_type_string:
            out.string(
                {json_object_get_string(value), static_cast<std::size_t>(json_object_get_string_len(value))});
            break;
        case json_type_array:
            out.open_array();
            return Cursor{value, 0, nullptr, &out};
        case json_type_object:
            out.open_object();
            return Cursor{value, 0, lh_table_head(json_object_get_object(value)), &out};
    }
    return std::nullopt;
}

struct Release {
    void operator()(json_object* value) const { json_object_put(value); }
};
using Held = std::unique_ptr<json_object, Release>;

struct Builder {
    using Value = Held;
    static Value scalar(const TraceLine& item) {
        if (item.kind == "null") return nullptr;
        if (item.kind == "true" || item.kind == "false") return Held(json_object_new_boolean(item.kind == "true"));
        if (item.kind == "str")
            return Held(json_object_new_string_len(item.text.data(), static_cast<int>(item.text.size())));
        if (item.kind == "binary64") return Held(json_object_new_double(item.binary64()));
        if (const auto value = item.integer<std::int64_t>(); item.kind == "int" && value)
            return Held(json_object_new_int64(*value));
        if (const auto value = item.integer<std::uint64_t>(); item.kind == "int" && value)
            return Held(json_object_new_uint64(*value));
        throw CannotRepresentError("no value for " + item.kind + " " + item.text);
    }
    static Value array() { return Held(json_object_new_array()); }
    static Value object() { return Held(json_object_new_object()); }
    static void append(Value& to, Value value) { json_object_array_add(to.get(), value.release()); }
    static void put(Value& to, const TraceLine& name, Value value) {
        if (name.name().find('\0') != std::string::npos) throw CannotRepresentError("names are C strings here");
        json_object_object_add(to.get(), name.name().c_str(), value.release());
    }
};

class JsonC final : public Codec {
  public:
    [[nodiscard]] Description describe() const override {
        return {
            .name = "json-c",
            .version = JSON_C_VERSION,
            .capabilities = {{"json", {"decode", "round-trip", "encode"}}},
            .cannot_represent = {"duplicates"},
            .modes = {{.name = "default",
                       .capabilities = {{"json", {"decode", "round-trip", "encode", "sequence", "open-stream"}}}},
                      {.name = "end-checked", .capabilities = {{"json", {"decode"}}}},
                      {.name = "strict", .capabilities = {{"json", {"decode", "round-trip"}}}}}};
    }
    Reply decode(std::string_view, std::string_view mode, std::string_view document, TraceOut& out) override {
        return parse(mode, document, [&](json_object* root) {
            if (out.wanted()) walk<json_object*>(root, [&](json_object* value) { return visit(value, out); });
            return Reply::accepted();
        });
    }
    /// A tokener that is done goes on with the next document where json_tokener_get_parse_end says.
    Reply open_stream(std::string_view, std::string_view, std::string_view text, TraceOut& out) override {
        const std::unique_ptr<json_tokener, decltype(&json_tokener_free)> tokener(json_tokener_new(),
                                                                                  &json_tokener_free);
        for (std::size_t at = 0; at < text.size();) {
            const Held root(json_tokener_parse_ex(tokener.get(), text.data() + at, 1));
            const json_tokener_error error = json_tokener_get_error(tokener.get());
            at += json_tokener_get_parse_end(tokener.get());
            if (error == json_tokener_continue) continue;
            if (error != json_tokener_success) return Reply::rejected(json_tokener_error_desc(error));
            if (out.wanted()) walk<json_object*>(root.get(), [&](json_object* value) { return visit(value, out); });
        }
        return Reply::accepted();
    }
    Reply sequence(std::string_view, std::string_view, std::string_view text, TraceOut& out) override {
        const std::unique_ptr<json_tokener, decltype(&json_tokener_free)> tokener(json_tokener_new(),
                                                                                  &json_tokener_free);
        const std::string ended(text);
        for (std::size_t at = 0; (at = ended.find_first_not_of(" \t\r\n", at)) != std::string::npos;) {
            const auto left = static_cast<int>(ended.size() - at + 1);
            const Held root(json_tokener_parse_ex(tokener.get(), ended.c_str() + at, left));
            const json_tokener_error error = json_tokener_get_error(tokener.get());
            if (error != json_tokener_success) return Reply::rejected(json_tokener_error_desc(error));
            if (out.wanted()) walk<json_object*>(root.get(), [&](json_object* value) { return visit(value, out); });
            at += json_tokener_get_parse_end(tokener.get());
        }
        return Reply::accepted();
    }
    Reply round_trip(std::string_view, std::string_view mode, std::string_view document) override {
        return parse(mode, document, [](json_object* root) { return dump(root); });
    }
    Reply encode(std::string_view, std::string_view, std::string_view trace) override {
        return dump(build(trace, Builder{}).get());
    }

  private:
    static Reply dump(json_object* root) {
        if (root == nullptr) return Reply::accepted("null");
        std::size_t length = 0;
        const char* text = json_object_to_json_string_length(root, JSON_C_TO_STRING_PLAIN, &length);
        return Reply::accepted({text, length});
    }
    template <class Then>
    static Reply parse(std::string_view mode, std::string_view document, Then then) {
        const std::unique_ptr<json_tokener, decltype(&json_tokener_free)> tokener(json_tokener_new(),
                                                                                  &json_tokener_free);
        if (mode == "strict")
            json_tokener_set_flags(tokener.get(), JSON_TOKENER_STRICT | JSON_TOKENER_VALIDATE_UTF8);
        // A bare number is only finished by what follows it: a NUL after the document says that nothing does.
        const std::string ended(document);
        const Held root(json_tokener_parse_ex(tokener.get(), ended.c_str(), static_cast<int>(ended.size() + 1)));
        const json_tokener_error error = json_tokener_get_error(tokener.get());
        const std::size_t end = json_tokener_get_parse_end(tokener.get());
        if (error != json_tokener_success) return Reply::rejected(json_tokener_error_desc(error)).at_offset(end);
        if (mode == "end-checked" && end < document.size() &&
            document.find_first_not_of(" \t\r\n", end) != std::string_view::npos)
            return Reply::rejected("text after the document, by json_tokener_get_parse_end").at_offset(end);
        return then(root.get());
    }
};

}  // namespace

int main() {
    JsonC codec;
    return serve(codec);
}

// JSON-GLib's parser and generator.
#include <nachklang/adapter.hpp>

#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wpedantic"
#include <json-glib/json-glib.h>
#pragma GCC diagnostic pop

#include <memory>

namespace {

using namespace nachklang::adapter;

struct Unref {
    void operator()(void* object) const { g_object_unref(object); }
};

struct Cursor {
    JsonNode* container;
    GList* names;
    guint index;
    TraceOut* out;

    std::optional<JsonNode*> next() {
        if (JSON_NODE_HOLDS_ARRAY(container)) {
            JsonArray* array = json_node_get_array(container);
            if (index < json_array_get_length(array)) return json_array_get_element(array, index++);
            out->close_array();
            return std::nullopt;
        }
        if (names == nullptr) {
            out->close_object();
            return std::nullopt;
        }
        const auto* name = static_cast<const char*>(names->data);
        names = g_list_delete_link(names, names);
        out->key(name);
        return json_object_get_member(json_node_get_object(container), name);
    }
};

std::optional<Cursor> visit(JsonNode* value, TraceOut& out) {
    if (value == nullptr) {
        out.native("no-root", "");
        return std::nullopt;
    }
    if (JSON_NODE_HOLDS_ARRAY(value)) {
        out.open_array();
        return Cursor{value, nullptr, 0, &out};
    }
    if (JSON_NODE_HOLDS_OBJECT(value)) {
        out.open_object();
        return Cursor{value, json_object_get_members(json_node_get_object(value)), 0, &out};
    }
    if (JSON_NODE_HOLDS_NULL(value)) {
        out.null();
        return std::nullopt;
    }
    const GType type = json_node_get_value_type(value);
    if (type == G_TYPE_BOOLEAN) {
        out.boolean(json_node_get_boolean(value) != 0);
    } else if (type == G_TYPE_INT64) {
        out.integer(json_node_get_int(value));
    } else if (type == G_TYPE_DOUBLE) {
        out.binary64(json_node_get_double(value));
    } else {
        out.string(json_node_get_string(value));
    }
    return std::nullopt;
}

class JsonGlib final : public Codec {
  public:
    [[nodiscard]] Description describe() const override {
        return {.name = "json-glib",
                .version = JSON_VERSION_S,
                .capabilities = {{"json", {"decode", "round-trip"}}},
                .cannot_represent = {"duplicates"}};
    }
    Reply decode(std::string_view, std::string_view, std::string_view document, TraceOut& out) override {
        return parse(document, [&](JsonNode* root) {
            if (out.wanted()) walk<JsonNode*>(root, [&](JsonNode* value) { return visit(value, out); });
            return Reply::accepted();
        });
    }
    Reply round_trip(std::string_view, std::string_view, std::string_view document) override {
        return parse(document, [](JsonNode* root) {
            if (root == nullptr) return Reply::accepted();
            const std::unique_ptr<JsonGenerator, Unref> generator(json_generator_new());
            json_generator_set_root(generator.get(), root);
            gsize length = 0;
            const std::unique_ptr<char, decltype(&g_free)> text(json_generator_to_data(generator.get(), &length),
                                                                &g_free);
            return Reply::accepted({text.get(), length});
        });
    }

  private:
    template <class Then>
    static Reply parse(std::string_view document, Then then) {
        const std::unique_ptr<JsonParser, Unref> parser(json_parser_new());
        GError* error = nullptr;
        // A length of 0 or less would mean a text that ends with NUL.
        const std::string text(document);
        if (json_parser_load_from_data(parser.get(), text.c_str(), static_cast<gssize>(text.size()), &error) == 0) {
            Reply reply = Reply::rejected(error->message);
            g_error_free(error);
            return reply.at_line(json_parser_get_current_line(parser.get()));
        }
        JsonNode* root = json_parser_get_root(parser.get());
        // An empty text is accepted, and has no root.
        return then(root);
    }
};

}  // namespace

int main() {
    JsonGlib codec;
    return serve(codec);
}

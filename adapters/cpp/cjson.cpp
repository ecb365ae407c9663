// cJSON through cJSON_ParseWithLengthOpts, as cJSON_Parse calls it and with text after the document refused.
#include <nachklang/adapter.hpp>

#include <cjson/cJSON.h>

#include <memory>

namespace {

using namespace nachklang::adapter;

struct Cursor {
    const cJSON* child;
    bool is_object;
    TraceOut* out;

    std::optional<const cJSON*> next() {
        if (child == nullptr) {
            is_object ? out->close_object() : out->close_array();
            return std::nullopt;
        }
        if (is_object) out->key(child->string);
        const cJSON* value = child;
        child = child->next;
        return value;
    }
};

std::optional<Cursor> visit(const cJSON* value, TraceOut& out) {
    if (cJSON_IsArray(value) != 0) {
        out.open_array();
        return Cursor{value->child, false, &out};
    }
    if (cJSON_IsObject(value) != 0) {
        out.open_object();
        return Cursor{value->child, true, &out};
    }
    if (cJSON_IsNull(value) != 0) {
        out.null();
    } else if (cJSON_IsBool(value) != 0) {
        out.boolean(cJSON_IsTrue(value) != 0);
    } else if (cJSON_IsNumber(value) != 0) {
        out.binary64(value->valuedouble);
    } else {
        out.string(value->valuestring);
    }
    return std::nullopt;
}

struct Release {
    void operator()(cJSON* value) const { cJSON_Delete(value); }
};
using Held = std::unique_ptr<cJSON, Release>;

struct Builder {
    using Value = Held;
    static void no_nul(const std::string& text) {
        if (text.find('\0') != std::string::npos) throw CannotRepresentError("strings are C strings here");
    }
    static Value scalar(const TraceLine& item) {
        if (item.kind == "null") return Held(cJSON_CreateNull());
        if (item.kind == "true" || item.kind == "false") return Held(cJSON_CreateBool(item.kind == "true" ? 1 : 0));
        if (item.kind == "str") return no_nul(item.text), Held(cJSON_CreateString(item.text.c_str()));
        if (item.kind == "binary64") return Held(cJSON_CreateNumber(item.binary64()));
        if (const auto value = item.integer<std::int32_t>(); item.kind == "int" && value)
            return Held(cJSON_CreateNumber(*value));
        throw CannotRepresentError("numbers are doubles here");
    }
    static Value array() { return Held(cJSON_CreateArray()); }
    static Value object() { return Held(cJSON_CreateObject()); }
    static void append(Value& to, Value value) { cJSON_AddItemToArray(to.get(), value.release()); }
    static void put(Value& to, const TraceLine& name, Value value) {
        no_nul(name.name());
        cJSON_AddItemToObject(to.get(), name.name().c_str(), value.release());
    }
};

class CJson final : public Codec {
  public:
    [[nodiscard]] Description describe() const override {
        return {.name = "cjson",
                .version = cJSON_Version(),
                .capabilities = {{"json", {"decode", "round-trip", "encode"}}},
                .modes = {{.name = "default"},
                          {.name = "whole-input", .capabilities = {{"json", {"decode", "round-trip"}}}}}};
    }
    Reply decode(std::string_view, std::string_view mode, std::string_view document, TraceOut& out) override {
        return parse(mode, document, [&](const cJSON* root) {
            if (out.wanted()) walk<const cJSON*>(root, [&](const cJSON* value) { return visit(value, out); });
            return Reply::accepted();
        });
    }
    Reply round_trip(std::string_view, std::string_view mode, std::string_view document) override {
        return parse(mode, document, [](const cJSON* root) { return dump(root); });
    }
    Reply encode(std::string_view, std::string_view, std::string_view trace) override {
        return dump(build(trace, Builder{}).get());
    }

  private:
    static Reply dump(const cJSON* root) {
        const std::unique_ptr<char, decltype(&cJSON_free)> text(cJSON_PrintUnformatted(root), &cJSON_free);
        return text ? Reply::accepted(text.get()) : Reply::rejected("cJSON_PrintUnformatted returned NULL");
    }
    template <class Then>
    static Reply parse(std::string_view mode, std::string_view document, Then then) {
        const std::string text(document);
        const char* end = nullptr;
        const bool whole = mode == "whole-input";
        // The NUL that ends the input is counted where the whole input is asked for: the library looks for it.
        const Held root(
            cJSON_ParseWithLengthOpts(text.c_str(), text.size() + (whole ? 1 : 0), &end, whole ? 1 : 0));
        if (root) return then(root.get());
        Reply reply = Reply::rejected("cJSON_ParseWithLengthOpts returned NULL");
        if (end != nullptr) reply.at_offset(static_cast<std::uint64_t>(end - text.c_str()));
        return reply;
    }
};

}  // namespace

int main() {
    CJson codec;
    return serve(codec);
}

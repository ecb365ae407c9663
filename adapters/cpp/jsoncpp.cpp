// JsonCpp, as its default reader is set and with its strict settings.
#include <nachklang/adapter.hpp>

#include <json/json.h>

#include <memory>

namespace {

using namespace nachklang::adapter;

struct Cursor {
    const Json::Value* container;
    Json::Value::const_iterator next_member;
    TraceOut* out;

    std::optional<const Json::Value*> next() {
        const bool is_object = container->isObject();
        if (next_member == container->end()) {
            is_object ? out->close_object() : out->close_array();
            return std::nullopt;
        }
        if (is_object) {
            const char* end = nullptr;
            const char* begin = next_member.memberName(&end);
            out->key({begin, static_cast<std::size_t>(end - begin)});
        }
        return &*next_member++;
    }
};

std::optional<Cursor> visit(const Json::Value& value, TraceOut& out) {
    switch (value.type()) {
        case Json::nullValue:
            out.null();
            break;
        case Json::booleanValue:
            out.boolean(value.asBool());
            break;
        case Json::intValue:
            out.integer(value.asInt64());
            break;
        case Json::uintValue:
            out.integer_unsigned(value.asUInt64());
            break;
        case Json::realValue:
            out.binary64(value.asDouble());
            break;
        case Json::stringValue: {
            const char *begin = nullptr, *end = nullptr;
            value.getString(&begin, &end);
            out.string({begin, static_cast<std::size_t>(end - begin)});
            break;
        }
        default:
            value.isObject() ? out.open_object() : out.open_array();
            return Cursor{&value, value.begin(), &out};
    }
    return std::nullopt;
}

struct Builder {
    using Value = Json::Value;
    static Value scalar(const TraceLine& item) {
        if (item.kind == "null") return {};
        if (item.kind == "true" || item.kind == "false") return {item.kind == "true"};
        if (item.kind == "str") return {item.text.data(), item.text.data() + item.text.size()};
        if (item.kind == "binary64") return {item.binary64()};
        if (const auto value = item.integer<Json::Int64>(); item.kind == "int" && value) return {*value};
        if (const auto value = item.integer<Json::UInt64>(); item.kind == "int" && value) return {*value};
        throw CannotRepresentError("no value for " + item.kind + " " + item.text);
    }
    static Value array() { return {Json::arrayValue}; }
    static Value object() { return {Json::objectValue}; }
    static void append(Value& to, Value value) { to.append(std::move(value)); }
    static void put(Value& to, const TraceLine& name, Value value) { to[name.name()] = std::move(value); }
};

class JsonCpp final : public Codec {
  public:
    [[nodiscard]] Description describe() const override {
        return {.name = "jsoncpp",
                .version = JSONCPP_VERSION_STRING,
                .capabilities = {{"json", {"decode", "round-trip", "encode"}}},
                .cannot_represent = {"order", "duplicates"},
                .modes = {{.name = "default"},
                          {.name = "strict", .capabilities = {{"json", {"decode", "round-trip"}}}}}};
    }
    Reply decode(std::string_view, std::string_view mode, std::string_view document, TraceOut& out) override {
        Json::Value root;
        if (auto refused = parse(mode, document, root)) return *refused;
        if (out.wanted())
            walk<const Json::Value*>(&root, [&](const Json::Value* value) { return visit(*value, out); });
        return Reply::accepted();
    }
    Reply round_trip(std::string_view, std::string_view mode, std::string_view document) override {
        Json::Value root;
        if (auto refused = parse(mode, document, root)) return *refused;
        return Reply::accepted(written(root));
    }
    Reply encode(std::string_view, std::string_view, std::string_view trace) override {
        return Reply::accepted(written(build(trace, Builder{})));
    }

  private:
    static Json::StreamWriterBuilder compact() {
        Json::StreamWriterBuilder out;
        out["indentation"] = "";
        return out;
    }
    static std::string written(const Json::Value& root) {
        return library<Json::Exception>([&] { return Json::writeString(compact(), root); });
    }
    static std::optional<Reply> parse(std::string_view mode, std::string_view document, Json::Value& root) {
        Json::CharReaderBuilder builder;
        if (mode == "strict") Json::CharReaderBuilder::strictMode(&builder.settings_);
        const std::unique_ptr<Json::CharReader> reader(builder.newCharReader());
        std::string errors;
        const bool done = library<Json::Exception>(
            [&] { return reader->parse(document.data(), document.data() + document.size(), &root, &errors); });
        if (done) return std::nullopt;
        return Reply::rejected(errors.empty() ? "no message" : errors);
    }
};

}  // namespace

int main() {
    JsonCpp codec;
    return serve(codec);
}

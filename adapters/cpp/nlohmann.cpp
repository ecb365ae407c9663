// nlohmann/json. Members are kept in the order of their names (std::map); `ordered` keeps the document's.
#include <nachklang/adapter.hpp>
#include <nachklang/adapter_stream.hpp>

#include <nlohmann/json.hpp>

#include "records.hpp"

namespace records {
NLOHMANN_DEFINE_TYPE_NON_INTRUSIVE(OneInt32, value)
NLOHMANN_DEFINE_TYPE_NON_INTRUSIVE(OneInt64, value)
NLOHMANN_DEFINE_TYPE_NON_INTRUSIVE(OneBinary64, value)
NLOHMANN_DEFINE_TYPE_NON_INTRUSIVE(OneBoolean, value)
NLOHMANN_DEFINE_TYPE_NON_INTRUSIVE(OneText, value)
NLOHMANN_DEFINE_TYPE_NON_INTRUSIVE(OneList, value)
NLOHMANN_DEFINE_TYPE_NON_INTRUSIVE(OneRecord, value)

// As the library's documentation does it for a field that may be absent: its macros know none.
void from_json(const nlohmann::json& value, Bell& bell) {
    value.at("name").get_to(bell.name);
    value.at("weight_kg").get_to(bell.weight_kg);
    value.at("hum_hz").get_to(bell.hum_hz);
    bell.note.reset();
    if (value.contains("note") && !value.at("note").is_null()) bell.note = value.at("note").get<std::string>();
}
void to_json(nlohmann::json& value, const Bell& bell) {
    value = {{"name", bell.name}, {"weight_kg", bell.weight_kg}, {"hum_hz", bell.hum_hz}, {"note", nullptr}};
    if (bell.note) value["note"] = *bell.note;
}
}  // namespace records

#include <sstream>

namespace {

using nachklang::adapter::Reply;
using nachklang::adapter::TraceOut;

template <class Json>
void scalar(const Json& value, TraceOut& out) {
    switch (value.type()) {
        case Json::value_t::null:
            return out.null();
        case Json::value_t::boolean:
            return out.boolean(value.template get<bool>());
        case Json::value_t::number_integer:
            return out.integer(value.template get<std::int64_t>());
        case Json::value_t::number_unsigned:
            return out.integer_unsigned(value.template get<std::uint64_t>());
        case Json::value_t::number_float:
            return out.binary64(value.template get<double>());
        case Json::value_t::string:
            return out.string(value.template get_ref<const std::string&>());
        default:
            return out.native(value.type_name(), "");
    }
}

template <class Json>
struct Builder {
    using Value = Json;
    static Value scalar(const nachklang::adapter::TraceLine& item) {
        if (item.kind == "null") return nullptr;
        if (item.kind == "true" || item.kind == "false") return item.kind == "true";
        if (item.kind == "str") return item.text;
        if (item.kind == "binary64") return item.binary64();
        if (item.kind == "binary32") return item.binary32();
        if (const auto value = item.integer<std::int64_t>(); item.kind == "int" && value) return *value;
        if (const auto value = item.integer<std::uint64_t>(); item.kind == "int" && value) return *value;
        throw nachklang::adapter::CannotRepresentError("no value for " + item.kind + " " + item.text);
    }
    static Value array() { return Value::array(); }
    static Value object() { return Value::object(); }
    static void append(Value& to, Value value) { to.push_back(std::move(value)); }
    static void put(Value& to, const nachklang::adapter::TraceLine& name, Value value) {
        to[name.name()] = std::move(value);
    }
};

template <class Json>
struct Cursor {
    typename Json::const_iterator at, end;
    bool is_object;
    TraceOut* out;

    std::optional<const Json*> next() {
        if (at == end) {
            is_object ? out->close_object() : out->close_array();
            return std::nullopt;
        }
        if (is_object) out->key(at.key());
        return &*at++;
    }
};

template <class Json>
std::optional<Cursor<Json>> visit(const Json& value, TraceOut& out) {
    if (!value.is_structured()) return scalar(value, out), std::nullopt;
    value.is_object() ? out.open_object() : out.open_array();
    return Cursor<Json>{value.cbegin(), value.cend(), value.is_object(), &out};
}

template <class Json, class Then>
Reply parse(std::string_view document, Then then) {
    std::optional<std::uint64_t> offset;
    // out_of_range is documented for numbers beyond a double.
    const Json value = nachklang::adapter::library<nlohmann::json::out_of_range>([&]() -> Json {
        try {
            return Json::parse(document);
        } catch (const nlohmann::json::parse_error& error) {
            offset = error.byte == 0 ? 0 : error.byte - 1;
            return Json(error.what());
        }
    });
    if (offset) return Reply::rejected(value.template get<std::string>()).at_offset(*offset);
    return then(value);
}

class Nlohmann final : public nachklang::adapter::Codec {
  public:
    [[nodiscard]] nachklang::adapter::Description describe() const override {
        const auto version = std::to_string(NLOHMANN_JSON_VERSION_MAJOR) + "." +
                             std::to_string(NLOHMANN_JSON_VERSION_MINOR) + "." +
                             std::to_string(NLOHMANN_JSON_VERSION_PATCH);
        return {
            .name = "nlohmann",
            .version = version,
            .capabilities = {{"json", {"decode", "round-trip", "encode"}}},
            .cannot_represent = {"duplicates"},
            .modes = {{.name = "sorted", .cannot_represent = {"order"}},
                      {.name = "ordered",
                       .capabilities = {{"json", {"decode", "round-trip", "encode", "sequence", "open-stream"}}}},
                      {.name = "no-exceptions", .capabilities = {{"json", {"decode"}}}},
                      {.name = "accept", .capabilities = {{"json", {"decode"}}}},
                      {.name = "ascii-indented", .capabilities = {{"json", {"encode"}}}},
                      {.name = "records", .capabilities = {{"json", {"bind", "bind-round-trip", "bind-encode"}}}},
                      {.name = "records-reused", .capabilities = {{"json", {"bind"}}}}}};
    }
    Reply decode(std::string_view, std::string_view mode, std::string_view document, TraceOut& out) override {
        const auto show = [&]<class Json>(const Json& value) {
            if (out.wanted())
                nachklang::adapter::walk<const Json*>(&value, [&](const Json* v) { return visit(*v, out); });
            return Reply::accepted();
        };
        using Json = nlohmann::ordered_json;
        // Two other ways to tell a refusal; they must agree with the exceptions.
        if (mode == "no-exceptions") {
            const Json value = nachklang::adapter::library<nlohmann::json::out_of_range>(
                [&] { return Json::parse(document, nullptr, false); });
            return value.is_discarded() ? Reply::rejected("is_discarded()") : show(value);
        }
        if (mode == "accept" &&
            !nachklang::adapter::library<nlohmann::json::out_of_range>([&] { return Json::accept(document); }))
            return Reply::rejected("accept() returned false");
        return mode == "ordered" || mode == "accept" ? parse<Json>(document, show)
                                                     : parse<nlohmann::json>(document, show);
    }
    /// operator>> reads one document of a stream.
    Reply sequence(std::string_view, std::string_view, std::string_view text, TraceOut& out) override {
        std::istringstream in{std::string(text)};
        return each(
            in, [] { return false; }, out);
    }
    Reply open_stream(std::string_view, std::string_view, std::string_view text, TraceOut& out) override {
        nachklang::adapter::OpenStream stream(text);
        std::istream in(&stream);
        return each(
            in, [&] { return stream.asked_for_more(); }, out);
    }
    /// One document after another, until one is refused or comes late.
    template <class IsLate>
    static Reply each(std::istream& in, IsLate is_late, TraceOut& out) {
        using Json = nlohmann::ordered_json;
        while (!(in >> std::ws).eof()) {
            std::optional<std::string> refusal;
            const Json value = nachklang::adapter::library<nlohmann::json::out_of_range>([&]() -> Json {
                try {
                    Json read;
                    in >> read;
                    return read;
                } catch (const nlohmann::json::parse_error& error) {
                    refusal = error.what();
                    return nullptr;
                }
            });
            if (is_late()) return Reply::accepted();
            if (refusal) return Reply::rejected(*refusal);
            if (out.wanted())
                nachklang::adapter::walk<const Json*>(&value, [&](const Json* v) { return visit(*v, out); });
        }
        return Reply::accepted();
    }
    Reply round_trip(std::string_view, std::string_view mode, std::string_view document) override {
        const auto write = [&](const auto& value) { return Reply::accepted(written(value, mode)); };
        return mode == "ordered" ? parse<nlohmann::ordered_json>(document, write)
                                 : parse<nlohmann::json>(document, write);
    }
    Reply encode(std::string_view, std::string_view mode, std::string_view trace) override {
        using nachklang::adapter::build;
        return Reply::accepted(mode == "ordered" ? written(build(trace, Builder<nlohmann::ordered_json>{}), mode)
                                                 : written(build(trace, Builder<nlohmann::json>{}), mode));
    }

    Reply bind(std::string_view, std::string_view mode, std::string_view record, std::string_view document,
               TraceOut& out) override {
        return bound(mode, record, document, [&](const auto& held) {
            if (out.wanted()) records::print(held, out);
            return Reply::accepted();
        });
    }
    Reply bind_round_trip(std::string_view, std::string_view mode, std::string_view record,
                          std::string_view document) override {
        return bound(mode, record, document, [&](const auto& held) {
            return Reply::accepted(
                written(nachklang::adapter::library([&] { return nlohmann::json(held); }), mode));
        });
    }

    Reply bind_encode(std::string_view, std::string_view mode, std::string_view record,
                      std::string_view trace) override {
        Reply reply = Reply::unsupported("no such record type");
        records::with_filled(record, trace, [&](const auto& held) {
            reply =
                Reply::accepted(written(nachklang::adapter::library([&] { return nlohmann::json(held); }), mode));
        });
        return reply;
    }

  private:
    /// Hands the record that the document makes to `then`.
    template <class Then>
    static Reply bound(std::string_view mode, std::string_view record, std::string_view document, Then then) {
        return parse<nlohmann::json>(document, [&](const nlohmann::json& value) {
            Reply reply = Reply::unsupported("no such record type");
            records::with_type(record, [&]<class Record>(Record empty) {
                if (mode == "records-reused") records::fill_earlier(empty);
                // What a value of another kind throws is documented: type_error and out_of_range.
                reply = then(nachklang::adapter::library<nlohmann::json::type_error, nlohmann::json::out_of_range>(
                    [&] { return value.get_to(empty); }));
            });
            return reply;
        });
    }
    static std::string written(const auto& value, std::string_view mode) {
        // type_error is documented for text that is no UTF-8.
        return nachklang::adapter::library<nlohmann::json::type_error>(
            [&] { return mode == "ascii-indented" ? value.dump(2, ' ', true) : value.dump(); });
    }
};

}  // namespace

int main() {
    Nlohmann codec;
    return nachklang::adapter::serve(codec);
}

// Boost.JSON. Its nesting limit is a parse option, 32 by default.
#include <nachklang/adapter.hpp>

#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wconversion"
#include <boost/describe.hpp>
#include <boost/json/src.hpp>
#pragma GCC diagnostic pop
#include <boost/version.hpp>

#include "records.hpp"

namespace records {
BOOST_DESCRIBE_STRUCT(OneInt32, (), (value))
BOOST_DESCRIBE_STRUCT(OneInt64, (), (value))
BOOST_DESCRIBE_STRUCT(OneBinary64, (), (value))
BOOST_DESCRIBE_STRUCT(OneBoolean, (), (value))
BOOST_DESCRIBE_STRUCT(OneText, (), (value))
BOOST_DESCRIBE_STRUCT(OneList, (), (value))
BOOST_DESCRIBE_STRUCT(OneRecord, (), (value))
BOOST_DESCRIBE_STRUCT(Bell, (), (name, weight_kg, hum_hz, note))
}  // namespace records

namespace {

namespace json = boost::json;
using nachklang::adapter::Reply;
using nachklang::adapter::TraceOut;

void scalar(const json::value& value, TraceOut& out) {
    switch (value.kind()) {
        case json::kind::null:
            return out.null();
        case json::kind::bool_:
            return out.boolean(value.get_bool());
        case json::kind::int64:
            return out.integer(value.get_int64());
        case json::kind::uint64:
            return out.integer_unsigned(value.get_uint64());
        case json::kind::double_:
            return out.binary64(value.get_double());
        default:
            return out.string({value.get_string().data(), value.get_string().size()});
    }
}

struct Cursor {
    const json::value* container;
    std::size_t index;
    TraceOut* out;

    std::optional<const json::value*> next() {
        if (const json::object* object = container->if_object()) {
            if (index == object->size()) return out->close_object(), std::nullopt;
            const auto* const member = object->begin() + index++;
            out->key({member->key().data(), member->key().size()});
            return &member->value();
        }
        const json::array& array = container->get_array();
        if (index == array.size()) return out->close_array(), std::nullopt;
        return &array[index++];
    }
};

std::optional<Cursor> visit(const json::value& value, TraceOut& out) {
    if (!value.is_structured()) return scalar(value, out), std::nullopt;
    value.is_object() ? out.open_object() : out.open_array();
    return Cursor{&value, 0, &out};
}

struct Builder {
    using Value = json::value;
    static Value scalar(const nachklang::adapter::TraceLine& item) {
        if (item.kind == "null") return nullptr;
        if (item.kind == "true" || item.kind == "false") return item.kind == "true";
        if (item.kind == "str") return json::string(item.text);
        if (item.kind == "binary64") return item.binary64();
        if (const auto value = item.integer<std::int64_t>(); item.kind == "int" && value) return *value;
        if (const auto value = item.integer<std::uint64_t>(); item.kind == "int" && value) return *value;
        throw nachklang::adapter::CannotRepresentError("no value for " + item.kind + " " + item.text);
    }
    static Value array() { return json::array(); }
    static Value object() { return json::object(); }
    static void append(Value& to, Value value) { to.get_array().push_back(std::move(value)); }
    static void put(Value& to, const nachklang::adapter::TraceLine& name, Value value) {
        to.get_object()[name.name()] = std::move(value);
    }
};

class BoostJson final : public nachklang::adapter::Codec {
  public:
    [[nodiscard]] nachklang::adapter::Description describe() const override {
        const auto version =
            std::to_string(BOOST_VERSION / 100000) + "." + std::to_string(BOOST_VERSION / 100 % 1000);
        return {.name = "boost-json",
                .version = version,
                .capabilities = {{"json",
                                  {"decode", "round-trip", "encode", "bind", "bind-round-trip", "bind-encode",
                                   "pieces", "sequence", "open-stream"}}},
                .cannot_represent = {"duplicates"}};
    }
    Reply decode(std::string_view, std::string_view, std::string_view document, TraceOut& out) override {
        return parse(document, [&](const json::value& value) {
            if (out.wanted())
                nachklang::adapter::walk<const json::value*>(&value,
                                                             [&](const json::value* v) { return visit(*v, out); });
            return Reply::accepted();
        });
    }
    Reply pieces(std::string_view, std::string_view, const std::vector<std::string_view>& pieces,
                 TraceOut& out) override {
        json::stream_parser parser;
        json::error_code error;
        std::size_t consumed = 0;
        for (std::size_t i = 0; i < pieces.size() && !error; ++i)
            consumed += nachklang::adapter::library(
                [&] { return parser.write(pieces[i].data(), pieces[i].size(), error); });
        if (error) return Reply::rejected(error.message()).at_offset(consumed);
        nachklang::adapter::library([&] { parser.finish(error); });
        if (error) return Reply::rejected(error.message()).at_offset(consumed);
        const json::value value = parser.release();
        if (out.wanted())
            nachklang::adapter::walk<const json::value*>(&value,
                                                         [&](const json::value* v) { return visit(*v, out); });
        return Reply::accepted();
    }
    /// write_some() ends behind a document. White space behind the last one is no document that is cut.
    Reply open_stream(std::string_view, std::string_view, std::string_view text, TraceOut& out) override {
        json::stream_parser parser;
        json::error_code error;
        for (std::size_t at = 0; at < text.size();) {
            at += nachklang::adapter::library([&] { return parser.write_some(text.data() + at, 1, error); });
            if (error) return Reply::rejected(error.message());
            if (!parser.done()) continue;
            print(parser.release(), out);
            parser.reset();
        }
        return Reply::accepted();
    }
    Reply sequence(std::string_view, std::string_view, std::string_view text, TraceOut& out) override {
        json::stream_parser parser;
        json::error_code error;
        for (std::size_t at = 0; (at = text.find_first_not_of(" \t\r\n", at)) != std::string_view::npos;) {
            at += nachklang::adapter::library(
                [&] { return parser.write_some(text.data() + at, text.size() - at, error); });
            if (!error && !parser.done()) nachklang::adapter::library([&] { parser.finish(error); });
            if (error) return Reply::rejected(error.message());
            print(parser.release(), out);
            parser.reset();
        }
        return Reply::accepted();
    }
    static void print(const json::value& value, TraceOut& out) {
        if (out.wanted())
            nachklang::adapter::walk<const json::value*>(&value,
                                                         [&](const json::value* v) { return visit(*v, out); });
    }
    Reply round_trip(std::string_view, std::string_view, std::string_view document) override {
        return parse(document, [](const json::value& value) { return Reply::accepted(written(value)); });
    }
    Reply encode(std::string_view, std::string_view, std::string_view trace) override {
        return Reply::accepted(written(nachklang::adapter::build(trace, Builder{})));
    }

    Reply bind(std::string_view, std::string_view, std::string_view record, std::string_view document,
               TraceOut& out) override {
        return bound(record, document, [&](const auto& held) {
            if (out.wanted()) records::print(held, out);
            return Reply::accepted();
        });
    }
    Reply bind_round_trip(std::string_view, std::string_view, std::string_view record,
                          std::string_view document) override {
        return bound(record, document, [&](const auto& held) {
            return Reply::accepted(written(nachklang::adapter::library([&] { return json::value_from(held); })));
        });
    }

    Reply bind_encode(std::string_view, std::string_view, std::string_view record,
                      std::string_view trace) override {
        Reply reply = Reply::unsupported("no such record type");
        records::with_filled(record, trace, [&](const auto& held) {
            reply = Reply::accepted(written(nachklang::adapter::library([&] { return json::value_from(held); })));
        });
        return reply;
    }

  private:
    /// Hands the record that the document makes to `then`.
    template <class Then>
    static Reply bound(std::string_view record, std::string_view document, Then then) {
        return parse(document, [&](const json::value& value) {
            Reply reply = Reply::unsupported("no such record type");
            records::with_type(record, [&]<class Record>(Record) {
                const auto held = nachklang::adapter::library([&] { return json::try_value_to<Record>(value); });
                reply = held.has_error() ? Reply::rejected(held.error().message()) : then(*held);
            });
            return reply;
        });
    }
    static std::string written(const json::value& value) {
        return nachklang::adapter::library([&] { return json::serialize(value); });
    }
    template <class Then>
    static Reply parse(std::string_view document, Then then) {
        json::parser parser;
        json::error_code error;
        const std::size_t consumed =
            nachklang::adapter::library([&] { return parser.write_some(document.data(), document.size(), error); });
        if (!error && consumed < document.size()) error = json::error::extra_data;
        if (error) return Reply::rejected(error.message()).at_offset(consumed);
        return then(parser.release());
    }
};

}  // namespace

int main() {
    BoostJson codec;
    return nachklang::adapter::serve(codec);
}

// POCO's JSON.
#include <nachklang/adapter.hpp>

#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wconversion"
#include <Poco/Foundation.h>
#include <Poco/JSON/Parser.h>
#include <Poco/JSON/Stringifier.h>
#include <Poco/Version.h>
#pragma GCC diagnostic pop

#include <sstream>

namespace {

using namespace nachklang::adapter;
using Poco::Dynamic::Var;

/// A Var converts to anything, an std::optional of one included: it is handed on in a box.
struct Boxed {
    Var value;
};

struct Cursor {
    Poco::JSON::Object::Ptr object;
    Poco::JSON::Array::Ptr array;
    std::vector<std::string> names;
    unsigned index = 0;
    TraceOut* out;

    std::optional<Boxed> next() {
        if (!object.isNull()) {
            if (index == names.size()) return out->close_object(), std::nullopt;
            out->key(names[index]);
            return Boxed{object->get(names[index++])};
        }
        if (index == array->size()) return out->close_array(), std::nullopt;
        return Boxed{array->get(index++)};
    }
};

std::optional<Cursor> visit(const Var& value, TraceOut& out) {
    if (value.isEmpty()) {
        out.null();
    } else if (value.type() == typeid(Poco::JSON::Object::Ptr)) {
        out.open_object();
        auto object = value.extract<Poco::JSON::Object::Ptr>();
        auto names = object->getNames();
        return Cursor{object, {}, std::move(names), 0, &out};
    } else if (value.type() == typeid(Poco::JSON::Array::Ptr)) {
        out.open_array();
        return Cursor{{}, value.extract<Poco::JSON::Array::Ptr>(), {}, 0, &out};
    } else if (value.isBoolean()) {
        out.boolean(value.extract<bool>());
    } else if (value.isString()) {
        out.string(value.extract<std::string>());
    } else if (value.isInteger() && value.isSigned()) {
        out.integer(value.convert<Poco::Int64>());
    } else if (value.isInteger()) {
        out.integer_unsigned(value.convert<Poco::UInt64>());
    } else {
        out.binary64(value.convert<double>());
    }
    return std::nullopt;
}

class PocoJson final : public Codec {
  public:
    [[nodiscard]] Description describe() const override {
        const auto part = [](int shift) { return std::to_string(POCO_VERSION >> shift & 0xFF); };
        return {.name = "poco",
                .version = part(24) + "." + part(16) + "." + part(8),
                .capabilities = {{"json", {"decode", "round-trip"}}},
                .cannot_represent = {"order", "duplicates"}};
    }
    Reply decode(std::string_view, std::string_view, std::string_view document, TraceOut& out) override {
        return parse(document, [&](const Var& root) {
            if (out.wanted()) walk<Boxed>(Boxed{root}, [&](const Boxed& boxed) { return visit(boxed.value, out); });
            return Reply::accepted();
        });
    }
    Reply round_trip(std::string_view, std::string_view, std::string_view document) override {
        return parse(document, [](const Var& root) {
            std::ostringstream text;
            library([&] { Poco::JSON::Stringifier::stringify(root, text); });
            return Reply::accepted(text.str());
        });
    }

  private:
    template <class Then>
    static Reply parse(std::string_view document, Then then) {
        std::optional<std::string> refused;
        const Boxed root{library([&]() -> Var {
            try {
                Poco::JSON::Parser parser;
                return parser.parse(std::string(document));
            } catch (const Poco::Exception& error) {
                refused = error.displayText();
                return {};
            }
        })};
        return refused ? Reply::rejected(*refused) : then(root.value);
    }
};

}  // namespace

int main() {
    PocoJson codec;
    return serve(codec);
}

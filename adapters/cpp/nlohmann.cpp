// nlohmann/json. Members are kept in the order of their names (std::map); `ordered` keeps the document's.
#include <nachklang/adapter.hpp>

#include <nlohmann/json.hpp>

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
void walk(const Json& root, TraceOut& out) {
    struct Level {
        typename Json::const_iterator next, end;
        bool object;
    };
    std::vector<Level> levels;
    const auto visit = [&](const Json& value) {
        if (!value.is_structured()) return scalar(value, out);
        value.is_object() ? out.open_object() : out.open_array();
        levels.push_back({value.cbegin(), value.cend(), value.is_object()});
    };
    visit(root);
    while (!levels.empty()) {
        Level& level = levels.back();
        if (level.next == level.end) {
            level.object ? out.close_object() : out.close_array();
            levels.pop_back();
            continue;
        }
        const auto at = level.next++;
        if (level.object) out.key(at.key());
        visit(*at);
    }
}

template <class Json, class Then>
Reply parse(std::string_view document, Then then) {
    try {
        return then(Json::parse(document));
    } catch (const nlohmann::json::parse_error& error) {
        return Reply::rejected(error.what()).at_offset(error.byte == 0 ? 0 : error.byte - 1);
    } catch (const nlohmann::json::exception& error) {
        return Reply::rejected(error.what());  // out_of_range: documented for numbers beyond a double
    }
}

class Nlohmann final : public nachklang::adapter::Codec {
  public:
    [[nodiscard]] nachklang::adapter::Description describe() const override {
        const auto version = std::to_string(NLOHMANN_JSON_VERSION_MAJOR) + "." +
                             std::to_string(NLOHMANN_JSON_VERSION_MINOR) + "." +
                             std::to_string(NLOHMANN_JSON_VERSION_PATCH);
        return {"nlohmann",
                version,
                "",
                "",
                {{"json", {"decode", "lap"}}},
                {"duplicates"},
                {},
                {{"sorted", {"order"}}, {"ordered"}}};
    }
    Reply decode(std::string_view, std::string_view mode, std::string_view document, TraceOut& out) override {
        const auto show = [&](const auto& value) {
            if (out.wanted()) walk(value, out);
            return Reply::accepted();
        };
        return mode == "ordered" ? parse<nlohmann::ordered_json>(document, show)
                                 : parse<nlohmann::json>(document, show);
    }
    Reply lap(std::string_view, std::string_view mode, std::string_view document) override {
        const auto write = [](const auto& value) { return Reply::accepted(value.dump()); };
        return mode == "ordered" ? parse<nlohmann::ordered_json>(document, write)
                                 : parse<nlohmann::json>(document, write);
    }
};

}  // namespace

int main() {
    Nlohmann codec;
    return nachklang::adapter::serve(codec);
}

// simdjson's DOM parser.
#include <nachklang/adapter.hpp>

#include <simdjson.h>

namespace {

namespace dom = simdjson::dom;
using nachklang::adapter::Reply;
using nachklang::adapter::TraceOut;

void scalar(const dom::element& value, TraceOut& out) {
    switch (value.type()) {
        case dom::element_type::NULL_VALUE:
            return out.null();
        case dom::element_type::BOOL:
            return out.boolean(bool(value));
        case dom::element_type::INT64:
            return out.integer(std::int64_t(value));
        case dom::element_type::UINT64:
            return out.integer_unsigned(std::uint64_t(value));
        case dom::element_type::DOUBLE:
            return out.binary64(double(value));
        default:
            return out.string(std::string_view(value));
    }
}

void walk(const dom::element& root, TraceOut& out) {
    struct Level {
        bool is_object;
        dom::object::iterator member, member_end;
        dom::array::iterator element, element_end;
    };
    std::vector<Level> levels;
    const auto visit = [&](const dom::element& value) {
        Level level{};
        if (value.is_object()) {
            const dom::object object = dom::object(value);
            level = {true, object.begin(), object.end(), {}, {}};
            out.open_object();
        } else if (value.is_array()) {
            const dom::array array = dom::array(value);
            level = {false, {}, {}, array.begin(), array.end()};
            out.open_array();
        } else {
            return scalar(value, out);
        }
        levels.push_back(level);
    };
    visit(root);
    while (!levels.empty()) {
        Level& level = levels.back();
        if (level.is_object ? !(level.member != level.member_end) : !(level.element != level.element_end)) {
            level.is_object ? out.close_object() : out.close_array();
            levels.pop_back();
        } else if (level.is_object) {
            out.key(level.member.key());
            const dom::element value = level.member.value();
            ++level.member;
            visit(value);
        } else {
            const dom::element value = *level.element;
            ++level.element;
            visit(value);
        }
    }
}

class SimdJson final : public nachklang::adapter::Codec {
  public:
    [[nodiscard]] nachklang::adapter::Description describe() const override {
        return {"simdjson", SIMDJSON_STRINGIFY(SIMDJSON_VERSION), "", "", {{"json", {"decode", "lap"}}}, {}, {},
                {}};
    }
    Reply decode(std::string_view, std::string_view, std::string_view document, TraceOut& out) override {
        dom::element value;
        if (const auto error = parser_.parse(document.data(), document.size()).get(value)) return failed(error);
        if (out.wanted()) walk(value, out);
        return Reply::accepted();
    }
    Reply lap(std::string_view, std::string_view, std::string_view document) override {
        dom::element value;
        if (const auto error = parser_.parse(document.data(), document.size()).get(value)) return failed(error);
        return Reply::accepted(simdjson::minify(value));
    }

  private:
    static Reply failed(simdjson::error_code error) {
        if (error == simdjson::MEMALLOC) return Reply::exhausted(simdjson::error_message(error));
        return Reply::rejected(simdjson::error_message(error));
    }
    dom::parser parser_;
};

}  // namespace

int main() {
    SimdJson codec;
    return nachklang::adapter::serve(codec);
}

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

struct Cursor {
    bool is_object;
    dom::object::iterator member, member_end;
    dom::array::iterator element, element_end;
    TraceOut* out;

    std::optional<dom::element> next() {
        if (is_object ? !(member != member_end) : !(element != element_end)) {
            is_object ? out->close_object() : out->close_array();
            return std::nullopt;
        }
        if (!is_object) {
            const dom::element value = *element;
            ++element;
            return value;
        }
        out->key(member.key());
        const dom::element value = member.value();
        ++member;
        return value;
    }
};

std::optional<Cursor> visit(const dom::element& value, TraceOut& out) {
    if (value.is_object()) {
        const dom::object object = dom::object(value);
        out.open_object();
        return Cursor{true, object.begin(), object.end(), {}, {}, &out};
    }
    if (value.is_array()) {
        const dom::array array = dom::array(value);
        out.open_array();
        return Cursor{false, {}, {}, array.begin(), array.end(), &out};
    }
    return scalar(value, out), std::nullopt;
}

class SimdJson final : public nachklang::adapter::Codec {
  public:
    [[nodiscard]] nachklang::adapter::Description describe() const override {
        return {.name = "simdjson",
                .version = SIMDJSON_STRINGIFY(SIMDJSON_VERSION),
                .capabilities = {{"json", {"decode", "round-trip", "sequence"}}}};
    }
    Reply decode(std::string_view, std::string_view, std::string_view document, TraceOut& out) override {
        dom::element value;
        if (const auto error = parser_.parse(document.data(), document.size()).get(value)) return failed(error);
        if (out.wanted())
            nachklang::adapter::walk<dom::element>(value, [&](const dom::element& v) { return visit(v, out); });
        return Reply::accepted();
    }
    /// parse_many() of the whole text as one batch; what it leaves at the end it counts in truncated_bytes().
    Reply sequence(std::string_view, std::string_view, std::string_view text, TraceOut& out) override {
        const simdjson::padded_string padded(text);
        dom::document_stream documents;
        if (const auto error = parser_.parse_many(padded, std::max<std::size_t>(padded.size(), 32)).get(documents))
            return failed(error);
        for (auto document : documents) {
            dom::element value;
            if (const auto error = document.get(value)) return failed(error);
            if (out.wanted())
                nachklang::adapter::walk<dom::element>(value, [&](const dom::element& v) { return visit(v, out); });
        }
        if (documents.truncated_bytes() > 0) return Reply::rejected("truncated_bytes() is not 0");
        return Reply::accepted();
    }
    Reply round_trip(std::string_view, std::string_view, std::string_view document) override {
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

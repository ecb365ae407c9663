// YAJL's callbacks: numbers as integers and doubles, which is what most callers take, or as their source text.
#include <nachklang/adapter.hpp>

#include <yajl/yajl_gen.h>
#include <yajl/yajl_parse.h>
#include <yajl/yajl_version.h>

#include <memory>

namespace {

using namespace nachklang::adapter;

std::string_view view(const unsigned char* text, std::size_t length) {
    return {reinterpret_cast<const char*>(text), length};
}

TraceOut& out_of(void* context) {
    return *static_cast<TraceOut*>(context);
}

const yajl_callbacks to_trace{
    [](void* c) { return out_of(c).null(), 1; },
    [](void* c, int value) { return out_of(c).boolean(value != 0), 1; },
    [](void* c, long long value) { return out_of(c).integer(value), 1; },
    [](void* c, double value) { return out_of(c).binary64(value), 1; },
    nullptr,
    [](void* c, const unsigned char* text, std::size_t length) { return out_of(c).string(view(text, length)), 1; },
    [](void* c) { return out_of(c).open_object(), 1; },
    [](void* c, const unsigned char* text, std::size_t length) { return out_of(c).key(view(text, length)), 1; },
    [](void* c) { return out_of(c).close_object(), 1; },
    [](void* c) { return out_of(c).open_array(), 1; },
    [](void* c) { return out_of(c).close_array(), 1; },
};

int number_text(void* context, const char* text, std::size_t length) {
    out_of(context).spelled({text, length});
    return 1;
}

int went_well(yajl_gen_status status) {
    return status == yajl_gen_status_ok ? 1 : 0;
}
yajl_gen generator_of(void* context) {
    return static_cast<yajl_gen>(context);
}

const yajl_callbacks to_text{
    [](void* c) { return went_well(yajl_gen_null(generator_of(c))); },
    [](void* c, int value) { return went_well(yajl_gen_bool(generator_of(c), value)); },
    [](void* c, long long value) { return went_well(yajl_gen_integer(generator_of(c), value)); },
    [](void* c, double value) { return went_well(yajl_gen_double(generator_of(c), value)); },
    nullptr,
    [](void* c, const unsigned char* text, std::size_t length) {
        return went_well(yajl_gen_string(generator_of(c), text, length));
    },
    [](void* c) { return went_well(yajl_gen_map_open(generator_of(c))); },
    [](void* c, const unsigned char* text, std::size_t length) {
        return went_well(yajl_gen_string(generator_of(c), text, length));
    },
    [](void* c) { return went_well(yajl_gen_map_close(generator_of(c))); },
    [](void* c) { return went_well(yajl_gen_array_open(generator_of(c))); },
    [](void* c) { return went_well(yajl_gen_array_close(generator_of(c))); },
};

int written_number_text(void* context, const char* text, std::size_t length) {
    return went_well(yajl_gen_number(generator_of(context), text, length));
}

/// YAJL calls yajl_number in place of the other two if it is set.
yajl_callbacks with_number_text(yajl_callbacks callbacks, int (*number)(void*, const char*, std::size_t)) {
    callbacks.yajl_number = number;
    return callbacks;
}

class Yajl final : public Codec {
  public:
    [[nodiscard]] Description describe() const override {
        const auto version =
            std::to_string(YAJL_MAJOR) + "." + std::to_string(YAJL_MINOR) + "." + std::to_string(YAJL_MICRO);
        return {.name = "yajl",
                .version = version,
                .capabilities = {{"json", {"decode", "round-trip", "pieces", "sequence", "open-stream"}}},
                .modes = {{.name = "default"},
                          {.name = "number-text"},
                          {.name = "lenient", .settings = {{"purpose", "lax"}}}}};
    }
    Reply decode(std::string_view, std::string_view mode, std::string_view document, TraceOut& out) override {
        const yajl_callbacks callbacks = mode == "number-text" ? with_number_text(to_trace, number_text) : to_trace;
        return parse(callbacks, &out, mode, {document}).value_or(Reply::accepted());
    }
    Reply pieces(std::string_view, std::string_view mode, const std::vector<std::string_view>& pieces,
                 TraceOut& out) override {
        const yajl_callbacks callbacks = mode == "number-text" ? with_number_text(to_trace, number_text) : to_trace;
        return parse(callbacks, &out, mode, pieces).value_or(Reply::accepted());
    }
    Reply sequence(std::string_view, std::string_view mode, std::string_view text, TraceOut& out) override {
        const yajl_callbacks callbacks = mode == "number-text" ? with_number_text(to_trace, number_text) : to_trace;
        return parse(callbacks, &out, mode, {text}, true).value_or(Reply::accepted());
    }
    Reply open_stream(std::string_view, std::string_view mode, std::string_view text, TraceOut& out) override {
        const yajl_callbacks callbacks = mode == "number-text" ? with_number_text(to_trace, number_text) : to_trace;
        std::vector<std::string_view> bytes;
        for (std::size_t i = 0; i < text.size(); ++i) bytes.push_back(text.substr(i, 1));
        return parse(callbacks, &out, mode, bytes, true, false).value_or(Reply::accepted());
    }
    Reply round_trip(std::string_view, std::string_view mode, std::string_view document) override {
        const std::unique_ptr<yajl_gen_t, decltype(&yajl_gen_free)> generator(yajl_gen_alloc(nullptr),
                                                                              &yajl_gen_free);
        const yajl_callbacks callbacks =
            mode == "number-text" ? with_number_text(to_text, written_number_text) : to_text;
        if (auto refused = parse(callbacks, generator.get(), mode, {document})) return *refused;
        const unsigned char* text = nullptr;
        std::size_t length = 0;
        yajl_gen_get_buf(generator.get(), &text, &length);
        return Reply::accepted(std::string(view(text, length)));
    }

  private:
    static std::optional<Reply> parse(const yajl_callbacks& callbacks, void* context, std::string_view mode,
                                      const std::vector<std::string_view>& pieces, bool several = false,
                                      bool ends = true) {
        const std::unique_ptr<yajl_handle_t, decltype(&yajl_free)> parser(yajl_alloc(&callbacks, nullptr, context),
                                                                          &yajl_free);
        if (mode == "lenient")
            for (const yajl_option option :
                 {yajl_allow_comments, yajl_dont_validate_strings, yajl_allow_trailing_garbage})
                yajl_config(parser.get(), option, 1);
        if (several) yajl_config(parser.get(), yajl_allow_multiple_values, 1);
        yajl_status status = yajl_status_ok;
        std::size_t before = 0;  // bytes of earlier pieces: the library counts from the last one's beginning
        const unsigned char* text = nullptr;
        std::size_t length = 0;
        for (const std::string_view piece : pieces) {
            before += length;
            text = reinterpret_cast<const unsigned char*>(piece.data());
            length = piece.size();
            status = yajl_parse(parser.get(), text, length);
            if (status != yajl_status_ok) break;
        }
        const std::size_t consumed = before + yajl_get_bytes_consumed(parser.get());
        const bool at_end = status == yajl_status_ok;
        if (at_end && ends) status = yajl_complete_parse(parser.get());
        if (status == yajl_status_ok) return std::nullopt;
        unsigned char* message = yajl_get_error(parser.get(), 0, text, length);
        Reply reply = status == yajl_status_client_canceled ? Reply::rejected("the generator refused")
                                                            : Reply::rejected(reinterpret_cast<char*>(message));
        yajl_free_error(parser.get(), message);
        if (!at_end) reply.at_offset(consumed);
        return reply;
    }
};

}  // namespace

int main() {
    Yajl codec;
    return serve(codec);
}

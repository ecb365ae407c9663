// JSON.parse and JSON.stringify of Duktape, through its C interface.
#include <nachklang/adapter.hpp>

#include <duktape.h>

namespace {

using namespace nachklang::adapter;

/// Strings and names are CESU-8 here: their UTF-16 units are what the library holds. Bytes that are not CESU-8 are
/// printed as they are.
template <class PutUnits, class PutBytes>
void put_text(std::string_view text, PutUnits put_units, PutBytes put_bytes) {
    std::u16string units;
    for (std::size_t at = 0; at < text.size();) {
        const auto byte = [&](std::size_t i) { return static_cast<unsigned char>(text[at + i]); };
        const bool two = (byte(0) & 0xE0) == 0xC0 && at + 1 < text.size(),
                   three = (byte(0) & 0xF0) == 0xE0 && at + 2 < text.size();
        if (byte(0) >= 0x80 && !two && !three) return put_bytes(text);
        const int unit = three ? (byte(0) & 0xF) << 12 | (byte(1) & 0x3F) << 6 | (byte(2) & 0x3F)
                               : (two ? (byte(0) & 0x1F) << 6 | (byte(1) & 0x3F) : byte(0));
        units += static_cast<char16_t>(unit);
        at += three ? 3 : (two ? 2 : 1);
    }
    put_units(std::u16string_view(units));
}

struct Cursor {
    duk_context* context;
    bool is_object;
    duk_uarridx_t index;
    TraceOut* out;

    /// Leaves the next child on Duktape's stack, above its container and, for an object, its enumerator.
    std::optional<int> next() {
        if (is_object) {
            if (duk_next(context, -1, 1) == 0) {
                out->close_object();
                duk_pop_2(context);
                return std::nullopt;
            }
            duk_size_t length = 0;
            const char* name = duk_get_lstring(context, -2, &length);
            put_text(
                {name, length}, [&](auto units) { out->key_utf16(units); }, [&](auto bytes) { out->key(bytes); });
            duk_remove(context, -2);
            return 0;
        }
        if (index == duk_get_length(context, -1)) {
            out->close_array();
            duk_pop(context);
            return std::nullopt;
        }
        duk_require_stack(context, 3);
        duk_get_prop_index(context, -1, index++);
        return 0;
    }
};

/// Prints the value on top of the stack, and pops it unless it is a container.
std::optional<Cursor> visit(duk_context* context, TraceOut& out) {
    duk_require_stack(context, 4);
    if (duk_is_array(context, -1) != 0) {
        out.open_array();
        return Cursor{context, false, 0, &out};
    }
    if (duk_is_object(context, -1) != 0) {
        out.open_object();
        duk_enum(context, -1, DUK_ENUM_OWN_PROPERTIES_ONLY);
        return Cursor{context, true, 0, &out};
    }
    if (duk_is_null(context, -1) != 0) {
        out.null();
    } else if (duk_is_boolean(context, -1) != 0) {
        out.boolean(duk_get_boolean(context, -1) != 0);
    } else if (duk_is_number(context, -1) != 0) {
        out.binary64(duk_get_number(context, -1));
    } else {
        duk_size_t length = 0;
        const char* text = duk_get_lstring(context, -1, &length);
        put_text(
            {text, length}, [&](auto units) { out.string_utf16(units); }, [&](auto bytes) { out.string(bytes); });
    }
    duk_pop(context);
    return std::nullopt;
}

/// UTF-8 as the library wants its strings: characters past U+FFFF as two surrogates of three bytes each.
std::string to_cesu8(std::string_view text) {
    std::string out;
    for (std::size_t at = 0; at < text.size(); ++at) {
        const auto byte = [&](std::size_t i) { return static_cast<unsigned char>(text[at + i]); };
        if ((byte(0) & 0xF8) != 0xF0 || at + 3 >= text.size()) {
            out += text[at];
            continue;
        }
        const unsigned scalar =
            (byte(0) & 7U) << 18 | (byte(1) & 0x3FU) << 12 | (byte(2) & 0x3FU) << 6 | (byte(3) & 0x3FU);
        for (const unsigned unit : {0xD7C0 + (scalar >> 10), 0xDC00 + (scalar & 0x3FF)})
            for (const unsigned b : {0xE0 | unit >> 12, 0x80 | (unit >> 6 & 0x3F), 0x80 | (unit & 0x3F)})
                out += static_cast<char>(b);
        at += 3;
    }
    return out;
}

/// And back: pairs of surrogates become one character of four bytes.
std::string from_cesu8(std::string_view text) {
    std::string out;
    for (std::size_t at = 0; at < text.size(); ++at) {
        const auto byte = [&](std::size_t i) { return static_cast<unsigned char>(text[at + i]); };
        const bool pair = at + 5 < text.size() && byte(0) == 0xED && (byte(1) & 0xF0) == 0xA0 && byte(3) == 0xED &&
                          (byte(4) & 0xF0) == 0xB0;
        if (!pair) {
            out += text[at];
            continue;
        }
        const unsigned high = (byte(1) & 0x0FU) << 6 | (byte(2) & 0x3FU),
                       low = (byte(4) & 0x0FU) << 6 | (byte(5) & 0x3FU);
        const unsigned scalar = 0x10000 + (high << 10) + low;
        for (const unsigned b : {0xF0 | scalar >> 18, 0x80 | (scalar >> 12 & 0x3F), 0x80 | (scalar >> 6 & 0x3F),
                                 0x80 | (scalar & 0x3F)})
            out += static_cast<char>(b);
        at += 5;
    }
    return out;
}

class Duktape final : public Codec {
  public:
    Duktape() : context_(duk_create_heap_default()) {}
    ~Duktape() override { duk_destroy_heap(context_); }
    [[nodiscard]] Description describe() const override {
        const auto version = std::to_string(DUK_VERSION / 10000) + "." + std::to_string(DUK_VERSION / 100 % 100) +
                             "." + std::to_string(DUK_VERSION % 100);
        return {.name = "duktape",
                .version = version,
                .capabilities = {{"json", {"decode", "round-trip"}}},
                .cannot_represent = {"duplicates"},
                // JSON.stringify returns a string of ECMAScript, in units of UTF-16.
                .settings = {{"output", "text"}}};
    }
    Reply decode(std::string_view, std::string_view, std::string_view document, TraceOut& out) override {
        if (auto refused =
                run(document, [](duk_context* c, void*) -> duk_ret_t { return duk_json_decode(c, -1), 1; }))
            return *refused;
        if (out.wanted()) {
            walk<int>(0, [&](int) { return visit(context_, out); });
        } else {
            duk_pop(context_);
        }
        return Reply::accepted();
    }
    Reply round_trip(std::string_view, std::string_view, std::string_view document) override {
        const auto both = [](duk_context* c, void*) -> duk_ret_t {
            duk_json_decode(c, -1);
            duk_json_encode(c, -1);
            return 1;
        };
        if (auto refused = run(document, both)) return *refused;
        duk_size_t length = 0;
        const char* text = duk_get_lstring(context_, -1, &length);
        Reply reply = Reply::accepted(from_cesu8({text, length}));
        duk_pop(context_);
        return reply;
    }

  private:
    std::optional<Reply> run(std::string_view document, duk_safe_call_function function) {
        const std::string text = to_cesu8(document);
        duk_push_lstring(context_, text.data(), text.size());
        if (duk_safe_call(context_, function, nullptr, 1, 1) == DUK_EXEC_SUCCESS) return std::nullopt;
        const std::string message = duk_safe_to_string(context_, -1);
        duk_pop(context_);
        // It has the same name for a number that it cannot hold.
        const bool limit = message.find("recursion") != std::string::npos ||
                           message.find("alloc") != std::string::npos || message.find("stack") != std::string::npos;
        if (message.starts_with("RangeError") && limit) return Reply::exhausted(message);
        return Reply::rejected(message);
    }
    duk_context* context_;
};

}  // namespace

int main() {
    Duktape codec;
    return serve(codec);
}

// JSON.parse and JSON.stringify of MuJS.
#include <nachklang/adapter.hpp>

extern "C" {
#include <mujs.h>
}

namespace {

using namespace nachklang::adapter;

#define NACHKLANG_TEXT_OF(number) #number
#define NACHKLANG_TEXT(number) NACHKLANG_TEXT_OF(number)

// Walked in the interpreter with a stack of its own, a line a call of line(); numbers are printed here, by their
// bits.
constexpr const char* walk_script = R"(
(function (root) {
    var stack = [{ closer: "", names: null, values: [root], next: 0 }];
    while (stack.length) {
        var level = stack[stack.length - 1];
        if (level.next == level.values.length) {
            stack.pop();
            if (level.closer) line(level.closer);
            continue;
        }
        var at = level.next++;
        if (level.names) key(level.names[at]);
        var value = level.values[at];
        if (Array.isArray(value)) {
            line("[");
            stack.push({ closer: "]", names: null, values: value, next: 0 });
        } else if (value !== null && typeof value == "object") {
            line("{");
            var names = Object.keys(value), values = [];
            for (var i = 0; i < names.length; ++i) values[i] = value[names[i]];
            stack.push({ closer: "}", names: names, values: values, next: 0 });
        } else if (typeof value == "number") {
            number(value);
        } else if (typeof value == "string") {
            string(value);
        } else {
            line(String(value));
        }
    }
})
)";

/// MuJS keeps strings as UTF-8 in which U+0000 is C0 80 and every surrogate has three bytes. Its scripts see
/// characters: they are printed as UTF-16 units, so that a pair of surrogates is one character.
std::u16string units_of(std::string_view text) {
    std::u16string out;
    for (std::size_t at = 0; at < text.size();) {
        const auto byte = [&](std::size_t i) {
            return at + i < text.size() ? static_cast<unsigned char>(text[at + i]) : 0U;
        };
        const unsigned first = byte(0);
        const std::size_t length = first < 0xC0 ? 1 : first < 0xE0 ? 2 : first < 0xF0 ? 3 : 4;
        unsigned c = length == 1 ? first : first & (0x7FU >> length);
        for (std::size_t i = 1; i < length; ++i) c = c << 6 | (byte(i) & 0x3F);
        if (c >= 0x10000) {
            out += static_cast<char16_t>(0xD7C0 + (c >> 10));
            out += static_cast<char16_t>(0xDC00 + (c & 0x3FF));
        } else {
            out += static_cast<char16_t>(c);
        }
        at += length;
    }
    return out;
}

TraceOut& out_of(js_State* state) {
    return *static_cast<TraceOut*>(js_getcontext(state));
}

class MuJs final : public Codec {
  public:
    MuJs() : state_(js_newstate(nullptr, nullptr, JS_STRICT)) {
        const auto function = [&](const char* name, js_CFunction body) {
            js_newcfunction(state_, body, name, 1);
            js_setglobal(state_, name);
        };
        function("line", [](js_State* s) { out_of(s).line(js_tostring(s, 1)), js_pushundefined(s); });
        function("key", [](js_State* s) { out_of(s).key_utf16(units_of(js_tostring(s, 1))), js_pushundefined(s); });
        function("string",
                 [](js_State* s) { out_of(s).string_utf16(units_of(js_tostring(s, 1))), js_pushundefined(s); });
        function("number", [](js_State* s) { out_of(s).binary64(js_tonumber(s, 1)), js_pushundefined(s); });
        js_ploadstring(state_, "walk", walk_script);
        js_pushundefined(state_);
        js_pcall(state_, 0);
        js_setglobal(state_, "walk");
    }
    ~MuJs() override { js_freestate(state_); }
    [[nodiscard]] Description describe() const override {
        const std::string version = NACHKLANG_TEXT(JS_VERSION_MAJOR) "." NACHKLANG_TEXT(
            JS_VERSION_MINOR) "." NACHKLANG_TEXT(JS_VERSION_PATCH);
        return {.name = "mujs",
                .version = version,
                .capabilities = {{"json", {"decode", "round-trip"}}},
                .cannot_represent = {"duplicates"},
                // JSON.stringify returns a string of ECMAScript, in units of UTF-16.
                .settings = {{"output", "text"}}};
    }
    Reply decode(std::string_view, std::string_view, std::string_view document, TraceOut& out) override {
        if (auto refused = parse(document)) return *refused;
        js_setglobal(state_, "held");
        if (!out.wanted()) return Reply::accepted();
        js_setcontext(state_, &out);
        js_getglobal(state_, "walk");
        js_pushundefined(state_);
        js_getglobal(state_, "held");
        return js_pcall(state_, 1) == 0 ? popped(Reply::accepted()) : Reply::adapter_fault(message());
    }
    Reply round_trip(std::string_view, std::string_view, std::string_view document) override {
        if (auto refused = parse(document)) return *refused;
        js_setglobal(state_, "held");
        function_of_json("stringify");
        js_getglobal(state_, "held");
        if (js_pcall(state_, 1) != 0) return Reply::rejected(message());
        return popped(Reply::accepted(js_trystring(state_, -1, "")));
    }

  private:
    Reply popped(Reply reply) {
        js_pop(state_, 1);
        return reply;
    }
    std::string message() {
        std::string out = js_trystring(state_, -1, "an error without text");
        js_pop(state_, 1);
        return out;
    }
    void function_of_json(const char* name) {
        js_getglobal(state_, "JSON");
        js_getproperty(state_, -1, name);
        js_rot2(state_);
    }
    /// Leaves the value on the interpreter's stack.
    std::optional<Reply> parse(std::string_view document) {
        // Strings end at NUL there: a document with one cannot be handed over whole.
        if (document.find('\0') != std::string_view::npos) return Reply::unsupported("texts are C strings here");
        function_of_json("parse");
        js_pushstring(state_, std::string(document).c_str());
        if (js_pcall(state_, 1) == 0) return std::nullopt;
        return Reply::rejected(message());
    }
    js_State* state_;
};

}  // namespace

int main() {
    MuJs codec;
    return serve(codec);
}

// An adapter for @NAME@. Replace the small decoder below, which reads one integer, by calls into your library.
// docs/protocol.md describes what an adapter must do; the kit does most of it. Build it with
//
//     g++ -std=c++20 -O2 -I@INCLUDE@ @FILE@ -o @BINARY@
#include <charconv>

#include <nachklang/adapter.hpp>

namespace {

using namespace nachklang::adapter;

class NamedCodec final : public Codec {
  public:
    [[nodiscard]] Description describe() const override {
        Description out;
        out.name = "@NAME@";
        out.version = "0.1";
        out.capabilities = {{"json", {"decode"}}};
        return out;
    }
    Reply decode(std::string_view, std::string_view, std::string_view document, TraceOut& out) override {
        // What leaves the call is the library's: its documented exception is a refusal, any other `threw`.
        const std::int64_t value = library<std::invalid_argument>([&] { return decoded(document); });
        out.integer(value);
        return Reply::accepted();
    }

  private:
    static std::int64_t decoded(std::string_view document) {
        std::int64_t value = 0;
        const auto [end, error] = std::from_chars(document.data(), document.data() + document.size(), value);
        if (error != std::errc{} || end != document.data() + document.size())
            throw std::invalid_argument("this skeleton reads integers only");
        return value;
    }
};

}  // namespace

int main() {
    NamedCodec codec;
    return serve(codec);
}

// Traces as adapters may send them, made of a fuzzer's bytes: any value of the notation, well-formed by its rules,
// of whatever kind at whatever place.
#pragma once

#include <array>
#include <cstdint>
#include <span>
#include <string>
#include <string_view>

namespace fuzz {

/// Makes the text of one trace; the same bytes make the same text.
class TraceMaker {
  public:
    explicit TraceMaker(std::span<const std::uint8_t> bytes) : bytes_(bytes) {}

    std::string value() {
        any(0);
        return std::move(out_);
    }
    std::string document() {
        element(0);
        return std::move(out_);
    }
    /// Values, documents and texts.
    std::string list() {
        line("[");
        for (unsigned i = pick(4); i-- > 0;) {
            const unsigned choice = pick(4);
            if (choice == 0) {
                any(1);
            } else if (choice == 1) {
                line("text " + std::string(field()));
            } else {
                element(0);
            }
        }
        line("]");
        return std::move(out_);
    }

  private:
    static constexpr int deepest = 6;

    unsigned pick(std::size_t most) {
        if (bytes_.empty()) return 0;
        const unsigned out = bytes_.front() % static_cast<unsigned>(most);
        bytes_ = bytes_.subspan(1);
        return out;
    }
    template <std::size_t Count>
    std::string_view one_of(const std::array<std::string_view, Count>& words) {
        return words[pick(Count)];
    }
    void line(std::string_view text) { (out_ += text) += '\n'; }

    std::string_view field() {
        static constexpr std::array<std::string_view, 14> fields{"u8:",
                                                                 "u8:61",
                                                                 "u8:76616c7565",
                                                                 "u8:00",
                                                                 "u8:ff",
                                                                 "u8:eda0bd",
                                                                 "u8:312e35",
                                                                 "u8:2474",
                                                                 "u16:d83d",
                                                                 "u16:0061",
                                                                 "u16:d83ddd14",
                                                                 "u32:00000061",
                                                                 "-",
                                                                 "u8:313935332d30342d30375430353a33303a30305a"};
        return one_of(fields);
    }
    std::string scalar() {
        static constexpr std::array<std::string_view, 16> plain{"null",
                                                                "true",
                                                                "false",
                                                                "int 0",
                                                                "int -0",
                                                                "int 9007199254740993",
                                                                "int 184467440737095516151844674407370955161",
                                                                "dec 0.1",
                                                                "dec 1e400",
                                                                "dec -0",
                                                                "binary64 7ff8000000000000",
                                                                "binary64 fff0000000000000",
                                                                "binary64 3fb999999999999a",
                                                                "binary32 3dcccccd",
                                                                "binary32 7fc00000",
                                                                "spelled u8:312e30"};
        const unsigned choice = pick(plain.size() + 2);
        if (choice < plain.size()) return std::string(plain[choice]);
        return (choice == plain.size() ? "spelled " : "str ") + std::string(field());
    }

    // NOLINTNEXTLINE(misc-no-recursion): of bounded depth
    void any(int depth) {
        static constexpr std::array<std::string_view, 6> natives{"instant", "local-time", "bytes",
                                                                 "refused", "undefined",  "date"};
        const unsigned choice = pick(10);
        if (choice < 4 || depth >= deepest) return line(scalar());
        if (choice == 4) return line("native " + std::string(one_of(natives)) + " " + std::string(field()));
        if (choice == 5) return line(pick(2) == 0 ? "unset" : "cycle 1");
        static constexpr std::array<std::string_view, 3> open{"[", "{", "("}, close{"]", "}", ")"};
        const unsigned kind = pick(3);
        line(open[kind]);
        // A container of no reported kind has members or elements.
        const bool named = kind == 1 || (kind == 2 && pick(2) == 0);
        for (unsigned i = pick(5); i-- > 0;) {
            if (named) line("key " + (pick(3) == 0 ? scalar_name() : std::string(field())));
            any(depth + 1);
        }
        line(close[kind]);
    }
    /// A name that is another scalar than a string.
    std::string scalar_name() {
        const std::string out = scalar();
        return out.starts_with("str ") ? out.substr(4) : out;
    }

    // NOLINTNEXTLINE(misc-no-recursion): of bounded depth
    void element(int depth) {
        static constexpr std::array<std::string_view, 3> origin{" given", " default", " -"};
        const auto fields = [&](std::string word, int count) {
            while (count-- > 0) (word += ' ') += field();
            return word;
        };
        line(fields("elem", 3));
        for (unsigned i = pick(3); i-- > 0;)
            line(pick(3) == 0 ? fields("ns", 2) : fields("attr", 4) + std::string(one_of(origin)));
        for (unsigned i = pick(5); i-- > 0;) {
            static constexpr std::array<std::string_view, 5> leaves{"text", "cdata", "comment", "ref", "doctype"};
            const unsigned choice = pick(8);
            if (choice < leaves.size()) {
                line(fields(std::string(leaves[choice]), 1));
            } else if (choice == leaves.size()) {
                line(fields("pi", 2));
            } else if (depth < deepest) {
                element(depth + 1);
            }
        }
        line("end");
    }

    std::span<const std::uint8_t> bytes_;
    std::string out_;
};

}  // namespace fuzz

// The adapter kit for C++ by itself: walking values, reading traces to encode, modes that do less.
#include <gtest/gtest.h>

#include <nachklang/adapter_markup.hpp>
#include <nachklang/runner.hpp>

namespace {

using namespace nachklang::adapter;

struct FieldRow {
    const char* field;
    std::string bytes;
};

TEST(AdapterKit, UndoesFieldsOfAllUnits) {
    const FieldRow rows[] = {
        {"u8:", ""},
        {"u8:ff00", std::string("\xFF\0", 2)},
        {"u16:00e9", "\xC3\xA9"},
        {"u16:d83ddd14", "\xF0\x9F\x94\x94"},
        {"u16:d83d", "\xED\xA0\xBD"},
        {"u16:dd14d83d", "\xED\xB4\x94\xED\xA0\xBD"},
        {"u16:d83d0041", "\xED\xA0\xBD\x41"},
        {"u32:0001f514", "\xF0\x9F\x94\x94"},
        {"u32:0000d83d", "\xED\xA0\xBD"},
        {"-", ""},
    };
    for (const FieldRow& row : rows) EXPECT_EQ(field_bytes(row.field), row.bytes) << row.field;
}

/// What it is handed, in words.
class Noting final : public MarkupBuilder {
  public:
    std::string noted;
    void element(const MarkupName& name) override { noted += "<" + name.qname + "{" + name.uri + "}"; }
    void attribute(const MarkupName& name, const std::string& value) override {
        noted += " " + name.prefix() + "/" + name.local + "=" + value;
    }
    void element_end() override { noted += ">"; }
    void text(const std::string& bytes) override { noted += "'" + bytes + "'"; }
};

TEST(AdapterKit, HandsOnMarkup) {
    Noting noting;
    build_markup(
        "elem u8:703a61 u8:61 u8:75\nns u8:70 u8:75\nattr u8:703a62 u8:62 u8:75 u8:31 given\nattr u8:63 - - "
        "u8:32 -\ntext u16:d83ddd14\nelem - u8:62 u8:\nend\nend\n",
        noting, false);
    EXPECT_EQ(noting.noted, "<p:a{u} xmlns/p=u p/b=1 /c=2'\xF0\x9F\x94\x94'<b{}>>");
}

TEST(AdapterKit, AsksNoLibraryForWhatItCannotHold) {
    const auto handed = [](std::string_view trace, bool declares) {
        Noting noting;
        build_markup(trace, noting, declares);
        return noting.noted;
    };
    const std::string undeclared = "elem u8:703a61 u8:61 u8:75\nend\n";
    EXPECT_THROW(handed(undeclared, false), CannotRepresentError);
    EXPECT_EQ(handed(undeclared, true), "<p:a{u}>");
    const std::string xml_only =
        "elem u8:61 u8:61 u8:\nattr u8:786d6c3a6c616e67 u8:6c616e67 "
        "u8:687474703a2f2f7777772e77332e6f72672f584d4c2f313939382f6e616d657370616365 u8:64 "
        "given\nend\n";
    EXPECT_FALSE(leaves_declarations(xml_only));
    EXPECT_THROW(handed("elem u8:61 u8:61 u8:\ncomment u8:\nend\n", true), CannotRepresentError);
    EXPECT_THROW(handed("elem u8:61 u8:61 u8:\nref u8:65\nend\n", true), CannotRepresentError);
    EXPECT_THROW(until_nul(std::string("a\0b", 3)), CannotRepresentError);
    EXPECT_EQ(utf16_of("\xF0\x9F\x94\x94\xED\xA0\xBD\x61"), (std::u16string{0xD83D, 0xDD14, 0xD83D, u'a'}));
    for (const char* ill : {"\xFF", "\xC3", "\xC0\x80", "\xE0\x80\x80", "\xF4\x90\x80\x80", "\x80"})
        EXPECT_THROW(utf16_of(ill), CannotRepresentError);
}

TEST(AdapterKit, ReadsEveryLineOfATrace) {
    const auto item =
        read_trace("{\nkey u8:61\nint -5\nkey int 7\nbinary64 3ff8000000000000\nkey null\nbinary32 3dcccccd\n}\n");
    ASSERT_EQ(item.size(), 8U);
    EXPECT_TRUE(item[1].is_key);
    EXPECT_EQ(item[1].name(), "a");
    EXPECT_EQ(item[2].integer<std::int64_t>(), -5);
    EXPECT_EQ(item[2].integer<std::uint64_t>(), std::nullopt);
    EXPECT_EQ(item[3].kind, "int");
    EXPECT_THROW((void)item[3].name(), CannotRepresentError);
    EXPECT_EQ(item[4].binary64(), 1.5);
    EXPECT_EQ(item[6].binary32(), 0.1F);
    EXPECT_EQ(read_trace("int 9223372036854775808\n")[0].integer<std::int64_t>(), std::nullopt);
}

/// A library's value in its plainest form: the text of a tree.
struct TextBuilder {
    using Value = std::string;
    static Value scalar(const TraceLine& item) {
        if (item.kind == "cycle") throw CannotRepresentError("a cycle");
        return item.kind + (item.text.empty() ? "" : ":" + item.text);
    }
    static Value array() { return "A"; }
    static Value object() { return "O"; }
    static void append(Value& to, const Value& value) { to += "(" + value + ")"; }
    static void put(Value& to, const TraceLine& name, const Value& value) {
        to += "(" + name.name() + "=" + value + ")";
    }
};

TEST(AdapterKit, BuildsValuesFromTheInsideOut) {
    EXPECT_EQ(build("null\n", TextBuilder{}), "null");
    EXPECT_EQ(build("[\n]\n", TextBuilder{}), "A");
    EXPECT_EQ(build("{\nkey u8:61\n[\nint 1\n{\n}\n]\nkey u8:62\nstr u8:78\n}\n", TextBuilder{}),
              "O(a=A(int:1)(O))(b=str:x)");
    EXPECT_THROW(build("", TextBuilder{}), CannotRepresentError);
    EXPECT_THROW(build("[\ncycle 1\n]\n", TextBuilder{}), CannotRepresentError);
}

struct Nest {
    std::vector<Nest> inside;
};
struct NestCursor {
    const Nest* nest;
    std::size_t next_child;
    TraceOut* out;
    std::optional<const Nest*> next() {
        if (next_child == nest->inside.size()) return out->close_array(), std::nullopt;
        return &nest->inside[next_child++];
    }
};

TEST(AdapterKit, WalksInOrderAndClosesWhatItOpened) {
    const Nest root{{Nest{{Nest{}}}, Nest{}}};
    TraceOut out(true);
    walk<const Nest*>(&root, [&](const Nest* nest) -> std::optional<NestCursor> {
        if (nest->inside.empty()) return out.null(), std::nullopt;
        out.open_array();
        return NestCursor{nest, 0, &out};
    });
    EXPECT_EQ(out.take(), "[\n[\nnull\n]\nnull\n]\n");
}

class TwoModes final : public Codec {
  public:
    [[nodiscard]] Description describe() const override {
        return {.name = "two",
                .version = "1",
                .capabilities = {{"json", {"decode", "round-trip"}}},
                .modes = {{.name = "whole"}, {.name = "path", .capabilities = {{"json", {"encode"}}}}}};
    }
    Reply encode(std::string_view, std::string_view, std::string_view) override {
        throw CannotRepresentError("nothing");
    }
};

TEST(AdapterKit, AModesOwnOperationsTakeThePlaceOfAll) {
    TwoModes codec;
    using nachklang::Operation;
    const auto whole = nachklang::handshake(codec, "whole"), path = nachklang::handshake(codec, "path");
    EXPECT_TRUE(whole.does("json", Operation::round_trip));
    EXPECT_FALSE(whole.does("json", Operation::encode));
    EXPECT_TRUE(path.does("json", Operation::encode));
    EXPECT_FALSE(path.does("json", Operation::decode));
    const Reply reply = run_request(codec, "encode", "json", "path", "null\n", true);
    EXPECT_EQ(reply.kind, "unsupported");
    EXPECT_EQ(reply.bytes, "nothing");
}

}  // namespace

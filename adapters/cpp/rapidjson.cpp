// RapidJSON: `default` is what a call without flags gives; every other mode sets the flags that its name says.
#include <nachklang/adapter.hpp>
#include <nachklang/adapter_stream.hpp>

#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wconversion"
#pragma GCC diagnostic ignored "-Wpedantic"
#include <rapidjson/document.h>
#include <rapidjson/encodedstream.h>
#include <rapidjson/error/en.h>
#include <rapidjson/istreamwrapper.h>
#include <rapidjson/memorystream.h>
#include <rapidjson/prettywriter.h>
#include <rapidjson/reader.h>
#include <rapidjson/stringbuffer.h>
#include <rapidjson/writer.h>

#include <istream>
#pragma GCC diagnostic pop

namespace {

using nachklang::adapter::Reply;
using nachklang::adapter::TraceOut;
using rapidjson::Value;

void parse(rapidjson::Document& document, std::string_view mode, std::string_view text) {
    using namespace rapidjson;
    if (mode == "full-precision") {
        document.Parse<kParseFullPrecisionFlag>(text.data(), text.size());
    } else if (mode == "validated-encoding") {
        document.Parse<kParseValidateEncodingFlag>(text.data(), text.size());
    } else if (mode == "iterative") {
        document.Parse<kParseIterativeFlag>(text.data(), text.size());
    } else if (mode == "lenient") {
        document
            .Parse<kParseCommentsFlag | kParseTrailingCommasFlag | kParseNanAndInfFlag | kParseStopWhenDoneFlag>(
                text.data(), text.size());
    } else {
        document.Parse(text.data(), text.size());
    }
}

void scalar(const Value& value, TraceOut& out) {
    if (value.IsNull()) return out.null();
    if (value.IsBool()) return out.boolean(value.GetBool());
    if (value.IsString()) return out.string({value.GetString(), value.GetStringLength()});
    if (value.IsInt64()) return out.integer(value.GetInt64());
    if (value.IsUint64()) return out.integer_unsigned(value.GetUint64());
    out.binary64(value.GetDouble());
}

struct Cursor {
    const Value* container;
    rapidjson::SizeType index;
    TraceOut* out;

    std::optional<const Value*> next() {
        if (index == (container->IsObject() ? container->MemberCount() : container->Size())) {
            container->IsObject() ? out->close_object() : out->close_array();
            return std::nullopt;
        }
        if (container->IsArray()) return &(*container)[index++];
        const auto member = container->MemberBegin() + index++;
        out->key({member->name.GetString(), member->name.GetStringLength()});
        return &member->value;
    }
};

std::optional<Cursor> visit(const Value& value, TraceOut& out) {
    if (!value.IsObject() && !value.IsArray()) return scalar(value, out), std::nullopt;
    value.IsObject() ? out.open_object() : out.open_array();
    return Cursor{&value, 0, &out};
}

/// Numbers as text come from events only: in the tree they would be strings.
struct Events {
    TraceOut& out;
    bool Null() { return out.null(), true; }
    bool Bool(bool value) { return out.boolean(value), true; }
    bool Int(int value) { return out.integer(value), true; }
    bool Uint(unsigned value) { return out.integer(value), true; }
    bool Int64(std::int64_t value) { return out.integer(value), true; }
    bool Uint64(std::uint64_t value) { return out.integer_unsigned(value), true; }
    bool Double(double value) { return out.binary64(value), true; }
    bool RawNumber(const char* text, rapidjson::SizeType length, bool) { return out.spelled({text, length}), true; }
    bool String(const char* text, rapidjson::SizeType length, bool) { return out.string({text, length}), true; }
    bool StartObject() { return out.open_object(), true; }
    bool Key(const char* text, rapidjson::SizeType length, bool) { return out.key({text, length}), true; }
    bool EndObject(rapidjson::SizeType) { return out.close_object(), true; }
    bool StartArray() { return out.open_array(), true; }
    bool EndArray(rapidjson::SizeType) { return out.close_array(), true; }
};

struct Builder {
    using Value = rapidjson::Value;
    rapidjson::Document::AllocatorType& memory;

    [[nodiscard]] Value text(const std::string& bytes) const {
        Value out;
        out.SetString(bytes.data(), static_cast<rapidjson::SizeType>(bytes.size()), memory);
        return out;
    }
    [[nodiscard]] Value scalar(const nachklang::adapter::TraceLine& item) const {
        Value out;
        if (item.kind == "true" || item.kind == "false") {
            out.SetBool(item.kind == "true");
        } else if (item.kind == "str") {
            return text(item.text);
        } else if (item.kind == "binary64") {
            out.SetDouble(item.binary64());
        } else if (item.kind == "binary32") {
            out.SetFloat(item.binary32());
        } else if (const auto value = item.integer<std::int64_t>(); item.kind == "int" && value) {
            out.SetInt64(*value);
        } else if (const auto large = item.integer<std::uint64_t>(); item.kind == "int" && large) {
            out.SetUint64(*large);
        } else if (item.kind != "null") {
            throw nachklang::adapter::CannotRepresentError("no value for " + item.kind + " " + item.text);
        }
        return out;
    }
    static Value array() { return Value(rapidjson::kArrayType); }
    static Value object() { return Value(rapidjson::kObjectType); }
    void append(Value& to, Value value) const { to.PushBack(value, memory); }
    void put(Value& to, const nachklang::adapter::TraceLine& name, Value value) const {
        Value key = text(name.name());
        to.AddMember(key, value, memory);
    }
};

class RapidJson final : public nachklang::adapter::Codec {
  public:
    [[nodiscard]] nachklang::adapter::Description describe() const override {
        return {
            .name = "rapidjson",
            .version = RAPIDJSON_VERSION_STRING,
            .capabilities = {{"json", {"decode", "round-trip", "encode"}}},
            .modes = {{.name = "default",
                       .capabilities = {{"json", {"decode", "round-trip", "encode", "sequence", "open-stream"}}}},
                      {.name = "full-precision", .capabilities = {{"json", {"decode", "round-trip"}}}},
                      {.name = "validated-encoding", .capabilities = {{"json", {"decode", "round-trip"}}}},
                      {.name = "iterative", .capabilities = {{"json", {"decode"}}}},
                      {.name = "number-text", .capabilities = {{"json", {"decode"}}}},
                      {.name = "lenient",
                       .settings = {{"purpose", "lax"}},
                       .capabilities = {{"json", {"decode", "round-trip"}}}},
                      {.name = "pretty", .capabilities = {{"json", {"encode"}}}}}};
    }
    Reply decode(std::string_view, std::string_view mode, std::string_view text, TraceOut& out) override {
        if (mode == "number-text") return decode_events(text, out);
        rapidjson::Document document;
        parse(document, mode, text);
        if (document.HasParseError()) return refused(document);
        if (out.wanted())
            nachklang::adapter::walk<const Value*>(&document,
                                                   [&](const Value* value) { return visit(*value, out); });
        return Reply::accepted();
    }
    /// kParseStopWhenDoneFlag leaves the stream behind a document; an empty document is the end.
    Reply sequence(std::string_view, std::string_view, std::string_view text, TraceOut& out) override {
        rapidjson::MemoryStream stream(text.data(), text.size());
        return each(
            stream, text.size(), [] { return false; }, out);
    }
    Reply open_stream(std::string_view, std::string_view, std::string_view text, TraceOut& out) override {
        nachklang::adapter::OpenStream open(text);
        std::istream in(&open);
        rapidjson::IStreamWrapper stream(in);
        return each(
            stream, text.size(), [&] { return open.asked_for_more(); }, out);
    }
    /// One document after another, until one is refused or comes late.
    template <class Stream, class IsLate>
    static Reply each(Stream& stream, std::size_t size, IsLate is_late, TraceOut& out) {
        while (true) {
            rapidjson::Document document;
            document.ParseStream<rapidjson::kParseStopWhenDoneFlag>(stream);
            if (is_late()) return Reply::accepted();
            if (document.HasParseError() && document.GetParseError() == rapidjson::kParseErrorDocumentEmpty &&
                stream.Tell() == size)
                return Reply::accepted();
            if (document.HasParseError()) return refused(document);
            if (out.wanted())
                nachklang::adapter::walk<const Value*>(&document,
                                                       [&](const Value* value) { return visit(*value, out); });
        }
    }
    Reply round_trip(std::string_view, std::string_view mode, std::string_view text) override {
        rapidjson::Document document;
        parse(document, mode, text);
        if (document.HasParseError()) return refused(document);
        return written(document, mode);
    }
    Reply encode(std::string_view, std::string_view mode, std::string_view trace) override {
        rapidjson::Document document;
        const Value value = nachklang::adapter::build(trace, Builder{document.GetAllocator()});
        return written(value, mode);
    }

  private:
    static Reply decode_events(std::string_view text, TraceOut& out) {
        Events events{out};
        rapidjson::MemoryStream bytes(text.data(), text.size());
        rapidjson::EncodedInputStream<rapidjson::UTF8<>, rapidjson::MemoryStream> stream(bytes);
        rapidjson::Reader reader;
        const auto result = reader.Parse<rapidjson::kParseNumbersAsStringsFlag>(stream, events);
        if (result.IsError())
            return Reply::rejected(rapidjson::GetParseError_En(result.Code())).at_offset(result.Offset());
        return Reply::accepted();
    }
    static Reply written(const Value& value, std::string_view mode) {
        rapidjson::StringBuffer buffer;
        bool done = false;
        if (mode == "pretty") {
            rapidjson::PrettyWriter<rapidjson::StringBuffer> writer(buffer);
            done = value.Accept(writer);
        } else {
            rapidjson::Writer<rapidjson::StringBuffer> writer(buffer);
            done = value.Accept(writer);
        }
        if (!done) return Reply::rejected("Accept returned false");
        return Reply::accepted({buffer.GetString(), buffer.GetSize()});
    }
    static Reply refused(const rapidjson::Document& document) {
        return Reply::rejected(rapidjson::GetParseError_En(document.GetParseError()))
            .at_offset(document.GetErrorOffset());
    }
};

}  // namespace

int main() {
    RapidJson codec;
    return nachklang::adapter::serve(codec);
}

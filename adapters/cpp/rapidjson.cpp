// RapidJSON, with its default number parsing and with kParseFullPrecisionFlag; both iterative, both check
// encodings.
#include <nachklang/adapter.hpp>

#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wconversion"
#pragma GCC diagnostic ignored "-Wpedantic"
#include <rapidjson/document.h>
#include <rapidjson/error/en.h>
#include <rapidjson/stringbuffer.h>
#include <rapidjson/writer.h>
#pragma GCC diagnostic pop

namespace {

using nachklang::adapter::Reply;
using nachklang::adapter::TraceOut;
using rapidjson::Value;

constexpr unsigned common = rapidjson::kParseValidateEncodingFlag | rapidjson::kParseIterativeFlag;

void parse(rapidjson::Document& document, std::string_view mode, std::string_view text) {
    if (mode == "full-precision") {
        document.Parse<common | rapidjson::kParseFullPrecisionFlag>(text.data(), text.size());
    } else {
        document.Parse<common>(text.data(), text.size());
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

/// Prints a value and hands its children to `levels` instead of calling itself.
struct Level {
    const Value* container;
    rapidjson::SizeType next;
};

void walk(const Value& root, TraceOut& out) {
    std::vector<Level> levels;
    const auto visit = [&](const Value& value) {
        if (!value.IsObject() && !value.IsArray()) return scalar(value, out);
        value.IsObject() ? out.open_object() : out.open_array();
        levels.push_back({&value, 0});
    };
    visit(root);
    while (!levels.empty()) {
        Level& level = levels.back();
        const Value& container = *level.container;
        if (level.next == (container.IsObject() ? container.MemberCount() : container.Size())) {
            container.IsObject() ? out.close_object() : out.close_array();
            levels.pop_back();
        } else if (container.IsObject()) {
            const auto member = container.MemberBegin() + level.next++;
            out.key({member->name.GetString(), member->name.GetStringLength()});
            visit(member->value);
        } else {
            visit(container[level.next++]);
        }
    }
}

class RapidJson final : public nachklang::adapter::Codec {
  public:
    [[nodiscard]] nachklang::adapter::Description describe() const override {
        return {"rapidjson", RAPIDJSON_VERSION_STRING,         "", "", {{"json", {"decode", "lap"}}}, {},
                {},          {{"default"}, {"full-precision"}}};
    }
    Reply decode(std::string_view, std::string_view mode, std::string_view text, TraceOut& out) override {
        rapidjson::Document document;
        parse(document, mode, text);
        if (document.HasParseError()) return refused(document);
        if (out.wanted()) walk(document, out);
        return Reply::accepted();
    }
    Reply lap(std::string_view, std::string_view mode, std::string_view text) override {
        rapidjson::Document document;
        parse(document, mode, text);
        if (document.HasParseError()) return refused(document);
        rapidjson::StringBuffer buffer;
        rapidjson::Writer<rapidjson::StringBuffer> writer(buffer);
        if (!document.Accept(writer)) return Reply::rejected("the writer gave up");
        return Reply::accepted({buffer.GetString(), buffer.GetSize()});
    }

  private:
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

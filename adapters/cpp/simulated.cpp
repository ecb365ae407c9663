// Decoders of the field that cannot be installed on a desk, simulated with their habits; the first argument names
// which.
//
// map: a two-layer decoder of mobile interfaces. Objects become sorted maps: order and duplicates are gone.
// table: a decoder of microcontrollers. It fills one fixed record and answers with a bit mask of the fields it
// found; a nested record counts as found at its braces, whatever is in them.
#include <map>

#include "oracle/json_recogniser.hpp"

#include <nachklang/adapter.hpp>

namespace {

using namespace nachklang::adapter;
using oracle::Kind;
using oracle::Value;

void print_as_map(const Value& value, TraceOut& out) {
    if (value.kind == Kind::null) return out.null();
    if (value.kind == Kind::boolean) return out.boolean(value.truth);
    if (value.kind == Kind::string) return out.string(value.text);
    if (value.kind == Kind::number) return out.spelled(value.text);
    if (value.kind == Kind::array) {
        out.open_array();
        for (const auto& [name, child] : value.members) print_as_map(child, out);
        return out.close_array();
    }
    std::map<std::string, const Value*> members;
    for (const auto& [name, child] : value.members) members[name.text] = &child;
    out.open_object();
    for (const auto& [name, child] : members) {
        out.key(name);
        print_as_map(*child, out);
    }
    out.close_object();
}

class MapDecoder final : public Codec {
  public:
    [[nodiscard]] Description describe() const override {
        return {.name = "simulated-map-decoder",
                .version = "1",
                .capabilities = {{"json", {"decode"}}},
                .cannot_represent = {"order", "duplicates"},
                .settings = {{"simulated", "yes"}}};
    }
    Reply decode(std::string_view, std::string_view, std::string_view document, TraceOut& out) override {
        const oracle::Recognised found = oracle::recognise(document, {}, 512);
        if (found.too_deep) return Reply::rejected("too deep").at_offset(found.error_offset);
        if (!found.value) return Reply::rejected("no JSON").at_offset(found.error_offset);
        if (out.wanted()) print_as_map(*found.value, out);
        return Reply::accepted();
    }
};

/// One row of the decoder's table.
struct Field {
    const char* name;
    Kind kind;
    std::vector<Field> inside{};
};
const std::vector<Field>& bell_record() {
    static const std::vector<Field> fields{
        {"bell", Kind::string, {}},
        {"cast", Kind::number, {}},
        {"hz", Kind::number, {}},
        {"tower", Kind::object, {{"name", Kind::string, {}}, {"height_m", Kind::number, {}}}}};
    return fields;
}

const Value* member(const Value& object, const Field& field) {
    const Value* out = nullptr;
    for (const auto& [name, child] : object.members)
        if (name.text == field.name && child.kind == field.kind) out = &child;
    return out;
}

void print_record(const Value& object, const std::vector<Field>& fields, TraceOut& out) {
    out.open_object();
    for (const Field& field : fields) {
        out.key(field.name);
        const Value* value = member(object, field);
        if (value == nullptr) {
            out.line("unset");
        } else if (field.kind == Kind::object) {
            print_record(*value, field.inside, out);
        } else if (field.kind == Kind::string) {
            out.string(value->text);
        } else {
            out.spelled(value->text);
        }
    }
    out.close_object();
}

class TableDecoder final : public Codec {
  public:
    [[nodiscard]] Description describe() const override {
        return {.name = "simulated-table-decoder",
                .version = "1",
                .capabilities = {{"json", {"decode", "bind"}}},
                .cannot_represent = {"order", "duplicates"},
                .settings = {{"simulated", "yes"}}};
    }
    Reply decode(std::string_view, std::string_view, std::string_view document, TraceOut& out) override {
        const oracle::Recognised found = oracle::recognise(document, {}, 16);
        if (!found.value) return Reply::rejected("error code -22").at_offset(found.error_offset);
        unsigned mask = 0;
        for (std::size_t i = 0; i < bell_record().size(); ++i)
            if (member(*found.value, bell_record()[i]) != nullptr) mask |= 1U << i;
        if (found.value->kind != Kind::object || mask == 0)
            return Reply::unsupported("it decodes the record of a bell only");
        // Its callers compare the mask with the one they need: the top fields, and no look inside the nested
        // record.
        if (mask != 15) return Reply::rejected("bit mask " + std::to_string(mask) + ", fields are missing");
        if (out.wanted()) print_record(*found.value, bell_record(), out);
        return Reply::accepted();
    }
    /// The record lies at one address for all documents: what a document does not fill keeps what was there.
    Reply bind(std::string_view, std::string_view, std::string_view record, std::string_view document,
               TraceOut& out) override {
        const bool nested = record == "one-record";
        if (!nested && record != "one-int32") return Reply::unsupported("no row for this record");
        const oracle::Recognised found = oracle::recognise(document, {}, 16);
        if (!found.value) return Reply::rejected("error code -22").at_offset(found.error_offset);
        const Value* value = member(*found.value, {"value", nested ? Kind::object : Kind::number});
        if (value == nullptr) return Reply::rejected("bit mask 0, fields are missing");
        const Value* number = nested ? member(*value, {"value", Kind::number}) : value;
        if (number != nullptr) memory_ = number->text;
        out.open_object();
        out.key("value");
        if (nested) {
            out.open_object();
            out.key("value");
        }
        out.spelled(memory_);
        if (nested) out.close_object();
        out.close_object();
        return Reply::accepted();
    }

  private:
    std::string memory_ = "77";  // nothing clears it between two documents
};

}  // namespace

int main(int argc, char** argv) {
    MapDecoder map;
    TableDecoder table;
    const bool is_table = argc > 1 && std::string_view(argv[1]) == "table";
    return serve(is_table ? static_cast<Codec&>(table) : map);
}

// The table of record types, from the bell register.
#include <nachklang/record_types.hpp>

#include <fmt/format.h>

#include <algorithm>

#include <nachklang/corpus.hpp>
#include <nachklang/text.hpp>

namespace nachklang {
namespace {

/// The names of an object's members, in a trace that is one.
std::vector<std::string> names_in(const Trace& trace) {
    std::vector<std::string> out;
    std::size_t depth = 0;
    for (const Item& item : trace.items()) {
        if (item.kind == ItemKind::key && depth == 1) out.push_back(item.field(0).atoms());
        if (item.kind == ItemKind::array_open || item.kind == ItemKind::object_open) ++depth;
        if (item.kind == ItemKind::array_close || item.kind == ItemKind::object_close) --depth;
    }
    return out;
}

}  // namespace

std::span<const RecordType> record_types() {
    static const std::vector<RecordType> table{
        {"one-int32", {{"value", "int32"}}},
        {"one-int64", {{"value", "int64"}}},
        {"one-binary64", {{"value", "binary64"}}},
        {"one-boolean", {{"value", "boolean"}}},
        {"one-text", {{"value", "text"}}},
        {"one-list", {{"value", "[int32]"}}},
        {"one-record", {{"value", "one-int32"}}},
        {"one-instant", {{"value", "instant"}}},
        {"one-bytes", {{"value", "bytes"}}},
        {"one-map", {{"value", "{int32:int32}"}}},
        {"bell-or-tower",
         {{"$type", "text"},
          {"name", "text"},
          {"weight_kg", "int64", true, false, true},
          {"hum_hz", "binary64", true, false, true}}},
        {"one-attribute", {{"value", "int32", true, true}}},
        {"one-attribute-text", {{"value", "text", true, true}}},
        {"bell", {{"name", "text"}, {"weight_kg", "int32"}, {"hum_hz", "binary64"}, {"note", "text", false}}}};
    return table;
}

std::vector<std::string> record_problems(const Case& c) {
    const auto types = record_types();
    const auto type =
        std::find_if(types.begin(), types.end(), [&](const RecordType& t) { return t.name == c.record; });
    std::vector<std::string> out;
    const auto check = [&](const Trace& trace, const std::string& of) {
        const auto names = names_in(trace);
        std::vector<std::string> wanted;
        for (const RecordField& field : type->fields)
            if (!field.of_one_kind || std::ranges::find(names, field.name) != names.end())
                wanted.emplace_back(field.name);
        if (names != wanted)
            out.push_back(fmt::format("{} does not hold just the fields of {} in their order", of, c.record));
    };
    if (c.value) {  // encoders may write it otherwise
        check(*c.value, "its value");
        return out;
    }
    if (c.expected) check(*c.expected, "its trace");
    const auto is_no_record = [](const Trace& trace) { return trace.items().front().kind == ItemKind::null_value; };
    for (const Answer& a : c.answers)
        if (a.trace && !is_no_record(*a.trace)) check(*a.trace, "its answer " + a.name);
    if (!c.expected && *c.stance == Stance::accept) out.push_back("what is accepted has no trace");
    return out;
}

bool is_comparable(const Case& c, const Reading& reading) {
    if (!reading.accepted()) return false;
    return c.record.empty() || reading.trace.items().front().kind == ItemKind::object_open;
}

}  // namespace nachklang

// The record types of docs/records-of-fields.md, as an application in C++ declares them, and how they are printed.
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <type_traits>
#include <vector>

#include <nachklang/adapter.hpp>

namespace records {

struct OneInt32 {
    std::int32_t value;
};
struct OneInt64 {
    std::int64_t value;
};
struct OneBinary64 {
    double value;
};
struct OneBoolean {
    bool value;
};
struct OneText {
    std::string value;
};
struct OneList {
    std::vector<std::int32_t> value;
};
struct OneRecord {
    OneInt32 value;
};
struct Bell {
    std::string name;
    std::int32_t weight_kg;
    double hum_hz;
    std::optional<std::string> note;
};

using nachklang::adapter::TraceOut;

inline void print(std::int32_t value, TraceOut& out) {
    out.integer(value);
}
inline void print(std::int64_t value, TraceOut& out) {
    out.integer(value);
}
inline void print(double value, TraceOut& out) {
    out.binary64(value);
}
inline void print(bool value, TraceOut& out) {
    out.boolean(value);
}
inline void print(const std::string& value, TraceOut& out) {
    out.string(value);
}
inline void print(const std::optional<std::string>& value, TraceOut& out) {
    value ? out.string(*value) : out.null();
}
inline void print(const std::vector<std::int32_t>& value, TraceOut& out) {
    out.open_array();
    for (const std::int32_t element : value) out.integer(element);
    out.close_array();
}
template <class One>
requires requires(One one) {
    one.value;
}
void print(const One& record, TraceOut& out) {
    out.open_object();
    out.key("value");
    print(record.value, out);
    out.close_object();
}
inline void print(const Bell& bell, TraceOut& out) {
    out.open_object();
    out.key("name");
    print(bell.name, out);
    out.key("weight_kg");
    print(bell.weight_kg, out);
    out.key("hum_hz");
    print(bell.hum_hz, out);
    out.key("note");
    print(bell.note, out);
    out.close_object();
}

/// What a record holds before it is decoded into once more.
inline void fill_earlier(std::int32_t& value) {
    value = 41;
}
inline void fill_earlier(std::int64_t& value) {
    value = 41;
}
inline void fill_earlier(double& value) {
    value = 41.5;
}
inline void fill_earlier(bool& value) {
    value = true;
}
inline void fill_earlier(std::string& value) {
    value = "earlier";
}
inline void fill_earlier(std::vector<std::int32_t>& value) {
    value = {41};
}
template <class One>
requires requires(One one) {
    one.value;
}
void fill_earlier(One& record) {
    fill_earlier(record.value);
}
inline void fill_earlier(Bell& bell) {
    bell = {"Clara", 41, 41.5, "earlier"};
}

/// Fills a field from the lines of a value in trace notation, and moves past them.
using Lines = std::vector<nachklang::adapter::TraceLine>;
template <class Number>
requires std::is_arithmetic_v<Number>
void fill(Number& value, const Lines& lines, std::size_t& at) {
    const nachklang::adapter::TraceLine& line = lines.at(at++);
    if (line.kind == "true" || line.kind == "false") {
        value = static_cast<Number>(line.kind == "true");
    } else if (line.kind == "binary64") {
        value = static_cast<Number>(line.binary64());
    } else if (const auto integer = line.integer<std::int64_t>(); line.kind == "int" && integer) {
        value = static_cast<Number>(*integer);
    } else {
        throw nachklang::adapter::CannotRepresentError("a field of this type holds a value");
    }
}
inline void fill(std::string& value, const Lines& lines, std::size_t& at) {
    const nachklang::adapter::TraceLine& line = lines.at(at++);
    if (line.kind != "str") throw nachklang::adapter::CannotRepresentError("a field of this type holds a text");
    value = line.text;
}
inline void fill(std::optional<std::string>& value, const Lines& lines, std::size_t& at) {
    if (lines.at(at).kind == "null") {
        ++at;
    } else {
        fill(value.emplace(), lines, at);
    }
}
inline void fill(std::vector<std::int32_t>& value, const Lines& lines, std::size_t& at) {
    if (lines.at(at++).kind != "[")
        throw nachklang::adapter::CannotRepresentError("a field of this type holds a list");
    while (lines.at(at).kind != "]") fill(value.emplace_back(), lines, at);
    ++at;
}
template <class One>
requires requires(One one) {
    one.value;
}
void fill(One& record, const Lines& lines, std::size_t& at) {
    if (lines.at(at).kind != "{")
        throw nachklang::adapter::CannotRepresentError("a field of this type holds a record");
    at += 2;  // the brace and the name
    fill(record.value, lines, at);
    ++at;
}
inline void fill(Bell& bell, const Lines& lines, std::size_t& at) {
    const auto next = [&](auto& field) { fill(field, lines, ++at); };
    next(bell.name);
    next(bell.weight_kg);
    next(bell.hum_hz);
    next(bell.note);
}

/// Calls `then` with an empty record of a type; whether there is such a type.
template <class Then>
bool with_type(std::string_view name, Then then) {
    if (name == "one-int32") return then(OneInt32{}), true;
    if (name == "one-int64") return then(OneInt64{}), true;
    if (name == "one-binary64") return then(OneBinary64{}), true;
    if (name == "one-boolean") return then(OneBoolean{}), true;
    if (name == "one-text") return then(OneText{}), true;
    if (name == "one-list") return then(OneList{}), true;
    if (name == "one-record") return then(OneRecord{}), true;
    if (name == "bell") return then(Bell{}), true;
    return false;
}

/// Calls `then` with a record of a type with the fields of a trace; whether there is such a type.
template <class Then>
bool with_filled(std::string_view name, std::string_view trace, Then then) {
    return with_type(name, [&](auto record) {
        std::size_t at = 0;
        fill(record, nachklang::adapter::read_trace(trace), at);
        then(record);
    });
}

}  // namespace records

// What an adapter prints a decoded value with; a part of the kit for C++ (adapter.hpp).
#pragma once

#include <bit>
#include <cstdint>
#include <cstdio>
#include <optional>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace nachklang::adapter {

/// Prints a decoded value in trace notation, with plain string operations. Where the trace is not wanted
/// (`show=nothing`) every call returns at once; leave out the walk itself where `wanted` says so.
class TraceOut {
  public:
    explicit TraceOut(bool wanted) : wanted_(wanted) {}
    [[nodiscard]] bool wanted() const { return wanted_; }

    void null() { line("null"); }
    void boolean(bool value) { line(value ? "true" : "false"); }
    void integer(std::int64_t value) { line("int " + std::to_string(value)); }
    void integer_unsigned(std::uint64_t value) { line("int " + std::to_string(value)); }
    /// An integer of any size by its decimal digits.
    void integer_digits(std::string_view digits) { line("int " + std::string(digits)); }
    /// A decimal as [-]DIGITS[.DIGITS][e[-]DIGITS].
    void decimal(std::string_view text) { line("dec " + std::string(text)); }
    void binary64(double value) { line("binary64 " + hex_digits(std::bit_cast<std::uint64_t>(value), 16)); }
    void binary32(float value) { line("binary32 " + hex_digits(std::bit_cast<std::uint32_t>(value), 8)); }
    /// A number kept as its source text.
    void spelled(std::string_view text) { line("spelled " + field(text)); }
    void string(std::string_view bytes) { line("str " + field(bytes)); }
    void string_utf16(std::u16string_view units) { line("str " + field(units)); }
    void open_array() { line("["); }
    void close_array() { line("]"); }
    void open_object() { line("{"); }
    void close_object() { line("}"); }
    void key(std::string_view bytes) { line("key " + field(bytes)); }
    void key_utf16(std::u16string_view units) { line("key " + field(units)); }
    void native(std::string_view name, std::string_view bytes) {
        line("native " + std::string(name) + " " + field(bytes));
    }

    using MaybeText = std::optional<std::string_view>;  ///< nothing: the library does not report it
    void element(MaybeText qname, MaybeText local, MaybeText uri) {
        line("elem " + maybe(qname) + " " + maybe(local) + " " + maybe(uri));
    }
    void element_end() { line("end"); }
    /// `origin` is "given", "default" or "-".
    void attribute(MaybeText qname, MaybeText local, MaybeText uri, std::string_view value,
                   std::string_view origin = "-") {
        line("attr " + maybe(qname) + " " + maybe(local) + " " + maybe(uri) + " " + field(value) + " " +
             std::string(origin));
    }
    void declaration(std::string_view prefix, std::string_view uri) {
        line("ns " + field(prefix) + " " + field(uri));
    }
    void text(std::string_view bytes) { line("text " + field(bytes)); }
    void cdata(std::string_view bytes) { line("cdata " + field(bytes)); }
    void comment(std::string_view bytes) { line("comment " + field(bytes)); }
    void instruction(std::string_view target, std::string_view data) {
        line("pi " + field(target) + " " + field(data));
    }
    /// An entity that was not expanded.
    void reference(std::string_view name) { line("ref " + field(name)); }
    void doctype(std::string_view root) { line("doctype " + field(root)); }

    void line(std::string_view text) {
        if (!wanted_) return;
        out_ += text;
        out_ += '\n';
    }
    static std::string field(std::string_view bytes) {
        std::string out = "u8:";
        out.reserve(3 + 2 * bytes.size());
        for (const char c : bytes) {
            out += "0123456789abcdef"[static_cast<unsigned char>(c) >> 4];
            out += "0123456789abcdef"[static_cast<unsigned char>(c) & 15];
        }
        return out;
    }
    static std::string field(std::u16string_view units) {
        std::string out = "u16:";
        for (const char16_t unit : units) out += hex_digits(unit, 4);
        return out;
    }
    [[nodiscard]] std::string take() { return std::move(out_); }

  private:
    static std::string maybe(MaybeText text) { return text ? field(*text) : "-"; }
    static std::string hex_digits(std::uint64_t value, int count) {
        std::string out(static_cast<std::size_t>(count), '0');
        for (auto digit = out.rbegin(); digit != out.rend(); ++digit, value >>= 4)
            *digit = "0123456789abcdef"[value & 15];
        return out;
    }
    bool wanted_;
    std::string out_;
};

/// Walks a value with a stack of its own, so that a million levels do not exhaust the program's stack.
/// `visit(value)` prints a scalar and returns nothing, or prints an opening line and returns a cursor over the
/// children. The cursor's `next()` prints the key, if there is one, and returns the next child; after the last
/// child it prints the closing line and returns nothing.
template <class Value, class Visit>
void walk(Value root, Visit visit) {
    using Cursor = typename decltype(visit(root))::value_type;
    std::vector<Cursor> levels;
    for (std::optional<Value> value(root); value || !levels.empty();) {
        if (value)
            if (std::optional<Cursor> inside = visit(*value)) levels.push_back(std::move(*inside));
        value.reset();
        if (levels.empty()) return;
        value = levels.back().next();
        if (!value) levels.pop_back();
    }
}

}  // namespace nachklang::adapter

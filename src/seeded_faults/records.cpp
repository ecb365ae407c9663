// See records.hpp.
#include "seeded_faults/records.hpp"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>
#include <cstdlib>
#include <limits>
#include <map>
#include <vector>

namespace seeded_faults {
namespace {

using nachklang::adapter::TraceOut;
using oracle::Kind;
using oracle::Value;

struct Field {
    std::string_view name, kind;
    bool required = true;
};
/// The types of docs/records-of-fields.md, as this codec declares them.
std::vector<Field> fields_of(std::string_view record) {
    if (record == "bell")
        return {{"name", "text"}, {"weight_kg", "int32"}, {"hum_hz", "binary64"}, {"note", "text", false}};
    if (record == "bell-or-tower") return {{"name", "text"}, {"weight_kg", "int64"}, {"hum_hz", "binary64"}};
    if (record == "one-record") return {{"value", "record"}};
    if (record == "one-map") return {{"value", "map"}};
    if (record == "one-list") return {{"value", "list"}};
    return record.starts_with("one-") ? std::vector<Field>{{"value", record.substr(4)}} : std::vector<Field>{};
}

bool equal_in_any_case(std::string_view a, std::string_view b) {
    const auto lower = [](char c) { return std::tolower(static_cast<unsigned char>(c)); };
    return std::ranges::equal(a, b, {}, lower, lower);
}

class Binder {
  public:
    Binder(const RecordMistakes& mistakes, TraceOut& out) : mistakes_(mistakes), out_(out) {}

    // NOLINTNEXTLINE(misc-no-recursion): a record holds one other
    bool record(const Value& value, const std::vector<Field>& fields, std::string_view tagged = {}) {
        if (value.kind != Kind::object || fields.empty()) return false;
        out_.open_object();
        if (!tagged.empty()) {
            out_.key("$type");
            out_.string(tagged);
        }
        for (const Field& field : fields) {
            out_.key(field.name);
            const Value* found = member(value, field.name);
            const bool empty = found == nullptr || found->kind == Kind::null;
            if (!(empty ? without(field, found != nullptr) : of_kind(*found, field.kind))) return false;
        }
        out_.close_object();
        return true;
    }

    /// A record of two kinds: the first member of that name says which.
    bool of_kinds(const Value& value) {
        if (value.kind != Kind::object) return false;
        const Value* tag = tag_of(value);
        const bool guessed = tag == nullptr && mistakes_.kind_guessed;
        if (!guessed && (tag == nullptr || tag->kind != Kind::string)) return false;
        const std::string kind = guessed ? "bell" : tag->text;
        if (kind != "bell" && kind != "tower") return false;
        late_ = mistakes_.late_through_double && value.members.front().first.text != "$type";
        auto fields = fields_of("bell-or-tower");
        if (kind == "tower") fields.resize(1);
        return record(value, fields, kind);
    }

  private:
    [[nodiscard]] const Value* tag_of(const Value& object) const {
        for (const auto& [name, child] : object.members) {
            if (name.text == "$type") return &child;
            if (!mistakes_.inner_tag_counts || child.kind != Kind::object) continue;
            for (const auto& [inner, value] : child.members)
                if (inner.text == "$type") return &value;
        }
        return nullptr;
    }

    /// The last member of that name.
    [[nodiscard]] const Value* member(const Value& object, std::string_view name) const {
        const Value* out = nullptr;
        for (const auto& [known, child] : object.members) {
            if (mistakes_.misses_escaped && known.raw != known.text) continue;
            if (known.text == name || (mistakes_.any_case && equal_in_any_case(known.text, name))) out = &child;
        }
        return out;
    }

    /// A field that is null or absent.
    bool without(const Field& field, bool is_null) {
        if (is_null && mistakes_.null_is_text && field.kind == "text") return out_.string("null"), true;
        if (!field.required) return out_.null(), true;
        if (field.kind == "record" && mistakes_.nested_unset) {
            out_.open_object();
            out_.key("value");
            out_.line("unset");
            return out_.close_object(), true;
        }
        return !is_null && mistakes_.absent_is_default && print_default(field.kind);
    }
    bool print_default(std::string_view kind) {
        if (kind == "boolean") return out_.boolean(false), true;
        if (kind == "text") return out_.string(""), true;
        if (kind == "list") return out_.open_array(), out_.close_array(), true;
        if (kind == "map") return out_.open_object(), out_.close_object(), true;
        if (kind == "bytes") return out_.native(kind, ""), true;
        if (kind == "instant") return out_.native(kind, "0001-01-01T00:00:00Z"), true;
        if (kind != "record") return out_.integer(0), true;
        out_.open_object();
        out_.key("value");
        out_.integer(0);
        return out_.close_object(), true;
    }

    // NOLINTNEXTLINE(misc-no-recursion)
    bool of_kind(const Value& value, std::string_view kind) {
        if (kind == "text") return value.kind == Kind::string && (out_.string(value.text), true);
        if (kind == "instant" || kind == "bytes") return native(value, kind);
        if (kind == "boolean") return value.kind == Kind::boolean && (out_.boolean(value.truth), true);
        if (kind == "record") return record(value, {{"value", "int32"}});
        if (kind == "list") return list(value);
        if (kind == "map") return map(value);
        const bool is_text = value.kind == Kind::string && mistakes_.reads_texts;
        const auto inside = is_text ? oracle::recognise(value.text).value : std::nullopt;
        if (value.kind != Kind::number && !(inside && inside->kind == Kind::number)) return false;
        return number(value.text, kind);
    }
    bool native(const Value& value, std::string_view kind) {
        if (value.kind != Kind::string) return false;
        const auto held =
            kind == "bytes" ? read_bytes(value.text, mistakes_.native) : read_instant(value.text, mistakes_.native);
        return held && (out_.native(kind, *held), true);
    }
    /// The number that a name spells as JSON does.
    [[nodiscard]] std::optional<std::int32_t> name_of_map(std::string name) const {
        if (mistakes_.map_name_cut) name = name.substr(0, name.find_first_not_of("0123456789", 1));
        std::int32_t out = 0;
        const auto read = std::from_chars(name.data(), name.data() + name.size(), out);
        const bool whole = read.ec == std::errc{} && read.ptr == name.data() + name.size();
        if (!whole || std::to_string(out) != name) return std::nullopt;
        return mistakes_.map_sign_lost && out > std::numeric_limits<std::int32_t>::min() ? std::abs(out) : out;
    }
    bool map(const Value& value) {
        if (value.kind != Kind::object) return false;
        std::map<std::int32_t, std::string> held;
        for (const auto& [name, child] : value.members) {
            const auto number = name_of_map(name.text);
            std::int32_t element = 0;
            const char* const end = child.text.data() + child.text.size();
            if (!number || child.kind != Kind::number ||
                std::from_chars(child.text.data(), end, element).ptr != end)
                return false;
            held[*number] = child.text;
        }
        out_.open_object();
        for (const auto& [number, text] : held) {
            out_.line("key int " + std::to_string(number));
            out_.line("int " + text);
        }
        return out_.close_object(), true;
    }
    bool list(const Value& value) {
        if (value.kind != Kind::array) return false;
        out_.open_array();
        for (std::size_t i = 0; i < value.members.size(); ++i) {
            const Value& element = value.members[i].second;
            if (mistakes_.list_of_one && i > 0) break;
            if (element.kind != Kind::number || !number(element.text, "int32")) return false;
        }
        return out_.close_array(), true;
    }
    bool number(const std::string& spelled, std::string_view kind) {
        if (kind == "binary64") return out_.spelled(spelled), true;
        std::string digits = spelled;
        if (mistakes_.cuts_fractions && spelled.find_first_of("eE") == std::string::npos)
            digits = spelled.substr(0, spelled.find('.'));
        std::int64_t value = 0;
        const auto read = std::from_chars(digits.data(), digits.data() + digits.size(), value);
        if (read.ec != std::errc{} || read.ptr != digits.data() + digits.size()) return false;
        if (mistakes_.wraps && kind == "int32")
            value = static_cast<std::int32_t>(static_cast<std::uint32_t>(value));
        if ((mistakes_.through_double || late_) && kind == "int64" && std::llabs(value) < (std::int64_t{1} << 62))
            value = static_cast<std::int64_t>(static_cast<double>(value));
        if (kind == "int32" && value != static_cast<std::int32_t>(value)) return false;
        return out_.integer(value), true;
    }

    const RecordMistakes& mistakes_;
    TraceOut& out_;
    bool late_ = false;  // what is read waits for a tag
};

}  // namespace

bool print_as_record(const Value& value, std::string_view record, const RecordMistakes& mistakes, TraceOut& out) {
    Binder binder(mistakes, out);
    return record == "bell-or-tower" ? binder.of_kinds(value) : binder.record(value, fields_of(record));
}

}  // namespace seeded_faults

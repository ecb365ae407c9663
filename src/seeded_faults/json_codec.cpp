// The codec itself: decodes with the second recogniser, stores values, writes them; each step calls the hooks of
// the active fault.
#include "seeded_faults/json_codec.hpp"

#include <charconv>
#include <cmath>
#include <cstdlib>
#include <stdexcept>

namespace seeded_faults {

std::string quoted(const std::string& text) {
    std::string out = "\"";
    for (std::size_t i = 0; i < text.size(); ++i) {
        const auto c = static_cast<unsigned char>(text[i]);
        const bool surrogate = c == 0xED && i + 2 < text.size() && static_cast<unsigned char>(text[i + 1]) >= 0xA0;
        char escape[8];
        if (c == '"' || c == '\\') {
            out += '\\';
            out += text[i];
        } else if (c < 0x20) {
            std::snprintf(escape, sizeof escape, "\\u%04x", c);
            out += escape;
        } else if (surrogate) {
            const unsigned unit = (c & 15U) << 12 | (static_cast<unsigned char>(text[i + 1]) & 63U) << 6 |
                                  (static_cast<unsigned char>(text[i + 2]) & 63U);
            std::snprintf(escape, sizeof escape, "\\u%04x", unit & 0xFFFF);
            out += escape;
            i += 2;
        } else {
            out += text[i];
        }
    }
    return out + "\"";
}

namespace {

using nachklang::adapter::Reply;
using nachklang::adapter::TraceOut;

/// Stores 64-bit integers exactly, other numbers as doubles, and as text what a double cannot hold.
StoredNumber hold(const std::string& spelled) {
    if (spelled.find_first_of(".eE") == std::string::npos && spelled != "-0") {
        std::int64_t small = 0;
        std::uint64_t large = 0;
        const char* const end = spelled.data() + spelled.size();
        const auto a = std::from_chars(spelled.data(), end, small);
        const auto b = std::from_chars(spelled.data(), end, large);
        if ((a.ec == std::errc{} && a.ptr == end) || (b.ec == std::errc{} && b.ptr == end))
            return {"int " + spelled + "\n", spelled};
    }
    const double value = std::strtod(spelled.c_str(), nullptr);
    const bool lost =
        !std::isfinite(value) || (value == 0 && spelled.find_first_of("123456789") < spelled.find_first_of("eE"));
    TraceOut out(true);
    if (lost) {
        out.spelled(spelled);
        return {out.take(), spelled};
    }
    out.binary64(value);
    char text[40];
    const auto written = std::to_chars(text, text + sizeof text, value);
    return {out.take(), std::string(text, written.ptr)};
}

/// Puts every value through the hooks, children before their container.
void put_through(Value& value, const Hooks& hooks) {
    for (auto& [name, child] : value.members) {
        if (value.kind == Kind::object && hooks.name) name.text = hooks.name(name);
        put_through(child, hooks);
    }
    if (value.kind == Kind::string && hooks.string) value.text = hooks.string(value);
    if (hooks.members) hooks.members(value);
}

std::size_t depth_of(const Value& value) {
    std::size_t deepest = 0;
    for (const auto& member : value.members) deepest = std::max(deepest, depth_of(member.second));
    return deepest + static_cast<std::size_t>(value.kind == Kind::array || value.kind == Kind::object);
}

bool refused_anywhere(const Value& value, const Hooks& hooks) {
    if (hooks.refuses(value)) return true;
    for (const auto& member : value.members)
        if (refused_anywhere(member.second, hooks)) return true;
    return false;
}

StoredNumber number(const std::string& spelled, const Hooks& hooks) {
    StoredNumber stored = hold(spelled);
    return hooks.number ? hooks.number(spelled, std::move(stored)) : stored;
}

void show(const Value& value, const Hooks& hooks, TraceOut& out) {
    switch (value.kind) {
        case Kind::null:
            return out.null();
        case Kind::boolean:
            return out.boolean(value.truth);
        case Kind::string:
            return out.string(value.text);
        case Kind::number: {
            const std::string line = number(value.text, hooks).trace;
            return out.line(std::string_view(line).substr(0, line.size() - 1));
        }
        case Kind::array:
        case Kind::object:
            break;
    }
    const bool object = value.kind == Kind::object;
    object ? out.open_object() : out.open_array();
    for (const auto& [name, child] : value.members) {
        if (object) out.key(name.text);
        show(child, hooks, out);
    }
    object ? out.close_object() : out.close_array();
}

void write(const Value& value, const Hooks& hooks, std::string& out) {
    const auto string = [&](const std::string& text) {
        return hooks.write_string ? hooks.write_string(text) : quoted(text);
    };
    switch (value.kind) {
        case Kind::null:
            out += "null";
            return;
        case Kind::boolean:
            out += value.truth ? "true" : "false";
            return;
        case Kind::string:
            out += string(value.text);
            return;
        case Kind::number:
            out += value.raw == "written" ? value.text : number(value.text, hooks).text;
            return;
        case Kind::array:
        case Kind::object:
            break;
    }
    const bool object = value.kind == Kind::object;
    out += object ? '{' : '[';
    for (std::size_t i = 0; i < value.members.size(); ++i) {
        if (i > 0) out += ',';
        if (object) out += string(value.members[i].first.text) + ":";
        write(value.members[i].second, hooks, out);
    }
    out += object ? '}' : ']';
}

/// NaN and the infinities are no JSON: null takes their place.
std::string shortest(double value) {
    if (!std::isfinite(value)) return "null";
    char text[40];
    return {text, std::to_chars(text, text + sizeof text, value, std::chars_format::scientific).ptr};
}

/// Lone surrogates are three bytes here; they do not count as stray bytes.
std::string without_surrogates(const std::string& text) {
    std::string out;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const bool surrogate =
            text[i] == '\xED' && i + 2 < text.size() && static_cast<unsigned char>(text[i + 1]) >= 0xA0;
        if (surrogate) {
            i += 2;
        } else {
            out += text[i];
        }
    }
    return out;
}

struct Builder {
    using Value = oracle::Value;
    const Hooks& hooks;

    [[nodiscard]] std::string stored(const std::string& text) const {
        if (!hooks.writes_stray_bytes && !is_utf8(without_surrogates(text)))
            throw std::invalid_argument("a string that is no text");
        return text;
    }
    [[nodiscard]] Value scalar(const nachklang::adapter::TraceLine& item) const {
        Value out;
        if (item.kind == "true" || item.kind == "false") {
            out.kind = Kind::boolean;
            out.truth = item.kind == "true";
        } else if (item.kind == "str") {
            out.kind = Kind::string;
            out.text = stored(item.text);
        } else if (item.kind == "int") {
            out.kind = Kind::number;
            out.text = item.text;
        } else if (item.kind == "binary64" || item.kind == "binary32") {
            out.kind = Kind::number;
            const double value = item.kind == "binary64" ? item.binary64() : static_cast<double>(item.binary32());
            out.text = hooks.write_double ? hooks.write_double(value) : shortest(value);
            out.raw = "written";
        } else if (item.kind == "cycle") {
            throw std::invalid_argument("a cycle");
        } else if (item.kind != "null") {
            throw nachklang::adapter::CannotRepresentError("no value for " + item.kind);
        }
        return out;
    }
    static Value array() { return {Kind::array, false, "", "", 0, {}}; }
    static Value object() { return {Kind::object, false, "", "", 0, {}}; }
    static void append(Value& to, Value value) { to.members.push_back({Value{}, std::move(value)}); }
    void put(Value& to, const nachklang::adapter::TraceLine& name, Value value) const {
        Value key{Kind::string, false, stored(name.name()), "", 0, {}};
        for (const auto& member : to.members)
            if (member.first.text == key.text) throw std::invalid_argument("two members of one name");
        to.members.push_back({std::move(key), std::move(value)});
    }
};

}  // namespace

bool is_utf8(const std::string& text) {
    std::string document = "\"";
    for (const char c : text)
        if (static_cast<unsigned char>(c) >= 0x20 && c != '"' && c != '\\') document += c;
    return oracle::recognise(document + "\"").value.has_value();
}

JsonCodec::JsonCodec(std::string_view fault) : fault_(fault) {
    if (fault.empty()) return;
    for (const Fault& row : json_faults()) {
        if (row.name != fault) continue;
        row.install(hooks_);
        return;
    }
    throw std::invalid_argument("no fault is called " + std::string(fault));
}

nachklang::adapter::Description JsonCodec::describe() const {
    // Records are read without the hooks of decoders: with a decoder's mistake they would be right where it is
    // wrong.
    std::vector<std::string> operations{"decode", "round-trip", "encode", "pieces", "sequence", "open-stream"};
    if (fault_.empty() || fault_.starts_with("record-"))
        operations.insert(operations.end(), {"bind", "bind-round-trip", "bind-encode"});
    return {.name = "seeded-faults",
            .version = fault_.empty() ? "sound" : fault_,
            .capabilities = {{"json", operations}},
            .settings = {{"simulated", "yes"}}};
}

Reply JsonCodec::parse(std::string_view document, Value& value) {
    if (poisoned_) {
        poisoned_ = false;
        return Reply::rejected("still in the middle of the document before");
    }
    Recognised recognised = oracle::recognise(document, hooks_.leniency, hooks_.deepest);
    if (!recognised.value) {
        poisoned_ = hooks_.state_kept_after_error;
        return Reply::rejected(recognised.too_deep ? "nested too deep" : "no JSON")
            .at_offset(recognised.error_offset);
    }
    value = std::move(*recognised.value);
    if (depth_of(value) > hooks_.crash_deeper_than) std::abort();
    if (hooks_.refuses && refused_anywhere(value, hooks_)) return Reply::rejected("refused");
    put_through(value, hooks_);
    return Reply::accepted();
}

Reply JsonCodec::decode(std::string_view, std::string_view, std::string_view document, TraceOut& out) {
    Value value;
    Reply reply = parse(document, value);
    if (reply.kind == "accepted" && out.wanted()) show(value, hooks_, out);
    return reply;
}

Reply JsonCodec::pieces(std::string_view format, std::string_view mode, const Pieces& pieces, TraceOut& out) {
    const auto document = hooks_.arrival ? hooks_.arrival(pieces) : joined(pieces);
    return document ? decode(format, mode, *document, out) : Reply::rejected("cannot go on after this piece");
}

Reply JsonCodec::bind(std::string_view, std::string_view, std::string_view record, std::string_view document,
                      TraceOut& out) {
    const Recognised recognised = oracle::recognise(document);
    if (!recognised.value) return Reply::rejected("no JSON").at_offset(recognised.error_offset);
    TraceOut printed(true);
    if (!print_as_record(*recognised.value, record, hooks_.record, printed))
        return Reply::rejected("a value that the record has no room for");
    const std::string lines = printed.take();
    out.line(std::string_view(lines).substr(0, lines.size() - 1));
    return Reply::accepted();
}

Reply JsonCodec::bind_round_trip(std::string_view format, std::string_view mode, std::string_view record,
                                 std::string_view document) {
    TraceOut fields(true);
    const Reply bound = bind(format, mode, record, document, fields);
    if (bound.kind != "accepted") return bound;
    return Reply::accepted(written_record(fields.take(), hooks_.record_writing));
}

Reply JsonCodec::bind_encode(std::string_view, std::string_view, std::string_view, std::string_view trace) {
    try {
        return Reply::accepted(written_record(trace, hooks_.record_writing));
    } catch (const std::invalid_argument& why) {
        return Reply::rejected(why.what());
    }
}

Reply JsonCodec::sequence(std::string_view format, std::string_view mode, std::string_view text, TraceOut& out) {
    for (const std::string& document : hooks_.documents(text)) {
        const Reply reply = decode(format, mode, document, out);
        if (reply.kind != "accepted") return hooks_.refusal_ends ? Reply::accepted() : reply;
    }
    const bool refused = hooks_.refuses_last_line_end && text.ends_with('\n');
    return refused ? Reply::rejected("a document was expected") : Reply::accepted();
}

/// A number that ends the text may go on, and what is refused there may be half a document.
Reply JsonCodec::open_stream(std::string_view format, std::string_view mode, std::string_view text, TraceOut& out) {
    Documents documents = hooks_.documents(text);
    const auto may_go_on = [&](const std::string& last) {
        return text.ends_with(last) && last.find_first_not_of("+-.eE0123456789") == std::string::npos;
    };
    if (!documents.empty() && (hooks_.one_behind || may_go_on(documents.back()))) documents.pop_back();
    if (hooks_.closes_what_is_open && !documents.empty()) documents.back() = closed(documents.back());
    for (std::size_t i = 0; i < documents.size(); ++i)
        if (Reply reply = decode(format, mode, documents[i], out); reply.kind != "accepted")
            return i + 1 < documents.size() ? reply : Reply::accepted();
    return Reply::accepted();
}

Reply JsonCodec::round_trip(std::string_view, std::string_view, std::string_view document) {
    Value value;
    Reply reply = parse(document, value);
    if (reply.kind != "accepted") return reply;
    std::string out;
    write(value, hooks_, out);
    return Reply::accepted(hooks_.write_document ? hooks_.write_document(out) : out);
}

Reply JsonCodec::encode(std::string_view, std::string_view, std::string_view trace) {
    try {
        const Value value = nachklang::adapter::build(trace, Builder{hooks_});
        std::string out;
        write(value, hooks_, out);
        return Reply::accepted(hooks_.write_document ? hooks_.write_document(out) : out);
    } catch (const std::invalid_argument& no_json) {
        return Reply::rejected(no_json.what());
    }
}

}  // namespace seeded_faults

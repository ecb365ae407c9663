// The adapter kit for C++: derive from Codec, and run it as an adapter process (serve) or inside your own unit
// tests.
//
// This header needs no file of the project but adapter_trace.hpp: copy both into yours, and adapter_markup.hpp
// beside them if your library writes XML. docs/protocol.md describes the protocol. A Codec is used from one thread
// at a time.
#pragma once

#include <unistd.h>

#include <algorithm>
#include <bit>
#include <charconv>
#include <cstdint>
#include <cstdio>
#include <exception>
#include <map>
#include <new>
#include <optional>
#include <stdexcept>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include <nachklang/adapter_trace.hpp>

namespace nachklang::adapter {

/// Thrown when a library's values cannot hold what its encoder is asked to write. The reply is `unsupported`.
struct CannotRepresentError : std::runtime_error {
    using std::runtime_error::runtime_error;
};

/// Thrown by `library` for an exception that left the library.
struct LibraryError : std::runtime_error {
    enum class Kind : std::uint8_t { rejected, threw, exhausted } kind;
    LibraryError(Kind what, const std::string& message) : std::runtime_error(message), kind(what) {}
};

namespace detail {

/// The message of the exception being handled, if it is a T.
template <class T>
std::optional<std::string> message_if() {
    try {
        throw;
    } catch (const T& error) {
        return error.what();
    } catch (...) {
        return std::nullopt;
    }
}

}  // namespace detail

/// Calls into the library under test. An exception that leaves the call is the library's: one of the types
/// `Documented` is its documented failure (`rejected`), std::bad_alloc is `exhausted`, any other is `threw`. An
/// exception raised outside such a call is a fault of the adapter (`adapter-fault`) and never booked on the
/// library.
///
///     const auto value = library<tower::parse_error>([&] { return tower::parse(document); });
template <class... Documented, class Call>
auto library(Call&& call) -> decltype(call()) {
    try {
        return call();
    } catch (const CannotRepresentError&) {
        throw;
    } catch (const LibraryError&) {
        throw;
    } catch (...) {
        std::optional<std::string> message;
        (void)((message = detail::message_if<Documented>()) || ...);
        if (message) throw LibraryError(LibraryError::Kind::rejected, *message);
        if (detail::message_if<std::bad_alloc>()) throw LibraryError(LibraryError::Kind::exhausted, "no memory");
        message = detail::message_if<std::exception>();
        throw LibraryError(LibraryError::Kind::threw, message.value_or("an exception of an unknown type"));
    }
}

/// One line of a value in trace notation, as an encoder's adapter needs it.
struct TraceLine {
    std::string
        kind;  ///< null true false int dec binary64 binary32 spelled str [ ] { } native cycle; of a key: its name's
    bool is_key = false;
    std::string text;    ///< of str, spelled, native: bytes (UTF-8 where well-formed); of numbers: digits
    std::string native;  ///< of native: the name of its kind

    [[nodiscard]] double binary64() const { return std::bit_cast<double>(hex()); }
    [[nodiscard]] float binary32() const { return std::bit_cast<float>(static_cast<std::uint32_t>(hex())); }
    /// An `int` that fits; nothing otherwise.
    template <class Integer>
    [[nodiscard]] std::optional<Integer> integer() const {
        Integer value = 0;
        const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value);
        if (error != std::errc{} || end != text.data() + text.size()) return std::nullopt;
        return value;
    }
    /// The name of a key that is a string. Other names throw CannotRepresentError.
    [[nodiscard]] const std::string& name() const {
        if (kind != "str") throw CannotRepresentError("names are strings here");
        return text;
    }

  private:
    [[nodiscard]] std::uint64_t hex() const { return std::stoull(text, nullptr, 16); }
};

/// Undoes a FIELD: its bytes, UTF-16 and UTF-32 as UTF-8 (a lone surrogate in three bytes).
inline std::string field_bytes(std::string_view field) {
    const auto colon = field.find(':');
    const std::size_t width = field.starts_with("u8") ? 2 : (field.starts_with("u16") ? 4 : 8);
    if (colon == std::string_view::npos) return {};
    field.remove_prefix(colon + 1);
    const auto unit = [&](std::size_t at) {
        std::uint32_t value = 0;
        std::from_chars(field.data() + at, field.data() + at + width, value, 16);
        return value;
    };
    std::string out;
    for (std::size_t at = 0; at + width <= field.size(); at += width) {
        std::uint32_t c = unit(at);
        if (width == 2) {
            out += static_cast<char>(c);
            continue;
        }
        if (width == 4 && (c & 0xFC00) == 0xD800 && at + 8 <= field.size() && (unit(at + 4) & 0xFC00) == 0xDC00) {
            c = 0x10000 + ((c & 0x3FF) << 10) + (unit(at + 4) & 0x3FF);
            at += 4;
        }
        const auto put = [&](std::uint32_t byte) { out += static_cast<char>(byte); };
        if (c < 0x80) {
            put(c);
        } else if (c < 0x800) {
            put(0xC0 | c >> 6), put(0x80 | (c & 0x3F));
        } else if (c < 0x10000) {
            put(0xE0 | c >> 12), put(0x80 | (c >> 6 & 0x3F)), put(0x80 | (c & 0x3F));
        } else {
            put(0xF0 | c >> 18), put(0x80 | (c >> 12 & 0x3F)), put(0x80 | (c >> 6 & 0x3F)), put(0x80 | (c & 0x3F));
        }
    }
    return out;
}

/// Converts what field_bytes returned to UTF-16, for libraries whose text is UTF-16. A lone surrogate in three
/// bytes becomes that surrogate.
inline std::u16string utf16_of(std::string_view bytes) {
    std::u16string out;
    for (std::size_t at = 0; at < bytes.size();) {
        const auto byte = [&](std::size_t i) {
            return at + i < bytes.size() ? static_cast<unsigned char>(bytes[at + i]) : 0U;
        };
        const unsigned first = byte(0);
        const std::size_t length = first < 0x80 ? 1 : first < 0xE0 ? 2 : first < 0xF0 ? 3 : 4;
        char32_t c = length == 1 ? first : first & (0x7FU >> length);
        bool well_formed = first < 0x80 || (first >= 0xC2 && first < 0xF5);
        for (std::size_t i = 1; i < length; ++i) {
            well_formed = well_formed && (byte(i) & 0xC0) == 0x80;
            c = c << 6 | (byte(i) & 0x3F);
        }
        well_formed = well_formed && (length < 3 || c >= (length == 3 ? 0x800U : 0x10000U)) && c < 0x110000;
        if (!well_formed) throw CannotRepresentError("this library's text is UTF-16");
        if (c >= 0x10000) {
            out += static_cast<char16_t>(0xD7C0 + (c >> 10));
            out += static_cast<char16_t>(0xDC00 + (c & 0x3FF));
        } else {
            out += static_cast<char16_t>(c);
        }
        at += length;
    }
    return out;
}

/// The lines of a value in trace notation.
inline std::vector<TraceLine> read_trace(std::string_view trace) {
    std::vector<TraceLine> out;
    while (!trace.empty()) {
        std::string_view line = trace.substr(0, trace.find('\n'));
        trace.remove_prefix(std::min(trace.size(), line.size() + 1));
        TraceLine item;
        const auto word = [&] {
            const std::string_view first = line.substr(0, line.find(' '));
            line.remove_prefix(std::min(line.size(), first.size() + 1));
            return first;
        };
        item.kind = word();
        if (item.kind == "key") {
            item.is_key = true;
            item.kind = line.starts_with('u') ? "str" : word();
        }
        if (item.kind == "native") item.native = word();
        const bool is_field = item.kind == "str" || item.kind == "spelled" || item.kind == "native";
        item.text = is_field ? field_bytes(line) : std::string(line);
        out.push_back(std::move(item));
    }
    return out;
}

/// Builds a library's value from a trace, without recursion. A Builder has a type Value and `Value scalar(const
/// TraceLine&)`, `Value array()`, `Value object()`, `void append(Value&, Value)`, `void put(Value&, const
/// TraceLine& name, Value)`.
template <class Builder>
typename Builder::Value build(std::string_view trace, Builder builder) {
    using Value = typename Builder::Value;
    struct Level {
        Value container;
        TraceLine name;
        bool is_object;
    };
    std::vector<Level> levels;
    std::optional<Value> done;
    for (TraceLine& item : read_trace(trace)) {
        if (item.is_key) {
            levels.back().name = std::move(item);
            continue;
        }
        if (item.kind == "[" || item.kind == "{") {
            const bool is_object = item.kind == "{";
            levels.push_back({is_object ? builder.object() : builder.array(), {}, is_object});
            continue;
        }
        if (item.kind == "]" || item.kind == "}") {
            done.emplace(std::move(levels.back().container));
            levels.pop_back();
        } else {
            done.emplace(builder.scalar(item));
        }
        if (levels.empty()) break;
        Level& level = levels.back();
        if (level.is_object) {
            builder.put(level.container, level.name, std::move(*done));
        } else {
            builder.append(level.container, std::move(*done));
        }
    }
    if (!done) throw CannotRepresentError("an empty value");
    return std::move(*done);
}

/// Bytes for an interface that takes text up to its first NUL.
inline const char* until_nul(const std::string& bytes) {
    if (bytes.find('\0') != std::string::npos) throw CannotRepresentError("text ends at NUL in this library");
    return bytes.c_str();
}

/// An answer to one request.
struct Reply {
    std::string kind = "unsupported";  ///< accepted rejected threw exhausted unclear unsupported adapter-fault
    std::string bytes;                 ///< trace, document, or message
    std::optional<std::uint64_t> offset{}, line{}, column{}, end{};
    std::string unit{};      ///< byte, point or utf16; empty if not reported
    std::string reported{};  ///< of an accepted document: errors that the library reported, one a line

    static Reply accepted(std::string bytes = {}) { return of("accepted", std::move(bytes)); }
    static Reply rejected(std::string message) { return of("rejected", std::move(message)); }
    static Reply threw(std::string message) { return of("threw", std::move(message)); }
    static Reply exhausted(std::string message) { return of("exhausted", std::move(message)); }
    static Reply unsupported(std::string why) { return of("unsupported", std::move(why)); }
    /// The adapter's own code failed: never booked on the library.
    static Reply adapter_fault(std::string message) { return of("adapter-fault", std::move(message)); }
    /// The library accepted the document and reported an error to its user all the same.
    Reply& and_reported(const std::string& message) { return reported += message + "\n", *this; }
    Reply& at_offset(std::uint64_t value) { return offset = value, *this; }
    Reply& at_line(std::uint64_t value) { return line = value, *this; }
    Reply& at_column(std::uint64_t value) { return column = value, *this; }

  private:
    static Reply of(const char* kind, std::string bytes) {
        Reply out;
        out.kind = kind;
        out.bytes = std::move(bytes);
        return out;
    }
};

/// One line of a hello: a format and the operations that are supported for it, such as {"json", {"decode",
/// "round-trip"}}.
struct Capability {
    std::string format;
    std::vector<std::string> operations;
};

/// A variant of an implementation, run as an implementation of its own.
struct Mode {
    std::string name;
    std::vector<std::string> cannot_represent{};
    std::map<std::string, std::string> settings{};
    std::vector<Capability> capabilities{};  ///< if it supports less than the implementation does
};

/// What the hello reports about an adapter.
struct Description {
    std::string name, version;
    std::string engine{}, engine_version{};  ///< the library it is built on, if that is another one
    std::vector<Capability> capabilities{};
    std::vector<std::string> cannot_represent{};
    std::map<std::string, std::string> settings{};
    std::vector<Mode> modes{};
};

/// A codec under test. Override the operations that it supports.
class Codec {
  public:
    virtual ~Codec() = default;
    [[nodiscard]] virtual Description describe() const = 0;
    /// Decodes the document and prints the value to `out`; Reply::accepted() is enough as an answer.
    virtual Reply decode(std::string_view format, std::string_view mode, std::string_view document, TraceOut& out) {
        return nothing(format, mode, document, out.wanted());
    }
    /// Decodes and encodes again, natively.
    virtual Reply round_trip(std::string_view format, std::string_view mode, std::string_view document) {
        return nothing(format, mode, document, false);
    }
    /// Decodes the document into a native record of a type of docs/records-of-fields.md, and prints its fields as
    /// the members of an object.
    virtual Reply bind(std::string_view format, std::string_view mode, std::string_view record,
                       std::string_view document, TraceOut& out) {
        return nothing(format, mode, record.empty() ? record : document, out.wanted());
    }
    /// Decodes the document into such a record, and encodes the record again, natively.
    virtual Reply bind_round_trip(std::string_view format, std::string_view mode, std::string_view record,
                                  std::string_view document) {
        return nothing(format, mode, record.empty() ? record : document, false);
    }
    /// Fills such a record with the fields of a value in trace notation, and encodes it, natively.
    virtual Reply bind_encode(std::string_view format, std::string_view mode, std::string_view record,
                              std::string_view trace) {
        return nothing(format, mode, record.empty() ? record : trace, false);
    }
    /// Decodes a document that arrives in pieces, none of them empty: together they are the document. Hand each to
    /// the library by itself, and say its end after the last. A position that is reported counts from the
    /// document's beginning.
    virtual Reply pieces(std::string_view format, std::string_view mode,
                         const std::vector<std::string_view>& pieces, TraceOut& out) {
        return nothing(format, mode, pieces.empty() ? "" : pieces.front(), out.wanted());
    }
    /// Decodes a text of several documents, one after another, with the library's interface for that, and prints
    /// their values one after another. Reply::accepted() means that the text ended where a document may; a refusal
    /// ends the list, and what was printed of the document that is refused is dropped.
    virtual Reply sequence(std::string_view format, std::string_view mode, std::string_view text, TraceOut& out) {
        return nothing(format, mode, text, out.wanted());
    }
    /// The same of a stream that gives one byte at a time and stays open behind the text: prints what the library
    /// hands over before it asks for more. It is never told of an end. What is printed of a half document is
    /// dropped.
    virtual Reply open_stream(std::string_view format, std::string_view mode, std::string_view text,
                              TraceOut& out) {
        return nothing(format, mode, text, out.wanted());
    }
    /// Encodes a value given in trace notation.
    virtual Reply encode(std::string_view format, std::string_view mode, std::string_view trace) {
        return nothing(format, mode, trace, false);
    }

  private:
    static Reply nothing(std::string_view, std::string_view, std::string_view, bool) {
        return Reply::unsupported("this adapter does not support the operation");
    }
};

namespace detail {

struct OperationInput {
    std::string_view format, mode, bytes;
    bool show;
    std::string_view record, cuts;
};

/// The document in pieces that end at the offsets `cuts`, "3,7", or after "each" byte.
inline std::vector<std::string_view> pieces_of(std::string_view document, std::string_view cuts) {
    std::vector<std::string_view> out;
    if (cuts == "each") {
        for (std::size_t i = 0; i < document.size(); ++i) out.push_back(document.substr(i, 1));
        return out;
    }
    std::size_t begin = 0;
    const auto cut = [&](std::size_t end) {
        if (end > begin && end <= document.size()) {
            out.push_back(document.substr(begin, end - begin));
            begin = end;
        }
    };
    while (!cuts.empty()) {
        const auto comma = cuts.find(',');
        std::size_t offset = 0;
        for (const char digit : cuts.substr(0, comma)) offset = offset * 10 + static_cast<std::size_t>(digit - '0');
        cut(offset);
        cuts = comma == std::string_view::npos ? "" : cuts.substr(comma + 1);
    }
    cut(document.size());
    return out;
}

/// The values of a sequence as one list. Of a refused or open one the last is dropped if it is not whole.
inline std::string listed(std::string_view lines, bool refused, bool open) {
    std::string out = "[\n";
    std::size_t depth = 0, whole = 0;
    for (std::size_t at = 0; at < lines.size();) {
        const std::size_t end = lines.find('\n', at) + 1;
        const char first = lines[at];
        const bool bracket = end - at == 2;
        if (bracket && (first == '[' || first == '{')) ++depth;
        if (bracket && (first == ']' || first == '}')) --depth;
        at = end;
        if (depth == 0) whole = end;
    }
    out += lines.substr(0, refused || open ? whole : lines.size());
    return out + (refused ? "native refused -\n]\n" : "]\n");
}

using SequenceOperation = Reply (Codec::*)(std::string_view, std::string_view, std::string_view, TraceOut&);
inline Reply run_sequence(Codec& codec, const OperationInput& in, SequenceOperation operation, bool open) {
    TraceOut out(in.show);
    Reply reply = (codec.*operation)(in.format, in.mode, in.bytes, out);
    const bool refused = reply.kind == "rejected";
    if (!refused && reply.kind != "accepted") return reply;
    reply.kind = "accepted";
    if (refused) reply.and_reported(reply.bytes);
    reply.bytes = in.show ? listed(out.take(), refused, open) : "";
    return reply;
}

struct OperationRow {
    std::string_view name;
    Reply (*run)(Codec& codec, const OperationInput& in);
};

/// The operations that this kit supports.
inline constexpr OperationRow operation_rows[] = {
    {"decode",
     [](Codec& codec, const OperationInput& in) {
         TraceOut out(in.show);
         Reply reply = codec.decode(in.format, in.mode, in.bytes, out);
         if (reply.kind == "accepted") reply.bytes = out.take();
         // An accepted document that holds nothing at all; a trace has at least one line.
         if (reply.kind == "accepted" && in.show && reply.bytes.empty()) reply.bytes = "text u8:\n";
         return reply;
     }},
    {"round-trip",
     [](Codec& codec, const OperationInput& in) { return codec.round_trip(in.format, in.mode, in.bytes); }},
    {"encode", [](Codec& codec, const OperationInput& in) { return codec.encode(in.format, in.mode, in.bytes); }},
    {"bind",
     [](Codec& codec, const OperationInput& in) {
         TraceOut out(in.show);
         Reply reply = codec.bind(in.format, in.mode, in.record, in.bytes, out);
         if (reply.kind == "accepted") reply.bytes = out.take();
         return reply;
     }},
    {"bind-round-trip",
     [](Codec& codec, const OperationInput& in) {
         return codec.bind_round_trip(in.format, in.mode, in.record, in.bytes);
     }},
    {"bind-encode",
     [](Codec& codec, const OperationInput& in) {
         return codec.bind_encode(in.format, in.mode, in.record, in.bytes);
     }},
    {"pieces",
     [](Codec& codec, const OperationInput& in) {
         TraceOut out(in.show);
         Reply reply = codec.pieces(in.format, in.mode, pieces_of(in.bytes, in.cuts), out);
         if (reply.kind == "accepted") reply.bytes = out.take();
         if (reply.kind == "accepted" && in.show && reply.bytes.empty()) reply.bytes = "text u8:\n";
         return reply;
     }},
    {"sequence",
     [](Codec& codec, const OperationInput& in) { return run_sequence(codec, in, &Codec::sequence, false); }},
    {"open-stream",
     [](Codec& codec, const OperationInput& in) { return run_sequence(codec, in, &Codec::open_stream, true); }},
};

}  // namespace detail

/// Runs one operation of a codec and turns what it throws into a reply.
inline Reply run_request(Codec& codec, std::string_view operation, std::string_view format, std::string_view mode,
                         std::string_view bytes, bool show, std::string_view record = {},
                         std::string_view cuts = {}) {
    try {
        for (const detail::OperationRow& row : detail::operation_rows)
            if (operation == row.name) return row.run(codec, {format, mode, bytes, show, record, cuts});
        return Reply::unsupported("unknown operation");
    } catch (const CannotRepresentError& what) {
        return Reply::unsupported(what.what());
    } catch (const LibraryError& error) {
        if (error.kind == LibraryError::Kind::rejected) return Reply::rejected(error.what());
        return error.kind == LibraryError::Kind::exhausted ? Reply::exhausted(error.what())
                                                           : Reply::threw(error.what());
    } catch (const std::exception& error) {
        return Reply::adapter_fault(error.what());
    } catch (...) {
        return Reply::adapter_fault("an exception of an unknown type");
    }
}

namespace detail {

inline std::string joined(const std::vector<std::string>& words) {
    std::string out;
    for (const std::string& word : words) out += " " + word;
    return out;
}

inline std::string hello(const Description& d) {
    std::string out = "nachklang-adapter 1\nimplementation " + d.name + " " + d.version + "\n";
    if (!d.engine.empty())
        out += "engine " + d.engine + (d.engine_version.empty() ? "" : " " + d.engine_version) + "\n";
    for (const Capability& capability : d.capabilities)
        out += capability.format + joined(capability.operations) + "\n";
    if (!d.cannot_represent.empty()) out += "cannot-represent" + joined(d.cannot_represent) + "\n";
    for (const auto& [key, value] : d.settings) out += "setting " + key + "=" + value + "\n";
    for (const Mode& mode : d.modes) {
        out += "mode " + mode.name + "\n";
        if (!mode.cannot_represent.empty()) out += "cannot-represent" + joined(mode.cannot_represent) + "\n";
        for (const auto& [key, value] : mode.settings) out += "setting " + key + "=" + value + "\n";
        for (const Capability& capability : mode.capabilities)
            out += capability.format + joined(capability.operations) + "\n";
    }
    return out + "\n";
}

inline std::string head(const Reply& reply, std::string_view request_id, std::size_t length) {
    std::string out = reply.kind + " " + std::to_string(length) + " id=" + std::string(request_id);
    const auto number = [&](const char* key, const std::optional<std::uint64_t>& value) {
        if (value) out += std::string(" ") + key + "=" + std::to_string(*value);
    };
    number("offset", reply.offset);
    number("line", reply.line);
    number("column", reply.column);
    if (!reply.unit.empty()) out += " unit=" + reply.unit;
    number("end", reply.end);
    if (!reply.reported.empty()) out += " reported=" + std::to_string(reply.reported.size());
    return out + "\n";
}

inline std::vector<std::string> split_words(const std::string& line) {
    std::vector<std::string> out(1);
    for (const char c : line) {
        if (c == ' ') {
            out.emplace_back();
        } else {
            out.back() += c;
        }
    }
    return out;
}

}  // namespace detail

/// Serves requests on standard input until it ends; returns the exit status. Whatever the codec prints to standard
/// output goes to standard error instead.
inline int serve(Codec& codec) {
    std::FILE* replies = ::fdopen(::dup(1), "wb");
    ::dup2(2, 1);
    const Description description = codec.describe();
    const auto send = [&](std::string_view bytes) { std::fwrite(bytes.data(), 1, bytes.size(), replies); };
    send(detail::hello(description));
    std::fflush(replies);
    std::string line;
    for (int c = std::getchar(); c != EOF; c = std::getchar()) {
        if (c != '\n') {
            line += static_cast<char>(c);
            continue;
        }
        const std::vector<std::string> words = detail::split_words(line);
        line.clear();
        if (words.size() < 3) return 2;
        std::string body(std::stoull(words[2]), '\0');
        if (std::fread(body.data(), 1, body.size(), stdin) != body.size()) return 2;
        std::string request_id = "0", mode, record, cuts;
        bool show = true, known = true;
        for (std::size_t i = 3; i < words.size(); ++i) {
            const auto equals = words[i].find('=');
            const std::string key = words[i].substr(0, equals),
                              value = equals == std::string::npos ? "" : words[i].substr(equals + 1);
            if (key == "id")
                request_id = value;
            else if (key == "mode")
                mode = value;
            else if (key == "record")
                record = value;
            else if (key == "cuts")
                cuts = value;
            else if (key == "show")
                show = value != "nothing";
            else
                known = false;
        }
        const Reply reply = known ? run_request(codec, words[0], words[1], mode, body, show, record, cuts)
                                  : Reply::unsupported("unknown key");
        send(detail::head(reply, request_id, reply.reported.size() + reply.bytes.size()));
        send(reply.reported);
        send(reply.bytes);
        std::fflush(replies);
    }
    return 0;
}

}  // namespace nachklang::adapter

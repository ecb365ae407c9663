// The two readings: a verdict in constant memory, and a tape of the whole document.
//
// The verdict pass knows offsets only. A checkpoint (line and column) follows it piece by piece; after an error a
// second pass walks from there to the place and names it.
#include <fmt/format.h>

#include <algorithm>
#include <unordered_set>
#include <utility>

#include "json/read/scanner.hpp"

namespace nachklang::json {
namespace {

struct FaultText {
    Fault fault;
    std::string_view expected;
    std::string_view clause;
};

constexpr std::array fault_texts{
    FaultText{Fault::value_expected, "expected a value", "RFC 8259, 3"},
    FaultText{Fault::value_or_close_expected, "expected a value or ']'", "RFC 8259, 5"},
    FaultText{Fault::name_or_close_expected, "expected a name in quotes or '}'", "RFC 8259, 4"},
    FaultText{Fault::name_expected, "expected a name in quotes", "RFC 8259, 4"},
    FaultText{Fault::colon_expected, "expected ':' after the name", "RFC 8259, 4"},
    FaultText{Fault::comma_or_bracket_expected, "expected ',' or ']'", "RFC 8259, 5"},
    FaultText{Fault::comma_or_brace_expected, "expected ',' or '}'", "RFC 8259, 4"},
    FaultText{Fault::end_expected, "expected the end of the document", "RFC 8259, 2"},
    FaultText{Fault::literal_misspelled, "expected the rest of true, false or null", "RFC 8259, 3"},
    FaultText{Fault::digit_expected, "expected a digit after '-'", "RFC 8259, 6"},
    FaultText{Fault::fraction_digit_expected, "expected a digit after the decimal point", "RFC 8259, 6"},
    FaultText{Fault::exponent_digit_expected, "expected a digit of the exponent", "RFC 8259, 6"},
    FaultText{Fault::leading_zero, "expected no digit after a leading zero", "RFC 8259, 6"},
    FaultText{Fault::control_in_string, "expected the rest of a string or its closing quote", "RFC 8259, 7"},
    FaultText{Fault::unknown_escape, "expected one of \" \\ / b f n r t u after '\\'", "RFC 8259, 7"},
    FaultText{Fault::hex_digit_expected, "expected a hexadecimal digit of a \\u escape", "RFC 8259, 7"},
    FaultText{Fault::ill_formed_utf8, "ill-formed UTF-8", "RFC 3629, 3"},
    FaultText{Fault::byte_order_mark, "expected a value, not a byte order mark", "RFC 8259, 8.1"},
};

std::string found(std::string_view rest) {
    if (rest.empty()) return "the end of the document";
    const auto step = text::decode_utf8(rest, 0);
    if (!step.well_formed) return fmt::format("the byte {:02x}", static_cast<unsigned char>(rest[0]));
    const std::string shown = text::printable(rest.substr(0, step.length));
    const bool control = step.scalar < 0x20 || step.scalar == 0x7F;
    return control ? fmt::format("U+{:04X}", static_cast<std::uint32_t>(step.scalar)) : fmt::format("'{}'", shown);
}

/// The most tokens that a text can have: brackets, and a scalar or name behind each comma, colon and opening
/// bracket.
std::size_t most_tokens(std::string_view text) {
    std::size_t out = 1;
    for (const char c : text) {
        out += c == '[' || c == '{' ? 2U : 0U;
        out += c == ']' || c == '}' || c == ',' || c == ':' ? 1U : 0U;
    }
    return out;
}

class TapeSink {
  public:
    static constexpr bool wants_flags = true;
    TapeSink(std::vector<Entry>& tape, std::string_view bytes) : tape_(tape), bytes_(bytes) {
        // Few documents have more tokens than this; pages that are not written to cost nothing.
        tape_.reserve(bytes.size() / 6 + 8);
    }
    void open(TokenKind kind, std::size_t at) {
        const std::size_t around = std::exchange(innermost_, tape_.size());
        add({kind, {}, at, around});
    }
    void close(TokenKind kind, std::size_t at) {
        const std::size_t opener = innermost_;
        innermost_ = std::exchange(tape_[opener].end, tape_.size());
        add({kind, {}, at, opener});
    }
    void string(std::size_t begin, std::size_t end, StringFlags flags, bool is_name) {
        add({is_name ? TokenKind::name : TokenKind::string, flags, begin, end});
    }
    void number(std::size_t begin, std::size_t end) { add({TokenKind::number, {}, begin, end}); }
    void literal(TokenKind kind, std::size_t begin, std::size_t end) { add({kind, {}, begin, end}); }

  private:
    /// A full tape gets its whole length at once: growing step by step would hold two tapes of a deep document.
    void add(const Entry& entry) {
        if (tape_.size() == tape_.capacity()) tape_.reserve(tape_.size() + most_tokens(bytes_.substr(entry.begin)));
        tape_.push_back(entry);
    }

    std::vector<Entry>& tape_;
    std::string_view bytes_;
    std::size_t innermost_ = 0;  // the container that is open; its `end` is the one around it so far
};

constexpr std::size_t block_size = std::size_t{64} * 1024;

/// Asked for instructions that are not there, the scanner does without.
Instructions those_present(Instructions wanted) {
    return wanted <= best_instructions() ? wanted : Instructions::scalar;
}

}  // namespace

Rejection describe(Fault fault, const Position& position, std::string_view rest) {
    const auto* const text =
        std::find_if(fault_texts.begin(), fault_texts.end(), [&](const FaultText& t) { return t.fault == fault; });
    if (fault == Fault::ill_formed_utf8) {
        const auto step = text::decode_utf8(rest, 0);
        const std::string bytes = text::to_hex(rest.substr(0, step.length));
        return {position, fmt::format("{} ({}{})", text->expected, bytes, step.cut_short ? ", cut short" : ""),
                std::string(text->clause), ""};
    }
    return {position, fmt::format("{}, found {}", text->expected, found(rest)), std::string(text->clause), ""};
}

Instructions best_instructions() {
#ifdef NACHKLANG_VECTORS
    return __builtin_cpu_supports("avx2") != 0 && __builtin_cpu_supports("bmi2") != 0 ? Instructions::avx2
                                                                                      : Instructions::sse2;
#else
    return Instructions::scalar;
#endif
}

struct VerdictReader::State {
    explicit State(Instructions instructions) : scanner(sink, those_present(instructions)) {}

    NoSink sink;
    Scanner<NoSink> scanner;
    text::PositionCounter checkpoint;  // where `kept` starts
    std::string kept;                  // the last bytes before the next piece, or all from the piece of the error

    void scan(std::string_view piece) {
        // An ill-formed sequence may have begun in the piece before: no error lies further back.
        constexpr std::size_t looks_back = 3;
        const bool sound = scanner.feed(piece);
        if (sound && piece.size() >= looks_back) {
            checkpoint.advance(kept);
            checkpoint.advance(piece.substr(0, piece.size() - looks_back));
            kept = piece.substr(piece.size() - looks_back);
            return;
        }
        kept.append(piece);
        if (!sound || kept.size() <= looks_back) return;
        checkpoint.advance(std::string_view(kept).substr(0, kept.size() - looks_back));
        kept.erase(0, kept.size() - looks_back);
    }
    /// The second pass.
    [[nodiscard]] Rejection locate() const {
        text::PositionCounter counter = checkpoint;
        const std::size_t inside = scanner.fault_offset() - counter.position().offset;
        counter.advance(std::string_view(kept).substr(0, inside));
        return describe(scanner.fault(), counter.position(), std::string_view(kept).substr(inside));
    }
};

VerdictReader::VerdictReader(Instructions instructions) : state_(std::make_unique<State>(instructions)) {}
VerdictReader::~VerdictReader() = default;

bool VerdictReader::feed(std::string_view piece) {
    // The message names the character at the error; its bytes may come with later pieces.
    constexpr std::size_t longest_character = 4;
    if (state_->scanner.fault() != Fault::none) {
        const std::size_t known = state_->checkpoint.position().offset + state_->kept.size();
        const std::size_t wanted = state_->scanner.fault_offset() + longest_character;
        if (known < wanted) state_->kept.append(piece.substr(0, wanted - known));
        return false;
    }
    while (!piece.empty() && state_->scanner.fault() == Fault::none) {
        const std::string_view part = piece.substr(0, block_size);
        piece.remove_prefix(part.size());
        state_->scan(part);
    }
    return state_->scanner.fault() == Fault::none;
}

std::optional<Rejection> VerdictReader::finish() {
    if (state_->scanner.finish()) return std::nullopt;
    return state_->locate();
}

std::size_t VerdictReader::deepest() const {
    return state_->scanner.nesting().deepest();
}

Document Document::read(std::string_view bytes, Instructions instructions) {
    Document out;
    out.read_next(bytes, instructions);
    return out;
}

void Document::read_next(std::string_view bytes, Instructions instructions) {
    bytes_ = bytes;
    rejection_.reset();
    tape_.clear();
    TapeSink sink(tape_, bytes);
    Scanner<TapeSink> scanner(sink, those_present(instructions));
    scanner.feed(bytes);
    if (!scanner.finish()) {
        tape_.clear();
        const std::size_t at = scanner.fault_offset();
        rejection_ = describe(scanner.fault(), text::position_of(bytes, at), bytes.substr(at));
    }
    deepest_ = scanner.nesting().deepest();
}

std::string_view Document::source(const Entry& entry) const {
    switch (entry.kind) {
        case TokenKind::array_open:
        case TokenKind::object_open: {
            const std::uint64_t end = tape_[entry.end].begin + 1;
            return bytes_.substr(entry.begin, end - entry.begin);
        }
        case TokenKind::array_close:
        case TokenKind::object_close:
            return bytes_.substr(entry.begin, 1);
        default:
            return bytes_.substr(entry.begin, entry.end - entry.begin);
    }
}

std::string Document::atoms(const Entry& entry) const {
    const std::string_view inside = bytes_.substr(entry.begin + 1, entry.end - entry.begin - 2);
    if (!entry.flags.escaped) return std::string(inside);
    std::string out;
    char32_t high = 0;
    const auto settle = [&] {
        if (high != 0) text::append_utf8(out, high);
        high = 0;
    };
    for (std::size_t at = 0; at < inside.size();) {
        if (inside[at] != '\\') {
            settle();
            out.push_back(inside[at++]);
            continue;
        }
        const char kind = inside[at + 1];
        at += 2;
        if (kind != 'u') {
            settle();
            constexpr std::string_view letters = "bfnrt", controls = "\b\f\n\r\t";
            const auto which = letters.find(kind);
            out.push_back(which == std::string_view::npos ? kind : controls[which]);
            continue;
        }
        char32_t unit = 0;
        for (std::size_t i = 0; i < 4; ++i)
            unit = unit * 16 + static_cast<char32_t>(detail::hex_value(static_cast<unsigned char>(inside[at + i])));
        at += 4;
        if (high != 0 && unit >= 0xDC00 && unit < 0xE000) {
            text::append_utf8(out, 0x10000 + ((high - 0xD800) << 10) + (unit - 0xDC00));
            high = 0;
            continue;
        }
        settle();
        if (unit >= 0xD800 && unit < 0xDC00) {
            high = unit;
        } else {
            text::append_utf8(out, unit);
        }
    }
    settle();
    return out;
}

std::size_t Document::after(std::size_t entry) const {
    const bool contains = tape_[entry].kind == TokenKind::array_open || tape_[entry].kind == TokenKind::object_open;
    return contains ? static_cast<std::size_t>(tape_[entry].end) + 1 : entry + 1;
}

bool Document::has_several_members(std::size_t entry) const {
    const std::size_t end = tape_[entry].end;
    return tape_[entry].kind == TokenKind::object_open && entry + 1 != end && after(entry + 2) != end;
}

// An object's names are reached without going into its values, so that nested objects need no memory a level.
std::vector<std::size_t> Document::repeated_names() const {
    std::vector<std::size_t> out;
    for (std::size_t object = 0; object < tape_.size(); ++object) {
        if (!has_several_members(object)) continue;
        std::unordered_set<std::string> names;
        for (std::size_t name = object + 1; name < tape_[object].end; name = after(name + 1))
            if (!names.insert(atoms(tape_[name])).second) out.push_back(name);
    }
    std::sort(out.begin(), out.end());
    return out;
}

std::string Document::trace_text() const {
    TraceWriter out;
    for (const Entry& entry : tape_) {
        switch (entry.kind) {
            case TokenKind::null_value:
                out.line("null");
                break;
            case TokenKind::true_value:
                out.line("true");
                break;
            case TokenKind::false_value:
                out.line("false");
                break;
            case TokenKind::number:
                out.text_line("spelled", source(entry));
                break;
            case TokenKind::string:
                out.text_line("str", atoms(entry));
                break;
            case TokenKind::name:
                out.text_line("key", atoms(entry));
                break;
            case TokenKind::array_open:
                out.line("[");
                break;
            case TokenKind::array_close:
                out.line("]");
                break;
            case TokenKind::object_open:
                out.line("{");
                break;
            case TokenKind::object_close:
                out.line("}");
                break;
        }
    }
    return out.take();
}

Trace Document::trace() const {
    return *Trace::parse(trace_text());
}

}  // namespace nachklang::json

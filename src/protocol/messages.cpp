// Parses and writes the lines of docs/protocol.md. Foreign text in a message is made printable and cut.
#include "protocol/messages.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <charconv>

namespace nachklang {

std::string_view name_of(OutcomeKind kind) {
    constexpr std::array<std::string_view, 13> names{
        "accepted", "rejected",  "threw",         "exhausted",    "unclear",  "unsupported", "adapter-fault",
        "crashed",  "timed-out", "out-of-memory", "broken-reply", "unsteady", "not-asked"};
    return names[static_cast<std::size_t>(kind)];
}
std::optional<OutcomeKind> find_outcome(std::string_view name) {
    for (std::size_t i = 0; i <= static_cast<std::size_t>(OutcomeKind::not_asked); ++i)
        if (name_of(static_cast<OutcomeKind>(i)) == name) return static_cast<OutcomeKind>(i);
    return std::nullopt;
}
bool is_answer(OutcomeKind kind) {
    return kind <= OutcomeKind::unsupported;
}
bool was_asked(OutcomeKind kind) {
    return kind != OutcomeKind::unsupported && kind != OutcomeKind::not_asked;
}
bool takes_all(OutcomeKind kind) {
    return kind == OutcomeKind::timed_out || kind == OutcomeKind::out_of_memory;
}
bool is_adapters_fault(OutcomeKind kind) {
    return kind == OutcomeKind::adapter_fault || kind == OutcomeKind::broken_reply;
}
Outcome not_asked(std::string why) {
    Outcome out;
    out.kind = OutcomeKind::not_asked;
    out.body = std::move(why);
    return out;
}

bool Subject::does(std::string_view format, Operation operation) const {
    const auto found = operations.find(std::string(format));
    return found != operations.end() && found->second.contains(std::string(name_of(operation)));
}

namespace protocol {
namespace {

std::vector<std::string_view> words_of(std::string_view line) {
    std::vector<std::string_view> out;
    while (true) {
        const auto space = line.find(' ');
        out.push_back(line.substr(0, space));
        if (space == std::string_view::npos) return out;
        line.remove_prefix(space + 1);
    }
}

std::optional<std::uint64_t> number(std::string_view text) {
    std::uint64_t value = 0;
    const auto result = std::from_chars(text.data(), text.data() + text.size(), value);
    if (result.ec != std::errc{} || result.ptr != text.data() + text.size()) return std::nullopt;
    return value;
}

std::string rest_after(std::string_view line, std::string_view word) {
    return std::string(line.substr(std::min(line.size(), word.size() + 1)));
}

Problem broken(std::string what) {
    return {"hello", std::move(what), "see docs/protocol.md"};
}

}  // namespace

Checked<Hello> parse_hello(std::string_view text) {
    Hello out;
    std::size_t line_number = 0;
    while (!text.empty()) {
        const auto end = text.find('\n');
        const std::string_view line = text.substr(0, end);
        text.remove_prefix(end == std::string_view::npos ? text.size() : end + 1);
        ++line_number;
        if (line.ends_with('\r'))
            return broken(fmt::format("line {} ends with CR LF: lines end with LF", line_number));
        if (std::any_of(line.begin(), line.end(), [](char c) { return c < ' ' || c > '~'; }))
            return broken(fmt::format("line {} is not printable ASCII: '{}'", line_number,
                                      text::printable_excerpt(line, 60)));
        const auto words = words_of(line);
        CannotRepresent& cannot_represent =
            out.modes.empty() ? out.cannot_represent : out.modes.back().cannot_represent;
        Settings& settings = out.modes.empty() ? out.settings : out.modes.back().settings;
        if (line_number == 1) {
            if (line != "nachklang-adapter 1")
                return broken(fmt::format("the first line is '{}', not 'nachklang-adapter 1'",
                                          text::printable_excerpt(line, 60)));
        } else if (words[0] == "implementation" && words.size() >= 2) {
            out.name = words[1];
            out.version = rest_after(rest_after(line, words[0]), words[1]);
        } else if (words[0] == "engine" && words.size() >= 2) {
            out.engine = words[1];
        } else if (words[0] == "mode" && words.size() == 2) {
            out.modes.push_back({std::string(words[1]), out.cannot_represent, out.settings, {}});
        } else if (words[0] == "cannot-represent") {
            for (std::size_t i = 1; i < words.size(); ++i) cannot_represent.emplace_back(words[i]);
        } else if (words[0] == "setting" && words.size() >= 2) {
            const std::string both = rest_after(line, words[0]);
            const auto equals = both.find('=');
            if (equals == std::string::npos)
                return broken(fmt::format("line {}: a setting is KEY=VALUE", line_number));
            settings[both.substr(0, equals)] = both.substr(equals + 1);
        } else if (find_format(words[0]) != nullptr) {
            auto& operations = out.modes.empty() ? out.operations : out.modes.back().operations;
            for (std::size_t i = 1; i < words.size(); ++i) {
                if (!find_operation(words[i]))
                    return broken(fmt::format("line {}: '{}' is not an operation", line_number,
                                              text::printable_excerpt(words[i], 60)));
                operations[std::string(words[0])].insert(std::string(words[i]));
            }
        } else {
            return broken(
                fmt::format("line {} is not understood: '{}'", line_number, text::printable_excerpt(line, 60)));
        }
    }
    if (out.name.empty()) return broken("no 'implementation NAME VERSION' line");
    if (out.operations.empty()) return broken("no line of a format, such as 'json decode'");
    return out;
}

Checked<ReplyHead> parse_reply_head(std::string_view line) {
    const auto bad = [&](const char* what) {
        return broken(fmt::format("{}: '{}'", what, text::printable_excerpt(line, 60)));
    };
    const auto words = words_of(line);
    if (words.size() < 3) return bad("a reply's first line is KIND LENGTH id=N");
    ReplyHead out;
    const auto kind = find_outcome(words[0]);
    // The later ones are what a runner sees, not what an adapter says.
    if (!kind || *kind > OutcomeKind::adapter_fault) return bad("an unknown kind of reply");
    out.kind = *kind;
    const auto length = number(words[1]);
    if (!length) return bad("a reply without a LENGTH");
    out.length = static_cast<std::size_t>(*length);
    bool has_id = false;
    for (std::size_t i = 2; i < words.size(); ++i) {
        const auto equals = words[i].find('=');
        const std::string_view key = words[i].substr(0, equals),
                               value = equals == std::string_view::npos ? "" : words[i].substr(equals + 1);
        const auto parsed = number(value);
        if (key == "unit") {
            out.unit = value;
            continue;
        }
        if (!parsed) return bad("a reply's key without a number");
        if (key == "id") {
            out.id = *parsed;
            has_id = true;
        } else if (key == "offset") {
            out.offset = parsed;
        } else if (key == "line") {
            out.line = parsed;
        } else if (key == "column") {
            out.column = parsed;
        } else if (key == "end") {
            out.end = parsed;
        } else if (key == "reported") {
            out.reported = static_cast<std::size_t>(*parsed);
        } else {
            return bad("a reply with an unknown key");
        }
    }
    if (!has_id) return bad("a reply without an id");
    if (out.reported > 0 && out.kind != OutcomeKind::accepted)
        return bad("only an accepted document is accepted and reported");
    if (out.reported > out.length) return bad("reported= is more than the reply's LENGTH");
    return out;
}

std::string request_head(const Request& request, std::uint64_t id, std::string_view mode,
                         std::string_view extra_key) {
    std::string out =
        fmt::format("{} {} {} id={}", name_of(request.operation), request.format->name(), request.body->size(), id);
    if (!mode.empty()) out += fmt::format(" mode={}", mode);
    if (!request.record.empty()) out += fmt::format(" record={}", request.record);
    if (!request.cuts.empty()) out += fmt::format(" cuts={}", request.cuts);
    if (!request.show) out += " show=nothing";
    if (!extra_key.empty()) out += fmt::format(" {}", extra_key);
    return out + "\n";
}

}  // namespace protocol
}  // namespace nachklang

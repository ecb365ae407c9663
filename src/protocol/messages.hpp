// The texts of the protocol: hello, request heads, reply heads.
#pragma once

#include <nachklang/runner.hpp>

namespace nachklang::protocol {

struct HelloMode {
    std::string name;
    CannotRepresent cannot_represent;
    Settings settings;
    std::map<std::string, std::set<std::string>> operations;  ///< of its own; empty: the ones that hold for all
};
struct Hello {
    std::string name, version, engine;
    std::map<std::string, std::set<std::string>> operations;
    CannotRepresent cannot_represent;
    Settings settings;
    std::vector<HelloMode> modes;
};
/// Parses a hello without its closing empty line; a malformed one is a problem.
Checked<Hello> parse_hello(std::string_view text);

/// Of a reply, and of a text that a command writes, in bytes.
inline constexpr std::size_t longest_body = std::size_t{256} << 20;

struct ReplyHead {
    OutcomeKind kind = OutcomeKind::accepted;
    std::size_t length = 0, reported = 0;
    std::uint64_t id = 0;
    std::optional<std::uint64_t> offset, line, column, end;
    std::string unit;
};
/// Parses the first line of a reply; a malformed one is a problem.
Checked<ReplyHead> parse_reply_head(std::string_view line);

std::string request_head(const Request& request, std::uint64_t id, std::string_view mode,
                         std::string_view extra_key = {});

}  // namespace nachklang::protocol

// Sheets as text: what is added keeps the comments and the order of what is there.
#include <fmt/format.h>

#include <algorithm>

#include <nachklang/corpus.hpp>
#include <nachklang/new_cases.hpp>
#include <nachklang/text.hpp>

namespace nachklang {
namespace {

bool is_control(char c) {
    return static_cast<unsigned char>(c) < 0x20 || c == 0x7f;
}

/// A TOML string of one line; `text` is UTF-8.
std::string quoted(std::string_view text) {
    const bool plain = std::none_of(text.begin(), text.end(), [](char c) { return c == '\'' || is_control(c); });
    if (plain) return fmt::format("'{}'", text);
    std::string out = "\"";
    for (const char c : text) {
        if (c == '"' || c == '\\')
            out += {'\\', c};
        else if (is_control(c))
            out += fmt::format("\\u{:04X}", static_cast<unsigned char>(c));
        else
            out += c;
    }
    return out + "\"";
}

}  // namespace

std::string sheet_head(const Format& format, const std::string& aspect, const std::string& standard) {
    return fmt::format("[sheet]\nformat   = {}\naspect   = {}\nstandard = {}\n", quoted(format.name()),
                       quoted(aspect), quoted(standard));
}

std::string sheet_entry(const NewCase& c) {
    std::string out = fmt::format("\n[[case]]\nid       = {}\n", quoted(c.id));
    if (text::first_ill_formed(c.document))
        out += fmt::format("hex      = '{}'\n", text::to_hex(c.document));
    else
        out += fmt::format("text     = {}\n", quoted(c.document));
    if (c.stance) out += fmt::format("stance   = {}\n", quoted(name_of(*c.stance)));
    if (!c.question.empty()) out += fmt::format("question = {}\n", quoted(c.question));
    if (!c.clause.empty()) out += fmt::format("clause   = {}\n", quoted(text::in_utf8(c.clause)));
    return out + fmt::format("why      = {}\n", quoted(text::in_utf8(c.why)));
}

}  // namespace nachklang

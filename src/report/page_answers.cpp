// See page_answers.hpp.
#include "report/page_answers.hpp"

#include <fmt/format.h>

#include <map>
#include <tuple>

#include <nachklang/record_types.hpp>
#include <nachklang/text.hpp>

namespace nachklang::page {
namespace {

constexpr std::size_t most_lines = 60, most_lost = 12, longest_line = 120, longest_message = 160;
constexpr std::size_t longest_document = std::size_t{16} << 10;

/// What differs between two trees, by the nodes of the second.
struct Marks {
    std::map<std::size_t, std::string> at;
    Json lost = Json::array();
};

Marks marks_of(const Tree& meant, const Tree& value) {
    constexpr std::size_t most = 200;
    Marks out;
    compare_trees(meant, value, most, [&](const TreePair& pair) {
        if (!pair.right) {
            if (out.lost.size() < most_lost) {
                const std::string& shown = meant.nodes[*pair.left].shown;
                out.lost.push_back(path_of(meant, *pair.left) + (shown.empty() ? "" : "  " + shown));
            }
            return;
        }
        out.at[*pair.right] = pair.left ? meant.nodes[*pair.left].shown : "nothing";
    });
    return out;
}

/// How many UTF-16 units printable text has.
std::size_t utf16_length(std::string_view utf8) {
    std::size_t out = 0;
    for (std::size_t at = 0; at < utf8.size();) {
        const auto step = text::decode_utf8(utf8, at);
        out += step.scalar > 0xFFFF ? 2 : 1;
        at += step.length;
    }
    return out;
}

std::optional<std::size_t> offset_of(std::string_view document, const ReportedResult& r) {
    if (r.offset) return text::counted_from(document, 0, *r.offset, r.unit);
    return r.line && r.column ? text::offset_of(document, *r.line, *r.column, r.unit) : std::nullopt;
}

std::string place_in_words(const ReportedResult& r) {
    std::string out;
    const auto add = [&](std::string_view name, const std::optional<std::uint64_t>& value) {
        if (value) out += fmt::format("{}{} {}", out.empty() ? "" : ", ", name, *value);
    };
    add("offset", r.offset);
    add("line", r.line);
    add("column", r.column);
    return out;
}

}  // namespace

std::optional<Trace> meant_value(const Case& c) {
    if (c.value) return c.value;
    if (c.expected) return c.expected;
    if (c.document == nullptr || c.sequence || c.document->size() > longest_document) return std::nullopt;
    const Reading reading = c.format->read(*c.document);
    return is_comparable(c, reading) ? std::optional(reading.trace) : std::nullopt;
}

Json tree_json(const Format& format, const Trace& value, const Trace* meant) {
    const Tree tree = format.tree(value, Layer::value);
    const Marks marks = meant == nullptr ? Marks{} : marks_of(format.tree(*meant, Layer::value), tree);
    Json lines = Json::array();
    std::size_t all = 0;
    for_each_line(tree, [&](const TreeLine& line) {
        if (++all > most_lines) return true;
        Json entry{line.depth, text::printable_excerpt(line.text, longest_line)};
        for (std::size_t node = line.node; node < line.node + line.nodes; ++node)
            if (const auto mark = marks.at.find(node); mark != marks.at.end() && entry.size() == 2)
                entry.push_back(text::printable_excerpt(mark->second, longest_line));
        lines.push_back(std::move(entry));
        return true;
    });
    Json out{{"lines", std::move(lines)}};
    if (!marks.lost.empty()) out["lost"] = marks.lost;
    if (all > most_lines) out["more"] = all - most_lines;
    return out;
}

Json refusals_json(std::string_view document, std::size_t shown, const std::vector<Refusal>& refusals) {
    // The same words may name different places: libraries count in different units.
    std::map<std::tuple<std::string, std::string, std::optional<std::size_t>>, Json> all;
    for (const Refusal& refusal : refusals) {
        const ReportedResult& r = *refusal.result;
        all[{place_in_words(r), text::printable_excerpt(r.message, longest_message), offset_of(document, r)}]
            .push_back(refusal.subject);
    }
    Json out = Json::array();
    for (auto& [key, subjects] : all) {
        const auto& [words, message, at] = key;
        const bool inside = at && *at <= shown;
        const Json index =
            inside ? Json(utf16_length(text::printable(document.substr(0, *at), true))) : Json(nullptr);
        out.push_back({index, words, message, std::move(subjects)});
    }
    return out;
}

}  // namespace nachklang::page

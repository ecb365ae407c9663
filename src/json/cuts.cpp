// What shrinking may leave out: ranges of siblings from half of them down to one, a container for one of its
// children, the inside of strings, digits, white space; at last single bytes. A text that is no JSON is cut by
// bytes only.
#include <algorithm>

#include "plug.hpp"

namespace nachklang::json {
namespace {

struct Sibling {
    std::size_t begin, end;   // with the name, where there is one
    std::size_t value_begin;  // of the value alone
};

void cut_ranges(const std::vector<Sibling>& children, std::vector<Cut>& out) {
    const std::size_t n = children.size();
    for (std::size_t length = n; length > 0; length /= 2) {
        for (std::size_t i = 0; i < n; i += length) {
            const std::size_t last = std::min(i + length, n) - 1;
            // With the comma before, or after where the range stands first.
            const std::size_t begin = i == 0 ? children[i].begin : children[i - 1].end;
            const std::size_t end = i == 0 && last + 1 < n ? children[last + 1].begin : children[last].end;
            out.push_back({begin, end, ""});
        }
    }
}

void cut_token(const Entry& entry, std::vector<Cut>& out) {
    if (entry.kind == TokenKind::string || entry.kind == TokenKind::name) {
        const std::size_t inside = entry.end - entry.begin - 2;
        if (inside > 1) out.push_back({entry.begin + 1, entry.end - 1, ""});
        if (inside > 2) {
            const std::size_t middle = entry.begin + 1 + inside / 2;
            out.push_back({entry.begin + 1, middle, ""});
            out.push_back({middle, entry.end - 1, ""});
        }
    } else if (entry.kind == TokenKind::number && entry.end - entry.begin > 1) {
        out.push_back({entry.begin, entry.end, "0"});
    }
}

void cut_bytes(std::string_view document, std::vector<Cut>& out) {
    for (std::size_t length = document.size() / 2; length > 1; length /= 2)
        for (std::size_t at = 0; at + length <= document.size(); at += length) out.push_back({at, at + length, ""});
    for (std::size_t at = 0; at < document.size(); ++at) out.push_back({at, at + 1, ""});
}

}  // namespace

std::vector<Cut> cuts_of(std::string_view bytes) {
    std::vector<Cut> structure, bytewise;
    const Document document = Document::read(bytes);
    std::vector<std::vector<Sibling>> open;
    std::size_t name_begin = 0;
    bool named = false;
    std::size_t last = 0;
    for (const Entry& entry : document.tape()) {
        const bool opens = entry.kind == TokenKind::array_open || entry.kind == TokenKind::object_open;
        const bool closes = entry.kind == TokenKind::array_close || entry.kind == TokenKind::object_close;
        const std::size_t end = opens || closes ? entry.begin + 1 : entry.end;
        for (std::size_t at = last; at < entry.begin; ++at)
            if (bytes[at] != ',' && bytes[at] != ':') structure.push_back({at, at + 1, ""});
        last = end;
        if (!opens && !closes) cut_token(entry, structure);
        if (entry.kind == TokenKind::name) {
            name_begin = entry.begin;
            named = true;
            continue;
        }
        if (closes) {
            const Entry& opener = document.tape()[entry.end];
            const auto& children = open.back();
            cut_ranges(children, structure);
            if (children.size() <= 64)
                for (const Sibling& child : children)
                    structure.push_back(
                        {opener.begin, end,
                         std::string(bytes.substr(child.value_begin, child.end - child.value_begin))});
            open.pop_back();
            if (!open.empty()) open.back().back().end = end;
            continue;
        }
        if (!open.empty()) open.back().push_back({named ? name_begin : entry.begin, end, entry.begin});
        named = false;
        if (opens) open.emplace_back();
    }
    for (std::size_t at = last; at < bytes.size() && document.accepted(); ++at)
        structure.push_back({at, at + 1, ""});
    const auto saved = [](const Cut& cut) { return cut.end - cut.begin - cut.replacement.size(); };
    std::stable_sort(structure.begin(), structure.end(),
                     [&](const Cut& a, const Cut& b) { return saved(a) > saved(b); });
    if (!document.accepted() || bytes.size() <= 4096) cut_bytes(bytes, bytewise);
    structure.insert(structure.end(), bytewise.begin(), bytewise.end());
    return structure;
}

}  // namespace nachklang::json

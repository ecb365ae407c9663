// See sequences.hpp.
#include "seeded_faults/sequences.hpp"

#include <algorithm>

namespace seeded_faults {
namespace {

constexpr std::string_view white_space = " \t\r\n", openers = "[{", closers = "]}", brackets_and_quote = "[]{}\"";

bool is_one_of(char c, std::string_view set) {
    return set.find(c) != std::string_view::npos;
}

/// Where a string ends that begins here; the text's end if it does not.
std::size_t string_end(std::string_view text, std::size_t at) {
    for (++at; at < text.size() && text[at] != '"'; ++at)
        if (text[at] == '\\') ++at;
    return std::min(at + 1, text.size());
}

std::size_t container_end(std::string_view text, std::size_t at) {
    for (std::size_t depth = 0; at < text.size();) {
        if (text[at] == '"') {
            at = string_end(text, at);
            continue;
        }
        depth = depth + (is_one_of(text[at], openers) ? 1 : 0) - (is_one_of(text[at], closers) ? 1 : 0);
        ++at;
        if (depth == 0) return at;
    }
    return text.size();
}

std::size_t token_end(std::string_view text, std::size_t at) {
    const std::size_t begin = at;
    while (at < text.size() && !is_one_of(text[at], white_space) && !is_one_of(text[at], brackets_and_quote)) ++at;
    return std::max(at, begin + 1);
}

std::size_t document_end(std::string_view text, std::size_t at) {
    if (is_one_of(text[at], openers)) return container_end(text, at);
    return text[at] == '"' ? string_end(text, at) : token_end(text, at);
}

bool is_number(std::string_view document) {
    return !document.empty() && is_one_of(document.front(), "-0123456789");
}

/// Splits a text, and asks after each document where to go on.
template <class GoOn>
Documents split(std::string_view text, GoOn go_on) {
    Documents out;
    for (std::size_t at = text.find_first_not_of(white_space); at < text.size();) {
        const std::size_t end = document_end(text, at);
        out.emplace_back(text.substr(at, end - at));
        at = text.find_first_not_of(white_space, std::min(go_on(out.back(), end), text.size()));
    }
    return out;
}

}  // namespace

Documents documents_of(std::string_view text) {
    return split(text, [](const std::string&, std::size_t end) { return end; });
}

std::string closed(std::string_view document) {
    std::string out, closing;
    for (std::size_t at = 0; at < document.size();) {
        const std::size_t end = document[at] == '"' ? string_end(document, at) : at + 1;
        if (document[at] == '[') closing.insert(closing.begin(), ']');
        if (document[at] == '{') closing.insert(closing.begin(), '}');
        if (is_one_of(document[at], closers) && !closing.empty()) closing.erase(closing.begin());
        out += document.substr(at, end - at);
        at = end;
    }
    if (!closing.empty() && out.ends_with(',')) out.pop_back();
    return out + closing;
}

Documents first_document(std::string_view text) {
    return split(text, [&](const std::string&, std::size_t) { return text.size(); });
}

Documents until_nul(std::string_view text) {
    return documents_of(text.substr(0, text.find('\0')));
}

Documents byte_behind_number_lost(std::string_view text) {
    return split(text,
                 [](const std::string& document, std::size_t end) { return end + (is_number(document) ? 1 : 0); });
}

Documents last_number_lost(std::string_view text) {
    Documents out = documents_of(text);
    if (!out.empty() && is_number(out.back()) && text.ends_with(out.back())) out.pop_back();
    return out;
}

Documents rest_behind_literal_lost(std::string_view text) {
    return split(text, [&](const std::string& document, std::size_t end) {
        const bool literal = document == "true" || document == "false" || document == "null";
        return literal && end < text.size() && !is_one_of(text[end], white_space) ? text.size() : end;
    });
}

Documents arrays_grow(std::string_view text) {
    Documents out = documents_of(text);
    for (std::size_t i = 1; i < out.size(); ++i) {
        const std::string& before = out[i - 1];
        if (before.size() > 2 && before.front() == '[' && before.back() == ']' && out[i].size() > 2 &&
            out[i].front() == '[')
            out[i] = before.substr(0, before.size() - 1) + "," + out[i].substr(1);
    }
    return out;
}

Documents commas_skipped(std::string_view text) {
    return split(text, [&](const std::string&, std::size_t end) {
        return end + (end < text.size() && text[end] == ',' ? 1 : 0);
    });
}

Documents buffer_end_lost(std::string_view text) {
    constexpr std::size_t buffer = 8192;
    std::string kept;
    for (std::size_t at = 0; at < text.size(); ++at)
        if (at % buffer != buffer - 1) kept += text[at];
    return documents_of(kept);
}

}  // namespace seeded_faults

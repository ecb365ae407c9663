// Strings. Both sides are atoms in their one byte form (see Field::atoms).
#include <fmt/format.h>
#include <unicode/normalizer2.h>
#include <unicode/unistr.h>

#include <algorithm>
#include <set>

#include "json/compare/explain.hpp"
#include "json/compare/tree.hpp"

namespace nachklang::json {
namespace {

/// Atoms one by one: UTF-8 sequences, surrogates of three bytes, FF and a stray byte.
std::vector<std::string_view> split_atoms(std::string_view atoms) {
    std::vector<std::string_view> out;
    for (std::size_t at = 0; at < atoms.size();) {
        const auto step = text::decode_utf8(atoms, at);
        std::size_t length = step.length;
        if (!step.well_formed) length = static_cast<unsigned char>(atoms[at]) == 0xFF ? 2 : 3;
        out.push_back(atoms.substr(at, length));
        at += length;
    }
    return out;
}

bool is_surrogate(std::string_view atom) {
    return atom.size() == 3 && static_cast<unsigned char>(atom[0]) == 0xED &&
           static_cast<unsigned char>(atom[1]) >= 0xA0;
}

/// The string with every lone surrogate put through `change`.
template <class Change>
std::string with_surrogates(std::string_view atoms, Change change) {
    std::string out;
    for (const std::string_view atom : split_atoms(atoms)) {
        if (is_surrogate(atom)) {
            out += change(atom);
        } else {
            out += atom;
        }
    }
    return out;
}

std::string as_escape(std::string_view surrogate, bool upper) {
    const auto byte = [&](std::size_t i) {
        return static_cast<unsigned>(static_cast<unsigned char>(surrogate[i]));
    };
    const unsigned unit = ((byte(0) & 0xF) << 12) | ((byte(1) & 0x3F) << 6) | (byte(2) & 0x3F);
    return upper ? fmt::format("\\u{:04X}", unit) : fmt::format("\\u{:04x}", unit);
}

/// Whether replacement characters replace lone surrogates and the rest is unchanged. No standard fixes how many
/// replace neighbouring ones (Unicode 15, 3.9): at least one for all of them, at most one a byte.
bool is_marked(std::string_view expected, std::string_view got, std::string_view mark) {
    const auto e = split_atoms(expected), g = split_atoms(got);
    std::size_t i = 0, j = 0;
    while (i < e.size() || j < g.size()) {
        std::size_t halves = 0, own = 0, marks = 0;  // of one run; the string may hold such marks itself
        for (; i < e.size() && (is_surrogate(e[i]) || e[i] == mark); ++i) ++(is_surrogate(e[i]) ? halves : own);
        for (; j < g.size() && g[j] == mark; ++j) ++marks;
        if (marks < own + (halves > 0 ? 1 : 0) || marks > own + 3 * halves) return false;
        if (i == e.size() || j == g.size()) break;
        if (e[i++] != g[j++]) return false;
    }
    return i == e.size() && j == g.size();
}

/// How a decoder answered the question of the lone surrogate, or nothing.
std::string surrogate_answer(std::string_view expected, std::string_view got) {
    const auto fixed = [&](std::string_view replacement) {
        return with_surrogates(expected, [&](std::string_view) { return std::string(replacement); }) == got;
    };
    if (is_marked(expected, got, "\xEF\xBF\xBD")) return "replaced";
    if (is_marked(expected, got, "?")) return "question-mark";
    if (fixed("")) return "dropped";
    for (const bool upper : {false, true})
        if (with_surrogates(expected, [&](std::string_view s) { return as_escape(s, upper); }) == got)
            return "left-escaped";
    return "";
}

bool is_normalised(std::string_view expected, std::string_view got) {
    UErrorCode status = U_ZERO_ERROR;
    const auto* const nfc = icu::Normalizer2::getNFCInstance(status);
    const auto* const nfd = icu::Normalizer2::getNFDInstance(status);
    if (U_FAILURE(status)) return false;
    const auto source = icu::UnicodeString::fromUTF8(std::string(expected));
    for (const auto* const form : {nfc, nfd}) {
        std::string out;
        form->normalize(source, status).toUTF8String(out);
        if (out == got) return true;
    }
    return false;
}

std::string bytes_as_latin1(std::string_view bytes) {
    std::string out;
    for (const char c : bytes) text::append_utf8(out, static_cast<unsigned char>(c));
    return out;
}

std::string pairs_as_halves(std::string_view atoms) {
    std::string out;
    for (const std::string_view atom : split_atoms(atoms)) {
        if (atom.size() != 4) {
            out += atom;
            continue;
        }
        const char32_t c = text::decode_utf8(atom, 0).scalar - 0x10000;
        text::append_utf8(out, 0xD800 + (c >> 10));
        text::append_utf8(out, 0xDC00 + (c & 0x3FF));
    }
    return out;
}

std::string lower(std::string_view text) {
    std::string out;
    icu::UnicodeString::fromUTF8(std::string(text)).foldCase().toUTF8String(out);
    return out;
}

/// Whether `got` is the expected string with its escapes not decoded.
bool is_left_escaped(std::string_view expected, std::string_view got) {
    if (got.find('\\') == std::string_view::npos) return false;
    const std::string quoted = "\"" + std::string(got) + "\"";
    const Document document = Document::read(quoted);
    return document.accepted() && document.tape().front().kind == TokenKind::string &&
           document.atoms(document.tape().front()) == expected;
}

/// The same where some escapes were decoded: what only an escape can write has become one again.
bool is_partly_left_escaped(std::string_view expected, std::string_view got) {
    std::string escaped;
    for (const char c : got) {
        if (static_cast<unsigned char>(c) < 0x20)
            escaped += fmt::format("\\u{:04x}", static_cast<unsigned>(c));
        else
            escaped += c == '"' ? std::string("\\\"") : std::string(1, c);
    }
    return escaped != got && is_left_escaped(expected, escaped) && got.find('\\') != std::string_view::npos;
}

/// The same for long strings: every character that gave way left one mark, or every one left a mark a byte.
bool is_replaced_alike(const std::vector<std::string_view>& expected, const std::vector<std::string_view>& got,
                       bool a_mark_a_byte) {
    std::size_t j = 0;
    for (const std::string_view atom : expected) {
        if (j < got.size() && got[j] == atom) {
            ++j;
            continue;
        }
        for (std::size_t k = 0; k < (a_mark_a_byte ? atom.size() : 1); ++k, ++j)
            if (atom.size() == 1 || j >= got.size() || (got[j] != "\xEF\xBF\xBD" && got[j] != "?")) return false;
    }
    return j == got.size();
}

/// Whether each character above ASCII is kept, or replaced by one or more replacement characters (at most one a
/// byte).
bool is_replaced(std::string_view expected, std::string_view got) {
    const auto g = split_atoms(got);
    // The search below takes quadratic time where all is marks.
    if (constexpr std::size_t long_string = 2000; g.size() > long_string) {
        const auto e = split_atoms(expected);
        return expected != got && (is_replaced_alike(e, g, false) || is_replaced_alike(e, g, true));
    }
    const auto is_mark = [&](std::size_t j) { return j < g.size() && (g[j] == "\xEF\xBF\xBD" || g[j] == "?"); };
    std::set<std::size_t> reached{0};  // how many atoms of `got` the atoms so far may account for
    for (const std::string_view atom : split_atoms(expected)) {
        std::set<std::size_t> next;
        for (const std::size_t j : reached) {
            if (j < g.size() && g[j] == atom) next.insert(j + 1);
            for (std::size_t k = 0; atom.size() > 1 && k < atom.size() && is_mark(j + k); ++k)
                next.insert(j + k + 1);
        }
        reached = std::move(next);
    }
    return expected != got && reached.contains(g.size());
}

/// Whether `got` is `expected` without some of its control characters.
bool lost_controls(std::string_view expected, std::string_view got) {
    std::size_t i = 0;
    for (const char c : expected) {
        if (i < got.size() && got[i] == c) {
            ++i;
        } else if (static_cast<unsigned char>(c) >= 0x20) {
            return false;
        }
    }
    return i == got.size() && got.size() < expected.size();
}

bool is_trimmed(std::string_view expected, std::string_view got) {
    constexpr std::string_view white_space = " \t\n\r";
    const auto without_first = [&](std::string_view text) {
        return text.substr(std::min(text.find_first_not_of(white_space), text.size()));
    };
    const auto without_last = [&](std::string_view text) {
        return text.substr(0, text.find_last_not_of(white_space) + 1);
    };
    return got != expected && (got == without_first(expected) || got == without_last(expected) ||
                               got == without_first(without_last(expected)));
}

/// The lone surrogates of a text, one after another.
std::vector<std::string_view> surrogates_of(const std::vector<std::string_view>& atoms) {
    std::vector<std::string_view> out;
    std::copy_if(atoms.begin(), atoms.end(), std::back_inserter(out), is_surrogate);
    return out;
}

std::string string_cause(std::string_view expected, std::string_view got) {
    const auto nul = expected.find('\0');
    if (nul != std::string_view::npos && got == expected.substr(0, nul)) return "string/cut-at-nul";
    if (is_left_escaped(expected, got)) return "string/escape-not-undone";
    if (is_partly_left_escaped(expected, got)) return "string/escape-kept-in-places";
    if (got == pairs_as_halves(expected)) return "string/not-joined-pair";
    if (got == bytes_as_latin1(expected)) return "string/mojibake";
    if (is_normalised(expected, got)) return "string/normalised";
    if (lost_controls(expected, got)) return "string/escape-lost";
    if (is_trimmed(expected, got)) return "string/trimmed";
    if (!got.empty() && expected.starts_with(got)) return "string/cut";
    if (is_replaced(expected, got)) return "string/replaced";
    if (lower(expected) == lower(got)) return "string/case";
    return "string/changed";
}

}  // namespace

Explained explain_string(std::string_view expected, std::string_view got, bool is_name) {
    const std::string detail =
        fmt::format("\"{}\" became \"{}\"", text::printable_atoms(expected, 40), text::printable_atoms(got, 40));
    const auto atoms = split_atoms(expected);
    if (std::any_of(atoms.begin(), atoms.end(), is_surrogate)) {
        const std::string answer = surrogate_answer(expected, got);
        if (!answer.empty()) return {"", "lone-surrogate", answer, detail};
        const bool kept = surrogates_of(atoms) == surrogates_of(split_atoms(got));
        if (!kept && expected.find('\0') == std::string_view::npos)
            return {"string/surrogate-changed", "", "", detail};
    }
    std::string cause = string_cause(expected, got);
    if (is_name) cause = cause == "string/cut-at-nul" ? "name/cut-at-nul" : "name/changed";
    return {cause, "", "", detail};
}

}  // namespace nachklang::json

// Small functions from which the rows of json_faults.cpp are made.
#pragma once

#include <algorithm>
#include <charconv>
#include <cmath>
#include <cstdlib>
#include <unordered_map>

#include "seeded_faults/json_codec.hpp"

namespace seeded_faults {

inline StoredNumber binary(double value) {
    char text[40];
    std::snprintf(text, sizeof text, "%.17g", value);
    std::string out = text;
    if (!std::isfinite(value)) out = "null";
    nachklang::adapter::TraceOut trace(true);
    trace.binary64(value);
    return {trace.take(), out};
}
inline StoredNumber integer(const std::string& digits) {
    return {"int " + digits + "\n", digits};
}

inline bool is_integer(const std::string& spelled) {
    return spelled.find_first_of(".eE") == std::string::npos;
}
/// Far from both ends of a double's range.
inline bool in_midrange(const std::string& spelled) {
    const double magnitude = std::fabs(std::strtod(spelled.c_str(), nullptr));
    return magnitude > 1e-290 && magnitude < 1e290;
}
inline std::size_t significant(const std::string& spelled) {
    std::size_t out = 0;
    for (const char c : spelled.substr(0, spelled.find_first_of("eE")))
        if (c >= '0' && c <= '9' && (c != '0' || out > 0)) ++out;
    return out;
}

/// Everything after the first `count` significant digits becomes 0.
inline std::string cut_digits(const std::string& spelled, std::size_t count) {
    std::string out = spelled;
    std::size_t seen = 0;
    for (std::size_t i = 0; i < out.size() && out[i] != 'e' && out[i] != 'E'; ++i) {
        if (out[i] < '0' || out[i] > '9' || (out[i] == '0' && seen == 0)) continue;
        if (++seen > count) out[i] = '0';
    }
    return out;
}

/// More than a rounding error is lost by cutting after nine digits.
inline bool cut_shows(const std::string& spelled) {
    const double whole = std::strtod(spelled.c_str(), nullptr),
                 cut = std::strtod(cut_digits(spelled, 9).c_str(), nullptr);
    return std::fabs(whole - cut) > 1e-13 * std::fabs(whole);
}

inline std::string replaced(std::string text, std::string_view from, std::string_view to) {
    for (std::size_t at = text.find(from); at != std::string::npos; at = text.find(from, at + to.size()))
        text.replace(at, from.size(), to);
    return text;
}

inline std::string non_ascii_as_question_marks(const std::string& text) {
    std::string out;
    for (const char c : text) {
        const auto byte = static_cast<unsigned char>(c);
        if (byte < 0x80)
            out += c;
        else if ((byte & 0xC0) == 0xC0)
            out += '?';
    }
    return out;
}

inline std::string as_latin1(const std::string& text) {
    std::string out;
    for (const char c : text) {
        const auto byte = static_cast<unsigned char>(c);
        if (byte < 0x80) {
            out += c;
        } else {
            out += static_cast<char>(0xC0 | (byte >> 6));
            out += static_cast<char>(0x80 | (byte & 0x3F));
        }
    }
    return out;
}

/// Pairs of surrogates as two characters of three bytes each.
inline std::string pairs_split(const std::string& text) {
    std::string out;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const auto byte = [&](std::size_t k) {
            return static_cast<unsigned>(static_cast<unsigned char>(text[i + k]));
        };
        if (byte(0) < 0xF0 || i + 3 >= text.size()) {
            out += text[i];
            continue;
        }
        const unsigned c =
            ((byte(0) & 7) << 18 | (byte(1) & 63) << 12 | (byte(2) & 63) << 6 | (byte(3) & 63)) - 0x10000;
        for (const unsigned unit : {0xD800 + (c >> 10), 0xDC00 + (c & 0x3FF)}) {
            out += static_cast<char>(0xE0 | (unit >> 12));
            out += static_cast<char>(0x80 | ((unit >> 6) & 63));
            out += static_cast<char>(0x80 | (unit & 63));
        }
        i += 3;
    }
    return out;
}

inline bool has_surrogate_bytes(const std::string& text) {
    for (std::size_t i = 0; i + 1 < text.size(); ++i)
        if (text[i] == '\xED' && static_cast<unsigned char>(text[i + 1]) >= 0xA0) return true;
    return false;
}

/// The whole string as written where an escape starts in the last byte of a 16-byte block of the document.
inline std::string raw_at_block_edge(const Value& string, std::size_t block) {
    for (std::size_t i = 0; i < string.raw.size(); ++i) {
        if (string.raw[i] != '\\') continue;
        if ((string.offset + 1 + i) % block == block - 1) return string.raw;
        ++i;
    }
    return string.text;
}

/// At most `most` bytes, no character split.
inline std::string cut_whole(const std::string& text, std::size_t most) {
    if (text.size() <= most) return text;
    while (most > 0 && (static_cast<unsigned char>(text[most]) & 0xC0) == 0x80) --most;
    return text.substr(0, most);
}

/// A character of several bytes that goes over the edge of a block of the document becomes a question mark.
inline std::string lost_over_block_edge(const Value& string, std::size_t block) {
    if (string.raw != string.text) return string.text;
    std::string out;
    for (std::size_t i = 0; i < string.text.size(); ++i) {
        const auto byte = static_cast<unsigned char>(string.text[i]);
        const std::size_t length = byte < 0xC0 ? 1U : (byte < 0xE0 ? 2U : (byte < 0xF0 ? 3U : 4U));
        const std::size_t at = (string.offset + 1 + i) % block;
        if (length > 1 && at + length > block) {
            out += '?';
        } else {
            out += string.text.substr(i, length);
        }
        i += length - 1;
    }
    return out;
}

/// Members that a codec takes for one: only the last stays.
inline void merge_members(Value& v, const std::function<std::string(const std::string&)>& key) {
    if (v.kind != Kind::object) return;
    std::vector<Member> kept;
    for (auto& member : v.members) {
        const auto same = std::find_if(kept.begin(), kept.end(), [&](const auto& k) {
            return k.first.text != member.first.text && key(k.first.text) == key(member.first.text);
        });
        if (same != kept.end()) kept.erase(same);
        kept.push_back(std::move(member));
    }
    v.members = std::move(kept);
}

inline std::string lower(std::string text) {
    for (char& c : text)
        if (c >= 'A' && c <= 'Z') c = static_cast<char>(c + 32);
    return text;
}

inline std::string shortest_single(float value) {
    char text[40];
    return {text, std::to_chars(text, text + sizeof text, value).ptr};
}

inline std::string printed(const char* format, double value) {
    char text[64];
    std::snprintf(text, sizeof text, format, value);
    return std::isfinite(value) ? text : "null";
}

/// Whether a value is a number, and spelled in such a way.
inline bool is_number_spelled(const Value& v, bool (*is)(const std::string& spelled)) {
    return v.kind == Kind::number && is(v.text);
}

inline void keep_one_of_duplicates(Value& v, bool first) {
    if (v.kind != Kind::object) return;
    std::vector<Member> kept;
    std::unordered_map<std::string, std::size_t> places;
    for (auto& member : v.members) {
        const auto [same, is_new] = places.emplace(member.first.text, kept.size());
        if (is_new)
            kept.push_back(std::move(member));
        else if (!first)
            kept[same->second].second = std::move(member.second);
    }
    v.members = std::move(kept);
}

}  // namespace seeded_faults

// UTF-8 by Unicode's table 3-7: each lead byte fixes the range of its second byte, all later ones are 80..BF. An
// ill-formed sequence ends before the first byte that cannot continue it; that is its maximal subpart.
#include <algorithm>
#include <cstring>

#include <nachklang/text.hpp>

namespace nachklang::text {
namespace {

struct Lead {
    std::size_t length;
    unsigned char second_low, second_high;
};

Lead lead_of(unsigned char byte) {
    if (byte >= 0xC2 && byte <= 0xDF) return {2, 0x80, 0xBF};
    if (byte == 0xE0) return {3, 0xA0, 0xBF};
    if (byte == 0xED) return {3, 0x80, 0x9F};
    if (byte >= 0xE1 && byte <= 0xEF) return {3, 0x80, 0xBF};
    if (byte == 0xF0) return {4, 0x90, 0xBF};
    if (byte >= 0xF1 && byte <= 0xF3) return {4, 0x80, 0xBF};
    if (byte == 0xF4) return {4, 0x80, 0x8F};
    return {0, 0, 0};
}

}  // namespace

Utf8Step decode_utf8(std::string_view bytes, std::size_t at) {
    const auto byte = [&](std::size_t i) { return static_cast<unsigned char>(bytes[i]); };
    const unsigned char first = byte(at);
    if (first < 0x80) return {first, 1, true, false};
    const Lead lead = lead_of(first);
    if (lead.length == 0) return {0, 1, false, false};
    char32_t scalar = first & (0x7FU >> lead.length);
    for (std::size_t i = 1; i < lead.length; ++i) {
        if (at + i >= bytes.size()) return {0, i, false, true};
        const unsigned char next = byte(at + i);
        const unsigned char low = i == 1 ? lead.second_low : 0x80;
        const unsigned char high = i == 1 ? lead.second_high : 0xBF;
        if (next < low || next > high) return {0, i, false, false};
        scalar = (scalar << 6) | (next & 0x3FU);
    }
    return {scalar, lead.length, true, false};
}

namespace {

/// Past all ASCII from `at` on, a word at a time.
std::size_t skip_ascii(std::string_view bytes, std::size_t at) {
    constexpr std::uint64_t high_bits = 0x8080'8080'8080'8080;
    for (std::uint64_t word[4]; at + sizeof word <= bytes.size(); at += sizeof word) {
        std::memcpy(word, bytes.data() + at, sizeof word);
        if (((word[0] | word[1] | word[2] | word[3]) & high_bits) != 0) break;
    }
    while (at < bytes.size() && static_cast<signed char>(bytes[at]) >= 0) ++at;
    return at;
}

}  // namespace

std::optional<std::size_t> first_ill_formed(std::string_view bytes) {
    for (std::size_t at = skip_ascii(bytes, 0); at < bytes.size(); at = skip_ascii(bytes, at)) {
        const Utf8Step step = decode_utf8(bytes, at);
        if (!step.well_formed) return at;
        at += step.length;
    }
    return std::nullopt;
}

void append_utf8(std::string& out, char32_t c) {
    const auto put = [&](unsigned value) { out.push_back(static_cast<char>(value)); };
    if (c < 0x80) {
        put(c);
    } else if (c < 0x800) {
        put(0xC0 | (c >> 6));
        put(0x80 | (c & 0x3F));
    } else if (c < 0x10000) {
        put(0xE0 | (c >> 12));
        put(0x80 | ((c >> 6) & 0x3F));
        put(0x80 | (c & 0x3F));
    } else {
        put(0xF0 | (c >> 18));
        put(0x80 | ((c >> 12) & 0x3F));
        put(0x80 | ((c >> 6) & 0x3F));
        put(0x80 | (c & 0x3F));
    }
}

namespace {

/// Counts the bytes that satisfy `is`, in strips whose count fits one byte; compilers turn them into vector code.
template <class Predicate>
std::size_t count_bytes(std::string_view bytes, Predicate is) {
    constexpr std::size_t strip = 128;
    std::size_t total = 0;
    for (; bytes.size() >= strip; bytes.remove_prefix(strip)) {
        std::uint8_t count = 0;
        for (std::size_t i = 0; i < strip; ++i) count = static_cast<std::uint8_t>(count + (is(bytes[i]) ? 1 : 0));
        total += count;
    }
    return total + static_cast<std::size_t>(std::count_if(bytes.begin(), bytes.end(), is));
}

std::size_t count_of(std::string_view bytes, char wanted) {
    return count_bytes(bytes, [wanted](char c) { return c == wanted; });
}

std::size_t count_pairs(std::string_view bytes) {
    std::size_t pairs = 0;
    for (auto at = bytes.find("\r\n"); at != std::string_view::npos; at = bytes.find("\r\n", at + 2)) ++pairs;
    return pairs;
}

}  // namespace

void PositionCounter::advance(std::string_view bytes) {
    if (bytes.empty()) return;
    std::size_t line_ends = count_of(bytes, '\n');
    if (bytes.find('\r') != std::string_view::npos) line_ends += count_of(bytes, '\r') - count_pairs(bytes);
    if (after_cr_ && bytes.front() == '\n') --line_ends;
    position_.line += line_ends;
    std::string_view open = bytes;
    if (line_ends != 0 || bytes.front() == '\n') {
        const auto ends_line = [](char c) { return c == '\n' || c == '\r'; };
        const auto last_end = std::find_if(bytes.rbegin(), bytes.rend(), ends_line);
        open = bytes.substr(static_cast<std::size_t>(bytes.rend() - last_end));
        position_.column = 1;
    }
    position_.column += count_bytes(open, [](char c) { return static_cast<signed char>(c) >= -0x40; });
    position_.offset += bytes.size();
    after_cr_ = bytes.back() == '\r';
}

Position position_of(std::string_view document, std::size_t offset) {
    PositionCounter counter;
    counter.advance(document.substr(0, offset));
    return counter.position();
}

}  // namespace nachklang::text

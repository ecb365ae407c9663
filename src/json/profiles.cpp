// Profiles: what RFC 7493 and RFC 8785 demand of a document beyond RFC 8259. They constrain messages, so they only
// advise writers; no decoder fails for accepting a document that breaks them.
#include <fmt/format.h>

#include <algorithm>
#include <array>

#include "json/internal.hpp"
#include "json/questions.hpp"

namespace nachklang::json {
namespace {

constexpr std::array<Profile, 2> profiles{{{"i-json", "RFC 7493", "messages that every receiver understands alike"},
                                           {"jcs", "RFC 8785", "the one canonical spelling"}}};

bool has_noncharacter(std::string_view atoms) {
    for (std::size_t at = 0; at < atoms.size();) {
        const text::Utf8Step step = text::decode_utf8(atoms, at);
        at += step.length;
        const bool last_two = (step.scalar & 0xFFFE) == 0xFFFE;
        if (step.well_formed && (last_two || (step.scalar >= 0xFDD0 && step.scalar <= 0xFDEF))) return true;
    }
    return false;
}

/// RFC 7493, 2.2: no greater magnitude or precision than binary64 has, and integers within ±(2^53-1).
std::string_view beyond_binary64(std::string_view source) {
    const Decimal value = *Decimal::parse(source);
    const std::uint64_t nearest = number::nearest_binary64(value);
    if (number::is_infinite64(nearest)) return "a number of greater magnitude than binary64 has";
    static const Decimal safe = *Decimal::parse("9007199254740991");
    if (value.is_integer() && Decimal::compare_magnitude(value, safe) > 0)
        return "an integer beyond 2^53-1 in magnitude: not every receiver keeps it exactly";
    if (value.digits().size() > 17 && *Decimal::from_binary64(nearest) != value)
        return "a number of greater precision than binary64 has";
    return {};
}

std::vector<Advice> interoperable(const Document& document) {
    std::vector<Advice> out;
    const auto add = [&](std::size_t offset, std::string_view message, const char* clause, Basis basis) {
        out.push_back({text::position_of(document.bytes(), offset), std::string(message), clause, basis});
    };
    const std::vector<std::size_t> repeated = document.repeated_names();
    for (std::size_t at = 0; at < document.tape().size(); ++at) {
        const Entry& entry = document.tape()[at];
        if (entry.kind == TokenKind::number) {
            const std::string_view beyond = beyond_binary64(document.source(entry));
            if (!beyond.empty()) add(entry.begin, beyond, "RFC 7493, 2.2", Basis::advised);
        }
        if (entry.kind != TokenKind::string && entry.kind != TokenKind::name) continue;
        const std::string atoms = document.atoms(entry);
        if (entry.flags.lone_surrogate) add(entry.begin, "a lone surrogate", "RFC 7493, 2.1", Basis::required);
        if (has_noncharacter(atoms)) add(entry.begin, "a noncharacter", "RFC 7493, 2.1", Basis::required);
        if (std::ranges::binary_search(repeated, at))
            add(entry.begin, "the object already has this name", "RFC 7493, 2.3", Basis::required);
    }
    return out;
}

std::vector<Advice> canonical_advice(std::string_view document) {
    const Canonical form = canonical(document);
    if (form.refused)
        return {{form.refused->position, form.refused->message, form.refused->clause, Basis::required}};
    if (form.bytes == document) return {};
    const auto [here, there] =
        std::mismatch(document.begin(), document.end(), form.bytes.begin(), form.bytes.end());
    const auto offset = static_cast<std::size_t>(here - document.begin());
    const std::string wanted = there == form.bytes.end() ? "the end of the document"
                                                         : text::printable_excerpt(form.bytes.substr(offset), 24);
    return {{text::position_of(document, offset), "the canonical form has here: " + wanted, "RFC 8785, 3.2",
             Basis::required}};
}

}  // namespace

std::span<const Profile> all_profiles() {
    return profiles;
}

std::vector<Advice> advice_of(std::string_view profile, std::string_view bytes) {
    const Document document = Document::read(bytes);
    if (!document.accepted()) return {};
    if (profile == "jcs") return canonical_advice(bytes);
    return profile == "i-json" ? interoperable(document) : std::vector<Advice>{};
}

}  // namespace nachklang::json

// Number literals that find mistakes: families of decimals near the borders of rounding and of integer types.
//
// Literal `index` of a seed is a function of both: repeatable, and any part of a series can be made alone.
#pragma once

#include <cstdint>
#include <span>
#include <string>
#include <string_view>

namespace nachklang::number {

/// A family of literals and what they have in common.
struct LiteralFamily {
    std::string_view name;
    std::string_view about;
};
/// All families, in the order of the series, which takes one of each in turn.
std::span<const LiteralFamily> literal_families();

struct Literal {
    std::string text;         ///< as JSON and most languages write numbers
    std::string_view family;  ///< its name
};
/// The literal of that place in the series of that seed.
Literal literal(std::uint64_t seed, std::uint64_t index);

/// A decimal of `digits` significant digits (17 to 40) that lies unusually close to the middle between two
/// neighbouring binary64 numbers whose unit in the last place is 2^`unit` (-1074 to 971). Found by the continued
/// fraction of 2^(unit-1)/10^q: its convergents are the closest ratios for the size of their denominators.
std::string near_halfway(int digits, int unit, std::uint64_t choice);

/// The exact decimal halfway between a finite positive binary64 and its successor.
std::string halfway_above(std::uint64_t bits);

}  // namespace nachklang::number

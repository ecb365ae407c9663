// The character classes of XML 1.0, Fifth Edition: productions 2, 4 and 4a.
#include <algorithm>
#include <array>

#include <nachklang/xml.hpp>

namespace nachklang::xml {
namespace {

struct Range {
    char32_t first, last;
};

constexpr std::array name_start_ranges{
    Range{':', ':'},       Range{'A', 'Z'},       Range{'_', '_'},       Range{'a', 'z'},
    Range{0xC0, 0xD6},     Range{0xD8, 0xF6},     Range{0xF8, 0x2FF},    Range{0x370, 0x37D},
    Range{0x37F, 0x1FFF},  Range{0x200C, 0x200D}, Range{0x2070, 0x218F}, Range{0x2C00, 0x2FEF},
    Range{0x3001, 0xD7FF}, Range{0xF900, 0xFDCF}, Range{0xFDF0, 0xFFFD}, Range{0x10000, 0xEFFFF}};
constexpr std::array name_more_ranges{Range{'-', '-'},   Range{'.', '.'},     Range{'0', '9'},
                                      Range{0xB7, 0xB7}, Range{0x300, 0x36F}, Range{0x203F, 0x2040}};

template <std::size_t N>
bool within(const std::array<Range, N>& ranges, char32_t c) {
    return std::any_of(ranges.begin(), ranges.end(), [c](const Range& r) { return c >= r.first && c <= r.last; });
}

}  // namespace

bool is_char(char32_t c) {
    return c == 0x9 || c == 0xA || c == 0xD || (c >= 0x20 && c <= 0xD7FF) || (c >= 0xE000 && c <= 0xFFFD) ||
           (c >= 0x10000 && c <= 0x10FFFF);
}
bool is_name_start(char32_t c) {
    return within(name_start_ranges, c);
}
bool is_name_char(char32_t c) {
    return is_name_start(c) || within(name_more_ranges, c);
}

}  // namespace nachklang::xml

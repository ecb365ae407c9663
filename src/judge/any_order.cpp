// See any_order.hpp.
#include "judge/any_order.hpp"

#include <algorithm>
#include <array>

#include "judge/kept.hpp"

namespace nachklang {
namespace {

std::array<std::size_t, 256> counts_of_bytes(std::string_view text) {
    std::array<std::size_t, 256> out{};
    for (const char c : text) ++out[static_cast<unsigned char>(c)];
    return out;
}

}  // namespace

bool are_of_same_bytes(std::string_view a, std::string_view b) {
    return counts_of_bytes(a) == counts_of_bytes(b);
}

bool represents_order(const Format& format, const CannotRepresent& cannot_represent) {
    return std::ranges::none_of(format.constants().representation_limits, [&](const RepresentationLimit& limit) {
        return limit.first_layer == Layer::order && cannot_represent_word(cannot_represent, limit.word);
    });
}

bool is_same_in_any_order(const JudgeInput& input, std::string_view again) {
    const Format& format = *input.test_case.format;
    const std::string_view text = input.outcome.body;
    if (represents_order(format, input.subject.cannot_represent)) return false;
    if (text == again) return true;
    if (!are_of_same_bytes(text, again)) return false;
    constexpr auto but_for_order = static_cast<std::size_t>(Layer::representation);
    const auto first = reading_of_written(input, text), second = reading_of_written(input, again);
    return first->accepted() && second->accepted() &&
           digests_of(input, first->trace)[but_for_order] == digests_of(input, second->trace)[but_for_order];
}

}  // namespace nachklang

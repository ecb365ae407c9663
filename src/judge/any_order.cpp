// See any_order.hpp.
#include "judge/any_order.hpp"

#include <algorithm>
#include <array>

namespace nachklang {
namespace {

std::array<std::size_t, 256> counts_of_bytes(std::string_view text) {
    std::array<std::size_t, 256> out{};
    for (const char c : text) ++out[static_cast<unsigned char>(c)];
    return out;
}

}  // namespace

bool represents_order(const Format& format, const CannotRepresent& cannot_represent) {
    return std::ranges::none_of(format.constants().representation_limits, [&](const RepresentationLimit& limit) {
        return limit.first_layer == Layer::order &&
               std::ranges::find(cannot_represent, limit.word) != cannot_represent.end();
    });
}

bool is_same_in_any_order(const Format& format, std::string_view a, std::string_view b,
                          const std::function<std::shared_ptr<const Reading>(std::string_view)>& read) {
    if (a == b) return true;
    if (counts_of_bytes(a) != counts_of_bytes(b)) return false;
    constexpr auto but_for_order = static_cast<std::size_t>(Layer::representation);
    const auto first = read(a), second = read(b);
    return first->accepted() && second->accepted() &&
           format.digests(first->trace)[but_for_order] == format.digests(second->trace)[but_for_order];
}

}  // namespace nachklang

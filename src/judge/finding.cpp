// What a finding is: its kinds by name, which of them settle a result, and which fail a run.
#include <array>

#include <nachklang/judge.hpp>

namespace nachklang {

std::string_view name_of(FindingKind kind) {
    constexpr std::array<std::string_view, 11> names{
        "conforms", "too-strict", "too-lenient",   "unexplained", "altered",  "ill-formed-output",
        "open",     "failed",     "adapter-fault", "unsupported", "not-asked"};
    return names[static_cast<std::size_t>(kind)];
}

bool is_settled(FindingKind kind) {
    return kind == FindingKind::conforms || kind == FindingKind::open || kind == FindingKind::unsupported ||
           kind == FindingKind::not_asked;
}

bool Finding::failing() const {
    if (declared || !excused.empty() || is_settled(kind) || shipped_adapter) return false;
    return kind == FindingKind::failed || basis != Basis::permitted;
}

}  // namespace nachklang

// Greedy reduction. The format proposes cuts, the largest first; the first cut that keeps the behaviour is
// applied, and the format proposes again. The search continues at the size where it was, because cuts that failed
// before mostly fail again; it ends when a whole round of cuts has failed. Cuts are tried in batches that grow
// while none succeeds, so that starting a process does not cost more than its requests.
#include <algorithm>

#include <nachklang/experiments.hpp>

namespace nachklang {
namespace {

std::string with_cut(std::string_view document, const Cut& cut) {
    std::string out(document.substr(0, cut.begin));
    out += cut.replacement;
    out += document.substr(cut.end);
    return out;
}

}  // namespace

Shrunk shrink(const Format& format, std::string document, const StillShows& still_shows, std::size_t budget,
              const std::function<void(std::size_t size, std::size_t tried)>& progress) {
    constexpr std::size_t most_in_batch = 64;
    constexpr std::size_t batch_bytes = std::size_t{4} << 20;
    Shrunk out{std::move(document), 0, 0, false};
    if (format.reduction() == nullptr) return out;
    std::size_t saved = out.document.size();
    while (true) {
        const std::vector<Cut> cuts = format.reduction()->cuts(out.document);
        const auto no_larger =
            std::find_if(cuts.begin(), cuts.end(), [&](const Cut& cut) { return cut.saved() <= saved; });
        const auto start = static_cast<std::size_t>(no_larger - cuts.begin());
        bool taken = false;
        std::size_t batch = 2;
        for (std::size_t round = 0; round < cuts.size() && !taken;) {
            if (out.tried >= budget) return out;
            std::vector<std::string> candidates;
            std::vector<std::size_t> indices;
            std::size_t bytes = 0;
            for (; round < cuts.size() && candidates.size() < batch && bytes < batch_bytes; ++round) {
                const std::size_t index = (start + round) % cuts.size();
                candidates.push_back(with_cut(out.document, cuts[index]));
                indices.push_back(index);
                bytes += candidates.back().size();
            }
            if (candidates.empty()) break;
            const std::vector<bool> shows = still_shows(candidates);
            out.tried += candidates.size();
            const auto found = std::find(shows.begin(), shows.end(), true);
            if (found != shows.end()) {
                const auto which = static_cast<std::size_t>(found - shows.begin());
                out.document = std::move(candidates[which]);
                saved = cuts[indices[which]].saved();
                ++out.kept;
                taken = true;
            }
            if (progress) progress(out.document.size(), out.tried);
            batch = std::min(batch * 2, most_in_batch);
        }
        if (!taken) {
            out.complete = true;
            return out;
        }
    }
}

}  // namespace nachklang

// Greedy: the format proposes cuts, the largest first; the first that keeps what is looked for is taken and the
// format asked anew. Cuts are tried in batches that grow while nothing is found, so that starting a process does
// not cost more than what it is asked.
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
    while (true) {
        const std::vector<Cut> cuts = format.cuts(out.document);
        bool taken = false;
        std::size_t batch = 2;
        for (std::size_t at = 0; at < cuts.size() && !taken;) {
            if (out.tried >= budget) return out;
            std::vector<std::string> candidates;
            std::size_t bytes = 0;
            for (; at < cuts.size() && candidates.size() < batch && bytes < batch_bytes; ++at) {
                std::string candidate = with_cut(out.document, cuts[at]);
                if (candidate.size() >= out.document.size()) continue;
                if (candidate == out.document) continue;
                bytes += candidate.size();
                candidates.push_back(std::move(candidate));
            }
            if (candidates.empty()) break;
            const std::vector<bool> shows = still_shows(candidates);
            out.tried += candidates.size();
            const auto found = std::find(shows.begin(), shows.end(), true);
            if (found != shows.end()) {
                out.document = std::move(candidates[static_cast<std::size_t>(found - shows.begin())]);
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

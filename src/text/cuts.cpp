// Cuts that every format shares: ranges of neighbours, windows of bytes, and their order.
#include <algorithm>

#include <nachklang/cuts.hpp>

namespace nachklang {

void cut_siblings(std::span<const ByteRange> siblings, std::vector<Cut>& out) {
    const std::size_t n = siblings.size();
    for (std::size_t length = n; length > 0; length /= 2) {
        for (std::size_t i = 0; i < n; i += length) {
            const std::size_t last = std::min(i + length, n) - 1;
            // With the separator before it; a range at the start takes the separator after it.
            const std::size_t begin = i == 0 ? siblings[i].begin : siblings[i - 1].end;
            const std::size_t end = i == 0 && last + 1 < n ? siblings[last + 1].begin : siblings[last].end;
            out.push_back({begin, end});
        }
    }
}

namespace {

/// The first that lies deepest, and those around it, the outermost first.
std::vector<ByteRange> deepest_path(std::span<const ByteRange> containers) {
    std::vector<ByteRange> sorted(containers.begin(), containers.end()), open;
    std::sort(sorted.begin(), sorted.end(),
              [](const ByteRange& a, const ByteRange& b) { return a.begin < b.begin; });
    ByteRange deepest;
    std::size_t depth = 0;
    for (const ByteRange& container : sorted) {
        while (!open.empty() && open.back().end <= container.begin) open.pop_back();
        open.push_back(container);
        if (open.size() <= depth) continue;
        depth = open.size();
        deepest = container;
    }
    std::erase_if(sorted, [&](const ByteRange& c) { return c.begin > deepest.begin || c.end <= deepest.begin; });
    return sorted;
}

}  // namespace

void cut_levels(std::string_view document, std::span<const ByteRange> containers, std::vector<Cut>& out) {
    const std::vector<ByteRange> path = deepest_path(containers);
    for (std::size_t levels = path.size() / 2; levels > 0; levels /= 2)
        for (std::size_t i = 0; i + levels < path.size(); i += levels) {
            const ByteRange& outer = path[i];
            const ByteRange& inner = path[i + levels];
            out.push_back({outer.begin, outer.end, document.substr(inner.begin, inner.end - inner.begin)});
        }
}

void cut_run(std::size_t begin, std::size_t end, std::vector<Cut>& out) {
    out.push_back({begin, end});
    if (end - begin < 2) return;
    const std::size_t middle = begin + (end - begin) / 2;
    out.push_back({begin, middle});
    out.push_back({middle, end});
}

void cut_bytes(std::string_view document, std::vector<Cut>& out) {
    constexpr std::size_t small = 4096;
    for (std::size_t length = document.size() / 2; length > 1; length /= 2)
        for (std::size_t at = 0; at + length <= document.size(); at += length) out.push_back({at, at + length});
    if (document.size() > small) return;
    for (std::size_t at = 0; at < document.size(); ++at) out.push_back({at, at + 1});
}

void order_cuts(std::vector<Cut>& cuts) {
    std::erase_if(cuts, [](const Cut& cut) { return cut.end - cut.begin <= cut.replacement.size(); });
    std::stable_sort(cuts.begin(), cuts.end(), [](const Cut& a, const Cut& b) { return a.saved() > b.saved(); });
}

}  // namespace nachklang

// See assembly.hpp. The order of results is that of cases, subjects and the table of operations, so it never
// depends on workers.
#include "campaign/assembly.hpp"

#include <algorithm>
#include <iterator>

namespace nachklang::campaign {
namespace {

/// Simulated implementations are compared with each other only, never with real ones.
std::vector<Participant> participants_of(std::span<const Result> results, Operation operation) {
    const bool decodes = info_of(operation).output == Content::value;
    const auto is_simulated = [](const Result& r) { return has_setting(r.subject->settings, "simulated", "yes"); };
    const bool any_real = !std::all_of(results.begin(), results.end(), is_simulated);
    std::vector<Participant> out;
    for (const Result& r : results) {
        if (r.operation != operation || (any_real && is_simulated(r))) continue;
        out.push_back({r.subject->name(), r.subject->engine, r.outcome.kind, r.digests, r.value, r.outcome.body,
                       decodes ? r.subject->cannot_represent : CannotRepresent{}, &r.finding});
    }
    return out;
}

const Case* asked_for(const Result& result) {
    return result.enclosed_of == nullptr ? result.test_case : result.enclosed_of;
}

}  // namespace

ChunkReport assemble(std::span<const Case> cases, std::vector<TaskReport>& tasks) {
    ChunkReport out;
    std::vector<std::size_t> at(tasks.size(), 0);
    for (const Case& c : cases) {
        const std::size_t first = out.results.size();
        for (std::size_t s = 0; s < tasks.size(); ++s) {
            auto& results = tasks[s].results;
            for (; at[s] < results.size() && asked_for(results[at[s]]) == &c; ++at[s])
                out.results.push_back(std::move(results[at[s]]));
        }
        // Of a case that some refuse by itself, the answers inside a container are compared by themselves.
        const auto begin = out.results.begin() + static_cast<std::ptrdiff_t>(first);
        const auto enclosed = std::stable_partition(begin, out.results.end(),
                                                    [](const Result& r) { return r.enclosed_of == nullptr; });
        for (const auto& of_case :
             {std::span<const Result>(begin, enclosed), std::span<const Result>(enclosed, out.results.end())})
            for (const OperationInfo& row : operations()) {
                // An answer in pieces is compared with that to the whole, and not with others once more.
                if (of_case.empty() || row.in_pieces) continue;
                auto found = compare_participants(*of_case.front().test_case, row.operation,
                                                  participants_of(of_case, row.operation));
                std::move(found.begin(), found.end(), std::back_inserter(out.disagreements));
            }
    }
    return out;
}

}  // namespace nachklang::campaign

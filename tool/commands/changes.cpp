// `changes`: what is new, mended or answered otherwise between two kept runs.
#include "ui/changes.hpp"
#include "commands/commands.hpp"

namespace tool {

using namespace nachklang;

int changes(const Common& common, const ChangesOptions& options) {
    const auto before = read_kept_run(options.before);
    if (!before.ok()) return report(before.problem());
    const auto now = read_kept_run(options.now);
    if (!now.ok()) return report(now.problem());
    const Changes found = changes_between(before.value(), now.value());
    print_changes(found, common.colour);
    return found.newly_failing() ? exit_failing : exit_success;
}

}  // namespace tool

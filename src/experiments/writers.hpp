// Implementations as writers.
#pragma once

#include <nachklang/runner.hpp>

namespace nachklang {

/// A subject that is asked nothing but round trips, what they continue, and encodes.
inline Subject written_only(Subject subject) {
    for (auto& [format, operations] : subject.operations)
        std::erase_if(operations, [](const std::string& name) {
            const auto operation = find_operation(name);
            return !operation || info_of(*operation).in_pieces || info_of(*operation).of_record ||
                   info_of(*operation).of_sequence;
        });
    return subject;
}

}  // namespace nachklang

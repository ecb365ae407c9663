// Ends what adapters leave behind when this process ends, however it ends.
#pragma once

#include <string>

namespace nachklang::protocol {

/// The word in the environment of each adapter, NAME=VALUE, by which its descendants are known. With the first call
/// a watching process is started: once this process is gone, even by SIGKILL, it ends all processes that have the
/// word, those in sessions of their own and those whose parent ended included, and removes `scratch_root()`. A
/// process that clears its environment before it runs another program is not found.
const std::string& orphans_word();

}  // namespace nachklang::protocol

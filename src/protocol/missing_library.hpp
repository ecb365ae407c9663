// Why a program did not start: the words of loaders and language runtimes.
#pragma once

#include <string>
#include <string_view>

namespace nachklang::protocol {

/// The library, module or class that a loader or a runtime did not find, by its message on standard error; empty if
/// there is no such message.
std::string missing_library(std::string_view log);

}  // namespace nachklang::protocol

// The page's own files, embedded when the library is built.
#pragma once

#include <string_view>

namespace nachklang::page {

/// With @NONCE@, @STYLE@, @DATA@ and @SCRIPT@ to be replaced.
extern const std::string_view html;
extern const std::string_view style, script;

}  // namespace nachklang::page

// Which lines of a trace hold others, up to which one.
#pragma once

#include <nachklang/trace.hpp>

namespace nachklang {

/// Whether a line opens a container or an element.
constexpr bool opens_any(ItemKind kind) {
    return kind == ItemKind::array_open || kind == ItemKind::object_open || kind == ItemKind::container_open ||
           kind == ItemKind::element;
}
/// Whether it closes one.
constexpr bool closes_any(ItemKind kind) {
    return kind == ItemKind::array_close || kind == ItemKind::object_close || kind == ItemKind::container_close ||
           kind == ItemKind::element_end;
}

}  // namespace nachklang

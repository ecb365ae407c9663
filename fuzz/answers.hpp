// What is done with the answers of adapters, on two that are made of bytes: two values that differ in what one byte
// makes, and two documents, go through all that a run does with them. An answer equals itself, and two equal ones
// have one digest.
#pragma once

#include <stdexcept>
#include <vector>

#include <nachklang/format.hpp>
#include <nachklang/sequence.hpp>

#include "random_trace.hpp"

namespace fuzz {

inline void require(bool holds, const char* what) {
    if (!holds) throw std::logic_error(what);
}

inline void compare(const nachklang::Format& format, const nachklang::Trace& a, const nachklang::Trace& b) {
    using namespace nachklang;
    require(format.compare(a, a).differences.empty(), "an answer equals itself");
    require(a.text() != b.text() || format.digests(a) == format.digests(b), "equal answers have one digest");
    static_cast<void>(format.compare(a, b));
    CompareOptions writing;
    writing.of_encoding = true;
    static_cast<void>(format.compare(a, b, writing));
    static_cast<void>(format.describe(a, 200));
    static_cast<void>(format.record_in(a, b));
    for (std::size_t layer = 1; layer < layer_count; ++layer) {
        const Tree left = format.tree(a, static_cast<Layer>(layer), {});
        const Tree right = format.tree(b, static_cast<Layer>(layer), {});
        compare_trees(left, right, 20, [&](const TreePair& pair) {
            if (pair.left) static_cast<void>(path_of(left, *pair.left));
            if (pair.right) static_cast<void>(path_of(right, *pair.right));
        });
        for_each_line(left, [](const TreeLine&) { return true; });
    }
    if (format.features() != nullptr) static_cast<void>(format.features()->features_of_value(a));
    if (format.places() != nullptr) static_cast<void>(format.places()->places_of(a));
    if (!a.items().empty() && a.items().front().kind == ItemKind::array_open) static_cast<void>(values_in_list(a));
}

/// The first three bytes say which of the others is changed, and how.
inline void check_answers(std::span<const std::uint8_t> bytes) {
    using nachklang::Trace;
    if (bytes.size() < 4) return;
    std::vector<std::uint8_t> first(bytes.begin() + 3, bytes.end()), second = first;
    second[(bytes[1] * 256U + bytes[2]) % second.size()] ^= bytes[0];
    const auto value = Trace::parse(TraceMaker(first).value()), other = Trace::parse(TraceMaker(second).value());
    const auto document = Trace::parse(TraceMaker(first).document()),
               other_document = Trace::parse(TraceMaker(second).document());
    require(value && other && document && other_document, "what is made is a trace");
    for (const nachklang::Format* format : nachklang::formats()) {
        const bool of_markup = format->name() == "xml";
        compare(*format, of_markup ? *document : *value, of_markup ? *other_document : *other);
    }
}

}  // namespace fuzz

// What is done with the answers of adapters, on two that are made of bytes: two values that differ in what one byte
// makes, two documents and two lists go through all that a run does with them. An answer equals itself, and two
// equal ones have one digest.
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
    // The first is a document that the reference reader read, whatever record the other one holds.
    if (format.name() != "xml" || a.items().front().kind == ItemKind::element)
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
    const auto all_of = [](std::span<const std::uint8_t> choices) {
        std::vector<Trace> out;
        for (const std::string& text :
             {TraceMaker(choices).value(), TraceMaker(choices).document(), TraceMaker(choices).list()}) {
            const auto trace = Trace::parse(text);
            require(trace.has_value(), "what is made is a trace");
            out.push_back(*trace);
        }
        return out;
    };
    const auto given = all_of(first), others = all_of(second);
    for (const nachklang::Format* format : nachklang::formats())
        for (const Trace& a : given)
            for (const Trace& b : others)
                if (format->is_value(a) && format->is_value(b)) compare(*format, a, b);
}

}  // namespace fuzz

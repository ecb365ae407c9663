// Readings, comparisons and digests, kept; see judge.hpp.
#include "judge/kept.hpp"

namespace nachklang {
namespace {

/// From this length on to compare or digest a value takes much longer than to find it.
constexpr std::size_t long_value = std::size_t{4} << 10;

/// What is kept under the key, or else what `make` makes now. It is made outside the lock: two threads may make the
/// same.
template <class Map, class Make>
typename Map::mapped_type kept(std::mutex& mutex, Map& map, const typename Map::key_type& key, const Make& make) {
    {
        const std::lock_guard lock(mutex);
        if (const auto known = map.find(key); known != map.end()) return known->second;
    }
    auto made = make();
    const std::lock_guard lock(mutex);
    return map.emplace(key, std::move(made)).first->second;
}

}  // namespace

std::shared_ptr<const Reading> JudgeCache::read(const Format& format, std::string_view document,
                                                const Settings& settings) {
    return kept(mutex_, readings_, {&format, settings, digest_of(document)}, [&] {
        return std::make_shared<const Reading>(format.read(document, {settings, {}}));
    });
}

Comparison JudgeCache::compare(const Format& format, const Trace& expected, const Trace& got,
                               const CompareOptions& options) {
    if (got.text().size() < long_value) return format.compare(expected, got, options);
    const auto& [layer, of_round_trip, cannot_represent, most, side_unknown, of_encoding, stored_without] = options;
    return kept(
        mutex_, comparisons_,
        {&format, digest_of(expected.text()), digest_of(got.text()),
         OptionsKey(layer, of_round_trip, cannot_represent, most, side_unknown, of_encoding, stored_without)},
        [&] { return format.compare(expected, got, options); });
}

LayerDigests JudgeCache::digests(const Format& format, const Trace& trace,
                                 const CannotRepresent& cannot_represent) {
    if (trace.text().size() < long_value) return format.digests(trace, cannot_represent);
    return kept(mutex_, digests_, {&format, digest_of(trace.text()), cannot_represent},
                [&] { return format.digests(trace, cannot_represent); });
}

std::shared_ptr<const Reading> reading_of_written(const JudgeInput& input, std::string_view written) {
    const Format& format = *input.test_case.format;
    const std::string document = written_document(format, input.subject.settings, written);
    const Settings settings = format.reading_settings(input.subject.settings);
    if (input.cache != nullptr) return input.cache->read(format, document, settings);
    return std::make_shared<const Reading>(format.read(document, {settings, {}}));
}

Comparison compared(const JudgeInput& input, const Trace& expected, const Trace& got,
                    const CompareOptions& options) {
    const Format& format = *input.test_case.format;
    return input.cache != nullptr ? input.cache->compare(format, expected, got, options)
                                  : format.compare(expected, got, options);
}

LayerDigests digests_of(const JudgeInput& input, const Trace& trace) {
    const Format& format = *input.test_case.format;
    return input.cache != nullptr ? input.cache->digests(format, trace, {}) : format.digests(trace, {});
}

}  // namespace nachklang

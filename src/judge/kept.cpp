// Readings, comparisons and digests, kept; see judge.hpp.
#include "judge/kept.hpp"

namespace nachklang {
namespace {

/// From this length on to compare or digest a value takes much longer than to find it.
constexpr std::size_t long_value = std::size_t{4} << 10;

}  // namespace

std::shared_ptr<const Reading> JudgeCache::read(const Format& format, std::string_view document,
                                                const Settings& settings) {
    const std::tuple key{&format, settings, digest_of(document)};
    {
        const std::lock_guard lock(mutex_);
        if (const auto known = readings_.find(key); known != readings_.end()) return known->second;
    }
    auto reading = std::make_shared<const Reading>(format.read(document, {settings, {}}));
    const std::lock_guard lock(mutex_);
    return readings_.emplace(key, std::move(reading)).first->second;
}

Comparison JudgeCache::compare(const Format& format, const Trace& expected, const Trace& got,
                               const CompareOptions& options) {
    if (got.text().size() < long_value) return format.compare(expected, got, options);
    const auto& [layer, of_round_trip, cannot_represent, most, side_unknown, of_encoding, stored_without] = options;
    const std::tuple key{
        &format, digest_of(expected.text()), digest_of(got.text()),
        OptionsKey(layer, of_round_trip, cannot_represent, most, side_unknown, of_encoding, stored_without)};
    {
        const std::lock_guard lock(mutex_);
        if (const auto known = comparisons_.find(key); known != comparisons_.end()) return known->second;
    }
    Comparison found = format.compare(expected, got, options);
    const std::lock_guard lock(mutex_);
    return comparisons_.emplace(key, std::move(found)).first->second;
}

LayerDigests JudgeCache::digests(const Format& format, const Trace& trace,
                                 const CannotRepresent& cannot_represent) {
    if (trace.text().size() < long_value) return format.digests(trace, cannot_represent);
    const std::tuple key{&format, digest_of(trace.text()), cannot_represent};
    {
        const std::lock_guard lock(mutex_);
        if (const auto known = digests_.find(key); known != digests_.end()) return known->second;
    }
    const LayerDigests found = format.digests(trace, cannot_represent);
    const std::lock_guard lock(mutex_);
    return digests_.emplace(key, found).first->second;
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

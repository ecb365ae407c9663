// Readings of what implementations wrote, kept; see judge.hpp.
#include "judge/readings.hpp"

namespace nachklang {

std::shared_ptr<const Reading> ReadingCache::read(const Format& format, std::string_view document,
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

std::shared_ptr<const Reading> reading_of_written(const JudgeInput& input, std::string_view written) {
    const Format& format = *input.test_case.format;
    const std::string document = written_document(format, input.subject.settings, written);
    const Settings settings = format.reading_settings(input.subject.settings);
    if (input.readings != nullptr) return input.readings->read(format, document, settings);
    return std::make_shared<const Reading>(format.read(document, {settings, {}}));
}

}  // namespace nachklang

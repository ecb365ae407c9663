// The table of formats. Apart from the formats' own folders, this is the only place that names them.
#include <array>

#include <nachklang/format.hpp>
#include <nachklang/json.hpp>
#include <nachklang/xml.hpp>

namespace nachklang {

std::span<const Format* const> formats() {
    static const std::array<const Format*, 2> table{&json::format(), &xml::format()};
    return table;
}

const Format* find_format(std::string_view name) {
    for (const Format* format : formats())
        if (format->name() == name) return format;
    return nullptr;
}

const Format& guess_format(std::string_view file_name, std::string_view document,
                           std::span<const Format* const> known) {
    for (const Format* format : known)
        if (format->detect(file_name, {})) return *format;
    for (const Format* format : known)
        if (format->detect({}, document)) return *format;
    return *known.front();
}

Question Question::open_point(std::string id, std::string clause, std::vector<KnownAnswer> answers,
                              std::string about) {
    return {std::move(id), std::move(clause), std::move(answers), true, 0, 0, false, std::move(about)};
}

Question Question::limit_from(std::size_t amount, std::string id, std::string clause, std::string about) {
    return {std::move(id),
            std::move(clause),
            {"refused", KnownAnswer::keeps("accepted"), "exhausted"},
            true,
            amount,
            amount,
            true,
            std::move(about)};
}

const KnownAnswer* Question::find(std::string_view name) const {
    for (const KnownAnswer& answer : answers)
        if (answer.name == name) return &answer;
    return nullptr;
}

const Cause* find_cause(const Format& format, std::string_view slug) {
    for (const Cause& cause : format.constants().causes)
        if (cause.slug == slug) return &cause;
    return nullptr;
}

std::optional<Trace> parse_value(const Format& format, std::string text, TraceError& error) {
    std::optional<Trace> out = Trace::parse(std::move(text), &error);
    if (!out || format.is_value(*out)) return out;
    error = {1, "no value of " + std::string(format.name())};
    return std::nullopt;
}

const Question* find_question(const Format& format, std::string_view id) {
    for (const Question& question : format.constants().questions)
        if (question.id == id) return &question;
    return nullptr;
}

std::optional<Rejection> verdict_of(const Format& format, std::string_view document, const Settings& settings) {
    const auto stream = format.verdict_stream(settings);
    stream->feed(document);
    auto rejection = stream->finish();
    if (!rejection && !stream->unreadable_because().empty())
        rejection = Rejection{{}, "the reference reader cannot read " + stream->unreadable_because(), "", ""};
    return rejection;
}

std::string_view name_of(Basis basis) {
    constexpr std::array<std::string_view, 4> names{"required", "advised", "permitted", "fidelity"};
    return names[static_cast<std::size_t>(basis)];
}

std::string_view name_of(Stance stance) {
    constexpr std::array<std::string_view, 3> names{"accept", "reject", "open"};
    return names[static_cast<std::size_t>(stance)];
}

std::optional<Stance> find_stance(std::string_view name) {
    for (const Stance stance : {Stance::accept, Stance::reject, Stance::open})
        if (name_of(stance) == name) return stance;
    return std::nullopt;
}

bool has_setting(const Settings& settings, const std::string& key, std::string_view value) {
    const auto found = settings.find(key);
    return found != settings.end() && found->second == value;
}

std::string text_of(const Settings& settings) {
    std::string out;
    for (const auto& [key, value] : settings) out += (out.empty() ? "" : " ") + key + "=" + value;
    return out;
}

bool passes_text(const Settings& settings) {
    return has_setting(settings, "input", "text");
}

bool returns_text(const Settings& settings) {
    return has_setting(settings, "output", "text");
}

std::string written_document(const Format& format, const Settings& settings, std::string_view written) {
    const TextDifferences* differences = returns_text(settings) ? format.text_differences() : nullptr;
    return differences == nullptr ? std::string(written) : differences->document_of_text(written);
}

}  // namespace nachklang

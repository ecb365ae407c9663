// Every text that a writer writes through every reader. A reader that is in trouble is asked for the same value in
// its canonical spelling, which shows whether the reader lacks the value or only this spelling.
#include <fmt/format.h>

#include <algorithm>
#include <set>

#include <nachklang/experiments.hpp>

#include "experiments/losses.hpp"
#include "experiments/writers.hpp"

namespace nachklang {
namespace {

using TextKey = std::pair<const Format*, std::string>;

/// The different texts of each writer, in the order in which they came, well-formed ones only.
struct Written {
    std::vector<TextKey> texts;
    std::set<TextKey> known;
    std::size_t ill_formed = 0;

    void add(const Subject& writer, const Format& format, const std::string& text) {
        if (!known.emplace(&format, text).second) return;
        // A text with lone surrogates has no bytes to be sent.
        const bool has_bytes = written_document(format, writer.settings, text) == text;
        const Reading reading = format.read(text, {format.reading_settings(writer.settings), {}});
        if (has_bytes && reading.accepted())
            texts.emplace_back(&format, text);
        else if (reading.rejection)
            ++ill_formed;
    }
};

std::vector<Written> all_written(std::span<const Case> cases, std::span<const Subject> writers,
                                 const ExecutorFactory& make, const CampaignOptions& options) {
    std::vector<Case> asked;
    std::ranges::copy_if(cases, std::back_inserter(asked), [](const Case& c) {
        return c.external_file.empty() && c.reads == ExternalAccess::either;
    });
    std::vector<Subject> subjects;
    std::map<std::string, Written> by_writer;
    for (const Subject& writer : writers) subjects.push_back(written_only(writer));
    FunctionSink sink([&](const ChunkReport& report) {
        for (const Result& r : report.results)
            if (r.outcome.kind == OutcomeKind::accepted && r.enclosed_of == nullptr &&
                info_of(r.operation).output == Content::document)
                by_writer[r.subject->name()].add(*r.subject, *r.test_case->format, r.outcome.body);
    });
    run_campaign(asked, subjects, make, options, sink);
    std::vector<Written> out;
    for (const Subject& writer : writers) out.push_back(std::move(by_writer[writer.name()]));
    return out;
}

/// What a reader has with a document: a finding, or an answer by which the value is not held.
std::optional<std::string> trouble_of(const Result& r) {
    if (!was_asked(r.outcome.kind) || is_adapters_fault(r.outcome.kind)) return std::nullopt;
    if (!is_settled(r.finding.kind)) return r.finding.cause();
    for (const GivenAnswer& given : r.finding.answers) {
        if (auto loss = loss_of(*r.test_case->format, given)) return loss;
        if (r.outcome.kind != OutcomeKind::accepted) return given.question + ": " + given.answered;
    }
    // Several questions may explain it.
    return r.outcome.kind == OutcomeKind::rejected ? std::optional<std::string>("refused") : std::nullopt;
}

struct ReaderTrouble {
    std::string what, detail;
    const Subject* reader = nullptr;
};
/// By text; a text without an entry was asked of no reader.
using Troubles = std::map<TextKey, std::vector<ReaderTrouble>>;

/// Readers are asked to decode, and nothing else.
std::vector<Subject> decoders(std::span<const Subject> readers) {
    std::vector<Subject> out(readers.begin(), readers.end());
    for (Subject& reader : out)
        for (auto& [format, operations] : reader.operations)
            std::erase_if(operations,
                          [](const std::string& name) { return find_operation(name) != Operation::decode; });
    std::erase_if(out, [](const Subject& reader) {
        return std::ranges::all_of(reader.operations, [](const auto& of) { return of.second.empty(); });
    });
    return out;
}

Troubles ask(const std::set<TextKey>& texts, std::span<const Subject> readers, const ExecutorFactory& make,
             const CampaignOptions& options) {
    std::vector<Case> cases;
    Troubles out;
    for (const TextKey& text : texts) {
        cases.push_back(
            case_of_document("written", fmt::format("text {}", cases.size() + 1), *text.first, text.second));
        out[text];
    }
    FunctionSink sink([&](const ChunkReport& report) {
        for (const Result& r : report.results) {
            if (r.enclosed_of != nullptr) continue;
            if (auto what = trouble_of(r)) {
                const std::string& detail = r.finding.detail.empty() ? r.outcome.body : r.finding.detail;
                const auto reader = std::ranges::find(readers, r.subject->name(), &Subject::name);
                out[{r.test_case->format, *r.test_case->document}].push_back(
                    {std::move(*what), text::printable_excerpt(detail, 100), &*reader});
            }
        }
    });
    run_campaign(cases, readers, make, options, sink);
    return out;
}

/// Whether one text is the smaller example.
bool is_smaller(const std::string& a, const std::string& b) {
    return std::pair(a.size(), std::string_view(a)) < std::pair(b.size(), std::string_view(b));
}

Crossing crossing_of(const Written& written, const Troubles& troubles) {
    Crossing out;
    out.ill_formed = written.ill_formed;
    out.texts = written.texts.size() + written.ill_formed;
    struct Gathered {
        Crossing::Trouble trouble;
        std::set<std::string> readers, engines;
    };
    std::map<std::string, Gathered> by_what;
    for (const TextKey& text : written.texts) {
        const auto& found = troubles.at(text);
        out.read_by_all += found.empty() ? 1 : 0;
        std::set<std::string> counted;
        for (const ReaderTrouble& one : found) {
            Gathered& of = by_what[one.what];
            of.readers.insert(one.reader->name());
            of.engines.insert(one.reader->engine);
            if (!counted.insert(one.what).second) continue;
            if (of.trouble.texts++ == 0 || is_smaller(text.second, of.trouble.smallest)) {
                of.trouble.smallest = text.second;
                of.trouble.detail = one.detail;
            }
        }
    }
    for (auto& [what, of] : by_what) {
        of.trouble.what = what;
        of.trouble.engines = of.engines.size();
        of.trouble.readers.assign(of.readers.begin(), of.readers.end());
        out.troubles.push_back(std::move(of.trouble));
    }
    return out;
}

/// The canonical spelling of a document, if it has just the same value; nothing if there is none.
std::optional<std::string> plain_spelling(const TextKey& text) {
    const CanonicalForm* form = text.first->canonical_form();
    if (form == nullptr) return std::nullopt;
    Canonical plain = form->canonical(text.second);
    if (plain.refused || !plain.unreadable_because.empty()) return std::nullopt;
    constexpr auto exact = static_cast<std::size_t>(Layer::exact);
    const Reading before = text.first->read(text.second), after = text.first->read(plain.bytes);
    const bool same = before.accepted() && after.accepted() &&
                      text.first->digests(before.trace)[exact] == text.first->digests(after.trace)[exact];
    return same ? std::optional(std::move(plain.bytes)) : std::nullopt;
}

/// The format of a text of this writer.
TextKey key_of(const Written& written, const std::string& text) {
    return *std::ranges::find(written.texts, text, &TextKey::second);
}

Crossing::Plain compared(const Crossing::Trouble& trouble, const TextKey& plain, const Troubles& of_plain) {
    if (plain.second == trouble.smallest) return Crossing::Plain::trouble;
    const bool any = std::ranges::any_of(of_plain.at(plain), [&](const ReaderTrouble& one) {
        return std::ranges::find(trouble.readers, one.reader->name()) != trouble.readers.end();
    });
    return any ? Crossing::Plain::trouble : Crossing::Plain::read;
}

}  // namespace

std::string_view name_of(Crossing::Plain plain) {
    constexpr std::string_view names[]{"read", "trouble", "unknown"};
    return names[static_cast<std::size_t>(plain)];
}

std::vector<Crossing> cross(std::span<const Case> cases, std::span<const Subject> writers,
                            std::span<const Subject> all_readers, const ExecutorFactory& make,
                            const CampaignOptions& options) {
    const auto written = all_written(cases, writers, make, options);
    const std::vector<Subject> readers = decoders(all_readers);
    std::set<TextKey> texts;
    for (const Written& one : written) texts.insert(one.texts.begin(), one.texts.end());
    const Troubles troubles = ask(texts, readers, make, options);

    std::vector<Crossing> out;
    std::map<TextKey, TextKey> plain;
    std::set<TextKey> plain_texts;
    for (std::size_t i = 0; i < written.size(); ++i) {
        out.push_back(crossing_of(written[i], troubles));
        out.back().writer = &writers[i];
        out.back().readers = readers.size();
        std::set<std::string> engines;
        for (const Subject& reader : readers) engines.insert(reader.engine);
        out.back().engines = engines.size();
        for (const Crossing::Trouble& trouble : out.back().troubles) {
            const TextKey key = key_of(written[i], trouble.smallest);
            if (auto spelled = plain_spelling(key)) {
                plain_texts.emplace(key.first, *spelled);
                plain.emplace(key, TextKey{key.first, std::move(*spelled)});
            }
        }
    }
    const Troubles of_plain = ask(plain_texts, readers, make, options);
    for (std::size_t i = 0; i < written.size(); ++i) {
        for (Crossing::Trouble& trouble : out[i].troubles)
            if (const auto known = plain.find(key_of(written[i], trouble.smallest)); known != plain.end())
                trouble.plain = compared(trouble, known->second, of_plain);
        std::ranges::stable_sort(out[i].troubles, [](const Crossing::Trouble& a, const Crossing::Trouble& b) {
            const bool spelled = a.plain == Crossing::Plain::read, other = b.plain == Crossing::Plain::read;
            return spelled != other ? spelled : a.engines > b.engines;
        });
    }
    return out;
}

}  // namespace nachklang

// `read`: the reference reader's own view of one document.
#include <fmt/format.h>

#include <cerrno>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <memory>

#include "commands/commands.hpp"
#include "ui/terminal.hpp"

namespace tool {

using namespace nachklang;

namespace {

struct CloseFile {
    void operator()(std::FILE* file) const {
        if (file != stdin) std::fclose(file);
    }
};
using File = std::unique_ptr<std::FILE, CloseFile>;

/// Calls `take` for each piece of a file or of standard input.
template <class Take>
std::optional<Problem> for_each_piece(const std::string& name, Take take) {
    const File file(name == "-" ? stdin : std::fopen(name.c_str(), "rb"));
    const auto unreadable = [&] {
        if (interrupted()) throw Cancelled();  // the signal ended the wait for a FIFO
        return Problem{name, std::strerror(errno), "name a file that can be read, or - for standard input"};
    };
    if (!file) return unreadable();
    std::string piece(1 << 18, '\0');
    while (const std::size_t count = std::fread(piece.data(), 1, piece.size(), file.get()))
        if (!take(std::string_view(piece).substr(0, count))) return std::nullopt;
    if (std::ferror(file.get()) != 0) return unreadable();
    return std::nullopt;
}

int refused(const Rejection& rejection) {
    const Position& at = rejection.position;
    fmt::print(stderr, "offset {} line {} column {}: {} [{}]{}\n", at.offset, at.line, at.column, rejection.message,
               rejection.clause, rejection.entity_stack.empty() ? "" : " in " + rejection.entity_stack);
    return exit_failing;
}

int unreadable(const std::string& file, const std::string& what) {
    return report({file, "the reference reader cannot read " + what, "this document gets no verdict"});
}

/// Deeper lines are indented no further.
void print_tree(const Format& format, const Trace& trace) {
    constexpr std::size_t deepest_indent = 60, buffered = 1U << 16;
    std::string out;
    const auto print = [&] {
        std::fwrite(out.data(), 1, out.size(), stdout);
        out.clear();
    };
    format.for_each_line(trace, [&](const TreeLine& line) {
        out.append(2 * std::min(line.depth, deepest_indent), ' ');
        out += line.text + "\n";
        if (out.size() > buffered) print();
        return true;
    });
    print();
}

/// Prints a profile's advice on the document; status 1 if there is any.
int advised(const Format& format, const std::string& profile, std::string_view document) {
    const auto advice = format.profiles()->advice(profile, document);
    for (const Advice& a : advice)
        fmt::print(stderr, "offset {} line {} column {}: {} [{}, {}]\n", a.position.offset, a.position.line,
                   a.position.column, a.message, a.clause, name_of(a.basis));
    return advice.empty() ? exit_success : exit_failing;
}

/// An option that a format lists for reading or for its canonical form; null if it has no such option.
const Option* find_option(std::span<const Option> options, std::string_view name) {
    const auto found =
        std::find_if(options.begin(), options.end(), [&](const Option& o) { return o.name == name; });
    return found == options.end() ? nullptr : &*found;
}

/// What is wrong with the choices for this format: an option that it does not have, or a value that is not allowed.
std::optional<Problem> wrong_choice(const Format& format, const ReadOptions& options) {
    const CanonicalForm* form = format.canonical_form();
    const auto canonical = form == nullptr ? std::span<const Option>{} : form->canonical_options();
    const auto foreign = [&](std::string_view name) {
        return Problem{fmt::format("--{}", name), fmt::format("{} has no such option", format.name()),
                       "leave it out"};
    };
    if (!options.allow_folder.empty() && !format.constants().names_external_files) return foreign("allow-folder");
    for (const auto& [name, value] : options.choices) {
        const Option* for_reading = find_option(format.constants().reading_options, name);
        const Option* option = for_reading != nullptr ? for_reading : find_option(canonical, name);
        if (option == nullptr) return foreign(name);
        const auto& allowed = option->allowed;
        if (!allowed.empty() && std::find(allowed.begin(), allowed.end(), value) == allowed.end())
            return Problem{fmt::format("--{}", name), fmt::format("'{}' is not a value of this option", value),
                           fmt::format("use {}", fmt::join(allowed, " or "))};
        if (for_reading == nullptr && options.as != "canonical")
            return Problem{fmt::format("--{}", name), "this option shapes the canonical form",
                           "add --as canonical"};
        if (!option->needs.empty() && !options.choices.contains(option->needs))
            return Problem{fmt::format("--{}", name),
                           fmt::format("this option has no effect without --{}", option->needs),
                           fmt::format("add --{}", option->needs)};
    }
    return std::nullopt;
}

/// The choices that say how a format reads.
Settings reading_settings(const Format& format, const Choices& choices) {
    Settings out;
    for (const auto& [name, value] : choices)
        if (find_option(format.constants().reading_options, name) != nullptr) out[name] = value;
    return out;
}

std::string folder_of(const std::string& file) {
    return std::filesystem::weakly_canonical(file).parent_path().string();
}

}  // namespace

int read(const Common& common, const ReadOptions& options) {
    if (options.as != "tree" && options.as != "trace" && options.as != "canonical")
        return report({"--as", fmt::format("'{}' is not a view", options.as), "use tree, trace or canonical"});
    const Format* format = common.format.empty() ? nullptr : find_format(common.format);
    if (std::error_code error;
        !options.allow_folder.empty() && !std::filesystem::is_directory(options.allow_folder, error))
        return report({"--allow-folder", fmt::format("{} is not a folder", options.allow_folder),
                       "name the folder that may be read"});
    Fetch fetch;
    if (!options.allow_folder.empty())
        fetch =
            files_below(options.allow_folder, options.file == "-" ? options.allow_folder : folder_of(options.file));
    if (options.quiet && !fetch) {
        std::unique_ptr<VerdictStream> stream;
        std::optional<Problem> wrong;
        const auto start = [&](std::string_view piece) {
            const Format& chosen = format != nullptr ? *format : guess_format(options.file, piece);
            wrong = wrong_choice(chosen, options);
            stream = chosen.verdict_stream(reading_settings(chosen, options.choices));
        };
        const auto problem = for_each_piece(options.file, [&](std::string_view piece) {
            if (!stream) start(piece);
            return !wrong && stream->feed(piece);
        });
        if (problem) return report(*problem);
        if (!stream) start({});
        if (wrong) return report(*wrong);
        const auto rejection = stream->finish();
        if (!stream->unreadable_because().empty()) return unreadable(options.file, stream->unreadable_because());
        return rejection ? refused(*rejection) : exit_success;
    }
    std::string document;
    const auto problem = for_each_piece(options.file, [&](std::string_view piece) {
        document += piece;
        return document.size() <= largest_file;
    });
    if (problem) return report(*problem);
    if (document.size() > largest_file)
        return report({options.file, "is longer than 1 GiB", "name a shorter file, or take --quiet"});
    if (format == nullptr) format = &guess_format(options.file, document);
    if (const auto wrong = wrong_choice(*format, options)) return report(*wrong);
    if (options.as == "canonical") {
        if (format->canonical_form() == nullptr)
            return report({"--as", fmt::format("{} has no canonical form", format->name()), "use tree or trace"});
        const Canonical canonical = format->canonical_form()->canonical(document, options.choices, fetch);
        if (!canonical.unreadable_because.empty()) return unreadable(options.file, canonical.unreadable_because);
        if (canonical.refused) return refused(*canonical.refused);
        std::fwrite(canonical.bytes.data(), 1, canonical.bytes.size(), stdout);
        return exit_success;
    }
    if (!options.profile.empty() && !has_profile(*format, options.profile))
        return report({"--profile", fmt::format("'{}' is not a profile of {}", options.profile, format->name()),
                       "`nachklang read --help` names them"});
    const Reading reading = format->read(document, {reading_settings(*format, options.choices), fetch});
    if (!reading.unreadable_because.empty()) return unreadable(options.file, reading.unreadable_because);
    if (reading.rejection) {
        if (!reading.weaker_verdict.empty())
            fmt::print(stderr, "the document is only {}\n", reading.weaker_verdict);
        return refused(*reading.rejection);
    }
    if (options.quiet) return exit_success;
    if (options.as == "trace") {
        std::fwrite(reading.trace.text().data(), 1, reading.trace.text().size(), stdout);
    } else {
        print_tree(*format, reading.trace);
    }
    if (!options.profile.empty()) return advised(*format, options.profile, document);
    for (const Occurrence& occurrence : reading.occurrences)
        fmt::print(stderr, "raises {}: {} place{}, first at offset {}\n", occurrence.question, occurrence.count,
                   occurrence.count == 1 ? "" : "s", occurrence.offset);
    return exit_success;
}

}  // namespace tool

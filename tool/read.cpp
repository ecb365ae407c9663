// `read`: the reference reader's own view of one document.
#include <fmt/format.h>

#include <cerrno>
#include <cstdio>
#include <cstring>
#include <memory>

#include "commands.hpp"
#include "terminal.hpp"

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
    if (!file) return Problem{name, std::strerror(errno), "name a file that can be read, or - for standard input"};
    std::string piece(1 << 18, '\0');
    while (const std::size_t count = std::fread(piece.data(), 1, piece.size(), file.get()))
        if (!take(std::string_view(piece).substr(0, count))) return std::nullopt;
    if (std::ferror(file.get()) != 0)
        return Problem{name, std::strerror(errno), "name a file that can be read, or - for standard input"};
    return std::nullopt;
}

int refused(const Rejection& rejection) {
    const Position& at = rejection.position;
    fmt::print(stderr, "offset {} line {} column {}: {} [{}]{}\n", at.offset, at.line, at.column, rejection.message,
               rejection.clause, rejection.trail.empty() ? "" : " in " + rejection.trail);
    return something_amiss;
}

/// A node a line; a member and its one value share theirs.
void print_tree(const Format& format, const Trace& trace) {
    const Tree tree = format.tree(trace, Layer::order);
    struct Open {
        std::size_t end, indent;
    };
    std::vector<Open> open;
    std::string out;
    for (std::size_t i = 0; i < tree.nodes.size(); ++i) {
        while (!open.empty() && open.back().end <= i) open.pop_back();
        const std::size_t indent = open.empty() ? 0 : std::min<std::size_t>(open.back().indent + 1, 60);
        const Tree::Node* node = &tree.nodes[i];
        out.append(2 * indent, ' ');
        out += node->step;
        const bool names_only = node->step.size() > 1 && node->step.substr(1) == node->shown;
        const bool one_child = i + 1 < node->end && tree.nodes[i + 1].end == node->end;
        if (names_only && one_child) node = &tree.nodes[++i];
        if (!names_only || one_child)
            out += (out.ends_with(' ') || out.ends_with('\n') || out.empty() ? "" : "  ") + node->shown;
        out += '\n';
        open.push_back({node->end, indent});
        if (out.size() > (1U << 16)) {
            std::fwrite(out.data(), 1, out.size(), stdout);
            out.clear();
        }
    }
    std::fwrite(out.data(), 1, out.size(), stdout);
}

/// What a profile says against the document; status 1 where it says anything.
int advised(const Format& format, const std::string& profile, std::string_view document) {
    const auto advice = format.advice(profile, document);
    for (const Advice& a : advice)
        fmt::print(stderr, "offset {} line {} column {}: {} [{}, {}]\n", a.position.offset, a.position.line,
                   a.position.column, a.message, a.clause, name_of(a.basis));
    return advice.empty() ? nothing_amiss : something_amiss;
}

}  // namespace

int read(const Common& common, const ReadOptions& options) {
    if (options.as != "tree" && options.as != "trace" && options.as != "canonical")
        return report({"--as", fmt::format("'{}' is no view", options.as), "use tree, trace or canonical"});
    const Format* format = nullptr;
    if (!common.format.empty()) {
        format = find_format(common.format);
        if (format == nullptr)
            return report({"--format", fmt::format("no format is called '{}'", common.format), "use json or xml"});
    }
    if (options.quiet) {
        std::unique_ptr<VerdictStream> stream;
        const auto problem = for_each_piece(options.file, [&](std::string_view piece) {
            if (!stream)
                stream = (format != nullptr ? *format : guess_format(options.file, piece)).verdict_stream();
            return stream->feed(piece);
        });
        if (problem) return report(*problem);
        if (!stream) stream = (format != nullptr ? *format : guess_format(options.file, {})).verdict_stream();
        const auto rejection = stream->finish();
        return rejection ? refused(*rejection) : nothing_amiss;
    }
    std::string document;
    const auto problem =
        for_each_piece(options.file, [&](std::string_view piece) { return document += piece, true; });
    if (problem) return report(*problem);
    if (format == nullptr) format = &guess_format(options.file, document);
    const auto beyond = [&](const std::string& what) {
        return report({options.file, "the reference reader does not read " + what + " yet",
                       "nothing is said of this document"});
    };
    if (options.as == "canonical") {
        const Canonical canonical = format->canonical(document);
        if (!canonical.beyond.empty()) return beyond(canonical.beyond);
        if (canonical.refused) return refused(*canonical.refused);
        std::fwrite(canonical.bytes.data(), 1, canonical.bytes.size(), stdout);
        return nothing_amiss;
    }
    if (!options.profile.empty() && !has_profile(*format, options.profile))
        return report({"--profile", fmt::format("'{}' is no profile of {}", options.profile, format->name()),
                       "`nachklang read --help` names them"});
    const Reading reading = format->read(document);
    if (!reading.beyond.empty()) return beyond(reading.beyond);
    if (reading.rejection) return refused(*reading.rejection);
    if (options.as == "trace") {
        std::fwrite(reading.trace.text().data(), 1, reading.trace.text().size(), stdout);
    } else {
        print_tree(*format, reading.trace);
    }
    if (!options.profile.empty()) return advised(*format, options.profile, document);
    for (const Touch& touch : reading.touches)
        fmt::print(stderr, "touches {}: {} place{}, first at offset {}\n", touch.question, touch.count,
                   touch.count == 1 ? "" : "s", touch.offset);
    return nothing_amiss;
}

}  // namespace tool

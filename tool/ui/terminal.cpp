// Colours, tables and the progress line; see terminal.hpp.
#include "ui/terminal.hpp"

#include <fmt/format.h>
#include <sys/ioctl.h>
#include <unistd.h>

#include <algorithm>
#include <cstdio>
#include <cstdlib>

#include <nachklang/text.hpp>

namespace tool {

Style Style::of_stdout(Colour colour) {
    Style out;
    out.coloured_ = colour == Colour::always ||
                    (colour == Colour::automatic && std::getenv("NO_COLOR") == nullptr && ::isatty(1) == 1);
    return out;
}

std::string Style::paint(std::string_view code, std::string_view text) const {
    if (!coloured_) return std::string(text);
    return fmt::format("\x1b[{}m{}\x1b[0m", code, text);
}

std::vector<std::string> wrapped(const std::string& text, std::size_t width) {
    std::vector<std::string> out{""};
    for (std::size_t at = 0; at < text.size();) {
        const std::size_t end = std::min(text.find(' ', at), text.size());
        const std::string word = text.substr(at, end - at);
        const std::size_t taken = nachklang::text::display_width(out.back());
        if (taken > 0 && taken + 1 + nachklang::text::display_width(word) > width) out.emplace_back();
        out.back() += (out.back().empty() ? "" : " ") + word;
        at = end + 1;
    }
    return out;
}

void print_folded(std::size_t indent, const std::string& text,
                  const std::function<std::string(const std::string&)>& paint, std::size_t hanging) {
    const std::size_t most = indent + hanging, width = std::max(terminal_width(), most + 20) - most;
    for (const std::string& line : wrapped(text, width)) {
        fmt::print("{:{}}{}\n", "", indent, paint ? paint(line) : line);
        indent = most;
    }
}

namespace {

/// By column. The last cell of a row takes no room of its column unless it is the only one, or is asked for.
std::vector<std::size_t> widths_of(const std::vector<std::vector<Cell>>& rows, bool with_last) {
    std::vector<std::size_t> out;
    for (const auto& row : rows) {
        out.resize(std::max(out.size(), row.size()), 0);
        for (std::size_t i = 0; i < row.size(); ++i)
            if (with_last || i == 0 || i + 1 < row.size())
                out[i] = std::max(out[i], nachklang::text::display_width(row[i].text));
    }
    return out;
}

std::string painted(const std::string& text, Cell::Paint paint, const Style& style) {
    switch (paint) {
        case Cell::Paint::none:
            return text;
        case Cell::Paint::bold:
            return style.bold(text);
        case Cell::Paint::faint:
            return style.faint(text);
        case Cell::Paint::bad:
            return style.bad(text);
        case Cell::Paint::open:
            return style.open(text);
        case Cell::Paint::good:
            return style.good(text);
    }
    return text;
}

}  // namespace

std::size_t table_width(const std::vector<std::vector<Cell>>& rows) {
    std::size_t out = 0;
    for (const std::size_t width : widths_of(rows, true)) out += width + (out > 0 ? 2 : 0);
    return out;
}

namespace {

constexpr std::size_t narrowest_last = 24, stacked_indent = 4;

/// Where a table's columns go. Those before `stacked` have a line of their own, above the others.
struct Layout {
    std::vector<std::size_t> widths;
    std::size_t stacked = 0, before_last = 0;
    bool folds = false;  // the last column goes on below itself
};

/// How far the last column is to the right if the columns from `first` on share a line.
std::size_t place_of_last(const std::vector<std::size_t>& widths, std::size_t first, std::size_t indent) {
    std::size_t out = indent + (first > 0 ? stacked_indent : 0);
    for (std::size_t i = first; i + 1 < widths.size(); ++i) out += widths[i] + 2;
    return out;
}

/// On a terminal a table fits the window: its last column is folded, and columns that still have no room go above.
Layout layout_of(const std::vector<std::vector<Cell>>& rows, std::size_t indent) {
    Layout out{widths_of(rows, false)};
    out.before_last = place_of_last(out.widths, 0, indent);
    if (::isatty(1) != 1) return out;
    const std::vector<std::size_t> whole = widths_of(rows, true);
    const std::size_t last = std::min(narrowest_last, whole.empty() ? 0 : whole.back());
    for (std::size_t stacked = 0; stacked < out.widths.size(); ++stacked) {
        const std::size_t place = place_of_last(out.widths, stacked, indent);
        if (place + last > terminal_width()) continue;
        out.stacked = stacked;
        out.before_last = place;
        out.folds = true;
        break;
    }
    return out;
}

void append_line(std::string& out, const std::string& text) {
    out += text;
    while (out.ends_with(' ')) out.pop_back();
    out += '\n';
}

}  // namespace

std::string table(const std::vector<std::vector<Cell>>& rows, const Style& style, std::string_view indent) {
    const Layout layout = layout_of(rows, indent.size());
    std::string out;
    for (const auto& row : rows) {
        std::string line(indent);
        const bool is_last_column = row.size() == layout.widths.size();
        for (std::size_t i = 0; i < row.size(); ++i) {
            const bool is_last = i + 1 == row.size();
            if (i > 0 && i == layout.stacked && (!is_last || is_last_column)) {
                append_line(out, line);
                line = std::string(indent) + std::string(stacked_indent, ' ');
            }
            if (is_last) break;
            line += painted(row[i].text, row[i].paint, style);
            line.append(layout.widths[i] - nachklang::text::display_width(row[i].text) + 2, ' ');
        }
        std::vector<std::string> last{""};
        if (!row.empty())
            last = layout.folds && is_last_column ? wrapped(row.back().text, terminal_width() - layout.before_last)
                                                  : std::vector{row.back().text};
        for (std::size_t i = 0; i < last.size(); ++i) {
            if (i > 0) line = std::string(layout.before_last, ' ');
            append_line(out, line + (row.empty() ? "" : painted(last[i], row.back().paint, style)));
        }
    }
    return out;
}

std::string joined(const std::vector<std::string>& names, std::size_t most) {
    std::string out;
    for (std::size_t i = 0; i < names.size() && i < most; ++i) out += (i == 0 ? "" : ", ") + names[i];
    if (names.size() > most) out += fmt::format(" and {} more", nachklang::text::grouped(names.size() - most));
    return out;
}

std::size_t terminal_width() {
    // As shells and other programs set it (POSIX.1-2017, 8.3).
    if (const char* columns = std::getenv("COLUMNS")) {
        const long width = std::strtol(columns, nullptr, 10);
        if (width > 20) return static_cast<std::size_t>(width);
    }
    winsize size{};
    if (::ioctl(1, TIOCGWINSZ, &size) == 0 && size.ws_col > 20) return size.ws_col;
    return 100;
}

Progress::Progress(std::string label) : label_(std::move(label)), on_terminal_(::isatty(2) == 1) {}

Progress::~Progress() {
    clear();
}

void Progress::clear() {
    if (on_terminal_ && shown_width_ > 0) fmt::print(stderr, "\r{}\r", std::string(shown_width_, ' '));
    std::fflush(stderr);
    shown_width_ = 0;
}

void Progress::show(std::size_t done, std::size_t all) {
    if (!on_terminal_ || all == 0) return;
    constexpr std::size_t width = 30;
    const std::size_t filled = width * done / all;
    const std::string line = fmt::format("{} [{}{}] {}/{}", label_, std::string(filled, '='),
                                         std::string(width - filled, ' '), done, all);
    fmt::print(stderr, "\r{}", line);
    std::fflush(stderr);
    shown_width_ = line.size();
}

}  // namespace tool

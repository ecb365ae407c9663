// Output to the terminal: colours if they are wanted, tables, a progress line. Make foreign text printable before
// it comes here.
#pragma once

#include <functional>
#include <string>
#include <string_view>
#include <vector>

namespace tool {

/// When output has colours: on a terminal, always, or never.
enum class Colour { automatic, always, never };

/// Colours, or none.
class Style {
  public:
    /// `automatic`: colours if standard output is a terminal and `NO_COLOR` is not set.
    static Style of_stdout(Colour colour);
    [[nodiscard]] std::string bold(std::string_view text) const { return paint("1", text); }
    [[nodiscard]] std::string faint(std::string_view text) const { return paint("2", text); }
    [[nodiscard]] std::string bad(std::string_view text) const { return paint("31", text); }
    [[nodiscard]] std::string open(std::string_view text) const { return paint("33", text); }
    [[nodiscard]] std::string good(std::string_view text) const { return paint("32", text); }

  private:
    [[nodiscard]] std::string paint(std::string_view code, std::string_view text) const;
    bool coloured_ = false;
};

/// A cell: its text, and how it is painted once its width is known.
struct Cell {
    std::string text;
    enum class Paint { none, bold, faint, bad, open, good } paint = Paint::none;
};
/// Columns as wide as their widest cell, two blanks between; the last is not padded. On a terminal a table that is
/// wider than the window has its last column folded, and its first columns on a line of their own.
std::string table(const std::vector<std::vector<Cell>>& rows, const Style& style, std::string_view indent = "");

/// Columns that such a table takes, the last column included.
std::size_t table_width(const std::vector<std::vector<Cell>>& rows);

/// The first names, and how many follow: "gson, jq and 3 more".
std::string joined(const std::vector<std::string>& names, std::size_t most);

/// Breaks text between words so that each line has at most `width` columns; a longer word has a line of its own.
std::vector<std::string> wrapped(const std::string& text, std::size_t width);
/// Prints text folded at the width of the window: the first line behind `indent` blanks, the others behind
/// `hanging` more. `paint` paints a line.
void print_folded(std::size_t indent, const std::string& text,
                  const std::function<std::string(const std::string&)>& paint = {}, std::size_t hanging = 0);

/// The terminal's columns; 100 without a terminal.
std::size_t terminal_width();

/// One line on standard error that is written over, on a terminal only.
class Progress {
  public:
    explicit Progress(std::string label);
    ~Progress();
    Progress(const Progress&) = delete;
    Progress& operator=(const Progress&) = delete;
    void show(std::size_t done, std::size_t all);
    /// Takes the line away, before other output.
    void clear();

  private:
    std::string label_;
    bool on_terminal_;
    std::size_t shown_width_ = 0;
};

}  // namespace tool

// How the options of a command are shown by --help.
#pragma once

#include <CLI/CLI.hpp>
#include <string>

namespace tool {

/// Names of options as they are typed, without what a flag means.
class HelpFormatter final : public CLI::Formatter {
  public:
    std::string make_option_name(const CLI::Option* option, bool is_positional) const override {
        std::string out;
        bool meaning = false;
        for (const char c : CLI::Formatter::make_option_name(option, is_positional)) {
            meaning = c == '{' || (meaning && c != '}');
            if (!meaning && c != '}') out += c;
        }
        return out;
    }
};

}  // namespace tool

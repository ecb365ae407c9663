#include "ui/self_description.hpp"

#include <fmt/format.h>

#include <vector>

namespace tool {

namespace {

std::vector<const CLI::App*> commands_of(const CLI::App& app) {
    std::vector<const CLI::App*> out;
    for (const CLI::App* command : app.get_subcommands([](const CLI::App*) { return true; }))
        out.push_back(command);
    return out;
}

/// "--results", without the option's short or second name.
std::string long_name(const CLI::Option& option) {
    return option.get_lnames().empty() ? "" : "--" + option.get_lnames().front();
}

std::vector<const CLI::Option*> options_of(const CLI::App& app) {
    std::vector<const CLI::Option*> out;
    for (const CLI::Option* option : app.get_options([](const CLI::Option*) { return true; }))
        if (option->nonpositional()) out.push_back(option);
    return out;
}

bool takes_value(const CLI::Option& option) {
    return option.get_expected_max() > 0 && option.get_type_size_max() > 0;
}

std::string positionals_of(const CLI::App& app) {
    std::string out;
    for (const CLI::Option* option : app.get_options([](const CLI::Option*) { return true; })) {
        if (!option->get_positional()) continue;
        const bool many = option->get_expected_max() > 1;
        const std::string name = option->get_name(true) + (many ? " ..." : "");
        out += option->get_required() ? " " + name : " [" + name + "]";
    }
    return out;
}

/// Text for roff: a backslash, a leading dot and hyphens mean themselves.
std::string roff(const std::string& text) {
    std::string out;
    for (const char c : text) {
        if (c == '\\')
            out += "\\e";
        else if (c == '-')
            out += "\\-";
        else
            out += c;
    }
    return out.starts_with('.') || out.starts_with('\'') ? "\\&" + out : out;
}

void add_manual(std::string& out, const CLI::App& command, const std::string& name) {
    out += fmt::format(".SS {}\n{}.\n", roff(name + positionals_of(command)), roff(command.get_description()));
    for (const CLI::Option* option : options_of(command)) {
        if (long_name(*option) == "--help") continue;
        out += fmt::format(".TP\n.B {}{}\n{}\n", roff(long_name(*option)),
                           takes_value(*option) ? " \\fIVALUE\\fR" : "", roff(option->get_description()));
    }
    for (const CLI::App* inner : commands_of(command)) add_manual(out, *inner, name + " " + inner->get_name());
}

/// A cell of a Markdown table.
std::string cell(const std::string& text) {
    std::string out;
    for (const char c : text) out += c == '|' ? std::string("\\|") : std::string(1, c);
    return out;
}

void add_reference(std::string& out, const CLI::App& command, const std::string& name) {
    out += fmt::format("\n## {}\n`nachklang {}{}`: {}.\n", name, name, positionals_of(command),
                       command.get_description());
    std::string rows;
    for (const CLI::Option* option : options_of(command)) {
        if (long_name(*option) == "--help") continue;
        rows += fmt::format("| `{}{}` | {} |\n", long_name(*option), takes_value(*option) ? " VALUE" : "",
                            cell(option->get_description()));
    }
    if (!rows.empty()) out += "\n| option | what it does |\n|---|---|\n" + rows;
    for (const CLI::App* inner : commands_of(command)) add_reference(out, *inner, name + " " + inner->get_name());
}

constexpr const char* manual_end = R"(.SH EXIT STATUS
.TP
0
Nothing fails.
.TP
1
Something fails: a finding, an incident, or what \-\-fail\-on names.
.TP
2
The call or a file it names is wrong; one line says what, where and what to do.
.TP
3
The machine failed; this says nothing about an implementation.
.TP
130, 143
Interrupted by a signal.
.SH ENVIRONMENT
.TP
NO_COLOR
Print without colours.
.TP
NACHKLANG_DATA
The folder with corpora/ and adapters/, if not the installed one.
.TP
TMPDIR
Where a folder is made for the temporary files of implementations; it is gone with the command.
.SH FILES
.TP
nachklang.toml
The configuration, in the working folder.
.TP
nachklang.db
Kept runs, where \-\-store names it.
)";

/// Quotes for a single-quoted word of a shell.
std::string shell_quoted(const std::string& text) {
    std::string out;
    for (const char c : text) out += c == '\'' ? std::string("'\\''") : std::string(1, c);
    return "'" + out + "'";
}

/// All commands, inner ones with their words: "corpus list".
void collect(const CLI::App& app, const std::string& before,
             std::vector<std::pair<std::string, const CLI::App*>>& out) {
    for (const CLI::App* command : commands_of(app)) {
        const std::string name = before + (before.empty() ? "" : " ") + command->get_name();
        out.emplace_back(name, command);
        collect(*command, name, out);
    }
}

std::string words_after(const CLI::App& app) {
    std::string out;
    for (const CLI::App* command : commands_of(app)) out += (out.empty() ? "" : " ") + command->get_name();
    for (const CLI::Option* option : options_of(app)) out += (out.empty() ? "" : " ") + long_name(*option);
    return out;
}

std::string bash(const CLI::App& app) {
    std::vector<std::pair<std::string, const CLI::App*>> all;
    collect(app, "", all);
    std::string cases;
    for (const auto& [name, command] : all)
        cases += fmt::format("    {}) words={} ;;\n", shell_quoted(name), shell_quoted(words_after(*command)));
    return fmt::format(R"(# bash completion for nachklang
_nachklang() {{
  local word=${{COMP_WORDS[COMP_CWORD]}} command= words= i
  for ((i = 1; i < COMP_CWORD && i < 3; ++i)); do
    [[ ${{COMP_WORDS[i]}} == -* ]] && break
    command+=${{command:+ }}${{COMP_WORDS[i]}}
  done
  case $command in
    '') words={} ;;
{}    *) command=${{command%% *}} ;;
  esac
  COMPREPLY=($(compgen -W "$words" -- "$word"))
  [[ $word == -* ]] || COMPREPLY+=($(compgen -f -- "$word"))
}}
complete -o filenames -F _nachklang nachklang
)",
                       shell_quoted(words_after(app)), cases);
}

std::string zsh(const CLI::App& app) {
    std::vector<std::pair<std::string, const CLI::App*>> all;
    collect(app, "", all);
    const auto described = [](const std::string& word, const std::string& about) {
        std::string safe = word + ":";
        for (const char c : about) safe += c == ':' ? std::string("\\:") : std::string(1, c);
        return "    " + shell_quoted(safe) + "\n";
    };
    const auto list_of = [&](const CLI::App& command) {
        std::string out;
        for (const CLI::App* inner : commands_of(command))
            out += described(inner->get_name(), inner->get_description());
        for (const CLI::Option* option : options_of(command))
            out += described(long_name(*option), option->get_description());
        return out;
    };
    std::string cases;
    for (const auto& [name, command] : all)
        cases += fmt::format("  {}) choices=(\n{}  ) ;;\n", shell_quoted(name), list_of(*command));
    return fmt::format(R"(#compdef nachklang
local -a choices
local command=
local i
for ((i = 2; i < CURRENT && i < 4; ++i)); do
  [[ $words[i] == -* ]] && break
  command+=${{command:+ }}$words[i]
done
case $command in
  '') choices=(
{}  ) ;;
{}esac
_describe nachklang choices
_files
)",
                       list_of(app), cases);
}

std::string fish(const CLI::App& app) {
    std::string out = "# fish completion for nachklang\n";
    for (const CLI::App* command : commands_of(app))
        out += fmt::format("complete -c nachklang -n __fish_use_subcommand -a {} -d {}\n", command->get_name(),
                           shell_quoted(command->get_description()));
    std::vector<std::pair<std::string, const CLI::App*>> all;
    collect(app, "", all);
    for (const auto& [name, command] : all) {
        const std::string seen = "'__fish_seen_subcommand_from " + command->get_name() + "'";
        for (const CLI::App* inner : commands_of(*command))
            out += fmt::format("complete -c nachklang -n {} -a {} -d {}\n", seen, inner->get_name(),
                               shell_quoted(inner->get_description()));
        for (const CLI::Option* option : options_of(*command))
            out += fmt::format("complete -c nachklang -n {} -l {}{} -d {}\n", seen, option->get_lnames().front(),
                               takes_value(*option) ? " -r" : "", shell_quoted(option->get_description()));
    }
    return out;
}

}  // namespace

std::string manual_page(const CLI::App& app, const std::string& version) {
    std::string out = fmt::format(
        ".TH NACHKLANG 1 \"\" \"nachklang {}\"\n.SH NAME\nnachklang \\- test JSON and XML libraries\n", version);
    out += ".SH SYNOPSIS\n.B nachklang\n.I COMMAND\n.RI [ OPTION ...]\n.SH DESCRIPTION\n" +
           roff(app.get_description()) + ".\n";
    out += ".SH COMMANDS\n";
    for (const CLI::App* command : commands_of(app)) add_manual(out, *command, command->get_name());
    return out + manual_end;
}

std::string option_reference(const CLI::App& app) {
    std::string out =
        "# Commands and options\n"
        "Printed by `nachklang manual --markdown`. [findings.md](findings.md) lists the exit statuses.\n";
    for (const CLI::App* command : commands_of(app)) add_reference(out, *command, command->get_name());
    return out;
}

std::string completion(const CLI::App& app, Shell shell) {
    switch (shell) {
        case Shell::bash:
            return bash(app);
        case Shell::zsh:
            return zsh(app);
        default:
            return fish(app);
    }
}

}  // namespace tool

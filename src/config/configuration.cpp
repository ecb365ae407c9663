// nachklang.toml, and the list of implementations that ships with us: the same form.
#include <fmt/format.h>
#include <toml++/toml.h>

#include <unistd.h>

#include <algorithm>
#include <array>
#include <cstdlib>
#include <filesystem>

#include <nachklang/corpus.hpp>

#include <nachklang/config.hpp>

namespace nachklang {

std::string_view name_of(Reach reach) {
    constexpr std::array<std::string_view, 3> names{"verdict", "round-trip", "trace"};
    return names[static_cast<std::size_t>(reach)];
}
namespace {

namespace fs = std::filesystem;

struct ConfigurationProblem {
    Problem problem;
};

class Loader {
  public:
    Loader(std::string file, std::string adapters, std::string built)
        : file_(std::move(file)), adapters_(std::move(adapters)), built_(std::move(built)) {}

    Configuration load() {
        auto bytes = read_file(file_);
        if (!bytes.ok()) throw ConfigurationProblem{bytes.problem()};
        toml::table root;
        try {
            root = toml::parse(bytes.value(), file_);
        } catch (const toml::parse_error& error) {
            const auto& at = error.source().begin;
            throw ConfigurationProblem{{fmt::format("{}:{}:{}", file_, at.line, at.column),
                                        std::string(error.description()), "correct the TOML"}};
        }
        known_keys(root, {"shipped", "implementation", "corpus"});
        Configuration out;
        if (const toml::array* list = list_of(root, "implementation", "write [[implementation]]")) {
            for (const toml::node& node : *list) out.implementations.push_back(implementation(table(node)));
            out.ships_implementations = false;
        }
        if (const toml::array* list = list_of(root, "corpus", "write [[corpus]]")) {
            for (const toml::node& node : *list) out.corpora.push_back(corpus(table(node)));
            out.ships_corpora = false;
        }
        shipped(root, out);
        return out;
    }

  private:
    [[noreturn]] void fail(const toml::node& where, std::string what, std::string advice) const {
        throw ConfigurationProblem{
            {fmt::format("{}:{}", file_, std::max<std::size_t>(where.source().begin.line, 1)), std::move(what),
             std::move(advice)}};
    }
    [[nodiscard]] const toml::table& table(const toml::node& node) const {
        if (!node.is_table())
            fail(node, "an entry is not a table", "write [[implementation]] or [[corpus]] tables");
        return *node.as_table();
    }
    void known_keys(const toml::table& table, std::initializer_list<std::string_view> known) const {
        for (const auto& [key, value] : table)
            if (std::find(known.begin(), known.end(), key.str()) == known.end())
                fail(value, fmt::format("unknown key '{}'", text::printable(key.str())),
                     "see docs/configuration.md for the keys");
    }
    [[nodiscard]] std::string text(const toml::table& table, std::string_view key) const {
        const auto value = table[key].value<std::string>();
        if (!value || value->empty())
            fail(table, fmt::format("'{}' is missing or is not a string", key), fmt::format("add {} = \"…\"", key));
        return *value;
    }
    /// Null if there is no such key. `advice` says how to write it.
    [[nodiscard]] const toml::array* list_of(const toml::table& table, std::string_view key,
                                             std::string advice) const {
        const toml::node* node = table.get(key);
        if (node == nullptr) return nullptr;
        if (!node->is_array()) fail(*node, fmt::format("'{}' must be a list", key), std::move(advice));
        return node->as_array();
    }
    [[nodiscard]] std::vector<std::string> texts(const toml::table& table, std::string_view key) const {
        std::vector<std::string> out;
        const toml::array* list = list_of(table, key, fmt::format("write {} = [ … ]", key));
        if (list == nullptr) return out;
        for (const toml::node& node : *list) {
            const auto value = node.value<std::string>();
            if (!value) fail(node, fmt::format("'{}' must be a list of strings", key), "put quotes around each");
            out.push_back(*value);
        }
        return out;
    }
    [[nodiscard]] double positive(const toml::table& table, std::string_view key, double otherwise) const {
        if (!table.contains(key)) return otherwise;
        const auto value = table[key].value<double>();
        if (!value || *value <= 0) fail(table, fmt::format("'{}' must be a number above 0", key), "write a number");
        return *value;
    }

    void shipped(const toml::table& root, Configuration& out) const {
        if (!root.contains("shipped")) return;
        if (const auto all = root["shipped"].value_exact<bool>()) {
            out.ships_implementations = out.ships_corpora = *all;
        } else if (root["shipped"].is_array()) {
            out.shipped_implementations = texts(root, "shipped");
            out.ships_implementations = true;
        } else {
            fail(*root.get("shipped"), "'shipped' is true, false or a list of names", "mend it");
        }
    }

    Implementation implementation(const toml::table& t) const {
        known_keys(t,
                   {"name", "reach", "command", "formats", "deadline_s", "start_s", "memory_mb", "rejected_status",
                    "declares", "excuses", "needs", "packages", "requires", "set", "version", "settings"});
        Implementation out;
        out.where = fmt::format("{}:{}", file_, t.source().begin.line);
        out.name = text(t, "name");
        const auto allowed = [](char c) { return c > ' ' && c <= '~' && c != '/' && c != '*' && c != '?'; };
        if (!std::all_of(out.name.begin(), out.name.end(), allowed))
            fail(t, fmt::format("'{}' is not a valid name", text::printable(out.name)),
                 "use printable ASCII without blanks, '/', '*' and '?'");
        const std::string reach = t["reach"].value<std::string>().value_or("trace");
        bool known = false;
        for (const Reach r : {Reach::verdict, Reach::round_trip, Reach::trace}) {
            if (name_of(r) != reach) continue;
            out.reach = r;
            known = true;
        }
        if (!known)
            fail(t, fmt::format("unknown reach '{}'", text::printable(reach)), "use verdict, round-trip or trace");
        out.command = texts(t, "command");
        if (out.command.empty()) fail(t, "'command' is missing", "write command = [\"program\", \"argument\"]");
        for (std::string& word : out.command) {
            place(word);
            check_placeholders(t, word, out.reach);
        }
        if (out.reach == Reach::trace && (t.contains("version") || t.contains("settings")))
            fail(t, "'version' and 'settings' are for command lines", "an adapter says them in its hello");
        out.version = t["version"].value<std::string>().value_or("");
        for (const std::string& setting : texts(t, "settings")) {
            const auto equals = setting.find('=');
            if (equals == std::string::npos || equals == 0)
                fail(t, fmt::format("'{}' is not of the form key=value", text::printable(setting)),
                     "write \"key=value\"");
            out.settings[setting.substr(0, equals)] = setting.substr(equals + 1);
        }
        out.formats = texts(t, "formats");
        if (out.formats.empty()) fail(t, "'formats' is missing", "write formats = [\"json\"]");
        for (const std::string& format : out.formats)
            if (find_format(format) == nullptr)
                fail(t, fmt::format("unknown format '{}'", text::printable(format)),
                     "use one of the formats that `nachklang corpus list` shows");
        out.deadline_s = positive(t, "deadline_s", out.deadline_s);
        out.start_s = positive(t, "start_s", out.start_s);
        out.memory_mb = static_cast<std::size_t>(positive(t, "memory_mb", static_cast<double>(out.memory_mb)));
        if (const toml::array* list = list_of(t, "rejected_status", "write rejected_status = [ … ]")) {
            out.rejected_status.clear();
            for (const toml::node& node : *list) {
                const auto status = node.value_exact<std::int64_t>();
                if (!status || *status < 1 || *status > 255)
                    fail(node, "'rejected_status' must be a list of exit statuses", "write numbers from 1 to 255");
                out.rejected_status.push_back(static_cast<int>(*status));
            }
        }
        for (const std::string& declared : texts(t, "declares")) {
            const auto equals = declared.find('=');
            if (equals == std::string::npos)
                fail(t, fmt::format("'{}' is not of the form question=answer", text::printable(declared)),
                     "write \"question=answer\"");
            out.declares.emplace_back(declared.substr(0, equals), declared.substr(equals + 1));
        }
        if (const toml::array* list = list_of(t, "excuses", "write excuses = [ … ]"))
            for (const toml::node& node : *list) out.excuses.push_back(excuse(table(node), out.formats));
        out.packages = texts(t, "packages");
        out.set = t["set"].value<std::string>().value_or("");
        out.requires_files = texts(t, "requires");
        for (std::string& word : out.requires_files) place(word);
        out.needs = t["needs"].value<std::string>().value_or("");
        if (out.needs.empty() && !out.packages.empty())
            out.needs = has_script_ && !out.set.empty()
                            ? fmt::format("scripts/install-implementations {}", out.name)
                            : fmt::format("apt-get install {}", fmt::join(out.packages, " "));
        return out;
    }

    Excuse excuse(const toml::table& t, const std::vector<std::string>& formats) const {
        known_keys(t, {"cause", "cases", "reason"});
        Excuse out;
        out.where = fmt::format("{}:{}", file_, t.source().begin.line);
        out.reason = text(t, "reason");
        if (t.contains("cause")) out.cause = text(t, "cause");
        if (t.contains("cases")) out.cases = text(t, "cases");
        if (out.cause.empty() && out.cases.empty())
            fail(t, "an excuse names neither a cause nor cases", "add cause = \"…\" or cases = \"…\"");
        const bool known = std::any_of(formats.begin(), formats.end(), [&](const std::string& format) {
            return find_cause(*find_format(format), out.cause) != nullptr;
        });
        if (!out.cause.empty() && !known)
            fail(t, fmt::format("'{}' is no cause of {}", text::printable(out.cause), fmt::join(formats, " or ")),
                 "`nachklang run --by cause` lists causes");
        return out;
    }

    /// What is left between braces after the known folders were put in.
    void check_placeholders(const toml::table& t, const std::string& word, Reach reach) const {
        for (std::size_t at = word.find('{'); at != std::string::npos; at = word.find('{', at + 1)) {
            const std::size_t end = word.find_first_not_of("abcdefghijklmnopqrstuvwxyz_", at + 1);
            if (end == std::string::npos || end == at + 1 || word[end] != '}') continue;  // code of a script
            const std::string name = word.substr(at, end + 1 - at);
            if (name == "{file}" && reach != Reach::trace) continue;
            fail(t, fmt::format("'command' has the unknown placeholder {}", name),
                 reach == Reach::trace ? "use {adapters} or {built}" : "use {file}, {adapters} or {built}");
        }
    }

    /// Replaces placeholders, and resolves scripts relative to the configuration's folder.
    void place(std::string& word) const {
        for (const auto& [mark, folder] :
             {std::pair<std::string, std::string>{"{adapters}", adapters_}, {"{built}", built_}})
            if (const auto at = word.find(mark); at != std::string::npos) word.replace(at, mark.size(), folder);
        if (word.empty() || word.front() == '-' || fs::path(word).is_absolute()) return;
        const fs::path beside = fs::path(file_).parent_path() / word;
        std::error_code ignored;
        const bool names_a_file =
            word.find_first_of("/.") != std::string::npos && fs::is_regular_file(beside, ignored);
        if (names_a_file) word = fs::absolute(beside, ignored).string();
    }

    CorpusEntry corpus(const toml::table& t) const {
        known_keys(t, {"folder", "rules"});
        CorpusEntry out;
        out.where = fmt::format("{}:{}", file_, t.source().begin.line);
        const fs::path folder = text(t, "folder");
        out.folder = folder.is_absolute() ? folder.string() : (fs::path(file_).parent_path() / folder).string();
        if (const toml::array* rules = list_of(t, "rules", "write rules = [ … ]")) {
            for (const toml::node& node : *rules) {
                const toml::table& rule = table(node);
                known_keys(rule, {"match", "stance"});
                const std::string word = text(rule, "stance");
                const auto stance = find_stance(word);
                if (!stance)
                    fail(rule, fmt::format("unknown stance '{}'", text::printable(word)),
                         "use accept, reject or open");
                out.rules.push_back({text(rule, "match"), *stance});
            }
        }
        return out;
    }

    /// Whether the adapters lie in a source tree: an installed tool has no scripts.
    static bool lies_beside_script(const std::string& adapters) {
        std::error_code ignored;
        return std::filesystem::exists(adapters + "/../scripts/install-implementations", ignored);
    }

    std::string file_, adapters_, built_;
    bool has_script_ = lies_beside_script(adapters_);
};

}  // namespace

Checked<Configuration> load_configuration(const std::string& file, const std::string& adapters_folder,
                                          const std::string& built_folder) {
    try {
        return Loader(file, adapters_folder, built_folder).load();
    } catch (const ConfigurationProblem& caught) {
        return caught.problem;
    }
}

namespace {

/// The answer that a question has none of, with those that it has.
std::optional<Problem> unknown_answer(const std::string& where, const Question& question,
                                      const std::string& answer) {
    if (answer == "refused" || question.find(answer) != nullptr) return std::nullopt;
    const bool amount = answer.find_first_not_of("0123456789") == std::string::npos;
    if (question.limit && amount && !answer.empty()) return std::nullopt;
    std::vector<std::string> names;
    for (const KnownAnswer& a : question.answers) names.push_back(a.name);
    return Problem{where,
                   fmt::format("'declares' gives {} the answer {}, which is none of its answers", question.id,
                               text::printable(answer)),
                   fmt::format("use {}", fmt::join(names, ", "))};
}

}  // namespace

std::optional<Problem> wrong_declaration(const Implementation& implementation,
                                         std::span<const Question* const> of_sheets) {
    for (const auto& [id, answer] : implementation.declares) {
        std::vector<const Question*> known;
        for (const std::string& format : implementation.formats)
            if (const Question* question = find_question(*find_format(format), id)) known.push_back(question);
        for (const Question* question : of_sheets)
            if (question->id == id) known.push_back(question);
        if (known.empty())
            return Problem{implementation.where,
                           fmt::format("'declares' names {}, which is no question of {}", text::printable(id),
                                       fmt::join(implementation.formats, " or ")),
                           "`nachklang run --by question` lists the questions"};
        auto wrong = unknown_answer(implementation.where, *known.front(), answer);
        for (const Question* other : known)
            if (!unknown_answer(implementation.where, *other, answer)) wrong.reset();
        if (wrong) return wrong;
    }
    return std::nullopt;
}

std::optional<std::string> missing_of(const Implementation& implementation) {
    const std::string& program = implementation.command.front();
    std::error_code ignored;
    if (program.find('/') != std::string::npos) {
        if (::access(program.c_str(), X_OK) != 0 || fs::is_directory(program, ignored)) return program;
    } else {
        bool found = false;
        const char* given = std::getenv("PATH");
        std::string_view path = given == nullptr ? "" : given;
        while (!path.empty() && !found) {
            const auto colon = path.find(':');
            const std::string candidate = std::string(path.substr(0, colon)) + "/" + program;
            found = ::access(candidate.c_str(), X_OK) == 0 && !fs::is_directory(candidate, ignored);
            path.remove_prefix(colon == std::string_view::npos ? path.size() : colon + 1);
        }
        if (!found) return program;
    }
    constexpr std::array<std::string_view, 13> scripts{".escript", ".py",  ".mjs", ".js", ".pl",  ".php", ".rb",
                                                       ".lua",     ".tcl", ".R",   ".m",  ".scm", ".exe"};
    for (const std::string& word : implementation.command) {
        const bool script = std::any_of(scripts.begin(), scripts.end(),
                                        [&](std::string_view ending) { return word.ends_with(ending); });
        if (script && word.front() != '-' && !fs::exists(word, ignored)) return word;
    }
    for (const std::string& file : implementation.requires_files)
        if (!fs::exists(file, ignored)) return file;
    return std::nullopt;
}

}  // namespace nachklang

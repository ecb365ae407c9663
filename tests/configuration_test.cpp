// The configuration file: what it says, and the one line for each mistake in it.
#include <gtest/gtest.h>

#include <fmt/format.h>

#include <nachklang/config.hpp>
#include <nachklang/corpus.hpp>
#include <nachklang/runner.hpp>

#include "scratch.hpp"

namespace {

using namespace nachklang;

struct ConfigurationRow {
    const char* name;
    std::string text;
    const char* problem;  ///< after the file's name
};
class MalformedConfiguration : public testing::TestWithParam<ConfigurationRow> {};
TEST_P(MalformedConfiguration, IsReportedInOneLine) {
    const Scratch scratch;
    const std::string file = scratch.write("own.toml", GetParam().text);
    const auto loaded = load_configuration(file, "A", "B");
    ASSERT_FALSE(loaded.ok());
    EXPECT_EQ(loaded.problem().line().substr(file.size()), GetParam().problem);
}
const std::string entry = "[[implementation]]\nname = 'x'\ncommand = ['y']\nformats = ['json']\n";
const std::string folder = "[[corpus]]\nfolder = 'mine'\n";
INSTANTIATE_TEST_SUITE_P(
    Rows, MalformedConfiguration,
    testing::Values(
        ConfigurationRow{"key", "bells = 1\n", ":1: unknown key 'bells'; see docs/configuration.md for the keys"},
        ConfigurationRow{"key_of_an_entry", entry + "bells = 1\n",
                         ":5: unknown key 'bells'; see docs/configuration.md for the keys"},
        ConfigurationRow{"no_list", "[implementation]\nname = 'x'\n",
                         ":1: 'implementation' must be a list; write [[implementation]]"},
        ConfigurationRow{"declares_no_list", entry + "declares = 'comments=accepted'\n",
                         ":5: 'declares' must be a list; write declares = [ … ]"},
        ConfigurationRow{"declares_a_table", entry + "[implementation.declares]\ncomments = 'accepted'\n",
                         ":5: 'declares' must be a list; write declares = [ … ]"},
        ConfigurationRow{"status_no_number", entry + "rejected_status = ['1']\n",
                         ":5: 'rejected_status' must be a list of exit statuses; write numbers from 1 to 255"},
        ConfigurationRow{"no_table", "implementation = ['x']\n",
                         ":1: an entry is not a table; write [[implementation]] or [[corpus]] tables"},
        ConfigurationRow{"no_name", "[[implementation]]\ncommand = ['y']\n",
                         ":1: 'name' is missing or is not a string; add name = \"…\""},
        ConfigurationRow{"name_of_two_words", "[[implementation]]\nname = 'a b'\ncommand = ['y']\n",
                         ":1: 'a b' is not a valid name; use printable ASCII without blanks, '/', '*' and '?'"},
        ConfigurationRow{"no_command", "[[implementation]]\nname = 'x'\n",
                         ":1: 'command' is missing; write command = [\"program\", \"argument\"]"},
        ConfigurationRow{"no_formats", "[[implementation]]\nname = 'x'\ncommand = ['y']\n",
                         ":1: 'formats' is missing; write formats = [\"json\"]"},
        ConfigurationRow{"unknown_format", "[[implementation]]\nname = 'x'\ncommand = ['y']\nformats = ['runes']\n",
                         ":1: unknown format 'runes'; use one of the formats that `nachklang corpus list` shows"},
        ConfigurationRow{"reach", entry + "reach = 'far'\n",
                         ":1: unknown reach 'far'; use verdict, round-trip or trace"},
        ConfigurationRow{"deadline", entry + "deadline_s = 0\n",
                         ":1: 'deadline_s' must be a number above 0; write a number"},
        ConfigurationRow{"memory", entry + "memory_mb = 'much'\n",
                         ":1: 'memory_mb' must be a number above 0; write a number"},
        ConfigurationRow{"declares", entry + "declares = ['depth']\n",
                         ":1: 'depth' is not of the form question=answer; write \"question=answer\""},
        ConfigurationRow{"excuse_of_all", entry + "excuses = [{ reason = 'known' }]\n",
                         ":5: an excuse names neither a cause nor cases; add cause = \"…\" or cases = \"…\""},
        ConfigurationRow{"excuse_without_reason", entry + "excuses = [{ cases = '*' }]\n",
                         ":5: 'reason' is missing or is not a string; add reason = \"…\""},
        ConfigurationRow{"excuse_of_no_cause",
                         entry + "excuses = [{ cause = 'number/cracked', reason = 'known' }]\n",
                         ":5: 'number/cracked' is no cause of json; `nachklang run --by cause` lists causes"},
        ConfigurationRow{"placeholder",
                         "[[implementation]]\nname = 'x'\ncommand = ['y', '--in={files}']\nformats = ['json']\n",
                         ":1: 'command' has the unknown placeholder {files}; use {adapters} or {built}"},
        ConfigurationRow{"placeholder_of_a_command_line",
                         entry + "reach = 'verdict'\n[[implementation]]\nname = 'z'\n"
                                 "reach = 'verdict'\nformats = ['json']\ncommand = ['y', '{document}']\n",
                         ":6: 'command' has the unknown placeholder {document}; use {file}, {adapters} or {built}"},
        ConfigurationRow{"file_for_an_adapter",
                         "[[implementation]]\nname = 'x'\ncommand = ['y', '{file}']\nformats = ['json']\n",
                         ":1: 'command' has the unknown placeholder {file}; use {adapters} or {built}"},
        ConfigurationRow{"version_of_an_adapter", entry + "version = '2'\n",
                         ":1: 'version' and 'settings' are for command lines; an adapter says them in its hello"},
        ConfigurationRow{"setting", entry + "reach = 'verdict'\nsettings = ['external']\n",
                         ":1: 'external' is not of the form key=value; write \"key=value\""},
        ConfigurationRow{"shipped", "shipped = 3\n", ":1: 'shipped' is true, false or a list of names; mend it"},
        ConfigurationRow{"no_folder", "[[corpus]]\nrules = []\n",
                         ":1: 'folder' is missing or is not a string; add folder = \"…\""},
        ConfigurationRow{"rule", folder + "rules = [{ match = '*' }]\n",
                         ":3: 'stance' is missing or is not a string; add stance = \"…\""},
        ConfigurationRow{"stance", folder + "rules = [{ match = '*', stance = 'good' }]\n",
                         ":3: unknown stance 'good'; use accept, reject or open"},
        ConfigurationRow{"key_of_a_rule", folder + "rules = [{ glob = '*', stance = 'open' }]\n",
                         ":3: unknown key 'glob'; see docs/configuration.md for the keys"}),
    [](const auto& info) { return info.param.name; });

TEST(Configurations, OfACommandLineStateWhatItsHelloWouldSay) {
    const Scratch scratch;
    const auto loaded = load_configuration(
        scratch.write("own.toml",
                      "[[implementation]]\nname = 'x'\nreach = 'verdict'\nformats = ['xml']\nversion = '2.1'\n"
                      "settings = ['external=none']\ncommand = ['sh', '-c', 'f() { cat; }; f', '{file}']\n"),
        "", "");
    ASSERT_TRUE(loaded.ok()) << loaded.problem().line();
    const Subject subject = handshake(loaded.value().implementations.at(0)).at(0);
    EXPECT_EQ(subject.version, "2.1");
    EXPECT_EQ(subject.settings, (Settings{{"external", "none"}}));
}

TEST(Configurations, NameTheImplementationsAndTheShippedFiles) {
    const Scratch scratch;
    const std::string file =
        scratch.write("own.toml",
                      "shipped = ['qt5']\n[[implementation]]\nname = 'x'\ncommand = ['{built}/y', '-q', '/z']\n"
                      "formats = ['json', 'xml']\nreach = 'round-trip'\ndeadline_s = 2.5\nmemory_mb = 64\n"
                      "rejected_status = [1, 3]\ndeclares = ['depth=512', 'duplicate-names=last']\n"
                      "packages = ['libx-dev']\nset = 'cheap'\n[[corpus]]\nfolder = 'mine'\n"
                      "rules = [{ match = 'bad/**', stance = 'reject' }]\n");
    const auto loaded = load_configuration(file, "A", "B");
    ASSERT_TRUE(loaded.ok()) << loaded.problem().line();
    const Configuration& c = loaded.value();
    ASSERT_EQ(c.implementations.size(), 1U);
    const Implementation& x = c.implementations[0];
    EXPECT_EQ(x.command, (std::vector<std::string>{"B/y", "-q", "/z"}));
    EXPECT_EQ(x.formats, (std::vector<std::string>{"json", "xml"}));
    EXPECT_EQ(name_of(x.reach), "round-trip");
    EXPECT_EQ(x.deadline_s, 2.5);
    EXPECT_EQ(x.memory_mb, 64U);
    EXPECT_EQ(x.rejected_status, (std::vector<int>{1, 3}));
    EXPECT_EQ(x.declares,
              (std::vector<std::pair<std::string, std::string>>{{"depth", "512"}, {"duplicate-names", "last"}}));
    EXPECT_EQ(x.needs, "apt-get install libx-dev") << "what brings its packages";
    EXPECT_TRUE(c.ships_implementations);
    EXPECT_EQ(c.shipped_implementations, (std::vector<std::string>{"qt5"}));
    EXPECT_FALSE(c.ships_corpora) << "who names a corpus means that one";
    ASSERT_EQ(c.corpora.size(), 1U);
    EXPECT_EQ(c.corpora[0].folder, scratch.path() + "/mine");
    ASSERT_EQ(c.corpora[0].rules.size(), 1U);
    EXPECT_EQ(c.corpora[0].rules[0].match, "bad/**");
    EXPECT_EQ(c.corpora[0].rules[0].stance, Stance::reject);
}

}  // namespace

// What a user mistypes, an enemy sends and a machine refuses: one clear line, the right status, nothing lost.
#include <chrono>
#include <functional>
#include <sstream>

#include "tool_fixture.hpp"

namespace tool_test {
namespace {

class ToolSafety : public Tool {
  protected:
    /// A configuration of rogue_adapter.py with these ways to misbehave.
    std::string rogues(const std::vector<std::string>& ways, const std::string& more = "") const {
        std::string text;
        for (const std::string& way : ways)
            text += fmt::format(
                "[[implementation]]\nname = \"rogue-{}\"\ncommand = [\"python3\", \"{}/tests/rogue_adapter.py\", "
                "'{}', '{}']\nformats = [\"json\"]\n{}",
                way.substr(0, way.find(':')), SOURCE_FOLDER, way, folder_.string(), more);
        return write("rogues.toml", text);
    }
    std::string corpus() const {
        write("bells/bell.json", "\"bell\"");
        write("bells/one.json", "1");
        return "bells";
    }
    static std::vector<std::string> text_lines(const std::string& text) {
        std::vector<std::string> out;
        std::istringstream lines(text);
        for (std::string line; std::getline(lines, line);) out.push_back(line);
        return out;
    }
    static double seconds_of(const std::function<void()>& work) {
        const auto begin = std::chrono::steady_clock::now();
        work();
        return std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count();
    }
};

struct MisuseRow {
    const char* arguments;
    const char* line;  // the whole of standard error
};

TEST_F(ToolSafety, AMistypedCallGetsOneLineAndStatusTwo) {
    const std::string config = configuration({"sound"});
    write("bells/bell.json", "\"bell\"");
    for (const auto& [arguments, line] :
         {MisuseRow{"rnu json", "nachklang: command line: 'rnu' is no command; did you mean `nachklang run`?\n"},
          {"implementation",
           "nachklang: command line: 'implementation' is no command; did you mean `nachklang "
           "implementations`?\n"},
          {"xyzzyplugh",
           "nachklang: command line: 'xyzzyplugh' is no command; `nachklang --help` lists the commands\n"},
          {"run bells --config codecs.toml --fail-on ''",
           "nachklang: --fail-on: '' is neither a finding kind nor a basis; use for example required,altered; "
           "incident; or nothing\n"},
          {"run bells --config codecs.toml --fail-on required,,altered",
           "nachklang: --fail-on: '' is neither a finding kind nor a basis; use for example required,altered; "
           "incident; or nothing\n"},
          {"run bells --config codecs.toml --results x --disagreements ./x",
           "nachklang: --disagreements: x is the file of --results, too; name another file\n"},
          {"run bells --config codecs.toml --results bells/bell.json",
           "nachklang: bells/bell.json: is a file of the corpus and would be overwritten; name another file\n"}}) {
        const Called called = run(arguments);
        EXPECT_EQ(called.status, 2) << arguments;
        EXPECT_EQ(called.err, line);
        EXPECT_EQ(called.out, "");
    }
    EXPECT_EQ(slurp(folder_ / "bells/bell.json"), "\"bell\"");
}

TEST_F(ToolSafety, AListTakesOneArgumentAnOccurrence) {
    const std::string config = configuration({"sound"});
    const Called called = run("numbers --literal 0.1 sound --config " + config);
    EXPECT_EQ(called.status, 0) << called.err;
    EXPECT_NE(called.out.find("sound"), std::string::npos) << called.out;
}

TEST_F(ToolSafety, BlanksAndIncidentsInFailOn) {
    const std::string config = rogues({"crash"});
    EXPECT_EQ(run(fmt::format("run {} --config {} --fail-on 'required, failed'", corpus(), config)).status, 1);
    EXPECT_EQ(run(fmt::format("run {} --config {} --fail-on incident", corpus(), config)).status, 0);
    EXPECT_EQ(run(fmt::format("run {} --config {} --fail-on nothing", corpus(), config)).status, 0);
}

TEST_F(ToolSafety, ResultsGoToStandardOutputAndNothingElseDoes) {
    const std::string config = configuration({"sound"});
    const Called called = run(fmt::format("run {} --config {} --results -", corpus(), config));
    EXPECT_EQ(called.status, 0) << called.err;
    for (const std::string& line : text_lines(called.out)) EXPECT_TRUE(line.starts_with("{\"record\":")) << line;
    run(fmt::format("run {} --config {} --results r.jsonl", corpus(), config));
    EXPECT_EQ(called.out, slurp(folder_ / "r.jsonl"));
}

TEST_F(ToolSafety, ACorpusThatIsNamedTwiceRunsOnce) {
    const std::string config = configuration({"sound"});
    const std::string once = run(fmt::format("run {} --config {} --results -", corpus(), config)).out;
    EXPECT_EQ(run(fmt::format("run bells ./bells/ --config {} --results -", config)).out, once);
}

// The repeat line is pasted into a shell: no file name may be more than a word of it.
TEST_F(ToolSafety, TheRepeatLineIsOneCommand) {
    const std::string config = configuration({"trailing-comma-taken"});
    const std::vector<std::string> names{"a'; touch pwned; '.json", "$(touch pwned).json",    "-x.json",
                                         "new\nline.json",          "bell`touch pwned`.json", "rope\\.json",
                                         "\x1b]0;bell\x07.json"};
    for (const std::string& name : names) {
        fs::remove_all(folder_ / "odd");
        write("odd/" + name, "[1,]");
        const Called called = run(fmt::format("run odd --config {} --list --no-colour", config));
        const auto at = called.out.find("nachklang try ");
        ASSERT_NE(at, std::string::npos) << called.out;
        const std::string repeat = called.out.substr(at, called.out.find('\n', at) - at);
        EXPECT_EQ(repeat.find('\x1b'), std::string::npos);
        const std::string pasted = BUILD_FOLDER "/" + repeat + " --config " + config;
        write("pasted.sh", pasted);
        const Called again = shell("bash pasted.sh");
        EXPECT_NE(again.out.find("trailing-comma-taken"), std::string::npos) << pasted << "\n" << again.err;
        EXPECT_FALSE(fs::exists(folder_ / "pwned")) << pasted;
    }
}

TEST_F(ToolSafety, AnInterruptEndsARequestWithinASecond) {
    const std::string config = rogues({"hang"}, "deadline_s = 60\n");
    for (const auto& [signal, status] : {std::pair<const char*, int>{"INT", 130}, {"TERM", 143}, {"HUP", 129}}) {
        Called called;
        const double took = seconds_of([&] {
            called =
                shell(fmt::format("timeout --preserve-status -s {} 4 {}/nachklang run {} --config {} --results r",
                                  signal, BUILD_FOLDER, corpus(), config));
        });
        EXPECT_EQ(called.status, status) << called.err;
        EXPECT_LT(took, 4 + 3);
        EXPECT_NE(called.err.find("interrupted: the output covers only what was done so far"), std::string::npos);
        EXPECT_NE(slurp(folder_ / "r").find("\"interrupted\":true"), std::string::npos);
    }
}

TEST_F(ToolSafety, AReadThatWaitsIsInterrupted) {
    Called called;
    const double took = seconds_of([&] {
        called = shell("mkfifo waits; timeout --preserve-status -s INT 1 " BUILD_FOLDER "/nachklang read waits");
    });
    EXPECT_EQ(called.status, 130);
    EXPECT_EQ(called.err, "interrupted: the output covers only what was done so far\n");
    EXPECT_LT(took, 3);
}

TEST_F(ToolSafety, AFileWithoutAnEndHasALimit) {
    const Called called = run("read /dev/zero");
    EXPECT_EQ(called.status, 2);
    EXPECT_NE(called.err.find("/dev/zero: is longer than 1 GiB; name a shorter file, or take --quiet"),
              std::string::npos)
        << called.err;
    EXPECT_EQ(run("read /dev/zero --quiet").status, 1);
}

TEST_F(ToolSafety, AdaptersDieWithTheTool) {
    const std::string config = rogues({"hang"}, "deadline_s = 600\n");
    shell(fmt::format("timeout -s KILL 2 {}/nachklang run {} --config {}", BUILD_FOLDER, corpus(), config));
    // The name of this test's folder, its last argument, tells this adapter from others.
    const Called left = shell(fmt::format("sleep 0.3; pgrep -af '[r]ogue_adapter.py hang {}'", folder_.string()));
    EXPECT_EQ(left.out, "");
}

TEST_F(ToolSafety, WhatAnAdapterLeftBehindEndsWithTheTool) {
    // In a session of its own, with a parent that ended: no child of anything that is known.
    const std::string pattern = fmt::format("[r]ogue-daemon {}", folder_.string());
    const std::string daemon = rogues({"leaves-a-daemon"});
    shell(fmt::format("{}/nachklang run {} --config {} >/dev/null", BUILD_FOLDER, corpus(), daemon));
    EXPECT_EQ(shell(fmt::format("sleep 0.5; pgrep -af '{}'", pattern)).out, "") << "after a run";
    const std::string both = rogues({"leaves-a-daemon", "hang"}, "deadline_s = 600\n");
    const Called killed =
        shell(fmt::format("{0}/nachklang run {1} --config {2} >/dev/null 2>&1 & for i in $(seq 100); do sleep 0.2; "
                          "pgrep -af '{3}' && break; done; "
                          "kill -KILL $!; sleep 0.7; echo killed; pgrep -af '{3}'",
                          BUILD_FOLDER, corpus(), both, pattern));
    EXPECT_NE(killed.out.find("rogue-daemon"), std::string::npos) << "it was there before";
    EXPECT_TRUE(killed.out.ends_with("killed\n")) << killed.out;
}

// A server or runtime that is killed has no chance to remove its files, and one run may leave gigabytes.
TEST_F(ToolSafety, TemporaryFilesOfAKilledAdapterAreRemoved) {
    fs::create_directories(folder_ / "tmp");
    for (const char* ending : {"1", "600"}) {  // by the adapter's deadline; by the end of the tool
        fs::remove(folder_ / "left");
        const std::string config = rogues({"leaves-a-file"}, fmt::format("deadline_s = {}\n", ending));
        shell(
            fmt::format("TMPDIR={0}/tmp timeout -s KILL 5 {1}/nachklang run {2} --config {3} >/dev/null; sleep 0.7",
                        folder_.string(), BUILD_FOLDER, corpus(), config));
        ASSERT_TRUE(fs::exists(folder_ / "left")) << "it wrote a file";
        EXPECT_TRUE(slurp(folder_ / "left").starts_with((folder_ / "tmp").string()));
        EXPECT_TRUE(fs::is_empty(folder_ / "tmp")) << ending;
    }
}

TEST_F(ToolSafety, ForeignWordsOfAHelloAreRefusedOrPrintable) {
    for (const char* hello : {R"(hello:nachklang-adapter 1\nimplementation bell \x1b[2J\njson decode)",
                              R"(hello:nachklang-adapter 1\nimplementation bell 1\njson decode\nmode \x1b]0;x)",
                              R"(hello:nachklang-adapter 1\nimplementation b\xc3\xa9ll 1\njson decode)",
                              R"(hello:nachklang-adapter 1\r\nimplementation bell 1\r\njson decode\r)"}) {
        const std::string config = rogues({hello});
        for (const char* command : {"run bells", "try bells/one.json", "implementations", "card rogue-hello",
                                    "limits rogue-hello --most 10", "numbers rogue-hello --count 10"}) {
            corpus();
            const Called called = run(fmt::format("{} --config {}", command, config));
            for (const std::string& text : {called.out, called.err})
                EXPECT_EQ(text.find_first_of("\x1b\r"), std::string::npos) << command << "\n" << text;
            EXPECT_NE(called.status, 3) << command << called.err;
        }
    }
    EXPECT_NE(run("implementations --config rogues.toml").out.find("CR LF"), std::string::npos);
}

// What a document does to a library until no file can be opened must not depend on the shell.
TEST_F(ToolSafety, AnAdapterMayOpenAsManyFilesInEveryShell) {
    corpus();
    const std::string config = rogues({"counts-files"});
    for (const char* limit : {"512", "4500"}) {
        const Called called = shell(
            fmt::format("ulimit -Sn {}; {}/nachklang try bells/one.json --config {}", limit, BUILD_FOLDER, config));
        EXPECT_NE(called.out.find("4096"), std::string::npos) << called.out << called.err;
    }
}

// Literals that were never asked about are not counted as answers.
TEST_F(ToolSafety, NumbersWithoutAHelloAreNotAsked) {
    const std::string config = rogues({"no-hello"});
    const Called called = run("numbers rogue-no-hello --count 10 --config " + config);
    EXPECT_NE(called.out.find("IMPLEMENTATION  NOT ASKED  ASKED"), std::string::npos) << called.out;
    EXPECT_EQ(called.out.find("COARSER"), std::string::npos) << called.out;
}

TEST_F(ToolSafety, AFolderForTemporaryFilesThatIsFullIsNoFinding) {
    const std::string config = write("line.toml",
                                     "[[implementation]]\nname = \"cat\"\nreach = \"verdict\"\ncommand = [\"cat\", "
                                     "\"{file}\"]\nformats = [\"json\"]\n");
    const Called called = shell(
        fmt::format("TMPDIR=/no/such/folder {}/nachklang run {} --config {}", BUILD_FOLDER, corpus(), config));
    EXPECT_EQ(called.status, 3) << called.out;
    EXPECT_NE(called.err.find("this says nothing about an implementation"), std::string::npos) << called.err;
}

TEST_F(ToolSafety, AnAnswerInAnotherNotationIsABrokenReply) {
    for (const auto& [reply, why] : {std::pair{R"(elem u8:61 u8:61 u8:\nend\n)", "no value of json"},
                                     {R"([\ntext u8:61\n]\n)", "no value of json"}}) {
        std::string sent = reply;
        for (auto at = sent.find("\\n"); at != std::string::npos; at = sent.find("\\n")) sent.replace(at, 2, "\n");
        const std::string config = rogues({fmt::format(R"(reply:accepted {} id=ID\n{})", sent.size(), reply)});
        const Called called = run(fmt::format("run {} --config {} --list", corpus(), config));
        EXPECT_EQ(called.status, 1) << called.err;
        EXPECT_NE(called.out.find(why), std::string::npos) << called.out;
        EXPECT_NE(called.out.find("broken-reply"), std::string::npos) << called.out;
    }
}

TEST_F(ToolSafety, AnImplementationThatSaysNoHelloIsOneLine) {
    const std::string config = rogues({"no-hello"});
    const Called called = run(fmt::format("run {} --config {}", corpus(), config));
    EXPECT_EQ(called.status, 1);
    EXPECT_NE(
        called.out.find("rogue-no-hello: 1 request was not asked (no hello: the first line is 'good morning'"),
        std::string::npos)
        << called.out;
}

TEST_F(ToolSafety, AnAdapterWithoutItsLibraryIsNotInstalledAndNoFinding) {
    const std::string script =
        write("unready.sh",
              "#!/bin/sh\necho \"x: error while loading shared libraries: libbell.so.1: cannot open "
              "shared object file\" >&2; exit 127\n");
    fs::permissions(script, fs::perms::owner_all);
    write("unready.toml",
          "[[implementation]]\nname = \"bell\"\ncommand = [\"" + script + "\"]\nformats = [\"json\"]\n");
    const Called r = run("run json --config unready.toml --aspect names");
    EXPECT_EQ(r.status, 2) << r.out;
    EXPECT_NE(r.err.find("not installed: bell (the library libbell.so.1 is missing)"), std::string::npos) << r.err;
}

TEST_F(ToolSafety, WhatARuntimeDoesNotFindIsNotInstalledAndNoFinding) {
    const struct {
        const char *says, *names;
    } rows[] = {
        {"Can't locate Bell/Tower.pm in @INC (you may need to install it)", "Bell/Tower.pm"},
        {"ModuleNotFoundError: No module named 'bell'", "bell"},
        {"x.rb:1:in require: cannot load such file -- bell (LoadError)", "bell"},
        {"Error: Cannot find module '/usr/share/nodejs/bell'", "/usr/share/nodejs/bell"},
        {"Caused by: java.lang.NoClassDefFoundError: bell/Tower", "bell/Tower"},
        {"TypeLoadException: Could not load file or assembly 'Bell, Version=6.0.0.0'", "Bell"},
        {"no code for module (bell)", "(bell)"},
        {"bell.lua:7: module 'bell' not found:", "bell"},
    };
    std::string config;
    std::size_t number = 0;
    for (const auto& row : rows) {
        const std::string script = write(fmt::format("unready-{}.sh", number),
                                         fmt::format("#!/bin/sh\ncat >&2 <<'END'\n{}\nEND\nexit 1\n", row.says));
        fs::permissions(script, fs::perms::owner_all);
        write("unready.toml", fmt::format("[[implementation]]\nname = \"bell-{}\"\ncommand = [\"{}\"]\nformats = "
                                          "[\"json\"]\n",
                                          number, script));
        config += fmt::format("[[implementation]]\nname = \"bell-{}\"\ncommand = [\"{}\"]\nformats = [\"json\"]\n",
                              number, script);
        const Called r = run("run json --config unready.toml --aspect names");
        EXPECT_EQ(r.status, 2) << r.out;
        const std::string line =
            fmt::format("not installed: bell-{} (the library {} is missing)", number++, row.names);
        EXPECT_NE(r.err.find(line), std::string::npos) << r.err;
    }
    write("unready.toml", config);
    const Called all = run("run json --config unready.toml --aspect names");
    EXPECT_NE(all.err.find("not installed: bell-0, bell-1, bell-2, bell-3 and 4 more; "), std::string::npos)
        << all.err;
    const Called listed = run("implementations --config unready.toml");
    EXPECT_NE(listed.out.find("the library bell/Tower is missing"), std::string::npos) << listed.out << listed.err;
}

// Killed at any moment, what was written can be read to its last whole line.
TEST_F(ToolSafety, AKilledRunLeavesReadableResults) {
    const std::string config = configuration({"sound", "minus-lost"});
    for (int i = 0; i < 20; ++i) {
        shell(fmt::format("timeout -s KILL {:.2f} {}/nachklang run json --aspect structure --config {} --results r",
                          0.02 + 0.05 * i, BUILD_FOLDER, config));
        std::string text = fs::exists(folder_ / "r") ? slurp(folder_ / "r") : "";
        text.erase(text.rfind('\n') == std::string::npos ? 0 : text.rfind('\n') + 1);
        write("whole", text);
        const Called read = shell("python3 -c 'import json,sys; [json.loads(l) for l in open(\"whole\")]'");
        EXPECT_EQ(read.status, 0) << read.err;
    }
}

}  // namespace
}  // namespace tool_test

// Calls the tool as a user does, in a folder of its own.
#pragma once

#include <gtest/gtest.h>
#include <sys/wait.h>

#include <filesystem>
#include <fstream>
#include <string>
#include <vector>

#include <fmt/format.h>

#include "scratch.hpp"

namespace tool_test {

namespace fs = std::filesystem;

struct Called {
    int status = -1;
    std::string out, err;
};

inline std::string slurp(const fs::path& path) {
    std::ifstream in(path, std::ios::binary);
    return {std::istreambuf_iterator<char>(in), std::istreambuf_iterator<char>()};
}

class Tool : public testing::Test {
  protected:
    std::string write(const std::string& name, const std::string& text) const { return scratch_.write(name, text); }
    Called run(const std::string& arguments, const std::string& input = "") const {
        return shell(BUILD_FOLDER "/nachklang " + arguments, input);
    }
    Called shell(const std::string& command, const std::string& input = "") const {
        const fs::path in = folder_ / "in", out = folder_ / "out", err = folder_ / "err";
        std::ofstream(in, std::ios::binary) << input;
        const std::string line = fmt::format("cd {} && ( {} ) < {} > {} 2> {}", folder_.string(), command,
                                             in.string(), out.string(), err.string());
        const int status = std::system(line.c_str());
        return {WEXITSTATUS(status), slurp(out), slurp(err)};
    }
    /// A configuration with codecs only, each with a fault or sound.
    std::string configuration(const std::vector<std::string>& faults) const {
        std::string text;
        for (const std::string& fault : faults)
            text += fmt::format(
                "[[implementation]]\nname = \"{}\"\ncommand = [\"{}/adapters/seeded-faults-adapter\"{}]\nformats = "
                "[\"json\"]\n",
                fault, BUILD_FOLDER, fault == "sound" ? "" : ", \"" + fault + "\"");
        return write("codecs.toml", text);
    }
    const Scratch scratch_;
    const fs::path folder_ = scratch_.path();
};

}  // namespace tool_test

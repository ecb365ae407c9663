// Files that a test writes.
#pragma once

#include <unistd.h>

#include <filesystem>
#include <fstream>
#include <string>

/// A folder of its own, gone with it.
class Scratch {
  public:
    Scratch()
        : folder_(std::filesystem::temp_directory_path() /
                  ("nachklang-test-" + std::to_string(::getpid()) + "-" + std::to_string(counter()++))) {
        std::filesystem::create_directories(folder_);
    }
    ~Scratch() {
        std::error_code ignored;
        std::filesystem::remove_all(folder_, ignored);
    }
    std::string write(const std::string& name, const std::string& text) const {
        std::filesystem::create_directories((folder_ / name).parent_path());
        std::ofstream(folder_ / name, std::ios::binary) << text;
        return (folder_ / name).string();
    }
    [[nodiscard]] std::string path() const { return folder_.string(); }

  private:
    static int& counter() {
        static int value = 0;
        return value;
    }
    std::filesystem::path folder_;
};

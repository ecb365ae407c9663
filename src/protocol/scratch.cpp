// See scratch.hpp.
#include "protocol/scratch.hpp"

#include <sys/stat.h>

#include <cstdlib>
#include <filesystem>

#include "protocol/orphans.hpp"

namespace nachklang::protocol {
namespace {

namespace fs = std::filesystem;

/// A new folder; others may pass through it, so that a server that gives up its rights reaches its own files.
std::string new_folder(const fs::path& parent) {
    constexpr mode_t passable = 0711;
    std::string name = (parent / "nachklang-XXXXXX").string();
    if (::mkdtemp(name.data()) == nullptr) return "";
    return ::chmod(name.c_str(), passable) == 0 ? name : "";
}

std::string make_root() {
    std::error_code missing;
    const fs::path parent = fs::temp_directory_path(missing);
    return missing ? "" : new_folder(parent);
}

}  // namespace

const std::string& scratch_root() {
    static const std::string root = make_root();
    return root;
}

ScratchFolder::ScratchFolder() {
    orphans_word();  // from here on the root is removed with this process
    if (!scratch_root().empty()) path_ = new_folder(scratch_root());
}

ScratchFolder::~ScratchFolder() {
    std::error_code ignored;
    if (!path_.empty()) fs::remove_all(path_, ignored);
}

}  // namespace nachklang::protocol

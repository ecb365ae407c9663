// Folders for the temporary files of implementations, gone with them, however they end.
#pragma once

#include <string>

namespace nachklang::protocol {

/// The folder of this process for temporary files, made with the first call in the one that TMPDIR names; empty if
/// it cannot be made. It is removed with all that is in it once this process is gone, even by SIGKILL.
const std::string& scratch_root();

/// A folder in the root for one child, its TMPDIR: a killed runtime or server leaves its files there. Removed with
/// the object.
class ScratchFolder {
  public:
    ScratchFolder();
    ~ScratchFolder();
    ScratchFolder(const ScratchFolder&) = delete;
    ScratchFolder& operator=(const ScratchFolder&) = delete;
    /// Empty if it cannot be made; the child then has the TMPDIR of this process.
    [[nodiscard]] const std::string& path() const { return path_; }

  private:
    std::string path_;
};

}  // namespace nachklang::protocol

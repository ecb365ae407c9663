// Files: whole ones, and those that a document names outside itself.
#include <fmt/format.h>

#include <cerrno>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <memory>

#include <nachklang/corpus.hpp>

namespace nachklang {

namespace fs = std::filesystem;

Checked<std::string> read_file(const std::string& path) {
    std::string out, piece(1 << 16, '\0');
    const auto close = [](std::FILE* file) { std::fclose(file); };
    const std::unique_ptr<std::FILE, decltype(close)> file(std::fopen(path.c_str(), "rb"), close);
    while (const std::size_t count = file ? std::fread(piece.data(), 1, piece.size(), file.get()) : 0) {
        out.append(piece, 0, count);
        if (out.size() > largest_file) return Problem{path, "is longer than 1 GiB", "name a shorter file"};
    }
    if (!file || std::ferror(file.get()) != 0)
        return Problem{path, std::strerror(errno), "name a file that can be read"};
    return out;
}

std::string file_url(std::string_view path) {
    std::string out = "file://";
    for (const char c : path) {
        const bool plain = (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') ||
                           std::string_view("-._~/").find(c) != std::string_view::npos;
        out += plain ? std::string(1, c) : fmt::format("%{:02X}", static_cast<unsigned char>(c));
    }
    return out;
}

namespace {

/// The path that a file's URL or a relative reference names.
std::string path_of(std::string_view name) {
    constexpr std::string_view scheme = "file://";
    if (!name.starts_with(scheme)) return std::string(name);
    name.remove_prefix(scheme.size());
    std::string out;
    for (std::size_t i = 0; i < name.size(); ++i) {
        const auto byte = name[i] == '%' ? text::from_hex(name.substr(i + 1, 2)) : std::nullopt;
        if (byte && byte->size() == 1) i += 2;
        out += byte && byte->size() == 1 ? *byte : std::string(1, name[i]);
    }
    return out;
}

}  // namespace

Fetch files_below(const std::string& folder, const std::string& start) {
    const fs::path root = fs::weakly_canonical(folder), beginning = fs::weakly_canonical(start);
    return [root, beginning](std::string_view system_id, std::string_view base) -> std::optional<ExternalEntity> {
        std::error_code error;
        const fs::path from = base.empty() ? beginning : fs::path(base);
        const fs::path file = fs::weakly_canonical(from / path_of(system_id), error);
        const fs::path inside = file.lexically_relative(root);
        if (error || inside.empty() || *inside.begin() == ".." || !fs::is_regular_file(file, error))
            return std::nullopt;
        auto bytes = read_file(file.string());
        if (!bytes.ok()) return std::nullopt;
        return ExternalEntity{std::move(bytes.value()), file.parent_path().string()};
    };
}

}  // namespace nachklang

// Reads a document losslessly through the library: every scalar with its path and its very spelling.
//
//     read_document FILE
#include <cstdio>
#include <fstream>
#include <iterator>
#include <string>
#include <vector>

#include <nachklang/json.hpp>

int main(int argc, char** argv) {
    if (argc != 2) {
        std::fprintf(stderr, "usage: read_document FILE\n");
        return 2;
    }
    std::ifstream in(argv[1], std::ios::binary);
    const std::string bytes{std::istreambuf_iterator<char>(in), std::istreambuf_iterator<char>()};
    const auto document = nachklang::json::Document::read(bytes);
    if (!document.accepted()) {
        const auto& rejection = *document.rejection();
        std::fprintf(stderr, "line %zu column %zu: %s [%s]\n", rejection.position.line, rejection.position.column,
                     rejection.message.c_str(), rejection.clause.c_str());
        return 1;
    }
    using Kind = nachklang::json::TokenKind;
    struct Level {
        bool object;
        std::size_t index;
        std::string name;
    };
    std::vector<Level> path;
    for (const auto& entry : document.tape()) {
        if (entry.kind == Kind::array_close || entry.kind == Kind::object_close) {
            path.pop_back();
        } else if (entry.kind == Kind::name) {
            path.back().name = document.atoms(entry);
            continue;
        } else if (entry.kind == Kind::array_open || entry.kind == Kind::object_open) {
            path.push_back({entry.kind == Kind::object_open, 0, ""});
            continue;
        } else {
            std::string at;
            for (const Level& level : path) at += "/" + (level.object ? level.name : std::to_string(level.index));
            const std::string_view source = document.source(entry);
            std::printf("%s  %.*s\n", at.c_str(), static_cast<int>(source.size()), source.data());
        }
        if (!path.empty()) ++path.back().index;
    }
    return 0;
}

// Writes every document of a shipped corpus to a folder, one file each: seeds FOLDER CORPUS…
#include <cstdio>
#include <filesystem>
#include <fstream>

#include <nachklang/corpus.hpp>

int main(int argc, char** argv) {
    if (argc < 3) {
        std::fprintf(stderr, "seeds FOLDER CORPUS...\n");
        return 2;
    }
    const std::filesystem::path folder = argv[1];
    std::filesystem::create_directories(folder);
    std::size_t number = 0;
    for (int i = 2; i < argc; ++i) {
        const auto corpus = nachklang::load_corpus(argv[i]);
        if (!corpus.ok()) {
            std::fprintf(stderr, "%s\n", corpus.problem().line().c_str());
            return 2;
        }
        for (const nachklang::Case& c : corpus.value().cases) {
            constexpr std::size_t largest = 2000;  // a fuzzer works on small inputs
            if (!c.document || c.document->size() > largest) continue;
            std::ofstream(folder / std::to_string(number++), std::ios::binary) << *c.document;
        }
    }
    return 0;
}

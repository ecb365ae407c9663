// What every plain program in C++ has: the tokens of README.md, and the loop over files named on standard input.
#pragma once

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <fstream>
#include <functional>
#include <iostream>
#include <iterator>
#include <string>
#include <vector>

using Tokens = std::vector<std::string>;

static std::string hexed(const std::string& bytes) {
    std::string out;
    for (const unsigned char byte : bytes) {
        char digits[3];
        std::snprintf(digits, sizeof digits, "%02x", byte);
        out += digits;
    }
    return out;
}
static std::string shown(double number) {
    char digits[40];
    std::snprintf(digits, sizeof digits, "n%.17g", number);
    return digits;
}
template <class Integer>
static std::string shown_integer(Integer number) {
    return "n" + std::to_string(number);
}

/// What the library's usual writer makes of the value that was read; `write` returns false for a refusal.
template <class Write>
static void add_written(Tokens& out, const Write& write) {
    std::string text;
    bool written = false;
    try {
        written = write(text);
    } catch (const std::exception&) {
    }
    out.push_back(written ? "w" + hexed(text) : "w!");
}

/// Of one library: decodes a document and adds its tokens; false, or an exception, for a refusal.
static bool decode(const std::string& document, Tokens& out);

int main() {
    for (std::string path; std::getline(std::cin, path);) {
        std::ifstream file(path, std::ios::binary);
        const std::string document{std::istreambuf_iterator<char>(file), {}};
        Tokens out;
        bool accepted = false;
        try {
            accepted = decode(document, out);
        } catch (const std::exception&) {
        }
        std::string line = accepted ? "accepted" : "rejected";
        if (accepted)
            for (const std::string& token : out) line += " " + token;
        std::cout << line << std::endl;
    }
}

// Every small text over some pieces.
#pragma once

#include <string>
#include <vector>

/// Visits all sequences of up to `longest` pieces, one after another, without recursion; tells how many there are.
template <class Visit>
std::size_t for_each_sequence(const std::vector<std::string>& pieces, std::size_t longest, Visit visit) {
    std::size_t count = 0;
    for (std::size_t length = 0; length <= longest; ++length) {
        std::vector<std::size_t> digits(length, 0);
        while (true) {
            std::string text;
            for (const std::size_t d : digits) text += pieces[d];
            visit(text);
            ++count;
            std::size_t i = length;
            while (i > 0 && ++digits[i - 1] == pieces.size()) digits[--i] = 0;
            if (i == 0) break;
        }
    }
    return count;
}

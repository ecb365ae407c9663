// The memory that `read` takes for a document of many levels.
#include <sys/resource.h>

#include "tool_fixture.hpp"

namespace {

std::string repeated(const std::string& text, std::size_t times) {
    std::string out;
    out.reserve(text.size() * times);
    for (std::size_t i = 0; i < times; ++i) out += text;
    return out;
}

class ReadMemory : public tool_test::Tool,
                   public testing::WithParamInterface<std::pair<const char*, const char*>> {};

// Of all programs that were called so far the largest counts, so that a later row checks the earlier ones, too.
TEST_P(ReadMemory, IsAtMostAHundredBytesALevel) {
    constexpr std::size_t levels = 4'000'000, most_a_level = 100;
    constexpr std::size_t of_the_tool = 64'000'000;  // with freed memory that the C library keeps: up to 64 MiB
    const auto [open, close] = GetParam();
    write("deep.json", repeated(open, levels) + "1" + repeated(close, levels));
    const auto called = run("read --as trace deep.json | tail -n 1");
    EXPECT_EQ(called.out, std::string(close) + "\n");
    rusage usage{};
    ::getrusage(RUSAGE_CHILDREN, &usage);
    EXPECT_LT(static_cast<std::size_t>(usage.ru_maxrss) * 1024, levels * most_a_level + of_the_tool);
}
INSTANTIATE_TEST_SUITE_P(Table, ReadMemory, testing::Values(std::pair{"[", "]"}, std::pair{"{\"a\":", "}"}));

}  // namespace

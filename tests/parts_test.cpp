// A run in parts: the merged file is that of one run, whatever the number of parts; what does not fit is refused.
#include "tool_fixture.hpp"

namespace {

using tool_test::Called;
using tool_test::slurp;

class Parts : public tool_test::Tool {
  protected:
    void SetUp() override { configuration({"sound", "exponent-ignored"}); }
    Called part(std::size_t k, std::size_t n, const std::string& more = "") const {
        return run(fmt::format(
            "run json --config codecs.toml --part {}/{} --results p{}.jsonl --fail-on nothing {}", k, n, k, more));
    }
    Called merge(const std::string& files, const std::string& more = "--corpus json") const {
        return run("results merge " + files + " --config codecs.toml --results merged.jsonl " + more);
    }
};

TEST_F(Parts, MergeToTheFileOfOneRun) {
    ASSERT_EQ(run("run json --config codecs.toml --results whole.jsonl").status, 1);
    const std::string whole = slurp(folder_ / "whole.jsonl");
    for (const std::size_t parts : {1U, 2U, 3U, 7U}) {
        std::string files;
        for (std::size_t k = parts; k > 0; --k) {  // in any order
            const Called r = part(k, parts);
            ASSERT_EQ(r.status, 0) << r.err;
            files += fmt::format("p{}.jsonl ", k);
        }
        const Called merged = merge(files);
        ASSERT_EQ(merged.status, 0) << merged.err;
        EXPECT_TRUE(slurp(folder_ / "merged.jsonl") == whole) << parts << " parts";
    }
}

TEST_F(Parts, ThatDoNotFitAreRefused) {
    for (const std::size_t k : {1U, 2U, 3U}) ASSERT_EQ(part(k, 3).status, 0);
    const auto refused = [&](const std::string& files, const std::string& words,
                             const std::string& more = "--corpus json") {
        write("merged.jsonl", "an earlier file");
        const Called r = merge(files, more);
        EXPECT_EQ(r.status, 2) << files;
        EXPECT_NE(r.err.find(words), std::string::npos) << r.err;
        EXPECT_EQ(slurp(folder_ / "merged.jsonl"), "an earlier file") << "it is kept";
        EXPECT_FALSE(tool_test::fs::exists(folder_ / "merged.jsonl.unfinished"));
    };
    refused("p1.jsonl p3.jsonl", "part 2 of 3 is missing; run it with --part 2/3");
    refused("p1.jsonl p2.jsonl p3.jsonl p2.jsonl", "p2.jsonl: is part 2 of 3, as p2.jsonl is");
    refused("p1.jsonl p2.jsonl p3.jsonl", "the corpora are not those of the parts", "--corpus json --aspect names");
    refused("codecs.toml", "is not the results file of a part");
    refused("nowhere.jsonl", "cannot be read");
    const std::string second = slurp(folder_ / "p2.jsonl");
    write("p2.jsonl", second.substr(0, second.rfind("\n{") + 1));
    refused("p1.jsonl p2.jsonl p3.jsonl", "p2.jsonl: the part was not run to its end; run it again");
    configuration({"sound"});
    ASSERT_EQ(part(2, 3).status, 0);
    refused("p1.jsonl p2.jsonl p3.jsonl", "p2.jsonl: is a part of another run than p1.jsonl");
}

TEST_F(Parts, AreNamedByTwoNumbers) {
    for (const char* words : {"0/3", "4/3", "2", "2/", "/3", "a/b", "2/3/4", "-1/3"}) {
        const Called r = run(fmt::format("run json --config codecs.toml --results p.jsonl --part '{}'", words));
        EXPECT_EQ(r.status, 2) << words;
        EXPECT_NE(r.err.find("is no part; write K/N"), std::string::npos) << r.err;
    }
    const Called no_file = run("run json --config codecs.toml --part 1/2");
    EXPECT_NE(no_file.err.find("a part needs a file"), std::string::npos) << no_file.err;
    const Called compared =
        run("run json --config codecs.toml --part 1/2 --results p.jsonl --baseline codecs.toml");
    EXPECT_EQ(compared.status, 2);
}

TEST_F(Parts, OfABatchEngineAreRunOnce) {
    const std::string job = "PATH=" BUILD_FOLDER ":$PATH " SOURCE_FOLDER "/examples/cluster/array-job";
    write("nachklang.toml", slurp(folder_ / "codecs.toml"));
    ASSERT_EQ(shell("SLURM_ARRAY_TASK_ID=1 SLURM_ARRAY_TASK_COUNT=2 " + job).status, 0);
    ASSERT_EQ(shell(job + " 2 2").status, 0);
    const auto written = std::filesystem::last_write_time(folder_ / "parts/part-1-of-2.jsonl");
    ASSERT_EQ(shell(job + " 1 2").status, 0);
    EXPECT_EQ(std::filesystem::last_write_time(folder_ / "parts/part-1-of-2.jsonl"), written);
    EXPECT_EQ(run("results merge parts/*.jsonl --corpus json --results merged.jsonl").status, 0);
    EXPECT_NE(shell(job).status, 0) << "no part is named";
    const std::string survey =
        "LITERALS=4000 NAMES=sound PATH=" BUILD_FOLDER ":$PATH " SOURCE_FOLDER "/examples/cluster/number-survey";
    ASSERT_EQ(shell(survey + " 2 4").status, 0);
    EXPECT_NE(slurp(folder_ / "survey/literals-2.jsonl").find("\"asked\":1000"), std::string::npos)
        << slurp(folder_ / "survey/literals-2.jsonl");
}

}  // namespace

// The page of a run, in a real browser: what a reader sees, by address and by keyboard, and what no document may
// do.
#include "tool_fixture.hpp"

namespace tool_test {
namespace {

class Page : public Tool {
  protected:
    void SetUp() override {
        // A document that closes the script, one with separators that JavaScript takes for line ends, with a
        // bidirectional control, and a long one; the codec accepts all of them wrongly.
        write("bells/closes.json", "[\"</script><script>document.title='pwned'</script>\",]");
        write("bells/image.json", "[\"<img src=x onerror=document.title='pwned'>\",]");
        write("bells/lines.json", "[\"\xe2\x80\xa8\xe2\x80\xae\",]");
        write("bells/long.json", "[\"" + std::string(3'000'000, 'o') + "\",]");
        const std::string config = configuration({"sound", "trailing-comma-taken"});
        run("run bells --config " + config + " --results r.jsonl");
        const Called made = run("report r.jsonl --page p.html --corpus bells");
        ASSERT_EQ(made.status, 0) << made.err;
    }
    /// The document that a browser has made of the page at this address.
    std::string seen(const std::string& address) const {
        const Called called = shell(fmt::format(
            "chromium --headless --no-sandbox --disable-gpu --disable-dev-shm-usage --user-data-dir=browser "
            "--virtual-time-budget=5000 --dump-dom 'file://{}/p.html{}'",
            folder_.string(), address));
        EXPECT_EQ(called.status, 0) << called.err;
        return called.out;
    }
    /// The part that the script has made.
    std::string view(const std::string& address) const {
        const std::string all = seen(address);
        const auto begin = all.find("<main"), end = all.find("</main>");
        return begin == std::string::npos ? "" : all.substr(begin, end - begin);
    }
};

TEST_F(Page, ShowsImplementationsBehavioursCausesAndCases) {
    const std::string all = view("");
    EXPECT_NE(all.find("1 implementation"), std::string::npos) << all;
    EXPECT_NE(all.find("Without a behaviour here: sound."), std::string::npos);
    EXPECT_NE(all.find("aria-label=\"1 behaviour, "), std::string::npos);
    const std::string one = view("#/implementation/trailing-comma-taken");
    EXPECT_NE(one.find("All cases, the smallest: "), std::string::npos) << one;
    EXPECT_NE(view("#/causes").find("trailing-comma-taken"), std::string::npos);
    EXPECT_NE(view("#/cases").find("closes.json"), std::string::npos);
    EXPECT_NE(view("#/implementation/no-such").find("This run has no such implementation."), std::string::npos);
}

TEST_F(Page, TheAddressHoldsTheSearch) {
    EXPECT_NE(view("#/cases?find=closes").find("closes.json"), std::string::npos);
    EXPECT_NE(view("#/implementation/trailing-comma-taken?find=ding").find("0 behaviours"), std::string::npos);
    EXPECT_NE(view("#/?format=xml").find("0 implementations"), std::string::npos);
}

TEST_F(Page, NoDocumentRunsOrBecomesMarkup) {
    for (const char* address : {"", "#/implementation/trailing-comma-taken", "#/case/0", "#/case/1", "#/case/2",
                                "#/case/3", "#/cases?find=%3Cimg%20src=x%20onerror=document.title='pwned'%3E"}) {
        const std::string all = seen(address);
        EXPECT_NE(all.find("<title>Nachklang: what implementations do</title>"), std::string::npos) << address;
        EXPECT_EQ(view(address).find("<img"), std::string::npos) << address;
        EXPECT_EQ(view(address).find("\xe2\x80\xae"), std::string::npos) << address;
    }
    EXPECT_LT(slurp(folder_ / "p.html").size(), 200'000U);  // a long document is cut, with its size
    EXPECT_NE(slurp(folder_ / "p.html").find("\"size\":3000005"), std::string::npos);
}

TEST_F(Page, LoadsNothingFromOutside) {
    const std::string page = slurp(folder_ / "p.html");
    EXPECT_NE(page.find("default-src 'none'"), std::string::npos);
    for (const char* outside : {"src=\"http", "href=\"http", "url(", "@import", "fetch(", "XMLHttpRequest"})
        EXPECT_EQ(page.find(outside), std::string::npos) << outside;
}

}  // namespace
}  // namespace tool_test

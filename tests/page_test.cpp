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
        run("run bells --config " + configuration({"sound", "exponent-ignored"}) + " --results before.jsonl");
        write(
            "found.jsonl",
            R"({"record":"limit","implementation":"sound","shape":"array-depth","operation":"decode","largest":512,"past":"rejected","message":"","complete":true})"
            "\n"
            R"({"record":"numbers","implementation":"sound","asked":10,"wrong":2,"answers":{"exact":8,"off by ulps":2},"worst":{"literal":"1e23","family":"x","answer":"off by ulps","ulps":1.5},"distances":[{"from":1,"literals":2}],"families":{}})"
            "\n"
            R"({"record":"growth","implementation":"sound","shape":"object-width","exponent":2.1,"above_linear":true,"ended":null,"points":[{"amount":1000,"bytes":9000,"seconds":0.002},{"amount":2000,"bytes":18000,"seconds":0.009}]})"
            "\n");
        const Called made =
            run("report r.jsonl --page p.html --corpus bells --before before.jsonl --found found.jsonl");
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

TEST_F(Page, ShowsAnswersRelationsGroupsAndChanges) {
    const std::string questions = view("#/questions");
    EXPECT_NE(questions.find("trailing-comma"), std::string::npos) << questions;
    const std::string question = view("#/question/json/trailing-comma");
    EXPECT_NE(question.find("accepted — 1 mode"), std::string::npos) << question;
    EXPECT_NE(question.find("refused — 1 mode"), std::string::npos) << question;
    const std::string together = view("#/together");
    EXPECT_NE(together.find("A tree of implementations"), std::string::npos) << together;
    EXPECT_NE(together.find("100 %"), std::string::npos) << "they differ on every document";
    EXPECT_NE(together.find("#/question/json/trailing-comma"), std::string::npos) << "which sets them apart";
    const std::string one_case = view("#/case/0");
    EXPECT_NE(one_case.find("Groups of equal answers (2)"), std::string::npos) << one_case;
    const std::string changes = view("#/changes");
    EXPECT_NE(changes.find("new: trailing-comma-taken"), std::string::npos) << changes;
    EXPECT_NE(changes.find("Since before.jsonl"), std::string::npos) << changes;
    const std::string one = view("#/implementation/sound");
    EXPECT_NE(one.find("Its answers to open questions"), std::string::npos) << one;
    EXPECT_NE(one.find("Its limits"), std::string::npos) << one;
    EXPECT_NE(one.find("1e23 (off by ulps)"), std::string::npos) << one;
    EXPECT_NE(one.find("sound: 1 to 2 ulp"), std::string::npos) << one;
    EXPECT_NE(one.find("1 shape of 1 takes more than in proportion."), std::string::npos) << one;
    EXPECT_NE(one.find(">object-width, sound</text>"), std::string::npos) << one;
}

// A case that is asked of two operations is one case.
TEST_F(Page, CountsTheCasesOfAnAnswer) {
    const std::string config = configuration({"record-map-name-cut"});
    run("run json --case 'records/map-name-*' --config " + config +
        " --implementation record-map-name-cut --results maps.jsonl");
    ASSERT_EQ(run("report maps.jsonl --page p.html").status, 0);
    const std::string question = view("#/question/json/record-map-name");
    EXPECT_NE(question.find("refused in 10 of 14 cases, else read"), std::string::npos) << question;
}

// Only a store keeps what was answered.
TEST_F(Page, ShowsValuesOfAStoredRunAndTheirDifferences) {
    write("towers/a.json", "{\"a\":[1e2,true],\"b\":0}");
    write("towers/b.json", "[1,]");
    const std::string config = configuration({"sound", "exponent-ignored"});
    EXPECT_EQ(run("run towers --config " + config + " --store s.db").status, 1);
    const Called made = run("report s.db --page v.html --corpus towers");
    ASSERT_EQ(made.status, 0) << made.err;
    std::filesystem::rename(folder_ / "v.html", folder_ / "p.html");
    const std::string a = view("#/case/0");
    EXPECT_NE(a.find("<summary>{…}</summary>"), std::string::npos) << a;
    EXPECT_NE(a.find("<li>/1  true</li>"), std::string::npos) << a;
    EXPECT_NE(a.find("<b class=\"differs\">≠ /0  "), std::string::npos) << a;
    EXPECT_NE(a.find("the document means 1e2 (as written)"), std::string::npos) << a;
}

TEST_F(Page, MarksThePlacesOfRefusals) {
    write("towers/b.json", "[1,]");
    const std::string config = configuration({"sound", "trailing-comma-taken"});
    run("run towers --config " + config + " --store s.db");
    ASSERT_EQ(run("report s.db --page p.html --corpus towers").status, 0);
    const std::string b = view("#/case/0");
    EXPECT_NE(b.find("[1,<span class=\"mark\" aria-label=\"refusal 1 points here\">1</span>]"), std::string::npos)
        << b;
    EXPECT_NE(b.find("no JSON<div class=\"detail\">offset 3</div>"), std::string::npos) << b;
}

TEST_F(Page, ShowsRecordedImplementationsBesideARun) {
    const std::string config = configuration({"sound"});
    run("run json --case numbers/tenth --config " + config + " --implementation sound --results t.jsonl");
    EXPECT_EQ(run("report t.jsonl --csv q.csv --recorded").status, 2);
    ASSERT_EQ(run("report t.jsonl --page p.html --corpus json --recorded").status, 0);
    const std::string together = view("#/together");
    EXPECT_NE(together.find("rapidjson@"), std::string::npos) << together;
    EXPECT_EQ(together.find("href=\"#/implementation/rapidjson"), std::string::npos) << "it has no page";
    EXPECT_EQ(view("").find("rapidjson"), std::string::npos) << "it is none of the run";
}

TEST_F(Page, ShowsSeveralImplementationsSideBySide) {
    const std::string both = view("#/implementation/trailing-comma-taken/sound");
    EXPECT_NE(both.find("<h1>trailing-comma-taken and sound</h1>"), std::string::npos) << both;
    EXPECT_NE(both.find("Where their answers to open questions differ ("), std::string::npos) << both;
    EXPECT_NE(both.find("<th scope=\"col\">trailing-comma-taken</th><th scope=\"col\">sound</th>"),
              std::string::npos)
        << both;
    const std::string alone = view("#/implementation/trailing-comma-taken?alone=yes");
    EXPECT_NE(alone.find("aria-pressed=\"true\">only what no other engine does"), std::string::npos) << alone;
}

TEST_F(Page, ExtrasThatCannotBeShownAreRefused) {
    write("other.jsonl", "{\"record\":\"card\"}\n");
    const Called other = run("report r.jsonl --page q.html --corpus bells --found other.jsonl");
    EXPECT_EQ(other.status, 2);
    EXPECT_NE(other.err.find("no record of `limits --json`, `numbers --json` or `growth --json`"),
              std::string::npos)
        << other.err;
    EXPECT_EQ(run("report r.jsonl --csv q.csv --before before.jsonl").status, 2);
    EXPECT_EQ(run("report r.jsonl --page q.html --corpus bells --before nowhere.jsonl").status, 2);
}

// As a reader goes through it: click, filter, open a case, back, and by keyboard alone.
TEST_F(Page, CanBeWalkedThrough) {
    const Called walked = shell("/usr/bin/python3 " SOURCE_FOLDER "/tests/page_walk.py p.html");
    EXPECT_EQ(walked.status, 0) << walked.out << walked.err;
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
    bool told = false;
    for (const char* address : {"#/case/0", "#/case/1", "#/case/2", "#/case/3"})
        told = told || view(address).find("600 bytes of 3,000,005 are shown.") != std::string::npos;
    EXPECT_TRUE(told);
}

TEST_F(Page, LoadsNothingFromOutside) {
    const std::string page = slurp(folder_ / "p.html");
    EXPECT_NE(page.find("default-src 'none'"), std::string::npos);
    for (const char* outside : {"src=\"http", "href=\"http", "url(", "@import", "fetch(", "XMLHttpRequest"})
        EXPECT_EQ(page.find(outside), std::string::npos) << outside;
}

}  // namespace
}  // namespace tool_test

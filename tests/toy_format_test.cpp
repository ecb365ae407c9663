// A third format, with the core interface alone: a list of integers such as "1 2 3". It runs through corpus,
// executor, campaign, judge, comparison, records and cards, so that none of these stages needs to know a format or
// a facet.
#include <gtest/gtest.h>

#include <fmt/format.h>

#include <charconv>
#include <sstream>

#include <nachklang/experiments.hpp>
#include <nachklang/store.hpp>

#include "scratch.hpp"

namespace {

using namespace nachklang;

/// The integers of a text, or the offset of the first byte that is no part of one.
struct Parsed {
    std::vector<long> values;
    std::optional<std::size_t> error;
};
Parsed parse(std::string_view text) {
    Parsed out;
    for (std::size_t at = 0; at < text.size();) {
        if (text[at] == ' ') {
            ++at;
            continue;
        }
        long value = 0;
        const auto [end, error] = std::from_chars(text.data() + at, text.data() + text.size(), value);
        if (error != std::errc{}) return {{}, at};
        at = static_cast<std::size_t>(end - text.data());
        out.values.push_back(value);
    }
    return out;
}

std::string trace_text(const std::vector<long>& values) {
    std::string out = "[\n";
    for (const long value : values) out += fmt::format("int {}\n", value);
    return out + "]\n";
}

std::vector<std::string> digits_of(const Trace& trace) {
    std::vector<std::string> out;
    for (const Item& item : trace.items())
        if (item.kind == ItemKind::integer) out.push_back(std::string(item.word()));
    return out;
}

class ToyVerdict final : public VerdictStream {
  public:
    bool feed(std::string_view piece) override {
        text_ += piece;
        return true;
    }
    std::optional<Rejection> finish() override {
        const Parsed parsed = parse(text_);
        if (!parsed.error) return std::nullopt;
        return Rejection{text::position_of(text_, *parsed.error), "expected an integer", "Toy, 1", ""};
    }

  private:
    std::string text_;
};

class ToyFormat final : public Format {
  public:
    [[nodiscard]] const FormatConstants& constants() const override {
        static const std::vector<Question> questions{Question::open_point(
            "many", "Toy, 2", {"refused", KnownAnswer::keeps("kept")}, "more than three integers")};
        static const std::vector<Cause> causes{
            {"toy/changed", "another integer", "1", "{reads} an integer as another one"},
            {std::string(common_cause::refused), "refused", "1", "refuses {document}"}};
        static const FormatConstants out{.name = "toy",
                                         .writing_basis = Basis::advised,
                                         .questions = questions,
                                         .causes = causes,
                                         .representation_limits = {},
                                         .reading_options = {},
                                         .names_external_files = false};
        return out;
    }
    [[nodiscard]] bool detect(std::string_view file_name, std::string_view) const override {
        return file_name.ends_with(".toy");
    }
    [[nodiscard]] Reading read(std::string_view document, const ReadOptions&) const override {
        Reading out;
        ToyVerdict verdict;
        verdict.feed(document);
        out.rejection = verdict.finish();
        if (out.rejection) return out;
        const auto values = parse(document).values;
        out.trace = *Trace::parse(trace_text(values));
        if (values.size() > 3) out.occurrences.push_back({"many", 0, values.size(), 1});
        return out;
    }
    [[nodiscard]] std::unique_ptr<VerdictStream> verdict_stream(const Settings&) const override {
        return std::make_unique<ToyVerdict>();
    }
    [[nodiscard]] Expectation expect(std::string_view document, const Settings&,
                                     const ExternalContext&) const override {
        const Reading reading = read(document, {});
        Expectation out;
        out.clause = "Toy, 1";
        out.occurrences = reading.occurrences;
        if (reading.rejection) {
            out.stance = Stance::reject;
            out.acceptance_cause = "toy/accepted";
        } else {
            out.value = reading.trace;
        }
        return out;
    }
    [[nodiscard]] std::string describe(const Trace& trace, std::size_t) const override {
        return fmt::format("{}", fmt::join(digits_of(trace), " "));
    }
    [[nodiscard]] Tree tree(const Trace&, Layer, const CannotRepresent&) const override { return {}; }
    [[nodiscard]] LayerDigests digests(const Trace& trace, const CannotRepresent&) const override {
        LayerDigests out;
        out.fill(digest_of(describe(trace, 0)));
        return out;
    }
    [[nodiscard]] Comparison compare(const Trace& expected, const Trace& got,
                                     const CompareOptions&) const override {
        if (digits_of(expected) == digits_of(got)) return {};
        return {{{"", "toy/changed", describe(expected, 0) + " became " + describe(got, 0), "", ""}}, {}};
    }
};

const ToyFormat toy;

/// A codec for toys; `wrong` adds one to every integer that it decodes.
class ToyCodec final : public adapter::Codec {
  public:
    ToyCodec(std::string name, bool wrong) : name_(std::move(name)), wrong_(wrong) {}
    [[nodiscard]] adapter::Description describe() const override {
        adapter::Description out;
        out.name = name_;
        out.version = "1";
        out.capabilities = {{"toy", {"decode", "round-trip", "encode"}}};
        return out;
    }
    adapter::Reply decode(std::string_view, std::string_view, std::string_view document,
                          adapter::TraceOut& out) override {
        const Parsed parsed = parse(document);
        if (parsed.error) return adapter::Reply::rejected("no integer").at_offset(*parsed.error);
        if (parsed.values.size() > 4) return adapter::Reply::rejected("too many");
        out.open_array();
        for (const long value : parsed.values) out.integer(value + (wrong_ ? 1 : 0));
        out.close_array();
        return adapter::Reply::accepted();
    }
    adapter::Reply round_trip(std::string_view, std::string_view, std::string_view document) override {
        const Parsed parsed = parse(document);
        if (parsed.error) return adapter::Reply::rejected("no integer");
        return adapter::Reply::accepted(fmt::format("{}", fmt::join(parsed.values, " ")));
    }
    adapter::Reply encode(std::string_view, std::string_view, std::string_view trace) override {
        std::string out;
        for (const adapter::TraceLine& line : adapter::read_trace(trace))
            if (line.kind == "int") out += (out.empty() ? "" : " ") + line.text;
        return adapter::Reply::accepted(wrong_ ? "x" : out);
    }

  private:
    std::string name_;
    bool wrong_;
};

TEST(ToyFormat, RunsThroughAllStagesWithTheCoreAlone) {
    const Scratch scratch;
    scratch.write("a.toml", R"([sheet]
format = "toy"
aspect = "lists"
standard = "Toy"
[[case]]
id = "three"
text = "1  2 3"
stance = "accept"
clause = "1"
why = "three integers"
[[case]]
id = "letters"
text = "1 x"
stance = "reject"
clause = "1"
why = "a letter is no integer"
[[case]]
id = "five"
text = "1 2 3 4 5"
stance = "open"
question = "many"
answers = { kept = "1 2 3 4 5" }
clause = "2"
why = "more than three"
[[case]]
id = "written"
value = """
[
int 7
]
"""
stance = "accept"
clause = "1"
why = "one integer"
)");
    scratch.write("page.toy", "8 9");
    const Format* const known[] = {&toy};
    const auto corpus = load_corpus(scratch.path(), {}, known);
    ASSERT_TRUE(corpus.ok()) << corpus.problem().line();
    ASSERT_EQ(corpus.value().cases.size(), 5U);
    for (const Case& c : corpus.value().cases) {
        if (!c.why.empty()) {
            EXPECT_TRUE(check_case(c).empty()) << c.name;
        }
    }

    ToyCodec right("right", false), wrong("wrong", true);
    std::map<std::string, adapter::Codec*> codecs{{"right", &right}, {"wrong", &wrong}};
    const std::vector<Subject> subjects{handshake(right), handshake(wrong)};
    std::map<std::string, std::string> findings;
    std::set<std::string> disagreements, lines;
    FunctionSink notes([&](const ChunkReport& report) {
        for (const Result& r : report.results) {
            findings[fmt::format("{} {} {}", r.subject->name(), name_of(r.operation), r.test_case->name)] =
                fmt::format("{} {}", name_of(r.finding.kind), r.finding.cause());
            lines.insert(line_of(record_of(r)));
        }
        for (const Disagreement& d : report.disagreements)
            disagreements.insert(fmt::format("{} {} {}", d.case_name, name_of(d.operation), name_of(d.layer)));
    });
    CardSink cards;
    SinkList sinks({&notes, &cards});
    CampaignOptions options;
    options.profile = "no-such-profile";
    run_campaign(
        corpus.value().cases, subjects,
        [&](const Subject& s) { return make_in_process_executor(*codecs.at(s.implementation.name)); }, options,
        sinks);

    EXPECT_EQ(findings.at("right decode lists/three"), "conforms ");
    EXPECT_EQ(findings.at("right round-trip lists/three"), "conforms ");
    EXPECT_EQ(findings.at("right decode lists/letters"), "conforms ");
    EXPECT_EQ(findings.at("right decode lists/five"), "open ");
    EXPECT_EQ(findings.at("right encode lists/written"), "conforms ");
    EXPECT_EQ(findings.at("right decode page.toy"), "conforms ");
    EXPECT_EQ(findings.at("wrong decode lists/three"), "altered toy/changed");
    EXPECT_EQ(findings.at("wrong encode lists/written"), "ill-formed-output output/ill-formed");
    EXPECT_TRUE(disagreements.contains("lists/three decode value"));
    EXPECT_EQ(lines.size(), findings.size());
    EXPECT_EQ(cards.cards().at(0).answers.at({"toy", "many"}).at("refused"), 1U);
    EXPECT_EQ(cards.cards().at(1).aspects.at("lists").failing, 2U);

    // Loops that need a facet have nothing to do without it.
    EXPECT_TRUE(find_limits(toy, subjects, {}, {}).empty());
    EXPECT_TRUE(survey_numbers(toy, subjects, {}, {}).empty());
    EXPECT_EQ(shrink(
                  toy, "1 2", [](std::span<const std::string>) { return std::vector<bool>{}; }, 10)
                  .document,
              "1 2");
}

}  // namespace

// What every format promises the stages behind it, held against all documents of the shipped corpora: readings,
// canonical forms, comparisons, digests and cuts fit together, whatever the document.
#include <gtest/gtest.h>

#include <fmt/format.h>

#include <map>
#include <set>

#include <nachklang/compare.hpp>

namespace {

using namespace nachklang;

constexpr std::size_t longest = 20'000;

const std::vector<Case>& cases_of(const Format& format) {
    static std::map<const Format*, std::vector<Case>> known;
    auto& cases = known[&format];
    if (!cases.empty()) return cases;
    auto corpus = load_corpus(fmt::format(SOURCE_FOLDER "/corpora/{}", format.name()));
    if (!corpus.ok()) throw std::runtime_error(corpus.problem().line());
    for (Case& c : corpus.value().cases)
        if (!c.document || c.document->size() <= longest) cases.push_back(std::move(c));
    return cases;
}

class Formats : public testing::TestWithParam<const Format*> {
  protected:
    const Format& format() const { return *GetParam(); }
    /// Documents that the reference reader takes, each with its reading.
    template <class Check>
    void for_each_accepted(Check check) const {
        std::size_t count = 0;
        for (const Case& c : cases_of(format())) {
            if (!c.document) continue;
            const Reading reading = format().read(*c.document, {{}, external_context_of(c).fetch});
            if (!reading.accepted()) continue;
            ++count;
            check(c, reading);
            if (HasFailure()) FAIL() << c.name;
        }
        EXPECT_GT(count, 500U);
    }
};

TEST_P(Formats, GiveACanonicalFormThatIsItsOwn) {
    std::size_t written = 0;
    for_each_accepted([&](const Case& c, const Reading& reading) {
        const Canonical once = format().canonical_form()->canonical(*c.document, {}, external_context_of(c).fetch);
        if (once.refused || !once.unreadable_because.empty()) return;
        ++written;
        const Canonical twice = format().canonical_form()->canonical(once.bytes);
        ASSERT_FALSE(twice.refused) << twice.refused->message;
        EXPECT_EQ(twice.bytes, once.bytes) << "the form of the form is itself";
        const Reading again = format().read(once.bytes);
        ASSERT_TRUE(again.accepted());
        // References that were not read have no place in a canonical form, and doubles take the place of longer
        // numbers.
        const bool narrowed =
            std::any_of(reading.occurrences.begin(), reading.occurrences.end(), [](const Occurrence& t) {
                return t.question == "external-entities" || t.question == "undeclared-entity" ||
                       t.question == "number-precision" || t.question == "number-range" ||
                       t.question == "negative-zero";
            });
        if (!narrowed) {
            EXPECT_TRUE(format().compare(reading.trace, again.trace).differences.empty()) << once.bytes;
        }
    });
    EXPECT_GT(written, 500U);
}

TEST_P(Formats, FindNothingBetweenAValueAndItself) {
    for_each_accepted([&](const Case&, const Reading& reading) {
        for (const Layer layer : {Layer::value, Layer::exact, Layer::representation, Layer::order}) {
            CompareOptions options;
            options.layer = layer;
            const Comparison same = format().compare(reading.trace, reading.trace, options);
            EXPECT_TRUE(same.differences.empty()) << name_of(layer) << " " << same.differences.front().cause;
            EXPECT_EQ(digest_of(format().tree(reading.trace, layer)),
                      digest_of(format().tree(reading.trace, layer)));
        }
        EXPECT_EQ(format().digests(reading.trace), format().digests(reading.trace));
    });
}

/// One value beside the next: what digests tell apart is explained, and what they do not has no difference.
// An adapter may send any trace; those that show no value of the format are given to nothing else.
TEST(ValuesOfFormats, AreKnownByTheirNotation) {
    struct Row {
        std::string_view trace;
        bool json, xml;
    };
    for (const Row& row : {Row{"int 1\n", true, false}, Row{"{\nkey u8:61\nint 1\n}\n", true, true},
                           Row{"(\nint 1\n)\n", true, false}, Row{"[\nint 1\n]\n", true, false},
                           Row{"[\nnative refused -\n]\n", true, true}, Row{"[\n]\n", true, true},
                           Row{"[\nelem - u8:61 u8:\nend\n]\n", false, true}, Row{"[\n[\n]\n]\n", true, false},
                           Row{"[\n[\ntext u8:61\n]\n]\n", false, false},
                           Row{"elem - u8:61 u8:\nend\n", false, true}, Row{"text u8:\n", false, true}}) {
        TraceError error;
        EXPECT_EQ(parse_value(*find_format("json"), std::string(row.trace), error).has_value(), row.json)
            << row.trace;
        EXPECT_EQ(parse_value(*find_format("xml"), std::string(row.trace), error).has_value(), row.xml)
            << row.trace;
    }
    TraceError error;
    EXPECT_FALSE(parse_value(*find_format("json"), "text u8:\n", error));
    EXPECT_EQ(error.message, "no value of json");
    EXPECT_FALSE(parse_value(*find_format("json"), "[\n", error));
    EXPECT_EQ(error.message, "a container is not closed");
}

TEST_P(Formats, ExplainJustWhatTheirDigestsDistinguish) {
    std::optional<Trace> before;
    std::size_t differing = 0;
    std::set<std::string> known;
    for (const Cause& cause : format().constants().causes) known.insert(cause.slug);
    for_each_accepted([&](const Case&, const Reading& reading) {
        if (before) {
            const auto a = format().digests(*before), b = format().digests(reading.trace);
            for (const Layer layer : {Layer::exact, Layer::representation}) {
                CompareOptions options;
                options.layer = layer;
                const Comparison comparison = format().compare(*before, reading.trace, options);
                const auto at = static_cast<std::size_t>(layer);
                const bool reported = !comparison.differences.empty() || !comparison.observed.empty();
                if (a[at] == b[at]) {
                    EXPECT_TRUE(comparison.differences.empty()) << name_of(layer);
                } else {
                    EXPECT_TRUE(reported) << name_of(layer);
                    ++differing;
                }
                for (const Difference& d : comparison.differences) EXPECT_TRUE(known.contains(d.cause)) << d.cause;
            }
        }
        before = reading.trace;
    });
    EXPECT_GT(differing, 500U);
}

TEST_P(Formats, ReadInPiecesAsTheyReadTheWhole) {
    std::size_t count = 0;
    for (const Case& c : cases_of(format())) {
        if (!c.document) continue;
        const Reading whole = format().read(*c.document);
        const auto stream = format().verdict_stream();
        const std::string_view document = *c.document;
        for (std::size_t at = 0; at < document.size() && stream->feed(document.substr(at, 7)); at += 7) {
        }
        const auto rejection = stream->finish();
        if (!whole.unreadable_because.empty() || !stream->unreadable_because().empty()) continue;
        ++count;
        ASSERT_EQ(rejection.has_value(), whole.rejection.has_value()) << c.name;
        if (!rejection) continue;
        EXPECT_EQ(rejection->position, whole.rejection->position) << c.name;
        EXPECT_EQ(rejection->message, whole.rejection->message) << c.name;
        EXPECT_EQ(rejection->clause, whole.rejection->clause) << c.name;
    }
    EXPECT_GT(count, 1000U);
}

TEST_P(Formats, ShowTheLinesOfTheirTrees) {
    std::size_t lines = 0;
    for (const Case& c : cases_of(format())) {
        if (!c.expected) continue;
        std::vector<TreeLine> of_tree;
        for_each_line(format().tree(*c.expected, Layer::order), [&](const TreeLine& line) {
            of_tree.push_back(line);
            return true;
        });
        std::size_t at = 0;
        format().for_each_line(*c.expected, [&](const TreeLine& line) {
            if (at == of_tree.size()) return false;
            EXPECT_EQ(line.text, of_tree[at].text) << c.name;
            EXPECT_EQ(line.depth, of_tree[at].depth) << c.name;
            EXPECT_EQ(line.node, of_tree[at].node) << c.name;
            EXPECT_EQ(line.nodes, of_tree[at].nodes) << c.name;
            return ++at < 2000;
        });
        EXPECT_EQ(at, std::min<std::size_t>(of_tree.size(), 2000)) << c.name;
        lines += at;
    }
    EXPECT_GT(lines, 1000U);
}

TEST_P(Formats, AskQuestionsThatTheyKnow) {
    std::set<std::string> questions;
    for (const Question& question : format().constants().questions) {
        EXPECT_TRUE(questions.insert(question.id).second) << question.id << " occurs twice";
        EXPECT_FALSE(question.clause.empty() || question.about.empty()) << question.id;
        EXPECT_GE(question.answers.size(), 2U) << question.id;
        EXPECT_GE(question.refusal_from, question.raised_from) << question.id;
    }
    for (const Case& c : cases_of(format())) {
        if (!c.document) continue;
        const Expectation expectation = format().expect(*c.document, {}, external_context_of(c));
        for (const Occurrence& occurrence : expectation.occurrences) {
            EXPECT_TRUE(questions.contains(occurrence.question)) << c.name << " " << occurrence.question;
            EXPECT_LE(occurrence.offset, c.document->size()) << c.name << " " << occurrence.question;
            EXPECT_GE(occurrence.count, 1U) << c.name << " " << occurrence.question;
        }
        for (const Answer& answer : expectation.answers) EXPECT_TRUE(questions.contains(answer.question)) << c.name;
    }
}

TEST_P(Formats, CutNothingButPiecesOfTheDocument) {
    std::size_t smaller = 0;
    for (const Case& c : cases_of(format())) {
        if (!c.document || c.document->size() > 300) continue;
        const std::string& document = *c.document;
        for (const Cut& cut : format().reduction()->cuts(document)) {
            ASSERT_LE(cut.begin, cut.end) << c.name;
            ASSERT_LE(cut.end, document.size()) << c.name;
            ASSERT_GT(cut.end - cut.begin, cut.replacement.size()) << c.name << ": every cut saves something";
            ++smaller;
        }
    }
    EXPECT_GT(smaller, 10'000U);
}

TEST_P(Formats, HoldTheirRequirementsTogether) {
    std::set<std::string> ids;
    for (const Requirement& r : format().coverage()->requirements()) {
        EXPECT_TRUE(ids.insert(r.id).second) << r.id << " occurs twice";
        EXPECT_TRUE(r.accepts || r.rejects || r.opens) << r.id << " has no side";
    }
    for (const Case& c : cases_of(format())) {
        const auto exercised = c.value ? format().coverage()->exercised_by_encoding()
                                       : format().coverage()->exercised(*c.document, external_context_of(c).fetch);
        for (const Exercised& e : exercised) {
            ASSERT_LT(e.requirement, format().coverage()->requirements().size()) << c.name;
            const Requirement& r = format().coverage()->requirements()[e.requirement];
            EXPECT_TRUE(e.side == Stance::accept ? r.accepts : (e.side == Stance::reject ? r.rejects : r.opens))
                << c.name << " is on a side that " << r.id << " does not have";
        }
    }
}

TEST_P(Formats, MakeDocumentsInEveryAmount) {
    for (std::size_t shape = 0; shape < format().generators()->shapes().size(); ++shape) {
        std::size_t before = 0;
        for (const std::size_t amount : {1, 2, 3, 10, 257}) {
            const std::string document = format().generators()->shaped(shape, amount);
            const Reading reading = format().read(document);
            EXPECT_TRUE(reading.accepted()) << format().generators()->shapes()[shape].name << " " << amount;
            EXPECT_GT(document.size(), before) << format().generators()->shapes()[shape].name << " " << amount;
            before = document.size();
            const auto value = format().generators()->shaped_value(shape, document);
            if (!value) continue;
            const auto trace = Trace::parse(*value);
            ASSERT_TRUE(trace) << format().generators()->shapes()[shape].name;
            EXPECT_TRUE(format().compare(reading.trace, *trace).differences.empty());
        }
    }
}

TEST_P(Formats, ShowEveryValueInPrint) {
    for_each_accepted([&](const Case& c, const Reading& reading) {
        const std::string shown = format().describe(reading.trace, 400);
        EXPECT_EQ(text::printable(shown), shown) << c.name << ": nothing acts on a terminal";
        EXPECT_EQ(format().text_differences()->reformatted(*c.document, *c.document), std::vector<std::string>{})
            << "a document is no respelling of itself";
    });
}

/// What ReadOptions and Reading promise: a verdict without a reading is the reading's verdict, with every setting;
/// an accepted document has a trace, and its occurrences are sorted by question.
TEST_P(Formats, GiveTheSameVerdictWithAndWithoutAReading) {
    std::vector<Settings> all{{}};
    for (const Option& option : format().constants().reading_options)
        for (const std::string_view value : option.allowed)
            all.push_back({{std::string(option.name), std::string(value)}});
    std::size_t compared = 0;
    for (const Case& c : cases_of(format())) {
        if (!c.document) continue;
        for (const Settings& settings : all) {
            const Reading reading = format().read(*c.document, {settings, {}});
            if (!reading.unreadable_because.empty()) continue;
            const auto verdict = verdict_of(format(), *c.document, settings);
            ASSERT_EQ(verdict.has_value(), reading.rejection.has_value()) << c.name;
            if (verdict) {
                EXPECT_EQ(verdict->position, reading.rejection->position) << c.name;
            } else {
                EXPECT_FALSE(reading.trace.items().empty()) << c.name;
                EXPECT_TRUE(std::is_sorted(
                    reading.occurrences.begin(), reading.occurrences.end(),
                    [](const Occurrence& a, const Occurrence& b) { return a.question < b.question; }))
                    << c.name;
            }
            ++compared;
        }
    }
    EXPECT_GT(compared, 500U);
}

/// The cache distinguishes all that a reading depends on.
TEST_P(Formats, KeepReadingsWithOtherSettingsApart) {
    JudgeCache cache;
    for (const Option& option : format().constants().reading_options) {
        std::set<const Reading*> readings{cache.read(format(), "<p:a/>", {}).get()};
        for (const std::string_view value : option.allowed)
            readings.insert(cache.read(format(), "<p:a/>", {{std::string(option.name), std::string(value)}}).get());
        EXPECT_EQ(readings.size(), option.allowed.size() + 1);
    }
    EXPECT_EQ(cache.read(format(), "[1]", {}), cache.read(format(), "[1]", {}));
}

TEST_P(Formats, AdviseOnlyByTheirProfiles) {
    if (format().profiles() == nullptr) GTEST_SKIP() << "this format has no profiles";
    for_each_accepted([&](const Case& c, const Reading&) {
        for (const Profile& profile : format().profiles()->list())
            for (const Advice& advice : format().profiles()->advice(profile.name, *c.document)) {
                EXPECT_LE(advice.position.offset, c.document->size());
                EXPECT_FALSE(advice.message.empty() || advice.clause.empty());
            }
        EXPECT_TRUE(format().profiles()->advice("no-such-profile", *c.document).empty());
    });
}

INSTANTIATE_TEST_SUITE_P(All, Formats, testing::ValuesIn(formats().begin(), formats().end()),
                         [](const auto& info) { return std::string(info.param->name()); });

TEST(CanonicalJson, LeavesRfc8785NothingToAdvise) {
    const Format& format = *find_format("json");
    std::size_t count = 0;
    for (const Case& c : cases_of(format)) {
        if (!c.document) continue;
        const Canonical canonical = format.canonical_form()->canonical(*c.document);
        if (canonical.refused) continue;
        ++count;
        const auto advice = format.profiles()->advice("jcs", canonical.bytes);
        EXPECT_TRUE(advice.empty()) << c.name << ": " << advice.front().message;
        // And whatever it advises on is not the form.
        EXPECT_EQ(format.profiles()->advice("jcs", *c.document).empty(), *c.document == canonical.bytes) << c.name;
    }
    EXPECT_GT(count, 400U);
}

struct GuessRow {
    const char* name;
    const char* file;
    std::string document, format;
};
class Guessed : public testing::TestWithParam<GuessRow> {};
TEST_P(Guessed, ByNameAndByFirstBytes) {
    EXPECT_EQ(guess_format(GetParam().file, GetParam().document).name(), GetParam().format);
}
INSTANTIATE_TEST_SUITE_P(
    Rows, Guessed,
    testing::Values(GuessRow{"by_its_name", "bell.xml", "[1]", "xml"},
                    GuessRow{"by_its_other_name", "bell.json", "<a/>", "json"},
                    GuessRow{"by_its_bytes", "-", " \n<a/>", "xml"},
                    GuessRow{"behind_a_mark", "-", "\xEF\xBB\xBF<a/>", "xml"},
                    GuessRow{"utf_16_little", "-", std::string("\xFF\xFE<\0a\0/\0>\0", 10), "xml"},
                    GuessRow{"utf_16_big", "-", std::string("\xFE\xFF\0<\0a\0/\0>", 10), "xml"},
                    GuessRow{"utf_16_of_the_other", "-", std::string("\xFF\xFE[\0]\0", 6), "json"},
                    GuessRow{"nothing", "-", "", "json"}, GuessRow{"neither", "bell.txt", "bell", "json"}),
    [](const auto& info) { return info.param.name; });

// --- cuts by themselves ---
std::vector<std::string> left_by(std::string_view document, std::vector<Cut> cuts) {
    std::vector<std::string> out;
    for (const Cut& cut : cuts)
        out.push_back(std::string(document.substr(0, cut.begin)) + std::string(cut.replacement) +
                      std::string(document.substr(cut.end)));
    return out;
}
using Left = std::vector<std::string>;

TEST(CutHelpers, TakeNeighboursWithWhatSeparatesThem) {
    const std::vector<ByteRange> three{{0, 1}, {2, 3}, {4, 5}};
    std::vector<Cut> cuts;
    cut_siblings(three, cuts);
    EXPECT_EQ(left_by("a,b,c", cuts), (Left{"", "b,c", "a,c", "a,b"}));
    cuts.clear();
    cut_siblings({}, cuts);
    EXPECT_TRUE(cuts.empty());
}

TEST(CutHelpers, TakeLevelsByHalves) {
    const std::string document = "[[[[x]]]]";
    const std::vector<ByteRange> path{{0, 9}, {1, 8}, {2, 7}, {3, 6}};
    std::vector<Cut> cuts;
    cut_levels(document, path, cuts);
    EXPECT_EQ(left_by(document, cuts), (Left{"[[x]]", "[[[x]]]", "[[[x]]]", "[[[x]]]"}));
    cuts.clear();
    cut_levels(document, std::span(path).first(1), cuts);
    EXPECT_TRUE(cuts.empty()) << "one level cannot be left out for another";
}

TEST(CutHelpers, TakeRunsAndBytes) {
    std::vector<Cut> cuts;
    cut_run(1, 4, cuts);
    EXPECT_EQ(left_by("abcde", cuts), (Left{"ae", "acde", "abe"}));
    cuts.clear();
    cut_bytes("abcd", cuts);
    EXPECT_EQ(left_by("abcd", cuts), (Left{"cd", "ab", "bcd", "acd", "abd", "abc"}));
    cuts.clear();
    cut_bytes(std::string(5000, 'x'), cuts);
    EXPECT_TRUE(std::none_of(cuts.begin(), cuts.end(), [](const Cut& cut) { return cut.saved() < 2; }))
        << "single bytes only of small documents";
}

TEST(CutHelpers, OrderByWhatIsSaved) {
    std::vector<Cut> cuts{{0, 1, ""}, {0, 4, "xy"}, {2, 3, "z"}, {0, 9, ""}, {1, 2, ""}};
    order_cuts(cuts);
    std::vector<std::size_t> saved;
    for (const Cut& cut : cuts) saved.push_back(cut.saved());
    EXPECT_EQ(saved, (std::vector<std::size_t>{9, 2, 1, 1})) << "what saves nothing is no cut";
    EXPECT_EQ(cuts[2].begin, 0U) << "of equals the one proposed first";
}

// --- groups do not depend on the order of the participants ---
TEST(Groups, DoNotDependOnTheOrderOfParticipants) {
    const Format& format = *find_format("json");
    const Case c = case_of_document("test", "x", format, "[1.50]");
    std::vector<Participant> participants;
    for (const auto& [name, engine, trace] : {std::tuple{"a/x", "a", "[\nint 1\n]\n"},
                                              {"a/y", "a", "[\nint 1\n]\n"},
                                              {"b", "b", "[\ndec 1.5\n]\n"},
                                              {"c", "c", "[\nspelled u8:312e3530\n]\n"},
                                              {"d", "d", ""}}) {
        Participant participant;
        participant.implementation = name;
        participant.engine = engine;
        participant.outcome = *trace == '\0' ? OutcomeKind::rejected : OutcomeKind::accepted;
        if (participant.outcome == OutcomeKind::accepted) {
            participant.trace = Trace::parse(trace);
            participant.digests = format.digests(*participant.trace);
        }
        participants.push_back(std::move(participant));
    }
    const auto in_words = [&](const std::vector<Participant>& speaking) {
        std::string out;
        for (const Disagreement& d : compare_participants(c, Operation::decode, speaking)) {
            out += fmt::format("{}:", name_of(d.layer));
            for (const Group& group : d.groups) out += fmt::format(" {}", fmt::join(group.implementations, "+"));
            out += "; ";
        }
        return out;
    };
    const std::string once = in_words(participants);
    EXPECT_NE(once.find("verdict:"), std::string::npos) << once;
    EXPECT_NE(once.find("value:"), std::string::npos) << once;
    std::size_t orders = 0;
    std::sort(participants.begin(), participants.end(),
              [](const Participant& a, const Participant& b) { return a.implementation < b.implementation; });
    do {
        EXPECT_EQ(in_words(participants), once);
        ++orders;
    } while (std::next_permutation(
        participants.begin(), participants.end(),
        [](const Participant& a, const Participant& b) { return a.implementation < b.implementation; }));
    EXPECT_EQ(orders, 120U);
}

}  // namespace

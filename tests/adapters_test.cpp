// The shipped adapters that are here: what they hold is what the documents say, and their protocol holds.
#include <gtest/gtest.h>

#include <nachklang/corpus.hpp>
#include <nachklang/runner.hpp>

namespace {

using namespace nachklang;

std::vector<Implementation> found_here() {
    auto loaded = load_configuration(SOURCE_FOLDER "/adapters/implementations.toml", SOURCE_FOLDER "/adapters",
                                     BUILD_FOLDER "/adapters");
    if (!loaded.ok()) throw std::runtime_error(loaded.problem().line());
    std::vector<Implementation> out;
    for (Implementation& implementation : loaded.value().implementations)
        if (!missing_of(implementation)) out.push_back(std::move(implementation));
    return out;
}

/// All but the one that takes a single record only: it has a test of its own.
std::vector<Implementation> general_ones_here() {
    std::vector<Implementation> out = found_here();
    std::erase_if(out, [](const Implementation& i) { return i.name == "simulated-table-decoder"; });
    return out;
}

class ShippedAdapter : public testing::TestWithParam<Implementation> {};

/// Documents on which every decoder of the field agrees at the layer `value`.
std::vector<std::string> plain_documents(const std::string& format) {
    if (format == "xml")
        return {"<a/>", "<a b='1'>x<c/>y</a>", "<a>&lt;\xF0\x9F\x94\x94&#65;</a>", "<a><![CDATA[x]]>y</a>",
                "<p:a xmlns:p='urn:tower' p:b='1' b='2'/>"};
    return {"[]",
            "{}",
            R"({"bell":"Hour","cast":1721,"hz":110.5,"cracked":false,"recast":null})",
            R"([1,-1,0,2147483647,-2147483648,0.5,1e2,true,[[],[{}]]])",
            "[\"\xC3\xA9\xE9\x90\x98\xF0\x9F\x94\x94\",\"\\u00e9\\ud83d\\udd14\",\"\\\"\\\\\\/\\b\\f\\n\\r\\t\"]",
            R"({"":"","a b":{"c":[{"d":[]}]}})"};
}

/// What some decoders, or modes of them, are known to hold otherwise, by a piece of the document.
struct Departure {
    const char* implementation;
    const char* piece;
};
constexpr Departure departures[] = {
    {"mujs", "\\ud83d"},      // an escaped pair stays two code points
    {"lua-json", "\\ud83d"},  // the same
    {"jsonlite", "\"\""},     // an empty name becomes its place
    {"octave-json", "[]"},    // empty arrays, empty objects and null are alike
    {"octave-json", "null"},
    {"mono-script-serializer", "\"\":"},  // refuses an empty name
    {"boost-property-tree", "x<c/>y"},    // texts round a child become one
    {"xml2js", "x<c/>y"},                 // the same
    {"perl-xml-simple", "x<c/>y"},        // they become two elements
    {"gson/parser", "\"recast\":null"},   // its writer leaves out members that are null
    {"gson/adapter", "\"recast\":null"},
    {"gson/objects", "\"recast\":null"},
    {"lua-cjson", "[]"},        // an empty table becomes an object
    {"php-json/arrays", "{}"},  // an empty array becomes an array
};
// Modes that make a document of anything: that is what they are for.
constexpr std::string_view modes_that_refuse_nothing[] = {"repairing", "unvalidated"};
bool departs(const Subject& subject, const std::string& document) {
    return std::any_of(std::begin(departures), std::end(departures), [&](const Departure& d) {
        return (subject.implementation.name == d.implementation || subject.name() == d.implementation) &&
               document.find(d.piece) != std::string::npos;
    });
}

TEST_P(ShippedAdapter, HoldsAndWritesWhatPlainDocumentsSay) {
    for (const Subject& subject : handshake(GetParam())) {
        ASSERT_TRUE(subject.failed_hello.empty()) << subject.name() << ": " << subject.failed_hello;
        for (const auto& [name, operations] : subject.operations) {
            const Format& format = *find_format(name);
            for (const Operation operation : {Operation::decode, Operation::round_trip}) {
                if (!subject.does(name, operation)) continue;
                std::vector<Request> requests;
                for (const std::string& document : plain_documents(name))
                    if (!departs(subject, document))
                        requests.push_back(
                            {operation, &format, std::make_shared<const std::string>(document), true});
                const Chunk chunk = make_executor(subject)->run(requests);
                ASSERT_EQ(chunk.outcomes.size(), requests.size());
                std::size_t asked = 0;
                for (std::size_t i = 0; i < requests.size(); ++i) {
                    const Outcome& outcome = chunk.outcomes[i];
                    // Some libraries take only arrays and objects at the top, or hold arrays as something else.
                    if (outcome.kind == OutcomeKind::unsupported) continue;
                    ++asked;
                    ASSERT_EQ(name_of(outcome.kind), "accepted")
                        << subject.name() << " " << *requests[i].body << ": " << outcome.body;
                    if (operation == Operation::decode && !outcome.trace) continue;  // it shows its verdict only
                    const Trace expected = format.read(*requests[i].body).trace;
                    const Trace got =
                        operation == Operation::decode ? *outcome.trace : format.read(outcome.body).trace;
                    const Comparison comparison = format.compare(
                        expected, got,
                        {Layer::value, operation == Operation::round_trip, subject.cannot_represent, 3});
                    for (const Difference& d : comparison.differences)
                        ADD_FAILURE() << subject.name() << " " << *requests[i].body << " " << d.at << " " << d.cause
                                      << ": " << d.detail;
                }
                EXPECT_GT(asked, 0U) << subject.name() << " answers nothing to " << name_of(operation);
            }
        }
    }
}

bool refuses_nothing(const Subject& subject) {
    return std::ranges::find(modes_that_refuse_nothing, subject.mode) != std::end(modes_that_refuse_nothing);
}

TEST_P(ShippedAdapter, RefusesWhatIsNoDocument) {
    for (const Subject& subject : handshake(GetParam())) {
        if (refuses_nothing(subject)) continue;
        for (const auto& [name, operations] : subject.operations) {
            if (!subject.does(name, Operation::decode) && !subject.does(name, Operation::round_trip)) continue;
            const Operation operation =
                subject.does(name, Operation::decode) ? Operation::decode : Operation::round_trip;
            const Format& format = *find_format(name);
            std::vector<Request> requests;
            for (const char* document : {"[1", "<a>", "{\"a\":}", "<a></b>", "tru"}) {
                if (format.read(document).accepted()) continue;
                requests.push_back({operation, &format, std::make_shared<const std::string>(document), true});
            }
            // Lenient ones complete what is unfinished; none takes all of these.
            std::size_t refused = 0;
            for (const Outcome& outcome : make_executor(subject)->run(requests).outcomes) {
                if (outcome.kind == OutcomeKind::accepted) continue;
                EXPECT_EQ(name_of(outcome.kind), "rejected") << subject.name() << ": " << outcome.body;
                EXPECT_FALSE(outcome.body.empty()) << subject.name() << " refuses without a message";
                ++refused;
            }
            EXPECT_GT(refused, 0U) << subject.name();
        }
    }
}

/// What an engine does, whichever binding calls it: an adapter whose library leaves a part of the bytes to others,
/// or that does so itself, shows up here.
struct EngineRow {
    const char* engine;
    const char* document;
    const char* outcome;
    const char* piece;  // that is read back of an accepted document
};
constexpr EngineRow engine_rows[] = {
    {"expat", "<?xml ?><a/>", "rejected", ""},
    {"expat", "<?xml version='1.0' encodinh='UTF-8'?><a/>", "rejected", ""},
    {"expat",
     "<?xml version='1.0' standalone='yes'?><!DOCTYPE a [<!ENTITY % p SYSTEM 'no-such.ent'>%p;<!ENTITY e "
     "'bell'>]><a>&e;</a>",
     "accepted", "bell"},
    {"libxml2", "<?xml ?><a/>", "rejected", ""},
    {"libxml2", "<?xml version='1.0' encodinh='UTF-8'?><a/>", "rejected", ""},
    {"libxml2", "<?xml version='1.0' standalone='yes'?><a>bell</a>", "accepted", "bell"},
    {"java-xml", "<?xml ?><a/>", "rejected", ""},
    {"woodstox", "<?xml ?><a/>", "rejected", ""},
};

TEST_P(ShippedAdapter, AnswersAsItsEngineDoes) {
    const std::vector<Subject> modes = handshake(GetParam());
    const auto usual = std::ranges::find_if_not(modes, refuses_nothing);
    if (usual == modes.end()) GTEST_SKIP() << "all its modes refuse nothing";
    const Subject& subject = *usual;
    for (const EngineRow& row : engine_rows) {
        if (subject.engine != row.engine) continue;
        const Format& format = *find_format("xml");
        const Operation operation =
            subject.does("xml", Operation::decode) ? Operation::decode : Operation::round_trip;
        if (!subject.does("xml", operation)) continue;
        const Request request{operation, &format, std::make_shared<const std::string>(row.document), true};
        const Outcome outcome = make_executor(subject)->run({&request, 1}).outcomes.front();
        EXPECT_EQ(name_of(outcome.kind), row.outcome)
            << subject.name() << " " << row.document << " " << outcome.body;
        if (outcome.kind != OutcomeKind::accepted) continue;
        const Trace held = outcome.trace ? *outcome.trace : format.read(outcome.body).trace;
        EXPECT_NE(format.describe(held, 200).find(row.piece), std::string::npos)
            << subject.name() << " " << row.document << " " << format.describe(held, 200);
    }
}

TEST_P(ShippedAdapter, HasPlumbingThatHolds) {
    const Subject subject = handshake(GetParam()).at(0);
    for (const auto& check : check_protocol(subject).checks)
        EXPECT_TRUE(check.passed) << subject.name() << ", " << check.name << ": " << check.detail;
}

INSTANTIATE_TEST_SUITE_P(Here, ShippedAdapter, testing::ValuesIn(general_ones_here()), [](const auto& info) {
    std::string name = info.param.name;
    for (char& c : name)
        if (c == '-') c = '_';
    return name;
});

// The habit it is there to show: what is inside a nested record is not counted, so that a success leaves fields
// unset.
TEST(SimulatedTableDecoder, LooksNotInsideNestedRecords) {
    for (const Implementation& implementation : found_here()) {
        if (implementation.name != "simulated-table-decoder") continue;
        const Subject subject = handshake(implementation).at(0);
        std::vector<Request> requests;
        for (const char* document :
             {R"({"bell":"Hour","cast":1721,"hz":110.5,"tower":{}})", R"({"bell":"Hour","cast":1721})"})
            requests.push_back(
                {Operation::decode, find_format("json"), std::make_shared<const std::string>(document), true});
        const Chunk chunk = make_executor(subject)->run(requests);
        EXPECT_EQ(name_of(chunk.outcomes[0].kind), "accepted");
        EXPECT_NE(chunk.outcomes[0].trace->text().find("key u8:6e616d65\nunset\n"), std::string::npos);
        EXPECT_EQ(name_of(chunk.outcomes[1].kind), "rejected");
        return;
    }
    FAIL() << "it is not here";
}

TEST(ShippedAdapters, OfTheCheapAndTheMiddleSetAreHere) {
    auto loaded = load_configuration(SOURCE_FOLDER "/adapters/implementations.toml", SOURCE_FOLDER "/adapters",
                                     BUILD_FOLDER "/adapters");
    std::size_t needed = 0;
    for (const Implementation& implementation : loaded.value().implementations) {
        if (implementation.set == "all") continue;
        ++needed;
        EXPECT_FALSE(missing_of(implementation))
            << implementation.name << " is not here: " << *missing_of(implementation);
    }
    EXPECT_GE(needed, 50U);
}

}  // namespace

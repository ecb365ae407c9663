// Outcomes a second: a persistent adapter in C++, one in Python, and a process for each document. And what asking
// costs beside the codec's own work: documents of 50 bytes through one codec in this process, and through its
// adapter; documents of 64 KB to RapidJSON in this process, and through its adapter.
#include <benchmark/benchmark.h>

#include <fmt/format.h>

#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wconversion"
#include <rapidjson/document.h>
#pragma GCC diagnostic pop

#include <nachklang/runner.hpp>

#include "seeded_faults/json_codec.hpp"

namespace {

using namespace nachklang;

Subject subject_for(std::vector<std::string> command, Reach reach) {
    Implementation implementation;
    implementation.name = "timed";
    implementation.command = std::move(command);
    implementation.formats = {"json"};
    implementation.reach = reach;
    return handshake(implementation).at(0);
}

/// Small documents of 50 bytes, each another one.
std::vector<Request> small_documents(std::size_t count) {
    std::vector<Request> out;
    for (std::size_t i = 0; i < count; ++i)
        out.push_back({Operation::decode, find_format("json"),
                       std::make_shared<const std::string>(
                           fmt::format(R"({{"bell":"Hour","no":{:>8},"hz":110.5,"ok":true}})", i)),
                       true});
    return out;
}

/// Documents of 64 KB, each another one, whose trace nobody wants.
std::vector<Request> large_documents(std::size_t count) {
    std::vector<Request> out;
    for (std::size_t i = 0; i < count; ++i) {
        std::string document = "[";
        while (document.size() < (64U << 10))
            document += fmt::format(R"({{"bell":"Hour","no":{},"hum_hz":110.5,"inscription":"VOX MEA VITA"}},)", i);
        document.back() = ']';
        out.push_back(
            {Operation::decode, find_format("json"), std::make_shared<const std::string>(document), false});
    }
    return out;
}

void outcomes(benchmark::State& state, Executor& executor, const std::vector<Request>& requests) {
    const std::size_t count = requests.size();
    for (auto _ : state) {
        const Chunk chunk = executor.run(requests);
        if (const Outcome& last = chunk.outcomes.back(); last.kind != OutcomeKind::accepted)
            state.SkipWithError(fmt::format("{}: {}", name_of(last.kind), last.body).c_str());
    }
    state.counters["outcomes_per_second"] = benchmark::Counter(
        static_cast<double>(count) * static_cast<double>(state.iterations()), benchmark::Counter::kIsRate);
}

void outcomes(benchmark::State& state, const Subject& subject, const std::vector<Request>& requests) {
    outcomes(state, *make_executor(subject), requests);
}

void small_in_process(benchmark::State& state) {
    seeded_faults::JsonCodec codec("");
    outcomes(state, *make_in_process_executor(codec), small_documents(20000));
}
void small_through_adapter(benchmark::State& state) {
    outcomes(state, subject_for({BUILD_FOLDER "/adapters/seeded-faults-adapter"}, Reach::trace),
             small_documents(20000));
}
void persistent_cpp(benchmark::State& state) {
    outcomes(state, subject_for({BUILD_FOLDER "/adapters/rapidjson-adapter"}, Reach::trace),
             small_documents(20000));
}
void persistent_python(benchmark::State& state) {
    outcomes(state,
             subject_for({"/usr/bin/python3", SOURCE_FOLDER "/adapters/python/json_stdlib.py"}, Reach::trace),
             small_documents(20000));
}
void process_per_document(benchmark::State& state) {
    outcomes(state,
             subject_for({"/usr/bin/python3", "-c", "import json,sys; json.load(sys.stdin)"}, Reach::verdict),
             small_documents(50));
}

void codec_alone(benchmark::State& state) {
    const auto requests = large_documents(1000);
    for (auto _ : state) {
        for (const Request& request : requests) {
            rapidjson::Document dom;
            dom.Parse<rapidjson::kParseValidateEncodingFlag | rapidjson::kParseIterativeFlag>(request.body->data(),
                                                                                              request.body->size());
            if (dom.HasParseError()) state.SkipWithError("not accepted");
        }
    }
    state.counters["outcomes_per_second"] =
        benchmark::Counter(static_cast<double>(requests.size()) * static_cast<double>(state.iterations()),
                           benchmark::Counter::kIsRate);
}
void codec_through_adapter(benchmark::State& state) {
    outcomes(state, subject_for({BUILD_FOLDER "/adapters/rapidjson-adapter"}, Reach::trace), large_documents(1000));
}

BENCHMARK(small_in_process)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(small_through_adapter)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(codec_alone)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(codec_through_adapter)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(persistent_cpp)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(persistent_python)->Unit(benchmark::kMillisecond)->UseRealTime();
BENCHMARK(process_per_document)->Unit(benchmark::kMillisecond)->UseRealTime();

}  // namespace

BENCHMARK_MAIN();

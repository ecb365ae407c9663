// The reference reader compared with the DOM of RapidJSON and of simdjson, on the same documents in the same run.
//
// What each builds: ours the verdict only, or a tape of 16 bytes a token over borrowed bytes, with strings left
// escaped and numbers left as text; RapidJSON and simdjson a DOM with strings unescaped and numbers converted.
// Where the name says "again", memory is used again for the next document; else each takes its own from the system.
#include <benchmark/benchmark.h>

#pragma GCC diagnostic push
#pragma GCC diagnostic ignored "-Wconversion"
#include <rapidjson/document.h>
#pragma GCC diagnostic pop
#include <simdjson.h>

#include <string>

#include <nachklang/json.hpp>

namespace {

std::string records() {
    std::string out = "[";
    for (int i = 0; out.size() < (64U << 20); ++i) {
        if (i > 0) out += ',';
        out += R"({"no":)" + std::to_string(i) +
               R"(,"name":"Hour","tower":"North","mass_g":412500,"hum_hz":110.5,"cracked":false})";
    }
    return out + "]";
}
std::string numbers() {
    std::string out = "[";
    for (int i = 0; out.size() < (64U << 20); ++i)
        out += (i > 0 ? "," : "") + std::to_string(110 + i % 900) + "." + std::to_string(1234567 * (i % 97) + i);
    return out + "]";
}
std::string strings() {
    std::string out = "[";
    for (int i = 0; out.size() < (64U << 20); ++i)
        out += std::string(i > 0 ? "," : "") +
               R"("VOX MEA VITA, cast \"anew\" by the founder\n\u266a Gl\u00f6ckchen 🔔 of Halm")";
    return out + "]";
}

const std::string& document(std::int64_t kind) {
    static const std::string all[] = {records(), numbers(), strings()};
    return all[static_cast<std::size_t>(kind)];
}
constexpr const char* names[] = {"records", "numbers", "strings"};

void finish(benchmark::State& state) {
    state.SetBytesProcessed(static_cast<std::int64_t>(state.iterations()) *
                            static_cast<std::int64_t>(document(state.range(0)).size()));
    state.SetLabel(names[state.range(0)]);
}

void ours_verdict(benchmark::State& state) {
    const std::string& bytes = document(state.range(0));
    for (auto _ : state) {
        nachklang::json::VerdictReader reader;
        reader.feed(bytes);
        benchmark::DoNotOptimize(reader.finish());
    }
    finish(state);
}
void ours_tape(benchmark::State& state) {
    for (auto _ : state)
        benchmark::DoNotOptimize(nachklang::json::Document::read(document(state.range(0))).tape().size());
    finish(state);
}
void ours_tape_again(benchmark::State& state) {
    nachklang::json::Document reused;
    for (auto _ : state) {
        reused.read_next(document(state.range(0)));
        benchmark::DoNotOptimize(reused.tape().size());
    }
    finish(state);
}
void rapidjson_dom(benchmark::State& state) {
    for (auto _ : state) {
        rapidjson::Document dom;
        dom.Parse<rapidjson::kParseValidateEncodingFlag>(document(state.range(0)).data(),
                                                         document(state.range(0)).size());
        benchmark::DoNotOptimize(dom.HasParseError());
    }
    finish(state);
}
void simdjson_dom(benchmark::State& state) {
    const simdjson::padded_string padded(document(state.range(0)));
    for (auto _ : state) {
        simdjson::dom::parser parser;
        benchmark::DoNotOptimize(parser.parse(padded).error());
    }
    finish(state);
}
void simdjson_dom_again(benchmark::State& state) {
    const simdjson::padded_string padded(document(state.range(0)));
    simdjson::dom::parser parser;
    for (auto _ : state) benchmark::DoNotOptimize(parser.parse(padded).error());
    finish(state);
}

BENCHMARK(ours_verdict)->DenseRange(0, 2)->Unit(benchmark::kMillisecond);
BENCHMARK(ours_tape)->DenseRange(0, 2)->Unit(benchmark::kMillisecond);
BENCHMARK(ours_tape_again)->DenseRange(0, 2)->Unit(benchmark::kMillisecond);
BENCHMARK(rapidjson_dom)->DenseRange(0, 2)->Unit(benchmark::kMillisecond);
BENCHMARK(simdjson_dom)->DenseRange(0, 2)->Unit(benchmark::kMillisecond);
BENCHMARK(simdjson_dom_again)->DenseRange(0, 2)->Unit(benchmark::kMillisecond);

}  // namespace

BENCHMARK_MAIN();

// The XML reader compared with Expat (namespaces on) on the same documents in the same run: verdicts only.
#include <benchmark/benchmark.h>
#include <expat.h>

#include <string>

#include <nachklang/xml.hpp>

namespace {

constexpr std::size_t size = 64U << 20;

std::string records() {
    std::string out = "<register xmlns='urn:halm:register'>";
    for (int i = 0; out.size() < size; ++i)
        out += "<bell no=\"" + std::to_string(i) +
               "\" tower=\"North\"><name>Hour</name><mass unit=\"g\">412500</mass><hum>110.5</hum></bell>\n";
    return out + "</register>";
}
std::string texts() {
    std::string out = "<catalogue>";
    for (int i = 0; out.size() < size; ++i)
        out +=
            "<inscription><p>VOX MEA VITA, cast anew by the founder of Halm &amp; hung in the <em>northern</em> "
            "frame, where it strikes the "
            "hour; Gl\u00f6ckchen \U0001F514 and the rest of the register say no more of it than the "
            "year.</p></inscription>\n";
    return out + "</catalogue>";
}
const std::string& document(std::int64_t kind) {
    static const std::string all[] = {records(), texts()};
    return all[static_cast<std::size_t>(kind)];
}
constexpr const char* names[] = {"records", "texts"};

void finish(benchmark::State& state) {
    state.SetBytesProcessed(static_cast<std::int64_t>(state.iterations()) *
                            static_cast<std::int64_t>(document(state.range(0)).size()));
    state.SetLabel(names[state.range(0)]);
}

void ours_xml_verdict(benchmark::State& state) {
    const std::string& bytes = document(state.range(0));
    for (auto _ : state) {
        nachklang::xml::VerdictReader reader;
        reader.feed(bytes);
        if (reader.finish()) state.SkipWithError("not accepted");
    }
    finish(state);
}
void expat_namespaces(benchmark::State& state) {
    const std::string& bytes = document(state.range(0));
    for (auto _ : state) {
        XML_Parser parser = XML_ParserCreateNS(nullptr, '\f');
        if (XML_Parse(parser, bytes.data(), static_cast<int>(bytes.size()), 1) != XML_STATUS_OK)
            state.SkipWithError("not accepted");
        XML_ParserFree(parser);
    }
    finish(state);
}

BENCHMARK(ours_xml_verdict)->DenseRange(0, 1)->Unit(benchmark::kMillisecond);
BENCHMARK(expat_namespaces)->DenseRange(0, 1)->Unit(benchmark::kMillisecond);

}  // namespace

BENCHMARK_MAIN();
